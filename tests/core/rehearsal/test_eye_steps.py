"""What each step of an eye lays, by numbers: an eye of round figures over a picture whose every colour is known."""

import math
import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.eyes import EyeStep, LightPlan
from foxpath.core.eyes.eye import Ellipse, Eye
from foxpath.core.eyes.lights import Lights
from foxpath.core.eyes.values import EyeValues
from foxpath.core.rehearsal import eyes as strokes
from foxpath.core.rehearsal.eyes import EyePlan
from foxpath.core.rehearsal.marks import GROUND_LAB

MM = 0.25
"""Of the canvas for a pixel of the reference: the iris is 20 mm across."""
IRIS = Ellipse(100.0, 80.0, 40.0, 40.0)
WIDE = 60.0
"""From the middle to a corner of the lids, px."""
LANDS = np.linspace(-1, 1, 9)


def lid(tall):
    """Return the points of an almond's edge, so many pixels above the corners in the middle."""
    return tuple((100 + WIDE * t, 80 - tall * math.sqrt(1 - t * t)) for t in LANDS)


EYE = Eye(
    "e",
    "left",
    IRIS,
    Ellipse(100.0, 80.0, 16.0, 16.0),
    upper=lid(36.0),
    lower=lid(-34.0),
    lights=((114.0, 64.0), (92.0, 92.0)),
)
VALUES = EyeValues(
    np.zeros((72, 20, 3), np.float32), np.ones((72, 20), bool), np.array([46.0, 12.0, 30.0], np.float32),
    9.0, 14.0, 12.0, 0.4, 7.0, 5.0, 0.0, 0.0, 4.0, 30, 60.0,
)  # fmt: skip
SKY_LINE = np.array([[100 + 24 * math.sin(a), 80 - 24 * math.cos(a)] for a in np.linspace(-0.9, 0.9, 25)])
LIGHTS = Lights((114.0, 64.0), 1.5, 0.53, 3.0, True, SKY_LINE, 4.0, "")
WIDTHS = {
    "rim": 1.6, "base": 3.0, "shadow": 2.4, "ring": 1.8, "texture": 0.6, "soften": 3.2, "sky": 1.8, "catchlight": 3.0, "wet": 0.6,
    "lashes": 0.4,
}  # fmt: skip
BANDS = {
    "rim": (8.0, 12.0), "base": (40.0, 46.0), "shadow": (30.0, 34.0), "ring": (46.0, 56.0), "texture": (34.0, 58.0),
    "soften": (42.0, 50.0), "sky": (60.0, 70.0), "catchlight": (94.0, 97.0), "wet": (66.0, 84.0), "lashes": (8.0, 18.0),
}  # fmt: skip
ROLES = {"rim": "undercoat", "base": "undercoat", "shadow": "undercoat", "ring": "lights", "texture": "lights"}


def read(points):
    """Return a picture's colours: lighter to the right, redder downward, always as yellow."""
    at = np.asarray(points, np.float64).reshape(-1, 2)
    return np.stack([20 + 0.25 * at[:, 0], 0.1 * at[:, 1], np.full(len(at), 6.0)], axis=1).astype(np.float32)


def step(key):
    """Return a step with its figures."""
    return EyeStep(key, key, "", None, WIDTHS[key], *BANDS[key], "wet", ROLES.get(key, "highlights"), 1.0)


PLAN = EyePlan(EYE, VALUES, LIGHTS, tuple(step(key) for key in WIDTHS), (0.0, 0.0), MM, read)
BARE = replace(PLAN, eye=replace(EYE, upper=(), lower=()))
"""The same without lids."""


def laid(key, plan=PLAN, seed=3):
    """Return the batches of a step."""
    return getattr(strokes, f"_{key}")(plan, plan.step(key), np.random.default_rng(seed))


def length(lines):
    """Return how long each line is."""
    return np.hypot(*np.diff(lines, axis=-2).T).T.sum(axis=-1)


def away(points, lines):
    """Return how far each point lies from the nearest place of any line, both finely divided."""
    fine = np.concatenate([lines[:, :-1] + (lines[:, 1:] - lines[:, :-1]) * t for t in (0, 0.25, 0.5, 0.75)], axis=1)
    at = fine.reshape(-1, 2)
    return np.array([np.hypot(*(at - one).T).min() for one in points])


