import configparser
import json
import re
import subprocess
import unittest
import xml.etree.ElementTree as ET
from pathlib import Path

from foxpath import __version__, fonts

TOP = Path(__file__).parents[1]


class Files(unittest.TestCase):
    def test_every_link_of_the_documents_leads_somewhere(self):
        for page in (TOP / "README.md", *sorted((TOP / "docs").glob("*.md"))):
            for target in re.findall(r"\]\(([^)#]+)\)", page.read_text("utf-8")):
                self.assertTrue((page.parent / target).exists(), f"{page.name}: {target}")

    def test_screenshots_are_few_and_each_is_linked(self):
        shots = sorted((TOP / "docs" / "screenshots").glob("*.png"))
        readme = (TOP / "README.md").read_text("utf-8")
        self.assertLess(len(shots), 20)
        for shot in shots:
            self.assertIn(f"docs/screenshots/{shot.name}", readme)

    def test_the_readme_begins_with_the_two_commands(self):
        lines = [
            line.strip() for line in (TOP / "README.md").read_text("utf-8").splitlines() if line.startswith("    ")
        ]
        self.assertTrue(lines[0].startswith("./fox demo"))
        self.assertTrue(lines[1].startswith("./fox test"))

    def test_launcher_help_and_wrong_use(self):
        shown = subprocess.run([TOP / "fox"], capture_output=True, text=True, check=False)
        self.assertEqual(shown.returncode, 0)
        for command in ("demo", "run", "test", "check", "shots", "bench"):
            self.assertRegex(shown.stdout, rf"\n  {command} ")
        wrong = subprocess.run([TOP / "fox", "fly"], capture_output=True, text=True, check=False)
        self.assertEqual(wrong.returncode, 2)
        self.assertIn("fly", wrong.stderr)
        self.assertEqual(wrong.stdout, "")

    def test_desktop_entry_and_metadata(self):
        entry = configparser.ConfigParser(interpolation=None)
        entry.optionxform = str
        entry.read(TOP / "packaging" / "org.foxpath.FoxPath.desktop", "utf-8")
        desktop = entry["Desktop Entry"]
        self.assertEqual((desktop["Exec"], desktop["Icon"]), ("foxpath %f", "org.foxpath.FoxPath"))
        self.assertIn("application/x-foxpath", desktop["MimeType"])
        meta = ET.parse(TOP / "packaging" / "org.foxpath.FoxPath.metainfo.xml").getroot()
        self.assertEqual(meta.findtext("id"), "org.foxpath.FoxPath")
        self.assertEqual(meta.find("releases/release").get("version"), __version__)
        for name in ("org.foxpath.FoxPath.svg", "org.foxpath.FoxPath.xml"):
            ET.parse(TOP / "packaging" / name)

    def test_locks_have_hashes_and_the_ranges_hold(self):
        for name in ("requirements.lock", "requirements-check.lock", "requirements-bench.lock"):
            text = (TOP / name).read_text("utf-8")
            packages = re.findall(r"^([a-z0-9_-]+)==(\S+)", text, re.MULTILINE | re.IGNORECASE)
            self.assertGreaterEqual(len(packages), 6)
            self.assertEqual(len(re.findall(r"^[a-z].*\\$", text, re.MULTILINE | re.IGNORECASE)), len(packages))
            self.assertGreaterEqual(text.count("--hash=sha256:"), len(packages))
            qt = dict(packages).get("pyside6-essentials", "6.11")
            self.assertLess(tuple(map(int, qt.split(".")[:2])), (6, 12))

    def test_schema_in_the_docs_is_the_one_in_use(self):
        shown = json.loads((TOP / "docs" / "project.schema.json").read_text("utf-8"))
        used = json.loads((TOP / "foxpath" / "document" / "project.schema.json").read_text("utf-8"))
        self.assertEqual(shown, used)

    def test_fonts_are_there_with_their_licence(self):
        for weight in fonts.WEIGHTS:
            self.assertEqual(fonts.path(weight).read_bytes()[:4], b"\x00\x01\x00\x00")
        self.assertIn("OPEN FONT LICENSE", (TOP / "foxpath" / "fonts" / "OFL.txt").read_text("utf-8").upper())
