"""Opening, saving and printing, and the questions that come with them."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QFileDialog, QMainWindow

from foxpath.core.errors import AppError
from foxpath.core.units import parse_size
from foxpath.document import recovery
from foxpath.document.recovery import Leftover
from foxpath.window.bench.bench import Bench, panel
from foxpath.window.bench.rows import Question
from foxpath.window.shell.begin import Begin
from foxpath.window.shell.foot import Foot
from foxpath.window.work import recent

if TYPE_CHECKING:
    # What works on a painting is imported when the first one is opened.
    from foxpath.document.model import Project
    from foxpath.window.work.session import Session

PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.JPG *.JPEG *.PNG *.TIF *.TIFF *.WEBP)"
PAINTINGS = "Fox Path paintings (*.foxpath)"


class Papers(QMainWindow):
    """The half of the main window that deals with files; the other half draws and leads."""

    bench: Bench
    begin: Begin
    foot: Foot

    def __init__(self) -> None:
        super().__init__()
        self.question: Question | None = None
        self._answer: Callable[[str], None] | None = None
        self._leftovers: list[Leftover] = []

    @property
    def session(self) -> "Session":
        """The session on the painting."""
        raise NotImplementedError

    @property
    def project(self) -> "Project | None":
        """The present project, if one is open."""
        raise NotImplementedError

    def refresh(self) -> None:
        """Bring everything shown up to date."""
        raise NotImplementedError

    def open_stop(self, key: str) -> None:
        """Open a stop of the trail."""
        raise NotImplementedError

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
        from foxpath.document import archive, edits, own, paces

        if path.suffix.lower() == ".foxpath":
            return archive.load(path), path
        data = archive.picture_bytes(path)
        canvas = recent.last_canvas()
        if self.project is None:
            try:
                canvas = parse_size(self.begin.canvas_size.text())
            except AppError:
                canvas = recent.last_canvas()
        project = edits.new_project(data, path.name, canvas)
        project = own.with_own(project)
        try:
            return replace(project, earlier=paces.earlier()), None
        except AppError as failure:
            # The painting is begun at the usual pace all the same.
            self.foot.say(str(failure), "must")
            return project, None

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

    def ask_demo(self, name: str) -> None:
        """Open a demo; unsaved work is asked about first."""
        self._unless_unsaved(lambda: self.open_demo(name))

    def save(self, then: Callable[[], None] | None = None) -> None:
        """Save where it was saved last, else ask where; `then` is called when it is on the disk."""
        if self.session.path is None:
            self.ask_save(then)
        else:
            self.session.save(self.session.path, then)

    def ask_save(self, then: Callable[[], None] | None = None) -> None:
        """Ask where to save."""
        project = self.project
        if project is None:
            return
        start = str(self.session.path or f"{project.name}.foxpath")
        name, _ = QFileDialog.getSaveFileName(self, "Save the painting", start, PAINTINGS)
        if name:
            self.session.save(Path(name if name.endswith(".foxpath") else f"{name}.foxpath"), then)

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
        from foxpath.derive.book import PrintSheets

        project = self.project
        if project is not None:
            self._sheets_path = path
            request = PrintSheets(self.session.results, project, path, paper)
            self.session.runner.start("sheets", request, self._sheets_done, failed=self._sheets_failed)

    def _sheets_done(self, pages: int) -> None:
        self.foot.say(f"{self._sheets_path.name}: {pages} pages", "note")

    def _sheets_failed(self, words: str) -> None:
        self.foot.say(words, "must")

    def ask_map(self) -> None:
        """Ask where to write the map as SVG layers."""
        project = self.project
        if project is None:
            return
        name, _ = QFileDialog.getSaveFileName(self, "Save the map", f"{project.name}.svg", "SVG, in mm (*.svg)")
        if name:
            self.save_map(Path(name if name.endswith(".svg") else f"{name}.svg"))

    def save_map(self, path: Path) -> None:
        """Write the map as SVG layers in the background."""
        from foxpath.derive.handout.maps import WriteMap

        project = self.project
        if project is not None:
            request = WriteMap(self.session.results, project, path)
            self.session.runner.start("map", request, self._map_done, failed=self._sheets_failed)

    def _map_done(self, words: str) -> None:
        self.foot.say(words, "note")

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
        if self.session.saving:
            self.session.when_written(lambda: self._unless_unsaved(go_on))
            return

        def answered(key: str) -> None:
            if key == "save":
                # Asked again, should anything have been changed while it was written.
                self.save(lambda: self._unless_unsaved(go_on))
            elif key == "drop":
                self.session.forget()
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
                # Only when it is kept by this window does the old copy go.
                self.session.start(project, origin, on_disk=False)
                self.session.keep(lambda: recovery.drop(first.file))
                self.open_stop("growth" if project.combs else "zones")
            else:
                recovery.drop(first.file)

        self.ask(
            f"{project.name} was open when Fox Path ended {ago}.",
            "Its last changes were kept. Taking it back changes no file until you save.",
            [("drop", "Drop it"), ("take", "Take it back")],
            answered,
        )
