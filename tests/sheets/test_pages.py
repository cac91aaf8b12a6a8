"""What the pages draw, word by word and line by line: a pen that remembers stands in for the PDF."""

import unittest

import numpy as np

from foxpath.core.passes.colours import PassColour
from foxpath.core.reference.transfer import Grid
from foxpath.core.units import CanvasSize
from foxpath.sheets import (
    Band,
    Book,
    Card,
    DaySheet,
    EdgeSheet,
    EyeCell,
    EyeSheet,
    Fact,
    FeatherMap,
    GrowthSheet,
    LayingSheet,
    LengthRow,
    LengthSheet,
    SittingRow,
    SittingSheet,
    StepRow,
    day_pages,
    edge_page,
    eye_pages,
    feather_page,
    growth_page,
    laying_page,
    length_page,
    pass_pages,
    reference_page,
    sitting_pages,
)
from foxpath.sheets.page import MARGIN, Page
from foxpath.sheets.paper import MM, new_pdf

SIZE = (595.0, 842.0)


class Path:
    def __init__(self):
        self.points, self.closed = [], False

    def moveTo(self, x, y):
        self.points.append((x, y))

    lineTo = moveTo

    def close(self):
        self.closed = True

    def rect(self, x, y, width, height):
        self.points += [(x, y), (x + width, y + height)]


class Pen:
    """Remembers what is drawn: words with their place, pictures, lines with their width, boxes."""

    def __init__(self):
        import io

        self.words, self.pictures, self.lines, self.boxes, self.circles = [], [], [], [], []
        self.width, self.real = 0.0, new_pdf(io.BytesIO(), "x", SIZE)

    def stringWidth(self, words, font, size):
        return self.real.stringWidth(words, font, size)

    def drawString(self, x, y, words):
        self.words.append((words, round(x, 1), round(SIZE[1] - y, 1)))

    drawRightString = drawCentredString = drawString

    def drawImage(self, image, x, y, width, height):
        self.pictures.append((x, SIZE[1] - y - height, width, height))

    def beginPath(self):
        return Path()

    def setLineWidth(self, width):
        self.width = width

    def drawPath(self, path, stroke=1, fill=0):
        self.lines.append((np.array([(x, SIZE[1] - y) for x, y in path.points]), self.width, bool(fill), path.closed))

    def roundRect(self, x, y, width, height, radius, stroke=0, fill=1):
        self.boxes.append((x, SIZE[1] - y - height, width, height))

    def rect(self, x, y, width, height, stroke=1, fill=0):
        self.boxes.append((x, SIZE[1] - y - height, width, height))

    def circle(self, x, y, radius, stroke=0, fill=1):
        self.circles.append((x, SIZE[1] - y, radius))

    def __getattr__(self, name):
        return lambda *_args, **_more: None


def drawn(draw, canvas=None, grid=None):
    canvas = canvas or CanvasSize(400, 300)
    book = Book("Made", canvas, grid or Grid(), np.full((60, 80, 3), 120, np.uint8), ())
    pen = Pen()
    page = Page(pen, book, SIZE)
    draw(page)
    return pen, page


def said(pen):
    return " ".join(words for words, _, _ in pen.words)


