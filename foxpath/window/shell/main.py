"""The main window: lays trail, header, bench, course, picture and foot out, and joins them to the session."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QKeySequence, QResizeEvent
from PySide6.QtWidgets import QApplication, QLineEdit, QMenu, QWidget

from foxpath.window.bench.bench import Bench
from foxpath.window.look import draw, theme
from foxpath.window.shell.begin import DEMOS, Begin, Welcome
from foxpath.window.shell.foot import Foot
from foxpath.window.shell.header import AIDS, Header
from foxpath.window.shell.keys import KeySheet
from foxpath.window.shell.papers import Papers
from foxpath.window.shell.trail import NARROW, WIDE, Trail
from foxpath.window.stops import STOPS, shortcut_of
from foxpath.window.work import recent

if TYPE_CHECKING:
    # All that works on a painting is imported when the first one is opened, or when the window is idle.
    from foxpath.core.arrays import Rgb8
    from foxpath.document.model import Project
    from foxpath.window.picture.view import PictureView
    from foxpath.window.shell.course import Course
    from foxpath.window.shell.studio import Studio
    from foxpath.window.stops.base import Stop
    from foxpath.window.stops.rehearsal.stop import RehearsalStop
    from foxpath.window.work.session import Session

COURSE_TALL, COURSE_SHORT = 108, 78


COMPARES = {Qt.Key.Key_B: "before", Qt.Key.Key_R: "reference", Qt.Key.Key_E: "earlier"}
"""What is shown while a key is held, where a painting is."""


class MainWindow(Papers):
    """One window on one painting."""

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle("Fox Path")
        self.setMinimumSize(900, 620)
        self.setAcceptDrops(True)
        self._studio: Studio | None = None
        body = self.body = QWidget(self)
        self.setCentralWidget(body)
        self.trail = Trail([(one.key, one.title) for one in STOPS], body)
        self.header = Header(body)
        self.bench = Bench(body)
        self.foot = Foot(body)
        self.begin = Begin()
        self.welcome = Welcome(body)
        self._compare = ""
        self._playing_frame: Rgb8 | None = None
        self._shown_of: object = None
        self._closing = False
        self._comb_drawn = ""
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
        self.begin.demo_asked.connect(self.ask_demo)
        self.begin.keys_asked.connect(self.show_keys)

    @property
    def studio(self) -> "Studio":
        """All that works on a painting; made when it is first asked for."""
        if self._studio is None:
            from foxpath.window.shell.studio import Studio

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
        session.lent_ready.connect(studio.picture.update)
        session.inspection_changed.connect(self.refresh)
        session.said.connect(self.foot.say)
        session.runner.busy.connect(self._busy)
        session.runner.idle.connect(self._idle)
        studio.course.chosen.connect(self._choose_pass)
        studio.picture.pointed.connect(self.foot.point)
        studio.picture.dropped.connect(self.open_path)
        studio.picture.view_moved.connect(self._refresh_player)
        for stop in studio.stops.values():
            stop.go_to.connect(self.open_stop)
            stop.restated.connect(self._restated)
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
        self.recent_menu = self.menu.addMenu("Go on with")
        self.recent_menu.triggered.connect(self._open_recent)
        self.save_action = act("Save", "Ctrl+S", lambda: self.save())
        self.save_as_action = act("Save as …", "Ctrl+Shift+S", lambda: self.ask_save())
        self.menu.addSeparator()
        self.undo_action = act("Undo", "Ctrl+Z", self._undo)
        self.redo_action = act("Do again", "Ctrl+Shift+Z|Ctrl+Y", self._redo)
        self.menu.addSeparator()
        self.sheets_action = act("Print sheets …", "Ctrl+P", self.ask_sheets)
        self.map_action = act("Save the map as SVG …", "Ctrl+M", self.ask_map)
        self.menu.addSeparator()
        act("Show everything", "Ctrl+0", self._fit)
        act("True size", "Ctrl+T", self._true_size)
        act("Day or evening", "F9", self.toggle_evening)
        act("Keys", "F1", self.show_keys)
        for key, name in DEMOS:
            act(name, "", self._demo_action).setData(key)
        act("Close", "Ctrl+Q", self.close)
        for number, one in enumerate(STOPS, 1):
            action = act(f"Open {one.key}", shortcut_of(number), self._open_stop_action, menu=False)
            action.setData(one.key)
        for kind, words, shortcut in AIDS:
            # One letter is no shortcut: it would be taken from whoever types.
            action = act(f"See: {words}", shortcut if len(shortcut) > 1 else "", self._aid_action, menu=False)
            action.setData(kind)
        act("Zoom in", "+|=", self._zoom_in, menu=False)
        act("Zoom out", "-", self._zoom_out, menu=False)
        act("Pass before", "PgUp", self._pass_before, menu=False)
        act("Pass after", "PgDown", self._pass_after, menu=False)
        act("Menu", "F10", self._show_menu, menu=False)
        act("Stop", "Esc", self._stop_work, menu=False)

    def _open_recent(self, action: QAction) -> None:
        self.open_path(str(action.data()))

    def _undo(self) -> None:
        if self.project is None:
            return
        if self.stop.take_back():
            self.picture.update()
        else:
            self.session.undo()

    def _redo(self) -> None:
        if self.project is not None:
            self.session.redo()

    def _fit(self) -> None:
        if self.project is not None:
            self.picture.fit()

    def _true_size(self) -> None:
        if self.project is not None:
            self.picture.true_size()

    def _open_stop_action(self) -> None:
        sender = self.sender()
        if isinstance(sender, QAction):
            self.open_stop(str(sender.data()))

    def _demo_action(self) -> None:
        sender = self.sender()
        if isinstance(sender, QAction):
            self.ask_demo(str(sender.data()))

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
        self.recent_menu.clear()
        for one in recent.paintings():
            self.recent_menu.addAction(f"{one.name}  ·  {one.path.name}").setData(str(one.path))
        self.recent_menu.setEnabled(not self.recent_menu.isEmpty())
        for action in (self.save_action, self.save_as_action, self.sheets_action, self.map_action):
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
        self.header.roomy = width >= 1560
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

    def _restated(self) -> None:
        """A stop has found something out by itself."""
        if self.project is not None:
            self.stop.refresh()
            self.bench.set_words(self.stop.title, self.stop.reading())
        self._refresh_trail()
        if self.project is not None and self.stop.shows_painting:
            self._refresh_course()
            self._show_standing()

    def _refresh_trail(self) -> None:
        if self.project is None:
            waiting: draw.State = "no"
            first = STOPS[0].key
            begin = {one.key: ("a picture, a crop" if one.key == first else "", waiting) for one in STOPS}
            self.trail.set_readings(begin, first)
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
        on = set(chosen.aids)
        on |= {"mirror"} if chosen.mirrored else set()
        on |= {"upside"} if chosen.upside_down else set()
        on |= {"turn"} if chosen.turns else set()
        on |= {"glass"} if chosen.glass else set()
        zone = project.zone(chosen["zone"])
        words = {
            "squint": f"Squint {project.seeing.distance_m:g} m",
            "poster": f"Values {project.seeing.steps}",
            "alone": zone.name if zone is not None and "alone" in on else "One zone",
            "turn": f"Turn {90 * chosen.turns}°" if chosen.turns else "Turn",
        }
        saved = "saved" if self.session.saved else "being saved" if self.session.saving else "not saved yet"
        self.header.set_words(
            project.name, f"{project.canvas.words()} · {project.recipe.name.lower()} · {saved}", on or {"plain"}, words
        )
        self.setWindowTitle(f"{project.name}{'' if self.session.saved else ' *'} · Fox Path")

    def _refresh_course(self) -> None:
        project = self.project
        if project is None:
            return
        readings = self.session.readings
        if readings is None:
            self.course.set_course((), {}, set(), (), "", 1.25)
            return
        # Subjects are there when a painting is, and not before.
        from foxpath.derive.subjects import PASSES

        plans = readings.of(PASSES).passes if len(project.zones) > 1 else ()
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
            if self.stop.busy():
                # What was half made belongs to another picture.
                self.stop.leave()
            self.picture.setFocus()
            self.picture.show_painting(None)
            self.picture.refresh_region(fit=True)
        elif before.crop != after.crop or before.canvas != after.canvas:
            self.picture.refresh_region(fit=not self.stop.shows_whole)
        self.session.forget_gone()
        self.picture.refresh_overlay(now=True)
        self.picture.refresh_aid()
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
            self.stop.enter()
        elif self.stop.growth_gap > 0 and self.session.chosen["comb"] != self._comb_drawn:
            self.picture.refresh_overlay(now=True)
        self._comb_drawn = self.session.chosen["comb"]
        self.refresh()
        self._show_standing()
        self.picture.update()

    def _rehearsal_changed(self) -> None:
        if self.session.rehearsal.complete and self.rehearsal.playing:
            self.rehearsal.stop()
        if self.stop.shows_painting or (self.stop.reads_painting and self.session.rehearsal.complete):
            self.stop.refresh()
            self.bench.set_words(self.stop.title, self.stop.reading())
        self._refresh_trail()
        self._refresh_course()
        self._show_standing()
        self._refresh_player()

    # The painting shown ---------------------------------------------------------------------------

    def _show_standing(self) -> None:
        """Show the open pass as it stands, what came before it, the reference, or a frame being played."""
        own = self.stop.own_picture(self._compare) if self.stop.shows_painting else None
        if own is not None:
            self._show_rgb(own, own)
            return
        if not self.stop.shows_painting or self._compare == "reference":
            self._show_rgb(None, None)
            return
        if self._playing_frame is not None and not self._compare:
            self._show_rgb(self._playing_frame, self._playing_frame)
            return
        rehearsal = self.session.rehearsal
        number = rehearsal.number_of(self._open_role())
        if self._compare == "before":
            number -= 1
        if 0 <= number < len(rehearsal.passes):
            standing = rehearsal.passes[number].standing
            if self._shown_of is not standing:
                self._show_rgb(standing.shown, standing)
        elif not rehearsal.passes:
            self._show_rgb(None, None)

    def _show_rgb(self, rgb: "Rgb8 | None", of: object) -> None:
        """Show a picture of something; the same thing is not shown twice."""
        if of is not self._shown_of or (rgb is None and self.picture.painting is not None):
            self._shown_of = of
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
        shown = self.stop.plays
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
        """Switch a seeing aid on or off; they go together, and plain puts them all away."""
        if self.project is None:
            return
        chosen = self.session.chosen
        if kind == "plain":
            self.session.choose(aids=frozenset(), mirrored=False, upside_down=False, turns=0, glass=False)
        elif kind == "mirror":
            self.session.choose(mirrored=not chosen.mirrored)
        elif kind == "upside":
            self.session.choose(upside_down=not chosen.upside_down)
        elif kind == "turn":
            self.session.choose(turns=(chosen.turns + 1) % 4)
        elif kind == "glass":
            self.session.choose(glass=not chosen.glass)
        elif kind != "alone" or kind in chosen.aids or self._choose_alone():
            self.session.choose(aids=chosen.aids ^ {kind})
        self.picture.refresh_region(fit=False)
        self.picture.refresh_aid()
        self.picture.moved()
        self.refresh_header()

    def _choose_alone(self) -> bool:
        """See to it that there is a zone to be seen alone: the one under the pointer, else the chosen one."""
        assert self.project is not None
        pointer = self.picture.pointer
        under = self.stop.zone_at(self.picture.viewport.to_reference(pointer)) if pointer is not None else None
        if under is not None:
            self.session.choose(zone=under.id)
        if self.project.zone(self.session.chosen["zone"]) is None:
            self.session.said.emit("Point at a zone of the picture, then press F12.", "note")
            return False
        return True

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
        compare = COMPARES.get(Qt.Key(event.key()))
        if self.project is None:
            super().keyPressEvent(event)
        elif compare and self.stop.shows_painting and not event.isAutoRepeat():
            self._compare = compare
            self._show_standing()
        elif event.key() == Qt.Key.Key_L and not event.modifiers():
            self.choose_aid("glass")
        elif event.key() == Qt.Key.Key_P and self.stop.plays:
            self._toggle_play()
        else:
            super().keyPressEvent(event)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if Qt.Key(event.key()) in COMPARES and not event.isAutoRepeat() and self._compare:
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
        if self.stop.busy():
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
            # First the threads, then the file: a copy being written now must not look like a crash later.
            self.session.close()
            self.session.forget()
        event.accept()

    def close_for_good(self) -> None:
        """Close without asking."""
        self._closing = True
        self.close()