class Rim(unittest.TestCase):
    def test_dark_arcs_lie_on_the_irises_border_all_round_where_lids_leave_it(self):
        rim = laid("rim", BARE)[0]
        self.assertAlmostEqual(float(rim.half_mm), 0.8)
        np.testing.assert_allclose(rim.lab, (9.5, 2, 3))
        self.assertEqual(rim.alpha, 0.92)
        np.testing.assert_allclose(IRIS.share_of(rim.lines), 1, atol=1e-9)
        # As long as eight widths, or 0.6 of the radius where that is less; each begins within the one before.
        np.testing.assert_allclose(length(rim.lines), 24, rtol=0.01)
        self.assertEqual(len(rim.lines), round(80 * math.pi / (0.4 * 24)))
        thin = replace(BARE, steps=tuple(replace(one, width_mm=0.4) if one.key == "rim" else one for one in BARE.steps))
        np.testing.assert_allclose(length(laid("rim", thin)[0].lines), 8 * 0.4 / MM, rtol=0.01)
        self.assertLess(away(IRIS.outline(90), rim.lines).max(), 1.5)
        lidded = laid("rim")[0].lines
        self.assertLess(len(lidded), len(rim.lines))
        self.assertTrue(EYE.open_at(lidded[:, (1, 4, 6)]).all())

    def test_it_goes_on_along_both_lids_from_corner_to_corner_thicker_above(self):
        upper, lower = laid("rim")[1:3]
        for batch, name, share in ((upper, "upper", 1.5), (lower, "lower", 0.9)):
            self.assertAlmostEqual(float(batch.half_mm), 0.8 * share)
            np.testing.assert_allclose(batch.lab, (9.5, 2, 3))
            self.assertEqual(batch.alpha, 0.92)
            curve = EYE.lid_curve(name)
            self.assertLess(away(curve, batch.lines).max(), 1.5)
            self.assertLess(away(batch.lines.reshape(-1, 2), curve[None]).max(), 1)
            self.assertEqual(len(batch.lines), round(length(curve) / 12))
            # Each laps over the one before by some of its length.
            np.testing.assert_array_less(0, np.diff(batch.lines[:, 0, 0]))
            self.assertTrue((batch.lines[1:, 0, 0] < batch.lines[:-1, -1, 0]).all())
        one = strokes._lid_edges(PLAN, PLAN.step("rim"), ("upper",))
        self.assertEqual(len(one), 1)
        np.testing.assert_allclose(one[0].lines, upper.lines)
        self.assertEqual(strokes._lid_edges(BARE, PLAN.step("rim"), ("upper", "lower")), [])

    def test_a_pupil_is_darkest_and_its_edge_half_as_dark(self):
        soft, fill, ring = strokes._pupil(BARE, BARE.step("rim"))
        for part in (fill, ring):
            np.testing.assert_allclose(part.lab, (9, 1, 1.5))
            self.assertEqual(part.alpha, 0.97)
        np.testing.assert_allclose(soft.lab, ((9 + 46) / 2, (1 + 12) / 2, (1.5 + 30) / 2))
        self.assertEqual(soft.alpha, 0.4)
        self.assertAlmostEqual(float(soft.half_mm), 0.06 * 16 * MM)
        np.testing.assert_allclose(EYE.pupil.share_of(soft.lines), 1.06, atol=0.004)
        self.assertAlmostEqual(float(fill.half_mm), 0.8)
        self.assertAlmostEqual(float(ring.half_mm), 0.45 * 0.8)
        # Just inside: half its own width.
        np.testing.assert_allclose(EYE.pupil.share_of(ring.lines), 1 - 0.5 * 0.45 * 6.4 / 16, atol=0.01)
        for part in (soft, ring):
            turn = np.sort(np.arctan2(*(part.lines.reshape(-1, 2) - (100, 80)).T[::-1]))
            self.assertLess(np.diff(turn).max(), 0.12)
            self.assertEqual(len(part.lines), 11)
        # No row is farther from the next than 0.4 of the brush, and none is left bare.
        rows = np.sort(np.unique(np.round(fill.lines[:, :, 1], 6)))
        self.assertEqual(len(rows), math.ceil(32 / (0.4 * 6.4)))
        self.assertLess(np.diff(rows).max(), 0.4 * 6.4 + 1e-6)
        self.assertAlmostEqual(rows[-1] - 80, 16 - 0.5 * 6.4)
        inside = EYE.pupil.at(np.repeat(np.linspace(0, 6.2, 40), 5), np.tile([0.1, 0.4, 0.6, 0.8, 0.95], 40))
        bare = np.minimum(away(inside, fill.lines) - 3.2, away(inside, ring.lines) - 0.45 * 3.2)
        self.assertLess(bare.max(), 0.3)

    def test_a_slit_is_filled_along_its_length_with_a_brush_it_has_room_for(self):
        pupil = Ellipse(100, 80, 5.0, 24.0, 0.0)
        plan = replace(BARE, eye=replace(BARE.eye, pupil=pupil, pupil_kind="upright"))
        _, fill, ring = strokes._pupil(plan, plan.step("rim"))
        self.assertAlmostEqual(float(fill.half_mm), 0.7 * 5 / 2 * MM)
        self.assertTrue((np.abs(fill.lines[:, -1, 1] - fill.lines[:, 0, 1]) > 0).all())
        np.testing.assert_allclose(fill.lines[:, 0, 0], fill.lines[:, -1, 0])
        middle = fill.lines[np.abs(fill.lines[:, 0, 0] - 100).argmin()]
        self.assertAlmostEqual(float(np.abs(middle[:, 1] - 80).max()), 24 * (1 - 0.45 * 3.5 / 24), delta=0.3)
        self.assertLess(pupil.share_of(ring.lines).max(), 1)

    def test_a_bar_has_four_straight_sides_that_meet_at_its_corners(self):
        pupil = Ellipse(100, 80, 24.0, 9.0, 0.0)
        plan = replace(BARE, eye=replace(BARE.eye, pupil=pupil, pupil_kind="bar"))
        fill, ring = strokes._pupil(plan, plan.step("rim"))
        fine = 0.45 * 0.7 * 9
        x, y = 24 - 0.5 * fine, 9 - 0.5 * fine
        self.assertEqual(
            {(round(float(a), 6), round(float(b), 6)) for a, b in ring.lines[:, (0, -1)].reshape(-1, 2) - (100, 80)},
            {(round(a * x, 6), round(b * y, 6)) for a in (-1, 1) for b in (-1, 1)},
        )
        np.testing.assert_allclose(sorted(length(ring.lines)), (2 * y, 2 * y, 2 * x, 2 * x))
        np.testing.assert_allclose(np.abs(fill.lines[:, 0, 0] - 100), 24 * (1 - 0.45 * 0.7 * 9 / 24))


