"""What is printed and written down of the mixes."""

from typing import Any

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.cautions import SOLVENT, pigment_cautions
from foxpath.core.colour import rgb8_from_lab
from foxpath.core.mixes.amounts import bead_cm
from foxpath.core.mixes.dried import wet_for
from foxpath.core.mixes.palette import MOTHER, Pile
from foxpath.core.mixes.reach import lacking_words
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.strings import string
from foxpath.core.mixes.words import amount_words, names_of, parts_words
from foxpath.core.passes.words import step_of
from foxpath.core.reporting import Progress
from foxpath.derive.mixes.palette import rack_of
from foxpath.derive.mixes.reading import MixesClose, PileNote, close_mixes, place_words
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.subject import Told
from foxpath.document.model import Project
from foxpath.sheets import Bead, Draw, MixSheet, SwatchCard, ValueString, mix_pages

STRING_STEPS, COLOURED = 6, 3
"""Values of a string, and how many colours get one of their own."""
Rgb = tuple[int, int, int]


def rgb_of(lab: tuple[float, float, float] | F64) -> Rgb:
    """Return the sRGB of a colour, 0 to 255."""
    r, g, b = (int(v) for v in rgb8_from_lab(np.asarray(lab, np.float32)[None])[0])
    return r, g, b


def mix_record(told: Told) -> dict[str, Any]:
    """Return the entries of `plan.json` and `mixes.json`: every pile with its recipe, and what is said of it."""
    close = close_mixes(told.results, told.project)
    return {"mixes": mixes_fields(told.project, close)}


def mixes_fields(project: Project, close: MixesClose) -> dict[str, Any]:
    """Return everything about the mixes as fields, units in the names; CIELAB is D65, 2 degrees."""
    mixes, palette = project.mixes, close.palette
    mother = palette.pile(MOTHER)
    return {
        "typical_values": True,
        "finish": mixes.finish,
        "tubes": [
            {"id": t.id, "name": t.name, "system": t.system, "hazard": t.hazard or None}
            for t in (close.rack.tubes if close.rack else ())
        ],
        "most_tubes": mixes.most,
        "black": mixes.black,
        "covered_share": round(palette.covered, 4),
        "mother": dict(mother.recipe.parts) if mother is not None else None,
        "piles": [_pile_fields(project, close, k, pile) for k, pile in enumerate(palette.piles, 1)],
        "neutral_string": [pile.key for pile in palette.string],
        "mediums": [
            {"pass": key, "medium": one.words, "drops_per_ml": one.drops, "fat": round(one.fat, 2)}
            for key, one in close.mediums
        ],
        "pure_share": round(close.budget.share, 4) if close.budget is not None else None,
        "pure_share_set": mixes.pure,
        "findings": [{"level": f.level, "says": f.says, "why": f.why} for f in close.findings],
    }


def _pile_fields(project: Project, close: MixesClose, number: int, pile: Pile) -> dict[str, Any]:
    note, zones, mixes = close.notes[pile.key], project.back_to_front(), project.mixes
    mediums = dict(close.mediums)
    recipe, whole = pile.recipe, pile.recipe.whole
    lacks = note.lacks
    return {
        "key": pile.key,
        "number": number,
        "name": pile.name,
        "target_lab": [round(v, 3) for v in recipe.target],
        "lab": [round(v, 3) for v in recipe.lab],
        "wet_lab": [round(v, 3) for v in wet_for(mixes.dried(), recipe.parts, pile.lab)],
        "value_step": step_of(recipe.lab[0]),
        "de00": round(recipe.away, 3),
        "mixed": pile.held,
        "parts": {key: round(n, 4) for key, n in recipe.parts},
        "begins_from": pile.base or None,
        "begins_with_parts": round(pile.base_parts, 3) if pile.base else None,
        "add": {key: round(n, 3) for key, n in pile.added},
        "mother_share": round(pile.mother, 4),
        "ml": round(pile.ml, 2),
        "mix_ml": round(pile.mixed_ml, 2),
        "beads_cm": {key: round(bead_cm(pile.mixed_ml * n / whole), 2) for key, n in recipe.parts},
        "passes": [
            {"pass": key, "ml": round(ml, 3), "drops": mediums[key].for_ml(ml) if key in mediums else None}
            for key, ml in note.needs
        ],
        "sittings": note.sittings,
        "zones": [zones[k].name if k >= 0 else "ground" for k in note.zones if k < len(zones)],
        "kept_until": note.kept_until or None,
        "why_kept": note.why_kept or None,
        "keeps": note.keeps or None,
        "leftover_begins": list(note.begins),
        "missing": None
        if lacks is None
        else {
            "lightness": round(lacks.lightness, 2),
            "chroma": round(lacks.chroma, 2),
            "at_value": {"parts": dict(lacks.at_value.parts), "lab": [round(v, 2) for v in lacks.at_value.lab]},
            "tube": lacks.tube or None,
        },
    }


