"""A task, an answer to it, and what the answer was worth.

All places are pixels of the task's own picture. What is asked says with which gesture it is answered (`Ask`); the right answer is kept
apart (`Task.truth`), and nothing that is shown is made from it.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar, Literal

import numpy as np

from foxpath.core.arrays import Points, Rgb8
from foxpath.core.errors import InputError

Place = tuple[float, float]
Tone = Literal["you", "true", "plain"]


@dataclass(frozen=True, slots=True, eq=False)
class Mark:
    """Something laid over the picture: a tapering line root to tip, a ring, or words at a place.

    Attributes
    ----------
    kind : str
        "hair", "ring", "line" or "words".
    points : (N, 2) float64
    tone : str
        "you" the painter's, "true" what is right, "plain" neither.
    words : str
    radius : float
        Of a ring, or the width of a hair at its root (0 for a mark that only points), px.
    """

    kind: Literal["hair", "ring", "line", "words"]
    points: Points
    tone: Tone = "plain"
    words: str = ""
    radius: float = 0.0


def ring(at: Place, radius: float, tone: Tone = "plain", words: str = "") -> Mark:
    """Return a ring with words."""
    return Mark("ring", np.array([at], np.float64), tone, words, radius)


def hair(at: Place, degrees: float, length: float, tone: Tone, words: str = "") -> Mark:
    """Return a hair from its root."""
    a = np.radians(degrees)
    return Mark("hair", np.array([at, (at[0] + length * np.cos(a), at[1] + length * np.sin(a))]), tone, words)


def label(at: Place, text: str) -> Mark:
    """Return words in the middle of a place."""
    return Mark("words", np.array([at], np.float64), "plain", text)


def line(points: Any, tone: Tone = "plain", words: str = "") -> Mark:
    """Return a line with words."""
    return Mark("line", np.asarray(points, np.float64), tone, words)


@dataclass(frozen=True, slots=True)
class Way:
    """Draw a hair from a spot, root to tip; the answer is its direction, degrees."""

    kind: ClassVar[str] = "way"
    at: Place
    radius: float

    def chance(self, rng: np.random.Generator) -> float:
        """Return an answer at random."""
        return float(rng.uniform(-180, 180))

    def checked(self, answer: Any) -> float:
        """Return an answer as it is scored. Raises `InputError`."""
        return _number(answer, "a direction in degrees")


@dataclass(frozen=True, slots=True)
class Pick:
    """Choose one; the answer is its number from 0. Options with a place stand there on the picture."""

    kind: ClassVar[str] = "pick"
    options: tuple[str, ...]
    places: tuple[Place, ...] = ()
    radius: float = 0.0

    def chance(self, rng: np.random.Generator) -> int:
        """Return an answer at random."""
        return int(rng.integers(len(self.options)))

    def checked(self, answer: Any) -> int:
        """Return an answer as it is scored. Raises `InputError`."""
        number = _number(answer, "the number of an option")
        if number != int(number) or not 0 <= number < len(self.options):
            raise InputError(f"There is no option {number:g}.", f"Choose 0 to {len(self.options) - 1}.")
        return int(number)


@dataclass(frozen=True, slots=True)
class Spots:
    """Click so many places, in their order where it counts; the answer is a list of places."""

    kind: ClassVar[str] = "spots"
    count: int
    names: tuple[str, ...] = ()
    room: tuple[float, float, float, float] = (0.0, 0.0, 1.0, 1.0)
    radius: float = 8.0

    def chance(self, rng: np.random.Generator) -> tuple[Place, ...]:
        """Return an answer at random, within the room that is asked about."""
        x, y, w, h = self.room
        return tuple((float(x + w * rng.random()), float(y + h * rng.random())) for _ in range(self.count))

    def checked(self, answer: Any) -> tuple[Place, ...]:
        """Return an answer as it is scored: at most so many places. Raises `InputError`."""
        try:
            at = np.asarray(answer, np.float64).reshape(-1, 2)
        except (ValueError, TypeError):
            at = np.full((1, 2), np.nan)
        if not np.isfinite(at).all() or len(at) > self.count or np.abs(at).max(initial=0) > 1e6:
            raise InputError(f"That is no list of {self.count} places.", "Give [[x, y], ...] in pixels of the picture.")
        return tuple((float(x), float(y)) for x, y in at)


@dataclass(frozen=True, slots=True)
class Dial:
    """Set a value between two; the answer is a number."""

    kind: ClassVar[str] = "dial"
    low: float
    high: float
    step: float
    start: float
    unit: str
    greys: bool = False

    def chance(self, rng: np.random.Generator) -> float:
        """Return an answer at random."""
        return float(rng.uniform(self.low, self.high))

    def checked(self, answer: Any) -> float:
        """Return an answer as it is scored, held to its range. Raises `InputError`."""
        return min(max(_number(answer, f"a value in {self.unit}"), self.low), self.high)


@dataclass(frozen=True, slots=True)
class Sort:
    """Put every item into a group; the answer is a group's number from 0 for each item."""

    kind: ClassVar[str] = "sort"
    places: tuple[Place, ...]
    groups: tuple[str, ...]
    radius: float = 8.0

    def chance(self, rng: np.random.Generator) -> tuple[int, ...]:
        """Return an answer at random."""
        return tuple(int(v) for v in rng.integers(len(self.groups), size=len(self.places)))

    def checked(self, answer: Any) -> tuple[int, ...]:
        """Return an answer as it is scored. Raises `InputError`."""
        given = tuple(answer) if isinstance(answer, list | tuple) else ()
        numbers = [_number(one, "the number of a group") for one in given]
        if len(numbers) != len(self.places) or any(n != int(n) or not 0 <= n < len(self.groups) for n in numbers):
            raise InputError(
                f"That is no list of {len(self.places)} groups.",
                f"Give a number from 0 to {len(self.groups) - 1} each.",
            )
        return tuple(int(n) for n in numbers)


