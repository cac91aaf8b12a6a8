"""The marks of an eye's steps, laid by the same brush as everything else, and its picture at each step."""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F64, Bool, Lab, Points, Rgb8
from foxpath.core.brush import POINTS
from foxpath.core.colour import lab_from_rgb8, linear_from_lab, rgb_from_linear
from foxpath.core.curves import line_length, resample
from foxpath.core.eyes.eye import Ellipse, Eye, angle_of_hour
from foxpath.core.eyes.lights import Lights
from foxpath.core.eyes.steps import EyeStep
from foxpath.core.eyes.values import EyeValues
from foxpath.core.rehearsal.marks import GROUND_LAB, Marks
from foxpath.core.rehearsal.stage import lay

SKY_LAB = (70.0, -2.0, -10.0)
"""The sky's colour where the painter wants it and the photograph shows none."""
WARMER = (2.0, 4.0)
"""By how much a lid's shadow is redder and yellower than the iris: it deepens and warms, it does not grey."""
SOFT_EDGE = 0.06
"""Breadth of a pupil's soft edge over its shorter half axis."""
SECOND = 0.5
"""Width of a second glint over the first's."""
ROOM = 1.9
"""Half the side of an eye's picture, in radii of the iris (more where the lids open wider)."""

Read = Callable[[Points], Lab]


@dataclass(frozen=True, slots=True, eq=False)
class EyePlan:
    """Everything an eye's marks follow from.

    Attributes
    ----------
    eye : Eye
    values : EyeValues
    lights : Lights
    steps : tuple of EyeStep
    origin : (x, y)
        Corner of the canvas, reference pixels.
    mm_per_px : float
    read : callable
        Returns (N, 3) CIELAB of the reference at (N, 2) reference pixels.
    seed : int
    sky : (3,) float32 or None
        CIELAB of the sky's reflection, as far as the photograph shows one.
    ringed : bool
        Whether the lids are a ring of skin.
    """

    eye: Eye
    values: EyeValues
    lights: Lights
    steps: tuple[EyeStep, ...]
    origin: tuple[float, float]
    mm_per_px: float
    read: Read
    seed: int = 1
    sky: Lab | None = None
    ringed: bool = False

    def step(self, key: str) -> EyeStep:
        """Return a step by its key."""
        return next(step for step in self.steps if step.key == key)


def step_marks(plan: EyePlan, step: EyeStep, ceiling: float = 100.0, floor: float = 0.0) -> list[Marks]:
    """Return the marks of one step, in the order they are laid; none when it is left out.

    Parameters
    ----------
    plan : EyePlan
    step : EyeStep
    ceiling, floor : float
        L* its paint keeps within, as its pass says.
    """
    if not step.painted:
        return []
    rng = np.random.default_rng([plan.seed, sum(step.key.encode())])
    made = {
        "rim": _rim, "base": _base, "shadow": _shadow, "ring": _ring, "texture": _texture, "soften": _soften, "sky": _sky,
        "catchlight": _catchlight, "wet": _wet, "lashes": _skin_ring if plan.ringed else _lashes,
    }[step.key](plan, step, rng)  # fmt: skip
    return [_as_marks(plan, batch, ceiling, floor) for batch in made if len(batch.lines)]


@dataclass(slots=True)
class _Batch:
    """Strokes alike: (N, 8, 2) lines in reference pixels, half widths in mm, CIELAB, opacity."""

    lines: F64
    half_mm: F64
    lab: F64
    alpha: float | F64
    hair: bool = False


