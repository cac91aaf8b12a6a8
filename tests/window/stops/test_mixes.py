"""The stop Mixes, driven as a painter would."""

import json
import unittest
from dataclasses import replace
from unittest import mock

import numpy as np
from PIL import Image
from PySide6.QtCore import QPoint, QPointF, QRectF, Qt
from PySide6.QtTest import QTest

from foxpath.core.errors import AppError
from foxpath.core.mixes.layers import after_strokes
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.tubes import tubes_of
from foxpath.derive.frames import MAP_CELLS
from foxpath.derive.memo import Memo
from foxpath.derive.subjects import PASSES
from foxpath.document import cupboard, edits, strokes
from foxpath.window.picture.view import stepped_back
from foxpath.window.stops.mixes.photo import DabDialog
from foxpath.window.stops.mixes.pile import parse_lab
from foxpath.window.stops.mixes.studio import tube_called
from foxpath.window.stops.mixes.tree import LABEL, WIDE, lay_out, pile_at, tube_amounts
from tests.made import project, quick
from tests.window.case import COARSER, WindowCase


class MixesCase(WindowCase):
    # On a coarser map no pile serves two parts.
    coarser, remembered = {**COARSER, "derive.frames.MAP_CELLS": MAP_CELLS}, Memo()

    def setUp(self):
        super().setUp()
        self.session.start(quick(project()), None, on_disk=True)
        self.window.open_stop("mixes")
        self.readings()
        self.settle()
        self.window.picture.grab()
        self.stop = self.window.studio.stops["mixes"]

    def planned(self):
        self.readings()
        self.settle()
        self.window.picture.grab()

    def pile(self):
        return self.stop.chosen_pile()


