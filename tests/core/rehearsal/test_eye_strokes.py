"""Where the strokes of an eye's steps lie: in the pupil, off it, between the lids, under the upper lid, opposite the light."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.eyes import LightPlan
from foxpath.core.rehearsal import eyes as strokes
from tests.core.eyes.test_eyes import plan_of
from tests.eyes import Made


def ways(plan, name, seed=1):
    """Return the lines of a step's batches, (N, 8, 2), and the batches."""
    batches = getattr(strokes, f"_{name}")(plan, plan.step(name), np.random.default_rng(seed))
    return np.concatenate([one.lines for one in batches]), batches


class Strokes(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.plan = plan_of(Made(r=40))
        cls.eye = cls.plan.eye

    def test_a_pupil_is_filled_to_its_border_and_not_beyond(self):
        for kind in ("round", "slit", "bar"):
            pupil = replace(self.eye.pupil, rx=20.0, ry=8.0, deg=30.0) if kind != "round" else self.eye.pupil
            plan = replace(self.plan, eye=replace(self.eye, pupil=pupil, pupil_kind=kind))
            *soft, fill, ring = strokes._pupil(plan, plan.step("rim"))
            self.assertEqual(len(soft), kind != "bar")
            for edge in soft:
                # Half dark, half as the iris, and hardly beyond the border.
                self.assertLess(edge.alpha, 0.5)
                self.assertLess(pupil.share_of(edge.lines).max(), 1.1)
            lines = np.concatenate([fill.lines, ring.lines])
            a, b = pupil.axes()
            off = lines - np.array(pupil.centre)
            along, across = off @ a / pupil.rx**2, off @ b / pupil.ry**2
            if kind == "bar":
                self.assertLessEqual(max(np.abs(along).max(), np.abs(across).max()), 1)
                # The corners of a bar are corners.
                self.assertGreater((np.abs(along) + np.abs(across)).max(), 1.7)
            else:
                self.assertLess(pupil.share_of(lines).max(), 1.02)
            for side in (along, across):
                self.assertLess(side.min(), -0.75)
                self.assertGreater(side.max(), 0.75)

    def test_what_is_laid_in_the_iris_keeps_off_the_pupil_and_inside(self):
        for name in ("ring", "texture"):
            lines, _ = ways(self.plan, name)
            self.assertGreater(len(lines), 20, name)
            self.assertGreater(self.eye.pupil.share_of(lines).min(), 1, name)
            self.assertLess(self.eye.iris.share_of(lines).max(), 1.02, name)

    def test_texture_runs_from_the_outer_ring_toward_the_pupil(self):
        lines, (dark, light) = ways(self.plan, "texture")
        share = self.eye.iris.share_of(lines)
        self.assertTrue((np.diff(share, axis=1) < 0).all())
        self.assertTrue((share[:, 0] > 0.6).all())
        self.assertLess(np.median(dark.lab[:, 0]), np.median(light.lab[:, 0]))
        # Fewer lights under the lid's shadow than below.
        y = light.lines[:, 3, 1] - self.eye.iris.cy
        by = 0.35 * self.eye.iris.radius
        self.assertLess((y < -by).sum(), 0.6 * (y > by).sum())

    def test_the_ring_of_light_lies_opposite_the_catchlight(self):
        _, batches = ways(self.plan, "ring")
        bright = batches[-1]
        out = bright.lines[:, 4] - np.array(self.eye.iris.centre)
        light = np.array(self.plan.lights.at) - self.eye.iris.centre
        facing = (out @ light) / np.hypot(*out.T) / np.hypot(*light)
        self.assertLess(facing.max(), 0.3)
        self.assertLess(np.corrcoef(facing, bright.lab[:, 0])[0, 1], -0.9)
        self.assertLess(np.corrcoef(facing, bright.alpha)[0, 1], -0.9)

    def test_the_shadow_lies_under_the_upper_lid_and_fades_downward(self):
        _, batches = ways(self.plan, "shadow")
        shade = batches[0]
        y = shade.lines[..., 1].mean(axis=1)
        self.assertLess(np.corrcoef(y, shade.alpha)[0, 1], -0.8)
        self.assertLess(y.max(), self.eye.iris.cy + 0.3 * self.eye.iris.radius)
        self.assertGreater(np.abs(shade.lines[..., 0] - self.eye.iris.cx).max(), 0.5 * self.eye.iris.radius)

    def test_a_light_that_is_kept_free_is_kept_free_by_every_step_but_its_own(self):
        radius = 0.5 * self.plan.lights.size_mm / self.plan.mm_per_px
        lines = strokes._arcs(self.plan, np.linspace(0.2, 0.95, 30), 6.0, np.random.default_rng(1))
        near = np.hypot(*(lines - self.plan.lights.at).transpose(2, 0, 1)).min(axis=1) <= radius
        self.assertTrue(near.any())
        for way, reserved in (("reserve", True), ("add", False)):
            plan = replace(self.plan, eye=replace(self.eye, light=LightPlan(way=way)))
            free = strokes._free(plan, lines)
            self.assertEqual(bool(free[near].any()), not reserved)
            np.testing.assert_array_equal(free[~near], strokes._free(self.plan, lines)[~near])
            self.assertTrue(strokes._free(plan, lines, keep_light=False)[near].any())

    def test_arcs_go_all_round_as_long_as_they_are_said(self):
        lines = strokes._arcs(self.plan, np.array([0.5]), 8.0, np.random.default_rng(1), every=0.5)
        round_px = np.pi * self.eye.iris.radius
        self.assertEqual(len(lines), round(round_px / 4))
        self.assertAlmostEqual(float(np.hypot(*np.diff(lines, axis=1).T).sum(axis=0).mean()), 8, delta=0.2)
        np.testing.assert_allclose(self.eye.iris.share_of(lines), 0.5, atol=1e-6)
        self.assertLess(np.abs(lines.mean(axis=(0, 1)) - self.eye.iris.centre).max(), 2)


if __name__ == "__main__":
    unittest.main()
