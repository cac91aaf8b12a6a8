"""Scenes for drills: the painting at hand, its photographed canvas, or a demo, with what the engines know of each."""

from collections.abc import Collection
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.errors import AppError, InputError
from foxpath.core.eyes.eye import Eye
from foxpath.core.frame import Frame
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.tubes import USUAL_TUBES, named_tubes
from foxpath.core.practice.scene import Edge, Found, Growth, Part, Scene, SceneEye
from foxpath.core.progress.sight import viewing_m
from foxpath.core.reporting import SILENT, Progress
from foxpath.demo import DEMOS, demo_project
from foxpath.derive.edges.plan import edge_readings, edges_of
from foxpath.derive.eyes.reading import eye_plan
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.pictures import scaled_picture
from foxpath.derive.progress import planned as planning
from foxpath.derive.progress.planned import painted_passes, planned_for
from foxpath.derive.progress.reading import read_photo
from foxpath.derive.rehearsal.painting import size_for
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import growing, labels_of
from foxpath.document.model import Project

OWN, CANVAS = "own", "canvas"
SHADOW_DOWN = 0.22
"""Middle of the lid's shadow below the lid, as a share of the iris's radius."""


@dataclass(frozen=True, slots=True)
class Source:
    """Something drills are made from: its key and what it is called."""

    key: str
    name: str


def sources(project: Project | None) -> tuple[Source, ...]:
    """Return what there is to practise on: the painting, its photographed canvas, the demos."""
    own = []
    if project is not None:
        own.append(Source(OWN, "this painting"))
        if project.photos:
            own.append(Source(CANVAS, "its canvas"))
    return (*own, *(Source(f"demo:{name}", f"demo {name}") for name in DEMOS))


def scene_of(
    results: Results, project: Project | None, source: str, needs: Collection[str], progress: Progress = SILENT
) -> Scene:
    """Return a scene with all that a drill needs of it.

    Parameters
    ----------
    results : Results
    project : Project or None
        The painting at hand; its tubes are used with every source.
    source : str
        Key of a `Source`.
    needs : collection of str
        As in `core.practice.drill.Need`.
    progress : Progress

    Raises
    ------
    InputError
        When there is no such source, or its canvas cannot be read.
    Cancelled
    """
    if source not in (OWN, CANVAS):
        other = results.memo.get(("practice demo", source), lambda: demo_project(source.removeprefix("demo:")))
        scene = _made(results, other, f"the demo {source.removeprefix('demo:')}", needs, progress)
        return scene if project is None else _with_paint(scene, project)
    if project is None:
        raise InputError("There is no painting open to practise on.", "Choose a demo.")
    scene = _made(results, project, "this painting", needs, progress.part(0, 0.6))
    return _on_canvas(results, project, scene, progress.part(0.6, 1)) if source == CANVAS else scene


def _made(results: Results, project: Project, name: str, needs: Collection[str], progress: Progress) -> Scene:
    key = ("practice scene", *sorted(needs))
    # What is planned is painted by a hand.
    by_hand = "planned" in needs
    return results.once(project, key, lambda: _scene(results, project, name, needs, progress), by_hand=by_hand)


def _scene(results: Results, project: Project, name: str, needs: Collection[str], progress: Progress) -> Scene:
    columns, rows, px_per_mm = size_for(project, planning.WORK_PX)
    frame = Frame(project.crop, columns, rows, project.mm_per_px)
    parts = []
    for zone in project.back_to_front():
        coat, kind = project.coat_of(zone), zone.kind_of()
        parts.append(Part(zone.id, zone.name, zone.kind, zone.group, bool(kind.hair), coat.length_mm, coat.width_mm))
    focal = frame.to_grid(np.array([project.focal_point]))[0]
    diagonal = float(np.hypot(project.canvas.width_mm, project.canvas.height_mm)) / 1000
    bare = Scene(
        name, scaled_picture(results, project, columns, rows), px_per_mm, labels_of(results, project, frame), tuple(parts),
        focal=(float(focal[0]), float(focal[1])), finest_mm=project.finest_mm, viewing_m=round(viewing_m(diagonal), 1),
    )  # fmt: skip
    scene = _with_paint(bare, project)
    progress.at(0.1, "reading the picture")
    if "growth" in needs:
        scene = replace(scene, growth=_growth(results, project, columns, rows, progress.part(0.1, 0.5)))
    if "edges" in needs:
        scene = replace(scene, edges=_edges(results, project, frame, progress.part(0.1, 0.5)))
    if "eyes" in needs:
        scene = replace(scene, eyes=_eyes(results, project, frame))
    if "planned" in needs:
        plans = painted_passes(results, project)
        if plans:
            scene = replace(scene, planned=planned_for(results, project, plans[-1].role.key, progress.part(0.5, 1)))
    progress.at(1)
    return scene


