"""The hand: strokes that taper, to be painted beside a model, then measured."""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Bool
from foxpath.core.practice.paper.page import (
    READ_PX_PER_MM,
    Flat,
    Measured,
    Note,
    Paper,
    PaperDrill,
    Printed,
    Shape,
    box,
    frame,
)
from foxpath.core.practice.scene import Scene
from foxpath.core.units import mm_words

ROWS, COLUMNS = 4, 3
TOP_MM, SIDE_MM, FOOT_MM = 36.0, 16.0, 30.0
TAPER = 1.25
PAINT_DE = 18.0
"""Paint differs from bare paper by more than this; the printed hairline does not."""
LINE_TONE, LINE_MM = 0.9, 0.15
NEAR_MM = 0.6
BESIDE_MM = 10.0
"""How far from its hairline a stroke may lie; its model stands farther off."""
HALF = 0.42
"""Of what paint differs from bare paper, from where on its rim is counted as painted."""


@dataclass(frozen=True, slots=True)
class Target:
    """A stroke to paint: its root, its direction (degrees), length, and width at root and tip, mm; and the cell it lies in."""

    number: int
    root: tuple[float, float]
    degrees: float
    length: float
    wide: float
    tip: float
    cell: tuple[float, float, float, float]

    def width_at(self, t: F64) -> F64:
        """Return its width at shares of its length, mm."""
        return np.asarray(
            np.where((t >= 0) & (t <= 1), self.wide + (self.tip - self.wide) * np.clip(t, 0, 1) ** TAPER, 0.0)
        )


