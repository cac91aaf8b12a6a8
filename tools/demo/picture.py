"""Draw the demo fox: tens of thousands of shaded, clumped, tapered strands over the model in `head`.

Everything is drawn from numbers; no photograph and no foreign picture is used.
"""

import numpy as np

from foxpath.core.arrays import F32, F64, Rgb8
from foxpath.core.curves import closed_curve
from foxpath.core.zones.map import fill
from tools.demo import head
from tools.demo.brushwork import blur, ellipse, lay, mix, polygon, stroke
from tools.demo.head import HEIGHT, SCALE, WIDTH, bump, smooth

# The maps of colour and shade live on a raster of the head's frame, one cell a unit.
_OX, _OY, _MW, _MH = 900, 620, 1800, 1620


def _mask(name: str, softness: float) -> F32:
    polygon = head.smooth_outline(name) + (_OX, _OY)
    return blur(fill(polygon, (_MH, _MW)).astype(np.float32), softness)


_RED, _DEEP, _GOLD = (176, 96, 48), (104, 50, 27), (214, 150, 92)
_WHITE, _BLACK, _CREAM = (233, 229, 222), (38, 30, 29), (206, 190, 166)


class Model:
    """Colour, shade and masks of every layer, ready to be sampled by the hairs."""

    def __init__(self, seed: int = 7) -> None:
        self.rng = np.random.default_rng(seed)
        y, x = np.mgrid[0:_MH, 0:_MW].astype(np.float64)
        x, y = x - _OX, y - _OY
        ax = np.abs(x)
        self.masks = {
            "face": _mask("head", 3),
            "ear": np.maximum(_mask("near-ear", 2), _mask("far-ear", 2)),
            "ear-hair": np.maximum(_mask("near-ear-inner", 4), _mask("far-ear-inner", 4)),
            "bib": _mask("bib", 4),
            "back": _mask("back", 5),
        }
        white = np.maximum(_mask("near-cheek", 8), _mask("far-cheek", 8))
        white = np.maximum(white, (bump(x, y, (0, 306), (150, 62), 4)).astype(np.float32))
        white = np.maximum(white, 0.8 * bump(ax, y, (54, 226), (34, 30), 4).astype(np.float32))
        self.colour = {
            "face": self._face(x, y, ax, white),
            "ear": mix(
                mix(np.zeros((_MH, _MW, 3), np.float32), (128, 70, 40), np.ones_like(x)),
                _BLACK,
                smooth(-190, -310, y) * 0.94,
            ),
            "bib": self._bib(x, y, ax),
            "back": mix(
                mix(np.zeros((_MH, _MW, 3), np.float32), (150, 80, 42), np.ones_like(x)),
                _DEEP,
                smooth(300, 760, ax) * 0.75,
            ),
        }
        inner = self.masks["ear-hair"]
        self.colour["ear"] = mix(self.colour["ear"], (66, 46, 40), inner * 0.96)
        hair = mix(np.zeros((_MH, _MW, 3), np.float32), _CREAM, np.ones_like(x))
        self.colour["ear-hair"] = mix(hair, (150, 120, 92), smooth(-330, -400, y) * 0.8)
        self.shade = self._shades(x, y, ax)
        self.noise = self._noise()

    def _face(self, x: F64, y: F64, ax: F64, white: F32) -> F32:
        face = mix(np.zeros((_MH, _MW, 3), np.float32), _RED, np.ones_like(x))
        face = mix(face, _DEEP, 0.62 * np.exp(-((x / 50) ** 2)) * smooth(80, -60, y) * smooth(-240, -60, y))
        face = mix(face, _GOLD, 0.70 * bump(ax, y, (106, -58), (62, 25)))
        face = mix(face, _GOLD, 0.50 * bump(ax, y, (236, 40), (80, 56)))
        face = mix(face, (196, 118, 62), 0.45 * bump(ax, y, (30, 40), (34, 90)))
        face = mix(face, _DEEP, 0.55 * bump(ax, y, (58, 96), (20, 74)))
        face = mix(face, _WHITE, white.astype(np.float64))
        # The dark streak from the eye's inner corner down to the muzzle's side.
        streak = np.exp(-(((ax - 64 - 0.05 * (y - 20)) / 17) ** 2)) * smooth(8, 34, y) * smooth(176, 110, y)
        face = mix(face, _BLACK, 0.78 * streak)
        face = mix(face, _BLACK, 0.95 * bump(ax, y, (108, 0), (60, 27), 4))
        face = mix(face, (70, 60, 56), 0.5 * bump(ax, y, (58, 232), (16, 20)))
        return mix(face, (60, 48, 44), 0.55 * bump(x, y, (0, 246), (54, 14)))

    def _bib(self, x: F64, y: F64, ax: F64) -> F32:
        bib = mix(np.zeros((_MH, _MW, 3), np.float32), _WHITE, np.ones_like(x))
        bib = mix(bib, (186, 180, 174), 0.55 * np.exp(-((x / 84) ** 2)) * smooth(430, 720, y))
        return mix(bib, (172, 98, 54), smooth(176, 330, ax - 0.14 * (y - 200)) * 0.96)

    def _shades(self, x: F64, y: F64, ax: F64) -> dict[str, F32]:
        """Light from the upper left, a soft cool sky above; each layer shades the ones behind."""
        z = blur(head.depth(x, y).astype(np.float32), 5)
        dzy, dzx = np.gradient(z)
        size = np.sqrt(dzx**2 + dzy**2 + 1)
        light = np.clip((0.62 * dzx + 0.50 * dzy + 0.60) / size, 0, 1.25)
        face = 0.47 + 0.82 * light
        # The muzzle throws its shadow on the far side of the face, the chin on the bib.
        face = face * (1 - 0.26 * bump(x, y, (112, 184), (34, 84)) - 0.10 * bump(x, y, (-104, 190), (30, 80)))
        face = face * (1 - 0.34 * bump(x, y, (6, 330), (150, 20)) - 0.22 * bump(x, y, (2, 268), (74, 8)))
        face = face + 0.16 * bump(x, y, (-14, 290), (40, 14)) + 0.10 * bump(x, y, (-22, 90), (22, 80))
        ear = 0.66 + 0.40 * smooth(210, -280, x)
        bib = 0.60 + 0.46 * smooth(310, -300, x) - 0.42 * bump(x, y, (50, 352), (210, 84))
        back = 0.50 + 0.30 * smooth(760, 300, y) * smooth(300, -400, x) + 0.10 * smooth(560, 200, y)
        maps = {"face": face, "ear": ear, "ear-hair": ear * 1.04, "bib": bib, "back": back}
        return {name: np.asarray(value, dtype=np.float32) for name, value in maps.items()}

    def _noise(self) -> F32:
        total = np.zeros((_MH, _MW), np.float32)
        for sigma, weight in ((4.0, 1.0), (10.0, 1.0), (26.0, 0.7)):
            layer = blur(self.rng.standard_normal((_MH, _MW)).astype(np.float32), sigma)
            total += weight * layer / layer.std()
        return np.asarray(total / total.std(), dtype=np.float32)

    def sample(self, field: F32, x: F64, y: F64) -> F32:
        """Read a map of the head's frame at places."""
        j = np.clip((x + _OX).astype(np.int64), 0, _MW - 1)
        i = np.clip((y + _OY).astype(np.int64), 0, _MH - 1)
        return np.asarray(field[i, j], dtype=np.float32)

    def roots(self, layer: str, count: int) -> tuple[F64, F64]:
        """Pick roots inside a layer at random."""
        rows, columns = np.nonzero(self.masks[layer] > 0.5)
        pick = self.rng.integers(0, len(rows), count)
        x = columns[pick] + self.rng.random(count) - _OX
        y = rows[pick] + self.rng.random(count) - _OY
        if layer == "face":
            bare = (np.abs(np.abs(x) - 108) < 50) & (np.abs(y) < 17)
            bare |= ((x / 52) ** 2 + ((y - 198) / 32) ** 2) < 1
            x, y = x[~bare], y[~bare]
        return x, y


