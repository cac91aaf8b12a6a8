"""What holds of every edit there is: it changes nothing it was given, what it made is saved and opened again, and no name dangles."""

import unittest
from dataclasses import fields, replace

from foxpath.demo import demo_project
from foxpath.document import archive, history, places
from foxpath.document.convert import project_to_fields
from foxpath.document.model import Project
from tests.every_edit import EDITS


class EveryEdit(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.demos = {name: demo_project(name) for name in ("fox", "jay")}
        cls.made = {(demo, name): edit(before) for demo, before in cls.demos.items() for name, edit in EDITS.items()}

    def each(self):
        for (demo, name), after in self.made.items():
            with self.subTest(demo=demo, edit=name):
                yield self.demos[demo], after

    def test_what_it_was_given_is_as_it_was(self):
        before = {name: project_to_fields(demo_project(name)) for name in self.demos}
        self.assertEqual({name: project_to_fields(one) for name, one in self.demos.items()}, before)

    def test_what_it_made_is_opened_as_it_was_saved(self):
        for _, after in self.each():
            data = archive.to_bytes(after)
            back = archive.from_bytes(data, "again")
            self.assertEqual(archive.to_bytes(back), data)
            shown = [one.digest for one in places.pictures_of(after)]
            self.assertEqual([one.digest for one in places.pictures_of(back)], shown)
            alike = replace(
                back,
                reference=after.reference,
                shelf=after.shelf,
                drawing=after.drawing,
                photos=after.photos,
                pictures=after.pictures,
            )
            self.assertEqual(alike, after)

    def test_no_id_is_used_twice_and_the_next_is_free(self):
        for _, after in self.each():
            ids = [
                item.id
                for one in fields(Project)
                if isinstance(value := getattr(after, one.name), tuple)
                for item in value
                if hasattr(item, "id")
            ]
            self.assertEqual(len(ids), len(set(ids)))
            self.assertEqual(set(ids), places.ids_of(after))
            self.assertTrue(all(int(key[1:]) < after.next_id for key in ids if key[1:].isdigit()))

    def test_nothing_names_a_zone_that_is_gone(self):
        for _, after in self.each():
            self.assertIs(places.sound(after), after)

    def test_nothing_is_moved_that_lies_near(self):
        for _, after in self.each():
            self.assertIs(places.nearby(after), after)

    def test_crops_keep_the_aspect_of_the_canvas_and_lie_on_the_picture(self):
        for _, after in self.each():
            crop, picture = after.crop, after.reference
            self.assertAlmostEqual(crop.width / crop.height, after.canvas.aspect, places=6)
            self.assertGreaterEqual(min(crop.x, crop.y), -1e-6)
            self.assertLessEqual(crop.x + crop.width, picture.width + 1e-6)
            self.assertLessEqual(crop.y + crop.height, picture.height + 1e-6)

    def test_every_edit_is_one_step_back(self):
        for before, after in self.each():
            past = history.History(before)
            past.do(after, "edit")
            past.undo()
            self.assertIs(past.present, before)
            past.redo()
            self.assertIs(past.present, after)

    def test_every_field_says_what_it_holds(self):
        for one in fields(Project):
            self.assertIn("holds", one.metadata, one.name)


if __name__ == "__main__":
    unittest.main()
