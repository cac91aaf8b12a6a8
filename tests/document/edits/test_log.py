"""What is told at the easel, and what of it the days and the pace know."""

import unittest
from dataclasses import replace
from datetime import datetime, timedelta

from foxpath.core.errors import InputError
from foxpath.core.log.entries import Entry, standing
from foxpath.core.log.reading import step_now
from foxpath.core.log.words import entry_words
from foxpath.document import archive, edits
from foxpath.document.model import KeptPicture
from foxpath.document.photos import kept_photo
from tests.made import picture, project

EVENING = datetime(2026, 3, 2, 19, 15)
STEP = Entry("", "step", "", "darks.z1", "darks.z1/0", "Square", "Darks")


def kept(one):
    """Return ids, names and contents of a project's pictures."""
    return [(each.id, each.reference.name, each.reference.digest) for each in one.pictures]


class Log(unittest.TestCase):
    def setUp(self):
        self.made = edits.begin_step(edits.tell(project(), "begin", EVENING), STEP, EVENING)

    def at(self, minutes):
        return EVENING + timedelta(minutes=minutes)

    def test_a_step_that_finishes_its_task_is_done_for_the_days(self):
        made = edits.end_step(self.made, "done", self.at(20), finishes=True)
        (row,) = made.days.done
        self.assertEqual((row.task, row.begin, row.end), ("darks.z1", "2026-03-02T19:15", "2026-03-02T19:35"))
        self.assertIsNone(step_now(made.told))

    def test_one_that_does_not_is_begun_and_one_that_is_skipped_is_nothing(self):
        for kind, finishes in (("done", False), ("part", True)):
            made = edits.end_step(self.made, kind, self.at(20), finishes=finishes)
            self.assertEqual((len(made.days.begun), made.days.done), (1, ()))
        made = edits.end_step(self.made, "skip", self.at(20), finishes=True, text="not sure yet")
        self.assertEqual((made.days.begun, made.days.done), ((), ()))
        self.assertEqual(made.told[-1].text, "not sure yet")

    def test_a_moment_is_a_minute_at_least(self):
        made = edits.end_step(self.made, "done", self.at(0), finishes=True)
        self.assertEqual(made.days.done[0].end, "2026-03-02T19:16")

    def test_nothing_goes_on_and_nothing_is_there_to_take_back(self):
        with self.assertRaises(InputError):
            edits.end_step(project(), "done", EVENING, finishes=True)
        with self.assertRaises(InputError):
            edits.take_back(edits.tell(project(), "begin", EVENING), EVENING)

    def test_taken_back_and_corrected_it_stays_in_the_log(self):
        made = edits.tell(self.made, "dark", self.at(5), part="Square")
        back = edits.take_back(made, self.at(6))
        self.assertEqual(len(back.told), len(made.told) + 1)
        self.assertNotIn("dark", [one.kind for one in standing(back.told)])
        noted = edits.tell(self.made, "note", self.at(5), text="too colld")
        right = edits.correct(noted, noted.told[-1].ref, "too cold", self.at(6))
        self.assertEqual([one.text for one in standing(right.told) if one.kind == "note"], ["too cold"])
        self.assertIn("too colld", [one.text for one in right.told])

    def test_a_note_of_likeness_shows_a_picture_that_is_kept_once(self):
        shown = kept_photo("ear.png", picture(300, 240))
        made = edits.tell_likeness(project(), EVENING, "Square", " stands further back ", shown)
        made = edits.tell_likeness(made, self.at(5), "", "narrower than it looks", shown)
        made = edits.tell_likeness(made, self.at(9), "Square", "", kept_photo("other.png", picture(320, 240)))
        self.assertEqual([one.picture for one in made.told], [made.pictures[0].id] * 2 + [made.pictures[1].id])
        self.assertEqual((made.told[0].text, made.told[0].part), ("stands further back", "Square"))
        self.assertEqual(
            [entry_words(one) for one in made.told[:2]],
            [
                "likeness of Square: stands further back (with a picture)",
                "likeness: narrower than it looks (with a picture)",
            ],
        )
        with self.assertRaisesRegex(InputError, "says nothing"):
            edits.tell_likeness(made, EVENING, "Square", "  ")
        back = archive.from_bytes(archive.to_bytes(made), "x")
        self.assertEqual((kept(back), back.told), (kept(made), made.told))
        self.assertEqual(back.picture(made.told[2].picture).reference.name, "other.jpg")
        self.assertIsNone(back.picture("none"))

    def test_what_a_painting_is_made_of(self):
        made = edits.tell_material(project(), EVENING, "support", " linen, two coats ")
        self.assertEqual(
            (made.told[-1].kind, made.told[-1].part, made.told[-1].text), ("material", "support", "linen, two coats")
        )
        self.assertEqual(entry_words(made.told[-1]), "support: linen, two coats")
        for what, text in (("hope", "much"), ("varnish", "  ")):
            with self.assertRaises(InputError):
                edits.tell_material(made, EVENING, what, text)

    def test_a_photograph_that_came_is_kept_with_its_animal(self):
        shown = kept_photo("garden.png", picture(300, 240))
        made = edits.add_received(project(), EVENING.date(), "garden.jpg", " Runa", "show", shown)
        made = edits.add_received(made, EVENING.date(), "by post", "Runa")
        self.assertEqual([one.picture for one in made.commission.photographs], [made.pictures[0].id, ""])
        back = archive.from_bytes(archive.to_bytes(made), "x")
        self.assertEqual((back.commission, kept(back)), (made.commission, kept(made)))
        full = replace(made, pictures=tuple(KeptPicture(f"p{k}", made.pictures[0].reference) for k in range(200)))
        self.assertEqual(edits.keep_picture(full, shown)[1], "p0")
        with self.assertRaisesRegex(InputError, "200"):
            edits.keep_picture(full, kept_photo("new.png", picture(310, 240)))

    def test_reminders(self):
        self.assertEqual(edits.set_easel(self.made, back=0).easel.back, 0)
        with self.assertRaises(InputError):
            edits.set_easel(self.made, back=999)


if __name__ == "__main__":
    unittest.main()
