"""Sheets of paper: printed, painted by a hand that is known, photographed aslant, laid flat and measured."""

import unittest
from dataclasses import replace

import cv2
import numpy as np

from foxpath.core.errors import AppError
from foxpath.core.practice.paper import PAPER, eyes, hand, page, paper_called
from foxpath.core.practice.paper.page import PAPERS_MM, Paper, coded, decoded, drawn, laid_flat
from tests.drilled import scene

PRINT = 12
"""Pixels a millimetre of what is printed."""


def photograph(sheet, seed, *, tall=2200, turn=None, noise=2.5, light=(1.0, 0.95, 0.86)):
    """A photograph of a sheet on a brown table, turned and aslant, under warm light that falls off to one side."""
    rng = np.random.default_rng(seed)
    h, w = sheet.shape[:2]
    k = 0.8 * tall / h
    corners = np.array([(0, 0), (w, 0), (w, h), (0, h)], float)
    at = corners * k + rng.uniform(-0.03, 0.03, (4, 2)) * w * k
    a = np.radians(rng.uniform(-14, 14) if turn is None else turn)
    at = (at - at.mean(axis=0)) @ np.array([[np.cos(a), np.sin(a)], [-np.sin(a), np.cos(a)]])
    at -= at.min(axis=0) - 90
    wide, high = (int(v) for v in at.max(axis=0) + 90)
    shape = cv2.getPerspectiveTransform(corners.astype(np.float32), at.astype(np.float32))
    shot = cv2.warpPerspective(sheet, shape, (wide, high), flags=cv2.INTER_AREA, borderValue=(120, 98, 76)).astype(
        np.float32
    )
    fall = 0.72 + 0.28 * np.mgrid[:high, :wide][1] / wide
    shot = shot * fall[..., None] * np.array(light) + rng.normal(0, noise, shot.shape)
    return np.clip(shot, 0, 255).astype(np.uint8)


def on_paper(drill, seed, size="A4"):
    paper = Paper(PAPER.index(drill), drill.number(seed, scene()), *PAPERS_MM[size])
    return paper, drawn(drill.printed(paper, scene()), PRINT)


class Numbers(unittest.TestCase):
    def test_a_number_comes_back_and_a_misread_cell_is_noticed(self):
        for kind, seed in ((0, 0), (1, 4711), (15, 65535), (2, 40000)):
            bits = coded(kind, seed)
            self.assertEqual(len(bits), 26)
            self.assertEqual(decoded(bits), (kind, seed))
            for k in range(26):
                wrong = list(bits)
                wrong[k] = not wrong[k]
                self.assertNotEqual(decoded(wrong), (kind, seed))
        wrong = sum(
            decoded([b != (k in (i, j)) for k, b in enumerate(coded(1, 999))]) is not None
            for i in range(26)
            for j in range(i)
        )
        self.assertLess(wrong, 12)

    def test_marks_and_number_lie_where_the_paper_says(self):
        for size in PAPERS_MM:
            paper, sheet = on_paper(PAPER[0], 77, size)
            grey = sheet.mean(axis=2)
            for k, (x, y) in enumerate(paper.marks()):
                self.assertEqual(grey[round(y * PRINT), round(x * PRINT)] > 128, k == 0)
                self.assertLess(grey[round(y * PRINT), round((x + 3) * PRINT)], 40)
            for (x, y), on in zip(paper.cells(), paper.code(), strict=True):
                self.assertEqual(grey[round(y * PRINT), round(x * PRINT)] < 128, on)


