#!/usr/bin/env python3
"""Writes data/catalogue/motors.json: an invented catalogue of servo motors.

Every number is made up from plausible scaling laws; no row stands for a real product. Series are named after birds.
Run from the project's root: scripts/make_catalogue.py > data/catalogue/motors.json
"""
import json
import math

# series: (frame mm, continuous torques N·m, inertia kg·cm² per N·m at 1 N·m, rated rpm, top rpm, peak factor, pole pairs)
SERIES = {
    # low inertia, quick
    "Wren": [(40, (0.16, 0.32), 0.16, 3000, 6000, 3.0), (60, (0.64, 1.27, 1.9), 0.36, 3000, 6000, 3.0),
             (80, (2.4, 3.2, 4.0), 0.55, 3000, 5500, 3.0)],
    # medium inertia
    "Heron": [(60, (0.64, 1.3), 0.75, 3000, 5000, 3.2), (80, (1.6, 2.4, 3.3), 1.15, 3000, 5000, 3.2),
              (100, (4.0, 5.5, 7.2), 1.9, 2000, 4000, 3.0), (130, (8.5, 11.5, 15.0), 2.6, 2000, 3500, 3.0)],
    # high inertia, for heavy loads on plain drives
    "Stork": [(80, (1.9, 2.6), 2.6, 2000, 4000, 2.6), (100, (4.5, 6.5), 3.4, 2000, 3500, 2.6), (130, (10.0, 14.0), 4.6, 1500, 3000, 2.5)],
    # small, low voltage
    "Finch": [(28, (0.03, 0.06), 0.10, 5000, 9000, 3.0), (36, (0.09, 0.14), 0.14, 4500, 8000, 3.0)],
}


def sig(x, n=3):
    return float(f"{x:.{n}g}")


def text(x, unit, n=3):
    v = sig(x, n)
    return f"{int(v) if v == int(v) and abs(v) < 1e6 else v} {unit}"


def curve(points):
    return [{"speed": text(n, "rpm", 4), "torque": text(t, "N·m")} for n, t in points]


def motor(series, frame, torque, inertia_per_torque, rated, top, factor, brake):
    voltage = 48 if frame < 40 else 320
    inertia = inertia_per_torque * torque ** 1.15
    kt = voltage * 0.55 / (math.sqrt(3 / 2) * rated * 2 * math.pi / 60) * math.sqrt(3)
    rated_current = torque / kt
    loss = 12 * torque ** 0.62 * (1 + 40 / frame)
    resistance = loss / (1.5 * rated_current ** 2)
    peak = torque * factor
    knee = rated * 1.05
    continuous = [(0, torque * 1.06), (rated * 0.5, torque * 1.04), (rated, torque), ((rated + top) / 2, torque * 0.82), (top, torque * 0.52)]
    peaks = [(0, peak), (knee * 0.6, peak), (knee, peak), ((knee + top) / 2, peak * 0.70), (top, peak * 0.36)]
    name = f"{series} {frame}-{round(torque * 10) if torque >= 0.1 else '0' + str(round(torque * 100))}" + (" B" if brake else "")
    out = {
        "name": name,
        "origin": "Aviary catalogue (invented)",
        "rotor_inertia": text(inertia, "kg·cm²"),
        "max_speed": text(top, "rpm", 4),
        "continuous": curve(continuous),
        "peak": curve(peaks),
        "curve_voltage": f"{voltage} V",
        "rated_ambient": "40 °C",
        "winding_limit": "155 °C" if frame >= 60 else "130 °C",
        "electric": {"kind": "sine", "torque_constant": text(kt, "N·m/A"), "resistance": text(resistance, "Ω")},
        "mass": text(0.55 * (frame / 40) ** 1.5 * torque ** 0.45 + (0.25 * frame / 60 if brake else 0), "kg"),
        "shaft_diameter": f"{ {28: 5, 36: 6, 40: 8, 60: 14, 80: 19, 100: 24, 130: 28}[frame] } mm",
        "price": str(int(round(150 + 190 * torque ** 0.55 + frame * 1.4 + (70 + 0.5 * frame if brake else 0), -0))),
    }
    if brake:
        out["brake_inertia"] = text(0.05 * inertia + 0.004 * (frame / 40) ** 3, "kg·cm²")
        out["brake_torque"] = text(torque * 1.3, "N·m")
    return out


rows = [motor(series, frame, torque, j, rated, top, factor, brake)
        for series, frames in SERIES.items()
        for frame, torques, j, rated, top, factor in frames
        for torque in torques
        for brake in (False, True)]
print(json.dumps({"format": "fulmox-catalogue", "version": 1, "name": "Aviary, invented servo motors",
                  "motors": rows}, ensure_ascii=False, indent=1))
