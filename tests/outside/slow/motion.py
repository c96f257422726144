"""The motion of a cycle, from the definitions of the trade: a list of pieces, each with position, velocity and acceleration as
functions of time. Written from the textbook formulas; slow and plain on purpose."""
import math

import numpy as np
from scipy.optimize import brentq


class Piece:
    """One stretch without a jump of acceleration; at(t) gives q, v, a for an array of absolute times."""

    def __init__(self, start, duration, at, segment, play):
        self.start, self.duration, self.at, self.segment, self.play = start, duration, at, segment, play
        self.rest = self.recorded = False

    @property
    def end(self):
        return self.start + self.duration


class Play:
    """One playing of a segment, with what it carries."""

    def __init__(self, segment, payload, friction):
        self.segment, self.payload, self.friction = segment, payload, friction
        self.low, self.high = math.inf, -math.inf


def polynomial(q0, v0, a0, j0, start):
    def at(t):
        s = t - start
        return q0 + v0 * s + a0 * s ** 2 / 2 + j0 * s ** 3 / 6, v0 + a0 * s + j0 * s ** 2 / 2, a0 + j0 * s
    return at


# rest-to-rest laws over unit distance and time: pieces (from, to, f) with f(tau) = s, s', s''. VDI 2143-1; Norton, Cam Design.
def by_acceleration(pieces):
    """From pieces of acceleration (from, to, kind, numbers): constant c, linear c + k (tau - from), or sine A sin(w tau + p)."""
    out, s0, v0 = [], 0.0, 0.0
    for begin, end, kind, *n in pieces:
        if kind == "linear":
            c, k = n

            def f(x, b=begin, s=s0, v=v0, c=c, k=k):
                y = x - b
                return s + v * y + c * y ** 2 / 2 + k * y ** 3 / 6, v + c * y + k * y ** 2 / 2, c + k * y
        else:
            a, w, p = n

            def f(x, b=begin, s=s0, v=v0, a=a, w=w, p=p):
                speed = v + a / w * (np.cos(w * b + p) - np.cos(w * x + p))
                place = (s + (v + a / w * np.cos(w * b + p)) * (x - b)
                         - a / w ** 2 * (np.sin(w * x + p) - np.sin(w * b + p)))
                return place, speed, a * np.sin(w * x + p)
        out.append((begin, end, f))
        s0, v0, _ = (float(y) for y in f(np.float64(end)))
    return [(b, e, lambda x, f=f, d=s0: tuple(y / d for y in f(x))) for b, e, f in out]


def law(name, a=1 / 3, b=1 / 3, rounding=0.0):
    pi = math.pi
    if name == "trapezoid":
        parts = []

        def ramp(begin, length, sign):
            jerk = rounding * length / 2
            peak = sign / (length * (1 - rounding / 2))
            if jerk > 0:
                parts.append((begin, begin + jerk, "linear", 0.0, peak / jerk))
                if length - 2 * jerk > 1e-15:
                    parts.append((begin + jerk, begin + length - jerk, "linear", peak, 0.0))
                parts.append((begin + length - jerk, begin + length, "linear", peak, -peak / jerk))
            else:
                parts.append((begin, begin + length, "linear", peak, 0.0))
        ramp(0.0, a, 1.0)
        if 1 - a - b > 1e-12:
            parts.append((a, 1 - b, "linear", 0.0, 0.0))
        ramp(1 - b, b, -1.0)
        return by_acceleration(parts)
    if name == "modified_trapezoid":
        return by_acceleration([(0, 1 / 8, "sine", 1.0, 4 * pi, 0.0), (1 / 8, 3 / 8, "linear", 1.0, 0.0),
                                (3 / 8, 5 / 8, "sine", 1.0, 4 * pi, pi / 2 - 4 * pi * 3 / 8), (5 / 8, 7 / 8, "linear", -1.0, 0.0),
                                (7 / 8, 1, "sine", 1.0, 4 * pi, 0.0)])
    if name == "modified_sine":
        return by_acceleration([(0, 1 / 8, "sine", 1.0, 4 * pi, 0.0), (1 / 8, 7 / 8, "sine", 1.0, 4 * pi / 3, pi / 3),
                                (7 / 8, 1, "sine", 1.0, 4 * pi, 0.0)])
    whole = {
        "parabolic": lambda x: (3 * x ** 2 - 2 * x ** 3, 6 * x - 6 * x ** 2, 6 - 12 * x),
        "simple_harmonic": lambda x: ((1 - np.cos(pi * x)) / 2, pi / 2 * np.sin(pi * x), pi ** 2 / 2 * np.cos(pi * x)),
        "cycloidal": lambda x: (x - np.sin(2 * pi * x) / (2 * pi), 1 - np.cos(2 * pi * x), 2 * pi * np.sin(2 * pi * x)),
        "polynomial_345": lambda x: (10 * x ** 3 - 15 * x ** 4 + 6 * x ** 5, 30 * x ** 2 - 60 * x ** 3 + 30 * x ** 4,
                                     60 * x - 180 * x ** 2 + 120 * x ** 3),
        "polynomial_4567": lambda x: (35 * x ** 4 - 84 * x ** 5 + 70 * x ** 6 - 20 * x ** 7,
                                      140 * x ** 3 - 420 * x ** 4 + 420 * x ** 5 - 140 * x ** 6,
                                      420 * x ** 2 - 1680 * x ** 3 + 2100 * x ** 4 - 840 * x ** 5),
    }[name]
    return [(0.0, 1.0, whole)]


