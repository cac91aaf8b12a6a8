"""How the easel view is drawn: nothing under 26 pixels on a screen of 1280 x 800, larger on larger ones."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen

from foxpath.core.arrays import F32
from foxpath.core.colour import rgb8_from_lab
from foxpath.core.log.timers import Timer
from foxpath.core.units import duration_words
from foxpath.derive.easel.steps import EaselStep, Pile, life_size
from foxpath.window.look import draw
from foxpath.window.look.theme import colour

WIDE, TALL = 1280.0, 800.0
MARGIN, TOP, PICTURE, FOOT = 32.0, 92.0, 560.0, 120.0
WORDS_AT = 632.0
LEAST = 26.0
"""The smallest type, and the measures of a screen of that size."""


@dataclass(frozen=True, slots=True)
class Cap:
    """A keycap: its key, what it does in words, the action, and whether it is the one that is meant."""

    key: str
    words: str
    action: str
    main: bool = False


@dataclass(frozen=True, slots=True)
class Scale:
    """How much larger than the least screen everything is."""

    k: float
    width: float
    height: float

    def px(self, value: float) -> float:
        """Return a measure of the least screen on this one."""
        return value * self.k


def scale_of(width: float, height: float) -> Scale:
    """Return the scale of a screen: as large as both sides allow."""
    return Scale(max(min(width / WIDE, height / TALL), 0.5), width, height)


def fitted(words: str, room: float, px: float, weight: int, least: float) -> tuple[float, str]:
    """Return the largest size at which words fit a room, and the words, cut at their end where even the least is too large."""
    size = px
    while size > least and draw.width_of(words, size, weight) > room:
        size -= 1
    if draw.width_of(words, size, weight) > room:
        while words and draw.width_of(words + "…", size, weight) > room:
            words = words[:-1]
        words = words.rstrip() + "…"
    return size, words


def wrapped(
    p: QPainter, x: float, y: float, words: str, room: float, px: float, weight: int, tone: str, most: int
) -> float:
    """Write words in so many lines at most; returns the baseline of the next line."""
    lines = draw.lines_of(words, room, px, weight)
    if len(lines) > most:
        lines = [*lines[: most - 1], fitted(" ".join(lines[most - 1 :]), room, px, weight, px)[1]]
    for line in lines:
        draw.text(p, x, y, line, px, weight, tone)
        y += px * 1.25
    return y


def head(p: QPainter, s: Scale, left: str, right: str, share: float) -> None:
    """Draw the head: how far the sitting is, and which it is."""
    y = s.px(56)
    used = draw.text(p, s.px(MARGIN), y, left, s.px(30), 600)
    x0, x1 = s.px(MARGIN) + used + s.px(40), s.px(MARGIN + PICTURE)
    if x1 - x0 > s.px(80):
        middle = y - s.px(9)
        draw.stroke(p, draw.along(x0, middle, x1, middle), s.px(10), s.px(2), "dim", soft_root=False)
        at = x0 + (x1 - x0) * share
        if share > 0.01:
            draw.stroke(
                p, draw.along(x0, middle, at, middle), s.px(11), s.px(11 - 9 * share), "walked", soft_root=False
            )
        draw.circle(p, at, middle, s.px(9), "russet", "raised", s.px(2))
    size, words = fitted(right, s.px(WIDE - WORDS_AT - MARGIN), s.px(26), 400, s.px(LEAST))
    draw.text(p, s.width - s.px(MARGIN), y, words, size, 400, "quiet", "r")


def caps(p: QPainter, s: Scale, keys: Sequence[Cap]) -> list[tuple[QRectF, str]]:
    """Draw the row of keycaps; returns where each can be tapped."""
    top = s.height - s.px(FOOT)
    p.fillRect(QRectF(0, top, s.width, s.px(1.5)), colour("line"))
    x, y, tall = s.px(MARGIN), top + s.px(24), s.px(64)
    places = []
    for one in keys:
        wide = max(tall, draw.width_of(one.key, s.px(28), 700) + s.px(36))
        words = draw.width_of(one.words, s.px(LEAST), 400)
        if x + wide + words + s.px(30) > s.width - s.px(10):
            break
        box = QRectF(x, y, wide, tall)
        if one.main:
            draw.rounded(p, box, s.px(9), "russet_plate")
        else:
            draw.rounded(p, box, s.px(9), "raised", "dim", s.px(2))
        draw.text(
            p, box.center().x(), y + tall * 0.65, one.key, s.px(28), 700, "on_russet" if one.main else "text", "c"
        )
        used = draw.text(p, x + wide + s.px(14), y + tall * 0.65, one.words, s.px(LEAST), 400)
        places.append((QRectF(x, y, wide + used + s.px(22), tall), one.action))
        x += wide + used + s.px(14 + 34)
    return places


def crescent(p: QPainter, s: Scale, x: float, y: float, share: float, tone: str) -> None:
    """Draw a timer: a ring that is thick where time is left and tapers away."""
    r = s.px(38)
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.setPen(QPen(colour("dim"), s.px(5)))
    p.drawEllipse(QRectF(x - r, y - r, 2 * r, 2 * r))
    if share <= 0:
        return
    path = QPainterPath()
    outer = QRectF(x - r - s.px(6), y - r - s.px(6), 2 * (r + s.px(6)), 2 * (r + s.px(6)))
    inner = QRectF(x - r + s.px(8), y - r + s.px(8), 2 * (r - s.px(8)), 2 * (r - s.px(8)))
    path.arcMoveTo(outer, 90)
    path.arcTo(outer, 90, -360 * share)
    path.arcTo(inner, 90 - 360 * share, 360 * share)
    path.closeSubpath()
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour(tone))
    p.drawPath(path)


def left_words(minutes: float) -> str:
    """Write how long is left, to the minute under ten and to five above."""
    if minutes <= 0:
        return "over"
    if minutes < 10:
        return f"{max(1, round(minutes))} min"
    return duration_words(minutes) if minutes < 36 * 60 else f"{minutes / 1440:.0f} days"


def timer_row(p: QPainter, s: Scale, timers: Sequence[Timer], now: datetime, y: float) -> float:
    """Draw up to two timers side by side; returns the y below them."""
    room = (WIDE - WORDS_AT - MARGIN) / 2
    below = y
    for k, one in enumerate(timers[:2]):
        x = s.px(WORDS_AT + k * room)
        left, waits = one.left(now), one.waits(now)
        pressing = left < 15 and not waits
        crescent(p, s, x + s.px(44), y + s.px(44), one.share(now), "russet" if pressing or k == 0 else "text")
        words = left_words(left)
        size, shown = fitted(words, s.px(room - 116), s.px(50), 700, s.px(30))
        draw.text(p, x + s.px(108), y + s.px(50), shown, size, 700, "text")
        what = f"until {one.words.replace(': ', ', ')}" if waits else one.words
        below = max(
            below, wrapped(p, x + s.px(108), y + s.px(84), what, s.px(room - 112), s.px(LEAST), 400, "quiet", 2)
        )
    return below + s.px(2) if timers else y


def pile_row(p: QPainter, s: Scale, piles: Sequence[Pile], y: float) -> float:
    """Draw the first pile large with its recipe, and further ones as swatches; returns the y below."""
    if not piles:
        return y
    first, room = piles[0], s.px(WIDE - WORDS_AT - MARGIN - 120 - 84 * (len(piles) - 1))
    for k, one in enumerate(piles):
        wide = s.px(96 if k == 0 else 72)
        x = s.px(WORDS_AT) if k == 0 else s.width - s.px(MARGIN) - (len(piles) - k) * s.px(84) + s.px(12)
        box = QRectF(x, y, wide, wide)
        draw.rounded(p, box, s.px(8), "well")
        rgb = rgb8_from_lab(_lab(one.lab))[0]
        inner = box.adjusted(wide * 0.14, wide * 0.14, -wide * 0.14, -wide * 0.14)
        draw.rounded(p, inner, s.px(4), f"#{int(rgb[0]):02X}{int(rgb[1]):02X}{int(rgb[2]):02X}")
        if k:
            draw.text(p, box.center().x(), y + wide + s.px(28), str(one.number), s.px(LEAST), 600, "text", "c")
    size, words = fitted(f"{first.name.capitalize()}, {first.number}", room, s.px(34), 600, s.px(LEAST))
    draw.text(p, s.px(WORDS_AT + 120), y + s.px(38), words, size, 600)
    wrapped(
        p, s.px(WORDS_AT + 120), y + s.px(74), first.recipe.replace(", ", " · "), room, s.px(LEAST), 400, "quiet", 1
    )
    return y + s.px(112)


def _lab(lab: tuple[float, float, float]) -> F32:
    return np.asarray(lab, np.float32)[None]


def step_words(
    p: QPainter,
    s: Scale,
    step: EaselStep,
    px_per_mm: float,
    timers: Sequence[Timer],
    now: datetime,
    said: str,
    under: str = "",
) -> None:
    """Draw the words of a step, from the part's name down to what was said last."""
    x, room = s.px(WORDS_AT), s.px(WIDE - WORDS_AT - MARGIN)
    size, words = fitted(step.part, room, s.px(64), 700, s.px(34))
    draw.text(p, x, s.px(TOP) + s.px(56), words, size, 700)
    y = wrapped(p, x, s.px(TOP) + s.px(98), step.how, room, s.px(28), 400, "text", 2)
    draw.rule(p, x, y - s.px(16), room, "dim")
    y += s.px(22)
    bottom = s.height - s.px(FOOT) - s.px(18)
    if step.tool:
        mark = min(step.length_mm * px_per_mm, s.px(220))
        size, words = fitted(
            step.tool[:1].upper() + step.tool[1:], room - (mark + s.px(24) if mark else 0), s.px(34), 600, s.px(LEAST)
        )
        draw.text(p, x, y, words, size, 600)
        if mark > 4:
            line = draw.bent(s.width - s.px(MARGIN) - mark, y - s.px(4), mark, min(s.px(12), mark * 0.12), 3.0)
            wide = max(1.6, step.mark_mm * px_per_mm)
            draw.stroke(p, line, wide, max(0.8, wide * 0.25), "text")
        about = ", ".join(one for one in (step.hold, life_size(step), step.way) if one)
        y = wrapped(p, x, y + s.px(36), about, room, s.px(LEAST), 400, "quiet", 2) + s.px(6)
    y = pile_row(p, s, step.piles, y - s.px(8))
    if said:
        # What was found out last comes before all that only runs.
        used = draw.text(p, x, y + s.px(22), "Now", s.px(LEAST), 400, "quiet") + s.px(12)
        y = wrapped(p, x + used, y + s.px(22), said, room - used, s.px(LEAST), 600, "text", 3)
    if timers and y + s.px(112) < bottom:
        y = timer_row(p, s, timers, now, y)
    lines = [("Hand off", under)] if under else []
    lines += [("Edge", one) for one in step.edges[:1]]
    lines += [("Leave", step.far)] if step.far else []
    lines += [("Wet", step.wet)] if step.wet else []
    y += s.px(22)
    for name, words in lines:
        if y > bottom:
            return
        used = draw.text(p, x, y, name, s.px(LEAST), 400, "quiet") + s.px(12)
        most = 2 if y + s.px(33) < bottom else 1
        y = wrapped(p, x + used, y, words, room - used, s.px(LEAST), 600, "text", most) + s.px(4)


