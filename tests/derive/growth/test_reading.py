"""What is said of growth that nobody combed."""

import unittest

import numpy as np

from foxpath.derive import Results
from foxpath.derive.growth.reading import growth_findings
from foxpath.derive.zones.whiskers import drawn_whisker_zones, whisker_zone
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


def box(x0, y0, x1, y1):
    return np.array([[x0, y0], [x1, y0], [x1, y1], [x0, y1]], float)


class Whiskers(unittest.TestCase):
    """Drawn one by one they lie as they were drawn; scattered by the plan they follow a growth."""

    def setUp(self):
        made, self.near = edits.add_zone(project(), "Near whiskers", "whisker", box(100, 70, 150, 95))
        self.made, self.far = edits.add_zone(made, "Far whiskers", "whisker", box(10, 70, 38, 95))

    def drawn(self, *points):
        made, feature = edits.add_feature(self.made, "whiskers", "Whiskers")
        return edits.add_stroke(made, feature, "hair", np.array(points))

    def said(self, made):
        return {finding.says for finding in growth_findings(Results(), made)}

    def test_a_comb_is_asked_for_where_none_were_drawn(self):
        self.assertLessEqual({"Near whiskers has no comb.", "Far whiskers has no comb."}, self.said(self.made))
        said = self.said(self.drawn((110.0, 80.0), (146.0, 84.0)))
        self.assertNotIn("Near whiskers has no comb.", said)
        self.assertIn("Far whiskers has no comb.", said)

    def test_they_belong_to_the_part_nearest_to_their_roots_wherever_their_tips_are(self):
        for points, zone in ((((110.0, 80.0), (20.0, 80.0)), self.near), (((30.0, 80.0), (140.0, 80.0)), self.far)):
            made = self.drawn(*points)
            self.assertEqual(whisker_zone(made, made.features[0]).id, zone)
            self.assertEqual(drawn_whisker_zones(made), {zone})

    def test_nothing_drawn_and_no_part_are_none(self):
        made, _ = edits.add_feature(self.made, "whiskers", "Whiskers")
        self.assertIsNone(whisker_zone(made, made.features[0]))
        self.assertEqual(drawn_whisker_zones(made), frozenset())
        nose = edits.add_feature(self.made, "nose", "Nose")[0]
        self.assertEqual(drawn_whisker_zones(nose), frozenset())


if __name__ == "__main__":
    unittest.main()
