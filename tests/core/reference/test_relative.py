"""One spot against another, in words whose bounds are known."""

import unittest

import numpy as np

from foxpath.core.reference.relative import colour_words, relation, step_words


def lab(*values):
    return np.array(values, np.float32)


class Relations(unittest.TestCase):
    def test_each_step_begins_at_its_bound(self):
        bounds = ((0.99, ""), (1.0, "just visibly"), (3.0, "a little"), (6.0, "clearly"), (14.0, "much"))
        self.assertEqual([step_words(amount) for amount, _ in bounds], [words for _, words in bounds])

    def test_every_direction_is_named_as_b_stands_to_a(self):
        for a, b, words in (
            ((50, 0, 0), (58, 0, 0), "clearly lighter"),
            ((50, 0, 0), (48, 0, 0), "just visibly darker"),
            ((50, 10, 0), (50, 30, 0), "much redder, much stronger"),
            ((50, 30, 0), (50, 10, 0), "much greener, much greyer"),
            ((50, 0, 10), (50, 0, 14), "a little yellower, a little stronger"),
            ((50, 0, -10), (50, 0, -14), "a little bluer, a little stronger"),
        ):
            found = relation(lab(*a), lab(*b))
            self.assertEqual(found.words, words)
            self.assertEqual(
                (found.lightness, found.red, found.yellow), tuple(q - p for p, q in zip(a, b, strict=True))
            )

    def test_what_no_eye_tells_apart_is_the_same(self):
        found = relation(lab(50, 0, 90), lab(50, 0, 92))
        self.assertLess(found.apart, 1)
        self.assertEqual(found.words, "the same to the eye")

    def test_a_colour_is_named_plainly(self):
        for values, words in (
            ((10, 0, 0), "very dark grey"),
            ((18, 3, 0), "dark grey"),
            ((50, 4, 0), "middle greyish red"),
            ((70, 10, 6), "light greyish russet"),
            ((70, 21, 20), "light russet"),
            ((90, 0, 60), "very light strong yellow"),
            ((50, 0, -40), "middle strong blue"),
            ((50, 30, -3), "middle red"),
            ((50, 30, -12), "middle rose"),
            ((50, -20, 0), "middle blue green"),
        ):
            self.assertEqual(colour_words(lab(*values)), words, values)


if __name__ == "__main__":
    unittest.main()
