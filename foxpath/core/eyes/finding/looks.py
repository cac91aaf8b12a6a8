"""How much an ellipse about a click looks like an eye: what is measured of each of many that are tried.

An eye is plain and mostly dark inside, its rim is complete and steps the same way all round, and what lies about it (lids, skin, coat)
differs. A pupil within an iris, the socket, a mask and the whole face each lack one of these. No single measure settles it, so all are
taken, and `hypotheses` weighs them.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Lab, Rgb8
from foxpath.core.eyes.finding.window import read_lab, window_at

LEAST_PX, MOST_SHARE = 3.2, 0.3
"""Least half width of an eye that is tried, and the most as a share of the picture's shorter side."""
_STEP = 1.13
"""Half widths that are tried lie this factor apart."""
_SHIFT = 0.14
"""Middles that are tried lie this far apart, in half widths; the click need not be in the middle."""
_SHIFTS = tuple((i * _SHIFT, j * _SHIFT) for i in range(-2, 3) for j in range(-2, 3) if abs(i) + abs(j) <= 2)
_SHAPES = ((1.0, 0.0), *((ratio, deg) for ratio in (0.82, 0.66, 0.5) for deg in (0.0, 45.0, 90.0, 135.0)))
"""Ratio of the half axes and direction of the longer one, degrees: round, seen from the side, half covered by lids."""
_SHARES = np.array([0.3, 0.55, 0.75, 0.88, 1.0, 1.12, 1.27, 1.5, 1.85, 2.5])
"""Shells that are read, in half axes; the rim is looked for between the fourth and the sixth."""
_ANGLES = 36
_WITHIN, _BEYOND = 3, 5
_IN_WINDOW = 5
"""Sizes that share a window."""


@dataclass(frozen=True, slots=True, eq=False)
class Tried:
    """Ellipses that are tried: (N,) each, reference pixels and degrees; `cx`, `cy` from the click."""

    half: F64
    ratio: F64
    deg: F64
    cx: F64
    cy: F64


def tried_about(side: float, least: float, most: float) -> Iterator[Tried]:
    """Give the ellipses to try about a click, a few sizes at a time.

    Parameters
    ----------
    side : float
        Shorter side of the picture, pixels: half widths go up to a share of it.
    least, most : float
        Half widths to try, pixels; those beyond what is tried at all are left out.
    """
    halves = LEAST_PX * _STEP ** np.arange(60)
    halves = halves[(halves <= max(MOST_SHARE * side, LEAST_PX)) & (halves >= least / 1.07) & (halves <= most * 1.07)]
    for k in range(0, len(halves), _IN_WINDOW):
        rows = np.array([
            (half, ratio, deg, dx * half, dy * half)
            for half in halves[k : k + _IN_WINDOW] for ratio, deg in _SHAPES for dx, dy in _SHIFTS
        ])  # fmt: skip
        yield Tried(*rows.T)


def looks_of(rgb: Rgb8, at: tuple[float, float], tried: Tried) -> F32:
    """Measure ellipses of nearly one size about a click.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
    at : (x, y)
        The click, pixels.
    tried : Tried
        Of N ellipses.

    Returns
    -------
    (N, len(LOOKS)) float32
        None has a unit; see `LOOKS`.
    """
    import cv2

    window = window_at(rgb, at, 1.7 * float(np.sqrt(tried.half.min() * tried.half.max())))
    k = window.k
    soft = np.asarray(cv2.GaussianBlur(window.lab, (0, 0), 1.2), np.float32)
    turn = np.linspace(0, 2 * np.pi, _ANGLES, endpoint=False)
    lean, long = np.radians(tried.deg)[:, None], (tried.half * k)[:, None]
    u, v = long * np.cos(turn), long * tried.ratio[:, None] * np.sin(turn)
    dx, dy = u * np.cos(lean) - v * np.sin(lean), u * np.sin(lean) + v * np.cos(lean)
    x0 = (at[0] - window.corner[0] + tried.cx) * k
    y0 = (at[1] - window.corner[1] + tried.cy) * k
    count = len(tried.half)
    x = (x0[:, None, None] + _SHARES[None, :, None] * dx[:, None]).reshape(count, -1)
    y = (y0[:, None, None] + _SHARES[None, :, None] * dy[:, None]).reshape(count, -1)
    read = read_lab(soft, x, y).reshape(count, len(_SHARES), _ANGLES, 3)
    made = _rim_looks(read) | _plain_looks(read) | _about_looks(read) | _shape_looks(tried, min(rgb.shape[:2]))
    return np.stack([made[name] for name in LOOKS], axis=1).astype(np.float32)


LOOKS = (
    "rim", "rim of one kind", "rim agrees", "rim's weakest ninth", "rim's weaker half", "rim clearly stepped", "rim uneven",
    "step within", "step within alike", "step deep within", "step deep within alike", "step beyond", "step beyond alike",
    "step far beyond alike", "ring outside", "ring outside of one kind", "ring far outside", "ring far outside of one kind", "spread within", "darkest within", "glint", "detail deep within", "detail within the rim",
    "spread within the rim", "spread on the rim", "darker than near", "near darker than far", "darker than all near", "spread near",
    "colour off near", "colour off far", "colour", "pupil", "size", "size squared", "small", "off the click", "oval", "oval squared",
    "oval across",
)  # fmt: skip
"""What is measured of each ellipse, in the order of the columns."""


