"""The made-up jay as a model: outlines, growth, feather sizes and light, in pixels of its picture.

It sits on a mossy gatepost, turned to the left, its head a little toward the viewer. Six pixels make a millimetre on
a panel of 24 x 30 cm.
"""

from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import F64, Points
from foxpath.core.curves import closed_curve

WIDTH, HEIGHT = 1440, 1800
Pairs = Sequence[tuple[float, float]]

OUTLINES: dict[str, Pairs] = {
    "tail": [(962, 1128), (1030, 1168), (1096, 1300), (1150, 1450), (1196, 1600), (1226, 1716), (1184, 1744),
             (1122, 1752), (1066, 1724), (1024, 1600), (978, 1450), (930, 1320), (906, 1210)],
    "post": [
        (462, 1446), (520, 1420), (640, 1410), (770, 1412), (880, 1424), (940, 1450), (946, 1600), (946, 1760),
        (946, 1920), (860, 1960), (540, 1960), (456, 1920), (456, 1760), (456, 1600),
    ],
    "back": [(640, 566), (724, 612), (800, 700), (880, 830), (946, 970), (996, 1110), (1010, 1196), (960, 1240),
             (890, 1150), (820, 1000), (740, 860), (680, 740), (640, 650)],
    "breast": [(452, 640), (426, 720), (416, 830), (430, 960), (470, 1100), (540, 1230), (630, 1330), (730, 1396),
               (830, 1404), (912, 1350), (950, 1250), (900, 1120), (820, 960), (740, 820), (680, 720), (640, 640),
               (560, 640), (500, 660)],
    "flight": [(744, 1030), (830, 1040), (900, 1090), (962, 1180), (1012, 1290), (1050, 1400), (1072, 1494),
               (1036, 1504), (968, 1420), (890, 1330), (800, 1236), (742, 1140)],
    "coverts": [(664, 748), (724, 760), (786, 826), (842, 914), (884, 1004), (904, 1076), (860, 1110), (792, 1108),
                (724, 1062), (672, 980), (640, 880), (638, 800)],
    "head": [(362, 494), (392, 440), (440, 390), (506, 356), (580, 350), (650, 378), (702, 436), (726, 512),
             (720, 592), (690, 660), (636, 712), (566, 734), (498, 718), (446, 676), (410, 622), (384, 572), (366, 540)],
    "crown": [(404, 444), (446, 380), (508, 338), (580, 326), (646, 348), (700, 402), (732, 474), (716, 520),
              (668, 486), (604, 452), (534, 434), (466, 436)],
    "moustache": [(410, 560), (440, 556), (486, 586), (520, 640), (528, 700), (500, 704), (462, 668), (430, 622)],
    "beak": [(206, 534), (262, 500), (324, 476), (376, 470), (402, 490), (406, 530), (388, 566), (346, 572), (290, 562),
             (240, 550)],
    "eye": [(458, 496), (470, 472), (494, 462), (518, 470), (530, 494), (520, 518), (496, 528), (470, 520)],
    "legs": [(622, 1350), (668, 1356), (672, 1410), (700, 1440), (688, 1470), (640, 1462), (596, 1476), (560, 1466),
             (584, 1438), (624, 1420)],
    "moss": [(458, 1470), (500, 1438), (560, 1452), (620, 1470), (700, 1462), (780, 1446), (860, 1440), (940, 1452),
             (950, 1520), (900, 1572), (820, 1590), (740, 1560), (660, 1596), (580, 1640), (500, 1620), (452, 1560)],
}  # fmt: skip

BASE = (392.0, 530.0)
"""The corner of the beak: feathers of the head grow away from it."""
EYE, IRIS = (495.0, 495.0), 31.0
FAN_FLIGHT = (((770, 1060), (900, 1260), (1040, 1484)), ((742, 1110), (800, 1214), (868, 1306)), 9)
"""First shaft, last shaft (roots to tips), and how many flight feathers there are."""
FAN_TAIL = (((980, 1180), (1100, 1440), (1196, 1730)), ((934, 1220), (1000, 1460), (1080, 1722)), 6)
COVERT_ROWS, COVERT_COLUMNS = 7, 6
"""Known rows and columns of the barred coverts."""


