"""The log: what is told stays, what follows from it is right to the minute, across breaks, summer time and corrections."""

import csv
import io
import os
import time
import unittest
from datetime import datetime, timedelta
from unittest import mock

from foxpath.core.days.tasks import Relation, Task
from foxpath.core.errors import InputError
from foxpath.core.log.easel import Easel, check_easel, sound_easel
from foxpath.core.log.entries import MOST, MOST_TEXT, Entry, add, sound_entries, standing
from foxpath.core.log.reading import (
    carried_over,
    ended,
    minutes_of,
    open_sitting,
    parts,
    paused,
    search,
    sittings,
    step_now,
)
from foxpath.core.log.timers import QUICK_H, Timer, windows
from foxpath.core.log.words import as_csv, as_text, entry_words, part_words, sitting_words

EVENING = datetime(2026, 3, 2, 19, 0)


def told(*said, begin=EVENING):
    """Return a log: (minutes from the begin, kind, step, text) each; of step "a.1" the task is "a" and the part "part 1"."""
    made = ()
    for minutes, kind, *more in said:
        step, text = (*more, "", "")[:2]
        given = {"text": text}
        if step:
            given |= {"task": step.split(".")[0], "step": step, "part": f"part {step.split('.')[1]}", "act": "Top coat"}
        made = add(made, kind, begin + timedelta(minutes=minutes), **given)
    return made


EVENING_OF_TWO = (
    (0, "begin"), (0, "step", "a.1"), (20, "pause"), (30, "resume"), (45, "done", "a.1"), (45, "step", "a.2"),
    (60, "dark", "a.2"), (70, "part", "a.2"), (75, "note", "a.2", "the corner is lost"), (80, "end"),
)  # fmt: skip


class Entries(unittest.TestCase):
    def test_words_are_only_added_and_numbered(self):
        log = told(*EVENING_OF_TWO)
        self.assertEqual([one.ref for one in log], [f"l{k}" for k in range(1, 11)])
        self.assertEqual(log[0].local, EVENING)
        longer = add(log, "note", EVENING, text="x" * 5000)
        self.assertEqual((longer[:-1], len(longer[-1].text)), (log, MOST_TEXT))
        for kind, given in (("sing", {}), ("correct", {"of": "l99"}), ("back", {})):
            with self.assertRaises(InputError):
                add(log, kind, EVENING, **given)

    def test_a_correction_keeps_the_first_word_and_can_itself_be_taken_back(self):
        log = add(told(*EVENING_OF_TWO), "correct", EVENING, of="l9", text="the corner is found")
        (note,) = [one for one in standing(log) if one.kind == "note"]
        self.assertEqual(note.text, "the corner is found")
        self.assertEqual(next(one for one in log if one.ref == "l9").text, "the corner is lost")
        again = add(log, "back", EVENING, of="l11")
        (note,) = [one for one in standing(again) if one.kind == "note"]
        self.assertEqual(note.text, "the corner is lost")
        gone = add(log, "back", EVENING, of="l9")
        self.assertEqual([one for one in standing(gone) if one.kind == "note"], [])
        # What was taken back is taken back no more once that was.
        self.assertEqual(len([one for one in standing(add(gone, "back", EVENING, of="l12")) if one.kind == "note"]), 1)

    def test_what_cannot_be_is_left_out_of_a_file(self):
        good = told((0, "begin"))[0]
        bad = [
            Entry("l2", "sing", good.at), Entry("l3", "note", "noon"), Entry("l4", "note", "2026-03-02T19:00:00"),
            Entry("l1", "note", good.at), Entry("l5", "back", good.at, of="l77"), Entry("l6", "note", "0001-01-01T00:00:00+00:00"),
        ]  # fmt: skip
        self.assertEqual(sound_entries([good, *bad]), (good,))

    def test_a_full_log_says_so_and_years_have_bounds(self):
        one = told((0, "begin"))[0]
        self.assertEqual(len(add([one] * (MOST - 1), "note", EVENING, text="last")), MOST)
        with self.assertRaisesRegex(InputError, "20000 entries"):
            add([one] * MOST, "note", EVENING, text="one too many")
        years = [Entry(f"l{year}", "note", f"{year}-06-01T12:00:00+00:00") for year in (1989, 1990, 2200, 2201)]
        self.assertEqual([entry.ref for entry in sound_entries(years)], ["l1990", "l2200"])
        back = Entry("l2", "back", one.at, of=one.ref)
        self.assertEqual(sound_entries([one, back]), (one, back))

    def test_a_change_of_summer_time_changes_no_length(self):
        with mock.patch.dict(os.environ, {"TZ": "Europe/Paris"}):
            time.tzset()
            try:
                # At two in the night of the 29th of March the clock jumps to three.
                log = told((0, "begin"), (0, "step", "a.1"), begin=datetime(2026, 3, 29, 1, 30))
                log = add(log, "done", datetime(2026, 3, 29, 3, 30), task="a", step="a.1", part="part 1")
                log = add(log, "end", datetime(2026, 3, 29, 3, 30))
                self.assertEqual(minutes_of(log), {"a": 60.0})
                self.assertEqual(sittings(log)[0].minutes, 60.0)
            finally:
                os.environ.pop("TZ")
                time.tzset()


