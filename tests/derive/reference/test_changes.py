"""What departures do, in pictures and in numbers, on a project whose reference is known."""

import json
import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image

from foxpath.core.colour import lab_from_rgb8
from foxpath.derive import Results
from foxpath.derive.frames import map_frame
from foxpath.derive.reference.changes import TIMES, changes_of, departures_record, write_changes
from foxpath.derive.zones.shapes import labels_of
from foxpath.document import edits
from tests.made import project


class Changed(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results, cls.before = Results(), project()
        zones = cls.before.back_to_front()
        labels = labels_of(cls.results, cls.before, map_frame(cls.before))
        # A part that is seen, and none of the largest: something stays beside it.
        sizes = sorted(((int((labels == k).sum()), zone.id) for k, zone in enumerate(zones)), reverse=True)
        cls.zone = sizes[1][1]
        cls.place = next(k for k, zone in enumerate(zones) if zone.id == cls.zone)

    def inside(self, made, shape):
        import cv2

        labels = labels_of(self.results, made, map_frame(made))
        mask = np.uint8(labels == self.place)
        mask = cv2.resize(mask, shape[1::-1], interpolation=cv2.INTER_NEAREST) > 0
        core = cv2.erode(np.uint8(mask), np.ones((15, 15), np.uint8)) > 0
        far = cv2.dilate(np.uint8(mask), np.ones((41, 41), np.uint8)) == 0
        return core, far

    def test_where_nothing_departs_the_difference_is_a_middle_grey(self):
        made = changes_of(self.results, self.before, 200)
        np.testing.assert_array_equal(made.reference, made.changed)
        lab = lab_from_rgb8(made.difference)
        np.testing.assert_allclose(lab, np.broadcast_to((50, 0, 0), lab.shape), atol=0.4)
        self.assertEqual(made.parts, ())
        self.assertEqual(departures_record(self.before), {"departures": [], "gone": [], "parts": []})

    def test_a_darker_part_is_shown_so_many_times_as_far_off(self):
        made = edits.depart(self.before, self.zone, lightness=-5.0)
        changes = changes_of(self.results, made, 300)
        core, far = self.inside(made, changes.difference.shape)
        off = lab_from_rgb8(changes.changed) - lab_from_rgb8(changes.reference)
        self.assertAlmostEqual(float(np.median(off[core][:, 0])), -5, delta=0.8)
        shown = lab_from_rgb8(changes.difference)
        self.assertAlmostEqual(float(np.median(shown[core][:, 0])), 50 - 5 * TIMES, delta=0.8 * TIMES)
        self.assertAlmostEqual(float(np.median(shown[far][:, 0])), 50, delta=0.5)
        (part,) = [one for one in changes.parts if one.zone == self.zone]
        self.assertEqual(changes.parts[0], part)
        self.assertAlmostEqual(part.lightness, -5, delta=0.8)
        self.assertAlmostEqual(part.warmth, 0, delta=0.6)
        self.assertGreaterEqual(part.whole, abs(part.lightness))

    def test_warmth_and_strength_are_told_apart(self):
        warm = edits.depart(self.before, self.zone, warmth=6.0)
        (part,) = [one for one in changes_of(self.results, warm, 120).parts if one.zone == self.zone]
        # Warmth brings a part of red with it, and both count.
        self.assertAlmostEqual(part.warmth, 6.0 * 1.09, delta=0.8)
        self.assertAlmostEqual(part.lightness, 0, delta=0.5)
        grey = edits.depart(self.before, self.zone, strength=0.4)
        (part,) = [one for one in changes_of(self.results, grey, 120).parts if one.zone == self.zone]
        frame = map_frame(grey)
        lab = lab_from_rgb8(changes_of(self.results, grey, frame.columns).reference)
        mine = labels_of(self.results, grey, frame) == self.place
        # Toward its rim it gives way to what lies beside it.
        lost = 0.6 * float(np.hypot(lab[mine][:, 1], lab[mine][:, 2]).mean())
        self.assertTrue(-lost < part.strength < -0.75 * lost, (part.strength, lost))

    def test_they_are_written_with_what_they_do(self):
        made = edits.depart(self.before, self.zone, lightness=-5.0)
        with tempfile.TemporaryDirectory() as folder:
            changes = write_changes(self.results, made, Path(folder))
            written = json.loads((Path(folder) / "departures.json").read_text())
            side = np.asarray(Image.open(Path(folder) / "side-by-side.png").convert("RGB"))
        self.assertEqual(side.shape[1], 3 * changes.reference.shape[1])
        np.testing.assert_array_equal(side[:, : changes.reference.shape[1]], changes.reference)
        (said,) = written["departures"]
        self.assertEqual((said["lightness"], said["part"]), (-5.0, made.zone(self.zone).name))
        self.assertEqual(written["parts"][0]["lightness"], round(changes.parts[0].lightness, 2))


if __name__ == "__main__":
    unittest.main()