class Piles(MixesCase):
    def test_mixed_looked_at_and_corrected(self):
        count = len(self.stop.close.palette.piles)
        name = next(one.name for one in self.stop.close.palette.piles if not one.held)
        self.assertIn(name, self.stop.next.sentence)
        self.stop.next.asked.emit()
        self.planned()
        (mixed,) = self.project.mixes.mixed
        self.assertEqual((mixed.name, self.pile().key), (name, mixed.id))
        self.assertGreater(mixed.ml, 0)
        self.assertRegex(mixed.mixed_on, r"^\d{4}-\d\d-\d\d$")
        self.assertEqual(len(self.stop.close.palette.piles), count)
        self.assertTrue(self.stop.loop.isVisibleTo(self.stop.panel))
        # In words: it is too dark, so white is added.
        self.stop.loop.light._take(0)
        self.assertIn("So add", self.stop.loop.says.words)
        self.stop.loop.acts.clicked.emit("added")
        self.planned()
        (after,) = self.project.mixes.mixed
        self.assertEqual(after.sights[0].how, "words")
        self.assertEqual(after.sights[0].parts, mixed.parts)
        self.assertGreater(sum(n for _, n in after.parts), sum(n for _, n in mixed.parts))
        self.assertIn("second look", self.stop.loop.head.note)
        self.stop.loop.acts.clicked.emit("right")
        self.planned()
        self.assertTrue(self.project.mixes.mixed[0].settled)
        for _ in range(3):
            self.session.undo()
        self.assertEqual(self.project.mixes.mixed, ())

    def test_a_measured_look(self):
        self.stop.mix(self.pile())
        self.planned()
        mixed = self.project.mixes.mixed[0]
        self.stop.loop.typed.taken.emit("nonsense")
        self.assertNotIn("So add", self.stop.loop.says.words)
        rack = Rack(tubes_of(self.project.mixes.tubes), self.project.mixes.shown)
        now = rack.lab_of(mixed.parts) + np.array([-6.0, 0, 0])
        self.stop.loop.typed.taken.emit(", ".join(f"{v:.2f}" for v in now))
        self.assertIn("add", self.stop.loop.says.words)
        self.stop.loop.acts.clicked.emit("added")
        self.planned()
        self.assertEqual(self.project.mixes.mixed[0].sights[0].how, "measured")

    def test_a_dab_is_looked_at_wet_and_again_dry(self):
        tubes = tuple(replace(one, system="acrylic") for one in self.project.mixes.tubes)
        self.session.edit(lambda p: edits.take_tubes(p, tubes), "acrylic")
        self.planned()
        self.stop.mix(next(one for one in self.stop.close.palette.piles if 40 < one.lab[0] < 70 and not one.held))
        self.planned()
        mixed = self.project.mixes.mixed[0]
        loop = self.stop.loop
        self.assertTrue(loop.wet)
        self.assertRegex(loop.says.words, r"It dries [34] L\* darker \(typical\)")
        # Wet it looks just as it is wanted: dry it will be too dark.
        loop.typed.taken.emit(", ".join(f"{v:.2f}" for v in mixed.want))
        self.assertIn("So add", loop.says.words)
        loop.acts.clicked.emit("right")
        self.planned()
        self.assertEqual(self.project.mixes.dabs(), ())
        loop.state._take(1)
        self.assertFalse(loop.wet)
        self.assertNotIn("It dries", loop.says.words)
        loop.typed.taken.emit(", ".join(f"{v:.2f}" for v in np.array(mixed.want) - (6.0, 0, 0)))
        loop.acts.clicked.emit("right")
        self.planned()
        (dab,) = self.project.mixes.dabs()
        self.assertAlmostEqual(dab.dry[0] - dab.wet[0], -6.0, delta=0.02)
        self.assertIn("Your acrylic dries darker.", [one.says for one in self.stop.close.findings])
        loop.state._take(0)
        self.assertRegex(loop.says.words, r"It dries [3-6] L\* darker.*seen on")

    def test_wrapped_scraped_and_chosen(self):
        self.stop.mix(self.pile())
        self.planned()
        for key, wrapped in (("wrap", True), ("open", False)):
            self.stop.acts.clicked.emit(key)
            self.planned()
            self.assertIs(self.project.mixes.mixed[0].wrapped, wrapped)
        self.stop.acts.clicked.emit("scrape")
        self.planned()
        self.assertEqual(self.project.mixes.mixed, ())

    def test_keys_and_clicks_choose_piles(self):
        piles = self.stop.close.palette.piles
        self.window.picture.setFocus()
        first = self.pile().key
        QTest.keyClick(self.window.picture, Qt.Key.Key_Right)
        self.assertEqual(self.pile().key, piles[1].key)
        QTest.keyClick(self.window.picture, Qt.Key.Key_Left)
        self.assertEqual(self.pile().key, first)
        QTest.keyClick(self.window.picture, Qt.Key.Key_2)
        self.assertTrue(self.stop.studio.isVisibleTo(self.stop.panel))
        dab = self.stop._places[piles[-1].key]
        QTest.mouseClick(self.window.picture, Qt.MouseButton.LeftButton, pos=QPoint(int(dab.x), int(dab.y)))
        self.assertEqual(self.pile().key, piles[-1].key)
        self.assertTrue(self.stop.piles_page.isVisibleTo(self.stop.panel))
        QTest.keyClick(self.window.picture, Qt.Key.Key_M)
        self.planned()
        self.assertEqual(len(self.project.mixes.mixed), 1)
        self.assertIn(self.pile().name, self.stop.words_at((0.0, 0.0)))

    def test_a_finding_leads_to_its_pile(self):
        for one in self.stop.close.findings:
            self.stop.found.asked.emit("show", one)
        self.assertTrue(self.stop.reading())
        self.assertIn(self.stop.state(), ("no", "begun", "ready"))


