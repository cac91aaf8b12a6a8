"""Whether eyes stand where they should: each check a number in mm on the canvas, with lines to draw over the picture."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.eyes.eye import Eye, Place
from foxpath.core.findings import Finding
from foxpath.core.reference.transfer import Axes
from foxpath.core.units import mm_words, percent

Level = Literal["must", "look", "note"]
Line = tuple[Place, Place]

LEAST_MM = 0.3
"""What a brush cannot correct is no fault, whatever the share."""
OFF_SHARE = 0.05
"""A displacement of this share of the iris's width is seen by everyone."""
ROUND_ENOUGH = 0.93
"""An iris less round than this (shorter over longer axis) is an oval to the eye."""


def eye_check(
    key: str,
    name: str,
    level: Level,
    says: str,
    why: str,
    mm: float,
    subject: str,
    at: Place,
    label: str = "",
    lines: tuple[Line, ...] = (),
) -> Finding:
    """Return a check of an eye, of the pair (no `subject`), or of a feature: what the Eyes stop finds."""
    return Finding(level, says, why, "eyes", subject, key, name, mm=mm, at=at, label=label, lines=lines)


@dataclass(frozen=True, slots=True)
class HeadFrame:
    """The head's own frame.

    Attributes
    ----------
    origin : (x, y)
        Where midline and eye line cross, reference pixels.
    tilt_deg : float
        Of the eye line, clockwise.
    ratio : float
        Widths right of the midline over those left of it: 1 seen from the front, less or more on a turned head.
    source : str
        What it was read from: "axes", "corners" or "irises".
    """

    origin: Place
    tilt_deg: float
    ratio: float
    source: str

    def axes(self) -> tuple[F64, F64]:
        """Return the unit vectors along the eye line (to the right) and down the midline."""
        a = math.radians(self.tilt_deg)
        return np.array([math.cos(a), math.sin(a)]), np.array([-math.sin(a), math.cos(a)])

    def local(self, points: F64) -> F64:
        """Return (N, 2): right of the midline, below the eye line, pixels."""
        u, v = self.axes()
        d = np.asarray(points, np.float64).reshape(-1, 2) - self.origin
        return np.stack([d @ u, d @ v], axis=1)

    def place(self, local: F64) -> F64:
        """Return (N, 2) reference pixels of places in the frame."""
        u, v = self.axes()
        local = np.asarray(local, np.float64).reshape(-1, 2)
        return np.asarray(local[:, :1] * u + local[:, 1:] * v + self.origin)

    def mirrored(self, points: F64) -> F64:
        """Return where points would stand on the other side, allowing for the head's turn, (N, 2) reference pixels."""
        at = self.local(points)
        # What lies left becomes wider by the ratio on the right, and the other way round.
        at[:, 0] *= np.where(at[:, 0] < 0, -self.ratio, -1 / self.ratio)
        return self.place(at)


def pair_of(eyes: Sequence[Eye]) -> tuple[Eye, Eye] | None:
    """Return two eyes, left and right in the picture; None unless there are exactly two."""
    if len(eyes) != 2:
        return None
    a, b = sorted(eyes, key=lambda eye: eye.iris.cx)
    return a, b


def head_frame(eyes: Sequence[Eye], axes: Axes | None) -> HeadFrame | None:
    """Return the head's frame: as the painter set it, else through the inner corners, else through the irises.

    The turn's ratio is that of the eyes' widths. None without two eyes.
    """
    pair = pair_of(eyes)
    if pair is None:
        return None
    a, b = pair
    wide = (a.width, b.width) if a.corners and b.corners else (_across(a), _across(b))
    ratio = float(np.clip(wide[1] / max(wide[0], 1e-6), 0.4, 2.5))
    if axes is not None:
        left, right = np.array(axes.left), np.array(axes.right)
        u = (right - left) / max(float(np.hypot(*(right - left))), 1e-9)
        foot = left + u * float((np.array(axes.middle) - left) @ u)
        tilt = math.degrees(math.atan2(u[1], u[0]))
        return HeadFrame((float(foot[0]), float(foot[1])), tilt, ratio, "axes")
    if a.inner is not None and b.inner is not None:
        p, q, source = a.inner, b.inner, "corners"
    else:
        p, q, source = a.iris.centre, b.iris.centre, "irises"
    tilt = math.degrees(math.atan2(q[1] - p[1], q[0] - p[0]))
    return HeadFrame(((p[0] + q[0]) / 2, (p[1] + q[1]) / 2), tilt, ratio, source)


