#include "core/files/curve_text.h"

#include "core/quantity/columns.h"
#include "core/quantity/expression.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <optional>

namespace fulmox {

namespace {

bool has_digit(const std::string& s) {
    return std::any_of(s.begin(), s.end(), [](unsigned char c) { return std::isdigit(c); });
}

enum class What { unsaid, speed, continuous, peak };

struct Head {
    What what = What::unsaid;
    bool torque = false;
    std::string unit;
};

Head head_of(std::string_view cell) {
    Head h;
    const ColumnName column = column_name(cell);
    h.unit = column.unit;
    const std::string low = lower(column.name);
    const auto names = [&](std::initializer_list<const char*> words) {
        return std::any_of(words.begin(), words.end(), [&](const char* w) { return low.find(w) != std::string::npos; });
    };
    if (names({"speed", "velocity", "rpm"}) || low == "n" || low == "w" || low == "ω")
        h.what = What::speed;
    else if (names({"peak", "max", "intermittent", "s3"}))
        h.what = What::peak;
    else if (names({"continuous", "rated", "s1", "cont"}))
        h.what = What::continuous;
    h.torque = h.what != What::speed && (h.what != What::unsaid || names({"torque"}) || low == "t" || low == "m");
    return h;
}

} // namespace

CurveText read_curve_text(std::string_view text) {
    CurveText out;
    std::vector<Head> heads;
    std::array<std::size_t, 3> at{0, 1, 2}; // where speed, first and second stand
    bool begun = false;
    Lines lines(text);
    for (std::string_view line; lines.next(line);) {
        const char separator = separator_of(line);
        std::vector<std::string> cells;
        for (const std::string_view c : split(line, separator)) cells.emplace_back(c);
        const std::string place = lines.place();
        if (cells.size() != 2 && cells.size() != 3) {
            out.wrong.push_back(place + " has " + std::to_string(cells.size()) +
                                (cells.size() == 1 ? " column" : " columns") +
                                "; a curve has two, speed and torque, or three, speed, continuous and peak");
            continue;
        }
        if (!begun && !has_digit(cells[0].substr(0, cells[0].find_first_of("[(/")))) {
            begun = true;
            for (const std::string& c : cells) heads.push_back(head_of(c));
            const auto speed =
                std::find_if(heads.begin(), heads.end(), [](const Head& h) { return h.what == What::speed; });
            if (speed != heads.end() && speed != heads.begin()) {
                at[0] = static_cast<std::size_t>(speed - heads.begin());
                std::size_t next = 1;
                for (std::size_t i = 0; i < heads.size(); ++i)
                    if (i != at[0]) at[next++] = i;
            }
            if (heads.size() == 3)
                out.second = heads[at[1]].what == What::peak ? CurveText::Second::continuous : CurveText::Second::peak;
            else if (heads[at[1]].what != What::unsaid)
                out.first_is = heads[at[1]].what == What::peak ? "peak" : "continuous";
            continue;
        }
        begun = true;
        if (heads.empty() && out.rows.empty() && out.second == CurveText::Second::none && cells.size() == 3)
            out.second = CurveText::Second::peak;
        const std::size_t columns = out.second == CurveText::Second::none ? 2 : 3;
        if (cells.size() != columns) {
            out.wrong.push_back(place + " has " + std::to_string(cells.size()) + " columns, the rows before it " +
                                std::to_string(columns));
            continue;
        }
        CurveText::Row row;
        std::string* into[] = {&row.speed, &row.first, &row.second};
        bool good = true;
        for (std::size_t k = 0; k < columns && good; ++k) {
            std::string& c = cells[at[k]];
            if (separator != ',') mend_decimal_comma(c);
            const Kind kind = k == 0 ? Kind::angular_speed : Kind::torque;
            const char* what = k == 0 ? "speed" : "torque";
            const std::string unit_text = heads.empty() ? std::string() : heads[at[k]].unit;
            const Unit* unit = unit_text.empty() ? find_unit(k == 0 ? "rpm" : "N·m", kind) : find_unit(unit_text, kind);
            if (!unit || unit->kind != kind) {
                out.wrong.push_back(place + ": \"" + unit_text + "\" of the heading is no unit of " + what +
                                    "; allowed are " + some_units(kind));
                good = false;
                break;
            }
            const auto read = read_quantity(c, kind, *unit);
            if (!read || read->si < 0) {
                out.wrong.push_back(
                    place + ", " + what + ": \"" + c + "\": " +
                    (read ? std::string("below 0; a curve has speeds and torques from 0 on") : read.error().message));
                good = false;
                break;
            }
            *into[k] = with_unit(c, *read);
        }
        if (good) out.rows.push_back(std::move(row));
    }
    return out;
}

} // namespace fulmox
