#include "core/demand/emergency.h"
#include "core/match/mating.h"
#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

constexpr const char* coupling_sheet = "datasheet of the coupling";

bool has_coupling(In in) { return turns(in) && in.axis.coupling.there(); }

void judge_coupling(Limit& l, In in) {
    const Coupling& c = in.axis.coupling;
    if (!c.rated_torque.given()) return lacks(l, {{"/coupling/allowable_torque", "allowable torque of the coupling"}});
    if (!in.state.coupling) return set_cannot_say(l, "the demand is not known");
    const CouplingUse& u = *in.state.coupling;
    const double carried = u.judged(), by_cycle = std::max(u.cycle, u.emergency);
    l.used = carried * c.service_factor.si;
    l.allowed = c.rated_torque.si;
    if (!u.bounded && l.used <= l.allowed)
        return set_cannot_say(l,
            !known_peak(in) ? "the cycle carries " + in.words.torque(carried) + "; the motor's peak torque is not known"
                            : "the cycle carries " + in.words.torque(carried) +
                                  "; the share of motor torque at the coupling is not known");
    const CouplingUse::Worst worst = u.worst(&CouplingBounds::shared);
    const double shared = u.bounded ? std::abs(worst.bounds.shared) : 0;
    if (in.workings) {
        if (u.bounded)
            l.working.push_back(working_line("T_s", "(T_m − T_x) J_L/J + T_x", "(T_m-T_x)*s+T_x",
                {{"T_m", worst.bounds.motor_peak}, {"T_x", worst.bounds.external}, {"s", worst.bounds.load_share}},
                worst.bounds.shared, Kind::torque,
                worst.of == CouplingUse::stop ? "the part of the motor's emergency torque that goes on to the load"
                                              : "the part of the motor's peak torque that goes on to the load"));
        l.working.push_back(working_line("T_k", "K · max(cycle, emergency stop, shared)", "K*max(T_c, T_e, T_s)",
            {{"K", c.service_factor.si}, {"T_c", u.cycle}, {"T_e", u.emergency}, {"T_s", shared}}, l.used, Kind::torque,
            practice));
    }
    if (!conclude(l, in, practice)) return;
    if (shared > by_cycle)
        l.reason = in.words.torque(carried) + " of the motor's peak go through it" +
                   (in.axis.drive.torque_limit.given() ? ", limited by the drive" : "") +
                   "; the cycle itself asks for " + in.words.torque(by_cycle);
    else
        l.reason =
            in.words.torque(carried) + " carried at the instant" +
            (u.emergency > u.cycle ? " of the emergency stop" : " of the peak, standstill and breakaway included");
    l.reason += ", with service factor " + in.words.torque(l.used);
    if (u.bounded)
        l.reason += "; a step of torque may swing to " +
                    in.words.torque(std::abs(u.worst(&CouplingBounds::first_swing).bounds.first_swing));
    if (l.state == LimitState::fits) return;
    // a torque limit helps where the motor could give more than the cycle needs of it, and the coupling is rated for
    // that
    bool by_limit = u.bounded && !open_loop(in.axis) && u.cycle * c.service_factor.si <= l.allowed &&
                    worst.bounds.load_share > 0 &&
                    !(worst.of == CouplingUse::stop && in.axis.drive.emergency_torque.given());
    double at_motor = infinite;
    if (by_limit && shared * c.service_factor.si > l.allowed) {
        const double of_motor = worst.of == CouplingUse::stop ? u.emergency_motor_torque : u.motor_torque;
        const double may = std::copysign(l.allowed / c.service_factor.si, worst.bounds.shared);
        const double through = (may - worst.bounds.external) / worst.bounds.load_share + worst.bounds.external;
        at_motor = std::abs(through / worst.bounds.motor_peak) * of_motor;
        by_limit = at_motor >= std::abs(in.state.demand->peak.torque);
    }
    const bool longer_stop =
        u.emergency * c.service_factor.si > l.allowed || in.state.demand->emergency_torque > at_motor;
    l.remedy = remedies({"a larger coupling", !by_limit     ? ""
                                              : longer_stop ? "a torque limit in the drive with a longer emergency stop"
                                                            : "a torque limit in the drive"}) +
               " Do not size it on the rated torque.";
}

