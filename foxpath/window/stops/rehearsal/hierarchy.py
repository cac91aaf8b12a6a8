"""Detail, contrast, chroma and hardness of edges against the distance from the focal point: the rehearsal beside the reference."""

import math

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.passes.hierarchy import Hierarchy
from foxpath.core.units import mm_words
from foxpath.window.look import draw

NAMES = ("detail", "contrast", "chroma", "hardness")
TALL = 50


class HierarchyView(QWidget):
    """Four small plots: near at the left, far at the right; dark is the rehearsal, quiet the reference, of hardness the plan."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(len(NAMES) * TALL + 22)
        self.setAccessibleName("focal hierarchy")
        self.painted: Hierarchy | None = None
        self.reference: Hierarchy | None = None

    def show_both(self, painted: Hierarchy | None, reference: Hierarchy | None) -> None:
        """Show a rehearsal and its reference."""
        self.painted, self.reference = painted, reference
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.painted is None or self.reference is None:
                return
            left, right = 78.0, self.width() - 8.0
            for k, name in enumerate(NAMES):
                box = QRectF(left, 6 + k * TALL, right - left, TALL - 14)
                draw.text(p, 6, box.center().y() + 1, name, 13)
                ratio = self.painted.ratio(name)
                if math.isfinite(ratio):
                    draw.text(p, 6, box.center().y() + 16, f"{ratio:.1f} × near", 12, 400, "quiet")
                ours, theirs = list(getattr(self.painted, name)), list(getattr(self.reference, name))
                top = max([v for v in (*ours, *theirs) if math.isfinite(v)], default=1.0)
                draw.rule(p, left, box.bottom(), right - left, "line")
                self._line(p, box, theirs, top, "dim", 3.0)
                self._line(p, box, ours, top, "text", 3.4)
            y = len(NAMES) * TALL + 12
            draw.text(p, left, y, "focal point", 12, 400, "quiet")
            draw.text(p, right, y, mm_words(float(self.painted.far_mm[-1])), 12, 400, "quiet", "r")

    @staticmethod
    def _line(p: QPainter, box: QRectF, values: list[float], top: float, tone: str, width: float) -> None:
        count = len(values)
        points = [
            (box.left() + (k + 0.5) * box.width() / count, box.bottom() - v / top * box.height())
            for k, v in enumerate(values)
            if math.isfinite(v)
        ]
        if len(points) > 1:
            draw.stroke(p, draw.smooth(points, 6), width, 1.2, tone, soft_root=False)
