// Laws, S-curves, cranks and winders against published coefficients and scipy.
#include "core/motion/laws.h"
#include "tests/mechanisms.h"
#include "tests/outside/record.h"

#include <cmath>
#include <nlohmann/json.hpp>

using namespace fulmox;
using namespace fulmox::testing;

namespace {

const nlohmann::json& scipy() {
    static const nlohmann::json answer = [] {
        const std::string out = output_of(
            "/usr/bin/python3 '" + std::string(FULMOX_SOURCE_DIR) + "/tests/outside/motion_and_cranks.py' 2>&1");
        INFO(out);
        nlohmann::json j = nlohmann::json::parse(out, nullptr, false);
        REQUIRE(!j.is_discarded());
        return j;
    }();
    return answer;
}

// A level site, no losses, no rotor: what is left is the mechanism.
void only_the_mechanism(Machine& m, double process = 0) {
    Axis& a = m.axes[0];
    a.motor = Motor{};
    a.load.payload = Quantity<Kind::mass>("0 kg");
    a.load.guide_friction = Quantity<Kind::number>("0");
    a.load.seal_drag = {};
    a.load.viscous = {};
    a.load.counterbalance = {};
    m.site.gravity = Quantity<Kind::acceleration>("9.80665 m/s²");
    static_cast<void>(process);
    for (Segment& s : a.cycle.segments) s.payload = {};
    set(m, "/mechanism/losses/efficiency", "1");
}

void one_turn_at_20_rad_s(Machine& m) {
    Cycle c;
    c.start_speed = MotionQuantity<Order::speed>("20 rad/s");
    ConstantSpeed on;
    on.distance = MotionQuantity<Order::position>("1 rev");
    Segment s;
    s.what = on;
    c.segments = {s};
    m.axes[0].cycle = c;
}

} // namespace

TEST_CASE("Cv, Ca, Cj of every law, as printed") {
    // handbook 02; VDI 2143-1; Norton, Cam Design and Manufacturing Handbook. Cr by quadrature.
    const struct {
        Law law;
        const char* name;
        double cv, ca, cr, cj;
    } rows[] = {{Law::trapezoid, "trapezoid 1/3", 1.5, 4.5, 3.6742, 0},
        {Law::parabolic, "parabolic", 1.5, 6, 3.4641, 0},
        {Law::simple_harmonic, "simple harmonic", 1.5708, 4.9348, 3.4894, 0},
        {Law::cycloidal, "cycloidal", 2, 6.2832, 4.4429, 39.48},
        {Law::modified_trapezoid, "modified trapezoid", 2, 4.8881, 4.2332, 61.43},
        {Law::modified_sine, "modified sine", 1.7596, 5.5280, 3.9089, 69.47},
        {Law::polynomial_345, "polynomial 3-4-5", 1.875, 5.7735, 4.1404, 60},
        {Law::polynomial_4567, "polynomial 4-5-6-7", 2.1875, 7.5132, 5.0452, 52.5}};
    for (const auto& r : rows) {
        const LawCoefficients c = coefficients(unit_law(r.law));
        const std::string source = "VDI 2143-1; Norton";
        outside(std::string("Cv, ") + r.name, source, r.cv, c.cv, 5e-5);
        outside(std::string("Ca, ") + r.name, source, r.ca, c.ca, 5e-5);
        outside(std::string("Cr, ") + r.name, "quadrature, as tabled", r.cr, c.cr, 5e-5);
        if (r.cj > 0)
            outside(std::string("Cj, ") + r.name, source, r.cj, c.cj, 2e-4);
        else
            CHECK(std::isinf(c.cj));
    }
    const LawCoefficients triangle = coefficients(unit_law(Law::trapezoid, 0.5, 0.5));
    outside("Ca, triangle", "VDI 2143-1", 4, triangle.ca, 1e-12);
    const double third = coefficients(unit_law(Law::trapezoid)).cr, least = coefficients(unit_law(Law::parabolic)).cr;
    outside("heat of the 1/3 trapezoid over the least possible", "calculus of variations", 1.125,
        third * third / (least * least), 1e-12);
    for (std::size_t k = 0; k < std::size(laws); ++k)
        if (scipy()["cr"].contains(laws[k].key))
            outside(std::string("Cr, ") + laws[k].key, "scipy.integrate.quad", scipy()["cr"][laws[k].key],
                coefficients(unit_law(static_cast<Law>(k))).cr, 1e-9);
}

