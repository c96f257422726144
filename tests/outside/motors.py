#!/usr/bin/python3
"""Capability and losses of random motors against two calculations of their own: a brute-force search of the plane of
currents, and simulations in time of three phases, wye and delta, driven with sines and commutated in blocks.

usage: motors.py FULMOX_CLI [SEED]; prints a list of {what, source, values, deviation, tolerance} as JSON.
Written from the voltage equations alone; nothing here is taken from the program but its answers.
"""
import json
import math
import random
import subprocess
import sys

import numpy as np
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

CLI = sys.argv[1]
RNG = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else 1)
RPM = 2 * math.pi / 60


def ask(command, sheet, *options):
    done = subprocess.run([CLI, command, "-", "--json", *options], input=json.dumps(sheet), capture_output=True, text=True)
    if done.returncode not in (0,):
        raise SystemExit(f"{command} failed: {done.stderr}")
    return json.loads(done.stdout)


def between(low, high):
    return math.exp(RNG.uniform(math.log(low), math.log(high)))


def random_sine():
    """A plausible machine: k, R and L of a wye phase, pole pairs."""
    volts = RNG.choice([48, 320, 560])
    top = between(1000, 8000) * RPM
    k = volts / math.sqrt(3) / top * RNG.uniform(0.9, 1.4)
    pairs = RNG.randint(2, 12)
    current = between(2, 30)  # A peak
    resistance = RNG.uniform(0.03, 0.25) * volts / math.sqrt(3) / current
    inductance = RNG.uniform(0.05, 0.9) * volts / math.sqrt(3) / (pairs * top * current)
    beta = RNG.choice([0, 0, 0.15, 0.28])
    return {"volts": volts, "k": k, "R": resistance, "L": inductance, "p": pairs, "I": current, "beta": beta,
            "top": top}


def sheet_of(m):
    peak = 1.5 * m["k"] * m["I"] * (1 - m["beta"])
    return {"name": "random", "max_speed": f"{3 * m['top'] / RPM} rpm", "winding_limit": "155 °C",
            "electric": {"kind": "sine", "torque_constant": f"{1.5 * m['k']} N·m/A", "torque_constant_per": "peak",
                         "resistance": f"{m['R']} Ω", "resistance_of": "wye_phase", "inductance": f"{m['L'] * 1000} mH",
                         "inductance_of": "wye_phase", "pole_pairs": str(m["p"]), "currents_in": "peak",
                         "peak_torque": f"{peak} N·m", "peak_current": f"{m['I']} A",
                         "stall_torque": f"{peak / 3} N·m"}}


def at_temperature(m, celsius):
    """Copper by IEC 60034-1, neodymium 0.11 % per kelvin."""
    return m["k"] * (1 - 0.0011 * (celsius - 20)), m["R"] * (235 + celsius) / 255


def brute_peak(m, celsius, volts, speed, weakening, side):
    """Most (side 1) or least (−1) torque by a grid over i_d and i_q, made finer about its best; it comes
    within a few ten-thousandths of the corners where two circles cross."""
    k, r = at_temperature(m, celsius)
    x = m["p"] * speed * m["L"]
    limit = m["I"]
    d_low, d_high, q_low, q_high = (-limit if weakening else 0.0), 0.0, -limit, limit
    best = None
    for _ in range(9):
        d = np.linspace(d_low, d_high, 161)[:, None] if weakening else np.zeros((1, 1))
        q = np.linspace(q_low, q_high, 1601 if not weakening else 321)[None, :]
        inside = (d * d + q * q <= limit * limit * (1 + 1e-9)) & (
            (r * d - x * q) ** 2 + (r * q + k * speed + x * d) ** 2 <= volts * volts * (1 + 1e-9))
        torque = 1.5 * k * q * (1 - m["beta"] * (q / limit) ** 2) + 0 * d
        torque = np.where(inside, side * torque, -np.inf)
        at = np.unravel_index(np.argmax(torque), torque.shape)
        if torque[at] == -np.inf:
            return best
        best = float(torque[at])
        d_step, q_step = (d_high - d_low) / 160 * 4, (q_high - q_low) / (q.size - 1) * 4
        d_mid, q_mid = float(np.broadcast_to(d, torque.shape)[at]), float(np.broadcast_to(q, torque.shape)[at])
        d_low, d_high = max(-limit, d_mid - d_step), min(0.0, d_mid + d_step)
        q_low, q_high = max(-limit, q_mid - q_step), min(limit, q_mid + q_step)
        if not weakening:
            d_low = d_high = 0.0
    return best


