import unittest

from foxpath.core.arrays import FARTHEST_PX, as_points
from foxpath.core.findings import Finding, worst_first
from foxpath.core.text import sound_text
from foxpath.core.units import with_article


class Findings(unittest.TestCase):
    def test_worst_first_then_by_weight_then_as_found(self):
        made = [
            Finding("note", "a", "", "x"),
            Finding("look", "b", "", "x", weight=0.2),
            Finding("must", "c", "", "x"),
            Finding("look", "d", "", "x", weight=0.9),
            Finding("", "e", "", "x", weight=9),
            Finding("look", "f", "", "x", weight=0.2),
        ]
        self.assertEqual("".join(one.says for one in worst_first(made)), "cdbfae")

    def test_what_asks_for_something(self):
        self.assertEqual(
            [Finding(level, "", "", "").asks for level in ("must", "look", "note", "")], [True, True, False, False]
        )


class Words(unittest.TestCase):
    def test_names_in_a_sentence(self):
        self.assertEqual(
            [with_article(name) for name in ("Near ear", "Part 1", "The bib")], ["the near ear", "part 1", "the bib"]
        )

    def test_half_characters_become_stand_ins_and_whole_ones_stay(self):
        self.assertEqual(sound_text("Füchsin 🦊 \udcff.png"), "Füchsin 🦊 \ufffd.png")
        self.assertEqual(sound_text("plain"), "plain")
        sound_text("\ud83e").encode()


class Points(unittest.TestCase):
    def test_what_is_no_row_of_places_is_refused_by_name(self):
        for value, words in (
            ([[1, 2]], "at least 2 points, got 1"),
            ([[1, 2, 3], [4, 5, 6]], "pairs, got shape"),
            ([[1, "x"], [2, 3]], "pairs of numbers"),
            ([[1, float("nan")], [2, 3]], "not a finite number"),
            ([[1, 10**400], [2, 3]], "pairs of numbers"),
            ([[1, 2], [2, 1.1 * FARTHEST_PX]], "off every picture"),
            (None, "a comb"),
        ):
            with self.subTest(value=str(value)[:40]), self.assertRaises(ValueError) as caught:
                as_points(value, least=2, what="a comb")
            self.assertIn(words, str(caught.exception))
        self.assertEqual(as_points([[1, 2], [FARTHEST_PX, -FARTHEST_PX]], least=2, what="x").shape, (2, 2))


if __name__ == "__main__":
    unittest.main()
