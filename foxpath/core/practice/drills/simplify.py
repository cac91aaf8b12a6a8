"""Which hairs and feathers are painted one by one on this size, with this kit, and which are left to the mass?"""

from typing import Any

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, Spot, apart, spots
from foxpath.core.practice.task import Mark, Score, Seen, Sort, Task, ring
from foxpath.core.units import mm_words

ITEMS = 4
ARC_MIN_MM = 0.2909
"""Millimetres of one arc minute a metre away: finer marks do not part."""
CLEAR, OFF_MM = 1.2, 10.0


def finest_seen_mm(scene: Scene) -> float:
    """Return the width a mark needs on this canvas: what the kit can paint, and what is told from where it is looked at."""
    return max(scene.finest_mm, ARC_MIN_MM * scene.viewing_m)


class SimplifyDrill(Drill):
    """How near to what can be painted and seen a hair may be and is still sorted right, as a factor."""

    key, title, unit, way = "simplify", "what to leave out", "times", "seen"
    range, usual = (1.2, 10.0), 2.5
    count, minutes = 6, 4
    needs = frozenset({"growth"})
    mends = ("missing", "smooth", "lights")

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        need = finest_seen_mm(scene)
        chosen: list[Spot] = []
        for spot in spots(scene, rng, 120, 3.0):
            part = scene.parts[spot.part]
            far = all(apart(spot.at, s.at) > OFF_MM * scene.px_per_mm for s in chosen)
            if spot.part >= 0 and far and len(chosen) < ITEMS and part.hair and part.width_mm > 0:
                chosen.append(spot)
        if len(chosen) < ITEMS:
            return None
        # The same hair on a smaller or larger canvas: as near to what can be painted as is asked for, to either side.
        offs = [max(CLEAR, size * float(np.exp(rng.uniform(0, 0.5)))) for _ in chosen]
        widths = [need * (o if rng.random() < 0.5 else 1 / o) for o in offs]
        times = [w / scene.parts[s.part].width_mm for s, w in zip(chosen, widths, strict=True)]
        if len({w >= need for w in widths}) < 2:
            return None
        lengths = [scene.parts[s.part].length_mm * k for s, k in zip(chosen, times, strict=True)]
        places = tuple(s.at for s in chosen)
        marks = []
        for k, ((x, y), long) in enumerate(zip(places, lengths, strict=True), 1):
            end = (x + long * scene.px_per_mm, y)
            marks.append(ring((x, y), chosen[0].radius, "plain", str(k)))
            marks.append(
                Mark("hair", np.array([(x, y), end]), "plain", mm_words(long), widths[k - 1] * scene.px_per_mm)
            )
        truth = {
            "groups": [int(w >= need) for w in widths], "mm": [round(w, 3) for w in widths], "need": round(need, 3), "finest": scene.finest_mm,
            "from": scene.viewing_m, "names": [scene.parts[s.part].name for s in chosen], "offs": [round(o, 2) for o in offs],
        }  # fmt: skip
        return Task(
            "", 0, f"Hair of these sizes on the canvas, looked at from {scene.viewing_m:.1f} m: which is painted hair by hair?",
            Sort(places, ("leave to the mass", "hair by hair"), chosen[0].radius), scene.rgb, scene.px_per_mm, truth, size=min(offs), shown=tuple(marks),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = task.truth["groups"]
        right = [a == t for a, t in zip(answer, true, strict=True)]
        said = ", ".join(f"{k} {mm_words(w)}" for k, w in enumerate(task.truth["mm"], 1))
        why = f"A hair needs {mm_words(task.truth['need'])} of width here; these have {said}."
        places = task.ask.places if isinstance(task.ask, Sort) else ()
        radius = task.ask.radius if isinstance(task.ask, Sort) else 0.0
        marks = tuple(
            ring(p, radius, "true" if r else "you", ("mass", "hairs")[t])
            for p, r, t in zip(places, right, true, strict=True)
        )
        seen = tuple(Seen(r, size=o, choices=2) for r, o in zip(right, task.truth["offs"], strict=True))
        return Score(sum(right) / len(right), f"{sum(right)} of {len(right)} right", why, seen, marks)

    def ideal(self, task: Task) -> Any:
        return tuple(task.truth["groups"])
