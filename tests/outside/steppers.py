#!/usr/bin/python3
"""Steppers and heat from outside: pull-out by a search over voltage phasors and by simulation of two and five phases in
time, connections by symbolic identity, heat over a cycle and overload by solve_ivp with one and two bodies.

usage: steppers.py FULMOX_CLI [SEED]; prints a list of {what, source, values, deviation, tolerance} as JSON.
Written from the equations alone; nothing here is taken from the program but its answers.
"""
import json
import math
import random
import subprocess
import sys

import numpy as np
import sympy as sp
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

CLI = sys.argv[1]
RNG = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else 3)
RPM = 2 * math.pi / 60


def ask(command, document, *options):
    done = subprocess.run([CLI, command, "-", "--json", *options], input=json.dumps(document), capture_output=True, text=True)
    if done.returncode not in (0, 1, 3):
        raise SystemExit(f"{command} failed ({done.returncode}): {done.stderr}")
    return json.loads(done.stdout)


def between(low, high):
    return math.exp(RNG.uniform(math.log(low), math.log(high)))


def in_time(phases, r, l, k, teeth, speed, volts, lead):
    """Mean torque and greatest current of phases fed with sines, the rotor turning evenly."""
    step = 2 * math.pi / phases if phases > 2 else math.pi / 2
    shift = np.arange(phases) * step
    we = teeth * speed

    def slope(t, i):
        return (volts * np.cos(we * t + lead - shift) - r * i - k * speed * np.cos(we * t - shift)) / l

    period = 2 * math.pi / we
    settle = max(3 * period, 10 * l / r)
    settle = math.ceil(settle / period) * period
    run = solve_ivp(slope, (0, settle + period), np.zeros(phases), rtol=1e-8, atol=1e-10, dense_output=True)
    t = np.linspace(settle, settle + period, 801)[:-1]
    i = run.sol(t)
    torque = float(np.mean(np.sum(k * np.cos(we * t - shift[:, None]) * i, axis=0)))
    return torque, float(np.max(np.abs(i)))


def best_phasor(phases, r, l, k, teeth, speed, bus, most):
    """Most torque over amplitude and lead of the voltage by a grid made finer about its best."""
    z = complex(r, teeth * speed * l)
    low_v, high_v, low_a, high_a, best = 0.0, bus, -0.5, math.pi, None
    for _ in range(10):
        v = np.linspace(low_v, high_v, 201)[:, None]
        a = np.linspace(low_a, high_a, 401)[None, :]
        i = (v * np.exp(1j * a) - k * speed) / z
        torque = np.where(np.abs(i) <= most * (1 + 1e-9), phases / 2 * k * i.real, -np.inf)
        at = np.unravel_index(np.argmax(torque), torque.shape)
        best = float(torque[at]), float(v[at[0], 0]), float(a[0, at[1]])
        dv, da = (high_v - low_v) / 200 * 5, (high_a - low_a) / 400 * 5
        low_v, high_v = max(0.0, best[1] - dv), min(bus, best[1] + dv)
        low_a, high_a = best[2] - da, best[2] + da
    return best


def check_pull_out():
    search, simulated, n_search, n_time = 0.0, 0.0, 0, 0
    for number in range(14):
        phases = 5 if number % 2 else 2
        bus, rated, teeth = RNG.choice([24, 36, 48, 72]), between(0.5, 6), RNG.choice([50, 100])
        r = RNG.uniform(0.05, 0.2) * bus / rated
        l = r * between(1e-3, 5e-3)
        holding = between(0.1, 8)
        k = holding / ((math.sqrt(2) if phases == 2 else math.tan(math.radians(72))) * rated)
        name, share = RNG.choice([("per_phase", 1.0), ("star", 0.5), ("pentagon_72", math.sin(math.pi / 5)),
                                  ("pentagon_144", math.sin(2 * math.pi / 5))]) if phases == 5 else (None, 1.0)
        electric = {"kind": "five_phase_stepper" if phases == 5 else "two_phase_stepper",
                    "step_angle": f"{(36 if phases == 5 else 90) / teeth} deg", "holding_torque": f"{holding} N·m",
                    "rated_current": f"{rated} A", "resistance": f"{r} Ω", "inductance": f"{l} H"}
        if name:
            electric["bridge"] = name
        current = rated * RNG.uniform(0.5, 1.2)
        most, volts = math.sqrt(2) * current, bus * share
        corner = volts / (k + teeth * l * most)
        speeds = [corner * s for s in (0.3, 0.8, 1.2, 2.0, 3.5)]
        answer = ask("curve", {"name": "random", "electric": electric}, "--bus", f"{bus} V", "--phase-current", f"{current} A",
                     "--cold", "20 °C", "--hot", "20 °C", "--speeds", ",".join(f"{w} rad/s" for w in speeds))
        for at, (w, point) in enumerate(zip(speeds, answer["points"])):
            ours = point["pull_out"]["electromagnetic"]
            theirs, v, a = best_phasor(phases, r, l, k, teeth, w, volts, most)
            if ours is None:  # no torque is left there
                assert theirs < 2e-3 * phases / 2 * k * most, (theirs, w)
                continue
            search = max(search, abs(ours - theirs) / (phases / 2 * k * most))
            n_search += 1
            if at in (1, 3):
                torque, amps = in_time(phases, r, l, k, teeth, w, v, a)
                assert amps <= most * 1.001, (amps, most)
                simulated = max(simulated, abs(ours - torque) / (phases / 2 * k * most))
                n_time += 1
    return [{"what": "pull-out torque of steppers, two and five phases", "source": "search over amplitude and lead of the phase voltage",
             "values": n_search, "deviation": search, "tolerance": 1e-3},
            {"what": "pull-out torque of steppers in time", "source": "phases fed with sines, scipy.integrate.solve_ivp",
             "values": n_time, "deviation": simulated, "tolerance": 2e-3}]