def _across(eye: Eye) -> float:
    return eye.iris.width_along(0.0)


def check_eyes(
    eyes: Sequence[Eye], mm_per_px: float, axes: Axes | None = None, nose: Place | None = None
) -> list[Finding]:
    """Check single eyes and, where there are two, the pair.

    Parameters
    ----------
    eyes : sequence of Eye
    mm_per_px : float
        Millimetres on the canvas for a reference pixel.
    axes : Axes or None
        Eye line and midline as the painter set them.
    nose : (x, y) or None
        Middle of the nose, reference pixels.
    """
    frame = head_frame(eyes, axes)
    found = [check for eye in eyes for check in _single(eye, mm_per_px, frame)]
    pair = pair_of(eyes)
    if pair is not None and frame is not None:
        found += _pair(*pair, frame, mm_per_px, nose)
    return found


def _low(eye: Eye) -> str:
    return eye.name.lower()


def _seen(mm: float, eye: Eye, mm_per_px: float) -> bool:
    """Tell whether a displacement is worth a finding: more than a brush's error, and a share of the iris."""
    return mm > max(LEAST_MM, OFF_SHARE * 2 * eye.iris.radius * mm_per_px)


def _single(eye: Eye, k: float, frame: HeadFrame | None) -> list[Finding]:
    iris = eye.iris
    long, short = max(iris.rx, iris.ry), min(iris.rx, iris.ry)
    ratio, off = iris.ratio, 2 * (long - short) * k
    tilt = frame.tilt_deg if frame is not None else 0.0
    narrow = iris.deg + (90 if iris.rx >= iris.ry else 0)
    # A turned head narrows the iris along the eye line; an oval the other way is a drift.
    along = abs(math.cos(math.radians(narrow - tilt)))
    turned = math.degrees(math.acos(min(ratio, 1.0)))
    circle = f"from a circle {mm_words(2 * long * k)} across"
    level: Level = "note"
    says = f"{eye.name}: the iris is round."
    do = "keep it round, let the lids cut it"
    if ratio < ROUND_ENOUGH and off > LEAST_MM:
        oval = percent(1 - ratio)
        if along > 0.6:
            says, do = (
                f"{eye.name}: the iris is {oval} oval, as a turn of {turned:.0f}° makes it.",
                "keep the oval upright",
            )
        else:
            level = "look"
            says = f"{eye.name}: the iris is {oval} oval, and not by the head's turn."
            do = "draw the whole circle lightly first, then let the lids cut it"
    a, b = iris.axes()
    lines = tuple(
        ((iris.cx - float(v[0]), iris.cy - float(v[1])), (iris.cx + float(v[0]), iris.cy + float(v[1]))) for v in (a, b)
    )
    found = [
        eye_check(
            "round", "Roundness", level, says,
            f"{mm_words(2 * iris.rx * k)} by {mm_words(2 * iris.ry * k)}, {circle} · an iris is a circle, seen head-on: {do}",
            off, eye.id, iris.centre, f"{percent(1 - ratio)} oval" if ratio < 0.985 else "round", lines,
        )
    ]  # fmt: skip
    if eye.inner is not None and eye.outer is not None:
        found.append(_slant(eye, eye.inner, eye.outer, k, tilt))
    pupil = eye.pupil
    away = math.dist(pupil.centre, iris.centre) * k
    if away > 0.12 * iris.radius * k and away > LEAST_MM:
        found.append(
            eye_check(
                "middle", "Pupil in the middle", "look", f"{eye.name}: the pupil stands {mm_words(away)} off the iris's middle.",
                f"{percent(away / (iris.radius * k))} of the radius · pupil and iris share their middle: shift the pupil",
                away, eye.id, pupil.centre, f"{mm_words(away)} off", ((iris.centre, pupil.centre),),
            )
        )  # fmt: skip
    return found


