#!/usr/bin/python3
"""Two programs over the same projects: numbers to 1e-9, states unless the use is at 1 or at the share, exit codes.

compare.py OLD_BUILD NEW_BUILD SOURCE [--axes 400] [--map FILE] [--report FILE]
Each build holds cli/fulmox-cli and tests/fulmox-results. FILE of --map: JSON, {"old pointer regex": "new"} for what a
refactoring renames, and "ignore": [regexes of pointers] for what a change explains. Exit 0: nothing differs.
"""
import argparse
import collections
import concurrent.futures
import glob
import json
import math
import os
import re
import subprocess
import sys
import tempfile

KINDS = ("gearhead", "coupling", "brake", "drive")
TOLERANCE = 1e-9


PATIENCE = 60  # s; an old program may never come to an end where the new one has bounds


def run(*command):
    done = subprocess.run(command, capture_output=True, timeout=PATIENCE)
    return done.returncode, done.stdout.decode("utf-8", "replace"), done.stderr.decode("utf-8", "replace")


def results(build, source, file, deep, catalogues):
    """What one program says of a file: {name: (exit code, parsed or text)}; what it did not end with is left out."""
    cli, out = os.path.join(build, "cli", "fulmox-cli"), {}
    given_up = []

    def ask(name, *words):
        if given_up:
            return
        try:
            code, text, _ = run(cli, *words)
        except subprocess.TimeoutExpired:
            given_up.append(name)
            return
        try:
            out[name] = code, json.loads(text)
        except ValueError:
            out[name] = code, text
    ask("assess", "assess", file, "--json")
    ask("text", "assess", file, "--working")
    ask("validate", "validate", file)
    told = out["assess"][1] if "assess" in out else None
    axes = len(told["axes"]) if isinstance(told, dict) else 0
    for i in range(1, axes + 1):
        ask(f"curve {i}", "curve", file, "--axis", str(i), "--json", "--overload")
        if not catalogues and i > 3:
            continue
        ask(f"motors {i}", "motors", file, "--axis", str(i), "--json")
        for kind in KINDS:
            ask(f"candidates {i} {kind}", "candidates", file, "--axis", str(i), "--part", kind, "--json")
    if not given_up:
        try:
            code, text, _ = run(os.path.join(build, "tests", "fulmox-results"), file, *(["deep"] if deep else []))
            out["results"] = code, [json.loads(line) for line in text.splitlines()]
        except subprocess.TimeoutExpired:
            given_up.append("results")
    return out, given_up


def keyed(value):
    """Lists of rows with a key become objects, so that a row more does not shift the others."""
    if isinstance(value, list):
        for name in ("key", "name", "what"):
            if value and all(isinstance(v, dict) and name in v for v in value):
                names = [str(v[name]) + (f"@{v['axis']}" if "axis" in v else "") for v in value]
                rows, order, seen = {}, [], collections.Counter()
                # rows of one name keep an order of their own, whatever stands between them
                for n, v in zip(names, value):
                    seen[n] += 1
                    rows[n if seen[n] == 1 else f"{n} #{seen[n]}"] = keyed(v)
                    order.append(n)
                if "tightest" in value[0]:  # a list by rank
                    rows["order"] = " ".join(order)
                return rows
        return [keyed(v) for v in value]
    if isinstance(value, dict):
        return {k: keyed(v) for k, v in value.items()}
    return value


def at_a_border(row):
    use, share = row.get("utilisation"), row.get("share")
    return use is not None and any(abs(use - b) <= TOLERANCE for b in (1.0, share) if b is not None)


def differences(old, new, where, out, rename, ignored):
    if any(r.search(where) for r in ignored):
        return
    if isinstance(old, dict) and isinstance(new, dict):
        if "state" in old and "utilisation" in old and at_a_border(old):
            old = {k: v for k, v in old.items() if k not in ("state", "reason", "remedy")}
            new = {k: v for k, v in new.items() if k not in ("state", "reason", "remedy")}
        old = {rename(where, k): v for k, v in old.items()}
        for k in list(old) + [k for k in new if k not in old]:
            if k not in old:
                differences_found(out, where + "/" + k, "absent", new[k], ignored)
            elif k not in new:
                differences_found(out, where + "/" + k, old[k], "absent", ignored)
            else:
                differences(old[k], new[k], where + "/" + k, out, rename, ignored)
        return
    if isinstance(old, list) and isinstance(new, list) and len(old) == len(new):
        for i, (a, b) in enumerate(zip(old, new)):
            differences(a, b, f"{where}/{i}", out, rename, ignored)
        return
    if isinstance(old, float) or isinstance(new, float):
        if isinstance(old, (int, float)) and isinstance(new, (int, float)):
            if abs(old - new) <= TOLERANCE * max(abs(old), abs(new)) or (math.isnan(old) and math.isnan(new)):
                return
    if old != new:
        differences_found(out, where, old, new, ignored)


