"""Films over a painting: what a glaze takes, what a scumble leaves, and what must lie beneath them."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.rehearsal.films import Film, beneath_film, caught_share, film_shift, ground_labs, grounds, lay_film


def multiplied(factor):
    """The shift of a filter that lets through so much of each channel, as a film over every ground looks."""
    seen = np.round(grounds() * np.array(factor)).astype(np.uint8)
    return film_shift(np.asarray(lab_from_rgb8(np.ascontiguousarray(seen[None]))[0], np.float64), darkens=True)


def noise(shape=(60, 80), seed=1):
    return np.random.default_rng(seed).integers(0, 256, (*shape, 3), dtype=np.uint8)


class Laid(unittest.TestCase):
    def test_every_colour_comes_out_as_the_film_says_within_a_rounding(self):
        canvas = noise()
        want = canvas * np.array([0.9, 0.6, 0.3])
        lay_film(canvas, Film(multiplied((0.9, 0.6, 0.3)), np.ones((6, 8), np.float32)), 2.0)
        self.assertLess(float(np.abs(canvas - want).max()), 3.5)
        self.assertLess(float(np.abs(canvas - want).mean()), 0.9)

    def test_half_a_film_takes_half_and_none_nothing(self):
        canvas = np.full((40, 40, 4), 200, np.uint8)
        share = np.repeat(np.array([[0.0, 0.5, 1.0]], np.float32), 1, axis=0)
        before = canvas.copy()
        lay_film(canvas, Film(multiplied((0.5, 0.5, 0.5)), share), 2.0)
        self.assertEqual(canvas[20, 0, 0], 200)
        self.assertAlmostEqual(int(canvas[20, 20, 0]), 150, delta=3)
        self.assertAlmostEqual(int(canvas[20, 39, 0]), 100, delta=2)
        np.testing.assert_array_equal(canvas[..., 3], before[..., 3])

    def test_a_tall_canvas_shows_no_seam_where_strips_meet(self):
        canvas = np.full((700, 20, 3), 180, np.uint8)
        ramp = np.linspace(0, 1, 70, dtype=np.float32)[:, None] * np.ones((1, 4), np.float32)
        lay_film(canvas, Film(multiplied((0.4, 0.4, 0.4)), ramp), 2.0)
        steps = np.diff(canvas[:, 10, 0].astype(int))
        self.assertLessEqual(int(steps.max()), 0)
        self.assertGreaterEqual(int(steps.min()), -2)

    def test_a_scumble_catches_on_the_tooth_and_a_glaze_does_not(self):
        share = np.ones((4, 4), np.float32)
        for broken in (False, True):
            canvas = np.full((120, 120, 3), 60, np.uint8)
            paler = film_shift(ground_labs() * 0.5 + np.array([40.0, 0, 0]), darkens=False)
            lay_film(canvas, Film(paler, share, broken), 3.0, "toothed")
            self.assertEqual(float(canvas[..., 0].std()) > 2, broken)
        film = Film(multiplied((1, 1, 1)), share, broken=True)
        self.assertTrue(0.2 < caught_share(film, 3.0, "toothed") < 0.95)
        self.assertEqual(caught_share(Film(film.shift, share), 3.0), 1.0)


class Takes(unittest.TestCase):
    def test_a_glaze_makes_none_of_red_green_and_blue_more(self):
        lighter = ground_labs() + np.array([12.0, 20.0, -10.0])
        self.assertLessEqual(int(film_shift(lighter, darkens=True).max()), 0)
        self.assertGreater(int(film_shift(lighter, darkens=False).max()), 10)

    def test_hair_runs_on_beneath_it(self):
        canvas = np.full((40, 40, 3), 150, np.uint8)
        canvas[:, ::4] = 90
        lay_film(canvas, Film(multiplied((0.8, 0.7, 0.6)), np.ones((2, 2), np.float32)), 2.0)
        self.assertGreater(int(canvas[5, 1, 0]) - int(canvas[5, 0, 0]), 40)


class Beneath(unittest.TestCase):
    def film(self, factor=(0.6, 0.6, 0.6), share=1.0):
        return Film(multiplied(factor), np.full((6, 8), share, np.float32))

    def round_trip(self, wanted, film):
        lab = beneath_film(lab_from_rgb8(wanted), film)
        from foxpath.core.colour import rgb8_from_lab

        canvas = np.ascontiguousarray(rgb8_from_lab(np.ascontiguousarray(lab)))
        lay_film(canvas, film, 2.0)
        return lab, lab_from_rgb8(canvas)

    def test_what_lies_beneath_is_lighter_and_comes_out_as_it_was_wanted(self):
        wanted = (40 + 0.3 * noise()).astype(np.uint8)
        for share in (1.0, 0.5):
            lab, came = self.round_trip(wanted, self.film(share=share))
            self.assertGreater(float((lab - lab_from_rgb8(wanted))[..., 0].mean()), 5)
            self.assertLess(float(np.abs(came - lab_from_rgb8(wanted))[..., 0].mean()), 0.6)

    def test_its_hue_is_left_to_the_film(self):
        wanted = np.full((20, 20, 3), (120, 110, 100), np.uint8)
        lab, came = self.round_trip(wanted, self.film((0.9, 0.7, 0.4)))
        own = lab_from_rgb8(wanted)
        # Beneath it lies the colour's own hue, and what is seen leans to the film's.
        turn = [float(np.degrees(np.arctan2(x[0, 0, 2], x[0, 0, 1]))) for x in (own, lab)]
        self.assertLess(abs(turn[0] - turn[1]), 4)
        self.assertGreater(float(came[0, 0, 2] - own[0, 0, 2]), 15)
        self.assertLess(abs(float(came[0, 0, 0] - own[0, 0, 0])), 1)

    def test_where_no_paint_is_light_enough_the_lightest_is_returned(self):
        wanted = np.full((10, 10, 3), 225, np.uint8)
        lab, came = self.round_trip(wanted, self.film((0.5, 0.5, 0.5)))
        self.assertLess(float(lab[..., 0].max()), 96)
        self.assertLess(float(came[..., 0].max()), float(lab_from_rgb8(wanted)[..., 0].min()) - 15)

    def test_beyond_the_film_nothing_changes(self):
        lab = lab_from_rgb8(noise())
        self.assertIs(beneath_film(lab, self.film(share=0.0)), lab)
