"""Which of four spots is the lightest? And the same where all lie within a small range of light."""

from typing import Any, ClassVar

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, Spot, a_window, about_head, apart, sight, spot_radius_mm, spots
from foxpath.core.practice.task import Pick, Score, Seen, Task, ring

OFF = 3.2
"""Spots lie at least so many radii apart."""
NEAR = 0.25
"""The gap that was asked for is met within this share."""
SURE = 3.0
"""A gap is asked for where it is so many of the spots' own doubts."""
SUBTLE_L = 8.0


def quartet(
    scene: Scene, rng: np.random.Generator, value: Any, gap: float, *, within: Any = None, most: float = np.inf
) -> tuple[list[Spot], int, float] | None:
    """Return four spots, the place of the one that stands out, and by how much; None where this picture has none.

    Parameters
    ----------
    value : callable
        Of a spot: what is compared; the highest stands out.
    gap : float
        By how much it shall stand out from the next.
    within : (H, W) bool, optional
    most : float
        All four lie within so much of one another.
    """
    found = sorted(spots(scene, rng, 60, spot_radius_mm(scene), within=within), key=value)
    pairs = [
        (k, j)
        for k in range(3, len(found))
        for j in range(2, k)
        if abs(value(found[k]) - value(found[j]) - gap) < NEAR * gap
    ]
    rng.shuffle(pairs)
    for k, j in pairs[:40]:
        best, second = found[k], found[j]
        rest = [s for s in found[:j] if value(best) - value(s) < most]
        chosen = [best, second]
        for one in (rest[i] for i in rng.permutation(len(rest))):
            if len(chosen) < 4 and all(apart(one.at, other.at) > OFF * one.radius for other in chosen):
                chosen.append(one)
        if len(chosen) < 4 or apart(best.at, second.at) < OFF * best.radius:
            continue
        if value(best) - value(second) < SURE * float(np.hypot(best.unsure, second.unsure)):
            continue
        order = rng.permutation(4)
        return [chosen[i] for i in order], int(np.flatnonzero(order == 0)[0]), value(best) - value(second)
    return None


def picked(task: Task, answer: int, words: str, why: str) -> Score:
    """Return the score of a choice among places: the right one is ringed."""
    true = int(task.truth["right"])
    places = task.ask.places if isinstance(task.ask, Pick) else ()
    radius = task.ask.radius if isinstance(task.ask, Pick) else 0.0
    marks = [ring(at, radius, "true" if k == true else "plain", "ABCD"[k]) for k, at in enumerate(places)]
    return Score(
        float(answer == true), words, why,
        (Seen(answer == true, size=task.size, choices=len(task.ask.options) if isinstance(task.ask, Pick) else 2),), tuple(marks),
    )  # fmt: skip


class RelationDrill(Drill):
    """How small a step of value is told between neighbours, in L*."""

    key, title, unit, way = "relation", "lighter or darker", "L*", "seen"
    range, usual = (1.0, 30.0), 6.0
    count, minutes = 16, 5
    colours = True
    mends: ClassVar[tuple[str, ...]] = ("value",)
    most: ClassVar[float] = np.inf

    def within(self, scene: Scene, rng: np.random.Generator) -> tuple[Any, tuple[float, float, float]]:
        """Return where spots may lie, and what comes into sight."""
        return a_window(scene, rng)

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        within, look = self.within(scene, rng)
        found = quartet(scene, rng, lambda s: s.lab[0], size, within=within, most=self.most)
        if found is None:
            return None
        four, right, gap = found
        values = [round(s.lab[0], 1) for s in four]
        places = tuple(s.at for s in four)
        return Task(
            "", 0, "Which of the four spots is the lightest?", Pick(tuple("ABCD"), places, four[0].radius), scene.rgb, scene.px_per_mm,
            {"right": right, "L": values}, size=gap, look=look,
            shown=tuple(ring(p, four[0].radius, "plain", w) for p, w in zip(places, "ABCD", strict=True)),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        values = task.truth["L"]
        true = int(task.truth["right"])
        said = ", ".join(f"{w} {v:.0f}" for w, v in zip("ABCD", values, strict=True))
        ladder = sorted(values)
        why = f"L* {said}: the lightest by {task.size:.1f}, all within {ladder[-1] - ladder[0]:.0f}."
        return picked(task, answer, f"{'ABCD'[true]} is the lightest", why)

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]


class SubtleDrill(RelationDrill):
    """The same where all four lie within 8 L*: light that is easily overdone."""

    key, title = "subtle", "subtle light"
    range, usual = (0.8, 7.0), 3.0
    count, minutes = 12, 4
    mends = ("value", "lights")
    most = SUBTLE_L

    def within(self, scene: Scene, rng: np.random.Generator) -> tuple[Any, tuple[float, float, float]]:
        head = about_head(scene)
        return head, sight(scene, head)
