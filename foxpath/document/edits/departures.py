"""Edits of departures from the reference."""

from dataclasses import replace
from typing import Any

from foxpath.core.errors import InputError
from foxpath.core.reference.departures import MOST, Departure, checked_departure
from foxpath.document.model import Project


def depart(project: Project, zone: str, side: str = "all", **values: Any) -> Project:
    """Let a part (or the whole canvas, with an empty id) depart from the reference; other values stay, and none left takes it back.

    Parameters
    ----------
    project : Project
    zone : str
    side : str
        Key of `departures.SIDES`.
    values
        Of a `Departure`.

    Raises
    ------
    InputError
        When there is no such part or side, or too many departures.
    """
    if zone and project.zone(zone) is None:
        raise InputError("There is no such part.", "Choose one of the list.")
    before = project.departure(zone, side)
    made = checked_departure(replace(before or Departure(zone, side), **values))
    others = tuple(one for one in project.departures if one is not before)
    if made.nothing:
        return replace(project, departures=others)
    if before is None and len(others) >= MOST:
        raise InputError(f"A painting has at most {MOST} departures.", "Take one back first.")
    if before is None:
        return replace(project, departures=(*others, made))
    return replace(project, departures=tuple(made if one is before else one for one in project.departures))


def follow_reference(project: Project, zone: str | None = None, side: str = "all") -> Project:
    """Take a departure back, or all of them without a part."""
    if zone is None:
        return replace(project, departures=())
    kept = tuple(one for one in project.departures if (one.zone, one.side) != (zone, side))
    return replace(project, departures=kept)
