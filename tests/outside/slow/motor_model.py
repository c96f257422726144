"""What a motor gives and draws by its constants, calculated slowly: the current for a torque by bisection, the field-weakening current
by minimising the voltage, the most torque at a speed by scanning currents. Sine-driven machines that turn or run along a line,
and brushed ones."""
import math

import numpy as np

import parts

pi, sqrt = math.pi, math.sqrt


def bisect(f, lo, hi, rounds=70):
    """where the rising f passes 0, for arrays"""
    lo, hi = np.array(lo, dtype=float), np.array(hi, dtype=float)
    for _ in range(rounds):
        mid = (lo + hi) / 2
        up = f(mid) < 0
        lo, hi = np.where(up, mid, lo), np.where(up, hi, mid)
    return (lo + hi) / 2


class Model:
    def __init__(self, motor, drive, site, number):
        e, n = motor["electric"], lambda d, k, other=None: number(d.get(k), other)
        self.kind = e["kind"]
        self.sine = self.kind in ("sine", "linear")
        linear = self.kind == "linear"
        self.per_k = 1.5 if self.sine else 1.0
        kt = n(e, "force_constant" if linear else "torque_constant")
        self.k = kt / (1.5 * sqrt(2)) if self.sine else kt
        self.ke = self.k
        # a sheet that contradicts itself: torque by the smaller, voltage by the larger constant
        volts = n(e, "voltage_constant")
        if volts is not None and volts == volts:
            other = volts / (sqrt(1.5) if self.sine else 1.0)
            if abs(self.k / other - 1) > 0.1:
                self.k, self.ke = min(self.k, other), max(self.k, other)
        kt = self.k * (1.5 * sqrt(2) if self.sine else 1.0)
        self.r20 = n(e, "resistance") / (2 if self.sine else 1)
        self.l = n(e, "inductance", 0.0) / (2 if self.sine else 1)
        self.p = pi / n(e, "pole_pitch") if linear else n(e, "pole_pairs", 0.0)
        self.ip = n(e, "peak_current")
        torque = n(e, "peak_force" if linear else "peak_torque")
        beta = 1 - torque / (kt * self.ip)
        self.beta = beta if beta > 0.04 else 0.0
        self.magnet = 0.0011 if self.sine else 0.002
        self.cold, self.hot = n(drive, "cold", 293.15) - 273.15, n(drive, "hot", number(motor["winding_limit"])) - 273.15
        bus = n(drive, "bus_voltage") * (1 - n(drive, "mains_tolerance", 0.0)) * (1 - n(drive, "bus_droop", 0.0))
        share = {"space_vector": 1 / sqrt(3), "sine_pwm": 0.5, "overmodulated": 2 / pi}[drive.get("modulation", "space_vector")]
        self.u = bus * share * n(drive, "modulation_reserve", 0.95) if self.sine else bus
        self.weakens = self.sine and drive.get("field_weakening", False)
        rms = 1 / sqrt(2) if self.sine and drive.get("currents_in", "rms") == "peak" else 1.0
        rms *= parts.share_of_drive(drive, site, number)
        self.i_drive = (n(drive, "continuous_current", math.inf) * rms, n(drive, "peak_current", math.inf) * rms)
        self.drop, self.idle = n(e, "brush_drop", 0.0), n(e, "no_load_current", 0.0)
        self.friction20 = self.ke * self.idle if not self.sine else 0.0
        self.amperes = sqrt(2) if self.sine else 1.0
        # a drive that is derated to nothing: where the voltage ends the curve is still told
        self.i_max = self.amperes * max(min(self.ip, self.i_drive[1]), 1e-9 * self.ip)
        self.mech = n(e, "top_speed", math.inf) if linear else n(motor, "max_speed", math.inf)
        by_ambient = (number(motor["winding_limit"]) - number(site["ambient"])) / (number(motor["winding_limit"]) - number(motor["rated_ambient"]))
        height = number(site["altitude"])
        self.f = min(1.0, max(0.0, by_ambient * (1 - 1e-4 * (height - 1000) if height > 1000 else 1)))
        self.f *= n(motor, "derating", 1.0) ** 2
        # heat that may stay: of the standstill rating, less what the running one leaves
        stall, rated = n(e, "continuous_force" if linear else "stall_torque") if self.sine else None, n(e, "rated_torque")
        at_rest = lambda T: float(self.iq(np.array([T]), self.hot, 0.0)[0])
        self.rest = at_rest(stall) if stall else None
        self.w_rated = n(e, "rated_speed", 1.0) or 1.0
        running = at_rest(rated + self.friction20) if rated else None
        self.derated = not self.rest
        self.square = (self.rest or running) ** 2
        self.by_speed = max(0.0, self.rest ** 2 - running ** 2) if self.rest and running and n(e, "rated_speed") else 0.0

    def flux(self, at):
        return 1 - self.magnet * (at - 20)

    def res(self, at):
        return self.r20 * (235 + at) / 255

    def gap(self, i, at):
        ref = self.ip * self.amperes
        return self.per_k * self.k * self.flux(at) * i * (1 - self.beta * (i / ref) ** 2)

    def iq(self, torque, at, speed):
        """the current on the rising branch; nan where saturation does not let it be"""
        ref = self.ip * self.amperes
        sign = np.sign(torque)
        t = np.abs(torque)
        if self.beta == 0:
            return sign * t / (self.per_k * self.k * self.flux(at))
        turn = ref / sqrt(3 * self.beta)
        most = self.gap(turn, at)
        i = bisect(lambda i: self.gap(i, at) - t, np.zeros_like(t), np.full_like(t, turn))
        return np.where(t > most, np.nan, sign * i)

    def volts(self, d, q, w, at):
        x = self.p * w * self.l
        r, k = self.res(at), self.ke * self.flux(at)
        return np.hypot(r * d - x * q, r * q + k * w + x * d)

    def draw(self, torque, speed, at, voltage=True):
        """i_d, i_q; nan where the voltage does not allow it"""
        torque, speed = np.asarray(torque, dtype=float), np.asarray(speed, dtype=float)
        way = np.where(speed < 0, -1.0, 1.0)
        t, w = way * torque, np.abs(speed)
        if not self.sine:
            t = t + np.where(speed != 0, self.friction20, 0.0)
            i = self.iq(t, at, speed)
            if voltage:
                room = max(0.0, self.u - self.drop) - self.ke * self.flux(at) * w
                i = np.where(i > room / self.res(at) * (1 + 1e-12) + 1e-12, np.nan, i)
            return np.zeros_like(i), way * i
        q = self.iq(t, at, speed)
        d = np.zeros_like(q)
        if not voltage:
            return d, way * q
        v0 = self.volts(d, q, w, at)
        x, r, k = self.p * w * self.l, self.res(at), self.ke * self.flux(at)
        # |v| is least where its derivative by i_d vanishes
        z2 = r * r + x * x
        best = -(x * (r * q + k * w) - r * x * q) / np.where(z2 > 0, z2, 1)
        best = np.minimum(best, 0.0)
        within = self.volts(best, q, w, at) <= self.u
        weak = bisect(lambda d: self.volts(d, q, w, at) - self.u, best, d)
        d = np.where(v0 <= self.u * (1 + 1e-12), 0.0, np.where(within & self.weakens, weak, np.nan))
        return d, np.where(np.isnan(d), np.nan, way * q)

    def braking(self, w, at, limit):
        """highest torque while braking; 0 where it cannot be said: the motor runs away into the drive"""
        speed = np.abs(np.asarray(w, dtype=float))
        if not self.sine:
            room = (max(0.0, self.u - self.drop) + self.ke * self.flux(at) * speed) / self.res(at)
            i = np.minimum(limit, room)
            if self.beta > 0:
                i = np.minimum(i, self.ip / sqrt(3 * self.beta))
            away = max(0.0, self.u - self.drop) - self.ke * self.flux(at) * speed < 0
            return np.where(away, 0.0, self.gap(i, at) + np.where(speed > 0, self.friction20, 0.0))
        away = (not self.weakens) & (speed > 0) & (self.ke * self.flux(at) * speed > self.u)
        return np.where(away, 0.0, self.most(w, at, limit, -1.0))

    def most(self, w, at, limit, side=1.0):
        """highest torque while driving at each speed, by scanning the current; side -1: the lowest current"""
        w = np.abs(np.asarray(w, dtype=float))[:, None]
        if not self.sine:
            room = (max(0.0, self.u - self.drop) - self.ke * self.flux(at) * w[:, 0]) / self.res(at)
            i = np.minimum(limit, room)
            if self.beta > 0:
                i = np.minimum(i, self.ip / sqrt(3 * self.beta))
            return np.maximum(0.0, np.where(i > 0, self.gap(i, at) - np.where(w[:, 0] > 0, self.friction20, 0.0), 0.0))
        turn = self.ip * self.amperes / sqrt(3 * self.beta) if self.beta > 0 else math.inf

        def allowed(q):
            x, r, k = self.p * w * self.l, self.res(at), self.ke * self.flux(at)
            z2 = r * r + x * x
            q = side * q
            best = -(x * (r * q + k * w) - r * x * q) / np.where(z2 > 0, z2, 1)
            room = np.sqrt(np.maximum(0.0, limit ** 2 - q ** 2))
            d = np.clip(best, -room, 0.0) if self.weakens else 0.0 * best
            return self.volts(d, q, w, at) <= self.u
        grid = np.linspace(0, limit, 801)[None, :]
        ok = allowed(grid)
        last = np.where(ok.any(axis=1), ok.shape[1] - 1 - ok[:, ::-1].argmax(axis=1), -1)
        lo = np.where(last >= 0, grid[0][np.maximum(last, 0)], 0.0)
        hi = np.where(last >= 0, grid[0][np.minimum(last + 1, 800)], 0.0)
        for _ in range(60):
            mid = (lo + hi) / 2
            good = allowed(mid[:, None])[:, 0]
            lo, hi = np.where(good, mid, lo), np.where(good, hi, mid)
        q = np.where(last == 800, limit, lo)
        return self.gap(np.minimum(q, turn), at)

    def peak(self, w):
        inside = np.abs(w) <= self.mech * (1 + 1e-12)
        return np.where(inside, np.minimum(self.most(w, self.cold, self.i_max), self.most(w, self.hot, self.i_max)), 0.0)

    def brakes(self, w):
        inside = np.abs(w) <= self.mech * (1 + 1e-12)
        return np.where(inside, np.minimum(self.braking(w, self.cold, self.i_max), self.braking(w, self.hot, self.i_max)), 0.0)

    def continuous(self, w):
        at_rest = 0.5 if self.derated and w == 0 else 1.0
        heat = sqrt(max(0.0, self.f * self.square * at_rest - self.by_speed * (w / self.w_rated) ** 2))
        most = min(heat, self.amperes * self.i_drive[0], self.i_max)
        return float(self.most(np.array([w]), self.hot, most)[0]) if most > 0 else 0.0

    def end(self):
        """highest speed with torque while driving, at most the mechanical one"""
        top = self.mech if math.isfinite(self.mech) else 1e4
        gives = lambda w: float(self.peak(np.array([w]))[0]) > 0
        if gives(top):
            return top
        lo, hi = 0.0, top
        for _ in range(60):
            mid = (lo + hi) / 2
            lo, hi = (mid, hi) if gives(mid) else (lo, mid)
        return lo

    def heat(self, d, q, w):
        at_rest = np.where((np.asarray(w) == 0) & self.derated, 0.5, 1.0)
        return (d * d + q * q + self.by_speed * (np.abs(w) / self.w_rated) ** 2) / (self.f * self.square * at_rest)

    def reference(self):
        return float(self.gap(sqrt(self.f * self.square), self.hot)) - 0.0


