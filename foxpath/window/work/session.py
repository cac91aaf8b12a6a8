"""What the window works on: the project with its history, what is derived, and what is being looked at."""

import contextlib
from collections.abc import Callable
from dataclasses import dataclass, field, fields, replace
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from foxpath.core.arrays import Rgb8
from foxpath.core.errors import AppError
from foxpath.core.passes.colours import PassColour
from foxpath.core.reference.correction import Correction
from foxpath.core.rehearsal.reading import ZoneReading
from foxpath.core.reporting import Progress
from foxpath.derive import Memo, Results
from foxpath.derive.pictures import picture_key
from foxpath.derive.readings import Read, ReadClose, Readings
from foxpath.derive.reference.inspection import Inspect, Inspection, inspection_key
from foxpath.derive.reference.seeing import Decode, DecodeLent
from foxpath.derive.rehearsal.finish import Finish
from foxpath.derive.rehearsal.painting import Rehearsed
from foxpath.derive.rehearsal.requests import ReadPainted, ReadZones, Rehearse
from foxpath.document import recovery
from foxpath.document.history import History
from foxpath.document.model import Lent, Project
from foxpath.document.places import ids_of
from foxpath.window.work.keeping import KeepAside, Save
from foxpath.window.work.runner import Runner

AUTOSAVE_MS = 5000
"""How long work may lie unsaved in the recovery file; a crash costs less than ten seconds."""
REHEARSAL_WIDTH = 1500


@dataclass(slots=True)
class Chosen:
    """What is being looked at; it has no undo.

    Attributes
    ----------
    stop : str
        Key of the open stop.
    ids : dict of str to str
        The chosen one of each kind (zone, comb, mark, eye, feature …) by its id; asked for as ``chosen["zone"]``, empty for none.
    role : str
        Key of the chosen pass; empty for none.
    edge : (front id, back id)
    aids : frozenset of str
        Seeing aids in use: greys, squint, poster, falloff, alone; empty for the plain picture.
    mirrored, upside_down : bool
    turns : int
        Quarter turns clockwise, 0 to 3.
    glass : bool
        Whether the true-size glass follows the pointer.
    """

    stop: str = "reference"
    ids: dict[str, str] = field(default_factory=dict)
    edge: tuple[str, str] = ("", "")
    role: str = ""
    aids: frozenset[str] = frozenset()
    mirrored: bool = False
    upside_down: bool = False
    turns: int = 0
    glass: bool = False

    def __getitem__(self, kind: str) -> str:
        """Return the id of the chosen one of a kind, empty for none."""
        return self.ids.get(kind, "")

    def __setitem__(self, kind: str, key: str) -> None:
        """Choose one of a kind, without telling anybody."""
        self.ids[kind] = key


@dataclass(slots=True)
class Rehearsal:
    """The rehearsal as far as it has come: the passes done, their small pictures and colours by role, the edges' widths, mm, by zones,
    and what was read zone by zone and of the rules.
    """

    passes: list[Rehearsed] = field(default_factory=list)
    small: dict[str, Rgb8] = field(default_factory=dict)
    colours: dict[str, tuple[PassColour, ...]] = field(default_factory=dict)
    complete: bool = False
    project: Project | None = None
    widths: dict[tuple[str, str], float] = field(default_factory=dict)
    zones: tuple[ZoneReading, ...] = ()
    finish: Finish | None = None

    def number_of(self, role: str) -> int:
        """Return the place of a role among the rehearsed passes, -1 when it is not there."""
        return next((k for k, one in enumerate(self.passes) if one.plan.role.key == role), -1)


_PLANNED = frozenset({"pile", "sitting"})
"""Kinds of things that are planned, and have no id in the project: whether they are there, their stop knows."""
_LOOKS = frozenset(one.name for one in fields(Chosen)) - {"ids"}