class Base(unittest.TestCase):
    def test_it_covers_iris_and_opening_and_leaves_nothing_bare(self):
        *made, _, _, _, _ = laid("base")
        x, y = np.meshgrid(np.arange(40, 161, 3.0), np.arange(44, 116, 3.0))
        open_ = np.stack([x.ravel(), y.ravel()], axis=1)
        open_ = open_[EYE.open_at(open_) & EYE.open_at(open_ + 2) & EYE.open_at(open_ - 2)]
        gap = np.min([away(open_, one.lines) - float(one.half_mm) / MM for one in made if len(one.lines)], axis=0)
        self.assertLess((gap > 0.5).mean(), 0.02)

    def test_broad_then_finer_in_the_iriss_own_colour_drawn_from_what_is_seen(self):
        *arcs, soft, fill, ring, edge = laid("base", BARE)
        self.assertEqual([round(float(one.half_mm), 4) for one in arcs], [1.5, 0.6, 0.3])
        for one in arcs:
            seen = read(one.lines[:, 4]) * 0.4 + VALUES.iris * 0.6
            np.testing.assert_allclose(one.lab[:, 0], np.clip(seen[:, 0], 40, 46), rtol=1e-5)
            np.testing.assert_allclose(one.lab[:, 1:], seen[:, 1:], rtol=1e-5)
            self.assertEqual(one.alpha, 0.9)
            share = IRIS.share_of(one.lines)
            self.assertLess(share.max(), 0.97)
            self.assertAlmostEqual(float(share.min()), 0.08)
        # No broader than a third of the iris; the pupil and the border are cut in again.
        small = replace(BARE, eye=replace(BARE.eye, iris=Ellipse(100, 80, 12, 12), pupil=Ellipse(100, 80, 5, 5)))
        self.assertAlmostEqual(float(laid("base", small)[0].half_mm), 0.35 * 12 * MM / 2)
        for one, other in zip((soft, fill, ring), strokes._pupil(BARE, BARE.step("rim")), strict=True):
            np.testing.assert_array_equal(one.lines, other.lines)
        np.testing.assert_allclose(IRIS.share_of(edge.lines), 1.01)
        np.testing.assert_allclose(edge.lab, (9.5, 2, 3))
        self.assertAlmostEqual(float(edge.half_mm), 0.3 * 1.6)
        np.testing.assert_allclose(length(edge.lines), 20, rtol=0.02)

    def test_what_lids_leave_beside_the_iris_has_the_colour_that_is_seen_there(self):
        beside = next(one for one in laid("base") if (IRIS.share_of(one.lines) > 1).all())
        gap = 0.7 * 2 * float(beside.half_mm) / MM
        self.assertTrue((IRIS.share_of(beside.lines) > 1).all())
        self.assertTrue(EYE.open_at(beside.lines[:, (1, 4, 6)]).all())
        np.testing.assert_allclose(beside.lab, read(beside.lines[:, 3]))
        self.assertIn(round(float(beside.half_mm), 4), (1.5, 0.6, 0.3))
        # Level, a little longer than two gaps.
        np.testing.assert_allclose(beside.lines[:, 0, 1], beside.lines[:, -1, 1])
        np.testing.assert_allclose(beside.lines[:, -1, 0] - beside.lines[:, 0, 0], 2.4 * gap, rtol=1e-6)
        for eye in (replace(EYE, upper=()), replace(EYE, lower=())):
            self.assertTrue((IRIS.share_of(laid("base", replace(PLAN, eye=eye))[0].lines) < 1).all())

    def test_shares_of_the_radius_are_a_brush_apart(self):
        made = strokes._annulus(PLAN, 2.0, 0.3, 0.92)
        apart = 0.6 * 8 / 40
        self.assertAlmostEqual(made[0], 0.92 - 0.4 * apart)
        self.assertAlmostEqual(made[-1], 0.3)
        self.assertEqual(len(made), math.ceil(0.62 / apart))
        self.assertEqual(len(strokes._annulus(PLAN, 50.0)), 2)
        self.assertAlmostEqual(strokes._annulus(PLAN, 2.0)[-1], 0.08)

    def test_off_the_pupil_by_half_the_brush(self):
        at = np.array([[[100 + 16 + d, 80.0]] * 8 for d in (1, 3.9, 4.1)])
        self.assertEqual(strokes._off_pupil(PLAN, at, 2.0).tolist(), [False, False, True])
        # A broad brush does not keep off for ever: twice the pupil at most.
        self.assertTrue(strokes._off_pupil(PLAN, np.array([[[100 + 33.0, 80.0]] * 8]), 40.0)[0])


