"""What was learned of a painter: gathered, written, taken in, and forgotten, in a painting and in the files of all."""

import json
import os
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

from foxpath.core.days.studio import DryNote
from foxpath.core.errors import AppError, InputError
from foxpath.core.lengths import Brush
from foxpath.core.mixes.tubes import KeptTube, OwnTube
from foxpath.core.passes import Logged
from foxpath.derive.easel.learned import learned_facts
from foxpath.document import archive, calendars, cupboard, edits, errors, kits, learned, own, paces, strokes
from tests.made import project

PASS, OTHER = Logged("lights", "lights", 90.0, 60.0, "2026-05-04"), Logged("darks", "darks", 20.0, 20.0)
NOTE = DryNote("jay:darks", "PBr7-BU", "umber", 30.0, "2026-05-04T20:00", "", "2026-05-06T08:00")
LATER = replace(NOTE, task="jay:lights")
WHITE = KeptTube("PW6", taken=1.2, thrown=0.9, looks=3, dries=(-1.0, 0.0, 0.5), dabs=2)
PARTS = (("PW6", 4.0), ("PBr7-BS", 1.0))


class LearnedCase(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict(os.environ, {"FOXPATH_DATA": str(self.dir / "own")}))
        made = replace(project(), noted=(PASS,))
        made = replace(made, days=replace(made.days, notes=(NOTE,)))
        made, key = edits.start_pile(made, "fox", (60.0, 12.0, 18.0), PARTS, 6.0)
        made = edits.look_at_pile(made, key, (62.0, 12.0, 18.0), wet=True)
        self.project = edits.note_stroke(edits.look_at_pile(made, key, (58.0, 13.0, 20.0)), 0.35)


class Gathered(LearnedCase):
    def test_each_subject_with_what_stands_behind_it(self):
        facts = {one.key: one for one in learned_facts(self.project)}
        self.assertEqual(
            {key: one.count for key, one in facts.items()},
            {"pace": 1, "drying": 1, "tubes": 2, "dried": 2, "picked": 1, "errors": 0},
        )
        self.assertEqual([facts[key].seen() for key in ("pace", "drying", "tubes")], ["1 pass", "1 note", "2 looks"])
        self.assertEqual(replace(facts["pace"], count=3).seen(), "3 passes")
        self.assertRegex(facts["dried"].words, r"titanium white -\d\.\d L\*")
        fresh = learned_facts(project())
        self.assertEqual({one.seen() for one in fresh}, {"typical", "none yet"})

    def test_what_a_painting_began_with_counts_once(self):
        again = replace(self.project, earlier=(PASS, OTHER))
        self.assertEqual(learned.learned_in(again).pace, (PASS, OTHER))
        self.assertEqual({one.id for one in learned.learned_in(again).tubes}, {"PW6", "PBr7-BS"})


class Files(LearnedCase):
    def test_written_and_read_again(self):
        path = self.dir / "learned.json"
        told = learned.learned_in(self.project)
        learned.write(path, told)
        self.assertEqual(learned.read(path), told)
        empty = self.dir / "none.json"
        learned.write(empty, learned.Learned())
        self.assertEqual(learned.read(empty), learned.Learned())

    def test_a_file_that_is_none_is_refused(self):
        path = self.dir / "learned.json"
        learned.write(path, learned.learned_in(self.project))
        good = json.loads(path.read_text())
        for change, says in (
            ({"format": "foxpath-kit"}, "holds no"),
            ({"version": 2}, "newer"),
            ({"pace": [{"role": "lights"}]}, "holds no passes"),
            ({"drying": [{"task": 3}]}, "holds no notes"),
            ({"tubes": [{"id": "no-such"}]}, "not known"),
            ({"pace": 7}, "holds no"),
        ):
            path.write_text(json.dumps(good | change))
            with self.subTest(change), self.assertRaisesRegex(AppError, says):
                learned.read(path)
        with self.assertRaisesRegex(AppError, "could not be read"):
            learned.read(self.dir / "gone.json")
        with self.assertRaisesRegex(AppError, "could not be written"):
            learned.write(self.dir / "no" / "such" / "x.json", learned.Learned())


