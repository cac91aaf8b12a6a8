"""Make `data/fox.jpg` and `data/fox.json` again: ``python -m foxpath.demo.make``."""

import io
import json
from pathlib import Path

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.units import CanvasSize
from foxpath.demo import head
from foxpath.document import edits, plan_edits
from foxpath.document.fields import project_to_fields
from foxpath.document.model import Project

# Name, kind, outline of the model, whether it turns with the head, every which point of it is kept.
ZONES = (
    ("Back and shoulder", "long-fur", "back", False),
    ("Bib", "long-fur", "bib", False),
    ("Near ear", "short-fur", "near-ear", True),
    ("Far ear", "short-fur", "far-ear", True),
    ("Near ear, inside", "long-fur", "near-ear-inner", True),
    ("Far ear, inside", "long-fur", "far-ear-inner", True),
    ("Forehead", "short-fur", "head", True),
    ("Near ruff", "long-fur", "near-cheek", True),
    ("Far ruff", "long-fur", "far-cheek", True),
    ("Muzzle", "short-fur", "muzzle", True),
    ("Near eye", "eye", "near-eye", True),
    ("Far eye", "eye", "far-eye", True),
    ("Nose", "skin", "nose", True),
    ("Near whiskers", "whisker", "near-whiskers", True),
    ("Far whiskers", "whisker", "far-whiskers", True),
)

# Zone, layer of the model, root in the head's frame, length in its units.
COMBS: tuple[tuple[str, str, tuple[float, float], float], ...] = (
    ("Bib", "bib", (-30, 400), 120),
    ("Bib", "bib", (-190, 330), 130),
    ("Bib", "bib", (190, 340), 130),
    ("Bib", "bib", (40, 500), 110),
    ("Back and shoulder", "back", (330, 240), 150),
    ("Near ear", "ear", (104, -222), 90),
    ("Far ear", "ear", (-104, -222), 90),
    ("Near ear", "ear", (262, -130), 80),
    ("Far ear", "ear", (-262, -130), 80),
    ("Near ear, inside", "ear-hair", (160, -190), 96),
    ("Far ear, inside", "ear-hair", (-160, -190), 96),
    ("Forehead", "face", (18, -70), 90),
    ("Forehead", "face", (-18, -70), 90),
    ("Forehead", "face", (140, -60), 80),
    ("Forehead", "face", (-140, -60), 80),
    ("Forehead", "face", (196, 18), 80),
    ("Forehead", "face", (-196, 18), 80),
    ("Forehead", "face", (104, 50), 50),
    ("Forehead", "face", (-104, 50), 50),
    ("Near ruff", "face", (120, 150), 90),
    ("Near ruff", "face", (230, 160), 90),
    ("Far ruff", "face", (-120, 150), 90),
    ("Far ruff", "face", (-230, 160), 90),
    ("Muzzle", "face", (4, 150), 70),
    ("Muzzle", "face", (0, 252), 30),
    ("Muzzle", "face", (58, 180), 22),
    ("Muzzle", "face", (-58, 180), 22),
)


def true_stroke(layer: str, root: tuple[float, float], length: float, points: int = 6) -> Points:
    """Return a stroke along the known growth, picture pixels, root to tip."""
    zero = np.zeros(1)
    at = np.array([root], float)
    lines = head.trace(layer, at[:, 0], at[:, 1], np.array([length]), zero, zero, points)
    return np.asarray(head.lines_px(layer, lines)[0])


def _whisker_combs(side: int) -> list[F64]:
    combs = []
    for angle in (-0.14, 0.3):
        reach = np.array([0.0, 0.5, 1.0]) * 170
        x = side * (58 + reach * np.cos(angle))
        y = 226 + reach * np.sin(angle) + 10 * (reach / 170) ** 2
        combs.append(np.stack(head.to_picture(x, y), axis=1))
    return combs


def fox(data: bytes) -> Project:
    """Return the demo project over the picture's bytes."""
    project = edits.new_project(data, "vixen-in-frost.jpg", CanvasSize(500, 400), "Vixen in frost")
    ids: dict[str, str] = {}
    for name, kind, outline, turns in ZONES:
        points = head.outline_px(head.shapes()[outline], head=turns)
        project, ids[name] = edits.add_zone(project, name, kind, points)
    for zone, layer, root, length in COMBS:
        project, _ = edits.add_comb(project, true_stroke(layer, root, length), ids[zone])
    for name, side in (("Near whiskers", 1), ("Far whiskers", -1)):
        for stroke in _whisker_combs(side):
            project, _ = edits.add_comb(project, stroke, ids[name])
    # At the rim of an ear the inner hair lies over the short fur: the combs that speak of what lies beneath are kept.
    for zone in ("Near ear", "Far ear"):
        project = edits.keep_comb(project, project.combs_of(ids[zone])[-1].id)
    # What a painter would have decided after looking: finer hair on the muzzle, longer in the ears.
    for zone, values in (
        ("Muzzle", {"length_mm": 6.0, "width_mm": 0.5}),
        ("Forehead", {"length_mm": 11.0}),
        ("Near ear, inside", {"length_mm": 30.0, "spread_deg": 15.0}),
        ("Far ear, inside", {"length_mm": 30.0, "spread_deg": 15.0}),
    ):
        project = edits.set_coat(project, ids[zone], **values)
    hair = true_stroke("bib", (-90, 470), 88)
    project = plan_edits.measure_hair(project, ids["Bib"], hair)
    return edits.set_edge(project, ids["Back and shoulder"], project.zones[0].id, "soft", 7.0)


def write(folder: Path) -> None:
    """Draw the picture and write both files."""
    from PIL import Image

    from foxpath.demo.picture import draw

    buffer = io.BytesIO()
    Image.fromarray(draw()).save(buffer, "JPEG", quality=90, subsampling=0, optimize=True)
    (folder / "fox.jpg").write_bytes(buffer.getvalue())
    fields = project_to_fields(fox(buffer.getvalue()))
    (folder / "fox.json").write_text(json.dumps(fields, indent=1, ensure_ascii=False) + "\n", "utf-8")


if __name__ == "__main__":
    write(Path(__file__).with_name("data"))
