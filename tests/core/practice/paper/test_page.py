"""A sheet's own page: where everything on it lies, and how a photograph of it is read, step by step."""

import unittest

import cv2
import numpy as np

from foxpath.core.errors import AppError
from foxpath.core.practice.paper.page import (
    BITS,
    CELL_MM,
    CODE_Y_MM,
    HOLE_MM,
    MARK_IN_MM,
    MARK_MM,
    READ_PX_PER_MM,
    Flat,
    Paper,
    Picture,
    Printed,
    Shape,
    _agree,
    _flat,
    _grey_at,
    _number,
    _refined,
    _solid,
    _squares,
    _through,
    box,
    coded,
    decoded,
    drawn,
    frame,
    laid_flat,
    size_number,
)

A4 = Paper(2, 4711, 210.0, 297.0)
PX = 6.0
"""Pixels of a photograph taken square on for a millimetre."""


def printed(paper=A4, *shapes, pictures=()):
    return Printed(paper, (*frame(paper), *shapes), (), tuple(pictures))


def photographed(sheet=None, margin=60, table=90):
    """A sheet on a table, square on, and the map from its millimetres to the photograph's pixels."""
    made = drawn(printed(), PX) if sheet is None else sheet
    shot = np.full((made.shape[0] + 2 * margin, made.shape[1] + 2 * margin, 3), table, np.uint8)
    shot[margin:-margin, margin:-margin] = made
    # A pixel's middle is its own place.
    return shot, np.array([[PX, 0, margin - 0.5], [0, PX, margin - 0.5], [0, 0, 1.0]])


class Places(unittest.TestCase):
    def test_marks_stand_at_the_corners_clockwise(self):
        a, w, h = MARK_IN_MM, A4.width, A4.height
        np.testing.assert_array_equal(A4.marks(), [(a, a), (w - a, a), (w - a, h - a), (a, h - a)])
        corners = A4.corners()
        self.assertEqual(corners.shape, (4, 4, 2))
        for middle, four in zip(A4.marks(), corners, strict=True):
            half = MARK_MM / 2
            x, y = middle
            np.testing.assert_array_equal(
                four, [(x - half, y - half), (x + half, y - half), (x + half, y + half), (x - half, y + half)]
            )
            self.assertEqual(box((x, y), half), tuple(map(tuple, four)))

    def test_the_number_s_cells_stand_in_a_row_in_the_middle(self):
        cells = A4.cells()
        self.assertEqual(cells.shape, (BITS, 2))
        np.testing.assert_allclose(np.diff(cells[:, 0]), CELL_MM)
        self.assertAlmostEqual(cells[:, 0].mean(), A4.width / 2)
        self.assertTrue((cells[:, 1] == CODE_Y_MM).all())

    def test_sheets_printed_once_are_read_for_ever(self):
        self.assertEqual("".join("01"[b] for b in coded(2, 9)), "00100000000000001001010110")
        self.assertEqual("".join("01"[b] for b in A4.code()[:20]), "0100" + f"{4711:016b}")
        self.assertEqual(Paper(2, 4711, 215.9, 279.4).code()[:4], (False, True, False, True))
        self.assertIsNone(decoded([False] * 25 + [True]))
        self.assertEqual([size_number(w) for w in (205, 210, 212.9, 213, 230)], [0, 0, 0, 1, 1])

    def test_only_the_first_mark_has_a_hole(self):
        shapes = frame(A4)
        self.assertEqual([one.tone for one in shapes[:5]], [0, 0, 0, 0, 1])
        self.assertEqual(shapes[4].points, box((MARK_IN_MM, MARK_IN_MM), HOLE_MM / 2))
        on = [k for k, bit in enumerate(A4.code()) if bit]
        self.assertEqual(len(shapes), 5 + len(on))
        for one, k in zip(shapes[5:], on, strict=True):
            np.testing.assert_allclose(np.mean(one.points, axis=0), A4.cells()[k])
            self.assertAlmostEqual(np.ptp([x for x, _ in one.points]), CELL_MM)


