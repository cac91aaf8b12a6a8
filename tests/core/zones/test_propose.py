import unittest

import cv2
import numpy as np

from foxpath.core.curves import closed_curve
from foxpath.core.frame import Crop
from foxpath.core.zones import fill, propose_parts
from tests.core.zones.test_shape import animal


class Proposing(unittest.TestCase):
    def found(self, rgb, true):
        """How far the proposed animal and the true one overlap."""
        whole = fill(closed_curve(propose_parts(rgb, Crop(0, 0, 640, 480))[0].points), (480, 640))
        return (whole & true).sum() / (whole | true).sum()

    def test_an_animal_beside_the_middle_is_found_by_colour_or_by_focus(self):
        rng = np.random.default_rng(4)
        leaves = cv2.GaussianBlur(rng.normal(0, 260, (480, 640, 3)).astype(np.float32), (0, 0), 14) + (96, 118, 80)
        true = np.zeros((480, 640), np.uint8)
        cv2.ellipse(true, (210, 300), (120, 150), 20, 0, 360, 1, -1)
        hair = cv2.GaussianBlur(rng.normal(0, 70, (480, 640)).astype(np.float32), (0, 0), 1.2)[..., None]
        for name, coat, ground, least in (
            # A pale coat on leaves; a coat as green as they are, but in focus; a pale coat on an even ground, nothing sharp behind.
            ("pale", (205, 190, 170), leaves, 0.85),
            ("green", (96, 118, 80), leaves, 0.6),
            ("plain", (205, 190, 170), np.full_like(leaves, (150, 60, 70)), 0.9),
        ):
            rgb = np.where(true[..., None] > 0, np.array(coat) + hair, ground)
            self.assertGreater(self.found(np.clip(rgb, 0, 255).astype(np.uint8), true > 0), least, name)

    def test_parts_are_proposed_from_the_picture_alone(self):
        rgb = animal()
        parts = propose_parts(rgb, Crop(0, 0, 640, 480))
        self.assertTrue(3 <= len(parts) <= 12)
        whole = fill(closed_curve(parts[0].points), (480, 640))
        true = np.zeros((480, 640), np.uint8)
        cv2.ellipse(true, (320, 360), (150, 190), 0, 0, 360, 1, -1)
        cv2.ellipse(true, (320, 170), (95, 90), 0, 0, 360, 1, -1)
        self.assertGreater((whole & (true > 0)).sum() / (whole | (true > 0)).sum(), 0.85)
        # Some part is the pale head.
        head = np.zeros((480, 640), np.uint8)
        cv2.ellipse(head, (320, 170), (95, 90), 0, 0, 360, 1, -1)
        best = max(
            (m & (head > 0)).sum() / (m | (head > 0)).sum()
            for m in (fill(closed_curve(p.points), (480, 640)) for p in parts)
        )
        self.assertGreater(best, 0.6)
