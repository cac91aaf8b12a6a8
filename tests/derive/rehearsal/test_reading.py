"""A rehearsal read against its reference, saved as layers and as a film, and the cards of its passes."""

import io
import math
import tempfile
import unittest
import zipfile
from pathlib import Path
from xml.etree import ElementTree as ET

import numpy as np
from PIL import Image

from foxpath.core.colour import rgb8_from_lab
from foxpath.core.curves import resample
from foxpath.core.errors import InputError
from foxpath.core.passes import ROLES
from foxpath.core.passes.cards import CardFacts, card_words, way_words
from foxpath.core.rehearsal.reading import axis_off, read_zone
from foxpath.core.reporting import SILENT
from foxpath.core.units import CanvasSize, about
from foxpath.derive import Results
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.rehearsal.reading import read_painting
from foxpath.derive.rehearsal.requests import SaveRehearsal
from foxpath.document import edits
from foxpath.sheets import Painted, write_film, write_layers_file
from foxpath.sheets.openraster import layers_of
from tests import made
from tests.remembered import remember

setUpModule = remember

LAB = np.zeros((120, 160, 3), np.float32)
LAB[:] = (50, 10, 20)
LAB[30:90, 40:120] = (30, 20, 10)


def project():
    """A dark square of fur on a warm ground, combed to the right."""
    buffer = io.BytesIO()
    Image.fromarray(rgb8_from_lab(LAB)).save(buffer, "PNG")
    one = edits.new_project(buffer.getvalue(), "square.png", CanvasSize(160, 120), "Square")
    corners = np.array([[40.0, 30], [120, 30], [120, 90], [40, 90], [40, 30]])
    one, zone = edits.add_zone(one, "Square", "long-fur", resample(corners, 57)[:-1])
    return edits.add_comb(one, np.array([[50.0, 60], [110, 60]]), zone)[0]


