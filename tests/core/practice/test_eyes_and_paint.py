"""Drills of eyes, mixing, drying, mending, leaving out, lights, and the big brush."""

import math
import unittest

import numpy as np

from foxpath.core.colour import difference
from foxpath.core.days.drying import Film, drying
from foxpath.core.eyes.eye import clock
from foxpath.core.mixes.layers import PICK_UP, after_strokes
from foxpath.core.practice.drill import made, scored
from foxpath.core.practice.drills import big, drill_called
from foxpath.core.practice.drills.critique import how_plain
from foxpath.core.practice.drills.eye import WORDS
from foxpath.core.practice.drills.lights import paired, strongest
from foxpath.core.practice.drills.simplify import finest_seen_mm
from foxpath.core.practice.drills.wetness import hours_words
from foxpath.core.practice.swatches import GROUND_L, a_mix, dE, lures, sheet, shown_on_screen
from foxpath.core.progress.faults import Fault
from foxpath.core.progress.judge.features import catchlight_of
from foxpath.core.progress.remedy import Place, remedy
from foxpath.core.progress.small import lab_of
from tests.drilled import LEFT, RIGHT, scene


def some(key, count=6, size=0.0, **changes):
    drill = drill_called(key)
    return drill, [made(drill, scene(**changes), seed, size) for seed in range(count)]


def shape_of(picture, middle, radius):
    """Middle, half width and half height of the iris in a task's picture: it is yellow, and all about it is not."""
    lab = lab_of(picture)
    x, y = middle
    r = int(1.6 * radius)
    cut = lab[int(y) - r : int(y) + r, int(x) - r : int(x) + r]
    ys, xs = np.nonzero((cut[..., 2] > 33) | (cut[..., 0] < 14))
    return xs.mean() - r, ys.mean() - r, np.ptp(xs) / 2, np.ptp(ys) / 2


def pupil_of(picture, middle, radius):
    """How far right of an eye's middle its pupil lies, px."""
    x, y = middle
    r = int(0.9 * radius)
    dark = lab_of(picture)[int(y) - r : int(y) + r, int(x) - r : int(x) + r, 0] < 20
    return float(np.nonzero(dark)[1].mean() - r)


