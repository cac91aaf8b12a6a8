"""What the passes are planned from: area, room and coat of every zone."""

from typing import Any

import numpy as np

from foxpath.core.passes import ZoneFacts
from foxpath.core.zones import area_cm2, inscribed_mm
from foxpath.derive.frames import map_frame
from foxpath.derive.lengths.feathers import feathered, feathers_of
from foxpath.derive.lengths.field import lengths_of, spread_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import mask_of
from foxpath.document.model import Project


def facts_of(results: Results, project: Project) -> tuple[ZoneFacts, ...]:
    """Return area, room and coat of every zone, back to front."""
    return results.once(project, "facts", lambda: _read_facts(results, project))


def _read_facts(results: Results, project: Project) -> tuple[ZoneFacts, ...]:
    frame = map_frame(project)
    zones = project.back_to_front()

    def size(index: int) -> tuple[float, float]:
        mask = mask_of(results, project, index, frame)
        return area_cm2(mask, frame), inscribed_mm(mask, frame)

    sizes = results.memo.get(("sizes", project.outlines, frame), lambda: tuple(size(k) for k in range(len(zones))))
    field = lengths_of(results, project)
    facts, plumed = [], feathered(project)
    for index, (zone, (area, room)) in enumerate(zip(zones, sizes, strict=True)):
        low, high, wide, both = spread_of(field, index, results, project)
        own: dict[str, Any] = {"id": zone.id, "school": project.school_of(zone)}
        own["liked"] = tuple((one.act, one.brush) for one in zone.brushes)
        if (index, zone) in plumed:
            own["feather_mm"] = _feather_mm(results, project, index)
        facts.append(ZoneFacts(zone.kind_of(), project.coat_of(zone), area, room, (low, high), wide, both, **own))
    return tuple(facts)


def _feather_mm(results: Results, project: Project, index: int) -> float:
    """Return the median width of a zone's leading feathers, mm; 0 without any."""
    made = feathers_of(results, project, index)
    return float(np.median(made.width_mm[made.leading])) if made.leading.any() else 0.0
