"""What is said of a reference: each sentence at the bound from which it is said, and where to look."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.reference.composition import LoneColour, Pull, Separation, Touch
from foxpath.core.reference.health import Health
from foxpath.core.reference.judge import (
    BLURRED_PART,
    HALO,
    LOST,
    NOISE,
    SHARP_PX,
    blur_limit_px,
    blur_words,
    judged,
    judged_composition,
)
from foxpath.core.units import WIDTH_OF_SIGMA

MAP = np.zeros((4, 8), np.float32)
SOUND = Health(MAP + 1, 1.0, 500, MAP, 0.0, MAP, 0.0, MAP, 0.0, MAP, 0.0, MAP, (0.0, 0.0), "tones", 1.0, 3.0)
WORST = MAP.copy()
WORST[1, 6] = 9
MM = 0.2


def said(**values):
    return {one.key: one for one in judged(replace(SOUND, **values), MM, 0.3)}


class OfThePicture(unittest.TestCase):
    def test_a_sound_one_has_nothing_to_look_at_and_all_is_told_in_order(self):
        found = said()
        self.assertEqual(list(found), ["blur", "halo", "noise", "clipped", "blocked", "cast", "focus"])
        self.assertEqual({one.level for one in found.values()}, {""})

    def test_each_fault_is_said_from_its_bound_on(self):
        limit = blur_limit_px(MM, 0.3)
        for key, name, bound in (
            ("blur", "blur_px", limit),
            ("halo", "overshoot", HALO),
            ("noise", "noise", NOISE),
            ("clipped", "clipped", LOST),
            ("blocked", "blocked", LOST),
        ):
            self.assertEqual(said(**{name: bound})[key].level, "", key)
            self.assertEqual(said(**{name: bound * 1.01})[key].level, "look", key)
            # The worse, the weightier, but never more than one.
            weights = [said(**{name: bound * times})[key].weight for times in (1.1, 2.0, 1e3)]
            self.assertEqual(weights, sorted(weights), key)
            self.assertEqual(weights[-1], 1.0, key)

    def test_the_place_is_the_worst_tile_as_a_share_of_the_picture(self):
        for key, values in (
            ("blur", {"blur_px": 9.0, "blur_map": WORST}),
            ("halo", {"overshoot": 0.3, "overshoot_map": WORST}),
            ("noise", {"noise": 9.0, "noise_map": WORST}),
            ("clipped", {"clipped": 0.2, "clipped_map": WORST}),
            ("blocked", {"blocked": 0.2, "blocked_map": WORST}),
            ("cast", {"cast": (9.0, 0.0), "cast_map": WORST}),
        ):
            self.assertEqual(said(**values)[key].at, (6.5 / 8, 1.5 / 4), key)
        self.assertIsNone(said(noise=9.0, noise_map=MAP * np.nan)["noise"].at)

    def test_blur_counts_from_three_of_the_finest_marks(self):
        self.assertAlmostEqual(blur_limit_px(0.1, 0.5), 15 / WIDTH_OF_SIGMA)
        self.assertEqual(blur_limit_px(1.0, 0.3), 1.6)
        self.assertEqual(blur_words(np.nan, MM), "no clear edge")
        self.assertEqual(blur_words(SHARP_PX - 0.01, MM), "under 0.7 px, 0.14 mm")
        self.assertEqual(blur_words(2.0, 0.5), "2.0 px, 1 mm")
        self.assertEqual(said(blur_px=np.nan)["blur"].says, "No edge is clear enough to measure.")

    def test_a_part_that_is_blurred_is_said_of_the_animal_where_it_is_known(self):
        some = MAP + 1
        some[:, 7] = 9  # an eighth of all tiles
        self.assertGreater(1 / 8, BLURRED_PART)
        one = said(blur_map=some)["blur"]
        self.assertEqual((one.level, one.number), ("look", "12 % blurred"))
        self.assertEqual(one.at[0], 7.5 / 8)
        animal = np.zeros(MAP.shape, bool)
        animal[:, :4] = True
        (blur, *_) = judged(replace(SOUND, blur_map=some), MM, 0.3, animal)
        self.assertEqual(blur.level, "")
        animal[:, 4:] = True
        animal[:, :6] = False
        (blur, *_) = judged(replace(SOUND, blur_map=some), MM, 0.3, animal)
        self.assertEqual(blur.says, "50 % of the animal is blurred.")
        some[:1, 7] = 1
        self.assertEqual(said(blur_map=some)["blur"].level, "")

    def test_a_cast_is_a_guess_until_a_grey_was_picked(self):
        for source, chroma, level in (
            ("tones", 4.0, ""),
            ("tones", 4.1, "note"),
            ("grey", 2.0, ""),
            ("grey", 2.1, "look"),
        ):
            self.assertEqual(said(cast=(0.0, chroma), cast_from=source)["cast"].level, level, (source, chroma))
        one = said(cast=(-7.0, 2.0), cast_from="grey")["cast"]
        self.assertEqual(one.says, "The picked grey leans clearly green and just visibly yellow.")

        tones = said(cast=(7.0, -2.0))["cast"]
        self.assertEqual(tones.says, "Near-neutral tones lean clearly red and just visibly blue.")

    def test_surroundings_as_sharp_as_the_animal_are_said(self):
        for near, far, level in ((1.0, 1.29, "look"), (1.0, 1.31, ""), (0.1, 0.9, "look"), (0.1, 0.95, "")):
            self.assertEqual(said(near_px=near, far_px=far)["focus"].level, level, (near, far))
        self.assertEqual(said(near_px=np.nan)["focus"].number, "unknown")


class OfTheComposition(unittest.TestCase):
    def said(self, part=None, strong=(), close=(), lone=(), named=lambda at: ""):
        return judged_composition(part, strong, close, lone, (80, 60), (400.0, 300.0), named)

    def test_what_carries_the_animal_is_told_with_its_sign(self):
        for values, words in (
            ((12.0, 1.0, 0.1, "value"), "Value carries the animal: it is 12 L* lighter."),
            ((-12.0, 1.0, 0.1, "value"), "Value carries the animal: it is 12 L* darker."),
            ((1.0, -20.0, 0.1, "chroma"), "Chroma carries the animal: it is 20 greyer in chroma."),
            ((1.0, 20.0, 0.1, "chroma"), "Chroma carries the animal: it is 20 stronger in chroma."),
            ((1.0, 1.0, np.log(2), "sharpness"), "Sharpness carries the animal: it is 2.0 × sharper."),
            ((1.0, 1.0, -np.log(2), "sharpness"), "Sharpness carries the animal: it is 2.0 × softer."),
        ):
            (one,) = self.said(Separation(*values))
            self.assertEqual((one.says, one.level), (words, "note"))
        (one,) = self.said(Separation(1.0, 1.0, 0.1, ""))
        self.assertEqual((one.level, one.says), ("look", "Nothing sets the animal off from its surroundings."))

    def test_pulls_are_placed_and_the_same_of_one_part_is_said_once(self):
        pulls = [Pull((20.0, 15.0), 0.9, "light"), Pull((60.0, 45.0), 0.7, "light"), Pull((40.0, 30.0), 0.7, "dark")]
        found = self.said(strong=pulls)
        self.assertEqual([one.at for one in found], [(0.25, 0.25), (0.75, 0.75), (0.5, 0.5)])
        self.assertEqual([one.level for one in found], ["look", "note", "note"])
        named = self.said(strong=pulls, named=lambda at: "bib")
        self.assertEqual([one.says.split(" in the")[0] for one in named], ["A light place", "A dark place"])
        self.assertEqual([one.key for one in named], ["pull0", "pull1"])

    def test_touches_and_lone_colours_are_placed_too(self):
        (touch,) = self.said(close=[Touch((100.0, 30.0), ("Ear", "the upper border"), 2.0)])
        self.assertEqual((touch.at, touch.says), ((0.25, 0.1), "Ear just touches the upper border."))
        (touch,) = self.said(close=[Touch((100.0, 30.0), ("Ear", "Near Tail"), -0.5)])
        self.assertEqual((touch.number[0], touch.says), ("0", "Ear just touches near tail."))
        (lone,) = self.said(lone=[LoneColour((8.0, 45.0), (50.0, 50.0, 10.0), 0.012)])
        self.assertEqual((lone.at, lone.says), ((0.1, 0.75), "A middle strong red occurs only once."))


if __name__ == "__main__":
    unittest.main()
