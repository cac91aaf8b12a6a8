"""Hair that hangs over the border of its coat."""

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.edges import Border
from foxpath.core.growth import ZoneField
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import borders_of, outward
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.growth.fields import growth_key, growth_of
from foxpath.derive.lengths.field import lengths_of, varied_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project

Fringes = dict[tuple[int, int], tuple[F32, F32]]


def fringes_of(results: Results, project: Project, progress: Progress = SILENT) -> Fringes:
    """Return the hairs that hang over each border of a coat, (N, 8, 2) reference pixels, with their sureness."""
    return results.once(project, "fringes", lambda: _find_fringes(results, project, progress))


def _find_fringes(results: Results, project: Project, progress: Progress) -> Fringes:
    frame, cells = map_frame(project), growth_frame(project)
    zones, field_of = project.back_to_front(), lengths_of(results, project)
    labels = labels_of(results, project, frame)
    found = {}
    for border in borders_of(results, project):
        zone = zones[border.front]
        field = growth_of(results, project, border.front, progress) if zone.kind_of().hair else None
        if field is None:
            continue
        length = project.coat_of(zone).length_mm
        varied, _ = varied_of(results, project, border.front)
        key = ("fringe", border.front, border.back, project.outlines, varied, length,
               growth_key(results, project, border.front, cells))  # fmt: skip

        def make(border: Border = border, field: ZoneField = field, length: float = length) -> tuple[F32, F32]:
            out = np.concatenate([outward(run, border.back, labels, frame) for run in border.runs])
            share, _ = field_of.at(np.concatenate(border.runs))
            return fringe_along(
                border, out, field, length * share, project.mm_per_px, border.front * 1000 + border.back + 1
            )

        found[border.front, border.back] = results.memo.get(key, make)
    return found


FRINGE_LEANS = 0.3
"""Cosine of the growth to the way out from which hair stands over its border."""


FRINGE_OVER = 0.4
"""Share of a hair's length that lies beyond the border."""


def fringe_along(
    border: Border, outward: Points, field: ZoneField, length_mm: F32, mm_per_px: float, seed: int
) -> tuple[F32, F32]:
    """Return the ragged fringe of a border: hairs rooted inside the front zone whose tips lie beyond it.

    The border is where the coat ends; hair hangs over it by a share of its length, unevenly.

    Parameters
    ----------
    border : Border
    outward : (N, 2) float64
        Unit vectors out of the front zone at each point of the border's runs, in their order.
    field : ZoneField
        The front zone's growth.
    length_mm : (N,) float32
        Length of the hair at each point.
    mm_per_px : float
    seed : int

    Returns
    -------
    (M, 8, 2) float32
        Hairs root to tip, reference pixels.
    (M,) float32
        How sure their direction is.
    """
    rng = np.random.default_rng(seed)
    at = np.concatenate(border.runs)
    direction, sure = field.sample(at - 2 * field.frame.cell_px * outward)
    lean = (direction * outward).sum(axis=1)
    step_px = border.length_mm / mm_per_px / max(len(at), 1)
    # As many as stand about a tenth of their length apart.
    share = np.clip(step_px * mm_per_px / np.maximum(0.11 * length_mm, 0.3), 0, 1)
    pick = np.flatnonzero((lean > FRINGE_LEANS) & (rng.random(len(at)) < share))
    length_px = (length_mm[pick] * rng.normal(1, 0.22, len(pick)).clip(0.5, 1.6) / mm_per_px)[:, None]
    turn = rng.normal(0, 0.16, len(pick))
    c, s = np.cos(turn), np.sin(turn)
    way = direction[pick]
    way = np.stack([c * way[:, 0] - s * way[:, 1], s * way[:, 0] + c * way[:, 1]], axis=1)
    bend = rng.normal(0, 0.12, len(pick))[:, None]
    side = np.stack([-way[:, 1], way[:, 0]], axis=1)
    over = FRINGE_OVER * rng.uniform(0.5, 1.5, len(pick))[:, None]
    root = at[pick] - way * (1 - over) * length_px
    t = np.linspace(0, 1, 8)[None, :, None]
    lines = root[:, None] + way[:, None] * t * length_px[:, None] + side[:, None] * (bend * length_px)[:, None] * t * t
    return lines.astype(np.float32), sure[pick].astype(np.float32)
