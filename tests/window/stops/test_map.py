import io
from unittest import mock

import cv2
import numpy as np
from PIL import Image
from PySide6.QtCore import Qt

from foxpath.core.errors import InputError
from foxpath.core.units import CanvasSize
from foxpath.derive.subjects import EDGES, LENGTHS
from foxpath.document import edits
from foxpath.window.stops.lengths.kit import parse_brush
from tests.core.lengths.test_visible import combed
from tests.core.zones.test_shape import animal
from tests.made import quick
from tests.window.case import WindowCase


def opened(rgb, name="made.png"):
    buffer = io.BytesIO()
    Image.fromarray(rgb).save(buffer, "PNG")
    return quick(edits.new_project(buffer.getvalue(), name, CanvasSize(400, 300), "Made"))


class ZoneActs(WindowCase):
    """Parts are proposed, traced, joined, cut and grouped through the window."""

    def setUp(self):
        super().setUp()
        self.session.start(opened(animal()), None, on_disk=True)
        self.window.open_stop("zones")
        self.settle()
        self.stop = self.window.stop

    def outline(self, *corners):
        for x, y in corners:
            self.click(x, y)
        self.key(Qt.Key.Key_Return)
        self.settle()
        return self.project.zones[-1].id

    def test_parts_are_proposed_and_one_undo_takes_them_all(self):
        self.assertEqual(self.stop.next.sentence, "Outline the animal")
        self.stop.next.asked.emit()
        self.settle()
        names = [z.name for z in self.project.zones[1:]]
        self.assertGreaterEqual(len(names), 3)
        self.assertEqual(names[0], "Part 1")
        # What is only numbered is asked about, one after the other, until few are left.
        self.assertEqual(self.stop.next.sentence, "Name the parts")
        self.stop.next.asked.emit()
        first = self.session.chosen["zone"]
        self.stop.next.asked.emit()
        self.assertNotEqual(self.session.chosen["zone"], first)
        for k, zone in enumerate(self.project.zones[3:]):
            self.session.edit(lambda p, k=k, zone=zone: edits.change_zone(p, zone.id, name=f"Patch {k}"), "name")
        self.assertEqual(self.stop.next.sentence, "Comb the growth")
        for _ in self.project.zones[3:]:
            self.session.undo()
        self.session.undo()
        self.assertEqual(len(self.project.zones), 1)

    def test_traced_along_the_edge_and_closed_on_the_first_point(self):
        self.stop.way.set_value("trace")
        places = [(320 + 95 * np.cos(t), 170 + 90 * np.sin(t)) for t in (3.4, 4.4, 5.4, 6.0)]
        for x, y in places:
            self.click(x, y)
            self.settle()
        self.assertGreater(len(self.stop.tracing.points), 12)
        self.key(Qt.Key.Key_Backspace)
        self.assertEqual(len(self.stop.tracing.pieces), 3)
        self.settle()
        self.click(*places[0])
        self.settle()
        zone = self.project.zones[-1]
        self.assertFalse(zone.whole)
        upper = [p for p in zone.points if p[1] < 160]
        off = [abs(np.hypot((x - 320) / 95, (y - 170) / 90) - 1) for x, y in upper]
        self.assertLess(np.median(off), 0.06)
        self.assertFalse(self.stop.busy())

    def test_joined_cut_smoothed_and_taken_off(self):
        one = self.outline((100, 100), (200, 100), (200, 200), (100, 200))
        self.session.choose(zone="")
        two = self.outline((300, 100), (300, 200), (200, 200), (200, 100))
        # The second took the first's points where it was clicked on them.
        self.assertGreaterEqual(len(set(self.project.zone(one).points) & set(self.project.zone(two).points)), 2)
        self.stop.shape.acts.buttons["join"].clicked.emit()
        self.assertIn("Join", self.stop.next.sentence)
        self.click(140, 150)
        self.settle()
        self.assertIsNone(self.project.zone(one))
        self.assertLess(min(p[0] for p in self.project.zone(two).points), 110)
        self.stop.shape.acts.buttons["cut"].clicked.emit()
        self.drag((200, 80), (205, 150), (200, 225))
        self.settle()
        self.assertEqual(len(self.project.zones), 3)
        self.stop.shape.acts.buttons["cut"].clicked.emit()
        self.key(Qt.Key.Key_Escape)
        self.assertFalse(self.stop.shape)
        before = self.project
        for key in ("smooth", "grow", "shrink"):
            self.stop.shape.acts.buttons[key].clicked.emit()
        self.assertIsNot(self.project, before)
        self.settle()

    def test_an_own_kind_is_kept_and_chosen(self):
        zone = self.outline((100, 100), (200, 100), (200, 200), (100, 200))
        self.session.edit(lambda p: edits.set_coat(p, zone, length_mm=44.0), "x")
        self.stop.own.keep("wiry collar")
        self.settle()
        self.assertEqual(self.project.zone(zone).own.name, "wiry collar")
        self.stop.kinds.taken.emit("skin")
        self.assertIsNone(self.project.zone(zone).own)
        self.stop.own.list.chosen.emit("wiry collar")
        self.assertAlmostEqual(self.project.coat_of(self.project.zone(zone)).length_mm, 44, places=1)
        path = self.dir / "shared.json"
        with mock.patch("PySide6.QtWidgets.QFileDialog.getSaveFileName", return_value=(str(path), "")):
            self.stop.own.acts.buttons["share"].clicked.emit()
        self.assertTrue(path.exists())
        self.stop.own.acts.buttons["forget"].clicked.emit()
        with mock.patch("PySide6.QtWidgets.QFileDialog.getOpenFileName", return_value=(str(path), "")):
            self.stop.own.acts.buttons["take"].clicked.emit()
        self.assertEqual([r.name for r in self.stop.own.list.rows], ["wiry collar"])
        self.settle()

    def test_animals_are_named_and_moved(self):
        one = self.outline((100, 100), (200, 100), (200, 200), (100, 200))
        self.stop.group.taken.emit("Vixen")
        self.session.choose(zone="")
        two = self.outline((320, 100), (420, 100), (420, 200), (320, 200))
        self.stop.group.taken.emit("Cub")
        self.settle()
        self.assertEqual([key for key, _ in self.stop.groups.items], ["Vixen", "Cub"])
        self.stop.groups.moved.emit("Cub", 0)
        order = [z.id for z in self.project.back_to_front()]
        self.assertLess(order.index(two), order.index(one))
        self.settle()


