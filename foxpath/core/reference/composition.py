"""Reading the composition: what carries the subject, what pulls the eye away, what touches by accident."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool, Lab, Points

TOUCH_SHARE = 0.008
"""Outlines nearer than this share of the canvas's diagonal seem to touch."""
LONE_CHROMA = 22.0
_STRENGTH = {"value": 12.0, "chroma": 10.0, "sharpness": 0.5}
"""What separates clearly: L*, chroma, and natural logarithm of the ratio of sharpness."""


@dataclass(frozen=True, slots=True)
class Separation:
    """How the subject stands out from what lies around it.

    Attributes
    ----------
    value, chroma : float
        Subject minus surroundings, L* and chroma.
    sharpness : float
        Fine contrast of the subject over that of its surroundings, as a natural logarithm.
    carried_by : str
        "value", "chroma" or "sharpness"; empty when none of them separates.
    """

    value: float
    chroma: float
    sharpness: float
    carried_by: str


@dataclass(frozen=True, slots=True)
class Pull:
    """A place that draws the eye away from the focal point.

    Attributes
    ----------
    at : (x, y)
        Cells of the grid.
    strength : float
        Beside the focal point's own (1 = as strong).
    reason : str
        "light", "dark", "colour" or "detail": what makes it strong.
    """

    at: tuple[float, float]
    strength: float
    reason: str


@dataclass(frozen=True, slots=True)
class Touch:
    """Two outlines, or an outline and the canvas's rim, that come close without crossing."""

    at: tuple[float, float]
    what: tuple[str, str]
    gap: float


@dataclass(frozen=True, slots=True)
class LoneColour:
    """A strong colour that occurs in one place only."""

    at: tuple[float, float]
    lab: tuple[float, float, float]
    share: float


def _detail(light: F32, sigma: float) -> F32:
    """Return local fine contrast, L*."""
    import cv2

    fine = light - cv2.GaussianBlur(light, (0, 0), 1.5)
    return np.asarray(np.sqrt(cv2.GaussianBlur(fine * fine, (0, 0), sigma)), dtype=np.float32)


def separation(lab: Lab, subject: Bool) -> Separation | None:
    """Compare a subject with a belt of its own width around it; None when either is empty."""
    import cv2

    if not subject.any() or subject.all():
        return None
    depth = cv2.distanceTransform(subject.astype(np.uint8), cv2.DIST_L2, 5)
    belt_px = max(4, int(0.5 * float(depth.max())))
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * belt_px + 1, 2 * belt_px + 1))
    belt = (cv2.dilate(subject.astype(np.uint8), disc) > 0) & ~subject
    if not belt.any():
        return None
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    detail = _detail(lab[..., 0], 6)
    value = float(lab[..., 0][subject].mean() - lab[..., 0][belt].mean())
    colour = float(chroma[subject].mean() - chroma[belt].mean())
    sharp = float(np.log((detail[subject].mean() + 0.1) / (detail[belt].mean() + 0.1)))
    sizes = {key: abs(v) / _STRENGTH[key] for key, v in (("value", value), ("chroma", colour), ("sharpness", sharp))}
    best = max(sizes, key=lambda key: sizes[key])
    return Separation(value, colour, sharp, best if sizes[best] >= 0.5 else "")


