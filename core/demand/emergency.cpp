#include "core/demand/emergency.h"

#include "core/demand/evaluate.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <span>

namespace fulmox {

namespace {

// One stop is told by where the axis is at an instant and by how much of the stop is over then; the place at which it
// began follows from both.
class EmergencyStop {
  public:
    static constexpr std::size_t wanted = 3; // torque at the motor, through the coupling, force at the load
    using Values = std::array<double, wanted>;

    EmergencyStop(const LoadModel& m, double speed, double time) : m_(m), speed_(speed), time_(time) {}

    Values run(const StopCases& cases) {
        places(cases);
        locks_ = m_.efficiency_backward < 0;
        for (const StageModel& s : m_.stages) locks_ = locks_ || s.backward < 0;
        for (const double direction : {1.0, -1.0}) {
            if (!(direction > 0 ? cases.forward : cases.backward)) continue;
            for (const double payload : telling(cases.payloads))
                for (const double friction : telling(cases.frictions)) look_at({direction, payload, friction});
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
        return most_;
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
    const LoadModel& m_;
    double speed_, time_;
    double from_ = 0, range_ = 0;
    bool whole_turn_ = false;                     // the places begin again where they end
    bool locks_ = false;                          // some part is self-locking
    double wide_ = 0;                             // from place to place
    std::vector<double> narrow_;                  // angles beside which something changes within less than `wide_`
    std::array<std::vector<Peak>, wanted> peaks_; // from where to look closer
    Values most_{};

    void places(const StopCases& cases) {
        from_ = cases.lowest;
        if (!m_.position_dependent()) return;
        narrow_ = narrow_angles(m_);
        range_ = cases.highest - cases.lowest;
        constexpr double turn = 2 * std::numbers::pi;
        if (m_.path != LoadModel::Path::winder && range_ >= turn) {
            range_ = turn;
            whole_turn_ = true;
        }
    }

    // Torque rises with the payload, or with a friction factor, or falls with it, but for a self-locking part, which
    // turns where its power does: elsewhere the extremes tell.
    std::vector<double> telling(const std::vector<double>& values) const {
        constexpr std::size_t enough = 16;
        if (values.size() <= 2 || (locks_ && values.size() <= enough)) return values;
        if (!locks_) return {values.front(), values.back()};
        std::vector<double> out;
        for (std::size_t i = 0; i < enough; ++i) out.push_back(values[i * (values.size() - 1) / (enough - 1)]);
        return out;
    }

    // Looks at all the instants; largest things seen are kept.
    void look(const Case& c, std::span<const Instant> at, Values* out) {
        Instants rows;
        InstantStates e;
        rows.direction.fill(c.direction);
        rows.acceleration.fill(-c.direction * speed_ / time_);
        for (std::size_t first = 0; first < at.size(); first += instant_count) {
            const std::size_t n = std::min(instant_count, at.size() - first);
            for (std::size_t i = 0; i < instant_count; ++i) {
                const Instant& each = at[first + std::min(i, n - 1)];
                rows.position[i] = each.place + run(c, each.share);
                rows.velocity[i] = c.direction * speed_ * (1 - each.share);
            }
            evaluate_instants(m_, {c.payload, c.friction}, rows, e);
            for (std::size_t i = 0; i < n; ++i)
                out[first + i] =
                    saw({std::abs(e.torque[i]), std::abs(e.coupling_torque[i]), std::abs(e.load_force[i])});
        }
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
            std::array<Values, 2> ends;
            look(c, std::array<Instant, 2>{{{from_, 0}, {from_, 1}}}, ends.data());
            if (m_.fan != 0 || locks_) along_the_stop(c, from_);
            return;
        }
        // over the place the axis is at, which decides most; its speed then is that of the share
        constexpr std::size_t most_steps = 40, most_shares = 8;
        // a roll pulls more or less evenly on its way; self-locking makes narrow ridges
        const std::size_t steps = m_.path == LoadModel::Path::winder ? 10 : most_steps;
        const std::size_t shares = locks_ ? most_shares : 4, row = steps + 1;
        wide_ = range_ / static_cast<double>(steps);
        std::array<Instant, (most_shares + 1) * (most_steps + 1)> instants;
        std::array<Values, (most_shares + 1) * (most_steps + 1)> grid;
        for (std::size_t k = 0; k <= shares; ++k)
            for (std::size_t i = 0; i <= steps; ++i) {
                const double share = static_cast<double>(k) / static_cast<double>(shares);
                instants[k * row + i] = {
                    from_ + wide_ * static_cast<double>(i) - (whole_turn_ ? run(c, share) : 0), share};
            }
        look(c, std::span(instants).first((shares + 1) * row), grid.data());
        at_narrow_places(c);
        for (std::size_t v = 0; v < wanted; ++v)
            for (std::size_t k = 0; k <= shares; ++k)
                for (std::size_t i = 0; i <= steps; ++i) {
                    const std::size_t here = k * row + i;
                    const double value = grid[here][v];
                    const auto tops = [&](bool there, std::size_t other) { return !there || grid[other][v] <= value; };
                    if (value >= worth() * most_[v] && tops(i > 0, here - 1) && tops(i < steps, here + 1) &&
                        (!whole_turn_ || (tops(k > 0, here - row) && tops(k < shares, here + row))))
                        peaks_[v].push_back({c, instants[here], value});
                }
        if (whole_turn_) return;
        for (const double end : {from_, from_ + range_}) along_the_stop(c, end);
    }

    // What is narrower than the grid: just beyond a dead centre the slider has turned, and friction with it; where
    // crank and rod are nearly alike its acceleration has a peak. There the speed decides: the stop that has just
    // begun, or begun at the nearest end, and the one that ends there.
    void at_narrow_places(const Case& c) {
        if (narrow_.empty()) return;
        std::vector<Instant> instants;
        constexpr double turn = 2 * std::numbers::pi;
        const double whole = speed_ * time_ / 2;
        const auto add = [&](double q) {
            if (whole_turn_) {
                for (const double share : {0.0, 0.25, 0.5, 0.75, 1.0}) instants.push_back({q - run(c, share), share});
                return;
            }
            // every turn at which the stop can pass it
            const double low = from_ - (c.direction < 0 ? whole : 0),
                         high = from_ + range_ + (c.direction > 0 ? whole : 0);
            for (double at = q + std::ceil((low - q) / turn) * turn; at <= high; at += turn) {
                const double begun = std::clamp(at, from_, from_ + range_), ended = at - c.direction * whole;
                const double way = std::abs(at - begun) / whole;
                if (way <= 1) instants.push_back({begun, 1 - std::sqrt(std::max(0.0, 1 - way))});
                if (ended >= from_ && ended <= from_ + range_) instants.push_back({ended, 1});
            }
        };
        for (const double q : narrow_)
            for (const double aside : {-1e-7, 0.0, 1e-7}) add(q + aside);
        std::vector<Values> seen(instants.size());
        look(c, instants, seen.data());
        for (std::size_t v = 0; v < wanted; ++v)
            for (std::size_t i = 0; i < instants.size(); ++i)
                if (seen[i][v] >= worth() * most_[v]) peaks_[v].push_back({c, instants[i], seen[i][v]});
    }

    // how near to the largest a place of the grid must come to be looked at closer
    double worth() const { return locks_ ? 0.8 : 0.95; }

    // one stop gone through closely
    void along_the_stop(const Case& c, double place) {
        constexpr std::size_t shares = 5 * instant_count - 1;
        std::array<Instant, shares + 1> instants;
        std::array<Values, shares + 1> seen;
        for (std::size_t k = 0; k <= shares; ++k) instants[k] = {place, static_cast<double>(k) / shares};
        look(c, instants, seen.data());
        for (std::size_t v = 0; v < wanted; ++v)
            for (std::size_t k = 0; k <= shares; ++k)
                if ((k == 0 || seen[k - 1][v] <= seen[k][v]) && (k == shares || seen[k + 1][v] <= seen[k][v]) &&
                    seen[k][v] >= worth() * most_[v])
                    peaks_[v].push_back({c, instants[k], seen[k][v]});
    }

    // Steps to the best of the neighbours along the place and along the share, once with the place of the axis now kept
    // and once with that of the beginning, since dead centres make edges of the first and limits edges of the second;
    // halves the steps where none is better.
    void climb(const Peak& from, std::size_t v) {
        constexpr std::size_t pairs = 7;
        // to one side of the instant; the other side is its opposite
        struct Way {
            double along, over;
            bool now;
        };
        static constexpr std::array<Way, pairs> ways{
            {{1, 0, true}, {0, 1, true}, {1, 1, true}, {1, -1, true}, {0, 1, false}, {1, 1, false}, {1, -1, false}}};
        const Case& c = from.of;
        Instant at = from.at;
        double best = from.value, wide = wide_ / 2, share = 0.1;
        std::array<Instant, 2 * pairs> next;
        std::array<Values, 2 * pairs> seen;
        enum class Border {
            away,
            near,
            here
        }; // none meets the step, one cuts it short, it would lead over one from it
        std::array<Border, 2 * pairs> border;
        std::array<double, 2 * pairs> before; // how far it went down with steps twice as long
        before.fill(-1);
        for (int halvings = 0; halvings < 17;) {
            for (std::size_t i = 0; i < next.size(); ++i) {
                const Way& w = ways[i / 2];
                const double side = i % 2 == 0 ? 1 : -1;
                const double there = at.share + side * w.over * share;
                next[i].share = std::clamp(there, 0.0, 1.0);
                const double place =
                    at.place + side * w.along * wide + (w.now ? run(c, at.share) - run(c, next[i].share) : 0);
                next[i].place = whole_turn_ ? place : std::clamp(place, from_, from_ + range_);
                const bool over = next[i].share != there, off = next[i].place != place;
                border[i] = !over && !off ? Border::away
                            : (!over || next[i].share == at.share) && (!off || next[i].place == at.place)
                                ? Border::here
                                : Border::near;
            }
            look(c, next, seen.data());
            std::size_t top = 0;
            for (std::size_t i = 1; i < next.size(); ++i)
                if (seen[i][v] > seen[top][v]) top = i;
            if (seen[top][v] > best) {
                best = seen[top][v];
                at = next[top];
                before.fill(-1);
                continue;
            }
            // A summit is concave but where something locks: from here it rises by no more than it goes down on the
            // other side. At a border the slope there is told by two steps.
            double left = 0;
            for (std::size_t k = 0; k < pairs && !locks_; ++k) {
                const auto down = [&](std::size_t i) { return best - seen[i][v]; };
                const std::size_t one = 2 * k, other = one + 1;
                if (border[one] == Border::here || border[other] == Border::here) {
                    const std::size_t inside = border[one] == Border::here ? other : one;
                    if (border[inside] == Border::here) continue;
                    if (before[inside] < 0 || 4 * down(inside) < before[inside]) left = std::max(left, down(inside));
                } else if (border[one] == Border::away && border[other] == Border::away) {
                    left = std::max(left, std::min(down(one), down(other)));
                } else {
                    left = std::max({left, down(one), down(other)});
                }
            }
            if (!locks_ && (left <= 1e-8 * best || best + 2 * left < most_[v])) return;
            for (std::size_t i = 0; i < next.size(); ++i) before[i] = best - seen[i][v];
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
    for (const Piece& p : motion.pieces) {
        if (p.at_rest()) continue;
        const Phase& phase = motion.phases[p.playing];
        if (const double carried = phase.payload.value_or(payload);
            out.payloads.empty() || out.payloads.back() != carried)
            out.payloads.push_back(carried);
        if (out.frictions.empty() || out.frictions.back() != phase.friction) out.frictions.push_back(phase.friction);
        for (const double part : {0.0, 0.5, 1.0}) {
            const double v = p.velocity(part * p.duration);
            out.forward = out.forward || v > slow;
            out.backward = out.backward || v < -slow;
        }
    }
    for (std::vector<double>* values : {&out.payloads, &out.frictions}) {
        std::sort(values->begin(), values->end());
        values->erase(std::unique(values->begin(), values->end()), values->end());
    }
    return out;
}

double stop_torque_bound(const Axis& axis) {
    if (!(motion_of(axis.mechanism).has & Motion::shaft)) return std::numeric_limits<double>::infinity();
    return axis.drive.torque_limit.given() ? axis.drive.torque_limit.si : std::numeric_limits<double>::infinity();
}

bool stop_is_limited(const Axis& axis) {
    return std::isfinite(stop_torque_bound(axis)) && (axis.drive.stop_time.given() || axis.drive.stop_distance.given());
}

void emergency_stop(Demand& d, const Axis& axis, const Trajectory& motion, const StopCases& cases) {
    const double v = motion.peak_speed;
    double time = axis.drive.stop_time.value_or(0);
    if (time <= 0 && axis.drive.stop_distance.given() && v > 0) time = 2 * axis.drive.stop_distance.si / v;
    if (time <= 0 || v <= 0) return;
    const auto in = [&](double t) { return EmergencyStop(d.load, v, t).run(cases); };
    EmergencyStop::Values most = in(time);
    d.stop_asked = d.stop_time = time;
    d.stop_torque_asked = most[0];
    if (const double bound = stop_torque_bound(axis); most[0] > bound) {
        // The torque falls with the deceleration as far as load and friction leave it, so that the first time that is
        // long enough lies between two of these.
        constexpr double wider = 1.25, longest = 1e4;
        double too_short = time, long_enough = time;
        EmergencyStop::Values there = most;
        while (there[0] > bound && long_enough < longest * time) {
            too_short = long_enough;
            long_enough *= wider;
            there = in(long_enough);
        }
        d.stops_in_time = false;
        d.stop_ends = there[0] <= bound;
        if (d.stop_ends) {
            // over the deceleration, in which it is nearly straight
            double high = 1 / too_short, low = 1 / long_enough;
            for (int halvings = 0; halvings < 60 && high - low > 1e-12 * high; ++halvings) {
                const double middle = (low + high) / 2;
                const EmergencyStop::Values now = in(1 / middle);
                if (now[0] > bound) {
                    high = middle;
                } else {
                    low = middle;
                    there = now;
                }
            }
            d.stop_time = 1 / low;
            most = there;
        }
    }
    d.emergency_torque = most[0];
    d.coupling_emergency = most[1];
    d.axial_emergency = most[2];
}

} // namespace fulmox
