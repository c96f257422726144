// What a sheet's curves, windings and built-in parts come to; the catalogue judged and filtered; the limits of bus,
// shaft and voltage.
#include "core/files/curve_text.h"
#include "core/files/project.h"
#include "core/match/assess.h"
#include "core/match/candidates.h"
#include "core/motor/curves.h"
#include "core/motor/windings.h"
#include "tests/demo.h"
#include "tests/drivetrain.h"

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

const Limit& limit_at(const Assessment& a, const char* key) {
    const Limit* l = a.limit(key);
    if (!l) throw std::runtime_error(key);
    return *l;
}

bool says(const Problems& problems, const char* field, const char* words) {
    return std::any_of(problems.begin(), problems.end(),
        [&](const Problem& p) { return p.field == field && p.message.find(words) != std::string::npos; });
}

const SheetPair* pair_named(const std::vector<SheetPair>& pairs, const char* key) {
    for (const SheetPair& p : pairs)
        if (p.key == key) return &p;
    return nullptr;
}

Motor lift_motor() { return demo().axes[0].motor; }

} // namespace

TEST_CASE("a curve that its constants do not make is named with where, by how much and why") {
    Motor m = lift_motor();
    REQUIRE(pair_named(check_curves(m), "peak/constants"));
    CHECK(pair_named(check_curves(m), "peak/constants")->verdict == Verdict::agrees);
    CHECK(pair_named(check_curves(m), "continuous/ratings")->verdict == Verdict::agrees);
    SECTION("drawn at a higher bus") {
        m.curve_voltage = Quantity<Kind::voltage>("280 V");
        const auto pairs = check_curves(m);
        const SheetPair* p = pair_named(pairs, "peak/constants");
        REQUIRE(p);
        CHECK(p->verdict == Verdict::contradicts);
        CHECK(p->factor > 1.1);
        CHECK_THAT(p->note, Contains("higher bus"));
        // the axis says so too
        Machine machine = demo();
        machine.axes[0].motor = m;
        CHECK(says(assess(machine, 0).problems, "Datasheet", "Peak curve against constants"));
        CHECK(!says(assess(demo(), 0).problems, "Datasheet", ""));
    }
    SECTION("cut short by a drive") {
        m.peak.back().torque = Quantity<Kind::torque>("1.0 N·m");
        const auto pairs = check_curves(m);
        CHECK(pair_named(pairs, "peak/constants")->factor < 0.9);
        CHECK_THAT(pair_named(pairs, "peak/constants")->note, Contains("reserve of voltage"));
    }
    SECTION("peak amperes for RMS ones show below the knee") {
        std::get<SineMotor>(m.electric).amperes = AmperesAs::peak;
        const auto pairs = check_curves(m);
        CHECK(pair_named(pairs, "peak/constants")->factor == Approx(std::sqrt(2.0)).epsilon(0.02));
        CHECK_THAT(pair_named(pairs, "peak/constants")->note, Contains("another convention"));
    }
    SECTION("a continuous curve of another rating") {
        for (CurvePoint& p : m.continuous) p.torque.si *= 1.2;
        CHECK(pair_named(check_curves(m), "continuous/ratings")->verdict == Verdict::contradicts);
    }
    SECTION("half typed points are not compared") {
        m.peak[1].torque = Quantity<Kind::torque>();
        CHECK(!pair_named(check_curves(m), "peak/constants"));
    }
}