void judge_coupling_speed(Limit& l, In in) {
    const Demand& d = *in.state.demand;
    const auto worst = conclude(l, in,
        {held_against(d.load.coupling_at_mechanism ? d.mechanism_peak_speed : d.peak_speed, in.axis.coupling.top_speed,
            "/coupling/top_speed", "top speed of the coupling")},
        coupling_sheet);
    if (!worst) return;
    l.reason = in.words.speed(l.used) + " of " + in.words.speed(l.allowed);
    if (l.state != LimitState::fits) l.remedy = "A balanced coupling, or one for higher speeds.";
}

void judge_alignment(Limit& l, In in) {
    const Misalignment m = misalignment(in.axis.coupling);
    if (in.workings && m.missing.empty()) {
        WorkingValues v;
        std::string sum;
        const Coupling& c = in.axis.coupling;
        const auto add = [&](const char* name, const QuantityBase& has, const QuantityBase& may) {
            v.emplace_back(name, has.si);
            v.emplace_back(std::string(name) + "_k", may.si);
            sum += (sum.empty() ? "" : "+") + std::string(name) + "/" + name + "_k";
        };
        add("alpha", c.angular, c.angular_allowed);
        add("r", c.parallel, c.parallel_allowed);
        add("a", c.axial, c.axial_allowed);
        l.working.push_back(
            working_line("Σ", "sum of misalignment over what each allows", sum, v, m.sum, Kind::number, practice));
    }
    // the sum of those that are known is enough to be over
    if (!conclude(l, in, {{m.sum, 1, m.missing}}, practice)) return;
    l.reason = "angular, parallel and axial together: " + format_number(100 * l.used, 3) + " % of what it allows" +
               (m.missing.empty() ? "" : ", by those that are given alone");
    if (l.state != LimitState::fits) l.remedy = "A better seat, or a coupling that allows more misalignment.";
}

bool has_bores(In in) {
    return turns(in) && (in.axis.coupling.driving_bore.given() || in.axis.coupling.driven_bore.given());
}

void judge_bores(Limit& l, In in) {
    judge_fits(l, in, coupling_fits(in.axis), "Another bore; equal diameters on both sides save a special coupling.");
    const Coupling& c = in.axis.coupling;
    if (l.state == LimitState::fits && !(c.driving_bore.given() && c.driven_bore.given()))
        l.reason += std::string("; no bore given on the ") + (c.driving_bore.given() ? "load's" : "motor's") + " side";
}

// Each shaft against the largest bore, and the smallest bore against each shaft.
void judge_range(Limit& l, In in) {
    const Coupling& c = in.axis.coupling;
    std::vector<Clause> clauses;
    const Shaft shafts[]{driving_shaft(in.axis), driven_shaft(in.axis)};
    for (const Shaft& s : shafts)
        for (const bool largest : {true, false}) {
            const QuantityBase &bore = largest ? c.largest_bore : c.smallest_bore, &shaft = s.diameter;
            Clause clause{largest ? shaft.si : bore.si, largest ? bore.si : shaft.si};
            if (!shaft.given()) clause.missing.push_back(s.missing);
            if (!bore.given())
                clause.missing.push_back(largest ? Missing{"/coupling/largest_bore", "largest bore of the coupling"}
                                                 : Missing{"/coupling/smallest_bore", "smallest bore of the coupling"});
            clauses.push_back(std::move(clause));
        }
    const auto worst = conclude(l, in, clauses, practice);
    if (!worst) return;
    const bool too_large = *worst % 2 == 0;
    const auto say = [&](double d) { return in.words.say(d, Kind::length); };
    if (l.state == LimitState::over) {
        l.reason = too_large
                       ? Text("a shaft of ") + say(l.used) + "; its hubs are bored up to " + say(l.allowed)
                       : Text("a shaft of ") + say(l.allowed) + "; its hubs are bored from " + say(l.used) + " on";
        l.remedy = "Another size of coupling, or another journal.";
        return;
    }
    // a bore as large as the shaft is what is wanted, not a reserve used up
    l.state = LimitState::fits;
    l.reason = Text("both shafts, ") + say(std::min(shafts[0].diameter.si, shafts[1].diameter.si)) + " and " +
               say(std::max(shafts[0].diameter.si, shafts[1].diameter.si)) + ", are within its bores";
}

bool bounds_coupling(In in) {
    return turns(in) && in.axis.driven() && in.axis.coupling.there() && inertia_given(in) &&
           (in.waits || (in.state.coupling && in.state.coupling->bounded));
}

