"""Where a task lies on the picture, and what is drawn of it: its picture, the veil around what is asked, marks at true scale."""

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPainterPath, QPen

from foxpath.core.frame import Crop
from foxpath.core.practice.task import Mark, Place, Task
from foxpath.document.model import Project
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport, place

VEIL, VEIL_STRENGTH = "#3C3C3C", 0.47
TONES = {"you": "over_light", "true": "russet", "plain": "over_light"}
LEAST_RING = 7.0


class Ground:
    """The one map between a task's pixels and the reference's.

    A task on the painting itself lies on it pixel on pixel. Any other lies in the middle of the canvas, a millimetre on it a
    millimetre here, so that the rulers stay true.

    Parameters
    ----------
    task : Task
    project : Project
        The painting that is open.
    own : bool
        Whether the task lies on that painting: it was made from it, or from its canvas.
    reference : bool
        Whether it was made from the reference, which the window shows by itself.
    """

    def __init__(self, task: Task, project: Project, *, own: bool, reference: bool) -> None:
        self.task, self.own, self._reference = task, own and task.on_scene, reference
        h, w = task.picture.shape[:2]
        crop = project.crop
        if self.own:
            self.crop = crop
        else:
            wide, tall = w / task.px_per_mm / project.mm_per_px, h / task.px_per_mm / project.mm_per_px
            if not task.on_scene:
                # A sheet is no part of the canvas: it is shown as large as the canvas lets it be.
                k = min(0.9 * crop.width / wide, 0.9 * crop.height / tall)
                wide, tall = k * wide, k * tall
            self.crop = Crop(crop.x + (crop.width - wide) / 2, crop.y + (crop.height - tall) / 2, wide, tall)
        self.scale = self.crop.width / w

    @property
    def bare(self) -> bool:
        """Whether the window's own picture shows what the task's would, and better."""
        return self.own and self._reference and self.task.plain

    def to_reference(self, at: Place) -> Place:
        """Map a place of the task to reference pixels."""
        return self.crop.x + at[0] * self.scale, self.crop.y + at[1] * self.scale

    def to_task(self, at: Place) -> Place:
        """Map reference pixels to a place of the task."""
        return (at[0] - self.crop.x) / self.scale, (at[1] - self.crop.y) / self.scale

    def on_screen(self, view: Viewport, at: Place) -> QPointF:
        """Map a place of the task to the screen."""
        return view.at(self.to_reference(at))

    def px(self, view: Viewport) -> float:
        """Return how many screen pixels a pixel of the task takes."""
        return float(view.scale * self.scale)

    def middle(self) -> tuple[Place, float]:
        """Return where to look, and how much about it, reference pixels."""
        look = self.task.ring or self.task.look
        if look is not None:
            x, y, radius = look
            return self.to_reference((x, y)), (2.6 if self.task.ring is not None else 2.1) * radius * self.scale
        return (self.crop.x + self.crop.width / 2, self.crop.y + self.crop.height / 2), 1.04 * max(
            self.crop.width, self.crop.height
        )

    # Painting -------------------------------------------------------------------------------------

    def paint_picture(self, p: QPainter, view: Viewport, image: QImage | None) -> None:
        """Draw the task's picture; around one that is no part of the painting there is nothing."""
        if image is None:
            return
        if not self.own:
            p.fillRect(view.room, colour("well"))
        p.save()
        p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        place(p, view, image, self.crop)
        p.restore()

    def paint_veil(self, p: QPainter, view: Viewport) -> None:
        """Let everything but the ring step back."""
        if self.task.ring is None:
            return
        x, y, radius = self.task.ring
        at, r = self.on_screen(view, (x, y)), radius * self.px(view)
        rest = QPainterPath()
        rest.addRect(view.room)
        hole = QPainterPath()
        hole.addEllipse(at, r, r)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour(VEIL, VEIL_STRENGTH))
        p.drawPath(rest - hole)
        p.setBrush(Qt.BrushStyle.NoBrush)
        for wide, tone in ((3.0, "over_dark"), (1.4, "over_light")):
            p.setPen(QPen(colour(tone), wide))
            p.drawEllipse(at, r, r)

    def paint_marks(self, p: QPainter, view: Viewport, marks: tuple[Mark, ...]) -> None:
        """Draw marks, and their words where they hide least."""
        taken: list[QRectF] = []
        for mark in marks:
            at = [self.on_screen(view, (float(x), float(y))) for x, y in mark.points]
            tone = TONES[mark.tone]
            if mark.kind == "ring":
                r = max(mark.radius * self.px(view), LEAST_RING)
                draw.circle(p, at[0].x(), at[0].y(), r, "", "over_dark", 3.6)
                draw.circle(p, at[0].x(), at[0].y(), r, "", tone, 2.0)
                self._words(p, view, mark.words, at[0], r + 8, taken)
            elif mark.kind == "words":
                draw.over_words(p, at[0].x(), at[0].y() + 4.6, mark.words, "c", 14, view.room)
            elif mark.kind == "hair":
                wide = max(1.0, mark.radius * self.px(view)) if mark.radius else 6.0
                (ax, ay), (bx, by) = (at[0].x(), at[0].y()), (at[-1].x(), at[-1].y())
                draw.stroke(p, draw.along(ax, ay, bx, by, 12), wide, 0.6, tone, "over_dark")
                if not mark.radius:
                    draw.circle(p, ax, ay, 4.0, "over_light", "over_dark", 1.2)
                self._words(p, view, mark.words, at[-1], 12, taken, left=bx < ax)
            elif mark.kind == "line" and len(at) > 1 and (at[0] - at[-1]).manhattanLength() + len(at) > 3:
                path = QPainterPath(at[0])
                for point in at[1:]:
                    path.lineTo(point)
                draw.cased_path(p, path, 1.6, tone)
                self._words(p, view, mark.words, at[len(at) // 2], 12, taken)
            else:
                # A mark at a border: two short ticks, so that the border itself stays free.
                draw.circle(p, at[0].x(), at[0].y(), 4.5, tone, "over_dark", 1.4)
                self._words(p, view, mark.words, at[0], 12, taken)

    @staticmethod
    def _words(
        p: QPainter, view: Viewport, words: str, at: QPointF, off: float, taken: list[QRectF], *, left: bool = False
    ) -> None:
        """Write words beside a place, to its left or right first, where they lie on no others."""
        if not words:
            return
        wide = draw.width_of(words, 13, 500) + 16
        sides = ((off, 4.6, "l"), (-off, 4.6, "r"), (0.0, -off - 4, "c"), (0.0, off + 16, "c"))
        for dx, dy, align in (sides[1], sides[0], *sides[2:]) if left else sides:
            edge = at.x() + dx - (wide if align == "r" else wide / 2 if align == "c" else 0)
            box = QRectF(edge, at.y() + dy - 16, wide, 24)
            if view.room.contains(box) and not any(box.intersects(other) for other in taken):
                taken.append(draw.over_words(p, at.x() + dx, at.y() + dy, words, align, 13, view.room))  # type: ignore[arg-type]
                return
        taken.append(draw.over_words(p, at.x() + off, at.y() + 4.6, words, "l", 13, view.room))


def distance(a: QPointF, b: QPointF) -> float:
    """Return the distance of two places on the screen."""
    return math.hypot(a.x() - b.x(), a.y() - b.y())