def check_peaks():
    worst, count = 0.0, 0
    for _ in range(24):
        m = random_sine()
        weakening = RNG.random() < 0.6
        modulation, share = RNG.choice([("space_vector", 1 / math.sqrt(3)), ("sine_pwm", 0.5), ("overmodulated", 2 / math.pi)])
        reserve = RNG.choice([0.9, 0.95, 1])
        speeds = [m["top"] * s for s in (0, 0.3, 0.7, 0.95, 1.2, 1.7, 2.6)]
        answer = ask("curve", sheet_of(m), "--bus", f"{m['volts']} V", "--modulation", modulation, "--reserve", str(reserve),
                     "--speeds", ",".join(f"{w} rad/s" for w in speeds), *(["--weakening"] if weakening else []))
        volts = m["volts"] * share * reserve
        for w, point in zip(speeds, answer["points"]):
            for name, side in (("peak_motoring", 1), ("peak_braking", -1)):
                ours = point[name]["torque"]
                states = [brute_peak(m, c, volts, w, weakening, side) for c in (20, 155)]
                if side < 0 and None in states:
                    assert ours is None, (m, w, name, ours)  # no current is permitted, and the EMF drives one
                    continue
                if side < 0 and not weakening:
                    # above the no-load speed the current runs as the EMF drives it: that cannot be said
                    top = [brute_peak(m, c, volts, w, weakening, 1) for c in (20, 155)]
                    if any(t is None or (w > 0 and t < 0) for t in top):
                        assert ours is None, (m, w, name, ours)
                        continue
                theirs = min(max(0.0, s) if s is not None else 0.0 for s in states)
                scale = 1.5 * m["k"] * m["I"]
                worst = max(worst, abs(ours - theirs) / scale)
                if abs(ours - theirs) / scale > 2e-3:
                    print("peak", m, "speed", w, name, "weakening", weakening, ours, theirs, file=sys.stderr)
                count += 1
    return {"what": "peak torque, motoring and braking, 24 machines cold and hot",
            "source": "brute-force search of the (i_d, i_q) plane", "values": count, "deviation": worst, "tolerance": 1e-3}


def check_draws():
    """Least-loss current for a torque at a speed: the plane searched along the line of that torque."""
    worst, count = 0.0, 0
    for _ in range(12):
        m = random_sine()
        volts = m["volts"] / math.sqrt(3)
        torques = [RNG.uniform(0.1, 0.8) * 1.5 * m["k"] * m["I"] * (1 - m["beta"]) for _ in range(3)]
        for t in torques:
            answer = ask("datasheet", sheet_of(m), "--at-torque", f"{t} N·m@{m['top'] * 0.5} rad/s")["sheets"][0]["at_torque"][0]
            for state, celsius in (("cold", 20), ("hot", 155)):
                k, r = at_temperature(m, celsius)
                iq = brentq(lambda q: 1.5 * k * q * (1 - m["beta"] * (q / m["I"]) ** 2) - t, 0,
                            m["I"] / math.sqrt(3 * m["beta"]) if m["beta"] else 2 * m["I"] + t / k)
                x = m["p"] * m["top"] * 0.5 * m["L"]
                line = math.sqrt(3) * math.hypot(x * iq, r * iq + k * m["top"] * 0.5)
                for ours, theirs in ((answer[state]["current"], iq / math.sqrt(2)), (answer[state]["copper_loss"], 1.5 * iq * iq * r),
                                     (answer[state]["line_voltage"], line)):
                    worst = max(worst, abs(ours / theirs - 1))
                    count += 1
    return {"what": "current, copper loss and voltage at a torque and speed", "source": "roots by scipy.optimize.brentq",
            "values": count, "deviation": worst, "tolerance": 1e-6}


