"""The health of a reference: blur, over-sharpening, noise, clipped lights, blocked darks, colour cast, flat focus.

Each is a map over the picture and a number; `judged` turns them into sentences. What was measured stays apart
from what is advised.
"""

from dataclasses import dataclass, fields, replace

import numpy as np

from foxpath.core.arrays import F32, Bool, Rgb8, frozen
from foxpath.core.colour import lab_from_linear, linear_from_rgb8
from foxpath.core.reporting import SILENT, Progress

ACROSS = 48
"""Tiles on the longer side of every map."""
_S1, _S2 = 1.0, 2.0
_CENTRAL = 1 / 3
"""Variance, px2, that a central difference over two pixels adds to a derivative."""
_LEAST_STEP = 12.0
"""Grey levels (of 255) that a step must have to be measured."""
_LEVELS = 4
BAND_PIXELS = 3_000_000
"""What is measured at a time."""
MARGIN = 128
"""Pixels around it that are looked at too."""


@dataclass(frozen=True, slots=True, eq=False)
class Health:
    """What was measured; maps are (rows, columns) float32 on tiles, NaN where nothing could be read.

    Attributes
    ----------
    blur_map : px
        Gaussian sigma of the edges in each tile, pixels of the picture.
    blur_px, blur_edges : float
        Median over all tiles, and from how many edge points it comes.
    overshoot_map, overshoot : share
        How far lights and darks overshoot beside edges, as a share of the edge's step (median of both sides).
    noise_map, noise : grey levels of 255
        Deviation of the grain; `noise` is that of the smoothest tenth of the picture.
    clipped_map, clipped : share of area
        Lights without information.
    blocked_map, blocked : share of area
        Darks without information.
    cast_map : Lab units
        Chroma of the near-neutral tones.
    cast : (a*, b*)
        How near-neutral tones, or the picked grey, lean.
    cast_from : "grey" or "tones"
    near_px, far_px : float
        Median blur of the subject and of its surroundings (NaN when unknown).
    """

    blur_map: F32
    blur_px: float
    blur_edges: int
    overshoot_map: F32
    overshoot: float
    noise_map: F32
    noise: float
    clipped_map: F32
    clipped: float
    blocked_map: F32
    blocked: float
    cast_map: F32
    cast: tuple[float, float]
    cast_from: str
    near_px: float = np.nan
    far_px: float = np.nan


@dataclass(frozen=True, slots=True, eq=False)
class EdgePoints:
    """Places on edges with their blur.

    Attributes
    ----------
    x, y : (N,) float32, px
    sigma : (N,) float32, px
    step : (N,) float32, grey levels
    level : (N,) int32
        How often the picture was halved to measure it.
    """

    x: F32
    y: F32
    sigma: F32
    step: F32
    level: np.ndarray[tuple[int, ...], np.dtype[np.int32]]


def luma_of(rgb: Rgb8) -> F32:
    """Return the (H, W) float32 grey levels, 0..255, of an sRGB picture."""
    import cv2

    return np.asarray(cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY), dtype=np.float32)


def tile_shape(height: int, width: int) -> tuple[int, int]:
    """Return rows and columns of the maps of a picture."""
    scale = ACROSS / max(height, width)
    return max(1, round(height * scale)), max(1, round(width * scale))


