"""A drill under way: its next task from what is known of the painter, an answer's worth, and what to practise next."""

import zlib
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime

from foxpath.core.errors import InputError
from foxpath.core.log.entries import standing as log_standing
from foxpath.core.practice.drill import Drill, Skill, made, scored
from foxpath.core.practice.drills import DRILLS, drill_called
from foxpath.core.practice.paper import PAPER
from foxpath.core.practice.task import Pick, Score, Sort, Task
from foxpath.core.practice.threshold import Belief
from foxpath.core.practice.weeks import Advice, Answered, Standing, advice, of_drill, standing
from foxpath.core.progress.touches import OWN
from foxpath.core.reporting import Progress
from foxpath.derive.practice.paper import SheetRead
from foxpath.derive.practice.scenes import scene_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

BY_WORD = {
    "dark": "value",
    "light": "value",
    "warm": "warmth",
    "cool": "warmth",
    "jumps": "stroke",
    "smeared": "smooth",
}
"""Errors by the words of the log."""
MOST_SEED = 2**31
SKILLS: tuple[Skill, ...] = (*DRILLS, *PAPER)
"""All that is practised, on the screen and on paper."""


def skill_called(key: str) -> Skill:
    """Return a skill by its key. Raises `InputError` when there is none."""
    found = next((one for one in SKILLS if one.key == key), None)
    if found is None:
        raise InputError(f"There is no drill “{key}”.", f"Choose one of: {', '.join(one.key for one in SKILLS)}.")
    return found


def seed_for(drill: str, source: str, begun: datetime, number: int) -> int:
    """Return the seed of a task: another one for every task of every sitting."""
    return zlib.crc32(f"{drill} {source} {begun.isoformat()} {number}".encode()) % MOST_SEED


def size_for(drill: Drill, answers: Sequence[Answered], choices: int) -> float:
    """Return the size to ask for next; 0 where the answer itself is measured."""
    if drill.way != "seen":
        return 0.0
    return Belief(drill, [one.seen for one in of_drill(answers, drill.key)]).next_size(choices)


def choices_of(task: Task) -> int:
    """Return among how many each judgement of a task is made."""
    if isinstance(task.ask, Pick):
        return len(task.ask.options)
    return len(task.ask.groups) if isinstance(task.ask, Sort) else 0


@dataclass(frozen=True, slots=True, eq=False)
class MakeTask:
    """Make a task beside the window.

    Attributes
    ----------
    results : Results
    project : Project or None
    source : str
        Key of a `scenes.Source`.
    drill : str
    seed : int
    size : float
        As in `core.practice.drill.made`.
    """

    results: Results
    project: Project | None
    source: str
    drill: str
    seed: int
    size: float = 0.0

    def __call__(self, progress: Progress) -> Task:
        """Return the task. Raises `InputError` when this picture has nothing to ask, `Cancelled`."""
        drill = drill_called(self.drill)
        scene = scene_of(self.results, self.project, self.source, drill.needs, progress.part(0, 0.8))
        progress.at(0.8, "looking for something to ask")
        return made(drill, scene, self.seed, self.size)


@dataclass(frozen=True, slots=True, eq=False)
class ScoreTask:
    """Score an answer beside the window."""

    task: Task
    answer: object

    def __call__(self, progress: Progress) -> Score:
        """Return its score. Raises `InputError`."""
        progress.at(0)
        return scored(drill_called(self.task.drill), self.task, self.answer)


def answered(task: Task, score: Score, moment: datetime, picture: str) -> tuple[Answered, ...]:
    """Return what an answer leaves to be remembered."""
    at = moment.isoformat(timespec="minutes")
    return tuple(
        Answered(
            at,
            task.drill,
            task.seed,
            bool(one.right),
            round(float(one.size), 4),
            round(float(one.error), 4),
            one.choices,
            picture,
        )
        for one in score.seen
    )


def sheet_answered(read: SheetRead, moment: datetime, picture: str) -> tuple[Answered, ...]:
    """Return what a measured sheet leaves to be remembered."""
    at = moment.isoformat(timespec="minutes")
    return tuple(
        Answered(at, read.drill, read.seed, one.right, 0.0, round(one.error, 4), 0, picture) for one in read.measured
    )


def errors_in(project: Project | None) -> dict[str, int]:
    """Return what Progress and the log found in a painting, by the kinds of `core.progress`."""
    if project is None:
        return {}
    found: Counter[str] = Counter(
        one.kind for one in project.touches if one.kind != OWN and one.word in ("todo", "done")
    )
    found.update(BY_WORD[one.kind] for one in log_standing(project.told) if one.kind in BY_WORD)
    return dict(found)


def standings_of(answers: Sequence[Answered]) -> dict[str, Standing]:
    """Return how the painter stands at every drill that was ever answered, by its key."""
    keys = {one.drill for one in answers}
    return {skill.key: standing(skill, answers) for skill in SKILLS if skill.key in keys}


@dataclass(frozen=True, slots=True, eq=False)
class Weeks:
    """What the answers of weeks tell: how the painter stands at every drill, and what is worth while now."""

    answers: tuple[Answered, ...]
    standings: dict[str, Standing]
    advice: tuple[Advice, ...]


def read_weeks(answers: tuple[Answered, ...], project: Project | None, today: date) -> Weeks:
    """Return what the answers of weeks tell."""
    standings = standings_of(answers)
    return Weeks(answers, standings, advice(SKILLS, standings, errors_in(project), today))


@dataclass(frozen=True, slots=True, eq=False)
class ReadWeeks:
    """Read the answers of weeks beside the window."""

    project: Project | None
    today: date

    def __call__(self, progress: Progress) -> Weeks:
        """Return what they tell. Raises `AppError` when their file is damaged."""
        from foxpath.document.practice import answers

        progress.at(0)
        return read_weeks(answers(), self.project, self.today)
