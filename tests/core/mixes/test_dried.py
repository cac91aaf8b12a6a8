"""What paint does as it dries: the typical shift, and what dabs teach of the painter's own tubes."""

import unittest

import numpy as np

from foxpath.core.mixes.dried import (
    APART,
    CLEARS,
    CLEARS_MIDDLE,
    NOISE,
    SINKS,
    Dab,
    drying_words,
    learn_dried,
    shift,
    typical,
    wet_for,
    when_dry,
)
from foxpath.core.mixes.tubes import KeptTube, OwnTube

ACRYLIC = (KeptTube("PW6", system="acrylic"), KeptTube("PB29", system="acrylic"), KeptTube("PY43", system="acrylic"))
OIL = (KeptTube("PW6"), KeptTube("PB29"))
HALVES = (("PW6", 1.0), ("PB29", 1.0))


class Typical(unittest.TestCase):
    def test_acrylic_turns_darker_most_in_middle_tones(self):
        self.assertAlmostEqual(typical("acrylic", 50), -(CLEARS + CLEARS_MIDDLE))
        self.assertAlmostEqual(typical("slow acrylic", 0), -CLEARS)
        self.assertAlmostEqual(typical("acrylic", 100), -CLEARS)
        self.assertAlmostEqual(typical("acrylic", 20), typical("acrylic", 80))
        self.assertLess(typical("acrylic", 50), typical("acrylic", 20))

    def test_darks_in_oil_sink_in_and_lights_stay(self):
        self.assertAlmostEqual(typical("oil", 0), SINKS)
        self.assertAlmostEqual(typical("water oil", 15), SINKS / 2)
        self.assertEqual(typical("oil", 30), 0)
        self.assertEqual(typical("alkyd", 70), 0)

    def test_an_own_tube_goes_by_its_own_system(self):
        own = OwnTube("own-x", "X", (30.0, 0.0, 0.0), (70.0, 0.0, 0.0), system="acrylic")
        self.assertAlmostEqual(shift((KeptTube("own-x", own),), (("own-x", 2.0),), (50.0, 0.0, 0.0))[0], -3.5)


class Shifting(unittest.TestCase):
    def test_each_tube_counts_by_its_parts(self):
        tubes = (KeptTube("PW6", dries=(2.0, 0.0, 0.0)), KeptTube("PB29", dries=(-2.0, 4.0, 0.0)))
        np.testing.assert_allclose(shift(tubes, (("PW6", 3.0), ("PB29", 1.0)), (50.0, 0, 0)), (1.0, 1.0, 0.0))
        self.assertEqual(when_dry(tubes, HALVES, (50.0, 1.0, 2.0)), (50.0, 3.0, 2.0))
        # One of acrylic in a pile of oil moves it by its share.
        mixed = (KeptTube("PW6"), KeptTube("PB29", system="acrylic"))
        self.assertAlmostEqual(shift(mixed, HALVES, (50.0, 0, 0))[0], typical("acrylic", 50) / 2)
        np.testing.assert_array_equal(shift(tubes, (), (50.0, 0, 0)), (0, 0, 0))

    def test_what_to_aim_for_wet_dries_to_what_is_wanted(self):
        for light in (8.0, 35.0, 60.0, 92.0):
            wet = wet_for(ACRYLIC, HALVES, (light, 12.0, -8.0))
            np.testing.assert_allclose(when_dry(ACRYLIC, HALVES, wet), (light, 12.0, -8.0), atol=1e-3)
            self.assertGreater(wet[0], light)


class Learning(unittest.TestCase):
    def test_one_dab_moves_a_tube_as_far_as_it_is_trusted(self):
        """Of 4 L* beyond the typical a single dab of one tube gives it the share that the two deviations say."""
        one = (KeptTube("PB29"),)
        learned = learn_dried(one, [Dab((("PB29", 2.0),), (50.0, 0.0, 0.0), (46.0, 0.0, 1.0))])[0]
        share = (1 / NOISE**2) / (1 / NOISE**2 + 1 / APART**2)
        np.testing.assert_allclose(learned.dries, (-4 * share, 0.0, share))
        self.assertEqual(learned.dabs, 1)

    def test_what_is_typical_is_not_learned_again(self):
        wet = (50.0, 3.0, 4.0)
        learned = learn_dried(ACRYLIC, [Dab(HALVES, wet, when_dry(ACRYLIC, HALVES, wet))])
        for one in learned:
            np.testing.assert_allclose(one.dries, (0, 0, 0), atol=1e-9)
        self.assertEqual([one.dabs for one in learned], [1, 1, 0])

    def test_dabs_tell_their_tubes_apart(self):
        """Tubes that dry otherwise than is typical are found from dabs of their mixtures; later paintings go on from there."""
        rng = np.random.default_rng(4)
        true = {"PW6": np.array([-0.5, 0, 0.8]), "PB29": np.array([-2.5, 1.0, 0]), "PY43": np.array([1.5, 0, -1.0])}

        def dab():
            parts = tuple((key, float(n)) for key, n in zip(true, rng.uniform(0.2, 3, 3), strict=True))
            whole = sum(n for _, n in parts)
            wet = (float(rng.uniform(25, 85)), float(rng.uniform(-20, 20)), 5.0)
            dry = np.array(wet) + sum(n / whole * true[key] for key, n in parts) + shift(ACRYLIC, parts, wet)
            return Dab(parts, wet, tuple(float(v) for v in dry + rng.normal(0, 0.3, 3)))

        first = learn_dried(ACRYLIC, [dab() for _ in range(6)])
        later = learn_dried(first, [dab() for _ in range(14)])

        def off(tubes):
            return max(float(np.abs(np.array(one.dries) - true[one.id]).max()) for one in tubes)

        self.assertLess(off(first), off(ACRYLIC))
        self.assertLess(off(later), 0.7 * off(first))
        self.assertLess(off(later), 1.0)
        self.assertEqual([one.dabs for one in later], [20, 20, 20])

    def test_more_dabs_hold_a_tube_firmer(self):
        far = [Dab((("PB29", 1.0),), (50.0, 0, 0), (44.0, 0, 0))]
        fresh, held = (learn_dried((KeptTube("PB29", dabs=n),), far)[0].dries[0] for n in (0, 20))
        self.assertLess(fresh, held)
        self.assertLess(held, 0)

    def test_dabs_of_unknown_tubes_are_passed_over(self):
        self.assertEqual(learn_dried(OIL, [Dab((("PR101-T", 1.0),), (50.0, 0, 0), (40.0, 0, 0))]), OIL)
        self.assertEqual(learn_dried(OIL, []), OIL)


class Saying(unittest.TestCase):
    def test_it_says_which_way_and_what_it_rests_on(self):
        self.assertEqual(drying_words(ACRYLIC, HALVES, (50.0, 0, 0)), "It dries 3 L* darker (typical).")
        self.assertEqual(drying_words(OIL, HALVES, (60.0, 0, 0)), "")
        own = (KeptTube("PW6", dries=(0.7, -2.0, 3.0), dabs=1), KeptTube("PB29", dries=(0.7, -2.0, 3.0)))
        self.assertEqual(
            drying_words(own, HALVES, (60.0, 0, 0)),
            "It dries a little lighter, 2 dE greener, 3 dE yellower (seen on one dab).",
        )


if __name__ == "__main__":
    unittest.main()
