"""What the Easel stop shows: the steps of the sitting that goes on or comes next, what runs, and what is carried over."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

import numpy as np

from foxpath.core.clock import now
from foxpath.core.findings import Finding
from foxpath.core.log.reading import CarriedOver, carried_over, open_sitting, sittings, step_now
from foxpath.core.log.timers import Timer, windows
from foxpath.core.mixes.adding import Addition, addition
from foxpath.core.mixes.learning import seen_in_words
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.studio import allowed
from foxpath.core.mixes.tubes import Triple, tubes_of
from foxpath.core.mixes.words import amount_words, names_of
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words
from foxpath.derive.days.plan import Planned
from foxpath.derive.days.reading import DaysClose, close_days
from foxpath.derive.days.sitting import Sitting, areas_at
from foxpath.derive.easel.steps import EaselStep, steps_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

LONG_AWAY_H = 36.0
SHIFTS: dict[str, tuple[int, int, int]] = {
    "dark": (-1, 0, 0),
    "light": (1, 0, 0),
    "warm": (0, 0, 1),
    "cool": (0, 0, -1),
}
"""What is said of a mark, as steps lighter, redder, yellower."""


@dataclass(frozen=True, slots=True, eq=False)
class EaselFar:
    """The stop's line in the trail."""

    words: str


@dataclass(frozen=True, slots=True, eq=False)
class EaselClose:
    """What the stop shows.

    Attributes
    ----------
    days : DaysClose or None
        None before it was read.
    sitting : Sitting or None
        The one that goes on, or comes next.
    steps : tuple of EaselStep
    carried : tuple of CarriedOver
    before : tuple of str
        What is to be known before it begins: what has dried, which windows were lost, which piles are past use.
    findings : tuple of Finding
    """

    days: DaysClose | None = None
    sitting: Sitting | None = None
    steps: tuple[EaselStep, ...] = ()
    carried: tuple[CarriedOver, ...] = ()
    before: tuple[str, ...] = ()
    findings: tuple[Finding, ...] = ()


def read_easel(results: Results, project: Project, progress: Progress) -> EaselFar:
    """Return what is said from afar: that a sitting goes on, else how many there were."""
    going = open_sitting(project.told)
    if going is not None:
        return EaselFar(f"goes on since {going.begin:%H:%M}")
    many = len(sittings(project.told))
    return EaselFar(f"{count_words(many, 'sitting')} painted" if many else "nothing painted yet")


def close_easel(results: Results, project: Project, progress: Progress = SILENT) -> EaselClose:
    """Return what the stop shows. Raises `Cancelled`."""
    days = close_days(results, project, progress)
    moment = days.now or now()
    # At this easel stands this painting: what belongs to another one is left to its own.
    own = [replace(one, steps=tuple(step for step in one.steps if not step.painting)) for one in days.sittings]
    coming = [one for one in own if one.end > moment and one.steps]
    sitting = coming[0] if coming else None
    planned = days.planned
    steps: tuple[EaselStep, ...] = ()
    if sitting is not None and planned is not None and planned.plan.complete:
        steps = steps_of(results, project, planned, sitting)
    return EaselClose(
        days, sitting, steps, carried_over(project.told), _before(project, days, moment), tuple(_findings(project, moment))
    )  # fmt: skip


def _before(project: Project, days: DaysClose, moment: datetime) -> tuple[str, ...]:
    """Say what has changed since the last sitting."""
    told = sittings(project.told)
    planned = days.planned
    if not told or planned is None:
        return ()
    said = []
    last = told[-1].end
    gone = moment - last
    if gone > timedelta(hours=LONG_AWAY_H):
        said.append(f"{count_words(gone.days, 'day')} since the last sitting.")
    lost = [planned.layout.problem.relations[k] for k in sorted(planned.plan.lost)]
    names = {task.id: task for task in planned.layout.problem.tasks}
    done = {planned.layout.problem.tasks[k].id for k in planned.layout.problem.done}
    own = planned.layout.works[0].zones
    lost = [one for one in lost if one.before in done and one.after not in done and one.after in own][:2]
    said += [
        f"{names[one.before].part} has set: restate its strip, {one.extra_min} min, before {names[one.after].words}."
        for one in lost
    ]
    for pile in project.mixes.mixed:
        if pile.mixed_on and not pile.wrapped:
            days_old = (moment.date() - datetime.fromisoformat(pile.mixed_on).date()).days
            if days_old >= 4:
                said.append(f"{pile.name.capitalize()} has lain open for {days_old} days: mix it anew.")
    return tuple(said[:5])


def _findings(project: Project, moment: datetime) -> list[Finding]:
    going = open_sitting(project.told)
    if going is not None and moment - going.end > timedelta(hours=12):
        return [
            Finding(
                "look", f"The sitting of {going.begin:%a %-d %b} was never ended.",
                "its last word was " + f"{going.end:%H:%M} · end it, or go on", "easel", "open",
            )
        ]  # fmt: skip
    return []


