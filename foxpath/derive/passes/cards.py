"""The cards of a pass, part by part, from plan, growth, edges and what the reference shows."""

import numpy as np

from foxpath.core.arrays import F32, frozen
from foxpath.core.feathers import GAP_SHARE
from foxpath.core.growth import ZoneField
from foxpath.core.passes import PassPlan
from foxpath.core.passes.cards import CardFacts, card_words, feather_words, veil_words, way_words
from foxpath.core.passes.plan import CURLY_DEG, VANED
from foxpath.core.passes.veils import Veil
from foxpath.core.passes.words import value_words
from foxpath.core.units import count_words, mm_words
from foxpath.core.zones import side_words
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.eyes.homes import eyes_in, features_in
from foxpath.derive.eyes.reading import eye_plan, feature_steps
from foxpath.derive.frames import map_frame
from foxpath.derive.growth.fields import growth_key, growth_of
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.lengths.feathers import feathered, feathers_of
from foxpath.derive.lengths.markings import is_marking
from foxpath.derive.passes.plan import first_of_act, passes_of, role_is_own
from foxpath.derive.passes.wetness import dry_neighbours, making_at
from foxpath.derive.pictures import picture_key, study_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import mask_key, mask_of, zone_index
from foxpath.document.edits import zone_under
from foxpath.document.model import Project, Zone, as_array

CURLS_WAY = "lock by lock, no single direction, dark first under each curl"
SOME_OF_IT = ("highlights", "darks", "restated")
"""Acts that paint a share of a part only."""
MOST_EDGES = 2
LEAST = 0.01
"""A part where less than this takes a pass's paint has no card in it."""
_EDGE_ROLES = {"background": ("lost", "soft"), "undercoat": ("lost", "soft"), "lights": ("firm", "hard", "soft")}
"""Which grades are made in which pass: lost and soft ones early and wet, firm and hard ones with the top coat."""


def pass_cards(results: Results, project: Project, plan: PassPlan) -> tuple[str, ...]:
    """Return what to do in a pass, one sentence a part, in laying order."""
    if plan.role.act == "ground":
        brush = next((c.brush.words() for c in plan.brushes.values()), "the broadest brush")
        return (f"Whole canvas: {brush}, crossing strokes, thin, {value_words(plan.l_low, plan.l_high)}; let it dry.",)
    names = [zone.name for zone in project.back_to_front()]
    kept = tuple(f"{names[k]}: {words}." for k, words in kept_off(results, project, plan).items())
    if plan.role.veil is not None:
        return (*_veil_cards(project, plan, plan.role.veil), *kept)
    cards = tuple(
        card_words(plan.role, facts)
        for index in plan.zones
        if (facts := card_facts(results, project, plan, index)) is not None
    )
    return (*cards, *kept)


def _veil_cards(project: Project, plan: PassPlan, veil: Veil) -> tuple[str, ...]:
    """Return a veil's cards, a sentence a part."""
    zones = project.back_to_front()
    return tuple(
        veil_words(
            veil,
            zones[index].name,
            plan.brushes[index].words() if index in plan.brushes else "",
            one.area_cm2 / veil.coats,
            one.minutes,
        )
        for index, one in plan.estimates.items()
    )


def kept_off(results: Results, project: Project, plan: PassPlan) -> dict[int, str]:
    """Say in which parts a pass keeps off an area, because it stays as an earlier pass left it."""
    keys = [one.role.key for one in passes_of(results, project) if one.on]
    names = {one.role.key: one.role.name.lower() for one in passes_of(results, project)}
    if plan.role.key not in keys:
        return {}
    done = keys[: keys.index(plan.role.key)]
    said: dict[int, str] = {}
    for one in project.left_alone:
        if one.after in done:
            outline = as_array(one.points)
            # Halfway in: an outline itself may run over what lies beside.
            zone = zone_under(project, outline / 2 + outline.mean(axis=0) / 2)
            index = zone_index(project, zone) if zone is not None else -1
            if index in plan.zones:
                said[index] = f"keep off the area that stays as {names[one.after]} left it"
    return said


