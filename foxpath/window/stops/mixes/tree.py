"""The palette as it lies before the painter: every pile a dab, dark to light across, dull to strong upward, grown from one another.

A branch is thick at the pile it begins from, and the parts to add lie on it as beads, one a part.
"""

import math
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen

from foxpath.core.mixes.palette import Palette, Pile
from foxpath.core.mixes.recipe import Rack
from foxpath.window.look import draw
from foxpath.window.look.theme import colour, hex_of

WIDE, LABEL = 116.0, 46.0
"""Width of a pile with its label, and height of the label, pixels."""
LEAST_R, MOST_R = 13.0, 38.0
TUBES_TALL = 56.0
_ROUNDS = 260
MOST_BEADS = 6
UNKNOWN = (50.0, 0.0, 0.0)
"""What a tube that is not at hand is drawn as."""


@dataclass(frozen=True, slots=True)
class Dab:
    """Where a pile lies: its middle and its radius, pixels."""

    x: float
    y: float
    r: float

    @property
    def at(self) -> QPointF:
        """Its middle."""
        return QPointF(self.x, self.y)


def lay_out(palette: Palette, room: QRectF, taken: QRectF) -> dict[str, Dab]:
    """Place the piles: value across, strength of colour upward, greys along the foot; none over another, none over the picture."""
    piles = palette.piles
    if not piles:
        return {}
    most_ml = max(1e-6, *(one.mixed_ml for one in piles))
    radius = [LEAST_R + (MOST_R - LEAST_R) * math.sqrt(one.mixed_ml / most_ml) for one in piles]
    light = np.array([one.lab[0] for one in piles])
    strong = np.array([math.hypot(one.lab[1], one.lab[2]) for one in piles])
    box = room.adjusted(WIDE / 2 + 6, MOST_R + 14, -WIDE / 2 - 6, -MOST_R - LABEL - 4)
    span = max(float(light.max() - light.min()), 10.0)
    x = box.left() + (light - light.min()) / span * box.width()
    y = box.bottom() - strong / max(float(strong.max()), 20.0) * box.height()
    fixed = [k for k, one in enumerate(piles) if one.neutral]
    foot = taken.left() - WIDE / 2 - 8
    for place, k in enumerate(sorted(fixed, key=lambda k: light[k])):
        share = place / max(len(fixed) - 1, 1)
        x[k] = box.left() + share * max(foot - box.left(), 10)
        # Where the string is crowded every other one stands a step up.
        crowded = len(fixed) > 1 and (foot - box.left()) / (len(fixed) - 1) < WIDE - 12
        y[k] = box.bottom() - (MOST_R + LABEL if crowded and place % 2 else 0)
    _apart(x, y, np.array(radius), set(fixed), box, taken)
    return {one.key: Dab(float(x[k]), float(y[k]), radius[k]) for k, one in enumerate(piles)}


def _apart(x: np.ndarray, y: np.ndarray, r: np.ndarray, fixed: set[int], box: QRectF, taken: QRectF) -> None:
    """Push piles apart until none covers another or the picture."""
    n = len(x)
    for _ in range(_ROUNDS):
        moved = False
        for i in range(n):
            for j in range(i):
                dx, dy = x[i] - x[j], y[i] - y[j]
                over_x, over_y = WIDE - abs(dx), r[i] + r[j] + LABEL - abs(dy)
                if over_x <= 0 or over_y <= 0 or (i in fixed and j in fixed):
                    continue
                moved = True
                share = 1.0 if i in fixed or j in fixed else 0.5
                # The shorter way out; a tie is broken by the order of mixing.
                if over_x < over_y and not (i in fixed or j in fixed):
                    push = over_x * 0.5 * (1 if dx >= 0 else -1)
                    x[i] += push
                    x[j] -= push
                else:
                    push = over_y * share * (1 if dy > 0 or (dy == 0 and i > j) else -1)
                    if i in fixed:
                        y[j] -= abs(push)
                    elif j in fixed:
                        y[i] -= abs(push)
                    else:
                        y[i] += push
                        y[j] -= push
        for i in range(n):
            if i in fixed:
                continue
            x[i], y[i] = min(max(x[i], box.left()), box.right()), min(max(y[i], box.top()), box.bottom())
            if x[i] + WIDE / 2 > taken.left() and y[i] + 62 > taken.top():
                # Up or to the left, whichever is nearer.
                if y[i] + 62 - taken.top() < x[i] + WIDE / 2 - taken.left():
                    y[i] = taken.top() - 62
                else:
                    x[i] = taken.left() - WIDE / 2
        if not moved:
            break


