#include "core/drivetrain/bearing.h"
#include "core/match/rows/axis_facts.h"
#include "core/match/rows/judging.h"
#include "core/match/rows/subjects.h"
#include "core/motor/constants.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

constexpr double kelvin = motor_constants::zero_celsius;

constexpr double hour = 3600;

std::string degrees(double celsius) { return format_number(celsius, 3) + " °C"; }

// The sheet has thermal data beyond the rating.
bool tells_warming(const Motor& m) {
    return m.thermal_resistance.given() || m.thermal_time_constant.given() || m.winding_time_constant.given() ||
           m.winding_resistance.given();
}

bool judges_winding(In in) { return in.axis.driven() && tells_warming(in.axis.motor); }

bool judges_housing(In in) { return in.axis.driven() && in.axis.motor.housing_limit.given(); }

[[nodiscard]] bool closed_at(Limit& l, In in, double highest, double ambient, double limit, const char* source) {
    l.used = highest - ambient;
    l.allowed = limit - ambient;
    if (in.workings && std::isfinite(l.used))
        l.working.push_back(working_line("allowed", "limit − ambient", "t-a", {{"t", limit}, {"a", ambient}}, l.allowed,
            Kind::temperature_difference));
    return conclude(l, in, source);
}

void runs_away(Limit& l, In in) {
    l.used = infinite;
    if (!conclude(l, in, "heat balance over the cycle; IEC 60034-1 for copper")) return;
    l.reason = "thermal runaway: the loss grows with temperature faster than the heat is removed";
    l.remedy = "Less torque, more dwell, better cooling, or a larger motor.";
}

void judge_winding(Limit& l, In in) {
    const CycleHeat& h = *in.state.heat;
    const ThermalMotor& m = h.motor;
    l.share = in.policy.continuous_share.si;
    if (!h.missing.empty()) return set_cannot_say(l, "waits for: " + h.missing);
    if (in.state.motor->can.continuous_by_model && in.state.motor->beyond_voltage)
        return set_cannot_say(l, not_reached);
    if (const auto& model = in.state.motor->can.model; model && model->weakens())
        if (std::vector<Missing> missing = lacks_of_model(in); !missing.empty()) return lacks(l, std::move(missing));
    l.allowed = m.limit - m.ambient;
    if (!h.heat.settles) return runs_away(l, in);
    const bool times = m.knows_times();
    const double highest = times ? h.heat.highest : h.heat.mean.winding;
    if (!closed_at(l, in, highest, m.ambient, m.limit, "heat balance over the cycle; IEC 60034-1 for copper")) return;
    l.reason =
        (times ? degrees(highest) + " at the highest of the steady ripple, " + degrees(h.heat.lowest) + " at the lowest"
               : degrees(highest) + " in the mean of the cycle") +
        ", of " + degrees(m.limit);
    if (h.heat.time_to_limit < infinite)
        l.reason += "; from cold it is there after " + format_number(h.heat.time_to_limit, 3) + " s";
    if (l.state != LimitState::fits)
        l.remedy = "More dwell, gentler ramps, better cooling, or a motor with more continuous torque.";
    // how far a winding runs ahead of its motor only its own time constant tells
    if (l.state != LimitState::over && !m.knows_winding()) {
        l.working.clear();
        set_cannot_say(l, "at least " + degrees(highest) + ", of " + degrees(m.limit) +
                              "; the winding time constant is needed to say how far the winding is above that");
    }
}

void judge_housing(Limit& l, In in) {
    const CycleHeat& h = *in.state.heat;
    const ThermalMotor& m = h.motor;
    if (!h.missing.empty()) return set_cannot_say(l, "waits for: " + h.missing);
    if (const auto& model = in.state.motor->can.model; model && model->weakens())
        if (std::vector<Missing> missing = lacks_of_model(in); !missing.empty()) return lacks(l, std::move(missing));
    const double limit = in.axis.motor.housing_limit.si - kelvin;
    l.allowed = limit - m.ambient;
    if (!h.heat.settles) return runs_away(l, in);
    const double highest = m.knows_times() ? h.heat.housing_highest : h.heat.mean.housing;
    if (!closed_at(l, in, highest, m.ambient, limit, "heat balance over the cycle")) return;
    l.reason = degrees(highest) + " of " + degrees(limit) +
               (m.two_bodies() ? std::string() : ", taken as that of the winding") +
               (highest > 60 ? "; hot enough to burn skin" : "");
    if (l.state != LimitState::fits)
        l.remedy = "Less current at rest, a lower setting of the drive, a heat sink or air, or a larger motor.";
}

