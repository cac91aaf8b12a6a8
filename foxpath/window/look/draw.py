"""The marks of the look: everything is a hair, thick at the root, fine at the tip.

Plain numbers only: the first window is drawn before NumPy has to be there.
"""

import math
from collections.abc import Iterable, Sequence
from typing import Literal

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QLinearGradient, QPainter, QPainterPath, QPen, QPolygonF, QRadialGradient

from foxpath.core.findings import Level
from foxpath.window.look.theme import colour, font, metrics, theme

Place = tuple[float, float]
Line = Iterable[Iterable[float]]
"""Points (x, y): tuples, or the rows of an array."""
Align = Literal["l", "c", "r"]
State = Literal["no", "begun", "ready", "you"]


def polygon(points: Line) -> QPolygonF:
    """Return points as a polygon."""
    return QPolygonF([QPointF(x, y) for x, y in points])


def text(
    p: QPainter,
    x: float,
    y: float,
    words: str,
    px: float = 14,
    weight: int = 400,
    tone: str = "text",
    align: Align = "l",
) -> float:
    """Write words with their baseline at y; returns their width."""
    p.setFont(font(px, weight))
    width = width_of(words, px, weight)
    p.setPen(colour(tone))
    p.drawText(QPointF(x - (width if align == "r" else width / 2 if align == "c" else 0), y), words)
    return width


def width_of(words: str, px: float, weight: int = 400) -> float:
    """Return the width of words."""
    return metrics(px, weight).horizontalAdvance(words)


def elided(words: str, width: float, px: float, weight: int = 400) -> str:
    """Shorten words in the middle to a width."""
    return metrics(px, weight).elidedText(words, Qt.TextElideMode.ElideMiddle, width)


def size_for(words: str, width: float, px: float, weight: int = 400, least: float = 11.0) -> float:
    """Return the size at which words fit a width: the usual one, or in half steps a smaller one, down to the least."""
    while px > least and width_of(words, px, weight) > width:
        px -= 0.5
    return max(px, least)


def lines_of(words: str, width: float, px: float, weight: int = 400) -> list[str]:
    """Break words into lines of at most a width."""
    measure = metrics(px, weight)
    lines: list[str] = []
    line = ""
    for word in words.split(" "):
        longer = f"{line} {word}".strip()
        if line and measure.horizontalAdvance(longer) > width:
            lines.append(line)
            line = word
        else:
            line = longer
    return [*lines, line] if line else lines


def taper(points: Line, root: float, tip: float, *, soft_root: bool = True) -> QPolygonF:
    """Return the outline of a stroke that thins from `root` to `tip` wide along its length."""
    line = [(float(x), float(y)) for x, y in points]
    last = len(line) - 1
    left, right = [], []
    for k, (x, y) in enumerate(line):
        (ax, ay), (bx, by) = line[max(k - 1, 0)], line[min(k + 1, last)]
        size = math.hypot(bx - ax, by - ay) + 1e-9
        t = k / max(last, 1)
        half = (root + (tip - root) * t**1.25) / 2
        if soft_root:
            half *= min(1.0, 0.55 + 0.45 * t / 0.12)
        nx, ny = (ay - by) / size * half, (bx - ax) / size * half
        left.append(QPointF(x + nx, y + ny))
        right.append(QPointF(x - nx, y - ny))
    return QPolygonF(left + right[::-1])


def stroke(
    p: QPainter, points: Line, root: float, tip: float, tone: str, casing: str = "", *, soft_root: bool = True
) -> None:
    """Draw a tapered stroke, over a dark casing when one is named."""
    shape = taper(points, root, tip, soft_root=soft_root)
    if casing:
        pen = QPen(colour(casing, 0.75), 1.6)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        p.setPen(pen)
        p.setBrush(colour(casing, 0.75))
        p.drawPolygon(shape)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour(tone))
    p.drawPolygon(shape)


def along(x0: float, y0: float, x1: float, y1: float, count: int = 12) -> list[Place]:
    """Return points on a straight line."""
    return [(x0 + (x1 - x0) * k / (count - 1), y0 + (y1 - y0) * k / (count - 1)) for k in range(count)]


def bent(x: float, y: float, length: float, rise: float, turns: float, count: int = 14) -> list[Place]:
    """Return points of a hair that lies to the right and bends up by `rise` on the way."""
    return [(x + length * k / (count - 1), y - rise * math.sin(turns * k / (count - 1))) for k in range(count)]


