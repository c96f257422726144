#include "core/load/statement.h"

#include "core/load/bodies.h"
#include "core/load/screw.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

std::string pieces(double n) { return format_number(n) + (n == 1 ? " piece" : " pieces"); }

double or_zero(const QuantityBase& q) { return q.given() ? q.si : 0; }

std::string kilogram(double m) { return format_number(m) + " kg"; }

// Squares of dx/dθ over one turn of a crank: largest and smallest; the same twice for a straight path.
std::pair<double, double> squared_radius(const LoadModel& m) {
    if (m.path != LoadModel::Path::crank && m.path != LoadModel::Path::yoke) {
        const double r = path_at(m, 0).first;
        return {r * r, r * r};
    }
    const double most = path_at(m, fastest_angle(m)).first;
    return {most * most, 0}; // at the dead centres the slider stands
}

class Statement {
  public:
    Statement(const Machine& machine, const Axis& axis, const LoadModel& m, bool with_working)
        : machine_(machine), axis_(axis), m_(m), working_(with_working) {
        std::tie(most_, least_) = squared_radius(m);
        at_mechanism_ = 1 / (m.ratio * m.ratio);
    }

    InertiaStatement take() {
        const bool carried = m_.motion.has & Motion::payload;
        if (carried) payload();
        if (m_.motion.has & Motion::carriage) mass("carriage", "Carriage", axis_.load.carriage_mass.si);
        if ((m_.motion.has & Motion::counterweight) && axis_.load.counterweight.value_or(0) > 0)
            mass("counterweight", "Counterweight", axis_.load.counterweight.si);
        for (std::size_t i = 0; i < axis_.bodies.size(); ++i) body(i);
        std::visit(*this, axis_.mechanism);
        coupling();
        stages();
        for (const InertiaShare& i : out_.shares) {
            out_.load += i.at_shaft;
            out_.load_least += i.travels ? i.at_shaft * (most_ > 0 ? least_ / most_ : 1) : i.at_shaft;
        }
        out_.load_least -= lighter_;
        rotor();
        return std::move(out_);
    }

