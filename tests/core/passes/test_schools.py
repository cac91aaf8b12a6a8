"""Schools of painting: the recipes that ship, recipes of one's own, and what they do to the plan."""

import copy
import json
import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.colour import lab_from_linear, linear_from_rgb
from foxpath.core.errors import InputError
from foxpath.core.passes import ROLES, ZoneFacts, check_passes, plan_passes, schools
from foxpath.core.passes.schools import school_to_fields, schools_from_record, schools_to_record
from foxpath.core.rehearsal.marks import no_marks, painted
from foxpath.core.zones import KINDS

ZONES = [ZoneFacts(KINDS[kind], KINDS[kind].coat, area, 60) for kind, area in (("background", 900), ("long-fur", 600))]
ZONES.append(ZoneFacts(KINDS["whisker"], KINDS["whisker"].coat, 4, 12))


class Shipped(unittest.TestCase):
    def test_the_usual_school_is_layered_oil_itself(self):
        self.assertEqual(schools()["layered-oil"].roles, tuple(replace(r, acts=r.key) for r in ROLES.values()))

    def test_every_school_paints_a_coat_without_breaking_its_own_rules(self):
        self.assertEqual(len(schools()), 6)
        for school in schools().values():
            with self.subTest(school.key):
                plans = plan_passes(ZONES, 600, {}, roles=school.by_key())
                self.assertEqual([p.role.key for p in plans], [role.key for role in school.roles])
                self.assertEqual([f.says for f in check_passes(plans) if f.level == "must"], [])
                self.assertTrue(school.reason)
                painted = {zone for p in plans for zone in p.zones if p.marks}
                self.assertEqual(painted, {0, 1, 2})

    def test_they_differ_in_what_must_dry(self):
        waits = {key: school.waits() for key, school in schools().items()}
        self.assertLess(waits["one-sitting"], waits["acrylic-under"] + 1)
        self.assertEqual(waits["acrylic-layers"], 0)
        self.assertGreater(waits["layered-oil"], waits["acrylic-under"])


class OfOnesOwn(unittest.TestCase):
    def setUp(self):
        self.record = json.loads(json.dumps(schools_to_record([schools()["white-hair"]])))

    def test_a_saved_recipe_reads_back_the_same(self):
        self.assertEqual(schools_from_record(self.record, "r.json"), [schools()["white-hair"]])

    def test_a_pass_takes_what_it_does_not_say_from_what_it_acts_as(self):
        one = {
            "key": "mine",
            "name": "Mine",
            "passes": [{"key": "veil", "acts": "lights", "opacity": 0.3, "tint": 1.2}],
        }
        (school,) = schools_from_record({"format": "foxpath-schools", "schools": [one]}, "r.json")
        (veil,) = school.roles
        self.assertEqual((veil.act, veil.opacity, veil.band), ("lights", 0.3, ROLES["lights"].band))
        self.assertEqual(school_to_fields(school)["passes"][0]["tint"], 1.2)

    def test_what_is_no_recipe_is_refused_by_name(self):
        for field, value in (
            ("acts", "varnish"), ("acts", ["lights"]), ("band", [90, 10]), ("band", [1]), ("opacity", 0), ("opacity", float("nan")),
            ("coverage", True), ("beneath", "damp"), ("paint", {}), ("key", ""), ("key", 5), ("name", " "), ("block_in", 1),
        ):  # fmt: skip
            broken = copy.deepcopy(self.record)
            broken["schools"][0]["passes"][3][field] = value
            with self.subTest(field=field, value=value), self.assertRaises(InputError) as caught:
                schools_from_record(broken, "r.json")
            self.assertIn("r.json", str(caught.exception))
        for change in (
            {"passes": []},
            {"passes": [{"key": "darks"}] * 2},
            {"passes": [{"key": "darks"}] * 99},
            {"name": 7},
        ):
            broken = copy.deepcopy(self.record)
            broken["schools"][0].update(change)
            with self.subTest(str(change)[:40]), self.assertRaises(InputError):
                schools_from_record(broken, "r.json")
        for broken in ([], {"format": "else", "schools": []}, {"format": "foxpath-schools", "schools": 5}):
            with self.assertRaises(InputError):
                schools_from_record(broken, "r.json")


class Rules(unittest.TestCase):
    def test_thin_paint_over_thick_is_said(self):
        fields = school_to_fields(schools()["layered-oil"])
        for one in fields["passes"]:
            one["thickness"] = {"undercoat": 0.9, "lights": 0.2}.get(one["key"], one["thickness"])
        (school,) = schools_from_record({"format": "foxpath-schools", "schools": [fields]}, "r.json")
        said = [f.says for f in check_passes(plan_passes(ZONES, 600, {}, roles=school.by_key()))]
        self.assertTrue(any("thin" in one.lower() for one in said), said)
        usual = [f.says for f in check_passes(plan_passes(ZONES, 600, {}))]
        self.assertFalse(any("thin" in one.lower() for one in usual), usual)


class Tints(unittest.TestCase):
    def test_a_tint_changes_strength_and_keeps_the_value(self):
        colour = np.array([[0.7, 0.42, 0.25]], np.float32)
        marks = replace(no_marks(block_in=False), colour=colour, half_mm=np.ones(1, np.float32))
        before = lab_from_linear(linear_from_rgb(colour))[0]
        for tint in (0.0, 0.5, 1.2):
            after = lab_from_linear(linear_from_rgb(painted(marks, replace(ROLES["lights"], tint=tint)).colour))[0]
            self.assertAlmostEqual(float(after[0]), float(before[0]), delta=0.3)
            self.assertAlmostEqual(float(np.hypot(*after[1:])), tint * float(np.hypot(*before[1:])), delta=1.0)
