#!/usr/bin/python3
"""What the documents say is what the program does."""
import json
import os
import re
import struct
import subprocess
import sys
import tempfile
import unittest

BINARY, ROOT, VALIDATION = sys.argv[1], sys.argv[2], sys.argv[3]


def text(path):
    return open(os.path.join(ROOT, path), encoding="utf-8").read()


class Docs(unittest.TestCase):
    def test_the_json_is_documented_as_it_is(self):
        made = subprocess.run([sys.executable, os.path.join(ROOT, "scripts/make_formats.py"), BINARY], capture_output=True, text=True)
        self.assertEqual((made.returncode, made.stderr), (0, ""))
        self.assertEqual(text("docs/formats/assess-json.md"), made.stdout,
                         "run scripts/make_formats.py build/release/cli/fulmox-cli > docs/formats/assess-json.md")

    def test_no_text_of_the_program_has_a_word_that_the_glossary_rules_out(self):
        rows = re.findall(r"^\| ([^|]+) \| [^|]+ \| ([^|]+) \|$", text("docs/glossary.md"), re.M)[1:]
        words = [w.strip() for _, others in rows for w in others.split(",") if set(w) - set("- ")]
        self.assertGreater(len(words), 20)
        found = []
        for folder in ("app", "core", "cli"):
            for at, _, files in os.walk(os.path.join(ROOT, folder)):
                for name in files:
                    if not name.endswith((".cpp", ".h")):
                        continue
                    source = re.sub(r"(?m)//.*$|^#include.*$", "", text(os.path.join(at, name)))
                    for literal in re.findall(r'"((?:[^"\\\n]|\\.)*)"', source):
                        found += [(name, w, literal) for w in words if re.search(rf"\b{re.escape(w)}", literal, re.I)]
        self.assertEqual(found, [], "\n".join(map(str, found)))

    def test_the_labels_are_words_of_the_glossary(self):
        said = text("docs/glossary.md").lower()
        out = subprocess.run([BINARY, "assess", os.path.join(ROOT, "data/projects/tile-glazing-cell.fulmox"), "--json"],
                             capture_output=True, text=True).stdout
        labels = {v["label"] for a in json.loads(out)["axes"] for v in a["results"].values()}
        for word in ("Peak torque", "RMS torque", "Holding torque", "Inertia ratio", "Ratio of the stages"):
            self.assertIn(word, labels)
            self.assertIn(f"| {word.lower()} |", said)

    def test_validation_is_current(self):
        # deviations are floored at the sources' digits, so the table is the same on every machine
        self.assertEqual(text("docs/validation.md"), open(VALIDATION, encoding="utf-8").read(),
                         "docs/validation.md is not what this run gives; copy build/*/validation.md over it")

    def test_readme_links_every_picture_and_both_commands(self):
        readme = text("README.md")
        self.assertIn("./scripts/demo", readme)
        self.assertIn("./scripts/test", readme)
        pictures = os.listdir(os.path.join(ROOT, "docs/screenshots"))
        self.assertTrue(0 < len(pictures) < 20)
        for picture in pictures:
            self.assertIn("docs/screenshots/" + picture, readme)
            head = open(os.path.join(ROOT, "docs/screenshots", picture), "rb").read(24)
            self.assertEqual(struct.unpack(">II", head[16:24]), (1280, 800))
        for link in re.findall(r"\]\((?!http)([^)#]+)\)", readme):
            self.assertTrue(os.path.exists(os.path.join(ROOT, link)), link)

    def test_catalogue_is_what_its_script_writes(self):
        with tempfile.TemporaryDirectory() as folder:
            subprocess.run([sys.executable, os.path.join(ROOT, "scripts/make_catalogue.py"), folder], check=True)
            made = sorted(os.listdir(folder))
            self.assertEqual(made, sorted(os.listdir(os.path.join(ROOT, "data/catalogue"))))
            for name in made:
                with open(os.path.join(folder, name), encoding="utf-8") as file:
                    self.assertEqual(file.read(), text("data/catalogue/" + name), name)


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1])
