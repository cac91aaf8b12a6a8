"""What folds and pages have in common: one matter with a body for the bench, an overlay, and gestures on the picture."""

from collections.abc import Callable

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.units import mm_words
from foxpath.document.model import Project
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import Picture, Point
from foxpath.window.work.session import Session


class Matter(QObject):
    """One matter of a stop; a stop hands it what happens on the picture while it is open."""

    changed = Signal()
    """What this shows has changed by itself: the bench is brought up to date."""

    def __init__(self, session: Session, picture: Picture, parent: QObject) -> None:
        super().__init__(parent)
        self.session, self.picture = session, picture
        self.body = self.make_body()

    @property
    def project(self) -> Project:
        """The present project; matters are only shown when there is one."""
        project = self.session.project
        assert project is not None
        return project

    def edit(self, change: Callable[[Project], Project], words: str, key: str = "", *, going: bool = False) -> bool:
        """Apply an edit; with a `key` a drag becomes one step of the history, ended when it no longer is going."""
        done = self.session.edit(change, words, key)
        if key and not going and self.session.history is not None:
            self.session.history.seal()
        return done

    def reach(self, pixels: float) -> float:
        """Return screen pixels as reference pixels."""
        return pixels / self.picture.viewport.scale

    def mm(self, px: float) -> str:
        """Write a length in reference pixels as millimetres on the canvas."""
        return mm_words(px * self.project.mm_per_px)

    def make_body(self) -> QWidget:
        """Build what stands in the bench."""
        raise NotImplementedError

    def refresh(self) -> None:
        """Bring the body up to date; only called while it is shown."""

    def opened(self) -> None:
        """It was opened."""

    def closed(self) -> None:
        """It was closed, or the stop left: half-made gestures are dropped."""

    def busy(self) -> bool:
        """Tell whether a gesture is half made."""
        return False

    def paint(self, p: QPainter, view: Viewport) -> None:
        """Draw the overlay."""

    def press(self, at: Point, event: QMouseEvent) -> None:
        """A button went down at a reference pixel."""

    def drag(self, at: Point, event: QMouseEvent) -> None:
        """The pointer moved with the button down."""

    def release(self, at: Point, event: QMouseEvent) -> None:
        """The button went up."""

    def key(self, event: QKeyEvent) -> bool:
        """Take a key pressed over the picture; returns whether it was one of ours."""
        return False

    def key_up(self, event: QKeyEvent) -> bool:
        """Take a key released over the picture."""
        return False

    def words_at(self, at: Point) -> str:
        """Say what this knows of a place."""
        return ""
