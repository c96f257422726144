// Published and hand-worked values. Each names its source; tolerances follow the printed digits.
#include "core/demand/demand.h"
#include "core/drivetrain/screw_limits.h"
#include "core/load/screw.h"
#include "core/motion/trajectory.h"
#include "core/quantity/expression.h"
#include "tests/demo.h"
#include "tests/outside/record.h"

#include <cmath>

namespace fulmox::testing {

namespace {

double read(const char* text, Kind kind) {
    const auto r = read_quantity(text, kind, si_unit(kind));
    REQUIRE(r);
    return r->si;
}

double converted(const char* text, const char* unit) {
    const auto v = evaluate(text);
    REQUIRE(v);
    const auto c = convert(*v, *find_unit(unit));
    INFO(text << (c ? "" : c.error().message));
    REQUIRE(c);
    return *c;
}

} // namespace

TEST_CASE("conversion factors, NIST SP 811") {
    const char* nist = "NIST SP 811, appendix B";
    outside("1 lb·in²", nist, 2.926397e-4, read("1 lb·in²", Kind::inertia), 2e-7, "kg·m²");
    outside(
        "1 oz·in²", "computed from NIST SP 811 factors", 1.82899783e-5, read("1 oz·in²", Kind::inertia), 3e-9, "kg·m²");
    outside("1 ozf·in", nist, 7.061552e-3, read("1 ozf·in", Kind::torque), 1e-7, "N·m");
    outside("1 lbf·in", nist, 0.1129848, read("1 lbf·in", Kind::torque), 3e-7, "N·m");
    outside("1 lbf·ft", nist, 1.355818, read("1 lbf·ft", Kind::torque), 3e-7, "N·m");
    outside("1 kgf·cm", nist, 0.0980665, read("1 kgf·cm", Kind::torque), 1e-12, "N·m");
    outside("1 hp (550 ft·lbf/s)", nist, 745.6999, read("1 hp", Kind::power), 1e-7, "W");
}

TEST_CASE("power screw, Shigley example 8-1") {
    // double-start square thread, d 32 mm, pitch 4 mm, f = f_c = 0.08, d_c 40 mm, F 6.4 kN; d_m = 30 mm, l = 8 mm
    const char* shigley = "Shigley, Mechanical Engineering Design, ex. 8-1";
    const PowerScrewTorque t = power_screw_torque(6400, 0.008, 0.030, 0.08, 0, 0.08, 0.040);
    outside("power screw, torque to raise", shigley, 26.18, t.raise(), 2e-4, "N·m");
    outside("power screw, thread part", shigley, 15.94, t.thread_raise, 3e-4, "N·m");
    outside("power screw, collar part", shigley, 10.24, t.collar, 5e-4, "N·m");
    outside("power screw, torque to lower", shigley, 9.77, t.lower(), 5e-4, "N·m");
    Screw s;
    s.thread = Thread::trapezoidal;
    s.lead = Quantity<Kind::length>("2 * 4 mm");
    s.starts = Quantity<Kind::number>("2");
    s.diameter = Quantity<Kind::length>("32 mm");
    s.root_diameter = Quantity<Kind::length>("28 mm");
    s.thread_friction = Quantity<Kind::number>("0.08");
    s.flank_half_angle = Quantity<Kind::angle>("0 deg");
    s.collar_friction = Quantity<Kind::number>("0.08");
    s.collar_diameter = Quantity<Kind::length>("40 mm");
    outside("power screw, efficiency", shigley, 0.311, screw_efficiency(s, false).forward, 2e-3);
}

TEST_CASE("trapezoid coefficients, VDI 2143-1; Norton, Cam Design and Manufacturing Handbook") {
    const char* vdi = "VDI 2143-1; Norton, Cam Design and Manufacturing Handbook";
    const Profile third = profile_in_time(1, 1, 1.0 / 3, 1.0 / 3);
    outside("trapezoid 1/3, Cv", vdi, 1.5, third.peak_speed, 1e-12);
    outside("trapezoid 1/3, Ca", vdi, 4.5, third.peak_speed / third.up.duration, 1e-12);
    const Profile triangle = profile_in_time(1, 1, 0.5, 0.5);
    outside("triangle, Cv", vdi, 2, triangle.peak_speed, 1e-12);
    outside("triangle, Ca", vdi, 4, triangle.peak_speed / triangle.up.duration, 1e-12);
}

TEST_CASE("the 1/3 trapezoid heats 1.125 times the parabolic minimum") {
    // calculus of variations: least ∫a² for unit distance and time is 12 (parabolic velocity)
    Machine m = demo();
    for (const char* off : {"/load/guide_friction"}) set(m, off, "0");
    for (const char* off : {"/load/seal_drag", "/mechanism/preload_drag", "/mechanism/bearing_drag"}) set(m, off, "");
    set(m, "/load/inclination", "0 deg");
    set(m, "/mechanism/efficiency", "1");
    m.axes[0].cycle.segments.resize(1);
    const Assessment a = assess(m, 0);
    const double r = a.demand->load.radius;
    const double alpha = 0.4 / (0.75 * 0.75) / r; // d/T² at the shaft
    const double total = a.demand->load.own_inertia + a.demand->load.rotor_inertia + (11 + 24) * r * r;
    const double heat = std::pow(a.demand->rms_torque / (total * alpha), 2);
    outside("copper heat of the 1/3 trapezoid over the parabolic minimum", "calculus of variations", 1.125, heat / 12,
        1e-9);
}

TEST_CASE("screw critical speed, Euler–Bernoulli beam") {
    const double w = critical_speed(0.0283, 1.2, 206e9, 7850, EndFixity::fixed_supported);
    outside("critical speed, fixed–supported, root 28.3 mm, free 1200 mm, steel", "Euler–Bernoulli beam, λ = 3.927",
        3706, w * 60 / (2 * M_PI), 2e-4, "rpm");
    // the roots of the frequency equations themselves
    const double ff = bending_root(EndFixity::fixed_free), fs = bending_root(EndFixity::fixed_supported),
                 cc = bending_root(EndFixity::fixed_fixed);
    outside("fixed–free root: cos λ cosh λ", "Euler–Bernoulli beam", -1, std::cos(ff) * std::cosh(ff), 1e-12);
    outside("fixed–supported root: tan λ / tanh λ", "Euler–Bernoulli beam", 1, std::tan(fs) / std::tanh(fs), 1e-12);
    outside("fixed–fixed root: cos λ cosh λ", "Euler–Bernoulli beam", 1, std::cos(cc) * std::cosh(cc), 1e-11);
}

TEST_CASE("buckling, Euler") {
    // N of a fixed–pinned column: (4.4934/π)², the first root of tan x = x
    outside("Euler factor fixed–supported", "Euler; tan x = x", std::pow(4.493409457909064 / M_PI, 2),
        euler_factor(EndFixity::fixed_supported), 2e-4);
    const double inertia = M_PI * std::pow(0.0283, 4) / 64;
    outside("buckling, supported–supported, root 28.3 mm, 1000 mm", "Euler, π² E I/L²", M_PI * M_PI * 206e9 * inertia,
        buckling_load(0.0283, 1.0, 206e9, EndFixity::supported_supported), 1e-12, "N");
}

TEST_CASE("180 kg on a 5 mm lead, worked by hand") {
    const char* hand = "common practice, no source (worked by hand)";
    Machine m = demo();
    set(m, "/mechanism/lead", "5 mm");
    set(m, "/mechanism/root_diameter", "");
    set(m, "/mechanism/diameter", "25 mm");
    // 3.59 kg of steel of 25 mm diameter is 931.7 mm long
    set(m, "/mechanism/length", "3.59 kg / (7850 kg/m³ * pi/4 * 25 mm * 25 mm)");
    set(m, "/load/carriage_mass", "0 kg");
    set(m, "/load/payload", "180 kg");
    set(m, "/coupling/inertia", "");
    set(m, "/motor/rotor_inertia", "3.7 kg·cm²");
    set(m, "/motor/brake_inertia", "");
    m.axes[0].cycle.segments.resize(1);
    m.axes[0].cycle.segments[0].payload = {};
    const InertiaStatement s = inertia_statement(m, m.axes[0], over_cycle(m), false);
    for (const InertiaShare& i : s.shares)
        if (i.key == "payload")
            outside("180 kg on 5 mm lead", hand, 1.1399e-4, i.at_shaft, 5e-5, "kg·m²");
        else if (i.key == "screw")
            outside("screw 25 mm, 3.59 kg", hand, 2.805e-4, i.at_shaft, 2e-4, "kg·m²");
    outside("inertia ratio with a 3.7e-4 rotor", hand, 1.066, s.ratio(), 3e-4);
    const double r = load_model(m, m.axes[0]).radius;
    // the printed 9.42 N·m is all inertia at that acceleration, to its three digits
    outside("shaft acceleration at 9.81 m/s²", hand, 12328, 9.81 / r, 4.1e-5, "rad/s²");
    outside("torque for it", hand, 9.42, (s.load + s.rotor) * 9.81 / r, 1e-3, "N·m");
}

TEST_CASE("arithmetic of the trade") {
    outside(
        "50 000 steps/rev at 300 rpm", "arithmetic", 250, converted("50000 steps/rev * 300 rpm", "kHz"), 1e-12, "kHz");
    outside(
        "2000 mm/min on a 20 mm lead", "arithmetic", 100, converted("2000 mm/min / (20 mm/rev)", "rpm"), 1e-12, "rpm");
}

} // namespace fulmox::testing