def _coat(
    model: Model, layer: str, count: int, *, wide: float = 1.0, spread: float = 0.10, under: bool = False
) -> tuple[F32, F32, F32, F32]:
    """Make the strands of one layer: centre lines (px), half widths (px), colours, opacities."""
    rng = model.rng
    x, y = model.roots(layer, count)
    count = len(x)
    usual = head.hair_length(layer, x, y)
    length = usual * np.clip(rng.normal(1, 0.22, count), 0.5, 1.7) * (0.8 if under else 1)
    width = (1.25 + 0.024 * usual) * wide * np.clip(rng.normal(1, 0.2, count), 0.6, 1.5)
    tuft = model.sample(model.noise, x, y)
    tuft2 = model.sample(model.noise, y * 0.7 + 130, x * 0.9)
    turn = spread * rng.standard_normal(count) + 0.26 * tuft * np.clip(usual / 55, 0.25, 1)
    turn = np.where(rng.random(count) < 0.02, turn * 3, turn)
    curl = 0.36 * rng.standard_normal(count) * np.clip(usual / 70, 0.1, 1)
    lines = head.trace(layer, x, y, length, turn, curl)
    shade = model.sample(model.shade[layer], x, y) * (1 + 0.13 * tuft2 + 0.07 * rng.standard_normal(count))
    colour = model.sample(model.colour[layer], x, y) * shade[:, None]
    # Planes that face the sky take a cool light.
    sky = np.clip(shade - 0.95, 0, 0.5)[:, None] * 0.3
    colour = colour * (1 - sky) + np.array([0.88, 0.91, 0.95], np.float32) * sky
    order = {
        "face": -np.hypot(x, y - 198) + 38 * rng.random(count),
        "bib": -y + 34 * rng.random(count),
        "back": -y + 40 * rng.random(count),
        "ear": y + 22 * rng.random(count),
        "ear-hair": y + 60 * rng.random(count),
    }[layer].argsort()
    px = head.lines_px(layer, lines[order]).astype(np.float32)
    half = (width[order] * SCALE / 2).astype(np.float32)
    colour = colour[order].astype(np.float32)
    if under:
        return px, half, np.clip(colour * 0.62, 0, 1), np.full(count, 0.95, np.float32)
    # Root and tip of one hair: the whole hair dark, then its outer part light and narrower, hair by hair.
    tips = px[:, 2:].copy()
    at = np.linspace(0, tips.shape[1] - 1, px.shape[1])
    low = np.minimum(at.astype(int), tips.shape[1] - 2)
    tips = tips[:, low] + (tips[:, low + 1] - tips[:, low]) * (at - low)[None, :, None].astype(np.float32)
    both = np.stack([px, tips], axis=1).reshape(-1, *px.shape[1:])
    halves = np.stack([half, half * 0.74], axis=1).reshape(-1)
    colours = np.stack([colour * 0.66, colour * 1.17], axis=1).reshape(-1, 3)
    alphas = np.tile(np.array([1.0, 0.66], np.float32), count)
    return both.astype(np.float32), halves, np.clip(colours, 0, 1), alphas