def _rim_looks(read: Lab) -> dict[str, F32 | F64]:
    """Measure the step across the rim, and how it compares with what steps further in and out."""
    step = read[:, _BEYOND] - read[:, _WITHIN]
    mean = step.mean(axis=1)
    size = np.linalg.norm(mean, axis=1)
    each = np.linalg.norm(step, axis=2)
    kind = mean / (size + 1e-3)[:, None]
    along = np.einsum("nak,nk->na", step, kind)
    ninths = np.sort(along.reshape(len(read), 9, -1).mean(axis=2) / (size + 2)[:, None], axis=1)
    quarters = np.sort(along.reshape(len(read), 4, -1).mean(axis=2), axis=1)
    made: dict[str, F32 | F64] = {
        "rim": np.log1p(size / 3),
        "rim of one kind": size / (each.mean(axis=1) + 2),
        "rim agrees": (along > 0.35 * size[:, None]).mean(axis=1),
        "rim's weakest ninth": np.clip(ninths[:, 0], -1, 1),
        "rim's weaker half": np.clip(quarters[:, :2].mean(axis=1) / (size + 3), -1, 1),
        "rim clearly stepped": (along > 6).mean(axis=1),
        "rim uneven": np.log1p(each.std(axis=1) / (size + 2)),
    }
    for name, outer, inner in (("within", 3, 2), ("deep within", 2, 1), ("beyond", 6, 5), ("far beyond", 7, 6)):
        other = (read[:, outer] - read[:, inner]).mean(axis=1)
        made[f"step {name}"] = np.clip(np.linalg.norm(other, axis=1) / (size + 3), 0, 3)
        made[f"step {name} alike"] = np.clip((other * kind).sum(axis=1) / (size + 3), -2, 2)
    # Round a pupil runs the rim of its iris.
    for name, outer, inner in (("outside", 8, 7), ("far outside", 9, 8)):
        ring = read[:, outer] - read[:, inner]
        length = np.linalg.norm(ring.mean(axis=1), axis=1)
        made[f"ring {name}"] = np.log1p(length / 3)
        made[f"ring {name} of one kind"] = length / (np.linalg.norm(ring, axis=2).mean(axis=1) + 2)
    return made


def _plain_looks(read: Lab) -> dict[str, F32 | F64]:
    """Measure how plain it is inside."""
    light = read[..., 0]
    within = np.sort(light[:, :4].reshape(len(read), -1), axis=1)

    def detail(shell: int) -> F64:
        ring = light[:, shell]
        return np.asarray(np.log1p(np.median(np.abs(np.roll(ring, -1, axis=1) - ring), axis=1) / 2))

    return {
        "spread within": np.log1p((_at(within, 0.75) - _at(within, 0.25)) / 4),
        "darkest within": np.log1p((_at(within, 0.5) - _at(within, 0.05)) / 4),
        "glint": np.tanh((_at(within, 0.985) - _at(within, 0.7)) / 20),
        "detail deep within": detail(1),
        "detail within the rim": detail(_WITHIN),
        "spread within the rim": _spread(light[:, _WITHIN]),
        "spread on the rim": _spread(light[:, 4]),
        "pupil": np.tanh((_at(_flat(light[:, 2:4]), 0.6) - _at(_flat(light[:, :1]), 0.4)) / 20),
    }


def _about_looks(read: Lab) -> dict[str, F32 | F64]:
    """Measure how it differs from what lies near (lids, skin) and far (coat)."""
    light = read[..., 0]
    within, near, far = _flat(light[:, :4]), _flat(light[:, 6:8]), _flat(light[:, 8:])
    own, by, beyond = (
        np.median(part.reshape(len(read), -1, 2), axis=1)
        for part in (read[:, 1:4, :, 1:], read[:, 6:8, :, 1:], read[:, 8:, :, 1:])
    )
    return {
        "darker than near": np.tanh((_at(near, 0.5) - _at(within, 0.5)) / 20),
        "near darker than far": np.tanh((_at(far, 0.5) - _at(near, 0.5)) / 20),
        "darker than all near": np.tanh((_at(near, 0.25) - _at(within, 0.8)) / 20),
        "spread near": np.log1p((_at(near, 0.8) - _at(near, 0.2)) / 6),
        "colour off near": np.tanh(np.linalg.norm(own - by, axis=1) / 15),
        "colour off far": np.tanh(np.linalg.norm(own - beyond, axis=1) / 15),
        "colour": np.tanh(np.linalg.norm(own, axis=1) / 40),
    }


def _shape_looks(tried: Tried, side: int) -> dict[str, F32 | F64]:
    """Measure size against the picture, place against the click, and shape."""
    size = np.log(tried.half / (0.02 * side)) / 2
    oval = -np.log(tried.ratio)
    return {
        "size": size,
        "size squared": size**2,
        "small": np.clip(-np.log(tried.half / 8), 0, None),
        "off the click": (np.hypot(tried.cx, tried.cy) / tried.half / 0.3) ** 2,
        "oval": oval,
        "oval squared": oval**2,
        "oval across": oval * np.cos(2 * np.radians(tried.deg)),
    }


def _flat(shells: F32) -> F32:
    return np.sort(shells.reshape(len(shells), -1), axis=1)


def _at(ordered: F32, share: float) -> F32:
    return np.asarray(ordered[:, int(share * (ordered.shape[1] - 1))])


def _spread(ring: F32) -> F64:
    low, high = np.percentile(ring, (20, 80), axis=1)
    return np.asarray(np.log1p((high - low) / 4))