    void operator()(const Screw& s) {
        if (s.turns == ScrewTurns::nut) {
            shaft("nut", "Nut and pulley", "given", or_zero(s.nut_inertia));
            return;
        }
        const double d = body_diameter(s);
        Working w;
        if (working_)
            w.push_back(working_line("J", "π ρ L d⁴/32", "pi*rho*L*d^4/32",
                {{"rho", s.density.si}, {"L", s.length.si}, {"d", d}}, screw_inertia(s), Kind::inertia,
                "solid cylinder about its axis"));
        shaft("screw", "Screw", format_number(s.diameter.si * 1e3) + " × " + format_number(s.length.si * 1e3) + " mm",
            screw_inertia(s), std::move(w));
    }
    void operator()(const RackPinion& r) { shaft("pinion", "Pinion", "given", or_zero(r.pinion_inertia)); }
    void operator()(const BeltDrive& b) {
        if (b.motor_seat == MotorSeat::rides)
            mass("riding", "Riding motor", b.riding_mass.given() ? b.riding_mass.si : or_zero(axis_.motor.mass));
        shaft("pulley", b.loop == Loop::chain ? "Driving sprocket" : "Driving pulley", "given",
            or_zero(b.pulley_inertia));
        const double k = b.idler_diameter.given() ? m_.radius / (b.idler_diameter.si / 2) : 1;
        geared("idlers", "Idlers", b.idlers.si, or_zero(b.idler_inertia), k);
        running(b.loop == Loop::chain ? "Chain" : "Belt", or_zero(b.belt_mass));
    }
    void operator()(const LinearMotor&) {}
    void operator()(const FreeForm& f) { shaft("free", "Inertia", "given", or_zero(f.inertia)); }
    void operator()(const Conveyor& c) {
        shaft("pulley", "Pulleys", pieces(1 + c.pulleys.si), (1 + c.pulleys.si) * or_zero(c.pulley_inertia));
        const double t = or_zero(c.belt_thickness);
        const double roller = (c.roller_diameter.given() ? c.roller_diameter.si : c.pulley_diameter.si) / 2 + t / 2;
        geared("rollers", "Rollers", c.rollers.si, or_zero(c.roller_inertia), m_.radius / roller);
        running("Belt", or_zero(c.belt_mass));
    }
    void operator()(const FeedRolls& f) {
        shaft("roll", "Driven roll", "given", or_zero(f.roll_inertia));
        geared("follower", "Follower", 1, or_zero(f.follower_inertia),
            f.follower_diameter.given() ? f.roll_diameter.si / f.follower_diameter.si : 1);
    }
    void operator()(const Winder& w) {
        shaft("core", "Core", "given", or_zero(w.core_inertia));
        const double outer = w.roll_diameter.si / 2;
        const double ring = m_.wound * (std::pow(outer, 4) - std::pow(m_.core_radius, 4));
        Working line;
        if (working_)
            line.push_back(working_line("J", "π ρ w (R⁴ − R_c⁴)/2", "pi*rho*w*(R^4-R_c^4)/2",
                {{"rho", w.web_density.si}, {"w", w.web_width.si}, {"R", outer}, {"R_c", m_.core_radius}}, ring,
                Kind::inertia, "hollow cylinder about its axis"));
        shaft("web", "Wound web, full roll", format_number(w.roll_diameter.si * 1e3) + " mm", ring, std::move(line));
        lighter_ += ring * at_mechanism_;
    }
    void operator()(const Hoist& h) { shaft("drum", "Drum", "given", or_zero(h.drum_inertia)); }
    void operator()(const RotaryTable& t) { shaft("table", "Table", "given", or_zero(t.table_inertia)); }
    void operator()(const Arm& a) {
        const double mass = or_zero(a.arm_mass);
        const double reach = 2 * or_zero(a.arm_centre);
        if (a.arm_inertia.given()) return shaft("arm", "Arm", "given", a.arm_inertia.si);
        Working w;
        if (working_ && mass > 0)
            w.push_back(working_line("J", "m (2 r)²/3", "m*(2*r)^2/3", {{"m", mass}, {"r", reach / 2}},
                mass * reach * reach / 3, Kind::inertia, "rod about its end"));
        shaft("arm", "Arm", mass > 0 ? kilogram(mass) : "", mass * reach * reach / 3, std::move(w));
    }
    void operator()(const SliderCrank& s) { shaft("crank", "Crank", "given", or_zero(s.crank_inertia)); }
    void operator()(const ScotchYoke& s) { shaft("crank", "Crank", "given", or_zero(s.crank_inertia)); }
    void operator()(const Fan& f) { shaft("impeller", "Impeller", "given", or_zero(f.rotor_inertia)); }

  private:
    const Machine& machine_;
    const Axis& axis_;
    const LoadModel& m_;
    bool working_;
    double most_ = 1, least_ = 1;
    double at_mechanism_ = 1;
    double lighter_ = 0; // what falls away at the lightest payload or the empty roll, at the motor
    InertiaStatement out_;

