"""The log: entries are only ever added; what a sitting did goes to the days and to the pace."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from foxpath.core.days.studio import Laid, iso
from foxpath.core.errors import InputError
from foxpath.core.log.easel import check_easel
from foxpath.core.log.entries import MATERIALS, Entry, add, standing
from foxpath.core.log.reading import step_now
from foxpath.core.mixes.layers import PICK_UP
from foxpath.core.mixes.studio import Sight
from foxpath.core.mixes.tubes import as_typical
from foxpath.document.edits.days import forget_drying, mark_begun, mark_done
from foxpath.document.model import KeptPicture, Project, Reference

LEAST_PIECE = timedelta(minutes=1)
MOST_PICTURES = 200


def tell(project: Project, kind: str, moment: datetime, **given: str) -> Project:
    """Add an entry to the log (`core.log.entries.add`). Raises `InputError`."""
    return replace(project, told=add(project.told, kind, moment, **given))


def keep_picture(project: Project, reference: Reference) -> tuple[Project, str]:
    """Keep a picture that something shows; the same bytes are kept once.

    Parameters
    ----------
    project : Project
    reference : Reference
        From `document.photos.kept_photo`.

    Returns
    -------
    (Project, str)
        The project and the picture's id.

    Raises
    ------
    InputError
        When the project is full of them.
    """
    same = next((one for one in project.pictures if one.reference.digest == reference.digest), None)
    if same is not None:
        return project, same.id
    if len(project.pictures) >= MOST_PICTURES:
        raise InputError(f"The project holds {MOST_PICTURES} pictures of notes.", "Begin a new painting for more.")
    made = KeptPicture(f"p{project.next_id}", reference)
    return replace(project, pictures=(*project.pictures, made), next_id=project.next_id + 1), made.id


def tell_likeness(
    project: Project, moment: datetime, part: str, text: str, reference: Reference | None = None
) -> Project:
    """Note something of a part's likeness or anatomy, with a picture that shows it. Raises `InputError` without words and picture."""
    if not text.strip() and reference is None:
        raise InputError("The note says nothing.", "Write what is alike or not, or give a picture.")
    project, picture = keep_picture(project, reference) if reference is not None else (project, "")
    return tell(project, "likeness", moment, part=part, text=text.strip(), picture=picture)


def tell_material(project: Project, moment: datetime, what: str, text: str) -> Project:
    """Note what the painting is made of: `what` is of `MATERIALS`. Raises `InputError` for another, or without words."""
    if what not in MATERIALS:
        raise InputError(f"“{what}” is no material.", f"Choose {', '.join(MATERIALS)}.")
    if not text.strip():
        raise InputError(f"Nothing is said of the {what}.", "Write what it is, its coats, and how it behaved.")
    return tell(project, "material", moment, part=what, text=text.strip())


def correct(project: Project, ref: str, text: str, moment: datetime) -> Project:
    """Correct the words of an entry; the first stay in the log. Raises `InputError` for no such entry."""
    return tell(project, "correct", moment, text=text, of=ref)


def take_back(project: Project, moment: datetime) -> Project:
    """Take the last word back that stands, the beginning of a sitting apart. Raises `InputError` when there is none."""
    last = next((one for one in reversed(standing(project.told)) if one.kind not in ("begin", "end")), None)
    if last is None:
        raise InputError("There is no word to take back.", "Say one first.")
    return tell(project, "back", moment, of=last.ref)


def begin_step(project: Project, entry: Entry, moment: datetime) -> Project:
    """Begin a step; `entry` says which (its ref, kind and moment are passed over)."""
    return tell(project, "step", moment, task=entry.task, step=entry.step, part=entry.part, act=entry.act)


def end_step(project: Project, kind: str, moment: datetime, *, finishes: bool, text: str = "") -> Project:
    """End the step that goes on, as done, part or skip.

    Parameters
    ----------
    project : Project
    kind : str
    moment : datetime
    finishes : bool
        Its task is finished with it: then the days know.
    text : str
        Why it was left.

    Raises
    ------
    InputError
        When no step goes on.
    """
    now = step_now(project.told)
    if now is None:
        raise InputError("No step goes on.", "Begin one first.")
    made = tell(project, kind, moment, task=now.task, step=now.step, part=now.part, act=now.act, text=text)
    if kind == "skip" or not now.task:
        return made
    begin, end = now.local, max(moment.replace(tzinfo=None), now.local + LEAST_PIECE)
    piece = Laid(now.task, iso(begin), iso(end + timedelta(seconds=59)))
    if kind == "done" and finishes:
        touched = tuple(replace(one, word="done") if f"touch.{one.id}" == now.task else one for one in made.touches)
        return mark_done(replace(made, touches=touched), [piece])
    return mark_begun(made, [piece])


def set_easel(project: Project, **values: Any) -> Project:
    """Decide reminders and the hand (fields of `Easel`). Raises `InputError` for what cannot be."""
    made = replace(project.easel, **values)
    check_easel(made)
    return replace(project, easel=made)


def count_served(project: Project, brushes: Sequence[int]) -> Project:
    """Count this painting among those that brushes of the kit (by their places) served.

    Raises
    ------
    InputError
        When it was counted already, or no brush served.
    """
    if project.easel.counted:
        raise InputError("This painting is counted already.", "A brush's count can be changed at Lengths.")
    if not brushes:
        raise InputError("No brush of the kit has served yet.", "Paint a step at the easel first.")
    kit = tuple(replace(one, wear=min(one.wear + 1, 99)) if k in brushes else one for k, one in enumerate(project.kit))
    return replace(project, kit=kit, easel=replace(project.easel, counted=True))


def forget_learned(project: Project, key: str) -> Project:
    """Forget what was learned of the painter in a painting, and what it began with.

    Parameters
    ----------
    project : Project
    key : str
        "pace", "drying", "tubes" (their strength) or "dried" (how they dry), "picked" (what strokes pick up); a painting holds no "errors" itself, and stays as it is.

    Raises
    ------
    InputError
        For another key.
    """
    mixes = project.mixes
    if key == "pace":
        return replace(project, earlier=(), noted=())
    if key == "drying":
        return forget_drying(project)
    if key == "errors":
        return project
    if key == "picked":
        return replace(project, mixes=replace(mixes, strokes=(), strokes_before=(), pick_up=PICK_UP))
    if key in ("tubes", "dried"):

        def untold(sight: Sight) -> Sight:
            return replace(sight, wet=None, dried=False)

        # Looks at piles that lie there would teach it again.
        piles = tuple(
            replace(pile, sights=() if key == "tubes" else tuple(untold(one) for one in pile.sights))
            for pile in mixes.mixed
        )
        tubes = tuple(as_typical(one, key) for one in mixes.tubes)
        return replace(project, mixes=replace(mixes, tubes=tubes, mixed=piles))
    raise InputError(f"Nothing is learned of “{key}”.", "Choose pace, drying, tubes, dried, picked or errors.")