TEST_CASE("four numbers make the curves, and name what they wait for") {
    Motor m;
    auto& s = std::get<SineMotor>(m.electric);
    s.stall_torque = Quantity<Kind::torque>("2 N·m");
    s.rated_torque = Quantity<Kind::torque>("1.6 N·m");
    s.rated_speed = Quantity<Kind::angular_speed>("3000 rpm");
    CHECK(curves_from_ratings(m).error() == "waits for: peak torque, maximum speed");
    s.peak_torque = Quantity<Kind::torque>("6 N·m");
    m.max_speed = Quantity<Kind::angular_speed>("4500 rpm");
    const auto made = curves_from_ratings(m);
    REQUIRE(made);
    // T² falls by the square of the speed: 4 − 1.44 (n/3000)²
    for (const CurvePoint& p : made->continuous) {
        const double n = p.speed.si * 30 / M_PI;
        CHECK(p.torque.si == Approx(std::sqrt(4 - 1.44 * n * n / 9e6)).epsilon(5e-4)); // four digits
    }
    CHECK(made->continuous.back().speed.si * 30 / M_PI == Approx(4500));
    REQUIRE(made->peak.size() == 3);
    CHECK(made->peak[1].torque.si == Approx(6));
    CHECK(made->peak[2].torque.si == Approx(made->continuous.back().torque.si));
    s.rated_torque = Quantity<Kind::torque>("2.1 N·m");
    CHECK_THAT(curves_from_ratings(m).error(), Contains("above the standstill torque"));
    s.rated_torque = Quantity<Kind::torque>("1.6 N·m");
    s.peak_torque = Quantity<Kind::torque>("1.9 N·m");
    CHECK_THAT(curves_from_ratings(m).error(), Contains("below the standstill torque"));
    m.electric = LinearForcer();
    CHECK_THAT(curves_from_ratings(m).error(), Contains("linear motor"));
}

TEST_CASE("another winding of a frame gives the same torque at as many times the volts and as much less current") {
    const Machine machine = demo();
    const Motor one = lift_motor(), two = rewound(one, 2);
    const MotorNumbers a = motor_numbers(one), b = motor_numbers(two);
    CHECK(b.k == Approx(2 * a.k));
    CHECK(b.resistance == Approx(4 * a.resistance));
    CHECK(b.inductance == Approx(4 * a.inductance));
    CHECK(b.peak_current == Approx(a.peak_current / 2));
    CHECK(b.motor_constant() == Approx(a.motor_constant()).epsilon(1e-6));
    for (const SheetPair& p : check_sheet(two)) {
        INFO(p.label);
        CHECK(p.verdict == Verdict::agrees);
    }
    Machine doubled = machine;
    doubled.axes[0].motor = two;
    doubled.axes[0].drive.bus_voltage = Quantity<Kind::voltage>("640 V");
    const Assessment was = assess(machine, 0), is = assess(doubled, 0);
    for (const char* key : {"peak_torque", "continuous_loss", "speed", "voltage", "motor_current"}) {
        INFO(key);
        CHECK(limit_at(is, key).utilisation() == Approx(limit_at(was, key).utilisation()).epsilon(1e-4));
    }
    CHECK(is.motor->rms_current == Approx(was.motor->rms_current / 2).epsilon(1e-4));
    // the texts are what counts: reading the file again changes nothing
    const auto again = read_project(write_project(doubled));
    REQUIRE(again);
    CHECK(motor_numbers(again->machine.axes[0].motor).k == motor_numbers(doubled.axes[0].motor).k);
    // tolerances are shares, and stay
    Motor loose = one;
    std::get<SineMotor>(loose.electric).resistance = Quantity<Kind::resistance>("5 Ω ± 10 %");
    CHECK(std::get<SineMotor>(rewound(loose, 3).electric).resistance.tolerance == Approx(4.5));
}

