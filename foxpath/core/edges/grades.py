"""How soft a border is: four grades, a default with its reason, and the blur map of the rehearsal."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from foxpath.core.arrays import F32, Points, frozen
from foxpath.core.edges.borders import Border
from foxpath.core.frame import Crop, Frame
from foxpath.core.zones.kinds import Kind

Grade = Literal["lost", "soft", "firm", "hard"]

GRADES: dict[Grade, tuple[float, float, float]] = {
    "lost": (10.0, 40.0, 13.0),
    "soft": (3.0, 10.0, 5.0),
    "firm": (0.8, 3.0, 1.6),
    "hard": (0.1, 0.8, 0.5),
}
"""Least, most and usual transition width of each grade, mm on the canvas."""

SIGMA_SHARE = 1 / 2.563
"""Gaussian standard deviation for a 10 to 90 % transition of width 1."""


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


def default_edge(
    front: Kind, back: Kind | None, depth_step: int, focal_mm: float, canvas_diagonal_mm: float
) -> EdgePlan:
    """Grade a border by rule.

    What is in front, near the focal point and hard by nature is harder; what lies back, far from the
    focal point, or joins two coats is softer.

    Parameters
    ----------
    front, back : Kind
        The zones on both sides; `back` is None for bare canvas.
    depth_step : int
        Ranks between them.
    focal_mm : float
        Distance of the border's middle from the focal point, mm.
    canvas_diagonal_mm : float
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
    grade: Grade = "lost" if score < 0.24 else "soft" if score < 0.46 else "firm" if score < 0.78 else "hard"
    return EdgePlan(grade, GRADES[grade][2], reason)


def hard_shares(
    edges: Sequence[tuple[Sequence[Points], Grade]], focal: tuple[float, float], crop: Crop
) -> tuple[float, float]:
    """Return the share (0..1) of the borders' length that is hard: near the focal point, and far from it.

    Near is within a fifth of the canvas's diagonal. A painting that is harder far away than near leads the eye off.
    """
    reach = 0.2 * float(np.hypot(crop.width, crop.height))
    length = np.zeros((2, 2))
    for runs, grade in edges:
        for run in runs:
            step = np.diff(run, axis=0)
            size = np.hypot(step[:, 0], step[:, 1])
            middle = (run[1:] + run[:-1]) / 2
            near = np.hypot(middle[:, 0] - focal[0], middle[:, 1] - focal[1]) < reach
            for k, part in enumerate((near, ~near)):
                length[k, 0] += size[part].sum()
                length[k, 1] += size[part].sum() if grade == "hard" else 0.0
    near_share, far_share = (float(hard / max(whole, 1e-9)) for whole, hard in length)
    return near_share, far_share


def softness_map(borders: Sequence[tuple[Border, float]], frame: Frame) -> F32:
    """Return the blur (Gaussian sigma, mm) to give each cell so that borders get their widths.

    Parameters
    ----------
    borders : sequence of (Border, width_mm)
    frame : Frame

    Returns
    -------
    (rows, columns) float32
        0 away from every border; the largest wins where bands overlap.
    """
    import cv2

    out = np.zeros(frame.shape, np.float32)
    for border, width_mm in borders:
        sigma = width_mm * SIGMA_SHARE
        reach = max(1.0, 0.85 * width_mm / frame.cell_mm)
        if sigma / frame.cell_mm < 0.35:
            continue
        for run in border.runs:
            line = frame.to_grid(run)
            pad = int(reach) + 2
            x0, y0 = np.maximum(np.floor(line.min(0)).astype(int) - pad, 0)
            x1, y1 = np.minimum(np.ceil(line.max(0)).astype(int) + pad, (frame.columns, frame.rows))
            if x1 <= x0 or y1 <= y0:
                continue
            away = np.full((y1 - y0, x1 - x0), 255, np.uint8)
            at = np.round((line - (x0, y0)) * 16 - 8).astype(np.int32)
            cv2.polylines(away, [at.reshape(-1, 1, 2)], isClosed=False, color=0, shift=4)
            distance = cv2.distanceTransform(away, cv2.DIST_L2, 5)
            fall = np.clip(2 - 2 * distance / reach, 0, 1)
            part = out[y0:y1, x0:x1]
            np.maximum(part, (sigma * fall).astype(np.float32), out=part)
    return frozen(out)
