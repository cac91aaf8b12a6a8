"""The cupboard of tubes, and edits of what was mixed."""

import json
import tempfile
import unittest
from dataclasses import replace
from pathlib import Path
from unittest import mock

import numpy as np

from foxpath.core.errors import AppError, InputError
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.studio import Mixes
from foxpath.core.mixes.tubes import USUAL, KeptTube, OwnTube, tubes_of
from foxpath.document import archive, cupboard, edits
from tests.made import project

OLIVE = OwnTube(
    "own-olive", "Olive", (38.0, -4.0, 18.0), (68.0, -3.0, 22.0), "PG99", "alkyd", 0.4, "fast", "none known"
)
TUBES = (KeptTube("PW6", looks=4, taken=1.1), KeptTube("PB29", here=False), KeptTube("own-olive", OLIVE, thrown=0.9))
PARTS = (("PW6", 4.0), ("PBr7-BS", 2.0))


class Cupboard(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict("os.environ", {"FOXPATH_DATA": str(self.folder)}))

    def test_kept_once_with_what_was_learned_and_new_paintings_begin_with_it(self):
        self.assertEqual(cupboard.own_cupboard(), USUAL)
        cupboard.keep_cupboard(TUBES)
        self.assertEqual(cupboard.own_cupboard(), TUBES)
        self.assertEqual(cupboard.with_own_cupboard(project()).mixes.tubes, TUBES)

    def test_a_damaged_one_is_said_and_stops_no_painting(self):
        cupboard.place().write_text("{")
        with self.assertRaisesRegex(AppError, "holds no cupboard"):
            cupboard.own_cupboard()
        self.assertEqual(cupboard.with_own_cupboard(project()).mixes.tubes, USUAL)
        self.assertEqual(cupboard.place().read_text(), "{")

    def test_what_is_no_cupboard_is_refused_with_what_to_do(self):
        path = self.folder / "c.json"

        def file(*tubes):
            return json.dumps({"format": "foxpath-cupboard", "version": 1, "tubes": list(tubes)})

        own = {"id": "x", "name": "X", "masstone": [80, 0, 0], "tint": [40, 0, 0]}
        for text, says in (
            ("[1]", "no cupboard"),
            (file(), "no tube"),
            (file({"id": "PX77"}), "PX77"),
            (file({"id": "x", "own": own}), "darker than its masstone"),
            (file({"id": "PW6", "taken": -1}), "no cupboard"),
            (file({"id": "PW6"}).replace("1, ", "7, ", 1), "newer"),
            (file({"id": "PW6", "taken": 5}).replace("5", "NaN"), "no cupboard"),
        ):
            path.write_text(text)
            with self.assertRaisesRegex(AppError, says):
                cupboard.read_cupboard(path)
        with self.assertRaisesRegex(AppError, "could not be read"):
            cupboard.read_cupboard(self.folder / "none.json")

    def test_each_tube_once_and_an_own_one_goes_by_its_row(self):
        path = self.folder / "c.json"
        own = {"id": "other", "name": "X", "masstone": [38, -4, 18], "tint": [68, -3, 22]}
        rows = [{"id": "PW6"}, {"id": "PW6", "here": False}, {"id": "mine", "own": own}]
        path.write_text(json.dumps({"format": "foxpath-cupboard", "version": 1, "tubes": rows}))
        read = cupboard.read_cupboard(path)
        self.assertEqual([(one.id, one.here) for one in read], [("PW6", False), ("mine", True)])
        self.assertEqual(read[1].own.id, "mine")


