"""Stop 13, Practice: drills on the picture, scored in the painter's units; weeks of them, and what to do next. Never in the way of painting."""

from collections.abc import Callable
from datetime import datetime
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.clock import now
from foxpath.core.practice.drill import Skill
from foxpath.core.practice.drills import drill_called
from foxpath.core.practice.task import Dial, Pick, Score, Task
from foxpath.core.practice.weeks import Answered, change_words, level_words
from foxpath.core.units import count_words
from foxpath.derive.practice.drilling import (
    SKILLS,
    MakeTask,
    ReadWeeks,
    ScoreTask,
    Weeks,
    answered,
    choices_of,
    seed_for,
    sheet_answered,
    size_for,
    skill_called,
)
from foxpath.derive.practice.keeping import ForgetAnswers, KeepAnswers, WriteAnswers
from foxpath.derive.practice.paper import SheetRead
from foxpath.derive.practice.scenes import CANVAS, OWN, sources
from foxpath.window.bench.bench import column, panel
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice
from foxpath.window.bench.rows import NextStep, Question, Row, Rows, Section, TallRows, Words
from foxpath.window.picture.view import image_of
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import Stop
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.practice.answer import Answering
from foxpath.window.stops.practice.ground import Ground
from foxpath.window.stops.practice.onpaper import KEYS, OnPaper
from foxpath.window.stops.practice.scores import GreyDial, Options, ScoreHairs, WeeksPlot

TURNED = (("", "as it is"), ("mirror", "mirrored"), ("upside", "upside down"))
FIRST = "growth"
SCREEN = "Your screen is taken as it is: what counts are differences, not colours by themselves."


def _show(on: bool, *parts: QWidget) -> None:  # noqa: FBT001  (says itself)
    for part in parts:
        part.setVisible(on)


def _gap(px: int) -> QWidget:
    made = QWidget()
    made.setFixedHeight(px)
    return made


