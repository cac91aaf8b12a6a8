"""What was learned of the painter, in words, with what stands behind it."""

import unittest
from dataclasses import replace

from foxpath.core.mixes.dried import typical
from foxpath.core.mixes.tubes import KeptTube
from foxpath.derive.easel.learned import LearnedFact, learned_facts
from tests.made import project


def facts(made, usual=()):
    return {one.key: one for one in learned_facts(made, usual)}


class Learned(unittest.TestCase):
    def setUp(self):
        self.project = project()

    def with_tubes(self, *tubes, **more):
        return replace(self.project, mixes=replace(self.project.mixes, tubes=tubes, **more))

    def test_a_new_painter_has_what_is_typical(self):
        told = facts(self.project)
        self.assertEqual(list(told), ["pace", "drying", "tubes", "dried", "picked", "errors"])
        self.assertEqual({one.count for one in told.values()}, {0})
        self.assertEqual([one.seen() for one in told.values()], ["typical"] * 5 + ["none yet"])
        self.assertEqual(told["pace"].words, "the usual pace")
        self.assertEqual(told["drying"].words, "typical times")
        self.assertEqual(told["dried"].words, "oil stays, darks sink in")
        self.assertEqual((told["tubes"].words, told["errors"].words), ("as the table has them", "Progress tells them"))
        self.assertEqual(told["picked"].words, "20 % of what lies wet")

    def test_three_tubes_that_were_looked_at_most_are_named(self):
        tubes = tuple(
            KeptTube(key, looks=looks, taken=taken, here=key != "PB29")
            for key, looks, taken in (("PW6", 2, 1.1), ("PB29", 9, 0.85), ("PY43", 0, 3.0), ("PBr7-BS", 4, 1.0), ("PV19", 1, 2.0))
        )  # fmt: skip
        told = facts(self.with_tubes(*tubes))["tubes"]
        self.assertEqual([words.split()[-2] for words in told.words.split(", ")], ["0.85", "1.00", "1.10"])
        self.assertEqual((told.count, told.seen()), (16, "16 looks"))

    def test_how_acrylic_dries(self):
        white, blue = KeptTube("PW6", system="acrylic"), KeptTube("PB29")
        self.assertEqual(facts(self.with_tubes(white, blue))["dried"].words, "acrylic darkens by 2 to 4 L*")
        away = facts(self.with_tubes(replace(white, here=False), blue))["dried"].words
        self.assertEqual(away, "oil stays, darks sink in")
        dabbed = facts(self.with_tubes(replace(white, dabs=2, dries=(1.5, 0.0, 0.0)), replace(blue, dabs=1)))["dried"]
        shift = typical("acrylic", 50.0) + 1.5
        self.assertTrue(dabbed.words.split(", ")[0].endswith(f"white {shift:+.1f} L*"), dabbed.words)
        self.assertEqual((dabbed.count, dabbed.seen()), (3, "3 dabs"))

    def test_strokes_and_usual_errors_are_counted(self):
        made = self.with_tubes(*self.project.mixes.tubes, pick_up=0.35, strokes=(0.4, 0.3), strokes_before=(0.35,))
        told = facts(made, [("too dark", 4, 2), ("smeared", 3, 1), ("jumps", 2, 2), ("cold", 1, 1)])
        self.assertEqual((told["picked"].words, told["picked"].seen()), ("35 % of what lies wet", "3 strokes"))
        self.assertEqual((told["errors"].words, told["errors"].seen()), ("too dark, smeared, jumps", "10 times"))

    def test_what_ends_in_s_is_counted_too(self):
        self.assertEqual(LearnedFact("pace", "Pace", "", 2, "pass").seen(), "2 passes")
        self.assertEqual(LearnedFact("pace", "Pace", "", 1, "pass").seen(), "1 pass")


if __name__ == "__main__":
    unittest.main()
