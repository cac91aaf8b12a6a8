"""The check of a drawing: its photograph squared up by four corners, laid over the picture, and what to move."""

import math
from pathlib import Path

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.errors import AppError
from foxpath.core.features import Verdict
from foxpath.core.findings import Finding
from foxpath.core.units import mm_words, percent
from foxpath.derive.eyes.drawing import CheckDrawing, DrawingCheck
from foxpath.derive.pictures import picture_of
from foxpath.document import archive, edits
from foxpath.document.model import Drawing, Project
from foxpath.window.bench.bench import column
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Measure, Scale
from foxpath.window.bench.rows import Gestures, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.view import image_of
from foxpath.window.picture.viewport import Viewport, place
from foxpath.window.stops.eyes import overlay
from foxpath.window.stops.eyes.page import Page
from foxpath.window.stops.on_picture import Point

PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.heic *.heif)"
SURE = 0.25
"""Below this a feature was not clearly found on the drawing."""


class DrawingPage(Page):
    """Open a photograph of the drawing, set its corners, and read what is off."""

    code, title = "drawing", "check a drawing"

    def make_body(self) -> QWidget:
        self._check: DrawingCheck | None = None
        self._of: object = None
        self._flat: QImage | None = None
        self._whole: QImage | None = None
        self._whole_of = ""
        self._held = -1
        self._corner: Point | None = None
        self._value = ""
        self._line: list[Point] = []
        self._drawn: list[np.ndarray] = []
        self.intro = Words(
            "A photograph or scan of your drawing, or of the first lay-in. The whole canvas must be in it; any angle will do.",
            12.5,
        )
        self.open_acts = Buttons([("open", "Open a photo …"), ("drop", "Put it away")], 2)
        self.open_acts.clicked.connect(self._act)
        self.view_way = Choice([("corners", "corners"), ("over", "laid over")], "how the drawing is shown")
        self.view_way.set_value("over")
        self.view_way.chosen.connect(self._set_way)
        self.strength = Measure("Strength", Scale(0, 1, percent, step=0.05))
        self.strength.set_value(0.6)
        self.strength.changed.connect(self._set_strength)
        self.head = Section("What to move", "worst first")
        self.list = Rows("features on the drawing")
        self.list.chosen.connect(self._choose)
        self.says = Words("", 13, "text")
        self.move = Words("", 12.5)
        self.hand = Buttons([("mark", "Mark it by hand"), ("found", "Find it again")], 2)
        self.hand.clicked.connect(self._by_hand)
        return column(
            self.intro, self.open_acts, self.view_way, self.strength, self.head, self.list, self.says, self.move, self.hand,
            Section("Say it with a stroke", "on the picture"),
            Gestures([("frame", "a corner", "drag it onto the canvas's"), ("outline", "a feature", "mark by hand: draw it, Enter")]),
            margins=(0, 0, 0, 0),
        )  # fmt: skip

    # What is there --------------------------------------------------------------------------------

    @property
    def drawing(self) -> Drawing | None:
        """The drawing, or None."""
        return self.project.drawing

    def enter(self) -> None:
        self._look()

    def _look(self) -> None:
        """Check the drawing again when it, or what is marked, has changed."""
        project = self.project
        drawing = project.drawing
        if drawing is None:
            self._check, self._flat, self._of = None, None, None
            self.session.runner.cancel("drawing")
            return
        key = (
            drawing.reference.digest,
            drawing.corners,
            drawing.marked,
            project.eyes,
            project.features,
            project.outlines,
            project.crop,
        )
        if key == self._of:
            return
        self._of = key
        self.session.runner.start(
            "drawing", CheckDrawing(self.session.results, project), self._take, failed=self._failed
        )

    def _failed(self, words: str) -> None:
        self._check = None
        self.session.said.emit(words, "must")
        self.changed.emit()

    def _take(self, value: tuple[Project, DrawingCheck]) -> None:
        self._check = value[1]
        self._flat = image_of(value[1].flat)
        self.changed.emit()
        self.picture.update()

    def refresh(self) -> None:
        self._look()
        there = self.drawing is not None
        self.intro.setVisible(not there)
        self.open_acts.show_only({"open", "drop"} if there else {"open"})
        for part in (self.view_way, self.strength):
            part.setVisible(there)
        # Nothing is read from a drawing before its corners are set.
        set_up = there and self.view_way.value == "over"
        verdicts = self._check.verdicts if self._check is not None and set_up else ()
        for row_part in (self.head, self.list):
            row_part.setVisible(bool(verdicts))
        if self._value not in {v.shift.key for v in verdicts}:
            self._value = verdicts[0].shift.key if verdicts else ""
        self.list.set_rows(
            [
                Row(
                    v.shift.key,
                    v.shift.name,
                    "not clear" if v.shift.sure < SURE else "",
                    mm_words(v.weight_mm) if v.weight_mm else "right",
                    off=not v.weight_mm,
                )
                for v in verdicts
            ],
            self._value,
        )
        current = self._current()
        for words in (self.says, self.move, self.hand):
            words.setVisible(current is not None)
        if current is not None:
            self.says.set_words(current.says)
            doubt = "" if current.shift.sure >= SURE else " It was not clearly found: look, or mark it by hand."
            self.move.set_words(f"{current.move[0].upper()}{current.move[1:]}.{doubt}")
            by_hand = self.drawing is not None and current.shift.key in dict(self.drawing.marked)
            self.hand.show_only({"mark", *(("found",) if by_hand else ())})

    def _current(self) -> Verdict | None:
        verdicts = self._check.verdicts if self._check is not None and self.view_way.value == "over" else ()
        return next((v for v in verdicts if v.shift.key == self._value), None)

    def next_step(self) -> tuple[str, str, str]:
        if self.drawing is None:
            return "Photograph your drawing", "Before any paint: a slip costs nothing now.", ""
        if self._check is None or self.view_way.value == "corners":
            return "Set the four corners", "Each onto a corner of the canvas; Enter lays it over.", ""
        worst = next((v for v in self._check.verdicts if v.weight_mm), None)
        if worst is not None:
            first = worst.move.split(";")[0]
            return f"{worst.shift.name}: {first}", "The worst comes first.", "Show me"
        return "Nothing to move", "Every feature stands right.", ""

    def take_next(self) -> None:
        worst = next((v for v in self._check.verdicts if v.weight_mm), None) if self._check is not None else None
        if worst is not None:
            self._choose(worst.shift.key)

    def show_finding(self, finding: Finding) -> None:
        self._choose(finding.subject)

    # Deciding -------------------------------------------------------------------------------------

    def _act(self, act: str) -> None:
        if act == "drop":
            self.edit(edits.drop_drawing, "put the drawing away")
            return
        name, _ = QFileDialog.getOpenFileName(None, "A photograph of your drawing", "", PICTURES)
        if name:
            self.open(Path(name))

    def open(self, path: Path) -> None:
        """Take a photograph of the drawing; its corners are to be set first."""
        try:
            data = archive.picture_bytes(path)
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        if self.edit(lambda p: edits.set_drawing(p, data, path.name), "open a drawing"):
            self.view_way.set_value("corners")
            self._set_way("corners")

    def _set_way(self, _: str) -> None:
        self._held, self._corner = -1, None
        self.changed.emit()
        self.picture.update()

    def _set_strength(self, _value: float, _going: bool) -> None:  # noqa: FBT001  (a slot)
        self.picture.update()

    def _choose(self, key: str) -> None:
        self._value = key
        self.view_way.set_value("over")
        lines = self._check.planned.get(key) if self._check is not None else None
        if lines:
            points = np.concatenate(lines)
            x, y = (points.min(axis=0) + points.max(axis=0)) / 2
            self.picture.fly_to((float(x), float(y)), float(np.ptp(points, axis=0).max()) * 1.8)
        self.changed.emit()

    def _by_hand(self, act: str) -> None:
        key = self._value
        self._drawn = []
        if act == "found":
            self.edit(lambda p: edits.mark_drawn(p, key, []), "find a feature on the drawing again")
        else:
            self.view_way.set_value("over")
            self.strength.set_value(1.0)
            self.session.said.emit("Draw round it as it stands on the drawing; Enter takes it, Esc drops it.", "note")
            self._marking = True
            self.picture.update()

    _marking = False

    # Gestures -------------------------------------------------------------------------------------

    def leave(self) -> None:
        self._held, self._corner, self._line, self._drawn, self._marking = -1, None, [], [], False

    def busy(self) -> bool:
        return self._held >= 0 or self._marking

    def _frame(self, view: Viewport) -> QRectF:
        """Return where the drawing's photograph lies while its corners are set."""
        drawing = self.drawing
        assert drawing is not None
        w, h = drawing.reference.width, drawing.reference.height
        room = view.room.adjusted(34, 34, -34, -34)
        k = min(room.width() / w, room.height() / h)
        box = QRectF(0, 0, w * k, h * k)
        box.moveCenter(room.center())
        return box

    def _corner_place(self, view: Viewport, at: Point) -> QPointF:
        drawing, box = self.drawing, self._frame(view)
        assert drawing is not None
        return QPointF(
            box.left() + at[0] / drawing.reference.width * box.width(),
            box.top() + at[1] / drawing.reference.height * box.height(),
        )

    def _in_drawing(self, place: QPointF) -> Point:
        drawing, box = self.drawing, self._frame(self.picture.viewport)
        assert drawing is not None
        w, h = drawing.reference.width, drawing.reference.height
        x = min(max((place.x() - box.left()) / box.width() * w, 0.0), float(w))
        return x, min(max((place.y() - box.top()) / box.height() * h, 0.0), float(h))

    def press(self, at: Point, event: QMouseEvent) -> None:
        drawing = self.drawing
        if drawing is None:
            return
        if self.view_way.value == "corners":
            view = self.picture.viewport
            gaps = [
                math.hypot(p.x() - event.position().x(), p.y() - event.position().y())
                for p in (self._corner_place(view, c) for c in drawing.corners)
            ]
            nearest = int(np.argmin(gaps))
            self._held = nearest if gaps[nearest] < 60 else -1
        elif self._marking:
            self._line = [at]

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._held >= 0:
            self._corner = self._in_drawing(event.position())
        elif self._line and math.dist(self._line[-1], at) > self.reach(2):
            self._line.append(at)

    def release(self, at: Point, event: QMouseEvent) -> None:
        drawing, held, corner = self.drawing, self._held, self._corner
        self._held, self._corner = -1, None
        if len(self._line) > 2:
            self._drawn.append(np.array(self._line))
        self._line = []
        if drawing is None or held < 0 or corner is None:
            return
        corners = [corner if k == held else c for k, c in enumerate(drawing.corners)]
        self.edit(lambda p: edits.set_corners(p, corners), "a corner of the drawing")

    def key(self, event: QKeyEvent) -> bool:
        key = Qt.Key(event.key())
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self._marking and self._drawn:
                name, drawn = self._value, self._drawn
                self.leave()
                return self.edit(lambda p: edits.mark_drawn(p, name, drawn), "mark a feature on the drawing") or True
            if self.view_way.value == "corners" and self.drawing is not None:
                self.view_way.set_value("over")
                self._set_way("over")
                return True
        if key == Qt.Key.Key_Escape and self.busy():
            self.leave()
            self.picture.update()
            return True
        return False

    # The overlay ----------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        drawing = self.drawing
        if drawing is None:
            return
        if self.view_way.value == "corners":
            self._paint_corners(p, view, drawing)
            return
        if self._flat is not None:
            p.save()
            p.setOpacity(self.strength.value)
            self._paint_flat(p, view, self._flat)
            p.restore()
        if self._check is None:
            return
        for verdict in self._check.verdicts:
            key = verdict.shift.key
            on = key == self._value
            for line in self._check.planned.get(key, ()):
                draw.cased_path(p, overlay.on_screen(view, line), 1.6 if on else 1.0, "over_light")
            if on:
                for line in self._check.placed.get(key, ()):
                    draw.cased_path(p, overlay.on_screen(view, line), 1.6, "russet", (7, 4))
                points = np.concatenate(self._check.planned[key])
                x, _ = view.to_screen(points.mean(axis=0)[None])[0]
                low = float(view.to_screen(points)[:, 1].max())
                draw.over_words(p, float(x), low + 24, verdict.says.rstrip("."), "c", 13, view.room)
        for drawn in (*self._drawn, np.array(self._line).reshape(-1, 2)):
            if len(drawn) > 1:
                draw.stroke(p, view.to_screen(drawn), 3.4, 3.4, "russet", "over_light")

    def _paint_flat(self, p: QPainter, view: Viewport, flat: QImage) -> None:
        """Lay the squared-up drawing over the canvas, turned and mirrored as the picture is."""
        p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        place(p, view, flat, self.project.crop)

    def _paint_corners(self, p: QPainter, view: Viewport, drawing: Drawing) -> None:
        p.fillRect(view.room, colour("well"))
        if self._whole_of != drawing.reference.digest:
            # Decoded once, small enough for the screen; Qt reads what the picture library wrote.
            self._whole_of = drawing.reference.digest
            rgb = picture_of(self.session.results, drawing.reference).rgb
            step = max(1, max(rgb.shape[:2]) // 1800)
            self._whole = image_of(rgb[::step, ::step].copy())
        if self._whole is not None:
            p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            p.drawImage(self._frame(view), self._whole)
        corners = [
            self._corner if k == self._held and self._corner is not None else c for k, c in enumerate(drawing.corners)
        ]
        places = [self._corner_place(view, c) for c in corners]
        draw.cased_path(p, draw.polygon([(q.x(), q.y()) for q in (*places, places[0])]), 1.4)
        for k, corner in enumerate(places):
            on = k == self._held
            draw.circle(p, corner.x(), corner.y(), 11, "", "over_dark", 4)
            draw.circle(p, corner.x(), corner.y(), 11, "", "russet" if on else "over_light", 2)
        words = "Drag each ring onto a corner of the canvas, then Enter"
        draw.over_words(p, view.room.center().x(), view.room.bottom() - 16, words, "c", 13, view.room)
