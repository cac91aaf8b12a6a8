"""What `plan.json` holds of each subject: all numbers of the plan, units in the names."""

from typing import Any

import numpy as np

from foxpath.core.edges import NOTHING, EdgeReading
from foxpath.core.growth import SURE_ENOUGH
from foxpath.core.mixes.palette import Palette
from foxpath.core.passes import PassPlan
from foxpath.core.passes.plan import OF_PAINT, OF_PART
from foxpath.core.passes.working import manner_of_work
from foxpath.derive.edges.plan import edge_readings, edge_widths, edges_of
from foxpath.derive.eyes.reading import EyesReading, read_eyes
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.lengths.feathers import feathered, feathers_of
from foxpath.derive.lengths.markings import is_marking, markings_of
from foxpath.derive.mixes.films import mix_of
from foxpath.derive.mixes.palette import palette_of
from foxpath.derive.mixes.ready import ready_for, sorted_brushes
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.laying import laying_of, turns_of_work
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.passes.veils import veil_area
from foxpath.derive.passes.wetness import making_at
from foxpath.derive.reference.changes import departures_record
from foxpath.derive.rehearsal.painting import pass_colours
from foxpath.derive.rehearsal.reading import read_painting, reading_records
from foxpath.derive.rehearsal.softness import rehearsed_widths
from foxpath.derive.results import Results
from foxpath.derive.subject import Told
from foxpath.derive.zones.reading import zone_numbers
from foxpath.document.model import Project


def _range_of(widths: tuple[Any, ...]) -> list[float]:
    """Return the least and the most width along a border."""
    return [round(float(min(w.min() for w in widths)), 2), round(float(max(w.max() for w in widths)), 2)]


def _feather_record(results: Results, project: Project, index: int) -> dict[str, Any]:
    """Return how many feathers a zone has, and how many are worth painting; nothing where it has none."""
    if index not in {k for k, _ in feathered(project)}:
        return {}
    made = feathers_of(results, project, index)
    return {"feathers": made.count, "feathers_worth_painting": int(made.leading.sum())}


def _known(width_mm: float | None) -> float | None:
    """Return a width for the record; null where none was read."""
    return round(width_mm, 2) if width_mm is not None and np.isfinite(width_mm) else None


def _photo_record(photo: EdgeReading) -> dict[str, Any]:
    """Return what the photograph shows of an edge; null where it gives nothing."""
    known = photo.reliable > 0
    return {"photo_width_mm": round(photo.width, 2) if known else None, "photo_reliable": round(photo.reliable, 2)}


def _number(value: float, digits: int = 1) -> float | None:
    """Return a measure for the record; null where nothing was seen."""
    return round(float(value), digits) if np.isfinite(value) else None


def _eye_records(project: Project, reading: EyesReading) -> list[dict[str, Any]]:
    k = project.mm_per_px
    made = []
    for one in reading.eyes:
        eye, values, lights = one.eye, one.plan.values, one.plan.lights
        made.append(
            {
                "name": eye.name,
                "iris_mm": [round(2 * eye.iris.rx * k, 2), round(2 * eye.iris.ry * k, 2)],
                "pupil": eye.pupil_kind,
                "pupil_mm": [round(2 * eye.pupil.rx * k, 2), round(2 * eye.pupil.ry * k, 2)],
                "covered_share": round(eye.covered(), 3),
                "residual_mm": round(one.residual_mm, 3),
                "light": {
                    "hour": round(lights.hour, 2),
                    "distance": round(lights.distance, 3),
                    "size_mm": lights.size_mm,
                    "sky": lights.sky,
                    "way": eye.light.way,
                },
                "values": {
                    "iris_l": _number(values.iris[0]),
                    "pupil_l": _number(values.pupil),
                    "rim_l": _number(values.rim),
                    "shadow_l": _number(values.shadow),
                    "shadow_share": _number(values.shadow_share, 3),
                    "light_hour": _number(values.light_hour, 2),
                    "side_l": _number(values.side),
                    "ring_l": _number(values.ring),
                    "flecks_l": _number(values.flecks, 2),
                },
                "steps": [
                    {
                        "name": step.name,
                        "brush": step.brush.words() if step.brush is not None else None,
                        "width_mm": step.width_mm,
                        "l_low": step.l_low,
                        "l_high": step.l_high,
                        "beneath": step.wetness,
                        "minutes": step.minutes,
                        "left_out": step.left_out or None,
                    }
                    for step in one.plan.steps
                ],
                "checks": [
                    {"name": c.name, "level": c.level, "says": c.says, "why": c.why, "measure": round(float(c.mm), 3)}
                    for c in one.checks
                ],
            }
        )
    return made


