// Forgetting never helps: what an empty field means is said by its class, and every verdict keeps to it. Goes over the
// demo, the fixtures and the axes in which something once differed, with all their parts.
#include "core/match/candidates.h"
#include "core/match/limits.h"
#include "core/model/part.h"
#include "core/model/walk.h"
#include "tests/demo.h"
#include "tests/mechanisms.h"

#include <cmath>
#include <filesystem>
#include <map>
#include <random>
#include <set>

using namespace fulmox;
using namespace fulmox::testing;
using Catch::Matchers::Contains;

namespace {

struct Sample {
    std::string name;
    Machine machine; // one axis
};

const std::vector<Sample>& samples() {
    static const std::vector<Sample> all = [] {
        std::vector<Sample> out;
        const auto take = [&](const std::string& file, const Machine& whole) {
            for (std::size_t i = 0; i < whole.axes.size(); ++i) {
                Machine one = whole;
                one.axes = {whole.axes[i]};
                // few pieces: every field costs an assessment
                const Assessment a = assess(one, 0, {.workings = false, .figures = false});
                if (has_errors(a.problems) || !a.motion || a.motion->pieces.size() > 60) continue;
                out.push_back({file + ", " + one.axes[0].name, std::move(one)});
            }
        };
        take("demo", demo());
        for (const char* folder : {"tests/fixtures", "tests/outside/slow/kept", "tests/cases/unknown-fits"})
            for (const auto& e : std::filesystem::directory_iterator(std::string(FULMOX_SOURCE_DIR) + "/" + folder))
                if (e.path().extension() == ".fulmox")
                    if (auto read = read_project(file_text(folder + ("/" + e.path().filename().string()))))
                        take(e.path().filename().string(), read->machine);
        return out;
    }();
    return all;
}

std::vector<FieldRef> optional_fields(Machine& m) {
    std::vector<FieldRef> out;
    for (FieldRef& f : walk(m.axes[0], "/axes/0"))
        if (f.type == FieldRef::Type::quantity && f.active && !f.quantity_spec.required) out.push_back(std::move(f));
    return out;
}

Assessment judged(const Machine& m) { return assess(m, 0, {.workings = false, .figures = false, .cautions = false}); }

bool near(double a, double b) {
    return a == b || (std::isnan(a) && std::isnan(b)) || std::abs(a - b) <= 1e-9 * std::max(std::abs(a), std::abs(b));
}

bool same(const Limit& a, const Limit& b) {
    return a.state == b.state &&
           (a.state == LimitState::cannot_say || (near(a.used, b.used) && near(a.allowed, b.allowed)));
}

std::string said(const Limit& l) {
    return l.key + " " + state_key(l.state) + " " + std::to_string(l.used) + " of " + std::to_string(l.allowed) + ": " +
           l.reason.in(UnitSystem::si);
}

// Rows that a field alone asks for, by the end of its path: emptied, they go, and no others.
const std::multimap<std::string, std::string>& asks_for() {
    static const std::multimap<std::string, std::string> all{{"accuracy/asked", "precision"},
        {"life_asked", "screw_life"}, {"static_rating", "screw_static"}, {"speed_value", "speed_value"},
        {"drive/stop_time", "stage_emergency"}, {"drive/stop_distance", "stage_emergency"},
        {"drive/stop_time", "drive_stop"}, {"drive/stop_distance", "drive_stop"}, {"drive/torque_limit", "drive_stop"},
        {"ramp_start", "start_rate"}, {"ramp_start", "pull_in"}, {"pulse_limit", "pulse_rate"},
        {"pulse_input", "pulse_rate"}, {"trip_voltage", "open_circuit_emf"}, {"standstill_share", "drive_standstill"},
        {"shaft_torque", "shaft"}, {"housing_limit", "housing_temperature"}, {"electric/peak_current", "motor_current"},
        {"brush_speed", "brush_speed"}, {"driving_bore", "coupling_bores"}, {"driven_bore", "coupling_bores"},
        {"input_bore", "stage_mating"}, {"pilot", "stage_mating"}, {"bolt_circle", "stage_mating"},
        {"radial_rating", "stage_radial"}, {"axial_rating", "stage_axial"}, {"tilting_rating", "stage_tilting"},
        {"emergency_stops", "stage_stops"}, {"ratchet_torque", "stage_ratchet"}, {"stop_torque", "stage_emergency"},
        {"thermal_resistance", "winding_temperature"}, {"thermal_time_constant", "winding_temperature"},
        {"winding_time_constant", "winding_temperature"}, {"winding_resistance", "winding_temperature"},
        // what hangs asks for a holding brake
        {"process_force", "brake"}, {"counterbalance", "brake"},
        // a brake in the motor goes with its torque
        {"motor/brake_torque", "brake_stop"}, {"motor/brake_torque", "brake_energy"},
        // a sheet's own curve speaks for a motor whose constants are not all there
        {"electric/resistance", "voltage"}, {"electric/inductance", "voltage"}, {"electric/pole_pairs", "voltage"},
        {"electric/torque_constant", "voltage"}, {"electric/voltage_constant", "voltage"},
        {"electric/force_constant", "voltage"}, {"electric/rated_voltage", "bus_rating"},
        // ratings of stages that few have are judged where they are given
        {"rated_torque", "stage_equivalent"}, {"peak_torque", "stage_peak"}, {"emergency_torque", "stage_emergency"},
        {"emergency_torque", "stage_stops"}, {"nominal_speed", "stage_mean_speed"}, {"top_speed", "stage_speed"}};
    return all;
}

bool may_go(const std::string& path, const std::string& key) {
    for (const auto& [end, row] : asks_for())
        if (row == key && path.ends_with(end)) return true;
    return false;
}

} // namespace

