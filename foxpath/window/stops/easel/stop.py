"""Stop 11, Easel: beside the canvas, one step at a time; and the log that it writes, to be read, searched and corrected."""

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QPainter
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.cautions import SOLVENT
from foxpath.core.errors import InputError
from foxpath.core.log.easel import HANDS, REMINDERS
from foxpath.core.log.entries import KINDS, standing
from foxpath.core.log.reading import open_sitting, parts, search, sittings
from foxpath.core.log.room import SENSORS, Air, air_now, sound_air
from foxpath.core.log.words import as_csv, as_text, entry_words, part_words, sitting_words
from foxpath.core.reporting import Progress
from foxpath.core.units import count_words, duration_words
from foxpath.derive.easel.reading import EaselClose
from foxpath.derive.easel.wear import served
from foxpath.derive.handout.log import story_pages
from foxpath.derive.pictures import cropped_picture
from foxpath.derive.results import Results
from foxpath.derive.subjects import EASEL
from foxpath.document import calendars, edits, paces
from foxpath.document.model import Project, Reference
from foxpath.sheets import Book, write_book
from foxpath.sheets.pictures import write_file
from foxpath.window.bench.bench import column, panel
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Field, Measure, Scale
from foxpath.window.bench.rows import NextStep, Row, Section, TallRows, Words
from foxpath.window.easel.clock import wall_exact
from foxpath.window.easel.view import EaselView
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.view import stepped_back
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.easel.client import ClientPage
from foxpath.window.stops.easel.learned import LearnedPage
from foxpath.window.stops.easel.picture import PICTURES, ReadPicture, Thumb

PAGES = (("today", "Today"), ("log", "Log"), ("learned", "Learned"), ("client", "Client"), ("remind", "Set"))
MOST_ROWS = 60
KEYS_WORDS = (
    "G covers the screen with one step. There: Space is done and goes on, H shows every key, Esc comes back here."
)


