"""Draw the demo jay: feather by feather over the model in `jay`, each with its gap, body, barbs, rim and shaft.

Everything is drawn from numbers; no photograph and no foreign picture is used.
"""

from collections.abc import Callable
from typing import NamedTuple

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Rgb8
from foxpath.core.brush import hair_profile, outlines, paint_outlines
from foxpath.core.curves import closed_curve
from foxpath.core.feathers import fan_feathers
from foxpath.core.feathers.feathers import half_width
from foxpath.core.zones.map import fill
from tools.demo import jay
from tools.demo.brushwork import blur, ellipse, mix, polygon, stroke
from tools.demo.jay import HEIGHT, WIDTH


class Spots(NamedTuple):
    """Places x, y in pixels, at shares t along a feather and u across it (-1..1); (N,) each."""

    x: F64
    y: F64
    t: F64
    u: F64


Colour = Callable[[Spots], F64]
"""Colour (N, 3), 0..1."""
Laid = tuple[F32, F32, F32]

_FEATHER = np.asarray(half_width(np.linspace(0, 1, 8).astype(np.float32)) + 0.02, np.float32)


def _rgb(*values: float) -> F64:
    return np.array(values, float) / 255


PINK, WARM, PALE = _rgb(178, 138, 122), _rgb(150, 106, 88), _rgb(218, 198, 186)
BLACK, WHITE = _rgb(26, 24, 27), _rgb(236, 233, 228)
BLUES = (_rgb(196, 222, 244), _rgb(58, 124, 206), _rgb(12, 16, 30))


def _mask(name: str) -> Bool:
    return fill(jay.smooth_outline(name), (HEIGHT, WIDTH))


def _places(name: str, gap: float, rng: np.random.Generator, grow: int = 0) -> tuple[F64, F64]:
    """Return places over a part, about `gap` apart, unevenly as plumage is."""
    import cv2

    mask = _mask(name).astype(np.uint8)
    if grow:
        mask = np.asarray(cv2.erode(mask, np.ones((3, 3), np.uint8), iterations=grow), np.uint8)
    y, x = np.mgrid[0 : HEIGHT : gap * 0.87, 0:WIDTH:gap]
    x = x + (np.arange(len(x))[:, None] % 2) * gap / 2
    x, y = (v.ravel() + rng.normal(0, 0.16 * gap, v.size) for v in (x, y))
    there = (x >= 0) & (y >= 0) & (x < WIDTH) & (y < HEIGHT)
    x, y = x[there], y[there]
    hit = mask[y.astype(int), x.astype(int)] > 0
    return x[hit], y[hit]


def _painted(lines: F64, half: F64, rgb: F64, alpha: float | F64, profile: F32) -> tuple[F32, F32, F32]:
    shape = outlines(lines.astype(np.float32), np.asarray(half, np.float32), profile)
    return shape, np.clip(rgb, 0, 1).astype(np.float32), np.full(len(lines), alpha, np.float32)


def _frame(shaft: F64, t: F64) -> tuple[F64, F64, F64]:
    at = t * (shaft.shape[1] - 1)
    low = np.minimum(at.astype(int), shaft.shape[1] - 2)
    index = np.arange(len(shaft))[:, None]
    a, b = shaft[index, low], shaft[index, low + 1]
    way = b - a
    way = way / (np.hypot(way[..., 0], way[..., 1])[..., None] + 1e-9)
    normal = np.stack([-way[..., 1], way[..., 0]], axis=-1)
    return a + (b - a) * (at - low)[..., None], way, normal


