"""The plan of sittings of a painting: from its work and the painter's calendar, as it was taken or as it is now."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time, timedelta
from typing import Any

from foxpath.core.days.calendar import Interval, free_time, sittings
from foxpath.core.days.check import Against, read_back
from foxpath.core.days.diary import Diary
from foxpath.core.days.problem import Piece, Plan, Problem
from foxpath.core.days.schedule import Hand
from foxpath.core.days.search import Found, at_once, hand_of, moved_by, replan, search
from foxpath.core.days.studio import Days, Laid, airy, bright_range, daylit, ends_on, iso, moment_of, too_cold
from foxpath.core.days.tasks import Relation, Task
from foxpath.core.days.told import Told
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.days.tasks import Work, work_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

HORIZONS = (150, 400, 1100)
"""Days that are looked ahead: more only when the painting does not fit."""
SEARCH_S, REPLAN_S = 5.0, 0.8
VARNISH_LEAST_MIN, LEFT_MIN = 30, 5
"""Minutes of daylight that varnish needs, and that are left at least of what was begun."""
ROUNDS, ABOUT = 2, 0.08
"""How often a plan is made anew for the room of the days it came to; and the share by which a lag may differ from the taken plan's in a
room that goes with the year: a fortnight's change, far less than what is known of drying."""


@dataclass(frozen=True, slots=True, eq=False)
class Layout:
    """What a plan is made from.

    Attributes
    ----------
    works : tuple of Work
        One for each painting; of those that are only told, without paint and parts.
    problem : Problem
    zero : datetime
        Minute 0.
    free : tuple of (begin, end)
    days : Days
        The first painting's, whose calendar it is.
    ends : mapping of painting to datetime
        By when each is handed over; of those with a date.
    limited : mapping of task to stretches (begin, end)
        Places of tasks that wait for daylight or open doors, and the stretches that have them.
    """

    works: tuple[Work, ...]
    problem: Problem
    zero: datetime
    free: tuple[Interval, ...]
    days: Days
    ends: Mapping[str, datetime] = field(default_factory=dict)
    limited: Mapping[int, tuple[Piece, ...]] = field(default_factory=dict)

    def diary(self, plan: Plan) -> Diary:
        """Return a plan with its calendar."""
        dropped = tuple(task for work in self.works for task in work.dropped)
        return Diary(self.problem, plan, self.zero, self.free, self.days.rule, dict(self.ends), dropped)

    def place(self, key: str, painting: str = "") -> int:
        """Return the place of a task of a painting, the first one without, by its key; -1 where it is none of these."""
        whose = painting or (self.works[0].tasks[0].painting if self.works[0].tasks else "")
        return next(
            (k for k, task in enumerate(self.problem.tasks) if task.painting == whose and task.key == key), -1
        )  # fmt: skip

    def own(self, task: int) -> bool:
        """Tell whether a task is the first painting's."""
        return self.problem.tasks[task].id in self.works[0].zones

    def others(self) -> list[str]:
        """Return the names of the other paintings."""
        return sorted({task.painting for k, task in enumerate(self.problem.tasks) if not self.own(k)})

    def words(self, task: int) -> str:
        """Say what a task does; of another painting with its name."""
        one = self.problem.tasks[task]
        return one.words if self.own(task) else f"{one.words} ({one.painting})"

    def minute(self, moment: datetime) -> int:
        """Return the minute of a moment."""
        return round((moment - self.zero).total_seconds() / 60)

    def keeps(self, plan: Plan) -> bool:
        """Tell whether daylight and doors are kept, but where the painter put something elsewhere."""
        return all(
            any(a <= x and y <= b for a, b in stretches)
            for k, stretches in self.limited.items()
            if k not in self.problem.done and self.problem.within.get(k, stretches) == stretches
            for x, y in plan.pieces[k]
        )

    def work_with(self, task_id: str) -> Work:
        """Return the work that a task belongs to."""
        return next(work for work in self.works if task_id in work.zones)