def smooth(points: Line, per_span: int) -> list[Place]:
    """Return the smooth curve through points, `per_span` samples between two (Catmull-Rom)."""
    knots = [(float(x), float(y)) for x, y in points]
    first = (2 * knots[0][0] - knots[1][0], 2 * knots[0][1] - knots[1][1])
    last = (2 * knots[-1][0] - knots[-2][0], 2 * knots[-1][1] - knots[-2][1])
    knots = [first, *knots, last]
    out: list[Place] = []
    for p0, p1, p2, p3 in zip(knots, knots[1:], knots[2:], knots[3:], strict=False):
        for k in range(per_span):
            t = k / per_span
            out.append(
                tuple(  # type: ignore[arg-type]
                    0.5 * (2 * b + (c - a) * t + (2 * a - 5 * b + 4 * c - d) * t * t + (3 * b - a - 3 * c + d) * t**3)
                    for a, b, c, d in zip(p0, p1, p2, p3, strict=True)
                )
            )
    return [*out, knots[-2]]


def rule(p: QPainter, x: float, y: float, width: float, tone: str = "dim") -> None:
    """Draw a section's rule: a hair lying on its side."""
    stroke(p, along(x, y, x + width, y), 2.2, 0.6, tone, soft_root=False)


def rounded(p: QPainter, box: QRectF, radius: float, fill: str = "", line: str = "", width: float = 1.0) -> None:
    """Draw a rounded box; its line lies inside."""
    p.setBrush(colour(fill) if fill else Qt.BrushStyle.NoBrush)
    if line:
        p.setPen(QPen(colour(line), width))
        half = width / 2
        box = box.adjusted(half, half, -half, -half)
    else:
        p.setPen(Qt.PenStyle.NoPen)
    p.drawRoundedRect(box, radius, radius)


def circle(p: QPainter, x: float, y: float, r: float, fill: str = "", line: str = "", width: float = 1.5) -> None:
    """Draw a disc, a ring, or both."""
    p.setBrush(colour(fill) if fill else Qt.BrushStyle.NoBrush)
    p.setPen(QPen(colour(line), width) if line else Qt.PenStyle.NoPen)
    p.drawEllipse(QPointF(x, y), r, r)


def diamond(x: float, y: float, half: float) -> QPolygonF:
    """Return a diamond."""
    return QPolygonF([QPointF(x, y - half), QPointF(x + half, y), QPointF(x, y + half), QPointF(x - half, y)])


def state_mark(p: QPainter, x: float, y: float, state: State, tone: str, ground: str) -> None:
    """Draw a stop's state by its shape: open ring, half-filled ring, disc, diamond."""
    if state == "no":
        circle(p, x, y, 4, ground, tone, 1.5)
    elif state == "begun":
        circle(p, x, y, 6.2, ground, tone, 1.6)
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour(tone))
        p.drawPie(QRectF(x - 6.2, y - 6.2, 12.4, 12.4), 180 * 16, 180 * 16)
    elif state == "ready":
        circle(p, x, y, 6.6, tone)
    else:
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour(tone))
        p.drawPolygon(diamond(x, y, 8.5))


def finding_mark(p: QPainter, x: float, y: float, level: Level, tone: str = "text") -> None:
    """Draw a finding's mark: filled diamond, hollow diamond, dot."""
    if level == "must":
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour(tone))
        p.drawPolygon(diamond(x, y, 6.5))
    elif level == "look":
        p.setPen(QPen(colour(tone), 1.6))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPolygon(diamond(x, y, 6))
    else:
        circle(p, x, y, 2.8, tone)


def focus_ring(p: QPainter, box: QRectF, radius: float = 6) -> None:
    """Draw the ring of keyboard focus just inside a box."""
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.setPen(QPen(colour("text"), 2))
    p.drawRoundedRect(box.adjusted(1, 1, -1, -1), radius, radius)


