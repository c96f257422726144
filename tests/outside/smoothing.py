"""A recorded move with noise, smoothed by the definition in the guide: samples joined by lines and averaged with the weight
15/16 (1 - u^2)^2, by Gauss quadrature line by line; value, slope and curvature where the window lies within the recording."""
import json

import numpy as np

rng = np.random.default_rng(11)
step = 0.002
t = np.arange(600) * step
T = t[-1]
x = 0.3 * (t / T - np.sin(2 * np.pi * t / T) / (2 * np.pi)) + rng.normal(0, 2e-5, t.size)
nodes, weights = np.polynomial.legendre.leggauss(6)


def smoothed(times, values, half):
    """At each sample: the mean, and the means with the first and second derivative of the weight (by parts)."""
    out = []
    for at in times:
        if at - half < times[0] + 1e-9 or at + half > times[-1] - 1e-9:
            out.append([None] * 3)
            continue
        edges = np.concatenate(([at - half], times[(times > at - half + 1e-12) & (times < at + half - 1e-12)], [at + half]))
        a, b = edges[:-1], edges[1:]
        tau = (a + b)[:, None] / 2 + (b - a)[:, None] / 2 * nodes[None, :]
        w = (b - a)[:, None] / 2 * weights[None, :]
        u = (tau - at) / half
        f = np.interp(tau, times, values)
        slope = np.diff(values) / np.diff(times)
        lines = slope[np.clip(np.searchsorted(times, (a + b) / 2) - 1, 0, slope.size - 1)][:, None]
        k = 15 / 16 * (1 - u ** 2) ** 2 / half
        dk = 15 / 16 * 2 * (1 - u ** 2) * (-2 * u) / half ** 2
        # d/dt of the mean of f' is minus the mean of f' with the weight's own slope by tau
        out.append([float((w * k * f).sum()), float((w * k * lines).sum()), float(-(w * dk * lines).sum())])
    return out


result = {"time": t.tolist(), "value": x.tolist(), "fits": []}
for half in (2, 5, 10, 40, 150, 7.3):
    result["fits"].append({"half": half * step, "fit": smoothed(t, x, half * step)})
uneven = np.cumsum(rng.uniform(0.4, 1.6, 500)) * step
uneven -= uneven[0]
y = 0.2 * np.sin(3 * uneven) + rng.normal(0, 2e-5, uneven.size)
result["uneven"] = {"time": uneven.tolist(), "value": y.tolist(), "half": 0.0137, "fit": smoothed(uneven, y, 0.0137)}
v = np.gradient(x, step)
result["velocity"] = {"value": v.tolist(), "half": 0.02, "fit": smoothed(t, v, 0.02)}
print(json.dumps(result))
