"""Many eyes on one sheet, at the size they have on the canvas, to be painted beside the reference, then measured."""

import zlib
from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.errors import AppError
from foxpath.core.eyes.eye import clock, hours_apart
from foxpath.core.practice.paper.hand import painted
from foxpath.core.practice.paper.page import (
    READ_PX_PER_MM,
    SEED_BITS,
    Flat,
    Measured,
    Note,
    Paper,
    PaperDrill,
    Picture,
    Printed,
    Shape,
    frame,
)
from foxpath.core.practice.scene import Scene, SceneEye
from foxpath.core.units import mm_words

TOP_MM, SIDE_MM, FOOT_MM = 38.0, 16.0, 30.0
LEAST_MM, MOST_MM = 3.0, 30.0
"""Half axes of an iris that can be painted and measured on a sheet."""
NEAR_MM = 0.7
EYE_BITS: int = 6
"""Of a sheet's number, for which eyes it has."""
CELL_RADII, SHOWN_RADII, GAP_MM = 2.0, 1.5, 8.0
"""Half sides of the box to paint in and of the reference beside it, in radii of the largest iris; and what lies between boxes."""
HOURS_NEAR = 1.0
GLINT_L = 22.0
"""A catchlight is so much lighter than the iris, L*."""


@dataclass(frozen=True, slots=True)
class EyeTarget:
    """An eye to paint: the middle of its place, half axes, mm, the hour of its catchlight (None for none), its box, and which eye it is."""

    number: int
    middle: tuple[float, float]
    rx: float
    ry: float
    hour: float | None
    cell: tuple[float, float, float, float]
    eye: int


def fit_eyes(scene: Scene | None) -> tuple[SceneEye, ...]:
    """Return the eyes of a scene that can be painted on a sheet."""
    if scene is None:
        return ()
    return tuple(
        e for e in scene.eyes if min(e.rx, e.ry) / scene.px_per_mm > LEAST_MM and e.radius / scene.px_per_mm < MOST_MM
    )


def which_eyes(scene: Scene | None) -> int:
    """Return a number of few bits that differs where the eyes do."""
    eyes = fit_eyes(scene)
    if scene is None or not eyes:
        return 0
    said = ";".join(f"{e.rx / scene.px_per_mm:.1f} {e.ry / scene.px_per_mm:.1f} {e.light_hour:.0f}" for e in eyes)
    return int(zlib.crc32(said.encode()) % 2**EYE_BITS)


