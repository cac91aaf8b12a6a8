"""The marks of features: skin, nostrils, wet lights, lines, whiskers with their roots, claws."""

import math
from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.brush import POINTS
from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.curves import closed_curve, open_curve, resample
from foxpath.core.features.kinds import FEATURES, Feature, Part
from foxpath.core.features.steps import FeatureStep, Read, part_light, within
from foxpath.core.rehearsal.marks import Marks

ROOT_L = 14.0
"""The dot at a whisker's root, L*."""


def feature_marks(
    feature: Feature,
    steps: Sequence[FeatureStep],
    role: str,
    read: Read,
    band: tuple[float, float],
    origin: tuple[float, float],
    mm_per_px: float,
    seed: int,
) -> list[Marks]:
    """Return what a pass paints of a feature, in order.

    Parameters
    ----------
    feature : Feature
    steps : sequence of FeatureStep
    role : str
        Key of the pass.
    read : callable
        Returns (N, 3) CIELAB at (N, 2) reference pixels.
    band : (low, high)
        L* its paint may have.
    origin : (x, y)
        Corner of the canvas, reference pixels.
    mm_per_px : float
    seed : int
    """
    kind = FEATURES[feature.kind]
    made: list[Marks] = []
    for number, step in enumerate(steps):
        part = kind.part(step.part)
        if part is None:
            continue
        rng = np.random.default_rng([seed, number])
        for stroke in feature.of(step.part):
            line = stroke.line()
            if part.key == "claw" and role == "highlights":
                # A claw's ridge: a light line on its upper side, over the outer half.
                ridge = resample(line, POINTS)[2:]
                made.append(
                    _marks(
                        resample(ridge, POINTS)[None],
                        0.3 * step.width_mm,
                        (76.0, 0.0, 2.0),
                        0.85,
                        True,
                        band,
                        origin,
                        mm_per_px,
                    )
                )
            if role != step.role:
                continue
            made += _stroke(part, step, line, read, band, origin, mm_per_px, rng)
    return made


def _stroke(
    part: Part, step: FeatureStep, line: F64, read: Read, band: tuple[float, float], origin: tuple[float, float], k: float,
    rng: np.random.Generator,
) -> list[Marks]:  # fmt: skip
    light = part_light(part, line, read)
    wide = step.width_mm
    if part.paint == "hair":
        curve = open_curve(line, 8)
        way = (curve[1] - curve[0]) / max(float(np.hypot(*(curve[1] - curve[0]))), 1e-9)
        dot = curve[0] + np.linspace(-0.35, 0.35, POINTS)[:, None] * way * 2.2 * wide / k
        colour = (light, 0.0, 3.0 if light > 50 else 1.0)
        return [
            _marks(dot[None], 0.9 * wide, (ROOT_L, 2.0, 3.0), 0.9, False, band, origin, k),
            _marks(resample(curve, POINTS)[None], 0.5 * wide, colour, 0.92, True, band, origin, k),
        ]
    if part.closed:
        outline = closed_curve(line, 10) if len(line) > 3 else line
        lines = _filled(outline, wide / k, rng)
        if not len(lines):
            lines = resample(outline, POINTS)[None]
        seen = np.asarray(read(lines[:, POINTS // 2]), np.float64)
        if part.paint == "skin":
            seen[:, 0] += rng.normal(0, 2.0, len(seen))
            return [_marks(lines, 0.5 * wide, seen, 0.88, False, band, origin, k)]
        seen[:, 0] = light + rng.normal(0, 1.0, len(seen))
        seen[:, 1:] *= 0.4
        if part.paint == "dark":
            return [_marks(lines, 0.5 * wide, seen, 0.92, False, band, origin, k)]
        # A wet light is broken touches, the skin's grain between them.
        some = rng.random(len(lines)) < 0.55
        return [_marks(lines[some], 0.3 * wide, seen[some], 0.75, True, band, origin, k)] if some.any() else []
    curve = resample(open_curve(line, 8), 6 * POINTS)
    if part.paint == "shine":
        # Broken: a light line is never one stroke from end to end.
        pieces = [curve[s : s + 15] for s in range(0, len(curve) - 10, 9) if rng.random() < 0.85]
        lines = np.stack([resample(piece, POINTS) for piece in pieces or [curve]])
        seen = np.asarray(read(lines[:, POINTS // 2]), np.float64)
        seen[:, 0] = light + rng.normal(0, 2.0, len(seen))
        seen[:, 1:] *= 0.6
        return [_marks(lines, 0.4 * wide, seen, 0.7, True, band, origin, k)]
    seen = np.asarray(read(curve[len(curve) // 2][None]), np.float64)[0]
    return [
        _marks(
            resample(curve, POINTS)[None], 0.5 * wide, (light, 0.4 * seen[1], 0.4 * seen[2]), 0.9, True, band, origin, k
        )
    ]


def _filled(outline: F64, wide_px: float, rng: np.random.Generator) -> F64:
    """Return strokes along the longer way of an outline that fill it, (N, 8, 2)."""
    middle = outline.mean(axis=0)
    _, _, ways = np.linalg.svd(outline - middle, full_matrices=False)
    local = (outline - middle) @ ways.T
    (x0, y0), (x1, y1) = local.min(axis=0), local.max(axis=0)
    gap = max(0.55 * wide_px, 0.6)
    long = min(max(3.0 * wide_px, 2.0), max(x1 - x0, 1.0))
    rows = max(1, math.ceil((y1 - y0) / gap))
    columns = max(1, math.ceil((x1 - x0) / (0.6 * long)))
    gx, gy = np.meshgrid(
        x0 + (np.arange(columns) + 0.5) * (x1 - x0) / columns, y0 + (np.arange(rows) + 0.5) * (y1 - y0) / rows
    )
    at = np.stack([gx.ravel(), gy.ravel()], axis=1) + rng.uniform(-0.25, 0.25, (gx.size, 2)) * (0.5 * long, gap)
    lines = at[:, None] + np.linspace(-0.5, 0.5, POINTS)[None, :, None] * np.array([long, 0.0])
    world = lines @ ways + middle
    keep = within(outline, world[:, (1, 4, 6)].reshape(-1, 2)).reshape(-1, 3).all(axis=1)
    return np.asarray(world[keep])


def _marks(
    lines: F64, half_mm: float, lab: F64 | tuple[float, float, float], alpha: float, hair: bool,  # noqa: FBT001  (a plain fact of a mark)
    band: tuple[float, float], origin: tuple[float, float], k: float,
) -> Marks:  # fmt: skip
    mm = ((np.asarray(lines) - np.array(origin)) * k).astype(np.float32)
    step = np.diff(mm, axis=1)
    colours = np.array(np.broadcast_to(np.asarray(lab, np.float64), (len(mm), 3)), np.float32)
    colours[:, 0] = np.clip(colours[:, 0], *band)
    rgb = rgb_from_linear(np.clip(linear_from_lab(colours), 0, 1))
    return Marks(
        mm, np.hypot(step[..., 0], step[..., 1]).sum(axis=1).astype(np.float32), np.full(len(mm), half_mm, np.float32), rgb,
        np.full(len(mm), alpha, np.float32), np.ascontiguousarray(colours[:, 0]), hair,
    )  # fmt: skip
