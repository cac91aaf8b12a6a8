"""What the bench of Practice draws: options to choose from, the grey that is set, scores as hairs, weeks side by side."""

import math
from collections.abc import Sequence
from datetime import date

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from foxpath.core.colour import grey_of_lightness
from foxpath.core.practice.drill import Skill
from foxpath.core.practice.task import Score
from foxpath.core.practice.weeks import Day, value_words
from foxpath.core.units import count_words
from foxpath.window.bench.controls import Control
from foxpath.window.look import draw
from foxpath.window.look.theme import colour

PAD, LINE = 9, 17


class Options(Control):
    """Answers to choose from, each as long as it needs; after the answer the right one and the chosen one are told apart."""

    chosen = Signal(int)

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(30, name, parent)
        self.options: tuple[str, ...] = ()
        self.mine, self.true = -1, -1
        self._under = -1

    def set_options(self, options: Sequence[str], mine: int = -1, true: int = -1) -> None:
        """Show options; with `true` they have been answered, and no longer can be."""
        self.options, self.mine, self.true = tuple(options), mine, true
        self.setAccessibleDescription(f"{count_words(len(self.options), 'option')}: {'; '.join(self.options)}")
        self._fit()
        self.update()

    def _boxes(self) -> list[tuple[QRectF, list[str]]]:
        made, y = [], 2.0
        for text in self.options:
            lines = draw.lines_of(text, self.width() - 46, 13) or [""]
            tall = 2 * PAD - 4 + LINE * len(lines)
            made.append((QRectF(0, y, self.width(), tall), lines))
            y += tall + 4
        return made

    def _fit(self) -> None:
        boxes = self._boxes()
        self.setFixedHeight(int(boxes[-1][0].bottom()) + 3 if boxes else 2)

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = next((k for k, (box, _) in enumerate(self._boxes()) if box.contains(event.position())), -1)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        k = next((k for k, (box, _) in enumerate(self._boxes()) if box.contains(event.position())), -1)
        if k >= 0 and self.true < 0:
            self.chosen.emit(k)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        number = event.key() - Qt.Key.Key_1
        if self.true < 0 and 0 <= number < len(self.options):
            self.chosen.emit(number)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            for k, (box, lines) in enumerate(self._boxes()):
                under = self.hovered and k == self._under and self.true < 0
                line = "russet" if k == self.true else "text" if k == self.mine else "line"
                draw.rounded(
                    p,
                    box.adjusted(1, 0, -1, 0),
                    6,
                    "hover" if under else "raised",
                    line,
                    2 if k in (self.true, self.mine) else 1,
                )
                draw.text(p, 16, box.top() + 18, str(k + 1), 13, 700, "quiet", "c")
                for j, text in enumerate(lines):
                    draw.text(p, 34, box.top() + 18 + LINE * j, text, 13, 500 if k == self.true else 400)
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))


class GreyDial(Control):
    """A strip from dark to light, with the grey that is set; the true one is shown after the answer."""

    changed = Signal(float)

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(74, name, parent)
        self.value, self.true = 50.0, -1.0

    def set_value(self, value: float, true: float = -1.0) -> None:
        """Show a value, and after the answer the true one."""
        self.value, self.true = value, true
        self.setAccessibleDescription(f"L* {value:.0f}" + (f", it is {true:.0f}" if true >= 0 else ""))
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._take(event.position().x())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._take(event.position().x())

    def _take(self, x: float) -> None:
        if self.true < 0:
            self.changed.emit(min(max((x - 6) / max(self.width() - 12, 1), 0.0), 1.0) * 100)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if by is None or self.true >= 0:
            super().keyPressEvent(event)
        else:
            self.changed.emit(min(max(self.value + by, 0.0), 100.0))

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            wide = self.width() - 12.0
            for k in range(64):
                grey = grey_of_lightness((k + 0.5) * 100 / 64)
                p.fillRect(QRectF(6 + k * wide / 64, 34, wide / 64 + 1, 14), colour(f"#{grey:02X}{grey:02X}{grey:02X}"))
            for value, tone, top in ((self.value, "text", 0.0), (self.true, "russet", 0.0)):
                if value < 0:
                    continue
                x = 6 + wide * value / 100
                grey = grey_of_lightness(value)
                left = min(max(x - 18, 6.0), self.width() - 42.0)
                if tone == "russet" and abs(value - self.value) < 15:
                    left = min(max(left + (38 if value > self.value else -38), 6.0), self.width() - 42.0)
                draw.rounded(p, QRectF(left, top + 2, 36, 26), 4, f"#{grey:02X}{grey:02X}{grey:02X}", tone, 2)
                p.setPen(QPen(colour(tone), 2))
                p.drawLine(QPointF(x, 32), QPointF(x, 50))
                draw.text(
                    p,
                    left + 18,
                    66,
                    f"L* {value:.0f}",
                    12,
                    700 if tone == "russet" else 400,
                    tone if tone == "russet" else "quiet",
                    "c",
                )
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))


