"""Place the marks of one pass in one zone and give each its line, width and colour."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from foxpath.core.arrays import F32, Bool, Lab, frozen
from foxpath.core.brush.strokes import dab_profile, hair_profile, trace
from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.frame import Frame
from foxpath.core.growth.field import ZoneField
from foxpath.core.passes.plan import PassPlan, mark_count
from foxpath.core.scatter import even_points
from foxpath.core.zones.kinds import Coat, Kind

GROUND_LAB = (50.0, 3.0, 11.0)
"""The toned ground: a middle warm grey."""


@dataclass(frozen=True, slots=True, eq=False)
class Marks:
    """The marks of a pass in a zone, in the order they are laid.

    Attributes
    ----------
    lines_mm : (N, 8, 2) float32
        From root to tip, mm on the canvas.
    half_mm : (N,) float32
        Half width at the widest.
    colour : (N, 3) float32
        sRGB, 0..1.
    alpha : (N,) float32
    lightness : (N,) float32
        L* of each mark, within the pass's band.
    hair : bool
        Tapered like a hair, or even like a flat brush.
    """

    lines_mm: F32
    half_mm: F32
    colour: F32
    alpha: F32
    lightness: F32
    hair: bool

    def profile(self) -> F32:
        """Return the half width along a mark, as a share of its widest."""
        return hair_profile() if self.hair else dab_profile()

    def first(self, count: int, start: int = 0) -> "Marks":
        """Return `count` marks from `start` on."""
        cut = slice(start, start + count)
        return Marks(
            self.lines_mm[cut], self.half_mm[cut], self.colour[cut], self.alpha[cut], self.lightness[cut], self.hair
        )

    def area_cm2(self) -> float:
        """Return the summed area of the marks (overlaps count each time)."""
        steps = np.diff(self.lines_mm, axis=1)
        length = np.hypot(steps[..., 0], steps[..., 1]).sum(axis=1)
        return float((length * self.half_mm).sum() * 2 * float(self.profile().mean()) / 100)


@dataclass(frozen=True, slots=True, eq=False)
class Study:
    """The reference as the marks read it, on the grid of the zone map.

    Attributes
    ----------
    frame : Frame
    fine, local : (rows, columns, 3) float32
        CIELAB at the grid's own sharpness, and averaged over about a hair's length.
    """

    frame: Frame
    fine: Lab
    local: Lab


def make_study(lab: Lab, frame: Frame, hair_mm: float = 9.0) -> Study:
    """Average a reference, already brought to the grid of `frame`, at the scales that marks need."""
    import cv2

    sigma = max(0.5, hair_mm / 2 / frame.cell_mm)
    return Study(frame, frozen(lab), frozen(np.asarray(cv2.GaussianBlur(lab, (0, 0), sigma), dtype=np.float32)))


def own_colours(study: Study, mask: Bool, room_mm: F32, brush_mm: float, overhang_mm: float) -> Lab:
    """Average the reference over a broad brush within one zone only, over its bounding box.

    What lies beyond the border does not bleed in. Nor does the neighbour's hair that hangs over it by up to
    `overhang_mm`: cells that near the border count for nothing, and are filled from further in.
    """
    import cv2

    rows, columns = np.flatnonzero(mask.any(1)), np.flatnonzero(mask.any(0))
    if not len(rows):
        return study.fine[:0, :0]
    window = (slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1))
    weight = mask[window].astype(np.float32)
    if overhang_mm > 0:
        weight = weight * np.clip((room_mm[window] - 0.7 * overhang_mm) / (0.5 * overhang_mm), 0, 1)
    sigma = max(0.6, brush_mm / 2 / study.frame.cell_mm)
    colours = study.fine[window] * weight[..., None]

    def averaged(cells: float) -> tuple[Lab, F32]:
        # A wide average is taken on a coarser grid: it has no detail to lose.
        step = max(1, int(cells / 6))
        size = (max(1, weight.shape[1] // step), max(1, weight.shape[0] // step))

        def blur(values: F32) -> F32:
            small = cv2.resize(values, size, interpolation=cv2.INTER_AREA) if step > 1 else values
            small = cv2.GaussianBlur(small, (0, 0), cells / step)
            full = (weight.shape[1], weight.shape[0])
            return np.asarray(cv2.resize(small, full) if step > 1 else small, dtype=np.float32)

        return blur(colours), blur(weight)

    near, near_weight = averaged(sigma)
    far, far_weight = averaged(8 * sigma)
    base = far / np.maximum(far_weight, 1e-4)[..., None]
    home: Lab = frozen(((near + 0.03 * base) / (near_weight + 0.03)[..., None]).astype(np.float32))
    return home


@cache
def _noise(seed: int = 20) -> F32:
    """Return a periodic (256, 256) field of bumps one unit wide, four cells a unit, deviation 1."""
    rng = np.random.default_rng(seed)
    spectrum = np.fft.rfft2(rng.standard_normal((256, 256)))
    fy, fx = np.fft.fftfreq(256)[:, None], np.fft.rfftfreq(256)[None]
    field = np.fft.irfft2(spectrum * np.exp(-((fx**2 + fy**2) * 4**2 * 6)), s=(256, 256))
    return np.asarray(field / field.std(), dtype=np.float32)


def _clumps(at_mm: F32, size_mm: float, plane: float) -> F32:
    """Read the clump noise at places on the canvas, for tufts of `size_mm`."""
    if size_mm <= 0:
        return np.zeros(len(at_mm), np.float32)
    cell = (at_mm / np.float32(size_mm) * 4 + np.float32(plane)).astype(np.int64) % 256
    return np.asarray(_noise()[cell[:, 1], cell[:, 0]])


def _chance(role: str, fine: Lab, local: Lab, plan: PassPlan) -> F32:
    """Return how likely a mark is laid at each place: the role decides where its paint belongs."""
    here, around = fine[:, 0], local[:, 0]
    if role == "darks":
        chance = np.clip((plan.l_high + 16 - around) / 12, 0, 1)
    elif role == "restated":
        gap = np.clip((around - here - 1.5) / 4, 0, 1)
        # In a light coat the gaps are middle tones: darks would outline every hair there.
        gap = gap * np.clip((plan.l_high + 18 - here) / 14, 0, 1)
        chance = np.maximum(gap, np.clip((24 - here) / 6, 0, 1))
    elif role == "lights":
        chance = np.clip((here - around + 4) / 4, 0.15, 1) * np.clip((here - 9) / 6, 0, 1)
    elif role == "highlights":
        chance = np.clip((here - 58) / 18, 0, 1) * np.clip((here - around - 1) / 4, 0, 1)
    else:
        chance = np.ones_like(here)
    return chance.astype(np.float32)


def _colours(role: str, lab: Lab, plan: PassPlan, rng: np.random.Generator) -> tuple[F32, F32]:
    """Limit colours to the pass's band and vary each mark a little: returns sRGB and L*."""
    out = lab.copy()
    count = len(out)
    if role == "ground":
        out[:] = GROUND_LAB
        out[:, 0] += rng.normal(0, 1.6, count).astype(np.float32)
    else:
        out[:, 0] += rng.normal(0, 1.8, count).astype(np.float32)
        out[:, 1:] *= rng.normal(1, 0.05, (count, 1)).astype(np.float32)
    if role == "lights":
        out[:, 0] += 1.5
    top = min(plan.l_high, plan.ceiling)
    low = min(plan.l_low, top)
    before = out[:, 0].copy()
    out[:, 0] = np.clip(out[:, 0], low, top)
    # Paint taken darker than its place keeps its hue but not all its chroma.
    out[:, 1:] *= np.clip(out[:, :1] / np.maximum(before[:, None], 1), 0.35, 1.15)
    return rgb_from_linear(np.clip(linear_from_lab(out), 0, 1)), out[:, 0]


