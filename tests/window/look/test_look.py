import itertools
import unittest
from dataclasses import fields

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFontInfo, QImage, QPainter, QPainterPath
from PySide6.QtTest import QTest

from foxpath.core.frame import Crop
from foxpath.window.look import draw, theme
from foxpath.window.picture.rulers import square_name
from foxpath.window.picture.viewport import Viewport
from foxpath.window.shell.app import make_app
from foxpath.window.shell.course import Course, short_name
from foxpath.window.shell.foot import Foot
from foxpath.window.shell.header import AIDS, Header
from foxpath.window.shell.keys import sections
from foxpath.window.shell.trail import Trail
from foxpath.window.stops import STOPS, shortcut_words
from tests.made import project

LEFT = Qt.MouseButton.LeftButton


def luminance(name):
    value = [QColor(name).redF(), QColor(name).greenF(), QColor(name).blueF()]
    r, g, b = (v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4 for v in value)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(a, b):
    low, high = sorted((luminance(a), luminance(b)))
    return (high + 0.05) / (low + 0.05)


def canvas(size=80):
    image = QImage(size, size, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(0)
    return image


class Tokens(unittest.TestCase):
    def setUp(self):
        self.app = make_app()

    def test_surfaces_do_not_tint_the_judgement(self):
        for one in (theme.DAY, theme.EVENING):
            for field in fields(one):
                if field.name == "name" or "russet" in field.name:
                    continue
                c = QColor(getattr(one, field.name))
                self.assertEqual((c.red(), c.red()), (c.green(), c.blue()), f"{one.name} {field.name}")

    def test_words_can_be_read(self):
        """4.5 to 1 or better for text, 3 to 1 for the russet marks, on every surface."""
        for one in (theme.DAY, theme.EVENING):
            for ground in ("base", "plate", "raised", "sunk", "hover"):
                surface = getattr(one, ground)
                self.assertGreaterEqual(contrast(one.text, surface), 7, ground)
                self.assertGreaterEqual(contrast(one.quiet, surface), 4.5, ground)
                self.assertGreaterEqual(contrast(one.russet, surface), 3.0, ground)
            for plate in (one.russet_plate, one.russet_hover, one.russet_pressed):
                self.assertGreaterEqual(contrast(one.on_russet, plate), 4.2)
            self.assertGreaterEqual(contrast(one.over_text, one.over_plate), 10)

    def test_the_bundled_typeface_with_tabular_figures(self):
        for weight in theme.WEIGHTS:
            self.assertEqual(QFontInfo(theme.font(14, weight)).family(), "Lato")
            self.assertEqual(len({draw.width_of(digit, 14, weight) for digit in "0123456789"}), 1)

    def test_words_are_written_smaller_before_they_are_cut(self):
        words = "4  mossy dark grey"
        usual = draw.width_of(words, 13.0, 700)
        self.assertEqual(draw.size_for(words, usual, 13.0, 700), 13.0)
        for share in (0.99, 0.93, 0.88):
            px = draw.size_for(words, share * usual, 13.0, 700)
            self.assertTrue(11 <= px < 13)
            self.assertLessEqual(draw.width_of(words, px, 700), share * usual)
            self.assertGreater(draw.width_of(words, px + 0.5, 700), share * usual)
        self.assertEqual(draw.size_for(words, 10.0, 13.0, 700), 11.0)
        self.assertEqual(draw.size_for(words, 10.0, 13.0, least=9.7), 9.7)

    def test_every_stop_and_aid_has_its_key_on_the_sheet(self):
        words = " ".join(f"{key} {what}" for _, keys in sections() for key, what in keys).lower()
        self.assertIn(shortcut_words(len(STOPS)).lower(), words)
        for _, aid, key in AIDS:
            self.assertIn(aid.split(" ")[0].lower(), words)
            self.assertIn(key.lower(), words)


class Marks(unittest.TestCase):
    def setUp(self):
        self.app = make_app()

    def painted(self, paint):
        image = canvas()
        with QPainter(image) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            paint(p)
        bits = np.frombuffer(image.constBits(), np.uint8).reshape(80, 80, 4)
        return bits[..., 3].astype(float) / 255

    def test_a_stroke_is_thick_at_the_root_and_fine_at_the_tip(self):
        ink = self.painted(lambda p: draw.stroke(p, draw.along(10, 40, 70, 40), 12, 2, "text"))
        columns = ink.sum(axis=0)
        self.assertGreater(columns[20], 2.2 * columns[62])
        self.assertEqual(columns[4], 0)

    def test_states_and_findings_differ_by_shape(self):
        shapes = [
            self.painted(lambda p, s=s: draw.state_mark(p, 40, 40, s, "text", "base"))
            for s in ("no", "begun", "ready", "you")
        ]
        shapes += [self.painted(lambda p, s=s: draw.finding_mark(p, 40, 40, s)) for s in ("must", "look", "note")]
        for a in range(len(shapes)):
            for b in range(a):
                self.assertGreater(np.abs(shapes[a] - shapes[b]).sum(), 8, (a, b))

    def test_a_ladder_is_wide_only_inside_its_band(self):
        image = canvas()
        with QPainter(image) as p:
            draw.ladder(p, QRectF(20, 4, 40, 72), 40, 70, 10, 6)
        well, edge = QColor(theme.theme().well), 26
        inside = image.pixelColor(edge, round(76 - 72 * 0.55))
        outside = image.pixelColor(edge, round(76 - 72 * 0.15))
        self.assertNotEqual(inside.red(), well.red())
        self.assertEqual(outside.red(), well.red())
        self.assertEqual(inside.red(), inside.blue())

    def test_hatch_stays_in_its_path(self):
        path = QPainterPath()
        path.addEllipse(QPointF(40, 40), 20, 20)
        ink = self.painted(lambda p: draw.hatch(p, path, 6))
        y, x = np.nonzero(ink > 0.1)
        self.assertGreater(len(y), 200)
        self.assertLess(np.hypot(y - 40, x - 40).max(), 22)

    def test_smooth_goes_through_its_knots(self):
        knots = [(0, 0), (10, 8), (20, 0), (34, 5)]
        line = draw.smooth(knots, 8)
        for k, knot in enumerate(knots):
            np.testing.assert_allclose(line[k * 8] if k < 3 else line[-1], knot, atol=1e-9)

    def test_comb_and_words_on_the_picture(self):
        ink = self.painted(lambda p: draw.comb(p, [(15, 60), (40, 40), (68, 30)]))
        self.assertGreater(ink[50:70, 8:24].sum(), 20)
        self.assertEqual(self.painted(lambda p: draw.comb(p, [(5, 5), (5.2, 5)])).sum(), 0)
        plates = []
        self.painted(lambda p: plates.append(draw.over_words(p, 40, 40, "27 mm", "c")))
        self.assertAlmostEqual(plates[0].center().x(), 40, delta=1)


class Maps(unittest.TestCase):
    def view(self, **flips):
        view = Viewport()
        view.region = Crop(100, 50, 400, 300)
        view.resize(QRectF(24, 24, 700, 500))
        view.mirrored, view.upside_down = flips.get("mirrored", False), flips.get("upside_down", False)
        view.turns = flips.get("turns", 0)
        view.fit()
        return view

    def test_there_and_back_however_it_is_turned(self):
        rng = np.random.default_rng(1)
        for mirrored, upside, turns in itertools.product((False, True), (False, True), range(4)):
            view = self.view(mirrored=mirrored, upside_down=upside, turns=turns)
            self.assertTrue(QRectF(view.room).contains(view.region_on_screen()))
            view.zoom(2.3, QPointF(300, 200))
            before = view.at((300, 200))
            view.pan(QPointF(40, -25))
            np.testing.assert_allclose((view.at((300, 200)) - before).toTuple(), (40, -25), atol=1e-6)
            for x, y in rng.random((20, 2)) * 600:
                back = view.to_reference(view.at((x, y)))
                np.testing.assert_allclose(back, (x, y), atol=1e-6)
                np.testing.assert_allclose(view.transform().map(QPointF(x, y)).toTuple(), view.at((x, y)).toTuple())

    def test_a_quarter_turn_is_clockwise_and_a_mirror_mirrors_what_is_seen(self):
        turned = self.view(turns=1)
        self.assertGreater(turned.at((100, 50)).x(), turned.at((100, 350)).x())
        self.assertLess(turned.at((100, 50)).y(), turned.at((500, 50)).y())
        both = self.view(turns=1, mirrored=True)
        self.assertLess(both.at((100, 50)).x(), both.at((100, 350)).x())
        self.assertLess(both.at((100, 50)).y(), both.at((500, 50)).y())

    def test_mirrors_swap_sides_in_place(self):
        plain, mirror = self.view(), self.view(mirrored=True)
        self.assertEqual(plain.region_on_screen(), mirror.region_on_screen())
        self.assertLess(plain.at((100, 50)).x(), plain.at((500, 50)).x())
        self.assertGreater(mirror.at((100, 50)).x(), mirror.at((500, 50)).x())

    def test_fitted_stays_fitted_and_the_picture_is_never_lost(self):
        view = self.view()
        view.resize(QRectF(24, 24, 300, 500))
        self.assertTrue(QRectF(view.room).contains(view.region_on_screen()))
        view.pan(QPointF(1e6, 1e6))
        self.assertTrue(QRectF(view.room).intersects(view.region_on_screen()))
        view.zoom(1e9, QPointF(100, 100))
        self.assertLessEqual(view.scale, 24)
        view.zoom(1e-9, QPointF(100, 100))
        self.assertGreater(view.region_on_screen().width(), 50)

    def test_squares_have_letters_and_numbers(self):
        made = project()
        step = 25 / made.mm_per_px
        self.assertEqual(square_name(made, 1, 1), "A 1")
        self.assertEqual(square_name(made, 2.5 * step, 1.5 * step), "C 2")
        self.assertEqual(square_name(made, -5, 10), "")


class Frame(unittest.TestCase):
    """The parts round the picture, each by mouse and by key."""

    def setUp(self):
        self.app = make_app()
        self.heard = []

    def show(self, widget, width, height):
        widget.resize(width, height)
        widget.show()
        self.app.processEvents()
        self.addCleanup(widget.deleteLater)
        widget.grab()
        return widget

    def test_trail(self):
        trail = self.show(Trail([(one.key, one.title) for one in STOPS]), 180, 800)
        trail.chosen.connect(self.heard.append)
        trail.menu_asked.connect(lambda: self.heard.append("menu"))
        x, y = trail._spots()[2]
        QTest.mouseClick(trail, LEFT, pos=QPointF(x + 40, y).toPoint())
        QTest.mouseClick(trail, LEFT, pos=QPointF(60, 20).toPoint())
        trail.set_readings({"growth": ("3 combs", "begun")}, "growth")
        QTest.keyClick(trail, Qt.Key.Key_Down)
        QTest.keyClick(trail, Qt.Key.Key_Up)
        self.assertEqual(self.heard, ["growth", "menu", "edges", "zones"])
        trail.narrow = True
        trail.resize(100, 700)
        trail.grab()

    def test_header(self):
        header = self.show(Header(), 1100, 40)
        header.aid_chosen.connect(self.heard.append)
        for key, box in list(header._boxes):
            QTest.mouseClick(header, LEFT, pos=box.center().toPoint())
            self.assertEqual(self.heard[-1], key)
        QTest.keyClick(header, Qt.Key.Key_Right)
        QTest.keyClick(header, Qt.Key.Key_Space)
        self.assertEqual(self.heard[-1], "greys")
        header.small = True
        header.set_words("A very long name of a painting that cannot fit", "50 × 40 cm", {"greys", "mirror"})
        header.grab()
        self.assertTrue(all(box.left() > 100 for _, box in header._boxes))

    def test_foot_says_stays_and_goes(self):
        foot = self.show(Foot(), 800, 26)
        foot.scrubbed.connect(self.heard.append)
        foot.say("Saved a.foxpath", "note")
        self.assertTrue(foot._quiet.isActive())
        foot.say("Not saved.", "must")
        self.assertFalse(foot._quiet.isActive())
        QTest.mouseClick(foot, LEFT)
        self.assertEqual(foot.said, "")
        foot.set_player(shown=True, playing=False, laid=50, total=100, hint="hold B")
        groove = foot._groove()
        QTest.mouseClick(foot, LEFT, pos=QPointF(groove.left() + groove.width() / 4, 13).toPoint())
        self.assertAlmostEqual(self.heard[-1], 0.25, delta=0.01)
        QTest.keyClick(foot, Qt.Key.Key_Right)
        self.assertAlmostEqual(self.heard[-1], 0.55, delta=0.01)
        foot.work("filling growth")
        foot.grab()

    def test_narrow_passes_go_by_a_short_name(self):
        names = ("Restated darks", "Top coat again", "White hair and glaze: second glaze", "Ground")
        self.assertEqual([short_name(name) for name in names], ["Restated", "Top 2", "second glaze", "Ground"])

    def test_course_scrolls_by_whole_passes_and_keeps_the_open_one_in_view(self):
        from foxpath.core.passes import ZoneFacts, plan_passes
        from foxpath.core.zones import KINDS

        kinds = ("background", "long-fur", "eye", "whisker")
        facts = [ZoneFacts(KINDS[k], KINDS[k].coat, 100, 50) for k in kinds]
        plans = plan_passes(facts, 500, {})
        course = self.show(Course(), 400, 108)
        course.chosen.connect(self.heard.append)
        small = {plans[0].role.key: np.full((92, 116, 3), 90, np.uint8)}
        course.set_course(plans, small, {plans[0].role.key}, (), plans[-1].role.key, 1.25)
        course.grab()
        self.assertGreater(course._first, 0)
        self.assertEqual(course._first + course._count(), len(plans))
        QTest.keyClick(course, Qt.Key.Key_Left)
        self.assertEqual(self.heard, [plans[-2].role.key])
        QTest.mouseClick(course, LEFT, pos=QPointF(20, 40).toPoint())
        self.assertEqual(self.heard[-1], plans[course._first].role.key)
        course.set_course((), {}, set(), (), "", 1.25)
        course.grab()
