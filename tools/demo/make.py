"""Make the pictures and projects in `data/` again: ``python -m tools.demo.make``."""

import io
import json
from pathlib import Path

import numpy as np

import foxpath.demo
from foxpath.core.arrays import F64, Points
from foxpath.core.curves import closed_curve, open_curve
from foxpath.core.eyes import Ellipse, FoundEye
from foxpath.core.reference.light import Light
from foxpath.core.units import CanvasSize
from foxpath.document import edits
from foxpath.document.convert import project_to_fields
from foxpath.document.model import Project
from tools.demo import head

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


def _fox_eyes(project: Project) -> Project:
    """Mark both eyes as the picture was made."""
    for name, side in (("Near eye", 1), ("Far eye", -1)):
        cx, cy = (float(v[0]) for v in head.to_picture(np.array([side * 109.0]), np.array([-1.0])))
        iris = Ellipse(cx, cy, 37.5, 37.5)
        pupil = Ellipse(cx, cy, 8.2, 20.5, float(np.degrees(0.06 * side - 0.05)))
        found = FoundEye(iris, pupil, "upright", ((cx - 10, cy - 11),), (), (), 1.0, 0.0, ())
        project, _ = edits.add_eye(project, found, name)
    return project


def _in_head(*points: tuple[float, float]) -> Points:
    return head.outline_px(points)


def _fox_features(project: Project) -> Project:
    """Mark nose, mouth and whiskers."""
    project, nose = edits.add_feature(project, "nose", "Nose")
    middle = closed_curve(head.outline_px(head.shapes()["nose"]), 12).mean(axis=0)
    turn = np.linspace(0, 2 * np.pi, 12, endpoint=False)
    light = middle + (-18, -29) + np.stack([21 * np.cos(turn), 5 * np.sin(turn)], axis=1)
    for part, points in (
        ("skin", head.outline_px(head.shapes()["nose"])),
        ("plane", _in_head((-36, 180), (-14, 184), (12, 184), (34, 181))),
        ("philtrum", _in_head((0, 230), (0, 244), (1, 258))),
        ("light", light),
        *(("nostril", _in_head(*((side * x, y) for x, y in _NOSTRIL))) for side in (-1, 1)),
    ):
        project = edits.add_stroke(project, nose, part, points)
    project, mouth = edits.add_feature(project, "mouth", "Mouth")
    for side in (-1, 1):
        line = _in_head((0, 257), (side * 24, 268), (side * 60, 268), (side * 108, 246))
        project = edits.add_stroke(project, mouth, "line", open_curve(line))
    for name, side in (("Near whiskers", 1), ("Far whiskers", -1)):
        project, whiskers = edits.add_feature(project, "whiskers", name)
        for k in range(8):
            x0, y0, angle = side * (44 + 7 * (k % 3)), 212 + 5 * k, -0.18 + 0.085 * k
            reach = 290 - 16 * abs(k - 3)
            t = np.array([0, 0.3, 0.65, 1.0])
            x, y = x0 + side * reach * t * np.cos(angle), y0 + reach * t * np.sin(angle) + 30 * t * t - 16 * t
            project = edits.add_stroke(project, whiskers, "hair", open_curve(_in_head(*zip(x, y, strict=True))))
    return project


_NOSTRIL = ((20, 206), (29, 196), (44, 196), (46, 206), (30, 212))


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
    project = edits.measure_hair(project, ids["Bib"], hair)
    project = edits.set_edge(project, ids["Back and shoulder"], project.zones[0].id, "soft", 7.0)
    return _fox_features(_fox_eyes(project))


JAY_ZONES = (
    ("Tail", "flight-feather", "tail"),
    ("Gatepost", "other", "post"),
    ("Breast", "contour-feather", "breast"),
    ("Back", "contour-feather", "back"),
    ("Legs", "horn", "legs"),
    ("Flight feathers", "flight-feather", "flight"),
    ("Barred coverts", "covert", "coverts"),
    ("Head", "contour-feather", "head"),
    ("Crown", "contour-feather", "crown"),
    ("Moustache", "marking", "moustache"),
    ("Eye", "eye", "eye"),
    ("Beak", "horn", "beak"),
    ("Moss", "cover", "moss"),
)