def _as_marks(plan: EyePlan, batch: _Batch, ceiling: float, floor: float) -> Marks:
    lines = ((batch.lines - np.array(plan.origin)) * plan.mm_per_px).astype(np.float32)
    step = np.diff(lines, axis=1)
    length = np.hypot(step[..., 0], step[..., 1]).sum(axis=1).astype(np.float32)
    lab = np.array(np.broadcast_to(batch.lab, (len(lines), 3)), np.float32)
    lab[:, 0] = np.clip(lab[:, 0], floor, ceiling)
    half = np.array(np.broadcast_to(batch.half_mm, len(lines)), np.float32)
    alpha = np.array(np.broadcast_to(batch.alpha, len(lines)), np.float32)
    colour = np.clip(rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1)), 0, 1).astype(np.float32)
    return Marks(lines, length, half, colour, alpha, np.ascontiguousarray(lab[:, 0]), batch.hair)


def _px(plan: EyePlan, mm: float) -> float:
    return mm / plan.mm_per_px


def _free(plan: EyePlan, lines: F64, *, keep_light: bool = True) -> Bool:
    """Tell which strokes lie between the lids and, where the light is kept free, off its place."""
    ends = plan.eye.open_at(lines[:, (1, 4, 6)].reshape(-1, 2)).reshape(-1, 3).all(axis=1)
    if keep_light and plan.eye.light.way == "reserve":
        radius = 0.5 * _px(plan, plan.lights.size_mm)
        ends &= (np.hypot(*(lines - plan.lights.at).transpose(2, 0, 1)) > radius).all(axis=1)
    return np.asarray(ends)


def _arcs(plan: EyePlan, shares: F64, length_px: float, rng: np.random.Generator, *, every: float = 0.55) -> F64:
    """Return strokes round the iris at shares of its radius, (N, 8, 2), each about as long as said, overlapping."""
    made = []
    for share in shares:
        round_px = 2 * math.pi * max(share, 0.05) * plan.eye.iris.radius
        count = max(3, round(round_px / (every * length_px)))
        span = length_px / round_px * 2 * math.pi
        start = rng.uniform(0, 2 * math.pi) + 2 * math.pi * (np.arange(count) + rng.uniform(-0.2, 0.2, count)) / count
        angles = start[:, None] + np.linspace(-0.5, 0.5, POINTS)[None] * span
        made.append(plan.eye.iris.at(angles, float(share)))
    return np.concatenate(made) if made else np.zeros((0, POINTS, 2))


