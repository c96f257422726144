#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/match/stepping.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

WorkingLine precision_working(const PrecisionBudget& b, bool worst, Kind kind) {
    WorkingValues v;
    std::string sum, windups;
    for (std::size_t i = 0; i < b.terms.size(); ++i) {
        const std::string name = "e" + std::to_string(i + 1);
        v.emplace_back(name, b.terms[i].error);
        if (!worst && b.terms[i].key.starts_with("windup"))
            windups += (windups.empty() ? "" : "+") + name;
        else
            sum += (sum.empty() ? "" : "+") + name + (worst ? "" : "^2");
    }
    if (!windups.empty()) sum += (sum.empty() ? "(" : "+(") + windups + ")^2";
    return working_line("e", worst ? "sum of all errors, ±" : "root of the sum of squares, the windups together, ±",
        worst ? sum : "sqrt(" + sum + ")", v, worst ? b.worst : b.squares, kind, practice);
}

// Some compliance of the axis is entered.
bool gives_way(In in) {
    if (!turns(in) || !in.axis.driven() || !inertia_given(in)) return false;
    return in.results.stiffness ? !in.results.stiffness->springs.empty() : !springs_of(in.axis, in.load).empty();
}

bool sways(In in) {
    return gives_way(in) && (in.waits || (in.results.stiffness && in.results.stiffness->two.load > 0));
}

bool has_chain(In in) {
    return gives_way(in) && (in.waits || (in.results.stiffness && !in.results.stiffness->resonances.empty()));
}

bool tells_precision(In in) {
    return !std::holds_alternative<Winder>(in.axis.mechanism) &&
           (in.axis.accuracy.asked.given() || in.axis.accuracy.encoder_counts.given()) &&
           (in.waits || in.state.precision.has_value());
}

void of_budget(Figure& f, In in, double si, bool squares) {
    f.kind = motion_of(in.axis.mechanism).rotary ? Kind::angle : Kind::length;
    f.si = si;
    f.note = "±";
    for (const Missing& m : in.state.precision->missing)
        f.note += (&m == in.state.precision->missing.data() ? "; without " : ", ") + m.name;
    if (in.workings && !in.state.precision->terms.empty())
        f.working = {precision_working(*in.state.precision, !squares, f.kind)};
}

bool asks_precision(In in) {
    return in.axis.accuracy.asked.given() && !std::holds_alternative<Winder>(in.axis.mechanism);
}

void judge_precision(Limit& l, In in) {
    l.kind = motion_of(in.axis.mechanism).rotary ? Kind::angle : Kind::length;
    if (!in.state.precision) return set_cannot_say(l, "the demand is not known");
    const PrecisionBudget& b = *in.state.precision;
    const bool worst = in.axis.accuracy.judged_by == ErrorSum::worst;
    l.used = worst ? b.worst : b.squares;
    l.allowed = in.axis.accuracy.asked.si;
    if (!b.missing.empty() && l.used <= l.allowed)
        return lacks(l, b.missing, Text("± ") + in.words.say(l.used, l.kind) + " by what is given");
    if (in.workings && !b.terms.empty()) l.working.push_back(precision_working(b, worst, l.kind));
    if (!conclude(l, in, practice)) return;
    const auto largest = std::max_element(
        b.terms.begin(), b.terms.end(), [](const ErrorTerm& x, const ErrorTerm& y) { return x.error < y.error; });
    l.reason = "± " + in.words.say(b.worst, l.kind) + " in the worst case, ± " + in.words.say(b.squares, l.kind) +
               " by the root of the squares";
    if (largest != b.terms.end()) l.reason += "; most of it: " + largest->label;
    if (l.state != LimitState::fits)
        l.remedy =
            std::holds_alternative<Screw>(in.axis.mechanism)
                ? "Less backlash, a stiffer or finer screw, a scale at the load, or compensation of the lead error."
                : "Less backlash, a stiffer mechanism, or a scale at the load.";
}

} // namespace

