"""A planned canvas of parts in even colours, 250 by 200 mm: every figure of those who judge it can be reckoned by hand."""

from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.progress.planned import PlannedPart
from tests.canvas import HEIGHT, WIDTH, painted, planned, seen_as

RING, BAND, EYE, SPECK = 1, 2, 3, 4
COLOURS = {0: (60, 0, 4), RING: (50, 20, 30), BAND: (40, 2, 3), EYE: (12, 1, 1), SPECK: (70, 10, 10)}
PARTS = (
    PlannedPart("z1", "Background", "background"), PlannedPart("z2", "Ring", "long-fur", "", 12.0, True),
    PlannedPart("z3", "Band", "short-fur", "", 6.0, True), PlannedPart("z4", "Eye", "eye"), PlannedPart("z5", "Speck", "bare"),
)  # fmt: skip
CENTRE = (220, 240)


def _labels():
    made = np.zeros((HEIGHT, WIDTH), np.uint8)
    cv2.circle(made, CENTRE, 168, RING, -1)
    cv2.circle(made, CENTRE, 108, 0, -1)
    made[120:360, 456:552] = BAND
    cv2.circle(made, CENTRE, 36, EYE, -1)
    made[12:24, 12:24] = SPECK
    return made.astype(np.int16)


LABELS = _labels()


def lab(**off):
    """Return the canvas in its even colours, some parts changed by so much."""
    made = np.zeros((HEIGHT, WIDTH, 3), np.float32)
    for part, colour in COLOURS.items():
        made[part == LABELS] = np.add(colour, off.get(f"p{part}", (0, 0, 0)))
    return made


def flat(**changes):
    return replace(planned(), lab=lab(), other_lab=lab(), labels=LABELS, parts=PARTS, eyes=(), edges=(), **changes)


def seen(fine, plan, **changes):
    """Return a canvas of such CIELAB as it is seen: nothing of it lies off by more than half a millimetre."""
    return replace(seen_as(painted(0), plan), fine=fine, **{"registration_mm": 0.5, **changes})