class Photographs(unittest.TestCase):
    def test_a_sheet_is_laid_flat_to_a_fraction_of_a_millimetre_and_says_which_it_is(self):
        for seed, size, turn in ((1, "A4", None), (2, "Letter", None), (3, "A4", 96.0), (4, "A4", 183.0)):
            paper, sheet = on_paper(PAPER[0], 300 + seed, size)
            flat = laid_flat(photograph(sheet, seed, turn=turn))
            self.assertEqual((flat.paper.kind, flat.paper.seed, flat.paper.width), (0, 300 + seed, paper.width))
            k = page.READ_PX_PER_MM
            want = drawn(PAPER[0].printed(paper, None), k).mean(axis=2) / 2.55
            off = cv2.phaseCorrelate(
                cv2.GaussianBlur(want.astype(np.float32), (0, 0), 2), cv2.GaussianBlur(flat.lab[..., 0], (0, 0), 2)
            )[0]
            self.assertLess(np.hypot(*off) / k, 0.15)
            bare = flat.lab[round(30 * k) : round(34 * k), round(40 * k) : round(160 * k)]
            self.assertLess(float(np.abs(bare - (95, 0, 0)).mean(axis=(0, 1)).max()), 3)

    def test_without_a_sheet_it_says_what_to_do(self):
        with self.assertRaises(AppError) as caught:
            laid_flat(scene().rgb)
        self.assertIn("corner marks", caught.exception.hint)
        _, sheet = on_paper(PAPER[0], 9)
        cut = photograph(sheet, 1)
        with self.assertRaises(AppError):
            laid_flat(np.ascontiguousarray(cut[: int(0.7 * len(cut))]))


class Hand(unittest.TestCase):
    def test_a_stroke_tapers_from_root_to_tip(self):
        one = hand.targets(Paper(0, 5, 210, 297))[0]
        widths = one.width_at(np.array([-0.1, 0.0, 0.5, 1.0, 1.1]))
        self.assertEqual((widths[0], widths[4]), (0, 0))
        self.assertAlmostEqual(widths[1], one.wide)
        self.assertAlmostEqual(widths[3], one.tip)
        self.assertAlmostEqual(widths[2], one.wide + (one.tip - one.wide) * 0.5**1.25)

    def test_models_and_places_keep_to_their_cells(self):
        for seed in range(20):
            paper = Paper(0, seed, 210, 297)
            for one in hand.targets(paper):
                x, y, wide, tall = one.cell
                at = np.array(hand.outline(one, one.root))
                self.assertTrue((at > (x - 3, y - 2)).all())
                self.assertTrue((at < (x + wide + 3, y + tall + 2)).all())

    def test_painted_strokes_are_measured(self):
        drill = paper_called("hand")
        paper, sheet = on_paper(drill, 51)
        rng = np.random.default_rng(8)
        true = []
        for one in hand.targets(paper)[:10]:
            mine = replace(
                one,
                wide=max(0.8, one.wide + float(rng.uniform(-1.2, 1.8))),
                length=one.length + float(rng.uniform(-5, 6)),
            )
            at = np.round(np.array(hand.outline(mine, one.root)) * PRINT * 16).astype(np.int32)
            cv2.fillPoly(sheet, [at], (70, 46, 34), cv2.LINE_AA, 4)
            grid = np.arange(0, max(one.length, mine.length), 0.1)
            error = np.abs(mine.width_at(grid / mine.length) - one.width_at(grid / one.length)).mean()
            true.append((one, mine, float(error)))
        measured = drill.measured(laid_flat(photograph(sheet, 3)), None)
        self.assertEqual([m.number for m in measured], [one.number for one, _, _ in true])
        for m, (one, mine, error) in zip(measured, true, strict=True):
            self.assertLess(abs(m.error - error), 0.15, (m, mine))
            if abs(mine.length - one.length) > 3:
                self.assertIn("too long" if mine.length > one.length else "too short", m.words)
            # The root's width is the mean of its first fifth, where the taper has taken some of it.
            if abs(mine.wide - one.wide) > 0.9:
                self.assertIn("too wide" if mine.wide > one.wide else "too thin", m.words)
            if abs(mine.length - one.length) < 1 and abs(mine.wide - one.wide) < 0.3:
                self.assertEqual((m.words, m.right), ("as its model", True))

    def test_a_blob_is_a_blunt_tip(self):
        one = replace(hand.targets(Paper(0, 5, 210, 297))[0], wide=3.0, tip=0.3, length=30.0)
        at = np.arange(0.25, 30, 0.5)
        good = hand.judged(one, at, one.width_at(at / 30))
        self.assertEqual(good.words, "as its model")
        self.assertLess(good.error, 0.1)
        self.assertTrue(good.right)
        blunt = hand.judged(one, at, np.full_like(at, 3.0))
        self.assertIn("its tip is blunt, 3 mm", blunt.words)
        self.assertFalse(blunt.right)

    def test_bare_paper_and_its_hairline_are_no_paint(self):
        drill = paper_called("hand")
        _, sheet = on_paper(drill, 60)
        self.assertEqual(drill.measured(laid_flat(photograph(sheet, 2)), None), ())


