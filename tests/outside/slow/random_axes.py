"""Random axes over every mechanism, segment, body, stage, brake, winder and stop, written as project files in SI units."""
import json
import math

import numpy as np

KINDS = ("screw", "rack", "belt", "table", "conveyor", "feed_rolls", "winder", "hoist", "arm", "slider_crank", "scotch_yoke", "fan",
         "linear_motor", "free", "demand")
LAWS = ("trapezoid", "parabolic", "simple_harmonic", "cycloidal", "modified_trapezoid", "modified_sine", "polynomial_345",
        "polynomial_4567")
ROTARY = ("table", "arm", "slider_crank", "scotch_yoke", "fan")
POLICIES = [
    {"name": "mean", "inertia_ratio_tight": "5", "inertia_ratio_over": "10", "speed_share": "90 %", "peak_torque_share": "90 %",
     "continuous_share": "85 %", "point_speed": "mean", "brake_static_factor": "2", "critical_speed_share": "80 %",
     "buckling_share": "50 %"},
    {"name": "rms", "inertia_ratio_tight": "1.5", "inertia_ratio_over": "3", "speed_share": "80 %", "peak_torque_share": "60 %",
     "continuous_share": "70 %", "point_speed": "rms", "brake_static_factor": "1.5", "critical_speed_share": "70 %",
     "buckling_share": "30 %"},
    {"name": "no ratio", "speed_share": "90 %", "peak_torque_share": "90 %", "continuous_share": "85 %", "brake_static_factor": "2",
     "critical_speed_share": "80 %", "buckling_share": "50 %"}]
MATERIALS = [{"name": "Steel", "density": "7850 kg/m³"}, {"name": "Aluminium", "density": "2700 kg/m³"}]


def number_of(text):
    return float(text.split(" ")[0])


