"""What the sheets and the SVG layers show of the map: lengths, laying order, feathers, edges, markings."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.brush import hair_profile, outlines
from foxpath.core.curves import arc_length
from foxpath.core.edges import even_parts, grade_of_width
from foxpath.core.feathers import outline_of
from foxpath.core.growth import HairGlyphs, place_glyphs
from foxpath.core.progress import SILENT, Progress
from foxpath.core.scatter import even_points
from foxpath.core.units import count_words, mm_words
from foxpath.core.zones import kind_of
from foxpath.derive.feathers import feathered
from foxpath.derive.results import Results, growing
from foxpath.document.model import Project, Zone
from foxpath.sheets import FeatherMap, Layer, LengthRow, Maps, Shape, write_layers
from foxpath.sheets.map_pages import length_words, share_words

SAMPLES = 44
"""Numbers on the map of lengths."""
DASHES = {"lost": (0.8, 3.0), "soft": (4.0, 2.0), "firm": (), "hard": ()}


def to_mm(project: Project, points: Points | F32) -> Points:
    """Bring reference pixels to mm on the canvas, whatever the leading shape."""
    return np.asarray((np.asarray(points, np.float64) - (project.crop.x, project.crop.y)) * project.mm_per_px)


def glyphs_of(results: Results, project: Project, progress: Progress = SILENT) -> list[tuple[Zone, HairGlyphs]]:
    """Return the hairs that stand for the growth on paper, zone by zone, at true length and width."""
    gap = max(project.canvas.width_mm, project.canvas.height_mm) * 0.012
    found = []
    for index, zone in growing(project):
        field = results.field(project, index, progress)
        if field is not None:
            _, varied = results.varied(project, index, progress)
            found.append((zone, place_glyphs(field, project.coat_of(zone), gap, index, varied)))
    return found


def feather_words(zone: Zone, count: int, leading: int) -> str:
    """Say how many feathers a zone has and how many are worth painting, e.g. "42 coverts, 17 worth painting"."""
    kind = {"covert": "covert", "flight-feather": "flight feather"}.get(zone.kind, "feather")
    if leading == 0:
        return f"about {count_words(count, kind)}, all to be hinted" if count else "no feathers here yet"
    return f"{count_words(count, kind)}, {leading} worth painting"


def make_maps(results: Results, project: Project, progress: Progress = SILENT) -> Maps:
    """Gather what the pages of lengths, laying order and feathers show."""
    zones, frame = project.back_to_front(), results.growth_frame(project)
    labels, lengths, facts = results.labels(project, frame), results.lengths(project, progress), results.facts(project)
    at = even_points(SAMPLES * 3, np.random.default_rng(5)).astype(np.float64) * (frame.columns, frame.rows)
    spots: list[tuple[float, float, float]] = []
    for x, y in at:
        index = int(labels[int(y), int(x)])
        if index >= 0 and zones[index].kind_of().hair and len(spots) < SAMPLES:
            length = project.coat_of(zones[index]).length_mm * float(lengths.length[int(y), int(x)])
            spots.append((x * frame.cell_mm, y * frame.cell_mm, length))
    passes = {plan.role.act: plan for plan in results.passes(project)}

    def brush(role: str, index: int) -> str:
        choice = passes[role].brushes.get(index) if role in passes and index in passes[role].zones else None
        return choice.brush.words() if choice is not None else ""

    rows = []
    for index, zone in enumerate(zones):
        if not zone.kind_of().painted:
            continue
        coat, (low, high) = facts[index].coat, facts[index].lengths
        finest = passes["lights"].brushes.get(index) if "lights" in passes else None
        note = f"as {finest.made_as}s" if finest is not None and finest.made_as in ("clump", "hint") else ""
        rows.append(
            LengthRow(
                index + 1,
                zone.name,
                length_words(low * coat.length_mm, high * coat.length_mm),
                mm_words(coat.width_mm),
                brush("darks", index),
                brush("lights", index) or brush("whiskers", index) or brush("background", index),
                note,
            )
        )
    laying = results.laying(project, progress)
    covering = [k for k in laying.order if zones[k].kind_of().cover]
    order = tuple((place, zones[k].name, _spot(results, project, k)) for place, k in enumerate(covering, 1))
    words = share_words(laying.said_share)
    for ring in laying.cycles:
        names = " over ".join(zones[k].name.lower() for k in (*ring, ring[0]))
        words += f" A ring: {names}; depth decides there, and a parting or a zone of its own would end it."
    hanging = [line for lines, _ in results.fringes(project, progress).values() for line in to_mm(project, lines)]
    # On paper every third hair says enough.
    return Maps(
        tuple(hanging[::3]),
        np.array(spots, np.float64).reshape(-1, 3),
        tuple(rows),
        tuple(to_mm(project, zone.shape.outline()) for zone in zones if not zone.whole),
        order,
        words,
        tuple(_feather_maps(results, project, progress)),
        tuple(_markings(results, project, progress)),
    )


def _spot(results: Results, project: Project, index: int) -> tuple[float, float]:
    """Return the middle of the widest place of a zone, mm on the canvas."""
    import cv2

    frame = results.growth_frame(project)
    mask = results.mask(project, index, frame)
    away = cv2.distanceTransform(np.pad(mask.astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
    i, j = np.unravel_index(int(np.argmax(away)), away.shape)
    return (float(j) + 0.5) * frame.cell_mm, (float(i) + 0.5) * frame.cell_mm


def _feather_maps(results: Results, project: Project, progress: Progress) -> list[FeatherMap]:
    found = []
    for index, zone in feathered(project):
        made = results.feathers(project, index, progress).in_order()
        lead, hint = made.pick(made.leading), made.pick(~made.leading)
        words = f"{zone.name}: {feather_words(zone, made.count, len(lead))}"
        parts = (outline_of(lead), lead.shaft, hint.shaft)
        found.append(FeatherMap(words, *(to_mm(project, part).astype(np.float32) for part in parts)))
    return found


def _markings(results: Results, project: Project, progress: Progress) -> list[tuple[Points, Points]]:
    found = []
    for stretches in results.markings(project, progress).values():
        for one in stretches:
            reach = one.ragged_mm / project.mm_per_px * (1 if one.tips_out else -1)
            tips = one.line + one.outward * reach if one.crossed else one.line
            found.append((to_mm(project, one.line), to_mm(project, tips)))
    return found


def map_layers(results: Results, project: Project, progress: Progress = SILENT) -> tuple[Layer, ...]:
    """Return the map as layers in mm: zones, markings, edges, fringe, growth, lengths, feathers, laying order."""
    zones, widths = project.back_to_front(), results.edge_widths(project)

    def name(index: int) -> str:
        return zones[index].name if index >= 0 else "bare canvas"

    outlined = tuple(
        Shape(to_mm(project, z.shape.outline()), 0.4, z.name, closed=True)
        for z in zones
        if not z.whole and z.kind != kind_of("marking").key
    )
    marks: list[Shape] = []
    for line, tips in _markings(results, project, progress):
        if np.allclose(line, tips):
            marks.append(Shape(line, 0.3, "clean, along the hair"))
        else:
            ends = zip(line, tips, strict=True)
            marks += [Shape(np.array([root - 0.35 * (tip - root), tip]), 0.25, "crossed by hair") for root, tip in ends]
    edges = []
    for border, plan in results.edges(project):
        for run, along in zip(border.runs, widths[border.front, border.back], strict=True):
            for first, last, width in even_parts(along):
                grade = grade_of_width(width)
                told = f"{name(border.front)} over {name(border.back)}, {grade} {mm_words(width)}, {plan.reason}"
                line = to_mm(project, run[first : last + 1])
                edges += [Shape(line, width, told, strength=0.3), Shape(line, 0.3, told, dash=DASHES[grade])]
    fringe = [
        Shape(line, 0.3) for lines, _ in results.fringes(project, progress).values() for line in to_mm(project, lines)
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
            Shape(
                line,
                float(wide * scale),
                f"{zone.name}, {mm_words(float(arc_length(line.astype(np.float64))[-1]))} long",
            )
            for line, wide in zip(lines, glyphs.width_px, strict=True)
        ]
    plumage = []
    for one in _feather_maps(results, project, progress):
        plumage += [Shape(line, 0.2, one.words, closed=True) for line in one.outlines_mm]
        plumage += [Shape(line, 0.15) for line in one.shafts_mm]
        plumage += [Shape(line[4:], 0.15, dash=(0.6, 0.6)) for line in one.hinted_mm]
    laying = results.laying(project, progress)
    covering = [k for k in laying.order if zones[k].kind_of().cover]
    order = tuple(
        Shape(np.array([_spot(results, project, k)]), title=zones[k].name, words=str(place))
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
