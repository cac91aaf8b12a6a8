"""Rules on highlights: how much they cover, how far they lie, whether the light reaches them, whether they outline."""

import unittest
from dataclasses import replace
from unittest import mock

import numpy as np

from foxpath.core.curves import line_length, resample
from foxpath.core.reference.light import Light
from foxpath.core.rehearsal.marks import Marks
from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.rehearsal import finish
from tests.made import project

PX_PER_MM = 2.0


def marks(places, length=4.0, half=0.4):
    """Highlights at places on the canvas, mm: the middle of each lies there."""
    at = np.asarray(places, np.float32).reshape(-1, 2)
    count = len(at)
    along = np.linspace(-0.5, 0.5, 8, dtype=np.float32) * length
    lines = at[:, None] + np.stack([along - along[3], np.zeros(8, np.float32)], axis=-1)[None]
    one = np.ones(count, np.float32)
    return Marks(
        lines.astype(np.float32), length * one, half * one, np.ones((count, 3), np.float32), one, 90 * one, hair=True
    )


class Highlights(unittest.TestCase):
    """On a canvas of 250 x 200 mm whose animal is a disc of 80 mm about (125, 100)."""

    @classmethod
    def setUpClass(cls):
        cls.made, cls.results = project(), Results()
        y, x = np.mgrid[0:400, 0:500] / PX_PER_MM
        cls.subject = np.hypot(x - 125, y - 100) < 80

    def judged(self, groups, made=None, focal=(125.0, 100.0)):
        with mock.patch.object(finish, "groups_of", lambda *_: [("key", one) for one in groups]):
            place = (focal[0] * PX_PER_MM, focal[1] * PX_PER_MM)
            return finish._highlights(self.results, made or self.made, self.subject, place, PX_PER_MM, SILENT)

    def says(self, *given, **more):
        return " ".join(one.says for one in self.judged(*given, **more))

    def around(self, radius, count, start=0.0, stop=2 * np.pi):
        a = np.linspace(start, stop, count, endpoint=False)
        return np.stack([125 + radius * np.cos(a), 100 + radius * np.sin(a)], axis=1)

    def test_few_near_the_focal_point_keep_every_rule(self):
        self.assertEqual(self.judged([marks(self.around(12, 9))]), [])
        self.assertEqual(self.judged([]), [])
        self.assertEqual(self.judged([marks(np.zeros((0, 2)))]), [])

    def test_more_than_a_fiftieth_of_the_canvas_is_too_much(self):
        """A mark covers twice its half width times its length times the mean of its taper; the canvas has 500 cm2."""
        share = float(marks([[0, 0]]).profile().mean())
        most = finish.LIGHT_SHARE * 500 * 100
        count = most / (2 * 0.4 * 4.0 * share)
        rng = np.random.default_rng(2)

        def some(n):
            return marks(np.array([125.0, 100]) + rng.uniform(-20, 20, (n, 2)))

        self.assertNotIn("of the canvas", self.says([some(int(count * 0.97))]))
        found = self.judged([some(int(count * 0.6)), some(int(count * 0.6))])
        (one,) = [f for f in found if "of the canvas" in f.says]
        self.assertEqual(
            (one.says, one.subject, one.where), ("Highlights cover 2.4 % of the canvas.", "highlights", "passes")
        )
        self.assertIn("at most 2 %", one.why)

    def test_far_is_beyond_the_middle_of_the_animal_seen_from_the_focal_point(self):
        """Half of a disc lies beyond 0.71 of its radius: 56.6 mm."""
        near, far = self.around(40, 30), self.around(70, 30)
        self.assertNotIn("far from the focal", self.says([marks(near), marks(far[:28])]))
        found = self.says([marks(near[:20]), marks(far)])
        self.assertIn("60 % of the highlights lie far from the focal point.", found)
        # It is their area that counts, not their number.
        self.assertIn("far from the focal", self.says([marks(near), marks(far[:20], length=8.0)]))

    def test_along_the_contour_they_lie_where_the_light_reaches(self):
        lit = replace(self.made, light=Light(hour=3.0))
        toward, away = self.around(76, 40, -0.7, 0.7), self.around(76, 40, np.pi - 0.7, np.pi + 0.7)
        self.assertNotIn("does not reach", self.says([marks(toward)], made=lit))
        self.assertIn("does not reach", self.says([marks(away)], made=lit))
        self.assertIn("does not reach", self.says([marks(toward), marks(away[:10])], made=lit))
        self.assertNotIn("does not reach", self.says([marks(toward), marks(away[::10])], made=lit))
        # Inside the form it may shine from anywhere; and nobody knows without a light.
        self.assertNotIn("does not reach", self.says([marks(self.around(40, 40, 2.5, 3.7))], made=lit))
        self.assertNotIn("does not reach", self.says([marks(away)]))
        other = replace(self.made, light=Light(hour=9.0))
        self.assertNotIn("does not reach", self.says([marks(away)], made=other))

    def test_a_row_on_a_border_for_too_long_is_an_outline(self):
        border = next(b for b, _ in edges_of(self.results, self.made) if b.front == 1)
        run = max(border.runs, key=len) * self.made.mm_per_px
        row = [list(at) for at in resample(run, int(line_length(run)))[:90]]
        self.assertIn("A highlight outlines square.", self.says([marks(row)]))
        self.assertNotIn("outlines", self.says([marks(row[:42])]))
        broken = [at for k, at in enumerate(row) if k % 30 > 6]
        self.assertNotIn("outlines", self.says([marks(broken)]))
        beside = [[x + 7.0, y + 7.0] for x, y in row[:40]]
        self.assertNotIn("outlines", self.says([marks(beside)]))

    def test_without_a_pass_of_highlights_nothing_is_judged(self):
        from foxpath.document import edits

        off = edits.set_pass(self.made, "highlights", on=False)
        with mock.patch.object(finish, "groups_of", side_effect=AssertionError):
            self.assertEqual(finish._highlights(self.results, off, self.subject, (0.0, 0.0), PX_PER_MM, SILENT), [])


if __name__ == "__main__":
    unittest.main()