def _with_paint(scene: Scene, project: Project) -> Scene:
    """Return a scene with a painting's own paint: its tubes, their names, and what kind of paint it is."""
    tubes = project.mixes.usable() or named_tubes(USUAL_TUBES)
    system = next((t.system for t in tubes), "oil")
    names = {tube.id: tube.name for tube in tubes}
    return replace(
        scene, rack=Rack(tubes, project.mixes.shown), names=names, system="oil" if system == "alkyd" else system
    )


def _growth(results: Results, project: Project, columns: int, rows: int, progress: Progress) -> Growth:
    """Return the growth of all parts on one grid; where a part hides another, the front one's."""
    frame = growth_frame(project)
    direction = np.zeros((*frame.shape, 2), np.float32)
    sure = np.zeros(frame.shape, np.float32)
    rooted = np.zeros(frame.shape, bool)
    zones = growing(project)
    for number, (index, _) in enumerate(zones):
        field = growth_of(results, project, index, progress.part(number / len(zones), (number + 1) / len(zones)))
        if field is None:
            continue
        h, w = field.inside.shape
        there = np.s_[field.row : field.row + h, field.column : field.column + w]
        direction[there][field.inside] = field.direction[field.inside]
        sure[there][field.inside] = field.sure[field.inside]
        rooted[there][field.inside] = field.rooted[field.inside]
    return Growth(direction, sure, rooted, columns / frame.columns)


def _edges(results: Results, project: Project, frame: Frame, progress: Progress) -> tuple[Edge, ...]:
    readings = edge_readings(results, project, progress)
    made = []
    for border, plan in edges_of(results, project):
        reading = readings.get((border.front, border.back))
        line = frame.to_grid(max(border.runs, key=len))
        told = reading if reading is not None and not reading.borrowed and np.isfinite(reading.width) else None
        width, share = (float(told.width), float(told.reliable)) if told is not None else (None, 0.0)
        made.append(Edge(border.front, border.back, line, width, share, float(plan.width_mm), plan.reason))
    return tuple(made)


def _eyes(results: Results, project: Project, frame: Frame) -> tuple[SceneEye, ...]:
    made = []
    for eye in project.eyes:
        plan = eye_plan(results, project, eye)
        a, b = eye.iris.axes()
        k = 1 / frame.cell_px
        middle = frame.to_grid(np.array([eye.iris.centre]))[0]
        places = frame.to_grid(
            np.array([plan.lights.at, plan.lights.sky_line[len(plan.lights.sky_line) // 2], _shadow(eye)])
        )
        light, sky, shadow = (_place(p) for p in places)
        made.append(
            SceneEye(
                eye.name or "eye", float(middle[0]), float(middle[1]), float(np.hypot(a[0], b[0])) * k, float(np.hypot(a[1], b[1])) * k, light,
                sky if plan.lights.sky else None, shadow, plan.lights.hour,
            )
        )  # fmt: skip
    return tuple(made)


def _shadow(eye: Eye) -> tuple[float, float]:
    """Return the middle of the upper lid's shadow on the ball."""
    top = eye.iris.cy - eye.iris.ry
    lid = eye.lid_curve("upper")
    if len(lid):
        order = np.argsort(lid[:, 0])
        top = max(top, float(np.interp(eye.iris.cx, lid[order, 0], lid[order, 1])))
    return eye.iris.cx, top + SHADOW_DOWN * eye.iris.radius


def _place(point: F64 | Points) -> tuple[float, float]:
    return float(point[0]), float(point[1])


def _on_canvas(results: Results, project: Project, scene: Scene, progress: Progress) -> Scene:
    """Return a scene whose picture is the last photograph of the canvas, with what was found in it."""
    import cv2

    if not project.photos:
        raise InputError(
            "There is no photograph of the canvas yet.", "Bring one at Progress, or choose another picture."
        )
    try:
        read = read_photo(results, project, project.photos[-1], progress)
    except AppError as failure:
        raise InputError(f"The photograph of the canvas cannot be used: {failure}", "Choose another picture.") from None
    h, w = scene.labels.shape
    rgb = np.asarray(cv2.resize(read.looked.rgb, (w, h), interpolation=cv2.INTER_AREA), np.uint8)
    columns = Frame(project.crop, w, h, project.mm_per_px)
    found = []
    for one in read.entries:
        if one.below or one.kind == "own" or one.word in ("struck", "leave"):
            continue
        x, y = columns.to_grid(np.array([one.at]))[0]
        found.append(Found(one.kind, float(x), float(y), one.radius_mm, one.name))
    return replace(scene, name="the canvas", rgb=rgb, growth=None, edges=(), eyes=(), planned=None, found=tuple(found))