# What runs ----------------------------------------------------------------------------------------


def timers_of(planned: Planned, project: Project, moment: datetime) -> tuple[Timer, ...]:
    """Return the windows that run at a local moment, by what was told at the easel and what the days know as done."""
    work = planned.layout.works[0]
    prefix = f"{work.tasks[0].painting}:" if work.tasks else ""
    begun: dict[str, datetime] = {}
    ended: dict[str, datetime] = {}
    for one in project.days.done:
        begun[prefix + one.task] = datetime.fromisoformat(one.begin)
        ended[prefix + one.task] = datetime.fromisoformat(one.end)
    for one in project.days.begun:
        begun.setdefault(prefix + one.task, datetime.fromisoformat(one.begin))
    now_step = step_now(project.told)
    if now_step is not None and now_step.task:
        begun.setdefault(prefix + now_step.task, now_step.local)
    return windows(work.tasks, work.relations, begun, ended, moment)


def open_timer(planned: Planned, project: Project, step: EaselStep, moment: datetime) -> Timer | None:
    """Return how long the paint of a step's own task stays open; None where it lays none, or is not begun."""
    work = planned.layout.works[0]
    task = planned.layout.problem.tasks[step.number]
    layer = work.layers.get(task.id)
    rows = [one for one in (*project.days.begun, *project.days.done) if one.task == step.task]
    begins = [datetime.fromisoformat(one.begin) for one in rows]
    now_step = step_now(project.told)
    if now_step is not None and now_step.task == step.task:
        begins.append(now_step.local)
    if layer is None or not begins:
        return None
    begin = min(one for one in begins if moment - one < timedelta(hours=layer.times.open) or one == max(begins))
    hours = layer.times.early(layer.times.open, project.days.z)
    return Timer("open", "paint stays open", begin, begin + timedelta(hours=hours))


UNDER_MM = 140.0
"""How far from its tip a hand lies on the canvas, and smears what is wet."""


def under_hand(
    planned: Planned, project: Project, step: EaselStep, places: Mapping[int, tuple[float, float]], moment: datetime
) -> tuple[str, ...]:
    """Return the names of parts that are wet or tacky where the hand lies while a step is painted.

    Parameters
    ----------
    planned : Planned
    project : Project
    step : EaselStep
    places : mapping of zone to (x, y)
        Where each part's middle is, reference pixels.
    moment : datetime
        Local.
    """
    if step.zone not in places:
        return ()
    x, y = places[step.zone]
    side = 1.0 if project.easel.hand == "right" else -1.0
    layout, found = planned.layout, []
    done = set(layout.problem.done)
    for area in areas_at(layout, planned.diary, layout.minute(moment)):
        if area.zone == step.zone or area.zone not in places or area.state == "dry" or area.task not in done:
            continue
        dx, dy = (places[area.zone][0] - x) * project.mm_per_px, (places[area.zone][1] - y) * project.mm_per_px
        # The heel of the hand lies beside the tip and below it.
        if side * dx > 0 and dy > -40 and float(np.hypot(dx, dy)) < UNDER_MM:
            found.append(f"{project.back_to_front()[area.zone].name} ({area.state})")
    return tuple(found)


# What was said ------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True, eq=False)
class AskAddition:
    """Ask what to add to a pile of which a mark said that it is too dark, light, warm or cool."""

    project: Project
    name: str
    want: Triple
    parts: tuple[tuple[str, float], ...]
    said: str

    def __call__(self, progress: Progress) -> str:
        """Return it in words. Raises `Cancelled`."""
        progress.at(0, "asking the pile")
        mixes = self.project.mixes
        tubes = tubes_of(mixes.learned())
        if not tubes or any(key not in {t.id for t in tubes} for key, _ in self.parts):
            return f"{self.name}: its tubes are not in the studio."
        rack = Rack(tubes, mixes.shown)
        seen = seen_in_words(np.array(self.want), *SHIFTS[self.said])
        may = {tube.id for tube in allowed(tubes, mixes.black)}
        pile = rack.parts(self.parts)
        step = addition(
            rack, pile, np.array(self.want), shift=seen - rack.lab(pile), usable=[key in may for key in rack.ids]
        )  # fmt: skip
        return f"{self.name} is too {self.said}: {addition_words(step, names_of(tubes), sum(n for _, n in self.parts))}"


def addition_words(step: Addition, names: Mapping[str, str], whole: float) -> str:
    """Say what to add, for a pile of so many parts."""
    if not step.added:
        return "leave it, it is as near as these tubes come."
    parts = " and ".join(f"{amount_words(n)} {names.get(key, key).lower()}" for key, n in step.added)
    first = "put half aside, then add " if step.halve else "add "
    return f"{first}{parts} to {amount_words(whole * (0.5 if step.halve else 1.0))} parts of it."
