"""An axis calculated slowly: every mechanism from its textbook equations, sampled densely, integrated panel by panel, searched by
brute force and scipy. No code, no cuts and no closed forms of the program are used; only what the handbook of the trade says.

assess(project, axis) gives the figures by key and the limits by key as (used, allowed, share)."""
import math
import re

import numpy as np
from scipy.interpolate import CubicHermiteSpline, PchipInterpolator
from scipy.optimize import brentq, minimize, minimize_scalar

from motion import Plan
import parts
from motor_model import Model, Stepper

UNITS = {"1": 1.0, "%": 0.01, "deg": math.pi / 180, "rpm": math.pi / 30, "mm": 1e-3, "GPa": 1e9, "°C": 1.0}
CAUSES = ("load_inertia", "rotor", "friction", "losses", "gravity", "process")
PANELS = 560      # of a piece of motion, four Gauss nodes each
NODES, WEIGHTS = np.polynomial.legendre.leggauss(4)
pi, cos, sin, sqrt = math.pi, math.cos, math.sin, math.sqrt


def number(text, otherwise=None):
    """'0.3 m' or '2/3' or a plain number, in SI; the generator writes SI units, a few others stand in the table."""
    if text is None:
        return otherwise
    if isinstance(text, dict):
        text = text["value"]
    if isinstance(text, (int, float)):
        return float(text)
    head, _, unit = text.strip().partition(" ")
    value = float(head.split("/")[0]) / float(head.split("/")[1]) if "/" in head else float(head)
    if unit == "°C":
        return value + 273.15
    return value * UNITS.get(unit, 1.0)


def golden(f, lo, hi):
    """Largest f on [lo, hi] and where."""
    r = minimize_scalar(lambda x: -f(x), bounds=(lo, hi), method="bounded", options={"xatol": 1e-12 * max(abs(lo), abs(hi), 1e-9)})
    return (-r.fun, r.x)


def body(b, materials):
    """mass, inertia about the axis, first moment and its angle; with sign and count"""
    s, n = b["shape"], number
    k = s["kind"]
    get = lambda key: n(s.get(key))
    volume = {"cylinder": lambda: pi / 4 * get("diameter") ** 2 * get("length"),
              "hollow_cylinder": lambda: pi / 4 * (get("outer_diameter") ** 2 - get("inner_diameter") ** 2) * get("length"),
              "cross_cylinder": lambda: pi / 4 * get("diameter") ** 2 * get("length"),
              "block": lambda: get("length") * get("width") * get("height"),
              "sphere": lambda: pi / 6 * get("diameter") ** 3,
              "cone": lambda: pi / 12 * get("diameter") ** 2 * get("height")}
    mass = n(b.get("mass"))
    if mass is None:
        mass = n(materials[b["material"]]) * volume[k]() if k in volume else 0.0
    own = {"cylinder": lambda: mass * get("diameter") ** 2 / 8,
           "hollow_cylinder": lambda: mass * (get("outer_diameter") ** 2 + get("inner_diameter") ** 2) / 8,
           "ring": lambda: mass * get("diameter") ** 2 / 4,
           "cross_cylinder": lambda: mass * (3 * (get("diameter") / 2) ** 2 + get("length") ** 2) / 12,
           "block": lambda: mass * (get("length") ** 2 + get("width") ** 2) / 12,
           "rod": lambda: mass * get("length") ** 2 / 12,
           "sphere": lambda: mass * get("diameter") ** 2 / 10,
           "cone": lambda: 3 * mass * get("diameter") ** 2 / 40,
           "point": lambda: 0.0,
           "known": lambda: get("inertia")}[k]()
    e, count, sign = n(b.get("offset"), 0.0), n(b.get("count"), 1.0), -1.0 if b.get("hole") else 1.0
    moment = 0.0 if count > 1 else sign * mass * e
    return sign * count * mass, sign * count * (own + mass * e ** 2), moment, n(b.get("offset_angle"), 0.0)


