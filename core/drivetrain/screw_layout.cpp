#include "core/drivetrain/screw_layout.h"

#include "core/drivetrain/screw_limits.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <utility>

namespace fulmox {

const std::vector<RingGroove>& ring_grooves() {
    static const std::vector<RingGroove> table{{8, 0.8, 7.6, 0.9, 0.6}, {9, 1, 8.6, 1.1, 0.6}, {10, 1, 9.6, 1.1, 0.6},
        {11, 1, 10.5, 1.1, 0.8}, {12, 1, 11.5, 1.1, 0.8}, {13, 1, 12.4, 1.1, 0.9}, {14, 1, 13.4, 1.1, 0.9},
        {15, 1, 14.3, 1.1, 1.1}, {16, 1, 15.2, 1.1, 1.2}, {17, 1, 16.2, 1.1, 1.2}, {18, 1.2, 17, 1.3, 1.5},
        {19, 1.2, 18, 1.3, 1.5}, {20, 1.2, 19, 1.3, 1.5}, {21, 1.2, 20, 1.3, 1.5}, {22, 1.2, 21, 1.3, 1.5},
        {24, 1.2, 22.9, 1.3, 1.7}, {25, 1.2, 23.9, 1.3, 1.7}, {26, 1.2, 24.9, 1.3, 1.7}, {28, 1.5, 26.6, 1.6, 2.1},
        {29, 1.5, 27.6, 1.6, 2.1}, {30, 1.5, 28.6, 1.6, 2.1}, {32, 1.5, 30.3, 1.6, 2.6}, {34, 1.5, 32.3, 1.6, 2.6},
        {35, 1.5, 33, 1.6, 3}, {36, 1.75, 34, 1.85, 3}, {38, 1.75, 36, 1.85, 3}, {40, 1.75, 37.5, 1.85, 3.8},
        {42, 1.75, 39.5, 1.85, 3.8}, {45, 1.75, 42.5, 1.85, 3.8}, {48, 1.75, 45.5, 1.85, 3.8}, {50, 2, 47, 2.15, 4.5},
        {52, 2, 49, 2.15, 4.5}, {55, 2, 52, 2.15, 4.5}, {58, 2, 55, 2.15, 4.5}, {60, 2, 57, 2.15, 4.5}};
    return table;
}

const RingGroove* ring_groove(double shaft) {
    for (const RingGroove& g : ring_grooves())
        if (std::abs(shaft * 1000 - g.shaft) < 1e-6) return &g;
    return nullptr;
}

namespace {

Text length_text(double m) { return Text::of(m, Kind::length); }

// What an end is made of, from the outside inwards.
struct Built {
    std::vector<ScrewSection> sections;
    std::vector<ScrewGroove> grooves;
    double length = 0;
    double seat_middle = 0; ///< from the outer end
    bool seat = false;
};

Built build(const ScrewEnd& e, const char* name, double root, std::vector<Text>& warnings) {
    Built out;
    double at = 0;
    const auto warn = [&](Text words) { warnings.push_back(Text(std::string(name) + ": ") + words); };
    const auto add = [&](SectionOf of, double length, double diameter) {
        out.sections.push_back({of, at, at + length, diameter, false});
        at += length;
    };
    double outer = 0; // the diameter that what comes after must not be smaller than
    const auto grows = [&](double diameter, const char* what) {
        if (diameter < outer * (1 - 1e-9))
            warn(Text(what) + " of " + length_text(diameter) + " is smaller than what stands outside of it, " +
                 length_text(outer) + ": nothing can be pushed over it");
        outer = std::max(outer, diameter);
    };
    if (e.journal_diameter.given()) {
        grows(e.journal_diameter.si, "the journal");
        add(SectionOf::journal, e.journal_length.value_or(2 * e.journal_diameter.si), e.journal_diameter.si);
    }
    if (e.seat_diameter.given()) {
        const double d = e.seat_diameter.si,
                     width = e.seat_length.given() ? e.seat_length.si : e.bearing_width.value_or(no_number);
        if (e.retained == Retained::lock_nut) {
            const double thread = e.lock_thread.value_or(d);
            grows(thread, "the lock-nut thread");
            add(SectionOf::lock_thread, e.lock_length.value_or(thread), thread);
        }
        const RingGroove* groove = e.retained == Retained::ring ? ring_groove(d) : nullptr;
        if (e.retained == Retained::ring && !groove)
            warn(Text("DIN 471 has no normal ring for a shaft of ") + length_text(d));
        if (groove) { // the seat goes on beyond the bearing by groove and edge
            out.grooves.push_back({at + groove->edge / 1000, groove->width / 1000, groove->diameter / 1000, true});
            add(SectionOf::seat, (groove->edge + groove->width) / 1000, d);
        }
        grows(d, "the bearing seat");
        out.seat = true;
        out.seat_middle = at + width / 2;
        add(SectionOf::seat, width, d);
        if (e.seat_length.given() && e.bearing_width.given() && e.retained == Retained::lock_nut &&
            e.seat_length.si > e.bearing_width.si * (1 + 1e-9))
            warn(Text("the seat is longer than its bearing, ") + length_text(e.seat_length.si) + " against " +
                 length_text(e.bearing_width.si) + ": the lock nut meets the shaft and not the bearing");
        if (e.seat_length.given() && e.bearing_width.given() && groove &&
            std::abs(e.seat_length.si - e.bearing_width.si) > 0.05 * e.bearing_width.si)
            warn(Text("the ring stands ") + length_text(e.seat_length.si) + " from the shoulder and the bearing is " +
                 length_text(e.bearing_width.si) + " wide");
        if (e.undercut.value_or(0) > 0)
            out.grooves.push_back(
                {at - e.undercut.si, e.undercut.si, d - 0.4e-3, false}); // 0.2 mm deep, common practice
        else if (e.retained != Retained::nothing)
            warn("the shoulder has no undercut: the bearing does not lie flat against it");
        if (root > 0 && d > root * (1 + 1e-9))
            warn(Text("the bearing seat of ") + length_text(d) + " is larger than the root of the thread, " +
                 length_text(root) + ": the nut cannot be screwed on over it");
        if (root > 0 && d > 0.97 * root && d <= root * (1 + 1e-9))
            warn(Text("hardly a shoulder is left between the seat of ") + length_text(d) + " and the root, " +
                 length_text(root));
    }
    out.length = at;
    return out;
}

} // namespace

ScrewLayout screw_layout(const Axis& axis, double stroke) {
    ScrewLayout out;
    const auto* screw = std::get_if<Screw>(&axis.mechanism);
    if (!screw) {
        out.missing = "a screw";
        return out;
    }
    const ScrewEnds& e = screw->ends;
    const auto lacks = [&](const char* what) {
        if (out.missing.empty()) out.missing = what;
    };
    if (!screw->diameter.given()) lacks("the outer diameter of the screw");
    if (!e.nut_length.given()) lacks("the length of nut or carriage");
    if (std::isnan(stroke)) lacks("the stroke of the cycle");
    for (const auto& [end, name] : {std::pair(&e.drive_end, "the drive end"), std::pair(&e.far_end, "the far end")})
        if (end->seat_diameter.given() && !end->seat_length.given() && !end->bearing_width.given())
            lacks(name == std::string("the drive end") ? "the length of the seat at the drive end"
                                                       : "the length of the seat at the far end");
    if (!e.drive_end.seat_diameter.given()) lacks("the bearing seat at the drive end");
    const bool free_end = screw->fixity == EndFixity::fixed_free;
    if (!free_end && !e.far_end.seat_diameter.given()) lacks("the bearing seat at the far end");
    if (!out.missing.empty()) return out;
    const double root = screw->root_diameter.value_or(0);
    Built near = build(e.drive_end, "drive end", root, out.warnings),
          far = build(e.far_end, "far end", root, out.warnings);
    const double thread = stroke + e.nut_length.si + 2 * e.margin.value_or(0);
    out.stroke = stroke;
    out.thread_from = near.length;
    out.thread_to = near.length + thread;
    out.length = out.thread_to + far.length;
    out.sections = near.sections;
    out.sections.push_back({SectionOf::screw, out.thread_from, out.thread_to, screw->diameter.si, false});
    for (auto it = far.sections.rbegin(); it != far.sections.rend(); ++it)
        out.sections.push_back({it->of, out.length - it->to, out.length - it->from, it->diameter, true});
    out.grooves = near.grooves;
    for (const ScrewGroove& g : far.grooves)
        out.grooves.push_back({out.length - g.at - g.width, g.width, g.diameter, g.ring});
    const auto flats = [&](const ScrewEnd& end, bool at_far) {
        if (!end.flats.given()) return;
        const double l = end.flats_length.value_or(end.flats.si / 2);
        // on the journal, at its inner end; without one on the thread
        const bool journal = end.journal_diameter.given();
        const double across = end.flats.si, on = journal ? end.journal_diameter.si : screw->diameter.si;
        if (across >= on)
            out.warnings.push_back(Text(at_far ? "far end: " : "drive end: ") + "flats of " + length_text(across) +
                                   " across leave nothing to hold on a diameter of " + length_text(on));
        const double inner = journal ? end.journal_length.value_or(2 * end.journal_diameter.si)
                                     : (at_far ? far.length : near.length) + l;
        out.flats.push_back(at_far ? ScrewFlats{out.length - inner, out.length - inner + l, across}
                                   : ScrewFlats{inner - l, inner, across});
    };
    flats(e.drive_end, false);
    flats(e.far_end, true);
    const double first = near.seat_middle, last = far.seat ? out.length - far.seat_middle : out.length;
    out.free_length = last - first;
    // the nut's middle travels between the margins
    const double begin = out.thread_from + e.margin.value_or(0) + e.nut_length.si / 2, end = begin + stroke;
    out.loaded_length = end - first;
    const double nan = no_number;
    for (int i = 0; i <= 10; ++i) {
        const double at = stroke * i / 10, loaded = begin + at - first;
        const double yield =
            screw->yield_strength.given() ? screw->yield_strength.si : std::numeric_limits<double>::infinity();
        out.places.push_back({at, loaded,
            root > 0 && screw->elastic_modulus.given()
                ? compression_load(root, loaded, screw->elastic_modulus.si, yield, screw->fixity)
                : nan});
    }
    const QuantityBase& shaft = axis.stages.empty() ? axis.motor.shaft_diameter : axis.stages.back().output_shaft;
    const bool coupled = axis.coupling.there() &&
                         axis.coupling.place == (axis.stages.empty() ? axis.coupling.place : CouplingPlace::mechanism);
    const double journal = e.drive_end.journal_diameter.value_or(nan);
    if ((axis.driven() || !axis.stages.empty()) && shaft.given() && std::isfinite(journal) &&
        std::abs(journal - shaft.si) > 1e-3 * shaft.si)
        out.warnings.push_back(Text("the journal of ") + length_text(journal) + " and the shaft it is coupled to, " +
                               length_text(shaft.si) + ", differ: equal diameters save a special coupling");
    if (coupled && std::isfinite(journal) && axis.coupling.driven_shaft.given() &&
        std::abs(journal - axis.coupling.driven_shaft.si) > 1e-3 * journal)
        out.warnings.push_back(Text("the coupling is told a shaft of ") + length_text(axis.coupling.driven_shaft.si) +
                               " on the load's side; the journal has " + length_text(journal));
    const auto holds = [&](const QuantityBase& typed, double planned, const char* what) {
        if (typed.given() && std::abs(typed.si - planned) > 0.01 * planned)
            out.warnings.push_back(Text("the ") + what + " is typed as " + length_text(typed.si) +
                                   "; the plan comes to " + length_text(planned));
    };
    holds(screw->length, out.length, "screw length");
    holds(screw->free_length, out.free_length, "unsupported length");
    holds(screw->loaded_length, out.loaded_length, "loaded length");
    const bool fixed = screw->fixity != EndFixity::supported_supported;
    if (fixed && e.drive_end.retained == Retained::nothing)
        out.warnings.push_back("drive end: a fixed bearing needs a lock nut or a ring");
    if (screw->fixity == EndFixity::fixed_fixed && e.far_end.retained == Retained::nothing)
        out.warnings.push_back("far end: a fixed bearing needs a lock nut or a ring");
    if (screw->fixity == EndFixity::fixed_fixed && screw->temperature_rise.value_or(0) > 0)
        out.warnings.push_back("both ends are fixed: a warm screw cannot grow, and presses on its bearings");
    return out;
}

Drawing screw_drawing(const ScrewLayout& l, const std::string& title) {
    Drawing d;
    if (l.sections.empty()) return d;
    constexpr double mm = 1000;
    const double thread = (l.thread_to - l.thread_from) * mm;
    double largest = 0;
    for (const ScrewSection& s : l.sections) largest = std::max(largest, s.diameter * mm);
    const double ends = l.length * mm - thread, shown = std::min(thread, std::max(0.7 * ends, 2.5 * largest));
    const bool broken = shown < thread;
    const double from = l.thread_from * mm, to = l.thread_to * mm;
    // where a place of the screw is drawn
    const auto x = [&](double m) {
        const double v = m * mm;
        return !broken || v <= from + shown / 2 ? v : v >= to - shown / 2 ? v - (thread - shown) : from + shown / 2;
    };
    const auto line = [&](double x1, double y1, double x2, double y2, const char* layer) {
        d.lines.push_back({x1, y1, x2, y2, layer});
    };
    const double size = std::max(2.5, largest / 9); // of letters
    const auto number = [](double m) { return format_number(m * mm, 4); };
    double before = 0;
    for (const ScrewSection& s : l.sections) {
        const double r = s.diameter * mm / 2, a = x(s.from), b = x(s.to);
        line(a, -std::max(r, before), a, std::max(r, before), "OUTLINE");
        if (s.of == SectionOf::screw && broken) {
            const double m = (a + b) / 2;
            for (const double y : {-r, r}) {
                line(a, y, m - size, y, "OUTLINE");
                line(m + size, y, b, y, "OUTLINE");
            }
            for (const double k : {m - size, m + size})
                for (const double half : {-1.0, 1.0}) line(k, 0, k + size / 2, half * r, "THIN");
        } else {
            for (const double y : {-r, r}) line(a, y, b, y, "OUTLINE");
        }
        if (s.of == SectionOf::lock_thread || s.of == SectionOf::screw) // the root of a thread
            for (const double y : {-0.88 * r, 0.88 * r}) {
                if (s.of == SectionOf::screw && broken) {
                    line(a, y, (a + b) / 2 - size, y, "THIN");
                    line((a + b) / 2 + size, y, b, y, "THIN");
                } else {
                    line(a, y, b, y, "THIN");
                }
            }
        before = r;
    }
    line(x(l.length), -before, x(l.length), before, "OUTLINE");
    for (const ScrewGroove& g : l.grooves)
        for (const double side : {-1.0, 1.0}) {
            const double r = side * g.diameter * mm / 2;
            line(x(g.at), r, x(g.at + g.width), r, "OUTLINE");
            line(x(g.at), r, x(g.at), r + side * 0.8, "OUTLINE");
            line(x(g.at + g.width), r, x(g.at + g.width), r + side * 0.8, "OUTLINE");
        }
    for (const ScrewFlats& f : l.flats) {
        const double h = f.across * mm / 2;
        for (const double y : {-h, h}) line(x(f.from), y, x(f.to), y, "OUTLINE");
        line(x(f.from), -h, x(f.to), h, "THIN");
        line(x(f.from), h, x(f.to), -h, "THIN");
        double r = h;
        for (const ScrewSection& s : l.sections)
            if (s.from <= f.from + 1e-9 && f.to <= s.to + 1e-9) r = s.diameter * mm / 2;
        d.words.push_back({x(f.from), -r - 1.3 * size, size, "SW " + number(f.across), "DIMENSIONS", -1});
    }
    const double whole = x(l.length);
    line(-4, 0, whole + 4, 0, "CENTRE");
    // a chain of dimensions below, diameters above
    const auto dimension = [&](double a, double b, double y, const std::string& text) {
        line(a, y, b, y, "DIMENSIONS");
        for (const double k : {a, b}) {
            line(k, y - size / 2, k, y + size / 2, "DIMENSIONS");
            line(k - size / 3, y - size / 3, k + size / 3, y + size / 3, "DIMENSIONS");
        }
        d.words.push_back({(a + b) / 2, y + size * 0.4, size, text, "DIMENSIONS"});
    };
    const double half = largest / 2;
    int level = 0;
    for (const ScrewSection& s : l.sections) {
        const double a = x(s.from), b = x(s.to);
        const std::string text = number(s.to - s.from);
        // short ones stand a step lower, so that words keep clear of one another
        const bool tight = b - a < 0.75 * size * static_cast<double>(text.size() + 1);
        level = tight ? level % 3 + 1 : 0;
        dimension(a, b, -half - size * (3 + 1.8 * level), text);
    }
    dimension(0, whole, -half - size * 10.5, number(l.length));
    level = 0;
    double last = -std::numeric_limits<double>::infinity();
    double told = 0;
    for (const ScrewSection& s : l.sections) {
        if (std::exchange(told, s.diameter) == s.diameter) continue; // one word for two neighbours
        const double m = (x(s.from) + x(s.to)) / 2 + (s.of == SectionOf::screw && broken ? 0.3 * shown : 0);
        const std::string text = "\u00d8" + number(s.diameter);
        level = m - last < 0.75 * size * static_cast<double>(text.size() + 2) ? level % 3 + 1 : 0;
        const double y = half + size * (1.5 + 1.7 * level);
        line(m, s.diameter * mm / 2, m, y, "DIMENSIONS");
        d.words.push_back({m, y + 0.3 * size, size, text, "DIMENSIONS"});
        last = m;
    }
    d.words.push_back({0, half + size * 9, size * 1.2, title, "DIMENSIONS", -1});
    d.left = -6;
    d.right = whole + 6;
    d.bottom = -half - size * 13;
    d.top = half + size * 11.5;
    return d;
}

std::string drawing_svg(const Drawing& d) {
    const double w = d.right - d.left, h = d.top - d.bottom;
    std::string out =
        fmt::format("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" "
                    "width=\"{:.4g}mm\" height=\"{:.4g}mm\" viewBox=\"{:.6g} {:.6g} {:.6g} {:.6g}\">\n",
            w, h, d.left, -d.top, w, h);
    const auto pen = [](std::string_view layer) {
        return layer == "OUTLINE"  ? "stroke=\"#000\" stroke-width=\"0.5\""
               : layer == "CENTRE" ? "stroke=\"#000\" stroke-width=\"0.18\" stroke-dasharray=\"6 1.5 0.6 1.5\""
                                   : "stroke=\"#000\" stroke-width=\"0.2\"";
    };
    for (const Drawing::Line& l : d.lines)
        out += fmt::format("<line x1=\"{:.6g}\" y1=\"{:.6g}\" x2=\"{:.6g}\" y2=\"{:.6g}\" {}/>\n", l.x1, -l.y1, l.x2,
            -l.y2, pen(l.layer));
    for (const Drawing::Word& t : d.words) {
        std::string text;
        for (const char c : t.text)
            text += c == '<'   ? "&lt;"
                    : c == '>' ? "&gt;"
                    : c == '&' ? "&amp;"
                    : c == '"' ? "&quot;"
                               : std::string(1, static_cast<unsigned char>(c) < 0x20 ? ' ' : c);
        out += fmt::format("<text x=\"{:.6g}\" y=\"{:.6g}\" font-size=\"{:.4g}\" font-family=\"sans-serif\" "
                           "text-anchor=\"{}\">{}</text>\n",
            t.x, -t.y, t.height * 1.35,
            t.anchor < 0   ? "start"
            : t.anchor > 0 ? "end"
                           : "middle",
            text);
    }
    return out + "</svg>\n";
}

std::string drawing_dxf(const Drawing& d) {
    // group code and value, a line each
    std::string out =
        "0\r\nSECTION\r\n2\r\nHEADER\r\n9\r\n$ACADVER\r\n1\r\nAC1009\r\n9\r\n$INSUNITS\r\n70\r\n4\r\n0\r\nENDSEC\r\n"
        "0\r\nSECTION\r\n2\r\nTABLES\r\n0\r\nTABLE\r\n2\r\nLAYER\r\n70\r\n4\r\n";
    for (const char* layer : {"OUTLINE", "THIN", "CENTRE", "DIMENSIONS"})
        out += fmt::format("0\r\nLAYER\r\n2\r\n{}\r\n70\r\n0\r\n62\r\n{}\r\n6\r\nCONTINUOUS\r\n", layer,
            std::string_view(layer) == "DIMENSIONS" ? 3
            : std::string_view(layer) == "CENTRE"   ? 1
                                                    : 7);
    out += "0\r\nENDTAB\r\n0\r\nENDSEC\r\n0\r\nSECTION\r\n2\r\nENTITIES\r\n";
    for (const Drawing::Line& l : d.lines)
        out += fmt::format("0\r\nLINE\r\n8\r\n{}\r\n10\r\n{:.6f}\r\n20\r\n{:.6f}\r\n30\r\n0.0\r\n11\r\n{:.6f}"
                           "\r\n21\r\n{:.6f}\r\n31\r\n0.0\r\n",
            l.layer, l.x1, l.y1, l.x2, l.y2);
    for (const Drawing::Word& t : d.words) {
        std::string text; // the form is ASCII: letters beyond are written by their codes
        for (std::size_t i = 0; i < t.text.size(); ++i) {
            const auto c = static_cast<unsigned char>(t.text[i]);
            if (c == 0xC3 && i + 1 < t.text.size() && static_cast<unsigned char>(t.text[i + 1]) == 0x98)
                text += "%%c", ++i;
            else if (c == '%')
                text += "%%%";
            else if (c >= 0x20 && c < 0x7F)
                text += static_cast<char>(c);
            else if (c >= 0xC0)
                text += '?';
        }
        out += fmt::format("0\r\nTEXT\r\n8\r\n{}\r\n10\r\n{:.6f}\r\n20\r\n{:.6f}\r\n30\r\n0.0\r\n40\r\n{:.4f}\r\n1\r\n{"
                           "}\r\n72\r\n{}\r\n11\r\n{:.6f}\r\n21\r\n{:.6f}\r\n31\r\n0.0\r\n",
            t.layer, t.x, t.y, t.height, text,
            t.anchor < 0   ? 0
            : t.anchor > 0 ? 2
                           : 1,
            t.x, t.y);
    }
    return out + "0\r\nENDSEC\r\n0\r\nEOF\r\n";
}

} // namespace fulmox