class Drawn(unittest.TestCase):
    def test_areas_and_lines_lie_at_their_millimetres(self):
        square = Shape(((50, 100), (70, 100), (70, 110), (50, 110)), 0.5)
        line = Shape(((50, 200), (150, 200)), 0.2, 2.0)
        made = drawn(Printed(A4, (square, line), ()), 4.0)
        self.assertEqual(made.shape, (1188, 840, 3))
        dark = 255 - made[..., 0].astype(float)
        part = dark[390:450, 190:290]
        # 20 by 10 mm of half tone; a filled outline takes its rim's pixels too.
        self.assertAlmostEqual(part.sum() / (255 - round(127.5)) / 16, 200, delta=12)
        rows, columns = np.nonzero(part > 100)
        self.assertAlmostEqual(rows.mean() + 390.5, 4 * 105, delta=0.6)
        self.assertAlmostEqual(columns.mean() + 190.5, 4 * 60, delta=0.6)
        column = dark[780:820, 400]
        self.assertAlmostEqual(column.sum() / (255 - 51) / 4, 2, delta=0.45)
        self.assertAlmostEqual((column * np.arange(780.5, 820)).sum() / column.sum(), 800, delta=0.6)
        self.assertEqual(dark[800, 190], 0)
        self.assertEqual(dark[800, 610], 0)
        thin = drawn(Printed(A4, (Shape(((50, 200), (150, 200)), 0.0, 0.01),), ()), 4.0)
        self.assertGreater((255 - thin[780:820, 400, 0].astype(float)).sum(), 200)

    def test_pictures_are_laid_at_true_size_and_end_at_the_paper(self):
        rgb = np.zeros((20, 30, 3), np.uint8)
        rgb[..., 0] = 200
        made = drawn(
            printed(pictures=[Picture(rgb, (60.0, 100.0, 30.0, 20.0)), Picture(rgb, (200.0, 290.0, 30.0, 20.0))]), 2.0
        )
        red = (made == (200, 0, 0)).all(axis=-1)
        rows, columns = np.nonzero(red[:500])
        self.assertEqual((rows.min(), rows.max() + 1, columns.min(), columns.max() + 1), (200, 240, 120, 180))
        rows, columns = np.nonzero(red[500:])
        self.assertEqual((rows.min() + 500, rows.max() + 501, columns.min(), columns.max() + 1), (580, 594, 400, 420))
        for small in ((60.0, 100.0, 0.4, 20.0), (60.0, 100.0, 20.0, 0.4)):
            self.assertEqual(int((drawn(printed(pictures=[Picture(rgb, small)]), 2.0) == (200, 0, 0)).all(-1).sum()), 0)

    def test_a_part_is_cut_by_millimetres(self):
        k = READ_PX_PER_MM
        lab = np.zeros((round(297 * k), round(210 * k), 3), np.float32)
        lab[..., 0] = np.arange(lab.shape[0])[:, None]
        lab[..., 1] = np.arange(lab.shape[1])[None]
        part = Flat(A4, lab).cut(20.0, 50.0, 30.0, 10.0)
        self.assertEqual(part.shape, (80, 240, 3))
        self.assertEqual(tuple(part[0, 0, :2]), (400, 160))
        self.assertEqual(tuple(part[-1, -1, :2]), (479, 399))


