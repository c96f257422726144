#include "core/demand/emergency.h"

#include "core/demand/evaluate.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

// One stop is told by where the axis is at an instant and by how much of the stop is over then; the place at which it
// began follows from both.
class EmergencyStop {
  public:
    EmergencyStop(Demand& d, double speed, double time) : d_(d), m_(d.load), speed_(speed), time_(time) {}

    void run(const StopCases& cases) {
        places(cases);
        for (const double direction : {1.0, -1.0}) {
            if (!(direction > 0 ? cases.forward : cases.backward)) continue;
            for (const double payload : telling(cases.payloads))
                for (const double friction : {cases.least_friction, cases.most_friction}) {
                    look_at({direction, payload, friction});
                    if (cases.most_friction == cases.least_friction) break;
                }
        }
        d_.emergency_torque = most_[0];
        d_.coupling_emergency = most_[1];
        d_.axial_emergency = most_[2];
    }

  private:
    struct Case {
        double direction, payload, friction;
    };
    struct Instant {
        double place; // where the stop began
        double share; // of the stop that is over
    };
    static constexpr std::size_t wanted = 3; // torque at the motor, through the coupling, force at the load
    using Values = std::array<double, wanted>;

    Demand& d_;
    const LoadModel& m_;
    double speed_, time_;
    double from_ = 0, range_ = 0;
    bool whole_turn_ = false; // the places begin again where they end
    Values most_{};

    void places(const StopCases& cases) {
        from_ = cases.lowest;
        if (!m_.position_dependent()) return;
        range_ = cases.highest - cases.lowest;
        constexpr double turn = 2 * std::numbers::pi;
        if (m_.path != LoadModel::Path::winder && range_ >= turn) {
            range_ = turn;
            whole_turn_ = true;
        }
    }

    // Torque rises with the payload or falls with it, but for a self-locking part, which turns where its power does:
    // elsewhere the extremes tell.
    std::vector<double> telling(const std::vector<double>& payloads) const {
        bool locks = m_.efficiency_backward < 0;
        for (const StageModel& s : m_.stages) locks = locks || s.backward < 0;
        constexpr std::size_t enough = 16;
        if (payloads.size() <= 2 || (locks && payloads.size() <= enough)) return payloads;
        if (!locks) return {payloads.front(), payloads.back()};
        std::vector<double> out;
        for (std::size_t i = 0; i < enough; ++i) out.push_back(payloads[i * (payloads.size() - 1) / (enough - 1)]);
        return out;
    }

    Span span(const Case& c, const Instant& i) const {
        Span s;
        s.duration = s.piece.duration = time_;
        s.piece.c = {i.place, c.direction * speed_, -c.direction * speed_ / time_ / 2};
        s.payload = c.payload;
        s.friction_factor = c.friction;
        s.regime = Regime::motoring;
        const double radius = path_at(m_, s.piece.position(i.share * time_)).first;
        const bool straight = m_.path == LoadModel::Path::straight;
        s.direction = c.direction * (straight && radius < 0 ? -1 : 1);
        s.load_direction = straight ? c.direction : c.direction * (radius < 0 ? -1 : 1);
        return s;
    }
    Values look(const Case& c, const Instant& i) {
        const ShaftState e = evaluate(m_, span(c, i), i.share * time_);
        const Values v{std::abs(e.torque), std::abs(e.coupling_torque), std::abs(e.load_force)};
        for (std::size_t k = 0; k < wanted; ++k)
            if (!(v[k] <= most_[k])) most_[k] = v[k]; // what is no number stays to be seen
        return v;
    }