class Axis:
    """The mechanism: kinematics and forces as functions of the coordinate; web is what a winder has on its roll at the start."""

    def __init__(self, project, axis):
        self.project = project
        self.g = number(project["site"]["gravity"])
        self.axis, self.mech, self.load = axis, axis["mechanism"], axis.get("load", {})
        self.kind = self.mech["kind"]
        self.materials = {m["name"]: m["density"] for m in project.get("materials", [])}
        carriage = ("screw", "rack", "belt", "linear_motor", "hoist", "slider_crank", "scotch_yoke")
        free_linear = self.kind == "free" and self.mech["moves"] == "linear"
        self.has = lambda what: {
            "carriage": self.kind in carriage or free_linear,
            "guides": self.kind in carriage + ("conveyor", "feed_rolls") or free_linear,
            "incline": self.kind in ("screw", "rack", "belt", "linear_motor", "conveyor", "slider_crank", "scotch_yoke") or free_linear,
            "payload": self.kind in carriage + ("conveyor", "feed_rolls", "table", "arm") or free_linear,
            "counterweight": self.kind in ("screw", "rack", "belt", "linear_motor", "hoist") or free_linear}[what]
        self.direct = self.kind == "linear_motor"
        self.turning_load = self.kind in ("table", "arm", "fan") or (self.kind == "free" and not free_linear) or \
            (self.kind == "demand" and self.mech["at"] == "shaft")
        self.crank_like = self.kind in ("slider_crank", "scotch_yoke")
        self.winder = self.kind == "winder"
        self.position_dependent = self.crank_like or self.winder or self.kind in ("table", "arm")
        self.m = lambda key, other=0.0: number(self.mech.get(key), other)
        self.l = lambda key, other=0.0: number(self.load.get(key), other)
        self.payload0 = self.l("payload") if self.has("payload") else 0.0
        self.plan = Plan(axis["cycle"], self.has("payload"), self.has("guides"), self.payload0, number)
        self.web = 0.0
        self.build()

    # -- what the mechanism is made of
    def build(self):
        m, l = self.m, self.l
        losses = self.mech.get("losses", {})
        self.eta = number(losses.get("efficiency"), 1.0)
        back = losses.get("efficiency_back")
        self.eta_back = number(back) if back is not None else 2 - 1 / self.eta
        self.drag = number(losses.get("drag"), 0.0)
        self.own = self.mass = self.weight = self.extra_drag = self.constant = self.fan = 0.0
        self.radius = 1.0
        self.tension = self.winder or self.kind == "feed_rolls"
        gamma = l("inclination") if self.has("incline") else pi / 2 if self.kind == "hoist" else 0.0
        self.sin_g, self.cos_g = sin(gamma), 0.0 if abs(abs(gamma) - pi / 2) < 1e-12 else cos(gamma)
        self.lift = l("counterbalance") if self.has("incline") else 0.0
        if self.has("carriage"):
            self.mass += l("carriage_mass")
            self.weight += l("carriage_mass")
        if self.has("counterweight"):
            self.mass += l("counterweight")
            self.lift += l("counterweight") * self.g
        guides = self.has("guides")
        self.mu, self.normal = (l("guide_friction"), l("guide_preload")) if guides else (0.0, 0.0)
        self.seal, self.viscous = (l("seal_drag"), l("viscous")) if guides else (0.0, 0.0)
        self.breakaway = l("breakaway", 1.0) if guides else 1.0
        self.swing = []          # (moment of weight about the axis, angle at which it is level)
        self.payload_radius = 1.0
        self.payload_swing = None
        getattr(self, "make_" + self.kind)()
        coupling = self.axis.get("coupling", {})
        self.j_coupling = number(coupling.get("inertia"), 0.0)
        self.stages = [] if self.direct else self.axis.get("stages", [])
        if self.direct:
            self.j_coupling = 0.0
        self.at_mechanism = not self.stages or coupling.get("place", "motor") == "mechanism"
        self.coupling_moves = not self.stages and coupling.get("place", "motor") == "motor"
        self.motor_side = 0.0
        if self.at_mechanism:
            self.own += self.j_coupling
        else:
            self.motor_side = self.j_coupling
        tilt = self.g if self.kind == "arm" else self.g * sin(m("tilt")) if self.kind == "table" else 0.0
        level = m("horizontal_at")
        for b in self.axis.get("bodies", []):
            mass, inertia, moment, angle = body(b, self.materials)
            shaft = b.get("place", "load") == "shaft"
            if self.direct and shaft:
                continue
            if shaft:
                self.own += inertia
            elif self.turning_load or self.winder:
                self.mass += inertia
            else:
                self.mass += mass
                self.weight += mass
            if self.turning_load:
                self.swing.append((moment * tilt, level - angle))
        motor = self.axis.get("motor", {})
        self.rotor = 0.0
        if motor.get("name") and not self.direct:
            self.rotor = number(motor["rotor_inertia"]) + number(motor.get("brake_inertia"), 0.0) + number(motor.get("encoder_inertia"), 0.0)
        forcer = motor.get("electric", {})
        if self.direct and forcer.get("kind") == "linear":
            self.mass += number(forcer.get("forcer_mass"), 0.0)
            self.weight += number(forcer.get("forcer_mass"), 0.0)
            if forcer.get("core", "iron") == "iron":
                self.normal += number(forcer.get("attraction"), 0.0)
        own = self.axis.get("brake", {})
        if own.get("static_torque") is not None and not self.direct:
            if own.get("place", "motor") == "mechanism":
                self.own += number(own.get("inertia"), 0.0)
            elif motor.get("name"):
                self.rotor += number(own.get("inertia"), 0.0)
        self.ratio, chain = 1.0, []
        for s in self.stages:
            i, eta = number(s["ratio"]), number(s["efficiency"])
            idle = number(s.get("no_load_torque"), 0.0)
            if idle and s.get("rated_torque") is not None:
                # at the rated torque all losses together are those of the sheet's efficiency
                rated = number(s["rated_torque"])
                eta = rated / i / (rated / (i * eta) - idle)
            back = number(s["efficiency_back"]) if s.get("efficiency_back") is not None else 2 - 1 / eta
            chain.append((i, eta, back, number(s.get("inertia"), 0.0), idle))
            self.ratio *= i
        self.stages = chain
        self.credit = self.axis.get("credit_friction_at_rest", False)

    def make_screw(self):
        m = self.m
        d, lead = m("diameter"), m("lead")
        root = m("root_diameter", None)
        body_d = (d + root) / 2 if root else d
        if self.mech.get("turns", "screw") == "screw":
            self.own += m("density") * pi * body_d ** 2 / 4 * m("length") * body_d ** 2 / 8
        else:
            self.own += m("nut_inertia")
        self.radius = lead / (2 * pi)
        thread = self.mech["thread"]
        pitch = m("pitch", None)
        if pitch is None and self.mech.get("starts") is not None:
            pitch = lead / m("starts")
        dm = m("pitch_diameter", None)
        if dm is None:
            dm = d - pitch / 2 if thread == "trapezoidal" and pitch else body_d
        given = self.mech.get("efficiency")
        mu = m("thread_friction")
        if given is not None:
            self.eta, self.eta_back = number(given), 2 - 1 / number(given)
        elif thread == "ball":
            lam, rho = math.atan(lead / (pi * dm)), math.atan(mu)
            self.eta, self.eta_back = math.tan(lam) / math.tan(lam + rho), math.tan(lam - rho) / math.tan(lam)
        else:
            sec = 1 / cos(m("flank_half_angle"))
            collar = m("collar_friction") * m("collar_diameter") / 2
            up = dm / 2 * (lead + pi * mu * dm * sec) / (pi * dm - mu * lead * sec) + collar
            down = dm / 2 * (pi * mu * dm * sec - lead) / (pi * dm + mu * lead * sec) + collar
            self.eta, self.eta_back = lead / (2 * pi * up), -2 * pi * down / lead
        if self.mech.get("efficiency_back") is not None:
            self.eta_back = m("efficiency_back")
        self.drag = m("bearing_drag")
        if self.mech.get("preload_drag") is not None:
            self.drag += m("preload_drag")
        elif m("nut_preload") > 0:
            self.drag += 0.05 / sqrt(lead / (pi * dm)) * m("nut_preload") * lead / (2 * pi)

    def make_rack(self):
        self.radius = self.m("teeth") * self.m("module") / 2
        if self.mech.get("cut", "straight") == "helical":
            self.radius /= cos(self.m("helix"))
        self.own += self.m("pinion_inertia")

    def make_belt(self):
        m = self.m
        self.radius = m("teeth") * m("pitch") / (2 * pi)
        r2 = m("idler_diameter", 2 * self.radius) / 2
        self.own += m("pulley_inertia") + m("idlers") * m("idler_inertia") * (self.radius / r2) ** 2 + m("belt_mass") * self.radius ** 2
        if self.mech.get("motor_seat") == "rides":
            riding = m("riding_mass", number(self.axis.get("motor", {}).get("mass"), 0.0))
            self.mass += riding
            self.weight += riding

    def make_linear_motor(self):
        self.eta = self.eta_back = 1.0
        self.drag = 0.0

    def make_free(self):
        m = self.m
        self.radius = m("travel") / (2 * pi) if self.mech["moves"] == "linear" else 1.0
        self.own += m("inertia")
        self.extra_drag += m("friction_torque") / self.radius
        self.constant += m("constant_torque") / self.radius

    def make_demand(self):
        self.radius = self.m("lead") / (2 * pi) if self.mech["at"] == "screw" else 1.0

    def make_conveyor(self):
        m = self.m
        t = m("belt_thickness")
        self.radius = m("pulley_diameter") / 2 + t / 2
        roller = m("roller_diameter", m("pulley_diameter")) / 2 + t / 2
        self.own += ((1 + m("pulleys")) * m("pulley_inertia") + m("rollers") * m("roller_inertia") * (self.radius / roller) ** 2
                     + m("belt_mass") * self.radius ** 2)
        self.extra_drag += m("belt_drag")

    def make_feed_rolls(self):
        m = self.m
        self.radius = m("roll_diameter") / 2
        self.own += m("roll_inertia") + m("follower_inertia") * (m("roll_diameter") / m("follower_diameter", m("roll_diameter"))) ** 2
        self.constant += m("tension")

    def make_hoist(self):
        self.radius = self.m("drum_diameter") / 2 / self.m("falls")
        self.own += self.m("drum_inertia")

    def make_table(self):
        m = self.m
        self.own += m("table_inertia")
        self.payload_radius = m("payload_radius")
        self.payload_swing = (m("payload_radius") * self.g * sin(m("tilt")), m("horizontal_at"))
        self.extra_drag += m("friction_torque")

    def make_arm(self):
        m = self.m
        mass, c = m("arm_mass"), m("arm_centre")
        self.own += m("arm_inertia", mass * (2 * c) ** 2 / 3)
        self.swing.append((mass * c * self.g, m("horizontal_at")))
        self.payload_radius = m("payload_radius")
        self.payload_swing = (m("payload_radius") * self.g, m("horizontal_at"))
        self.extra_drag += m("friction_torque")

    def make_slider_crank(self):
        self.own += self.m("crank_inertia")

    def make_scotch_yoke(self):
        self.own += self.m("crank_inertia")

    def make_fan(self):
        self.own += self.m("rotor_inertia")
        self.fan = self.m("reference_torque") / self.m("reference_speed") ** 2

    def make_winder(self):
        m = self.m
        self.core = m("core_diameter") / 2
        self.full = m("roll_diameter") / 2
        self.way = 1.0 if self.mech.get("winds", "winds") == "winds" else -1.0
        self.constant = self.way * m("tension")
        self.own += m("core_inertia")
        self.ring_factor = pi * m("web_density") * m("web_width") / 2

    # -- kinematics
    def roll(self, q):
        s = self.web + self.way * (q - self.plan.start)
        return np.sqrt(self.core ** 2 + np.maximum(s, 0) * self.m("web_thickness") / pi)

    def radius_at(self, q):
        """dx/dtheta and d2x/dtheta2"""
        q = np.asarray(q, dtype=float)
        c, one = self.m("crank"), np.ones_like(q)
        if self.kind == "scotch_yoke":
            return c * np.cos(q), -c * np.sin(q)
        if self.kind == "slider_crank":
            s, k = np.sin(q), np.cos(q)
            w = np.sqrt(self.m("rod") ** 2 - c * c * s * s)
            w1 = -c * c * s * k / w
            return -c * s + w1, -c * k - (c * c * (k * k - s * s) + w1 * w1) / w
        return self.radius * one, 0 * one

    def weight_force(self, q, payload):
        q = np.asarray(q, dtype=float)
        if self.winder:
            return 0 * q
        if self.turning_load:
            out = 0 * q
            for moment, level in self.swing:
                out = out + moment * np.cos(q - level)
            if self.payload_swing:
                out = out + payload * self.payload_swing[0] * np.cos(q - self.payload_swing[1])
            return out
        return (self.weight + payload) * self.g * self.sin_g - self.lift + 0 * q

    # -- the state at instants of motion with known directions: d of the shaft, +1 or -1
    def moving(self, q, v, a, d, payload, process, friction):
        q, v, a = (np.asarray(x, dtype=float) for x in (q, v, a))
        if self.winder:
            R = self.roll(q)
            w = v / R
            alpha = a / R - v ** 2 * self.way * self.m("web_thickness") / (2 * pi * R ** 3)
            r, lv, la, arm = np.ones_like(R), w, alpha, R
            mass = self.mass + self.ring_factor * (R ** 4 - self.core ** 4)
        elif self.crank_like:
            r, bend = self.radius_at(q)
            w, alpha = v, a
            lv, la, arm, mass = r * v, r * a + bend * v ** 2, 1.0, self.mass + payload
        else:
            r, _ = self.radius_at(q)
            w, alpha, lv, la, arm = v / self.radius, a / self.radius, v, a, 1.0
            mass = self.mass + payload * (self.payload_radius ** 2 if self.turning_load else 1.0)
        load_d = np.where(r < 0, -d, d)
        if self.crank_like:
            load_d = np.sign(r) * d
            load_d = np.where(load_d == 0, d, load_d)
        inertia = mass * la
        gravity = self.weight_force(q, payload)
        push = (process + self.constant) * arm + self.fan * w * np.abs(w)
        rub = load_d * friction * (self.mu * (np.abs((self.weight + payload) * self.g * self.cos_g) + self.normal)
                                   + self.seal + self.extra_drag)
        F = inertia + gravity + push + rub + self.viscous * lv
        T = F * r * np.where(F * load_d >= 0, 1 / self.eta, self.eta_back) + d * self.drag + self.own * alpha
        D, alpha_m = T, alpha
        speed, acc, stage_part = w, alpha, 0.0
        kinks = [F]
        outputs = []
        for i, eta, back, j, idle in reversed(self.stages):
            kinks.append(T)
            outputs.insert(0, T)
            speed, acc = speed * i, acc * i
            T = np.where(T * d >= 0, T / (i * eta), T * back / i) + j * acc + d * idle
            stage_part = stage_part / i + j * acc
        side = self.motor_side * acc
        T = T + side
        C = D if self.at_mechanism else T
        parts = {"load_inertia": inertia * r / self.ratio + self.own * alpha / self.ratio + stage_part + side,
                 "rotor": self.rotor * acc, "gravity": gravity * r / self.ratio, "process": push * r / self.ratio,
                 "friction": ((rub + self.viscous * lv) * r + d * self.drag) / self.ratio}
        T = T + parts["rotor"]
        parts["losses"] = T - sum(parts.values())
        return {"T": T, "w": speed, "F": F, "C": C, "D": D, "alpha": alpha_m, "parts": parts, "kinks": kinks, "acc": acc, "O": outputs}

    def hold(self, q, payload, process, credit, friction=1.0):
        """torque at the motor that holds, the force at the load, the torque through the coupling; what is credited is the friction
        in force"""
        return self.held(q, payload, process, credit, friction)[:3]

    def held(self, q, payload, process, credit, friction=1.0):
        """the same, and the torque at the mechanism's shaft, where no stage helps"""
        q = np.asarray(q, dtype=float)
        arm = self.roll(q) if self.winder else 1.0
        r = np.ones_like(q) if self.winder else self.radius_at(q)[0]
        F = self.weight_force(q, payload) + (process + self.constant) * arm
        C = F * r / (1.0 if self.at_mechanism else self.ratio)
        if not credit:
            return F * r / self.ratio, F, C, F * r
        rub = self.breakaway * friction * (self.mu * (np.abs((self.weight + payload) * self.g * self.cos_g) + self.normal)) + \
            self.breakaway * friction * (self.seal + self.extra_drag)
        T = np.maximum(0, np.abs(F) - rub) * np.abs(r) * min(max(self.eta_back, 0.0), 1.0)
        T = D = np.maximum(0, T - self.drag)
        for i, _, back, _, _ in reversed(self.stages):
            T = T * min(max(back, 0.0), 1.0) / i
        return np.sign(F * r) * T, F, C, np.sign(F * r) * D