class Stepper(Model):
    """A stepper of two or five phases: a sine machine of that many, the field weakened as the rotor likes."""

    def __init__(self, motor, drive, site, number):  # noqa: super().__init__ reads another sheet
        e, n = motor["electric"], lambda d, k, other=None: number(d.get(k), other)
        self.kind, self.sine, self.weakens, self.beta = e["kind"], True, True, 0.0
        self.phases = 5 if self.kind == "five_phase_stepper" else 2
        self.step = n(e, "step_angle")
        self.p = (pi / 5 if self.phases == 5 else pi / 2) / self.step
        current, holding = n(e, "rated_current"), n(e, "holding_torque")
        self.r20, self.l = n(e, "resistance"), n(e, "inductance")
        if self.phases == 2:
            # what a half coil's ratings become: turns in series double R, K and quadruple L
            of_half = {"half_coil": (1, 1, 1), "series": (2, 4, 2), "parallel": (0.5, 1, 1)}
            k = holding / (sqrt(2) * current)
            if e.get("rated_as", "four_leads") != "four_leads":
                a, b = of_half[e["rated_as"]], of_half[e.get("connected", "series")]
                self.r20, self.l, k = self.r20 * b[0] / a[0], self.l * b[1] / a[1], k * b[2] / a[2]
                current *= sqrt(a[0] / b[0])
        else:
            k = holding / ((math.tan(2 * pi / 5) if e.get("phases_on", "four") == "four" else 1 / math.sin(pi / 10)) * current)
        self.k, self.ke, self.per_k, self.magnet = k, k, self.phases / 2, 0.0011
        self.rated = current
        self.cold, self.hot = n(drive, "cold", 293.15) - 273.15, n(drive, "hot", number(motor["winding_limit"])) - 273.15
        bus = n(drive, "bus_voltage") * (1 - n(drive, "mains_tolerance", 0.0)) * (1 - n(drive, "bus_droop", 0.0))
        self.u = bus * {"per_phase": 1.0, "star": 0.5, "pentagon_72": math.sin(pi / 5), "pentagon_144": math.sin(2 * pi / 5)}[e.get("bridge", "per_phase")]
        set_to = n(drive, "phase_current")
        rms = current if set_to is None else set_to / (sqrt(2) if drive.get("dial_in", "rms") == "peak" else 1.0)
        self.amperes, self.ip = sqrt(2), math.inf
        self.i_max = sqrt(2) * rms
        self.set_rms, self.idle = rms, n(drive, "idle_current", 1.0)
        self.delay = n(drive, "idle_delay", 0.0) if drive.get("idle_current") is not None else 0.0
        self.mech = n(motor, "max_speed", math.inf)
        self.detent, self.friction = n(e, "detent_torque", 0.0), n(e, "friction_torque", 0.0)
        self.start = n(e, "start_rate")
        by_ambient = (number(motor["winding_limit"]) - number(site["ambient"])) / (number(motor["winding_limit"]) - number(motor["rated_ambient"]))
        height = number(site["altitude"])
        self.f = min(1.0, max(0.0, by_ambient * (1 - 1e-4 * (height - 1000) if height > 1000 else 1)))

    def gap(self, i, at):
        return self.per_k * self.k * self.flux(at) * i

    def most(self, w, at, limit, side=1.0):
        # the same scan of currents; without a peak current of its own there is no turn
        self.ip, keep = 1e12, self.ip
        out = super().most(w, at, limit, side)
        self.ip = keep
        return out

    def peak(self, w):
        w = np.asarray(w, dtype=float)
        both = np.minimum(self.most(w, self.cold, self.i_max), self.most(w, self.hot, self.i_max))
        taken = np.where(np.abs(w) > 0, self.detent + self.friction, 0.0)
        return np.where(np.abs(w) <= self.mech * (1 + 1e-12), np.maximum(0.0, both - taken), 0.0)

    def brakes(self, w):
        w = np.asarray(w, dtype=float)
        both = np.minimum(self.most(w, self.cold, self.i_max, -1.0), self.most(w, self.hot, self.i_max, -1.0))
        taken = np.where(np.abs(w) > 0, self.detent, 0.0)
        return np.where(np.abs(w) <= self.mech * (1 + 1e-12), np.maximum(0.0, both - taken), 0.0)

    def holds(self):
        return min(self.gap(self.i_max, self.cold), self.gap(self.i_max, self.hot))
