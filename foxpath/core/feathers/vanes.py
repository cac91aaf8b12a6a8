"""The way barbs lie on feathers, as the photograph shows them: finer than the growth, and turned off the shaft to both sides."""

from dataclasses import replace

import numpy as np

from foxpath.core.arrays import F32, Bool, frozen
from foxpath.core.frame import Frame
from foxpath.core.growth.field import ZoneField

FINE, OVER, GRAIN_OVER = 0.9, 2.0, 6.0
"""Deviations, cells, of the gradient that is read and of the place it is read over: a bar is some cells wide, and grain runs
on for many."""
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
    axis, plain, size = _axes(lightness, window, OVER)
    trust = np.clip((plain - SILENT) / (PLAIN - SILENT), 0, 1) * np.clip(np.sqrt(size) / FAINT - 1, 0, 1)
    return _field(axis, trust, _grown(frame, growth, window), frame, growth, (window[0], window[1]))


def grain_field(
    lightness: F32, frame: Frame, growth: ZoneField, window: tuple[int, int, int, int], mask: Bool
) -> ZoneField:
    """Return the direction of the grain, or of the form, over a part without hair: wood, horn, skin, cloth.

    Parameters
    ----------
    lightness, frame, growth, window
        As in `vane_field`.
    mask : (height, width) bool
        The part within the window: where nothing is seen, strokes run as they do in most of it.
    """
    top, left, _, _ = window
    axis, plain, size = _axes(lightness, window, GRAIN_OVER)
    weight = plain**2 * np.sqrt(size) * mask
    c, s = (float((weight * f(2 * axis)).sum()) for f in (np.cos, np.sin))
    most = 0.5 * np.arctan2(s, c)
    common = np.broadcast_to(np.array([np.cos(most), np.sin(most)], np.float32), (*axis.shape, 2))
    trust = np.clip((plain - SILENT) / (PLAIN - SILENT), 0, 1)
    return _field(axis, trust, common, frame, growth, (top, left))


def _axes(lightness: F32, window: tuple[int, int, int, int], over: float) -> tuple[F32, F32, F32]:
    """Return over a window the angle along which light and dark run (radians), their coherence, and the mean square of the gradient."""
    import cv2

    top, left, height, width = window
    margin = int(4 * over)
    y0, x0 = max(0, top - margin), max(0, left - margin)
    part = lightness[y0 : top + height + margin, x0 : left + width + margin]
    down, right = np.gradient(cv2.GaussianBlur(part, (0, 0), FINE))
    tensor = (right**2 - down**2, 2 * right * down, right**2 + down**2)
    cut = (slice(top - y0, top - y0 + height), slice(left - x0, left - x0 + width))
    cos2, sin2, size = (np.asarray(cv2.GaussianBlur(v, (0, 0), over)[cut], np.float32) for v in tensor)
    plain = np.hypot(cos2, sin2) / (size + np.float32(1e-6))
    # Along the gradient lies (cos2, sin2): barbs and grain lie across it.
    return np.asarray(0.5 * np.arctan2(-sin2, -cos2), np.float32), np.asarray(plain, np.float32), size


def _field(axis: F32, trust: F32, ahead: F32, frame: Frame, growth: ZoneField, corner: tuple[int, int]) -> ZoneField:
    """Return a growth along an axis where it is trusted, else along `ahead`, and everywhere to that side."""
    seen = np.stack([np.cos(axis), np.sin(axis)], axis=-1)
    seen = seen * np.where((seen * ahead).sum(axis=-1) < 0, -1, 1)[..., None]
    mixed = trust[..., None] * seen + (1 - trust[..., None]) * ahead
    mixed /= np.hypot(mixed[..., 0], mixed[..., 1])[..., None] + 1e-9
    whole = np.ones(axis.shape, bool)
    sure = frozen(trust.astype(np.float32))
    return replace(
        growth, frame=frame, row=corner[0], column=corner[1], direction=frozen(mixed.astype(np.float32)),
        sure=sure, inside=whole, domain=whole, axis_sure=sure, rooted=~whole, axis=None,
    )  # fmt: skip


def _grown(frame: Frame, growth: ZoneField, window: tuple[int, int, int, int]) -> F32:
    """Return the growth's directions on a part of a finer grid of the same crop, (h, w, 2)."""
    top, left, height, width = window
    scale = frame.cell_px / growth.frame.cell_px
    rows, columns = growth.inside.shape
    j = np.clip((left + np.arange(width) + 0.5) * scale - growth.column, 0, columns - 1).astype(int)
    i = np.clip((top + np.arange(height) + 0.5) * scale - growth.row, 0, rows - 1).astype(int)
    return np.asarray(growth.direction[i[:, None], j[None, :]], np.float32)
