"""Markings inside a coat: their borders, stretch by stretch, against the growth they lie in."""

import numpy as np

from foxpath.core.edges import MarkingStretch, marking_places, marking_stretches
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth.fields import growth_key, growth_of
from foxpath.derive.lengths.field import lengths_key, lengths_of
from foxpath.derive.pictures import picture_key, study_of
from foxpath.derive.results import Results
from foxpath.document.model import Project, Zone

BESIDE_MM = 3.0
"""How far to each side of its border a marking's values are read."""


def is_marking(zone: Zone) -> bool:
    """Tell whether a zone is a marking in a coat, and outlined."""
    return zone.kind == "marking" and not zone.whole


def markings_of(
    results: Results, project: Project, progress: Progress = SILENT
) -> dict[str, tuple[MarkingStretch, ...]]:
    """Return the stretches of every marking's border, by the marking's id."""
    return {
        zone.id: marking_of(results, project, index, progress)
        for index, zone in enumerate(project.back_to_front())
        if is_marking(zone)
    }


def marking_of(
    results: Results, project: Project, index: int, progress: Progress = SILENT
) -> tuple[MarkingStretch, ...]:
    """Return the stretches of one marking's border: crossed by hair, or along it; those beyond the coat are left out."""
    zones = project.back_to_front()
    marking, frame = zones[index], growth_frame(project)
    hairy = [k for k, z in enumerate(zones) if z.kind_of().hair and z.kind_of().cover]
    keys = tuple(growth_key(results, project, k, frame) for k in hairy)
    key = (
        "marking",
        marking.points,
        project.outlines,
        keys,
        picture_key(results, project),
        lengths_key(results, project),
    )

    def make() -> tuple[MarkingStretch, ...]:
        places = marking_places(marking.shape.outline(), project.mm_per_px)
        count = len(places.at)
        direction, sure = np.full((count, 2), np.nan, np.float32), np.zeros(count, np.float32)
        length = np.zeros(count, np.float32)
        share, _ = lengths_of(results, project).at(places.at)
        for k in hairy:
            field = growth_of(results, project, k, progress)
            if field is None:
                continue
            here = field.holds(places.at)
            if here.any():
                direction[here], sure[here] = field.sample(places.at[here])
                length[here] = project.coat_of(zones[k]).length_mm * share[here]
        reach = BESIDE_MM / project.mm_per_px
        study = study_of(results, project)
        inner, outer = (study.at(places.at + side * reach * places.outward)[:, 0] for side in (-1, 1))
        return marking_stretches(places, direction, sure, inner, outer, length)

    return results.memo.get(key, make)
