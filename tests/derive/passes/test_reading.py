"""What is said of a kit whose brushes are too coarse for the hair."""

import unittest

import numpy as np

from foxpath.core.lengths import Brush
from foxpath.derive import Results
from foxpath.derive.passes.reading import _named, pass_findings
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Coarse(unittest.TestCase):
    def said(self, *kit, made=None):
        made = edits.take_kit(made or project(), kit)
        return [one for one in pass_findings(Results(), made) if one.where == "lengths"]

    def test_hair_finer_than_the_finest_mark_is_painted_as_clumps_or_hinted(self):
        made = project()
        (one,) = self.said(Brush("flat", 4.0), made=made)
        self.assertEqual(one.says, "Hairs of square are finer than your finest brush.")
        self.assertEqual(one.subject, made.zones[1].id)
        self.assertRegex(
            one.why,
            r"^hair 0.21 mm, finest mark 0.4 mm: 2 hairs a mark · they are painted as clumps; add a finer liner",
        )
        (one,) = self.said(Brush("flat", 60.0))
        self.assertIn("they are painted as clumps, and 1 hint;", one.why)
        self.assertEqual(self.said(Brush("liner", 0.3), Brush("flat", 30.0)), [])

    def test_of_several_parts_the_coarsest_is_shown_and_all_are_named(self):
        small = np.array([[150.0, 40.0], [190, 40], [190, 70], [150, 70]])
        made, _ = edits.add_zone(project(), "Ear", "short-fur", small)
        (one,) = self.said(Brush("flat", 4.0), made=made)
        self.assertRegex(one.says, r"^Hairs of (square and ear|ear and square) are")

    def test_names_are_short(self):
        self.assertEqual([_named(list("ABC")[:k]) for k in (1, 2, 3)], ["a", "a and b", "a and 2 more"])


if __name__ == "__main__":
    unittest.main()