def _background(rng: np.random.Generator) -> F32:
    """A frosted hedge with a gap: cool air, blurred twigs and stems, soft rounds of frost."""
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float64)
    u, v = x / WIDTH, y / HEIGHT
    air = np.zeros((HEIGHT, WIDTH, 3), np.float32)
    air = mix(air, (112, 126, 132), np.ones_like(u))
    air = mix(air, (164, 172, 174), np.exp(-(((u - 0.20) / 0.34) ** 2) - ((v - 0.30) / 0.5) ** 2) * 0.9)
    air = mix(air, (74, 82, 74), smooth(0.5, 1.05, v) * 0.85)
    air = mix(air, (70, 76, 74), smooth(0.62, 1.0, u) * 0.62)
    air = mix(air, (92, 84, 70), np.exp(-(((u - 0.84) / 0.10) ** 2)) * 0.55)
    canvas = np.concatenate([air, np.ones((HEIGHT, WIDTH, 1), np.float32)], axis=2)
    # Twigs of the hedge, thick ones far out of focus, thin ones a little nearer.
    for count, width, sigma, tone in (
        (26, 26, 20, (96, 90, 78)),
        (44, 12, 9, (176, 176, 170)),
        (40, 7, 6, (84, 78, 68)),
    ):
        twigs = canvas.copy()
        for _ in range(count):
            side = rng.random() < 0.45
            x0 = (rng.random() * 0.34 if side else 0.66 + rng.random() * 0.36) * WIDTH
            lean = rng.normal(0, 0.28) + (0.25 if side else -0.25)
            reach = (0.45 + 0.6 * rng.random()) * HEIGHT
            knots = [(x0 + lean * reach * t + 22 * rng.normal(), HEIGHT * 1.03 - reach * t) for t in (0, 0.35, 0.7, 1)]
            stroke(twigs, np.array(knots), width * (0.6 + rng.random()), tone, 0.5)
        canvas = blur(twigs, sigma)
    for _ in range(110):
        # Rounds of frost: where the hedge is, more of them low down.
        side = rng.random() < 0.42
        cx = (rng.random() * 0.36 if side else 0.60 + rng.random() * 0.42) * WIDTH
        cy = HEIGHT * (1 - rng.random() ** 1.3 * 0.95)
        radius = 12 + 40 * rng.random()
        turn = np.linspace(0, 2 * np.pi, 40, endpoint=False)
        disc = np.stack([cx + radius * np.cos(turn), cy + radius * np.sin(turn)], axis=1)
        tone = (222, 228, 232) if rng.random() < 0.7 else (150, 138, 112)
        polygon(canvas, disc, tone, 0.04 + 0.09 * rng.random())
    return blur(canvas, 4.5)


