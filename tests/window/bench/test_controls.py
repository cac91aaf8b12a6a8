import unittest

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.findings import Finding
from foxpath.window.bench.controls import Button, Choice, Field, Link, Measure, Scale, YesNo
from foxpath.window.bench.rows import FindingRow, NextStep, Question, Row, Rows, Section, Shingles, Words
from foxpath.window.shell.app import make_app
from foxpath.window.stops.base import FindingList
from foxpath.window.stops.passes.ladder import Ladder
from foxpath.window.stops.zones.kinds import KindGrid

LEFT = Qt.MouseButton.LeftButton
CONTROL = Qt.KeyboardModifier.ControlModifier


class Shown(unittest.TestCase):
    """Puts widgets into a plate as wide as the bench."""

    def setUp(self):
        self.app = make_app()
        self.outer = QWidget()
        self.plate = QWidget(self.outer)
        self.plate.setFixedWidth(266)
        self.outer.resize(300, 900)
        self.layout = QVBoxLayout(self.plate)
        self.heard = []

    def tearDown(self):
        self.outer.close()
        self.outer.deleteLater()
        self.app.processEvents()

    def put(self, widget, *signals):
        """Show a widget and note what its signals say."""
        self.layout.addWidget(widget)
        for signal in signals:
            signal.connect(self.hear)
        self.outer.show()
        self.plate.adjustSize()
        self.app.processEvents()
        widget.grab()
        return widget

    def hear(self, *values):
        self.heard.append(values[0] if len(values) == 1 else values)

    def key(self, widget, *keys, modifier=Qt.KeyboardModifier.NoModifier):
        for key in keys:
            QTest.keyClick(widget, key, modifier)


class Pressing(Shown):
    def test_buttons_and_links_by_mouse_and_key(self):
        for widget in (Button("Go on", filled=True), Link("show me", spot=True)):
            self.put(widget, widget.clicked)
            before = len(self.heard)
            QTest.mouseClick(widget, LEFT)
            self.key(widget, Qt.Key.Key_Return, Qt.Key.Key_Space)
            self.assertEqual(len(self.heard) - before, 3)
            self.assertEqual(widget.accessibleName(), widget.words)

    def test_a_press_that_ends_outside_does_nothing(self):
        button = self.put(
            Button("Go on"),
        )
        button.clicked.connect(self.hear)
        QTest.mousePress(button, LEFT)
        QTest.mouseRelease(button, LEFT, pos=QPoint(500, 500))
        self.assertEqual(self.heard, [])

    def test_choice(self):
        choice = self.put(Choice([(g, g) for g in ("lost", "soft", "firm", "hard")], "grade"))
        choice.chosen.connect(self.hear)
        self.key(choice, Qt.Key.Key_Right, Qt.Key.Key_Right, Qt.Key.Key_Left, Qt.Key.Key_Left, Qt.Key.Key_Left)
        QTest.mouseClick(choice, LEFT, pos=QPoint(choice.width() - 8, 15))
        QTest.mouseClick(choice, LEFT, pos=QPoint(choice.width() - 8, 15))
        self.assertEqual(self.heard, ["soft", "firm", "soft", "lost", "hard"])

    def test_yes_or_no(self):
        answer = self.put(YesNo("painted", "left out"))
        answer.toggled.connect(self.hear)
        QTest.mouseClick(answer, LEFT)
        self.key(answer, Qt.Key.Key_Space)
        self.assertEqual(self.heard, [False, True])


