"""Laws, S-curves, a slider-crank and a winder, from their textbook definitions, by scipy and numpy alone."""
import json
import math

import numpy as np
from scipy.integrate import quad
from scipy.optimize import minimize_scalar

out = {}

# least time of an S-curve by search over the peak speed and the acceleration of each ramp
rng = np.random.default_rng(5)
curves = []


def ramp(speed, most, j):
    """shortest ramp to `speed`: search over the acceleration that is held"""
    top = min(most, math.sqrt(speed * j))
    f = lambda p: speed / p + p / j
    best = minimize_scalar(f, bounds=(top * 1e-3, top), method="bounded", options={"xatol": top * 1e-12})
    return min(best.fun, f(top))


for _ in range(25):
    d, v, a, b, j = (float(x) for x in 10 ** rng.uniform([-2, -1, 0, 0, 1], [0.5, 0.5, 1.3, 1.3, 3]))
    both = lambda u: ramp(u, a, j) + ramp(u, b, j)
    low, high = 1e-9, v  # the highest speed whose ramps fit into the distance
    if v / 2 * both(v) > d:
        for _ in range(200):
            middle = (low + high) / 2
            low, high = (middle, high) if middle / 2 * both(middle) <= d else (low, middle)
    else:
        low = v
    time = lambda u: both(u) + (d - u / 2 * both(u)) / u
    best = minimize_scalar(time, bounds=(low * 1e-3, low), method="bounded", options={"xatol": low * 1e-12})
    curves.append({"d": d, "v": v, "a": a, "b": b, "j": j, "time": min(best.fun, time(low))})
out["s_curves"] = curves

# slider-crank at constant speed with a vertical slider: torque by power, P = F dx/dt with F from d²x/dt² in closed form
c, l, m, w, g, crank_j = 0.04, 0.15, 12.0, 20.0, 9.80665, 0.002


def slider(t):
    s, k = math.sin(w * t), math.cos(w * t)
    root = math.sqrt(l * l - c * c * s * s)
    x1 = -c * s - c * c * s * k / root  # dx/dθ
    x2 = -c * k - c * c * (k * k - s * s) / root - c ** 4 * s * s * k * k / root ** 3  # d²x/dθ²
    return x1, x2


def crank_torque(t):
    x1, x2 = slider(t)
    return (m * x2 * w * w + m * g) * x1


turn = 2 * math.pi / w
out["crank"] = {"rms": math.sqrt(quad(lambda t: crank_torque(t) ** 2, 0, turn, limit=400, epsrel=1e-11)[0] / turn),
                "peak": max(abs(crank_torque(t)) for t in np.linspace(0, turn, 200001))}

# the yoke with its torque in closed form: (m a + m g) dx/dθ, x = c sin θ
yoke = lambda t: (-m * c * w * w * math.sin(w * t) + m * g) * c * math.cos(w * t)
out["yoke"] = {"rms": math.sqrt(quad(lambda t: yoke(t) ** 2, 0, turn, epsrel=1e-12)[0] / turn)}

# a winder through one whole roll: web speed along a cycloid, radius from the web length, torque = tension R + J(R) dω/dt
core, h, width, rho, tension, jc = 0.038, 5e-4, 0.3, 1000.0, 60.0, 8e-4
full = math.pi * (0.2 ** 2 - core ** 2) / h
T = 60.0
web = lambda t: full * (t / T - math.sin(2 * math.pi * t / T) / (2 * math.pi))
v = lambda t: full / T * (1 - math.cos(2 * math.pi * t / T))
radius = lambda t: math.sqrt(core ** 2 + web(t) * h / math.pi)
omega = lambda t: v(t) / radius(t)


def winder_torque(t):
    e = 1e-3
    lo, hi = max(0.0, t - e), min(T, t + e)
    accel = (omega(hi) - omega(lo)) / (hi - lo)
    r = radius(t)
    ring = math.pi * rho * width / 2 * (r ** 4 - core ** 4)
    return tension * r + (ring + jc) * accel


out["winder"] = {"rms": math.sqrt(quad(lambda t: winder_torque(t) ** 2, 0, T, limit=2000, epsrel=1e-9)[0] / T),
                 "top": max(omega(t) for t in np.linspace(0, T, 60001)), "length": full}

# RMS acceleration of each law by quad, from its definition
laws = {"simple_harmonic": lambda x: math.pi ** 2 / 2 * math.cos(math.pi * x),
        "cycloidal": lambda x: 2 * math.pi * math.sin(2 * math.pi * x),
        "polynomial_345": lambda x: 60 * x - 180 * x ** 2 + 120 * x ** 3,
        "polynomial_4567": lambda x: 420 * x ** 2 - 1680 * x ** 3 + 2100 * x ** 4 - 840 * x ** 5,
        "parabolic": lambda x: 6 - 12 * x}
out["cr"] = {k: math.sqrt(quad(lambda x: f(x) ** 2, 0, 1, epsrel=1e-13)[0]) for k, f in laws.items()}
print(json.dumps(out))
