#include "core/load/screw.h"
#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/quantity/format.h"
#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

constexpr need::Bits from_thread = need::thread | need::travel;

need::Bits efficiency_of(const Axis& axis) {
    const auto* s = std::get_if<Screw>(&axis.mechanism);
    return s && !s->efficiency.given() && s->thread != Thread::roller ? from_thread : 0;
}

need::Bits drag_of(const Axis& axis) {
    const auto* s = std::get_if<Screw>(&axis.mechanism);
    return s && s->nut_preload.value_or(0) > 0 && !s->preload_drag.given() ? from_thread : 0;
}

// Both efficiencies of a thread come from the same lines, but for the last of each.
void thread_working(Figure& f, In in, const char* not_of_it) {
    const auto* s = std::get_if<Screw>(&in.axis.mechanism);
    if (!s) return;
    f.working = screw_efficiency(*s, in.workings).working;
    std::erase_if(f.working, [&](const WorkingLine& w) { return w.symbol == not_of_it; });
}

// a policy that does not judge the ratio asks for nothing; a linear motor has no rotor to compare the load with
bool judges_ratio(In in) { return (turns(in) || !has_motor(in)) && in.policy.inertia_ratio_over.given(); }

void judge_inertia_ratio(Limit& l, In in) {
    const InertiaStatement& i = *in.results.inertia;
    if (!i.load_known) return set_cannot_say(l, "load inertia not given");
    l.used = i.ratio();
    l.allowed = in.policy.inertia_ratio_over.si;
    l.share = in.policy.inertia_ratio_tight.si / l.allowed;
    if (in.workings)
        l.working.push_back(working_line("J_L/J_M", "load inertia / rotor inertia", "J_L/J_M",
            {{"J_L", i.load}, {"J_M", i.rotor}}, i.ratio(), Kind::number, practice));
    if (!conclude(l, in, practice)) return;
    l.reason = format_number(i.ratio(), 3) + " : 1";
    if (i.ratio_least() < i.ratio() * 0.995)
        l.reason += " at the most over the cycle, " + format_number(i.ratio_least(), 3) + " : 1 at the least";
    if (l.used < 0.5) l.reason += "; far below 1, the rotor spends the torque on itself: is the motor too big?";
    if (l.state != LimitState::fits)
        l.remedy = remedies(
            {std::holds_alternative<Screw>(in.axis.mechanism) ? "a thinner screw" : "", travel_remedy(in.axis, false),
                "a rotor with more inertia", "a stiffer drivetrain and a policy that says so"});
}

} // namespace

