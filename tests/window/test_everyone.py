"""The window for everyone: whatever the bench says can be read aloud, every control is named and reached by keys, in every stop."""

import unittest

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QAccessible, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QScrollArea, QWidget

from foxpath.demo import demo_project
from foxpath.document import edits
from foxpath.window.bench.controls import Control
from foxpath.window.bench.rows import Gestures, Judgement, NextStep, Row, Rows, Section, Shingles, Words
from foxpath.window.shell.app import demo_image
from foxpath.window.shell.keys import KeySheet, sections
from foxpath.window.shell.trail import NARROW, WIDE, Trail
from foxpath.window.stops import STOPS, StopSpec, next_of, shortcut_of, shortcut_words
from foxpath.window.work.files import with_ending
from tests.made import project, quick
from tests.window.case import WindowCase

LEFT = Qt.MouseButton.LeftButton


class EveryStop(WindowCase):
    def setUp(self):
        super().setUp()
        self.session.start(quick(project()), None, on_disk=True)
        self.readings()

    def shown(self, cls):
        return [one for one in self.window.bench.findChildren(cls) if one.isVisible() and one.width() > 0]

    def test_what_is_painted_is_also_said_and_every_control_has_a_name_and_takes_the_keys(self):
        self.session.start(demo_project("jay"), None, on_disk=True)
        for spec in STOPS:
            with self.subTest(stop=spec.key):
                self.window.open_stop(spec.key)
                self.readings()
                said = 0
                for cls in (Section, Words, NextStep, Judgement, Gestures):
                    for one in self.shown(cls):
                        if (isinstance(one, Words) and not one.words) or (isinstance(one, Judgement) and not one.says):
                            continue
                        interface = QAccessible.queryAccessibleInterface(one)
                        self.assertTrue(interface.text(QAccessible.Text.Name), type(one).__name__)
                        said += 1
                self.assertGreater(said, 3)
                for one in self.shown(Words):
                    self.assertEqual(one.accessibleName(), one.words)
                controls = self.shown(Control)
                self.assertGreater(len(controls), 2)
                for one in controls:
                    self.assertTrue(one.accessibleName(), f"{type(one).__name__} {one.objectName()}")
                    if one.isEnabled():
                        self.assertTrue(one.focusPolicy() & Qt.FocusPolicy.TabFocus, one.accessibleName())
                # The next step's words change with the stop, and so does what is read aloud.
                step = self.shown(NextStep)
                for one in step:
                    self.assertIn(one.sentence.rstrip("."), one.accessibleName())

    def test_tab_comes_round_to_every_control_of_a_stop(self):
        self.window.open_stop("passes")
        self.readings()
        self.window.activateWindow()
        wanted = {one for one in self.shown(Control) if one.isEnabled()}
        self.window.trail.setFocus()
        seen = set()
        for _ in range(200):
            QTest.keyClick(self.app.focusWidget(), Qt.Key.Key_Tab)
            seen.add(self.app.focusWidget())
            if wanted <= seen:
                break
        self.assertEqual([one.accessibleName() for one in wanted - seen], [])

    def test_going_on_leads_through_every_stop_and_names_the_next(self):
        for spec, after in zip(STOPS[:-1], STOPS[1:], strict=True):
            self.assertEqual(next_of(spec.key), after.key)
            self.window.open_stop(spec.key)
            self.assertEqual(self.window.stop.next_words(), f"Next: {after.title.lower()}.")
            self.window.stop.go_on()
            self.assertEqual(self.session.chosen.stop, after.key)
        self.assertEqual(next_of(STOPS[-1].key), STOPS[-1].key)

    def test_the_shortcut_of_each_stop_opens_it(self):
        for number, spec in enumerate(STOPS, 1):
            action = next(one for one in self.window.actions() if one.data() == spec.key)
            self.assertEqual(action.shortcut().toString(), shortcut_of(number))
            action.trigger()
            self.assertEqual(self.session.chosen.stop, spec.key)

    def test_what_is_gone_is_no_longer_chosen_whatever_it_was(self):
        now = self.project
        self.session.choose(zone=now.zones[1].id, comb=now.combs[0].id, eye="y900", stop="growth")
        self.session.forget_gone()
        self.assertEqual((self.session.chosen["zone"], self.session.chosen["comb"]), (now.zones[1].id, now.combs[0].id))
        self.assertEqual((self.session.chosen["eye"], self.session.chosen["never heard of"]), ("", ""))
        self.assertEqual(self.session.chosen.stop, "growth")

    def test_only_the_open_stop_is_read_close_by(self):
        self.window.open_stop("edges")
        self.readings()
        self.session.edit(lambda p: edits.set_coat(p, p.zones[1].id, length_mm=9.0), "coat")
        self.settle()
        read = self.readings()
        self.assertTrue(read.has_close("edges"))
        self.assertFalse(read.has_close("passes"))
        self.assertTrue(read.has_close("no subject at all"))
        self.window.open_stop("passes")
        self.wait(lambda: self.session.readings.has_close("passes"))
        self.assertTrue(self.session.readings.has_close("edges"))
        self.assertIs(self.session.readings.project, read.project)