class Strokes(LearnedCase):
    def test_a_painting_learns_from_its_own_and_from_earlier_ones(self):
        self.assertAlmostEqual(self.project.mixes.pick_up, (2 * 0.2 + 0.35) / 3, places=4)
        strokes.keep("first", (0.5, 0.4))
        fresh = strokes.with_own_strokes(project())
        self.assertEqual(fresh.mixes.strokes_before, (0.5, 0.4))
        self.assertAlmostEqual(fresh.mixes.pick_up, (2 * 0.2 + 0.9) / 4)
        noted = edits.note_stroke(fresh, 0.1)
        self.assertAlmostEqual(noted.mixes.pick_up, (2 * 0.2 + 1.0) / 5, places=4)
        self.assertEqual((noted.mixes.strokes, noted.mixes.strokes_before), ((0.1,), (0.5, 0.4)))
        self.assertEqual(archive.from_bytes(archive.to_bytes(noted), "x").mixes, noted.mixes)
        # A painting's own are no earlier ones, and take the place of what the file had of it.
        own = project()
        strokes.keep(own.name, (0.6,))
        self.assertEqual(strokes.with_own_strokes(own).mixes.strokes_before, (0.5, 0.4))
        strokes.keep("first", ())
        self.assertEqual([one.share for one in strokes.kept()], [0.6])
        for wrong in (-0.01, 0.91):
            with self.assertRaises(InputError):
                edits.note_stroke(own, wrong)

    def test_they_are_handed_on_and_taken_in_once(self):
        told = learned.Learned(strokes=(0.35, 0.6, 0.6))
        made = learned.with_learned(self.project, told)
        self.assertEqual((made.mixes.strokes, made.mixes.strokes_before), ((0.35,), (0.6,)))
        self.assertAlmostEqual(made.mixes.pick_up, (0.4 + 0.95) / 4, places=4)
        self.assertEqual(learned.with_learned(made, told), made)
        chosen = edits.set_mixes(self.project, pick_up=0.44)
        self.assertEqual(learned.with_learned(chosen, learned.Learned()).mixes.pick_up, 0.44)
        for _ in range(2):
            learned.keep(told)
        self.assertEqual([one.share for one in strokes.kept()], [0.35, 0.6])
        gone = edits.forget_learned(made, "picked").mixes
        self.assertEqual((gone.pick_up, gone.strokes, gone.strokes_before), (0.2, (), ()))
        learned.forget_kept("picked")
        self.assertEqual(strokes.kept(), ())
        strokes.place().write_text("nothing")
        self.assertEqual(strokes.with_own_strokes(self.project), self.project)


class Errors(LearnedCase):
    def test_each_painting_has_its_own_and_they_are_added_up(self):
        errors.keep("jay", [("too light", 3, 2), ("too cool", 1, 1)])
        errors.keep("fox", [("too light", 2, 1), ("edges too soft", 4, 2)])
        self.assertEqual(errors.usual(), (("too light", 5, 2), ("edges too soft", 4, 1), ("too cool", 1, 1)))
        errors.keep("jay", [("too cool", 2, 1)])
        self.assertEqual(errors.usual(), (("edges too soft", 4, 1), ("too cool", 2, 1), ("too light", 2, 1)))
        self.assertEqual(len(errors.told()), 3)
        fact = {one.key: one for one in learned_facts(self.project, errors.usual())}["errors"]
        self.assertEqual((fact.words, fact.seen()), ("edges too soft, too cool, too light", "8 times"))
        learned.forget_kept("errors")
        self.assertEqual(errors.usual(), ())
        self.assertIs(edits.forget_learned(self.project, "errors"), self.project)

    def test_without_errors_nothing_is_written_and_a_damaged_file_says_so(self):
        errors.keep("jay", [])
        self.assertFalse(errors.place().exists())
        errors.keep("jay", [("too light", 3, 2)])
        stamp = errors.place().stat().st_mtime_ns
        errors.keep("jay", [("too light", 3, 2)])
        self.assertEqual(errors.place().stat().st_mtime_ns, stamp)
        errors.place().write_text("{}")
        with self.assertRaises(AppError):
            errors.usual()


