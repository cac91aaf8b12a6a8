"""Rules along two sides of the picture, in centimetres (or inches) on the canvas, with the grid's letters and numbers."""

import math

from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPen, QPolygonF

from foxpath.core.reference.transfer import letter
from foxpath.core.units import MM_PER_UNIT
from foxpath.document.model import Project
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport

THICK = 24
ROOM = 16.0
"""Pixels of a square that its name needs."""


def square_name(project: Project, x: float, y: float) -> str:
    """Return the grid square of a reference pixel, e.g. "H 5"; empty off the canvas."""
    step = project.transfer.grid.side(project.canvas)
    mx, my = (x - project.crop.x) * project.mm_per_px, (y - project.crop.y) * project.mm_per_px
    if not (0 <= mx < project.canvas.width_mm and 0 <= my < project.canvas.height_mm):
        return ""
    return f"{letter(int(mx // step))} {int(my // step) + 1}"


def paint(p: QPainter, width: int, height: int, view: Viewport, project: Project, ground: str) -> None:
    """Draw both rules over the edges of the picture's widget."""
    p.fillRect(QRectF(0, 0, width, THICK), colour(ground))
    p.fillRect(QRectF(0, 0, THICK, height), colour(ground))
    _rule(p, QRectF(THICK, 0, width - THICK, THICK), view, project, across=True)
    _rule(p, QRectF(0, THICK, THICK, height - THICK), view, project, across=False)
    p.fillRect(QRectF(0, 0, THICK, THICK), colour(ground))
    draw.text(p, THICK / 2 - 1, 16, project.canvas.unit, 10.6, 400, "quiet", "c")
    p.setPen(QPen(colour("line"), 1))
    p.drawLine(QPointF(THICK, THICK - 0.5), QPointF(width, THICK - 0.5))
    p.drawLine(QPointF(THICK - 0.5, THICK), QPointF(THICK - 0.5, height))


def paint_pointer(p: QPainter, pointer: QPointF | None) -> None:
    """Mark the pointer's place on both rules."""
    if pointer is not None and pointer.x() > THICK and pointer.y() > THICK:
        p.setPen(QPen(colour("russet"), 0))
        p.setBrush(colour("russet"))
        x, y = pointer.x(), pointer.y()
        p.drawPolygon(QPolygonF([QPointF(x - 4, THICK - 1), QPointF(x + 4, THICK - 1), QPointF(x, THICK - 9)]))
        p.drawPolygon(QPolygonF([QPointF(THICK - 1, y - 4), QPointF(THICK - 1, y + 4), QPointF(THICK - 9, y)]))


def _rule(p: QPainter, box: QRectF, view: Viewport, project: Project, *, across: bool) -> None:
    p.save()
    p.setClipRect(box)
    canvas, crop = project.canvas, project.crop
    # A quarter turn lays the canvas's height along the upper rule.
    wide = across == (view.turns % 2 == 0)
    length_mm = canvas.width_mm if wide else canvas.height_mm
    unit_mm = MM_PER_UNIT[canvas.unit]
    px_per_unit = view.scale / project.mm_per_px * unit_mm
    step = next((s for s in (1, 2, 5, 10, 20, 50, 100) if s * px_per_unit >= 5), 100)
    figure = next((s for s in (1, 5, 10, 20, 50, 100, 200) if s * px_per_unit >= 62), 200)

    def place(mm: float) -> float:
        px = mm / project.mm_per_px
        at = view.at((crop.x + px, crop.y) if wide else (crop.x, crop.y + px))
        return at.x() if across else at.y()

    square = project.transfer.grid.side(canvas)
    for k in range(math.ceil(length_mm / square)):
        if min(square, length_mm - k * square) * view.scale / project.mm_per_px < ROOM:
            # Of a last one that the canvas cuts so little is left that its name would lie on the figure beside it.
            continue
        middle = place(min((k + 0.5) * square, (k * square + length_mm) / 2))
        name = letter(k) if wide else str(k + 1)
        draw.text(p, middle if across else 13, 16.5 if across else middle + 4.6, name, 13, 700, "text", "c")
    clear = max(12.0, square * view.scale / project.mm_per_px * 0.12)
    for k in range(0, int(length_mm / unit_mm) + 1, step):
        at = place(k * unit_mm)
        long_tick = k % (5 * step) == 0
        size = 9 if long_tick else 4
        p.setPen(QPen(colour("quiet" if long_tick else "dim"), 1))
        in_square = (k * unit_mm / square) % 1
        covered = abs(in_square - 0.5) * square * view.scale / project.mm_per_px < clear
        if across:
            if k and k % figure == 0 and not covered:
                draw.text(p, at, 12.5, str(k), 10.6, 400, "quiet", "c")
                p.setPen(QPen(colour("quiet"), 1))
                size = 7
            p.drawLine(QPointF(at, THICK - size), QPointF(at, THICK))
        else:
            if k and k % figure == 0 and not covered:
                draw.text(p, 8, at + 3.8, str(k), 10.6, 400, "quiet", "c")
                p.setPen(QPen(colour("quiet"), 1))
                size = 6
            p.drawLine(QPointF(THICK - size, at), QPointF(THICK, at))
    p.restore()
