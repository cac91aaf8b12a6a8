"""What a pass adds on feathers: bodies in the undercoat, dark gaps under the edges, barbs and light rims, shafts."""

import numpy as np

from foxpath.core.arrays import F32, Bool
from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.feathers import GAP_SHARE, Feathers, barbs, gaps, rims
from foxpath.core.frame import Frame
from foxpath.core.rehearsal.marks import Marks, Study, together

DEEPER, LIGHTER = 20.0, 7.0
"""How much darker the gap, and how much lighter the rim, than the feather itself, L*."""
ROLES = ("undercoat", "restated", "lights", "highlights")
"""Passes that say something of feathers."""
_BARB_MM = 1.1
"""Usual gap between drawn barbs; each stands for many."""


def feather_marks(
    role: str,
    band: tuple[float, float],
    opacity: float,
    feathers: Feathers,
    finest_mm: float,
    study: Study,
    frame: Frame,
    seed: int,
) -> Marks | None:
    """Return the marks a pass adds on a zone's feathers, in the order they are laid; None when it adds none.

    Leading feathers get their dark gap, rim, barbs and shaft; of the others only every second has a short gap, and
    each one line.

    Parameters
    ----------
    role : str
        Key of the pass's role.
    band : (low, high)
        L* its paint may have.
    opacity : float
    feathers : Feathers
    finest_mm : float
        The finest mark of the kit.
    study : Study
    frame : Frame
        Reference pixels to mm on the canvas.
    seed : int
    """
    if role not in ROLES or not len(feathers):
        return None
    feathers = feathers.in_order()
    rng = np.random.default_rng(seed)
    lead, hint = feathers.pick(feathers.leading), feathers.pick(~feathers.leading)
    parts: list[tuple[F32, F32, F32, float]] = []
    """Lines (px), half widths (mm), places whose colour is taken (px), shift of L*."""
    if role == "undercoat":
        # A body is laid beside its shaft, in strokes that follow it.
        for side in (-0.5, 0.0, 0.5):
            line = _beside(lead, side)
            parts.append((line, np.asarray(0.24 * lead.width_mm, np.float32), _seen(lead), 0.0))
    elif role == "restated":
        gap = np.maximum(GAP_SHARE * lead.width_mm, finest_mm)
        parts.append((gaps(lead), np.asarray(0.62 * gap, np.float32), _seen(lead), -DEEPER))
        some = hint.pick(np.arange(len(hint)) % 2 == 0)
        parts.append((gaps(some, 0.3), np.full(len(some), 0.5 * finest_mm, np.float32), _seen(some), -0.6 * DEEPER))
    elif role == "lights":
        if len(lead):
            each = int(np.clip(np.median(lead.length_mm) * 0.5 / _BARB_MM, 3, 22))
            fine = np.asarray(np.maximum(finest_mm, 0.035 * lead.width_mm), np.float32)
            lines = barbs(lead, each, rng)
            parts.append(
                (lines, np.asarray(0.5 * np.tile(np.repeat(fine, each), 2), np.float32), lines[:, 4], LIGHTER * 0.45)
            )
            parts.append((rims(lead), np.asarray(0.55 * fine, np.float32), _seen(lead), LIGHTER))
        parts.append((hint.shaft, np.full(len(hint), 0.6 * finest_mm, np.float32), _seen(hint), 0.4 * LIGHTER))
    else:
        bright = _read(study, _seen(lead))[:, 0] > band[0] - 14
        some = lead.pick(bright)
        parts.append((some.shaft, np.full(len(some), 0.6 * finest_mm, np.float32), _seen(some), 2 * LIGHTER))
    made = [_marks(*part, band, opacity, study, frame, rng) for part in parts if len(part[0])]
    return together(made) if made else None


def _seen(feathers: Feathers) -> F32:
    """Return the middle of what is seen of each feather, reference pixels."""
    return feathers.shaft[:, 5]


def _beside(feathers: Feathers, side: float) -> F32:
    """Return the shaft moved sideways by `side` of the half width, over its outer part."""
    line = feathers.shaft
    step = np.gradient(line, axis=1)
    size = np.maximum(np.hypot(step[..., 0], step[..., 1]), 1e-6)
    normal = np.stack([-step[..., 1], step[..., 0]], axis=-1) / size[..., None]
    long = np.hypot(*np.diff(line, axis=1).transpose(2, 0, 1)).sum(axis=1)
    half = 0.5 * feathers.width_mm * long / np.maximum(feathers.length_mm, 1e-6)
    return np.asarray(line + normal * (side * half)[:, None, None], np.float32)


def _read(study: Study, at: F32) -> F32:
    frame = study.frame
    grid = np.floor(frame.to_grid(at.astype(np.float64))).astype(int)
    j, i = np.clip(grid, 0, (frame.columns - 1, frame.rows - 1)).T
    return np.asarray(study.fine[i, j], np.float32)


def _marks(
    lines: F32,
    half_mm: F32,
    places: F32,
    shift: float,
    band: tuple[float, float],
    opacity: float,
    study: Study,
    frame: Frame,
    rng: np.random.Generator,
) -> Marks:
    lab = _read(study, places).copy()
    low, high = min(band), max(band)
    wanted = lab[:, 0] + shift + rng.normal(0, 1.2, len(lab))
    kept = np.clip(wanted, low, high).astype(np.float32)
    # Paint taken darker than its place keeps its hue but not all its chroma.
    lab[:, 1:] *= np.clip(kept / np.maximum(lab[:, 0], 1), 0.35, 1.15)[:, None]
    lab[:, 0] = kept
    colour = rgb_from_linear(linear_from_lab(lab))
    mm = frame.to_mm(lines.astype(np.float64)).astype(np.float32)
    step = np.diff(mm, axis=1)
    length = np.hypot(step[..., 0], step[..., 1]).sum(axis=1).astype(np.float32)
    alpha = np.full(len(mm), opacity, np.float32)
    return Marks(mm, length, np.asarray(half_mm, np.float32), colour, alpha, kept, hair=True)


def within(feathers: Feathers, mask: Bool, frame: Frame) -> Feathers:
    """Return the feathers whose seen middle lies in a mask on a grid."""
    if not len(feathers):
        return feathers
    grid = np.floor(frame.to_grid(_seen(feathers).astype(np.float64))).astype(int)
    there = (grid >= 0).all(axis=1) & (grid[:, 0] < frame.columns) & (grid[:, 1] < frame.rows)
    there[there] &= mask[grid[there, 1], grid[there, 0]]
    return feathers.pick(there)
