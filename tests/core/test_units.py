import unittest

from foxpath.core.errors import SizeError
from foxpath.core.frame import Crop
from foxpath.core.reference import canvas_for, fitted
from foxpath.core.units import CanvasSize, about, count_words, duration_words, mm_words, parse_size, percent


class Sizes(unittest.TestCase):
    def test_reads_what_painters_write(self):
        """Centimetres by default; inches, millimetres, a comma and a multiplication sign are understood."""
        cases = {
            "40x50cm": (400, 500, "cm"),
            "40 × 50": (400, 500, "cm"),
            "16x20in": (406.4, 508, "in"),
            '16" x 20"': (406.4, 508, "in"),
            "29,7x21 cm": (297, 210, "cm"),
            "300x240mm": (300, 240, "cm"),
        }
        for text, (width, height, unit) in cases.items():
            size = parse_size(text)
            self.assertAlmostEqual(size.width_mm, width, msg=text)
            self.assertAlmostEqual(size.height_mm, height, msg=text)
            self.assertEqual(size.unit, unit, text)

    def test_refuses_what_is_no_size(self):
        """The message says what to write."""
        for text in ("", "40", "40x", "axb", "0x10cm", "1x1cm", "900x900cm", "-4x5cm", "4e9x1"):
            with self.assertRaises(SizeError, msg=text) as caught:
                parse_size(text)
            self.assertTrue(caught.exception.hint, text)

    def test_words_carry_units(self):
        self.assertEqual(mm_words(0.15), "0.15 mm")
        self.assertEqual(mm_words(27.4), "27 mm")
        self.assertEqual(mm_words(263), "26.3 cm")
        self.assertEqual(duration_words(110), "1 h 50")
        self.assertEqual(percent(0.856), "86 %")
        self.assertEqual(
            [count_words(n, "comb") for n in (0, 1, 14, 62049)], ["0 combs", "1 comb", "14 combs", "62 049 combs"]
        )
        self.assertEqual([about(n) for n in (7, 99, 103, 8757, 61949)], ["7", "99", "100", "8\u00a0800", "62\u00a0000"])
        self.assertEqual(about(99763, 3), "99\u00a0800")
        self.assertEqual(CanvasSize(406.4, 508, "in").words(), "16 × 20 in")


class Fit(unittest.TestCase):
    def test_crop_has_the_canvas_aspect_and_stays_inside(self):
        canvas = CanvasSize(400, 500)
        crop = canvas_for(1000, 600, canvas)
        self.assertAlmostEqual(crop.width / crop.height, 0.8)
        moved = fitted(Crop(900, 500, 400, 10), 1000, 600, canvas)
        self.assertAlmostEqual(moved.width / moved.height, 0.8)
        self.assertGreaterEqual(moved.x, 0)
        self.assertLessEqual(moved.x + moved.width, 1000 + 1e-9)
        self.assertLessEqual(moved.y + moved.height, 600 + 1e-9)
