"""How soft is this border? Lost, soft, firm or hard."""

from typing import Any

import numpy as np

from foxpath.core.edges.grades import GRADES, grade_of_width
from foxpath.core.edges.measured import read_edge
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Edge, Scene
from foxpath.core.practice.task import Pick, Score, Seen, Task, line
from foxpath.core.units import mm_words

NAMES = tuple(GRADES)
RELIABLE = 0.5
"""Share of a border from which its width was read, for it to be asked about."""
CLEAR = 1.3
"""A width lies at least this factor from the next bound of a grade."""
STRETCH_MM = 24.0
BOUNDS = (0.8, 3.0, 10.0)


def clear_of_bounds(width_mm: float) -> float:
    """Return by which factor a width lies from the nearest bound of a grade, 1 and more."""
    return float(np.exp(min(abs(np.log(width_mm / b)) for b in BOUNDS)))


def stretch(scene: Scene, edge: Edge, rng: np.random.Generator) -> Any:
    """Return a stretch of a border that lies in the picture, (N, 2), or None."""
    h, w = scene.labels.shape
    at = edge.line
    inside = (at[:, 0] > 4) & (at[:, 0] < w - 4) & (at[:, 1] > 4) & (at[:, 1] < h - 4)
    if inside.sum() < 8:
        return None
    at = at[inside]
    along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(at, axis=0).T))])
    start = float(rng.uniform(0, max(along[-1] - STRETCH_MM * scene.px_per_mm, 0.01)))
    cut = at[(along >= start) & (along <= start + STRETCH_MM * scene.px_per_mm)]
    return cut if len(cut) > 3 else None


class EdgeDrill(Drill):
    """The grade of a border as the photograph shows it: how near to a bound of grades a width may lie and is still told."""

    key, title, unit, way = "edge", "edge grades", "times", "seen"
    range, usual = (1.1, 6.0), 1.8
    count, minutes = 10, 4
    needs = frozenset({"edges"})
    mends = ("edge",)
    lacks = "Outline parts at Zones, so that there are borders, or practise on a demo."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        fit = [
            e
            for e in scene.edges
            if e.seen_mm is not None and e.told >= RELIABLE and clear_of_bounds(e.seen_mm) > CLEAR
        ]
        if not fit:
            return None
        grade = rng.choice(sorted({grade_of_width(e.seen_mm or 1.0) for e in fit}))
        mine = [e for e in fit if grade_of_width(e.seen_mm or 1.0) == grade]
        edge = min(
            (mine[int(rng.integers(len(mine)))] for _ in range(2)),
            key=lambda e: abs(np.log(clear_of_bounds(e.seen_mm or 1.0) / size)),
        )
        cut = stretch(scene, edge, rng)
        if cut is None or edge.seen_mm is None:
            return None
        # The stretch that is shown must say the same as the whole border does.
        here = read_edge(scene.lab[..., 0] * np.float32(2.55), [cut])
        width = float(here.width) / scene.px_per_mm
        if not (
            here.reliable >= RELIABLE
            and grade_of_width(width) == grade_of_width(edge.seen_mm)
            and clear_of_bounds(width) > CLEAR
        ):
            return None
        middle = cut[len(cut) // 2]
        front = scene.parts[edge.front].name.lower()
        back = scene.parts[edge.back].name.lower() if edge.back >= 0 else "bare canvas"
        # The border is shown at its ends only: a line along it would hide what is asked about.
        ends = tuple(line([cut[k], cut[k]], "plain") for k in (0, -1))
        return Task(
            "", 0, f"How does {front} end against {back} here, between the two marks?", Pick(NAMES), scene.rgb, scene.px_per_mm,
            {"right": NAMES.index(grade_of_width(edge.seen_mm)), "mm": round(width, 2), "line": cut.round(1).tolist()},
            size=clear_of_bounds(width), ring=(float(middle[0]), float(middle[1]), 0.75 * STRETCH_MM * scene.px_per_mm), shown=ends,
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true, mm = int(task.truth["right"]), float(task.truth["mm"])
        off = abs(answer - true)
        words = f"{NAMES[true]}, {mm_words(mm)}"
        low, high, _ = GRADES[NAMES[true]]
        why = f"It turns within {mm_words(mm)}: {NAMES[true]} is {mm_words(low)} to {mm_words(high)} on the canvas."
        marks = (line(task.truth["line"], "true", words),)
        return Score(1 - off / 3, words, why, (Seen(off == 0, size=task.size, choices=4),), marks)

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]


class LoseDrill(Drill):
    """Which of the ringed borders should be lost, for depth and for the focal point?"""

    key, title, unit, way = "lose", "which edge to lose", "times", "seen"
    range, usual = (1.15, 8.0), 2.0
    count, minutes = 8, 4
    needs = frozenset({"edges"})
    mends = ("edge",)
    lacks = EdgeDrill.lacks

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        h, w = scene.labels.shape
        fit = [
            e for e in scene.edges if e.planned_mm > 0 and 6 < e.middle()[0] < w - 6 and 6 < e.middle()[1] < h - 6
            and scene.parts[e.front].kind not in ("eye", "whisker")
        ]  # fmt: skip
        if len(fit) < 4:
            return None
        best = None
        for _ in range(12):
            four = [fit[i] for i in rng.choice(len(fit), 4, replace=False)]
            widths = sorted(e.planned_mm for e in four)
            off = abs(np.log(widths[-1] / widths[-2] / size))
            if widths[-1] / widths[-2] > self.range[0] and (best is None or off < best[0]):
                best = (off, four, widths[-1] / widths[-2])
        if best is None:
            return None
        _, four, ratio = best
        right = int(np.argmax([e.planned_mm for e in four]))
        places = tuple(e.middle() for e in four)
        truth = {"right": right, "mm": [round(e.planned_mm, 2) for e in four], "reason": four[right].reason}
        return Task(
            "", 0, "Which of these four borders should be the softest?", Pick(tuple("ABCD"), places, 4 * scene.px_per_mm), scene.rgb,
            scene.px_per_mm, truth, size=ratio,
            shown=tuple(line([p, p], "plain", w) for p, w in zip(places, "ABCD", strict=True)),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = int(task.truth["right"])
        places = task.ask.places if isinstance(task.ask, Pick) else ()
        marks = tuple(
            line([at, at], "true" if k == true else "you" if k == answer else "plain", f"{'ABCD'[k]}: {mm_words(mm)}")
            for k, (at, mm) in enumerate(zip(places, task.truth["mm"], strict=True))
        )
        why = f"{task.truth['reason'][:1].upper()}{task.truth['reason'][1:]}."
        return Score(
            float(answer == true),
            f"{'ABCD'[true]} is the softest",
            why,
            (Seen(answer == true, size=task.size, choices=4),),
            marks,
        )

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]
