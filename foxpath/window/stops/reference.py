"""Stop 1, Reference: the canvas's size, the crop, the focal point."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath
from PySide6.QtWidgets import QWidget

from foxpath.core.errors import AppError
from foxpath.core.frame import Crop
from foxpath.core.units import mm_words, parse_size
from foxpath.document import edits
from foxpath.window import draw
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button, Field
from foxpath.window.bench.rows import Gestures, NextStep, Row, Rows, Section, Words
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import Point, Stop
from foxpath.window.theme import colour

SIZES = (
    ("50x40cm", "50 × 40 cm", "usual panel"),
    ("40x50cm", "40 × 50 cm", "usual panel"),
    ("60x80cm", "60 × 80 cm", "large"),
    ("30x24cm", "30 × 24 cm", "small"),
    ("29.7x21cm", "29.7 × 21 cm", "A4"),
    ("42x29.7cm", "42 × 29.7 cm", "A3"),
    ("16x20in", "16 × 20 in", "usual panel"),
)


class ReferenceStop(Stop):
    """Crop the picture to the canvas; from here on every length is in millimetres."""

    code, title = "reference", "Reference"
    shows_whole = True

    def make_panel(self) -> QWidget:
        self._grab = ""
        self._from: tuple[Point, Crop] = ((0, 0), Crop(0, 0, 1, 1))
        self.next = NextStep("frame")
        self.next.asked.connect(self._go_on)
        self.name = Field("name of the painting")
        self.name.taken.connect(self._rename)
        self.size = Field("canvas size, width x height")
        self.size.taken.connect(self._resize)
        self.size_note = Words("", 12.5)
        self.sizes = Rows("usual sizes")
        self.sizes.chosen.connect(self._resize)
        self.turn = Button("Turn portrait or landscape")
        self.turn.clicked.connect(self._turn)
        self.numbers = Rows("canvas fit")
        self.focal = Button("Focal point back to the eyes")
        self.focal.clicked.connect(self._reset_focal)
        self.canvas_head = Section("Canvas", "width × height")
        return panel(
            self.next,
            Section("Painting"),
            self.name,
            self.canvas_head,
            self.size,
            self.size_note,
            self.sizes,
            self.turn,
            Section("Canvas fit", "from the crop"),
            self.numbers,
            self.focal,
            Section("Say it with a stroke", "on the picture"),
            Gestures(
                [
                    ("frame", "crop", "drag inside, or a corner"),
                    ("outline", "focal point", "two clicks"),
                ]
            ),
        )

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        self.name.show_words(project.name)
        self.size.show_words(project.canvas.words())
        self.size_note.set_words("cm or in, e.g. 50x40 cm or 20x16 in")
        self.sizes.set_rows([Row(k, words, note) for k, words, note in SIZES], self._same_size())
        k = project.mm_per_px
        finest = 0.25
        self.numbers.set_rows(
            [
                Row("px", "One pixel on the canvas", "", mm_words(k)),
                Row("crop", "Crop", "", f"{project.crop.width:.0f} × {project.crop.height:.0f} px"),
                Row("pic", "Picture", "", f"{project.reference.width} × {project.reference.height} px"),
                Row("fine", "A fine liner's mark", "", f"{finest / k:.1f} px"),
            ],
            "",
        )
        self.focal.setVisible(project.focal is not None)
        if len(project.zones) < 2:
            self.next.set_words("Outline the animal", "The crop is set; zones come next.", "Go on")
        else:
            self.next.set_words("The crop stands", "Zones and marks keep their place if you move it.", "Go on")

    def _same_size(self) -> str:
        project = self.session.project
        for key, _, _ in SIZES:
            size = parse_size(key)
            if project and abs(size.width_mm - project.canvas.width_mm) < 0.05 > abs(
                size.height_mm - project.canvas.height_mm
            ):
                return key
        return ""

    def reading(self) -> str:
        project = self.session.project
        return f"{project.canvas.words()}" if project else "a picture, a crop"

    def state(self) -> draw.State:
        return "ready" if self.session.project else "no"

    def _go_on(self) -> None:
        self.go_to.emit("zones")

    def _rename(self, words: str) -> None:
        self.session.edit(lambda p: edits.rename(p, words), "rename the painting")

    def _resize(self, words: str) -> None:
        project = self.session.project
        if project is None:
            return
        try:
            canvas = parse_size(words)
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            self.size.setText(project.canvas.words())
            return
        self.session.edit(lambda p: edits.set_canvas(p, canvas), f"canvas {canvas.words()}")

    def _turn(self) -> None:
        project = self.session.project
        if project is not None:
            canvas = project.canvas
            turned = type(canvas)(canvas.height_mm, canvas.width_mm, canvas.unit)
            self.session.edit(lambda p: edits.set_canvas(p, turned), "turn the canvas")

    def _reset_focal(self) -> None:
        self.session.edit(lambda p: edits.set_focal(p, None), "focal point back to the eyes")

    # Gestures -------------------------------------------------------------------------------------

    def _handles(self) -> dict[str, Point]:
        c = self.session.project.crop  # type: ignore[union-attr]
        return {
            "nw": (c.x, c.y),
            "ne": (c.x + c.width, c.y),
            "sw": (c.x, c.y + c.height),
            "se": (c.x + c.width, c.y + c.height),
        }

    def press(self, at: Point, event: QMouseEvent) -> None:
        project = self.session.project
        if project is None or event.button() != Qt.MouseButton.LeftButton:
            return
        self._grab = "move"
        for name, (x, y) in self._handles().items():
            if abs(at[0] - x) < self.reach(16) and abs(at[1] - y) < self.reach(16):
                self._grab = name
        self._from = (at, project.crop)

    def drag(self, at: Point, event: QMouseEvent) -> None:
        (x0, y0), crop = self._from
        if not self._grab or self.session.project is None:
            return
        dx, dy = at[0] - x0, at[1] - y0
        if self._grab == "move":
            changed = Crop(crop.x + dx, crop.y + dy, crop.width, crop.height)
        else:
            aspect = crop.width / crop.height
            grow = (dx if "e" in self._grab else -dx) + (dy if "s" in self._grab else -dy) * aspect
            width = max(crop.width + grow / 2, 16.0)
            height = width / aspect
            x = crop.x if "e" in self._grab else crop.x + crop.width - width
            y = crop.y if "s" in self._grab else crop.y + crop.height - height
            changed = Crop(x, y, width, height)
        self.session.edit(lambda p: edits.set_crop(p, changed), "crop", "crop")

    def release(self, at: Point, event: QMouseEvent) -> None:
        self._grab = ""
        if self.session.history is not None:
            self.session.history.seal()

    def double_click(self, at: Point, event: QMouseEvent) -> None:
        self.session.edit(lambda p: edits.set_focal(p, (round(at[0], 1), round(at[1], 1))), "focal point")

    def key(self, event: QKeyEvent) -> bool:
        project = self.session.project
        by = {
            Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
        }.get(Qt.Key(event.key()))  # fmt: skip
        if project is None:
            return False
        step = project.crop.width / 100
        if by is not None and event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            c = project.crop
            moved = Crop(c.x + by[0] * step, c.y + by[1] * step, c.width, c.height)
            return self.session.edit(lambda p: edits.set_crop(p, moved), "crop", "crop keys")
        if event.key() in (Qt.Key.Key_BracketLeft, Qt.Key.Key_BracketRight):
            factor = 0.97 if event.key() == Qt.Key.Key_BracketLeft else 1.03
            c = project.crop
            width, height = c.width * factor, c.height * factor
            sized = Crop(c.x + (c.width - width) / 2, c.y + (c.height - height) / 2, width, height)
            return self.session.edit(lambda p: edits.set_crop(p, sized), "crop", "crop keys")
        return False

    def words_at(self, at: Point) -> str:
        words = super().words_at(at)
        project = self.session.project
        if project is None or not words:
            return "outside the crop"
        fx, fy = project.focal_point
        away = ((at[0] - fx) ** 2 + (at[1] - fy) ** 2) ** 0.5
        return f"{words} · {self.mm(away)} from the focal point"

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.session.project
        if project is None:
            return
        box = view.crop_on_screen(project.crop)
        outside = QPainterPath()
        outside.addRect(view.region_on_screen())
        hole = QPainterPath()
        hole.addRect(box)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour("well", 0.65))
        p.drawPath(outside.subtracted(hole))
        for k in (1, 2):
            x, y = box.left() + box.width() * k / 3, box.top() + box.height() * k / 3
            p.setPen(colour("over_dark", 0.28))
            p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
            p.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
            p.setPen(colour("over_light", 0.35))
            p.drawLine(QPointF(x + 1, box.top()), QPointF(x + 1, box.bottom()))
            p.drawLine(QPointF(box.left(), y + 1), QPointF(box.right(), y + 1))
        rim = QPainterPath()
        rim.addRect(box.adjusted(1, 1, -1, -1))
        draw.cased_path(p, rim, 1.1)
        for x, sx in ((box.left() + 1, 1), (box.right() - 1, -1)):
            for y, sy in ((box.top() + 1, 1), (box.bottom() - 1, -1)):
                corner = QPainterPath(QPointF(x + 26 * sx, y + sy))
                corner.lineTo(x + sx, y + sy)
                corner.lineTo(x + sx, y + 26 * sy)
                draw.cased_path(p, corner, 3.0, "russet" if self._grab else "over_light")
        at = view.at(project.focal_point)
        draw.focal_point(p, at.x(), at.y())
        label = "focal point" if project.focal is not None else "focal point, from the eyes"
        has_eyes = any(z.kind == "eye" for z in project.zones)
        if project.focal is None and not has_eyes:
            label = "focal point, a guess"
        draw.over_words(p, at.x() + 22, at.y() - 42, label, within=view.room)
        if QRectF(view.room).contains(box.bottomRight()):
            draw.over_words(p, box.center().x(), box.bottom() - 16, project.canvas.words(), "c", within=view.room)
