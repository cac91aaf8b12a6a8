import re
import tempfile
import unittest
import xml.etree.ElementTree as ET
from pathlib import Path

import numpy as np

from foxpath.core.reference.transfer import Grid
from foxpath.core.units import CanvasSize
from foxpath.sheets.transfer import Drawing, svg_of, tiling, write_tiles

NAME = "{http://www.w3.org/2000/svg}"


class Transfer(unittest.TestCase):
    def setUp(self):
        line = np.array([[0.0, 0.0], [500.0, 400.0]])
        self.drawing = Drawing("A <fox> & cub", CanvasSize(500, 400), (line,), (line,), Grid(diagonals=True))

    def test_svg_is_as_large_as_the_canvas(self):
        root = ET.fromstring(svg_of(self.drawing))
        self.assertEqual((root.get("width"), root.get("height")), ("500mm", "400mm"))
        self.assertEqual(root.get("viewBox"), "0 0 500 400")
        groups = {g.get("id"): g for g in root.iter(f"{NAME}g")}
        self.assertEqual(set(groups), {"squares", "names", "axes", "drawing"})
        self.assertEqual([t.text for t in groups["names"]][:3], ["A", "B", "C"])
        self.assertEqual(groups["drawing"][0].get("d"), "M0.00 0.00 L500.00 400.00")
        self.assertTrue(root[0].text.startswith("A <fox> & cub"))

    def test_sheets_cover_the_canvas_and_share_their_marks(self):
        for canvas, paper in (
            (CanvasSize(500, 400), "A4"),
            (CanvasSize(180, 250), "Letter"),
            (CanvasSize(1200, 300), "A4"),
        ):
            laid = tiling(canvas, paper)
            end = laid.corner(laid.columns - 1, laid.rows - 1)
            self.assertGreaterEqual(end[0] + laid.window_mm[0], canvas.width_mm)
            self.assertGreaterEqual(end[1] + laid.window_mm[1], canvas.height_mm)
            for x, y in laid.marks():
                seen = 0
                for column in range(laid.columns):
                    for row in range(laid.rows):
                        left, top = laid.corner(column, row)
                        seen += left <= x <= left + laid.window_mm[0] and top <= y <= top + laid.window_mm[1]
                self.assertGreaterEqual(seen, 2)
        self.assertEqual(tiling(CanvasSize(180, 250), "A4").columns, 1)
        with self.assertRaises(ValueError):
            tiling(CanvasSize(500, 400), "A0")

    def test_pdf_is_at_true_size(self):
        path = Path(self.enterContext(tempfile.TemporaryDirectory())) / "a.pdf"
        pages = write_tiles(self.drawing, path)
        data = path.read_bytes()
        laid = tiling(self.drawing.canvas)
        self.assertEqual(pages, laid.columns * laid.rows + 1)
        self.assertEqual(len(re.findall(rb"/Type /Page\b", data)), pages)
        width = float(re.search(rb"/MediaBox \[ 0 0 ([\d.]+)", data).group(1))
        self.assertAlmostEqual(width / 72 * 25.4, laid.page_mm[0], delta=0.2)
        self.assertEqual(data, (write_tiles(self.drawing, path), path.read_bytes())[1])