TEST_CASE("every optional field says what it means where it is empty") {
    std::set<std::string> seen;
    for (const Sample& s : samples()) {
        Machine m = s.machine;
        for (const FieldRef& f : optional_fields(m)) {
            INFO(s.name << " " << f.path);
            const IfEmpty& e = f.quantity_spec.if_empty;
            CHECK(e.means != Empty::nothing);
            CHECK(*e.words != '\0');
            seen.insert(f.path);
        }
    }
    CHECK(samples().size() > 20);
    CHECK(seen.size() > 150);
}

TEST_CASE("an empty field of which there is none, or for which a default stands in, is as if that were typed") {
    int compared = 0;
    for (const Sample& s : samples()) {
        Machine m = s.machine;
        for (FieldRef& f : optional_fields(m)) {
            const IfEmpty& e = f.quantity_spec.if_empty;
            if (std::isnan(e.value) || (e.means != Empty::zero && e.means != Empty::stands_in)) continue;
            const QuantityBase kept = *f.quantity;
            *f.quantity = QuantityBase{};
            const Axis& axis = m.axes[0];
            // typing into a part puts it in place
            const bool there = !(f.path.starts_with("/axes/0/coupling/") && !axis.coupling.there()) &&
                               !(f.path.starts_with("/axes/0/brake/") && !axis.brake.there()) &&
                               !(f.path.starts_with("/axes/0/drive/") && !axis.has_drive());
            const Assessment empty = judged(m);
            if (!there) {
                *f.quantity = kept;
                continue;
            }
            f.quantity->si = to_si(e.value, spec_unit(f.quantity_spec, f.kind));
            f.quantity->text = "typed";
            if (!check(f)) {
                const Assessment typed = judged(m);
                INFO(s.name << " " << f.path);
                for (const Limit& l : empty.limits) {
                    const Limit* t = typed.limit(l.key);
                    REQUIRE(t);
                    INFO(said(l) << " | typed " << said(*t));
                    CHECK(same(l, *t));
                }
                CHECK(typed.limits.size() == empty.limits.size());
                ++compared;
            }
            *f.quantity = kept;
        }
    }
    CHECK(compared > 300);
}

