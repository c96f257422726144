#include "core/files/demand_text.h"

#include "core/quantity/columns.h"
#include "core/quantity/expression.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace fulmox {

namespace {

enum DemandColumn : std::size_t { duration, first_speed, last_speed, first_load, last_load, columns };
constexpr const char* names[] = {"duration", "start speed", "end speed", "start torque", "end torque"};

struct Heading {
    std::array<std::size_t, columns> at{0, 1, 2, 3, 4};
    std::array<std::string, columns> unit;
};

// Which column a cell of the heading names; `seen` counts those that do not say start or end.
std::optional<DemandColumn> column_of(const std::string& name, std::array<int, 2>& seen) {
    const auto has = [&](std::initializer_list<const char*> words) {
        return std::any_of(
            words.begin(), words.end(), [&](const char* w) { return name.find(w) != std::string::npos; });
    };
    if (has({"duration", "time"}) || name == "t") return duration;
    const bool speed = has({"speed", "velocity"}), load = has({"torque", "force", "load"});
    if (speed == load) return std::nullopt;
    const bool last =
        has({"end", "final", "last"}) || (!has({"start", "begin", "initial", "first", "from"}) && seen[load] > 0);
    ++seen[load];
    return speed ? (last ? last_speed : first_speed) : (last ? last_load : first_load);
}

} // namespace

DemandText read_demand_text(std::string_view text, bool along) {
    DemandText out;
    const std::array<Kind, columns> kinds{Kind::time, along ? Kind::speed : Kind::angular_speed,
        along ? Kind::speed : Kind::angular_speed, along ? Kind::force : Kind::torque,
        along ? Kind::force : Kind::torque};
    const std::array<const char*, columns> bare{
        "s", along ? "mm/s" : "rpm", along ? "mm/s" : "rpm", along ? "N" : "N·m", along ? "N" : "N·m"};
    Heading head;
    bool begun = false;
    double speed = 0;
    Lines lines(text);
    for (std::string_view line; lines.next(line);) {
        const std::string place = lines.place();
        const char separator = separator_of(line);
        const std::vector<std::string_view> cells = split(line, separator);
        if (cells.size() != columns) {
            out.wrong.push_back(
                place + " has " + std::to_string(cells.size()) + (cells.size() == 1 ? " column" : " columns") +
                "; a demand has five: duration, start and end speed, start and end " + (along ? "force" : "torque"));
            continue;
        }
        if (!begun) {
            begun = true;
            std::array<int, 2> seen{};
            Heading named;
            std::array<bool, columns> there{};
            for (std::size_t i = 0; i < cells.size(); ++i) {
                const ColumnName c = column_name(cells[i]);
                if (const auto which = column_of(lower(c.name), seen)) {
                    named.at[*which] = i;
                    named.unit[*which] = c.unit;
                    there[*which] = true;
                }
            }
            if (std::all_of(there.begin(), there.end(), [](bool b) { return b; })) {
                head = named;
                continue;
            }
            if (std::any_of(there.begin(), there.end(), [](bool b) { return b; })) {
                std::string missing;
                for (std::size_t k = 0; k < columns; ++k)
                    if (!there[k]) missing += (missing.empty() ? "" : ", ") + std::string(names[k]);
                out.wrong.push_back(place + ", the heading, does not name: " + missing);
                return out;
            }
        }
        std::array<double, columns> si{};
        std::array<std::string, columns> texts;
        bool good = true;
        for (std::size_t k = 0; k < columns && good; ++k) {
            std::string cell(cells[head.at[k]]);
            if (separator != ',') mend_decimal_comma(cell);
            const Unit* unit = find_unit(head.unit[k].empty() ? bare[k] : head.unit[k], kinds[k]);
            const std::string what = std::string(names[k]) == "start torque" && along ? "start force"
                                     : std::string(names[k]) == "end torque" && along ? "end force"
                                                                                      : names[k];
            if (!unit || unit->kind != kinds[k]) {
                out.wrong.push_back("\"" + head.unit[k] + "\" of the heading is no unit of " + what + "; allowed are " +
                                    some_units(kinds[k]));
                return out;
            }
            const auto read = read_quantity(cell, kinds[k], *unit);
            if (!read || (k == duration && !(read->si > 0))) {
                out.wrong.push_back(place + ", " + what + ": \"" + cell + "\": " +
                                    (read ? std::string("allowed is a time above 0 s") : read.error().message));
                good = false;
                break;
            }
            si[k] = read->si;
            texts[k] = with_unit(cell, *read);
        }
        if (!good) continue;
        const bool first = out.cycle.segments.empty();
        const double size = std::max({std::abs(si[first_speed]), std::abs(speed), 1e-9});
        if (!first && std::abs(si[first_speed] - speed) > 1e-6 * size) {
            const Unit& unit = *find_unit(bare[first_speed], kinds[first_speed]);
            out.wrong.push_back(place + " begins with " + texts[first_speed] + ", the row before it ends with " +
                                format_quantity(speed, unit) + "; a speed does not jump");
            continue;
        }
        if (first && si[first_speed] != 0) out.cycle.start_speed = MotionQuantity<Order::speed>(texts[first_speed]);
        speed = si[last_speed];
        Segment s;
        if (si[first_speed] == si[last_speed]) {
            if (speed == 0) {
                Dwell d;
                d.duration = Quantity<Kind::time>(texts[duration]);
                s.what = d;
            } else {
                ConstantSpeed c;
                c.duration = Quantity<Kind::time>(texts[duration]);
                s.what = c;
            }
        } else {
            SpeedChange c;
            c.speed = MotionQuantity<Order::speed>(texts[last_speed]);
            c.duration = Quantity<Kind::time>(texts[duration]);
            s.what = c;
        }
        s.process_force = MotionQuantity<Order::force>(texts[first_load]);
        if (si[last_load] != si[first_load]) s.process_force_end = MotionQuantity<Order::force>(texts[last_load]);
        out.cycle.segments.push_back(std::move(s));
    }
    return out;
}

} // namespace fulmox
