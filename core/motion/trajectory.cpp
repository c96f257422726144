#include "core/motion/trajectory.h"

#include "core/motion/extremes.h"
#include "core/motion/trace.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace fulmox {

namespace {

class Planner {
  public:
    Plan out;

    Planner(const Cycle& cycle, const Motion& kind, UnitSystem system) : cycle_(cycle), kind_(kind), system_(system) {
        out.motion.start_position = position_ = cycle.start_position.value_or(0);
        start_speed_ = speed_ = cycle.start_speed.value_or(0);
    }

    void run() {
        out.motion.lowest = out.motion.highest = position_;
        for (std::size_t i = 0; i < cycle_.segments.size() && !failed_; ++i) play(i, 0);
        finish();
    }

    void operator()(const MoveInTime& m) {
        const double d = distance(m.distance.si, m.reference);
        if (d == 0) return rest(m.duration.si);
        if (!from_rest()) return;
        static_law(unit_law(m.law, m.acceleration_share.value_or(1.0 / 3), m.deceleration_share.value_or(1.0 / 3),
                       m.rounding.value_or(0)),
            d, m.duration.si);
        if (m.reference == Reference::target) position_ = m.distance.si;
    }
    void operator()(const MoveByLimits& m) {
        const double d = distance(m.distance.si, m.reference);
        if (d == 0 || !from_rest()) return;
        const double a = m.acceleration.si;
        const Profile p = profile_by_limits(std::abs(d), m.speed.si, a, m.deceleration.value_or(a), m.jerk.value_or(0));
        const double end = m.reference == Reference::target ? m.distance.si : position_ + d;
        const double sign = d < 0 ? -1 : 1;
        ramp(p.up, sign, 0);
        uniform(p.cruising, sign * p.peak_speed, 0);
        ramp(p.down, -sign, sign * p.peak_speed);
        position_ = end; // no drift from rounding over many segments
        speed_ = 0;
    }
    void operator()(const SpeedChange& c) {
        const double to = c.speed.si;
        const double s = c.rounding.value_or(0);
        const double t = c.duration.si;
        const double change = to - speed_;
        if (change == 0) return uniform(t, speed_, 0);
        ramp({t, s * t / 2, std::abs(change) / (t * (1 - s / 2))}, change < 0 ? -1 : 1, speed_);
        speed_ = to;
    }
    void operator()(const ConstantSpeed& c) {
        if (c.duration.given() == c.distance.given())
            return fail("give either the distance or the time of the constant speed");
        if (c.duration.given()) return uniform(c.duration.si, speed_, 0);
        if (speed_ == 0 || c.distance.si / speed_ <= 0)
            return fail("a distance of " + c.distance.text + " is never covered at " + speed_text(speed_) +
                        "; change the speed before, and give the distance the sign of the speed");
        uniform(c.distance.si / speed_, speed_, 0);
    }
    void operator()(const Jog& j) {
        if (!from_rest()) return;
        const double v = j.speed.si;
        const double ramps = 2 * std::abs(v) / j.acceleration.si;
        if (ramps > j.duration.si * (1 + 1e-12))
            return fail("the ramps alone take " + format_number(ramps, 4) + " s, but the jog lasts " + j.duration.text +
                        "; allow more time, more acceleration or less speed");
        const double sign = v < 0 ? -1 : 1;
        const Ramp r{ramps / 2, 0, j.acceleration.si};
        ramp(r, sign, 0);
        uniform(j.duration.si - ramps, v, 0);
        ramp(r, -sign, v);
        speed_ = 0;
    }
    void operator()(const Dwell& d) {
        if (from_rest()) rest(d.duration.si);
    }
    void operator()(const Repeat& r) {
        const double n = std::floor(r.segments.si + 0.5);
        const double k = std::floor(r.times.si + 0.5);
        if (n > static_cast<double>(segment_))
            return fail("it repeats " + format_number(n) + " segments, but only " + std::to_string(segment_) +
                        " stand before it");
        const std::size_t at = segment_;
        const std::size_t depth = depth_;
        if (depth >= 8) return fail("repeat blocks lie more than 8 deep in one another");
        for (int i = 1; i < static_cast<int>(k) && !failed_; ++i) {
            const State before = state();
            for (std::size_t s = at - static_cast<std::size_t>(n); s < at && !failed_; ++s) play(s, depth + 1);
            if (state() == before) break; // it took no time and changed nothing, and would so again
        }
        segment_ = at;
        depth_ = depth;
    }
    void operator()(const Trace& t) {
        if (t.samples.rows() < 5) return fail("the trace has fewer than 5 samples; import it from a file");
        take(trace_pieces(t), t.name, true);
    }
    void operator()(const PlannedPath& p) {
        if (p.knots.rows() < 2) return fail("the path has no knots; import it from a file");
        take(knot_pieces(p.knots), p.name, false);
    }

