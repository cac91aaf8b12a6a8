"""What follows from marked eyes: marks in the passes, findings, twins, light, and the checked drawing."""

import io
import unittest
from dataclasses import replace

import numpy as np
from PIL import Image

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.eyes import Ellipse, Extent, FoundEye
from foxpath.core.lengths import Brush
from foxpath.core.passes import ROLES
from foxpath.core.reporting import SILENT
from foxpath.core.units import CanvasSize
from foxpath.derive import Memo, Results
from foxpath.derive.book import plan_record
from foxpath.derive.eyes.drawing import check_drawing, targets
from foxpath.derive.eyes.homes import EYE_ROLES
from foxpath.derive.eyes.reading import extent_of, eye_plan, eyes_reading
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.passes.schools import compare_schools
from foxpath.derive.reference.inspection import all_catchlights
from foxpath.derive.rehearsal.painting import groups_of, rehearse
from foxpath.derive.subjects import findings
from foxpath.document import edits
from tests.drawings import draw, moved
from tests.eyes import Made
from tests.remembered import remember

setUpModule = remember

MADE = Made(cx=120, cy=110, r=40, hour=10.5)
_DATA = []


def project(canvas_mm=120.0):
    """A painting of one made eye, marked as it was made, in a zone as its lids leave it open."""
    if not _DATA:
        buffer = io.BytesIO()
        Image.fromarray(MADE.draw()).save(buffer, "PNG")
        _DATA.append(buffer.getvalue())
    made = edits.new_project(_DATA[0], "eye.png", CanvasSize(canvas_mm, canvas_mm * 220 / 240), "Eye")
    u = np.linspace(-1.5, 1.5, 13)
    top, low = MADE.lids(u)
    keep = top < low
    outline = np.vstack([np.stack([u, top], 1)[keep], np.stack([u, low], 1)[keep][::-1]]) * MADE.r + (MADE.cx, MADE.cy)
    made, _ = edits.add_zone(made, "Eye", "eye", outline)
    found = FoundEye(
        Ellipse(MADE.cx, MADE.cy, 40, 40), MADE.pupil_ellipse(), "round", (MADE.light_at(),), (), (), 1.0, 0, ()
    )
    return edits.add_eye(made, found)


class Heads(unittest.TestCase):
    """Several animals: a third eye takes no check away."""

    @staticmethod
    def herd(*places):
        made, _ = project()
        made = replace(made, eyes=(), zones=made.zones[:1])
        for x, y, r in places:
            iris = Ellipse(x, y, r, r)
            made, _ = edits.add_eye(made, FoundEye(iris, Ellipse(x, y, r / 3, r / 3), "round", (), (), (), 1.0, 0, ()))
        return made

    def test_the_pairs_checks_stay_when_a_third_eye_is_marked(self):
        two = eyes_reading(Results(), self.herd((60, 90, 12), (120, 96, 12)))
        three = eyes_reading(Results(), self.herd((60, 90, 12), (120, 96, 12), (225, 30, 4)))
        of_pair = {c.key for c in two.checks if c.key in {"line", "size"}}
        self.assertEqual(of_pair, {"line", "size"})
        self.assertLessEqual(of_pair, {c.key for c in three.checks})
        self.assertEqual(len(three.frames), 2)
        self.assertEqual(sum(c.key == "round" for c in three.checks), 3)

    def test_each_head_has_a_frame_of_its_own(self):
        four = eyes_reading(Results(), self.herd((30, 60, 8), (70, 60, 8), (150, 120, 8), (185, 140, 8)))
        tilts = {round(frame.tilt_deg) for frame in four.frames.values()}
        self.assertEqual(tilts, {0, 30})
        self.assertEqual(len(four.frames), 4)

    def test_what_the_photograph_shows_is_a_fact_unless_it_is_idealised(self):
        oval = self.herd((60, 90, 20), (150, 90, 20))
        squashed = replace(oval.eyes[0], iris=replace(oval.eyes[0].iris, ry=13.0))
        oval = replace(oval, eyes=(squashed, oval.eyes[1]))
        fact = next(c for c in eyes_reading(Results(), oval).checks if c.key == "round" and c.subject == squashed.id)
        self.assertEqual(fact.level, "note")
        self.assertIn("it stands so in the photograph", fact.why)
        ideal = eyes_reading(Results(), edits.set_way(oval, "likeness", "ideal"))
        fault = next(c for c in ideal.checks if c.key == "round" and c.subject == squashed.id)
        self.assertEqual(fault.level, "look")
        self.assertNotIn("photograph: keep", fault.why)