def card_facts(results: Results, project: Project, plan: PassPlan, index: int) -> CardFacts | None:
    """Return what a part's card in a pass is made from; None where there is nothing to do."""
    zones = project.back_to_front()
    zone, fact = zones[index], facts_of(results, project)[index]
    if fact.area_cm2 <= 0 or is_marking(zone):
        return None
    more = _more(results, project, plan, index)
    follow = plan.brushes[index].follow_up() if index in plan.brushes else ""
    if role_is_own(results, project, plan.role.act, index):
        # Its own steps are all there is to do.
        taken = plan.estimates[index].minutes if index in plan.estimates else 0.0
        return CardFacts(zone.name, "", "own", 0, (0, 0), "", 0, 0, 0, more=more, minutes=taken) if more else None
    plan = plan.at(index)
    mark, choice = plan.mark_of(index, fact), plan.brushes.get(index)
    light = _lights(results, project, index)
    low, high = plan.l_low, min(plan.l_high, plan.ceiling)
    least, most = (float(np.clip(v, low, high)) for v in np.percentile(light, (8, 92)))
    shares = {
        "highlights": (light > low).mean(),
        "darks": (light < high + 8).mean(),
        "restated": (light < high + 12).mean(),
    }
    share = float(shares.get(plan.role.act, 1.0))
    if plan.role.act == "background" and plan.role.belongs < 1:
        share = plan.role.belongs
    if share < LEAST:
        return None
    estimate = plan.estimates.get(index)
    curled = mark.curl_deg >= CURLY_DEG and not plan.role.block_in
    vaned = fact.feather_mm > 0 and plan.role.act in VANED
    spans = fact.lengths if not plan.role.block_in else (1.0, 1.0)
    return CardFacts(
        zone.name,
        choice.words() if choice is not None else "",
        "barb"
        if vaned
        else "curl"
        if curled
        else choice.made_as
        if choice is not None
        else "mass"
        if plan.role.block_in
        else "hair",
        mark.width_mm,
        (mark.length_mm * spans[0], mark.length_mm * spans[1]),
        "from the shaft out to both edges" if vaned else CURLS_WAY if curled else _way(results, project, index),
        mark.spread_deg if zone.kind_of().hair else 0.0,
        least,
        most,
        float((light < low).mean()) if plan.role.act in {"undercoat", "lights"} else 0.0,
        share,
        _edges(results, project, plan, index),
        ((follow,) if follow else ()) + more,
        estimate.marks if estimate is not None else 0,
        estimate.minutes if estimate is not None else 0.0,
        fact.area_cm2 * (share if plan.role.act in SOME_OF_IT or plan.role.act == "background" else 1.0),
    )


