"""What the Days stop shows: the plan at once; and what is asked beside the window: a better one, how sure it is, the ways out."""

import math
import time
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta

from foxpath.core.clock import now
from foxpath.core.days import exact
from foxpath.core.days.belief import Belief
from foxpath.core.days.calendar import Interval
from foxpath.core.days.drying import Times
from foxpath.core.days.forecast import Forecast, forecast
from foxpath.core.days.studio import Days, cold_days, day_of, moment_of
from foxpath.core.days.told import Told
from foxpath.core.findings import Finding
from foxpath.core.passes.pace import Pace
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words
from foxpath.derive.days.plan import SEARCH_S, Better, Planned, plan_of
from foxpath.derive.days.sitting import Sitting, sittings_of
from foxpath.derive.days.strands import Strand, strand_of, strands_of
from foxpath.derive.days.tasks import belief_of
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.results import Results
from foxpath.document.calendars import other_sittings
from foxpath.document.model import Project
from foxpath.document.works import other_works, work_told

COLD_C, Z90 = 12.0, 1.2816
HANDED = "hand-over"
"""Key of the task after which no date is missed any more."""
BETWEEN_S, TRY_S = 0.4, 1.0
"""Seconds between two better plans that are shown, and that a way out is searched for."""


@dataclass(frozen=True, slots=True, eq=False)
class PileTime:
    """What is known of a pile's drying.

    Attributes
    ----------
    pile, name : str
    days : float
        Median to touch-dry of its usual film, days.
    typical : float
        The same without notes.
    notes : int
    times : Times
        Of that film, with what was learned.
    """

    pile: str
    name: str
    days: float
    typical: float
    notes: int
    times: Times

    def states(self) -> tuple[tuple[str, float, float, float], ...]:
        """Return its states, each with the hours after which it ends in one of ten cases, in half, and in nine of ten."""
        t = self.times
        named = (
            ("open", t.open),
            ("soft", t.soft),
            ("touch-dry", t.touch),
            ("through-dry", t.through),
            ("cured", t.cured),
        )
        return tuple((name, t.early(hours, Z90), hours, t.late(hours, Z90)) for name, hours in named)


@dataclass(frozen=True, slots=True)
class Past:
    """A day on which was painted, and the passes of it."""

    day: date
    roles: tuple[str, ...]
    words: tuple[str, ...]


@dataclass(frozen=True, slots=True, eq=False)
class DaysClose:
    """What the stop shows.

    Attributes
    ----------
    planned : Planned or None
        None before it was read.
    sittings : tuple of Sitting
    past : tuple of Past
        Days on which was painted.
    strands, own : tuple of Strand
        Of a few areas together, and of each part.
    piles : tuple of PileTime
        Slowest first.
    studio : float
        Times the typical drying, as learned of the studio.
    noted : int
        Notes it was learned from.
    taken : dict of painting to sittings
        Of other paintings, those apart that are planned together with this one.
    now : datetime or None
    findings : tuple of Finding
    others : tuple of Told
        All other paintings whose work is known.
    by : str or None
        The painting beside which the plan that is shown was laid and offered.
    offered : Days or None
        The decisions with that plan.
    """

    planned: Planned | None = None
    sittings: tuple[Sitting, ...] = ()
    past: tuple[Past, ...] = ()
    strands: tuple[Strand, ...] = ()
    own: tuple[Strand, ...] = ()
    piles: tuple[PileTime, ...] = ()
    studio: float = 1.0
    noted: int = 0
    taken: dict[str, list[Interval]] = field(default_factory=dict)
    now: datetime | None = None
    findings: tuple[Finding, ...] = ()
    others: tuple[Told, ...] = ()
    by: str | None = None
    offered: Days | None = None

    def seen(self, project: Project) -> Project:
        """Return the painting as the plan that is shown takes it."""
        return project if self.offered is None else replace(project, days=self.offered)


def close_days(results: Results, project: Project, progress: Progress = SILENT) -> DaysClose:
    """Return what the stop shows. Raises `Cancelled`."""
    moment = now()
    others = other_works(project.name)
    mine = work_told(project.name)
    by = mine.by or None if mine is not None and mine.offered != project.days.plan else None
    shown = project
    if mine is not None and by:
        shown = replace(project, days=replace(project.days, plan=mine.offered, together=mine.group))
    beside = [one for one in others if one.painting in shown.days.together]
    names = {one.painting for one in beside}
    taken = {name: times for name, times in other_sittings(project.name, moment).items() if name not in names}
    busy = [one for times in taken.values() for one in times]
    planned = plan_of(results, [shown], moment, taken=busy, beside=beside, progress=progress)
    return replace(
        shown_of(results, shown, planned, taken, moment), others=others, by=by, offered=shown.days if by else None
    )


