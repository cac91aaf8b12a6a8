"""Answers over weeks: levels, what has changed, what is forgotten, what is worth while."""

import unittest
from datetime import date, timedelta

import numpy as np

from foxpath.core.practice.drills import DRILLS, drill_called
from foxpath.core.practice.task import Seen
from foxpath.core.practice.threshold import Threshold, share_right
from foxpath.core.practice.weeks import (
    Advice,
    Answered,
    advice,
    as_csv,
    change_words,
    level_words,
    of_drill,
    standing,
    value_words,
    within,
)

GROWTH, OVER, LOSE = drill_called("growth"), drill_called("over"), drill_called("lose")
TODAY = date(2026, 3, 1)


def sitting(back, error, drill="growth", count=12, seed=0):
    rng = np.random.default_rng([back, seed])
    day = TODAY - timedelta(days=back)
    return [
        Answered(f"{day}T{19 + k // 60}:{k % 60:02d}", drill, k, right=True, error=abs(float(rng.normal(0, error / 1.15))), picture="Blob") for k in range(count)
    ]  # fmt: skip


class Levels(unittest.TestCase):
    def test_days_stand_in_their_order_with_all_that_was_answered_to_then(self):
        answers = [*sitting(2, 8), *sitting(20, 30), *sitting(9, 15)]
        one = standing(GROWTH, [*answers, *sitting(1, 5, "match")])
        self.assertEqual([d.day for d in one.days], [TODAY - timedelta(days=b) for b in (20, 9, 2)])
        self.assertEqual([d.answers for d in one.days], [12, 12, 12])
        values = [d.level.value for d in one.days]
        self.assertEqual(values, sorted(values, reverse=True))
        self.assertIs(one.level, one.days[-1].level)
        self.assertEqual(len(of_drill(answers, "match")), 0)

    def test_a_level_is_written_in_the_painter_s_unit(self):
        self.assertEqual(level_words(GROWTH, None), "not yet")
        self.assertEqual(level_words(GROWTH, Threshold(11.4, 9, 14, 2)), "not yet")
        self.assertEqual(level_words(GROWTH, Threshold(11.4, 9, 14, 20)), "11°")
        self.assertEqual(value_words(drill_called("match"), 6.23), "6.2 L*")
        self.assertEqual(value_words(LOSE, 1.84), "×1.8")
        self.assertEqual(value_words(drill_called("big"), 0.21), "21 % over")
        # Eighteen of eighteen is no proof of never being wrong.
        self.assertEqual(level_words(OVER, share_right([Seen(True, choices=2)] * 18)), "9 of 10")

    def test_within_what_was_reached(self):
        before = Threshold(10, 8, 13, 20)
        self.assertTrue(within(GROWTH, before, Threshold(12.9, 10, 15, 30)))
        self.assertFalse(within(GROWTH, before, Threshold(13.1, 10, 15, 30)))
        was = share_right([Seen(k % 5 > 0, choices=2) for k in range(40)])
        self.assertFalse(within(OVER, was, share_right([Seen(k % 2 > 0, choices=2) for k in range(40)])))
        self.assertTrue(within(OVER, was, share_right([Seen(True, choices=2)] * 40)))


