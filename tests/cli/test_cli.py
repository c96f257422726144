#!/usr/bin/python3
"""The command line as its users call it: exit codes, output, errors on stderr."""
import csv
import io
import json
import math
import os
import subprocess
import sys
import tempfile
import time
import unittest
import xml.dom.minidom

BINARY, ROOT = sys.argv[1], sys.argv[2]
DEMO = os.path.join(ROOT, "data/projects/tile-glazing-cell.fulmox")


def run(*arguments):
    done = subprocess.run([BINARY, *arguments], capture_output=True, text=True, timeout=900)
    return done.returncode, done.stdout, done.stderr


def changed(change):
    with open(DEMO, encoding="utf-8") as demo:
        project = json.load(demo)
    change(project["axes"][0])
    file = tempfile.NamedTemporaryFile("w", suffix=".fulmox", delete=False)
    json.dump(project, file, ensure_ascii=False)
    file.close()
    return file.name


def ask(sheet, *arguments):
    done = subprocess.run([BINARY, arguments[0], "-", *arguments[1:]], input=sheet if isinstance(sheet, str) else json.dumps(sheet),
                          capture_output=True, text=True, timeout=900)
    return done.returncode, done.stdout, done.stderr


def sheet(**electric):
    return {"name": "sample", "rotor_inertia": "0.5 kg·cm²", "max_speed": "6000 rpm",
            "electric": {"kind": "sine", "torque_constant": "0.5 N·m/A", "resistance": "2.4 Ω", "inductance": "8 mH",
                         "pole_pairs": "5", "stall_torque": "1.3 N·m", "peak_current": "8 A", **electric}}