Rows load_rows() {
    using namespace need;
    constexpr const char* source = "the mechanism as described";
    Rows rows{.section = Section::load};
    rows.limits = {
        {.key = "inertia_ratio",
            .label = "Inertia ratio",
            .kind = Kind::number,
            .needs = travel | inertia | ratio_inertia | rotor,
            .reads = AxisResult::inertia,
            .part = "motor",
            .of_motor = true,
            .applies = judges_ratio,
            .judge = judge_inertia_ratio,
            .meaning = "Inertia ratio"},
    };
    rows.figures = {
        {.key = "load.transmission_radius",
            .label = "Travel per turn",
            .kind = Kind::length_per_angle,
            .needs = travel,
            .applies =
                [](In in) {
                    return in.load.path == LoadModel::Path::straight && !in.load.motion.rotary &&
                           !in.load.motion.direct;
                },
            .fill =
                [](Figure& f, In in) {
                    f.si = in.load.radius;
                    f.unit = "mm/rev";
                    if (const auto* s = std::get_if<Screw>(&in.axis.mechanism))
                        work(f, in, "r", "l/2π", "l/(2*pi)", {{"l", s->lead.si}});
                },
            .read_from = source,
            .meaning = "Travel per radian"},
        {.key = "load.ratio",
            .label = "Ratio of the stages",
            .kind = Kind::number,
            .needs = travel,
            .applies = [](In in) { return in.load.ratio != 1 || !in.load.stages.empty(); },
            .fill =
                [](Figure& f, In in) {
                    f.si = in.load.ratio;
                    f.note = "motor speed over mechanism speed";
                    const auto back = std::count_if(
                        in.axis.stages.begin(), in.axis.stages.end(), [](const Stage& s) { return s.turns_back; });
                    if (back % 2 != 0) f.note += "; the mechanism turns the other way than the motor";
                    if (!in.workings) return;
                    WorkingValues v;
                    std::string product;
                    for (std::size_t i = 0; i < in.load.stages.size(); ++i) {
                        v.emplace_back("i_" + std::to_string(i + 1), in.load.stages[i].ratio);
                        product += (i == 0 ? "i_" : "*i_") + std::to_string(i + 1);
                    }
                    if (!v.empty()) work(f, in, "i", "product of the stages", product.c_str(), v);
                },
            .read_from = source,
            .meaning = "Ratio of the stages"},
        {.key = "load.efficiency_forward",
            .label = "Efficiency, driving",
            .kind = Kind::number,
            .needs = losses,
            .more = efficiency_of,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.load.efficiency_forward;
                    const auto* s = std::get_if<Screw>(&in.axis.mechanism);
                    f.note = s && !s->efficiency.given() ? "from the thread" : "as given";
                    thread_working(f, in, "η_b");
                },
            .read_from = source,
            .meaning = "Efficiency, driving, as given"},
        {.key = "load.efficiency_backward",
            .label = "Efficiency, driven back",
            .kind = Kind::number,
            .needs = losses,
            .more = efficiency_of,
            .applies = always,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.load.efficiency_backward;
                    f.note = f.si <= 0 ? "self-locking" : "";
                    thread_working(f, in, "η_f");
                },
            .read_from = source,
            .meaning = "Efficiency, driven back"},
        {.key = "load.shaft_drag",
            .label = "Drag at the shaft",
            .kind = Kind::torque,
            .needs = losses,
            .more = drag_of,
            .applies = turns,
            .fill = [](Figure& f, In in) { f.si = in.load.shaft_drag; },
            .read_from = source,
            .meaning = "Drag at the shaft of the mechanism"},
        {.key = "load.inertia",
            .label = "Load inertia",
            .direct_label = "Moving mass",
            .kind = Kind::inertia,
            .needs = travel | inertia | ratio_inertia,
            .reads = AxisResult::inertia,
            .applies = inertia_given,
            .fill =
                [](Figure& f, In in) {
                    const InertiaStatement& i = *in.results.inertia;
                    f.si = i.load;
                    f.note = in.results.motion
                                 ? in.words.word("largest over the cycle, at the motor shaft", "largest over the cycle")
                                 : in.words.word("largest of any place, at the motor shaft; the cycle is not known yet",
                                       "largest payload; the cycle is not known yet");
                    if (!in.workings) return;
                    WorkingValues v;
                    std::string sum;
                    for (const InertiaShare& share : i.shares) {
                        if (share.rotor_side) continue;
                        v.emplace_back("J_" + share.key, share.at_shaft);
                        sum += (sum.empty() ? "" : "+") + ("J_" + share.key);
                        f.working.insert(f.working.end(), share.working.begin(), share.working.end());
                    }
                    f.working.push_back(
                        working_line("J_L", "Σ J at the shaft", sum, v, i.load, Kind::inertia, "sum of the statement"));
                },
            .read_from = source,
            .meaning = "Load inertia, largest over the payloads and places of the cycle, at the motor shaft"},
        {.key = "load.inertia_least",
            .label = "Load inertia, least over the cycle",
            .direct_label = "Moving mass, least over the cycle",
            .kind = Kind::inertia,
            .needs = cycle | travel | inertia | ratio_inertia,
            .reads = AxisResult::inertia,
            .applies = inertia_given,
            .fill = [](Figure& f, In in) { f.si = in.results.inertia->load_least; },
            .read_from = source,
            .meaning = "Load inertia, least over the cycle"},
        {.key = "load.rotor_inertia",
            .label = "Rotor inertia",
            .kind = Kind::inertia,
            .needs = rotor,
            .applies = has_rotor,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.load.rotor_inertia;
                    f.note = "with motor brake and encoder";
                    const double built_in = in.axis.motor.brake_inertia.value_or(0);
                    const double own = in.load.rotor_inertia - in.axis.motor.turning_inertia();
                    work(f, in, "J_M",
                        own > 0 ? "rotor + encoder + motor brake + brake" : "rotor + encoder + motor brake",
                        own > 0 ? "J_R+J_G+J_B+J_Bs" : "J_R+J_G+J_B",
                        {{"J_R", in.axis.motor.rotor_inertia.si}, {"J_G", in.axis.motor.encoder_inertia.value_or(0)},
                            {"J_B", built_in}, {"J_Bs", in.axis.brake.inertia.value_or(0)}});
                },
            .read_from = source,
            .meaning = "Rotor inertia, with motor brake"},
        {.key = "load.inertia_ratio",
            .label = "Inertia ratio",
            .kind = Kind::number,
            .needs = travel | inertia | ratio_inertia | rotor,
            .reads = AxisResult::inertia,
            .applies = [](In in) { return has_rotor(in) && inertia_given(in); },
            .fill =
                [](Figure& f, In in) {
                    f.si = in.results.inertia->ratio();
                    work(f, in, "J_L/J_M", "load inertia / rotor inertia", "J_L/J_M",
                        {{"J_L", in.results.inertia->load}, {"J_M", in.results.inertia->rotor}});
                },
            .read_from = source,
            .meaning = "Inertia ratio"},
    };
    return rows;
}

} // namespace fulmox