def smoothed_trace(times, values, half, of_position):
    """Samples joined by lines and averaged with 15/16 (1 - u^2)^2; constant acceleration within half a window of the ends."""
    slopes = np.diff(values) / np.diff(times)
    kinks, jumps = times[1:-1], np.diff(slopes)
    most = int((np.searchsorted(kinks, kinks + 2 * half, side="right") - np.arange(kinks.size)).max()) + 1

    def full(t):
        """value, first and second derivative where the window lies inside"""
        t = np.atleast_1d(t)
        # the kinks in the window of each instant, as many columns as the fullest window has
        near = np.searchsorted(kinks, t - half)[:, None] + np.arange(most)[None, :]
        valid = near < kinks.size
        near = np.minimum(near, kinks.size - 1)
        u = np.where(valid, (t[:, None] - kinks[near]) / half, -2.0)
        jump = jumps[near]
        i = np.clip(np.searchsorted(times, t - half, side="right") - 1, 0, slopes.size - 1)
        inside = np.abs(u) < 1
        # kinks left of the window are part of the line that leaves it
        step = np.where(inside, 0.5 + 15 / 16 * (u - 2 * u ** 3 / 3 + u ** 5 / 5), 0.0)
        ramp = np.where(inside, u / 2 + 15 / 16 * (u ** 2 / 2 - u ** 4 / 6 + u ** 6 / 30) + 5 / 32, 0.0)
        kernel = np.where(inside, 15 / 16 * (1 - u ** 2) ** 2, 0.0)
        value = values[i] + slopes[i] * (t - times[i]) + half * (ramp * jump).sum(axis=1)
        return value, slopes[i] + (step * jump).sum(axis=1), (kernel * jump).sum(axis=1) / half

    first, last = times[0] + half, times[-1] - half
    edges = {}
    for t in (first, last):
        g, g1, g2 = (float(x[0]) for x in full(t))
        edges[t] = (g, g1, g2 if of_position else 0.0)

    def at(t):
        t = np.asarray(t, dtype=float)
        flat = np.atleast_1d(t).ravel()
        g, g1, g2 = np.empty((3, flat.size))
        inner = (flat >= first) & (flat <= last)
        for lo in range(0, flat.size, 2000):
            part = slice(lo, lo + 2000)
            g[part], g1[part], g2[part] = full(np.clip(flat[part], first, last))
        for edge, side in ((first, flat < first), (last, flat > last)):
            e0, e1, e2 = edges[edge]
            d = flat[side] - edge
            g[side], g1[side], g2[side] = e0 + e1 * d + e2 * d ** 2 / 2, e1 + e2 * d, e2
        return g.reshape(t.shape), g1.reshape(t.shape), g2.reshape(t.shape)
    return at


