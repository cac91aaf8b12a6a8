"""The project as the fields of `project.json`, and back; checked against the schema beside this file."""

import json
from collections.abc import Callable
from dataclasses import asdict
from functools import cache
from pathlib import Path
from typing import Any

import fastjsonschema

from foxpath.core.errors import InputError, ProjectError
from foxpath.core.frame import Crop
from foxpath.core.lengths import CoatEdit
from foxpath.core.passes import USUAL, WAYS, Logged, PassEdit, School, Ways
from foxpath.core.passes.schools import school_from_fields, school_to_fields
from foxpath.core.reference import fitted
from foxpath.core.units import CanvasSize
from foxpath.document import feature_fields, map_fields, reference_fields
from foxpath.document.model import Comb, EdgeChoice, Mark, Pairs, Project, Zone

VERSION = 5

_KNOWN = {
    "format", "version", "name", "seed", "next_id", "reference", "canvas", "crop", "focal", "zones", "combs", "marks",
    "edges", "passes", "pass_order", "school", "own_school", "ways", "log", "earlier",
} | reference_fields.KNOWN | map_fields.KNOWN | feature_fields.KNOWN  # fmt: skip
_KNOWN_ZONE = {"id", "name", "kind", "points", "depth", "coat"} | map_fields.KNOWN_ZONE
_KNOWN_COMB = {"id", "zone", "points", "kept"}
_KNOWN_MARK = {"id", "kind", "zone", "points", "turn_deg", "source"}


@cache
def _validator() -> Callable[[Any], Any]:
    schema = json.loads(Path(__file__).with_name("project.schema.json").read_text("utf-8"))
    check: Callable[[Any], Any] = fastjsonschema.compile(schema)
    return check


def _given(value: object) -> dict[str, Any]:
    """Return a dataclass's fields that say something."""
    return {k: v for k, v in asdict(value).items() if v not in (None, ())}  # type: ignore[call-overload]


def project_to_fields(project: Project) -> dict[str, Any]:
    """Return the fields of `project.json`."""
    return {
        **project.extra,
        "format": "foxpath",
        "version": VERSION,
        "name": project.name,
        "seed": project.seed,
        "next_id": project.next_id,
        "reference": {"name": project.reference.name, "file": reference_fields.entry_name(project.reference)},
        "canvas": asdict(project.canvas),
        "crop": asdict(project.crop),
        "focal": list(project.focal) if project.focal else None,
        "zones": [
            {
                **zone.extra,
                "id": zone.id,
                "name": zone.name,
                "kind": zone.kind,
                "depth": zone.depth,
                "points": [list(p) for p in zone.points],
                "coat": _given(zone.coat),
                **map_fields.zone_to_fields(zone),
            }
            for zone in project.zones
        ],
        "combs": [
            {
                **comb.extra,
                "id": comb.id,
                "zone": comb.zone,
                "points": [list(p) for p in comb.points],
                **({"kept": True} if comb.kept else {}),
            }
            for comb in project.combs
        ],
        "marks": [
            {
                **mark.extra,
                "id": mark.id,
                "kind": mark.kind,
                "zone": mark.zone,
                "points": [list(p) for p in mark.points],
                "turn_deg": mark.turn_deg,
                "source": mark.source,
            }
            for mark in project.marks
        ],
        "edges": [asdict(edge) for edge in project.edges],
        "passes": {key: _given(edit) for key, edit in project.passes.items()},
        "pass_order": list(project.pass_order),
        "school": project.school,
        **({"own_school": school_to_fields(project.own_school)} if project.own_school is not None else {}),
        **({"ways": dict(project.ways.taken())} if project.ways.taken() else {}),
        **({"log": [asdict(one) for one in project.log]} if project.log else {}),
        **({"earlier": [asdict(one) for one in project.earlier]} if project.earlier else {}),
        **map_fields.to_fields(project),
        **feature_fields.to_fields(project),
        **reference_fields.to_fields(project),
    }


