"""Place the marks of one pass in one zone and give each its line, width and colour."""

import hashlib
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from foxpath.core.arrays import F32, I16, U8, Bool, Lab, Points, frozen
from foxpath.core.brush import blade_profile, dab_profile, hair_profile, trace, ways
from foxpath.core.colour import FROM_XYZ, lab_from_linear, linear_from_lab, linear_from_rgb, rgb_from_linear
from foxpath.core.frame import Frame
from foxpath.core.growth.field import ZoneField
from foxpath.core.passes.plan import PassPlan, mark_count
from foxpath.core.passes.roles import STRONGEST, WARMEST, Role
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
    length_mm, half_mm : (N,) float32
        Length, and half width at the widest.
    colour : (N, 3) float32
        sRGB, 0..1.
    alpha : (N,) float32
    lightness : (N,) float32
        L* of each mark, within the pass's band.
    hair : bool
        Tapered like a hair, or even like a flat brush.
    handling : str
        How the paint is laid, one of `HANDLINGS`; a glaze's colour is what it lets through.
    body : float
        Thickness of the paint, 0 to 1.
    picks : float
        Share of the wet colour beneath that each mark takes with it, 0 to 1.
    tip : str
        "fine" as a liner leaves it, or "blunt" as an edge or an old bristle does.
    """

    lines_mm: F32
    length_mm: F32
    half_mm: F32
    colour: F32
    alpha: F32
    lightness: F32
    hair: bool
    handling: str = "opaque"
    body: float = 0.0
    picks: float = 0.0
    tip: str = "fine"

    def profile(self) -> F32:
        """Return the half width along a mark, as a share of its widest."""
        if not self.hair:
            return dab_profile()
        return blade_profile() if self.tip == "blunt" else hair_profile()

    def first(self, count: int, start: int = 0) -> "Marks":
        """Return `count` marks from `start` on."""
        return self.pick(slice(start, start + count))

    def pick(self, cut: "slice | Bool") -> "Marks":
        """Return some of the marks, in their order."""
        return replace(
            self,
            lines_mm=self.lines_mm[cut],
            length_mm=self.length_mm[cut],
            half_mm=self.half_mm[cut],
            colour=self.colour[cut],
            alpha=self.alpha[cut],
            lightness=self.lightness[cut],
        )

    def area_cm2(self) -> float:
        """Return the summed area of the marks (overlaps count each time)."""
        return float(np.dot(self.length_mm, self.half_mm)) * 2 * float(self.profile().mean()) / 100


@dataclass(frozen=True, slots=True, eq=False)
class Study:
    """The reference as the marks read it, on the grid of the zone map.

    Attributes
    ----------
    frame : Frame
    fine, local : (rows, columns, 3) float32
        CIELAB at the grid's own sharpness, and averaged over about a hair's length.
    packed : (rows, columns, 6) int16
        Both, as marks read them (see `packed_study`).
    """

    frame: Frame
    fine: Lab
    local: Lab
    packed: I16

    def at(self, points_px: Points | F32) -> Lab:
        """Return the (N, 3) float32 CIELAB at reference pixels, at the grid's own sharpness; clamped to the grid."""
        grid = np.floor(self.frame.to_grid(np.asarray(points_px, np.float64))).astype(int)
        j, i = np.clip(grid, 0, (self.frame.columns - 1, self.frame.rows - 1)).T
        return np.asarray(self.fine[i, j], np.float32)


def make_study(lab: Lab, frame: Frame, hair_mm: float = 9.0) -> Study:
    """Average a reference, already brought to the grid of `frame`, at the scales that marks need."""
    import cv2

    sigma = max(0.5, hair_mm / 2 / frame.cell_mm)
    local = np.asarray(cv2.GaussianBlur(lab, (0, 0), sigma), dtype=np.float32)
    return Study(frame, frozen(lab), frozen(local), packed_study(lab, local))


def packed_study(fine: Lab, local: Lab) -> I16:
    """Put the (rows, columns, 3) CIELAB of each place and of what lies around it side by side, (rows, columns, 6) in steps of 1/256.

    Marks read them all over the picture: side by side and in half the room they are there sooner.
    """
    from foxpath.core.rehearsal import _kernel_place as loops

    made = np.empty((*fine.shape[:2], 6), np.int16)
    for at, values in ((0, fine), (3, local)):
        made[..., at : at + 3] = np.rint(np.clip(values * np.float32(loops.STEPS), -32768, 32767))
    return frozen(made)


