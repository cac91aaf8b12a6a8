"""What a change touches: whose hairs hang over it, which edges are made again, and how it is said."""

import os
import unittest
from datetime import datetime
from unittest import mock

import numpy as np

from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.easel.change import AskChange, Impact, _listed, single_hairs
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


def impact(**changes):
    told = {
        "zones": ("z1",), "again": (), "borders": (), "strays": (), "piles": (), "minutes": 0, "before": None, "after": None, "late": False,
    }  # fmt: skip
    return Impact(**{**told, **changes})


class Words(unittest.TestCase):
    def test_each_thing_it_touches_has_its_sentence(self):
        self.assertEqual(impact().words(), "Nothing of it is painted yet: it costs no time but thought.")
        said = impact(
            again=("a", "b"), minutes=90, borders=("Ear",), strays=("Whiskers",), piles=("dark", "light"),
            before=datetime(2026, 5, 8), after=datetime(2026, 5, 10), late=True,
        ).words()  # fmt: skip
        self.assertEqual(
            said,
            "2 tasks again, 1 h 30. Edges toward Ear. Hairs that hang over: Whiskers. Piles dark, light. "
            "Handed over Sun 10 May 2026, 2 days later. The date is missed with it.",
        )

    def test_as_soon_as_before_is_not_later(self):
        day = datetime(2026, 5, 8, 20)
        self.assertEqual(impact(before=day, after=day).days, 0)
        self.assertTrue(impact(before=day, after=day).words().endswith("Handed over Fri 8 May 2026."))
        self.assertEqual((impact(after=day).days, impact(before=day).days), (0, 0))

    def test_three_names_and_how_many_more(self):
        self.assertEqual(_listed("abc"), "a, b, c")
        self.assertEqual(_listed("abcd"), "a, b, c and 1 more")
        self.assertEqual(_listed("abcdef", 2), "a, b and 4 more")


class Touched(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        made = edits.set_days(project(), start="2026-03-02")
        corner = np.array([[170.0, 130.0], [190, 130], [190, 150], [170, 150]])
        made, cls.corner = edits.add_zone(made, "Corner", "short-fur", corner)
        # A part of whiskers beside the square's right side, in which some are drawn from the square out over the ground.
        reach = np.array([[100.0, 70.0], [150, 70], [150, 95], [100, 95]])
        cls.bare, _ = edits.add_zone(made, "Whiskers", "whisker", reach)
        made, whiskers = edits.add_feature(cls.bare, "whiskers", "Near whiskers")
        cls.made = edits.add_stroke(made, whiskers, "hair", np.array([[100.0, 80.0], [146.0, 84.0]]))
        cls.results = Results()

    def ask(self, name, made=None):
        made = made or self.made
        zone = next(one for one in made.zones if one.name == name)
        with mock.patch.dict(os.environ, {"FOXPATH_NOW": "2026-03-02T12:00"}):
            return AskChange(self.results, made, (zone.id,))(SILENT)

    def test_single_hairs_are_laid_again_over_whatever_they_lie_over(self):
        for name in ("Square", "Background", "Whiskers"):
            self.assertEqual(self.ask(name).strays, ("Near whiskers",), name)
        for name in ("Corner", "Eye"):
            self.assertEqual(self.ask(name).strays, (), name)
        self.assertIn("Hairs that hang over: Near whiskers.", self.ask("Background").words())

    def test_drawn_within_one_part_they_lie_over_no_other(self):
        ((_, over),) = single_hairs(self.results, self.within((100.0, 80.0), (118.0, 80.0)))
        self.assertEqual({self.made.back_to_front()[k].name for k in over}, {"Square", "Whiskers"})
        ((_, over),) = single_hairs(self.results, self.within((145.0, 80.0), (900.0, 80.0)))
        self.assertEqual({self.made.back_to_front()[k].name for k in over}, {"Background", "Whiskers"})

    def within(self, *points):
        made, whiskers = edits.add_feature(self.bare, "whiskers", "Near whiskers")
        return edits.add_stroke(made, whiskers, "hair", np.array(points))

    def test_where_none_are_drawn_they_may_lie_anywhere_in_their_part(self):
        ((name, over),) = single_hairs(self.results, self.bare)
        self.assertEqual(name, "Whiskers")
        self.assertEqual({self.bare.back_to_front()[k].name for k in over}, {"Square", "Background", "Whiskers"})
        self.assertEqual(self.ask("Corner", self.bare).strays, ())

    def test_edges_are_made_again_toward_the_parts_it_meets(self):
        self.assertEqual(set(self.ask("Square").borders), {"Background", "Eye"})
        self.assertEqual(self.ask("Corner").borders, ("Background",))
        self.assertEqual(set(self.ask("Background").borders), {"Square", "Corner"})

    def test_nothing_painted_nothing_again(self):
        one = self.ask("Square")
        self.assertEqual((one.again, one.minutes, one.days, one.late), ((), 0, 0, False))
        self.assertEqual(one.before, one.after)
        self.assertTrue(one.piles)


if __name__ == "__main__":
    unittest.main()