class Measuring(Shown):
    def measure(self, scale):
        measure = self.put(Measure("Length", scale))
        measure.changed.connect(self.hear)
        measure.set_value(scale.least, 5.0)
        return measure

    def test_scales_round_as_a_hand_would(self):
        ratio = Scale(0.1, 100, str, ratio=True)
        self.assertAlmostEqual(ratio.value(0.0), 0.1)
        self.assertAlmostEqual(ratio.value(1.0), 100)
        for share in (0.1, 0.37, 0.5, 0.93):
            value = ratio.value(share)
            self.assertAlmostEqual(ratio.share(value), share, delta=0.02)
            self.assertEqual(value, float(f"{value:.3g}"))
        even = Scale(0, 60, str, step=5)
        self.assertEqual(even.value(0.51), 30)
        self.assertEqual(even.value(7), 60)
        self.assertEqual(even.moved(58, 1), 60)

    def test_dragging_reports_each_place_and_its_end(self):
        measure = self.measure(Scale(0, 100, str))
        left, width = measure._groove()
        y = 13
        QTest.mousePress(measure, LEFT, pos=QPoint(round(left), y))
        for share in (0.25, 0.5, 0.75):
            QTest.mouseMove(measure, QPoint(round(left + width * share), y))
        QTest.mouseRelease(measure, LEFT, pos=QPoint(round(left + width * 0.75), y))
        self.assertTrue(all(going for _, going in self.heard[:-1]))
        self.assertFalse(self.heard[-1][1])
        self.assertTrue(measure.decided)

    def test_while_dragging_nobody_else_moves_the_knob(self):
        measure = self.measure(Scale(0, 100, str))
        left, width = measure._groove()
        QTest.mousePress(measure, LEFT, pos=QPoint(round(left + width / 2), 13))
        measure.set_value(3)
        self.assertGreater(measure.value, 40)
        QTest.mouseRelease(measure, LEFT)

    def test_typing_a_number(self):
        measure = self.measure(Scale(0, 60, lambda v: f"± {v:.0f}°"))
        for words, value in (("21", 21), ("21 °", 21), ("12,5", 12.5), ("900", 60), ("-4", 0)):
            measure.set_value(1)
            self.key(measure, Qt.Key.Key_Return)
            measure._editor.setText(words)
            self.key(measure._editor, Qt.Key.Key_Return)
            self.assertEqual(measure.value, value, words)

    def test_what_is_no_number_changes_nothing(self):
        measure = self.measure(Scale(0, 60, str))
        measure.set_value(7)
        for words in ("", "much", "nan", "inf", "1e999"):
            measure.edit()
            measure._editor.setText(words)
            self.key(measure._editor, Qt.Key.Key_Return)
            self.assertEqual(measure.value, 7, words)
        self.assertEqual(self.heard, [])

    def test_delete_gives_back_only_what_was_decided(self):
        measure = self.measure(Scale(0, 60, str))
        resets = []
        measure.reset.connect(lambda: resets.append(1))
        self.key(measure, Qt.Key.Key_Delete)
        self.assertEqual(resets, [])
        measure.set_value(9, 5, decided=True)
        self.key(measure, Qt.Key.Key_Delete)
        self.assertEqual(resets, [1])

    def test_field(self):
        field = self.put(Field("name", "Vixen"))
        field.taken.connect(self.hear)
        field.setText("  Fox ")
        self.key(field, Qt.Key.Key_Return)
        field.setText("")
        self.key(field, Qt.Key.Key_Return)
        self.assertEqual(field.text(), "Fox")
        field.setText("half typed")
        self.key(field, Qt.Key.Key_Escape)
        self.assertEqual(field.text(), "Fox")
        self.assertEqual(self.heard, ["Fox"])


