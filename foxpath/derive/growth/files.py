"""Growth handed on: over a bare picture for the command line, and of a project as arrays, pictures and combs."""

import json
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from foxpath.core.arrays import F32, I32, Points, Rgb8
from foxpath.core.errors import AppError
from foxpath.core.frame import Frame
from foxpath.core.growth import (
    OVERRULES_DEG,
    CombStroke,
    Evidence,
    Singular,
    ZoneField,
    disagreement,
    prior_field,
    read_evidence,
    singular_points,
    zone_field,
)
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words
from foxpath.core.zones import fill
from foxpath.derive.growth.fields import AGAINST_DEG, AGAINST_SURE, EVIDENCE_PX, contradictions, growth_of, singular_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project, as_array
from foxpath.sheets.pictures import write_file

USUAL_LENGTH = 0.028
"""Length of hair, as a share of the picture's longer side, when nobody says it."""


@dataclass(frozen=True, slots=True, eq=False)
class PictureGrowth:
    """Growth at every pixel.

    Attributes
    ----------
    angle_deg : (H, W) float32
        Root to tip, -180..180, atan2(dy, dx) with y down; NaN outside the outline.
    sure : (H, W) float32, 0..1
    cells : int
        Cells of the working grid that were solved.
    singular : tuple of Singular
    against : tuple of (int, float)
        Number of a comb, from 1, that the picture speaks against, and the angle between them, degrees.
    """

    angle_deg: F32
    sure: F32
    cells: int = 0
    singular: tuple[Singular, ...] = ()
    against: tuple[tuple[int, float], ...] = ()


def growth_of_picture(
    outline: Points,
    parts: dict[str, Points],
    combs: Sequence[Points],
    frame: Frame,
    rgb: Rgb8 | None = None,
    length_px: float = 0.0,
) -> PictureGrowth:
    """Fill in growth inside an outline of a picture.

    Parameters
    ----------
    outline : (N, 2) float64
        A polygon in pixels.
    parts : dict of name to (N, 2) float64
        Parts inside it that are solved by themselves; the later lies in front.
    combs : sequence of (N, 2) float64
        Each speaks for the part under most of it.
    frame : Frame
        The working grid, over the whole picture.
    rgb : (H, W, 3) uint8, optional
        The picture, of any size; without it only combs speak.
    length_px : float
        Length of the hair, pixels; 0 takes the usual.
    """
    width, height = round(frame.crop.width), round(frame.crop.height)
    polygons = [outline, *parts.values()]
    labels = _label(polygons, frame, frame.shape)
    owned: list[list[int]] = [[] for _ in polygons]
    for number, comb in enumerate(combs):
        at = np.floor(frame.to_grid(comb)).astype(int)
        j, i = np.clip(at[:, 0], 0, frame.columns - 1), np.clip(at[:, 1], 0, frame.rows - 1)
        under = labels[i, j]
        if (under >= 0).any():
            owned[int(np.bincount(under[under >= 0]).argmax())].append(number)
    guess = prior_field(frame, np.zeros((0, 2)), animal=labels >= 0)
    length = length_px or USUAL_LENGTH * max(width, height)
    seen = _evidence(rgb, frame) if rgb is not None else None
    fields: list[ZoneField | None] = []
    singular: list[Singular] = []
    against: list[tuple[int, float]] = []
    for index in range(len(polygons)):
        mask = labels == index
        if not mask.any():
            fields.append(None)
            continue
        own = [CombStroke(combs[k]) for k in owned[index]]
        off = [disagreement(one.points, seen, mask, frame, length) for one in own] if seen is not None else []
        quiet = [one.points for one, (angle, _) in zip(own, off, strict=False) if abs(angle) > OVERRULES_DEG]
        field = zone_field(mask, own, frame, guess, evidence=seen, length_px=length, quiet=quiet)
        fields.append(field)
        singular += singular_points(field)
        against += [
            (k + 1, abs(angle))
            for k, (angle, known) in zip(owned[index], off, strict=False)
            if abs(angle) > AGAINST_DEG and known > AGAINST_SURE
        ]
    # Up to the picture's own pixels: part by part, so that no direction is averaged across a border.
    fine = _label(polygons, Frame(frame.crop, width, height, 1.0), (height, width))
    angle_deg, sure = _at_pixels(fields, fine)
    return PictureGrowth(angle_deg, sure, int((labels >= 0).sum()), tuple(singular), tuple(against))


def _label(polygons: Sequence[Points], frame: Frame, shape: tuple[int, int]) -> I32:
    """Return which polygon lies in front at each cell, those behind the first left out; -1 outside."""
    whole = fill(frame.to_grid(polygons[0]), shape)
    labels = np.full(shape, -1, np.int32)
    labels[whole] = 0
    for index, polygon in enumerate(polygons[1:], 1):
        labels[fill(frame.to_grid(polygon), shape) & whole] = index
    return labels


def _evidence(rgb: Rgb8, frame: Frame) -> Evidence:
    import cv2

    height, width = rgb.shape[:2]
    scale = min(1.0, EVIDENCE_PX / max(height, width))
    if scale < 1:
        size = (round(width * scale), round(height * scale))
        rgb = np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
    return read_evidence(rgb, frame.rows, frame.columns, frame.crop.width / rgb.shape[1])


