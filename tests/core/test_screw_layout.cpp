// The plan of a screw with its ends, and its drawing.
#include "core/drivetrain/screw_layout.h"
#include "core/drivetrain/screw_limits.h"
#include "core/drivetrain/stepped_shaft.h"
#include "core/files/project.h"
#include "tests/demo.h"

#include <cmath>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;
using Catch::Matchers::WithinAbs;
using Catch::Matchers::WithinRel;

namespace {

Screw& screw_of(Axis& a) { return std::get<Screw>(a.mechanism); }

std::string warnings(const Axis& a, double stroke = 0.4) {
    std::string out;
    const ScrewLayout l = screw_layout(a, stroke);
    INFO(l.missing);
    REQUIRE(l.missing.empty());
    for (const Text& w : l.warnings) out += w.in(UnitSystem::si) + "\n";
    return out;
}

} // namespace

TEST_CASE("the plan of a screw adds up, by hand") {
    Axis a = demo().axes[0];
    std::get<Screw>(a.mechanism).yield_strength = {}; // Euler alone
    const ScrewLayout l = screw_layout(a, 0.4);
    REQUIRE(l.missing.empty());
    // drive end 34 + 18 + 42, thread 400 + 300 + 2·17.4, far end 9 + groove and edge of DIN 471 for 15 mm, 1.1 + 1.1, +
    // 60
    CHECK_THAT(l.thread_from, WithinAbs(0.094, 1e-12));
    CHECK_THAT(l.thread_to - l.thread_from, WithinAbs(0.7348, 1e-12));
    CHECK_THAT(l.length, WithinAbs(0.094 + 0.7348 + 0.009 + 0.0022 + 0.060, 1e-12));
    CHECK_THAT(l.free_length, WithinAbs(l.length - (0.034 + 0.018 + 0.021) - (0.060 + 0.0022 + 0.0045), 1e-12));
    CHECK_THAT(l.loaded_length, WithinAbs(0.094 + 0.0174 + 0.150 + 0.4 - 0.073, 1e-12));
    // sections stand one behind the other without a gap
    double at = 0;
    for (const ScrewSection& s : l.sections) {
        CHECK_THAT(s.from, WithinAbs(at, 1e-12));
        CHECK(s.to > s.from);
        at = s.to;
    }
    CHECK_THAT(at, WithinAbs(l.length, 1e-12));
    // the ring's groove keeps its edge to the end of the seat
    int rings = 0;
    for (const ScrewGroove& g : l.grooves) rings += g.ring;
    CHECK(rings == 1);
    CHECK(l.grooves.size() == 3);
    // buckling along the stroke: Euler on the root diameter, less the further the nut stands out
    REQUIRE(l.places.size() == 11);
    const Screw& s = std::get<Screw>(a.mechanism);
    for (std::size_t i = 0; i < 11; ++i) {
        CHECK_THAT(l.places[i].buckling,
            WithinRel(buckling_load(s.root_diameter.si, l.places[i].loaded, s.elastic_modulus.si, s.fixity), 1e-12));
        if (i > 0) CHECK(l.places[i].buckling < l.places[i - 1].buckling);
    }
    CHECK_THAT(l.places.back().loaded, WithinAbs(l.loaded_length, 1e-12));
}

TEST_CASE("retaining rings of DIN 471, from memory") {
    // a groove leaves a shoulder on both sides of its ring, and deeper ones come with larger shafts
    const RingGroove* last = nullptr;
    for (const RingGroove& g : ring_grooves()) {
        CHECK(g.diameter < g.shaft);
        CHECK(g.width > g.ring);
        CHECK(g.width - g.ring <= 0.16);
        // n = 3 (d1 − d2)/2, rounded up in the standard
        CHECK(g.edge >= 1.5 * (g.shaft - g.diameter) - 0.16);
        if (last) {
            CHECK(g.shaft > last->shaft);
            CHECK(g.diameter > last->diameter);
            CHECK(g.ring >= last->ring);
        }
        last = &g;
    }
    CHECK(ring_groove(0.015)->diameter == 14.3);
    CHECK(ring_groove(0.025)->diameter == 23.9);
    CHECK(ring_groove(0.0151) == nullptr);
}