def targets(paper: Paper) -> tuple[Target, ...]:
    """Return the strokes of a sheet."""
    rng = np.random.default_rng([paper.seed, 7])
    wide = (paper.width - 2 * SIDE_MM) / COLUMNS
    tall = (paper.height - TOP_MM - FOOT_MM) / ROWS
    made = []
    for k in range(ROWS * COLUMNS):
        left, top = SIDE_MM + (k % COLUMNS) * wide, TOP_MM + (k // COLUMNS) * tall
        # Model and place lie side by side; a stroke leans so far that both still fit.
        degrees = float(rng.uniform(-112, -68))
        length = float(rng.uniform(16, min(46, tall - 14)))
        root = (left + 0.70 * wide, top + tall - 6.0)
        made.append(
            Target(
                k + 1,
                root,
                degrees,
                length,
                float(rng.uniform(1.2, 6.0)),
                float(rng.uniform(0.2, 0.5)),
                (left + 0.40 * wide, top + 1, 0.6 * wide - 1, tall - 2),
            )
        )
    return tuple(made)


def outline(target: Target, root: tuple[float, float]) -> tuple[tuple[float, float], ...]:
    """Return the outline of a stroke at a root."""
    a = np.radians(target.degrees)
    along, across = np.array([np.cos(a), np.sin(a)]), np.array([-np.sin(a), np.cos(a)])
    t = np.linspace(0, 1, 24)
    middle = np.array(root) + t[:, None] * target.length * along
    half = 0.5 * target.width_at(t)[:, None] * across
    at = np.vstack([middle + half, (middle - half)[::-1]])
    return tuple((float(x), float(y)) for x, y in at)


class HandOnPaper(PaperDrill):
    """How far the width of a painted stroke lies from its model along its whole length, mm."""

    key, title, unit, way = "hand", "brush hand", "mm", "near"
    range, usual = (0.05, 8.0), 0.8
    count, minutes = 12, 8
    mends = ("stroke", "growth")

    def printed(self, paper: Paper, scene: Scene | None = None) -> Printed:
        shapes, notes = (
            [*frame(paper)],
            [
                Note((SIDE_MM, 24), "Brush hand", 14),
                Note(
                    (SIDE_MM, 30),
                    "Paint each stroke beside its model: from the dot along the hairline, in one go. Width by pressure, tip by lifting.",
                ),
                Note(
                    (SIDE_MM, paper.height - 20),
                    f"Sheet {paper.seed}. Print at 100 %, paint, photograph it whole from above.",
                ),
            ],
        )
        for one in targets(paper):
            a = np.radians(one.degrees)
            left, _, wide, _ = one.cell
            model = (left - 0.26 * wide, one.root[1])
            shapes.append(Shape(outline(one, model), 0.35))
            end = (one.root[0] + one.length * float(np.cos(a)), one.root[1] + one.length * float(np.sin(a)))
            shapes.append(Shape((one.root, end), LINE_TONE, LINE_MM))
            shapes.append(Shape(box(one.root, 0.35), LINE_TONE))
            notes.append(
                Note(
                    (left - 0.55 * wide, one.root[1] + 4),
                    f"{one.number}   {mm_words(one.length)}, {mm_words(one.wide)} at the root",
                    7,
                )
            )
        return Printed(paper, tuple(shapes), tuple(notes))

    def measured(self, flat: Flat, scene: Scene | None = None) -> tuple[Measured, ...]:
        made = []
        for one in targets(flat.paper):
            lab = flat.cut(*one.cell)
            profile = widths(lab, one)
            if profile is not None:
                made.append(judged(one, *profile))
        return tuple(made)


def painted(lab: F32) -> Bool:
    """Return where a part of a sheet is painted: what is not as bare paper is, to half of its difference from it."""
    light = lab[..., 0]
    bare = np.median(lab[light >= np.percentile(light, 60)], axis=0)
    away = np.linalg.norm(lab - bare, axis=-1)
    sure = away > PAINT_DE
    # A rim that the camera softened belongs to the paint up to its middle; a fine tip is never so dark as the rest.
    half = HALF * float(np.median(away[sure])) if sure.any() else 0.0
    return np.asarray(away > max(PAINT_DE, half))


def widths(lab: F32, target: Target) -> tuple[F64, F64] | None:
    """Return places along a painted stroke (mm from its root, toward its tip) and its width there, mm; None where nothing was painted."""
    k = READ_PX_PER_MM
    a = np.radians(target.degrees)
    yy, xx = np.mgrid[: lab.shape[0], : lab.shape[1]] / k
    x, y = xx + target.cell[0] - target.root[0], yy + target.cell[1] - target.root[1]
    # A model that leans reaches into its neighbour's cell: only what lies along the hairline was painted after it.
    mask = (painted(lab) & (np.abs(y * np.cos(a) - x * np.sin(a)) < BESIDE_MM)).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask, connectivity=8)
    if count < 2:
        return None
    best = 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
    if stats[best, cv2.CC_STAT_AREA] < (1.0 * k) ** 2:
        return None
    along = (x * np.cos(a) + y * np.sin(a))[labels == best]
    step = 0.5
    edges = np.arange(np.floor(along.min() / step), np.ceil(along.max() / step) + 1) * step
    # A slice of the mask holds as many pixels as it is wide: its area over its length.
    heap, _ = np.histogram(along, edges)
    return np.asarray(edges[:-1] + step / 2), np.asarray(heap / k**2 / step)


def judged(target: Target, at: F64, wide: F64) -> Measured:
    """Judge a painted stroke: its width along the model's length and beyond, its length, its tip."""
    lowest, highest = min(float(at.min()), 0.0), max(float(at.max()), target.length)
    grid = np.arange(lowest, highest + 0.25, 0.5)
    mine = np.interp(grid, at, wide, left=0.0, right=0.0)
    model = target.width_at(grid / target.length)
    error = float(np.abs(mine - model).mean())
    there = at[wide > 0.25]
    length = float(np.ptp(there)) + 0.5 if len(there) else 0.0
    root = float(np.median(wide[at < at.min() + 0.18 * max(length, 1.0)])) if len(wide) else 0.0
    root_model = float(np.mean(target.width_at(np.linspace(0, 0.18, 5))))
    end = float(np.median(wide[at > at.max() - max(1.0, 0.1 * length)])) if len(wide) else 0.0
    said = []
    if abs(root - root_model) > 0.4:
        said.append(f"{mm_words(abs(root - root_model))} too {'wide' if root > root_model else 'thin'} at the root")
    if abs(length - target.length) > max(1.5, 0.06 * target.length):
        said.append(f"{mm_words(abs(length - target.length))} too {'long' if length > target.length else 'short'}")
    if end > 0.9:
        said.append(f"its tip is blunt, {mm_words(end)}: lift sooner")
    return Measured(target.number, error, error < NEAR_MM, ", ".join(said) or "as its model", target.root)
