#!/usr/bin/env python3
"""Writes data/catalogue: an invented catalogue of motors (JSON), gearheads, couplings, brakes, drives and supplies (CSV).

Constants follow from what a motor shall do at its voltage, so that no sheet contradicts itself: torque and voltage
constant and inductance from where the peak curve bends and ends, resistance from the loss at the rated point. Every number is made up from plausible scaling laws; no row stands for a real product. Series are named after birds.
Run from anywhere: scripts/make_catalogue.py [DIRECTORY]
"""
import csv
import json
import math
import pathlib
import sys

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


def fluxed(voltage, peak, knee, top, at_top, resistance_of, pole_pairs):
    """k and L of a phase of a sine-driven machine whose peak torque holds to `knee` rpm and is `at_top` of it at `top`,
    space vector, 20 °C. `resistance_of(k)`: Ω of a phase."""
    volts, w_knee, w_top = voltage / math.sqrt(3), knee * RPM, top * RPM

    def reactance(k):
        current = peak / (1.5 * k)
        return math.sqrt(max(0.0, volts ** 2 - (resistance_of(k) * current + k * w_knee) ** 2)) / (w_knee * current)

    def left(k):
        current = at_top * peak / (1.5 * k)
        return (resistance_of(k) * current + k * w_top) ** 2 + (w_top * reactance(k) * current) ** 2 - volts ** 2

    low, high = volts / w_top * 0.2, volts / w_top
    for _ in range(80):
        middle = (low + high) / 2
        low, high = (low, middle) if left(middle) > 0 else (middle, high)
    return low, reactance(low) / pole_pairs


def at_speed(n, voltage, k, inductance, resistance, pole_pairs, peak_current, saturation):
    """Peak torque at n rpm, i_d = 0, at 20 °C; currents A peak."""
    w = n * RPM
    emf, z2 = k * w, resistance ** 2 + (pole_pairs * w * inductance) ** 2
    root = (resistance * emf) ** 2 - z2 * (emf ** 2 - voltage ** 2 / 3)
    i = min(peak_current, (-resistance * emf + math.sqrt(max(0.0, root))) / z2)
    return 1.5 * k * i * (1 - saturation * (i / peak_current) ** 2)


RPM = 2 * math.pi / 60
SHAFT = {28: 5, 36: 6, 40: 8, 60: 14, 80: 19, 100: 24, 130: 28, 180: 35}


def sine(series, frame, torque, inertia_per_torque, rated, top, factor, brake, voltage=None, saturation=0.0, winding=""):
    voltage = voltage or (48 if frame < 40 else 320)
    inertia = inertia_per_torque * torque ** 1.15
    loss = 12 * torque ** 0.62 * (1 + 40 / frame)
    peak, knee, pole_pairs = torque * factor, rated * 1.05, 4 if frame < 60 else 5
    per_rms = 1.5 * math.sqrt(2)
    k, inductance = fluxed(voltage, peak, knee, top, 0.36, lambda k: loss / (3 * (torque / (per_rms * k)) ** 2), pole_pairs)
    kt = per_rms * k
    resistance = loss / (1.5 * (torque / kt) ** 2)
    continuous = [(0, torque * 1.06), (rated * 0.5, torque * 1.04), (rated, torque), ((rated + top) / 2, torque * 0.82), (top, torque * 0.52)]
    peak_current = math.sqrt(2) * peak / kt / (1 - saturation)
    peaks = [(n, at_speed(n, voltage, k, inductance, resistance / 2, pole_pairs, peak_current, saturation))
             for n in (0, knee * 0.6, knee, (knee + top) / 2, top)]
    name = f"{series} {frame}-{round(torque * 10) if torque >= 0.1 else '0' + str(round(torque * 100))}{winding}" + (" B" if brake else "")
    out = {
        "name": name,
        "origin": "Aviary catalogue (invented)",
        "series": series, "frame": f"{frame} mm",
        "rotor_inertia": text(inertia, "kg·cm²"),
        "max_speed": text(top, "rpm", 4),
        "continuous": curve(continuous),
        "peak": curve(peaks),
        "curve_voltage": f"{voltage} V",
        "rated_ambient": "40 °C",
        "winding_limit": "155 °C" if frame >= 60 else "130 °C",
        "thermal_time_constant": text(14 + 11 * torque ** 0.4, "min", 2),
        "winding_resistance": text(0.3 * (115 if frame >= 60 else 90) / (loss * 1.06 ** 2 * (390 if frame >= 60 else 365) / 255 / 0.81), "K/W", 2),
        "winding_time_constant": text(18 + 14 * torque ** 0.4, "s", 2),
        "electric": {
            "kind": "sine", "torque_constant": text(kt, "N·m/A"),
            "voltage_constant": text(math.sqrt(1.5) * k * 1000 * RPM, "V/krpm"), "voltage_constant_of": "line_rms",
            "resistance": text(resistance, "Ω"), "inductance": text(2000 * inductance, "mH"), "pole_pairs": str(pole_pairs),
            "stall_torque": text(torque * 1.06, "N·m"), "stall_current": text(torque * 1.06 / kt, "A"),
            "rated_torque": text(torque, "N·m"), "rated_current": text(torque / kt, "A"), "rated_speed": text(rated, "rpm", 4),
            "rated_power": text(torque * rated * RPM, "W"),
            "peak_torque": text(peak, "N·m"), "peak_current": text(peak / kt / (1 - saturation), "A"),
        },
        "mass": text(0.55 * (frame / 40) ** 1.5 * torque ** 0.45 + (0.25 * frame / 60 if brake else 0), "kg"),
        "length": text(38 + 26 * (torque / (frame / 60) ** 2) ** 0.7 + (30 if brake else 0), "mm"),
        "shaft_diameter": f"{SHAFT[frame]} mm", "shaft_torque": text(0.03 * SHAFT[frame] ** 3 / 4, "N·m"),
        "price": str(int(round(150 + 190 * torque ** 0.55 + frame * 1.4 + (70 + 0.5 * frame if brake else 0), -0))),
    }
    if brake:
        out["brake_inertia"] = text(0.05 * inertia + 0.004 * (frame / 40) ** 3, "kg·cm²")
        out["brake_torque"] = text(torque * 1.3, "N·m")
        out["brake_dynamic_torque"] = text(torque, "N·m")
        out["brake_apply_time"] = text(20 + 0.25 * frame, "ms", 2)
        out["brake_release_time"] = text(30 + 0.5 * frame, "ms", 2)
        out["brake_stop_energy"] = text(120 * torque + 2 * frame, "J", 2)
    return out


