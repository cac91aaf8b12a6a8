"""A stand-in for a camera in front of the easel: a photograph of a painted picture, at an angle, in a room's light.

Perspective, the lens's bend, a lamp of some colour that stands to one side, a tone curve, glare, blur, noise, and a canvas that is cut off where
the painter stood too near. It ships with the program so that everything can be tried without a canvas, and behind the interface of a
folder that photographs arrive in (`foxpath.derive.progress.cameras`).
"""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, Points, Rgb8
from foxpath.core.colour import linear_from_rgb8, rgb8_from_linear
from foxpath.core.progress.frame import Frame
from foxpath.core.progress.small import blur, lab_of, rgb_of

DRIFT_MM, DRIFT_OVER_MM = 1.2, 70.0
WOBBLE_DE, WOBBLE_OVER_MM = 3.0, 45.0


@dataclass(frozen=True, slots=True)
class Room:
    """Where and how it is photographed.

    Attributes
    ----------
    long_px : int
        Longer side of the photograph.
    turn_deg, tilt_deg, roll_deg : float
        How far the camera stands to the side, above, and is rolled.
    fills : float
        Share of the photograph's width that the canvas takes; over 1 cuts it off.
    off : (x, y)
        How far its middle lies off the photograph's, as shares of the photograph.
    lens : float
        See `Frame.lens`.
    lamp : (r, g, b)
        Colour of the light.
    fall : (x, y)
        How much brighter it is at the right and below than at the left and above, as a share.
    tone : float
        Exponent of the camera's tone curve.
    glare : float
        Strength of a lamp's reflection, linear; 0 for none.
    glare_at : (x, y)
        Where it lies, as shares of the canvas.
    blur_px, noise : float
    wall : (L*, a*, b*)
    quality : int
        Of its JPEG.
    """

    long_px: int = 3000
    turn_deg: float = 5.0
    tilt_deg: float = 4.0
    roll_deg: float = 1.5
    fills: float = 0.78
    off: tuple[float, float] = (0.0, 0.0)
    lens: float = 0.01
    lamp: tuple[float, float, float] = (1.0, 0.93, 0.82)
    fall: tuple[float, float] = (0.15, -0.1)
    tone: float = 1.05
    glare: float = 0.0
    glare_at: tuple[float, float] = (0.7, 0.3)
    blur_px: float = 0.7
    noise: float = 0.006
    wall: tuple[float, float, float] = (72.0, 1.0, 6.0)
    quality: int = 92


def some_room(seed: int, long_px: int = 3000, *, cut: bool | None = None, glare: bool | None = None) -> Room:
    """Return a room by chance; `cut` and `glare` say whether a side is cut off and a lamp is mirrored, a third and a quarter of the time without."""
    rng = np.random.default_rng(seed)
    cut = bool(rng.random() < 1 / 3) if cut is None else cut
    glare = bool(rng.random() < 1 / 4) if glare is None else glare
    fills = float(rng.uniform(0.95, 1.0)) if cut else float(rng.uniform(0.66, 0.82))
    off = (float(rng.choice([-1, 1]) * rng.uniform(0.08, 0.13)), float(rng.uniform(-0.02, 0.02))) if cut else (
        float(rng.uniform(-0.04, 0.04)), float(rng.uniform(-0.03, 0.03))
    )  # fmt: skip
    warm = float(rng.uniform(-0.5, 1.0))
    return Room(
        long_px, float(rng.uniform(-10, 10)), float(rng.uniform(-9, 9)), float(rng.uniform(-3, 3)), fills, off,
        float(rng.uniform(-0.02, 0.03)), (1.0 + 0.04 * warm, 1.0 - 0.03 * warm, 1.0 - 0.18 * warm),
        (float(rng.uniform(-0.3, 0.3)), float(rng.uniform(-0.25, 0.25))), float(rng.uniform(0.92, 1.12)),
        float(rng.uniform(0.12, 0.35)) if glare else 0.0, (float(rng.uniform(0.2, 0.8)), float(rng.uniform(0.15, 0.85))),
        float(rng.uniform(0.4, 1.0)), float(rng.uniform(0.003, 0.009)),
        (float(rng.uniform(30, 85)), float(rng.uniform(-4, 6)), float(rng.uniform(-6, 14))), int(rng.integers(88, 96)),
    )  # fmt: skip


