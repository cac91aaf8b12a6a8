import math
import unittest
from dataclasses import replace

import numpy as np

from foxpath.core.days.belief import Belief, truncated
from foxpath.core.days.drying import CLASS_OF, PIGMENTS, SYSTEMS, Film, drying, pigment_factor
from foxpath.core.mixes.tubes import table


class Drying(unittest.TestCase):
    def test_the_medians_that_painters_know(self):
        """Open, touch and through, hours: thin umber on gesso, ochre, titanium thin and thick, with alkyd, acrylics."""
        titanium = Film(um=50, pigments={"titanium": 1})
        for film, opened, touch, through in (
            (Film(um=30 / (1 - 0.9 * 0.5) * 0.55, pigments={"drier": 1}, thinner=0.5, absorbs=0.4), None, None, None),
            (Film(um=50), 18, 72, 12 * 24),
            (titanium, 26, 4.4 * 24, 17 * 24),
            (Film(um=50, pigments={"black": 1}), 32, 5.4 * 24, 22 * 24),
            (replace(titanium, um=150), 2.6 * 24, 10 * 24, 100 * 24),
            (replace(titanium, um=500), 7 * 24, 27 * 24, 23 * 30.4 * 24),
            (replace(titanium, alkyd=0.25), 5, 27, 6 * 24),
            (Film(celsius=12, humidity=70), None, 141, None),
            (Film("acrylic"), 0.1, 0.3, 3),
            (Film("slow acrylic"), 0.6, 1.5, 24),
        ):
            times = drying(film)
            for told, known in ((times.open, opened), (times.touch, touch), (times.through, through)):
                if known is not None:
                    self.assertAlmostEqual(told / known, 1, delta=0.12, msg=str(film))

    def test_states_come_in_their_order(self):
        rng = np.random.default_rng(1)
        for _ in range(200):
            film = Film(
                str(rng.choice(list(SYSTEMS))), float(rng.uniform(5, 600)), {str(rng.choice(list(PIGMENTS))): 1.0},
                *rng.uniform(0, 0.6, 3), retarder=float(rng.uniform(0, 0.3)), misted=bool(rng.integers(2)),
                absorbs=float(rng.uniform(0, 1)), beneath=str(rng.choice(["dry", "touch-dry", "wet"])), um_beneath=40.0,
                celsius=float(rng.uniform(0, 35)), humidity=float(rng.uniform(10, 95)), dark=bool(rng.integers(2)),
            )  # fmt: skip
            t = drying(film)
            self.assertTrue(
                0 < t.open < t.soft < t.touch and t.touch <= max(t.through, t.touch) <= max(t.cured, t.touch), str(film)
            )

    def test_what_hastens_and_what_slows(self):
        base = drying(Film()).touch
        for film, quicker in (
            (Film(um=40), True), (Film(um=80), False), (Film(alkyd=0.1), True), (Film(oil=0.2), False), (Film(celsius=25), True),
            (Film(humidity=80), False), (Film(absorbs=1), True), (Film(dark=True), False), (Film(beneath="touch-dry"), False),
            (Film(beneath="wet", um_beneath=30), False), (Film(thinner=0.5), True),
        ):  # fmt: skip
            self.assertEqual(drying(film).touch < base, quicker, str(film))
        self.assertAlmostEqual(drying(Film(celsius=30)).touch / base, 0.5)
        self.assertAlmostEqual(drying(Film(um=100)).touch / base, 2**0.8)
        self.assertEqual(drying(Film(alkyd=0.25)).touch, drying(Film(alkyd=0.5)).touch)
        self.assertLess(drying(Film(thinner=0.5)).open / drying(Film(thinner=0.5)).touch, drying(Film()).open / base)
        wet, dry = Film("acrylic", humidity=80), Film("acrylic", humidity=30)
        self.assertGreater(drying(wet).touch, 2 * drying(dry).touch)
        self.assertAlmostEqual(drying(replace(dry, misted=True)).open / drying(dry).open, 2.5)

    def test_driers_act_beyond_their_share(self):
        """Black falls from 130 h to 85 h with a fifth of umber."""
        black = drying(Film(pigments={"black": 1})).touch
        mixed = drying(Film(pigments={"black": 0.8, "drier": 0.2})).touch
        self.assertAlmostEqual(black, 130, delta=3)
        self.assertAlmostEqual(mixed, 85, delta=4)
        self.assertAlmostEqual(pigment_factor({"medium": 3}), 1)
        self.assertEqual(pigment_factor({}), 1)

    def test_quantiles(self):
        t = drying(Film())
        self.assertAlmostEqual(t.late(t.touch) / t.touch, 1.40, delta=0.01)
        self.assertAlmostEqual(t.early(t.open) / t.open, 0.71, delta=0.01)

    def test_tubes_have_kinds(self):
        self.assertLessEqual(set(CLASS_OF), set(table()))
        self.assertLessEqual(set(CLASS_OF.values()), set(PIGMENTS))