def _feature_records(reading: EyesReading) -> list[dict[str, Any]]:
    return [
        {
            "name": feature.name,
            "kind": feature.kind,
            "steps": [
                {
                    "name": step.name,
                    "count": step.count,
                    "brush": step.brush.words() if step.brush is not None else None,
                    "width_mm": step.width_mm,
                    "l": step.light,
                    "beneath": step.wetness,
                }
                for step in steps
            ],
        }
        for feature, steps, _ in reading.features
    ]


def zones(told: Told) -> dict[str, Any]:
    """Return the entries on zones."""
    results, project = told.results, told.project
    shown, facts, numbers = project.back_to_front(), facts_of(results, project), zone_numbers(project)
    passes = passes_of(results, project)

    def zone_record(index: int) -> dict[str, Any]:
        zone, fact = shown[index], facts[index]
        field = growth_of(results, project, index) if zone.kind_of().hair else None
        return {
            "number": numbers[zone.id],
            "id": zone.id,
            "name": zone.name,
            "kind": zone.kind,
            "depth": zone.depth,
            "area_cm2": round(fact.area_cm2, 2),
            "inscribed_mm": round(fact.inscribed_mm, 1),
            "length_mm": round(fact.coat.length_mm, 2),
            "width_mm": round(fact.coat.width_mm, 3),
            "spread_deg": round(fact.coat.spread_deg, 1),
            "clump_mm": round(fact.coat.clump_mm, 2),
            "stray_share": round(fact.coat.stray_share, 3),
            "curl_deg": round(fact.coat.curl_deg, 1),
            "marks_mm": [round(fact.coat.length_mm * share, 2) for share in fact.lengths],
            "form": zone.form.kind or None,
            "animal": zone.group or None,
            "brushes": {
                plan.role.key: {"brush": plan.brushes[index].brush.words(), "as": plan.brushes[index].made_as}
                for plan in passes
                if index in plan.brushes and index in plan.zones
            },
            **_feather_record(results, project, index),
            "combs": len(project.combs_of(zone.id)),
            "sure_share": round(field.sure_share(), 3) if field is not None else None,
        }

    departures = departures_record(project)["departures"]
    return {"zones": [zone_record(k) for k in range(len(shown))], "departures": departures}


def growth(told: Told) -> dict[str, Any]:
    """Return the entries on growth."""
    return {"sure_enough": SURE_ENOUGH}


def edges(told: Told) -> dict[str, Any]:
    """Return the entries on edges; how wide they were rehearsed is null without a rehearsal."""
    results, project, rehearsed = told.results, told.project, told.rehearsed
    zones, planned = project.back_to_front(), edges_of(results, project)
    photo, widths = edge_readings(results, project), edge_widths(results, project)
    seen = rehearsed_widths(rehearsed[-1].standing.shown, project, planned) if rehearsed else {}
    return {
        "edges": [
            {
                "front": zones[border.front].name,
                "back": zones[border.back].name if border.back >= 0 else None,
                "length_mm": round(border.length_mm, 1),
                "grade": plan.grade,
                "width_mm": plan.width_mm,
                "widths_mm": _range_of(widths[border.front, border.back]),
                "decided": plan.decided,
                "reason": plan.reason,
                **_photo_record(photo.get((border.front, border.back), NOTHING)),
                "rehearsed_width_mm": _known(seen.get((border.front, border.back))),
                "made_by": making_at(results, project, border, plan).way,
                "needs": making_at(results, project, border, plan).needs,
            }
            for border, plan in planned
        ]
    }


def lengths(told: Told) -> dict[str, Any]:
    """Return the entries on markings, kit and falloff."""
    results, project = told.results, told.project
    zones = project.back_to_front()
    return {
        "markings": [
            {
                "name": zone.name,
                "stretches": [
                    {
                        "crossed": one.crossed,
                        "angle_deg": round(one.angle_deg, 1),
                        "ragged_mm": round(one.ragged_mm, 1),
                        "dark_over_light": one.dark_over,
                        "length_mm": len(one.line) - 1,
                    }
                    for one in markings_of(results, project)[zone.id]
                ],
            }
            for zone in zones
            if is_marking(zone)
        ],
        "kit": [{"shape": b.shape, "width_mm": b.width_mm, "finest_mm": round(b.fine_mm, 3)} for b in project.kit],
        "falloff": project.falloff,
    }