class Datasheets(unittest.TestCase):
    def test_the_example_of_the_document_and_every_key_it_names(self):
        with open(os.path.join(ROOT, "docs/formats/datasheet.md"), encoding="utf-8") as text:
            document = text.read()
        example = "\n".join(line[4:] for line in document.splitlines() if line.startswith("    "))
        code, out, err = ask(example, "datasheet", "--json", "--at-torque", "1 N·m@3000 rpm", "--at-current", "2 A")
        self.assertEqual((code, err), (0, ""))
        (one,) = json.loads(out)["sheets"]
        for key in one:
            self.assertIn(f"`{key}`", document)
        for pair in one["pairs"]:
            self.assertEqual(pair["verdict"], "agrees", pair["label"])
            for key in pair:
                self.assertIn(f"`{key}`", document)
        code, out, err = ask(example, "curve", "--json", "--bus", "320 V", "--points", "5")
        self.assertEqual((code, err), (0, ""))
        curve = json.loads(out)
        for key in (*curve, *curve["points"][0], *curve["points"][0]["peak_motoring"]):
            if key not in ("format", "version", "name", "kind"):
                self.assertIn(f"`{key}`", document)
        self.assertEqual(len(curve["points"]), 5)

    # Handbook rows 10 and 11: line-to-line 9.5 V peak to peak at 151.6 Hz with 21 pole pairs; Kt/Ke of a sine-driven machine.
    def test_a_spin_test_and_the_identity_of_torque_and_voltage_constant(self):
        code, out, _ = ask({"electric": {"kind": "sine", "voltage_constant": "4.75/45.36 V·s/rad", "voltage_constant_of": "line_peak"}},
                           "datasheet", "--json")
        self.assertEqual(code, 0)
        constants = json.loads(out)["sheets"][0]["constants"]
        torque = {k: v["value"] for k, v in constants["torque_constant"].items()}
        self.assertAlmostEqual(torque["rms"], 0.1283, delta=1e-4)
        self.assertAlmostEqual(torque["peak"], 0.0907, delta=1e-4)
        self.assertAlmostEqual(torque["q_delta"], 0.128, delta=5e-4)
        self.assertAlmostEqual(torque["rms"] / constants["voltage_constant"]["line_rms"]["per_krpm"], 0.016540, delta=1e-6)

    def test_common_mistakes_are_named_with_their_reading(self):
        # each a mistake of the trade, and the words of the reading that finds it (common practice, no source)
        ke = 0.5 / 3 ** 0.5 * 1000 * 2 * 3.141592653589793 / 60  # V RMS line to line per krpm
        for electric, words, factor in (
                ({"voltage_constant": f"{ke * 2 ** 0.5} V/krpm"}, "line to line, peak", 2 ** -0.5),  # peak volts as RMS
                ({"voltage_constant": f"{ke / 3 ** 0.5} V/krpm"}, "wye phase, RMS", 3 ** 0.5),  # phase for line
                ({"voltage_constant": f"{ke} V/krpm", "torque_constant": f"{0.5 / 2 ** 0.5} N·m/A"}, "per A peak", 2 ** -0.5),
                ({"speed_constant": f"{1000 / ke / 2 ** 0.5 * 9.549296585513721} rpm/V"}, "rad/s", 9.549),  # rpm/V and rad/s/V
                ({"motor_constant": f"{0.5 / (1.5 * 4.8) ** 0.5} N·m/√W"}, "per phase, wye", 0.707),  # R of a phase
                ({"stall_current": f"{2.6 * 2 ** 0.5} A"}, "A peak", 0.707)):  # peak amperes as RMS
            code, out, err = ask(sheet(**electric), "datasheet", "--json")
            self.assertEqual(code, 0, err)
            wrong = [p for p in json.loads(out)["sheets"][0]["pairs"] if p["verdict"] == "contradicts"]
            self.assertEqual(len(wrong), 1, (electric, [(p["label"], p["factor"]) for p in wrong]))
            self.assertTrue(any(words in r["words"] for r in wrong[0]["readings"]), (electric, wrong[0]))
            low, high = sorted((wrong[0]["factor"], 1 / wrong[0]["factor"]))
            self.assertTrue(abs(low / factor - 1) < 0.02 or abs(high / factor - 1) < 0.02, (electric, wrong[0]["factor"]))

    def test_a_torque_constant_that_is_a_voltage_constant_in_disguise(self):
        # Kt per A RMS set equal to the line-to-line peak Ke: √1.5 = 1.225 (handbook 04)
        code, out, _ = ask({"electric": {"kind": "sine", "torque_constant": "0.1 N·m/A", "voltage_constant": "0.1 V·s/rad",
                                         "voltage_constant_of": "line_peak"}}, "datasheet", "--json")
        self.assertEqual(code, 0)
        (pair,) = json.loads(out)["sheets"][0]["pairs"]
        self.assertAlmostEqual(pair["factor"], 1.5 ** -0.5, places=6)
        self.assertTrue(any("DC motor" in r["words"] for r in pair["readings"]), pair["readings"])

    def test_what_a_sheet_leaves_out_is_said_and_bad_input_has_an_address(self):
        code, out, _ = ask({"electric": {"kind": "sine", "resistance": "1 Ω"}}, "datasheet", "--json")
        one = json.loads(out)["sheets"][0]
        self.assertEqual((code, one["base"]["value"]), (0, None))
        self.assertIn("constant", one["missing"])
        code, out, err = ask({"electric": {"kind": "sine", "torque_constant": "0,5 N·m/A"}}, "datasheet")
        self.assertEqual(code, 2)
        self.assertIn("/motors/0/electric/torque_constant", err)
        code, _, err = ask({"electric": {"kind": "warp"}}, "datasheet")
        self.assertEqual(code, 2)
        self.assertIn('"sine", "block", "brushed", "linear"', err)
        code, _, err = ask(sheet(), "curve")
        self.assertEqual(code, 2)
        self.assertIn("waits for: the bus voltage", err)
        for option, word in (("--bus", "voltage"), ("--modulation", "space_vector"), ("--reserve", "0.3"), ("--speeds", "speeds")):
            code, _, err = ask(sheet(), "curve", option, "nonsense")
            self.assertEqual(code, 2, option)
            self.assertIn(word, err)
        code, _, err = ask(sheet(), "datasheet", "--at-torque", "two@fast")
        self.assertEqual(code, 2)
        self.assertIn("--at-torque", err)

    def test_a_list_of_sheets_and_the_curve_of_an_axis(self):
        code, out, _ = ask([sheet(), sheet(torque_constant="0.6 N·m/A")], "datasheet", "--json")
        self.assertEqual((code, len(json.loads(out)["sheets"])), (0, 2))
        code, out, _ = run("curve", DEMO, "--axis", "Drying fan", "--json", "--points", "3")
        self.assertEqual(code, 0)
        self.assertEqual(json.loads(out)["peak_from"], "model")
        code, _, err = run("curve", DEMO, "--axis", "nobody")
        self.assertEqual(code, 2)
        self.assertIn("number from 1 to 11", err)
        code, out, _ = run("curve", DEMO, "--axis", "8", "--csv")
        self.assertTrue(out.startswith("speed [m/s],continuous [N]"))


