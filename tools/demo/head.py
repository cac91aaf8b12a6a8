"""The made-up fox as a model: outlines, growth, hair lengths and light, in the head's own frame.

The frame has its origin between the eyes, x to the fox's left as seen (right in the picture), y down,
and a unit of about a third of a millimetre on the canvas. `Head.to_picture` turns the head a little
to the left and tilts it, and brings it to picture pixels.
"""

import math
from collections.abc import Callable, Sequence

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.curves import closed_curve

WIDTH, HEIGHT = 2000, 1600
"""Picture size in pixels: 4 px a millimetre on a 50 x 40 cm panel."""
SCALE, CENTRE_X, CENTRE_Y = 1.34, 985.0, 742.0
YAW, TILT = math.radians(13), math.radians(-4)

Layer = str
Pairs = Sequence[tuple[float, float]]
LAYERS: tuple[Layer, ...] = ("back", "bib", "ear", "ear-hair", "face")


def smooth(low: float, high: float, value: F64) -> F64:
    """Rise from 0 at `low` to 1 at `high` along a smooth step (falls when `low` > `high`)."""
    t = np.clip((value - low) / (high - low), 0, 1)
    return np.asarray(t * t * (3 - 2 * t))


def bump(x: F64, y: F64, at: tuple[float, float], size: tuple[float, float], power: int = 2) -> F64:
    """Return a rounded bump of height 1 at a place."""
    return np.asarray(np.exp(-(np.abs((x - at[0]) / size[0]) ** power) - np.abs((y - at[1]) / size[1]) ** power))


# Outlines, right half first where they are symmetric; all go round the shape.
_HEAD = [(0, -232), (78, -222), (150, -184), (208, -112), (240, -36), (282, 36), (346, 116), (376, 164),
         (318, 196), (262, 236), (190, 270), (124, 294), (70, 326), (0, 340)]  # fmt: skip
_EAR = [(72, -182), (108, -268), (166, -372), (214, -436), (240, -428), (266, -330), (276, -214), (262, -96),
        (206, -64), (138, -118)]  # fmt: skip
_EAR_INNER = [(118, -186), (146, -276), (192, -366), (222, -400), (242, -312), (250, -206), (232, -116), (180, -118)]
_MUZZLE = [(0, 38), (40, 52), (58, 110), (76, 168), (84, 214), (72, 258), (42, 292), (0, 304)]
_CHEEK = [(58, 150), (88, 112), (140, 90), (214, 92), (286, 110), (352, 148), (318, 184), (258, 228), (184, 262),
          (116, 290), (70, 322), (30, 330), (56, 286), (82, 236), (80, 186)]  # fmt: skip
_EYE = [(56, 24), (78, -10), (108, -25), (138, -17), (164, -11), (144, 13), (112, 24), (82, 26)]
_NOSE = [(0, 168), (28, 166), (48, 176), (54, 194), (40, 214), (18, 224), (0, 236), (-18, 224), (-40, 214),
         (-54, 194), (-48, 176), (-28, 166)]  # fmt: skip
_BIB = [(-206, 196), (-290, 330), (-330, 470), (-360, 660), (-400, 900), (420, 900), (404, 660), (352, 470),
        (296, 330), (214, 196), (110, 300), (0, 352), (-110, 300)]  # fmt: skip
_BACK = [(60, 120), (300, 130), (440, 226), (560, 372), (660, 520), (760, 690), (820, 920), (-500, 920),
         (-440, 640), (-372, 430), (-300, 280)]  # fmt: skip
_WHISKER_PAD = [(36, 206), (66, 200), (78, 228), (66, 256), (40, 262)]


def mirrored(points: Pairs) -> Pairs:
    """Return the outline on the other side of the head."""
    return [(-x, y) for x, y in points]


def closed(half: Pairs) -> Pairs:
    """Close a half outline that runs from the midline to the midline."""
    return [*half, *mirrored(half[-2:0:-1])]


def depth(x: F64, y: F64) -> F64:
    """Return how far the head's surface stands toward the viewer."""
    dome = 190 * np.exp(-((x / 250) ** 2) - ((y - 10) / 260) ** 2)
    muzzle = 150 * bump(x, y, (0, 196), (82, 118))
    bridge = 46 * bump(x, y, (0, 70), (46, 110))
    brow = 18 * (bump(x, y, (104, -44), (56, 26)) + bump(x, y, (-104, -44), (56, 26)))
    sockets = 26 * (bump(x, y, (108, 4), (52, 30)) + bump(x, y, (-108, 4), (52, 30)))
    cheek = 34 * (bump(x, y, (214, 110), (110, 90)) + bump(x, y, (-214, 110), (110, 90)))
    return np.asarray(dome + muzzle + bridge + brow - sockets + cheek)


def to_picture(x: F64, y: F64, *, head: bool = True) -> tuple[F64, F64]:
    """Map the head's frame to picture pixels; the body turns less than the head."""
    x, y = np.asarray(x, float), np.asarray(y, float)
    if head:
        # Past the ruff the turned head would fold over itself: the depth fades out there.
        px = x * math.cos(YAW) - (depth(x, y) - 60) * math.sin(YAW)
        c, s = math.cos(TILT), math.sin(TILT)
        px, py = c * px - s * y, s * px + c * y
    else:
        px, py = x * 0.99, y
    return CENTRE_X + SCALE * px, CENTRE_Y + SCALE * py


def outline_px(points: Pairs, *, head: bool = True) -> Points:
    """Return outline points in picture pixels."""
    x, y = np.array(points, float).T
    return np.stack(to_picture(x, y, head=head), axis=1)


