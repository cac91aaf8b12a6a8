"""Answers over weeks: what a painter sees now, what has changed, what is being forgotten, and what to practise next.

Spacing follows half-life regression (Settles and Meeder, Proceedings of ACL 2016): what was practised is recalled with probability
``2^(-days / h)``, and the half-life h, in days, doubles with every sitting that held what was reached and halves with every one that did not.
"""

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from itertools import groupby

from foxpath.core.arrays import F64
from foxpath.core.practice.drill import Skill
from foxpath.core.practice.task import Seen
from foxpath.core.practice.threshold import REMEMBERED, Belief, Share, Threshold, log_likely, share_right
from foxpath.core.units import percent

FIRST_HALF_LIFE, LEAST_HALF_LIFE, MOST_HALF_LIFE = 2.0, 1.0, 64.0
DUE = 0.5
"""Recalled with less than this, a drill is due."""
COLUMNS = ("at", "drill", "seed", "right", "size", "error", "unit", "choices", "picture")


@dataclass(frozen=True, slots=True)
class Answered:
    """One judgement of an answer; a task with several items leaves several.

    Attributes
    ----------
    at : str
        ISO local minute.
    drill : str
        Key of the drill.
    seed : int
    right : bool
    size, error : float
        As in `Seen`, in the drill's unit.
    choices : int
    picture : str
        What it was made from, in words.
    """

    at: str
    drill: str
    seed: int
    right: bool
    size: float = 0.0
    error: float = 0.0
    choices: int = 0
    picture: str = ""

    @property
    def day(self) -> date:
        """The day."""
        return datetime.fromisoformat(self.at).date()

    @property
    def seen(self) -> Seen:
        """What it tells of the painter."""
        return Seen(self.right, self.size, self.error, self.choices)


def of_drill(answers: Sequence[Answered], key: str) -> list[Answered]:
    """Return the answers of a drill, earliest first."""
    return sorted((one for one in answers if one.drill == key), key=lambda one: one.at)


def level_of(drill: Skill, seen: Sequence[Seen], told: F64 | None = None) -> Threshold | Share:
    """Return what answers say of a painter at a drill: a threshold, or how often they are right; `told` as in `Belief`."""
    return share_right(seen) if drill.way == "right" else Belief(drill, seen, told).threshold()


def better_by(drill: Skill, before: Threshold | Share, now: Threshold | Share) -> float:
    """Return by which factor somebody has become better: over 1 is better."""
    if drill.way == "right":
        return now.value / max(before.value, 1e-6)
    return before.value / max(now.value, 1e-6)


def within(drill: Skill, before: Threshold | Share, now: Threshold | Share) -> bool:
    """Tell whether what was reached was held: no worse than the band it lay in."""
    return now.value >= before.low if drill.way == "right" else now.value <= before.high


@dataclass(frozen=True, slots=True)
class Day:
    """A day's standing at a drill: the level that all answers to then tell of, and how many were given on the day."""

    day: date
    level: Threshold | Share
    answers: int


@dataclass(frozen=True, slots=True)
class Standing:
    """A painter at a drill.

    Attributes
    ----------
    drill : str
    days : tuple of Day
        Earliest first.
    half_life : float
        Days after which half of it is forgotten.
    """

    drill: str
    days: tuple[Day, ...]
    half_life: float

    @property
    def level(self) -> Threshold | Share | None:
        """The level now; None before the first answer."""
        return self.days[-1].level if self.days else None

    def recalled(self, today: date) -> float:
        """Return how well it is still recalled, 0 to 1."""
        if not self.days:
            return 0.0
        return float(2 ** (-max((today - self.days[-1].day).days, 0) / self.half_life))

    def due(self, today: date) -> bool:
        """Tell whether it is time for it again."""
        return bool(self.days) and self.recalled(today) < DUE


def standing(drill: Skill, answers: Sequence[Answered]) -> Standing:
    """Return how a painter stands at a drill; `answers` may be of any drills."""
    mine = of_drill(answers, drill.key)
    days: list[Day] = []
    half_life = FIRST_HALF_LIFE
    seen = [one.seen for one in mine]
    # Worked out once for all days: each day weighs the same answers anew.
    told = log_likely(drill, seen) if drill.way != "right" else None
    end = 0
    for day, group in groupby(mine, key=lambda one: one.day):
        given = list(group)
        end += len(given)
        level = level_of(
            drill,
            seen[max(0, end - REMEMBERED) : end],
            told[max(0, end - REMEMBERED) : end] if told is not None else None,
        )
        if days:
            half_life *= 2 if within(drill, days[-1].level, level) else 0.5
            half_life = min(max(half_life, LEAST_HALF_LIFE), MOST_HALF_LIFE)
        days.append(Day(day, level, len(given)))
    return Standing(drill.key, tuple(days), half_life)