class Curve:
    """A datasheet curve: monotone cubic (PCHIP; at the ends the slope of the chord) from four points on, else straight lines;
    nothing beyond its end."""

    def __init__(self, points, scale=1.0):
        self.cap = math.inf
        self.w = np.array([number(p["speed"]) for p in points]) * scale
        self.t = np.array([number(p["torque"]) for p in points])
        if len(points) >= 4:
            slope = PchipInterpolator(self.w, self.t).derivative()(self.w)
            slope[0] = (self.t[1] - self.t[0]) / (self.w[1] - self.w[0])
            slope[-1] = (self.t[-1] - self.t[-2]) / (self.w[-1] - self.w[-2])
            self.inner = CubicHermiteSpline(self.w, self.t, slope)
        else:
            self.inner = lambda x: np.interp(x, self.w, self.t)

    def at(self, w):
        w = np.abs(np.asarray(w, dtype=float))
        end = self.w[-1]
        return np.where(w > end * (1 + 1e-12), 0.0, np.minimum(self.cap, self.inner(np.minimum(w, end))))


class Most:
    """The largest of something, and what was there."""

    def __init__(self):
        self.value, self.what = 0.0, None

    def see(self, value, what=None):
        if value > self.value:
            self.value, self.what = value, what


def stretches(x, p):
    """Parts of a piece over which the shaft and the load keep their directions: (from, to, direction of the shaft)."""
    n = 10000 if p.recorded else 2000
    t = np.linspace(p.start, p.end, n + 1)
    inner = (t[:-1] + t[1:]) / 2
    _, v, _ = p.at(inner)
    fast = np.abs(v).max()
    if fast == 0:
        return []
    edges = [p.start]
    big = np.where(np.abs(v) > 1e-9 * fast)[0]
    signs = np.sign(v[big])
    for i in np.where(signs[1:] != signs[:-1])[0]:
        lo, hi = inner[big[i]], inner[big[i + 1]]
        for _ in range(80):
            mid = (lo + hi) / 2
            if float(p.at(np.array([mid]))[1][0]) * signs[i] > 0:
                lo = mid
            else:
                hi = mid
        edges.append((lo + hi) / 2)
    edges.append(p.end)
    out = []
    for lo, hi in zip(edges[:-1], edges[1:]):
        d = float(np.sign(p.at(np.array([(lo + hi) / 2]))[1][0]))
        out.append((lo, hi, d))
    return out