def another_hand(painted: Rgb8, px_per_mm: float, seed: int) -> Rgb8:
    """Return a painted picture as a hand would have it: its drawing drifts by about a millimetre, its colours by a step or two."""
    rng = np.random.default_rng(seed)
    height, width = painted.shape[:2]

    def waves(over_mm: float) -> F32:
        size = (max(3, round(width / (over_mm * px_per_mm))), max(3, round(height / (over_mm * px_per_mm))))
        coarse = rng.standard_normal((size[1] + 1, size[0] + 1)).astype(np.float32)
        made = np.asarray(cv2.resize(coarse, (width, height), interpolation=cv2.INTER_CUBIC), np.float32)
        # However it falls, a hand drifts no farther than it does.
        return made / max(float(np.abs(made).max()), 1e-6)

    y, x = np.mgrid[:height, :width].astype(np.float32)
    drift = DRIFT_MM * px_per_mm * float(rng.uniform(0.4, 1.0))
    lab = cv2.remap(
        lab_of(painted), x + drift * waves(DRIFT_OVER_MM), y + drift * waves(DRIFT_OVER_MM), cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    wobble = [WOBBLE_DE / 1.7 * float(rng.uniform(0.5, 1.0)) * waves(WOBBLE_OVER_MM) for _ in range(3)]
    return rgb_of(np.asarray(lab, np.float32) + np.dstack(wobble))


def photograph(painted: Rgb8, room: Room, seed: int = 0) -> tuple[Rgb8, Points]:
    """Photograph a painted picture.

    Parameters
    ----------
    painted : (H, W, 3) uint8 sRGB
    room : Room
    seed : int
        Of the noise and the wall.

    Returns
    -------
    photo : (h, w, 3) uint8 sRGB
    corners : (4, 2) float64
        Of the canvas in it, px, clockwise from its top left.
    """
    rng = np.random.default_rng(seed)
    height, width = painted.shape[:2]
    wide = width >= height
    w, h = (room.long_px, round(room.long_px * 3 / 4)) if wide else (round(room.long_px * 3 / 4), room.long_px)
    frame = _frame(room, (width, height), (w, h))
    x, y = _back(frame, w, h)
    linear = linear_from_rgb8(painted)
    step = 1 / max(frame.scale, 1e-6)
    if step > 1.2:
        linear = blur(linear, 0.4 * step)
    inside = (x >= 0) & (x < width) & (y >= 0) & (y < height)
    seen = cv2.remap(linear, x - 0.5, y - 0.5, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    wall = _wall(room, w, h, rng)
    cover = blur(inside.astype(np.float32), 0.6)[..., None]
    # The canvas throws a shadow on the wall behind it.
    dark = (
        1
        - 0.35
        * blur(np.roll(inside, (round(0.012 * h), round(0.01 * w)), (0, 1)).astype(np.float32), 0.008 * w)[..., None]
    )
    light = np.asarray(seen * cover + wall * dark * (1 - cover), np.float32)
    u, v = np.meshgrid(np.linspace(-1, 1, w, dtype=np.float32), np.linspace(-1, 1, h, dtype=np.float32))
    fall = 1 + 0.5 * room.fall[0] * u + 0.5 * room.fall[1] * v - 0.06 * (u * u + v * v)
    light = np.asarray(light * fall[..., None] * np.array(room.lamp, np.float32), np.float32)
    if room.glare > 0:
        gx, gy = frame.to_photo(np.array([[room.glare_at[0] * width, room.glare_at[1] * height]]))[0]
        spread = 0.075 * w
        away = ((u * w / 2 + w / 2 - gx) ** 2 + 1.6 * (v * h / 2 + h / 2 - gy) ** 2) / (2 * spread * spread)
        added = (room.glare * np.exp(-away))[..., None] * np.array(room.lamp, np.float32) * cover
        light = np.asarray(light + added, np.float32)
    light = blur(light, room.blur_px)
    top = float(np.percentile(light[::8, ::8], 99.5))
    light = np.asarray(np.clip(light * min(1.0, 0.9 / max(top, 1e-3)), 0, 1) ** np.float32(room.tone), np.float32)
    noise = rng.standard_normal(light.shape).astype(np.float32) * (room.noise * np.sqrt(np.maximum(light, 0.02)))
    photo = rgb8_from_linear(np.asarray(np.clip(light + noise, 0, 1), np.float32))
    _, packed = cv2.imencode(".jpg", photo[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, room.quality])
    opened = cv2.imdecode(packed, cv2.IMREAD_COLOR)
    assert opened is not None
    return np.ascontiguousarray(opened[..., ::-1]).astype(np.uint8), frame.corners(width, height)


def _frame(room: Room, canvas: tuple[int, int], size: tuple[int, int]) -> Frame:
    """Return how the photograph will lie on the canvas."""
    width, height = canvas
    w, h = size
    a, b, c = np.radians([room.turn_deg, room.tilt_deg, room.roll_deg])
    turn = np.array([[np.cos(a), 0, np.sin(a)], [0, 1, 0], [-np.sin(a), 0, np.cos(a)]])
    tilt = np.array([[1, 0, 0], [0, np.cos(b), -np.sin(b)], [0, np.sin(b), np.cos(b)]])
    roll = np.array([[np.cos(c), -np.sin(c), 0], [np.sin(c), np.cos(c), 0], [0, 0, 1]])
    # A usual lens: as far away as 1.3 times the photograph's long side.
    focal = 1.3 * max(w, h)
    reach = room.fills * min(w / width, h / height)
    plane = np.array([[1, 0, -width / 2], [0, 1, -height / 2], [0, 0, 0]]) * reach
    placed = roll @ turn @ tilt @ plane
    placed[2, 2] += focal
    view = np.array([[focal, 0, w / 2 + room.off[0] * w], [0, focal, h / 2 + room.off[1] * h], [0, 0, 1]])
    return Frame(np.linalg.inv(view @ placed), room.lens, size)


def _back(frame: Frame, w: int, h: int) -> tuple[F32, F32]:
    """Return which place of the canvas each pixel of the photograph sees."""
    x, y = np.meshgrid(np.arange(w, dtype=np.float32) + 0.5, np.arange(h, dtype=np.float32) + 0.5)
    dx, dy = x - w / 2, y - h / 2
    bend = 1 + np.float32(frame.lens / ((w * w + h * h) / 4)) * (dx * dx + dy * dy)
    u, v = w / 2 + dx * bend, h / 2 + dy * bend
    m = frame.homography.astype(np.float32)
    below = m[2, 0] * u + m[2, 1] * v + m[2, 2]
    return (m[0, 0] * u + m[0, 1] * v + m[0, 2]) / below, (m[1, 0] * u + m[1, 1] * v + m[1, 2]) / below


def _wall(room: Room, w: int, h: int, rng: np.random.Generator) -> F32:
    """Return the wall behind the easel, with a mast and a ledge, linear."""
    lab = np.empty((h, w, 3), np.float32)
    lab[:] = room.wall
    grain = blur(rng.standard_normal((h // 4 + 1, w // 4 + 1)).astype(np.float32), 3)
    lab[..., 0] += 6 * cv2.resize(grain, (w, h))
    wood = np.array([48, 10, 22], np.float32)
    mast = round(0.035 * w)
    lab[:, w // 2 - mast : w // 2 + mast] = wood
    lab[round(0.93 * h) : round(0.97 * h)] = wood * 0.9
    rgb = cv2.cvtColor(lab, cv2.COLOR_LAB2RGB)
    return linear_from_rgb8(np.clip(rgb * 255, 0, 255).astype(np.uint8))