class Forgetting(unittest.TestCase):
    def test_the_half_life_doubles_with_what_holds_and_halves_with_what_does_not(self):
        held = standing(GROWTH, [*sitting(30, 10), *sitting(20, 10), *sitting(10, 10)])
        self.assertEqual(held.half_life, 8.0)
        lost = standing(GROWTH, [*sitting(30, 6), *sitting(20, 6), *sitting(10, 60)])
        self.assertEqual(lost.half_life, 2.0)
        self.assertEqual(standing(GROWTH, sitting(3, 9)).half_life, 2.0)

    def test_it_keeps_between_a_day_and_two_months(self):
        many = [a for back in range(40, 0, -2) for a in sitting(back, 10)]
        self.assertEqual(standing(GROWTH, many).half_life, 64.0)
        worse = [a for k, back in enumerate(range(40, 20, -4)) for a in sitting(back, 4 * 2.4**k)]
        self.assertEqual(standing(GROWTH, worse).half_life, 1.0)

    def test_after_a_half_life_half_is_recalled_and_then_it_is_due(self):
        one = standing(GROWTH, [*sitting(10, 10), *sitting(4, 10)])
        self.assertEqual(one.half_life, 4.0)
        self.assertAlmostEqual(one.recalled(TODAY), 0.5)
        self.assertFalse(one.due(TODAY))
        self.assertTrue(one.due(TODAY + timedelta(days=1)))
        self.assertAlmostEqual(one.recalled(TODAY + timedelta(days=4)), 0.25)
        self.assertEqual(one.recalled(TODAY - timedelta(days=30)), 1.0)
        self.assertEqual(standing(GROWTH, []).recalled(TODAY), 0.0)


class Changes(unittest.TestCase):
    def test_what_has_changed_is_said_against_the_doubt(self):
        self.assertIn("Not practised", change_words(GROWTH, standing(GROWTH, [])))
        self.assertIn("One sitting", change_words(GROWTH, standing(GROWTH, sitting(3, 9))))
        same = standing(GROWTH, [*sitting(30, 10), *sitting(2, 10)])
        self.assertIn("No change", change_words(GROWTH, same))
        better = standing(GROWTH, [*sitting(60, 40, count=24), *sitting(30, 22, count=40), *sitting(2, 6, count=80)])
        words = change_words(GROWTH, better)
        self.assertTrue("better" in words or "times as good" in words, words)
        self.assertIn("30 Jan" if "30 Jan" in words else "31 Dec", words)
        worse = standing(GROWTH, [*sitting(60, 5, count=30), *sitting(2, 30, count=90)])
        self.assertIn("worse", change_words(GROWTH, worse))


class Worth(unittest.TestCase):
    def test_own_errors_come_first_then_what_is_forgotten_then_what_is_new(self):
        known = {"match": standing(drill_called("match"), [*sitting(40, 8, "match"), *sitting(30, 8, "match")])}
        made = advice(DRILLS, known, {"growth": 3, "edge": 1}, TODAY, 5)
        self.assertEqual(made[0], Advice("growth", "hair against its growth was found 3 times", strong=True))
        self.assertTrue(made[1].strong)
        self.assertIn("edge", drill_called(made[1].drill).mends)
        self.assertIn("found once", made[1].why)
        self.assertEqual((made[2].drill, made[2].why), ("match", "30 days ago: half of it is being forgotten"))
        self.assertEqual(made[3].why, "not tried yet")
        self.assertEqual(len({one.drill for one in made}), 5)
        self.assertEqual(len(advice(DRILLS, known, {}, TODAY, 3)), 3)

    def test_what_was_done_today_is_not_asked_for_again(self):
        known = {"growth": standing(GROWTH, sitting(0, 9))}
        made = advice([GROWTH, OVER], known, {"growth": 5}, TODAY)
        self.assertEqual([one.drill for one in made], ["over"])

    def test_an_error_that_no_drill_mends_asks_for_none(self):
        self.assertEqual(advice([GROWTH], {"growth": standing(GROWTH, sitting(0, 9))}, {"bare": 4}, TODAY), ())


class Export(unittest.TestCase):
    def test_every_answer_is_a_row(self):
        text = as_csv([*sitting(1, 9, count=2), *sitting(5, 9, count=1)], {"growth": "°"})
        rows = text.splitlines()
        self.assertEqual(rows[0], "at,drill,seed,right,size,error,unit,choices,picture")
        self.assertEqual(len(rows), 4)
        self.assertTrue(rows[1].startswith("2026-02-24T19:00,growth,0,1,0,"))
        self.assertTrue(rows[1].endswith(",°,0,Blob"))


if __name__ == "__main__":
    unittest.main()