class Reading(unittest.TestCase):
    def test_a_sitting_with_its_break_and_steps(self):
        (one,) = sittings(told(*EVENING_OF_TWO))
        self.assertEqual((one.begin, one.end, one.open), (EVENING, EVENING + timedelta(minutes=80), False))
        self.assertEqual((one.breaks, one.minutes), (10.0, 70.0))
        self.assertEqual(
            [(s.step, s.minutes, s.how) for s in one.steps], [("a.1", 35.0, "done"), ("a.2", 25.0, "part")]
        )
        self.assertEqual(minutes_of(told(*EVENING_OF_TWO)), {"a": 60.0})

    def test_who_goes_on_without_a_word_has_come_back(self):
        log = told((0, "begin"), (0, "step", "a.1"), (10, "pause"), (25, "done", "a.1"), (25, "end"))
        (one,) = sittings(log)
        self.assertEqual((one.breaks, one.steps[0].minutes), (15.0, 10.0))

    def test_a_word_said_in_a_break_does_not_end_it(self):
        log = told((0, "begin"), (0, "step", "a.1"), (10, "pause"), (12, "note", "", "tea"), (14, "pause"), (30, "end"))
        (one,) = sittings(log)
        self.assertEqual((one.breaks, one.steps[0].minutes, one.steps[0].how), (20.0, 10.0, ""))
        self.assertTrue(paused(log[:5]))

    def test_what_is_done_without_having_been_begun_ends_no_step(self):
        log = told(
            (0, "begin"), (5, "done", "a.1"), (6, "step", "a.2"), (10, "skip", ""), (20, "done", "a.2"), (30, "end")
        )
        self.assertEqual([(one.step, one.minutes, one.how) for one in sittings(log)[0].steps], [("a.2", 4.0, "skip")])
        # The hand stays at its step while another is told of.
        other = told((0, "begin"), (6, "step", "a.2"), (10, "done", "a.1"))
        self.assertEqual(step_now(other).step, "a.2")
        self.assertEqual(ended(log), {"a.1": "done", "a.2": "done"})

    def test_a_step_told_late_takes_no_time_below_nothing(self):
        log = told(
            (0, "begin"),
            (30, "step", "a.1"),
            (20, "done", "a.1"),
            (20, "step", "a.2"),
            (21, "done", "a.2"),
            (40, "end"),
        )
        self.assertEqual([one.minutes for one in sittings(log)[0].steps], [0.0, 1.0])

    def test_the_sitting_that_goes_on_is_the_last(self):
        log = told((0, "begin"), (9, "end"), (20, "begin"), (29, "end"), (40, "begin"), (45, "note", "", "x"))
        self.assertEqual(open_sitting(log).begin, EVENING + timedelta(minutes=40))

    def test_one_that_was_never_ended_is_ended_by_the_next(self):
        log = told((0, "begin"), (0, "step", "a.1"), (30, "dark", "a.1"), (1440, "begin"), (1440, "step", "a.1"))
        first, second = sittings(log)
        self.assertEqual((first.open, first.end), (True, EVENING + timedelta(minutes=30)))
        self.assertEqual(first.steps[0].minutes, 30.0)
        self.assertTrue(second.open)
        self.assertEqual(open_sitting(log).begin, EVENING + timedelta(days=1))
        self.assertIsNone(open_sitting(told(*EVENING_OF_TWO)))

    def test_where_the_hand_is(self):
        log = told(*EVENING_OF_TWO)
        self.assertEqual(step_now(log[:2]).step, "a.1")
        self.assertFalse(paused(log[:2]))
        self.assertTrue(paused(log[:3]))
        self.assertFalse(paused(log[:4]))
        self.assertIsNone(step_now(log[:5]))
        self.assertEqual(step_now(log[:7]).step, "a.2")
        self.assertIsNone(step_now(log))
        self.assertEqual(ended(log), {"a.1": "done", "a.2": "part"})

    def test_what_is_left_is_carried_over_until_it_is_done(self):
        log = told(*EVENING_OF_TWO[:-1], (76, "undone", "a.2", "ran out of light"), (80, "end"))
        (left,) = carried_over(log)
        self.assertEqual((left.part, left.why), ("part 2", "ran out of light"))
        done = add(log, "done", EVENING + timedelta(days=1), task="a", step="a.2", part="part 2")
        self.assertEqual(carried_over(done), ())
        skipped = told((0, "begin"), (0, "step", "a.1"), (5, "skip", "a.1"))
        self.assertEqual(carried_over(skipped)[0].why, "left for later")

    def test_what_a_part_has_been_through(self):
        log = told(
            (0, "begin"), (0, "step", "a.1"), (10, "dark", "a.1"), (20, "done", "a.1"), (20, "end"),
            (1440, "begin"), (1440, "step", "a.1"), (1450, "dark", "a.1"), (1470, "done", "a.1"), (1470, "end"),
        )  # fmt: skip
        (one,) = parts(log)
        self.assertEqual((one.part, one.sittings, one.minutes, one.restated), ("part 1", 2, 50.0, 1))
        self.assertEqual(one.said, {"dark": 2})
        self.assertEqual(part_words(one), "2 sittings, 50 min, restated 1 time, 2× too dark")
        self.assertEqual(parts(told(*EVENING_OF_TWO))[1].notes, ("the corner is lost",))

    def test_words_that_are_about_no_part(self):
        log = told(
            (0, "begin"), (1, "dark"), (2, "note", "", "the lamp flickers"), (3, "note", "a.1"), (4, "dark", "a.2")
        )
        self.assertEqual(
            [(one.part, one.said, one.notes, one.restated) for one in parts(log)], [("part 2", {"dark": 1}, (), 0)]
        )
        begun = told((0, "begin"), (0, "step", "a.1"), (9, "skip", "a.1"), (9, "step", "a.1"), (12, "part", "a.1"))
        self.assertEqual((parts(begun)[0].restated, parts(begun)[0].minutes), (0, 12.0))

    def test_searched_by_every_word(self):
        log = told(*EVENING_OF_TWO)
        self.assertEqual([one.ref for one in search(log, "CORNER lost")], ["l9"])
        self.assertEqual([one.ref for one in search(log, "too dark")], ["l7"])
        self.assertEqual(search(log, "corner found"), ())
        self.assertEqual(len(search(log, "")), 10)


