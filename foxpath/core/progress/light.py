"""The light on a photograph of the canvas: brightness and colour over it, a tone curve, and glare.

``log photo = polynomial(x, y) + (1 + g) log plan`` in linear light, robustly over the parts; one g for all channels (with one each the
colours drift). The planned colours settle it, and a known spot (grey card, a dry pile) says how light and warm the whole is. Without one a
photograph only tells what is lighter *than the rest*.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Rgb8
from foxpath.core.colour import linear_from_lab, linear_from_rgb8, rgb_from_linear
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.small import blur, grown

CELL_MM, SQUINT_MM = 3.0, 2.5
FLOOR = np.float32(0.003)
"""Added to linear light before its logarithm: beneath it a camera sees noise."""
DEGREE = 2
RIDGE = 0.1
"""How strongly the curved terms are held to none: left free they swallow a background that is off."""
MOST_TONE = 0.2
ROUNDS = 15
GLARE_LINEAR, GLARE_GREY, GLARE_MM, GLARE_GROWN_MM = 0.035, 0.55, 9.0, 12.0
GLARE_STEEP = 0.05
"""A lamp's reflection fades out: a patch whose rim falls by more than this share of its height a mm was painted."""
SKIRT_MM, MOST_SKIRT = 55.0, 0.06
_ENCODE = rgb_from_linear(np.linspace(0, 1, 8193, dtype=np.float32))


@dataclass(frozen=True, slots=True, eq=False)
class Balance:
    """How light was taken out.

    Attributes
    ----------
    linear : (H, W, 3) float32
        The canvas as it would look in the plan's light.
    slope : float
        By how much the light falls off from one end of the canvas to the other, as a factor.
    by : str
        "plan", or "spot" where a known spot said the level.
    """

    linear: F32
    slope: float
    by: str


def lab_from_balanced(linear: F32) -> F32:
    """Return CIELAB of (H, W, 3) balanced linear light; what is brighter than white is white."""
    rgb = _ENCODE[np.clip(linear * 8192 + 0.5, 0, 8192).astype(np.int32)]
    return np.asarray(cv2.cvtColor(rgb, cv2.COLOR_RGB2LAB), np.float32)


def _basis(x: F32, y: F32) -> F32:
    """Return the terms of the polynomial at x and y (-1 to 1), the last axis the term; the constant first."""
    terms = [x**i * y**j for i in range(DEGREE + 1) for j in range(DEGREE + 1 - i)]
    return np.stack(terms, axis=-1).astype(np.float32)


_CURVED = [k for k, n in enumerate(i + j for i in range(DEGREE + 1) for j in range(DEGREE + 1 - i)) if n > 1]


def _grid(rows: int, columns: int) -> tuple[F32, F32]:
    y, x = np.mgrid[:rows, :columns].astype(np.float32)
    return (x + 0.5) / columns * 2 - 1, (y + 0.5) / rows * 2 - 1


