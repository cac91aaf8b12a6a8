"""The passes as they are planned, and the time of the eyes in them."""

from collections.abc import Sequence
from dataclasses import replace

from foxpath.core.passes import Estimate, PassPlan, plan_passes
from foxpath.derive.eyes.homes import EYE_ROLES, drawn_whiskers, eyes_in
from foxpath.derive.eyes.reading import eye_plan
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.laying import laying_of
from foxpath.derive.passes.veils import with_veils
from foxpath.derive.results import Results
from foxpath.document.model import Project


def passes_of(results: Results, project: Project) -> tuple[PassPlan, ...]:
    """Return the planned passes in their order, those turned off included; zones stand in laying order."""
    return results.once(project, "passes", lambda: _plan_passes(results, project))


def _plan_passes(results: Results, project: Project) -> tuple[PassPlan, ...]:
    canvas = project.canvas
    facts = facts_of(results, project)
    plans = plan_passes(
        facts,
        max(canvas.width_mm, canvas.height_mm),
        project.passes,
        project.pass_order,
        project.kit,
        project.roles,
        project.pace,
    )
    plans = with_veils(results, project, with_eye_times(results, project, plans))
    place = {index: k for k, index in enumerate(laying_of(results, project).order)}
    return tuple(replace(plan, zones=tuple(sorted(plan.zones, key=place.__getitem__))) for plan in plans)


def first_of_act(results: Results, project: Project, plan: PassPlan, index: int) -> bool:
    """Tell whether a pass is a zone's first of those that are on and act as it does."""
    alike = (p for p in passes_of(results, project) if p.on and p.role.act == plan.role.act and index in p.zones)
    first = next(alike, None)
    return first is None or first.role.key == plan.role.key


def with_eye_times(results: Results, project: Project, plans: Sequence[PassPlan]) -> tuple[PassPlan, ...]:
    """Return passes in which a zone with a marked eye takes the time of the eye's own steps, once an act."""
    made, seen = [], set()
    for plan in plans:
        act = plan.role.act
        if not plan.on or act not in (*EYE_ROLES, "eyes"):
            made.append(plan)
            continue
        estimates, factor = dict(plan.estimates), project.pace.factor(act)
        for index in plan.zones:
            eyes = eyes_in(results, project, index)
            if not eyes:
                continue
            mine = {"lights": ("lights", "lashes"), "eyes": ("undercoat", "lights", "highlights", "lashes")}.get(
                act, (act,)
            )
            steps = [step for eye in eyes for step in eye_plan(results, project, eye).steps if step.painted]
            minutes = sum(step.minutes for step in steps if step.role in mine) if (act, index) not in seen else 0.0
            seen.add((act, index))
            # The strokes of its steps are few, and counted by no coverage.
            estimates[index] = Estimate(0, minutes * factor, 0.0)
        more = sum(one.minutes for one in estimates.values()) - sum(one.minutes for one in plan.estimates.values())
        made.append(
            replace(
                plan,
                estimates=estimates,
                minutes=plan.minutes + more,
                usual_minutes=plan.usual_minutes + more / factor,
                marks=sum(one.marks for one in estimates.values()),
            )
        )
    return tuple(made)


def role_is_own(results: Results, project: Project, role: str, index: int) -> bool:
    """Tell whether a pass paints a zone only by its eye's steps, or only by whiskers that were drawn."""
    if role in EYE_ROLES and eyes_in(results, project, index):
        return True
    return role == "whiskers" and drawn_whiskers(results, project, index)
