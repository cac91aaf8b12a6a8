"""A fold of the Reference bench: one part of it, which opens in place, with its own overlay and gestures."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent

from foxpath.core.findings import Finding
from foxpath.document.model import Project
from foxpath.window.bench.controls import ACTIVATE, Control
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.part import Part
from foxpath.window.work.session import Session

if TYPE_CHECKING:
    from foxpath.window.picture.view import PictureView

__all__ = ["Fold", "FoldHead", "JudgementFold", "Point", "disc", "paint_focal", "ring"]


class Fold(Part):
    """One part of the stop.

    Class attributes
    ----------------
    code, title : str
    about : str
        One line on what it is for, the tip of its head.
    crops : bool
        Whether gestures on the picture move the crop's frame while it is open.
    """

    code, title, about = "", "", ""
    crops = False
    picture: "PictureView"
    cursor = Qt.CursorShape.CrossCursor

    def __init__(self, session: Session, picture: "PictureView", parent: QObject) -> None:
        super().__init__(session, picture, parent)
        self.head = FoldHead(self.code, self.title, self.about)
        self.body.setVisible(False)

    def note(self) -> str:
        """Return the fold's line while it is closed."""
        return ""


class JudgementFold(Fold):
    """A fold that lists judgements; the chosen one is shown on the picture."""

    chosen = ""

    def says(self) -> tuple[Finding, ...]:
        """Return what is judged."""
        raise NotImplementedError

    def judgement(self) -> Finding | None:
        """Return the chosen judgement."""
        return next((one for one in self.says() if one.key == self.chosen), None)

    def choose(self, key: str) -> None:
        """Choose a judgement."""
        self.chosen = key
        self.changed.emit()

    def show_judgement(self, key: str) -> None:
        """Choose a judgement and fly to its place."""
        self.choose(key)
        self.fly()

    def fly(self) -> None:
        """Fly to the chosen judgement's place, when it has one."""
        one = self.judgement()
        if one is not None and one.at is not None:
            self.picture.fly_to(one.at, 0.2 * self.project.crop.width)


class FoldHead(Control):
    """The head of a fold: a hair that lies or hangs, the name, a quiet note, a tapering rule."""

    asked = Signal(str)

    def __init__(self, code: str, title: str, about: str) -> None:
        super().__init__(33, title)
        self.code, self.title, self.note = code, title, ""
        self.open = False
        self.setToolTip(about)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def set_state(self, note: str, *, is_open: bool) -> None:
        """Show the note, and whether the fold is open."""
        if (note, is_open) != (self.note, self.open):
            self.note, self.open = note, is_open
            self.setAccessibleDescription(f"{'open' if is_open else 'closed'}, {note}")
            self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.asked.emit(self.code)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in ACTIVATE:
            self.asked.emit(self.code)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.hovered:
                draw.rounded(p, self.rect().toRectF().adjusted(0, 1, 0, -5), 6, "hover")
            tone = "russet" if self.open else "quiet"
            line = draw.along(11, 9, 11, 22) if self.open else draw.along(5, 15, 18, 15)
            draw.stroke(p, line, 4.4, 1.0, tone)
            title = draw.width_of(self.title, 13, 700)
            draw.text(p, 26, 20, self.title, 13, 700)
            room = self.width() - 26 - title - 20
            note = draw.elided(self.note, room, 12)
            draw.text(p, self.width() - 6, 20, note, 12, 400, "quiet", "r")
            draw.rule(p, 6, 28, self.width() - 12, "text" if self.open else "dim")
            if self.ring_shown():
                draw.focus_ring(p, self.rect().toRectF())


def ring(p: QPainter, view: Viewport, at: Point, radius: float, words: str = "", *, chosen: bool = False) -> None:
    """Draw a ring on the picture with words beside it."""
    place = view.at(at)
    draw.circle(p, place.x(), place.y(), radius, "", "over_dark", 4)
    draw.circle(p, place.x(), place.y(), radius, "", "russet" if chosen else "over_light", 1.8)
    if words:
        draw.over_words(p, place.x() + radius + 14, place.y() + 5, words, within=view.room)


def paint_focal(p: QPainter, view: Viewport, project: Project) -> None:
    """Draw the focal point, and say whether it was chosen."""
    at = view.at(project.focal_point)
    draw.focal_point(p, at.x(), at.y())
    has_eyes = any(z.kind == "eye" for z in project.zones)
    words = "focal point" if project.focal is not None else f"focal point, {'from the eyes' if has_eyes else 'a guess'}"
    draw.over_words(p, at.x() + 22, at.y() - 42, words, within=view.room)


def disc(p: QPainter, view: Viewport, at: Point, words: str, *, chosen: bool = False) -> None:
    """Draw a numbered disc on the picture."""
    place = view.at(at)
    draw.circle(p, place.x(), place.y(), 13, "over_plate", "over_light", 1.4)
    if chosen:
        draw.circle(p, place.x(), place.y(), 15.5, "", "russet", 2.4)
    draw.text(p, place.x(), place.y() + 5, words, 14, 700, "over_text", "c")
