"""Which eyes belong to one head: at most a pair each, by the animal they were given to, else by size and distance."""

import math
from collections.abc import Sequence
from itertools import combinations

from foxpath.core.eyes.eye import Eye

APART = (1.6, 14.0)
"""Two eyes of a head stand so many widths of their irises apart."""
ALIKE = 2.2
"""One is at most so many times as wide as the other."""


def heads_of(eyes: Sequence[Eye], animals: Sequence[str]) -> list[tuple[Eye, ...]]:
    """Return the eyes of each head, left to right in the picture; a head has one eye or two.

    Parameters
    ----------
    eyes : sequence of Eye
    animals : sequence of str
        Name of the animal each eye was given to; empty where nobody said.

    Returns
    -------
    list of tuple of Eye
        Every eye once, heads from left to right.
    """
    named: dict[str, list[Eye]] = {}
    for eye, animal in zip(eyes, animals, strict=True):
        named.setdefault(animal, []).append(eye)
    found: list[tuple[Eye, ...]] = []
    for animal, own in named.items():
        # Two eyes that were given to one animal, or the only two there are, are its pair whatever they look like.
        if len(own) == 2 and (animal or len(eyes) == 2):
            found.append(tuple(own))
        else:
            found += _paired(own)
    ordered = [tuple(sorted(head, key=lambda eye: eye.iris.cx)) for head in found]
    return sorted(ordered, key=lambda head: sum(eye.iris.cx for eye in head) / len(head))


def _paired(eyes: Sequence[Eye]) -> list[tuple[Eye, ...]]:
    """Pair eyes that may be of one head, those first that stand nearest and are most alike; the others stay single."""
    left = {eye.id: eye for eye in eyes}
    found: list[tuple[Eye, ...]] = []
    likely = sorted(
        ((cost, a, b) for a, b in combinations(eyes, 2) if (cost := _cost(a, b)) is not None), key=lambda one: one[0]
    )
    for _, a, b in likely:
        if a.id in left and b.id in left:
            found.append((left.pop(a.id), left.pop(b.id)))
    return [*found, *((eye,) for eye in left.values())]


def _cost(a: Eye, b: Eye) -> float | None:
    """Return how unlikely two eyes are a pair; None where they cannot be."""
    wide = a.iris.radius + b.iris.radius
    apart = math.dist(a.iris.centre, b.iris.centre) / max(wide, 1e-9)
    unlike = abs(math.log(a.iris.radius / b.iris.radius))
    if not APART[0] <= apart <= APART[1] or unlike > math.log(ALIKE):
        return None
    return apart + 6 * unlike