TEST_CASE("S-curve times against a numerical optimiser") {
    double largest = 0;
    int n = 0;
    for (const auto& c : scipy()["s_curves"]) {
        const double ours = profile_by_limits(c["d"], c["v"], c["a"], c["b"], c["j"]).duration();
        largest = std::max(largest, std::abs(ours / c["time"].get<double>() - 1));
        CHECK(ours <= c["time"].get<double>() * (1 + 1e-6));
        ++n;
    }
    outside_many("least time within speed, acceleration and jerk limits", "scipy.optimize.minimize_scalar, nested", n,
        largest, 1e-7);
}

TEST_CASE("slider-crank and Scotch yoke at constant speed, lifting") {
    for (const char* key : {"slider_crank", "scotch_yoke"}) {
        Machine m = machine_with(key);
        only_the_mechanism(m);
        set(m, "/load/carriage_mass", "12 kg");
        set(m, "/load/inclination", "90 deg");
        one_turn_at_20_rad_s(m);
        const Demand d = demand_of(m);
        const std::string name = key;
        const auto& s = scipy()[name == "slider_crank" ? "crank" : "yoke"];
        outside(
            "RMS torque, " + name, "scipy.integrate.quad of force times dx/dθ", s["rms"], d.rms_torque, 1e-9, "N·m");
        if (s.contains("peak"))
            outside("largest torque, " + name, "numpy, 200 000 samples a turn", s["peak"], std::abs(d.peak.torque),
                1e-8, "N·m");
        // power balance: over a turn nothing is left
        CHECK(d.energy_delivered == Approx(d.energy_returned).epsilon(1e-9));
    }
}

TEST_CASE("a winder from empty to full in one cycle") {
    Machine m = machine_with("winder");
    only_the_mechanism(m);
    set(m, "/mechanism/web_thickness", "0.5 mm");
    set(m, "/mechanism/web_density", "1000 kg/m³");
    const Winder& w = std::get<Winder>(m.axes[0].mechanism);
    const auto& s = scipy()["winder"];
    outside("web on a full roll", "π (R² − R_core²)/h", s["length"], full_web(w), 1e-12, "m");
    MoveInTime move;
    move.distance = MotionQuantity<Order::position>(std::to_string(full_web(w)) + " m");
    move.distance.si = full_web(w);
    move.duration = Quantity<Kind::time>("60 s");
    move.law = Law::cycloidal;
    Segment only;
    only.what = move;
    m.axes[0].cycle.segments = {only};
    const Demand d = demand_of(m);
    outside("RMS torque of a winder over a whole roll", "scipy.integrate.quad", s["rms"], d.rms_torque, 1e-6, "N·m");
    outside("top speed of the roll", "numpy, 60 000 samples", s["top"], d.peak_speed, 1e-4, "rad/s");
}

TEST_CASE("a rack, a belt and a feed by plain arithmetic") {
    Machine m = machine_with("rack");
    // pinion of 30 teeth, module 2: 188.5 mm a turn; 3000 rpm through a ratio of 5
    const double turn = 2 * M_PI * load_model(m, m.axes[0]).radius;
    outside("pinion circumference, z 30, m 2", "π m z", 0.18849556, turn, 1e-7, "m");
    outside(
        "axis speed, 3000 rpm, i 5", "arithmetic", 3000.0 / 5 * 0.18849556 / 60, 3000 / 60.0 / 5 * turn, 1e-7, "m/s");
    std::get<RackPinion>(m.axes[0].mechanism).cut = Teeth::helical;
    // 19.5283° makes 30 teeth of normal module 2 travel 200 mm
    outside("helical pinion, 19.5283°, z 30, m_n 2", "π z m_n/cos β", 0.2, 2 * M_PI * load_model(m, m.axes[0]).radius,
        2e-6, "m");
    m = machine_with("belt");
    outside("belt, z 32, pitch 5 mm", "z p", 0.16, 2 * M_PI * load_model(m, m.axes[0]).radius, 1e-12, "m");
}
