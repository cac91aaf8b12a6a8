"""Made faces: coat, markings, mask, skin, lids and an eye, drawn at random, so that the visible eye is known to the pixel.

They are meant to mislead: eyes in dark and in pale masks, ringed by skin, half covered, without a pupil that shows, tiny and soft,
beside spots as dark as they are.
"""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Rgb8
from foxpath.core.eyes import Ellipse

MOST_OVAL = 2.3
"""Lids that leave less open than this would hide the eye."""


@dataclass(frozen=True, slots=True, eq=False)
class Face:
    """A made face: the picture, the visible eye (by how its area spreads), and where it is clicked, pixels."""

    rgb: Rgb8
    eye: Ellipse
    click: tuple[float, float]


class _Canvas:
    """A picture in CIELAB that is painted through soft masks."""

    def __init__(self, rng: np.random.Generator, width: int, height: int) -> None:
        self.rng = rng
        self.y, self.x = np.mgrid[0:height, 0:width].astype(np.float32)
        self.lab = np.zeros((height, width, 3), np.float32)

    def paint(self, mask: F32 | F64, colour: object) -> None:
        self.lab += (np.asarray(colour, np.float32) - self.lab) * mask[..., None]

    def ellipse(self, cx: float, cy: float, rx: float, ry: float, deg: float) -> F32:
        """Return how far each pixel is from a middle, in half axes."""
        a = np.radians(deg)
        u = (self.x - cx) * np.cos(a) + (self.y - cy) * np.sin(a)
        v = (self.y - cy) * np.cos(a) - (self.x - cx) * np.sin(a)
        return np.asarray(np.hypot(u / rx, v / ry), np.float32)

    def clouds(self, size: float) -> F32:
        """Return noise of a size in pixels, spread 1."""
        return _even(cv2.GaussianBlur(self.rng.normal(0, 1, self.x.shape).astype(np.float32), (0, 0), size))

    def hairs(self, size: float, deg: float, length: float) -> F32:
        """Return noise drawn out along a direction, spread 1."""
        reach = max(3, int(2 * size * length) | 1)
        kernel = np.zeros((reach, reach), np.float32)
        by = np.array([np.cos(np.radians(deg)), np.sin(np.radians(deg))]) * (reach // 2)
        ends = [(int(reach // 2 + s * by[0]), int(reach // 2 + s * by[1])) for s in (-1, 1)]
        cv2.line(kernel, ends[0], ends[1], 1.0)
        grain = self.rng.normal(0, 1, self.x.shape).astype(np.float32)
        return _even(cv2.GaussianBlur(cv2.filter2D(grain, -1, kernel / kernel.sum()), (0, 0), size))


def _even(noise: F32) -> F32:
    return np.asarray(noise / (noise.std() + 1e-6), np.float32)


def _soft(off: F32 | F64, width: float) -> F32:
    """Return a mask of where `off` is positive, with an edge of some width."""
    return np.asarray(1 / (1 + np.exp(-np.clip(2.2 * off / max(width, 1e-3), -40, 40))), np.float32)


def _colour(rng: np.random.Generator, dark: float, light: float, chroma: float) -> F32:
    return np.array([rng.uniform(dark, light), rng.normal(3, chroma / 4), rng.normal(8, chroma / 2.2)], np.float32)


def made_face(rng: np.random.Generator) -> Face | None:
    """Draw a face; None where hardly anything of the eye was left visible."""
    height = int(rng.integers(260, 440))
    width = int(height * rng.uniform(1, 1.4))
    r = min(float(np.exp(rng.uniform(np.log(5.5), np.log(40)))), 0.13 * height)
    room = min(4 * r, 0.4 * height)
    cx, cy = rng.uniform(room, width - room), rng.uniform(room, height - room)
    canvas = _Canvas(rng, width, height)
    fur = _coat(canvas, cx, cy, r)
    visible = _eye(canvas, cx, cy, r)
    if rng.random() < 0.35:
        _hairs_over(canvas, cx, cy, r, fur)
    seen = visible > 0.5
    if seen.sum() < 20:
        return None
    y, x = np.nonzero(seen)
    eye = Ellipse(float(x.mean()) + 0.5, float(y.mean()) + 0.5, 2 * float(x.std()), 2 * float(y.std()))
    small, large = sorted((eye.rx, eye.ry))
    if small < 3 or large > MOST_OVAL * small:
        return None
    turn, off = rng.uniform(0, 2 * np.pi), rng.uniform(0, 0.25) * small
    return Face(_photographed(canvas, r), eye, (eye.cx + off * np.cos(turn), eye.cy + off * np.sin(turn)))


def _coat(canvas: _Canvas, cx: float, cy: float, r: float) -> F32:
    """Paint coat, the head's edge, markings and a mask; returns the coat's colour."""
    rng = canvas.rng
    fur = _colour(rng, 12, 88, 30)
    canvas.lab[:] = fur
    canvas.lab[..., 0] += canvas.clouds(canvas.lab.shape[0] / 7) * rng.uniform(0, 9)
    if rng.random() < 0.7:
        turn = rng.uniform(0, 2 * np.pi)
        off = (canvas.x - cx) * np.cos(turn) + (canvas.y - cy) * np.sin(turn) - rng.uniform(3.5, 12) * r
        canvas.paint(_soft(off - canvas.clouds(r / 2 + 3) * r * 0.3, rng.uniform(1, r)), _colour(rng, 5, 95, 50))
    for _ in range(rng.integers(0, 7)):
        turn, away = rng.uniform(0, 2 * np.pi), rng.uniform(2.6, 7) * r
        size = min(rng.uniform(0.4, 2.2) * r, max(away - 1.5 * r, 0.4 * r))
        spot = canvas.ellipse(
            cx + away * np.cos(turn), cy + away * np.sin(turn), size, size * rng.uniform(0.3, 1), rng.uniform(0, 180)
        )
        spot += canvas.clouds(r / 4 + 1) * rng.uniform(0, 0.25)
        canvas.paint(_soft(1 - spot, rng.uniform(0.05, 0.5)) * rng.uniform(0.4, 1), _colour(rng, 5, 92, 35))
    if rng.random() < 0.55:
        mask = canvas.ellipse(
            cx + rng.normal(0, 0.35) * r, cy + rng.normal(0, 0.35) * r, r * rng.uniform(1.6, 3.6), r * rng.uniform(1.5, 2.8),
            rng.uniform(-60, 60),
        ) + canvas.clouds(r / 5 + 1) * rng.uniform(0, 0.2)  # fmt: skip
        colour = _colour(rng, 4, 30, 10) if rng.random() < 0.6 else _colour(rng, 60, 92, 20)
        canvas.paint(_soft(1 - mask, rng.uniform(0.05, 0.5)), colour)
    hairs = canvas.hairs(rng.uniform(0.6, 1.4), rng.uniform(0, 180), rng.uniform(2, 7)) * rng.uniform(1.5, 11)
    canvas.lab[..., 0] += hairs * np.clip(canvas.lab[..., 0] / 45, 0.25, 1.2)
    return fur


def _eye(canvas: _Canvas, cx: float, cy: float, r: float) -> F32:
    """Paint skin, lids and the ball; returns how much of it is visible at each pixel."""
    rng = canvas.rng
    tilt = np.radians(rng.uniform(-35, 35))
    if rng.random() < 0.85:
        deg = rng.uniform(-20, 20) + (90 if rng.random() < 0.25 else 0)
        ball = canvas.ellipse(cx, cy, r, r * rng.uniform(0.84, 1), deg)
    else:
        ball = canvas.ellipse(cx, cy, r * rng.uniform(0.5, 0.75), r, rng.normal(0, 10))
    u = ((canvas.x - cx) * np.cos(tilt) + (canvas.y - cy) * np.sin(tilt)) / r
    v = ((canvas.y - cy) * np.cos(tilt) - (canvas.x - cx) * np.sin(tilt)) / r
    wide = rng.uniform(1.0, 1.15) if rng.random() < 0.6 else rng.uniform(1.2, 1.9)
    across = u - rng.normal(0, 0.3) * (wide - 1)
    bend = 1 - np.clip(across / wide, -1, 1) ** 2
    top = rng.uniform(-1.2, -0.25) * bend if rng.random() < 0.6 else -1.25 * bend**0.6
    low = rng.uniform(0.35, 1.2) * bend if rng.random() < 0.4 else 1.25 * bend**0.6
    between = np.minimum(v - top, low - v)
    if rng.random() < 0.75:
        _skin(canvas, ball, between, across, v, wide)
    opening = _soft(between, 0.06) * _soft(wide - np.abs(across), 0.05)
    dark = rng.random() < 0.5
    if wide > 1.18:
        pale = rng.random() < 0.3 if dark else rng.random() < 0.5
        canvas.paint(opening, _colour(rng, 35, 85, 14) if pale else _colour(rng, 4, 28, 10))
    visible = np.asarray(opening * _soft(1 - ball, 0.07), np.float32)
    if dark:
        _dark_ball(canvas, ball, visible)
    else:
        _iris(canvas, cx, cy, r, ball, visible)
    if rng.random() < 0.6:
        canvas.lab[..., 0] *= 1 - visible * rng.uniform(0, 0.45) * _soft(0.6 * top - v, 0.3)
    if rng.random() < 0.3:
        sky = visible * _soft(-v - rng.uniform(0, 0.4), 0.25) * rng.uniform(0.15, 0.55)
        canvas.paint(sky, [rng.uniform(50, 85), -2, rng.uniform(-14, 2)])
    if rng.random() < 0.85:
        turn, away, size = (
            rng.uniform(1.1, 1.9) * np.pi,
            rng.uniform(0.15, 0.65) * r,
            max(rng.uniform(0.07, 0.28) * r, 0.7),
        )
        glint = canvas.ellipse(
            cx + away * np.cos(turn), cy + away * np.sin(turn), size, size * rng.uniform(0.6, 1), rng.uniform(0, 180)
        )
        canvas.paint(np.minimum(_soft(1 - glint, 0.25), visible) * rng.uniform(0.6, 1), [rng.uniform(75, 98), 0, 0])
    return visible


def _skin(canvas: _Canvas, ball: F32, between: F32, across: F32, v: F32, wide: float) -> None:
    """Paint the bare skin about an eye, sometimes drawn out into a corner."""
    rng = canvas.rng
    thick = rng.uniform(0.08, 0.5)
    ring = _soft(between + thick, rng.uniform(0.05, 0.2)) * _soft(wide + 1.3 * thick - np.abs(across), 0.1)
    ring = np.maximum(ring, _soft(1 + 0.8 * thick - ball, 0.1))
    if rng.random() < 0.4:
        corner = 0.35 * (1 - np.abs(across - 1.5 * rng.choice([-1, 1])) / 0.9) - np.abs(v - 0.2)
        ring = np.maximum(ring, _soft(corner, 0.08))
    colour = _colour(rng, 3, 28, 10) if rng.random() < 0.7 else _colour(rng, 45, 85, 22)
    canvas.paint(ring * rng.uniform(0.6, 1), colour)


def _dark_ball(canvas: _Canvas, ball: F32, visible: F32) -> None:
    """Paint iris and pupil as one dark shape, sometimes with a trace of the iris toward the rim."""
    rng = canvas.rng
    colour = _colour(rng, 2, 16, 12)
    canvas.paint(visible, colour)
    if rng.random() < 0.5:
        trace = np.array([rng.uniform(3, 14), rng.normal(4, 4), rng.normal(7, 5)], np.float32)
        canvas.paint(visible * _soft(ball - rng.uniform(0.35, 0.7), 0.2) * 0.8, colour + trace)


def _iris(canvas: _Canvas, cx: float, cy: float, r: float, ball: F32, visible: F32) -> None:
    """Paint an iris with its pupil, often with a dark rim."""
    rng = canvas.rng
    canvas.paint(visible, _colour(rng, 22, 74, 60))
    canvas.lab[..., 0] += visible * canvas.clouds(max(0.6, r / 14)) * rng.uniform(0, 4)
    if rng.random() < 0.6:
        canvas.paint(visible * _soft(ball - rng.uniform(0.75, 0.92), 0.08), [rng.uniform(5, 25), 0, 0])
    wide = rng.uniform(0.2, 0.6)
    rx, ry = [(wide, wide), (0.16, 0.65), (0.6, 0.17)][int(rng.choice(3, p=[0.7, 0.15, 0.15]))]
    pupil = canvas.ellipse(
        cx + rng.normal(0, 0.06) * r, cy + rng.normal(0, 0.06) * r, r * rx, r * ry, rng.uniform(-17, 17)
    )
    canvas.paint(visible * _soft(1 - pupil, 0.1), [rng.uniform(2, 14), 0, 0])


def _hairs_over(canvas: _Canvas, cx: float, cy: float, r: float, fur: F32) -> None:
    """Paint lashes and hairs across the eye."""
    rng = canvas.rng
    over = np.zeros(canvas.x.shape, np.float32)
    for _ in range(rng.integers(2, 9)):
        x, y, turn = cx + rng.uniform(-1.6, 1.6) * r, cy - rng.uniform(0.6, 1.8) * r, rng.uniform(0.2, 2.9)
        end = (int(x + 1.3 * r * np.cos(turn)), int(y + 1.3 * r * np.sin(turn)))
        cv2.line(over, (int(x), int(y)), end, 1.0, 1, cv2.LINE_AA)
    canvas.paint(over * rng.uniform(0.3, 0.9), fur + np.array([rng.uniform(-10, 12), 0, 0], np.float32))


def _photographed(canvas: _Canvas, r: float) -> Rgb8:
    """Return the picture as a camera might have kept it: a little soft, noisy, packed."""
    rng = canvas.rng
    canvas.lab[..., 0] = np.clip(canvas.lab[..., 0], 0, 98)
    rgb = cv2.cvtColor(canvas.lab, cv2.COLOR_LAB2RGB)
    rgb = cv2.GaussianBlur(rgb, (0, 0), rng.uniform(0.4, max(0.6, 0.11 * r)))
    rgb = np.clip(rgb + rng.normal(0, rng.uniform(0, 0.02), rgb.shape), 0, 1)
    _, packed = cv2.imencode(
        ".jpg", (255 * rgb[..., ::-1]).astype(np.uint8), [cv2.IMWRITE_JPEG_QUALITY, int(rng.integers(72, 96))]
    )
    return np.ascontiguousarray(np.asarray(cv2.imdecode(packed, cv2.IMREAD_COLOR), np.uint8)[..., ::-1])


def made_faces(count: int, seed: int) -> list[Face]:
    """Return so many made faces; the same seed gives the same ones."""
    rng = np.random.default_rng(seed)
    faces: list[Face] = []
    while len(faces) < count:
        face = made_face(rng)
        if face is not None:
            faces.append(face)
    return faces
