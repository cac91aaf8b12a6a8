"""Put together what is handed on: the book of sheets, `plan.json`, the findings."""

from typing import Any

import numpy as np

from foxpath import __version__
from foxpath.core.cautions import cautions_for
from foxpath.core.edges import NOTHING, Border, EdgePlan, EdgeReading, Making, making_of
from foxpath.core.growth import SURE_ENOUGH
from foxpath.core.passes import Finding, PassPlan, brush_words, check_passes
from foxpath.core.passes.plan import OF_PAINT
from foxpath.core.progress import SILENT, Progress
from foxpath.core.rehearsal.eyes import eye_room
from foxpath.core.units import duration_words, grouped, mm_words, percent
from foxpath.core.zones import side_words
from foxpath.derive.cards import pass_cards
from foxpath.derive.edging import rehearsed_widths
from foxpath.derive.eyes import EyeReading, EyesReading, eye_findings, eyes_reading, step_shots
from foxpath.derive.feathers import feathered
from foxpath.derive.lengths import hair_share
from foxpath.derive.maps import glyphs_of, make_maps, to_mm
from foxpath.derive.markings import is_marking
from foxpath.derive.painted import read_painting, reading_records
from foxpath.derive.rehearsal import Rehearsed, pass_colours
from foxpath.derive.results import Results, growing
from foxpath.derive.rules import plan_findings
from foxpath.document.model import Project, as_array
from foxpath.sheets import Band, Book, Card, EyeCell, EyeSheet, Fact

FEW_SHOWN = 0.4
"""Below this share of a part the photograph does not show what its hair is like."""
UNSURE_CM2 = 12.0
"""Unsure growth over less than this is not worth a finding."""
BARE_SHARE = 0.005
SHEET_EYE_PX = 900
"""Width of an eye's printed pictures."""


def zone_numbers(project: Project) -> dict[str, int]:
    """Return the number each zone is shown by: its place from the back, starting with 1."""
    return {zone.id: k for k, zone in enumerate(project.back_to_front(), 1)}


def findings(results: Results, project: Project, progress: Progress = SILENT) -> list[Finding]:
    """Return every finding, worst first."""
    found: list[Finding] = []
    if len(project.zones) < 2:
        found.append(
            Finding("look", "No part is outlined yet.", "only the background is planned · outline the animal", "zones")
        )
    bare = results.bare_share(project)
    if bare > BARE_SHARE:
        found.append(
            Finding(
                "must",
                "Part of the canvas belongs to no zone.",
                f"{bare * project.canvas.area_cm2:.0f} cm² would stay bare ground · let a zone cover it",
                "zones",
            )
        )
    for index, zone in growing(project):
        field = results.field(project, index, progress)
        if field is None:
            found.append(
                Finding(
                    "look",
                    f"{zone.name} is hidden.",
                    "other zones cover all of it · move it forward or remove it",
                    "zones",
                    zone.id,
                )
            )
            continue
        if not field.combed:
            found.append(
                Finding(
                    "look",
                    f"{zone.name} has no comb.",
                    "root and tip are only guessed · one comb along the hair settles it",
                    "growth",
                    zone.id,
                )
            )
        elif field.unsure_cm2() > UNSURE_CM2:
            found.append(
                Finding(
                    "look",
                    f"{zone.name}: {field.unsure_cm2():.0f} cm² unsure.",
                    f"{percent(1 - field.sure_share())} less than half sure · comb it",
                    "growth",
                    zone.id,
                )
            )
    numbers = {comb.id: k for k, comb in enumerate(project.combs, 1)}
    for comb, angle in results.contradictions(project):
        where = project.zone(comb.zone)
        found.append(
            Finding(
                "look",
                f"The picture speaks against comb {numbers[comb.id]}, {where.name.lower() if where else 'no zone'}.",
                f"its hair lies {abs(angle):.0f}° off that comb · keep the comb, turn it or drop it",
                "growth",
                comb.id,
            )
        )
    found += _both_ways(results, project)
    found += _fine_hairs(results, project)
    found += _unshown(results, project)
    found += eye_findings(eyes_reading(results, project))
    found += check_passes(results.passes(project))
    found += plan_findings(results, project)
    return sorted(found, key=lambda f: ("must", "look", "note").index(f.level))


