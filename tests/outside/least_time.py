"""Least time of a move by searching over the peak speed: distance d within speed v, acceleration a, deceleration b."""
import json

import numpy as np
from scipy.optimize import minimize_scalar

rng = np.random.default_rng(11)
out = []
for _ in range(60):
    d, v, a, b = (float(x) for x in 10 ** rng.uniform([-3, -2, -1, -1], [1, 1, 1.5, 1.5]))

    def time(u):
        cruise = d - u * u / 2 * (1 / a + 1 / b)
        return u / a + u / b + cruise / u if cruise >= 0 else 1e9 + u

    top = min(v, (2 * d / (1 / a + 1 / b)) ** 0.5)
    best = minimize_scalar(time, bounds=(top * 1e-3, top), method="bounded", options={"xatol": top * 1e-12})
    out.append({"d": d, "v": v, "a": a, "b": b, "time": min(best.fun, time(top * (1 - 1e-13)))})
print(json.dumps(out))
