#!/usr/bin/python3
"""The core's benchmarks, the fastest of several runs each (what else the machine does only ever adds), beside what
docs/speed.md promises. Fails where a promise is broken."""
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

command = [sys.argv[1], "--benchmark_format=json", "--benchmark_repetitions=7", "--benchmark_min_time=0.1",
           "--benchmark_enable_random_interleaving=true"]
runs = json.loads(subprocess.run(command, capture_output=True, text=True, check=True).stdout)["benchmarks"]
fastest, label = {}, {}
for r in runs:
    if r["run_type"] != "iteration":
        continue
    if r.get("error_occurred"):
        sys.exit(f"{r['name']}: {r['error_message']}")
    name = r["run_name"]
    fastest[name] = min(fastest.get(name, float("inf")), r["real_time"] * UNITS[r["time_unit"]])
    label[name] = r.get("label", "")
broken = 0
for name, ns in fastest.items():
    promise = PROMISES.get(name.split("/")[0])
    unit = "ns" if ns < 1e3 else "us" if ns < 1e6 else "ms"
    words = f"{ns / UNITS[unit]:9.3g} {unit}"
    if promise:
        unit = "ns" if promise < 1e3 else "us" if promise < 1e6 else "ms"
        words += f"   promise {promise / UNITS[unit]:4.3g} {unit}"
        if ns > promise:
            words += "   BROKEN"
            broken += 1
    print(f"{name + ' ' + label[name]:40}{words}")
sys.exit(broken > 0)
