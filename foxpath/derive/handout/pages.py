"""What each subject prints: its pages of the book of sheets."""

import numpy as np

from foxpath.core.cautions import cautions_for
from foxpath.core.passes import PassPlan, Veil, brush_words
from foxpath.core.passes.veils import PLACES
from foxpath.core.passes.words import medium_words, step_of, value_words
from foxpath.core.passes.working import areas_words
from foxpath.core.rehearsal.eyes import eye_room
from foxpath.core.reporting import Progress
from foxpath.core.scatter import even_points
from foxpath.core.units import count_words, duration_words, grouped, mm_words, percent
from foxpath.core.zones.order import share_words
from foxpath.derive.edges.plan import edge_widths, edges_of
from foxpath.derive.eyes.reading import EyeReading, read_eyes
from foxpath.derive.eyes.steps import step_shots
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.growth.reading import UNSURE_CM2
from foxpath.derive.handout.maps import feather_maps, glyphs_of, markings_mm, to_mm, zone_spot
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.lengths.field import lengths_of
from foxpath.derive.lengths.hanging import fringes_of
from foxpath.derive.mixes.palette import palette_of
from foxpath.derive.mixes.ready import ReadyPile, ready_for, ready_words, sorted_words
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.laying import laying_of, turns_of_work
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.passes.veils import veil_area
from foxpath.derive.passes.wetness import making_at
from foxpath.derive.rehearsal.painting import pass_colours
from foxpath.derive.results import Results
from foxpath.derive.subject import Told
from foxpath.derive.zones.reading import zone_numbers
from foxpath.derive.zones.shapes import growing, labels_of
from foxpath.document.model import Project, as_array
from foxpath.sheets import (
    Band,
    Card,
    Draw,
    EdgeSheet,
    EyeCell,
    EyeSheet,
    Fact,
    GrowthSheet,
    LayingSheet,
    LengthRow,
    LengthSheet,
    edge_page,
    eye_pages,
    feather_page,
    growth_page,
    laying_page,
    length_page,
    pass_pages,
    reference_page,
)
from foxpath.sheets.length_pages import length_words

SHEET_EYE_PX = 900
"""Width of an eye's printed pictures."""


LAID = {"opaque": "covering", "glaze": "a glaze", "dry": "nearly dry", "scumble": "a scumble"}
"""How paint is laid, in words."""
MOST_TURNS = 12
"""Turns of the order of work that the page of the laying order has room for."""
SAMPLES = 44
"""Lengths written on their map."""


def reference(told: Told, progress: Progress) -> list[Draw]:
    """Return the page of the reference under its grid."""
    return [reference_page]


def growth(told: Told, progress: Progress) -> list[Draw]:
    """Return the page of the growth. Raises `Cancelled`."""
    results, project = told.results, told.project
    unsure = []
    for index, zone in growing(project):
        field = growth_of(results, project, index, progress)
        if field is None:
            continue
        if field.unsure_cm2() > UNSURE_CM2:
            unsure.append(f"{zone.name} ({field.unsure_cm2():.0f} cm²)")
    glyphs = [one for _, one in glyphs_of(results, project, progress)]
    empty, k = np.zeros((0, 8, 2), np.float32), np.float32(project.mm_per_px)
    sheet = GrowthSheet(
        np.concatenate([empty, *(to_mm(project, one.points_px).astype(np.float32) for one in glyphs)]),
        np.concatenate([empty[:, 0, 0], *(one.width_px * k for one in glyphs)]),
        np.concatenate([empty[:, 0, 0], *(one.sure for one in glyphs)]),
        tuple(to_mm(project, as_array(comb.points)) for comb in project.combs),
        f"Still unsure: {', '.join(unsure)}." if unsure else "The growth is sure everywhere.",
    )
    return [growth_page(sheet)]


def edges(told: Told, progress: Progress) -> list[Draw]:
    """Return the page of the edges. Raises `Cancelled`."""
    results, project = told.results, told.project
    zones, numbers = project.back_to_front(), zone_numbers(project)

    def named(index: int) -> str:
        return f"{numbers[zones[index].id]} {zones[index].name.lower()}" if index >= 0 else "bare canvas"

    along = edge_widths(results, project)
    bands = tuple(
        Band(
            tuple(to_mm(project, run) for run in border.runs),
            along[border.front, border.back],
            f"{named(border.front)} over {named(border.back)} · {plan.grade} {mm_words(plan.width_mm)} · "
            f"{making_at(results, project, border, plan).way}",
        )
        for border, plan in edges_of(results, project)
    )
    hanging = [line for lines, _ in fringes_of(results, project, progress).values() for line in to_mm(project, lines)]
    # On paper every third hair says enough.
    sheet = EdgeSheet(
        bands, _places(results, project), tuple(hanging[::3]), tuple(markings_mm(results, project, progress))
    )
    return [edge_page(sheet)]


