#include "core/report/json_format.h"

#include "core/match/cautions.h"
#include "core/match/figures.h"
#include "core/match/limits.h"

#include <nlohmann/json.hpp>

namespace fulmox {

const std::vector<JsonMember>& json_members() {
    static const std::vector<JsonMember> all{
        {"", "label", "name as on screen"},
        {"", "value", "SI; null where it is not known"},
        {"", "unit", "SI unit of the numbers beside it"},
        {"", "note",
            "words in the units of the project; of a figure that waits: for what, \"waits for: Distance, segment 3\""},
        {"", "working", "lines of working"},
        {"", "read_from", "what a number without a working is read from, else empty"},
        {"", "waits_for",
            "fields without which there is no number, or it cannot be said: `path`, the pointer into the project, and "
            "`name`; else empty"},
        {"", "needs", "names of the inputs it needs"},
        {"", "key", "stable"},
        {"", "state", "`fits`, `tight`, `over`, `cannot_say`"},
        {"", "used", "SI, null where it cannot be said"},
        {"", "allowed",
            "SI, null where it cannot be said, or where nothing bounds it (the life of a screw that never turns)"},
        {"", "share", "of a limit: tight above share × allowed; of a contributor: of all inertia, load and rotor"},
        {"", "utilisation", "used/allowed; null where it cannot be said or nothing is allowed"},
        {"", "reason", "one sentence: why this state"},
        {"", "remedy", "what would bring it back, empty where it fits"},
        {"", "source", "standard, handbook or common practice"},
        {"", "accepted", "it cannot be said, and the axis accepts all that is missing: no reason against it"},
        {"", "stand_ins",
            "defaults that took the place of empty fields among what it needs: `path` below the axis, `label`, "
            "`words`"},
        {"", "temperature_unit", "of every temperature beside it"},
        {"", "symbol", "letter of the result"},
        {"", "formula", "as a textbook prints it"},
        {"", "substituted", "the same with numbers in SI units, plain arithmetic"},
        {"", "result", "SI"},
        {"", "load", "largest over the cycle, at the motor shaft"},
        {"", "load_least", "least over the cycle"},
        {"", "rotor", "with motor brake; null without a motor"},
        {"", "ratio", "load over rotor; null without a motor"},
        {"", "stages",
            "of each stage from the motor on (of a cycle of more than 10 000 pieces those with a sheet): what it is "
            "asked for; torques at its output, speeds at its input; each `allowed` by its sheet or null"},
        {"", "stage", "its place, from 0"},
        {"stages[]", "name", "of the stage"},
        {"stages[]", "rms_torque", "over the cycle, at its output"},
        {"stages[]", "peak_torque",
            "largest at its output, standstill and breakaway included: `value`, `allowed`, `share`"},
        {"", "ratio_of_stage", "input speed over output speed"},
        {"", "equivalent_torque",
            "(∫ω T^q dt/∫ω dt)^(1/q) over the cycle, all taken as positive, with the `exponent` q"},
        {"", "exponent", "3 unless the sheet says otherwise"},
        {"", "mean_input_speed", "mean over the cycle, standstill included"},
        {"", "moving_input_speed", "the same while it moves"},
        {"", "peak_input_speed", "largest"},
        {"", "motor_peak_torque",
            "what the motor's largest torque comes to there: T i η, inertia not credited; null without a known motor"},
        {"", "life",
            "s at the cycle's equivalent torque and mean speed, by the rated ones; null where the sheet does not tell"},
        {"", "emergency_torque", "of the emergency stop; null where none is given"},
        {"", "contributors", "what adds to it, at the place and payload where it is largest"},
        {"", "detail", "the size a reader would recognise"},
        {"", "own", "where it is"},
        {"", "own_unit", "kg where it travels along a line, kg·m² where it turns"},
        {"", "side", "`load` or `motor`"},
        {"", "torque_unit", "unit of every torque beside it"},
        {"", "speed_unit", "unit of every speed beside it"},
        {"", "largest", "largest absolute torque, breakaway included; null where nothing is asked"},
        {"", "running", "the same without breakaway"},
        {"", "motoring", "largest with torque along the speed; null where the motor never drives the load"},
        {"", "braking", "largest with torque against the speed; null where the motor never brakes"},
        {"", "breakaway", "at the first instant of a move from rest; null without a breakaway factor"},
        {"", "torque", "signed; positive along the positive coordinate"},
        {"", "time", "s into the cycle"},
        {"", "speed", "signed"},
        {"", "segment", "index of the segment, from 0"},
        {"", "power", "W, positive while the motor drives"},
        {"", "rows", "one for every segment of the first cycle"},
        {"", "path", "JSON pointer into the project"},
        {"", "kind", "kind of the segment, as in the project file"},
        {"", "duration", "s, all playings together"},
        {"", "rms_torque", "over the segment alone"},
        {"", "heat_share", "of ∫T² dt over the cycle"},
        {"", "peak_speed", "absolute"},
        {"", "peak", "largest absolute torque while running or standing, signed; null where a brake holds"},
        {"", "hold", "what holds it at rest, signed; null where it does not stand"},
        {"", "payload", "kg"},
        {"", "by", "`motor` or `brake`"},
        {"", "severity", "`error`, `suspicious`, `caution`"},
        {"", "missing",
            "of a limit: what is not given, `path` below the axis and `name`; elsewhere words for what is waited for; "
            "else empty"},
        {"", "verdict", "`settles`, `over_limit`, `runaway`; null where it is not known"},
        {"", "bodies", "1, or 2 with the housing"},
        {"", "winding_time_constant_known", "else the highest of the winding is a lower bound"},
        {"", "winding_mean", "K"},
        {"", "housing_mean", "K"},
        {"", "winding", "`lowest` and `highest` of the steady ripple, K"},
        {"", "housing", "the same of the housing"},
        {"", "winding_after_first_cycle", "K, from cold"},
        {"", "time_to_limit", "s from cold with this cycle one after the other; null: never, or not known"},
        {"", "winding_limit", "K"},
        {"", "thermal_resistance", "winding to ambient, K/W; null where losses are known as shares only"},
        {"", "resistance_by_rating", "of rated loss and rise, not of the sheet"},
        {"", "copper_loss", "W, mean at the winding's temperature"},
        {"", "speed_loss", "W, iron and friction"},
        {"", "permitted_loss", "W, in copper at standstill"},
        {"", "kinds", "best first, excluded ones last"},
        {"", "questions", "`key`, `words`, `answer`, and `field`, the pointer of the field that answers it"},
        {"", "would_change", "sentences: one answer changed, and the kind that then comes first"},
        {"", "score", "sum of the weights of its reasons"},
        {"", "excluded", "by what surrounds it"},
        {"", "reasons", "`weight` and `words`, the weightiest first"},
        {"", "line", "of the file; null where it has none"},
        {"", "field", "name as on screen"},
        {"", "message", "what was found, what is allowed"},
        {"coupling", "shaft", "`motor` or `mechanism`"},
        {"coupling", "service_factor", "by which a torque is multiplied for the rating it asks"},
        {"coupling", "cycle_torque",
            "largest over the cycle, standstill and breakaway included: `value`, and the `rating` it asks"},
        {"coupling", "emergency_stop_torque", "the same of the emergency stop; null where none is given"},
        {"coupling", "external_torque", "torque of the load at rest over the cycle, no friction: `least`, `most`"},
        {"coupling", "load_share",
            "J_L/J over the cycle: `least`, `most`; the coupling counts with the load; null where it is not known"},
        {"coupling", "motor_peak",
            "with the motor's largest torque: `motor_torque` at its shaft, and `forward` and `backward` each with "
            "`motor_peak_bound`, `shared_bound` and `first_swing`, each `value` and `rating`; null without a known "
            "motor"},
        {"coupling", "emergency_stop",
            "the same with the motor's torque in an emergency stop: as typed, else its largest, braking included"},
        {"coupling", "judged", "the larger of the shared bounds and the cycle's own"},
        {"coupling", "misalignment", "sum of misalignments over those allowed; null where one is not known"},
        {"brake", "brakes",
            "each with `name`, `place`, `static_torque` and `dynamic_torque` at the motor's shaft, N·m, "
            "`dynamic_known` (else the static one stands in), `apply_time` s, `stop_energy` J"},
        {"brake", "driving_torque", "N·m at the motor's shaft that drives on without power, no friction credited"},
        {"brake", "estimate", "gravity and inertia are taken as at the place where the power fails"},
        {"brake", "distance_unit", "of the distances beside it"},
        {"brake", "forward",
            "from top speed forwards: `stops`, `speed_when_it_engages` rad/s of the motor, `energy` J, `time` s until "
            "standstill, `distance` gone after the loss; null where the cycle does not go that way or a delay is not "
            "given"},
        {"brake", "backward", "the same backwards"},
        {"brake", "standing", "the same from standstill: the drop"},
        {"drive", "amperes", "`rms` (of the line) or `dc`; null where no constant tells the current"},
        {"drive", "peak_current", "largest over the cycle, hot"},
        {"drive", "rms_current", "over the cycle, hot"},
        {"drive", "continuous_allowed", "the drive's, in the same amperes, as derated; null: not limited"},
        {"drive", "peak_allowed", "the same of its peak"},
        {"drive", "currents_left", "share left by derating"},
        {"drive", "overload",
            "I²t, A²s: `greatest` of all cycles (null where it grows for ever), `first_cycle`, `net_per_cycle`, "
            "`budget`, `trips`, `trip_cycle` from 1, `trip_time` s into it; null without a continuous current"},
        {"drive", "torque_limit",
            "to program, so that no part downstream is asked for more: `torque` N·m at the motor's shaft, the `part` "
            "that sets it, its `name`; null where no part gives a limit"},
        {"screw", "critical_speed",
            "rad/s: `value` for the chosen `ends`, and `by_ends` for all four; null without a root diameter, and where "
            "the nut turns"},
        {"screw", "buckling_load",
            "N, the same; Johnson's parabola below the transition slenderness where a yield strength is given"},
        {"screw", "life",
            "`mean_load` N and `mean_speed` rad/s over the whole time, `revolutions`, `hours`, `travel` m (null "
            "without a dynamic load rating), `by_spectrum` where one is typed; null where neither is known"},
        {"screw", "plan",
            "of its described ends, m: `length`, `free_length`, `loaded_length`, `bearing_from` (middle of the first "
            "bearing), `sections` and `nut_sections` (of a nut that turns) each `of`, `from`, `to`, `diameter`; "
            "`critical_speed` rad/s of all its diameters on its bearings; `places` of the `nut` along the stroke with "
            "`loaded_length`, `buckling_load` N and `critical_speed` with the nut as one more bearing; `warnings`; "
            "null where no ends are described or the plan waits"},
        {"stiffness", "elements",
            "each with `key`, `label`, `stiffness` where it is in `stiffness_unit`, `at_motor` N·m/rad, and its "
            "`compliance_share`"},
        {"stiffness", "total", "N·m/rad; null: no compliance entered"},
        {"stiffness", "softest", "key of the softest"},
        {"stiffness", "two_body",
            "`motor_inertia` (rotor, motor brake, gearhead input) and `load_inertia` kg·m², `antiresonance` and "
            "`resonance` Hz, `bandwidth` Hz that a velocity loop reaches, `slow` a third and `fast` half of the "
            "antiresonance"},
        {"stiffness", "chain",
            "eigenfrequencies of the whole chain, Hz: `antiresonances` with the motor held, `resonances` with it free, "
            "`bandwidth`"},
        {"precision", "unit", "of every error: m, or rad of a turning load"},
        {"precision", "terms", "each with `key`, `label`, `error`, `grows_with_stroke`"},
        {"precision", "worst_case", "sum of all"},
        {"precision", "root_sum_square", "root of the sum of squares"},
        {"precision", "asked", "as given, else null"},
        {"precision", "missing", "what would be a term and is not given: `path` below the axis and `name`"},
        {"precision", "over_stroke", "at eleven places: `from_start`, `worst_case`, `root_sum_square`"},
    };
    return all;
}

const std::vector<JsonObject>& json_objects() {
    static const std::vector<JsonObject> all{
        {"coupling", "Coupling",
            "torques at the shaft it sits on, N·m, signed: + drives forwards; null without a coupling"},
        {"brake", "Brakes", "loss of power; null without a brake or with a demand whose inertia is not known"},
        {"drive", "Drive", "currents in A RMS of the line, or DC"},
        {"screw", "Screw", "null of other mechanisms"},
        {"stiffness", "Stiffness", "everything seen from the motor's shaft; null where inertias are not known"},
        {"precision", "Precision", "± at the load; null of a winder, and where the demand is not known"},
    };
    return all;
}

std::string formats_json() {
    using Value = nlohmann::ordered_json;
    Value results = Value::array(), limits = Value::array(), warned = Value::array(), members = Value::array(),
          objects = Value::array();
    for (const FigureRow& row : figure_rows())
        results.push_back({{"key", row.key}, {"label", row.label}, {"unit", std::string(info(row.kind).si_unit)},
            {"needs", need::names(row.needs)}, {"meaning", row.meaning}});
    for (const LimitRow& row : limit_rows())
        limits.push_back({{"key", row.key}, {"label", row.label}, {"unit", std::string(info(row.kind).si_unit)},
            {"needs", need::names(row.needs)}, {"meaning", row.meaning}, {"part", row.part},
            {"yes_or_no", row.yes_or_no}, {"allowed_by", row.allowed_by}, {"asked_by", row.asked_by}});
    for (const CautionRow& row : caution_rows())
        warned.push_back({{"key", row.key}, {"severity", row.severity == Severity::caution ? "caution" : "suspicious"},
            {"meaning", row.meaning}});
    for (const JsonMember& m : json_members())
        members.push_back({{"object", m.object}, {"key", m.key}, {"meaning", m.meaning}});
    for (const JsonObject& o : json_objects())
        objects.push_back({{"key", o.key}, {"title", o.title}, {"about", o.about}});
    const Value out{{"format", "fulmox-formats"}, {"version", 1}, {"results", std::move(results)},
        {"limits", std::move(limits)}, {"cautions", std::move(warned)}, {"members", std::move(members)},
        {"objects", std::move(objects)}};
    return out.dump(2) + "\n";
}

} // namespace fulmox
