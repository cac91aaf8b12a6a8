"""What lies over the canvas: numbers beside their places, how far a place reaches, and glare."""

import math
from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

from foxpath.core.arrays import Points
from foxpath.derive.progress.touchups import TouchUp
from foxpath.document.model import Project
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport

DISC = 13.0
LABELLED_PX_PER_MM = 2.0


def paint_glare(p: QPainter, view: Viewport, project: Project, outlines: Sequence[Points], *, hatched: bool) -> None:
    """Draw round what lies under glare (shares of the canvas), hatched or not: it is not judged, and so not good."""
    crop = project.crop
    for ring in outlines:
        places = ring * (crop.width, crop.height) + (crop.x, crop.y)
        path = QPainterPath()
        path.addPolygon(draw.polygon([(at.x(), at.y()) for at in (view.at((float(x), float(y))) for x, y in places)]))
        path.closeSubpath()
        if hatched:
            draw.hatch(p, path, 9.0)
        draw.cased_path(p, path, 1.0, dash=(4, 3))


def discs(entries: Sequence[TouchUp], view: Viewport, per_mm: float) -> list[tuple[TouchUp, QPointF]]:
    """Return where the numbers stand: beside an eye and never over it, and none over another."""
    made: list[tuple[TouchUp, QPointF]] = []
    for one in entries:
        at = view.at(one.at)
        if one.kind in ("place", "shape", "catchlight"):
            at = QPointF(at.x(), at.y() - max(20.0, 0.75 * one.radius_mm * per_mm) - DISC)
        for turn in range(1, 17):
            near = [other for _, other in made if math.hypot(other.x() - at.x(), other.y() - at.y()) < 2 * DISC]
            if not near:
                break
            away = math.radians(45 * turn)
            first = view.at(one.at)
            far = 2.1 * DISC * (1 + turn // 8)
            at = QPointF(first.x() + far * math.sin(away), first.y() + far * math.cos(away))
        made.append((one, at))
    return made


def paint_place(p: QPainter, view: Viewport, entry: TouchUp, per_mm: float) -> None:
    """Draw how far a place reaches, at true scale, and for a feature where it should stand."""
    at = view.at(entry.at)
    radius = max(16.0, min(entry.radius_mm, 60.0) * per_mm)
    if entry.kind in ("place", "shape", "catchlight"):
        dx, dy = entry.toward
        pen = QPen(QColor(255, 255, 255), 1.6, Qt.PenStyle.DashLine)
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.setPen(pen)
        p.drawEllipse(at, radius / 2, radius / 2)
        if math.hypot(dx, dy) > 0.3:
            # From where it stands to where it belongs, as long as that is on the canvas, four times for the eye.
            end = QPointF(at.x() + dx * per_mm, at.y() + dy * per_mm)
            draw.stroke(p, draw.along(end.x(), end.y(), at.x(), at.y(), 8), 6, 1.2, "over_light", "over_dark")
    else:
        path = QPainterPath()
        path.addEllipse(at, radius, radius)
        draw.cased_path(p, path)
    if entry.kind in ("place", "shape", "catchlight") and per_mm < LABELLED_PX_PER_MM:
        # Small, its words would lie over half the head; the bench has them.
        return
    lines = draw.lines_of(entry.says, 250, 13, 500)
    wide = max(draw.width_of(line, 13, 500) for line in lines) + 20
    left = at.x() + radius + 12
    if left + wide > view.room.right() - 8:
        left = at.x() - radius - 12 - wide
    top = min(max(at.y() - 14, view.room.top() + 8), view.room.bottom() - 18 * len(lines) - 16)
    left = max(left, view.room.left() + 8)
    if entry.kind in ("place", "shape", "catchlight"):
        # Over the brow: beside an eye is the other.
        left, top = (
            at.x() - wide / 2,
            at.y() - max(20.0, 0.75 * entry.radius_mm * per_mm) - 3 * DISC - 18 * len(lines),
        )
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour("over_dark", 0.85))
    p.drawRoundedRect(QRectF(left, top, wide, 18 * len(lines) + 10), 5, 5)
    for k, line in enumerate(lines):
        draw.text(p, left + 10, top + 18 + 18 * k, line, 13, 500, "over_light")
