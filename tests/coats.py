"""Made-up coats whose growth is known at every pixel: a head from the front, a body from the side, a bird's wing.

Used by the tests and by the growth benchmark. Every strand is traced through an analytic field and drawn; markings
lie across the growth, and blur, noise, jitter and JPEG make it as hard as wanted.
"""

import io
from collections.abc import Callable
from dataclasses import dataclass, field

import cv2
import numpy as np
from PIL import Image

from foxpath.core.brush import hair_profile, outlines, paint_outlines

WIDTH, HEIGHT = 1200, 900
DIFFICULTIES = {
    # blur px, noise, jitter degrees, JPEG quality
    "clear": (0.8, 0.012, 5.0, 95),
    "hard": (1.5, 0.03, 10.0, 70),
    "very hard": (2.3, 0.05, 16.0, 40),
}
Way = Callable[[np.ndarray, np.ndarray], np.ndarray]
"""Angle, radians, root to tip, y down, at (x, y)."""


@dataclass(frozen=True)
class Part:
    """A zone: where it is, how its hair grows, how long and wide it is (px)."""

    name: str
    mask: np.ndarray
    way: Way
    length: float
    width: float
    clump: float


@dataclass(frozen=True)
class MadeCoat:
    """A picture of a coat and the truth about it."""

    rgb: np.ndarray
    labels: np.ndarray
    """0 for none, else 1 + index of the part."""
    angle: np.ndarray
    parts: tuple[Part, ...]
    partings: tuple[np.ndarray, ...] = ()
    singular: tuple[tuple[float, float], ...] = field(default=())


def _grid():
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float64)
    return x, y


def _oval(cx, cy, rx, ry, turn=0.0):
    x, y = _grid()
    c, s = np.cos(turn), np.sin(turn)
    u, v = (x - cx) * c + (y - cy) * s, -(x - cx) * s + (y - cy) * c
    return (u / rx) ** 2 + (v / ry) ** 2 < 1


def _away(cx, cy, down=0.0, turn=0.0) -> Way:
    def way(x, y):
        r = np.hypot(x - cx, y - cy) + 1e-6
        return np.arctan2((y - cy) / r + down, (x - cx) / r) + turn

    return way


def _head():
    x, _ = _grid()
    head = _oval(600, 390, 330, 300)
    forehead, muzzle = _oval(600, 290, 210, 160), _oval(600, 545, 135, 105)

    def chest(px, py):
        t = (px - 600) / 360
        open_ = 1 / (1 + np.exp(-(py - 700) / 8)) / (1 + np.exp((py - 850) / 8))
        side = np.where(px < 600, 0.45, -0.45) * open_ * np.exp(-np.abs(px - 600) / 90)
        return np.pi / 2 - 0.7 * t + 0.15 * np.sin(py / 70) * np.sin(px / 90) + side

    def cheek(px, py):
        return _away(600, 420, 0.5)(px, py) + 0.12 * np.sin(px / 60) * np.sin(py / 70)

    parts = (
        Part("chest", _oval(600, 770, 380, 210), chest, 80, 2.0, 16),
        Part("left cheek", head & (x < 600), cheek, 38, 1.6, 9),
        Part("right cheek", head & (x >= 600), cheek, 38, 1.6, 9),
        Part("forehead", forehead, _away(600, 290, 0.0, 0.55), 22, 1.4, 6),
        Part("muzzle", muzzle, _away(600, 500, 0.3), 12, 1.2, 4),
    )
    holes = _oval(600, 500, 32, 22) | _oval(455, 385, 40, 34) | _oval(745, 385, 40, 34)
    return parts, holes, (np.array([[600.0, 700], [600, 850]]),), ((600.0, 290.0),)


def _body():
    def flank(x, y):
        return 0.25 + 0.3 * np.sin((x - 200) / 260) + 0.0016 * (y - 430)

    def shoulder(x, y):
        return 0.9 + 0.0035 * (x - 330) + 0.25 * np.sin(y / 90)

    def leg(x, y):
        return np.pi / 2 + 0.002 * (x - 330) + 0 * y

    def back(x, y):
        return np.where(y < 240, -0.5, 0.35) + 0.1 * np.sin(x / 120)

    parts = (
        Part("leg", _oval(330, 740, 95, 140), leg, 18, 1.3, 5),
        Part("flank", _oval(620, 450, 440, 230), flank, 34, 1.5, 8),
        Part("back", _oval(620, 250, 400, 75), back, 48, 1.8, 10),
        Part("shoulder", _oval(330, 490, 190, 210), shoulder, 30, 1.5, 7),
        Part("haunch", _oval(920, 510, 190, 220), _away(900, 440, 0.25, -0.35), 26, 1.4, 7),
    )
    return parts, np.zeros((HEIGHT, WIDTH), bool), (np.array([[230.0, 240], [1010, 240]]),), ((900.0, 440.0),)


