"""Mixes: how near recipes come and how fast, what looking brings on tubes that differ from the table, and the demo's palette."""

import time
from dataclasses import replace

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.colour import difference
from foxpath.core.mixes.adding import addition
from foxpath.core.mixes.learning import Look, learn
from foxpath.core.mixes.recipe import Rack, solve
from foxpath.core.mixes.tubes import USUAL, USUAL_TUBES, named_tubes, table, tubes_of
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.mixes.palette import palette_of
from foxpath.derive.mixes.wants import wants_of

TARGETS, PAINTERS, PILES = 300, 12, 12


def measure() -> list[dict[str, object]]:
    """Solve, correct and plan."""
    return [*_solver(), *_loop(), *_palettes()]


def _colour(rack: Rack, rng: np.random.Generator) -> F64:
    """Return a colour that two or three of the tubes reach, in parts of any size."""
    count = rng.integers(2, 4)
    which = rng.choice(len(rack), count, replace=False)
    parts = np.zeros(len(rack))
    parts[which] = rng.dirichlet(np.ones(count)) / rack.strength[which]
    return rack.lab(parts)


def _solver() -> list[dict[str, object]]:
    rows = []
    for ids, goal in ((USUAL_TUBES, 50), (tuple(table()), 200)):
        rack, rng = Rack(named_tubes(ids)), np.random.default_rng(5)
        targets = [_colour(rack, rng) for _ in range(TARGETS)]
        solve(rack, targets[0])
        start = time.process_time()
        away = np.array([solve(rack, target).away for target in targets])
        spent = (time.process_time() - start) / TARGETS
        start = time.process_time()
        subsets = len(ids) * (len(ids) - 1) * (len(ids) - 2) // 6
        rack.lab(np.random.default_rng(0).dirichlet(np.ones(len(rack)), 20 * subsets))
        plain = time.process_time() - start
        rows.append(
            _row(
                f"a recipe of {len(ids)} tubes, CPU",
                1000 * spent,
                "ms",
                goal,
                f"{spent / plain:.1f} x working out 20 mixtures a triple",
            )
        )
        detail = f"{TARGETS} reachable colours; 95th percentile {np.quantile(away, 0.95):.2f}"
        rows.append(_row(f"its difference, {len(ids)} tubes, median", float(np.median(away)), "dE", 0.3, detail))
    return rows


def _loop() -> list[dict[str, object]]:
    """Simulate painters whose tubes take up and throw back 30 % more or less, mixing piles and looking at them."""
    base = Rack(tubes_of(USUAL))
    found: list[list[float]] = []
    taught: list[float] = []
    for seed in range(PAINTERS):
        rng = np.random.default_rng(seed)
        real = Rack([replace(t, k=t.k * rng.uniform(0.7, 1.3), s=t.s * rng.uniform(0.7, 1.3)) for t in base.tubes])
        looks: list[Look] = []
        for number in range(PILES):
            target = _colour(base, rng)
            if number >= 10:
                taught.append(_worked(base, real, target, list(looks), 0)[0])
            found.append(_worked(base, real, target, [], 2))
            _worked(base, real, target, looks, 1)
    first, once, twice = np.median(found, axis=0)
    return [
        _row(
            "a first mix on tubes 30 % off, median",
            float(first),
            "dE",
            2.5,
            f"{len(found)} piles of {PAINTERS} painters",
        ),
        _row("after one look", float(once), "dE", 1.0, "the smallest addition, two tubes at most"),
        _row("after two looks", float(twice), "dE", 0.6, f"90th percentile {np.quantile(found, 0.9, axis=0)[2]:.2f}"),
        _row("a first mix after ten corrected piles", float(np.median(taught)), "dE", 1.5, "what they taught"),
    ]


def _worked(base: Rack, real: Rack, target: F64, looks: list[Look], rounds: int) -> list[float]:
    rack = Rack(tubes_of(learn(USUAL, base, looks)))
    pile = rack.parts(solve(rack, target).parts)
    away = []
    for _ in range(rounds):
        seen = real.lab(pile)
        away.append(float(difference(seen, target)))
        parts = tuple((rack.ids[i], float(pile[i])) for i in np.flatnonzero(pile))
        looks.append(Look(parts, (float(seen[0]), float(seen[1]), float(seen[2]))))
        rack = Rack(tubes_of(learn(USUAL, base, looks)))
        step = addition(rack, pile, target, shift=seen - rack.lab(pile))
        pile = pile * (0.5 if step.halve else 1.0) + rack.parts(step.added)
    return [*away, float(difference(real.lab(pile), target))]


def _palettes() -> list[dict[str, object]]:
    rows = []
    for name in ("fox", "jay", "cavies"):
        project, results = demo_project(name), Results()
        wants = wants_of(results, project)
        start = time.process_time()
        palette = palette_of(results, project)
        spent = time.process_time() - start
        detail = f"{len(palette.piles)} piles for {len(wants)} colours, {spent:.1f} s CPU"
        rows.append(_row(f"what no pile of the {name} serves", 100 * (1 - palette.covered), "%", 5, detail))
    return rows


def _row(what: str, value: float, unit: str, goal: float | None, detail: str) -> dict[str, object]:
    return {"what": what, "value": round(value, 3), "unit": unit, "goal": goal, "detail": detail}