def demand(x):
    """Figures of one state of the load (one fill of a winder)."""
    out, plan = {}, x.plan
    T2 = D2 = Da = a2 = speed = speed2 = e_out = e_back = 0.0
    shares = dict.fromkeys(CAUSES, 0.0)
    peak, drive, brake, start = Most(), Most(), Most(), Most()
    hold, static, braked_hold, falls, force, through, top, p_out, p_back = (Most() for _ in range(9))
    outs = [Most() for _ in x.stages]
    exponents = [number(s.get("exponent"), 3.0) for s in ([] if x.direct else x.axis.get("stages", []))]
    beyond = [float(np.prod([s[0] for s in x.stages[k + 1:]])) for k in range(len(x.stages))]

    def hangs(C):
        for each, ratio in zip(outs, beyond):
            each.see(abs(C) * (1.0 if x.at_mechanism else x.ratio) / ratio)
    worn, turned = [0.0] * len(x.stages), 0.0
    loads = []  # (angle of the motor, force at the load)
    timeline = []  # (dt, w, T), T None where a brake holds
    samples = []  # (weight, |w|, T) for heat, (|w|, |T|) for the curve
    curve_points = []
    duration = plan.duration
    v_top = 0.0
    for p in plan.pieces:
        _, v, _ = p.at(np.linspace(p.start, p.end, 201))
        v_top = max(v_top, float(np.abs(v).max()))
        if not p.rest:
            i = int(np.abs(v).argmax())
            ts = np.linspace(p.start, p.end, 201)
            v_top = max(v_top, golden(lambda t: float(np.abs(p.at(np.array([t]))[1][0])), ts[max(i - 1, 0)], ts[min(i + 1, 200)])[0])
    for p in plan.pieces:
        segment = x.plan.segments[p.segment]
        begins = number(segment.get("process_force"), 0.0)
        ends = number(segment.get("process_force_end"), begins)
        pushed = lambda t: begins + (ends - begins) * (np.asarray(t, dtype=float) - p.play.start) / p.play.duration
        process = begins
        carried = p.play.payload
        braked = segment["what"]["kind"] == "dwell" and segment["what"].get("brake_holds", False)
        q0 = np.array([float(p.at(np.array([p.start]))[0][0])])
        # what holding takes at every place it passes
        t = np.linspace(p.start, p.end, 2 if p.rest or not x.position_dependent else 3001)
        q = p.at(t)[0]
        h = np.abs(x.hold(q, carried, 0.0, False)[0])
        i = int(h.argmax())
        at = lambda tau: float(np.abs(x.hold(p.at(np.array([tau]))[0], carried, 0.0, False)[0])[0])
        best = max(float(h[i]), golden(at, t[max(i - 1, 0)], t[min(i + 1, t.size - 1)])[0] if x.position_dependent else 0.0)
        static.see(best)
        if not x.tension:
            falls.see(best)
        if p.rest:
            if ends != begins:
                many = 20001
                t = np.linspace(p.start, p.end, many)
                q = np.full(many, float(q0[0]))
                T, F, C, D = x.held(q, carried, pushed(t), x.credit, p.play.friction)
                force.see(float(np.abs(F).max()))
                through.see(float(np.abs(C).max()))
                hangs(float(np.abs(C).max()))
                if braked:
                    timeline.append((np.array([p.duration]), None, None))
                    full = float(np.abs(x.hold(q, carried, pushed(t), False)[0]).max())
                    braked_hold.see(full)
                    static.see(full)
                    continue
                i = int(np.abs(T).argmax())
                hold.see(abs(float(T[i])))
                peak.see(abs(float(T[i])), float(T[i]))
                # Simpson's rule
                w = np.full(many, 2.0)
                w[1::2] = 4.0
                w[0] = w[-1] = 1.0
                w *= p.duration / (many - 1) / 3
                T2 += float((w * T * T).sum())
                D2 += float((w * D ** 2).sum())
                g = float(x.weight_force(q0, carried)[0])
                r = 1.0 if x.winder else float(x.radius_at(q0)[0][0])
                push = (pushed(t) + x.constant) * (float(x.roll(q0)[0]) if x.winder else 1.0)
                shares["gravity"] += float((w * T * g * r / x.ratio).sum())
                shares["process"] += float((w * T * push * r / x.ratio).sum())
                shares["friction"] += float((w * T * (T - (g + push) * r / x.ratio)).sum())
                samples.append((w, np.zeros(many), T))
                timeline.append(samples[-1])
                curve_points.append((np.zeros(many), np.abs(T), np.zeros(many, dtype=bool)))
                continue
            T, F, C, D = (float(y[0]) for y in x.held(q0, carried, process, x.credit, p.play.friction))
            force.see(abs(F))
            through.see(abs(C))
            hangs(C)
            if braked:
                timeline.append((np.array([p.duration]), None, None))
                full = abs(float(x.hold(q0, carried, process, False)[0][0]))
                braked_hold.see(full)
                static.see(full)
                continue
            hold.see(abs(T))
            peak.see(abs(T), T)
            T2 += T * T * p.duration
            D2 += D ** 2 * p.duration
            g = float(x.weight_force(q0, carried)[0])
            r = 1.0 if x.winder else float(x.radius_at(q0)[0][0])
            push = (process + x.constant) * (float(x.roll(q0)[0]) if x.winder else 1.0)
            shares["gravity"] += T * g * r / x.ratio * p.duration
            shares["process"] += T * push * r / x.ratio * p.duration
            shares["friction"] += T * (T - (g + push) * r / x.ratio) * p.duration
            samples.append((np.array([p.duration]), np.array([0.0]), np.array([T])))
            timeline.append(samples[-1])
            curve_points.append((np.array([0.0]), np.array([abs(T)]), np.array([False])))
            continue
        for lo, hi, d in stretches(x, p):
            at = lambda t: x.moving(*p.at(np.asarray(t, dtype=float)), d, carried, pushed(t), p.play.friction)
            if x.breakaway > 1 and abs(float(p.at(np.array([lo]))[1][0])) <= 1e-7 * v_top:
                q = p.at(np.array([lo]))[0]
                s = x.moving(q, 0 * q, 0 * q, d, carried, pushed(lo), p.play.friction * x.breakaway)
                start.see(abs(float(s["T"][0])), float(s["T"][0]))
                force.see(abs(float(s["F"][0])))
                through.see(abs(float(s["C"][0])))
                for each, torque in zip(outs, s["O"]):
                    each.see(abs(float(np.ravel(torque)[0])))
                curve_points.append((np.array([0.0]), np.abs(s["T"]), np.array([False])))
            turns = 1.0
            if x.crank_like or x.kind in ("table", "arm"):
                turns = 1 + abs(float(np.ptp(p.at(np.linspace(lo, hi, 100))[0]))) / pi
            panels = int(PANELS * min(turns, 20))
            if x.winder:
                panels *= 4
            edges = np.linspace(lo, hi, panels + 1)
            half = (edges[1:] - edges[:-1]) / 2
            t = ((edges[1:] + edges[:-1]) / 2)[:, None] + half[:, None] * NODES[None, :]
            w = half[:, None] * WEIGHTS[None, :] * np.ones_like(t)
            s = at(t)
            T, omega = s["T"], s["w"]
            turned += float((w * np.abs(omega)).sum())
            loads.append(((w * np.abs(omega)).ravel(), np.abs(s["F"]).ravel()))
            for k, torque in enumerate(s["O"]):
                worn[k] += float((w * np.abs(omega) * np.abs(torque) ** exponents[k]).sum())
            T2 += float((w * T * T).sum())
            D2 += float((w * s["D"] ** 2).sum())
            Da += float((w * s["D"] * s["alpha"]).sum())
            a2 += float((w * s["alpha"] ** 2).sum())
            speed += float((w * np.abs(omega)).sum())
            speed2 += float((w * omega ** 2).sum())
            power = T * omega
            e_out += float((w * np.maximum(power, 0)).sum())
            e_back -= float((w * np.minimum(power, 0)).sum())
            for k in CAUSES:
                shares[k] += float((w * T * s["parts"][k]).sum())
            samples.append((w.ravel(), omega.ravel(), T.ravel()))
            timeline.append(samples[-1])
            # extremes: the samples with both ends, then between the neighbours of the best few
            ts = np.concatenate((edges, t.ravel()))
            ts.sort()
            inside = np.clip(ts, lo, hi)
            s = at(inside)
            curve_points.append((np.abs(s["w"]), np.abs(s["T"]), s["T"] * s["w"] < 0))
            for most, value, what in ((peak, lambda s: np.abs(s["T"]), "T"), (drive, lambda s: s["T"] * d, "T"),
                                      (brake, lambda s: -s["T"] * d, "T"), (force, lambda s: np.abs(s["F"]), None),
                                      (through, lambda s: np.abs(s["C"]), None), (top, lambda s: np.abs(s["w"]), None),
                                      (p_out, lambda s: s["T"] * s["w"], None), (p_back, lambda s: -s["T"] * s["w"], None),
                                      *((each, lambda s, k=k: np.abs(s["O"][k]), None) for k, each in enumerate(outs))):
                y = value(s)
                order = np.argsort(y)[::-1][:3]
                for i in order:
                    if y[i] <= most.value * (1 - 1e-3):
                        break
                    most.see(float(y[i]), float(s[what][i]) if what else None)
                    a, b = inside[max(i - 1, 0)], inside[min(i + 1, inside.size - 1)]
                    if b > a:
                        best, where = golden(lambda tau: float(value(at(np.array([tau])))[0]), a, b)
                        if best > most.value:
                            most.see(best, float(at(np.array([where]))["T"][0]) if what else None)
    running = peak
    if start.value > peak.value:
        peak = start
    out["demand.rms_torque"] = sqrt(T2 / duration)
    out["demand.peak_torque"] = peak.what if peak.what is not None else 0.0
    if start.value > 0:
        out["demand.peak_running_torque"] = running.what
        out["demand.breakaway_torque"] = start.what
    out["demand.peak_motoring_torque"] = drive.what
    out["demand.peak_braking_torque"] = brake.what
    out["demand.holding_torque"] = hold.value
    out["demand.static_torque"] = static.value
    out["demand.peak_speed"], out["demand.mean_speed"] = top.value, speed / duration
    out["demand.rms_speed"] = sqrt(speed2 / duration)
    out["demand.peak_power"], out["demand.peak_return"] = p_out.value, p_back.value
    out["demand.energy_delivered"], out["demand.energy_returned"] = e_out, e_back
    for k in CAUSES:
        out["demand.rms_share." + k] = shares[k] / T2 if T2 > 0 else None
    stopping = emergency(x, v_top, out, force, through)
    after = 1.0
    uses = []
    for k in reversed(range(len(x.stages))):
        before = x.ratio / after  # from the motor to the output of this stage
        uses.insert(0, {"peak": outs[k].value,
                        "equivalent": (worn[k] / turned) ** (1 / exponents[k]) if turned > 0 else 0.0,
                        "emergency": stopping[k].value if stopping else None,
                        "mean": speed / duration / (before / x.stages[k][0]), "top": top.value / (before / x.stages[k][0])})
        after *= x.stages[k][0]
    out["demand.axial_force"] = force.value
    if not x.direct:
        out["demand.coupling_torque"] = through.value
    if x.rotor > 0 and a2 > 0:
        moved = x.j_coupling if x.coupling_moves else 0.0
        j = x.rotor + x.motor_side + moved
        a, b, c = D2 / duration, Da / duration, a2 / duration
        a, b = a - 2 * moved * b + moved ** 2 * c, b - moved * c
        if a > 1e-9 * (D2 / duration):
            out["demand.best_ratio"] = (a / (c * j * j)) ** 0.25
            out["demand.best_ratio_rms"] = sqrt(max(0, 2 * j * (b + sqrt(a * c))))
            out["demand.best_ratio_speed"] = out["demand.best_ratio"] * top.value / x.ratio
    extra = {"hold_braked": braked_hold.value, "falls": falls.value if falls.value > 1e-12 * peak.value else 0.0,
             "stages": uses, "samples": samples, "timeline": timeline, "loads": loads, "through": through.value, "ways": ways_of(x, v_top), "curve": curve_points, "v_top": v_top}
    return out, extra


def ways_of(x, v_top):
    ways = set()
    for p in x.plan.pieces:
        if not p.rest:
            v = p.at(np.linspace(p.start, p.end, 101))[1]
            ways |= {1.0} if (v > 1e-9 * v_top).any() else set()
            ways |= {-1.0} if (v < -1e-9 * v_top).any() else set()
    return ways


