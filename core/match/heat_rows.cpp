#include "core/match/heat_rows.h"

#include "core/motor/constants.h"
#include "core/quantity/format.h"
#include "core/quantity/not_finite.h"

#include <cmath>
#include <numbers>

namespace fulmox {

namespace {

constexpr double kelvin = motor_constants::zero_celsius;
constexpr double hour = 3600;

std::string degrees(double celsius) { return format_number(celsius, 3) + " °C"; }

// Something beyond the rating is said of how the motor warms up.
bool tells_warming(const Motor& m) {
    return m.thermal_resistance.given() || m.thermal_time_constant.given() || m.winding_time_constant.given() ||
           m.winding_resistance.given();
}

bool judges_winding(const LimitInput& in) { return in.axis.driven() && tells_warming(in.axis.motor); }
bool judges_housing(const LimitInput& in) { return in.axis.driven() && in.axis.motor.housing_limit.given(); }

[[nodiscard]] bool closed_at(
    Limit& l, const LimitInput& in, double highest, double ambient, double limit, const char* source) {
    l.used = highest - ambient;
    l.allowed = limit - ambient;
    if (in.workings && std::isfinite(l.used))
        l.working.push_back(working_line("allowed", "limit − ambient", "t-a", {{"t", limit}, {"a", ambient}}, l.allowed,
            Kind::temperature_difference));
    return closed(l, in, source);
}

void runs_away(Limit& l, const LimitInput& in) {
    l.used = infinite;
    if (!closed(l, in, "heat balance over the cycle; IEC 60034-1 for copper")) return;
    l.reason = "it never settles: the loss grows with the temperature faster than the heat leaves";
    l.remedy = "Less torque, more dwell, better cooling, or a larger motor.";
}

void judge_winding(Limit& l, const LimitInput& in) {
    const CycleHeat& h = *in.so_far.heat;
    const ThermalMotor& m = h.motor;
    l.share = in.policy.continuous_share.si;
    if (!h.missing.empty()) return cannot(l, "it waits for " + h.missing);
    if (in.so_far.motor->can.continuous_by_model && in.so_far.motor->beyond_voltage) return cannot(l, not_reached);
    if (const auto& model = in.so_far.motor->can.model; model && model->weakens())
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
        cannot(l, "at least " + degrees(highest) + ", of " + degrees(m.limit) +
                      "; how far the winding runs ahead of that its own time constant would tell");
    }
}

void judge_housing(Limit& l, const LimitInput& in) {
    const CycleHeat& h = *in.so_far.heat;
    const ThermalMotor& m = h.motor;
    if (!h.missing.empty()) return cannot(l, "it waits for " + h.missing);
    if (const auto& model = in.so_far.motor->can.model; model && model->weakens())
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

} // namespace

double bearing_hours(double rating, double load, double speed) {
    const double rpm = std::abs(speed) * 30 / std::numbers::pi, ratio = rating / load;
    return 1e6 / (60 * rpm) * ratio * ratio * ratio;
}

std::vector<LimitRow> heat_limit_rows() {
    using namespace need;
    constexpr need::Bits all =
        need::demand | continuous_curve | surroundings | current | resistance | temperatures | thermal;
    return {
        {"winding_temperature", "Winding temperature", Kind::temperature_difference, all, true, judges_winding,
            judge_winding},
        {"housing_temperature", "Housing temperature", Kind::temperature_difference, all, true, judges_housing,
            judge_housing},
    };
}

namespace {

using In = const FigureInput&;

bool driven(In in) { return in.axis.driven() && in.can != nullptr; }
// the rows that wait have no heat to look at yet
bool warm(In in) { return driven(in) && (!in.demand || (in.heat && in.heat->missing.empty())); }
bool in_watts(In in) { return warm(in) && (!in.demand || in.heat->in_watts); }
bool timed(In in) { return warm(in) && tells_warming(in.axis.motor) && (!in.demand || in.heat->motor.knows_times()); }
bool two_bodies(In in) {
    return warm(in) && in.axis.motor.winding_resistance.given() && (!in.demand || in.heat->motor.two_bodies());
}
bool ripples(In in) { return timed(in) && (!in.demand || in.heat->heat.settles); }
bool rides_on_load(In in) { return warm(in) && (!in.demand || !in.heat->fixed_current); }
bool yearly(In in) { return in_watts(in) && in.machine && !std::isnan(in.machine->operation.seconds_per_year()); }
bool priced(In in) { return yearly(in) && in.machine->operation.tariff.given(); }
bool has_bearing(In in) {
    return driven(in) && in.axis.motor.bearing_rating.given() && in.axis.coupling.radial_load.given();
}
bool has_brushes(In in) {
    return driven(in) && in.axis.motor.brush_life.given() &&
           std::holds_alternative<BrushedMotor>(in.axis.motor.electric);
}

void temperature(Figure& f, double celsius, In in) {
    f.si = std::isfinite(celsius) ? celsius + kelvin : no_number;
    f.unit = "°C";
    if (!in.heat->heat.settles) f.note = "it never settles: thermal runaway";
}

double efficiency(In in) { return in.machine ? in.machine->operation.supply_efficiency.value_or(1) : 1; }

double joules_at_mains(In in) { return in.heat->energy.fed / efficiency(in); }
double joules_a_year(In in) {
    return joules_at_mains(in) / in.demand->cycle_time * in.machine->operation.seconds_per_year();
}

const char* insulation_class(double limit) {
    return limit >= 180   ? "class H (180 °C)"
           : limit >= 155 ? "class F (155 °C)"
           : limit >= 130 ? "class B (130 °C)"
                          : "below class B (130 °C)";
}

} // namespace

std::vector<FigureRow> heat_figure_rows() {
    using namespace need;
    constexpr need::Bits all =
        need::demand | continuous_curve | surroundings | current | resistance | temperatures | thermal;
    return {
        {"heat.winding_mean", "Winding, mean", nullptr, Kind::temperature, all, warm,
            [](Figure& f, In in) {
                temperature(f, in.heat->heat.mean.winding, in);
                const ThermalMotor& m = in.heat->motor;
                if (!in.heat->heat.settles) return;
                f.note = std::string("of ") + degrees(m.limit) + ", " + insulation_class(m.limit) + ", IEC 60085" +
                         (in.heat->by_rating ? "; cooling as the rating implies it" : "");
                if (!m.knows_times())
                    work(f, in, "θ", "θ_amb + R_th (P_cu + P_w) − R_wh P_w", "a+R*(p+q)-w*q+k",
                        {{"a", m.ambient}, {"R", m.resistance}, {"p", in.heat->heat.copper}, {"q", in.heat->heat.other},
                            {"w", m.winding_resistance}, {"k", kelvin}},
                        "heat balance, copper at its own temperature; iron and friction heat the housing");
            }},
        {"heat.winding_highest", "Winding, highest", nullptr, Kind::temperature, all, ripples,
            [](Figure& f, In in) {
                temperature(f, in.heat->heat.highest, in);
                f.note = in.heat->heat.highest > in.heat->motor.limit ? "over the limit" : "it settles";
                if (!in.heat->motor.knows_winding())
                    f.note += "; the winding's own time constant is not known: at least this";
            }},
        {"heat.winding_lowest", "Winding, lowest", nullptr, Kind::temperature, all, ripples,
            [](Figure& f, In in) { temperature(f, in.heat->heat.lowest, in); }},
        {"heat.housing_highest", "Housing, highest", nullptr, Kind::temperature, all,
            [](In in) { return two_bodies(in) && ripples(in); },
            [](Figure& f, In in) { temperature(f, in.heat->heat.housing_highest, in); }},
        {"heat.housing_lowest", "Housing, lowest", nullptr, Kind::temperature, all,
            [](In in) { return two_bodies(in) && ripples(in); },
            [](Figure& f, In in) { temperature(f, in.heat->heat.housing_lowest, in); }},
        {"heat.after_first_cycle", "Winding after the first cycle", nullptr, Kind::temperature, all, timed,
            [](Figure& f, In in) {
                const double after = in.heat->heat.after_first;
                f.si = after < 3000 ? after + kelvin : no_number;
                f.unit = "°C";
                f.note = after < 3000 ? "from cold" : "beyond 3000 °C: no winding lives that long";
            }},
        {"heat.time_to_limit", "Time to the winding limit", nullptr, Kind::time, all,
            [](In in) { return timed(in) && (!in.demand || std::isfinite(in.heat->heat.time_to_limit)); },
            [](Figure& f, In in) {
                f.si = in.heat->heat.time_to_limit;
                f.note = "from cold, with this cycle one after the other";
            }},
        {"heat.copper_loss", "Copper loss at its temperature", nullptr, Kind::power, all, in_watts,
            [](Figure& f, In in) {
                f.si = in.heat->heat.settles ? in.heat->heat.copper : no_number;
                f.note = in.heat->heat.settles ? "mean over the cycle, winding as hot as it gets" : "it never settles";
            }},
        {"heat.speed_loss", "Iron and friction loss", nullptr, Kind::power, all, in_watts,
            [](Figure& f, In in) {
                f.si = in.heat->other;
                f.note = in.axis.motor.speed_loss.given() ? "mean over the cycle, by the loss as typed"
                                                          : "mean over the cycle, by the fall of the continuous curve";
            }},
        {"heat.permitted_loss", "Permitted loss", nullptr, Kind::power, all, in_watts,
            [](Figure& f, In in) {
                const ThermalMotor& m = in.heat->motor;
                f.si = (m.limit - m.ambient) / m.resistance;
                f.note = "in copper, held at standstill continuously";
                work(f, in, "P", "(limit − ambient)/R_th", "(t-a)/R",
                    {{"t", m.limit}, {"a", m.ambient}, {"R", m.resistance}}, "heat balance");
            }},
        {"heat.greatest_rms", "Greatest RMS torque at the limit", nullptr, Kind::torque, all, rides_on_load,
            [](Figure& f, In in) {
                f.si = in.heat->within_limit.factor * in.demand->rms_torque;
                f.note = "of this cycle's shape, that brings the winding to " + degrees(in.heat->motor.limit) +
                         " in the mean";
            }},
        {"heat.greatest_settling_rms", "RMS torque before runaway", nullptr, Kind::torque, all, rides_on_load,
            [](Figure& f, In in) {
                f.si = in.heat->settles.factor * in.demand->rms_torque;
                const double winding = in.heat->settles.winding, limit = in.heat->motor.limit;
                f.note = !std::isfinite(winding) ? std::string("never reached: the temperature has no bound before it")
                         : winding > limit ? "at " + degrees(winding) + "; its insulation ends at " + degrees(limit)
                                           : "at " + degrees(winding) + "; above it the motor runs away";
            }},
        {"heat.settling_temperature", "Winding before runaway", nullptr, Kind::temperature, all,
            [](In in) { return rides_on_load(in) && (!in.demand || std::isfinite(in.heat->settles.winding)); },
            [](Figure& f, In in) {
                f.si = in.heat->settles.winding + kelvin;
                f.unit = "°C";
                f.note = in.heat->settles.winding > in.heat->motor.limit
                             ? "no rating: its insulation ends at " + degrees(in.heat->motor.limit)
                             : std::string("beyond it loss and temperature drive each other up");
            }},
        {"energy.motor", "Energy a cycle, motor", nullptr, Kind::energy, all, in_watts,
            [](Figure& f, In in) {
                const CycleEnergy& e = in.heat->energy;
                f.si = e.motor;
                f.note = Text("of the bus; ") + in.words.say(e.losses, Kind::energy) + " of it heat, " +
                         in.words.say(e.returned, Kind::energy) + " came back and is burnt";
            }},
        {"energy.mains", "Energy a cycle, mains", nullptr, Kind::energy, all | energy, in_watts,
            [](Figure& f, In in) {
                f.si = joules_at_mains(in);
                work(f, in, "E", "∫ max(0, T ω + losses + drive loss) dt/η", "f/n",
                    {{"f", in.heat->energy.fed}, {"n", efficiency(in)}});
            }},
        {"energy.mean_power", "Mean power, mains", nullptr, Kind::power, all | energy, in_watts,
            [](Figure& f, In in) {
                f.si = joules_at_mains(in) / in.demand->cycle_time;
                work(f, in, "P", "E/T", "E/T", {{"E", joules_at_mains(in)}, {"T", in.demand->cycle_time}});
            }},
        {"energy.year", "Energy a year", nullptr, Kind::energy, all | energy, yearly,
            [](Figure& f, In in) {
                f.si = joules_a_year(in);
                f.unit = "kWh";
                const Operation& o = in.machine->operation;
                f.note = format_number(o.hours_per_day.si, 3) + " h a day, " + format_number(o.days_per_year.si, 3) +
                         " days a year";
                work(f, in, "E_a", "P · 3600 h d", "P*3600*h*d",
                    {{"P", joules_at_mains(in) / in.demand->cycle_time}, {"h", o.hours_per_day.si},
                        {"d", o.days_per_year.si}});
            }},
        {"energy.cost", "Cost of energy a year", nullptr, Kind::number, all | energy, priced,
            [](Figure& f, In in) {
                if (!in.machine->currency.empty()) f.label += ", " + in.machine->currency;
                const double tariff = in.machine->operation.tariff.si;
                f.si = joules_a_year(in) / 3.6e6 * tariff;
                f.note =
                    in.machine->currency.empty() ? std::string("in the currency of the tariff") : in.machine->currency;
                work(f, in, "c", "E_a/3.6e6 · tariff", "E/3600000*c", {{"E", joules_a_year(in)}, {"c", tariff}});
            }},
        {"life.bearing", "Bearing life L10", nullptr, Kind::time, speeds | life, has_bearing,
            [](Figure& f, In in) {
                const double c = in.axis.motor.bearing_rating.si, p = in.axis.coupling.radial_load.si;
                const double rpm = in.demand->mean_speed * 30 / std::numbers::pi;
                f.si = rpm > 0 ? hour * bearing_hours(c, p, in.demand->mean_speed) : no_number;
                f.unit = "h";
                f.note = rpm > 0 ? "at the mean speed; one bearing in ten fails before" : "it does not turn";
                work(f, in, "L_10", "3600 · 10⁶/(60 n) (C/P)³", "3600*1000000/(60*n)*(C/P)^3",
                    {{"n", rpm}, {"C", c}, {"P", p}}, "ISO 281, ball bearing");
            }},
        {"life.brushes", "Brushes last", nullptr, Kind::time, life | cycle, has_brushes,
            [](Figure& f, In in) {
                f.si = in.axis.motor.brush_life.si;
                f.unit = "h";
                const Operation* o = in.machine ? &in.machine->operation : nullptr;
                f.note = "as the maker expects; current, speed, reversing and vibration shorten it";
                if (o && !std::isnan(o->seconds_per_year()))
                    f.note += "; " + format_number(f.si / o->seconds_per_year(), 3) + " years of this machine";
            }},
    };
}

} // namespace fulmox
