#!/usr/bin/python3
"""Writes docs/formats/assess-json.md from what the program gives for the demo: keys, units, needs and the members of every
object are read off its output; only the meanings and the words between are written here. A key without a meaning, or a meaning
without a key, is an error.

    scripts/make_formats.py FULMOX-CLI > docs/formats/assess-json.md
"""
import json
import os
import subprocess
import sys

ROOT = os.path.join(os.path.dirname(os.path.abspath(__file__)), "..")

MEANINGS = {
    "motion.cycle_time": "Cycle time",
    "motion.cycles_per_hour": "Cycles per hour",
    "motion.moves_per_hour": "Moves per hour, from standstill to standstill",
    "motion.duty": "Moving share",
    "motion.stroke": "Stroke",
    "motion.advance": "Advance per cycle",
    "motion.path": "Path per cycle",
    "motion.path_per_year": "Path per year",
    "motion.peak_speed": "Peak speed",
    "motion.peak_acceleration": "Peak acceleration",
    "motion.shortest_ramp": "Shortest time over which the speed changes one way, by a tenth of the peak speed or more",
    "motion.bandwidth_needed": "Bandwidth that settles within the shortest ramp, 5/t rad/s (3/t to 5/t, common practice)",
    "load.transmission_radius": "Travel per radian",
    "load.efficiency_forward": "Efficiency, driving, as given",
    "load.efficiency_backward": "Efficiency, driven back",
    "load.shaft_drag": "Drag at the shaft of the mechanism",
    "load.inertia": "Load inertia, largest over the payloads and places of the cycle, at the motor shaft",
    "load.inertia_least": "Load inertia, least over the cycle",
    "load.rotor_inertia": "Rotor inertia, with motor brake",
    "load.inertia_ratio": "Inertia ratio",
    "demand.peak_torque": "Peak torque, breakaway included where a factor is given",
    "demand.rms_torque": "RMS torque, over the whole cycle, dwell included",
    "demand.peak_motoring_torque": "Peak while driving, running; null where the motor never drives",
    "demand.peak_braking_torque": "Peak while braking, running; null where the motor never brakes",
    "demand.holding_torque": "Holding torque, at rest, by the motor",
    "demand.static_torque": "Torque to hold the load, or what a brake holds in a dwell",
    "demand.emergency_torque": "Emergency stop, from top speed, worst payload, place and direction; null where no time and no distance is given",
    "demand.coupling_torque": "Torque through the coupling, standstill, breakaway and emergency stop included",
    "demand.peak_speed": "Peak shaft speed",
    "demand.mean_speed": "Mean speed",
    "demand.rms_speed": "RMS speed",
    "demand.peak_power": "Peak power, at the shaft, driving",
    "demand.peak_return": "Peak power returned, at the shaft, braking",
    "demand.energy_delivered": "Energy per cycle",
    "demand.energy_returned": "Energy returned per cycle",
    "demand.axial_force": "Largest force, or torque of a rotary load, at the load; standstill, breakaway and emergency stop included",
    "demand.rms_share.load_inertia": "Load inertia, share of the RMS torque squared",
    "demand.rms_share.rotor": "Rotor, share of the RMS torque squared",
    "demand.rms_share.friction": "Guides, seals and drags, share of the RMS torque squared",
    "demand.rms_share.losses": "Losses by efficiency, share of the RMS torque squared",
    "demand.rms_share.gravity": "Gravity, share of the RMS torque squared",
    "demand.rms_share.process": "Process, share of the RMS torque squared",
    "coupling.shared_bound": "Largest of the shared bounds, at the coupling's shaft; of motor peak and emergency stop, both directions",
    "coupling.first_swing": "Largest torque after a step of the motor's torque, undamped",
    "brake.stop_energy": "Energy turned into heat in all brakes in one stop from top speed without power; the worst direction, payload and place",
    "brake.stop_time": "Time of that stop, the delay of the brakes included",
    "brake.stop_distance": "Distance gone in it",
    "brake.drop": "Distance the load goes from standstill until the brakes have stopped it",
    "demand.stop_time": "How long the emergency stop takes; present where a torque limit is given",
    "drive.torque_limit": "Torque limit to program, so that no part downstream is asked for more than its sheet permits",
    "drive.overload": "Greatest ∫(I² − I_c²) dt, A²s; null where it grows from cycle to cycle",
    "screw.mean_load": "Cubic mean of the axial load, weighted by turns",
    "screw.life": "Life of the screw, ISO 3408-5, preload in both halves of the nut counted; null where it never turns",
    "stiffness.total": "Stiffness of all elements in series, at the motor's shaft",
    "stiffness.antiresonance": "Antiresonance of two bodies",
    "stiffness.resonance": "Resonance of two bodies",
    "stiffness.chain_antiresonance": "Lowest antiresonance of the whole chain, the motor held",
    "stiffness.chain_resonance": "Lowest resonance of the whole chain",
    "precision.worst_case": "± at the load, sum of all errors that are given",
    "precision.root_sum_square": "± at the load, root of the sum of their squares",
    "motor.max_speed": "Top speed at this bus",
    "motor.continuous_stall": "Continuous torque here, at this ambient and altitude",
    "motor.continuous_at_mean_speed": "Continuous torque at the mean speed; null beyond the curve",
    "motor.continuous_at_rms_speed": "Continuous torque at the RMS speed; null beyond the curve",
    "motor.heat_use": "Heat used, loss method",
    "motor.acceleration": "What the peak torque at the cycle's top speed gives rotor and load; motors are compared by it",
    "motor.rms_current": "RMS current over the cycle, hot: A RMS of the line, or of a stepper's phase; A of the DC link of a DC machine",
    "motor.peak_current": "Largest current of the cycle, hot, in the same amperes",
    "motor.copper_loss": "Copper loss, hot, mean over the cycle",
    "stepper.holding_torque": "Holding torque at the current as set, the worse of cold and hot",
    "stepper.idle_holding_torque": "The same with what the drive leaves of the current at rest; absent where it does not reduce it",
    "stepper.step_angle": "A microstep at the motor",
    "stepper.resolution": "Its travel; absent where the axis does not run along a straight line",
    "stepper.accuracy": "Error of a full step, either side",
    "stepper.microstep_torque": "What the next microstep adds from rest, T_H sin(π/(m N))",
    "stepper.deflection": "Lag of the rotor under the largest torque, asin(T/T_H)/N_r; null above the holding torque",
    "stepper.resonance": "Natural frequency in full steps/s, open loop",
    "stepper.resonance_low": "Band about it, from",
    "stepper.resonance_high": "Band about it, up to",
    "stepper.resonance_time": "Time the cycle spends in that band",
    "stepper.start_rate": "Full steps/s it starts with this load without a ramp; absent where the sheet gives none",
    "stepper.pulse_rate": "Microsteps a second at the cycle's top speed",
    "stepper.pulse_speed": "Speed of the motor at the controller's pulse limit",
    "stepper.microsteps_possible": "Largest power of two up to 256 that the controller can pulse at the top speed; 0: not even full steps",
    "heat.winding_mean": "Winding, mean of the steady cycle; null of a motor that runs away",
    "heat.winding_highest": "Winding, highest of the steady ripple; absent without a time constant",
    "heat.winding_lowest": "Winding, lowest of it",
    "heat.housing_highest": "Housing, highest; absent of one body",
    "heat.housing_lowest": "Housing, lowest",
    "heat.after_first_cycle": "Winding after the first cycle from cold",
    "heat.copper_loss": "Copper loss at the winding's own temperature, mean",
    "heat.speed_loss": "Iron and friction loss, mean",
    "heat.permitted_loss": "Loss that brings the winding to its limit at standstill",
    "heat.greatest_rms": "RMS torque of a cycle of this shape that brings the winding to its limit in the mean; absent of an open-loop stepper, whose current does not follow its load",
    "heat.greatest_settling_rms": "The greatest that still settles; beyond it the motor runs away",
    "heat.settling_temperature": "Winding there; absent where no bound is reached",
    "energy.motor": "Energy a cycle into the motor; what comes back is burnt",
    "energy.mains": "The same from the mains, with the drive's own loss and the efficiency of the supply",
    "energy.mean_power": "Mean power from the mains",
    "energy.year": "Energy a year; absent without hours a day and days a year",
    "energy.cost": "Its cost in the currency of the project; absent without a tariff",
    "life.bearing": "L10 life of the bearing at the shaft end, ISO 281; absent without its rating and its load",
    "life.brushes": "Life of the brushes as the maker expects it; absent where it is not given",
    "demand.best_ratio": "Best ratio for least heat, for all that turns with this motor, an ideal stage before the mechanism; absent where nothing accelerates",
    "demand.best_ratio_rms": "RMS torque at the best ratio",
    "demand.best_ratio_speed": "Motor speed at the best ratio",
    "screw.critical_speed": "Critical speed of a turning screw with a root diameter, whatever the cycle",
    "screw.buckling_load": "Euler's load of a screw with a root diameter, whatever the cycle",
    "motion.peak_jerk": "Peak jerk",
    "load.ratio": "Ratio of the stages",
    "demand.fill_0.rms_torque": "RMS torque, empty",
    "demand.fill_0.peak_torque": "Peak torque, empty",
    "demand.fill_1.rms_torque": "RMS torque, a quarter full",
    "demand.fill_1.peak_torque": "Peak torque, a quarter full",
    "demand.fill_2.rms_torque": "RMS torque, half full",
    "demand.fill_2.peak_torque": "Peak torque, half full",
    "demand.fill_3.rms_torque": "RMS torque, three quarters full",
    "demand.fill_3.peak_torque": "Peak torque, three quarters full",
    "demand.fill_4.rms_torque": "RMS torque, full",
    "demand.fill_4.peak_torque": "Peak torque, full",
    "demand.peak_running_torque": "Peak torque, running; absent without a breakaway factor",
    "demand.breakaway_torque": "Breakaway torque, at the first instant of a move from rest; absent without a breakaway factor",
    "speed": "Top speed",
    "peak_torque": "Peak torque on curve; of an open-loop stepper against the share of its pull-out torque that the policy allows",
    "continuous_loss": "Continuous heat; not of an open-loop stepper, nor where the policy judges by the point method",
    "continuous_point": "Continuous torque, point; at the mean or the RMS speed, as the policy says",
    "holding": "Holding at rest",
    "phase_current": "RMS current of a stepper's phase over the cycle against its rated current; open loop only",
    "pull_in": "Torque besides acceleration where the axis starts or stops against the pull-in torque at the speed at which ramps begin, with this inertia; present where the sheet has the curve and the ramps' start is given",
    "start_rate": "Speed at which ramps begin against what the stepper starts with this load; present where the ramps' start is given",
    "resonance": "Longest stay in the band of resonance against ten swings; open loop only",
    "pulse_rate": "Pulses a second at top speed against the controller's; present where its limit is given",
    "winding_temperature": "Highest rise of the winding over the ambient in the steady cycle against its limit; `used` is null of a motor that runs away, which is over; not said by the motor's time constant alone unless it is over; present where the sheet tells how the motor warms up",
    "housing_temperature": "The same of the housing; of one body that of the winding; present where its limit is given",
    "motor_current": "Largest current of the cycle against the motor's peak current; present where the sheet gives one",
    "drive_current": "RMS and peak current against the drive's, the tighter; cannot be said where one of them is not given; present where a drive is in place",
    "open_circuit_emf": "EMF at top speed, cold magnets, against the drive's overvoltage trip; present where it is given",
    "voltage": "Peak between the lines (terminals) the cycle needs by the constants, of what the bus at its lowest lets the drive make; not present where the field is weakened",
    "bus_rating": "Bus voltage against twice the motor's rated voltage; present where the sheet gives one",
    "shaft": "Largest torque of cycle and emergency stop, the rotor's own share included, against what the shaft carries; present where the sheet gives it",
    "brush_speed": "Greatest speed of the brushes; present where the sheet gives one",
    "inertia_ratio": "Inertia ratio",
    "brake": "Holding brake",
    "stage_peak": "Largest torque at the output of a gearhead or stage, standstill and breakaway included, against the peak torque of its sheet; of several the worst",
    "stage_equivalent": "Equivalent torque at the output, the mean of T^q weighted by turns, its root of order q, against its rated torque",
    "drive_stop": "Torque of an emergency stop in the time that is asked, against the torque limit; present where both are given",
    "stage_emergency": "Torque of the emergency stop at the output against that of the sheet; present where a stop is asked for",
    "stage_mean_speed": "Mean input speed over the cycle against its nominal input speed",
    "stage_speed": "Largest input speed against its highest",
    "stage_ratchet": "Largest torque at the output, emergency stop included, against the ratcheting torque of a strain wave gear; present where its sheet gives it",
    "stage_stops": "Number of emergency stops against those the sheet permits; cannot be said where the drive's number is not given",
    "stage_radial": "Radial load at the output, as given, against that allowed",
    "stage_axial": "Axial load at the output, as given, against that allowed",
    "stage_tilting": "Tilting moment at the output, as given, against that allowed",
    "coupling": "The larger of the shared bound (T_peak − T_ext) J_L/J + T_ext and the cycle's own largest torque, emergency stop included, times the service factor, against the allowable torque. Without a known motor it can be over, never fit",
    "coupling_speed": "Speed of the shaft it sits on against its highest",
    "coupling_alignment": "Actual misalignments over those allowed, added up; 1 is all it allows",
    "coupling_range": "Both shafts against the largest bore of the coupling, and its smallest bore against both shafts: the tightest of the four",
    "drive_dial": "Phase current a stepper is set to against the most that the dial of its drive goes up to, in the amperes of the dial",
    "coupling_bores": "Largest difference of a bore and its shaft against a thousandth of the shaft: nominal diameters are equal",
    "stage_mating": "Largest difference of input bore, pilot and bolt circle of the gearhead, where it gives them, and those of the motor against a thousandth of it; an adapter takes pilot and bolt circle",
    "brake_stop": "Torque that drives the load on without power against the slipping torque of all brakes",
    "brake_energy": "Energy of one stop from top speed without power, after the brake's delay, against what the brake takes; of several the worst",
    "drive_overload": "Greatest ∫(I² − I_c²) dt of all cycles, from empty and never below zero, against (I_p² − I_c²) t_p; A²s. `used` is null where it grows from cycle to cycle",
    "drive_standstill": "Current to hold at rest against the share of the continuous current the drive gives near 0 Hz",
    "drive_highest": "Bus voltage with mains high against the highest the drive works at",
    "drive_lowest": "Lowest voltage the drive works at against the bus with mains low",
    "screw_life": "Life asked against that of the nut's rating under the cycle, or under the spectrum that is typed; an hour beyond 1e30 s is told as that",
    "screw_static": "Largest axial force, standstill and emergency stop included, against the static load rating",
    "precision": "± at the load, the sum of all errors or the root of their squares, against what is asked; over by what is known counts, fits only where nothing is missing",
    "critical_speed": "Screw critical speed",
    "buckling": "Screw buckling",
    "speed_value": "Screw d × n",
}

