import json
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from foxpath.core.errors import AppError, InputError
from foxpath.core.lengths import DEFAULT_KIT, Brush
from foxpath.document import edits, kits
from tests.made import project

KIT = (
    Brush("filbert", 8.0, state="worn", edge_mm=0.8),
    Brush("round", 2.0, 3, hair="bristle"),
    Brush("rake", 9.0, count=2),
)


class Kits(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict("os.environ", {"FOXPATH_DATA": str(self.folder)}))

    def test_kept_once_and_new_paintings_begin_with_it(self):
        self.assertEqual(kits.own_kit(), DEFAULT_KIT)
        self.assertEqual(kits.with_own_kit(project()).kit, DEFAULT_KIT)
        kits.keep_kit(KIT)
        self.assertEqual(kits.own_kit(), KIT)
        self.assertEqual(kits.with_own_kit(project()).kit, KIT)

    def test_a_damaged_kept_kit_is_said_and_stops_no_painting(self):
        kits.place().write_text("{")
        with self.assertRaisesRegex(AppError, "holds no kit"):
            kits.own_kit()
        self.assertEqual(kits.with_own_kit(project()).kit, DEFAULT_KIT)

    def test_shared_and_opened_again(self):
        path = self.folder / "a friend" / "kit.json"
        kits.write_kit(path, KIT)
        self.assertEqual(kits.read_kit(path), KIT)
        # What says nothing new is not written.
        self.assertNotIn("edge_mm", json.loads(path.read_text())["brushes"][1])

    def test_what_is_no_kit_is_refused_with_what_to_do(self):
        path = self.folder / "k.json"
        for text, says in (
            ("[]", "holds no kit"),
            ('{"format": "foxpath-kinds", "version": 1, "kinds": []}', "holds no kit"),
            ('{"format": "foxpath-kit", "version": 9, "brushes": []}', "newer"),
            ('{"format": "foxpath-kit", "version": 1, "brushes": []}', "no brush"),
            ('{"format": "foxpath-kit", "version": 1, "brushes": [{"shape": "broom", "width_mm": 4}]}', "holds no kit"),
            (
                '{"format": "foxpath-kit", "version": 1, "brushes": [{"shape": "flat", "width_mm": 1e999}]}',
                "holds no kit",
            ),
        ):
            path.write_text(text)
            with self.assertRaisesRegex(AppError, says):
                kits.read_kit(path)
        with self.assertRaisesRegex(AppError, "could not be read"):
            kits.read_kit(self.folder / "none.json")


class Edits(unittest.TestCase):
    def test_a_kit_is_taken_whole_and_checked(self):
        self.assertEqual(edits.take_kit(project(), KIT).kit, KIT)
        for wrong in ((), (Brush("flat", 2.0),) * 61, (Brush("flat", 999.0),), (Brush("flat", 5.0, edge_mm=6.0),)):
            with self.assertRaises(InputError):
                edits.take_kit(project(), wrong)

    def test_a_brush_asked_for_stays_with_its_part_and_pass_until_it_is_left(self):
        one = project()
        zone = one.zones[-1].id
        liked = edits.like_brush(edits.like_brush(one, zone, "lights", KIT[0]), zone, "undercoat", KIT[1])
        self.assertEqual({b.act: b.brush for b in liked.zone(zone).brushes}, {"lights": KIT[0], "undercoat": KIT[1]})
        again = edits.like_brush(liked, zone, "lights", KIT[2])
        self.assertEqual({b.act: b.brush for b in again.zone(zone).brushes}["lights"], KIT[2])
        self.assertEqual(edits.like_brush(liked, zone, "lights", None).zone(zone).brushes, liked.zone(zone).brushes[1:])
        self.assertEqual(edits.like_brush(one, "gone", "lights", KIT[0]), one)


if __name__ == "__main__":
    unittest.main()
