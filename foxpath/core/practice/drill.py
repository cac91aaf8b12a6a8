"""What every drill has in common."""

import zlib
from abc import ABC, abstractmethod
from dataclasses import replace
from typing import Any, ClassVar, Literal

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.practice.scene import Scene
from foxpath.core.practice.task import Score, Task

Need = Literal["growth", "edges", "eyes", "paint", "planned"]
Way = Literal["near", "seen", "right"]
TRIES = 30
ELSE = (1.0, 1.35, 0.74, 2.0, 0.5)
"""Sizes that are tried one after the other, as multiples of the one that was asked for."""


class Skill:
    """Something a painter gets better at: what it is called, and in which unit that is measured.

    Class attributes
    ----------------
    key, title, question : str
    unit : str
        Of its threshold.
    way : str
        "near": how far off the answer lies; "seen": how small a difference is still told; "right": right and wrong is all there is.
    range : (least, most)
        Of the threshold, in `unit`.
    usual : float
        Where a painter begins, before anything is known.
    count, minutes : int
        Tasks of a sitting, and how long it takes.
    needs : set of str
        What a scene must know.
    mirrors : bool
        The task may be looked at mirrored or upside down; one whose answer hangs on up and down, or is read, may not.
    colours : bool
        It is judged by colour: a screen that is not calibrated shows it only nearly.
    compares : bool
        The reference may be looked at beside it.
    mends : tuple of str
        Errors it trains against, by the kinds `core.progress` tells them in.
    """

    key: ClassVar[str]
    title: ClassVar[str]
    unit: ClassVar[str]
    way: ClassVar[Way]
    range: ClassVar[tuple[float, float]]
    usual: ClassVar[float]
    count: ClassVar[int]
    minutes: ClassVar[int]
    needs: ClassVar[frozenset[Need]] = frozenset()
    mirrors: ClassVar[bool] = True
    colours: ClassVar[bool] = False
    compares: ClassVar[bool] = False
    mends: ClassVar[tuple[str, ...]] = ()
    lacks: ClassVar[str] = "Choose another picture."


class Drill(Skill, ABC):
    """Makes tasks, and scores answers to them."""

    @abstractmethod
    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        """Return a task of about a size, or None when this try found nothing that can be asked for sure."""

    @abstractmethod
    def score(self, task: Task, answer: Any) -> Score:
        """Return what an answer that was checked is worth."""

    @abstractmethod
    def ideal(self, task: Task) -> Any:
        """Return the right answer, as a painter would give it."""


def made(drill: Drill, scene: Scene, seed: int, size: float = 0.0) -> Task:
    """Return the task of a seed: the same scene, seed and size give the same one.

    Parameters
    ----------
    drill : Drill
    scene : Scene
    seed : int
        0 or more.
    size : float
        How large the difference shall be, in the drill's unit; 0 for what is usual.

    Raises
    ------
    InputError
        When this picture has nothing that could be asked for sure.
    """
    low, high = drill.range
    asked = min(max(size if size > 0 else drill.usual, low), high)
    # A picture that has nothing of the size that was asked for is asked for the next one to it.
    for number in range(TRIES * (len(ELSE) if drill.way == "seen" else 2)):
        wanted = min(max(asked * ELSE[number // TRIES], low), high)
        rng = np.random.default_rng([seed, number, zlib.crc32(drill.key.encode())])
        task = drill.make(scene, rng, wanted)
        if task is not None:
            return replace(task, drill=drill.key, seed=seed, plain=task.picture is scene.rgb)
    raise InputError(f"{drill.title}: {scene.name} has nothing that could be asked for sure.", drill.lacks)


def scored(drill: Drill, task: Task, answer: Any) -> Score:
    """Check an answer and score it. Raises `InputError` when it is no answer to this task."""
    return drill.score(task, task.ask.checked(answer))
