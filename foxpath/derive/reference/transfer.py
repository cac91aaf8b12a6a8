"""The line drawing: borders of zones and of markings, without hair, as the painter cleaned it."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from foxpath.core.arrays import Points, Rgb8
from foxpath.core.curves import line_length
from foxpath.core.errors import AppError
from foxpath.core.frame import Crop, Frame
from foxpath.core.reference.transfer import picture_lines, without
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.pictures import measured_key, measured_picture, scaled_measured
from foxpath.derive.reference.inspection import READ_CELLS
from foxpath.derive.reference.seeing import Look, halves
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project, as_array
from foxpath.sheets import Drawing, write_png, write_svg, write_tiles

RUBBER_MM = 2.5
"""How far a stroke of the rubber reaches to each side."""
_DOUBLE_MM = 2.5
"""A line of the picture this close to an outline says the same and is left out."""
MOST_PIXELS = 40_000_000


def lines_of(results: Results, project: Project) -> tuple[Points, ...]:
    """Return the drawing's lines in reference pixels: outlines, the picture's own lines, and the painter's word."""
    mm = project.mm_per_px
    outlines = [run for border, _ in edges_of(results, project) for run in border.runs]
    found = without(_picture_lines(results, project), outlines, _DOUBLE_MM / mm)
    found = [line for line in found if len(line) > 1 and float(np.ptp(line, axis=0).max()) * mm > 3]
    kept = without([*outlines, *found], [as_array(one) for one in project.transfer.rubbed], RUBBER_MM / mm)
    return (*kept, *(as_array(one) for one in project.transfer.drawn))


def _picture_lines(results: Results, project: Project) -> tuple[Points, ...]:
    lengths = [project.coat_of(z).length_mm for z in project.zones if z.kind_of().hair and z.kind != "whisker"]
    hair_px = (float(np.median(lengths)) if lengths else 12.0) / project.mm_per_px
    key = ("lines", measured_key(results, project), project.crop, round(hair_px, 1), project.outlines)

    def make() -> tuple[Points, ...]:
        crop = project.crop
        scale = min(1.0, 1600 / max(crop.width, crop.height))
        columns, rows = max(1, round(crop.width * scale)), max(1, round(crop.height * scale))
        rgb = scaled_measured(results, project, columns, rows)
        frame = Frame.over(crop, project.mm_per_px, READ_CELLS)
        labels, zones = labels_of(results, project, frame), project.back_to_front()
        alone = len(zones) < 2
        made = []
        for line in picture_lines(rgb, hair_px * scale):
            at = line / scale + (crop.x, crop.y)
            j, i = np.clip(frame.to_grid(at), 0, (frame.columns - 1, frame.rows - 1)).astype(int).T
            under = labels[i, j]
            zone = zones[int(np.bincount(under + 1).argmax()) - 1]
            if not alone and zone.kind == "background":
                continue
            # A line no longer than the hair it runs through is hair.
            least_mm = 1.6 * project.coat_of(zone).length_mm if zone.kind_of().hair else 2.0
            if alone or line_length(at) * project.mm_per_px > least_mm:
                made.append(at)
        return tuple(made)

    return results.memo.get(key, make)


def drawing_of(results: Results, project: Project, *, squared: bool = True) -> Drawing:
    """Return the drawing on the canvas, in millimetres, with the head's axes."""
    crop, mm = project.crop, project.mm_per_px

    def on_canvas(points: Points) -> Points:
        return np.asarray((points - (crop.x, crop.y)) * mm)

    axes: list[Points] = []
    found = project.axes_or_eyes()
    if found is not None:
        (lx, ly), (rx, ry) = found.left, found.right
        reach = float(np.hypot(rx - lx, ry - ly))
        foot, along = found.place(0, -1.2 * reach), found.place(0, 2.2 * reach)
        across = [found.place(-1.2 * reach, 0), found.place(1.2 * reach, 0)]
        axes = [on_canvas(np.array(across)), on_canvas(np.array([foot, along]))]
    grid = project.transfer.grid if squared else None
    lines = tuple(on_canvas(line) for line in lines_of(results, project))
    return Drawing(project.name, project.canvas, lines, tuple(axes), grid)


@dataclass(frozen=True, slots=True)
class FindLines:
    """Find the lines of the drawing."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> tuple[Points, ...]:
        """Return open lines in reference pixels."""
        progress.at(0.1, "drawing the lines")
        return lines_of(self.results, self.project)


@dataclass(frozen=True, slots=True)
class WriteDrawing:
    """Write the drawing as SVG, or as true-size sheets when the file is a PDF."""

    results: Results
    project: Project
    path: Path
    paper: str = "A4"
    squared: bool = True

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`."""
        progress.at(0.1, "drawing the lines")
        made = drawing_of(self.results, self.project, squared=self.squared)
        if not made.lines:
            raise AppError("There is no line to write yet.", "Outline the animal first, or add lines by hand.")
        progress.at(0.7, "writing the drawing")
        if self.path.suffix.lower() == ".pdf":
            return f"{self.path.name}: {write_tiles(made, self.path, self.paper)} pages"
        write_svg(made, self.path)
        return f"{self.path.name}: {len(made.lines)} lines"


@dataclass(frozen=True, slots=True)
class SaveSeen:
    """Write what is seen of the reference as a picture: its crop through the aids, or all of it as composed.

    Attributes
    ----------
    kinds : frozenset of str
        Aids, see `Aids.kinds`.
    whole : bool
        All of the reference instead of the crop.
    """

    results: Results
    project: Project
    path: Path
    kinds: frozenset[str] = frozenset()
    whole: bool = False

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`."""
        progress.at(0.1, "making the picture")
        rgb, px_per_mm = self.seen()
        progress.at(0.7, "writing the picture")
        write_png(rgb, self.path, px_per_mm)
        return f"{self.path.name}: {rgb.shape[1]} × {rgb.shape[0]} px"

    def seen(self) -> tuple[Rgb8, float]:
        """Return the picture, and its pixels for a millimetre of the canvas."""
        project = self.project
        levels = halves(measured_picture(self.results, project).rgb)
        whole = Crop(0, 0, project.reference.width, project.reference.height)
        part = whole if self.whole else project.crop
        scale = levels[0].shape[1] / whole.width * min(1.0, (MOST_PIXELS / (part.width * part.height)) ** 0.5)
        shown, rgb = Look(levels, whole, part, scale, project, self.kinds)(SILENT)
        k = rgb.shape[1] / shown.width
        x, y = round((part.x - shown.x) * k), round((part.y - shown.y) * k)
        rgb = rgb[max(y, 0) : max(y, 0) + round(part.height * k), max(x, 0) : max(x, 0) + round(part.width * k)]
        return np.ascontiguousarray(rgb), k / project.mm_per_px