class EdgesAndLengths(WindowCase):
    """A border graded along its length; forms, hairs, brushes and fans said on the bench and the picture."""

    def setUp(self):
        super().setUp()
        rgb = np.full((480, 640, 3), (150, 158, 162), np.uint8)
        cv2.rectangle(rgb, (160, 120), (480, 400), (92, 62, 44), -1)
        project = opened(rgb)
        corners = np.array(
            [(160.0, 120), (320, 120), (480, 120), (480, 260), (480, 400), (320, 400), (160, 400), (160, 260)]
        )
        project, self.zone = edits.add_zone(project, "Part", "long-fur", corners)
        project, _ = edits.add_comb(project, np.array([[240.0, 260], [400, 260]]), self.zone)
        self.session.start(project, None, on_disk=True)
        self.readings()

    def test_a_stretch_is_graded_by_dragging_along_the_border(self):
        self.window.open_stop("edges")
        self.settle()
        stop = self.window.stop
        self.drag((484, 170), (482, 250), (484, 340))
        self.settle()
        (stretch,) = self.project.stretches
        self.assertEqual((stretch.front, stretch.back), (self.zone, self.project.zones[0].id))
        self.assertTrue(all(470 < x < 510 and 150 < y < 360 for x, y in stretch.points))
        stop.along_width.changed.emit(0.4, False)
        self.settle()
        (along,) = (w for ws in self.session.readings.close(EDGES).widths.values() for w in ws)
        self.assertAlmostEqual(float(along.min()), 0.4, delta=0.05)
        self.assertGreater(float(along.max()), 0.8)
        # What comes out of it in the rehearsal is read and stands beside plan and photograph.
        pair = self.zone, self.project.zones[0].id
        self.assertIn(pair, self.session.rehearsal.widths)
        self.session.rehearsal.widths[pair] = 1.7
        stop.refresh()
        self.assertEqual([row.right for row in stop.photo.rows if row.key == "painted"], ["1.7 mm"])
        # A stroke that leaves the border grades nothing.
        self.drag((484, 170), (560, 200), (600, 100))
        self.assertEqual(len(self.project.stretches), 1)
        stop.drop.clicked.emit()
        self.assertEqual(self.project.stretches, ())
        self.settle()

    def test_form_hairs_and_falloff(self):
        self.window.open_stop("lengths")
        self.session.choose(zone=self.zone)
        self.settle()
        stop = self.window.stop
        stop.form.chosen.emit("cylinder")
        self.drag((320, 140), (320, 380), modifiers=Qt.KeyboardModifier.ShiftModifier)
        self.settle()
        form = self.project.zone(self.zone).form
        self.assertEqual((form.kind, len(form.line)), ("cylinder", 2))
        low, _ = stop._seen_range(self.project.zone(self.zone))
        self.assertLess(low, 0.8)
        # A hair near the side is straightened by the form, one in the middle hardly.
        self.drag((300, 260), (340, 260))
        self.drag((400, 260), (430, 260))
        self.settle()
        zone = self.project.zone(self.zone)
        self.assertEqual(len(zone.hairs), 2)
        looks = [abs(h[-1][0] - h[0][0]) * self.project.mm_per_px for h in zone.hairs]
        self.assertGreater(zone.coat.length_mm, float(np.exp(np.mean(np.log(looks)))) * 1.05)
        stop.hairs.chosen.emit("1")
        self.key(Qt.Key.Key_Delete)
        self.assertEqual(len(self.project.zone(self.zone).hairs), 1)
        stop.far.changed.emit(1.0, False)
        stop.order.chosen.emit("last")
        self.assertEqual((self.project.falloff, self.project.focal_order), (1.0, "last"))
        self.settle()

    def test_a_length_that_is_seen_is_taken_with_one_key(self):
        hairs = (255 * np.sqrt(np.exp(combed(24, 1.8, 6)))).astype(np.uint8)
        project = opened(np.repeat(hairs[..., None], 3, axis=2))
        corners = np.array([(20.0, 20), (300, 20), (300, 300), (20, 300)])
        project, zone = edits.add_zone(project, "Part", "long-fur", corners)
        project, _ = edits.add_comb(project, np.array([[100.0, 100], [140, 123]]), zone)
        self.session.start(project, None, on_disk=True)
        self.window.open_stop("lengths")
        readings = self.readings()
        suggested = readings.close(LENGTHS).suggested
        self.assertTrue(suggested)
        stop = self.window.stops["lengths"]
        key, seen = next(iter(suggested.items()))
        self.session.choose(zone=key)
        self.wait(lambda: stop.seen.isVisible())
        self.assertIn(seen.length_words(), stop.seen.words.words)
        self.key(Qt.Key.Key_T)
        self.assertAlmostEqual(self.project.zone(key).coat.length_mm, seen.length_mm, delta=0.06)
        self.readings()
        self.wait(lambda: not stop.seen.isVisible())
        self.session.undo()
        self.assertIsNone(self.project.zone(key).coat.length_mm)

    def test_the_kit_is_typed_worn_and_given_back(self):
        self.window.open_stop("lengths")
        self.session.choose(zone=self.zone)
        self.settle()
        kit = self.window.stop.kit
        self.assertIn("liner", " ".join(row.right for row in kit.uses.rows) + " liner")
        kit.add_brush("0,4 mm liner")
        self.assertEqual(self.project.kit[-1].words(), "0.4 mm liner")
        kit.add_brush("a spoon")
        self.assertEqual(len(self.project.kit), 15)
        kit.list.chosen.emit("14")
        kit.wear.changed.emit(3.0, False)
        self.assertEqual(self.project.kit[14].wear, 3)
        kit.acts.buttons["remove"].clicked.emit()
        kit.acts.buttons["usual"].clicked.emit()
        self.settle()
        self.assertEqual(len(self.project.kit), 14)
        for words in ("12 mm flat", "flat 1.2 cm", '0.5" round'):
            self.assertGreater(parse_brush(words).width_mm, 0)
        with self.assertRaises(InputError):
            parse_brush("12 flat mm mm")

    def test_a_fan_is_drawn_by_first_last_and_count(self):
        self.session.edit(lambda p: edits.change_zone(p, self.zone, kind="flight-feather"), "kind")
        self.window.open_stop("lengths")
        self.session.choose(zone=self.zone)
        self.settle()
        plumage = self.window.stop.plumage
        plumage.acts.buttons["draw"].clicked.emit()
        self.assertTrue(self.window.stop.busy())
        self.drag((200, 150), (330, 160), (450, 180))
        self.drag((200, 200), (300, 290), (380, 380))
        self.settle()
        (fan,) = self.project.fans
        plumage.number.changed.emit(6.0, False)
        self.settle()
        made = self.session.readings.close(LENGTHS).feathers[self.zone]
        self.assertEqual(len(made), 6)
        self.assertIn("6 flight feathers", plumage.count.words)
        plumage.acts.buttons["drop"].clicked.emit()
        self.assertEqual(self.project.fans, ())
        self.assertNotEqual(fan.id, "")
        self.settle()

    def test_the_map_is_saved_in_millimetres(self):
        path = self.dir / "map.svg"
        self.window.save_map(path)
        self.settle()
        text = path.read_text()
        self.assertIn('width="400mm" height="300mm"', text)
        for layer in ("zones", "edges", "growth", "lengths", "laying-order"):
            self.assertIn(f'<g id="{layer}"', text)