@dataclass(frozen=True, slots=True, eq=False)
class Planned:
    """A plan as it is shown.

    Attributes
    ----------
    layout : Layout
    plan : Plan
    hand : Hand
        That makes it, or one like it, again.
    taken : bool
        It is the plan that was taken, and it still holds.
    before : mapping of task to pieces
        The plan that was taken, minutes; empty without one.
    against : tuple of Against
        What stands against that.
    moved, later : int
        Tasks that left their sitting, and by how many days most came later.
    searched, solved : bool
        The search is over; the solver had a look.
    """

    layout: Layout
    plan: Plan
    hand: Hand
    taken: bool = False
    before: Mapping[int, tuple[Piece, ...]] = field(default_factory=dict)
    against: tuple[Against, ...] = ()
    moved: int = 0
    later: int = 0
    searched: bool = False
    solved: bool = False

    @property
    def diary(self) -> Diary:
        """The plan with its calendar."""
        return self.layout.diary(self.plan)

    def dates(self) -> "Dates":
        """Return on which day each task is painted, by painting and key."""
        made: dict[str, dict[str, date]] = {}
        for task, pieces in zip(self.layout.problem.tasks, self.plan.pieces, strict=True):
            if pieces:
                day = (self.layout.zero + timedelta(minutes=pieces[0][0])).date()
                made.setdefault(task.painting, {})[task.key] = day
        return made

    def with_plan(self, found: Found, *, searched: bool = True) -> "Planned":
        """Return what is shown with another plan."""
        moved, later = _moves(self.layout.problem, self.before, found.plan)
        return replace(
            self, plan=found.plan, hand=found.hand, moved=moved, later=later, searched=searched, solved=found.solved
        )

    def rows(self, painting: str = "") -> tuple[Laid, ...]:
        """Return the plan as it is taken: the pieces of what is not done, of a painting, the first one without."""
        layout = self.layout
        return tuple(
            Laid(task.key, iso(layout.zero + timedelta(minutes=a)), iso(layout.zero + timedelta(minutes=b)))
            for k, task in enumerate(layout.problem.tasks)
            if (task.painting == painting if painting else layout.own(k)) and k not in layout.problem.done
            for a, b in self.plan.pieces[k]
        )

    def times(self, painting: str = "") -> list[Interval]:
        """Return the sittings, with set-up and clean-up, in which something of a painting, the first one without, is painted."""
        layout, diary = self.layout, self.diary
        return [
            when
            for when, (_, _, pieces) in zip(diary.times(), diary.sittings(), strict=True)
            if any(layout.problem.tasks[k].painting == painting if painting else layout.own(k) for _, _, k in pieces)
        ]


def _moves(problem: Problem, before: Mapping[int, tuple[Piece, ...]], plan: Plan) -> tuple[int, int]:
    return moved_by({k: pieces[0] for k, pieces in before.items()}, problem, plan)


Dates = Mapping[str, Mapping[str, date]]
"""Of each painting: the day of each task, by its key."""


def calendar_of(
    days: Days, start: datetime, count: int, taken: Sequence[Interval] = ()
) -> tuple[tuple[Interval, ...], list[Piece]]:
    """Return free time and the stretches in which paint can be laid, minutes from the midnight of the first day.

    Parameters
    ----------
    days : Days
    start : datetime
        Nothing is free before.
    count : int
        Days that are looked ahead.
    taken : sequence of (begin, end)
        Sittings of other paintings.
    """
    zero = datetime.combine(start.date(), time())
    busy = [*days.taken(), *(taken if days.beside else ())]
    free = free_time(days.free, start, count, busy)
    if days.daylight:
        free = daylit(days, free)
    if days.coldest > 0:
        free = [(a, b) for a, b in free if not too_cold(days, a.date())]
    return tuple(free), sittings(free, zero, days.rule)


