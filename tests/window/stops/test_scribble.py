import io

import numpy as np
from PIL import Image
from PySide6.QtCore import Qt

from foxpath.core.curves import closed_curve
from foxpath.core.units import CanvasSize
from foxpath.core.zones import fill
from foxpath.document import edits
from tests.core.zones.test_snap import HEIGHT, WIDTH, hairy, two_toned
from tests.made import quick
from tests.window.case import WindowCase


class Scribbling(WindowCase):
    """A part is scribbled out of the picture."""

    def setUp(self):
        super().setUp()
        rgb, self.oval = hairy()
        buffer = io.BytesIO()
        Image.fromarray(rgb).save(buffer, "PNG")
        project = edits.new_project(buffer.getvalue(), "hairy.png", CanvasSize(400, 300), "Hairy")
        self.session.start(quick(project), None, on_disk=True)
        self.window.open_stop("zones")
        self.settle()
        self.stop = self.window.stop
        self.stop.way.setFocus()
        for _ in range(2):
            self.key(Qt.Key.Key_Right, widget=self.stop.way)
        # Until the bench and the picture beside it have their places: a click goes by where a place stands then.
        self.settle()

    def score(self, zone):
        found = fill(closed_curve(np.array(zone.points)), (HEIGHT, WIDTH))
        return (found & self.oval).sum() / (found | self.oval).sum()

    def test_strokes_inside_and_beyond_give_a_zone(self):
        before = len(self.project.zones)
        self.drag((300, 300), (400, 305), (500, 310))
        self.drag((120, 100), (120, 300), (120, 500), modifiers=Qt.KeyboardModifier.ShiftModifier)
        self.drag((690, 100), (690, 500), modifiers=Qt.KeyboardModifier.ShiftModifier)
        self.settle()
        self.assertEqual([within for within, _ in self.stop.scribble.strokes], [True, False, False])
        self.assertTrue(self.stop.busy())
        self.stop.next.asked.emit()
        zone = self.project.zones[-1]
        self.assertGreater(self.score(zone), 0.92)
        self.assertEqual(self.session.chosen["zone"], zone.id)
        self.assertFalse(self.stop.busy())
        self.session.undo()
        self.assertEqual(len(self.project.zones), before)

    def test_what_is_in_doubt_stands_in_a_ring_and_a_click_in_it_answers(self):
        rgb, self.oval, side = two_toned()
        buffer = io.BytesIO()
        Image.fromarray(rgb).save(buffer, "PNG")
        self.session.start(
            quick(edits.new_project(buffer.getvalue(), "two.png", CanvasSize(400, 300), "Two")), None, on_disk=True
        )
        self.window.open_stop("zones")
        self.settle()
        self.stop.way.setFocus()
        self.drag((260, 300), (400, 310))
        self.drag((120, 100), (120, 300), (120, 500), modifiers=Qt.KeyboardModifier.ShiftModifier)
        self.drag((690, 100), (690, 500), modifiers=Qt.KeyboardModifier.ShiftModifier)
        self.settle()
        x, y = self.stop.scribble.cut.asks
        self.assertTrue(side[int(y), int(x)])
        self.assertIn("In doubt: the ring", self.stop.next.reason)
        # The ring is drawn about it: light, cased in dark, on a coat that is neither.
        shown = self.window.picture.grab().toImage()
        place = self.screen(x, y)
        tones = [shown.pixelColor(place.x() + dx, place.y()).lightness() for dx in range(-18, -11)]
        self.assertGreater(max(tones), 235)
        self.assertLess(min(tones), 40)
        self.click(x, y)
        self.settle()
        self.assertEqual([within for within, _ in self.stop.scribble.strokes], [True, False, False, True])
        self.assertIsNone(self.stop.scribble.cut.asks)
        self.assertNotIn("In doubt", self.stop.next.reason)
        self.stop.next.asked.emit()
        self.assertGreater(self.score(self.project.zones[-1]), 0.95)

    def test_a_single_dot_is_a_stroke(self):
        self.click(400, 300)
        self.click(120, 100, Qt.KeyboardModifier.ShiftModifier)
        self.click(690, 500, Qt.KeyboardModifier.ShiftModifier)
        self.settle()
        self.assertEqual(
            [(within, len(line)) for within, line in self.stop.scribble.strokes], [(True, 1), (False, 1), (False, 1)]
        )
        marked = np.array([line[0] for _, line in self.stop.scribble.strokes])
        np.testing.assert_allclose(marked, [(400, 300), (120, 100), (690, 500)], atol=2)
        self.assertEqual(self.stop.scribble.failure, "")
        self.stop.next.asked.emit()
        self.assertGreater(self.score(self.project.zones[-1]), 0.9)

    def test_a_click_before_the_first_stroke_chooses_the_part_under_it(self):
        self.drag((300, 300), (500, 310))
        self.settle()
        self.stop.next.asked.emit()
        zone = self.project.zones[-1]
        self.session.choose(zone=self.project.zones[0].id)
        self.settle()
        self.stop.way.setFocus()
        self.click(400, 300)
        self.assertEqual(self.session.chosen["zone"], zone.id)
        self.assertFalse(self.stop.scribble)

    def test_strokes_are_taken_back_and_dropped(self):
        before = len(self.project.zones)
        self.drag((300, 300), (500, 310))
        self.drag((350, 340), (450, 340))
        self.key(Qt.Key.Key_Backspace)
        self.assertEqual(len(self.stop.scribble.strokes), 1)
        self.drag((350, 340), (450, 340))
        self.window.undo_action.trigger()
        self.assertEqual(len(self.stop.scribble.strokes), 1)
        self.key(Qt.Key.Key_Escape)
        self.key(Qt.Key.Key_Return)
        self.settle()
        self.assertEqual((self.stop.scribble.strokes, self.stop.scribble.cut), ([], None))
        self.drag((300, 300), (500, 310), modifiers=Qt.KeyboardModifier.ShiftModifier)
        self.settle()
        self.assertIsNone(self.stop.scribble.cut)
        self.window.open_stop("growth")
        self.assertEqual(self.stop.scribble.strokes, [])
        self.assertEqual(len(self.project.zones), before)

    def test_strokes_do_not_outlive_their_picture(self):
        self.drag((300, 300), (500, 310))
        self.settle()
        self.assertTrue(self.stop.busy())
        self.window.open_demo("fox")
        self.settle()
        self.assertFalse(self.window.stops["zones"].busy())

    def test_a_chosen_part_is_mended(self):
        short = np.array([[200.0, 300.0], [300, 165], [400, 160], [470, 200], [470, 400], [400, 440], [300, 435]])
        self.session.edit(lambda p: edits.add_zone(p, "Coat", "short-fur", short)[0], "outline a zone")
        zone = self.project.zones[-1].id
        self.key(Qt.Key.Key_Right, widget=self.stop.way)
        self.assertEqual(self.stop.way.value, "mend")
        self.session.choose(zone="")
        # Without a chosen part a stroke marks nothing.
        self.drag((560, 220), (560, 380))
        self.settle()
        self.assertFalse(self.stop.busy())
        self.session.choose(zone=zone)
        self.drag((560, 200), (580, 300), (560, 400))
        self.settle()
        before = self.score(self.project.zone(zone))
        self.stop.next.asked.emit()
        self.assertEqual(len(self.project.zones), 2)
        self.assertGreater(self.score(self.project.zone(zone)), before + 0.15)
        self.assertIn((200.0, 300.0), self.project.zone(zone).points)
        self.stop.settle_border.clicked.emit()
        self.settle()
        settled = self.stop.scribble.cut.points
        # A stroke after it mends what it settled to, and taking the stroke back leaves that.
        self.drag((395, 300), (405, 300))
        self.settle()
        gap = np.hypot(*(settled[:, None] - self.stop.scribble.cut.points[None]).transpose(2, 0, 1)).min(axis=1)
        self.assertLess(np.median(gap), 0.02)
        self.key(Qt.Key.Key_Backspace)
        self.settle()
        self.assertIsNotNone(self.stop.scribble.cut)
        self.key(Qt.Key.Key_Return)
        self.assertGreater(self.score(self.project.zone(zone)), 0.93)
        self.session.undo()
        self.session.undo()
        self.assertEqual(len(self.project.zone(zone).points), len(short))
