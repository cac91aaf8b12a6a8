"""Progress never falls, and parts of it fill the whole."""

import unittest
from unittest import mock

from foxpath.core.reporting import SILENT, Cancelled, Progress
from foxpath.demo import demo_project
from foxpath.derive import Results, frames
from foxpath.derive.readings import Read
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.subjects import SUBJECTS


class Reports(unittest.TestCase):
    def setUp(self):
        self.said = []
        self.progress = Progress(lambda share, words: self.said.append((round(share, 6), words)))

    def test_a_part_of_a_part_lies_within_it(self):
        part = self.progress.part(0.2, 0.6).part(0.5, 1.0)
        part.at(0.0, "begun")
        part.at(0.5)
        part.at(1.0)
        self.assertEqual(self.said, [(0.4, "begun"), (0.5, ""), (0.6, "")])

    def test_what_is_reported_never_falls_whichever_part_says_it(self):
        self.progress.part(0.5, 1.0).at(0.5)
        self.progress.part(0.0, 0.5).at(0.5, "asked again")
        self.progress.at(0.2)
        self.progress.at(0.9)
        self.assertEqual([share for share, _ in self.said], [0.75, 0.75, 0.75, 0.9])
        self.assertEqual(self.said[1][1], "asked again")

    def test_shares_beyond_a_part_are_its_ends(self):
        part = self.progress.part(0.2, 0.4)
        part.at(-3)
        part.at(7)
        self.assertEqual([share for share, _ in self.said], [0.2, 0.4])

    def test_even_parts_fill_the_whole_one_after_the_other(self):
        for part in self.progress.parts(4):
            part.at(0)
            part.at(1)
        self.assertEqual([share for share, _ in self.said], [0, 0.25, 0.25, 0.5, 0.5, 0.75, 0.75, 1])

    def test_cancelled_work_ends_at_the_next_report(self):
        wanted = [True]
        progress = Progress(cancelled=lambda: not wanted[0])
        part = progress.part(0, 0.5)
        part.at(0.5)
        wanted[0] = False
        self.assertTrue(part.is_cancelled())
        self.assertRaises(Cancelled, part.at, 0.6)
        self.assertNotIsInstance(Cancelled(), Exception)

    def test_what_stands_is_handed_on_from_any_part(self):
        taken = []
        Progress(partial=taken.append).part(0, 1).part(0, 1).hand_on("pass")
        SILENT.hand_on("nobody")
        self.assertEqual(taken, ["pass"])


class LongWork(unittest.TestCase):
    """The real long work reports in order, from near nothing to near everything, whether it is known already or not."""

    @classmethod
    def setUpClass(cls):
        for name, value in (("GROWTH_CELLS", 64), ("MAP_CELLS", 160)):
            cls.enterClassContext(mock.patch.object(frames, name, value))

    def shares(self, work):
        said = []
        work(Progress(lambda share, words: said.append((share, words))))
        shares = [share for share, _ in said]
        self.assertEqual(shares, sorted(shares))
        self.assertLessEqual(shares[-1], 1.0)
        return said

    def test_reading_and_rehearsing(self):
        fox, results = demo_project("fox"), Results()
        request = Read(results, fox, tuple(one.key for one in SUBJECTS))
        first, again = self.shares(request), self.shares(request)
        self.assertLess(first[0][0], 0.1)
        self.assertGreater(first[-1][0], 0.75)
        words = {words for _, words in first}
        for said in ("reading the zones", "planning the passes", "grading the edges", "writing the cards"):
            self.assertIn(said, words)
        self.assertLess(len(again), len(first))
        painted = self.shares(lambda progress: rehearse(results, fox, 160, progress))
        self.assertEqual(painted[-1][0], 1.0)
        self.assertEqual(len({words for _, words in painted if words.startswith("rehearsing ")}), 9)


if __name__ == "__main__":
    unittest.main()
