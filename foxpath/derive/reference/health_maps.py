"""`foxpath inspect`: a picture's health maps as PNG and its numbers as JSON, without a window."""

import json
import math
from pathlib import Path
from typing import Any

import numpy as np

from foxpath import __version__
from foxpath.core.arrays import F32, Rgb8
from foxpath.core.findings import Finding
from foxpath.core.reference.health import Health
from foxpath.core.reporting import SILENT
from foxpath.derive.pictures import measured_picture
from foxpath.derive.reference.inspection import Inspect, Inspection
from foxpath.derive.results import Results
from foxpath.document.model import Project
from foxpath.sheets import write_png
from foxpath.sheets.pictures import write_file

MAP_PX = 1200
"""Longer side of a map's picture."""
MAPS = {
    "blur": ("blur_map", "px", 8.0),
    "halo": ("overshoot_map", "share of the edge's step", 0.3),
    "noise": ("noise_map", "levels of 255", 16.0),
    "clipped": ("clipped_map", "share of area", 1.0),
    "blocked": ("blocked_map", "share of area", 1.0),
    "cast": ("cast_map", "Lab units", 14.0),
}
"""By key: attribute of `Health`, unit, and the value that is drawn white."""


def map_of(health: Health, key: str) -> F32:
    """Return a health map by its key; flat focus is judged from the blur."""
    values: F32 = getattr(health, MAPS["blur" if key == "focus" else key][0])
    return values


def map_picture(values: F32, white: float, size: tuple[int, int]) -> Rgb8:
    """Return a map as greys, (rows, columns, 3): black is 0, white is `white`; what is unknown is hatched."""
    import cv2

    columns, rows = size
    known = np.isfinite(values)
    share = np.clip(np.where(known, values, 0) / white, 0, 1).astype(np.float32)
    big = cv2.resize(share, (columns, rows), interpolation=cv2.INTER_LINEAR)
    there = cv2.resize(known.astype(np.float32), (columns, rows), interpolation=cv2.INTER_NEAREST) > 0.5
    y, x = np.ogrid[0:rows, 0:columns]
    hatch = np.where((x + y) % 12 < 2, 0.45, 0.2)
    grey = np.where(there, big, hatch)
    return np.repeat((grey * 255 + 0.5).astype(np.uint8)[..., None], 3, axis=2)


def record_of(inspection: Inspection) -> dict[str, Any]:
    """Return every number of an inspection, units in the names."""
    project, health = inspection.project, inspection.health
    crop, mm = project.crop, project.mm_per_px

    def number(value: float, digits: int = 3) -> float | None:
        return round(float(value), digits) if math.isfinite(value) else None

    def judged(one: Finding) -> dict[str, Any]:
        at = None if one.at is None else [round(one.at[0], 1), round(one.at[1], 1)]
        return {
            "key": one.key, "name": one.name, "number": one.number, "level": one.level or "fine",
            "says": one.says, "why": one.why, "at_px": at,
        }  # fmt: skip

    return {
        "made_by": f"foxpath {__version__}",
        "image": project.reference.name,
        "width_px": project.reference.width,
        "height_px": project.reference.height,
        "canvas_mm": [project.canvas.width_mm, project.canvas.height_mm],
        "crop_px": [round(v, 1) for v in (crop.x, crop.y, crop.width, crop.height)],
        "mm_per_px": round(mm, 5),
        "blur_px": number(health.blur_px),
        "blur_mm": number(health.blur_px * mm),
        "blur_edges": health.blur_edges,
        "overshoot_share": number(health.overshoot, 4),
        "noise_levels": number(health.noise),
        "clipped_share": number(health.clipped, 5),
        "blocked_share": number(health.blocked, 5),
        "cast_ab": [number(v, 2) for v in health.cast],
        "cast_from": health.cast_from,
        "subject_blur_px": number(health.near_px),
        "surroundings_blur_px": number(health.far_px),
        "health": [judged(one) for one in inspection.health_says],
        "composition": [judged(one) for one in inspection.composition_says],
        "light": [
            {"hour": number(e.hour, 2), "height_deg": number(e.height_deg, 1), "sure": number(e.sure, 2), "from": e.why}
            for e in inspection.evidence
        ],
    }


def inspect_into(project: Project, folder: Path) -> Inspection:
    """Inspect a project's reference and write `health.json` and the maps into a folder.

    Raises
    ------
    AppError
        When a file cannot be written.
    """
    results = Results()
    inspection = Inspect(results, project)(SILENT)
    record = record_of(inspection)
    worked = measured_picture(results, project).rgb
    record["worked_on_px"] = [worked.shape[1], worked.shape[0]]
    reference = project.reference
    scale = MAP_PX / max(reference.width, reference.height)
    size = (max(1, round(reference.width * scale)), max(1, round(reference.height * scale)))
    record["maps"] = {}
    for key, (attribute, unit, white) in MAPS.items():
        picture = map_picture(getattr(inspection.health, attribute), white, size)
        write_png(picture, folder / f"{key}.png", scale / project.mm_per_px)
        record["maps"][key] = {"file": f"{key}.png", "unit": unit, "white_is": white}
    write_file(folder / "health.json", (json.dumps(record, indent=1, ensure_ascii=False) + "\n").encode())
    return inspection