def bounding_box(mask: Bool) -> tuple[int, int, int, int]:
    """Return top, left, height and width of a mask, cells; all 0 for an empty one."""
    rows, columns = np.flatnonzero(mask.any(1)), np.flatnonzero(mask.any(0))
    if not len(rows):
        return 0, 0, 0, 0
    top, left = int(rows[0]), int(columns[0])
    return top, left, int(rows[-1]) + 1 - top, int(columns[-1]) + 1 - left


def own_colours(study: Study, mask: Bool, room_mm: F32, brush_mm: float, overhang_mm: float) -> Lab:
    """Average the reference over a broad brush within one zone only, over its bounding box.

    What lies beyond the border does not bleed in. Nor does the neighbour's hair that hangs over it by up to
    `overhang_mm`: cells that near the border count for nothing, and are filled from further in.
    """
    import cv2

    top, left, height, width = bounding_box(mask)
    if height == 0:
        return study.fine[:0, :0]
    window = (slice(top, top + height), slice(left, left + width))
    weight = mask[window].astype(np.float32)
    if overhang_mm > 0:
        weight = weight * np.clip((room_mm - overhang_mm) / (0.5 * overhang_mm), 0, 1)
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


_CODES = {"darks": 1, "restated": 2, "lights": 3, "highlights": 4, "ground": 5, "whiskers": 6, "background": 7}


def _mixed(seed: tuple[int, ...]) -> int:
    """Fold a seed of several numbers into one of 64 bits."""
    # 63 bits, so that the kernel sees a plain signed number.
    return int.from_bytes(hashlib.blake2b(repr(seed).encode(), digest_size=8).digest(), "big") >> 1


@cache
def _curve() -> F32:
    """Return the sRGB curve at 1025 even steps of the square root of linear light."""
    return rgb_from_linear(np.linspace(0, 1, 1025, dtype=np.float32) ** 2)


@cache
def _noise(seed: int = 20) -> F32:
    """Return a periodic (256, 256) field of bumps one unit wide, four cells a unit, deviation 1."""
    rng = np.random.default_rng(seed)
    spectrum = np.fft.rfft2(rng.standard_normal((256, 256)))
    fy, fx = np.fft.fftfreq(256)[:, None], np.fft.rfftfreq(256)[None]
    field = np.fft.irfft2(spectrum * np.exp(-((fx**2 + fy**2) * 4**2 * 6)), s=(256, 256))
    return np.asarray(field / field.std(), dtype=np.float32)


@dataclass(frozen=True, slots=True, eq=False)
class Local:
    """What differs from place to place in a zone.

    Attributes
    ----------
    varied : (h, w, 2) float32 or None
        Multiples of length and width, on the window of the zone's growth.
    limit : (h, w, 4) uint8 or None
        Where hair ends at the borders, on the zone's bounding box (see `packed_limit`); None lets it end anywhere.
    mark_area : float
        Mean product of length and width in `varied`.
    lent : float
        Light and dark between hairs that a donor lends, as a deviation of L*; 0 for what the picture shows itself.
    """

    varied: F32 | None = None
    limit: U8 | None = None
    mark_area: float = 1.0
    lent: float = 0.0


def packed_limit(free_mm: F32, ahead: F32, aside: F32, width_mm: F32) -> U8:
    """Pack where hair ends at a zone's borders into (h, w, 4) bytes: every zone keeps such a map.

    Parameters
    ----------
    free_mm : (h, w) float32
        Straight to the nearest border.
    ahead, aside : (h, w) float32
        Cosine and sine of the growth to the way there.
    width_mm : (h, w) float32
        Planned for that border: tips end within it.
    """
    from foxpath.core.rehearsal import _kernel_place as loops

    planes = (
        np.sqrt(np.clip(free_mm / loops.FARTHEST, 0, 1)) * 255,
        127 + 127 * np.clip(ahead, -1, 1),
        127 + 127 * np.clip(aside, -1, 1),
        np.sqrt(np.clip(width_mm / loops.WIDEST, 0, 1)) * 255,
    )
    made: U8 = frozen(np.stack([np.round(plane) for plane in planes], axis=-1).astype(np.uint8))
    return made


