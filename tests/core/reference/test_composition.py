"""Where the eye goes: separation, pulls, touches and lone colours of pictures whose answers are known."""

import unittest

import numpy as np

from foxpath.core.reference.composition import lone_colours, pulls, separation, touches


def flat(light=50.0, a=0.0, b=0.0, rows=120, columns=160):
    return np.full((rows, columns, 3), (light, a, b), np.float32)


def hued(chroma, deg):
    return chroma * np.cos(np.radians(deg)), chroma * np.sin(np.radians(deg))


class Separations(unittest.TestCase):
    def setUp(self):
        self.subject = np.zeros((120, 160), bool)
        self.subject[40:80, 60:100] = True

    def test_only_the_belt_about_the_subject_counts(self):
        """What lies farther off than half the subject's depth is not what it stands against."""
        lab = flat()
        lab[:20] = lab[-20:] = (5, 60, 60)
        lab[self.subject] = (62, 0, 0)
        found = separation(lab, self.subject)
        self.assertAlmostEqual(found.value, 12, places=4)
        self.assertAlmostEqual(found.chroma, 0, places=4)
        self.assertEqual(found.carried_by, "value")

    def test_a_darker_and_a_duller_subject_have_their_sign(self):
        lab = flat(60, 30, 40)
        lab[self.subject] = (55, 3, 4)
        found = separation(lab, self.subject)
        self.assertAlmostEqual(found.value, -5, places=4)
        self.assertAlmostEqual(found.chroma, -45, places=3)
        self.assertEqual(found.carried_by, "chroma")

    def test_fine_contrast_sets_apart_what_is_alike_in_value(self):
        lab = flat()
        checks = np.indices((120, 160)).sum(axis=0) % 2 * 20.0 - 10
        lab[..., 0] += np.where(self.subject, checks, checks / 20)
        found = separation(lab, self.subject)
        self.assertEqual(found.carried_by, "sharpness")
        self.assertGreater(found.sharpness, 0.6)

    def test_nothing_sets_apart_what_is_the_same_and_nothing_is_said_without_both(self):
        self.assertEqual(separation(flat(), self.subject).carried_by, "")
        self.assertIsNone(separation(flat(), np.zeros((120, 160), bool)))
        self.assertIsNone(separation(flat(), np.ones((120, 160), bool)))


class Pulls(unittest.TestCase):
    def spot(self, tone, at=(130, 95)):
        lab = flat()
        y, x = np.mgrid[0:120, 0:160]
        lab[np.hypot(x - 25, y - 25) < 6] = (75, 0, 0)
        lab[np.hypot(x - at[0], y - at[1]) < 6] = tone
        return pulls(lab, (25.0, 25.0))

    def test_a_spot_is_found_where_it_is_with_its_reason(self):
        for tone, reason in (((90, 0, 0), "light"), ((5, 0, 0), "dark"), ((50, 60, 0), "colour")):
            first = self.spot(tone)[0]
            self.assertEqual(first.reason, reason)
            self.assertLess(np.hypot(first.at[0] - 130, first.at[1] - 95), 5)
            self.assertGreater(first.strength, 1)

    def test_what_is_near_the_focal_point_does_not_pull_away(self):
        # The spot's middle is 0.1 of the diagonal away, its far rim nearer than 0.18.
        self.assertEqual(self.spot((90, 0, 0), (41, 37)), [])

    def test_pulls_are_in_order_and_each_is_named_once(self):
        lab = flat()
        y, x = np.mgrid[0:120, 0:160]
        for at, tone in (((140, 20), 70), ((140, 100), 95)):
            lab[np.hypot(x - at[0], y - at[1]) < 6] = (tone, 0, 0)
        found = pulls(lab, (20.0, 60.0))
        self.assertLess(abs(found[0].at[1] - 100), 5)
        self.assertLess(abs(found[1].at[1] - 20), 5)
        self.assertGreater(found[0].strength, found[1].strength)
        self.assertEqual(len(pulls(lab, (20.0, 60.0), most=1)), 1)


def box(x0, y0, x1, y1):
    return np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)], float)


class Touches(unittest.TestCase):
    def found(self, *outlines, joined=frozenset()):
        named = [(f"z{k}", line) for k, line in enumerate(outlines)]
        return touches(named, 400, 300, 5, set(joined))

    def test_each_border_is_named(self):
        for line, side in (
            (box(4, 50, 90, 90), "left"),
            (box(300, 50, 396, 90), "right"),
            (box(50, 4, 90, 90), "upper"),
            (box(50, 200, 90, 296), "lower"),
        ):
            (touch,) = self.found(line)
            self.assertEqual(touch.what, ("z0", f"the {side} border"))
            self.assertAlmostEqual(touch.gap, 4)

    def test_what_is_cut_by_the_border_does_not_touch_it(self):
        self.assertEqual(self.found(box(-20, 50, 90, 90)), [])
        self.assertEqual(len(self.found(box(-1, 50, 90, 90))), 1)
        self.assertEqual(self.found(box(6, 50, 90, 90)), [])

    def test_two_outlines_close_by_touch_unless_they_share_a_border(self):
        pair = box(50, 50, 100, 100), box(104, 100, 150, 150)
        (touch,) = self.found(*pair)
        self.assertEqual((touch.what, touch.at, touch.gap), (("z0", "z1"), (102.0, 100.0), 4.0))
        self.assertEqual(self.found(*pair, joined={frozenset(("z0", "z1"))}), [])
        self.assertEqual(self.found(box(50, 50, 100, 100), box(106, 100, 150, 150)), [])


class LoneColours(unittest.TestCase):
    def test_a_strong_spot_is_alone_at_every_hue(self):
        """The circle of hues closes: 350 degrees are near 0."""
        for deg in (0, 30, 120, 165, 255, 350):
            lab = flat()
            lab[40:50, 100:112] = (50, *hued(60, deg))
            (one,) = lone_colours(lab)
            self.assertLess(np.hypot(one.at[0] - 105.5, one.at[1] - 44.5), 1, deg)
            np.testing.assert_allclose(one.lab[1:], hued(60, deg), atol=0.1)
            self.assertAlmostEqual(one.share, 120 / (120 * 160), places=5)

    def test_the_same_hue_elsewhere_answers_it_and_another_does_not(self):
        lab = flat()
        lab[40:50, 100:112] = (50, *hued(60, 30))
        other = lab.copy()
        lab[80:92, 20:32] = (50, *hued(30, 30))
        self.assertEqual(lone_colours(lab), [])
        other[80:92, 20:32] = (50, *hued(12, 210))
        self.assertEqual(len(lone_colours(other)), 1)

    def test_a_large_area_is_no_accent(self):
        lab = flat()
        lab[20:60, 20:60] = (50, *hued(60, 30))
        self.assertEqual(lone_colours(lab), [])


if __name__ == "__main__":
    unittest.main()