class Pages(unittest.TestCase):
    def inside(self, pen):
        """Everything lies on the paper, within its margins."""
        for words, x, y in pen.words:
            self.assertTrue(0 <= x <= SIZE[0] and 0 <= y <= SIZE[1], words)
        for x, y, width, height in pen.pictures:
            self.assertGreaterEqual(x, MARGIN - 0.1)
            self.assertLessEqual(x + width, SIZE[0] - MARGIN + 0.1)
            self.assertLessEqual(y + height, SIZE[1] - MARGIN + 0.1)

    def test_the_reference_says_its_squares_and_its_scale(self):
        pen, _ = drawn(reference_page, grid=Grid(50.0))
        self.inside(pen)
        x, _, width, height = pen.pictures[0]
        self.assertAlmostEqual(width / height, 4 / 3, places=3)
        scale = width / 400
        self.assertIn(f"printed at {round(scale / MM * 100)} %", said(pen))
        self.assertIn("Squares of 5 cm", said(pen))
        letters = [words for words, _, _ in pen.words if len(words) == 1 and words.isalpha()]
        self.assertEqual(letters, list("ABCDEFGH"))
        self.assertEqual([w for w, _, _ in pen.words if w.isdigit()], [str(k) for k in range(1, 7)])
        first = next(at for words, at, _ in pen.words if words == "A")
        self.assertAlmostEqual(first, x + 25 * scale, delta=0.2)
        inches, _ = drawn(reference_page, CanvasSize(406.4, 304.8, "in"), Grid(50.8))
        self.assertIn("Squares of 2 in", said(inches))

    def test_hairs_are_as_long_as_they_are_and_hollow_where_unsure(self):
        line = np.linspace((100, 100), (140, 100), 8, dtype=np.float32)
        hairs = np.stack([line, line + np.float32(30)])
        sheet = GrowthSheet(
            hairs,
            np.array([0.6, 0.6], np.float32),
            np.array([0.9, 0.2], np.float32),
            (line.astype(float),),
            "Unsure: bib.",
        )
        pen, page = drawn(growth_page(sheet))
        self.inside(pen)
        scale = pen.pictures[0][2] / 400
        closed = [(points, fill) for points, _, fill, closed in pen.lines if closed and len(points) > 8]
        self.assertEqual([fill for _, fill in closed], [True, False])
        for points, _ in closed:
            self.assertAlmostEqual(np.ptp(points[:, 0]), 40 * scale, delta=1.5)
        x, y, _, _ = pen.pictures[0]
        self.assertEqual(len(pen.circles), 1)
        self.assertAlmostEqual(pen.circles[0][0], x + 100 * scale, delta=0.01)
        self.assertAlmostEqual(pen.circles[0][1], y + 100 * scale, delta=0.01)
        self.assertIn("Unsure: bib.", said(pen))
        self.assertLess(page.left, x)

    def test_edges_are_as_wide_as_their_transition_and_change_along_the_way(self):
        run = np.linspace((50, 50), (350, 50), 60)
        wide = np.linspace(12.0, 1.0, 60)
        bands = (Band((run,), (wide,), "2 bib over 1 ground · soft 5 mm · drag it"),)
        hanging = (np.linspace((60, 60), (70, 90), 8),)
        crossed = (
            (np.array([[100.0, 100], [110, 100]]), np.array([[100.0, 108], [110, 108]])),
            (np.array([[10.0, 10], [20, 10]]),) * 2,
        )
        pen, _ = drawn(edge_page(EdgeSheet(bands, ((7, (200.0, 150.0)),), hanging, crossed)))
        scale = pen.pictures[0][2] / 400
        widths = {round(width, 2) for _, width, _, _ in pen.lines}
        bandwide = sorted(width / scale for width in widths if width > 1.6 and width not in (9.0, 6.0, 3.5))
        self.assertGreater(len(bandwide), 5)
        self.assertTrue(9.6 < bandwide[-1] <= 12 and bandwide[0] < 1.8, bandwide)
        self.assertIn("2 bib over 1 ground · soft 5 mm · drag it", said(pen))
        self.assertIn("hair crosses it", said(pen))
        x, y, _, _ = pen.pictures[0]
        number = next((px, py) for words, px, py in pen.words if words == "7")
        self.assertAlmostEqual(number[0], x + 200 * scale, delta=0.2)
        self.assertAlmostEqual(number[1], y + 150 * scale + 3.4, delta=0.2)
        # A hair over a marking's border begins a third of its reach before it.
        ragged = [points for points, width, _, _ in pen.lines if width == 0.5 and len(points) == 2]
        self.assertEqual(len(ragged), 2)
        self.assertAlmostEqual(ragged[0][1, 1] - ragged[0][0, 1], 1.35 * 8 * scale, delta=0.05)
        plain, _ = drawn(edge_page(EdgeSheet(bands)))
        self.assertNotIn("hair crosses it", said(plain))

    def test_edges_that_find_no_room_are_counted(self):
        run = np.linspace((50, 50), (350, 50), 4)
        bands = tuple(Band((run,), (np.full(4, 2.0),), f"edge {k}") for k in range(90))
        pen, _ = drawn(edge_page(EdgeSheet(bands)))
        listed = sum(words.startswith("edge ") for words, _, _ in pen.words)
        self.assertLess(listed, 90)
        self.assertIn(f"{90 - listed} shorter edges more", said(pen))

    def test_lengths_stand_where_they_hold_and_rows_in_columns(self):
        rows = tuple(
            LengthRow(k, f"Zone {k}", "6 to 9 mm", "0.5 mm", "8 mm flat", "1 mm liner", "as clumps")
            for k in range(1, 60)
        )
        pen, _ = drawn(length_page(LengthSheet(np.array([[100.0, 60, 9.44], [40, 20, 31.6]]), rows)))
        self.inside(pen)
        x, y, width, _ = pen.pictures[0]
        scale = width / 400
        place = {words: (px, py) for words, px, py in pen.words}
        self.assertAlmostEqual(place["9.4"][0], x + 100 * scale, delta=0.2)
        self.assertAlmostEqual(place["32"][1], y + 20 * scale + 3.2, delta=0.2)
        names = [(px, py) for words, px, py in pen.words if words.startswith("Zone ")]
        self.assertEqual(len({px for px, _ in names}), 1)
        self.assertLess(len(names), 59)
        self.assertLessEqual(max(py for _, py in names), SIZE[1] - MARGIN)

    def test_the_laying_order_is_numbered_on_the_map_and_in_the_list(self):
        order = ((1, "Ground", (10.0, 20.0)), (2, "Bib", (200.0, 100.0)))
        pen, _ = drawn(laying_page(LayingSheet((np.array([[0.0, 0], [50, 0], [50, 50]]),), order, "Tips say so.")))
        self.assertIn("1  Ground", said(pen))
        self.assertIn("2  Bib", said(pen))
        self.assertIn("Tips say so.", said(pen))
        self.assertTrue(any(closed and len(points) == 3 for points, _, _, closed in pen.lines))
        x, _, width, _ = pen.pictures[0]
        two = next(px for words, px, _ in pen.words if words == "2")
        self.assertAlmostEqual(two, x + 200 * width / 400, delta=0.2)

    def test_feathers_worth_painting_are_outlined_others_hinted(self):
        shaft = np.linspace((100, 100), (140, 120), 8, dtype=np.float32)
        outline = np.array([[100, 90], [140, 110], [150, 125], [100, 110]], np.float32)
        one = FeatherMap("Coverts: 3, 1 worth painting", outline[None], shaft[None], np.stack([shaft, shaft]))
        pen, _ = drawn(feather_page((one,)))
        self.assertEqual(sum(closed and len(points) == 4 for points, width, _, closed in pen.lines if width == 0.5), 1)
        # A hint is the outer half of the shaft.
        hints = [points for points, width, _, _ in pen.lines if width == 0.4]
        self.assertEqual([len(points) for points in hints], [4, 4])
        self.assertIn("Coverts: 3, 1 worth painting", said(pen))

    def eye(self, wide, count, painted=lambda _: True):
        shot = np.full((40, 50, 3), 90, np.uint8)
        keys = ("base", "texture", "rim", "ring", "shadow", "soften", "catchlight", "sky", "lashes")
        cells = tuple(EyeCell(keys[k % 9], f"step {k}", "Do it.", "1 mm liner", shot, painted(k)) for k in range(count))
        return EyeSheet(
            "Near eye",
            "an iris of 9 mm",
            cells,
            wide,
            wide * 0.8,
            (wide * 0.3, wide * 0.2, wide * 0.4),
            ("It stands low.",),
        )

    def test_eyes_are_shown_at_true_size_and_four_times(self):
        true, large = eye_pages((self.eye(30.0, 6),))
        pen, _ = drawn(true)
        widths = {round(width, 1) for _, _, width, _ in pen.pictures}
        self.assertEqual(widths, {round(30 * MM, 1)})
        self.assertIn("Look again: It stands low.", said(pen))
        self.assertEqual(sum(words.split("  ")[-1].startswith("step ") for words, _, _ in pen.words), 6)
        big, _ = drawn(large)
        self.assertEqual({round(width, 1) for _, _, width, _ in big.pictures}, {round(4 * 30 * MM, 1)})

    def test_steps_left_out_are_no_large_pictures(self):
        _, large = eye_pages((self.eye(12.0, 6, painted=lambda k: k != 2),))
        pen, _ = drawn(large)
        self.assertEqual(len(pen.pictures), 5)
        self.assertNotIn("3  step 2", said(pen))

    def test_an_eye_larger_than_the_paper_is_cut_and_never_scaled(self):
        true, large = eye_pages((self.eye(700.0, 5),))
        for draw, times in ((true, 1), (large, 4)):
            pen, _ = drawn(draw)
            self.assertEqual({round(width) for _, _, width, _ in pen.pictures}, {round(times * 700 * MM)})

    def card(self, **changes):
        given = {
            "title": "3  Midtones", "reason": "The large relation first.", "picture": np.full((30, 40, 3), 99, np.uint8),
            "facts": (Fact("time", "50 min"), Fact("values", "L* 20 to 60, ceiling 70")), "band": (20.0, 60.0, 70.0),
            "zones": "1 ground, 2 bib", "cautions": ("Rags burn.",), "parts": ("Bib: drag it; lay it thin.",),
            "colours": (PassColour((200, 100, 50), 55.0, 50.0, 60.0, 0.75), PassColour((20, 20, 20), 8.0, 1.0, 0.0, 0.25)),
        }  # fmt: skip
        return Card(**{**given, **changes})

    def test_a_card_has_its_numbers_its_ladder_and_its_colours_by_their_share(self):
        (first,) = pass_pages(self.card())
        pen, _ = drawn(first)
        # Few parts stand on the card itself, below everything else and still on the paper.
        self.assertIn("drag it; lay it thin.", said(pen))
        self.assertLessEqual(max(y for _, _, y in pen.words), SIZE[1] - MARGIN + 2)
        for words in (
            "50 min",
            "L* 20 to 60, ceiling 70",
            "Laying order: 1 ground, 2 bib",
            "Rags burn.",
            "The large relation first.",
        ):
            self.assertIn(words, said(pen))
        steps = [box for box in pen.boxes if abs(box[3] - (170 / 20 - 1.6)) < 1e-6]
        self.assertEqual(len(steps), 20)
        self.assertEqual(sum(width == 32 for _, _, width, _ in steps), 8)
        swatches = [box for box in pen.boxes if box[3] == 17]
        self.assertEqual(len(swatches), 2)
        room = sum(width + 4 for _, _, width, _ in swatches)
        self.assertAlmostEqual(swatches[0][2] + 4, 24 + (room - 48) * 0.75, delta=0.01)
        self.assertEqual(len(pass_pages(self.card(parts=()))), 1)
        many = tuple(f"Part {k}: drag it." for k in range(8))
        self.assertEqual([len(pass_pages(self.card(parts=many + extra))) for extra in ((), ("Last: it.",))], [1, 2])
        below, _ = drawn(pass_pages(self.card(parts=many))[0])
        self.assertLessEqual(max(y for _, _, y in below.words), SIZE[1] - MARGIN + 2)

    def test_many_parts_are_written_smaller_so_that_none_is_lost(self):
        parts = tuple(f"Part {k}: {'lay it thin and drag it down and outward, ' * 3}end{k}." for k in range(34))
        self.assertEqual(len(pass_pages(self.card(parts=parts[:8]))), 2)
        seen = ""
        for draw in pass_pages(self.card(parts=parts))[1:]:
            pen, _ = drawn(draw)
            seen += said(pen)
            self.assertLessEqual(max(y for _, _, y in pen.words), SIZE[1] - MARGIN + 2)
        self.assertEqual([k for k in range(34) if f"end{k}." not in seen], [])


