"""The true-size glass: what lies under the pointer, as large as it will be on the canvas."""

import copy
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QPointF, QRectF
from PySide6.QtGui import QImage, QPainter, QPainterPath
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.frame import Crop
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport
from foxpath.window.work import recent

if TYPE_CHECKING:
    from foxpath.window.picture.view import PictureView

RADIUS = 96.0


def true_px_per_mm(widget: QWidget) -> tuple[float, bool]:
    """Return logical pixels for a millimetre of the screen's glass, and whether they were measured with a ruler."""
    screen = widget.screen()
    told = recent.screen_px_per_mm(screen.name())
    if told is not None:
        return told, True
    width_mm = screen.physicalSize().width()
    said = screen.geometry().width() / width_mm if width_mm > 40 else 0.0
    # What screens say of themselves is often wrong; beyond reason the usual 96 to the inch is taken.
    return (said if 1.5 < said < 16 else 96 / 25.4), False


class Glass(QObject):
    """A round glass at the pointer."""

    def __init__(self, picture: "PictureView") -> None:
        super().__init__(picture)
        self.picture = picture
        self._seen: tuple[Crop, QImage] | None = None

    @property
    def on(self) -> bool:
        """Whether the glass is out."""
        return self.picture.session.chosen.glass and self.picture.session.project is not None

    def view(self) -> Viewport | None:
        """Return the view in the glass; None when it is away."""
        project = self.picture.session.project
        if not self.on or project is None:
            return None
        outer = self.picture.viewport
        at = self.picture.pointer or outer.room.center()
        view = copy.copy(outer)
        view.centre = outer.to_reference(at)
        view.scale = true_px_per_mm(self.picture)[0] * project.mm_per_px
        view.room = QRectF(at.x() - RADIUS, at.y() - RADIUS, 2 * RADIUS, 2 * RADIUS)
        return view

    def look(self) -> None:
        """See again through the aids what lies in the glass."""
        view = self.view()
        if view is None or not self.picture.kinds() or not self.picture.session.levels:
            self._seen = None
            return
        part = view.shown(self.picture.looking()[1])
        if part is not None:
            px = view.scale * self.picture.devicePixelRatioF()
            self.picture.session.runner.start("glass", self.picture.request(part, px), self._take)

    def _take(self, value: tuple[Crop, Rgb8]) -> None:
        from foxpath.window.picture.view import image_of

        self._seen = (value[0], image_of(value[1]))
        self.picture.update()

    def paint(self, p: QPainter) -> None:
        """Draw the glass."""
        view = self.view()
        if view is None or not self.picture.session.levels:
            return
        at = view.room.center()
        clip = QPainterPath()
        clip.addEllipse(at, RADIUS, RADIUS)
        p.save()
        p.setClipPath(clip)
        p.fillRect(view.room, colour("well"))
        self.picture.place_plain(p, view)
        if self._seen is not None:
            self.picture.place(p, self._seen[1], self._seen[0], view)
        p.restore()
        draw.circle(p, at.x(), at.y(), RADIUS, "", "over_dark", 5)
        draw.circle(p, at.x(), at.y(), RADIUS, "", "over_light", 2.4)
        self._scale(p, at)

    def _scale(self, p: QPainter, at: QPointF) -> None:
        """Draw a centimetre, so that a ruler held to the screen can check it."""
        px, measured = true_px_per_mm(self.picture)
        words = "1 cm" if measured else "1 cm, screen not measured"
        y = at.y() + RADIUS - 20
        left, right = at.x() - 5 * px, at.x() + 5 * px
        draw.stroke(p, draw.along(left, y, right, y), 2.4, 2.4, "over_light", "over_dark", soft_root=False)
        for x in (left, right):
            draw.stroke(p, draw.along(x, y - 5, x, y + 5), 2.0, 2.0, "over_light", "over_dark", soft_root=False)
        draw.over_words(p, at.x(), at.y() + RADIUS + 22, f"true size · {words}", "c", 12, self.picture.viewport.room)
