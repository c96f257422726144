#!/usr/bin/python3
"""One candidate on the hull against numpy on 1000 samples of the same cycle, in one run: peak and RMS for a given ratio and
inertia. The promise is a ratio of at least 300."""
import json
import subprocess
import sys
import timeit

import numpy as np

PROMISED = 300.0
benchmark = sys.argv[1]
out = subprocess.run([benchmark, "--benchmark_filter=candidate_on_the_hull$", "--benchmark_format=json", "--benchmark_min_time=0.5"],
                     capture_output=True, text=True, check=True).stdout
ours = json.loads(out)["benchmarks"][0]["real_time"] * 1e-9

rng = np.random.default_rng(1)
torque, acceleration = rng.normal(size=1000), 1e3 * rng.normal(size=1000)
regime = rng.integers(0, 3, size=1000)
factor = np.array([1 / 0.95, 2 - 1 / 0.95, 1.0])[regime]


def candidate(i=5.0, j=5e-5):
    t = factor * torque / i + (j * i) * acceleration
    return np.abs(t).max(), np.sqrt(np.mean(t * t))


n = 20000
theirs = min(timeit.repeat(candidate, number=n, repeat=5)) / n
ratio = theirs / ours
print(f"a candidate: {1e9 * ours:.0f} ns on the hull, {1e9 * theirs:.0f} ns by numpy on 1000 samples: {ratio:.0f} times (promise {PROMISED:.0f})")
sys.exit(ratio < PROMISED)