class Written(unittest.TestCase):
    def test_as_a_story(self):
        text = as_text(told(*EVENING_OF_TWO), "Vixen")
        for words in (
            "Monday 2 March 2026, 19:00 to 20:20: 1 h 10, 10 min of breaks, 1 step done", "  19:00  begins top coat of part 1",
            "  20:00  top coat of part 2: too dark", "the corner is lost", "Part by part", "Carried over",
        ):  # fmt: skip
            self.assertIn(words, text)
        self.assertIn("Nothing was painted yet", as_text((), "Vixen"))
        loose = as_text(told((0, "note", "", "bought linen")), "Vixen")
        self.assertIn("Between sittings", loose)

    def test_as_rows_that_no_table_takes_for_a_formula(self):
        log = add(told(*EVENING_OF_TWO), "note", EVENING, text='=HYPERLINK("x"), "and" more')
        rows = list(csv.reader(io.StringIO(as_csv(log))))
        self.assertEqual(len(rows), len(log) + 1)
        self.assertEqual(rows[0][:3], ["ref", "at", "kind"])
        self.assertEqual(rows[-1][5], '\'=HYPERLINK("x"), "and" more')
        self.assertEqual({len(row) for row in rows}, {9})

    def test_entries_in_words(self):
        self.assertEqual(entry_words(Entry("l1", "room", "", text="20 °C")), "20 °C")
        self.assertEqual(
            entry_words(Entry("l1", "skip", "", part="bib", act="Darks", text="why")),
            "left for later: darks of bib (why)",
        )
        self.assertEqual(entry_words(Entry("l1", "done", "", part="bib")), "done: bib")
        self.assertEqual(entry_words(Entry("l1", "done", "", act="Darks")), "done")
        self.assertIn("goes on", sitting_words(sittings(told((0, "begin")))[0]))

    def test_short_breaks_are_not_spoken_of(self):
        def words(minutes):
            log = told(
                (0, "begin"),
                (0, "step", "a.1"),
                (5, "skip", "a.1"),
                (10, "pause"),
                (10 + minutes, "resume"),
                (30, "end"),
            )
            return sitting_words(sittings(log)[0])

        self.assertEqual(words(2.9), "Monday 2 March 2026, 19:00 to 19:30: 25 min, 0 steps done")
        self.assertIn("5 min of breaks", words(3))