def _rim(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    eye = plan.eye
    half = step.width_mm / 2
    dark = np.array([step.l_low + 1.5, 2.0, 3.0])
    long = min(0.6 * eye.iris.radius, _px(plan, 8 * step.width_mm))
    rim = _arcs(plan, np.array([1.0]), long, rng, every=0.4)
    batches = [_Batch(rim[_free(plan, rim)], np.array(half), dark, 0.92)]
    return [*batches, *_lid_edges(plan, step, ("upper", "lower")), *_pupil(plan, step)]


def _lid_edges(plan: EyePlan, step: EyeStep, which: tuple[str, ...]) -> list[_Batch]:
    """Return the strokes along the lids' edges: the rim goes on all round the opening."""
    long = min(0.6 * plan.eye.iris.radius, _px(plan, 8 * step.width_mm))
    batches = []
    for name in which:
        lid = plan.eye.lid_curve(name)
        if len(lid) > 3:
            count = max(3, round(line_length(lid) / (0.5 * long)))
            line = resample(lid, 6 * count)
            pieces = np.stack([resample(line[max(0, 6 * k - 3) : 6 * k + 9], POINTS) for k in range(count)])
            thick = step.width_mm / 2 * (1.5 if name == "upper" else 0.9)
            batches.append(_Batch(pieces, np.array(thick), np.array([step.l_low + 1.5, 2.0, 3.0]), 0.92))
    return batches


def _pupil(plan: EyePlan, step: EyeStep) -> list[_Batch]:
    """Return the strokes of the pupil: filled along its length, then drawn round just inside its border."""
    pupil, kind = plan.eye.pupil, plan.eye.pupil_kind
    dark = np.array([step.l_low + 1.0, 1.0, 1.5])
    short, long = sorted((pupil.rx, pupil.ry))
    wide = min(_px(plan, step.width_mm), 0.7 * short)
    half = np.array(wide / 2 * plan.mm_per_px)
    a, b = pupil.axes()
    long_axis, short_axis = (a, b) if pupil.rx >= pupil.ry else (b, a)
    rows = max(3, math.ceil(2 * short / (0.4 * wide)))
    t = np.linspace(-1, 1, rows) * (1 - 0.5 * wide / short)
    reach = np.ones(rows) if kind == "bar" else np.sqrt(np.clip(1 - t**2, 0.02, 1))
    reach = reach * (1 - 0.45 * wide / long)
    s = np.linspace(-1, 1, POINTS)
    fill = np.array(pupil.centre) + t[:, None, None] * short_axis + (reach[:, None] * s[None])[..., None] * long_axis
    fine = 0.45 * wide
    if kind == "bar":
        u, v = (1 - 0.5 * fine / long) * long_axis, (1 - 0.5 * fine / short) * short_axis
        corners = np.array([u + v, v - u, -u - v, u - v, u + v]) + pupil.centre
        ring = np.stack([resample(corners[k : k + 2], POINTS) for k in range(4)])
    else:
        inner = Ellipse(pupil.cx, pupil.cy, pupil.rx - 0.5 * fine, pupil.ry - 0.5 * fine, pupil.deg)
        line = np.vstack([inner.outline(64), inner.outline(64)])
        ring = np.stack([resample(line[k : k + 13], POINTS) for k in range(0, 64, 6)])
    parts = ((fill, half), (ring, np.array(fine / 2 * plan.mm_per_px)))
    made = [_Batch(lines[_free(plan, lines)], thick, dark, 0.97) for lines, thick in parts]
    if kind == "bar":
        return made
    # Its edge is slightly soft: half as dark, half over the iris.
    line = np.vstack([pupil.scaled(1 + SOFT_EDGE).outline(64)] * 2)
    edge = np.stack([resample(line[k : k + 13], POINTS) for k in range(0, 64, 6)])
    between = 0.5 * dark + 0.5 * plan.values.iris.astype(np.float64)
    soft = _Batch(edge[_free(plan, edge)], np.array(SOFT_EDGE * short * plan.mm_per_px), between, 0.4)
    return [soft, *made]


def _local(plan: EyePlan, lines: F64, low: float, high: float, pull: float) -> F64:
    """Return the reference's colour under strokes, drawn toward the iris's own, within a band of L*."""
    lab = np.asarray(plan.read(lines[:, POINTS // 2]), np.float64)
    lab = lab * (1 - pull) + plan.values.iris.astype(np.float64) * pull
    lab[:, 0] = np.clip(lab[:, 0], low, high)
    return lab


def _annulus(plan: EyePlan, wide_mm: float, inner: float = 0.0, outer: float = 0.97) -> F64:
    """Return shares of the radius that cover the iris with strokes of a width."""
    step = 0.6 * _px(plan, wide_mm) / plan.eye.iris.radius
    low = max(inner, 0.08)
    return np.linspace(outer - 0.4 * step, low, max(2, math.ceil((outer - low) / step)))


def _off_pupil(plan: EyePlan, lines: F64, room_mm: float) -> Bool:
    """Tell which strokes keep off the pupil."""
    grow = 1 + 0.5 * _px(plan, room_mm) / max(min(plan.eye.pupil.rx, plan.eye.pupil.ry), 1e-6)
    return np.asarray((plan.eye.pupil.scaled(min(grow, 2.0)).share_of(lines) > 1).all(axis=1))


def _base(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    eye = plan.eye
    batches = []
    opening = eye.opening()
    width = min(step.width_mm, 0.35 * eye.iris.radius * plan.mm_per_px)
    # Broad strokes first, finer ones into what they leave: along lids and pupil.
    for share in (1.0, 0.4, 0.2):
        wide = max(share * width, plan.step("texture").width_mm)
        if len(eye.upper) and len(eye.lower):
            # What the lids leave open beside the iris: its own colour, as the reference has it.
            (x0, y0), (x1, y1) = opening.min(axis=0), opening.max(axis=0)
            gap = 0.7 * _px(plan, wide)
            gx, gy = np.meshgrid(np.arange(x0, x1, 1.5 * gap), np.arange(y0, y1, gap))
            at = np.stack([gx.ravel(), gy.ravel()], axis=1) + rng.uniform(-0.25, 0.25, (gx.size, 2)) * gap
            lines = at[:, None] + np.linspace(-1.2, 1.2, POINTS)[None, :, None] * np.array([gap, 0.0])
            lines = lines[_free(plan, lines) & (eye.iris.share_of(lines) > 1.0).all(axis=1)]
            if len(lines):
                batches.append(_Batch(lines, np.array(0.5 * wide), np.asarray(plan.read(lines[:, 3]), np.float64), 0.9))
        arcs = _arcs(plan, _annulus(plan, wide), max(1.6 * _px(plan, wide), 0.3 * eye.iris.radius * share), rng)
        arcs = arcs[_free(plan, arcs)]
        batches.append(_Batch(arcs, np.array(wide / 2), _local(plan, arcs, step.l_low, step.l_high, 0.6), 0.9))
    # The pupil and the rim's inner border are cut in again.
    rim = plan.step("rim")
    ring = _arcs(plan, np.array([1.01]), 0.5 * eye.iris.radius, rng, every=0.4)
    dark = np.array([rim.l_low + 1.5, 2.0, 3.0])
    return [*batches, *_pupil(plan, rim), _Batch(ring[_free(plan, ring)], np.array(0.3 * rim.width_mm), dark, 0.9)]


def _shadow(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    eye, r = plan.eye, plan.eye.iris.radius
    share = plan.values.shadow_share
    deep = float(np.clip(share if np.isfinite(share) and share > 0.1 else 0.33, 0.2, 0.5))
    lid = eye.lid_curve("upper")
    if len(lid) > 3:
        order = np.argsort(lid[:, 0])
        top = np.interp(np.linspace(-1, 1, 41) * r + eye.iris.cx, lid[order, 0], lid[order, 1])
    else:
        top = eye.iris.cy - r * np.sqrt(np.clip(1 - np.linspace(-1, 1, 41) ** 2, 0, 1))
    x = np.linspace(-1, 1, 41) * r + eye.iris.cx
    lowest = eye.iris.cy - r + 2 * r * deep
    reach = max(lowest - float(top[20]), 0.2 * r)
    rows = max(4, math.ceil(reach / (0.3 * _px(plan, step.width_mm))))
    lines, alpha = [], []
    lab = plan.values.iris.astype(np.float64).copy()
    lab[1:] += WARMER
    lab[0] = (step.l_low + step.l_high) / 2
    for k in range(rows):
        down = reach * k / max(rows - 1, 1)
        for start in range(k % 3, 36, 4):
            part = np.stack([x[start : start + 8], top[start : start + 8] + down], axis=1)
            lines.append(resample(part, POINTS))
            # It fades out downward: no line ends it.
            alpha.append(0.62 * (1 - 0.8 * k / rows))
    made = np.array(lines) + rng.normal(0, 1, (len(lines), 1, 2)) * (0.05 * r, 0.012 * r)
    keep = (
        _free(plan, made) & (eye.iris.share_of(made) < 0.99).all(axis=1) & _off_pupil(plan, made, 0.2 * step.width_mm)
    )
    shade = _Batch(made[keep], np.array(0.4 * step.width_mm), lab, np.array(alpha)[keep])
    # The lid's own edge, which the base may have covered, is drawn again over it.
    return [shade, *_lid_edges(plan, plan.step("rim"), ("upper",))]


def _ring(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    eye = plan.eye
    arcs = _arcs(plan, np.array([0.82, 0.74, 0.64]), 0.35 * eye.iris.radius, rng, every=0.5)
    away = angle_of_hour((plan.lights.hour + 6) % 12)
    middle = arcs[:, POINTS // 2] - eye.iris.centre
    facing = np.cos(np.arctan2(middle[:, 1], middle[:, 0]) - away)
    keep = _free(plan, arcs) & _off_pupil(plan, arcs, step.width_mm) & (facing > -0.25)
    arcs, facing = arcs[keep], facing[keep]
    lab = _local(plan, arcs, step.l_low, step.l_high, 0.5)
    lab[:, 0] = step.l_low + (step.l_high - step.l_low) * np.clip(facing, 0, 1)
    lab[:, 1:] *= 1.08
    batches = [_Batch(arcs, np.array(step.width_mm / 2), lab, 0.25 + 0.4 * np.clip(facing, 0, 1))]
    if np.isfinite(plan.values.ring) and plan.values.ring < -2:
        # Where the outer ring is darker than what lies within, it is glazed round.
        outer = _arcs(plan, np.array([0.97, 0.91, 0.85]), 0.3 * eye.iris.radius, rng, every=0.5)
        outer = outer[_free(plan, outer)]
        seen = np.asarray(plan.read(outer[:, 3]), np.float64)
        batches.insert(0, _Batch(outer, np.array(0.4 * step.width_mm), seen, 0.5))
    return batches


def _texture(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    eye = plan.eye
    count = int(np.clip(2 * math.pi * 0.75 * eye.iris.radius * plan.mm_per_px / (1.25 * step.width_mm), 24, 260))
    batches = []
    for light in (False, True):
        angles = 2 * math.pi * (np.arange(count) + rng.uniform(-0.45, 0.45, count)) / count
        inner = eye.pupil.reach(angles) / np.maximum(eye.iris.reach(angles), 1e-9)
        low = np.clip(inner + 0.06, 0.12, 0.8)
        start = rng.uniform(0.68, 0.95, count)
        end = low + (start - low) * rng.uniform(0.0, 0.45, count)
        # From the outer ring inward: root outside, tip toward the pupil.
        share = start[:, None] + (end - start)[:, None] * np.linspace(0, 1, POINTS)[None]
        bend = angles[:, None] + rng.normal(0, 0.03, count)[:, None] * np.linspace(-1, 1, POINTS)[None]
        lines = eye.iris.at(bend, share)
        keep = _free(plan, lines) & _off_pupil(plan, lines, step.width_mm)
        lines = lines[keep]
        seen = np.asarray(plan.read(lines[:, 3]), np.float64)
        lab = seen * 0.7 + plan.values.iris.astype(np.float64) * 0.3
        by = (step.l_high - step.l_low) / 2
        lab[:, 0] = np.clip(
            seen[:, 0] + (0.55 if light else -0.65) * by * rng.uniform(0.4, 1, len(lines)), step.l_low, step.l_high
        )
        # Fewer lights where the lid throws its shadow.
        shaded = lines[:, 3, 1] < eye.iris.cy - 0.35 * eye.iris.radius
        if light:
            some = ~shaded | (rng.random(len(lines)) < 0.25)
            lines, lab = lines[some], lab[some]
        batches.append(_Batch(lines, step.width_mm / 2 * rng.uniform(0.7, 1.25, len(lines)), lab, 0.7, hair=True))
    return batches


def _soften(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    width = min(step.width_mm, 0.3 * plan.eye.iris.radius * plan.mm_per_px)
    arcs = _arcs(plan, np.array([0.95, 0.8, 0.6]), 0.5 * plan.eye.iris.radius, rng, every=0.8)
    arcs = arcs[_free(plan, arcs) & _off_pupil(plan, arcs, width)]
    return [_Batch(arcs, np.array(width / 2), np.asarray(plan.read(arcs[:, 3]), np.float64), 0.16)]


def _sky(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    line, wide = plan.lights.sky_line, _px(plan, plan.lights.sky_wide_mm)
    lines, alpha = [], []
    out = line - np.array(plan.eye.iris.centre)
    out = out / np.maximum(np.hypot(*out.T), 1e-9)[:, None]
    for shift in np.linspace(-0.5, 0.5, 5):
        moved = line + shift * wide * out
        for start in range(0, len(line) - 6, 2):
            # Lashes break the upper edge; both ends run out.
            if shift > 0.2 and rng.random() < 0.45:
                continue
            t = (start + 3) / (len(line) - 1)
            lines.append(resample(moved[start : start + 7], POINTS))
            alpha.append(0.34 * math.sin(math.pi * min(max(t, 0.12), 0.88)))
    made = np.array(lines).reshape(-1, POINTS, 2)
    keep = _free(plan, made)
    lab = np.array(SKY_LAB if plan.sky is None else plan.sky, np.float64)
    lab[0] = (step.l_low + step.l_high) / 2
    return [
        _Batch(made[keep], np.array(max(step.width_mm / 2, plan.lights.sky_wide_mm * 0.22)), lab, np.array(alpha)[keep])
    ]


def _catchlight(plan: EyePlan, step: EyeStep, _rng: np.random.Generator) -> list[_Batch]:
    radius = 0.5 * _px(plan, step.width_mm)
    turns = np.arange(6) * math.pi / 6 + 0.2
    way = np.stack([np.cos(turns), np.sin(turns)], axis=1)
    touch = way[:, None] * np.linspace(-0.92, 0.92, POINTS)[None, :, None] * radius
    white = np.array([step.l_high - 1.0, -0.5, -0.5])
    batches = [_Batch(np.array(plan.lights.at) + touch, np.array(0.62 * radius * plan.mm_per_px), white, 0.97)]
    if len(plan.eye.lights) > 1:
        # A second glint stands where the photograph has it.
        second = np.array(plan.eye.lights[1]) + SECOND * touch
        batches.append(_Batch(second, np.array(0.62 * SECOND * radius * plan.mm_per_px), white, 0.85))
    return batches


def _wet(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    lid = plan.eye.lid_curve("lower")
    if len(lid) < POINTS // 2:
        return []
    # Just within the opening, broken, and lightest on the side of the light.
    inward = np.array(plan.eye.iris.centre) - lid
    inward = inward / np.maximum(np.hypot(*inward.T), 1e-9)[:, None]
    line = resample(lid + inward * _px(plan, 0.6 * step.width_mm), 60)
    pieces = [resample(line[k : k + 7], POINTS) for k in range(4, 50, 6) if rng.random() < 0.8]
    if not pieces:
        return []
    made = np.array(pieces)
    away = np.array([math.cos(angle_of_hour(plan.lights.hour)), 0.0])
    side = (made[:, 3] - plan.eye.iris.centre) @ away / max(plan.eye.iris.radius, 1e-9)
    lab = np.asarray(plan.read(made[:, 3]), np.float64) * 0.5
    lab[:, 0] = np.clip(step.l_low + (step.l_high - step.l_low) * (0.5 + 0.5 * side), step.l_low, step.l_high)
    # Beside the iris it is hardly wet.
    near = np.clip(1.7 - np.hypot(*(made[:, 3] - plan.eye.iris.centre).T) / plan.eye.iris.radius, 0.15, 1)
    return [_Batch(made, np.array(step.width_mm / 2), lab, near * np.clip(0.6 + 0.25 * side, 0.35, 0.9))]


def _skin_ring(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    opening = plan.eye.opening()
    middle = opening.mean(axis=0)
    out = (opening - middle) / np.maximum(np.hypot(*(opening - middle).T), 1e-9)[:, None]
    wide = _px(plan, step.width_mm)
    batches = []
    # Two rounds of short strokes: the ring is paler outside and dark at its inner edge.
    for share, pull in ((0.75, 1.0), (0.2, 0.55)):
        round_ = resample(np.vstack([opening + out * share * wide, (opening + out * share * wide)[:1]]), 120)
        pieces = np.array([resample(round_[k : k + 9], POINTS) for k in range(0, 112, 5)])
        pieces = pieces + rng.normal(0, 0.08 * wide, (len(pieces), 1, 2))
        lab = np.asarray(plan.read(pieces[:, 3]), np.float64)
        lab[:, 0] *= pull
        batches.append(_Batch(pieces, np.array(0.3 * step.width_mm), lab, 0.85))
    return batches


def sky_seen(eye: Eye, lights: Lights, iris: Lab, read: Read) -> Lab | None:
    """Return the colour of the sky's reflection in an eye (CIELAB), or None where the photograph shows none.

    It lies on the upper half, over iris and pupil alike: cooler than the iris, lighter than the pupil, darker than the glint.

    Parameters
    ----------
    eye : Eye
    lights : Lights
    iris : (3,) float32
        The iris's own colour.
    read : callable
    """
    x, y = np.meshgrid(np.linspace(-0.8, 0.8, 33), np.linspace(-0.8, 0.1, 19))
    inside = np.hypot(x, y) < SKY_WITHIN
    places = np.stack([x[inside], y[inside]], axis=1) * eye.iris.radius + eye.iris.centre
    glints = [np.array(at) for at in eye.lights]
    for at in glints:
        places = places[np.hypot(*(places - at).T) > GLINT_SHARE * eye.iris.radius]
    places = places[eye.open_at(places)] if len(places) else places
    if len(places) < POINTS:
        return None
    seen = np.asarray(read(places), np.float32)
    cooler = seen[:, 2] < float(iris[2]) - max(SKY_COOLER, 0.4 * float(iris[2]))
    dark = float(np.percentile(np.asarray(read(eye.pupil.scaled(0.6).outline(24)), np.float32)[:, 0], 25))
    there = cooler & (seen[:, 0] > dark + SKY_LIGHTER) & (seen[:, 0] < GLINT_L)
    if there.mean() < SKY_SHARE:
        return None
    return np.asarray(np.median(seen[there], axis=0), np.float32)


SKY_WITHIN, SKY_COOLER, SKY_LIGHTER, GLINT_L, SKY_SHARE, GLINT_SHARE = 0.78, 5.0, 10.0, 88.0, 0.08, 0.26
"""A sky is looked for within this share of the radius: bluer than the iris by this (b*), lighter than the pupil by this (L*), darker
than a glint and away from it, on this share of the place."""


def _lashes(plan: EyePlan, step: EyeStep, rng: np.random.Generator) -> list[_Batch]:
    eye, r = plan.eye, plan.eye.iris.radius
    lid = eye.lid_curve("upper")
    if len(lid) < 4:
        angles = np.array([angle_of_hour(h) for h in np.linspace(-1.8, 1.8, 24)])
        lid = eye.iris.at(angles, 1.02)
    count = int(np.clip(2 * r * plan.mm_per_px / (6 * step.width_mm), 5, 22))
    at = np.clip(np.linspace(0.15, 0.85, count) + rng.normal(0, 0.015, count), 0.02, 0.98)
    dense = resample(lid, 200)
    root = dense[(at * 199).astype(int)]
    out = root - np.array([eye.iris.cx, eye.iris.cy + 0.3 * r])
    out = out / np.maximum(np.hypot(*out.T), 1e-9)[:, None]
    long = 0.32 * r * rng.uniform(0.6, 1.2, count)
    # Rooted on the lid, hanging over the rim and curling out again.
    s = np.linspace(0, 1, POINTS)
    lines = root[:, None] + out[:, None] * 0.14 * r - out[:, None] * (long[:, None] * np.sin(s * 2.2)[None])[..., None]
    lines[..., 0] += (s**2)[None] * (0.25 * long * np.sign(root[:, 0] - eye.iris.cx))[:, None]
    lab = np.asarray(plan.read(root + out * 0.3 * r), np.float64)
    lab[:, 0] = np.clip(0.6 * lab[:, 0], step.l_low, max(step.l_high, 26))
    return [_Batch(lines, np.array(step.width_mm / 2), lab, 0.75, hair=True)]


def eye_room(eye: Eye) -> tuple[float, float, float, float]:
    """Return the part of the reference that an eye's picture shows: x, y, width, height, pixels; four to three."""
    half = ROOM * max(eye.iris.rx, eye.iris.ry)
    opening = eye.opening()
    (x0, y0), (x1, y1) = opening.min(axis=0), opening.max(axis=0)
    reach = max(half, 1.06 * (eye.iris.cx - x0), 1.06 * (x1 - eye.iris.cx))
    wide, tall = 2 * reach, max(1.5 * reach, 1.1 * (y1 - y0))
    # Lids may open unevenly: the picture follows their middle up and down.
    middle = float(np.clip((y0 + y1) / 2, eye.iris.cy - 0.4 * tall, eye.iris.cy + 0.4 * tall))
    return eye.iris.cx - reach, middle - tall / 2, wide, tall


def step_pictures(plan: EyePlan, px_per_mm: float) -> list[Rgb8]:
    """Paint an eye step by step on the toned ground: one (H, W, 3) uint8 picture for each step, painted or not.

    The part of the canvas that `eye_room` names, at a scale.
    """
    x, y, wide, tall = eye_room(plan.eye)
    columns = max(8, round(wide * plan.mm_per_px * px_per_mm))
    rows = max(8, round(tall * plan.mm_per_px * px_per_mm))
    ground = rgb_from_linear(np.clip(linear_from_lab(np.array(GROUND_LAB, np.float32)[None]), 0, 1))[0]
    canvas = np.empty((rows, columns, 4), np.uint8)
    canvas[..., :3] = np.round(ground * 255)
    canvas[..., 3] = 255
    moved = replace(plan, origin=(x, y))
    shown: list[Rgb8] = []
    for step in plan.steps:
        groups = step_marks(moved, step)
        if groups:
            lay(canvas, groups, px_per_mm, workers=1)
        shown.append(canvas[..., :3].copy())
    return shown


def reader(rgb: Rgb8, scale: float) -> Read:
    """Return a reader of CIELAB at reference pixels from a picture of `scale` pixels for one of the reference."""
    import cv2

    soft = cv2.GaussianBlur(rgb, (0, 0), 0.8)

    def read(points: Points) -> Lab:
        at = np.asarray(points, np.float64).reshape(-1, 2) * scale - 0.5
        if not len(at):
            return np.zeros((0, 3), np.float32)
        x, y = np.ascontiguousarray(at.T.astype(np.float32))[:, None]
        # In rows short enough for the picture library.
        parts = [
            cv2.remap(
                soft, x[:, k : k + 30000], y[:, k : k + 30000], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
            )[0]
            for k in range(0, x.shape[1], 30000)
        ]
        return lab_from_rgb8(np.concatenate(parts))

    return read


def eye_marks(plan: EyePlan, role: str, band: tuple[float, float]) -> list[Marks]:
    """Return what a pass paints of an eye: the marks of its steps, in order; the lid's hair goes with the top coat.

    Where darks are restated, the pupil is: the undercoat may not be as dark as that.

    Parameters
    ----------
    role : str
        Key of the pass.
    band : (low, high)
        L* its paint may have.
    """
    if role == "restated":
        return [_as_marks(plan, batch, band[1], band[0]) for batch in _pupil(plan, plan.step("rim"))]
    mine = {"lights": ("lights", "lashes")}.get(role, (role,))
    return [marks for step in plan.steps if step.role in mine for marks in step_marks(plan, step, band[1], band[0])]
