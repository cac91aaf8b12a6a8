"""Timers: what is open, tacky, drawing or due, by the moments at which it was laid. They are computed, not run: nothing is lost when the program is closed."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from foxpath.core.days.tasks import Relation, Task

QUICK_H = 3.0
"""Paint that is dry within so many hours is waited for in the same sitting."""


@dataclass(frozen=True, slots=True)
class Timer:
    """Something that runs.

    Attributes
    ----------
    kind : str
        open, edge, tacky, mixed, dry, step or end.
    words : str
        What runs, e.g. "background stays open".
    begin, due : datetime
        Universal time, or both local.
    early : datetime or None
        Before it the wait goes on: paint is not tacky, or not dry yet. None where there is nothing to wait for.
    task : str
        Id of what is to be done in it; empty where it is about no task.
    """

    kind: str
    words: str
    begin: datetime
    due: datetime
    early: datetime | None = None
    task: str = ""

    def left(self, now: datetime) -> float:
        """Return the minutes that are left, negative when it is over: until the window opens while it has not, else until it closes."""
        until = self.early if self.early is not None and now < self.early else self.due
        return (until - now).total_seconds() / 60

    def waits(self, now: datetime) -> bool:
        """Tell whether its window has not opened yet."""
        return self.early is not None and now < self.early

    def share(self, now: datetime) -> float:
        """Return how much of it is left, 0 to 1."""
        begin, until = (
            (self.begin, self.early)
            if self.early is not None and now < self.early
            else (self.early or self.begin, self.due)
        )
        whole = (until - begin).total_seconds()
        return min(max((until - now).total_seconds() / whole, 0.0), 1.0) if whole > 0 else 0.0


def windows(
    tasks: Sequence[Task],
    relations: Sequence[Relation],
    begun: Mapping[str, datetime],
    ended: Mapping[str, datetime],
    now: datetime,
) -> tuple[Timer, ...]:
    """Return the windows between what was laid and what is still to follow, the one that closes first in front.

    Parameters
    ----------
    tasks, relations : sequences
    begun, ended : mapping of task id to datetime
        When each was last begun, and finished.
    now : datetime
    """
    named = {task.id: task for task in tasks}
    made: list[Timer] = []
    for one in relations:
        if one.before not in begun or one.after in ended or one.after not in named:
            continue
        before = named[one.before]
        end = ended.get(one.before)
        early = end + timedelta(hours=one.low_h) if end is not None and one.low_h > 0 else None
        if one.high_h is not None:
            due = begun[one.before] + timedelta(hours=one.high_h)
            kind = {"while_open": "edge", "tacky": "tacky", "mixed": "mixed"}.get(one.kind, "edge")
            words = {
                "edge": f"open: {before.part}",
                "tacky": f"tacky: {before.part}",
                "mixed": "the piles are soft" if not one.low_h else "oil is drawn out",
            }[kind]
            made.append(Timer(kind, words, begun[one.before], due, early, one.after))
        elif one.kind == "touch_dry" and one.low_h <= QUICK_H and early is not None and early > now:
            made.append(Timer("dry", f"dry: {before.part}", end or now, early, early, one.after))
    first: dict[tuple[str, str], Timer] = {}
    for timer in sorted(made, key=lambda timer: timer.due):
        first.setdefault((timer.kind, timer.task), timer)
    return tuple(sorted(first.values(), key=lambda timer: timer.due))