def eye_targets(paper: Paper, scene: Scene | None) -> tuple[EyeTarget, ...]:
    """Return the eyes of a sheet; none without an eye in the scene."""
    eyes = fit_eyes(scene)
    if scene is None or not eyes:
        return ()
    rng = np.random.default_rng([paper.seed, 11])
    largest = max(e.radius for e in eyes) / scene.px_per_mm
    side = 2 * CELL_RADII * largest
    columns = max(1, int((paper.width - 2 * SIDE_MM) / (side + 2 * SHOWN_RADII * largest + GAP_MM)))
    rows = max(1, int((paper.height - TOP_MM - FOOT_MM) / (side + GAP_MM)))
    wide, tall = (paper.width - 2 * SIDE_MM) / columns, (paper.height - TOP_MM - FOOT_MM) / rows
    made = []
    for k in range(min(rows * columns, 24)):
        left, top = SIDE_MM + (k % columns) * wide, TOP_MM + (k // columns) * tall
        number = int(rng.integers(len(eyes)))
        eye = eyes[number]
        hour = clock((eye.x, eye.y), eye.light) if eye.light is not None else None
        rx, ry = eye.rx / scene.px_per_mm, eye.ry / scene.px_per_mm
        half = side / 2
        middle = (left + wide - GAP_MM / 2 - half, top + half + 1)
        made.append(
            EyeTarget(k + 1, middle, rx, ry, hour, (middle[0] - half, middle[1] - half, 2 * half, 2 * half), number)
        )
    return tuple(made)


class EyesOnPaper(PaperDrill):
    """How far place, width and height of a painted iris lie from the reference's, mm."""

    key, title, unit, way = "eyes", "a sheet of eyes", "mm", "near"
    range, usual = (0.05, 10.0), 1.0
    count, minutes = 8, 8
    needs = frozenset({"eyes"})
    mends = ("place", "shape", "catchlight")
    lacks = "Mark an eye at Eyes, or practise on a demo."

    def number(self, seed: int, scene: Scene | None) -> int:
        # Which eyes they are is part of the number: measured against others it would all be wrong.
        return int((seed % 2 ** (SEED_BITS - EYE_BITS)) << EYE_BITS | which_eyes(scene))

    def printed(self, paper: Paper, scene: Scene | None) -> Printed:
        shapes: list[Shape] = [*frame(paper)]
        notes = [
            Note((SIDE_MM, 24), "A sheet of eyes", 14),
            Note(
                (SIDE_MM, 30),
                "Paint iris, pupil and catchlight beside the reference, as large as it is, in the middle between the four ticks. No lids.",
            ),
            Note(
                (SIDE_MM, paper.height - 20),
                f"Sheet {paper.seed}. Print at 100 %, paint, photograph it whole from above.",
            ),
        ]
        pictures = []
        eyes = fit_eyes(scene)
        for one in eye_targets(paper, scene):
            assert scene is not None
            x, y, wide, tall = one.cell
            mx, my = one.middle
            for a, b in (
                ((mx, y), (mx, y + 1.6)),
                ((mx, y + tall - 1.6), (mx, y + tall)),
                ((x, my), (x + 1.6, my)),
                ((x + wide - 1.6, my), (x + wide, my)),
            ):
                shapes.append(Shape((a, b), 0.55, 0.2))
            eye = eyes[one.eye]
            half = SHOWN_RADII * eye.radius
            x0, y0 = max(0, round(eye.x - half)), max(0, round(eye.y - half))
            cut = np.ascontiguousarray(scene.rgb[y0 : round(eye.y + half), x0 : round(eye.x + half)])
            if min(cut.shape[:2]) > 4:
                w, h = cut.shape[1] / scene.px_per_mm, cut.shape[0] / scene.px_per_mm
                pictures.append(Picture(cut, (x - w - 3, my - h / 2, w, h)))
            notes.append(Note((x, y + tall + 3.4), f"{one.number}   {eye.name}, {mm_words(2 * one.rx)} wide", 7))
        return Printed(paper, tuple(shapes), tuple(notes), tuple(pictures))

    def measured(self, flat: Flat, scene: Scene | None) -> tuple[Measured, ...]:
        if flat.paper.seed % 2**EYE_BITS != which_eyes(scene):
            raise AppError("This sheet has the eyes of another picture.", "Choose that picture under “Made from”.")
        made = []
        for one in eye_targets(flat.paper, scene):
            found = read_eye(flat.cut(*one.cell))
            if found is not None:
                made.append(judged(one, found))
        return tuple(made)


@dataclass(frozen=True, slots=True)
class PaintedEye:
    """A painted eye in its box, mm from its middle: its own middle, half axes, and the hour of its catchlight."""

    x: float
    y: float
    rx: float
    ry: float
    hour: float | None


def read_eye(lab: F32) -> PaintedEye | None:
    """Return the eye that was painted in a box, or None where nothing was."""
    k = READ_PX_PER_MM
    h, w = lab.shape[:2]
    # The ticks at the rim are none of it.
    rim = round(2.2 * k)
    mask = np.zeros((h, w), np.uint8)
    mask[rim:-rim, rim:-rim] = painted(lab)[rim:-rim, rim:-rim]
    clean = cv2.morphologyEx(mask, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    outlines, _ = cv2.findContours(clean, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    outline = max(outlines, key=cv2.contourArea, default=None)
    if outline is None or cv2.contourArea(outline) < (1.5 * k) ** 2:
        return None
    whole = np.zeros((h, w), np.uint8)
    cv2.drawContours(whole, [outline], -1, 1, -1)
    ys, xs = np.nonzero(whole)
    cx, cy = float(xs.mean()) + 0.5, float(ys.mean()) + 0.5
    # Half axes of the ellipse with the same spread: what sticks out of the rim counts little.
    rx, ry = 2 * float(xs.std()), 2 * float(ys.std())
    light = np.where(whole > 0, lab[..., 0], -1.0)
    spot = (light > float(np.median(lab[..., 0][whole > 0])) + GLINT_L).astype(np.uint8)
    inner = np.hypot((np.arange(w)[None] - cx) / max(rx, 1), (np.arange(h)[:, None] - cy) / max(ry, 1)) < 0.92
    count, _, stats, middles = cv2.connectedComponentsWithStats(spot & inner.astype(np.uint8))
    hour = None
    if count > 1:
        best = 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
        if stats[best, cv2.CC_STAT_AREA] > 4:
            hour = clock((cx, cy), (float(middles[best][0]) + 0.5, float(middles[best][1]) + 0.5))
    return PaintedEye((cx - w / 2) / k, (cy - h / 2) / k, rx / k, ry / k, hour)


def judged(target: EyeTarget, found: PaintedEye) -> Measured:
    """Judge a painted eye against its reference."""
    off = float(np.hypot(found.x, found.y))
    wide, tall = 2 * (found.rx - target.rx), 2 * (found.ry - target.ry)
    error = max(off, abs(wide), abs(tall))
    said = []
    if off > 0.5:
        side = "right" if found.x > 0 else "left"
        down = "low" if found.y > 0 else "high"
        said.append(
            f"{mm_words(abs(found.x))} too far {side}"
            if abs(found.x) > abs(found.y)
            else f"{mm_words(abs(found.y))} too {down}"
        )
    if abs(wide) > 0.5 and abs(tall) > 0.5 and (wide > 0) == (tall > 0):
        said.append(f"{mm_words((abs(wide) + abs(tall)) / 2)} too {'large' if wide > 0 else 'small'}")
    elif max(abs(wide), abs(tall)) > 0.5:
        said.append(
            f"{mm_words(abs(wide))} too {'wide' if wide > 0 else 'narrow'}"
            if abs(wide) > abs(tall)
            else f"{mm_words(abs(tall))} too {'tall' if tall > 0 else 'flat'}"
        )
    late = 0.0
    if target.hour is not None and found.hour is not None:
        late = (found.hour - target.hour + 6) % 12 - 6
        if hours_apart(found.hour, target.hour) > HOURS_NEAR:
            said.append(f"its catchlight {abs(late):.1f} h {'late' if late > 0 else 'early'}")
    elif target.hour is not None:
        said.append("no catchlight is seen")
    return Measured(
        target.number,
        error,
        error < NEAR_MM and not said,
        ", ".join(said) or "as the reference",
        target.middle,
        max(found.ry, target.ry) + 1,
    )
