"""The demo of two woolly animals: eyes in pairs, a donor, curls, a bright step."""

import unittest

import numpy as np

from foxpath.core.colour import lab_from_rgb8
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.eyes.reading import eyes_reading
from foxpath.derive.frames import map_frame
from foxpath.derive.passes.cards import pass_cards
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.rehearsal.marks import lent_contrast
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.reading import read_painting
from foxpath.derive.subjects import findings
from foxpath.derive.zones.shapes import labels_of, zone_index


class Cavies(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.project, cls.results = demo_project("cavies"), Results()

    def zone(self, name):
        return next(z for z in self.project.zones if z.name == name)

    def test_each_animal_has_a_pair_of_eyes_and_a_frame(self):
        read = eyes_reading(self.results, self.project)
        self.assertEqual(len(self.project.eyes), 4)
        frames = {eye.name.split(",")[0]: read.frames[eye.id].origin for eye in self.project.eyes}
        self.assertEqual(set(frames), {"Ash", "Rusk"})
        self.assertGreater(frames["Ash"][0] - frames["Rusk"][0], 500)
        self.assertEqual([f for f in findings(self.results, self.project) if f.level == "must"], [])

    def test_the_blurred_one_borrows_from_the_sharp_one(self):
        ash, rusk = (zone_index(self.project, self.zone(f"{name}, body").id) for name in ("Ash", "Rusk"))
        self.assertGreater(lent_contrast(self.results, self.project, ash), 3)
        self.assertEqual(lent_contrast(self.results, self.project, rusk), 0)

    def test_cards_speak_of_curls(self):
        lights = next(p for p in passes_of(self.results, self.project) if p.role.key == "lights")
        said = " ".join(pass_cards(self.results, self.project, lights))
        self.assertIn("broken C and S strokes and dabs", said)
        self.assertIn("dark first under each curl", said)

    def test_the_step_stays_bright_and_the_coats_keep_their_warmth(self):
        painted = rehearse(self.results, self.project, 600)[-1].standing.shown
        read = {one.zone: one for one in read_painting(self.results, self.project, painted)}
        for name, most in (("Stone step", 3.0), ("Rusk, body", 5.0), ("Ash, body", 8.0)):
            self.assertLess(abs(read[self.zone(name).id].dl), most, name)
        import cv2

        labels = labels_of(self.results, self.project, map_frame(self.project))
        labels = cv2.resize(labels, painted.shape[1::-1], interpolation=cv2.INTER_NEAREST)
        lab = lab_from_rgb8(np.ascontiguousarray(painted))
        warm, cool = (
            lab[labels == zone_index(self.project, self.zone(f"{name}, body").id), 2].mean() for name in ("Rusk", "Ash")
        )
        self.assertGreater(warm - cool, 20)