class Squares(unittest.TestCase):
    def paper(self, *draw):
        grey = np.full((1600, 1200), 235, np.uint8)
        for one in draw:
            one(grey)
        return grey

    @staticmethod
    def square(x, y, side, tone=30, tall=1.0, turn=0.0):
        a = np.radians(turn)
        way = np.array([[np.cos(a), np.sin(a)], [-np.sin(a), np.cos(a)]])
        at = np.array([(-1, -1), (1, -1), (1, 1), (-1, 1)]) * (side / 2, side * tall / 2) @ way + (x, y)
        return lambda grey: cv2.fillPoly(grey, [np.round(at).astype(np.int32)], tone)

    def middles(self, *draw):
        return [tuple(np.round(one.mean(axis=0))) for one in _squares(self.paper(*draw))]

    def test_dark_squares_are_found_largest_first_whichever_way_they_lie(self):
        for turn in (0, 20, 45):
            at = self.middles(self.square(300, 400, 40, turn=turn), self.square(800, 500, 60, turn=turn))
            self.assertEqual(at, [(800, 500), (300, 400)])
        # Between a twenty thousandth and a fiftieth of the picture: 10 to 196 px.
        for side, told in ((8, 0), (13, 1), (120, 1), (210, 0)):
            self.assertEqual(len(self.middles(self.square(600, 800, side))), told, side)

    def test_what_is_no_square_is_left_out(self):
        self.assertEqual(len(self.middles(self.square(600, 800, 40, tall=1.8))), 1)
        self.assertEqual(self.middles(self.square(600, 800, 40, tall=2.6)), [])
        self.assertEqual(
            self.middles(lambda g: cv2.fillPoly(g, [np.array([(560, 840), (640, 840), (600, 770)])], 30)), []
        )
        dart = np.array([(560, 760), (640, 800), (560, 840), (590, 800)])
        self.assertEqual(self.middles(lambda g: cv2.fillPoly(g, [dart], 30)), [])
        # Hardly darker than the paper it is none.
        self.assertEqual(self.middles(self.square(600, 800, 40, tone=225)), [])

    def test_a_mark_is_dark_all_round_and_has_bare_paper_about_it(self):
        four = np.array([(580.0, 780.0), (620, 780), (620, 820), (580, 820)])
        whole = self.square(600, 800, 40)
        self.assertTrue(_solid(self.paper(whole), four))
        hole = self.square(600, 800, 15, tone=235)
        self.assertTrue(_solid(self.paper(whole, hole), four))
        self.assertFalse(_solid(self.paper(whole, self.square(600, 800, 28, tone=235)), four))
        # One side of four is bare.
        self.assertFalse(
            _solid(self.paper(whole, lambda g: g.__setitem__((slice(780, 793), slice(580, 621)), 235)), four)
        )
        crowd = self.paper(lambda g: g.fill(45), whole)
        self.assertFalse(_solid(crowd, four))
        # Print beside a third of it is no harm.
        self.assertTrue(
            _solid(self.paper(whole, lambda g: g.__setitem__((slice(760, 780), slice(570, 600)), 30)), four)
        )


