"""The made-up guinea pigs: two woolly ones of different warmth on a bright stone step, low light from behind, the farther out of focus.

Outlines, curls and light are numbers, in pixels of a picture of 1800 x 1200.
"""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Points, Rgb8
from foxpath.core.brush import hair_profile, outlines, paint_outlines
from foxpath.core.curves import closed_curve
from tools.demo.brushwork import blur, ellipse, mix, polygon, stroke

WIDTH, HEIGHT = 1800, 1200
STEP_Y = 820
"""Where the stone step's edge lies."""
IRIS = 23.0


@dataclass(frozen=True)
class Cavy:
    """One of them.

    Attributes
    ----------
    name : str
    body, head : outline points, closed
    eyes : two middles, left to right in the picture
    nose : its middle
    coat, dark : sRGB 0..1
        Of its curls in the half light, and of what lies beneath them.
    blur : float
        How far out of focus it is, pixels.
    """

    name: str
    body: tuple[tuple[float, float], ...]
    head: tuple[tuple[float, float], ...]
    eyes: tuple[tuple[float, float], tuple[float, float]]
    nose: tuple[float, float]
    coat: tuple[float, float, float]
    dark: tuple[float, float, float]
    blur: float


RUSK = Cavy(
    "Rusk",
    ((330, 640), (420, 500), (560, 420), (730, 400), (880, 450), (960, 570), (970, 720), (920, 850), (780, 905), (560, 915),
     (400, 880), (330, 780)),
    ((262, 660), (282, 560), (350, 492), (440, 470), (530, 495), (590, 565), (602, 665), (570, 760), (500, 828), (425, 850),
     (350, 826), (288, 752)),
    ((352.0, 622.0), (508.0, 618.0)), (428.0, 726.0), (0.66, 0.40, 0.22), (0.20, 0.10, 0.06), 0.0,
)  # fmt: skip
ASH = Cavy(
    "Ash",
    ((1080, 600), (1150, 470), (1290, 400), (1450, 395), (1580, 460), (1640, 580), (1640, 720), (1570, 815), (1410, 850),
     (1210, 845), (1105, 770)),
    ((1010, 600), (1032, 515), (1095, 455), (1180, 440), (1262, 470), (1312, 540), (1318, 625), (1285, 705), (1220, 765),
     (1150, 780), (1080, 755), (1030, 690)),
    ((1098.0, 566.0), (1232.0, 570.0)), (1163.0, 664.0), (0.55, 0.57, 0.60), (0.16, 0.17, 0.20), 5.0,
)  # fmt: skip
CAVIES = (ASH, RUSK)
"""The farther first."""


def smooth(points: tuple[tuple[float, float], ...]) -> Points:
    """Return an outline as it is drawn."""
    return closed_curve(np.array(points, np.float64), 8)


def nose_outline(cavy: Cavy) -> Points:
    """Return the outline of a nose."""
    return ellipse(np.array(cavy.nose), 27, 18)[::4]


def away(cavy: Cavy, part: str, x: F64, y: F64) -> F64:
    """Return in which direction a part's curls lie as a whole, radians: away from the nose, and down."""
    cx, cy = cavy.nose
    pull = 0.35 if part == "head" else 0.8
    return np.asarray(np.arctan2((y - cy) + pull * 160, x - cx), np.float64)


def _noise(rng: np.random.Generator, size: float) -> F32:
    field = blur(rng.standard_normal((HEIGHT, WIDTH)).astype(np.float32), size)
    return np.asarray(field / field.std(), np.float32)


def _mask(outline: Points) -> Bool:
    canvas = np.zeros((HEIGHT, WIDTH, 4), np.float32)
    polygon(canvas, outline, (255, 255, 255))
    return np.asarray(canvas[..., 0] > 0.5)


def _light(mask: Bool) -> tuple[F32, F32]:
    """Return how much of the low light behind a place takes (0..1), and how deep it lies from the rim (px)."""
    import cv2

    deep = cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 5)
    dy, dx = np.gradient(blur(np.asarray(deep, np.float32), 6))
    # The light stands behind and to the right: rims that face it shine.
    facing = np.clip(0.75 * dy - 0.45 * dx + 0.1, 0, 1)
    return np.asarray(np.exp(-deep / 26) * facing, np.float32), np.asarray(deep, np.float32)