class PracticeStop(Stop):
    """A drill on the picture; its answers, weeks and the other drills beside it."""

    code, title = "practice", "Practice"
    cursor = Qt.CursorShape.CrossCursor

    @property
    def ruled(self) -> bool:  # type: ignore[override]
        """Whether the canvas's rulers are true of what is shown: not of a sheet of its own."""
        return self._task is None or self._task.on_scene

    def make_panel(self) -> QWidget:
        self.next = NextStep("hair")
        self.next.asked.connect(self.go)
        self.asked = Words("", 14, "text")
        self.hint = Words("", 12.5)
        self.options = Options("answers")
        self.options.chosen.connect(self._choose_option)
        self.dial = GreyDial("the grey that is set")
        self.dial.changed.connect(self._dial)
        self.said = Words("", 13, "text")
        self.run_head = Section("This drill", "")
        self.hairs = ScoreHairs()
        self.weeks_head = Section("Over weeks", "")
        self.weeks_plot = WeeksPlot()
        self.change = Words("", 12.5)
        self.advice_head = Section("Worth while now", "never a must")
        self.advice = TallRows("what is worth while now")
        self.advice.chosen.connect(self.choose_drill)
        self.list_head = Section("Drills", "what you see three times in four")
        self.list = Rows("drills")
        self.list.chosen.connect(self.choose_drill)
        self.source_head = Section("Made from", "")
        self.source_list = Rows("what drills are made from")
        self.source_list.chosen.connect(self.choose_source)
        self.turned = Choice(list(TURNED), "how the picture is turned")
        self.turned.chosen.connect(self._turn)
        self.turn_head = Section("Turn it", "so that memory cannot help")
        self.screen = Words(SCREEN, 12)
        self.paper = OnPaper(self.session)
        self.paper.read.connect(self._take_sheet)
        self.paper.failed.connect(self._fail)
        self.paper.chosen.connect(self._show_number)
        self.acts = Buttons([("stop", "Stop here"), ("csv", "Write CSV …"), ("forget", "Forget …")], 3)
        self.acts.clicked.connect(self._act)
        self.question: Question | None = None
        self.home = column(
            _gap(6), self.paper, self.asked, self.hint, self.options, self.dial, self.said, self.run_head, self.hairs, self.weeks_head, self.weeks_plot, self.change,
            self.advice_head, self.advice, self.list_head, self.list, self.turn_head, self.turned, self.source_head, self.source_list, self.screen, self.acts,
        )  # fmt: skip
        self._drill, self._source, self._failed = FIRST, OWN, ""
        self._weeks: Weeks | None = None
        self._task: Task | None = None
        self._ground: Ground | None = None
        self._answer: Answering | None = None
        self._score: Score | None = None
        self._images: tuple[QImage | None, QImage | None] = (None, None)
        self._scores: list[Score] = []
        self._given: list[Answered] = []
        self._begun: datetime | None = None
        self._number = 0
        self._kept = 0
        self._held = False
        return panel(self.next, self.home)

    # What is known --------------------------------------------------------------------------------

    @property
    def drill(self) -> Skill:
        """The drill that is chosen."""
        return skill_called(self._drill)

    @property
    def on_paper(self) -> bool:
        """Whether it is one that is printed and painted."""
        return self._drill in KEYS

    @property
    def compares(self) -> bool:
        """Whether the reference may be looked at beside what is asked, and lies under it."""
        ground = self._ground
        return ground is not None and ground.own and not self.on_paper and drill_called(self._drill).compares

    @property
    def running(self) -> bool:
        """Whether a drill is under way."""
        return self._begun is not None

    @property
    def task(self) -> Task | None:
        """The task that is asked or was answered last."""
        return self._task

    @property
    def answer(self) -> Answering | None:
        """The answer that is being given, or was."""
        return self._answer

    @property
    def score(self) -> Score | None:
        """What the last answer was worth; None while it is asked for."""
        return self._score

    def reading(self) -> str:
        if self.running:
            return f"{len(self._scores)} of {self.drill.count} answered"
        if self._weeks is None or not self._weeks.answers:
            return "nothing drilled yet"
        strong = [one for one in self._weeks.advice if one.strong]
        due = [key for key, one in self._weeks.standings.items() if one.due(now().date())]
        word = skill_called(strong[0].drill).title if strong else f"{len(due)} to refresh" if due else ""
        return word or f"{count_words(len(self._weeks.standings), 'drill')} known"

    def state(self) -> Any:
        if self._weeks is None or not self._weeks.answers:
            return "begun" if self.running else "no"
        return "begun" if self.running else "ready"

    # Coming and going -----------------------------------------------------------------------------

    def enter(self) -> None:
        super().enter()
        self._read_weeks()

    def leave(self) -> None:
        self.session.runner.cancel("practice")
        self._end()
        self.refresh()

    def _read_weeks(self) -> None:
        request = ReadWeeks(self.session.project, now().date())
        self.session.runner.start("practice weeks", request, self._take_weeks, failed=self._fail)

    def _take_weeks(self, weeks: Weeks) -> None:
        self._weeks = weeks
        self.restated.emit()
        self.refresh()

    # A drill --------------------------------------------------------------------------------------

    def choose_drill(self, key: str) -> None:
        """Choose a drill; one that is under way ends."""
        if key != self._drill or not self.running:
            self._end()
            self._drill, self._failed = key, ""
            self.restated.emit()
            self.refresh()
            self.picture.update()

    def choose_source(self, key: str) -> None:
        """Choose what drills are made from."""
        self._end()
        self._source, self._failed = key, ""
        self.refresh()
        self.picture.update()

    def go(self) -> None:
        """Begin; take the answer as it stands; go on to the next task; or end after the last."""
        if self.on_paper:
            self.paper.ask_path()
        elif not self.running:
            self.begin()
        elif self._task is None:
            return
        elif self._score is None:
            if self._answer is not None and self._answer.ready:
                self._submit()
        elif len(self._scores) >= self.drill.count:
            self._end()
            self.refresh()
            self.picture.update()
        else:
            self._ask()

    def begin(self) -> None:
        """Begin the chosen drill."""
        self._scores, self._failed, self._begun, self._number = [], "", now(), 0
        self._ask()

    def _ask(self) -> None:
        project, begun = self.session.project, self._begun
        if project is None or begun is None:
            return
        drill = drill_called(self._drill)
        known = [*(self._weeks.answers if self._weeks is not None else ()), *self._given]
        size = size_for(
            drill, known, choices_of(self._task) if self._task is not None and choices_of(self._task) else 4
        )
        self._task = self._ground = self._answer = self._score = None
        self._images = (None, None)
        self._number += 1
        seed = seed_for(drill.key, self._source, begun, self._number)
        request = MakeTask(self.session.results, project, self._source, drill.key, seed, size)
        self.session.runner.start("practice", request, self._take_task, failed=self._fail)
        self.restated.emit()
        self.refresh()
        self.picture.update()

    def _take_task(self, task: Task) -> None:
        project = self.session.project
        if project is None or not self.running or task.drill != self._drill:
            return
        self._task = task
        self._ground = Ground(task, project, own=self._source in (OWN, CANVAS), reference=self._source == OWN)
        self._answer = Answering(self._ground)
        self._images = (None if self._ground.bare else image_of(task.picture), None)
        self._look()
        self.refresh()
        self.picture.update()

    def _take_sheet(self, read: SheetRead) -> None:
        """Show a photographed sheet laid flat, with what was measured; it counts over the weeks."""
        project = self.session.project
        if project is None:
            return
        self._end()
        self._drill, self._failed = read.drill, ""
        ask = Dial(0, 1, 1, 0, "")
        self._task = Task(read.drill, read.seed, "", ask, read.rgb, read.px_per_mm, {}, on_scene=False)
        self._ground = Ground(self._task, project, own=False, reference=False)
        self._images = (image_of(read.rgb), None)
        given = sheet_answered(read, now(), project.name)
        if given:
            self._keep(given)
        self._look()
        self.restated.emit()
        self.refresh()
        self.picture.update()

    def _show_number(self, number: int) -> None:
        read, ground = self.paper.last, self._ground
        one = next((one for one in read.measured if one.number == number), None) if read is not None else None
        if one is not None and ground is not None and read is not None:
            at = ground.to_reference((one.at[0] * read.px_per_mm, one.at[1] * read.px_per_mm))
            self.picture.fly_to(at, 40 * read.px_per_mm * ground.scale)
        self.picture.update()

    def _look(self) -> None:
        """Bring what is asked about into sight."""
        if self._ground is None:
            return
        view = self.picture.viewport
        view.fit()
        at, size = self._ground.middle()
        view.show(at, min(view.room.width(), view.room.height()) / max(size, 1.0))
        self.picture.moved()

    def _submit(self) -> None:
        task, answer = self._task, self._answer
        if task is None or answer is None or self._score is not None:
            return
        self.session.runner.start("practice", ScoreTask(task, answer.value), self._take_score, failed=self._fail)

    def _take_score(self, score: Score) -> None:
        task = self._task
        if task is None or self._score is not None or not self.running:
            return
        self._score = score
        self._scores.append(score)
        if score.picture is not None:
            self._images = (self._images[0], image_of(score.picture))
        name = next((one.name for one in sources(self.session.project) if one.key == self._source), self._source)
        project = self.session.project
        given = answered(task, score, now(), project.name if project is not None and self._source == OWN else name)
        self._given += given
        if given:
            self._keep(given)
        self.restated.emit()
        self.refresh()
        self.picture.update()

    def _keep(self, given: tuple[Answered, ...]) -> None:
        self._kept += 1
        self.session.runner.start(
            f"practice kept {self._kept}", KeepAnswers(given), self._was_kept, failed=self._not_kept, writes=True
        )

    def _was_kept(self, _: object) -> None:
        if not self.running or len(self._scores) >= self.drill.count:
            self._given = []
            self._read_weeks()

    def _not_kept(self, words: str) -> None:
        self._failed = words
        self.refresh()

    def _fail(self, words: str) -> None:
        self._failed = words
        self._end()
        self.refresh()
        self.picture.update()

    def _end(self) -> None:
        """End what is under way; answers that were given stay."""
        self._held = False
        self._task = self._ground = self._answer = self._score = None
        self._images = (None, None)
        if self.running:
            self._begun = None
            self._given = []
            self._read_weeks()
            self.restated.emit()

    # The bench ------------------------------------------------------------------------------------

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        keys = [one.key for one in sources(project)]
        if self._source not in keys:
            self._source = keys[0]
        drill, task, score = self.drill, self._task, self._score
        self._refresh_next()
        self.paper.setVisible(self.on_paper)
        if self.on_paper:
            self.paper.show_drill(self._drill, self._source)
        self.asked.set_words(task.question if task is not None else "")
        hint = self._answer.words() if self._answer is not None and score is None else ""
        self.hint.set_words(f"{hint} Hold R for the reference." if self.compares else hint)
        self._refresh_asked()
        self.said.set_words(score.why if score is not None else "")
        for words in (self.asked, self.hint, self.said):
            words.setVisible(bool(words.words))
        self.run_head.set_words("This drill", f"{len(self._scores)} of {drill.count}, straight is true")
        self.hairs.set_scores(drill, self._scores)
        _show(bool(self._scores), self.run_head, self.hairs)
        self._refresh_weeks()
        resting = not self.running
        self.source_list.set_rows([Row(one.key, one.name) for one in sources(project)], self._source)
        self.source_head.set_words(
            "Made from", "" if drill.needs - {"paint"} or drill.key in ("match", "relation") else "any picture will do"
        )
        chosen = self.session.chosen
        self.turned.set_value("upside" if chosen.upside_down else "mirror" if chosen.mirrored else "")
        _show(resting, self.source_head, self.source_list)
        _show(drill.mirrors and not self.on_paper, self.turn_head, self.turned)
        self.screen.setVisible(drill.colours)
        self.acts.show_only(
            {"stop"}
            if self.running
            else {"csv", "forget"}
            if self._weeks is not None and self._weeks.answers
            else set()
        )

    def _refresh_next(self) -> None:
        drill, score = self.drill, self._score
        name = "Spot" if drill.key in ("growth", "match") else "Task"
        if self.on_paper:
            self.next.set_words(
                drill.title.capitalize(),
                self._failed or f"{drill.minutes} min with brush and paint. {self._level()}".strip(),
                "Print …",
            )
        elif self._failed and not self.running:
            said = "Earlier answers cannot be read" if self._weeks is None else "That drill cannot be made here"
            self.next.set_words(said, self._failed, "Begin" if self._weeks is None else "Again")
        elif not self.running:
            self.next.set_words(
                drill.title.capitalize(),
                f"{count_words(drill.count, name.lower())}, {drill.minutes} min. {self._level()}",
                "Begin",
            )
        elif self._task is None:
            self.next.set_words(f"{name} {self._number} of {drill.count}", "Looking for something to ask.")
        elif score is None:
            ready = self._answer is not None and self._answer.ready
            self.next.set_words(
                f"{name} {self._number} of {drill.count}",
                "Take your time." if not ready else "As it stands?",
                "That is it" if ready else "",
            )
        elif len(self._scores) >= drill.count:
            mean = sum(one.share for one in self._scores) / len(self._scores)
            self.next.set_words(
                "Done for today",
                f"{score.words.rstrip('.')}. {10 * mean:.0f} of 10 in the mean. {self._failed}".strip(),
                "End",
            )
        else:
            self.next.set_words(
                f"{name} {self._number} of {drill.count}", f"{score.words.rstrip('.')}. {self._failed}".strip(), "Next"
            )

    def _level(self) -> str:
        standing = self._weeks.standings.get(self._drill) if self._weeks is not None else None
        words = level_words(self.drill, standing.level if standing is not None else None)
        return "" if words == "not yet" else f"Now at {words}."

    def _refresh_asked(self) -> None:
        task, score, answer = self._task, self._score, self._answer
        pick = task.ask if task is not None and isinstance(task.ask, Pick) else None
        wordy = pick is not None and any(len(one) > 2 for one in pick.options)
        self.options.setVisible(wordy)
        if pick is not None and task is not None and answer is not None and wordy:
            mine = int(answer.value) if answer.value is not None else -1
            self.options.set_options(
                pick.options, mine, int(drill_called(task.drill).ideal(task)) if score is not None else -1
            )
        greys = task is not None and isinstance(task.ask, Dial) and task.ask.greys
        self.dial.setVisible(greys)
        if greys and task is not None and answer is not None:
            self.dial.set_value(
                float(answer.value), float(drill_called(task.drill).ideal(task)) if score is not None else -1.0
            )

    def _refresh_weeks(self) -> None:
        weeks, drill = self._weeks, self.drill
        standing = weeks.standings.get(drill.key) if weeks is not None else None
        shown = standing is not None and bool(standing.days) and (self._score is not None or self._task is None)
        note = {
            "near": "3 times in 4 within",
            "seen": "seen 3 times in 4",
            "right": "right answers",
        }
        self.weeks_head.set_words("Over weeks", note[drill.way])
        if standing is not None:
            self.weeks_plot.set_days(drill, standing.days)
            days = standing.half_life
            self.change.set_words(
                f"{change_words(drill, standing)} Half of it is forgotten in about {count_words(round(days), 'day')}."
            )
        _show(shown, self.weeks_head, self.weeks_plot, self.change)
        resting = not self.running
        advice = weeks.advice if weeks is not None else ()
        self.advice.set_rows([Row(one.drill, skill_called(one.drill).title, one.why) for one in advice], self._drill)
        _show(resting and bool(advice), self.advice_head, self.advice)
        rows = []
        for one in SKILLS:
            known = weeks.standings.get(one.key) if weeks is not None else None
            rows.append(
                Row(
                    one.key,
                    one.title,
                    f"{one.minutes} min",
                    level_words(one, known.level if known is not None else None),
                )
            )
        self.list.set_rows(rows, self._drill)
        _show(resting, self.list_head, self.list)

    def _choose_option(self, number: int) -> None:
        if self._answer is not None and self._score is None and self._answer.number(number + 1):
            self._changed()

    def _dial(self, value: float) -> None:
        if self._answer is not None and self._score is None:
            self._answer.set_dial(value)
            self._changed()

    def _changed(self) -> None:
        """Take note of a changed answer: one that needs no "that is it" is scored."""
        if self._answer is not None and self._answer.done:
            self._submit()
        self.refresh()
        self.picture.update()

    def _turn(self, key: str) -> None:
        self.session.choose(mirrored=key == "mirror", upside_down=key == "upside")
        self.picture.refresh_region(fit=False)
        self.picture.moved()
        self.refresh()

    def _act(self, key: str) -> None:
        if key == "stop":
            self._end()
            self.refresh()
            self.picture.update()
        elif key == "csv":
            path, _ = QFileDialog.getSaveFileName(None, "Every answer as CSV", "practice.csv", "CSV (*.csv)")
            if path:
                self.session.write(WriteAnswers(Path(path)))
        else:
            self._ask_forget()

    def _ask_forget(self) -> None:
        if self.question is not None:
            return
        self.question = Question(
            f"Forget your answers at {self.drill.title}?", "They cannot be brought back. Paintings are not touched.",
            [("all", "Forget all drills"), ("one", "Forget these"), ("keep", "Keep them")],
        )  # fmt: skip
        self.question.answered.connect(self.answer_forget)
        layout = self.home.layout()
        if layout is not None:
            layout.addWidget(self.question)

    def answer_forget(self, key: str) -> None:
        """Forget this drill's answers ("one"), everybody's ("all"), or none."""
        if self.question is not None:
            self.question.hide()
            self.question.deleteLater()
            self.question = None
        if key in ("one", "all"):
            request = ForgetAnswers(self._drill if key == "one" else "")
            self.session.runner.start(
                "practice forgotten", request, self._forgotten, failed=self._not_kept, writes=True
            )

    def _forgotten(self, _: int) -> None:
        self._read_weeks()

    # The picture ----------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        ground, answer, score = self._ground, self._answer, self._score
        if ground is None or self._held:
            # While R is held the window's own picture, the reference, is left to be seen.
            return
        if answer is None:
            ground.paint_picture(p, view, self._images[0])
            ground.paint_marks(p, view, self.paper.marks())
            return
        ground.paint_picture(p, view, self._images[1] or self._images[0])
        ground.paint_veil(p, view)
        # Names on a sheet stay; what was laid over the picture gives way to the answer.
        ground.paint_marks(p, view, tuple(m for m in ground.task.shown if score is None or m.kind == "words"))
        if score is None:
            answer.paint(p, view)
        else:
            ground.paint_marks(p, view, score.marks)

    def press(self, at: Point, event: QMouseEvent) -> None:
        self._gesture(lambda answer, ground: answer.press(ground.to_task(at), self.picture.viewport))

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._answer is not None and self._ground is not None and self._score is None:
            self._answer.drag(self._ground.to_task(at))
            self.picture.update()

    def release(self, at: Point, event: QMouseEvent) -> None:
        self._gesture(lambda answer, ground: answer.release(ground.to_task(at), self.picture.viewport))

    def _gesture(self, what: Callable[[Answering, Ground], None]) -> None:
        if self._answer is not None and self._ground is not None and self._score is None:
            what(self._answer, self._ground)
            self._changed()

    def busy(self) -> bool:
        # Esc stops a drill that is under way.
        return self.running

    def take_back(self) -> bool:
        if self._answer is None or self._score is not None:
            return False
        taken = self._answer.take_back()
        if taken:
            self.refresh()
            self.picture.update()
        return taken

    def key(self, event: QKeyEvent) -> bool:
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_R and self.compares:
            self._held = True
            return True
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.go()
            return True
        if self._answer is None or self._score is not None:
            return False
        if key == Qt.Key.Key_Backspace:
            return self.take_back()
        fine = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        taken = self._answer.number(event.key() - Qt.Key.Key_0) or self._answer.turn(key, fine=fine)
        if taken:
            self._changed()
        return taken

    def key_up(self, event: QKeyEvent) -> bool:
        if Qt.Key(event.key()) != Qt.Key.Key_R or not self._held or event.isAutoRepeat():
            return False
        self._held = False
        self.picture.update()
        return True

    def zone_words(self, zone: object, at: Point) -> list[str]:
        # What the plan says of a place would be the answer.
        return []

    def words_at(self, at: Point) -> str:
        return "" if self._task is not None else super().words_at(at)
