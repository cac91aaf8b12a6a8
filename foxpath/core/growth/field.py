"""From combs to a direction everywhere in a zone."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, I64, Bool, Points, frozen
from foxpath.core.frame import Frame
from foxpath.core.growth.axis import (
    AxisEvidence,
    blended,
    cut_along,
    evidence_of,
    loosened,
    root_and_tip,
    smoothing_cells,
    solve_axis,
    with_combs,
)
from foxpath.core.growth.cells import (
    CombStroke,
    away_from,
    comb_cells,
    grown,
    joined_cells,
    spread_out,
    unit_of,
    window_of,
)
from foxpath.core.growth.evidence import Evidence, scale_shares
from foxpath.core.growth.sureness import (
    GUESSED_ROOT,
    REACH,
    SURE_ENOUGH,
    calm_of,
    comb_nearness,
    sure_of_axis,
    sure_of_root,
)
from foxpath.core.growth.winding import round_hearts
from foxpath.core.multigrid import Multigrid
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.zones.kinds import Prior

OVERHANG = 0.03
"""How far past its border a zone's growth is known, as a share of the longer side, so that hair can lie over it."""
SHOWN_SHARE = 0.1
"""Share of a zone that must show hair before the picture has a say."""
_RIM_SAYS, _RIM_REACH = 2.0, 0.05
"""How much the rim of the animal says about root and tip against what lies below, and how far in, as a share of the longer side."""
_COMB_WEIGHT = 30.0
_LOOSE = 1e-5
"""Screening of the direction itself: small, so that a direction carries to the far end of its zone."""
_STEP_WEIGHT = 2e-4
_EVEN_STEP_WEIGHT = 1e-7


@dataclass(frozen=True, slots=True, eq=False)
class ZoneField:
    """The growth of one zone on a window of the working grid.

    Attributes
    ----------
    frame : Frame
        The working grid.
    row, column : int
        The window's top left cell.
    direction : (h, w, 2) float32
        Unit vectors from root to tip (x right, y down). Known also a little outside the zone.
    sure : (h, w) float32
        0 (a guess) to 1 (a comb lies here).
    inside : (h, w) bool
        Cells of the zone itself.
    domain : (h, w) bool
        Cells where the direction was solved: the zone and its overhang.
    combed : bool
        Whether any comb speaks in this zone.
    axis_sure : (h, w) float32
        How sure the axis is by itself, without root and tip.
    rooted : (h, w) bool
        Where a mark says which end is the root; elsewhere that is a guess.
    axis : (2, h, w) float32 or None
        The double-angle field, when the picture had a say: a solution with another comb may begin from it.
    seen : AxisEvidence or None
        What the picture said of the zone, combs apart.
    """

    frame: Frame
    row: int
    column: int
    direction: F32
    sure: F32
    inside: Bool
    domain: Bool
    combed: bool
    axis_sure: F32
    rooted: Bool
    axis: F32 | None = None
    seen: AxisEvidence | None = None

    def sample(self, points_px: Points) -> tuple[F32, F32]:
        """Return (N, 2) unit directions and (N,) sureness at reference pixels, bilinear along the axis, clamped to the window."""
        at = self.frame.to_grid(points_px) - (self.column + 0.5, self.row + 0.5)
        height, width = self.inside.shape
        x, y = np.clip(at[:, 0], 0, width - 1.001), np.clip(at[:, 1], 0, height - 1.001)
        j, i = x.astype(np.int64), y.astype(np.int64)
        j1, i1 = np.minimum(j + 1, width - 1), np.minimum(i + 1, height - 1)
        fx, fy = (x - j)[:, None], (y - i)[:, None]
        grid = np.concatenate([self.direction, self.sure[..., None]], axis=-1)
        nearest = self.direction[np.where(fy[:, 0] < 0.5, i, i1), np.where(fx[:, 0] < 0.5, j, j1)]

        def corner(row: I64, column: I64) -> F32:
            # One that points against the nearest cell counts the other way round: between them the axis runs on.
            one = grid[row, column].copy()
            one[:, :2] *= np.where((one[:, :2] * nearest).sum(axis=1) < 0, -1, 1)[:, None]
            return one

        top = corner(i, j) * (1 - fx) + corner(i, j1) * fx
        low = corner(i1, j) * (1 - fx) + corner(i1, j1) * fx
        value = top * (1 - fy) + low * fy
        size = np.maximum(np.hypot(value[:, 0], value[:, 1]), 1e-6)[:, None]
        return (value[:, :2] / size).astype(np.float32), value[:, 2].astype(np.float32)

    def holds(self, points_px: Points) -> Bool:
        """Return which of (N, 2) reference pixels lie in the zone."""
        grid = np.floor(self.frame.to_grid(points_px)).astype(int) - (self.column, self.row)
        height, width = self.inside.shape
        there = (grid >= 0).all(axis=1) & (grid[:, 0] < width) & (grid[:, 1] < height)
        there[there] &= self.inside[grid[there, 1], grid[there, 0]]
        return np.asarray(there)

    def whole(self) -> Bool:
        """Return the zone on the whole working grid."""
        whole = np.zeros(self.frame.shape, bool)
        height, width = self.inside.shape
        whole[self.row : self.row + height, self.column : self.column + width] = self.inside
        return whole

    def unsure_cm2(self) -> float:
        """Return the area in cm² where sureness is below `SURE_ENOUGH`."""
        return float((self.inside & (self.sure < SURE_ENOUGH)).sum()) * self.frame.cell_mm**2 / 100

    def sure_share(self) -> float:
        """Return the share of the zone (0..1) that is sure enough."""
        cells = int(self.inside.sum())
        return float((self.inside & (self.sure >= SURE_ENOUGH)).sum()) / cells if cells else 0.0


