"""Schools beside one another: a picture of each, all in a row, and what each takes."""

import json
import tempfile
import unittest
from pathlib import Path

import numpy as np
from PIL import Image

from foxpath.core.errors import InputError
from foxpath.derive import Results
from foxpath.derive.rehearsal.compare import GAP_PX, compare_into
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.document import edits
from tests.made import project

WIDTH = 160
SCHOOLS = ("layered-oil", "white-hair")


class Compared(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.folder = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.made = project()
        cls.found = compare_into(cls.made, SCHOOLS, WIDTH, cls.folder)

    def picture(self, name):
        return np.asarray(Image.open(self.folder / f"{name}.png").convert("RGB"))

    def test_each_picture_is_the_school_s_own_rehearsal_at_true_size(self):
        for key in SCHOOLS:
            own = edits.set_school(self.made, key)
            done = rehearse(Results(), own, WIDTH)
            np.testing.assert_array_equal(self.picture(key), done[-1].standing.shown)
            (one,) = [each for each in self.found if each.key == key]
            self.assertEqual((one.marks, one.passes), (sum(each.marks for each in done), len(done)))
            with Image.open(self.folder / f"{key}.png") as image:
                self.assertAlmostEqual(image.info["dpi"][0], 25.4 * WIDTH / self.made.canvas.width_mm, delta=0.1)

    def test_they_lie_side_by_side_with_a_white_gap(self):
        row, one, other = (self.picture(name) for name in ("side-by-side", *SCHOOLS))
        self.assertEqual(row.shape, (one.shape[0], 2 * WIDTH + GAP_PX, 3))
        np.testing.assert_array_equal(row[:, :WIDTH], one)
        np.testing.assert_array_equal(row[:, -WIDTH:], other)
        self.assertTrue((row[:, WIDTH : WIDTH + GAP_PX] == 255).all())

    def test_the_record_says_what_each_takes_and_how_near_it_comes(self):
        record = json.loads((self.folder / "compare.json").read_text())
        self.assertEqual([one["key"] for one in record["schools"]], list(SCHOOLS))
        for one, found in zip(record["schools"], self.found, strict=True):
            self.assertEqual(one["minutes"], found.minutes)
            self.assertTrue(0 < one["mean_difference"] <= one["worst_difference"] < 40)

    def test_a_school_that_is_none_is_refused(self):
        with self.assertRaises(InputError):
            compare_into(self.made, ("none",), WIDTH, self.folder)


if __name__ == "__main__":
    unittest.main()