def shapes() -> dict[str, Pairs]:
    """Return every outline in the head's frame."""
    return {
        "head": closed(_HEAD),
        "near-ear": _EAR,
        "far-ear": mirrored(_EAR),
        "near-ear-inner": _EAR_INNER,
        "far-ear-inner": mirrored(_EAR_INNER),
        "muzzle": closed(_MUZZLE),
        "near-cheek": _CHEEK,
        "far-cheek": mirrored(_CHEEK),
        "near-eye": _EYE,
        "far-eye": mirrored(_EYE),
        "nose": _NOSE,
        "bib": _BIB,
        "back": _BACK,
        "near-whiskers": _WHISKER_PAD,
        "far-whiskers": mirrored(_WHISKER_PAD),
    }


def smooth_outline(name: str) -> Points:
    """Return a finely sampled outline in the head's frame."""
    return closed_curve(np.array(shapes()[name], float), 16)


def _face_growth(x: F64, y: F64) -> tuple[F64, F64]:
    """From the nose up the bridge, over the brow, out over the cheeks and down the ruff."""
    ax, side = np.abs(x), np.tanh(x / 16)
    radius = np.hypot(x, y - 196) + 1e-3
    vx, vy = x / radius, (y - 196) / radius
    # Cheeks: backwards along the jaw, falling a little.
    cheek = smooth(56, 170, ax) * smooth(-150, 0, y)
    fall = 0.16 + 0.62 * smooth(70, 260, ax) * smooth(-40, 130, y)
    vx, vy = vx * (1 - cheek) + 0.92 * side * cheek, vy * (1 - cheek) + fall * cheek
    # Forehead: up between the eyes and fanning toward the ears.
    brow = smooth(16, -104, y) * smooth(330, 120, ax)
    vx, vy = vx * (1 - brow) + np.tanh(x / 165) * 0.95 * brow, vy * (1 - brow) - 0.92 * brow
    # Chin: down and back.
    chin = smooth(232, 318, y)
    vx, vy = vx * (1 - chin) + 0.004 * x * chin, vy * (1 - chin) + chin
    return vx, vy


def _ear_growth(x: F64, y: F64) -> tuple[F64, F64]:
    """Toward the tip."""
    tx, ty = np.sign(x) * 236 - x, -560 - y
    size = np.hypot(tx, ty)
    return tx / size, ty / size


def _ear_hair_growth(x: F64, y: F64) -> tuple[F64, F64]:
    """From the inner edge outward and up, leaning out at the top."""
    return np.sign(x) * (0.50 + 0.12 * smooth(-200, -380, y)), np.full_like(x, -0.82)


def _bib_growth(x: F64, y: F64) -> tuple[F64, F64]:
    """Down the chest, parting gently from the middle."""
    return x / 520 + 0.10 * np.sin(y / 74 + x / 110), np.full_like(x, 1.0)


def _back_growth(x: F64, y: F64) -> tuple[F64, F64]:
    """From the neck over the shoulder and down."""
    return np.sign(x) * (0.62 - 0.0003 * (y - 200)), 0.80 + 0.12 * np.sin(x / 90)


_GROWTH: dict[Layer, Callable[[F64, F64], tuple[F64, F64]]] = {
    "face": _face_growth,
    "ear": _ear_growth,
    "ear-hair": _ear_hair_growth,
    "bib": _bib_growth,
    "back": _back_growth,
}


def growth(layer: Layer, x: F64, y: F64) -> tuple[F64, F64]:
    """Return the known growth of a layer, unit vectors from root to tip in the head's frame."""
    vx, vy = _GROWTH[layer](np.asarray(x, float), np.asarray(y, float))
    size = np.hypot(vx, vy) + 1e-9
    return vx / size, vy / size


def hair_length(layer: Layer, x: F64, y: F64) -> F64:
    """Return the hair's length in the head's frame: velvet at the nose, long in ruff and bib."""
    x, y = np.asarray(x, float), np.asarray(y, float)
    ax = np.abs(x)
    if layer == "face":
        length = 9 + 0.075 * np.clip(np.hypot(x, y - 200) - 44, 0, 420)
        length = length + 50 * smooth(186, 330, ax) * smooth(-40, 120, y) + 30 * smooth(250, 330, y)
        near_eye = (np.abs(ax - 108) < 62) & (np.abs(y) < 36)
        return np.asarray(np.where(near_eye, np.minimum(length, 12), length))
    usual = {"ear": 20.0, "ear-hair": 76.0, "bib": 74.0, "back": 62.0}[layer]
    return np.full_like(x, usual) + (0.05 * np.clip(y - 250, 0, 400) if layer == "bib" else 0)


def trace(layer: Layer, x: F64, y: F64, length: F64, turn: F64, curl: F64, points: int = 8) -> F64:
    """Trace hairs through the known growth: (N, points, 2) in the head's frame."""
    out = np.empty((len(x), points, 2))
    px, py = x.copy(), y.copy()
    for k in range(points):
        out[:, k] = np.stack([px, py], axis=1)
        vx, vy = growth(layer, px, py)
        angle = turn + curl * (k / points - 0.25)
        c, s = np.cos(angle), np.sin(angle)
        step = length / (points - 1)
        px, py = px + (c * vx - s * vy) * step, py + (s * vx + c * vy) * step
    return out


def lines_px(layer: Layer, lines: F64) -> F64:
    """Bring traced hairs to picture pixels."""
    x, y = to_picture(lines[..., 0], lines[..., 1], head=layer not in {"bib", "back"})
    return np.stack([x, y], axis=-1)
