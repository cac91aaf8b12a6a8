import unittest
from dataclasses import replace

from foxpath.core.eyes.heads import heads_of
from tests.core.eyes import test_placement


def at(name, x, y, radius=10.0):
    made = test_placement.eye((x, y), 0.0, name)
    return replace(made, id=name, iris=replace(made.iris, cx=x, cy=y, rx=radius, ry=radius))


def ids(eyes, animals=None):
    return [tuple(one.id for one in head) for head in heads_of(eyes, animals or [""] * len(eyes))]


class Heads(unittest.TestCase):
    """Every eye once, at most a pair a head."""

    def test_two_eyes_are_a_pair_left_to_right_whatever_they_look_like(self):
        self.assertEqual(ids([at("b", 900, 40, 30), at("a", 10, 40)]), [("a", "b")])

    def test_a_third_eye_is_one_by_itself_and_the_pair_stays(self):
        self.assertEqual(ids([at("a", 100, 100), at("b", 200, 104), at("c", 700, 100)]), [("a", "b"), ("c",)])

    def test_two_animals_have_a_pair_each_the_nearest_and_most_alike(self):
        four = [at("a", 100, 100), at("c", 420, 90, 12), at("b", 190, 110), at("d", 520, 95, 12)]
        self.assertEqual(ids(four), [("a", "b"), ("c", "d")])

    def test_what_is_too_near_too_far_or_unlike_is_no_pair(self):
        third = at("z", 5000, 5000)
        for other, paired in ((at("b", 100 + 31, 100), False), (at("b", 100 + 33, 100), True), (at("b", 100 + 279, 100), True),
                              (at("b", 100 + 281, 100), False), (at("b", 250, 100, 23), False), (at("b", 250, 100, 21), True)):  # fmt: skip
            self.assertEqual(("a", "b") in ids([at("a", 100, 100), other, third]), paired, other.iris)

    def test_the_animal_that_was_said_goes_before_what_is_likely(self):
        eyes = [at("a", 100, 100), at("b", 190, 100), at("c", 280, 100), at("d", 370, 100)]
        self.assertEqual(ids(eyes, ["Ox", "Hen", "Ox", "Hen"]), [("a", "c"), ("b", "d")])
        self.assertEqual(ids(eyes[:3], ["Ox", "Hen", "Ox"]), [("a", "c"), ("b",)])

    def test_none_without_eyes(self):
        self.assertEqual(ids([]), [])


if __name__ == "__main__":
    unittest.main()