TEST_CASE("what does not go together in a plan is said, and nothing else") {
    Axis good = demo().axes[0];
    Screw& s = screw_of(good);
    s.ends.drive_end.journal_diameter = Quantity<Kind::length>("14 mm"); // that of the motor
    s.loaded_length = Quantity<Kind::length>("588 mm");
    good.coupling.driven_shaft = Quantity<Kind::length>("14 mm");
    CHECK(warnings(good).empty());
    const auto with = [&](auto&& change) {
        Axis a = good;
        change(screw_of(a).ends, a);
        return warnings(a);
    };
    using L = Quantity<Kind::length>;
    CHECK_THAT(with([](ScrewEnds& e, Axis&) { e.drive_end.journal_diameter = L("12 mm"); }),
        Contains("14 mm, differ") && Contains("special coupling") && Contains("the coupling is told"));
    CHECK_THAT(
        with([](ScrewEnds& e, Axis&) { e.drive_end.seat_length = L("46 mm"); }), Contains("longer than its bearing"));
    CHECK_THAT(with([](ScrewEnds& e, Axis&) { e.drive_end.undercut = {}; }), Contains("no undercut"));
    CHECK_THAT(with([](ScrewEnds& e, Axis&) { e.far_end.seat_diameter = L("15.5 mm"); }), Contains("no normal ring"));
    CHECK_THAT(with([](ScrewEnds& e, Axis&) { e.far_end.seat_length = L("11 mm"); }), Contains("the ring stands"));
    CHECK_THAT(with([](ScrewEnds& e, Axis&) { e.drive_end.lock_thread = L("17 mm"); }),
        Contains("nothing can be pushed over"));
    CHECK_THAT(
        with([](ScrewEnds& e, Axis&) { e.drive_end.seat_diameter = L("18 mm"); }), Contains("cannot be screwed on"));
    CHECK_THAT(with([](ScrewEnds& e, Axis&) { e.far_end.flats = L("10 mm"); }), Contains("leave nothing to hold"));
    CHECK_THAT(
        with([](ScrewEnds& e, Axis&) { e.drive_end.retained = Retained::nothing; }), Contains("needs a lock nut"));
    CHECK_THAT(with([](ScrewEnds& e, Axis&) { e.margin = L("40 mm"); }), Contains("typed as 900 mm"));
    CHECK_THAT(with([](ScrewEnds&, Axis& a) { screw_of(a).fixity = EndFixity::fixed_fixed; }), Contains("cannot grow"));
    // two at once are both said
    CHECK_THAT(with([](ScrewEnds& e, Axis&) {
        e.drive_end.undercut = {};
        e.drive_end.seat_length = L("46 mm");
    }),
        Contains("no undercut") && Contains("longer than its bearing"));
}

TEST_CASE("a plan waits for what it needs by name, and never draws half") {
    const Axis good = demo().axes[0];
    const auto missing = [&](auto&& change, double stroke = 0.4) {
        Axis a = good;
        change(screw_of(a));
        const ScrewLayout l = screw_layout(a, stroke);
        CHECK(l.sections.empty());
        CHECK(screw_drawing(l, "x").lines.empty());
        return l.missing;
    };
    CHECK_THAT(missing([](Screw& s) { s.ends.nut_length = {}; }), Contains("nut or carriage"));
    CHECK_THAT(missing([](Screw& s) { s.ends.far_end = {}; }), Contains("seat at the far end"));
    CHECK_THAT(missing([](Screw& s) {
        s.ends.drive_end.seat_length = {};
        s.ends.drive_end.bearing_width = {};
    }),
        Contains("length of the seat at the drive end"));
    CHECK_THAT(missing([](Screw&) {}, std::nan("")), Contains("stroke"));
    const auto half_a_nut = [](Screw& s) { s.nut_body.seat_diameter = Quantity<Kind::length>("50 mm"); };
    CHECK_THAT(missing([&](Screw& s) {
        s.turns = ScrewTurns::nut;
        half_a_nut(s);
    }),
        Contains("seat on the nut"));
    Axis turning = good; // of a nut that does not turn nothing is asked
    half_a_nut(screw_of(turning));
    CHECK(screw_layout(turning, 0.4).missing.empty());
    // a free end needs no seat there
    Axis free = good;
    screw_of(free).fixity = EndFixity::fixed_free;
    screw_of(free).ends.far_end = {};
    const ScrewLayout l = screw_layout(free, 0.4);
    CHECK(l.missing.empty());
    CHECK_THAT(l.free_length, WithinAbs(l.length - 0.073, 1e-12));
    // without a root diameter nothing buckles by guess
    Axis rootless = good;
    screw_of(rootless).root_diameter = {};
    for (const auto& p : screw_layout(rootless, 0.4).places) CHECK(std::isnan(p.buckling));
    Axis belt = demo().axes[1];
    CHECK_THAT(screw_layout(belt, 0.4).missing, Contains("screw"));
}