class Eyes(unittest.TestCase):
    def test_what_is_said_to_be_off_is_off_by_so_much(self):
        _drill, tasks = some("eye", 40, 1.5)
        seen = set()
        for task in tasks:
            word = WORDS[task.truth["right"]]
            k = task.px_per_mm
            (_rx, ry, rw, rh), (_px, py, pw, ph) = (
                shape_of(task.picture, task.truth[w], task.truth["radius"]) for w in ("reference", "painted")
            )
            off = task.truth["mm"] * k
            seen.add(word)
            if word in ("too high", "too low"):
                self.assertLess(abs((py - ry) - (-off if word == "too high" else off)), 0.35 * off)
            elif word in ("too wide", "too tall"):
                self.assertEqual(pw > rw and ph < rh, word == "too wide")
                self.assertEqual(ph > rh and pw < rw, word == "too tall")
            elif word in ("grown", "shrunk"):
                self.assertEqual(pw > rw + 0.4 * off, word == "grown")
                self.assertEqual(pw < rw - 0.4 * off, word == "shrunk")
            elif word == "light at another hour":
                places = [
                    catchlight_of(lab_of(task.picture), *task.truth[w], task.truth["radius"], k)
                    for w in ("reference", "painted")
                ]
                hours = [clock(task.truth[w], p[:2]) for w, p in zip(("reference", "painted"), places, strict=True)]
                arc = math.radians(30 * ((hours[1] - hours[0]) % 12)) * math.dist(
                    places[0][:2], task.truth["reference"]
                )
                self.assertLess(abs(arc - off), 0.3 * off)
            elif word == "looks elsewhere":
                pupils = [pupil_of(task.picture, task.truth[w], task.truth["radius"]) for w in ("reference", "painted")]
                self.assertGreater(pupils[1] - pupils[0], 0.4 * min(off, 0.3 * task.truth["radius"]))
        self.assertGreater(len(seen), 7)

    def test_an_upper_part_too_light_is_lighter_above_and_not_below(self):
        _, tasks = some("eye", 50, 1.5)
        mine = [t for t in tasks if "too light" in WORDS[t.truth["right"]]]
        self.assertTrue(mine)
        for task in mine:
            lab = lab_of(task.picture)[..., 0]
            radius = task.truth["radius"]
            change = []
            for sign in (-1, 1):
                at = [
                    lab[int(y + sign * 0.72 * radius), int(x)]
                    for x, y in (task.truth["reference"], task.truth["painted"])
                ]
                change.append(at[1] - at[0])
            self.assertGreater(change[0], 6)
            self.assertLess(abs(change[1]), 2)

    def test_lights_follow_the_lamp_and_the_photograph_s_own_are_gone(self):
        drill, tasks = some("glint", 8)
        for task in tasks:
            x, y = task.truth["at"]
            shadow, sky, light = task.truth["places"]
            hour = (math.degrees(math.atan2(light[0] - x, y - light[1])) / 30) % 12
            near = abs((hour - task.truth["hour"] + 6) % 12 - 6)
            self.assertLess(near, 0.8)
            self.assertLess(shadow[1], y)
            self.assertLess(sky[1], y)
            self.assertLess(lab_of(task.picture)[int(y) - 12 : int(y) + 12, int(x) - 12 : int(x) + 12, 0].max(), 80)
        score = scored(drill, tasks[0], [tasks[0].truth["at"]] * 3)
        away = [
            np.hypot(p[0] - tasks[0].truth["at"][0], p[1] - tasks[0].truth["at"][1]) / tasks[0].px_per_mm
            for p in tasks[0].truth["places"]
        ]
        self.assertAlmostEqual(score.seen[0].error, np.mean(away), 3)

    def test_the_missing_eye_is_covered_and_lies_where_the_tilt_brings_it(self):
        drill, tasks = some("midline", 8)
        for task in tasks:
            x, y = task.truth["at"]
            ox, oy = task.truth["other"]
            self.assertAlmostEqual(math.hypot(x - ox, y - oy), RIGHT[0] - LEFT[0], 2)
            tilt = math.degrees(math.atan2(abs(y - oy), abs(x - ox)))
            self.assertLess(abs(tilt - abs(task.truth["tilt"])), 0.2)
            self.assertLess(np.ptp(lab_of(task.picture)[int(y) - 8 : int(y) + 8, int(x) - 8 : int(x) + 8, 0]), 12)
        task = tasks[0]
        x, y = task.truth["at"]
        score = scored(drill, task, [(x, y + 6 * task.px_per_mm)])
        self.assertAlmostEqual(score.seen[0].error, 6, 3)
        self.assertIn("too low", score.why)
        self.assertIn("too high", scored(drill, task, [(x, y - 6 * task.px_per_mm)]).why)