  private:
    const Cycle& cycle_;
    const Motion& kind_;
    UnitSystem system_;
    std::optional<double> payload_;
    double friction_ = 1;
    double now_ = 0, position_ = 0, speed_ = 0, start_speed_ = 0;
    double acceleration_ = 0; // at the end of the piece before
    double noise_ = 0;        // speeds below it are rounding of a recording
    std::size_t segment_ = 0, depth_ = 0, phase_ = 0;
    bool failed_ = false;
    bool one_way_ = false; // the piece being laid does not reverse, as its law says

    struct State {
        double now, position, speed, friction;
        std::optional<double> payload;
        bool operator==(const State&) const = default;
    };
    State state() const { return {now_, position_, speed_, friction_, payload_}; }

    std::string speed_text(double v) const {
        return format_quantity(v, kind_.rotary ? Kind::angular_speed : Kind::speed, system_);
    }
    std::string position_text(double x) const {
        return format_quantity(x, kind_.rotary ? Kind::angle : Kind::length, system_);
    }
    void fail(std::string why) {
        failed_ = true;
        out.problems.push_back({Severity::error, "/segments/" + std::to_string(segment_), "Segment", std::move(why)});
    }
    bool from_rest() {
        if (std::abs(speed_) <= 1e-9 * std::max(out.motion.peak_speed, 1e-9)) return true;
        fail("it begins at standstill, but the axis runs at " + speed_text(speed_) +
             " there; put a change of speed to 0 before it");
        return false;
    }
    // An axis that stands at its target but for rounding has nowhere to go.
    double distance(double given, Reference r) const {
        if (r != Reference::target) return given;
        const double d = given - position_;
        const double rounding =
            1e-12 * std::max({std::abs(given), std::abs(position_), out.motion.highest - out.motion.lowest});
        return std::abs(d) <= rounding ? 0 : d;
    }
    void play(std::size_t segment, std::size_t depth) {
        segment_ = segment;
        depth_ = depth;
        // a repeat has no phase of its own
        const Segment& s = cycle_.segments[segment];
        if ((kind_.has & Motion::payload) && s.payload.given()) payload_ = s.payload.si;
        if ((kind_.has & Motion::guides) && s.friction.given()) friction_ = s.friction.si;
        auto& phases = out.motion.phases;
        if (std::holds_alternative<Repeat>(s.what)) return (*this)(std::get<Repeat>(s.what));
        if (phases.size() >= most_pieces) return too_long(most_pieces);
        phase_ = phases.size();
        phases.push_back({segment, now_, 0, position_, position_, payload_, friction_});
        std::visit(*this, s.what);
        phases[phase_].duration = now_ - phases[phase_].start;
        if (depth > 0 && phases[phase_].duration == 0) phases.pop_back(); // nothing was played again
    }
    void too_long(std::size_t most) {
        if (!failed_) fail("the cycle has more than " + std::to_string(most) + " pieces of motion; repeat fewer times");
    }
    void add(Piece p) {
        if (p.duration <= 0) return;
        if (const std::size_t most = depth_ > 0 ? most_repeated_pieces : most_pieces; out.motion.pieces.size() >= most)
            return too_long(most);
        p.start = now_;
        p.segment = segment_;
        p.playing = phase_;
        now_ += p.duration;
        Trajectory& m = out.motion;
        Phase& phase = m.phases[phase_];
        double from = position_;
        const auto reach = [&](double position) {
            m.path += std::abs(position - from);
            from = position;
            phase.lowest = std::min(phase.lowest, position);
            phase.highest = std::max(phase.highest, position);
        };
        const Piece::State first = p.state(0), last = p.state(p.duration);
        // laws and ramps are cut at the extremes of speed and acceleration, so the ends and the middle tell them
        for (const Piece::State& at : {first, p.state(p.duration / 2), last}) {
            m.peak_speed = std::max(m.peak_speed, std::abs(at.velocity));
            m.peak_acceleration = std::max(m.peak_acceleration, std::abs(at.acceleration));
            m.peak_jerk = std::max(m.peak_jerk, std::abs(at.jerk));
        }
        if (!p.one_way && p.amplitude == 0) {
            const PieceExtremes e = extremes(p, m.peak_speed, m.peak_acceleration, m.peak_jerk, noise_);
            m.peak_speed = std::max(m.peak_speed, e.speed);
            m.peak_acceleration = std::max(m.peak_acceleration, e.acceleration);
            m.peak_jerk = std::max(m.peak_jerk, e.jerk);
            for (const double tau : e.reversals) reach(p.position(tau));
            p.one_way = e.reversals.empty();
        }
        reach(last.position);
        m.lowest = std::min(m.lowest, phase.lowest);
        m.highest = std::max(m.highest, phase.highest);
        step(first.acceleration);
        acceleration_ = last.acceleration;
        if (!p.at_rest()) m.moving_time += p.duration;
        position_ = last.position;
        m.pieces.push_back(p);
    }
    void step(double acceleration) {
        const double scale = std::max(std::abs(acceleration), std::abs(acceleration_));
        if (std::abs(acceleration - acceleration_) > 1e-9 * scale + 1e-12)
            out.motion.peak_jerk = std::numeric_limits<double>::infinity();
    }
    void uniform(double duration, double velocity, double acceleration) {
        Piece p;
        p.duration = duration;
        p.c = {position_, velocity, acceleration / 2};
        p.one_way = one_way_ || acceleration == 0;
        add(p);
        speed_ = velocity + acceleration * duration;
    }
    void rest(double duration) {
        uniform(duration, 0, 0);
        speed_ = 0;
    }
    void cubic(double duration, double velocity, double acceleration, double jerk) {
        Piece p;
        p.duration = duration;
        p.c = {position_, velocity, acceleration / 2, jerk / 6};
        p.degree = 3;
        p.one_way = one_way_;
        add(p);
    }
    void ramp(const Ramp& r, double sign, double from) {
        if (r.duration <= 0) return;
        const double a = sign * r.acceleration;
        const double to = from + a * (r.duration - r.jerk_time);
        // a ramp to standstill ends there but for rounding
        const double noise = 1e-12 * std::max(std::abs(from), std::abs(to));
        one_way_ = from * to >= 0 || std::min(std::abs(from), std::abs(to)) <= noise;
        lay_ramp(r, a, from);
        one_way_ = false;
    }
    void lay_ramp(const Ramp& r, double a, double from) {
        if (r.jerk_time <= 0) return uniform(r.duration, from, a);
        const double j = a / r.jerk_time;
        const double hold = std::max(0.0, r.duration - 2 * r.jerk_time);
        double v = from;
        cubic(r.jerk_time, v, 0, j);
        v += a * r.jerk_time / 2;
        uniform(hold, v, a);
        v += a * hold;
        cubic(r.jerk_time, v, a, -j);
        speed_ = v + a * r.jerk_time / 2;
    }
    void static_law(const std::vector<Piece>& unit, double d, double time) {
        const double from = position_;
        for (const Piece& u : unit) {
            Piece p;
            p.duration = u.duration * time;
            p.degree = u.degree;
            double power = 1;
            for (std::size_t k = 0; k < p.c.size(); ++k, power /= time) p.c[k] = u.c[k] * d * power;
            p.c[0] += from;
            p.amplitude = u.amplitude * d;
            p.omega = u.omega / time;
            p.phase = u.phase;
            p.one_way = true;
            add(p);
        }
        position_ = from + d;
        speed_ = 0;
    }
    // Runs of pieces that go no faster than `slow` for at least `least` s stand still: less is a passage through
    // standstill.
    static void stop_where_slow(std::vector<Piece>& parts, double slow, double least) {
        const auto is_slow = [&](const Piece& p) {
            const double h = p.duration;
            return std::max({std::abs(p.velocity(h * 1e-3)), std::abs(p.velocity(h / 2)),
                       std::abs(p.velocity(h * 0.999))}) <= slow;
        };
        for (std::size_t first = 0; first < parts.size();) {
            std::size_t last = first;
            double time = 0;
            while (last < parts.size() && is_slow(parts[last])) time += parts[last++].duration;
            if (time > 0 && time >= least)
                for (std::size_t i = first; i < last; ++i) parts[i].stop();
            first = std::max(last, first + 1);
        }
    }
    // Pieces from outside stand on their own positions; they are shifted to where the axis is. A recording stands below
    // 1e-9 of its top speed; what was planned stands where it is planned to, but for rounding.
    void take(const std::vector<Piece>& pieces, const std::string& name, bool recorded) {
        if (pieces.empty()) return;
        const double v = pieces.front().velocity(0);
        const double jump = std::abs(v - speed_);
        double fastest = 0;
        for (const Piece& p : pieces) fastest = std::max(fastest, std::abs(p.velocity(p.duration / 2)));
        if (jump > 0.02 * fastest + 1e-9)
            out.problems.push_back({Severity::suspicious, "/segments/" + std::to_string(segment_), name,
                "it begins at " + speed_text(v) + ", but the axis has " + speed_text(speed_) +
                    " there; the jump is not part of the demand"});
        const double shift = position_ - pieces.front().position(0);
        noise_ = 1e-13 * fastest;
        const double slow = 1e-9 * fastest;
        std::vector<Piece> parts;
        parts.reserve(pieces.size());
        for (const Piece& p : pieces) {
            if (recorded && may_be_slow(p, slow))
                for (const Piece& part : cut_at_speed(p, slow)) parts.push_back(part);
            else
                parts.push_back(p);
        }
        if (recorded) {
            const double sample = (pieces.back().start + pieces.back().duration - pieces.front().start) /
                                  static_cast<double>(pieces.size());
            stop_where_slow(parts, slow, sample);
        } else {
            stop_where_slow(parts, noise_, 0);
        }
        out.motion.pieces.reserve(std::min(most_pieces, out.motion.pieces.size() + parts.size()));
        for (Piece& p : parts) {
            p.c[0] += shift;
            add(p);
        }
        noise_ = 0;
        speed_ = pieces.back().velocity(pieces.back().duration);
        // a recording that ends at rest ends at rest
        if (std::abs(speed_) <= 0.02 * fastest) speed_ = 0;
    }
    void finish() {
        Trajectory& m = out.motion;
        m.duration = now_;
        m.advance = position_ - m.start_position;
        if (std::abs(m.advance) < 1e-12 * m.path) m.advance = 0; // there and back, but for rounding
        if (failed_ || m.pieces.empty()) return;
        count_moves();
        find_shortest_ramp();
        step(m.pieces.front().acceleration(0)); // the cycle repeats
        const double scale = std::max(m.peak_speed, 1e-12);
        if (std::abs(speed_ - start_speed_) > 1e-6 * scale)
            out.problems.push_back({Severity::error, "/segments", "Cycle",
                "it ends at " + speed_text(speed_) + " but begins at " + speed_text(start_speed_) +
                    "; a cycle must end with the speed it began with"});
        if (must_return(kind_) && !closes(m))
            out.problems.push_back({Severity::suspicious, "/segments", "Cycle",
                "it ends " + position_text(m.advance) + " from where it began; a linear axis must return"});
    }
    void find_shortest_ramp() {
        Trajectory& m = out.motion;
        double begin = 0, from = 0, to = 0, end = 0; // of the ramp that is under way
        std::size_t playing = m.phases.size();
        const auto close = [&] {
            if (end > begin && std::abs(to - from) >= 0.1 * m.peak_speed)
                m.shortest_ramp = std::min(m.shortest_ramp, end - begin);
        };
        const auto stretch = [&](const Piece& p, double t0, double v0, double t1, double v1) {
            const bool changes = std::abs(v1 - v0) > 1e-9 * m.peak_speed;
            const bool goes_on = changes && end == t0 && to != from && (v1 > v0) == (to > from) && p.playing == playing;
            if (!goes_on) {
                close();
                begin = t0;
                from = v0;
                playing = p.playing;
            }
            end = changes ? t1 : t0;
            to = changes ? v1 : v0;
        };
        for (const Piece& p : m.pieces) {
            if (std::holds_alternative<Trace>(cycle_.segments[p.segment].what)) continue;
            double tau = 0, v = p.velocity(0);
            const auto up_to = [&](double next) {
                const double speed = p.velocity(next);
                stretch(p, p.start + tau, v, p.start + next, speed);
                tau = next;
                v = speed;
            };
            if (p.degree > 2 && p.amplitude == 0)
                for (const double turn : acceleration_zeros(p)) up_to(turn);
            up_to(p.duration);
        }
        close();
    }
    void count_moves() {
        Trajectory& m = out.motion;
        const double slow = 1e-9 * m.peak_speed;
        const auto rests = [&](const Piece& p, double tau) { return std::abs(p.velocity(tau)) <= slow; };
        for (const Piece& p : m.pieces)
            if (!p.at_rest() && rests(p, 0)) ++m.moves;
        // an axis that never stops makes one long move
        if (m.moves == 0 && m.peak_speed > 0) m.moves = 1;
    }
};

} // namespace