def brush_mark(p: QPainter, x: float, y: float, height: float) -> None:
    """Draw our mark: a fox's brush that is also a paintbrush."""
    k = height / 24

    def at(px: float, py: float) -> QPointF:
        return QPointF(x + px * k, y + py * k)

    body = QPainterPath(at(2, 22))
    body.cubicTo(at(1, 16), at(0, 12), at(5, 8))
    body.cubicTo(at(9, 4.4), at(14, 5), at(21, 0))
    body.cubicTo(at(22, 7), at(20, 13), at(14, 15.5))
    body.cubicTo(at(9, 17.5), at(5, 17), at(2, 22))
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour("russet"))
    p.drawPath(body)
    tip = QPainterPath(at(21, 0))
    tip.cubicTo(at(22, 7), at(20, 11), at(16.6, 14))
    tip.cubicTo(at(16.8, 11), at(14.4, 11.4), at(15, 9))
    tip.cubicTo(at(13.4, 8), at(14, 6), at(13, 4.4))
    tip.cubicTo(at(16, 3.4), at(18.6, 2), at(21, 0))
    p.setBrush(colour("#F4F4F4"))
    p.setPen(QPen(colour("#8A8A8A"), 0.8) if theme().name == "day" else Qt.PenStyle.NoPen)
    p.drawPath(tip)


def hatch(p: QPainter, path: QPainterPath, gap: float, strength: float = 1.0, line: float = 0.9) -> None:
    """Hatch a path at 45 degrees, a dark and a light line side by side: doubt."""
    p.save()
    p.setClipPath(path, Qt.ClipOperation.IntersectClip)
    box = path.boundingRect()
    start = box.left() - box.height()
    for k in range(int((box.width() + box.height()) / gap) + 1):
        at = start + k * gap
        for shift, tone in ((0.0, "over_dark"), (line + 0.2, "over_light")):
            p.setPen(QPen(colour(tone, 0.8 * strength), line))
            p.drawLine(QPointF(at + shift, box.bottom()), QPointF(at + shift + box.height(), box.top()))
    p.restore()


def over_words(
    p: QPainter, x: float, y: float, words: str, align: Align = "l", px: float = 13, within: QRectF | None = None
) -> QRectF:
    """Write words on the picture, on their dark plate; y is the baseline. Returns the plate.

    With `within` the plate is moved so that none of it lies outside.
    """
    width = width_of(words, px, 500)
    left = x - (width / 2 if align == "c" else width if align == "r" else 0)
    if within is not None:
        left = max(within.left() + 12, min(left, within.right() - width - 12))
        y = max(within.top() + px + 6, min(y, within.bottom() - 12))
    box = QRectF(left - 8, y - px - 3, width + 16, px + 11)
    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour("over_plate", 0.88))
    p.drawRoundedRect(box, 5, 5)
    text(p, left, y, words, px, 500, "over_text")
    return box


def tag(p: QPainter, x: float, y: float, words: str, *, chosen: bool = False) -> QRectF:
    """Draw a zone's numbered tag, centred; the chosen one is ringed russet."""
    width = max(20.0, width_of(words, 14, 700) + 10)
    box = QRectF(x - width / 2, y - 11, width, 22)
    rounded(p, box, 6, "over_plate", "over_light", 1.2)
    if chosen:
        rounded(p, box.adjusted(-1.5, -1.5, 1.5, 1.5), 7, "", "russet", 2.4)
    text(p, x, y + 5, words, 14, 700, "over_text", "c")
    return box


def ladder(
    p: QPainter, box: QRectF, low: float, high: float, rungs: int, narrow: float, *, ceiling: float | None = None
) -> None:
    """Draw a value ladder on its strip of well: rungs of true grey, full width inside the band."""
    from foxpath.core.colour import grey_of_lightness

    p.setPen(Qt.PenStyle.NoPen)
    p.setBrush(colour("well"))
    p.drawRect(box)
    inner = box.adjusted(2, 2, -2, -2)
    step = inner.height() / rungs
    for k in range(rungs):
        l0, l1 = 100 * k / rungs, 100 * (k + 1) / rungs
        v = grey_of_lightness((l0 + l1) / 2)
        p.setBrush(QColor(v, v, v))
        top = inner.bottom() - (k + 1) * step
        p.drawRect(QRectF(inner.center().x() - narrow / 2, top + 0.5, narrow, step - 1))
        a, b = max(l0, low), min(l1, high)
        if b > a + 0.2:
            y0 = inner.bottom() - inner.height() * b / 100
            y1 = inner.bottom() - inner.height() * a / 100
            p.drawRect(QRectF(inner.left(), y0 + 0.5, inner.width(), max(1.0, y1 - y0 - 1)))
    p.setBrush(colour("over_dark"))
    y0, y1 = (inner.bottom() - inner.height() * v / 100 for v in (high, low))
    for x in (inner.left() - 1, inner.right()):
        p.drawRect(QRectF(x, y0 - 1, 1, y1 - y0 + 2))
    if ceiling is not None:
        y = inner.bottom() - inner.height() * ceiling / 100
        p.drawRect(QRectF(box.left() - 4, y - 0.8, box.width() + 8, 1.6))


