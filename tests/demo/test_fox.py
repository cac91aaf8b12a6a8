import unittest

import numpy as np

from foxpath.core.errors import InputError
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.growth.fields import growth_of
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.rehearsal.marks import marks_of
from foxpath.derive.zones.shapes import zone_index
from tests.remembered import remember
from tools.demo import head, make

setUpModule = remember


class Fox(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.fox = demo_project("fox")
        cls.results = Results()

    def truth(self, layer, points, step=2.0):
        """Known direction at places of the head's frame, in the picture."""
        vx, vy = head.growth(layer, points[:, 0], points[:, 1])
        a = np.stack(head.to_picture(points[:, 0], points[:, 1], head=layer not in {"bib", "back"}), 1)
        ahead = points + step * np.stack([vx, vy], 1)
        b = np.stack(head.to_picture(ahead[:, 0], ahead[:, 1], head=layer not in {"bib", "back"}), 1)
        run = b - a
        return a, run / np.hypot(*run.T)[:, None]

    def test_it_is_what_it_says(self):
        self.assertGreaterEqual(len(self.fox.zones), 10)
        self.assertTrue(18 <= len(self.fox.combs) <= 40)
        self.assertEqual(self.fox.canvas.words(), "50 × 40 cm")
        self.assertLess(len(self.fox.reference.data), 2_000_000)
        self.assertGreaterEqual(self.fox.reference.width, 1600)
        with self.assertRaises(InputError):
            demo_project("unicorn")

    def test_the_combs_give_back_the_known_growth(self):
        """From about thirty combs, where the field is sure it lies along the fox's true growth, root to tip."""
        rng = np.random.default_rng(9)
        errors = []
        for name, layer in (
            ("Bib", "bib"),
            ("Forehead", "face"),
            ("Near ruff", "face"),
            ("Near ear, inside", "ear-hair"),
        ):
            zone = next(z for z in self.fox.zones if z.name == name)
            field = growth_of(self.results, self.fox, zone_index(self.fox, zone.id))
            at, true = self.truth(layer, rng.random((4000, 2)) * (800, 1000) - (400, 420))
            grid = np.floor(field.frame.to_grid(at)).astype(int) - (field.column, field.row)
            h, w = field.inside.shape
            on = ((grid >= 0) & (grid < (w, h))).all(1)
            on[on] &= field.inside[grid[on][:, 1], grid[on][:, 0]]
            direction, sure = field.sample(at[on])
            error = np.degrees(np.arccos(np.clip((direction * true[on]).sum(1), -1, 1)))
            errors.append(error[sure >= 0.5])
        errors = np.concatenate(errors)
        self.assertGreater(len(errors), 300)
        self.assertLess(np.median(errors), 10)
        self.assertLess(np.percentile(errors, 90), 30)
        self.assertLess((errors > 90).mean(), 0.01)

    def test_the_generator_makes_the_shipped_project(self):
        made = make.fox(self.fox.reference.data)
        self.assertEqual(made.zones, self.fox.zones)
        self.assertEqual(made.combs, self.fox.combs)

    def test_sixty_thousand_marks(self):
        plans = passes_of(self.results, self.fox)
        total = 0
        for plan in plans:
            zones = plan.zones if plan.role.key != "ground" else (-1,)
            total += sum(len(marks_of(self.results, self.fox, plan, k)[1].half_mm) for k in zones)
        self.assertGreaterEqual(total, 60_000)
        self.assertGreaterEqual(len(plans), 6)
