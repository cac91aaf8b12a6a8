"""What a log tells: sittings with their breaks, minutes of every step, what is left undone and why, what a part has been through."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from foxpath.core.log.entries import SAID, Entry, standing

CLOSES = ("done", "part", "skip")
"""What ends a step."""


@dataclass(frozen=True, slots=True)
class StepTime:
    """A step as it was painted: minutes without breaks, and how it ended ("" while it goes on)."""

    task: str
    step: str
    part: str
    act: str
    begin: datetime
    end: datetime
    minutes: float
    how: str


@dataclass(frozen=True, slots=True)
class SittingTold:
    """A sitting.

    Attributes
    ----------
    begin, end : datetime
        Local; `end` is the last word where it was never ended.
    open : bool
        It has not been ended.
    breaks : float
        Minutes.
    steps : tuple of StepTime
    entries : tuple of Entry
    """

    begin: datetime
    end: datetime
    open: bool
    breaks: float
    steps: tuple[StepTime, ...]
    entries: tuple[Entry, ...]

    @property
    def minutes(self) -> float:
        """Minutes at the easel, breaks not counted."""
        first, last = self.entries[0].moment, self.entries[-1].moment
        return (last - first).total_seconds() / 60 - self.breaks


@dataclass(frozen=True, slots=True)
class PartTold:
    """What a part has been through: sittings, minutes, how often it was restated, and what was said of it."""

    part: str
    sittings: int
    minutes: float
    restated: int
    said: Mapping[str, int]
    notes: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class CarriedOver:
    """Something left undone, and why: the first page of the next sitting."""

    task: str
    part: str
    act: str
    why: str
    at: datetime


@dataclass(slots=True)
class _Running:
    """A sitting while it is read."""

    entries: list[Entry] = field(default_factory=list)
    steps: list[StepTime] = field(default_factory=list)
    step: Entry | None = None
    paused: Entry | None = None
    breaks: float = 0.0
    in_step: float = 0.0


def sittings(entries: Sequence[Entry]) -> tuple[SittingTold, ...]:
    """Return the sittings, oldest first; one that was never ended is ended by the next."""
    made: list[SittingTold] = []
    now: _Running | None = None
    for one in standing(entries):
        if one.kind == "begin":
            if now is not None:
                made.append(_closed(now, still=True))
            now = _Running([one])
            continue
        if now is None:
            continue
        now.entries.append(one)
        _read(now, one)
        if one.kind == "end":
            made.append(_closed(now, still=False))
            now = None
    if now is not None:
        made.append(_closed(now, still=True))
    return tuple(made)


def _read(now: _Running, one: Entry) -> None:
    if one.kind == "pause" and now.paused is None:
        now.paused = one
    elif now.paused is not None and one.kind in ("resume", "step", "end", *CLOSES):
        # Whoever goes on without a word has come back.
        gone = (one.moment - now.paused.moment).total_seconds() / 60
        now.breaks += gone
        now.in_step += gone
        now.paused = None
    if one.kind in ("step", "end") or (one.kind in CLOSES and now.step is not None):
        if now.step is not None:
            _end_step(now, one, one.kind if one.kind in CLOSES else "")
        now.step, now.in_step = (one, 0.0) if one.kind == "step" else (None, 0.0)


def _end_step(now: _Running, one: Entry, how: str) -> None:
    begun = now.step
    assert begun is not None
    minutes = (one.moment - begun.moment).total_seconds() / 60 - now.in_step
    now.steps.append(
        StepTime(begun.task, begun.step, begun.part, begun.act, begun.local, one.local, max(minutes, 0.0), how)
    )


def _closed(now: _Running, *, still: bool) -> SittingTold:
    last = now.entries[-1]
    if still and now.step is not None:
        _end_step(now, last, "")
    return SittingTold(
        now.entries[0].local, last.local, still, now.breaks, tuple(now.steps), tuple(now.entries)
    )  # fmt: skip


def open_sitting(entries: Sequence[Entry]) -> SittingTold | None:
    """Return the sitting that goes on; None when there is none."""
    found = sittings(entries)
    return found[-1] if found and found[-1].open else None


def step_now(entries: Sequence[Entry]) -> Entry | None:
    """Return the step that was begun last and has not been ended; None for none, or when no sitting goes on."""
    last = None
    for one in standing(entries):
        if one.kind == "step":
            last = one
        elif one.kind in ("begin", "end") or (one.kind in CLOSES and last is not None and one.step == last.step):
            last = None
    return last


def paused(entries: Sequence[Entry]) -> bool:
    """Tell whether a break goes on."""
    for one in reversed(standing(entries)):
        if one.kind == "pause":
            return True
        if one.kind in ("resume", "step", "begin", "end", *CLOSES):
            return False
    return False


def ended(entries: Sequence[Entry]) -> dict[str, str]:
    """Return how each step ended last, by its key: done, part or skip."""
    return {one.step: one.kind for one in standing(entries) if one.kind in CLOSES and one.step}


def minutes_of(entries: Sequence[Entry]) -> dict[str, float]:
    """Return the minutes spent on each task."""
    found: dict[str, float] = {}
    for sitting in sittings(entries):
        for one in sitting.steps:
            found[one.task] = found.get(one.task, 0.0) + one.minutes
    return found


def parts(entries: Sequence[Entry]) -> tuple[PartTold, ...]:
    """Return what every part has been through, most minutes first."""
    names: dict[str, list[tuple[int, StepTime]]] = {}
    for number, sitting in enumerate(sittings(entries)):
        for one in sitting.steps:
            names.setdefault(one.part, []).append((number, one))
    words: dict[str, dict[str, int]] = {}
    notes: dict[str, list[str]] = {}
    for entry in standing(entries):
        if entry.kind in SAID and entry.part:
            mine = words.setdefault(entry.part, {})
            mine[entry.kind] = mine.get(entry.kind, 0) + 1
        if entry.kind in ("note", "undone") and entry.part and entry.text:
            notes.setdefault(entry.part, []).append(entry.text)
    made = []
    for part in dict.fromkeys((*names, *words, *notes)):
        steps = names.get(part, [])
        done: dict[str, int] = {}
        for _, one in steps:
            done[one.act] = done.get(one.act, 0) + (one.how == "done")
        made.append(
            PartTold(
                part, len({number for number, _ in steps}), sum(one.minutes for _, one in steps),
                sum(max(0, count - 1) for count in done.values()), words.get(part, {}), tuple(notes.get(part, ())),
            )
        )  # fmt: skip
    return tuple(sorted(made, key=lambda one: -one.minutes))


def carried_over(entries: Sequence[Entry]) -> tuple[CarriedOver, ...]:
    """Return what was left undone and has not been done since, oldest first."""
    left: dict[tuple[str, str], CarriedOver] = {}
    for one in standing(entries):
        key = (one.task, one.part)
        if one.kind == "done":
            left.pop(key, None)
        elif one.kind in ("skip", "part", "undone"):
            why = one.text or (
                left[key].why
                if key in left
                else {"skip": "left for later", "part": "not finished"}.get(one.kind, "no reason given")
            )
            left[key] = CarriedOver(one.task, one.part, one.act, why, one.local)
    return tuple(left.values())


def search(entries: Sequence[Entry], text: str) -> tuple[Entry, ...]:
    """Return the entries that stand and hold every word of a text, oldest first; all of them for none."""
    words = text.lower().split()
    from foxpath.core.log.entries import KINDS

    return tuple(
        one
        for one in standing(entries)
        if all(word in f"{KINDS[one.kind]} {one.part} {one.act} {one.text}".lower() for word in words)
    )
