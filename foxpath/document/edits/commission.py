"""The commission: client, wishes, photographs, proofs, and changes with what they cost."""

from collections.abc import Sequence
from dataclasses import replace
from datetime import date

from foxpath.core.commission import Change, approved, with_change, with_photograph, with_proof, with_wish
from foxpath.core.errors import InputError
from foxpath.core.text import sound_text
from foxpath.document.edits.days import mark_undone
from foxpath.document.edits.log import keep_picture
from foxpath.document.model import Project, Reference


def set_client(project: Project, name: str) -> Project:
    """Say who the painting is for; empty for nobody."""
    return replace(project, commission=replace(project.commission, client=sound_text(name.strip())[:200]))


def add_wish(project: Project, day: date, text: str) -> Project:
    """Write a wish down. Raises `InputError` for an empty one."""
    return replace(project, commission=with_wish(project.commission, day, text))


def add_received(
    project: Project, day: date, name: str, animal: str = "", permission: str = "", reference: Reference | None = None
) -> Project:
    """Write down that a photograph came, of which animal, and what it may be used for; with its record it is kept. Raises `InputError`."""
    project, picture = keep_picture(project, reference) if reference is not None else (project, "")
    return replace(project, commission=with_photograph(project.commission, day, name, animal, permission, picture))


def send_proof(project: Project, day: date, name: str) -> Project:
    """Write down that a proof was sent. Raises `InputError` for one without a name."""
    return replace(project, commission=with_proof(project.commission, day, name))


def approve_proof(project: Project, day: date) -> Project:
    """Write down that the last proof was approved. Raises `InputError` when none waits."""
    return replace(project, commission=approved(project.commission, day))


def take_change(project: Project, change: Change, again: Sequence[str]) -> Project:
    """Take a change: what of it was painted is to be painted again.

    Parameters
    ----------
    project : Project
    change : Change
    again : sequence of str
        Keys of tasks.

    Raises
    ------
    InputError
        For an empty one, or a part that is not there.
    """
    ids = {zone.id for zone in project.zones}
    if not set(change.zones) <= ids:
        raise InputError("A part of this change is not there any more.", "Choose its parts again.")
    made = replace(project, commission=with_change(project.commission, replace(change, taken=True)))
    return mark_undone(made, list(again)) if again else made