def _at(*points: tuple[float, float]) -> F64:
    """Bring points of the head's frame to picture pixels."""
    x, y = np.array(points, float).T
    return np.stack(head.to_picture(x, y), axis=1)


def _eyes(canvas: F32, rng: np.random.Generator) -> None:
    for name, side in (("near-eye", 1), ("far-eye", -1)):
        lids = closed_curve(head.outline_px(head.shapes()[name]), 12)
        middle = lids.mean(axis=0)
        for grow in (1.42, 1.3, 1.16):
            polygon(canvas, middle + (lids - middle) * grow + (0, 2), (24, 18, 17), 0.5 if grow > 1.2 else 1.0)
        ball = canvas.copy()
        centre = _at((side * 109.0, -1.0))[0]
        polygon(ball, lids, (30, 20, 14))
        iris = 37.5
        for k in range(26):
            # From the dark outer ring through amber to the paler middle, lighter away from the light.
            t = k / 25
            ring = iris * (1 - 0.72 * t)
            tone = np.array([92, 46, 14]) + (np.array([214, 146, 52]) - np.array([92, 46, 14])) * min(1.0, t * 2.6)
            tone = tone * (1.0 - 0.22 * max(0.0, t - 0.55))
            polygon(ball, ellipse(centre + (1.5 * t, 3.0 * t), ring, ring), (tone[0], tone[1], tone[2]), 0.55)
        for _ in range(150):
            a, r0, r1 = rng.random() * 2 * np.pi, 10 + 7 * rng.random(), 24 + 11 * rng.random()
            way = np.array([np.cos(a), np.sin(a)])
            tone = (240, 190, 96) if rng.random() < 0.55 else (98, 52, 16)
            stroke(ball, np.array([centre + way * r1, centre + way * r0]), 1.5, tone, 0.4)
        polygon(ball, ellipse(centre, 8.2, 20.5, 0.06 * side - 0.05), (11, 9, 10))
        # The lid's shadow over the upper third, then the sky on the ball and the catchlight.
        for k in range(10):
            cut = lids.copy()
            cut[:, 1] = np.minimum(cut[:, 1], centre[1] - 26 + 3.1 * k)
            polygon(ball, cut, (14, 10, 10), 0.13)
        polygon(ball, ellipse(centre + (-6, -15), 20, 8, -0.2), (176, 198, 218), 0.24)
        inside = blur(fill(lids, (HEIGHT, WIDTH)).astype(np.float32), 0.8)[..., None]
        canvas += (ball - canvas) * inside
        polygon(canvas, ellipse(centre + (-10, -11), 5.2, 4.8), (250, 251, 252), 0.97)
        wet = _at((side * 68.0, 22.0), (side * 88.0, 25.5), (side * 114.0, 24.0), (side * 144.0, 12.0))
        stroke(canvas, wet, 3.0, (206, 194, 186), 0.45)