// the rows that wait have no heat to look at yet
bool warm(In in) { return has_motor(in) && (in.waits || (in.state.heat && in.state.heat->missing.empty())); }

bool in_watts(In in) { return warm(in) && (in.waits || in.state.heat->in_watts); }

bool timed(In in) {
    return warm(in) && tells_warming(in.axis.motor) && (in.waits || in.state.heat->motor.knows_times());
}

bool two_bodies(In in) {
    return warm(in) && in.axis.motor.winding_resistance.given() && (in.waits || in.state.heat->motor.two_bodies());
}

bool ripples(In in) { return timed(in) && (in.waits || in.state.heat->heat.settles); }

bool rides_on_load(In in) { return warm(in) && (in.waits || !in.state.heat->fixed_current); }

bool yearly(In in) { return in_watts(in) && !std::isnan(in.machine.operation.seconds_per_year()); }

bool priced(In in) { return yearly(in) && in.machine.operation.tariff.given(); }

bool has_bearing(In in) {
    return has_motor(in) && in.axis.motor.bearing_rating.given() && in.axis.coupling.radial_load.given();
}

bool has_brushes(In in) {
    return has_motor(in) && in.axis.motor.brush_life.given() &&
           std::holds_alternative<BrushedMotor>(in.axis.motor.electric);
}

void temperature(Figure& f, double celsius, In in) {
    f.si = std::isfinite(celsius) ? celsius + kelvin : no_number;
    f.unit = "°C";
    if (!in.state.heat->heat.settles) f.note = "thermal runaway";
}

double efficiency(In in) { return in.machine.operation.supply_efficiency.value_or(1); }

double joules_at_mains(In in) { return in.state.heat->energy.fed / efficiency(in); }

double joules_a_year(In in) {
    return joules_at_mains(in) / in.state.demand->cycle_time * in.machine.operation.seconds_per_year();
}

const char* insulation_class(double limit) {
    return limit >= 180   ? "class H (180 °C)"
           : limit >= 155 ? "class F (155 °C)"
           : limit >= 130 ? "class B (130 °C)"
                          : "below class B (130 °C)";
}

} // namespace