class Paint(unittest.TestCase):
    def test_a_sheet_shows_the_colours_it_is_given(self):
        labs = [np.array([60.0, 20, 10]), np.array([40.0, -10, 5])]
        page = sheet([np.array([70.0, 0, 40])], labs)
        lab = lab_of(page.picture)
        for (x, y), want in zip((*page.places, *page.above), (*labs, np.array([70.0, 0, 40])), strict=True):
            self.assertLess(float(np.abs(lab[int(y), int(x)] - want).max()), 0.8)
        self.assertLess(abs(float(lab[2, 2, 0]) - GROUND_L), 0.5)

    def test_lures_lie_about_as_far_off_as_asked_and_not_around_what_is_true(self):
        central = []
        for seed in range(30):
            true = np.array([55.0, 12, 18])
            found = lures(true, np.random.default_rng(seed), 3, 6.0)
            away = [dE(lab, true) for lab in found]
            self.assertLess(abs(min(away) - 6), 0.5)
            whole = np.array([true, *found])
            central.append(np.linalg.norm(whole - whole.mean(axis=0), axis=1).argmin() == 0)
            self.assertTrue(all(shown_on_screen(lab) for lab in found))
        # Were the true one always in the middle of the four, it could be guessed.
        self.assertLess(np.mean(central), 0.6)

    def test_mixes_are_of_few_tubes_in_whole(self):
        rack = scene().rack
        for seed in range(20):
            parts = a_mix(rack, np.random.default_rng(seed))
            self.assertAlmostEqual(float(parts.sum()), 1)
            self.assertTrue(2 <= int((parts > 0).sum()) <= 3)

    def test_the_nearest_pile_is(self):
        _, tasks = some("pile", 5)
        for task in tasks:
            lab = lab_of(task.picture)
            ax, ay = task.truth["above"]
            away = [dE(lab[int(y), int(x)], lab[int(ay), int(ax)]) for x, y in task.ask.places]
            order = np.argsort(away)
            self.assertEqual(order[0], task.truth["right"])
            self.assertLess(abs(away[order[1]] - away[order[0]] - task.size), 1.0)

    def test_the_addition_that_is_right_reaches_the_colour_and_the_others_do_not(self):
        _, tasks = some("addition", 5)
        for task in tasks:
            left = task.truth["dE"]
            self.assertLess(left[task.truth["right"]], 1.5)
            self.assertEqual(int(np.argmin(left)), task.truth["right"])
            order = sorted(left)
            self.assertAlmostEqual(order[1] - order[0], task.size, 1)

    def test_the_coolest_black_has_the_lowest_b_in_its_tint(self):
        _, tasks = some("black", 8)
        words = set()
        for task in tasks:
            lab = lab_of(task.picture)
            b = [float(lab[int(y), int(x), 2]) for x, y in task.ask.places]
            words.add(task.truth["word"])
            pick = np.argmin(b) if task.truth["word"] == "coolest" else np.argmax(b)
            self.assertEqual(int(pick), task.truth["right"])
            # Said as they are shown; the next is off by the task's size, the third by no less.
            np.testing.assert_allclose(task.truth["b"], b, atol=0.7)
            sense = 1 if task.truth["word"] == "coolest" else -1
            steps = np.sort(sense * (np.array(task.truth["b"]) - task.truth["b"][task.truth["right"]]))
            self.assertEqual(steps[0], 0)
            self.assertAlmostEqual(steps[1], task.size, delta=0.02)
            self.assertGreaterEqual(steps[2], steps[1])
        self.assertEqual(words, {"coolest", "warmest"})
        for size in (1.0, 4.0):
            for task in some("black", 6, size)[1]:
                self.assertLess(abs(task.size - size), 0.35 * size)

    def test_the_truest_grey_keeps_least_colour(self):
        _, tasks = some("grey", 5)
        rack = scene().rack
        white = next(t.id for t in rack.tubes if t.white)
        for task in tasks:
            kept = []
            for a, b in task.truth["tubes"]:
                share = np.linspace(0.02, 0.98, 80)
                labs = [rack.lab(rack.parts({a: s, b: 1 - s}) + rack.parts({white: 4.0})) for s in share]
                kept.append(min(float(np.hypot(*lab[1:])) for lab in labs))
            self.assertEqual(int(np.argmin(kept)), task.truth["right"])

    def test_what_comes_of_paint_is_what_the_engine_says(self):
        for key in ("white", "veil", "overwet"):
            _, tasks = some(key, 5, 5.0)
            for task in tasks:
                lab = lab_of(task.picture)
                true = task.truth["right"]
                at = [lab[int(y), int(x)] for x, y in task.ask.places]
                away = [
                    float(difference(one.astype(np.float64), at[true].astype(np.float64)))
                    for k, one in enumerate(at)
                    if k != true
                ]
                self.assertLess(abs(min(away) - task.size), 0.8)
                self.assertEqual(task.truth["dE"][true], 0)

    def test_an_unwiped_brush_goes_toward_what_is_wet(self):
        _, tasks = some("overwet", 1)
        self.assertIn("Every stroke takes up 20 %", tasks[0].truth["why"])
        rack = scene().rack
        parts = np.eye(len(rack))
        far = after_strokes(rack, parts[0], parts[3], PICK_UP, 8)
        self.assertLess(dE(far[-1], rack.lab(parts[3])), dE(far[0], rack.lab(parts[3])))


