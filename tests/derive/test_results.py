import threading
import time
import unittest
from dataclasses import replace
from unittest import mock

import cv2
import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.reporting import Cancelled, Progress
from foxpath.derive import Memo, Results
from foxpath.derive.frames import map_frame
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.rehearsal.marks import marks_of
from foxpath.derive.rehearsal.painting import build_up, rehearse
from foxpath.derive.subjects import findings
from foxpath.derive.zones.shapes import labels_of, zone_index
from foxpath.document import edits
from tests.made import project


class Remembering(unittest.TestCase):
    def test_two_threads_compute_once(self):
        memo, made = Memo(), []

        def make():
            time.sleep(0.05)
            made.append(1)
            return 7

        threads = [threading.Thread(target=memo.get, args=("key", make)) for _ in range(5)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(len(made), 1)

    def test_a_failure_is_not_remembered_and_frees_the_next(self):
        memo = Memo()

        def fail():
            raise Cancelled

        with self.assertRaises(Cancelled):
            memo.get("key", fail)
        self.assertEqual(memo.get("key", lambda: 3), 3)

    def test_oldest_goes_first(self):
        memo = Memo(most_bytes=10_000, clock=lambda: 0.0)
        for k in range(20):
            memo.get(k, lambda: np.zeros(1000, np.uint8))
        self.assertIsNone(memo.peek(0))
        self.assertIsNotNone(memo.peek(19))

    def test_what_is_soon_made_anew_goes_before_what_took_long(self):
        now = [0.0]
        memo = Memo(most_bytes=300_000, clock=lambda: now[0])

        def taking(seconds, size):
            def make():
                now[0] += seconds
                return {"marks": np.zeros(size, np.uint8)}

            return make

        memo.get("eye", taking(0.1, 1000))
        for k in range(20):
            memo.get(k, taking(0.001, 40_000))
        self.assertIsNotNone(memo.peek("eye"))
        # 300 kB, less the eye's, are seven pictures of 40 kB.
        self.assertEqual([k for k in range(20) if memo.peek(k) is not None], list(range(13, 20)))

    def test_what_is_asked_for_again_stays_and_what_is_not_sinks_in_the_end(self):
        now = [0.0]
        memo = Memo(most_bytes=10_000, clock=lambda: now[0])

        def make():
            now[0] += 2.0**-13
            return np.zeros(1000, np.uint8)

        memo.get("dear", lambda: now.__setitem__(0, now[0] + 9.0) or np.zeros(1000, np.uint8))
        memo.get("used", make)
        for k in range(120):
            memo.get(k, make)
            memo.get("used", lambda: self.fail("it was forgotten"))
            if k == 20:
                self.assertIsNotNone(memo.peek("dear"))
        self.assertIsNone(memo.peek("dear"))
        self.assertIsNone(memo.peek(0))


class OnceAProject(unittest.TestCase):
    def asked(self, results, made, what, **how):
        """Ask for what is made once; return what it is and whether it had to be made."""
        begun = []
        return results.once(made, what, lambda: begun.append(1) or object(), **how), bool(begun)

    def test_it_is_made_once_for_each_and_kept_for_three(self):
        results, made = Results(), project()
        first, anew = self.asked(results, made, "plan")
        self.assertTrue(anew)
        self.assertEqual(self.asked(results, made, "plan"), (first, False))
        self.assertTrue(self.asked(results, made, "other")[1])
        others = [edits.rename(made, name) for name in ("a", "b", "c")]
        for one in others[:2]:
            self.assertTrue(self.asked(results, one, "plan")[1])
        self.assertEqual(self.asked(results, made, "plan"), (first, False))
        self.asked(results, others[2], "plan")
        self.assertTrue(self.asked(results, made, "plan")[1])

    def test_another_hand_takes_over_what_goes_by_no_hand(self):
        results, made = Results(), project()
        plan, _ = self.asked(results, made, "plan")
        painted, _ = self.asked(results, made, "painted", by_hand=True)
        self.assertEqual(self.asked(results, made, "painted", by_hand=True), (painted, False))
        other = edits.another_hand(made)
        self.assertEqual(self.asked(results, other, "plan"), (plan, False))
        theirs, anew = self.asked(results, other, "painted", by_hand=True)
        self.assertTrue(anew)
        self.assertIsNot(theirs, painted)
        # What it makes itself is its own.
        self.assertTrue(self.asked(results, other, "late")[1])
        self.assertTrue(self.asked(results, made, "late")[1])
        changed = edits.another_hand(edits.set_pass(made, "lights", coverage=0.4))
        self.assertTrue(self.asked(results, changed, "plan")[1])


class ZoneByZone(unittest.TestCase):
    def test_one_comb_recomputes_one_zone(self):
        results, made = Results(), project()
        made, other = edits.add_zone(
            made, "Other", "short-fur", np.array([[130.0, 40], [190, 40], [190, 140], [130, 140]])
        )
        index, far = zone_index(made, made.zones[1].id), zone_index(made, other)
        before, untouched = growth_of(results, made, index), growth_of(results, made, far)
        after, _ = edits.add_comb(made, np.array([[60.0, 100], [60, 60]]))
        self.assertIs(growth_of(results, after, far), untouched)
        self.assertIsNot(growth_of(results, after, index), before)
        self.assertIs(growth_of(results, made, index), before)

    def test_hidden_and_bare(self):
        results, made = Results(), project()
        hidden = edits.set_depth(made, made.zones[1].id, 0)
        self.assertIn("is hidden", " ".join(f.says for f in findings(results, hidden)))
        bare = edits.remove_zone(made, made.zones[0].id)
        found = findings(results, bare)
        self.assertEqual(found[0].level, "must")
        self.assertIn("no zone", found[0].says)


class Rehearsal(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.made = project()
        cls.results = Results()
        cls.done = rehearse(cls.results, cls.made, 300)

    def test_each_pass_keeps_its_band_and_ceiling(self):
        """No mark is lighter than the ceiling or outside the band, and the paint that shows obeys too."""
        for one in self.done:
            if one.marks == 0:
                # A smooth blob has neither gaps to restate nor lights to strike.
                self.assertIn(one.plan.role.key, ("restated", "highlights"))
                continue
            self.assertGreaterEqual(one.l_min, one.plan.l_low - 1e-3)
            self.assertLessEqual(one.l_max, min(one.plan.l_high, one.plan.ceiling) + 1e-3)
        darks = next(one for one in self.done if one.plan.role.key == "darks")
        low = edits.set_pass(self.made, "lights", l_high=50.0, ceiling=50.0)
        low = edits.set_pass(low, "highlights", on=False)
        last = rehearse(self.results, low, 300)[-1].standing.shown
        square = lab_from_rgb8(last)[90:150, 90:160, 0]
        self.assertLess(float(np.percentile(square, 99)), 62)
        self.assertEqual(darks.standing.shown.shape, (240, 300, 3))

    def test_same_seed_same_bytes_whatever_was_remembered(self):
        again = rehearse(Results(), self.made, 300)
        for a, b in zip(self.done, again, strict=True):
            np.testing.assert_array_equal(a.standing.shown, b.standing.shown)
        other = rehearse(Results(), replace(self.made, seed=2), 300)
        self.assertFalse(np.array_equal(other[-1].standing.shown, self.done[-1].standing.shown))

    def test_a_changed_pass_recomputes_itself_and_later_ones_only(self):
        changed = edits.set_pass(self.made, "restated", coverage=0.3)
        done = rehearse(self.results, changed, 300)
        keys = [one.plan.role.key for one in done]
        at = keys.index("restated")
        for k, (a, b) in enumerate(zip(self.done, done, strict=True)):
            self.assertEqual(a.standing is b.standing, k < at, keys[k])
        fresh = rehearse(Results(), changed, 300)
        np.testing.assert_array_equal(fresh[-1].standing.shown, done[-1].standing.shown)

    def test_one_thread_and_two_give_the_same_bytes(self):
        wild = edits.set_pass(self.made, "lights", handling="dry", beneath="wet")
        wild = edits.set_pass(edits.set_way(wild, "tooth", "toothed"), "undercoat", handling="glaze")
        shown = []
        for workers in (1, 2):
            with (
                mock.patch("foxpath.core.brush.raster.worker_count", lambda workers=workers: workers),
                mock.patch("foxpath.core.rehearsal.stage.worker_count", lambda workers=workers: workers),
            ):
                shown.append(rehearse(Results(), wild, 300)[-1].standing.shown)
        np.testing.assert_array_equal(shown[0], shown[1])
        self.assertFalse(np.array_equal(shown[0], self.done[-1].standing.shown))

    def test_a_part_in_a_school_of_its_own_leaves_the_others_as_they_were(self):
        square = self.made.zones[1].id
        own = edits.set_zone_school(self.made, square, "dry-brush")
        done = rehearse(self.results, own, 300)
        keys = [one.plan.role.key for one in done]
        self.assertIn("dry-brush/undercoat", keys)
        index = zone_index(own, square)
        self.assertEqual(
            {k for one in done if one.plan.role.key == "dry-brush/lights" for k in one.plan.zones}, {index}
        )
        eye = zone_index(self.made, self.made.zones[2].id)
        before = next(one.plan for one in self.done if one.plan.role.key == "lights")
        after = next(one.plan for one in done if one.plan.role.key == "lights")
        self.assertEqual(after.zones, (eye,))
        _, was = marks_of(self.results, self.made, before, eye)
        _, now = marks_of(self.results, own, after, eye)
        np.testing.assert_array_equal(was.lines_mm, now.lines_mm)

    def test_what_is_finished_first_is_worked_around(self):
        done = rehearse(self.results, edits.set_way(self.made, "first", "background"), 300)
        keys = [one.plan.role.key for one in done]
        labels = labels_of(self.results, self.made, map_frame(self.made))
        behind = cv2.erode(cv2.resize((labels == 0).astype(np.uint8), (300, 240)), np.ones((3, 3))) > 0
        at = keys.index("background")
        for one in done[at + 1 : at + 3]:
            self.assertTrue(one.plan.role.block_in)
            np.testing.assert_array_equal(one.standing.shown[behind], done[at].standing.shown[behind])

    def test_what_a_pass_takes_up_shows_in_the_painting(self):
        """A glaze darkens what lies beneath it; warmer paint is warmer; a part that is left out stays as it was."""
        square = self.made.zones[1].id

        def inner(made):
            return lab_from_rgb8(rehearse(self.results, made, 300)[-1].standing.shown)[95:145, 95:155]

        plain = inner(self.made)
        self.assertLess(
            float(inner(edits.set_pass(self.made, "lights", handling="glaze"))[..., 0].mean()),
            float(plain[..., 0].mean()) - 3,
        )
        self.assertGreater(
            float(inner(edits.set_pass(self.made, "lights", lean=12.0))[..., 2].mean()), float(plain[..., 2].mean()) + 5
        )
        left = inner(edits.set_pass(self.made, "lights", left_out=(square,)))
        self.assertFalse(np.array_equal(left, plain))

    def test_marks_follow_the_growth(self):
        """Hairs of the top coat run from root to tip as the comb says."""
        plan = next(one.plan for one in self.done if one.plan.role.key == "lights")
        index = zone_index(self.made, self.made.zones[1].id)
        _, marks = marks_of(self.results, self.made, plan, index)
        run = marks.lines_mm[:, -1] - marks.lines_mm[:, 0]
        angle = np.degrees(np.arctan2(run[:, 1], run[:, 0]))
        self.assertLess(abs(float(np.median(angle))), 6)
        self.assertLess(np.percentile(np.abs(angle), 80), 40)

    def test_the_colour_of_a_mark_has_the_lightness_it_says(self):
        """The loop's own way from CIELAB to sRGB agrees with the way back."""
        plan = next(one.plan for one in self.done if one.plan.role.key == "undercoat")
        _, marks = marks_of(self.results, self.made, plan, zone_index(self.made, self.made.zones[1].id))
        rgb = (marks.colour * 255 + 0.5).astype(np.uint8)
        inside = (marks.colour > 0.01).all(axis=1) & (marks.colour < 0.99).all(axis=1)
        self.assertGreater(inside.mean(), 0.5)
        gap = np.abs(lab_from_rgb8(rgb)[:, 0] - marks.lightness)[inside]
        self.assertLess(float(gap.max()), 0.4)

    def test_played_to_the_end_is_the_pass_itself(self):
        number = 4
        frames = list(build_up(self.results, self.made, 300, number, 8))
        laid = [f[0] for f in frames]
        self.assertEqual(laid, sorted(laid))
        self.assertGreater(len({f[0] for f in frames}), 5)
        np.testing.assert_array_equal(frames[-1][2].shown, self.done[number].standing.shown)

    def test_cancel(self):
        calls = []

        def cancelled():
            calls.append(1)
            return len(calls) > 12

        with self.assertRaises(Cancelled):
            rehearse(Results(), self.made, 400, Progress(cancelled=cancelled))