def emergency(x, v_top, out, force, through):
    drive = x.axis.get("drive", {})
    time = number(drive.get("stop_time"), 0.0)
    if not time and drive.get("stop_distance") is not None and v_top > 0:
        time = 2 * number(drive["stop_distance"]) / v_top
    if not time or not v_top:
        out["demand.emergency_torque"] = None
        return None
    moving = [p for p in x.plan.pieces if not p.rest]
    payloads = sorted({p.play.payload for p in moving})
    frictions = sorted({p.play.friction for p in moving})
    ways = ways_of(x, v_top)
    low = min(p.play.low for p in moving)
    high = max(p.play.high for p in moving)
    for p in x.plan.pieces:
        q = p.at(np.linspace(p.start, p.end, 2001))[0]
        low, high = min(low, float(q.min())), max(high, float(q.max()))
    if not x.position_dependent:
        high = low
    whole = not x.winder and high - low >= 2 * pi
    if whole:
        high = low + 2 * pi
    places = np.linspace(low, high, 241 if high > low else 1)
    shares = np.linspace(0, 1, 81)
    P, S = np.meshgrid(places, shares, indexing="ij")
    # narrower than the grid: beside dead centres, and where x'' is largest; told by fine sampling of a turn
    narrow = []
    if x.crank_like:
        turn = np.linspace(0, 2 * pi, 40001)
        bend = x.radius_at(turn)[1]
        tops = (np.flatnonzero((bend[1:-1] >= bend[:-2]) & (bend[1:-1] >= bend[2:])), np.flatnonzero((bend[1:-1] <= bend[:-2]) & (bend[1:-1] <= bend[2:])))
        r = x.radius_at(turn)[0]
        narrow = [float(turn[i + 1]) for i in np.concatenate(tops)] + [float(turn[i]) for i in np.flatnonzero(r[1:] * r[:-1] <= 0)] + [0.0, pi, pi / 2]
    locks = x.eta_back < 0 or any(s[2] < 0 for s in x.stages)

    def stop_in(time):
        """The largest of all stops that take this long: torque at the motor, through the coupling, force, stages."""
        torque, through, force = Most(), Most(), Most()
        outs = [Most() for _ in x.stages]
        for d in ways:
            for payload in payloads:
                for friction in frictions if len(frictions) < 3 or locks else (frictions[0], frictions[-1]):
                    def values(place, share):
                        q = place + d * v_top * time * (share - share ** 2 / 2)
                        s = x.moving(q, d * v_top * (1 - share), -d * v_top / time + 0 * q, d, payload, 0.0, friction)
                        return [np.abs(s["T"]), np.abs(s["C"]), np.abs(s["F"])] + [np.abs(each) for each in s["O"]]
                    for at in narrow:
                        for aside in np.concatenate((-np.geomspace(1e-8, 2e-3, 25), np.geomspace(1e-8, 2e-3, 25))):
                            # every stop that passes it: the part of it that is over follows from where it began
                            where = at + aside
                            begun = np.concatenate((places, [where]))
                            way = (where - begun) * d
                            way = np.where(way < -1e-12, way + 2 * pi * np.ceil(-way / (2 * pi)), np.maximum(way, 0.0))
                            for turns in range(1 + int(v_top * time / 2 / (2 * pi)) if whole else 1 + int(v_top * time / 2 / (2 * pi)) + 1):
                                part = (way + 2 * pi * turns) / (v_top * time / 2)
                                fits = (part <= 1) & (begun >= low - 1e-12) & (begun <= high + 1e-12) if not whole else part <= 1
                                if not fits.any():
                                    continue
                                share = 1 - np.sqrt(1 - part[fits])
                                near = values(begun[fits], share)
                                for most, k in ((torque, 0), (through, 1), (force, 2), *((each, 3 + n) for n, each in enumerate(outs))):
                                    most.see(float(near[k].max()))
                    grid = values(P, S)
                    for most, k in ((torque, 0), (through, 1), (force, 2), *((each, 3 + n) for n, each in enumerate(outs))):
                        best = float(grid[k].max())
                        if best < 0.98 * most.value:
                            continue
                        most.see(best)
                        order = np.argsort(grid[k].ravel())[::-1][:60:12]
                        for i in order:
                            place, share = float(P.ravel()[i]), float(S.ravel()[i])

                            def loss(z):
                                pl = z[0] if whole else min(max(z[0], low), high)
                                return -float(values(np.array([pl]), np.array([min(max(z[1], 0.0), 1.0)]))[k][0])
                            if high > low:
                                r = minimize(loss, [place, share], method="Nelder-Mead",
                                             options={"initial_simplex": [[place, share], [place + 0.02 * (high - low), share],
                                                                          [place, share + 0.01]],
                                                      "xatol": 1e-10, "fatol": 0, "maxfev": 250})
                                most.see(-r.fun)
                                for fixed in (low, high):
                                    most.see(golden(lambda s: -loss([fixed, s]), max(share - 0.05, 0), min(share + 0.05, 1))[0])
                            else:
                                most.see(golden(lambda s: -loss([low, s]), max(share - 0.02, 0), min(share + 0.02, 1))[0])
        return torque, through, force, outs
    bound = math.inf
    if not x.direct:
        bound = number(drive.get("torque_limit"), math.inf)
    most = stop_in(time)
    if bound < math.inf:
        out["demand.stop_time"] = time
    x.stop_torque_asked = most[0].value
    if most[0].value > bound:
        # the first longer time, step by step, whose torque is enough
        longer = time
        while longer < 1e4 * time and stop_in(longer)[0].value > bound:
            before, longer = longer, longer * 1.25
        if longer < 1e4 * time:
            rate = brentq(lambda a: stop_in(1 / a)[0].value - bound, 1 / longer, 1 / before, xtol=1e-13 / time, rtol=1e-12)
            out["demand.stop_time"] = 1 / rate
            most = stop_in(1 / rate)
        else:
            out["demand.stop_time"] = None
    for all_of_it, of_the_stop in ((through, most[1]), (force, most[2])):
        all_of_it.see(of_the_stop.value)
    out["demand.emergency_torque"] = most[0].value
    return most[3]


def inertia(x):
    """load inertia at the motor, largest and smallest over the cycle"""
    fixed = (x.own + (x.m("inertia") if x.kind == "demand" else 0.0)) / x.ratio ** 2
    ahead = 1.0
    for i, _, _, j, _ in x.stages:
        fixed += j / ahead ** 2
        ahead *= i
    fixed += x.motor_side
    values = []
    if x.winder:
        values = [x.mass, x.mass + x.ring_factor * (x.full ** 4 - x.core ** 4)]
    else:
        for play in x.plan.plays:
            q = [play.low, play.high]
            for p in x.plan.pieces:
                if p.play is play:
                    n = 4001 if x.crank_like else 401
                    q = np.concatenate((q, p.at(np.linspace(p.start, p.end, n))[0]))
            q = np.asarray(q)
            if x.turning_load:
                values.append(x.mass + play.payload * x.payload_radius ** 2)
                continue
            r2 = x.radius_at(q)[0] ** 2
            values += [(x.mass + play.payload) * float(r2.max()), (x.mass + play.payload) * float(r2.min())]
            if x.crank_like and q.max() > q.min():
                i = int(r2.argmax())
                order = np.argsort(q)
                k = int(np.where(order == i)[0][0])
                a, b = q[order[max(k - 1, 0)]], q[order[min(k + 1, q.size - 1)]]
                values.append((x.mass + play.payload) * golden(lambda z: float(x.radius_at(z)[0] ** 2), a, b)[0])
                i = int(r2.argmin())
                k = int(np.where(order == i)[0][0])
                a, b = q[order[max(k - 1, 0)]], q[order[min(k + 1, q.size - 1)]]
                values.append((x.mass + play.payload) * -golden(lambda z: -float(x.radius_at(z)[0] ** 2), a, b)[0])
    return fixed + max(values) / x.ratio ** 2, fixed + min(values) / x.ratio ** 2


def shortest_ramp(x, peak_speed):
    """the sign of the acceleration at many instants of each playing, its changes by bisection"""
    found, last = [], None
    sign = lambda p, t: float(np.sign(p.at(np.array([t]))[2][0]))
    for p in x.plan.pieces:
        if p.rest or x.plan.segments[p.segment]["what"]["kind"] == "trace":
            last = None
            continue
        t = np.linspace(p.start, p.end, 2001)[1:-1]
        s = np.sign(p.at(t)[2])
        cuts = [p.start]
        for i in np.flatnonzero(s[1:] != s[:-1]):
            lo, hi = t[i], t[i + 1]
            for _ in range(60):
                middle = (lo + hi) / 2
                lo, hi = (middle, hi) if sign(p, middle) == s[i] else (lo, middle)
            cuts.append(lo)
        cuts.append(p.end)
        speeds = p.at(np.array(cuts))[1]
        for a, b, v, w in zip(cuts[:-1], cuts[1:], speeds[:-1], speeds[1:]):
            if abs(w - v) <= 1e-9 * peak_speed:
                last = None
            elif last and last[0] is p.play and (w > v) == (last[4] > last[3]):
                last[2], last[4] = b, w
            else:
                last = [p.play, a, b, v, w]
                found.append(last)
    found = [b - a for _, a, b, v, w in found if abs(w - v) >= 0.1 * peak_speed]
    return min(found) if found else None


