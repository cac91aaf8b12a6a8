"""The Mixes stop: the tubes, limits, and the piles that were mixed, looked at and corrected."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from foxpath.core.errors import InputError
from foxpath.core.mixes.layers import MOST_PICK_UP, learned_pick_up
from foxpath.core.mixes.recipe import check_target
from foxpath.core.mixes.studio import MixedPile, Mixes, Parts, check_studio, sight_of
from foxpath.core.mixes.tubes import KeptTube, OwnTube, Triple, check_swatches, table
from foxpath.core.text import sound_text
from foxpath.document.model import Project

MOST_TUBES = 80
MOST_ON_PALETTE = 60
MOST_STROKES = 200


def set_mixes(project: Project, **values: Any) -> Project:
    """Decide limits and habits (fields of `Mixes` but tubes and piles). Raises `InputError` for what cannot be."""
    made = replace(project.mixes, **values)
    check_studio(made)
    return replace(project, mixes=made)


def take_tubes(project: Project, tubes: Sequence[KeptTube]) -> Project:
    """Take another cupboard. Raises `InputError` for an empty one."""
    if not tubes:
        raise InputError("This cupboard holds no tube.", "Open another, or add a tube.")
    return _with(project, tubes=tuple(tubes)[:MOST_TUBES])


def put_tube(project: Project, tube_id: str, *, here: bool = True) -> Project:
    """Put a tube of the table, or one of the cupboard, into the studio, or take it out of it.

    Raises
    ------
    InputError
        When there is no such tube, or none would be left.
    """
    tubes = project.mixes.tubes
    if any(one.id == tube_id for one in tubes):
        made = tuple(replace(one, here=here) if one.id == tube_id else one for one in tubes)
    elif tube_id in table():
        made = (*tubes, KeptTube(tube_id, here=here))
    else:
        raise InputError(f"There is no tube “{tube_id}”.", f"The table has {', '.join(table())}.")
    if not any(one.here for one in made):
        raise InputError("The last tube cannot go.", "Put another one into the studio first.")
    return _with(project, tubes=made[:MOST_TUBES])


def remove_tube(project: Project, tube_id: str) -> Project:
    """Take a tube out of the cupboard, and what was learned of it. Raises `InputError` when none would be left."""
    made = tuple(one for one in project.mixes.tubes if one.id != tube_id)
    if not any(one.here for one in made):
        raise InputError("The last tube cannot go.", "Put another one into the studio first.")
    return _with(project, tubes=made)


def add_own_tube(project: Project, own: OwnTube) -> Project:
    """Add a tube of the painter's own; one of the same id is replaced. Raises `InputError` for swatches that cannot be."""
    name = sound_text(own.name.strip())[:80]
    if not name:
        raise InputError("The tube has no name.", "Write the name on its label.")
    own = replace(own, name=name, id=own.id or _own_id(project, name))
    check_swatches(own)
    others = tuple(one for one in project.mixes.tubes if one.id != own.id)
    if len(others) >= MOST_TUBES:
        raise InputError(f"The cupboard holds {MOST_TUBES} tubes.", "Take one out first.")
    return _with(project, tubes=(*others, KeptTube(own.id, own)))


def _own_id(project: Project, name: str) -> str:
    base = "own-" + "".join(c if c.isascii() and c.isalnum() else "-" for c in name.lower())[:40].strip("-")
    taken = {one.id for one in project.mixes.tubes}
    return next(key for n in range(1, MOST_TUBES + 2) if (key := base if n == 1 else f"{base}-{n}") not in taken)