def edge_points(luma: F32, progress: Progress = SILENT) -> EdgePoints:
    """Measure the blur of every clear edge.

    The derivative along the normal is taken at two scales; for a step blurred by sigma their ratio R gives
    ``sigma^2 = (s2^2 - R^2 s1^2) / (R^2 - 1)``. Wide blurs are measured on halved pictures.

    References
    ----------
    After Elder and Zucker (1998), "Local scale control for edge detection and blur estimation",
    doi:10.1109/34.689301.
    """
    import cv2

    parts: list[tuple[F32, F32, F32, F32, int]] = []
    image = luma
    for level in range(_LEVELS):
        progress.at(0.5 * level / _LEVELS)
        if min(image.shape) < 24:
            break
        coarse = cv2.GaussianBlur(image, (0, 0), _S2)
        g2 = cv2.magnitude(cv2.Sobel(coarse, cv2.CV_32F, 1, 0, ksize=1), cv2.Sobel(coarse, cv2.CV_32F, 0, 1, ksize=1))
        # A step of the least size, blurred by 2.6 px and by s2, has this slope (central difference, times two).
        least = np.float32(2 * _LEAST_STEP / (np.sqrt(2 * np.pi) * np.hypot(2.6, _S2)))
        peak = (g2 >= cv2.dilate(g2, np.ones((3, 3), np.uint8))) & (g2 > least)
        peak[:4], peak[-4:], peak[:, :4], peak[:, -4:] = False, False, False, False
        i, j = np.nonzero(peak)
        if len(i) > 60_000:
            keep = np.arange(0, len(i), len(i) // 60_000 + 1)
            i, j = i[keep], j[keep]
        if len(i):
            fine = cv2.GaussianBlur(image, (0, 0), _S1)
            gx, gy = fine[i, j + 1] - fine[i, j - 1], fine[i + 1, j] - fine[i - 1, j]
            ratio = np.maximum(np.hypot(gx, gy) / g2[i, j], 1.0001) ** 2
            variance = ((_S2**2 + _CENTRAL) - ratio * (_S1**2 + _CENTRAL)) / (ratio - 1)
            sigma = np.sqrt(np.clip(variance, 0.04, 400))
            step = 0.5 * g2[i, j] * np.sqrt(2 * np.pi) * np.sqrt(np.minimum(sigma, 3) ** 2 + _S2**2)
            scale = 2**level
            # Halving by means adds the variance of a box.
            own = np.sqrt(np.maximum((sigma * scale) ** 2 - (scale**2 - 1) / 12, 0.01))
            good = (sigma <= 2.6) & (step >= _LEAST_STEP) & ((sigma > 0.9) | (level == 0))
            parts.append(
                (
                    ((j[good] + 0.5) * scale).astype(np.float32),
                    ((i[good] + 0.5) * scale).astype(np.float32),
                    own[good].astype(np.float32),
                    step[good].astype(np.float32),
                    level,
                )
            )
        half = (image.shape[1] // 2, image.shape[0] // 2)
        image = np.asarray(cv2.resize(image, half, interpolation=cv2.INTER_AREA), dtype=np.float32)
    if not parts:
        none = np.zeros(0, np.float32)
        return EdgePoints(none, none, none, none, np.zeros(0, np.int32))
    x, y, sigma, step = (np.concatenate([part[k] for part in parts]) for k in range(4))
    levels = np.concatenate([np.full(len(part[0]), part[4], np.int32) for part in parts])
    return EdgePoints(x, y, sigma, step, levels)


def _blur_tiles(points: EdgePoints, shape: tuple[int, int], height: int, width: int) -> tuple[F32, int]:
    """Return the tiles' median blur: of the finest level at which most of a tile's edges can be measured."""
    rows, columns = shape
    made = np.full(rows * columns, np.nan, np.float32)
    tile = (points.y * (rows / height)).astype(int) * columns + (points.x * (columns / width)).astype(int)
    order = np.lexsort((points.level, tile))
    tile, level, sigma, step = tile[order], points.level[order], points.sigma[order], points.step[order]
    starts = np.flatnonzero(np.r_[True, np.diff(tile) != 0]) if len(tile) else np.zeros(0, int)
    used = 0
    for first, last in zip(starts, np.r_[starts[1:], len(tile)].astype(int), strict=False):
        # Each level has a quarter of the places of the one before: counts are made comparable by edge length.
        weight = 2.0 ** level[first:last] * np.minimum(step[first:last], 60)
        values = sigma[first:last]
        # The coarser the level, the fewer places the same length of edge has.
        if float((2.0 ** level[first:last]).sum()) < 6:
            continue
        rank = np.argsort(values)
        total = np.cumsum(weight[rank])
        made[tile[first]] = values[rank][np.searchsorted(total, total[-1] / 2)]
        used += int(last - first)
    return made.reshape(shape), used


def overshoots(luma: F32, points: EdgePoints, noise: float, most: int = 4000) -> tuple[F32, F32, F32]:
    """Measure the halo beside the clearest edges.

    Returns
    -------
    x, y : (N,) float32
    share : (N,) float32
        Mean of the two overshoots over the edge's step; 0 for an edge without halo.
    """
    import cv2

    sharp = np.flatnonzero((points.sigma < 2.4) & (points.step > 24))
    if len(sharp) > most:
        sharp = sharp[np.argsort(-points.step[sharp], kind="stable")[:most]]
    x, y = points.x[sharp], points.y[sharp]
    if not len(sharp):
        return x, y, x
    soft = cv2.GaussianBlur(luma, (0, 0), 1.2)
    i, j = np.clip(y.astype(int), 1, luma.shape[0] - 2), np.clip(x.astype(int), 1, luma.shape[1] - 2)
    gx, gy = soft[i, j + 1] - soft[i, j - 1], soft[i + 1, j] - soft[i - 1, j]
    size = np.maximum(np.hypot(gx, gy), 1e-6)
    along = np.arange(-10, 10.01, 0.5, dtype=np.float32)
    px = (x - 0.5)[:, None] + (gx / size)[:, None] * along
    py = (y - 0.5)[:, None] + (gy / size)[:, None] * along
    line = cv2.remap(
        luma, px.astype(np.float32), py.astype(np.float32), cv2.INTER_LINEAR, borderMode=cv2.BORDER_REFLECT
    )
    dark, light = line[:, along <= -6.5], line[:, along >= 6.5]
    low, high = np.median(dark, axis=1), np.median(light, axis=1)
    step = high - low
    # Only edges between two even sides tell a halo from the next hair.
    even = (np.ptp(dark, axis=1) < 0.16 * step + 3 * noise) & (np.ptp(light, axis=1) < 0.16 * step + 3 * noise)
    good = even & (step > 24)
    near = line[:, np.abs(along) < 6]
    over = near.max(axis=1) - high - 1.6 * noise
    under = low - near.min(axis=1) - 1.6 * noise
    share = np.clip(over, 0, None) + np.clip(under, 0, None)
    return x[good], y[good], (0.5 * share[good] / np.maximum(step[good], 1)).astype(np.float32)


def _tiled(values: F32, shape: tuple[int, ...]) -> F32:
    """Average a full-size map over the tiles."""
    import cv2

    return np.asarray(cv2.resize(values, (shape[1], shape[0]), interpolation=cv2.INTER_AREA), dtype=np.float32)


@dataclass(frozen=True, slots=True)
class _Band:
    """Rows of tiles that are measured at a time: their pixels `first` to `last`, and `top` to `bottom` around them."""

    tiles: tuple[int, int]
    first: int
    last: int
    top: int
    bottom: int


@dataclass(frozen=True, slots=True, eq=False)
class _BandReading:
    points: EdgePoints
    noise: F32
    tone: F32
    clipped: F32
    blocked: F32


def _edge_of(row: int, rows: int, height: int) -> int:
    return round(row * height / rows)


def _bands(shape: tuple[int, int], height: int, width: int) -> list[_Band]:
    """Cut a picture into bands of whole tiles: what is worked out of one is forgotten before the next."""
    rows = shape[0]
    each = max(1, round(rows * BAND_PIXELS / (height * width)))
    made = []
    for row in range(0, rows, each):
        first, last = _edge_of(row, rows, height), _edge_of(min(row + each, rows), rows, height)
        # Around it as far as the widest blur reaches; a multiple of eight, so that halved pictures fall together.
        top = max(0, (first - MARGIN) // 8 * 8)
        made.append(_Band((row, min(row + each, rows)), first, last, top, min(height, last + MARGIN)))
    return made


def _read_band(source: Rgb8, band: _Band, columns: int, progress: Progress) -> _BandReading:
    """Measure one band; its points are given in pixels of the whole picture."""
    import cv2

    part = source[band.top : band.bottom]
    luma = luma_of(part)
    points = edge_points(luma, progress)
    ours = (points.y >= band.first - band.top) & (points.y < band.last - band.top)
    kept = EdgePoints(*(getattr(points, f.name)[ours] for f in fields(EdgePoints)))
    kept = replace(kept, y=kept.y + np.float32(band.top))
    inner = slice(band.first - band.top, band.last - band.top)
    shape = (band.tiles[1] - band.tiles[0], columns)

    kernel = np.array([[1, -2, 1], [-2, 4, -2], [1, -2, 1]], np.float32)
    rough = np.asarray(np.abs(cv2.filter2D(luma, cv2.CV_32F, kernel)), dtype=np.float32)
    # Immerkaer (1996), "Fast noise variance estimation", doi:10.1006/cviu.1996.0060.
    noise = _tiled(rough[inner], shape) * np.float32(np.sqrt(np.pi / 2) / 6)

    red, green, blue = cv2.split(part)
    lightest = np.asarray(cv2.max(cv2.max(red, green), blue))
    square = np.ones((3, 3), np.uint8)
    clipped = np.asarray(cv2.erode((lightest >= 254).astype(np.float32), square), dtype=np.float32)
    blocked = np.asarray(cv2.erode((lightest <= 5).astype(np.float32), square), dtype=np.float32)
    return _BandReading(
        kept, noise, _tiled(luma[inner], shape), _tiled(clipped[inner], shape), _tiled(blocked[inner], shape)
    )


def _mean_over(values: F32, shape: tuple[int, int], height: int) -> float:
    """Return a map's mean over the picture: rows of tiles may differ by a pixel."""
    rows = [_edge_of(row + 1, shape[0], height) - _edge_of(row, shape[0], height) for row in range(shape[0])]
    return float(np.average(values.mean(axis=1), weights=rows))


def tiled(mask: Bool, shape: tuple[int, ...]) -> Bool:
    """Return which tiles lie mostly within a mask of any size."""
    return np.asarray(_tiled(mask.astype(np.float32), shape) > 0.5)


def measured(source: Rgb8, shown: Rgb8, grey: tuple[float, float] | None = None, progress: Progress = SILENT) -> Health:
    """Measure the health of a picture.

    Parameters
    ----------
    source : (H, W, 3) uint8 sRGB
        As it came: what is clipped here holds no information, whatever was corrected later.
    shown : (H, W, 3) uint8 sRGB
        As corrected.
    grey : (a*, b*) or None
        Colour of the picked grey in `shown`.
    progress : Progress

    Raises
    ------
    Cancelled
    """
    height, width = source.shape[:2]
    shape = tile_shape(height, width)
    bands = _bands(shape, height, width)
    read = []
    for number, band in enumerate(bands):
        progress.at(0.02 + 0.6 * number / len(bands), "measuring sharpness, grain, lost lights and darks")
        read.append(_read_band(source, band, shape[1], progress))
    points = EdgePoints(*(np.concatenate([getattr(one.points, f.name) for one in read]) for f in fields(EdgePoints)))
    blur_map, used = _blur_tiles(points, shape, height, width)
    noise_map, tone, clipped_map, blocked_map = (
        np.concatenate([getattr(one, name) for one in read]) for name in ("noise", "tone", "clipped", "blocked")
    )
    told = (tone > 8) & (tone < 247)
    noise = float(np.percentile(noise_map[told], 10)) if told.any() else 0.0

    halos = []
    for number, (band, one) in enumerate(zip(bands, read, strict=True)):
        progress.at(0.65 + 0.2 * number / len(bands), "looking for halos")
        luma = luma_of(source[band.top : band.bottom])
        local = replace(one.points, y=one.points.y - np.float32(band.top))
        x, y, share = overshoots(luma, local, noise, most=4000 // len(bands))
        halos.append((x, y + np.float32(band.top), share))
    x, y, share = (np.concatenate([one[k] for one in halos]) for k in range(3))
    overshoot_map = _mean_in_tiles(x, y, share, shape, height, width)
    overshoot = float(np.median(share)) if len(share) >= 12 else 0.0

    progress.at(0.85, "reading the colour cast")
    cast_map, tones = _cast(shown, shape)
    progress.at(1)
    return Health(
        frozen(blur_map),
        float(np.nanmedian(blur_map)) if np.isfinite(blur_map).any() else np.nan,
        used,
        frozen(overshoot_map),
        overshoot,
        frozen(noise_map),
        noise,
        frozen(clipped_map),
        _mean_over(clipped_map, shape, height),
        frozen(blocked_map),
        _mean_over(blocked_map, shape, height),
        frozen(cast_map),
        grey if grey is not None else tones,
        "grey" if grey is not None else "tones",
    )


def near_and_far(health: Health, near: Bool) -> Health:
    """Return the measures with the blur of the subject and of its surroundings told apart.

    Parameters
    ----------
    health : Health
    near : (h, w) bool
        The subject, on a grid of any size over the picture. A side with fewer than four tiles stays unknown.
    """
    there = tiled(near, health.blur_map.shape)
    known = np.isfinite(health.blur_map)
    if (known & there).sum() < 4 or (known & ~there).sum() < 4:
        return health
    near_px, far_px = (float(np.nanmedian(health.blur_map[side])) for side in (there, ~there))
    return replace(health, near_px=near_px, far_px=far_px)


def _mean_in_tiles(x: F32, y: F32, values: F32, shape: tuple[int, int], height: int, width: int) -> F32:
    rows, columns = shape
    tile = (y * (rows / height)).astype(int) * columns + (x * (columns / width)).astype(int)
    count = np.bincount(tile, minlength=rows * columns).astype(np.float32)
    total = np.bincount(tile, weights=values, minlength=rows * columns)
    mean = np.where(count >= 2, total / np.maximum(count, 1), np.nan)
    return mean.reshape(shape).astype(np.float32)


def _cast(rgb: Rgb8, shape: tuple[int, int]) -> tuple[F32, tuple[float, float]]:
    """Return the chroma of near-neutral tones on the tiles, and how they lean on the whole."""
    import cv2

    fine = cv2.resize(rgb, (4 * shape[1], 4 * shape[0]), interpolation=cv2.INTER_AREA)
    lab = lab_from_linear(linear_from_rgb8(np.asarray(fine, np.uint8)))
    neutral = (np.hypot(lab[..., 1], lab[..., 2]) < 14) & (lab[..., 0] > 15) & (lab[..., 0] < 92)
    weight = neutral.astype(np.float32)
    share = _tiled(weight, shape)
    lean = np.stack([_tiled(lab[..., k] * weight, shape) for k in (1, 2)]) / np.maximum(share, 1e-6)
    made = np.where(share > 0.2, np.hypot(*lean), np.nan).astype(np.float32)
    if not neutral.any():
        return made, (0.0, 0.0)
    return made, (float(lab[..., 1][neutral].mean()), float(lab[..., 2][neutral].mean()))
