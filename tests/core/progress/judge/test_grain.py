"""Hair drawn as waves: which way it runs, how strong it is and where it is turned are known."""

import unittest
from dataclasses import replace
from functools import cache

import numpy as np

from foxpath.core.progress.judge import grain as module
from foxpath.core.progress.judge.grain import (
    APART_MM,
    AREA_MM2,
    LIGHT_NEAR_MM,
    LIGHT_OVER_L,
    LIGHT_USUAL,
    NOISE_ENERGY,
    PLACES,
    SMOOTH_FROM,
    TURN_FROM,
    _tensor,
    _turn,
    grain,
    lights,
)
from foxpath.core.progress.planned import PlannedPart
from foxpath.core.progress.sight import spot_seen_m
from tests.canvas import HEIGHT, PX, WIDTH, planned
from tests.flat import seen

COAT = 1
PARTS = (PlannedPart("z1", "Behind", "background"), PlannedPart("z2", "Coat", "long-fur", "", 12.0, True))
PERIOD_MM = 3.0


@cache
def _labels():
    made = np.zeros((HEIGHT, WIDTH), np.int16)
    made[40:440, 40:560] = COAT
    made.setflags(write=False)
    return made


@cache
def where():
    y, x = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
    return x / PX, y / PX


def hair(angle_deg=90.0, much=8.0, phase=0.0):
    """Light and dark waves whose crests run at an angle, with the height `much` in L*; both may vary over the canvas."""
    x, y = where()
    a = np.radians(angle_deg)
    across = -np.sin(a) * x + np.cos(a) * y
    made = np.zeros((HEIGHT, WIDTH, 3), np.float32)
    made[...] = (45, 6, 12)
    made[..., 0] += much * np.sin(2 * np.pi * across / PERIOD_MM + phase)
    return made


def plan(a=None, b=None, **changes):
    made = hair() if a is None else a
    changes = {"labels": _labels(), "parts": PARTS, **changes}
    return replace(planned(), lab=made, other_lab=made if b is None else b, eyes=(), edges=(), **changes)


def patch(radius_mm, inside, outside, at=(300, 240)):
    """One canvas within a round place, another outside it."""
    x, y = where()
    within = np.hypot(x - at[0] / PX, y - at[1] / PX) < radius_mm
    return np.where(within[..., None], inside, outside)


class Tensors(unittest.TestCase):
    def test_an_axis_is_twice_its_angle_and_energy_is_that_of_waves(self):
        size = (round(WIDTH / PX), round(HEIGHT / PX))
        for angle in (10.0, 60.0, 90.0, 155.0):
            t = _tensor(hair(angle)[..., 0].copy(), PX, size)
            self.assertEqual(t.shape, (*size[::-1], 4))
            middle = t[70:130, 80:170].reshape(-1, 4).mean(axis=0)
            # The gradient runs across the hair.
            told = np.degrees(0.5 * np.arctan2(middle[1], middle[0])) + 90
            self.assertLess(abs((told - angle + 90) % 180 - 90), 1.5)
            self.assertGreater(np.hypot(middle[0], middle[1]) / middle[2], 0.97)
        strong, weak = (_tensor(hair(much=m)[..., 0].copy(), PX, size)[100, 120, 3] for m in (8.0, 4.0))
        self.assertAlmostEqual(strong / weak, 4, delta=0.1)
        # Of a wave 3 mm long so much is left between blurs of 0.4 and 1.8 mm.
        k = 2 * np.pi / PERIOD_MM
        left = np.exp(-((0.4 * k) ** 2) / 2) - np.exp(-((1.8 * k) ** 2) / 2)
        self.assertAlmostEqual(strong, (8 * left) ** 2 / 2, delta=0.06 * strong)

    def test_two_axes_differ_by_a_right_angle_at_most(self):
        def axis(deg):
            return np.array([[[np.cos(2 * np.radians(deg)), np.sin(2 * np.radians(deg))]]], np.float32)

        for a, b, turn in (
            (0, 30, 30),
            (30, 0, 30),
            (10, 170, 20),
            (0, 90, 90),
            (45, 140, 85),
            (20, 20, 0),
            (5, 190, 5),
        ):
            self.assertAlmostEqual(float(_turn(axis(a), axis(b))[0, 0]), turn, places=3)