def score_label(drill: Skill, score: Score) -> str:
    """Write an answer's worth so short that it stands under its hair."""
    if drill.way == "near" and score.seen:
        error = score.seen[0].error
        unit = "°" if drill.unit == "°" else ""
        return (
            f"{100 * error:.0f} %"
            if drill.unit == "times"
            else f"{error:.0f}{unit}"
            if error >= 9.5 or unit
            else f"{error:.1f}"
        )
    if len(score.seen) > 1:
        return f"{sum(one.right for one in score.seen)}/{len(score.seen)}"
    return "yes" if score.share > 0.99 else "no"


class ScoreHairs(QWidget):
    """The answers of this sitting as hairs: a straight one is a true answer, one that leans is off by so much."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.scores: list[Score] = []
        self.words: list[str] = []
        self.count = 0
        self.setFixedHeight(68)

    def set_scores(self, drill: Skill, scores: Sequence[Score]) -> None:
        """Show a drill's answers so far."""
        self.scores, self.count = list(scores), drill.count
        self.words = [score_label(drill, one) for one in scores]
        self.setAccessibleName(
            f"{len(self.scores)} of {self.count} answered: " + "; ".join(one.words for one in self.scores)
        )
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            wide = (self.width() - 24) / max(self.count, 1)
            p.setPen(QPen(colour("line"), 1))
            p.drawLine(QPointF(6, 50), QPointF(self.width() - 6, 50))
            for k in range(self.count):
                x = 12 + (k + 0.5) * wide
                if k >= len(self.scores):
                    draw.circle(p, x, 50, 2.4, "plate", "dim", 1.2)
                    continue
                score = self.scores[k]
                a = math.radians(62 * (1 - min(max(score.share, 0.0), 1.0)))
                tip = (x + 40 * math.sin(a), 50 - 40 * math.cos(a))
                last = k == len(self.scores) - 1
                tone = "russet" if last else "text" if score.share > 0.5 else "dim"
                draw.stroke(p, draw.along(x, 50, tip[0], tip[1], 8), min(6.5, 0.5 * wide), 0.8, tone)
                if wide > 24 or last or (k % 2 == 0 and k < len(self.scores) - 2):
                    draw.text(p, x, 64, self.words[k], 11, 700 if last else 400, "text" if last else "quiet", "c")


class WeeksPlot(QWidget):
    """A drill over its days: the level with its band, a hair for each day; the last is russet."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.days: tuple[Day, ...] = ()
        self.drill: Skill | None = None
        self.setFixedHeight(104)

    def set_days(self, drill: Skill, days: Sequence[Day]) -> None:
        """Show a drill's days, earliest first."""
        self.drill, self.days = drill, tuple(days)
        said = "; ".join(f"{d.day:%-d %b} {d.level.value:.2g}" for d in self.days[-6:])
        self.setAccessibleName(f"{drill.title} over {count_words(len(self.days), 'day')}: {said}")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        drill = self.drill
        if drill is None or not self.days:
            return
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            left, right, top, foot = 46.0, self.width() - 10.0, 10.0, 84.0
            share = drill.way == "right"
            most = 1.0 if share else max(d.level.high for d in self.days) * 1.08
            first, last = self.days[0].day, self.days[-1].day
            span = max((last - first).days, 1)

            def at(day: date, value: float) -> QPointF:
                x = (
                    left + 10 + (right - left - 20) * (day - first).days / span
                    if len(self.days) > 1
                    else (left + right) / 2
                )
                return QPointF(x, foot - (foot - top) * min(value / most, 1.0))

            for value in (most / 2, most):
                y = at(first, value).y()
                p.setPen(QPen(colour("line"), 1))
                p.drawLine(QPointF(left, y), QPointF(right, y))
                words = f"{10 * value:.0f}/10" if share else value_words(drill, value)
                draw.text(p, left - 4, y + 4, words, 11, 400, "quiet", "r")
            p.setPen(QPen(colour("dim"), 1))
            p.drawLine(QPointF(left, foot), QPointF(right, foot))
            band = [at(d.day, d.level.high) for d in self.days] + [at(d.day, d.level.low) for d in reversed(self.days)]
            if len(self.days) > 1:
                p.setPen(Qt.PenStyle.NoPen)
                p.setBrush(colour("sunk"))
                p.drawPolygon(QPolygonF(band))
            for k, one in enumerate(self.days):
                tone = "russet" if k == len(self.days) - 1 else "walked"
                tip, low, high = at(one.day, one.level.value), at(one.day, one.level.low), at(one.day, one.level.high)
                p.setPen(QPen(colour("quiet"), 1))
                p.drawLine(low, high)
                draw.stroke(p, draw.along(tip.x(), foot, tip.x(), tip.y(), 8), 5, 0.8, tone)
            draw.text(p, left, 99, f"{first:%-d %b}", 11, 400, "quiet")
            if last != first:
                draw.text(p, right, 99, f"{last:%-d %b}", 11, 700, "text", "r")
