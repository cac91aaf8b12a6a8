"""The main window: lays trail, header, bench, course, picture and foot out, and joins them to the session."""

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, Qt, QTimer
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QKeySequence, QResizeEvent
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMainWindow, QMenu, QWidget

from foxpath.core.errors import AppError, PictureError
from foxpath.core.units import parse_size
from foxpath.document import recovery
from foxpath.document.recovery import Leftover
from foxpath.window import draw, recent, theme
from foxpath.window.begin import Begin, Welcome
from foxpath.window.bench.bench import Bench, panel
from foxpath.window.bench.rows import Question
from foxpath.window.foot import Foot
from foxpath.window.header import Header
from foxpath.window.keys import KeySheet
from foxpath.window.trail import NARROW, WIDE, Trail

if TYPE_CHECKING:
    # All that works on a painting is imported when the first one is opened, or when the window is idle.
    from foxpath.core.arrays import Rgb8
    from foxpath.document.model import Project
    from foxpath.window.course import Course
    from foxpath.window.picture.view import PictureView
    from foxpath.window.session import Session
    from foxpath.window.stops.base import Stop
    from foxpath.window.stops.rehearsal import RehearsalStop
    from foxpath.window.studio import Studio

STOPS = (
    ("reference", "Reference"),
    ("zones", "Zones"),
    ("growth", "Growth"),
    ("edges", "Edges"),
    ("lengths", "Lengths"),
    ("passes", "Passes"),
    ("rehearsal", "Rehearsal"),
)
COURSE_TALL, COURSE_SHORT = 108, 78
PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.JPG *.JPEG *.PNG *.TIF *.TIFF *.WEBP)"
PAINTINGS = "Fox Path paintings (*.foxpath)"