MEMBERS = {
    "label": "name as on screen",
    "value": "SI; null where it is not known",
    "unit": "SI unit of the numbers beside it",
    "note": "words in the units of the project; of a figure that waits: for what, \"waits for: Distance, segment 3\"",
    "working": "lines of working",
    "read_from": "what a number without a working is read from, else empty",
    "needs": "names of the inputs it needs",
    "key": "stable",
    "state": "`fits`, `tight`, `over`, `cannot_say`",
    "used": "SI, null where it cannot be said",
    "allowed": "SI, null where it cannot be said, or where nothing bounds it (the life of a screw that never turns)",
    "share": "of a limit: tight above share × allowed; of a contributor: of all inertia, load and rotor",
    "utilisation": "used/allowed; null where it cannot be said or nothing is allowed",
    "reason": "one sentence: why this state",
    "remedy": "what would bring it back, empty where it fits",
    "source": "standard, handbook or common practice",
    "accepted": "it cannot be said, and the axis accepts all that is missing: no reason against it",
    "stand_ins": "defaults that took the place of empty fields among what it needs: `path` below the axis, `label`, `words`",
    "temperature_unit": "of every temperature beside it",
    "symbol": "letter of the result",
    "formula": "as a textbook prints it",
    "substituted": "the same with numbers in SI units, plain arithmetic",
    "result": "SI",
    "load": "largest over the cycle, at the motor shaft",
    "load_least": "least over the cycle",
    "rotor": "with motor brake; null without a motor",
    "ratio": "load over rotor; null without a motor",
    "stages": "of each stage from the motor on (of a cycle of more than 10 000 pieces those with a sheet): what it is asked for; torques at its output, speeds at its input; each `allowed` by its sheet or null",
    "stage": "its place, from 0",
    "stages[].name": "of the stage",
    "stages[].rms_torque": "over the cycle, at its output",
    "stages[].peak_torque": "largest at its output, standstill and breakaway included: `value`, `allowed`, `share`",
    "ratio_of_stage": "input speed over output speed",
    "equivalent_torque": "(∫ω T^q dt/∫ω dt)^(1/q) over the cycle, all taken as positive, with the `exponent` q",
    "exponent": "3 unless the sheet says otherwise",
    "mean_input_speed": "mean over the cycle, standstill included",
    "moving_input_speed": "the same while it moves",
    "peak_input_speed": "largest",
    "motor_peak_torque": "what the motor's largest torque comes to there: T i η, inertia not credited; null without a known motor",
    "life": "s at the cycle's equivalent torque and mean speed, by the rated ones; null where the sheet does not tell",
    "emergency_torque": "of the emergency stop; null where none is given",
    "contributors": "what adds to it, at the place and payload where it is largest",
    "detail": "the size a reader would recognise",
    "own": "where it is",
    "own_unit": "kg where it travels along a line, kg·m² where it turns",
    "side": "`load` or `motor`",
    "torque_unit": "unit of every torque beside it",
    "speed_unit": "unit of every speed beside it",
    "largest": "largest absolute torque, breakaway included; null where nothing is asked",
    "running": "the same without breakaway",
    "motoring": "largest with torque along the speed; null where the motor never drives",
    "braking": "largest with torque against the speed; null where the motor never brakes",
    "breakaway": "at the first instant of a move from rest; null without a breakaway factor",
    "torque": "signed; positive along the positive coordinate",
    "time": "s into the cycle",
    "speed": "signed",
    "segment": "index of the segment, from 0",
    "power": "W, positive while the motor drives",
    "rows": "one for every segment of the first cycle",
    "path": "JSON pointer into the project",
    "kind": "kind of the segment, as in the project file",
    "duration": "s, all playings together",
    "rms_torque": "over the segment alone",
    "heat_share": "of ∫T² dt over the cycle",
    "peak_speed": "absolute",
    "peak": "largest absolute torque while running or standing, signed; null where a brake holds",
    "hold": "what holds it at rest, signed; null where it does not stand",
    "payload": "kg",
    "by": "`motor` or `brake`",
    "severity": "`error`, `suspicious`, `caution`",
    "missing": "of a limit: what is not given, `path` below the axis and `name`; elsewhere words for what is waited for; else empty",
    "verdict": "`settles`, `over_limit`, `runaway`; null where it is not known",
    "bodies": "1, or 2 with the housing",
    "winding_time_constant_known": "else the highest of the winding is a lower bound",
    "winding_mean": "K",
    "housing_mean": "K",
    "winding": "`lowest` and `highest` of the steady ripple, K",
    "housing": "the same of the housing",
    "winding_after_first_cycle": "K, from cold",
    "time_to_limit": "s from cold with this cycle one after the other; null: never, or not known",
    "winding_limit": "K",
    "thermal_resistance": "winding to ambient, K/W; null where losses are known as shares only",
    "resistance_by_rating": "of rated loss and rise, not of the sheet",
    "copper_loss": "W, mean at the winding's temperature",
    "speed_loss": "W, iron and friction",
    "permitted_loss": "W, in copper at standstill",
    "kinds": "best first, excluded ones last",
    "questions": "`key`, `words`, `answer`, and `field`, the pointer of the field that answers it",
    "would_change": "sentences: one answer changed, and the kind that then comes first",
    "score": "sum of the weights of its reasons",
    "excluded": "by what surrounds it",
    "reasons": "`weight` and `words`, the weightiest first",
    "line": "of the file; null where it has none",
    "field": "name as on screen",
    "message": "what was found, what is allowed",
}