def check_connections():
    """Turns in series and in parallel, from flux linkage alone: a half coil has n turns, R ∝ n, L ∝ n², K ∝ n."""
    i, r, l, k = sp.symbols("i r l k", positive=True)
    half = {"current": i, "resistance": r, "inductance": l, "constant": k}
    # the same copper loss in the whole phase: one half coil has it alone, both share it otherwise
    loss = i ** 2 * r
    series_r = 2 * r
    series = {"current": sp.sqrt(loss / series_r), "resistance": series_r, "inductance": l * 2 ** 2, "constant": 2 * k}
    parallel_r = r / 2
    # two coupled coils side by side: each links the flux of both currents, so that L is that of one coil with all of it
    parallel = {"current": sp.sqrt(loss / parallel_r), "resistance": parallel_r, "inductance": l, "constant": k}
    worst, count = 0.0, 0
    words = {"half_coil": half, "series": series, "parallel": parallel}
    for rated_as, rated in words.items():
        numbers = {i: 1.7, r: 2.3, l: 4.1e-3, k: 0.31}
        given = {n: float(rated[n].subs(numbers)) for n in rated}
        holding = math.sqrt(2) * given["constant"] * given["current"]
        sheet = {"name": "coils", "electric": {"kind": "two_phase_stepper", "rated_as": rated_as, "connected": "series",
                                               "holding_torque": f"{holding!r} N·m", "rated_current": f"{given['current']!r} A",
                                               "resistance": f"{given['resistance']!r} Ω", "inductance": f"{given['inductance']!r} H"}}
        found = ask("datasheet", sheet)["sheets"][0]["stepper"]["connections"]
        for answer, expected in zip(found, (half, series, parallel)):
            for name, symbol in expected.items():
                worst = max(worst, abs(answer[name] / float(symbol.subs(numbers)) - 1))
                count += 1
            worst = max(worst, abs(answer["holding_torque"] / float((sp.sqrt(2) * expected["constant"] * expected["current"]).subs(numbers)) - 1))
            count += 1
    return [{"what": "connections of a stepper's half coils", "source": "turns and copper loss by sympy", "values": count,
             "deviation": worst, "tolerance": 1e-9}]


def heated(rows, two, fall):
    """A project whose only axis has its demand as a table at the shaft: rows of duration, torque; a steady speed."""
    kt, r_ll = between(0.2, 2), between(0.3, 4)  # per A RMS at 20 °C; of the line at 20 °C
    torque = math.sqrt(sum(d * t * t for d, t in rows) / sum(d for d, _ in rows))
    loss = 1.5 * (torque / kt) ** 2 * r_ll
    ambient, r_th = RNG.uniform(10, 40), RNG.uniform(12, 30) / loss
    motor = {"name": "warm", "rotor_inertia": "1 kg·cm²", "max_speed": "6000 rpm", "winding_limit": "155 °C", "rated_ambient": "40 °C",
             "thermal_resistance": f"{r_th} K/W", "thermal_time_constant": f"{900 if two else 300} s",
             "electric": {"kind": "sine", "torque_constant": f"{kt} N·m/A", "resistance": f"{r_ll} Ω",
                          "stall_torque": f"{3 * torque} N·m", "peak_torque": "1000 N·m", "magnet": fall[0]}}
    r_wh, tau_w = 0.3 * r_th, RNG.uniform(15, 60)
    if two:
        motor |= {"winding_resistance": f"{r_wh} K/W", "winding_time_constant": f"{tau_w} s"}
    segments = [{"what": {"kind": "constant_speed", "duration": f"{d} s"}, "process_force": f"{t} N·m"} for d, t in rows]
    first = {"what": {"kind": "speed_change", "speed": "100 rpm", "duration": "0.001 s", "law": "trapezoid"}}
    axis = {"name": "warm", "mechanism": {"kind": "demand", "at": "shaft", "losses": {"efficiency": "1"}}, "load": {}, "bodies": [], "stages": [],
            "coupling": {"place": "motor"}, "cycle": {"name": "", "segments": [first] + segments + [dict(first, what=dict(first["what"], speed="0 rpm"))]},
            "drive": {"bus_voltage": "600 V"}, "motor": motor, "policy": "General servo", "credit_friction_at_rest": False}
    project = {"format": "fulmox-project", "version": 7, "name": "heat", "unit_system": "si",
               "site": {"gravity": "9.80665 m/s²", "ambient": f"{ambient} °C", "altitude": "0 m"}, "axes": [axis]}
    return project, dict(kt=kt, r=r_ll, a=ambient, R=r_th, Rw=r_wh if two else 0.0, tw=tau_w, tm=900 if two else 300, fall=fall[1])


