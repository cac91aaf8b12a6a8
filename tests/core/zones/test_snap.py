import unittest
from functools import cache

import cv2
import numpy as np

from foxpath.core.curves import closed_curve
from foxpath.core.errors import AppError
from foxpath.core.reporting import Cancelled, Progress
from foxpath.core.zones import cut_part, fill, mend_part, snap

WIDTH, HEIGHT = 800, 600


def hairy(*, shown=True, seed=3):
    """A red coat of hair strokes, oval, on grey-green ground; without `shown` the ground bears the same coat. One's own to change."""
    rgb, oval = _hairy(shown=shown, seed=seed)
    return rgb.copy(), oval.copy()


@cache
def _hairy(*, shown, seed):
    rng = np.random.default_rng(seed)
    ground = cv2.GaussianBlur(rng.normal(0, 60, (HEIGHT, WIDTH)).astype(np.float32), (0, 0), 9)
    image = np.clip(np.array([104, 116, 108]) + ground[..., None], 0, 255).astype(np.uint8)
    y, x = np.mgrid[:HEIGHT, :WIDTH]
    oval = ((x - 400) / 210) ** 2 + ((y - 300) / 150) ** 2 < 1
    coat = np.full_like(image, (150, 84, 50))
    for at in rng.uniform((0, 0), (WIDTH, HEIGHT), (16000, 2)):
        tone = (np.array([165, 92, 55]) * rng.uniform(0.55, 1.35)).clip(0, 255)
        tip = at + (28, rng.normal(8, 5))
        cv2.line(coat, tuple(map(int, at)), tuple(map(int, tip)), tuple(map(float, tone)), 2, cv2.LINE_AA)
    return np.where(oval[..., None], coat, image) if shown else coat, oval


@cache
def two_toned(tone=(128, 112, 96), seed=3):
    """The same coat, whose right side is of another tone, on the same ground."""
    rgb, oval = hairy(seed=seed)
    side = oval & (np.arange(WIDTH)[None] > 440)
    image = rgb.copy()
    image[side] = np.clip(np.array(tone) + 0.5 * (rgb[side].astype(int) - np.array([140, 78, 47])), 0, 255)
    return image, oval, side


INSIDE = [np.array([[300.0, 300.0], [500.0, 310.0]])]
BEYOND = [np.array([[120.0, 100.0], [120.0, 500.0]]), np.array([[690.0, 100.0], [690.0, 500.0]])]


