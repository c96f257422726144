"""The peak curves of the catalogue by scipy, at speeds between their second and last-but-one points."""
import json
import math
import sys

import numpy as np
from scipy.interpolate import PchipInterpolator

out = []
for motor in json.load(open(sys.argv[1], encoding="utf-8"))["motors"]:
    if "peak" not in motor:
        continue  # its curve follows from its constants
    speed = [float(p["speed"].split()[0]) * 2 * math.pi / 60 for p in motor["peak"]]
    torque = [float(p["torque"].split()[0]) for p in motor["peak"]]
    curve = PchipInterpolator(speed, torque)
    out.append([[w, float(curve(w))] for w in np.linspace(speed[1], speed[-2], 9)])
print(json.dumps(out))