    void push(InertiaShare s) {
        if (s.at_shaft != 0 || s.key == "payload" || s.key == "carriage" || s.key == "screw")
            out_.shares.push_back(std::move(s));
    }
    // J where it is, brought to the motor over the square of the stages
    void reflect(InertiaShare& s, double at_mechanism, double ratio) {
        s.at_shaft = at_mechanism / (ratio * ratio);
        if (working_ && ratio != 1)
            s.working.push_back(working_line("J_M", "J/i²", "J/i^2", {{"J", at_mechanism}, {"i", ratio}}, s.at_shaft,
                Kind::inertia, "kinetic energy"));
    }
    void shaft(const char* key, std::string label, std::string detail, double j, Working w = {}) {
        InertiaShare s{key, std::move(label), j == 0 ? std::string() : std::move(detail), j};
        s.working = std::move(w);
        reflect(s, j, m_.ratio);
        push(std::move(s));
    }
    void geared(const char* key, const char* label, double count, double j, double k) {
        Working w;
        const double sum = count * j * k * k;
        if (working_ && sum > 0)
            w.push_back(working_line("J", "n J_i (r/r_i)²", "n*J_i*k^2", {{"n", count}, {"J_i", j}, {"k", k}}, sum,
                Kind::inertia, "kinetic energy"));
        InertiaShare s{key, label, pieces(count), j};
        s.working = std::move(w);
        reflect(s, sum, m_.ratio);
        push(std::move(s));
    }
    InertiaShare travelling(const char* key, std::string label, double m) {
        InertiaShare s{key, std::move(label), kilogram(m), m};
        s.travels = true;
        const double j = m * most_;
        if (working_) {
            const bool lead = std::holds_alternative<Screw>(axis_.mechanism);
            s.working.push_back(lead ? working_line("J", "m (l/2π)²", "m*(l/(2*pi))^2",
                                           {{"m", m}, {"l", 2 * std::numbers::pi * std::sqrt(most_)}}, j, Kind::inertia,
                                           "kinetic energy")
                                     : working_line("J", "m r²", "m*r^2", {{"m", m}, {"r", std::sqrt(most_)}}, j,
                                           Kind::inertia, "kinetic energy"));
        }
        reflect(s, j, m_.ratio);
        return s;
    }
    void mass(const char* key, const char* label, double m) { push(travelling(key, label, m)); }
    void running(const char* label, double m) {
        if (m > 0) push(travelling("belt", label, m));
    }
    void payload() {
        const std::vector<double> by_segment = payload_by_segment(axis_);
        double heaviest = axis_.load.payload.si;
        double lightest = heaviest;
        if (!by_segment.empty()) {
            const auto [lo, hi] = std::minmax_element(by_segment.begin(), by_segment.end());
            lightest = *lo;
            heaviest = *hi;
        }
        const bool linear = !m_.motion.rotary || m_.motion.linear_force;
        if (linear) {
            push(travelling("payload", "Payload", heaviest));
            lighter_ += (heaviest - lightest) * least_ * at_mechanism_;
            return;
        }
        const double r = std::sqrt(m_.payload_inertia);
        InertiaShare s{"payload", "Payload", kilogram(heaviest), heaviest};
        if (working_)
            s.working.push_back(working_line("J", "m r²", "m*r^2", {{"m", heaviest}, {"r", r}}, heaviest * r * r,
                Kind::inertia, "point mass at its radius"));
        reflect(s, heaviest * r * r, m_.ratio);
        lighter_ += (heaviest - lightest) * r * r * at_mechanism_;
        push(std::move(s));
    }
    void body(std::size_t i) {
        const Body& b = axis_.bodies[i];
        const BodyValue v = body_value(b, machine_.materials, working_);
        const bool linear = !m_.motion.rotary || m_.motion.linear_force;
        std::string label = b.name.empty() ? std::string("Body ") + std::to_string(i + 1) : b.name;
        InertiaShare s;
        if (linear && b.place == BodyPlace::load && m_.path != LoadModel::Path::winder) {
            s = travelling("", std::move(label), v.mass);
            s.working.insert(s.working.begin(), v.working.begin(), v.working.end());
        } else {
            s = InertiaShare{"", std::move(label), v.mass != 0 ? kilogram(v.mass) : "given", v.inertia};
            s.working = v.working;
            reflect(s, v.inertia, m_.ratio);
        }
        s.key = "body_" + std::to_string(i + 1);
        push(std::move(s));
    }
    void coupling() {
        const double j = axis_.coupling.inertia.value_or(0);
        if (j <= 0) return;
        InertiaShare s{"coupling", "Coupling", "given", j};
        reflect(s, j, m_.coupling_at_mechanism ? m_.ratio : 1);
        push(std::move(s));
    }
    void stages() {
        double ahead = 1;
        for (std::size_t i = 0; i < m_.stages.size(); ++i) {
            const std::string& name = axis_.stages[i].name;
            InertiaShare s{"stage_" + std::to_string(i + 1), name.empty() ? "Stage " + std::to_string(i + 1) : name,
                "i = " + format_number(m_.stages[i].ratio), m_.stages[i].inertia};
            reflect(s, m_.stages[i].inertia, ahead);
            push(std::move(s));
            ahead *= m_.stages[i].ratio;
        }
    }
    void rotor() {
        const Motor& motor = axis_.motor;
        if (motor.empty()) return;
        const auto add = [&](const char* key, const char* label, std::string detail, double j) {
            InertiaShare s{key, label, std::move(detail), j};
            s.at_shaft = j;
            s.rotor_side = true;
            out_.shares.push_back(std::move(s));
        };
        add("rotor", "Rotor", motor.name, motor.rotor_inertia.si);
        if (motor.brake_inertia.value_or(0) > 0) add("brake", "Motor brake", "given", motor.brake_inertia.si);
        out_.rotor = m_.rotor_inertia;
    }
};

} // namespace

InertiaStatement inertia_statement(const Machine& machine, const Axis& axis, bool with_working) {
    const LoadModel m = load_model(machine, axis);
    return Statement(machine, axis, m, with_working).take();
}

} // namespace fulmox
