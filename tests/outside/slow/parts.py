"""What coupling, brakes and drive are asked for, calculated slowly: bounds by sampling the cycle, a loss of power by solve_ivp, the
integral of overload by adding up small steps cycle after cycle."""
import math

import numpy as np
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

unknown = (None, None, None)


SHEET_OF_DRIVE = ("continuous_current", "peak_current", "peak_time", "standstill_share", "derates_from", "derates_above", "lowest_voltage",
                  "highest_voltage", "trip_voltage", "top_frequency", "most_current", "own_loss", "pulse_input", "mass", "price")
SHEET_OF_COUPLING = ("inertia", "allowable_torque", "top_speed", "stiffness", "backlash", "driving_bore", "driven_bore", "smallest_bore",
                     "largest_bore", "angular_allowed", "parallel_allowed", "axial_allowed", "mass", "price", "name", "type")


def drive_there(drive):
    return bool(drive.get("name")) or any(drive.get(k) is not None for k in SHEET_OF_DRIVE)


def coupling_there(c):
    return any(c.get(k) not in (None, "") for k in SHEET_OF_COUPLING)


def worst_of(clauses):
    """over by the worst that is over, else unknown where one is, else the worst; each (used, allowed), None: not known"""
    use = lambda c: (c[0] / c[1] if c[1] > 0 else math.inf) if c[0] else 0.0
    known = [c for c in clauses if None not in c]
    over = [c for c in known if c[0] > c[1] * (1 + 1e-12)]
    if over:
        return (*max(over, key=use), 1.0)
    if len(known) < len(clauses) or not clauses:
        return unknown
    return (*max(known, key=use), 1.0)


def number_or(number, d, key, other=None):
    return number(d[key]) if d.get(key) is not None else other


def share_of_drive(drive, site, number):
    """of its currents that a drive has left"""
    share = number(drive.get("derating"), 1.0)
    if drive.get("derates_from") is not None:
        share *= 1 - number(drive["derating_rate"]) * max(0.0, number(site["ambient"]) - number(drive["derates_from"]))
    if drive.get("derates_above") is not None:
        share *= 1 - number(drive["altitude_rate"]) * max(0.0, number(site["altitude"]) - number(drive["derates_above"])) / 100
    return max(0.0, share)


def inertia_behind(x, q, payload):
    """at the mechanism's shaft"""
    given = x.m("inertia") if x.kind == "demand" else 0.0
    if x.winder:
        R = x.roll(np.asarray(q))
        return x.mass + x.ring_factor * (R ** 4 - x.core ** 4) + x.own
    if x.turning_load:
        return x.mass + payload * x.payload_radius ** 2 + x.own + given
    r = x.radius_at(np.asarray(q))[0]
    return (x.mass + payload) * r * r + x.own + given


def at_motor(x, q, payload):
    """load inertia at the motor's shaft"""
    total, ahead = x.motor_side, 1.0
    for stage in x.stages:
        total += stage[3] / ahead ** 2
        ahead *= stage[0]
    return total + inertia_behind(x, q, payload) / x.ratio ** 2


def places(x, number):
    """payload, process, positions of every piece, dense"""
    for p in x.plan.pieces:
        segment = x.plan.segments[p.segment]
        begins = number(segment.get("process_force"), 0.0)
        ends = number(segment.get("process_force_end"), begins)
        t = np.linspace(p.start, p.end, 2 if not x.position_dependent or p.rest else 1201)
        q = p.at(t)[0]
        push = begins + (ends - begins) * (t - p.play.start) / p.play.duration if ends != begins else begins + 0 * t
        yield p, q, push