def shown_of(
    results: Results, project: Project, planned: Planned, taken: dict[str, list[Interval]], moment: datetime
) -> DaysClose:
    """Return what is shown of a plan."""
    belief = belief_of(project.days)
    sittings = sittings_of(results, project, planned)
    layout, plan = planned.layout, planned.plan
    strands = strands_of(project, facts_of(results, project), layout, plan)
    own = tuple(strand_of(layout, plan, one.name, (k,)) for k, one in enumerate(project.back_to_front()))
    studio, _ = belief.factor("")
    count = len(project.days.notes) + len(project.days.earlier)
    return DaysClose(
        planned, sittings, past_of(project, planned), strands, own, _piles(planned, belief), math.exp(studio) if count else 1.0, count, taken, moment,
        tuple(plan_findings(project, planned)),
    )  # fmt: skip


def past_of(project: Project, planned: Planned) -> tuple[Past, ...]:
    """Return the days on which was painted, oldest first."""
    layout, work = planned.layout, planned.layout.works[0]
    found: dict[date, list[int]] = {}
    for one in (*project.days.done, *project.days.begun):
        k, begin = layout.place(one.task), moment_of(one.begin)
        if k >= 0 and begin is not None:
            found.setdefault(begin.date(), []).append(k)
    tasks = layout.problem.tasks
    return tuple(
        Past(
            day,
            tuple(dict.fromkeys(role for k in places if (role := work.roles.get(tasks[k].id, "")))),
            tuple(dict.fromkeys(tasks[k].words for k in places)),
        )
        for day, places in sorted(found.items())
    )


def _piles(planned: Planned, belief: Belief) -> tuple[PileTime, ...]:
    slowest: dict[str, PileTime] = {}
    for layer in planned.layout.works[0].layers.values():
        if not layer.pile:
            continue
        made = PileTime(
            layer.pile, layer.name, layer.times.touch / 24, layer.typical_h / 24, belief.notes.get(layer.pile, 0),
            layer.times,
        )  # fmt: skip
        if layer.pile not in slowest or slowest[layer.pile].days < made.days:
            slowest[layer.pile] = made
    return tuple(sorted(slowest.values(), key=lambda one: -one.days))


@dataclass(frozen=True, slots=True)
class DaysFar:
    """The stop's line in the trail: when there is painted next, that nothing is planned, or that a sitting is over and nobody said what became of it."""

    words: str


def read_days(results: Results, project: Project, progress: Progress) -> DaysFar:
    """Return what is said of the days from afar; it waits for no plan."""
    days = project.days
    if not days.plan:
        return DaysFar("no plan taken yet")
    moment = now().isoformat(timespec="minutes")
    coming = sorted(one.begin for one in days.left if one.end > moment)
    if coming:
        return DaysFar(f"next: {datetime.fromisoformat(coming[0]):%a %d %b}")
    return DaysFar("what was painted?" if days.left else "all painted")


def days_findings(results: Results, project: Project, progress: Progress) -> list[Finding]:
    """Find what stands in the decisions themselves; what follows from a plan is found where it is made."""
    days, found = project.days, []
    if not any(days.week) and not any(one.ranges for one in days.others):
        found.append(
            Finding("must", "No time is free.", "pull a hair of your week: a sitting needs 50 minutes", "days")
        )
    # A painting that is finished, or handed over, misses no date any more.
    over = bool(days.plan and not days.left) or any(one.task == HANDED for one in days.done)
    end = None if over else day_of(days.deadline)
    if end is not None and end < now().date():
        found.append(
            Finding("must", f"The date {end:%a %d %b %Y} is over.", "give a later one, or take it away", "days")
        )
    elif end is not None and days.plan:
        last = max(one.end for one in days.plan)
        if last[:10] > days.deadline:
            found.append(
                Finding(
                    "must",
                    f"It is handed over on {datetime.fromisoformat(last):%a %d %b}, {_late(last, end)} late.",
                    f"the date is {end:%a %d %b} · look at the ways out",
                    "days",
                )
            )  # fmt: skip
    warmth = min(days.celsius, days.july_celsius) if days.seasons else days.celsius
    if warmth < COLD_C:
        month = "" if not days.seasons else " in January" if days.celsius <= days.july_celsius else " in July"
        found.append(
            Finding(
                "look", f"The room is cold{month}.", f"{warmth:g} °C · oil hardly dries under {COLD_C:g} °C: warm it", "days"
            )
        )  # fmt: skip
    stretch = cold_days(days, now().date())
    if stretch is not None and (stretch[1] - stretch[0]).days >= 365:
        found.append(too_cold_finding(days))
    return found


def too_cold_finding(days: Days) -> Finding:
    """Say that no day is warm enough to paint in; told once, whether the decisions or the plan are asked."""
    words = f"{days.coldest:g} °C are asked for · warm the room, or paint in the cold"
    return Finding("must", "The room is too cold all year.", words, "days", "room")


def _late(last: str, end: object) -> str:
    gap = datetime.fromisoformat(last).date() - end  # type: ignore[operator]
    return count_words(gap.days, "day")