class TakenIn(LearnedCase):
    def test_a_painting_takes_in_what_it_has_not(self):
        told = learned.Learned((PASS, OTHER, OTHER), (NOTE, LATER), (WHITE,))
        made = learned.with_learned(self.project, told)
        self.assertEqual((made.noted, made.earlier), ((PASS,), (OTHER,)))
        self.assertEqual((made.days.notes, made.days.earlier), ((NOTE,), (LATER,)))
        self.assertEqual(learned.with_learned(made, told), made)

    def test_of_a_tube_what_rests_on_more_is_taken(self):
        mine = (KeptTube("PW6", taken=2.0, looks=4), KeptTube("PB29", dries=(2.0, 0, 0), dabs=1))
        own = KeptTube("own-x", OwnTube("own-x", "X", (40.0, 0.0, 0.0), (80.0, 0.0, 0.0)))
        white, blue, added = learned.joined(mine, (WHITE, KeptTube("PB29", taken=0.5, looks=1), own))
        self.assertEqual((white.taken, white.looks), (2.0, 4))
        self.assertEqual((white.dries, white.dabs), (WHITE.dries, 2))
        self.assertEqual((blue.taken, blue.looks, blue.dries, blue.dabs), (0.5, 1, (2.0, 0, 0), 1))
        self.assertEqual((added.id, added.here), ("own-x", False))

    def test_new_paintings_begin_with_it(self):
        paces.keep(replace(self.project, name="first"))
        told = learned.Learned((PASS, OTHER), (NOTE, LATER), (WHITE,))
        for _ in range(2):
            learned.keep(told)
        self.assertEqual(paces.earlier(), (PASS, OTHER))
        self.assertEqual(calendars.noted_before("other"), (NOTE, LATER))
        kept = {one.id: one for one in cupboard.own_cupboard()}
        self.assertEqual((kept["PW6"].taken, kept["PW6"].dabs), (1.2, 2))
        # What a painting notes later takes nothing of it away.
        paces.keep(replace(self.project, name="first", noted=()))
        self.assertEqual(paces.earlier(), (OTHER,))


class Begun(LearnedCase):
    def test_a_new_painting_begins_with_all_that_is_kept(self):
        kit = (Brush("flat", 25.0), Brush("round", 1.0, wear=3))
        kits.keep_kit(kit)
        cupboard.keep_cupboard([WHITE])
        strokes.keep("first", (0.5,))
        calendars.keep_notes(replace(self.project, name="first"))
        made = own.with_own(project())
        self.assertEqual((made.kit, made.mixes.tubes, made.mixes.strokes_before), (kit, (WHITE,), (0.5,)))
        self.assertEqual(len(made.days.earlier), 1)


class Forgotten(LearnedCase):
    def test_a_subject_goes_and_the_others_stay(self):
        for key in ("pace", "drying", "tubes", "dried", "picked"):
            made = edits.forget_learned(self.project, key)
            counts = {one.key: one.count for one in learned_facts(made)}
            with self.subTest(key):
                self.assertEqual(counts[key], 0)
                gone = {key, "dried"} if key == "tubes" else {key}
                self.assertTrue(all(counts[other] for other in counts if other not in {*gone, "errors"}))
        with self.assertRaises(InputError):
            edits.forget_learned(self.project, "taste")

    def test_it_goes_from_the_files_too(self):
        learned.keep(learned.Learned((PASS,), (NOTE,), (WHITE,)))
        learned.forget_kept("tubes")
        white = {one.id: one for one in cupboard.own_cupboard()}["PW6"]
        self.assertEqual((white.taken, white.thrown, white.looks, white.dabs), (1.0, 1.0, 0, 2))
        learned.forget_kept("dried")
        self.assertEqual({one.id: one for one in cupboard.own_cupboard()}["PW6"], KeptTube("PW6"))
        self.assertEqual(len(paces.earlier()), 1)
        learned.forget_kept("pace")
        self.assertEqual(paces.earlier(), ())
        self.assertEqual(len(calendars.noted_before("x")), 1)
        learned.forget_kept("drying")
        self.assertEqual(calendars.noted_before("x"), ())

    def test_without_files_nothing_is_written(self):
        for key in ("pace", "drying", "tubes", "dried", "picked", "errors"):
            learned.forget_kept(key)
        self.assertFalse((self.dir / "own").exists())


if __name__ == "__main__":
    unittest.main()