class Drying(unittest.TestCase):
    def test_one_film_is_beyond_its_bound_and_the_others_before_it(self):
        _drill, tasks = some("wetness", 12, 5.0)
        kinds = set()
        for task in tasks:
            dry, right = task.truth["dry"], task.truth["right"]
            kinds.add(dry)
            for k, hours in enumerate(task.truth["hours"]):
                bound = self.hours(task.truth["bound"][k])
                beyond = hours > bound
                self.assertEqual(beyond, (k == right) == dry, (task.ask.options, task.truth))
            self.assertGreaterEqual(task.size, 4.9)
        self.assertEqual(kinds, {True, False})

    @staticmethod
    def hours(words):
        number, unit = words.split()
        return float(number) * {"min": 1 / 60, "h": 1, "days": 24}[unit]

    def test_the_latest_wait_is_the_last_before_the_edge_closes(self):
        _, tasks = some("window", 10, 5.0)
        for task in tasks:
            soft = self.hours(task.truth["soft"])
            waits = [self.hours(o.removeprefix("after ")) for o in task.ask.options]
            self.assertEqual(waits, sorted(waits))
            early = [k for k, w in enumerate(waits) if w < soft]
            self.assertEqual(max(early), task.truth["right"])

    def test_hours_are_said_as_painters_do(self):
        self.assertEqual(hours_words(0.5), "30 min")
        self.assertEqual(hours_words(7.4), "7 h")
        self.assertEqual(hours_words(72), "3 days")
        self.assertGreater(drying(Film()).touch, 1)


class Mending(unittest.TestCase):
    def test_the_remedy_is_that_of_fault_and_state(self):
        _, tasks = some("repair", 20)
        for task in tasks:
            state, thick, kind = (task.truth[w] for w in ("state", "thick", "kind"))
            said = task.ask.options[task.truth["right"]]
            fits = {
                remedy(kind, kind, amount, Place(state, thick, False, hair), radius_mm=12.0, planned=4.0).text
                for amount in (8.0, -8.0, 9.0, -9.0, 1.4, 24.0, 0.6, 14.0, 0.4, 2.0) for hair in (True, False)
            }  # fmt: skip
            self.assertIn(said, fits)
            self.assertEqual(len(set(task.ask.options)), 4)
            if state == "tacky" and kind not in ("lights", "smooth"):
                self.assertTrue(
                    said.startswith(("Leave it while it is tacky", "Lose", "An old"))
                    or "tacky" in said
                    or kind == "edge",
                    said,
                )

    def test_hair_is_painted_one_by_one_where_brush_and_eye_can(self):
        _, tasks = some("simplify", 6)
        need = finest_seen_mm(scene())
        self.assertAlmostEqual(need, max(0.4, 0.2909 * 2.0))
        self.assertAlmostEqual(finest_seen_mm(scene(finest_mm=1.5)), 1.5)
        for task in tasks:
            self.assertEqual(task.truth["groups"], [int(mm > need) for mm in task.truth["mm"]])
            for mm, off in zip(task.truth["mm"], task.truth["offs"], strict=True):
                self.assertLess(abs(max(mm / need, need / mm) - off), 0.05)
            hairs = [m for m in task.shown if m.kind == "hair"]
            for mark, mm in zip(hairs, task.truth["mm"], strict=True):
                self.assertAlmostEqual(mark.radius / task.px_per_mm, mm, 2)