def layout_of(
    results: Results,
    projects: Sequence[Project],
    now: datetime,
    *,
    names: Sequence[str] = (),
    taken: Sequence[Interval] = (),
    beside: Sequence[Told] = (),
    horizon: int = HORIZONS[0],
    expected: Dates | None = None,
    progress: Progress = SILENT,
) -> Layout:
    """Return what a plan is made from. Raises `Cancelled`.

    Parameters
    ----------
    results : Results
    projects : sequence of Project
        Painted side by side; the calendar is the first one's.
    now : datetime
    names : sequence of str
        Names of the paintings in the ids; their own without.
    taken : sequence of (begin, end)
        Sittings of other paintings.
    beside : sequence of Told
        Paintings that are planned together with these, as they were told; of other names.
    horizon : int
        Days to look ahead.
    expected : mapping of painting to mapping of task key to date
        When what has no day yet is expected to be painted.
    """
    days = projects[0].days
    called = names or [one.name for one in projects]
    works = tuple(
        work_of(
            results,
            one,
            replace(one.days, **_shared(days)),
            name,
            part,
            {**(expected or {}).get(name, {}), **days_of(one.days)},
        )
        for one, name, part in zip(projects, called, progress.parts(len(projects)), strict=True)
    )
    works += tuple(Work(one.tasks, one.relations, {}, {task.id: () for task in one.tasks}, {}) for one in beside)
    kept = [one.days for one in projects] + [*beside]
    called = [*called, *(one.painting for one in beside)]
    rows = {name: (_moments(one.done), _moments(one.begun)) for one, name in zip(kept, called, strict=True)}
    tasks, relations, when = _as_painted(works, called, _one_hand(rows))
    number = {task.id: k for k, task in enumerate(tasks)}
    first = datetime.combine(days.begins(now.date()), time())
    zero = min([first, *(datetime.combine(a.date(), time()) for pieces in when.values() for a, _ in pieces)])
    since, begin = _running(projects[0], now, days, when, taken)
    since, begin = max(first, since), max(first, begin)
    free, stretches = calendar_of(days, since, horizon + max(0, (begin - zero).days), taken)
    shift = round((datetime.combine(since.date(), time()) - zero).total_seconds() / 60)

    def minute(moment: datetime) -> int:
        return round((moment - zero).total_seconds() / 60)

    # Of a sitting that is under way the rest is left, without setting up anew.
    start = max(0, minute(begin))
    places = [
        (max(a + shift, start), b + shift) for a, b in stretches if b + shift - max(a + shift, start) >= days.rule.chunk
    ]

    ends = {name: end for one, name in zip(kept, called, strict=True) if (end := ends_on(one.deadline)) is not None}
    done = {number[key]: tuple((minute(a), minute(b)) for a, b in pieces) for key, pieces in when.items()}
    limited = _limited(days, works, tasks, zero, places)
    if days.seasons:
        relations = _as_taken(relations, works[0], days.plan)
    problem = Problem(
        tasks,
        relations,
        places,
        days.rule.chunk,
        start,
        done,
        _within(dict(zip(called, kept, strict=True)), number, zero, limited),
        {},
        {
            number[task.id]: minute(ends[task.painting])
            for task in tasks
            if task.kind == "hand-over" and task.painting in ends
        },
    )
    return Layout(works, problem, zero, free, days, ends, limited)


def told_of(project: Project, work: Work) -> Told:
    """Return what a painting tells the painter's others of its work."""
    days = project.days
    return Told(
        project.name, work.tasks, work.relations, days.done, days.begun, days.plan, days.holds, days.deadline
    )  # fmt: skip


def days_of(days: Days) -> dict[str, date]:
    """Return the day of each task that was painted, or that the plan that was taken gives it."""
    made: dict[str, date] = {}
    for one in (*reversed(days.plan), *reversed(days.done), *reversed(days.begun)):
        moment = moment_of(one.begin)
        if moment is not None:
            made[one.task] = moment.date()
    return made


def _as_taken(relations: Sequence[Relation], work: Work, rows: Sequence[Laid]) -> list[Relation]:
    """Return relations with the lags of a plan that was taken where the room of its days makes them hardly different."""
    pieces = {f"{work.tasks[0].painting}:{key}": mine for key, mine in _moments(rows).items()} if work.tasks else {}
    made = []
    for one in relations:
        before, after = pieces.get(one.before), pieces.get(one.after)
        if before is not None and after is not None and one.kind in ("touch_dry", "while_open", "tacky"):
            gap = _after(before, after)
            span = (after[-1][1] - before[-1][0]).total_seconds() / 3600
            # A hair less, or more: hours become whole minutes again.
            if gap < one.low_h <= gap * (1 + ABOUT):
                one = replace(one, low_h=gap - 1e-6)  # noqa: PLW2901
            if one.high_h is not None and one.high_h < span <= one.high_h * (1 + ABOUT):
                one = replace(one, high_h=span + 1e-6)  # noqa: PLW2901
        made.append(one)
    return made