class Pages(MixesCase):
    def test_tubes_are_put_away_added_and_kept(self):
        studio = self.stop.studio
        self.stop._page("tubes")
        studio.add.taken.emit("viridian")
        self.planned()
        self.assertEqual(self.project.mixes.tubes[-1].id, "PG18")
        studio.add.taken.emit("unobtainium")
        self.assertEqual(self.project.mixes.tubes[-1].id, "PG18")
        studio.list.chosen.emit("PBk9")
        studio.acts.clicked.emit("away")
        self.planned()
        self.assertNotIn("PBk9", [t.id for t in self.project.mixes.usable()])
        studio.acts.clicked.emit("remove")
        self.planned()
        self.assertNotIn("PBk9", [t.id for t in self.project.mixes.tubes])
        studio.files.clicked.emit("keep")
        self.assertEqual(cupboard.own_cupboard(), self.project.mixes.tubes)
        studio.files.clicked.emit("usual")
        self.planned()
        self.assertIn("PBk9", [t.id for t in self.project.mixes.tubes])
        studio.files.clicked.emit("own")
        self.planned()
        self.assertNotIn("PBk9", [t.id for t in self.project.mixes.tubes])

    def test_a_tube_of_ones_own(self):
        studio = self.stop.studio
        self.stop._page("tubes")
        studio.name.setText("Olive")
        studio.masstone.setText("38, -4, 18")
        studio.tint.setText("20, -3, 22")
        studio.take.clicked.emit()
        self.assertIsNone(self.project.mixes.tubes[-1].own)
        studio.tint.setText("68, -3, 22")
        studio.clear._take(2)
        studio.drying._take(0)
        studio.take.clicked.emit()
        self.planned()
        own = self.project.mixes.tubes[-1].own
        self.assertEqual((own.name, own.transparency, own.drying), ("Olive", 0.9, "fast"))
        self.assertEqual((own.masstone, own.tint), ((38.0, -4.0, 18.0), (68.0, -3.0, 22.0)))
        self.assertEqual(studio.name.text(), "")

    def test_limits(self):
        studio = self.stop.studio
        self.stop._page("tubes")
        studio.black._take(0)
        studio.finish._take(2)
        studio.most._take(0)
        studio.medium._take(1)
        studio.pure.changed.emit(0.2, False)
        studio.count.changed.emit(7.0, False)
        self.planned()
        mixes = self.project.mixes
        self.assertEqual(
            (mixes.black, mixes.finish, mixes.most, mixes.medium, mixes.pure, mixes.count),
            ("none", "varnished", 2, "solvent-free", 0.2, 7),
        )
        self.assertIn("lively", studio.black_words.words)
        self.assertNotIn("Solvents", studio.warns.words)

    def test_files_of_cupboards(self):
        path = self.dir / "shared.json"
        dialog = "foxpath.window.stops.mixes.studio.QFileDialog"
        with mock.patch(f"{dialog}.getSaveFileName", return_value=(str(path), "")):
            self.stop.studio.files.clicked.emit("share")
        self.assertEqual(json.loads(path.read_text())["format"], "foxpath-cupboard")
        path.write_text("nothing")
        with mock.patch(f"{dialog}.getOpenFileName", return_value=(str(path), "")):
            self.stop.studio.files.clicked.emit("open")
        self.assertEqual(len(self.project.mixes.tubes), 12)
        cupboard.write_cupboard(path, self.project.mixes.tubes[:4])
        with mock.patch(f"{dialog}.getOpenFileName", return_value=(str(path), "")):
            self.stop.studio.files.clicked.emit("open")
        self.planned()
        self.assertEqual(len(self.project.mixes.tubes), 4)

    def test_spots_ask_for_the_nearest_pile(self):
        room = self.window.picture.viewport.room
        at = room.center().toPoint()
        QTest.mouseClick(self.window.picture, Qt.MouseButton.LeftButton, pos=at)
        self.planned()
        spots = self.stop.spots
        self.assertTrue(spots.isVisibleTo(self.stop.panel))
        self.assertIsNotNone(spots.lab)
        self.assertRegex(spots.near.words, r"as it is|but|lacks")
        self.assertTrue(spots.wet_words.words)
        wet = spots.wet.rows[-1].key
        spots.wet.chosen.emit(wet)
        self.settle()
        self.assertEqual(spots.wet.value, wet)
        # What the advised paint came to tells how much of the wet a stroke picks up.
        for row in spots.wet.rows:
            spots.wet.chosen.emit(row.key)
            self.settle()
            if not spots.came.isHidden():
                break
        self.assertFalse(spots.came.isHidden())
        rack, lay, beneath = spots._into
        came = after_strokes(rack, rack.parts(lay.parts), rack.parts(beneath.recipe.parts), 0.5, 1)[0]
        spots.came.taken.emit("0, 90, 90")
        self.assertEqual(self.project.mixes.strokes, ())
        spots.came.taken.emit(", ".join(f"{v:.2f}" for v in came))
        self.planned()
        self.assertAlmostEqual(self.project.mixes.strokes[0], 0.5, delta=0.03)
        self.assertAlmostEqual(self.project.mixes.pick_up, 0.3, delta=0.02)
        self.assertEqual(len(strokes.kept()), 1)
        # Without a chain of spots the parts of the pass are one, in the brush's order or in the order they are laid.
        pile = next(one for one in self.stop.close.palette.piles if len(self.stop.close.notes[one.key].zones) > 1)
        self.session.choose(pile=pile.key)
        self.planned()
        role = max(self.stop.close.notes[pile.key].needs, key=lambda need: need[1])[0]
        plan = next(one for one in self.readings().of(PASSES).passes if one.role.key == role)
        laid = [self.project.back_to_front()[k].name.lower() for k in plan.zones]
        self.assertIn("part by part", spots.chain_head.note)
        spots.acts.clicked.emit("mine")
        shown = [row.name for row in spots.chain.rows]
        self.assertEqual(shown, [name for name in laid if name in shown])
        self.assertGreater(len(shown), 1)
        spots.acts.clicked.emit("best")
        self.assertEqual(sorted(row.name for row in spots.chain.rows), sorted(shown))
        for dx in (-40, 0, 40):
            QTest.mouseClick(
                self.window.picture, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, at + QPoint(dx, 5)
            )
        self.planned()
        self.assertEqual(len(self.project.spots), 3)
        self.assertEqual(len(spots.chain.rows), 3)
        self.assertRegex(spots.chain_words.words, "wipe|Wipe")
        spots.acts.clicked.emit("mine")
        self.assertEqual([row.name for row in spots.chain.rows], ["spot 1", "spot 2", "spot 3"])
        spots.acts.clicked.emit("clear")
        self.planned()
        self.assertEqual(self.project.spots, ())

    def test_layers(self):
        layers = self.stop.layers
        self.stop._page("layers")
        self.planned()
        self.assertTrue(layers.veils.rows)
        before = layers.veil_words.words
        layers.way._take(3)
        self.assertNotEqual(layers.veil_words.words, before)
        layers.film.changed.emit(40.0, False)
        layers.veils.chosen.emit(layers.veils.rows[-1].key)
        self.assertEqual(layers.veils.value, layers.veils.rows[-1].key)
        self.assertIn("deepest", layers.black_words.words)
        self.assertTrue(layers.greys.rows)
        layers.blacks.chosen.emit("0")
        self.planned()
        self.assertEqual(len(self.project.mixes.mother), 2)
        self.assertIn("pure", layers.budget.accessibleName())


