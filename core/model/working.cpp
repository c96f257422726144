#include "core/model/working.h"

#include "core/quantity/format.h"

#include <array>
#include <cctype>
#include <stdexcept>

namespace fulmox {

namespace {

constexpr std::array functions{"sqrt", "tan", "sin", "cos", "asin", "abs", "min", "max", "pi"};

std::string bracketed(std::string number, std::size_t next, const std::string& expression) {
    const bool power = next < expression.size() && expression[next] == '^';
    if (number.front() == '-' || (power && number.find('e') != std::string::npos)) return "(" + number + ")";
    return number;
}

std::string substitute(const std::string& e, const WorkingValues& values, bool exact) {
    std::string out;
    for (std::size_t i = 0; i < e.size();) {
        if (std::isalpha(static_cast<unsigned char>(e[i])) == 0) {
            if (std::isdigit(static_cast<unsigned char>(e[i])) != 0) { // a literal, perhaps 1e-3
                while (i < e.size() && (std::isdigit(static_cast<unsigned char>(e[i])) != 0 || e[i] == '.' ||
                                           e[i] == 'e' || (e[i] == '-' && e[i - 1] == 'e')))
                    out += e[i++];
            } else {
                out += e[i++];
            }
            continue;
        }
        const std::size_t from = i;
        while (i < e.size() && (std::isalnum(static_cast<unsigned char>(e[i])) != 0 || e[i] == '_')) ++i;
        const std::string name = e.substr(from, i - from);
        bool found = false;
        for (const auto& [key, value] : values) {
            if (key != name) continue;
            out += bracketed(exact ? format_exact(value) : format_number(value, 5), i, e);
            found = true;
            break;
        }
        for (const char* f : functions) found = found || (name == f && (out += name, true));
        if (!found) throw std::logic_error("working: no value for " + name + " in " + e);
    }
    return out;
}

} // namespace

std::string WorkingLine::substituted() const { return substitute(expression, values, false); }
std::string WorkingLine::exact() const { return substitute(expression, values, true); }

WorkingLine working_line(std::string symbol, std::string formula, std::string expression, WorkingValues values,
    double result, Kind kind, std::string source) {
    return {std::move(symbol), std::move(formula), std::move(expression), std::move(values), result, kind,
        std::move(source)};
}

} // namespace fulmox
