"""Fields of a file: what is not known is kept wherever it stands, and what cannot be is refused with a word."""

import copy
import json
import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.errors import ProjectError
from foxpath.core.lengths import DEFAULT_KIT
from foxpath.core.zones import OwnKind
from foxpath.document import archive, convert, edits
from foxpath.document.convert import from_fields, project_from_fields, project_to_fields, to_fields
from foxpath.document.pictures import entry_name
from foxpath.document.places import pictures_of
from tests.hammered import whole
from tests.made import project


def ways(value, path=()):
    """Every object in fields, by the way to it."""
    if isinstance(value, dict):
        yield path, value
        for key, one in value.items():
            yield from ways(one, (*path, key))
    elif isinstance(value, list):
        for k, one in enumerate(value):
            yield from ways(one, (*path, k))


def at(value, path):
    for step in path:
        value = value[step]
    return value


class Kept(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        made = whole()
        made = edits.take_school(made, replace(made.recipe, key="mine", name="Mine"))
        kind = edits.own_kind_of(made, made.zones[1], "Winter")
        cls.made = edits.set_own_kind(made, made.zones[1].id, kind)
        cls.made = edits.set_tract(cls.made, cls.made.zones[2].id, overlap=0.4)
        cls.pictures = {entry_name(one): one.data for one in pictures_of(cls.made)}
        cls.fields = json.loads(json.dumps(project_to_fields(cls.made)))

    def opened(self, fields):
        return project_from_fields(json.loads(json.dumps(fields)), self.pictures.__getitem__, "x.foxpath")

    def test_what_is_not_known_is_kept_at_every_level(self):
        """One foreign field in every object there is, whether it stands in a list or not."""
        places = [path for path, one in ways(self.fields) if path not in {("drawing", "marked"), ("passes",)}]
        self.assertGreater(len({tuple(s for s in path if isinstance(s, str)) for path in places}), 25)
        foreign = copy.deepcopy(self.fields)
        for k, path in enumerate(places):
            if path[:1] != ("ways",):
                at(foreign, path)["moon"] = {"phase": k}
        back = project_to_fields(self.opened(foreign))
        missing = [p for k, p in enumerate(places) if p[:1] != ("ways",) and at(back, p).get("moon") != {"phase": k}]
        self.assertEqual(missing, [])
        again = project_to_fields(self.opened(back))
        self.assertEqual(again, back)

    def test_it_stays_with_what_it_was_found_at(self):
        foreign = copy.deepcopy(self.fields)
        foreign["zones"][2]["mood"] = "calm"
        foreign["combs"][1]["tone"] = 3
        made = self.opened(foreign)
        key = made.zones[2].id
        moved = edits.set_depth(made, key, 0)
        fields = project_to_fields(edits.remove_zone(moved, made.zones[1].id))
        self.assertEqual([z.get("mood") for z in fields["zones"] if z["id"] == key], ["calm"])
        self.assertEqual(
            [z.get("mood") for z in fields["zones"] if z["id"] != key], [None] * (len(fields["zones"]) - 1)
        )
        self.assertEqual([comb.get("tone") for comb in fields["combs"]], [3])
        gone = project_to_fields(edits.remove_zone(made, key))
        self.assertNotIn("calm", json.dumps(gone))

    def test_features_of_a_later_version_are_not_shown_and_not_lost(self):
        foreign = copy.deepcopy(self.fields)
        strange = {"id": "f90", "kind": "antler", "name": "Antlers", "strokes": [], "points": 12}
        foreign["features"].append(strange)
        foreign["features"][0]["strokes"].append({"part": "dew", "points": [[1, 2], [3, 4]], "wet": True})
        made = self.opened(foreign)
        self.assertEqual([one.kind for one in made.features], ["nose"])
        self.assertEqual(len(made.features[0].strokes), 1)
        back = project_to_fields(made)
        self.assertIn(strange, back["features"])
        self.assertIn({"part": "dew", "points": [[1, 2], [3, 4]], "wet": True}, back["features"][0]["strokes"])

    def test_a_row_without_an_id_is_known_by_what_it_says(self):
        foreign = copy.deepcopy(self.fields)
        foreign["kit"][3]["owner"] = "me"
        made = self.opened(foreign)
        self.assertEqual([b.get("owner") for b in project_to_fields(made)["kit"]].index("me"), 3)
        fewer = project_to_fields(edits.remove_brush(made, 0))["kit"]
        self.assertEqual([b.get("owner") for b in fewer].index("me"), 2)
        other = project_to_fields(edits.remove_brush(made, 3))["kit"]
        self.assertNotIn("me", [b.get("owner") for b in other])

    def test_defaults_are_left_out_where_they_say_nothing(self):
        plain = project_to_fields(whole())
        self.assertNotIn("own_school", plain)
        self.assertNotIn("log", plain)
        eye = next(z for z in plain["zones"] if z["kind"] == "eye")
        self.assertEqual(set(eye) & {"own", "form", "group", "school", "tract"}, set())
        self.assertEqual((eye["coat"], eye["hairs"]), ({}, []))
        self.assertEqual(plain["passes"], {"lights": {"l_low": 30.0, "left_out": [plain["zones"][4]["id"]]}})
        self.assertEqual(plain["ways"], {"finish": "loose"})

    def test_nothing_at_all_is_known_twice(self):
        made = self.opened(self.fields)
        self.assertEqual(made.extra, {})
        self.assertEqual(project_to_fields(made), self.fields)

    def test_a_hair_of_the_second_version_is_carried_over(self):
        old = copy.deepcopy(self.fields)
        old["zones"][1]["measured"] = [[1, 2], [9, 8]]
        old["zones"][1]["hairs"] = []
        old["zones"][3]["measured"] = [[1, 2]]
        made = self.opened(old)
        self.assertEqual(made.zones[1].hairs, (((1.0, 2.0), (9.0, 8.0)),))
        self.assertEqual(made.zones[3].hairs, ())
        self.assertNotIn("measured", json.dumps(project_to_fields(made)))

    def test_without_a_kit_there_is_the_usual_one(self):
        fields = {k: v for k, v in self.fields.items() if k not in ("kit", "seed", "falloff", "focal")}
        made = self.opened(fields)
        self.assertEqual((made.kit, made.seed, made.falloff, made.focal), (DEFAULT_KIT, 1, 0.5, None))

    def test_pupils_and_ways_that_are_not_known_are_the_usual_ones(self):
        foreign = copy.deepcopy(self.fields)
        foreign["eyes"][0]["pupil_kind"] = "star"
        foreign["eyes"][0]["light"] = {"way": "sprayed", "hour": 3.0}
        foreign["ways"] = {"finish": "frantic", "weather": "wet", "ground": "toned"}
        made = self.opened(foreign)
        self.assertEqual((made.eyes[0].pupil_kind, made.eyes[0].light.hour), ("round", None))
        self.assertEqual(dict(made.ways.taken()), {"ground": "toned"})
        self.assertEqual(project_to_fields(made)["ways"]["weather"], "wet")

    def test_an_eye_however_small_can_be_opened_again(self):
        made, eye = edits.mark_rim(project(), np.array([[70.0, 60], [80, 60], [75, 55], [75, 66], [72, 57]]))
        tiny = replace(made, eyes=tuple(replace(one, iris=replace(one.iris, rx=1e-4, ry=2e-5)) for one in made.eyes))
        back = archive.from_bytes(archive.to_bytes(tiny), "again")
        self.assertEqual((back.eyes[0].iris.rx, back.eyes[0].iris.ry), (0.01, 0.01))
        self.assertTrue(eye)

    def test_the_next_id_is_free_whatever_the_file_says(self):
        low = {**self.fields, "next_id": 1}
        self.assertEqual(self.opened(low).next_id, self.made.next_id)
        far = copy.deepcopy(self.fields)
        far["fans"][0]["id"] = "f700"
        self.assertEqual(self.opened(far).next_id, 701)

    def test_what_names_a_zone_that_is_gone_is_dropped(self):
        fields = copy.deepcopy(self.fields)
        fields["combs"].append({"id": "c99", "zone": "z99", "points": [[1, 1], [9, 9]]})
        fields["marks"].append({"id": "m99", "kind": "donor", "zone": fields["zones"][1]["id"], "source": "z99"})
        fields["stretches"][0]["back"] = "z99"
        made = self.opened(fields)
        self.assertEqual(made.combs, self.made.combs)
        self.assertEqual(made.marks, self.made.marks)
        self.assertEqual(made.stretches, ())

    def test_what_cannot_be_is_refused(self):
        def changed(**changes):
            return {**copy.deepcopy(self.fields), **changes}

        double = [self.fields["zones"][0], self.fields["zones"][0]]
        dot = [{**self.fields["zones"][0], "points": [[1, 2]]}]
        for fields, words in (
            (changed(zones=double), "share an id"),
            (changed(zones=dot), "only 1 points"),
            (changed(correction={"grey": [160, 3]}), "grey spot"),
            (changed(correction={"grey": [3, -0.5]}), "grey spot"),
            (changed(canvas={"width_mm": 10, "height_mm": 200}), "canvas"),
            (changed(own_school={"key": "mine", "name": "Mine", "passes": []}), "damaged"),
        ):
            with self.subTest(words=words), self.assertRaises(ProjectError) as caught:
                self.opened(fields)
            self.assertIn(words, str(caught.exception))
            self.assertIn("x.foxpath", str(caught.exception))
        self.assertEqual(self.opened(changed(correction={"grey": [159, 127]})).correction.grey, (159.0, 127.0))


class Single(unittest.TestCase):
    def test_a_kind_of_ones_own_round_trips_by_itself(self):
        made = whole()
        kind = edits.own_kind_of(made, made.zones[1], "Winter ruff")
        fields = json.loads(json.dumps(to_fields(kind)))
        self.assertEqual(set(fields), {"name", "base", "coat", "edge"})
        self.assertEqual(from_fields(OwnKind, {**fields, "later": 1}), kind)

    def test_numbers_are_written_as_they_read_back(self):
        made = whole()
        self.assertIsInstance(project_to_fields(made)["canvas"]["width_mm"], float)
        self.assertEqual(convert.VERSION, project_to_fields(made)["version"])


if __name__ == "__main__":
    unittest.main()