class Parts(WindowCase):
    def test_the_picture_steps_back_and_comes_forward_again(self):
        self.session.start(quick(project()), None, on_disk=True)
        self.window.open_stop("zones")
        self.settle()
        wide = self.window.picture.viewport.room.width()
        self.window.open_stop("mixes")
        self.settle()
        small = self.window.picture.viewport.room
        self.assertEqual(small, stepped_back(QRectF(self.window.picture.rect())))
        self.assertLess(small.width(), 0.45 * wide)
        self.window.open_stop("passes")
        self.settle()
        self.assertEqual(self.window.picture.viewport.room.width(), wide)

    def test_piles_are_named_at_passes(self):
        self.session.start(quick(project()), None, on_disk=True)
        self.window.open_stop("passes")
        self.session.choose(role="highlights")
        self.settle()
        stop = self.window.studio.stops["passes"]
        self.wait(lambda: bool(stop.paint_panel.piles.rows))
        stop.paint_panel.piles.chosen.emit(stop.paint_panel.piles.rows[0].key)
        self.assertEqual(self.session.chosen.stop, "mixes")
        self.settle()

    def test_the_other_painting_lies_beside(self):
        self.session.start(quick(project()), None, on_disk=True)
        self.window.open_stop("rehearsal")
        self.settle()
        stop = self.window.studio.stops["rehearsal"]
        wide = self.window.picture.viewport.room.width()
        stop.limited.on._flip()
        self.settle()
        self.window.picture.grab()
        self.assertEqual(self.window.picture.viewport.room.width(), wide / 2)
        self.assertIsNotNone(stop.limited.beside.other)
        self.assertEqual(stop.limited.names(self.project), ("any colour", "with the palette"))
        stop.limited.choice._take(1)
        self.settle()
        self.assertTrue(self.project.mixes.rehearsed)
        self.assertEqual(stop.limited.beside.key, "free")
        self.window.open_stop("passes")
        self.settle()
        self.assertEqual(self.window.picture.viewport.room.width(), wide)

    def test_a_dab_in_a_photograph(self):
        rgb = np.full((200, 300, 3), 30, np.uint8)
        rgb[20:180, 20:140] = 118
        rgb[20:180, 160:280] = (150, 90, 60)
        path = self.dir / "dab.png"
        Image.fromarray(rgb).save(path)
        dialog = DabDialog(path)
        seen = []
        dialog.read.connect(seen.append)
        scale = dialog.photo.scale
        for x, y in ((80, 100), (220, 100)):
            QTest.mouseClick(dialog.photo, Qt.MouseButton.LeftButton, pos=QPointF(x * scale, y * scale).toPoint())
        self.assertEqual(len(seen), 1)
        self.assertAlmostEqual(seen[0][0], 45, delta=3)
        self.assertGreater(seen[0][1], 10)
        dialog.photo.grab()
        two = DabDialog(path, ("the masstone", "the tint"))
        two.read.connect(seen.append)
        for x, y in ((80, 100), (220, 100), (250, 100)):
            two.click(x, y)
        self.assertEqual(len(seen[1]), 2)
        np.testing.assert_allclose(seen[1][0], seen[0], atol=0.5)
        with self.assertRaisesRegex(AppError, "could not be read"):
            DabDialog(self.dir / "none.png")

    def test_words_of_colours_and_tubes(self):
        self.assertEqual(parse_lab("44; 18 25"), (44.0, 18.0, 25.0))
        for wrong in ("44, 18", "a, b, c", "140, 0, 0", "50, 300, 0"):
            with self.assertRaisesRegex(AppError, "no colour"):
                parse_lab(wrong)
        self.assertEqual([tube_called(one) for one in ("PB28", "pb28", "Cobalt blue", "cobalt")], ["PB28"] * 4)
        with self.assertRaisesRegex(AppError, "No tube"):
            tube_called("cadmium")


