import io
import unittest
from unittest import mock

import cv2
import numpy as np
from PIL import Image

from foxpath.core.errors import InputError
from foxpath.core.units import CanvasSize
from foxpath.derive import Results
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth import fields
from foxpath.derive.growth.fields import contradictions, growth_key, growth_of
from foxpath.derive.growth.reading import read_growth
from foxpath.derive.zones.shapes import zone_index
from foxpath.document import edits


def hair(angle_deg, width=320, height=240, seed=0):
    """A picture of hair that all lies along one axis."""
    rng = np.random.default_rng(seed)
    rgb = np.full((height, width, 3), 110, np.uint8)
    way = 22 * np.array([np.cos(np.radians(angle_deg)), np.sin(np.radians(angle_deg))])
    for _ in range(width * height // 25):
        at = rng.integers(0, (width, height))
        tone = [int(v) for v in np.clip(rng.normal(120, 45) + np.array([10, 0, -10]), 0, 255)]
        end = np.round(at + way).astype(int)
        cv2.line(rgb, (int(at[0]), int(at[1])), (int(end[0]), int(end[1])), tone, 1, cv2.LINE_AA)
    buffer = io.BytesIO()
    Image.fromarray(rgb).save(buffer, "PNG")
    return buffer.getvalue()


def smooth():
    buffer = io.BytesIO()
    Image.fromarray(np.full((240, 320, 3), 120, np.uint8)).save(buffer, "PNG")
    return buffer.getvalue()


class Readings(unittest.TestCase):
    def test_how_much_of_a_part_is_only_guessed(self):
        """Nothing is rooted without a comb, all of it with one, and half where a parting cuts the comb off from the rest."""
        made = edits.new_project(hair(0), "hair.png", CanvasSize(320, 240))
        made, zone = edits.add_zone(made, "Coat", "long-fur", np.array([[20.0, 40], [300, 40], [300, 200], [20, 200]]))
        combed, _ = edits.add_comb(made, np.array([[60.0, 120], [120, 120]]), zone)
        parted, _ = edits.add_mark(combed, "parting", zone, np.array([[160.0, 10], [160, 230]]))
        guessed = [read_growth(Results(), one).fields[zone].guessed_share for one in (made, combed, parted)]
        self.assertEqual(guessed[0], 1)
        self.assertEqual(guessed[1], 0)
        self.assertAlmostEqual(guessed[2], 0.5, delta=0.06)

    def test_a_comb_far_off_the_picture_overrules_it_and_one_that_errs_does_not(self):
        """Level hair with one comb at 30 and one at 60 degrees: only beside the second the growth goes further the comb's way."""
        made = edits.new_project(hair(0), "hair.png", CanvasSize(320, 240))
        made, zone = edits.add_zone(made, "Coat", "long-fur", np.array([[20.0, 40], [300, 40], [300, 200], [20, 200]]))
        for deg, gained in ((30, False), (60, True)):
            way = 20 * np.array([np.cos(np.radians(deg)), np.sin(np.radians(deg))])
            combed, _ = edits.add_comb(made, np.array([(160, 120) - way, (160, 120) + way]), zone)
            angles = []
            for least in (fields.OVERRULES_DEG, 90.0):
                with mock.patch.object(fields, "OVERRULES_DEG", least):
                    field = growth_of(Results(), combed, zone_index(combed, zone))
                ((dx, dy),), _ = field.sample(np.array([[168.0, 120.0]]))
                angles.append(float(np.degrees(np.arctan2(dy, dx)) % 180))
            self.assertEqual(angles[0] > angles[1] + 4, gained, (deg, angles))

    def test_without_a_comb_the_animals_rim_says_which_way_the_tips_hang(self):
        """Level hair in two parts side by side: each is guessed to hang out over its own side of the animal."""
        made = edits.new_project(hair(0), "hair.png", CanvasSize(320, 240))
        box = np.array([[30.0, 60], [160, 60], [160, 180], [30, 180]])
        made, left = edits.add_zone(made, "Near side", "long-fur", box)
        made, right = edits.add_zone(made, "Far side", "long-fur", box + (130, 0))
        results = Results()
        for zone, sign in ((left, -1), (right, 1)):
            field = growth_of(results, made, zone_index(made, zone))
            self.assertGreater(sign * float(field.direction[field.inside][:, 0].mean()), 0.7)


class Following(unittest.TestCase):
    def setUp(self):
        made = edits.new_project(smooth(), "plain.png", CanvasSize(320, 240))
        left = np.array([[30.0, 60], [140, 60], [140, 180], [30, 180]])
        made, self.left = edits.add_zone(made, "Near side", "long-fur", left)
        self.made, self.right = edits.add_zone(made, "Far side", "long-fur", left + (150, 0))
        self.results = Results()

    def angle(self, project, zone, at):
        field = growth_of(self.results, project, zone_index(project, zone))
        direction, sure = field.sample(np.array([at], float))
        return float(np.degrees(np.arctan2(direction[0, 1], direction[0, 0]))), float(sure[0])

    def key(self, project, zone):
        return growth_key(self.results, project, zone_index(project, zone), growth_frame(project))

    def test_a_donor_is_followed_and_its_changes_arrive(self):
        made, comb = edits.add_comb(self.made, np.array([[50.0, 100], [100, 130]]), self.left)
        made, _ = edits.add_mark(made, "donor", self.right, None, 0.0, self.left)
        angle, sure = self.angle(made, self.right, (230, 120))
        self.assertAlmostEqual(angle, np.degrees(np.arctan2(30, 50)), delta=6)
        self.assertGreater(sure, 0)
        changed = edits.change_comb(made, comb, np.array([[50.0, 130], [100, 100]]))
        self.assertNotEqual(self.key(made, self.right), self.key(changed, self.right))
        self.assertAlmostEqual(self.angle(changed, self.right, (230, 120))[0], -np.degrees(np.arctan2(30, 50)), delta=6)

    def test_two_zones_may_follow_each_other(self):
        made, _ = edits.add_comb(self.made, np.array([[50.0, 100], [100, 100]]), self.left)
        made, _ = edits.add_mark(made, "donor", self.right, None, 0.0, self.left)
        made, _ = edits.add_mark(made, "donor", self.left, None, 0.0, self.right)
        self.assertAlmostEqual(self.angle(made, self.right, (230, 120))[0], 0, delta=6)
        self.assertAlmostEqual(self.angle(made, self.left, (80, 120))[0], 0, delta=6)

    def test_growth_is_borrowed_from_a_further_picture(self):
        made, lent = edits.lend(self.made, hair(60), "coat.png", "coat")
        with self.assertRaises(InputError):
            edits.add_mark(made, "donor", self.right, None, 0.0, lent)
        made = edits.cut_lent(made, lent, np.array([[60.0, 40], [250, 40], [250, 200], [60, 200]]))
        made = edits.change_lent(made, lent, placed=False)
        before = self.key(made, self.right)
        made, _ = edits.add_mark(made, "donor", self.right, None, 0.0, lent)
        self.assertNotEqual(before, self.key(made, self.right))
        # The donor lies, the part stands: the angle is carried over by the bodies' own axes.
        angle, _ = self.angle(made, self.right, (235, 120))
        self.assertTrue(20 < abs(angle) < 160, angle)
        self.assertEqual(edits.take_off(made, lent).marks, ())

    def test_a_mark_for_every_zone_and_a_kept_comb_change_the_field(self):
        plain = self.key(self.made, self.right)
        made, _ = edits.add_mark(self.made, "source", "", np.array([[200.0, 120], [215, 120]]))
        self.assertNotEqual(plain, self.key(made, self.right))
        self.assertLess(abs(self.angle(made, self.right, (240, 120))[0]), 20)
        made, comb = edits.add_comb(self.made, np.array([[200.0, 100], [250, 100]]), self.right)
        self.assertNotEqual(self.key(made, self.right), self.key(edits.keep_comb(made, comb), self.right))

    def test_contradictions_are_named_until_they_are_kept(self):
        made = edits.new_project(hair(80), "hair.png", CanvasSize(320, 240))
        made, zone = edits.add_zone(made, "Coat", "short-fur", np.array([[40.0, 40], [280, 40], [280, 200], [40, 200]]))
        made, along = edits.add_comb(made, np.array([[100.0, 80], [108, 130]]), zone)
        made, across = edits.add_comb(made, np.array([[180.0, 120], [230, 110]]), zone)
        found = contradictions(self.results, made)
        self.assertEqual([comb.id for comb, _ in found], [across])
        self.assertGreater(abs(found[0][1]), 60)
        swung = edits.swing_comb(made, across, found[0][1])
        self.assertEqual(contradictions(self.results, swung), [])
        self.assertEqual(contradictions(self.results, edits.keep_comb(made, across)), [])
        self.assertTrue(along)