def pass_marks(
    plan: PassPlan,
    kind: Kind,
    mark: Coat,
    mask: Bool,
    room_mm: F32,
    field: ZoneField,
    rank: F32 | None,
    study: Study,
    home: Lab,
    area_cm2: float,
    seed: tuple[int, ...],
) -> Marks:
    """Place the marks of a pass in a zone.

    Seeds are spread evenly, thinned by where the role's paint belongs, traced through the growth with
    spread, clumps and strays, and coloured from the reference within the pass's band. They are laid
    from the tip end back toward the roots.

    Parameters
    ----------
    plan : PassPlan
    kind : Kind
    mark : Coat
        The pass's marks in this zone (`PassPlan.mark_of`).
    mask : (rows, columns) bool
        The zone on `study.frame`.
    room_mm : (rows, columns) float32
        Distance to the zone's border.
    field : ZoneField
    rank : (h, w) float32 or None
        Laying rank on the field's window; None lays in scattered order.
    study : Study
    home : (h, w, 3) float32
        The zone's own colours for broad marks, over its bounding box (see `own_colours`).
    area_cm2 : float
        The zone's area.
    seed : tuple of int
        The same seed places the same marks.

    Returns
    -------
    Marks
    """
    rng = np.random.default_rng(seed)
    frame, role = study.frame, plan.role.key
    rows, columns = np.flatnonzero(mask.any(1)), np.flatnonzero(mask.any(0))
    wanted = mark_count(plan.coverage, area_cm2, mark)
    if not len(rows) or wanted == 0:
        return _nothing(block_in=plan.role.block_in)
    top, left = int(rows[0]), int(columns[0])
    height, width = int(rows[-1]) + 1 - top, int(columns[-1]) + 1 - left
    window = mask[top : top + height, left : left + width]
    share = window.mean()
    spots = even_points(int(wanted / max(share, 1e-6)) + 1, rng) * (width, height) + (left, top)
    j, i = spots[:, 0].astype(np.int64), spots[:, 1].astype(np.int64)
    keep = mask[i, j]
    # Broad marks read the zone's own averaged colours, which cover its bounding box only.
    fine, row0, column0 = (home, top, left) if plan.role.block_in else (study.fine, 0, 0)
    chance = _chance(role, fine[i[keep] - row0, j[keep] - column0], study.local[i[keep], j[keep]], plan)
    keep[keep] = rng.random(len(chance)) < chance
    spots, i, j = spots[keep], i[keep], j[keep]
    count = len(spots)
    if count == 0:
        return _nothing(block_in=plan.role.block_in)

    room = room_mm[i, j]
    length = mark.length_mm * np.clip(rng.normal(1, 0.2, count), 0.5, 1.6)
    half = 0.5 * mark.width_mm * np.clip(rng.normal(1, 0.18, count), 0.6, 1.5)
    if role != "ground":
        # Hair may lie over the neighbour by part of its length; a block-in brush stays at home.
        over = 0.45 * mark.length_mm if kind.hair and not plan.role.block_in else 0.6 + 0.1 * mark.length_mm
        if kind.cover:
            length = np.minimum(length, np.maximum(room * (1 if kind.hair else 2) + over, 0.25 * mark.length_mm))
        if not kind.hair or plan.role.block_in:
            half = np.minimum(half, np.maximum(room + 0.3, 0.12 * mark.width_mm))

    at_mm = spots * np.float32(frame.cell_mm)
    turn = rng.normal(0, np.radians(mark.spread_deg), count)
    curl = rng.normal(0, 0.30, count) * np.clip(mark.length_mm / 30, 0.15, 1)
    if kind.hair:
        tuft = _clumps(at_mm, mark.clump_mm, 7)
        # The tips of a tuft lean together: neighbours turn toward the tuft's middle along their length.
        curl += 0.55 * tuft * np.clip(mark.length_mm / 24, 0.2, 1)
        stray = rng.random(count) < mark.stray_share
        turn = np.where(stray, turn * 3.2, turn)
    else:
        tuft = np.zeros(count, np.float32)

    # Work in the cells of the growth grid; back to mm at the end.
    grid = field.frame
    scale = np.float32(frame.cell_px / grid.cell_px)
    start = spots * scale - np.array([field.column, field.row], np.float32)
    cells = (length / grid.cell_mm).astype(np.float32)
    turn32, curl32 = turn.astype(np.float32), curl.astype(np.float32)
    if not kind.hair or role == "ground":
        zero = np.zeros(count, np.float32)
        start = trace(field.direction, start, -0.5 * cells, turn32, zero)[:, -1]
    lines = trace(field.direction, start, cells, turn32, curl32)
    lines_mm = (lines + np.array([field.column, field.row], np.float32)) * np.float32(grid.cell_mm)

    lab = fine[i - row0, j - column0].copy()
    if role == "whiskers":
        # A whisker is drawn against what lies behind it: light on dark, and a few dark on light.
        lab[:, 1:] *= 0.2
        lab[:, 0] = np.where(rng.random(count) < 0.75, 92, 16)
    lab[:, 0] += 2.2 * tuft if not plan.role.block_in else 0
    colour, lightness = _colours(role, lab, plan, rng)
    alpha = np.full(count, plan.role.opacity, np.float32)

    if rank is None:
        order = np.arange(count)
    else:
        gi = np.clip(start[:, 1].astype(np.int64), 0, rank.shape[0] - 1)
        gj = np.clip(start[:, 0].astype(np.int64), 0, rank.shape[1] - 1)
        jitter = rng.normal(0, 0.35 * mark.length_mm / grid.cell_mm, count)
        order = np.argsort(-(rank[gi, gj] + jitter), kind="stable")
    return Marks(
        frozen(lines_mm[order].astype(np.float32)),
        frozen(half[order].astype(np.float32)),
        frozen(colour[order]),
        frozen(alpha),
        frozen(lightness[order]),
        kind.hair and not plan.role.block_in,
    )


