"""Faults that are put into a painted canvas are as large as they say, where they say, and nothing else is changed."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.progress.faults import FAULTS, at_another_hour, warped, with_faults
from foxpath.core.progress.small import blur
from tests.canvas import EYES, PX, RADIUS, painted, planned

PLAN = planned()
Y, X = np.mgrid[: PLAN.size[1], : PLAN.size[0]].astype(np.float32)


def made(name, seed, plan=PLAN):
    """Return the difference a fault makes to the plan's own painting, the painting, and the fault."""
    lab, fault = FAULTS[name](plan, plan.lab, np.random.default_rng(seed))
    return lab - plan.lab, lab, fault


def about(fault, radius_mm):
    return np.hypot(X - fault.at[0], Y - fault.at[1]) < radius_mm * PX


def part_of(fault):
    return PLAN.labels == [one.id for one in PLAN.parts].index(fault.part)


class Patches(unittest.TestCase):
    def test_a_patch_off_in_lightness_or_warmth(self):
        for name, channels, low, high in (
            ("value of a patch", (1.0, 0.0, 0.0), 8, 11),
            ("warmth", (0.0, 0.3, 1.0), 8, 12),
        ):
            signs = set()
            for seed in range(6):
                off, _, fault = made(name, seed)
                signs.add(np.sign(fault.size))
                self.assertTrue(low <= abs(fault.size) <= high and 14 <= fault.reach_mm <= 22)
                core = about(fault, fault.reach_mm - 2.6) & part_of(fault)
                np.testing.assert_allclose(
                    off[core], np.tile(np.array(channels) * fault.size, (core.sum(), 1)), atol=1e-4
                )
                self.assertEqual(float(np.abs(off[~(about(fault, fault.reach_mm + 2.6) & part_of(fault))]).max()), 0.0)
                # Half of it at the rim.
                rim = (about(fault, fault.reach_mm + 0.2) & ~about(fault, fault.reach_mm - 0.2)) & part_of(fault)
                self.assertAlmostEqual(
                    float(
                        off[rim] @ channels / np.dot(channels, channels) @ np.ones(rim.sum()) / rim.sum() / fault.size
                    ),
                    0.5,
                    delta=0.03,
                )
            self.assertEqual(signs, {-1.0, 1.0})

    def test_they_keep_away_from_eyes_and_have_room(self):
        for name, room in (("value of a patch", 10), ("bare", 7), ("smooth", 9), ("growth", 11), ("lights", 14)):
            for seed in range(8):
                _, _, fault = made(name, seed)
                for x, y in EYES:
                    self.assertGreater(np.hypot(fault.at[0] - x, fault.at[1] - y), 1.6 * RADIUS + room * PX - 3)
                inside = cv2.distanceTransform(part_of(fault).astype(np.uint8), cv2.DIST_L2, 3)
                self.assertGreater(inside[round(fault.at[1]), round(fault.at[0])], room * PX - 3)

    def test_a_whole_part_off(self):
        for seed in range(4):
            off, _, fault = made("value of a part", seed)
            self.assertTrue(6 <= abs(fault.size) <= 9)
            self.assertIn(fault.part, ("z2", "z3"))
            deep = cv2.distanceTransform(part_of(fault).astype(np.uint8), cv2.DIST_L2, 3) > 5 * PX
            np.testing.assert_allclose(off[deep][:, 0], fault.size, atol=0.02)
            self.assertEqual(float(np.abs(off[..., 1:]).max()), 0)
            rows, columns = np.nonzero(part_of(fault))
            np.testing.assert_allclose(fault.at, (columns.mean(), rows.mean()))
            self.assertAlmostEqual(fault.reach_mm, np.sqrt(len(rows)) / PX)

    def test_a_part_greyer_or_stronger(self):
        factors = set()
        for seed in range(8):
            _, lab, fault = made("strength", seed)
            factors.add(fault.size)
            deep = cv2.distanceTransform(part_of(fault).astype(np.uint8), cv2.DIST_L2, 3) > 5 * PX
            before, after = (np.hypot(one[deep][:, 1], one[deep][:, 2]) for one in (PLAN.lab, lab))
            self.assertAlmostEqual(float(np.median(after / before)), fault.size, delta=0.01)
            np.testing.assert_array_equal(lab[..., 0], PLAN.lab[..., 0])
        self.assertEqual(factors, {0.66, 1.35})

    def test_a_bare_patch_is_as_large_as_it_says_and_of_ground_or_canvas(self):
        colours = set()
        for seed in range(12):
            off, lab, fault = made("bare", seed)
            self.assertAlmostEqual(fault.size, np.pi * fault.reach_mm**2 / 100)
            changed = np.abs(off).sum(axis=2) > 1
            self.assertAlmostEqual(changed.sum() / PX**2 / 100, fault.size, delta=0.25 * fault.size)
            # Thinly in places, as a ground shows through: somewhere in it all of it shows.
            core = lab[about(fault, 0.8 * fault.reach_mm)]
            told = [
                float(np.linalg.norm(core - one, axis=1).min()) < 2 for one in (np.array([92.0, 0, 4]), PLAN.ground)
            ]
            self.assertEqual(sum(told), 1, fault)
            colours.add(told.index(True))
        self.assertEqual(colours, {0, 1})