def three_phases(m, delta, amplitude, angle, speed):
    """Mean torque, copper loss and amplitude of the line current once a machine fed with sines has settled."""
    r, l, k = (3 * m["R"], 3 * m["L"], m["k"]) if delta else (m["R"], m["L"], m["k"])
    we = m["p"] * speed
    shifts = np.array([0, -2 * math.pi / 3, 2 * math.pi / 3])
    # the windings of a delta see line voltages, and their EMF is that between lines of the equivalent wye
    emf_scale, turn = (math.sqrt(3), math.pi / 6) if delta else (1.0, 0.0)

    def emf(t):
        return -emf_scale * k * speed * np.sin(we * t + shifts + turn)

    def volts(t):
        return -emf_scale * amplitude * np.sin(we * t + shifts + turn + angle)

    def slope(t, i):
        return (volts(t) - r * i - emf(t)) / l

    settle = 12 * l / r
    period = 2 * math.pi / we
    start = math.ceil(settle / period) * period
    run = solve_ivp(slope, (0, start + period), np.zeros(3), method="RK45", rtol=1e-8, atol=1e-9, max_step=period / 60,
                    dense_output=True)
    t = np.linspace(start, start + period, 721)[:-1]
    i = run.sol(t)
    e = np.array([emf(x) for x in t]).T
    torque = float(np.mean(np.sum(e * i, axis=0)) / speed)
    loss = float(np.mean(np.sum(r * i * i, axis=0)))
    line = i if not delta else np.array([i[0] - i[2], i[1] - i[0], i[2] - i[1]])
    return torque, loss, float(np.max(np.abs(line)))


def check_in_time():
    worst, count = 0.0, 0
    for number in range(6):
        m = random_sine()
        m["beta"] = 0
        delta = number % 2 == 1
        speed = m["top"] * RNG.uniform(0.3, 0.7)
        sheet = sheet_of(m)
        if delta:
            sheet["electric"].update({"resistance": f"{3 * m['R']} Ω", "resistance_of": "delta_phase",
                                      "inductance": f"{3 * m['L'] * 1000} mH", "inductance_of": "delta_phase"})
        want = RNG.uniform(0.2, 0.7) * 1.5 * m["k"] * m["I"]
        cold = ask("datasheet", sheet, "--at-torque", f"{want} N·m@{speed} rad/s")["sheets"][0]["at_torque"][0]["cold"]
        amplitude = cold["line_voltage"] / math.sqrt(3)
        # the angle of the voltage is found by the simulation itself, from the torque it makes
        def off(a):
            return three_phases(m, delta, amplitude, a, speed)[0] - want

        angles = np.linspace(-0.8, 1.5, 16)
        ends = [off(a) for a in angles]
        roots = [brentq(off, a, b, xtol=1e-7) for a, b, x, y in zip(angles, angles[1:], ends, ends[1:]) if x * y <= 0]
        # where two angles make the torque, the drive takes the one of less loss
        torque, loss, line = min((three_phases(m, delta, amplitude, a, speed) for a in roots), key=lambda run: run[1])
        for ours, theirs in ((want, torque), (cold["copper_loss"], loss), (cold["current"] * math.sqrt(2), line)):
            if abs(ours / theirs - 1) > 2e-3:
                print("time", m, "delta", delta, speed, ours, theirs, file=sys.stderr)
            worst = max(worst, abs(ours / theirs - 1))
            count += 1
    return {"what": "torque, loss and line current of wye and delta machines fed with sines",
            "source": "three phases in time, scipy.integrate.solve_ivp", "values": count, "deviation": worst, "tolerance": 1e-3}