class Learned(unittest.TestCase):
    def test_a_truncated_normal_is_that_of_its_samples(self):
        rng = np.random.default_rng(2)
        x = rng.normal(0.3, 0.7, 400_000)
        for low, high in ((-math.inf, 0.2), (0.1, math.inf), (-0.2, 0.5), (1.5, 2.0)):
            kept = x[(x > low) & (x < high)]
            mean, variance = truncated(0.3, 0.49, low, high)
            self.assertAlmostEqual(mean, kept.mean(), delta=0.01)
            self.assertAlmostEqual(variance, kept.var(), delta=0.01)
        self.assertEqual(truncated(0, 0.01, 50, math.inf)[0], 50)

    def simulated(self, notes):
        """Return the root mean square error of the next layer's logarithm after some notes, and how often the band holds it."""
        rng = np.random.default_rng(3)
        errors, held = [], []
        for _ in range(400):
            studio, pile = rng.normal(0, 0.25), rng.normal(0, 0.25)
            belief = Belief(["p"])
            for _ in range(notes):
                true = math.exp(studio + pile + rng.normal(0, 0.18))
                looks = [0.5, 0.8, 1.1, 1.5, 2.2]
                dry = next((one for one in looks if one >= true), math.inf)
                tacky = max((one for one in looks if one < true), default=0.0)
                belief.note("p", 1.0, tacky, dry)
            mean, sd = belief.factor("p")
            true = studio + pile + rng.normal(0, 0.18)
            errors.append(true - mean)
            held.append(abs(true - mean) < 1.2816 * math.hypot(sd, 0.18))
        return float(np.sqrt(np.mean(np.square(errors)))), float(np.mean(held))

    def test_notes_bring_it_nearer_and_the_band_stays_true(self):
        none, one, six = self.simulated(0), self.simulated(1), self.simulated(6)
        self.assertAlmostEqual(none[0], 0.40, delta=0.03)
        self.assertLess(one[0], 0.30)
        self.assertLess(six[0], 0.25)
        for _, share in (none, one, six):
            self.assertAlmostEqual(share, 0.8, delta=0.07)

    def test_a_note_of_one_pile_moves_the_studio_and_little_of_the_others(self):
        belief = Belief(["a", "b"])
        belief.note("a", 10.0, 14.0, 16.0)
        a, b, studio = belief.factor("a")[0], belief.factor("b")[0], belief.factor()[0]
        self.assertGreater(a, b)
        self.assertAlmostEqual(b, studio)
        self.assertGreater(b, 0.05)
        self.assertLess(belief.factor("a")[1], belief.factor("b")[1])
        self.assertEqual(belief.notes, {"a": 1})

    def test_dry_at_eight_in_the_morning_is_not_any_time_before(self):
        """Found dry at exactly the median, with nobody looking before: that speaks for about the median, a little under."""
        belief = Belief(["a"])
        belief.note("a", 13.0, dry_at=13.0)
        self.assertTrue(-0.25 < belief.factor("a")[0] < 0)

    def test_notes_that_cannot_be(self):
        for wrong in ((0.0, 1.0, 2.0), (10.0, 5.0, 4.0), (10.0, 0.0, -1.0)):
            with self.assertRaises(ValueError):
                Belief(["a"]).note("a", *wrong)
        belief = Belief(["a"])
        belief.note("a", 10.0)
        self.assertEqual(belief.factor("a")[0], 0)


if __name__ == "__main__":
    unittest.main()
