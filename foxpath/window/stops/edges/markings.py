"""Markings in a coat at the Edges stop: how much of a border hair crosses, and how it is drawn."""

import numpy as np
from PySide6.QtGui import QPainter

from foxpath.core.edges import MarkingStretch
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport


def crossed_share(stretches: tuple[MarkingStretch, ...]) -> float:
    """Return on what share of its length (0..1) hair crosses a marking's border."""
    total = sum(len(s.line) for s in stretches)
    return sum(len(s.line) for s in stretches if s.crossed) / total if total else 0.0


def over_words(stretches: tuple[MarkingStretch, ...]) -> str:
    """Say which hairs lie over which along most of the crossed border."""
    told = [s for s in stretches if s.crossed and s.dark_over is not None]
    if not told:
        return ""
    dark = sum(len(s.line) for s in told if s.dark_over)
    light = sum(len(s.line) for s in told if not s.dark_over)
    return "dark over light" if dark >= light else "light over dark"


def paint_marking(p: QPainter, view: Viewport, stretch: MarkingStretch, px_per_mm: float) -> None:
    """Draw a stretch of a marking's border: a clean line along the hair, or hairs that reach across it."""
    line = view.to_screen(stretch.line)
    if not stretch.crossed:
        draw.cased_path(p, draw.polygon(line), 1.8)
        return
    ends = view.to_screen(stretch.line + stretch.outward) - line
    ends /= np.maximum(np.hypot(*ends.T), 1e-9)[:, None]
    reach = max(4.0, stretch.ragged_mm * px_per_mm) * (1 if stretch.tips_out else -1)
    gap = max(1, round(3.2 / max(float(np.hypot(*np.diff(line, axis=0).T).mean()), 1e-6)))
    for k in range(0, len(line), gap):
        # Uneven, as hair is; the same at every look.
        share = 0.55 + 0.45 * np.sin(k * 2.4) * np.sin(k * 0.7 + 1)
        root, tip = line[k] - ends[k] * reach * 0.35, line[k] + ends[k] * reach * share
        draw.stroke(p, np.linspace(root, tip, 6), 1.8, 0.5, "over_light", "over_dark")