def motion_figures(x, extra):
    plan, out = x.plan, {}
    lo = hi = plan.start
    path = moving = 0.0
    peaks = [0.0, 0.0]
    q_last = plan.start
    for p in plan.pieces:
        if not p.rest:
            moving += p.duration
            for a, b, _ in stretches(x, p):
                q = p.at(np.array([a, b]))[0]
                path += abs(float(q[1] - q[0]))
                lo, hi = min(lo, float(q.min())), max(hi, float(q.max()))
            t = np.linspace(p.start, p.end, 2001)
            for k in (1, 2):
                y = np.abs(p.at(t)[k])
                i = int(y.argmax())
                peaks[k - 1] = max(peaks[k - 1], float(y[i]),
                                   golden(lambda z: float(np.abs(p.at(np.array([z]))[k][0])), t[max(i - 1, 0)], t[min(i + 1, 2000)])[0])
        q_last = float(p.at(np.array([p.end]))[0][0])
    ramp = shortest_ramp(x, peaks[0])
    if ramp is not None:
        out["motion.shortest_ramp"], out["motion.bandwidth_needed"] = ramp, 5 / ramp / (2 * pi)
    out["motion.cycle_time"] = plan.duration
    out["motion.cycles_per_hour"] = 1 / plan.duration
    out["motion.duty"] = moving / plan.duration
    out["motion.stroke"], out["motion.advance"], out["motion.path"] = hi - lo, q_last - plan.start, path
    out["motion.path_per_year"] = path / plan.duration
    out["motion.peak_speed"], out["motion.peak_acceleration"] = peaks
    extra["low"], extra["high"] = lo, hi
    return out


BENDING = {"fixed_free": 1.875104068711961, "supported_supported": pi, "fixed_supported": 3.926602312047919,
           "fixed_fixed": 4.730040744862704}
EULER = {"fixed_free": 0.25, "supported_supported": 1.0, "fixed_supported": 2.046, "fixed_fixed": 4.0}


def limits(x, project, fig, extra, ratio):
    """(used, allowed, share) by key; None for a number that is not known"""
    axis, out = x.axis, {}
    policy = next(p for p in project["policies"] if p["name"] == axis["policy"])
    pol = lambda k: number(policy.get(k))
    motor = axis.get("motor", {})
    electric = motor.get("electric", {"kind": "sine"})
    has_motor = bool(motor.get("name")) and x.direct == (electric["kind"] == "linear")
    steps = electric["kind"].endswith("_stepper")
    model = Model(motor, axis["drive"], project["site"], number) if has_motor and not steps and len(electric) > 1 else None
    unknown = (None, None, None)
    if has_motor and electric["kind"].endswith("_stepper"):
        model = None
        stepping(x, project, axis, motor, fig, extra, ratio, pol, out)
    for k in () if has_motor and electric["kind"].endswith("_stepper") else ("speed", "peak_torque", "continuous_loss", "continuous_point", "holding", "inertia_ratio"):
        out[k] = unknown
    if "inertia_ratio" in out and ((x.direct and has_motor) or pol("inertia_ratio_over") is None):
        del out["inertia_ratio"]
    site, drive = project["site"], axis["drive"]
    if model:
        constants(x, axis, motor, model, fig, extra, pol, out)
    if has_motor and motor.get("shaft_torque") is not None:
        out["shaft"] = (max(abs(fig["demand.peak_torque"]), fig["demand.holding_torque"], fig["demand.emergency_torque"] or 0.0),
                        number(motor["shaft_torque"]), 1.0)
        open_loss = any(s.get("no_load_torque") is not None and s.get("rated_torque") is None for s in axis.get("stages", []))
        if open_loss and out["shaft"][0] <= out["shaft"][1]:
            out["shaft"] = unknown
    drive = axis["drive"]
    if not x.direct and drive.get("torque_limit") is not None and (drive.get("stop_time") or drive.get("stop_distance")):
        out["drive_stop"] = (getattr(x, "stop_torque_asked", 0.0), number(drive["torque_limit"]), 1.0)
    over = pol("inertia_ratio_over")
    if has_motor and not x.direct and over is not None and ratio is not None:
        out["inertia_ratio"] = (ratio, over, pol("inertia_ratio_tight") / over)
    if has_motor and steps:
        pass
    elif has_motor and not motor.get("peak"):
        by_constants(x, policy, model, fig, extra, pol, out)
    elif has_motor:
        low = (1 - number(drive.get("mains_tolerance"), 0.0)) * (1 - number(drive.get("bus_droop"), 0.0))
        scale = number(drive["bus_voltage"]) * low / number(motor["curve_voltage"])
        top, cont = Curve(motor["peak"], scale), Curve(motor["continuous"])
        top.cap = min(number(drive.get("torque_limit"), math.inf), parts.cap_of_drive(model) if model else math.inf)
        extra["gives"] = (min(float(top.t.max()), top.cap),) * 2
        by_ambient = (number(motor["winding_limit"]) - number(site["ambient"])) / (number(motor["winding_limit"]) - number(motor["rated_ambient"]))
        height = number(site["altitude"])
        f = min(1.0, max(0.0, by_ambient * (1 - 1e-4 * (height - 1000) if height > 1000 else 1)))
        f *= number(motor.get("derating"), 1.0) ** 2
        stall = float(cont.at(0.0))
        out["speed"] = (fig["demand.peak_speed"], min(number(motor["max_speed"]), top.w[-1]), pol("speed_share"))
        # the worst use of the peak curve: by samples, then finely between neighbours where it may be worse
        used, allowed, worst = 0.0, float(top.at(0.0)), 0.0
        for w, T, _ in extra["curve"]:
            c = top.at(w)
            with np.errstate(divide="ignore", invalid="ignore"):
                u = np.where(c > 0, T / np.where(c > 0, c, 1), np.where(T == 0, 0.0, np.inf))
            i = int(u.argmax())
            if u[i] > worst:
                worst, used, allowed = float(u[i]), float(T[i]), float(c[i])
            if np.isfinite(u[i]) and u.size > 2 and u[i] > worst * (1 - 1e-3):
                a, b = max(i - 1, 0), min(i + 1, u.size - 1)
                # torque and speed between neighbouring samples are all but straight: follow both
                s = np.linspace(0, 1, 201)
                for lo in (a, i):
                    hi = min(lo + 1, b)
                    tt, ww = T[lo] + s * (T[hi] - T[lo]), w[lo] + s * (w[hi] - w[lo])
                    cc = top.at(ww)
                    if (cc <= 0).any():
                        continue
                    k = int((tt / cc).argmax())
                    if tt[k] / cc[k] > worst:
                        worst, used, allowed = float(tt[k] / cc[k]), float(tt[k]), float(cc[k])
        out["peak_torque"] = (used, allowed, pol("peak_torque_share"))
        # what may be lost in copper at each instant; where a brake holds the motor stands
        left, awake = 0.0, 0.0
        for weight, w, _ in extra["samples"]:
            now = cont.at(w) ** 2
            left += float((weight * (now - (1 - f) * np.maximum(stall ** 2, now))).sum())
            awake += float(np.sum(weight))
        left = (left + (x.plan.duration - awake) * f * stall ** 2) / x.plan.duration
        share = pol("continuous_share")
        inside = fig["demand.peak_speed"] <= cont.w[-1] * (1 + 1e-12)
        used = fig["demand.rms_torque"] if left >= 0 else max(fig["demand.rms_torque"], 1e-300)
        out["continuous_loss"] = (used, sqrt(max(0, left)), share) if inside else unknown
        w = fig["demand.mean_speed"] if policy.get("point_speed", "mean") == "mean" else fig["demand.rms_speed"]
        if w <= cont.w[-1]:
            c = float(cont.at(w))
            out["continuous_point"] = (fig["demand.rms_torque"],
                                       min(sqrt(max(0, c ** 2 - (1 - f) * max(stall, c) ** 2)), float(top.at(w))), share)
        out["holding"] = (fig["demand.holding_torque"], stall * sqrt(f), share)
        at_speed = lambda w: 1 - (cont.at(np.minimum(np.abs(w), cont.w[-1])) / stall) ** 2
        if not inside:
            pass  # the curve is not extrapolated
        elif not model:
            warm(x, site, motor, None, fig, extra, stall, fig["demand.rms_torque"] ** 2, stall ** 2, at_speed, 0.0)
        elif fig["motor.copper_loss"] is not None:
            i = abs(float(model.draw(np.array([stall]), np.array([0.0]), model.hot, voltage=False)[1][0]))
            rated = (1.5 if model.sine else 1.0) * i * i * model.res(model.hot) + (0 if model.sine else model.drop * i)
            if rated == rated:
                warm(x, site, motor, model, fig, extra, stall, fig["motor.copper_loss"], rated, at_speed, model.magnet)
    if extra["falls"] > 0 or extra["hold_braked"] > 1e-12 * abs(fig["demand.peak_torque"]):
        need = extra["hold_braked"] if x.tension else fig["demand.static_torque"]
        holding = parts.brakes_of(axis, has_motor, x, number)
        out["brake"] = (pol("brake_static_factor") * need, sum(b[0] for b in holding), 1.0) if has_motor or holding else unknown
    sheets = [] if x.direct else axis.get("stages", [])
    for limit, field, what in (("stage_peak", "peak_torque", "peak"), ("stage_equivalent", "rated_torque", "equivalent"),
                               ("stage_emergency", "emergency_torque", "emergency"), ("stage_mean_speed", "nominal_speed", "mean"),
                               ("stage_speed", "top_speed", "top")):
        if limit == "stage_emergency" and drive.get("stop_time") is None and drive.get("stop_distance") is None:
            continue
        clauses = [((use[what] or 0.0) if s.get(field) is not None else None,
                    number(s[field]) * (number(s.get("peak_share"), 1.0) if field == "peak_torque" else 1.0) if s.get(field) is not None else None)
                   for s, use in zip(sheets, extra["stages"])]  # planetary gearheads are asked for all of them
        if clauses:
            out[limit] = parts.worst_of(clauses)
    for limit, has, may in (("stage_radial", "radial_load", "radial_rating"), ("stage_axial", "axial_load", "axial_rating"),
                            ("stage_tilting", "tilting_moment", "tilting_rating")):
        asked = [(s.get(has), s[may]) for s in sheets if s.get(may) is not None]
        if asked:
            out[limit] = parts.worst_of([(number(h) if h is not None else None, number(m)) for h, m in asked])
    told = x.kind != "demand" or x.m("inertia", None) is not None
    gives = extra.get("gives", (None, None))
    parts.coupling(x, axis, number, extra, *gives, told, out)
    parts.coupling_rest(x, axis, number, fig, has_motor, out)
    parts.braking(x, axis, number, fig, extra, has_motor, told, out)
    parts.windows(axis, number, out)
    if model:
        lost = fig["motor.rms_current"] is None
        parts.overload(x, axis, number, extra, model, lost, out)
        parts.standstill(axis, number, fig, model, lost, out)
        if fig.get("beyond the voltage") and model.weakens:  # at least so much
            for key in ("motor_current", "drive_current", "drive_overload"):
                if key in out and out[key][0] is not None and out[key][0] <= out[key][1]:
                    out[key] = unknown
    elif has_motor and not steps and parts.drive_there(drive):
        out["drive_current"] = out["drive_overload"] = unknown
        if drive.get("standstill_share") is not None:
            out["drive_standstill"] = unknown
    # a drive in place whose currents are not given: what it leaves of the curves may be less
    if has_motor and not steps and parts.drive_there(drive):
        for key, field, by_model in (("peak_torque", "peak_current", False), ("continuous_point", "continuous_current", True), ("holding", "continuous_current", True)):
            by_it = motor.get("continuous") in (None, []) if by_model else True
            if by_it and drive.get(field) is None and out[key][0] is not None and out[key][0] <= out[key][1]:
                out[key] = unknown
    if x.kind == "screw":
        m, root = x.m, x.m("root_diameter", None)
        speed = fig["demand.peak_speed"] / x.ratio
        free = m("free_length", m("length"))
        loaded = m("loaded_length", free)
        turning = x.mech.get("turns", "screw") == "screw"
        if turning:
            out["critical_speed"] = unknown
        out["buckling"] = unknown
        if root:
            e, rho = m("elastic_modulus"), m("density")
            if turning:
                out["critical_speed"] = (speed, BENDING[x.mech["fixity"]] ** 2 / free ** 2 * sqrt(e / rho) * root / 4, pol("critical_speed_share"))
            stiff = EULER[x.mech["fixity"]] * pi ** 2 * e
            permits = stiff * pi * root ** 4 / 64 / loaded ** 2
            if x.mech.get("yield_strength") is not None:
                # Johnson's parabola touches Euler's curve where half of the yield strength is left
                R, A = m("yield_strength"), pi * root ** 2 / 4
                if permits > A * R / 2:
                    permits = A * R - (A * R) ** 2 / (4 * permits)
            out["buckling"] = (fig["demand.axial_force"], permits, pol("buckling_share"))
            # a stocky screw yields first
            if x.mech.get("yield_strength") is None and 0 < fig["demand.axial_force"] <= permits * (1 + 1e-12):
                out["buckling"] = unknown
        parts.screw(x, fig, extra, out)
        if x.mech.get("speed_value") is not None:
            out["speed_value"] = (m("diameter") * speed / (2 * pi), m("speed_value"), 1.0)
    return out


