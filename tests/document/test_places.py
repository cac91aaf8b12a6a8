"""Walks over a project: what goes with a zone, what is handed over, where places come to lie on another picture."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.eyes import Ellipse
from foxpath.core.eyes.eye import LightPlan
from foxpath.core.passes import PassEdit
from foxpath.core.reference.light import Catchlight, Light
from foxpath.core.reference.transfer import Axes
from foxpath.document import edits, places
from foxpath.document.model import Drawing
from tests.hammered import picture, whole


def ids(project, name):
    return [one.id for one in getattr(project, name)]


class Names(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.made = whole()
        cls.zone = {zone.name: zone.id for zone in cls.made.zones}

    def test_what_belongs_to_a_zone_goes_with_it(self):
        coat, plumes = self.zone["Coat"], self.zone["Plumes"]
        left = edits.remove_zone(self.made, coat)
        self.assertNotIn(coat, ids(left, "zones"))
        self.assertEqual([comb.zone for comb in left.combs], [plumes])
        self.assertEqual((left.marks, left.edges, left.stretches), ((), (), ()))
        self.assertEqual([fan.zone for fan in left.fans], [plumes])
        self.assertEqual(left.eyes, self.made.eyes)
        self.assertIs(left.features, self.made.features)

    def test_a_zone_left_out_of_a_pass_is_forgotten_there(self):
        bar = self.zone["Bar"]
        self.assertEqual(self.made.passes["lights"].left_out, (bar,))
        left = edits.remove_zone(self.made, bar)
        self.assertEqual(left.passes["lights"].left_out, ())
        self.assertEqual(left.passes["lights"].l_low, 30.0)
        self.assertEqual(edits.remove_zone(self.made, self.zone["Eye"]).passes, self.made.passes)

    def test_handed_over_is_what_belonged_to_one_and_what_lay_between_them_goes(self):
        coat, plumes = self.zone["Coat"], self.zone["Plumes"]
        made = places.handed_over(self.made, coat, plumes)
        self.assertEqual({comb.zone for comb in made.combs}, {plumes})
        self.assertEqual([mark.zone for mark in made.marks if mark.kind == "crown"], [plumes])
        # Plumes borrowed from the coat: from itself it cannot.
        other = places.handed_over(self.made, plumes, coat)
        self.assertEqual([mark.kind for mark in other.marks], ["crown"])
        self.assertEqual([fan.zone for fan in other.fans], [coat])
        some = places.handed_over(self.made, plumes, coat, lambda one: hasattr(one, "first"))
        self.assertEqual(([f.zone for f in some.fans], some.combs), ([coat], self.made.combs))
        self.assertIs(places.handed_over(self.made, "nobody", coat), self.made)

    def test_a_picture_that_goes_takes_what_was_borrowed_from_it(self):
        lent = self.made.shelf[0].id
        made, _ = edits.add_mark(self.made, "donor", self.zone["Coat"], source=lent)
        self.assertEqual([m.source for m in made.marks if m.source], [self.zone["Coat"], lent])
        left = edits.take_off(made, lent)
        self.assertEqual([m.source for m in left.marks if m.source], [self.zone["Coat"]])
        self.assertEqual(left.shelf, ())

    def test_sound_drops_what_names_nobody(self):
        comb, fan = self.made.combs[0], self.made.fans[0]
        broken = replace(
            self.made,
            combs=(*self.made.combs, replace(comb, id="c90", zone="z90")),
            fans=(replace(fan, zone="z90"),),
            marks=(*self.made.marks, replace(self.made.marks[1], id="m90", source="z90")),
            edges=(replace(self.made.edges[0], back="z90"), *self.made.edges),
        )
        mended = places.sound(broken)
        self.assertEqual(
            (mended.combs, mended.fans, mended.marks, mended.edges),
            (self.made.combs, (), self.made.marks, self.made.edges),
        )
        uncut = replace(self.made, shelf=tuple(replace(one, cut=()) for one in self.made.shelf))
        named = replace(uncut, marks=(replace(self.made.marks[1], source=self.made.shelf[0].id),))
        self.assertEqual(places.sound(named).marks, ())

    def test_pictures_and_ids(self):
        self.assertEqual(
            [one.name for one in places.pictures_of(self.made)],
            ["hammered.png", "drawing.png", "further.png", "canvas.jpg"],
        )
        self.assertEqual(places.ids_of(self.made) & {"z1", "r99"}, {"z1"})
        self.assertTrue(
            {self.made.shelf[0].id, self.made.eyes[0].id, self.made.features[0].id} <= places.ids_of(self.made)
        )


class Moving(unittest.TestCase):
    """Turned a quarter clockwise, twice as large, shifted; and the same in the mirror."""

    TURN = np.array([[0.0, -2, 300], [2, 0, 20]])
    MIRROR = np.array([[-2.0, 0, 400], [0, 2, 10]])

    @classmethod
    def setUpClass(cls):
        cls.made = whole()

    def test_every_place_lies_where_the_map_puts_it(self):
        made = places.moved(self.made, self.TURN)

        def want(points):
            return np.asarray(points) @ self.TURN[:, :2].T + self.TURN[:, 2]

        for name, attribute in (
            ("zones", "points"),
            ("combs", "points"),
            ("stretches", "points"),
            ("fans", "first"),
            ("fans", "last"),
        ):
            for before, after in zip(getattr(self.made, name), getattr(made, name), strict=True):
                if getattr(before, attribute):
                    np.testing.assert_allclose(getattr(after, attribute), want(getattr(before, attribute)), atol=0.01)
        coat, moved = self.made.zones[1], made.zones[1]
        np.testing.assert_allclose(moved.hairs[0], want(coat.hairs[0]), atol=0.01)
        np.testing.assert_allclose(moved.form.line, want(coat.form.line), atol=0.01)
        self.assertEqual(moved.form.kind, coat.form.kind)
        np.testing.assert_allclose(
            made.features[0].strokes[0].points, want(self.made.features[0].strokes[0].points), atol=0.01
        )
        np.testing.assert_allclose(made.catchlights[0].spot, want([self.made.catchlights[0].spot])[0], atol=0.01)
        self.assertAlmostEqual(made.catchlights[0].radius, 2 * self.made.catchlights[0].radius)
        # What is no place stays: numbers, names, and the parts of a further picture in its own pixels.
        self.assertEqual(
            (made.kit, made.passes, made.shelf[0].cut), (self.made.kit, self.made.passes, self.made.shelf[0].cut)
        )
        self.assertIsNone(made.focal)

    def test_focal_point_spots_axes_and_lines(self):
        said = edits.add_spot(edits.set_focal(self.made, (10.0, 20.0)), (30.0, 5.0))
        said = edits.draw_line(edits.set_axes(said, Axes((10, 10), (50, 10), (30, 40))), np.array([[1.0, 2], [30, 40]]))
        made = places.moved(said, self.MIRROR)
        self.assertEqual(made.focal, (380.0, 50.0))
        self.assertEqual(made.spots[-1], (340.0, 20.0))
        self.assertEqual((made.transfer.axes.left, made.transfer.axes.middle), ((380.0, 30.0), (340.0, 90.0)))
        self.assertEqual(made.transfer.drawn[-1][0], (398.0, 14.0))

    def test_an_iris_turns_and_grows(self):
        eye = replace(self.made.eyes[0], iris=Ellipse(50, 40, 10, 6, 30), light=LightPlan(hour=2.0))
        made = places.moved(replace(self.made, eyes=(eye,)), self.TURN).eyes[0]
        self.assertEqual((made.iris.cx, made.iris.cy), (220.0, 120.0))
        self.assertEqual((made.iris.rx, made.iris.ry), (20.0, 12.0))
        self.assertAlmostEqual(made.iris.deg % 180, 120)
        self.assertAlmostEqual(made.light.hour, 5.0)
        mirrored = places.moved(replace(self.made, eyes=(eye,)), self.MIRROR).eyes[0]
        self.assertAlmostEqual(mirrored.iris.deg % 180, 150)
        self.assertAlmostEqual(mirrored.light.hour, 10.0)

    def test_in_the_mirror_a_crown_circles_the_other_way_and_the_light_comes_from_the_other_side(self):
        lit = replace(self.made, light=Light(hour=10.0, sky_hour=1.0))
        turned, mirrored = places.moved(lit, self.TURN), places.moved(lit, self.MIRROR)
        self.assertEqual((turned.marks[0].turn_deg, mirrored.marks[0].turn_deg), (40.0, -40.0))
        # A donor is laid the other way round or not, whatever the mirror does.
        self.assertEqual([m.turn_deg for m in mirrored.marks[1:]], [m.turn_deg for m in lit.marks[1:]])
        self.assertAlmostEqual(mirrored.light.hour, 2.0)
        self.assertAlmostEqual(mirrored.light.sky_hour, 11.0)
        self.assertAlmostEqual(turned.light.hour, 1.0)
        self.assertAlmostEqual(turned.light.sky_hour, 4.0)

    def test_another_main_picture_takes_everything_along(self):
        lent = self.made.shelf[0]
        posed = edits.pose_lent(self.made, lent.id, x=80.0, y=64.0, scale=2.0, turn_deg=0.0, mirrored=True)
        made = edits.make_main(posed, lent.id)
        self.assertEqual(made.reference.name, "further.png")
        # Its middle lies at (80, 64): a point 10 to the right there lies 5 to the left here.
        at = edits.set_focal(posed, (90.0, 64.0))
        self.assertEqual(edits.make_main(at, lent.id).focal, (25.0, 24.0))
        self.assertEqual(made.marks[0].turn_deg, -40.0)
        self.assertEqual([one.reference.name for one in made.shelf], ["hammered.png"])
        self.assertIsNone(made.correction.grey)
        back = edits.make_main(made, made.shelf[0].id)
        np.testing.assert_allclose(back.zones[1].points, self.made.zones[1].points, atol=0.05)
        self.assertEqual(back.marks[0].turn_deg, 40.0)

    def test_a_drawing_keeps_its_corners_and_forgets_what_was_marked_on_it(self):
        marked = edits.mark_drawn(self.made, "k", [np.array([[1.0, 1], [5, 5]])])
        made = edits.make_main(marked, marked.shelf[0].id)
        self.assertIsInstance(made.drawing, Drawing)
        self.assertEqual((made.drawing.corners, made.drawing.marked), (marked.drawing.corners, ()))


class Far(unittest.TestCase):
    def test_what_lies_far_off_is_brought_near(self):
        made = whole()
        room = places.FARTHEST * 160
        far = replace(
            made, zones=(*made.zones[:1], replace(made.zones[1], points=((0, 0), (9e5, 3), (5, -8e5))), *made.zones[2:])
        )
        near = places.nearby(far)
        self.assertEqual(near.zones[1].points, ((0, 0), (160 + room, 3), (5, -room)))
        self.assertIs(near.combs, far.combs)
        self.assertEqual(near.zones[2:], far.zones[2:])
        eyes = replace(made, eyes=(replace(made.eyes[0], iris=Ellipse(7e5, 20, 6, 6)),))
        self.assertEqual(places.nearby(eyes).eyes[0].iris.cx, 160 + room)

    def test_lids_lie_about_their_iris(self):
        eye = whole().eyes[0]
        self.assertIs(places.eye_nearby(eye), eye)
        x, y = eye.iris.centre
        room = places.LIDS * max(eye.iris.rx, eye.iris.ry)
        wild = replace(eye, upper=((x, y - 1), (x + 900, y)), inner=(x, y + 5000.0))
        tame = places.eye_nearby(wild)
        self.assertEqual(tame.upper, ((x, y - 1), (x + room, y)))
        self.assertEqual(tame.inner, (x, y + room))
        self.assertEqual(tame.lower, eye.lower)

    def test_a_class_that_lies_in_pixels_must_say_where(self):
        class Silent:
            pass

        from dataclasses import make_dataclass

        silent = make_dataclass("Silent", [("x", float)], frozen=True)
        with self.assertRaises(TypeError):
            places.moved(replace(whole(), fans=(silent(1.0),)), np.eye(2, 3))


class Passes(unittest.TestCase):
    def test_only_the_pass_that_left_a_zone_out_changes(self):
        made = replace(whole(), passes={"darks": PassEdit(l_low=5.0), "lights": PassEdit(left_out=("z2", "z3"))})
        left = places.without(made, "z2")
        self.assertEqual(left.passes, {"darks": PassEdit(l_low=5.0), "lights": PassEdit(left_out=("z3",))})
        self.assertTrue(picture(20, 20))
        self.assertEqual(Catchlight((0, 0), 1, (0, 0)).radius, 1)


if __name__ == "__main__":
    unittest.main()


class Moves(unittest.TestCase):
    def test_its_size_and_whether_it_mirrors_hold_for_small_pictures_and_large_ones(self):
        for k in (0.2, 0.9, 3.0):
            for turn in (0.0, 1.0, 2.8):
                c, s = k * np.cos(turn), k * np.sin(turn)
                plain = places.Move(np.array([[c, -s, 30.0], [s, c, -4.0]]))
                other = places.Move(np.array([[-c, -s, 30.0], [-s, c, -4.0]]))
                self.assertAlmostEqual(plain.size, k)
                self.assertAlmostEqual(other.size, k)
                self.assertEqual((plain.mirrors, other.mirrors), (False, True), (k, turn))
