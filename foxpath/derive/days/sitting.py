"""One sitting: what to paint in which order, with which piles and brushes, what must still be wet, what the hand must not touch."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from foxpath.core.days.diary import Diary
from foxpath.core.passes import PassPlan
from foxpath.core.units import count_words, duration_words
from foxpath.derive.days.plan import Layout, Planned
from foxpath.derive.days.tasks import Layer
from foxpath.derive.mixes.palette import palette_of
from foxpath.derive.mixes.ready import ready_for
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

STATES = ("wet", "tacky", "dry")
MOST_PILES = 4


@dataclass(frozen=True, slots=True)
class Step:
    """A piece of a sitting.

    Attributes
    ----------
    task : int
        Its place.
    begin, end : datetime
    act, part : str
    minutes : int
    piles, brush : str
        Words; empty for none.
    note : str
        What must hold, e.g. "while the darks are wet, until 21:10".
    whole : bool
        The task is finished with it.
    painting : str
        Another painting, whose it is; empty where it is this one's.
    """

    task: int
    begin: datetime
    end: datetime
    act: str
    part: str
    minutes: int
    piles: str
    brush: str
    note: str
    whole: bool
    painting: str = ""

    @property
    def where(self) -> str:
        """The part, of another painting with its name."""
        return f"{self.part} · {self.painting}" if self.painting else self.part


@dataclass(frozen=True, slots=True)
class Area:
    """The paint that lies uppermost on a part.

    Attributes
    ----------
    zone : int
    task : int
        That laid it.
    state : str
        "wet", "tacky" or "dry"; empty before there is paint.
    until : datetime or None
        When it leaves its state: by the early time where it must still be wet, by the late one where it must be dry.
    """

    zone: int
    task: int
    state: str
    until: datetime | None


@dataclass(frozen=True, slots=True)
class Sitting:
    """A sitting.

    Attributes
    ----------
    number : int
        From 1.
    begin, end : datetime
        With set-up and clean-up.
    work : (begin, end)
        Between them.
    steps : tuple of Step
    keep_off : tuple of Area
        Not dry yet, and not painted here.
    stop : str
        The rule for its end; empty without one.
    setting : str
        Where to go while something sets; empty where nothing does.
    """

    number: int
    begin: datetime
    end: datetime
    work: tuple[datetime, datetime]
    steps: tuple[Step, ...]
    keep_off: tuple[Area, ...]
    stop: str = ""
    setting: str = ""


def areas_at(layout: Layout, diary: Diary, minute: float) -> list[Area]:
    """Return the state of the paint on every part of the first painting at a minute, back to front."""
    work, plan, problem = layout.works[0], diary.plan, layout.problem
    top: dict[int, tuple[float, int]] = {}
    for k, task in enumerate(problem.tasks):
        layer = work.layers.get(task.id)
        begun = [b for a, b in plan.pieces[k] if a < minute]
        if layer is None or not begun:
            continue
        for zone in work.zones.get(task.id, ()):
            if zone not in top or top[zone][0] <= begun[-1]:
                top[zone] = (begun[-1], k)
    made = []
    for zone in sorted(top):
        laid, k = top[zone]
        made.append(_area(layout, diary, zone, k, laid, minute))
    return made


def _area(layout: Layout, diary: Diary, zone: int, task: int, laid: float, minute: float) -> Area:
    layer = layout.works[0].layers[layout.problem.tasks[task].id]
    key = layout.problem.tasks[task].key
    note = next((one for one in layout.days.notes if one.task == key), None)
    if note is not None and note.dry:
        return Area(zone, task, "dry", None)
    hours = (minute - laid) / 60
    times = layer.times
    if hours < times.early(times.open, layout.days.z):
        return Area(zone, task, "wet", diary.at(laid + 60 * times.early(times.open, layout.days.z)))
    if hours < times.late(times.touch, layout.days.z):
        return Area(zone, task, "tacky", diary.at(laid + 60 * times.late(times.touch, layout.days.z)))
    return Area(zone, task, "dry", None)


def sittings_of(results: Results, project: Project, planned: Planned, most: int = 0) -> tuple[Sitting, ...]:
    """Return the sittings to come, each with its steps in order; the first `most` where that is given."""
    layout, diary = planned.layout, planned.diary
    passes = {one.role.key: one for one in passes_of(results, project)}
    made = []
    times = diary.times()
    for number, (a, b, pieces) in enumerate(diary.sittings(), 1):
        steps = tuple(
            _step(results, project, layout, diary, passes, one, pieces, k) for k, one in enumerate(pieces)
        )  # fmt: skip
        here = {zone for _, _, k in pieces for zone in layout.works[0].zones.get(layout.problem.tasks[k].id, ())}
        off = tuple(
            one for one in areas_at(layout, diary, a) if one.state in ("wet", "tacky") and one.zone not in here
        )  # fmt: skip
        made.append(
            Sitting(
                number, *times[number - 1], (diary.at(a), diary.at(b)), steps, off,
                _stop(layout, diary, b), _setting(layout, diary, pieces),
            )
        )  # fmt: skip
        if most and len(made) >= most:
            break
    return tuple(made)


def _step(
    results: Results, project: Project, layout: Layout, diary: Diary, passes: dict[str, PassPlan],
    piece: tuple[int, int, int], pieces: Sequence[tuple[int, int, int]], number: int,
) -> Step:  # fmt: skip
    a, b, k = piece
    task = layout.problem.tasks[k]
    work = next((one for one in layout.works if task.id in one.zones), layout.works[0])
    role, zones = work.roles.get(task.id, ""), work.zones.get(task.id, ())
    piles = brush = ""
    plan = passes.get(role)
    if plan is not None and work is layout.works[0] and task.kind in ("paint", "edge", "blend"):
        palette = palette_of(results, project)
        names = {p.number: p.name for zone in (zones or (None,)) for p in ready_for(palette, role, zone)}
        shown = list(names.items())[:MOST_PILES]
        piles = ", ".join(f"{n} {name}" for n, name in shown)
        piles += f" and {len(names) - len(shown)} more" if len(names) > len(shown) else ""
        tools = dict.fromkeys(plan.brushes[zone].brush.words() for zone in zones if zone in plan.brushes)
        brush = ", ".join(list(tools)[:2])
    return Step(
        k, diary.at(a), diary.at(b), task.act, task.part, b - a, piles, brush,
        _note(layout, diary, k, a), diary.plan.pieces[k][-1][1] == b, "" if layout.own(k) else task.painting,
    )  # fmt: skip


def _note(layout: Layout, diary: Diary, k: int, begin: int) -> str:
    """Say what must hold while a task is painted: what must still be wet, or tacky, and what was lost."""
    problem, said = layout.problem, []
    lost = 0
    for j, r in problem.into[k]:
        one, other = problem.relations[r], problem.tasks[j]
        if one.high_h is None or not diary.plan.pieces[j]:
            continue
        if r in diary.plan.lost:
            lost += one.extra_min
            continue
        if one.kind in ("while_open", "tacky"):
            until = diary.at(diary.plan.pieces[j][-1][0] + problem.high[r])
            state = "still wet" if one.kind == "while_open" else "tacky"
            said.append(f"{other.words} {state}, until {until:%a %H:%M}")
    if lost:
        said.append(f"a wet edge is lost: {lost} min to restate it")
    return "; ".join(said)


def _stop(layout: Layout, diary: Diary, end: int) -> str:
    """Return the rule for a sitting's end: from when on nothing is begun that must be followed wet."""
    problem = layout.problem
    inside = [(a, b, k) for k, pieces in enumerate(diary.plan.pieces) for a, b in pieces if a < end <= b + 360]
    pairs = [
        problem.tasks[j].minutes + problem.tasks[k].minutes
        for _, _, k in inside
        for j, r in problem.out[k]
        if problem.relations[r].kind == "while_open"
    ]
    least = min(pairs, default=2 * problem.chunk)
    return f"Begin no new wet area after {diary.at(end - least):%H:%M}."


