"""The reference's decisions as fields of `project.json`, and back."""

import hashlib
import re
from collections.abc import Callable
from dataclasses import asdict, fields
from typing import Any

from foxpath.core.reference import picture_size
from foxpath.core.reference.compose import Pose
from foxpath.core.reference.correction import Correction
from foxpath.core.reference.light import Catchlight, Light
from foxpath.core.reference.transfer import Axes, Grid
from foxpath.document.model import Lent, Pairs, Project, Reference, Seeing, Transfer

KNOWN = {"main_note", "shelf", "correction", "seeing", "spots", "spot_mm", "light", "catchlights", "transfer"}
_KNOWN_LENT = {"id", "name", "file", "role", "note", "pose", "cut", "soft_mm", "placed"}


def entry_name(reference: Reference) -> str:
    """Return the name under which a picture's bytes lie in the archive."""
    ending = re.sub(r"[^A-Za-z0-9]", "", reference.name.rsplit(".", 1)[-1])[:8].lower() or "picture"
    return f"references/{reference.digest[:16]}.{ending}"


def entries_of(project: Project) -> dict[str, bytes]:
    """Return every picture's bytes by its name in the archive; the same bytes are kept once."""
    further = [lent.reference for lent in project.shelf]
    if project.drawing is not None:
        further.append(project.drawing.reference)
    return {entry_name(one): one.data for one in (project.reference, *further)}


def reference_of(name: str, data: bytes) -> Reference:
    """Return a picture's record. Raises `PictureError` when the bytes are no picture."""
    width, height = picture_size(data, name)
    return Reference(name, data, width, height, hashlib.sha256(data).hexdigest())


def _lists(strokes: tuple[Pairs, ...]) -> list[list[list[float]]]:
    return [[list(p) for p in stroke] for stroke in strokes]


def to_fields(project: Project) -> dict[str, Any]:
    """Return the reference's decisions."""
    axes = project.transfer.axes
    return {
        "main_note": project.main_note,
        "shelf": [
            {
                **one.extra,
                "id": one.id,
                "name": one.reference.name,
                "file": entry_name(one.reference),
                "role": one.role,
                "note": one.note,
                "pose": asdict(one.pose),
                "cut": [list(p) for p in one.cut],
                "soft_mm": one.soft_mm,
                "placed": one.placed,
            }
            for one in project.shelf
        ],
        "correction": asdict(project.correction),
        "seeing": asdict(project.seeing),
        "spots": [list(p) for p in project.spots],
        "spot_mm": project.spot_mm,
        "light": asdict(project.light) if project.light else None,
        "catchlights": [asdict(one) for one in project.catchlights],
        "transfer": {
            "grid": asdict(project.transfer.grid),
            "axes": asdict(axes) if axes else None,
            "rubbed": _lists(project.transfer.rubbed),
            "drawn": _lists(project.transfer.drawn),
        },
    }


def known_of(cls: type, record: dict[str, Any]) -> dict[str, Any]:
    """Return the entries of a record that the dataclass knows."""
    names = {f.name for f in fields(cls)}
    return {k: v for k, v in record.items() if k in names}


def _made(cls: type, record: dict[str, Any]) -> Any:
    """Build a dataclass from the entries of a record that it knows; lists become pairs."""
    return cls(**{k: tuple(v) if isinstance(v, list) else v for k, v in known_of(cls, record).items()})


def read_pairs(value: list[list[float]]) -> Pairs:
    """Return points of a file as pairs, as they are."""
    return tuple((float(x), float(y)) for x, y in value)


def from_fields(record: dict[str, Any], data: Callable[[str], bytes]) -> dict[str, Any]:
    """Return the reference's decisions as arguments of `Project`, from checked fields.

    Raises
    ------
    PictureError
        When a picture of the shelf is none.
    """
    shelf = tuple(
        Lent(
            id=one["id"],
            reference=reference_of(one["name"], data(one["file"])),
            role=one.get("role", "detail"),
            note=one.get("note", ""),
            pose=_made(Pose, one["pose"]),
            cut=read_pairs(one.get("cut", [])),
            soft_mm=one.get("soft_mm", 1.0),
            placed=one.get("placed", False),
            extra={k: v for k, v in one.items() if k not in _KNOWN_LENT},
        )
        for one in record.get("shelf", [])
    )
    transfer = record.get("transfer", {})
    light, axes = record.get("light"), transfer.get("axes")
    return {
        "main_note": record.get("main_note", ""),
        "shelf": shelf,
        "correction": _made(Correction, record.get("correction", {})),
        "seeing": _made(Seeing, record.get("seeing", {})),
        "spots": read_pairs(record.get("spots", [])),
        "spot_mm": record.get("spot_mm", 2.0),
        "light": _made(Light, light) if light else None,
        "catchlights": tuple(_made(Catchlight, one) for one in record.get("catchlights", [])),
        "transfer": Transfer(
            grid=_made(Grid, transfer.get("grid", {})),
            axes=_made(Axes, axes) if axes else None,
            rubbed=tuple(read_pairs(s) for s in transfer.get("rubbed", [])),
            drawn=tuple(read_pairs(s) for s in transfer.get("drawn", [])),
        ),
    }
