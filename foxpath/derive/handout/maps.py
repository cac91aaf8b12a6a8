"""What the sheets and the SVG layers show of the map: lengths, laying order, feathers, edges, markings."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.brush import hair_profile, outlines
from foxpath.core.curves import line_length
from foxpath.core.edges import even_parts, grade_of_width
from foxpath.core.feathers import outline_of
from foxpath.core.growth import HairGlyphs, place_glyphs
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words, mm_words
from foxpath.core.zones import kind_of
from foxpath.derive.edges.plan import edge_widths, edges_of
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.lengths.feathers import feather_words, feathered, feathers_of
from foxpath.derive.lengths.field import varied_of
from foxpath.derive.lengths.hanging import fringes_of
from foxpath.derive.lengths.markings import markings_of
from foxpath.derive.passes.laying import laying_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import growing, mask_of
from foxpath.document.model import Project, Zone
from foxpath.sheets import FeatherMap, Layer, Shape, write_layers

DASHES = {"lost": (0.8, 3.0), "soft": (4.0, 2.0), "firm": (), "hard": ()}


def to_mm(project: Project, points: Points | F32) -> Points:
    """Bring reference pixels to mm on the canvas, whatever the leading shape."""
    return np.asarray((np.asarray(points, np.float64) - (project.crop.x, project.crop.y)) * project.mm_per_px)


def glyphs_of(results: Results, project: Project, progress: Progress = SILENT) -> list[tuple[Zone, HairGlyphs]]:
    """Return the hairs that stand for the growth on paper, zone by zone, at true length and width."""
    gap = max(project.canvas.width_mm, project.canvas.height_mm) * 0.012
    found = []
    for index, zone in growing(project):
        field = growth_of(results, project, index, progress)
        if field is not None:
            _, varied = varied_of(results, project, index, progress)
            found.append((zone, place_glyphs(field, project.coat_of(zone), gap, index, varied)))
    return found


def map_layers(results: Results, project: Project, progress: Progress = SILENT) -> tuple[Layer, ...]:
    """Return the map as layers in mm: zones, markings, edges, fringe, growth, lengths, feathers, laying order."""
    zones, widths = project.back_to_front(), edge_widths(results, project)

    def name(index: int) -> str:
        return zones[index].name if index >= 0 else "bare canvas"

    outlined = tuple(
        Shape(to_mm(project, z.shape.outline()), 0.4, z.name, closed=True)
        for z in zones
        if not z.whole and z.kind != kind_of("marking").key
    )
    marks: list[Shape] = []
    for line, tips in markings_mm(results, project, progress):
        if np.allclose(line, tips):
            marks.append(Shape(line, 0.3, "clean, along the hair"))
        else:
            ends = zip(line, tips, strict=True)
            marks += [Shape(np.array([root - 0.35 * (tip - root), tip]), 0.25, "crossed by hair") for root, tip in ends]
    edges = []
    for border, plan in edges_of(results, project):
        for run, along in zip(border.runs, widths[border.front, border.back], strict=True):
            for first, last, width in even_parts(along):
                grade = grade_of_width(width)
                told = f"{name(border.front)} over {name(border.back)}, {grade} {mm_words(width)}, {plan.reason}"
                line = to_mm(project, run[first : last + 1])
                edges += [Shape(line, width, told, strength=0.3), Shape(line, 0.3, told, dash=DASHES[grade])]
    fringe = [
        Shape(line, 0.3)
        for lines, _ in fringes_of(results, project, progress).values()
        for line in to_mm(project, lines)
    ]
    hairs, numbers = [], []
    for zone, glyphs in glyphs_of(results, project, progress):
        scale = np.float32(project.mm_per_px)
        lines = to_mm(project, glyphs.points_px).astype(np.float32)
        shapes = outlines(lines, np.asarray(glyphs.width_px * scale / 2, np.float32), np.maximum(hair_profile(), 0.12))
        hairs += [
            Shape(one, 0.0, closed=True, strength=1.0 if known >= 0.5 else 0.4)
            for one, known in zip(shapes, glyphs.sure, strict=True)
        ]
        numbers += [
            Shape(line, float(wide * scale), f"{zone.name}, {mm_words(line_length(line.astype(np.float64)))} long")
            for line, wide in zip(lines, glyphs.width_px, strict=True)
        ]
    plumage = []
    for one in feather_maps(results, project, progress):
        plumage += [Shape(line, 0.2, one.words, closed=True) for line in one.outlines_mm]
        plumage += [Shape(line, 0.15) for line in one.shafts_mm]
        plumage += [Shape(line[4:], 0.15, dash=(0.6, 0.6)) for line in one.hinted_mm]
    laying = laying_of(results, project, progress)
    covering = [k for k in laying.order if zones[k].kind_of().cover]
    order = tuple(
        Shape(np.array([zone_spot(results, project, k)]), title=zones[k].name, words=str(place))
        for place, k in enumerate(covering, 1)
    )
    return (
        Layer("zones", "Zones", outlined),
        Layer("markings", "Markings in a coat", tuple(marks)),
        Layer("edges", "Edges, as wide as their transition", tuple(edges)),
        Layer("fringe", "Hair over the borders", tuple(fringe)),
        Layer("growth", "Growth, thick at the root", tuple(hairs)),
        Layer("lengths", "Lengths and widths of the marks", tuple(numbers)),
        Layer("feathers", "Feathers", tuple(plumage)),
        Layer("laying-order", "Laying order within a pass", order),
    )


@dataclass(frozen=True, slots=True)
class WriteMap:
    """Write the map as SVG layers in mm."""

    results: Results
    project: Project
    path: Path

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`."""
        layers = map_layers(self.results, self.project, progress)
        write_layers(self.project.name, self.project.canvas, layers, self.path)
        return f"{self.path.name}: {count_words(len(layers), 'layer')}"


def zone_spot(results: Results, project: Project, index: int) -> tuple[float, float]:
    """Return the middle of the widest place of a zone, mm on the canvas."""
    import cv2

    frame = growth_frame(project)
    mask = mask_of(results, project, index, frame)
    away = cv2.distanceTransform(np.pad(mask.astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
    i, j = np.unravel_index(int(np.argmax(away)), away.shape)
    return (float(j) + 0.5) * frame.cell_mm, (float(i) + 0.5) * frame.cell_mm


def feather_maps(results: Results, project: Project, progress: Progress) -> list[FeatherMap]:
    """Return the feathers of every zone that has them, mm on the canvas. Raises `Cancelled`."""
    found = []
    for index, zone in feathered(project):
        made = feathers_of(results, project, index, progress).in_order()
        lead, hint = made.pick(made.leading), made.pick(~made.leading)
        words = f"{zone.name}: {feather_words(zone, made.count, len(lead))}"
        parts = (outline_of(lead), lead.shaft, hint.shaft)
        found.append(FeatherMap(words, *(to_mm(project, part).astype(np.float32) for part in parts)))
    return found


def markings_mm(results: Results, project: Project, progress: Progress) -> list[tuple[Points, Points]]:
    """Return the borders of markings, stretch by stretch, with the tips of the hair that crosses them, mm. Raises `Cancelled`."""
    found = []
    for stretches in markings_of(results, project, progress).values():
        for one in stretches:
            reach = one.ragged_mm / project.mm_per_px * (1 if one.tips_out else -1)
            tips = one.line + one.outward * reach if one.crossed else one.line
            found.append((to_mm(project, one.line), to_mm(project, tips)))
    return found