def direct(kind, series, frame, torque, voltage, no_load, fall):
    """Block-commutated or brushed: torque on a straight line that falls by `fall` of its speed to the rated point."""
    w0, ferrite = no_load * RPM, kind == "brushed"
    constant = voltage / w0 * 0.99
    rated_current = torque / constant * 1.05
    idle = rated_current - torque / constant
    resistance = fall * voltage / rated_current
    rated_speed = (voltage - resistance * rated_current) / constant / RPM
    pole_pairs = 4
    inductance = 0.05 * resistance / (pole_pairs * rated_speed * RPM) if not ferrite else 0.0008 * resistance
    peak_current = 3.2 * rated_current
    electric = {"kind": kind}
    if not ferrite:
        electric["emf"] = "trapezoidal"
    electric |= {
        "torque_constant": text(constant, "N·m/A"), "speed_constant": text(1 / constant / RPM, "rpm/V"),
        "resistance": text(resistance, "Ω"), "inductance": text(1000 * inductance, "mH"),
    }
    if not ferrite:
        electric["pole_pairs"] = str(pole_pairs)
    electric |= {
        "rated_voltage": f"{voltage} V", "no_load_speed": text((voltage - resistance * idle) / constant / RPM, "rpm", 4),
        "no_load_current": text(idle, "A"), "stall_torque": text(constant * voltage / resistance, "N·m"),
        "stall_current": text(voltage / resistance, "A"), "rated_torque": text(torque, "N·m"),
        "rated_current": text(rated_current, "A"), "rated_speed": text(rated_speed, "rpm", 4),
        "rated_power": text(torque * rated_speed * RPM, "W"), "peak_torque": text(constant * peak_current, "N·m"),
        "peak_current": text(peak_current, "A"),
    }
    if ferrite:
        electric["brush_speed"] = text(1.15 * no_load, "rpm", 4)
        electric["magnet"] = "ferrite"
    return {
        "name": f"{series} {frame}-{round(torque * 100):02d}-{voltage}",
        "origin": "Aviary catalogue (invented)",
        "series": series, "frame": f"{frame} mm",
        "rotor_inertia": text((1.3 if ferrite else 0.5) * torque ** 1.2 * (frame / 60), "kg·cm²"),
        "max_speed": text(1.25 * no_load, "rpm", 4),
        "rated_ambient": "40 °C", "winding_limit": "130 °C",
        "thermal_time_constant": text(9 + 9 * torque ** 0.4, "min", 2), "winding_time_constant": text(9 + 12 * torque ** 0.4, "s", 2),
        "winding_resistance": text(0.35 * 90 / (resistance * rated_current ** 2 * 365 / 255), "K/W", 2),
        "electric": electric,
        "mass": text(0.5 * (frame / 40) ** 1.6 * torque ** 0.4 * (1.3 if ferrite else 1), "kg"),
        "shaft_diameter": f"{SHAFT[frame]} mm",
        "price": str(int(round((60 if ferrite else 95) + (110 if ferrite else 150) * torque ** 0.6 + frame * 0.6))),
    }


