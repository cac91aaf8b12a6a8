"""A practice sheet as PDF, at true size: a photograph of it is read by what is printed here."""

import io
from pathlib import Path

from foxpath.core.practice.paper.page import Printed
from foxpath.sheets.paper import MM, new_pdf
from foxpath.sheets.pictures import write_file


def write_practice(printed: Printed, path: Path, title: str) -> None:
    """Write a sheet. Raises `AppError` when it cannot be written."""
    from PIL import Image
    from reportlab.lib.utils import ImageReader

    paper, buffer = printed.paper, io.BytesIO()
    height = paper.height * MM
    pdf = new_pdf(buffer, title, (paper.width * MM, height))
    for picture in printed.pictures:
        x, y, wide, tall = picture.box
        packed = io.BytesIO()
        Image.fromarray(picture.rgb).save(packed, "JPEG", quality=92)
        packed.seek(0)
        pdf.drawImage(ImageReader(packed), x * MM, height - (y + tall) * MM, wide * MM, tall * MM)
    for shape in printed.shapes:
        path_ = pdf.beginPath()
        for k, (x, y) in enumerate(shape.points):
            at = (x * MM, height - y * MM)
            path_.lineTo(*at) if k else path_.moveTo(*at)
        if shape.width > 0:
            pdf.setStrokeGray(shape.tone)
            pdf.setLineWidth(shape.width * MM)
            pdf.drawPath(path_, stroke=1, fill=0)
        else:
            path_.close()
            pdf.setFillGray(shape.tone)
            pdf.drawPath(path_, stroke=0, fill=1)
    for note in printed.notes:
        pdf.setFillGray(0.15)
        pdf.setFont("FP-Bold" if note.points > 12 else "FP-Regular", note.points)
        pdf.drawString(note.at[0] * MM, height - note.at[1] * MM, note.words)
    pdf.showPage()
    pdf.save()
    write_file(path, buffer.getvalue())
