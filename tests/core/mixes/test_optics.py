"""The equations of paint against published closed forms, their limits, and a second way of working them out."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_linear
from foxpath.core.mixes import optics
from foxpath.core.mixes.tubes import table


class Weights(unittest.TestCase):
    def test_white_is_the_white_of_d65(self):
        x, y, z = optics.weights().sum(axis=0)
        self.assertAlmostEqual(y, 1, delta=1e-4)
        # CIE 15: chromaticities of D65 for the 2 degree observer.
        self.assertAlmostEqual(x / (x + y + z), 0.31272, delta=2e-4)
        self.assertAlmostEqual(y / (x + y + z), 0.32903, delta=2e-4)

    def test_flat_greys_have_the_lightness_of_their_reflectance(self):
        for share in (0.003, 0.184, 0.5, 1.0):
            lab = optics.lab_of(np.full(optics.BANDS, share))
            wanted = lab_from_linear(np.full((1, 3), share, np.float32))[0]
            self.assertAlmostEqual(lab[0], float(wanted[0]), delta=0.02)
            np.testing.assert_allclose(lab[1:], 0, atol=1e-9)

    def test_the_slope_is_that_of_the_colour(self):
        rng = np.random.default_rng(3)
        for reflectance in (rng.uniform(0.05, 0.9, optics.BANDS), np.full(optics.BANDS, 0.004)):
            slope = optics.lab_slope(reflectance) @ optics.weights().T
            step = 1e-6
            measured = np.stack(
                [(optics.lab_of(reflectance + step * one) - optics.lab_of(reflectance - step * one)) / (2 * step)
                 for one in np.eye(optics.BANDS)], axis=1,
            )  # fmt: skip
            np.testing.assert_allclose(slope, measured, rtol=2e-3, atol=1e-4)


class Films(unittest.TestCase):
    def test_an_endless_film_is_the_published_closed_form(self):
        q = np.array([0.0, 1e-4, 0.02, 0.3, 2.0, 60.0])
        np.testing.assert_allclose(optics.endless(q), 1 + q - np.sqrt(q * q + 2 * q), rtol=1e-9, atol=1e-12)
        # And q comes back by (1 - R)^2 / 2R.
        r = optics.endless(q[1:])
        np.testing.assert_allclose((1 - r) ** 2 / (2 * r), q[1:], rtol=1e-9)

    def test_a_thick_film_hides_its_ground_and_none_shows_it(self):
        tube = table()["PB29"]
        for ground in (0.01, 0.4, 0.9):
            beneath = np.full(optics.BANDS, ground)
            np.testing.assert_allclose(
                optics.film(tube.k, tube.s, 1e6, beneath), optics.endless(tube.k / tube.s), rtol=1e-6
            )
            np.testing.assert_allclose(optics.film(tube.k, tube.s, 0, beneath), beneath)
            thin = optics.film(tube.k, tube.s, 1e-4, beneath)
            np.testing.assert_allclose(thin, beneath, atol=2e-3)

    def test_two_coats_are_one_of_twice_the_thickness(self):
        tube = table()["PR101-T"]
        ground = np.full(optics.BANDS, 0.7)
        once = optics.film(tube.k, tube.s, 12, ground)
        np.testing.assert_allclose(
            optics.film(tube.k, tube.s, 12, once), optics.film(tube.k, tube.s, 24, ground), rtol=1e-9
        )

    def test_a_film_that_only_takes_up_follows_beer_and_lambert(self):
        k, s = np.full(optics.BANDS, 0.5), np.full(optics.BANDS, 1e-9)
        ground = np.full(optics.BANDS, 0.6)
        through = np.exp(-2 * 0.5 * optics.SCATTER_PER_UM * 10)
        np.testing.assert_allclose(optics.film(k, s, 10, ground), 0.6 * through, rtol=1e-4)

    def test_thickness_is_in_micrometres_of_a_white_of_known_scattering(self):
        # Without taking up: R = Rg + (1 - Rg) SX / (1 + (1 - Rg) SX), over black SX / (1 + SX).
        k, s, black = np.full(36, 1e-9), np.ones(36), np.zeros(36)
        depth = optics.SCATTER_PER_UM * 25
        np.testing.assert_allclose(optics.film(k, s, 25, black), depth / (1 + depth), rtol=1e-3)


class Surface(unittest.TestCase):
    def test_seen_and_within_undo_each_other(self):
        inside = np.linspace(0.001, 0.98, 40)
        for shown in optics.FINISHES.values():
            np.testing.assert_allclose(optics.within(optics.seen(inside, shown), shown), inside, rtol=1e-9)

    def test_saunderson_as_published(self):
        self.assertAlmostEqual(float(optics.seen(np.array(0.5))), 0.04 + 0.96 * 0.5 * 0.5 / 0.75)
        self.assertAlmostEqual(float(optics.seen(np.array(1.0), 0.5)), 0.02 + 0.96)

    def test_the_slope_of_the_surface(self):
        inside = np.array([0.02, 0.4, 0.9])
        measured = (optics.seen(inside + 1e-6) - optics.seen(inside - 1e-6)) / 2e-6
        np.testing.assert_allclose(optics.seen_slope(inside), measured, rtol=1e-6)

    def test_finish_decides_how_dark_a_dark_can_be(self):
        black = table()["PBk9"]
        light = {
            name: float(optics.lab_of(optics.seen(optics.endless(black.k / black.s), shown))[0])
            for name, shown in optics.FINISHES.items()
        }
        self.assertAlmostEqual(light["matt"], 25, delta=1)
        self.assertAlmostEqual(light["satin"], 17, delta=1.5)
        self.assertLess(light["varnished"], 6)


class Spectra(unittest.TestCase):
    def test_a_smooth_spectrum_looks_as_was_asked(self):
        for lab in ((97, 0, 2), (70, 60, 60), (40, 20, -60), (30, -8, 4), (60, 0, -4)):
            inside = optics.spectrum_of(np.array(lab, float))
            np.testing.assert_allclose(optics.lab_of(optics.seen(inside)), lab, atol=0.01)
            self.assertTrue((inside > 0).all() and (inside < 1).all())

    def test_what_the_surface_forbids_comes_as_near_as_it_goes(self):
        looks = optics.lab_of(optics.seen(optics.spectrum_of(np.array([5.0, 0, 0]))))
        self.assertGreater(looks[0], 20)
        self.assertLess(looks[0], 26)
        deep = optics.lab_of(optics.seen(optics.spectrum_of(np.array([8.0, 0, 0]), 0.0), 0.0))
        self.assertAlmostEqual(deep[0], 8, delta=0.05)


if __name__ == "__main__":
    unittest.main()
