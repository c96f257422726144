#!/usr/bin/python3
"""Every convention of a motor constant from first principles by sympy, and every pair of them against the program.

usage: conventions.py FULMOX_CLI; prints {what, source, values, deviation, tolerance} as JSON.
"""
import json
import subprocess
import sys

import sympy as sp

t = sp.symbols("t", real=True)
pi = sp.pi


def rms(f, low, high):
    return sp.sqrt(sp.integrate(f ** 2, (t, low, high)) / (high - low))


def sine():
    """Of e_a = k ω sin θ with k = 1; currents in phase with the EMF."""
    shifts = (0, -2 * pi / 3, 2 * pi / 3)
    line = sp.sqrt((1 - sp.cos(2 * pi / 3)) ** 2 + sp.sin(2 * pi / 3) ** 2)
    power = sp.integrate(sum(sp.sin(t + s) ** 2 for s in shifts), (t, 0, 2 * pi)) / (2 * pi)  # per A peak and V·s/rad
    per_peak = sp.simplify(power)
    # power-invariant transform: i_q² = Σ i² of the phases
    q_of_phase_peak = sp.sqrt(sp.integrate(sum(sp.sin(t + s) ** 2 for s in shifts), (t, 0, 2 * pi)) / (2 * pi))
    voltage = {"phase_peak": sp.Integer(1), "phase_rms": rms(sp.sin(t), 0, 2 * pi), "line_peak": line,
               "line_rms": line * rms(sp.sin(t), 0, 2 * pi), "delta_peak": line, "delta_rms": line * rms(sp.sin(t), 0, 2 * pi)}
    torque = {"peak": per_peak, "rms": per_peak * sp.sqrt(2), "q_wye": per_peak / q_of_phase_peak,
              "q_delta": per_peak / (q_of_phase_peak / line),  # a winding of a delta carries the line current over √3
              "dc_sine": line * sp.integrate(sp.cos(t), (t, -pi / 6, pi / 6)) / (pi / 3)}
    return torque, voltage


def trapezoid():
    """Of a phase flat for 120°, its top 1."""
    ramp = 6 * t / pi - 1  # a rise of 60° from −1 to 1, from t = 0
    phase = sp.sqrt((sp.Integer(2) / 3) + sp.integrate(ramp ** 2, (t, 0, pi / 3)) / pi)
    # between two phases: flat at 2 for 60°, then down as one of them ramps, and up again: 60° each in half a turn
    line = sp.sqrt((sp.integrate(sp.Integer(4), (t, 0, pi / 3)) + 2 * sp.integrate((1 + ramp) ** 2, (t, 0, pi / 3))) / pi)
    voltage = {"phase_peak": sp.Integer(1), "phase_rms": phase, "line_peak": sp.Integer(2), "line_rms": line,
               "delta_peak": sp.Integer(2), "delta_rms": line}
    return {"dc": sp.Integer(2)}, voltage  # two flat tops in series see the current of the link


def from_program(kind, entries):
    sheet = {"name": "k = 1", "electric": {"kind": kind, **entries}}
    done = subprocess.run([sys.argv[1], "datasheet", "-", "--json"], input=json.dumps(sheet), capture_output=True, text=True, check=True)
    c = json.loads(done.stdout)["sheets"][0]["constants"]
    return ({k: v["value"] for k, v in c["torque_constant"].items()}, {k: v["value"] for k, v in c["voltage_constant"].items()},
            {k: v["value"] for k, v in c["speed_constant"].items()})


worst, count = 0.0, 0
for kind, entries, (torque, voltage) in (
        ("sine", {"voltage_constant": "1 V·s/rad", "voltage_constant_of": "phase_peak"}, sine()),
        ("block", {"emf": "trapezoidal", "voltage_constant": "1 V·s/rad", "voltage_constant_of": "phase_peak"}, trapezoid()),
        ("brushed", {"voltage_constant": "1 V·s/rad"}, ({"dc": sp.Integer(1)}, {"dc": sp.Integer(1)}))):
    ours = from_program(kind, entries)
    theirs = (torque, voltage, {key: 1 / v for key, v in voltage.items()})
    for a, b in zip(ours, theirs):
        assert set(a) == set(b), (kind, set(a) ^ set(b))
    all_ours = [v for part in ours for v in part.values()]
    all_theirs = [b[key] for a, b in zip(ours, theirs) for key in a]
    for i, (oi, ti) in enumerate(zip(all_ours, all_theirs)):
        for oj, tj in zip(all_ours[:i], all_theirs[:i]):
            want = float(sp.N(ti / tj, 30))
            worst = max(worst, abs(oi / oj / want - 1))
            count += 1
print(json.dumps([{"what": "every pair of conventions of torque, voltage and speed constant", "source": "symbolic identities, sympy",
                   "values": count, "deviation": worst, "tolerance": 1e-12}]))
