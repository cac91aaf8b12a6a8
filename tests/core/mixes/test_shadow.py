"""The glaze of a shadow: of which tubes, and how thin."""

import unittest

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.mixes.layers import THIN, shadow_film, veil, veil_over
from foxpath.core.mixes.optics import lab_of, seen, spectra_of, spectrum_of
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.tubes import table

RACK = Rack([table()[key] for key in ("PBr7-BS", "PB29", "PBr7-BU", "PR101-T")])
FILM = 12.0


class Shadow(unittest.TestCase):
    def test_a_film_that_was_laid_is_found_again_by_what_it_does(self):
        for key, share, over in (("PB29", 0.06, (70.0, 5.0, 20.0)), ("PBr7-BU", 0.1, (62.0, 12.0, 28.0))):
            laid = RACK.parts({key: 1.0})
            target = veil(RACK, laid, np.array([over]), FILM, paint=share)[0]
            recipe, paint = shadow_film(RACK, target, np.array(over), FILM)
            came = veil(RACK, RACK.parts(recipe.parts), np.array([over]), FILM, paint=paint)[0]
            self.assertLess(float(difference(came, target)), 1.5, key)
            self.assertEqual(recipe.parts[0][0], key)
            self.assertAlmostEqual(paint, share, delta=0.03)

    def test_a_deeper_shadow_takes_more_paint(self):
        over = np.array((70.0, 5.0, 20.0))
        shares = [shadow_film(RACK, over - (depth, 2.0, 8.0), over, FILM)[1] for depth in (4.0, 12.0, 25.0)]
        self.assertEqual(shares, sorted(shares))
        self.assertGreater(shares[2], 2 * shares[0])
        self.assertTrue(set(shares) <= set(THIN))

    def test_at_most_two_tubes(self):
        for target in ((20.0, 0.0, 0.0), (45.0, 30.0, 10.0), (35.0, -3.0, -20.0)):
            recipe, _ = shadow_film(RACK, np.array(target), np.array((70.0, 5.0, 20.0)), FILM)
            self.assertLessEqual(len(recipe.parts), 2)

    def test_over_known_spectra_it_is_the_same_veil(self):
        over = np.array([[60.0, 4.0, 10.0], [30.0, 0.0, 0.0]])
        parts = RACK.parts({"PBr7-BS": 2.0, "PB29": 1.0})
        known = np.stack([spectrum_of(one, RACK.shown) for one in over])
        np.testing.assert_allclose(
            veil(RACK, parts, over, FILM, paint=0.2, coats=2), veil_over(RACK, parts, known, FILM, paint=0.2, coats=2)
        )
        # Coats add up as thickness does.
        np.testing.assert_allclose(
            veil_over(RACK, parts, known, FILM, paint=0.2, coats=2), veil_over(RACK, parts, known, 2 * FILM, paint=0.2)
        )


class Spectra(unittest.TestCase):
    """Many colours side by side are the same spectra as one by one."""

    def test_each_is_the_one_it_is_alone(self):
        rng = np.random.default_rng(7)
        labs = np.column_stack([rng.uniform(2, 98, 40), rng.uniform(-60, 70, 40), rng.uniform(-60, 80, 40)])
        for shown in (1.0, 0.3):
            alone = np.stack([spectrum_of(one, shown) for one in labs])
            np.testing.assert_allclose(spectra_of(labs, shown), alone, atol=2e-4)

    def test_what_paint_can_show_is_shown(self):
        labs = np.array([[50.0, 0.0, 0.0], [70.0, 5.0, 20.0], [45.0, 12.0, 16.0], [85.0, -2.0, 4.0]])
        np.testing.assert_allclose(lab_of(seen(spectra_of(labs))), labs, atol=2e-3)

    def test_a_single_one_and_none(self):
        self.assertEqual(spectra_of(np.zeros((0, 3))).shape, (0, 36))
        self.assertEqual(spectra_of(np.array([[50.0, 0, 0]])).shape, (1, 36))
