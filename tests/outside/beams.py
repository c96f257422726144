"""First bending frequency and Euler load of a round bar by Hermite beam elements, for each pair of ends."""
import json
import math

import numpy as np
from scipy.linalg import eigh

d, length, modulus, density, n = 0.0171, 0.76, 206e9, 7850.0, 60
area, inertia = math.pi * d ** 2 / 4, math.pi * d ** 4 / 64
h = length / n
stiff = modulus * inertia / h ** 3 * np.array(
    [[12, 6 * h, -12, 6 * h], [6 * h, 4 * h * h, -6 * h, 2 * h * h], [-12, -6 * h, 12, -6 * h], [6 * h, 2 * h * h, -6 * h, 4 * h * h]])
mass = density * area * h / 420 * np.array(
    [[156, 22 * h, 54, -13 * h], [22 * h, 4 * h * h, 13 * h, -3 * h * h], [54, 13 * h, 156, -22 * h], [-13 * h, -3 * h * h, -22 * h, 4 * h * h]])
geometric = 1 / (30 * h) * np.array(
    [[36, 3 * h, -36, 3 * h], [3 * h, 4 * h * h, -3 * h, -h * h], [-36, -3 * h, 36, -3 * h], [3 * h, -h * h, -3 * h, 4 * h * h]])
size = 2 * (n + 1)
K, M, G = np.zeros((size, size)), np.zeros((size, size)), np.zeros((size, size))
for e in range(n):
    s = slice(2 * e, 2 * e + 4)
    K[s, s] += stiff
    M[s, s] += mass
    G[s, s] += geometric
ends = {"fixed": [0, 1], "supported": [0], "free": []}
out = {}
for name in ("fixed-free", "supported-supported", "fixed-supported", "fixed-fixed"):
    near, far = name.split("-")
    held = set(ends[near]) | {2 * n + i for i in ends[far]}
    keep = [i for i in range(size) if i not in held]
    k, m, g = (x[np.ix_(keep, keep)] for x in (K, M, G))
    speed = math.sqrt(eigh(k, m, eigvals_only=True, subset_by_index=[0, 0])[0])
    # smallest load P with K x = P G x: largest eigenvalue of the inverse problem
    load = 1 / eigh(g, k, eigvals_only=True)[-1]
    out[name] = {"speed": speed, "load": load}
print(json.dumps(out))
