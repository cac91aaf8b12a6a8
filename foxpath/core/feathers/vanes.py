"""The way barbs lie on feathers, as the photograph shows them: finer than the growth, and turned off the shaft to both sides."""

from dataclasses import replace

import numpy as np

from foxpath.core.arrays import F32, frozen
from foxpath.core.frame import Frame
from foxpath.core.growth.field import ZoneField

FINE, OVER = 0.9, 2.0
"""Deviations, cells, of the gradient that is read and of the place it is read over: a bar is some cells wide."""
PLAIN, SILENT = 0.45, 0.15
"""Coherence from which on the barbs are as seen, and below which they follow the growth."""
FAINT = 0.8
"""Gradients below this, L* a cell, show no barbs."""


def vane_field(lightness: F32, frame: Frame, growth: ZoneField, window: tuple[int, int, int, int]) -> ZoneField:
    """Return the direction of the barbs over a part of a fine grid, from shaft to edge.

    By the structure tensor: barbs, and the bars that run along them, lie across the gradient. Of the two ways along an
    axis the one that goes with the growth is taken. Where the photograph shows nothing, barbs follow the growth.

    Parameters
    ----------
    lightness : (rows, columns) float32
        L* of the photograph on the grid of `frame`.
    frame : Frame
    growth : ZoneField
        Of the same crop.
    window : (top, left, height, width)
        The part of the grid, cells.
    """
    import cv2

    top, left, height, width = window
    margin = int(4 * OVER)
    y0, x0 = max(0, top - margin), max(0, left - margin)
    part = lightness[y0 : top + height + margin, x0 : left + width + margin]
    soft = cv2.GaussianBlur(part, (0, 0), FINE)
    down, right = np.gradient(soft)
    cos2, sin2, size = (
        cv2.GaussianBlur(v, (0, 0), OVER) for v in (right**2 - down**2, 2 * right * down, right**2 + down**2)
    )
    cut = (slice(top - y0, top - y0 + height), slice(left - x0, left - x0 + width))
    cos2, sin2, size = cos2[cut], sin2[cut], size[cut]
    plain = np.hypot(cos2, sin2) / (size + 1e-6)
    trust = np.clip((plain - SILENT) / (PLAIN - SILENT), 0, 1) * np.clip(np.sqrt(size) / FAINT - 1, 0, 1)
    angle = 0.5 * np.arctan2(-sin2, -cos2)
    seen = np.stack([np.cos(angle), np.sin(angle)], axis=-1)
    shaft = _grown(frame, growth, window)
    ahead = (seen * shaft).sum(axis=-1)
    seen = seen * np.where(ahead < 0, -1, 1)[..., None]
    mixed = trust[..., None] * seen + (1 - trust[..., None]) * shaft
    mixed /= np.hypot(mixed[..., 0], mixed[..., 1])[..., None] + 1e-9
    whole = np.ones((height, width), bool)
    sure = trust.astype(np.float32)
    return replace(
        growth, frame=frame, row=top, column=left, direction=frozen(mixed.astype(np.float32)),
        sure=frozen(sure), inside=whole, domain=whole, axis_sure=frozen(sure), rooted=~whole, axis=None,
    )  # fmt: skip


def _grown(frame: Frame, growth: ZoneField, window: tuple[int, int, int, int]) -> F32:
    """Return the growth's directions on a part of a finer grid of the same crop, (h, w, 2)."""
    top, left, height, width = window
    scale = frame.cell_px / growth.frame.cell_px
    rows, columns = growth.inside.shape
    j = np.clip((left + np.arange(width) + 0.5) * scale - growth.column, 0, columns - 1).astype(int)
    i = np.clip((top + np.arange(height) + 0.5) * scale - growth.row, 0, rows - 1).astype(int)
    return np.asarray(growth.direction[i[:, None], j[None, :]], np.float32)
