"""What is drawn over the picture at Eyes: lids, corners, eye line, midline, dials, handles, ghosts."""

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF
from PySide6.QtGui import QPainter, QPolygonF

from foxpath.core.arrays import Points
from foxpath.core.eyes import Ellipse, Eye, HeadFrame, clock
from foxpath.core.eyes.placement import Line
from foxpath.core.reference.light import hour_words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.eyes.buildup import light_dial

Handle = tuple[str, int, tuple[float, float]]
"""What is held: its kind, which of that kind, and where it is, reference pixels."""


def on_screen(view: Viewport, points: Points) -> QPolygonF:
    """Return points of the reference on the screen."""
    return draw.polygon(view.to_screen(np.asarray(points, np.float64)))


def paint_eye(p: QPainter, view: Viewport, eye: Eye, *, chosen: bool, dial: bool) -> None:
    """Draw an eye's lids a little outside, its corners, and the dial with its catchlight's hour."""
    opening = eye.opening()
    middle = opening.mean(axis=0)
    outside = middle + (opening - middle) * 1.1
    line = on_screen(view, np.vstack([outside, outside[:1]]))
    draw.cased_path(p, line, 1.6 if chosen else 1.2, "russet" if chosen else "over_light")
    for corner in eye.corners or ():
        x, y = middle + (np.array(corner) - middle) * 1.1
        at = view.at((float(x), float(y)))
        draw.circle(p, at.x(), at.y(), 4.6, "over_dark")
        draw.circle(p, at.x(), at.y(), 3.4, "over_light")
    r = 1.5 * eye.iris.radius * view.scale
    if dial and eye.lights and r > 16:
        spot, at = view.at(eye.lights[0]), view.at(eye.iris.centre)
        hour = clock((at.x(), at.y()), (spot.x(), spot.y()))
        light_dial(p, at.x(), at.y(), max(r, 24), hour, spot, max(4.0, 0.14 * eye.iris.radius * view.scale))
        if r < 34 or not view.room.contains(at):
            return
        a = math.radians(30 * hour - 90)
        words = hour_words(clock(eye.iris.centre, eye.lights[0]))
        x, y = at.x() + (max(r, 24) + 16) * math.cos(a), at.y() + (max(r, 24) + 16) * math.sin(a)
        draw.over_words(p, x, y, words, "r" if math.cos(a) < -0.1 else "l", 12.5, view.room)


def paint_frame(p: QPainter, view: Viewport, frame: HeadFrame, eyes: Sequence[Eye]) -> None:
    """Draw the eye line, broken over the eyes, and the midline square to it, both with their tilt."""
    u, v = frame.axes()
    origin = np.array(frame.origin)
    span = 0.5 * math.dist(eyes[0].iris.centre, eyes[1].iris.centre)
    breaks = sorted(
        (
            float((np.array(e.iris.centre) - origin) @ u) - 0.62 * e.width,
            float((np.array(e.iris.centre) - origin) @ u) + 0.62 * e.width,
        )
        for e in eyes
    )
    cuts = [-2.1 * span, *(edge for pair in breaks for edge in pair), 2.1 * span]
    for a, b in zip(cuts[::2], cuts[1::2], strict=True):
        if b - a > 0.05 * span:
            _line(p, view, origin + a * u, origin + b * u)
    _line(p, view, origin - 1.1 * span * v, origin - 0.12 * span * v)
    _line(p, view, origin + 0.12 * span * v, origin + 1.5 * span * v)
    tilt = f"{abs(frame.tilt_deg):.1f}°"
    x, y = origin + 2.1 * span * u
    at = view.at((float(x), float(y)))
    if view.room.contains(at):
        draw.over_words(p, at.x() + 6, at.y() + 5, f"eye line {tilt}", "l", 12.5, view.room)
    x, y = origin - 1.1 * span * v
    at = view.at((float(x), float(y)))
    if view.room.contains(at):
        draw.over_words(p, at.x(), at.y() - 8, f"midline {tilt}", "c", 12.5, view.room)


def _line(p: QPainter, view: Viewport, a: Points, b: Points) -> None:
    start, end = view.at((float(a[0]), float(a[1]))), view.at((float(b[0]), float(b[1])))
    line = draw.along(start.x(), start.y(), end.x(), end.y(), 12)
    draw.stroke(p, line, 2.2, 1.0, "over_light", "over_dark", soft_root=False)


def paint_lines(p: QPainter, view: Viewport, lines: Sequence[Line], label: str, at: tuple[float, float]) -> None:
    """Draw the lines of the chosen check in russet, and what it says beside its place."""
    for a, b in lines:
        start, end = view.at(a), view.at(b)
        line = draw.along(start.x(), start.y(), end.x(), end.y(), 10)
        draw.stroke(p, line, 3.4, 1.2, "russet", "over_light", soft_root=False)
    if label:
        place = view.at(at)
        draw.over_words(p, place.x(), place.y() + 34, label, "c", 13, view.room)