    void look_at(const Case& c) {
        // shares: the ends tell where everything is linear in speed; elsewhere the middle may be worse
        const bool bends = range_ > 0 || m_.fan != 0;
        const int shares = bends ? 16 : 8;
        const int steps = range_ > 0 ? 72 : 0;
        std::vector<Values> grid;
        grid.reserve(static_cast<std::size_t>((shares + 1) * (steps + 1)));
        for (int i = 0; i <= steps; ++i)
            for (int k = 0; k <= shares; ++k)
                grid.push_back(look(c, {from_ + (steps > 0 ? range_ * i / steps : 0), static_cast<double>(k) / shares}));
        const double wide = steps > 0 ? range_ / steps : 0;
        for (std::size_t v = 0; v < wanted; ++v) {
            // from the best places of the grid on
            std::vector<std::size_t> order(grid.size());
            for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
            const std::size_t few = std::min<std::size_t>(order.size(), steps > 0 ? 6 : 3);
            std::partial_sort(order.begin(), order.begin() + static_cast<std::ptrdiff_t>(few), order.end(),
                [&](std::size_t a, std::size_t b) { return grid[a][v] > grid[b][v]; });
            for (std::size_t n = 0; n < few; ++n) {
                if (grid[order[n]][v] < 0.9 * most_[v]) break;
                const auto i = static_cast<int>(order[n]) / (shares + 1), k = static_cast<int>(order[n]) % (shares + 1);
                climb(c, v, {from_ + wide * i, static_cast<double>(k) / shares}, grid[order[n]][v], wide, 1.0 / shares);
            }
        }
    }

    // Steps along the place and along the share, once with the place of the beginning kept and once with that of the
    // axis now, since limits of the first and dead centres of the second both make edges; halves the steps where nothing
    // is better.
    void climb(const Case& c, std::size_t v, Instant at, double best, double wide, double share) {
        const auto run = [&](double s) { return c.direction * speed_ * time_ * s * (1 - s / 2); };
        for (int halvings = 0; halvings < 34;) {
            bool better = false;
            for (const bool now : {true, false})
                for (const double along : {1.0, 0.0, -1.0})
                    for (const double over : {1.0, 0.0, -1.0}) {
                        if ((along == 0 && over == 0) || (wide == 0 && along != 0)) continue;
                        Instant next = at;
                        next.share = std::clamp(at.share + over * share, 0.0, 1.0);
                        next.place = at.place + along * wide + (now ? run(at.share) - run(next.share) : 0);
                        if (!whole_turn_) next.place = std::clamp(next.place, from_, from_ + range_);
                        const double value = look(c, next)[v];
                        if (value > best) {
                            best = value;
                            at = next;
                            better = true;
                        }
                    }
            if (better) continue;
            wide /= 2;
            share /= 2;
            ++halvings;
        }
    }
};

} // namespace

StopCases stop_cases(const Trajectory& motion, double payload) {
    StopCases out;
    out.lowest = motion.lowest;
    out.highest = motion.highest;
    const double slow = 1e-9 * motion.peak_speed;
    bool any = false;
    for (const Piece& p : motion.pieces) {
        if (p.at_rest()) continue;
        const Phase& phase = motion.phases[p.playing];
        const double friction = phase.friction;
        if (const double carried = phase.payload.value_or(payload); out.payloads.empty() || out.payloads.back() != carried)
            out.payloads.push_back(carried);
        out.least_friction = any ? std::min(out.least_friction, friction) : friction;
        out.most_friction = any ? std::max(out.most_friction, friction) : friction;
        any = true;
        for (const double part : {0.0, 0.5, 1.0}) {
            const double v = p.velocity(part * p.duration);
            out.forward = out.forward || v > slow;
            out.backward = out.backward || v < -slow;
        }
    }
    std::sort(out.payloads.begin(), out.payloads.end());
    out.payloads.erase(std::unique(out.payloads.begin(), out.payloads.end()), out.payloads.end());
    return out;
}

void emergency_stop(Demand& d, const Axis& axis, const Trajectory& motion, const StopCases& cases) {
    const double v = motion.peak_speed;
    double time = axis.drive.stop_time.value_or(0);
    if (time <= 0 && axis.drive.stop_distance.given() && v > 0) time = 2 * axis.drive.stop_distance.si / v;
    if (time <= 0 || v <= 0) return;
    d.stop_time = time;
    EmergencyStop(d, v, time).run(cases);
}

} // namespace fulmox
