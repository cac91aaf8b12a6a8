"""What is printed and written down of a photograph of the canvas: the squared canvas, the list, and progress.json."""

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any

from foxpath import __version__
from foxpath.core.progress.touches import WORDS
from foxpath.core.reporting import Progress
from foxpath.core.units import count_words, duration_words
from foxpath.derive.pictures import scaled_picture
from foxpath.derive.progress.reading import VERDICTS, PhotoRead, against_reference, read_photo
from foxpath.derive.progress.touchups import TouchUp
from foxpath.derive.results import Results
from foxpath.document.model import CanvasPhoto, Project
from foxpath.sheets import Book, Draw, write_book, write_png
from foxpath.sheets.pictures import write_file
from foxpath.sheets.progress_page import ProgressSheet, TouchRow, progress_pages


def progress_fields(read: PhotoRead, reference: Mapping[int, float] | None = None) -> dict[str, Any]:
    """Return the entries of progress.json; `reference` is how far each part lies from the reference itself (CIELAB)."""
    looked, reference = read.looked, reference or {}
    return {
        "program": f"foxpath {__version__}",
        "after": looked.after,
        "corners": [[round(float(x), 2), round(float(y), 2)] for x, y in looked.corners],
        "corner_doubt_mm": round(looked.doubt_mm, 2),
        "registration_mm": round(looked.registration_mm, 2),
        "balanced_by": looked.by,
        "glare_share": round(looked.glare_share, 4),
        "shown_share": round(looked.shown_share, 4),
        "viewing_m": round(looked.from_m, 2),
        "parts": [
            {
                "name": looked.about.parts[one.part].name,
                "d_l": round(one.d_l, 2),
                "d_c": round(one.d_c, 2),
                "d_h": None if math.isnan(one.d_h) else round(one.d_h, 1),
                "de": round(one.de, 2),
                "judged_share": round(one.seen, 3),
                "reference_de": round(reference[one.part], 2) if one.part in reference else None,
            }
            for one in looked.parts
        ],
        "list": [_entry(one) for one in read.entries],
        "stop": read.stop,
        "reasons": list(read.reasons),
    }


def _entry(one: TouchUp) -> dict[str, Any]:
    return {
        "kind": one.kind,
        "part": one.name,
        "at": [round(float(one.at[0]), 1), round(float(one.at[1]), 1)],
        "size": round(float(one.size), 2),
        "doubt": round(float(one.doubt), 2),
        "unit": one.unit,
        "visible_from_m": round(float(one.seen_m), 2),
        "says": one.says,
        "why": one.why,
        "remedy": one.remedy,
        "tool": one.tool,
        "pile": one.pile,
        "minutes": one.minutes,
        "state": one.state or "not known",
        "when": one.when,
        "said": one.word,
        "below_the_line": one.below,
    }


def touch_up_pages(project: Project, read: PhotoRead) -> list[Draw]:
    """Return the pages of the list."""
    crop = project.crop
    rows = []
    for one in read.entries:
        if one.word in ("struck", "done"):
            continue
        facts = " · ".join(
            part for part in (
                one.tool, one.pile, f"{one.minutes} min", _when(one.when), f"seen from {one.seen_m:.1f} m" if one.kind != "own" else "",
                WORDS.get(one.word, ""),
            ) if part
        )  # fmt: skip
        at = ((one.at[0] - crop.x) / crop.width, (one.at[1] - crop.y) / crop.height)
        rows.append(TouchRow(one.number, at, one.says, one.remedy, facts, not one.below and one.word != "leave"))
    taken = f"{datetime.fromisoformat(read.photo.taken):%-d %b %Y, %H:%M}" if read.photo is not None else ""
    mend = read.open
    advice = VERDICTS[read.stop] if not mend else f"{read.words()} · about {duration_words(read.minutes())}"
    trust = tuple(f"{matter}: {found} · {holds}" for matter, found, holds in read.looked.trust())
    sheet = ProgressSheet(
        "Touch-ups", taken or "photograph of the canvas", read.looked.rgb, advice, read.reasons, trust, tuple(rows)
    )
    return progress_pages(sheet)


def _when(when: str) -> str:
    return "now" if when == "now" else f"from {datetime.fromisoformat(when):%a %-d %b}"


@dataclass(frozen=True, slots=True, eq=False)
class WriteProgress:
    """Write squared.png, touch-ups.pdf and progress.json of a photograph into a folder."""

    results: Results
    project: Project
    photo: CanvasPhoto
    folder: Path
    paper: str = "A4"

    def __call__(self, progress: Progress) -> str:
        """Return what was found, in words. Raises `AppError`, `Cancelled`."""
        read = read_photo(self.results, self.project, self.photo, progress.part(0, 0.9))
        write_progress(self.results, self.project, read, self.folder, self.paper)
        return said_of(read)


def write_progress(results: Results, project: Project, read: PhotoRead, folder: Path, paper: str = "A4") -> None:
    """Write the three files. Raises `AppError` when a file cannot be written."""
    looked = read.looked
    write_png(looked.rgb, folder / "squared.png", looked.about.size[0] / project.canvas.width_mm)
    write_file(
        folder / "progress.json",
        (
            json.dumps(
                progress_fields(read, against_reference(results, project, looked)),
                indent=1,
                ensure_ascii=False,
                allow_nan=False,
            )
            + "\n"
        ).encode(),
    )
    reference = scaled_picture(results, project, 800, round(800 / project.canvas.aspect))
    book = Book(project.name, project.canvas, project.transfer.grid, reference, tuple(touch_up_pages(project, read)))
    write_book(book, folder / "touch-ups.pdf", paper)


def said_of(read: PhotoRead) -> str:
    """Say what was found, in a few lines."""
    lines = [f"{read.words()}. {' '.join(read.reasons)}"]
    shown = [one for one in read.entries if not one.below]
    lines += [f"{one.number}. {one.says} {one.remedy} {one.minutes} min, {_when(one.when)}." for one in shown[:10]]
    below = len(read.entries) - len(shown)
    if below:
        lines.append(
            f"Below the line: {count_words(below, 'difference')} that nobody sees from {read.looked.from_m:.1f} m."
        )
    return "\n".join(lines)