class Reading(unittest.TestCase):
    def test_what_was_changed_is_read_back(self):
        """A part painted 8 L* lighter, greyer and yellower is said to be so, and only that part."""
        one, painted = project(), LAB.copy()
        painted[30:90, 40:120] = (38, 8, 8)
        first, other = read_painting(Results(), one, rgb8_from_lab(painted))
        self.assertEqual(one.zone(first.zone).name, "Square")
        self.assertAlmostEqual(first.dl, 8, delta=1)
        self.assertAlmostEqual(first.dc, math.hypot(8, 8) - math.hypot(20, 10), delta=1)
        self.assertGreater(first.dh_deg, 10)
        self.assertEqual(first.words(), "lighter by 8 L*, yellower, greyer")
        self.assertLess(other.de, 1.5)
        self.assertEqual(other.words(), "as the reference")

    def test_barbs_are_held_against_those_in_the_photograph(self):
        """A feathered part grows to the right, and its barbs leave at 40 degrees to both sides: painted so, they are right."""
        down, right = np.mgrid[:120, :160]

        def striped(degrees):
            t = math.radians(degrees) * np.where(down // 15 % 2, 1, -1)
            lab = LAB.copy()
            lab[..., 0] += 8 * np.sin((-np.sin(t) * right + np.cos(t) * down) * 2 * np.pi / 5)
            return rgb8_from_lab(lab)

        buffer = io.BytesIO()
        Image.fromarray(striped(40)).save(buffer, "PNG")
        one = edits.new_project(buffer.getvalue(), "square.png", CanvasSize(160, 120), "Square")
        corners = np.array([[40.0, 30], [120, 30], [120, 90], [40, 90], [40, 30]])
        one, zone = edits.add_zone(one, "Square", "covert", resample(corners, 57)[:-1])
        for row in range(34, 90, 4):
            one, _ = edits.add_comb(one, np.array([[44.0, row], [116, row]]), zone)
        for degrees, off in ((40, 0), (0, 40)):
            read = {each.zone: each for each in read_painting(Results(), one, striped(degrees))}
            self.assertAlmostEqual(read[zone].growth_deg, off, delta=6, msg=f"painted at {degrees}")

    def test_hair_across_the_plan_is_told(self):
        turn = np.full(200, math.radians(30), np.float32)
        axis = np.stack([np.cos(2 * turn), np.sin(2 * turn)]).astype(np.float32)
        right = np.tile(np.array([-1.0, 0], np.float32), (200, 1))
        self.assertAlmostEqual(axis_off(axis, np.ones(200, np.float32), right, 0.1), 30, delta=0.1)
        self.assertTrue(math.isnan(axis_off(axis, np.zeros(200, np.float32), right, 0.1)))
        self.assertIsNone(read_zone("z", LAB, LAB, np.zeros((120, 160), bool), 1.0))


class Saving(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        rng = np.random.default_rng(1)
        first = rng.integers(0, 255, (20, 30, 3), np.uint8)
        second = first.copy()
        second[4:9, 5:12] = 200
        self.passes = [Painted("Ground & <wash>", first), Painted("Lights", second)]

    def test_layers_over_one_another_give_the_painting(self):
        path = self.dir / "x.ora"
        self.assertEqual(write_layers_file(self.passes, path), 2)
        with zipfile.ZipFile(path) as file:
            self.assertEqual(file.infolist()[0].filename, "mimetype")
            self.assertEqual(file.read("mimetype"), b"image/openraster")
            stack = ET.fromstring(file.read("stack.xml"))
            layers = stack.findall(".//layer")
            self.assertEqual([one.get("name") for one in layers], ["Lights", "Ground & <wash>"])
            image = Image.new("RGBA", (30, 20))
            for one in layers[::-1]:
                image = Image.alpha_composite(image, Image.open(io.BytesIO(file.read(one.get("src")))))
        self.assertTrue((np.asarray(image)[..., :3] == self.passes[-1].picture).all())
        self.assertEqual(int((layers_of(self.passes)[1][..., 3] > 0).sum()), 35)

    def test_a_film_has_every_frame_and_other_endings_are_refused(self):
        for name in ("x.webp", "x.gif"):
            self.assertEqual(write_film([one.picture for one in self.passes], self.dir / name), 2)
            with Image.open(self.dir / name) as film:
                self.assertEqual(film.n_frames, 2)
        for call in (
            lambda: write_film([], self.dir / "x.gif"),
            lambda: write_film([self.passes[0].picture], self.dir / "x.mov"),
        ):
            with self.assertRaises(InputError):
                call()
        with self.assertRaises(InputError):
            write_layers_file([], self.dir / "x.ora")

    def test_a_painting_is_saved_both_ways(self):
        one = made.quick(project())
        said = SaveRehearsal(Results(), one, self.dir / "y.ora", 240)(SILENT)
        self.assertIn("1 layers", said)
        both = edits.set_pass(edits.set_pass(one, "ground", on=None), "undercoat", on=None)
        said = SaveRehearsal(Results(), both, self.dir / "z.png", 240)(SILENT)
        self.assertIn("3 pictures", said)
        with Image.open(self.dir / "z-01.png") as ground, Image.open(self.dir / "z-02.png") as coat:
            self.assertEqual(ground.size[0], 240)
            self.assertFalse(np.array_equal(np.asarray(ground), np.asarray(coat)))
            # A picture knows its true size on the canvas.
            self.assertAlmostEqual(240 / ground.info["dpi"][0] * 25.4, one.canvas.width_mm, delta=0.5)
        self.assertIn("film", SaveRehearsal(Results(), one, self.dir / "y.webp", 240)(SILENT))


class Cards(unittest.TestCase):
    def test_a_card_says_brush_strokes_values_and_edges(self):
        facts = CardFacts(
            "Neck",
            "1 mm liner",
            "hair",
            0.5,
            (14, 14.5),
            "down and outward",
            15,
            30,
            48,
            0.2,
            1.0,
            ("drag it",),
            ("whiskers",),
        )
        self.assertEqual(
            card_words(ROLES["undercoat"], facts),
            "Neck: 1 mm liner, strokes 14 mm down and outward, cross them by 15°, values 3 to 5 of 9 (L* 30 to 48), leave the folds dark, "
            "20 % of it; drag it; whiskers.",
        )

    def test_the_way_of_hair_in_words(self):
        places = np.stack([np.linspace(-9, 9, 40), np.zeros(40)], axis=1)
        right = np.tile(np.array([1.0, 0.0], np.float32), (40, 1))
        self.assertEqual(way_words(right, places, (0, 0)), "to the right")
        apart = np.stack([np.sign(places[:, 0]) * 0.7, np.full(40, 0.7)], axis=1).astype(np.float32)
        self.assertEqual(way_words(apart, places, (0, 0)), "down and outward")
        down_left = np.tile(np.array([-0.7, 0.7], np.float32), (40, 1))
        self.assertEqual(way_words(down_left, places + 100, (0, 0)), "down and left")

    def test_cards_follow_the_plan(self):
        one, results = project(), Results()
        plans = {plan.role.key: plan for plan in passes_of(results, one)}
        (coat,) = pass_cards(results, one, plans["lights"])
        self.assertIn("Square: ", coat)
        self.assertIn("to the right", coat)
        zone = next(k for k in plans["lights"].zones if one.back_to_front()[k].name == "Square")
        estimate = plans["lights"].estimates[zone]
        area = facts_of(results, one)[zone].area_cm2
        self.assertIn(f"{about(round(estimate.marks / area))} tufts to a\u00a0cm²", coat)
        dry = edits.set_pass(one, "lights", handling="dry")
        self.assertIn(
            "nearly dry",
            pass_cards(results, dry, next(p for p in passes_of(results, dry) if p.role.key == "lights"))[0],
        )
        changed = edits.set_pass(one, "lights", ceiling=24.0, l_high=24.0)
        later = {plan.role.key: plan for plan in passes_of(results, changed)}
        self.assertNotEqual(pass_cards(results, changed, later["lights"]), (coat,))
        self.assertEqual(pass_cards(results, one, plans["highlights"]), ())


if __name__ == "__main__":
    unittest.main()