def _nose(canvas: F32, rng: np.random.Generator) -> None:
    rim = closed_curve(head.outline_px(head.shapes()["nose"]), 12)
    middle = rim.mean(axis=0)
    polygon(canvas, middle + (rim - middle) * 1.07, (26, 21, 20))
    skin = canvas.copy()
    polygon(skin, rim, (30, 26, 27))
    for k in range(14):
        t = k / 13
        polygon(skin, ellipse(middle + (-10 + 6 * t, -24 + 5 * t), 60 * (1 - 0.72 * t), 25 * (1 - 0.7 * t), -0.06),
                 (96, 95, 99), 0.10)  # fmt: skip
    for _ in range(1500):
        at = middle + rng.normal(0, 1, 2) * (40, 22)
        lit = np.clip(0.75 - (at[1] - middle[1]) / 70, 0.1, 1)
        v = 36 + 92 * rng.random() * lit
        polygon(skin, ellipse(at, 2.1, 1.7), (v, v, v + 4), 0.26)
    polygon(skin, ellipse(middle + (-18, -29), 21, 4.6, -0.08), (214, 222, 232), 0.5)
    polygon(skin, ellipse(middle + (-24, -30), 9, 2.6, -0.08), (244, 248, 252), 0.6)
    for side in (-1, 1):
        hole = closed_curve(
            _at((side * 20, 206), (side * 29, 196), (side * 44, 196), (side * 46, 206), (side * 30, 212)), 10
        )
        polygon(skin, hole, (5, 4, 4))
    inside = blur(fill(rim, (HEIGHT, WIDTH)).astype(np.float32), 0.8)[..., None]
    canvas += (skin - canvas) * inside
    stroke(canvas, _at((0, 230), (0, 244), (1, 258)), 7, (26, 20, 19), 0.9)
    for side in (-1, 1):
        mouth = _at((0, 257), (side * 24, 268), (side * 60, 268), (side * 108, 246))
        stroke(canvas, mouth, 5.5, (30, 23, 22), 0.85)


def _whiskers(canvas: F32, rng: np.random.Generator) -> None:
    for side in (-1, 1):
        for k in range(11):
            x0, y0 = side * (40 + 26 * rng.random()), 208 + 44 * rng.random()
            reach, angle = 190 + 150 * rng.random(), -0.20 + 0.62 * k / 10
            knots = _at(*[
                (x0 + side * reach * t * np.cos(angle), y0 + reach * t * np.sin(angle) + 26 * t * t - 14 * t)
                for t in (0, 0.33, 0.66, 1)
            ])  # fmt: skip
            stroke(canvas, knots, 3.1, (242, 242, 240) if k % 4 else (34, 28, 26), 0.88)
        for _ in range(9):
            dot = _at((side * (42 + 28 * rng.random()), 212 + 40 * rng.random()))[0]
            polygon(canvas, ellipse(dot, 2.6, 2.2), (40, 32, 30), 0.5)


COUNTS = {"back": 15000, "bib": 19000, "ear": 8000, "ear-hair": 1500, "face": 62000}


def draw(seed: int = 7) -> Rgb8:
    """Draw the fox: (1600, 2000, 3) uint8 sRGB. The same seed draws the same picture."""
    model = Model(seed)
    canvas = np.ascontiguousarray(_background(model.rng))
    canvas[..., 3] = 1
    floor = {"back": ("back",), "bib": ("bib",), "ear": ("near-ear", "far-ear"), "face": ("head",)}
    tone = {"back": (62, 32, 18), "bib": (118, 108, 100), "ear": (40, 28, 24), "face": (66, 38, 26)}
    for layer in head.LAYERS:
        # A dark floor a little inside the outline, so that no air shows between the hairs.
        for name in floor.get(layer, ()):
            rim = head.smooth_outline(name)
            rim = rim.mean(axis=0) + (rim - rim.mean(axis=0)) * 0.965
            at = head.to_picture(rim[:, 0], rim[:, 1], head=layer not in {"bib", "back"})
            polygon(canvas, np.stack(at, axis=1), tone[layer])
        spread = 0.20 if layer == "ear-hair" else 0.10
        if layer != "ear-hair":
            lay(canvas, _coat(model, layer, COUNTS[layer] // 5, wide=4.2, under=True))
            lay(canvas, _coat(model, layer, COUNTS[layer] // 3, wide=1.7, under=True))
        lay(canvas, _coat(model, layer, COUNTS[layer], spread=spread))
    _eyes(canvas, model.rng)
    _nose(canvas, model.rng)
    _whiskers(canvas, model.rng)
    return np.asarray(np.clip(canvas[..., :3], 0, 1) * 255 + 0.5).astype(np.uint8)