def handles_of(eye: Eye) -> list[Handle]:
    """Return everything of an eye that can be dragged; what lies on top comes first."""
    found: list[Handle] = [("light", k, at) for k, at in enumerate(eye.lights)]
    for name, ellipse in (("pupil", eye.pupil), ("iris", eye.iris)):
        a, b = ellipse.axes()
        for k, way in enumerate((a, b, -a, -b)):
            found.append((name, k, (ellipse.cx + float(way[0]), ellipse.cy + float(way[1]))))
    for name, at in (("inner", eye.inner), ("outer", eye.outer)):
        if at is not None:
            found.append((name, 0, at))
    for lid in ("upper", "lower"):
        points = getattr(eye, lid)
        # The ends are the corners.
        found += [(lid, k, points[k]) for k in range(1, len(points) - 1)]
    found.append(("middle", 0, eye.pupil.centre))
    return found


def paint_handles(p: QPainter, view: Viewport, eye: Eye, held: str) -> None:
    """Draw what of the chosen eye can be dragged: rims as lines with knobs, lids' points, lights as rings."""
    for ellipse, tone in ((eye.iris, "over_light"), (eye.pupil, "over_light")):
        line = on_screen(view, np.vstack([ellipse.outline(72), ellipse.outline(1)]))
        draw.cased_path(p, line, 1.0, tone)
    for kind, _, at in handles_of(eye):
        place = view.at(at)
        x, y = place.x(), place.y()
        on = kind == held
        if kind == "light":
            draw.circle(p, x, y, 7, "", "over_dark", 3.2)
            draw.circle(p, x, y, 7, "", "russet", 1.6)
        elif kind in {"inner", "outer"}:
            continue
        elif kind == "middle":
            draw.circle(p, x, y, 3, "over_dark", "over_light", 1)
        else:
            r = 4.2 if on else 3.2 if kind in {"iris", "pupil"} else 2.6
            draw.circle(p, x, y, r + 1.2, "over_dark")
            draw.circle(p, x, y, r, "russet" if on else "over_light")


def dragged(eye: Eye, handle: Handle, to: tuple[float, float]) -> Eye:
    """Return an eye after one of its handles was dragged to a place, reference pixels."""
    kind, index, start = handle
    place = (round(to[0], 2), round(to[1], 2))
    if kind == "light":
        lights = tuple(place if k == index else at for k, at in enumerate(eye.lights))
        return replace(eye, lights=lights)
    if kind in {"iris", "pupil"}:
        ellipse = eye.iris if kind == "iris" else eye.pupil
        away = max(math.dist(to, ellipse.centre), 1.0)
        rx, ry = (away, ellipse.ry) if index % 2 == 0 else (ellipse.rx, away)
        made = replace(ellipse, rx=rx, ry=ry)
        return replace(eye, iris=made) if kind == "iris" else replace(eye, pupil=made)
    if kind == "middle":
        dx, dy = to[0] - start[0], to[1] - start[1]

        def moved(one: Ellipse) -> Ellipse:
            return replace(one, cx=one.cx + dx, cy=one.cy + dy)

        return replace(eye, iris=moved(eye.iris), pupil=moved(eye.pupil))
    if kind in {"inner", "outer"}:
        old = getattr(eye, kind)
        changes: dict[str, object] = {kind: place}
        for lid in ("upper", "lower"):
            points = getattr(eye, lid)
            if points:
                # A lid's end goes with its corner.
                end = 0 if math.dist(points[0], old) < math.dist(points[-1], old) else len(points) - 1
                changes[lid] = tuple(place if k == end else at for k, at in enumerate(points))
        return replace(eye, **changes)  # type: ignore[arg-type]
    points = tuple(place if k == index else at for k, at in enumerate(getattr(eye, kind)))
    return replace(eye, upper=points) if kind == "upper" else replace(eye, lower=points)


def paint_ghost(p: QPainter, view: Viewport, ghost: Points, own: Points, words: str) -> None:
    """Draw a part's outline and, dashed in russet, where its twin would have it; the difference in words."""
    draw.cased_path(p, on_screen(view, np.vstack([own, own[:1]])), 1.2)
    draw.cased_path(p, on_screen(view, np.vstack([ghost, ghost[:1]])), 1.6, "russet", (7, 4))
    x, y = view.to_screen(own.mean(axis=0)[None])[0]
    low = view.to_screen(own)[:, 1].max()
    draw.over_words(p, float(x), float(min(low + 22, y + 160)), words, "c", 13, view.room)


def near(view: Viewport, place: tuple[float, float], at: tuple[float, float], px: float) -> bool:
    """Tell whether two reference pixels lie within so many pixels of the screen."""
    a, b = view.at(place), view.at(at)
    return math.hypot(a.x() - b.x(), a.y() - b.y()) <= px


def cross_at(p: QPainter, at: QPointF) -> None:
    """Draw a click on a rim."""
    draw.circle(p, at.x(), at.y(), 4.4, "over_dark")
    draw.circle(p, at.x(), at.y(), 3.2, "russet")