HEAD = """# The JSON of `fulmox-cli assess --json`

This file is written by `scripts/make_formats.py`; a test compares it with what the program gives.

`format` is `"fulmox-assessment"`, `version` 3, `machine` the name of the project, `axes` a list in the order of the project,
`problems` what reading the file found that belongs to no axis. Each axis has `name`, `policy`, `results` (an object by key),
`limits` (a list in working order), `inertia`, `peaks`, `segments`, `heat`, `kind_advice` and `problems`; `inertia`, `peaks`,
`segments` and `heat` are null while they wait for an input. New members may come with any version of the program; none changes its meaning or goes without a new `version`.

Words follow the project's units, numbers are SI. A result that waits for inputs has the value null and a note that names them; a
limit then is `cannot_say`, with the same words as reason. Problems of reading the file stand with the axis they belong to. Of an
axis with further cycles the results are those of its first cycle; a limit is the worst of all cycles, and its reason names the one
it is of.

Where two units stand, the first is that of an axis along a line, the second of a rotary one (the demo has both); on a linear
motor forces, masses and speeds along the line stand in place of torques, inertias and angular speeds. `demand.fill_0` to
`demand.fill_4` are the fills of a winder from empty to full. A key is absent where it does not apply (no motor, no brake needed).
Of version 2 changed: temperatures of `heat` are K; the band of `stepper.resonance` is in full steps/s like it; the heat by the
loss method holds the RMS torque against what the speeds of the cycle leave; `missing` of `precision` is a list of objects; a limit
names what is `missing`, whether that is `accepted` by the axis, and the defaults that stand in (`stand_ins`).
`heat.time_to_limit`, s from cold until the winding is at its limit, is present where it comes there.
"""