class Turned(unittest.TestCase):
    def found(self, fine, kind="growth", there=None, **changes):
        there = there or plan()
        return [one for one in grain(there, seen(fine, there, **changes)) if one.kind == kind]

    def test_a_turned_place_is_told_where_it_lies_and_by_how_much(self):
        (one,) = self.found(patch(16.0, hair(40.0), hair()))
        self.assertLess(np.hypot(one.x - 300, one.y - 240) / PX, 6)
        self.assertAlmostEqual(one.size, 50, delta=9)
        self.assertEqual((one.rule, one.unit, one.part, one.doubt), ("growth", "deg", COAT, 6.0))
        # What is more than six tenths of it covers nearly what was turned.
        self.assertAlmostEqual(one.radius_mm, 16, delta=2.5)
        self.assertAlmostEqual(one.measure, one.size)

    def test_a_small_place_counts_for_its_size(self):
        (one,) = self.found(patch(8.0, hair(0.0), hair()))
        area = np.pi * one.radius_mm**2
        self.assertLess(area, AREA_MM2)
        self.assertAlmostEqual(one.measure, one.size * np.sqrt(area / AREA_MM2), places=3)

    def test_hardly_turned_is_not_told(self):
        for turn, told in ((TURN_FROM - 3, 0), (TURN_FROM + 5, 1)):
            self.assertEqual(len(self.found(patch(22.0, hair(90 - turn), hair()))), told, turn)

    def test_what_the_other_hand_turns_is_allowed(self):
        there = plan(hair(), hair(60.0))
        # The middle of both is 75°: 45° off that are 15° more than the hands differ by.
        (one,) = self.found(patch(22.0, hair(30.0), hair(75.0)), there=there)
        self.assertAlmostEqual(one.size, 15, delta=3)
        self.assertEqual(self.found(hair(60.0), there=there), [])
        self.assertEqual(self.found(hair(90.0), there=there), [])

    def test_how_far_it_is_seen_follows_the_strength_of_the_hair(self):
        fine = patch(16.0, hair(40.0), hair())
        (one,) = self.found(fine)
        size = (round(WIDTH / PX), round(HEIGHT / PX))
        spread = np.sqrt(_tensor(hair()[..., 0].copy(), PX, size)[100, 125, 3])
        self.assertAlmostEqual(one.seen_m, spot_seen_m(2.0, 3 * spread), delta=0.3)

    def test_where_hair_shows_no_way_nothing_is_turned(self):
        crossed = hair() + hair(0.0) - (45, 6, 12)
        for there, fine in (
            (plan(crossed), patch(22.0, hair(45.0), hair())), (plan(hair(), crossed), patch(22.0, hair(45.0), hair())),
            (plan(), patch(22.0, np.asarray(crossed, np.float32), hair())),
        ):  # fmt: skip
            self.assertEqual([one for one in self.found(fine, there=there) if one.measure > 17], [])

    def test_three_places_and_each_stands_apart(self):
        fine = hair()
        at = ((110, 110), (480, 110), (110, 360), (480, 360))
        for place in at:
            fine = patch(11.0, hair(20.0), fine, place)
        found = self.found(fine)
        self.assertEqual(len(found), PLACES)
        for k, one in enumerate(found):
            self.assertLess(min(np.hypot(one.x - x, one.y - y) for x, y in at) / PX, 8)
            for other in found[:k]:
                self.assertGreater(np.hypot(one.x - other.x, one.y - other.y) / PX, APART_MM - 1)

    def test_neither_beside_the_coat_nor_at_the_rim_nor_in_glare(self):
        turned = patch(16.0, hair(20.0), hair())
        use = np.ones((HEIGHT, WIDTH), bool)
        use[180:300, 240:360] = False
        self.assertEqual(self.found(turned, use=use), [])
        self.assertEqual(self.found(turned, there=plan(labels=np.zeros((HEIGHT, WIDTH), np.int16))), [])
        bare = (PARTS[0], replace(PARTS[1], hair=False))
        self.assertEqual(grain(plan(parts=bare), seen(turned, plan())), [])
        whiskers = (PARTS[0], replace(PARTS[1], kind="whisker"))
        self.assertEqual(grain(plan(parts=whiskers), seen(turned, plan())), [])
        every = np.ones((HEIGHT, WIDTH), np.int16)
        for at in ((300, 8), (300, HEIGHT - 8), (8, 240), (WIDTH - 8, 240)):
            near = patch(9.0, hair(20.0), hair(), at)
            self.assertEqual(self.found(near, there=plan(labels=every)), [], at)


