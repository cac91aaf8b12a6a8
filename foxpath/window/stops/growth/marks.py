"""How marks of the growth are drawn on the picture: partings, crowns, sources, and singular points that were found."""

import math

import numpy as np
from PySide6.QtGui import QPainter

from foxpath.core.growth import Singular
from foxpath.document.model import Mark, Project, as_array
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport

TOOLS = (("comb", "comb"), ("parting", "parting"), ("crown", "crown"), ("source", "away"))
"""Key and short word of what a stroke says, in the order of keys 1 to 4."""


def mark_words(project: Project, mark: Mark) -> tuple[str, str]:
    """Return a mark's name, and what it follows or how it turns."""
    zone, source, lent = project.zone(mark.zone), project.zone(mark.source), project.lent(mark.source)
    where = zone.name.lower() if zone is not None else "everywhere near"
    other = (
        source.name.lower() if source is not None else (lent.note or lent.reference.name) if lent is not None else ""
    )
    if mark.kind == "crown":
        return f"crown, {where}", turn_words(mark.turn_deg)
    return {
        "parting": (f"parting, {where}", ""),
        "source": ("grows away from here", ""),
        "twin": (f"{where}", f"mirrors {other}"),
        "donor": (f"{where}", f"borrows from {other}"),
    }[mark.kind]


def turn_words(turn_deg: float) -> str:
    """Say how hair turns round a crown."""
    return Singular((0, 0), _kind(turn_deg), turn_deg).words().removeprefix("crown, ")


def _kind(turn_deg: float) -> str:
    turn = abs(turn_deg)
    return "spreading" if turn < 22 else "gathering" if turn > 158 else "circling" if 75 < turn < 105 else "spiral"


def paint_mark(p: QPainter, view: Viewport, mark: Mark, *, chosen: bool) -> None:
    """Draw a mark that has a place."""
    if len(mark.points) < 2:
        return
    tone = "russet" if chosen else "over_light"
    points = view.to_screen(as_array(mark.points))
    if mark.kind == "parting":
        draw.cased_path(p, draw.polygon(points), 1.8, tone)
        for x, y in points:
            draw.circle(p, x, y, 3.2, "over_light", "over_dark", 1.2)
        return
    (x, y), radius = points[0], float(np.hypot(*(points[1] - points[0])))
    flip = np.linalg.det(view.affine()[:, :2]) < 0
    turn = math.radians(mark.turn_deg) * (-1 if flip else 1) if mark.kind == "crown" else 0.0
    begin, end = (0.25, 0.8) if mark.kind == "crown" else (1.0, 1.35)
    for k in range(10):
        a = 2 * math.pi * k / 10
        middle = radius * (begin + end) / 2
        mx, my = x + middle * math.cos(a), y + middle * math.sin(a)
        half = radius * (end - begin) / 2
        dx, dy = half * math.cos(a + turn), half * math.sin(a + turn)
        draw.stroke(p, draw.along(mx - dx, my - dy, mx + dx, my + dy, 6), 4.2, 1.0, tone, "over_dark")
    draw.circle(p, x, y, radius, "", "over_dark", 3)
    draw.circle(p, x, y, radius, "", tone, 1.4)
    draw.circle(p, float(points[1][0]), float(points[1][1]), 3.6, "over_light", "over_dark", 1.2)


def paint_singular(p: QPainter, view: Viewport, one: Singular, words: str = "") -> None:
    """Draw a point that was found: a dotted ring, so that it is not taken for the painter's word."""
    at = view.at(one.at)
    for k in range(12):
        a = 2 * math.pi * k / 12
        draw.circle(p, at.x() + 11 * math.cos(a), at.y() + 11 * math.sin(a), 1.7, "over_light", "over_dark", 0.8)
    if words:
        draw.over_words(p, at.x() + 18, at.y() + 5, words, within=view.room)