class Extents(unittest.TestCase):
    def test_an_eye_is_judged_against_the_animals_shorter_side_or_the_picture(self):
        one, _ = project()
        self.assertEqual(extent_of(one), Extent.of_picture(220.0))
        face = np.array([[30.0, 40], [200, 40], [200, 170], [30, 170]])
        headed, _ = edits.add_zone(one, "Head", "short-fur", face)
        found = extent_of(headed)
        self.assertEqual(found.of, "the animal")
        # The smooth outline bulges a little over its points.
        self.assertAlmostEqual(found.px, np.ptp(headed.zones[-1].shape.outline(), axis=0).min())
        self.assertLess(found.px, 170)
        # One that runs off the picture both ways may be any size.
        all_over, _ = edits.add_zone(one, "Head", "short-fur", np.array([[0.0, 0], [240, 0], [240, 220], [0, 220]]))
        self.assertEqual(extent_of(all_over).of, "the picture")
        self.assertTrue(any("much for an eye" in one.says for one in findings(Results(), headed)))
        self.assertFalse(any("much for an eye" in one.says for one in findings(Results(), all_over)))


class Rehearsing(unittest.TestCase):
    def test_the_eye_is_painted_by_its_own_steps(self):
        """Pupil dark, catchlight light and where it is planned; the same seed the same bytes."""
        one, key = project()
        results = Results()
        done = rehearse(results, one, 480)
        plan = eye_plan(results, one, one.eye(key))
        lab = lab_from_rgb8(done[-1].standing.shown)
        x, y = ((np.array(plan.lights.at) - (one.crop.x, one.crop.y)) * 480 / one.crop.width).astype(int)
        self.assertGreater(lab[y, x, 0], 88)
        x, y = ((np.array((MADE.cx + 4, MADE.cy + 6)) - (one.crop.x, one.crop.y)) * 480 / one.crop.width).astype(int)
        self.assertLess(lab[y, x, 0], 16)
        self.assertTrue((rehearse(Results(Memo()), one, 480)[-1].standing.shown == done[-1].standing.shown).all())

    def test_its_time_is_that_of_its_steps_whenever_they_are_painted(self):
        one, key = project()
        for made, acts in ((one, EYE_ROLES), (edits.set_way(one, "first", "eyes"), ("eyes",))):
            results = Results()
            steps = [step for step in eye_plan(results, made, made.eye(key)).steps if step.painted]
            zone = next(k for k, z in enumerate(made.back_to_front()) if z.kind == "eye")
            plans = [plan for plan in passes_of(results, made) if plan.role.act in acts and zone in plan.zones]
            taken = sum(plan.estimates[zone].minutes for plan in plans)
            self.assertAlmostEqual(taken, sum(step.minutes for step in steps))
            for plan in plans:
                self.assertAlmostEqual(plan.minutes, 10 + sum(part.minutes for part in plan.estimates.values()))
            usual = next(s for s in compare_schools(results, made) if s.school.key == made.recipe.key)
            self.assertAlmostEqual(usual.minutes, sum(plan.minutes for plan in passes_of(results, made)))
            card = next(c for plan in plans for c in pass_cards(results, made, plan) if "in this order" in c)
            self.assertIn("min.", card)

    def test_marks_keep_within_the_values_of_their_pass(self):
        one, _ = project()
        results = Results()
        for plan in passes_of(results, one):
            if plan.role.key in EYE_ROLES:
                for _, marks in groups_of(results, one, plan, SILENT):
                    if len(marks.lightness):
                        self.assertGreaterEqual(float(marks.lightness.min()), plan.l_low - 0.01)
                        self.assertLessEqual(float(marks.lightness.max()), plan.ceiling + 0.01)

    def test_drawn_whiskers_take_the_place_of_scattered_ones(self):
        one, _ = project()
        one, key = edits.add_feature(one, "whiskers")
        for k in range(3):
            one = edits.add_stroke(
                one, key, "hair", np.array([[60.0, 150 + 6 * k], [120, 160 + 6 * k], [200, 190 + 6 * k]])
            )
        results = Results()
        plan = next(p for p in passes_of(results, one) if p.role.key == "whiskers")
        groups = [m for _, m in groups_of(results, one, plan, SILENT) if len(m.half_mm)]
        self.assertEqual([(m.hair, len(m.half_mm)) for m in groups], [(False, 1), (True, 1)] * 3)


