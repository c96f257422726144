#include "core/model/problem.h"

#include <array>
#include <cstdlib>
#include <string_view>

namespace fulmox {

std::string field_and_place(const std::string& field, const std::string& path) {
    struct Place {
        std::string_view list;
        const char* before; // of the number
        const char* alone;  // what the entry itself is called
    };
    static constexpr std::array<Place, 5> places{{{"/segments/", "segment ", "Segment"}, {"/bodies/", "body ", "Body"},
        {"/stages/", "stage ", "Stage"}, {"/motor/peak/", "peak curve, point ", "Point"},
        {"/motor/continuous/", "continuous curve, point ", "Point"}}};
    static constexpr std::string_view further = "/further_cycles/";
    if (const std::size_t at = path.find(further); at != std::string::npos) {
        char* end = nullptr;
        const std::string number = std::to_string(std::strtoul(path.c_str() + at + further.size(), &end, 10) + 1);
        return field_and_place(field, end) + ", further cycle " + number;
    }
    for (const Place& p : places) {
        const std::size_t at = path.find(p.list);
        if (at == std::string::npos) continue;
        const std::string number = std::to_string(std::strtoul(path.c_str() + at + p.list.size(), nullptr, 10) + 1);
        const bool entry = path.find('/', at + p.list.size()) == std::string::npos;
        if (entry && field == p.alone) return field + " " + number;
        return field + ", " + p.before + number;
    }
    return field;
}

std::string to_text(const Problem& p) {
    std::string out;
    if (p.line > 0) out += "line " + std::to_string(p.line) + ", ";
    if (!p.path.empty()) out += p.path;
    if (!p.field.empty()) out += " (" + field_and_place(p.field, p.path) + ")";
    if (!out.empty()) out += ": ";
    return out + p.message;
}

bool has_errors(const Problems& problems) {
    for (const Problem& p : problems)
        if (p.severity == Severity::error) return true;
    return false;
}

} // namespace fulmox
