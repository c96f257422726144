#include "core/match/cautions.h"

#include "core/match/stepping.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

namespace {

using In = const CautionInput&;

bool falls(In in) { return in.assessment.demand && in.assessment.demand->fall_torque > 0; }
bool brushed(In in) { return in.axis.driven() && std::holds_alternative<BrushedMotor>(in.axis.motor.electric); }
const Surroundings& around(In in) { return in.machine.surroundings; }

// The two largest shares of the inertia.
std::pair<const InertiaShare*, const InertiaShare*> largest_shares(In in) {
    std::pair<const InertiaShare*, const InertiaShare*> out{nullptr, nullptr};
    if (!in.assessment.inertia) return out;
    for (const InertiaShare& s : in.assessment.inertia->shares) {
        if (!out.first || s.at_shaft > out.first->at_shaft)
            out = {&s, out.first};
        else if (!out.second || s.at_shaft > out.second->at_shaft)
            out.second = &s;
    }
    return out;
}
bool one_dominates(In in) {
    const auto [first, second] = largest_shares(in);
    return second && second->at_shaft > 0 && first->at_shaft > 1000 * second->at_shaft;
}

bool scaled_curves(In in) {
    const auto& use = in.assessment.motor;
    return !in.axis.motor.empty() && use && !use->can.peak_by_model && use->can.speed_scale != 1;
}

bool heavy_stepper_rotor(In in) {
    const auto& i = in.assessment.inertia;
    return i && in.axis.driven() && in.axis.motor.stepper() && i->load_known && i->rotor > 2 * i->load;
}

std::vector<SheetPair> contradictions(In in) {
    std::vector<SheetPair> pairs = check_sheet(in.axis.motor);
    std::erase_if(pairs, [](const SheetPair& p) { return p.verdict != Verdict::contradicts; });
    return pairs;
}
bool contradicts(In in) { return in.axis.driven() && !contradictions(in).empty(); }

double commutation(In in) {
    const Assessment& a = in.assessment;
    if (!a.demand || !a.can || !a.can->model) return 0;
    return a.can->model->commutation(a.demand->peak_speed);
}

std::string name_of(const Option* options, std::size_t value) { return options[value].label; }
bool unread_encoder(In in) {
    const Drive& d = in.axis.drive;
    const bool says = d.reads_hall || d.reads_incremental || d.reads_sine_cosine || d.reads_serial || d.reads_resolver;
    return says && d.encoder != Feedback::unsaid && !d.reads(d.encoder);
}
bool untaken_commands(In in) {
    const Drive& d = in.axis.drive;
    const bool says = d.takes_pulses || d.takes_analog || d.takes_network;
    return says && d.controller != Command::unsaid && !d.takes(d.controller);
}

double last_payload(In in) { return in.assessment.motion->phases.back().payload.value_or(in.axis.load.payload.si); }
bool ends_with_another_payload(In in) {
    const auto& motion = in.assessment.motion;
    if (!motion || motion->phases.empty() || !(motion_of(in.axis.mechanism).has & Motion::payload)) return false;
    const double first = in.axis.load.payload.si, last = last_payload(in);
    return std::abs(last - first) > 1e-9 * std::max(first, last);
}

bool holds_without_brake(In in) {
    const bool asks = std::any_of(in.axis.cycle.segments.begin(), in.axis.cycle.segments.end(), [](const Segment& s) {
        const auto* d = std::get_if<Dwell>(&s.what);
        return d && d->brake_holds;
    });
    return asks && in.axis.driven() && !motion_of(in.axis.mechanism).direct && !in.axis.motor.brake_torque.given() &&
           !in.axis.brake.there();
}

template <std::size_t N> std::string plain(const char (&words)[N]) { return words; }

} // namespace