def page_words(
    p: QPainter, s: Scale, title: str, lines: Sequence[tuple[str, str]], *, left: float = MARGIN, top: float = 180.0
) -> None:
    """Draw a page of words alone: a title and lines, each with a quieter one beside it."""
    x, room = s.px(left), s.width - s.px(left + MARGIN)
    size, words = fitted(title, room, s.px(64), 700, s.px(34))
    draw.text(p, x, s.px(top), words, size, 700)
    y, bottom = s.px(top) + s.px(66), s.height - s.px(FOOT) - s.px(20)
    for words, quiet in lines:
        if y > bottom:
            return
        used = draw.width_of(quiet, s.px(LEAST)) + s.px(24) if quiet else 0
        if quiet:
            draw.text(p, s.width - s.px(MARGIN), y, quiet, s.px(LEAST), 400, "quiet", "r")
        y = wrapped(p, x, y, words, room - used, s.px(30), 600, "text", 2) + s.px(8)


def banner(p: QPainter, s: Scale, box: QRectF, words: str, *, above: bool = False) -> None:
    """Draw a word that must be seen across the lower part of the picture, or across its upper part."""
    lines = draw.lines_of(words, box.width() - s.px(48), s.px(34), 700)[:4]
    tall = len(lines) * s.px(42) + s.px(36)
    top = box.top() + s.px(10) if above else box.bottom() - tall - s.px(10)
    plate = QRectF(box.left() + s.px(10), top, box.width() - s.px(20), tall)
    draw.rounded(p, plate, s.px(9), "raised", "russet", s.px(4))
    for k, line in enumerate(lines):
        draw.text(p, plate.left() + s.px(18), plate.top() + s.px(46 + 42 * k), line, s.px(34), 700)
