"""How long and how wide the hair of a part looks in the picture: a hint, with its doubt, or nothing."""

from dataclasses import dataclass
from math import exp, hypot

import numpy as np

from foxpath.core.arrays import F32, Bool
from foxpath.core.growth import ZoneField

ALONG, ACROSS = 50, 18
"""How far a place is read along and across the hair, to either side, pixels of the picture."""
PLACES, GROUPS = 180, 6
"""Most places that are read in a part, and the groups of them that are held against each other."""
GRAIN_PX = 2
"""Nearer than this along a hair the picture's grain would speak too."""
FEWEST = 60
"""With fewer places the picture says nothing."""
COARSE = 3.0
"""What is broader across the hair than this (a Gaussian's deviation, pixels) is form or marking, not hair."""
BROAD = 10.0
"""As `COARSE`, where the width of strands is read: broad ones count there."""
MOST_OFF = 2.0
"""A strip's contrasts count up to so many of their own deviations: the border of a marking must not outvote the hair."""
LAW = (0.40, 1.52, -0.22, -0.30, 0.62)
"""ln length = a + b ln along + c ln across + d ln crossing + e ln order, from made-up coats of two manners (tufted with light tips, and
plain) of 8 to 100 px, of blur 0.3 to 1.9 px, crossing by 3 to 16 degrees. On coats it was not learned from it is off by 31 % in the
median and by 70 % at the 90th percentile: a hint, no measure."""
LAW_DOUBT = 0.4
"""Deviation of the logarithm of a length that the law leaves: seven in ten lie within it."""
LEAST_COHERENCE = 0.4
"""Where neighbouring places agree less than this on the hair's axis, no strand can be followed."""
LONGEST_PX = 60.0
"""Hair that bends and crosses no longer looks alike beyond this: what is longer only looks at least so long."""
FINEST_PX = 3.3
"""Strands that look no wider than this may be as wide as the picture's blur, not as the hair."""
MOST_DOUBT = 0.5
"""Beyond this deviation of the logarithm a hint helps nobody."""


@dataclass(frozen=True, slots=True)
class Visible:
    """What a part's hair looks like in the picture.

    Attributes
    ----------
    length_px, width_px : float
        Of what can be followed as one strand, reference pixels.
    doubt : float
        Factor by which the length may be off to either side, 1.2 and more.
    least : bool
        Whether the hair is at least so long: beyond that the picture does not tell.
    blurred : bool
        Whether the width may be the picture's blur: hair is no wider, and may be finer.
    places : int
        How many places were read.
    """

    length_px: float
    width_px: float
    doubt: float
    least: bool
    blurred: bool
    places: int


def visible_hair(image: F32, scale: float, field: ZoneField, shown: Bool, coherence: float) -> Visible | None:
    """Return how long and wide a part's hair looks, or None where the picture does not say.

    Strips along the growth are laid straight. By how far along and across a strip stays like itself, hair is told.

    Parameters
    ----------
    image : (H, W) float32
        Logarithm of luminance, over the whole crop of the field's frame.
    scale : float
        Its pixels for one reference pixel.
    field : ZoneField
    shown : (h, w) bool
        Where the picture shows hair, on the field's window.
    coherence : float
        How much neighbouring places agree on the hair's axis there, 0 to 1.
    """
    cells = field.inside & shown
    rows, columns = np.nonzero(cells)
    if len(rows) < FEWEST or coherence < LEAST_COHERENCE:
        return None
    # The same places every time: a hint must not change by itself.
    few = np.random.default_rng(0).permutation(len(rows))[:PLACES]
    strips, inside = _strips(image, scale, field, cells, rows[few], columns[few])
    told = [_told(strips[..., group::GROUPS], inside[..., group::GROUPS]) for group in range(GROUPS)]
    read = np.array([one for one in told if one is not None])
    if len(read) < GROUPS - 1:
        return None
    lengths = LAW[0] + np.log(read[:, :-1]) @ LAW[1:]
    doubt = hypot(LAW_DOUBT, float(np.std(lengths)) / len(lengths) ** 0.5)
    if doubt > MOST_DOUBT:
        return None
    length, width = exp(float(np.mean(lengths))), 2 * float(np.median(read[:, -1]))
    least = length > LONGEST_PX
    return Visible(min(length, LONGEST_PX) / scale, width / scale, exp(doubt), least, width < FINEST_PX, len(few))