class Maker:
    def __init__(self, rng):
        self.r = rng

    def u(self, lo, hi, unit=""):
        """between lo and hi, spread by magnitude; four digits, as people write"""
        v = math.exp(self.r.uniform(math.log(lo), math.log(hi)))
        return f"{float(f'{v:.4g}'):g}" + (" " + unit if unit else "")

    def flat(self, lo, hi, unit=""):
        return f"{float(f'{self.r.uniform(lo, hi):.4g}'):g}" + (" " + unit if unit else "")

    def maybe(self, share):
        return self.r.random() < share

    def pick(self, *of):
        return of[int(self.r.integers(len(of)))]

    def fill(self, into, key, share, value):
        if self.maybe(share):
            into[key] = value()

    def losses(self):
        out = {"efficiency": self.flat(0.4, 1)}
        self.fill(out, "efficiency_back", 0.3, lambda: self.flat(-0.4, 0.9))
        self.fill(out, "drag", 0.5, lambda: self.u(0.005, 0.5, "N·m"))
        return out

    # -- mechanisms
    def mechanism(self, kind):
        m, u, f = {"kind": kind}, self.u, self.fill
        j = lambda: u(1e-6, 1e-2, "kg·m²")
        if kind == "screw":
            d = float(u(0.008, 0.06))
            m |= {"thread": self.pick("ball", "trapezoidal", "roller"), "turns": self.pick("screw", "screw", "nut"),
                  "fixity": self.pick("fixed_free", "supported_supported", "fixed_supported", "fixed_fixed"),
                  "diameter": f"{d:g} m", "length": u(0.2, 3, "m"), "density": "7850 kg/m³", "elastic_modulus": "206 GPa",
                  "thread_friction": self.flat(0.003, 0.2), "flank_half_angle": self.flat(0, 0.3, "rad")}
            starts = int(self.r.integers(1, 5))
            pitch = float(f"{d * self.r.uniform(0.08, 0.3):.3g}")
            m["lead"] = f"{pitch * starts:.10g} m"
            if m["thread"] == "trapezoidal":
                if self.maybe(0.5):
                    m["starts"] = str(starts)
                else:
                    m["pitch"] = f"{pitch:.10g} m"
                f(m, "collar_friction", 0.3, lambda: self.flat(0.02, 0.2))
                if "collar_friction" in m:
                    m["collar_diameter"] = f"{d * 1.3:.6g} m"
            elif self.maybe(0.2):
                m["starts"], m["collar_friction"] = "3", "0.3"  # of another thread: no effect
            f(m, "pitch_diameter", 0.2, lambda: f"{d * 0.93:.6g} m")
            f(m, "root_diameter", 0.7, lambda: f"{d * 0.8:.6g} m")
            f(m, "free_length", 0.4, lambda: f"{0.8 * float(m['length'].split()[0]):.6g} m")
            f(m, "loaded_length", 0.3, lambda: f"{0.7 * float(m['length'].split()[0]):.6g} m")
            if m["thread"] == "roller" or self.maybe(0.4):
                m["efficiency"] = self.flat(0.3, 0.95)
            f(m, "efficiency_back", 0.2, lambda: self.flat(-0.5, 0.25))
            f(m, "nut_inertia", 0.5, j)
            f(m, "nut_preload", 0.4, lambda: u(50, 2000, "N"))
            f(m, "preload_drag", 0.3, lambda: u(0.01, 0.3, "N·m"))
            f(m, "bearing_drag", 0.3, lambda: u(0.01, 0.2, "N·m"))
            f(m, "speed_value", 0.3, lambda: u(0.5, 3, "m/s"))
            return m
        if kind not in ("linear_motor",):
            m["losses"] = self.losses()
        if kind == "rack":
            m |= {"cut": self.pick("straight", "helical"), "teeth": str(int(self.r.integers(12, 40))), "module": u(0.001, 0.006, "m"),
                  "helix": self.flat(0.1, 0.5, "rad")}
            f(m, "pinion_inertia", 0.6, j)
        elif kind == "belt":
            m |= {"loop": self.pick("timing_belt", "chain"), "motor_seat": self.pick("fixed", "rides"),
                  "teeth": str(int(self.r.integers(10, 50))), "pitch": u(0.002, 0.014, "m"), "idlers": str(int(self.r.integers(0, 4)))}
            f(m, "pulley_inertia", 0.6, j)
            f(m, "idler_inertia", 0.6, j)
            f(m, "idler_diameter", 0.5, lambda: u(0.02, 0.1, "m"))
            f(m, "belt_mass", 0.5, lambda: u(0.05, 3, "kg"))
            f(m, "riding_mass", 0.7, lambda: u(0.5, 10, "kg"))
        elif kind == "table":
            f(m, "table_inertia", 0.8, lambda: u(1e-3, 1, "kg·m²"))
            f(m, "tilt", 0.6, lambda: self.flat(0, 1.5, "rad"))
            f(m, "horizontal_at", 0.4, lambda: self.flat(-3, 3, "rad"))
            f(m, "payload_radius", 0.7, lambda: u(0.05, 0.8, "m"))
            f(m, "friction_torque", 0.6, lambda: u(0.05, 10, "N·m"))
        elif kind == "arm":
            f(m, "arm_inertia", 0.5, lambda: u(1e-3, 2, "kg·m²"))
            f(m, "arm_mass", 0.8, lambda: u(0.2, 20, "kg"))
            f(m, "arm_centre", 0.8, lambda: u(0.05, 0.6, "m"))
            m["payload_radius"] = u(0.1, 1.2, "m")
            f(m, "horizontal_at", 0.5, lambda: self.flat(-3, 3, "rad"))
            f(m, "friction_torque", 0.6, lambda: u(0.05, 5, "N·m"))
        elif kind == "conveyor":
            m |= {"pulley_diameter": u(0.05, 0.3, "m"), "pulleys": str(int(self.r.integers(0, 4))), "rollers": str(int(self.r.integers(0, 30)))}
            f(m, "belt_thickness", 0.6, lambda: u(0.001, 0.01, "m"))
            f(m, "belt_mass", 0.6, lambda: u(0.5, 30, "kg"))
            f(m, "belt_drag", 0.6, lambda: u(1, 200, "N"))
            f(m, "pulley_inertia", 0.6, j)
            f(m, "roller_inertia", 0.6, j)
            f(m, "roller_diameter", 0.6, lambda: u(0.03, 0.1, "m"))
        elif kind == "feed_rolls":
            m["roll_diameter"] = u(0.04, 0.3, "m")
            f(m, "roll_inertia", 0.7, j)
            f(m, "follower_diameter", 0.5, lambda: u(0.04, 0.2, "m"))
            f(m, "follower_inertia", 0.5, j)
            f(m, "tension", 0.7, lambda: self.flat(-150, 300, "N"))
        elif kind == "winder":
            core = float(u(0.04, 0.15))
            m |= {"winds": self.pick("winds", "unwinds"), "core_diameter": f"{core:g} m",
                  "roll_diameter": f"{core * self.r.uniform(1.5, 9):.5g} m", "web_thickness": u(3e-5, 1e-3, "m"),
                  "web_width": u(0.1, 1.5, "m"), "web_density": u(500, 3000, "kg/m³"), "tension": u(5, 300, "N")}
            f(m, "core_inertia", 0.7, j)
        elif kind == "hoist":
            m |= {"drum_diameter": u(0.05, 0.5, "m"), "falls": str(int(self.r.integers(1, 5)))}
            f(m, "drum_inertia", 0.7, lambda: u(1e-4, 0.5, "kg·m²"))
        elif kind in ("slider_crank", "scotch_yoke"):
            c = float(u(0.02, 0.2))
            m["crank"] = f"{c:g} m"
            if kind == "slider_crank":
                m["rod"] = f"{c * self.r.uniform(1.2, 6):.5g} m"
            f(m, "crank_inertia", 0.7, lambda: u(1e-4, 0.2, "kg·m²"))
        elif kind == "fan":
            m |= {"reference_torque": u(0.2, 50, "N·m"), "reference_speed": u(20, 400, "rad/s")}
            f(m, "rotor_inertia", 0.8, lambda: u(1e-4, 1, "kg·m²"))
        elif kind == "free":
            m["moves"] = self.pick("linear", "rotary")
            m["travel"] = u(0.005, 0.5, "m")
            f(m, "inertia", 0.8, j)
            f(m, "friction_torque", 0.5, lambda: u(0.01, 3, "N·m"))
            f(m, "constant_torque", 0.5, lambda: self.flat(-4, 4, "N·m"))
        elif kind == "demand":
            m["at"] = self.pick("shaft", "screw")
            m["lead"] = u(0.002, 0.05, "m")
            f(m, "inertia", 0.6, j)
        return m

    def carried(self):
        l, f, u = {}, self.fill, self.u
        l["inclination"] = self.pick("0 rad", "90 deg", "-90 deg", self.flat(-1.5, 1.5, "rad"))
        l["carriage_mass"], l["payload"] = u(0.5, 100, "kg"), self.pick("0 kg", u(0.1, 60, "kg"))
        l["guide_friction"] = self.flat(0, 0.2)
        f(l, "guide_preload", 0.3, lambda: u(10, 1000, "N"))
        f(l, "seal_drag", 0.4, lambda: u(1, 60, "N"))
        f(l, "viscous", 0.4, lambda: u(1, 200, "N·s/m"))
        f(l, "breakaway", 0.4, lambda: self.flat(1, 3))
        f(l, "counterbalance", 0.3, lambda: u(10, 500, "N"))
        f(l, "counterweight", 0.3, lambda: u(1, 60, "kg"))
        return l

    def body(self):
        u, f = self.u, self.fill
        size = lambda: u(0.02, 0.4, "m")
        kind = self.pick("cylinder", "hollow_cylinder", "ring", "cross_cylinder", "block", "rod", "sphere", "cone", "point", "known")
        s = {"kind": kind}
        for key in {"cylinder": ("diameter", "length"), "hollow_cylinder": ("outer_diameter", "inner_diameter", "length"),
                    "ring": ("diameter",), "cross_cylinder": ("diameter", "length"), "block": ("length", "width", "height"),
                    "rod": ("length",), "sphere": ("diameter",), "cone": ("diameter", "height")}.get(kind, ()):
            s[key] = size()
        if kind == "hollow_cylinder":
            s["inner_diameter"] = f"{0.6 * float(s['outer_diameter'].split()[0]):.6g} m"
        if kind == "known":
            s["inertia"] = u(1e-5, 0.1, "kg·m²")
        b = {"name": kind, "shape": s, "place": self.pick("load", "load", "shaft"), "hole": False, "material": self.pick("Steel", "Aluminium"),
             "count": self.pick("1", "1", "3")}
        if kind in ("ring", "rod", "point", "known") or self.maybe(0.3):
            b["mass"] = u(0.05, 10, "kg")
        f(b, "offset", 0.5, lambda: u(0.01, 0.3, "m"))
        f(b, "offset_angle", 0.4, lambda: self.flat(-3, 3, "rad"))
        return b

    # -- the cycle; sizes follow what the axis is
    def cycle(self, kind, rotary):
        self.unit, self.force = ("rad", "N·m") if rotary else ("m", "N")
        if kind in ("slider_crank", "scotch_yoke"):
            self.force = "N"
        self.stroke = {"winder": 20.0}.get(kind, 4.0 if rotary else 0.4)
        self.position = float(self.flat(-2, 2)) if self.maybe(0.5) else 0.0
        self.out, self.v = [], 0.0
        c = {"segments": self.out}
        if self.position:
            c["start_position"] = f"{self.position:g} {self.unit}"
        for _ in range(int(self.r.integers(1, 6))):
            self.segment(kind)
        if self.v:
            self.ramp(0.0)
        if self.maybe(0.3) and len(self.out) > 1 and not any(s["what"]["kind"] == "speed_change" for s in self.out):
            n = int(self.r.integers(1, len(self.out) + 1))
            self.out.append({"what": {"kind": "repeat", "segments": str(n), "times": str(int(self.r.integers(2, 4)))}})
        if self.maybe(0.5) and kind not in ("winder",):
            self.out.append({"what": {"kind": "dwell", "duration": self.u(0.1, 1, "s"), "brake_holds": self.maybe(0.4)}})
        for s in self.out:
            if s["what"]["kind"] == "repeat":
                continue
            self.fill(s, "payload", 0.25, lambda: self.pick("0 kg", self.u(0.1, 60, "kg")))
            self.fill(s, "process_force", 0.2, lambda: self.flat(-100, 200, self.force))
            if s["what"]["kind"] != "trace":  # its noise breaks away at every turn, each time against another force
                self.fill(s, "process_force_end", 0.15, lambda: self.flat(-100, 200, self.force))
            self.fill(s, "friction", 0.15, lambda: self.pick("0", self.flat(0.3, 3)))
        return c

    def distance(self):
        d = self.flat(-self.stroke, self.stroke)
        return d if float(d) else "0.1"

    def ramp(self, to):
        out = {"kind": "speed_change", "speed": f"{to:.5g} {self.unit}/s", "duration": self.u(0.1, 1, "s")}
        self.fill(out, "rounding", 0.5, lambda: self.flat(0.05, 1))
        self.out.append({"what": out})
        self.v = float(f"{to:.5g}")

    def segment(self, kind):
        u, pick = self.u, self.pick
        if self.v:
            if self.maybe(0.5):
                return self.out.append({"what": {"kind": "constant_speed", "duration": u(0.1, 1, "s")}})
            return self.ramp(pick(0.0, -self.v, float(self.flat(-self.stroke, self.stroke))))
        what = pick("time", "time", "time", "limits", "limits", "ramp", "jog", "dwell", "planned", "trace")
        d = self.distance()
        place = {"distance": f"{d} {self.unit}", "reference": pick("from_here", "from_here", "target")}
        if what == "time":
            s = {"kind": "move_in_time", **place, "duration": u(0.2, 2, "s"), "law": pick(*LAWS),
                 "acceleration_share": pick("1/3", "0.5", self.flat(0.1, 0.5)), "deceleration_share": pick("1/3", "0.5", self.flat(0.1, 0.5))}
            self.fill(s, "rounding", 0.4, lambda: self.flat(0.05, 1))
        elif what == "limits":
            a = float(u(0.5, 20)) * self.stroke
            s = {"kind": "move_by_limits", **place, "speed": u(0.3 * self.stroke, 3 * self.stroke, self.unit + "/s"),
                 "acceleration": f"{a:.4g} {self.unit}/s²"}
            self.fill(s, "deceleration", 0.4, lambda: f"{a * self.r.uniform(0.3, 2):.4g} {self.unit}/s²")
            self.fill(s, "jerk", 0.6, lambda: u(5 * a, 200 * a, self.unit + "/s³"))
        elif what == "jog":
            v = float(self.flat(0.2, 1)) * self.stroke * pick(1, -1)
            a = float(u(2, 20)) * self.stroke
            s = {"kind": "jog", "speed": f"{v:.4g} {self.unit}/s", "acceleration": f"{a:.4g} {self.unit}/s²",
                 "duration": f"{2 * abs(v) / a * self.r.uniform(1.05, 3):.5g} s"}
        elif what == "dwell":
            s = {"kind": "dwell", "duration": u(0.1, 1, "s"), "brake_holds": self.maybe(0.4)}
        elif what == "planned":
            s = {"kind": "planned", "name": "knots", "knots": self.knots(float(d))}
        elif what == "trace":
            s = self.trace(float(d))
        else:
            return self.ramp(float(self.flat(-self.stroke, self.stroke)) or 0.1)
        self.out.append({"what": s})

    def knots(self, d):
        """a 3-4-5 move out, a rest, and the same back, sampled at knots"""
        T, n = float(self.u(0.2, 1)), int(self.r.integers(2, 9))
        rows = []
        for back in (0, 1):
            for i in range(n + 1):
                x = i / n
                s = 10 * x ** 3 - 15 * x ** 4 + 6 * x ** 5
                v = (30 * x ** 2 - 60 * x ** 3 + 30 * x ** 4) / T
                a = (60 * x - 180 * x ** 2 + 120 * x ** 3) / T ** 2
                if i in (0, n):
                    v = a = 0.0
                sign = -1 if back else 1
                rows.append((back * (T + 0.1) + x * T, d * (1 - s if back else s), sign * d * v, sign * d * a))
        return " ".join(repr(float(y)) for r in rows for y in r)

    def trace(self, d):
        T, n = float(self.u(0.3, 1)), int(self.r.integers(40, 90))
        t = np.linspace(0, T, n)
        if self.maybe(0.5):
            t[1:-1] += self.r.uniform(-0.3, 0.3, n - 2) * T / (n - 1)
        x = t / T
        y = d * (x - np.sin(2 * math.pi * x) / (2 * math.pi))
        rest = 30
        t = np.concatenate((t, T + T / (n - 1) * np.arange(1, rest)))
        y = np.concatenate((y, np.full(rest - 1, y[-1])))
        y += self.r.normal(0, 2e-5 * abs(d), y.size)
        return {"kind": "trace", "name": "recorded", "of": "position", "window": f"{float(self.r.uniform(8, 20)) * T / (n - 1):.5g} s",
                "samples": " ".join(repr(float(z)) for pair in zip(t, y) for z in pair)}

    def motor(self):
        stall = float(self.u(0.3, 60))
        top = float(self.u(100, 700))
        n = int(self.r.integers(2, 6))
        w = np.linspace(0, 1, n)
        point = lambda speed, torque: {"speed": f"{speed:.6g} rad/s", "torque": f"{torque:.6g} N·m"}
        m = {"name": "made up", "origin": "random", "rotor_inertia": self.u(1e-6, 5e-3, "kg·m²"), "max_speed": f"{top * self.r.uniform(0.8, 1.3):.5g} rad/s",
             "continuous": [point(x * top, stall * (1 - self.r.uniform(0.1, 0.5) * x ** 2)) for x in w],
             "peak": [point(x * top * 1.2, stall * 3 * (1 - 0.6 * x ** 2)) for x in w], "curve_voltage": "320 V",
             "rated_ambient": "40 °C", "winding_limit": "155 °C"}
        self.fill(m, "brake_torque", 0.6, lambda: self.u(0.5, 100, "N·m"))
        self.fill(m, "brake_inertia", 0.5, lambda: self.u(1e-6, 1e-3, "kg·m²"))
        self.fill(m, "mass", 0.5, lambda: self.u(0.5, 20, "kg"))
        self.fill(m, "encoder_inertia", 0.3, lambda: self.u(1e-7, 1e-4, "kg·m²"))
        self.fill(m, "derating", 0.3, lambda: self.flat(0.6, 1))
        self.fill(m, "shaft_torque", 0.3, lambda: self.u(1, 300, "N·m"))
        if self.maybe(0.6):
            m["electric"] = self.sine(stall, top) if self.maybe(0.6) else self.brushed(stall, top)
            if self.maybe(0.6):
                m["continuous"], m["peak"] = [], []
                del m["curve_voltage"]
        return m

    def windings(self, k, peak, top):
        """resistance and inductance of a phase, so that the voltage is felt"""
        current = peak / (1.5 * k)
        return 0.05 * k * top / current * self.r.uniform(0.2, 3), 0.3 * k * top / current / top * self.r.uniform(0.1, 2)

    def sine(self, stall, top):
        k = 180 / top * self.r.uniform(0.6, 1.3)
        factor, beta = self.r.uniform(1.5, 4), float(self.pick(0, self.r.uniform(0.08, 0.3)))
        kt, peak = 1.5 * math.sqrt(2) * k, factor * stall
        r, l = self.windings(k, peak, top)
        pairs = int(self.r.integers(2, 8))
        e = {"kind": "sine", "torque_constant": f"{kt:.8g} N·m/A", "resistance": f"{2 * r:.6g} Ω", "inductance": f"{2 * l / pairs:.6g} H",
             "pole_pairs": str(pairs), "peak_torque": f"{peak:.9g} N·m", "peak_current": f"{peak / kt / (1 - beta):.9g} A"}
        if self.maybe(0.7):
            e["stall_torque"] = f"{stall:.6g} N·m"
        if self.maybe(0.7) or "stall_torque" not in e:
            e["rated_torque"] = f"{stall * self.r.uniform(0.6, 0.95):.6g} N·m"
            e["rated_speed"] = f"{top * self.r.uniform(0.4, 0.8):.6g} rad/s"
        return e

    def brushed(self, stall, top):
        volts = float(self.r.uniform(150, 330))
        k = volts / top * self.r.uniform(0.6, 1.0)
        rated = stall / k
        e = {"kind": "brushed", "torque_constant": f"{k:.8g} N·m/A", "resistance": f"{volts / rated * self.r.uniform(0.05, 0.25):.6g} Ω",
             "rated_torque": f"{stall:.6g} N·m", "rated_speed": f"{top * 0.7:.6g} rad/s", "peak_torque": f"{3 * stall:.9g} N·m",
             "peak_current": f"{3 * stall / k:.9g} A"}
        self.fill(e, "no_load_current", 0.5, lambda: f"{rated * 0.04:.5g} A")
        self.fill(e, "brush_drop", 0.5, lambda: "2 V")
        self.fill(e, "brush_speed", 0.5, lambda: f"{top * self.r.uniform(0.8, 1.5):.5g} rad/s")
        self.fill(e, "rated_voltage", 0.5, lambda: f"{volts:.5g} V")
        return e

    def forcer(self):
        force, top = float(self.u(50, 3000)), float(self.u(1, 6))
        k = 180 / top * self.r.uniform(0.6, 1.3)
        factor, beta = self.r.uniform(1.5, 4), float(self.pick(0, self.r.uniform(0.08, 0.3)))
        constant, peak, pitch = 1.5 * math.sqrt(2) * k, factor * force, float(self.r.uniform(0.01, 0.04))
        r, l = self.windings(k, peak, top)
        e = {"kind": "linear", "core": self.pick("iron", "ironless"), "force_constant": f"{constant:.8g} N/A",
             "resistance": f"{2 * r:.6g} Ω", "inductance": f"{2 * l * pitch / math.pi:.6g} H", "pole_pitch": f"{pitch:.6g} m",
             "forcer_mass": self.u(0.2, 20, "kg"), "attraction": self.u(100, 8000, "N"), "top_speed": f"{top * self.r.uniform(0.8, 1.3):.5g} m/s",
             "continuous_force": f"{force:.6g} N", "peak_force": f"{peak:.9g} N", "peak_current": f"{peak / constant / (1 - beta):.9g} A"}
        return {"name": "made up", "origin": "random", "rated_ambient": "40 °C", "winding_limit": "130 °C", "electric": e}

    def stepper(self):
        """open loop; voltage, current and speeds of the order of what the axis asks for"""
        five = self.maybe(0.3)
        holding, rated, teeth = float(self.u(0.5, 60)), float(self.u(1, 8)), int(self.pick(50, 100))
        k = holding / (math.sqrt(2) * rated)
        r = 0.08 * 300 / rated * float(self.r.uniform(0.3, 2))
        e = {"kind": "five_phase_stepper" if five else "two_phase_stepper", "step_angle": f"{(36 if five else 90) / teeth} deg",
             "holding_torque": f"{holding:.8g} N·m", "rated_current": f"{rated:.8g} A", "resistance": f"{r:.6g} Ω",
             "inductance": f"{r * self.r.uniform(2e-4, 3e-3):.6g} H"}
        self.fill(e, "detent_torque", 0.5, lambda: f"{0.04 * holding:.6g} N·m")
        self.fill(e, "friction_torque", 0.5, lambda: f"{0.01 * holding:.6g} N·m")
        self.fill(e, "start_rate", 0.7, lambda: self.flat(300, 3000, "Hz"))
        if five:
            e["bridge"], e["phases_on"] = self.pick("per_phase", "star", "pentagon_72", "pentagon_144"), self.pick("four", "five")
        elif self.maybe(0.5):
            e["rated_as"], e["connected"] = self.pick("half_coil", "series", "parallel"), self.pick("half_coil", "series", "parallel")
        m = {"name": "made up", "origin": "random", "rotor_inertia": self.u(1e-5, 5e-3, "kg·m²"), "rated_ambient": "40 °C", "winding_limit": "130 °C",
             "max_speed": f"{float(self.u(100, 700)):.5g} rad/s", "electric": e}
        d = {"bus_voltage": self.flat(100, 400, "V")}
        self.fill(d, "phase_current", 0.7, lambda: f"{rated * self.r.uniform(0.4, 1.3):.6g} A")
        self.fill(d, "dial_in", 0.5, lambda: self.pick("rms", "peak"))
        if self.maybe(0.6):
            d["idle_current"] = self.flat(20, 80, "%")
            self.fill(d, "idle_delay", 0.7, lambda: self.flat(0, 0.6, "s"))
        self.fill(d, "microsteps", 0.8, lambda: str(int(self.pick(1, 2, 8, 16, 64))))
        self.fill(d, "pulse_limit", 0.7, lambda: self.flat(5e3, 5e5, "Hz"))
        self.fill(d, "ramp_start", 0.6, lambda: self.flat(5, 300, "rpm"))
        self.fill(d, "hot", 0.4, lambda: self.flat(60, 130, "°C"))
        return m, d

    def sheet(self, s):
        """of a gearhead"""
        self.fill(s, "rated_torque", 0.4, lambda: self.u(1, 300, "N·m"))
        if "rated_torque" in s:
            self.fill(s, "exponent", 0.5, lambda: self.pick("3", "3.333", "6.6", "9"))
        self.fill(s, "peak_torque", 0.4, lambda: self.u(2, 600, "N·m"))
        self.fill(s, "emergency_torque", 0.4, lambda: self.u(2, 900, "N·m"))
        self.fill(s, "nominal_speed", 0.4, lambda: self.u(200, 6000, "rpm"))
        self.fill(s, "top_speed", 0.4, lambda: self.u(500, 12000, "rpm"))

    def sizes(self, a):
        """bores that a coupling can have, the dial of a stepper's drive"""
        self.fill(a["coupling"], "largest_bore", 0.3, lambda: self.pick("12 mm", "14 mm", "20 mm"))
        self.fill(a["coupling"], "smallest_bore", 0.2, lambda: self.pick("5 mm", "13 mm"))
        if "phase_current" in a["drive"]:
            self.fill(a["drive"], "most_current", 0.5, lambda: self.u(0.5, 8, "A"))

    def parts(self, a):
        """coupling, brakes, drive and gearheads beyond what decides the demand"""
        c, d, m = a["coupling"], a["drive"], a.get("motor", {})
        self.fill(c, "top_speed", 0.3, lambda: self.u(200, 20000, "rpm"))
        for key, unit, high in (("angular", "deg", 2), ("parallel", "mm", 0.5), ("axial", "mm", 1)):
            if self.maybe(0.2):
                c[key + "_allowed"] = self.u(0.05, high, unit)
                self.fill(c, key, 0.8, lambda: self.u(0.005, high / 2, unit))
        self.fill(c, "driving_bore", 0.3, lambda: self.pick("14 mm", "19 mm"))
        if "driving_bore" in c and m.get("electric", {}).get("kind") != "linear" and m:
            m["shaft_diameter"] = self.pick("14 mm", "19 mm")
        if self.maybe(0.2):
            c["driven_bore"], c["driven_shaft"] = self.pick("12 mm", "14 mm"), "14 mm"
        if a["mechanism"]["kind"] == "screw":
            s = a["mechanism"]
            self.fill(s, "static_rating", 0.4, lambda: self.u(500, 50000, "N"))
            if self.maybe(0.5):
                s["dynamic_rating"], s["life_asked"] = self.u(500, 30000, "N"), self.u(4e5, 2e8, "s")
            self.fill(s, "yield_strength", 0.4, lambda: self.flat(2e8, 9e8, "Pa"))
        if "brake_torque" in m:
            self.brake(m, "brake_")
        if self.maybe(0.25):
            a["brake"] = {"static_torque": self.u(1, 100, "N·m"), "place": self.pick("motor", "mechanism")}
            self.fill(a["brake"], "inertia", 0.7, lambda: self.u(1e-6, 1e-3, "kg·m²"))
            self.brake(a["brake"], "")
        for s in a["stages"]:
            if "peak_torque" in s:
                self.fill(s, "peak_share", 0.3, lambda: self.flat(50, 100, "%"))
            if self.maybe(0.3):
                # no more than the efficiency leaves at the rated torque
                lost = (1 / float(s["efficiency"]) - 1) / float(s["ratio"])
                rated = number_of(s["rated_torque"]) if "rated_torque" in s else float(self.u(0.1, 30))
                s["no_load_torque"] = f"{rated * lost * self.r.uniform(0.05, 0.9):.6g} N·m"
            for key in ("radial", "axial"):
                if self.maybe(0.15):
                    s[key + "_rating"] = self.u(100, 5000, "N")
                    self.fill(s, key + "_load", 0.8, lambda: self.u(50, 5000, "N"))
        if m.get("electric", {}).get("kind", "").endswith("_stepper") or not m:
            return
        self.fill(d, "torque_limit", 0.15, lambda: self.u(0.5, 100, "N·m"))
        self.fill(d, "emergency_torque", 0.3, lambda: self.u(0.5, 200, "N·m"))
        self.fill(d, "highest_voltage", 0.3, lambda: self.flat(250, 500, "V"))
        self.fill(d, "lowest_voltage", 0.3, lambda: self.flat(100, 350, "V"))
        if number_of(d.get("lowest_voltage", "0 V")) > number_of(d.get("highest_voltage", "1000 V")):
            del d["lowest_voltage"]
        self.fill(d, "mains_rise", 0.3, lambda: self.flat(2, 15, "%"))
        if "continuous_current" in d and "peak_current" in d and number_of(d["peak_current"]) < number_of(d["continuous_current"]):
            d["peak_current"] = f"{1.5 * number_of(d['continuous_current']):.6g} A"
        if "continuous_current" in d:
            self.fill(d, "standstill_share", 0.4, lambda: self.flat(40, 100, "%"))
        if "continuous_current" in d or "peak_current" in d:
            self.fill(d, "derating", 0.3, lambda: self.flat(60, 100, "%"))
            if self.maybe(0.3):
                d["derates_from"], d["derating_rate"] = self.flat(20, 50, "°C"), self.flat(0.5, 3, "%")
            if self.maybe(0.3):
                d["derates_above"], d["altitude_rate"] = self.flat(500, 2000, "m"), self.flat(0.5, 2, "%")
        if "continuous_current" in d and "peak_current" in d:
            self.fill(d, "peak_time", 0.7, lambda: self.u(0.1, 10, "s"))

    def complete(self, a):
        """every part with all of its sheet, so that its verdicts are numbers"""
        c, d, m = a["coupling"], a["drive"], a.get("motor", {})
        put = lambda o, key, value: o.setdefault(key, value)
        linear = m.get("electric", {}).get("kind") == "linear"
        if m and not linear:
            put(m, "shaft_diameter", self.pick("14 mm", "19 mm"))
        if any(k in c for k in ("inertia", "allowable_torque", "top_speed", "driving_bore")):
            put(c, "allowable_torque", self.u(1, 300, "N·m"))
            put(c, "top_speed", self.u(200, 20000, "rpm"))
            put(c, "smallest_bore", self.pick("5 mm", "10 mm"))
            put(c, "largest_bore", self.pick("14 mm", "20 mm", "25 mm"))
            put(c, "driven_shaft", self.pick("12 mm", "14 mm"))
            for key, unit, high in (("angular", "deg", 2), ("parallel", "mm", 0.5), ("axial", "mm", 1)):
                put(c, key + "_allowed", self.u(0.05, high, unit))
                put(c, key, self.u(0.005, high / 4, unit))
        for s in a["stages"]:
            for key, low, high, unit in (("rated_torque", 1, 300, "N·m"), ("peak_torque", 2, 600, "N·m"), ("emergency_torque", 2, 900, "N·m"),
                                         ("nominal_speed", 200, 6000, "rpm"), ("top_speed", 500, 12000, "rpm")):
                if key != "rated_torque" or "no_load_torque" not in s:  # with it the efficiency would be another
                    put(s, key, self.u(low, high, unit))
            put(s, "output_shaft", self.pick("14 mm", "19 mm", "22 mm"))
        for b, head in ((m, "brake_"), (a.get("brake", {}), "")):
            if ("brake_torque" if head else "static_torque") in b:
                put(b, head + "apply_time", self.flat(0, 0.15, "s"))
                put(b, head + "stop_energy", self.u(1, 5000, "J"))
        if a["mechanism"]["kind"] == "screw":
            put(a["mechanism"], "yield_strength", self.flat(2e8, 9e8, "Pa"))
        electric = m.get("electric", {})
        if "most_current" in d:
            put(d, "highest_voltage", self.flat(350, 500, "V"))
            put(d, "lowest_voltage", self.flat(20, 200, "V"))
        elif "peak_current" in electric and any(k in d for k in ("continuous_current", "peak_current", "trip_voltage", "highest_voltage", "lowest_voltage")):
            current = number_of(electric["peak_current"])
            put(d, "continuous_current", f"{current * self.r.uniform(0.1, 0.6):.6g} A")
            put(d, "peak_current", f"{number_of(d['continuous_current']) * self.r.uniform(1.2, 4):.6g} A")
            if number_of(d["peak_current"]) < number_of(d["continuous_current"]):
                d["peak_current"] = d["continuous_current"]
            put(d, "peak_time", self.u(0.1, 10, "s"))
            put(d, "highest_voltage", self.flat(430, 500, "V"))
            put(d, "lowest_voltage", self.flat(100, 250, "V"))

    def brake(self, b, head):
        holds = number_of(b["brake_torque" if head else "static_torque"])
        self.fill(b, head + "dynamic_torque", 0.5, lambda: f"{holds * self.r.uniform(0.4, 1):.6g} N·m")
        self.fill(b, head + "apply_time", 0.8, lambda: self.flat(0, 0.15, "s"))
        self.fill(b, head + "stop_energy", 0.6, lambda: self.u(1, 5000, "J"))

    def drive(self, motor):
        d = {"bus_voltage": self.flat(200, 400, "V")}
        self.fill(d, "mains_tolerance", 0.3, lambda: self.flat(2, 20, "%"))
        self.fill(d, "bus_droop", 0.3, lambda: self.flat(1, 10, "%"))
        if "electric" not in motor:
            return d
        current = number_of(motor["electric"]["peak_current"])
        self.fill(d, "peak_current", 0.4, lambda: f"{current * self.r.uniform(0.3, 1.5):.6g} A")
        self.fill(d, "continuous_current", 0.4, lambda: f"{current * self.r.uniform(0.1, 0.6):.6g} A")
        self.fill(d, "currents_in", 0.5, lambda: self.pick("rms", "peak"))
        self.fill(d, "modulation", 0.6, lambda: self.pick("space_vector", "sine_pwm", "overmodulated"))
        self.fill(d, "modulation_reserve", 0.5, lambda: self.flat(0.85, 1))
        self.fill(d, "field_weakening", 0.4, lambda: True)
        self.fill(d, "trip_voltage", 0.4, lambda: self.flat(200, 900, "V"))
        self.fill(d, "cold", 0.4, lambda: self.flat(-20, 40, "°C"))
        self.fill(d, "hot", 0.4, lambda: self.flat(60, 130, "°C"))
        return d

    def axis(self, kind, name):
        mech = self.mechanism(kind)
        rotary = kind in ROTARY or (kind == "free" and mech["moves"] == "rotary") or (kind == "demand" and mech["at"] == "shaft")
        a = {"name": name, "mechanism": mech, "load": self.carried(), "bodies": [self.body() for _ in range(int(self.r.integers(0, 3)))],
             "stages": [], "coupling": {"place": self.pick("motor", "mechanism"), "service_factor": self.flat(1, 2.5)},
             "cycle": self.cycle(kind, rotary), "drive": {"bus_voltage": self.flat(200, 400, "V")}, "policy": self.pick("mean", "rms", "no ratio"),
             "credit_friction_at_rest": self.maybe(0.3)}
        for _ in range(int(self.r.integers(0, 3))):
            s = {"name": "stage", "type": "gearhead", "ratio": self.u(0.5, 20), "efficiency": self.flat(0.5, 1)}
            self.fill(s, "efficiency_back", 0.3, lambda: self.flat(-0.3, 0.9))
            self.fill(s, "inertia", 0.7, lambda: self.u(1e-6, 1e-3, "kg·m²"))
            a["stages"].append(s)
        self.fill(a["coupling"], "inertia", 0.6, lambda: self.u(1e-6, 1e-3, "kg·m²"))
        self.fill(a["coupling"], "allowable_torque", 0.6, lambda: self.u(1, 300, "N·m"))
        if self.maybe(0.5):
            a["drive"]["stop_time"] = self.u(0.03, 0.5, "s")
        elif self.maybe(0.4):
            a["drive"]["stop_distance"] = f"{float(self.u(0.02, 0.3)) * self.stroke:.4g} {self.unit}"
        if self.maybe(0.1):
            a["further_cycles"] = [{"weight": "2", **self.cycle(kind, rotary)}]
        if self.maybe(0.8):
            a["motor"] = self.forcer() if kind == "linear_motor" and self.maybe(0.7) else self.motor()
            a["drive"] |= self.drive(a["motor"])
        return a