TEST_CASE("which winding fits is bounded by the drive's current and the bus, and agrees with the assessment of each") {
    Machine m = demo();
    const auto limit_drive = [&](double continuous,
                                 double most) { // copies of a machine share axes: no reference is kept
        m.axes[0].drive.continuous_current = Quantity<Kind::current>(std::to_string(continuous) + " A");
        m.axes[0].drive.peak_current = Quantity<Kind::current>(std::to_string(most) + " A");
    };
    const Assessment a = assess(m, 0);
    const double peak = a.motor->peak_current;
    WindingChoice w = winding_choice(m.axes[0].motor, &*a.motor, 1);
    CHECK(std::isnan(w.least));
    CHECK(w.most == Approx(1 / limit_at(a, "voltage").utilisation()));
    limit_drive(peak, peak / 0.8);
    const Assessment with = assess(m, 0);
    w = winding_choice(m.axes[0].motor, &*with.motor, 1);
    CHECK(w.least == Approx(0.8));
    CHECK_THAT(w.words, Contains("this winding is among them"));
    for (const Winding& row : w.rows) {
        Machine other = m;
        other.axes[0].motor = rewound(m.axes[0].motor, row.turns);
        const Assessment of = assess(other, 0);
        INFO(row.turns);
        CHECK(limit_at(of, "voltage").utilisation() == Approx(row.voltage_use).epsilon(1e-4));
        CHECK(limit_at(of, "drive_current").utilisation() == Approx(row.current_use).epsilon(1e-4));
    }
    limit_drive(peak / 4, peak / 3);
    const Assessment starved = assess(m, 0);
    CHECK_THAT(winding_choice(m.axes[0].motor, &*starved.motor, 1).words, Contains("No winding"));
    CHECK(winding_choice(Motor(), nullptr, 1).missing == "a torque, voltage or speed constant");
    // without a cycle the family is listed and says what it waits for
    const WindingChoice bare = winding_choice(m.axes[0].motor, nullptr, 1);
    CHECK(bare.rows.size() == listed_turns().size());
    CHECK_THAT(bare.words, Contains("waits for"));
    CHECK(std::isnan(bare.rows[0].voltage_use));
}

TEST_CASE("mains low and a supply that droops take from the bus, in every limit that rests on it") {
    Machine m = demo();
    const Assessment was = assess(m, 0);
    m.axes[0].drive.mains_tolerance = Quantity<Kind::number>("10 %");
    m.axes[0].drive.bus_droop = Quantity<Kind::number>("5 %");
    const Assessment is = assess(m, 0);
    CHECK(limit_at(is, "voltage").allowed == Approx(0.95 * 320 * 0.9 * 0.95)); // with its usual reserve
    CHECK(limit_at(is, "voltage").used == Approx(limit_at(was, "voltage").used));
    CHECK(is.can->speed_scale == Approx(0.9 * 0.95));
    CHECK(limit_at(is, "peak_torque").allowed < limit_at(was, "peak_torque").allowed);
    // a bus with nothing said is the lowest already
    CHECK(limit_at(was, "voltage").allowed == Approx(0.95 * 320));
    // a share that the policy asks to keep
    m.policies[0].voltage_share = Quantity<Kind::number>("80 %");
    CHECK(limit_at(assess(m, 0), "voltage").state == LimitState::tight);
}

TEST_CASE("the voltage a cycle needs is that of its worst instant, cold or hot") {
    Machine m = demo();
    m.axes[0].drive.cold = Quantity<Kind::temperature>("-20 °C");
    const Assessment a = assess(m, 0);
    const MotorNumbers n = motor_numbers(m.axes[0].motor);
    // sampled from the demand, by the voltage equation
    double most = 0;
    for (const double celsius : {-20.0, 155.0}) {
        const double k = n.k * (1 - 0.0011 * (celsius - 20)), r = n.resistance / 2 * (235 + celsius) / 255;
        for (const SpanSamples& s : a.demand->samples)
            for (std::size_t i = 0; i < s.torque.size(); ++i) {
                const double iq = s.torque[i] / (1.5 * k), w = s.speed[i];
                most = std::max(
                    most, std::sqrt(3.0) * std::hypot(r * iq + k * w, n.pole_pairs * w * n.inductance / 2 * iq));
            }
    }
    CHECK(limit_at(a, "voltage").used == Approx(most).epsilon(1e-6));
    // where the drive weakens the field it makes do with what there is
    m.axes[0].drive.field_weakening = true;
    CHECK(!assess(m, 0).limit("voltage"));
}