TEST_CASE("the drawing has every dimension, and names with markup stay words") {
    const Axis a = demo().axes[0];
    const ScrewLayout l = screw_layout(a, 0.4);
    const Drawing d = screw_drawing(l, "A<b>&\"\n");
    std::string words;
    for (const Drawing::Word& w : d.words) words += w.text + "|";
    for (const char* each : {"34|", "18|", "42|", "734.8|", "60|", "900|", "Ø12|", "Ø15|", "Ø20|", "Ø10|", "SW 8|"}) {
        INFO(each);
        CHECK_THAT(words, Contains(each));
    }
    for (const Drawing::Line& line : d.lines)
        for (const auto& [x, y] : {std::pair(line.x1, line.y1), std::pair(line.x2, line.y2)}) {
            CHECK((x >= d.left && x <= d.right));
            CHECK((y >= d.bottom && y <= d.top));
        }
    CHECK_THAT(drawing_svg(d), Contains("A&lt;b&gt;&amp;&quot; ") && !Contains("<b>"));
    CHECK_THAT(drawing_dxf(d), Contains("%%c12") && Contains("AC1009"));
    // a line end in a name would be another group of the DXF
    CHECK_THAT(drawing_dxf(d), !Contains("A<b>&\"\n"));
    // a short thread is not broken: ends and thread stand as far apart as they do
    Axis small = a;
    screw_of(small).ends.nut_length = Quantity<Kind::length>("40 mm");
    const ScrewLayout s = screw_layout(small, 0.03);
    const Drawing whole = screw_drawing(s, "");
    CHECK_THAT(whole.right - 6, WithinAbs(1000 * s.length, 1e-6));
}

TEST_CASE("the critical speed of a shaft of one diameter is that of the beam, however it is cut") {
    const double e = 206e9, rho = 7850, l = 0.8, d = 0.02;
    for (const EndFixity f :
        {EndFixity::fixed_free, EndFixity::supported_supported, EndFixity::fixed_supported, EndFixity::fixed_fixed}) {
        std::vector<ShaftSupport> held{{0, f != EndFixity::supported_supported}};
        if (f != EndFixity::fixed_free) held.push_back({l, f == EndFixity::fixed_fixed});
        const double beam = critical_speed(d, l, e, rho, f);
        CHECK_THAT(bending_frequency({{l, d}}, held, e, rho), WithinRel(beam, 1e-9));
        CHECK_THAT(
            bending_frequency({{0.1, d}, {0.0004, d}, {0.3, d}, {0.3996, d}}, held, e, rho), WithinRel(beam, 1e-7));
        // the first is found from any side: a far stiffer middle bearing lets no frequency be missed
        if (f == EndFixity::supported_supported) {
            held.push_back({l / 2, false});
            CHECK_THAT(bending_frequency({{l, d}}, held, e, rho), WithinRel(4 * beam, 1e-9));
        }
    }
    // scaling: half the size, twice the frequency
    const std::vector<ShaftStretch> shaft{{0.05, 0.012}, {0.6, 0.02}, {0.03, 0.015}};
    std::vector<ShaftStretch> small = shaft;
    for (ShaftStretch& s : small) s.length /= 2, s.diameter /= 2;
    CHECK_THAT(bending_frequency(small, {{0.02, true}, {0.33, false}}, e, rho),
        WithinRel(2 * bending_frequency(shaft, {{0.04, true}, {0.66, false}}, e, rho), 1e-9));
    // nothing known, nothing held
    CHECK(std::isnan(bending_frequency({}, {{0, true}}, e, rho)));
    CHECK(std::isnan(bending_frequency({{l, 0}}, {{0, true}}, e, rho)));
    CHECK(std::isnan(bending_frequency({{l, d}}, {{0, false}}, e, rho)));
    CHECK(std::isnan(bending_frequency({{l, d}}, {{0, false}, {0, false}}, e, rho)));
    CHECK(std::isnan(bending_frequency({{l, d}}, {{0, true}, {2 * l, false}}, e, rho)));
    CHECK(std::isnan(bending_frequency({{l, d}}, {{0, true}}, std::nan(""), rho)));
}