def lens(p: QPainter, x: float, y: float, kind: str, *, on: bool, r: float = 10) -> None:
    """Draw a seeing aid as a lens that shows its own effect in greys."""
    p.save()
    clip = QPainterPath()
    clip.addEllipse(QPointF(x, y), r, r)
    p.setClipPath(clip)
    p.setPen(Qt.PenStyle.NoPen)
    box = QRectF(x - r, y - r, 2 * r, 2 * r)
    if kind == "plain":
        shade = QLinearGradient(box.topLeft(), box.bottomRight())
        shade.setColorAt(0, QColor("#F0F0F0"))
        shade.setColorAt(1, QColor("#3A3A3A"))
        p.fillRect(box, shade)
    elif kind == "greys":
        for k, v in enumerate((235, 170, 110, 50)):
            p.fillRect(QRectF(x - r + k * r / 2, y - r, r / 2 + 0.5, 2 * r), QColor(v, v, v))
    elif kind == "squint":
        glow = QRadialGradient(QPointF(x - 2, y - 2), r * 1.1)
        for at, tone in ((0, "#F4F4F4"), (0.35, "#C0C0C0"), (1, "#383838")):
            glow.setColorAt(at, QColor(tone))
        p.fillRect(box, glow)
    elif kind == "poster":
        p.fillRect(box, QColor(58, 58, 58))
        circle(p, x - 1.5, y - 1.5, r * 0.74, "#787878")
        circle(p, x - 1.5, y - 1.5, r * 0.42, "#EBEBEB")
    elif kind == "mirror":
        p.fillRect(box, QColor("#4A4A4A"))
        p.setBrush(QColor("#EFEFEF"))
        p.drawPolygon(polygon([(x - 2, y - 6), (x - 2, y + 6), (x - 9, y + 6)]))
        p.setBrush(QColor("#9A9A9A"))
        p.drawPolygon(polygon([(x + 2, y - 6), (x + 2, y + 6), (x + 9, y + 6)]))
    elif kind == "falloff":
        glow = QRadialGradient(QPointF(x, y), r)
        for at, tone in ((0, "#8A8A8A"), (0.4, "#6E6E6E"), (1, "#7A7A7A")):
            glow.setColorAt(at, QColor(tone))
        p.fillRect(box, glow)
        circle(p, x, y, r * 0.36, "#F4F4F4", "#2A2A2A", 1.2)
    elif kind == "alone":
        p.fillRect(box, QColor("#5A5A5A"))
        shape = QPainterPath(QPointF(x - 6, y + 5))
        shape.cubicTo(QPointF(x - 7, y - 8), QPointF(x + 2, y - 6), QPointF(x + 6, y - 5))
        shape.cubicTo(QPointF(x + 7, y + 3), QPointF(x + 2, y + 6), QPointF(x - 6, y + 5))
        p.setBrush(QColor("#EDEDED"))
        p.drawPath(shape)
    elif kind == "turn":
        p.fillRect(box, QColor("#4A4A4A"))
        p.setBrush(QColor("#EFEFEF"))
        p.drawPolygon(polygon([(x - 7, y - 1), (x + 5, y - 6), (x + 5, y + 4)]))
        p.setBrush(QColor("#9A9A9A"))
        p.drawRect(QRectF(x - 6, y + 6, 12, 2))
    elif kind == "glass":
        p.fillRect(box, QColor("#6A6A6A"))
        for k in (-1, 0, 1):
            stroke(p, bent(x - 8, y + 3 + 5 * k, 16, 3, 1.6, 10), 3.2, 1.0, "#F2F2F2")
    else:
        p.fillRect(QRectF(x - r, y - r, 2 * r, r), QColor("#4A4A4A"))
        p.fillRect(QRectF(x - r, y, 2 * r, r), QColor("#8E8E8E"))
        p.setBrush(QColor("#F2F2F2"))
        p.drawPolygon(polygon([(x - 5.5, y - 5), (x + 5.5, y - 5), (x, y + 7)]))
    p.restore()
    circle(p, x, y, r + (2.6 if on else 0), "", "russet" if on else "quiet", 2 if on else 1.2)


