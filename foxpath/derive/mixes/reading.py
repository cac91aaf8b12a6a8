"""What is said of the mixes: where each pile goes, how much of it, until when it is kept, and what the tubes cannot do."""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from foxpath.core.arrays import frozen
from foxpath.core.colour import difference
from foxpath.core.findings import Finding
from foxpath.core.mixes.amounts import Medium, keeping_words, medium_for, open_days, runs_out
from foxpath.core.mixes.budget import Budget, reach_table, spent
from foxpath.core.mixes.dried import ACRYLIC, system_of, typical
from foxpath.core.mixes.palette import OUT, Palette, Pile, from_pile
from foxpath.core.mixes.reach import Missing, deepest, gamut, lacking_words, missing
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.strings import Black, Opposites, black_leaning, blacks, leaning_blacks, opposites
from foxpath.core.mixes.tubes import Tube
from foxpath.core.passes import PassPlan
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words, percent
from foxpath.derive.frames import map_frame
from foxpath.derive.mixes.palette import palette_of, rack_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.pictures import picture_key, study_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project

SITTING_MIN = 150.0
"""Minutes of a sitting, for how often a pile is mixed."""
EXPLAINED = 3
"""Piles out of reach whose lack is worked out, the weightiest."""
LEFT_AWAY = 14.0
"""dE00 within which what is left of one pile may begin another."""
CLEAR = 0.72
"""Mean transparency from which a pile does not cover."""
SLIGHT = 0.02
"""Share of all that is wanted, below which a colour out of reach is not worth a finding."""
BACKGROUND_SHARE = 0.2
"""Of a pile, from which it counts as the background's."""
COATS = ("lights", "highlights")


@dataclass(frozen=True, slots=True, eq=False)
class PileNote:
    """What is said of a pile.

    Attributes
    ----------
    needs : tuple of (pass key, mL)
        In the order of the passes, for its own places.
    zones : tuple of int
        Parts it goes to, most paint first; -1 the whole canvas.
    sittings : int
        In how many its longest pass is painted.
    kept_until : str
        Key of the pass until which it is kept.
    why_kept : str
        What for.
    keeps : str
        How long it stays workable, in words.
    begins : tuple of str
        Keys of later piles that what is left of it can begin.
    clear : bool
        It hardly covers.
    lacks : Missing or None
        Where it is out of reach.
    """

    needs: tuple[tuple[str, float], ...]
    zones: tuple[int, ...]
    sittings: int
    kept_until: str
    why_kept: str
    keeps: str
    begins: tuple[str, ...]
    clear: bool
    lacks: Missing | None


@dataclass(frozen=True, slots=True, eq=False)
class MixesClose:
    """What only the Mixes stop, its sheets and its command show.

    Attributes
    ----------
    palette : Palette
    rack : Rack or None
        The tubes it is mixed from.
    notes : dict of pile key to PileNote
    mediums : tuple of (pass key, Medium)
        In the order of the passes.
    budget : Budget or None
        Where pure colour is spent.
    findings : tuple of Finding
    blacks : tuple of Black
        From cool to warm.
    leaning : tuple of (name, Black)
        The neutral one, leaning further.
    greys : tuple of Opposites
    deepest : float
        The lowest L* these tubes reach on this surface.
    """

    palette: Palette = field(default_factory=Palette)
    rack: Rack | None = None
    notes: dict[str, PileNote] = field(default_factory=dict)
    mediums: tuple[tuple[str, Medium], ...] = ()
    budget: Budget | None = None
    findings: tuple[Finding, ...] = ()
    blacks: tuple[Black, ...] = ()
    leaning: tuple[tuple[str, Black], ...] = ()
    greys: tuple[Opposites, ...] = ()
    deepest: float = 0.0


def close_mixes(results: Results, project: Project, progress: Progress = SILENT) -> MixesClose:
    """Return the palette and all that is said of it. Raises `Cancelled`."""
    return results.once(project, "mixes close", lambda: _close(results, project, progress))


