"""Films over a painting as it stands: a veil's colour over every colour, laid where it lies, and what must lie beneath it."""

from dataclasses import dataclass
from functools import cache

import numpy as np

from foxpath.core.arrays import F32, F64, I16, U8, Lab, frozen
from foxpath.core.colour import (
    lab_from_linear,
    lab_from_rgb8,
    linear_from_lab,
    linear_from_rgb,
    rgb8_from_lab,
    rgb_from_linear,
)
from foxpath.core.rehearsal.surface import LEVEL, SIDE, tooth

GRID = 9
"""Steps of red, green and blue at which a film is reckoned; it is even between them."""
FINE = 64
"""Steps at which it is looked up."""
STRIP = 256
"""Rows that are laid at a time: a large canvas is not copied as a whole."""
ROUNDS = 14
"""Steps toward the light beneath a film."""
PAPER, DARKEST, LEAST_GAIN = 0.86, 1e-3, 0.2
"""Light that the whitest paint throws back, the least light that is told, and the least that a colour beneath a scumble is darkened to."""
LUMINANCE = np.array([0.2126, 0.7152, 0.0722], np.float32)
"""Of linear sRGB (IEC 61966-2-1)."""


@dataclass(frozen=True, slots=True, eq=False)
class Film:
    """A film as it is laid.

    Attributes
    ----------
    shift : (64, 64, 64, 3) int16
        By how much it changes a colour of 8 bit sRGB, by its red, green and blue.
    share : (h, w) float32
        How far it lies, 0 to 1, over the whole canvas at any size.
    broken : bool
        Whether it is rubbed over, and catches on the tooth of the ground.
    """

    shift: I16
    share: F32
    broken: bool = False


@cache
def grounds() -> U8:
    """Return the colours a film is reckoned over, (729, 3) uint8 sRGB: red changes slowest."""
    steps = np.round(np.linspace(0, 255, GRID)).astype(np.uint8)
    made: U8 = frozen(np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(-1, 3))
    return made


def ground_labs() -> F64:
    """Return the same as (729, 3) CIELAB."""
    return np.asarray(lab_from_rgb8(np.ascontiguousarray(grounds()[None]))[0], np.float64)


def film_shift(looks: F64, *, darkens: bool) -> I16:
    """Return a film's shift of every colour from what it looks like over `grounds`.

    Parameters
    ----------
    looks : (729, 3) float64
        CIELAB.
    darkens : bool
        Whether it is a glaze, which only takes light: none of red, green and blue becomes more.
    """
    from scipy.ndimage import map_coordinates

    lab = np.asarray(looks, np.float32)
    shift = rgb8_from_lab(np.ascontiguousarray(lab[None]))[0].astype(np.float32) - grounds()
    if darkens:
        # What little it scatters would milk the darks: it is rubbed so thin there that they stay.
        shift = np.minimum(shift, 0)
    shift = shift.reshape(GRID, GRID, GRID, 3)
    at = (np.arange(FINE) + 0.5) / FINE * 256 / 255 * (GRID - 1)
    where = np.stack(np.meshgrid(at, at, at, indexing="ij"))
    made = [map_coordinates(shift[..., channel], where, order=1, mode="nearest") for channel in range(3)]
    out: I16 = frozen(np.round(np.stack(made, axis=-1)).astype(np.int16))
    return out


def _looked_up(shift: I16, rgb: U8) -> I16:
    at = rgb >> 2
    return np.asarray(shift[at[..., 0], at[..., 1], at[..., 2]])


def lay_film(canvas: U8, film: Film, px_per_mm: float, surface: str = "smooth") -> None:
    """Lay a film over a canvas in place; what is painted runs on beneath it.

    Parameters
    ----------
    canvas : (H, W, 3 or 4) uint8 sRGB
    film : Film
    px_per_mm : float
    surface : "smooth" or "toothed"
    """
    import cv2

    height, width = canvas.shape[:2]
    rows, columns = film.share.shape
    across = np.clip((np.arange(width) + 0.5) / width * columns - 0.5, 0, columns - 1).astype(np.float32)
    caught = tooth(px_per_mm, surface)[list(LEVEL).index("scumble")] if film.broken else None
    for top in range(0, height, STRIP):
        bottom = min(top + STRIP, height)
        down = np.clip((np.arange(top, bottom) + 0.5) / height * rows - 0.5, 0, rows - 1).astype(np.float32)
        x, y = (
            np.ascontiguousarray(np.broadcast_to(across, (bottom - top, width))),
            np.ascontiguousarray(np.broadcast_to(down[:, None], (bottom - top, width))),
        )
        share = cv2.remap(film.share, x, y, cv2.INTER_LINEAR)
        if not share.any():
            continue
        if caught is not None:
            i, j = np.arange(top, bottom) % SIDE, np.arange(width) % SIDE
            share = share * caught[i[:, None], j[None]]
        here = share > 0.004
        part = canvas[top:bottom, :, :3]
        own = np.asarray(part[here])
        moved = own + _looked_up(film.shift, own) * share[here][:, None]
        part[here] = np.clip(moved + 0.5, 0, 255).astype(np.uint8)


def caught_share(film: Film, px_per_mm: float, surface: str = "smooth") -> float:
    """Return what share of a film stays on the ground, 0 to 1: all of a glaze, less of what is rubbed over."""
    return float(tooth(px_per_mm, surface)[list(LEVEL).index("scumble")].mean()) if film.broken else 1.0


def beneath_film(lab: Lab, film: Film, stays: float = 1.0) -> Lab:
    """Return what must be painted for a film to bring it to the lightness that is wanted.

    Each colour is taken as if in more light (or less): its own light, times a number. Its hue is left to the film, for which it is
    laid. A glaze cannot make lighter than what it lies on: where no paint is light enough, the lightest is returned.

    Parameters
    ----------
    lab : (h, w, 3) float32
        What is wanted, on any grid of the whole canvas.
    film : Film
    stays : float
        As `caught_share`.
    """
    import cv2

    share = cv2.resize(film.share, (lab.shape[1], lab.shape[0]), interpolation=cv2.INTER_LINEAR) * np.float32(stays)
    here = np.nonzero(share > 0.004)
    if not len(here[0]):
        return lab
    wanted = np.maximum(linear_from_lab(np.ascontiguousarray(lab[here][None]))[0], 0)
    weight, light = share[here][:, None], np.maximum(wanted @ LUMINANCE, DARKEST)
    # The lightest paint there is bounds every colour.
    most = np.maximum(PAPER / np.maximum(wanted.max(axis=1), DARKEST), 1)
    gain = np.ones(len(light), np.float32)
    for _ in range(ROUNDS):
        # What a film takes is asked of the colour beneath, which is not known yet: step by step.
        beneath = rgb_from_linear(np.clip(wanted * gain[:, None], 0, 1)) * 255
        seen = beneath + _looked_up(film.shift, beneath.astype(np.uint8)) * weight
        now = np.maximum(linear_from_rgb(np.asarray(np.clip(seen / 255, 0, 1), np.float32)) @ LUMINANCE, DARKEST)
        gain = np.clip(gain * np.clip(light / now, 0.5, 2.0), LEAST_GAIN, most)
    made = lab.copy()
    made[here] = lab_from_linear(np.asarray(wanted * gain[:, None], np.float32))
    return np.asarray(made, np.float32)