class EaselStop(Stop):
    """The next sitting's steps; G opens the easel over the whole screen."""

    code, title = "easel", "Easel"
    steps_back = True
    cursor = Qt.CursorShape.ArrowCursor
    full = True
    """Whether the easel takes the whole screen, and not only the window."""

    def make_panel(self) -> QWidget:
        self.pages = Choice(list(PAGES), "page of the easel")
        self.pages.chosen.connect(self.open_page)
        self.next = NextStep("hair")
        self.next.asked.connect(self.go)
        self.found = FindingList(self.code)
        self.found.asked.connect(lambda *_: self.end())
        self.steps_head = Section("The steps", "")
        self.steps = TallRows("steps of the sitting")
        self.steps.chosen.connect(self._choose_step)
        self.carried_head = Section("Carried over", "")
        self.carried = TallRows("what was left undone")
        self.before = Words("", 12.5)
        self.acts = Buttons([("end", "End the sitting")], 1)
        self.acts.clicked.connect(lambda _: self.end())
        self.today_page = column(
            self.before, self.carried_head, self.carried, self.steps_head, self.steps, self.acts, Section("At the easel", "keys of one hand"), Words(KEYS_WORDS, 12.5), Words(SOLVENT, 12)
        )  # fmt: skip
        self.find = Field("search the log")
        self.find.blank = True
        self.find.setPlaceholderText("search, e.g. too dark cheek")
        self.find.textChanged.connect(self._search)
        self.log_head = Section("Log", "")
        self.log = TallRows("entries of the log")
        self.log.chosen.connect(self._choose_entry)
        self.entry_words = Words("", 12.5)
        self.text = Field("correct the words")
        self.text.setPlaceholderText("correct its words")
        self.text.taken.connect(self.correct)
        self.note = Field("a note")
        self.note.setPlaceholderText("write a note")
        self.note.taken.connect(self.add_note)
        self.entry_picture = Thumb()
        self.alike = Field("likeness or anatomy of a part")
        self.alike.setPlaceholderText("near ear: stands further back")
        self.alike.blank = True
        self.alike_acts = Buttons([("note", "Note it"), ("picture", "With a picture …")], 2)
        self.alike_acts.clicked.connect(self._alike)
        self.materials_head = Section("Materials", "")
        self.materials = TallRows("what the painting is made of")
        self.material = Field("a material")
        self.material.setPlaceholderText("support: linen, two coats, warm grey")
        self.material.blank = True
        self.material.taken.connect(self.note_material)
        self.brushes_head = Section("Brushes", "")
        self.brushes = TallRows("brushes that served")
        self.brushes.chosen.connect(self._choose_brush)
        self.brush_acts = Buttons([("count", "Count the painting"), ("texture", "Keep it for texture")], 1)
        self.brush_acts.clicked.connect(self._brush)
        self._brush_at = ""
        self.files = Buttons([("text", "As text …"), ("csv", "As CSV …"), ("pdf", "As sheets …")], 2)
        self.files.clicked.connect(self._file)
        self.parts_head = Section("Part by part", "")
        self.parts = TallRows("what every part has been through")
        self.log_page = column(
            self.find, self.log_head, self.log, self.entry_words, self.entry_picture, self.text, Section("A note", "now"),
            self.note, Section("Likeness", "a part, and what is seen"), self.alike, self.alike_acts, self.parts_head, self.parts, self.materials_head, self.materials, self.material, self.brushes_head, self.brushes, self.brush_acts, Section("To hand on", ""), self.files,
        )  # fmt: skip
        self.learned = LearnedPage(self.session)
        self.client = ClientPage(self.session)
        self.measures = {key: self._measure(key) for key in REMINDERS}
        self.hand = Choice([(key, f"{key} hand") for key in HANDS], "which hand paints")
        self.hand.chosen.connect(lambda key: self.session.edit(lambda p: edits.set_easel(p, hand=key), f"{key} hand"))
        self.sensor = Choice(
            [("", "as at Days"), *((key, one.name) for key, one in SENSORS.items())], "what tells the room's air"
        )
        self.sensor.chosen.connect(
            lambda key: self.session.edit(lambda p: edits.set_easel(p, sensor=key), "the room's sensor")
        )
        self.air_words = Words("", 12.5)
        self.air = Field("the room's air now")
        self.air.setPlaceholderText("or as you read it now: 19.5, 46")
        self.air.taken.connect(self.note_air)
        self.remind_page = column(
            Section("Reminders", "minutes, 0 for never"), *self.measures.values(), Section("The hand", ""), self.hand,
            Section("The room's air", "noted as a sitting begins"), self.sensor, self.air_words, self.air,
        )  # fmt: skip
        self._bodies = {
            "today": self.today_page,
            "log": self.log_page,
            "learned": self.learned,
            "client": self.client,
            "remind": self.remind_page,
        }
        self._page, self._step, self._entry = "today", "", ""
        self._view: EaselView | None = None
        return panel(self.pages, self.next, self.found, *self._bodies.values())

    def _measure(self, key: str) -> Measure:
        made = Measure(REMINDERS[key][0], Scale(0, 120, lambda v: f"{v:.0f} min" if v else "never"))
        made.changed.connect(self._slide(key))
        made.setToolTip(REMINDERS[key][1].format(metres=3))
        return made

    def _slide(self, key: str) -> object:
        def slid(value: float, going: bool) -> None:  # noqa: FBT001  (a signal's)
            self.session.edit(lambda p: edits.set_easel(p, **{key: round(value)}), "a reminder", f"easel {key}")
            if not going:
                self.session.seal()

        return slid

    # What is known --------------------------------------------------------------------------------

    @property
    def close(self) -> EaselClose:
        """What is known of the sitting."""
        readings = self.session.readings
        return readings.close(EASEL) if readings is not None else EaselClose()

    @property
    def view(self) -> EaselView:
        """The easel view, made when it is first asked for."""
        if self._view is None:
            parent = self.picture.parentWidget()  # type: ignore[attr-defined]
            self._view = EaselView(self.session, parent)
            self._view.closed.connect(self._closed)
            self._view.hand.learned.connect(self._learned)
        return self._view

    def open_role(self) -> str:
        close = self.close
        if close.days is None or close.days.planned is None or not close.steps:
            return ""
        work = close.days.planned.layout.works[0]
        chosen = next((one for one in close.steps if one.key == self._step), close.steps[0])
        return work.roles.get(close.days.planned.layout.problem.tasks[chosen.number].id, "")

    # The bench ------------------------------------------------------------------------------------

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        close = self.close
        self.pages.set_value(self._page)
        for key, body in self._bodies.items():
            body.setVisible(key == self._page)
        self.found.set_findings(list(close.findings), [("end", "end it")])
        self._refresh_next(project, close)
        if self._page == "today":
            self._refresh_today(project, close)
        elif self._page == "log":
            self._refresh_log(project)
            self._refresh_parts(project)
            self._refresh_materials(project)
            self._refresh_brushes(project)
        elif self._page == "learned":
            self.learned.show_project(project)
        elif self._page == "client":
            self.client.show_project(project)
        else:
            for key, measure in self.measures.items():
                measure.set_value(
                    getattr(project.easel, key),
                    REMINDERS[key][2],
                    decided=getattr(project.easel, key) != REMINDERS[key][2],
                )
            self.hand.set_value(project.easel.hand)
            self.sensor.set_value(project.easel.sensor)
            days = project.days
            self.air_words.set_words(
                f"Now {air_now(project.easel.sensor, wall_exact(), days.celsius, days.humidity).words()}."
            )

    def _refresh_next(self, project: Project, close: EaselClose) -> None:
        going = open_sitting(project.told)
        if close.days is None:
            self.next.set_words("Reading the sitting", "Its steps are put in order.")
        elif not close.steps:
            self.next.set_words("Nothing to paint next", "Take a plan at Days first.", "Days")
        elif going is not None:
            self.next.set_words(
                f"The sitting goes on since {going.begin:%H:%M}", f"{close.steps[0].part} is next", "To the easel"
            )
        else:
            minutes = sum(one.minutes for one in close.steps)
            first = close.steps[0]
            self.next.set_words(
                f"{first.act}: {first.part}",
                f"{count_words(len(close.steps), 'step')}, {duration_words(minutes)}",
                "To the easel",
            )

    def _refresh_today(self, project: Project, close: EaselClose) -> None:
        self.before.set_words(" ".join(close.before))
        self.before.setVisible(bool(close.before))
        rows = [
            Row(f"{k}", one.part, f"{one.act} · {one.why}", f"{one.at:%-d %b}")
            for k, one in enumerate(close.carried[:6])
        ]
        self.carried_head.setVisible(bool(rows))
        self.carried.setVisible(bool(rows))
        self.carried_head.set_words("Carried over", str(len(close.carried)))
        self.carried.set_rows(rows, "")
        sitting = close.sitting
        self.steps_head.set_words("The steps", f"{sitting.begin:%a %-d %b, %H:%M}" if sitting is not None else "")
        self.steps.set_rows(
            [
                Row(one.key, one.part, f"{one.act} · {one.tool}" if one.tool else one.act, f"{one.minutes:.0f} min")
                for one in close.steps
            ],
            self._step,
        )
        self.acts.setVisible(open_sitting(project.told) is not None)

    def _refresh_log(self, project: Project) -> None:
        found = search(project.told, self.find.text())
        self.log_head.set_words("Log", f"{len(found)} of {count_words(len(project.told), 'entry', 'entries')}")
        rows = [
            Row(one.ref, entry_words(one), f"{one.local:%a %-d %b %Y, %H:%M}", "") for one in reversed(found[-MOST_ROWS:])
        ]  # fmt: skip
        keys = {row.key for row in rows}
        self._entry = self._entry if self._entry in keys else ""
        self.log.set_rows(rows, self._entry)
        self.log.setVisible(bool(rows))
        one = next((e for e in found if e.ref == self._entry), None)
        first = next((e for e in project.told if e.ref == self._entry), None)
        self.text.setVisible(one is not None)
        words = ""
        if one is not None and first is not None:
            self.text.show_words(one.text)
            words = f"{KINDS[one.kind].capitalize()}." + (
                f" At first: {first.text or 'no words'}." if first.text != one.text else ""
            )
        self.entry_words.set_words(words)
        self.entry_words.setVisible(bool(words))
        kept = project.picture(one.picture) if one is not None and one.picture else None
        self.entry_picture.show_picture(
            kept.reference if kept is not None else None, one.text if one is not None else ""
        )

    def _refresh_parts(self, project: Project) -> None:
        told = parts(project.told)
        self.parts_head.set_words("Part by part", count_words(len(told), "part") if told else "nothing painted yet")
        rows = [Row(one.part, one.part, part_words(one), "") for one in told[:MOST_ROWS]]
        self.parts.set_rows(rows, "")
        self.parts.setVisible(bool(rows))

    def _refresh_materials(self, project: Project) -> None:
        told = [one for one in standing(project.told) if one.kind == "material"]
        self.materials_head.set_words("Materials", count_words(len(told), "note") if told else "none noted")
        rows = [Row(one.ref, one.part, one.text, f"{one.local:%-d %b}") for one in told[-MOST_ROWS:]]
        self.materials.set_rows(rows, "")
        self.materials.setVisible(bool(rows))

    def _refresh_brushes(self, project: Project) -> None:
        used = served(self.session.results, project)
        for part in (self.brushes_head, self.brushes, self.brush_acts):
            part.setVisible(bool(used))
        self.brushes_head.set_words("Brushes", "counted" if project.easel.counted else "by the log")
        rows = [Row(str(one.index), one.brush.words(), one.words(), "") for one in used]
        self._brush_at = self._brush_at if any(row.key == self._brush_at for row in rows) else ""
        self.brushes.set_rows(rows, self._brush_at)
        chosen = next((one.brush for one in used if str(one.index) == self._brush_at), None)
        can = set() if project.easel.counted else {"count"}
        self.brush_acts.show_only(can | ({"texture"} if chosen is not None and chosen.state == "new" else set()))

    def _choose_brush(self, key: str) -> None:
        self._brush_at = "" if key == self._brush_at else key
        if self.session.project is not None:
            self._refresh_brushes(self.session.project)

    def _brush(self, key: str) -> None:
        project = self.session.project
        if project is None:
            return
        if key == "count":
            places = [one.index for one in served(self.session.results, project)]
            if self.session.edit(lambda p: edits.count_served(p, places), "count the painting"):
                self.session.said.emit("Counted. Keep the kit at Lengths, and new paintings know it too.", "note")
        elif self._brush_at:
            index = int(self._brush_at)
            worn = replace(project.kit[index], state="worn")
            self.session.edit(
                lambda p: edits.change_brush(p, index, worn), f"keep {project.kit[index].words()} for texture"
            )

    def reading(self) -> str:
        readings = self.session.readings
        return readings.of(EASEL).words if readings is not None else ""

    def state(self) -> draw.State:
        project = self.session.project
        if project is None or not project.told:
            return "no"
        return "begun" if open_sitting(project.told) is not None else "ready"

    # What is done ---------------------------------------------------------------------------------

    def open_page(self, key: str) -> None:
        """Open a page of the bench."""
        self._page = key
        if key == "learned":
            self.learned.read_errors()
        self.refresh()

    def go(self) -> None:
        """Go to the easel; to Days where there is nothing to paint."""
        close = self.close
        if close.days is None:
            return
        if not close.steps:
            self.go_to.emit("days")
            return
        self.view.open(close, full=self.full)

    def end(self) -> None:
        """End a sitting that goes on, without the easel."""
        project = self.session.project
        if project is not None and open_sitting(project.told) is not None:
            self.session.edit(lambda p: edits.tell(p, "end", wall_exact()), "end the sitting")

    def _closed(self) -> None:
        self.restated.emit()
        self.picture.update()

    def _learned(self) -> None:
        project = self.session.project
        if project is not None:
            self.session.runner.start(
                "keep learned", KeepLearned(project), lambda _: None,
                failed=lambda words: self.session.said.emit(words, "must"), writes=True,
            )  # fmt: skip

    def _choose_step(self, key: str) -> None:
        self._step = key
        self.picture.update()

    def _choose_entry(self, key: str) -> None:
        self._entry = key
        project = self.session.project
        if project is not None:
            self._refresh_log(project)

    def _search(self, _: str) -> None:
        project = self.session.project
        if project is not None and self._page == "log":
            self._refresh_log(project)

    def correct(self, text: str) -> None:
        """Correct the words of the chosen entry; the first stay in the log."""
        ref = self._entry
        if ref:
            self.session.edit(lambda p: edits.correct(p, ref, text, wall_exact()), "correct the log")

    def add_note(self, text: str) -> None:
        """Write a note about the painting."""
        if self.session.edit(lambda p: edits.tell(p, "note", wall_exact(), text=text), "a note"):
            self.note.setText("")
            self.note.show_words("")

    def _alike(self, key: str) -> None:
        if key == "note":
            self.note_likeness(None)
            return
        path, _ = QFileDialog.getOpenFileName(None, "A picture of it", "", PICTURES)
        if path:
            self.session.runner.start(
                "picture of a note", ReadPicture(Path(path)), self.note_likeness,
                failed=lambda words: self.session.said.emit(words, "must"),
            )  # fmt: skip

    def note_likeness(self, picture: Reference | None) -> None:
        """Note what is alike or not of a part: its name, a colon, and the words; with a picture of it."""
        project = self.session.project
        if project is None:
            return
        names = {zone.name.lower(): zone.name for zone in project.zones}
        first, colon, rest = self.alike.text().partition(":")
        part = names.get(first.strip().lower(), "") if colon else ""
        text = rest if part else self.alike.text()
        if self.session.edit(lambda p: edits.tell_likeness(p, wall_exact(), part, text, picture), "a note of likeness"):
            self.alike.setText("")
            self.alike.show_words("")

    def note_material(self, text: str) -> None:
        """Note what the painting is made of: a kind of material, a colon, and the words."""
        what, _, words = text.partition(":")
        kind = what.strip().lower()
        if self.session.edit(lambda p: edits.tell_material(p, wall_exact(), kind, words), "a material"):
            self.material.setText("")
            self.material.show_words("")

    def note_air(self, text: str) -> None:
        """Note the room's air as it was read on the wall: degrees Celsius and per cent, e.g. "19.5, 46"."""
        try:
            air = parse_air(text)
        except InputError as failure:
            self.session.said.emit(str(failure), "must")
            return
        if self.session.edit(lambda p: edits.tell(p, "room", wall_exact(), text=air.words()), "the room's air"):
            self.air.show_words("")

    def _file(self, key: str) -> None:
        project = self.session.project
        if project is None:
            return
        kinds = {"text": "Text (*.txt)", "csv": "Tables (*.csv)", "pdf": "Sheets (*.pdf)"}
        ending = {"text": "txt", "csv": "csv", "pdf": "pdf"}[key]
        path, _ = QFileDialog.getSaveFileName(None, "Where to", f"{project.name} log.{ending}", kinds[key])
        if path:
            self.write(key, Path(path))

    def write(self, key: str, path: Path) -> None:
        """Write the log as text, CSV or sheets, in the background."""
        project = self.session.project
        if project is not None:
            self.session.write(WriteLog(self.session.results, project, key, path))

    # The picture ----------------------------------------------------------------------------------

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_G:
            self.go()
            return True
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < len(PAGES):
            self.open_page(PAGES[number][0])
            return True
        return False

    def enter(self) -> None:
        QTimer.singleShot(0, self.picture.update)

    def paint_ground(self, p: QPainter, room: QRectF) -> None:
        p.fillRect(room, colour("plate"))
        taken = stepped_back(room)
        p.fillRect(taken.adjusted(-8, -8, 4, 4), colour("well"))
        project = self.session.project
        if project is None:
            return
        x, right = room.left() + 20, taken.left() - 24
        y = room.top() + 34
        told = sittings(project.told)
        draw.text(p, x, y, "The sittings", 18, 700)
        draw.text(p, right, y, count_words(len(told), "sitting") if told else "", 12.5, 400, "quiet", "r")
        draw.rule(p, x, y + 10, right - x)
        y += 36
        if not told:
            words = "Nothing was painted yet. What is said at the easel stands here: steps, minutes, words, breaks."
            for line in draw.lines_of(words, right - x, 14):
                draw.text(p, x, y, line, 14, 400, "quiet")
                y += 20
            return
        most = max(one.minutes for one in told) or 1.0
        for one in reversed(told):
            if y > room.bottom() - 60:
                return
            y = self._paint_sitting(p, x, right, y, sitting_words(one), one.minutes / most, one)

    def _paint_sitting(
        self, p: QPainter, x: float, right: float, y: float, words: str, share: float, one: object
    ) -> float:
        """Draw a sitting: its line, a hair as long as it took, and its words about marks."""
        for line in draw.lines_of(words, right - x, 13.5):
            draw.text(p, x, y, line, 13.5, 500)
            y += 19
        wide = (right - x) * min(max(share, 0.02), 1.0)
        draw.stroke(p, draw.along(x, y - 4, x + wide, y - 4), 5.5, 0.9, "text", soft_root=False)
        y += 16
        entries = getattr(one, "entries", ())
        said = [
            entry_words(e)
            for e in entries
            if e.kind in ("note", "likeness", "material", "undone", "dark", "light", "warm", "cool", "jumps", "smeared")
        ]
        for text in said[-3:]:
            draw.text(p, x + 14, y, draw.elided(text, right - x - 14, 12.5), 12.5, 400, "quiet")
            y += 18
        return y + 14