def project_from_fields(record: dict[str, Any], reference: Callable[[str], bytes], name: str) -> Project:
    """Build a project from checked fields.

    Parameters
    ----------
    record : dict
    reference : callable
        Returns the bytes of an entry such as ``references/ab12.jpg``.
    name : str
        The file's name, for messages.

    Raises
    ------
    ProjectError
        When a field is missing, of the wrong type or out of range.
    PictureError
        When the reference is no picture.
    """
    try:
        _validator()(record)
    except fastjsonschema.JsonSchemaValueException as failure:
        where = str(failure.name).removeprefix("data").lstrip(".") or "project.json"
        raise ProjectError(
            f"{name} is damaged: '{where}' is not what a project holds.", "Open a copy or a backup."
        ) from None
    main = reference_fields.reference_of(record["reference"]["name"], reference(record["reference"]["file"]))
    canvas = CanvasSize(**reference_fields.known_of(CanvasSize, record["canvas"]))
    crop = fitted(Crop(**reference_fields.known_of(Crop, record["crop"])), main.width, main.height, canvas)
    zones = tuple(
        Zone(
            id=z["id"],
            name=z["name"],
            kind=z["kind"],
            points=_outline(z["points"], name),
            depth=z["depth"],
            coat=CoatEdit(**reference_fields.known_of(CoatEdit, z.get("coat", {}))),
            extra={k: v for k, v in z.items() if k not in _KNOWN_ZONE},
            **map_fields.zone_from_fields(z),
        )
        for z in record["zones"]
    )
    ids = {z.id for z in zones}
    if len(ids) != len(zones):
        raise ProjectError(f"{name} is damaged: two zones share an id.", "Open a copy or a backup.")
    combs = tuple(
        Comb(
            c["id"],
            c["zone"],
            reference_fields.read_pairs(c["points"]),
            c.get("kept", False),
            {k: v for k, v in c.items() if k not in _KNOWN_COMB},
        )
        for c in record["combs"]
        if c["zone"] in ids
    )
    lent = {one["id"] for one in record.get("shelf", []) if len(one.get("cut", [])) >= 3}
    marks = tuple(
        Mark(
            m["id"],
            m["kind"],
            m.get("zone", ""),
            reference_fields.read_pairs(m.get("points", [])),
            m.get("turn_deg", 0.0),
            m.get("source", ""),
            {k: v for k, v in m.items() if k not in _KNOWN_MARK},
        )
        for m in record.get("marks", [])
        if m.get("zone", "") in ids | {""} and m.get("source", "") in ids | lent | {""}
    )
    focal = record.get("focal")
    decided = reference_fields.from_fields(record, reference)
    decided |= map_fields.from_fields(record, ids)
    decided |= feature_fields.from_fields(record, reference)
    named = (
        *combs,
        *marks,
        *(one for name in ("shelf", "stretches", "fans", "eyes", "features") for one in decided[name]),
    )
    keys = [*ids, *(one.id for one in named)]
    used = [int(key[1:]) for key in keys if key[1:].isdigit()]
    return Project(
        name=record["name"],
        reference=main,
        canvas=canvas,
        crop=crop,
        focal=(float(focal[0]), float(focal[1])) if focal else None,
        zones=zones,
        combs=combs,
        marks=marks,
        edges=tuple(EdgeChoice(**reference_fields.known_of(EdgeChoice, e)) for e in record.get("edges", [])),
        passes={k: _pass_edit(v) for k, v in record.get("passes", {}).items()},
        pass_order=tuple(record.get("pass_order", [])),
        school=record.get("school", USUAL),
        own_school=_own_school(record.get("own_school"), name),
        ways=Ways(**{k: v for k, v in record.get("ways", {}).items() if k in WAYS and WAYS[k].side(v) is not None}),
        log=tuple(Logged(**reference_fields.known_of(Logged, one)) for one in record.get("log", [])),
        earlier=tuple(Logged(**reference_fields.known_of(Logged, one)) for one in record.get("earlier", [])),
        seed=record.get("seed", 1),
        next_id=max([record.get("next_id", 1), *(n + 1 for n in used)]),
        extra={k: v for k, v in record.items() if k not in _KNOWN},
        **decided,
    )


def _pass_edit(record: dict[str, Any]) -> PassEdit:
    known = reference_fields.known_of(PassEdit, record)
    return PassEdit(**{**known, "left_out": tuple(known.get("left_out", ()))})


def _own_school(record: dict[str, Any] | None, name: str) -> School | None:
    if not record:
        return None
    try:
        return school_from_fields(record, name)
    except InputError as failure:
        raise ProjectError(f"{name} is damaged: {failure.message}", "Open a copy or a backup.") from None


def _outline(points: list[list[float]], name: str) -> Pairs:
    if len(points) in (1, 2):
        raise ProjectError(f"{name} is damaged: an outline has only {len(points)} points.", "Open a copy or a backup.")
    return reference_fields.read_pairs(points)