def _wing():
    def fan(cx, cy, low, high, reach):
        def way(x, y):
            return low + (high - low) * np.clip((x - cx) / reach, 0, 1) + 0.0008 * (y - cy)

        return way

    parts = (
        Part("primaries", _oval(830, 610, 310, 190, 0.25), fan(520, 600, 1.1, 0.25, 640), 95, 2.0, 22),
        Part("secondaries", _oval(480, 590, 250, 190, 0.1), fan(230, 590, 1.55, 1.05, 520), 75, 1.8, 18),
        Part("coverts", _oval(560, 390, 380, 130, 0.1), fan(180, 390, 1.2, 0.45, 780), 40, 1.6, 12),
        Part("scapulars", _oval(260, 330, 170, 150), fan(90, 330, 1.5, 0.9, 360), 34, 1.6, 10),
        Part("crown", _oval(930, 300, 170, 110), _away(880, 290, 0.1, 0.0), 16, 1.3, 5),
    )
    return parts, np.zeros((HEIGHT, WIDTH), bool), (), ((880.0, 290.0),)


GEOMETRIES = {"head": _head, "body": _body, "wing": _wing}


def _markings(kind: str, rng) -> np.ndarray:
    """Return 0..1 darkness whose borders lie across the growth."""
    x, y = _grid()
    slow = cv2.GaussianBlur(rng.standard_normal((HEIGHT, WIDTH)), (0, 0), 40)
    quick = cv2.GaussianBlur(rng.standard_normal((HEIGHT, WIDTH)), (0, 0), 14)
    slow, quick = slow / slow.std(), quick / quick.std()
    stripes = 1 / (1 + np.exp(-9 * (np.sin((0.35 * x + 0.94 * y) / 17 + 1.1 * slow) - 0.25)))
    spots = 1 / (1 + np.exp(-7 * (quick - 1)))
    return {"none": np.zeros_like(x), "stripes": stripes, "spots": spots}.get(kind, np.maximum(stripes, spots))


def _strands(part: Part, visible: np.ndarray, rng, jitter: float, *, feathers: bool):
    """Return lines (N, 8, 2), half widths, brightness and root positions of a part's hair."""
    rows, columns = np.nonzero(visible)
    tufts = int(len(rows) / (part.length * part.clump) * 4.5)
    pick = rng.integers(0, len(rows), tufts)
    each = max(4, round(part.clump / part.width * 1.5))
    middle = np.stack([columns[pick], rows[pick]], axis=1) + rng.random((tufts, 2))
    angle = part.way(*middle.T)
    across = (rng.random((tufts, each)) - 0.5) * part.clump
    along = (rng.random((tufts, each)) - 0.5) * 0.35 * part.length
    root = middle[:, None] + np.stack(
        [
            np.cos(angle)[:, None] * along - np.sin(angle)[:, None] * across,
            np.sin(angle)[:, None] * along + np.cos(angle)[:, None] * across,
        ],
        axis=-1,
    )
    lean = np.radians(jitter) * (0.7 * rng.standard_normal((tufts, 1)) + 0.7 * rng.standard_normal((tufts, each)))
    if feathers:
        # Barbs leave the shaft to both sides alike.
        lean = lean + np.radians(14) * np.sign(across)
    length = part.length * (1 + 0.12 * rng.standard_normal((tufts, 1))) * (1 + 0.1 * rng.standard_normal((tufts, each)))
    at, line = root.reshape(-1, 2), []
    lean, step = lean.ravel(), np.maximum(length.ravel(), 4) / 7
    pull = np.arctan(across.ravel() / part.length) * (0 if feathers else 0.9)
    for _ in range(8):
        line.append(at)
        a = part.way(*at.T) + lean - pull
        at = at + step[:, None] * np.stack([np.cos(a), np.sin(a)], axis=1)
    bright = (1 + 0.14 * rng.standard_normal((tufts, 1))) * (1 + 0.11 * rng.standard_normal((tufts, each)))
    half = part.width * np.clip(1 + 0.2 * rng.standard_normal(len(step)), 0.5, 2) / 2
    return np.stack(line, axis=1).astype(np.float32), half.astype(np.float32), bright.ravel(), root.reshape(-1, 2)


