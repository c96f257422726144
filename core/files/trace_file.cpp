#include "core/files/trace_file.h"

#include "core/quantity/columns.h"
#include "core/quantity/format.h"
#include "core/quantity/unit.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <iterator>

namespace fulmox {

namespace {

enum class Column { time, position, velocity, other };

struct Header {
    Column column = Column::other;
    std::string name;
    std::string unit;
};

// "position [mm]", "position (mm)", "position/mm", "position mm"
Header header_of(std::string_view cell) {
    Header h;
    std::size_t open = cell.find_first_of("[(/");
    if (open == std::string_view::npos) open = cell.rfind(' ');
    std::string_view name = trim(cell.substr(0, open));
    if (open != std::string_view::npos) {
        std::string_view unit = cell.substr(open + 1);
        if (!unit.empty() && (unit.back() == ']' || unit.back() == ')')) unit.remove_suffix(1);
        h.unit = std::string(trim(unit));
    }
    h.name = std::string(name);
    const std::string low = lower(name);
    const auto is = [&](std::initializer_list<const char*> words) {
        return std::any_of(words.begin(), words.end(), [&](const char* w) { return low == w; });
    };
    if (is({"time", "t"})) h.column = Column::time;
    if (is({"position", "pos", "x", "s", "angle", "travel", "distance"})) h.column = Column::position;
    if (is({"velocity", "vel", "v", "speed", "rate"})) h.column = Column::velocity;
    return h;
}

bool read_number(std::string_view cell, bool decimal_comma, double& out) {
    char small[64];
    if (decimal_comma && cell.find(',') != std::string_view::npos) {
        if (cell.size() >= sizeof small) return false;
        std::copy(cell.begin(), cell.end(), small);
        std::replace(small, small + cell.size(), ',', '.');
        cell = std::string_view(small, cell.size());
    }
    if (!cell.empty() && cell.front() == '+') cell.remove_prefix(1);
    const auto [end, wrong] = std::from_chars(cell.data(), cell.data() + cell.size(), out);
    return wrong == std::errc() && end == cell.data() + cell.size() && std::isfinite(out);
}

} // namespace

Result<TraceRead, Problem> read_trace(std::string_view text, const Motion& motion) {
    using Out = Result<TraceRead, Problem>;
    int line_number = 0;
    const auto no = [&](std::string why) {
        return Out::failure({Severity::error, "", "Trace", std::move(why), line_number});
    };
    if (text.size() > largest_trace_file)
        return no("the file has " + std::to_string(text.size() >> 20) + " MB; allowed are at most " +
                  std::to_string(largest_trace_file >> 20) + " MB");
    if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
    std::size_t at = 0;
    const auto next = [&](std::string_view& line) {
        while (at < text.size()) {
            std::size_t end = text.find('\n', at);
            if (end == std::string_view::npos) end = text.size();
            line = trim(text.substr(at, end - at));
            at = end + 1;
            ++line_number;
            if (!line.empty() && line.front() != '#') return true;
        }
        return false;
    };
    std::string_view line;
    if (!next(line))
        return no("the file is empty; allowed is a header row such as \"time [s], position [mm]\" and samples");
    const char separator = line.find(';') != std::string_view::npos    ? ';'
                           : line.find('\t') != std::string_view::npos ? '\t'
                                                                       : ',';
    const std::vector<std::string_view> cells = split(line, separator);
    std::size_t time_at = cells.size(), value_at = cells.size();
    double time_factor = 1, value_factor = 1, value_zero = 0;
    TraceRead out;
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const Header h = header_of(cells[i]);
        const bool wanted =
            (h.column == Column::time && time_at == cells.size()) ||
            ((h.column == Column::position || h.column == Column::velocity) && value_at == cells.size());
        if (!wanted) {
            out.notes.push_back("column " + std::to_string(i + 1) + ", \"" + std::string(cells[i]) + "\", is ignored");
            continue;
        }
        const Kind kind =
            h.column == Column::time
                ? Kind::time
                : motion_kind(h.column == Column::position ? Order::position : Order::speed, motion.rotary);
        const Unit* unit = h.unit.empty() ? nullptr : find_unit(h.unit, kind);
        if (!unit || unit->kind != kind)
            return no("column " + std::to_string(i + 1) + ", \"" + std::string(cells[i]) + "\": " +
                      (h.unit.empty() ? std::string("it names no unit")
                                      : "\"" + h.unit + "\" is no unit of " + std::string(info(kind).name)) +
                      "; this axis wants a " + std::string(info(kind).name) + ", such as \"" + h.name + " [" +
                      std::string(info(kind).si_unit) + "]\"");
        if (h.column == Column::time) {
            time_at = i;
            time_factor = to_si(1, *unit);
        } else {
            value_at = i;
            value_zero = to_si(0, *unit);
            value_factor = to_si(1, *unit) - value_zero;
            out.trace.of = h.column == Column::position ? TraceOf::position : TraceOf::velocity;
        }
    }
    if (time_at == cells.size() || value_at == cells.size())
        return no("found the header \"" + std::string(line.substr(0, 80)) +
                  "\"; wanted are a column time and a column position or velocity, each with its unit, such as \"time "
                  "[s], position [mm]\"");
    auto numbers = std::make_shared<std::vector<double>>();
    numbers->reserve(text.size() / 12);
    std::vector<int> lines;
    bool comma_seen = false;
    const bool decimal_comma = separator != ',';
    while (next(line)) {
        // the two columns wanted, without a list of all
        std::string_view found[2];
        std::size_t column = 0, from = 0;
        for (; from <= line.size(); ++column) {
            std::size_t end = line.find(separator, from);
            if (end == std::string_view::npos) end = line.size();
            if (column == time_at) found[0] = trim(line.substr(from, end - from));
            if (column == value_at) found[1] = trim(line.substr(from, end - from));
            from = end + 1;
        }
        if (column != cells.size())
            return no("found " + std::to_string(column) + " columns, the header has " + std::to_string(cells.size()) +
                      (separator == ',' && column > cells.size()
                              ? "; a decimal comma is only read where semicolons or tabs part the columns"
                              : ""));
        double values[2];
        for (int k = 0; k < 2; ++k)
            if (!read_number(found[k], decimal_comma, values[k]))
                return no("found \"" + std::string(found[k].substr(0, 30)) + "\" for the " +
                          (k == 0 ? "time" : "value") + "; allowed is a finite number");
        comma_seen = comma_seen || (decimal_comma && found[1].find(',') != std::string_view::npos);
        const double t = values[0] * time_factor, value = value_zero + values[1] * value_factor;
        const auto usable = [](double v) {
            return std::isfinite(v) && (v == 0 || std::abs(v) > 1e-150) && std::abs(v) < 1e150;
        };
        if (!usable(t) || !usable(value))
            return no("found " + std::string(found[usable(t) ? 1 : 0]) + " for the " + (usable(t) ? "value" : "time") +
                      "; in SI units it is too large or too small to calculate with");
        if (!numbers->empty() && !(t > (*numbers)[numbers->size() - 2]))
            return no("the time " + std::string(found[0]) + " does not rise over the one before it");
        numbers->push_back(t);
        numbers->push_back(value);
        lines.push_back(line_number);
        if (lines.size() > 2'000'000) return no("more than 2 000 000 samples; thin the recording out");
    }
    const std::size_t n = lines.size();
    if (n < 5) return no("found " + std::to_string(n) + " samples; a trace needs at least 5");
    std::vector<double> steps(n - 1);
    for (std::size_t i = 1; i < n; ++i) steps[i - 1] = (*numbers)[2 * i] - (*numbers)[2 * i - 2];
    std::vector<double> sorted = steps;
    std::nth_element(sorted.begin(), sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() / 2), sorted.end());
    const double middle = sorted[sorted.size() / 2];
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (steps[i] > 20 * middle) {
            line_number = lines[i + 1];
            return no("a gap of " + format_number(steps[i], 4) + " s before this sample; the others are " +
                      format_number(middle, 4) + " s apart. Fill it or cut the trace there");
        }
    const double start = (*numbers)[0];
    for (std::size_t i = 0; i < n; ++i) (*numbers)[2 * i] -= start;
    if (comma_seen) out.notes.emplace_back("commas were read as decimal commas");
    out.trace.samples = Samples{std::move(numbers), 2};
    return out;
}

