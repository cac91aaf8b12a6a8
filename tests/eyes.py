"""Made eyes whose every measure is known, with lids, texture, shadow, noise and blur."""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.colour import linear_from_lab, rgb_from_linear
from foxpath.core.eyes import Ellipse, angle_of_hour

AMBER, BROWN, DARK, BLUE, GREEN, GOLD = (
    (55, 22, 52), (32, 16, 24), (19, 6, 8), (62, -4, -18), (52, -14, 28), (72, 6, 60),
)  # fmt: skip
PUPILS = {"round": (0.42, 0.42), "upright": (0.17, 0.8), "level": (0.72, 0.22), "bar": (0.66, 0.26)}
OVER = 2


@dataclass
class Made:
    """What an eye is made of; lengths are pixels, lids are shares of the iris's height that they hide."""

    cx: float = 120.0
    cy: float = 110.0
    r: float = 40.0
    ratio: float = 1.0
    deg: float = 0.0
    colour: tuple = AMBER
    pupil: str = "round"
    upper: float = 0.12
    lower: float = 0.05
    tilt: float = 0.0
    hour: float | None = 10.5
    distance: float = 0.45
    shadow: float = 14.0
    shadow_share: float = 0.34
    white: tuple = (62, 4, 8)
    fur: tuple = (48, 12, 24)
    rim: float = 0.0
    width: int = 240
    height: int = 220
    noise: float = 2.0
    blur: float = 0.8
    seed: int = 1
    second: bool = False

    @property
    def iris(self):
        return Ellipse(self.cx, self.cy, self.r, self.r * self.ratio, self.deg)

    def pupil_ellipse(self):
        w, h = PUPILS[self.pupil]
        return Ellipse(self.cx, self.cy, w * self.r, h * self.r * self.ratio, self.tilt)

    def lids(self, u):
        """Height of the two lids' edges over the middle, at places along the eye's own tilt, in radii (down is positive)."""
        upper = -(1 - 2 * self.upper) + 0.36 * u**2
        lower = (1 - 2 * self.lower) - 0.30 * u**2
        return upper, lower

    def light_at(self):
        a = angle_of_hour(self.hour)
        return self.cx + self.distance * self.r * np.cos(a), self.cy + self.distance * self.r * np.sin(a)

    def draw(self):
        """Return (height, width, 3) uint8 sRGB."""
        rng = np.random.default_rng(self.seed)
        y, x = (np.mgrid[0 : self.height * OVER, 0 : self.width * OVER] + 0.5) / OVER
        lab = np.empty((*x.shape, 3), np.float32)
        grain = rng.standard_normal((self.height, self.width)).astype(np.float32)
        grain = cv2.GaussianBlur(grain, (0, 0), 2.5, sigmaY=5.0)
        grain = cv2.resize(grain, (x.shape[1], x.shape[0]))
        lab[:] = self.fur
        lab[..., 0] += 9 * grain / grain.std()
        t = np.radians(self.tilt)
        u = ((x - self.cx) * np.cos(t) + (y - self.cy) * np.sin(t)) / self.r
        v = (-(x - self.cx) * np.sin(t) + (y - self.cy) * np.cos(t)) / self.r
        top, low = self.lids(u)
        opening = (v > top) & (v < low)
        near = (v > top - 0.2) & (v < low + 0.16)
        lab[near] = (14, 3, 4)
        lab[opening] = self.white
        share = self.iris.share_of(np.stack([x, y], axis=-1))
        angle = np.arctan2(y - self.cy, x - self.cx)
        turn = np.linspace(-np.pi, np.pi, 721)
        around = sum(rng.normal() * np.cos(k * turn + rng.uniform(0, 6.28)) / np.sqrt(k) for k in range(5, 60, 3))
        flecks = np.interp(angle, turn, around)
        iris = np.stack([np.full_like(x, c, np.float32) for c in self.colour], axis=-1)
        span = min(1.0, self.colour[0] / 40)
        iris[..., 0] += span * (
            3 * flecks - 10 * np.clip((share - 0.86) / 0.14, 0, 1) + 5 * np.clip(1 - abs(share - 0.7) / 0.2, 0, 1)
        )
        # The lid throws its shadow down to a share of the iris's height.
        deep = np.clip(1 - (v + 1) / (2 * self.shadow_share), 0, 1)
        iris[..., 0] -= np.minimum(self.shadow, self.colour[0] * 0.6) * (deep > 0)
        on = opening & (share < 1)
        lab[on] = iris[on]
        if self.rim:
            ring = opening & (abs(share - 1) < 0.05)
            lab[ring, 0] -= self.rim
        pupil = self.pupil_ellipse()
        inside = pupil.share_of(np.stack([x, y], axis=-1)) < 1
        if self.pupil == "bar":
            a = np.radians(pupil.deg)
            du, dv = (
                (x - self.cx) * np.cos(a) + (y - self.cy) * np.sin(a),
                -(x - self.cx) * np.sin(a) + (y - self.cy) * np.cos(a),
            )
            inside = (abs(du) < pupil.rx) & (abs(dv) < pupil.ry)
        lab[on & inside] = (4, 0, 0)
        lights = [self.light_at()] if self.hour is not None else []
        if self.second:
            lights.append((2 * self.cx - lights[0][0], lights[0][1] + 0.1 * self.r))
        for cx, cy in lights:
            lab[np.hypot(x - cx, y - cy) < 0.12 * self.r] = (97, 0, 0)
        linear = linear_from_lab(lab)
        linear = cv2.resize(linear, (self.width, self.height), interpolation=cv2.INTER_AREA)
        if self.blur:
            linear = cv2.GaussianBlur(linear, (0, 0), self.blur)
        rgb = rgb_from_linear(np.clip(linear, 0, 1)) * 255 + rng.normal(0, self.noise, linear.shape)
        return np.clip(np.round(rgb), 0, 255).astype(np.uint8)


def varied(count=20, seed=3):
    """Return made eyes of every colour and pupil, in many tilts, sizes and states."""
    rng = np.random.default_rng(seed)
    colours, pupils = (AMBER, BROWN, DARK, BLUE, GREEN, GOLD), tuple(PUPILS)
    made = []
    for k in range(count):
        r = float(rng.uniform(18, 60))
        whites = ((62, 4, 8), (22, 4, 5), (70, 2, 6))
        made.append(
            Made(
                cx=120 + float(rng.uniform(-6, 6)), cy=110 + float(rng.uniform(-6, 6)), r=r, ratio=float(rng.uniform(0.9, 1)),
                deg=float(rng.uniform(-90, 90)), colour=colours[k % 6], pupil=pupils[(k // 2) % 4],
                upper=float(rng.uniform(0.0, 0.24)), lower=float(rng.uniform(0, 0.1)), tilt=float(rng.uniform(-18, 18)),
                hour=float(rng.uniform(9, 15)) % 12, distance=float(rng.uniform(0.3, 0.6)), white=whites[k % 3],
                noise=float(rng.uniform(1, 5)), blur=float(rng.uniform(0.4, 1.6)), seed=k,
            )
        )  # fmt: skip
    return made
