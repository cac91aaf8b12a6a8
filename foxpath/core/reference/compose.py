"""Compose a reference from several: parts cut out of one picture are placed on another."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64, Points, Rgb8, frozen
from foxpath.core.curves import closed_curve
from foxpath.core.units import WIDTH_OF_SIGMA


@dataclass(frozen=True, slots=True)
class Pose:
    """How another picture lies on the main one.

    Attributes
    ----------
    x, y : float
        Where its middle lies, pixels of the main reference.
    scale : float
        Main pixels for one of its own.
    turn_deg : float
        Clockwise as seen.
    mirrored : bool
        Left and right exchanged, before turning.
    """

    x: float
    y: float
    scale: float = 1.0
    turn_deg: float = 0.0
    mirrored: bool = False

    def affine(self, width: float, height: float) -> F64:
        """Return the (2, 3) map from the pixels of a picture of this size to main pixels."""
        a = math.radians(self.turn_deg)
        side = -1.0 if self.mirrored else 1.0
        turn = self.scale * np.array([[math.cos(a) * side, -math.sin(a)], [math.sin(a) * side, math.cos(a)]])
        shift = np.array([self.x, self.y]) - turn @ np.array([width / 2, height / 2])
        return np.column_stack([turn, shift])


@dataclass(frozen=True, slots=True, eq=False)
class Part:
    """A part to be placed.

    Attributes
    ----------
    rgb : (H, W, 3) uint8
    outline : (N, 2) float64
        Pixels of its own file.
    affine : (2, 3) float64
        Its file's pixels to main pixels.
    scale : float
        Pixels of `rgb` for one of its file.
    soft_px : float
        Width of its edge, 10 to 90 %, main pixels.
    """

    rgb: Rgb8
    outline: Points
    affine: F64
    scale: float
    soft_px: float


def inverse(affine: F64) -> F64:
    """Return the inverse of a (2, 3) map."""
    turn = np.linalg.inv(affine[:, :2])
    return np.column_stack([turn, -turn @ affine[:, 2]])


def pose_of(affine: F64, width: float, height: float) -> Pose:
    """Return the pose of a picture of this size whose (2, 3) map is a turn, a scale and perhaps a mirroring."""
    turn = affine[:, :2]
    x, y = turn @ np.array([width / 2, height / 2]) + affine[:, 2]
    scale = math.sqrt(abs(float(np.linalg.det(turn))))
    # The second column is left alone by a mirroring.
    angle = math.degrees(math.atan2(-turn[0, 1], turn[1, 1]))
    return Pose(float(x), float(y), scale, angle, bool(np.linalg.det(turn) < 0))


def mapped(affine: F64, points: Points) -> Points:
    """Map (N, 2) points."""
    return np.asarray(points @ affine[:, :2].T + affine[:, 2])


def compose(main: Rgb8, main_scale: float, parts: Sequence[Part]) -> Rgb8:
    """Return the main picture with parts laid over it, in order.

    Parameters
    ----------
    main : (H, W, 3) uint8
    main_scale : float
        Pixels of `main` for one main pixel.
    parts : sequence of Part
    """
    import cv2

    out = main.copy()
    height, width = out.shape[:2]
    for part in parts:
        if len(part.outline) < 3:
            continue
        line = mapped(part.affine, closed_curve(part.outline)) * main_scale
        sigma = part.soft_px * main_scale / WIDTH_OF_SIGMA
        reach = int(3 * sigma) + 2
        x0, y0 = np.maximum(np.floor(line.min(axis=0)).astype(int) - reach, 0)
        x1, y1 = np.minimum(np.ceil(line.max(axis=0)).astype(int) + reach, (width, height))
        if x1 <= x0 or y1 <= y0:
            continue
        size = (int(x1 - x0), int(y1 - y0))
        alpha = np.zeros((size[1], size[0]), np.uint8)
        cv2.fillPoly(alpha, [np.round((line - (x0, y0)) * 16).astype(np.int32)], 255, cv2.LINE_AA, 4)
        if sigma > 0.3:
            alpha = np.asarray(cv2.GaussianBlur(alpha, (0, 0), sigma), dtype=np.uint8)
        whole = part.affine.copy()
        whole[:, :2] /= part.scale
        whole *= main_scale
        # Centres of pixels lie at halves in both pictures.
        whole[:, 2] += whole[:, :2] @ (0.5, 0.5) - 0.5 - (x0, y0)
        shrinks = float(np.sqrt(abs(np.linalg.det(whole[:, :2]))))
        source = part.rgb
        if shrinks < 0.6:
            # A warp reads single pixels: what is made much smaller is averaged first.
            step = max(2, round(1 / shrinks))
            smaller = (source.shape[1] // step, source.shape[0] // step)
            source = np.asarray(cv2.resize(source, smaller, interpolation=cv2.INTER_AREA), dtype=np.uint8)
            kx, ky = part.rgb.shape[1] / source.shape[1], part.rgb.shape[0] / source.shape[0]
            grown = whole[:, :2] * (kx, ky)
            whole[:, 2] += whole[:, :2] @ (0.5 * kx - 0.5, 0.5 * ky - 0.5)
            whole[:, :2] = grown
        there = cv2.warpAffine(source, whole, size, flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
        share = (alpha.astype(np.float32) / 255)[..., None]
        window = out[y0:y1, x0:x1]
        window[:] = np.clip(there * share + window * (1 - share) + 0.5, 0, 255).astype(np.uint8)
    return frozen(out)