def _feathers(
    canvas: F32,
    shaft: F64,
    half: F64,
    colour: Colour,
    rng: np.random.Generator,
    *,
    barbs: int = 12,
    soft: float = 0.0,
    gap: float = 0.5,
    rim: float = 0.14,
) -> None:
    """Lay feathers in the order given: of each its dark gap, body, barbs, light rim and shaft."""
    count = len(shaft)
    if not count:
        return
    zero = np.zeros(count)
    middle = shaft[:, 5]
    shade = jay.light(middle[:, 0], middle[:, 1]) * (1 + 0.05 * rng.standard_normal(count))
    body = colour(Spots(middle[:, 0], middle[:, 1], zero + 0.7, zero)) * shade[:, None]
    slots: list[tuple[F32, F32, F32]] = []
    under = shaft + np.stack([0.10 * half + 1.2, 0.16 * half + 1.6], axis=-1)[:, None]
    slots.append(_painted(under, half * 1.06, body * 0.28, gap, _FEATHER))
    slots.append(_painted(shaft, half, body * 0.86, 1.0 - soft, _FEATHER))
    for side in (1.0, -1.0):
        for k in range(barbs):
            t0 = np.full((count, 1), 0.10 + 0.80 * k / barbs) + rng.normal(0, 0.02, (count, 1))
            reach = np.clip(rng.normal(1, 0.10 + 0.25 * soft, (count, 1)), 0.5, 1.5)
            t1 = np.clip(t0 + (0.20 + 0.24 * soft) * reach, 0, 1.0 + 0.25 * soft)
            root, way, normal = _frame(shaft, t0.clip(0, 1))
            tip_at, ahead, _ = _frame(shaft, t1.clip(0, 1))
            # Silky barbs run past the body: plumage has no hard rim.
            wide = np.maximum(half_width(t1.clip(0, 1).astype(np.float32)), 0.35 * soft)
            out = half[:, None] * wide * 0.96 * reach * side
            past = (t1 - 1).clip(0, 1) * half[:, None] * 5
            tip = tip_at + normal * out[..., None] + ahead * past[..., None]
            u = np.linspace(0, 1, 8)[None, :, None]
            bend = way * 0.12 * half[:, None, None]
            line = root + (tip - root) * u + bend * (u * (1 - u)) * 2
            place = line[:, 4]
            across = side * np.full(count, 0.6)
            tone = colour(Spots(place[:, 0], place[:, 1], ((t0 + t1) / 2)[:, 0], across))
            # The far vane turns from the light.
            lit = shade * (1.06 if side < 0 else 0.93) * (1 + 0.07 * rng.standard_normal(count))
            width = np.maximum(half * (1.5 - 0.5 * soft) / barbs, 0.5)
            slots.append(_painted(line, width, tone * lit[:, None], 0.9, hair_profile()))
    if rim > 0:
        v = np.linspace(-1, 1, 8)[None].repeat(count, 0)
        at, _, normal = _frame(shaft, 1 - 0.36 * np.abs(v) ** 1.6)
        edge = (
            at
            + normal
            * (half[:, None] * half_width((1 - 0.36 * np.abs(v) ** 1.6).astype(np.float32)) * np.sign(v) * 0.95)[
                ..., None
            ]
        )
        tone = colour(Spots(middle[:, 0], middle[:, 1], zero + 0.95, zero))
        light = tone * shade[:, None] * 1.16 + 0.05
        slots.append(_painted(edge, np.maximum(half * 0.05, 0.5), light, rim * 4, np.ones(8, np.float32)))
    slots.append(_painted(shaft, np.maximum(half * 0.05, 0.45), body * 0.62, 0.65, hair_profile()))
    shapes = np.stack([one[0] for one in slots], axis=1).reshape(-1, *slots[0][0].shape[1:])
    tones = np.stack([one[1] for one in slots], axis=1).reshape(-1, 3)
    alphas = np.stack([one[2] for one in slots], axis=1).reshape(-1)
    paint_outlines(canvas, np.ascontiguousarray(shapes), np.ascontiguousarray(tones), np.ascontiguousarray(alphas))


def _plain(rgb: F64, spread: float, rng: np.random.Generator) -> Colour:
    def colour(at: Spots) -> F64:
        return np.clip(rgb * (1 + spread * rng.standard_normal((len(at.x), 1))), 0, 1)

    return colour


def _breast_colour(rng: np.random.Generator) -> Colour:
    def colour(at: Spots) -> F64:
        chin = np.exp(-(((at.x - 470) / 90) ** 2) - ((at.y - 690) / 90) ** 2)[:, None]
        vent = np.clip((at.y - 1240) / 150, 0, 1)[:, None] * np.clip((at.x - 640) / 160, 0, 1)[:, None]
        flank = np.clip((at.x - 520) / 320, 0, 1)[:, None]
        base = PINK * (1 - flank) + WARM * flank
        base = base * (1 - 0.85 * chin) + PALE * 0.85 * chin
        base = base * (1 - vent) + WHITE * vent
        return np.asarray(base * (1 + 0.05 * rng.standard_normal((len(at.x), 1))))

    return colour


