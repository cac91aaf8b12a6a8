"""Hair beyond its outline is told from the ground, and nothing else is."""

import unittest

import numpy as np

from foxpath.core.rehearsal.overhang import overhang

ROWS, COLUMNS = 160, 200


def picture(hair=(62.0, 30.0, 40.0), ground=(60.0, -3.0, -6.0), reach=10):
    """A coat right of column 100, hairs of which stand `reach` cells out over a ground."""
    rng = np.random.default_rng(0)
    lab = np.empty((ROWS, COLUMNS, 3), np.float32)
    lab[:] = ground
    coat = np.zeros((ROWS, COLUMNS), bool)
    coat[:, 100:] = True
    true = np.zeros_like(coat)
    for row in range(20, 140, 4):
        true[row : row + 2, 100 - reach : 100] = True
    lab[coat | true] = hair
    return lab + rng.normal(0, 0.6, lab.shape).astype(np.float32), coat, true


class Overhang(unittest.TestCase):
    def found(self, lab, coat, reach=16.0, ground=None):
        return overhang(lab, coat, ~coat if ground is None else ground, reach)

    def test_hairs_are_found_and_the_ground_between_them_is_not(self):
        lab, coat, true = picture()
        made = self.found(lab, coat)
        self.assertGreater((made & true).sum() / true.sum(), 0.9)
        self.assertLess((made & ~true & ~coat).sum() / true.sum(), 0.35)
        self.assertFalse((made & coat).any())

    def test_no_further_than_hair_may_reach_and_only_over_that_ground(self):
        lab, coat, _ = picture(reach=30)
        self.assertFalse(self.found(lab, coat, 12.0)[:, : 100 - 13].any())
        other = ~coat
        other[:80] = False
        self.assertFalse(self.found(lab, coat, ground=other)[:80].any())

    def test_pale_hair_before_a_pale_ground_is_found_too(self):
        lab, coat, true = picture(hair=(88.0, 1.0, 4.0), ground=(78.0, 0.0, 1.0))
        self.assertGreater((self.found(lab, coat) & true).sum() / true.sum(), 0.8)

    def test_a_plain_border_has_none(self):
        lab, coat, _ = picture(reach=0)
        self.assertLess(int(self.found(lab, coat).sum()), 40)

    def test_what_stands_apart_is_no_hair_of_it(self):
        lab, coat, _ = picture(reach=0)
        lab[60:70, 86:92] = (62.0, 30.0, 40.0)
        self.assertFalse(self.found(lab, coat)[58:72, 84:94].any())


if __name__ == "__main__":
    unittest.main()
