import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.errors import InputError
from foxpath.core.mixes import optics
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.tubes import (
    USUAL,
    USUAL_TUBES,
    KeptTube,
    OwnTube,
    check_swatches,
    named_tubes,
    table,
    tube_of,
    tubes_of,
)

OLIVE = OwnTube("own-olive", "Olive", (38.0, -4.0, 18.0), (68.0, -3.0, 22.0), hazard="keep out of drains")


class Table(unittest.TestCase):
    def test_every_tube_looks_as_its_swatches_say(self):
        white = table()["PW6"]
        for tube in table().values():
            rack = Rack([white, tube]) if tube is not white else Rack([white])
            masstone = rack.lab_of({tube.id: 1.0})
            # Nickel azo yellow is the one that no smooth spectrum fits well.
            near = 3.0 if tube.id == "PY150" else 1.6
            self.assertLess(float(difference(masstone, np.array(tube.masstone))), near, tube.id)
            tint = rack.lab_of({tube.id: 1.0, "PW6": 4.0} if tube is not white else {"PW6": 1.0})
            self.assertLess(float(difference(tint, np.array(tube.tint))), 1.5, tube.id)

    def test_white_alone_scatters_one_at_550_nm(self):
        self.assertAlmostEqual(float(table()["PW6"].s[17]), 1.0, places=6)

    def test_whites_and_blacks_are_told(self):
        self.assertEqual([t.id for t in table().values() if t.white], ["PW6", "PW4"])
        self.assertEqual([t.id for t in table().values() if t.black], ["PBk9", "PBk11"])

    def test_hazards_stand_where_they_are_known(self):
        self.assertIn("cadmium", table()["PR108"].hazard)
        self.assertEqual(table()["PB29"].hazard, "")

    def test_named_once_and_unknown_ones_refused(self):
        self.assertEqual([t.id for t in named_tubes(("PY43", "PW6", "PY43"))], ["PY43", "PW6"])
        with self.assertRaisesRegex(InputError, "PX1"):
            named_tubes(("PX1",))


class Kept(unittest.TestCase):
    def test_only_what_is_in_the_studio(self):
        kept = (KeptTube("PW6"), KeptTube("PB29", here=False), KeptTube("nothing"), KeptTube(OLIVE.id, OLIVE))
        self.assertEqual([t.id for t in tubes_of(kept)], ["PW6", OLIVE.id])
        self.assertEqual(tuple(t.id for t in tubes_of(USUAL)), USUAL_TUBES)

    def test_as_strong_as_it_was_learned_to_be(self):
        base = table()["PB29"]
        (made,) = tubes_of((KeptTube("PB29", taken=1.3, thrown=0.8, system="acrylic"),))
        np.testing.assert_allclose(made.k, base.k * 1.3)
        np.testing.assert_allclose(made.s, base.s * 0.8)
        self.assertAlmostEqual(made.strength, base.strength * 1.3)
        self.assertEqual(made.system, "acrylic")


class Own(unittest.TestCase):
    def test_a_tube_from_two_swatches_looks_like_both(self):
        for own in (
            OLIVE,
            OwnTube("a", "Dull blue", (30, 2, -22), (58, -6, -26)),
            OwnTube("b", "Buff", (72, 4, 22), (86, 1, 12)),
        ):
            rack = Rack([table()["PW6"], tube_of(own)])
            self.assertLess(float(difference(rack.lab_of({own.id: 1}), np.array(own.masstone))), 0.7, own.name)
            self.assertLess(float(difference(rack.lab_of({own.id: 1, "PW6": 4}), np.array(own.tint))), 0.7, own.name)

    def test_it_mixes_much_as_the_tube_it_was_made_from(self):
        """A tube of the table told by its swatches alone mixes with a third one nearly as the table's own does."""
        for key in ("PBr7-BS", "PB28", "PY43"):
            real = table()[key]
            # Not itself: the neighbour it is bent from is another tube's.
            own = tube_of(OwnTube("x", "x", tuple(np.array(real.masstone) + (0.4, -0.3, 0.3)), real.tint))
            a = Rack([real, table()["PW6"], table()["PBr7-RU"]]).lab(np.array([2.0, 3.0, 1.0]))
            b = Rack([own, table()["PW6"], table()["PBr7-RU"]]).lab(np.array([2.0, 3.0, 1.0]))
            self.assertLess(float(difference(a, b)), 2.0, key)

    def test_impossible_swatches_are_refused_with_what_to_do(self):
        for own, says in (
            (replace(OLIVE, tint=(30.0, 0.0, 10.0)), "darker than its masstone"),
            (replace(OLIVE, masstone=(float("nan"), 0, 0)), "no colour"),
            (replace(OLIVE, masstone=(140.0, 0, 0)), "no colour"),
            (replace(OLIVE, tint=(80.0, 200.0, 0)), "no colour"),
        ):
            with self.assertRaisesRegex(InputError, says):
                check_swatches(own)
        with self.assertRaisesRegex(InputError, "No paint looks like both"):
            tube_of(replace(OLIVE, masstone=(30.0, 40.0, -40.0), tint=(80.0, -60.0, 60.0)))

    def test_the_white_of_a_tint_may_not_darken_a_pale_tube(self):
        check_swatches(OwnTube("w", "Own white", (95.0, 0, 3), (94.8, 0, 3)))
        self.assertTrue(tube_of(OwnTube("w", "Own white", (95.0, 0, 3), (95.5, 0, 3))).white)


class Spectral(unittest.TestCase):
    def test_bands(self):
        for tube in table().values():
            self.assertEqual((tube.k.shape, tube.s.shape), ((optics.BANDS,), (optics.BANDS,)))
            self.assertTrue((tube.k > 0).all() and (tube.s > 0).all())


if __name__ == "__main__":
    unittest.main()
