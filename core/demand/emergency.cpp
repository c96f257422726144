#include "core/demand/emergency.h"

#include <algorithm>
#include <boost/math/tools/minima.hpp>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

class EmergencyStop {
  public:
    EmergencyStop(Demand& d, double speed, double time) : d_(d), speed_(speed), time_(time) {}

    void run(const Trajectory& motion, const std::vector<double>& payloads) {
        const auto [light, heavy] = std::minmax_element(payloads.begin(), payloads.end());
        std::vector<double> loads{*light};
        if (*heavy != *light) loads.push_back(*heavy); // torque is linear in the payload: the extremes tell
        double from = motion.start_position, range = 0;
        if (d_.load.position_dependent() && d_.load.path != LoadModel::Path::winder) {
            from = motion.lowest;
            range = std::min(motion.stroke(), 2 * std::numbers::pi);
        }
        const int places = range > 0 ? 36 : 0;
        for (const double payload : loads)
            for (const double direction : {1.0, -1.0})
                for (int part = 0; part <= 4; ++part) // of the stop; its ends tell where nothing depends on position
                    for (int i = 0; i <= places; ++i)
                        look({from + (places > 0 ? range * i / places : 0), payload, direction, part / 4.0});
        if (places > 0) refine(from, range, range / places);
        d_.emergency_torque = std::abs(at(worst_).torque);
    }

  private:
    struct Instant {
        double place, payload, direction, share; // of the stop that is over
    };
    Demand& d_;
    double speed_, time_;
    Instant worst_{};
    double worst_torque_ = -1;

    ShaftState at(const Instant& i) const {
        Span s;
        s.duration = s.piece.duration = time_;
        s.piece.c = {i.place, i.direction * speed_, -i.direction * speed_ / time_ / 2};
        s.payload = i.payload;
        s.regime = Regime::motoring;
        const double t = i.share * time_;
        const PathPoint p = path_at(d_.load, s.piece.position(t));
        const bool straight = d_.load.path == LoadModel::Path::straight;
        s.direction = i.direction * (straight && p.first < 0 ? -1 : 1);
        s.load_direction = i.direction * (!straight && p.first < 0 ? -1 : 1);
        return evaluate(d_.load, s, t);
    }
    double look(const Instant& i) {
        const ShaftState e = at(i);
        const double torque = std::abs(e.torque);
        d_.coupling_emergency = std::max(d_.coupling_emergency, std::abs(e.coupling_torque));
        if (torque > worst_torque_) {
            worst_torque_ = torque;
            worst_ = i;
        }
        return torque;
    }
    // between the places looked at, and between the parts of the stop
    void refine(double from, double range, double step) {
        const Instant found = worst_;
        std::uintmax_t tries = 30;
        boost::math::tools::brent_find_minima(
            [&](double place) {
                Instant i = found;
                i.place = place;
                return -look(i);
            },
            std::max(from, found.place - step), std::min(from + range, found.place + step), 24, tries);
        const Instant there = worst_;
        tries = 30;
        boost::math::tools::brent_find_minima(
            [&](double share) {
                Instant i = there;
                i.share = share;
                return -look(i);
            },
            std::max(0.0, there.share - 0.25), std::min(1.0, there.share + 0.25), 24, tries);
    }
};

} // namespace

void emergency_stop(Demand& d, const Axis& axis, const Trajectory& motion, const std::vector<double>& payloads) {
    const double v = motion.peak_speed;
    double time = axis.drive.stop_time.value_or(0);
    if (time <= 0 && axis.drive.stop_distance.given() && v > 0) time = 2 * axis.drive.stop_distance.si / v;
    if (time <= 0 || v <= 0) return;
    d.stop_time = time;
    EmergencyStop(d, v, time).run(motion, payloads);
}

} // namespace fulmox
