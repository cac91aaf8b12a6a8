"""The course: one small picture per pass, the painting as it will stand, beside its values, over the oil line."""

from functools import lru_cache

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.findings import Finding
from foxpath.core.passes import PassPlan
from foxpath.core.units import duration_words
from foxpath.window.look import draw
from foxpath.window.look.focus import Focusable
from foxpath.window.look.theme import colour, metrics
from foxpath.window.picture.view import image_of


@lru_cache(maxsize=64)
def _ladder(low: float, high: float, width: float, height: float, ratio: float) -> QPixmap:
    """Return a picture of a small ladder; it looks the same by day and in the evening."""
    made = QPixmap(round(width * ratio), round(height * ratio))
    made.setDevicePixelRatio(ratio)
    with QPainter(made) as p:
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw.ladder(p, QRectF(0, 0, width, height), low, high, 10, 3)
    return made


def short_name(name: str) -> str:
    """Shorten a pass's name: what a part's own school paints goes by the pass alone, what is painted again by a 2."""
    if ": " in name:
        return name.rpartition(": ")[2]
    first = name.split(" ", maxsplit=1)[0]
    return f"{first} 2" if name.endswith(" again") else first


class Course(Focusable):
    """A row of passes; arrow keys move along it."""

    chosen = Signal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.plans: tuple[PassPlan, ...] = ()
        self.small: dict[str, Rgb8] = {}
        self.waiting: set[str] = set()
        self.findings: tuple[Finding, ...] = ()
        self.open = ""
        self.aspect = 1.25
        self.compact = False
        self._first = 0
        self._under = -1
        self._frame: object = None
        self._pictures: dict[str, tuple[Rgb8, bool]] = {}
        self.setMouseTracking(True)
        self.setAccessibleName("the course of passes")

    def set_course(
        self,
        plans: tuple[PassPlan, ...],
        small: dict[str, Rgb8],
        waiting: set[str],
        findings: tuple[Finding, ...],
        opened: str,
        aspect: float,
    ) -> None:
        """Show passes, their pictures, which pictures are out of date, findings, and the open pass."""
        pictures = {key: (rgb, key in waiting) for key, rgb in small.items()}
        frame = (plans, findings, opened, aspect, self.width())
        before, self._pictures = self._pictures, pictures
        same, self._frame = frame == self._frame, frame
        if same:
            # While a rehearsal runs one picture after the other comes in: only that one is drawn again.
            for k, plan in enumerate(plans):
                (rgb, waits), (was, waited) = (of.get(plan.role.key, (None, False)) for of in (pictures, before))
                if rgb is not was or waits != waited:
                    self.small, self.waiting = small, waiting
                    self.update(self._unit_box(k).toAlignedRect())
            return
        self.plans, self.small, self.waiting = plans, small, waiting
        self.findings, self.open, self.aspect = findings, opened, aspect
        keys = [plan.role.key for plan in plans]
        if opened in keys:
            index, seen = keys.index(opened), self._count()
            self._first = min(max(self._first, index - seen + 1), index)
        self._first = max(0, min(self._first, len(plans) - self._count()))
        self.update()

    def _picture(self) -> tuple[float, float]:
        return (46.0, 37.0) if self.compact else (58.0, 46.0)

    def _pitch(self) -> float:
        least, most = (71.0, 96.0) if self.compact else (84.0, 120.0)
        return min(most, max(least, (self.width() - 24) / max(1, len(self.plans))))

    def _count(self) -> int:
        return max(1, int((self.width() - 8) / self._pitch()))

    def _unit_box(self, index: int) -> QRectF:
        return QRectF(8 + (index - self._first) * self._pitch(), 0, self._pitch(), self.height())

    def _index_at(self, x: float) -> int:
        index = self._first + int((x - 8) / self._pitch())
        return index if 0 <= index < len(self.plans) else -1

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = self._index_at(event.position().x())
        if self._under >= 0:
            plan = self.plans[self._under]
            self.setToolTip(f"{plan.role.name}\n{plan.role.reason}")
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        self._under = -1
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        index = self._index_at(event.position().x())
        if index >= 0:
            self.chosen.emit(self.plans[index].role.key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        keys = [plan.role.key for plan in self.plans]
        by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()))
        if by is None or not keys:
            super().keyPressEvent(event)
            return
        now = keys.index(self.open) if self.open in keys else (-1 if by > 0 else len(keys))
        self.chosen.emit(keys[min(max(now + by, 0), len(keys) - 1)])

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            p.fillRect(self.rect(), colour("base"))
            if not self.plans:
                draw.text(
                    p, 16, self.height() / 2 + 4, "The passes stand here once the animal is outlined.", 13, 400, "quiet"
                )
                p.setPen(QPen(colour("line"), 1))
                p.drawLine(QPointF(0, self.height() - 0.5), QPointF(self.width(), self.height() - 0.5))
                return
            keys = [plan.role.key for plan in self.plans]
            opened = keys.index(self.open) if self.open in keys else -1
            self._plate(p, opened)
            last = min(len(self.plans), self._first + self._count())
            for k in range(self._first, last):
                if self._unit_box(k).intersects(QRectF(event.rect())):
                    self._unit(p, k, 14 + (k - self._first) * self._pitch())
            hidden = len(self.plans) - last
            if hidden > 0:
                words = f"{hidden} more"
                wide = metrics(12, 400).horizontalAdvance(words)
                # On a ground of its own: on a small screen a picture lies beneath it.
                p.fillRect(QRectF(self.width() - wide - 12, 1, wide + 12, 18), colour("base"))
                draw.text(p, self.width() - 6, 14, words, 12, 400, "quiet", "r")
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()).adjusted(1, 1, -1, -2))

    def _plate(self, p: QPainter, opened: int) -> None:
        """Draw the open pass's plate down into the picture, and the line round it."""
        low = self.height() - 0.5
        p.setPen(QPen(colour("line"), 1))
        if opened < self._first:
            p.drawLine(QPointF(0, low), QPointF(self.width(), low))
            return
        r, f = 9.0, 8.0
        x0 = 14 + (opened - self._first) * self._pitch() - 7
        x1 = x0 + self._pitch() - 4
        top = 2.0
        path = QPainterPath(QPointF(x0 - f, low))
        path.quadTo(QPointF(x0, low), QPointF(x0, low - f))
        path.lineTo(x0, top + r)
        path.quadTo(QPointF(x0, top), QPointF(x0 + r, top))
        path.lineTo(x1 - r, top)
        path.quadTo(QPointF(x1, top), QPointF(x1, top + r))
        path.lineTo(x1, low - f)
        path.quadTo(QPointF(x1, low), QPointF(x1 + f, low))
        plate = QPainterPath(path)
        plate.lineTo(x1 + f, low + 1)
        plate.lineTo(x0 - f, low + 1)
        p.setBrush(colour("plate"))
        p.setPen(Qt.PenStyle.NoPen)
        p.drawPath(plate)
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.setPen(QPen(colour("line"), 1))
        p.drawPath(path)
        p.drawLine(QPointF(0, low), QPointF(x0 - f, low))
        p.drawLine(QPointF(x1 + f, low), QPointF(self.width(), low))

    def _unit(self, p: QPainter, k: int, x: float) -> None:
        plan = self.plans[k]
        key = plan.role.key
        width, height = self._picture()
        top = 8.0
        if k == self._under and key != self.open:
            draw.rounded(p, QRectF(x - 6, 3, self._pitch() - 4, self.height() - 8), 6, "hover")
        if self.aspect >= width / height:
            box = QRectF(x, top + (height - width / self.aspect) / 2, width, width / self.aspect)
        else:
            box = QRectF(x + (width - height * self.aspect) / 2, top, height * self.aspect, height)
        rgb = self.small.get(key)
        if rgb is not None and plan.on:
            p.setOpacity(0.38 if key in self.waiting else 1.0)
            p.drawImage(box, image_of(rgb))
            p.setOpacity(1.0)
        else:
            p.fillRect(box, colour("sunk"))
        p.setPen(QPen(colour("frame"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(box)
        rungs = QRectF(x + width + 3, top, 14 if not self.compact else 12, height)
        ratio = self.devicePixelRatioF()
        p.drawPixmap(rungs.topLeft(), _ladder(plan.l_low, plan.l_high, rungs.width(), rungs.height(), ratio))
        if key == self.open:
            draw.rounded(
                p, QRectF(x - 3, top - 3, width + 23 - (2 if self.compact else 0), height + 6), 4, "", "russet", 2
            )
        y = top + height + 10
        self._oil(p, k, x, y)
        weight = 700 if key == self.open else 500
        room = self._pitch() - 8
        name, px = plan.role.name, 12.0 if self.compact else 12.5
        if draw.width_of(name, px, weight) > room:
            name = draw.elided(short_name(name), self._pitch() - 4, px, weight)
        draw.text(p, x, y + 17, name, px, weight, "text" if plan.on else "quiet")
        if not self.compact:
            note = f"{k + 1} · {duration_words(plan.minutes)}" if plan.on else f"{k + 1} · left out"
            draw.text(p, x, y + 32, note, 12, 400, "quiet")

    def _oil(self, p: QPainter, k: int, x: float, y: float) -> None:
        """Draw the pass's piece of the oil line: as thick as it is fat, joined when wet goes into wet."""
        plan = self.plans[k]
        if not plan.on:
            return
        before = next((q for q in reversed(self.plans[:k]) if q.on), None)
        joined = plan.role.beneath == "wet" and before is not None and k > self._first
        start = x - (self._pitch() - 76 if joined else 0)
        end = x + min(self._pitch() - 8, 76)
        fat = 1.6 + 5.0 * plan.role.fat
        was = 1.6 + 5.0 * before.role.fat if before is not None and joined else fat
        t = np.linspace(0, 1, 8)
        half = (was + (fat - was) * t) / 2
        xs = start + (end - start) * t
        shape = np.concatenate([np.stack([xs, y - half], axis=1), np.stack([xs, y + half], axis=1)[::-1]])
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour("russet" if plan.role.key == self.open else "walked"))
        p.drawPolygon(draw.polygon(shape))
        if any(f.subject == plan.role.key and f.level == "must" for f in self.findings):
            draw.finding_mark(p, (start + end) / 2, y, "must")
