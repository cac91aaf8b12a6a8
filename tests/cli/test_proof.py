"""`foxpath proof`, as it is called: what the client sees, and nothing of the painter's."""

import contextlib
import io
import tempfile
import unittest
from datetime import date
from pathlib import Path

import numpy as np
from PIL import Image

from foxpath.cli import main
from foxpath.derive import Results
from foxpath.derive.handout.proof import PART_MM, planned_painting, proof_of, true_part
from foxpath.document import archive, edits
from foxpath.sheets.proof_page import proof_page
from tests.made import project
from tests.remembered import remember
from tests.sheets.test_pages import drawn, said

setUpModule = remember


class Proof(unittest.TestCase):
    def run_with(self, *args):
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main([str(a) for a in args])
        return status, out.getvalue(), err.getvalue()

    def test_a_sheet_and_a_picture_at_its_true_size(self):
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        archive.save(project(), folder / "p.foxpath")
        status, out, err = self.run_with("proof", folder / "p.foxpath", "--out", folder / "q.pdf", "--width", "500")
        self.assertEqual((status, out, err), (0, "Wrote q.pdf and q.png\n", ""))
        with Image.open(folder / "q.png") as picture:
            self.assertEqual(picture.size, (500, 400))
            # 25 cm across: 2 pixels to the millimetre.
            self.assertAlmostEqual(picture.info["dpi"][0], 50.8, delta=0.1)
        self.assertEqual(self.run_with("proof", folder / "p.foxpath", "--out", folder / "q.pdf", "--width", "9")[0], 2)

    def test_it_says_client_colours_and_date_and_no_note(self):
        results = Results()
        made = edits.set_days(
            edits.set_client(project(), "the lighthouse keeper"), start="2026-03-02", deadline="2026-06-01"
        )
        made = edits.add_wish(made, date(2026, 3, 1), "a secret wish")
        whole = planned_painting(results, made, 500)
        sheet = proof_of(results, made, date(2026, 3, 2), whole)
        words = said(drawn(proof_page(sheet), made.canvas)[0])
        self.assertIn("the lighthouse keeper", words)
        self.assertIn("Planned to be ready on", words)
        self.assertIn(sheet.colours[0][0], words)
        self.assertNotIn("secret", words)

    def test_the_part_lies_about_the_focal_point_and_on_the_canvas(self):
        made = project()
        whole = np.zeros((400, 500, 3), np.uint8)
        whole[..., 0] = np.arange(500) // 2
        part, (wide, tall) = true_part(made, whole)
        self.assertEqual((wide, tall), PART_MM)
        self.assertEqual(part.shape, (140, 340, 3))
        corner = edits.set_focal(made, (made.crop.x + made.crop.width, made.crop.y))
        self.assertEqual(true_part(corner, whole)[0][0, -1, 0], 249)


if __name__ == "__main__":
    unittest.main()