def trapezoid(angle):
    """EMF of a phase over its flat top: flat for 120°, straight between."""
    a = angle % (2 * math.pi)
    if a < math.pi / 6:
        return a / (math.pi / 6)
    if a < 5 * math.pi / 6:
        return 1.0
    if a < 7 * math.pi / 6:
        return (math.pi - a) / (math.pi / 6)
    if a < 11 * math.pi / 6:
        return -1.0
    return (a - 2 * math.pi) / (math.pi / 6)


def block_in_time(k, r, l, volts, we_over_w, speed, shape):
    """Mean torque of a block-commutated wye machine fed with a constant voltage, with freewheeling of the phase that
    was left, per phase k, r, l."""
    we = we_over_w * speed
    period = 2 * math.pi / we
    steps = 2400
    dt = period / steps
    i = [0.0, 0.0, 0.0]
    shifts = (0, -2 * math.pi / 3, 2 * math.pi / 3)
    total, counted = 0.0, 0
    turns = max(3, math.ceil(6 * l / r / period))
    for n in range(turns * steps):
        angle = we * n * dt
        shapes = [shape(angle + s) for s in shifts]
        e = [k * speed * s for s in shapes]
        a = (angle - math.pi / 6) % (2 * math.pi)
        sector = int(a // (math.pi / 3))
        high, low = ((0, 1), (0, 2), (1, 2), (1, 0), (2, 0), (2, 1))[sector]
        off = 3 - high - low
        terminal = [0.0, 0.0, 0.0]
        terminal[high], terminal[low] = volts, 0.0
        conducts = [True, True, True]
        if i[off] > 1e-9:
            terminal[off] = 0.0  # the lower diode carries on
        elif i[off] < -1e-9:
            terminal[off] = volts
        else:
            conducts[off] = False
            i[off] = 0.0
        on = [x for x in range(3) if conducts[x]]
        star = sum(terminal[x] - e[x] - r * i[x] for x in on) / len(on)
        before = i[off]
        for x in on:
            i[x] += dt * (terminal[x] - star - e[x] - r * i[x]) / l
        if conducts[off] and before * i[off] < 0:
            i[off] = 0.0
        rest = -sum(i) / 2
        i[high] += rest
        i[low] += rest
        if n >= (turns - 1) * steps:
            total += sum(k * shapes[x] * i[x] for x in range(3))
            counted += 1
    return total / counted


def check_blocks():
    worst, count = 0.0, 0
    for _ in range(4):
        volts, k, pairs = between(12, 60), between(0.01, 0.08), RNG.randint(1, 6)
        no_load = volts / (2 * k)
        r = RNG.uniform(0.1, 0.6)
        ratio = RNG.uniform(0.02, 0.06)  # ω_e L/R at no-load speed
        l = ratio * r / (pairs * no_load)
        sheet = {"name": "block", "max_speed": f"{no_load / RPM} rpm", "winding_limit": "155 °C", "electric": {
            "kind": "block", "torque_constant": f"{2 * k} N·m/A", "resistance": f"{2 * r} Ω", "inductance": f"{2000 * l} mH",
            "pole_pairs": str(pairs)}}
        speeds = [no_load * s for s in (0.35, 0.6)]
        answer = ask("curve", sheet, "--bus", f"{volts} V", "--hot", "20 °C", "--speeds", ",".join(f"{w} rad/s" for w in speeds))
        for w, point in zip(speeds, answer["points"]):
            theirs = block_in_time(k, r, l, volts, pairs, w, trapezoid)
            worst = max(worst, abs(point["peak_motoring"]["torque"] / theirs - 1))
            count += 1
    return {"what": "torque of block-commutated machines, ω_e L/R up to 0.06", "source": "three phases with freewheeling, in time steps",
            "values": count, "deviation": worst, "tolerance": 0.05}


print(json.dumps([check_peaks(), check_draws(), check_in_time(), check_blocks()]))
