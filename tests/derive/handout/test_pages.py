"""What stands on the sheets' maps, where it belongs."""

import unittest

import numpy as np

from foxpath.core.units import CanvasSize
from foxpath.derive import Results
from foxpath.derive.frames import map_frame
from foxpath.derive.handout.pages import _places
from foxpath.derive.zones.reading import zone_numbers
from foxpath.derive.zones.shapes import labels_of
from foxpath.document import edits
from tests.made import picture


class Numbers(unittest.TestCase):
    def test_a_number_lies_on_its_own_part_also_where_another_lies_in_its_middle(self):
        made = edits.new_project(picture(), "blob.png", CanvasSize(250, 200), "Blob")
        width, height = made.crop.width, made.crop.height

        def box(x, y, half):
            return np.array([[x - half, y - half], [x + half, y - half], [x + half, y + half], [x - half, y + half]])

        unit = min(width, height)
        made, ring = edits.add_zone(made, "Ring", "long-fur", box(0.5 * width, 0.5 * height, 0.4 * unit))
        made, core = edits.add_zone(made, "Core", "short-fur", box(0.5 * width, 0.5 * height, 0.2 * unit))
        results, frame = Results(), map_frame(made)
        labels, places = labels_of(results, made, frame), dict(_places(results, made))
        numbers = zone_numbers(made)
        for k, zone in enumerate(made.back_to_front()):
            if not (labels == k).any():
                continue
            x, y = (value / frame.cell_mm for value in places[numbers[zone.id]])
            self.assertEqual(labels[int(y), int(x)], k, zone.name)
        middle = np.array((width / 2, height / 2)) * made.mm_per_px
        np.testing.assert_allclose(places[numbers[core]], middle, atol=2)
        self.assertGreater(np.hypot(*(np.array(places[numbers[ring]]) - middle)), 20)


if __name__ == "__main__":
    unittest.main()