def _slant(eye: Eye, inner: Place, outer: Place, k: float, tilt_deg: float) -> Finding:
    """Check that the inner corner stands lower than the outer one, in the head's tilt: so it does in most animals."""
    a = math.radians(tilt_deg)
    drop = ((inner[0] - outer[0]) * -math.sin(a) + (inner[1] - outer[1]) * math.cos(a)) * k
    seen = -drop > max(LEAST_MM, OFF_SHARE * 2 * eye.iris.radius * k)
    says = (
        f"{eye.name}: the inner corner stands {mm_words(-drop)} above the outer one."
        if seen
        else f"{eye.name}: the inner corner lies lower than the outer, by {mm_words(max(drop, 0.0))}."
    )
    do = "lower it, or look again which corner is which" if seen else "keep it"
    return eye_check(
        "slant", "Inner corner lower", "look" if seen else "note", says,
        f"{mm_words(abs(drop))} in the head's tilt of {abs(tilt_deg):.1f}° · the tear corner lies low: {do}",
        abs(drop), eye.id, inner, f"{mm_words(abs(drop))}", ((inner, outer),),
    )  # fmt: skip


def _pair(a: Eye, b: Eye, frame: HeadFrame, k: float, nose: Place | None) -> list[Finding]:
    u, v = frame.axes()
    found: list[Finding] = []
    middle = ((a.iris.cx + b.iris.cx) / 2, (a.iris.cy + b.iris.cy) / 2)
    far, near = (a, b) if a.width < b.width else (b, a)
    span = float(np.hypot(b.iris.cx - a.iris.cx, b.iris.cy - a.iris.cy))
    reach = 0.75 * span
    ends = [tuple(float(c) for c in np.array(frame.origin) + side * reach * u) for side in (-1, 1)]
    line: Line = ((ends[0][0], ends[0][1]), (ends[1][0], ends[1][1]))
    heights = [float((np.array(eye.iris.centre) - frame.origin) @ v) for eye in (a, b)]
    drop = (heights[1] - heights[0]) * k
    low = b if drop > 0 else a
    if frame.source == "irises":
        says, do = (
            f"The eye line tilts by {abs(frame.tilt_deg):.1f}°.",
            "mark the inner corners: then heights are checked too",
        )
        seen: Level = "note"
    else:
        seen = "look" if _seen(abs(drop), low, k) else "note"
        says = (
            f"The {_low(low)} is {mm_words(abs(drop))} low."
            if seen == "look"
            else f"Both eyes stand on the eye line, {abs(frame.tilt_deg):.1f}°."
        )
        do = f"lift it {mm_words(abs(drop))}, square to the eye line" if seen == "look" else "keep it"
    found.append(
        eye_check(
            "line", "On the eye line", seen, says,
            f"{mm_words(abs(drop))} apart in the head's tilt of {abs(frame.tilt_deg):.1f}° · both irises at one height: {do}",
            abs(drop), low.id if seen == "look" else "", low.iris.centre if seen == "look" else middle,
            f"eye line {abs(frame.tilt_deg):.1f}°", (line,),
        )
    )  # fmt: skip
    tall = {eye.id: eye.iris.width_along(frame.tilt_deg + 90) * k for eye in (near, far)}
    grown = tall[far.id] - tall[near.id]
    view = min(frame.ratio, 1 / frame.ratio)
    larger = grown > max(LEAST_MM, 0.04 * tall[near.id])
    smaller = tall[far.id] < 0.86 * tall[near.id] and -grown > LEAST_MM
    found.append(
        eye_check(
            "size", "Equal size", "look" if larger or smaller else "note",
            f"The {_low(far)}'s iris is {mm_words(abs(grown))} {'taller' if grown > 0 else 'lower'} than the {_low(near)}'s."
            if larger or smaller
            else "Both irises are of one size.",
            f"{mm_words(tall[near.id])} and {mm_words(tall[far.id])} tall; the far eye is {percent(view)} as wide · a turn narrows the far "
            f"eye, it hardly lowers it: {'bring both to one height' if larger or smaller else 'keep it'}",
            abs(grown), far.id, far.iris.centre, f"{percent(view)} as wide",
        )
    )  # fmt: skip
    found += _corners(a, b, frame, k)
    found += _midline(a, b, frame, k, nose)
    found += _gazes(a, b, frame, k)
    found += _pupils(a, b, frame, k)
    return found


