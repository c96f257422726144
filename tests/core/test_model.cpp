#include "tests/demo.h"

#include "core/model/validate.h"
#include "core/quantity/format.h"

#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

struct Try {
    std::string text;
    bool allowed;
};

// Values around the ends of a range, in the field's own unit.
std::vector<Try> around(const QuantitySpec& s) {
    const std::string unit = std::string_view(s.unit) == "1" ? "" : " " + std::string(s.unit);
    const double width = s.range.max - s.range.min;
    const auto text = [&](double v) { return format_exact(v) + unit; };
    return {{text(s.range.min), !s.range.open_min}, {text(s.range.max), !s.range.open_max},
        {text(s.range.min - 0.01 * width), false}, {text(s.range.max + 0.01 * width), false},
        {text((s.range.min + s.range.max) / 2), true}, {"1e308" + unit, false}, {"nan", false},
        {"-1e308" + unit, false}};
}

} // namespace

TEST_CASE("every field refuses what lies outside its range, wrong units and text, and keeps its value") {
    Machine m = demo();
    int fields = 0;
    for (FieldRef& f : walk(m)) {
        if (f.type != FieldRef::Type::quantity) continue;
        ++fields;
        INFO(f.path);
        const QuantitySpec& s = f.quantity_spec;
        REQUIRE(std::isfinite(s.range.min));
        REQUIRE(std::isfinite(s.range.max));
        REQUIRE(s.range.min < s.range.max);
        CHECK(find_unit(s.unit, f.kind)->kind == f.kind);
        CHECK(std::string(s.help).size() > 5);
        CHECK((s.required || *s.if_empty.words));
        for (const Try& t : around(s)) {
            const QuantityBase before = *f.quantity;
            const auto problem = assign(f, t.text);
            INFO(t.text << (problem ? ": " + problem->message : ""));
            CHECK(!problem == t.allowed);
            if (problem) {
                CHECK(*f.quantity == before);
                CHECK(problem->path == f.path);
                CHECK(problem->field == s.label);
                CHECK(!problem->message.empty());
            } else {
                CHECK(!check(f).value_or(Problem{Severity::suspicious, "", "", "", 0}).message.starts_with("found"));
            }
        }
        const QuantityBase before = *f.quantity;
        for (const char* bad : {"abc", "5 furlongs", "1,5", "()", "\xff\xfe"}) {
            CHECK(assign(f, bad));
            CHECK(*f.quantity == before);
        }
        CHECK(assign(f, f.kind == Kind::mass ? "5 m" : "5 kg"));
        CHECK(*f.quantity == before);
        const auto empty = assign(f, "");
        CHECK(empty.has_value() == s.required);
        CHECK(f.quantity->given() == s.required);
    }
    CHECK(fields > 100);
}

TEST_CASE("paths and keys are unique") {
    Machine m = demo();
    std::set<std::string> seen;
    for (const FieldRef& f : walk(m)) {
        INFO(f.path);
        CHECK(seen.insert(f.path).second);
        CHECK(!f.label().empty());
    }
}

TEST_CASE("fields are checked against one another") {
    const auto message = [](const Machine& m, const std::string& path) {
        for (const Problem& p : validate(m))
            if (p.path == path) return p.message;
        return std::string();
    };
    Machine m = demo();
    CHECK(!has_errors(validate(m)));
    set(m, "/mechanism/root_diameter", "30 mm");
    CHECK_THAT(message(m, "/axes/0/mechanism/root_diameter"), Contains("30 mm") && Contains("smaller"));
    m = demo();
    set(m, "/mechanism/lead", "100 mm");
    CHECK_THAT(message(m, "/axes/0/mechanism/lead"), Contains("three times the diameter"));
    m = demo();
    set(m, "/mechanism/free_length", "2 m");
    CHECK_THAT(message(m, "/axes/0/mechanism/free_length"), Contains("screw length"));
    m = demo();
    set(m, "/cycle/segments/0/what/acceleration_share", "0.8");
    CHECK_THAT(message(m, "/axes/0/cycle/segments/0/what/acceleration_share"), Contains("add to 1"));
    m = demo();
    set(m, "/load/guide_friction", "0.8");
    CHECK_THAT(message(m, "/axes/0/load/guide_friction"), Contains("unusual"));
    m = demo();
    set(m, "/motor/peak/1/speed", "0 rpm");
    CHECK_THAT(message(m, "/axes/0/motor/peak/1/speed"), Contains("must rise"));
    m = demo();
    m.axes[0].motor.continuous.resize(1);
    CHECK_THAT(message(m, "/axes/0/motor/continuous"), Contains("at least 2"));
    m = demo();
    m.axes[0].cycle.segments.clear();
    CHECK_THAT(message(m, "/axes/0/cycle/segments"), Contains("add a move"));
    m = demo();
    m.axes[0].policy = "Nobody's";
    CHECK_THAT(message(m, "/axes/0/policy"), Contains("Nobody's"));
    m = demo();
    m.policies[1].name = m.policies[0].name;
    CHECK_THAT(message(m, "/policies/1/name"), Contains("must differ"));
    m = demo();
    m.policies[0].inertia_ratio_tight = Quantity<Kind::number>("20");
    CHECK_THAT(message(m, "/policies/0/inertia_ratio_tight"), Contains("cannot exceed"));
}

