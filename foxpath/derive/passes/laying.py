"""In which order zones are painted within a pass: whose tips lie over whose roots."""

from collections.abc import Mapping, Sequence

import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.curves import line_length, normals, resample
from foxpath.core.edges import Border
from foxpath.core.findings import Finding
from foxpath.core.growth import SURE_ENOUGH, ZoneField
from foxpath.core.passes import PassPlan
from foxpath.core.passes.working import Turn, manner_of_work, turns_of
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.zones import BorderGrowth, LayingOrder, laying_order, side_words
from foxpath.derive.edges.plan import borders_of
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth.fields import growth_key, growth_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import growing
from foxpath.document.model import Project, as_array


def growth_along(border: Border, fields: Mapping[int, ZoneField | None], mm_per_px: float) -> BorderGrowth:
    """Return how both sides' growth runs over a border, a place for each millimetre."""
    front, back = fields.get(border.front), fields.get(border.back)
    places, ways_out = [], []
    for run in border.runs:
        count = max(2, round(line_length(run) * mm_per_px))
        at = resample(run, count)
        across = normals(at)
        # A stretch is walked one way: which side is which, all its places tell together.
        votes = 0.0
        for field, side in ((front, 1.0), (back, -1.0)):
            if field is None:
                continue
            for cells in (1.0, 3.0):
                way = side * cells * field.frame.cell_px * across
                votes += float(field.holds(at - way).sum()) - float(field.holds(at + way).sum())
        places.append(at)
        ways_out.append(across if votes >= 0 else -across)
    at, across = np.concatenate(places), np.concatenate(ways_out)

    def lean(field: ZoneField | None, side: float) -> F32:
        if field is None:
            return np.full(len(at), np.nan, np.float32)
        inside = at - side * 2 * field.frame.cell_px * across
        direction, sure = field.sample(inside)
        said = (direction * across).sum(axis=1) * side
        return np.where(sure >= SURE_ENOUGH, said, np.nan).astype(np.float32)

    return BorderGrowth(border.front, border.back, at, 1.0, lean(front, 1.0), lean(back, -1.0))


def laying_of(results: Results, project: Project, progress: Progress = SILENT) -> LayingOrder:
    """Return in which order zones are painted within a pass."""
    frame = growth_frame(project)
    growing_keys = tuple(growth_key(results, project, index, frame) for index, _ in growing(project))
    focal = (project.focal_order, project.focal_point) if project.focal_order else None
    key = ("laying", project.outlines, project.crop, project.mm_per_px, growing_keys, focal)

    def make() -> LayingOrder:
        fields = {index: growth_of(results, project, index, progress) for index, _ in growing(project)}
        covering = [zone.kind_of().cover for zone in project.back_to_front()]
        read = [
            growth_along(border, fields, project.mm_per_px)
            for border in borders_of(results, project)
            if border.back >= 0 and covering[border.front] and covering[border.back]
        ]
        return laying_order(len(covering), read, _focal_rank(project))

    return results.memo.get(key, make)


DOWNWARD = 0.35
"""How much a step down counts against a step aside, where the hand rests beside what is painted."""


def _focal_rank(project: Project) -> list[float] | None:
    """Return the zones' distances from the focal point, or their opposites, or their way from where a hand begins; None for back to front."""
    if not project.focal_order:
        return None
    if project.focal_order in ("right", "left"):
        aside = 1.0 if project.focal_order == "right" else -1.0
        # A hand lies below and beside what it paints: it begins at the far side, and at the top.
        return [
            -np.inf if zone.whole else float((as_array(zone.points) * (aside, DOWNWARD)).sum(axis=1).mean())
            for zone in project.back_to_front()
        ]
    side = 1.0 if project.focal_order == "first" else -1.0
    focal = np.array(project.focal_point)
    # What covers the whole canvas is not near anything: it comes first either way.
    return [
        -np.inf if zone.whole else side * float(np.hypot(*(as_array(zone.points) - focal).T).min())
        for zone in project.back_to_front()
    ]


def turns_of_work(results: Results, project: Project, plans: Sequence[PassPlan], work: str = "") -> tuple[Turn, ...]:
    """Return the order of work of some passes: "rows", "areas", or (empty) as the project has it."""
    order = {index: k for k, index in enumerate(laying_of(results, project).order)}
    return turns_of(plans, order, work or manner_of_work(project.ways, plans))


def both_ways(results: Results, project: Project) -> list[Finding]:
    """Name neighbours of which each lies over the other somewhere."""
    zones = project.back_to_front()
    found = []
    for vote in laying_of(results, project).votes:
        if not vote.both_ways:
            continue
        over, under = zones[vote.after], zones[vote.before]
        middle = as_array(over.points).mean(axis=0) if not over.whole else as_array(under.points).mean(axis=0)
        where = side_words(vote.spot, (float(middle[0]), float(middle[1])))
        found.append(
            Finding(
                "look",
                f"{over.name} lies over {under.name.lower()}, and under it {where}.",
                f"{vote.against_mm:.0f} of {vote.length_mm:.0f} mm of their border · put a parting there, or outline "
                "that part by itself",
                "zones",
                over.id,
            )
        )
    return found