class Saying(unittest.TestCase):
    def test_faults_come_as_findings_and_numbers_go_into_the_plan(self):
        one, key = project()
        one = replace(one, kit=(Brush("round", 6),))
        results = Results()
        said = [f for f in findings(results, one) if f.where == "eyes"]
        self.assertTrue(any("small for" in f.says for f in said))
        record = plan_record(results, one, [])["eyes"][0]
        self.assertAlmostEqual(record["iris_mm"][0], 80 * one.mm_per_px, places=1)
        self.assertTrue(any(step["left_out"] for step in record["steps"]))
        doubtful = edits.change_eye(one, key, found=0.3)
        self.assertTrue(any("with doubt" in f.says for f in findings(results, doubtful)))

    def test_catchlights_of_marked_eyes_tell_of_the_light(self):
        one, _ = project()
        (light,) = all_catchlights(one)
        self.assertEqual(light.spot, one.eyes[0].lights[0])
        self.assertEqual(len(all_catchlights(replace(one, catchlights=(light,)))), 1)

    def test_reading_an_eye_again_is_remembered(self):
        one, key = project()
        results = Results()
        self.assertIs(eye_plan(results, one, one.eye(key)), eye_plan(results, one, one.eye(key)))
        other = edits.set_light_plan(one, key, hour=2.0)
        self.assertIsNot(eye_plan(results, one, one.eye(key)), eye_plan(results, other, other.eye(key)))


class Drawing(unittest.TestCase):
    def test_a_scan_of_the_drawing_says_what_to_move(self):
        one, key = project(200.0)
        (target, *_) = targets(one)
        lines = [moved(line, target.middle(), right=2.0, down=-3.0) for line in target.lines_mm]
        buffer = io.BytesIO()
        Image.fromarray(draw(lines, 200, 200 * 220 / 240)).save(buffer, "PNG")
        checked = check_drawing(Results(), edits.set_drawing(one, buffer.getvalue(), "scan.png"))
        first = checked.verdicts[0]
        self.assertEqual(first.shift.key, key)
        self.assertAlmostEqual(first.shift.right_mm, 2, delta=0.4)
        self.assertAlmostEqual(first.shift.down_mm, -3, delta=0.4)
        self.assertIn("mm too high", first.says)

    def test_without_drawing_or_marks_it_says_what_to_do(self):
        from foxpath.core.errors import InputError

        one, key = project()
        with self.assertRaises(InputError):
            check_drawing(Results(), one)
        bare = edits.set_drawing(edits.remove_eye(one, key), _DATA[0], "scan.png")
        with self.assertRaises(InputError):
            check_drawing(Results(), bare)
        self.assertIn("undercoat", ROLES)


if __name__ == "__main__":
    unittest.main()
