"""Feathers that follow from a project: tracts of the feathered zones, fans of flight feathers, and which lead."""

import numpy as np

from foxpath.core.feathers import Feathers, fan_feathers, joined, lay_tract, leading, leading_of_fan, tract_of
from foxpath.core.fingerprint import fingerprint
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth.fields import growth_key, growth_of
from foxpath.derive.lengths.field import lengths_of, varied_of, window_of
from foxpath.derive.results import Results
from foxpath.document.model import Project, Zone, as_array


def feathered(project: Project) -> list[tuple[int, Zone]]:
    """Return the zones that have feathers one by one: tracts, and zones with a fan."""
    fanned = {fan.zone for fan in project.fans}
    return [(k, z) for k, z in enumerate(project.back_to_front()) if z.kind_of().feathers or z.id in fanned]


def feathers_key(results: Results, project: Project, index: int) -> bytes:
    """Return the fingerprint of a zone's feathers."""
    zone = project.back_to_front()[index]
    frame = growth_frame(project)
    fans = tuple(f for f in project.fans if f.zone == zone.id)
    focal, finest = project.focal_point, project.finest_mm
    tract = (
        (tract_of(zone.kind, zone.tract), project.coat_of(zone).length_mm, growth_key(results, project, index, frame))
        if zone.kind_of().feathers
        else None
    )
    varied = varied_of(results, project, index)[0] if tract is not None else None
    return fingerprint("feathers", index, tract, fans, focal, finest, varied, project.canvas, project.mm_per_px)


def feathers_of(results: Results, project: Project, index: int, progress: Progress = SILENT) -> Feathers:
    """Return a zone's feathers with the leading ones told, its tract first."""
    zone = project.back_to_front()[index]

    def make() -> Feathers:
        canvas, groups = project.canvas, []
        field = growth_of(results, project, index, progress) if zone.kind_of().feathers else None
        if field is not None:
            factor = window_of(lengths_of(results, project), field)[..., 0]
            length = project.coat_of(zone).length_mm
            laid = lay_tract(field, tract_of(zone.kind, zone.tract), length, factor, progress)
            diagonal = float(np.hypot(canvas.width_mm, canvas.height_mm))
            groups.append(leading(laid, project.finest_mm, project.focal_point, project.mm_per_px, diagonal))
        for fan in project.fans:
            if fan.zone == zone.id:
                drawn = fan_feathers(as_array(fan.first), as_array(fan.last), fan.count, project.mm_per_px)
                groups.append(leading_of_fan(drawn, project.finest_mm))
        return joined(groups)

    return results.memo.get(feathers_key(results, project, index), make)


def feather_words(zone: Zone, count: int, leading: int) -> str:
    """Say how many feathers a zone has and how many are worth painting, e.g. "42 coverts, 17 worth painting"."""
    kind = {"covert": "covert", "flight-feather": "flight feather"}.get(zone.kind, "feather")
    if leading == 0:
        return f"about {count_words(count, kind)}, all to be hinted" if count else "no feathers here yet"
    return f"{count_words(count, kind)}, {leading} worth painting"