def _close(results: Results, project: Project, progress: Progress) -> MixesClose:
    palette = palette_of(results, project, progress.part(0, 0.8))
    rack = rack_of(results, project, progress)
    plans = [plan for plan in passes_of(results, project) if plan.on]
    progress.at(0.85, "saying where the piles go")
    notes = _notes(project, palette, rack, plans)
    mediums = tuple((plan.role.key, medium_for(plan.role.fat, plan.role.paint, project.mixes.medium)) for plan in plans)
    progress.at(0.95, "adding up pure colour")
    budget = budget_of(results, project, rack)
    found = _findings(project, palette, rack, notes, budget, plans)
    if rack is None:
        return MixesClose(palette, rack, notes, mediums, budget, tuple(found))
    slide, leaning, greys, lowest = results.memo.get(("darks and greys", rack.told), lambda: _darks_and_greys(rack))
    return MixesClose(palette, rack, notes, mediums, budget, tuple(found), slide, leaning, greys, lowest)


def _darks_and_greys(
    rack: Rack,
) -> tuple[tuple[Black, ...], tuple[tuple[str, Black], ...], tuple[Opposites, ...], float]:
    """Return what the tubes can do whatever is painted: blacks, the neutral one leaning, opposites, and the lowest L*."""
    neutral = black_leaning(rack, 0.0)
    leaning = leaning_blacks(rack, neutral) if neutral is not None else ()
    return blacks(rack), leaning, opposites(rack), deepest(rack)


def _notes(project: Project, palette: Palette, rack: Rack | None, plans: Sequence[PassPlan]) -> dict[str, PileNote]:
    order = {plan.role.key: k for k, plan in enumerate(plans)}
    weight = [sum(palette.wants[w].weight for w in pile.wants) for pile in palette.piles]
    explained = sorted(palette.short, key=lambda k: -weight[k])[:EXPLAINED]
    used = [_used(pile, palette, order) for pile in palette.piles]
    made = {}
    for k, pile in enumerate(palette.piles):
        needs, zones = used[k]
        until, why = _kept(project, palette, pile, plans, needs)
        longest = max((plans[order[key]].minutes for key, _ in needs), default=0.0)
        made[pile.key] = PileNote(
            needs,
            zones,
            max(1, int(np.ceil(longest / SITTING_MIN))),
            until,
            why,
            _keeps(pile, rack),
            _begins(palette, rack, k, [needs for needs, _ in used], order),
            _clear(pile, rack),
            missing(rack, pile.recipe, project.mixes.limits(rack)) if rack is not None and k in explained else None,
        )
    return made


def _used(pile: Pile, palette: Palette, order: dict[str, int]) -> tuple[tuple[tuple[str, float], ...], tuple[int, ...]]:
    needs: dict[str, float] = {}
    zones: dict[int, float] = {}
    for w in pile.wants:
        want = palette.wants[w]
        needs[want.act] = needs.get(want.act, 0.0) + want.ml
        zones[want.zone] = zones.get(want.zone, 0.0) + want.ml
    return (
        tuple(sorted(needs.items(), key=lambda one: order.get(one[0], 99))),
        tuple(sorted(zones, key=lambda zone: -zones[zone])),
    )


def _kept(
    project: Project,
    palette: Palette,
    pile: Pile,
    plans: Sequence[PassPlan],
    needs: tuple[tuple[str, float], ...],
) -> tuple[str, str]:
    """Return until which pass a pile is kept, and what for: a background's until the last edge against it is painted."""
    if not needs:
        return "", ""
    last = needs[-1][0]
    zones = project.back_to_front()
    grounds = {k for k, zone in enumerate(zones) if zone.kind == "background"}
    behind = grounds & {palette.wants[w].zone for w in pile.wants}
    share = sum(palette.wants[w].ml for w in pile.wants if palette.wants[w].zone in behind)
    if share < BACKGROUND_SHARE * pile.ml or not behind:
        return last, "its last pass"
    coats = [plan.role.key for plan in plans if plan.role.act in COATS and set(plan.zones) - behind]
    keys = [plan.role.key for plan in plans]
    if coats and keys.index(coats[-1]) > keys.index(last):
        return coats[-1], "the last edge against it"
    return last, "its last pass"


