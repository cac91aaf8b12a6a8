"""Stop 9, Rehearsal: see the painting come up, mark by mark, before the canvas is touched."""

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.findings import Finding
from foxpath.core.passes.working import Turn, manner_of_work, turn_words
from foxpath.core.rehearsal.reading import painting_words
from foxpath.core.units import count_words, duration_words, grouped
from foxpath.derive.rehearsal.requests import Play, PlayTurns, SaveRehearsal, StandAt
from foxpath.document import edits
from foxpath.sheets import FILMS
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button, Choice
from foxpath.window.bench.rows import Gestures, NextStep, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import Stop
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.rehearsal.hierarchy import HierarchyView
from foxpath.window.stops.rehearsal.limited import LimitedPanel
from foxpath.window.stops.rehearsal.painted import Judged, PaintedRow, PaintedRows
from foxpath.window.work.files import with_ending
from foxpath.window.work.session import REHEARSAL_WIDTH


class RehearsalStop(Stop):
    """Play a pass, scrub in it, hold B for the picture before it, hold R for the reference."""

    code, title = "rehearsal", "Rehearsal"
    shows_painting = True
    plays = True
    cursor = Qt.CursorShape.ArrowCursor

    frame = Signal(object)
    """A picture to show, or None for the pass as it stands."""
    at_mark = Signal(int, int)
    """Marks laid so far and marks of the pass."""
    playing_changed = Signal()

    def make_panel(self) -> QWidget:
        self.playing = False
        self._queue: list[str] = []
        self.next = NextStep("hair")
        self.next.asked.connect(self.play_all)
        self.list = Rows("passes as rehearsed")
        self.list.chosen.connect(self._choose)
        self.words = Words("", 13)
        self.sheets = Button("Print sheets")
        self.save = Button("Save the build-up …")
        self.save.setToolTip("One layer a pass (.ora), a film of it (.webp, .gif), or a picture a pass (.png)")
        self.turns = Choice([("rows", "pass by pass"), ("areas", "area by area")], "how it is played through")
        self.turns.chosen.connect(self._use_turns)
        self._manner = ""
        self.speed = Choice([("0.5", "slow"), ("1", "steady"), ("3", "quick")], "how fast it is played")
        self.speed.set_value("1")
        self.limited = LimitedPanel(self.session)
        self.limited.changed.connect(self._beside_changed)
        self.save.clicked.connect(self.ask_save)
        self.read_head = Section("Read against the reference", "")
        self.read = PaintedRows()
        self.read.chosen.connect(self._show_zone)
        self.read_words = Words("", 12.5)
        self.rules_head = Section("Rules", "")
        self.rules = Judged()
        self.rules.asked.connect(self._show_rule)
        self.focal_head = Section("Focal hierarchy", "pale: reference, plan")
        self.focal = HierarchyView()
        self.totals_head = Section("The whole painting", "")
        self.totals = Rows("totals")
        self.again = Button("Another hand")
        self.again.setToolTip("The same plan, the marks placed afresh")
        self.again.clicked.connect(self._again)
        return panel(
            self.next,
            self.turns,
            self.speed,
            Section("Pass by pass", "marks · L*"),
            self.list,
            self.words,
            self.totals_head,
            self.totals,
            self.limited,
            self.rules_head,
            self.rules,
            self.read_head,
            self.read_words,
            self.read,
            self.focal_head,
            self.focal,
            self.again,
            self.save,
            self.sheets,
            Section("Look", "keys"),
            Gestures(
                [
                    ("hair", "play this pass", "P"),
                    ("frame", "before this pass", "hold B"),
                    ("outline", "the reference", "hold R"),
                ]
            ),
        )

    def current(self) -> str:
        """Return the role of the chosen pass, else of the last that stands."""
        rehearsal = self.session.rehearsal
        role = self.session.chosen.role
        if rehearsal.number_of(role) >= 0:
            return role
        return rehearsal.passes[-1].plan.role.key if rehearsal.passes else ""

    def open_role(self) -> str:
        return self.current()

    def refresh(self) -> None:
        rehearsal = self.session.rehearsal
        rows = []
        for number, one in enumerate(rehearsal.passes, 1):
            values = f"{one.l_min:.0f} to {one.l_max:.0f}" if one.marks else "none"
            marks = grouped(one.marks)
            rows.append(Row(one.plan.role.key, f"{number}  {one.plan.role.name}", marks, values))
        self.list.set_rows(rows, self.current())
        project = self.session.project
        plans = [one.plan for one in rehearsal.passes]
        # As the order of work is, until it is said otherwise here.
        own = manner_of_work(project.ways, plans) if project is not None and plans else "rows"
        self.turns.set_value(self._manner or own)
        total = sum(one.marks for one in rehearsal.passes)
        minutes = sum(one.plan.minutes for one in rehearsal.passes)
        self.totals.set_rows(
            [
                Row("marks", "Marks", "", grouped(total)),
                Row("time", "Painting time, estimated", "", duration_words(minutes) if rehearsal.passes else "none"),
                Row(
                    "area",
                    "Paint laid, overlaps counted",
                    "",
                    f"{grouped(sum(o.area_cm2 for o in rehearsal.passes))} cm²",
                ),
            ],
            "",
        )
        self._refresh_read()
        if self.session.project is not None and self.session.chosen.stop == self.code:
            self.limited.show_project(self.session.project)
        self.words.set_words("" if rehearsal.complete else "Working out the passes; what stands is shown.")
        if self.playing:
            self.next.set_words("Playing", "The marks are laid in their order.", "Stop")
        elif rehearsal.complete:
            self.next.set_words("Watch it come up", "Every pass in order, darks to highlights.", "Play all")
        else:
            self.next.set_words("Working out the passes", "Each shows as soon as it stands.")

    def _refresh_read(self) -> None:
        """Say zone by zone how the finished painting compares, the farthest off first."""
        rehearsal, project = self.session.rehearsal, self.session.project
        if rehearsal.complete and self.session.chosen.stop == self.code:
            self.session.read_zones()
        found = rehearsal.zones if rehearsal.complete and project is not None else ()
        finish = rehearsal.finish if found else None
        for part in (
            self.read_head,
            self.read_words,
            self.read,
            self.rules_head,
            self.rules,
            self.focal_head,
            self.focal,
        ):
            part.setVisible(bool(found))
        if finish is not None:
            self.rules_head.set_words("Rules", "" if finish.findings else "all are kept")
            self.rules.show_findings(finish.findings)
            self.focal.show_both(finish.painted, finish.reference)
        if not found or project is None:
            return
        numbers = {zone.id: k for k, zone in enumerate(project.back_to_front(), 1)}
        names = {zone.id: zone.name for zone in project.zones}
        distance = f"from {project.seeing.distance_m:g} m"
        self.read_head.set_words("Read against the reference", distance)
        self.read_words.set_words(f"{painting_words(list(found))} Darker lies left of each post, lighter right.")
        rows = [
            PaintedRow(one.zone, names[one.zone], number=numbers[one.zone], reading=one)
            for one in found
            if one.zone in names
        ]
        self.read.set_rows(rows, self.session.chosen["zone"])

    def _show_rule(self, finding: Finding) -> None:
        if finding.where == "passes":
            self.session.choose(role=finding.subject or self.session.chosen.role)
            self.go_to.emit(finding.where)
        elif finding.subject:
            self._show_zone(finding.subject)

    def _show_zone(self, key: str) -> None:
        self.session.choose(zone=key)
        readings = self.session.readings
        if readings is not None and key in readings.tags:
            self.picture.fly_to(readings.tags[key], 360)

    def ask_save(self) -> None:
        """Ask for a file, and write the build-up there."""
        kinds = "Layers, one a pass (*.ora);;Film, WebP (*.webp);;Film, GIF (*.gif);;Pictures, one a pass (*.png)"
        project = self.session.project
        if project is None:
            return
        name, chosen = QFileDialog.getSaveFileName(None, "Save the build-up", f"{project.name}.ora", kinds)
        if name:
            self.save_to(with_ending(name, chosen, (".ora", ".png", *FILMS)))

    def save_to(self, path: Path) -> None:
        """Write the build-up in the background."""
        project = self.session.project
        if project is not None:
            self.session.write(SaveRehearsal(self.session.results, project, path, REHEARSAL_WIDTH))

    def reading(self) -> str:
        rehearsal = self.session.rehearsal
        if not rehearsal.passes:
            return "not rehearsed"
        total = sum(one.marks for one in rehearsal.passes)
        if not rehearsal.complete:
            return f"to pass {len(rehearsal.passes)}"
        return count_words(total, "mark")

    def state(self) -> draw.State:
        rehearsal = self.session.rehearsal
        if not rehearsal.passes:
            return "no"
        return "ready" if rehearsal.complete else "begun"

    def _choose(self, role: str) -> None:
        self.stop()
        self.session.choose(role=role)

    def _again(self) -> None:
        self.session.edit(edits.another_hand, "another hand")

    # Playing --------------------------------------------------------------------------------------

    def play(self, role: str = "") -> None:
        """Play one pass from its first mark to its last."""
        self._queue = []
        self._start(role or self.current())

    def play_all(self) -> None:
        """Play every pass in order; while playing, stop."""
        if self.playing:
            self.stop()
            return
        roles = [one.plan.role.key for one in self.session.rehearsal.passes]
        project = self.session.project
        if roles and self.session.rehearsal.complete and self.turns.value == "areas" and project is not None:
            self.playing = True
            self.playing_changed.emit()
            request = PlayTurns(self.session.results, project, REHEARSAL_WIDTH, "areas", self._speed)
            self.session.runner.start("play", request, self._played, part=self._turn)
            self.refresh()
        elif roles and self.session.rehearsal.complete:
            self._queue = roles[1:]
            self._start(roles[0])

    def _start(self, role: str) -> None:
        project, number = self.session.project, self.session.rehearsal.number_of(role)
        if project is None or number < 0 or not self.session.rehearsal.complete:
            return
        self.session.choose(role=role)
        self.playing = True
        self.playing_changed.emit()
        request = Play(self.session.results, project, REHEARSAL_WIDTH, number, speed=self._speed)
        self.session.runner.start("play", request, self._played, part=self._frame)
        self.refresh()

    def _turn(self, value: tuple[Turn, Rgb8]) -> None:
        """Show the painting after a turn of its order of work, and name it."""
        turn, rgb = value
        self.frame.emit(rgb)
        readings = self.session.readings
        if readings is None:
            return
        roles = {one.plan.role.key: one.plan.role.name for one in self.session.rehearsal.passes}
        self.words.set_words(f"{turn_words(turn, [zone.name for zone in readings.zones], roles)}.")

    def _use_turns(self, key: str) -> None:
        self._manner = key
        self.turns.set_value(key)

    def _speed(self) -> float:
        """Return how many times as fast as usual it is played; asked while it plays."""
        return float(self.speed.value)

    def _frame(self, value: tuple[int, int, Rgb8]) -> None:
        laid, total, rgb = value
        self.at_mark.emit(laid, total)
        self.frame.emit(rgb)

    def _played(self, _: object) -> None:
        if self._queue:
            self._start(self._queue.pop(0))
            return
        self.stop()

    def stop(self) -> None:
        """Stop playing and show the pass as it stands."""
        self._queue = []
        self.session.runner.cancel("play")
        if self.playing:
            self.playing = False
            self.playing_changed.emit()
        self.frame.emit(None)
        self.refresh()

    def scrub(self, share: float) -> None:
        """Show the chosen pass with a share of its marks laid."""
        self._queue = []
        self.session.runner.cancel("play")
        if self.playing:
            self.playing = False
            self.playing_changed.emit()
        project, number = self.session.project, self.session.rehearsal.number_of(self.current())
        if project is None or number < 0 or not self.session.rehearsal.complete:
            return
        request = StandAt(self.session.results, project, REHEARSAL_WIDTH, number, share)
        self.session.runner.start("scrub", request, self._frame)

    def _beside_changed(self) -> None:
        self.picture.use_share(0.5 if self.limited.comparing else 1.0)
        if self.session.project is not None and self.session.chosen.stop == self.code:
            self.refresh()
        self.picture.update()

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.session.project
        if project is None or not self.limited.comparing:
            return
        number = self.session.rehearsal.number_of(self.current())
        act = self.session.rehearsal.passes[number].plan.role.act if number >= 0 else ""
        self.limited.beside.paint(p, view, project, act, self.limited.names(project))

    def leave(self) -> None:
        if self.limited.comparing:
            self.limited.close_beside()
            self.picture.use_share(1.0)
        self.session.runner.cancel("scrub")
        self.stop()

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_P:
            if self.playing:
                self.stop()
            else:
                self.play()
            return True
        if event.key() == Qt.Key.Key_Escape and self.playing:
            self.stop()
            return True
        return False

    def words_at(self, at: Point) -> str:
        return super().words_at(at)
