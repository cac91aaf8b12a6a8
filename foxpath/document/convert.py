"""The project as the fields of `project.json`, and back, from its dataclasses; checked against the schema beside this file.

What a file holds that this version does not know is kept at every level: it is told from what is known when a file is opened
(`_unknown`), stays with the thing it was found at, and is put back when it is saved (`_with_unknown`).
"""

import json
from collections.abc import Callable, Iterable, Mapping
from dataclasses import fields, replace
from functools import cache
from pathlib import Path
from typing import Any, TypeVar

import cattrs
import fastjsonschema
from cattrs.gen import make_dict_structure_fn, make_dict_unstructure_fn, override

from foxpath.core.commission import Change, Commission, Proof, Received, sound_commission
from foxpath.core.days.studio import Days, DryNote, OtherDay, sound_days
from foxpath.core.errors import InputError, ProjectError
from foxpath.core.eyes import LIGHT_WAYS, PUPILS, Ellipse, Eye, LightPlan
from foxpath.core.feathers import TractEdit
from foxpath.core.features import FEATURES, Feature
from foxpath.core.lengths import Brush, CoatEdit
from foxpath.core.log.easel import Easel, sound_easel
from foxpath.core.log.entries import Entry, sound_entries
from foxpath.core.mixes.studio import MixedPile, Mixes, Sight
from foxpath.core.mixes.tubes import KeptTube, OwnTube
from foxpath.core.passes import WAYS, OwnPass, PartEdit, PassEdit, School, Veil, Ways
from foxpath.core.passes.own import sound_own
from foxpath.core.passes.schools import school_from_fields, school_to_fields
from foxpath.core.progress.touches import Touch, sound_touches
from foxpath.core.reference import fitted
from foxpath.core.reference.departures import Departure, sound_departures
from foxpath.document.model import (
    CanvasPhoto,
    Comb,
    Drawing,
    Gone,
    KeptPicture,
    LeftAlone,
    Lent,
    Project,
    Reference,
    Zone,
)
from foxpath.document.photos import sound_photos
from foxpath.document.pictures import entry_name, reference_of
from foxpath.document.places import eye_nearby, ids_of, nearby, sound

T = TypeVar("T")
VERSION = 5

_LEFT_OUT: dict[type, tuple[str, ...]] = {
    Brush: ("edge_mm", "hair", "state", "count"),
    OwnTube: ("pigment", "system", "transparency", "drying", "hazard"),
    Sight: ("how", "wet", "dried"),
    OtherDay: ("ranges",),
    DryNote: ("tacky", "dry"),
    Received: ("animal", "permission", "picture"),
    Proof: ("approved",),
    Change: ("zones", "minutes", "days", "taken"),
    Entry: ("task", "step", "part", "act", "text", "of", "picture"),
    KeptTube: ("own", "here", "taken", "thrown", "looks", "system", "dries", "dabs"),
    MixedPile: ("sights", "ml", "mixed_on", "wrapped"),
    Touch: ("word", "text", "tool", "pile", "minutes", "dry", "photo", "day"),
    CanvasPhoto: ("after", "corners", "spots", "border"),
    LeftAlone: ("after",),
    OwnPass: ("of", "name", "zone", "veil"),
    Veil: ("manner", "strength", "coats", "place", "strip_mm", "soft_mm", "patch", "made_up"),
    Departure: ("side", "lightness", "strength", "warmth", "redness", "contrast", "soft_mm", "note"),
    Project: (
        "departures",
        "own_school",
        "ways",
        "noted",
        "earlier",
        "mixes",
        "days",
        "told",
        "easel",
        "commission",
        "photos",
        "pictures",
        "touches",
        "left_alone",
        "own_passes",
        "weights",
        "gone",
    ),
    Zone: ("own", "form", "group", "school", "tract", "brushes", "soft_mm"),
    Comb: ("kept",),
    Feature: ("toes",),
    # After what it holds: it takes over what is left out there.
    Gone: ("combs", "eyes", "features", "to"),
}
"""Fields that a file leaves out while they say nothing new."""
_SPARSE = (CoatEdit, TractEdit, PartEdit, PassEdit, LightPlan, Ways, Easel, Commission, Mixes, Days)
"""Classes of which a file has only what was decided."""
_RENAMED = {"noted": "log"}
"""Fields of the project that go by another name in the file."""
_LEGACY = frozenset({"measured"})
"""Names of earlier versions, whose meaning has been carried over."""
_ROUNDED = 2
"""Digits of an ellipse's numbers, pixels and degrees."""
DAMAGED = "Open a copy or a backup."