def _both_ways(results: Results, project: Project) -> list[Finding]:
    """Name neighbours of which each lies over the other somewhere."""
    zones = project.back_to_front()
    found = []
    for vote in results.laying(project).votes:
        if not vote.both_ways:
            continue
        over, under = zones[vote.after], zones[vote.before]
        middle = as_array(over.points).mean(axis=0) if not over.whole else as_array(under.points).mean(axis=0)
        where = side_words(vote.spot, (float(middle[0]), float(middle[1])))
        found.append(
            Finding(
                "look",
                f"{over.name} lies over {under.name.lower()}, and under it {where}.",
                f"{vote.against_mm:.0f} of {vote.length_mm:.0f} mm of their border · put a parting there, or outline "
                "that part by itself",
                "zones",
                over.id,
            )
        )
    return found


def _fine_hairs(results: Results, project: Project) -> list[Finding]:
    """Name the parts whose hairs are finer than the kit's finest mark, and those no brush fits into."""
    zones = project.back_to_front()
    coat = next((plan for plan in results.passes(project) if plan.role.act == "lights"), None)
    found: list[Finding] = []
    if coat is None:
        return found
    thin = {k: c for k, c in coat.brushes.items() if c.made_as != "hair" and zones[k].kind_of().hair}
    if thin:
        worst = max(thin, key=lambda k: thin[k].mark_mm)
        hints = sum(c.made_as == "hint" for c in thin.values())
        become = f"clumps, and {hints} hints" if hints else "clumps"
        found.append(
            Finding(
                "look",
                f"Hairs of {_named([zones[k].name for k in thin])} are finer than your finest brush.",
                f"{thin[worst].why} · they are painted as {become}; add a finer liner, or a larger canvas",
                "lengths",
                zones[worst].id,
            )
        )
    none = [k for k in coat.zones if k not in coat.brushes]
    if none:
        room = min(results.facts(project)[k].inscribed_mm for k in none)
        found.append(
            Finding(
                "look",
                f"No brush of your kit fits into {_named([zones[k].name for k in none])}.",
                f"{mm_words(room)} at its widest · add a smaller brush, or join the part to its neighbour",
                "lengths",
                zones[none[0]].id,
            )
        )
    return found


def _unshown(results: Results, project: Project) -> list[Finding]:
    """Name the parts on which the photograph shows hardly any hair, and whose length nobody has said."""
    silent = [
        (index, zone)
        for index, zone in growing(project)
        if zone.kind_of().cover
        and zone.coat.length_mm is None
        and project.donor_of(zone.id) is None
        and not any(fan.zone == zone.id for fan in project.fans)
        and results.facts(project)[index].area_cm2 > UNSURE_CM2
    ]
    found = []
    for index, zone in silent:
        share = hair_share(results, project, index)
        if share < FEW_SHOWN:
            found.append(
                Finding(
                    "look",
                    f"The photograph hardly shows the hair of {zone.name.lower()}.",
                    f"hair on {percent(share)} of it, the length is a default · measure it elsewhere, or borrow from a donor",
                    "lengths",
                    zone.id,
                )
            )
    return found


def _named(names: list[str]) -> str:
    """Write one or two names, or one and how many more."""
    low = [name.lower() for name in names]
    if len(low) <= 2:
        return " and ".join(low)
    return f"{low[0]} and {len(low) - 1} more"


LAID = {"opaque": "covering", "glaze": "a glaze", "dry": "nearly dry", "scumble": "a scumble"}
"""How paint is laid, in words."""


def pass_facts(plan: PassPlan, marks: int, minutes: float) -> tuple[Fact, ...]:
    """Return a pass's numbers in words."""
    low, high = plan.length_mm
    lengths = mm_words(low) if high - low < 0.5 else f"{mm_words(low)} to {mm_words(high)}"
    least, most = plan.spread_deg
    spread = f"± {least:.0f}°" if most - least < 1 else f"± {least:.0f}° to {most:.0f}°"
    return (
        Fact("time", duration_words(minutes)),
        Fact("values", f"L* {plan.l_low:.0f} to {plan.l_high:.0f}, ceiling {plan.ceiling:.0f}"),
        Fact("brush", brush_words(plan) or f"up to {mm_words(plan.brush_mm)} wide"),
        Fact("marks", f"{grouped(marks)} · {lengths} long"),
        Fact("spread", spread),
        Fact("coverage", f"{percent(plan.coverage)} where it belongs"),
        Fact("beneath", plan.role.beneath),
        Fact("paint", f"{LAID[plan.role.handling]} · medium {percent(plan.role.fat)}"),
    )