class Eyes(unittest.TestCase):
    def test_what_is_moved_is_moved_as_far_and_what_lies_further_out_stays(self):
        grid = np.stack([X, Y, X], axis=2)
        lab = warped(grid, (300.0, 240.0), 30.0, np.eye(2, dtype=np.float32), (6.0, -4.0))
        near = np.hypot(X - 300, Y - 240) < 30 * 1.35
        np.testing.assert_allclose(lab[near][:, 0], X[near] - 6, atol=0.1)
        np.testing.assert_allclose(lab[near][:, 1], Y[near] + 4, atol=0.1)
        far = np.hypot(X - 300, Y - 240) > 30 * 2.32
        np.testing.assert_allclose(lab[far][:, 0], X[far], atol=0.1)

    def test_what_is_bent_grows_about_its_middle(self):
        grid = np.stack([X, Y, X], axis=2)
        lab = warped(grid, (300.0, 240.0), 30.0, np.diag([1.25, 0.8]).astype(np.float32), (0.0, 0.0))
        near = np.hypot(X - 300, Y - 240) < 30
        np.testing.assert_allclose(lab[near][:, 0], 300 + (X[near] - 300) / 1.25, atol=0.1)
        np.testing.assert_allclose(lab[near][:, 1], 240 + (Y[near] - 240) / 0.8, atol=0.1)

    def test_what_is_turned_turns_about_its_middle(self):
        grid = np.stack([X, Y, X], axis=2)
        c, s = np.cos(np.radians(20)), np.sin(np.radians(20))
        lab = warped(grid, (300.0, 240.0), 30.0, np.array([[c, -s], [s, c]], np.float32), (0.0, 0.0))
        near = np.hypot(X - 300, Y - 240) < 30
        dx, dy = X[near] - 300, Y[near] - 240
        np.testing.assert_allclose(lab[near][:, 0], 300 + c * dx + s * dy, atol=0.1)
        np.testing.assert_allclose(lab[near][:, 1], 240 - s * dx + c * dy, atol=0.1)

    def test_a_misplaced_eye(self):
        for seed in range(6):
            off, lab, fault = made("place", seed)
            self.assertTrue(2.2 <= fault.size <= 4 and fault.size <= 0.8 * RADIUS / PX)
            x, y = fault.at
            half = round(1.2 * RADIUS)
            cut = np.s_[round(y) - half : round(y) + half, round(x) - half : round(x) + half, 0]
            moved, _ = cv2.phaseCorrelate(PLAN.lab[cut].astype(np.float64), lab[cut].astype(np.float64))
            self.assertAlmostEqual(float(np.hypot(*moved)) / PX, fault.size, delta=0.6)
            self.assertEqual(float(np.abs(off[np.hypot(X - x, Y - y) > 2.4 * RADIUS]).max()), 0)

    def test_an_eye_too_oval(self):
        for seed in range(4):
            _, lab, fault = made("shape", seed)
            self.assertTrue(1.13 <= fault.size <= 1.22)
            x, y = (round(v) for v in fault.at)

            def oval(values, x=x, y=y):
                # The dark lids about the ball.
                across, down = values[y, x - 45 : x + 45, 0] < 25, values[y - 45 : y + 45, x, 0] < 25
                return np.ptp(np.flatnonzero(across)) / np.ptp(np.flatnonzero(down))

            self.assertAlmostEqual(oval(lab) / oval(PLAN.lab), fault.size, delta=0.06)

    def test_a_catchlight_at_another_hour(self):
        eye = PLAN.eyes[0]
        for hours in (3.0, -2.0):
            lab = at_another_hour(PLAN.lab, (eye.x, eye.y), eye.radius, eye.light, hours)
            there = np.hypot(X - eye.x, Y - eye.y) < 0.8 * RADIUS
            bright = there & (lab[..., 0] > 90)
            angle = np.degrees(np.arctan2(Y[bright].mean() - eye.y, X[bright].mean() - eye.x))
            was = np.degrees(np.arctan2(eye.light[1] - eye.y, eye.light[0] - eye.x))
            self.assertAlmostEqual((angle - was + 180) % 360 - 180, 30 * hours, delta=8)
            np.testing.assert_array_equal(
                lab[np.hypot(X - eye.x, Y - eye.y) > 1.2 * RADIUS],
                PLAN.lab[np.hypot(X - eye.x, Y - eye.y) > 1.2 * RADIUS],
            )
        signs = {np.sign(made("catchlight", seed)[2].size) for seed in range(8)}
        self.assertEqual(signs, {-1.0, 1.0})
        self.assertTrue(2 <= abs(made("catchlight", 1)[2].size) <= 4)