const std::vector<CautionRow>& caution_rows() {
    static const std::vector<CautionRow> rows{
        {.key = "load_can_fall",
            .field = "Load",
            .path = "/load/inclination",
            .applies = falls,
            .words =
                [](In) {
                    return plain("The load can fall. A holding brake or a servo at standstill is no safety function: "
                                 "support the load mechanically for work under it, and assess the risk (ISO 12100, "
                                 "ISO 13849-1, IEC 61800-5-2, IEC 60204-1).");
                },
            .meaning = "without power gravity moves the load"},
        {.key = "rolls_draw_in",
            .field = "Rolls",
            .path = "/mechanism/winds",
            .applies = [](In in) { return in.assessment.demand && std::holds_alternative<Winder>(in.axis.mechanism); },
            .words =
                [](In) {
                    return plain("Running rolls draw in hands and clothing: guards and a safe inching mode belong to "
                                 "the machine (ISO 12100, ISO 13849-1).");
                },
            .meaning = "a winder"},
        {.key = "touch_voltage",
            .field = "Bus voltage",
            .path = "/drive/bus_voltage",
            .applies = [](In in) { return in.axis.drive.bus_voltage.given() && in.axis.drive.bus_voltage.si > 60; },
            .words =
                [](In) {
                    return plain("Above 60 V DC: protect against touch, and after switch-off wait and measure, the bus "
                                 "stays charged (IEC 60204-1). Local code and a qualified person decide.");
                },
            .meaning = "a bus above 60 V"},
        {.key = "open_loop_position",
            .field = "Control",
            .path = "/motor/electric/control",
            .applies = [](In in) { return open_loop(in.axis); },
            .words =
                [](In) {
                    return plain("Open loop nothing notices where the axis is: home it at the start of work, and where "
                                 "a lost step would hurt check a position by a sensor in each cycle.");
                },
            .meaning = "an open-loop stepper"},
        {.key = "hot_stepper",
            .field = "Control",
            .path = "/motor/electric/control",
            .applies = [](In in) { return open_loop(in.axis); },
            .words =
                [](In) {
                    return plain("A stepper takes its current at rest as well: its case may reach 80 to 90 °C, hot "
                                 "enough to burn skin (ISO 13732-1). Local code and a qualified person decide.");
                },
            .meaning = "an open-loop stepper"},
        {.key = "detent_is_no_brake",
            .field = "Detent torque",
            .path = "/motor/electric/detent_torque",
            .applies = [](In in) { return open_loop(in.axis) && falls(in); },
            .words =
                [](In) {
                    return plain(
                        "Without current a stepper holds its detent torque only, which is small and no brake.");
                },
            .meaning = "an open-loop stepper whose load can fall"},
        {.key = "explosive_atmosphere",
            .field = "Surroundings",
            .path = "/motor/electric",
            .applies = [](In in) { return in.axis.driven() && around(in).explosive_gas; },
            .words =
                [](In in) {
                    return std::string("Explosive gas or dust: certified equipment only, and a brushless motor alone "
                                       "makes none") +
                           (brushed(in) ? "; brushes spark, this kind does not belong there." : ".") +
                           " Local code and a qualified person decide.";
                },
            .meaning = "explosive gas or dust"},
        {.key = "vacuum",
            .field = "Surroundings",
            .path = "/motor/electric",
            .applies = [](In in) { return in.axis.driven() && around(in).vacuum; },
            .words =
                [](In in) {
                    return std::string("Vacuum: no air carries the heat away, so that continuous torque and "
                                       "temperatures here do not hold; grease and insulation gas out") +
                           (brushed(in) ? ", and brushes wear in hours." : ".");
                },
            .meaning = "vacuum"},
        {.key = "brush_dust",
            .field = "Surroundings",
            .path = "/motor/electric",
            .applies = [](In in) { return brushed(in) && around(in).clean_room; },
            .words = [](In) { return plain("Clean room: brushes shed dust."); },
            .meaning = "brushes in a clean room"},
        {.key = "brush_wear",
            .field = "Surroundings",
            .path = "/motor/electric",
            .applies =
                [](In in) {
                    return brushed(in) && (around(in).vibration || around(in).dust || around(in).sterilising);
                },
            .words = [](In) { return plain("Dust, moisture and vibration shorten the life of brushes."); },
            .meaning = "brushes in dust, moisture or vibration"},
        {.key = "wash_down",
            .field = "Surroundings",
            .path = "/motor/electric",
            .applies = [](In in) { return in.axis.driven() && around(in).sterilising; },
            .words =
                [](In) {
                    return plain("Steam or wash-down: motor, encoder and connectors must be rated for it, heat of the "
                                 "steam included.");
                },
            .meaning = "steam or wash-down"},
        {.key = "friction_credited",
            .field = "Friction at rest",
            .path = "/credit_friction_at_rest",
            .applies = [](In in) { return in.axis.credit_friction_at_rest; },
            .words =
                [](In) {
                    return plain("Friction is credited at standstill. It varies with wear and lubrication; never rely "
                                 "on it for safety.");
                },
            .meaning = "friction is credited at standstill"},
        {.key = "inertia_dominates",
            .severity = Severity::suspicious,
            .field = "",
            .path = "",
            .applies = one_dominates,
            .words =
                [](In) {
                    return plain(
                        "its inertia is more than a thousand times the next largest. Did you mean another unit?");
                },
            .meaning = "one part has a thousand times the inertia of the next",
            .label = [](In in) { return largest_shares(in).first->label; }},
        {.key = "curves_scaled",
            .severity = Severity::suspicious,
            .field = "Bus voltage",
            .path = "/drive/bus_voltage",
            .applies = scaled_curves,
            .words =
                [](In in) {
                    const Capability& can = in.assessment.motor->can;
                    return "the curves were drawn at " + in.axis.motor.curve_voltage.text +
                           "; their speeds are scaled by " + format_number(can.speed_scale, 3) +
                           (can.torque_scale != 1 ? ", by the current as set too, and their torques by " +
                                                        format_number(can.torque_scale, 3)
                                                  : std::string()) +
                           ", an estimate";
                },
            .meaning = "the curves were drawn at another voltage"},
        {.key = "rotor_heavier_than_load",
            .severity = Severity::suspicious,
            .field = "Rotor inertia",
            .path = "/motor/rotor_inertia",
            .applies = heavy_stepper_rotor,
            .words =
                [](In in) {
                    const InertiaStatement& i = *in.assessment.inertia;
                    return "the rotor has " + format_number(i.rotor / i.load, 3) +
                           " times the inertia of the load: it spends the torque on itself. A smaller stepper may "
                           "accelerate this load faster; compare torque over the whole inertia, not torque";
                },
            .meaning = "a stepper whose rotor has twice the inertia of the load or more"},
        {.key = "sheet_contradicts",
            .severity = Severity::suspicious,
            .field = "Datasheet",
            .path = "/motor/electric",
            .applies = contradicts,
            .words =
                [](In in) {
                    const std::vector<SheetPair> all = contradictions(in);
                    return "it contradicts itself: " + all.front().label + ", entered over implied " +
                           format_number(all.front().factor, 3) +
                           (all.size() > 1 ? ", and " + std::to_string(all.size() - 1) + " more" : "") +
                           "; the datasheet check on page 4 says what may be meant";
                },
            .meaning = "the datasheet contradicts itself"},
        {.key = "commutation",
            .severity = Severity::suspicious,
            .field = "Commutation",
            .path = "/motor/electric",
            .applies = [](In in) { return commutation(in) > 0.1; },
            .words =
                [](In in) {
                    return "at top speed ω_e L/R is " + format_number(commutation(in), 2) +
                           ": the straight line of a block-commutated motor holds to 5 % up to 0.1, beyond it "
                           "commutation takes torque that is not counted (0.77 of the line is left at 1 and 0.6 of the "
                           "no-load speed)";
                },
            .meaning = "block commutation takes torque that is not counted"},
        {.key = "encoder_not_read",
            .severity = Severity::suspicious,
            .field = "Encoder",
            .path = "/drive/encoder",
            .applies = unread_encoder,
            .words =
                [](In in) {
                    return "found \"" + name_of(Drive::feedbacks, static_cast<std::size_t>(in.axis.drive.encoder)) +
                           "\", which the drive does not read";
                },
            .meaning = "the drive does not read this encoder"},
        {.key = "commands_not_taken",
            .severity = Severity::suspicious,
            .field = "Controller gives",
            .path = "/drive/controller",
            .applies = untaken_commands,
            .words =
                [](In in) {
                    return "found \"" +
                           name_of(Drive::command_kinds, static_cast<std::size_t>(in.axis.drive.controller)) +
                           "\", which the drive does not take";
                },
            .meaning = "the drive does not take what the controller gives"},
        {.key = "payload_at_end",
            .severity = Severity::suspicious,
            .field = "Cycle",
            .path = "/cycle/segments",
            .applies = ends_with_another_payload,
            .words =
                [](In in) {
                    const UnitSystem units = in.machine.unit_system;
                    return "it ends with a payload of " + format_quantity(last_payload(in), Kind::mass, units) +
                           " but begins with " + format_quantity(in.axis.load.payload.si, Kind::mass, units) +
                           "; the next cycle starts with the initial payload";
                },
            .meaning = "the cycle ends with another payload than it begins with"},
        {.key = "no_brake_to_hold",
            .severity = Severity::suspicious,
            .field = "Brake holds",
            .path = "/cycle/segments",
            .applies = holds_without_brake,
            .words = [](In) { return plain("a dwell lets the brake hold, but the motor has no brake"); },
            .meaning = "a dwell lets the brake hold, and there is none"},
    };
    return rows;
}

Problems cautions(const CautionInput& in, const std::string& path) {
    Problems out;
    for (const CautionRow& row : caution_rows()) {
        if (!row.applies(in)) continue;
        out.push_back({row.severity, path + row.path, row.label ? row.label(in) : row.field, row.words(in)});
        out.back().key = row.key;
    }
    return out;
}

} // namespace fulmox
