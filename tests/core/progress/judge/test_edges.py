"""Borders between two even colours: how wide each is is known, and so is what becomes of it."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.progress.judge import edges as module
from foxpath.core.progress.judge.edges import (
    BESIDE_MM,
    FLOOR_MM,
    HANDS,
    LEAST_STEP,
    STRETCH_MM,
    TOLD_AT,
    USUAL_LOG,
    Stretch,
    _camera_mm,
    _line,
    _path,
    edges,
    stretches,
)
from foxpath.core.progress.planned import PlannedEdge, PlannedPart
from foxpath.core.progress.sight import spot_seen_m
from tests.canvas import HEIGHT, PX, WIDTH, planned
from tests.flat import seen

AT = 300
"""The border stands here, px from the left: the back lies on its left, the front on its right."""
BACK, FRONT = (60.0, 0.0, 6.0), (30.0, 0.0, 6.0)
LINE = np.array([[AT, 24.0], [AT, HEIGHT - 24.0]])
PARTS = (PlannedPart("z1", "Behind", "background"), PlannedPart("z2", "Before", "long-fur", "", 12.0, True))


def ramp(width_mm, back=BACK, front=FRONT, at=AT):
    """The canvas with a border that goes evenly from one colour to the other over so many mm."""
    x = (np.arange(WIDTH) + 0.5 - at) / PX
    share = np.clip(x / width_mm + 0.5, 0, 1)[None, :, None]
    return np.repeat(np.array(back) * (1 - share) + np.array(front) * share, HEIGHT, axis=0).astype(np.float32)


def plan(one=2.0, other=None, line=LINE, **changes):
    labels = np.zeros((HEIGHT, WIDTH), np.int16)
    labels[:, AT:] = 1
    made = {"labels": labels, "parts": PARTS, "edges": (PlannedEdge(1, 0, 0.6, (line,)),), **changes}
    return replace(planned(), lab=ramp(one), other_lab=ramp(one if other is None else other), eyes=(), **made)


def stretch(width=(2.0, 2.0, 2.0), step=(30.0, 30.0, 30.0), outline=(0.0, 0.0, 0.0), at=(300.0, 200.0)):
    return Stretch(1, 0, at, width, step, outline)


class Stretches(unittest.TestCase):
    def test_widths_of_plan_other_hand_and_canvas_are_read(self):
        # A border as narrow as the reading itself (1.2 mm) comes out wider; so does the blur over what is finer than the band.
        for width, told in ((6.0, 6.12), (4.0, 4.1)):
            for one in stretches(plan(width, 2.5), seen(ramp(3.0), plan())):
                np.testing.assert_allclose(one.width, (told, 2.6, 3.08), rtol=0.04)
                np.testing.assert_allclose(one.step, (30, 30, 30), atol=0.1)
                self.assertEqual((one.front, one.back), (1, 0))
        hard = stretches(plan(0.1), seen(ramp(0.1), plan()))[0].width[0]
        self.assertGreater(hard, 1.1)
        self.assertLess(hard, 1.6)

    def test_it_is_no_matter_which_way_the_line_was_drawn(self):
        there, back = (stretches(plan(line=line), seen(ramp(4.0), plan())) for line in (LINE, LINE[::-1]))
        self.assertEqual(len(there), len(back))
        for one, other in zip(there, back[::-1], strict=True):
            np.testing.assert_allclose(one.width, other.width, rtol=0.01)
            np.testing.assert_allclose(one.step, other.step, rtol=0.01)

    def test_a_slanting_border_is_read_as_an_upright_one(self):
        y, x = np.mgrid[:HEIGHT, :WIDTH] + 0.5
        for turn in (0.5, -0.9, 2.4):
            out = np.array([np.cos(turn), np.sin(turn)])
            away = ((x - AT) * out[0] + (y - 240) * out[1]) / PX
            share = np.clip(away / 4 + 0.5, 0, 1)[..., None]
            made = np.asarray(np.array(BACK) * (1 - share) + np.array(FRONT) * share, np.float32)
            along = np.array([[-out[1], out[0]]]) * np.array([[-150.0], [150.0]]) + (AT, 240)
            # Beyond 5 mm nothing of the front can be judged: what is nearer is enough, on this side alone.
            near = seen(made, plan(), use=away < 5)
            for line in (along, along[::-1]):
                there = replace(plan(line=line, labels=(away > 0).astype(np.int16)), lab=made, other_lab=made)
                read = stretches(there, near)
                self.assertGreater(len(read), 9)
                np.testing.assert_allclose([one.width[2] for one in read], 4.1, rtol=0.03)

    def test_corners_of_an_outline_do_not_cross_its_bands(self):
        # Steps of 2 mm there and back, as an outline clicked point by point has them.
        y = np.linspace(24, HEIGHT - 24, 60)
        jagged = np.stack([AT + 1.2 * PX * (np.arange(60) % 2 - 0.5), y], axis=1)
        read = stretches(plan(line=jagged), seen(ramp(3.0), plan()))
        self.assertGreater(len(read), 10)
        np.testing.assert_allclose([one.width[2] for one in read], 3.1, rtol=0.08)

    def test_half_a_stretch_is_enough_and_less_is_not(self):
        for long_mm, count in ((12.5, 1), (10.0, 0), (21.0, 2), (17.5, 1)):
            line = np.array([[AT, 120.0], [AT, 120 + long_mm * PX]])
            self.assertEqual(len(stretches(plan(line=line), seen(ramp(2.0), plan()))), count, long_mm)

    def test_stretches_follow_each_other_along_the_border(self):
        read = stretches(plan(), seen(ramp(2.0), plan()))
        y = np.array([one.at[1] for one in read])
        np.testing.assert_allclose([one.at[0] for one in read], AT, atol=0.5)
        np.testing.assert_allclose(np.diff(y)[:-2] / PX, 8, atol=0.2)
        self.assertAlmostEqual((y[0] - 24) / PX, STRETCH_MM / 2, delta=0.6)
        # 180 mm: one begins every 8 mm as long as half of 22 mm is left.
        self.assertEqual(len(read), 22)

    def test_a_border_may_wander_as_a_hand_does(self):
        for off, told in ((2.0, True), (6.0, False)):
            moved = ramp(2.0, at=AT + off * PX)
            widths = [one.width[2] for one in stretches(plan(), seen(moved, plan()))]
            if told:
                np.testing.assert_allclose(widths, 2.2, atol=0.2)
            else:
                # Farther off it is not this border's own: what is read there has no step of its own.
                self.assertTrue(not widths or min(widths) > 4)

    def test_single_hairs_over_it_make_no_edge(self):
        soft = ramp(8.0)
        for y in range(30, HEIGHT, 24):
            soft[y : y + 2, AT - 20 : AT + 20] = BACK
        told = [one.width[2] for one in stretches(plan(), seen(soft, plan()))]
        self.assertGreater(np.median(told), 6)

    def test_where_there_is_no_room_no_border_is_read(self):
        there = seen(ramp(2.0), plan())
        self.assertEqual(stretches(plan(edges=(PlannedEdge(1, -1, 0.6, (LINE,)),)), there), [])
        self.assertEqual(stretches(plan(edges=(PlannedEdge(-1, 1, 0.6, (LINE,)),)), there), [])
        for kind in ("eye", "whisker"):
            parts = (PARTS[0], replace(PARTS[1], kind=kind))
            self.assertEqual(stretches(plan(parts=parts), there), [], kind)
        short = np.array([[AT, 200.0], [AT, 200 + 3 * PX]])
        self.assertEqual(stretches(plan(line=short), there), [])
        labels = np.zeros((HEIGHT, WIDTH), np.int16)
        labels[:, AT : round(AT + 1.5 * PX)] = 1
        self.assertEqual(stretches(plan(labels=labels), there), [])
        # A narrow part is read a little nearer to its border.
        labels[:, AT : round(AT + 3.6 * PX)] = 1
        self.assertTrue(stretches(plan(labels=labels), there))

    def test_neither_where_nothing_can_be_judged_nor_at_the_canvas_s_rim(self):
        use = np.ones((HEIGHT, WIDTH), bool)
        use[: HEIGHT // 2] = False
        read = stretches(plan(), seen(ramp(2.0), plan(), use=use))
        self.assertTrue(read)
        self.assertGreater(min(one.at[1] for one in read), HEIGHT / 2 - STRETCH_MM / 2 * PX)
        along = np.array([[24.0, 6.0], [WIDTH - 24.0, 6.0]])
        labels = np.zeros((HEIGHT, WIDTH), np.int16)
        labels[6:] = 1
        self.assertEqual(stretches(plan(labels=labels, line=along), seen(ramp(2.0), plan())), [])

    def test_colours_that_hardly_differ_have_no_border(self):
        for much, told in ((LEAST_STEP / 2 - 0.5, False), (LEAST_STEP / 2 + 0.5, True)):
            near = ramp(2.0, front=(60 - much, 0, 6))
            self.assertEqual(bool(stretches(plan(), seen(near, plan()))), told)

    def test_steps_are_of_colour_as_much_as_of_light(self):
        made = ramp(4.0, back=(50, 12, 20), front=(50, -4, 8))
        one = stretches(plan(), seen(made, plan()))[0]
        self.assertAlmostEqual(one.step[2], 20, delta=0.2)
        self.assertAlmostEqual(one.width[2], 4.08, delta=0.15)


class Paths(unittest.TestCase):
    def test_the_best_path_never_jumps(self):
        rng = np.random.default_rng(3)
        away = np.linspace(-9, 9, 61)
        near = np.abs(away) < 3.5
        value = rng.random((6, 61)).astype(np.float32)
        band = value[:, near]
        # Every path there is, a step left, straight on or right at each row.
        best = -np.inf
        for begin in range(band.shape[1]):
            for steps in np.stack(np.meshgrid(*[(-1, 0, 1)] * 5), axis=-1).reshape(-1, 5):
                at = begin + np.concatenate([[0], np.cumsum(steps)])
                if at.min() >= 0 and at.max() < band.shape[1]:
                    best = max(best, float(band[np.arange(6), at].mean()))
        self.assertAlmostEqual(_path(value, away), best, places=5)

    def test_an_outline_stands_over_both_its_sides_or_under_both(self):
        away = np.linspace(-9, 9, 61)
        light = np.full((44, 61), 40.0, np.float32)
        light += np.where(away > 0, 10, 0).astype(np.float32)
        self.assertAlmostEqual(_line(light, away), 0, delta=0.5)
        over, under = light.copy(), light.copy()
        over[:, 28:32] = 62
        under[:, 28:32] = 20
        self.assertGreater(_line(over, away), 8)
        self.assertLess(_line(over, away), 62 - 50 + 1)
        self.assertLess(_line(under, away), -14)
        self.assertGreater(_line(under, away), 20 - 40 - 1)
        # As wide as the way to its sides it is a mass.
        wide = light.copy()
        wide[:, 30 - 12 : 31 + 12] = 62
        self.assertGreater(2 * 12 * 0.3, 2 * BESIDE_MM)
        self.assertLess(abs(_line(wide, away)), 4)


class Camera(unittest.TestCase):
    def test_it_widens_as_the_crisp_ones_were_widened(self):
        widths = (1.0, 1.5, 2.0, 2.5, 2.9)
        read = [stretch((w, w, float(np.hypot(w, 0.8)))) for w in widths]
        self.assertAlmostEqual(_camera_mm(read), 0.8)
        soft = [stretch((3.1, 2.0, 9.0)), stretch((2.0, 3.1, 9.0))] * 9
        self.assertAlmostEqual(_camera_mm(read + soft), 0.8)

    def test_the_mean_of_both_hands_is_what_it_is_held_against(self):
        read = [stretch((1.0, 2.0, float(np.hypot(1.5, 0.6))))] * 4
        self.assertAlmostEqual(_camera_mm(read), 0.6)

    def test_few_say_nothing_and_a_sharper_canvas_gains_nothing(self):
        blurred = [stretch((1.0, 1.0, 2.0))]
        self.assertEqual(_camera_mm(blurred * 3), 0)
        self.assertAlmostEqual(_camera_mm(blurred * 4), np.sqrt(3))
        self.assertEqual(_camera_mm([stretch((2.0, 2.0, 1.0))] * 6), 0)

    def test_of_all_gains_the_lower_ones_tell(self):
        gains = np.linspace(0.1, 1.1, 11)
        read = [stretch((1.0, 1.0, float(np.sqrt(1 + gain)))) for gain in gains]
        self.assertAlmostEqual(_camera_mm(read), np.sqrt(np.percentile(gains, 30)))


class Told(unittest.TestCase):
    def told(self, *read):
        """What is told of stretches read before; the camera is sharp."""
        kept = module.stretches
        module.stretches = lambda planned, seen: list(read)
        try:
            return edges(None, None)
        finally:
            module.stretches = kept

    def one(self, rule, *read):
        return next(one for one in self.told(*read) if one.rule == rule)

    def test_a_width_is_held_against_both_hands(self):
        wide, a, b = 4.0, 1.2, 1.8
        found = self.one("edge", stretch((a, b, wide)))
        la, lb = np.log(a + FLOOR_MM), np.log(b + FLOOR_MM)
        off = abs(np.log(wide + FLOOR_MM) - (la + lb) / 2)
        self.assertAlmostEqual(found.measure, off / np.hypot(USUAL_LOG, HANDS * (la - lb)) / TOLD_AT)
        was = np.exp((la + lb) / 2) - FLOOR_MM
        self.assertAlmostEqual(found.planned, was)
        self.assertAlmostEqual(found.size, wide)
        self.assertAlmostEqual(found.doubt, 0.4 * wide)
        self.assertAlmostEqual(found.seen_m, spot_seen_m(2 * (wide - was), 15.0))
        self.assertEqual(
            (found.kind, found.unit, found.part, found.beside, found.x, found.y), ("edge", "mm", 1, 0, 300, 200)
        )
        self.assertEqual(found.radius_mm, STRETCH_MM / 2)

    def test_too_hard_counts_as_too_soft(self):
        soft = self.one("edge", stretch((2.0, 2.0, 4.35)))
        hard = self.one("edge", stretch((4.35, 4.35, 2.0)))
        self.assertAlmostEqual(soft.measure, hard.measure)
        self.assertAlmostEqual(soft.seen_m, hard.seen_m)
        # Where the widths are the same it is as much as 0.3 mm that could be seen.
        self.assertAlmostEqual(self.one("edge", stretch()).seen_m, spot_seen_m(0.6, 15.0))
        self.assertAlmostEqual(self.one("edge", stretch()).measure, 0)

    def test_what_the_camera_blurs_is_allowed_for(self):
        blurred = [stretch((w, w, float(np.hypot(w, 0.8)))) for w in (1.0, 1.5, 2.0, 2.5)]
        for one in self.told(*blurred):
            if one.rule == "edge":
                self.assertAlmostEqual(one.measure, 0)
                self.assertAlmostEqual(one.planned, one.size)

    def test_faint_steps_of_any_picture_have_no_width(self):
        for k in range(3):
            step = [30.0, 30.0, 30.0]
            step[k] = LEAST_STEP - 0.1
            self.assertEqual([one.rule for one in self.told(stretch(step=tuple(step)))], ["outline"])
        faint = self.one("edge", stretch((2, 2, 5.0), (30.0, LEAST_STEP + 0.1, 20.0)))
        self.assertAlmostEqual(faint.seen_m, spot_seen_m(6.0, (LEAST_STEP + 0.1) / 2))

    def test_an_outline_is_what_goes_beyond_either_hand_s(self):
        for outline, over in (
            ((3.0, 5.0, 12.0), 7.0), ((-3.0, -5.0, 12.0), 12.0), ((-3.0, 2.0, 12.0), 10.0), ((-3.0, -5.0, -12.0), 7.0),
            ((3.0, 5.0, -12.0), 12.0), ((3.0, 5.0, 4.0), -1.0),
        ):  # fmt: skip
            found = self.one("outline", stretch(outline=outline))
            self.assertAlmostEqual(found.measure, over)
            self.assertEqual((found.kind, found.size, found.unit, found.doubt), ("lights", outline[2], "L*", 1.5))
            self.assertAlmostEqual(found.seen_m, spot_seen_m(4.0, max(0.0, over)))
            self.assertEqual((found.part, found.beside, found.radius_mm), (1, 0, STRETCH_MM / 2))


if __name__ == "__main__":
    unittest.main()