def eyes(told: Told) -> dict[str, Any]:
    """Return the entries on eyes and features."""
    reading = read_eyes(told.results, told.project)
    return {
        "eyes": _eye_records(told.project, reading),
        "features": _feature_records(reading),
        "twins": [
            {
                "name": g.name,
                "out_mm": round(g.across_mm, 2),
                "low_mm": round(g.along_mm, 2),
                "wide": round(g.wide, 3),
                "tall": round(g.tall, 3),
            }
            for g in reading.twins
        ],
    }


def _veil_record(results: Results, project: Project, plan: PassPlan) -> dict[str, Any] | None:
    """Return a veil with its mix; None for a pass of strokes."""
    veil = plan.role.veil
    if veil is None or not plan.zones:
        return None
    mixed = mix_of(results, project, plan)
    return {
        "manner": veil.manner,
        "place": veil.place,
        "coats": veil.coats,
        "area_cm2": round(veil_area(plan), 2),
        "parts": {key: float(n) for key, n in mixed.recipe.parts},
        "lab": [round(float(v), 2) for v in mixed.lab],
        "paint_share": round(mixed.paint, 4),
        "soft_mm": veil.soft_mm,
        "strip_mm": veil.strip_mm if veil.place == "strip" else None,
        "made_up": veil.made_up,
    }


def passes(told: Told) -> dict[str, Any]:
    """Return the entries on the laying order and the passes."""
    results, project, rehearsed = told.results, told.project, told.rehearsed
    zones, laying = project.back_to_front(), laying_of(results, project)
    palette = palette_of(results, project) if rehearsed else Palette()
    return {
        "laying_order": [zones[k].name for k in laying.order],
        "laying_said_share": round(laying.said_share, 3),
        "work": manner_of_work(project.ways, passes_of(results, project)),
        "turns": [
            {"roles": list(turn.roles), "zones": [zones[k].name for k in turn.zones], "minutes": round(turn.minutes, 1)}
            for turn in turns_of_work(results, project, passes_of(results, project))
        ],
        "left_alone": [
            {"after": one.after or None, "points": [list(at) for at in one.points]} for one in project.left_alone
        ],
        "passes": [
            {
                "number": number,
                "role": one.plan.role.key,
                "name": one.plan.role.name,
                "l_low": one.plan.l_low,
                "l_high": one.plan.l_high,
                "ceiling": one.plan.ceiling,
                "brush_mm": round(one.plan.brush_mm, 2),
                "length_mm": [round(v, 2) for v in one.plan.length_mm],
                "spread_deg": [round(v, 1) for v in one.plan.spread_deg],
                "coverage": one.plan.coverage,
                "zones": [zones[k].name for k in one.plan.zones],
                "marks": one.marks,
                "area_cm2": round(one.area_cm2, 2),
                "minutes": round(one.plan.minutes, 1),
                "veil": _veil_record(results, project, one.plan),
                "parts": [
                    {
                        "zone": zones[k].name,
                        **{name: getattr(one.plan.own[k], name) for name in OF_PART if k in one.plan.own},
                        "marks": part.marks,
                        "minutes": round(part.minutes, 1),
                        "area_cm2": round(part.area_cm2, 2),
                    }
                    for k, part in one.plan.estimates.items()
                ],
                "paint": {
                    name: getattr(one.plan.role, name) for name in (*OF_PAINT, "paint", "handling", "beneath", "black")
                },
                "colours": [
                    {
                        "rgb": list(mix.rgb),
                        "l": round(mix.light, 1),
                        "c": round(mix.chroma, 1),
                        "h_deg": round(mix.hue_deg, 1),
                        "share": round(mix.share, 3),
                    }
                    for mix in pass_colours(results, project, one.plan)
                ],
                "piles": [
                    {"pile": ready.key, "number": ready.number, "name": ready.name, "ml": round(ready.ml, 2)}
                    for ready in ready_for(palette, one.plan.role.key)
                ],
                "brushes_by_value": [
                    [ready.key for ready in group] for group in sorted_brushes(ready_for(palette, one.plan.role.key))
                ],
                "decided": list(one.plan.edit.decided()),
                "cards": list(pass_cards(results, project, one.plan)),
            }
            for number, one in enumerate(rehearsed, 1)
        ],
    }


def rehearsal(told: Told) -> dict[str, Any]:
    """Return how the finished rehearsal compares with the reference, part by part; empty without one."""
    if not told.rehearsed:
        return {"rehearsal": []}
    read = read_painting(told.results, told.project, told.rehearsed[-1].standing.shown)
    return {"rehearsal": reading_records(told.project, read)}