def _curls(cavy: Cavy, part: str, mask: Bool, rng: np.random.Generator) -> tuple[F32, F32, F32, F32]:
    """Return a part's strokes, half widths, colours and opacities: of each curl its dark, then itself."""
    rows, columns = np.nonzero(mask)
    count = int(len(rows) / 34)
    pick = rng.integers(0, len(rows), count)
    x, y = columns[pick].astype(float), rows[pick].astype(float)
    side, fold = _noise(rng, 15)[rows[pick], columns[pick]], _noise(rng, 34)[rows[pick], columns[pick]]
    lit, _ = _light(mask)
    length = (34 if part == "head" else 52) * np.exp(0.2 * rng.standard_normal(count))
    angle = away(cavy, part, x, y) + 0.5 * fold
    turn = 2.5 * np.clip(1.6 * side, -1, 1) * np.exp(0.15 * rng.standard_normal(count))
    t = np.linspace(0, 1, 8)
    heading = angle[:, None] + turn[:, None] * (t[None] - 0.35)
    steps = np.stack([np.cos(heading), np.sin(heading)], axis=-1) * (length / 7)[:, None, None]
    lines = np.stack([x, y], axis=1)[:, None] + np.cumsum(steps, axis=1) - 3 * steps[:, :1]
    form = 0.78 + 0.22 * np.cos((y - rows.min()) / np.ptp(rows) * np.pi) + 0.10 * fold
    tone = np.clip(form * np.exp(0.13 * rng.standard_normal(count)), 0.3, 1.4)[:, None]
    shine = lit[rows[pick], columns[pick]][:, None]
    colour = np.array(cavy.coat) * tone + shine * np.array([0.95, 0.80, 0.58]) * 1.1
    dark = np.array(cavy.dark)[None] * (0.8 + 0.4 * tone) + 0.35 * shine * np.array([0.8, 0.5, 0.3])
    half = np.full(count, 3.4 if part == "head" else 4.2) * np.exp(0.18 * rng.standard_normal(count))
    order = np.argsort(-y + 30 * rng.standard_normal(count))
    both = np.stack([lines + np.array([1.5, 5.0]), lines], axis=1)[order].reshape(-1, 8, 2)
    colours = np.stack([dark, colour], axis=1)[order].reshape(-1, 3)
    alphas = np.tile([0.75, 0.95], count)
    return (
        both.astype(np.float32),
        np.repeat(half[order], 2).astype(np.float32),
        np.clip(colours, 0, 1).astype(np.float32),
        alphas.astype(np.float32),
    )


def _behind(rng: np.random.Generator) -> F32:
    """Draw the dusk, and the step with its bright edge and the shadows that fall toward us."""
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float64)
    canvas = np.ones((HEIGHT, WIDTH, 4), np.float32)
    rgb = np.empty((HEIGHT, WIDTH, 3), np.float32)
    rgb[:] = (0.20, 0.25, 0.27)
    rgb = mix(rgb, (236, 190, 132), 0.75 * np.exp(-(((x - 1350) / 620) ** 2 + ((y - 170) / 330) ** 2)))
    rgb = mix(rgb, (44, 58, 52), 0.5 * np.clip(_noise(rng, 60), 0, 2).astype(np.float64))
    for _ in range(26):
        cx, cy, r = rng.uniform(0, WIDTH), rng.uniform(40, 620), rng.uniform(14, 46)
        disc = np.clip(r + 1 - np.hypot(x - cx, y - cy), 0, 1) * rng.uniform(0.05, 0.22)
        rgb = mix(rgb, (250, 226, 180), disc)
    rgb = blur(rgb, 9)
    top = np.clip((y - STEP_Y) / 8, 0, 1)
    rgb = mix(rgb, (226, 221, 210), top)
    grain = 1 + 0.03 * _noise(rng, 1.2) + 0.04 * _noise(rng, 18)
    rgb = rgb * (1 + top[..., None] * (grain[..., None] - 1)).astype(np.float32)
    rgb = mix(rgb, (178, 170, 158), 0.9 * np.clip((y - 1080) / 60, 0, 1))
    for cavy in CAVIES:
        middle, bottom = np.mean(cavy.body, axis=0)[0], max(p[1] for p in cavy.body)
        fall = np.exp(-(((x - middle + 60 + 0.35 * (y - bottom)) / 340) ** 2)) * np.exp(
            -(((y - bottom - 40) / 130) ** 2)
        )
        rgb = mix(rgb, (96, 96, 112), 0.8 * fall * top)
    canvas[..., :3] = np.clip(rgb, 0, 1)
    return canvas