std::vector<double> payloads_of(const Trajectory& t, double first) {
    std::vector<double> out;
    for (const Phase& p : t.phases) out.push_back(p.payload.value_or(first));
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

bool closes(const Trajectory& t) { return std::abs(t.advance) <= std::max(closed_length, closed_share * t.path); }

bool must_return(const Motion& kind) { return !kind.rotary && (kind.has & Motion::carriage) != 0; }

double path_at_changing_speed(const Piece& p) {
    if (p.uniform() && p.c[2] == 0) return 0;
    double fastest = 0;
    for (const double part : {0.0, 0.5, 1.0}) fastest = std::max(fastest, std::abs(p.velocity(part * p.duration)));
    return fastest * p.duration;
}

double path_at_changing_speed(const Trajectory& t) {
    double sum = 0;
    for (const Piece& p : t.pieces) sum += path_at_changing_speed(p);
    return std::min(sum, t.path);
}

Plan plan(const Cycle& cycle, const Motion& kind, UnitSystem system) {
    Planner planner(cycle, kind, system);
    planner.run();
    return std::move(planner.out);
}

const Piece& Trajectory::at(double t) const {
    const auto it =
        std::upper_bound(pieces.begin(), pieces.end(), t, [](double value, const Piece& p) { return value < p.start; });
    return it == pieces.begin() ? pieces.front() : *std::prev(it);
}

const Phase& Trajectory::phase_at(double t) const {
    const auto it =
        std::upper_bound(phases.begin(), phases.end(), t, [](double value, const Phase& p) { return value < p.start; });
    return it == phases.begin() ? phases.front() : *std::prev(it);
}

} // namespace fulmox