def outline(name: str) -> Points:
    """Return an outline's points."""
    return np.array(OUTLINES[name], np.float64)


def smooth_outline(name: str) -> Points:
    """Return a finely sampled outline."""
    return closed_curve(outline(name), 16)


def _turned(angle_deg: F64) -> tuple[F64, F64]:
    a = np.radians(angle_deg)
    return np.cos(a), np.sin(a)


def growth(layer: str, x: F64, y: F64) -> tuple[F64, F64]:
    """Return the known growth of a layer, unit vectors from root to tip."""
    x, y = np.asarray(x, float), np.asarray(y, float)
    if layer in {"head", "crown", "moustache"}:
        vx, vy = x - BASE[0] + 30, y - BASE[1] + 14
        size = np.hypot(vx, vy) + 1e-9
        vx, vy = vx / size, vy / size
        # Toward the nape the plumage falls over the back, under the chin down the throat.
        nape = np.clip((x - 560) / 180, 0, 1)
        vy = vy + 0.75 * nape + 0.5 * np.clip((y - 600) / 110, 0, 1)
        if layer == "crown":
            vy = vy - 0.12
    elif layer == "back":
        vx, vy = _turned(58 + 4 * np.sin(y / 90))
    elif layer == "coverts":
        vx, vy = _turned(60 - 0.03 * (x - 760))
    elif layer == "flight":
        vx, vy = _turned(np.full_like(x, 56.0))
    elif layer == "tail":
        vx, vy = _turned(np.full_like(x, 68.0))
    elif layer == "moss":
        vx, vy = 0.25 * np.sin(x / 60), np.ones_like(x)
    else:
        # Down the breast, then along the belly toward the tail.
        belly = np.clip((y - 940) / 380, 0, 1)
        side = np.clip((x - 470) / 330, 0, 1)
        vx, vy = _turned(94 - 34 * side - 26 * belly)
    size = np.hypot(vx, vy) + 1e-9
    return vx / size, vy / size


def feather_length(layer: str, x: F64, y: F64) -> F64:
    """Return the length of a feather, pixels: tiny round the beak, longer toward the tail."""
    x, y = np.asarray(x, float), np.asarray(y, float)
    if layer in {"head", "crown", "moustache"}:
        away = np.hypot(x - BASE[0], y - BASE[1])
        return np.asarray(22 + 0.12 * np.clip(away - 40, 0, 320) + (16 if layer == "crown" else 0))
    if layer == "breast":
        return np.asarray(52 + 0.045 * np.clip(y - 640, 0, 700))
    return np.full_like(x, {"back": 70.0, "coverts": 96.0, "moss": 26.0}.get(layer, 60.0))


def trace(layer: str, x: F64, y: F64, length: F64, turn: F64, points: int = 8) -> F64:
    """Trace lines through the known growth: (N, points, 2) pixels."""
    out = np.empty((len(x), points, 2))
    px, py = np.asarray(x, float).copy(), np.asarray(y, float).copy()
    c, s = np.cos(turn), np.sin(turn)
    for k in range(points):
        out[:, k] = np.stack([px, py], axis=1)
        vx, vy = growth(layer, px, py)
        step = length / (points - 1)
        px, py = px + (c * vx - s * vy) * step, py + (s * vx + c * vy) * step
    return out


def light(x: F64, y: F64) -> F64:
    """Return the light on the bird, 0.3 to 1.25: two balls, head and body, lit from the upper left."""
    best = np.full(np.shape(x), 0.62)
    for cx, cy, rx, ry, lean in ((560, 540, 200, 200, 0.0), (690, 1020, 300, 470, 0.55)):
        c, s = np.cos(lean), np.sin(lean)
        u, v = ((x - cx) * c + (y - cy) * s) / rx, (-(x - cx) * s + (y - cy) * c) / ry
        r = np.clip(u * u + v * v, 0, 0.98)
        z = np.sqrt(1 - r)
        nx, ny = c * u - s * v, s * u + c * v
        lit = 0.46 + 0.84 * np.clip(-0.50 * nx - 0.52 * ny + 0.66 * z, 0, 1.2)
        best = np.where(u * u + v * v < 1.1, lit, best)
    return np.asarray(best)