def laying_rank(field: ZoneField, progress: Progress = SILENT, pace: F32 | None = None) -> F32:
    """Return how far toward the tips each cell of a zone's window lies, in cells: (h, w) float32.

    A potential whose slope is the growth, fitted by least squares. Marks laid in falling rank begin
    at the tip end and work back toward the roots, so that each row overlaps the one behind. With `pace` (h, w)
    the slope is so much steeper or flatter: rows of one over a row's depth in cells count the rows.
    """
    direction, domain = field.direction if pace is None else field.direction * pace[..., None], field.domain
    east, south = joined_cells(domain)
    along_x = 0.5 * (direction[:, :-1, 0] + direction[:, 1:, 0]) * east[:, :-1]
    along_y = 0.5 * (direction[:-1, :, 1] + direction[1:, :, 1]) * south[:-1]
    f = np.zeros((1, *domain.shape), np.float32)
    f[0, :, 1:] += along_x
    f[0, :, :-1] -= along_x
    f[0, 1:] += along_y
    f[0, :-1] -= along_y
    # For an order a potential that sags over long ways is good enough; for counting rows it has to keep its slope.
    step, tolerance = (_STEP_WEIGHT, 1e-2) if pace is None else (_EVEN_STEP_WEIGHT, 1e-4)
    weight = np.where(domain, step, 1).astype(np.float32)
    return frozen(Multigrid(weight, east, south, 1).solve(f, tolerance, progress)[0])


def zone_field(
    mask: Bool,
    combs: Sequence[CombStroke],
    frame: Frame,
    guess: F32,
    progress: Progress = SILENT,
    *,
    evidence: Evidence | None = None,
    length_px: float = 0.0,
    partings: Sequence[Points] = (),
    quiet: Sequence[Points] = (),
    start: ZoneField | None = None,
) -> ZoneField:
    """Solve the growth of one zone.

    With evidence the axis is solved first, combs and picture together (`solve_axis`), then root and tip are
    flooded from the combs. Where the picture shows no hair, the direction v minimises
    ``sum c |v - comb|^2 + e |v|^2 + |grad v|^2``. Nothing passes the zone's border or a parting.

    Parameters
    ----------
    mask : (rows, columns) bool
        The zone on the working grid; at least one cell.
    combs : sequence of CombStroke
        Those that speak for this zone.
    frame : Frame
        The working grid.
    guess : (rows, columns, 2) float32
        Unit directions that say root and tip, with little sureness, where no comb does (see `prior_field`).
    progress : Progress
    evidence : Evidence or None
        What the picture says, on the working grid.
    length_px : float
        Length of the zone's hair, reference pixels.
    partings : sequence of (N, 2) float64
        Lines across which the growth changes abruptly, reference pixels.
    quiet : sequence of (N, 2) float64
        Combs that the painter kept against the picture: round them it has no say.
    start : ZoneField, optional
        The same zone solved without combs: where it is given, only what the combs change is worked out.

    Returns
    -------
    ZoneField

    Raises
    ------
    ValueError
        When the mask is empty.
    """
    if not mask.any():
        raise ValueError("the zone has no cell on the working grid; make it larger")
    long_side = max(frame.shape)
    overhang = max(3, round(OVERHANG * long_side))
    rows, columns = window_of(mask, overhang + 1)
    inside = mask[rows, columns]
    domain = grown(inside, overhang)
    row, column = int(rows.start), int(columns.start)
    cells = comb_cells(combs, frame, row, column, domain)
    joined = cut_along(joined_cells(domain), [frame.to_grid(line) - (column, row) for line in partings])
    unit, _ = unit_of(cells[:2])
    marks = np.ascontiguousarray(np.moveaxis(unit, -1, 0))
    # A sample that lies on a comb counts once, however slowly the stroke was drawn.
    combed = cells[3]
    # The same zone without combs has asked the picture already.
    bare = start if start is not None and start.domain.shape == domain.shape else None
    told = bare.seen if bare is not None else None
    if told is None:
        told = _seen(evidence, inside, (rows, columns), length_px)
    there = np.ascontiguousarray(guess[rows, columns])
    if told is not None:
        hushed = comb_cells([CombStroke(line) for line in quiet], frame, row, column, domain)[3]
        seen = with_combs(_hushed(told, hushed, long_side), marks, combed, joined, domain, long_side)
        begun = bare.axis if bare is not None else None
        share = length_px / max(frame.crop.width, frame.crop.height)
        smooth = smoothing_cells(share, long_side)
        made = _from_both(seen, marks, combed, _Ground(joined, domain, there, long_side), smooth, begun, progress)
    elif combed.any():
        made = _from_combs(marks, combed, _Ground(joined, domain, there, long_side), progress)
    else:
        nothing = np.zeros(domain.shape, np.float32)
        made = _Solved(there.copy(), nothing, nothing, nothing, np.zeros(domain.shape, bool), domain)
    direction = spread_out(made.direction, made.known)
    near = comb_nearness(combed, long_side)
    axis_sure = 1 - (1 - near * made.agreed) * (1 - made.axis_sure)
    sure = axis_sure * made.root_sure
    return ZoneField(
        frame,
        row,
        column,
        frozen(direction.astype(np.float32)),
        frozen(sure.astype(np.float32)),
        frozen(inside.copy()),
        frozen(domain),
        bool(combed.any()),
        frozen(axis_sure.astype(np.float32)),
        frozen(made.rooted),
        made.axis,
        told,
    )