def _moments(rows: Sequence[Laid]) -> dict[str, list[Interval]]:
    """Return when each task was painted, in order, by its key."""
    made: dict[str, list[Interval]] = {}
    for one in rows:
        a, b = moment_of(one.begin), moment_of(one.end)
        if a is not None and b is not None:
            made.setdefault(one.task, []).append((a, b))
    return {key: sorted(set(pieces)) for key, pieces in made.items()}


Rows = dict[str, tuple[dict[str, list[Interval]], dict[str, list[Interval]]]]
"""Of each painting: what is done, and what was begun."""


def _one_hand(rows: Rows) -> Rows:
    """Return pieces that do not overlap: a hand paints one thing at a time, and whole minutes round."""
    flat = sorted(
        ((a, b), name, k, key, n)
        for name, both in rows.items()
        for k, mine in enumerate(both)
        for key, pieces in mine.items()
        for n, (a, b) in enumerate(pieces)
    )
    made: Rows = {name: ({}, {}) for name in rows}
    last: datetime | None = None
    for (a, b), name, k, key, _ in flat:
        begin = max(a, last) if last is not None else a
        last = max(b, begin + timedelta(minutes=1))
        made[name][k].setdefault(key, []).append((begin, last))
    return made


def _minutes(pieces: Sequence[Interval]) -> int:
    return round(sum((b - a).total_seconds() for a, b in pieces) / 60)


def _as_painted(
    works: Sequence[Work], names: Sequence[str], rows: Rows
) -> tuple[list[Task], list[Relation], dict[str, list[Interval]]]:  # fmt: skip
    """Return tasks and relations with what was painted, and when: what is done took what it took, of what was begun the rest is left."""
    tasks: list[Task] = []
    relations: list[Relation] = []
    when: dict[str, list[Interval]] = {}
    for work, name in zip(works, names, strict=True):
        done, begun = rows[name]
        for task in work.tasks:
            part = begun.get(task.key, [])
            if task.key in done:
                when[task.id] = sorted({*part, *done[task.key]})
                tasks.append(replace(task, minutes=max(1, _minutes(when[task.id]))))
            elif part:
                tasks.append(replace(task, minutes=max(LEFT_MIN, task.minutes - _minutes(part))))
            else:
                tasks.append(task)
        for one in work.relations:
            if one.after not in when:
                relations.append(one)
            elif one.before in when and _after(when[one.before], when[one.after]) >= one.low_h:
                # It is painted: a window that was lost has taken its minutes already.
                relations.append(replace(one, extra_min=0))
    return tasks, relations, when


def _after(before: Sequence[Interval], after: Sequence[Interval]) -> float:
    """Return the hours between the end of one task and the begin of another."""
    return (after[0][0] - before[-1][1]).total_seconds() / 3600


def _shared(days: Days) -> dict[str, Any]:
    """Return what holds for every painting of a studio."""
    names = (
        "celsius", "humidity", "seasons", "july_celsius", "july_humidity", "dark", "careful", "rest_days", "varnish", "alkyd", "film",
    )  # fmt: skip
    return {name: getattr(days, name) for name in names}


def _running(
    project: Project, now: datetime, days: Days, when: Mapping[str, Sequence[Interval]], taken: Sequence[Interval]
) -> tuple[datetime, datetime]:
    """Return since when time is free and from when there is to be planned: in a sitting that is under way its begin and the end of what
    was painted in it; else now and now.
    """
    finished = {one.task for one in project.days.done}
    begun = set(project.days.begun)
    left = [
        a for one in project.days.plan
        if one.task not in finished and one not in begun and (a := moment_of(one.begin)) is not None
    ]  # fmt: skip
    day = datetime.combine(now.date(), time()) - timedelta(days=1)
    for a, b in calendar_of(days, day, 3, taken)[0]:
        if a <= now < b and any(a <= one < b for one in left):
            painted = [end for pieces in when.values() for _, end in pieces if a < end <= b]
            return a, max([a, *painted])
    return now, now