class Smooth(unittest.TestCase):
    def found(self, fine, there=None):
        there = there or plan()
        return [one for one in grain(there, seen(fine, there)) if one.kind == "smooth"]

    def test_a_place_without_its_hair_is_told_by_what_is_left_of_it(self):
        size = (round(WIDTH / PX), round(HEIGHT / PX))
        for share in (0.3, 0.5):
            fine = patch(18.0, hair(much=8 * share), hair())
            (one,) = self.found(fine)
            planned_energy, left = (
                _tensor(made[..., 0].copy(), PX, size)[100, 125, 3] + NOISE_ENERGY for made in (hair(), fine)
            )
            self.assertAlmostEqual(one.size, 100 * left / planned_energy, delta=1.5)
            self.assertAlmostEqual(one.measure, np.log(planned_energy / left), delta=0.05)
            self.assertLess(np.hypot(one.x - 300, one.y - 240) / PX, 9)
            self.assertEqual((one.rule, one.unit, one.part, one.doubt), ("smooth", "%", COAT, 15.0))

    def test_a_coat_that_is_fainter_everywhere_is_the_camera_s(self):
        self.assertEqual(self.found(hair(much=4.0)), [])

    def test_a_little_less_is_not_told(self):
        for share, told in ((np.exp(-SMOOTH_FROM / 2) + 0.05, 0), (np.exp(-SMOOTH_FROM / 2) - 0.07, 1)):
            self.assertEqual(len(self.found(patch(18.0, hair(much=8 * share), hair()))), told)

    def test_the_fainter_hand_is_the_measure(self):
        there = plan(hair(), patch(30.0, hair(much=4.0), hair()))
        self.assertEqual(self.found(patch(18.0, hair(much=4.0), hair()), there), [])
        there = plan(patch(30.0, hair(much=4.0), hair()), hair())
        self.assertEqual(self.found(patch(18.0, hair(much=4.0), hair()), there), [])

    def test_where_nothing_was_planned_nothing_is_missing(self):
        faint = patch(40.0, hair(much=0.9), hair())
        self.assertEqual(self.found(patch(18.0, hair(much=0.05), faint), plan(faint)), [])