def eye_sheet(results: Results, project: Project, reading: EyeReading) -> EyeSheet:
    """Gather what the pages of an eye show."""
    eye, steps, k = reading.eye, reading.plan.steps, project.mm_per_px
    x, y, wide, tall = eye_room(eye)
    side = 2.16 * max(eye.iris.rx, eye.iris.ry)
    cells = tuple(
        EyeCell(
            step.key,
            step.name,
            f"Left out: {step.left_out}." if step.left_out else step.how,
            f"{step.brush.words() if step.brush is not None else 'no brush'}, marks {mm_words(step.width_mm)} · "
            f"L* {step.l_low:.0f} to {step.l_high:.0f} · over {step.wetness} · {step.minutes:.0f} min",
            shot,
            step.painted,
        )
        for step, shot in zip(steps, step_shots(results, project, eye, SHEET_EYE_PX), strict=True)
    )
    iris = ((eye.iris.cx - side / 2 - x) * k, (eye.iris.cy - side / 2 - y) * k, side * k)
    looks = tuple(c.says for c in reading.checks if c.level != "note")
    return EyeSheet(eye.name, reading.size, cells, wide * k, tall * k, iris, looks)


def make_book(results: Results, project: Project, rehearsed: list[Rehearsed], progress: Progress = SILENT) -> Book:
    """Gather what the sheets show."""
    zones = project.back_to_front()
    numbers = zone_numbers(project)
    k = project.mm_per_px

    def named(index: int) -> str:
        return f"{numbers[zones[index].id]} {zones[index].name.lower()}" if index >= 0 else "bare canvas"

    unsure = []
    for index, zone in growing(project):
        field = results.field(project, index, progress)
        if field is None:
            continue
        if field.unsure_cm2() > UNSURE_CM2:
            unsure.append(f"{zone.name} ({field.unsure_cm2():.0f} cm²)")
    along = results.edge_widths(project)
    bands = tuple(
        Band(
            tuple(to_mm(project, run) for run in border.runs),
            along[border.front, border.back],
            f"{named(border.front)} over {named(border.back)} · {plan.grade} {mm_words(plan.width_mm)} · "
            f"{_making(project, border, plan).way}",
        )
        for border, plan in results.edges(project)
    )
    frame = results.map_frame(project)
    labels = results.labels(project, frame)
    places = []
    for index, zone in enumerate(zones):
        rows, columns = np.nonzero(labels == index)
        if not len(rows):
            continue
        middle = len(rows) // 2
        at = (float(np.median(columns)), float(np.median(rows)))
        if labels[int(at[1]), int(at[0])] != index:
            at = (float(columns[middle]), float(rows[middle]))
        places.append((numbers[zone.id], zone.name, (at[0] * frame.cell_mm, at[1] * frame.cell_mm), zone.kind))
    cards = tuple(
        Card(
            f"{number}  {one.plan.role.name}",
            one.plan.role.reason,
            one.standing.shown,
            pass_facts(one.plan, one.marks, one.plan.minutes),
            (one.plan.l_low, one.plan.l_high, one.plan.ceiling),
            ", ".join(f"{k + 1} {zones[k].name.lower()}" for k in one.plan.zones),
            cautions_for(one.plan.role),
            pass_cards(results, project, one.plan),
            pass_colours(results, project, one.plan),
        )
        for number, one in enumerate(rehearsed, 1)
    )
    long_side = 1600
    scale = long_side / max(project.canvas.width_mm, project.canvas.height_mm)
    columns_, rows_ = round(project.canvas.width_mm * scale), round(project.canvas.height_mm * scale)
    empty = np.zeros((0, 8, 2), np.float32)
    glyphs = [one for _, one in glyphs_of(results, project, progress)]
    return Book(
        title=project.name,
        canvas=project.canvas,
        grid=project.transfer.grid,
        reference=results.cropped(project, columns_, rows_),
        hairs_mm=np.concatenate([empty, *(to_mm(project, one.points_px).astype(np.float32) for one in glyphs)]),
        hair_width_mm=np.concatenate([empty[:, 0, 0], *(one.width_px * np.float32(k) for one in glyphs)]),
        hair_sure=np.concatenate([empty[:, 0, 0], *(one.sure for one in glyphs)]),
        combs_mm=tuple(to_mm(project, as_array(comb.points)) for comb in project.combs),
        zones=tuple(places),
        bands=bands,
        cards=cards,
        maps=make_maps(results, project, progress),
        eyes=tuple(eye_sheet(results, project, one) for one in eyes_reading(results, project).eyes),
        unsure=f"Still unsure: {', '.join(unsure)}." if unsure else "The growth is sure everywhere.",
    )


