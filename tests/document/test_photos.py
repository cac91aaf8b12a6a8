import io
import unittest
from dataclasses import replace
from datetime import datetime

import numpy as np
from PIL import Image

from foxpath.core.errors import InputError, PictureError
from foxpath.core.progress.spots import Spot
from foxpath.core.progress.touches import OWN, Touch
from foxpath.document import archive, edits
from foxpath.document.model import CanvasPhoto
from foxpath.document.photos import LONGEST_PX, check_picture, kept_photo, sound_photos, taken_at
from tests.made import picture, project

MOMENT = datetime(2026, 3, 4, 18, 30)


def jpeg(width=500, height=420, turned=1, when=""):
    rgb = np.zeros((height, width, 3), np.uint8)
    rgb[: height // 2, : width // 2] = (240, 30, 30)
    exif = Image.Exif()
    exif[0x0112] = turned
    if when:
        exif.get_ifd(0x8769)[0x9003] = when
    packed = io.BytesIO()
    Image.fromarray(rgb).save(packed, "JPEG", exif=exif, quality=92)
    return packed.getvalue()


class Kept(unittest.TestCase):
    def test_a_small_upright_photograph_is_kept_as_it_came(self):
        data = jpeg()
        self.assertEqual(kept_photo("a.jpg", data).data, data)

    def test_one_that_lies_on_its_side_is_turned_upright(self):
        made = kept_photo("a.jpg", jpeg(turned=6))
        self.assertEqual((made.width, made.height), (420, 500))
        with Image.open(io.BytesIO(made.data)) as image:
            self.assertEqual(image.size, (420, 500))
            self.assertEqual(image.getexif().get(0x0112, 1), 1)
            # Turned clockwise: what was top left is top right.
            self.assertGreater(image.getpixel((380, 40))[0], 200)
            self.assertLess(image.getpixel((40, 40))[0], 60)

    def test_a_large_one_is_bounded_and_a_png_becomes_a_jpeg(self):
        made = kept_photo("big.png", picture(5000, 900))
        self.assertEqual((made.width, made.name), (LONGEST_PX, "big.jpg"))
        self.assertEqual(made.height, round(900 * LONGEST_PX / 5000))

    def test_what_is_no_picture_is_refused(self):
        with self.assertRaises(PictureError):
            kept_photo("a.jpg", b"nothing of the kind")
        with self.assertRaisesRegex(PictureError, "only"):
            check_picture(kept_photo("a.jpg", jpeg(390, 300)))

    def test_its_own_moment_is_read(self):
        self.assertEqual(taken_at(jpeg(when="2026:03:04 18:30:05")), datetime(2026, 3, 4, 18, 30, 5))
        self.assertIsNone(taken_at(jpeg()))
        self.assertIsNone(taken_at(jpeg(when="yesterday")))
        self.assertIsNone(taken_at(b"nothing"))


class Edits(unittest.TestCase):
    def with_photo(self):
        return edits.add_photo(project(), kept_photo("a.jpg", jpeg()), MOMENT, "darks")

    def test_photographs_are_kept_once_in_the_order_they_were_taken(self):
        made, first = self.with_photo()
        again, same = edits.add_photo(made, kept_photo("b.jpg", jpeg()), MOMENT)
        self.assertIs(again, made)
        self.assertEqual(first, same)
        earlier, other = edits.add_photo(made, kept_photo("b.jpg", jpeg(520)), datetime(2026, 3, 1))
        self.assertEqual([one.id for one in earlier.photos], [other, first])
        self.assertEqual(edits.remove_photo(earlier, other).photos, made.photos)

    def test_corners_are_four_or_none(self):
        made, key = self.with_photo()
        four = ((1.0, 1.0), (400.0, 2.0), (390.0, 300.0), (3.0, 310.0))
        changed = edits.change_photo(made, key, corners=four, spots=(Spot((5.0, 6.0), (50.0, 0.0, 0.0)),))
        self.assertEqual(changed.photo(key).corners, four)
        with self.assertRaisesRegex(InputError, "four"):
            edits.change_photo(made, key, corners=four[:3])
        with self.assertRaisesRegex(InputError, "no such"):
            edits.change_photo(made, "f999", after="")

    def test_everything_comes_back_from_a_file(self):
        made, key = self.with_photo()
        four = ((1.0, 1.0), (400.0, 2.0), (390.0, 300.0), (3.0, 310.0))
        made = edits.change_photo(made, key, corners=four, spots=(Spot((5.0, 6.0), (50.0, 0.0, 0.0)),))
        made = edits.say_touch(
            made, Touch("", "value", made.zones[0].id, (60.0, 50.0), "leave", photo=key, day="2026-03-04")
        )
        made = edits.leave_alone(made, np.array([[1.0, 1], [30, 1], [30, 40]]))
        back = archive.from_bytes(archive.to_bytes(made), "x")
        self.assertEqual((back.touches, back.left_alone), (made.touches, made.left_alone))
        one, other = back.photos[0], made.photos[0]
        self.assertEqual(
            (one.corners, one.spots, one.after, one.taken), (other.corners, other.spots, "darks", other.taken)
        )
        self.assertEqual(one.reference.data, other.reference.data)
        self.assertEqual(archive.to_bytes(back), archive.to_bytes(made))

    def test_of_a_file_only_sound_photographs_are_taken(self):
        made, _ = self.with_photo()
        one = made.photos[0]
        odd = (
            one,
            replace(one, taken="2026-04-01T10:00"),
            replace(one, id="f9", taken="some day"),
            replace(one, id="f8", corners=((1.0, 1.0),)),
        )
        kept = sound_photos(odd)
        self.assertEqual([p.id for p in kept], [one.id, "f8"])
        self.assertEqual(kept[1].corners, ())
        self.assertIsInstance(kept[0], CanvasPhoto)

    def test_a_touch_up_of_a_kind_at_a_place_is_one(self):
        made = edits.say_touch(project(), Touch("", "value", "", (60.0, 50.0)))
        near, far = 20 / made.mm_per_px, 40 / made.mm_per_px
        again = edits.say_touch(made, Touch("", "value", "", (60.0 + near, 50.0), "struck"))
        self.assertEqual([(one.id, one.word) for one in again.touches], [(made.touches[0].id, "struck")])
        self.assertEqual(len(edits.say_touch(made, Touch("", "value", "", (60.0 + far, 50.0))).touches), 2)
        self.assertEqual(len(edits.say_touch(made, Touch("", "warmth", "", (60.0, 50.0))).touches), 2)
        own = Touch("", OWN, "", (60.0, 50.0), text="the mouth is too wide")
        self.assertEqual(len(edits.say_touch(edits.say_touch(made, own), own).touches), 3)
        self.assertEqual(edits.forget_touch(made, made.touches[0].id).touches, ())

    def test_a_touch_up_goes_with_its_part_and_moves_with_the_picture(self):
        made = project()
        zone = made.zones[0].id
        made = edits.say_touch(made, Touch("", "value", zone, (60.0, 50.0)))
        self.assertEqual(edits.remove_zone(made, zone).touches, ())
        with self.assertRaisesRegex(InputError, "not there"):
            edits.say_touch(made, Touch("", "value", "z999", (1.0, 1.0)))

    def test_areas_are_left_alone_and_taken_back(self):
        made = edits.leave_alone(project(), np.array([[1.0, 1], [30, 1], [30, 40]]))
        made = edits.leave_alone(made, np.array([[50.0, 1], [80, 1], [80, 40]]))
        self.assertEqual(edits.judge_again(made, [0]).left_alone, made.left_alone[1:])
        self.assertEqual(edits.judge_again(made).left_alone, ())
        with self.assertRaisesRegex(InputError, "three"):
            edits.leave_alone(made, np.array([[1.0, 1], [30, 1]]))


if __name__ == "__main__":
    unittest.main()