namespace {

// Each row of before is there, and is unchanged, unknown, or over.
void never_better(const Assessment& was, const Assessment& now, const std::vector<std::string>& paths, Empty least) {
    for (const Limit& l : was.limits) {
        const Limit* n = now.limit(l.key);
        if (!n) {
            INFO("gone: " << said(l));
            const bool named =
                std::any_of(paths.begin(), paths.end(), [&](const std::string& path) { return may_go(path, l.key); });
            CHECK(named);
            continue;
        }
        INFO(said(l) << " | now " << said(*n));
        if (least == Empty::unknown)
            // what stands in elsewhere may only make it worse: without a root diameter a screw is heavier
            CHECK((same(l, *n) || n->state == LimitState::cannot_say || n->state == LimitState::over ||
                   (n->utilisation() >= l.utilisation() * (1 - 1e-9) && n->state >= l.state)));
        else
            CHECK((l.state != LimitState::over || n->state != LimitState::fits || !(n->used < l.used) ||
                   n->allowed <= l.allowed));
    }
}

} // namespace

TEST_CASE("an unknown never reads as fitting, and takes no row away that it does not ask for") {
    int emptied = 0;
    for (const Sample& s : samples()) {
        Machine m = s.machine;
        stay_in_place(m.axes[0]);
        const Assessment was = judged(m);
        for (FieldRef& f : optional_fields(m)) {
            if (!f.quantity->given() || f.quantity_spec.if_empty.means != Empty::unknown) continue;
            const QuantityBase kept = *f.quantity;
            *f.quantity = QuantityBase{};
            INFO(s.name << " " << f.path);
            never_better(was, judged(m), {f.path}, Empty::unknown);
            *f.quantity = kept;
            ++emptied;
        }
    }
    CHECK(emptied > 200);
}

TEST_CASE("two that are unknown at once are no better than one") {
    std::mt19937 chance(20261130);
    int emptied = 0;
    for (const Sample& s : samples()) {
        Machine m = s.machine;
        stay_in_place(m.axes[0]);
        const Assessment was = judged(m);
        std::vector<FieldRef> fields;
        for (FieldRef& f : optional_fields(m))
            if (f.quantity->given() && f.quantity_spec.if_empty.means == Empty::unknown) fields.push_back(std::move(f));
        for (int round = 0; round < 20 && fields.size() > 1; ++round) {
            FieldRef &a = fields[chance() % fields.size()], &b = fields[chance() % fields.size()];
            if (a.path == b.path) continue;
            const QuantityBase kept_a = *a.quantity, kept_b = *b.quantity;
            *a.quantity = *b.quantity = QuantityBase{};
            INFO(s.name << " " << a.path << " " << b.path);
            never_better(was, judged(m), {a.path, b.path}, Empty::unknown);
            *a.quantity = kept_a;
            *b.quantity = kept_b;
            ++emptied;
        }
    }
    CHECK(emptied > 200);
}

TEST_CASE("only what is not asked takes rows away") {
    for (const Sample& s : samples()) {
        Machine m = s.machine;
        stay_in_place(m.axes[0]);
        const Assessment was = judged(m);
        for (FieldRef& f : optional_fields(m)) {
            if (!f.quantity->given() || f.quantity_spec.if_empty.means == Empty::unknown) continue;
            const QuantityBase kept = *f.quantity;
            *f.quantity = QuantityBase{};
            const Assessment now = judged(m);
            INFO(s.name << " " << f.path);
            for (const Limit& l : was.limits)
                if (!now.limit(l.key) && !has_errors(now.problems)) {
                    INFO("gone: " << said(l));
                    CHECK(may_go(f.path, l.key));
                }
            *f.quantity = kept;
        }
    }
}

namespace {

bool matches(const std::string& path, std::string pattern) {
    const std::size_t star = pattern.find('*');
    if (star == std::string::npos) return path == pattern;
    if (!path.starts_with(pattern.substr(0, star))) return false;
    const std::size_t end = path.find('/', star);
    return end != std::string::npos && path.substr(end) == pattern.substr(star + 1);
}

int rank(const Limit& l) {
    return l.state == LimitState::over         ? 3
           : l.state == LimitState::cannot_say ? 2
           : l.state == LimitState::tight      ? 1
                                               : 0;
}

} // namespace

