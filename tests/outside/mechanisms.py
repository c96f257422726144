"""The demand of every kind of mechanism written out again from its textbook equations, integrated by scipy.

Reads a JSON list of axes: SI values by field, the kind, stages, rotor inertia and a cycle of cycloidal moves and dwells.
Prints RMS torque, largest torque, energy delivered and returned of each. No code of the program is shared, only the physics.
"""
import json
import math
import sys
import warnings

import numpy as np
from scipy.integrate import IntegrationWarning, quad
from scipy.optimize import brentq

pi, sin, cos, sqrt = math.pi, math.sin, math.cos, math.sqrt

warnings.simplefilter("ignore", IntegrationWarning)  # 1e-11 is asked so that 1e-9 is had


class Axis:
    def __init__(self, given):
        self.p = given["fields"]
        self.kind = given["kind"]
        self.g = given["gravity"]
        self.rotor = given["rotor"]
        self.stages = given["stages"]  # [ratio, inertia, efficiency], motor side first
        self.eta = self.get("mechanism/losses/efficiency", self.get("mechanism/efficiency", 1.0))
        self.drag = (self.get("mechanism/losses/drag") + self.get("mechanism/preload_drag")
                     + self.get("mechanism/bearing_drag"))
        self.payload = self.get("load/payload")
        getattr(self, self.kind)()

    def get(self, name, otherwise=0.0):
        v = self.p.get(name)
        return otherwise if v is None else v

    def m(self, name, otherwise=0.0):
        return self.get("mechanism/" + name, otherwise)

    # each kind sets: own (inertia on its shaft), radius(q) = dx/dθ, bend(q) = d²x/dθ², q_is_angle, mass(q), force(q, v, d)

    def line(self, radius, own, mass, weight, incline=None, extra_drag=0.0, constant=0.0):
        gamma = self.get("load/inclination") if incline is None else incline
        normal = abs(weight * self.g * cos(gamma)) if abs(gamma - pi / 2) > 1e-12 else 0.0
        friction = self.get("load/guide_friction") * (normal + self.get("load/guide_preload")) + self.get("load/seal_drag")
        self.own, self.angle, self.r = own, False, radius
        self.radius, self.bend = (lambda q: radius), (lambda q: 0.0)
        self.mass = lambda q: mass
        pull = weight * self.g * sin(gamma) - self.get("load/counterbalance") - self.lifted() + constant
        self.force = lambda q, v, d: pull + d * (friction + extra_drag) + self.get("load/viscous") * v

    def lifted(self):
        return self.get("load/counterweight") * self.g if self.kind not in ("conveyor", "feed_rolls") else 0.0

    def carried(self):
        both = self.get("load/carriage_mass") + self.payload
        return both + self.get("load/counterweight"), both

    def screw(self):
        d = self.m("diameter")
        if self.m("root_diameter"):
            d = (d + self.m("root_diameter")) / 2
        own = self.m("density") * pi * d ** 2 / 4 * self.m("length") * d ** 2 / 8
        self.line(self.m("lead") / (2 * pi), own, *self.carried())

    def rack(self):
        self.line(self.m("module") * self.m("teeth") / 2, self.m("pinion_inertia"), *self.carried())

    def belt(self):
        r = self.m("teeth") * self.m("pitch") / (2 * pi)
        idlers = self.m("idlers") * self.m("idler_inertia") * (r / (self.m("idler_diameter") / 2)) ** 2
        self.line(r, self.m("pulley_inertia") + idlers + self.m("belt_mass") * r ** 2, *self.carried())

    def linear_motor(self):
        self.eta = 1.0
        self.line(1.0, 0.0, *self.carried())

    def free(self):
        r = self.m("travel") / (2 * pi)
        self.line(r, self.m("inertia"), *self.carried(), extra_drag=self.m("friction_torque") / r,
                  constant=self.m("constant_torque") / r)

    def demand(self):
        self.line(self.m("lead") / (2 * pi), 0.0, 0.0, 0.0, incline=0.0)

    def conveyor(self):
        t = self.m("belt_thickness")
        r = self.m("pulley_diameter") / 2 + t / 2
        roller = self.m("roller_diameter") / 2 + t / 2
        own = ((1 + self.m("pulleys")) * self.m("pulley_inertia") + self.m("rollers") * self.m("roller_inertia")
               * (r / roller) ** 2 + self.m("belt_mass") * r ** 2)
        self.line(r, own, self.payload, self.payload, extra_drag=self.m("belt_drag"))

    def feed_rolls(self):
        r = self.m("roll_diameter") / 2
        own = self.m("roll_inertia") + self.m("follower_inertia") * (r / (self.m("follower_diameter") / 2)) ** 2
        self.p = dict(self.p, **{"load/counterbalance": None})
        self.line(r, own, self.payload, self.payload, incline=0.0, constant=self.m("tension"))

    def hoist(self):
        self.p = dict(self.p, **{"load/counterbalance": None})
        self.line(self.m("drum_diameter") / 2 / self.m("falls"), self.m("drum_inertia"), *self.carried(), incline=pi / 2)

    def swing(self, own, moment, level, load_inertia, friction):
        """a rotary load: inertia, and a gravity torque moment · cos(θ − level)"""
        self.own, self.angle, self.r = own, True, 1.0
        self.radius, self.bend = (lambda q: 1.0), (lambda q: 0.0)
        self.mass = lambda q: load_inertia
        self.force = lambda q, v, d: moment * cos(q - level) + d * friction

    def table(self):
        r = self.m("payload_radius")
        self.swing(self.m("table_inertia"), self.payload * self.g * sin(self.m("tilt")) * r, self.m("horizontal_at"),
                   self.payload * r ** 2, self.m("friction_torque"))

    def arm(self):
        m, c, r = self.m("arm_mass"), self.m("arm_centre"), self.m("payload_radius")
        self.swing(m * (2 * c) ** 2 / 3, (m * c + self.payload * r) * self.g, self.m("horizontal_at"),
                   self.payload * r ** 2, self.m("friction_torque"))

    def fan(self):
        k = self.m("reference_torque") / self.m("reference_speed") ** 2
        self.swing(self.m("rotor_inertia"), 0.0, 0.0, 0.0, 0.0)
        self.force = lambda q, v, d: k * v * abs(v)

    def crank_drive(self, x1, x2):
        _, both = self.carried()
        self.line(1.0, self.m("crank_inertia"), both, both)
        self.angle, self.radius, self.bend = True, x1, x2

    def slider_crank(self):
        c, l = self.m("crank"), self.m("rod")
        w = lambda q: sqrt(l * l - (c * sin(q)) ** 2)
        x1 = lambda q: -c * sin(q) - c * c * sin(q) * cos(q) / w(q)
        x2 = lambda q: -c * cos(q) - c * c * cos(2 * q) / w(q) - (c * c * sin(q) * cos(q)) ** 2 / w(q) ** 3
        self.crank_drive(x1, x2)

    def scotch_yoke(self):
        c = self.m("crank")
        self.crank_drive(lambda q: c * cos(q), lambda q: -c * sin(q))

    def winder(self):
        self.own, self.angle = self.m("core_inertia"), False
        core, thick = self.m("core_diameter") / 2, self.m("web_thickness")
        self.roll = lambda s: sqrt(core ** 2 + s * thick / pi)
        self.ring = lambda s: pi * self.m("web_density") * self.m("web_width") / 2 * (self.roll(s) ** 4 - core ** 4)
        self.web = pi * ((self.m("roll_diameter") / 2) ** 2 - core ** 2) / thick / 2  # half of the web

    def at_mechanism(self, q, v, a):
        """(torque before the efficiency, torque, speed, acceleration) of the mechanism's shaft"""
        moving = v != 0
        if self.kind == "winder":
            s = self.web + q
            r = self.roll(s)
            growth = self.m("web_thickness") * v / (2 * pi * r)
            speed, accel = v / r, (a * r - v * growth) / r ** 2
            load = self.m("tension") * r + self.ring(s) * accel
            lever, load_speed = 1.0, speed
        elif self.angle:
            lever = self.radius(q)
            speed, accel = v, a
            load_speed = lever * v
            d = (load_speed > 0) - (load_speed < 0)
            load = self.mass(q) * (lever * a + self.bend(q) * v * v) + self.force(q, load_speed, d)
        else:
            lever = self.radius(q)
            speed, accel = v / lever, a / lever
            load_speed = v
            load = self.mass(q) * a + self.force(q, v, (v > 0) - (v < 0))
        if not moving:
            return load, load * lever, 0.0, 0.0
        factor = 1 / self.eta if load * load_speed >= 0 else 2 - 1 / self.eta
        way = 1 if speed > 0 else -1
        return load, load * lever * factor + way * self.drag + self.own * accel, speed, accel

    def motor(self, q, v, a):
        """torque and speed at the motor, and every quantity whose sign switches an efficiency"""
        load, t, w, acc = self.at_mechanism(q, v, a)
        decide = [load]
        for ratio, inertia, eta in reversed(self.stages):
            decide.append(t)
            if v != 0:
                t = t / eta if t * w >= 0 else t * (2 - 1 / eta)
            w, acc = w * ratio, acc * ratio
            t = t / ratio + inertia * acc
        t += self.rotor * acc
        return t, w, decide + [t]