class Cutting(unittest.TestCase):
    def overlap(self, cut, truth, scale=1.0):
        found = fill(closed_curve(cut.points) / scale, truth.shape)
        return (found & truth).sum() / (found | truth).sum()

    def test_what_is_most_in_doubt_is_asked_for_and_one_dot_there_settles_it(self):
        inside = [np.array([[260.0, 300.0], [400.0, 310.0]])]
        for tone in ((128, 112, 96), (110, 104, 96)):
            rgb, oval, side = two_toned(tone)
            cut = cut_part(rgb, (WIDTH, HEIGHT), inside, BEYOND)
            self.assertLess(self.overlap(cut, oval), 0.8)
            x, y = cut.asks
            self.assertTrue(side[int(y), int(x)], tone)
            more = cut_part(rgb, (WIDTH, HEIGHT), [*inside, np.array([[x, y]])], BEYOND)
            self.assertGreater(self.overlap(more, oval), 0.95)
            self.assertIsNone(more.asks)
            # In reference pixels, whatever the picture's own.
            half = cut_part(rgb, (2 * WIDTH, 2 * HEIGHT), [2 * inside[0]], [2 * line for line in BEYOND])
            np.testing.assert_allclose(half.asks, (2 * x, 2 * y), atol=1e-6)

    def test_of_what_is_plain_nothing_is_asked(self):
        rgb, _ = hairy()
        cut = cut_part(rgb, (WIDTH, HEIGHT), INSIDE, BEYOND)
        self.assertIsNone(cut.asks)
        self.assertIsNone(mend_part(rgb, (WIDTH, HEIGHT), cut.points, INSIDE, []).asks)

    def test_a_patch_is_asked_about_and_not_a_line_of_cells(self):
        aim, undecided = np.ones((100, 200), np.float32), np.zeros((100, 200), bool)
        aim[:, 40] = 0.5
        self.assertIsNone(snap._most_in_doubt(aim, undecided))
        # As likely as not over a patch: its middle. Where the two looks come to different ends beside: there.
        aim[20:40, 60:80] = 0.5
        np.testing.assert_allclose(snap._most_in_doubt(aim, undecided), (70.5, 30.5), atol=1)
        aim[60:80, 150:170] = 0.3
        undecided[60:80, 150:170] = True
        np.testing.assert_allclose(snap._most_in_doubt(aim, undecided), (160.5, 70.5), atol=1)
        aim[60:80, 150:170] = 0.05
        np.testing.assert_allclose(snap._most_in_doubt(aim, undecided), (160.5, 70.5), atol=1)
        undecided[:] = False
        np.testing.assert_allclose(snap._most_in_doubt(aim, undecided), (70.5, 30.5), atol=1)

    def test_two_kinds_of_scribble_find_a_coat(self):
        rgb, oval = hairy()
        cut = cut_part(rgb, (WIDTH, HEIGHT), INSIDE, BEYOND)
        self.assertGreater(self.overlap(cut, oval), 0.94)
        self.assertGreater(cut.shown_share, 0.9)
        self.assertLessEqual(len(cut.points), 72)

    def test_a_reduced_picture_gives_the_same_outline_in_reference_pixels(self):
        rgb, oval = hairy()
        small = cv2.resize(rgb, (WIDTH // 2, HEIGHT // 2), interpolation=cv2.INTER_AREA)
        cut = cut_part(small, (WIDTH * 2, HEIGHT * 2), [2 * s for s in INSIDE], [2 * s for s in BEYOND])
        self.assertGreater(self.overlap(cut, oval, 2.0), 0.92)

    def test_where_the_picture_shows_no_border_the_cut_says_so(self):
        rgb, _ = hairy(shown=False)
        cut = cut_part(rgb, (WIDTH, HEIGHT), INSIDE, BEYOND)
        self.assertLess(cut.shown_share, 0.4)
        # It keeps between the scribbles.
        self.assertTrue(((cut.points[:, 0] > 120) & (cut.points[:, 0] < 690)).all())

    def test_dots_do_as_well_as_strokes(self):
        rgb, oval = hairy()
        dots = [np.array([at]) for at in ((330.0, 300.0), (400.0, 300.0), (480.0, 310.0))]
        beyond = [np.array([at]) for at in ((120.0, 100.0), (690.0, 500.0))]
        self.assertGreater(self.overlap(cut_part(rgb, (WIDTH, HEIGHT), dots, beyond), oval), 0.92)

    def test_what_lies_out_of_focus_is_beyond_though_its_colour_is_the_same(self):
        """A coat before the same coat far behind it: only sharpness tells them apart."""
        rgb, _ = hairy(shown=False)
        _, oval = hairy()
        soft = cv2.GaussianBlur(rgb, (0, 0), 7)
        seen = np.where(oval[..., None], rgb, soft)
        dots = [np.array([at]) for at in ((330.0, 250.0), (400.0, 300.0), (480.0, 350.0), (300.0, 330.0))]
        beyond = [np.array([at]) for at in ((60.0, 60.0), (740.0, 60.0), (60.0, 540.0), (740.0, 540.0))]
        self.assertGreater(self.overlap(cut_part(seen, (WIDTH, HEIGHT), dots, beyond), oval), 0.85)

    def test_a_stroke_beyond_takes_off(self):
        rgb, oval = hairy()
        half = [np.array([[470.0, 180.0], [470.0, 430.0]])]
        cut = cut_part(rgb, (WIDTH, HEIGHT), [np.array([[300.0, 300.0], [380.0, 300.0]])], BEYOND + half)
        self.assertLess(cut.points[:, 0].max(), 475)
        found = fill(closed_curve(cut.points), oval.shape)
        self.assertTrue(found[300, 300:380].all())
        self.assertGreater((found & oval).sum() / found.sum(), 0.95)

    def test_without_any_beyond_what_lies_further_off_stands_for_it(self):
        rgb, oval = hairy()
        for beyond in ([], [np.array([[-90.0, -90.0], [-80.0, -90.0]])]):
            cut = cut_part(rgb, (WIDTH, HEIGHT), INSIDE, beyond)
            self.assertGreater(self.overlap(cut, oval), 0.9)

    def test_a_part_may_lie_all_round_another_but_has_no_holes(self):
        rgb, oval = hairy()
        cut = cut_part(rgb, (WIDTH, HEIGHT), BEYOND, [], others=INSIDE)
        found = fill(closed_curve(cut.points), oval.shape)
        self.assertGreater(found[oval].mean(), 0.99)
        with self.assertRaisesRegex(AppError, "no holes"):
            cut_part(rgb, (WIDTH, HEIGHT), BEYOND, INSIDE)

    def test_nothing_inside_is_told(self):
        rgb, _ = hairy()
        for within in ([], [np.array([[-500.0, -500.0], [-450.0, -480.0]])]):
            with self.assertRaisesRegex(AppError, "Nothing marks the inside"):
                cut_part(rgb, (WIDTH, HEIGHT), within, BEYOND)
        with self.assertRaises(Cancelled):
            cut_part(rgb, (WIDTH, HEIGHT), INSIDE, BEYOND, Progress(cancelled=lambda: True))


def standing(*, leaks=True):
    """A brown body on two legs before grey-blue; with `leaks` it stands on stones of its own colour, which close the ground between the legs."""
    rng = np.random.default_rng(4)
    image = np.clip(rng.normal((120, 130, 150), 4, (HEIGHT, WIDTH, 3)), 0, 255)
    body = np.zeros((HEIGHT, WIDTH), np.uint8)
    cv2.ellipse(body, (400, 230), (240, 110), 0, 0, 360, 1, -1)
    for left in (230, 500):
        cv2.rectangle(body, (left, 280), (left + 70, 545), 1, -1)
    coat = rng.normal((150, 105, 70), 7, image.shape)
    image = np.where(body[..., None] > 0, coat, image)
    if leaks:
        image[546:] = rng.normal((158, 116, 82), 7, image[546:].shape)
    return np.clip(image, 0, 255).astype(np.uint8), body > 0


BODY = [
    np.array([[x, y], [x + 30.0, y]])
    for x, y in ((220.0, 220.0), (380.0, 180.0), (520.0, 250.0), (250.0, 380.0), (525.0, 400.0))
]
AROUND = [np.array([[x, y], [x + 30.0, y]]) for x, y in ((60.0, 60.0), (700.0, 60.0), (60.0, 420.0), (720.0, 420.0))]


class Pockets(unittest.TestCase):
    def test_ground_between_the_legs_stays_out_though_a_leak_closes_it(self):
        for leaks, more in ((True, [np.array([[400.0, 450.0]])]), (False, [])):
            rgb, body = standing(leaks=leaks)
            cut = cut_part(rgb, (WIDTH, HEIGHT), BODY, AROUND + more)
            found = fill(closed_curve(cut.points), body.shape)
            self.assertLess(found[380:500, 330:470].mean(), 0.05, leaks)
            self.assertGreater(found[body].mean(), 0.93, leaks)

    def test_a_ring_that_was_scribbled_is_a_ring(self):
        rgb, _ = hairy()
        cv2.circle(rgb, (400, 300), 30, (90, 110, 100), -1)
        around = [np.array([[300.0, 220.0], [500.0, 220.0], [500.0, 380.0], [300.0, 380.0], [300.0, 220.0]])]
        with self.assertRaisesRegex(AppError, "no holes"):
            cut_part(rgb, (WIDTH, HEIGHT), around, [*BEYOND, np.array([[400.0, 300.0]])])

    def test_a_ring_is_opened_at_its_weakest_and_no_wider_than_needed(self):
        walk = np.zeros((60, 80), np.float32)
        walk[10:50, 10:70] = 1.0
        walk[22:38, 30:50] = 0.1
        walk[38:50, 44:47] = 0.6
        nothing = np.zeros(walk.shape, bool)
        made = snap._opened(walk, nothing, nothing, nothing)
        self.assertTrue((made[40:50, 44:47] < 0.5).any(axis=1).all())
        closed = (walk > 0.5) & (made <= 0.5)
        self.assertLess(closed.sum(), 80)
        self.assertFalse(closed[:, :40].any())
        # Firm all round, or behind a scribble, it stays.
        firm = np.where(walk == np.float32(0.6), np.float32(snap.WEAK + 0.1), walk)
        np.testing.assert_array_equal(snap._opened(firm, nothing, nothing, nothing), firm)
        np.testing.assert_array_equal(snap._opened(walk, walk == np.float32(0.6), nothing, nothing), walk)
        # Another part lies in it: this one lies all round it, behind.
        part = nothing.copy()
        part[30, 40] = True
        np.testing.assert_array_equal(snap._opened(walk, nothing, nothing, part), walk)

    def test_what_is_small_and_unmarked_is_left_for_a_fold(self):
        walk = np.zeros((60, 80), np.float32)
        walk[10:50, 10:70] = 1.0
        walk[28:32, 38:42] = 0.1
        walk[32:50, 40] = 0.6
        nothing = np.zeros(walk.shape, bool)
        np.testing.assert_array_equal(snap._opened(walk, nothing, nothing, nothing), walk)
        scribbled = nothing.copy()
        scribbled[30, 40] = True
        self.assertTrue((snap._opened(walk, nothing, scribbled, nothing)[32:50, 40] < 0.5).all())


class SecondLook(unittest.TestCase):
    """Each of what it goes by alone, on ground that is otherwise alike: two dots, that within on the left."""

    def look(self, *, lab=None, sharp=None, walk=None, within=(20, 20), beyond=(20, 59)):
        shape = (41, 80)
        lab = np.full((*shape, 3), 50, np.float32) if lab is None else lab
        sharp = np.zeros(shape, np.float32) if sharp is None else sharp
        room = np.ones(shape, np.float32)
        ground = snap._Ground(lab, sharp, room, room, np.zeros(2), np.ones(2))
        marked, side = np.zeros(shape, bool), np.zeros(shape, np.float32)
        marked[within] = marked[beyond] = True
        side[within] = 1
        walk = np.full(shape, 0.5, np.float32) if walk is None else walk
        return snap._second_look(ground, marked, side, np.where(marked, side, walk).astype(np.float32))

    def odds(self, share):
        return np.log(share / (1 - share))

    def test_what_is_nearer_to_a_scribble_is_likelier_its_own(self):
        said = self.odds(self.look())
        self.assertGreater(said[20, 25], said[20, 39])
        self.assertGreater(said[20, 39], said[20, 54])
        # Halfway both are as near, and only the bias and the colours speak, which here say beyond.
        self.assertAlmostEqual(
            float(said[5, 39] + said[5, 40]) / 2, snap.AGAIN["bias"] - snap.AGAIN["colours"], delta=0.05
        )

    def test_the_walk_counts_by_its_odds(self):
        low, high = (self.look(walk=np.full((41, 80), share, np.float32)) for share in (0.2, 0.4))
        rise = self.odds(high)[5, 40] - self.odds(low)[5, 40]
        self.assertAlmostEqual(float(rise), snap.AGAIN["walk"] * (np.log(0.4 / 0.6) - np.log(0.2 / 0.8)), delta=1e-3)

    def test_sharp_as_the_scribbles_within_is_likelier_within(self):
        sharp = np.zeros((41, 80), np.float32)
        sharp[:, :40] = 10.0
        sharp[35, 60] = 10.0
        plain, told = self.odds(self.look()), self.odds(self.look(sharp=sharp))
        self.assertAlmostEqual(float(told[35, 60] - plain[35, 60]), snap.AGAIN["sharp"], delta=1e-3)
        self.assertAlmostEqual(float(told[35, 70] - plain[35, 70]), -snap.AGAIN["sharp"], delta=1e-3)

    def test_colours_are_gathered_from_all_that_the_walk_found(self):
        # Half of the coat is of a colour that no scribble touched; the walk took it in.
        lab = np.full((41, 80, 3), (60, 0, 0), np.float32)
        lab[:, :40] = (40, 30, 30)
        lab[:, :10] = (20, 5, 5)
        lab += np.random.default_rng(1).normal(0, 1, lab.shape).astype(np.float32)
        walk = np.where(np.arange(80) < 40, 0.8, 0.2) * np.ones((41, 1))
        # A speck of it far on the other side is like what was found.
        lab[8:16, 66:74] = lab[8:16, :8]
        said = self.look(lab=lab, walk=walk.astype(np.float32))
        plain = self.look(lab=np.full((41, 80, 3), 50, np.float32), walk=walk.astype(np.float32))
        self.assertGreater(float(said[12, 70]), float(plain[12, 70]))
        self.assertLess(float(said[30, 70]), 0.5)
        self.assertGreater(float(said[12, 4]), 0.5)


class Mending(unittest.TestCase):
    """An outline that follows the coat's left half but misses its right, and one that takes in too much."""

    @classmethod
    def setUpClass(cls):
        cls.rgb, cls.oval = hairy()
        turn = np.linspace(0, 2 * np.pi, 24, endpoint=False)
        cls.whole = np.stack([400 + 210 * np.cos(turn), 300 + 150 * np.sin(turn)], axis=1)

    def score(self, points):
        found = fill(closed_curve(points), self.oval.shape)
        return (found & self.oval).sum() / (found | self.oval).sum()

    def test_a_stroke_within_grows_the_part_to_the_pictures_border(self):
        short = np.stack([np.minimum(self.whole[:, 0], 480), self.whole[:, 1]], axis=1)
        self.assertLess(self.score(short), 0.8)
        cut = mend_part(
            self.rgb, (WIDTH, HEIGHT), short, [np.array([[560.0, 200.0], [580.0, 300.0], [560.0, 400.0]])], []
        )
        self.assertGreater(self.score(cut.points), 0.94)
        # Points far from the stroke are the painter's own, to the hundredth.
        left = short[short[:, 0] < 300]
        gap = np.hypot(*(left[:, None] - cut.points[None]).transpose(2, 0, 1)).min(axis=1)
        self.assertLess(gap.max(), 1e-6)

    def test_a_stroke_beyond_takes_off_down_to_the_border(self):
        large = np.stack([np.where(self.whole[:, 0] > 400, 400 + (self.whole[:, 0] - 400) * 1.6, self.whole[:, 0]),
                          self.whole[:, 1]], axis=1)  # fmt: skip
        self.assertLess(self.score(large), 0.8)
        cut = mend_part(
            self.rgb, (WIDTH, HEIGHT), large, [], [np.array([[650.0, 160.0], [690.0, 300.0], [650.0, 440.0]])]
        )
        self.assertGreater(self.score(cut.points), 0.94)

    def test_without_a_stroke_the_border_settles(self):
        rough = self.whole + np.random.default_rng(2).normal(0, 7, self.whole.shape)
        before = self.score(rough)
        cut = mend_part(self.rgb, (WIDTH, HEIGHT), rough, [], [])
        self.assertGreater(self.score(cut.points), before + 0.01)
        self.assertGreater(self.score(cut.points), 0.95)

    def test_a_stroke_that_runs_out_over_the_border_opens_the_part(self):
        cut = mend_part(self.rgb, (WIDTH, HEIGHT), self.whole, [], [np.array([[400.0, 320.0], [400.0, 500.0]])])
        found = fill(closed_curve(cut.points), self.oval.shape)
        self.assertFalse(found[330:450, 400].any())
        self.assertGreater((found & self.oval).sum() / self.oval.sum(), 0.5)
        self.assertTrue(found[300, 230] and found[300, 570])

    def test_a_hole_is_refused(self):
        with self.assertRaisesRegex(AppError, "no holes"):
            mend_part(self.rgb, (WIDTH, HEIGHT), self.whole, [], [np.array([[380.0, 300.0], [420.0, 300.0]])])
