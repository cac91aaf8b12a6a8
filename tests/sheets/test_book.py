import re
import tempfile
import unittest
from pathlib import Path

from foxpath.core.errors import AppError
from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.book import make_book
from foxpath.derive.handout.mixes import mix_sheet_pages
from foxpath.derive.handout.pages import cards_of
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.subject import Told
from foxpath.sheets import write_book
from foxpath.sheets.pass_pages import pass_pages
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Sheets(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        results, made = Results(), project()
        cls.done = rehearse(results, made, 240)
        cls.book = make_book(results, made, cls.done)
        cls.cards = cards_of(Told(results, made, cls.done))
        cls.mixes = len(mix_sheet_pages(Told(results, made), SILENT))

    def write(self, paper):
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        pages = write_book(self.book, folder / "a.pdf", paper)
        return pages, (folder / "a.pdf").read_bytes()

    def test_pages_paper_and_embedded_fonts(self):
        """Reference, growth, edges, lengths, laying order, a card for each pass, and the mixes; every font is embedded."""
        for paper, box in (("A4", (595.3, 841.9)), ("Letter", (612, 792))):
            pages, data = self.write(paper)
            self.assertEqual(pages, 5 + sum(len(pass_pages(card)) for card in self.cards) + self.mixes)
            self.assertEqual(len(re.findall(rb"/Type /Page\b", data)), pages)
            width, height = map(float, re.search(rb"/MediaBox \[ 0 0 ([\d.]+) ([\d.]+)", data).groups())
            self.assertAlmostEqual(width, box[0], delta=0.5)
            self.assertAlmostEqual(height, box[1], delta=0.5)
            named = set(re.findall(rb"/BaseFont /([\w+-]+)", data))
            self.assertTrue(named)
            self.assertTrue(all(b"Lato" in name for name in named), named)
            self.assertGreaterEqual(data.count(b"/FontFile2"), len(named))

    def test_same_plan_same_bytes(self):
        self.assertEqual(self.write("A4")[1], self.write("A4")[1])

    def test_cards_hold_the_numbers(self):
        card = self.cards[-1]
        values = " ".join(fact.value for fact in card.facts)
        for unit in ("L*", "mm", "%", "°"):
            self.assertIn(unit, values)
        self.assertTrue(any(c.cautions for c in self.cards))

    def test_bad_paper_and_place(self):
        with self.assertRaises(ValueError):
            write_book(self.book, Path("/tmp/x.pdf"), "A0")
        with self.assertRaises(AppError):
            write_book(self.book, Path("/nowhere/x.pdf"))
