"""Painted hair keeps the light and dark of the hair it stands for."""

import io
import unittest

import cv2
import numpy as np
from PIL import Image

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.units import CanvasSize
from foxpath.derive import Results
from foxpath.derive.rehearsal.marks import lent_contrast
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.zones.shapes import zone_index
from foxpath.document import edits
from tests.core.zones.test_snap import WIDTH, hairy
from tests.remembered import remember

setUpModule = remember

WIDE_MM = 400.0


class Contrast(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        rgb, cls.oval = hairy()
        buffer = io.BytesIO()
        Image.fromarray(rgb).save(buffer, "PNG")
        one = edits.new_project(buffer.getvalue(), "hairy.png", CanvasSize(WIDE_MM, 300), "Hairy")
        turn = np.linspace(0, 2 * np.pi, 40, endpoint=False)
        outline = np.stack([400 + 208 * np.cos(turn), 300 + 148 * np.sin(turn)], axis=1)
        one, zone = edits.add_zone(one, "Coat", "short-fur", outline)
        one, _ = edits.add_comb(one, np.array([[300.0, 300.0], [500.0, 357.0]]), zone)
        painted = rehearse(Results(), one, WIDTH, keep=False)[-1].standing.shown
        cls.seen, cls.painted = lab_from_rgb8(rgb), lab_from_rgb8(np.ascontiguousarray(painted))
        disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (41, 41))
        cls.inner = cv2.erode(cls.oval.astype(np.uint8), disc) > 0

    def band(self, lab, low_mm, high_mm):
        """How much L* varies between two sizes, over the coat well inside its border."""
        light = np.ascontiguousarray(lab[..., 0])
        fine, broad = (cv2.GaussianBlur(light, (0, 0), mm / 2.5 * WIDTH / WIDE_MM) for mm in (low_mm, high_mm))
        return float((fine - broad)[self.inner].std())

    def test_between_half_a_millimetre_and_four_it_varies_as_the_reference_does(self):
        share = self.band(self.painted, 0.7, 4.0) / self.band(self.seen, 0.7, 4.0)
        self.assertGreater(share, 0.85)
        self.assertLess(share, 1.35)

    def test_after_a_squint_its_colour_is_the_references(self):
        soft = [cv2.GaussianBlur(lab, (0, 0), 12) for lab in (self.seen, self.painted)]
        off = np.linalg.norm(soft[0] - soft[1], axis=-1)[self.inner]
        self.assertLess(float(np.median(off)), 2.0)

    def test_dark_gaps_stay_between_light_hairs(self):
        """The darkest and the lightest twentieth lie as far from the middle as in the reference, within a third."""
        low, middle, high = np.percentile(self.seen[self.inner][:, 0], (5, 50, 95))
        dark, half, light = np.percentile(self.painted[self.inner][:, 0], (5, 50, 95))
        self.assertGreater((half - dark) / (middle - low), 0.67)
        self.assertGreater((light - half) / (high - middle), 0.67)


class Lent(unittest.TestCase):
    """A blurred coat takes the light and dark between hairs from its donor."""

    @classmethod
    def setUpClass(cls):
        rgb, _ = hairy()
        cls.rgb = rgb.copy()
        # The right half of the animal is out of focus.
        soft = cv2.GaussianBlur(rgb, (0, 0), 7)
        cls.rgb[:, 400:] = soft[:, 400:]
        buffer = io.BytesIO()
        Image.fromarray(cls.rgb).save(buffer, "PNG")
        one = edits.new_project(buffer.getvalue(), "hairy.png", CanvasSize(WIDE_MM, 300), "Hairy")
        turn = np.linspace(0, 2 * np.pi, 40, endpoint=False)
        whole = np.stack([400 + 208 * np.cos(turn), 300 + 148 * np.sin(turn)], axis=1)
        one, cls.sharp = edits.add_zone(one, "Sharp", "short-fur", np.minimum(whole, (399, 1e9)))
        one, cls.soft = edits.add_zone(one, "Soft", "short-fur", np.maximum(whole, (401, 0)))
        one, _ = edits.add_comb(one, np.array([[300.0, 300.0], [390.0, 325.0]]), cls.sharp)
        one, _ = edits.add_comb(one, np.array([[420.0, 300.0], [520.0, 328.0]]), cls.soft)
        cls.alone = one
        cls.lent, _ = edits.add_mark(one, "donor", cls.soft, source=cls.sharp)

    def band(self, project, left, right):
        painted = rehearse(Results(), project, WIDTH, keep=False)[-1].standing.shown
        light = np.ascontiguousarray(lab_from_rgb8(np.ascontiguousarray(painted))[..., 0])
        fine, broad = (cv2.GaussianBlur(light, (0, 0), mm / 2.5 * WIDTH / WIDE_MM) for mm in (0.7, 4.0))
        return float((fine - broad)[220:380, left:right].std())

    def test_it_is_painted_with_its_donors_contrast(self):
        theirs = self.band(self.lent, 250, 370)
        self.assertLess(self.band(self.alone, 430, 550), 0.3 * theirs)
        share = self.band(self.lent, 430, 550) / theirs
        self.assertGreater(share, 0.65)
        self.assertLess(share, 1.25)

    def test_a_donor_that_shows_less_lends_nothing(self):
        results = Results()
        self.assertGreater(lent_contrast(results, self.lent, zone_index(self.lent, self.soft)), 2)
        self.assertEqual(lent_contrast(results, self.alone, zone_index(self.alone, self.soft)), 0)
        other, _ = edits.add_mark(self.alone, "donor", self.sharp, source=self.soft)
        self.assertEqual(lent_contrast(results, other, zone_index(other, self.sharp)), 0)


if __name__ == "__main__":
    unittest.main()