def project(seed, count):
    """`count` axes; the kinds come round in turn."""
    rng = np.random.default_rng(seed)
    maker = Maker(rng)
    axes = [maker.axis(KINDS[(seed + i) % len(KINDS)], f"axis {i}") for i in range(count)]
    # steppers, and sheets of gearheads, by generators of their own, so that what else is random stays as it is
    steppers = Maker(np.random.default_rng(seed + 7_000_000))
    for a in axes:
        if a["mechanism"]["kind"] != "linear_motor" and steppers.maybe(0.15):
            a["motor"], drive = steppers.stepper()
            stop = {k: v for k, v in a["drive"].items() if k.startswith("stop_")}
            a["drive"] = drive | stop
    sheets = Maker(np.random.default_rng(seed + 8_000_000))
    for a in axes:
        for s in a["stages"]:
            sheets.sheet(s)
    parts = Maker(np.random.default_rng(seed + 9_000_000))
    for a in axes:
        parts.parts(a)
    sizes = Maker(np.random.default_rng(seed + 11_000_000))
    for a in axes:
        sizes.sizes(a)
    # half of the axes with whole sheets: what is not known says little of the numbers
    wholes = Maker(np.random.default_rng(seed + 12_000_000))
    for a in axes:
        if wholes.maybe(0.5):
            wholes.complete(a)
    # sheets that say two constants, now and then against one another
    seconds = Maker(np.random.default_rng(seed + 13_000_000))
    for a in axes:
        e = a.get("motor", {}).get("electric", {})
        if e.get("kind") in ("sine", "brushed") and "torque_constant" in e and seconds.maybe(0.25):
            k = float(e["torque_constant"].split()[0]) * (1 / math.sqrt(3) if e["kind"] == "sine" else 1)
            e["voltage_constant"] = f"{k * float(seconds.pick(1, seconds.r.uniform(0.6, 0.88), seconds.r.uniform(1.13, 1.5))):.8g} V·s/rad"
    return {"format": "fulmox-project", "version": 5, "name": f"random {seed}", "unit_system": "si",
            "site": {"gravity": "9.80665 m/s²", "ambient": f"{float(rng.uniform(10, 70)):.3g} °C",
                     "altitude": f"{float(rng.uniform(0, 3000)):.4g} m"},
            "policies": POLICIES, "materials": MATERIALS, "axes": axes}


def write(seed, count, file):
    p = project(seed, count)
    with open(file, "w", encoding="utf-8") as out:
        json.dump(p, out, ensure_ascii=False)
    return p