def wash(width_mm: float, height_mm: float, brush_mm: float, strokes: Marks) -> Marks:
    """Return a ground's strokes over a first thin wash: level strokes side by side, so that no canvas stays bare."""
    if not len(strokes.half_mm):
        return strokes
    count = max(1, int(np.ceil(height_mm / (0.75 * brush_mm))))
    y = (np.arange(count) + 0.5) * height_mm / count
    x = np.linspace(-brush_mm, width_mm + brush_mm, strokes.lines_mm.shape[1])
    lines = np.stack(np.broadcast_arrays(x[None, :], y[:, None]), axis=-1).astype(np.float32)
    pick = np.arange(count) % len(strokes.half_mm)
    return Marks(
        frozen(np.concatenate([lines, strokes.lines_mm])),
        frozen(np.concatenate([np.full(count, 0.62 * brush_mm, np.float32), strokes.half_mm])),
        frozen(np.concatenate([strokes.colour[pick], strokes.colour])),
        frozen(np.concatenate([np.ones(count, np.float32), strokes.alpha])),
        frozen(np.concatenate([strokes.lightness[pick], strokes.lightness])),
        strokes.hair,
    )


def _nothing(*, block_in: bool) -> Marks:
    empty = np.zeros((0, 8, 2), np.float32)
    none = np.zeros(0, np.float32)
    return Marks(empty, none, np.zeros((0, 3), np.float32), none, none, not block_in)