TEST_CASE("currents of a cycle that the bus does not reach cannot fit, and may still be over") {
    // where the field cannot be weakened far enough no current is known; those of the rest are too low
    Machine m = demo();
    Axis& a = m.axes[0];
    a.drive.field_weakening = true;
    a.drive.continuous_current = Quantity<Kind::current>("8 A");
    a.drive.peak_current = Quantity<Kind::current>("16 A");
    a.drive.peak_time = Quantity<Kind::time>("2 s");
    const std::vector<std::string> keys{"motor_current", "drive_current", "drive_overload"};
    for (const std::string& key : keys) {
        INFO(key);
        CHECK(limit_at(assess(m, 0), key.c_str()).state == LimitState::fits);
    }
    a.drive.bus_voltage = Quantity<Kind::voltage>("24 V");
    const Assessment low = assess(m, 0);
    REQUIRE(low.motor->beyond_voltage);
    for (const std::string& key : keys) {
        INFO(key);
        CHECK(limit_at(low, key.c_str()).state == LimitState::cannot_say);
        CHECK_THAT(limit_at(low, key.c_str()).reason.in(UnitSystem::si), Contains("does not reach all of the cycle"));
    }
    a.drive.continuous_current = Quantity<Kind::current>("0.5 A");
    a.drive.peak_current = Quantity<Kind::current>("0.6 A");
    CHECK(limit_at(assess(m, 0), "drive_current").state == LimitState::over);
}

TEST_CASE("a drive that is derated to nothing gives nothing, whichever of its currents is said") {
    Machine m = demo();
    Drive& d = m.axes[0].drive;
    m.site.ambient = Quantity<Kind::temperature>("45 °C");
    d.derates_from = Quantity<Kind::temperature>("20 °C");
    d.derating_rate = Quantity<Kind::number>("5 %");
    for (const bool peak : {false, true}) {
        d.continuous_current = peak ? Quantity<Kind::current>() : Quantity<Kind::current>("8 A");
        d.peak_current = peak ? Quantity<Kind::current>("16 A") : Quantity<Kind::current>();
        const Limit& l = limit_at(assess(m, 0), "drive_current");
        CHECK(l.state == LimitState::over);
        CHECK(l.allowed == 0);
    }
}

TEST_CASE("an encoder turns with the rotor, a derating takes from what runs continuously, and the shaft has a limit") {
    Machine m = demo();
    const Assessment was = assess(m, 0);
    Motor& motor = m.axes[0].motor;
    motor.encoder_inertia = Quantity<Kind::inertia>("0.2 kg·cm²");
    motor.derating = Quantity<Kind::number>("80 %");
    motor.shaft_torque = Quantity<Kind::torque>("1.2 N·m");
    const Assessment is = assess(m, 0);
    CHECK(is.inertia->rotor - was.inertia->rotor == Approx(0.2e-4));
    CHECK(limit_at(is, "inertia_ratio").used < limit_at(was, "inertia_ratio").used);
    CHECK(limit_at(is, "holding").allowed == Approx(0.8 * limit_at(was, "holding").allowed));
    // what the derating takes from the heat at rest it takes at every speed: T_c(0)² (1 − 0.64)
    const auto square = [](double x) { return x * x; };
    CHECK(square(limit_at(was, "continuous_loss").allowed) - square(limit_at(is, "continuous_loss").allowed) ==
          Approx(0.36 * square(limit_at(was, "holding").allowed)));
    CHECK(limit_at(is, "peak_torque").allowed == Approx(limit_at(was, "peak_torque").allowed));
    CHECK(
        limit_at(is, "shaft").used == Approx(std::max(std::abs(is.demand->peak.torque), is.demand->emergency_torque)));
    CHECK(limit_at(is, "shaft").state == LimitState::over);
    // without points of the sheet the same
    for (Machine* each : {&m}) each->axes[0].motor.continuous.clear();
    Machine plain = m;
    plain.axes[0].motor.derating = {};
    CHECK(limit_at(assess(m, 0), "holding").allowed == Approx(0.8 * limit_at(assess(plain, 0), "holding").allowed));
    motor.shaft_torque = {};
    CHECK(!assess(m, 0).limit("shaft"));
}