def plan_findings(project: Project, planned: Planned) -> list[Finding]:
    """Find what is to be looked at in a plan: no room for it, a date missed, holds that cannot be obeyed, lost wet windows, rings."""
    problem, diary, found = planned.layout.problem, planned.diary, []
    if not planned.plan.complete:
        words = "pull a hair of your week: a sitting needs 50 minutes at least"
        what = "No time is free." if not problem.sittings else "The free time of three years does not hold it."
        if planned.layout.days.coldest > 0 and not planned.layout.free:
            return [too_cold_finding(planned.layout.days)]
        return [Finding("must", what, words, "days", "room")]
    end = planned.layout.ends.get(project.name)
    done = diary.done(project.name)
    if end is not None and done is not None and done >= end:
        day = end - timedelta(minutes=1)
        late = (done.date() - day.date()).days
        found.append(
            Finding(
                "must", f"Handed over {count_words(late, 'day')} late.",
                f"{done:%a %d %b} against {day:%a %d %b} · ways out below", "days", "late",
            )
        )  # fmt: skip
    for k in problem.broken(planned.plan)[:2]:
        task = problem.tasks[k]
        begin = diary.at(planned.plan.pieces[k][0][0])
        found.append(
            Finding(
                "look", f"{task.act} of {task.part} cannot be held.", f"it fits first on {begin:%a %d %b, %H:%M}", "days", task.id
            )
        )  # fmt: skip
    if planned.plan.lost:
        minutes = sum(problem.relations[k].extra_min for k in planned.plan.lost)
        first = problem.relations[min(planned.plan.lost)]
        place, task = next((k, one) for k, one in enumerate(problem.tasks) if one.id == first.after)
        part = task.part if planned.layout.own(place) else f"{task.part} of {task.painting}"
        found.append(
            Finding(
                "look", f"{count_words(len(planned.plan.lost), 'wet edge')} cannot be kept.",
                f"{minutes} min to restate, first at {part} · a longer sitting keeps more", "days", "lost",
            )
        )  # fmt: skip
    if not exact.installed():
        found.append(
            Finding(
                "note",
                "A better search is missing.",
                "OR-Tools is not installed · plans are a little longer",
                "days",
                "solver",
            )
        )
    return found


def spread_sd(planned: Planned) -> dict[str, float]:
    """Return the standard deviations of the logarithm of drying times, by kind of relation: smaller where notes taught them."""
    layers = [layer for work in planned.layout.works for layer in work.layers.values()]
    mean = sum(one.times.sd for one in layers) / len(layers) if layers else 0.4
    return dict.fromkeys(("touch_dry", "while_open", "tacky"), mean)


@dataclass(frozen=True, slots=True, eq=False)
class AskForecast:
    """Ask how sure the dates of a plan are."""

    planned: Planned
    pace: Pace
    samples: int = 160

    def __call__(self, progress: Progress) -> Forecast:
        """Return the forecast. Raises `Cancelled`."""
        planned = self.planned
        return forecast(
            planned.layout.problem, planned.hand, spread_sd(planned), samples=self.samples, pace_sd=self.pace.doubt,
            at=lambda share: progress.at(share, "drawing what may happen"), z=planned.layout.days.z,
        )  # fmt: skip


@dataclass(frozen=True, slots=True, eq=False)
class AskBetter:
    """Search for a better plan than the one that is shown; each that is found is handed on as it is shown."""

    results: Results
    project: Project
    close: DaysClose
    seconds: float = SEARCH_S

    def __call__(self, progress: Progress) -> DaysClose:
        """Return what is shown of the best plan found. Raises `Cancelled`."""
        close, last = self.close, [time.perf_counter()]
        assert close.planned is not None
        assert close.now is not None
        moment = close.now

        def shown(planned: Planned) -> DaysClose:
            made = shown_of(self.results, close.seen(self.project), planned, close.taken, moment)
            return replace(made, others=close.others, by=close.by, offered=close.offered)

        def hand_on(value: object) -> None:
            # Not oftener than an eye can follow.
            if isinstance(value, Planned) and time.perf_counter() - last[0] > BETWEEN_S:
                last[0] = time.perf_counter()
                progress.hand_on(shown(value))

        inner = Progress(progress.at, progress.is_cancelled, hand_on)
        return shown(Better(close.planned, self.seconds)(inner))


@dataclass(frozen=True, slots=True, eq=False)
class AskDays:
    """Ask what would be shown with other decisions: a way out that is tried."""

    results: Results
    project: Project
    days: Days
    taken: dict[str, list[Interval]]
    beside: Sequence[Told] = ()

    def __call__(self, progress: Progress) -> DaysClose:
        """Return what would be shown. Raises `Cancelled`."""
        tried = replace(self.project, days=replace(self.days, plan=(), holds=()))
        moment = now()
        others = [one for mine in self.taken.values() for one in mine]
        planned = plan_of(self.results, [tried], moment, taken=others, beside=self.beside, progress=progress)
        planned = Better(planned, TRY_S)(progress)
        return shown_of(self.results, tried, planned, self.taken, moment)
