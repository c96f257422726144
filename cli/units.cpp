#include "commands.h"
#include "core/files/project.h"
#include "core/quantity/expression.h"
#include "core/quantity/format.h"
#include "output.h"

#include <algorithm>
#include <iostream>
#include <memory>

namespace fulmox {

namespace {

int show_units(const std::string& expression, const std::string& unit) {
    const auto value = evaluate(expression);
    if (!value) {
        std::cerr << "error: \"" << expression << "\": " << value.error().message << " (at "
                  << value.error().position + 1 << ")\n";
        return bad_input;
    }
    if (unit.empty()) {
        const bool single = value->unit && value->kind == value->unit->kind;
        std::cout << format_number(value->si, 10) << " "
                  << (single ? std::string(info(value->kind).si_unit) : value->dimension.symbol()) << "\n";
        return all_fit;
    }
    const Unit* to = find_unit(unit);
    // a symbol may belong to several kinds, as kHz does
    for (const Unit& u : units())
        if (to && dimension_of(to->kind) != value->dimension && dimension_of(u.kind) == value->dimension &&
            find_unit(unit, u.kind)->kind == u.kind)
            to = find_unit(unit, u.kind);
    if (!to) {
        std::cerr << "error: \"" << unit << "\" is not a known unit\n";
        return bad_input;
    }
    const auto converted = convert(*value, *to);
    if (!converted) {
        std::cerr << "error: " << converted.error().message << "\n";
        return bad_input;
    }
    std::cout << format_number(*converted, 10) << " " << to->symbol << "\n";
    return all_fit;
}

// The words of the command line as one expression; after "in" the unit.
int show_words(std::vector<std::string> words) {
    std::string unit, expression;
    if (words.size() >= 3 && words[words.size() - 2] == "in") {
        unit = words.back();
        words.resize(words.size() - 2);
    }
    for (const std::string& w : words) expression += (expression.empty() ? "" : " ") + w;
    return show_units(expression, unit);
}

} // namespace

void add_units(CLI::App& app, Run& run) {
    const auto words = std::make_shared<std::vector<std::string>>();
    auto* command = app.add_subcommand("units", "Arithmetic with units: units \"2*35 mm + 1 in\" in mm");
    command->add_option("EXPR", *words, "Expression, then perhaps: in UNIT")->required()->expected(1, -1);
    command->callback([words, &run] { run = [words] { return show_words(*words); }; });
}

void add_schema(CLI::App& app, Run& run) {
    auto* command = app.add_subcommand("schema", "JSON Schema of the project file");
    command->callback([&run] {
        run = [] {
            std::cout << project_schema();
            return all_fit;
        };
    });
}

} // namespace fulmox
