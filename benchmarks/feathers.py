"""Feathers: on what share of the demo jay's gaps and bars are found again in its rehearsal."""

import numpy as np

from foxpath.core.arrays import Rgb8
from foxpath.core.colour import lab_from_rgb8
from foxpath.core.feathers import Feathers
from foxpath.core.rehearsal.feathers import within
from foxpath.core.rehearsal.structure import found_again, read_feathers
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.frames import map_frame
from foxpath.derive.pictures import scaled_picture
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.reading import read_painting
from foxpath.derive.zones.shapes import mask_of, zone_index
from foxpath.document.model import Project
from tools.demo.jay_picture import coverts

WIDTH = 1600
GOAL = 90.0


def measure() -> list[dict[str, object]]:
    """Rehearse the jay once, and read its feathers: where they were drawn in the picture, and where the plan has them."""
    project, results = demo_project("jay"), Results()
    painted = rehearse(results, project, WIDTH)[-1].standing.shown
    rows = [_drawn(results, project, painted)]
    names = {zone.id: zone.name for zone in project.zones}
    planned = [one for one in read_painting(results, project, painted) if one.feathers]
    count = sum(one.feathers for one in planned)
    share = sum(one.feathers * one.found for one in planned) / max(count, 1)
    detail = ", ".join(f"{names[one.zone].lower()} {100 * one.found:.0f}" for one in planned)
    rows.append(_row(f"the {count} leading feathers of the plan, found again", share, detail))
    return rows


def _drawn(results: Results, project: Project, painted: Rgb8) -> dict[str, object]:
    """Read the barred coverts where the picture was drawn with them: their places are known."""
    shafts, halves = coverts()
    k = project.mm_per_px
    long = np.hypot(*np.diff(shafts, axis=1).transpose(2, 0, 1)).sum(axis=1)
    ones = np.ones(len(shafts))
    made = Feathers(
        shafts.astype(np.float32), (long * k).astype(np.float32), (2 * halves * k).astype(np.float32),
        ones.astype(np.int32), ones.astype(np.float32), ones > 0, 32.0,
    )  # fmt: skip
    frame = map_frame(project)
    index = zone_index(project, next(zone.id for zone in project.zones if zone.name == "Barred coverts"))
    made = within(made, mask_of(results, project, index, frame), frame)
    reference = scaled_picture(results, project, painted.shape[1], painted.shape[0])
    px = project.crop.width / painted.shape[1]
    first, second = (
        read_feathers(made, np.ascontiguousarray(lab_from_rgb8(picture)[..., 0]), (project.crop.x, project.crop.y), px)
        for picture in (reference, painted)
    )
    shown, again = found_again(first, second)
    return _row(
        "gaps and bars of the drawn coverts, found again", float(again[shown].mean()), f"{int(shown.sum())} coverts"
    )


def _row(what: str, share: float, detail: str) -> dict[str, object]:
    # Shown against its goal as what is lost: the table's goals are upper bounds.
    return {
        "what": f"{what}: lost",
        "value": round(100 * (1 - share), 1),
        "unit": "%",
        "goal": 100 - GOAL,
        "detail": detail,
    }