class Laid(unittest.TestCase):
    def test_no_pile_covers_another_or_the_picture(self):
        from foxpath.derive import Results
        from foxpath.derive.mixes.palette import palette_of

        palette = palette_of(Results(), edits.set_mixes(project(), count=12))
        room, taken = QRectF(0, 0, 810, 520), QRectF(500, 280, 306, 236)
        places = lay_out(palette, room, taken)
        self.assertEqual(set(places), {one.key for one in palette.piles})
        boxes = {
            key: QRectF(d.x - WIDE / 2 + 8, d.y - d.r, WIDE - 16, d.r * 2 + LABEL - 8) for key, d in places.items()
        }
        over = sum(boxes[a].intersects(boxes[b]) for k, a in enumerate(boxes) for b in list(boxes)[:k])
        self.assertLessEqual(over, 1)
        for key, dab in places.items():
            self.assertTrue(room.contains(dab.at))
            self.assertFalse(taken.contains(dab.at), key)
            self.assertEqual(pile_at(places, dab.at), key)
        self.assertEqual(pile_at(places, QPointF(-500, -500)), "")
        string = [one for one in palette.piles if one.neutral]
        ordered = sorted(string, key=lambda one: one.lab[0])
        self.assertEqual([places[one.key].x for one in ordered], sorted(places[one.key].x for one in ordered))

    def test_tubes_give_what_the_piles_take(self):
        from foxpath.derive import Results
        from foxpath.derive.mixes.palette import palette_of

        palette = palette_of(Results(), project())
        given = sum(tube_amounts(palette).values())
        taken = {one.key: 0.0 for one in palette.piles}
        for one in palette.piles:
            if one.base:
                taken[one.base] += one.mixed_ml * one.base_parts / (one.base_parts + sum(n for _, n in one.added))
        self.assertAlmostEqual(given, sum(one.mixed_ml - taken[one.key] for one in palette.piles), places=6)


if __name__ == "__main__":
    unittest.main()