def dab_path(dab: Dab, key: str) -> QPainterPath:
    """Return the outline of a dab: a flat, uneven round, the same for the same pile."""
    seed = sum((k + 1) * ord(c) for k, c in enumerate(key)) % 997
    points = []
    for k in range(10):
        turn = k * math.tau / 10
        r = dab.r * (1 + 0.10 * math.sin(3 * turn + seed) + 0.07 * math.sin(2 * turn + 1.7 * seed))
        points.append((dab.x + 1.16 * r * math.cos(turn), dab.y + 0.9 * r * math.sin(turn)))
    # Smoothed once round and a little more: the seam lies where the curve has run in.
    round_ = draw.smooth([points[-1], *points, points[0], points[1]], 6)[6 : 6 * 11]
    path = QPainterPath()
    path.addPolygon(draw.polygon(round_))
    path.closeSubpath()
    return path


def pile_at(places: dict[str, Dab], at: QPointF) -> str:
    """Return the key of the pile at a place of the screen; empty for none."""
    best, key = 1e9, ""
    for one, dab in places.items():
        far = math.hypot(at.x() - dab.x, (at.y() - dab.y) / 0.9)
        inside = far < dab.r + 8 or (abs(at.x() - dab.x) < WIDE / 2 and 0 < at.y() - dab.y < dab.r + 44)
        if inside and far < best:
            best, key = far, one
    return key


def paint_tree(
    p: QPainter, palette: Palette, rack: Rack | None, places: dict[str, Dab], chosen: str, room: QRectF
) -> None:
    """Draw branches, beads, dabs and labels; the chosen pile's branch is russet."""
    numbers = {one.key: k for k, one in enumerate(palette.piles, 1)}
    string = [one for one in palette.string if one.key in places]
    for one, other in zip(string, string[1:], strict=False):
        a, b = places[one.key], places[other.key]
        p.setPen(QPen(colour("over_light", 0.45), 1.2))
        p.drawLine(a.at, b.at)
    for pile in palette.piles:
        if pile.base in places:
            _branch(p, pile, rack, places[pile.base], places[pile.key], on=pile.key == chosen)
    for pile in palette.piles:
        dab = places[pile.key]
        path = dab_path(dab, pile.key)
        on = pile.key == chosen
        p.setPen(QPen(colour("russet" if on else "over_dark"), 3.0 if on else 1.0))
        p.setBrush(colour(hex_of(pile.lab)))
        p.drawPath(path)
        if on:
            p.setPen(QPen(colour("over_light"), 1.2))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawPath(path)
        if pile.held:
            # A tick of paint: it lies there.
            draw.circle(p, dab.x + dab.r * 0.95, dab.y - dab.r * 0.7, 7.5, "over_plate")
            line = [(-3.4, 0.2), (-0.8, 3.0), (3.6, -2.8)]
            p.setPen(QPen(colour("over_text"), 1.8))
            p.drawPolyline(draw.polygon([(dab.x + dab.r * 0.95 + a, dab.y - dab.r * 0.7 + b) for a, b in line]))
        _label(p, pile, numbers[pile.key], dab, room, on=on)


def _label(p: QPainter, pile: Pile, number: int, dab: Dab, room: QRectF, *, on: bool) -> None:
    said = f"{number}  {pile.name}"
    px = draw.size_for(said, WIDE - 12, 12.5, 700)
    name = draw.elided(said, WIDE - 12, px, 700)
    words = f"{pile.mixed_ml:.1f} mL · L* {pile.lab[0]:.0f}"
    width = max(draw.width_of(name, px, 700), draw.width_of(words, 11.5)) + 14
    left = min(max(dab.x - width / 2, room.left() + 2), room.right() - width - 2)
    top = dab.y + dab.r * 0.98 + 4
    box = QRectF(left, top, width, 35)
    p.setPen(QPen(colour("russet"), 1.6) if on else Qt.PenStyle.NoPen)
    p.setBrush(colour("over_plate", 0.9))
    p.drawRoundedRect(box, 5, 5)
    draw.text(p, box.center().x(), top + 15, name, px, 700, "over_text", "c")
    draw.text(p, box.center().x(), top + 29, words, 11.5, 400, "#D6D6D6", "c")


