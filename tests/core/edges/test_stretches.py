"""Stretches of a border with widths of their own, and the makings of edges."""

import unittest

import numpy as np

from foxpath.core.edges.borders import Border
from foxpath.core.edges.grades import GRADES, EdgePlan
from foxpath.core.edges.making import making_of
from foxpath.core.edges.stretches import REACH_MM, Stretch, _distance, widths_along
from foxpath.core.zones.kinds import KINDS

RUN = np.stack([np.linspace(0, 400, 401), np.zeros(401)], axis=1)
MM = 0.5


def along(width_mm, stretches, mm_per_px):
    """Widths along a border of one run."""
    (width,) = widths_along(Border(1, 0, (RUN,), 200.0), width_mm, stretches, mm_per_px)
    return width


class Widths(unittest.TestCase):
    def test_a_stretch_speaks_for_the_border_beside_it_and_fades_at_its_ends(self):
        line = np.array([(120.0, 6), (280, 6)])
        width = along(2.0, [Stretch(line, 8.0)], MM)
        self.assertAlmostEqual(width[200], 8, places=3)
        self.assertAlmostEqual(width[20], 2, places=3)
        # Half way, on the logarithmic scale, where the stretch's reach ends: sqrt(5^2 - 3^2) mm, 8 px, beyond its end.
        self.assertAlmostEqual(np.sqrt(width[287] * width[288]), 4, delta=0.05)
        self.assertAlmostEqual(np.sqrt(width[112] * width[113]), 4, delta=0.05)
        self.assertTrue((np.diff(width[:200]) >= -1e-9).all())

    def test_what_is_dragged_far_off_speaks_for_nothing(self):
        for off, wanted in ((REACH_MM / MM - 0.1, 8), (REACH_MM / MM + 0.1, 2)):
            width = along(2.0, [Stretch(np.array([(-50.0, off), (450, off)]), 8.0)], MM)
            np.testing.assert_allclose(width, wanted, rtol=1e-6)

    def test_later_stretches_win(self):
        line = np.array([(-50.0, 0), (450, 0)])
        width = along(2.0, [Stretch(line, 8.0), Stretch(line, 1.0)], MM)
        np.testing.assert_allclose(width, 1, rtol=1e-6)

    def test_distances_to_an_open_line(self):
        line = np.array([(0.0, 0), (10, 0), (10, 10)])
        points = np.array([(5.0, 3), (-3, 4), (13, 14), (12, 5), (0, 0)])
        np.testing.assert_allclose(_distance(points, line), [3, 5, 5, 2, 0], atol=1e-9)
        np.testing.assert_allclose(_distance(points[:2], line[:1]), [np.hypot(5, 3), 5])


class Makings(unittest.TestCase):
    def test_hair_breaks_what_skin_blends(self):
        fur, skin = KINDS["short-fur"], next(kind for kind in KINDS.values() if not kind.hair)
        for grade, front, back, beneath, way, needs in (
            ("hard", fur, fur, "dry", "cut in", "the back touch-dry"),
            ("hard", fur, skin, "wet", "cut into the wet", "the back wet"),
            ("firm", fur, skin, "dry", "broken by short hairs", "the back tacky or touch-dry"),
            ("firm", fur, skin, "wet", "short hairs into the wet", "the back wet"),
            ("firm", skin, fur, "dry", "softened once", "both sides just tacky"),
            ("soft", fur, fur, "dry", "broken by hairs", "the back tacky or touch-dry"),
            ("soft", fur, fur, "wet", "hairs drawn into the wet coat", "the back wet"),
            ("soft", fur, skin, "dry", "dry-brushed tips", "the back touch-dry"),
            ("soft", fur, skin, "wet", "dragged into the wet ground", "the back wet"),
            ("soft", fur, skin, "later", "cut in round it, then hairs", "the front touch-dry"),
            ("hard", fur, skin, "later", "cut in round it", "the front touch-dry"),
            ("soft", skin, skin, "later", "cut in round it", "the front touch-dry"),
            ("soft", fur, fur, "later", "broken by hairs", "the back tacky or touch-dry"),
            ("soft", fur, None, "dry", "dry-brushed tips", "the back touch-dry"),
            ("soft", skin, fur, "dry", "dragged into the wet", "both sides wet"),
            ("lost", fur, fur, "dry", "lost with a mop", "both sides wet or just tacky"),
            ("lost", fur, None, "dry", "dragged into the wet", "both sides wet"),
            ("lost", skin, skin, "dry", "dragged into the wet", "both sides wet"),
            ("soft", KINDS["covert"], fur, "wet", "closed by the last row", "the back tacky or touch-dry"),
            ("firm", KINDS["flight-feather"], skin, "dry", "closed by the last row", "the back tacky or touch-dry"),
        ):
            found = making_of(EdgePlan(grade, 1.0, ""), front, back, beneath)
            self.assertEqual((found.way, found.needs), (way, needs), (grade, front.key, beneath))

    def test_whatever_is_painted_into_the_wet_says_how_to_wet_it_again(self):
        for front in KINDS.values():
            for grade in GRADES:
                found = making_of(EdgePlan(grade, 1.0, ""), front, None)
                self.assertTrue(found.way and found.needs and found.how)
                if "both sides wet" in found.needs:
                    self.assertIn("saved mix", found.how)


if __name__ == "__main__":
    unittest.main()