TEST_CASE("thin ends lower the critical speed, a nut that holds raises it, a nut that turns has none") {
    Axis a = demo().axes[0];
    Screw& s = screw_of(a);
    const ScrewLayout l = screw_layout(a, 0.4);
    const double plain =
        critical_speed(s.root_diameter.si, l.free_length, s.elastic_modulus.si, s.density.si, s.fixity);
    CHECK(l.critical_speed < plain);
    CHECK(l.critical_speed > 0.9 * plain);
    for (const ScrewLayout::Place& p : l.places) CHECK(p.critical_speed > l.critical_speed);
    CHECK_THAT(warnings(a), !Contains("thinner ends")); // a few per cent
    s.ends.drive_end.seat_diameter = s.ends.drive_end.journal_diameter = Quantity<Kind::length>("6 mm");
    s.ends.drive_end.lock_thread = Quantity<Kind::length>("6 mm");
    CHECK_THAT(warnings(a), Contains("thinner ends lower the critical speed"));
    s.root_diameter = {};
    const ScrewLayout blind = screw_layout(a, 0.4);
    CHECK(std::isnan(blind.critical_speed));
    for (const ScrewLayout::Place& p : blind.places) CHECK(std::isnan(p.critical_speed));
    CHECK_THAT(warnings(a), !Contains("critical"));
    a = demo().axes[0];
    screw_of(a).turns = ScrewTurns::nut;
    CHECK(std::isnan(screw_layout(a, 0.4).critical_speed));
    CHECK_THAT(warnings(a), !Contains("critical"));
}

TEST_CASE("a nut that turns has a plan of its own, beside a screw that must stand still") {
    using L = Quantity<Kind::length>;
    Axis a = demo().axes[0];
    Screw& s = screw_of(a);
    s.turns = ScrewTurns::nut;
    s.ends.drive_end.flats = s.ends.far_end.flats = {};
    s.ends.drive_end.holds = s.ends.far_end.holds = JournalHolds::clamp;
    // the journal turns nothing: no shaft is compared with it
    CHECK_THAT(warnings(a), Contains("nothing holds the screw still") && !Contains("coupled"));
    s.ends.far_end.flats = L("8 mm");
    CHECK_THAT(warnings(a), !Contains("holds the screw still"));
    const std::size_t sections = screw_layout(a, 0.4).sections.size();
    s.nut_body.seat_diameter = L("50 mm");
    s.nut_body.bearing_width = L("30 mm");
    s.nut_body.retained = Retained::lock_nut;
    s.nut_body.lock_length = L("14 mm");
    s.nut_body.journal_diameter = L("45 mm");
    s.nut_body.journal_length = L("25 mm");
    ScrewLayout l = screw_layout(a, 0.4);
    CHECK(l.sections.size() == sections);
    REQUIRE(l.nut_sections.size() == 3);
    CHECK_THAT(l.nut_sections.back().to, WithinAbs(0.069, 1e-12));
    CHECK_THAT(warnings(a), Contains("nut: the shoulder has no undercut"));
    const Drawing d = screw_drawing(l, "");
    std::string words;
    for (const Drawing::Word& w : d.words) words += w.text + "|";
    CHECK_THAT(words, Contains("Ø50|") && Contains("Ø45|") && Contains("69|"));
    for (const Drawing::Line& line : d.lines) CHECK((line.x2 <= d.right && line.x1 <= d.right));
    s.nut_body.undercut = L("2 mm");
    CHECK_THAT(warnings(a), !Contains("nut:"));
    s.nut_body.journal_diameter = L("18 mm"); // the screw has 20
    CHECK_THAT(warnings(a), Contains("no larger than the screw"));
    s.nut_body.journal_length = L("400 mm");
    CHECK_THAT(warnings(a), Contains("longer than nut or carriage"));
    // hidden where the screw turns: it says nothing
    s.turns = ScrewTurns::screw;
    CHECK(screw_layout(a, 0.4).nut_sections.empty());
    CHECK_THAT(warnings(a), !Contains("nut:"));
}

TEST_CASE("what sits on a nut is in the file once it says something, and stays there while the screw turns") {
    Machine m = demo();
    Screw& s = screw_of(m.axes[0]);
    CHECK_THAT(write_project(m), !Contains("nut_body"));
    s.turns = ScrewTurns::nut;
    CHECK_THAT(write_project(m), !Contains("nut_body"));
    s.nut_body.holds = JournalHolds::key;
    CHECK_THAT(write_project(m), Contains("nut_body"));
    s.nut_body.seat_diameter = Quantity<Kind::length>("50 mm");
    s.turns = ScrewTurns::screw;
    const auto back = read_project(write_project(m));
    REQUIRE(back);
    CHECK(std::get<Screw>(back->machine.axes[0].mechanism) == s);
    CHECK(std::get<Screw>(back->machine.axes[0].mechanism).nut_body.seat_diameter.text == "50 mm");
}