class Shadow(unittest.TestCase):
    def test_it_follows_the_lid_down_to_its_share_of_the_iris(self):
        shade, edge = laid("shadow")
        np.testing.assert_allclose(shade.lab, (32, 14, 34))
        self.assertAlmostEqual(float(shade.half_mm), 0.4 * 2.4)
        top = shade.lines[shade.alpha == shade.alpha.max()]
        line = EYE.lid_curve("upper")
        order = np.argsort(line[:, 0])
        on = np.interp(top[..., 0], line[order, 0], line[order, 1])
        self.assertLess(np.abs((top[..., 1] - on).mean(axis=1)).max(), 3)
        # 0.4 of the iris's height below its top.
        clear = replace(PLAN, eye=replace(EYE, pupil=Ellipse(100.0, 100.0, 3.0, 3.0)))
        middle = laid("shadow", clear)[0].lines
        middle = middle[np.abs(middle[:, 3, 0] - 100) < 12]
        self.assertLess(np.abs(middle[..., 1].max() - (80 - 40 + 80 * 0.4)), 3)
        rows = max(4, math.ceil((80 - 40 + 32 - 44) / (0.3 * 9.6)))
        self.assertEqual(len(np.unique(np.round(shade.alpha, 6))), rows)
        self.assertAlmostEqual(float(shade.alpha.min()), 0.62 * (1 - 0.8 * (rows - 1) / rows))
        self.assertAlmostEqual(float(shade.alpha.max()), 0.62)
        np.testing.assert_allclose(edge.lines, laid("rim")[1].lines)

    def test_how_deep_it_is_where_that_was_not_measured_or_lies_beyond_what_is_usual(self):
        deepest = []
        for share in (math.nan, 0.33, 0.05, 0.9, 0.5, 0.12, 0.2):
            shade = laid("shadow", replace(PLAN, values=replace(VALUES, shadow_share=share)))[0]
            deepest.append(round(float(shade.lines[..., 1].max()), 6))
        self.assertEqual(deepest[0], deepest[1])
        self.assertEqual(deepest[2], deepest[1])
        self.assertEqual(deepest[3], deepest[4])
        self.assertEqual(deepest[5], deepest[6])
        self.assertLess(deepest[6], deepest[1])
        self.assertLess(deepest[1], deepest[4])

    def test_without_a_lid_it_follows_the_iriss_upper_edge(self):
        (shade,) = laid("shadow", BARE)
        top = shade.lines[shade.alpha == shade.alpha.max()].reshape(-1, 2)
        # The strokes that keep inside hug the upper half of the circle.
        self.assertLess((IRIS.share_of(top) - 0.93).max(), 0.07)
        self.assertLess(np.abs(IRIS.share_of(top) - 0.97).mean(), 0.05)
        self.assertLess(top[:, 1].max(), 82)
        self.assertTrue(strokes._off_pupil(BARE, shade.lines, 0.2 * 2.4).all())


class Lit(unittest.TestCase):
    def test_the_ring_is_lightest_straight_opposite_the_light(self):
        (ring,) = laid("ring", BARE)
        middle = ring.lines[:, 4] - IRIS.centre
        # At half past one the light stands; half past seven is opposite.
        turn = np.arctan2(middle[:, 1], middle[:, 0]) - math.radians(30 * 7.5 - 90)
        facing = np.cos(turn)
        self.assertGreater(facing.min(), -0.25)
        np.testing.assert_allclose(ring.lab[:, 0], 46 + 10 * np.clip(facing, 0, 1), atol=1e-6)
        np.testing.assert_allclose(ring.alpha, 0.25 + 0.4 * np.clip(facing, 0, 1), atol=1e-6)
        seen = 1.08 * (0.5 * read(ring.lines[:, 4])[:, 1:] + 0.5 * VALUES.iris[1:])
        np.testing.assert_allclose(ring.lab[:, 1:], seen, rtol=1e-5)
        self.assertEqual(sorted({round(float(one), 2) for one in IRIS.share_of(ring.lines)[:, 0]}), [0.64, 0.74, 0.82])
        np.testing.assert_allclose(length(ring.lines), 14, rtol=0.02)
        self.assertAlmostEqual(float(ring.half_mm), 0.9)

    def test_a_darker_outer_ring_is_glazed_round_first(self):
        for ring, count in ((-2.1, 2), (-2.0, 1), (math.nan, 1), (5.0, 1)):
            made = laid("ring", replace(BARE, values=replace(VALUES, ring=ring)))
            self.assertEqual(len(made), count)
        outer = laid("ring", replace(BARE, values=replace(VALUES, ring=-6.0)))[0]
        self.assertEqual(sorted({round(float(one), 2) for one in IRIS.share_of(outer.lines)[:, 0]}), [0.85, 0.91, 0.97])
        np.testing.assert_allclose(outer.lab, read(outer.lines[:, 3]))
        self.assertEqual((float(outer.half_mm), outer.alpha), (0.4 * 1.8, 0.5))
        np.testing.assert_allclose(length(outer.lines), 12, rtol=0.02)

    def test_texture_darks_first_within_their_band_and_as_many_as_have_room(self):
        dark, light = laid("texture", BARE)
        count = int(2 * math.pi * 0.75 * 40 * MM / (1.25 * 0.6))
        self.assertLessEqual(len(dark.lines), count)
        self.assertGreater(len(dark.lines), 0.7 * count)
        for batch, low, high in ((dark, -0.65, -0.65 * 0.4), (light, 0.55 * 0.4, 0.55)):
            seen = read(batch.lines[:, 3])
            np.testing.assert_allclose(batch.lab[:, 1:], 0.7 * seen[:, 1:] + 0.3 * VALUES.iris[1:], rtol=1e-5)
            by = batch.lab[:, 0] - seen[:, 0]
            free = (batch.lab[:, 0] > 34) & (batch.lab[:, 0] < 58)
            self.assertGreater(free.sum(), 20)
            self.assertGreaterEqual(by[free].min(), low * 12 - 1e-5)
            self.assertLessEqual(by[free].max(), high * 12 + 1e-5)
            self.assertGreater(np.ptp(by[free]), 0.8 * (high - low) * 12)
            self.assertTrue(((batch.half_mm >= 0.7 * 0.3) & (batch.half_mm <= 1.25 * 0.3)).all())
            self.assertGreater(np.ptp(batch.half_mm), 0.4 * 0.3)
            self.assertEqual((batch.alpha, batch.hair), (0.7, True))
            share = IRIS.share_of(batch.lines)
            self.assertTrue(((share[:, 0] > 0.66) & (share[:, 0] < 0.96)).all())
            # Inward to near the pupil, 0.4 of the iris: none stops beyond the middle of its way.
            self.assertLess(((share[:, -1] - 0.46) / (share[:, 0] - 0.46)).max(), 0.48)
            self.assertGreater(share[:, -1].min(), 0.44)
            # Bent, but hardly: a stroke keeps to its ray.
            turn = np.unwrap(np.arctan2(batch.lines[..., 1] - 80, batch.lines[..., 0] - 100), axis=1)
            self.assertLess(np.median(np.abs(turn[:, -1] - turn[:, 0])), 0.07)
        above = light.lines[:, 3, 1] < 80 - 0.35 * 40
        self.assertLess(above.mean(), 0.2)

    def test_texture_of_a_fine_and_of_a_coarse_brush(self):
        counts = []
        for width in (0.02, 9.0):
            steps = tuple(replace(one, width_mm=width) if one.key == "texture" else one for one in BARE.steps)
            counts.append(len(laid("texture", replace(BARE, steps=steps))[0].lines))
        self.assertGreater(counts[0], 230)
        self.assertLessEqual(counts[0], 260)
        self.assertLessEqual(counts[1], 24)

    def test_softening_is_thin_broad_and_the_colour_of_what_lies_there(self):
        (soft,) = laid("soften", BARE)
        self.assertAlmostEqual(float(soft.half_mm), 0.3 * 10 / 2)
        self.assertEqual(soft.alpha, 0.16)
        np.testing.assert_allclose(soft.lab, read(soft.lines[:, 3]))
        self.assertEqual(sorted({round(float(one), 2) for one in IRIS.share_of(soft.lines)[:, 0]}), [0.6, 0.8, 0.95])
        np.testing.assert_allclose(length(soft.lines), 20, rtol=0.02)