@dataclass(frozen=True, slots=True)
class Strokes:
    """Lay so many strokes of a wide brush; the answer is a list of lines."""

    kind: ClassVar[str] = "strokes"
    count: int
    width: float
    size: tuple[int, int]

    def chance(self, rng: np.random.Generator) -> tuple[tuple[Place, ...], ...]:
        """Return an answer at random."""
        made = []
        for _ in range(self.count):
            x, y = rng.uniform(0, self.size[0]), rng.uniform(0, self.size[1])
            a, length = rng.uniform(0, 2 * np.pi), rng.uniform(1, 4) * self.width
            made.append(((float(x), float(y)), (float(x + length * np.cos(a)), float(y + length * np.sin(a)))))
        return tuple(made)

    def checked(self, answer: Any) -> tuple[tuple[Place, ...], ...]:
        """Return an answer as it is scored: at most so many strokes. Raises `InputError`."""
        try:
            lines = [np.asarray(one, np.float64).reshape(-1, 2) for one in answer]
        except (ValueError, TypeError):
            lines = [np.full((1, 2), np.nan)]
        if len(lines) > self.count or any(
            not len(one) or not np.isfinite(one).all() or np.abs(one).max() > 1e6 for one in lines
        ):
            raise InputError(f"That is no list of {self.count} strokes.", "Give [[[x, y], ...], ...] in pixels.")
        return tuple(tuple((float(x), float(y)) for x, y in one) for one in lines)


Ask = Way | Pick | Spots | Dial | Sort | Strokes


def _number(value: Any, what: str) -> float:
    try:
        number = float(value)
    except (TypeError, ValueError, OverflowError):
        number = float("nan")
    if isinstance(value, bool) or not np.isfinite(number) or abs(number) > 1e6:
        raise InputError(f"That is not {what}.", "Give a number.")
    return number


@dataclass(frozen=True, slots=True, eq=False)
class Task:
    """A task.

    Attributes
    ----------
    drill : str
        Key of its drill.
    seed : int
    question : str
    ask : Ask
    picture : (H, W, 3) uint8 sRGB
    px_per_mm : float
        Of the picture, on the canvas.
    truth : mapping
        The right answer and what explains it: plain numbers, words and lists.
    size : float
        How large the difference is that is asked for, in the drill's unit; 0 where the answer itself is measured.
    on_scene : bool
        The picture lies on the scene, pixel on pixel; else it is a sheet of its own.
    plain : bool
        The picture is the scene's as it is.
    ring : (x, y, radius) or None
        What is to be looked at: around it the picture steps back.
    look : (x, y, radius) or None
        What comes into sight, where there is no ring; the whole picture without.
    shown : tuple of Mark
        What is laid over it before the answer.
    """

    drill: str
    seed: int
    question: str
    ask: Ask
    picture: Rgb8
    px_per_mm: float
    truth: Mapping[str, Any]
    size: float = 0.0
    on_scene: bool = True
    plain: bool = False
    ring: tuple[float, float, float] | None = None
    look: tuple[float, float, float] | None = None
    shown: tuple[Mark, ...] = ()


@dataclass(frozen=True, slots=True)
class Seen:
    """What one answer tells of a painter.

    Attributes
    ----------
    right : bool
    size : float
        The difference that was there to be seen, in the drill's unit; 0 where an error was measured.
    error : float
        How far off, in the drill's unit; 0 where right and wrong is all there is.
    choices : int
        Among how many it was chosen; 0 where an error was measured.
    """

    right: bool
    size: float = 0.0
    error: float = 0.0
    choices: int = 0


@dataclass(frozen=True, slots=True, eq=False)
class Score:
    """What an answer was worth.

    Attributes
    ----------
    share : float
        0 to 1.
    words : str
        In the painter's units, as it stands at the picture.
    why : str
        One sentence.
    seen : tuple of Seen
    marks : tuple of Mark
        The answer and what is right, over the picture.
    picture : (H, W, 3) uint8 sRGB or None
        In place of the task's, where the answer is one.
    """

    share: float
    words: str
    why: str
    seen: tuple[Seen, ...] = ()
    marks: tuple[Mark, ...] = field(default=())
    picture: Rgb8 | None = None
