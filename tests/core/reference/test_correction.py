"""Corrections by their figures: greys, the colours of lights, spots, the local lift, and how a picture is developed."""

import unittest

import numpy as np

from foxpath.core.colour import LUMINANCE, linear_from_rgb8, rgb8_from_linear
from foxpath.core.reference.correction import (
    GAINS,
    MOST_LIFT,
    Correction,
    develop,
    gains_of_grey,
    gains_of_light,
    lift_map,
    spot_linear,
)
from foxpath.core.reference.picture import Picture

ONE = np.ones(3)
SRGB = np.array(
    [[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]]
)
"""Linear sRGB to XYZ under D65 (IEC 61966-2-1)."""


def flat(colour, size=(40, 60)):
    """Return an even picture."""
    return np.broadcast_to(np.array(colour, np.uint8), (*size, 3)).copy()


class Decided(unittest.TestCase):
    def test_nothing_is_decided_only_where_nothing_is(self):
        self.assertTrue(Correction().nothing)
        self.assertTrue(Correction(radius_px=30.0).nothing)
        for one in (
            Correction(grey=(1.0, 2.0)),
            Correction(light_k=5000.0),
            Correction(exposure=0.5),
            Correction(exposure=-0.5),
            Correction(lift=0.2),
        ):
            self.assertFalse(one.nothing)


class Gains(unittest.TestCase):
    def test_a_grey_becomes_neutral_and_keeps_its_light(self):
        colour = np.array([0.4, 0.3, 0.15], np.float32)
        gains = gains_of_grey(colour)
        made = colour * gains
        np.testing.assert_allclose(made, float(colour @ LUMINANCE), rtol=1e-6)
        # No channel is raised or lowered more than fivefold: there is nothing in it but noise.
        np.testing.assert_allclose(gains_of_grey(np.array([0.9, 0.9, 0.0], np.float32))[2], 5.0)
        np.testing.assert_allclose(
            gains_of_grey(np.array([1.0, 0.0, 0.0], np.float32))[0], float(LUMINANCE[0]), rtol=1e-3
        )
        np.testing.assert_allclose(gains_of_grey(np.array([0.02, 0.0, 1.0], np.float32))[2], 0.2)

    def test_the_light_of_each_temperature_becomes_daylight(self):
        # Chromaticities (x, y) of black bodies and of daylight, from CIE tables.
        for kelvin, x, y in (
            (2000, 0.5267, 0.4133),
            (2222, 0.5018, 0.4153),
            (2856, 0.4475, 0.4074),
            (3500, 0.4053, 0.3907),
            (4000, 0.3823, 0.3838),
            (5003, 0.3457, 0.3585),
            (6504, 0.3127, 0.3290),
            (7504, 0.2990, 0.3149),
            (10000, 0.2788, 0.2920),
            (20000, 0.2538, 0.2606),
        ):
            xyz = np.array([x / y, 1.0, (1 - x - y) / y])
            # A white paper in it, as linear sRGB.
            paper = np.linalg.solve(SRGB, xyz)
            gains = gains_of_light(kelvin)
            np.testing.assert_allclose(gains, gains_of_grey(paper), rtol=0.03, err_msg=str(kelvin))
            if kelvin > 2500:
                made = paper * gains
                self.assertLess(float(np.ptp(made) / made.mean()), 0.04, kelvin)

    def test_beyond_what_lights_have_the_outermost_is_taken(self):
        np.testing.assert_array_equal(gains_of_light(500), gains_of_light(2000))
        np.testing.assert_array_equal(gains_of_light(90000), gains_of_light(20000))
        self.assertGreater(gains_of_light(3000)[2], 1.5)
        self.assertLess(gains_of_light(12000)[2], 0.9)
        # Hardly a step where one formula follows another; daylight is a little greener than a black body.
        for kelvin, off in ((2222, 0.01), (4000, 0.08), (7000, 0.01)):
            np.testing.assert_allclose(gains_of_light(kelvin - 1), gains_of_light(kelvin + 1), rtol=off)