class MainWindow(QMainWindow):
    """One window on one painting."""

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle("Fox Path")
        self.setMinimumSize(900, 620)
        self.setAcceptDrops(True)
        self._studio: Studio | None = None
        body = self.body = QWidget(self)
        self.setCentralWidget(body)
        self.trail = Trail(list(STOPS), body)
        self.header = Header(body)
        self.bench = Bench(body)
        self.foot = Foot(body)
        self.begin = Begin()
        self.welcome = Welcome(body)
        self.question: Question | None = None
        self._answer: Callable[[str], None] | None = None
        self._compare = ""
        self._playing_frame: Rgb8 | None = None
        self._shown_key: object = None
        self._closing = False
        self._comb_drawn = ""
        self._leftovers: list[Leftover] = []
        self.menu = QMenu(self)
        self._make_actions()
        self._connect()
        self.resize(1280, 800)
        self.refresh()

    # Building -------------------------------------------------------------------------------------

    def _connect(self) -> None:
        self.trail.chosen.connect(self.open_stop)
        self.trail.menu_asked.connect(self._show_menu)
        self.header.aid_chosen.connect(self.choose_aid)
        self.foot.stop_asked.connect(self._stop_work)
        self.begin.open_asked.connect(self.ask_picture)
        self.begin.painting_asked.connect(self.open_path)
        self.begin.demo_asked.connect(self._open_demo)
        self.begin.keys_asked.connect(self.show_keys)

    @property
    def studio(self) -> "Studio":
        """All that works on a painting; made when it is first asked for."""
        if self._studio is None:
            from foxpath.window.studio import Studio

            self._studio = Studio(self, self.body)
            self._connect_studio(self._studio)
            for first, second in zip(
                (self.trail, self.header, self.bench, self.course, self.picture),
                (self.header, self.bench, self.course, self.picture, self.foot),
                strict=True,
            ):
                self.setTabOrder(first, second)
            self._lay_out()
            self.refresh()
        return self._studio

    def _connect_studio(self, studio: "Studio") -> None:
        session = studio.session
        session.project_changed.connect(self._project_changed)
        session.readings_changed.connect(self._readings_changed)
        session.chosen_changed.connect(self._chosen_changed)
        session.rehearsal_changed.connect(self._rehearsal_changed)
        session.saved_changed.connect(self.refresh_header)
        session.picture_ready.connect(self.refresh)
        session.said.connect(self.foot.say)
        session.runner.busy.connect(self._busy)
        session.runner.idle.connect(self._idle)
        studio.course.chosen.connect(self._choose_pass)
        studio.picture.pointed.connect(self.foot.point)
        studio.picture.dropped.connect(self.open_path)
        studio.picture.view_moved.connect(self._refresh_player)
        for stop in studio.stops.values():
            stop.go_to.connect(self.open_stop)
        rehearsal = studio.rehearsal
        rehearsal.frame.connect(self._play_frame)
        rehearsal.at_mark.connect(self._at_mark)
        rehearsal.playing_changed.connect(self._refresh_player)
        rehearsal.sheets.clicked.connect(self.ask_sheets)
        self.foot.play_asked.connect(self._toggle_play)
        self.foot.scrubbed.connect(rehearsal.scrub)

    @property
    def session(self) -> "Session":
        """The session on the painting."""
        return self.studio.session

    @property
    def project(self) -> "Project | None":
        """The present project; asking makes no studio."""
        return self._studio.session.project if self._studio is not None else None

    @property
    def picture(self) -> "PictureView":
        """The picture."""
        return self.studio.picture

    @property
    def course(self) -> "Course":
        """The row of passes."""
        return self.studio.course

    @property
    def stops(self) -> "dict[str, Stop]":
        """The stops of the trail by their key."""
        return self.studio.stops

    @property
    def rehearsal(self) -> "RehearsalStop":
        """The rehearsal stop."""
        return self.studio.rehearsal

    @property
    def stop(self) -> "Stop":
        """The open stop."""
        return self.stops[self.session.chosen.stop]

    def _make_actions(self) -> None:
        def act(words: str, keys: str, run: Callable[[], object], *, menu: bool = True) -> QAction:
            action = QAction(words, self)
            action.setShortcuts([QKeySequence(k) for k in keys.split("|") if k])
            action.setShortcutContext(Qt.ShortcutContext.WindowShortcut)
            action.triggered.connect(run)
            self.addAction(action)
            if menu:
                self.menu.addAction(action)
            return action

        act("Open a picture …", "Ctrl+O", self.ask_picture)
        act("Open a painting …", "Ctrl+Shift+O", self.ask_painting)
        self.save_action = act("Save", "Ctrl+S", self.save)
        self.save_as_action = act("Save as …", "Ctrl+Shift+S", self.ask_save)
        self.menu.addSeparator()
        self.undo_action = act("Undo", "Ctrl+Z", self._undo)
        self.redo_action = act("Do again", "Ctrl+Shift+Z|Ctrl+Y", self._redo)
        self.menu.addSeparator()
        self.sheets_action = act("Print sheets …", "Ctrl+P", self.ask_sheets)
        self.menu.addSeparator()
        act("Show everything", "Ctrl+0", self._fit)
        act("Day or evening", "F9", self.toggle_evening)
        act("Keys", "F1", self.show_keys)
        act("The demo fox", "", self._open_demo)
        act("Close", "Ctrl+Q", self.close)
        for number, (key, _) in enumerate(STOPS, 1):
            action = act(f"Open {key}", f"Ctrl+{number}", self._open_stop_action, menu=False)
            action.setData(key)
        for shortcut, kind in zip(
            ("F2", "F3", "F4", "F5", "F6", "F7"),
            ("plain", "greys", "squint", "poster", "mirror", "upside"),
            strict=True,
        ):
            action = act(f"See {kind}", shortcut, self._aid_action, menu=False)
            action.setData(kind)
        act("Zoom in", "+|=", self._zoom_in, menu=False)
        act("Zoom out", "-", self._zoom_out, menu=False)
        act("Pass before", "PgUp", self._pass_before, menu=False)
        act("Pass after", "PgDown", self._pass_after, menu=False)
        act("Menu", "F10", self._show_menu, menu=False)
        act("Stop", "Esc", self._stop_work, menu=False)

    def _undo(self) -> None:
        if self.project is not None:
            self.session.undo()

    def _redo(self) -> None:
        if self.project is not None:
            self.session.redo()

    def _fit(self) -> None:
        if self.project is not None:
            self.picture.fit()

    def _open_stop_action(self) -> None:
        sender = self.sender()
        if isinstance(sender, QAction):
            self.open_stop(str(sender.data()))

    def _aid_action(self) -> None:
        sender = self.sender()
        if isinstance(sender, QAction):
            self.choose_aid(str(sender.data()))

    def _zoom_in(self) -> None:
        if self.project is not None:
            self.picture.zoom(1.25)

    def _zoom_out(self) -> None:
        if self.project is not None:
            self.picture.zoom(0.8)

    def _show_menu(self) -> None:
        history = self.session.history if self.project is not None else None
        undo, redo = (history.undo_words, history.redo_words) if history else ("", "")
        self.undo_action.setText(f"Undo {undo}" if undo else "Undo (nothing done)")
        self.redo_action.setText(f"Do again: {redo}" if redo else "Do again (nothing undone)")
        for action in (self.save_action, self.save_as_action, self.sheets_action):
            action.setEnabled(self.project is not None)
        self.menu.popup(self.trail.mapToGlobal(QPoint(12, 40)))

    # Layout ---------------------------------------------------------------------------------------

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._lay_out()

    def _lay_out(self) -> None:
        width, height = self.body.width(), self.body.height()
        small = width < 1180
        trail = NARROW if small else WIDE
        bench = 270 if small else min(360, 290 + max(0, (width - 1280) // 8))
        course = COURSE_SHORT if small or height < 760 else COURSE_TALL
        self.trail.narrow = small
        self.header.small = width < 1120
        self.header.line_to = bench
        left = trail + bench
        self.trail.setGeometry(0, 0, trail, height)
        self.header.setGeometry(trail, 0, width - trail, 40)
        self.bench.setGeometry(trail, 40, bench, height - 40)
        foot = self.foot.height()
        if self._studio is not None:
            self.course.compact = course == COURSE_SHORT
            self.course.setGeometry(left, 40, width - left, course)
            self.picture.setGeometry(left, 40 + course, width - left, height - 40 - course - foot)
            self.course.update()
        self.welcome.setGeometry(left, 40, width - left, height - 40)
        self.foot.setGeometry(left, height - foot, width - left, foot)
        for part in (self.trail, self.header):
            part.update()

    # Keeping up -----------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Bring everything shown up to date."""
        is_open = self.project is not None
        self.welcome.setVisible(not is_open)
        self.foot.setVisible(is_open)
        if self._studio is not None:
            self.course.setVisible(is_open)
            self.picture.setVisible(is_open)
        if is_open:
            self.stop.refresh()
            if self.question is None:
                self.bench.set_panel(self.stop.panel)
            self.bench.set_words(self.stop.title, self.stop.reading())
        else:
            self.begin.refresh()
            if self.question is None:
                self.bench.set_panel(self.begin)
            self.bench.set_words("Begin", "")
        self._refresh_trail()
        self.refresh_header()
        self._refresh_course()
        self._refresh_player()

    def _refresh_trail(self) -> None:
        if self.project is None:
            waiting: draw.State = "no"
            begin = {key: ("a picture, a crop" if key == "reference" else "", waiting) for key, _ in STOPS}
            self.trail.set_readings(begin, "reference")
            return
        readings = {key: (stop.reading(), stop.state()) for key, stop in self.stops.items()}
        self.trail.set_readings(readings, self.session.chosen.stop)

    def refresh_header(self) -> None:
        """Show the painting's name, canvas and whether it is saved."""
        project = self.project
        if project is None:
            self.header.set_words("Nothing open yet", "the trail begins with a picture", {"plain"})
            return
        chosen = self.session.chosen
        on = {chosen.aid}
        on |= {"mirror"} if chosen.mirrored else set()
        on |= {"upside"} if chosen.upside_down else set()
        saved = "saved" if self.session.saved else "not saved yet"
        self.header.set_words(project.name, f"{project.canvas.words()} · layered oil · {saved}", on)
        self.setWindowTitle(f"{project.name}{'' if self.session.saved else ' *'} · Fox Path")

    def _refresh_course(self) -> None:
        project = self.project
        if project is None:
            return
        readings = self.session.readings
        if readings is None:
            self.course.set_course((), {}, set(), (), "", 1.25)
            return
        plans = readings.passes if len(project.zones) > 1 else ()
        rehearsal = self.session.rehearsal
        stands = {one.plan.role.key for one in rehearsal.passes}
        waiting = {plan.role.key for plan in plans} - stands if not rehearsal.complete else set()
        opened = self._open_role() if self.stop.shows_painting else ""
        self.course.set_course(plans, rehearsal.small, waiting, readings.findings, opened, project.canvas.aspect)
        self.picture.opened = bool(opened)

    def _open_role(self) -> str:
        return self.stop.open_role()

    def _project_changed(self, before: "Project | None", after: "Project") -> None:
        if before is None or before.reference is not after.reference:
            self.picture.setFocus()
            self.picture.show_painting(None)
            self.picture.refresh_region(fit=True)
        elif before.crop != after.crop or before.canvas != after.canvas:
            self.picture.refresh_region(fit=not self.stop.shows_whole)
        chosen = self.session.chosen
        if chosen.zone and after.zone(chosen.zone) is None:
            self.session.choose(zone="")
        if chosen.comb and all(c.id != chosen.comb for c in after.combs):
            self.session.choose(comb="")
        self.picture.refresh_overlay(now=True)
        self.refresh()
        self.picture.update()

    def _readings_changed(self) -> None:
        self.refresh()
        self.picture.repoint()
        self.picture.update()

    def _chosen_changed(self) -> None:
        if self.picture.stop is not self.stop:
            if self.picture.stop is not None:
                self.picture.stop.leave()
            self.picture.set_stop(self.stop)
        elif self.stop.growth_gap > 0 and self.session.chosen.comb != self._comb_drawn:
            self.picture.refresh_overlay(now=True)
        self._comb_drawn = self.session.chosen.comb
        self.refresh()
        self._show_standing()
        self.picture.update()

    def _rehearsal_changed(self) -> None:
        if self.session.rehearsal.complete and self.rehearsal.playing:
            self.rehearsal.stop()
        if self.stop.shows_painting:
            self.stop.refresh()
            self.bench.set_words(self.stop.title, self.stop.reading())
        self._refresh_trail()
        self._refresh_course()
        self._show_standing()
        self._refresh_player()

    # The painting shown ---------------------------------------------------------------------------

    def _show_standing(self) -> None:
        """Show the open pass as it stands, what came before it, the reference, or a frame being played."""
        if not self.stop.shows_painting or self._compare == "reference":
            self._show_rgb(None, None)
            return
        if self._playing_frame is not None and not self._compare:
            self._show_rgb(self._playing_frame, id(self._playing_frame))
            return
        rehearsal = self.session.rehearsal
        number = rehearsal.number_of(self._open_role())
        if self._compare == "before":
            number -= 1
        if 0 <= number < len(rehearsal.passes):
            standing = rehearsal.passes[number].standing
            if self._shown_key != id(standing):
                self._show_rgb(standing.shown, id(standing))
        elif not rehearsal.passes:
            self._show_rgb(None, None)

    def _show_rgb(self, rgb: "Rgb8 | None", key: object) -> None:
        if key != self._shown_key or (rgb is None and self.picture.painting is not None):
            self._shown_key = key
            self.picture.show_painting(rgb)

    def _play_frame(self, rgb: "Rgb8 | None") -> None:
        self._playing_frame = rgb
        self._show_standing()
        if rgb is None:
            self._refresh_player()

    def _at_mark(self, laid: int, total: int) -> None:
        self.foot.laid, self.foot.total = laid, total
        self.foot.update()

    def _toggle_play(self) -> None:
        if self.rehearsal.playing:
            self.rehearsal.stop()
        else:
            self.rehearsal.play(self._open_role())

    def _refresh_player(self) -> None:
        project = self.project
        if project is None:
            return
        px = self.picture.viewport.scale / project.mm_per_px * 10
        self.foot.scale_words = f"1 cm here = {px:.1f} px"
        shown = self.session.chosen.stop == "rehearsal"
        number = self.session.rehearsal.number_of(self._open_role()) if shown else -1
        total = self.session.rehearsal.passes[number].marks if number >= 0 else 0
        laid = self.foot.laid if self._playing_frame is not None else total
        self.foot.set_player(
            shown=shown,
            playing=self.rehearsal.playing,
            laid=min(laid, total),
            total=total,
            hint="hold B: before · hold R: reference" if shown else "",
        )

    def _choose_pass(self, role: str) -> None:
        self.rehearsal.stop()
        self.session.choose(role=role)
        if not self.stop.shows_painting:
            self.open_stop("passes")

    def _step_pass(self, by: int) -> None:
        plans = [plan.role.key for plan in self.course.plans]
        if plans:
            now = plans.index(self._open_role()) if self._open_role() in plans else 0
            self._choose_pass(plans[min(max(now + by, 0), len(plans) - 1)])

    def _pass_before(self) -> None:
        self._step_pass(-1)

    def _pass_after(self) -> None:
        self._step_pass(1)

    # Stops, aids, looks ---------------------------------------------------------------------------

    def open_stop(self, key: str) -> None:
        """Open a stop of the trail."""
        if self.project is not None and key in self.stops:
            self.session.choose(stop=key)

    def choose_aid(self, kind: str) -> None:
        """Switch a seeing aid; mirror and upside down go together with the others."""
        if self.project is None:
            return
        chosen = self.session.chosen
        if kind == "mirror":
            self.session.choose(mirrored=not chosen.mirrored)
        elif kind == "upside":
            self.session.choose(upside_down=not chosen.upside_down)
        else:
            self.session.choose(aid="plain" if kind == chosen.aid else kind)
        self.picture.refresh_region(fit=False)
        self.picture.refresh_aid()
        self.picture.moved()
        self.refresh_header()

    def toggle_evening(self) -> None:
        """Change between the day and the evening set."""
        self.use_theme(theme.EVENING if theme.theme().name == "day" else theme.DAY)
        recent.remember_evening(on=theme.theme().name == "evening")

    def use_theme(self, chosen: theme.Theme) -> None:
        """Use a set of colours everywhere."""
        theme.use(chosen)
        app = QApplication.instance()
        if isinstance(app, QApplication):
            app.setStyleSheet(theme.style_sheet())
        for widget in self.findChildren(QWidget):
            widget.update()
        self.update()

    def show_keys(self) -> None:
        """Show the help sheet."""
        sheet = KeySheet(self)
        sheet.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        sheet.show()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        compare = {Qt.Key.Key_B: "before", Qt.Key.Key_R: "reference"}.get(Qt.Key(event.key()))
        if self.project is None:
            super().keyPressEvent(event)
        elif compare and self.stop.shows_painting and not event.isAutoRepeat():
            self._compare = compare
            self._show_standing()
        elif event.key() == Qt.Key.Key_P and self.session.chosen.stop == "rehearsal":
            self._toggle_play()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_B, Qt.Key.Key_R) and not event.isAutoRepeat() and self._compare:
            self._compare = ""
            self._show_standing()
        else:
            super().keyReleaseEvent(event)

    def _stop_work(self) -> None:
        focused = QApplication.focusWidget()
        if isinstance(focused, QLineEdit):
            focused.clearFocus()
        if self.project is None:
            return
        if self.rehearsal.playing:
            self.rehearsal.stop()
            return
        if self.stop.busy_gesture():
            self.stop.leave()
            self.picture.update()
            return
        if self.foot.working:
            self.session.stop_work()
            self.foot.work("")
            self.bench.set_progress(None)
            self.foot.say("Stopped. It goes on with the next change.", "note")

    def _busy(self, key: str, share: float, words: str) -> None:
        if key in ("readings", "rehearsal", "sheets", "picture"):
            self.bench.set_progress(share)
            self.foot.work(words)

    def _idle(self, key: str) -> None:
        if not any(self.session.runner.running(k) for k in ("readings", "rehearsal", "sheets", "picture")):
            self.bench.set_progress(None)
            self.foot.work("")

    # Opening and saving ---------------------------------------------------------------------------

    def ask_picture(self) -> None:
        """Ask for a picture, then begin a painting on it."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a picture", "", PICTURES)
        if name:
            self.open_path(name)

    def ask_painting(self) -> None:
        """Ask for a project file."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a painting", "", PAINTINGS)
        if name:
            self.open_path(name)

    def open_path(self, name: str) -> None:
        """Open a project or a picture; unsaved work is asked about first."""
        path = Path(name)

        def go_on() -> None:
            try:
                project, origin = self._read(path)
            except AppError as failure:
                self._complain(failure)
                return
            self.session.start(project, origin, on_disk=origin is not None)
            if origin is not None:
                recent.remember(origin, project)
            self.open_stop("reference" if origin is None else "growth" if project.combs else "zones")

        self._unless_unsaved(go_on)

    def _read(self, path: Path) -> "tuple[Project, Path | None]":
        from foxpath.document import archive, edits

        if path.suffix.lower() == ".foxpath":
            return archive.load(path), path
        try:
            if path.stat().st_size > archive.MAX_REFERENCE_BYTES:
                raise PictureError(f"{path.name} is larger than 400 MB.", "Save a smaller copy and open that.")
            data = path.read_bytes()
        except OSError as failure:
            reason = (failure.strerror or str(failure)).lower()
            raise PictureError(f"{path.name} could not be read: {reason}.", "Check the name and the folder.") from None
        canvas = recent.last_canvas()
        if self.project is None:
            try:
                canvas = parse_size(self.begin.canvas_size.text())
            except AppError:
                canvas = recent.last_canvas()
        return edits.new_project(data, path.name, canvas), None

    def _complain(self, failure: AppError) -> None:
        """Say in the bench why something could not be opened; what was open stays."""
        self.ask(failure.message, failure.hint, [("again", "Try another"), ("ok", "Close this")], self._complained)

    def _complained(self, answer: str) -> None:
        if answer == "again":
            QTimer.singleShot(0, self.ask_picture)

    def open_demo(self, name: str) -> None:
        """Open a demo."""
        from foxpath.demo import demo_project

        self.session.start(demo_project(name), None, on_disk=True)
        self.open_stop("growth")

    def _open_demo(self) -> None:
        self._unless_unsaved(lambda: self.open_demo("fox"))

    def save(self) -> bool:
        """Save where it was saved last, else ask where."""
        if self.project is None:
            return False
        return self.session.save(self.session.path) if self.session.path else self.ask_save()

    def ask_save(self) -> bool:
        """Ask where to save."""
        project = self.project
        if project is None:
            return False
        start = str(self.session.path or f"{project.name}.foxpath")
        name, _ = QFileDialog.getSaveFileName(self, "Save the painting", start, PAINTINGS)
        if not name:
            return False
        path = Path(name if name.endswith(".foxpath") else f"{name}.foxpath")
        return self.session.save(path)

    def ask_sheets(self) -> None:
        """Ask where to write the book of sheets."""
        project = self.project
        if project is None:
            return
        name, kind = QFileDialog.getSaveFileName(
            self, "Print sheets", f"{project.name}.pdf", "PDF, A4 (*.pdf);;PDF, Letter (*.pdf)"
        )
        if name:
            path = Path(name if name.endswith(".pdf") else f"{name}.pdf")
            self.print_sheets(path, "Letter" if "Letter" in kind else "A4")

    def print_sheets(self, path: Path, paper: str) -> None:
        """Write the book of sheets in the background."""
        from foxpath.derive.requests import PrintSheets

        project = self.project
        if project is not None:
            self._sheets_path = path
            request = PrintSheets(self.session.results, project, path, paper)
            self.session.runner.start("sheets", request, self._sheets_done, failed=self._sheets_failed)

    def _sheets_done(self, pages: int) -> None:
        self.foot.say(f"{self._sheets_path.name}: {pages} pages", "note")

    def _sheets_failed(self, words: str) -> None:
        self.foot.say(words, "must")

    # Questions ------------------------------------------------------------------------------------

    def ask(self, sentence: str, follows: str, answers: list[tuple[str, str]], then: Callable[[str], None]) -> None:
        """Ask in the bench, in the place of the next step; the last answer is the filled button."""
        self._answer = then
        self.question = Question(sentence, follows, answers)
        self.question.answered.connect(self._answered)
        self.bench.set_panel(panel(self.question))
        list(self.question.buttons.values())[-1].setFocus()

    def _answered(self, key: str) -> None:
        then, self._answer, self.question = self._answer, None, None
        self.refresh()
        if then is not None:
            then(key)

    def _unless_unsaved(self, go_on: Callable[[], None]) -> None:
        """Go on at once, or after asking what becomes of unsaved work."""
        project = self.project
        if project is None or self.session.saved:
            go_on()
            return

        def answered(key: str) -> None:
            if key == "save" and not self.save():
                return
            if key == "drop":
                self.session.forget()
            if key != "stay":
                go_on()

        self.ask(
            f"{project.name} has changes that are not saved.",
            "Without saving they are lost.",
            [("stay", "Stay"), ("drop", "Drop them"), ("save", "Save")],
            answered,
        )

    def offer_leftovers(self) -> None:
        """Offer what a crash left behind."""
        self._leftovers = recovery.leftovers()
        if not self._leftovers:
            return
        first = self._leftovers[0]
        project = recovery.read(first)
        if project is None:
            recovery.drop(first.file)
            return
        minutes = max(1, round(first.seconds_old / 60))
        ago = f"{minutes} min ago" if minutes < 90 else f"{round(minutes / 60)} h ago"
        origin = Path(first.origin) if first.origin else None

        def answered(key: str) -> None:
            if key == "take":
                self.session.start(project, origin, on_disk=False)
                self.session.keep_now()
                self.open_stop("growth" if project.combs else "zones")
            recovery.drop(first.file)

        self.ask(
            f"{project.name} was open when Fox Path ended {ago}.",
            "Its last changes were kept. Taking it back changes no file until you save.",
            [("drop", "Drop it"), ("take", "Take it back")],
            answered,
        )

    # The window itself ----------------------------------------------------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls() and event.mimeData().urls()[0].isLocalFile():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        event.acceptProposedAction()
        self.open_path(event.mimeData().urls()[0].toLocalFile())

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self._closing and self.project is not None and not self.session.saved:
            event.ignore()
            self._unless_unsaved(self.close_for_good)
            return
        if self._studio is not None:
            self.session.forget()
            self.session.close()
        event.accept()

    def close_for_good(self) -> None:
        """Close without asking."""
        self._closing = True
        self.close()
