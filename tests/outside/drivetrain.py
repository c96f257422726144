"""Chains of springs and bodies, and a stop by a brake, by scipy. Reads nothing of the program."""
import json
import math
import sys

import ezdxf
import numpy as np
from scipy.integrate import solve_ivp
from scipy.linalg import eigh

out = {}
# the lift of test_drivetrain.cpp's numbers: rotor, coupling 3500 N·m/rad, shaft, axial compliance, carriage
rotor, shaft, carriage = 5.0e-5, 1.0e-4, 1.2e-4
lead, root, length, e = 0.01, 0.0171, 0.62, 206e9
turn = lead / (2 * math.pi)
coupling = 3500.0
torsion = e / 2.6 * math.pi * root ** 4 / 32 / length
axial = 1 / (1 / (e * math.pi * root ** 2 / 4 / length) + 1 / 250e6 + 1 / 180e6) * turn ** 2
behind = 1 / (1 / torsion + 1 / axial)
K = np.array([[coupling, -coupling, 0], [-coupling, coupling + behind, -behind], [0, -behind, behind]])
M = np.diag([rotor, shaft, carriage])
free = np.sqrt(np.maximum(0, eigh(K, M, eigvals_only=True))) / (2 * math.pi)
held = np.sqrt(eigh(K[1:, 1:], M[1:, 1:], eigvals_only=True)) / (2 * math.pi)
out["chain"] = {"rotor": rotor, "shaft": shaft, "carriage": carriage, "resonances": list(free[1:]), "antiresonances": list(held)}

# a falling load that a brake stops: J w' = g until it engages, then g - b
J, g, b, delay, w0 = 3e-4, 0.6, 1.5, 0.05, 120.0
fall = solve_ivp(lambda t, y: [g / J, y[0]], (0, delay), [w0, 0.0], rtol=1e-12, atol=1e-14)
rests = lambda t, y: y[0]
rests.terminal, rests.direction = True, -1
slip = solve_ivp(lambda t, y: [(g - b) / J, y[0], b * y[0]], (delay, 10), [fall.y[0][-1], fall.y[1][-1], 0.0], events=rests, rtol=1e-12, atol=1e-14)
out["brake"] = {"inertia": J, "driving": g, "slips": b, "delay": delay, "speed": w0, "engages_at": float(fall.y[0][-1]),
                "time": float(slip.t[-1]), "angle": float(slip.y[1][-1]), "energy": float(slip.y[2][-1])}

# stepped shafts on their bearings by Hermite beam elements. Short ones beside long ones spoil the matrix: each is about a
# thirtieth of the whole
def frequency(shaft, supports, modulus, density, pieces=30):
    places = np.cumsum([0.0] + [s[0] for s in shaft])
    cuts = sorted({round(x, 12) for x in list(places) + [s[0] for s in supports]})
    nodes = [cuts[0]]
    for a, b in zip(cuts, cuts[1:]):
        nodes += list(np.linspace(a, b, max(2, round(pieces * (b - a) / places[-1])) + 1)[1:])
    K, M = np.zeros((2 * len(nodes),) * 2), np.zeros((2 * len(nodes),) * 2)
    for i, (a, b) in enumerate(zip(nodes, nodes[1:])):
        d = shaft[min(int(np.searchsorted(places, (a + b) / 2)) - 1, len(shaft) - 1)][1]
        h, bending, line = b - a, modulus * math.pi * d ** 4 / 64, density * math.pi * d ** 2 / 4
        s = slice(2 * i, 2 * i + 4)
        K[s, s] += bending / h ** 3 * np.array([[12, 6 * h, -12, 6 * h], [6 * h, 4 * h * h, -6 * h, 2 * h * h],
                                                [-12, -6 * h, 12, -6 * h], [6 * h, 2 * h * h, -6 * h, 4 * h * h]])
        M[s, s] += line * h / 420 * np.array([[156, 22 * h, 54, -13 * h], [22 * h, 4 * h * h, 13 * h, -3 * h * h],
                                              [54, 13 * h, 156, -22 * h], [-13 * h, -3 * h * h, -22 * h, 4 * h * h]])
    held = set()
    for at, clamped in supports:
        i = int(np.argmin(np.abs(np.array(nodes) - at)))
        held |= {2 * i, 2 * i + 1} if clamped else {2 * i}
    keep = [i for i in range(len(K)) if i not in held]
    return math.sqrt(eigh(K[np.ix_(keep, keep)], M[np.ix_(keep, keep)], eigvals_only=True, subset_by_index=[0, 0])[0])


chance = np.random.default_rng(7)
out["shafts"] = []
for kind in ("clamped-free", "supported-supported", "clamped-supported", "clamped-clamped", "with a nut") * 4:
    shaft = [[float(chance.uniform(0.02, 0.06)), float(chance.uniform(0.008, 0.015))],
             [float(chance.uniform(0.01, 0.05)), float(chance.uniform(0.012, 0.02))],
             [float(chance.uniform(0.3, 1.5)), float(chance.uniform(0.014, 0.04))],
             [float(chance.uniform(0.01, 0.05)), float(chance.uniform(0.012, 0.02))],
             [float(chance.uniform(0.01, 0.4)), float(chance.uniform(0.008, 0.015))]]
    near, far = shaft[0][0] + shaft[1][0] / 2, sum(s[0] for s in shaft[:3]) + shaft[3][0] / 2
    supports = {"clamped-free": [[near, True]], "supported-supported": [[near, False], [far, False]],
                "clamped-supported": [[near, True], [far, False]], "clamped-clamped": [[near, True], [far, True]],
                "with a nut": [[near, True], [far, False], [near + 0.3 * (far - near), False]]}[kind]
    out["shafts"].append({"kind": kind, "shaft": shaft, "supports": supports,
                          "speed": frequency(shaft, supports, 206e9, 7850.0)})

if len(sys.argv) > 1:  # a drawing to read back
    drawing = ezdxf.readfile(sys.argv[1])
    space = drawing.modelspace()
    lines, words = space.query("LINE"), space.query("TEXT")
    outline = [l for l in lines if l.dxf.layer == "OUTLINE"]
    out["dxf"] = {"errors": len(drawing.audit().errors), "version": drawing.dxfversion, "lines": len(lines),
                  "words": [w.dxf.text for w in words], "layers": sorted({l.dxf.layer for l in lines}),
                  "left": min(min(l.dxf.start.x, l.dxf.end.x) for l in outline), "right": max(max(l.dxf.start.x, l.dxf.end.x) for l in outline),
                  "top": max(max(l.dxf.start.y, l.dxf.end.y) for l in outline)}

print(json.dumps(out))
