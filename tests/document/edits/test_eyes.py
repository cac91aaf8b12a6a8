"""Edits of eyes, features and the drawing: what they make, what they refuse, and that the file keeps them."""

import math
import unittest

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.eyes import Ellipse, FoundEye
from foxpath.document import archive, edits, places
from foxpath.document.convert import project_from_fields, project_to_fields
from tests import made

FOUND = FoundEye(
    Ellipse(80, 68, 7, 7),
    Ellipse(80, 68, 3, 3),
    "round",
    ((78.0, 65.0),),
    (),
    (),
    0.9,
    0.1,
    ((87.0, 68.0), (73.0, 68.0), (80.0, 75.0)),
)


def with_eye(project=None):
    return edits.add_eye(project or made.project(), FOUND)


class Eyes(unittest.TestCase):
    def test_an_eye_takes_lids_and_name_of_its_zone(self):
        project, key = with_eye()
        eye = project.eye(key)
        self.assertEqual(eye.name, "Eye")
        self.assertEqual(len(project.zones), 3)
        self.assertGreater(len(eye.upper), 3)
        self.assertLess(np.mean([y for _, y in eye.upper]), np.mean([y for _, y in eye.lower]))
        self.assertIsNotNone(eye.corners)

    def test_an_eye_where_no_zone_is_gets_one_and_the_same_eye_is_replaced(self):
        far = FoundEye(Ellipse(150, 120, 8, 8), Ellipse(150, 120, 3, 3), "round", (), (), (), 1.0, 0, ())
        project, key = with_eye(made.project(zones=False))
        self.assertEqual([z.kind for z in project.zones], ["background", "eye"])
        again, same = with_eye(project)
        self.assertEqual((same, len(again.eyes)), (key, 1))
        two, _ = edits.add_eye(project, far)
        self.assertEqual(len(two.eyes), 2)

    def test_clicks_on_the_rim_make_an_eye_and_their_error_is_kept(self):
        rim = FOUND.iris.at(np.linspace(0.2, 5.5, 7))
        project, key = edits.mark_rim(made.project(), rim)
        eye = project.eye(key)
        self.assertAlmostEqual(eye.iris.radius, 7, delta=0.2)
        self.assertLess(edits.rim_residual(eye), 0.2)
        with self.assertRaises(InputError):
            edits.mark_rim(made.project(), rim[:2])

    def test_what_cannot_be_is_refused_in_words(self):
        project, key = with_eye()
        for change in ({"pupil": Ellipse(120, 68, 3, 3)}, {"lights": ((120.0, 68.0),)}, {"pupil_kind": "star"}):
            with self.assertRaises(InputError) as caught:
                edits.change_eye(project, key, **change)
            self.assertTrue(caught.exception.hint)
        with self.assertRaises(InputError):
            edits.set_light_plan(project, key, way="never")
        plan = edits.set_light_plan(project, key, hour=13.0, distance=4.0, size_mm=0.01).eye(key).light
        self.assertEqual((plan.hour, plan.distance, plan.size_mm), (1.0, 0.95, 0.1))

    def test_another_pupil_keeps_its_place(self):
        project, key = with_eye()
        slit = edits.set_pupil_kind(project, key, "upright").eye(key).pupil
        self.assertEqual(slit.centre, project.eye(key).pupil.centre)
        self.assertGreater(slit.ry, 2 * slit.rx)

    def test_eyes_go_with_the_picture(self):
        """Turned, sized and mirrored with it, an iris lies where it lay."""
        project, key = with_eye()
        eye = project.eye(key)
        back = np.array([[0.0, -2.0, 400.0], [2.0, 0.0, 10.0]]) @ np.vstack([np.diag([-1.0, 1, 1])])
        moved = places.moved(project, back).eye(key)
        want = eye.iris.outline(16) @ back[:, :2].T + back[:, 2]
        np.testing.assert_allclose(moved.iris.share_of(want), 1, atol=0.01)
        self.assertAlmostEqual(moved.iris.radius, 14, delta=0.05)