def linear(series, force, speed, iron):
    voltage, pitch = 320, 0.024 if iron else 0.030
    k = voltage / math.sqrt(3) / (1.3 * speed)
    constant = 1.5 * math.sqrt(2) * k
    current = force / constant
    beta, factor = (0.1, 2.4) if iron else (0, 3.6)
    loss = (0.55 if iron else 1.1) * force ** 0.85
    resistance = loss / (1.5 * current ** 2)
    electric = {
        "kind": "linear", "core": "iron" if iron else "ironless", "force_constant": text(constant, "N/A"),
        "voltage_constant": text(math.sqrt(1.5) * k, "V·s/m"), "resistance": text(resistance, "Ω"),
        "inductance": text(1000 * resistance * (0.006 if iron else 0.0006), "mH"), "pole_pitch": text(1000 * pitch, "mm"),
        "forcer_mass": text(force * (0.0075 if iron else 0.0045) + 0.15, "kg"), "top_speed": text(speed * 1.1, "m/s"),
        "continuous_force": text(force, "N"), "continuous_current": text(current, "A"),
        "peak_force": text(factor * force, "N"), "peak_current": text(factor * force / constant / (1 - beta), "A"),
    }
    if iron:
        electric["attraction"] = text(4.6 * force, "N")
    return {"name": f"{series} {round(force)}-{round(speed * 10):02d}", "origin": "Aviary catalogue (invented)", "series": series,
            "rated_ambient": "40 °C", "winding_limit": "130 °C", "electric": electric,
            "price": str(int(round(420 + 7.5 * force ** 0.9 * (1.25 if not iron else 1))))}


def stepper(series, frame, holding, current, phases=2, step=1.8, control=None, rated_as=None, curve=None):
    """Hybrid stepper: heat at rated current, and with it resistance, and L/R from the holding torque; the sheet's pull-out
    curve, where there is one, a little below the model's at that bus."""
    half = rated_as == "half_coil"  # of half coils: 1/√2 of the bipolar torque at the same current
    held = holding / math.sqrt(2) if half else holding
    loss = 15 * holding ** 0.6
    resistance = loss / (phases * current ** 2)
    inductance = resistance * 0.0022 * holding ** 0.2 * (0.5 if half else 1)
    teeth = round((90 if phases == 2 else 36) / step)
    constant = held / ((math.sqrt(2) if phases == 2 else math.tan(math.radians(72))) * current)
    detent, friction = 0.045 * holding, 0.012 * holding
    electric = {"kind": "two_phase_stepper" if phases == 2 else "five_phase_stepper"}
    if control:
        electric["control"] = control
    electric["step_angle"] = f"{step} deg"
    if rated_as:
        electric |= {"rated_as": rated_as, "connected": "series"}
    electric |= {
        "holding_torque": text(held, "N·m"), "rated_current": text(current, "A"), "resistance": text(resistance, "Ω"),
        "inductance": text(1000 * inductance, "mH"), "detent_torque": text(detent, "N·m"), "friction_torque": text(friction, "N·m"),
        "start_rate": text(1500 * (0.3 / holding) ** 0.18 * (1.8 / step) ** 0.5, "Hz"),
    }
    feedback = control is not None and control != "open_loop"
    name = f"{series} {frame}-{round(holding * 100):03d}-{str(current).replace('.', '')}" + (" H" if phases == 5 and step < 0.5 else "")
    out = {
        "name": name, "origin": "Aviary catalogue (invented)", "series": series, "frame": f"{frame} mm",
        "rotor_inertia": text(0.22 * holding ** 1.25, "kg·cm²"), "rated_ambient": "40 °C", "winding_limit": "130 °C",
        "max_speed": "3000 rpm", "rated_rise": "80 K",
        "thermal_time_constant": text(12 + 9 * holding ** 0.35, "min", 2),
        "winding_resistance": text(0.25 * 80 / (loss * 315 / 255), "K/W"),
        "winding_time_constant": text(14 + 8 * holding ** 0.4, "s", 2), "housing_limit": "90 °C",
    }
    if feedback:
        out["encoder_inertia"] = text(0.006 * (frame / 42) ** 2, "kg·cm²")
    if curve:
        bus, amplitude = curve, math.sqrt(2) * current

        def pull_out(n):
            w = n * RPM
            x = teeth * w * inductance
            z = math.hypot(resistance, x)
            emf = constant * w
            share = phases / 2 * constant
            if math.hypot(resistance * amplitude + emf, x * amplitude) <= bus:
                iq = amplitude
            else:  # the top of the voltage disc, or where the circles meet
                cd, cq = -emf * x / z ** 2, -emf * resistance / z ** 2
                iq = cq + bus / z
                if math.hypot(cd, iq) > amplitude:
                    apart = math.hypot(cd, cq)
                    along = (apart ** 2 + amplitude ** 2 - (bus / z) ** 2) / (2 * apart)
                    across = math.sqrt(max(0.0, amplitude ** 2 - along ** 2))
                    iq = max(along * cq / apart - across * cd / apart, along * cq / apart + across * cd / apart)
            return max(0.0, 0.93 * share * iq - detent - friction)
        speeds = [60, 150, 300, 450, 600, 900, 1200, 1500]
        points = [(n, pull_out(n)) for n in speeds]
        out["peak"] = [p for p in ({"speed": text(n, "rpm", 4), "torque": text(t, "N·m")} for n, t in points if t > 0.02 * holding)]
        out["curve_voltage"] = f"{bus} V"
    if control is None:
        rate = float(electric["start_rate"].split()[0])
        out["pull_in"] = [{"speed": text(s * rate * step / 6, "rpm"), "torque": text(0.62 * held * (1 - s ** 1.6), "N·m")} for s in (0.1, 0.4, 0.7, 0.9, 1)]
    out["electric"] = electric
    out |= {
        "mass": text(0.62 * holding ** 0.85 + 0.04 + (0.1 if feedback else 0), "kg"),
        "length": text(24 + 36 * (holding / (frame / 57) ** 2) ** 0.6 + (20 if feedback else 0), "mm"),
        "shaft_diameter": f"{STEPPER_SHAFT[frame]} mm",
        "price": str(int(round(14 + 26 * holding ** 0.7 + 0.25 * frame + (85 + 12 * holding ** 0.5 if control == 'position' else 45 if feedback else 0)
                               + (30 if phases == 5 else 0)))),
    }
    return out