def check_heat():
    worst, count = 0.0, 0
    for number in range(8):
        two = number % 2 == 1
        fall = RNG.choice([("neodymium", 0.0011), ("ferrite", 0.002), ("samarium_cobalt", 0.0004)])
        rows = [(between(1, 25), RNG.uniform(0, 3)) for _ in range(RNG.randint(2, 5))] + [(between(5, 40), 0.0)]
        project, m = heated(rows, two, fall)
        answer = ask("assess", project)["axes"][0]["heat"]
        assert answer["missing"] == "" and answer["verdict"] in ("settles", "over_limit"), answer
        outer = m["R"] - m["Rw"]

        def slope(t, x, torque):
            winding, housing = x
            k = m["kt"] * (1 - m["fall"] * ((housing if two else winding) - 20))
            p = 1.5 * (torque / k) ** 2 * m["r"] * (235 + winding) / 255
            if not two:
                return [(p - (winding - m["a"]) / m["R"]) / (m["tm"] / m["R"]), 0]
            across = (winding - housing) / m["Rw"]
            return [(p - across) / (m["tw"] / m["Rw"]), (across - (housing - m["a"]) / outer) / (m["tm"] / outer)]

        def turn(x):
            low = high = x[0]
            for lasts, torque in rows:
                run = solve_ivp(slope, (0, lasts), x, args=(torque,), rtol=1e-9, atol=1e-9, dense_output=True)
                seen = run.sol(np.linspace(0, lasts, 60))[0]
                low, high = min(low, seen.min()), max(high, seen.max())
                x = run.y[:, -1]
            return x, low, high

        # the state that a turn leaves as it is, by Newton on the turn itself
        x = np.array([answer["winding_mean"], answer["housing_mean"]]) - 273.15
        for _ in range(4):
            base = turn(x)[0] - x
            jac = np.zeros((2, 2))
            for j in range(2):
                step = np.zeros(2)
                step[j] = 0.01
                jac[:, j] = (turn(x + step)[0] - (x + step) - base) / 0.01
            x = x - (np.linalg.solve(jac, base) if two else np.array([base[0] / jac[0, 0], 0]))
        _, low, high = turn(x)
        rise = high - m["a"]
        worst = max(worst, abs(answer["winding"]["highest"] - 273.15 - high) / rise,
                    abs(answer["winding"]["lowest"] - 273.15 - low) / rise)
        count += 2
    return [{"what": "highest and lowest winding of the steady ripple, of the rise", "source": "scipy.integrate.solve_ivp, one and two bodies",
             "values": count, "deviation": worst, "tolerance": 1e-3}]


