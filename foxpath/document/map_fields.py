"""The map's finer decisions as fields of `project.json`, and back: own kinds, forms, tracts, stretches, fans, the kit."""

from dataclasses import asdict
from typing import Any

from foxpath.core.feathers import TractEdit
from foxpath.core.lengths import DEFAULT_KIT, Brush, Form
from foxpath.core.zones import Coat, OwnKind
from foxpath.document.model import EdgeStretch, Fan, Pairs, Project, Zone
from foxpath.document.reference_fields import known_of, read_pairs

KNOWN = {"stretches", "fans", "kit", "falloff", "focal_order"}
KNOWN_ZONE = {"measured", "hairs", "own", "form", "group", "tract", "school"}


def _lists(points: Pairs) -> list[list[float]]:
    return [list(p) for p in points]


def own_to_fields(own: OwnKind) -> dict[str, Any]:
    """Return the fields of a kind of the painter's own."""
    return {"name": own.name, "base": own.base, "edge": own.edge, "coat": asdict(own.coat)}


def own_from_fields(record: dict[str, Any]) -> OwnKind:
    """Build a kind of the painter's own from checked fields."""
    return OwnKind(record["name"], record["base"], Coat(**known_of(Coat, record["coat"])), float(record["edge"]))


def zone_to_fields(zone: Zone) -> dict[str, Any]:
    """Return what this module knows of a zone; defaults are left out."""
    form = {"kind": zone.form.kind, "line": _lists(zone.form.line), "turn_deg": zone.form.turn_deg}
    tract = {k: v for k, v in asdict(zone.tract).items() if v is not None}
    return {
        "hairs": [_lists(h) for h in zone.hairs],
        **({"own": own_to_fields(zone.own)} if zone.own is not None else {}),
        **({"form": form} if zone.form != Form() else {}),
        **({"group": zone.group} if zone.group else {}),
        **({"school": zone.school} if zone.school else {}),
        **({"tract": tract} if tract else {}),
    }


def zone_from_fields(record: dict[str, Any]) -> dict[str, Any]:
    """Return what a zone is made with; version 2 kept one measured hair."""
    hairs = tuple(read_pairs(h) for h in record.get("hairs", []))
    if not hairs and len(record.get("measured", [])) >= 2:
        hairs = (read_pairs(record["measured"]),)
    form = record.get("form", {})
    own = record.get("own")
    return {
        "hairs": hairs,
        "own": own_from_fields(own) if own else None,
        "form": Form(form.get("kind", ""), read_pairs(form.get("line", [])), float(form.get("turn_deg", 40.0))),
        "group": record.get("group", ""),
        "school": record.get("school", ""),
        "tract": TractEdit(**known_of(TractEdit, record.get("tract", {}))),
    }


def to_fields(project: Project) -> dict[str, Any]:
    """Return what this module knows of a project."""
    return {
        "stretches": [
            {"id": s.id, "front": s.front, "back": s.back, "points": _lists(s.points), "width_mm": s.width_mm}
            for s in project.stretches
        ],
        "fans": [
            {"id": f.id, "zone": f.zone, "first": _lists(f.first), "last": _lists(f.last), "count": f.count}
            for f in project.fans
        ],
        "kit": [asdict(brush) for brush in project.kit],
        "falloff": project.falloff,
        "focal_order": project.focal_order,
    }


def from_fields(record: dict[str, Any], zones: set[str]) -> dict[str, Any]:
    """Return what a project is made with; what names a zone that is not there is left out."""
    kit = record.get("kit")
    return {
        "stretches": tuple(
            EdgeStretch(s["id"], s["front"], s["back"], read_pairs(s["points"]), float(s["width_mm"]))
            for s in record.get("stretches", [])
            if s["front"] in zones and s["back"] in zones | {""}
        ),
        "fans": tuple(
            Fan(f["id"], f["zone"], read_pairs(f["first"]), read_pairs(f["last"]), f["count"])
            for f in record.get("fans", [])
            if f["zone"] in zones
        ),
        "kit": tuple(Brush(**known_of(Brush, b)) for b in kit) if kit is not None else DEFAULT_KIT,
        "falloff": float(record.get("falloff", 0.5)),
        "focal_order": record.get("focal_order", ""),
    }
