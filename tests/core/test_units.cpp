#include "core/quantity/expression.h"
#include "core/quantity/format.h"
#include "core/quantity/quantity.h"
#include "core/quantity/spelling.h"

#include "tests/catch.h"
#include <set>
#include <type_traits>

using namespace fulmox;

// Quantities of different kinds do not mix, even of the same dimension.
static_assert(!std::is_assignable_v<Quantity<Kind::length>&, Quantity<Kind::mass>>);
static_assert(!std::is_assignable_v<Quantity<Kind::torque>&, Quantity<Kind::energy>>);
static_assert(!std::is_convertible_v<double, Quantity<Kind::length>>);
static_assert(!std::is_convertible_v<const char*, Quantity<Kind::length>>);

TEST_CASE("every unit is found under its symbol and each alias, for its own kind") {
    for (const Unit& u : units()) {
        INFO(u.symbol);
        CHECK(find_unit(u.symbol, u.kind) == &u);
        std::string_view rest = u.aliases;
        while (!rest.empty()) {
            const std::size_t end = rest.find(' ');
            const std::string_view alias = rest.substr(0, end);
            INFO(alias);
            CHECK(find_unit(alias, u.kind) == &u);
            rest = end == std::string_view::npos ? std::string_view{} : rest.substr(end + 1);
        }
    }
}

TEST_CASE("no spelling means two units of one kind") {
    std::set<std::pair<std::string, Kind>> seen;
    for (const Unit& u : units()) {
        std::string all(u.symbol);
        if (!u.aliases.empty()) all += " " + std::string(u.aliases);
        std::set<std::string> own;
        for (std::size_t from = 0; from <= all.size();) {
            const std::size_t end = std::min(all.find(' ', from), all.size());
            own.insert(spelling::normalise_unit(all.substr(from, end - from)));
            from = end + 1;
        }
        for (const std::string& s : own) {
            INFO(u.symbol << " " << s);
            CHECK(seen.emplace(s, u.kind).second);
        }
    }
}

TEST_CASE("every kind has its SI unit first, with factor one, and a display unit in each system") {
    for (int k = 0; k < kind_count(); ++k) {
        const Kind kind = static_cast<Kind>(k);
        INFO(info(kind).name);
        CHECK(si_unit(kind).factor == 1);
        CHECK(units_of(kind).front() == &si_unit(kind));
        for (const UnitSystem s : {UnitSystem::si, UnitSystem::inch_pound, UnitSystem::mixed})
            CHECK(display_unit(kind, s).kind == kind);
    }
}

TEST_CASE("a written value reads back as itself in every unit") {
    for (const Unit& u : units()) {
        if (u.kind == Kind::number && u.symbol == "1") continue;
        const std::string text = format_exact(12.5) + " " + std::string(u.symbol);
        const auto r = read_quantity(text, u.kind, si_unit(u.kind));
        INFO(text << (r ? "" : ": " + r.error().message));
        REQUIRE(r);
        CHECK(r->si == Approx(to_si(12.5, u)).epsilon(1e-14));
        CHECK(r->unit == &u);
    }
}

TEST_CASE("numbers are written with sensible digits") {
    CHECK(format_number(12.3456) == "12.35");
    CHECK(format_number(0.000114) == "0.000114");
    CHECK(format_number(0.0000114) == "1.14e-5");
    CHECK(format_number(1000) == "1000");
    CHECK(format_number(-0.0) == "0");
    CHECK(format_number(123456) == "123456");
    CHECK(format_number(2.5e9) == "2.5e9");
    CHECK(format_number(100, 4) == "100");
    CHECK(format_number(std::nan("")) == "–");
    CHECK(format_number(INFINITY) == "∞");
    CHECK(format_quantity(0.0254, *find_unit("in")) == "1 in");
    CHECK(format_quantity(0.003, Kind::torque, UnitSystem::si) == "3 mN·m");
    CHECK(format_quantity(313.15, *find_unit("°C")) == "40 °C");
}
