import contextlib
import io
import json
import os
import re
import tempfile
import unittest
from pathlib import Path
from unittest import mock
from xml.etree import ElementTree as ET

import cv2
import numpy as np
from PIL import Image

from foxpath.cli import main
from foxpath.core.curves import closed_curve
from foxpath.core.zones import fill
from foxpath.document import archive, edits
from tests.core.zones.test_shape import animal
from tests.core.zones.test_snap import hairy, two_toned
from tests.made import picture, project
from tests.remembered import remember

setUpModule = remember


class CommandLine(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.image = self.write("blob.png", picture())
        self.outline = self.write("o.json", [[40, 30], [120, 30], [120, 110], [40, 110]])
        self.combs = self.write("c.json", [[[50, 60], [110, 60]]])

    def write(self, name, data):
        path = self.dir / name
        path.write_bytes(data if isinstance(data, bytes) else json.dumps(data).encode())
        return str(path)

    def run_with(self, *args):
        """Run a command; returns exit status, standard output and standard error."""
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main([str(a) for a in args])
        return status, out.getvalue(), err.getvalue()

    def fails(self, status, *args, words=""):
        code, _, err = self.run_with(*args)
        self.assertEqual(code, status, err)
        self.assertEqual(err.count("\n"), 1, err)
        self.assertNotIn("Traceback", err)
        self.assertIn(words, err)

    def test_inspect(self):
        out = self.dir / "maps"
        code, said, _ = self.run_with("inspect", self.image, "--canvas", "50x40cm", "--out", out)
        self.assertEqual(code, 0)
        self.assertIn("2.500 mm a pixel", said)
        record = json.loads((out / "health.json").read_text())
        self.assertEqual((record["width_px"], record["canvas_mm"]), (200, [500, 400]))
        self.assertEqual({one["key"] for one in record["health"]} - {"focus"}, set(record["maps"]))
        for one in record["maps"].values():
            self.assertEqual(Image.open(out / one["file"]).size, (1200, 960))
            self.assertTrue(one["unit"])
        # What is lost is white on its map, where it lies.
        lost = np.full((160, 200, 3), 90, np.uint8)
        lost[:80, :100] = 255
        Image.fromarray(lost).save(self.dir / "lost.png")
        self.assertEqual(self.run_with("inspect", self.dir / "lost.png", "--out", out)[0], 0)
        clipped = np.asarray(Image.open(out / "clipped.png"))[..., 0]
        self.assertGreater(int(clipped[240, 300]), 250)
        self.assertEqual(int(clipped[700, 900]), 0)
        self.assertAlmostEqual(json.loads((out / "health.json").read_text())["clipped_share"], 0.25, delta=0.02)
        self.fails(2, "inspect", self.image, "--canvas", "huge", "--out", out, words="canvas size")
        self.fails(1, "inspect", self.write("a.jpg", b"hello"), "--out", out, words="not a picture")
        self.fails(1, "inspect", self.dir / "none.jpg", "--out", out, words="could not be read")

    def test_new(self):
        out = self.dir / "x.foxpath"
        args = (
            "new",
            self.image,
            "--canvas",
            "40x50cm",
            "--out",
            out,
            "--outline",
            self.outline,
            "--combs",
            self.combs,
        )
        self.assertEqual(self.run_with(*args)[0], 0)
        made = archive.load(out)
        self.assertEqual((len(made.zones), len(made.combs)), (2, 1))
        self.assertAlmostEqual(made.crop.width / made.crop.height, 0.8)
        self.fails(1, *args, words="already")
        self.assertEqual(self.run_with(*args, "--force")[0], 0)

    def test_zones(self):
        rgb, oval = hairy()
        image, out = self.dir / "hairy.png", self.dir / "z.json"
        Image.fromarray(rgb).save(image)
        scribbles = self.write("s.json", {
            "Coat": {"inside": [[300, 300], [500, 310]]},
            "Ground": {"inside": [[[120, 100], [120, 500]], [[690, 100], [690, 500]]]},
        })  # fmt: skip
        code, said, _ = self.run_with("zones", image, "--scribbles", scribbles, "--out", out)
        self.assertEqual(code, 0)
        self.assertRegex(said, r"Coat: \d+ points, \d+ % of its border is shown")
        self.assertNotIn("in doubt", said)
        found = json.loads(out.read_text())
        self.assertEqual(list(found), ["Coat", "Ground"])
        saved = self.dir / "hairy.foxpath"
        self.run_with("new", image, "--canvas", "40x30cm", "--zones", out, "--out", saved)
        zones = archive.load(saved).zones
        self.assertEqual([z.name for z in zones[1:]], ["Coat", "Ground"])
        self.assertEqual([list(p) for p in zones[1].points], found["Coat"])
        mask = fill(closed_curve(np.array(found["Coat"])), oval.shape)
        self.assertGreater((mask & oval).sum() / (mask | oval).sum(), 0.94)
        args = ("--out", self.dir / "n.json", "--scribbles")
        self.fails(2, "zones", image, *args, self.write("a.json", [1]), words="one entry for each part")
        self.fails(2, "zones", image, *args, self.write("b.json", {"Ear": [[1, 2]]}), words="'Ear' needs")
        away = self.write("d.json", {"Ear": {"inside": [[-90, -90], [-80, -90]]}})
        self.fails(2, "zones", image, *args, away, words="Ear: Nothing marks the inside")
        self.assertFalse((self.dir / "n.json").exists())

    def test_zones_say_where_one_more_stroke_tells_most(self):
        rgb, _, side = two_toned()
        image, out = self.dir / "two.png", self.dir / "z.json"
        Image.fromarray(rgb).save(image)
        sides = {"inside": [[260, 300], [400, 310]], "outside": [[[120, 100], [120, 500]], [[690, 100], [690, 500]]]}
        code, said, _ = self.run_with(
            "zones", image, "--scribbles", self.write("s.json", {"Coat": sides}), "--out", out
        )
        self.assertEqual(code, 0)
        x, y = (int(v) for v in re.search(r"most in doubt at (\d+), (\d+) px: one more stroke there", said).groups())
        self.assertTrue(side[y, x])

    def test_zones_from_the_picture_alone(self):
        image, out = self.dir / "animal.png", self.dir / "z.json"
        Image.fromarray(animal()).save(image)
        code, said, _ = self.run_with("zones", image, "--propose", "--out", out)
        self.assertEqual(code, 0)
        found = json.loads(out.read_text())
        self.assertEqual(next(iter(found)), "Part 1")
        self.assertIn("of the picture", said)
        self.fails(2, "zones", image, "--out", out, words="either --scribbles or --propose")

    def test_growth(self):
        out = self.dir / "f.npz"
        status, said, _ = self.run_with(
            "growth", self.image, "--outline", self.outline, "--combs", self.combs, "--out", out
        )
        self.assertEqual(status, 0)
        self.assertIn("sure", said)
        with np.load(out) as field:
            angle, sure = field["angle_deg"], field["sure"]
        self.assertEqual(
            (angle.shape, angle.dtype, sure.shape, sure.dtype), ((160, 200), np.float32, (160, 200), np.float32)
        )
        inside = np.zeros((160, 200), bool)
        inside[30:110, 40:120] = True
        np.testing.assert_array_equal(np.isfinite(angle), inside)
        self.assertLess(float(np.abs(angle[inside]).max()), 3)
        self.assertTrue(sure.min() >= 0 and sure.max() <= 1)
        self.assertGreater(sure[60, 80], 0.9)

    def test_growth_of_a_project_as_pictures_and_combs(self):
        saved = self.dir / "p.foxpath"
        archive.save(project(), saved)
        out, combs = self.dir / "g.png", self.dir / "c.json"
        code, said, _ = self.run_with("growth", saved, "--out", out, "--combs-out", combs)
        self.assertEqual(code, 0)
        self.assertRegex(said, r"cells, 1 comb, \d+ % sure")
        direction = np.asarray(Image.open(self.dir / "g-direction.png"))
        sure = np.asarray(Image.open(self.dir / "g-sure.png"))
        self.assertEqual((direction.dtype, direction.shape, sure.dtype), (np.uint16, (160, 200), np.uint8))
        self.assertEqual(direction[5, 5], 0)
        # The comb runs to the right: the middle of the circle.
        self.assertAlmostEqual((int(direction[45, 80]) - 1) / 65534 * 360 - 180, 0, delta=3)
        self.assertGreater(sure[45, 80], 200)
        self.assertEqual(json.loads(combs.read_text()), [[[50.0, 45.0], [110.0, 45.0]]])
        self.assertEqual(self.run_with("growth", saved, "--out", out, "--combs-out", self.dir / "c.svg")[0], 0)
        self.assertIn("M50.00 45.00 L110.00 45.00", (self.dir / "c.svg").read_text())
        self.fails(2, "growth", self.image, "--out", out, words="needs --outline and --combs")
        self.fails(
            2, "growth", self.image, "--outline", self.outline, "--combs", self.combs, "--length", "0", "--out", out,
            words="--length",
        )  # fmt: skip

    def test_growth_reads_the_picture(self):
        """Hair that lies across the only comb is found, and the comb is named."""
        rng = np.random.default_rng(3)
        rgb = np.full((240, 320, 3), 110, np.uint8)
        for _ in range(3000):
            x, y = rng.integers(0, (320, 240))
            tone = [int(v) for v in np.clip(rng.normal(120, 45) + np.array([10, 0, -10]), 0, 255)]
            cv2.line(rgb, (int(x), int(y)), (int(x) + 2, int(y) + 24), tone, 1, cv2.LINE_AA)
        Image.fromarray(rgb).save(self.dir / "hair.png")
        outline = self.write("ho.json", [[20, 20], [300, 20], [300, 220], [20, 220]])
        args = ("growth", self.dir / "hair.png", "--outline", outline, "--out", self.dir / "h.npz")
        across = self.write("across.json", [[[120, 120], [190, 122]]])
        code, said, _ = self.run_with(*args, "--combs", across)
        self.assertEqual(code, 0)
        self.assertRegex(said, r"speaks against comb 1 by [678]\d°")
        along = self.write("along.json", [[[150, 90], [155, 150]]])
        code, said, _ = self.run_with(*args, "--combs", along, "--length", "24")
        self.assertNotIn("against", said)
        made = np.load(self.dir / "h.npz")
        inside = np.isfinite(made["angle_deg"])
        self.assertLess(np.median(np.abs(made["angle_deg"][inside] - 85)), 4)
        self.assertGreater((made["sure"][inside] > 0.9).mean(), 0.7)

    def test_growth_of_parts_and_of_none(self):
        zones = self.write("z.json", {"ear": [[80, 30], [120, 30], [120, 110], [80, 110]]})
        combs = self.write("c2.json", [[[50, 60], [75, 60]], [[100, 90], [100, 60]]])
        out = self.dir / "f.npz"
        self.run_with("growth", self.image, "--outline", self.outline, "--combs", combs, "--out", out, "--zones", zones)
        with np.load(out) as field:
            self.assertAlmostEqual(float(field["angle_deg"][70, 60]), 0, delta=3)
            self.assertAlmostEqual(float(field["angle_deg"][70, 100]), -90, delta=3)
        none = self.write("none.json", [])
        self.assertEqual(
            self.run_with("growth", self.image, "--outline", self.outline, "--combs", none, "--out", out)[0], 0
        )
        with np.load(out) as field:
            self.assertTrue(np.isfinite(field["angle_deg"][70, 60]))
            self.assertEqual(float(field["sure"].max()), 0)

    def test_eye(self):
        """One place in the pupil gives iris, pupil and catchlight; what is no eye is exit 1, off the picture exit 2."""
        from tests.eyes import Made

        made = Made(r=44)
        image, out = self.dir / "eye.png", self.dir / "eye.json"
        Image.fromarray(made.draw()).save(image)
        code, words, _ = self.run_with("eye", image, "--at", "121,111", "--out", out)
        self.assertEqual(code, 0)
        self.assertIn("catchlight at 10 h 30", words)
        record = json.loads(out.read_text())
        self.assertAlmostEqual(record["iris"]["cx"], made.cx, delta=0.02 * made.r)
        self.assertAlmostEqual(record["iris"]["rx"], made.r, delta=0.03 * made.r)
        self.assertEqual(set(record["pupil"]), {"cx", "cy", "rx", "ry", "deg"})
        self.assertAlmostEqual(record["catchlight"][0], made.light_at()[0], delta=1)
        self.assertGreater(record["sure"], 0.6)
        self.assertEqual(self.run_with("eye", image, "--at", "12,14", "--out", out)[0], 1)
        for at in ("900,14", "here"):
            code, _, said = self.run_with("eye", image, "--at", at, "--out", out)
            self.assertEqual(code, 2)
            self.assertEqual(said.count("\n"), 1)

    def test_an_eye_whose_size_is_said_and_one_that_is_doubted(self):
        from foxpath.core.eyes import plausible
        from tests.eyes import Made

        made = Made(r=44)
        image, out = self.dir / "eye.png", self.dir / "eye.json"
        Image.fromarray(made.draw()).save(image)
        code, words, _ = self.run_with("eye", image, "--at", "120,110", "--radius", 18, "--out", out)
        self.assertEqual((code, "look again" in words), (0, False))
        record = json.loads(out.read_text())
        self.assertLess(record["iris"]["rx"], 24)
        self.assertEqual(record["doubts"], [])
        for radius in ("0", "nan", "wide"):
            self.assertEqual(self.run_with("eye", image, "--at", "120,110", "--radius", radius, "--out", out)[0], 2)
        with mock.patch.object(plausible, "MOST_OF_PICTURE", 0.3):
            code, words, _ = self.run_with("eye", image, "--at", "120,110", "--out", out)
        record = json.loads(out.read_text())
        self.assertEqual(code, 0)
        self.assertIn("look again: It would be", words)
        self.assertIn("of the picture", record["doubts"][0])
        self.assertIn("px across", record["doubts"][0])
        self.assertTrue("--radius" in words)
        for other in record["others"]:
            self.assertEqual(set(other), {"iris", "sure"})

    def test_rehearse(self):
        made = self.dir / "x.foxpath"
        archive.save(project(), made)
        out = self.dir / "out"
        self.assertEqual(self.run_with("rehearse", made, "--out", out, "--width", 240, "--passes", "2,5")[0], 0)
        self.assertEqual(sorted(p.name for p in out.iterdir()), ["pass-02.png", "pass-05.png", "rehearsal.json"])
        with Image.open(out / "pass-05.png") as image:
            self.assertEqual(image.size, (240, 192))
            first = np.asarray(image).copy()
        passes = json.loads((out / "rehearsal.json").read_text())["passes"]
        self.assertEqual(len(passes), 2)
        for one in passes:
            self.assertLessEqual({"name", "marks", "area_cm2", "l_min", "l_max", "seconds"}, set(one))
            self.assertGreater(one["marks"], 0)
        self.run_with("rehearse", made, "--out", out, "--width", 240, "--passes", "5", "--seed", 9)
        with Image.open(out / "pass-05.png") as image:
            self.assertFalse(np.array_equal(np.asarray(image), first))

    def test_schools_are_compared_and_sides_taken(self):
        made = self.dir / "x.foxpath"
        archive.save(project(), made)
        out = self.dir / "cmp"
        args = ("compare", made, "layered-oil", "white-hair", "--width", 240, "--out", out, "--set", "finish=loose")
        status, said, _ = self.run_with(*args)
        self.assertEqual(status, 0)
        self.assertEqual(said.count("mean difference"), 2)
        # One wait is one wait.
        told = re.findall(r": (\d+) passes, (\d+) wait(s?) for drying, ([\d ]+) marks, ", said)
        self.assertEqual(len(told), 2)
        for _, waits, many, _ in told:
            self.assertEqual(many, "" if waits == "1" else "s")
        names = {"compare.json", "layered-oil.png", "white-hair.png", "side-by-side.png"}
        self.assertEqual({p.name for p in out.iterdir()}, names)
        one, other = json.loads((out / "compare.json").read_text())["schools"]
        self.assertGreater(other["passes"], one["passes"])
        with Image.open(out / "side-by-side.png") as image:
            self.assertEqual(image.size, (492, 192))
        plain = self.dir / "plain"
        self.run_with("rehearse", made, "--width", 240, "--out", plain)
        bent = self.dir / "bent"
        self.run_with("rehearse", made, "--width", 240, "--out", bent, "--set", "layers=few", "--set", "first=eyes")
        names = [[p["name"] for p in json.loads((d / "rehearsal.json").read_text())["passes"]] for d in (plain, bent)]
        self.assertEqual(names[1][1], "Eyes")
        self.assertNotIn("Midtones", names[1])
        self.assertIn("Midtones", names[0])
        self.fails(2, "compare", made, "layered-oil", "--out", out, words="Name two")
        self.fails(2, "compare", made, "layered-oil", "cubism", "--out", out, words="cubism")
        self.fails(2, "rehearse", made, "--out", out, "--set", "first", words="setting=side")
        self.fails(2, "rehearse", made, "--out", out, "--set", "first=last", words="eyes and background")

    def test_a_painted_pass_is_noted(self):
        made = self.dir / "x.foxpath"
        archive.save(project(), made)
        with mock.patch.dict("os.environ", {"FOXPATH_DATA": str(self.dir / "data")}):
            status, said, _ = self.run_with("painted", made, "undercoat", 500, "--day", "2026-03-21")
            self.assertEqual(status, 0)
            self.assertIn("1 noted pass", said)
            noted = archive.load(made)
            self.assertEqual(
                [(one.role, one.taken_min, one.day) for one in noted.noted], [("undercoat", 500, "2026-03-21")]
            )
            self.run_with("painted", made, "2", 40)
            self.assertEqual(len(archive.load(made).noted), 2)
            later = self.dir / "y.foxpath"
            self.run_with("new", self.image, "--canvas", "40x50cm", "--out", later)
            self.assertEqual(archive.load(later).pace, archive.load(made).pace)
            self.fails(2, "painted", made, "varnish", 30, words="varnish")
            self.fails(2, "painted", made, "lights", 0, words="minutes")
            self.fails(2, "painted", "demo:fox", "lights", 30, words="demo")

    def test_plan_and_check(self):
        made = self.dir / "x.foxpath"
        archive.save(project(), made)
        out = self.dir / "sheets"
        self.assertEqual(self.run_with("plan", made, "--out", out, "--width", 300, "--paper", "Letter")[0], 0)
        plan = json.loads((out / "plan.json").read_text())
        self.assertEqual(len(plan["zones"]), 3)
        self.assertGreaterEqual(len(plan["passes"]), 6)
        self.assertTrue((out / "plan.pdf").read_bytes().startswith(b"%PDF"))
        self.assertEqual(plan["zones"][1]["brushes"]["lights"]["as"], "hair")
        layers = ET.parse(out / "map.svg").getroot()
        self.assertEqual(layers.get("width"), "250mm")
        self.assertEqual(len(layers.findall("{*}g")), 8)
        self.assertEqual(self.run_with("check", made)[0], 0)
        archive.save(edits.set_pass(project(), "lights", l_low=95.0), made)
        status, said, _ = self.run_with("check", made)
        self.assertEqual(status, 1)
        self.assertIn("must be mended", said)

    def test_wrong_use_is_2_and_one_line(self):
        made = self.dir / "x.foxpath"
        archive.save(project(), made)
        self.fails(2, "new", self.image, "--out", "x", words="--canvas")
        self.fails(2, "new", self.image, "--canvas", "big", "--out", self.dir / "y", words="not a canvas size")
        self.fails(2, "rehearse", made, "--out", self.dir, "--width", 9, words="out of range")
        self.fails(2, "rehearse", made, "--out", self.dir, "--passes", "1,99", words="no pass 99")
        self.fails(2, "check", "demo:unicorn", words="unicorn")
        bad = self.write("bad.json", [[1, 2], [3]])
        self.fails(
            2, "growth", self.image, "--outline", bad, "--combs", self.combs, "--out", self.dir / "f", words="bad.json"
        )
        away = self.write("away.json", [[900, 900], [990, 900], [990, 990]])
        self.fails(
            2, "growth", self.image, "--outline", away, "--combs", self.combs, "--out", self.dir / "f", words="encloses"
        )

    def test_failures_are_1_and_name_the_file(self):
        self.fails(1, "check", self.dir / "lost.foxpath", words="lost.foxpath")
        self.fails(1, "check", self.image, words="blob.png")
        text = self.write("text.jpg", b"hello")
        self.fails(1, "new", text, "--canvas", "40x50", "--out", self.dir / "y", words="text.jpg")
        self.assertFalse((self.dir / "y").exists())

    def test_without_a_screen_the_window_says_so(self):
        with mock.patch.dict("os.environ"):
            for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
                os.environ.pop(name, None)
            self.fails(1, "--demo", words="no screen")
            self.fails(2, "--demo", "unicorn", words="unicorn")

    def test_help_and_version(self):
        for args in (
            ["--help"],
            ["--version"],
            *([c, "--help"] for c in ("new", "inspect", "zones", "growth", "plan", "rehearse", "check")),
        ):
            status, out, _ = self.run_with(*args)
            self.assertEqual(status, 0)
            self.assertIn("foxpath", out)
