"""The shelf: further pictures beside or over the main one, and parts of them placed on it."""

import math
from pathlib import Path

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.curves import closed_curve, simplify
from foxpath.core.errors import AppError
from foxpath.core.reference.compose import inverse, mapped
from foxpath.core.units import mm_words
from foxpath.derive.reference.transfer import SaveSeen
from foxpath.document import edits
from foxpath.document.archive import picture_bytes
from foxpath.document.model import ROLES_OF_LENT, Lent, Reference, as_array
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Button, Choice, Control, Field, Measure, Scale, YesNo
from foxpath.window.bench.rows import Gestures, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport, transform_of
from foxpath.window.stops.reference.fold import Fold, Point

PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.heic *.heif)"
STRENGTH = Scale(0.05, 1.0, lambda v: f"{100 * v:.0f} %", step=0.05)
SIZE = Scale(0.02, 20.0, lambda v: f"{100 * v:.0f} %", ratio=True)
TURN = Scale(-180.0, 180.0, lambda v: f"{v:.0f}°", step=1)
SOFT = Scale(0.0, 20.0, mm_words, step=0.5)
MAIN, ADD = "main", "add"


class Pictures(Control):
    """The pictures of the shelf as they are, three in a row; the last place adds one."""

    chosen = Signal(str)
    ROW, TALL = 76, 52

    def __init__(self) -> None:
        super().__init__(self.ROW, "pictures on the shelf")
        self.items: list[tuple[str, str, QImage | None]] = []
        self.value = MAIN

    def set_items(self, items: list[tuple[str, str, QImage | None]], value: str) -> None:
        """Show (key, words, picture) with one chosen."""
        self.items, self.value = [*items, (ADD, "add", None)], value
        self.setFixedHeight(self.ROW * math.ceil(len(self.items) / 3))
        self.update()

    def _box(self, index: int) -> QRectF:
        wide = (self.width() - 12) / 3
        return QRectF(6 + (index % 3) * wide, (index // 3) * self.ROW + 3, wide - 6, self.TALL)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for k, (key, _, _) in enumerate(self.items):
            if self._box(k).adjusted(-3, -3, 3, 20).contains(event.position()):
                self.chosen.emit(key)
                return

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {
            Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: 3, Qt.Key.Key_Up: -3,
        }.get(Qt.Key(event.key()))  # fmt: skip
        keys = [key for key, _, _ in self.items if key != ADD]
        if event.key() in (Qt.Key.Key_Insert, Qt.Key.Key_Return):
            self.chosen.emit(ADD)
        elif by is None or self.value not in keys:
            super().keyPressEvent(event)
        else:
            self.chosen.emit(keys[min(max(keys.index(self.value) + by, 0), len(keys) - 1)])

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            for k, (key, words, image) in enumerate(self.items):
                box = self._box(k)
                if key == ADD:
                    draw.rounded(p, box, 4, "raised", "line")
                    x, y = box.center().x(), box.center().y()
                    for a in (0, 90, 180, 270):
                        c, s = math.cos(math.radians(a)), math.sin(math.radians(a))
                        draw.stroke(p, draw.along(x + 2 * c, y + 2 * s, x + 11 * c, y + 11 * s, 6), 3.4, 1.0, "text")
                elif image is None:
                    draw.rounded(p, box, 4, "well")
                else:
                    aspect = box.width() / box.height()
                    wide = min(image.width(), image.height() * aspect)
                    high = wide / aspect
                    source = QRectF((image.width() - wide) / 2, (image.height() - high) / 2, wide, high)
                    p.drawImage(box, image, source)
                on = key == self.value
                if on:
                    draw.rounded(p, box.adjusted(-2, -2, 2, 2), 5, "", "russet", 2)
                text = draw.elided(words, box.width(), 12, 600 if on else 400)
                draw.text(p, box.left(), box.bottom() + 16, text, 12, 600 if on else 400, "text" if on else "quiet")
            if self.ring_shown():
                draw.focus_ring(p, self.rect().toRectF())


class ShelfFold(Fold):
    """Compose the reference from several pictures."""

    code, title, about = "shelf", "Shelf", "further pictures: beside, over, or a part of them placed here"

    def make_body(self) -> QWidget:
        self.value = MAIN
        self.left = MAIN
        self.mode = "off"
        self.strength = 0.5
        self._lasso: list[Point] | None = None
        self._cutting = False
        self._from: tuple[Point, Point] | None = None
        self._images: dict[str, list[QImage]] = {}
        self._thumbs: dict[int, QImage] = {}
        self.pictures = Pictures()
        self.pictures.chosen.connect(self._choose)
        self.said = Words("", 12)
        self.about_head = Section("")
        self.note_field = Field("note on this picture")
        self.note_field.blank = True
        self.note_field.setPlaceholderText("a note: what is it for?")
        self.note_field.taken.connect(self._note)
        self.roles = Rows("role of this picture")
        self.roles.set_rows([Row(key, words) for key, words in ROLES_OF_LENT.items()], "")
        self.roles.chosen.connect(self._role)
        self.modes = Choice([("off", "alone"), ("beside", "beside"), ("over", "over")], "how it is shown")
        self.modes.chosen.connect(self._mode)
        self.hold = Button("Keep it at the left")
        self.hold.clicked.connect(self._hold)
        self.over = Measure("strength", STRENGTH)
        self.over.changed.connect(self._strength)
        self.poses = {"scale": Measure("size", SIZE), "turn_deg": Measure("turn", TURN)}
        for field, made in self.poses.items():
            made.setObjectName(field)
            made.changed.connect(self._pose)
        self.mirror = YesNo("mirrored", "as it came")
        self.mirror.toggled.connect(self._mirror)
        self.cut = Button("Draw round a part")
        self.cut.clicked.connect(self._cut)
        self.soft = Measure("soft edge", SOFT)
        self.soft.changed.connect(self._soft)
        self.placed = YesNo("the part is in the reference", "the part is laid aside")
        self.placed.toggled.connect(self._place)
        self.main = Button("Make it the main picture")
        self.main.clicked.connect(self._make_main)
        self.off = Button("Take it off the shelf")
        self.off.clicked.connect(self._take_off)
        self.save = Button("Save the composed picture …")
        self.save.clicked.connect(self.ask_save)
        self.gestures = Gestures(
            [("frame", "move it", "drag it, or arrows"), ("outline", "a part", "one stroke round it")]
        )
        return column(
            self.pictures,
            self.said,
            self.about_head,
            self.modes,
            self.hold,
            self.over,
            *self.poses.values(),
            self.mirror,
            self.cut,
            self.soft,
            self.placed,
            self.note_field,
            self.roles,
            self.main,
            self.off,
            self.gestures,
            self.save,
        )

    # What there is --------------------------------------------------------------------------------

    def _lent(self) -> Lent | None:
        return self.project.lent(self.value)

    def note(self) -> str:
        project = self.project
        if not project.shelf:
            return "one picture"
        placed = len(project.placed)
        return f"{len(project.shelf) + 1} pictures" + (f" · {placed} placed" if placed else "")

    def images(self, key: str) -> list[QImage]:
        """Return a picture's levels as images; none as long as it is being opened."""
        from foxpath.window.picture.view import image_of

        if key == MAIN:
            levels, stamp = self.session.levels, f"main {self.session.levels_taken}"
        else:
            lent = self.project.lent(key)
            if lent is None:
                return []
            levels, stamp = self.session.ask_lent(lent), lent.reference.digest
        if levels and stamp not in self._images:
            if key == MAIN:
                self._images = {k: v for k, v in self._images.items() if not k.startswith("main")}
            self._images[stamp] = [image_of(level) for level in levels]
        return self._images.get(stamp, [])

    def _small(self, key: str) -> QImage | None:
        """Return a picture averaged down for the row of pictures."""
        images = self.images(key)
        if not images:
            return None
        stamp = images[-1].cacheKey()
        if stamp not in self._thumbs:
            size = images[-1].size().scaled(200, 140, Qt.AspectRatioMode.KeepAspectRatioByExpanding)
            ratio, smooth = Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
            self._thumbs[stamp] = images[-1].scaled(size, ratio, smooth)
        return self._thumbs[stamp]

    def refresh(self) -> None:
        project, lent = self.project, self._lent()
        if lent is None:
            self.value = MAIN
        names = [(one.id, one.note or ROLES_OF_LENT[one.role]) for one in project.shelf]
        items = [(key, words, self._small(key)) for key, words in [(MAIN, project.main_note or "main"), *names]]
        self.pictures.set_items(items, self.value)
        self.said.set_words(
            "Add a picture that lends what this one lacks: a detail, its light, a coat, a background."
            if not project.shelf
            else "Choose a further picture to lay it beside or over the main one."
            if lent is None
            else ""
        )
        self.said.setVisible(bool(self.said.words))
        always: tuple[QWidget, ...] = (
            self.about_head, self.modes, self.roles, self.main, self.off,
        )  # fmt: skip
        for part in always:
            part.setVisible(lent is not None)
        self.note_field.show_words(lent.note if lent is not None else project.main_note)
        over = lent is not None and self.mode == "over"
        laid: tuple[QWidget, ...] = (self.over, *self.poses.values(), self.mirror, self.cut, self.gestures)
        for part in laid:
            part.setVisible(over)
        self.hold.setVisible(lent is not None and self.mode == "beside")
        self.soft.setVisible(over and bool(lent and lent.cut))
        self.placed.setVisible(bool(lent and lent.cut))
        self.save.setVisible(bool(project.placed))
        if lent is None:
            self._use_room()
            return
        self.about_head.set_words(lent.reference.name, f"{lent.reference.width} × {lent.reference.height} px")
        self.roles.set_rows(self.roles.rows, lent.role)
        self.modes.set_value(self.mode)
        self.hold.set_words("The main picture at the left again" if self.left == lent.id else "Keep it at the left")
        self.over.set_value(self.strength, 0.5, decided=self.strength != 0.5)
        for field, made in self.poses.items():
            made.set_value(getattr(lent.pose, field), decided=True)
        self.mirror.set_value(on=lent.pose.mirrored)
        self.cut.set_words("Draw round another part" if lent.cut else "Draw round a part")
        self.soft.set_value(lent.soft_mm, 1.0, decided=lent.soft_mm != 1.0)
        self.placed.set_value(on=lent.placed)
        self._use_room()

    def _use_room(self) -> None:
        """Leave half of the room to the picture beside."""
        self.picture.use_share(0.5 if self.mode == "beside" and self._lent() is not None else 1.0)

    def enter(self) -> None:
        self._use_room()

    def leave(self) -> None:
        self._lasso, self._from, self._cutting = None, None, False
        self.picture.use_share(1.0)

    def busy(self) -> bool:
        return self._cutting or self._lasso is not None

    # The bench ------------------------------------------------------------------------------------

    def _choose(self, key: str) -> None:
        if key == ADD:
            self.ask_pictures()
            return
        self.value = key
        if key != MAIN and self.mode == "off":
            self.mode = "beside"
        self.changed.emit()

    def ask_pictures(self) -> None:
        """Ask for pictures and put them on the shelf."""
        names, _ = QFileDialog.getOpenFileNames(self.picture, "Add pictures to the shelf", "", PICTURES)
        for name in names:
            self.add(Path(name))

    def add(self, path: Path) -> None:
        """Put a picture on the shelf; what is wrong with it is said in the foot."""
        try:
            data = picture_bytes(path)
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        if self.edit(lambda p: edits.lend(p, data, path.name)[0], f"add {path.name}"):
            self._choose(self.project.shelf[-1].id)

    def _note(self, words: str) -> None:
        if self._lent() is None:
            self.edit(lambda p: edits.note_main(p, words), "note on the main picture")
        else:
            self.edit(lambda p: edits.change_lent(p, self.value, note=words), "note on a picture")

    def _role(self, role: str) -> None:
        self.edit(lambda p: edits.change_lent(p, self.value, role=role), f"picture lends {ROLES_OF_LENT[role]}")

    def _mode(self, mode: str) -> None:
        self.mode = mode
        self.leave()
        self.changed.emit()

    def _hold(self) -> None:
        self.left = MAIN if self.left == self.value else self.value
        self.changed.emit()

    def _strength(self, value: float, _: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.strength = value
        self.picture.update()

    def _pose(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        field = self.sender().objectName()
        self.edit(
            lambda p: edits.pose_lent(p, self.value, **{field: value}), "lay the picture", f"pose {field}", going=going
        )

    def _mirror(self, on: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.edit(lambda p: edits.pose_lent(p, self.value, mirrored=on), "mirror the picture")

    def _cut(self) -> None:
        self._cutting = True
        self.session.said.emit("Draw round the part in one stroke; Esc drops it.", "note")

    def _soft(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.edit(lambda p: edits.change_lent(p, self.value, soft_mm=value), "soft edge", "soft edge", going=going)

    def _place(self, on: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.edit(lambda p: edits.change_lent(p, self.value, placed=on), "place the part" if on else "lay it aside")

    def _make_main(self) -> None:
        key, self.mode = self.value, "off"
        self.leave()
        self.edit(lambda p: edits.make_main(p, key), "another main picture")

    def _take_off(self) -> None:
        key, self.value, self.left = self.value, MAIN, MAIN
        self.edit(lambda p: edits.take_off(p, key), "take a picture off the shelf")

    def ask_save(self) -> None:
        """Ask where to save the composed picture."""
        start = f"{self.project.name} composed.png"
        name, _ = QFileDialog.getSaveFileName(self.picture, "Save the composed picture", start, "PNG (*.png)")
        if name:
            path = Path(name if name.lower().endswith(".png") else f"{name}.png")
            self.session.write(SaveSeen(self.session.results, self.project, path, whole=True))

    # The picture ----------------------------------------------------------------------------------

    def press(self, at: Point, event: QMouseEvent) -> None:
        lent = self._lent()
        if lent is None or self.mode != "over":
            return
        if self._cutting:
            self._lasso = [at]
        else:
            self._from = (at, (lent.pose.x, lent.pose.y))

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._lasso is not None:
            self._lasso.append(at)
        elif self._from is not None:
            (x0, y0), (px, py) = self._from
            to = {"x": px + at[0] - x0, "y": py + at[1] - y0}
            self.edit(lambda p: edits.pose_lent(p, self.value, **to), "move the picture", "pose", going=True)

    def release(self, at: Point, event: QMouseEvent) -> None:
        lent, stroke = self._lent(), self._lasso
        self._from, self._lasso = None, None
        self.session.seal()
        if stroke is None or lent is None:
            return
        self._cutting = False
        points = simplify(np.array(stroke, np.float64), self.reach(1.5))
        back = inverse(lent.pose.affine(lent.reference.width, lent.reference.height))
        self.edit(lambda p: edits.cut_lent(p, lent.id, mapped(back, points)), "cut a part out")

    def key(self, event: QKeyEvent) -> bool:
        lent = self._lent()
        by = {
            Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
        }.get(Qt.Key(event.key()))  # fmt: skip
        if lent is None or self.mode != "over" or by is None or event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            return False
        step = self.picture.viewport.way(QPointF(*by))
        to = {"x": lent.pose.x + step[0], "y": lent.pose.y + step[1]}
        return self.edit(lambda p: edits.pose_lent(p, self.value, **to), "move the picture", "pose keys", going=True)

    def words_at(self, at: Point) -> str:
        lent = self._lent()
        if lent is None or self.mode != "over":
            return ""
        x, y = mapped(inverse(lent.pose.affine(lent.reference.width, lent.reference.height)), np.array([at]))[0]
        if not (0 <= x < lent.reference.width and 0 <= y < lent.reference.height):
            return ""
        return f"{lent.note or lent.reference.name} {x:.0f}, {y:.0f} px"

    def paint(self, p: QPainter, view: Viewport) -> None:
        lent = self._lent()
        if lent is None:
            return
        if self.mode == "over":
            self._paint_over(p, view, lent)
        elif self.mode == "beside":
            self._paint_beside(p, view, lent)

    def _paint_over(self, p: QPainter, view: Viewport, lent: Lent) -> None:
        reference = lent.reference
        affine = lent.pose.affine(reference.width, reference.height)
        images = self.images(lent.id)
        corners = np.array([(0, 0), (reference.width, 0), (reference.width, reference.height), (0, reference.height)])
        rim = QPainterPath()
        rim.addPolygon(draw.polygon(view.to_screen(mapped(affine, corners.astype(np.float64)))))
        rim.closeSubpath()
        if images:
            scale = lent.pose.scale * view.scale * self.picture.devicePixelRatioF()
            image = next((v for v in reversed(images) if v.width() >= scale * reference.width), images[0])
            p.save()
            p.setOpacity(self.strength)
            p.setTransform(view.transform(), True)
            p.setTransform(transform_of(affine), True)
            p.drawImage(QRectF(0, 0, reference.width, reference.height), image)
            p.restore()
        draw.cased_path(p, rim, 1.1, "over_light", (6, 4))
        if len(lent.cut) >= 3:
            line = view.to_screen(mapped(affine, closed_curve(as_array(lent.cut))))
            path = QPainterPath()
            path.addPolygon(draw.polygon(line))
            path.closeSubpath()
            draw.cased_path(p, path, 1.6, "russet" if lent.placed else "over_light")
        if self._lasso is not None and len(self._lasso) > 1:
            draw.cased_path(p, draw.polygon(view.to_screen(np.array(self._lasso))), 1.6, "russet")

    def _paint_beside(self, p: QPainter, view: Viewport, lent: Lent) -> None:
        """Show two pictures side by side: the chosen one at the right, the main or the kept one at the left."""
        room = view.room
        right = QRectF(room.right(), room.top(), room.width(), room.height())
        p.save()
        p.setClipRect(QRectF(room.left(), room.top(), 2 * room.width(), room.height()))
        other = self.project.lent(self.left)
        if other is not None and other.id != lent.id:
            self._fitted(p, room, other.id, other.reference, other.note)
        self._fitted(p, right, lent.id, lent.reference, lent.note)
        p.restore()

    def _fitted(self, p: QPainter, room: QRectF, key: str, reference: Reference, note: str) -> None:
        p.fillRect(room, colour("well"))
        images = self.images(key)
        inner = room.adjusted(10, 12, -10, -12)
        scale = min(inner.width() / reference.width, inner.height() / reference.height)
        wide, high = reference.width * scale, reference.height * scale
        box = QRectF(inner.center().x() - wide / 2, inner.center().y() - high / 2, wide, high)
        if images:
            need = wide * self.picture.devicePixelRatioF()
            p.drawImage(box, next((v for v in reversed(images) if v.width() >= need), images[0]))
            draw.over_words(p, box.center().x(), box.bottom() - 14, note or reference.name, "c", within=room)
        else:
            draw.over_words(p, room.center().x(), room.center().y(), f"opening {reference.name}", "c", within=room)
