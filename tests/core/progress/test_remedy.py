import unittest

from foxpath.core.errors import InputError
from foxpath.core.progress.kinds import KINDS
from foxpath.core.progress.remedy import STATES, Place, direction, remedy
from foxpath.core.progress.touches import MOST_MINUTES, OWN, Touch, checked, sound_touches

RULES = {
    "value": "value part", "warmth": "warmth part", "shape": "oval", "lights": "lights",
}  # fmt: skip


def mend(kind, size=1.0, rule="", **place):
    more = {name: place.pop(name) for name in ("planned", "toward", "radius_mm") if name in place}
    return remedy(
        kind,
        rule or RULES.get(kind, kind),
        size,
        Place(**place),
        **{"radius_mm": 10.0, "planned": 2.0, "toward": (1.0, 0.0)} | more,
    )


class Remedies(unittest.TestCase):
    def test_every_kind_has_one_in_every_state(self):
        for kind in KINDS:
            for state in STATES:
                for size in (-5.0, 5.0):
                    made = mend(kind, size, state=state, hair=True, pile="pile 3, fawn", neighbour="pile 1, sky")
                    self.assertGreater(made.minutes, 0)
                    self.assertTrue(made.text.endswith("."), made.text)
                    self.assertTrue(made.text[0].isupper())
                    self.assertTrue(made.tool)

    def test_a_glaze_only_darkens(self):
        light, dark = mend("value", 8.0, state="dry"), mend("value", -8.0, state="dry")
        self.assertIn("Glaze it", light.text)
        self.assertNotIn("Glaze it", dark.text)
        self.assertIn("no glaze lightens", dark.text)
        self.assertIn("scumble", dark.text)
        self.assertIn("hairs", mend("value", -8.0, state="dry", hair=True).text)

    def test_wet_paint_is_scraped_or_lifted_and_never_stirred(self):
        self.assertIn("Scrape it back", mend("value", state="wet", thick=True).text)
        self.assertIn("Lift it with a clean", mend("value", state="wet").text)
        self.assertIn("young", mend("value", state="wet", young_acrylic=True).text)
        self.assertFalse(mend("value", state="wet").dry)
        self.assertTrue(mend("value", state="dry").dry)

    def test_tacky_paint_is_left_alone_first(self):
        for kind in KINDS:
            for size in (-5.0, 5.0):
                made = mend(kind, size, state="tacky", hair=True)
                self.assertEqual(made.text.startswith("Leave it while it is tacky. Then "), kind != "bare", made.text)
                self.assertEqual(made.text.count("Leave it"), int(kind != "bare"))
                self.assertTrue(made.dry or kind == "bare", kind)

    def test_warmth_and_strength_are_turned_back(self):
        self.assertIn("cooler", mend("warmth", 5.0, state="dry").text)
        self.assertIn("warmer", mend("warmth", -5.0, state="dry").text)
        self.assertIn("grey it", mend("strength", 20.0, state="dry").text.lower())
        self.assertIn("stronger", mend("strength", -20.0, state="dry").text)

    def test_a_feature_goes_back_to_where_it_belongs(self):
        made = mend("place", 3.0, state="dry", toward=(3.0, 0.0))
        self.assertIn("3 mm left", made.text)
        self.assertIn("let it dry", made.text)
        self.assertIn("Scrape", mend("place", 3.0, state="wet").text)
        self.assertGreater(made.minutes, mend("place", 3.0, state="wet").minutes)

    def test_shape_is_trimmed_where_it_is_too_much(self):
        self.assertIn("its sides", mend("shape", 2.0, "oval").text)
        self.assertIn("top and bottom", mend("shape", -2.0, "oval").text)
        self.assertIn("rim in", mend("shape", 2.0, "size").text)
        self.assertIn("rim out", mend("shape", -2.0, "size").text)

    def test_an_edge_is_softened_or_recut_to_its_planned_width(self):
        self.assertIn("Drag it", mend("edge", 1.0, state="wet", planned=4.0).text)
        self.assertIn("restate", mend("edge", 1.0, state="dry", planned=4.0).text.lower())
        self.assertIn("Recut", mend("edge", 6.0, state="dry", planned=2.0).text)
        self.assertIn("hairs", mend("edge", 6.0, state="dry", planned=2.0, hair=True).text)
        self.assertIn("4 mm", mend("edge", 1.0, state="dry", planned=4.0).text)

    def test_a_catchlight_is_set_at_its_hour(self):
        self.assertIn("10 o’clock", mend("catchlight", 2.0, state="dry", planned=10.2).text)
        self.assertIn("12 o’clock", mend("catchlight", 0.0, planned=0.2).text)
        self.assertIn("Lift", mend("catchlight", 2.0, state="wet").text)

    def test_a_larger_place_takes_longer(self):
        self.assertGreater(mend("value", radius_mm=40.0).minutes, mend("value", radius_mm=8.0).minutes)

    def test_directions_run_with_the_clock(self):
        said = [direction(*way) for way in ((0, -1), (1, -1), (1, 0), (1, 1), (0, 1), (-1, 1), (-1, 0), (-1, -1))]
        self.assertEqual(
            said, ["up", "up and right", "right", "down and right", "down", "down and left", "left", "up and left"]
        )

    def test_what_is_no_kind_is_refused(self):
        with self.assertRaises(KeyError):
            mend("taste")


class Touches(unittest.TestCase):
    def test_words_and_kinds_are_checked(self):
        good = Touch("t1", "value", "z1", (1.0, 2.0))
        self.assertEqual(checked(good), good)
        for bad in (
            Touch("t1", "taste", "", (0, 0)),
            Touch("t1", "value", "", (0, 0), "perhaps"),
            Touch("t1", OWN, "", (0, 0), text="  "),
        ):
            with self.assertRaises(InputError):
                checked(bad)

    def test_minutes_and_texts_are_bounded(self):
        made = checked(Touch("t1", OWN, "", (0, 0), text=" x" * 900, minutes=10**9))
        self.assertEqual(made.minutes, MOST_MINUTES)
        self.assertLessEqual(len(made.text), 400)
        self.assertEqual(checked(Touch("t1", "value", "", (0, 0), minutes=-4)).minutes, 1)

    def test_of_a_file_only_sound_ones_are_taken_and_each_id_once(self):
        a, b = Touch("t1", "value", "", (0, 0)), Touch("t1", "warmth", "", (0, 0))
        self.assertEqual(sound_touches((a, b, Touch("t2", "taste", "", (0, 0)))), (a,))


if __name__ == "__main__":
    unittest.main()
