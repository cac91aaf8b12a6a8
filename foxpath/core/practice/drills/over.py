"""Which of two tufts, feathers or parts lies over the other?"""

from typing import Any

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, hair_shows
from foxpath.core.practice.task import Pick, Score, Seen, Task, line, ring

SURE, ALIKE = 0.9, 0.97
LEAST_MM, MOST_MM = 4.0, 16.0
ACROSS = 0.6
"""Cosine to a border from which hair is taken to cross it."""


class OverDrill(Drill):
    """Right or wrong: hair nearer the root lies over what is further along it, and hangs over the part it points at."""

    key, title, unit, way = "over", "which lies over", "right", "right"
    range, usual = (0.1, 10.0), 1.0
    count, minutes = 12, 4
    needs = frozenset({"growth"})
    mends = ("growth", "edge")
    lacks = "Comb a part at Growth, so that its roots are known, or practise on a demo."

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        pair = self._parts(scene, rng) if rng.random() < 0.35 else self._tufts(scene, rng)
        if pair is None:
            return None
        over, under, why = pair
        swap = bool(rng.random() < 0.5)
        places = (under, over) if swap else (over, under)
        truth = {"over": int(swap), "why": why, "places": [list(p) for p in places]}
        middle = ((over[0] + under[0]) / 2, (over[1] + under[1]) / 2)
        around = max(18 * scene.px_per_mm, 1.3 * float(np.hypot(over[0] - under[0], over[1] - under[1])))
        return Task(
            "", 0, "Which lies over the other?", Pick(("A lies over B", "B lies over A"), places, 2.4 * scene.px_per_mm), scene.rgb,
            scene.px_per_mm, truth, size=size, ring=(*middle, around),
            shown=tuple(ring(p, 2.4 * scene.px_per_mm, "plain", w) for p, w in zip(places, "AB", strict=True)),
        )  # fmt: skip

    def _tufts(self, scene: Scene, rng: np.random.Generator) -> tuple[Any, Any, str] | None:
        growth = scene.growth
        hairy = np.array([p.hair and p.kind != "whisker" for p in scene.parts] + [False])
        ys, xs = np.nonzero((scene.room > 3 * scene.px_per_mm) & hairy[scene.labels])
        if growth is None or not len(ys):
            return None
        k = int(rng.integers(len(ys)))
        x, y = float(xs[k]), float(ys[k])
        part = scene.parts[scene.labels[int(y), int(x)]]
        half = float(np.clip(0.5 * part.length_mm, LEAST_MM / 2, MOST_MM / 2)) * scene.px_per_mm
        degrees, alike, sure = growth.at(x, y, half)
        if sure < SURE or alike < ALIKE:
            return None
        a = np.radians(degrees)
        root = (x - half * float(np.cos(a)), y - half * float(np.sin(a)))
        tip = (x + half * float(np.cos(a)), y + half * float(np.sin(a)))
        h, w = scene.labels.shape
        for px, py in (root, tip):
            inside = 0 <= px < w and 0 <= py < h and scene.labels[int(py), int(px)] == scene.labels[int(y), int(x)]
            if not inside or not hair_shows(scene, px, py, max(0.6 * half, 2 * scene.px_per_mm)):
                return None
        name = "feathers" if part.kind in ("feather", "plumage", "wing") else "hair"
        return root, tip, f"It grows from there to here: {name} nearer the root lies over what is further along."

    def _parts(self, scene: Scene, rng: np.random.Generator) -> tuple[Any, Any, str] | None:
        growth = scene.growth
        fit = [e for e in scene.edges if e.back >= 0 and len(e.line) > 6]
        if growth is None or not fit:
            return None
        edge = fit[int(rng.integers(len(fit)))]
        front, back = scene.parts[edge.front], scene.parts[edge.back]
        if not (front.hair and back.hair) or "whisker" in (front.kind, back.kind):
            return None
        k = int(rng.integers(2, len(edge.line) - 2))
        at, along = edge.line[k], edge.line[k + 1] - edge.line[k - 1]
        across = np.array([-along[1], along[0]]) / max(float(np.hypot(*along)), 1e-9)
        reach = 5 * scene.px_per_mm
        h, w = scene.labels.shape
        sides = []
        for sign in (1.0, -1.0):
            px, py = at + sign * reach * across
            if not (0 <= px < w and 0 <= py < h):
                return None
            sides.append((float(px), float(py)))
        labels = [int(scene.labels[int(p[1]), int(p[0])]) for p in sides]
        if sorted(labels) != sorted((edge.front, edge.back)):
            return None
        mine = labels.index(edge.front)
        out = (1 if mine == 1 else -1) * across
        for side, wanted in ((mine, ACROSS), (1 - mine, 0.0)):
            degrees, alike, sure = growth.at(*sides[side], 1.5 * scene.px_per_mm)
            a = np.radians(degrees)
            if sure < SURE or alike < 0.9 or float(np.array([np.cos(a), np.sin(a)]) @ out) < wanted:
                # Only where the front part's hair hangs over, and the other's runs on beneath it, is it sure.
                return None
        return (
            sides[mine],
            sides[1 - mine],
            f"{front.name}: its hair points across the border and hangs over {back.name.lower()}.",
        )

    def score(self, task: Task, answer: Any) -> Score:
        right = answer == task.truth["over"]
        a, b = task.truth["places"]
        over, under = (a, b) if task.truth["over"] == 0 else (b, a)
        marks = (line([over, under], "true", ""), ring(tuple(over), 2.4 * task.px_per_mm, "true", "over"))
        words = f"{'AB'[task.truth['over']]} lies over {'BA'[task.truth['over']]}"
        return Score(float(right), words, str(task.truth["why"]), (Seen(right, choices=2),), marks)

    def ideal(self, task: Task) -> Any:
        return task.truth["over"]