def _places(results: Results, project: Project) -> tuple[tuple[int, tuple[float, float]], ...]:
    """Return where each zone's number stands, mm on the canvas."""
    zones, numbers = project.back_to_front(), zone_numbers(project)
    frame = map_frame(project)
    labels = labels_of(results, project, frame)
    places = []
    for index, zone in enumerate(zones):
        rows, columns = np.nonzero(labels == index)
        if not len(rows):
            continue
        middle = len(rows) // 2
        at = (float(np.median(columns)), float(np.median(rows)))
        if labels[int(at[1]), int(at[0])] != index:
            at = (float(columns[middle]), float(rows[middle]))
        places.append((numbers[zone.id], (at[0] * frame.cell_mm, at[1] * frame.cell_mm)))
    return tuple(places)


def lengths(told: Told, progress: Progress) -> list[Draw]:
    """Return the pages of lengths and feathers. Raises `Cancelled`."""
    feathers = tuple(feather_maps(told.results, told.project, progress))
    return [length_page(length_sheet(told, progress)), *([feather_page(feathers)] if feathers else [])]


def length_sheet(told: Told, progress: Progress) -> LengthSheet:
    """Gather what the page of lengths shows: some lengths at their place, and every zone's marks and brushes. Raises `Cancelled`."""
    results, project = told.results, told.project
    zones, frame = project.back_to_front(), growth_frame(project)
    labels, lengths, facts = (
        labels_of(results, project, frame),
        lengths_of(results, project, progress),
        facts_of(results, project),
    )
    at = even_points(SAMPLES * 3, np.random.default_rng(5)).astype(np.float64) * (frame.columns, frame.rows)
    spots: list[tuple[float, float, float]] = []
    for x, y in at:
        index = int(labels[int(y), int(x)])
        if index >= 0 and zones[index].kind_of().hair and len(spots) < SAMPLES:
            length = project.coat_of(zones[index]).length_mm * float(lengths.length[int(y), int(x)])
            spots.append((x * frame.cell_mm, y * frame.cell_mm, length))
    passes = {plan.role.act: plan for plan in passes_of(results, project)}

    def brush(role: str, index: int) -> str:
        choice = passes[role].brushes.get(index) if role in passes and index in passes[role].zones else None
        return choice.brush.words() if choice is not None else ""

    rows = []
    for index, zone in enumerate(zones):
        if not zone.kind_of().painted:
            continue
        coat, (low, high) = facts[index].coat, facts[index].lengths
        finest = passes["lights"].brushes.get(index) if "lights" in passes else None
        note = f"as {finest.made_as}s" if finest is not None and finest.made_as in ("clump", "hint") else ""
        rows.append(
            LengthRow(
                index + 1,
                zone.name,
                length_words(low * coat.length_mm, high * coat.length_mm),
                mm_words(coat.width_mm),
                brush("darks", index),
                brush("lights", index) or brush("whiskers", index) or brush("background", index),
                note,
            )
        )
    return LengthSheet(np.array(spots, np.float64).reshape(-1, 3), tuple(rows))


def eyes(told: Told, progress: Progress) -> list[Draw]:
    """Return the pages of every eye."""
    reading = read_eyes(told.results, told.project, progress)
    return eye_pages(tuple(eye_sheet(told.results, told.project, one) for one in reading.eyes))


def passes(told: Told, progress: Progress) -> list[Draw]:
    """Return the page of the laying order, and those of every rehearsed pass. Raises `Cancelled`."""
    return [laying_page(laying_sheet(told, progress)), *(page for card in cards_of(told) for page in pass_pages(card))]