Rows heat_rows() {
    using namespace need;
    constexpr const char* source = "the heat balance over the cycle, span by span";
    Rows rows{.section = Section::heat};
    rows.limits = {
        {.key = "winding_temperature",
            .label = "Winding temperature",
            .kind = Kind::temperature_difference,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .part = "motor",
            .of_motor = true,
            .applies = judges_winding,
            .judge = judge_winding,
            .meaning =
                "Highest rise of the winding over the ambient in the steady cycle against its limit; `used` is "
                "null of a motor that runs away, which is over; cannot be said by the motor's time constant alone "
                "unless it is over; present where the sheet tells how the motor warms up"},
        {.key = "housing_temperature",
            .label = "Housing temperature",
            .kind = Kind::temperature_difference,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .part = "motor",
            .of_motor = true,
            .applies = judges_housing,
            .judge = judge_housing,
            .allowed_by = {"/motor/housing_limit"},
            .meaning = "The same of the housing; of one body that of the winding; present where its limit is given"},
    };
    rows.figures = {
        {.key = "heat.winding_mean",
            .label = "Winding, mean",
            .kind = Kind::temperature,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = warm,
            .fill =
                [](Figure& f, In in) {
                    temperature(f, in.state.heat->heat.mean.winding, in);
                    const ThermalMotor& m = in.state.heat->motor;
                    if (!in.state.heat->heat.settles) return;
                    f.note = std::string("of ") + degrees(m.limit) + ", " + insulation_class(m.limit) + ", IEC 60085" +
                             (in.state.heat->by_rating ? "; cooling as the rating implies it" : "");
                    if (!m.knows_times())
                        work(f, in, "θ", "θ_amb + R_th (P_cu + P_w) − R_wh P_w", "a+R*(p+q)-w*q+k",
                            {{"a", m.ambient}, {"R", m.resistance}, {"p", in.state.heat->heat.copper},
                                {"q", in.state.heat->heat.other}, {"w", m.winding_resistance}, {"k", kelvin}},
                            "heat balance, copper at its own temperature; iron and friction heat the housing");
                },
            .read_from = source,
            .meaning = "Winding, mean of the steady cycle; null of a motor that runs away"},
        {.key = "heat.winding_highest",
            .label = "Winding, highest",
            .kind = Kind::temperature,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = ripples,
            .fill =
                [](Figure& f, In in) {
                    temperature(f, in.state.heat->heat.highest, in);
                    f.note = in.state.heat->heat.highest > in.state.heat->motor.limit ? "over the limit" : "it settles";
                    if (!in.state.heat->motor.knows_winding())
                        f.note += "; the winding's own time constant is not known: at least this";
                },
            .read_from = source,
            .meaning = "Winding, highest of the steady ripple; absent without a time constant"},
        {.key = "heat.winding_lowest",
            .label = "Winding, lowest",
            .kind = Kind::temperature,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = ripples,
            .fill = [](Figure& f, In in) { temperature(f, in.state.heat->heat.lowest, in); },
            .read_from = source,
            .meaning = "Winding, lowest of it"},
        {.key = "heat.housing_highest",
            .label = "Housing, highest",
            .kind = Kind::temperature,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = [](In in) { return two_bodies(in) && ripples(in); },
            .fill = [](Figure& f, In in) { temperature(f, in.state.heat->heat.housing_highest, in); },
            .read_from = source,
            .meaning = "Housing, highest; absent of one body"},
        {.key = "heat.housing_lowest",
            .label = "Housing, lowest",
            .kind = Kind::temperature,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = [](In in) { return two_bodies(in) && ripples(in); },
            .fill = [](Figure& f, In in) { temperature(f, in.state.heat->heat.housing_lowest, in); },
            .read_from = source,
            .meaning = "Housing, lowest"},
        {.key = "heat.after_first_cycle",
            .label = "Winding after the first cycle",
            .kind = Kind::temperature,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = timed,
            .fill =
                [](Figure& f, In in) {
                    const double after = in.state.heat->heat.after_first;
                    f.si = after < 3000 ? after + kelvin : no_number;
                    f.unit = "°C";
                    f.note = after < 3000 ? "from cold" : "beyond 3000 °C: no winding lives that long";
                },
            .read_from = source,
            .meaning = "Winding after the first cycle from cold"},
        {.key = "heat.time_to_limit",
            .label = "Time to the winding limit",
            .kind = Kind::time,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies =
                [](In in) { return timed(in) && (in.waits || std::isfinite(in.state.heat->heat.time_to_limit)); },
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.heat->heat.time_to_limit;
                    f.note = "from cold, with this cycle one after the other";
                },
            .read_from = source,
            .meaning = "Time from cold, with this cycle one after the other, until the winding is at its limit; absent "
                       "where it never comes there"},
        {.key = "heat.copper_loss",
            .label = "Copper loss at its temperature",
            .kind = Kind::power,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = in_watts,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.heat->heat.settles ? in.state.heat->heat.copper : no_number;
                    f.note = in.state.heat->heat.settles ? "mean over the cycle, winding as hot as it gets"
                                                         : "it never settles";
                },
            .read_from = source,
            .meaning = "Copper loss at the winding's own temperature, mean"},
        {.key = "heat.speed_loss",
            .label = "Iron and friction loss",
            .kind = Kind::power,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = in_watts,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.heat->other;
                    f.note = in.axis.motor.speed_loss.given()
                                 ? "mean over the cycle, by the loss as typed"
                                 : "mean over the cycle, by the fall of the continuous curve";
                },
            .read_from = source,
            .meaning = "Iron and friction loss, mean"},
        {.key = "heat.permitted_loss",
            .label = "Permitted loss",
            .kind = Kind::power,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = in_watts,
            .fill =
                [](Figure& f, In in) {
                    const ThermalMotor& m = in.state.heat->motor;
                    f.si = (m.limit - m.ambient) / m.resistance;
                    f.note = "in copper, held at standstill continuously";
                    work(f, in, "P", "(limit − ambient)/R_th", "(t-a)/R",
                        {{"t", m.limit}, {"a", m.ambient}, {"R", m.resistance}}, "heat balance");
                },
            .read_from = source,
            .meaning = "Loss that brings the winding to its limit at standstill"},
        {.key = "heat.greatest_rms",
            .label = "Greatest RMS torque at the limit",
            .kind = Kind::torque,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = rides_on_load,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.heat->within_limit.factor * in.state.demand->rms_torque;
                    f.note = "of this cycle's shape, that brings the winding to " +
                             degrees(in.state.heat->motor.limit) + " in the mean";
                },
            .read_from = source,
            .meaning = "RMS torque of a cycle of this shape that brings the winding to its limit in the mean; absent "
                       "of an open-loop stepper, whose current does not follow its load"},
        {.key = "heat.greatest_settling_rms",
            .label = "RMS torque before runaway",
            .kind = Kind::torque,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = rides_on_load,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.heat->settles.factor * in.state.demand->rms_torque;
                    const double winding = in.state.heat->settles.winding, limit = in.state.heat->motor.limit;
                    f.note = !std::isfinite(winding)
                                 ? std::string("never reached: the temperature has no bound before it")
                             : winding > limit ? "at " + degrees(winding) + "; its insulation ends at " + degrees(limit)
                                               : "at " + degrees(winding) + "; above it the motor runs away";
                },
            .read_from = source,
            .meaning = "The greatest that still settles; beyond it the motor runs away"},
        {.key = "heat.settling_temperature",
            .label = "Winding before runaway",
            .kind = Kind::temperature,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies =
                [](In in) { return rides_on_load(in) && (in.waits || std::isfinite(in.state.heat->settles.winding)); },
            .fill =
                [](Figure& f, In in) {
                    f.si = in.state.heat->settles.winding + kelvin;
                    f.unit = "°C";
                    f.note = in.state.heat->settles.winding > in.state.heat->motor.limit
                                 ? "no rating: its insulation ends at " + degrees(in.state.heat->motor.limit)
                                 : std::string("beyond it loss and temperature drive each other up");
                },
            .read_from = source,
            .meaning = "Winding there; absent where no bound is reached"},
        {.key = "energy.motor",
            .label = "Energy a cycle, motor",
            .kind = Kind::energy,
            .needs = of_heat,
            .reads = AxisResult::heat,
            .applies = in_watts,
            .fill =
                [](Figure& f, In in) {
                    const CycleEnergy& e = in.state.heat->energy;
                    f.si = e.motor;
                    f.note = Text("of the bus; ") + in.words.say(e.losses, Kind::energy) + " of it heat, " +
                             in.words.say(e.returned, Kind::energy) + " came back and is burnt";
                },
            .read_from = source,
            .meaning = "Energy a cycle into the motor; what comes back is burnt"},
        {.key = "energy.mains",
            .label = "Energy a cycle, mains",
            .kind = Kind::energy,
            .needs = of_heat | energy,
            .reads = AxisResult::heat,
            .applies = in_watts,
            .fill =
                [](Figure& f, In in) {
                    f.si = joules_at_mains(in);
                    work(f, in, "E", "∫ max(0, T ω + losses + drive loss) dt/η", "f/n",
                        {{"f", in.state.heat->energy.fed}, {"n", efficiency(in)}});
                },
            .read_from = source,
            .meaning = "The same from the mains, with the drive's own loss and the efficiency of the supply"},
        {.key = "energy.mean_power",
            .label = "Mean power, mains",
            .kind = Kind::power,
            .needs = of_heat | energy,
            .reads = AxisResult::heat,
            .applies = in_watts,
            .fill =
                [](Figure& f, In in) {
                    f.si = joules_at_mains(in) / in.state.demand->cycle_time;
                    work(f, in, "P", "E/T", "E/T", {{"E", joules_at_mains(in)}, {"T", in.state.demand->cycle_time}});
                },
            .read_from = source,
            .meaning = "Mean power from the mains"},
        {.key = "energy.year",
            .label = "Energy a year",
            .kind = Kind::energy,
            .needs = of_heat | energy,
            .reads = AxisResult::heat,
            .applies = yearly,
            .fill =
                [](Figure& f, In in) {
                    f.si = joules_a_year(in);
                    f.unit = "kWh";
                    const Operation& o = in.machine.operation;
                    f.note = format_number(o.hours_per_day.si, 3) + " h a day, " +
                             format_number(o.days_per_year.si, 3) + " days a year";
                    work(f, in, "E_a", "P · 3600 h d", "P*3600*h*d",
                        {{"P", joules_at_mains(in) / in.state.demand->cycle_time}, {"h", o.hours_per_day.si},
                            {"d", o.days_per_year.si}});
                },
            .read_from = source,
            .meaning = "Energy a year; absent without hours a day and days a year"},
        {.key = "energy.cost",
            .label = "Cost of energy a year",
            .kind = Kind::number,
            .needs = of_heat | energy,
            .reads = AxisResult::heat,
            .applies = priced,
            .fill =
                [](Figure& f, In in) {
                    if (!in.machine.currency.empty()) f.label += ", " + in.machine.currency;
                    const double tariff = in.machine.operation.tariff.si;
                    f.si = joules_a_year(in) / 3.6e6 * tariff;
                    f.note = in.machine.currency.empty() ? std::string("in the currency of the tariff")
                                                         : in.machine.currency;
                    work(f, in, "c", "E_a/3.6e6 · tariff", "E/3600000*c", {{"E", joules_a_year(in)}, {"c", tariff}});
                },
            .read_from = source,
            .meaning = "Its cost in the currency of the project; absent without a tariff"},
        {.key = "life.bearing",
            .label = "Bearing life L10",
            .kind = Kind::time,
            .needs = speeds | life,
            .applies = has_bearing,
            .fill =
                [](Figure& f, In in) {
                    const double c = in.axis.motor.bearing_rating.si, p = in.axis.coupling.radial_load.si;
                    const double rpm = in.state.demand->mean_speed * 30 / std::numbers::pi;
                    f.si = rpm > 0 ? hour * bearing_hours(c, p, in.state.demand->mean_speed) : no_number;
                    f.unit = "h";
                    f.note = rpm > 0 ? "at the mean speed; one bearing in ten fails before" : "it does not turn";
                    work(f, in, "L_10", "3600 · 10⁶/(60 n) (C/P)³", "3600*1000000/(60*n)*(C/P)^3",
                        {{"n", rpm}, {"C", c}, {"P", p}}, "ISO 281, ball bearing");
                },
            .read_from = source,
            .meaning = "L10 life of the bearing at the shaft end, ISO 281; absent without its rating and its load"},
        {.key = "life.brushes",
            .label = "Brushes last",
            .kind = Kind::time,
            .needs = life | cycle,
            .applies = has_brushes,
            .fill =
                [](Figure& f, In in) {
                    f.si = in.axis.motor.brush_life.si;
                    f.unit = "h";
                    const Operation& o = in.machine.operation;
                    f.note = "as stated by the maker; current, speed, reversing and vibration shorten it";
                    if (!std::isnan(o.seconds_per_year()))
                        f.note += "; " + format_number(f.si / o.seconds_per_year(), 3) + " years of this machine";
                },
            .read_from = source,
            .meaning = "Life of the brushes as the maker expects it; absent where it is not given"},
    };
    return rows;
}

} // namespace fulmox