STEPPER_SHAFT = {20: 4, 28: 5, 35: 5, 42: 5, 57: 6.35, 60: 8, 85: 14, 86: 14, 110: 19}

# another winding of the same frame: more volts, the same K_m
KESTREL = [(100, (3.5, 5.0, 7.0), 1.4, 3000, 5500, 3.3), (130, (9.0, 13.0, 18.0), 2.2, 2500, 4500, 3.2), (180, (24.0, 33.0, 45.0), 4.2, 2000, 3500, 3.0)]

# pilot and bolt circle of a servo flange, mm; common practice, no source
FLANGES = {28: (22, 32), 36: (28, 40), 40: (30, 46), 60: (50, 70), 80: (70, 90), 100: (95, 115), 130: (110, 145)}

rows = [sine(series, frame, torque, j, rated, top, factor, brake)
        for series, frames in SERIES.items()
        for frame, torques, j, rated, top, factor in frames
        for torque in torques
        for brake in (False, True)]
rows += [sine("Kestrel", frame, torque, j, rated * speed, top * speed, factor, brake, 560, 0.1, winding)
         for frame, torques, j, rated, top, factor in KESTREL
         for torque in torques
         for winding, speed in ((" S", 0.6), (" F", 1.0))
         for brake in (False, True)]
rows += [direct("block", "Swift", frame, torque, voltage, no_load, 0.16)
         for frame, torque, no_load in ((28, 0.03, 9000), (28, 0.05, 8000), (36, 0.08, 7000), (36, 0.12, 6000), (40, 0.18, 5500),
                                        (40, 0.25, 5000), (60, 0.4, 4500), (60, 0.6, 4200), (60, 0.9, 4000), (80, 1.3, 3800), (80, 1.8, 3600))
         for voltage in (24, 48)]
rows += [direct("brushed", "Robin", frame, torque, voltage, no_load, 0.22)
         for frame, torque, no_load in ((28, 0.02, 6500), (28, 0.04, 6000), (36, 0.07, 5000), (40, 0.12, 4600), (40, 0.2, 4200), (60, 0.35, 3800),
                                        (60, 0.55, 3600), (80, 0.9, 3300), (80, 1.4, 3100), (100, 2.2, 2900), (100, 3.2, 2700), (130, 4.8, 2500))
         for voltage in (24, 90)]
rows += [linear("Goose", force, speed, True) for force in (120, 200, 320, 500, 800, 1200, 1800) for speed in (2.0, 4.0)]
rows += [linear("Tern", force, speed, False) for force in (25, 45, 80, 130, 210) for speed in (3.0, 5.0)]
rows += [stepper("Lark", frame, holding, current * winding, curve=None if frame < 57 else bus)
         for frame, sizes, current, bus in ((20, (0.02, 0.035), 0.5, 24), (28, (0.06, 0.12), 0.7, 24), (35, (0.14, 0.28), 0.8, 24),
                                            (42, (0.26, 0.45, 0.6, 0.8), 1.2, 24), (57, (0.6, 1.2, 1.9, 2.8), 2.0, 48), (60, (2.1, 3.1), 2.4, 48),
                                            (86, (3.4, 4.5, 8.0, 11.5), 3.0, 48), (110, (12.0, 20.0, 28.0), 3.5, 72))
         for holding in sizes for winding in (1, 2)]