class Features(unittest.TestCase):
    def test_whiskers_get_a_zone_and_one_part_of_a_kind_is_drawn_anew(self):
        project, key = edits.add_feature(made.project(), "whiskers", "Near whiskers")
        project = edits.add_stroke(project, key, "hair", np.array([[60.0, 80], [100, 90], [130, 110]]))
        self.assertEqual(project.zones[-1].kind, "whisker")
        nose, nose_key = edits.add_feature(project, "nose")
        for x in (60.0, 90.0):
            nose = edits.add_stroke(nose, nose_key, "skin", np.array([[x, 80], [x + 20, 80], [x + 20, 100], [x, 100]]))
        self.assertEqual(len(nose.feature(nose_key).strokes), 1)
        x, _ = nose.nose
        self.assertAlmostEqual(x, 100, delta=2)
        with self.assertRaises(InputError):
            edits.add_stroke(nose, nose_key, "hair", np.array([[0.0, 0], [30, 0]]))

    def test_a_point_is_moved_and_a_stroke_taken_back(self):
        project, key = edits.add_feature(made.project(), "mouth")
        project = edits.add_stroke(project, key, "line", np.array([[60.0, 80], [100, 90], [130, 80]]))
        moved = edits.move_stroke_point(project, key, 0, 1, (99.0, 99.0))
        self.assertEqual(moved.feature(key).strokes[0].points[1], (99.0, 99.0))
        self.assertEqual(edits.remove_stroke(moved, key, 0).feature(key).strokes, ())


class Keeping(unittest.TestCase):
    def test_everything_survives_the_file(self):
        project, key = with_eye()
        project = edits.set_light_plan(project, key, hour=2.0, sky=False, way="reserve")
        project, feature = edits.add_feature(project, "paw", "Near paw")
        project = edits.add_stroke(project, feature, "claw", np.array([[60.0, 80], [70, 84]]))
        project = edits.set_toes(project, feature, 4)
        project = edits.set_drawing(project, made.picture(160, 120), "drawing.png")
        project = edits.set_corners(project, [(10, 8), (150, 5), (152, 110), (6, 114)])
        project = edits.mark_drawn(project, key, [np.array([[70.0, 60], [90, 60], [90, 75]])])
        path = self.enterContext(__import__("tempfile").TemporaryDirectory())
        file = __import__("pathlib").Path(path) / "x.foxpath"
        archive.save(project, file)
        read = archive.load(file)
        self.assertEqual((read.eyes, read.features), (project.eyes, project.features))
        self.assertEqual((read.drawing.corners, read.drawing.marked), (project.drawing.corners, project.drawing.marked))
        self.assertEqual(read.drawing.reference.data, project.drawing.reference.data)
        self.assertGreater(read.next_id, max(int(key[1:]), int(feature[1:])))

    def test_a_file_of_version_three_opens_without_eyes(self):
        fields = project_to_fields(made.project())
        for name in ("eyes", "features", "drawing"):
            del fields[name]
        fields["version"] = 3
        read = project_from_fields(fields, lambda _: made.picture(), "x")
        self.assertEqual((read.eyes, read.features, read.drawing), ((), (), None))

    def test_a_damaged_eye_is_refused(self):
        from foxpath.core.errors import ProjectError

        fields = project_to_fields(with_eye()[0])
        fields["eyes"][0]["iris"]["rx"] = -1
        with self.assertRaises(ProjectError):
            project_from_fields(fields, lambda _: made.picture(), "x")

    def test_marks_on_a_drawing_end_with_its_corners(self):
        project = edits.set_drawing(made.project(), made.picture(160, 120), "drawing.png")
        project = edits.mark_drawn(project, "y1", [np.array([[0.0, 0], [9, 9]])])
        self.assertEqual(edits.set_corners(project, [(10, 8), (150, 5), (152, 110), (6, 114)]).drawing.marked, ())
        with self.assertRaises(InputError):
            edits.set_corners(project, [(10, 8), (11, 8), (10, 9), (10, 8)])
        self.assertIsNone(edits.drop_drawing(project).drawing)
        zone = edits.remove_zone(with_eye()[0], "z3")
        self.assertEqual(len(zone.eyes), 1)
        self.assertTrue(math.isfinite(zone.focal_point[0]))


if __name__ == "__main__":
    unittest.main()