def _lights(results: Results, project: Project, index: int) -> F32:
    """Return some thousand values of the reference over a zone, L*."""
    frame = map_frame(project)
    key = ("lights of", mask_key(results, project, index, frame), picture_key(results, project), frame)

    def make() -> F32:
        values = study_of(results, project).fine[..., 0][mask_of(results, project, index, frame)]
        some: F32 = frozen(values[:: max(1, len(values) // 4000)].copy())
        return some

    return results.memo.get(key, make)


def _way(results: Results, project: Project, index: int) -> str:
    zone = project.back_to_front()[index]
    field = growth_of(results, project, index) if zone.kind_of().hair else None
    if field is None:
        return ""
    key = ("way", growth_key(results, project, index, field.frame), project.focal_point)
    return results.memo.get(key, lambda: _read_way(field, project.focal_point))


def _read_way(field: ZoneField, middle: tuple[float, float]) -> str:
    row, column = np.nonzero(field.inside)
    step = max(1, len(row) // 400)
    row, column = row[::step], column[::step]
    places = field.frame.to_px(np.stack([column + field.column + 0.5, row + field.row + 0.5], axis=1))
    return way_words(field.direction[row, column], places, middle)


def _edges(results: Results, project: Project, plan: PassPlan, index: int) -> tuple[str, ...]:
    """Return what to do at a part's longest borders that are made in this pass."""
    grades = _EDGE_ROLES.get(plan.role.act, ())
    zones = project.back_to_front()
    said: list[str] = []
    dry = {(border.front, border.back) for border in dry_neighbours(results, project)} if grades else set()
    for border, edge in edges_of(results, project):
        if border.front != index or edge.grade not in grades or border.length_mm < 25:
            continue
        back = zones[border.back] if border.back >= 0 else None
        made = making_at(results, project, border, edge)
        run = max(border.runs, key=len)
        x, y = run[len(run) // 2]
        points = np.concatenate(border.runs)
        middle = zones[index].middle() if not zones[index].whole else tuple(float(v) for v in points.mean(axis=0))
        where = side_words((float(x), float(y)), (float(middle[0]), float(middle[1])))
        name = back.name.lower() if back is not None else "the bare canvas"
        wet = " while it is wet" if "wet" in made.needs and "wet" not in made.way else ""
        if (border.front, border.back) in dry:
            wet = (
                " over the dry, and firmer for it" if project.ways.edges == "dry" else ", its strip repainted wet first"
            )
        said.append(f"{made.way} toward {name} {where}{wet}, {edge.width_mm:.1f} mm")
        if len(said) == MOST_EDGES:
            break
    return tuple(said)


def _more(results: Results, project: Project, plan: PassPlan, index: int) -> tuple[str, ...]:
    """Return what else a pass paints in a part: steps of its eye, parts of its features."""
    said = _feathers(results, project, plan, index) + _markings(project, plan, index)
    if not first_of_act(results, project, plan, index):
        return tuple(said)
    role, zone = plan.role.act, project.back_to_front()[index]
    for eye in eyes_in(results, project, index):
        names = [
            s.name
            for s in eye_plan(results, project, eye).steps
            if s.painted and (role == "eyes" or s.role in (role, "lashes" if role == "lights" else role))
        ]
        if role == "restated":
            said.append(f"{_other(eye.name, zone)}the pupil again, at its darkest")
        elif names:
            said.append(f"{_other(eye.name, zone)}in this order: {', '.join(names)}")
    for feature in features_in(results, project, index):
        for step in feature_steps(results, project, feature):
            if step.role == role:
                count = f"{count_words(step.count, 'stroke')}, " if step.count > 1 else ""
                said.append(f"{_other(feature.name, zone)}{step.name}: {count}L* {step.light:.0f}, over {step.wetness}")
    return tuple(said)


def _markings(project: Project, plan: PassPlan, index: int) -> list[str]:
    """Return which markings in a part give way to its coat, where the pass lays the coat."""
    if plan.role.act not in ("undercoat", "lights"):
        return []
    mine = project.back_to_front()[index].id
    soft = [zone for zone in project.back_to_front() if is_marking(zone) and zone.soft_mm > 0]
    return [
        f"{zone.name.lower()} gives way over {mm_words(zone.soft_mm)}: blend its ends into the coat"
        for zone in soft
        if zone_under(project, as_array(zone.points)) == mine
    ]


def _feathers(results: Results, project: Project, plan: PassPlan, index: int) -> list[str]:
    """Return what a pass does on a part's feathers, where it has any."""
    zone = project.back_to_front()[index]
    if (index, zone) not in feathered(project):
        return []
    made = feathers_of(results, project, index)
    if not made.count:
        return []
    gap = GAP_SHARE * float(np.median(made.width_mm[made.leading])) if made.leading.any() else 0.0
    lead = int(made.leading.sum())
    words = feather_words(plan.role.act, lead, made.count - lead, len(np.unique(made.row)), gap)
    return [words] if words else []


def _other(name: str, zone: Zone) -> str:
    """Name what is painted in a zone, unless the zone has that name itself."""
    return "" if name.lower() == zone.name.lower() else f"{name.lower()}, "