def fail(words):
    sys.exit("make_formats: " + words)


def members(title, path, objects):
    keys = []
    for each in objects:
        for key in each:
            if key not in keys:
                keys.append(key)
    if not keys:
        fail(f"nothing in {path}")
    lines = [f"\n### {title}: `{path}`\n", "| member | meaning |", "|---|---|"]
    for key in keys:
        meaning = MEMBERS.get(f"{path}.{key}", MEMBERS.get(key))
        if meaning is None:
            fail(f"no meaning for the member {key} of {path}")
        lines.append(f"| `{key}` | {meaning} |")
    return lines


# members of the parts, by the object they stand in
PARTS = {
    "coupling": ("Coupling", "torques at the shaft it sits on, N·m, signed: + drives forwards; null without a coupling", {
        "shaft": "`motor` or `mechanism`",
        "service_factor": "by which a torque is multiplied for the rating it asks",
        "cycle_torque": "largest over the cycle, standstill and breakaway included: `value`, and the `rating` it asks",
        "emergency_stop_torque": "the same of the emergency stop; null where none is given",
        "external_torque": "static torque of the load over the cycle, no friction: `least`, `most`",
        "load_share": "J_L/J over the cycle: `least`, `most`; the coupling counts with the load; null where it is not known",
        "motor_peak": "with the motor's largest torque: `motor_torque` at its shaft, and `forward` and `backward` each with `motor_peak_bound`, `shared_bound` and `first_swing`, each `value` and `rating`; null without a known motor",
        "emergency_stop": "the same with the motor's torque in an emergency stop: as typed, else its largest, braking included",
        "judged": "the larger of the shared bounds and the cycle's own",
        "misalignment": "sum of misalignments over those allowed; null where one is not known",
    }),
    "brake": ("Brakes", "loss of power; null without a brake or with a demand whose inertia is not known", {
        "brakes": "each with `name`, `place`, `static_torque` and `dynamic_torque` at the motor's shaft, N·m, `dynamic_known` (else the static one stands in), `apply_time` s, `stop_energy` J",
        "driving_torque": "N·m at the motor's shaft that drives on without power, no friction credited",
        "estimate": "gravity and inertia are taken as at the place where the power fails",
        "distance_unit": "of the distances beside it",
        "forward": "from top speed forwards: `stops`, `speed_when_it_bites` rad/s of the motor, `energy` J, `time` s until standstill, `distance` gone after the loss; null where the cycle does not go that way or a delay is not given",
        "backward": "the same backwards",
        "standing": "the same from standstill: the drop",
    }),
    "drive": ("Drive", "currents in A RMS of the line, or DC", {
        "amperes": "`rms` (of the line) or `dc`; null where no constant tells the current",
        "peak_current": "largest over the cycle, hot",
        "rms_current": "over the cycle, hot",
        "continuous_allowed": "the drive's, in the same amperes, as derated; null: not limited",
        "peak_allowed": "the same of its peak",
        "currents_left": "share left by derating",
        "overload": "I²t, A²s: `greatest` of all cycles (null where it grows for ever), `first_cycle`, `net_per_cycle`, `budget`, `trips`, `trip_cycle` from 1, `trip_time` s into it; null without a continuous current",
        "torque_limit": "to program, so that no part downstream is asked for more: `torque` N·m at the motor's shaft, the `part` that sets it, its `name`; null where no part gives a limit",
    }),
    "screw": ("Screw", "null of other mechanisms", {
        "critical_speed": "rad/s: `value` for the chosen `ends`, and `by_ends` for all four; null without a root diameter, and where the nut turns",
        "buckling_load": "N, the same; Johnson's parabola below the transition slenderness where a yield strength is given",
        "life": "`mean_load` N and `mean_speed` rad/s over the whole time, `revolutions`, `hours`, `travel` m (null without a dynamic load rating), `by_spectrum` where one is typed; null where neither is known",
        "plan": "of its described ends, m: `length`, `free_length`, `loaded_length`, `bearing_from` (middle of the first bearing), `sections` and `nut_sections` (of a nut that turns) each `of`, `from`, `to`, `diameter`; `critical_speed` rad/s of all its diameters on its bearings; `places` of the `nut` along the stroke with `loaded_length`, `buckling_load` N and `critical_speed` with the nut as one more bearing; `warnings`; null where no ends are described or the plan waits",
    }),
    "stiffness": ("Stiffness", "everything seen from the motor's shaft; null where inertias are not known", {
        "elements": "each with `key`, `label`, `stiffness` where it is in `stiffness_unit`, `at_motor` N·m/rad, and its `compliance_share`",
        "total": "N·m/rad; null: nothing gives way as far as is said",
        "softest": "key of the softest",
        "two_body": "`motor_inertia` (rotor, motor brake, gearhead input) and `load_inertia` kg·m², `antiresonance` and `resonance` Hz, `bandwidth` Hz that a velocity loop reaches, `slow` a third and `fast` half of the antiresonance",
        "chain": "eigenfrequencies of the whole chain, Hz: `antiresonances` with the motor held, `resonances` with it free, `bandwidth`",
    }),
    "precision": ("Precision", "± at the load; null of a winder, and where the demand is not known", {
        "unit": "of every error: m, or rad of a turning load",
        "terms": "each with `key`, `label`, `error`, `grows_with_stroke`",
        "worst_case": "sum of all",
        "root_sum_square": "root of the sum of squares",
        "asked": "as given, else null",
        "missing": "what would be a term and is not given: `path` below the axis and `name`",
        "over_stroke": "at eleven places: `from_start`, `worst_case`, `root_sum_square`",
    }),
}


