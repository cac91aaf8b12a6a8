"""Whether an eye that was found can be one of this animal: its size against the animal's and the other eyes', and their distance."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from foxpath.core.eyes.eye import Ellipse, Eye
from foxpath.core.eyes.placement import eye_check
from foxpath.core.findings import Finding
from foxpath.core.units import mm_words, percent

MOST_OF_ANIMAL = 0.28
"""Most of an animal's shorter extent that an eye is across: an owl's in a head that fills the canvas is about a sixth."""
MOST_OF_PICTURE = 0.45
"""The same against a picture that the animal fills, or of which nobody has said where it is: it may be a study of the eye alone."""
MOST_UNLIKE = 1.6
"""Most that two eyes of one animal differ in size; the far one of a turned head looks smaller."""
LEAST_SURE = 0.45


@dataclass(frozen=True, slots=True)
class Extent:
    """The shorter extent of an animal or of a picture, reference pixels (0 when not known), and what share of it is much for an eye."""

    px: float
    most: float
    of: str

    @classmethod
    def of_animal(cls, px: float) -> "Extent":
        """Return that of an animal."""
        return cls(px, MOST_OF_ANIMAL, "the animal")

    @classmethod
    def of_picture(cls, px: float) -> "Extent":
        """Return that of a picture."""
        return cls(px, MOST_OF_PICTURE, "the picture")


def doubts(
    iris: Ellipse,
    sure: float,
    others: Sequence[Ellipse],
    extent: Extent,
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
    extent : Extent
        What its size is judged against.
    words : callable
        Writes a length in reference pixels, e.g. as millimetres on the canvas.
    rivals : sequence of float
        How sure the other hypotheses are.
    """
    across = words(2 * iris.radius)
    found = []
    share, most = 2 * iris.radius / extent.px if extent.px > 0 else 0.0, extent.most
    if share > most:
        found.append(
            f"It would be {across} across, {percent(share)} of {extent.of}; {percent(most)} is much for an eye."
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


def check_size(eye: Eye, extent: Extent, mm_per_px: float) -> list[Finding]:
    """Say when a marked eye is larger than an eye of this animal can be: it may be the socket or the face."""
    across = 2 * eye.iris.radius
    if extent.px <= 0 or across <= extent.most * extent.px:
        return []
    return [
        eye_check(
            "size",
            "Size",
            "look",
            f"{eye.name}: {mm_words(across * mm_per_px)} across is much for an eye.",
            f"{percent(across / extent.px)} of {extent.of}, at most {percent(extent.most)} · it may be the socket: drag its rim, or mark it anew",
            across * mm_per_px,
            eye.id,
            eye.iris.centre,
        )
    ]
