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

// Squares of dx/dθ over a stretch of the coordinate: largest and smallest; the same twice for a straight path.
std::pair<double, double> squared_radius(const LoadModel& m, double low, double high) {
    const auto squared = [&](double q) { return std::pow(path_at(m, q).first, 2); };
    if (m.path != LoadModel::Path::crank && m.path != LoadModel::Path::yoke) return {squared(0), squared(0)};
    constexpr double pi = std::numbers::pi;
    double most = std::max(squared(low), squared(high)), least = std::min(squared(low), squared(high));
    // between a dead centre and the fastest place dx/dθ rises, beyond it falls
    const double fastest = fastest_angle(m), dead = m.path == LoadModel::Path::yoke ? pi / 2 : 0;
    const auto passes = [&](double angle, double period) {
        return angle + std::ceil((low - angle) / period) * period <= high;
    };
    const double period = m.path == LoadModel::Path::yoke ? pi : 2 * pi;
    if (passes(fastest, period) || passes(-fastest, period)) most = squared(fastest);
    if (passes(dead, pi)) least = 0;
    return {most, least};
}

class Statement {
  public:
    Statement(const Machine& machine, const Axis& axis, const LoadModel& m, const std::vector<Carried>& over,
        bool with_working)
        : machine_(machine), axis_(axis), m_(m), working_(with_working) {
        out_.load_known = load_known(axis);
        at_mechanism_ = 1 / (m.ratio * m.ratio);
        look_over(over);
    }

    InertiaStatement take() {
        const bool carried = m_.motion.has & Motion::payload;
        if (carried) payload();
        if (m_.motion.has & Motion::carriage) mass("carriage", "Carriage", axis_.load.carriage_mass.si);
        if ((m_.motion.has & Motion::counterweight) && axis_.load.counterweight.value_or(0) > 0)
            mass("counterweight", "Counterweight", axis_.load.counterweight.si);
        for (std::size_t i = 0; i < axis_.bodies.size(); ++i) body(i);
        for (const RidingPart& part : riding_parts(axis_)) mass(part.key.c_str(), part.label.c_str(), part.mass);
        std::visit(*this, axis_.mechanism);
        coupling();
        brake();
        stages();
        for (const InertiaShare& i : out_.shares) out_.load += i.at_shaft;
        out_.load_least = out_.load - lighter_ * at_mechanism_;
        rotor();
        return std::move(out_);
    }