def comb(p: QPainter, points: Line) -> None:
    """Draw the comb that is chosen or being drawn: a spine across the root and five tracks, russet inside.

    Parameters
    ----------
    points : sequence of (x, y)
        From root to tip, in pixels of the painter.
    """
    line = _evenly([(float(x), float(y)) for x, y in points], 16)
    if not line:
        return
    half = 11.0
    normals = []
    for k in range(16):
        (ax, ay), (bx, by) = line[max(k - 1, 0)], line[min(k + 1, 15)]
        size = math.hypot(bx - ax, by - ay) + 1e-9
        normals.append(((ay - by) / size, (bx - ax) / size))
    tracks = ((0.0, 1.0, 3.6), (0.5, 0.9, 1.6), (-0.5, 0.9, 1.6), (1.0, 0.77, 1.2), (-1.0, 0.77, 1.2))
    for side, reach, width in tracks:
        track = []
        for k in range(max(2, int(16 * reach))):
            out = half * side * (1 + 0.3 * k / 15)
            track.append((line[k][0] + normals[k][0] * out, line[k][1] + normals[k][1] * out))
        stroke(p, track, width, 0.7, "russet" if side == 0 else "over_light", "over_dark")
    (x, y), (nx, ny) = line[0], normals[0]
    for width, tone in ((6.2, "over_dark"), (4.4, "over_light"), (2.4, "russet")):
        pen = QPen(colour(tone), width)
        pen.setCapStyle(Qt.PenCapStyle.RoundCap)
        p.setPen(pen)
        p.drawLine(QPointF(x + nx * half, y + ny * half), QPointF(x - nx * half, y - ny * half))


def _evenly(points: list[Place], count: int) -> list[Place]:
    """Return points evenly spaced along a polyline; none when it is shorter than a pixel."""
    steps = [math.hypot(b[0] - a[0], b[1] - a[1]) for a, b in zip(points, points[1:], strict=False)]
    total = sum(steps)
    if total < 1:
        return []
    out, k, done = [], 0, 0.0
    for n in range(count):
        at = total * n / (count - 1)
        while k < len(steps) - 1 and done + steps[k] < at:
            done += steps[k]
            k += 1
        t = min(1.0, (at - done) / steps[k]) if steps[k] else 0.0
        (ax, ay), (bx, by) = points[k], points[k + 1]
        out.append((ax + (bx - ax) * t, ay + (by - ay) * t))
    return out


def focal_point(p: QPainter, x: float, y: float) -> None:
    """Draw the focal point: four tapers pointing in."""
    for k in range(4):
        angle = math.radians(45 + 90 * k)
        c, s = math.cos(angle), math.sin(angle)
        stroke(p, along(x + 17 * c, y + 17 * s, x + 5 * c, y + 5 * s, 6), 3.6, 1.0, "over_light", "over_dark")


def cross(p: QPainter, x: float, y: float, *, held: bool) -> None:
    """Draw the cross that points without a mouse; it closes up while it presses."""
    gap = 2 if held else 5
    for a, b in ((1, 0), (-1, 0), (0, 1), (0, -1)):
        line = along(x + 16 * a, y + 16 * b, x + gap * a, y + gap * b, 5)
        stroke(p, line, 3.4, 1.4, "russet" if held else "over_light", "over_dark")


def cased_path(
    p: QPainter,
    path: QPainterPath | QPolygonF,
    width: float = 1.1,
    tone: str = "over_light",
    dash: Sequence[float] = (),
) -> None:
    """Draw an overlay line: a core of `width` with a dark casing of 0.8 on each side."""
    for w, c, alpha in ((width + 1.6, "over_dark", 0.75), (width, tone, 1.0)):
        pen = QPen(colour(c, alpha), w)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        if dash:
            pen.setDashPattern([d / w for d in dash])
        p.setPen(pen)
        p.setBrush(Qt.BrushStyle.NoBrush)
        if isinstance(path, QPolygonF):
            p.drawPolyline(path)
        else:
            p.drawPath(path)
