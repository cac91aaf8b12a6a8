import io
import unittest
from unittest import mock

import numpy as np
import pillow_heif
from PIL import Image

from foxpath.core.errors import PictureError
from foxpath.core.reference import picture as picture_module
from foxpath.core.reference import picture_size, read_picture
from tests.made import picture


class Reading(unittest.TestCase):
    def test_every_format(self):
        pillow_heif.register_heif_opener()
        for kind in ("JPEG", "PNG", "TIFF", "WEBP", "HEIF"):
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

    def test_sixteen_bits_stand_upright_and_are_kept(self):
        """A 16-bit TIFF held sideways: its fine steps are turned with it."""
        import cv2

        rgb = np.zeros((40, 60, 3), np.uint16)
        rgb[:10, :20] = (60000, 1000, 1000)
        data = cv2.imencode(".png", rgb[..., ::-1])[1].tobytes()
        deep = read_picture(data, "deep.png").deep
        np.testing.assert_array_equal(deep, rgb)
        buffer = io.BytesIO()
        exif = Image.Exif()
        exif[274] = 6
        Image.fromarray(rgb[..., 0]).save(buffer, "TIFF", exif=exif)
        read = read_picture(buffer.getvalue(), "deep.tif")
        self.assertEqual(read.size, (40, 60))
        self.assertEqual(read.deep.shape[:2], (60, 40))
        self.assertEqual(int(read.deep[5, 35, 0]), 60000)
        self.assertAlmostEqual(int(read.rgb[5, 35, 0]), 233, delta=1)

    def test_a_wide_profile_is_brought_to_srgb(self):
        """The same bytes mean another colour under another profile; without one they are sRGB."""
        from PIL import ImageCms

        space = ImageCms.ImageCmsProfile(ImageCms.createProfile("XYZ")).tobytes()
        data = picture(kind="JPEG", icc_profile=space)
        self.assertEqual(read_picture(data, "odd.jpg").rgb.shape, (160, 200, 3))
        plain = read_picture(picture(kind="PNG"), "a.png").rgb
        own = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        np.testing.assert_allclose(read_picture(picture(kind="PNG", icc_profile=own), "b.png").rgb, plain, atol=1)

    def test_a_huge_picture_is_worked_on_smaller(self):
        data = picture(1200, 900, "JPEG")
        with mock.patch.object(picture_module, "WORK_PIXELS", 300_000):
            read = read_picture(data, "huge.jpg")
        self.assertEqual(read.size, (600, 450))
        self.assertAlmostEqual(read.scale, 0.5)
        self.assertEqual(picture_size(data, "huge.jpg"), (1200, 900))
        whole = read_picture(data, "huge.jpg").rgb.astype(float)
        half = whole.reshape(450, 2, 600, 2, 3).mean(axis=(1, 3))
        self.assertLess(np.abs(half - read.rgb).mean(), 2)

    def test_a_mislabelled_file_is_named_for_what_it_is(self):
        for data, words in (
            (b"%PDF-1.7 ...", "PDF"),
            (b"PK\x03\x04 ....", "ZIP"),
            (b"\0\0\0\x18ftypmp42....", "video"),
        ):
            with self.assertRaises(PictureError) as caught:
                picture_size(data, "cat.jpg")
            self.assertIn(words.lower(), str(caught.exception).lower())

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
