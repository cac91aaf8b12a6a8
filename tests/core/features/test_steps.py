"""The steps of features: lights and darks they are painted with, their brushes, and what is missing of them."""

import unittest

import numpy as np

from foxpath.core.features import Feature, Stroke, plan_feature
from foxpath.core.features.kinds import FEATURES
from foxpath.core.features.steps import check_feature, part_light, whisker_light
from foxpath.core.lengths import Brush

MM = 0.5
KIT = (Brush("liner", 1), Brush("round", 4), Brush("rake", 10), Brush("flat", 20))
RING = np.stack([np.cos(np.linspace(0, 6.2, 30)), np.sin(np.linspace(0, 6.2, 30))], axis=1)
LINE = np.stack([np.linspace(0, 80, 20), np.zeros(20)], axis=1)


def reader(light):
    def read(points):
        made = np.zeros((len(points), 3), np.float32)
        made[:, 0] = light(*np.asarray(points, float).T)
        return made

    return read


def flat(tone):
    return reader(lambda x, y: np.full(np.shape(x), tone))


def part_of(paint, *, closed=None):
    return next(
        (kind.key, part)
        for kind in FEATURES.values()
        for part in kind.parts
        if part.paint == paint and closed in (None, part.closed)
    )


def feature(kind, *strokes):
    pairs = lambda line: tuple((float(x), float(y)) for x, y in line)  # noqa: E731
    return Feature(
        "n1", kind, FEATURES[kind].name.capitalize(), tuple(Stroke(key, pairs(line)) for key, line in strokes)
    )


class Lights(unittest.TestCase):
    def test_what_each_is_for_bounds_what_is_seen(self):
        for paint, cases in (
            ("dark", ((5, 5), (40, 16))),
            ("light", ((30, 68), (80, 80), (99, 95))),
            ("shine", ((5, 20), (50, 54), (95, 88))),
        ):
            _, part = part_of(paint)
            for seen, wanted in cases:
                self.assertAlmostEqual(part_light(part, 40 * RING, flat(seen)), wanted, places=4, msg=f"{paint} {seen}")

    def test_a_whisker_that_stands_out_is_as_it_is_seen(self):
        for own, ground, wanted in ((80, 40, 80), (20, 60, 20), (99, 40, 95), (2, 60, 8)):
            read = reader(lambda x, y, o=own, g=ground: np.where(np.abs(y) < 3, o, g))
            self.assertAlmostEqual(whisker_light(LINE, read), wanted, places=4)

    def test_one_that_does_not_is_light_over_dark_or_dark_over_light(self):
        for ground, wanted in ((61, 92.0), (63, 14.0), (20, 92.0)):
            self.assertEqual(whisker_light(LINE, flat(ground)), wanted)
            almost = reader(lambda x, y, g=ground: np.where(np.abs(y) < 3, g + 5.9, g))
            self.assertEqual(whisker_light(LINE, almost), wanted)


class Brushes(unittest.TestCase):
    def step(self, kit, canvas=500.0):
        (key, part) = part_of("hair")
        (made,) = plan_feature(feature(key, (part.key, LINE)), flat(40), kit, MM, canvas)
        return made

    def test_whiskers_are_as_fine_as_the_canvas_is_small(self):
        wide = self.step(KIT).width_mm
        self.assertAlmostEqual(self.step(KIT, 2000.0).width_mm, 2 * wide, delta=0.02)
        # But never finer than the kit's finest mark: 0.3 mm.
        self.assertEqual(self.step(KIT, 1.0).width_mm, 0.3)

    def test_the_broadest_that_is_fine_enough_and_no_rake(self):
        self.assertEqual(self.step(KIT).brush, KIT[0])
        self.assertEqual(self.step((*KIT, Brush("liner", 0.5))).brush, KIT[0])
        # Where all are too broad, the narrowest that leaves so fine a mark.
        self.assertEqual(self.step((Brush("round", 3), Brush("round", 2.6))).brush, Brush("round", 2.6))
        self.assertIsNone(self.step((Brush("mop", 20),)).brush)


class Missing(unittest.TestCase):
    def found(self, made, kit=KIT):
        steps = plan_feature(made, flat(40), kit, MM, 500.0)
        return {one.key: one for one in check_feature(made, steps, kit)}

    def test_a_nose_needs_its_nostrils_and_its_light_above(self):
        nose = 40 * RING + (100, 100)
        self.assertIn("nostrils", self.found(feature("nose", ("skin", nose))))
        self.assertEqual(self.found(feature("nose")), {})
        for down, low in ((100.0, False), (115.0, True)):
            light = np.array([(90.0, down), (100, down), (110, down), (100, down + 0.5)])
            made = feature("nose", ("skin", nose), ("nostril", 8 * RING + (90, 110)), ("light", light))
            found = self.found(made)
            self.assertEqual("light" in found, low, down)
            self.assertNotIn("nostrils", found)

    def test_whiskers_finer_than_the_kit_are_said(self):
        (key, part) = part_of("hair")
        made = feature(key, (part.key, LINE))
        if key == "whiskers":
            self.assertNotIn("fine", self.found(made, (Brush("liner", 0.5),)))
            self.assertIn("fine", self.found(made, (Brush("round", 6),)))


if __name__ == "__main__":
    unittest.main()
