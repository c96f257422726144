#!/usr/bin/python3
"""The core's benchmarks, the fastest of several runs each (what else the machine does only ever adds), beside what
docs/speed.md promises, and beside those of an older program measured in the same run. Fails where a promise is broken, or
where something takes more than 1.1 times as long as in the older program.

    bench/promises.py BENCH_CORE [OLDER_BENCH_CORE]
"""
import json
import subprocess
import sys

PROMISES = {  # ns
    "assess_with_workings": 0.7e6,
    "capability_by_model": 30e3,
    "catalogue_on_an_axis": 40e6,
    "gearheads_on_an_axis": 30e6,
    "steady_heat_of_200_segments": 1e6,
    "assess_long_cycle": 2e6,
    "assess_long_cycle_of": 2e6,
    "open_and_assess_axes": 300e6,
    "import_trace": 300e6,
    "import_gcode": 1e9,
    "candidate_on_the_hull": 100,
    "candidate_on_the_hull_of": 100,
}
UNITS = {"ns": 1, "us": 1e3, "ms": 1e6}
MOST = 1.1  # of the older program's time
ROUNDS = 4  # of each program by turns: neighbours come and go


def run(program, repetitions):
    command = [program, "--benchmark_format=json", f"--benchmark_repetitions={repetitions}", "--benchmark_min_time=0.1",
               "--benchmark_enable_random_interleaving=true"]
    times, labels = {}, {}
    for r in json.loads(subprocess.run(command, capture_output=True, text=True, check=True).stdout)["benchmarks"]:
        if r["run_type"] != "iteration":
            continue
        if r.get("error_occurred"):
            sys.exit(f"{r['name']}: {r['error_message']}")
        name = r["run_name"]
        times[name] = min(times.get(name, float("inf")), r["real_time"] * UNITS[r["time_unit"]])
        labels[name] = r.get("label", "")
    return times, labels


def words(ns):
    unit = "ns" if ns < 1e3 else "us" if ns < 1e6 else "ms"
    return f"{ns / UNITS[unit]:8.3g} {unit}"


older = sys.argv[2] if len(sys.argv) > 2 else None
fastest, label, before = {}, {}, {}
for _ in range(ROUNDS if older else 1):
    if older:
        for name, ns in run(older, 2)[0].items():
            before[name] = min(before.get(name, float("inf")), ns)
    times, labels = run(sys.argv[1], 2 if older else 7)
    label.update(labels)
    for name, ns in times.items():
        fastest[name] = min(fastest.get(name, float("inf")), ns)
broken = 0
for name, ns in fastest.items():
    line = f"{name + ' ' + label[name]:40}{words(ns)}"
    if promise := PROMISES.get(name.split("/")[0]):
        line += f"   promise {words(promise)}"
        if ns > promise:
            line += "   BROKEN"
            broken += 1
    if name in before:
        ratio = ns / before[name]
        line += f"   before {words(before[name])}   ratio {ratio:4.2f}"
        if ratio > MOST:
            line += "   SLOWER"
            broken += 1
    print(line)
sys.exit(broken > 0)