class Eyes(unittest.TestCase):
    def painted(self, off):
        drill = paper_called("eyes")
        paper, sheet = on_paper(drill, 21)
        targets = eyes.eye_targets(paper, scene())
        for one, (dx, dy, dr, hours) in zip(targets, off, strict=False):
            k = PRINT
            x, y = (one.middle[0] + dx) * k, (one.middle[1] + dy) * k
            cv2.ellipse(
                sheet,
                (round(x), round(y)),
                (round((one.rx + dr) * k), round((one.ry + dr) * k)),
                0,
                0,
                360,
                (168, 118, 36),
                -1,
                cv2.LINE_AA,
            )
            cv2.circle(sheet, (round(x), round(y)), round(0.4 * one.rx * k), (18, 14, 12), -1, cv2.LINE_AA)
            a = np.radians(30 * (one.hour + hours) - 90)
            glint = (round(x + 0.55 * one.rx * k * np.cos(a)), round(y + 0.55 * one.rx * k * np.sin(a)))
            cv2.circle(sheet, glint, round(0.14 * one.rx * k), (252, 252, 248), -1, cv2.LINE_AA)
        return drill, laid_flat(photograph(sheet, 5))

    def test_eyes_are_measured_in_place_size_and_hour(self):
        off = [(0, 0, 0, 0), (1.2, 0, 0, 0), (0, -1.1, 0, 0), (0, 0, 0.8, 0), (0, 0, -0.7, 0), (0, 0, 0, 2.0)]
        drill, flat = self.painted(off)
        measured = drill.measured(flat, scene())
        self.assertEqual(len(measured), len(off))
        said = [m.words for m in measured]
        self.assertEqual((said[0], measured[0].right), ("as the reference", True))
        for k, (part, error) in enumerate((("right", 1.2), ("high", 1.1), ("large", 1.6), ("small", 1.4)), 1):
            self.assertIn(part, said[k])
            self.assertLess(abs(measured[k].error - error), 0.35)
            self.assertFalse(measured[k].right)
        self.assertRegex(said[5], r"catchlight (1\.[6-9]|2\.[0-4]) h late")
        self.assertLess(measured[5].error, 0.5)

    def test_a_sheet_with_other_eyes_is_refused(self):
        drill, flat = self.painted([(0, 0, 0, 0)])
        other = replace(scene(), eyes=tuple(replace(e, rx=e.rx * 1.3) for e in scene().eyes))
        with self.assertRaises(AppError) as caught:
            drill.measured(flat, other)
        self.assertIn("Made from", caught.exception.hint)

    def test_eyes_that_are_too_small_or_too_large_for_paper_are_left_out(self):
        small = replace(scene(), eyes=(replace(scene().eyes[0], rx=4, ry=4), scene().eyes[1]))
        self.assertEqual([e.name for e in eyes.fit_eyes(small)], ["Right eye"])
        self.assertEqual(eyes.fit_eyes(None), ())
        self.assertEqual(eyes.eye_targets(Paper(1, 1, 210, 297), replace(scene(), eyes=())), ())

    def test_boxes_lie_on_the_paper_and_not_on_one_another(self):
        for size in PAPERS_MM.values():
            cells = [one.cell for one in eyes.eye_targets(Paper(1, 3, *size), scene())]
            self.assertGreaterEqual(len(cells), 4)
            for k, (x, y, wide, tall) in enumerate(cells):
                self.assertTrue(x > 10 and y > 30 and x + wide < size[0] - 10 and y + tall < size[1] - 20)
                for ox, oy, ow, ot in cells[:k]:
                    self.assertTrue(x >= ox + ow or ox >= x + wide or y >= oy + ot or oy >= y + tall)


if __name__ == "__main__":
    unittest.main()