def differences_found(out, where, old, new, ignored):
    if not any(r.search(where) for r in ignored):
        out.append((where, old, new))


def short(value):
    text = (value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)).replace("\n", " / ")
    return text if len(text) <= 110 else text[:107] + "…"


def main():
    p = argparse.ArgumentParser()
    p.add_argument("old")
    p.add_argument("new")
    p.add_argument("source")
    p.add_argument("--axes", type=int, default=400)
    p.add_argument("--map")
    p.add_argument("--report")
    a = p.parse_args()
    mapped = json.load(open(a.map, encoding="utf-8")) if a.map else {}
    ignored = [re.compile(r) for r in mapped.pop("ignore", [])]
    renames = [(re.compile(r), new) for r, new in mapped.items()]

    def rename(where, key):
        for pattern, new in renames:
            if pattern.fullmatch(where + "/" + key):
                return new
        return key
    sys.path.insert(0, os.path.join(a.source, "tests", "outside", "slow"))
    import random_axes  # noqa: E402
    files = [(f, True, True) for f in sorted(glob.glob(os.path.join(a.source, "data/projects/*.fulmox")))]
    for pattern in ("tests/fixtures/*.fulmox", "tests/cases/*/*.fulmox", "tests/outside/slow/kept/*"):
        files += [(f, "wrong-numbers" in f, True) for f in sorted(glob.glob(os.path.join(a.source, pattern)))]
    sheets = sorted(glob.glob(os.path.join(a.source, "data/catalogue/motors.json")))
    with tempfile.TemporaryDirectory() as folder:
        per_file = 14
        for k in range(-(-a.axes // per_file)):
            file = os.path.join(folder, f"random-{k}.fulmox")
            random_axes.write(700000 + k, min(per_file, a.axes - k * per_file), file)
            files.append((file, False, False))
        found = collections.defaultdict(list)
        counted = 0

        def both(job):
            file, deep, catalogues = job
            (old, old_left), (new, new_left) = [results(b, a.source, file, deep, catalogues) for b in (a.old, a.new)]
            left = [f"old program gave up at {n}" for n in old_left] + [f"new program gave up at {n}" for n in new_left]
            said = [{n: (code, keyed(value)) for n, (code, value) in each.items()} for each in (old, new)]
            return file, *said, left
        with concurrent.futures.ThreadPoolExecutor(os.cpu_count() or 1) as pool:
            for file, old, new, left in pool.map(both, files):
                counted += 1
                for words in left:
                    print(f"{os.path.basename(file)}: {words} after {PATIENCE} s", flush=True)
                rows = []
                for name in [n for n in old if n in new]:
                    if old[name][0] != new[name][0]:
                        differences_found(rows, name + "/exit code", old[name][0], new[name][0], ignored)
                    differences(old[name][1], new[name][1], name, rows, rename, ignored)
                for row in rows:
                    found[os.path.basename(file)].append(row)
        for sheet in sheets:
            old, new = ([run(os.path.join(b, "cli", "fulmox-cli"), "datasheet", sheet, "--json")] for b in (a.old, a.new))
            rows = []
            differences(keyed(json.loads(old[0][1])), keyed(json.loads(new[0][1])), "datasheet", rows, rename, ignored)
            found[os.path.basename(sheet)] += rows
    everything = [(f, *row) for f, rows in found.items() for row in rows]
    if a.report:
        with open(a.report, "w", encoding="utf-8") as report:
            for f, where, old, new in everything:
                report.write(f"{f}\t{where}\t{short(old)}\t{short(new)}\n")
    # by the kind of place, whatever the axis
    kinds = collections.Counter(re.sub(r"/(\d+|axis [^/]*|random [^/]*)(?=/|$)", "/·", re.sub(r"(curve|motors|candidates) \d+", r"\1", w))
                                for _, w, _, _ in everything)
    for where, n in kinds.most_common(60):
        print(f"{n:6}  {where}")
    print(f"{counted} projects, {len(everything)} differences")
    return 1 if everything else 0


if __name__ == "__main__":
    sys.exit(main())