def _at_pixels(
    fields: Sequence[ZoneField | None], labels: I32, corner: tuple[float, float] = (0, 0)
) -> tuple[F32, F32]:
    """Return angle (NaN outside) and sureness at every pixel of a map of parts whose upper left lies at `corner`."""
    angle = np.full(labels.shape, np.nan, np.float32)
    surely = np.zeros(labels.shape, np.float32)
    for index, field in enumerate(fields):
        if field is None:
            continue
        rows, columns = np.nonzero(labels == index)
        if not len(rows):
            continue
        at = np.stack([columns + 0.5, rows + 0.5], axis=1) + corner
        vectors, known = field.sample(at)
        angle[rows, columns] = np.degrees(np.arctan2(vectors[:, 1], vectors[:, 0]))
        surely[rows, columns] = known
    return angle, surely


def growth_of_project(results: Results, project: Project, progress: Progress = SILENT) -> PictureGrowth:
    """Return the growth of a project at every pixel of its crop; NaN where no hair is seen."""
    crop = project.crop
    zones = project.back_to_front()
    fields: list[ZoneField | None] = []
    singular: list[Singular] = []
    cells = 0
    for index, zone in enumerate(zones):
        progress.at(0.6 * index / len(zones), f"filling growth, {zone.name.lower()}")
        hairy = zone.kind_of().hair and zone.kind_of().cover
        field = growth_of(results, project, index, progress) if hairy else None
        fields.append(field)
        if field is not None:
            singular += singular_of(results, project, index)
            cells += int(field.inside.sum())
    frame = Frame.over(crop, project.mm_per_px, round(max(crop.width, crop.height)))
    labels = labels_of(results, project, frame).astype(np.int32)
    progress.at(0.7, "bringing growth to pixels")
    angle, sure = _at_pixels(fields, labels, (crop.x, crop.y))
    numbers = {comb.id: k for k, comb in enumerate(project.combs, 1)}
    against = tuple((numbers[comb.id], abs(off)) for comb, off in contradictions(results, project))
    return PictureGrowth(angle, sure, cells, tuple(singular), against)


def write_growth(made: PictureGrowth, path: Path) -> list[Path]:
    """Write growth as NPZ, or, when the name ends in .png, as two pictures; returns what was written.

    The direction's picture has 16 bits: 0 is no hair, 1 to 65535 run from -180 to 180 degrees. The sureness's has 8.

    Raises
    ------
    AppError
        When a file cannot be written.
    """
    import io

    import cv2

    if path.suffix.lower() != ".png":
        buffer = io.BytesIO()
        np.savez_compressed(buffer, angle_deg=made.angle_deg, sure=made.sure)
        write_file(path, buffer.getvalue())
        return [path]
    inside = np.isfinite(made.angle_deg)
    turn = np.where(inside, np.nan_to_num((made.angle_deg + 180) / 360) * 65534 + 1, 0)
    direction, sureness = (path.with_name(f"{path.stem}-{what}.png") for what in ("direction", "sure"))
    for name, image in (
        (direction, np.round(turn).astype(np.uint16)),
        (sureness, np.round(made.sure * 255).astype(np.uint8)),
    ):
        write_file(name, cv2.imencode(".png", image)[1].tobytes())
    return [direction, sureness]


def write_combs(project: Project, path: Path) -> None:
    """Write combs, root to tip in reference pixels, as JSON ``[[[x, y], ...], ...]`` or, by the name's ending, as SVG.

    Raises
    ------
    AppError
        When the file cannot be written.
    """
    if path.suffix.lower() != ".svg":
        strokes = [[list(p) for p in comb.points] for comb in project.combs]
        write_file(path, (json.dumps(strokes) + "\n").encode())
        return
    width, height = project.reference.width, project.reference.height
    parts = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" viewBox="0 0 {width} {height}">',
        '<defs><marker id="tip" orient="auto" markerWidth="6" markerHeight="6" refX="5" refY="3">',
        '<path d="M0 0 L6 3 L0 6 z"/></marker></defs>',
        '<g fill="none" stroke="#000000" stroke-width="2" stroke-linecap="round" marker-end="url(#tip)">',
    ]
    for comb in project.combs:
        line = " L".join(f"{x:.2f} {y:.2f}" for x, y in comb.points)
        parts.append(f'<path id="{comb.id}" d="M{line}"/>')
    write_file(path, "\n".join([*parts, "</g>", "</svg>", ""]).encode())


@dataclass(frozen=True, slots=True)
class SaveGrowth:
    """Write the growth or the combs of a project; what, the file's ending says."""

    results: Results
    project: Project
    path: Path

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`."""
        if self.path.suffix.lower() in (".json", ".svg"):
            if not self.project.combs:
                raise AppError("There is no comb to save yet.", "Draw one along the hair first.")
            write_combs(self.project, self.path)
            return f"{self.path.name}: {count_words(len(self.project.combs), 'comb')}"
        made = growth_of_project(self.results, self.project, progress.part(0, 0.8))
        progress.at(0.85, "writing the growth")
        return " and ".join(one.name for one in write_growth(made, self.path))


def read_combs(data: bytes, name: str) -> list[Points]:
    """Return combs from JSON bytes, ``[[[x, y], ...], ...]`` root to tip.

    Raises
    ------
    AppError
        When it is no such list.
    """
    try:
        value = json.loads(data.decode("utf-8"))
        combs = [as_array(tuple((float(x), float(y)) for x, y in stroke)) for stroke in value]
    except (ValueError, TypeError, RecursionError):
        raise AppError(f"{name} holds no combs.", "Write [[[x, y], ...], ...], each root to tip.") from None
    if any(len(comb) < 2 or not np.isfinite(comb).all() for comb in combs):
        raise AppError(f"{name} holds a comb with fewer than two points.", "Each comb runs from root to tip.")
    return combs