class Lights(unittest.TestCase):
    def test_the_strongest_lights_are_found_in_their_order(self):
        found = strongest(scene(), (360.0, 120.0), 200.0)
        places = [at for _, at in found[:4]]
        for want, at in zip(((330, 90), (390, 130), (300, 170), (420, 60)), places, strict=True):
            self.assertLess(math.dist(want, at), 4)
        self.assertEqual([s for s, _ in found], sorted((s for s, _ in found), reverse=True))
        inside = strongest(scene(), (330.0, 90.0), 40.0)
        self.assertTrue(all(abs(x - 330) < 20 and abs(y - 90) < 20 for _, (x, y) in inside))

    def test_answers_are_paired_with_the_nearest_in_all(self):
        true = [(0.0, 0.0), (10.0, 0.0)]
        self.assertEqual(paired([(11.0, 0.0), (1.0, 0.0)], true, 50), [1.0, 1.0])
        self.assertEqual(paired([(9.0, 0.0)], true, 50), [50, 1.0])
        self.assertEqual(paired([], true, 50), [50, 50])
        self.assertEqual(paired([(200.0, 0.0), (10.0, 0.0)], true, 50), [50, 0.0])

    def test_hits_are_counted_within_five_millimetres(self):
        drill, tasks = some("lights", 2)
        task = tasks[0]
        at = [tuple(p) for p in task.truth["places"]]
        near = [(x + 4.9 * task.px_per_mm, y) for x, y in at]
        self.assertEqual(scored(drill, task, near).share, 1)
        far = [(at[0][0] + 5.6 * task.px_per_mm, at[0][1]), *at[1:]]
        score = scored(drill, task, far)
        self.assertAlmostEqual(score.share, 1 - 1 / len(at))
        self.assertAlmostEqual(score.seen[0].error, 5.6 / len(at), 2)
        self.assertIn(f"{len(at) - 1} of {len(at)}", score.words)


class BigBrush(unittest.TestCase):
    def test_strokes_of_the_reference_s_own_colour_bring_it_nearer(self):
        lab = np.zeros((80, 100, 3), np.float32)
        lab[..., 0] = 40
        lab[:, 60:, 0] = 80
        bare = big.off(lab, [])
        good = big.off(lab, [((80, 0), (80, 80)), ((68, 0), (68, 80)), ((92, 0), (92, 80))])
        idle = big.off(lab, [((20, 10), (40, 10))])
        self.assertLess(good, 0.6 * bare)
        self.assertAlmostEqual(idle, bare, 3)

    def test_the_best_that_is_found_beats_strokes_at_random(self):
        drill, (task,) = some("big", 1)
        small = big._small(task.picture)
        k = small.shape[1] / task.picture.shape[1]
        best = big.off(small, [[(x * k, y * k) for x, y in one] for one in task.truth["best"]])
        self.assertLess(best, 0.8 * task.truth["bare"])
        self.assertLess(abs(best - task.truth["left"]), 0.2)
        rng = np.random.default_rng(2)
        for _ in range(3):
            score = scored(drill, task, task.ask.chance(rng))
            self.assertGreater(score.seen[0].error, 0.05)
            self.assertEqual(score.picture.shape, task.picture.shape)
        self.assertLessEqual(len(task.truth["best"]), 10)


class Critique(unittest.TestCase):
    def test_faults_are_found_within_their_reach_and_the_plainest_comes_first(self):
        drill, tasks = some("critique", 2)
        for task in tasks:
            plain = task.truth["plain"]
            self.assertEqual(plain, sorted(plain, reverse=True))
            self.assertGreaterEqual(len(plain), 3)
            at = [tuple(p) for p in task.truth["places"]]
            self.assertEqual(scored(drill, task, at[1:]).share, 1 - 1 / len(at))
            self.assertIn("Not seen", scored(drill, task, at[1:]).why)
            reach = task.truth["reach"][0] * task.px_per_mm
            moved = [(at[0][0] + 1.15 * reach, at[0][1]), *at[1:]]
            self.assertEqual(scored(drill, task, moved).share, 1)
            gone = [(at[0][0] + 1.3 * reach, at[0][1]), *at[1:]]
            self.assertLess(scored(drill, task, gone).share, 1)

    def test_how_plain_a_fault_is_is_its_largest_change_within_reach(self):
        change = np.zeros((100, 100), np.float32)
        change[50, 50], change[90, 90] = 7, 30
        self.assertEqual(how_plain(change, Fault("value", (50.0, 48.0), 1, "", 13.0), 1.0), 7)
        self.assertEqual(how_plain(change, Fault("value", (85.0, 88.0), 1, "", 2.0), 1.0), 30)


if __name__ == "__main__":
    unittest.main()