def _branch(p: QPainter, pile: Pile, rack: Rack | None, start: Dab, end: Dab, *, on: bool) -> None:
    """Draw the way from the pile it begins from, thick at that end, with what is added as beads."""
    dx, dy = end.x - start.x, end.y - start.y
    size = math.hypot(dx, dy) + 1e-6
    nx, ny = -dy / size, dx / size
    bow = min(26.0, size * 0.12)
    knots = [
        (start.x, start.y),
        (start.x + dx * 0.33 + nx * bow, start.y + dy * 0.33 + ny * bow),
        (start.x + dx * 0.7 + nx * bow * 0.6, start.y + dy * 0.7 + ny * bow * 0.6),
        (end.x, end.y),
    ]
    line = draw.smooth(knots, 10)
    draw.stroke(p, line, 6.5 if on else 5.0, 1.4, "russet" if on else "over_light", "over_dark" if on else "")
    beads = [(key, n) for key, n in pile.added for _ in (0,)]
    if not beads or rack is None:
        return
    marks: list[tuple[str, float, str]] = []
    for key, n in beads:
        tone = hex_of(rack.own.get(key, UNKNOWN))
        if n > MOST_BEADS:
            marks.append((tone, 1.0, f"{n:.0f}"))
            continue
        whole = int(n)
        marks += [(tone, 1.0, "")] * whole
        if n - whole > 0.04:
            marks.append((tone, n - whole, ""))
    room = (start.r + 8, size - end.r - 8)
    step = min(14.5, max(6.0, (room[1] - room[0]) / max(len(marks), 1)))
    first = (room[0] + room[1]) / 2 - step * (len(marks) - 1) / 2
    points = np.array(line)
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    for k, (tone, share, words) in enumerate(marks):
        at = first + k * step
        x, y = float(np.interp(at, along, points[:, 0])), float(np.interp(at, along, points[:, 1]))
        r = 9.0 if words else 5.6 * math.sqrt(max(share, 0.18))
        draw.circle(p, x, y, r, tone, "over_light", 1.2)
        if words:
            dark = sum(int(tone[i : i + 2], 16) for i in (1, 3, 5)) > 380
            draw.text(p, x, y + 3.8, words, 10.5, 700, "over_dark" if dark else "over_light", "c")


def tube_amounts(palette: Palette) -> dict[str, float]:
    """Return how much of each tube all piles take, mL."""
    made: dict[str, float] = {}
    for pile in palette.piles:
        # What comes from another pile was counted there.
        own = pile.added if pile.base else pile.recipe.parts
        whole = pile.base_parts + sum(n for _, n in own) if pile.base else pile.recipe.whole
        for key, n in own:
            made[key] = made.get(key, 0.0) + pile.mixed_ml * n / max(whole, 1e-9)
    return made


def paint_tubes(p: QPainter, rack: Rack, amounts: dict[str, float], room: QRectF) -> None:
    """Draw the tubes along the top edge, those in use first, with how much each gives."""
    strip = QRectF(room.left(), room.top(), room.width(), TUBES_TALL)
    p.fillRect(strip, colour("base"))
    used = sorted((t for t in rack.tubes if amounts.get(t.id, 0) > 0.005), key=lambda t: -amounts[t.id])
    rests = [t for t in rack.tubes if amounts.get(t.id, 0) <= 0.005]
    cells = len(used) + bool(rests)
    pitch = min(104.0, (strip.width() - 16) / max(cells, 1))
    for k, tube in enumerate(used):
        x = strip.left() + 10 + k * pitch
        box = QRectF(x, strip.top() + 8, min(40.0, pitch - 40), 15)
        draw.rounded(p, box, 3, "well")
        bead = draw.along(box.left() + 4, box.center().y(), box.right() - 4, box.center().y())
        draw.stroke(p, bead, 8.5, 5.0, hex_of(rack.own[tube.id]), "over_dark", soft_root=False)
        ml = amounts[tube.id]
        draw.text(p, box.right() + 5, strip.top() + 20, f"{ml:.1f}" if ml < 99 else f"{ml:.0f}", 11.5, 500, "quiet")
        _name(p, x, strip.top() + 36, tube.name, pitch - 4)
    if rests:
        x = strip.left() + 10 + len(used) * pitch
        draw.text(p, x, strip.top() + 20, "rest" if len(rests) > 1 else "rests", 11.5, 500, "quiet")
        _name(p, x, strip.top() + 36, f"{len(rests)} tubes" if len(rests) > 1 else rests[0].name, pitch - 6)
    draw.text(p, strip.right() - 8, strip.top() + 20, "mL", 11.5, 400, "quiet", "r")


def _name(p: QPainter, x: float, y: float, words: str, width: float) -> None:
    """Write a tube's name in two lines at most, as large as its longest word allows."""
    lines = draw.lines_of(words, width, 11.5)[:2]
    px = min(draw.size_for(line, width, 11.5, least=10.0) for line in lines)
    for row, line in enumerate(lines):
        draw.text(p, x, y + 13 * row, draw.elided(line, width, px), px)