class Cli(unittest.TestCase):
    def test_parts(self):
        code, out, err = run("parts", DEMO, "--json")
        self.assertEqual((code, err), (0, ""))
        told = json.loads(out)
        project = json.load(open(DEMO, encoding="utf-8"))
        motors = [a["motor"]["name"] for a in project["axes"] if a.get("motor", {}).get("name")]
        self.assertEqual(sorted(motors), sorted(r["name"] for r in told["parts"] if r["kind"] == "motor" for _ in range(r["count"])))
        self.assertEqual({r["kind"] for r in told["parts"]}, {"motor", "gearhead", "coupling", "brake", "drive"})
        known = [r for r in told["parts"] if r["price"] is not None]
        self.assertEqual(told["total"]["price"], sum(r["count"] * r["price"] for r in known))
        self.assertEqual(told["total"]["without_price"], sum(r["count"] for r in told["parts"] if r["price"] is None))
        self.assertEqual(told["total"]["parts"], sum(r["count"] for r in told["parts"]))
        code, out, _ = run("parts", DEMO, "--csv")
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual([r["name"] for r in rows], [r["name"] for r in told["parts"]])
        self.assertEqual(rows[0]["price [EUR]"], "551")
        code, out, _ = run("parts", DEMO)
        self.assertIn("without a price", out)
        # the same drive twice is one row of two, and a price that is missing is none
        for a in project["axes"]:
            a["drive"]["name"] = "Sparrow drive 2-9"
        with tempfile.TemporaryDirectory() as folder:
            file = os.path.join(folder, "same.fulmox")
            with open(file, "w", encoding="utf-8") as f:
                json.dump(project, f)
            told = json.loads(run("parts", file, "--json")[1])
        drive = [r for r in told["parts"] if r["kind"] == "drive"]
        self.assertEqual((len(drive), drive[0]["count"], drive[0]["price"]), (1, len(project["axes"]), 310))
        self.assertTrue(drive[0]["differs"])
        code, _, err = run("parts", "no-such-file.fulmox")
        self.assertEqual(code, 2)
        self.assertIn("cannot be opened", err)

    def test_a_catalogue_is_judged_on_an_axis(self):
        code, out, err = run("motors", DEMO, "--axis", "Glaze-head lift", "--json")
        self.assertEqual((code, err), (0, ""))
        judged = json.loads(out)
        document = open(os.path.join(ROOT, "docs", "formats", "judged.md"), encoding="utf-8").read()
        for key in (*judged, *judged["motors"][0], *judged["motors"][0]["tightest"]):
            self.assertIn(f"`{key}`", document)
        rows = judged["motors"]
        self.assertNotIn("linear", {m["kind"] for m in rows})
        carries = [m for m in rows if m["state"] in ("fits", "tight")]
        self.assertEqual(rows[: len(carries)], carries)
        self.assertEqual([m["price"] for m in carries], sorted(m["price"] for m in carries))
        over = [m["tightest"]["utilisation"] or math.inf for m in rows if m["state"] == "over"]
        self.assertEqual(over, sorted(over))
        # the motor of the demo is judged as the assessment judges it
        chosen = next(m for m in rows if m["name"] == "Wren 60-13 B")
        axis = json.loads(run("assess", "--json", DEMO)[1])["axes"][0]
        limits = {l["key"]: l["utilisation"] for l in axis["limits"]}
        self.assertAlmostEqual(chosen["peak"], limits["peak_torque"])
        self.assertAlmostEqual(chosen["heat"], limits["continuous_loss"])
        # bores and the screw speak against no motor
        self.assertAlmostEqual(chosen["tightest"]["utilisation"],
                               max(v for k, v in limits.items() if k not in ("coupling_bores", "coupling_range", "critical_speed", "buckling", "screw_life", "screw_static")))
        self.assertEqual(judged["counts"], {"suitable": len(carries), "unknown": sum(m["state"] == "cannot_say" for m in rows), "over": len(over)})
        # a linear axis takes linear motors
        code, out, _ = run("motors", DEMO, "--axis", "8", "--csv")
        lines = out.splitlines()
        self.assertEqual(code, 0)
        self.assertEqual({line.split(",")[1] for line in lines[1:]}, {"linear"})
        # text, another catalogue, and what is wrong
        code, out, _ = run("motors", DEMO, "--axis", "1")
        self.assertIn(f'{len(rows)} motors of "Aviary, invented motors": {len(carries)} suitable, ', out)
        with tempfile.TemporaryDirectory() as folder:
            small = os.path.join(folder, "small.json")
            catalogue = json.load(open(os.path.join(ROOT, "data", "catalogue", "motors.json"), encoding="utf-8"))
            catalogue["motors"] = [m for m in catalogue["motors"] if m["name"].startswith("Finch")]
            json.dump(catalogue, open(small, "w", encoding="utf-8"))
            code, out, _ = run("motors", DEMO, "--axis", "1", "--catalogue", small, "--json")
            self.assertEqual(code, 1)
            self.assertEqual({m["series"] for m in json.loads(out)["motors"]}, {"Finch"})
            open(small, "w", encoding="utf-8").write("{}")
            self.assertEqual(run("motors", DEMO, "--axis", "1", "--catalogue", small)[0], 2)
        code, _, err = run("motors", DEMO, "--axis", "nobody")
        self.assertEqual(code, 2)
        self.assertIn('--axis: found "nobody"', err)

    def test_a_curve_is_of_the_lowest_bus_unless_one_is_said(self):
        project = json.load(open(DEMO, encoding="utf-8"))
        project["axes"][7]["drive"] |= {"mains_tolerance": "10 %", "bus_droop": "5 %"}
        with tempfile.TemporaryDirectory() as folder:
            file = os.path.join(folder, "low.fulmox")
            with open(file, "w", encoding="utf-8") as out:
                json.dump(project, out)
            low = json.loads(run("curve", file, "--axis", "8", "--json", "--points", "2")[1])
            self.assertAlmostEqual(low["conditions"]["bus_voltage"], 320 * 0.9 * 0.95)
            said = json.loads(run("curve", file, "--axis", "8", "--json", "--points", "2", "--bus", "300 V")[1])
            self.assertAlmostEqual(said["conditions"]["bus_voltage"], 300)

    def test_a_motor_for_24_volts_does_not_fit_a_bus_of_320(self):
        judged = json.loads(run("motors", DEMO, "--axis", "Glaze-head lift", "--json")[1])["motors"]
        robin = next(m for m in judged if m["name"] == "Robin 28-04-24")
        self.assertEqual(robin["state"], "over")
        self.assertIn(robin["tightest"]["key"], ("bus_rating", "winding_temperature"))

    def test_assess_fits(self):
        # one axis of the demo has a coupling and a gearhead that do not hold; without it all fits
        code, out, err = run("assess", DEMO)
        self.assertEqual(code, 1)
        self.assertEqual(sum(line.startswith("  over") for line in out.splitlines()), 2)
        with open(DEMO, encoding="utf-8") as demo:
            project = json.load(demo)
        project["axes"] = [a for a in project["axes"] if a["name"] != "Edge wiper"]
        with tempfile.TemporaryDirectory() as folder:
            file = os.path.join(folder, "fits.fulmox")
            with open(file, "w", encoding="utf-8") as f:
                json.dump(project, f)
            self.assertEqual(run("assess", file)[0], 0)
        self.assertIn("Glaze-head lift", out)
        self.assertIn("Peak torque on curve", out)
        self.assertEqual(err, "")

    def test_assess_json(self):
        code, out, _ = run("assess", DEMO, "--json")
        self.assertEqual(code, 1)
        axis = json.loads(out)["axes"][0]
        rms = axis["results"]["demand.rms_torque"]
        self.assertEqual(rms["unit"], "N·m")
        self.assertGreater(rms["value"], 0.1)
        by_key = {limit["key"]: limit for limit in axis["limits"]}
        self.assertEqual(by_key["peak_torque"]["state"], "fits")
        self.assertAlmostEqual(by_key["peak_torque"]["utilisation"], by_key["peak_torque"]["used"] / by_key["peak_torque"]["allowed"])
        for limit in axis["limits"]:
            self.assertEqual(set(limit), {"key", "label", "state", "used", "allowed", "unit", "share", "utilisation", "reason", "remedy", "source", "working", "needs", "waits_for",
                                          "missing", "accepted", "stand_ins"})

    def test_json_for_scripts(self):
        axes = json.loads(run("assess", DEMO, "--json")[1])["axes"]
        for axis in axes:
            results, statement = axis["results"], axis["inertia"]
            with self.subTest(axis["name"]):
                # the statement adds up to its sums and to the figures
                for side, total in (("load", statement["load"]), ("motor", statement["rotor"] or 0)):
                    self.assertAlmostEqual(sum(c["value"] for c in statement["contributors"] if c["side"] == side) / (total or 1),
                                           1 if total else 0, 9)
                self.assertAlmostEqual(sum(c["share"] for c in statement["contributors"]), 1, 9)
                if "load.inertia" in results:
                    self.assertEqual(results["load.inertia"]["value"], statement["load"])
                peaks, rows = axis["peaks"], axis["segments"]["rows"]
                self.assertAlmostEqual(peaks["largest"]["torque"], results["demand.peak_torque"]["value"])
                running = max(abs(r["peak"]["torque"]) for r in rows if r["peak"])
                self.assertAlmostEqual(running / abs(peaks["running"]["torque"]), 1, 6)
                self.assertAlmostEqual(sum(r["heat_share"] for r in rows), 1, 9)
                self.assertAlmostEqual(sum(r["duration"] for r in rows), results["motion.cycle_time"]["value"], 9)
                mean = sum(r["rms_torque"] ** 2 * r["duration"] for r in rows) / sum(r["duration"] for r in rows)
                self.assertAlmostEqual(mean ** 0.5 / results["demand.rms_torque"]["value"], 1, 9)
                held = [abs(r["hold"]["torque"]) for r in rows if r["hold"] and r["hold"]["by"] == "motor"]
                self.assertAlmostEqual(max(held, default=0), results.get("demand.holding_torque", {"value": 0})["value"], 9)
                for row in rows:
                    self.assertEqual(row["path"], f"/axes/{axes.index(axis)}/cycle/segments/{row['segment']}")
        lift = axes[0]["segments"]["rows"]
        self.assertGreater(lift[1]["hold"]["torque"], 0)  # it holds the load up
        by_key = {limit["key"]: limit for limit in axes[0]["limits"]}
        self.assertEqual(by_key["buckling"]["needs"], ["cycle", "travel", "inertia", "force", "losses", "thread", "buckling", "stop"])

    def test_json_of_an_axis_that_waits(self):
        file = changed(lambda a: a["cycle"]["segments"][0]["what"].update(distance=""))
        axis = json.loads(run("assess", file, "--json")[1])["axes"][0]
        os.unlink(file)
        self.assertIsNone(axis["peaks"])
        self.assertIsNone(axis["segments"])
        self.assertIsNotNone(axis["inertia"])

    def test_workings_as_text(self):
        plain, long = run("assess", DEMO)[1], run("assess", DEMO, "--working")[1]
        lines = long.split("\n")
        self.assertEqual([x for x in lines if x in plain.split("\n")], plain.split("\n"))
        told = json.loads(run("assess", DEMO, "--json")[1])
        for axis in told["axes"]:
            for row in list(axis["results"].values()) + axis["limits"]:
                for line in row["working"]:
                    self.assertIn(f"        {line['symbol']} = {line['formula']} = {line['substituted']} = ", long)

    def test_validate_says_what_assess_says(self):
        folder = os.path.join(ROOT, "tests/cases/wrong-numbers")
        for name in sorted(os.listdir(folder)):
            file = os.path.join(folder, name)
            code, _, err = run("validate", file)
            judged, out, said = run("assess", file, "--json")
            with self.subTest(name):
                self.assertEqual(code == 2, judged == 2, err)
                self.assertEqual(code == 2, "error: " in err)
                told = json.loads(out)
                problems = told["problems"] + [p for a in told["axes"] for p in a["problems"]]
                errors = [p for p in problems if p["severity"] == "error"]
                self.assertEqual(len(errors), err.count(": error: "))
                for p in errors:  # each with its place and line, on stderr and in the JSON
                    self.assertIsInstance(p["line"], int)
                    self.assertIn(f"line {p['line']}, {p['path']}", err)
                    self.assertIn(p["message"], said)

    def test_what_is_not_known_is_three_unless_it_is_accepted(self):
        def forget(axis):
            axis["coupling"].pop("top_speed")

        def accept(axis):
            forget(axis)
            axis["accepted"] = [{"unknown": "/coupling/top_speed", "reason": "an old part without a sheet"}]

        for change, expected in ((lambda axis: None, 0), (forget, 3), (accept, 0)):
            file = changed(change)
            with open(file, encoding="utf-8") as text:
                project = json.load(text)
            project["axes"] = project["axes"][:1]
            with open(file, "w", encoding="utf-8") as text:
                json.dump(project, text)
            code, out, err = run("assess", file, "--json")
            os.unlink(file)
            self.assertEqual((code, err), (expected, ""))
            (row,) = [l for l in json.loads(out)["axes"][0]["limits"] if l["key"] == "coupling_speed"]
            self.assertEqual(row["state"], "fits" if not row["missing"] else "cannot_say")
            self.assertEqual([m["path"] for m in row["missing"]], [] if change not in (forget, accept) else ["/coupling/top_speed"])
            self.assertEqual(row["accepted"], change is accept)

    def test_what_is_no_file_or_too_large_is_refused_and_not_waited_for(self):
        with tempfile.TemporaryDirectory() as folder:
            large = os.path.join(folder, "large.fulmox")
            with open(large, "wb") as file:
                file.truncate(3 << 30)
            for what in (large, folder, "/dev/zero"):
                for command in (("assess", what), ("validate", what), ("catalogue", "check", what), ("datasheet", what)):
                    code, _, err = run(*command)
                    self.assertEqual(code, 2, command)
                    self.assertIn(what, err, command)

    def test_a_motor_at_an_altitude_gives_less(self):
        torque = lambda *more: json.loads(ask(sheet(), "curve", "--bus", "320 V", "--points", "2", "--json", *more)[1])["points"][0]
        low, high = torque(), torque("--altitude", "3000 m")
        key = next(k for k in low if k.startswith("continuous") and low[k])
        self.assertLess(high[key], low[key]) if isinstance(low[key], float) else self.assertNotEqual(high[key], low[key])

    def test_standard_input_and_pipes_are_read(self):
        with open(DEMO, "rb") as demo:
            done = subprocess.run([BINARY, "assess", "-"], stdin=demo, capture_output=True, timeout=900)
        self.assertEqual((done.returncode, done.stderr), (1, b""))
        piped = subprocess.run(["bash", "-c", f"'{BINARY}' assess <(cat '{DEMO}')"], capture_output=True, timeout=900)
        self.assertEqual(piped.stdout, done.stdout)

    def test_output_that_cannot_be_written_is_two(self):
        with open("/dev/full", "wb") as full:
            done = subprocess.run([BINARY, "assess", DEMO], stdout=full, stderr=subprocess.PIPE, timeout=900)
        self.assertEqual(done.returncode, 2)
        self.assertIn(b"cannot be written", done.stderr)

    def test_output_that_is_closed_is_two(self):
        closed = subprocess.run(["bash", "-c", f"'{BINARY}' assess '{DEMO}' >&-"], capture_output=True, timeout=900)
        reader, writer = os.pipe()
        os.close(reader)  # whoever read has gone away
        gone = subprocess.run([BINARY, "assess", DEMO], stdout=writer, stderr=subprocess.PIPE, timeout=900)
        os.close(writer)
        for done in (closed, gone):
            self.assertEqual(done.returncode, 2)
            self.assertIn(b"cannot be written", done.stderr)

    def test_candidates_of_every_kind_come_cheapest_first(self):
        for kind in ("gearhead", "coupling", "brake", "drive"):
            code, out, err = run("candidates", DEMO, "--axis", "2", "--part", kind, "--json")
            self.assertIn(code, (0, 1, 3), err)
            read = json.loads(out)
            self.assertEqual(read["kind"], kind)
            parts = read["parts"]
            with open(os.path.join(ROOT, "data", "catalogue", kind + "s.csv"), encoding="utf-8") as file:
                self.assertEqual(len(parts), len(file.read().splitlines()) - 1)
            carry = [p for p in parts if p["state"] in ("fits", "tight")]
            self.assertEqual(parts[:len(carry)], carry)
            self.assertEqual([p["price"] for p in carry], sorted(p["price"] for p in carry))
            unknown = [p for p in parts if p["state"] == "cannot_say"]
            self.assertEqual(parts[len(carry):len(carry) + len(unknown)], unknown)
            self.assertTrue(all(p["missing"] for p in unknown))
            self.assertEqual(read["counts"], {"suitable": len(carry), "unknown": len(unknown), "over": len(parts) - len(carry) - len(unknown)})
            self.assertEqual(code, 0 if carry else 3 if unknown else 1)
        code, _, err = run("candidates", DEMO, "--axis", "2", "--part", "gearhead", "--place", "7")
        self.assertEqual(code, 2)
        self.assertIn("allowed is 1 to 2", err)
        code, _, err = run("candidates", DEMO, "--axis", "2", "--part", "wheel")
        self.assertEqual(code, 2)

    def test_a_catalogue_is_checked_by_line_and_column(self):
        for name in os.listdir(os.path.join(ROOT, "data", "catalogue")):
            code, out, err = run("catalogue", "check", os.path.join(ROOT, "data", "catalogue", name))
            self.assertEqual((code, err), (0, ""), name)
        with tempfile.TemporaryDirectory() as folder:
            path = os.path.join(folder, "list.csv")
            with open(path, "wb") as file:
                file.write("Part number;Gear ratio;Rated torque [Nm]\r\nA;5;12,5\r\nB;x;12,5\r\nC;7;12,5 \u00b7\r\n".encode("cp1252"))
            code, out, err = run("catalogue", "check", path, "--json")
            self.assertEqual(code, 2)
            read = json.loads(out)
            self.assertEqual(read["parts"], {"gearheads": {"parts": 1, "without_price": 1, "without_mass": 1}})
            self.assertEqual((read["table"]["encoding"], read["table"]["separator"], read["table"]["decimal_comma"]), ("Windows-1252", "semicolon", True))
            self.assertEqual([p["line"] for p in read["problems"]], [3, 4])
            self.assertIn("column 2", read["problems"][0]["path"])
            for broken in (b"", b"{", b"\x00\xff\xfe", b"name\n" * 3, b'"' * 5000, b"name,ratio\n" + b"x," * 3000):
                with open(path, "wb") as file:
                    file.write(broken)
                code, out, err = run("catalogue", "check", path)
                self.assertEqual(code, 2, broken[:20])
                self.assertTrue(err.startswith(path) or "no parts" in out)
        code, out, _ = run("catalogue", "csv", os.path.join(ROOT, "data", "catalogue", "brakes.csv"))
        self.assertEqual(code, 0)
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual(len(rows), 42)
        self.assertEqual((rows[0]["name"], rows[0]["Brake torque [N·m]"]), ("Kite 0.2", "0.2"))
        code, _, err = run("catalogue", "check", "/no/such/file.csv")
        self.assertEqual(code, 2)
        self.assertIn("cannot be opened", err)

    def test_a_long_parts_list_is_read_in_time_and_bounded_memory(self):
        with tempfile.TemporaryDirectory() as folder:
            path = os.path.join(folder, "long.csv")
            with open(path, "w", encoding="utf-8") as file:
                file.write("name,ratio,rated torque [N·m],peak torque [N·m],mass [kg],price,origin\n")
                for i in range(250000):
                    file.write(f"Part {i},{3 + i % 97},{10 + i % 31}.5,{30 + i % 31},1.25,{i % 999},somewhere\n")
            code, out, err = run("catalogue", "check", path)
            self.assertEqual(code, 2)
            self.assertIn("250000 rows, 150000 left out", out)
            self.assertIn("more than 100000", err)

    def test_the_plan_of_a_screw_and_its_drawing(self):
        code, out, err = run("screw", DEMO, "--axis", "1")
        self.assertEqual(code, 0)
        self.assertIn("length 900 mm", out)
        self.assertIn("special coupling", err)
        code, out, _ = run("screw", DEMO, "--axis", "1", "--svg")
        self.assertEqual(code, 0)
        xml.dom.minidom.parseString(out)
        code, out, _ = run("screw", DEMO, "--axis", "1", "--dxf")
        self.assertTrue(out.startswith("0\r\nSECTION") or out.startswith("0\nSECTION"))
        code, _, err = run("screw", DEMO, "--axis", "2")
        self.assertEqual(code, 2)
        self.assertIn("waits for", err)

    def test_an_unknown_command_is_named_with_what_is_allowed(self):
        code, _, err = run("frob\x1b[2Jnicate")
        self.assertEqual(code, 2)
        names = ", ".join(c["name"] for c in json.loads(run("commands")[1]))
        self.assertIn(f'"frob\\u{{1b}}[2Jnicate" is no command; allowed are {names}\n', err)
        self.assertIn("assess, datasheet, curve", names)

    def test_the_completion_offers_what_the_commands_take(self):
        script = os.path.join(tempfile.mkdtemp(), "fulmox-cli.bash")
        open(script, "w", encoding="utf-8").write(run("bash-completion")[1])

        def completed(*words):
            line = " ".join(f"'{w}'" for w in words)
            ask = f"source {script}; COMP_WORDS=({line}); COMP_CWORD={len(words) - 1}; _fulmox_cli 2>/dev/null; printf '%s\\n' \"${{COMPREPLY[@]}}\""
            return [w for w in subprocess.run(["bash", "-c", ask], capture_output=True, text=True).stdout.split("\n") if w]

        commands = json.loads(run("commands")[1])
        self.assertEqual(completed("fulmox-cli", ""), [c["name"] for c in commands] + ["--help", "--version"])
        tried = 0
        for command in commands:
            for at, words in [(command, [command["name"]])] + [(c, [command["name"], c["name"]]) for c in command["commands"]]:
                if at["commands"]:
                    self.assertEqual(completed("fulmox-cli", *words, ""), [c["name"] for c in at["commands"]])
                    continue
                self.assertEqual(sorted(completed("fulmox-cli", *words, "--")), sorted(o["name"] for o in at["options"]))
                for option in at["options"]:
                    if option["choices"]:
                        self.assertEqual(completed("fulmox-cli", *words, "x", option["name"], ""), option["choices"])
                        tried += 1
        self.assertGreater(tried, 2)
        self.assertIn(DEMO, completed("fulmox-cli", "assess", DEMO[:-3]))

    def test_the_manual_page_has_every_command_and_option(self):
        page = run("manual-page")[1]
        plain = page.replace("\\-", "-")
        for command in json.loads(run("commands")[1]):
            for name, at in [(command["name"], command)] + [(f"{command['name']} {c['name']}", c) for c in command["commands"]]:
                if at["commands"]:
                    continue
                self.assertIn(f".B {name}\n", plain)
                for option in at["options"]:
                    self.assertIn(option["name"], plain)
        for line in page.split("\n"):
            if line.startswith("."):
                self.assertRegex(line, r"^\.(TH|SH|TP|B|BR|I|RI|br|nh|RS|RE)\b")

    def test_nothing_in_a_file_reaches_the_terminal_as_a_command(self):
        evil = "A\x1b]0;owned\x07\x9b2J\u202eB"
        file = changed(lambda a: a.update(name=evil, policy=evil))
        for command in ("assess", "validate"):
            _, out, err = run(command, file)
            for c in out + err:
                self.assertTrue(c in "\n\t" or (c.isprintable() and c not in "\u202e"), repr(c))
        self.assertIn("A\\u{1b}]0;owned\\u{7}\\u{9b}2J\\u{202e}B", run("assess", file)[1])
        os.unlink(file)

    def test_a_limit_without_numbers_cannot_be_said(self):
        """Over the demo and every file of the cases; what is not known never reads as fitting."""
        files = [DEMO] + [os.path.join(ROOT, "tests/cases/wrong-numbers", n)
                          for n in sorted(os.listdir(os.path.join(ROOT, "tests/cases/wrong-numbers")))]
        seen = 0
        for file in files:
            for axis in json.loads(run("assess", file, "--json")[1])["axes"]:
                for limit in axis["limits"]:
                    with self.subTest(file=file, limit=limit["key"]):
                        if limit["used"] is None or limit["allowed"] is None:
                            seen += 1
                            self.assertEqual(limit["state"], "cannot_say")
                            self.assertTrue(limit["reason"])
        self.assertGreater(seen, 20)

    def test_files_that_crashed_say_words(self):
        folder = os.path.join(ROOT, "tests/cases/faults")
        for name in sorted(os.listdir(folder)):
            if not name.endswith(".fulmox"):
                continue
            began = time.monotonic()
            code, _, err = run("assess", os.path.join(folder, name), "--json")
            with self.subTest(name):
                self.assertLess(time.monotonic() - began, 5)  # seconds even under the sanitizers
                if name.startswith("F06b"):  # answered: its turns are alike
                    self.assertIn(code, (0, 1))
                    self.assertNotIn("error: ", err)
                    continue
                self.assertEqual(code, 2)
                self.assertIn("/axes/", err)
                for word in ("std::", "Abscissas", "bad_alloc"):
                    self.assertNotIn(word, err)

    def test_broken_json_names_its_place(self):
        with open(DEMO, encoding="utf-8") as demo:
            text = demo.read()
        lines = text.split("\n")
        lines[40] = lines[40].rstrip(",") + " oops"
        with tempfile.NamedTemporaryFile("w", suffix=".fulmox", delete=False) as file:
            file.write("\n".join(lines))
        code, _, err = run("validate", file.name)
        os.unlink(file.name)
        self.assertEqual(code, 2)
        self.assertRegex(err, r"line 4[12]")
        self.assertIn("/policies/0", err)

    def test_misspelled_members_and_bare_numbers_are_said(self):
        def change(a):
            a["load"]["seal_darg"] = a["load"].pop("seal_drag")
            a["mechanism"]["lead"] = 10
        file = changed(change)
        code, out, err = run("assess", file, "--json")
        os.unlink(file)
        self.assertEqual(code, 1)
        said = {p["path"]: p for p in json.loads(out)["axes"][0]["problems"]}
        self.assertIn('Did you mean "seal_drag"?', said["/axes/0/load/seal_darg"]["message"])
        self.assertIn("read as 10 mm", said["/axes/0/mechanism/lead"]["message"])
        self.assertIn("seal_drag", err)

    def test_exceeded_is_one(self):
        file = changed(lambda a: a["cycle"]["segments"][0]["what"].update(duration="0.4 s"))
        code, out, err = run("assess", file)
        self.assertEqual(code, 1, err)
        self.assertIn("over", out)
        os.unlink(file)

    def test_bad_input_is_two(self):
        file = changed(lambda a: a["mechanism"].update(lead="0 mm"))
        for command in ("assess", "validate"):
            code, _, err = run(command, file)
            self.assertEqual(code, 2)
            self.assertIn("/axes/0/mechanism/lead (Lead)", err)
            self.assertIn("line ", err)
            self.assertIn("above 0", err)
        os.unlink(file)
        for bad in ("/no/such/file", ROOT, "/dev/null"):
            code, out, err = run("assess", bad)
            self.assertEqual(code, 2, bad)
            self.assertEqual(out, "")
            self.assertTrue(err)
        self.assertEqual(run("frobnicate")[0], 2)
        self.assertEqual(run()[0], 2)
        self.assertEqual(run("--help")[0], 0)

    def test_big_file_is_refused_unread(self):
        with tempfile.NamedTemporaryFile(suffix=".fulmox") as file:
            file.truncate(200 * 1000 * 1000)
            code, _, err = run("validate", file.name)
            self.assertEqual(code, 2)
            self.assertIn("MB", err)

    def test_validate(self):
        code, out, _ = run("validate", DEMO)
        self.assertEqual(code, 0)
        self.assertIn("no errors", out)

    def test_units(self):
        for arguments, want in [
            (("2*35 mm + 1 in", "in", "mm"), "95.4 mm"),
            (("50000 steps/rev * 300 rpm", "in", "kHz"), "250 kHz"),
            (("2000 mm/min / (20 mm/rev)", "in", "rpm"), "100 rpm"),
            (("1", "lb·in²", "in", "kg·cm²"), "2.926396534 kg·cm²"),
            (("12 oz-in",), "0.08473862177 N·m"),
            (("104 °F", "in", "°C"), "40 °C"),
            (("10 N * 1 m", "in", "J"), "10 J"),
        ]:
            code, out, err = run("units", *arguments)
            self.assertEqual((code, out.strip()), (0, want), err)
        for arguments, words in [
            (("5 oz-in²", "in", "N·m"), ["moment of inertia", "torque is wanted", "oz·in"]),
            (("1,5 mm",), ["comma"]),
            (("3 rpm", "in", "Hz"), ["angle"]),
            (("3 mm", "in", "flonks"), ["flonks"]),
            (("3 mm + 2 kg",), ["cannot add"]),
        ]:
            code, out, err = run("units", *arguments)
            self.assertEqual((code, out), (2, ""))
            for word in words:
                self.assertIn(word, err)

    def test_demo_matches_schema(self):
        import jsonschema
        code, out, _ = run("schema")
        self.assertEqual(code, 0)
        schema = json.loads(out)
        jsonschema.Draft202012Validator.check_schema(schema)
        validator = jsonschema.Draft202012Validator(schema)
        with open(DEMO, encoding="utf-8") as demo:
            project = json.load(demo)
        self.assertEqual([e.message for e in validator.iter_errors(project)], [])
        project["axes"][0]["mechanism"]["thread"] = "lead screw"
        project["axes"][0]["load"]["inclination"] = [90]
        self.assertGreaterEqual(len(list(validator.iter_errors(project))), 2)


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1])