# Zone, root and length in pixels.
JAY_COMBS: tuple[tuple[str, str, tuple[float, float], float], ...] = (
    ("Tail", "tail", (1010, 1260), 150),
    ("Tail", "tail", (1080, 1500), 120),
    ("Breast", "breast", (520, 760), 120),
    ("Breast", "breast", (480, 960), 120),
    ("Breast", "breast", (600, 1000), 120),
    ("Breast", "breast", (640, 1220), 110),
    ("Breast", "breast", (800, 1240), 90),
    ("Breast", "breast", (640, 760), 90),
    ("Back", "back", (720, 680), 110),
    ("Back", "back", (860, 880), 110),
    ("Back", "back", (950, 1060), 90),
    ("Flight feathers", "flight", (860, 1160), 150),
    ("Flight feathers", "flight", (960, 1320), 110),
    ("Barred coverts", "coverts", (700, 820), 100),
    ("Barred coverts", "coverts", (780, 960), 100),
    ("Head", "head", (440, 470), 60),
    ("Head", "head", (560, 540), 80),
    ("Head", "head", (520, 630), 80),
    ("Head", "head", (650, 580), 70),
    ("Head", "head", (430, 590), 60),
    ("Crown", "crown", (470, 410), 70),
    ("Crown", "crown", (600, 390), 80),
    ("Moss", "moss", (560, 1500), 70),
    ("Moss", "moss", (820, 1490), 70),
)


def jay(data: bytes) -> Project:
    """Return the demo project of the jay over the picture's bytes."""
    from tools.demo import jay as model

    project = edits.new_project(data, "jay-on-a-gatepost.jpg", CanvasSize(240, 300), "Jay on a gatepost")
    ids: dict[str, str] = {}
    for name, kind, outline in JAY_ZONES:
        project, ids[name] = edits.add_zone(project, name, kind, model.outline(outline))
    zero = np.zeros(1)
    for zone, layer, (x, y), length in JAY_COMBS:
        line = model.trace(layer, np.array([x]), np.array([y]), np.array([length]), zero, 6)[0]
        project, _ = edits.add_comb(project, line, ids[zone])
    for zone, (first, last, count) in (("Flight feathers", model.FAN_FLIGHT), ("Tail", model.FAN_TAIL)):
        project, _ = edits.add_fan(project, ids[zone], np.array(first, float), np.array(last, float), count)
    # What a painter would have decided after looking: small feathers on the head, longer ones down the breast.
    for zone, length in (("Head", 5.0), ("Crown", 8.0), ("Breast", 10.0), ("Back", 11.0), ("Barred coverts", 16.0)):
        project = edits.set_coat(project, ids[zone], length_mm=length)
    # The bars of the coverts run across their growth: the combs that speak of the feathers are kept.
    for comb in project.combs_of(ids["Barred coverts"]):
        project = edits.keep_comb(project, comb.id)
    project = edits.set_coat(project, ids["Moss"], length_mm=3.0, width_mm=0.4)
    project = edits.set_tract(project, ids["Barred coverts"], overlap=0.55, broad=0.42)
    project = edits.set_edge(project, ids["Breast"], project.zones[0].id, "soft", 3.5)
    return _jay_head(project)


def _jay_head(project: Project) -> Project:
    """Mark the jay's eye and beak as the picture was made."""
    from tools.demo import jay as model

    x, y = model.EYE
    iris, pupil = Ellipse(x, y, model.IRIS, model.IRIS), Ellipse(x + 0.5, y + 1, 19.5, 19.5)
    found = FoundEye(iris, pupil, "round", ((x - 9, y - 11),), (), (), 1.0, 0.0, ())
    project, _ = edits.add_eye(project, found, "Eye")
    project, beak = edits.add_feature(project, "beak", "Beak")
    for part, points in (
        ("skin", model.smooth_outline("beak")),
        ("edge", open_curve(np.array([(400.0, 540), (340, 536), (270, 538), (212, 536)]))),
        ("ridge", open_curve(np.array([(396.0, 486), (340, 480), (280, 502), (228, 526)]))),
    ):
        project = edits.add_stroke(project, beak, part, points)
    return project


