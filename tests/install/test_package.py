#!/usr/bin/python3
"""The package as somebody installs it: made, unpacked into a clean folder, started there, a double-clicked project opened."""
import configparser
import glob
import os
import re
import shlex
import shutil
import subprocess
import sys
import tempfile
import unittest
import xml.etree.ElementTree as ElementTree

BUILD, ROOT = os.path.abspath(sys.argv[1]), os.path.abspath(sys.argv[2])


def run(*command, **more):
    return subprocess.run(command, capture_output=True, text=True, timeout=120, **more)


class Package(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.folder = tempfile.TemporaryDirectory()
        made = run("cpack", "--config", os.path.join(BUILD, "CPackConfig.cmake"), "-B", cls.folder.name, cwd=cls.folder.name)
        assert made.returncode == 0, made.stdout + made.stderr
        (cls.deb,) = glob.glob(os.path.join(cls.folder.name, "*.deb"))
        cls.root = os.path.join(cls.folder.name, "root")
        if os.geteuid() == 0:  # as the package manager does it, into a system of its own
            os.makedirs(os.path.join(cls.root, "var/lib/dpkg/info"))
            for name in ("status", "available"):
                open(os.path.join(cls.root, "var/lib/dpkg", name), "w").close()
            done = run("dpkg", "--root", cls.root, "--force-depends", "--install", cls.deb)
        else:
            done = run("dpkg-deb", "-x", cls.deb, cls.root)
        assert done.returncode == 0, done.stdout + done.stderr
        home = os.path.join(cls.folder.name, "home")
        os.mkdir(home)
        cls.environment = {"PATH": os.path.join(cls.root, "usr/bin") + ":/usr/bin:/bin", "HOME": home, "LANG": "C.UTF-8",
                           "QT_QPA_PLATFORM": "offscreen", "XDG_RUNTIME_DIR": home, "XDG_DATA_HOME": home,
                           "XDG_DATA_DIRS": os.path.join(cls.root, "usr/share")}

    @classmethod
    def tearDownClass(cls):
        cls.folder.cleanup()

    def share(self, *path):
        return os.path.join(self.root, "usr/share", *path)

    def start(self, *command):
        return run(*command, env=self.environment, cwd=self.environment["HOME"])

    def test_it_names_what_it_needs(self):
        fields = run("dpkg-deb", "--field", self.deb).stdout
        for package in ("libqt6widgets6", "libqcustomplot", "libtbb", "libc6"):
            self.assertIn(package, fields)
        self.assertRegex(fields, r"(?m)^Version: \d+\.\d+\.\d+$")

    def test_nothing_of_the_place_it_was_made_in_is_left(self):
        for folder, _, files in os.walk(self.root):
            for name in files:
                if "/var/lib/dpkg" in folder:
                    continue
                with open(os.path.join(folder, name), "rb") as file:
                    self.assertNotIn(BUILD.encode(), file.read(), name)

    def test_both_programs_start(self):
        for program in ("fulmox", "fulmox-cli"):
            done = self.start(program, "--version")
            self.assertEqual(done.returncode, 0, done.stderr)
            self.assertRegex(done.stdout, r"\d+\.\d+\.\d+")
        self.assertEqual(self.start("fulmox", "--demo", "--exit-after-first-paint").returncode, 0)

    def test_a_double_clicked_project_opens(self):
        entry = configparser.ConfigParser(interpolation=None)
        entry.optionxform = str
        entry.read(self.share("applications/fulmox.desktop"), encoding="utf-8")
        entry = entry["Desktop Entry"]
        # a file of that name is of the type that the entry opens
        shutil.copytree(self.share("mime"), os.path.join(self.folder.name, "mime"))
        self.assertEqual(run("update-mime-database", os.path.join(self.folder.name, "mime")).returncode, 0)
        with open(os.path.join(self.folder.name, "mime/globs2"), encoding="utf-8") as globs:
            kind = re.search(r"^\d+:([^:]+):\*\.fulmox$", globs.read(), re.M).group(1)
        self.assertIn(kind, entry["MimeType"].split(";"))
        project = os.path.join(self.environment["HOME"], "My axis & more.fulmox")
        shutil.copy(self.share("doc/fulmox/examples/tile-glazing-cell.fulmox"), project)
        command = [project if word == "%f" else word for word in shlex.split(entry["Exec"])]
        self.assertIn(project, command)
        done = self.start(*command, "--exit-after-first-paint")
        self.assertEqual(done.returncode, 0, done.stderr)
        # and what was opened is that project
        paper = os.path.join(self.folder.name, "report.pdf")
        done = self.start(*command, "--report", paper, "--axis", "2")
        self.assertEqual(done.returncode, 0, done.stderr)
        words = run("pdftotext", "-raw", paper, "-").stdout
        self.assertIn("Tile shuttle", words)
        self.assertIn("My axis & more.fulmox", words)
        self.assertTrue(os.path.exists(self.share("icons/hicolor/scalable/apps", entry["Icon"] + ".svg")))
        self.assertTrue(os.access(os.path.join(self.root, "usr/bin", entry["TryExec"]), os.X_OK))

    def test_a_report_that_cannot_be_made_says_why(self):
        example = self.share("doc/fulmox/examples/tile-glazing-cell.fulmox")
        for command, words in (((example, "--report", "r.pdf", "--axis", "99"), "axes 1 to 11"),
                               (("/no/such.fulmox", "--report", "r.pdf"), "/no/such.fulmox"),
                               ((example, "--report", "/no/such/folder/r.pdf"), "/no/such/folder")):
            done = self.start("fulmox", *command)
            self.assertEqual(done.returncode, 2)
            self.assertIn(words, done.stderr)

    def test_the_entry_and_the_metadata_are_sound(self):
        done = run("desktop-file-validate", self.share("applications/fulmox.desktop"))
        self.assertEqual((done.returncode, done.stdout), (0, ""))
        file = self.share("metainfo/org.fulmox.fulmox.metainfo.xml")
        done = run("appstreamcli", "validate", "--no-net", "--no-color", file)
        self.assertNotRegex(done.stdout, r"(?m)^[EW]:", done.stdout)
        root = ElementTree.parse(file).getroot()
        self.assertEqual(root.find("launchable").text, "fulmox.desktop")
        version = re.search(r"VERSION (\d+\.\d+\.\d+)", open(os.path.join(ROOT, "CMakeLists.txt"), encoding="utf-8").read()).group(1)
        self.assertEqual(root.find("releases/release").get("version"), version)

    def test_manual_and_completion_know_every_option(self):
        for program, words in (("fulmox", ("--help",)), ("fulmox-cli", ("--help",)), ("fulmox-cli", ("assess", "--help")),
                               ("fulmox-cli", ("datasheet", "--help")), ("fulmox-cli", ("curve", "--help")),
                               ("fulmox-cli", ("validate", "--help")), ("fulmox-cli", ("units", "--help"))):
            said = self.start(program, *words).stdout
            options = {o for o in re.findall(r"(?<![\w-])--[a-z][a-z-]+", said) if o not in ("--help-all",)}
            commands = set(re.findall(r"^  ([a-z]+) ", said.split("Subcommands:")[-1], re.M)) if "Subcommands:" in said else set()
            self.assertTrue(options)
            page = run("man", "-l", self.share(f"man/man1/{program}.1"), env={**os.environ, "LC_ALL": "C.UTF-8", "MANWIDTH": "200"})
            self.assertEqual((page.returncode, page.stderr), (0, ""))
            page = re.sub(r"[\u2010\u2212]", "-", re.sub(r".\x08", "", page.stdout))
            with open(self.share("bash-completion/completions", program), encoding="utf-8") as completion:
                completion = completion.read()
            for word in options | commands:
                with self.subTest(program=program, word=word):
                    self.assertIn(word, page)
                    self.assertIn(word, completion)

    def test_completion_completes(self):
        script = 'source "$1"; COMP_WORDS=(fulmox-cli assess --j); COMP_CWORD=2; _fulmox_cli 2>/dev/null; echo "${COMPREPLY[@]}"'
        done = run("bash", "-c", script, "x", self.share("bash-completion/completions/fulmox-cli"))
        self.assertEqual(done.stdout.strip(), "--json")


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1])
