import unittest

import numpy as np

from foxpath.core.units import CanvasSize
from foxpath.derive import Results
from foxpath.derive.book import plan_record
from foxpath.derive.passes.laying import laying_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.subjects import findings
from foxpath.document import edits
from tests.made import picture
from tests.remembered import remember

setUpModule = remember


def rectangle(left, right):
    corners = [[left, 30], [right, 30], [right, 130], [left, 130]]
    return np.concatenate(
        [np.linspace(a, b, 6, endpoint=False) for a, b in zip(corners, corners[1:] + corners[:1], strict=True)]
    )


class Laying(unittest.TestCase):
    """Two coats side by side, the right one in front."""

    def plan(self, *rows):
        """Comb both coats at a height, each to the left (-1) or to the right (1): (y, left coat, right coat)."""
        made = edits.new_project(picture(), "blob.png", CanvasSize(250, 200), "Pair")
        made, left = edits.add_zone(made, "Left", "short-fur", rectangle(30, 100))
        made, right = edits.add_zone(made, "Right", "short-fur", rectangle(100, 170))
        for y, *ways in rows:
            for zone, (a, b), way in zip((left, right), ((40, 90), (110, 160)), ways, strict=True):
                made, _ = edits.add_comb(made, np.array([[a, y], [b, y]], float)[::way], zone)
        return made

    def order(self, project):
        zones = project.back_to_front()
        return [zones[k].name for k in laying_of(Results(), project).order if not zones[k].whole]

    def test_tips_decide_against_depth(self):
        self.assertEqual(self.order(self.plan()), ["Left", "Right"])
        over = self.plan((50, 1, 1), (80, 1, 1), (110, 1, 1))
        self.assertEqual(self.order(over), ["Right", "Left"])
        under = self.plan((50, -1, -1), (80, -1, -1), (110, -1, -1))
        self.assertEqual(self.order(under), ["Left", "Right"])

    def test_passes_follow_and_the_plan_says_so(self):
        over = self.plan((50, 1, 1), (80, 1, 1), (110, 1, 1))
        zones = over.back_to_front()
        names = [[zones[k].name for k in plan.zones] for plan in passes_of(Results(), over)]
        both = [one for one in names if {"Left", "Right"} <= set(one)]
        self.assertTrue(both)
        for one in both:
            self.assertLess(one.index("Right"), one.index("Left"))
        record = plan_record(Results(), over, [])
        self.assertLess(record["laying_order"].index("Right"), record["laying_order"].index("Left"))

    def test_a_hand_begins_on_its_far_side_where_nothing_lies_over_another(self):
        apart = edits.new_project(picture(), "blob.png", CanvasSize(250, 200), "Pair")
        for name, left in (("Middle", 75), ("Left", 20), ("Right", 130)):
            apart, _ = edits.add_zone(apart, name, "short-fur", rectangle(left, left + 40))
        self.assertEqual(self.order(apart), ["Middle", "Left", "Right"])
        self.assertEqual(self.order(edits.set_focal_order(apart, "right")), ["Left", "Middle", "Right"])
        self.assertEqual(self.order(edits.set_focal_order(apart, "left")), ["Right", "Middle", "Left"])

    def test_one_above_another_is_painted_first_by_either_hand(self):
        made = edits.new_project(picture(), "blob.png", CanvasSize(250, 200), "Pair")
        for name, top in (("Low", 100), ("High", 20)):
            box = np.array([[60.0, top], [110, top], [110, top + 40], [60, top + 40]])
            made, _ = edits.add_zone(made, name, "short-fur", box)
        for hand in ("right", "left"):
            self.assertEqual(self.order(edits.set_focal_order(made, hand)), ["High", "Low"])

    def test_what_lies_over_another_comes_after_it_whatever_the_hand(self):
        over = self.plan((50, 1, 1), (80, 1, 1), (110, 1, 1))
        self.assertEqual(self.order(edits.set_focal_order(over, "right")), ["Right", "Left"])

    def test_each_over_the_other_is_found_with_its_place(self):
        mixed = self.plan(*((y, 1, 1) for y in (35, 45, 55, 65)), *((y, -1, -1) for y in (95, 105, 115, 125)))
        (found,) = [one for one in findings(Results(), mixed) if "lies over" in one.says]
        self.assertRegex(found.says, r"^Right lies over left, and under it at the top\.$")
        self.assertRegex(found.why, r"^\d+ of \d+ mm of their border")
        calm = self.plan((50, 1, 1), (80, 1, 1), (110, 1, 1))
        self.assertEqual([one for one in findings(Results(), calm) if "lies over" in one.says], [])