@dataclass(frozen=True, slots=True, eq=False)
class _Ground:
    """What a zone is solved on: how its cells are joined, which they are, the guess (h, w, 2), cells of the grid's longer side."""

    joined: tuple[F32, F32]
    domain: Bool
    guess: F32
    long_side: int


@dataclass(frozen=True, slots=True, eq=False)
class _Solved:
    """A direction (h, w, 2), how well combs agree, how sure the picture makes the axis, how sure root and tip are."""

    direction: F32
    agreed: F32
    axis_sure: F32
    root_sure: F32
    rooted: Bool
    known: Bool
    axis: F32 | None = None


def _seen(
    evidence: Evidence | None, inside: Bool, window: tuple[slice, slice], length_px: float
) -> AxisEvidence | None:
    """Return the zone's evidence on its window, or None where the picture shows too little hair to say anything."""
    if evidence is None or length_px <= 0:
        return None
    whole = np.zeros(evidence.weight.shape[1:], bool)
    whole[window] = inside
    parts = []
    for scale, share in scale_shares(evidence, whole, length_px / evidence.reference_px).items():
        axis = evidence.axis[scale][:, window[0], window[1]]
        parts.append(
            (share, evidence_of(axis, evidence.weight[scale][window], evidence.coherence[scale][window], inside))
        )
    made = blended(parts)
    return made if float((made.weight > 0.2)[inside].mean()) > SHOWN_SHARE else None


def _hushed(seen: AxisEvidence, cells: F32, long_side: int) -> AxisEvidence:
    """Take the picture's say away round cells, as far as a comb reaches."""
    if not cells.any():
        return seen
    away = away_from(cells != 0) / np.float32(REACH * long_side)
    return AxisEvidence(seen.axis, (seen.weight * np.clip((away - 0.35) / 0.65, 0, 1) ** 2).astype(np.float32))


def _from_combs(marks: F32, combed: F32, ground: _Ground, progress: Progress) -> _Solved:
    """Solve the direction itself from combs alone: it turns round with the combs."""
    domain = ground.domain
    here = combed * _COMB_WEIGHT
    outside = (~domain).astype(np.float32)
    solved = Multigrid(here + outside + _LOOSE, *ground.joined, 2).solve(marks * here, 5e-5, progress)
    direction, size = unit_of(solved)
    known = domain & (size > 1e-5)
    if not known.any():
        direction, known = ground.guess.copy(), domain
    # Combs that disagree cancel in the solution: its size says how well they agree.
    agreed = np.clip(size * 1.05, 0, 1) ** 2
    return _Solved(direction, agreed, np.zeros_like(agreed), np.ones_like(agreed), domain.copy(), known)


