"""The Passes stop: numbers of passes, their order, schools, sides where painters disagree, what passes took."""

from dataclasses import replace
from datetime import date
from typing import Any

from foxpath.core.errors import InputError
from foxpath.core.passes import WAYS, Logged, OwnPass, PartEdit, PassEdit, PassPlan, School, Veil, schools
from foxpath.core.passes.own import MOST_OWN, checked_veil
from foxpath.core.passes.pace import LEAST_MIN, MOST_MIN
from foxpath.core.passes.plan import OF_PART
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
    for name in ("left_out", "parts"):
        if values.get(name, ()) is None:
            values[name] = ()
    edit = replace(project.passes.get(key, PassEdit()), **values)
    passes = {k: v for k, v in project.passes.items() if k != key}
    if edit != PassEdit():
        passes[key] = edit
    return replace(project, passes=passes)


def set_part(project: Project, key: str, zone_id: str, **values: Any) -> Project:
    """Decide numbers of a pass for one part; None gives one back to the pass.

    Raises
    ------
    InputError
        When there is no pass of that role, no such part, or a number that is none of a part's.
    """
    if key not in project.roles:
        raise InputError(f"There is no pass '{key}'.", f"Passes are {', '.join(project.roles)}.")
    if project.zone(zone_id) is None:
        raise InputError("There is no such part.", "Choose one of the list.")
    wrong = [name for name in values if name not in OF_PART]
    if wrong:
        raise InputError(f"A part has no '{wrong[0]}' of its own.", f"Give {', '.join(OF_PART)}.")
    edit = project.passes.get(key, PassEdit())
    before = edit.part(zone_id)
    made = replace(before or PartEdit(zone_id), **values)
    others = tuple(one for one in edit.parts if one is not before)
    return set_pass(project, key, parts=(*others, made) if made.decided() else others)


def add_again(project: Project, key: str) -> tuple[Project, str]:
    """Lay a pass once more, right after itself; return the project and the new pass's key.

    Raises
    ------
    InputError
        When there is no such pass, it is a veil (which has coats), or there are too many.
    """
    roles = project.roles
    if key not in roles:
        raise InputError(f"There is no pass '{key}'.", f"Passes are {', '.join(roles)}.")
    if roles[key].veil is not None:
        raise InputError("A veil is not laid as a second pass.", "Give it another coat, or add a veil beside it.")
    if roles[key].act == "ground":
        raise InputError("A ground is laid once.", "Raise its cover, or lay another pass twice.")
    first = next((one for one in project.own_passes if one.id == key), None)
    base = first.of if first is not None else key
    return _added(project, OwnPass("", of=base), after=key)


def add_veil(project: Project, veil: Veil, zone_id: str = "", name: str = "") -> tuple[Project, str]:
    """Add a veil over a part, or over the whole canvas; return the project and its key. Raises `InputError` as `checked_veil`."""
    if zone_id and project.zone(zone_id) is None:
        raise InputError("There is no such part.", "Choose one of the list, or none for the whole canvas.")
    return _added(project, OwnPass("", name=name.strip()[:60], zone=zone_id, veil=checked_veil(veil)))


def _added(project: Project, one: OwnPass, after: str = "") -> tuple[Project, str]:
    if len(project.own_passes) >= MOST_OWN:
        raise InputError(f"A painting has at most {MOST_OWN} passes of its own.", "Remove one first.")
    key = f"p{project.next_id}"
    before = list(project.roles)
    made = replace(project, own_passes=(*project.own_passes, replace(one, id=key)), next_id=project.next_id + 1)
    usual = list(made.roles)
    if not project.pass_order and not after:
        return made, key
    # Where the order is the painter's own, a new pass takes its place in that one.
    order = [k for k in project.pass_order if k in before]
    order += [k for k in before if k not in order]
    at = (
        order.index(after) + 1
        if after in order
        else next((order.index(k) for k in usual[usual.index(key) + 1 :] if k in order), len(order))
    )
    order.insert(at, key)
    return replace(made, pass_order=() if order == usual else tuple(order)), key


def set_veil(project: Project, key: str, **values: Any) -> Project:
    """Change a veil, or with `zone` and `name` what it lies over and what it is called.

    Raises
    ------
    InputError
        When there is no such veil or part, or the veil cannot be.
    """
    one = next((p for p in project.own_passes if p.id == key and p.veil is not None), None)
    if one is None or one.veil is None:
        raise InputError("There is no such veil.", "Choose one of the passes.")
    zone, name = values.pop("zone", one.zone), values.pop("name", one.name)
    if zone and project.zone(zone) is None:
        raise InputError("There is no such part.", "Choose one of the list, or none for the whole canvas.")
    made = replace(one, zone=zone, name=name.strip()[:60], veil=checked_veil(replace(one.veil, **values)))
    return replace(project, own_passes=tuple(made if p is one else p for p in project.own_passes))


def forget_pass(project: Project, key: str) -> Project:
    """Remove a pass of the painter's own, with what was decided of it. Raises `InputError` for one of the school's."""
    if all(one.id != key for one in project.own_passes):
        raise InputError("Only a pass you added can be removed.", "Leave the others out: turn them off.")
    return replace(
        project,
        own_passes=tuple(one for one in project.own_passes if one.id != key),
        pass_order=tuple(one for one in project.pass_order if one != key),
        passes={k: v for k, v in project.passes.items() if k != key},
        left_alone=tuple(replace(one, after="") if one.after == key else one for one in project.left_alone),
    )


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