TEST_CASE("more of what allows never makes a limit worse, more of what is asked never better") {
    int tried = 0;
    std::set<std::string> rows;
    for (const Sample& s : samples()) {
        Machine m = s.machine;
        const Assessment was = judged(m);
        for (FieldRef& f : walk(m.axes[0], "")) {
            if (f.type != FieldRef::Type::quantity || !f.active || !f.quantity->given() || !(f.quantity->si > 0))
                continue;
            const QuantityBase kept = *f.quantity;
            for (const LimitRow& row : limit_rows()) {
                const auto names = [&](const std::vector<const char*>& all) {
                    return std::any_of(all.begin(), all.end(), [&](const char* p) { return matches(f.path, p); });
                };
                const bool allows = names(row.allowed_by), asks = names(row.asked_by);
                const Limit* before = was.limit(row.key);
                if ((!allows && !asks) || !before) continue;
                f.quantity->si = 1.1 * kept.si;
                if (!check(f)) {
                    const Assessment now = judged(m);
                    const Limit* after = now.limit(row.key);
                    INFO(s.name << " " << f.path << " | " << said(*before));
                    REQUIRE(after);
                    INFO("now " << said(*after));
                    const bool numbers =
                        before->state != LimitState::cannot_say && after->state != LimitState::cannot_say;
                    if (allows) {
                        CHECK(rank(*after) <= rank(*before));
                        if (numbers) CHECK(after->utilisation() <= before->utilisation() * (1 + 1e-9));
                    } else {
                        CHECK(rank(*after) >= rank(*before));
                        if (numbers) CHECK(after->utilisation() >= before->utilisation() * (1 - 1e-9));
                    }
                    ++tried;
                    rows.insert(row.key);
                }
                *f.quantity = kept;
            }
        }
        // a continuous curve is scaled as a whole
        if (!m.axes[0].motor.continuous.empty()) {
            for (CurvePoint& p : m.axes[0].motor.continuous) p.torque.si *= 1.1;
            const Assessment now = judged(m);
            for (const char* key : {"continuous_loss", "continuous_point", "holding"})
                if (const Limit* before = was.limit(key), *after = now.limit(key); before && after) {
                    INFO(s.name << " " << said(*before) << " | now " << said(*after));
                    CHECK(rank(*after) <= rank(*before));
                }
        }
    }
    CHECK(tried > 300);
    CHECK(rows.size() > 20);
}

TEST_CASE("a row names the default that stood in") {
    Machine m = demo();
    for (std::size_t index = 0; index < m.axes.size(); ++index) {
        if (std::as_const(m).axes[index].stages.empty()) continue;
        m.axes[index].stages[0].efficiency_back = {};
        const Assessment a = assess(m, index);
        const Limit* l = a.limit("peak_torque");
        REQUIRE(l);
        const auto named = stand_ins_of(a, *l);
        CHECK(std::any_of(named.begin(), named.end(),
            [](const StandIn* s) { return s->path == "/stages/0/efficiency_back" && s->words == "2 − 1/η"; }));
        return;
    }
}

TEST_CASE("worst_of: over before unknown, unknown before the rest") {
    const Missing gap{"/x", "x"};
    std::vector<Missing> missing;
    CHECK(worst_of({{1, 2}, {3, 2, {gap}}, {9, 4}}, missing) == 2u);
    CHECK(missing.empty());
    CHECK(worst_of({{1, 2}, {3, 2, {gap}}}, missing) == 1u); // over by what is known of it
    CHECK(worst_of({{1, 2}, {1, 2, {gap}}, {NAN, 2, {gap}}}, missing) == std::nullopt);
    CHECK(missing == std::vector<Missing>{gap});
    CHECK(worst_of({{1, 2}, {1.5, 2}, {0, 0}}, missing) == 1u);
    CHECK(worst_of({{0, 0}}, missing) == 0u);
    CHECK(worst_of({}, missing) == std::nullopt);
}
