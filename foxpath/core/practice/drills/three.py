"""A head in three values: which spots are dark, which middle, which light?"""

from typing import Any

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, Spot, about_head, apart, sight, spot_radius_mm, spots
from foxpath.core.practice.task import Score, Seen, Sort, Task, ring

ITEMS, OFF = 6, 3.0
SURE = 2.5


def three_bounds(values: Any) -> tuple[float, float]:
    """Return the two bounds between three groups of values: those whose groups are most alike within (Otsu's criterion, two cuts).

    Parameters
    ----------
    values : (N,) float
        0 to 100.
    """
    heap, _ = np.histogram(values, 64, (0, 100))
    p = heap / max(heap.sum(), 1)
    at = (np.arange(64) + 0.5) * 100 / 64
    w, m = np.concatenate([[0], np.cumsum(p)]), np.concatenate([[0], np.cumsum(p * at)])
    best, found = -1.0, (33.0, 66.0)
    for i in range(4, 56):
        for j in range(i + 4, 60):
            between = 0.0
            for a, b in ((0, i), (i, j), (j, 64)):
                share = w[b] - w[a]
                if share > 1e-9:
                    between += (m[b] - m[a]) ** 2 / share
            if between > best:
                best, found = between, (i * 100 / 64, j * 100 / 64)
    return found


def sorted_task(
    scene: Scene, rng: np.random.Generator, found: list[Spot], value: Any, bounds: tuple[float, float], size: float
) -> tuple[list[Spot], list[int]] | None:
    """Return spots to be sorted by two bounds, and their groups: one lies `size` from a bound, none nearer."""
    chosen: list[Spot] = []

    def off(spot: Spot) -> float:
        return float(min(abs(value(spot) - b) for b in bounds))

    usable = [s for s in found if off(s) > max(0.75 * size, SURE * s.unsure)]
    near = sorted(usable, key=lambda s: abs(off(s) - size))
    firsts = [next((s for s in near if sum(value(s) > b for b in bounds) == g), None) for g in range(3)]
    for spot in [*near[:1], *(s for s in firsts if s), *(usable[i] for i in rng.permutation(len(usable)))]:
        if len(chosen) < ITEMS and all(apart(spot.at, o.at) > OFF * spot.radius for o in chosen):
            chosen.append(spot)
    if len(chosen) < ITEMS or abs(off(near[0]) - size) > 0.5 * size:
        return None
    chosen = [chosen[i] for i in rng.permutation(ITEMS)]
    groups = [sum(value(s) > b for b in bounds) for s in chosen]
    return (chosen, groups) if len(set(groups)) > 1 else None


def sorted_score(task: Task, answer: Any, names: tuple[str, ...], offs: list[float], why: str) -> Score:
    """Return the score of a sorting: each item counts, the nearer to a bound the harder."""
    true = task.truth["groups"]
    places = task.ask.places if isinstance(task.ask, Sort) else ()
    radius = task.ask.radius if isinstance(task.ask, Sort) else 0.0
    right = [a == t for a, t in zip(answer, true, strict=True)]
    marks = tuple(
        ring(p, radius, "true" if r else "you", names[t] if r else f"{names[t]}, not {names[a]}")
        for p, r, t, a in zip(places, right, true, answer, strict=True)
    )
    seen = tuple(Seen(r, size=o, choices=len(names)) for r, o in zip(right, offs, strict=True))
    share = sum(right) / len(right)
    return Score(share, f"{sum(right)} of {len(right)} right", why, seen, marks)


class ThreeDrill(Drill):
    """How near to the bound of a value group a spot may lie and is still sorted right, in L*."""

    key, title, unit, way = "three", "three values", "L*", "seen"
    range, usual = (1.5, 25.0), 7.0
    count, minutes = 6, 6
    colours = True
    mends = ("value",)

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        head = about_head(scene)
        if not head.any():
            return None
        bounds = three_bounds(scene.lab[..., 0][head])
        found = sorted_task(
            scene, rng, spots(scene, rng, 80, spot_radius_mm(scene), within=head), lambda s: s.lab[0], bounds, size
        )
        if found is None:
            return None
        chosen, groups = found
        offs = [round(min(abs(s.lab[0] - b) for b in bounds), 2) for s in chosen]
        places = tuple(s.at for s in chosen)
        radius = chosen[0].radius
        return Task(
            "", 0, "The head in three values: sort the spots into dark, middle and light.",
            Sort(places, ("dark", "middle", "light"), radius), scene.rgb, scene.px_per_mm,
            {"groups": groups, "offs": offs, "bounds": [round(b, 1) for b in bounds]}, size=min(offs), look=sight(scene, head),
            shown=tuple(ring(p, radius, "plain", str(k)) for k, p in enumerate(places, 1)),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        low, high = task.truth["bounds"]
        why = f"This head parts at L* {low:.0f} and {high:.0f}: squint until only three values are left."
        return sorted_score(task, answer, ("dark", "middle", "light"), task.truth["offs"], why)

    def ideal(self, task: Task) -> Any:
        return tuple(task.truth["groups"])
