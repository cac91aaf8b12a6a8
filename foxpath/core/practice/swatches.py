"""A sheet of swatches: what is wanted above, and what there is to choose from below."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F64, Rgb8
from foxpath.core.colour import difference
from foxpath.core.mixes.recipe import Rack
from foxpath.core.practice.task import Mark, Place, label
from foxpath.core.progress.small import lab_of, rgb_of

PX_PER_MM = 6.0
SIDE_MM, GAP_MM = 22.0, 7.0
GROUND_L = 62.0
"""L* of the sheet: a middling grey, on which no swatch is favoured."""
ON_SCREEN = 0.6
"""Least dE00 that a screen of 8 bits shows."""


@dataclass(frozen=True, slots=True, eq=False)
class Sheet:
    """A sheet: its picture, the middles of the swatches to choose from, their half side, and the middles of those above."""

    picture: Rgb8
    places: tuple[Place, ...]
    half: float
    above: tuple[Place, ...]


def sheet(above: Sequence[F64], below: Sequence[F64]) -> Sheet:
    """Return a sheet of CIELAB colours; those above touch one another."""
    side, gap = SIDE_MM * PX_PER_MM, GAP_MM * PX_PER_MM
    wide = max(len(below) * (side + gap) + gap, len(above) * side + 2 * gap)
    tall = gap + (side + gap if above else 0) + (side + gap if len(below) else 0)
    picture = np.empty((int(tall), int(wide), 3), np.uint8)
    picture[:] = _flat(np.array([GROUND_L, 0, 0]))
    middles_above, middles = [], []
    x = (wide - len(above) * side) / 2
    for lab in above:
        cv2.rectangle(picture, (round(x), round(gap)), (round(x + side) - 1, round(gap + side)), _flat(lab), -1)
        middles_above.append((x + side / 2, gap + side / 2))
        x += side
    x = (wide - len(below) * (side + gap) + gap) / 2
    y = gap + (side + gap if above else 0)
    for lab in below:
        cv2.rectangle(picture, (round(x), round(y)), (round(x + side), round(y + side)), _flat(lab), -1)
        middles.append((x + side / 2, y + side / 2))
        x += side + gap
    return Sheet(picture, tuple(middles), side / 2, tuple(middles_above))


def labelled(page: Sheet, names: Sequence[str] = (), above: Sequence[str] = ()) -> tuple[Mark, ...]:
    """Return the names that stand under the swatches to choose from, and in those above."""
    under = [
        label((x, y + page.half + 0.45 * GAP_MM * PX_PER_MM), name)
        for (x, y), name in zip(page.places, names, strict=False)
    ]
    return (
        *under,
        *(
            label((x, y - page.half - 0.4 * GAP_MM * PX_PER_MM), name)
            for (x, y), name in zip(page.above, above, strict=False)
        ),
    )


def _flat(lab: F64) -> tuple[int, int, int]:
    r, g, b = rgb_of(np.asarray(lab, np.float32).reshape(1, 1, 3))[0, 0]
    return int(r), int(g), int(b)


def dE(a: F64, b: F64) -> float:
    """Return the colour difference of two colours, dE00."""
    return float(difference(np.asarray(a, np.float64), np.asarray(b, np.float64)))


def shown_on_screen(lab: F64) -> bool:
    """Tell whether a screen shows a colour as it is: sRGB holds it."""
    back = lab_of(rgb_of(np.asarray(lab, np.float32).reshape(1, 1, 3)))[0, 0]
    return dE(np.asarray(lab, np.float64), np.asarray(back, np.float64)) < ON_SCREEN


def a_mix(rack: Rack, rng: np.random.Generator, *, white: bool = True) -> F64:
    """Return the parts of a mixture of two tubes at random, most often with white, (n,)."""
    coloured = [k for k, tube in enumerate(rack.tubes) if not tube.white and not tube.black]
    whites = [k for k, tube in enumerate(rack.tubes) if tube.white]
    parts = np.zeros(len(rack))
    for k in rng.choice(coloured, min(2, len(coloured)), replace=False):
        parts[k] += rng.uniform(0.5, 3) / float(rack.strength[k])
    if white and whites and rng.random() < 0.75:
        parts[rng.choice(whites)] += rng.uniform(0.5, 2.5) * parts.sum()
    return np.asarray(parts / parts.sum())


def lures(true: F64, rng: np.random.Generator, count: int, size: float, toward: F64 | None = None) -> list[F64] | None:
    """Return colours of which the nearest lies about `size` dE00 from the true one, all shown by a screen; None where there are none.

    Each is set off from the true one or from another that was found before, so that what is true does not lie in their middle.

    Parameters
    ----------
    true : (3,) float64
    rng : Generator
    count : int
    size : float
    toward : (3,) float64, optional
        Where the first lies: the guess of somebody who thinks that nothing moves.
    """
    made: list[F64] = []
    for number in range(120):
        if len(made) >= count:
            break
        start = true if not made else made[int(rng.integers(len(made)))]
        way = rng.standard_normal(3) if number or toward is None else toward - true
        one = np.asarray(start + way / max(float(np.linalg.norm(way)), 1e-9) * size)
        for _ in range(6):
            # dE00 is no plain distance: the step is set until it measures what was asked.
            one = np.asarray(start + (one - start) * (size / max(dE(one, start), 1e-6)))
        off = dE(one, true)
        if shown_on_screen(one) and off > 0.95 * size and all(dE(one, other) > 0.7 * size for other in made):
            made.append(one)
    return made[:count] if len(made) >= count else None
