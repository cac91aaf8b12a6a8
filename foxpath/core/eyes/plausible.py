"""Whether an eye that was found can be one of this animal: its size against the animal's and the other eyes', and their distance."""

import math
from collections.abc import Callable, Sequence

from foxpath.core.eyes.eye import Ellipse
from foxpath.core.units import percent

MOST_OF_ANIMAL = 0.28
"""Most of an animal's shorter extent that an eye is across: an owl's in a head that fills the canvas is about a sixth."""
MOST_UNLIKE = 1.6
"""Most that two eyes of one animal differ in size; the far one of a turned head looks smaller."""
LEAST_SURE = 0.45


def doubts(
    iris: Ellipse,
    sure: float,
    others: Sequence[Ellipse],
    extent: float,
    words: Callable[[float], str],
    *,
    rivals: Sequence[float] = (),
) -> tuple[str, ...]:
    """Return why an eye should be looked at before it is taken, each as a sentence; empty when nothing speaks against it.

    Parameters
    ----------
    iris : Ellipse
        What was found, reference pixels.
    sure : float
        0 to 1.
    others : sequence of Ellipse
        The other eyes, reference pixels.
    extent : float
        Shorter extent of the animal, or of the picture where no part is outlined, reference pixels; 0 when it is not known.
    words : callable
        Writes a length in reference pixels, e.g. as millimetres on the canvas.
    rivals : sequence of float
        How sure the other hypotheses are.
    """
    across = words(2 * iris.radius)
    found = []
    if extent > 0 and 2 * iris.radius > MOST_OF_ANIMAL * extent:
        found.append(
            f"It would be {across} across, {percent(2 * iris.radius / extent)} of the animal; {percent(MOST_OF_ANIMAL)} is much for an eye."
        )
    for other in others:
        ratio = iris.radius / other.radius
        if max(ratio, 1 / ratio) > MOST_UNLIKE:
            found.append(
                f"It would be {across} across, the other eye is {words(2 * other.radius)}; eyes of one animal are nearly the same."
            )
            break
    if any(math.dist(iris.centre, one.centre) < 1.2 * (iris.radius + one.radius) for one in others):
        found.append("It would touch the other eye; a nose lies between two.")
    if sure < LEAST_SURE:
        near = max(rivals, default=0.0)
        found.append(
            f"{percent(sure)} sure, and another size is nearly as likely."
            if near > 0.6 * sure
            else f"Only {percent(sure)} sure."
        )
    return tuple(found)
