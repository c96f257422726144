#include "core/drivetrain/cycle_places.h"

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

constexpr double turn = 2 * std::numbers::pi;

// Adds a stretch to those of the same load that it touches.
void take_in(std::vector<CyclePlace>& all, CyclePlace now) {
    const double near = 1e-9 * (1 + std::abs(now.high));
    for (std::size_t i = 0; i < all.size();) {
        CyclePlace& p = all[i];
        const bool same =
            p.payload == now.payload && p.process == now.process && p.friction == now.friction && p.moves == now.moves;
        if (!same || p.low > now.high + near || p.high < now.low - near) {
            ++i;
            continue;
        }
        if (p.low <= now.low + near && p.high >= now.high - near) return; // nothing new
        now.low = std::min(now.low, p.low);
        now.high = std::max(now.high, p.high);
        p = all.back();
        all.pop_back();
    }
    all.push_back(now);
}

} // namespace

CyclePlaces cycle_places(const Demand& d) {
    CyclePlaces out;
    const LoadModel& m = d.load;
    out.narrow = narrow_angles(m);
    const bool turns = m.position_dependent() && m.path != LoadModel::Path::winder;
    for (const Span& s : d.spans) {
        CyclePlace p{s.payload, s.process_at(s.start), s.friction_factor, s.direction != 0, 0, 0};
        const double last = s.process_at(s.start + s.duration);
        if (m.position_dependent()) {
            const double from = s.start - s.piece.start;
            const double a = s.piece.position(from), b = s.piece.position(from + s.duration);
            p.low = std::min(a, b);
            p.high = std::max(a, b);
            if (turns) {
                const double off = std::floor(p.low / turn) * turn;
                p.high = std::min(p.high - off, p.low - off + turn);
                p.low -= off;
            }
            if (p.moves && last != p.process) {
                out.ramped.push_back(&s);
                continue;
            }
        }
        take_in(out.stretches, p);
        if (last == p.process) continue;
        p.process = last;
        take_in(out.stretches, p);
    }
    return out;
}

void over_places(const CyclePlaces& places, const std::function<void(double, double, double)>& look,
    const std::vector<std::function<double(double, double, double)>>& figures) {
    constexpr int a_turn = 96; // places to a turn; cranks and arms are smooth between them
    std::vector<double> at;
    const auto through = [&](const std::function<double(double)>& q_of, const std::function<double(double)>& push_of,
                             double payload, int parts) {
        at.resize(static_cast<std::size_t>(parts) + 1);
        for (int i = 0; i <= parts; ++i) {
            at[static_cast<std::size_t>(i)] = static_cast<double>(i) / parts;
            look(q_of(at[static_cast<std::size_t>(i)]), payload, push_of(at[static_cast<std::size_t>(i)]));
        }
        for (const auto& figure : figures) {
            std::size_t best = 0;
            double most = -no_bound;
            for (std::size_t i = 0; i < at.size(); ++i)
                if (const double v = figure(q_of(at[i]), payload, push_of(at[i])); v > most) most = v, best = i;
            std::uintmax_t tries = 40;
            const double u =
                boost::math::tools::brent_find_minima([&](double x) { return -figure(q_of(x), payload, push_of(x)); },
                    at[best == 0 ? 0 : best - 1], at[std::min(best + 1, at.size() - 1)], 26, tries)
                    .first;
            look(q_of(u), payload, push_of(u));
        }
    };
    for (const CyclePlace& p : places.stretches) {
        if (p.low == p.high) {
            look(p.low, p.payload, p.process);
            continue;
        }
        const int parts = std::clamp(static_cast<int>(std::ceil((p.high - p.low) / turn * a_turn)), 8, 4 * a_turn);
        through([&](double u) { return p.low + u * (p.high - p.low); }, [&](double) { return p.process; }, p.payload,
            parts);
        for (const double q : places.narrow)
            for (double passed = q + std::ceil((p.low - q) / turn) * turn; passed <= p.high; passed += turn)
                look(passed, p.payload, p.process);
    }
    for (const Span* s : places.ramped) {
        const double from = s->start - s->piece.start;
        through([&](double u) { return s->piece.position(from + u * s->duration); },
            [&](double u) { return s->process_at(s->start + u * s->duration); }, s->payload, 8);
    }
}

} // namespace fulmox