def _from_both(
    seen: AxisEvidence,
    marks: F32,
    combed: F32,
    ground: _Ground,
    smooth: float,
    begun: F32 | None,
    progress: Progress,
) -> _Solved:
    """Solve the axis from combs and picture, then give it root and tip."""
    joined, domain = ground.joined, ground.domain
    field = solve_axis(seen, marks, combed, joined, domain, smooth, begun, progress)
    size = np.hypot(field[0], field[1]).astype(np.float32)
    angle = (0.5 * np.arctan2(field[1], field[0])).astype(np.float32)
    toward = np.ascontiguousarray(np.moveaxis(ground.guess, -1, 0))
    open_to = round_hearts(angle, size, domain, ground.long_side)
    sign, worst, rooted = root_and_tip(angle, open_to, loosened(joined, field, 1.0), marks, combed, toward, domain)
    direction = (np.stack([np.cos(angle), np.sin(angle)], axis=-1) * sign[..., None]).astype(np.float32)
    calm = calm_of(direction, joined)
    root_sure = np.where(rooted, sure_of_root(worst), np.float32(GUESSED_ROOT)) * calm
    return _Solved(
        direction, np.clip(size * 1.05, 0, 1) ** 2, sure_of_axis(size), root_sure, rooted, domain, frozen(field)
    )


def prior_field(frame: Frame, sources_px: Points, prior: Prior = "away", animal: Bool | None = None) -> F32:
    """Return the guess for places no comb speaks of, by the prior of the kind.

    Parameters
    ----------
    frame : Frame
    sources_px : (N, 2) float64
        Middles of the nose and eye zones, reference pixels; may be empty (then straight down).
    prior : "away", "back" or "up"
        Away from nose and eyes and down; from the head back everywhere, and a little down; or straight up.
    animal : (rows, columns) bool, optional
        Where the animal is: along its rim tips hang outward, over what lies behind. The picture's own border is no rim.

    Returns
    -------
    (rows, columns, 2) float32 unit vectors
    """
    y, x = np.mgrid[0 : frame.rows, 0 : frame.columns].astype(np.float32) + 0.5
    if prior == "up":
        return unit_of(np.stack([np.zeros_like(x), -np.ones_like(y)]))[0]
    if prior == "back" and len(sources_px):
        sx, sy = frame.to_grid(sources_px.reshape(-1, 2)).mean(axis=0)
        away = np.hypot(x - np.float32(sx), y - np.float32(sy)) + 1
        return unit_of(np.stack([(x - np.float32(sx)) / away, (y - np.float32(sy)) / away + 0.5]))[0]
    vx, vy = np.zeros_like(x), np.full_like(y, 0.6)
    if animal is not None:
        out = _outward(animal)
        vx, vy = vx + out[0], vy + out[1]
    for sx, sy in frame.to_grid(sources_px.reshape(-1, 2)):
        dx, dy = x - np.float32(sx), y - np.float32(sy)
        distance = np.hypot(dx, dy) + 1
        pull = 1 / (1 + (distance / (0.15 * max(frame.shape))) ** 2)
        vx += pull * dx / distance
        vy += pull * dy / distance
    return unit_of(np.stack([vx, vy]))[0]


def _outward(animal: Bool) -> F32:
    """Return (2, rows, columns) vectors that point out over the animal's rim, longest there."""
    import cv2

    if animal.all():
        return np.zeros((2, *animal.shape), np.float32)
    depth = away_from(~animal)
    long_side = max(animal.shape)
    soft = cv2.GaussianBlur(depth, (0, 0), 0.008 * long_side)
    down, right = np.gradient(soft)
    size = np.maximum(np.hypot(down, right), 1e-6)
    strength = _RIM_SAYS * np.exp(-depth / (_RIM_REACH * long_side)) * animal
    return np.stack([-right / size * strength, -down / size * strength]).astype(np.float32)


def paint_field(fields: Sequence[ZoneField | None], frame: Frame) -> tuple[F32, F32]:
    """Lay the zones' fields side by side.

    Returns
    -------
    direction : (rows, columns, 2) float32
        Unit vectors; NaN where no zone with growth lies.
    sure : (rows, columns) float32
    """
    direction = np.full((*frame.shape, 2), np.nan, np.float32)
    sure = np.zeros(frame.shape, np.float32)
    for field in fields:
        if field is None:
            continue
        height, width = field.inside.shape
        window = (slice(field.row, field.row + height), slice(field.column, field.column + width))
        direction[window][field.inside] = field.direction[field.inside]
        sure[window][field.inside] = field.sure[field.inside]
    return direction, sure


def compass_words(angle_deg: float) -> str:
    """Say a direction (degrees, clockwise from right as seen, root to tip), e.g. "toward 4 o'clock, 30° below level"."""
    hour = round(((angle_deg + 90) % 360) / 30) % 12 or 12
    lean = math.degrees(math.asin(math.sin(math.radians(angle_deg))))
    level = "level" if abs(lean) < 3 else f"{abs(lean):.0f}° {'below' if lean > 0 else 'above'} level"
    return f"toward {hour} o'clock, {level}"
