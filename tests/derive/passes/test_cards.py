"""What a card is made from: steps of eyes and features, places, values, borders; on the demo fox, and on parts made by hand."""

import unittest
from dataclasses import replace

import numpy as np

from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.passes.cards import _EDGE_ROLES, _edges, _lights, _more, _other, _way, card_facts, pass_cards
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.zones.shapes import zone_index
from foxpath.document import edits
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class OfTheFox(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.fox, cls.results = demo_project("fox"), Results()
        cls.plans = {plan.role.key: plan for plan in passes_of(cls.results, cls.fox)}

    def index(self, name):
        return zone_index(self.fox, next(zone.id for zone in self.fox.zones if zone.name == name))

    def more(self, role, name):
        return _more(self.results, self.fox, self.plans[role], self.index(name))

    def test_an_eye_is_painted_in_the_steps_of_each_pass_and_no_others(self):
        for name in ("Near eye", "Far eye"):
            self.assertEqual(self.more("undercoat", name), ("in this order: rim, pupil, base, lid shadow",))
            self.assertEqual(self.more("restated", name), ("the pupil again, at its darkest",))
            # Hair over the lid comes with the top coat, light and sky last.
            self.assertEqual(self.more("lights", name), ("in this order: light ring, texture, soften, lid hair",))
            self.assertEqual(self.more("highlights", name), ("in this order: sky, catchlight, wet line",))
            self.assertEqual(self.more("darks", name), ())

    def test_features_say_how_many_strokes_how_light_and_over_what(self):
        self.assertEqual(self.more("undercoat", "Nose"), ("outline: L* 20, over touch-dry",))
        nostrils, philtrum = self.more("restated", "Nose")
        self.assertTrue(nostrils.startswith("nostrils: 2 strokes, L* ") and nostrils.endswith(", over tacky"))
        self.assertTrue(philtrum.startswith("philtrum: L* "))
        # In a part of another name it is named.
        (mouth,) = self.more("restated", "Muzzle")
        self.assertTrue(mouth.startswith("mouth, line of the mouth: 2 strokes"))
        self.assertEqual(_other("Nose", self.fox.back_to_front()[self.index("Nose")]), "")

    def test_borders_are_made_in_their_pass_the_longest_first(self):
        grades = {(one.front, one.back): edge.grade for one, edge in edges_of(self.results, self.fox)}
        self.assertEqual(_edges(self.results, self.fox, self.plans["restated"], self.index("Bib")), ())
        told = 0
        for role in ("undercoat", "lights"):
            for index in self.plans[role].zones:
                fit = [
                    (border, edge)
                    for border, edge in edges_of(self.results, self.fox)
                    if border.front == index
                    and border.length_mm >= 25
                    and grades[index, border.back] in _EDGE_ROLES[role]
                ]
                said = _edges(self.results, self.fox, self.plans[role], index)
                self.assertEqual(len(said), min(len(fit), 2))
                for words, (border, edge) in zip(said, fit, strict=False):
                    back = self.fox.back_to_front()[border.back].name.lower() if border.back >= 0 else "the bare canvas"
                    self.assertIn(f" toward {back} ", words)
                    self.assertTrue(words.endswith(f", {edge.width_mm:.1f} mm"), words)
                    told += 1
        self.assertGreater(told, 8)

    def test_values_lie_within_the_pass_and_what_lies_below_is_told(self):
        for role in ("undercoat", "lights", "highlights", "restated"):
            plan = self.plans[role]
            for index in plan.zones:
                one = card_facts(self.results, self.fox, plan, index)
                if one is None or one.made_as == "own":
                    continue
                own = plan.at(index)
                self.assertTrue(own.l_low <= one.low <= one.high <= min(own.l_high, own.ceiling))
                light = _lights(self.results, self.fox, index)
                below = float((light < own.l_low).mean()) if role in ("undercoat", "lights") else 0.0
                self.assertAlmostEqual(one.dark_share, below)

    def test_where_there_is_nothing_to_do_there_is_no_card(self):
        plan = self.plans["highlights"]
        dark = next(
            k for k in range(len(self.fox.zones))
            if (_lights(self.results, self.fox, k) > plan.at(k).l_low).mean() < 0.01
            and self.fox.back_to_front()[k].kind_of().hair
        )  # fmt: skip
        self.assertIsNone(card_facts(self.results, self.fox, plan, dark))
        cards = pass_cards(self.results, self.fox, plan)
        self.assertFalse(any(card.startswith(f"{self.fox.back_to_front()[dark].name}:") for card in cards))


class WhichWay(unittest.TestCase):
    def test_hair_is_told_by_the_way_it_grows_on_the_canvas(self):
        made = project()
        index = zone_index(made, next(zone.id for zone in made.zones if zone.name == "Square"))
        self.assertIn("right", _way(Results(), made, index))
        left = replace(made, combs=tuple(replace(one, points=one.points[::-1]) for one in made.combs))
        self.assertIn("left", _way(Results(), left, index))
        eye = zone_index(made, next(zone.id for zone in made.zones if zone.name == "Eye"))
        self.assertEqual(_way(Results(), made, eye), "")

    def test_values_are_those_of_the_part_alone(self):
        made, results = project(), Results()
        index = zone_index(made, next(zone.id for zone in made.zones if zone.name == "Square"))
        light = _lights(results, made, index)
        self.assertTrue(1000 < len(light) <= 8000)
        whole = _lights(results, made, 0)
        self.assertGreater(float(np.median(light)), float(np.median(whole)) + 3)
        hidden, _ = edits.add_zone(made, "Over", "short-fur", np.array([(30.0, 20), (130, 20), (130, 120), (30, 120)]))
        self.assertEqual(facts_of(Results(), hidden)[zone_index(hidden, made.zones[1].id)].area_cm2, 0)


if __name__ == "__main__":
    unittest.main()