class Spot(unittest.TestCase):
    def setUp(self):
        y, x = np.mgrid[:50, :80]
        self.rgb = np.stack([3 * x, 4 * y, 0 * x + 90], axis=-1).astype(np.uint8)

    def test_it_is_the_mean_of_a_disc_in_linear_light(self):
        for at, radius in (
            ((30.0, 20.0), 6.0),
            ((31.5, 24.5), 4.2),
            ((2.0, 3.0), 6.0),
            ((79.0, 49.0), 5.0),
            ((40.0, 1.0), 9.0),
        ):
            y, x = np.mgrid[:50, :80]
            disc = np.hypot(x + 0.5 - at[0], y + 0.5 - at[1]) <= radius
            np.testing.assert_allclose(
                spot_linear(self.rgb, at, radius), linear_from_rgb8(self.rgb)[disc].mean(axis=0), rtol=1e-5
            )

    def test_the_smallest_spot_is_what_lies_under_it(self):
        np.testing.assert_allclose(
            spot_linear(self.rgb, (30.5, 20.5), 0.0), linear_from_rgb8(self.rgb[20:21, 30:31])[0, 0], rtol=1e-6
        )
        # Between four pixels, some of those about it.
        made = spot_linear(self.rgb, (30.0, 20.0), 0.0)
        near = linear_from_rgb8(self.rgb[18:23, 28:33]).reshape(-1, 3)
        self.assertTrue(((made >= near.min(axis=0) - 1e-6) & (made <= near.max(axis=0) + 1e-6)).all())

    def test_off_the_picture_is_an_error_that_says_where(self):
        for at in ((-20.0, 10.0), (100.0, 10.0), (10.0, -20.0), (10.0, 70.0)):
            with self.assertRaisesRegex(ValueError, rf"\({at[0]:.0f}, {at[1]:.0f}\)"):
                spot_linear(self.rgb, at, 6.0)


class Lift(unittest.TestCase):
    def lifted(self, level, lift=1.0):
        """Return by how many stops an even grey is raised."""
        made = lift_map(flat((level,) * 3), lift)
        self.assertLess(float(np.ptp(made)), 1e-4)
        return float(made[0, 0])

    def test_the_deepest_darks_are_raised_most_and_lights_not_at_all(self):
        self.assertAlmostEqual(self.lifted(0), MOST_LIFT, places=4)
        self.assertEqual(self.lifted(100), 0)
        self.assertAlmostEqual(self.lifted(0, 0.5), MOST_LIFT / 2, places=4)
        for level in (20, 30, 45, 60):
            light = float(linear_from_rgb8(np.array([[[level] * 3]], np.uint8))[0, 0, 0]) + 0.002
            share = float(np.clip(np.log2(0.09 / light) / np.log2(0.09 / 0.006), 0, 1))
            self.assertAlmostEqual(self.lifted(level), MOST_LIFT * share**2 * (3 - 2 * share), delta=0.01)
        # By its luminance, whatever its colour.
        self.assertGreater(
            float(lift_map(flat((0, 0, 120)), 1.0)[0, 0]), float(lift_map(flat((0, 120, 0)), 1.0)[0, 0]) + 0.5
        )

    def test_a_dark_mass_is_raised_and_a_dark_hair_hardly(self):
        rgb = flat((150,) * 3, (200, 320))
        rgb[:, :100] = 12
        rgb[:, 200] = 12
        made = lift_map(rgb, 1.0)
        self.assertEqual(made.shape, (200, 320))
        self.assertGreater(float(made[100, 50]), 1.5)
        # It keeps to its mass: no halo beside it.
        self.assertLess(float(made[100, 104]), 0.1)
        self.assertGreater(float(made[100, 96]), 1.4)
        self.assertEqual(lift_map(flat((9,) * 3, (640, 1280)), 1.0).shape, (160, 320))


