"""Another painting of the same plan beside this one, over the right half of the picture, moved and zoomed with it."""

import copy
from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QObject, QRectF, Qt, Signal
from PySide6.QtGui import QImage, QPainter, QPen

from foxpath.core.units import about, duration_words
from foxpath.derive.passes.schools import SchoolReading
from foxpath.derive.rehearsal.requests import OtherPainting, RehearseOther
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.view import image_of
from foxpath.window.picture.viewport import Viewport, place
from foxpath.window.work.session import Session


class Beside(QObject):
    """The other painting: asked for once for each project and key, empty while nothing is beside; `change` makes it of a project."""

    changed = Signal()

    def __init__(self, session: Session, parent: QObject, change: Callable[[Project, str], Project]) -> None:
        super().__init__(parent)
        self.session, self._change = session, change
        self.key = ""
        self.other: OtherPainting | None = None
        self._of: tuple[Project, str] | None = None
        self._images: dict[str, QImage] = {}

    def show(self, key: str) -> None:
        """Put another painting beside; empty takes it away."""
        self.key = key
        self.refresh()

    def refresh(self) -> None:
        """Rehearse it when the project has changed."""
        project = self.session.project
        if not self.key or project is None:
            self.session.runner.cancel("beside")
            self._of, self.other, self._images = None, None, {}
            return
        if self._of is not None and self._of[0] is project and self._of[1] == self.key:
            return
        self._of, self.other, self._images = (project, self.key), None, {}
        request = RehearseOther(self.session.results, self._change(project, self.key))
        self.session.runner.start("beside", request, self._take)

    def _take(self, other: OtherPainting) -> None:
        # The pictures are kept once.
        self.other = replace(other, after={})
        self._images = {act: image_of(rgb) for act, rgb in other.after.items()}
        self.changed.emit()

    def image(self, act: str) -> QImage | None:
        """Return it after the last pass that acts so; the finished one where none does."""
        found = self._images.get(act)
        return found if found is not None else next(reversed(self._images.values()), None)

    def paint(self, p: QPainter, view: Viewport, project: Project, act: str, names: tuple[str, str]) -> None:
        """Draw it to the right of the view's room, as the view stands, and name both."""
        other = copy.copy(view)
        other.room = QRectF(view.room.right(), view.room.top(), view.room.width(), view.room.height())
        p.save()
        p.setClipRect(other.room)
        p.fillRect(other.room, colour("well"))
        image = self.image(act)
        crop = project.crop
        if image is None:
            middle = other.room.center()
            draw.over_words(p, middle.x(), middle.y(), "working it out", "c")
        else:
            p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            place(p, other, image, crop)
            p.setPen(QPen(colour("#1A1A1A"), 1))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(other.crop_on_screen(crop).adjusted(-0.5, -0.5, 0.5, 0.5))
        p.setPen(QPen(colour("text"), 2))
        p.drawLine(other.room.topLeft(), other.room.bottomLeft())
        p.setClipRect(view.room.united(other.room))
        for room, name in ((view.room, names[0]), (other.room, names[1])):
            draw.over_words(p, room.center().x(), room.top() + 24, name, "c", 14, room)
        p.restore()


def in_school(project: Project, key: str) -> Project:
    """Return a project whose every part is painted in a school."""
    return replace(edits.set_school(project, key), zones=tuple(replace(z, school="") for z in project.zones))


def rows_of(one: SchoolReading, other: SchoolReading) -> list[tuple[str, str, str]]:
    """Return what two schools take, row by row: what, this one, the other."""
    return [
        ("passes", str(one.passes), str(other.passes)),
        ("waits for drying", str(one.waits), str(other.waits)),
        ("marks", about(one.marks, 3), about(other.marks, 3)),
        ("time", duration_words(one.minutes), duration_words(other.minutes)),
    ]
