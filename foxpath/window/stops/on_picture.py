"""What a stop, and a part of one, does on the picture: what it draws there, and what a gesture means."""

from collections.abc import Callable
from typing import Protocol

from PySide6.QtCore import QObject, QPointF
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter

from foxpath.core.units import mm_words
from foxpath.document.model import Project
from foxpath.window.picture.viewport import Viewport
from foxpath.window.work.session import Session

Point = tuple[float, float]


class Picture(Protocol):
    """What a stop asks of the picture."""

    viewport: Viewport
    pointer: QPointF | None

    def update(self) -> None: ...
    def refresh_overlay(self, *, now: bool = False) -> None: ...
    def use_share(self, share: float) -> None: ...
    def fly_to(self, point: Point, size_px: float = 0.0) -> None: ...
    def refresh_region(self, *, fit: bool) -> None: ...
    def moved(self) -> None: ...


class OnPicture(QObject):
    """Draws on the picture and takes gestures there; each of them does nothing until it is given a meaning."""

    def __init__(self, session: Session, picture: Picture, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.session, self.picture = session, picture

    def edit(self, change: Callable[[Project], Project], words: str, key: str = "", *, going: bool = False) -> bool:
        """Apply an edit; with a `key` a drag becomes one step of the history, ended when it no longer is going."""
        done = self.session.edit(change, words, key)
        if key and not going:
            self.session.seal()
        return done

    def reach(self, pixels: float) -> float:
        """Return screen pixels as reference pixels."""
        return pixels / self.picture.viewport.scale

    def mm(self, px: float) -> str:
        """Write a length in reference pixels as millimetres on the canvas."""
        project = self.session.project
        return mm_words(px * project.mm_per_px) if project is not None else ""

    def enter(self) -> None:
        """It is opened."""

    def leave(self) -> None:
        """It is closed: half-made gestures are dropped."""

    def busy(self) -> bool:
        """Tell whether a gesture is half made."""
        return False

    def take_back(self) -> bool:
        """Take back the last piece of a gesture that is half made; returns False when there is none."""
        return False

    def paint(self, p: QPainter, view: Viewport) -> None:
        """Draw the overlay."""

    def press(self, at: Point, event: QMouseEvent) -> None:
        """A button went down at a reference pixel."""

    def drag(self, at: Point, event: QMouseEvent) -> None:
        """The pointer moved with the button down."""

    def release(self, at: Point, event: QMouseEvent) -> None:
        """The button went up."""

    def double_click(self, at: Point, event: QMouseEvent) -> None:
        """A double click."""

    def hover(self, at: Point) -> None:
        """The pointer moved."""

    def key(self, event: QKeyEvent) -> bool:
        """Take a key pressed over the picture; returns whether it was one of ours."""
        return False

    def key_up(self, event: QKeyEvent) -> bool:
        """Take a key released over the picture."""
        return False

    def words_at(self, at: Point) -> str:
        """Say what lies at a place, for the foot."""
        return ""