class Reflected(unittest.TestCase):
    def test_the_sky_lies_along_its_line_in_its_own_colour_and_runs_out_at_both_ends(self):
        (sky,) = laid("sky", BARE)
        np.testing.assert_allclose(sky.lab, (65, -2, -10))
        self.assertAlmostEqual(float(sky.half_mm), 0.9)
        out = np.hypot(*(sky.lines - IRIS.centre).transpose(2, 0, 1)) - 24
        # Five rows over a band of 4 mm, 16 px; where lashes break it, the outer ones are fewer.
        rows = np.round(out.mean(axis=1) / 4).astype(int)
        self.assertEqual(sorted(set(rows.tolist())), [-2, -1, 0, 1, 2])
        counts = np.bincount(rows + 2)
        self.assertEqual(counts[:3].tolist(), [10, 10, 10])
        self.assertTrue((counts[3:] < 9).all())
        turn = np.arctan2(sky.lines[:, 3, 0] - 100, 80 - sky.lines[:, 3, 1])
        ends, middle = np.abs(turn) > 0.6, np.abs(turn) < 0.1
        self.assertLess(sky.alpha[ends].max(), 0.6 * sky.alpha[middle].min())
        self.assertAlmostEqual(float(sky.alpha.max()), 0.34, delta=0.01)
        np.testing.assert_allclose(
            sky.alpha, 0.34 * np.sin(np.pi * np.clip((turn / 0.9 + 1) / 2, 0.12, 0.88)), atol=0.02
        )
        own = replace(BARE, sky=np.array([80.0, 1.0, -4.0], np.float32))
        np.testing.assert_allclose(laid("sky", own)[0].lab, (65, 1, -4))
        wide = replace(BARE, lights=replace(LIGHTS, sky_wide_mm=6.0))
        self.assertAlmostEqual(float(laid("sky", wide)[0].half_mm), 6 * 0.22)

    def test_a_catchlight_is_one_round_touch_and_the_second_half_as_wide(self):
        first, second = laid("catchlight")
        for batch, at, radius, alpha in ((first, (114, 64), 6.0, 0.97), (second, (92, 92), 3.0, 0.85)):
            np.testing.assert_allclose(batch.lab, (96, -0.5, -0.5))
            self.assertEqual(batch.alpha, alpha)
            self.assertAlmostEqual(float(batch.half_mm), 0.62 * radius * MM)
            off = batch.lines - np.array(at)
            np.testing.assert_allclose(off[:, 0], -off[:, -1], atol=1e-9)
            np.testing.assert_allclose(np.hypot(*off[:, 0].T), 0.92 * radius)
            turn = np.sort(np.degrees(np.arctan2(off[:, -1, 1], off[:, -1, 0])) % 180)
            np.testing.assert_allclose(np.diff(turn), 30)
        lone = replace(PLAN, eye=replace(EYE, lights=EYE.lights[:1]))
        self.assertEqual(len(laid("catchlight", lone)), 1)

    def test_the_wet_line_lies_inside_the_lower_lid_lightest_toward_the_light(self):
        (wet,) = laid("wet")
        self.assertAlmostEqual(float(wet.half_mm), 0.3)
        curve = EYE.lid_curve("lower")
        gap = away(wet.lines.reshape(-1, 2), curve[None])
        np.testing.assert_allclose(gap, 0.6 * 0.6 / MM, atol=0.35)
        self.assertTrue(EYE.open_at(wet.lines.reshape(-1, 2)).all())
        # The light stands to the right.
        side = (wet.lines[:, 3, 0] - 100) * math.cos(math.radians(30 * 1.5 - 90)) / 40
        np.testing.assert_allclose(wet.lab[:, 0], np.clip(66 + 18 * (0.5 + 0.5 * side), 66, 84), rtol=1e-5)
        np.testing.assert_allclose(wet.lab[:, 1:], 0.5 * read(wet.lines[:, 3])[:, 1:], rtol=1e-5)
        near = np.clip(1.7 - np.hypot(*(wet.lines[:, 3] - IRIS.centre).T) / 40, 0.15, 1)
        np.testing.assert_allclose(wet.alpha, near * np.clip(0.6 + 0.25 * side, 0.35, 0.9), rtol=1e-5)
        # It is broken: some of its pieces are missing now and then.
        counts = [len(laid("wet", seed=seed)[0].lines) for seed in range(12)]
        self.assertLessEqual(max(counts), 8)
        self.assertLess(min(counts), max(counts))
        self.assertEqual(laid("wet", BARE), [])

    def test_a_ring_of_skin_is_as_seen_outside_and_darker_at_its_inner_edge(self):
        outer, inner = strokes._skin_ring(PLAN, PLAN.step("rim"), np.random.default_rng(1))
        opening = EYE.opening()
        for batch, share, pull in ((outer, 0.75, 1.0), (inner, 0.2, 0.55)):
            self.assertAlmostEqual(float(batch.half_mm), 0.3 * 1.6)
            self.assertEqual(batch.alpha, 0.85)
            seen = read(batch.lines[:, 3])
            np.testing.assert_allclose(batch.lab[:, 0], pull * seen[:, 0], rtol=1e-5)
            np.testing.assert_allclose(batch.lab[:, 1:], seen[:, 1:], rtol=1e-5)
            middle = opening.mean(axis=0)
            out = np.hypot(*(batch.lines - middle).transpose(2, 0, 1)).mean()
            self.assertAlmostEqual(float(out - np.hypot(*(opening - middle).T).mean()), share * 6.4, delta=3.5)
            self.assertEqual(len(batch.lines), 23)
        self.assertGreater(
            np.hypot(*(outer.lines.reshape(-1, 2) - middle).T).mean(),
            np.hypot(*(inner.lines.reshape(-1, 2) - middle).T).mean(),
        )

    def test_lashes_are_rooted_outside_the_lid_hang_over_it_and_curl_outward(self):
        (hairs,) = laid("lashes")
        self.assertEqual((hairs.hair, hairs.alpha, float(hairs.half_mm)), (True, 0.75, 0.2))
        self.assertEqual(len(hairs.lines), int(2 * 40 * MM / (6 * 0.4)))
        root, tip = hairs.lines[:, 0], hairs.lines[:, -1]
        self.assertFalse(EYE.open_at(root).any())
        curve = EYE.lid_curve("upper")
        np.testing.assert_allclose(away(root, curve[None]), 0.14 * 40, atol=1.2)
        # The root is farther out than where the hair hangs lowest.
        low = hairs.lines[:, 5]
        beneath = np.array((100.0, 80 + 0.3 * 40))
        self.assertTrue((np.hypot(*(root - beneath).T) > np.hypot(*(low - beneath).T) + 3).all())
        reach = np.hypot(*(root - beneath).T) - np.hypot(*(hairs.lines[:, 5] - beneath).T)
        self.assertTrue(((reach > 0.32 * 40 * 0.6 * 0.8) & (reach < 0.32 * 40 * 1.2 * 1.1)).all())
        straight = root + (low - root) * 1.02
        side = np.sign(root[:, 0] - 100)
        clear = np.abs(root[:, 0] - 100) > 10
        self.assertTrue((((tip - straight)[:, 0] * side)[clear] > 0).all())
        seen = read(root + (root - beneath) / np.hypot(*(root - beneath).T)[:, None] * 0.16 * 40)
        np.testing.assert_allclose(hairs.lab[:, 0], np.clip(0.6 * seen[:, 0], 8, 26), atol=1.5)
        # From one side of the lid to the other, off its corners.
        self.assertLess(root[:, 0].min(), 80)
        self.assertGreater(root[:, 0].max(), 120)
        few = laid("lashes", replace(PLAN, mm_per_px=0.02))[0]
        many = laid("lashes", replace(PLAN, mm_per_px=3.0))[0]
        self.assertEqual((len(few.lines), len(many.lines)), (5, 22))

    def test_without_a_lid_lashes_stand_on_the_upper_rim(self):
        (hairs,) = laid("lashes", BARE)
        root = hairs.lines[:, 0]
        self.assertTrue((root[:, 1] < 80).all())
        np.testing.assert_allclose(IRIS.share_of(root), 1.02 + 0.14, atol=0.02)