def _corners(a: Eye, b: Eye, frame: HeadFrame, k: float) -> list[Finding]:
    if a.inner is None or a.outer is None or b.inner is None or b.outer is None:
        return []
    gap = math.dist(a.inner, b.inner)
    width = (a.width + b.width) / 2
    middle = ((a.inner[0] + b.inner[0]) / 2, (a.inner[1] + b.inner[1]) / 2)
    found = [
        eye_check(
            "between", "Distance between", "note", f"The eyes stand {gap / width:.2f} eye widths apart.",
            f"{mm_words(gap * k)} between the inner corners, an eye is {mm_words(width * k)} wide · measure it again on the canvas",
            gap * k, "", middle, f"{gap / width:.1f} eye widths", ((a.inner, b.inner),),
        )
    ]  # fmt: skip
    # Heights, not angles: the turn that narrows the far eye steepens its slant.
    rises = []
    for eye in (a, b):
        inner, outer = frame.local(np.array([eye.inner, eye.outer]))
        rises.append(float(inner[1] - outer[1]) * k)
    off = abs(rises[0] - rises[1])
    flat = a if rises[0] < rises[1] else b
    seen = _seen(off, flat, k)
    found.append(
        eye_check(
            "corners", "Corners", "look" if seen else "note",
            f"The {_low(flat)}'s outer corner is {mm_words(off)} low." if seen else "Both eyes slant alike.",
            f"outer over inner corner by {_signed(rises[0])} and {_signed(rises[1])} · both rise alike in the head's frame: "
            f"{'lift that corner' if seen else 'keep it'}",
            off, flat.id if seen else "", flat.outer or flat.iris.centre,
            f"{_signed(rises[0])} / {_signed(rises[1])}", ((a.inner, a.outer), (b.inner, b.outer)),
        )
    )  # fmt: skip
    return found


def _signed(mm: float) -> str:
    return mm_words(mm) if mm >= 0 else f"−{mm_words(-mm)}"


def _midline(a: Eye, b: Eye, frame: HeadFrame, k: float, nose: Place | None) -> list[Finding]:
    found = []
    across = frame.local(np.array([a.inner or a.iris.centre, b.inner or b.iris.centre]))[:, 0]
    left, right = -float(across[0]) * k, float(across[1]) * k
    _, v = frame.axes()
    reach = 0.5 * math.dist(a.iris.centre, b.iris.centre)
    foot = np.array(frame.origin)
    ends = (foot - 0.55 * reach * v, foot + 1.5 * reach * v)
    line: Line = ((float(ends[0][0]), float(ends[0][1])), (float(ends[1][0]), float(ends[1][1])))
    if frame.source == "axes":
        wanted = left * frame.ratio
        off = abs(right - wanted)
        seen = _seen(off, b, k)
        found.append(
            eye_check(
                "midline", "From the midline", "look" if seen else "note",
                f"The {_low(b)} stands {mm_words(off)} too {'far from' if right > wanted else 'near'} the midline."
                if seen
                else "Both eyes stand evenly about the midline.",
                f"{mm_words(left)} left and {mm_words(right)} right of it, at a turn of {frame.ratio:.2f} to 1 · the turn narrows "
                f"both sides alike: {'shift the eye or the midline' if seen else 'keep it'}",
                off, b.id if seen else "", b.iris.centre, "midline", (line,),
            )
        )  # fmt: skip
    if nose is not None:
        ways = [math.dist(eye.inner or eye.iris.centre, nose) * k for eye in (a, b)]
        aside = abs(float(frame.local(np.array([nose]))[0, 0])) * k
        found.append(
            eye_check(
                "nose", "To the nose", "note",
                f"The nose is {mm_words(ways[0])} from the {_low(a)}, {mm_words(ways[1])} from the {_low(b)}.",
                f"{mm_words(aside)} beside the midline between the eyes · a muzzle comes toward you: the more the head turns, the "
                "farther the nose stands aside; measure both ways on the canvas",
                abs(ways[0] - ways[1]), "", nose, f"{mm_words(aside)} aside",
                ((a.inner or a.iris.centre, nose), (b.inner or b.iris.centre, nose), line),
            )
        )  # fmt: skip
    return found


