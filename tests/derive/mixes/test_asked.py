"""What a spot of the picture asks of the palette: the nearest pile, and what to lay into one that is wet."""

import unittest

import numpy as np

from foxpath.core.mixes.layers import over_wet
from foxpath.core.mixes.recipe import Limits, Rack
from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.mixes.asked import OFFERED, AskSpot
from foxpath.derive.mixes.palette import palette_of, rack_of
from tests.made import project
from tests.remembered import remember

setUpModule = remember

LAB = (48.0, 10.0, 14.0)


class Asked(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        results, made = Results(), project()
        cls.palette, cls.rack = palette_of(results, made), rack_of(results, made)

    def ask(self, wet="", rack=None, lab=LAB):
        return AskSpot(rack or self.rack, self.palette, Limits(), 0.2, lab, wet)(SILENT)

    def test_wet_piles_are_offered_the_nearest_in_value_first(self):
        one = self.ask()
        away = [abs(pile.lab[0] - LAB[0]) for pile in one.wets]
        self.assertEqual(away, sorted(away))
        self.assertEqual(len(one.wets), min(OFFERED, len(self.palette.piles)))
        rest = [abs(p.lab[0] - LAB[0]) for p in self.palette.piles if p not in one.wets]
        self.assertGreaterEqual(min(rest, default=99), away[-1])
        self.assertEqual((one.wet, one.lab), (one.wets[0], LAB))
        self.assertIsNotNone(one.nearest)

    def test_into_the_one_that_was_taken_is_laid_what_comes_out_as_the_spot(self):
        last = self.palette.piles[-1]
        one = self.ask(last.key)
        self.assertEqual(one.wet, last)
        wanted = over_wet(self.rack, np.array(LAB), self.rack.parts(last.recipe.parts), 0.2, Limits())
        self.assertEqual(one.into, wanted)
        # A pile that is not there any more: the nearest in value.
        self.assertEqual(self.ask("gone").wet, self.ask().wet)

    def test_without_its_tubes_nothing_is_said_of_it(self):
        pile = next(p for p in self.palette.piles if len(p.recipe.parts) > 1)
        away = {key for key, _ in pile.recipe.parts[:1]}
        fewer = Rack([tube for tube in self.rack.tubes if tube.id not in away])
        one = self.ask(pile.key, fewer)
        self.assertEqual((one.wet, one.into), (pile, None))


if __name__ == "__main__":
    unittest.main()
