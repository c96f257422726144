#!/usr/bin/python3
"""Wrong units do not compile: each snippet is refused, and its twin with the right unit is taken.

    wrong_units.py COMPILER SOURCE_FOLDER
"""
import subprocess
import sys

COMPILER, ROOT = sys.argv[1:3]
HEAD = '#include "core/model/machine.h"\nusing namespace fulmox;\n'
PAIRS = [  # what must not compile, what must
    ('void f(Load& l) { l.payload = Quantity<Kind::force>("3 N"); }',
     'void f(Load& l) { l.payload = Quantity<Kind::mass>("3 kg"); }'),
    ('void f(Motor& m) { m.rotor_inertia = m.brake_torque; }',
     'void f(Motor& m) { m.rotor_inertia = m.brake_inertia; }'),
    ('void f(Screw& s) { s.lead = s.nut_preload; }',
     'void f(Screw& s) { s.lead = s.pitch; }'),
    ('void f(MoveInTime& m) { m.distance = m.duration; }',
     'void f(MoveInTime& m) { m.duration = m.duration; }'),
    ('void f(MoveByLimits& m) { m.speed = m.acceleration; }',
     'void f(MoveByLimits& m) { m.speed = MotionQuantity<Order::speed>("1 m/s"); }'),
    ('void f(Drive& d) { d.bus_voltage = 48.0; }',
     'void f(Drive& d) { d.bus_voltage = Quantity<Kind::voltage>("48 V"); }'),
    ('double f(const Load& l) { return l.payload; }',
     'double f(const Load& l) { return l.payload.si; }'),
    ('bool f(const Screw& s) { return s.lead == s.nut_inertia; }',
     'bool f(const Screw& s) { return s.lead == s.pitch; }'),
]


def compiles(code):
    return subprocess.run([COMPILER, "-std=c++20", "-I", ROOT, "-fsyntax-only", "-x", "c++", "-"], input=HEAD + code,
                          text=True, capture_output=True).returncode == 0


wrong = [bad for bad, _ in PAIRS if compiles(bad)] + [good for _, good in PAIRS if not compiles(good)]
print(f"{len(PAIRS)} pairs")
sys.exit("\n".join(["these should have gone the other way:"] + wrong) if wrong else 0)