def coupling(x, axis, number, extra, peak_torque, braking_torque, told, out):
    c = axis.get("coupling", {})
    if x.direct or not coupling_there(c):
        return
    if c.get("allowable_torque") is None:
        out["coupling"] = unknown
        return
    rating, factor = number(c["allowable_torque"]), number(c["service_factor"])
    carried = extra["through"]
    bounded = peak_torque is not None and told and x.rotor > 0
    if bounded:
        stop = axis["drive"].get("emergency_torque")
        for torque, braking in ((peak_torque, False), (number(stop) if stop is not None else max(peak_torque, braking_torque), True)):
            T, J = torque, x.rotor
            if x.at_mechanism:
                J += x.motor_side
                for i, eta, back, j, *_ in x.stages:
                    kept = 1 / back if braking and back > 0 else eta
                    T, J = T * i * kept, (J + j) * i * i * kept
            for p, q, push in places(x, number):
                ext = x.hold(q, p.play.payload, push, False)[0] * (x.ratio if x.at_mechanism else 1.0)
                JL = inertia_behind(x, q, p.play.payload) if x.at_mechanism else at_motor(x, q, p.play.payload)
                for side in (T, -T):
                    carried = max(carried, float(np.max(np.abs((side - ext) * JL / (JL + J) + ext))))
    if not bounded and carried * factor <= rating:
        out["coupling"] = unknown
        return
    out["coupling"] = (carried * factor, rating, 1.0)


def brakes_of(axis, has_motor, x, number):
    """holds, slips, delay, energy of each, at the motor"""
    out = []
    motor, own = axis.get("motor", {}), axis.get("brake", {})
    if has_motor and not x.direct and motor.get("brake_torque") is not None:
        out.append((motor, "brake_torque", "brake_", 1.0))
    if not x.direct and own.get("static_torque") is not None:
        out.append((own, "static_torque", "", x.ratio if own.get("place", "motor") == "mechanism" else 1.0))
    found = []
    for d, key, head, slower in out:
        holds = number(d[key]) / slower
        slips = number(d[head + "dynamic_torque"]) / slower if d.get(head + "dynamic_torque") is not None else holds
        found.append((holds, slips, number_or(number, d, head + "apply_time"), number_or(number, d, head + "stop_energy")))
    return found


def lose_power(w0, hold, J, brakes):
    """energies by brake, or None where it never stops"""
    angles = [0.0] * len(brakes)
    t, w, horizon = 0.0, w0, 1e4
    events = sorted({b[2] for b in brakes})
    while True:
        on = [b for b in brakes if b[2] <= t]
        nexts = [e for e in events if e > t]
        braking = sum(b[1] for b in on)
        way = math.copysign(1.0, w) if w != 0 else 0.0
        if way == 0.0:
            if abs(hold) <= braking and (on or hold == 0):
                if braking > 0 or not nexts:
                    return [b[1] * a for b, a in zip(brakes, angles)]
            if hold == 0:
                t = nexts[0]
                continue
            way = -math.copysign(1.0, hold)
            if abs(hold) == braking:
                return None
        a = (-hold - way * braking) / J
        if not nexts and a * way >= 0:
            return None
        stands = lambda _, y: y[0] * way if abs(y[0]) > 0 else 0.0
        stands.terminal, stands.direction = True, -1
        end = nexts[0] if nexts else t + 2 * abs(w / a) + 1e-9
        r = solve_ivp(lambda _, y: [a, abs(y[0])], (t, end), [w, 0.0], events=stands if w != 0 else None, rtol=1e-10, atol=1e-14)
        angle = r.y[1][-1]
        angles = [s + (angle if b[2] <= t else 0.0) for s, b in zip(angles, brakes)]
        stopped = w != 0 and r.t_events and len(r.t_events[0]) > 0
        t, w = float(r.t[-1]), 0.0 if stopped else float(r.y[0][-1])
        if not stopped and nexts:
            t = nexts[0]
        if t > horizon:
            return None