# The converter ------------------------------------------------------------------------------------


def _rounded(name: str, value: float) -> float:
    """Round a number of an ellipse; a half axis stays one, however small: a file without it could not be opened."""
    made = round(value, _ROUNDED)
    return max(made, 10.0**-_ROUNDED) if name in ("rx", "ry") else made


def _flat(record: dict[str, Any]) -> dict[str, Any]:
    """Lay a picture's name and entry out beside what else is said of it."""
    return {**record.pop("reference"), **record}


def _converter(*, whole: bool) -> cattrs.Converter:
    """Return the converter between dataclasses and fields; `whole` writes every field, the usual ones too."""
    made = cattrs.Converter(detailed_validation=False, unstruct_collection_overrides={tuple: list})

    def left_out(cls: type) -> dict[str, Any]:
        names = [one.name for one in fields(cls) if one.name != "way"] if cls in _SPARSE else _LEFT_OUT.get(cls, ())
        marks = {} if whole else {name: override(omit_if_default=True) for name in names}
        if cls is Project:
            marks["extra"] = override(omit=True)
            for name, other in _RENAMED.items():
                marks[name] = override(omit_if_default=not whole, rename=other)
        return marks

    def unstructure(cls: type) -> Callable[[Any], dict[str, Any]]:
        return make_dict_unstructure_fn(cls, made, _cattrs_omit_if_default=False, **left_out(cls))

    # A number is written as it reads back, so that saving twice gives the same bytes.
    made.register_unstructure_hook(float, float)
    made.register_unstructure_hook(Reference, lambda one: {"name": one.name, "file": entry_name(one)})
    made.register_structure_hook(Reference, lambda one, _: one)
    made.register_unstructure_hook(School, school_to_fields)
    made.register_structure_hook(School, lambda record, _: school_from_fields(record, "the project"))
    made.register_unstructure_hook(
        Ellipse, lambda one: {f.name: _rounded(f.name, float(getattr(one, f.name))) for f in fields(Ellipse)}
    )
    # From the inside out: a class takes over what is registered for its parts.
    for cls in (
        *(one for one in _SPARSE if one not in (Mixes, Days, Commission)),
        Eye,
        *_LEFT_OUT,
        Mixes,
        Days,
        Commission,
    ):
        if cls is not Project:
            made.register_unstructure_hook(cls, unstructure(cls))
    lent, drawing, photo = unstructure(Lent), unstructure(Drawing), unstructure(CanvasPhoto)
    kept = unstructure(KeptPicture)
    made.register_unstructure_hook(KeptPicture, lambda one: _flat(kept(one)))
    made.register_unstructure_hook(Lent, lambda one: _flat(lent(one)))
    made.register_unstructure_hook(CanvasPhoto, lambda one: _flat(photo(one)))
    made.register_unstructure_hook(Drawing, lambda one: {**_flat(drawing(one)), "marked": dict(drawing(one)["marked"])})
    made.register_unstructure_hook(Project, unstructure(Project))
    renamed: dict[str, Any] = {name: override(rename=other) for name, other in _RENAMED.items()}
    made.register_structure_hook(Project, make_dict_structure_fn(Project, made, extra=override(omit=True), **renamed))
    return made


@cache
def _usual() -> cattrs.Converter:
    return _converter(whole=False)


@cache
def _whole() -> cattrs.Converter:
    return _converter(whole=True)


def to_fields(value: object) -> dict[str, Any]:
    """Return the fields of one of the project's classes."""
    record: dict[str, Any] = _plain(_usual().unstructure(value))
    return record


def from_fields(cls: type[T], record: Mapping[str, Any]) -> T:
    """Build one of the project's classes from checked fields; those it does not know are passed over."""
    return _usual().structure(record, cls)


def _plain(value: Any) -> Any:
    """Return a value with lists in place of tuples, as JSON reads it back."""
    if isinstance(value, dict):
        return {key: _plain(one) for key, one in value.items()}
    return [_plain(one) for one in value] if isinstance(value, (list, tuple)) else value


