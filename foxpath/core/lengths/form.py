"""The form a part has in space, and how much shorter hair looks where it turns away from the viewer."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool, Points

FORMS = {"": "none", "ball": "ball", "cylinder": "cylinder", "plane": "plane"}
"""Key as stored, and the painter's word."""
SHORTEST = 0.3
"""Hair stands off the skin a little: even end on it does not vanish."""


@dataclass(frozen=True, slots=True)
class Form:
    """What a part is like in space.

    Attributes
    ----------
    kind : str
        Key of `FORMS`.
    line : tuple of (x, y)
        Two points, reference pixels: a ball's middle and a point on its rim, a cylinder's axis, or from the near to
        the far side of a plane. Empty takes them from the part's own outline.
    turn_deg : float
        How far a plane is turned away from the viewer, 0 to 85.
    """

    kind: str = ""
    line: tuple[tuple[float, float], ...] = ()
    turn_deg: float = 40.0


def foreshortening(form: Form, mask: Bool, x: F32, y: F32, direction: F32) -> F32:
    """Return by how much hair that lies along the form looks shorter, `SHORTEST` to 1.

    The surface is z(x, y); a hair that looks u long along d is truly u sqrt(1 + (d . grad z)^2) long.

    Parameters
    ----------
    form : Form
    mask : (h, w) bool
        The part.
    x, y : (h, w) float32
        Places, reference pixels.
    direction : (h, w, 2) float32
        Unit growth.
    """
    if form.kind not in FORMS or not form.kind or not mask.any():
        return np.ones(mask.shape, np.float32)
    if form.kind == "plane":
        way = np.diff(np.array(form.line or ((0, 0), (0, -1)), np.float64), axis=0)[0]
        way /= np.hypot(*way) + 1e-9
        steep = np.tan(np.radians(np.clip(form.turn_deg, 0, 85)))
        slope = steep * (direction[..., 0] * way[0] + direction[..., 1] * way[1])
    else:
        centre, across, reach = _round(form, mask, x, y)
        u, v = x - centre[0], y - centre[1]
        if form.kind == "ball":
            # Each axis is scaled to its own half length: an oval part is a ball seen through a stretch.
            p = (u * across[0, 0] + v * across[0, 1]) / reach[0]
            q = (u * across[1, 0] + v * across[1, 1]) / reach[1]
            a = (direction[..., 0] * across[0, 0] + direction[..., 1] * across[0, 1]) / reach[0]
            b = (direction[..., 0] * across[1, 0] + direction[..., 1] * across[1, 1]) / reach[1]
            deep = np.sqrt(np.maximum(1 - p * p - q * q, 1e-3))
            slope = (p * a + q * b) / deep * min(reach)
        else:
            p = (u * across[0, 0] + v * across[0, 1]) / reach[0]
            a = direction[..., 0] * across[0, 0] + direction[..., 1] * across[0, 1]
            slope = p * a / np.sqrt(np.maximum(1 - p * p, 1e-3))
    return np.asarray(np.clip(1 / np.sqrt(1 + slope**2), SHORTEST, 1), np.float32)


def _round(form: Form, mask: Bool, x: F32, y: F32) -> tuple[Points, Points, Points]:
    """Return the middle, the two unit axes (the first across), and the half lengths along them, reference pixels."""
    at = np.stack([x[mask], y[mask]], axis=1).astype(np.float64)
    if len(form.line) == 2:
        a, b = (np.array(one, np.float64) for one in form.line)
        long = (b - a) / (np.hypot(*(b - a)) + 1e-9)
        across = np.array([[-long[1], long[0]], long])
        if form.kind == "ball":
            radius = float(np.hypot(*(b - a)))
            return a, across, np.array([radius, radius])
        middle = (a + b) / 2
        off = np.abs((at - middle) @ across[0])
        return middle, across, np.array([max(float(np.percentile(off, 96)), 1e-6)] * 2)
    middle = at.mean(axis=0)
    spread, turned = np.linalg.eigh(np.cov((at - middle).T) + 1e-9 * np.eye(2))
    # Of an even ellipse the deviation along an axis is half the half length.
    return middle, turned.T, np.maximum(2 * np.sqrt(spread), 1e-6) * 1.03
