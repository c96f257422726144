// What must hold for any program, however it is written down.
#include "core/motion/gcode.h"
#include "core/motion/trace.h"

#include "tests/catch.h"
#include <cmath>
#include <fmt/format.h>
#include <rapidcheck.h>

using namespace fulmox;

namespace {

struct Point {
    double x = 0, y = 0;
};

// One move of a made-up program, in mm.
struct Step {
    enum What { rapid, feed, arc, dwell } what = feed;
    Point to;
    double z = 0;
    Point centre;      // of an arc
    double radius = 0; // signed as R is
    bool clockwise = false;
    double rate = 600;
};

struct Spelling {
    bool inches = false, incremental = false, by_radius = false, modal = false, lower = false;
};

double any(int from, int to, double unit = 1) { return *rc::gen::inRange(from, to + 1) * unit; }

std::vector<Step> any_program() {
    std::vector<Step> out;
    Point at;
    double z = 0;
    const int n = 2 + *rc::gen::inRange(0, 14);
    for (int i = 0; i < n; ++i) {
        Step s;
        s.what = static_cast<Step::What>(*rc::gen::inRange(0, 4));
        s.rate = any(100, 9000);
        s.z = z;
        s.to = at;
        if (s.what == Step::arc) {
            const double r = any(2, 60), from = any(0, 359) * M_PI / 180, sweep = any(10, 350) * M_PI / 180;
            s.clockwise = any(0, 1) == 1;
            s.centre = {at.x - r * std::cos(from), at.y - r * std::sin(from)};
            const double end = from + (s.clockwise ? -sweep : sweep);
            s.to = {s.centre.x + r * std::cos(end), s.centre.y + r * std::sin(end)};
            s.radius = sweep > M_PI ? -r : r;
        } else if (s.what != Step::dwell) {
            s.to = {any(-80, 80), any(-80, 80)};
            s.z = any(-20, 20);
        }
        at = s.to;
        z = s.z;
        out.push_back(s);
    }
    Step last;
    last.to = {at.x + 5, at.y};
    last.z = z;
    out.push_back(last);
    return out;
}

std::string written(const std::vector<Step>& program, const Spelling& how) {
    std::string out = how.inches ? "G20 " : "G21 ";
    out += how.incremental ? "G91\n" : "G90\n";
    const double unit = how.inches ? 25.4 : 1;
    Point at;
    double z = 0;
    int mode = -1, number = 10;
    for (const Step& s : program) {
        std::string line = how.modal ? "" : fmt::format("N{} ", number += 10);
        if (s.what == Step::dwell) {
            out += line + "G4 P0.25\n";
            mode = -1;
            continue;
        }
        const int g = s.what == Step::rapid ? 0 : s.what == Step::feed ? 1 : s.clockwise ? 2 : 3;
        if (!how.modal || g != mode) line += fmt::format("G{} ", g);
        mode = g;
        const Point off = how.incremental ? at : Point{};
        line += fmt::format("X{:.12f} Y{:.12f} ", (s.to.x - off.x) / unit, (s.to.y - off.y) / unit);
        if (s.what != Step::arc) line += fmt::format("Z{:.12f} ", (s.z - (how.incremental ? z : 0)) / unit);
        if (s.what == Step::arc && how.by_radius) line += fmt::format("R{:.12f} ", s.radius / unit);
        if (s.what == Step::arc && !how.by_radius)
            line += fmt::format("I{:.12f} J{:.12f} ", (s.centre.x - at.x) / unit, (s.centre.y - at.y) / unit);
        if (s.what != Step::rapid) line += fmt::format("F{:.12f}", s.rate / unit);
        if (how.lower)
            for (char& c : line) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        out += line + (how.modal ? "\n" : " (a remark)\r\n");
        at = s.to;
        z = s.z;
    }
    return out;
}

GcodeOptions limits(double speed, double acceleration) {
    GcodeOptions o;
    o.limits.fill({speed, acceleration});
    return o;
}

GcodePlan planned(const std::string& text, const GcodeOptions& o) {
    auto r = read_gcode(text);
    if (!r) RC_FAIL(r.error().message + " in\n" + text);
    auto p = plan_gcode(*r, o);
    if (!p) RC_FAIL(p.error().message);
    return *p;
}

double last_position(const Samples& knots) { return knots.rows() ? knots.at(knots.rows() - 1, 1) : 0; }

double length_by_hand(const std::vector<Step>& program) {
    Point at;
    double z = 0, sum = 0;
    for (const Step& s : program) {
        if (s.what == Step::arc) {
            const double chord = std::hypot(s.to.x - at.x, s.to.y - at.y), r = std::abs(s.radius);
            const double small = 2 * std::asin(std::min(1.0, chord / 2 / r));
            sum += r * (s.radius > 0 ? small : 2 * M_PI - small);
        } else if (s.what != Step::dwell) {
            sum += std::hypot(std::hypot(s.to.x - at.x, s.to.y - at.y), s.z - z);
        }
        at = s.to;
        z = s.z;
    }
    return sum * 1e-3;
}

bool near(double a, double b, double relative = 1e-9) {
    return std::abs(a - b) <= relative * std::max(std::abs(a), std::abs(b)) + 1e-9;
}

} // namespace