class Plan:
    def __init__(self, cycle, has_payload, has_guides, payload, number):
        self.pieces, self.plays, self.now = [], [], 0.0
        self.number = number
        self.q = self.start = number(cycle.get("start_position"), 0.0)
        self.v = number(cycle.get("start_speed"), 0.0)
        self.payload, self.friction = payload, 1.0
        self.has_payload, self.has_guides = has_payload, has_guides
        self.segments = cycle["segments"]
        for i in range(len(self.segments)):
            self.play(i)
        self.duration = self.now

    def play(self, index):
        s = self.segments[index]
        n = self.number
        if self.has_payload and "payload" in s:
            self.payload = n(s["payload"])
        if self.has_guides and "friction" in s:
            self.friction = n(s["friction"])
        w = s["what"]
        if w["kind"] == "repeat":
            for _ in range(int(n(w["times"])) - 1):
                for k in range(index - int(n(w["segments"])), index):
                    self.play(k)
            return
        self.current = Play(index, self.payload, self.friction)
        self.plays.append(self.current)
        self.current.low = min(self.current.low, self.q)
        self.current.high = max(self.current.high, self.q)
        self.current.start = self.now
        getattr(self, w["kind"])(w)
        self.current.duration = self.now - self.current.start

    def lay(self, duration, at, rest=False):
        if duration <= 0:
            return
        p = Piece(self.now, duration, at, self.current.segment, self.current)
        p.rest = rest
        if duration > 1e-12:  # what rounding leaves of a phase is none
            self.pieces.append(p)
        q, v, _ = at(np.array([p.start, p.end]))
        self.now, self.q, self.v = p.end, float(q[1]), float(v[1])

    def jerk(self, duration, a, j):
        """Constant jerk from where the axis is; cut where it reverses."""
        v0, a0, left = self.v, a, duration
        roots = [float(r.real) for r in np.roots([j / 2, a, v0]) if abs(r.imag) < 1e-14] if (j or a) else []
        fast = max(abs(v0), abs(v0 + a * duration + j * duration ** 2 / 2))
        for r in sorted(roots):
            beyond = v0 + a0 * (r + duration) / 2 + j * (r + duration) ** 2 / 8  # a double root at the end is no reversal
            if 1e-7 * duration < r < duration * (1 - 1e-7) and abs(beyond) > 1e-9 * fast:
                self.lay(r - (duration - left), polynomial(self.q, self.v, a, j, self.now))
                a, left = a + j * (r - (duration - left)), duration - r
                self.v = 0.0
        self.lay(left, polynomial(self.q, self.v, a, j, self.now))

    def distance(self, w):
        d = self.number(w["distance"])
        if w.get("reference") != "target":
            return d
        away = d - self.q
        return 0.0 if abs(away) <= 1e-12 * max(abs(d), abs(self.q)) else away

    def move_in_time(self, w):
        n, d = self.number, self.distance(w)
        time = n(w["duration"])
        if d == 0:
            return self.lay(time, polynomial(self.q, 0, 0, 0, self.now), True)
        q0, t0 = self.q, self.now
        shape = law(w["law"], n(w.get("acceleration_share"), 1 / 3), n(w.get("deceleration_share"), 1 / 3),
                    n(w.get("rounding"), 0.0))
        for begin, end, f in shape:
            def at(t, f=f):
                s, v, a = f((t - t0) / time)
                return q0 + d * s, d / time * v, d / time ** 2 * a
            self.lay((end - begin) * time, at)
        self.q, self.v, self.now = q0 + d, 0.0, t0 + time
        if w.get("reference") == "target":
            self.q = n(w["distance"])

    def ramp_parts(self, dv, a, j):
        """Durations of jerk, hold, jerk for a change of speed > 0 within a and j, and the acceleration reached."""
        if j <= 0:
            return 0.0, dv / a, a
        if dv >= a * a / j:
            return a / j, dv / a - a / j, a
        t = math.sqrt(dv / j)
        return t, 0.0, j * t

    def ramp(self, parts, sign):
        tj, hold, a = parts
        if tj > 0:
            self.jerk(tj, 0.0, sign * a / tj)
        if hold > 0:
            self.jerk(hold, sign * a, 0.0)
        if tj > 0:
            self.jerk(tj, sign * a, -sign * a / tj)

    def move_by_limits(self, w):
        n, d = self.number, self.distance(w)
        if d == 0:
            return
        a = n(w["acceleration"])
        b, j, limit = n(w.get("deceleration"), a), n(w.get("jerk"), 0.0), n(w["speed"])
        end = n(w["distance"]) if w.get("reference") == "target" else self.q + d

        def ramps(v):
            out = 0.0
            for x in (a, b):
                tj, hold, _ = self.ramp_parts(v, x, j)
                out += v / 2 * (2 * tj + hold)
            return out
        v, cruise = limit, 0.0
        if ramps(limit) <= abs(d):
            cruise = (abs(d) - ramps(limit)) / limit
        else:
            v = brentq(lambda x: ramps(x) - abs(d), limit * 1e-12, limit, xtol=1e-300, rtol=1e-15)
        sign = math.copysign(1, d)
        self.ramp(self.ramp_parts(v, a, j), sign)
        self.v = sign * v
        if cruise > 0:
            self.jerk(cruise, 0.0, 0.0)
        self.ramp(self.ramp_parts(v, b, j), -sign)
        self.q, self.v = end, 0.0

    def speed_change(self, w):
        n = self.number
        to, time, s = n(w["speed"]), n(w["duration"]), n(w.get("rounding"), 0.0)
        dv = to - self.v
        if dv == 0:
            return self.jerk(time, 0.0, 0.0) if to else self.lay(time, polynomial(self.q, 0, 0, 0, self.now), True)
        self.ramp((s * time / 2, time - s * time, abs(dv) / (time * (1 - s / 2))), math.copysign(1, dv))
        self.v = to

    def constant_speed(self, w):
        n = self.number
        time = n(w["duration"]) if "duration" in w else n(w["distance"]) / self.v
        if self.v == 0:
            return self.lay(time, polynomial(self.q, 0, 0, 0, self.now), True)
        self.jerk(time, 0.0, 0.0)

    def jog(self, w):
        n = self.number
        v, a, time = n(w["speed"]), n(w["acceleration"]), n(w["duration"])
        if v == 0:
            return self.lay(time, polynomial(self.q, 0, 0, 0, self.now), True)
        up, sign = abs(v) / a, math.copysign(1, v)
        self.jerk(up, sign * a, 0.0)
        self.v = v
        self.jerk(time - 2 * up, 0.0, 0.0)
        self.v = v
        self.jerk(up, -sign * a, 0.0)
        self.v = 0.0

    def dwell(self, w):
        self.lay(self.number(w["duration"]), polynomial(self.q, 0, 0, 0, self.now), True)
        self.v = 0.0

    def planned(self, w):
        rows = np.array([float(x) for x in w["knots"].split()]).reshape(-1, 4)
        shift = self.q - rows[0, 1]
        for (t0, x0, v0, a0), (t1, x1, v1, a1) in zip(rows[:-1], rows[1:]):
            h = t1 - t0
            if h <= 0:
                continue
            c = np.linalg.solve([[h ** 3, h ** 4, h ** 5], [3 * h ** 2, 4 * h ** 3, 5 * h ** 4],
                                 [6 * h, 12 * h ** 2, 20 * h ** 3]],
                                [x1 - x0 - v0 * h - a0 * h * h / 2, v1 - v0 - a0 * h, a1 - a0])
            base = self.now
            still = x0 == x1 and v0 == v1 == a0 == a1 == 0

            def at(t, c=c, x0=x0, v0=v0, a0=a0, base=base):
                s = t - base
                return (shift + x0 + v0 * s + a0 * s ** 2 / 2 + c[0] * s ** 3 + c[1] * s ** 4 + c[2] * s ** 5,
                        v0 + a0 * s + 3 * c[0] * s ** 2 + 4 * c[1] * s ** 3 + 5 * c[2] * s ** 4,
                        a0 + 6 * c[0] * s + 12 * c[1] * s ** 2 + 20 * c[2] * s ** 3)
            self.lay(h, at, still)
        self.v = float(rows[-1, 2])

    def trace(self, w):
        rows = np.array([float(x) for x in w["samples"].split()]).reshape(-1, 2)
        times, values = rows[:, 0] - rows[0, 0], rows[:, 1]
        half = self.number(w["window"]) / 2
        position = w.get("of", "position") == "position"
        inner = smoothed_trace(times, values, half, position)
        base = self.now
        if position:
            shift = self.q - float(inner(np.array([0.0]))[0][0])

            def at(t):
                q, v, a = inner(t - base)
                return q + shift, v, a
            # slower than 1e-9 of its top speed a recording stands
            dense = np.linspace(0, times[-1], 40001)
            v = np.abs(inner(dense)[1])
            slow = 1e-9 * v.max()
            still = v <= slow
            cuts = [0.0, half, times[-1] - half, times[-1]]
            step = (times[-1] - times[0]) / (times.size - 1)
            # but what passes through standstill faster than from one sample to the next does not stand
            runs = np.split(np.arange(still.size), np.where(still[1:] != still[:-1])[0] + 1)
            for run in runs:
                if still[run[0]] and dense[run[-1]] - dense[run[0]] < step:
                    still[run] = False
            for k in np.where(still[1:] != still[:-1])[0]:
                lo, hi = dense[k], dense[k + 1]
                for _ in range(60):
                    mid = (lo + hi) / 2
                    if (abs(float(inner(np.array([mid]))[1][0])) <= slow) == still[k]:
                        lo = mid
                    else:
                        hi = mid
                cuts.append(hi)
            cuts = np.unique(np.clip(cuts, 0, times[-1]))
            for lo, hi in zip(cuts[:-1], cuts[1:]):
                before = len(self.pieces)
                self.lay(hi - lo, at, bool(still[np.searchsorted(dense, (lo + hi) / 2)]))
                for p in self.pieces[before:]:
                    p.recorded = True
        else:
            raise NotImplementedError
        self.v = 0.0