def pass_marks(
    plan: PassPlan,
    kind: Kind,
    mark: Coat,
    mask: Bool,
    box: tuple[int, int, int, int],
    room_mm: F32,
    field: ZoneField,
    rank: F32 | None,
    study: Study,
    home: I16,
    area_cm2: float,
    seed: tuple[int, ...],
    local: "Local | None" = None,
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
    box : (top, left, height, width)
        Its bounding box (see `bounding_box`).
    room_mm : (h, w) float32
        Distance to the zone's border, over its bounding box.
    field : ZoneField
    rank : (h, w) float32 or None
        Laying rank on the field's window; None lays in scattered order.
    study : Study
    home : (h, w, 6) int16
        The zone's own colours for broad marks, over its bounding box (see `own_colours`), packed as those of a study.
    area_cm2 : float
        The zone's area.
    seed : tuple of int
        The same seed places the same marks.
    local : Local, optional
        What differs from place to place; by default nothing does.

    Returns
    -------
    Marks
    """
    from foxpath.core.rehearsal import _kernel_place as loops

    frame, role = study.frame, plan.role.act
    block_in, hair = plan.role.block_in, kind.hair
    top, left, height, width = box
    local = local or Local()
    wanted = mark_count(plan.coverage, area_cm2, mark, local.mark_area)
    if height == 0 or wanted == 0:
        return no_marks(block_in=block_in)
    share = area_cm2 * 100 / (height * width * frame.cell_mm**2)
    count = int(wanted / max(share, 1e-6)) + 1
    # Broad marks read the zone's own averaged colours, which cover its bounding box only.
    seen, shift = (home, (top, left)) if block_in and role != "ground" else (study.packed, (0, 0))
    numbers = (
        frame.cell_mm, mark.length_mm, mark.width_mm, math.radians(mark.spread_deg), mark.clump_mm, mark.stray_share,
        plan.l_low, plan.l_high, plan.ceiling, math.radians(mark.curl_deg if not block_in else 0.0),
        local.lent,
    )  # fmt: skip
    flags = loops.HAIR * hair + loops.BLOCK_IN * block_in + loops.COVER * kind.cover + loops.FEATHERS * kind.feathers
    grid = field.frame
    scale = frame.cell_px / grid.cell_px
    ranks = np.zeros((0, 0), np.float32) if rank is None else rank
    vary = np.zeros((0, 0, 2), np.float32) if local.varied is None else local.varied
    limit = np.zeros((0, 0, 4), np.uint8) if local.limit is None else local.limit
    rank_map = np.array([scale, field.column, field.row, 0.35 * mark.length_mm / grid.cell_mm])
    placed = np.empty((count, loops.COLUMNS), np.float32)
    ro = _read_only
    laid = loops.place(
        ro(mask), ro(room_mm), ro(seen), ro(_noise()), ro(FROM_XYZ), ro(_curve()),
        ro(np.array((top, left, height, width))), ro(np.array(shift)), count, _mixed(seed), _CODES.get(role, 0), flags,
        ro(np.array(numbers)), ro(np.array(GROUND_LAB)), ro(ranks), ro(rank_map), ro(vary), ro(limit), ro(field.direction), placed,
    )  # fmt: skip
    if laid == 0:
        return no_marks(block_in=block_in)
    # Their number without a rank: in scattered order, as they were drawn.
    key = placed[:laid, 10].copy()
    order = np.argsort(key).astype(np.int32) if rank is None else loops.by_key(key)
    # Traced in the cells of the growth grid; back in mm at the end.
    start, colour = np.empty((laid, 2), np.float32), np.empty((laid, 3), np.float32)
    cells, turn, curl, length, half, light, back = np.empty((7, laid), np.float32)
    rooted = (start, cells, turn, curl, length, half, colour, light, back)
    loops.take(placed, order, scale, field.column, field.row, grid.cell_mm, *rooted)
    # It runs as the growth does at its place, also where it is rooted beyond a change of root and tip.
    way = ways(field.direction, start)
    if len(limit):
        loops.step_back(field.direction, start, back, turn, way)
    if not hair:
        # A dab sits on its place; a hair begins there.
        start = trace(field.direction, start, -0.5 * cells, turn, np.zeros(laid, np.float32), toward=way)[:, -1]
    origin = (float(field.column), float(field.row))
    lines = trace(field.direction, start, cells, turn, curl, scale=grid.cell_mm, shift=origin, toward=way)
    alpha = np.full(laid, plan.role.opacity, np.float32)
    return Marks(
        frozen(lines), frozen(length), frozen(half), frozen(colour), frozen(alpha), frozen(light), hair and not block_in
    )


def _read_only(array: NDArray[Any]) -> NDArray[Any]:
    """Return an array as the loop knows it: whether it may be written to makes another type, and each type is compiled anew."""
    if not array.flags.writeable and array.flags.c_contiguous:
        return array
    view = np.ascontiguousarray(array).view()
    view.setflags(write=False)
    return view


PICKED_UP = {"wet": 0.2, "tacky": 0.06, "touch-dry": 0.0}
"""Share of the colour beneath that a mark takes with it."""
DARKEST_MIX = 30.0
"""L* from which on a colour has no black in it."""
TUBE_CHROMA = 0.25
"""What a black from the tube leaves of a dark's own colour."""
LIVELY = 4.0
"""C* that a dark mixed from a blue and a brown has at least."""


def painted(marks: Marks, role: Role, upper: float = 100.0) -> Marks:
    """Return marks in a role's paint: its strength, lean and limit of colour, its black, its handling, body and wetness.

    Values stay as they are, except where paint is made lighter for a glaze to come, to `upper` (L*) at most; a glaze's colours become what it
    lets through.
    """
    made = replace(marks, handling=role.handling, body=role.thickness, picks=PICKED_UP[role.beneath])
    free = role.chroma >= STRONGEST and role.coolest <= -WARMEST and role.warmest >= WARMEST
    plain = free and abs(role.tint - 1) < 1e-3 and role.lean == role.lift == 0 and not role.black
    if not len(marks.half_mm) or (plain and role.handling != "glaze"):
        return made
    colour = marks.colour
    if not plain:
        linear = linear_from_rgb(colour)
        lab = lab_from_linear(linear)
        if role.lift:
            lab[:, 0] = np.clip(_lifted(linear, colour, role.lift), lab[:, 0], max(upper, float(lab[:, 0].max())))
            made = replace(made, lightness=frozen(lab[:, 0].copy()))
        lab[:, 1:] *= role.tint
        lab[:, 2] += role.lean
        lab[:, 1] += 0.3 * role.lean
        dark = np.clip(1 - lab[:, 0] / DARKEST_MIX, 0, 1)[:, None]
        if role.black == "tube":
            lab[:, 1:] *= 1 - (1 - TUBE_CHROMA) * dark
        elif role.black == "mixed":
            own = np.hypot(lab[:, 1], lab[:, 2])[:, None]
            # It leans the way the dark leans already; a neutral one leans warm.
            lab[:, 1:] += (
                np.where(own > 0.5, lab[:, 1:] / np.maximum(own, 1e-3), [[0.6, 0.8]])
                * np.maximum(LIVELY - own, 0)
                * dark
            )
        lab[:, 2] = np.clip(lab[:, 2], min(role.coolest, role.warmest), max(role.coolest, role.warmest))
        strength = np.hypot(lab[:, 1], lab[:, 2])[:, None]
        lab[:, 1:] *= np.minimum(1, role.chroma / np.maximum(strength, 1e-3))
        colour = rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1))
    if role.handling == "glaze":
        # Over white a transparent colour shows itself; its strongest primary passes whole.
        colour = colour / np.maximum(colour.max(axis=1, keepdims=True), 1e-3)
    return replace(made, colour=frozen(np.asarray(colour, np.float32)))