def warm(x, site, motor, model, fig, extra, stall, copper, rated, at_speed, fall):
    """mean temperature of the winding by the rating: the lowest that keeps itself, by scanning; None of a runaway"""
    limit, rated_ambient = number(motor["winding_limit"]) - 273.15, number(motor["rated_ambient"]) - 273.15
    ambient, height = number(site["ambient"]) - 273.15, number(site["altitude"])
    hot = model.hot if model else limit
    rated *= (235 + limit) / (235 + hot)
    air = 1 - 1e-4 * (height - 1000) if height > 1000 else 1.0
    r = (limit - rated_ambient) / rated / air / number(motor.get("derating"), 1.0) ** 2
    other = sum(float((weight * at_speed(w)).sum()) for weight, w, _ in extra["samples"]) / x.plan.duration * rated

    def keeps(t):
        flux = (1 - fall * (t - 20)) / (1 - fall * (hot - 20))
        if flux <= 0:
            return math.inf
        return ambient + r * (copper * (235 + t) / (235 + hot) / flux ** 2 + other) - t
    step, t = 0.5, ambient
    while t < 3000:
        if keeps(t + step) <= 0:
            lo, hi = t, t + step
            for _ in range(60):
                mid = (lo + hi) / 2
                lo, hi = (mid, hi) if keeps(mid) > 0 else (lo, mid)
            fig["heat.winding_mean"] = lo + 273.15
            return
        t += step
    fig["heat.winding_mean"] = None


def worst_use(extra, allowed, at_rest):
    """torque, and what is allowed there, where most of it is used"""
    used, most, worst = 0.0, at_rest, 0.0
    for w, T, b in extra["curve"]:
        c = allowed(w, b)
        with np.errstate(divide="ignore", invalid="ignore"):
            u = np.where(c > 0, T / np.where(c > 0, c, 1), np.where(T == 0, 0.0, np.inf))
        i = int(u.argmax())
        if u[i] > worst:
            worst, used, most = float(u[i]), float(T[i]), float(c[i])
    return used, most


def stepping(x, project, axis, motor, fig, extra, ratio, pol, out):
    """an open-loop stepper: pull-out, current, start, resonance, pulses"""
    drive = axis["drive"]
    m = Stepper(motor, drive, project["site"], number)
    tight, over = pol("pull_out_tight") or 0.5, pol("pull_out_over") or 0.65
    gives = lambda w: float(m.peak(np.array([w]))[0]) > 1e-3 * m.holds()
    end = m.mech
    if not gives(end):
        lo, hi = 0.0, end
        for _ in range(60):
            mid = (lo + hi) / 2
            lo, hi = (mid, hi) if gives(mid) else (lo, mid)
        end = lo
    grid = np.unique(np.concatenate((np.linspace(0, end, 3001), [end * 1e-6])))
    cap = number(drive.get("torque_limit"), math.inf)
    drives, brakes = np.minimum(cap, m.peak(grid)), np.minimum(cap, m.brakes(grid))
    extra["gives"] = (float(drives.max()), float(brakes.max()))
    allowed = lambda w, b: np.where(w > end * (1 + 1e-9), 0.0, np.where(b, np.interp(w, grid, brakes), np.interp(w, grid, drives)))
    out["speed"] = (fig["demand.peak_speed"], end, pol("speed_share"))
    used, most = worst_use(extra, allowed, float(drives[0]))
    out["peak_torque"] = (used, over * most, tight / over)
    holds = m.holds()
    out["holding"] = (fig["demand.holding_torque"], over * holds * m.idle, tight / over)
    square, stood = 0.0, 0.0
    for p in x.plan.pieces:
        what = x.plan.segments[p.segment]["what"]
        if p.rest and what["kind"] == "dwell" and what.get("brake_holds", False):
            continue
        if not p.rest:
            stood, full = 0.0, p.duration
        else:
            full = min(max(m.delay - stood, 0.0), p.duration)
            stood += p.duration
        square += m.set_rms ** 2 * (full + (p.duration - full) * m.idle ** 2)
    fig["motor.rms_current"] = sqrt(square / x.plan.duration)
    out["phase_current"] = (fig["motor.rms_current"], m.rated * sqrt(m.f), 1.0)
    fig["stepper.holding_torque"] = holds
    n = number(drive.get("microsteps"), 1.0)
    fig["stepper.microstep_torque"] = holds * math.sin(pi / (m.phases * n))
    fig["stepper.pulse_rate"] = n * fig["demand.peak_speed"] / m.step
    told = ratio is not None
    if told:
        both = ratio * x.rotor + x.rotor
        f = sqrt(m.p * holds / both) / (2 * pi)
        fig["stepper.resonance"] = f
        if drive.get("ramp_start") is not None:
            out["start_rate"] = (number(drive["ramp_start"]) / m.step, m.start / sqrt(1 + ratio), 1.0) if m.start else (None, None, None)
        over_ratio = pol("inertia_ratio_over")
        if over_ratio is not None:
            out["inertia_ratio"] = (ratio, over_ratio, pol("inertia_ratio_tight") / over_ratio)
    else:
        if pol("inertia_ratio_over") is not None:
            out["inertia_ratio"] = (None, None, None)
        if drive.get("ramp_start") is not None:
            out["start_rate"] = (None, None, None)
    if drive.get("pulse_limit") is not None:
        out["pulse_rate"] = (fig["stepper.pulse_rate"], number(drive["pulse_limit"]), 1.0)


