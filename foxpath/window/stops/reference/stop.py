"""The Reference stop: the next step, the three most useful findings, and a row of folds, one open at a time."""

from PySide6.QtCore import QPoint, QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath
from PySide6.QtWidgets import QScrollArea, QWidget

from foxpath.core.frame import Crop
from foxpath.document import edits
from foxpath.window.bench.bench import panel
from foxpath.window.bench.rows import NextStep
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.reference.canvas import CanvasFold
from foxpath.window.stops.reference.composition import CompositionFold
from foxpath.window.stops.reference.correction import CorrectionFold
from foxpath.window.stops.reference.fold import Fold, JudgementFold, paint_focal
from foxpath.window.stops.reference.health import HealthFold
from foxpath.window.stops.reference.light import LightFold
from foxpath.window.stops.reference.seeing import SeeingFold
from foxpath.window.stops.reference.shelf import ShelfFold
from foxpath.window.stops.reference.spots import SpotsFold
from foxpath.window.stops.reference.transfer import TransferFold

FOLDS = (
    CanvasFold,
    HealthFold,
    CorrectionFold,
    CompositionFold,
    LightFold,
    SpotsFold,
    SeeingFold,
    ShelfFold,
    TransferFold,
)

ABOVE_PX, SETTLED_MS = 10, 40
"""How far from the top of the bench the head of an opened fold comes to lie, and when its texts have found their heights."""


