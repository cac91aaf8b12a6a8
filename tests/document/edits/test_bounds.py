"""Every number a painter can give is kept within its range; what cannot be is refused in words, and the rest is left alone."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.errors import InputError
from foxpath.core.features import FEATURES
from foxpath.core.passes import Logged
from foxpath.core.reference.light import Catchlight, Light
from foxpath.core.reference.transfer import Axes
from foxpath.document import edits
from foxpath.document.edits.eyes import MOST_FEATURES
from tests.made import SQUARE, picture, project

LINE = np.array([[50.0, 60.0], [110.0, 60.0]])


def shelved():
    return edits.lend(project(), picture(120, 100), "other.png")


class Ranges(unittest.TestCase):
    def kept(self, give, read, cases):
        for value, wanted in cases:
            self.assertEqual(read(give(value)), wanted, value)

    def test_numbers_of_the_reference(self):
        made, lent = shelved()
        posed = lambda **v: edits.pose_lent(made, lent, **v).lent(lent).pose  # noqa: E731
        right = lambda **v: edits.set_correction(made, **v).correction  # noqa: E731
        seen = lambda **v: edits.set_seeing(made, **v).seeing  # noqa: E731
        lit = lambda **v: edits.set_light(made, Light(), **v).light  # noqa: E731
        for name, give, cases in (
            ("scale", posed, ((0.001, 0.02), (0.5, 0.5), (99, 50))),
            ("turn_deg", posed, ((190, -170), (-190, 170), (360, 0), (45.5, 45.5))),
            ("exposure", right, ((-9, -3), (1.234, 1.23), (9, 3))),
            ("lift", right, ((-1, 0), (0.5, 0.5), (2, 1))),
            ("radius_px", right, ((0.1, 0.5), (5000, 2000))),
            ("distance_m", seen, ((0, 0.3), (2.5, 2.5), (99, 30))),
            ("steps", seen, ((1, 2), (4, 3), (6, 5), (99, 7))),
            ("falloff", seen, ((-1, 0), (0.25, 0.25), (2, 1))),
            ("hour", lit, ((13.5, 1.5), (-1, 11), (12, 0))),
            ("height_deg", lit, ((-65, -60), (-5, -5), (30, 30), (95, 90))),
            ("warmth", lit, ((-2, -1), (0.5, 0.5), (2, 1))),
            ("hardness", lit, ((-2, 0), (0.5, 0.5), (2, 1))),
            ("sky", lit, ((-2, 0), (0.5, 0.5), (2, 1))),
            ("sky_hour", lit, ((14, 2), (3.5, 3.5))),
        ):
            for value, wanted in cases:
                self.assertAlmostEqual(getattr(give(**{name: value}), name), wanted, msg=f"{name} {value}")
        self.kept(
            lambda v: edits.change_lent(made, lent, soft_mm=v),
            lambda p: p.lent(lent).soft_mm,
            ((-1, 0), (99, 40), (3, 3)),
        )
        self.kept(lambda v: edits.set_spot_mm(made, v), lambda p: p.spot_mm, ((0, 0.2), (5, 5), (99, 50)))
        self.kept(
            lambda v: edits.set_grid(made, square_mm=v),
            lambda p: p.transfer.grid.square_mm,
            ((-1, 0), (25, 25), (1e9, 1000)),
        )

    def test_numbers_of_edges_lengths_and_features(self):
        made = project()
        zone, background = made.combs[0].zone, made.zones[0].id
        self.kept(
            lambda v: edits.set_edge(made, zone, background, "soft", v),
            lambda p: p.edges[-1].width_mm,
            ((0, 0.1), (5.234, 5.23), (99, 40)),
        )
        stretched, one = edits.add_stretch(made, zone, background, LINE, 99)
        self.assertEqual(stretched.stretches[0].width_mm, 40)
        self.kept(
            lambda v: edits.set_stretch(stretched, one, v),
            lambda p: p.stretches[0].width_mm,
            ((0, 0.1), (2, 2), (41, 40)),
        )
        fanned, fan = edits.add_fan(made, zone, LINE, LINE + (0, 20), 7)
        self.kept(lambda v: edits.set_fan_count(fanned, fan, v), lambda p: p.fans[0].count, ((1, 2), (9, 9), (99, 40)))
        self.kept(
            lambda v: edits.set_form(made, zone, kind="plane", turn_deg=v),
            lambda p: p.zone(zone).form.turn_deg,
            ((-1, 0), (33.3, 33.3), (89, 85)),
        )
        pawed, paw = edits.add_feature(made, "paw")
        self.kept(lambda v: edits.set_toes(pawed, paw, v), lambda p: p.feature(paw).toes, ((-1, 0), (4, 4), (9, 6)))

    def test_cuts_that_do_not_suit_the_values_are_dropped(self):
        made = edits.set_seeing(project(), steps=3, cuts=(70.0, 0.0))
        self.assertEqual(made.seeing.cuts, (1.0, 70.0))
        self.assertEqual(edits.set_seeing(made, steps=5).seeing.cuts, ())


class Refused(unittest.TestCase):
    def refused(self, words, call, *args, **how):
        with self.assertRaisesRegex(InputError, words):
            call(*args, **how)

    def test_what_cannot_be_says_what_to_do(self):
        made, lent = shelved()
        zone, background = made.combs[0].zone, made.zones[0].id
        for words, call, args, how in (
            ("on the shelf already", edits.lend, (made, picture(120, 100), "again.png"), {}),
            ("There is no role", edits.change_lent, (made, lent), {"role": "guess"}),
            ("three points", edits.cut_lent, (made, lent, LINE), {}),
            ("off the picture", edits.set_correction, (made,), {"grey": (200.0, 10.0)}),
            ("off the picture", edits.set_correction, (made,), {"grey": (10.0, -0.1)}),
            ("off the eye", edits.mark_catchlight, (made, Catchlight((10, 10), 5, (15, 10))), {}),
            ("two points apart", edits.set_axes, (made, Axes((10, 10), (11.9, 10), (11, 20))), {}),
            ("too short", edits.add_stretch, (made, zone, background, LINE[:1], 2.0), {}),
            ("There is no pass", edits.set_pass, (made, "varnish"), {"opacity": 0.5}),
            ("There is no school", edits.set_school, (made, "none"), {}),
            ("There is no setting", edits.set_way, (made, "none", "x"), {}),
            ("cannot be", edits.set_way, (made, "first", "tail"), {}),
            ("There is no form", edits.set_form, (made, zone), {"kind": "cube"}),
            ("too short", edits.set_form, (made, zone), {"line": ((10, 10), (11, 10))}),
            ("There is no feature", edits.add_feature, (made, "tail"), {}),
            ("There is no mark", edits.add_mark, (made, "tail"), {}),
            ("too small", edits.add_mark, (made, "crown"), {"points": LINE[:1]}),
        ):
            with self.subTest(words=words, call=call.__name__):
                self.refused(words, call, *args, **how)
        grey = edits.set_correction(made, grey=(199.9, 0.0)).correction.grey
        self.assertEqual(grey, (199.9, 0.0))

    def test_there_are_so_many_features_and_no_more(self):
        made = project()
        while len(made.features) < MOST_FEATURES:
            made, _ = edits.add_feature(made, "ear")
        self.assertEqual(len({one.name for one in made.features}), MOST_FEATURES)
        self.refused("Take one away", edits.add_feature, made, "ear")

    def test_strokes_of_a_feature_have_a_least_length_by_their_kind(self):
        made, nose = edits.add_feature(project(), "nose")
        part = next(p for p in FEATURES["nose"].parts if p.closed)
        ring = np.array([[60.0, 60], [65.9, 60], [65.9, 65.9]])
        self.refused("too short", edits.add_stroke, made, nose, part.key, ring[:2])
        self.assertEqual(len(edits.add_stroke(made, nose, part.key, 2 * ring).feature(nose).strokes), 1)
        self.refused("has no", edits.add_stroke, made, nose, "wing", ring)


class LeftAlone(unittest.TestCase):
    def test_what_is_not_there_changes_nothing(self):
        made = project()
        zone = made.combs[0].zone
        for changed in (
            edits.pose_lent(made, "r99", scale=2.0),
            edits.move_spot(made, 0, (1.0, 1.0)),
            edits.move_spot(edits.add_spot(made, (5.0, 5.0)), -1, (1.0, 1.0)),
            edits.set_coat(made, "z99", length_mm=3.0),
            edits.set_form(made, "z99", kind="ball"),
            edits.set_tract(made, "z99"),
            edits.draw_line(made, LINE[:1]),
            edits.rename(made, "  "),
            edits.move_point(made, zone, 4, (0.0, 0.0)),
            edits.move_point(made, zone, -1, (0.0, 0.0)),
            edits.remove_point(made, zone, 4),
            edits.smooth_zone(made, made.zones[0].id),
            edits.set_group_rank(made, "nobody", 0),
            edits.set_corners(made, ((0, 0), (9, 0), (9, 9), (0, 9))),
            edits.mark_drawn(made, "k", [LINE]),
        ):
            self.assertIn(changed, (made, edits.add_spot(made, (5.0, 5.0))))

    def test_a_triangle_keeps_its_points(self):
        made, zone = edits.add_zone(project(), "Three", "short-fur", SQUARE[:3])
        self.assertEqual(edits.remove_point(made, zone, 0), made)

    def test_a_catchlight_is_marked_once_an_eye(self):
        made = edits.mark_catchlight(project(), Catchlight((10, 10), 5, (12, 10)))
        made = edits.mark_catchlight(made, Catchlight((40, 10), 5, (42, 10)))
        made = edits.mark_catchlight(made, Catchlight((12, 10), 5, (13, 11)))
        self.assertEqual([one.centre for one in made.catchlights], [(40, 10), (12, 10)])

    def test_an_edge_is_decided_once_and_given_back_with_its_stretches(self):
        made = project()
        zone, eye, background = made.combs[0].zone, made.zones[2].id, made.zones[0].id
        made = edits.set_edge(made, zone, background, "soft", 5)
        made = edits.set_edge(made, zone, background, "hard", 0.4)
        made = edits.set_edge(made, eye, zone, "firm", 1)
        self.assertEqual([(e.front, e.grade) for e in made.edges], [(zone, "hard"), (eye, "firm")])
        made, _ = edits.add_stretch(made, zone, background, LINE, 3)
        made, kept = edits.add_stretch(made, eye, zone, LINE, 3)
        made = edits.clear_edge(made, zone, background)
        self.assertEqual([e.front for e in made.edges], [eye])
        self.assertEqual([s.id for s in made.stretches], [kept])

    def test_a_pass_is_moved_no_further_than_first_and_last(self):
        made = project()
        roles = list(made.roles)
        self.assertEqual(edits.move_pass(made, roles[0], 99).pass_order[-1], roles[0])
        self.assertEqual(edits.move_pass(made, roles[-1], -99).pass_order[0], roles[-1])
        self.assertEqual(edits.move_pass(made, roles[0], -1).pass_order, ())
        self.assertEqual(edits.move_pass(edits.move_pass(made, roles[2], 1), roles[2], -1), made)

    def test_what_was_noted_is_noted_once_a_pass(self):
        made = replace(project(), noted=(Logged("lights", "lights", 60.0, 50.0), Logged("darks", "darks", 9.0, 8.0)))
        self.assertEqual([one.role for one in edits.forget_log(made, "lights").noted], ["darks"])


if __name__ == "__main__":
    unittest.main()