def braking(x, axis, number, fig, extra, has_motor, told, out):
    found = brakes_of(axis, has_motor, x, number)
    if not found:
        return
    if not told:
        out["brake_stop"] = out["brake_energy"] = unknown
        return
    cases, seen = [], set()
    for p, q, _ in places(x, number):
        q = q if x.position_dependent else q[:1]
        if x.position_dependent and q.size > 200:
            q = q[::40]
        for place in q:
            hold = 0.0 if x.tension else float(x.hold(np.array([place]), p.play.payload, 0.0, False)[0][0])
            key = (p.play.payload, float(place) if x.position_dependent else 0.0)
            if key not in seen:
                seen.add(key)
                cases.append((hold, at_motor(x, place, p.play.payload) + x.rotor))
    out["brake_stop"] = (extra["falls"], sum(b[1] for b in found), 1.0)
    if any(b[2] is None for b in found):
        out["brake_energy"] = unknown
        return
    if x.position_dependent or x.turning_load:
        out["brake_energy"] = "by place"  # an estimate of its own; tests/core
        return
    turned = -1.0 if x.radius < 0 else 1.0
    ways = {d for p in x.plan.pieces if not p.rest for d in extra["ways"]}
    starts = [0.0] + [turned * d * fig["demand.peak_speed"] for d in ways]
    most = [0.0] * len(found)
    for hold, J in cases:
        for w0 in starts:
            spent = lose_power(w0, hold, J, found)
            most = [max(m, math.inf if spent is None else spent[k]) for k, m in enumerate(most)]
    out["brake_energy"] = worst_of([(m, b[3]) for m, b in zip(most, found)])


def overload(x, axis, number, extra, model, lost, out):
    drive = axis["drive"]
    if not drive_there(drive):
        return
    steady, peak = model.i_drive
    if lost or drive.get("continuous_current") is None:
        out["drive_overload"] = unknown
        return
    time = number_or(number, drive, "peak_time")
    budget = (peak ** 2 - steady ** 2) * time if time is not None and drive.get("peak_current") is not None else None

    steps = []
    for weight, w, T in extra["timeline"]:
        if T is None:
            steps.append(weight * -steady ** 2)
            continue
        d, q = model.draw(T, w, model.hot)
        d0, q0 = model.draw(T, w, model.hot, voltage=False)
        d, q = np.where(np.isnan(q), d0, d), np.where(np.isnan(q), q0, q)
        steps.append(weight * ((d * d + q * q) / model.amperes ** 2 - steady ** 2))
    steps = np.concatenate([np.ravel(s) for s in steps])

    def go(s):
        top = 0.0
        for step in steps:
            s = max(0.0, s + step)
            top = max(top, s)
        return s, top
    net = float(steps.sum())
    end, top = go(0.0)
    _, again = go(end)
    greatest = math.inf if net > 1e-9 * np.abs(steps).sum() else max(top, again)
    extra["overload"] = (greatest, top, net)
    if greatest == 0:
        out["drive_overload"] = (0.0, budget or steady ** 2 * x.plan.duration, 1.0)
    elif budget is None:
        out["drive_overload"] = unknown
    else:
        out["drive_overload"] = (greatest, budget, 1.0)


def standstill(axis, number, fig, model, lost, out):
    drive = axis["drive"]
    if drive.get("standstill_share") is None:
        return
    if drive.get("continuous_current") is None:
        out["drive_standstill"] = unknown
        return
    i = abs(float(model.iq(np.array([fig["demand.holding_torque"]]), model.hot, 0.0)[0])) / model.amperes
    out["drive_standstill"] = unknown if math.isnan(i) else (i, number(drive["standstill_share"]) * model.i_drive[0], 1.0)


def windows(axis, number, out):
    drive = axis["drive"]
    low = (1 - number(drive.get("mains_tolerance"), 0.0)) * (1 - number(drive.get("bus_droop"), 0.0))
    if not drive_there(drive):
        return
    of = lambda k: number(drive[k]) if drive.get(k) is not None else None
    out["drive_highest"] = worst_of([(number(drive["bus_voltage"]) * (1 + number(drive.get("mains_rise"), 0.0)), of("highest_voltage"))])
    out["drive_lowest"] = worst_of([(of("lowest_voltage"), number(drive["bus_voltage"]) * low)])
    electric = axis.get("motor", {}).get("electric", {})
    if "stepper" in electric.get("kind", ""):
        peak = math.sqrt(2) if drive.get("dial_in", "rms") == "peak" else 1.0
        out["drive_dial"] = worst_of([(of("phase_current") or number(electric["rated_current"]) * peak, of("most_current"))])


