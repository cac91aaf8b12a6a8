"""What the pages of the Eyes stop have in common: a body for the bench, an overlay, and gestures."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.passes import Finding
from foxpath.core.units import mm_words
from foxpath.derive.eyes import EyesReading
from foxpath.document.model import Project
from foxpath.window.picture.viewport import Viewport
from foxpath.window.session import Session

if TYPE_CHECKING:
    from foxpath.window.stops.base import Picture, Point


class Page(QObject):
    """One page of the stop."""

    code, title = "", ""

    changed = Signal()
    """What this page shows has changed by itself: the bench is brought up to date."""

    def __init__(self, session: Session, picture: "Picture", parent: QObject) -> None:
        super().__init__(parent)
        self.session, self.picture = session, picture
        self.body = self.make_body()

    @property
    def project(self) -> Project:
        """The present project; pages are only shown when there is one."""
        project = self.session.project
        assert project is not None
        return project

    @property
    def reading(self) -> EyesReading:
        """What is known of eyes and features; nothing as long as it is being read."""
        readings = self.session.readings
        return readings.eyes if readings is not None else EyesReading()

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

    def next_step(self) -> tuple[str, str, str]:
        """Return sentence, reason and button of the next step."""
        return "", "", ""

    def take_next(self) -> None:
        """Take the next step."""

    def show_finding(self, finding: Finding) -> None:
        """Fly to what a finding is about."""

    def opened(self) -> None:
        """The page was opened."""

    def closed(self) -> None:
        """The page was closed: half-made gestures are dropped."""

    def busy(self) -> bool:
        """Tell whether a gesture is half made."""
        return False

    def take_back(self) -> bool:
        """Take back the last piece of a gesture that is half made; returns False when there is none."""
        return False

    def paint(self, p: QPainter, view: Viewport) -> None:
        """Draw the overlay."""

    def press(self, at: "Point", event: QMouseEvent) -> None:
        """A button went down at a reference pixel."""

    def drag(self, at: "Point", event: QMouseEvent) -> None:
        """The pointer moved with the button down."""

    def release(self, at: "Point", event: QMouseEvent) -> None:
        """The button went up."""

    def hover(self, at: "Point") -> None:
        """The pointer moved."""

    def key(self, event: QKeyEvent) -> bool:
        """Take a key pressed over the picture; returns whether it was one of ours."""
        return False

    def words_at(self, at: "Point") -> str:
        """Say what this page knows of a place."""
        return ""