    void operator()(const Screw& s) {
        if (s.turns == ScrewTurns::nut) {
            shaft("nut", "Nut and pulley", "given", s.nut_inertia.value_or(0));
            return;
        }
        const double d = body_diameter(s);
        Working w;
        if (working_)
            w.push_back(working_line("J", "π ρ L d⁴/32", "pi*rho*L*d^4/32",
                {{"rho", s.density.si}, {"L", s.length.si}, {"d", d}}, screw_inertia(s), Kind::inertia,
                "solid cylinder about its axis"));
        shaft("screw", "Screw", size(s.diameter.si, s.length.si), screw_inertia(s), std::move(w));
    }
    void operator()(const RackPinion& r) { shaft("pinion", "Pinion", "given", r.pinion_inertia.value_or(0)); }
    void operator()(const BeltDrive& b) {
        shaft("pulley", b.loop == Loop::chain ? "Driving sprocket" : "Driving pulley", "given",
            b.pulley_inertia.value_or(0));
        const double k = b.idler_diameter.given() ? m_.radius / (b.idler_diameter.si / 2) : 1;
        geared("idlers", "Idlers", b.idlers.si, b.idler_inertia.value_or(0), k);
        running(b.loop == Loop::chain ? "Chain" : "Belt", b.belt_mass.value_or(0));
    }
    void operator()(const LinearMotor&) {}
    void operator()(const FreeForm& f) { shaft("free", "Inertia", "given", f.inertia.value_or(0)); }
    void operator()(const GivenDemand& g) { shaft("load", "Load", "in the demand already", g.inertia.value_or(0)); }
    void operator()(const Conveyor& c) {
        shaft("pulley", "Pulleys", pieces(1 + c.pulleys.si), (1 + c.pulleys.si) * c.pulley_inertia.value_or(0));
        const double t = c.belt_thickness.value_or(0);
        const double roller = (c.roller_diameter.given() ? c.roller_diameter.si : c.pulley_diameter.si) / 2 + t / 2;
        geared("rollers", "Rollers", c.rollers.si, c.roller_inertia.value_or(0), m_.radius / roller);
        running("Belt", c.belt_mass.value_or(0));
    }
    void operator()(const FeedRolls& f) {
        shaft("roll", "Driven roll", "given", f.roll_inertia.value_or(0));
        geared("follower", "Follower", 1, f.follower_inertia.value_or(0),
            f.follower_diameter.given() ? f.roll_diameter.si / f.follower_diameter.si : 1);
    }
    void operator()(const Winder& w) {
        shaft("core", "Core", "given", w.core_inertia.value_or(0));
        const double outer = w.roll_diameter.si / 2;
        const double ring = m_.wound * (std::pow(outer, 4) - std::pow(m_.core_radius, 4));
        Working line;
        if (working_)
            line.push_back(working_line("J", "π ρ w (R⁴ − R_c⁴)/2", "pi*rho*w*(R^4-R_c^4)/2",
                {{"rho", w.web_density.si}, {"w", w.web_width.si}, {"R", outer}, {"R_c", m_.core_radius}}, ring,
                Kind::inertia, "hollow cylinder about its axis"));
        shaft("web", "Wound web, full roll", length(w.roll_diameter.si), ring, std::move(line));
        lighter_ += ring;
    }
    void operator()(const Hoist& h) { shaft("drum", "Drum", "given", h.drum_inertia.value_or(0)); }
    void operator()(const RotaryTable& t) { shaft("table", "Table", "given", t.table_inertia.value_or(0)); }
    void operator()(const Arm& a) {
        const double mass = a.arm_mass.value_or(0);
        const double reach = 2 * a.arm_centre.value_or(0);
        if (a.arm_inertia.given()) return shaft("arm", "Arm", "given", a.arm_inertia.si);
        Working w;
        if (working_ && mass > 0)
            w.push_back(working_line("J", "m (2 r)²/3", "m*(2*r)^2/3", {{"m", mass}, {"r", reach / 2}},
                mass * reach * reach / 3, Kind::inertia, "rod about its end"));
        shaft("arm", "Arm", mass > 0 ? kilogram(mass) : "", mass * reach * reach / 3, std::move(w));
    }
    void operator()(const SliderCrank& s) { shaft("crank", "Crank", "given", s.crank_inertia.value_or(0)); }
    void operator()(const ScotchYoke& s) { shaft("crank", "Crank", "given", s.crank_inertia.value_or(0)); }
    void operator()(const Fan& f) { shaft("impeller", "Impeller", "given", f.rotor_inertia.value_or(0)); }

