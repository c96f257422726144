#include "core/motion/gcode.h"

#include "core/quantity/format.h"

#include <cctype>
#include <charconv>
#include <cmath>
#include <map>
#include <numbers>
#include <set>
#include <string>

namespace fulmox {

using std::numbers::pi;

namespace {

struct Word {
    char letter;
    double value;
};

std::string word_text(const Word& w) { return std::string(1, w.letter) + format_number(w.value, 6); }

class GcodeReader {
  public:
    GcodeProgram out;
    Problem error;

    bool line(std::string_view text, int number) {
        line_ = number;
        if (ended_) return true; // nothing after the end of the program is read
        if (!split(text)) return false;
        if (words_.empty()) return true;
        // the number of the program, before anything else
        if (words_.size() == 1 && words_[0].letter == 'O' && out.moves.empty() && !numbered_) {
            numbered_ = true;
            skip(words_[0]);
            return true;
        }
        std::map<char, double> given;
        std::vector<double> codes;
        for (const Word& w : words_) {
            if (w.letter == 'G')
                codes.push_back(w.value);
            else if (std::string_view("XYZABCIJKRFPN").find(w.letter) != std::string_view::npos)
                given[w.letter] = w.value;
            else if (w.letter == 'M' && !machine_word(w))
                return false;
            else if (std::string_view("MSTHDE").find(w.letter) != std::string_view::npos)
                skip(w);
            else
                return fail(word_text(w) + " is not understood, and skipping it could change the motion");
        }
        bool dwell = false, home = false, motion_word = false;
        for (const double g : codes) {
            const int tenth = static_cast<int>(std::lround(g * 10));
            switch (tenth) {
            case 0:
            case 10:
            case 20:
            case 30:
                mode_ = tenth / 10;
                motion_word = true;
                break;
            case 40:
                dwell = true;
                break;
            case 170:
            case 180:
            case 190:
                plane_ = tenth / 10;
                break;
            case 200:
                unit_ = 0.0254;
                break;
            case 210:
                unit_ = 0.001;
                break;
            case 280:
                home = true;
                break;
            case 900:
                absolute_ = true;
                break;
            case 910:
                absolute_ = false;
                break;
            case 930:
            case 940:
                // the F in force means something else from here on
                if (inverse_time_ != (tenth == 930)) feed_ = 0;
                inverse_time_ = tenth == 930;
                break;
            case 540:
            case 550:
            case 560:
            case 570:
            case 580:
            case 590:
                // one offset moves the whole program, a second one moves a part of it against the rest
                if (offset_ != 0 && offset_ != tenth)
                    return fail("G" + format_number(g, 4) + " changes the work offset from G" +
                                format_number(offset_ / 10.0, 4) +
                                "; where it lies is not in the program, so the way there is not known");
                offset_ = tenth;
                skip({'G', g});
                break;
            default: {
                // cutter compensation off, length offset off, exact stop and blending, cycles off
                static const std::set<int> harmless{400, 490, 610, 640, 800, 980, 990};
                if (!harmless.contains(tenth))
                    return fail("G" + format_number(g, 4) +
                                " is a motion word that is not understood; allowed are G0 "
                                "G1 G2 G3 G4 G17 G18 G19 G20 G21 G28 G90 G91 G93 G94");
                skip({'G', g});
            }
            }
        }
        if (dwell) return add_dwell(given);
        if (given.contains('F')) {
            if (!(given['F'] > 0)) return fail("found F" + format_number(given['F'], 6) + "; a feed is greater than 0");
            feed_ = given['F'];
            feed_line_ = number;
            feed_unit_ = unit_;
        }
        bool moves = false;
        for (const char* a = gcode_letters; *a; ++a) moves = moves || given.contains(*a);
        for (const char a : {'I', 'J', 'K', 'R'}) moves = moves || (mode_ >= 2 && given.contains(a));
        if (home) return go_home(given, moves);
        if (!moves) {
            static_cast<void>(motion_word);
            return true;
        }
        if (mode_ < 0) return fail("a move before any of G0 G1 G2 G3 has been given");
        return mode_ >= 2 ? add_arc(given) : add_line(target(given), mode_ == 0);
    }

  private:
    std::vector<Word> words_;
    std::array<double, gcode_axes> at_{};
    int line_ = 0, mode_ = -1, plane_ = 17, feed_line_ = 0;
    double unit_ = 0.001, feed_ = 0, feed_unit_ = 0.001;
    bool absolute_ = true, inverse_time_ = false, numbered_ = false, ended_ = false;
    int offset_ = 0; // tenths of the G word of the work offset in force