def start_pile(
    project: Project, name: str, want: Triple, parts: Parts, ml: float = 0.0, day: str = ""
) -> tuple[Project, str]:
    """Lay a mixed pile on the palette; return the project and the pile's id. Raises `InputError` for an empty recipe."""
    if not parts or any(not n > 0 for _, n in parts):
        raise InputError("A pile needs paint.", "Give its parts, each more than 0.")
    if len(project.mixes.mixed) >= MOST_ON_PALETTE:
        raise InputError(f"{MOST_ON_PALETTE} piles lie on the palette.", "Scrape one off first.")
    check_target(_array(want))
    used = [int(one.id[1:]) for one in project.mixes.mixed if one.id[1:].isdigit()]
    pile_id = f"m{max(used, default=0) + 1}"
    pile = MixedPile(pile_id, sound_text(name)[:80], want, parts, (), ml, day)
    return _with(project, mixed=(*project.mixes.mixed, pile)), pile_id


def look_at_pile(project: Project, pile_id: str, seen: Triple, how: str = "measured", *, wet: bool = False) -> Project:
    """Note what a pile looks like, `wet` or dry; a dry look at a dab that was seen wet tells how its paint dries.

    Raises
    ------
    InputError
        For what is no colour.
    """
    check_target(_array(seen))
    pile = _pile(project, pile_id)
    return _changed(project, replace(pile, sights=(*pile.earlier(), sight_of(project.mixes, pile, seen, how, wet=wet))))


def note_stroke(project: Project, share: float) -> Project:
    """Note which share of the wet paint a stroke was seen to pick up, 0 to 0.9; what is reckoned with follows. Raises `InputError`."""
    if not 0 <= share <= MOST_PICK_UP:
        raise InputError(f"A stroke does not pick up {share:g}.", f"Give 0 to {MOST_PICK_UP:g}.")
    mixes = project.mixes
    strokes = (*mixes.strokes, round(share, 4))[-MOST_STROKES:]
    return _with(project, strokes=strokes, pick_up=round(learned_pick_up((*mixes.strokes_before, *strokes)), 4))


def add_to_pile(project: Project, pile_id: str, added: Parts, *, halve: bool = False) -> Project:
    """Add paint to a pile, after half of it was put aside where `halve`."""
    pile = _pile(project, pile_id)
    share = 0.5 if halve else 1.0
    amounts = {key: n * share for key, n in pile.parts}
    before = sum(amounts.values())
    for key, n in added:
        amounts[key] = amounts.get(key, 0.0) + n
    grows = sum(amounts.values()) / before * share
    return _changed(project, replace(pile, parts=tuple(amounts.items()), ml=pile.ml * grows))


def rename_pile(project: Project, pile_id: str, name: str) -> Project:
    """Name a pile. Raises `InputError` for no name."""
    if not name.strip():
        raise InputError("A pile needs a name.", "Write one, e.g. rust.")
    return _changed(project, replace(_pile(project, pile_id), name=sound_text(name.strip())[:80]))


def wrap_pile(project: Project, pile_id: str, *, wrapped: bool) -> Project:
    """Keep a pile airtight, or open it."""
    return _changed(project, replace(_pile(project, pile_id), wrapped=wrapped))


def scrape_pile(project: Project, pile_id: str) -> Project:
    """Take a pile off the palette; what its looks taught goes into the cupboard first."""
    pile = _pile(project, pile_id)
    learned = Mixes.learned(replace(project.mixes, mixed=(pile,))) if pile.sights else project.mixes.tubes
    return _with(project, tubes=learned, mixed=tuple(one for one in project.mixes.mixed if one.id != pile_id))


def _pile(project: Project, pile_id: str) -> MixedPile:
    found = project.mixes.pile(pile_id)
    if found is None:
        raise InputError(f"No pile “{pile_id}” lies on the palette.", "Choose one that was mixed.")
    return found


def _changed(project: Project, pile: MixedPile) -> Project:
    return _with(project, mixed=tuple(pile if one.id == pile.id else one for one in project.mixes.mixed))


def _with(project: Project, **values: Any) -> Project:
    return replace(project, mixes=replace(project.mixes, **values))


def _array(lab: Triple) -> Any:
    import numpy as np

    return np.array(lab, np.float64)