def _ears(canvas: F32, cavy: Cavy) -> None:
    """Draw the ears, petals that hang at both sides of the head."""
    (ax, ay), (bx, by) = cavy.eyes
    for x, y, side in ((ax - 62, ay - 62, -1), (bx + 66, by - 66, 1)):
        at = np.array([x, y])
        skin = np.array((168, 112, 100)) * (0.75 + 0.5 * cavy.coat[0])
        polygon(canvas, ellipse(at, 34, 58, side * -0.75), tuple(0.55 * skin))
        polygon(canvas, ellipse(at + (side * 3, 3), 25, 47, side * -0.75), tuple(skin))


def _feet(canvas: F32, cavy: Cavy) -> None:
    """Draw the toes that look out under the coat."""
    bottom = max(p[1] for p in cavy.body)
    x0 = cavy.nose[0]
    for x in (x0 - 40, x0 + 90, x0 + 330):
        for toe in (-13, 0, 13):
            polygon(canvas, ellipse(np.array([x + toe, bottom - 2 + abs(toe) * 0.2]), 8, 15), (150, 104, 92))


def _face(canvas: F32, cavy: Cavy) -> None:
    """Draw eyes, nose and mouth."""
    for x, y in cavy.eyes:
        at = np.array([x, y])
        polygon(canvas, ellipse(at, IRIS + 7, IRIS + 5), (38, 24, 20))
        polygon(canvas, ellipse(at, IRIS, IRIS), (58, 34, 22))
        polygon(canvas, ellipse(at + (0, 5), IRIS - 6, IRIS - 9), (92, 54, 30), 0.6)
        polygon(canvas, ellipse(at, 13, 13), (8, 6, 6))
        stroke(canvas, np.array([[x - 19, y + 19], [x, y + 24], [x + 19, y + 18]]), 2.2, (200, 190, 180), 0.7)
        polygon(canvas, ellipse(at + (7, -9), 4.6, 4.6), (250, 248, 240))
    x, y = cavy.nose
    polygon(canvas, ellipse(np.array([x, y]), 26, 17), (176, 122, 112))
    for side in (-1, 1):
        stroke(
            canvas, np.array([[x + side * 6, y + 2], [x + side * 13, y - 3], [x + side * 16, y + 5]]), 5, (50, 28, 26)
        )
        stroke(canvas, np.array([[x, y + 16], [x + side * 8, y + 36], [x + side * 30, y + 44]]), 4, (70, 44, 36), 0.8)


def draw(seed: int = 5) -> Rgb8:
    """Draw the picture: (1200, 1800, 3) uint8 sRGB. The same seed draws the same picture."""
    rng = np.random.default_rng(seed)
    canvas = _behind(rng)
    for cavy in CAVIES:
        own = canvas.copy()
        _feet(own, cavy)
        for part, outline in (("body", smooth(cavy.body)), ("head", smooth(cavy.head))):
            if part == "head":
                _ears(own, cavy)
            polygon(own, outline, tuple(255 * v for v in cavy.dark))  # type: ignore[arg-type]
            lines, half, colour, alpha = _curls(cavy, part, _mask(outline), rng)
            paint_outlines(own, outlines(lines, half, hair_profile()), colour, alpha)
        _face(own, cavy)
        canvas = blur(own, cavy.blur) if cavy.blur else own
    rgb = canvas[..., :3] + rng.normal(0, 0.006, (HEIGHT, WIDTH, 3)).astype(np.float32)
    return np.asarray(np.clip(rgb, 0, 1) * 255 + 0.5, np.uint8)