def _making(project: Project, border: Border, plan: EdgePlan) -> Making:
    zones = project.back_to_front()
    back = zones[border.back].kind_of() if border.back >= 0 else None
    return making_of(plan, zones[border.front].kind_of(), back)


def _range_of(widths: tuple[Any, ...]) -> list[float]:
    """Return the least and the most width along a border."""
    return [round(float(min(w.min() for w in widths)), 2), round(float(max(w.max() for w in widths)), 2)]


def _feather_record(results: Results, project: Project, index: int) -> dict[str, Any]:
    """Return how many feathers a zone has, and how many are worth painting; nothing where it has none."""
    if index not in {k for k, _ in feathered(project)}:
        return {}
    made = results.feathers(project, index)
    return {"feathers": made.count, "feathers_worth_painting": int(made.leading.sum())}


def _known(width_mm: float | None) -> float | None:
    """Return a width for the record; null where none was read."""
    return round(width_mm, 2) if width_mm is not None and np.isfinite(width_mm) else None


def _photo_record(photo: EdgeReading) -> dict[str, Any]:
    """Return what the photograph shows of an edge; null where it gives nothing."""
    known = photo.reliable > 0
    return {
        "photo_width_mm": round(photo.width, 2) if known else None,
        "photo_reliable": round(photo.reliable, 2),
    }


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


def plan_record(results: Results, project: Project, rehearsed: list[Rehearsed]) -> dict[str, Any]:
    """Return everything `plan.json` holds: the plan with all its numbers, units in the names."""
    zones = project.back_to_front()
    facts = results.facts(project)
    photo, laying, edges = results.edge_readings(project), results.laying(project), results.edges(project)
    widths = results.edge_widths(project)
    seen = rehearsed_widths(rehearsed[-1].standing.shown, project, edges) if rehearsed else {}
    numbers = zone_numbers(project)

    passes = results.passes(project)

    def zone_record(index: int) -> dict[str, Any]:
        zone, fact = zones[index], facts[index]
        field = results.field(project, index) if zone.kind_of().hair else None
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

    return {
        "foxpath": __version__,
        "name": project.name,
        "canvas": {"width_mm": project.canvas.width_mm, "height_mm": project.canvas.height_mm},
        "mm_per_px": project.mm_per_px,
        "sure_enough": SURE_ENOUGH,
        "zones": [zone_record(k) for k in range(len(zones))],
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
                "made_by": _making(project, border, plan).way,
                "needs": _making(project, border, plan).needs,
            }
            for border, plan in edges
        ],
        "eyes": _eye_records(project, eyes_reading(results, project)),
        "features": _feature_records(eyes_reading(results, project)),
        "twins": [
            {
                "name": g.name,
                "out_mm": round(g.across_mm, 2),
                "low_mm": round(g.along_mm, 2),
                "wide": round(g.wide, 3),
                "tall": round(g.tall, 3),
            }
            for g in eyes_reading(results, project).twins
        ],
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
                    for one in results.markings(project)[zone.id]
                ],
            }
            for zone in zones
            if is_marking(zone)
        ],
        "kit": [{"shape": b.shape, "width_mm": b.width_mm, "finest_mm": round(b.fine_mm, 3)} for b in project.kit],
        "falloff": project.falloff,
        "laying_order": [zones[k].name for k in laying.order],
        "laying_said_share": round(laying.said_share, 3),
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
                "parts": [
                    {
                        "zone": zones[k].name,
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
                "decided": list(one.plan.edit.decided()),
                "cards": list(pass_cards(results, project, one.plan)),
            }
            for number, one in enumerate(rehearsed, 1)
        ],
        "rehearsal": reading_records(project, read_painting(results, project, rehearsed[-1].standing.shown))
        if rehearsed
        else [],
        "findings": [
            {"level": f.level, "says": f.says, "why": f.why, "stop": f.where} for f in findings(results, project)
        ],
    }
