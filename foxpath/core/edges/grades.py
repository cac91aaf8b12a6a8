"""How soft a border is: four grades, a default with its reason, and the blur map of the rehearsal."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from foxpath.core.arrays import F32, F64, Labels, Points, frozen
from foxpath.core.frame import Crop, Frame
from foxpath.core.units import WIDTH_OF_SIGMA
from foxpath.core.zones.kinds import Kind

Grade = Literal["lost", "soft", "firm", "hard"]

GRADES: dict[Grade, tuple[float, float, float]] = {
    "lost": (10.0, 40.0, 13.0),
    "soft": (3.0, 10.0, 5.0),
    "firm": (0.8, 3.0, 1.6),
    "hard": (0.1, 0.8, 0.5),
}
"""Least, most and usual transition width of each grade, mm on the canvas."""

SIGMA_SHARE = 1 / WIDTH_OF_SIGMA
"""Gaussian standard deviation for a 10 to 90 % transition of width 1."""


FULL, REACH = 0.6, 1.3
"""A border is blurred in full up to this share of its reach, which is so many widths to each side: less reach would
pull the ends of the transition in and leave it narrower than planned."""


@dataclass(frozen=True, slots=True)
class EdgePlan:
    """How one border will be painted.

    Attributes
    ----------
    grade : Grade
    width_mm : float
        Transition from 10 to 90 %, mm on the canvas.
    reason : str
        Why, in a few words.
    decided : bool
        True when the painter said so, False for the default.
    """

    grade: Grade
    width_mm: float
    reason: str
    decided: bool = False


def grade_of_width(width_mm: float) -> Grade:
    """Return the grade a transition width belongs to."""
    for grade, (least, _, _) in GRADES.items():
        if width_mm >= least:
            return grade
    return "hard"


@dataclass(frozen=True, slots=True)
class EdgeLight:
    """How a border lies to the light.

    Attributes
    ----------
    toward : float
        -1 (its front zone turns away from the light there) to 1 (toward it); 0 where no light is known.
    dip : float
        By how much the border itself is lighter (a ridge) or, below 0, darker (a crevice) than both its sides, L*.
    """

    toward: float = 0.0
    dip: float = 0.0


TOWARD, DIP_L = 0.4, 5.0
"""From where on the light side, a crevice or a ridge changes a grade."""


def default_edge(
    front: Kind,
    back: Kind | None,
    depth_step: int,
    focal_mm: float,
    canvas_diagonal_mm: float,
    light: EdgeLight = EdgeLight(),
) -> EdgePlan:
    """Grade a border by rule.

    What is in front, near the focal point, on the light's side, on a ridge and hard by nature is harder; what lies
    back, far from the focal point, in shadow, deep in a crevice, or joins two coats is softer.

    Parameters
    ----------
    front, back : Kind
        The zones on both sides; `back` is None for bare canvas.
    depth_step : int
        Ranks between them.
    focal_mm : float
        Distance of the border's middle from the focal point, mm.
    canvas_diagonal_mm : float
    light : EdgeLight
    """
    nearness = max(0.0, 1 - focal_mm / (0.34 * canvas_diagonal_mm))
    score = front.edge + 0.30 * nearness - 0.12 + 0.02 * min(max(depth_step, 0), 4)
    reason = front.reason
    if back is not None and front.hair and back.hair:
        score -= 0.08
        reason = "one coat runs into the other"
    if nearness > 0.55 and front.edge < 0.9:
        reason = "near the focal point"
    elif nearness == 0:
        reason = f"far from the focal point; {reason}"
    if light.dip < -DIP_L:
        score -= 0.10
        reason = f"deep in a crevice, {-light.dip:.0f} L* darker"
    elif light.dip > DIP_L:
        score += 0.06
        reason = f"a ridge, {light.dip:.0f} L* lighter; {reason}"
    if abs(light.toward) > TOWARD:
        score += 0.06 * light.toward
        reason += "; toward the light" if light.toward > 0 else "; on the shadow side"
    grade: Grade = "lost" if score < 0.24 else "soft" if score < 0.46 else "firm" if score < 0.78 else "hard"
    return EdgePlan(grade, GRADES[grade][2], reason)


def hard_shares(edges: Sequence[tuple[Points, F64]], focal: tuple[float, float], crop: Crop) -> tuple[float, float]:
    """Return the share (0..1) of the borders' length that is hard: near the focal point, and far from it.

    Near is within a fifth of the canvas's diagonal. A painting that is harder far away than near leads the eye off.

    Parameters
    ----------
    edges : sequence of ((N, 2) float64, (N,) float64)
        Stretches of border, reference pixels, and the width at each of their points, mm.
    focal : (x, y)
    crop : Crop
    """
    reach = 0.2 * float(np.hypot(crop.width, crop.height))
    length = np.zeros((2, 2))
    for run, widths in edges:
        step = np.diff(run, axis=0)
        size = np.hypot(step[:, 0], step[:, 1])
        middle = (run[1:] + run[:-1]) / 2
        hard = (widths[1:] + widths[:-1]) / 2 < GRADES["hard"][1]
        near = np.hypot(middle[:, 0] - focal[0], middle[:, 1] - focal[1]) < reach
        for k, part in enumerate((near, ~near)):
            length[k] += size[part].sum(), size[part & hard].sum()
    near_share, far_share = (float(hard / max(whole, 1e-9)) for whole, hard in length)
    return near_share, far_share


def shadow_edge(plan: EdgePlan, hardness: float) -> EdgePlan:
    """Return the edge of a cast shadow under a light of a hardness, 0 (overcast) to 1 (sun): hard light sharpens it."""
    width = plan.width_mm * 3.0 ** (1 - 2 * min(max(hardness, 0.0), 1.0))
    words = "hard light, a sharp shadow" if hardness > 0.6 else "soft light, a soft shadow" if hardness < 0.4 else ""
    reason = f"{plan.reason}; {words}" if words else plan.reason
    return replace(plan, width_mm=round(width, 2), grade=grade_of_width(width), reason=reason)


Band = tuple[Points, F64, tuple[int, int]]
"""A stretch of border in reference pixels, the width at each of its points, mm, and the two parts that meet there."""
SHARP, SHARP_RISE = (0.8, 2.2), 0.5
"""Borders up to these widths, mm, are hard and firm: toward them the blur of softer ones falls by this, mm a mm."""


def softness_map(bands: Sequence[Band], frame: Frame, labels: Labels | None = None) -> F32:
    """Return the blur (Gaussian sigma, mm) to give each cell so that borders get their widths.

    A border softens only its own two parts, and what is hard beside it stays hard.

    Parameters
    ----------
    bands : sequence of Band
    frame : Frame
    labels : (rows, columns) integers, optional
        The zone map; without it every cell may be softened.

    Returns
    -------
    (rows, columns) float32
        0 away from every border; the largest wins where bands overlap.
    """
    import cv2

    out = np.zeros(frame.shape, np.float32)
    sharp = [np.full(frame.shape, 255, np.uint8) for _ in SHARP]
    for run, widths, pair in bands:
        for first, last, width_mm in even_parts(widths):
            sigma = width_mm * SIGMA_SHARE
            reach = max(1.0, REACH * width_mm / frame.cell_mm)
            line = frame.to_grid(run[first : last + 1])
            for limit, drawn in zip(SHARP, sharp, strict=True):
                if width_mm <= limit:
                    at = np.round(line * 16 - 8).astype(np.int32)
                    cv2.polylines(drawn, [at.reshape(-1, 1, 2)], isClosed=False, color=0, shift=4)
                    break
            if sigma / frame.cell_mm < 0.35:
                continue
            pad = int(reach) + 2
            x0, y0 = np.maximum(np.floor(line.min(0)).astype(int) - pad, 0)
            x1, y1 = np.minimum(np.ceil(line.max(0)).astype(int) + pad, (frame.columns, frame.rows))
            if x1 <= x0 or y1 <= y0:
                continue
            away = np.full((y1 - y0, x1 - x0), 255, np.uint8)
            at = np.round((line - (x0, y0)) * 16 - 8).astype(np.int32)
            cv2.polylines(away, [at.reshape(-1, 1, 2)], isClosed=False, color=0, shift=4)
            distance = cv2.distanceTransform(away, cv2.DIST_L2, 5)
            fall = np.clip((1 - distance / reach) / (1 - FULL), 0, 1)
            if labels is not None:
                own = labels[y0:y1, x0:x1]
                fall *= (own == pair[0]) | (own == pair[1])
            part = out[y0:y1, x0:x1]
            np.maximum(part, (sigma * fall).astype(np.float32), out=part)
    for limit, drawn in zip(SHARP, sharp, strict=True):
        if (drawn == 0).any():
            near = cv2.distanceTransform(drawn, cv2.DIST_L2, 5) * np.float32(frame.cell_mm)
            np.minimum(out, near * np.float32(SHARP_RISE) + np.float32(limit * SIGMA_SHARE), out=out)
    return frozen(out)


def even_parts(widths: F64, ratio: float = 1.15) -> list[tuple[int, int, float]]:
    """Cut a run's widths where they have changed by `ratio`: first and last point, and the width between."""
    parts, first = [], 0
    for k in range(1, len(widths)):
        if k == len(widths) - 1 or not 1 / ratio < widths[k] / widths[first] < ratio:
            parts.append((first, k, float(np.sqrt(widths[first] * widths[k]))))
            first = k
    return parts