class Edits(unittest.TestCase):
    def setUp(self):
        self.project = project()

    def test_tubes_go_in_and_out_but_never_the_last(self):
        made = edits.put_tube(self.project, "PG18")
        self.assertEqual(made.mixes.tubes[-1], KeptTube("PG18"))
        away = edits.put_tube(made, "PG18", here=False)
        self.assertNotIn("PG18", [t.id for t in away.mixes.usable()])
        self.assertEqual(len(away.mixes.tubes), len(made.mixes.tubes))
        lone = edits.take_tubes(self.project, [KeptTube("PW6")])
        for last in (lambda: edits.put_tube(lone, "PW6", here=False), lambda: edits.remove_tube(lone, "PW6")):
            with self.assertRaisesRegex(InputError, "last tube"):
                last()
        with self.assertRaisesRegex(InputError, "no tube “PX9”"):
            edits.put_tube(self.project, "PX9")
        with self.assertRaisesRegex(InputError, "no tube"):
            edits.take_tubes(self.project, [])

    def test_own_tubes(self):
        made = edits.add_own_tube(self.project, replace(OLIVE, id=""))
        key = made.mixes.tubes[-1].id
        self.assertEqual(key, "own-olive")
        again = edits.add_own_tube(made, replace(OLIVE, id="", name="Olive"))
        self.assertEqual(again.mixes.tubes[-1].id, "own-olive-2")
        changed = edits.add_own_tube(made, replace(OLIVE, id=key, name="Olive green"))
        self.assertEqual(len(changed.mixes.tubes), len(made.mixes.tubes))
        for wrong, says in ((replace(OLIVE, name=" "), "no name"), (replace(OLIVE, tint=(20.0, 0.0, 0.0)), "darker")):
            with self.assertRaisesRegex(InputError, says):
                edits.add_own_tube(self.project, wrong)

    def test_limits_are_checked(self):
        made = edits.set_mixes(self.project, most=4, finish="varnished", black="none")
        self.assertEqual((made.mixes.most, made.mixes.shown), (4, 0.0))
        self.assertFalse(any(tube.black for tube in made.mixes.usable()))
        for wrong in ({"most": 5}, {"finish": "glossy"}, {"black": "some"}, {"medium": "petrol"}):
            with self.assertRaises(InputError):
                edits.set_mixes(self.project, **wrong)

    def test_a_pile_from_first_mix_to_scraping(self):
        made, key = edits.start_pile(self.project, "fox", (50.0, 20.0, 30.0), PARTS, 6.0, "2026-11-02")
        self.assertFalse(made.mixes.pile(key).settled)
        looked = edits.look_at_pile(made, key, (47.0, 22.0, 28.0))
        self.assertTrue(looked.mixes.pile(key).settled)
        twice = edits.look_at_pile(looked, key, (47.5, 22.0, 28.0), "words")
        self.assertEqual(len(twice.mixes.pile(key).sights), 1)
        added = edits.add_to_pile(looked, key, (("PW6", 2.0), ("PY43", 1.0)))
        pile = added.mixes.pile(key)
        self.assertEqual(dict(pile.parts), {"PW6": 6.0, "PBr7-BS": 2.0, "PY43": 1.0})
        self.assertAlmostEqual(pile.ml, 9.0)
        self.assertFalse(pile.settled)
        halved = edits.add_to_pile(looked, key, (("PW6", 3.0),), halve=True).mixes.pile(key)
        self.assertEqual(dict(halved.parts), {"PW6": 5.0, "PBr7-BS": 1.0})
        self.assertAlmostEqual(halved.ml, 6.0)
        self.assertTrue(edits.wrap_pile(made, key, wrapped=True).mixes.pile(key).wrapped)
        self.assertEqual(edits.rename_pile(made, key, "rust").mixes.pile(key).name, "rust")
        gone = edits.scrape_pile(added, key)
        self.assertEqual(gone.mixes.mixed, ())
        # What it taught stays.
        sienna = {one.id: one for one in gone.mixes.tubes}["PBr7-BS"]
        self.assertEqual(sienna.looks, 1)
        self.assertNotEqual(sienna.taken, 1.0)
        _, second = edits.start_pile(made, "two", (50.0, 20.0, 30.0), PARTS)
        self.assertEqual((key, second), ("m1", "m2"))

    def test_what_cannot_be_mixed_is_refused(self):
        made, key = edits.start_pile(self.project, "fox", (50.0, 20.0, 30.0), PARTS)
        for wrong in (
            lambda: edits.start_pile(self.project, "x", (50.0, 0.0, 0.0), ()),
            lambda: edits.start_pile(self.project, "x", (50.0, 0.0, 0.0), (("PW6", -1.0),)),
            lambda: edits.start_pile(self.project, "x", (150.0, 0.0, 0.0), PARTS),
            lambda: edits.look_at_pile(made, key, (50.0, 400.0, 0.0)),
            lambda: edits.look_at_pile(made, "m9", (50.0, 4.0, 0.0)),
            lambda: edits.rename_pile(made, key, "  "),
        ):
            with self.assertRaises(InputError):
                wrong()

    def test_the_looks_of_a_painting_teach_its_tubes(self):
        made, key = edits.start_pile(self.project, "fox", (60.0, 12.0, 18.0), PARTS, 6.0)
        rack = Rack(tubes_of(made.mixes.tubes), made.mixes.shown)
        weak = tuple(float(v) for v in rack.lab_of(PARTS) + np.array([6.0, -4.0, -4.0]))
        looked = edits.look_at_pile(made, key, weak)
        learned = {one.id: one for one in looked.mixes.learned()}
        self.assertLess(learned["PBr7-BS"].taken, 1.0)
        self.assertEqual(looked.mixes.tubes, made.mixes.tubes)
        self.assertLess(
            next(t for t in looked.mixes.usable() if t.id == "PBr7-BS").strength,
            next(t for t in made.mixes.usable() if t.id == "PBr7-BS").strength,
        )
        said = edits.look_at_pile(made, key, weak, "words").mixes.learned()
        self.assertGreater(next(one.taken for one in said if one.id == "PBr7-BS"), learned["PBr7-BS"].taken)

    def test_a_dab_seen_wet_and_dry_teaches_how_its_tubes_dry(self):
        made = replace(
            self.project,
            mixes=replace(
                self.project.mixes, tubes=tuple(replace(t, system="acrylic") for t in self.project.mixes.tubes)
            ),
        )
        made, key = edits.start_pile(made, "fox", (50.0, 20.0, 30.0), PARTS, 6.0)
        wet = edits.look_at_pile(made, key, (53.0, 20.0, 30.0), wet=True)
        sight = wet.mixes.pile(key).sights[-1]
        # It goes by what it will dry to.
        self.assertEqual(sight.wet, (53.0, 20.0, 30.0))
        self.assertAlmostEqual(sight.seen[0], 53 - 3.5, delta=0.1)
        self.assertEqual(wet.mixes.dabs(), ())
        dry = edits.look_at_pile(wet, key, (46.0, 21.0, 30.0))
        (dab,) = dry.mixes.dabs()
        self.assertEqual((dab.parts, dab.wet, dab.dry), (PARTS, (53.0, 20.0, 30.0), (46.0, 21.0, 30.0)))
        learned = {one.id: one for one in dry.mixes.learned()}
        self.assertLess(learned["PW6"].dries[0], -1)
        self.assertEqual(learned["PW6"].dabs, 1)
        # A look in words is no pair to a measured one, nor a dry look after paint was added.
        self.assertEqual(edits.look_at_pile(wet, key, (46.0, 21.0, 30.0), "words").mixes.dabs(), ())
        added = edits.add_to_pile(wet, key, (("PW6", 1.0),))
        self.assertEqual(edits.look_at_pile(added, key, (55.0, 15.0, 22.0)).mixes.dabs(), ())
        back = archive.from_bytes(archive.to_bytes(dry), "x")
        self.assertEqual(back.mixes, dry.mixes)
        scraped = edits.scrape_pile(dry, key)
        self.assertEqual({one.id: one.dries for one in scraped.mixes.tubes}["PW6"], learned["PW6"].dries)
        self.assertEqual(archive.from_bytes(archive.to_bytes(scraped), "x").mixes, scraped.mixes)

    def test_saved_and_opened_again(self):
        made, key = edits.start_pile(edits.add_own_tube(self.project, OLIVE), "fox", (50.0, 20.0, 30.0), PARTS, 6.0)
        made = edits.set_mixes(
            edits.look_at_pile(made, key, (47.0, 22.0, 28.0)), mother=(("PB29", 1.0), ("PBr7-BU", 2.0))
        )
        back = archive.from_bytes(archive.to_bytes(made), "x")
        self.assertEqual(back.mixes, made.mixes)
        self.assertEqual(archive.from_bytes(archive.to_bytes(self.project), "x").mixes, Mixes())


if __name__ == "__main__":
    unittest.main()