  private:
    const Machine& machine_;
    const Axis& axis_;
    const LoadModel& m_;
    bool working_;
    double most_ = 1;    // (dx/dθ)² where the load inertia is largest
    double payload_ = 0; // kg there
    double at_mechanism_ = 1;
    double lighter_ = 0; // what falls away where it is smallest, at the shaft of the mechanism
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
    std::string kilogram(double m) const { return format_quantity(m, Kind::mass, machine_.unit_system); }
    std::string length(double l) const { return format_quantity(l, Kind::length, machine_.unit_system); }
    // "20 × 900 mm"
    std::string size(double d, double l) const {
        const Unit& unit = *find_unit(machine_.unit_system == UnitSystem::inch_pound ? "in" : "mm", Kind::length);
        return format_number(from_si(d, unit)) + " × " + format_quantity(l, unit);
    }
    bool linear() const { return !m_.motion.rotary || m_.motion.linear_force; }
    // where over the cycle the load inertia is largest, and how much smaller it becomes
    void look_over(std::vector<Carried> over) {
        if (over.empty()) over.push_back({first_payload(axis_), 0, 2 * std::numbers::pi});
        double largest = -1, smallest = 0;
        for (const Carried& c : over) {
            const auto [most, least] = squared_radius(m_, c.lowest, c.highest);
            const double carried = (linear() ? m_.moving_mass : 0) + c.payload * m_.payload_inertia;
            const double high = carried * (linear() ? most : 1), low = carried * (linear() ? least : 1);
            if (largest < 0 || low < smallest) smallest = low;
            if (high > largest) {
                largest = high;
                most_ = most;
                payload_ = c.payload;
            }
        }
        lighter_ = std::max(0.0, largest) - smallest;
    }
    void payload() {
        if (linear()) return push(travelling("payload", "Payload", payload_));
        const double r = std::sqrt(m_.payload_inertia);
        InertiaShare s{"payload", "Payload", kilogram(payload_), payload_};
        if (working_)
            s.working.push_back(working_line("J", "m r²", "m*r^2", {{"m", payload_}, {"r", r}}, payload_ * r * r,
                Kind::inertia, "point mass at its radius"));
        reflect(s, payload_ * r * r, m_.ratio);
        push(std::move(s));
    }
    void body(std::size_t i) {
        const Body& b = axis_.bodies[i];
        if (m_.motion.direct && b.place == BodyPlace::shaft) return; // there is no shaft
        const BodyValue v = body_value(b, machine_.materials, working_);
        std::string label = b.name.empty() ? std::string("Body ") + std::to_string(i + 1) : b.name;
        InertiaShare s;
        if (linear() && b.place == BodyPlace::load && m_.path != LoadModel::Path::winder) {
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
        if (j <= 0 || m_.motion.direct) return;
        InertiaShare s{"coupling", "Coupling", "given", j};
        reflect(s, j, m_.coupling_at_mechanism ? m_.ratio : 1);
        push(std::move(s));
    }
    // one on the motor's shaft counts with the rotor
    void brake() {
        const double j = axis_.brake.there() ? axis_.brake.inertia.value_or(0) : 0;
        if (j <= 0 || m_.motion.direct || axis_.brake.place != CouplingPlace::mechanism) return;
        InertiaShare s{"own_brake", "Brake", axis_.brake.name, j};
        reflect(s, j, m_.ratio);
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
        if (!axis_.driven() || m_.motion.direct) return;
        const auto add = [&](const char* key, const char* label, std::string detail, double j) {
            InertiaShare s{key, label, std::move(detail), j};
            s.at_shaft = j;
            s.rotor_side = true;
            out_.shares.push_back(std::move(s));
        };
        add("rotor", "Rotor", motor.name, motor.rotor_inertia.si);
        if (motor.encoder_inertia.value_or(0) > 0) add("encoder", "Encoder", "given", motor.encoder_inertia.si);
        if (motor.brake_inertia.value_or(0) > 0) add("brake", "Motor brake", "given", motor.brake_inertia.si);
        if (axis_.brake.there() && axis_.brake.place == CouplingPlace::motor && axis_.brake.inertia.value_or(0) > 0)
            add("own_brake", "Brake", axis_.brake.name, axis_.brake.inertia.si);
        out_.rotor = m_.rotor_inertia;
    }
};

} // namespace

bool load_known(const Axis& axis) {
    const auto* g = std::get_if<GivenDemand>(&axis.mechanism);
    return !g || g->inertia.given();
}

InertiaStatement inertia_statement(
    const Machine& machine, const Axis& axis, const std::vector<Carried>& over, bool with_working) {
    const LoadModel m = load_model(machine, axis);
    return Statement(machine, axis, m, over, with_working).take();
}

} // namespace fulmox