def run(axis, cycle):
    heat = delivered = returned = peak = total = 0.0
    q0 = cycle["start"]
    for d, T in cycle["segments"]:
        total += T
        x = lambda t: q0 + d * (t / T - sin(2 * pi * t / T) / (2 * pi))
        v = lambda t: d / T * (1 - cos(2 * pi * t / T)) if d else 0.0
        a = lambda t: 2 * pi * d / T ** 2 * sin(2 * pi * t / T)
        if d == 0:
            t, _, _ = axis.motor(q0, 0.0, 0.0)
            heat += t * t * T
            peak = max(peak, abs(t))
            continue
        f = lambda t: axis.motor(x(t), v(t), a(t))
        eps = T * 1e-9
        grid = np.linspace(eps, T - eps, 6001)
        rows = [f(t) for t in grid]
        edges = [0.0, T]
        if axis.angle:  # dead centres
            lever = [axis.radius(x(t)) for t in grid]
            for i in range(len(grid) - 1):
                if lever[i] * lever[i + 1] < 0:
                    edges.append(brentq(lambda t: axis.radius(x(t)), grid[i], grid[i + 1], xtol=1e-15))
        for k in range(len(rows[0][2])):
            for i in range(len(grid) - 1):
                if rows[i][2][k] * rows[i + 1][2][k] < 0:
                    edges.append(brentq(lambda t: f(t)[2][k], grid[i], grid[i + 1], xtol=1e-15))
        edges.sort()
        peak = max(peak, max(abs(r[0]) for r in rows))
        for lo, hi in zip(edges, edges[1:]):
            if hi - lo < 1e-12:
                continue
            lo, hi = lo + 1e-13, hi - 1e-13
            heat += quad(lambda t: f(t)[0] ** 2, lo, hi, epsabs=0, epsrel=1e-11, limit=200)[0]
            power = lambda t: (lambda s: s[0] * s[1])(f(t))
            e = quad(power, lo, hi, epsabs=1e-12, epsrel=1e-11, limit=200)[0]
            if e > 0:
                delivered += e
            else:
                returned -= e
        q0 += d
    return {"rms": sqrt(heat / total), "peak": peak, "delivered": delivered, "returned": returned}


print(json.dumps([run(Axis(g), g["cycle"]) for g in json.load(open(sys.argv[1]))]))