TEST_CASE("a winding for 24 V does not fit a bus of 320 V") {
    Machine m = demo();
    auto& fan = m.axes[8];
    const Assessment was = assess(m, 8);
    CHECK(limit_at(was, "bus_rating").state == LimitState::fits);
    const double rated = std::get<BrushedMotor>(fan.motor.electric).rated_voltage.si;
    fan.drive.bus_voltage = Quantity<Kind::voltage>(std::to_string(2 * rated + 1) + " V");
    CHECK(limit_at(assess(m, 8), "bus_rating").state == LimitState::over);
    std::get<BrushedMotor>(fan.motor.electric).rated_voltage = {};
    CHECK(!assess(m, 8).limit("bus_rating"));
}

TEST_CASE("a block-commutated motor beyond its straight line says so") {
    Machine m = demo();
    CHECK(!says(assess(m, 9).problems, "Commutation", ""));
    auto& b = std::get<BlockMotor>(m.axes[9].motor.electric);
    b.inductance = Quantity<Kind::inductance>("20 mH");
    CHECK(says(assess(m, 9).problems, "Commutation", "ω_e L/R"));
    const Assessment a = assess(m, 9);
    const MotorNumbers n = motor_numbers(m.axes[9].motor);
    CHECK(a.can->model->commutation(a.demand->peak_speed) ==
          Approx(n.pole_pairs * a.demand->peak_speed * 0.02 / n.resistance));
    b.inductance = {}; // not known: nothing is said
    CHECK(!says(assess(m, 9).problems, "Commutation", ""));
    CHECK(std::isnan(assess(m, 9).can->model->commutation(100)));
}

TEST_CASE("the cheapest that carries comes first, and a filter lets through what is known to pass") {
    Candidate fits, tight, over, far_over, unknown;
    fits.state = LimitState::fits;
    tight.state = LimitState::tight;
    over.state = far_over.state = LimitState::over;
    over.tightest = 1.1;
    far_over.tightest = 3;
    unknown.tightest = std::nan("");
    Motor cheap, dear, free;
    cheap.price = Quantity<Kind::number>("100");
    dear.price = Quantity<Kind::number>("900");
    const std::vector<const Motor*> motors{&cheap, &dear, &cheap, &dear, &cheap, &free};
    const auto order = cheapest_first(motors, {far_over, fits, unknown, over, tight, fits});
    CHECK(order == std::vector<std::size_t>{4, 1, 5, 2, 3, 0});

    const Motor lift = lift_motor();
    CHECK(passes(lift, {}));
    CHECK(MotorFilter().empty());
    const auto with = [&](auto set) {
        MotorFilter f;
        set(f);
        CHECK(!f.empty());
        return passes(lift, f);
    };
    CHECK(with([](MotorFilter& f) { f.words = "wren SINE"; }));
    CHECK(!with([](MotorFilter& f) { f.words = "wren brushed"; }));
    CHECK(with([](MotorFilter& f) { f.kind = "sine"; }));
    CHECK(!with([](MotorFilter& f) { f.kind = "linear"; }));
    CHECK(with([](MotorFilter& f) { f.series = "Wren"; }));
    CHECK(!with([](MotorFilter& f) { f.series = "Heron"; }));
    CHECK(with([](MotorFilter& f) { f.frame = 0.06; }));
    CHECK(!with([](MotorFilter& f) { f.frame = 0.059; }));
    CHECK(with([](MotorFilter& f) { f.brake = true; }));
    CHECK(!with([](MotorFilter& f) { f.brake = false; }));
    CHECK(with([](MotorFilter& f) { f.voltage = 310; }));
    CHECK(!with([](MotorFilter& f) { f.voltage = 48; }));
    CHECK(!with([](MotorFilter& f) { f.price = 500; }));
    CHECK(with([](MotorFilter& f) { f.mass = 2; }));
    Motor bare;
    MotorFilter light;
    light.mass = 2;
    CHECK(!passes(bare, light)); // its mass is not known
}

