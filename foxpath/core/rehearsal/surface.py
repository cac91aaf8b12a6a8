"""What paint does on its ground and over other paint: the tooth it catches, what it picks up, and thick paint in the light."""

import math
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from foxpath.core.arrays import F32, U8, frozen
from foxpath.core.rehearsal.marks import Marks

SIDE = 256
"""Pixels after which a tooth repeats."""
THREAD_MM = {"smooth": 0.28, "toothed": 0.62}
"""From one thread or grain to the next."""
ROUGH = {"smooth": 0.45, "toothed": 1.0}
"""How far its heights differ, 0 to 1."""
LEVEL = {"dry": 0.46, "scumble": 0.34, "opaque": 0.2}
"""Height below which nothing stays, of nearly dry paint, of thin paint, and on a toothed ground of paint that covers."""
_FINE = 4
"""Each pixel's share is the mean of so many heights squared: threads may be finer than a pixel."""

STAIN = 0.12
"""Up to this thickness paint runs into the tooth."""
STANDS_UP = 0.75
"""From this thickness on paint catches the light."""
ROOM_LIGHT = (-0.6, -0.8)
"""Where a painting is lit from on the wall: above and to the left, whatever the light in the reference."""


@lru_cache(maxsize=8)
def tooth(px_per_mm: float, surface: str = "smooth") -> F32:
    """Return what share of the paint of each `LEVEL` stays on each pixel, (3, 256, 256) float32, 0..1; it repeats.

    Parameters
    ----------
    px_per_mm : float
    surface : "smooth" or "toothed"
        A gessoed panel with a fine grain, or a woven canvas.
    """
    fine = SIDE * _FINE
    threads = max(4, round(SIDE / px_per_mm / THREAD_MM[surface]))
    rng = np.random.default_rng(31)
    spectrum = np.fft.rfft2(rng.standard_normal((fine, fine)))
    fy, fx = np.fft.fftfreq(fine)[:, None] * fine, np.fft.rfftfreq(fine)[None] * fine
    far = np.hypot(fy, fx) / threads
    grain = np.fft.irfft2(spectrum * np.exp(-((far / 0.9) ** 2)), s=(fine, fine))
    grain /= 3.2 * grain.std()
    if surface == "toothed":
        # Threads go over and under each other by turns.
        u = np.arange(fine) * math.pi * threads / fine
        weave = np.maximum(
            np.abs(np.sin(u))[None, :] * (np.cos(u)[:, None] > 0), np.abs(np.sin(u))[:, None] * (np.cos(u)[None, :] > 0)
        )
        height = 0.62 * weave + 0.45 * grain + 0.22
    else:
        height = 0.5 + grain
    height = 0.5 + ROUGH[surface] * (height - 0.5)
    made = []
    for level in LEVEL.values():
        share = np.clip((height - level) / 0.16 + 0.5, 0, 1)
        made.append(share.reshape(SIDE, _FINE, SIDE, _FINE).mean(axis=(1, 3)))
    return frozen(np.stack(made).astype(np.float32))


def manner_of(marks: Marks, surface: str) -> int:
    """Return how a rasteriser lays marks on a surface: 0 covers, 1 lies transparent, from 2 on they catch a tooth of `tooth`."""
    if marks.handling == "glaze":
        return 1
    if marks.handling == "opaque" and (surface != "toothed" or not STAIN < marks.body < STANDS_UP):
        return 0
    return 2 + list(LEVEL).index(marks.handling)


def picked_up(marks: Marks, beneath: U8, px_per_mm: float) -> Marks:
    """Return marks that took up some of the wet paint they were drawn through: of their root, where the brush was set down.

    Parameters
    ----------
    marks : Marks
    beneath : (H, W, 4) uint8
        The painting before the pass.
    px_per_mm : float
    """
    if marks.picks <= 0 or not len(marks.half_mm):
        return marks
    height, width = beneath.shape[:2]
    j = np.clip((marks.lines_mm[:, 0, 0] * px_per_mm).astype(int), 0, width - 1)
    i = np.clip((marks.lines_mm[:, 0, 1] * px_per_mm).astype(int), 0, height - 1)
    under = beneath[i, j, :3].astype(np.float32) / 255
    share = np.float32(marks.picks)
    return replace(marks, colour=frozen(np.asarray(marks.colour * (1 - share) + under * share, np.float32)))


def in_relief(groups: Sequence[Marks]) -> list[Marks]:
    """Return groups of marks, thick ones with the shade they throw before them and the light on their ridge after them."""
    made: list[Marks] = []
    for marks in groups:
        if marks.body < STANDS_UP or not len(marks.half_mm) or marks.handling != "opaque":
            made.append(marks)
            continue
        lift = np.float32(0.5 * marks.body) * marks.half_mm[:, None, None]
        way = np.array(ROOM_LIGHT, np.float32)
        shade = replace(
            marks,
            lines_mm=frozen(marks.lines_mm - way * lift),
            colour=frozen(marks.colour * np.float32(0.55)),
            alpha=frozen(marks.alpha * np.float32(0.22)),
        )
        ridge = replace(
            marks,
            lines_mm=frozen(marks.lines_mm + way * np.float32(0.8) * lift),
            half_mm=frozen(marks.half_mm * np.float32(0.3)),
            colour=frozen(np.minimum(marks.colour * np.float32(1.12) + np.float32(0.03), 1)),
            alpha=frozen(marks.alpha * np.float32(0.5)),
        )
        made += [shade, marks, ridge]
    return made
