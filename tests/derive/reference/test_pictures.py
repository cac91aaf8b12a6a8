"""The reference brought to size, also when it is worked on reduced; composed, corrected, cropped; and which parts are one body."""

import io
import unittest
from dataclasses import replace
from unittest import mock

import numpy as np
from PIL import Image

from foxpath.core.curves import signed_area
from foxpath.core.reference import picture as core_picture
from foxpath.core.units import CanvasSize
from foxpath.derive import Results
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.pictures import (
    composed_picture,
    cropped_picture,
    picture_of,
    scaled_picture,
    study_of,
    white_gains,
    working_picture,
)
from foxpath.derive.reference.inspection import _bodies, _touches
from foxpath.derive.zones.reading import zone_findings, zone_numbers, zone_tags
from foxpath.derive.zones.shapes import bare_share, growing, mask_of, subject_of, zone_index
from foxpath.document import edits
from tests.made import project


def ramps(width, height):
    """A picture whose red tells the column and whose green tells the row."""
    x, y = np.meshgrid(np.arange(width) / width, np.arange(height) / height)
    rgb = (np.stack([x, y, 0 * x], axis=-1) * 250).astype(np.uint8)
    made = io.BytesIO()
    Image.fromarray(rgb).save(made, "PNG")
    return edits.new_project(made.getvalue(), "ramps.png", CanvasSize(250, 200), "Ramps")