TEST_CASE("a pasted curve is read with or without headings, whatever the separator, and names the rows it leaves out") {
    const CurveText plain = read_curve_text("0\t3,5\n3000\t3,5\n6000 rpm\t1,2 N·m\n");
    REQUIRE(plain.rows.size() == 3);
    CHECK(plain.wrong.empty());
    CHECK(plain.rows[1].speed == "3000 rpm");
    CHECK(plain.rows[1].first == "3.5 N·m");
    CHECK(plain.second == CurveText::Second::none);
    const CurveText three = read_curve_text("n [rad/s],peak [oz·in],continuous [oz·in]\n0,500,150\n314.16,480,120\n");
    REQUIRE(three.rows.size() == 2);
    CHECK(three.second == CurveText::Second::continuous);
    CHECK(three.rows[1].speed == "314.16 rad/s");
    CHECK(three.rows[1].first == "480 oz·in");
    CHECK(three.rows[1].second == "120 oz·in");
    const CurveText turned = read_curve_text("peak torque (N·m);speed (rpm)\n4;0\n2;3000\n");
    REQUIRE(turned.rows.size() == 2);
    CHECK(turned.first_is == "peak");
    CHECK(turned.rows[1].speed == "3000 rpm");
    CHECK(turned.rows[1].first == "2 N·m");
    CHECK(read_curve_text("0,1,3\n1000,0.9,3\n").second == CurveText::Second::peak);
    // good rows stay
    const CurveText mixed =
        read_curve_text("# of a sheet\n0;2\nfast;2\n1000;-1\n2000;1;3\n3000;1 kg\n4000;0,5\n5000\n");
    REQUIRE(mixed.rows.size() == 2);
    CHECK(mixed.rows[1].first == "0.5 N·m");
    REQUIRE(mixed.wrong.size() == 5);
    CHECK_THAT(mixed.wrong[0], Contains("line 3, speed: \"fast\""));
    CHECK_THAT(mixed.wrong[1], Contains("line 4, torque"));
    CHECK_THAT(mixed.wrong[2], Contains("line 5 has 3 columns"));
    CHECK_THAT(mixed.wrong[3], Contains("line 6, torque"));
    CHECK_THAT(mixed.wrong[4], Contains("line 8 has 1 column"));
    CHECK_THAT(read_curve_text("speed [kg];torque [N·m]\n1;2\n").wrong.at(0), Contains("\"kg\" of the heading"));
    CHECK(read_curve_text("").rows.empty());
    CHECK(read_curve_text("\xEF\xBB\xBF"
                          "0,1\r\n100,1\r\n")
              .rows.size() == 2);
    // headings that have digits in their units are headings all the same
    CHECK(read_curve_text("T_S1,n [min-1]\n").rows.empty());
}

TEST_CASE("a voltage of which a part is not known may be over, but never fits") {
    Machine m = demo();
    auto& sine = std::get<SineMotor>(m.axes[0].motor.electric);
    sine.inductance = {};
    // the sheet's own curve speaks for it
    CHECK(!assess(m, 0).limit("voltage"));
    m.axes[0].motor.peak.clear();
    const Assessment without = assess(m, 0);
    CHECK(limit_at(without, "voltage").state == LimitState::cannot_say);
    CHECK_THAT(limit_at(without, "voltage").reason.in(UnitSystem::si), Contains("inductance"));
    set(m, "/drive/bus_voltage", "150 V");
    CHECK(limit_at(assess(m, 0), "voltage").state == LimitState::over);
}

