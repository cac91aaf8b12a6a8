"""An eye as it is marked: iris, pupil, lids, corners, catchlights, and what the painter decided of them."""

import math
from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np

from foxpath.core.arrays import F64, Bool, Points, frozen
from foxpath.core.curves import open_curve
from foxpath.core.zones.map import fill

Place = tuple[float, float]
Pairs = tuple[Place, ...]

PUPILS = {"round": "round", "upright": "upright slit", "level": "level slit", "bar": "level bar"}
"""Shapes of pupils, by the key they are stored under."""
USUAL_PUPIL: dict[str, tuple[float, float]] = {
    "round": (0.42, 0.42),
    "upright": (0.2, 0.78),
    "level": (0.74, 0.24),
    "bar": (0.7, 0.28),
}
"""Half width and half height of a pupil as shares of the iris's radius, before it is marked."""
_MAP_CELLS = 900
LIGHT_WAYS = {"last": "added last", "reserve": "kept free"}
"""Whether the catchlight is painted at the end or its place left bare from the start."""


@dataclass(frozen=True, slots=True)
class Ellipse:
    """An ellipse in reference pixels.

    Attributes
    ----------
    cx, cy : float
    rx, ry : float
        Half axes; `rx` lies along `deg`.
    deg : float
        Direction of `rx`, clockwise as seen (y down).
    """

    cx: float
    cy: float
    rx: float
    ry: float
    deg: float = 0.0

    @property
    def centre(self) -> Place:
        """Its middle."""
        return self.cx, self.cy

    @property
    def radius(self) -> float:
        """Radius of the circle of the same area."""
        return math.sqrt(self.rx * self.ry)

    @property
    def ratio(self) -> float:
        """Shorter over longer axis, 0 to 1."""
        return min(self.rx, self.ry) / max(self.rx, self.ry, 1e-9)

    def axes(self) -> tuple[F64, F64]:
        """Return the two half axes as vectors."""
        a = math.radians(self.deg)
        c, s = math.cos(a), math.sin(a)
        return np.array([c, s]) * self.rx, np.array([-s, c]) * self.ry

    def at(self, angle: F64, share: F64 | float = 1.0) -> Points:
        """Return points at angles (radians, of the picture: 0 right, clockwise) and shares of the radius there.

        A share of 1 lies on the ellipse, in that very direction.
        """
        angle = np.asarray(angle, np.float64)
        way = np.stack([np.cos(angle), np.sin(angle)], axis=-1)
        reach = self.reach(angle) * share
        return np.asarray(way * np.asarray(reach)[..., None] + (self.cx, self.cy))

    def reach(self, angle: F64) -> F64:
        """Return the distance from the middle to the ellipse at angles, radians of the picture."""
        local = np.asarray(angle, np.float64) - math.radians(self.deg)
        return np.asarray(1 / np.sqrt((np.cos(local) / self.rx) ** 2 + (np.sin(local) / self.ry) ** 2))

    def outline(self, count: int = 64) -> Points:
        """Return (count, 2) points round it."""
        turn = np.linspace(0, 2 * np.pi, count, endpoint=False)
        a, b = self.axes()
        return np.asarray(np.cos(turn)[:, None] * a + np.sin(turn)[:, None] * b + (self.cx, self.cy))

    def share_of(self, points: Points) -> F64:
        """Return how far out points lie: 0 in the middle, 1 on the ellipse."""
        a = math.radians(self.deg)
        c, s = math.cos(a), math.sin(a)
        d = np.asarray(points, np.float64) - (self.cx, self.cy)
        along, across = d[..., 0] * c + d[..., 1] * s, -d[..., 0] * s + d[..., 1] * c
        return np.asarray(np.hypot(along / self.rx, across / self.ry))

    def width_along(self, angle_deg: float) -> float:
        """Return its full extent along a direction, pixels."""
        a = math.radians(angle_deg - self.deg)
        return 2 * math.hypot(self.rx * math.cos(a), self.ry * math.sin(a))

    def scaled(self, k: float) -> "Ellipse":
        """Return it `k` times as large about its middle."""
        return Ellipse(self.cx, self.cy, self.rx * k, self.ry * k, self.deg)


@dataclass(frozen=True, slots=True)
class LightPlan:
    """What the painter decided of an eye's lights; None keeps the plan's.

    Attributes
    ----------
    hour : float or None
        Of the catchlight, 0 to 12.
    distance : float or None
        From the middle, as a share of the iris's radius, 0 to 1.
    size_mm : float or None
    sky : bool or None
        Whether the second, soft reflection is painted.
    way : str
        Key of `LIGHT_WAYS`.
    """

    hour: float | None = None
    distance: float | None = None
    size_mm: float | None = None
    sky: bool | None = None
    way: str = "last"