class Choosing(Shown):
    def test_rows(self):
        rows = self.put(Rows("zones"))
        rows.chosen.connect(self.hear)
        rows.set_rows([Row("a", "Ear"), Row("b", "Bib", "long fur", "40 cm²"), Row("c", "Nose", share=0.4)], "a")
        self.assertEqual(rows.height(), 3 * rows.ROW + 2)
        self.key(rows, Qt.Key.Key_Down, Qt.Key.Key_Down, Qt.Key.Key_Down, Qt.Key.Key_Up)
        QTest.mouseClick(rows, LEFT, pos=QPoint(20, 5))
        self.assertEqual(self.heard, ["b", "c", "b", "a"])
        rows.grab()

    def test_shingles_are_dragged_to_another_depth(self):
        shingles = self.put(Shingles())
        shingles.moved.connect(self.hear)
        shingles.set_items([("z1", "1"), ("z2", "2"), ("z3", "3"), ("z4", "4")], "z2")
        pitch = shingles._pitch()
        at = [QPoint(round(4 + pitch * (k + 0.5)), 20) for k in range(4)]
        QTest.mousePress(shingles, LEFT, pos=at[1])
        QTest.mouseMove(shingles, at[3])
        QTest.mouseRelease(shingles, LEFT, pos=at[3])
        QTest.mouseClick(shingles, LEFT, pos=at[0])
        self.key(shingles, Qt.Key.Key_Left, modifier=CONTROL)
        self.assertEqual(self.heard, [("z2", 3), ("z2", 0)])

    def test_kinds_by_key_and_mouse(self):
        grid = self.put(KindGrid())
        grid.taken.connect(self.hear)
        grid.set_value("short-fur")
        self.key(grid, Qt.Key.Key_Right, Qt.Key.Key_Down, Qt.Key.Key_Left)
        QTest.mouseClick(grid, LEFT, pos=QPoint(20, grid.ROW * 2 + 8))
        self.assertEqual(self.heard, ["long-fur", "matted-fur", "curly-fur", "skin"])

    def test_ladder_ends_and_ceiling(self):
        ladder = self.put(Ladder())
        ladder.changed.connect(self.hear)
        ladder.set_values(20, 60, 80)
        QTest.mousePress(ladder, LEFT, pos=QPoint(40, round(ladder._y(58))))
        QTest.mouseMove(ladder, QPoint(40, round(ladder._y(50))))
        QTest.mouseRelease(ladder, LEFT, pos=QPoint(40, round(ladder._y(50))))
        self.assertEqual(self.heard[-1][0], "l_high")
        self.assertFalse(self.heard[-1][2])
        QTest.mouseClick(ladder, LEFT, pos=QPoint(90, round(ladder._y(70))))
        self.assertEqual(self.heard[-1][0], "ceiling")
        self.assertAlmostEqual(self.heard[-1][1], 70, delta=1)
        self.key(ladder, Qt.Key.Key_Up)
        self.assertAlmostEqual(self.heard[-1][1], 71, delta=1)
        self.key(ladder, Qt.Key.Key_Right, Qt.Key.Key_Down)
        self.assertEqual(self.heard[-1][:2], ("l_low", 19))
        self.key(ladder, *[Qt.Key.Key_Down] * 30)
        self.assertEqual(self.heard[-1][:2], ("l_low", 0))


class Saying(Shown):
    def finding(self, says="Medium is leaner than the lights below.", where="passes"):
        return Finding("must", says, "1 : 4 over 1 : 3 · lean over fat may crack", where, "lights")

    def test_a_finding_has_its_actions(self):
        row = self.put(FindingRow(self.finding(), [("show", "show me"), ("mend", "make it 1 : 2")]))
        row.asked.connect(self.hear)
        for link in row._links:
            QTest.mouseClick(link, LEFT)
        self.assertEqual([key for key, _ in self.heard], ["show", "mend"])
        self.assertIs(self.heard[0][1], row.finding)

    def test_a_list_shows_its_own_stop_and_at_most_three(self):
        found = [self.finding(f"Finding {k}") for k in range(5)] + [self.finding("Elsewhere", "zones")]
        listed = self.put(FindingList("passes"))
        listed.set_findings(found, [("show", "show me")])
        self.assertEqual([row.finding.says for row in listed._rows], ["Finding 0", "Finding 1", "Finding 2"])
        self.assertEqual(listed.head.note, "3 of 5")
        first = listed._rows[0]
        listed.set_findings(found, [("show", "show me")])
        self.assertIs(listed._rows[0], first)
        listed.set_findings([], [])
        self.assertFalse(listed.isVisible())

    def test_long_words_make_room(self):
        """Text grows its card and is never cut."""
        step = self.put(NextStep("comb"))
        step.set_words("Comb", "unsure", "Show me")
        short = step.height()
        step.set_words("Comb the back and the shoulder of the vixen behind the hedge", "65 cm² still unsure", "Show me")
        self.assertGreater(step.height(), short)
        words = self.put(Words("one two three"))
        low = words.height()
        words.set_words("one two three " * 12)
        self.assertGreater(words.height(), 3 * low)
        words.set_words("")
        self.assertEqual(words.height(), 0)
        self.put(Section("A very long title that does not fit into the bench at all", "note"))

    def test_a_question_gives_one_answer(self):
        question = self.put(Question("Keep it?", "Else it goes.", [("no", "Drop it"), ("yes", "Keep it")]))
        question.answered.connect(self.hear)
        self.assertTrue(question.buttons["yes"].filled)
        self.assertFalse(question.buttons["no"].filled)
        QTest.mouseClick(question.buttons["no"], LEFT)
        self.assertEqual(self.heard, ["no"])
        self.assertEqual(QPointF(0, 0), QPointF())