Rows precision_rows() {
    using namespace need;
    constexpr const char* source = "the parts between motor and load, and the demand at them";
    Rows rows{.section = Section::precision};
    rows.limits = {
        {.key = "precision",
            .label = "Precision",
            .kind = Kind::length,
            .needs = of_precision,
            .more = position_error_also,
            .reads = AxisResult::precision,
            .part = "precision",
            .applies = asks_precision,
            .judge = judge_precision,
            .allowed_by = {"/accuracy/asked"},
            .asked_by = {"/accuracy/other", "/accuracy/encoder_accuracy"},
            .meaning = "± at the load, the sum of all errors or the root of their squares, against what is asked; over "
                       "by what is known counts, fits only where nothing is missing"},
    };
    rows.figures = {
        {.key = "stiffness.total",
            .label = "Stiffness at the motor",
            .kind = Kind::torsional_stiffness,
            .needs = of_stiffness,
            .reads = AxisResult::stiffness,
            .applies = gives_way,
            .fill =
                [](Figure& f, In in) {
                    const StiffnessStatement& s = *in.results.stiffness;
                    f.si = s.total;
                    f.note = "softest: " + s.springs[s.softest].label;
                    WorkingValues v;
                    std::string sum;
                    for (std::size_t i = 0; i < s.springs.size(); ++i) {
                        const std::string name = "C" + std::to_string(i + 1);
                        v.emplace_back(name, s.springs[i].at_motor);
                        sum += (i == 0 ? "" : "+") + ("1/" + name);
                    }
                    work(f, in, "C", "1/Σ 1/C_i, each at the motor's shaft", ("1/(" + sum + ")").c_str(), v,
                        "compliances in series add");
                },
            .read_from = source,
            .meaning = "Stiffness of all elements in series, at the motor's shaft"},
        {.key = "stiffness.antiresonance",
            .label = "Antiresonance, two bodies",
            .kind = Kind::frequency,
            .needs = of_stiffness,
            .reads = AxisResult::stiffness,
            .applies = sways,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.results.stiffness->two.antiresonance;
                    work(f, in, "f_a", "√(C/J_L)/2π", "sqrt(C/J_L)/(2*pi)",
                        {{"C", in.results.stiffness->total}, {"J_L", in.results.stiffness->two.load}},
                        "two masses joined by a spring");
                },
            .read_from = source,
            .meaning = "Antiresonance of two bodies"},
        {.key = "stiffness.resonance",
            .label = "Resonance, two bodies",
            .kind = Kind::frequency,
            .needs = of_stiffness,
            .reads = AxisResult::stiffness,
            .applies = sways,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.results.stiffness->two.resonance;
                    work(f, in, "f_r", "√(C (J_M + J_L)/(J_M J_L))/2π", "sqrt(C*(J_M+J_L)/(J_M*J_L))/(2*pi)",
                        {{"C", in.results.stiffness->total}, {"J_M", in.results.stiffness->two.motor},
                            {"J_L", in.results.stiffness->two.load}},
                        "two masses joined by a spring");
                },
            .read_from = source,
            .meaning = "Resonance of two bodies"},
        {.key = "stiffness.chain_antiresonance",
            .label = "Antiresonance, whole chain",
            .kind = Kind::frequency,
            .needs = of_stiffness,
            .reads = AxisResult::stiffness,
            .applies = has_chain,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.results.stiffness->antiresonances.front();
                    f.note = "a velocity loop reaches about " +
                             format_number(StiffnessStatement::slow_bandwidth(f.si), 3) + " to " +
                             format_number(StiffnessStatement::fast_bandwidth(f.si), 3) + " Hz";
                },
            .read_from = source,
            .meaning = "Lowest antiresonance of the whole chain, the motor held"},
        {.key = "stiffness.chain_resonance",
            .label = "Resonance, whole chain",
            .kind = Kind::frequency,
            .needs = of_stiffness,
            .reads = AxisResult::stiffness,
            .applies = has_chain,
            .fill = [](Figure& f, In in) { f.si = in.results.stiffness->resonances.front(); },
            .read_from = source,
            .meaning = "Lowest resonance of the whole chain"},
        {.key = "precision.worst_case",
            .label = "Precision ±, worst case",
            .kind = Kind::length,
            .needs = of_precision,
            .more = position_error_also,
            .reads = AxisResult::precision,
            .applies = tells_precision,
            .fill = [](Figure& f, In in) { of_budget(f, in, in.state.precision->worst, false); },
            .read_from = source,
            .meaning = "± at the load, sum of all errors that are given"},
        {.key = "precision.root_sum_square",
            .label = "Precision ±, root of squares",
            .kind = Kind::length,
            .needs = of_precision,
            .more = position_error_also,
            .reads = AxisResult::precision,
            .applies = tells_precision,
            .fill = [](Figure& f, In in) { of_budget(f, in, in.state.precision->squares, true); },
            .read_from = source,
            .meaning = "± at the load, root of the sum of their squares"},
    };
    return rows;
}

} // namespace fulmox