class AsMarks(unittest.TestCase):
    def test_millimetres_from_the_canvas_corner_within_the_band(self):
        line = np.stack([np.linspace(20, 60, 8), np.full(8, 30.0)], axis=1)
        batch = strokes._Batch(np.stack([line, line + 10]), np.array(0.7), np.array([[50.0, 10, 20], [99, 0, 0]]), 0.5)
        made = strokes._as_marks(replace(PLAN, origin=(20.0, 10.0)), batch, 90.0, 60.0)
        np.testing.assert_allclose(made.lines_mm[0, (0, -1)], ((0, 5), (10, 5)), atol=1e-6)
        np.testing.assert_allclose(made.lines_mm[1, 0], (2.5, 7.5), atol=1e-6)
        np.testing.assert_allclose(made.length_mm, (10, 10), rtol=1e-6)
        np.testing.assert_allclose(made.half_mm, (0.7, 0.7))
        np.testing.assert_allclose(made.alpha, (0.5, 0.5))
        np.testing.assert_allclose(made.lightness, (60, 90))
        colour = rgb_from_linear(linear_from_lab(np.array([[60.0, 10, 20], [90, 0, 0]], np.float32)))
        np.testing.assert_allclose(made.colour, colour, atol=1e-6)
        self.assertFalse(made.hair)
        self.assertTrue(strokes._as_marks(PLAN, replace_hair(batch), 90.0, 60.0).hair)

    def test_steps_that_are_left_out_lay_nothing_and_each_has_its_own_chance(self):
        out = replace(PLAN.step("texture"), left_out="too small")
        self.assertEqual(strokes.step_marks(PLAN, out), [])
        made = strokes.step_marks(PLAN, PLAN.step("texture"))
        again = strokes.step_marks(PLAN, PLAN.step("texture"))
        other = strokes.step_marks(replace(PLAN, seed=2), PLAN.step("texture"))
        np.testing.assert_array_equal(made[0].lines_mm, again[0].lines_mm)
        self.assertNotEqual(made[0].lines_mm.tolist(), other[0].lines_mm.tolist())
        # No empty marks: where the light is kept free and so large that nothing else has room, nothing is laid.
        full = replace(PLAN, eye=replace(EYE, light=LightPlan(way="reserve")), lights=replace(LIGHTS, size_mm=80.0))
        self.assertEqual(strokes.step_marks(full, PLAN.step("ring")), [])

    def test_a_bird_has_a_ring_of_skin_where_others_have_lashes(self):
        hairs = strokes.step_marks(PLAN, PLAN.step("lashes"))
        skin = strokes.step_marks(replace(PLAN, ringed=True), PLAN.step("lashes"))
        self.assertEqual(([one.hair for one in hairs], [one.hair for one in skin]), ([True], [False, False]))

    def test_what_each_pass_paints_of_an_eye(self):
        def total(role):
            return sum(len(one.lines_mm) for one in strokes.eye_marks(PLAN, role, (0.0, 100.0)))

        def of(*keys):
            return sum(len(one.lines_mm) for key in keys for one in strokes.step_marks(PLAN, PLAN.step(key)))

        self.assertEqual(total("undercoat"), of("rim", "base", "shadow"))
        self.assertEqual(total("highlights"), of("soften", "sky", "catchlight", "wet", "lashes"))
        lashed = replace(
            PLAN, steps=tuple(replace(one, role="lashes") if one.key == "lashes" else one for one in PLAN.steps)
        )
        marks = strokes.eye_marks(lashed, "lights", (0.0, 100.0))
        self.assertEqual(sum(len(one.lines_mm) for one in marks), of("ring", "texture", "lashes"))
        self.assertEqual(total("background"), 0)
        restated = strokes.eye_marks(PLAN, "restated", (20.0, 60.0))
        self.assertEqual(
            [len(one.lines_mm) for one in restated], [len(b.lines) for b in strokes._pupil(PLAN, PLAN.step("rim"))]
        )
        self.assertTrue(all((one.lightness >= 20).all() and (one.lightness <= 60).all() for one in restated))
        low = strokes.eye_marks(PLAN, "undercoat", (30.0, 38.0))
        self.assertTrue(all((one.lightness >= 30).all() and (one.lightness <= 38).all() for one in low))