def _setting(layout: Layout, diary: Diary, pieces: Sequence[tuple[int, int, int]]) -> str:
    """Say where to go while something sets: what is painted between two tasks of which one waits for the other to be tacky."""
    problem = layout.problem
    here = [k for _, _, k in pieces]
    for b in here:
        for a, r in problem.into[b]:
            if a in here and problem.relations[r].low_h > 0:
                between = [k for k in here[here.index(a) + 1 : here.index(b)] if k not in (a, b)]
                first = f"While {problem.tasks[a].part} sets"
                if between:
                    return f"{first}: {problem.tasks[between[0]].words}."
                return f"{first}, rest {duration_words(math.ceil(problem.relations[r].low_h * 60))}."
    return ""


def one_line(planned: Planned, project: Project, now: datetime) -> str:
    """Say in one line what to paint and what to keep off: "Tonight: top coat of cheeks. Keep off background until Sun 10 May."""
    layout, diary = planned.layout, planned.diary
    coming = next((one for one in diary.sittings() if diary.at(one[1]) > now), None)
    if coming is None:
        return "Nothing is left to paint."
    a, _, pieces = coming
    tasks = layout.problem.tasks
    names = list(dict.fromkeys(layout.words(k) for _, _, k in pieces))
    what = ", ".join(names[:2]) + (f" and {len(names) - 2} more" if len(names) > 2 else "")
    begin = next(x for x, y in diary.times() if x <= diary.at(a) < y)
    days = (begin.date() - now.date()).days
    day = (
        "Tonight"
        if days == 0 and begin.hour >= 17
        else "Today"
        if days == 0
        else "Tomorrow"
        if days == 1
        else f"{begin:%a %d %b}"
    )
    here = {zone for _, _, k in pieces for zone in layout.works[0].zones.get(tasks[k].id, ())}
    wet = [one for one in areas_at(layout, diary, a) if one.state != "dry" and one.zone not in here and one.until]
    if not wet:
        return f"{day}, {begin:%H:%M}: {what}."
    zones = project.back_to_front()
    last = max(wet, key=lambda one: one.until or begin)
    others = f" and {count_words(len(wet) - 1, 'more part')}" if len(wet) > 1 else ""
    return f"{day}, {begin:%H:%M}: {what}. Keep off {zones[last.zone].name}{others} until {last.until:%a %d %b}."


def layer_of(planned: Planned, task: int) -> Layer | None:
    """Return the paint that a task lays; None where it lays none."""
    found: Layer | None = planned.layout.works[0].layers.get(planned.layout.problem.tasks[task].id)
    return found
