"""What a pass adds on feathers: bodies in the undercoat, dark gaps under the edges, barbs and light rims, shafts."""

import numpy as np

from foxpath.core.arrays import F32, Bool
from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.feathers import GAP_SHARE, Feathers, barbs, gaps, half_px, on_shaft, rims
from foxpath.core.frame import Frame
from foxpath.core.rehearsal.marks import Marks, Study, together

DEEPER, LIGHTER = 4.0, 5.0
"""How much darker the gap, and how much lighter the rim, than the feather itself, L*, where the picture shows neither."""
SHOWN, DEEPEST = 1.2, 24.0
"""By how much more of the gap that the picture shows, and how far at most, L*."""
MOSTLY = 0.8
"""A line is drawn where this share of it lies in the zone."""
VANES_SHOWN = 0.3
"""From this share of a zone on, its vanes are painted as the photograph shows them."""
GAP_SHOWN, SHAFT_SHOWN = 4.0, 3.0
"""A gap is seen where it is darker than both sides, and a shaft where it is lighter, by this, L*."""
ROOTED = 0.45
"""Share of a feather's length that the row before it covers, about."""
ROLES = ("undercoat", "restated", "lights", "highlights")
"""Passes that say something of feathers."""
_BARB_MM = 0.6
"""Usual gap between drawn barbs; each stands for many."""


