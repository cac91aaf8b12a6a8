import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.progress.camera import Room, another_hand, photograph, some_room
from foxpath.core.progress.faults import FAULTS, with_faults
from foxpath.core.progress.kinds import KINDS
from foxpath.core.progress.small import lab_of
from tests.canvas import HEIGHT, PX, WIDTH, painted, planned

ROOM = Room(long_px=800, noise=0.0, blur_px=0.3)


class Cameras(unittest.TestCase):
    def test_square_on_the_canvas_fills_its_share(self):
        room = replace(ROOM, turn_deg=0, tilt_deg=0, roll_deg=0, lens=0, fills=0.8)
        photo, corners = photograph(painted(0), room)
        self.assertEqual(photo.shape, (600, 800, 3))
        np.testing.assert_allclose(np.ptp(corners, axis=0), (0.8 * 600 / HEIGHT * WIDTH, 480), atol=1)
        np.testing.assert_allclose(corners.mean(axis=0), (400, 300), atol=0.5)

    def test_turned_to_the_side_the_far_side_is_shorter(self):
        _, corners = photograph(painted(0), replace(ROOM, turn_deg=20, tilt_deg=0, roll_deg=0, lens=0))
        left, right = np.linalg.norm(corners[3] - corners[0]), np.linalg.norm(corners[2] - corners[1])
        self.assertGreater(abs(left - right), 20)

    def test_off_the_middle_it_is_moved_by_that_share_of_the_photograph(self):
        flat = replace(ROOM, turn_deg=0, tilt_deg=0, roll_deg=0, lens=0, fills=0.6)
        _, plain = photograph(painted(0), flat)
        _, moved = photograph(painted(0), replace(flat, off=(0.06, -0.11)))
        np.testing.assert_allclose(moved - plain, np.broadcast_to((0.06 * 800, -0.11 * 600), (4, 2)), atol=0.5)

    def test_rolled_by_so_many_degrees_and_seen_from_above_the_foot_is_shorter(self):
        flat = replace(ROOM, turn_deg=0, tilt_deg=0, roll_deg=0, lens=0)
        _, rolled = photograph(painted(0), replace(flat, roll_deg=7))
        top = rolled[1] - rolled[0]
        self.assertAlmostEqual(abs(np.degrees(np.arctan2(top[1], top[0]))), 7, delta=0.3)
        lengths = {}
        for tilt in (-15, 15):
            _, corners = photograph(painted(0), replace(flat, tilt_deg=tilt))
            lengths[tilt] = np.linalg.norm(corners[1] - corners[0]) - np.linalg.norm(corners[2] - corners[3])
        # What is shorter from above is longer from below.
        self.assertAlmostEqual(lengths[15], -lengths[-15], delta=1.0)
        self.assertGreater(abs(lengths[15]), 15)

    def test_it_is_brighter_to_the_right_and_below_by_the_share_that_is_said(self):
        grey = np.full((HEIGHT, WIDTH, 3), 128, np.uint8)
        room = replace(ROOM, turn_deg=0, tilt_deg=0, roll_deg=0, lens=0, lamp=(1, 1, 1), tone=1.0)
        for fall, way in (((0.3, 0.0), 1), ((0.0, 0.3), 0)):
            photo, corners = photograph(grey, replace(room, fall=fall))
            (x0, y0), (x1, y1) = corners[0] + 12, corners[2] - 12
            inside = photo[int(y0) : int(y1), int(x0) : int(x1), 1].astype(float)
            line = inside.mean(axis=1 - way)
            self.assertGreater(line[-5:].mean(), line[:5].mean() * 1.08)
            other = inside.mean(axis=way)
            self.assertLess(abs(other[-5:].mean() / other[:5].mean() - 1), 0.02)

    def test_lamp_glare_and_fall_are_in_it(self):
        plain, _ = photograph(painted(0), replace(ROOM, lamp=(1, 1, 1), fall=(0, 0)))
        warm, _ = photograph(painted(0), replace(ROOM, lamp=(1, 0.9, 0.7), fall=(0, 0)))
        self.assertLess(warm[..., 2].mean() / warm[..., 0].mean(), plain[..., 2].mean() / plain[..., 0].mean() - 0.05)
        shone, corners = photograph(painted(0), replace(ROOM, glare=0.4, glare_at=(0.5, 0.2)))
        x, y = (0.5 * corners[0] + 0.5 * corners[1]) * 0.8 + (0.5 * corners[2] + 0.5 * corners[3]) * 0.2
        dull, _ = photograph(painted(0), ROOM)
        near = (slice(int(y) - 15, int(y) + 15), slice(int(x) - 15, int(x) + 15))
        self.assertGreater(shone[near].mean(), dull[near].mean() + 25)

    def test_a_seed_is_one_photograph(self):
        np.testing.assert_array_equal(
            photograph(painted(0), some_room(4, 600), 1)[0], photograph(painted(0), some_room(4, 600), 1)[0]
        )
        self.assertEqual(some_room(4), some_room(4))
        self.assertNotEqual(some_room(4), some_room(5))
        self.assertEqual(some_room(4, glare=False).glare, 0)
        self.assertGreater(some_room(4, glare=True).glare, 0)
        cut = [photograph(painted(0), some_room(s, 600, cut=True), s)[1] for s in range(4)]
        self.assertTrue(all((one < 0).any() or (one > (600, 450)).any() for one in cut))

    def test_another_hand_drifts_and_wobbles_a_little(self):
        made = another_hand(painted(0), PX, 3)
        off = np.abs(lab_of(made) - lab_of(painted(0))).mean()
        self.assertTrue(0.5 < off < 12, off)
        self.assertLess(abs(float((lab_of(made) - lab_of(painted(0)))[..., 0].mean())), 2)