def check_overload():
    worst, count = 0.0, 0
    for number in range(6):
        two = number % 2 == 1
        tau_w, tau_m, share = RNG.uniform(10, 60), RNG.uniform(600, 2400), RNG.uniform(0.15, 0.5)
        motor = {"name": "m", "max_speed": "3000 rpm", "winding_limit": "155 °C", "winding_time_constant": f"{tau_w} s",
                 "electric": {"kind": "sine", "torque_constant": "1 N·m/A", "resistance": "2 Ω", "inductance": "1 mH", "pole_pairs": "4",
                              "stall_torque": "2 N·m", "peak_torque": "20 N·m", "peak_current": "20 A"}}
        # rated loss, hot: 1.5 (T/K)² R at 155 °C; rise 115 K
        k = 1 - 0.0011 * 135
        loss = 1.5 * (2 / k) ** 2 * 2 * 390 / 255
        if two:
            motor |= {"thermal_time_constant": f"{tau_m} s", "winding_resistance": f"{share * 115 / loss} K/W"}
        answer = ask("curve", motor, "--bus", "320 V", "--torques", "3 N·m,5 N·m,8 N·m", "--prior", "0,0.5")["overload"]
        assert answer["missing"] == "" and not answer["upper_bound"], answer
        for row in answer["times"]:
            r2 = (row["torque"] / answer["continuous_torque"]) ** 2

            def slope(t, x):
                if not two:
                    return [(r2 - x[0]) / tau_w, 0]
                return [(r2 - (x[0] - x[1]) / share) / (tau_w / share), ((x[0] - x[1]) / share - x[1] / (1 - share)) / (tau_m / (1 - share))]

            def reached(t, x):
                return x[0] - 1

            reached.terminal = True
            run = solve_ivp(slope, (0, 1e5), [row["prior"], row["prior"] * (1 - share)], events=reached, rtol=1e-9, atol=1e-12, method="LSODA")
            worst = max(worst, abs(row["time"] / run.t_events[0][0] - 1))
            count += 1
    return [{"what": "overload time by the winding's own time constant", "source": "scipy.integrate.solve_ivp, one and two bodies",
             "values": count, "deviation": worst, "tolerance": 1e-5}]


def check_side_by_side():
    """A servo and an open-loop stepper turning steadily: what they take from the bus and how hot they get."""
    worst, count = 0.0, 0
    for number in range(12):
        steps = number % 2 == 0
        bus, ambient, r_th, loss_w = RNG.choice([24, 48, 80]), RNG.uniform(0, 40), between(1, 4), between(0.2, 3)
        motor = {"name": "m", "max_speed": "4000 rpm", "winding_limit": "155 °C", "thermal_resistance": f"{r_th} K/W",
                 "speed_loss": f"{loss_w} W", "speed_loss_at": "3000 rpm", "speed_loss_exponent": "1.5"}
        if steps:
            rated, holding = between(1, 4), between(0.3, 3)
            r = 4 / rated ** 2
            motor["electric"] = {"kind": "two_phase_stepper", "step_angle": "1.8 deg", "holding_torque": f"{holding} N·m",
                                 "rated_current": f"{rated} A", "resistance": f"{r} Ω", "inductance": f"{r / 800} H"}
            torques = [0.0, holding * 0.02]
        else:
            kt, r = between(0.05, 0.3), between(0.05, 0.5)
            motor["electric"] = {"kind": "sine", "torque_constant": f"{kt} N·m/A", "resistance": f"{r} Ω", "inductance": "1 mH", "pole_pairs": "4",
                                 "stall_torque": f"{10 * kt} N·m", "peak_torque": f"{40 * kt} N·m", "magnet": "ferrite"}
            torques = [0.0, 3 * kt, 7 * kt]
        speeds = [0.0, 5.0, 12.0]
        answer = ask("curve", motor, "--bus", f"{bus} V", "--ambient", f"{ambient} °C", "--speeds", ",".join(f"{w} rad/s" for w in speeds),
                     "--loads", ",".join(f"{t} N·m" for t in torques))
        assert answer["heat_missing"] == "", answer
        for load, torque in zip(answer["loads"], torques):
            for point, w, curve in zip(load["points"], speeds, answer["points"]):
                if not point["possible"]:
                    continue
                iron = loss_w * (w / (3000 * RPM)) ** 1.5

                def copper(theta):
                    warm = (235 + theta) / 255
                    if steps:
                        return 2 * rated ** 2 * r * warm
                    return 1.5 * (torque / (kt * (1 - 0.002 * (theta - 20)))) ** 2 * r * warm

                balance = lambda theta: ambient + r_th * (copper(theta) + iron) - theta
                if not point["settles"]:
                    assert all(balance(ambient + d) > 0 for d in range(0, 300, 2)), (point, motor)
                    continue
                theta = brentq(balance, ambient, 480) if balance(480) < 0 else brentq(balance, ambient, next(
                    ambient + d for d in range(1, 480) if balance(ambient + d) < 0))
                loss = copper(theta) + iron
                for ours, theirs, whole in ((point["winding"] - 273.15, theta, theta - ambient + 1), (point["loss"], loss, loss + 0.1),
                                            (point["supply_current"], (torque * w + loss) / bus, (torque * w + loss + 0.1) / bus),
                                            (point["left"], curve["peak_motoring"]["torque"] - torque, holding if steps else 40 * kt)):
                    worst = max(worst, abs(ours - theirs) / whole)
                    count += 1
    return [{"what": "steady speed and load: supply current, torque left, loss, winding", "source": "heat balance solved by scipy.optimize.brentq",
             "values": count, "deviation": worst, "tolerance": 1e-6}]


print(json.dumps(check_pull_out() + check_connections() + check_heat() + check_overload() + check_side_by_side()))
