"""Which part can be painted into now, which is dry, and how long does an edge stay open?"""

from typing import Any

import numpy as np

from foxpath.core.days.drying import LAYER_SD, PILE_SD, SYSTEMS, Film, Times, drying
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, Spot, apart, spots
from foxpath.core.practice.task import Pick, Score, Seen, Task, ring

PLAIN = {
    "drier": "earths and cobalts", "mars": "iron oxides", "medium": "ochres", "titanium": "titanium white", "cadmium": "cadmiums", "black": "bone black",
    "lake": "lakes",
}  # fmt: skip
"""Kinds of pigment by a painter's word."""
FILMS = ((16.0, "a thin scrub"), (31.0, "thin"), (61.0, "full"), (140.0, "thick"))
OFF_MM = 15.0
LEAST = 2.5
"""Two films of one studio differ by 0.31 in the logarithm of their times: under this factor the answer would be no better than a guess."""
assert np.hypot(PILE_SD, LAYER_SD) * 2.05 * np.sqrt(2) < np.log(LEAST)


def hours_words(hours: float) -> str:
    """Write hours as a painter says them."""
    if hours < 1.5:
        return f"{max(1, round(60 * hours))} min"
    return f"{hours:.0f} h" if hours < 48 else f"{hours / 24:.0f} days"


def a_film(system: str, rng: np.random.Generator) -> tuple[Film, str]:
    """Return a film at random, and what it is."""
    kind = str(rng.choice(list(PLAIN)))
    um, word = FILMS[int(rng.integers(len(FILMS)))]
    alkyd = 0.25 if not SYSTEMS[system].water and rng.random() < 0.3 else 0.0
    medium = ", with alkyd" if alkyd else ""
    return Film(system, um, {kind: 1.0}, alkyd=alkyd), f"{PLAIN[kind]}, {word}{medium}"


class WetnessDrill(Drill):
    """By which factor of time a film has to differ for its state to be told."""

    key, title, unit, way = "wetness", "wet, tacky or dry", "times", "seen"
    range, usual = (LEAST, 40.0), 5.0
    count, minutes = 8, 4
    mirrors = False

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        places: list[Spot] = []
        for spot in spots(scene, rng, 24, 4.0):
            # Of several parts, where there are several.
            apart_mm = min((apart(spot.at, other.at) for other in places), default=np.inf) / scene.px_per_mm
            if (
                len(places) < 3
                and apart_mm > OFF_MM
                and (spot.part not in [p.part for p in places] or rng.random() < 0.2)
            ):
                places.append(spot)
        if len(places) < 3:
            return None
        dry = bool(rng.random() < 0.5)
        right = int(rng.integers(3))
        films = [a_film(scene.system, rng) for _ in range(3)]
        times = [drying(film) for film, _ in films]
        bound = [t.touch if dry else t.open for t in times]
        # One lies beyond its bound, the others before it, by the factor that is asked for in all.
        half = float(np.sqrt(size)) * 1.001
        hours = []
        for k in range(3):
            beyond = (k == right) == dry
            hours.append(
                bound[k] * (half if beyond else 1 / half) * float(np.exp((1 if beyond else -1) * rng.uniform(0, 0.3)))
            )
        if len({hours_words(h) for h in hours}) < 3:
            return None
        options = tuple(f"{what}, laid {hours_words(h)} ago" for (_, what), h in zip(films, hours, strict=True))
        truth = {
            "right": right, "dry": dry, "bound": [hours_words(b) for b in bound], "hours": [round(h, 2) for h in hours],
            "names": [scene.parts[p.part].name if p.part >= 0 else "ground" for p in places],
        }  # fmt: skip
        ratio = [h / b for h, b in zip(hours, bound, strict=True)]
        mine = ratio[right]
        gap = min(max(mine / r, r / mine) for k, r in enumerate(ratio) if k != right)
        question = (
            "Which of these may be glazed over now: dry to the touch?"
            if dry
            else "Into which of these can you still paint wet?"
        )
        radius = 4 * scene.px_per_mm
        return Task(
            "", 0, question, Pick(options, tuple(p.at for p in places), radius), scene.rgb, scene.px_per_mm, truth, size=float(gap),
            shown=tuple(ring(p.at, radius, "plain", w) for p, w in zip(places, "ABC", strict=True)),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = int(task.truth["right"])
        what = "is dry to the touch after" if task.truth["dry"] else "stays open for"
        said = "; ".join(f"{w} {what} about {b}" for w, b in zip("ABC", task.truth["bound"], strict=True))
        words = f"{'ABC'[true]}: {task.truth['names'][true].lower()}"
        return Score(
            float(answer == true),
            words,
            f"{said}. Try it with a fingertip at the edge first.",
            (Seen(answer == true, size=task.size, choices=3),),
        )

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]


class WindowDrill(Drill):
    """How long may the neighbour wait, and the border still be softened?"""

    key, title, unit, way = "window", "before the edge closes", "times", "seen"
    range, usual = (LEAST, 12.0), 4.0
    count, minutes = 8, 3
    mirrors = False
    mends = ("edge",)

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        film, what = a_film(scene.system, rng)
        times: Times = drying(film)
        # Four waits, each so many times the one before: the last that is early enough is what is asked for.
        right = int(rng.integers(4))
        steps = [times.soft / np.sqrt(size) * size ** (k - right) for k in range(4)]
        options = tuple(f"after {hours_words(h)}" for h in steps)
        if len(set(options)) < 4:
            return None
        found = spots(scene, rng, 1, 4.0)
        at = found[0].at if found else None
        part = scene.parts[found[0].part].name.lower() if found and found[0].part >= 0 else "a part"
        shown = (ring(at, 4 * scene.px_per_mm),) if at else ()
        truth = {
            "right": right,
            "soft": hours_words(times.soft),
            "open": hours_words(times.open),
            "what": what,
        }
        return Task(
            "", 0, f"{part.capitalize()} is laid in {what}. What is the latest its neighbour may follow, and the border be drawn soft?", Pick(options),
            scene.rgb, scene.px_per_mm, truth, size=size, shown=shown,
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = int(task.truth["right"])
        options = task.ask.options if isinstance(task.ask, Pick) else ()
        lost = (
            "Later the border is cut, not drawn: restate a strip of both sides."
            if answer > true
            else "Sooner is safe, and costs a sitting."
        )
        why = f"{task.truth['what'].capitalize()} can be softened for about {task.truth['soft']}, and is open for {task.truth['open']}. {lost if answer != true else ''}".strip()
        return Score(float(answer == true), options[true], why, (Seen(answer == true, size=task.size, choices=4),))

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]
