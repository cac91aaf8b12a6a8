"""A plan of sittings as it is written down: `days.json`, and entries of a calendar."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from foxpath.core.days.calendar import Interval, Rule
from foxpath.core.days.ical import Event
from foxpath.core.days.problem import Plan, Problem
from foxpath.core.days.tasks import AFTER_PAINT, Task

FORMAT, VERSION = "foxpath-days", 1


@dataclass(frozen=True, slots=True, eq=False)
class Diary:
    """A plan with its calendar.

    Attributes
    ----------
    problem : Problem
    plan : Plan
    start : datetime
        Minute 0.
    free : sequence of (begin, end)
    rule : Rule
    deadlines : mapping of painting to datetime
    dropped : tuple of Task
        Left out for time's sake.
    """

    problem: Problem
    plan: Plan
    start: datetime
    free: Sequence[Interval]
    rule: Rule
    deadlines: dict[str, datetime]
    dropped: tuple[Task, ...] = ()

    def at(self, minutes: float) -> datetime:
        """Return the time of a minute."""
        return self.start + timedelta(minutes=round(minutes))

    def sittings(self) -> list[tuple[int, int, list[tuple[int, int, int]]]]:
        """Return the sittings in use: begin and end of work, and their pieces as (begin, end, task)."""
        made = []
        for a, b in self.problem.sittings:
            inside = sorted(
                (x, y, k) for k, pieces in enumerate(self.plan.pieces) for x, y in pieces if a <= x and y <= b
            )
            if inside:
                made.append((a, b, inside))
        return made

    def times(self) -> list[Interval]:
        """Return when the sittings to come begin and end, with set-up and clean-up; one that is under way began before."""
        made = []
        for a, b, _ in self.sittings():
            begin = self.at(a - self.rule.setup)
            if a == self.problem.start:
                # It is under way: what is left begins where the hand is, and the sitting began with its free time.
                begin = next((x for x, y in self.free if x <= self.at(a) < y), begin)
            made.append((begin, self.at(b + self.rule.cleanup)))
        return made

    def past(self) -> list[Interval]:
        """Return the sittings that are over: what is done, gathered, with set-up and clean-up."""
        made: list[Interval] = []
        for a, b in sorted(piece for pieces in self.problem.done.values() for piece in pieces):
            begin, end = self.at(a - self.rule.setup), self.at(b + self.rule.cleanup)
            if made and begin <= made[-1][1]:
                made[-1] = (made[-1][0], max(made[-1][1], end))
            else:
                made.append((begin, end))
        return made

    def done(self, painting: str) -> datetime | None:
        """Return when a painting is handed over; None where it found no room."""
        ends = [self.plan.end(k) for k, task in enumerate(self.problem.tasks) if task.painting == painting]
        last = max(ends, default=0.0)
        return self.at(last) if math.isfinite(last) else None

    def painted(self, painting: str) -> datetime | None:
        """Return when the last brush stroke of a painting is laid, varnish not counted; None where it found no room."""
        ends = [
            self.plan.end(k)
            for k, task in enumerate(self.problem.tasks)
            if task.painting == painting and task.kind not in AFTER_PAINT
        ]
        last = max(ends, default=0.0)
        return self.at(last) if math.isfinite(last) else None


def _joined(sittings: Sequence[Interval]) -> list[Interval]:
    """Return sittings of which those that overlap are one: what is left of an evening and what was painted in it."""
    made: list[Interval] = []
    for a, b in sorted(sittings):
        if made and a < made[-1][1]:
            made[-1] = (made[-1][0], max(b, made[-1][1]))
        else:
            made.append((a, b))
    return made


def _iso(moment: datetime) -> str:
    return moment.isoformat(timespec="minutes")


def diary_fields(diary: Diary) -> dict[str, Any]:
    """Return what `days.json` holds; times are local ISO, whole minutes."""
    problem, plan, rule = diary.problem, diary.plan, diary.rule
    used = diary.sittings()
    past = diary.past()
    last = max((diary.at(b) for _, b, _ in used), default=diary.start)
    free_days = {a.date() for a, _ in diary.free}
    days = range((last.date() - diary.start.date()).days + 1)
    rests = [day for k in days if (day := diary.start.date() + timedelta(days=k)) not in free_days]
    return {
        "format": FORMAT,
        "version": VERSION,
        "start": _iso(diary.start),
        # What was painted was free.
        "free": [[_iso(a), _iso(b)] for a, b in [*past, *(one for one in diary.free if one[0] <= last)]],
        "rest_days": [day.isoformat() for day in rests],
        "sitting": {
            "setup_min": rule.setup,
            "cleanup_min": rule.cleanup,
            "longest_min": rule.longest,
            "break_min": rule.pause,
            "chunk_min": rule.chunk,
        },
        "deadlines": {name: _iso(moment) for name, moment in diary.deadlines.items()},
        "sittings": [[_iso(a), _iso(b)] for a, b in _joined([*past, *diary.times()])],
        "tasks": [
            {
                "id": task.id,
                "painting": task.painting,
                "part": task.part,
                "pass": task.act,
                "kind": task.kind,
                "minutes": task.minutes,
                "pieces": [[_iso(diary.at(a)), _iso(diary.at(b))] for a, b in plan.pieces[k]],
                **({"done": True} if k in problem.done else {}),
            }
            for k, task in enumerate(problem.tasks)
        ]
        + [
            {
                "id": task.id,
                "painting": task.painting,
                "part": task.part,
                "pass": task.act,
                "kind": task.kind,
                "minutes": task.minutes,
                "pieces": [],
                "dropped": True,
            }
            for task in diary.dropped
        ],
        "relations": [
            {
                "from": one.before,
                "to": one.after,
                "kind": one.kind,
                "min_h": one.low_h,
                "max_h": one.high_h,
                "hard": one.high_h is None,
                "extra_min": one.extra_min,
                "lost": k in plan.lost,
                "why": one.why,
            }
            for k, one in enumerate(problem.relations)
        ],
    }


def diary_events(diary: Diary) -> list[Event]:
    """Return the sittings as entries of a calendar; each goes by what it begins with, so that a second import moves it."""
    made, seen = [], set()
    for (begin, end), (_, _, pieces) in zip(diary.times(), diary.sittings(), strict=True):
        tasks = [diary.problem.tasks[k] for _, _, k in pieces]
        first = tasks[0].id
        number = 1
        while (first, number) in seen:
            number += 1
        seen.add((first, number))
        words = "\n".join(
            f"{diary.at(x):%H:%M} {diary.problem.tasks[k].act}: {diary.problem.tasks[k].part}" for x, _, k in pieces
        )
        uid = f"{_plain(first)}-{number}@foxpath"
        made.append(Event(uid, begin, end, _title(tasks), words))
    return made


def _plain(text: str) -> str:
    return "".join(c if c.isascii() and c.isalnum() else "-" for c in text)


def _title(tasks: Sequence[Task]) -> str:
    acts = list(dict.fromkeys(task.act for task in tasks))
    names = list(dict.fromkeys(task.painting for task in tasks))
    said = ", ".join(acts[:3]) + (f" and {len(acts) - 3} more" if len(acts) > 3 else "")
    return f"{' and '.join(names)}: {said}"