# What this version does not know ------------------------------------------------------------------

_MORE, _INSIDE, _OF, _HAS, _ITEM = "more", "inside", "of", "has", "item"
_KEPT_WHOLE = frozenset({"features", "strokes"})
"""Rows of which what this version cannot show is kept too."""


def _unknown(raw: Any, known: Any, name: str = "") -> Any:
    """Return what a file's fields hold beyond those that are known; None when that is nothing."""
    if isinstance(raw, dict) and isinstance(known, dict):
        more = {key: value for key, value in raw.items() if key not in known and key not in _LEGACY}
        inside = {key: left for key in raw if key in known and (left := _unknown(raw[key], known[key], key))}
        found = {_MORE: more, _INSIDE: inside}
        return {key: value for key, value in found.items() if value} or None
    if isinstance(raw, list) and isinstance(known, list):
        rows = []
        for item in raw:
            if not isinstance(item, dict):
                continue
            match = next((one for one in known if _same(item, one)), None)
            if match is None:
                rows += [{_ITEM: item}] if name in _KEPT_WHOLE else []
            elif left := _unknown(item, match):
                rows.append({_OF: match.get("id", match), _HAS: left})
        return rows or None
    return None


def _same(item: dict[str, Any], known: Any) -> bool:
    """Tell whether a row of a file is the one that is known: by its id, without one by all it says."""
    if not isinstance(known, dict):
        return False
    if "id" in known or "id" in item:
        return known.get("id") == item.get("id")
    return all(
        known[key] == value for key, value in item.items() if key in known and not isinstance(value, (dict, list))
    )


def _with_unknown(record: Any, unknown: Any) -> Any:
    """Return fields with what is not known put back where it was found; what it belonged to may be gone."""
    if isinstance(record, dict) and isinstance(unknown, dict):
        inside = unknown.get(_INSIDE, {})
        made = {key: _with_unknown(value, inside[key]) if key in inside else value for key, value in record.items()}
        return {**unknown.get(_MORE, {}), **made}
    if isinstance(record, list) and isinstance(unknown, list):
        rows = list(record)
        for one in unknown:
            if _ITEM in one:
                rows.append(one[_ITEM])
                continue
            of = one[_OF]
            for k, row in enumerate(rows):
                if isinstance(row, dict) and (row.get("id") == of if isinstance(of, str) else _says(row, of)):
                    rows[k] = _with_unknown(row, one[_HAS])
                    break
        return rows
    return record


def _says(row: dict[str, Any], of: dict[str, Any]) -> bool:
    """Tell whether a row is the one something was found at: all it says is said there too (defaults may be left out)."""
    return all(of.get(key) == value for key, value in row.items())


# The project --------------------------------------------------------------------------------------


@cache
def _validator() -> Callable[[Any], Any]:
    schema = json.loads(Path(__file__).with_name("project.schema.json").read_text("utf-8"))
    check: Callable[[Any], Any] = fastjsonschema.compile(schema)
    return check


def project_to_fields(project: Project) -> dict[str, Any]:
    """Return the fields of `project.json`."""
    record = _with_unknown(to_fields(project), project.extra)
    return {"format": "foxpath", "version": VERSION, **record}