def replace_hair(batch):
    """Return a batch of hairs."""
    return strokes._Batch(batch.lines, batch.half_mm, batch.lab, batch.alpha, hair=True)


class SkySeen(unittest.TestCase):
    def reader(self, lightness=60.0, blue=-8.0, within=lambda x, y: (y < 62) & (np.abs(x - 100) < 22)):
        """Return a reader of a warm iris round a dark pupil, with a patch of sky above."""

        def look(points):
            at = np.asarray(points, np.float64).reshape(-1, 2)
            made = np.tile(np.array([46.0, 12.0, 30.0], np.float32), (len(at), 1))
            made[np.hypot(*(at - IRIS.centre).T) < 16] = (9, 1, 2)
            there = within(at[:, 0], at[:, 1])
            made[there] = (lightness, -2.0, blue)
            return made

        return look

    def seen(self, look, eye=None):
        """Return what is seen of the sky in an eye without glints."""
        return strokes.sky_seen(eye or replace(BARE.eye, lights=()), LIGHTS, VALUES.iris, look)

    def test_a_cool_patch_above_is_the_sky_in_its_own_colour(self):
        np.testing.assert_allclose(self.seen(self.reader()), (60, -2, -8))

    def test_what_is_none(self):
        self.assertIsNone(self.seen(self.reader(blue=25.0)), "hardly bluer than the iris")
        self.assertIsNotNone(self.seen(self.reader(blue=17.0)))
        self.assertIsNone(self.seen(self.reader(lightness=18.0)), "no lighter than the pupil")
        self.assertIsNotNone(self.seen(self.reader(lightness=20.0)))
        self.assertIsNone(self.seen(self.reader(lightness=90.0)), "a glint")
        self.assertIsNone(self.seen(self.reader(within=lambda x, y: (y < 54) & (np.abs(x - 100) < 8))), "too little")
        self.assertIsNone(self.seen(self.reader(within=lambda x, y: y > 86)), "below")
        self.assertIsNone(self.seen(self.reader(within=lambda x, y: np.hypot(x - 100, y - 80) > 33)), "at the rim")
        lidded = replace(EYE, lights=(), upper=lid(-20.0), lower=lid(-34.0))
        self.assertIsNone(self.seen(self.reader(), lidded), "under the lid")

    def test_round_a_glint_nothing_counts(self):
        small = self.reader(within=lambda x, y: np.hypot(x - 100, y - 60) < 10)
        self.assertIsNotNone(self.seen(small))
        self.assertIsNone(self.seen(small, replace(BARE.eye, lights=((100.0, 60.0),))))
        self.assertIsNotNone(self.seen(small, replace(BARE.eye, lights=((100.0, 90.0),))))


