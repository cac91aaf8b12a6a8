"""Parts that are left out or moved, and brought back."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.eyes import Ellipse, Eye
from foxpath.document import edits
from foxpath.document.archive import from_bytes, to_bytes
from tests.made import project


def part(made, name="Square"):
    return next(zone.id for zone in made.zones if zone.name == name)


def looking(made, name, x, y, r):
    """Return a project with an eye at a place."""
    eye = Eye(f"e{made.next_id}", name, Ellipse(x, y, r, r), Ellipse(x, y, r / 4, r / 4))
    return replace(made, eyes=(*made.eyes, eye), next_id=made.next_id + 1)


def with_eye():
    return looking(project(), "Left eye", 60.0, 95.0, 8.0)


class LeftOut(unittest.TestCase):
    def setUp(self):
        self.made = with_eye()

    def test_it_goes_with_its_growth_and_its_eye_and_all_come_back(self):
        gone = edits.leave_out_part(self.made, part(self.made))
        self.assertNotIn("Square", [zone.name for zone in gone.zones])
        self.assertEqual((gone.combs, gone.eyes), ((), ()))
        back = edits.bring_back(gone, gone.gone[0].id)
        self.assertEqual(back.gone, ())
        self.assertEqual(set(back.zones), set(self.made.zones))
        self.assertEqual((back.combs, back.eyes), (self.made.combs, self.made.eyes))

    def test_an_eye_that_lies_elsewhere_stays(self):
        far = looking(self.made, "Right eye", 150.0, 140.0, 6.0)
        gone = edits.leave_out_part(far, part(far))
        self.assertEqual([eye.name for eye in gone.eyes], ["Right eye"])

    def test_an_eye_in_what_lies_over_it_stays(self):
        over = looking(self.made, "Over", 80.0, 68.0, 6.0)
        gone = edits.leave_out_part(over, part(over))
        self.assertEqual([eye.name for eye in gone.eyes], ["Over"])
        moved = edits.move_part(over, part(over, "Eye"), (10.0, 0.0))
        self.assertEqual([eye.iris.centre for eye in moved.eyes], [(60.0, 95.0), (90.0, 68.0)])

    def test_it_is_opened_as_it_was_saved(self):
        gone = edits.leave_out_part(self.made, part(self.made))
        self.assertEqual(from_bytes(to_bytes(gone), "a").gone, gone.gone)

    def test_what_cannot_go_is_refused(self):
        for zone in (self.made.zones[0].id, "z99"):
            self.assertRaises(InputError, edits.leave_out_part, self.made, zone)
            self.assertRaises(InputError, edits.move_part, self.made, zone, (5, 5))
        self.assertRaises(InputError, edits.bring_back, self.made, "g1")


class Moved(unittest.TestCase):
    def setUp(self):
        self.made = with_eye()
        self.zone = part(self.made)

    def middle(self, made):
        return np.array(made.zone(self.zone).middle())

    def test_outline_combs_and_eye_go_with_it(self):
        moved = edits.move_part(self.made, self.zone, (20.0, -10.0))
        np.testing.assert_allclose(self.middle(moved) - self.middle(self.made), (20, -10))
        np.testing.assert_allclose(
            np.array(moved.combs[0].points) - np.array(self.made.combs[0].points), [[20, -10]] * 2
        )
        self.assertEqual(moved.eyes[0].iris.centre, (80.0, 85.0))
        eye = [zone for zone in moved.zones if zone.name == "Eye"]
        self.assertEqual(eye, [zone for zone in self.made.zones if zone.name == "Eye"])

    def test_moved_again_it_remembers_where_it_came_from(self):
        twice = edits.move_part(edits.move_part(self.made, self.zone, (20.0, 0.0)), self.zone, (5.0, 8.0))
        (one,) = twice.gone
        np.testing.assert_allclose(np.array(one.to[1]) - np.array(one.to[0]), (25, 8))
        back = edits.bring_back(twice, one.id)
        np.testing.assert_allclose(self.middle(back), self.middle(self.made))
        self.assertEqual(back.eyes[0].iris.centre, self.made.eyes[0].iris.centre)

    def test_left_out_after_it_was_moved_it_leaves_its_first_place(self):
        gone = edits.leave_out_part(edits.move_part(self.made, self.zone, (20.0, 0.0)), self.zone)
        (one,) = gone.gone
        self.assertEqual((one.to, one.zone), ((), self.made.zone(self.zone)))
        self.assertIsNone(gone.zone(self.zone))

    def test_by_nothing_nothing_is_done_and_off_the_picture_is_refused(self):
        self.assertIs(edits.move_part(self.made, self.zone, (0.2, 0.0)), self.made)
        for by in ((500.0, 0.0), (0.0, -500.0), (float("nan"), 0.0)):
            self.assertRaises(InputError, edits.move_part, self.made, self.zone, by)

    def test_it_is_opened_as_it_was_saved(self):
        moved = edits.move_part(self.made, self.zone, (20.0, -10.0))
        back = from_bytes(to_bytes(moved), "a")
        self.assertEqual((back.gone, back.zones, back.eyes), (moved.gone, moved.zones, moved.eyes))
