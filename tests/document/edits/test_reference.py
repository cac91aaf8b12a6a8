import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.reference.compose import Pose, mapped
from foxpath.core.reference.light import Catchlight
from foxpath.core.reference.transfer import Axes
from foxpath.document import edits
from foxpath.document.edits.reference import MOST_SPOTS
from tests.made import picture, project


class Shelf(unittest.TestCase):
    def setUp(self):
        self.made, self.id = edits.lend(project(), picture(300, 200, "JPEG"), "coat.jpg", "coat")

    def test_a_spot_is_moved_to_where_it_was_put_and_the_others_stay(self):
        made = edits.add_spot(edits.add_spot(project(), (50.0, 60.0)), (20.0, 30.0))
        made = edits.move_spot(made, 1, (77.04, 12.38))
        self.assertEqual(made.spots, ((50.0, 60.0), (77.0, 12.4)))
        self.assertEqual(edits.remove_spot(made, 0).spots, ((77.0, 12.4),))

    def test_a_picture_comes_on_the_shelf_once_and_goes_again(self):
        lent = self.made.lent(self.id)
        self.assertEqual((lent.reference.width, lent.reference.height, lent.placed), (300, 200, False))
        with self.assertRaises(InputError) as caught:
            edits.lend(self.made, lent.reference.data, "again.jpg")
        self.assertIn("already", caught.exception.message)
        with self.assertRaises(InputError):
            edits.lend(self.made, self.made.reference.data, "main.png")
        self.assertEqual(edits.take_off(self.made, self.id).shelf, ())
        with self.assertRaises(InputError):
            edits.change_lent(self.made, self.id, role="moon")

    def test_when_another_becomes_the_main_picture_a_third_lies_on_it_where_it_lay(self):
        made, third = edits.lend(self.made, picture(120, 90, "PNG"), "tail.png", "detail")
        made = edits.pose_lent(made, self.id, x=80.0, y=64.0, scale=0.7, turn_deg=20.0)
        for how in ({"turn_deg": -35.0}, {"turn_deg": 50.0, "mirrored": True}):
            posed = edits.pose_lent(made, third, x=120.0, y=40.0, scale=0.4, **how)
            corners = np.array([(0.0, 0), (120, 0), (120, 90), (15, 60)])
            was = mapped(posed.lent(third).pose.affine(120, 90), corners)
            new = edits.make_main(posed, self.id)
            now = mapped(new.lent(third).pose.affine(120, 90), corners)
            back = mapped(posed.lent(self.id).pose.affine(300, 200), now)
            np.testing.assert_allclose(back, was, atol=0.3)

    def test_a_cut_needs_an_outline_and_is_placed(self):
        with self.assertRaises(InputError):
            edits.cut_lent(self.made, self.id, np.array([[1.0, 2], [3, 4]]))
        cut = edits.cut_lent(self.made, self.id, np.array([[1.0, 2], [30, 4], [20, 60]]))
        self.assertEqual(cut.placed, (cut.lent(self.id),))

    def test_another_main_picture_carries_everything_over_and_back(self):
        """What lay on a spot of the old picture lies on the spot of the new one that covered it; twice is as before."""
        made = edits.pose_lent(self.made, self.id, x=95.0, y=85.0, scale=0.8, turn_deg=20.0)
        made = edits.set_axes(edits.set_focal(made, (80.0, 66.0)), Axes((60.0, 70.0), (100.0, 66.0), (80.0, 90.0)))
        made = edits.mark_catchlight(made, Catchlight((80.0, 68.0), 9.0, (77.0, 64.0)))
        made = edits.draw_line(edits.add_spot(made, (50.0, 60.0)), np.array([[50.0, 50], [70, 80]]))
        lent = made.lent(self.id)
        swapped = edits.make_main(made, self.id)
        self.assertIs(swapped.reference, lent.reference)
        self.assertIs(swapped.lent(self.id).reference, made.reference)
        affine = lent.pose.affine(300, 200)
        for before, after in (
            (made.zones[1].points, swapped.zones[1].points),
            (made.combs[0].points, swapped.combs[0].points),
        ):
            np.testing.assert_allclose(mapped(affine, np.array(after)), np.array(before), atol=0.02)
        np.testing.assert_allclose(mapped(affine, np.array([swapped.focal])), [made.focal], atol=0.02)
        self.assertAlmostEqual(swapped.catchlights[0].radius, 9 / 0.8)
        back = edits.make_main(swapped, self.id)
        np.testing.assert_allclose(np.array(back.zones[1].points), np.array(made.zones[1].points), atol=0.05)
        self.assertAlmostEqual(back.lent(self.id).pose.turn_deg, 20, places=2)
        self.assertEqual(back.zones[0].points, ())


class Decisions(unittest.TestCase):
    def test_numbers_are_brought_into_their_range(self):
        made = edits.set_correction(project(), exposure=9.0, lift=-1.0, light_k=100.0)
        self.assertEqual((made.correction.exposure, made.correction.lift, made.correction.light_k), (3, 0, 2000))
        made = edits.set_seeing(made, steps=6, distance_m=99.0, cuts=(20.0,))
        self.assertIn(made.seeing.steps, (5, 7))
        self.assertEqual((made.seeing.distance_m, made.seeing.cuts), (30, ()))
        made = edits.set_light(made, None)
        self.assertIsNone(made.light)
        self.assertEqual(edits.pose_lent(made, "none", x=3.0), made)

    def test_what_lies_off_is_refused_with_the_way_out(self):
        with self.assertRaises(InputError):
            edits.set_correction(project(), grey=(999.0, 10.0))
        with self.assertRaises(InputError):
            edits.mark_catchlight(project(), Catchlight((80.0, 68.0), 5.0, (90.0, 68.0)))
        with self.assertRaises(InputError):
            edits.set_axes(project(), Axes((10.0, 10.0), (10.5, 10.0), (20.0, 20.0)))

    def test_the_chain_of_spots_forgets_the_oldest(self):
        made = project()
        for k in range(MOST_SPOTS + 2):
            made = edits.add_spot(made, (10.0 + k, 20.0))
        self.assertEqual(len(made.spots), MOST_SPOTS)
        self.assertEqual(made.spots[0], (12.0, 20.0))
        self.assertEqual(edits.move_spot(made, 99, (1.0, 1.0)), made)
        self.assertEqual(len(edits.remove_spot(made, 0).spots), MOST_SPOTS - 1)

    def test_a_rubbed_stroke_takes_drawn_lines_with_it_but_not_later_ones(self):
        made = edits.draw_line(project(), np.array([[10.0, 50], [190, 50]]))
        made = edits.rub(made, np.array([[100.0, 20], [100, 80]]), 5.0)
        self.assertEqual(len(made.transfer.drawn), 2)
        made = edits.draw_line(made, np.array([[90.0, 50], [110, 50]]))
        self.assertEqual(len(made.transfer.drawn), 3)
        self.assertEqual(edits.clean_lines(made).transfer.drawn, ())

    def test_axes_come_from_two_eyes(self):
        made = project()
        self.assertIsNone(made.axes_or_eyes())
        made, _ = edits.add_zone(made, "Far eye", "eye", np.array([[100.0, 56], [116, 56], [116, 70], [100, 70]]))
        self.assertAlmostEqual(made.axes_or_eyes().tilt_deg, np.degrees(np.arctan2(63 - 68, 108 - 80)), places=3)
        self.assertEqual(replace(made, transfer=replace(made.transfer, axes=None)).axes_or_eyes(), made.axes_or_eyes())
        self.assertEqual(Pose(0, 0).mirrored, False)