class FourteenStops(WindowCase):
    """As many stops as are to come, in the smallest window and in the usual one."""

    def trail(self, height, *, narrow):
        trail = Trail([(f"s{k}", f"Stop {k}") for k in range(14)])
        trail.narrow = narrow
        trail.resize(NARROW if narrow else WIDE, height)
        trail.set_readings({f"s{k}": ("14 combs · 3 unsure", "ready") for k in range(14)}, "s5")
        trail.show()
        self.addCleanup(trail.deleteLater)
        trail.grab()
        return trail

    def test_each_is_hit_where_it_stands_and_nowhere_two(self):
        for height, narrow in ((700, True), (700, False), (800, False)):
            trail = self.trail(height, narrow=narrow)
            chosen = []
            trail.chosen.connect(chosen.append)
            for _, y in trail._spots():
                for off in (-0.42, 0, 0.42):
                    QTest.mouseClick(trail, LEFT, pos=self.at(60, y + off * trail._pitch))
            self.assertEqual(chosen, [f"s{k}" for k in range(14) for _ in range(3)])
            self.assertLess(2 * trail._half, trail._pitch)
            self.assertGreater(trail._half, 17)
            self.assertLess(trail._spots()[-1][1] + trail._half, height)

    @staticmethod
    def at(x, y):
        return QPoint(round(x), round(y))

    def test_without_any_room_it_can_still_be_drawn(self):
        for height in (0, 1, 84, 148, 149, 160):
            self.trail(height, narrow=False)

    def test_few_stops_stand_as_they_always_stood(self):
        trail = Trail([("a", "A"), ("b", "B"), ("c", "C")])
        trail.resize(WIDE, 800)
        self.addCleanup(trail.deleteLater)
        self.assertEqual([y for _, y in trail._spots()], [84.0, 188.0, 292.0])
        self.assertEqual(trail._half, 25.0)

    def test_shortcuts_go_on_beyond_nine(self):
        self.assertEqual([shortcut_of(k) for k in (1, 9, 10, 14)], ["Ctrl+1", "Ctrl+9", "Alt+1", "Alt+5"])
        self.assertEqual(
            [shortcut_words(k) for k in (8, 9, 10, 14)],
            ["Ctrl 1 to 8", "Ctrl 1 to 9", "Ctrl 1 to 9, Alt 1", "Ctrl 1 to 9, Alt 1 to 5"],
        )

    def test_a_stop_says_where_it_lies(self):
        for one in STOPS:
            cls = one.load()
            self.assertEqual((cls.code, cls.title), (one.key, one.title))
        with self.assertRaises(ModuleNotFoundError):
            StopSpec("x", "X", "nowhere.stop:Stop").load()


class LongBench(WindowCase):
    def test_what_is_opened_on_reference_comes_near_the_top(self):
        self.session.start(quick(project()), None, on_disk=True)
        self.window.open_stop("reference")
        self.settle()
        stop, area = self.window.stop, self.window.bench.area
        for code, fold in stop.folds.items():
            stop.open_fold("")
            stop.open_fold(code)
            bar = area.verticalScrollBar()

            def near(fold=fold, bar=bar):
                at = fold.head.mapTo(area.viewport(), QPoint(0, 0)).y()
                return 0 <= at <= 16 or bar.value() == bar.maximum()

            self.wait(near, 5)