class Timers(unittest.TestCase):
    def setUp(self):
        self.tasks = [Task(k, "p", f"part {k}", "Pass", "paint", 20) for k in ("a", "b", "c", "d")]
        self.relations = [
            Relation("a", "b", "while_open", 0.0, 2.0, 10), Relation("a", "c", "tacky", 1.0, 6.0, 10),
            Relation("a", "d", "touch_dry", 1.5), Relation("b", "d", "while_open", 0.0, 1.0, 10),
        ]  # fmt: skip

    def runs(self, minutes, begun=("a",), ended=("a",)):
        at = dict.fromkeys(begun, EVENING)
        done = {key: EVENING + timedelta(minutes=20) for key in ended}
        now = EVENING + timedelta(minutes=minutes)
        return {
            one.task: (one.kind, round(one.left(now)), one.waits(now))
            for one in windows(self.tasks, self.relations, at, done, now)
        }

    def test_what_closes_and_what_opens(self):
        found = self.runs(30)
        self.assertEqual(found["b"], ("edge", 90, False))
        # Tacky from an hour after its end, at twenty past eight, to six hours after its begin.
        self.assertEqual(found["c"], ("tacky", 50, True))
        self.assertEqual(found["d"], ("dry", 80, True))
        self.assertEqual(self.runs(100)["c"], ("tacky", 260, False))
        self.assertEqual(self.runs(130)["b"][1], -10)
        self.assertNotIn("d", self.runs(120))

    def test_only_what_was_begun_and_what_is_still_to_come(self):
        self.assertEqual(self.runs(30, begun=(), ended=()), {})
        self.assertNotIn("b", self.runs(30, begun=("a", "b"), ended=("a", "b")))
        # As long as it is being painted, nothing waits for its end.
        self.assertNotIn("d", self.runs(10, ended=()))
        self.assertEqual(self.runs(10, ended=())["c"], ("tacky", 350, False))

    def test_the_share_that_is_left(self):
        one = Timer("edge", "x", EVENING, EVENING + timedelta(hours=2), EVENING + timedelta(hours=1))
        shares = [one.share(EVENING + timedelta(minutes=m)) for m in (0, 30, 60, 90, 120, 200)]
        self.assertEqual(shares, [1.0, 0.5, 1.0, 0.5, 0.0, 0.0])
        plain = Timer("edge", "x", EVENING, EVENING + timedelta(hours=2))
        self.assertEqual([plain.share(EVENING + timedelta(minutes=m)) for m in (-30, 30, 150)], [1.0, 0.75, 0.0])
        self.assertEqual(Timer("dry", "x", EVENING, EVENING).share(EVENING), 0.0)
        self.assertEqual(Timer("edge", "x", EVENING, EVENING + timedelta(seconds=1)).share(EVENING), 1.0)

    def test_what_is_mixed_and_what_is_drawn_into(self):
        def words(*relation):
            made = windows(self.tasks, [Relation(*relation)], {"a": EVENING}, {"a": EVENING}, EVENING)
            return [(one.words, one.early) for one in made]

        self.assertEqual(words("a", "b", "mixed", 0.0, 2.0), [("the piles are soft", None)])
        self.assertEqual(words("a", "b", "mixed", 1.0, 2.0), [("oil is drawn out", EVENING + timedelta(hours=1))])
        # What dries within a sitting is waited for; what takes longer is another day's.
        self.assertEqual(words("a", "b", "touch_dry", QUICK_H), [("dry: part a", EVENING + timedelta(hours=QUICK_H))])
        self.assertEqual(words("a", "b", "touch_dry", QUICK_H + 0.1), [])


class Decided(unittest.TestCase):
    def test_reminders_and_the_hand(self):
        check_easel(Easel(back=0, mirror=240))
        for bad in (Easel(back=-1), Easel(air=241), Easel(hand="both")):
            with self.assertRaises(InputError):
                check_easel(bad)
            self.assertEqual(sound_easel(bad), Easel())


if __name__ == "__main__":
    unittest.main()