rows += [stepper("Lark H", frame, holding, current, step=0.9) for frame, holding, current in ((42, 0.22, 1.5), (42, 0.4, 1.5), (57, 0.9, 2.8), (57, 1.7, 2.8))]
rows += [stepper("Pipit", frame, holding, current, rated_as="half_coil")
         for frame, holding, current in ((57, 1.0, 2.0), (57, 1.8, 3.0), (86, 4.0, 4.0), (86, 7.0, 4.0))]
rows += [stepper("Dipper", frame, holding, current, control="lost_step", curve=48)
         for frame, holding, current in ((57, 0.9, 3.0), (57, 1.6, 4.0), (57, 2.4, 4.0), (60, 2.0, 5.0), (60, 3.0, 5.0), (86, 4.5, 5.6), (86, 8.0, 6.0), (86, 11.0, 6.0))]
rows += [stepper("Plover", frame, holding, current, control="position")
         for frame, holding, current in ((42, 0.45, 1.7), (42, 0.7, 2.0), (57, 1.0, 3.5), (57, 1.9, 4.2), (57, 2.8, 5.0), (60, 2.1, 5.0), (60, 3.1, 5.0),
                                         (86, 4.5, 5.6), (86, 6.5, 6.0), (86, 8.5, 6.0), (86, 12.0, 6.0))]
rows += [stepper("Snipe", frame, holding, current, phases=5, step=step)
         for frame, holding, current, step in ((42, 0.13, 0.75, 0.72), (42, 0.24, 0.75, 0.72), (60, 0.42, 1.4, 0.72), (60, 0.83, 1.4, 0.72), (60, 1.66, 1.4, 0.72),
                                               (85, 2.1, 2.8, 0.72), (85, 4.1, 2.8, 0.72), (85, 6.3, 2.8, 0.72), (60, 0.42, 1.4, 0.36), (60, 0.83, 1.4, 0.36))]
for row in rows:
    if row["electric"]["kind"] == "sine" and (flange := FLANGES.get(int(row["frame"].split()[0]))):
        row["pilot"], row["bolt_circle"] = text(flange[0], "mm"), text(flange[1], "mm")

FROM = "Aviary catalogue (invented)"


