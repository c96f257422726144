#include "core/drivetrain/screw_layout.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <utility>

namespace fulmox {

namespace {

constexpr double mm = 1000;
std::string in_mm(double m) { return format_number(m * mm, 4); }

// Draws turned parts on one centre line; `Place` says where along it a length from the part's beginning is drawn.
struct Draughtsman {
    Drawing& d;
    double size; ///< of letters
    double half; ///< of the thickest

    void line(double x1, double y1, double x2, double y2, const char* layer) {
        d.lines.push_back({x1, y1, x2, y2, layer});
    }
    // `broken`: the thread is shown shortened
    template <class Place> void outline(const std::vector<ScrewSection>& sections, bool broken, const Place& x) {
        double before = 0;
        for (const ScrewSection& s : sections) {
            const double r = s.diameter * mm / 2, a = x(s.from), b = x(s.to);
            line(a, -std::max(r, before), a, std::max(r, before), "OUTLINE");
            const bool gap = s.of == SectionOf::screw && broken;
            const auto along = [&](double y, const char* layer) {
                if (!gap) return line(a, y, b, y, layer);
                line(a, y, (a + b) / 2 - size, y, layer);
                line((a + b) / 2 + size, y, b, y, layer);
            };
            for (const double side : {-1.0, 1.0}) {
                along(side * r, "OUTLINE");
                if (s.of == SectionOf::lock_thread || s.of == SectionOf::screw) // the root of a thread
                    along(side * 0.88 * r, "THIN");
            }
            if (gap)
                for (const double k : {(a + b) / 2 - size, (a + b) / 2 + size})
                    for (const double side : {-1.0, 1.0}) line(k, 0, k + size / 2, side * r, "THIN");
            before = r;
        }
        line(x(sections.back().to), -before, x(sections.back().to), before, "OUTLINE");
    }
    template <class Place> void grooves(const std::vector<ScrewGroove>& grooves, const Place& x) {
        for (const ScrewGroove& g : grooves)
            for (const double side : {-1.0, 1.0}) {
                const double r = side * g.diameter * mm / 2;
                line(x(g.at), r, x(g.at + g.width), r, "OUTLINE");
                line(x(g.at), r, x(g.at), r + side * 0.8, "OUTLINE");
                line(x(g.at + g.width), r, x(g.at + g.width), r + side * 0.8, "OUTLINE");
            }
    }
    void dimension(double a, double b, double y, const std::string& text) {
        line(a, y, b, y, "DIMENSIONS");
        for (const double k : {a, b}) {
            line(k, y - size / 2, k, y + size / 2, "DIMENSIONS");
            line(k - size / 3, y - size / 3, k + size / 3, y + size / 3, "DIMENSIONS");
        }
        d.words.push_back({(a + b) / 2, y + size * 0.4, size, text, "DIMENSIONS"});
    }
    // a chain of lengths below, with the whole under it
    template <class Place> void lengths(const std::vector<ScrewSection>& sections, const Place& x) {
        int level = 0;
        for (const ScrewSection& s : sections) {
            const double a = x(s.from), b = x(s.to);
            const std::string text = in_mm(s.to - s.from);
            // short ones stand a step lower, so that words keep clear of one another
            const bool tight = b - a < 0.75 * size * static_cast<double>(text.size() + 1);
            level = tight ? level % 3 + 1 : 0;
            dimension(a, b, -half - size * (3 + 1.8 * level), text);
        }
        const ScrewSection& end = sections.back();
        dimension(x(0), x(end.to), -half - size * 10.5, in_mm(end.to));
    }
    // diameters above; that of a broken thread stands beside its break
    template <class Place> void diameters(const std::vector<ScrewSection>& sections, double aside, const Place& x) {
        int level = 0;
        double last = -std::numeric_limits<double>::infinity();
        double told = 0;
        for (const ScrewSection& s : sections) {
            if (std::exchange(told, s.diameter) == s.diameter) continue; // one word for two neighbours
            const double m = (x(s.from) + x(s.to)) / 2 + (s.of == SectionOf::screw ? aside : 0);
            const std::string text = "\u00d8" + in_mm(s.diameter);
            level = m - last < 0.75 * size * static_cast<double>(text.size() + 2) ? level % 3 + 1 : 0;
            const double y = half + size * (1.5 + 1.7 * level);
            line(m, s.diameter * mm / 2, m, y, "DIMENSIONS");
            d.words.push_back({m, y + 0.3 * size, size, text, "DIMENSIONS"});
            last = m;
        }
    }
    template <class Place>
    void flats(const std::vector<ScrewFlats>& flats, const std::vector<ScrewSection>& sections, const Place& x) {
        for (const ScrewFlats& f : flats) {
            const double h = f.across * mm / 2;
            for (const double y : {-h, h}) line(x(f.from), y, x(f.to), y, "OUTLINE");
            line(x(f.from), -h, x(f.to), h, "THIN");
            line(x(f.from), h, x(f.to), -h, "THIN");
            double r = h;
            for (const ScrewSection& s : sections)
                if (s.from <= f.from + 1e-9 && f.to <= s.to + 1e-9) r = s.diameter * mm / 2;
            d.words.push_back({x(f.from), -r - 1.6 * size, size, "SW " + in_mm(f.across), "DIMENSIONS", -1});
        }
    }
};

} // namespace

Drawing screw_drawing(const ScrewLayout& l, const std::string& title) {
    Drawing d;
    if (l.sections.empty()) return d;
    const double thread = (l.thread_to - l.thread_from) * mm;
    double largest = 0;
    for (const std::vector<ScrewSection>& part : {l.sections, l.nut_sections})
        for (const ScrewSection& s : part) largest = std::max(largest, s.diameter * mm);
    const double ends = l.length * mm - thread, shown = std::min(thread, std::max(0.7 * ends, 2.5 * largest));
    const bool broken = shown < thread;
    const double from = l.thread_from * mm, to = l.thread_to * mm;
    // where a place of the screw is drawn
    const auto x = [&](double m) {
        const double v = m * mm;
        return !broken || v <= from + shown / 2 ? v : v >= to - shown / 2 ? v - (thread - shown) : from + shown / 2;
    };
    const double whole = x(l.length);
    // letters that can be read where the whole drawing is looked at
    Draughtsman draw{d, std::max({2.5, largest / 9, whole / 85}), largest / 2};
    const double half = draw.half, size = draw.size;
    draw.outline(l.sections, broken, x);
    draw.grooves(l.grooves, x);
    draw.flats(l.flats, l.sections, x);
    draw.line(-4, 0, whole + 4, 0, "CENTRE");
    draw.lengths(l.sections, x);
    draw.diameters(l.sections, broken ? 0.3 * shown : 0, x);
    double right = whole;
    if (!l.nut_sections.empty()) { // a nut that turns, beside its screw
        const double begin = whole + 8 * size;
        const auto nut = [&](double m) { return begin + m * mm; };
        right = nut(l.nut_sections.back().to);
        draw.outline(l.nut_sections, false, nut);
        draw.grooves(l.nut_grooves, nut);
        draw.lengths(l.nut_sections, nut);
        draw.diameters(l.nut_sections, 0, nut);
        const double bore = l.nut_bore * mm / 2;
        for (const double side : {-1.0, 1.0}) draw.line(begin, side * bore, right, side * bore, "THIN");
        draw.line(begin - 4, 0, right + 4, 0, "CENTRE");
        right += 4 * size;
    }
    d.words.push_back({0, half + size * 9, size * 1.2, title, "DIMENSIONS", -1});
    d.left = -6;
    d.right = right + 6;
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
