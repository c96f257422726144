#include "core/match/cautions.h"

#include "core/match/stepper_rows.h"
#include "core/quantity/format.h"

#include <algorithm>
#include <cmath>

namespace fulmox {

void cautions(
    Problems& out, const Axis& axis, const std::string& path, const Assessment& a, const Surroundings& around) {
    const auto add = [&](const char* field, std::string where, std::string text) {
        out.push_back({Severity::caution, path + where, field, std::move(text)});
    };
    if (a.demand && a.demand->fall_torque > 0)
        add("Load", "/load/inclination",
            "The load can fall. A holding brake or a servo at standstill is no safety function: support the load "
            "mechanically for work under it, "
            "and assess the risk (ISO 12100, ISO 13849-1, IEC 61800-5-2, IEC 60204-1).");
    if (a.demand && a.demand->load.path == LoadModel::Path::winder)
        add("Rolls", "/mechanism/winds",
            "Running rolls draw in hands and clothing: guards and a safe inching mode belong to the machine "
            "(ISO 12100, ISO 13849-1).");
    if (axis.drive.bus_voltage.given() && axis.drive.bus_voltage.si > 60)
        add("Bus voltage", "/drive/bus_voltage",
            "Above 60 V DC: protect against touch, and after switch-off wait and measure, the bus stays charged (IEC "
            "60204-1). Local code and a qualified person decide.");
    if (open_loop(axis)) {
        add("Control", "/motor/electric/control",
            "Open loop nothing notices where the axis is: home it at the start of work, and where a lost step would "
            "hurt "
            "check a position by a sensor in each cycle.");
        add("Control", "/motor/electric/control",
            "A stepper takes its current at rest as well: its case may reach 80 to 90 °C, hot enough to burn skin (ISO "
            "13732-1). Local code and a qualified person decide.");
        if (a.demand && a.demand->fall_torque > 0)
            add("Detent torque", "/motor/electric/detent_torque",
                "Without current a stepper holds its detent torque only, which is small and no brake.");
    }
    const bool brushed = axis.driven() && std::holds_alternative<BrushedMotor>(axis.motor.electric);
    if (axis.driven() && around.explosive_gas)
        add("Surroundings", "/motor/electric",
            std::string("Explosive gas or dust: certified equipment only, and a brushless motor alone makes none") +
                (brushed ? "; brushes spark, this kind does not belong there." : ".") +
                " Local code and a qualified person decide.");
    if (axis.driven() && around.vacuum)
        add("Surroundings", "/motor/electric",
            std::string(
                "Vacuum: no air carries the heat away, so that continuous torque and temperatures here do not hold; "
                "grease and insulation gas out") +
                (brushed ? ", and brushes wear in hours." : "."));
    if (brushed && around.clean_room) add("Surroundings", "/motor/electric", "Clean room: brushes shed dust.");
    if (brushed && (around.vibration || around.dust || around.sterilising))
        add("Surroundings", "/motor/electric", "Dust, moisture and vibration shorten the life of brushes.");
    if (axis.driven() && around.sterilising)
        add("Surroundings", "/motor/electric",
            "Steam or wash-down: motor, encoder and connectors must be rated for it, heat of the steam included.");
    if (axis.credit_friction_at_rest)
        add("Friction at rest", "/credit_friction_at_rest",
            "Friction is credited at standstill. It varies with wear and lubrication; never rely on it for safety.");
}

void flags(Problems& out, const Axis& axis, const std::string& path, const Assessment& a, UnitSystem system) {
    if (!a.inertia) return;
    std::vector<const InertiaShare*> order;
    for (const InertiaShare& s : a.inertia->shares) order.push_back(&s);
    std::sort(order.begin(), order.end(), [](auto* x, auto* y) { return x->at_shaft > y->at_shaft; });
    if (order.size() > 1 && order[1]->at_shaft > 0 && order[0]->at_shaft > 1000 * order[1]->at_shaft)
        out.push_back({Severity::suspicious, path, order[0]->label,
            "its inertia is more than a thousand times the next largest. Did you mean another unit?"});
    if (!axis.motor.empty() && a.motor && !a.motor->can.peak_by_model && a.motor->can.speed_scale != 1)
        out.push_back({Severity::suspicious, path + "/drive/bus_voltage", "Bus voltage",
            "the curves were drawn at " + axis.motor.curve_voltage.text + "; their speeds are scaled by " +
                format_number(a.motor->can.speed_scale, 3) +
                (a.motor->can.torque_scale != 1 ? ", by the current as set too, and their torques by " +
                                                      format_number(a.motor->can.torque_scale, 3)
                                                : std::string()) +
                ", an estimate"});
    if (axis.driven() && axis.motor.stepper() && a.inertia->told && a.inertia->rotor > 2 * a.inertia->load)
        out.push_back({Severity::suspicious, path + "/motor/rotor_inertia", "Rotor inertia",
            "the rotor has " + format_number(a.inertia->rotor / a.inertia->load, 3) +
                " times the inertia of the load: it spends the torque on itself. A smaller stepper may accelerate this "
                "load faster; compare torque over the whole inertia, not torque"});
    if (axis.driven()) {
        int against = 0;
        const std::vector<SheetPair> pairs = check_sheet(axis.motor);
        const SheetPair* first = nullptr;
        for (const SheetPair& p : pairs)
            if (p.verdict == Verdict::contradicts && ++against == 1) first = &p;
        if (first)
            out.push_back({Severity::suspicious, path + "/motor/electric", "Datasheet",
                "it contradicts itself: " + first->label + ", entered over implied " + format_number(first->factor, 3) +
                    (against > 1 ? ", and " + std::to_string(against - 1) + " more" : "") +
                    "; the datasheet check on page 4 says what may be meant"});
    }
    if (a.demand && a.can && a.can->model) {
        const double commutation = a.can->model->commutation(a.demand->peak_speed);
        if (commutation > 0.1)
            out.push_back({Severity::suspicious, path + "/motor/electric", "Commutation",
                "at top speed ω_e L/R is " + format_number(commutation, 2) +
                    ": the straight line of a block-commutated motor holds to 5 % up to 0.1, beyond it commutation "
                    "takes torque that is not counted (0.77 of the line is left at 1 and 0.6 of the no-load speed)"});
    }
    const auto name_of = [](const Option* options, auto value) {
        return std::string(options[static_cast<std::size_t>(value)].label);
    };
    const Drive& drive = axis.drive;
    const bool says_feedback = drive.reads_hall || drive.reads_incremental || drive.reads_sine_cosine ||
                               drive.reads_serial || drive.reads_resolver;
    if (says_feedback && drive.encoder != Feedback::unsaid && !drive.reads(drive.encoder))
        out.push_back({Severity::suspicious, path + "/drive/encoder", "Encoder",
            "found \"" + name_of(Drive::feedbacks, drive.encoder) + "\", which the drive does not read"});
    const bool says_commands = drive.takes_pulses || drive.takes_analog || drive.takes_network;
    if (says_commands && drive.controller != Command::unsaid && !drive.takes(drive.controller))
        out.push_back({Severity::suspicious, path + "/drive/controller", "Controller gives",
            "found \"" + name_of(Drive::command_kinds, drive.controller) + "\", which the drive does not take"});
    bool asks_brake = false;
    for (const Segment& s : axis.cycle.segments)
        if (const auto* d = std::get_if<Dwell>(&s.what)) asks_brake = asks_brake || d->brake_holds;
    if (a.motion && motion_of(axis.mechanism).has & Motion::payload && !a.motion->phases.empty()) {
        const double first = axis.load.payload.si, last = a.motion->phases.back().payload.value_or(first);
        if (std::abs(last - first) > 1e-9 * std::max(first, last))
            out.push_back({Severity::suspicious, path + "/cycle/segments", "Cycle",
                "it ends with a payload of " + format_quantity(last, Kind::mass, system) + " but begins with " +
                    format_quantity(first, Kind::mass, system) + "; it repeats with what it begins with"});
    }
    if (asks_brake && axis.driven() && !motion_of(axis.mechanism).direct && !axis.motor.brake_torque.given() &&
        !axis.brake.there())
        out.push_back({Severity::suspicious, path + "/cycle/segments", "Brake holds",
            "a dwell lets the brake hold, but the motor has no brake"});
}

} // namespace fulmox
