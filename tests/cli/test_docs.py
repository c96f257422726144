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

    def test_every_key_that_a_screen_or_report_asks_for_is_in_the_registries(self):
        formats = json.loads(subprocess.run([BINARY, "formats"], capture_output=True, text=True).stdout)
        figures, limits = ({row["key"] for row in formats[kind]} for kind in ("results", "limits"))
        asked = []
        for folder in ("app", "core", "cli"):
            for at, _, files in os.walk(os.path.join(ROOT, folder)):
                for name in files:
                    if name.endswith(".cpp"):
                        asked += [(name, *found) for found in re.findall(
                            r'\b(figure|limit|waiting_for)\((?:document_, )?"([a-z_.0-9]+)"', text(os.path.join(at, name)))]
        self.assertGreater(len(asked), 15)
        known = {"figure": figures, "limit": limits, "waiting_for": figures | limits}
        self.assertEqual([a for a in asked if a[2] not in known[a[1]]], [])

    def test_readme_and_guide_name_every_command(self):
        commands = json.loads(subprocess.run([BINARY, "commands"], capture_output=True, text=True).stdout)
        names = [c["name"] for c in commands]
        self.assertGreater(len(names), 10)
        for name in names:
            self.assertRegex(text("README.md"), rf"`(fulmox-cli )?{name}\b")
            self.assertIn(f"fulmox-cli {name}", text("docs/guide.md"))
        for line in re.findall(r"(?m)^    fulmox-cli (\S+)", text("docs/guide.md")):
            self.assertIn(line, names)

    def test_no_text_of_the_program_has_a_word_that_the_glossary_rules_out(self):
        terms, plain = text("docs/glossary.md").split("## Plain words")
        of_terms = [w.strip() for others in re.findall(r"^\| [^|]+ \| [^|]+ \| ([^|]+) \|$", terms, re.M)[1:]
                    for w in others.split(",") if set(w) - set("- ")]
        of_plain = [w.strip() for others in re.findall(r"^\| [^|]+ \| ([^|]+) \|$", plain, re.M)[1:]
                    for w in others.split(",") if set(w) - set("- ")]
        self.assertGreater(len(of_terms), 25)
        self.assertGreater(len(of_plain), 10)
        found = []

        def look(name, words, where):
            found.extend((name, w, where[max(0, m.start() - 30):m.end() + 30]) for w in words
                         if (m := re.search(rf"\b{re.escape(w)}", where, re.I)))

        for folder in ("app", "core", "cli", "tests", "docs"):
            for at, _, files in os.walk(os.path.join(ROOT, folder)):
                for name in files:
                    whole = text(os.path.join(at, name)) if name.endswith((".cpp", ".h", ".md")) else ""
                    if name.endswith(".md"):
                        look(name, of_plain, "" if name == "glossary.md" else whole)
                        continue
                    comments = " ".join(re.findall(r"(?m)//.*$", whole))
                    source = re.sub(r"(?m)//.*$|^#include.*$", "", whole)
                    texts = "\n".join(re.findall(r'"((?:[^"\\\n]|\\.)*)"', source))
                    look(name, of_plain, comments + "\n" + texts)
                    if folder != "tests":
                        look(name, of_terms, texts)
        for page in ("README.md", "CONTRIBUTING.md", "CHANGELOG.md"):
            look(page, of_plain, text(page))
        self.assertEqual(found, [], "\n".join(map(str, found)))

    def test_sentences_of_the_documents_are_short(self):
        def sentences(page):
            page = re.sub(r"(?ms)^```.*?^```|^    [^\n]*$", "", page)
            page = re.sub(r"(?m)^(\||!\[).*$", "", page)
            page = re.sub(r"(?m)^#.*$|^\s*(-|\d+\.) ", "\n\n", page)
            page = re.sub(r"\[([^\]]*)\]\([^)]*\)", r"\1", re.sub(r"`[^`]*`", "code", page))
            for part in re.split(r"\n\s*\n", page):
                for sentence in re.split(r"(?<=[.!?])[\"*)]*\s+(?=[A-Z\"*(`0-9√∫])", " ".join(part.split())):
                    words = [w for w in sentence.split() if re.search(r"\w", w)]
                    if len(words) > 2:
                        yield len(words)

        pages = ["README.md", "CONTRIBUTING.md", "CHANGELOG.md"]
        pages += [os.path.join(at, f) for at, _, files in os.walk(os.path.join(ROOT, "docs")) for f in files if f.endswith(".md")]
        self.assertGreater(len(pages), 12)
        for page in pages:
            lengths = list(sentences(text(page)))
            if lengths:
                self.assertLessEqual(sum(lengths) / len(lengths), 18, page)

    def test_the_versions_of_the_formats_are_documented(self):
        made = json.loads(subprocess.run([BINARY, "assess", os.path.join(ROOT, "data/projects/tile-glazing-cell.fulmox"), "--json"],
                                         capture_output=True, text=True).stdout)
        self.assertIn(f"`version` {made['version']}", text("docs/formats/assess-json.md"))
        number = re.search(r"project_version = (\d+)", text("core/files/project.h")).group(1)
        self.assertIn(f"`version` is {number}", text("docs/formats/project-file.md"))

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