def level_words(drill: Skill, level: Threshold | Share | None) -> str:
    """Write a level in the drill's unit; "not yet" before it says something."""
    if level is None or level.answers < 3:
        return "not yet"
    if drill.way == "right":
        return f"{10 * level.value:.0f} of 10"
    return value_words(drill, level.value)


def value_words(drill: Skill, value: float) -> str:
    """Write a size or error in the drill's unit, e.g. "6.2 L*"."""
    if drill.unit == "times":
        return f"{100 * value:.0f} % over" if drill.way == "near" else f"×{value:.1f}"
    number = f"{value:.0f}" if value >= 10 else f"{value:.1f}"
    return f"{number}{'' if drill.unit == '°' else ' '}{drill.unit}"


def change_words(drill: Skill, one: Standing) -> str:
    """Say in a sentence what has changed since a month or the first day."""
    if not one.days:
        return "Not practised yet."
    last = one.days[-1]
    if len(one.days) < 2:
        return "One sitting so far: a second shows whether it holds."
    # Over a month first; where that says nothing, since the first day.
    month = next((day for day in reversed(one.days[:-1]) if (last.day - day.day).days >= 28), one.days[0])
    since = month if _apart(month.level, last.level) else one.days[0]
    factor = better_by(drill, since.level, last.level)
    when = f"since {since.day:%-d %b}"
    if not _apart(since.level, last.level):
        return f"No change that goes beyond the doubt {when}."
    if factor >= 2:
        return f"{factor:.1f} times as good {when}."
    return f"{percent(abs(1 - 1 / factor if factor > 1 else 1 / factor - 1))} {'better' if factor > 1 else 'worse'} {when}."


def _apart(before: Threshold | Share, now: Threshold | Share) -> bool:
    """Tell whether two levels differ by more than both their bands."""
    return now.high < before.low or now.low > before.high


@dataclass(frozen=True, slots=True)
class Advice:
    """A drill that is worth while now, and why; `strong` where an error of the painter's own asks for it."""

    drill: str
    why: str
    strong: bool = False


def advice(
    drills: Sequence[Skill], standings: Mapping[str, Standing], errors: Mapping[str, int], today: date, most: int = 3
) -> tuple[Advice, ...]:
    """Return what to practise next: own errors first, then what is being forgotten, then what was never tried.

    Parameters
    ----------
    drills : sequence of Skill
        Those that can be made.
    standings : mapping of key to Standing
    errors : mapping of kind to count
        As `core.progress` and the log tell them.
    today : date
    most : int
    """
    made: list[Advice] = []
    named: set[str] = set()

    def add(drill: Skill, why: str, *, strong: bool = False) -> None:
        if drill.key not in named:
            named.add(drill.key)
            made.append(Advice(drill.key, why, strong))

    for kind, count in sorted(errors.items(), key=lambda one: (-one[1], one[0])):
        # Of the drills that train against an error, the one least recalled, and not the one of this very day.
        fit = [d for d in drills if kind in d.mends and not _fresh(standings.get(d.key), today)]
        if fit and count > 0:
            drill = min(fit, key=lambda d: (_recalled(standings.get(d.key), today), -len(d.mends) == 0))
            times = "once" if count == 1 else f"{count} times"
            add(drill, f"{ERROR_WORDS.get(kind, kind)} was found {times}", strong=True)
    due = [d for d in drills if d.key in standings and standings[d.key].due(today)]
    for drill in sorted(due, key=lambda d: standings[d.key].recalled(today)):
        days = (today - standings[drill.key].days[-1].day).days
        add(drill, f"{days} days ago: half of it is being forgotten")
    for drill in drills:
        if not standings.get(drill.key) or not standings[drill.key].days:
            add(drill, "not tried yet")
    return tuple(made[:most])


ERROR_WORDS = {
    "value": "value off the plan", "warmth": "colour too warm or cool", "strength": "strength of colour off", "stroke": "a stroke that jumps out",
    "edge": "an edge off its grade", "place": "an eye out of place", "shape": "an eye out of shape", "catchlight": "a catchlight at another hour",
    "bare": "bare ground", "growth": "hair against its growth", "smooth": "a place rubbed smooth", "lights": "too many lights", "missing": "hairs forgotten",
}  # fmt: skip
"""Errors by the kinds that Progress tells them in."""


def _fresh(one: Standing | None, today: date) -> bool:
    return one is not None and bool(one.days) and one.days[-1].day == today


def _recalled(one: Standing | None, today: date) -> float:
    return one.recalled(today) if one is not None else 0.0


def as_csv(answers: Sequence[Answered], units: Mapping[str, str]) -> str:
    """Return every answer as rows of CSV, earliest first."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for one in sorted(answers, key=lambda a: a.at):
        writer.writerow(
            [
                one.at,
                one.drill,
                one.seed,
                int(one.right),
                f"{one.size:g}",
                f"{one.error:g}",
                units.get(one.drill, ""),
                one.choices,
                one.picture,
            ]
        )
    return out.getvalue()