def _strips(
    image: F32, scale: float, field: ZoneField, cells: Bool, rows: np.ndarray, columns: np.ndarray
) -> tuple[F32, Bool]:
    """Return strips laid straight, (across, along, places), and where they lie on hair that is shown."""
    from scipy.ndimage import map_coordinates

    frame = field.frame
    to_px = frame.cell_px * scale
    start = np.stack([columns + 0.5, rows + 0.5], axis=1)
    line = np.empty((2 * ALONG + 1, len(rows), 2))
    line[ALONG] = start
    height, width = cells.shape

    def at(places: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        i = np.clip(places[..., 1].astype(int), 0, height - 1)
        return i, np.clip(places[..., 0].astype(int), 0, width - 1)

    for sign in (-1, 1):
        ahead = field.direction[at(start)]
        for step in range(1, ALONG + 1):
            before = line[ALONG + sign * (step - 1)]
            here = field.direction[at(before)]
            # Where root and tip change ends the strip runs on along the axis.
            ahead = np.where((here * ahead).sum(axis=-1, keepdims=True) < 0, -here, here)
            line[ALONG + sign * step] = before + sign * ahead / to_px
    way: np.ndarray = np.asarray(np.gradient(line, axis=0))
    way /= np.hypot(way[..., 0], way[..., 1])[..., None] + 1e-9
    side = np.arange(-ACROSS, ACROSS + 1)[:, None, None] / to_px
    x, y = line[None, ..., 0] - side * way[None, ..., 1], line[None, ..., 1] + side * way[None, ..., 0]
    i, j = np.floor(y).astype(int), np.floor(x).astype(int)
    there = (i >= 0) & (j >= 0) & (i < height) & (j < width)
    there &= cells[np.clip(i, 0, height - 1), np.clip(j, 0, width - 1)]
    places = [(y + field.row) * to_px - 0.5, (x + field.column) * to_px - 0.5]
    return np.asarray(map_coordinates(image, places, order=1, mode="nearest"), dtype=np.float32), there


def _told(strips: F32, inside: Bool) -> tuple[float, float, float, float, float] | None:
    """Return what strips tell of their hair; None where they show nothing.

    How far they stay half like themselves along and across (pixels), by how much hair crosses its growth (radians), how much of the
    light and dark has a direction at all (0 to 1), and how far they stay like themselves across where broad strands count too.
    """
    weight = inside.astype(np.float32)
    hair = _hair(strips, weight, COARSE)
    along, across, broad = (
        _alike(hair, weight, 1, GRAIN_PX, ALONG),
        _alike(hair, weight, 0, 0, 8),
        _alike(_hair(strips, weight, BROAD), weight, 0, 0, ACROSS),
    )
    if along is None or across is None or broad is None:
        return None
    return (along, across, *_crossing(strips, weight), broad)


def _hair(strips: F32, weight: F32, coarse: float) -> F32:
    """Return the light and dark between hairs, each strip by its own contrast."""
    from scipy.ndimage import gaussian_filter1d

    mean = gaussian_filter1d(strips * weight, coarse, axis=0) / (gaussian_filter1d(weight, coarse, axis=0) + 1e-6)
    hair = (strips - mean) * weight
    usual = np.sqrt((hair**2).sum(axis=(0, 1)) / (weight.sum(axis=(0, 1)) + 1e-6)) + 1e-6
    return np.asarray(np.clip(hair / usual, -MOST_OFF, MOST_OFF), dtype=np.float32)


def _alike(hair: F32, weight: F32, axis: int, nearest: int, farthest: int) -> float | None:
    """Return at which distance (pixels) along an axis strips are half as much like themselves as near by; None where they show nothing."""

    def likeness(lag: int) -> float:
        size = hair.shape[axis]
        first, second = (slice(None),) * axis + (slice(0, size - lag),), (slice(None),) * axis + (slice(lag, size),)
        common = float((weight[first] * weight[second]).sum())
        return float((hair[first] * hair[second]).sum()) / common if common > 0 else 0.0

    half = _half(np.array([likeness(lag) for lag in range(nearest, farthest)]))
    return None if half is None else half + nearest


def _crossing(strips: F32, weight: F32) -> tuple[float, float]:
    """Return by how much hair crosses the growth (a deviation in radians), and how much of it has a direction (0 to 1).

    By the structure tensor of the strips: what runs along them has its gradient across.
    """
    from scipy.ndimage import gaussian_filter

    soft = gaussian_filter(strips, (0.7, 0.7, 0))
    down, right = np.gradient(soft, axis=(0, 1))
    tensor = (right**2 - down**2, 2 * right * down, right**2 + down**2)
    cos, sin, whole = (gaussian_filter(one, (1.5, 1.5, 0)) for one in tensor)
    plain = np.hypot(cos, sin) * weight
    along = float((-cos * weight).sum()) / (float(plain.sum()) + 1e-9)
    order = float(plain.sum()) / (float((whole * weight).sum()) + 1e-9)
    return float(np.sqrt(max(-0.5 * np.log(max(along, 1e-3)), 1e-4))), max(order, 1e-3)


def _half(likeness: np.ndarray) -> float | None:
    """Return the lag at which a falling likeness is half its first, between two lags; None where it never is."""
    if likeness[0] <= 0:
        return None
    share = likeness / likeness[0]
    low = np.flatnonzero(share < 0.5)
    if not len(low):
        return float(len(share))
    k = int(low[0])
    return k - 1 + float((share[k - 1] - 0.5) / (share[k - 1] - share[k]))


def looks_like(length_mm: float, canvas_mm: float) -> str:
    """Return the key of the kind of coat that hair of this length is: short or long fur.

    Parameters
    ----------
    length_mm : float
        As seen, on the canvas.
    canvas_mm : float
        The canvas's longer side: the same animal painted larger has the same kind of coat.
    """
    return "long-fur" if length_mm > LONG_SHARE * canvas_mm else "short-fur"


LONG_SHARE = 0.031
"""Hair longer than this share of the canvas's longer side is long: halfway, by ratio, between the kinds' own lengths."""
