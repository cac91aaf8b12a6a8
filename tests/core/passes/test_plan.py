import unittest

import numpy as np

from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import prior_field
from foxpath.core.passes import ACTS, ROLES, PassEdit, ZoneFacts, check_passes, plan_passes
from foxpath.core.zones import KINDS

ZONES = [
    ZoneFacts(KINDS["background"], KINDS["background"].coat, 1200, 160),
    ZoneFacts(KINDS["long-fur"], KINDS["long-fur"].coat, 500, 100),
    ZoneFacts(KINDS["eye"], KINDS["eye"].coat, 5, 16),
    ZoneFacts(KINDS["whisker"], KINDS["whisker"].coat, 4, 12),
]


def plan(edits=None, order=()):
    return plan_passes(ZONES, 500, edits or {}, order)


class Planning(unittest.TestCase):
    def test_darks_before_midtones_before_lights(self):
        plans = plan()
        self.assertEqual([p.role.key for p in plans], list(ROLES))
        ceilings = [
            p.ceiling for p in plans if p.role.key in ("darks", "midtones", "undercoat", "lights", "highlights")
        ]
        self.assertEqual(ceilings, sorted(ceilings))
        self.assertFalse(check_passes(plans))

    def test_largest_brush_that_fits(self):
        by_role = {p.role.key: p for p in plan()}
        self.assertGreater(by_role["darks"].brush_mm, by_role["undercoat"].brush_mm)
        self.assertGreater(by_role["undercoat"].brush_mm, by_role["highlights"].brush_mm)
        eye = by_role["darks"].mark_of(2, ZONES[2])
        self.assertLess(eye.width_mm, ZONES[2].inscribed_mm)

    def test_whiskers_only_in_their_pass(self):
        by_role = {p.role.key: p for p in plan()}
        self.assertEqual(by_role["whiskers"].zones, (3,))
        self.assertNotIn(3, by_role["lights"].zones)
        self.assertNotIn(0, by_role["lights"].zones)

    def test_edits_and_order(self):
        plans = plan({"lights": PassEdit(l_high=70, coverage=99, on=False)}, ["lights", "nonsense", "ground"])
        self.assertEqual([p.role.key for p in plans][:2], ["lights", "ground"])
        lights = plans[0]
        self.assertEqual((lights.l_high, lights.coverage, lights.on), (70, 8, False))
        self.assertEqual(set(lights.edit.decided()), {"on", "l_high", "coverage"})

    def test_no_zones_no_passes(self):
        self.assertEqual(plan_passes([], 500, {}), ())


class Rules(unittest.TestCase):
    def levels(self, **edits):
        order = edits.pop("order", ())
        return [(f.level, f.subject) for f in check_passes(plan({k: PassEdit(**v) for k, v in edits.items()}, order))]

    def test_each_rule_speaks(self):
        self.assertIn(("must", "darks"), self.levels(darks={"l_low": 40}))
        self.assertIn(("must", "lights"), self.levels(lights={"ceiling": 50}))
        self.assertIn(("look", "undercoat"), self.levels(undercoat={"coverage": 0}))
        self.assertIn(("look", "lights"), self.levels(lights={"l_high": 96, "ceiling": 97}))
        self.assertIn(("must", "ground"), self.levels(order=["whiskers", "ground"]))
        self.assertEqual(self.levels(darks={"l_low": 40, "on": False}), [])


class Recipes(unittest.TestCase):
    """What each kind brings: the passes it is painted in, and which way it grows until somebody says."""

    def test_every_kind_has_its_passes(self):
        for kind in KINDS.values():
            self.assertTrue(set(kind.passes) <= set(ACTS), kind.key)
        self.assertEqual(KINDS["marking"].passes, ())
        self.assertNotIn("lights", KINDS["background"].passes)
        self.assertIn("undercoat", KINDS["covert"].passes)

    def test_feathers_grow_back_from_the_head_and_grass_up(self):
        frame = Frame.over(Crop(0, 0, 200, 100), 1.0, 100)
        eye = np.array([[20.0, 40.0]])
        away, back, up = (prior_field(frame, eye, prior) for prior in ("away", "back", "up"))
        np.testing.assert_allclose(up[..., 1], -1)
        self.assertGreater(back[25, 90, 0], 0.8)
        self.assertLess(away[25, 90, 0], back[25, 90, 0])
