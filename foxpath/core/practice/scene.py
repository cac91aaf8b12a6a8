"""What a drill is made from: a picture on its canvas, and all that the program's engines know of it.

A scene lies in its own pixels, origin top left, y down; `px_per_mm` brings every length onto the canvas. What an engine does not know is
left out (an empty tuple, None): a drill that needs it has nothing to ask there.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, I64, Bool, Labels, Points, Rgb8
from foxpath.core.mixes.recipe import Rack
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.small import blur, lab_of

Place = tuple[float, float]
NO_ANIMAL = ("background", "cover", "shadow")
FINE_MM, SHOWS_L, BLOCKED_L, BURNT_L = 1.2, 0.9, 4.0, 96.0
"""Hair shows where its grain, finer than so many millimetres, spreads by so much L*, and light is neither blocked nor burnt out."""
SPOT_SHARE = 0.011
"""Radius of a spot, as a share of the canvas's longer side."""


@dataclass(frozen=True, slots=True)
class Part:
    """A part: its id, name and kind, the animal it belongs to, whether hair or feathers cover it, and their length and width, mm."""

    id: str
    name: str
    kind: str
    group: str = ""
    hair: bool = False
    length_mm: float = 0.0
    width_mm: float = 0.0


@dataclass(frozen=True, slots=True, eq=False)
class Growth:
    """Which way hair grows, root to tip.

    Attributes
    ----------
    direction : (h, w, 2) float32
        Unit vectors on a grid of cells over the whole scene.
    sure : (h, w) float32
        0 a guess, 1 sure, as calibrated on coats that are known.
    rooted : (h, w) bool
        Where somebody said which end is the root.
    cell_px : float
        Side of a cell, scene pixels.
    """

    direction: F32
    sure: F32
    rooted: Bool
    cell_px: float

    def at(self, x: float, y: float, radius_px: float = 0.0) -> tuple[float, float, float]:
        """Return the mean direction about a place, degrees; how alike the cells are, 0 to 1; and how sure the least sure one is."""
        h, w = self.sure.shape
        reach = max(0.5, radius_px / self.cell_px)
        i0, i1 = max(0, int(y / self.cell_px - reach)), min(h, int(y / self.cell_px + reach) + 1)
        j0, j1 = max(0, int(x / self.cell_px - reach)), min(w, int(x / self.cell_px + reach) + 1)
        if i0 >= i1 or j0 >= j1:
            return 0.0, 0.0, 0.0
        mean = self.direction[i0:i1, j0:j1].reshape(-1, 2).astype(np.float64).mean(axis=0)
        sure = np.where(self.rooted[i0:i1, j0:j1], self.sure[i0:i1, j0:j1], 0.0)
        return float(np.degrees(np.arctan2(mean[1], mean[0]))), float(np.hypot(*mean)), float(sure.min())