def _head_colour(rng: np.random.Generator) -> Colour:
    moustache = blur(_mask("moustache").astype(np.float32), 7.0)

    def colour(at: Spots) -> F64:
        throat = np.exp(-(((at.x - 450) / 76) ** 2) - ((at.y - 690) / 70) ** 2)[:, None]
        face = np.exp(-(((at.x - 420) / 60) ** 2) - ((at.y - 500) / 60) ** 2)[:, None]
        base = PINK * (1 - 0.8 * face) + PALE * 0.8 * face
        base = base * (1 - 0.9 * throat) + WHITE * 0.9 * throat
        j, i = np.clip(at.x.astype(int), 0, WIDTH - 1), np.clip(at.y.astype(int), 0, HEIGHT - 1)
        dark = moustache[i, j][:, None]
        base = base * (1 - dark) + BLACK * dark
        return np.asarray(base * (1 + 0.05 * rng.standard_normal((len(at.x), 1))))

    return colour


def _crown_colour(rng: np.random.Generator) -> Colour:
    def colour(at: Spots) -> F64:
        # A dark streak along each shaft, on white before and on pink behind.
        back = np.clip((at.x - 470) / 200, 0, 1)[:, None]
        base = WHITE * (1 - back) + PINK * back
        streak = (np.abs(at.u) < 0.3)[:, None] | (at.t > 0.97)[:, None]
        dark = np.where(streak, 0.9, 0.12)
        return np.asarray((base * (1 - dark) + BLACK * dark) * (1 + 0.06 * rng.standard_normal((len(at.x), 1))))

    return colour


def _barred(rng: np.random.Generator) -> Colour:
    def colour(at: Spots) -> F64:
        bar = (at.t * 4.6 + 0.1) % 1.0
        light, blue, dark = BLUES
        tone = np.where((bar < 0.27)[:, None], dark, np.where((bar < 0.64)[:, None], blue, light))
        inner = (at.u > 0)[:, None]
        tone = np.where(inner, tone * 0.8 + BLACK * 0.1, tone)
        return tone * (1 + 0.04 * rng.standard_normal((len(at.x), 1)))

    return colour


def _flight_colour(number: F64, rng: np.random.Generator) -> Colour:
    def colour(at: Spots) -> F64:
        # The outer webs of the middle ones are white, the rest is black with a bluish edge.
        white = ((number > 0.4) & (number < 0.95))[:, None] & (at.t < 0.8)[:, None]
        base = np.where(white, WHITE, BLACK + _rgb(8, 10, 20))
        return np.asarray(base * (1 + 0.05 * rng.standard_normal((len(at.x), 1))))

    return colour


def _background(rng: np.random.Generator) -> F32:
    """A quiet wood: cool light from the left, dark trunks far off, leaves out of focus."""
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float64)
    u, v = x / WIDTH, y / HEIGHT
    air = np.zeros((HEIGHT, WIDTH, 3), np.float32)
    air = mix(air, (96, 112, 92), np.ones_like(u))
    air = mix(air, (172, 182, 158), np.exp(-(((u - 0.16) / 0.36) ** 2) - ((v - 0.22) / 0.42) ** 2) * 0.95)
    air = mix(air, (44, 54, 44), np.clip((v - 0.35) / 0.7, 0, 1) * 0.85)
    air = mix(air, (52, 62, 52), np.clip((u - 0.6) / 0.5, 0, 1) * 0.7)
    canvas = np.concatenate([air, np.ones((HEIGHT, WIDTH, 1), np.float32)], axis=2)
    for count, width, sigma, tone in (
        (9, 110, 34, (58, 58, 48)),
        (16, 34, 16, (84, 86, 66)),
        (22, 12, 9, (128, 132, 100)),
    ):
        stems = canvas.copy()
        for _ in range(count):
            x0 = rng.random() * WIDTH
            lean = rng.normal(0, 90)
            knots = [(x0 + lean * t + 14 * rng.normal(), HEIGHT * (1.02 - 1.1 * t)) for t in (0, 0.4, 0.7, 1)]
            stroke(stems, np.array(knots), width * (0.6 + 0.8 * rng.random()), tone, 0.45)
        canvas = blur(stems, sigma)
    for _ in range(90):
        cx, cy = rng.random() * WIDTH, HEIGHT * rng.random() ** 1.4
        radius = 16 + 44 * rng.random()
        tone = (196, 204, 168) if rng.random() < 0.55 else (120, 134, 84)
        disc = ellipse(np.array([cx, cy]), radius, radius * (0.8 + 0.3 * rng.random()), rng.random() * 3)
        polygon(canvas, disc, tone, 0.05 + 0.10 * rng.random())
    return blur(canvas, 5.0)