class ReferenceStop(Stop):
    """Judge the picture and fit it to the canvas; from here on every length is in millimetres."""

    code, title = "reference", "Reference"
    shows_whole = True

    def make_panel(self) -> QWidget:
        self._grab = ""
        self._from: tuple[Point, Crop] = ((0, 0), Crop(0, 0, 1, 1))
        self.next = NextStep("frame")
        self.next.asked.connect(self._go_on)
        self.found = FindingList(self.code)
        self.found.asked.connect(self._finding)
        self.folds: dict[str, Fold] = {cls.code: cls(self.session, self.picture, self) for cls in FOLDS}  # type: ignore[arg-type]
        self.open = "canvas"
        parts: list[QWidget] = [self.next, self.found]
        for fold in self.folds.values():
            fold.head.asked.connect(self.toggle_fold)
            fold.changed.connect(self._fold_changed)
            parts += [fold.head, fold.body]
        made = panel(*parts)
        # Only once it has a parent: before, it would open as a window of its own.
        self.folds[self.open].body.setVisible(True)
        return made

    @property
    def fold(self) -> Fold | None:
        """The open fold."""
        return self.folds.get(self.open)

    def toggle_fold(self, code: str) -> None:
        """Open a fold, or close it when it is the open one."""
        self.open_fold("" if code == self.open else code)

    def open_fold(self, code: str) -> None:
        """Open a fold and close the other; empty closes all."""
        if code == self.open:
            return
        before = self.fold
        self.open = code
        if before is not None:
            before.leave()
            before.body.setVisible(False)
        fold = self.fold
        if fold is not None:
            fold.body.setVisible(True)
            fold.enter()
        self._use_cursor()
        self.refresh()
        self.picture.update()
        if fold is not None:
            QTimer.singleShot(SETTLED_MS, self._bring_into_sight)

    def _use_cursor(self) -> None:
        fold = self.fold
        self.cursor = fold.cursor if fold is not None else Qt.CursorShape.ArrowCursor
        if self.session.chosen.stop == self.code:
            self.picture.setCursor(self.cursor)  # type: ignore[attr-defined]

    def _bring_into_sight(self) -> None:
        fold = self.fold
        area = self.panel.parent()
        while area is not None and not isinstance(area, QScrollArea):
            area = area.parent()
        if isinstance(area, QScrollArea) and fold is not None:
            # Near the top, with what stands before it still to be seen: the body has all the room there is.
            area.verticalScrollBar().setValue(fold.head.mapTo(self.panel, QPoint()).y() - ABOVE_PX)

    def _fold_changed(self) -> None:
        self.refresh()
        self.picture.update()

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        inspection = self.session.inspection
        if inspection is not None:
            self.found.set_findings(inspection.useful(), [("show", "show me")])
        else:
            self.found.set_findings([], [])
        for fold in self.folds.values():
            is_open = fold.code == self.open
            fold.head.set_state("" if is_open else fold.note(), is_open=is_open)
            if is_open:
                fold.refresh()
        if len(project.zones) < 2:
            self.next.set_words("Outline the animal", f"The crop is set. {self.next_words()}", "Go on")
        else:
            self.next.set_words("The crop stands", "What is drawn stays put if you move it.", "Go on")

    def reading(self) -> str:
        project, inspection = self.session.project, self.session.inspection
        if project is None:
            return "a picture, a crop"
        count = sum(one.level in ("must", "look") for one in inspection.useful()) if inspection is not None else 0
        words = f"{count} to look at" if count else project.canvas.words()
        return f"{len(project.shelf) + 1} pictures · {words}" if project.shelf else words

    def state(self) -> draw.State:
        return "ready" if self.session.project else "no"

    def leave(self) -> None:
        if self.fold is not None:
            self.fold.leave()

    def enter(self) -> None:
        if self.fold is not None:
            self.fold.enter()

    def busy(self) -> bool:
        return self.fold is not None and self.fold.busy()

    def _go_on(self) -> None:
        self.go_on()

    def _finding(self, _: str, finding: object) -> None:
        key = str(getattr(finding, "subject", ""))
        inspection = self.session.inspection
        if inspection is None:
            return
        for code, says in (("health", inspection.health_says), ("composition", inspection.composition_says)):
            one = next((one for one in says if one.key == key), None)
            if one is not None:
                self.open_fold(code)
                fold = self.folds[code]
                if isinstance(fold, JudgementFold):
                    fold.show_judgement(one.key)

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
        project, fold = self.session.project, self.fold
        if project is None or event.button() != Qt.MouseButton.LeftButton or fold is None:
            return
        if not fold.crops:
            fold.press(at, event)
            return
        self._grab = "move"
        for name, (x, y) in self._handles().items():
            if abs(at[0] - x) < self.reach(16) and abs(at[1] - y) < self.reach(16):
                self._grab = name
        self._from = (at, project.crop)

    def drag(self, at: Point, event: QMouseEvent) -> None:
        (x0, y0), crop = self._from
        if self.fold is not None and not self.fold.crops:
            self.fold.drag(at, event)
            return
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
        if self.fold is not None and not self.fold.crops:
            self.fold.release(at, event)
            return
        self._grab = ""
        self.session.seal()

    def double_click(self, at: Point, event: QMouseEvent) -> None:
        if self.fold is not None and self.open in ("canvas", "seeing", "composition"):
            self.session.edit(lambda p: edits.set_focal(p, (round(at[0], 1), round(at[1], 1))), "focal point")

    def key(self, event: QKeyEvent) -> bool:
        project = self.session.project
        by = {
            Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, -1), Qt.Key.Key_Down: (0, 1),
        }.get(Qt.Key(event.key()))  # fmt: skip
        if project is None:
            return False
        if self.fold is not None and self.fold.key(event):
            return True
        pointer = self.picture.pointer
        if event.key() == Qt.Key.Key_F and not event.modifiers() and pointer is not None:
            x, y = self.picture.viewport.to_reference(pointer)
            return self.session.edit(lambda p: edits.set_focal(p, (round(x, 1), round(y, 1))), "focal point")
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

    def key_up(self, event: QKeyEvent) -> bool:
        return self.fold is not None and self.fold.key_up(event)

    def words_at(self, at: Point) -> str:
        words = super().words_at(at)
        project = self.session.project
        if project is None or not words:
            return "outside the crop"
        more = self.fold.words_at(at) if self.fold is not None else ""
        if not more:
            fx, fy = project.focal_point
            away = ((at[0] - fx) ** 2 + (at[1] - fy) ** 2) ** 0.5
            more = f"{self.mm(away)} from the focal point"
        return f"{words} · {more}"

    # Painting -------------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        project, fold = self.session.project, self.fold
        if project is None:
            return
        box = view.crop_on_screen(project.crop)
        self._paint_outside(p, view, box)
        if fold is None or fold.crops:
            self._paint_frame(p, view, box)
        if fold is not None:
            fold.paint(p, view)

    def _paint_outside(self, p: QPainter, view: Viewport, box: QRectF) -> None:
        outside = QPainterPath()
        outside.addRect(view.region_on_screen())
        hole = QPainterPath()
        hole.addRect(box)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour("well", 0.65))
        p.drawPath(outside.subtracted(hole))
        rim = QPainterPath()
        rim.addRect(box.adjusted(1, 1, -1, -1))
        draw.cased_path(p, rim, 1.1)

    def _paint_frame(self, p: QPainter, view: Viewport, box: QRectF) -> None:
        """Draw what can be grabbed: thirds, corners, the focal point."""
        project = self.session.project
        assert project is not None
        for k in (1, 2):
            x, y = box.left() + box.width() * k / 3, box.top() + box.height() * k / 3
            p.setPen(colour("over_dark", 0.28))
            p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
            p.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
            p.setPen(colour("over_light", 0.35))
            p.drawLine(QPointF(x + 1, box.top()), QPointF(x + 1, box.bottom()))
            p.drawLine(QPointF(box.left(), y + 1), QPointF(box.right(), y + 1))
        for x, sx in ((box.left() + 1, 1), (box.right() - 1, -1)):
            for y, sy in ((box.top() + 1, 1), (box.bottom() - 1, -1)):
                corner = QPainterPath(QPointF(x + 26 * sx, y + sy))
                corner.lineTo(x + sx, y + sy)
                corner.lineTo(x + sx, y + 26 * sy)
                draw.cased_path(p, corner, 3.0, "russet" if self._grab else "over_light")
        paint_focal(p, view, project)
        if QRectF(view.room).contains(box.bottomRight()):
            draw.over_words(p, box.center().x(), box.bottom() - 16, project.canvas.words(), "c", within=view.room)