TEST_CASE("a program in inches, in steps, by radius or in lower case is the same motion") {
    const bool holds = rc::check([] {
        const std::vector<Step> program = any_program();
        const GcodeOptions o = limits(0.4, 3);
        const GcodePlan plain = planned(written(program, {}), o);
        RC_ASSERT(near(plain.length, length_by_hand(program), 1e-6));
        for (const Spelling& how :
            {Spelling{.inches = true}, Spelling{.incremental = true}, Spelling{.by_radius = true},
                Spelling{.modal = true}, Spelling{.lower = true}, Spelling{true, true, true, true, true}}) {
            const GcodePlan other = planned(written(program, how), o);
            RC_ASSERT(near(other.length, plain.length, 1e-6));
            RC_ASSERT(near(other.duration, plain.duration, 1e-5));
            for (std::size_t a = 0; a < 3; ++a)
                RC_ASSERT(std::abs(last_position(other.knots[a]) - last_position(plain.knots[a])) < 1e-8);
        }
    });
    REQUIRE(holds);
}

TEST_CASE("every program ends where it says, joins up everywhere, and keeps to the axes' limits") {
    const bool holds = rc::check([] {
        const std::vector<Step> program = any_program();
        const double fast = any(5, 100, 0.01), hard = any(5, 100, 0.1);
        const GcodePlan p = planned(written(program, {}), limits(fast, hard));
        RC_ASSERT(std::abs(last_position(p.knots[0]) - program.back().to.x * 1e-3) < 1e-8);
        RC_ASSERT(std::abs(last_position(p.knots[1]) - program.back().to.y * 1e-3) < 1e-8);
        const auto x = knot_pieces(p.knots[0]), y = knot_pieces(p.knots[1]);
        for (const auto* axis : {&x, &y}) {
            double end = 0;
            for (std::size_t i = 0; i < axis->size(); ++i) {
                const Piece& piece = (*axis)[i];
                if (i > 0) RC_ASSERT(std::abs(piece.position(0) - end) < 1e-9);
                end = piece.position(piece.duration);
                for (int k = 0; k <= 4; ++k) {
                    const double t = piece.duration * k / 4;
                    RC_ASSERT(std::abs(piece.velocity(t)) <= fast * (1 + 1e-6));
                    RC_ASSERT(std::abs(piece.acceleration(t)) <= hard * (1 + 1e-4));
                }
            }
        }
        RC_ASSERT(near(p.knots[0].at(p.knots[0].rows() - 1, 0), p.duration, 1e-9));
        // the path is never run faster than its feed or the axes allow
        double least = 0;
        Point at;
        double z = 0;
        for (const Step& s : program) {
            if (s.what == Step::dwell) least += 0.25;
            const double feed = s.what == Step::rapid ? 1e9 : s.rate * 1e-3 / 60;
            const double far = std::max({std::abs(s.to.x - at.x), std::abs(s.to.y - at.y), std::abs(s.z - z)}) * 1e-3;
            least += far / std::min(feed, fast);
            at = s.to;
            z = s.z;
        }
        RC_ASSERT(p.duration >= least * (1 - 1e-9));
    });
    REQUIRE(holds);
}

TEST_CASE("faster axes and a wider corner never make a program slower, and a mirrored one takes as long") {
    const bool holds = rc::check([] {
        std::vector<Step> program = any_program();
        GcodeOptions o = limits(0.3, 2);
        const GcodePlan p = planned(written(program, {}), o);
        RC_ASSERT(planned(written(program, {}), limits(0.6, 4)).duration <= p.duration * (1 + 1e-9));
        o.junction_deviation *= 4;
        RC_ASSERT(planned(written(program, {}), o).duration <= p.duration * (1 + 1e-9));
        for (Step& s : program) {
            s.to.x = -s.to.x;
            s.centre.x = -s.centre.x;
            s.clockwise = !s.clockwise;
        }
        const GcodePlan mirrored = planned(written(program, {}), limits(0.3, 2));
        RC_ASSERT(near(mirrored.duration, p.duration, 1e-6));
        RC_ASSERT(near(last_position(mirrored.knots[0]), -last_position(p.knots[0])));
        RC_ASSERT(near(last_position(mirrored.knots[1]), last_position(p.knots[1])));
    });
    REQUIRE(holds);
}

TEST_CASE("a broken line stops the program at its own number, whatever stands around it") {
    const bool holds = rc::check([] {
        const std::string good = written(any_program(), {});
        std::vector<std::string> lines;
        for (std::size_t at = 0; at < good.size();) {
            const std::size_t end = good.find('\n', at);
            lines.push_back(good.substr(at, end - at));
            at = end + 1;
        }
        static const std::vector<std::string> broken{"G1 Xabc F100", "G77 X5", "G1 X1,5 F100", "X5 (open", "G41 X5 D1",
            "G2 X5 Y5 I0 J0 F100", "M98 P100", "#1 = 5", "G81 X5 Z-2 R1 F100"};
        const std::string& bad =
            broken[static_cast<std::size_t>(*rc::gen::inRange(0, static_cast<int>(broken.size())))];
        const auto at = static_cast<std::size_t>(*rc::gen::inRange(1, static_cast<int>(lines.size())));
        lines.insert(lines.begin() + static_cast<std::ptrdiff_t>(at), bad);
        std::string text;
        for (const std::string& l : lines) text += l + "\n";
        const auto r = read_gcode(text);
        if (r) RC_FAIL(bad + " was taken");
        RC_ASSERT(r.error().line == static_cast<int>(at) + 1);
        RC_ASSERT(!r.error().message.empty());
    });
    REQUIRE(holds);
}