def coat(geometry: str, difficulty: str = "clear", markings: str = "both", seed: int = 0) -> MadeCoat:
    """Draw a coat."""
    rng = np.random.default_rng(seed + 100)
    parts, holes, partings, singular = GEOMETRIES[geometry]()
    blur, noise, jitter, quality = DIFFICULTIES[difficulty]
    dark, light = np.array([0.20, 0.14, 0.10]), np.array([0.80, 0.66, 0.48])
    mark = _markings(markings, rng)
    labels = np.zeros((HEIGHT, WIDTH), np.uint8)
    for k, part in enumerate(parts, 1):
        labels[part.mask] = k
    image = np.ones((HEIGHT, WIDTH, 4), np.float32)
    image[..., :3] = (0.35, 0.42, 0.36)
    seen = np.zeros((HEIGHT, WIDTH, 4), np.float32)
    under = 0.45 * (light * (1 - mark[..., None]) + dark * mark[..., None])
    image[labels > 0, :3] = under[labels > 0]
    for k, part in enumerate(parts, 1):
        line, half, bright, root = _strands(
            part, labels == k, rng, jitter, feathers=geometry == "wing" and part.length > 20
        )
        order = rng.permutation(len(line))
        line, half, bright, root = line[order], half[order], bright[order], root[order]
        j, i = np.clip(root.astype(int), 0, (WIDTH - 1, HEIGHT - 1)).T
        m = mark[i, j][:, None]
        colour = (light * (1 - m) + dark * m) * bright[:, None]
        # Root and tip: the whole strand darker, then its outer part lighter.
        tip = line[:, 3:]
        tips = np.stack([tip[:, np.minimum(np.arange(8), 4)]], axis=0)[0]
        shapes = np.stack(
            [outlines(line, half, hair_profile()), outlines(tips.copy(), half * 0.7, hair_profile())], axis=1
        ).reshape(-1, 16, 2)
        tones = np.stack([0.72 * colour, 1.12 * colour], axis=1).reshape(-1, 3)
        flat = np.full((len(line), 3), k / 10, np.float32)
        seen[(labels == k)] = k / 10
        paint_outlines(seen, shapes[::2].copy(), flat, np.ones(len(flat), np.float32))
        paint_outlines(image, shapes, np.clip(tones, 0, 1).astype(np.float32), np.full(len(tones), 0.9, np.float32))
    x, y = _grid()
    lit = 0.75 + 0.4 * (1 - x / WIDTH) + 0.2 * (1 - y / HEIGHT) - 0.15
    form = 0.55 + 0.45 * cv2.GaussianBlur((labels > 0).astype(np.float32), (0, 0), 25)
    rgb = image[..., :3] * (lit * form)[..., None]
    # What is seen of each part is where its hair lies on top, not where it grows from.
    share = [
        cv2.GaussianBlur((np.abs(seen[..., 0] - k / 10) < 0.03).astype(np.float32), (0, 0), 5)
        for k in range(len(parts) + 1)
    ]
    labels = np.argmax(share, axis=0).astype(np.uint8)
    rgb[holes] = (0.3, 0.18, 0.12)
    labels[holes] = 0
    angle = np.full((HEIGHT, WIDTH), np.nan, np.float32)
    for k, part in enumerate(parts, 1):
        here = labels == k
        angle[here] = part.way(x[here], y[here])
    rgb = cv2.GaussianBlur(rgb, (0, 0), blur)
    rgb += noise * rng.standard_normal(rgb.shape) * np.sqrt(np.clip(rgb, 0.05, 1) / 0.5)
    buffer = io.BytesIO()
    Image.fromarray((np.clip(rgb, 0, 1) * 255 + 0.5).astype(np.uint8)).save(buffer, "JPEG", quality=quality)
    made = np.asarray(Image.open(io.BytesIO(buffer.getvalue())).convert("RGB"))
    return MadeCoat(made, labels, angle, parts, partings, singular)


def sensible_combs(made: MadeCoat, count: int, seed: int = 0, wobble_deg: float = 4.0) -> list[np.ndarray]:
    """Return combs as a careful painter draws them: one in the middle of each part first, then where it is furthest away."""
    rng = np.random.default_rng(seed)
    deep = cv2.distanceTransform((made.labels > 0).astype(np.uint8), cv2.DIST_L2, 5) > 14
    rows, columns = np.nonzero(deep)
    few = rng.permutation(len(rows))[:5000]
    at, own = np.stack([columns[few], rows[few]], axis=1).astype(float), made.labels[rows[few], columns[few]]
    away = np.full(len(at), np.inf)
    order = sorted(range(1, len(made.parts) + 1), key=lambda k: -(made.labels == k).sum())
    combs = []
    for n in range(count):
        if n < len(order) and (own == order[n]).any():
            mine = np.flatnonzero(own == order[n])
            middle = at[mine].mean(axis=0) + rng.normal(0, 20, 2)
            first = mine[np.hypot(*(at[mine] - middle).T).argmin()]
        else:
            first = int(away.argmax())
        spot, k = at[first], int(own[first])
        away = np.minimum(away, np.hypot(*(at - spot).T))
        part = made.parts[k - 1]
        bias, line = np.radians(wobble_deg) * rng.standard_normal(), [spot]
        for _ in range(max(4, int(min(90, 2.2 * part.length) / 6))):
            a = float(part.way(*line[-1])) + bias + np.radians(wobble_deg * 0.6) * rng.standard_normal()
            there = line[-1] + 6 * np.array([np.cos(a), np.sin(a)])
            if not (0 <= there[0] < WIDTH and 0 <= there[1] < HEIGHT) or made.labels[int(there[1]), int(there[0])] != k:
                break
            line.append(there)
        if len(line) > 2:
            combs.append(np.array(line))
    return combs
