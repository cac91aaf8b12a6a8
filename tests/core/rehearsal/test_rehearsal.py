import unittest

import numpy as np

from foxpath.core.rehearsal.stage import bare_canvas, keep, resume, soft_pixels, soften


class Stage(unittest.TestCase):
    def step(self, width=240, height=60):
        canvas = bare_canvas(width, height)
        canvas[:, : width // 2, :3] = 25
        canvas[:, width // 2 :, :3] = 230
        return canvas

    def width_of(self, row):
        """10 to 90 % transition in pixels."""
        share = (row - 25.0) / 205
        at = np.arange(len(row))
        return float(np.interp(0.9, share, at) - np.interp(0.1, share, at))

    def test_softening_makes_the_transition_it_promises(self):
        """A border asked to be w wide is w wide from 10 to 90 %, within a tenth."""
        for width_px in (8.0, 20.0, 36.0):
            canvas = self.step()
            soft = soft_pixels(np.full((30, 120), width_px / 2.563, np.float32), 240, 60, 1.0)
            soften(canvas, soft)
            self.assertAlmostEqual(self.width_of(canvas[30, :, 0]) / width_px, 1, delta=0.1)

    def test_softening_touches_only_its_band(self):
        canvas = self.step()
        before = canvas.copy()
        softness = np.zeros((60, 240), np.float32)
        softness[:, 110:130] = 4
        soften(canvas, soft_pixels(softness, 240, 60, 1.0))
        np.testing.assert_array_equal(canvas[:, :100], before[:, :100])
        self.assertFalse(np.array_equal(canvas, before))

    def test_a_kept_pass_goes_on_where_it_was(self):
        rng = np.random.default_rng(8)
        canvas = bare_canvas(33, 21)
        canvas[..., :3] = rng.integers(0, 256, (21, 33, 3))
        kept = keep(canvas.copy())
        np.testing.assert_array_equal(resume(kept), canvas)
        np.testing.assert_array_equal(kept.shown, canvas[..., :3])
        self.assertFalse(kept.kept.flags.writeable)