    bool fail(std::string why) {
        error = {Severity::error, "", "G-code", std::move(why), line_};
        return false;
    }
    // M words start and stop things beside the motion; those that call or repeat other parts of the program do not.
    bool machine_word(const Word& w) {
        const int code = static_cast<int>(std::lround(w.value));
        if (code == 2 || code == 30) ended_ = true;
        if (code == 47 || (code >= 96 && code <= 99))
            return fail(
                word_text(w) + " calls or repeats a part of a program, and is not understood; write the moves out");
        return true;
    }
    void skip(const Word& w) {
        if (out.skipped.size() < 1000)
            out.skipped.push_back({Severity::suspicious, "", "G-code", word_text(w) + " is skipped", line_});
    }
    bool split(std::string_view text) {
        words_.clear();
        for (std::size_t i = 0; i < text.size();) {
            const auto c = static_cast<unsigned char>(text[i]);
            if (c == '(') {
                const std::size_t end = text.find(')', i);
                if (end == std::string_view::npos) return fail("a comment opened by \"(\" does not end on this line");
                i = end + 1;
            } else if (c == ';' || c == '%') {
                break;
            } else if (std::isspace(c) || (c == '/' && words_.empty())) {
                ++i;
            } else if (std::isalpha(c)) {
                const char letter = static_cast<char>(std::toupper(c));
                ++i;
                while (i < text.size() && (text[i] == ' ' || text[i] == '\t')) ++i;
                if (i < text.size() && text[i] == '+') ++i;
                double value = 0;
                const auto [end, wrong] =
                    std::from_chars(text.data() + i, text.data() + text.size(), value, std::chars_format::fixed);
                if (wrong != std::errc() || !std::isfinite(value) || std::abs(value) > 1e9)
                    return fail(std::string("found \"") + letter + std::string(text.substr(i, 12)) +
                                "\"; a letter must be followed by a number such as 12.5");
                i = static_cast<std::size_t>(end - text.data());
                if (i < text.size() && text[i] == ',')
                    return fail("found a comma in \"" + std::string(text.substr(i > 6 ? i - 6 : 0, 12)) +
                                "\"; decimals are written with a point");
                words_.push_back({letter, value});
            } else {
                return fail("found \"" + std::string(text.substr(i, 12)) + "\"; allowed are words such as X12.5");
            }
        }
        return true;
    }
    double scale(int axis) const { return axis < 3 ? unit_ : pi / 180; }
    std::array<double, gcode_axes> target(const std::map<char, double>& given) {
        std::array<double, gcode_axes> to = at_;
        for (int a = 0; a < gcode_axes; ++a) {
            const auto it = given.find(gcode_letters[a]);
            if (it == given.end()) continue;
            const auto i = static_cast<std::size_t>(a);
            to[i] = it->second * scale(a) + (absolute_ ? 0 : at_[i]);
            out.uses[i] = true;
        }
        return to;
    }
    // Feed along a path, m/s or rad/s; false without one.
    bool set_feed(GcodeMove& m, bool linear) {
        if (feed_ <= 0) return fail("a feed move without a feed: give an F word before or on this line");
        if (inverse_time_) {
            if (feed_line_ != line_) return fail("with G93 every move needs its own F");
            m.feed = m.length * feed_ / 60; // the move takes 1/F minutes
        } else {
            m.feed = feed_ * (linear ? feed_unit_ : pi / 180) / 60;
        }
        return true;
    }
    bool add_line(const std::array<double, gcode_axes>& to, bool rapid) {
        GcodeMove m;
        m.from = at_;
        m.to = to;
        m.line = line_;
        double linear = 0, rotary = 0;
        for (std::size_t i = 0; i < gcode_axes; ++i) (i < 3 ? linear : rotary) += std::pow(to[i] - at_[i], 2);
        m.length = std::sqrt(linear > 0 ? linear : rotary);
        at_ = to;
        if (m.length == 0) return true;
        if (!rapid && !set_feed(m, linear > 0)) return false;
        out.moves.push_back(m);
        return true;
    }
    bool add_dwell(const std::map<char, double>& given) {
        const auto it = given.contains('P') ? given.find('P') : given.find('X');
        if (it == given.end() || !(it->second >= 0) || it->second > 1e6)
            return fail("G4 needs a time P in seconds, 0 to 1000000");
        GcodeMove m;
        m.from = m.to = at_;
        m.line = line_;
        m.dwell = it->second;
        if (m.dwell > 0) out.moves.push_back(m);
        return true;
    }
    // By way of the point that is given, then to the origin of the axes named (all of them if none is).
    bool go_home(const std::map<char, double>& given, bool named) {
        if (named && !add_line(target(given), true)) return false;
        std::array<double, gcode_axes> to = at_;
        for (std::size_t i = 0; i < gcode_axes; ++i)
            if (!named ? out.uses[i] : given.contains(gcode_letters[i])) to[i] = 0;
        return add_line(to, true);
    }
    bool add_arc(const std::map<char, double>& given) {
        static constexpr int planes[3][3] = {{0, 1, 2}, {2, 0, 1}, {1, 2, 0}}; // G17 XY, G18 ZX, G19 YZ
        const auto& axes = planes[plane_ - 17];
        const auto first = static_cast<std::size_t>(axes[0]), second = static_cast<std::size_t>(axes[1]);
        GcodeMove m;
        m.arc = true;
        m.line = line_;
        m.first = axes[0];
        m.second = axes[1];
        m.from = at_;
        m.to = target(given);
        const double dx = m.to[first] - at_[first], dy = m.to[second] - at_[second];
        const double chord = std::hypot(dx, dy);
        static constexpr char centres[] = {'I', 'J', 'K'};
        const auto number = [&](char letter) {
            const auto it = given.find(letter);
            return it == given.end() ? 0 : it->second * unit_;
        };
        const bool clockwise = mode_ == 2;
        if (given.contains('R')) {
            const double r = number('R');
            if (chord == 0)
                return fail("an arc by R needs an end point that differs from its start; use I J K for a circle");
            double height = r * r - chord * chord / 4;
            if (height < -1e-9 * r * r - 1e-14)
                return fail("the arc does not meet: R is " + format_number(std::abs(r) * 1e3, 6) +
                            " mm, but its ends are " + format_number(chord * 1e3, 6) + " mm apart");
            height = std::sqrt(std::max(0.0, height));
            // the centre lies to the left of the chord for a short counter-clockwise arc
            const double side = (clockwise ? -1 : 1) * (r < 0 ? -1 : 1);
            m.centre_first = at_[first] + dx / 2 - side * height * dy / chord;
            m.centre_second = at_[second] + dy / 2 + side * height * dx / chord;
        } else {
            const char ci = centres[first], cj = centres[second];
            if (!given.contains(ci) && !given.contains(cj))
                return fail(std::string("an arc needs its centre ") + ci + " " + cj + ", or R");
            m.centre_first = at_[first] + number(ci);
            m.centre_second = at_[second] + number(cj);
        }
        const double ax = at_[first] - m.centre_first, ay = at_[second] - m.centre_second;
        const double bx = m.to[first] - m.centre_first, by = m.to[second] - m.centre_second;
        m.radius = std::hypot(ax, ay);
        const double end = std::hypot(bx, by);
        if (m.radius <= 0) return fail("the arc has no radius: its centre is its start");
        if (std::abs(end - m.radius) > std::max(1e-5, 1e-3 * m.radius))
            return fail("the arc does not meet: its start is " + format_number(m.radius * 1e3, 6) +
                        " mm from the centre, its end " + format_number(end * 1e3, 6) + " mm");
        m.start_angle = std::atan2(ay, ax);
        double sweep = std::atan2(by, bx) - m.start_angle;
        if (clockwise) {
            while (sweep >= -1e-12) sweep -= 2 * pi;
        } else {
            while (sweep <= 1e-12) sweep += 2 * pi;
        }
        m.sweep = sweep;
        out.uses[first] = out.uses[second] = true;
        const double rise = m.to[static_cast<std::size_t>(axes[2])] - at_[static_cast<std::size_t>(axes[2])];
        m.length = std::hypot(m.radius * sweep, rise);
        at_ = m.to;
        if (!set_feed(m, true)) return false;
        out.moves.push_back(m);
        return true;
    }
};

} // namespace

Result<GcodeProgram, Problem> read_gcode(std::string_view text, const std::function<bool(double)>& progress) {
    using Out = Result<GcodeProgram, Problem>;
    GcodeReader reader;
    int number = 0;
    for (std::size_t at = 0; at < text.size();) {
        std::size_t end = text.find('\n', at);
        if (end == std::string_view::npos) end = text.size();
        ++number;
        if (progress && number % 2048 == 0 &&
            !progress(0.5 * static_cast<double>(at) / static_cast<double>(text.size())))
            return Out::failure({Severity::error, "", "G-code", "cancelled", number});
        if (!reader.line(text.substr(at, end - at), number)) return Out::failure(reader.error);
        at = end + 1;
    }
    if (reader.out.moves.empty())
        return Out::failure({Severity::error, "", "G-code", "the program moves nothing", number});
    return std::move(reader.out);
}

} // namespace fulmox