def gaze_of(eye: Eye, frame: HeadFrame | None) -> F64 | None:
    """Return where an eye looks: the iris's middle between the corners, (right, down) in half eye widths; None without corners."""
    if eye.inner is None or eye.outer is None:
        return None
    a = math.radians(frame.tilt_deg if frame is not None else 0.0)
    u, v = np.array([math.cos(a), math.sin(a)]), np.array([-math.sin(a), math.cos(a)])
    middle = (np.array(eye.inner) + eye.outer) / 2
    d = (np.array(eye.iris.centre) - middle) / (eye.width / 2)
    return np.array([float(d @ u), float(d @ v)])


def _gazes(a: Eye, b: Eye, frame: HeadFrame, k: float) -> list[Finding]:
    first, second = gaze_of(a, frame), gaze_of(b, frame)
    if first is None or second is None:
        return []
    width = (a.width + b.width) / 4 * k
    off = float(np.hypot(*(first - second))) * width
    # Turned inward or outward by a little, both still look at one near thing.
    seen = off > max(3 * LEAST_MM, 0.3 * width)

    def way(g: F64) -> str:
        side = "right" if g[0] > 0.08 else "left" if g[0] < -0.08 else "ahead"
        return side + (" and up" if g[1] < -0.12 else " and down" if g[1] > 0.12 else "")

    lines: list[Line] = []
    u, v = frame.axes()
    for eye, g in ((a, first), (b, second)):
        tip = np.array(eye.iris.centre) + (g[0] * u + g[1] * v) * eye.width * 0.7
        lines.append((eye.iris.centre, (float(tip[0]), float(tip[1]))))
    return [
        eye_check(
            "gaze", "Gaze", "look" if seen else "note",
            f"The eyes look apart: {way(first)}, and {way(second)}." if seen else f"Both eyes look {way((first + second) / 2)}.",
            f"{mm_words(off)} between the two, each measured from the middle of its corners · both irises shift alike: "
            f"{'shift one of them' if seen else 'keep it'}",
            off, "", b.iris.centre, way((first + second) / 2), tuple(lines),
        )
    ]  # fmt: skip


def _pupils(a: Eye, b: Eye, frame: HeadFrame, k: float) -> list[Finding]:
    def size(eye: Eye) -> tuple[float, float]:
        r = max(eye.iris.rx, eye.iris.ry)
        return eye.pupil.width_along(frame.tilt_deg) / 2 / r, eye.pupil.width_along(frame.tilt_deg + 90) / 2 / r

    (aw, ah), (bw, bh) = size(a), size(b)
    r = (a.iris.radius + b.iris.radius) * k
    # Of a pupil's width the turn takes its share; its height stays.
    off = max(abs(ah - bh), abs(aw - bw) * 0.7) * r
    alike = a.pupil_kind == b.pupil_kind and not (off > max(LEAST_MM, 0.16 * r))
    return [
        eye_check(
            "pupils", "Pupils alike", "note" if alike else "look",
            "The pupils are alike." if alike else f"The pupils differ by {mm_words(off)}.",
            f"{mm_words(2 * aw * a.iris.radius * k)} by {mm_words(2 * ah * a.iris.radius * k)}, and "
            f"{mm_words(2 * bw * b.iris.radius * k)} by {mm_words(2 * bh * b.iris.radius * k)} · in one light both open alike: "
            f"{'keep it' if alike else 'bring both to one size'}",
            off, "", b.pupil.centre, "",
        )
    ]  # fmt: skip