def _limited(
    days: Days, works: Sequence[Work], tasks: Sequence[Task], zero: datetime, places: Sequence[Piece]
) -> dict[int, tuple[Piece, ...]]:
    """Return the stretches that tasks wait for: of varnish daylight and open doors, and of thinned paint open doors where they are kept for it."""
    made: dict[int, tuple[Piece, ...]] = {}
    aired = tuple((a, b) for a, b in places if airy(days, (zero + timedelta(minutes=a)).date()))
    if days.daylight or days.air_from:
        bright = tuple(
            (max(a, x), min(b, y))
            for a, b in aired
            for x, y in [_bright(days, zero, a)]
            if min(b, y) - max(a, x) >= VARNISH_LEAST_MIN
        )
        made = {k: bright for k, task in enumerate(tasks) if task.kind == "varnish"}
    if days.air_from and days.air_for == "thinner":
        thinned = {key for work in works for key, layer in work.layers.items() if layer.thinned}
        made |= {k: aired for k, task in enumerate(tasks) if task.id in thinned}
    return made


def _within(
    kept: Mapping[str, Days | Told], number: Mapping[str, int], zero: datetime, limited: Mapping[int, tuple[Piece, ...]]
) -> dict[int, tuple[Piece, ...]]:
    """Return the stretches that tasks must lie within: where they were put, else where daylight and doors let them."""

    def minute(moment: datetime) -> int:
        return round((moment - zero).total_seconds() / 60)

    held: dict[int, list[Piece]] = {}
    for name, one in ((name, one) for name, mine in kept.items() for one in mine.holds):
        a, b, key = moment_of(one.begin), moment_of(one.end), f"{name}:{one.task}"
        if key in number and a is not None and b is not None:
            held.setdefault(number[key], []).append((minute(a), minute(b)))
    # Without any such stretch it is looked further ahead, see `plan_of`.
    free = {k: stretches for k, stretches in limited.items() if stretches}
    return free | {k: tuple(sorted(mine)) for k, mine in held.items()}


def _bright(days: Days, zero: datetime, begin: int) -> Piece:
    moment = zero + timedelta(minutes=begin)
    midnight = begin - (moment.hour * 60 + moment.minute)
    if not days.daylight:
        return midnight, midnight + 1440
    a, b = bright_range(days, moment.date())
    return midnight + a, midnight + b


def plan_of(
    results: Results,
    projects: Sequence[Project],
    now: datetime,
    *,
    names: Sequence[str] = (),
    taken: Sequence[Interval] = (),
    beside: Sequence[Told] = (),
    progress: Progress = SILENT,
) -> Planned:
    """Return the plan that is there at once: the one that was taken where it holds, else one with little change, else a new one.

    Where the free time of years does not hold the painting the plan is not complete. Raises `Cancelled`.
    """
    made: Planned | None = None
    for horizon in HORIZONS:
        expected: Dates = {}
        for _ in range(1 + ROUNDS * projects[0].days.seasons):
            layout = layout_of(
                results, projects, now, names=names, taken=taken, beside=beside, horizon=horizon, expected=expected, progress=progress
            )  # fmt: skip
            made = _planned(layout, projects[0].days, beside)
            if made.taken:
                break
            # How it dries depends on when it is laid, and that on how it dries.
            expected = made.dates()
        assert made is not None
        if (made.plan.complete and layout.keeps(made.plan)) or not layout.problem.sittings:
            break
    assert made is not None
    return made