class Session(QObject):
    """One project in one window."""

    project_changed = Signal(object, object)
    """Before and after (None before the first); on the interface's thread, at once with the edit."""
    readings_changed = Signal()
    """New readings are there."""
    chosen_changed = Signal()
    """Something else is being looked at."""
    picture_ready = Signal()
    """The decoded reference is there, or has been corrected or composed anew."""
    lent_ready = Signal()
    """A further picture of the shelf has been decoded."""
    inspection_changed = Signal()
    """The reference has been inspected."""
    rehearsal_changed = Signal()
    """A pass more stands, or the rehearsal has gone out of date."""
    saved_changed = Signal()
    said = Signal(str, str)
    """Something to say in the foot: words, and a level ("note" or "must")."""

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.results = Results(Memo())
        self.runner = Runner(self)
        self.history: History | None = None
        self.path: Path | None = None
        self.chosen = Chosen()
        self.readings: Readings | None = None
        self.levels: list[Rgb8] = []
        self.levels_taken = 0
        """How many times levels have come: what is drawn from them goes by it."""
        self._levels_of: object = None
        self.lent: dict[str, list[Rgb8]] = {}
        self.inspection: Inspection | None = None
        self._inspected: object = None
        self.rehearsal = Rehearsal()
        self.thumbnail = (116, 92)
        self._kept: Project | None = None
        self._saves = 0
        self._saves_asked = 0
        self._when_written: list[Callable[[], None]] = []
        self.steps = 0
        """How often the project has changed: of two copies, the one with more is the newer."""
        self._autosave = QTimer(self)
        self._autosave.setInterval(AUTOSAVE_MS)
        self._autosave.timeout.connect(self.keep)
        self._read_soon = QTimer(self)
        self._read_soon.setSingleShot(True)
        self._read_soon.setInterval(200)
        self._read_soon.timeout.connect(self._read)
        self._rehearse_soon = QTimer(self)
        self._rehearse_soon.setSingleShot(True)
        self._rehearse_soon.setInterval(500)
        self._rehearse_soon.timeout.connect(self._rehearse)
        self._inspect_soon = QTimer(self)
        self._inspect_soon.setSingleShot(True)
        self._inspect_soon.setInterval(600)
        self._inspect_soon.timeout.connect(self._inspect)
        self.runner.went_wrong.connect(self._say_wrong)

    # The project ----------------------------------------------------------------------------------

    @property
    def project(self) -> Project | None:
        """The present project."""
        return self.history.present if self.history else None

    @property
    def saved(self) -> bool:
        """Whether the present project is on the disk (or there is none)."""
        return self.history is None or self.history.saved

    def start(self, project: Project, path: Path | None, *, on_disk: bool) -> None:
        """Take a project as the one worked on; everything about the old one is dropped."""
        before = self.project
        self.history = History(project)
        self.history.mark_saved(project if on_disk else None)
        self.path = path
        self.chosen = Chosen(aids=self.chosen.aids)
        self.readings = None
        self.levels = []
        self.levels_taken += 1
        self.lent = {}
        self.inspection, self._inspected = None, None
        self.rehearsal = Rehearsal()
        self._kept = project if on_disk else None
        self._autosave.start()
        self._decode(project)
        self.project_changed.emit(before, project)
        self.chosen_changed.emit()
        self.saved_changed.emit()
        self._derive()
        self._read_soon.stop()
        self._read()

    def edit(self, change: Callable[[Project], Project], words: str, merge_key: str = "") -> bool:
        """Apply an edit; returns whether anything changed. What cannot be done is said in the foot."""
        if self.history is None:
            return False
        before = self.history.present
        try:
            after = change(before)
        except AppError as failure:
            self.said.emit(str(failure), "must")
            return False
        if after is before or after == before:
            return False
        self.history.do(after, words, merge_key)
        self._after_change(before, after)
        return True

    def seal(self) -> None:
        """End the step being made: what comes next is a step of its own."""
        if self.history is not None:
            self.history.seal()

    def undo(self) -> None:
        """Take the last step back."""
        self._travel(History.undo, "Undone")

    def redo(self) -> None:
        """Do the step that was undone again."""
        self._travel(History.redo, "Done again")

    def _travel(self, go: Callable[[History], str], word: str) -> None:
        if self.history is None:
            return
        before = self.history.present
        words = go(self.history)
        if words:
            self._after_change(before, self.history.present)
            self.said.emit(f"{word}: {words}", "note")

    def _decode(self, project: Project) -> None:
        self._levels_of = picture_key(self.results, project)
        self.runner.start("picture", Decode(self.results, project), self._take_levels, failed=self._say_failed)

    def show_as_it_came(self, *, on: bool) -> None:
        """Show the picture without its correction for a while, or with it again."""
        project = self.project
        if project is not None:
            self._decode(replace(project, correction=Correction()) if on else project)

    def _after_change(self, before: Project, after: Project) -> None:
        self.steps += 1
        if picture_key(self.results, after) != self._levels_of:
            self._decode(after)
        self.project_changed.emit(before, after)
        self.saved_changed.emit()
        self._derive()

    # What follows ---------------------------------------------------------------------------------

    def _derive(self) -> None:
        project = self.project
        if project is None:
            return
        # What is drawn on the picture goes first: the numbers follow when the hand rests.
        self._read_soon.start()
        self.rehearsal.complete = False
        self.rehearsal_changed.emit()
        self._rehearse_soon.start()
        if inspection_key(self.results, project) != self._inspected:
            self._inspect_soon.start()

    def _inspect(self) -> None:
        project = self.project
        if project is not None:
            self._inspected = inspection_key(self.results, project)
            self.runner.start("inspection", Inspect(self.results, project), self._take_inspection)

    def _take_inspection(self, inspection: Inspection) -> None:
        self.inspection = inspection
        self.inspection_changed.emit()

    def write(self, request: Callable[[Progress], str]) -> None:
        """Write a file in the background; the request returns what was written, in words."""
        self.runner.start("write", request, self._written, failed=self._say_failed)

    def _written(self, words: str) -> None:
        self.said.emit(words, "note")

    def ask_lent(self, lent: Lent) -> list[Rgb8]:
        """Return a further picture's levels; none yet when it is still being opened."""
        digest = lent.reference.digest
        if digest not in self.lent:
            self.lent[digest] = []
            request = DecodeLent(self.results, lent.reference)
            self.runner.start(f"lent {digest}", request, self._take_lent, failed=self._say_failed)
        return self.lent[digest]

    def _take_lent(self, value: tuple[str, list[Rgb8]]) -> None:
        self.lent[value[0]] = value[1]
        self.lent_ready.emit()

    def read_anew(self) -> None:
        """Read again what follows from files beside the project: they were changed."""
        self._read()

    def _read(self) -> None:
        project = self.project
        if project is not None:
            request = Read(self.results, project, (self.chosen.stop,))
            self.runner.start("readings", request, self._take_readings, failed=self._say_failed)

    def _take_readings(self, readings: Readings) -> None:
        self.readings = readings
        self.readings_changed.emit()
        # Another stop may have been opened meanwhile.
        self._read_close()

    def _read_close(self) -> None:
        """Read what only the open stop shows, when it has not been read with the rest."""
        readings, key = self.readings, self.chosen.stop
        if readings is None or readings.has_close(key):
            self.runner.cancel("close")
        else:
            request = ReadClose(self.results, readings.project, key)
            self.runner.start("close", request, self._take_close, failed=self._say_failed)

    def _take_close(self, value: tuple[Project, str, object]) -> None:
        project, key, close = value
        if self.readings is not None and self.readings.project is project:
            self.readings = self.readings.with_close(key, close)
            self.readings_changed.emit()

    def _take_levels(self, levels: list[Rgb8]) -> None:
        first, self.levels = not self.levels, levels
        self.levels_taken += 1
        project = self.project
        if first and project is not None and levels[0].shape[1] < project.reference.width:
            height, width = levels[0].shape[:2]
            size = project.reference.width * project.reference.height / 1e6
            self.said.emit(f"{size:.0f} megapixels: worked on at {width} × {height} px, kept as it came.", "note")
        self.picture_ready.emit()

    def _rehearse(self) -> None:
        project = self.project
        if project is None:
            return
        request = Rehearse(self.results, project, REHEARSAL_WIDTH, self.thumbnail)
        self._fresh = Rehearsal(project=project)
        self.runner.start("rehearsal", request, self._take_rehearsal, part=self._take_pass, failed=self._say_failed)

    def _take_pass(self, value: tuple[int, Rehearsed, Rgb8, tuple[PassColour, ...]]) -> None:
        number, one, small, colours = value
        self.rehearsal.colours[one.plan.role.key] = self._fresh.colours[one.plan.role.key] = colours
        self._fresh.passes.append(one)
        self.rehearsal.small[one.plan.role.key] = small
        self._fresh.small[one.plan.role.key] = small
        del self.rehearsal.passes[number:]
        self.rehearsal.passes.append(one)
        self.rehearsal_changed.emit()

    def _take_rehearsal(self, passes: list[Rehearsed]) -> None:
        self.rehearsal = Rehearsal(
            passes, self._fresh.small, self._fresh.colours, complete=True, project=self._fresh.project
        )
        self.rehearsal_changed.emit()

    def read_painted(self) -> None:
        """Read how wide the edges came out in the rehearsal, once, when somebody wants to know."""
        done = self.rehearsal
        project = done.project
        if not done.complete or not done.passes or project is None or project is not self.project or done.widths:
            self.runner.cancel("painted")
        elif not self.runner.running("painted"):
            request = ReadPainted(self.results, project, done.passes[-1].standing)
            self.runner.start("painted", request, self._take_painted)

    def _take_painted(self, value: tuple[Project, dict[tuple[str, str], float]]) -> None:
        project, widths = value
        if self.rehearsal.complete and self.rehearsal.project is project:
            self.rehearsal.widths = widths
            self.rehearsal_changed.emit()

    def read_zones(self) -> None:
        """Read the finished rehearsal zone by zone, once, when somebody wants to know."""
        done, project = self.rehearsal, self.rehearsal.project
        if not done.complete or not done.passes or project is None or project is not self.project or done.zones:
            self.runner.cancel("painted zones")
        elif not self.runner.running("painted zones"):
            request = ReadZones(self.results, project, done.passes[-1].standing)
            self.runner.start("painted zones", request, self._take_zones)

    def _take_zones(self, value: tuple[Project, tuple[ZoneReading, ...], Finish]) -> None:
        project, zones, finish = value
        if self.rehearsal.complete and self.rehearsal.project is project:
            self.rehearsal.zones, self.rehearsal.finish = zones, finish
            self.rehearsal_changed.emit()

    def stop_work(self) -> None:
        """Stop what is being worked out; it starts again with the next change."""
        for key in ("rehearsal", "play", "sheets"):
            self.runner.cancel(key)

    def waiting(self) -> bool:
        """Tell whether anything is being worked out, or about to be."""
        return (
            self.runner.running()
            or self._read_soon.isActive()
            or self._rehearse_soon.isActive()
            or self._inspect_soon.isActive()
        )

    # Looking --------------------------------------------------------------------------------------

    def choose(self, **what: Any) -> None:
        """Look at something else, e.g. ``choose(stop="growth", zone="z4")``."""
        changed = False
        for name, value in what.items():
            if name in _LOOKS:
                changed |= getattr(self.chosen, name) != value
                setattr(self.chosen, name, value)
            else:
                changed |= self.chosen[name] != value
                self.chosen[name] = value
        if changed:
            self.chosen_changed.emit()
        if "stop" in what:
            self._read_close()

    def forget_gone(self) -> None:
        """Choose nothing in place of what is no longer there."""
        project = self.project
        there = ids_of(project) if project is not None else set()
        gone = {kind: "" for kind, key in self.chosen.ids.items() if key and key not in there and kind not in _PLANNED}
        if gone:
            self.choose(**gone)

    # Keeping --------------------------------------------------------------------------------------

    @property
    def saving(self) -> bool:
        """Whether the project is being written to its file just now."""
        return self._saves > 0

    def save(self, path: Path, then: Callable[[], None] | None = None) -> None:
        """Save the project as it is now, in the background; `then` is called when it is on the disk, and only then."""
        project, history = self.project, self.history
        if project is None or history is None:
            return

        def written(_: object) -> None:
            if self.history is history:
                self.path = path
                history.mark_saved(project)
                if self.saved:
                    # What was changed meanwhile is not in the file: then the copy kept aside stays.
                    self._kept = project
                    recovery.forget()
            self.said.emit(f"Saved {path.name}", "note")
            self._end_save()
            if then is not None:
                then()

        def failed(words: str) -> None:
            self.said.emit(f"Not saved. {words}", "must")
            self._end_save()

        self._saves += 1
        self._saves_asked += 1
        self.saved_changed.emit()
        request = Save(project, path, self.steps)
        self.runner.start(f"save {self._saves_asked}", request, written, failed=failed, writes=True)

    def _end_save(self) -> None:
        self._saves -= 1
        self.saved_changed.emit()
        if not self._saves:
            waiting, self._when_written = self._when_written, []
            for one in waiting:
                one()

    def when_written(self, then: Callable[[], None]) -> None:
        """Call something when what is being written is on the disk or has failed."""
        self._when_written.append(then)

    def keep(self, then: Callable[[], None] | None = None) -> None:
        """Write unsaved work to the recovery file in the background, when it has changed since; `then` is called when it is there."""
        project = self.project
        if project is None or self.saved or project is self._kept or self.runner.running("keep"):
            return

        def kept(_: Project) -> None:
            self._take_kept(project)
            if then is not None:
                then()

        request = KeepAside(project, str(self.path or ""), self.steps)
        self.runner.start("keep", request, kept, failed=self._say_not_kept, writes=True)

    def _take_kept(self, project: Project) -> None:
        if self.saved:
            # Saved meanwhile: nothing must be left that looks like the work of a crash.
            recovery.forget()
        self._kept = project

    def _say_not_kept(self, _: str) -> None:
        self.said.emit("The recovery copy could not be written. Save your work now.", "must")

    def forget(self) -> None:
        """Give unsaved work up on purpose."""
        self._autosave.stop()
        with contextlib.suppress(OSError):
            recovery.forget()

    def close(self) -> None:
        """Stop every thread."""
        self._autosave.stop()
        for soon in (self._rehearse_soon, self._read_soon, self._inspect_soon):
            soon.stop()
        self.runner.close()
        self.results.memo.clear()

    def _say_failed(self, words: str) -> None:
        self.said.emit(words, "must")

    def _say_wrong(self, words: str) -> None:
        # A defect of ours: the last line says what, the whole goes to the terminal for a report.
        import sys

        print(words, file=sys.stderr)
        self.said.emit(f"Something went wrong: {words.strip().splitlines()[-1]}. Save your work.", "must")