def feather_marks(
    role: str,
    band: tuple[float, float],
    opacity: float,
    feathers: Feathers,
    finest_mm: float,
    study: Study,
    frame: Frame,
    mask: Bool,
    seed: int,
    vanes_shown: float = 0.0,
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
    mask : (rows, columns) bool
        The zone on the grid of `study`: what would lie beyond it is left out.
    seed : int
    vanes_shown : float
        On what share of the zone the photograph shows barbs, 0 to 1: there they are painted as they are seen.
    """
    if role not in ROLES or not len(feathers):
        return None
    feathers = feathers.in_order()
    rng = np.random.default_rng(seed)
    lead, hint = feathers.pick(feathers.leading), feathers.pick(~feathers.leading)
    parts: list[tuple[F32, F32, F32, F32 | float]] = []
    """Lines (px), half widths (mm), places whose colour is taken (px), shift of L*."""
    shown = bool(len(lead)) and vanes_shown > VANES_SHOWN
    if role == "undercoat" and not shown:
        # A body is laid beside its shaft, in strokes that follow it.
        for side in (-0.5, 0.0, 0.5):
            line = _beside(lead, side)
            parts.append((line, np.asarray(0.24 * lead.width_mm, np.float32), _seen(lead), 0.0))
    elif role == "restated":
        # Where the photograph shows the vanes, only gaps that it shows are drawn: rows must not be laid across what is seen.
        some = lead.pick(_gap_shown(study, lead) > GAP_SHOWN) if shown else lead
        gap = np.maximum(GAP_SHARE * some.width_mm, finest_mm)
        lines = gaps(some)
        parts.append((lines, np.asarray(0.5 * gap, np.float32), _seen(some), _depth(study, some, lines)))
        some = hint.pick(np.arange(len(hint)) % 2 == 0)
        lines = gaps(some, 0.3)
        half = np.full(len(some), 0.5 * finest_mm, np.float32)
        parts.append((lines, half, _seen(some), 0.6 * _depth(study, some, lines)))
    elif role == "lights":
        if len(lead) and not shown:
            each = int(np.clip(np.median(lead.length_mm) * 0.5 / _BARB_MM, 3, 22))
            fine = np.asarray(np.maximum(finest_mm, 0.035 * lead.width_mm), np.float32)
            lines = barbs(lead, each, rng)
            parts.append(
                (lines, np.asarray(0.5 * np.tile(np.repeat(fine, each), 2), np.float32), lines[:, 4], LIGHTER * 0.45)
            )
            lines = rims(lead)
            parts.append((lines, np.asarray(0.55 * fine, np.float32), _seen(lead), _rise(study, lead, lines)))
        parts.append((hint.shaft, np.full(len(hint), 0.6 * finest_mm, np.float32), _seen(hint), 0.4 * LIGHTER))
    elif role == "highlights":
        bright = study.at(_seen(lead))[:, 0] > band[0] - 14
        if shown:
            bright &= _shaft_shown(study, lead) > SHAFT_SHOWN
        some = lead.pick(bright)
        # The root of the shaft lies under the row before.
        t = np.linspace(ROOTED, 1, some.shaft.shape[1]).astype(np.float32)
        parts.append((on_shaft(some, t)[0], np.full(len(some), 0.6 * finest_mm, np.float32), _seen(some), 2 * LIGHTER))
    parts = [_kept(part, mask, study.frame) for part in parts]
    made = [_marks(*part, band, opacity, study, frame, rng) for part in parts if len(part[0])]
    return together(made) if made else None


Part = tuple[F32, F32, F32, F32 | float]


def _kept(part: Part, mask: Bool, frame: Frame) -> Part:
    """Leave out lines that run beyond the zone: there is no feather beneath."""
    lines, half, places, shift = part
    if not len(lines):
        return part
    inside = np.stack([_inside(lines[:, k], mask, frame) for k in range(lines.shape[1])])
    there = inside.mean(axis=0) > MOSTLY
    return lines[there], half[there], places[there], shift[there] if isinstance(shift, np.ndarray) else shift


def _inside(at: F32, mask: Bool, frame: Frame) -> Bool:
    grid = np.floor(frame.to_grid(at.astype(np.float64))).astype(int)
    there = (grid >= 0).all(axis=1) & (grid[:, 0] < frame.columns) & (grid[:, 1] < frame.rows)
    there[there] &= mask[grid[there, 1], grid[there, 0]]
    return np.asarray(there)


def _depth(study: Study, feathers: Feathers, lines: F32) -> F32:
    """Return by how much the gap is darker than the feather, L* below 0: by what the picture shows of it."""
    if not len(lines):
        return np.zeros(0, np.float32)
    shown = study.at(_seen(feathers))[:, 0] - study.at(lines[:, 4])[:, 0]
    return np.asarray(-np.clip(DEEPER + SHOWN * np.clip(shown, 0, None), 0, DEEPEST), np.float32)


def _rise(study: Study, feathers: Feathers, lines: F32) -> F32:
    """Return by how much the rim is lighter than the feather, L*: by what the picture shows of it, and a trace where it does not."""
    shown = study.at(lines[:, 4])[:, 0] - study.at(_seen(feathers))[:, 0]
    return np.asarray(np.clip(0.3 * LIGHTER + shown, 0.3 * LIGHTER, 3 * LIGHTER), np.float32)


def _gap_shown(study: Study, feathers: Feathers) -> F32:
    """Return by how much the photograph's gap is darker than what lies to both sides of it, L*: the feather, and the one behind."""
    if not len(feathers):
        return np.zeros(0, np.float32)
    gap = _lightness(study, gaps(feathers))
    return np.asarray(
        np.minimum(_lightness(study, rims(feathers)), _lightness(study, _outside(feathers))) - gap, np.float32
    )


def _shaft_shown(study: Study, feathers: Feathers) -> F32:
    """Return by how much the photograph's shaft is lighter than both vanes, L*."""
    if not len(feathers):
        return np.zeros(0, np.float32)
    beside = np.maximum(*(_lightness(study, _beside(feathers, side)[:, 4:]) for side in (-0.3, 0.3)))
    return np.asarray(_lightness(study, feathers.shaft[:, 4:]) - beside, np.float32)


def _outside(feathers: Feathers) -> F32:
    """Return the line just beyond each feather's gap."""
    return 2 * gaps(feathers) - rims(feathers)


def _lightness(study: Study, lines: F32) -> F32:
    """Return the mean L* under (N, K, 2) lines, reference pixels."""
    count, points = lines.shape[:2]
    return np.asarray(study.at(lines.reshape(-1, 2))[:, 0].reshape(count, points).mean(axis=1), np.float32)


def _seen(feathers: Feathers) -> F32:
    """Return the middle of what is seen of each feather, reference pixels."""
    return feathers.shaft[:, 5]


def _beside(feathers: Feathers, side: float) -> F32:
    """Return the shaft moved sideways by `side` of the half width, over its outer part."""
    line = feathers.shaft
    step = np.gradient(line, axis=1)
    size = np.maximum(np.hypot(step[..., 0], step[..., 1]), 1e-6)
    normal = np.stack([-step[..., 1], step[..., 0]], axis=-1) / size[..., None]
    return np.asarray(line + normal * (side * half_px(feathers))[:, None, None], np.float32)


def _marks(
    lines: F32,
    half_mm: F32,
    places: F32,
    shift: F32 | float,
    band: tuple[float, float],
    opacity: float,
    study: Study,
    frame: Frame,
    rng: np.random.Generator,
) -> Marks:
    lab = study.at(places).copy()
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
    return feathers.pick(_inside(_seen(feathers), mask, frame)) if len(feathers) else feathers
