"""When a date cannot be kept: which wishes collide, and the cheapest ways out, each with what it costs in days, money or look."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from itertools import combinations

from foxpath.core.days.calendar import Interval
from foxpath.core.days.search import at_once, search
from foxpath.core.days.studio import Days, day_of
from foxpath.core.reporting import Progress
from foxpath.derive.days.plan import HORIZONS, Layout, Planned, layout_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

MOST_QUESTIONS, MOST_TOGETHER = 40, 3
TRY_S, TRY_RUNS = 0.4, 12
EVENING = ("19:00", "21:00")
WEEKDAY_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
SHORT_REST, THIN, ALKYD, WARM = 7.0, 0.6, 0.2, 25.0
GLAZES = ("glaze", "veil")
FIRST_SAID = ("rest", "varnish", "alkyd", "evening")
"""Of wishes that collide, those a painter thinks of first."""
SAID = 4
Change = Callable[[Days], Days]


@dataclass(frozen=True, slots=True)
class Wish:
    """A wish that can be given up.

    Attributes
    ----------
    key : str
    wanted : str
        The wish, as in "30 days of rest before varnish".
    way : str
        What is done instead.
    cost : str
        In money, hours or look.
    price : int
        Rank of the cost; cheaper ways are tried first.
    change : callable
        Days to days without the wish; the same days where it was not wished for.
    """

    key: str
    wanted: str
    way: str
    cost: str
    price: int
    change: Change


@dataclass(frozen=True, slots=True)
class Way:
    """A way out.

    Attributes
    ----------
    keys : tuple of str
        The wishes that are given up.
    words, cost : str
    days : Days
        What is taken with it.
    sooner : int
        Days by which it is handed over sooner.
    done : datetime
        When it is handed over then.
    """

    keys: tuple[str, ...]
    words: str
    cost: str
    days: Days
    sooner: int
    done: datetime


@dataclass(frozen=True, slots=True)
class WaysOut:
    """What was found.

    Attributes
    ----------
    done : datetime or None
        When the plan at hand hands it over.
    collide : tuple of str
        The smallest set of wishes, found by leaving one out after another, that cannot be kept together.
    ways : tuple of Way
        Cheapest first.
    sure : bool
        No plan at all can keep the date: drying and rest alone take longer.
    """

    done: datetime | None
    collide: tuple[str, ...]
    ways: tuple[Way, ...]
    sure: bool


def wishes_of(project: Project, passes: Sequence[tuple[str, str]] = ()) -> tuple[Wish, ...]:
    """Return the wishes of a painting that can be given up, cheapest first.

    Parameters
    ----------
    project : Project
    passes : sequence of (key, name)
        Passes that can be dropped.
    """
    days = project.days
    found = [
        Wish("evening", "the free time of the week", f"one more evening: {_free_day(days)[1]}", "2 h a week", 1,
             lambda d: replace(d, week=_with_evening(d))),
        Wish("alkyd", "oil without alkyd", f"{ALKYD * 100:.0f} % alkyd", "a tube of medium, and edges set sooner", 2,
             lambda d: replace(d, alkyd=max(d.alkyd, ALKYD))),
        Wish("warm", f"a room of {days.celsius:g} °C{' in January' if days.seasons else ''}", f"room at {WARM:g} °C", "heating", 3,
             lambda d: replace(d, celsius=max(d.celsius, WARM), july_celsius=max(d.july_celsius, WARM) if d.seasons else d.july_celsius)),
        Wish("cold", f"no painting under {days.coldest:g} °C", "painting in the cold", "slow drying, stiff paint", 3,
             lambda d: replace(d, coldest=0.0)),
        Wish("thinner", "open doors for thinned paint", "lean paint without thinner", "a little medium in its place, less flow", 4,
             lambda d: replace(d, air_for="varnish" if d.air_from else d.air_for)),
        Wish("thin", "lights of full body", "thinner lights", "less relief in the lights", 4,
             lambda d: replace(d, film=min(d.film, THIN))),
        Wish("likely", "plans that hold in four of five cases", "likely drying times",
             "every other layer is met still wet: test by finger", 5, lambda d: replace(d, careful="likely")),
        Wish("rest", f"{days.rest_days:g} days of rest before varnish", f"rest of {SHORT_REST:g} days",
             "breathable varnish only, once a test says dry", 6,
             lambda d: replace(d, rest_days=min(d.rest_days, SHORT_REST))),
        *(Wish(f"drop {key}", f"the pass {name.lower()}", f"drop {name.lower()}", "its depth of colour is missing", 7,
               lambda d, key=key: replace(d, dropped=tuple(dict.fromkeys((*d.dropped, key)))))  # type: ignore[misc]
          for key, name in passes),
        Wish("acrylic", "oil from the ground on", "acrylic under the oil", "no wet blending in the under-layers", 8,
             lambda d: replace(d, acrylic_under=True)),
        Wish("varnish", "varnish before it is handed over", "unvarnished", "a visit to varnish it later", 9,
             lambda d: replace(d, varnish=False)),
    ]  # fmt: skip
    return tuple(one for one in found if one.change(days) != days)


def _free_day(days: Days) -> tuple[int, str]:
    """Return a weekday without free time, from Monday on; the one with the least where none is."""
    empty = [k for k, ranges in enumerate(days.week) if not ranges]
    at = empty[0] if empty else min(range(7), key=lambda k: len(days.week[k]))
    return at, WEEKDAY_NAMES[at]


def _with_evening(days: Days) -> tuple[tuple[tuple[str, str], ...], ...]:
    at, _ = _free_day(days)
    if EVENING in days.week[at]:
        return days.week
    return tuple((*ranges, EVENING) if k == at else ranges for k, ranges in enumerate(days.week))


def earliest(layout: Layout) -> float:
    """Return the minute before which no plan can be handed over: the longest way of work and waiting, pushed through the calendar.

    Infinite where the calendar ends before.
    """
    problem = layout.problem
    begins = sorted(problem.sittings)
    ends = [0.0] * len(problem.tasks)
    for i in problem.order:
        if i in problem.done:
            ends[i] = problem.done[i][-1][1]
            continue
        at = max([float(problem.start), *(ends[j] + problem.low[k] for j, k in problem.into[i])])
        left = float(problem.tasks[i].minutes)
        end = float("inf")
        for a, b in begins:
            if b <= at:
                continue
            room = b - max(a, at)
            if room >= left:
                end = max(a, at) + left
                break
            left -= room
        ends[i] = end
    return max((ends[i] for i in problem.due), default=max(ends, default=0.0))


@dataclass(frozen=True, slots=True, eq=False)
class _Asker:
    """Answers whether a painting can be handed over in time with other wishes."""

    results: Results
    project: Project
    now: datetime
    taken: Sequence[Interval]
    progress: Progress

    def layout(self, days: Days) -> Layout:
        # A date to be kept lies within the first horizon, or far beyond it.
        ends = days.ends()
        far = (ends - self.now).days + 2 if ends is not None else HORIZONS[0]
        return layout_of(
            self.results, [replace(self.project, days=days)], self.now, taken=self.taken,
            horizon=min(max(far, 30), HORIZONS[-1]), progress=self.progress,
        )  # fmt: skip

    def done(self, days: Days) -> datetime | None:
        """Return when it is handed over, where that keeps the date; None where no plan was found that does."""
        self.progress.at(0)
        layout = self.layout(days)
        due = max(layout.problem.due.values(), default=None)
        if due is None or earliest(layout) > due:
            return None
        first = at_once(layout.problem, TRY_RUNS)
        plan = first[0]
        if not plan.complete or layout.problem.late(plan) > 0:
            if not plan.complete:
                return None
            plan = search(layout.problem, first, TRY_S, at=lambda _: self.progress.at(0)).plan
        ends = [plan.end(k) for k in layout.problem.due]
        return layout.zero + timedelta(minutes=max(ends)) if max(ends) <= due else None


@dataclass(frozen=True, slots=True, eq=False)
class FindWays:
    """Find out which wishes collide with the date of a painting, and the cheapest ways out."""

    results: Results
    project: Project
    planned: Planned
    now: datetime
    taken: Sequence[Interval] = ()

    def __call__(self, progress: Progress) -> WaysOut:
        """Return what collides and the ways out. Raises `Cancelled`."""
        project, days = self.project, self.project.days
        asker = _Asker(self.results, project, self.now, self.taken, progress)
        at_hand = self.planned.diary.done(project.name)
        passes = [
            (key, next(task.act for task in self.planned.layout.works[0].tasks if task.id == one))
            for one, key in self.planned.layout.works[0].roles.items()
            if any(word in key for word in GLAZES)
        ]
        wishes = wishes_of(project, tuple(dict.fromkeys(passes)))
        ways, asked = [], 0
        won: list[set[str]] = []
        for together in _sets(wishes):
            keys = {one.key for one in together}
            if any(less <= keys for less in won):
                continue
            if asked >= MOST_QUESTIONS or (won and len(together) > min(len(w) for w in won) + 1):
                break
            asked += 1
            progress.at(min(asked / MOST_QUESTIONS, 0.9), "looking for ways out")
            changed = days
            for wish in together:
                changed = wish.change(changed)
            done = asker.done(changed)
            if done is None:
                continue
            won.append(keys)
            sooner = (at_hand - done).days if at_hand is not None else 0
            ways.append(_way(together, changed, sooner, done))
        if at_hand is not None and at_hand.date() != day_of(days.deadline):
            later = replace(days, deadline=at_hand.date().isoformat())
            ways.append(Way(("later",), f"handed over {at_hand:%a %d %b}", "another date", later, 0, at_hand))
        return WaysOut(
            at_hand, self._collide(asker, wishes, won), tuple(ways), earliest(asker.layout(days)) > _due(self)
        )

    def _collide(self, asker: _Asker, wishes: Sequence[Wish], won: Sequence[set[str]]) -> tuple[str, ...]:
        """Return a smallest set of wishes that collide, by leaving one out after another (a deletion filter)."""
        date = f"the date, {_date_words(self.project.days)}"
        if not won:
            return (date,)
        # What helps in no way out does not collide.
        kept = [one for one in wishes if any(one.key in keys for keys in won)]
        for wish in list(kept):
            less = [one for one in kept if one is not wish]
            # All but these are given up: does the date still fail?
            changed = self.project.days
            for one in wishes:
                if one not in less:
                    changed = one.change(changed)
            if asker.done(changed) is None:
                kept = less
        kept.sort(key=lambda one: FIRST_SAID.index(one.key) if one.key in FIRST_SAID else len(FIRST_SAID))
        return (date, *(one.wanted for one in kept))


def _due(ways: FindWays) -> float:
    return max(ways.planned.layout.problem.due.values(), default=float("inf"))


def _date_words(days: Days) -> str:
    day = day_of(days.deadline)
    return f"{day:%a %d %b}" if day is not None else "none"


def _sets(wishes: Sequence[Wish]) -> Iterator[tuple[Wish, ...]]:
    """Return sets of wishes by rising cost: singly first, then the cheapest pairs, then threes."""
    for size in range(1, MOST_TOGETHER + 1):
        yield from sorted(combinations(wishes, size), key=lambda some: sum(one.price for one in some))


def _way(together: Sequence[Wish], days: Days, sooner: int, done: datetime) -> Way:
    words = " + ".join(one.way for one in together)
    return Way(tuple(one.key for one in together), words, "; ".join(one.cost for one in together), days, sooner, done)


def _listed(wishes: Sequence[str]) -> str:
    if len(wishes) > SAID + 1:
        return f"{', '.join(wishes[:SAID])} and {len(wishes) - SAID} wishes more"
    return f"{', '.join(wishes[:-1])} and {wishes[-1]}"


def conflict_words(project: Project, found: WaysOut) -> str:
    """Say in one sentence why a date cannot be kept, and the cheapest way out."""
    when = f"{found.done:%Y-%m-%d}" if found.done is not None else "no day in sight"
    name = project.name
    if len(found.collide) > 1:
        why = f"{_listed(found.collide)} cannot all be kept"
    else:
        why = f"no way out that was tried keeps {found.collide[0]}"
    date = project.days.deadline
    way = next((one for one in found.ways if one.keys != ("later",)), None)
    out = (
        f"; the cheapest way out: {way.words} ({way.cost})" if way is not None else f"; it can be handed over on {when}"
    )
    return f"{name} cannot be handed over by {date} but on {when}: {why}{out}."