class Begin(WindowCase):
    def test_the_first_screen_shows_the_demo_and_stands_without_it(self):
        shown = demo_image()
        self.assertGreater(min(shown.width(), shown.height()), 400)
        self.window.welcome.set_image(shown)
        self.app.processEvents()
        seen = self.window.welcome.grab().toImage()
        middle = seen.pixelColor(seen.width() // 2, seen.height() // 2)
        self.window.welcome.set_image(QImage())
        empty = self.window.welcome.grab().toImage()
        self.assertNotEqual(middle, empty.pixelColor(seen.width() // 2, seen.height() // 2))


class Keys(WindowCase):
    def test_all_keys_stand_on_one_sheet_as_text(self):
        sheet = KeySheet(self.window)
        sheet.show()
        self.app.processEvents()
        texts = [one.text() for one in sheet.findChildren(QLabel)]
        for name, keys in sections():
            self.assertIn(name, texts)
            for key, words in keys:
                self.assertIn(key, texts)
                self.assertIn(words, texts)
        area = sheet.findChild(QScrollArea)
        self.assertLessEqual(area.widget().sizeHint().height(), 700)
        for one in sheet.findChildren(QLabel):
            self.assertLessEqual(one.mapTo(sheet, one.rect().bottomRight()).x(), sheet.width(), one.text())
        QTest.keyClick(sheet, Qt.Key.Key_Escape)
        self.assertFalse(sheet.isVisible())

    def test_sections_are_shared_out_in_their_order_and_about_evenly(self):
        rows = [(f"s{k}", tuple(("k", "w") for _ in range(1 + k % 5))) for k in range(16)]
        parts = KeySheet._shared_out(rows)
        self.assertEqual([one for part in parts for one in part], rows)
        tall = [sum(42 + 24 * len(keys) for _, keys in part) for part in parts]
        self.assertLess(max(tall) - min(tall), 200)


class ReadAloud(WindowCase):
    def show(self, widget):
        widget.resize(290, 60)
        widget.show()
        self.addCleanup(widget.deleteLater)
        widget.grab()
        return widget

    def test_a_list_says_which_row_is_chosen(self):
        rows = self.show(Rows("every edge"))
        rows.set_rows([Row("a", "Bib", "over ground", "7 mm"), Row("b", "Ear", right="2 mm")], "b")
        self.assertEqual((rows.accessibleName(), rows.accessibleDescription()), ("every edge", "2 of 2. Ear. 2 mm"))
        QTest.keyClick(rows, Qt.Key.Key_Up)
        self.assertEqual(rows.accessibleDescription(), "1 of 2. Bib. over ground. 7 mm")
        rows.set_rows(rows.rows, "")
        self.assertEqual(rows.accessibleDescription(), "2 rows, none chosen")
        rows.set_rows([], "")
        self.assertEqual(rows.accessibleDescription(), "0 rows, none chosen")

    def test_depth_says_where_the_chosen_one_lies(self):
        depth = self.show(Shingles())
        depth.set_items([("a", "1"), ("b", "2"), ("c", "3")], "b")
        self.assertEqual(depth.accessibleDescription(), "2 of 3 zones from the back")
        depth.set_items([("a", "1")], "")
        self.assertEqual(depth.accessibleDescription(), "1 zone")

    def test_a_judgement_says_its_reason_and_grows_with_it(self):
        one = self.show(Judgement("look", "It is soft.", "3 mm · borrow"))
        self.assertEqual(one.accessibleName(), "It is soft. 3 mm · borrow")
        short = one.height()
        one.set_words(
            "must",
            "It is soft and it is blurred beyond all use.",
            "a long measure · a long rule, and what is to be done about it",
        )
        self.assertGreater(one.height(), short)
        one.grab()
        one.set_words("", "", "")
        self.assertEqual((one.accessibleName(), one.height()), ("", 10))

    def test_a_heading_and_words_follow_what_they_say(self):
        head, words = self.show(Section("Grades", "edges")), self.show(Words("First."))
        head.set_words("Findings", "3")
        words.set_words("Second, and longer.")
        self.assertEqual((head.accessibleName(), words.accessibleName()), ("Findings. 3", "Second, and longer."))
        words.set_words("")
        self.assertEqual(words.height(), 0)
        self.assertIsInstance(head, QWidget)


class Names(unittest.TestCase):
    def test_a_name_gets_an_ending_that_can_be_written(self):
        endings = (".npz", ".png", ".json")
        for name, kind, want in (
            ("a.json", "", "a.json"),
            ("a.JSON", "", "a.JSON"),
            ("a", "Combs (*.json)", "a.json"),
            ("a", "", "a.npz"),
            ("a", "anything", "a.npz"),
            ("a.txt", "Pictures (*.png)", "a.txt.png"),
            ("a", "Films (*.webp)", "a.npz"),
            ("folder.d/a", "Pictures (*.png)", "folder.d/a.png"),
        ):
            self.assertEqual(str(with_ending(name, kind, endings)), want, (name, kind))


if __name__ == "__main__":
    unittest.main()
