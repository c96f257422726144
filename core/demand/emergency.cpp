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
        locks_ = m_.efficiency_backward < 0;
        for (const StageModel& s : m_.stages) locks_ = locks_ || s.backward < 0;
        for (const double direction : {1.0, -1.0}) {
            if (!(direction > 0 ? cases.forward : cases.backward)) continue;
            for (const double payload : telling(cases.payloads))
                for (const double friction : {cases.least_friction, cases.most_friction}) {
                    look_at({direction, payload, friction});
                    if (cases.most_friction == cases.least_friction) break;
                }
        }
        for (std::size_t v = 0; v < wanted; ++v) {
            std::vector<Peak>& from = peaks_[v];
            std::sort(from.begin(), from.end(), [](const Peak& x, const Peak& y) { return x.value > y.value; });
            const double enough = worth() * most_[v];
            std::vector<Peak> climbed; // one start from each summit, not one from each of its sides
            const std::size_t starts = locks_ ? 8 : 4;
            for (const Peak& p : from) {
                if (climbed.size() >= starts || p.value < enough) break;
                const bool again = std::any_of(climbed.begin(), climbed.end(), [&](const Peak& c) {
                    return c.of.direction == p.of.direction && c.of.payload == p.of.payload &&
                           std::abs(c.at.place - p.at.place) <= 1.5 * wide_ &&
                           std::abs(c.at.share - p.at.share) < 0.15 &&
                           (c.of.friction == p.of.friction || c.value == p.value);
                });
                if (again) continue;
                climbed.push_back(p);
                climb(p, v);
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
    struct Peak {
        Case of;
        Instant at;
        double value;
    };
    static constexpr std::size_t wanted = 3; // torque at the motor, through the coupling, force at the load
    using Values = std::array<double, wanted>;

    Demand& d_;
    const LoadModel& m_;
    double speed_, time_;
    double from_ = 0, range_ = 0;
    bool whole_turn_ = false;                     // the places begin again where they end
    bool locks_ = false;                          // some part is self-locking
    double wide_ = 0;                             // from place to place
    std::array<std::vector<Peak>, wanted> peaks_; // from where to look closer
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
        constexpr std::size_t enough = 16;
        if (payloads.size() <= 2 || (locks_ && payloads.size() <= enough)) return payloads;
        if (!locks_) return {payloads.front(), payloads.back()};
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
        return saw({std::abs(e.torque), std::abs(e.coupling_torque), std::abs(e.load_force)});
    }
    Values saw(const Values& v) {
        for (std::size_t k = 0; k < wanted; ++k)
            if (!(v[k] <= most_[k])) most_[k] = v[k]; // what is no number stays to be seen
        return v;
    }

    double run(const Case& c, double share) const { return c.direction * speed_ * time_ * share * (1 - share / 2); }

    void look_at(const Case& c) {
        if (range_ == 0) {
            // where everything is linear in speed the ends of the stop tell
            for (const double share : {0.0, 1.0}) look(c, {from_, share});
            if (m_.fan != 0 || locks_) along_the_stop(c, from_);
            return;
        }
        // over the place the axis is at, which decides most; its speed then is that of the share
        constexpr std::size_t steps = 40, shares = 8;
        wide_ = range_ / steps;
        std::array<std::array<Values, steps + 1>, shares + 1> grid;
        const auto instant = [&](std::size_t k, std::size_t i) {
            const double share = static_cast<double>(k) / shares;
            return Instant{from_ + wide_ * static_cast<double>(i) - (whole_turn_ ? run(c, share) : 0), share};
        };
        for (std::size_t k = 0; k <= shares; ++k)
            for (std::size_t i = 0; i <= steps; ++i) grid[k][i] = look(c, instant(k, i));
        for (std::size_t v = 0; v < wanted; ++v)
            for (std::size_t k = 0; k <= shares; ++k)
                for (std::size_t i = 0; i <= steps; ++i) {
                    const double value = grid[k][i][v];
                    if (value >= worth() * most_[v] && (i == 0 || grid[k][i - 1][v] <= value) &&
                        (i == steps || grid[k][i + 1][v] <= value) &&
                        (!whole_turn_ ||
                            ((k == 0 || grid[k - 1][i][v] <= value) && (k == shares || grid[k + 1][i][v] <= value))))
                        peaks_[v].push_back({c, instant(k, i), value});
                }
        if (whole_turn_) return;
        for (const double end : {from_, from_ + range_}) along_the_stop(c, end);
    }

    // how near to the largest a place of the grid must come to be looked at closer; self-locking makes narrow ridges
    double worth() const { return locks_ ? 0.8 : 0.95; }

    // one stop gone through closely
    void along_the_stop(const Case& c, double place) {
        constexpr int shares = 64;
        std::array<Values, shares + 1> seen;
        for (int k = 0; k <= shares; ++k)
            seen[static_cast<std::size_t>(k)] = look(c, {place, static_cast<double>(k) / shares});
        for (std::size_t v = 0; v < wanted; ++v)
            for (std::size_t k = 0; k <= shares; ++k)
                if ((k == 0 || seen[k - 1][v] <= seen[k][v]) && (k == shares || seen[k + 1][v] <= seen[k][v]) &&
                    seen[k][v] >= worth() * most_[v])
                    peaks_[v].push_back({c, {place, static_cast<double>(k) / shares}, seen[k][v]});
    }

    // Steps along the place and along the share, once with the place of the beginning kept and once with that of the
    // axis now, since limits of the first and dead centres of the second both make edges; halves the steps where
    // nothing is better.
    void climb(const Peak& from, std::size_t v) {
        const Case& c = from.of;
        Instant at = from.at;
        double best = from.value, wide = wide_ / 2, share = 0.1;
        for (int halvings = 0; halvings < 17;) {
            bool better = false;
            for (const bool now : {true, false})
                for (const double along : {1.0, 0.0, -1.0})
                    for (const double over : {1.0, 0.0, -1.0}) {
                        if ((along == 0 && over == 0) || (wide == 0 && along != 0) || (over == 0 && !now)) continue;
                        Instant next = at;
                        next.share = std::clamp(at.share + over * share, 0.0, 1.0);
                        next.place = at.place + along * wide + (now ? run(c, at.share) - run(c, next.share) : 0);
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
        if (const double carried = phase.payload.value_or(payload);
            out.payloads.empty() || out.payloads.back() != carried)
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
