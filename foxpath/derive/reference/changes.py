"""The reference and the picture it is changed into: both, their difference, and how far every part departs."""

import json
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import numpy as np

from foxpath.core.arrays import Rgb8
from foxpath.core.colour import lab_from_rgb8, rgb8_from_lab
from foxpath.core.errors import InputError
from foxpath.core.reference.departures import NAMES, Departure, matching, middle_values, weight_of
from foxpath.core.reporting import Progress
from foxpath.derive.frames import map_frame
from foxpath.derive.pictures import distances, scaled_measured, scaled_picture
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project

WIDTH = 1200
TIMES = 2.0
"""How many times a difference is shown: a middle grey is none."""
LEAST_CELLS, WHOLLY = 30, 0.5


@dataclass(frozen=True, slots=True)
class PartChange:
    """By how much a part departs in the mean: L*, chroma, warmth (b* and 0.3 of a*), and in all, CIELAB."""

    zone: str
    name: str
    lightness: float
    strength: float
    warmth: float
    whole: float


@dataclass(frozen=True, slots=True, eq=False)
class Changes:
    """What departures do.

    Attributes
    ----------
    reference, changed, difference : (H, W, 3) uint8 sRGB
        Of the canvas.
    parts : tuple of PartChange
        Those that depart, most first.
    """

    reference: Rgb8
    changed: Rgb8
    difference: Rgb8
    parts: tuple[PartChange, ...]


def changes_of(results: Results, project: Project, width: int = WIDTH) -> Changes:
    """Return what the departures of a project do, at a width in pixels."""
    rows = max(1, round(width / project.canvas.aspect))
    # Before anything was left out or moved: that departs from the photograph too.
    whole = replace(project, gone=())
    before, after = scaled_measured(results, whole, width, rows), scaled_picture(results, project, width, rows)
    off = lab_from_rgb8(after) - lab_from_rgb8(before)
    shown = rgb8_from_lab((np.array([50.0, 0, 0], np.float32) + np.float32(TIMES) * off).astype(np.float32))
    return Changes(before, after, shown, _parts(results, project))


def match_colour(
    results: Results, project: Project, zone: str, side: str, target: tuple[float, float, float]
) -> Departure:
    """Return the departure that brings a part (or the whole canvas, with an empty id) to a colour, CIELAB; its mean is the photograph's.

    Raises
    ------
    InputError
        When the part is seen nowhere.
    """
    frame = map_frame(project)
    lab = lab_from_rgb8(scaled_measured(results, project, frame.columns, frame.rows))
    labels, zones = labels_of(results, project, frame), project.back_to_front()
    place = next((k for k, one in enumerate(zones) if one.id == zone), -1)
    before = project.departure(zone, side) or Departure(zone, side)
    middles, far = middle_values(lab, labels, len(zones)), distances(project)
    weight = weight_of(replace(before, zone=zone, side=side), place, labels, lab, middles, far, 1 / frame.cell_mm)
    core = weight > WHOLLY if place < 0 else (weight > WHOLLY) & (labels == place)
    if int(core.sum()) < LEAST_CELLS:
        raise InputError("Nothing of that part is seen.", "Choose another part, or another side of it.")
    mean = lab[core].mean(axis=0)
    return matching(before, (float(mean[0]), float(mean[1]), float(mean[2])), target)


@dataclass(frozen=True, slots=True)
class MatchColour:
    """Find the departure that brings a part to a colour, beside the window; fields as of `match_colour`."""

    results: Results
    project: Project
    zone: str
    side: str
    target: tuple[float, float, float]

    def __call__(self, progress: Progress) -> Departure:
        """Return the departure. Raises `InputError` as `match_colour`, `Cancelled`."""
        progress.at(0.1, "matching a colour")
        return match_colour(self.results, self.project, self.zone, self.side, self.target)


def _parts(results: Results, project: Project) -> tuple[PartChange, ...]:
    frame = map_frame(project)
    labels = labels_of(results, project, frame)
    before = lab_from_rgb8(scaled_measured(results, project, frame.columns, frame.rows))
    after = lab_from_rgb8(scaled_picture(results, project, frame.columns, frame.rows))
    made = []
    for k, zone in enumerate(project.back_to_front()):
        mine = labels == k
        if mine.sum() < LEAST_CELLS:
            continue
        a, b = before[mine].astype(np.float64), after[mine].astype(np.float64)
        off = (b - a).mean(axis=0)
        strength = float((np.hypot(b[:, 1], b[:, 2]) - np.hypot(a[:, 1], a[:, 2])).mean())
        whole = float(np.linalg.norm(b - a, axis=1).mean())
        if whole >= 0.25:
            made.append(PartChange(zone.id, zone.name, float(off[0]), strength, float(off[2] + 0.3 * off[1]), whole))
    return tuple(sorted(made, key=lambda one: -one.whole))


@dataclass(frozen=True, slots=True, eq=False)
class ReadChanges:
    """Read what departures do, beside the window."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> tuple[Project, Changes]:
        """Return the project and its changes. Raises `Cancelled`."""
        progress.at(0.1, "changing the reference")
        return self.project, changes_of(self.results, self.project)


def departures_record(project: Project, parts: tuple[PartChange, ...] = ()) -> dict[str, Any]:
    """Return the departures of a project, and what they do to its parts, for a file."""
    names = {zone.id: zone.name for zone in project.zones}
    said = [
        {"part": names.get(one.zone, "whole canvas"), "side": one.side, **{name: getattr(one, name) for name in NAMES}, "words": one.words(), "note": one.note}
        for one in project.departures
    ]  # fmt: skip
    told = [
        {"part": one.name, "lightness": round(one.lightness, 2), "strength": round(one.strength, 2), "warmth": round(one.warmth, 2), "whole": round(one.whole, 2)}
        for one in parts
    ]  # fmt: skip
    gone = [
        {
            "part": one.zone.name,
            "moved_mm": [round((b - a) * project.mm_per_px, 2) for a, b in zip(*one.to, strict=True)]
            if one.to
            else None,
        }
        for one in project.gone
    ]
    return {"departures": said, "gone": gone, "parts": told}


def write_changes(results: Results, project: Project, folder: Path) -> Changes:
    """Write reference.png, changed.png, difference.png, all three side by side, and departures.json. Raises `AppError`."""
    from foxpath.sheets.pictures import write_file, write_png

    made = changes_of(results, project)
    per_mm = made.reference.shape[1] / project.canvas.width_mm
    three = {"reference": made.reference, "changed": made.changed, "difference": made.difference}
    for name, rgb in three.items():
        write_png(rgb, folder / f"{name}.png", per_mm)
    write_png(np.concatenate(list(three.values()), axis=1), folder / "side-by-side.png")
    record = departures_record(project, made.parts)
    write_file(folder / "departures.json", (json.dumps(record, indent=1, ensure_ascii=False) + "\n").encode())
    return made