@dataclass(frozen=True, slots=True, eq=False)
class Edge:
    """A border between two parts.

    Attributes
    ----------
    front, back : int
        Places in `Scene.parts`; -1 is bare canvas.
    line : (N, 2) float64
        Its longest run.
    seen_mm : float or None
        Width of its transition in the picture; None where the picture does not tell it.
    told : float
        Share of the border from which that was read, 0 to 1.
    planned_mm : float
        Width the plan gives it.
    reason : str
        Why.
    """

    front: int
    back: int
    line: Points
    seen_mm: float | None
    told: float
    planned_mm: float
    reason: str = ""

    def middle(self) -> Place:
        """Return its middle."""
        x, y = self.line[len(self.line) // 2]
        return float(x), float(y)


@dataclass(frozen=True, slots=True)
class SceneEye:
    """An eye: its iris (middle and half axes), where its catchlight, the sky and the upper lid's shadow are planned; None where unknown."""

    name: str
    x: float
    y: float
    rx: float
    ry: float
    light: Place | None = None
    sky: Place | None = None
    shadow: Place | None = None
    light_hour: float = 0.0

    @property
    def radius(self) -> float:
        """The longer half axis."""
        return max(self.rx, self.ry)


@dataclass(frozen=True, slots=True)
class Found:
    """Something `core.progress` found in a photographed canvas: its kind, where (px), how far it reaches (mm), in words; plainest first."""

    kind: str
    x: float
    y: float
    reach_mm: float
    name: str


@dataclass(frozen=True, eq=False)
class Scene:
    """A picture and what is known of it.

    Attributes
    ----------
    name : str
        Whose picture it is, in words.
    rgb : (H, W, 3) uint8 sRGB
    px_per_mm : float
    labels : (H, W) int16
        Place of the front-most part in `parts`; -1 where there is none.
    parts : tuple of Part
        Back to front.
    growth : Growth or None
    edges : tuple of Edge
    eyes : tuple of SceneEye
    focal : (x, y)
    rack : Rack or None
        The painter's own tubes.
    names : mapping
        Of the tubes, by their id.
    finest_mm : float
        The finest mark of the kit.
    system : str
        Of the paint, a key of `core.days.drying.SYSTEMS`.
    viewing_m : float
        Distance the painting is looked at from.
    planned : Planned or None
        The rehearsal of the plan by two hands.
    found : tuple of Found
        Of a photographed canvas.
    """

    name: str
    rgb: Rgb8
    px_per_mm: float
    labels: Labels
    parts: tuple[Part, ...] = ()
    growth: Growth | None = None
    edges: tuple[Edge, ...] = ()
    eyes: tuple[SceneEye, ...] = ()
    focal: Place = (0.0, 0.0)
    rack: Rack | None = None
    names: Mapping[str, str] = field(default_factory=dict)
    finest_mm: float = 0.3
    system: str = "oil"
    viewing_m: float = 2.0
    planned: Planned | None = None
    found: tuple[Found, ...] = ()

    @cached_property
    def lab(self) -> F32:
        """(H, W, 3) CIELAB of the picture."""
        return lab_of(self.rgb)

    @cached_property
    def fine(self) -> F32:
        """(H, W) L* of what is finer than hair's strands are wide: its grain, without form and markings."""
        light = self.lab[..., 0]
        return np.asarray(blur(light, 0.6) - blur(light, FINE_MM * self.px_per_mm), np.float32)

    @cached_property
    def animal(self) -> Bool:
        """(H, W) where an animal is: no background, no cover in front, no cast shadow."""
        ours = np.array([part.kind not in NO_ANIMAL for part in self.parts] + [False])
        return np.asarray(ours[self.labels])

    @cached_property
    def room(self) -> F32:
        """(H, W) how far every pixel lies from a border of its part, an eye or the rim, px."""
        border = np.zeros(self.labels.shape, np.uint8)
        border[:, 1:] |= self.labels[:, 1:] != self.labels[:, :-1]
        border[1:, :] |= self.labels[1:, :] != self.labels[:-1, :]
        border[[0, -1], :] = 1
        border[:, [0, -1]] = 1
        for eye in self.eyes:
            cv2.circle(border, (round(eye.x), round(eye.y)), round(1.5 * eye.radius), 1, -1)
        return np.asarray(cv2.distanceTransform(1 - border, cv2.DIST_L2, 3), np.float32)


def hair_shows(scene: Scene, x: float, y: float, radius: float) -> bool:
    """Tell whether hair can be seen about a place: neither burnt out, nor blocked, nor so soft that nothing parts there."""
    i0, i1, j0, j1 = (int(v) for v in (max(0, y - radius), y + radius + 1, max(0, x - radius), x + radius + 1))
    light, fine = scene.lab[i0:i1, j0:j1, 0], scene.fine[i0:i1, j0:j1]
    return bool(fine.std() > SHOWS_L and BLOCKED_L < np.median(light) < BURNT_L)


@dataclass(frozen=True, slots=True)
class Spot:
    """A round spot of a picture: middle, radius (px), part, its median colour (CIELAB), and how far the colours in it spread, L* and in all."""

    x: float
    y: float
    radius: float
    part: int
    lab: tuple[float, float, float]
    spread: float
    unsure: float

    @property
    def at(self) -> Place:
        """Its middle."""
        return self.x, self.y

    @property
    def chroma(self) -> float:
        """C* of its colour."""
        return float(np.hypot(self.lab[1], self.lab[2]))


def spots(
    scene: Scene, rng: np.random.Generator, count: int, radius_mm: float, *, within: Bool | None = None
) -> list[Spot]:
    """Return spots at random that lie whole within one part, at most so many; none lies on an eye."""
    radius = max(2.0, radius_mm * scene.px_per_mm)
    free = scene.room > 1.2 * radius
    if within is not None:
        free &= within
    ys, xs = np.nonzero(free)
    if not len(ys):
        return []
    picks = rng.integers(len(ys), size=count)
    return spots_at(scene, xs[picks], ys[picks], radius)


def spots_at(scene: Scene, x: I64, y: I64, radius: float) -> list[Spot]:
    """Return the spots about (N,) pixels, of one radius in px; they must lie whole within the picture.

    Side by side: a drill tries many, and each by itself takes longer to ask for than to measure.
    """
    reach = int(radius)
    down, across = np.mgrid[-reach : reach + 1, -reach : reach + 1]
    inside = np.hypot(across, down) <= radius
    lab = scene.lab[y[:, None] + down[inside], x[:, None] + across[inside]]
    middle = np.median(lab, axis=1)
    off = np.abs(lab - middle[:, None])
    # Neighbouring pixels are alike: a spot holds far fewer independent looks than pixels.
    looks = max(1.0, lab.shape[1] / 16)
    spread = 1.4826 * np.median(off[..., 0], axis=1)
    unsure = 1.25 * 1.4826 * np.median(np.linalg.norm(off, axis=2), axis=1) / np.sqrt(looks)
    parts = scene.labels[y, x]
    found: list[Spot] = []
    for k in range(len(x)):
        colour = (float(middle[k, 0]), float(middle[k, 1]), float(middle[k, 2]))
        found.append(Spot(float(x[k]), float(y[k]), radius, int(parts[k]), colour, float(spread[k]), float(unsure[k])))
    return found


def apart(a: Place, b: Place) -> float:
    """Return the distance of two places."""
    return float(np.hypot(a[0] - b[0], a[1] - b[1]))


def about_head(scene: Scene, share: float = 0.3) -> Bool:
    """Return the pixels about the eyes, else about the focal point: the head, as nearly as it is known."""
    h, w = scene.labels.shape
    if scene.eyes:
        x = float(np.mean([e.x for e in scene.eyes]))
        y = float(np.mean([e.y for e in scene.eyes]))
    else:
        x, y = scene.focal
    yy, xx = np.mgrid[:h, :w]
    return np.asarray((np.hypot(xx - x, yy - y) < share * max(h, w)) & scene.animal)


def spot_radius_mm(scene: Scene) -> float:
    """Return the radius of a spot that is seen at arm's length, mm: with the canvas it grows."""
    return max(3.0, float(SPOT_SHARE * max(scene.labels.shape) / scene.px_per_mm))


def a_window(scene: Scene, rng: np.random.Generator, share: float = 0.24) -> tuple[Bool, tuple[float, float, float]]:
    """Return a square of the picture at random, as pixels, and as what comes into sight: x, y and half its side, px.

    Neighbours are compared: what lies at two ends of a canvas is not.
    """
    h, w = scene.labels.shape
    half = share * max(h, w)
    x = float(rng.uniform(min(half, w / 2), max(w - half, w / 2)))
    y = float(rng.uniform(min(half, h / 2), max(h - half, h / 2)))
    mask = np.zeros((h, w), bool)
    mask[max(0, int(y - half)) : int(y + half), max(0, int(x - half)) : int(x + half)] = True
    return mask, (x, y, half)


def sight(scene: Scene, mask: Bool) -> tuple[float, float, float]:
    """Return what comes into sight so that some pixels do: x, y and half a side, px."""
    ys, xs = np.nonzero(mask)
    if not len(ys):
        return scene.labels.shape[1] / 2, scene.labels.shape[0] / 2, max(scene.labels.shape) / 2
    x, y = (float(xs.min()) + float(xs.max())) / 2, (float(ys.min()) + float(ys.max())) / 2
    return x, y, max(float(np.ptp(xs)), float(np.ptp(ys))) / 2 + 4


def to_lab(values: F64 | tuple[float, float, float]) -> tuple[float, float, float]:
    """Return a colour as plain numbers."""
    return float(values[0]), float(values[1]), float(values[2])
