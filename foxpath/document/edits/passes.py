"""The Passes stop: numbers of passes, their order, schools, sides where painters disagree, what passes took."""

from dataclasses import replace
from datetime import date
from typing import Any

from foxpath.core.errors import InputError
from foxpath.core.passes import WAYS, Logged, PassEdit, PassPlan, School, schools
from foxpath.core.passes.pace import LEAST_MIN, MOST_MIN
from foxpath.document.edits.zones import change_zone
from foxpath.document.model import Project


def set_pass(project: Project, key: str, **values: Any) -> Project:
    """Decide numbers of a pass; None gives one back to the plan.

    Raises
    ------
    InputError
        When there is no pass of that role.
    """
    roles = project.roles
    if key not in roles:
        raise InputError(f"There is no pass '{key}'.", f"Passes are {', '.join(roles)}.")
    if values.get("left_out", ()) is None:
        values["left_out"] = ()
    edit = replace(project.passes.get(key, PassEdit()), **values)
    passes = {k: v for k, v in project.passes.items() if k != key}
    if edit != PassEdit():
        passes[key] = edit
    return replace(project, passes=passes)


def move_pass(project: Project, key: str, by: int) -> Project:
    """Paint a pass earlier (negative) or later."""
    usual_order = list(project.roles)
    order = [k for k in project.pass_order if k in usual_order]
    order += [k for k in usual_order if k not in order]
    at = order.index(key)
    order.insert(min(max(at + by, 0), len(order) - 1), order.pop(at))
    usual = order == usual_order
    return replace(project, pass_order=() if usual else tuple(order))


def set_school(project: Project, key: str) -> Project:
    """Follow another school; decided numbers of passes it shares are kept. Raises `InputError` for one that is not known."""
    _known_school(project, key)
    return replace(project, school=key, pass_order=())


def set_zone_school(project: Project, zone_id: str, key: str) -> Project:
    """Paint one zone in a school of its own; empty, or the painting's own, gives it back. Raises `InputError` as `set_school`."""
    if key:
        _known_school(project, key)
    return change_zone(project, zone_id, school="" if key == project.recipe.key else key)


def _known_school(project: Project, key: str) -> None:
    if project.school_called(key) is None:
        raise InputError(f"There is no school '{key}'.", f"Schools are {', '.join(schools())}.")


def set_way(project: Project, key: str, side: str) -> Project:
    """Take a side where painters disagree (see `WAYS`); an empty one leaves it to the school.

    Raises
    ------
    InputError
        For a disagreement or a side that is not known.
    """
    way = WAYS.get(key)
    if way is None:
        raise InputError(f"There is no setting '{key}'.", f"Settings are {', '.join(WAYS)}.")
    if side and way.side(side) is None:
        raise InputError(f"'{key}' cannot be '{side}'.", f"Sides are {' and '.join(one.key for one in way.sides)}.")
    made = replace(project, ways=replace(project.ways, **{key: side}))
    if key == "catchlight" and side:
        # Each eye keeps its own word; this one is for all of them.
        made = replace(made, eyes=tuple(replace(e, light=replace(e.light, way=side)) for e in made.eyes))
    return made


def log_pass(project: Project, plan: PassPlan, taken_min: float, day: str = "") -> Project:
    """Note what a pass took, in place of what was noted of it before.

    Raises
    ------
    InputError
        When the minutes are not 1 to 6000, or the day is no ISO date.
    """
    if not LEAST_MIN <= taken_min <= MOST_MIN:
        raise InputError(
            f"A pass of {taken_min:g} minutes cannot be noted.", f"Give {LEAST_MIN:g} to {MOST_MIN:g} minutes."
        )
    if day:
        try:
            date.fromisoformat(day)
        except ValueError:
            raise InputError(f"'{day}' is no day.", "Write it as 2026-03-21.") from None
    one = Logged(plan.role.key, plan.role.act, round(taken_min, 1), round(plan.usual_minutes, 1), day)
    return replace(project, noted=(*(old for old in project.noted if old.role != one.role), one))


def forget_log(project: Project, role: str) -> Project:
    """Take back what was noted of a pass."""
    return replace(project, noted=tuple(one for one in project.noted if one.role != role))


def take_school(project: Project, school: School) -> Project:
    """Bring a recipe of one's own, and follow it; one that has a shipped school's key is told apart."""
    mine = replace(school, key=f"own-{school.key}"[:60]) if school.key in schools() else school
    return replace(project, own_school=mine, school=mine.key, pass_order=())
