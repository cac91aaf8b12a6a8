"""Eyes, features and the drawing as fields of `project.json`, and back."""

from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from foxpath.core.eyes import LIGHT_WAYS, PUPILS, Ellipse, Eye, LightPlan
from foxpath.core.features import FEATURES, Feature, Stroke
from foxpath.document.model import Drawing, Pairs, Project
from foxpath.document.reference_fields import entry_name, known_of, read_pairs, reference_of

KNOWN = {"eyes", "features", "drawing"}


def _lists(points: Pairs) -> list[list[float]]:
    return [list(p) for p in points]


def ellipse_to_fields(ellipse: Ellipse) -> dict[str, float]:
    """Return an ellipse's fields, to hundredths of a pixel and a degree."""
    return {k: round(float(v), 2) for k, v in asdict(ellipse).items()}


def to_fields(project: Project) -> dict[str, Any]:
    """Return what this module knows of a project; defaults are left out."""
    drawing = project.drawing
    return {
        "eyes": [_eye_to_fields(eye) for eye in project.eyes],
        "features": [
            {
                "id": one.id,
                "kind": one.kind,
                "name": one.name,
                "strokes": [{"part": s.part, "points": _lists(s.points)} for s in one.strokes],
                **({"toes": one.toes} if one.toes else {}),
            }
            for one in project.features
        ],
        "drawing": {
            "name": drawing.reference.name,
            "file": entry_name(drawing.reference),
            "corners": _lists(drawing.corners),
            "marked": {key: [_lists(s) for s in strokes] for key, strokes in drawing.marked},
        }
        if drawing is not None
        else None,
    }


def _eye_to_fields(eye: Eye) -> dict[str, Any]:
    return {
        "id": eye.id,
        "name": eye.name,
        "iris": ellipse_to_fields(eye.iris),
        "pupil": ellipse_to_fields(eye.pupil),
        "pupil_kind": eye.pupil_kind,
        "upper": _lists(eye.upper),
        "lower": _lists(eye.lower),
        "inner": list(eye.inner) if eye.inner is not None else None,
        "outer": list(eye.outer) if eye.outer is not None else None,
        "lights": _lists(eye.lights),
        "rim": _lists(eye.rim),
        "light": {k: v for k, v in asdict(eye.light).items() if v is not None},
        "found": eye.found,
    }


def _place(value: list[float] | None) -> tuple[float, float] | None:
    return (float(value[0]), float(value[1])) if value else None


def _ellipse(record: dict[str, Any]) -> Ellipse:
    return Ellipse(**{k: float(v) for k, v in known_of(Ellipse, record).items()})


def _eye(record: dict[str, Any]) -> Eye:
    light = LightPlan(**known_of(LightPlan, record.get("light", {})))
    return Eye(
        record["id"],
        record["name"],
        _ellipse(record["iris"]),
        _ellipse(record["pupil"]),
        record.get("pupil_kind", "round") if record.get("pupil_kind") in PUPILS else "round",
        read_pairs(record.get("upper", [])),
        read_pairs(record.get("lower", [])),
        _place(record.get("inner")),
        _place(record.get("outer")),
        read_pairs(record.get("lights", [])),
        read_pairs(record.get("rim", [])),
        light if light.way in LIGHT_WAYS else LightPlan(),
        float(record.get("found", 1.0)),
    )


def from_fields(record: dict[str, Any], data: Callable[[str], bytes]) -> dict[str, Any]:
    """Return what a project is made with, from checked fields; a kind of feature this version lacks is left out.

    Raises
    ------
    PictureError
        When the drawing's photograph is no picture.
    """
    drawing = record.get("drawing")
    return {
        "eyes": tuple(_eye(one) for one in record.get("eyes", [])),
        "features": tuple(
            Feature(
                one["id"],
                one["kind"],
                one["name"],
                tuple(
                    Stroke(s["part"], read_pairs(s["points"]))
                    for s in one.get("strokes", [])
                    if FEATURES[one["kind"]].part(s["part"]) is not None
                ),
                int(one.get("toes", 0)),
            )
            for one in record.get("features", [])
            if one["kind"] in FEATURES
        ),
        "drawing": Drawing(
            reference_of(drawing["name"], data(drawing["file"])),
            read_pairs(drawing["corners"]),
            tuple((key, tuple(read_pairs(s) for s in strokes)) for key, strokes in drawing.get("marked", {}).items()),
        )
        if drawing
        else None,
    }
