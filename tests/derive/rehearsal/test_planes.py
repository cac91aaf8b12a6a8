"""A background in three passes, and markings that give way to their coat."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.core.passes import check_passes
from foxpath.core.passes.ways import BACK_LIGHTS, FORMS
from foxpath.derive import Results
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.pictures import picture_key, working_picture
from foxpath.derive.rehearsal.marks import marks_of
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Planes(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.results = Results()
        cls.made = edits.set_way(project(), "planes", "three")
        cls.plans = {plan.role.key: plan for plan in passes_of(cls.results, cls.made)}

    def marks(self, key, made=None):
        made = made if made is not None else self.made
        plan = next(p for p in passes_of(self.results, made) if p.role.key == key)
        return marks_of(self.results, made, plan, 0)[1]

    def test_flat_then_forms_then_lights_one_right_after_the_other(self):
        keys = list(self.plans)
        at = keys.index("background")
        self.assertEqual(keys[at : at + 3], ["background", FORMS, BACK_LIGHTS])
        self.assertEqual(check_passes(tuple(self.plans.values())), [])

    def test_each_is_laid_with_a_smaller_brush(self):
        widths = [float(np.median(self.marks(key).half_mm)) for key in ("background", FORMS, BACK_LIGHTS)]
        self.assertGreater(widths[0], 2 * widths[1])
        self.assertGreater(widths[1], widths[2])

    def test_laid_in_flat_it_has_no_small_strokes_which_in_one_it_has(self):
        flat, one = self.marks("background"), self.marks("background", edits.set_way(self.made, "planes", "one"))
        broad = float(np.median(flat.half_mm))
        self.assertGreater(float((one.half_mm < 0.5 * broad).mean()), 0.5)
        self.assertLess(float((flat.half_mm < 0.5 * broad).mean()), 0.1)
        self.assertGreater(len(one.half_mm), 2 * len(flat.half_mm))

    def test_lights_lie_on_the_lightest_of_it_alone(self):
        lights, forms = self.marks(BACK_LIGHTS), self.marks(FORMS)
        self.assertGreater(float(lights.lightness.min()), float(np.median(forms.lightness)))
        self.assertIn("only on 22 % of it", " ".join(pass_cards(self.results, self.made, self.plans[BACK_LIGHTS])))

    def test_begun_with_it_stays_together(self):
        keys = [p.role.key for p in passes_of(self.results, edits.set_way(self.made, "first", "background"))]
        self.assertEqual(keys[1:4], ["background", FORMS, BACK_LIGHTS])


class GivesWay(unittest.TestCase):
    BAR = np.array([[60.0, 82.0], [110.0, 82.0], [110.0, 94.0], [60.0, 94.0]])

    def setUp(self):
        self.results = Results()
        made, self.bar = edits.add_zone(project(), "Bar", "marking", self.BAR)
        self.hard = made
        self.soft = edits.soften_marking(made, self.bar, 12.0)

    def lab(self, made):
        return lab_from_rgb8(np.ascontiguousarray(working_picture(self.results, made).rgb))

    def test_the_picture_changes_about_its_border_and_nowhere_else(self):
        off = np.abs(self.lab(self.soft) - self.lab(self.hard)).sum(axis=-1)
        self.assertGreater(float(off[78:86, 65:105].mean()), 0.05)
        self.assertEqual(float(off[:60].max()), 0)
        self.assertEqual(float(off[120:].max()), 0)
        self.assertNotEqual(picture_key(self.results, self.soft), picture_key(self.results, self.hard))

    def test_what_stands_beside_the_coat_stays_as_it_is(self):
        near_eye, bar = edits.add_zone(self.hard, "Bar by the eye", "marking", self.BAR - (0, 14))
        off = np.abs(self.lab(edits.soften_marking(near_eye, bar, 12.0)) - self.lab(near_eye)).sum(axis=-1)
        self.assertEqual(float(off[64:72, 74:86].max()), 0)
        self.assertGreater(float(off.max()), 0)

    def test_its_coat_s_card_says_so(self):
        plan = next(p for p in passes_of(self.results, self.soft) if p.role.key == "lights")
        self.assertIn("bar gives way over 12 mm", " ".join(pass_cards(self.results, self.soft, plan)))
        self.assertNotIn("gives way", " ".join(pass_cards(self.results, self.hard, plan)))


class OfAPart(unittest.TestCase):
    def test_a_part_is_painted_with_its_own_numbers_and_the_others_as_before(self):
        results, made = Results(), project()
        zone = next(z.id for z in made.zones if z.name == "Square")
        own = edits.set_part(made, "lights", zone, coverage=0.5, l_high=50.0, ceiling=50.0)
        plan = [next(p for p in passes_of(results, m) if p.role.key == "lights") for m in (made, own)]
        square = next(k for k, z in enumerate(made.back_to_front()) if z.id == zone)
        before, after = (marks_of(results, m, p, square)[1] for m, p in zip((made, own), plan, strict=True))
        self.assertLess(len(after.half_mm), 0.2 * len(before.half_mm))
        self.assertLessEqual(float(after.lightness.max()), 50.01)
        eye = next(k for k, z in enumerate(made.back_to_front()) if z.name == "Eye")
        self.assertEqual(marks_of(results, made, plan[0], eye)[0], marks_of(results, own, plan[1], eye)[0])