class Faults(unittest.TestCase):
    def test_each_is_made_where_it_says_and_leaves_the_rest(self):
        made = {}
        plan = planned(whiskers=True)
        for name, put in FAULTS.items():
            for seed in range(4):
                lab = lab_of(painted(2, whiskers=True))
                found = put(plan, lab, np.random.default_rng(seed))
                if found is None:
                    continue
                changed, fault = found
                made[name] = fault
                self.assertIn(fault.kind, KINDS)
                off = np.abs(changed - lab).sum(axis=-1)
                self.assertGreater(float(off.max()), 3, name)
                ys, xs = np.nonzero(off > 2)
                far = np.hypot(xs - fault.at[0], ys - fault.at[1]) / PX
                self.assertLess(float(np.median(far)), 1.2 * max(fault.reach_mm, 14), name)
                break
        # None of these borders is planned soft.
        self.assertEqual(set(FAULTS) - set(made), {"edge hard"})

    def test_values_go_the_way_they_say(self):
        for seed in range(4):
            lab = lab_of(painted(2))
            changed, fault = FAULTS["value of a patch"](planned(), lab, np.random.default_rng(seed))
            x, y = (int(v) for v in fault.at)
            self.assertAlmostEqual(float((changed - lab)[y, x, 0]), fault.size, delta=0.5)

    def test_several_are_of_different_kinds_and_apart(self):
        rgb, put = with_faults(planned(), painted(2), 5, 5)
        self.assertEqual(len({one.kind for one in put}), len(put))
        self.assertGreaterEqual(len(put), 3)
        self.assertEqual(rgb.shape, (HEIGHT, WIDTH, 3))
        again, same = with_faults(planned(), painted(2), 5, 5)
        self.assertEqual(put, same)
        np.testing.assert_array_equal(rgb, again)
        only = with_faults(planned(), painted(2), 5, 3, ("smooth",))[1]
        self.assertEqual([one.kind for one in only], ["smooth"])


if __name__ == "__main__":
    unittest.main()
