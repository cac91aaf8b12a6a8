"""What lies over an iris: catchlights, and the edges of the lids."""

import math

import numpy as np

from foxpath.core.arrays import F64, Lab, Points
from foxpath.core.eyes.eye import Ellipse
from foxpath.core.eyes.finding.window import WINDOW, read_lab

LIGHT_RISE = 16.0
"""By how much a catchlight is lighter than what surrounds it, L*."""
LIGHT_OVER = ((10.0, 50.0), (0.2, 0.4))
"""How far up from an iris's lighter parts to white it must lie: less in a dark ball, where a small light is seen grey."""


def find_lights(lab: Lab, iris: Ellipse, pupil: Ellipse) -> Points:
    """Return the middles of the catchlights, the brightest and largest first."""
    import cv2

    y, x = np.mgrid[0:WINDOW, 0:WINDOW] + 0.5
    share = iris.share_of(np.stack([x, y], axis=-1))
    light = lab[..., 0]
    home = share < 1.02
    # What a small spot rises over: the picture with everything so small taken away.
    wide = max(5, int(0.55 * iris.radius)) | 1
    ground = cv2.morphologyEx(light, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (wide, wide)))
    rise = np.where(home, light - ground, 0)
    if float(rise.max()) < LIGHT_RISE:
        return np.zeros((0, 2))
    # Lighter than all of the iris but a spot of it.
    ring = light[(share < 0.95) & (pupil.share_of(np.stack([x, y], axis=-1)) > 1.15)]
    usual = float(np.percentile(ring, 92)) if len(ring) else 30.0
    least = max(28.0, usual + (97 - usual) * float(np.interp(usual, *LIGHT_OVER)))
    count, parts, stats, _ = cv2.connectedComponentsWithStats(((rise > LIGHT_RISE) & (light > least)).astype(np.uint8))
    found = []
    for n in range(1, count):
        area = float(stats[n, cv2.CC_STAT_AREA])
        part = parts == n
        long = max(stats[n, cv2.CC_STAT_WIDTH], stats[n, cv2.CC_STAT_HEIGHT])
        if area < 0.0012 * math.pi * iris.radius**2 or long > 0.8 * iris.radius:
            continue
        weight = ((light - least) * part).astype(np.float64)
        total = float(weight.sum())
        cx, cy = float((weight * x).sum()) / total, float((weight * y).sum()) / total
        # Toward the rim wet skin shines too.
        found.append((total * (1.25 - float(iris.share_of(np.array([[cx, cy]]))[0])), cx, cy))
    found.sort(reverse=True)
    # Lesser glints than a quarter of the first are wetness, not lamps.
    kept = [(cx, cy) for size, cx, cy in found if size > 0.25 * found[0][0]][:4]
    return np.array(kept).reshape(-1, 2)


def find_lids(lab: Lab, iris: Ellipse, pupil: Ellipse, lights: Points) -> tuple[Points, Points]:
    """Return points on the upper and the lower lid's edge, left to right, where they cut the iris; none where they do not."""
    r = iris.radius
    across = np.linspace(-1.15, 1.15, 31) * r
    found = []
    for side in (-1.0, 1.0):
        down = np.linspace(0.2, 1.3, 61) * r * side
        x = np.broadcast_to(iris.cx + across[:, None], (len(across), len(down)))
        y = np.broadcast_to(iris.cy + down[None], (len(across), len(down)))
        read = read_lab(lab, x, y)
        step = np.zeros(read.shape[:2])
        step[:, 3:-3] = np.linalg.norm(read[:, 6:] - read[:, :-6], axis=2)
        # The iris's own rim is no lid.
        share = iris.share_of(np.stack([x, y], axis=-1))
        step = step * (1 - 0.75 * np.exp(-(((share - 1) / 0.06) ** 2)))
        # Nor are the pupil's border and a catchlight's.
        places = np.stack([x, y], axis=-1)
        step[pupil.share_of(places) < 1.3] = 0
        for spot in lights:
            step[np.hypot(*(places - spot).transpose(2, 0, 1)) < 0.28 * r] *= 0.2
        path = _path(step)
        strength = step[np.arange(len(across)), path]
        place = np.stack([iris.cx + across, iris.cy + down[path]], axis=1)
        cuts = iris.share_of(place) < 0.95
        good = strength > 0.5 * float(np.median(strength))
        if (cuts & good).sum() < 7 or float(np.median(strength[cuts & good])) < 5:
            found.append(np.zeros((0, 2)))
            continue
        keep = good & (np.abs(across) < 1.1 * r)
        curve = np.polyfit(place[keep, 0] - iris.cx, place[keep, 1], 2)
        for _ in range(3):
            off = np.abs(np.polyval(curve, place[keep, 0] - iris.cx) - place[keep, 1])
            near = off < max(2.5, 1.6 * float(np.median(off)))
            curve = np.polyfit(place[keep][near, 0] - iris.cx, place[keep][near, 1], 2)
        at = np.linspace(-1.1, 1.1, 7) * r
        # An upper lid falls toward its corners, a lower one rises.
        if curve[0] * side > 0.05 / r:
            found.append(np.zeros((0, 2)))
            continue
        found.append(np.stack([iris.cx + at, np.polyval(curve, at)], axis=1))
    return found[0], found[1]


def _path(step: F64) -> np.ndarray[tuple[int, ...], np.dtype[np.intp]]:
    """Return the smooth path through columns along which steps are clearest, by dynamic programming."""
    columns, rows = step.shape
    best = np.zeros_like(step)
    back = np.zeros((columns, rows), np.intp)
    best[0] = step[0]
    reach = 4
    for c in range(1, columns):
        shifted = np.full((2 * reach + 1, rows), -1e9)
        for n, by in enumerate(range(-reach, reach + 1)):
            lo, hi = max(0, by), rows + min(0, by)
            shifted[n, lo - by : hi - by] = best[c - 1, lo:hi] - 0.35 * abs(by)
        pick = shifted.argmax(axis=0)
        best[c] = step[c] + shifted[pick, np.arange(rows)]
        back[c] = np.clip(np.arange(rows) + pick - reach, 0, rows - 1)
    path = np.zeros(columns, np.intp)
    path[-1] = int(best[-1].argmax())
    for c in range(columns - 1, 0, -1):
        path[c - 1] = back[c, path[c]]
    return path