def _tubes_in(pile: Pile, rack: Rack | None) -> list[tuple[Tube, float]]:
    if rack is None:
        return []
    by_id = dict(zip(rack.ids, rack.tubes, strict=True))
    return [(by_id[key], n) for key, n in pile.recipe.parts if key in by_id]


def _keeps(pile: Pile, rack: Rack | None) -> str:
    """Say how long a pile stays workable: its fastest system, and its largest tube's drying."""
    tubes = _tubes_in(pile, rack)
    if not tubes:
        return ""
    return keeping_words(min(open_days(tube.system, tubes[0][0].drying) for tube, _ in tubes))


def _clear(pile: Pile, rack: Rack | None) -> bool:
    tubes = _tubes_in(pile, rack)
    whole = sum(n for _, n in tubes)
    return bool(tubes) and sum(t.transparency * n for t, n in tubes) / whole > CLEAR


def _begins(
    palette: Palette,
    rack: Rack | None,
    at: int,
    needs: Sequence[tuple[tuple[str, float], ...]],
    order: dict[str, int],
) -> tuple[str, ...]:
    """Return the later piles that what is left of one can begin."""
    pile = palette.piles[at]
    if rack is None or not needs[at]:
        return ()
    done = order.get(needs[at][-1][0], 99)
    found = []
    for k, other in enumerate(palette.piles):
        later = k != at and needs[k] and order.get(needs[k][0][0], -1) > done and other.base != pile.key
        if not later or float(difference(np.array(pile.lab), np.array(other.lab))) > LEFT_AWAY:
            continue
        step = from_pile(rack, pile, np.array(other.lab))
        if step is not None and step.away <= 1.5:
            found.append(other.key)
    return tuple(found)


def budget_of(results: Results, project: Project, rack: Rack | None) -> Budget | None:
    """Return where the picture spends pure colour; None without tubes."""
    if rack is None:
        return None

    frame = map_frame(project)
    place = (project.outlines, project.focal_point, project.mm_per_px, frame)

    def make() -> Budget:
        study = study_of(results, project)
        x = (np.arange(frame.columns) + 0.5) * frame.cell_px + frame.crop.x
        y = (np.arange(frame.rows) + 0.5) * frame.cell_px + frame.crop.y
        fx, fy = project.focal_point
        far = np.hypot(x[None, :] - fx, y[:, None] - fy).astype(np.float32) * np.float32(project.mm_per_px)
        reach = results.memo.get(("reach", rack.told), lambda: frozen(reach_table(gamut(rack))))
        return spent(study.fine, labels_of(results, project, frame), far, reach)

    # Neither piles nor passes change where the picture's own colours lie.
    return results.memo.get(("budget", rack.told, picture_key(results, project), place), make)


def mix_findings(results: Results, project: Project, progress: Progress = SILENT) -> list[Finding]:
    """Return what is wrong with the tubes: what can be told without planning the piles."""
    tubes = project.mixes.usable()
    if not tubes:
        return [_nothing()]
    return _short_studio(Rack(tubes, project.mixes.shown))


def _nothing() -> Finding:
    why = "none in the studio, or the rule for blacks leaves none · put a tube into the studio"
    return Finding("must", "There is nothing to mix with.", why, "mixes")