class Lights(unittest.TestCase):
    def coat(self, share=0.0, over=9.0, seed=5):
        """A coat with small deviations and with lights, 1 px each, over a share of it."""
        rng = np.random.default_rng(seed)
        made = np.zeros((HEIGHT, WIDTH, 3), np.float32)
        made[...] = (45, 6, 12)
        wide = rng.random((HEIGHT // 4, WIDTH // 4)) < share
        made[..., 0] += over * np.kron(wide, np.ones((4, 4), np.float32))
        return made

    def found(self, fine, there=None, **changes):
        there = there or plan(self.coat())
        return lights(there, seen(fine, there, **changes))

    def test_more_of_them_than_planned_are_told_as_a_share(self):
        fine = patch(24.0, self.coat(0.1), self.coat())
        (one,) = self.found(fine)
        self.assertLess(np.hypot(one.x - 300, one.y - 240) / PX, 24)
        self.assertEqual((one.rule, one.unit, one.part, one.doubt), ("lights", "%", COAT, 1.0))
        self.assertAlmostEqual(one.size, 11, delta=4)
        self.assertEqual(one.planned, 0)
        self.assertAlmostEqual(one.measure, one.size / 100)
        self.assertAlmostEqual(one.seen_m, spot_seen_m(2.0, 10.0))
        self.assertEqual(one.radius_mm, LIGHT_NEAR_MM)

    def test_where_the_plan_has_many_there_must_be_more(self):
        there = plan(self.coat(0.01, seed=8))
        alone = self.found(patch(24.0, self.coat(0.1), self.coat()))[0]
        one = self.found(patch(24.0, self.coat(0.1), self.coat(0.01, seed=8)), there)[0]
        self.assertGreater(one.planned, 0.3)
        self.assertAlmostEqual(one.measure, one.size / 100 / np.hypot(1, one.planned / 100 / LIGHT_USUAL))
        self.assertLess(one.size, alone.size)
        # Both hands' count, the one that has more.
        both = replace(plan(self.coat()), other_lab=self.coat(0.1))
        self.assertLess(self.found(patch(24.0, self.coat(0.1), self.coat()), both)[0].size, 1)

    def test_lights_begin_so_much_over_the_part_s_own(self):
        for over, told in ((LIGHT_OVER_L - 1.2, False), (LIGHT_OVER_L + 3, True)):
            one = self.found(patch(24.0, self.coat(0.1, over), self.coat()))[0]
            self.assertEqual(one.size > 2, told, over)

    def test_a_lighter_patch_is_a_mass_and_no_lights(self):
        lighter = self.coat()
        lighter[..., 0] += 12
        self.assertLess(self.found(patch(30.0, lighter, self.coat()))[0].size, 26)
        self.assertGreater(self.found(patch(12.0, lighter, self.coat()))[0].size, 35)

    def test_neither_whiskers_nor_their_places_nor_small_parts(self):
        fine = patch(24.0, self.coat(0.1), self.coat())
        for kind in ("eye", "whisker", "background"):
            self.assertEqual(self.found(fine, plan(self.coat(), parts=(PARTS[0], replace(PARTS[1], kind=kind)))), [])
        small = np.zeros((HEIGHT, WIDTH), np.int16)
        small[200 : round(200 + 24 * PX), 300 : round(300 + 24 * PX)] = COAT
        # 19 by 19 mm lie 2.5 mm within: less than 400 mm².
        self.assertEqual(self.found(fine, plan(self.coat(), labels=small)), [])
        small[200 : round(200 + 27 * PX), 300 : round(300 + 27 * PX)] = COAT
        self.assertEqual(len(self.found(fine, plan(self.coat(), labels=small))), 1)
        use = np.ones((HEIGHT, WIDTH), bool)
        use[150:330, 210:390] = False
        self.assertLess(self.found(fine, use=use)[0].size, 1)
        # A line that was laid as a whisker, and 5 mm on both its sides.
        before = self.coat()
        lines = before.copy()
        lines[:, 180:420:20, 0] += 9
        there = replace(plan(before), before=lines)
        self.assertLess(self.found(fine, there)[0].size, 1)
        faint = before.copy()
        faint[:, 180:420:20, 0] += 5
        self.assertGreater(self.found(fine, replace(plan(before), before=faint))[0].size, 5)

    def test_a_fine_plan_is_read_at_four_pixels_a_millimetre(self):
        self.assertEqual(module.MOST_PX, 4)
        fine = patch(24.0, self.coat(0.1), self.coat())
        coarse, finer = (self.found(fine, replace(plan(self.coat()), px_per_mm=px))[0] for px in (PX, 2 * PX))
        self.assertEqual(coarse.part, finer.part)
        for one in (coarse, finer):
            self.assertLess(np.hypot(one.x - 300, one.y - 240), 24 * PX)


if __name__ == "__main__":
    unittest.main()