def gearheads():
    """Torque with the cube of the frame; less at high ratios; backlash and stiffness by class."""
    rows = []

    def row(name, series, type_, ratio, efficiency, inertia, rated, peak, emergency, nominal, top, backlash, stiffness,
            radial, axial, bore, shaft, pilot, circle, mass, price, no_load, life=20000, stops=1000, exponent="", back="",
            ratchet="", tilting="", turns=""):
        rows.append([name, series, type_, sig(ratio, 5), sig(efficiency), back, sig(inertia), sig(rated), exponent, sig(peak),
                     sig(emergency), stops, sig(nominal), sig(top), life,
                     sig(min(no_load, 0.4 * (1 / sig(efficiency) - 1) * rated / ratio), 2), ratchet, backlash and sig(backlash, 2),
                     stiffness and sig(stiffness, 2), radial and sig(radial, 2), axial and sig(axial, 2), tilting, bore, shaft,
                     pilot, circle, turns, sig(mass), round(price), FROM])

    frames = {40: (40, 9, 8, 10), 60: (60, 28, 14, 16), 80: (80, 75, 19, 22), 100: (100, 130, 24, 32), 130: (130, 300, 28, 40)}
    for series, play, dearer, chosen in (("Rook", 8, 1.0, (40, 60, 80, 100, 130)), ("Raven", 2, 1.75, (60, 80, 100, 130))):
        for size in chosen:
            frame, torque, bore, shaft = frames[size]
            ratios = (3, 4, 5, 7, 10, 12, 16, 20, 25, 35, 50, 100) if series == "Rook" else (3, 4, 5, 7, 10, 12, 16, 20, 25, 35, 50)
            for ratio in ratios:
                stages = 1 if ratio <= 10 else 2
                rated = torque * (0.85 if ratio in (3, 10, 100) else 1) * (1.05 if stages == 2 else 1)
                nominal = 4200 * (40 / frame) ** 0.35
                row(f"{series} {size}-{ratio}", series, "planetary", ratio, 0.97 if stages == 1 else 0.94,
                    0.012 * (frame / 40) ** 4.3 * (1 + 2.5 / ratio) * (1 if stages == 1 else 0.8), rated, 1.6 * rated, 3 * rated,
                    nominal, 2 * nominal, play * (1 if stages == 1 else 1.4), 0.05 * torque ** 0.95 * (1.3 if series == "Raven" else 1),
                    55 * torque ** 0.72, 45 * torque ** 0.72, bore, shaft, *FLANGES[size],
                    0.4 * (frame / 40) ** 2.6 * (1 if stages == 1 else 1.35), (120 + 9 * torque ** 0.75) * dearer * (1 if stages == 1 else 1.4),
                    0.02 * (frame / 40) ** 2.4 * (1 if stages == 1 else 0.8))
    for size, rated in ((14, 5), (17, 12), (20, 22), (25, 45), (32, 95)):
        for ratio in (50, 80, 100, 120, 160):
            rated_here = rated * (0.75 if ratio == 50 else 1)
            row(f"Swallow {size}-{ratio}", "Swallow", "strain_wave", ratio, 0.75 if ratio < 100 else 0.7, 0.03 * (size / 14) ** 4.6,
                rated_here, 3 * rated_here, 6.5 * rated_here, 3500 * (14 / size) ** 0.3, 8000 * (14 / size) ** 0.5, "", 0.6 * (size / 14) ** 3,
                "", "", {14: 6, 17: 8, 20: 9, 25: 11, 32: 14}[size], "", "", "", 0.35 * (size / 14) ** 2.4, 420 * (size / 14) ** 1.2,
                0.03 * (size / 14) ** 2.5, life=7000, stops=10000, exponent=3, ratchet=sig(18 * rated_here),
                tilting=sig(40 * (size / 14) ** 2.7), turns="yes")
    for size, torque, frame in ((30, 14, 60), (40, 32, 80), (50, 62, 80), (63, 115, 100)):
        for ratio in (5, 7.5, 10, 15, 20, 30, 40, 60):
            starts = 4 if ratio <= 7.5 else 2 if ratio <= 15 else 1
            lead = math.atan(starts / 9)
            rho = math.atan(0.06 / math.cos(math.radians(20)))
            row(f"Owl {size}-{str(ratio).replace('.', '')}", "Owl", "worm", ratio, math.tan(lead) / math.tan(lead + rho),
                0.05 * (size / 30) ** 4, torque, 1.8 * torque, 2.5 * torque, 1500, 3500, 15, 0.03 * torque, 30 * torque ** 0.8, 20 * torque ** 0.8,
                SHAFT[frame], {30: 14, 40: 18, 50: 25, 63: 25}[size], *FLANGES[frame], 1.2 * (size / 30) ** 2.4, 70 + 1.1 * size + 0.6 * torque,
                0.05 * (size / 30) ** 2, life=12000, back=sig(math.tan(lead - rho) / math.tan(lead)))
    for size, torque, frame in ((60, 20, 60), (80, 50, 80), (100, 105, 100), (130, 220, 130)):
        for ratio in (1, 1.5, 2, 3, 5, 10):
            row(f"Magpie {size}-{str(ratio).replace('.', '')}", "Magpie", "bevel", ratio, 0.95 if ratio <= 5 else 0.93, 0.3 * (size / 60) ** 4.5, torque, 1.6 * torque,
                2.5 * torque, 3000, 6000, 6, 0.05 * torque, 60 * torque ** 0.7, 40 * torque ** 0.7, SHAFT[frame], SHAFT[frame],
                *FLANGES[frame], 2.1 * (size / 60) ** 2.6, 380 + 3.2 * torque, 0.08 * (size / 60) ** 2.2, turns="yes")
    for size, torque, frame in ((60, 12, 60), (80, 30, 80), (100, 70, 100)):
        for ratio in (1, 1.5, 2, 3, 4, 5):
            row(f"Redstart {size}-{str(ratio).replace('.', '')}", "Redstart", "gears", ratio, 0.96, 0.1 * (size / 60) ** 4 * (1 + 1 / ratio ** 2),
                torque, 1.8 * torque, 3 * torque, 3000, 5000, 12, 0.04 * torque, 25 * torque ** 0.8, "", SHAFT[frame], SHAFT[frame],
                *FLANGES[frame], 0.8 * (size / 60) ** 2.3, 95 + 1.4 * torque, 0.04 * (size / 60) ** 2, exponent=6.6, turns="yes")
    return ["name", "series", "type", "ratio", "efficiency", "efficiency back", "inertia [kg·cm²]", "rated torque [N·m]",
            "exponent", "peak torque [N·m]", "emergency torque [N·m]", "emergency stops", "nominal speed [rpm]", "top speed [rpm]",
            "life [h]", "no-load torque [N·m]", "ratchet torque [N·m]", "backlash [arcmin]", "stiffness [N·m/arcmin]",
            "radial rating [N]", "axial rating [N]", "tilting rating [N·m]", "input bore [mm]", "output shaft [mm]", "pilot [mm]",
            "bolt circle [mm]", "turns back", "mass [kg]", "price", "origin"], rows