def constants(x, axis, motor, model, fig, extra, pol, out):
    """what rests on the constants of the motor, whether or not its sheet has curves"""
    drive, electric = axis["drive"], motor["electric"]
    square = loss = most = volts = 0.0
    lost = beyond = False
    for weight, w, T in extra["samples"]:
        d, q = model.draw(T, w, model.hot)
        d0, q0 = model.draw(T, w, model.hot, voltage=False)
        beyond = beyond or bool((np.isnan(q) & ~np.isnan(q0)).any())
        d, q = np.where(np.isnan(q), d0, d), np.where(np.isnan(q), q0, q)
        lost = lost or np.isnan(q).any()
        i = np.hypot(d, q)
        square += float((weight * i * i).sum()) / model.amperes ** 2
        loss += float((weight * ((1.5 if model.sine else 1.0) * i * i * model.res(model.hot) + (0 if model.sine else model.drop * i))).sum())
        most = max(most, float(i.max()) / model.amperes)
        for at in (model.cold, model.hot):
            d, q = model.draw(T, w, at, voltage=False)
            if model.sine:
                volts = max(volts, float((sqrt(3) * model.volts(d, np.sign(np.where(w < 0, -1, 1)) * q, np.abs(w), at)).max()))
            else:
                volts = max(volts, float(np.abs(model.res(at) * q + model.ke * model.flux(at) * w + np.sign(q) * model.drop).max()))
    rms = sqrt(square / x.plan.duration)
    for T in (fig["demand.peak_torque"], fig.get("demand.breakaway_torque") or 0.0):
        for at in (model.cold, model.hot):
            d, q = model.draw(np.array([T]), np.array([0.0]), at, voltage=False)
            if T == (fig.get("demand.breakaway_torque") or 0.0):
                drop = 0.0 if model.sine else model.drop
                volts = max(volts, (sqrt(3) if model.sine else 1.0) * model.res(at) * abs(float(q[0])) + drop * (T != 0))
        # a motor that brakes is helped by its own friction; where it drives the samples have more than this
        helped = abs(T) - (0.0 if model.sine or T == (fig.get("demand.breakaway_torque") or 0.0) else model.friction20)
        most = max(most, abs(float(model.iq(np.array([max(0.0, helped)]), model.hot, 0.0)[0])) / model.amperes)
    fig["motor.rms_current"], fig["motor.peak_current"] = (None, None) if lost else (rms, most)
    fig["motor.copper_loss"] = None if lost else loss / x.plan.duration
    fig["beyond the voltage"] = beyond
    unknown = (None, None, None)
    out["motor_current"] = unknown if lost else (most, model.ip, 1.0)
    if parts.drive_there(drive):
        steady, peak = (i if drive.get(k) is not None else None for i, k in zip(model.i_drive, ("continuous_current", "peak_current")))
        out["drive_current"] = unknown if lost else parts.worst_of([(most, peak), (rms, steady)])
    if not model.weakens:
        there = sqrt(3) * model.u if model.sine else model.u
        out["voltage"] = unknown if lost else (volts, there, pol("voltage_share") or 1.0)
    if drive.get("trip_voltage") is not None:
        line = (sqrt(3) if model.sine else 1.0) * model.ke * model.flux(model.cold)
        out["open_circuit_emf"] = (line * fig["demand.peak_speed"], number(drive["trip_voltage"]), 1.0)
    if electric.get("brush_speed") is not None:
        out["brush_speed"] = (fig["demand.peak_speed"], number(electric["brush_speed"]), 1.0)
    if electric.get("rated_voltage") is not None:
        out["bus_rating"] = (number(drive["bus_voltage"]), 2 * number(electric["rated_voltage"]), 1.0)


def by_constants(x, policy, model, fig, extra, pol, out):
    """the limits that rest on curves, of a motor without points"""
    end = model.end()
    grid = np.unique(np.concatenate((np.linspace(0, end, 2001), [end * 1e-6])))
    cap = math.inf if x.direct else number(x.axis["drive"].get("torque_limit"), math.inf)
    drives, brakes = np.minimum(cap, model.peak(grid)), np.minimum(cap, model.brakes(grid))
    extra["gives"] = (float(drives.max()), float(brakes.max()))
    allowed = lambda w, b: np.where(w > end * (1 + 1e-9), 0.0, np.where(b, np.interp(w, grid, brakes), np.interp(w, grid, drives)))
    out["speed"] = (fig["demand.peak_speed"], min(model.mech, end), pol("speed_share"))
    used, most = worst_use(extra, allowed, float(drives[0]))
    out["peak_torque"] = (used, most, pol("peak_torque_share"))
    copper, speed_takes, beyond = 0.0, 0.0, False
    for weight, w, T in extra["samples"]:
        d, q = model.draw(T, w, model.hot)
        beyond = beyond or np.isnan(q).any()
        takes = model.by_speed * (np.abs(w) / model.w_rated) ** 2 / (model.f * model.square)
        speed_takes += float((weight * takes).sum()) / x.plan.duration
        copper += float((weight * (model.heat(d, q, w) - takes)).sum()) / x.plan.duration
    share, reference = pol("continuous_share"), model.reference()
    if not beyond:
        used = sqrt(max(0.0, copper)) * reference
        out["continuous_loss"] = (used if speed_takes <= 1 else max(used, 1e-300), reference * sqrt(max(0.0, 1 - speed_takes)), share)
    w = fig["demand.mean_speed"] if policy.get("point_speed", "mean") == "mean" else fig["demand.rms_speed"]
    if w <= end:
        out["continuous_point"] = (fig["demand.rms_torque"], min(model.continuous(w), float(model.peak(np.array([w]))[0]), cap), share)
    out["holding"] = (fig["demand.holding_torque"], model.continuous(0.0), share)
    if fig["motor.copper_loss"] is not None:
        rated = (1.5 if model.sine else 1.0) * model.square * model.res(model.hot)
        warm(x, x.project["site"], x.axis["motor"], model, fig, extra, None, fig["motor.copper_loss"], rated,
             lambda w: model.by_speed * (w / model.w_rated) ** 2 / model.square, model.magnet)


def state(limit):
    if limit == "by place":
        return "fits"
    used, allowed, share = limit
    if used is None or allowed is None:
        return "cannot_say"
    return "over" if used > allowed * (1 + 1e-12) else "tight" if used > allowed * share * (1 + 1e-12) else "fits"


def worse(a, b):
    """Of two fills or cycles: over in one is over; else what cannot be said of one cannot be said of the axis."""
    for verdict in ("over", "cannot_say"):
        said = [l for l in (a, b) if state(l) == verdict]
        if len(said) == 1 or (said and verdict == "cannot_say"):
            return said[0]
    if "by place" in (a, b):
        return "by place"
    use = lambda l: 0.0 if l[0] == 0 else l[0] / l[1] if l[1] > 0 else math.inf
    return b if use(b) > use(a) else a


def assess(project, axis):
    """Figures of the first cycle, limits of all."""
    first = assess_cycle(project, axis)
    if first is None:
        return None
    figures, judged = first
    for cycle in axis.get("further_cycles", []):
        other = assess_cycle(project, {**axis, "cycle": cycle})
        if other is None:
            return None
        judged = {k: worse(judged[k], other[1][k]) if k in judged and k in other[1] else judged.get(k, other[1].get(k))
                  for k in {**judged, **other[1]}}
    return figures, judged


def assess_cycle(project, axis):
    x = Axis(project, axis)
    probe = {}
    fig = motion_figures(x, probe)
    most, least = inertia(x)
    figures = dict(fig)
    told = x.kind != "demand" or x.m("inertia", None) is not None
    if told:
        figures["load.inertia"], figures["load.inertia_least"] = most, least
    if x.rotor > 0:
        figures["load.rotor_inertia"] = x.rotor
        if told:
            figures["load.inertia_ratio"] = most / x.rotor
    figures["load.efficiency_forward"], figures["load.efficiency_backward"] = x.eta, x.eta_back
    if not x.direct:
        figures["load.shaft_drag"] = x.drag
    fills = [None]
    if x.winder:
        holds = pi * (x.full ** 2 - x.core ** 2) / x.m("web_thickness")
        below, above = x.plan.start - probe["low"], probe["high"] - x.plan.start
        before, room = (below, above) if x.way > 0 else (above, below)
        if holds - before - room < 0:
            return None
        fills = [before + (holds - before - room) * i / 4 for i in range(5)]
    best, all_limits = None, None
    for i, web in enumerate(fills):
        x.web = web or 0.0
        d, extra = demand(x)
        now = limits(x, project, d, extra, most / x.rotor if x.rotor > 0 and told else None)
        if x.winder:
            figures[f"demand.fill_{i}.rms_torque"] = d["demand.rms_torque"]
            figures[f"demand.fill_{i}.peak_torque"] = d["demand.peak_torque"]
        all_limits = now if all_limits is None else {k: worse(all_limits[k], now[k]) if k in all_limits else now[k]
                                                     for k in {**all_limits, **now}}
        if best is None or d["demand.rms_torque"] > best["demand.rms_torque"]:
            best = d
    figures.update(best)
    return figures, all_limits
