import unittest
from dataclasses import replace

from foxpath.core.eyes import Ellipse, Extent, Eye, check_size, doubts

ANIMAL = Extent.of_animal(400.0)


def asked(radius=10.0, sure=0.9, others=(), extent=ANIMAL, rivals=(), at=(100.0, 100.0)):
    return doubts(Ellipse(*at, radius, radius), sure, others, extent, lambda px: f"{px / 2:.1f} mm", rivals=rivals)


class Doubting(unittest.TestCase):
    def test_an_eye_like_any_other_is_taken(self):
        self.assertEqual(asked(others=(Ellipse(200, 100, 9, 9),)), ())

    def test_one_as_large_as_the_face_is_asked_about_with_its_size(self):
        self.assertEqual(asked(56.0), ())
        (found,) = asked(57.0)
        self.assertIn("57.0 mm across", found)
        self.assertIn("28 % of the animal", found)
        self.assertEqual(asked(57.0, extent=Extent.of_animal(0.0)), ())
        self.assertEqual(asked(89.0, extent=Extent.of_picture(400.0)), ())
        self.assertIn("of the picture", asked(91.0, extent=Extent.of_picture(400.0))[0])

    def test_eyes_of_one_animal_are_nearly_the_same(self):
        for radius, said in ((15.9, 0), (16.1, 1), (6.3, 0), (6.2, 1)):
            found = asked(radius, others=(Ellipse(300, 100, 10, 10),))
            self.assertEqual(len(found), said, radius)
        self.assertIn("the other eye is 10.0 mm", asked(20.0, others=(Ellipse(300, 100, 10, 10),))[0])

    def test_a_marked_eye_that_is_too_large_is_named(self):
        eye = Eye("y1", "Near eye", Ellipse(100, 90, 57, 57), Ellipse(100, 90, 20, 20))
        self.assertEqual(check_size(replace(eye, iris=Ellipse(100, 90, 56, 56)), ANIMAL, 0.5), [])
        (found,) = check_size(eye, ANIMAL, 0.5)
        self.assertIn("Near eye: 57 mm across", found.says)
        self.assertIn("28 % of the animal", found.why)
        self.assertEqual((found.level, found.subject, found.at, found.mm), ("look", "y1", (100, 90), 57.0))
        self.assertEqual(check_size(eye, Extent.of_animal(0), 0.5), [])

    def test_two_eyes_do_not_touch(self):
        self.assertEqual(asked(others=(Ellipse(124.5, 100, 10, 10),)), ())
        self.assertIn("touch", asked(others=(Ellipse(123.5, 100, 10, 10),))[0])

    def test_doubt_is_said_and_why(self):
        self.assertEqual(asked(sure=0.45), ())
        self.assertIn("Only 44 % sure", asked(sure=0.44)[0])
        self.assertIn("another size is nearly as likely", asked(sure=0.4, rivals=(0.1, 0.25))[0])
        self.assertIn("Only", asked(sure=0.4, rivals=(0.2,))[0])
