"""Rules that need more than the passes' own numbers: what no pass covers, whiskers forgotten, neighbours that will be dry."""

import numpy as np

from foxpath.core.findings import Finding
from foxpath.core.units import count_words, mm_words, percent
from foxpath.core.zones import label_map
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.frames import map_frame
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.passes.wetness import beneath_of, dry_neighbours
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import mask_of
from foxpath.document.model import Project


def plan_findings(results: Results, project: Project) -> list[Finding]:
    """Return what follows from the plan alone: parts no pass covers, whiskers forgotten, edges whose neighbour will be dry."""
    zones, passes = project.back_to_front(), [p for p in passes_of(results, project) if p.on]
    found = []
    covered = {index for plan in passes if plan.role.act != "ground" and plan.coverage > 0 for index in plan.zones}
    for index, zone in enumerate(zones):
        if zone.kind_of().painted and index not in covered and facts_of(results, project)[index].area_cm2 > 0:
            found.append(
                Finding(
                    "must",
                    f"No pass covers {zone.name.lower()}.",
                    f"{facts_of(results, project)[index].area_cm2:.0f} cm² would stay bare · turn a pass on that paints it",
                    "passes",
                    zone.id,
                )
            )
    found += _whiskers(project, {p.role.act for p in passes})
    found += _dry_neighbours(results, project)
    found += _late_background(results, project)
    found += _shadows(results, project)
    return found


OVER_HAIR = 0.3
"""Share of a cast shadow from which on it lies over a coat."""


def _shadows(results: Results, project: Project) -> list[Finding]:
    """Name the cast shadows that cover a coat: its hair would be painted away."""
    frame, zones = map_frame(project), project.back_to_front()
    found = []
    for index, zone in enumerate(zones):
        if zone.kind_of().key != "shadow" or zone.whole:
            continue
        covering = tuple(z.shape for z in zones[:index])
        key = ("beneath shadow", tuple((z.points, z.depth, z.kind) for z in zones[:index]), zone.points, frame)
        beneath = results.memo.get(key, lambda covering=covering: label_map(covering, frame))  # type: ignore[misc]
        here = beneath[mask_of(results, project, index, frame)]
        hairy = [k for k, z in enumerate(zones[:index]) if z.kind_of().hair and z.kind_of().cover]
        on_coat = np.isin(here, hairy)
        if len(here) and float(on_coat.mean()) >= OVER_HAIR:
            coat = zones[int(np.bincount(here[on_coat]).argmax())]
            found.append(
                Finding(
                    "look",
                    f"{zone.name} covers the hair of {coat.name.lower()}.",
                    f"{percent(float(on_coat.mean()))} of it lies on a coat · make it a shadow on a coat at Zones: hair, markings and growth "
                    "run on beneath",
                    "passes",
                    zone.id,
                )
            )
    return found


def _late_background(results: Results, project: Project) -> list[Finding]:
    """Say what must be done again where a background is painted after the coats that stand before it."""
    late = [
        (border, edge) for border, edge in edges_of(results, project) if beneath_of(results, project, border) == "later"
    ]
    late = [
        (border, edge)
        for border, edge in late
        if border.back >= 0 and not project.back_to_front()[border.back].kind_of().hair
    ]
    if not late:
        return []
    zones = project.back_to_front()
    length = sum(border.length_mm for border, _ in late)
    hairs = sum(edge.grade != "hard" and zones[border.front].kind_of().hair for border, edge in late)
    key = next((p.role.key for p in passes_of(results, project) if p.role.act == "background"), "background")
    again = f"; then hairs over {count_words(hairs, 'edge')}" if hairs else ""
    return [
        Finding(
            "look",
            "The background is painted after the animal.",
            f"{count_words(len(late), 'edge')}, {mm_words(length)}, to cut in round with a soft brush{again}; look again at its colour "
            "in the coat's shadows and in the eyes · or move it before the undercoat",
            "passes",
            key,
        )
    ]


def _whiskers(project: Project, on: set[str]) -> list[Finding]:
    furred = any(z.kind in {"short-fur", "long-fur", "curly-fur"} for z in project.zones)
    planned = any(z.kind == "whisker" for z in project.zones)
    if planned and "whiskers" not in on:
        return [
            Finding(
                "look",
                "Whiskers are planned, and their pass is off.",
                "they come last · turn the pass on",
                "passes",
                "whiskers",
            )
        ]
    if furred and project.eyes and not planned and any(f.kind in {"nose", "mouth"} for f in project.features):
        return [
            Finding(
                "look",
                "No whiskers are planned.",
                "a muzzle with none looks unfinished · draw them at Eyes, features, or leave them out on purpose",
                "passes",
                "",
            )
        ]
    return []


def _dry_neighbours(results: Results, project: Project) -> list[Finding]:
    """Name the soft edges that are dragged into a neighbour that was painted in an earlier pass, and is dry by then."""
    dry = dry_neighbours(results, project)
    if not dry or project.ways.edges == "strip":
        # The strip is planned: the cards say so.
        return []
    zones, longest = project.back_to_front(), dry[0]
    front, back_zone = zones[longest.front], zones[longest.back]
    count = "One edge needs" if len(dry) == 1 else f"{len(dry)} edges need"
    return [
        Finding(
            "look",
            f"{count} a wet neighbour that will be dry.",
            f"{front.name.lower()} against {back_zone.name.lower()}, {mm_words(longest.length_mm)} long, is dragged into the "
            "wet · keep the mix and repaint its strip first (say so at School), or grade the edge firmer",
            "passes",
            "undercoat",
        )
    ]