def laying_sheet(told: Told, progress: Progress) -> LayingSheet:
    """Gather what the page of the laying order shows. Raises `Cancelled`."""
    results, project = told.results, told.project
    zones = project.back_to_front()
    laying = laying_of(results, project, progress)
    covering = [k for k in laying.order if zones[k].kind_of().cover]
    order = tuple((place, zones[k].name, zone_spot(results, project, k)) for place, k in enumerate(covering, 1))
    words = share_words(laying.said_share)
    for ring in laying.cycles:
        names = " over ".join(zones[k].name.lower() for k in (*ring, ring[0]))
        words += f" A ring: {names}; depth decides there, and a parting or a zone of its own would end it."
    plans = passes_of(results, project)
    turns = areas_words(
        turns_of_work(results, project, plans), [z.name for z in zones], {p.role.key: p.role.name for p in plans}
    )
    if turns:
        more = len(turns) - MOST_TURNS
        further = f" And {count_words(more, 'turn')} more: see the order of work at Passes." if more > 0 else ""
        words += (
            f" Worked area by area, each carried through while it is open. {'. '.join(turns[:MOST_TURNS])}.{further}"
        )
    outlines = tuple(to_mm(project, zone.shape.outline()) for zone in zones if not zone.whole)
    return LayingSheet(outlines, order, words)


def cards_of(told: Told) -> tuple[Card, ...]:
    """Return the card of every rehearsed pass."""
    results, project, zones = told.results, told.project, told.project.back_to_front()
    palette = palette_of(results, project)

    def piled(plan: PassPlan) -> tuple[str, ...]:
        """Return a pass's sentences, each with the numbers of the piles its part is painted with."""
        named = {zones[k].name: k for k in plan.zones}
        made = []
        for sentence in pass_cards(results, project, plan):
            index = named.get(sentence.partition(": ")[0])
            ready = ready_for(palette, plan.role.key, index) if index is not None else ()
            numbers = ", ".join(str(one.number) for one in ready)
            made.append(f"{sentence} Piles {numbers}." if numbers else sentence)
        brushes = sorted_words(ready_for(palette, plan.role.key))
        return (*made, f"Brushes: {brushes[0].lower()}{brushes[1:]}") if brushes else tuple(made)

    return tuple(
        Card(
            f"{number}  {one.plan.role.name}",
            one.plan.role.reason,
            one.standing.shown,
            (
                *pass_facts(one.plan, one.marks, one.plan.minutes),
                *_piles_fact(ready_for(palette, one.plan.role.key)),
            ),
            (one.plan.l_low, one.plan.l_high, one.plan.ceiling),
            ", ".join(f"{k + 1} {zones[k].name.lower()}" for k in one.plan.zones),
            cautions_for(one.plan.role),
            piled(one.plan),
            pass_colours(results, project, one.plan),
        )
        for number, one in enumerate(told.rehearsed, 1)
    )


def _piles_fact(piles: tuple[ReadyPile, ...]) -> tuple[Fact, ...]:
    return (Fact("piles", ready_words(piles, 3)),) if piles else ()


def pass_facts(plan: PassPlan, marks: int, minutes: float) -> tuple[Fact, ...]:
    """Return a pass's numbers in words."""
    if plan.role.veil is not None:
        return _veil_facts(plan, plan.role.veil, minutes)
    low, high = plan.length_mm
    lengths = mm_words(low) if high - low < 0.5 else f"{mm_words(low)} to {mm_words(high)}"
    least, most = plan.spread_deg
    spread = f"± {least:.0f}°" if most - least < 1 else f"± {least:.0f}° to {most:.0f}°"
    return (
        Fact("time", duration_words(minutes)),
        Fact("values", f"{value_words(plan.l_low, plan.l_high)}, ceiling {step_of(plan.ceiling)}"),
        Fact("brush", brush_words(plan) or f"up to {mm_words(plan.brush_mm)} wide"),
        Fact("marks", f"{grouped(marks)} · {lengths} long"),
        Fact("spread", spread),
        Fact("coverage", f"{percent(plan.coverage)} where it belongs"),
        Fact("beneath", plan.role.beneath),
        Fact("paint", LAID[plan.role.handling]),
        Fact("medium", medium_words(plan.role.fat, plan.role.thickness, plan.role.paint)),
    )


def _veil_facts(plan: PassPlan, veil: Veil, minutes: float) -> tuple[Fact, ...]:
    """Return a veil's numbers in words: it has no marks, and no values of its own."""
    return (
        Fact("time", duration_words(minutes)),
        Fact("lies on", f"{PLACES[veil.place]}, {veil_area(plan):.0f} cm²"),
        Fact("paint", f"{LAID[veil.manner]}, {percent(veil.strength)} paint in clear medium"),
        Fact("coats", f"{veil.coats}, each dry before the next" if veil.coats > 1 else "one"),
        Fact("fades over", mm_words(veil.soft_mm)),
        Fact("brush", brush_words(plan) or "a soft one"),
        Fact("beneath", plan.role.beneath),
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
