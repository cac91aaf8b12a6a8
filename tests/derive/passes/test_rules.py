"""Rules that need plan, marks and picture together: each is broken on purpose and named with measure and remedy."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.colour import rgb8_from_lab
from foxpath.core.reference.light import Light
from foxpath.derive import Results
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.frames import map_frame
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.rules import plan_findings
from foxpath.derive.passes.values import value_study
from foxpath.derive.passes.wetness import OVER_DRY, beneath_of, dry_neighbours
from foxpath.derive.rehearsal.finish import read_finish
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.softness import softness_of
from foxpath.derive.zones.shapes import mask_of
from foxpath.document import edits
from tests.derive.rehearsal.test_reading import LAB, project
from tests.remembered import remember

setUpModule = remember


def says(found):
    return " ".join(f.says for f in found)


class Plan(unittest.TestCase):
    def test_a_part_no_pass_covers_is_bare_canvas(self):
        one = project()
        for key in ("darks", "midtones", "undercoat", "restated", "lights", "highlights"):
            one = edits.set_pass(one, key, on=False)
        found = plan_findings(Results(), one)
        self.assertIn("No pass covers square.", says(found))
        self.assertEqual(found[0].level, "must")
        self.assertNotIn("No pass covers", says(plan_findings(Results(), project())))

    def test_whiskers_are_not_forgotten(self):
        from tests.document.edits.test_eyes import FOUND

        one, _ = edits.add_eye(project(), FOUND)
        self.assertNotIn("whiskers", says(plan_findings(Results(), one)).lower())
        one, nose = edits.add_feature(one, "nose")
        self.assertIn("No whiskers are planned.", says(plan_findings(Results(), one)))
        one, key = edits.add_feature(one, "whiskers")
        one = edits.add_stroke(one, key, "hair", np.array([[60.0, 70], [90, 75], [130, 90]]))
        self.assertNotIn("whiskers", says(plan_findings(Results(), one)).lower())
        self.assertIn("their pass is off", says(plan_findings(Results(), edits.set_pass(one, "whiskers", on=False))))
        self.assertTrue(nose)

    def test_a_soft_edge_against_what_was_painted_before_needs_it_wet(self):
        one = project()
        zone = one.zones[-1].id
        skin = replace(one, zones=tuple(replace(z, kind="skin") if z.id == zone else z for z in one.zones))
        soft = edits.set_edge(skin, zone, one.zones[0].id, "soft", 5.0)
        self.assertIn("needs a wet neighbour that will be dry", says(plan_findings(Results(), soft)))
        hard = edits.set_edge(skin, zone, one.zones[0].id, "hard", 0.4)
        self.assertNotIn("wet neighbour", says(plan_findings(Results(), hard)))
        # In one wet sitting nothing dries between; acrylic dries whatever is asked of it.
        self.assertNotIn("wet neighbour", says(plan_findings(Results(), edits.set_school(soft, "one-sitting"))))
        self.assertIn("wet neighbour", says(plan_findings(Results(), edits.set_school(soft, "acrylic-layers"))))
        strip = edits.set_way(soft, "edges", "strip")
        self.assertNotIn("wet neighbour", says(plan_findings(Results(), strip)))

    def test_what_is_dragged_over_the_dry_comes_out_firmer(self):
        one = project()
        zone, behind = one.zones[1].id, one.zones[0].id
        skin = replace(one, zones=tuple(replace(z, kind="skin") if z.id == zone else z for z in one.zones))
        soft = edits.set_edge(skin, zone, behind, "soft", 10.0)
        widths, cards = {}, {}
        for side in ("strip", "dry"):
            made, results = edits.set_way(soft, "edges", side), Results()
            done = rehearse(results, made, 500)
            edges = edges_of(results, made)
            (border,) = (b for b, _ in edges if b.back >= 0)
            blur = softness_of(results, made)[1]
            widths[side] = float(blur.max())
            self.assertEqual([b.front for b in dry_neighbours(results, made)], [border.front])
            undercoat = next(o.plan for o in done if o.plan.role.key == "undercoat")
            cards[side] = " ".join(pass_cards(results, made, undercoat))
        self.assertAlmostEqual(widths["dry"] / widths["strip"], OVER_DRY, delta=0.03)
        self.assertIn("repainted wet first", cards["strip"])
        self.assertIn("over the dry", cards["dry"])


class LateBackground(unittest.TestCase):
    """A background that is painted after the animal is cut in round it, and says what has to be done again."""

    def test_it_is_said_with_what_to_do_again_and_leaves_the_animal_alone(self):
        one, results = project(), Results()
        self.assertNotIn("after the animal", says(plan_findings(results, one)))
        late = edits.move_pass(one, "background", 5)
        found = [f for f in plan_findings(results, late) if "after the animal" in f.says]
        self.assertEqual(len(found), 1)
        self.assertIn("to cut in round", found[0].why)
        self.assertIn("then hairs over 1 edge", found[0].why)
        (border,) = (b for b, _ in edges_of(results, late) if b.back >= 0)
        self.assertEqual(beneath_of(results, late, border), "later")
        self.assertEqual(beneath_of(results, one, border), "dry")
        wet = edits.set_school(one, "one-sitting")
        self.assertEqual(beneath_of(results, wet, border), "wet")

    def test_what_stands_is_not_painted_over(self):
        late, results = edits.move_pass(project(), "background", 5), Results()
        done = rehearse(results, late, 500)
        at = next(k for k, one in enumerate(done) if one.plan.role.act == "background")
        before, after = (done[k].standing.shown.astype(int) for k in (at - 1, at))
        mask = mask_of(results, late, 1, map_frame(late))
        deep = cv2.erode(cv2.resize(mask.astype(np.uint8), before.shape[1::-1]), np.ones((25, 25), np.uint8)) > 0
        self.assertGreater(deep.sum(), 500)
        np.testing.assert_array_equal(before[deep], after[deep])
        self.assertGreater(np.abs(before - after)[~deep].mean(), 3)


class Finish(unittest.TestCase):
    def test_darks_that_are_lost_between_hairs_are_named(self):
        rng = np.random.default_rng(3)
        lab = LAB.copy()
        lab[30:90, 40:120, 0] = np.where(rng.random((60, 80)) < 0.2, 12, 40)
        one = project()
        from tests.made import as_levels

        one = edits.new_project(_png(as_levels(rgb8_from_lab(lab))), "hair.png", one.canvas)
        one, zone = edits.add_zone(
            one, "Coat", "long-fur", np.array([[40.0, 30], [80, 30], [120, 30], [120, 90], [80, 90], [40, 90]])
        )
        one, _ = edits.add_comb(one, np.array([[50.0, 60], [110, 60]]), zone)
        kept = read_finish(Results(), one, rgb8_from_lab(lab))
        self.assertNotIn("darks between", says(kept.findings))
        flat = lab.copy()
        flat[30:90, 40:120, 0] = 38
        lost = read_finish(Results(), one, rgb8_from_lab(flat))
        self.assertIn("The darks between the hairs are lost in coat.", says(lost.findings))
        self.assertGreater(float(np.nanmax(kept.painted.detail)), 2 * float(np.nanmax(lost.painted.detail)))

    def test_the_study_takes_the_light_as_it_was_said(self):
        one = replace(project(), light=Light(hour=3.0))
        study = value_study(Results(), one)
        self.assertEqual(study.light_hour, 3.0)
        self.assertEqual(set(study.zones), {z.id for z in one.zones})
        self.assertLess(study.dark.light, study.light.light)
        self.assertIsNone(value_study(Results(), project()).light_hour)


def _png(rgb):
    import io

    from PIL import Image

    buffer = io.BytesIO()
    Image.fromarray(rgb).save(buffer, "PNG")
    return buffer.getvalue()


if __name__ == "__main__":
    unittest.main()