TEST_CASE("a sheet that contradicts itself draws torque by the smaller and voltage by the larger constant") {
    // 5.8 lb-in/A and 48.5 V/krpm between lines: the torque constant implied is 0.802 N·m/A (1.5 √2/√1.5 times V·s/rad)
    Machine m = demo();
    Axis& a = m.axes[0];
    a.drive.mains_tolerance = a.drive.bus_droop = {};
    a.drive.bus_voltage = Quantity<Kind::voltage>("325 V");
    a.motor.peak.clear();
    a.motor.continuous.clear();
    SineMotor e;
    e.torque_constant = Quantity<Kind::torque_constant>("5.8 lb-in/A");
    e.voltage_constant = Quantity<Kind::voltage_constant>("48.5 V/krpm");
    e.resistance = Quantity<Kind::resistance>("1.9 Ω");
    e.inductance = Quantity<Kind::inductance>("8.2 mH");
    e.pole_pairs = Quantity<Kind::number>("4");
    e.stall_torque = Quantity<Kind::torque>("24 lb-in");
    e.peak_torque = Quantity<Kind::torque>("72 lb-in");
    e.peak_current = Quantity<Kind::current>("12.4 A");
    a.motor.electric = e;
    const double kt = 5.8 * 0.112984829, ke = 48.5 / (1000 * 2 * half_circle / 60);
    const MotorNumbers n = motor_numbers(a.motor);
    REQUIRE(n.contradicts());
    CHECK(n.k_torque == Approx(kt / (1.5 * std::sqrt(2.0))));
    CHECK(n.k_emf == Approx(ke / std::sqrt(1.5)));
    const SheetPair* pair = pair_named(check_sheet(a.motor), "torque_constant/voltage_constant");
    REQUIRE(pair);
    CHECK(pair->implied == Approx(0.802).epsilon(2e-3));
    const auto of = [](const Machine& machine) { return assess(machine, 0); };
    const Assessment now = of(m);
    REQUIRE(now.can);
    REQUIRE(now.can->model);
    // torque of the current by 5.8 lb-in/A, no-load speed of the bus by 48.5 V/krpm, cold
    CHECK(now.can->model->torque_of(10, false) == Approx(10 * kt).epsilon(1e-3));
    const double volts = 325 / std::sqrt(3.0) * 0.95;
    CHECK(now.can->model->no_load_speed(false) == Approx(volts / n.k_emf).epsilon(1e-9));
    CHECK_THAT(limit_at(now, "peak_torque").reason.in(UnitSystem::si),
        Contains("the sheet contradicts itself: until a reading is taken torque by the torque constant, voltage by the "
                 "voltage constant"));
    // by either alone the curve gives more somewhere, and nowhere less
    const auto alone = [&](bool torque) {
        Machine one = m;
        auto& held = std::get<SineMotor>(one.axes[0].motor.electric);
        if (torque)
            held.voltage_constant = {};
        else
            held.torque_constant = {};
        return of(one);
    };
    const Assessment by_torque = alone(true), by_voltage = alone(false);
    CHECK_THAT(limit_at(by_torque, "peak_torque").reason.in(UnitSystem::si), !Contains("contradicts itself"));
    bool more_t = false, more_v = false;
    for (double rpm = 0; rpm < 4500; rpm += 250) {
        const double w = rpm * 2 * half_circle / 60;
        const auto at = [&](const Assessment& x) { return x.can->model->peak(w, Quadrant::motoring).torque; };
        INFO(rpm << " rpm");
        CHECK(at(now) <= at(by_torque) * (1 + 1e-9));
        CHECK(at(now) <= at(by_voltage) * (1 + 1e-9));
        more_t = more_t || at(by_torque) > at(now) * 1.01;
        more_v = more_v || at(by_voltage) > at(now) * 1.01;
    }
    CHECK(more_t);
    CHECK(more_v);
    // the reading is taken: amperes peak of the current; the contradiction and its words are gone
    std::get<SineMotor>(a.motor.electric).torque_constant = Quantity<Kind::torque_constant>("0.802 N·m/A");
    CHECK(!motor_numbers(a.motor).contradicts());
    CHECK_THAT(limit_at(of(m), "peak_torque").reason.in(UnitSystem::si), !Contains("contradicts itself"));
}