def _findings(
    project: Project,
    palette: Palette,
    rack: Rack | None,
    notes: dict[str, PileNote],
    budget: Budget | None,
    plans: Sequence[PassPlan],
) -> list[Finding]:
    if rack is None or not palette.piles:
        return [_nothing()]
    found = list(_short_studio(rack))
    names = {plan.role.key: plan.role.name.lower() for plan in plans}
    weight = sum(want.weight for want in palette.wants) or 1.0
    for k in palette.short:
        pile = palette.piles[k]
        share = sum(palette.wants[w].weight for w in pile.wants) / weight
        lacks = notes[pile.key].lacks
        if lacks is None or share < SLIGHT:
            continue
        tube = f"; {lacks.tube} would bring it" if lacks.tube else ""
        found.append(
            Finding(
                "look",
                f"{pile.name.capitalize()} is out of reach.",
                f"nearest is {lacking_words(pile.recipe, lacks)}{tube} · take the nearest, or another finish or tube",
                "mixes",
                pile.key,
                weight=share,
            )
        )
    found += _pure(project, budget)
    for one in project.mixes.mixed:
        note = notes.get(one.id)
        short = runs_out(one.ml, list(note.needs)) if note is not None and one.ml > 0 else None
        if short is not None:
            found.append(
                Finding(
                    "look",
                    f"{one.name.capitalize()} runs out in {names.get(short[0], short[0])}.",
                    f"{one.ml:.1f} mL lie there · mix {short[1]:.1f} mL more now, while it can be matched",
                    "mixes",
                    one.id,
                )
            )
    thin = [palette.pile(key) for key, note in notes.items() if note.clear and _body(note, plans)]
    if thin:
        first = thin[0]
        assert first is not None
        more = f" and {len(thin) - 1} more" if len(thin) > 1 else ""
        found.append(
            Finding(
                "note",
                f"{first.name.capitalize()}{more} will not cover in one coat.",
                "its tubes are transparent, and what lies beneath shows · lay it twice, or over its own dark",
                "mixes",
                first.key,
            )
        )
    if any(tube.system in ACRYLIC for tube in rack.tubes):
        found.append(_dries_darker(project))
    return found


def _dries_darker(project: Project) -> Finding:
    mine = [one for one in project.mixes.dried() if one.here and one.dabs and system_of(one) in ACRYLIC]
    seen = sum(one.dabs for one in mine)
    if seen:
        away = sum(one.dabs * (typical("acrylic", MIDDLE) + one.dries[0]) for one in mine) / seen
        way = "darker" if away < 0 else "lighter"
        rests = f"by {abs(away):.1f} L* in middle tones, seen on {count_words(seen, 'dab')}"
        return Finding("note", f"Your acrylic dries {way}.", f"{rests} · mix wet what Mixes says for wet", "mixes")
    why = "typically by 2 to 4 L*, most in middle tones · look at a dab wet and dry, and Mixes learns it"
    return Finding("note", "Acrylic dries darker.", why, "mixes")


MIDDLE = 50.0
"""L* of a middle tone."""


def _short_studio(rack: Rack) -> list[Finding]:
    if len(rack) == 1:
        why = "every place gets the same colour · put a white and a dark into the studio"
        return [Finding("must", f"{rack.tubes[0].name} is the only tube.", why, "mixes")]
    if not any(tube.white for tube in rack.tubes):
        why = "nothing can be made lighter than the lightest tube · put a white into the studio"
        return [Finding("look", "There is no white.", why, "mixes")]
    return []


def _pure(project: Project, budget: Budget | None) -> list[Finding]:
    if budget is None or budget.share <= project.mixes.pure:
        return []
    zones = project.back_to_front()
    named = [
        f"{zones[k].name.lower()} {percent(share)}"
        for k, share in budget.parts[:3]
        if k < len(zones) and share >= 0.005
    ]
    return [
        Finding(
            "look",
            "More is pure colour than you set.",
            f"{percent(budget.share)} of the canvas, {percent(project.mixes.pure)} set; {', '.join(named)} · "
            "mute what is far from the focus, or set more",
            "mixes",
            "budget",
            weight=budget.share,
        )
    ]


def _body(note: PileNote, plans: Sequence[PassPlan]) -> bool:
    """Tell whether a pile is needed to cover: in a pass of opaque paint that is not the first lay-in."""
    covering = {plan.role.key for plan in plans if plan.role.handling == "opaque" and plan.role.act in COATS}
    return any(key in covering for key, _ in note.needs)


def place_words(project: Project, zones: Sequence[int], most: int = 3) -> str:
    """Name the parts a pile goes to, those with most paint first."""
    every = project.back_to_front()
    names = ["the ground" if k < 0 else every[k].name.lower() for k in zones if k < len(every)]
    if len(names) <= most:
        return ", ".join(names)
    return f"{', '.join(names[:most])} and {len(names) - most} more"


def out_of_reach(palette: Palette) -> int:
    """Return how many piles no mixture of these tubes reaches."""
    return sum(not one.held and one.recipe.away > OUT for one in palette.piles)