def mix_rows(project: Project, close: MixesClose) -> list[list[str]]:
    """Return the rows of `mixes.csv`: a pile each, its recipe down to the tubes, and where it goes; the first is the head."""
    names = {plan[0]: plan[0] for plan in close.mediums}
    head = "number,name,L,a,b,target_L,target_a,target_b,de00,parts,begins_from,add,ml,mix_ml,passes,zones,kept_until"
    rows = [head.split(",")]
    for k, pile in enumerate(close.palette.piles, 1):
        note, recipe = close.notes[pile.key], pile.recipe
        rows.append(
            [
                str(k),
                pile.name,
                *(f"{v:.2f}" for v in (*recipe.lab, *recipe.target, recipe.away)),
                " + ".join(f"{n:g} {key}" for key, n in recipe.parts),
                f"{pile.base_parts:g} {pile.base}" if pile.base else "",
                " + ".join(f"{n:g} {key}" for key, n in pile.added),
                f"{pile.ml:.2f}",
                f"{pile.mixed_ml:.2f}",
                " ".join(names.get(key, key) for key, _ in note.needs),
                place_words(project, note.zones, 99),
                note.kept_until,
            ]
        )
    return rows


def mix_sheet(told: Told, progress: Progress) -> MixSheet:
    """Return what the pages of the mixes show. Raises `Cancelled`."""
    project = told.project
    close = close_mixes(told.results, project, progress)
    rack = close.rack
    if rack is None:
        return MixSheet((), (), (), ())
    passes = {plan.role.key: plan.role.name for plan in passes_of(told.results, project)}
    cards = tuple(_card(project, close, rack, passes, k, pile) for k, pile in enumerate(close.palette.piles, 1))
    mediums = tuple(
        (passes.get(key, key), f"{one.words}, {one.drops} drops to a mL" if one.drops else one.words)
        for key, one in close.mediums
    )
    used = {key for pile in close.palette.piles for key, _ in pile.recipe.parts}
    warned = pigment_cautions([(t.name, t.hazard) for t in rack.tubes if t.id in used])
    thinned = any("thinner" in one.words for _, one in close.mediums)
    return MixSheet(cards, strings_of(rack, close), mediums, ((SOLVENT,) if thinned else ()) + warned)


def mix_sheet_pages(told: Told, progress: Progress) -> list[Draw]:
    """Return the pages of the mixes. Raises `Cancelled`."""
    if rack_of(told.results, told.project) is None:
        return []
    return mix_pages(mix_sheet(told, progress))