class Hair(unittest.TestCase):
    def test_a_stroke_jumps_out_lighter_in_the_dark_and_darker_in_the_light(self):
        for seed in range(8):
            off, _, fault = made("stroke", seed)
            self.assertTrue(20 <= abs(fault.size) <= 28 and 5 <= fault.reach_mm <= 8)
            self.assertAlmostEqual(
                float(off[..., 0][np.abs(off[..., 0]).argmax() // 600, np.abs(off[..., 0]).argmax() % 600]),
                fault.size,
                delta=2.0,
            )
            around = PLAN.lab[..., 0][about(fault, 8)].mean()
            if abs(around - 55) > 3:
                self.assertEqual(fault.size > 0, around < 55)
            rows, columns = np.nonzero(np.abs(off[..., 0]) > 0.5 * abs(fault.size))
            long = np.hypot(np.ptp(rows), np.ptp(columns)) / PX
            self.assertAlmostEqual(long, 2 * fault.reach_mm, delta=2.5)
            self.assertEqual(float(np.abs(off[..., 1:]).max()), 0)

    def test_smoothed_until_no_hair_is_seen(self):
        def fine(lab, where):
            return float((lab[..., 0] - blur(lab[..., 0], PX))[where].std())

        for seed in range(4):
            _, lab, fault = made("smooth", seed)
            core, beyond = about(fault, fault.reach_mm - 3) & part_of(fault), ~about(fault, fault.reach_mm + 2.1)
            self.assertLess(fine(lab, core), 0.25 * fine(PLAN.lab, core))
            np.testing.assert_allclose(lab[beyond], PLAN.lab[beyond], atol=1e-4)
            self.assertEqual(fault.size, fault.reach_mm)

    def test_hair_laid_in_another_direction(self):
        for seed in range(4):
            _, lab, fault = made("growth", seed)
            self.assertTrue(30 <= fault.size <= 60)
            core = about(fault, fault.reach_mm - 4) & part_of(fault)

            def axis(values, core=core):
                gx, gy = np.gradient(blur(values[..., 0], 0.8))[::-1]
                return np.degrees(0.5 * np.arctan2((2 * gx * gy)[core].sum(), (gx * gx - gy * gy)[core].sum()))

            turned = (axis(lab) - axis(PLAN.lab) + 90) % 180 - 90
            self.assertAlmostEqual(abs(turned), fault.size, delta=14)
            far = ~about(fault, fault.reach_mm + 2.1)
            np.testing.assert_allclose(lab[far], PLAN.lab[far], atol=1e-3)

    def test_too_many_lights(self):
        for seed in range(4):
            off, _, fault = made("lights", seed)
            where = about(fault, fault.reach_mm) & part_of(fault)
            self.assertGreaterEqual(float(off[..., 0].min()), 0)
            self.assertAlmostEqual(float(off[..., 0].max()), 15, delta=0.5)
            self.assertTrue(0.04 < (off[..., 0][where] > 7).mean() < 0.14)
            self.assertEqual(float(np.abs(off[~(about(fault, fault.reach_mm + 1) & part_of(fault))]).max()), 0)

    def test_forgotten_whiskers(self):
        plan = planned(whiskers=True)
        lab, fault = FAULTS["missing"](plan, plan.lab, np.random.default_rng(1))
        there = np.abs(plan.lab - plan.before).sum(axis=2) > 20
        self.assertLess(float(np.abs(lab - plan.before)[there].mean()), 1.0)
        away = cv2.dilate(there.astype(np.uint8), np.ones((25, 25), np.uint8)) == 0
        np.testing.assert_allclose(lab[away], plan.lab[away], atol=1e-3)
        self.assertIsNone(FAULTS["missing"](PLAN, PLAN.lab, np.random.default_rng(1)))
        self.assertEqual(fault.kind, "missing")


class Borders(unittest.TestCase):
    def steep(self, lab, fault):
        """The steepest step of light within a centimetre of a fault."""
        gx, gy = np.gradient(blur(lab[..., 0], 1.0))
        return float(np.percentile(np.hypot(gx, gy)[about(fault, 6)], 97))

    def test_a_crisp_border_is_lost_and_a_soft_one_cut(self):
        _, lab, fault = made("edge lost", 3)
        self.assertTrue(7 <= fault.size <= 10)
        self.assertLess(self.steep(lab, fault), 0.5 * self.steep(PLAN.lab, fault))
        far = ~about(fault, 40)
        np.testing.assert_allclose(lab[far], PLAN.lab[far], atol=1e-3)
        self.assertIsNone(FAULTS["edge hard"](PLAN, PLAN.lab, np.random.default_rng(3)))
        soft = replace(
            PLAN, edges=tuple(replace(one, width_mm=6.0) for one in PLAN.edges), lab=blur(PLAN.lab, 6 / 2.563 * PX)
        )
        self.assertIsNone(FAULTS["edge lost"](soft, soft.lab, np.random.default_rng(3)))
        lab, fault = FAULTS["edge hard"](soft, soft.lab, np.random.default_rng(3))
        self.assertGreater(self.steep(lab, fault), 2 * self.steep(soft.lab, fault))


class All(unittest.TestCase):
    def test_nothing_can_be_put_into_nothing(self):
        empty = replace(PLAN, parts=(), eyes=(), edges=())
        for name, make in FAULTS.items():
            self.assertIsNone(make(empty, empty.lab, np.random.default_rng(1)), name)

    def test_a_seed_is_the_same_faults_apart_from_each_other(self):
        rgb, put = with_faults(PLAN, painted(3), 7)
        again, same = with_faults(PLAN, painted(3), 7)
        np.testing.assert_array_equal(rgb, again)
        self.assertEqual(put, same)
        self.assertTrue(2 <= len(put) <= 5)
        self.assertNotEqual(put, with_faults(PLAN, painted(3), 8)[1])
        only = with_faults(PLAN, painted(3), 7, 1, ("bare",))[1]
        self.assertEqual([one.kind for one in only], ["bare"])
        self.assertEqual(with_faults(PLAN, painted(3), 7, 0)[1], ())


if __name__ == "__main__":
    unittest.main()
