"""Huge pictures are worked on reduced: in every mode the same picture, upright, over white where it is seen through."""

import io
import unittest
from unittest import mock

import numpy as np
from PIL import Image

from foxpath.core.reference import picture as module
from foxpath.core.reference import picture_size, read_picture


def bytes_of(image, kind, **more):
    made = io.BytesIO()
    image.save(made, kind, **more)
    return made.getvalue()


def smooth(width=240, height=180):
    x, y = np.meshgrid(np.linspace(0, 1, width), np.linspace(0, 1, height))
    return np.stack([40 + 180 * x, 60 + 120 * y, 200 - 150 * x * y], axis=-1)


class Reduced(unittest.TestCase):
    def both(self, data, factor=9.5):
        plain = read_picture(data, "x")
        width, height = plain.size
        with mock.patch.object(module, "WORK_PIXELS", int(width * height / factor)):
            small = read_picture(data, "x")
        self.assertLess(small.scale, 1)
        self.assertEqual(picture_size(data, "x"), (width, height))
        return plain, small

    def assert_alike(self, plain, small, most=5.0):
        self.assertAlmostEqual(small.size[0] / plain.size[0], small.scale, delta=0.02)
        again = np.asarray(Image.fromarray(plain.rgb).resize(small.size, Image.Resampling.BOX), float)
        self.assertLess(np.abs(again - small.rgb.astype(float)).mean(), most)

    def test_every_mode(self):
        rgb = Image.fromarray(smooth().astype(np.uint8))
        alpha = Image.fromarray((255 * (np.indices((180, 240))[1] > 80)).astype(np.uint8))
        rgba = rgb.copy()
        rgba.putalpha(alpha)
        grey_alpha = rgba.convert("LA")
        deep = Image.fromarray((smooth()[..., 0] * 257).astype(np.uint16))
        for name, data in (
            ("RGB", bytes_of(rgb, "PNG")),
            ("L", bytes_of(rgb.convert("L"), "PNG")),
            ("RGBA", bytes_of(rgba, "PNG")),
            ("LA", bytes_of(grey_alpha, "PNG")),
            ("P", bytes_of(rgb.convert("P", palette=Image.Palette.ADAPTIVE), "PNG")),
            ("1", bytes_of(rgb.convert("1"), "PNG")),
            ("16 bits", bytes_of(deep, "PNG")),
            ("CMYK", bytes_of(rgb.convert("CMYK"), "TIFF")),
            ("JPEG", bytes_of(rgb, "JPEG", quality=95)),
            ("WEBP", bytes_of(rgba, "WEBP", lossless=True)),
        ):
            with self.subTest(mode=name):
                self.assert_alike(*self.both(data), most=14.0 if name == "1" else 5.0)

    def test_what_is_seen_through_is_white_and_leaves_no_seam(self):
        rgba = Image.fromarray(np.dstack([np.full((90, 120, 3), 0, np.uint8), np.zeros((90, 120), np.uint8)]))
        rgba.paste((200, 40, 30, 255), (60, 0, 120, 90))
        _, small = self.both(bytes_of(rgba, "PNG"), 12)
        row = small.rgb[small.size[1] // 2].astype(int)
        self.assertEqual(row[2].tolist(), [255, 255, 255])
        self.assertEqual(row[-2].tolist(), [200, 40, 30])
        # Between them there is no darker line: what is hidden does not shine through.
        self.assertGreaterEqual(row[:, 0].min(), 199)

    def test_a_palette_with_a_hole_in_it(self):
        palette = Image.fromarray(np.where(np.indices((90, 120))[1] < 60, 0, 1).astype(np.uint8), "P")
        palette.putpalette([10, 10, 10, 30, 160, 60])
        data = bytes_of(palette, "PNG", transparency=0)
        _, small = self.both(data, 12)
        self.assertEqual(small.rgb[5, 2].tolist(), [255, 255, 255])
        self.assertEqual(small.rgb[5, -3].tolist(), [30, 160, 60])

    def test_it_stands_upright(self):
        rgb = Image.fromarray(smooth().astype(np.uint8))
        exif = Image.Exif()
        exif[274] = 6
        plain, small = self.both(bytes_of(rgb, "PNG", exif=exif))
        self.assertEqual(plain.size, (180, 240))
        self.assert_alike(plain, small)

    def test_strips_fit_together_whatever_is_left_over(self):
        with mock.patch.object(module, "STRIP_ROWS", 4):
            rgba = Image.fromarray(np.dstack([smooth(101, 83), np.full((83, 101), 255.0)]).astype(np.uint8))
            self.assert_alike(*self.both(bytes_of(rgba, "PNG")))


if __name__ == "__main__":
    unittest.main()