std::string motion_csv(const Trajectory& t, const Motion& motion, const Demand* demand, double step) {
    const double position = motion.rotary ? 180 / 3.14159265358979323846 : 1e3;
    std::string out = motion.rotary ? "time [s],position [deg],velocity [rad/s],acceleration [rad/s²],jerk [rad/s³]"
                                    : "time [s],position [mm],velocity [m/s],acceleration [m/s²],jerk [m/s³]";
    if (demand)
        out += motion.direct ? ",shaft speed [m/s],force [N],power [W]" : ",shaft speed [rad/s],torque [N·m],power [W]";
    out += '\n';
    const auto rows = static_cast<std::size_t>(std::floor(t.duration / step * (1 + 1e-12)));
    for (std::size_t i = 0; i <= rows + 1; ++i) {
        const double at = i <= rows ? static_cast<double>(i) * step : t.duration;
        if (i == rows + 1 && t.duration - static_cast<double>(rows) * step < 1e-9 * step) break;
        const Piece& p = t.at(at);
        const double tau = std::min(at - p.start, p.duration);
        fmt::format_to(std::back_inserter(out), "{:.9g},{:.9g},{:.9g},{:.9g},{:.9g}", at, p.position(tau) * position,
            p.velocity(tau), p.acceleration(tau), p.jerk(tau));
        if (demand) {
            const ShaftState s = demand->at(at);
            fmt::format_to(std::back_inserter(out), ",{:.9g},{:.9g},{:.9g}", s.speed, s.torque, s.torque * s.speed);
        }
        out += '\n';
    }
    return out;
}

} // namespace fulmox
