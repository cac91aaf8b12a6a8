import unittest

from foxpath.core.passes.words import density_words, medium_parts, medium_words, step_of, value_words


class Words(unittest.TestCase):
    """Numbers a hand can follow, at their bounds."""

    def test_nine_steps_from_black_to_white(self):
        self.assertEqual([step_of(v) for v in (0, 10, 14.9, 15.1, 50, 84.9, 90, 100)], [1, 1, 1, 2, 5, 8, 9, 9])

    def test_values_are_steps_with_their_lightness_behind(self):
        self.assertEqual(value_words(27, 63), "values 3 to 6 of 9 (L* 27 to 63)")
        self.assertEqual(value_words(48, 52.5), "value 5 of 9 (L* 48 to 52)")
        self.assertEqual(value_words(70, 71.9), "value 7 of 9 (L* 72)")

    def test_medium_rises_in_oil_and_in_drops(self):
        said = [medium_words(fat, 0.3, "oil") for fat in (0.05, 0.1, 0.2, 0.35, 0.4, 0.5, 0.9)]
        self.assertEqual(said[0], "thinner alone, 2 drops to a hazelnut")
        self.assertEqual(said[2], "1 oil : 3 thinner, 3 drops to a hazelnut")
        self.assertEqual(said[-1], "2 oil : 1 alkyd, 5 drops to a hazelnut")
        self.assertEqual(len(set(said)), len(said))
        drops = [int(one.split(", ")[1].split()[0]) for one in said]
        self.assertEqual(drops, sorted(drops))

    def test_acrylic_takes_water_and_less_of_it_the_thicker_it_lies(self):
        self.assertEqual([medium_words(0, body, "acrylic") for body in (0.1, 0.2, 0.5)],
                         [f"water, {n} drops to a hazelnut" for n in (5, 3, 2)])  # fmt: skip

    def test_where_room_is_scarce_the_parts_alone_are_said(self):
        self.assertEqual([medium_parts(0.4, "oil"), medium_parts(0.4, "acrylic")], ["1 oil : 1 thinner", "water"])

    def test_marks_are_told_by_the_square_centimetre(self):
        self.assertEqual(density_words(4000, 100, "strokes"), "40 strokes to a\u00a0cm²")
        self.assertEqual(density_words(10, 100, "tufts"), "one of the tufts to 10\u00a0cm²")
        self.assertEqual(density_words(10, 0, "tufts"), "")


if __name__ == "__main__":
    unittest.main()
