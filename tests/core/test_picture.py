import io
import unittest
from unittest import mock

import numpy as np
from PIL import Image

from foxpath.core.errors import PictureError
from foxpath.core.reference import picture as picture_module
from foxpath.core.reference import picture_size, read_picture
from tests.made import picture


class Reading(unittest.TestCase):
    def test_every_format(self):
        for kind in ("JPEG", "PNG", "TIFF", "WEBP"):
            read = read_picture(picture(kind=kind), f"a.{kind}")
            self.assertEqual(read.size, (200, 160), kind)
            self.assertEqual(read.rgb.dtype, np.uint8)
            self.assertFalse(read.rgb.flags.writeable)

    def test_every_mode(self):
        """Greys, transparency, palettes and CMYK come out as RGB; a clear pixel lies over white."""
        for mode, kind in (("L", "PNG"), ("RGBA", "PNG"), ("P", "PNG"), ("CMYK", "JPEG"), ("1", "PNG")):
            self.assertEqual(read_picture(picture(mode=mode, kind=kind), mode).rgb.shape, (160, 200, 3), mode)
        clear = Image.new("RGBA", (20, 20), (255, 0, 0, 0))
        buffer = io.BytesIO()
        clear.save(buffer, "PNG")
        self.assertEqual(read_picture(buffer.getvalue(), "clear").rgb.min(), 255)

    def test_sixteen_bits(self):
        buffer = io.BytesIO()
        Image.fromarray(np.full((20, 30), 32896, np.uint16)).save(buffer, "TIFF")
        self.assertEqual(int(read_picture(buffer.getvalue(), "deep.tif").rgb[0, 0, 0]), 128)

    def test_orientation(self):
        """A photograph held sideways stands upright, and its size is told so from the header."""
        exif = Image.Exif()
        exif[274] = 6
        data = picture(kind="JPEG", exif=exif)
        self.assertEqual(read_picture(data, "a.jpg").size, (160, 200))
        self.assertEqual(picture_size(data, "a.jpg"), (160, 200))

    def test_bad_bytes_give_one_clear_message(self):
        good = picture(kind="JPEG")
        for name, data in (
            ("empty", b""),
            ("text", b"hello"),
            ("cut", good[: len(good) // 2]),
            ("tiny", picture(4, 4)),
        ):
            with self.assertRaises(PictureError, msg=name) as caught:
                read_picture(data, f"{name}.jpg")
            self.assertIn(name, caught.exception.message)
            self.assertTrue(caught.exception.hint)

    def test_too_many_pixels(self):
        with mock.patch.object(picture_module, "MAX_PIXELS", 1000), self.assertRaises(PictureError) as caught:
            picture_size(picture(), "vast.png")
        self.assertIn("megapixels", caught.exception.message)
