"""The page of the growth: hairs at true length."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.brush import hair_profile, outlines
from foxpath.sheets.page import QUIET, Draw, Page, grid


@dataclass(frozen=True, slots=True, eq=False)
class GrowthSheet:
    """What the page of the growth shows, mm on the canvas.

    Attributes
    ----------
    hairs_mm : (N, 8, 2) float32
        Root to tip.
    width_mm, sure : (N,) float32
    combs_mm : tuple of (N, 2) float64
    unsure : str
        What is still unsure, in words.
    """

    hairs_mm: F32
    width_mm: F32
    sure: F32
    combs_mm: tuple[Points, ...]
    unsure: str


def growth_page(sheet: GrowthSheet) -> Draw:
    """Return the page of the growth."""

    def draw(page: Page) -> None:
        book = page.book
        top = page.head("Growth", "hairs at true length, thick at the root")
        x, y, scale, height = page.plan_area(top, page.height - top - 150)
        faded = (book.reference.astype(np.float32) * 0.45 + 255 * 0.55).astype(np.uint8)
        page.picture(faded, x, y, scale * book.canvas.width_mm)
        pdf = page.pdf
        pdf.saveState()
        page.clip_to(x, y, scale)
        if len(sheet.hairs_mm):
            half = np.maximum(sheet.width_mm * scale, 0.5).astype(np.float32) / 2
            shapes = outlines(sheet.hairs_mm, half / np.float32(scale), np.maximum(hair_profile(), 0.15), scale, x, y)
            for shape, sure in zip(shapes, sheet.sure, strict=True):
                path = pdf.beginPath()
                path.moveTo(float(shape[0, 0]), page.height - float(shape[0, 1]))
                for px, py in shape[1:]:
                    path.lineTo(float(px), page.height - float(py))
                path.close()
                if sure >= 0.5:
                    pdf.setFillGray(0.08)
                    pdf.drawPath(path, stroke=0, fill=1)
                else:
                    pdf.setStrokeGray(0.35)
                    pdf.setLineWidth(0.3)
                    pdf.drawPath(path, stroke=1, fill=0)
        for comb in sheet.combs_mm:
            page.line(comb, x, y, scale, 2.6, 1.0)
            page.line(comb, x, y, scale, 1.4, 0.05)
            dot = comb[0]
            pdf.setFillGray(0.05)
            pdf.circle(x + dot[0] * scale, page.height - y - dot[1] * scale, 2.2, stroke=0, fill=1)
        pdf.restoreState()
        grid(page, x, y, scale)
        y += height + 20
        page.text(
            page.left,
            y,
            "Filled hairs are sure; hollow ones are only guessed. A dot is the root of a comb.",
            10,
            tone=QUIET,
        )
        page.wrapped(page.left, y + 20, sheet.unsure, page.right - page.left)

    return draw