def couplings():
    """Hubs are bored to the shafts within a range; torque with the cube of the size."""
    rows = []
    kinds = (("Avocet", "disc", 1.0, 900, 0.7, 0.12, 0.4, 10000, 38), ("Avocet D", "disc", 0.9, 480, 1.4, 0.35, 0.7, 9000, 52),
             ("Bittern", "bellows", 0.8, 750, 1.2, 0.15, 0.4, 12000, 46), ("Curlew", "jaw", 1.3, 120, 1.0, 0.10, 0.8, 9000, 14),
             ("Curlew H", "jaw", 1.9, 260, 0.7, 0.06, 0.6, 9000, 17), ("Dotterel", "slit", 0.6, 150, 2.0, 0.15, 0.3, 8000, 11),
             ("Egret", "oldham", 0.7, 200, 0.5, 0.8, 0.2, 4000, 9), ("Gull", "sleeve", 1.6, 4000, 0.05, 0.01, 0.1, 15000, 7))
    for series, kind, factor, stiff, angular, parallel, axial, top, price in kinds:
        for size in (12, 16, 20, 25, 30, 35, 40, 45, 55, 65, 80, 90, 104):
            rows.append([f"{series} {size}", series, kind, sig(0.006 * (size / 20) ** 5 * (1.3 if kind == "jaw" else 1)),
                         sig(2.2 * (size / 20) ** 2.9 * factor), sig(top * (20 / size) ** 0.4), sig(stiff * (size / 20) ** 3),
                         sig(60 / size, 2) if kind == "oldham" else "", "set_screw" if kind == "oldham" else "clamp",
                         round(size * 0.16), round(size * 0.45), sig(angular, 2), sig(parallel * (size / 32) ** 0.5, 2),
                         sig(axial * (size / 32) ** 0.5, 2), sig(0.02 * (size / 20) ** 3), round(price + 0.9 * price * (size / 40) ** 1.6), FROM])
    return ["name", "series", "type", "inertia [kg·cm²]", "allowable torque [N·m]", "top speed [rpm]", "stiffness [N·m/rad]",
            "backlash [arcmin]", "fastening", "smallest bore [mm]", "largest bore [mm]", "angular allowed [deg]", "parallel allowed [mm]",
            "axial allowed [mm]", "mass [kg]", "price", "origin"], rows


def brakes():
    rows = []
    for series, quick, dear in (("Kite", 1.0, 1.0), ("Buzzard", 0.6, 1.5), ("Harrier", 0.8, 1.2)):
        for torque in (0.2, 0.4, 0.8, 1.5, 2.5, 4, 6, 9, 14, 20, 32, 50, 75, 120):
            rows.append([f"{series} {torque:g}", series, torque, sig(0.8 * torque), sig(0.006 * torque ** 1.35), sig((18 + 9 * torque ** 0.4) * quick, 2),
                         sig((35 + 18 * torque ** 0.4) * quick, 2), sig(90 * torque ** 0.8 * (2 if series == "Harrier" else 1), 2), 24,
                         sig(6 + 5 * torque ** 0.45, 2), sig(0.12 + 0.22 * torque ** 0.75), round((38 + 26 * torque ** 0.6) * dear), FROM])
    return ["name", "series", "static torque [N·m]", "dynamic torque [N·m]", "inertia [kg·cm²]", "apply time [ms]", "release time [ms]",
            "stop energy [J]", "voltage [V]", "power [W]", "mass [kg]", "price", "origin"], rows