def project_from_fields(record: dict[str, Any], picture: Callable[[str], bytes], name: str) -> Project:
    """Build a project from the fields of a file.

    Parameters
    ----------
    record : dict
    picture : callable
        Returns the bytes of an entry such as ``references/ab12.jpg``.
    name : str
        The file's name, for messages.

    Raises
    ------
    ProjectError
        When a field is missing, of the wrong type or out of range.
    PictureError
        When a picture is none.
    """
    try:
        _validator()(record)
    except fastjsonschema.JsonSchemaValueException as failure:
        where = str(failure.name).removeprefix("data").lstrip(".") or "project.json"
        raise ProjectError(f"{name} is damaged: '{where}' is not what a project holds.", DAMAGED) from None
    for zone in record["zones"]:
        if len(zone["points"]) in (1, 2):
            raise ProjectError(f"{name} is damaged: an outline has only {len(zone['points'])} points.", DAMAGED)
    ids = [zone["id"] for zone in record["zones"]]
    if len(set(ids)) != len(ids):
        raise ProjectError(f"{name} is damaged: two zones share an id.", DAMAGED)
    try:
        made = from_fields(Project, _readable(record, picture))
    except InputError as failure:
        raise ProjectError(f"{name} is damaged: {failure.message}", DAMAGED) from None
    main = made.reference
    used = [int(key[1:]) for key in ids_of(made) if key[1:].isdigit()]
    grey = made.correction.grey
    if grey is not None and not (0 <= grey[0] < main.width and 0 <= grey[1] < main.height):
        raise ProjectError(f"{name} is damaged: its grey spot lies off the picture.", DAMAGED)
    crop = fitted(made.crop, main.width, main.height, made.canvas)
    next_id = max([made.next_id, *(n + 1 for n in used)])
    eyes = tuple(eye_nearby(eye) for eye in made.eyes)
    days = sound_days(made.days)
    made = nearby(
        sound(
            replace(
                made,
                crop=crop,
                next_id=next_id,
                eyes=eyes,
                days=days,
                told=sound_entries(made.told),
                easel=sound_easel(made.easel),
                commission=sound_commission(made.commission),
                photos=sound_photos(made.photos),
                pictures=tuple({one.id: one for one in reversed(made.pictures)}.values())[::-1],
                touches=sound_touches(made.touches),
                departures=sound_departures(made.departures),
                own_passes=sound_own(made.own_passes),
            )
        )
    )
    return replace(made, extra=_unknown(_without_frame(record), _plain(_whole().unstructure(made))) or {})


def _without_frame(record: dict[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in record.items() if key not in ("format", "version")}


def _readable(record: dict[str, Any], picture: Callable[[str], bytes]) -> dict[str, Any]:
    """Return checked fields as the classes take them: pictures opened, earlier versions carried over, unknown kinds left out."""

    def opened(one: dict[str, Any]) -> dict[str, Any]:
        return {**one, "reference": reference_of(one["name"], picture(one["file"]))}

    made = {**record, "reference": opened(record["reference"])["reference"]}
    made["shelf"] = [opened(one) for one in record.get("shelf", ())]
    made["photos"] = [opened(one) for one in record.get("photos", ())]
    made["pictures"] = [opened(one) for one in record.get("pictures", ())]
    drawing = record.get("drawing")
    made["drawing"] = {**opened(drawing), "marked": list(drawing.get("marked", {}).items())} if drawing else None
    made["zones"] = [_zone(one) for one in record["zones"]]
    made["eyes"] = [_eye(one) for one in record.get("eyes", ())]
    made["features"] = [_feature(one) for one in record.get("features", ()) if one["kind"] in FEATURES]
    made["gone"] = [
        {
            **one,
            "zone": _zone(one["zone"]),
            "eyes": [_eye(eye) for eye in one.get("eyes", ())],
            "features": [_feature(f) for f in one.get("features", ()) if f["kind"] in FEATURES],
        }
        for one in record.get("gone", ())
    ]
    # Earlier files have an area's outline alone.
    made["left_alone"] = [{"points": one} if isinstance(one, list) else one for one in record.get("left_alone", ())]
    ways = record.get("ways", {})
    made["ways"] = {key: side for key, side in ways.items() if key in WAYS and WAYS[key].side(side) is not None}
    # What is null says nothing.
    return {key: value for key, value in made.items() if value is not None}


def _zone(record: dict[str, Any]) -> dict[str, Any]:
    # Version 2 kept one measured hair.
    measured = record.get("measured", ())
    return record if record.get("hairs") or len(measured) < 2 else {**record, "hairs": [measured]}


def _eye(record: dict[str, Any]) -> dict[str, Any]:
    made = {key: value for key, value in record.items() if value is not None}
    if made.get("pupil_kind") not in PUPILS:
        made.pop("pupil_kind", None)
    if made.get("light", {}).get("way", "last") not in LIGHT_WAYS:
        made.pop("light")
    return made


def _feature(record: dict[str, Any]) -> dict[str, Any]:
    kind = FEATURES[record["kind"]]
    known: Iterable[dict[str, Any]] = (s for s in record.get("strokes", ()) if kind.part(s["part"]) is not None)
    return {**record, "strokes": list(known)}
