#include "core/quantity/format.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace fulmox {

std::string format_number(double value, int digits) {
    if (std::isnan(value)) return "–";
    if (std::isinf(value)) return value > 0 ? "∞" : "-∞";
    if (value == 0) return "0";
    const double magnitude = std::abs(value);
    std::string out;
    if (magnitude >= 1e-4 && magnitude < 1e7) {
        const int whole = static_cast<int>(std::floor(std::log10(magnitude))) + 1;
        out = fmt::format("{:.{}f}", value, std::max(0, digits - whole));
        if (out.find('.') != std::string::npos) {
            while (out.back() == '0') out.pop_back();
            if (out.back() == '.') out.pop_back();
        }
        return out == "-0" ? "0" : out;
    }
    out = fmt::format("{:.{}e}", value, digits - 1);
    const std::size_t e = out.find('e');
    std::string mantissa = out.substr(0, e);
    if (mantissa.find('.') != std::string::npos) {
        while (mantissa.back() == '0') mantissa.pop_back();
        if (mantissa.back() == '.') mantissa.pop_back();
    }
    return mantissa + "e" + std::to_string(std::stoi(out.substr(e + 1)));
}

std::string format_exact(double value) {
    char buffer[64];
    const auto r = std::to_chars(buffer, buffer + sizeof buffer, value);
    return {buffer, r.ptr};
}

std::string format_quantity(double si, const Unit& unit, int digits) {
    std::string n = format_number(from_si(si, unit), digits);
    if (unit.symbol == "1" || unit.symbol == "counts") return n;
    return n + " " + std::string(unit.symbol);
}

std::string format_quantity(double si, Kind kind, UnitSystem system, int digits) {
    const Unit* unit = &display_unit(kind, system);
    struct Step {
        Kind kind;
        const char* from;
        double below, above;
        const char* smaller;
        const char* larger;
    };
    // where the everyday unit would show more than four digits before or zeros after the point
    static constexpr Step steps[] = {
        {Kind::torque, "N·m", 0.01, 1e4, "mN·m", "kN·m"},
        {Kind::inertia, "kg·cm²", 1e-6, 1e-1, "g·cm²", "kg·m²"},
        {Kind::force, "N", 0, 1e4, "", "kN"},
        {Kind::power, "W", 0.1, 1e4, "mW", "kW"},
        {Kind::energy, "J", 0.1, 1e4, "mJ", "kJ"},
        {Kind::speed, "mm/s", 0, 10, "", "m/s"},
        {Kind::length, "mm", 0, 10, "", "m"},
        {Kind::time, "s", 0.001, 1e5, "ms", "h"},
    };
    for (const Step& s : steps) {
        if (s.kind != kind || unit->symbol != s.from || si == 0) continue;
        const double magnitude = std::abs(si);
        if (magnitude < s.below && *s.smaller)
            unit = find_unit(s.smaller, kind);
        else if (magnitude >= s.above && *s.larger)
            unit = find_unit(s.larger, kind);
        break;
    }
    return format_quantity(si, *unit, digits);
}

} // namespace fulmox
