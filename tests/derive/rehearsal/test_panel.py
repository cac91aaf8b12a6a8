"""A rehearsal that goes on from an earlier one: what is the same is taken over, and every byte is as if painted anew."""

import unittest
from dataclasses import replace
from unittest import mock

import numpy as np

from foxpath.core.brush import differing_tiles, tile_grid
from foxpath.derive import Results, frames
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.rehearsal.panel import Panel
from foxpath.document import edits
from tests.made import project

WIDTH = 760


def zoned():
    """A project with three coats far apart on one background."""
    made = project()
    made, _ = edits.add_zone(made, "Corner", "short-fur", np.array([[150.0, 120], [185, 120], [185, 150], [150, 150]]))
    made, zone = edits.add_zone(made, "Patch", "long-fur", np.array([[5.0, 120], [35, 120], [35, 155], [5, 155]]))
    made, _ = edits.add_comb(made, np.array([[10.0, 130.0], [30.0, 132.0]]), zone)
    # Fewer marks lie over one another just as many do.
    for key, role in made.roles.items():
        made = edits.set_pass(made, key, coverage=max(0.25 * role.coverage, 0.04))
    return made


class GoingOn(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        # What is taken over and what is painted anew is the same on coarser grids.
        for name, cells in (("GROWTH_CELLS", 128), ("MAP_CELLS", 384)):
            cls.enterClassContext(mock.patch.object(frames, name, cells))
        cls.made = zoned()

    def zone(self, name):
        return next(zone.id for zone in self.made.zones if zone.name == name)

    def same(self, results, made):
        """Rehearse on and anew; every pass must have the same bytes."""
        on, anew = rehearse(results, made, WIDTH), rehearse(Results(), made, WIDTH)
        for a, b in zip(on, anew, strict=True):
            np.testing.assert_array_equal(a.standing.kept, b.standing.kept, a.plan.role.key)

    def test_whatever_is_changed_every_pass_has_the_bytes_it_would_have_anew(self):
        results, corner, patch = Results(), self.zone("Corner"), self.zone("Patch")
        rehearse(results, self.made, WIDTH)
        wet = edits.set_pass(edits.set_pass(self.made, "lights", beneath="wet"), "restated", beneath="tacky")
        for made in (
            edits.set_coat(self.made, corner, spread_deg=30.0),
            edits.set_coat(self.made, patch, length_mm=60.0),
            edits.set_coat(wet, corner, spread_deg=25.0),
            edits.set_coat(wet, corner, spread_deg=5.0),
            edits.set_edge(self.made, patch, self.made.zones[0].id, "soft", 12.0),
            edits.set_pass(self.made, "undercoat", handling="dry", left_out=(patch,)),
            edits.set_zone_school(self.made, corner, "white-hair"),
            edits.set_coat(edits.set_way(self.made, "first", "background"), corner, width_mm=1.5),
            edits.move_point(edits.set_way(self.made, "first", "background"), corner, 0, (140.0, 110.0)),
            edits.move_pass(self.made, "restated", 1),
            self.made,
        ):
            self.same(results, made)

    def test_a_changed_part_is_painted_where_it_lies_and_nowhere_else(self):
        results = Results()
        rehearse(results, self.made, WIDTH)
        painted = []
        choose = Panel._to_paint

        def watched(panel, layer, keyed):
            tiles = choose(panel, layer, keyed)
            painted.append(tiles)
            return tiles

        with mock.patch.object(Panel, "_to_paint", watched):
            rehearse(results, edits.set_coat(self.made, self.zone("Corner"), spread_deg=30.0), WIDTH)
        self.assertTrue(painted)
        rows, columns = tile_grid(WIDTH * 4 // 5, WIDTH)
        for tiles in painted:
            self.assertEqual(tiles.shape, (rows, columns))
            # The corner lies at the lower right; the upper left is taken over.
            self.assertFalse(tiles[0, 0])
            self.assertTrue(tiles[-1, -1])
            self.assertLess(tiles.mean(), 0.7)

    def test_other_sizes_and_hands_are_kept_apart(self):
        results = Results()
        for made, width in (
            (self.made, WIDTH),
            (self.made, 500),
            (replace(self.made, seed=5), WIDTH),
            (self.made, 500),
        ):
            on, anew = rehearse(results, made, width)[-1], rehearse(Results(), made, width)[-1]
            np.testing.assert_array_equal(on.standing.kept, anew.standing.kept)

    def test_tiles_that_differ_are_named(self):
        one = np.zeros((300, 600, 4), np.uint8)
        other = one.copy()
        other[299, 599, 2] = 1
        found = differing_tiles(one, other)
        self.assertEqual(found.shape, tile_grid(300, 600))
        self.assertEqual(np.argwhere(found).tolist(), [[2, 2]])
        self.assertFalse(differing_tiles(one, one).any())


if __name__ == "__main__":
    unittest.main()