def coupling_rest(x, axis, number, fig, has_motor, out):
    c = axis.get("coupling", {})
    if x.direct:
        return
    of = lambda d, k: number(d[k]) if d.get(k) is not None else None
    at_motor = c.get("place", "motor") == "motor" or not x.stages
    shafts = (of(axis.get("motor", {}), "shaft_diameter") if has_motor else None) if at_motor else of(axis["stages"][-1], "output_shaft"), of(c, "driven_shaft")
    if coupling_there(c):
        out["coupling_speed"] = worst_of([(fig["demand.peak_speed"] / (x.ratio if x.at_mechanism else 1.0), of(c, "top_speed"))])
        pairs = [(of(c, k), of(c, k + "_allowed")) for k in ("angular", "parallel", "axial")]
        total = sum(h / a for h, a in pairs if h is not None and a is not None)
        whole = all(h is not None and a is not None for h, a in pairs)
        out["coupling_alignment"] = (total, 1.0, 1.0) if whole or total > 1 + 1e-12 else unknown
        out["coupling_range"] = worst_of([(shaft, of(c, "largest_bore")) for shaft in shafts] + [(of(c, "smallest_bore"), shaft) for shaft in shafts])
    fits = [(of(c, bore), shaft) for bore, shaft in zip(("driving_bore", "driven_bore"), shafts) if of(c, bore) is not None]
    if fits:
        out["coupling_bores"] = worst_of([(abs(b - s) / s if s is not None else None, 1e-3) for b, s in fits])


def cap_of_drive(model):
    """torque of the drive's peak current at rest, the worse of cold and hot"""
    peak = model.i_drive[1]
    if not math.isfinite(peak) or peak >= model.ip:
        return math.inf
    most = []
    for at in (model.cold, model.hot):
        i = model.amperes * peak
        if model.beta > 0:
            i = min(i, model.ip * model.amperes / math.sqrt(3 * model.beta))
        # back from the torque to the current, by trial
        top = float(model.gap(i, at))
        f = lambda T: float(model.iq(np.array([T]), at, 0.0)[0]) - i
        most.append(top if not model.beta else brentq(lambda T: f(T) if f(T) == f(T) else 1.0, 0, top) if f(top * (1 - 1e-9)) >= 0 else top)
    return min(most)


def screw(x, fig, extra, out):
    m = x.m
    if m("static_rating", None) is not None:
        out["screw_static"] = (fig["demand.axial_force"], m("static_rating"), 1.0)
    if m("dynamic_rating", None) is None or m("life_asked", None) is None:
        return
    if not extra["loads"]:  # it never turns, and lasts
        out["screw_life"] = (m("life_asked"), math.inf, 1.0)
        return
    C, preload = m("dynamic_rating"), m("nut_preload", 0.0) or 0.0
    angle = np.concatenate([a for a, _ in extra["loads"]])
    force = np.concatenate([f for _, f in extra["loads"]])
    turned = float(angle.sum())
    mean = lambda F: (float((angle * F ** 3).sum()) / turned) ** (1 / 3)
    life = lambda F: 1e6 * (C / F) ** 3 if F > 0 else math.inf
    if preload > 0:
        full = np.where(force < 2 * math.sqrt(2) * preload, preload * (1 + force / (2 * math.sqrt(2) * preload)) ** 1.5, force)
        lives = [life(mean(full)), life(mean(full - force))]
        turns = sum(L ** (-10 / 9) for L in lives) ** (-9 / 10)
    else:
        turns = life(mean(force))
    speed = turned / x.ratio / x.plan.duration
    out["screw_life"] = (m("life_asked"), turns * 2 * math.pi / speed, 1.0)