class Days(unittest.TestCase):
    inside = Pages.inside

    def test_every_sitting_is_on_one_page_and_none_is_cut(self):
        rows = tuple(
            SittingRow(
                f"day {k}", "19:00 to 21:30", tuple((f"19:{n:02d}", f"step {k}.{n}", "20 min") for n in range(4))
            )
            for k in range(30)
        )
        pages = [drawn(draw)[0] for draw in day_pages(DaySheet("Next: this.", rows, "The end."))]
        self.assertGreater(len(pages), 1)
        words = [said(pen) for pen in pages]
        for pen in pages:
            self.inside(pen)
        for k in range(30):
            here = [one for one in words if f"step {k}.0" in one]
            self.assertEqual(len(here), 1)
            self.assertIn(f"step {k}.3", here[0])
        self.assertEqual(
            [("Next" in one, "The end" in one) for one in (words[0], words[-1])], [(True, False), (False, True)]
        )

    def test_a_sitting_says_its_steps_what_is_kept_off_and_its_rules(self):
        steps = tuple(
            StepRow(f"19:{k:02d}", f"Top coat: part {k}", "20 min", ("piles 1 rust", "with 5 mm filbert"))
            for k in range(18)
        )
        off = tuple(f"area {k}: tacky" for k in range(14))
        sheet = SittingSheet("Sitting 7", "Sat 21 Mar", steps, off, ("Begin no new wet area after 20:35.",), "Rags.")
        pages = [drawn(draw)[0] for draw in sitting_pages(sheet)]
        for pen in pages:
            self.inside(pen)
        words = [said(pen) for pen in pages]
        self.assertGreater(len(pages), 1)
        self.assertIn("Begin no new wet area after 20:35.", words[0])
        self.assertNotIn("Begin no new", words[-1])
        self.assertTrue(all(any(f"part {k}" in one for one in words) for k in range(18)))
        self.assertIn("and 4 more", words[-1])
        self.assertIn("Rags.", words[-1])
        clocks = [y for text, _, y in pages[0].words if text.startswith("19:")]
        self.assertTrue(all(abs(a - b) > 40 for a, b in zip(clocks, clocks[1:], strict=False)))


if __name__ == "__main__":
    unittest.main()