def _post(canvas: F32, rng: np.random.Generator) -> None:
    """Old oak: grey, grained, split, lit from the left."""
    wood = canvas.copy()
    polygon(wood, closed_curve(jay.outline("post"), 12), (98, 90, 80))
    for _ in range(2600):
        x, y = 452 + 496 * rng.random(), 1412 + 400 * rng.random()
        tone = (70 + 90 * rng.random()) * (1.12 - 0.62 * (x - 452) / 496)
        knots = np.array([(x, y), (x + rng.normal(0, 3), y + 40), (x + rng.normal(0, 5), y + 60 + 90 * rng.random())])
        stroke(wood, knots, 1.0 + 3.2 * rng.random(), (tone, tone * 0.94, tone * 0.84), 0.5)
    for x in (560, 690, 812, 880):
        line = [(x, 1430), (x + 7, 1540), (x - 5, 1660), (x + 9, 1830)]
        stroke(wood, np.array(line, float), 8, (30, 26, 24), 0.8)
    # The end grain on top, a little lighter.
    polygon(wood, ellipse(np.array([704.0, 1438.0]), 232, 26), (150, 142, 128), 0.8)
    inside = blur(_mask("post").astype(np.float32), 1.2)[..., None]
    canvas += (wood - canvas) * inside


def _moss(canvas: F32, rng: np.random.Generator) -> None:
    """Cushions of moss: a dark floor, then tufts, olive in the shade and yellow where the light strikes."""
    rim = jay.smooth_outline("moss")
    polygon(canvas, rim, (34, 40, 22), 0.9)
    cushion = blur(rng.standard_normal((HEIGHT // 8, WIDTH // 8)).astype(np.float32), 3.2)
    cushion /= cushion.std()
    for layer in range(2):
        x, y = _places("moss", 4.2 - 0.8 * layer, rng)
        order = np.argsort(y + 12 * rng.random(len(y)))
        x, y = x[order], y[order]
        count = len(x)
        lump = cushion[np.clip(y / 8, 0, HEIGHT // 8 - 1).astype(int), np.clip(x / 8, 0, WIDTH // 8 - 1).astype(int)]
        side = (x - 704) / 250
        up = -np.pi / 2 + 0.5 * side + rng.normal(0, 0.7, count) + 0.9 * np.clip((y - 1500) / 120, 0, 1)
        length = rng.uniform(4, 13, count)
        t = np.linspace(0, 1, 8)[None, :, None]
        way = np.stack([np.cos(up), np.sin(up)], axis=-1)[:, None]
        lines = np.stack([x, y + 3], axis=-1)[:, None] + way * length[:, None, None] * t
        lit = np.clip(1.15 - 0.55 * (x - 452) / 496 - 0.45 * np.clip((y - 1450) / 170, 0, 1) + 0.22 * lump, 0.2, 1.6)
        tone = np.stack([88 + 10 * lump, 98 + 6 * lump, 44 + 0 * lump], axis=-1) / 255
        tone = tone * lit[:, None] * rng.uniform(0.6, 1.3, (count, 1))
        shape, colour, alpha = _painted(lines, rng.uniform(0.8, 1.7, count), tone, 0.85, hair_profile())
        paint_outlines(canvas, shape, colour, alpha)


def _legs(canvas: F32) -> None:
    bare = (142, 110, 96)
    for x0, x1 in ((636, 628), (748, 762)):
        stroke(canvas, np.array([(x0 + 18, 1340.0), (x0 + 6, 1392.0), (x1 + 6.0, 1444.0)]), 30, (70, 54, 48))
        stroke(canvas, np.array([(x0 + 14, 1340.0), (x0 + 2, 1392.0), (x1 + 2.0, 1442.0)]), 25, bare)
        for dx, dy in ((-62, 22), (-34, 34), (12, 36), (58, 16)):
            toe = np.array([(x1 + 4, 1440.0), (x1 + 4 + dx * 0.5, 1440 + dy * 0.45), (x1 + 4 + dx, 1440.0 + dy)])
            stroke(canvas, toe + (2, 3), 21, (58, 44, 40))
            stroke(canvas, toe, 18, bare)
            claw = np.array(
                [
                    (x1 + 4 + dx * 0.92, 1440 + dy * 0.9),
                    (x1 + 4 + dx * 1.14, 1440 + dy * 1.06),
                    (x1 + 4 + dx * 1.22, 1452 + dy * 1.3),
                ]
            )
            stroke(canvas, claw, 11, (30, 27, 28))
        for k in range(9):
            y = 1352 + 9.5 * k
            stroke(
                canvas, np.array([(x0 - 4.0 - k, y), (x0 + 3.0 - k, y + 3), (x0 + 12.0 - k, y)]), 1.6, (92, 70, 60), 0.7
            )


def _beak(canvas: F32, rng: np.random.Generator) -> None:
    rim = closed_curve(jay.outline("beak"), 12)
    polygon(canvas, rim + (2, 3), (20, 19, 22), 0.7)
    horn = canvas.copy()
    polygon(horn, rim, (44, 43, 47))
    for k in range(12):
        t = k / 11
        ridge = np.array([(214, 532), (270, 502 + 4 * t), (330, 482 + 9 * t), (384, 478 + 13 * t)])
        stroke(horn, ridge[::-1], 26 * (1 - t) + 2, (70 + 84 * t, 72 + 86 * t, 80 + 88 * t), 0.13)
    stroke(horn, np.array([(400, 532), (340, 536), (270, 538), (214, 537)], float), 5, (10, 10, 12), 0.95)
    polygon(horn, ellipse(np.array([366.0, 504.0]), 13, 5, -0.35), (8, 8, 9), 0.9)
    inside = blur(fill(rim, (HEIGHT, WIDTH)).astype(np.float32), 0.9)[..., None]
    canvas += (horn - canvas) * inside
    # Bristles at the base lie over the horn.
    for _ in range(60):
        y = 478 + 80 * rng.random()
        x = 404 + 8 * rng.random()
        reach = 26 + 26 * rng.random()
        knots = np.array([(x, y), (x - 0.5 * reach, y + 2 + rng.normal(0, 3)), (x - reach, y + 8 + rng.normal(0, 5))])
        tone = (214, 200, 190) if rng.random() < 0.45 else (52, 44, 42)
        stroke(canvas, knots, 3.0, tone, 0.85)


def _eye(canvas: F32) -> None:
    lids = closed_curve(jay.outline("eye"), 12)
    middle = np.array(jay.EYE)
    for grow in (1.5, 1.34, 1.18):
        polygon(canvas, middle + (lids - middle) * grow, (40, 34, 33), 0.55)
    ball = canvas.copy()
    polygon(ball, lids, (30, 22, 18))
    for k in range(22):
        t = k / 21
        ring = jay.IRIS * (1 - 0.36 * t)
        tone = np.array([38, 26, 20]) + np.array([72, 52, 34]) * np.sin(np.pi * min(1.0, t * 1.5)) * 0.8
        polygon(ball, ellipse(middle + (0.5 * t, 2.0 * t), ring, ring), (tone[0], tone[1], tone[2]), 0.5)
    polygon(ball, ellipse(middle + (0.5, 1.0), 19.5, 19.5), (8, 7, 8))
    for k in range(8):
        cut = lids.copy()
        cut[:, 1] = np.minimum(cut[:, 1], middle[1] - 18 + 2.6 * k)
        polygon(ball, cut, (10, 8, 8), 0.13)
    polygon(ball, ellipse(middle + (-7, -13), 16, 7, -0.35), (168, 190, 204), 0.30)
    inside = blur(fill(lids, (HEIGHT, WIDTH)).astype(np.float32), 0.8)[..., None]
    canvas += (ball - canvas) * inside
    polygon(canvas, ellipse(middle + (-9, -11), 5.4, 4.8), (250, 252, 252), 0.97)
    wet = middle + np.array([(-26.0, 18), (-8, 29), (14, 27), (30, 12)])
    stroke(canvas, wet, 2.6, (196, 180, 170), 0.55)


def _plumage(
    canvas: F32, layer: str, apart: float, colour: Colour, rng: np.random.Generator, *, broad: float, **how: float
) -> None:
    """Lay a part's contour feathers from the tip end back toward the roots."""
    x, y = _places(layer, apart, rng)
    length = jay.feather_length(layer, x, y) * np.clip(rng.normal(1, 0.12, len(x)), 0.7, 1.4)
    turn = rng.normal(0, 0.13, len(x))
    vx, vy = jay.growth(layer, x, y)
    root = jay.trace(layer, x - vx * length * 0.5, y - vy * length * 0.5, length, turn)
    if layer in {"head", "crown"}:
        order = np.argsort(-np.hypot(x - jay.BASE[0], y - jay.BASE[1]) + 5 * rng.random(len(x)))
    else:
        order = np.argsort(-(0.45 * x + y) + 8 * rng.random(len(x)))
    half = broad * length * 0.5
    _feathers(canvas, root[order], half[order], colour, rng, **how)  # type: ignore[arg-type]


def coverts() -> tuple[F64, F64]:
    """Return the shafts (N, 8, 2) and half widths of the barred coverts, in known rows and columns, tip end first."""
    rows, columns = jay.COVERT_ROWS, jay.COVERT_COLUMNS
    shafts, halves = [], []
    for row in range(rows - 1, -1, -1):
        s = (row + 0.1) / rows
        size = 62 + 74 * s
        for k in range(columns):
            f = (k + 0.25 + 0.5 * (row % 2)) / columns
            # From the shoulder down the wing, and across it from its upper edge to the lower.
            x = 690 + 150 * s + (1 - f) * 40 - f * 52 * (1 - 0.3 * s)
            y = 752 + 250 * s + f * 150 * (0.7 + 0.4 * s) - (1 - f) * 10
            shafts.append(jay.trace("coverts", np.array([x]), np.array([y]), np.array([size]), np.zeros(1))[0])
            halves.append(0.27 * size)
    return np.array(shafts), np.array(halves)


def _fan(canvas: F32, fan: tuple[object, ...], colour_of: Callable[[F64], Colour], rng: np.random.Generator) -> None:
    first, last, count = np.array(fan[0], float), np.array(fan[1], float), int(fan[2])  # type: ignore[call-overload]
    made = fan_feathers(first, last, count, 1.0)
    order = np.argsort(-made.row)
    number = made.row[order] / max(count - 1, 1)
    shafts, half = made.shaft[order].astype(float), made.width_mm[order].astype(float) * 0.5
    _feathers(canvas, shafts, half, colour_of(number), rng, barbs=34, gap=0.6, rim=0.16)


def draw(seed: int = 11) -> Rgb8:
    """Draw the jay: (1800, 1440, 3) uint8 sRGB. The same seed draws the same picture."""
    rng = np.random.default_rng(seed)
    canvas = np.ascontiguousarray(_background(rng))
    canvas[..., 3] = 1

    def floor(name: str, tone: tuple[float, float, float], by: float = 0.97) -> None:
        rim = jay.smooth_outline(name)
        middle = rim.mean(axis=0)
        polygon(canvas, middle + (rim - middle) * by, tone)

    _post(canvas, rng)
    floor("tail", (28, 26, 30))
    _fan(canvas, jay.FAN_TAIL, lambda _: _plain(BLACK + _rgb(10, 10, 16), 0.06, rng), rng)
    floor("breast", (104, 78, 68))
    _plumage(canvas, "breast", 11.0, _breast_colour(rng), rng, broad=0.5, barbs=11, soft=0.8, gap=0.08, rim=0)
    floor("back", (88, 66, 58))
    _plumage(canvas, "back", 15.0, _plain(WARM * 0.95, 0.05, rng), rng, broad=0.5, barbs=11, soft=0.75, gap=0.12, rim=0)
    _legs(canvas)
    floor("flight", (22, 22, 26), 0.9)
    _fan(canvas, jay.FAN_FLIGHT, lambda number: _flight_colour(number, rng), rng)
    floor("coverts", (60, 58, 66), 0.86)
    shafts, halves = coverts()
    _feathers(canvas, shafts, halves, _barred(rng), rng, barbs=30, gap=0.7, rim=0.06)
    floor("head", (120, 92, 80))
    _plumage(canvas, "head", 7.2, _head_colour(rng), rng, broad=0.46, barbs=8, soft=0.85, gap=0.05, rim=0)
    _plumage(canvas, "crown", 13.0, _crown_colour(rng), rng, broad=0.34, barbs=9, soft=0.45, gap=0.25, rim=0)
    _eye(canvas)
    _beak(canvas, rng)
    _moss(canvas, rng)
    return np.asarray(np.clip(canvas[..., :3], 0, 1) * 255 + 0.5).astype(np.uint8)
