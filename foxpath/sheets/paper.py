"""Paper for everything that is printed: sizes, the bundled typeface, an empty PDF."""

import io
from typing import Any

from foxpath import fonts

MM = 72 / 25.4
"""Points of a PDF for a millimetre."""
PAPERS = {"A4": (210 * MM, 297 * MM), "Letter": (8.5 * 72, 11 * 72)}


def new_pdf(buffer: io.BytesIO, title: str, size: tuple[float, float]) -> Any:
    """Return an empty PDF (a reportlab canvas) with the typeface known; the same content gives the same bytes."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont
    from reportlab.pdfgen.canvas import Canvas

    for weight in fonts.WEIGHTS:
        if f"FP-{weight}" not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(f"FP-{weight}", str(fonts.path(weight))))
    pdf = Canvas(buffer, pagesize=size, pageCompression=1, invariant=1, initialFontName="FP-Regular")  # type: ignore[arg-type]
    pdf.setTitle(title)
    pdf.setCreator("Fox Path")
    return pdf