class Reading(unittest.TestCase):
    def test_points_go_through_a_map(self):
        shape = np.array([[2.0, 0.5, 3], [0.1, 3, -2], [0.001, 0.002, 1]])
        at = np.array([[10.0, 20], [30, 5]])
        want = np.c_[at, [1, 1]] @ shape.T
        np.testing.assert_allclose(_through(shape, at), want[:, :2] / want[:, 2:], rtol=1e-6)

    def test_squares_must_have_their_corners_where_the_others_say(self):
        shape = np.diag([PX, PX, 1.0])
        found = list(A4.corners() * PX)
        self.assertTrue(_agree(A4, shape, found))
        # In whichever order each one's corners were followed.
        self.assertTrue(_agree(A4, shape, [np.roll(one, k, axis=0)[:: 1 - 2 * (k % 2)] for k, one in enumerate(found)]))
        side = MARK_MM * PX
        for share, told in ((0.28, True), (0.32, False)):
            off = [one.copy() for one in found]
            off[2][2] += (share * side, 0)
            self.assertEqual(_agree(A4, shape, off), told, share)

    def test_grey_is_the_mean_of_three_by_three_pixels(self):
        rng = np.random.default_rng(1)
        rgb = rng.integers(0, 255, (12, 16, 3)).astype(np.uint8)
        got = _grey_at(rgb, np.array([[5.4, 3.6], [14.4, 10.4], [1.0, 1.0]]))
        np.testing.assert_allclose(got, [rgb[3:6, 4:7].mean(), rgb[9:12, 13:16].mean(), rgb[0:3, 0:3].mean()])
        for at in ((0.4, 5), (14.6, 5), (5, 0.4), (5, 10.6), (-3, 5), (5, 40)):
            self.assertIsNone(_grey_at(rgb, np.array([[5.0, 5.0], at])), at)

    def test_a_number_is_read_where_all_marks_are_right(self):
        shot, shape = photographed()
        self.assertEqual(_number(shot, A4, shape), (4, 4711))

        def with_mark(k, tone, half=HOLE_MM / 2, dx=0.0):
            made = shot.copy()
            x, y = A4.marks()[k]
            x0, y0 = (round(float(v)) for v in _through(shape, np.array([[x + dx - half, y - half]]))[0])
            made[y0 : y0 + round(2 * half * PX), x0 : x0 + round(2 * half * PX)] = tone
            return made

        for k in range(4):
            # The first one must be open, and only that.
            self.assertEqual(_number(with_mark(k, 0), A4, shape) is None, k == 0, k)
            self.assertEqual(_number(with_mark(k, 255), A4, shape) is None, k > 0, k)
        # And dark on its right, not bare all over.
        self.assertIsNone(_number(with_mark(0, 255, MARK_MM / 2), A4, shape))
        self.assertIsNone(_number(with_mark(0, 255, 1.0, 0.38 * MARK_MM), A4, shape))
        self.assertIsNotNone(_number(with_mark(0, 255, 1.0, -0.38 * MARK_MM), A4, shape))
        beyond = shape.copy()
        beyond[0, 2] -= 400
        self.assertIsNone(_number(shot, A4, beyond))

    def test_a_dim_photograph_is_read_by_its_own_paper(self):
        shot, shape = photographed()
        for share in (0.35, 0.7):
            self.assertEqual(_number(np.asarray(shot * share, np.uint8), A4, shape), (4, 4711))
        # Cells are held against the paper below each: light that falls off along them is no harm.
        fall = np.linspace(1, 0.3, shot.shape[1])[None, :, None]
        self.assertEqual(_number(np.asarray(shot * fall, np.uint8), A4, shape), (4, 4711))

    def test_all_sixteen_corners_make_it_exact(self):
        shot, shape = photographed()
        rough = shape.copy()
        rough[0, 2] += 4
        rough[1, 2] -= 5
        rough[2, 0] = 2e-6
        exact = _refined(shot, A4, rough)
        at = _through(exact, A4.corners().reshape(-1, 2))
        np.testing.assert_allclose(at, _through(shape, A4.corners().reshape(-1, 2)), atol=0.6)

    def test_the_light_is_taken_out(self):
        shot, shape = photographed()
        y, x = np.mgrid[: shot.shape[0], : shot.shape[1]] / shot.shape[0]
        lit = shot * (0.55 + 0.4 * x[..., None]) * np.array((1.0, 0.9, 0.75)) * (1 - 0.2 * y[..., None])
        flat = _flat(np.asarray(lit, np.uint8), A4, shape)
        self.assertEqual(flat.lab.shape[:2], (round(297 * READ_PX_PER_MM), round(210 * READ_PX_PER_MM)))
        for at in ((30, 60), (150, 60), (30, 200), (150, 260)):
            bare = flat.cut(*at, 20, 10).reshape(-1, 3)
            np.testing.assert_allclose(bare.mean(axis=0), (95.5, 0, 0), atol=2)
        # What lies at so many mm lies there on the flat sheet.
        x, y = A4.marks()[2]
        dark = flat.cut(x - 8, y - 8, 16, 16)[..., 0] < 50
        rows, columns = np.nonzero(dark)
        np.testing.assert_allclose([columns.mean(), rows.mean()], 8 * READ_PX_PER_MM, atol=0.8)
        self.assertAlmostEqual(np.sqrt(dark.sum()) / READ_PX_PER_MM, MARK_MM, delta=0.4)


class Whole(unittest.TestCase):
    def test_each_size_is_told_from_the_other(self):
        for size in ((210.0, 297.0), (215.9, 279.4)):
            paper = Paper(3, 99, *size)
            shot, _ = photographed(drawn(printed(paper), PX))
            for turned in (shot, np.ascontiguousarray(np.rot90(shot)), np.ascontiguousarray(shot[::-1, ::-1])):
                self.assertEqual(laid_flat(turned).paper, paper)
            # In a mirror it is another sheet, and none.
            with self.assertRaises(AppError):
                laid_flat(np.ascontiguousarray(shot[:, ::-1]))

    def test_a_mark_far_smaller_than_the_others_is_no_mark(self):
        sheet = drawn(printed(), PX)
        x, y = (round(float(v) * PX) for v in A4.marks()[2])
        sheet[y - 40 : y + 40, x - 40 : x + 40] = 255
        sheet[y - 12 : y + 12, x - 12 : x + 12] = 0
        with self.assertRaises(AppError):
            laid_flat(photographed(sheet)[0])

    def test_other_dark_squares_beside_the_marks_do_not_matter(self):
        more = [Shape(box((40.0 + 30 * k, 120.0), 3.0 + k)) for k in range(5)]
        shot, _ = photographed(drawn(printed(A4, *more), PX))
        self.assertEqual(laid_flat(shot).paper, A4)


if __name__ == "__main__":
    unittest.main()