def pulls(lab: Lab, focal: tuple[float, float], most: int = 3) -> list[Pull]:
    """Return the strongest pulls away from the focal point (cells), strongest first.

    A centre-surround difference in value and in colour, and fine detail, each beside its own spread over the
    picture (after Itti, Koch, Niebur 1998, doi:10.1109/34.730558).
    """
    import cv2

    rows, columns = lab.shape[:2]
    diagonal = float(np.hypot(rows, columns))
    near, wide = 0.015 * diagonal, 0.09 * diagonal

    def against(plane: F32) -> F32:
        return np.asarray(cv2.GaussianBlur(plane, (0, 0), near) - cv2.GaussianBlur(plane, (0, 0), wide), np.float32)

    light = against(lab[..., 0])
    colour = np.hypot(against(lab[..., 1]), against(lab[..., 2]))
    detail = np.asarray(cv2.GaussianBlur(_detail(lab[..., 0], near / 2), (0, 0), near), np.float32)
    parts = {
        "light": np.clip(light, 0, None) / 14,
        "dark": np.clip(-light, 0, None) / 18,
        "colour": colour / 12,
        "detail": np.clip(detail - np.median(detail), 0, None) / 5,
    }
    total = np.sqrt(sum(part**2 for part in parts.values()))
    y, x = np.mgrid[0:rows, 0:columns]
    away = np.hypot(x - focal[0], y - focal[1]) / diagonal
    home = total[away < 0.1]
    own = float(np.percentile(home, 90)) if home.size else 1.0
    field = np.where(away > 0.18, total, 0).astype(np.float32)
    found: list[Pull] = []
    for _ in range(most):
        i, j = np.unravel_index(int(np.argmax(field)), field.shape)
        if field[i, j] < 0.35 * max(own, 0.5):
            break
        reason = max(parts, key=lambda key: float(parts[key][i, j]))
        found.append(Pull((float(j) + 0.5, float(i) + 0.5), float(field[i, j]) / max(own, 1e-6), reason))
        field[np.hypot(x - j, y - i) < 0.12 * diagonal] = 0
    return found


def touches(
    outlines: Sequence[tuple[str, Points]], width: float, height: float, gap: float, joined: set[frozenset[str]]
) -> list[Touch]:
    """Return outlines that come within `gap` of the canvas's rim or of each other without crossing.

    Parameters
    ----------
    outlines : sequence of (name, (N, 2) points)
        Closed, in one unit with the numbers below, the canvas from (0, 0) to (width, height).
    joined : set of pairs of names
        Zones that share a border in truth: they are meant to touch.
    """
    found = []
    for name, line in outlines:
        for side, distance in (
            ("left", line[:, 0]),
            ("right", width - line[:, 0]),
            ("upper", line[:, 1]),
            ("lower", height - line[:, 1]),
        ):
            k = int(np.argmin(distance))
            if -gap / 4 <= distance[k] <= gap:
                found.append(
                    Touch((float(line[k, 0]), float(line[k, 1])), (name, f"the {side} border"), float(distance[k]))
                )
    for a, (first, line) in enumerate(outlines):
        for second, other in outlines[a + 1 :]:
            if frozenset((first, second)) in joined:
                continue
            apart = np.hypot(line[:, None, 0] - other[None, :, 0], line[:, None, 1] - other[None, :, 1])
            i, j = np.unravel_index(int(np.argmin(apart)), apart.shape)
            if apart[i, j] <= gap:
                middle = (line[i] + other[j]) / 2
                found.append(Touch((float(middle[0]), float(middle[1])), (first, second), float(apart[i, j])))
    return found


def lone_colours(lab: Lab) -> list[LoneColour]:
    """Return strong colours whose hue occurs in one small place only."""
    import cv2

    rows, columns = lab.shape[:2]
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    hue = (np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360).astype(np.float32)
    found = []
    for middle in range(0, 360, 30):
        off = np.abs((hue - middle + 180) % 360 - 180)
        strong = ((off <= 22) & (chroma > LONE_CHROMA)).astype(np.uint8)
        weak = (off <= 30) & (chroma > 0.45 * LONE_CHROMA)
        share = float(strong.mean())
        if not 2e-4 < share < 0.03:
            continue
        size = max(3, round(0.01 * max(rows, columns)))
        joined = cv2.dilate(strong, np.ones((size, size), np.uint8))
        count, labels, stats, middles = cv2.connectedComponentsWithStats(joined)
        if count < 2:
            continue
        largest = 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA]))
        here = labels == largest
        # One place holds nearly all of it, and nothing weaker of the hue answers elsewhere.
        if strong[here].sum() >= 0.9 * strong.sum() and weak[~here].mean() < 0.004:
            mean = lab[here & (strong > 0)].mean(axis=0)
            at = middles[largest]
            found.append(
                LoneColour((float(at[0]), float(at[1])), (float(mean[0]), float(mean[1]), float(mean[2])), share)
            )
    merged: list[LoneColour] = []
    for one in sorted(found, key=lambda c: -c.share):
        if all(np.hypot(one.at[0] - c.at[0], one.at[1] - c.at[1]) > 0.05 * columns for c in merged):
            merged.append(one)
    return merged
