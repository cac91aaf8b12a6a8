"""Hair that the photograph shows beyond a part's outline: it belongs to the animal, and is painted over the border."""

from collections.abc import Hashable
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F32, Bool, frozen
from foxpath.core.fingerprint import fingerprint, told
from foxpath.core.frame import Frame
from foxpath.core.growth import ZoneField
from foxpath.core.passes import ROLES, PassPlan
from foxpath.core.rehearsal.marks import Marks, bounding_box, painted, pass_marks
from foxpath.core.rehearsal.overhang import overhang
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.growth.fields import growth_key, growth_of
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.plan import first_of_act, passes_of
from foxpath.derive.pictures import picture_key, study_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project

REACH = (0.9, 30.0)
"""How far hair is looked for beyond its outline: so many of its lengths, and mm at most."""
SHORTER, COVERAGE = 0.55, 2.2
"""Length of these hairs over the coat's, as they are rooted where they are seen; and how often they cover their place."""
INTO = (1.3, 8.0)
"""How far into the coat they begin: in lengths, and mm at most; a soft border is blurred about so far."""
LEAST_MM = 0.5
"""Hair that hangs less deep over a border than this in the mean is what strays make anyway, or an outline's corners."""
BROKEN = ("soft", "firm")
"""Grades of border that hair breaks."""


@dataclass(frozen=True, slots=True, eq=False)
class Overhang:
    """Where hair hangs over an outline: (rows, columns) bool on the map's grid, its area in mm2, and the fingerprint of both."""

    there: Bool
    area_mm2: float
    told: bytes


def overhang_of(results: Results, project: Project, index: int) -> Overhang | None:
    """Return where the hair of a zone hangs over what is behind it and has no hair; None where it does not."""
    zone, frame = project.back_to_front()[index], map_frame(project)
    if not (zone.kind_of().hair and zone.kind_of().cover):
        return None
    zones = project.back_to_front()
    # Over a hard border no hair hangs, and a lost one has none to be seen.
    borders = [
        border
        for border, plan in edges_of(results, project)
        if border.front == index and border.back >= 0 and not zones[border.back].kind_of().hair and plan.grade in BROKEN
    ]
    behind = tuple(sorted(border.back for border in borders))
    if not behind:
        return None
    reach = min(REACH[0] * project.coat_of(zone).length_mm, REACH[1])
    key = ("overhang", project.outlines, index, behind, round(reach, 1), picture_key(results, project), frame)

    def make() -> Overhang:
        labels = labels_of(results, project, frame)
        study = study_of(results, project)
        there = frozen(overhang(study.fine, labels == index, np.isin(labels, behind), reach / frame.cell_mm))
        return Overhang(there, float(there.sum()) * frame.cell_mm**2, fingerprint(there, frame))

    found: Overhang = results.memo.get(key, make)
    return found if found.area_mm2 / sum(border.length_mm for border in borders) > LEAST_MM else None


def overhang_marks(results: Results, project: Project, plan: PassPlan, index: int) -> list[tuple[Hashable, Marks]]:
    """Return the hairs of a zone beyond its outline, with their key; none but in one pass.

    That is the first of its top coat. Where a glaze is to come, which stays within the outline, it is the last glaze, and
    they are laid in the colours that it leaves.
    """
    glazes = [p for p in passes_of(results, project) if p.on and p.role.handling == "glaze" and index in p.zones]
    if glazes:
        if plan.role.key != glazes[-1].role.key:
            return []
        usual = ROLES["lights"]
        coats = [p for p in passes_of(results, project) if p.on and p.role.act == "lights" and index in p.zones]
        plan = replace(
            coats[0] if coats else plan, role=usual, l_low=usual.band[0], l_high=usual.band[1], ceiling=usual.ceiling
        )
    elif plan.role.act != "lights" or not first_of_act(results, project, plan, index):
        return []
    hanging = overhang_of(results, project, index)
    field = growth_of(results, project, index) if hanging is not None else None
    if hanging is None or field is None:
        return []
    zone, frame, facts = project.back_to_front()[index], map_frame(project), facts_of(results, project)[index]
    mark = plan.mark_of(index, facts)
    mark = replace(mark, length_mm=SHORTER * mark.length_mm)
    band = (plan.l_low, plan.l_high, plan.ceiling)
    grown = growth_key(results, project, index, growth_frame(project))
    # They begin within the coat, so that no seam is left along the outline.
    cells = max(1, round(min(INTO[0] * mark.length_mm, INTO[1]) / frame.cell_mm))
    key = (
        "over",
        index,
        zone.kind,
        # Where it hangs over follows from edges and lengths too: its place tells of both.
        hanging.told,
        told(plan.role),
        band,
        told(mark),
        grown,
        project.outlines,
        picture_key(results, project),
        project.seed,
    )

    def begin() -> Bool:
        return frozen(_begun(hanging.there, labels_of(results, project, frame) == index, cells))

    def make() -> Marks:
        # Whatever the marks, where they begin and the growth beyond the outline stay.
        place = results.memo.get(("begun", hanging.told, index, cells, project.outlines), begin)
        box = bounding_box(place)
        top, left, height, width = box
        study = study_of(results, project)
        room = np.full((height, width), mark.length_mm, np.float32)
        area = float(place.sum()) * frame.cell_mm**2 / 100
        some = replace(plan, coverage=COVERAGE)
        home = study.packed[top : top + height, left : left + width]
        kind = zone.kind_of()
        over = results.memo.get(("carried", grown, frame, box), lambda: _carried(field, frame, box))
        made = pass_marks(some, kind, mark, place, box, room, over, None, study, home, area, (project.seed, index, 31))
        return painted(made, plan.role, min(plan.l_high, plan.ceiling))

    return [(key, results.memo.get(key, make))]


def _begun(there: Bool, own: Bool, cells: int) -> Bool:
    """Return where hair beyond an outline begins: where it is seen, and so many cells into its own coat."""
    import cv2

    top, left, height, width = bounding_box(there)
    around = np.s_[max(0, top - cells) : top + height + cells, max(0, left - cells) : left + width + cells]
    near = cv2.distanceTransform((~there[around]).astype(np.uint8), cv2.DIST_L2, 5) <= cells
    place = there.copy()
    place[around] |= own[around] & near
    return place


def _carried(field: ZoneField, frame: Frame, box: tuple[int, int, int, int]) -> ZoneField:
    """Return a growth carried on beyond its zone, over a part of a finer grid: each place takes the nearest direction."""
    import cv2

    unknown = (~field.domain).astype(np.uint8)
    _, nearest = cv2.distanceTransformWithLabels(unknown, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    known = np.zeros((int(nearest.max()) + 1, 2), np.float32)
    known[nearest[field.domain]] = field.direction[field.domain]
    top, left, height, width = box
    scale = frame.cell_px / field.frame.cell_px
    rows, columns = field.inside.shape
    j = np.clip((left + np.arange(width) + 0.5) * scale - field.column, 0, columns - 1).astype(int)
    i = np.clip((top + np.arange(height) + 0.5) * scale - field.row, 0, rows - 1).astype(int)
    direction: F32 = frozen(known[nearest[i[:, None], j[None, :]]])
    inside = np.ones((height, width), bool)
    one = np.ones((height, width), np.float32)
    return replace(
        field, frame=frame, row=top, column=left, direction=direction, sure=one, inside=inside, domain=inside,
        axis_sure=one, rooted=inside, axis=None,
    )  # fmt: skip