def drives():
    rows = []

    def row(name, series, current, peak, seconds, low, high, trip, top, reads, takes, loss, mass, price, standstill="", dial="", pulses="", derates=""):
        yes = lambda word, of: "yes" if word in of else ""
        rows.append([name, series, current, peak, "rms" if series in ("Osprey", "Merlin") else "peak", seconds, standstill, derates,
                     2.5 if derates else "", low, high, trip, top, dial, pulses,
                     *(yes(w, reads) for w in ("hall", "incremental", "sine_cosine", "serial", "resolver")),
                     *(yes(w, takes) for w in ("pulses", "analog", "network")), sig(loss, 2), sig(mass), round(price), FROM])

    for bus, low, high, trip in ((320, 180, 400, 410), (560, 320, 780, 800)):
        for current in (1.5, 2.5, 4, 6, 8, 12, 16, 24, 32, 45, 60):
            for factor, what in ((2, "S"), (3, "H")):
                row(f"Osprey {bus}-{str(current).replace('.', '')} {what}", "Osprey", current, sig(current * factor), 3 if factor == 2 else 1.5, low, high,
                    trip, 1000, ("incremental", "sine_cosine", "serial"), ("analog", "network"), 8 + 2.2 * current ** 0.8,
                    0.9 + 0.09 * current, 260 + 42 * current ** 0.85 * (1 if bus == 320 else 1.25), 70, derates=40)
    for bus, low, high in ((48, 20, 60), (320, 120, 400)):
        for current in (2, 3, 5, 8, 12, 18):
            row(f"Merlin {bus}-{current}", "Merlin", current, 2.5 * current, 2, low, high, high + 6, 800, ("hall", "incremental", "serial", "resolver"),
                ("pulses", "analog", "network"), 3 + 0.9 * current, 0.3 + 0.05 * current, 130 + 22 * current ** 0.9, 80, derates=45)
    for bus, low, high in ((24, 10, 30), (48, 18, 56), (90, 30, 110)):
        for current in (2, 4, 8, 15, 25):
            row(f"Hobby {bus}-{current}", "Hobby", current, 2 * current, 2, low, high, high + 4, 600, ("hall", "incremental"), ("analog", "network"),
                2 + 0.5 * current, 0.15 + 0.03 * current, 60 + 9 * current, derates=45)
    for bus, low, high, dials in ((48, 20, 50, (1, 2, 3, 4.5)), (80, 24, 80, (3, 4.5, 6, 8.5)), (160, 60, 170, (5, 7, 9))):
        for dial in dials:
            row(f"Falcon {bus}-{str(dial).replace('.', '')}", "Falcon", "", "", "", low, high, high + 5, "", ("incremental",), ("pulses", "network"),
                1.5 + 0.4 * dial, 0.2 + 0.04 * dial, 28 + 9 * dial, dial=dial, pulses=200 if bus < 160 else 500)
    return ["name", "series", "continuous current [A]", "peak current [A]", "currents in", "peak time [s]", "standstill share [%]", "derates from [°C]",
            "derating rate [%]", "lowest voltage [V]", "highest voltage [V]", "trip voltage [V]", "top frequency [Hz]", "most current [A]",
            "pulse input [kHz]", "reads hall", "reads incremental", "reads sine cosine", "reads serial", "reads resolver", "takes pulses",
            "takes analog", "takes network", "own loss [W]", "mass [kg]", "price", "origin"], rows


def supplies():
    rows = []
    for volts in (24, 36, 48, 72):
        for power in (120, 240, 480, 960, 1500):
            rows.append([f"Petrel {volts}-{power}", "Petrel", "switching", 230, 1, volts, 1, "", sig(power / volts), sig(1.5 * power / volts), 3, power,
                         92, sig(2200 * power / volts ** 1.2, 2), sig(1.25 * volts), 35, "", sig(0.35 + 0.0011 * power), round(28 + 0.16 * power), FROM])
    for volts in (24, 48, 70, 90):
        for power in (200, 400, 800, 1500):
            rows.append([f"Skua {volts}-{power}", "Skua", "linear", 230, 1, volts, "", 12, sig(power / volts), sig(3 * power / volts), 1, power, 82,
                         sig(80000 * power / volts ** 2 / 4, 2), "", 60, "", sig(1.5 + 0.009 * power), round(40 + 0.2 * power), FROM])
    for phases, mains, volts in ((1, 230, 320), (3, 400, 560)):
        for power in (1000, 2200, 4500, 9000, 18000):
            rows.append([f"Gannet {volts}-{power}", "Gannet", "rectifier", mains, phases, volts, "", 6, sig(power / volts), sig(2 * power / volts), 5, power,
                         97, sig(0.45 * power, 2), 410 if volts == 320 else 800, 50, "yes" if power >= 9000 else "", sig(0.8 + 0.0006 * power),
                         round(110 + 0.09 * power + (600 if power >= 9000 else 0)), FROM])
    return ["name", "series", "type", "input voltage [V]", "phases", "voltage [V]", "tolerance [%]", "droop [%]", "current [A]", "peak current [A]",
            "peak time [s]", "power [W]", "efficiency [%]", "capacitance [µF]", "trip voltage [V]", "inrush current [A]", "takes back", "mass [kg]",
            "price", "origin"], rows


to = pathlib.Path(sys.argv[1] if len(sys.argv) > 1 else pathlib.Path(__file__).parent.parent / "data" / "catalogue")
(to / "motors.json").write_text(json.dumps({"format": "fulmox-catalogue", "version": 2, "name": "Aviary, invented motors", "motors": rows},
                                           ensure_ascii=False, indent=1) + "\n", encoding="utf-8")
for name, (head, parts) in (("gearheads", gearheads()), ("couplings", couplings()), ("brakes", brakes()), ("drives", drives()), ("supplies", supplies())):
    with open(to / f"{name}.csv", "w", encoding="utf-8", newline="") as file:
        writer = csv.writer(file, lineterminator="\n")
        writer.writerow(head)
        for part in parts:
            writer.writerow([f"{x:g}" if isinstance(x, float) else x for x in part])
