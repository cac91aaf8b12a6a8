"""Strays: single hairs that leave the coat over its border, laid when the border has been softened."""

from collections.abc import Hashable

import numpy as np

from foxpath.core.arrays import F32, frozen
from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.fingerprint import fingerprint, told
from foxpath.core.passes import PassPlan
from foxpath.core.rehearsal.marks import Marks, painted
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.frames import map_frame
from foxpath.derive.lengths.hanging import fringes_of
from foxpath.derive.passes.plan import first_of_act
from foxpath.derive.pictures import picture_key, study_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

SHARE = {"lost": 0.25, "soft": 0.9, "firm": 0.9, "hard": 0.3}
"""Of the hair that hangs over a border, what is drawn as strays: a lost border has hardly any, a hard one is clean."""
OVER_WIDTHS, OVER_MM = 0.8, 2.0
"""How far they stand over it: so many of its planned widths, and this."""
LIGHTER = 3.0
"""A single hair before something else is lighter than its coat, L*."""


def stray_marks(results: Results, project: Project, plan: PassPlan, index: int) -> list[tuple[Hashable, Marks]]:
    """Return the strays of a zone with their key; none in a pass that is not the first of its top coat."""
    zone = project.back_to_front()[index]
    kind = zone.kind_of()
    if (
        plan.role.act != "lights"
        or not (kind.hair and kind.cover)
        or kind.feathers
        or not first_of_act(results, project, plan, index)
    ):
        return []
    hang = fringes_of(results, project)
    over = [
        (border, edge, *hang[border.front, border.back])
        for border, edge in edges_of(results, project)
        if border.front == index and (border.front, border.back) in hang
    ]
    over = [one for one in over if len(one[2])]
    if not over:
        return []
    coat, frame = project.coat_of(zone), map_frame(project)
    band = (plan.l_low, min(plan.l_high, plan.ceiling))
    # How its hairs hang over follows from the same as `fringes`; what else is read here stands beside it.
    hairs = fingerprint([lines for _, _, lines, _ in over])
    story = tuple((edge.grade, edge.width_mm) for _, edge, _, _ in over)
    own = (told(plan.role), band, told(coat), project.finest_mm, project.seed)
    key = ("strays", index, hairs, told(story), own, picture_key(results, project), told(frame))

    def make() -> Marks:
        rng = np.random.default_rng((project.seed, index, 29))
        parts = []
        for _, edge, lines, _ in over:
            pick = rng.random(len(lines)) < SHARE[edge.grade]
            parts.append(_held_back(lines[pick], edge.width_mm, project.mm_per_px))
        lines_px = np.concatenate(parts)
        lab = study_of(results, project).at(lines_px[:, 1])
        light = np.clip(lab[:, 0] + LIGHTER + rng.normal(0, 2.5, len(lab)), *band).astype(np.float32)
        lab[:, 0] = light
        colour: F32 = rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1))
        mm = frame.to_mm(lines_px.astype(np.float64)).astype(np.float32)
        step = np.diff(mm, axis=1)
        length = np.hypot(step[..., 0], step[..., 1]).sum(axis=1).astype(np.float32)
        wide = max(0.55 * coat.width_mm, project.finest_mm)
        half = np.asarray(wide * rng.uniform(0.35, 0.6, len(mm)), np.float32)
        alpha = np.full(len(mm), 0.85 * plan.role.opacity, np.float32)
        made = Marks(frozen(mm), frozen(length), frozen(half), frozen(colour), frozen(alpha), frozen(light), hair=True)
        return painted(made, plan.role)

    return [(key, results.memo.get(key, make))]


def _held_back(lines: F32, width_mm: float, mm_per_px: float) -> F32:
    """Return hairs drawn back into their coat, so that they stand over the border as far as its width allows."""
    way = lines[:, -1] - lines[:, 0]
    long = np.hypot(*way.T)
    # They hang over by about this share of their length as they are (see `laying.FRINGE_OVER`).
    wanted = (OVER_WIDTHS * width_mm + OVER_MM) / mm_per_px
    back = np.clip(0.4 * long - wanted, 0, 0.4 * long)
    return np.asarray(lines - (way / np.maximum(long, 1e-6)[:, None] * back[:, None])[:, None], np.float32)