@dataclass(frozen=True, slots=True)
class Eye:
    """An eye.

    Attributes
    ----------
    id, name : str
    iris : Ellipse
    pupil : Ellipse
    pupil_kind : str
        Key of `PUPILS`.
    upper, lower : Pairs
        The lids' edges from corner to corner; empty where none is known.
    inner, outer : Place or None
        Corners toward the nose and away from it.
    lights : Pairs
        Catchlights, the main one first.
    rim : Pairs
        Clicks on the iris's rim from which it was fitted.
    light : LightPlan
    found : float
        How sure the program was that found it, 0 to 1; 1 when it was marked by hand.
    """

    id: str
    name: str
    iris: Ellipse
    pupil: Ellipse
    pupil_kind: str = "round"
    upper: Pairs = ()
    lower: Pairs = ()
    inner: Place | None = None
    outer: Place | None = None
    lights: Pairs = ()
    rim: Pairs = ()
    light: LightPlan = field(default_factory=LightPlan)
    found: float = 1.0

    def lid_curve(self, which: str) -> Points:
        """Return the smooth edge of the "upper" or "lower" lid from corner to corner, (N, 2); (0, 2) when unknown."""
        return _lid(getattr(self, which))

    def opening(self) -> Points:
        """Return the outline of what the lids leave free, (N, 2); without lids the iris with its rim."""
        return _opening(self.iris, self.upper, self.lower)

    def open_at(self, points: Points) -> Bool:
        """Tell which of (N, 2) points lie between the lids."""
        points = np.asarray(points, np.float64).reshape(-1, 2)
        mask, x0, y0, scale = _opening_map(self.iris, self.upper, self.lower)
        j = np.floor((points[:, 0] - x0) * scale).astype(np.int64)
        i = np.floor((points[:, 1] - y0) * scale).astype(np.int64)
        rows, columns = mask.shape
        there = (i >= 0) & (i < rows) & (j >= 0) & (j < columns)
        made = np.zeros(len(points), bool)
        made[there] = mask[i[there], j[there]]
        return made

    @property
    def corners(self) -> tuple[Place, Place] | None:
        """Inner and outer corner; None unless both are known."""
        return (self.inner, self.outer) if self.inner is not None and self.outer is not None else None

    @property
    def width(self) -> float:
        """From corner to corner, pixels; without corners a usual multiple of the iris's width."""
        if self.inner is not None and self.outer is not None:
            return math.dist(self.inner, self.outer)
        return 2.3 * max(self.iris.rx, self.iris.ry)

    def covered(self) -> float:
        """Return the share of the iris (0..1) that the lids hide."""
        turn, out = np.meshgrid(np.linspace(0, 2 * np.pi, 48, endpoint=False), np.sqrt((np.arange(12) + 0.5) / 12))
        return 1 - float(self.open_at(self.iris.at(turn.ravel(), out.ravel())).mean())


def _lid(points: Pairs) -> Points:
    line = np.array(points, np.float64).reshape(-1, 2)
    return open_curve(line, 8) if len(line) >= 2 else line[:0]


def _opening(iris: Ellipse, upper_points: Pairs, lower_points: Pairs) -> Points:
    upper, lower = _lid(upper_points), _lid(lower_points)
    if len(upper) and len(lower):
        return np.vstack([upper, lower[::-1]])
    outline = iris.scaled(1.08).outline(72)
    for lid, side in ((upper, 1.0), (lower, -1.0)):
        if len(lid):
            # One lid only: what lies beyond it is cut away.
            order = np.argsort(lid[:, 0])
            edge = np.interp(outline[:, 0], lid[order, 0], lid[order, 1])
            cut = side * (outline[:, 1] - edge) < 0
            outline[cut, 1] = edge[cut]
    return outline


@lru_cache(maxsize=32)
def _opening_map(iris: Ellipse, upper: Pairs, lower: Pairs) -> tuple[Bool, float, float, float]:
    """Return a map of what the lids leave open, its corner (reference pixels) and cells a pixel: strokes ask by the thousand."""
    outline = _opening(iris, upper, lower)
    (x0, y0), (x1, y1) = outline.min(axis=0) - 1, outline.max(axis=0) + 1
    scale = _MAP_CELLS / max(float(x1 - x0), float(y1 - y0), 1e-6)
    shape = max(1, math.ceil((y1 - y0) * scale)), max(1, math.ceil((x1 - x0) * scale))
    mask: Bool = frozen(fill((outline - (x0, y0)) * scale, shape))
    return mask, float(x0), float(y0), scale


def usual_pupil(iris: Ellipse, kind: str) -> Ellipse:
    """Return a pupil of a kind where none is marked yet; upright and level are those of the picture."""
    wide, tall = USUAL_PUPIL[kind]
    r = iris.radius
    return Ellipse(iris.cx, iris.cy, wide * r, tall * r, 0.0)


def clock(middle: Place, at: Place) -> float:
    """Return the hour (0 to 12, 12 is up) at which a place stands about a middle."""
    return (math.degrees(math.atan2(at[0] - middle[0], middle[1] - at[1])) / 30) % 12


def angle_of_hour(hour: float) -> float:
    """Return the angle of an hour, radians of the picture: 0 right, clockwise."""
    return math.radians(30 * hour - 90)


def hours_apart(a: float, b: float) -> float:
    """Return by how many hours two hours on the clock differ, 0 to 6."""
    return abs((a - b + 6) % 12 - 6)
