"""The demand of a screw axis written out again from the textbook, integrated by scipy.

Reads a JSON file of SI values, prints JSON. Independent of the program: no code, only the physics, is shared.
"""
import json
import math
import sys

import numpy as np
from scipy.integrate import quad
from scipy.optimize import brentq

p = json.load(open(sys.argv[1]))
r = p["lead"] / (2 * math.pi)
mean = (p["outer"] + p["root"]) / 2
own = math.pi * p["density"] * p["length"] * mean ** 4 / 32 + p["coupling"]
eta = p["eta"]
eta_back = 2 - 1 / eta
g_along = p["gravity"] * math.sin(p["inclination"])
g_across = p["gravity"] * (0 if abs(abs(p["inclination"]) - math.pi / 2) < 1e-12 else math.cos(p["inclination"]))
lifted = p["counterbalance"] + p["counterweight"] * p["gravity"]


def torque(v, a, payload, process, direction):
    weight = p["carriage"] + payload
    static = weight * g_along - lifted + process
    if direction == 0:
        return static * r
    friction = p["mu"] * (abs(weight * g_across) + p["normal"]) + p["seal"]
    force = (weight + p["counterweight"]) * a + static + direction * friction + p["viscous"] * v
    factor = 1 / eta if force * direction >= 0 else eta_back
    return force * r * factor + direction * p["drag"] + (own + p["rotor"]) * a / r


def pieces(s):
    """(duration, speed at its start, acceleration, direction)"""
    if "dwell" in s:
        return [(s["dwell"], 0.0, 0.0, 0)]
    if "move" in s:
        d, t, a, b = s["move"]
        v = abs(d) / (t * (1 - (a + b) / 2))
        up, flat, down = a * t, (1 - a - b) * t, b * t
    else:
        d, v, a, b = s["limits"]
        if abs(d) < v * v / 2 * (1 / a + 1 / b):
            v = math.sqrt(2 * abs(d) / (1 / a + 1 / b))
        up, down = v / a, v / b
        flat = (abs(d) - v * (up + down) / 2) / v
    k = 1 if d > 0 else -1
    out = [(up, 0.0, k * v / up, k), (flat, k * v, 0.0, k), (down, k * v, -k * v / down, k)]
    return [x for x in out if x[0] > 1e-15]


heat, delivered, returned, peak, total = [], 0.0, 0.0, 0.0, 0.0
payload = p["payload"]
for s in p["segments"]:
    payload = s["payload"] if s["payload"] is not None else payload
    own_heat = 0.0
    for duration, v0, a, k in pieces(s):
        total += duration
        if s.get("brake"):
            continue
        f = lambda t: torque(v0 + a * t, a, payload, s["process"], k)
        # where torque or force jumps or changes sign, found on a grid and sharpened
        grid = np.linspace(0, duration, 20001)
        values = np.array([f(t) for t in grid])
        peak = max(peak, np.abs(values).max())
        force = lambda t: torque(v0 + a * t, a, payload, s["process"], k) - p["drag"] * k - (own + p["rotor"]) * a / r
        edges = [0.0, duration]
        for h, known in ((f, values), (force, np.array([force(t) for t in grid]))):
            for i in np.nonzero(known[:-1] * known[1:] < 0)[0]:
                edges.append(brentq(h, grid[i], grid[i + 1], xtol=1e-15))
        edges.sort()
        for lo, hi in zip(edges, edges[1:]):
            if hi - lo < 1e-14:
                continue
            own_heat += quad(lambda t: f(t) ** 2, lo, hi, epsabs=0, epsrel=1e-12)[0]
            energy = quad(lambda t: f(t) * (v0 + a * t) / r, lo, hi, epsabs=1e-15, epsrel=1e-12)[0]
            if energy > 0:
                delivered += energy
            else:
                returned -= energy
    heat.append(own_heat)
print(json.dumps({"rms": math.sqrt(sum(heat) / total), "heat": heat, "delivered": delivered, "returned": returned, "peak": peak}))