const char* case_words(const CouplingUse::Worst& w) {
    return w.of == CouplingUse::stop
               ? w.way == CouplingUse::backward ? "in an emergency stop, backwards" : "in an emergency stop, forwards"
           : w.way == CouplingUse::backward ? "at the motor's peak, backwards"
                                            : "at the motor's peak, forwards";
}

} // namespace

Rows coupling_rows() {
    using namespace need;
    constexpr Bits bounds = of_coupling | rotor | ratio_inertia | peak_curve | voltage;
    constexpr const char* source = "the parts between motor and load, and the demand at them";
    Rows rows{.section = Section::coupling};
    rows.limits = {
        {.key = "coupling",
            .label = "Coupling, peak",
            .kind = Kind::torque,
            .needs = bounds,
            .over_by = of_coupling,
            .reads = AxisResult::coupling,
            .part = "coupling",
            .applies = has_coupling,
            .judge = judge_coupling,
            .allowed_by = {"/coupling/allowable_torque"},
            .asked_by = {"/coupling/service_factor"},
            .meaning = "The larger of the shared bound (T_peak − T_ext) J_L/J + T_ext and the cycle's own largest "
                       "torque, emergency stop included, times the service factor, against the allowable torque. "
                       "Without a known motor it can be over, never fit"},
        {.key = "coupling_speed",
            .label = "Coupling, speed",
            .kind = Kind::angular_speed,
            .needs = speeds | need::coupling_speed,
            .part = "coupling",
            .applies = has_coupling,
            .judge = judge_coupling_speed,
            .allowed_by = {"/coupling/top_speed"},
            .meaning = "Speed of the shaft it sits on against its highest"},
        {.key = "coupling_alignment",
            .label = "Coupling, misalignment",
            .kind = Kind::number,
            .needs = alignment,
            .part = "coupling",
            .applies = has_coupling,
            .judge = judge_alignment,
            .allowed_by = {"/coupling/angular_allowed", "/coupling/parallel_allowed", "/coupling/axial_allowed"},
            .asked_by = {"/coupling/angular", "/coupling/parallel", "/coupling/axial"},
            .meaning = "Actual misalignments over those allowed, added up; 1 is all it allows"},
        {.key = "coupling_bores",
            .label = "Coupling, bores",
            .kind = Kind::length,
            .needs = coupling_fit,
            .part = "coupling",
            .yes_or_no = true,
            .applies = has_bores,
            .judge = judge_bores,
            .meaning = "Largest difference of a bore and its shaft against a thousandth of the shaft: nominal "
                       "diameters are equal"},
        {.key = "coupling_range",
            .label = "Coupling, bore size",
            .kind = Kind::length,
            .needs = coupling_fit,
            .part = "coupling",
            .yes_or_no = true,
            .applies = has_coupling,
            .judge = judge_range,
            .meaning = "Both shafts against the largest bore of the coupling, and its smallest bore against both "
                       "shafts: the tightest of the four"},
    };
    rows.figures = {
        {.key = "coupling.shared_bound",
            .label = "Coupling, shared bound",
            .kind = Kind::torque,
            .needs = bounds,
            .reads = AxisResult::coupling,
            .applies = bounds_coupling,
            .fill =
                [](Figure& f, In in) {
                    const CouplingUse::Worst w = in.state.coupling->worst(&CouplingBounds::shared);
                    f.si = std::abs(w.bounds.shared);
                    f.note = case_words(w);
                    work(f, in, "T_s", "|(T_m − T_x) J_L/J + T_x|", "abs((T_m-T_x)*s+T_x)",
                        {{"T_m", w.bounds.motor_peak}, {"T_x", w.bounds.external}, {"s", w.bounds.load_share}},
                        "the part of the motor's torque that goes on to the load");
                },
            .read_from = source,
            .meaning = "Largest of the shared bounds, at the coupling's shaft; of motor peak and emergency stop, both "
                       "directions"},
        {.key = "coupling.first_swing",
            .label = "Coupling, first swing",
            .kind = Kind::torque,
            .needs = bounds,
            .reads = AxisResult::coupling,
            .applies = bounds_coupling,
            .fill =
                [](Figure& f, In in) {
                    const CouplingUse::Worst w = in.state.coupling->worst(&CouplingBounds::first_swing);
                    f.si = std::abs(w.bounds.first_swing);
                    f.note = std::string("after a step of torque, undamped; ") + case_words(w);
                },
            .read_from = source,
            .meaning = "Largest torque after a step of the motor's torque, undamped"},
    };
    return rows;
}

} // namespace fulmox