def balance(
    planned: Planned, rgb: Rgb8, seen: Bool, *, without: Bool | None = None, spots: Sequence[tuple[F64, F64, F32]] = ()
) -> Balance:
    """Take the light out of a photograph that is squared up.

    Parameters
    ----------
    planned : Planned
    rgb : (H, W, 3) uint8 sRGB
    seen : (H, W) bool
        What the photograph shows.
    without : (H, W) bool, optional
        What must not vote: glare.
    spots : sequence of (x and y in -1 to 1 over the canvas, linear colour there, CIELAB it has), optional
        Known spots; places beyond the canvas are taken at 1.2 at most.
    """
    width, height = planned.size
    cell = max(1, int(CELL_MM * planned.px_per_mm))
    columns, rows = max(4, width // cell), max(4, height // cell)
    squint = SQUINT_MM * planned.px_per_mm / cell

    def coarse(linear: F32) -> F32:
        return blur(cv2.resize(linear, (columns, rows), interpolation=cv2.INTER_AREA), squint)

    source = linear_from_rgb8(rgb)
    plan = coarse(linear_from_rgb8(planned.rgb))
    a, b = np.log(coarse(source) + FLOOR), np.log(plan + FLOOR)
    labels = cv2.resize(planned.labels, (columns, rows), interpolation=cv2.INTER_NEAREST)
    _, place, count = np.unique(labels, return_inverse=True, return_counts=True)
    # A part votes with the root of its area: a large background does not outvote the animal.
    weight = (count[place].reshape(labels.shape) ** -0.5).astype(np.float32)
    steep = np.hypot(cv2.Sobel(b[..., 1], -1, 1, 0), cv2.Sobel(b[..., 1], -1, 0, 1))
    weight = weight / (1 + (steep / 0.4) ** 2)
    good = cv2.resize(seen.astype(np.uint8), (columns, rows), interpolation=cv2.INTER_NEAREST) > 0
    good &= (a.max(axis=-1) < -0.06) & (plan[..., 1] > 0.009)
    if without is not None:
        good &= cv2.resize(without.astype(np.uint8), (columns, rows), interpolation=cv2.INTER_NEAREST) == 0
    x, y = _grid(rows, columns)
    terms = _basis(x, y)
    if good.sum() < 40:
        return Balance(source, 1.0, "plan")
    lightness = b[good].mean(axis=-1)
    middle = float(lightness.mean())
    poly, tone = _fit(terms[good], lightness - middle, (a - b)[good], weight[good])
    by = "plan"
    if spots:
        if len(spots) >= LEAST_BORDER:
            # What is painted too dark would pass for a curve of the camera's: of that little is believed where the light is known.
            tone *= CURVE_BELIEVED
        poly, by = _levelled(poly, tone, middle, spots), "spot"
    # Few terms: reckoned at full size they cost less than being laid out there.
    low = cv2.resize(terms @ poly.astype(np.float32), (width, height), interpolation=cv2.INTER_CUBIC)
    logs = cv2.log(source + FLOOR) - low
    logs = (logs + np.float32(tone * middle)) / np.float32(1 + tone)
    made = np.clip(cv2.exp(logs) - FLOOR, 0, 1.5)
    over = (terms @ poly.astype(np.float32)).mean(axis=-1)
    slope = float(np.exp(np.percentile(over, 98) - np.percentile(over, 2)))
    return Balance(np.asarray(made, np.float32), slope, by)


def _fit(terms: F32, lightness: F32, ratio: F32, weight: F32) -> tuple[F64, float]:
    """Fit the polynomial (terms, 3) and the tone's g by Tukey's weights, ever narrower."""
    x = np.c_[terms, lightness].astype(np.float64)
    target, base = ratio.astype(np.float64), weight.astype(np.float64)
    w, found = base.copy(), np.zeros((x.shape[1], 3))
    tone = 0.0
    for n in range(ROUNDS):
        cut = max(0.35 * 0.77**n, 0.12)
        left = x * w[:, None]
        square = left.T @ x
        square[-1, -1] += 0.05 * w.sum()
        square[_CURVED, _CURVED] += RIDGE * w.sum()
        found = np.linalg.solve(square, left.T @ target)
        tone = float(np.clip(found[-1].mean(), -MOST_TONE, MOST_TONE))
        found[:-1] = np.linalg.solve(square[:-1, :-1], left[:, :-1].T @ (target - x[:, -1:] * tone))
        off = np.sqrt(((target - x[:, :-1] @ found[:-1] - x[:, -1:] * tone) ** 2).mean(axis=1))
        w = base * np.clip(1 - (off / (2.2 * cut)) ** 2, 0, 1) ** 2 + 1e-9
    return found[:-1], tone


def _levelled(poly: F64, tone: float, middle: float, spots: Sequence[tuple[F64, F64, F32]]) -> F64:
    """Return the polynomial lifted so that known spots read as they are."""
    if len(spots) >= LEAST_BORDER:
        return _levelled_by_border(tone, middle, spots)
    lifts = []
    for at, linear, lab in spots:
        x, y = np.clip(at, -1.2, 1.2)
        there = (_basis(np.array(x, np.float32), np.array(y, np.float32)) @ poly.astype(np.float32)).astype(np.float64)
        known = np.log(np.clip(linear_from_lab(lab), 0, 1).astype(np.float64) + float(FLOOR))
        wanted = np.log(linear + float(FLOOR)) - known - tone * (known.mean() - middle)
        lifts.append(wanted - there)
    made = poly.copy()
    made[0] += np.mean(lifts, axis=0)
    return made


CURVE_BELIEVED = 0.15
"""How much of the curve of tones that the plan suggests is believed beside a known border."""
LEAST_BORDER = 16
"""So many known spots all round the canvas tell how its light falls, not only how strong it is."""
BORDER_OFF, BORDER_KEPT = 0.12, 0.6
"""How far (ln) a place of a plain border may lie off a smooth fall of light, and the share of places that must not."""


def _levelled_by_border(tone: float, middle: float, spots: Sequence[tuple[F64, F64, F32]]) -> F64:
    """Return the polynomial of the light that known spots all round the canvas tell: the plan has no say in it."""
    terms, seen = _round_it(spots)
    known = np.log(np.array([np.clip(linear_from_lab(lab), 0, 1) for _, _, lab in spots], np.float64) + float(FLOOR))
    wanted = seen - known - tone * (known.mean(axis=1, keepdims=True) - middle)
    return _smooth_light(terms, wanted)[0]


def _round_it(spots: Sequence[tuple[F64, F64, F32]]) -> tuple[F64, F64]:
    """Return the polynomial's terms at known spots, and the light that is seen there (ln)."""
    at = np.clip(np.array([one[0] for one in spots]), -1.2, 1.2).astype(np.float32)
    seen = np.log(np.maximum([linear for _, linear, _ in spots], 0) + float(FLOOR))
    return _basis(at[:, 0], at[:, 1]).astype(np.float64), seen


def _smooth_light(terms: F64, wanted: F64) -> tuple[F64, F64]:
    """Fit a smooth fall of light to places round the canvas; return its terms, and how far each place lies off it (ln)."""
    keep = np.ones(len(terms), bool)
    off = np.zeros(len(terms))
    found: F64 = np.zeros((terms.shape[1], wanted.shape[1]))
    for _ in range(4):
        square = terms[keep].T @ terms[keep]
        # A rim says little of what curves in the middle.
        square[_CURVED, _CURVED] += RIDGE * keep.sum()
        found = np.asarray(np.linalg.solve(square + 1e-6 * np.eye(len(square)), terms[keep].T @ wanted[keep]))
        off = np.abs(wanted - terms @ found).max(axis=1)
        keep = off <= max(BORDER_OFF, float(np.median(off)))
    return found, off


def border_is_plain(spots: Sequence[tuple[F64, F64, F32]]) -> bool:
    """Tell whether places round a canvas are of one colour under light that falls smoothly, most of them."""
    if len(spots) < LEAST_BORDER:
        return False
    _, off = _smooth_light(*_round_it(spots))
    return float((off <= BORDER_OFF).mean()) >= BORDER_KEPT


def glare_of(planned: Planned, linear: F32) -> tuple[Bool, F32]:
    """Find glare: light of the lamp's colour that is added, smooth, careless of parts.

    Returns
    -------
    mask : (H, W) bool
        What cannot be judged.
    amount : (H, W) float32
        Linear light too much in every channel.
    """
    width, height = planned.size
    cell = max(1, int(planned.px_per_mm))
    size = (max(4, width // cell), max(4, height // cell))
    mm = planned.px_per_mm / cell

    def coarse(one: F32) -> F32:
        return blur(cv2.resize(one, size, interpolation=cv2.INTER_AREA), 3 * mm)

    more = coarse(linear) - coarse(linear_from_rgb8(planned.rgb))
    amount = blur(more.min(axis=-1), 4 * mm)
    spread = more.max(axis=-1) - more.min(axis=-1)
    mask = ((amount > GLARE_LINEAR) & (spread < GLARE_GREY * np.maximum(more.max(axis=-1), 0.02))).astype(np.uint8)
    _, pieces, stats, _ = cv2.connectedComponentsWithStats(mask)
    large = np.flatnonzero(stats[:, cv2.CC_STAT_AREA] >= np.pi * (GLARE_MM * mm) ** 2)
    gx, gy = cv2.Sobel(amount, cv2.CV_32F, 1, 0, scale=1 / 8), cv2.Sobel(amount, cv2.CV_32F, 0, 1, scale=1 / 8)
    slope = np.hypot(gx, gy) * mm
    keep = np.zeros(mask.shape, bool)
    for one in large[large > 0]:
        mine = pieces == one
        about = grown(mine, 6 * mm) > 0
        if float(np.percentile(slope[about], 80)) < GLARE_STEEP * float(np.percentile(amount[mine], 95)):
            keep |= mine
    keep = grown(keep, GLARE_GROWN_MM / 2 * mm) > 0
    whole = cv2.resize(keep.astype(np.uint8), (width, height), interpolation=cv2.INTER_NEAREST) > 0
    return whole, np.asarray(cv2.resize(amount, (width, height)), np.float32)


def without_skirt(planned: Planned, linear: F32, mask: Bool, amount: F32) -> F32:
    """Take off the faint skirt round glare: its smooth part, within a hand's breadth of it."""
    if not mask.any():
        return linear
    cell = 8
    width, height = planned.size
    size = (max(2, width // cell), max(2, height // cell))
    near = cv2.resize(mask.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST)
    far_mm = cv2.distanceTransform(1 - near, cv2.DIST_L2, 3) * cell / planned.px_per_mm
    skirt = blur(np.clip(cv2.resize(amount, size), 0, MOST_SKIRT), 6 * planned.px_per_mm / cell)
    skirt = skirt * np.clip((SKIRT_MM - far_mm) / 20, 0, 1).astype(np.float32)
    wide = cv2.resize(np.asarray(skirt, np.float32), (width, height))
    return np.asarray(np.clip(linear - wide[..., None], 0, None), np.float32)