class Developed(unittest.TestCase):
    def test_without_lift_each_colour_is_as_many_stops_lighter(self):
        ramp = np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, axis=2)
        linear = linear_from_rgb8(ramp)
        for stops in (-2.0, -0.5, 0.0):
            np.testing.assert_allclose(
                develop(Picture(ramp), ONE, stops, 0.0), rgb8_from_linear(linear * np.float32(2**stops)), atol=1
            )
        gains = np.array([0.5, 1.0, 1.5])
        made = develop(Picture(ramp), gains, 0.0, 0.0)
        np.testing.assert_allclose(made, rgb8_from_linear(np.clip(linear * gains, 0, 1).astype(np.float32)), atol=1)
        self.assertFalse(made.flags.writeable)

    def test_lights_are_bent_below_white_when_it_is_made_lighter(self):
        ramp = np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, axis=2)
        made = develop(Picture(ramp), ONE, 1.0, 0.0)[0, :, 0].astype(int)
        light = 2 * linear_from_rgb8(ramp)[0, :, 0].astype(np.float64)
        bent = np.where(light > 0.8, 0.8 + 0.2 * (1 - np.exp(-(light - 0.8) / 0.2)), light)
        np.testing.assert_allclose(
            made, rgb8_from_linear(np.repeat(bent[None, :, None], 3, axis=2).astype(np.float32))[0, :, 0], atol=1
        )
        # Neighbours stay apart far up, and nothing is turned round.
        self.assertTrue((np.diff(made) >= 0).all())
        self.assertLess(made[200], 255)
        plain = develop(Picture(ramp), np.array([2.0, 2.0, 2.0]), 0.0, 0.0)[0, :, 0]
        self.assertEqual(int(plain[200]), 255, "gains alone bend nothing")

    def test_a_lift_goes_by_place(self):
        rgb = flat((150,) * 3, (200, 320))
        rgb[:, :100] = 12
        made = develop(Picture(rgb), ONE, 0.0, 1.0)
        self.assertEqual(int(made[100, 250, 0]), 150)
        told = lift_map(rgb, 1.0)[100, 50]
        step = MOST_LIFT / (GAINS - 1)
        stops = round(float(told) / step) * step
        wanted = rgb8_from_linear(linear_from_rgb8(rgb[100:101, 50:51]) * np.float32(2**stops))[0, 0, 0]
        self.assertAlmostEqual(int(made[100, 50, 0]), int(wanted), delta=1)
        less = develop(Picture(rgb), ONE, 0.0, 0.4)
        self.assertTrue(12 < less[100, 50, 0] < made[100, 50, 0])
        darker = develop(Picture(rgb), ONE, -1.0, 1.0)
        self.assertLess(int(darker[100, 250, 0]), 115)

    def test_sixteen_bits_are_read_as_finely_as_they_are(self):
        deep = np.repeat(np.arange(0, 65536, 64, dtype=np.uint16)[None, :, None], 3, axis=2)
        rgb = (deep >> 8).astype(np.uint8)
        for stops in (0.0, 2.0):
            made = develop(Picture(rgb, deep=deep), ONE, stops, 0.0)[0, :, 0].astype(int)
            value = (deep[0, :, 0] >> 4) / 4095
            light = np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4) * 2**stops
            if stops > 0:
                light = np.where(light > 0.8, 0.8 + 0.2 * (1 - np.exp(-(light - 0.8) / 0.2)), light)
            wanted = rgb8_from_linear(np.repeat(light[None, :, None], 3, axis=2).astype(np.float32))[0, :, 0]
            np.testing.assert_allclose(made, wanted, atol=1)
        lifted = develop(Picture(rgb, deep=deep), ONE, 0.0, 1.0)
        self.assertEqual(lifted.shape, rgb.shape)
        self.assertGreaterEqual(int(lifted[0, 30, 0]), int(rgb[0, 30, 0]))


if __name__ == "__main__":
    unittest.main()
