"""A page of the book of sheets: words, pictures and lines, with the origin at the top left."""

import io
from collections.abc import Callable
from typing import Any, Protocol

import numpy as np

from foxpath.core.arrays import Points, Rgb8
from foxpath.core.reference.transfer import Grid, letter
from foxpath.core.units import CanvasSize
from foxpath.sheets.paper import MM

Draw = Callable[["Page"], None]
"""Draws a page of the book."""
MARGIN = 15 * MM
INK, QUIET = 0.12, 0.33


class Shown(Protocol):
    """What every page may show of its book."""

    @property
    def title(self) -> str: ...
    @property
    def canvas(self) -> CanvasSize: ...
    @property
    def grid(self) -> Grid: ...
    @property
    def reference(self) -> Rgb8: ...


class Page:
    """A page with the origin at the top left, in points."""

    def __init__(self, pdf: Any, book: Shown, size: tuple[float, float]) -> None:
        self.pdf, self.book = pdf, book
        self.width, self.height = size
        self.left, self.right = MARGIN, size[0] - MARGIN

    def text(
        self,
        x: float,
        y: float,
        words: str,
        size: float = 10,
        weight: str = "Regular",
        tone: float = INK,
        align: str = "l",
    ) -> None:
        self.pdf.setFillGray(tone)
        self.pdf.setFont(f"FP-{weight}", size)
        draw = {"l": self.pdf.drawString, "r": self.pdf.drawRightString, "c": self.pdf.drawCentredString}[align]
        draw(x, self.height - y, words)

    def wrapped(
        self, x: float, y: float, words: str, width: float, size: float = 10, tone: float = INK, weight: str = "Regular"
    ) -> float:
        """Write words in lines of at most `width`; returns the y below the last line."""
        from reportlab.lib.utils import simpleSplit

        for line in simpleSplit(words, f"FP-{weight}", size, width):
            self.text(x, y, line, size, weight, tone)
            y += size * 1.36
        return y

    def fitted(self, words: str, size: float, width: float, weight: str = "Regular") -> str:
        """Shorten words in the middle until they fit."""
        measure = self.pdf.stringWidth
        if measure(words, f"FP-{weight}", size) <= width:
            return words
        half = len(words) // 2
        while half > 2 and measure(words[:half] + "…" + words[-half:], f"FP-{weight}", size) > width:
            half -= 1
        return words[:half] + "…" + words[-half:]

    def head(self, title: str, note: str) -> float:
        """Write the page's title over a tapering rule; returns the y below it."""
        self.text(self.left, MARGIN + 14, title, 20, "Bold")
        self.text(self.right, MARGIN + 14, note, 9.5, tone=QUIET, align="r")
        y = MARGIN + 24
        path = self.pdf.beginPath()
        path.moveTo(self.left, self.height - y + 1.1)
        path.lineTo(self.right, self.height - y + 0.15)
        path.lineTo(self.right, self.height - y - 0.15)
        path.lineTo(self.left, self.height - y - 1.1)
        path.close()
        self.pdf.setFillGray(0.45)
        self.pdf.drawPath(path, stroke=0, fill=1)
        return y + 14

    def foot(self, number: int, of: int) -> None:
        """Write the foot of the page."""
        y = self.height - MARGIN + 14
        self.text(self.left, y, f"{self.book.title} · {self.book.canvas.words()}", 8.5, tone=QUIET)
        self.text(self.right, y, f"{number} / {of}", 8.5, tone=QUIET, align="r")

    def picture(self, rgb: Rgb8, x: float, y: float, width: float, quality: int = 88) -> float:
        """Draw a picture; returns its height in points."""
        from PIL import Image
        from reportlab.lib.utils import ImageReader

        most = max(64, int(width / 72 * 220))
        image = Image.fromarray(rgb)
        if image.width > most:
            image = image.resize((most, round(most * image.height / image.width)), Image.Resampling.LANCZOS)
        packed = io.BytesIO()
        image.save(packed, "JPEG", quality=quality)
        packed.seek(0)
        height = float(width * rgb.shape[0] / rgb.shape[1])
        self.pdf.drawImage(ImageReader(packed), x, self.height - y - height, width, height)
        self.pdf.setStrokeGray(0.1)
        self.pdf.setLineWidth(0.5)
        self.pdf.rect(x, self.height - y - height, width, height)
        return height

    def plan_area(self, top: float, room: float) -> tuple[float, float, float, float]:
        """Place the canvas between `top` and `room` points below: x, y, points per mm, height."""
        gutter = 16.0
        scale = min((self.right - self.left - gutter) / self.book.canvas.width_mm, room / self.book.canvas.height_mm)
        x = self.left + gutter
        return x, top + gutter, scale, scale * self.book.canvas.height_mm

    def clip_to(self, x: float, y: float, scale: float) -> None:
        path = self.pdf.beginPath()
        canvas = self.book.canvas
        path.rect(x, self.height - y - canvas.height_mm * scale, canvas.width_mm * scale, canvas.height_mm * scale)
        self.pdf.clipPath(path, stroke=0, fill=0)

    def line(
        self,
        points: Points,
        x: float,
        y: float,
        scale: float,
        width: float,
        tone: float,
        alpha: float = 1,
        dash: tuple[float, float] | None = None,
        *,
        close: bool = False,
    ) -> None:
        path = self.pdf.beginPath()
        for k, (px, py) in enumerate(points):
            at = (x + px * scale, self.height - y - py * scale)
            path.lineTo(*at) if k else path.moveTo(*at)
        if close:
            path.close()
        self.pdf.setStrokeGray(tone)
        self.pdf.setStrokeAlpha(alpha)
        self.pdf.setLineWidth(width)
        self.pdf.setLineCap(0)
        self.pdf.setLineJoin(1)
        self.pdf.setDash(*(([*dash], 0) if dash else ([], 0)))
        self.pdf.drawPath(path, stroke=1, fill=0)
        self.pdf.setStrokeAlpha(1)
        self.pdf.setDash([], 0)


def grid(page: Page, x: float, y: float, scale: float) -> float:
    """Rule the painting's squares over a map, with their letters and numbers; returns the side of one, mm."""
    canvas, ruled = page.book.canvas, page.book.grid
    step = ruled.side(canvas)
    across, down = int(np.ceil(canvas.width_mm / step - 1e-9)), int(np.ceil(canvas.height_mm / step - 1e-9))
    for line, diagonal in ruled.lines(canvas):
        page.line(line, x, y, scale, 0.7 if diagonal else 1.1, 0.1, 0.35 if diagonal else 0.7)
        page.line(line, x, y, scale, 0.3 if diagonal else 0.5, 0.98)
    for k in range(across):
        middle = min((k + 0.5) * step, (k * step + canvas.width_mm) / 2)
        page.text(x + middle * scale, y - 5, letter(k), 10, "Bold", align="c")
    for k in range(down):
        middle = min((k + 0.5) * step, (k * step + canvas.height_mm) / 2)
        page.text(x - 6, y + middle * scale + 3.5, str(k + 1), 10, "Bold", align="r")
    return step