TEST_CASE("lists and kinds can be edited through their references") {
    Machine m = demo();
    auto list = find_field(m, "/axes/0/cycle/segments");
    REQUIRE(list);
    const std::size_t n = list->list.size();
    list->list.duplicate(0);
    CHECK(m.axes[0].cycle.segments.size() == n + 1);
    CHECK(m.axes[0].cycle.segments[0] == m.axes[0].cycle.segments[1]);
    list->list.erase(1);
    list->list.move(0, n - 1);
    CHECK(m.axes[0].cycle.segments.back().note == "up to the fill level");
    auto kind = find_field(m, "/axes/0/cycle/segments/0/what");
    REQUIRE(kind);
    kind->choose(0);
    CHECK(std::holds_alternative<MoveInTime>(m.axes[0].cycle.segments[0].what));
}

TEST_CASE("copies of a project share what is not changed") {
    const Machine before = demo();
    Machine after = before;
    const auto same = [&](std::size_t i) { return &std::as_const(before.axes)[i] == &std::as_const(after.axes)[i]; };
    for (std::size_t i = 0; i < before.axes.size(); ++i) CHECK(same(i));
    auto field = find_field(after, "/axes/2/load/payload");
    REQUIRE(field);
    CHECK(same(1));
    CHECK(!same(2));
    REQUIRE(!assign(*field, "123 kg"));
    CHECK(std::as_const(after.axes)[2].load.payload.text == "123 kg");
    CHECK(before.axes[2].load.payload.text != "123 kg");
    CHECK(after != before);
    CHECK(std::as_const(after.axes)[1] == before.axes[1]);
    // as a vector would
    after.axes.erase(after.axes.begin() + 2);
    CHECK(after.axes.size() == before.axes.size() - 1);
    CHECK(&std::as_const(after.axes)[2] == &before.axes[3]);
    after.axes.insert(after.axes.begin(), Axis{});
    CHECK(std::as_const(after.axes)[0].name.empty());
    CHECK(&std::as_const(after.axes)[1] == &before.axes[0]);
    after.axes.resize(13, before.axes[0]);
    after.axes.back().name = "the last";
    CHECK(std::as_const(after.axes)[11] == before.axes[0]);
    CHECK_THROWS_AS(after.axes.at(13), std::out_of_range);
    for (Axis& a : after.axes) a.name = "all";
    CHECK(before.axes[0].name != "all");
}

TEST_CASE("a field is found by its path, and is what a walk over everything finds") {
    Machine m = demo();
    int found = 0;
    for (const FieldRef& f : walk(m)) {
        const auto one = find_field(m, f.path);
        INFO(f.path);
        REQUIRE(one);
        CHECK(one->type == f.type);
        CHECK(one->active == f.active);
        CHECK(one->serves == f.serves);
        CHECK(one->quantity == f.quantity);
        CHECK(one->label() == f.label());
        ++found;
    }
    CHECK(found > 500);
    for (const char* path : {"", "/", "/axes/99", "/axes/0/load/payloads", "/axes/0/load/payload/", "/axe", "axes"})
        CHECK(!find_field(m, path));
}
