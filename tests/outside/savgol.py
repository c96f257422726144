"""A recorded move with noise, smoothed by scipy: samples, then value and two derivatives for each half window."""
import json

import numpy as np
from scipy.signal import savgol_filter

rng = np.random.default_rng(11)
step = 0.002
t = np.arange(600) * step
T = t[-1]
x = 0.3 * (t / T - np.sin(2 * np.pi * t / T) / (2 * np.pi)) + rng.normal(0, 2e-5, t.size)
out = {"time": t.tolist(), "value": x.tolist(), "fits": []}
for half in (2, 5, 10, 40, 150):
    fit = [savgol_filter(x, 2 * half + 1, 3, deriv=d, delta=step, mode="interp").tolist() for d in range(3)]
    out["fits"].append({"half": half, "step": step, "fit": fit})
# the same move as velocity: scipy's cumulative integral of what it smoothed
v = np.gradient(x, step)
smooth = savgol_filter(v, 21, 3, mode="interp")
out["velocity"] = {"value": v.tolist(), "fit": smooth.tolist(),
                   "slope": savgol_filter(v, 21, 3, deriv=1, delta=step, mode="interp").tolist()}
print(json.dumps(out))