def _planned(layout: Layout, days: Days, beside: Sequence[Told]) -> Planned:
    problem = layout.problem
    before: dict[int, list[Piece]] = {}
    rows = [(one, "") for one in days.plan if one not in set(days.begun)]
    if rows:
        # Beside a painting that is planned for the first time everything may move.
        rows += [
            (one, told.painting) for told in beside for one in told.offered or told.plan if one not in set(told.begun)
        ]
    for one, painting in rows:
        k, a, b = layout.place(one.task, painting), moment_of(one.begin), moment_of(one.end)
        if k >= 0 and k not in problem.done and a is not None and b is not None:
            before.setdefault(k, []).append((layout.minute(a), layout.minute(b)))
    if not before:
        plan, hand = at_once(problem)
        return Planned(layout, plan, hand)
    taken = {k: tuple(sorted(pieces)) for k, pieces in before.items()}
    kept, against = read_back(problem, taken)
    begins = {k: pieces[0][0] for k, pieces in taken.items()}
    if not against:
        return Planned(layout, kept, hand_of(problem, begins), taken=True, before=taken, searched=True, solved=True)
    was = {k: sitting for k, begin in begins.items() if (sitting := problem.sitting_of(begin)) is not None}
    bound = replace(problem, was=was)
    layout = replace(layout, problem=bound)
    found = replan(bound, begins, 0.0)
    return Planned(layout, found.plan, found.hand, before=taken, against=against).with_plan(found, searched=False)


@dataclass(frozen=True, slots=True, eq=False)
class Better:
    """Search for a better plan; each is handed on as it is found."""

    planned: Planned
    seconds: float = SEARCH_S

    def __call__(self, progress: Progress) -> Planned:
        """Return the best plan found. Raises `Cancelled`."""
        planned, problem = self.planned, self.planned.layout.problem

        def shown(plan: Plan) -> None:
            progress.hand_on(planned.with_plan(Found(plan, planned.hand), searched=False))

        def at(share: float) -> None:
            progress.at(share, "looking for a better plan")

        if planned.taken or not planned.plan.complete:
            # What was taken is not searched again: it is what the painter counts on.
            return planned
        if planned.before:
            begins = {k: pieces[0][0] for k, pieces in planned.before.items()}
            return planned.with_plan(replan(problem, begins, min(self.seconds, REPLAN_S), shown=shown, at=at))
        return planned.with_plan(search(problem, (planned.plan, planned.hand), self.seconds, shown=shown, at=at))


def why_words(planned: Planned) -> str:
    """Say why the plan that was taken no longer holds, and how much moved; empty where it does."""
    if not planned.against:
        return ""
    problem, diary = planned.layout.problem, planned.diary
    worst = planned.against[0].kind
    # Of what stands against it most, what comes first.
    first = min(
        (one for one in planned.against if one.kind == worst),
        key=lambda one: planned.before[one.task][0] if one.task in planned.before else (0, 0),
    )
    task = problem.tasks[first.task]
    what = task.words
    if first.kind == "missed":
        begin = planned.before[first.task][0][0]
        why = f"{diary.at(begin):%a %d %b} went by without {what}"
    elif first.kind == "early":
        relation = problem.relations[first.relation]
        other = next(one for one in problem.tasks if one.id == relation.before)
        why = f"{other.words} must come before {what}: {relation.why}"
        if relation.kind in ("touch_dry", "rest") and relation.low_h:
            place = next(k for k, one in enumerate(problem.tasks) if one.id == relation.before)
            ready = planned.plan.end(place) + math.ceil(relation.low_h * 60)
            dry = "dry" if relation.kind == "touch_dry" else "rested"
            why = f"{other.words} is {dry} only on {diary.at(ready):%a %d %b, %H:%M}"
    elif first.kind == "outside":
        why = f"the time of {what} is no longer free"
    elif first.kind == "held":
        why = f"{what} was put elsewhere"
    else:
        why = f"{what} takes other minutes, or is new"
    many = len(planned.before)
    return f"{why[:1].upper()}{why[1:]}. {_moved_words(planned.moved, many, planned.later)}"


def _moved_words(moved: int, many: int, later: int) -> str:
    if not moved:
        return "No task leaves its sitting."
    days = f"{abs(later)} day{'s' if abs(later) != 1 else ''}"
    way = f", most of them by {days} {'later' if later > 0 else 'sooner'}" if later else ""
    everything = moved > 0.8 * many and later > 0
    return f"Everything shifts by {days}." if everything else f"{moved} of {many} tasks moved{way}."