def parts(key, axes):
    title, about, words = PARTS[key]
    held = [a[key] for a in axes if a[key]]
    if sorted(words) != sorted({k for h in held for k in h}):
        fail(f"the members of {key} are not those with a meaning")
    return [f"\n### {title}: `{key}`\n", about[0].upper() + about[1:] + ".\n", "| member | meaning |", "|---|---|"] + \
        [f"| `{k}` | {words[k]} |" for k in held[0]]


def main():
    demo = os.path.join(ROOT, "data/projects/tile-glazing-cell.fulmox")
    axes = json.loads(subprocess.run([sys.argv[1], "assess", demo, "--json"], capture_output=True, text=True).stdout)["axes"]
    also = os.path.join(ROOT, "tests/fixtures/strain-wave.fulmox")
    axes += json.loads(subprocess.run([sys.argv[1], "assess", also, "--json"], capture_output=True, text=True).stdout)["axes"]
    out = [HEAD]
    known = set()
    for title, rows in (("Results", lambda a: a["results"].items()), ("Limits", lambda a: [(x["key"], x) for x in a["limits"]])):
        units, needs = {}, {}
        for axis in axes:
            for key, row in rows(axis):
                seen = units.setdefault(key, [])
                if row["unit"] not in seen:
                    seen.append(row["unit"])
                needs.setdefault(key, [])
                needs[key] += [n for n in row["needs"] if n not in needs[key]]
        out += [f"## {title}\n", "| key | unit | meaning | needs |", "|---|---|---|---|"]
        order = [k for k in MEANINGS if k in units]
        if missing := [k for k in units if k not in MEANINGS]:
            fail("no meaning for " + ", ".join(missing))
        known.update(units)
        out += [f"| `{k}` | {' or '.join(units[k])} | {MEANINGS[k]} | {', '.join(needs[k])} |" for k in order]
        out.append("")
    if gone := [k for k in MEANINGS if k not in known]:
        fail("the demo has no " + ", ".join(gone))
    figures = [f for a in axes for f in a["results"].values()]
    limits = [x for a in axes for x in a["limits"]]
    inertias = [a["inertia"] for a in axes if a["inertia"]]
    peaks = [a["peaks"] for a in axes if a["peaks"]]
    segments = [r for a in axes if a["segments"] for r in a["segments"]["rows"]]
    out.append("## Members")
    out += members("A result", "results.*", figures)
    out += members("A limit", "limits[]", limits)
    out += members("A line of working", "working[]", [w for f in figures + limits for w in f["working"]])
    out += members("Inertia statement", "inertia", inertias)
    out += members("A contributor", "inertia.contributors[]", [c for i in inertias for c in i["contributors"]])
    out += members("Peaks", "peaks", peaks)
    out += members("A peak", "peaks.*, segments.rows[].peak", [p[k] for p in peaks for k in p if isinstance(p[k], dict)])
    out += members("Demand by segment", "segments", [a["segments"] for a in axes if a["segments"]])
    out += members("A segment", "segments.rows[]", segments)
    out += members("A hold", "segments.rows[].hold", [s["hold"] for s in segments if s["hold"]])
    for key in PARTS:
        out += parts(key, axes)
    out += members("A stage", "stages[]", [s for a in axes for s in a["stages"]])
    out += members("Heat over the cycle", "heat", [a["heat"] for a in axes if a["heat"]])
    out += members("Which kind of motor", "kind_advice", [a["kind_advice"] for a in axes])
    out += members("A kind of motor", "kind_advice.kinds[]", [k for a in axes for k in a["kind_advice"]["kinds"]])
    out += members("A problem", "problems[]", [p for a in axes for p in a["problems"]])
    print("\n".join(out))


main()