class Picture(unittest.TestCase):
    def test_room_holds_the_iris_and_what_the_lids_leave_open(self):
        x, y, wide, tall = strokes.eye_room(EYE)
        self.assertEqual((x, wide, tall), (100 - 76, 152, 1.5 * 76))
        # The lids open from 44 to 114: their middle is the picture's.
        self.assertAlmostEqual(y + tall / 2, (44 + 114) / 2, delta=0.3)
        broad = replace(EYE, upper=tuple((100 + 2 * (a - 100), b) for a, b in EYE.upper))
        x, _, wide, _ = strokes.eye_room(broad)
        self.assertAlmostEqual(wide / 2, 1.06 * 120, delta=0.5)
        self.assertAlmostEqual(x, 100 - wide / 2)
        tall_one = replace(EYE, upper=lid(160.0), lower=lid(-20.0))
        _, y, _, tall = strokes.eye_room(tall_one)
        self.assertAlmostEqual(tall, 1.1 * 180, delta=1.5)
        self.assertAlmostEqual(y + tall / 2, max((100 - 80) / 2, 80 - 0.4 * tall), delta=1.5)
        hung = replace(EYE, upper=lid(10.0), lower=lid(-300.0))
        _, y, _, tall = strokes.eye_room(hung)
        self.assertAlmostEqual(y + tall / 2, 80 + 0.4 * tall, delta=1)

    def test_step_by_step_on_the_toned_ground(self):
        left_out = tuple(replace(one, left_out="none") if one.key == "base" else one for one in PLAN.steps)
        shown = strokes.step_pictures(replace(PLAN, steps=left_out), 4.0)
        self.assertEqual(len(shown), 10)
        self.assertEqual(shown[0].shape, (114, 152, 3))
        ground = rgb_from_linear(linear_from_lab(np.array(GROUND_LAB, np.float32)[None]))[0] * 255
        np.testing.assert_allclose(shown[0][2, 2], ground, atol=1)
        np.testing.assert_array_equal(shown[1], shown[0])
        self.assertTrue((shown[2] != shown[1]).any())
        # The pupil is dark in the middle of the picture, and the catchlight light up and to the right of it.
        middle = 114 / 2 + (80 - 79)
        self.assertLess(shown[0][round(middle), 76].max(), 60)
        at = shown[7][round(middle - 16), 76 + 14]
        self.assertGreater(at.min(), 215)
        self.assertLess(shown[6][round(middle - 16), 76 + 14].max(), 200)
        tiny = strokes.step_pictures(replace(PLAN, steps=left_out[:1]), 0.01)
        self.assertEqual(tiny[0].shape, (8, 8, 3))

    def test_a_reader_tells_the_colour_of_a_place_of_the_reference(self):
        rgb = np.zeros((40, 60, 3), np.uint8)
        rgb[:, :30] = (200, 40, 30)
        rgb[:, 30:] = (20, 60, 200)
        look = strokes.reader(rgb, 0.5)
        red, blue = look(np.array([[10.0, 40.0]]))[0], look(np.array([[100.0, 40.0]]))[0]
        self.assertGreater(red[1], 50)
        self.assertLess(blue[2], -50)
        # Half way over the border, and beyond the picture what is nearest.
        between = look(np.array([[60.0, 40.0]]))[0]
        self.assertTrue(min(red[2], blue[2]) < between[2] < max(red[2], blue[2]))
        np.testing.assert_allclose(look(np.array([[-50.0, -50.0], [500.0, 500.0]])), [red, blue], atol=0.5)
        self.assertEqual(look(np.zeros((0, 2))).shape, (0, 3))
        many = look(np.tile([[10.0, 40.0], [100.0, 40.0]], (35000, 1)))
        self.assertEqual(len(many), 70000)
        np.testing.assert_allclose(many[::2], np.tile(red, (35000, 1)), atol=1e-4)
        np.testing.assert_allclose(many[1::2], np.tile(blue, (35000, 1)), atol=1e-4)


if __name__ == "__main__":
    unittest.main()