def cavies(data: bytes) -> Project:
    """Return the demo project of the guinea pigs over the picture's bytes."""
    from tools.demo import cavies as model

    project = edits.new_project(data, "guinea-pigs-at-dusk.jpg", CanvasSize(450, 300), "Guinea pigs at dusk")
    y, wide, tall = float(model.STEP_Y), float(model.WIDTH), float(model.HEIGHT)
    step = np.array([(0.0, y), (wide, y), (wide, tall), (0.0, tall)])
    project, stone = edits.add_zone(project, "Stone step", "other", step)
    ids: dict[tuple[str, str], str] = {}
    for cavy in model.CAVIES:
        for part in ("body", "head"):
            points = np.array(getattr(cavy, part), float)
            project, own = edits.add_zone(project, f"{cavy.name}, {part}", "curly-fur", points)
            ids[cavy.name, part] = own
            middle = points.mean(axis=0)
            for way in (0.0, 1.6, 3.1, 4.7):
                at = middle + 0.55 * np.ptp(points, axis=0) / 2 * (np.cos(way), np.sin(way))
                line = [at]
                for _ in range(5):
                    angle = float(model.away(cavy, part, np.array([line[-1][0]]), np.array([line[-1][1]]))[0])
                    line.append(line[-1] + 12 * np.array([np.cos(angle), np.sin(angle)]))
                project, _ = edits.add_comb(project, np.array(line), own)
        for side, (ex, ey) in zip(("Left", "Right"), cavy.eyes, strict=True):
            turn = np.linspace(0, 2 * np.pi, 12, endpoint=False)
            rim = np.stack([ex + (model.IRIS + 6) * np.cos(turn), ey + (model.IRIS + 4) * np.sin(turn)], axis=1)
            project, own = edits.add_zone(project, f"{cavy.name}, {side.lower()} eye", "eye", rim)
            ids[cavy.name, side] = own
        project, own = edits.add_zone(project, f"{cavy.name}, nose", "skin", model.nose_outline(cavy))
        ids[cavy.name, "nose"] = own
        for (name, _), zone in ids.items():
            if name == cavy.name:
                project = edits.set_group(project, zone, cavy.name)
    # What is out of focus takes its curls, and the light and dark between them, from the one that is sharp.
    for part in ("body", "head"):
        project = edits.set_coat(project, ids["Rusk", part], length_mm=11.0 if part == "body" else 8.0, width_mm=1.6)
        project, _ = edits.add_mark(project, "donor", ids["Ash", part], source=ids["Rusk", part])
    project = edits.set_edge(project, stone, project.zones[0].id, "hard", 0.6)
    project = edits.set_focal(project, model.RUSK.eyes[1])
    # Low behind them, on the right.
    project = edits.set_light(project, Light(1.5, -20.0, 0.5, 0.4, 11.0, 0.5))
    for cavy in model.CAVIES:
        for side, (ex, ey) in zip(("left", "right"), cavy.eyes, strict=True):
            iris, pupil = Ellipse(ex, ey, model.IRIS, model.IRIS), Ellipse(ex, ey, 13.0, 13.0)
            found = FoundEye(iris, pupil, "round", ((ex + 7, ey - 9),), (), (), 1.0, 0.0, ())
            project, _ = edits.add_eye(project, found, f"{cavy.name}, {side} eye")
    return project


def write(folder: Path) -> None:
    """Draw the pictures and write every file."""
    from PIL import Image

    from tools.demo import cavies as pair
    from tools.demo import jay_picture, picture

    drawn = (("fox", picture.draw, fox), ("jay", jay_picture.draw, jay), ("cavies", pair.draw, cavies))
    for name, draw, made in drawn:
        buffer = io.BytesIO()
        Image.fromarray(draw()).save(buffer, "JPEG", quality=90, subsampling=0, optimize=True)
        (folder / f"{name}.jpg").write_bytes(buffer.getvalue())
        fields = project_to_fields(made(buffer.getvalue()))
        (folder / f"{name}.json").write_text(json.dumps(fields, indent=1, ensure_ascii=False) + "\n", "utf-8")


if __name__ == "__main__":
    write(Path(foxpath.demo.__file__).with_name("data"))