def parse_air(text: str) -> Air:
    """Read the air of a room such as "19.5, 46". Raises `InputError`."""
    try:
        celsius, humidity = (float(one) for one in text.replace(";", ",").split(","))
    except ValueError:
        raise InputError(f"“{text.strip()}” is no air.", "Write degrees and per cent, e.g. 19.5, 46.") from None
    air = sound_air(Air(celsius, humidity))
    if air is None:
        raise InputError(f"“{text.strip()}” cannot be a room's air.", "Write degrees and per cent, e.g. 19.5, 46.")
    return air


class KeepLearned:
    """Put what a sitting taught into the files that new paintings learn from: drying and pace."""

    def __init__(self, project: Project) -> None:
        self.project = project

    def __call__(self, progress: Progress) -> None:
        """Write them. Raises `AppError`."""
        progress.at(0, "keeping what was learned")
        if self.project.days.notes:
            calendars.keep_notes(self.project)
        if self.project.noted:
            paces.keep(self.project)


class WriteLog:
    """Write the log as text, as CSV, or as sheets."""

    def __init__(self, results: Results, project: Project, kind: str, path: Path) -> None:
        self.results, self.project, self.kind, self.path = results, project, kind, path

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`, `Cancelled`."""
        progress.at(0, "writing the log")
        project = self.project
        if self.kind == "pdf":
            small = cropped_picture(self.results, project, 400, max(1, round(400 / project.canvas.aspect)))
            write_book(
                Book(project.name, project.canvas, project.transfer.grid, small, tuple(story_pages(project))),
                self.path,
                "A4",
            )
        else:
            text = as_text(project.told, project.name) if self.kind == "text" else as_csv(project.told)
            write_file(self.path, text.encode())
        return f"Wrote {self.path.name}"
