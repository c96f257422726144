#include "core/match/rows/judging.h"

#include "core/match/rows/axis_facts.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <algorithm>
#include <cctype>
#include <cmath>

namespace fulmox {

std::string travel_remedy(const Axis& axis, bool more) {
    const auto one = [&](const char* larger, const char* smaller) { return std::string(more ? larger : smaller); };
    const Mechanism& m = axis.mechanism;
    if (motion_of(m).direct) return {};
    if (std::holds_alternative<Screw>(m)) return one("a longer lead", "a shorter lead");
    if (std::holds_alternative<RackPinion>(m)) return one("a larger pinion", "a smaller pinion");
    if (std::holds_alternative<BeltDrive>(m) || std::holds_alternative<Conveyor>(m))
        return one("a larger pulley", "a smaller pulley");
    if (std::holds_alternative<Hoist>(m)) return one("a larger drum", "a smaller drum");
    return one("a lower ratio", "a higher ratio");
}

std::string remedies(std::vector<std::string> each) {
    std::erase(each, std::string());
    std::string out;
    for (std::size_t i = 0; i < each.size(); ++i)
        out += (i == 0 ? "" : i + 1 < each.size() ? ", " : each.size() == 2 ? " or " : ", or ") + each[i];
    if (!out.empty()) out.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(out.front())));
    return out.empty() ? out : out + ".";
}

void set_cannot_say(Limit& l, Text why) {
    l.state = LimitState::cannot_say;
    l.reason = std::move(why);
}

void lacks(Limit& l, std::vector<Missing> missing, const Text& known) {
    l.working.clear();
    std::string names;
    for (const Missing& m : missing) names += (names.empty() ? "" : ", ") + m.name;
    set_cannot_say(l, (known.empty() ? Text() : known + "; ") + ("not given: " + names));
    l.missing = std::move(missing);
}

bool conclude(Limit& l, In in, std::string source) {
    l.source = std::move(source);
    judge(l);
    if (l.state == LimitState::cannot_say) {
        l.working.clear();
        l.reason = std::isnan(l.share) ? "the policy \"" + in.policy.name + "\" gives no share for it"
                                       : "its values are not known";
        return false;
    }
    if (in.workings && l.allowed > 0 && std::isfinite(l.used) && std::isfinite(l.allowed))
        l.working.push_back(working_line("use",
            format_quantity(l.used, si_unit(l.kind), 4) + " / " + format_quantity(l.allowed, si_unit(l.kind), 4),
            "used/allowed", {{"used", l.used}, {"allowed", l.allowed}}, l.used / l.allowed, Kind::number));
    return true;
}

std::optional<std::size_t> conclude(Limit& l, In in, const std::vector<Clause>& clauses, std::string source) {
    l.source = source;
    std::vector<Missing> missing;
    const auto worst = worst_of(clauses, missing);
    if (!worst) {
        if (missing.empty())
            set_cannot_say(l, "its values are not known");
        else
            lacks(l, std::move(missing));
        return std::nullopt;
    }
    l.used = clauses[*worst].used;
    l.allowed = clauses[*worst].allowed;
    if (!conclude(l, in, std::move(source))) return std::nullopt;
    return worst;
}

// Judges where `used` and `allowed` are there but may promise too much.
[[nodiscard]] bool conclude_but_for(Limit& l, In in, std::vector<Missing> missing, std::string source) {
    if (missing.empty() || std::isnan(l.used) || std::isnan(l.allowed) || std::isnan(l.share))
        return conclude(l, in, std::move(source));
    Limit by_the_rest = l;
    if (conclude(by_the_rest, in, source) && by_the_rest.state == LimitState::over) {
        l = std::move(by_the_rest);
        return true;
    }
    l.source = std::move(source);
    lacks(l, std::move(missing));
    return false;
}

Clause held_against(double used, const QuantityBase& allowed, const std::string& path, const std::string& name) {
    if (allowed.given()) return {used, allowed.si};
    return {used, no_number, {{path, name}}};
}

bool too_little_to_say(Limit& l, In in) {
    const MotorUse& u = *in.state.motor;
    if (!u.beyond_voltage || !u.can.model->weakens() || l.used > l.allowed) return false;
    set_cannot_say(l, not_reached);
    return true;
}

// Nominal diameters are equal or they are not; what is allowed is the rounding of an inch size.
static constexpr double same_diameter = 1e-3; // of the diameter

void judge_fits(Limit& l, In in, const std::vector<Mating>& fits, const char* remedy) {
    std::vector<Clause> clauses;
    for (const Mating& m : fits) {
        Clause c{m.apart() / m.wants, same_diameter};
        if (!m.missing.path.empty()) c.missing.push_back(m.missing);
        clauses.push_back(std::move(c));
    }
    const auto worst = conclude(l, in, clauses, "nominal diameters are equal; common practice, no source");
    if (!worst) return;
    const Mating& m = fits[*worst];
    l.used = m.apart();
    l.allowed = same_diameter * m.wants;
    const auto say = [&](double d) { return in.words.say(d, Kind::length); };
    if (l.state == LimitState::over) {
        l.reason = Text(m.what + ": ") + say(m.has) + " on " + say(m.wants);
        l.remedy = remedy;
        return;
    }
    // equal within rounding is equal
    l.state = LimitState::fits;
    std::string names;
    for (const Mating& each : fits) names += (names.empty() ? "" : ", ") + each.what;
    l.reason = "equal: " + names;
}

void work(Figure& f, In in, const char* symbol, const char* formula, const char* rule, const WorkingValues& values,
    const char* source) {
    if (in.workings && std::isfinite(f.si))
        f.working.push_back(working_line(symbol, formula, rule, values, f.si, f.kind, source));
}

} // namespace fulmox
