"""Everything that was learned of a painter, in one file: pace, drying, and what the tubes really do.

JSON: ``{"format": "foxpath-learned", "version": 1, "pace": [...], "drying": [...], "tubes": [...], "strokes": [...]}``, rows as in `project.json`.
"""

import json
from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from foxpath.core.days.studio import MOST_NOTES, DryNote
from foxpath.core.errors import AppError
from foxpath.core.mixes.layers import learned_pick_up
from foxpath.core.mixes.tubes import KeptTube, as_typical
from foxpath.core.passes import Logged
from foxpath.document import archive, calendars, cupboard, errors, paces, shared, strokes
from foxpath.document.convert import from_fields, to_fields
from foxpath.document.model import Project

FORMAT, VERSION = "foxpath-learned", 1


@dataclass(frozen=True, slots=True)
class Learned:
    """What a file of things learned holds.

    Attributes
    ----------
    pace : tuple of Logged
    drying : tuple of DryNote
    tubes : tuple of KeptTube
    strokes : tuple of float
        Shares of wet paint that strokes picked up.
    """

    pace: tuple[Logged, ...] = ()
    drying: tuple[DryNote, ...] = ()
    tubes: tuple[KeptTube, ...] = ()
    strokes: tuple[float, ...] = ()


def learned_in(project: Project) -> Learned:
    """Return what a painting knows of its painter: its own, and what it began with."""
    return Learned(
        tuple(dict.fromkeys((*project.earlier, *project.noted))),
        tuple(dict.fromkeys((*project.days.earlier, *project.days.notes))),
        tuple(one for one in project.mixes.learned() if one.looks or one.dabs or one.own is not None),
        (*project.mixes.strokes_before, *project.mixes.strokes),
    )


def write(path: Path, learned: Learned) -> None:
    """Write everything to a file that can be shared. Raises `AppError` when it cannot be written."""
    record = {
        "format": FORMAT,
        "version": VERSION,
        "pace": [to_fields(one) for one in learned.pace],
        "drying": [to_fields(one) for one in learned.drying],
        "tubes": [to_fields(one) for one in learned.tubes],
        "strokes": [{"share": share} for share in learned.strokes],
    }
    try:
        archive.write_whole(path, (json.dumps(record, indent=1, ensure_ascii=False) + "\n").encode())
    except OSError as failure:
        reason = (failure.strerror or str(failure)).lower()
        raise AppError(f"{path} could not be written: {reason}.", "Choose another folder.") from None


def read(path: Path) -> Learned:
    """Read such a file.

    Raises
    ------
    AppError
        When it cannot be read, is none, or is of a later version.
    """
    pace = shared.read_rows(path, FORMAT, VERSION, "pace", paces.MOST, "logged_pass")
    drying = shared.read_rows(path, FORMAT, VERSION, "drying", MOST_NOTES, "dry_note")
    tubes = shared.read_rows(path, FORMAT, VERSION, "tubes", cupboard.MOST, "tube")
    shares = shared.read_rows(path, FORMAT, VERSION, "strokes", strokes.MOST, "stroke")
    return Learned(
        tuple(from_fields(Logged, one) for one in pace),
        calendars.sound_notes([from_fields(DryNote, one) for one in drying]),
        cupboard.sound_tubes(path.name, tubes) if tubes else (),
        tuple(one["share"] for one in shares),
    )


def with_learned(project: Project, learned: Learned) -> Project:
    """Return a painting that knows what a file holds too; of each tube the numbers that rest on more are taken."""
    days, mixes = project.days, project.mixes
    known = {*project.earlier, *project.noted}
    noted = {*days.earlier, *days.notes}
    seen = {*mixes.strokes_before, *mixes.strokes}
    before = (*mixes.strokes_before, *(one for one in dict.fromkeys(learned.strokes) if one not in seen))
    changed = before != mixes.strokes_before
    picks = round(learned_pick_up((*before, *mixes.strokes)), 4) if changed else mixes.pick_up
    return replace(
        project,
        earlier=(*project.earlier, *(one for one in dict.fromkeys(learned.pace) if one not in known)),
        days=replace(
            days,
            earlier=(*days.earlier, *(one for one in dict.fromkeys(learned.drying) if one not in noted))[-MOST_NOTES:],
        ),
        mixes=replace(mixes, tubes=joined(mixes.tubes, learned.tubes), strokes_before=before, pick_up=picks),
    )


def joined(tubes: Sequence[KeptTube], others: Sequence[KeptTube]) -> tuple[KeptTube, ...]:
    """Return a cupboard with what others learned of its tubes, where that rests on more; tubes it has not are added, out of the studio."""
    told = {one.id: one for one in others}
    made = []
    for one in tubes:
        other = told.pop(one.id, one)
        strong = other if other.looks > one.looks else one
        seen = other if other.dabs > one.dabs else one
        made.append(
            replace(one, taken=strong.taken, thrown=strong.thrown, looks=strong.looks, dries=seen.dries, dabs=seen.dabs)
        )
    return (*made, *(replace(one, here=False) for one in told.values()))[: cupboard.MOST]


def keep(learned: Learned) -> None:
    """Put what a file holds into the files that new paintings begin with. Raises `AppError` when one cannot be written."""
    if learned.pace:
        paces.take_in(learned.pace)
    if learned.drying:
        calendars.take_in(learned.drying)
    if learned.strokes:
        strokes.take_in(learned.strokes)
    if learned.tubes:
        cupboard.keep_cupboard(joined(cupboard.own_cupboard(), learned.tubes))


def forget_kept(key: str) -> None:
    """Forget a subject in the files that new paintings begin with: "pace", "drying", "tubes", "dried", "picked" or "errors". Raises `AppError`."""
    if key == "pace":
        paces.forget()
    elif key == "errors":
        errors.forget()
    elif key == "picked":
        strokes.forget()
    elif key == "drying":
        calendars.forget_notes()
    elif cupboard.place().exists():
        cupboard.keep_cupboard([as_typical(one, key) for one in cupboard.own_cupboard()])
