#!/usr/bin/python3
"""Writes docs/formats/assess-json.md from what the program gives for the demo: keys, units, needs and the members of every
object are read off its output, what they mean off `fulmox-cli formats`; only the words between are written here. A member
without a meaning is an error.

    scripts/make_formats.py FULMOX-CLI > docs/formats/assess-json.md
"""
import json
import os
import subprocess
import sys

ROOT = os.path.join(os.path.dirname(os.path.abspath(__file__)), "..")

HEAD = """# The JSON of `fulmox-cli assess --json`

`scripts/make_formats.py` writes this file; a test compares it with what the program gives. `fulmox-cli formats` has the keys and meanings as
JSON.

`format` is `"fulmox-assessment"`, `version` 3, `machine` the name of the project. `axes` is a list in the order of the project. `problems` has what
belongs to no axis.

Each axis has `name`, `policy`, `results` (an object by key), `limits` (a list in working order), `problems`, and the objects below. An object is
null while it waits for an input, and where the axis has no such thing. New members may come with any version of the program. None changes its
meaning or goes without a new `version`.

Words follow the project's units, numbers are SI. A result that waits has the value null; its note names what is missing, and `waits_for` points
to it. A limit then is `cannot_say`. Of an axis with further cycles the results are those of the first. A limit is the worst of all cycles, and
its reason names the cycle.

Where two units stand, the first is that of an axis along a line, the second of a rotary one. On a linear motor forces, masses and speeds along the
line stand in place of torques, inertias and angular speeds. `demand.fill_0` to `demand.fill_4` are the fills of a winder from empty to full. A
key is absent where it does not apply.

Since version 2: temperatures of `heat` are K. The band of `stepper.resonance` is in full steps/s like it. Heat by the loss method compares the RMS
torque with what the speeds of the cycle leave. `missing` of `precision` is a list of objects. A limit has `missing`, `accepted` and `stand_ins`.
"""


def fail(words):
    sys.exit("make_formats: " + words)


def members(formats, title, path, objects):
    meanings = {(m["object"], m["key"]): m["meaning"] for m in formats["members"]}
    keys = []
    for each in objects:
        for key in each:
            if key not in keys:
                keys.append(key)
    if not keys:
        fail(f"nothing in {path}")
    lines = [f"\n### {title}: `{path}`\n", "| member | meaning |", "|---|---|"]
    for key in keys:
        meaning = meanings.get((path, key), meanings.get(("", key)))
        if meaning is None:
            fail(f"no meaning for the member {key} of {path}")
        lines.append(f"| `{key}` | {meaning} |")
    return lines


def parts(formats, object, axes):
    key, title, about = object["key"], object["title"], object["about"]
    words = {m["key"]: m["meaning"] for m in formats["members"] if m["object"] == key}
    held = [a[key] for a in axes if a[key]]
    if sorted(words) != sorted({k for h in held for k in h}):
        fail(f"the members of {key} are not those with a meaning")
    return [f"\n### {title}: `{key}`\n", about[0].upper() + about[1:] + ".\n", "| member | meaning |", "|---|---|"] + \
        [f"| `{k}` | {words[k]} |" for k in held[0]]


def main():
    demo = os.path.join(ROOT, "data/projects/tile-glazing-cell.fulmox")
    axes = json.loads(subprocess.run([sys.argv[1], "assess", demo, "--json"], capture_output=True, text=True).stdout)["axes"]
    also = os.path.join(ROOT, "tests/fixtures/strain-wave.fulmox")
    axes += json.loads(subprocess.run([sys.argv[1], "assess", also, "--json"], capture_output=True, text=True).stdout)["axes"]
    formats = json.loads(subprocess.run([sys.argv[1], "formats"], capture_output=True, text=True).stdout)
    out = [HEAD]
    for title, rows in (("Results", lambda a: a["results"].items()), ("Limits", lambda a: [(x["key"], x) for x in a["limits"]])):
        units, needs = {}, {}
        for axis in axes:
            for key, row in rows(axis):
                seen = units.setdefault(key, [])
                if row["unit"] not in seen:
                    seen.append(row["unit"])
                needs.setdefault(key, [])
                needs[key] += [n for n in row["needs"] if n not in needs[key]]
        out += [f"## {title}\n", "| key | unit | meaning | needs |", "|---|---|---|---|"]
        registered = formats[title.lower()]
        for row in registered:  # what no axis of the demo has
            units.setdefault(row["key"], [row["unit"]])
            needs.setdefault(row["key"], row["needs"])
        out += [f"| `{r['key']}` | {' or '.join(units[r['key']])} | {r['meaning']} | {', '.join(needs[r['key']])} |" for r in registered]
        out.append("")
    out += ["## Cautions\n", "A problem of the severity `caution` or `suspicious` that follows from the axis has a `key`.\n",
            "| key | severity | where |", "|---|---|---|"]
    out += [f"| `{c['key']}` | `{c['severity']}` | {c['meaning']} |" for c in formats["cautions"]]
    out.append("")
    figures = [f for a in axes for f in a["results"].values()]
    limits = [x for a in axes for x in a["limits"]]
    inertias = [a["inertia"] for a in axes if a["inertia"]]
    peaks = [a["peaks"] for a in axes if a["peaks"]]
    segments = [r for a in axes if a["segments"] for r in a["segments"]["rows"]]
    out.append("## Members")
    out += members(formats, "A result", "results.*", figures)
    out += members(formats, "A limit", "limits[]", limits)
    out += members(formats, "A line of working", "working[]", [w for f in figures + limits for w in f["working"]])
    out += members(formats, "Inertia statement", "inertia", inertias)
    out += members(formats, "A contributor", "inertia.contributors[]", [c for i in inertias for c in i["contributors"]])
    out += members(formats, "Peaks", "peaks", peaks)
    out += members(formats, "A peak", "peaks.*, segments.rows[].peak", [p[k] for p in peaks for k in p if isinstance(p[k], dict)])
    out += members(formats, "Demand by segment", "segments", [a["segments"] for a in axes if a["segments"]])
    out += members(formats, "A segment", "segments.rows[]", segments)
    out += members(formats, "A hold", "segments.rows[].hold", [s["hold"] for s in segments if s["hold"]])
    for each in formats["objects"]:
        out += parts(formats, each, axes)
    out += members(formats, "A stage", "stages[]", [s for a in axes for s in a["stages"]])
    out += members(formats, "Heat over the cycle", "heat", [a["heat"] for a in axes if a["heat"]])
    out += members(formats, "Which kind of motor", "kind_advice", [a["kind_advice"] for a in axes])
    out += members(formats, "A kind of motor", "kind_advice.kinds[]", [k for a in axes for k in a["kind_advice"]["kinds"]])
    out += members(formats, "A problem", "problems[]", [p for a in axes for p in a["problems"]])
    print("\n".join(out))


main()
