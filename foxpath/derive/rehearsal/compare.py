"""`foxpath compare`: a painting in several schools, side by side as PNG and in numbers as JSON, without a window."""

import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass, replace
from pathlib import Path

import numpy as np

from foxpath import __version__
from foxpath.core.rehearsal.reading import differences
from foxpath.core.reporting import SILENT
from foxpath.derive.passes.schools import compare_schools
from foxpath.derive.pictures import scaled_picture
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.reading import read_painting
from foxpath.derive.results import Results
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.sheets import write_png
from foxpath.sheets.pictures import write_file

GAP_PX = 12


@dataclass(frozen=True, slots=True)
class Compared:
    """A school on a painting: what it takes, and how near its rehearsal comes to the reference (CIEDE2000)."""

    key: str
    name: str
    passes: int
    waits: int
    marks: int
    minutes: float
    mean_difference: float
    worst_difference: float


def compare_into(project: Project, keys: Sequence[str], width: int, folder: Path) -> list[Compared]:
    """Rehearse a painting in schools, and write each finished picture, all of them side by side, and compare.json.

    Raises
    ------
    InputError
        For a school that is not known.
    AppError
        When a file cannot be written.
    """
    results, found, pictures = Results(), [], []
    plain = replace(project, zones=tuple(replace(zone, school="") for zone in project.zones))
    for key in keys:
        own = edits.set_school(plain, key)
        done = rehearse(results, own, width)
        one = next(reading for reading in compare_schools(results, own) if reading.school.key == key)
        shown = (
            done[-1].standing.shown if done else scaled_picture(results, own, width, round(width / own.canvas.aspect))
        )
        mean, worst = differences(list(read_painting(results, own, shown, SILENT))) if done else (0.0, 0.0)
        minutes, off = round(one.minutes, 1), (round(mean, 2), round(worst, 2))
        found.append(Compared(key, one.school.name, one.passes, one.waits, sum(o.marks for o in done), minutes, *off))
        write_png(shown, folder / f"{key}.png", width / own.canvas.width_mm)
        pictures += [shown, np.full((shown.shape[0], GAP_PX, 3), 255, np.uint8)]
    write_png(np.concatenate(pictures[:-1], axis=1), folder / "side-by-side.png")
    record = {"program": f"foxpath {__version__}", "schools": [asdict(one) for one in found]}
    write_file(folder / "compare.json", (json.dumps(record, indent=1, ensure_ascii=False) + "\n").encode())
    return found