def _lifted(linear: F32, colour: F32, share: float) -> F32:
    """Return the L* of colours from which a glaze of their own colour brings them back to what they are."""
    through = colour / np.maximum(colour.max(axis=1, keepdims=True), 1e-3)
    weights = np.array([0.2126, 0.7152, 0.0722], np.float32)
    light, passes = linear @ weights, linear_from_rgb(np.asarray(through, np.float32)) @ weights
    wanted = light / np.maximum(passes, 0.05) ** share
    grey = np.repeat(np.clip(wanted, 0, 1)[:, None], 3, axis=1).astype(np.float32)
    return np.asarray(lab_from_linear(grey)[:, 0], np.float32)


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
        frozen(np.concatenate([np.full(count, width_mm, np.float32), strokes.length_mm])),
        frozen(np.concatenate([np.full(count, 0.62 * brush_mm, np.float32), strokes.half_mm])),
        frozen(np.concatenate([strokes.colour[pick], strokes.colour])),
        frozen(np.concatenate([np.ones(count, np.float32), strokes.alpha])),
        frozen(np.concatenate([strokes.lightness[pick], strokes.lightness])),
        strokes.hair,
    )


def together(groups: Sequence[Marks]) -> Marks:
    """Return groups of marks as one, in their order; all must be tapered alike unless they are empty."""
    kept = [group for group in groups if len(group.half_mm)] or list(groups[:1])

    def all_of(name: str) -> F32:
        made: F32 = frozen(np.concatenate([getattr(group, name) for group in kept]))
        return made

    names = ("lines_mm", "length_mm", "half_mm", "colour", "alpha", "lightness")
    joined: dict[str, Any] = {name: all_of(name) for name in names}
    return replace(kept[0], **joined)


def no_marks(*, block_in: bool) -> Marks:
    """Return no marks, of masses or of hair."""
    empty = np.zeros((0, 8, 2), np.float32)
    none = np.zeros(0, np.float32)
    return Marks(empty, none, none, np.zeros((0, 3), np.float32), none, none, not block_in)