def _card(
    project: Project, close: MixesClose, rack: Rack, passes: dict[str, str], number: int, pile: Pile
) -> SwatchCard:
    note, names, recipe = close.notes[pile.key], names_of(rack.tubes), pile.recipe
    base = close.palette.pile(pile.base)
    numbers = {one.key: k for k, one in enumerate(close.palette.piles, 1)}
    beads: list[Bead] = []
    # What is squeezed out for it: of the pile it begins from, and what is added; else of each tube.
    parts = [(base.name, rgb_of(base.lab), pile.base_parts)] if base is not None else []
    named = pile.added if base is not None else recipe.parts
    parts += [(names.get(key, key).lower(), _tube_rgb(rack, key), n) for key, n in named]
    whole = sum(n for _, _, n in parts) or 1.0
    for name, rgb, n in parts:
        beads.append(Bead(rgb, f"{amount_words(n)} {name}", bead_cm(pile.mixed_ml * n / whole)))
    begins = (
        f"From {numbers[base.key]} {base.name}: {amount_words(pile.base_parts)} parts, and {parts_words(pile.added, names)}."
        if base is not None
        else f"From tubes: {parts_words(recipe.parts, names)}."
    )
    if recipe.let_down and base is None:
        begins += f" Let {', '.join(names[key].lower() for key in recipe.let_down)} down 1:9 first."
    goes = f"{', '.join(passes.get(key, key).lower() for key, _ in note.needs)}: {place_words(project, note.zones)}."
    return SwatchCard(
        number,
        pile.name,
        rgb_of(recipe.target),
        rgb_of(recipe.lab),
        f"L* {recipe.lab[0]:.0f}, value {step_of(recipe.lab[0])} of 9 · {pile.mixed_ml:.1f} mL",
        begins,
        tuple(beads),
        goes[:1].upper() + goes[1:] if note.needs else "It takes part in other piles.",
        _kept_words(note, passes),
        _near_words(close, pile),
    )


def _kept_words(note: PileNote, passes: dict[str, str]) -> str:
    kept = (
        f"Keep it until {passes.get(note.kept_until, note.kept_until).lower()}: {note.why_kept}."
        if note.kept_until
        else ""
    )
    return f"{kept} {note.keeps.capitalize()}.".strip() if note.keeps else kept


def _near_words(close: MixesClose, pile: Pile) -> str:
    lacks = close.notes[pile.key].lacks
    if lacks is not None:
        return f"Out of reach: {lacking_words(pile.recipe, lacks)}."
    return f"{pile.recipe.away:.1f} dE from the picture."


def _tube_rgb(rack: Rack, key: str) -> Rgb:
    return rgb_of(rack.own[key]) if key in rack.own else (128, 128, 128)


def strings_of(rack: Rack, close: MixesClose) -> tuple[ValueString, ...]:
    """Return the string of greys from the darkest mix to white, and strings of the weightiest colours; none without a white."""
    white = next((t for t in rack.tubes if t.white), None)
    palette = close.palette
    known = [one for one in palette.piles if all(key in rack.ids for key, _ in one.recipe.parts)]
    if white is None or not known:
        return ()
    pale = rack.parts({white.id: 1.0})
    dark = palette.pile(MOTHER) or min(known, key=lambda one: one.lab[0] + float(np.hypot(*one.lab[1:])))
    made = [_string("From the dark to white", rack, rack.parts(dark.recipe.parts), pale, dark.name)]
    weight = {one.key: sum(palette.wants[w].weight for w in one.wants) for one in known}
    coloured = sorted(
        (one for one in known if not one.neutral and one.key != dark.key), key=lambda one: -weight[one.key]
    )[:COLOURED]
    for one in coloured:
        parts = rack.parts(one.recipe.parts)
        made.append(_string(f"{one.name.capitalize()} to white", rack, parts, pale, one.name))
    return tuple(made)


def _string(title: str, rack: Rack, start: F64, white: F64, name: str) -> ValueString:
    steps = []
    pale = int(np.argmax(white))
    whole = start / start.sum()
    for parts, lab in string(rack, start, white, STRING_STEPS):
        own = 1.0 if whole[pale] >= 1 else float((1 - parts[pale] / parts.sum()) / (1 - whole[pale]))
        if own >= 0.995:
            words = name
        elif own <= 0.005:
            words = "white"
        else:
            ratio = (1 - own) / own
            words = f"1 : {ratio:.1f} white" if ratio >= 0.5 else f"{1 / ratio:.0f} : 1 white"
        steps.append((rgb_of(lab), float(lab[0]), words))
    return ValueString(title, tuple(steps))
