"""Each reader sees its own fault, says its sense and its size, and says nothing of a third hand that made none."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.progress.judge.candidates import THRESHOLDS, Candidate, ranked, verdict
from foxpath.core.progress.judge.edges import edges, stretches
from foxpath.core.progress.judge.features import STEADY_MM, catchlight_of, clear_of_border, eyes
from foxpath.core.progress.judge.grain import grain, lights
from foxpath.core.progress.judge.masses import masses
from foxpath.core.progress.judge.missing import missing
from foxpath.core.progress.judge.spots import BAR_PX, BAR_TURNS, BAR_WIDE_MM, _bars, bare, strokes
from foxpath.core.progress.judge.whole import judge
from foxpath.core.progress.small import blur, lab_of, rgb_of
from tests.canvas import (
    EYES,
    GROUND,
    HEIGHT,
    PX,
    RADIUS,
    WIDTH,
    best,
    changed,
    labels,
    painted,
    planned,
    seen_as,
    spot,
)

CHEEK = (300, 365)


def plus(channel, much, x=CHEEK[0], y=CHEEK[1], radius=15):
    def change(lab):
        lab[..., channel : channel + 1] += much * spot(x, y, radius)
        return lab

    return change


def part(which, channel, much):
    def change(lab):
        lab[..., channel] += much * (labels() == which)
        return lab

    return change


def patch_of(lab, x, y, radius):
    there = spot(x, y, radius)[..., 0] > 0.5
    return there & (labels() == labels()[y, x])


class Eyes(unittest.TestCase):
    def moved(self, dx, dy, matrix=None):
        rgb = painted(2).copy()
        x, y = EYES[0]
        v, u = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
        back = np.linalg.inv(np.eye(2) if matrix is None else matrix)
        ax, ay = u - x - dx, v - y - dy
        source = (x + back[0, 0] * ax + back[0, 1] * ay, y + back[1, 0] * ax + back[1, 1] * ay)
        laid = cv2.remap(rgb, source[0].astype(np.float32), source[1].astype(np.float32), cv2.INTER_LINEAR)
        near = np.hypot(u - x, v - y) < 2.1 * RADIUS
        rgb[near] = laid[near]
        return eyes(planned(), seen_as(rgb))

    def test_a_clean_eye_is_where_it_should_be(self):
        for one in eyes(planned(), seen_as(painted(2))):
            self.assertLess(one.times, 0.5, one.rule)

    def test_a_misplaced_eye_is_told_with_its_way(self):
        found = self.moved(7.2, -4.8)
        one = next(c for c in found if c.rule == "place" and c.eye == 0)
        np.testing.assert_allclose(one.toward, (3, -2), atol=0.35)
        self.assertAlmostEqual(one.size, np.hypot(3, 2), delta=0.4)
        self.assertGreater(one.times, 2)
        other = next(c for c in found if c.rule == "place" and c.eye == 1)
        self.assertLess(other.times, 0.5)

    def test_oval_and_size_are_told_apart_with_their_senses(self):
        wide = self.moved(0, 0, np.diag([1.2, 1.0]))
        self.assertGreater(best(wide, "oval").times, 1.5)
        self.assertGreater(best(wide, "oval").size, 2)
        tall = self.moved(0, 0, np.diag([1.0, 1.2]))
        self.assertLess(best(tall, "oval").size, -2)
        large = self.moved(0, 0, np.diag([1.15, 1.15]))
        one = next(c for c in large if c.rule == "size" and c.eye == 0)
        self.assertAlmostEqual(one.size, 0.15 * 2 * RADIUS / PX, delta=1.2)
        self.assertLess(next(c for c in large if c.rule == "oval" and c.eye == 0).times, 1)
        small = next(c for c in self.moved(0, 0, np.diag([0.87, 0.87])) if c.rule == "size" and c.eye == 0)
        self.assertLess(small.size, -1.5)

    def oval(self, found):
        """Return how oval the first eye was fitted, and how oval it is told to be: times the threshold."""
        one = next(c for c in found if c.rule == "oval" and c.eye == 0)
        wide_mm = 2 * RADIUS / PX
        fitted = abs(float(np.log1p(one.size / wide_mm))) * min(1.0, wide_mm / STEADY_MM) / THRESHOLDS["oval"]
        return fitted, one.times

    def test_a_shape_is_believed_as_far_as_it_explains_what_is_seen(self):
        fitted, told = self.oval(self.moved(0, 0, np.diag([1.2, 1.0])))
        self.assertGreater(fitted, 1.5)
        self.assertAlmostEqual(told, fitted, delta=0.02)
        # Dark and light locks about an eye hide its rim: a shape is fitted to them, and is not told.
        x, y = EYES[0]
        v, u = np.mgrid[:HEIGHT, :WIDTH].astype(np.float32)
        away = np.hypot(u - x, v - y) / RADIUS
        ring = np.clip((2.1 - away) / 0.2, 0, 1) * np.clip((away - 0.75) / 0.2, 0, 1)
        locks = blur(np.random.default_rng(4).normal(0, 1, (HEIGHT, WIDTH)).astype(np.float32), 0.25 * RADIUS)
        lab = lab_of(painted(2))
        lab[..., 0] = np.clip(lab[..., 0] + 30 * locks / locks.std() * ring, 3, 97)
        fitted, told = self.oval(eyes(planned(), seen_as(rgb_of(lab))))
        self.assertGreater(fitted, 0.5)
        self.assertLess(told, 0.5 * fitted)

    def test_a_catchlight_at_another_hour_and_one_that_is_missing(self):
        rgb = painted(2).copy()
        x, y = (int(v) for v in EYES[0])
        cv2.circle(rgb, (x - 9, y - 10), 7, (196, 150, 40), -1, cv2.LINE_AA)
        gone = next(c for c in eyes(planned(), seen_as(rgb)) if c.kind == "catchlight" and c.eye == 0)
        self.assertEqual(gone.size, 0)
        self.assertGreater(gone.times, 1)
        cv2.circle(rgb, (x + 9, y - 10), 5, (250, 250, 246), -1, cv2.LINE_AA)
        late = next(c for c in eyes(planned(), seen_as(rgb)) if c.kind == "catchlight" and c.eye == 0)
        self.assertAlmostEqual(late.size, 2.8, delta=0.4)
        self.assertAlmostEqual(late.planned, 10.6, delta=0.3)

    def test_a_dull_eye_has_no_catchlight(self):
        lab = lab_of(painted(2)).copy()
        lab[..., 0] = np.minimum(lab[..., 0], 55)
        self.assertIsNone(catchlight_of(lab, *EYES[0], RADIUS, PX))
        found = catchlight_of(lab_of(painted(2)), *EYES[0], RADIUS, PX)
        np.testing.assert_allclose(found[:2], (EYES[0][0] - 9, EYES[0][1] - 10), atol=1.2)
        self.assertAlmostEqual(found[2], np.pi * 5**2 / PX**2, delta=5)

    def test_an_eye_in_glare_or_at_the_border_is_not_judged(self):
        seen = seen_as(painted(2))
        hidden = replace(seen, use=labels() != 3)
        self.assertFalse(clear_of_border(planned(), hidden, planned().eyes[0]))
        self.assertEqual({one.eye for one in eyes(planned(), hidden)}, {1})
        at_rim = replace(planned().eyes[0], x=40.0)
        self.assertFalse(clear_of_border(planned(), seen, at_rim))


class Masses(unittest.TestCase):
    def test_a_part_that_is_off_is_told_with_its_sense(self):
        for channel, rule, much in ((0, "value part", 6.0), (0, "value part", -6.0), (2, "warmth part", -7.0)):
            found, table = masses(planned(), changed(part(2, channel, much)))
            one = best(found, rule)
            self.assertEqual(one.part, 2)
            self.assertAlmostEqual(one.size, much, delta=2)
            self.assertGreater(one.times, 1)
            row = next(one for one in table if one.part == 2)
            self.assertAlmostEqual(row.d_l if channel == 0 else row.warmer, much, delta=2)

    def test_a_greyer_part_loses_strength_and_a_stronger_one_gains_it(self):
        def scaled(factor):
            def change(lab):
                lab[labels() == 1, 1:] *= factor
                return lab

            return best(masses(planned(), changed(change))[0], "strength")

        self.assertAlmostEqual(scaled(0.7).size, -28, delta=6)
        self.assertAlmostEqual(scaled(1.3).size, 28, delta=8)
        self.assertGreater(scaled(0.7).times, 1.5)

    def test_hue_turns_are_signed_and_grey_parts_have_none(self):
        def turned(lab):
            lab[labels() == 1, 1] += 10
            return lab

        table = masses(planned(), changed(turned))[1]
        self.assertLess(next(one for one in table if one.part == 1).d_h, -5)
        grey = planned()
        lab = grey.lab.copy()
        lab[..., 1:] = 0
        table = masses(replace(grey, lab=lab, other_lab=lab), seen_as(rgb_of(lab)))[1]
        self.assertTrue(all(np.isnan(one.d_h) for one in table))

    def test_a_patch_is_told_where_it_lies_and_how_far_it_reaches(self):
        for much in (10.0, -10.0):
            one = best(masses(planned(), changed(plus(0, much)))[0], "value patch")
            self.assertLess(np.hypot(one.x - CHEEK[0], one.y - CHEEK[1]) / PX, 6)
            self.assertAlmostEqual(one.size, much, delta=3)
            self.assertAlmostEqual(one.radius_mm, 15, delta=5)
            self.assertGreater(one.times, 1)
        warm = best(masses(planned(), changed(plus(2, -11)))[0], "warmth patch")
        self.assertLess(warm.size, -6)

    def test_a_third_hand_is_told_of_nothing(self):
        found, _ = masses(planned(), seen_as(painted(2)))
        self.assertEqual([one.rule for one in found if one.times >= 1], [])

    def test_what_lies_in_glare_is_not_judged(self):
        seen = changed(part(2, 0, 9))
        found, table = masses(planned(), replace(seen, use=labels() != 2))
        self.assertNotIn(2, [one.part for one in table])
        self.assertNotIn(2, [one.part for one in found])

    def test_drift_of_the_hand_is_allowed_for(self):
        seen = changed(plus(0, 8, 470, 180))
        steady = best(masses(planned(), replace(seen, registration_mm=0.5))[0], "value patch").times
        loose = best(masses(planned(), replace(seen, registration_mm=6.0))[0], "value patch").times
        self.assertLess(loose, steady)


class Spots(unittest.TestCase):
    def bared(self, colour, radius=5.0, at=CHEEK):
        white = lab_of(np.full((2, 2, 3), colour, np.uint8))[0, 0]

        def change(lab):
            w = spot(*at, radius, 1)
            return lab * (1 - w) + white * w

        return bare(planned(), changed(change))

    def test_white_and_ground_are_bare(self):
        for colour in ((236, 232, 224), GROUND):
            one = best(self.bared(colour), "bare")
            self.assertLess(np.hypot(one.x - CHEEK[0], one.y - CHEEK[1]) / PX, 3)
            self.assertGreater(one.times, 1)
        self.assertAlmostEqual(best(self.bared((236, 232, 224)), "bare").size, np.pi * 0.5**2, delta=0.35)

    def test_a_strange_colour_and_a_speck_are_none(self):
        self.assertEqual(self.bared((30, 90, 200)), [])
        self.assertEqual(self.bared((236, 232, 224), radius=1), [])

    def test_a_third_hand_shows_no_bare_canvas(self):
        self.assertEqual([one for one in bare(planned(), seen_as(painted(2))) if one.times >= 1], [])

    def test_a_plan_that_leaves_ground_may_show_it(self):
        plan = planned()
        lab = plan.lab * (1 - spot(*CHEEK, 9)) + lab_of(np.full((2, 2, 3), (236, 232, 224), np.uint8))[0, 0] * spot(
            *CHEEK, 9
        )
        peeks = replace(plan, lab=lab.astype(np.float32), other_lab=lab.astype(np.float32))
        self.assertEqual([one for one in bare(peeks, seen_as(rgb_of(lab))) if one.times >= 1], [])

    def stroked(self, much):
        line = np.zeros((HEIGHT, WIDTH), np.uint8)
        cv2.line(line, (CHEEK[0] - 14, CHEEK[1] - 4), (CHEEK[0] + 14, CHEEK[1] + 4), 255, 5, cv2.LINE_AA)

        def change(lab):
            lab[..., 0] += much * (line / 255.0)
            return lab

        return strokes(planned(), changed(change))

    def test_a_bar_answers_in_its_own_direction_and_a_broad_band_hardly(self):
        def row(wide, light=20.0):
            image = np.full((81, 81), 50.0, np.float32)
            half = round(wide * BAR_PX / 2)
            image[40 - half : 41 + half] += light
            return _bars(image)[:, 40, 40]

        one = row(BAR_WIDE_MM * 0.6)
        self.assertEqual(one.shape, (BAR_TURNS,))
        self.assertEqual(int(np.argmax(one)), 0)
        self.assertGreater(one[0], 10)
        # Across it there is as much beside as in the middle.
        self.assertLess(abs(one[BAR_TURNS // 2]), 2.5)
        np.testing.assert_allclose(row(BAR_WIDE_MM * 0.6, -20.0), -one, atol=1e-3)
        self.assertLess(row(5 * BAR_WIDE_MM)[0], 0.2 * one[0])
        np.testing.assert_allclose(row(0, 0.0), 0, atol=1e-3)

    def test_a_stroke_that_jumps_out_is_told_light_or_dark(self):
        for much in (40, -40):
            one = best(self.stroked(much), "stroke")
            self.assertLess(np.hypot(one.x - CHEEK[0], one.y - CHEEK[1]) / PX, 4)
            self.assertEqual(np.sign(one.size), np.sign(much))
            self.assertGreater(one.times, 1)

    def test_one_in_an_eye_is_none(self):
        rgb = painted(2).copy()
        cv2.line(rgb, (215, 240), (245, 240), (255, 255, 255), 5, cv2.LINE_AA)
        self.assertFalse([one for one in strokes(planned(), seen_as(rgb)) if one.part == 3])


class Edges(unittest.TestCase):
    def test_a_border_that_was_lost_is_softer_and_where_it_was_lost(self):
        def change(lab):
            w = spot(490, 270, 26, 8)
            return lab * (1 - w) + blur(lab, 3.2 * PX) * w

        one = best(edges(planned(), changed(change)), "edge")
        self.assertLess(np.hypot(one.x - 490, one.y - 270) / PX, 16)
        self.assertGreater(one.size, 2 * one.planned)
        self.assertGreater(one.times, 1.3)
        self.assertEqual((one.part, one.beside), (1, 0))

    def test_one_that_was_cut_is_harder(self):
        soft = planned()
        away = (labels() == 1).astype(np.float32)
        w = blur(away, 4.5 * PX)[..., None]
        inside, outside = lab_of(painted(0)), blur(lab_of(painted(0)), 1.0)

        def faded(seed):
            lab = lab_of(painted(seed))
            return np.asarray(lab * w + outside * 0 + lab[:, :1] * (1 - w), np.float32)

        del inside
        plan = replace(soft, lab=faded(0), other_lab=faded(1))
        same = best(edges(plan, seen_as(rgb_of(faded(2)), plan)), "edge")
        lab = faded(2)
        mask = spot(490, 270, 26, 2) > 0.5
        cut = np.where(mask, np.where((labels() == 1)[..., None], lab_of(painted(2)), lab[:, :1]), lab)
        hard = best(edges(plan, seen_as(rgb_of(cut), plan)), "edge")
        self.assertGreater(hard.times, max(0.8, 1.2 * same.times))
        self.assertLess(hard.size, 0.7 * hard.planned)

    def test_the_camera_s_own_blur_is_allowed_for(self):
        blurred = rgb_of(blur(lab_of(painted(2)), 0.3 * PX))
        self.assertLess(best(edges(planned(), seen_as(blurred)), "edge").times, 1)

    def test_an_outline_is_told_by_its_lightness(self):
        for much in (26, -26):
            ring = np.zeros((HEIGHT, WIDTH), np.uint8)
            cv2.ellipse(ring, (300, 270), (190, 150), 0, -40, 40, 255, 3, cv2.LINE_AA)

            def change(lab, ring=ring, much=much):
                lab[..., 0] += much * (ring / 255.0)
                return lab

            one = best(edges(planned(), changed(change)), "outline")
            self.assertGreater(one.times, 1)
            self.assertEqual(np.sign(one.size), np.sign(much))
            self.assertGreater(one.x, 380)

    def test_the_width_that_is_read_is_that_of_the_step(self):
        flat = planned()
        lab = np.zeros((HEIGHT, WIDTH, 3), np.float32)
        for sigma in (0.8, 2.0):
            lab[..., 0] = 30 + 40 * blur((labels() == 1).astype(np.float32), sigma * PX)
            plan = replace(flat, lab=lab, other_lab=lab)
            read = [s for s in stretches(plan, seen_as(rgb_of(lab), plan)) if s.front == 1]
            self.assertAlmostEqual(
                float(np.median([s.width[2] for s in read])), 2.563 * sigma, delta=0.35 * 2.563 * sigma
            )

    def test_near_the_canvas_s_rim_and_in_glare_none_is_read(self):
        seen = seen_as(painted(2))
        use = np.ones((HEIGHT, WIDTH), bool)
        use[:, 350:] = False
        found = stretches(planned(), replace(seen, use=use))
        self.assertTrue(found)
        self.assertLess(max(one.at[0] for one in found if one.front == 1), 355)


class Hair(unittest.TestCase):
    def test_hair_laid_another_way_is_told_with_its_turn(self):
        low = blur(lab_of(painted(2)), 3 * PX)
        matrix = cv2.getRotationMatrix2D(CHEEK, 50, 1.0)
        turned = cv2.warpAffine(lab_of(painted(2)) - low, matrix, (WIDTH, HEIGHT), borderMode=cv2.BORDER_REFLECT)

        def change(lab):
            w = spot(*CHEEK, 16, 3)
            return low + (lab - low) * (1 - w) + turned * w

        one = best(grain(planned(), changed(change)), "growth")
        self.assertLess(np.hypot(one.x - CHEEK[0], one.y - CHEEK[1]) / PX, 8)
        self.assertGreater(one.size, 22)
        self.assertGreater(one.times, 1)

    def test_where_two_hands_lay_it_differently_neither_way_is_wrong(self):
        matrix = cv2.getRotationMatrix2D(CHEEK, 50, 1.0)

        def turned(lab):
            low = blur(lab, 3 * PX)
            other = cv2.warpAffine(lab - low, matrix, (WIDTH, HEIGHT), borderMode=cv2.BORDER_REFLECT)
            w = spot(*CHEEK, 16, 3)
            return np.asarray(low + (lab - low) * (1 - w) + other * w, np.float32)

        def near(found):
            return [
                one.times
                for one in found
                if one.rule == "growth" and np.hypot(one.x - CHEEK[0], one.y - CHEEK[1]) / PX < 12
            ]

        either = replace(planned(), other_lab=turned(planned().other_lab))
        self.assertGreater(max(near(grain(planned(), changed(turned)))), 1)
        for canvas in (changed(turned), changed(lambda lab: lab)):
            self.assertLess(max(near(grain(either, canvas)), default=0), 1)

    def test_a_smoothed_patch_is_told_and_a_soft_photograph_is_not(self):
        def change(lab):
            w = spot(*CHEEK, 14, 3)
            return lab * (1 - w) + blur(lab, 2.5 * PX) * w

        one = best(grain(planned(), changed(change)), "smooth")
        self.assertLess(np.hypot(one.x - CHEEK[0], one.y - CHEEK[1]) / PX, 8)
        self.assertLess(one.size, 40)
        self.assertGreater(one.times, 1)
        soft = [c for c in grain(planned(), changed(lambda lab: blur(lab, 0.35 * PX))) if c.rule == "smooth"]
        self.assertLess(max((c.times for c in soft), default=0), 1)

    def test_the_background_has_no_growth(self):
        seen = changed(plus(0, 20, 60, 400))
        self.assertTrue(all(planned().parts[one.part].hair for one in grain(planned(), seen)))

    def test_too_many_lights_are_counted(self):
        rng = np.random.default_rng(4)
        mask = np.zeros((HEIGHT, WIDTH), np.uint8)
        for _ in range(90):
            x, y = int(rng.normal(CHEEK[0], 40)), int(rng.normal(CHEEK[1] - 10, 22))
            cv2.line(mask, (x, y), (x + 2, y + 14), 255, 2, cv2.LINE_AA)

        def change(lab):
            lab[..., 0] += 22 * (mask / 255.0) * (labels() == 1)
            return lab

        one = best(lights(planned(), changed(change)), "lights")
        self.assertGreater(one.times, 1)
        self.assertEqual(one.part, 1)
        self.assertLess(np.hypot(one.x - CHEEK[0], one.y - CHEEK[1]) / PX, 30)
        # A light mass is a mass.
        self.assertLess(best(lights(planned(), changed(part(1, 0, 8))), "lights").times, 1.3)

    def test_forgotten_whiskers_are_missed_and_soft_ones_are_not(self):
        plan = planned(whiskers=True)
        gone = missing(plan, seen_as(painted(2), plan))[0]
        self.assertGreater(gone.times, 1.5)
        self.assertLess(gone.size, 30)
        there = missing(plan, seen_as(painted(2, whiskers=True), plan))[0]
        self.assertLess(there.times, 0.5)
        soft = missing(plan, seen_as(rgb_of(blur(lab_of(painted(2, whiskers=True)), 1.2)), plan))[0]
        self.assertLess(soft.times, 1)
        self.assertEqual(missing(planned(), seen_as(painted(2))), [])


class Whole(unittest.TestCase):
    def test_a_clean_canvas_is_done_and_one_with_a_fault_is_not(self):
        clean = judge(planned(), seen_as(painted(2)))
        self.assertEqual(clean.verdict, "stop")
        spoiled = judge(planned(), changed(plus(0, -14)))
        self.assertEqual(spoiled.told[0].kind, "value")
        self.assertNotEqual(spoiled.verdict, "stop")
        self.assertEqual(spoiled.from_m, 2)
        self.assertLess(len(spoiled.told), len(spoiled.measured))


class Ranking(unittest.TestCase):
    def one(self, kind="value", rule="value patch", times=2.0, x=100.0, y=100.0, seen=5.0, **more):
        return Candidate(kind, rule, times * THRESHOLDS[rule], x, y, 1.0, "L*", seen, **more)

    def kinds(self, *found):
        return [one.rule for one in ranked(found, PX, 2.0)]

    def test_only_what_is_over_its_threshold_is_told(self):
        self.assertEqual(self.kinds(self.one(times=0.99), self.one(times=1.01, x=300)), ["value patch"])

    def test_two_of_a_kind_at_a_place_are_one_and_strength_is_of_warmth_s_kind(self):
        near, far = self.one(times=3), self.one(x=100 + 31 * PX)
        self.assertEqual(len(ranked([near, self.one(x=100 + 29 * PX), far], PX, 2)), 2)
        self.assertIs(ranked([self.one(times=1.2), near], PX, 2)[0], near)
        self.assertEqual(
            self.kinds(self.one("warmth", "warmth part"), self.one("strength", "strength", 3)), ["strength"]
        )

    def test_what_the_eye_sees_first_comes_first(self):
        place, value = self.one("place", "place", x=400, eye=0), self.one()
        self.assertEqual(self.kinds(value, place), ["place", "value patch"])
        self.assertGreater(self.one(times=3).rank(2), self.one(times=2).rank(2))
        self.assertEqual(self.one(times=4).rank(2), self.one(times=9).rank(2))
        self.assertGreater(self.one(seen=4).rank(2), self.one(seen=1).rank(2))
        self.assertEqual(self.one(seen=0.1).rank(2), self.one(seen=0.5).rank(2))

    def test_what_a_fault_sets_off_is_not_told_besides(self):
        stroke = self.one("stroke", "stroke", 3)
        self.assertEqual(self.kinds(stroke, self.one("growth", "growth", x=100 + 15 * PX)), ["stroke"])
        self.assertEqual(len(self.kinds(stroke, self.one("growth", "growth", x=100 + 17 * PX))), 2)
        dull = self.one("warmth", "warmth patch", 1.5)
        self.assertEqual(self.kinds(self.one(times=3), dull), ["value patch"])
        whole = self.one("warmth", "warmth part", 1.5)
        self.assertEqual(len(self.kinds(self.one(times=3), whole)), 2)

    def test_when_to_stop(self):
        near, far = self.one(seen=1.0, times=3), self.one(seen=5.0, times=3)
        self.assertEqual(verdict([], 0.6), "stop")
        self.assertEqual(verdict([near], 0.6), "stop")
        self.assertEqual(verdict([far], 0.6), "one round")
        self.assertEqual(verdict([self.one(seen=5.0, times=1.45)], 0.6), "stop")
        self.assertEqual(verdict([self.one(seen=5.0, times=1.55)], 0.6), "one round")
        # What an eye goes to last must be farther over.
        for kind, rule in (("edge", "edge"), ("smooth", "smooth"), ("lights", "lights")):
            self.assertEqual(verdict([self.one(kind, rule, 1.95, seen=5.0)], 0.6), "stop")
            self.assertEqual(verdict([self.one(kind, rule, 2.05, seen=5.0)], 0.6), "one round")
        self.assertEqual(verdict([far] * 7, 0.6), "one round")
        self.assertEqual(verdict([far] * 8, 0.6), "rework")
        off = self.one("place", "place", 2.6, seen=5.0, eye=0)
        self.assertEqual(verdict([off], 0.6), "one round")
        self.assertEqual(verdict([off, off], 0.6), "rework")
        self.assertEqual(verdict([far], 0.6, from_m=6.0), "stop")
        self.assertEqual(verdict([far], 2.0), "stop")


if __name__ == "__main__":
    unittest.main()