class Sizes(unittest.TestCase):
    def shares(self, rgb):
        return rgb[..., 0] / 250, rgb[..., 1] / 250

    def test_the_crop_is_cut_where_it_lies_whatever_the_working_scale(self):
        """Above so many pixels the reference is halved: places stay those of the file."""
        made = ramps(400, 320)
        made = edits.set_crop(made, replace(made.crop, x=100, y=80, width=200, height=160))
        for most in (core_picture.WORK_PIXELS, 400 * 320 // 3):
            with mock.patch.object(core_picture, "WORK_PIXELS", most):
                results = Results()
                scale = working_picture(results, made).scale
                self.assertEqual(scale, 1.0 if most > 128000 else 0.5)
                x, y = self.shares(scaled_picture(results, made, 100, 80))
                self.assertEqual(x.shape, (80, 100))
                self.assertAlmostEqual(float(x[40, 0]), 0.25, delta=0.01)
                self.assertAlmostEqual(float(x[40, -1]), 0.75, delta=0.01)
                self.assertAlmostEqual(float(y[0, 50]), 0.25, delta=0.01)
                self.assertAlmostEqual(float(y[-1, 50]), 0.75, delta=0.01)
                larger = scaled_picture(results, made, 500, 400)
                self.assertEqual(larger.shape, (400, 500, 3))

    def test_a_grey_spot_lies_where_it_was_clicked_whatever_the_scale(self):
        made = ramps(400, 320)
        for at in ((300.0, 40.0), (60.0, 300.0)):
            gains = []
            for most in (core_picture.WORK_PIXELS, 400 * 320 // 3):
                with mock.patch.object(core_picture, "WORK_PIXELS", most):
                    gains.append(white_gains(Results(), edits.set_correction(made, grey=at)))
            np.testing.assert_allclose(gains[0][:2] / gains[0][0], gains[1][:2] / gains[1][0], rtol=0.12)
            self.assertEqual(gains[0][0] < gains[0][1], at[0] / 400 > at[1] / 320)

    def test_what_was_made_once_is_the_very_same(self):
        made, results = project(), Results()
        self.assertIs(cropped_picture(results, made, 60, 48), cropped_picture(results, made, 60, 48))
        self.assertIs(study_of(results, made), study_of(results, replace(made, name="Other")))
        self.assertIsNot(study_of(results, made), study_of(results, edits.set_correction(made, exposure=1.0)))
        self.assertIs(working_picture(results, made), picture_of(results, made.reference))
        self.assertIs(composed_picture(results, made), picture_of(results, made.reference))
        self.assertFalse(cropped_picture(results, made, 60, 48).flags.writeable)

    def test_exposure_lightens_and_a_placed_part_covers(self):
        made, results = project(), Results()
        plain = working_picture(results, made).rgb.astype(int)
        lighter = working_picture(results, edits.set_correction(made, exposure=1.0)).rgb.astype(int)
        self.assertGreater((lighter - plain).mean(), 20)
        white = io.BytesIO()
        Image.new("RGB", (40, 40), "white").save(white, "PNG")
        lent, key = edits.lend(made, white.getvalue(), "white.png")
        lent = edits.pose_lent(lent, key, x=100.0, y=80.0, scale=1.0)
        lent = edits.cut_lent(lent, key, np.array([[5.0, 5], [35, 5], [35, 35], [5, 35]]))
        lent = edits.change_lent(lent, key, soft_mm=0.0)
        composed = composed_picture(results, lent).rgb
        self.assertEqual(composed[80, 100].tolist(), [255, 255, 255])
        self.assertEqual(composed[80, 150].tolist(), plain[80, 150].tolist())
        self.assertEqual(composed[80, 100 - 26].tolist(), plain[80, 74].tolist())

    def test_grids_lie_over_the_crop(self):
        made = edits.set_crop(project(), replace(project().crop, x=40, y=30, width=100, height=80))
        for frame, cells in ((growth_frame(made), 384), (map_frame(made), 1024)):
            self.assertEqual(max(frame.columns, frame.rows), cells)
            np.testing.assert_allclose(frame.to_px(np.array([[0.0, 0.0]]))[0], (made.crop.x, made.crop.y))
            self.assertAlmostEqual(frame.cell_mm * frame.columns, 250, delta=0.5)


class Zones(unittest.TestCase):
    def test_what_covers_what(self):
        made, results = project(), Results()
        frame = map_frame(made)
        square, eye = mask_of(results, made, 1, frame), mask_of(results, made, 2, frame)
        self.assertFalse((square & eye).any())
        drawn = signed_area(made.zones[1].shape.outline()) * made.mm_per_px**2
        self.assertAlmostEqual(float(square.sum() + eye.sum()) * frame.cell_mm**2, drawn, delta=0.01 * drawn)
        self.assertEqual(subject_of(results, made, frame).sum(), square.sum() + eye.sum())
        self.assertEqual(bare_share(results, made), 0.0)
        bare = edits.remove_zone(made, made.zones[0].id)
        self.assertAlmostEqual(bare_share(results, bare), 1 - (square.sum() + eye.sum()) / square.size, places=6)

    def test_places_count_from_the_back(self):
        made = project()
        self.assertEqual([zone_index(made, z.id) for z in made.back_to_front()], [0, 1, 2])
        self.assertEqual(zone_index(made, "nobody"), -1)
        self.assertEqual([(k, z.name) for k, z in growing(made)], [(1, "Square")])
        self.assertEqual(zone_numbers(edits.set_depth(made, made.zones[1].id, 9))[made.zones[1].id], 3)

    def test_a_number_stands_in_the_widest_place(self):
        made, results = project(), Results()
        tags = zone_tags(results, made)
        x, y = tags[made.zones[2].id]
        self.assertAlmostEqual(x, 80, delta=4)
        self.assertAlmostEqual(y, 68, delta=3)
        self.assertEqual(set(tags), {z.id for z in made.zones})

    def test_bare_canvas_and_hidden_zones_are_found(self):
        made, results = project(), Results()
        self.assertEqual(zone_findings(results, made), [])
        alone = edits.new_project(made.reference.data, "a.png", made.canvas)
        self.assertEqual([f.level for f in zone_findings(results, alone)], ["look"])
        bare = zone_findings(results, edits.remove_zone(made, made.zones[0].id))
        self.assertEqual([(f.level, f.subject) for f in bare], [("must", "")])
        self.assertIn("cm² would stay bare", bare[0].why)
        hidden, cover = edits.add_zone(made, "Cover", "cover", np.array([[0.0, 0], [199, 0], [199, 159], [0, 159]]))
        found = zone_findings(results, hidden)
        self.assertEqual([f.says for f in found], ["Square is hidden."])
        self.assertEqual(found[0].subject, made.zones[1].id)
        self.assertTrue(cover)


class Bodies(unittest.TestCase):
    def test_pairs_link_to_bodies_whatever_their_order(self):
        self.assertEqual(_bodies([]), [])
        for pairs in (
            [("a", "b"), ("c", "d"), ("b", "c"), ("x", "y")],
            [("c", "d"), ("x", "y"), ("a", "b"), ("b", "c")],
        ):
            self.assertEqual(sorted(sorted(one) for one in _bodies(pairs)), [["a", "b", "c", "d"], ["x", "y"]])

    def test_parts_of_one_body_meet_and_others_just_touch(self):
        """A third part stands a hair's breadth beside the square: it touches. One that overlaps it is of its body."""
        made, results = project(), Results()
        self.assertEqual(_touches(results, made), [])
        rim = made.zones[1].shape.outline()[:, 0].max()
        shape = np.array([[0.0, 60], [15, 40], [30, 60], [15, 80]])
        beside, _ = edits.add_zone(made, "Branch", "cover", shape + (rim + 1.2, 10))
        found = _touches(results, beside)
        self.assertEqual([set(one.what) for one in found][:1], [{"Square", "Branch"}])
        over, _ = edits.add_zone(made, "Ear", "short-fur", np.array([[100.0, 20], [130, 20], [130, 60], [100, 60]]))
        self.assertNotIn({"Square", "Ear"}, [set(one.what) for one in _touches(results, over)])


if __name__ == "__main__":
    unittest.main()
