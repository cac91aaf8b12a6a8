"""The page of paint: the room, what is done to the paint, and what notes taught of its drying."""

from collections.abc import Callable
from dataclasses import replace
from datetime import datetime, time, timedelta
from pathlib import Path
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.clock import now
from foxpath.core.days.studio import LIMITS, DryNote, clock_of, iso, moment_of
from foxpath.core.errors import AppError
from foxpath.core.units import count_words, percent
from foxpath.derive.days.reading import DaysClose, PileTime
from foxpath.derive.days.sitting import layer_of
from foxpath.document import calendars, edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Field, Measure, Scale, YesNo
from foxpath.window.bench.rows import Row, Rows, Section, TallRows, Words
from foxpath.window.stops.days.side import days_words
from foxpath.window.work.session import Session

TYPICAL = "Typical values, not measured in your studio. A finger on the paint teaches them: what you note here is kept for every painting."
SHARED = "Notes of drying (*.json)"


class PaintPage(QWidget):
    """Room, medium, and a finger on the paint."""

    learned = Signal()
    """A note was made: the shared file is to be written."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._layer = ""
        self._pile = ""
        self._close = DaysClose()
        self.room_head = Section("Room", "as measured")
        self.measures = {
            "celsius": self._measure("Warmth", "celsius", lambda v: f"{v:.0f} °C", 1),
            "humidity": self._measure("Damp", "humidity", lambda v: f"{v:.0f} %", 5),
            "july_celsius": self._measure("In July", "july_celsius", lambda v: f"{v:.0f} °C", 1),
            "july_humidity": self._measure("July damp", "july_humidity", lambda v: f"{v:.0f} %", 5),
            "alkyd": self._measure("Alkyd", "alkyd", percent, 0.05),
            "film": self._measure("Thickness", "film", lambda v: f"× {v:.2f}", 0.05),
        }
        self.seasons = YesNo("the room goes with the year", "the same all year")
        self.seasons.toggled.connect(lambda on: self._set("the room through the year", seasons=on))
        self.dark = YesNo("dries in the dark", "dries in the light")
        self.dark.toggled.connect(lambda on: self._set("light while it dries", dark=on))
        self.paint_head = Section("Paint", "")
        self.acrylic = YesNo("acrylic under the oil", "oil from the ground on")
        self.acrylic.toggled.connect(lambda on: self._set("acrylic under-layers", acrylic_under=on))
        self.drawn = YesNo("oil is drawn out of thick paint", "thick paint as it comes")
        self.drawn.toggled.connect(lambda on: self._set("oil drawn out", drawn_out=on))
        self.prepared = YesNo("the support is ready", "the support is to be made ready")
        self.prepared.toggled.connect(lambda on: self._set("support", prepared=on))
        self.finger_head = Section("A finger on the paint", "what is laid")
        self.layers = TallRows("layers that dry")
        self.layers.chosen.connect(self._choose_layer)
        self.finger_words = Words("", 12.5)
        self.when = Field("when the finger touched it")
        self.when.blank = True
        self.when.setPlaceholderText("now; or 8:00, or 2026-05-04 8:00")
        self.finger = Buttons([("dry", "Touch-dry"), ("tacky", "Still tacky")], 2)
        self.finger.clicked.connect(self._touched)
        self.times_head = Section("Dry times", "")
        self.times = Rows("drying times of piles")
        self.times.chosen.connect(self._choose_pile)
        self.states = Words("", 12.5)
        self.studio_words = Words("", 12.5)
        self.forget = Buttons(
            [("pile", "Forget this pile"), ("all", "Forget all"), ("share", "Share …"), ("open", "Take notes in …")], 2
        )
        self.forget.clicked.connect(self._forget)
        stack(
            self, self.finger_head, self.layers, self.finger_words, self.when, self.finger, self.room_head,
            self.measures["celsius"], self.measures["humidity"], self.seasons, self.measures["july_celsius"],
            self.measures["july_humidity"], self.dark, self.paint_head, self.measures["alkyd"],
            self.measures["film"], self.acrylic, self.drawn, self.prepared, self.times_head, Words(TYPICAL, 12), self.times, self.states,
            self.studio_words, self.forget,
        )  # fmt: skip

    def _measure(self, name: str, field: str, words: Callable[[float], str], step: float) -> Measure:
        least, most = LIMITS[field]
        made = Measure(name, Scale(least, most, words, step=step))
        made.changed.connect(self._slide(field, name))
        made.reset.connect(lambda: self._set(name.lower(), **{field: DEFAULTS[field]}))
        return made

    def _slide(self, field: str, name: str) -> Callable[[float, bool], None]:
        def slid(value: float, going: bool) -> None:  # noqa: FBT001  (a signal's)
            self.session.edit(lambda p: edits.set_days(p, **{field: round(value, 3)}), name.lower(), f"days {field}")
            if not going:
                self.session.seal()

        return slid

    def _set(self, words: str, **values: Any) -> None:
        self.session.edit(lambda p: edits.set_days(p, **values), words)

    def show_close(self, project: Project, close: DaysClose) -> None:
        """Show the room, and what is known of the paint."""
        self._close = close
        days = project.days
        for name, measure in self.measures.items():
            value = getattr(days, name)
            measure.set_value(value, DEFAULTS[name], decided=value != DEFAULTS[name])
        self.room_head.set_words("Room", "in January" if days.seasons else "as measured")
        self.seasons.set_value(on=days.seasons)
        for name in ("july_celsius", "july_humidity"):
            self.measures[name].setVisible(days.seasons)
        self.dark.set_value(on=days.dark)
        self.acrylic.set_value(on=days.acrylic_under)
        self.drawn.set_value(on=days.drawn_out)
        self.prepared.set_value(on=days.prepared)
        rows = self._laid(project)
        keys = [row.key for row in rows]
        self._layer = self._layer if self._layer in keys else keys[0] if keys else ""
        self.layers.set_rows(rows, self._layer)
        for part in (self.layers, self.when, self.finger):
            part.setVisible(bool(rows))
        self.finger_words.set_words(
            "" if rows else "Nothing is laid yet. Once a sitting is noted as done, its paint stands here to be touched."
        )
        self.finger_words.setVisible(not rows)
        self.finger_head.set_words("A finger on the paint", count_words(len(rows), "layer") if rows else "")
        piles = [
            Row(one.pile, one.name, count_words(one.notes, "note") if one.notes else "typical", days_words(one.days))
            for one in close.piles
        ]  # fmt: skip
        self._pile = self._pile if any(row.key == self._pile for row in piles) else ""
        self.times.set_rows(piles, self._pile)
        chosen = next((one for one in close.piles if one.pile == self._pile), None)
        self.states.set_words(states_words(chosen) if chosen is not None else "Choose a pile to see its states.")
        self.states.setVisible(bool(piles))
        many = close.noted
        self.times_head.set_words(
            "Dry times", f"learned from {count_words(many, 'note')}" if many else "typical values"
        )
        words = ""
        if many:
            words = f"Your studio dries paint in {close.studio:.2f} times the typical time, after {count_words(many, 'note')}."
        self.studio_words.set_words(words)
        self.studio_words.setVisible(bool(words))
        shown = {"open"} | ({"all", "share"} if many else set()) | ({"pile"} if self._pile else set())
        self.forget.show_only(shown)

    def _laid(self, project: Project) -> list[Row]:
        """Return the layers that are laid, the latest first, with what a finger said of each."""
        planned = self._close.planned
        if planned is None:
            return []
        notes = {one.task: one for one in project.days.notes}
        made = []
        for one in sorted(project.days.done, key=lambda done: done.end, reverse=True):
            k = planned.layout.place(one.task)
            if k < 0 or layer_of(planned, k) is None:
                continue
            task, note = planned.layout.problem.tasks[k], notes.get(one.task)
            said = "dry" if note is not None and note.dry else "tacky" if note is not None else ""
            end = moment_of(one.end)
            name = f"{task.act} · {said}" if said else task.act
            made.append(Row(one.task, task.part, name, f"{end:%a %-d %b}" if end is not None else ""))
        return made[:8]

    # What is done ---------------------------------------------------------------------------------

    def _choose_layer(self, key: str) -> None:
        self._layer = key

    def touch(self, state: str, when: datetime) -> None:
        """Note what a finger said of the chosen layer."""
        planned, project = self._close.planned, self.session.project
        if planned is None or project is None:
            return
        k = planned.layout.place(self._layer)
        layer = layer_of(planned, k) if k >= 0 else None
        done = next((one for one in project.days.done if one.task == self._layer), None)
        if layer is None or done is None:
            return
        name = layer.name or planned.layout.problem.tasks[k].act
        note = DryNote(self._layer, layer.pile, name, layer.typical_h, done.end)
        words = f"{name} is {'touch-dry' if state == 'dry' else 'still tacky'}"
        if self.session.edit(lambda p: edits.note_drying(p, note, state, when), words):
            self.session.said.emit(f"Noted: {words}, {when:%a %H:%M}.", "note")
            self.learned.emit()

    def _touched(self, state: str) -> None:
        when = when_of(self.when.text(), now())
        if when is None:
            self.session.said.emit("That is no time. Write 8:00, or 2026-05-04 8:00; empty is now.", "must")
            return
        self.touch(state, when)

    def _choose_pile(self, key: str) -> None:
        self._pile = key
        project = self.session.project
        if project is not None:
            self.show_close(project, self._close)

    def _forget(self, key: str) -> None:
        if key == "share":
            name, _ = QFileDialog.getSaveFileName(None, "Notes of drying", "drying.json", SHARED)
            if name:
                self._file(lambda: self.share(Path(name)))
            return
        if key == "open":
            name, _ = QFileDialog.getOpenFileName(None, "Notes of drying", "", SHARED)
            if name:
                self._file(lambda: self.take_in(Path(name)))
            return
        pile = self._pile if key == "pile" else None
        if self.session.edit(lambda p: edits.forget_drying(p, pile), "forget drying times"):
            self._file(lambda: calendars.forget_notes(pile))

    def _file(self, act: Callable[[], None]) -> None:
        try:
            act()
        except AppError as failure:
            self.session.said.emit(str(failure), "must")

    def share(self, path: Path) -> None:
        """Write every note to a file. Raises `AppError`."""
        project = self.session.project
        if project is not None:
            calendars.write_notes(path, (*project.days.earlier, *project.days.notes))
            self.session.said.emit(f"Wrote {path.name}", "note")

    def take_in(self, path: Path) -> None:
        """Take the notes of a file in beside those that are there. Raises `AppError`."""
        notes = calendars.read_notes(path)

        def taken(p: Project) -> Project:
            new = tuple(one for one in notes if one not in p.days.earlier)
            return replace(p, days=replace(p.days, earlier=(*p.days.earlier, *new)))

        self.session.edit(taken, f"notes of {path.name}")


def states_words(one: PileTime) -> str:
    """Say how long a pile's thickest film is open, soft, and when it is dry: the middle, and between what nine of ten lie."""

    def said(hours: float) -> str:
        return (
            f"{hours:.0f} h"
            if hours < 48
            else f"{hours / 24:.0f} days"
            if hours < 24 * 60
            else f"{hours / 730:.0f} months"
        )

    lines = [f"{name} {said(middle)} ({said(early)} to {said(late)})" for name, early, middle, late in one.states()]
    return f"{one.name.capitalize()}, its thickest film: {'; '.join(lines)}. In brackets, one of ten to nine of ten."


DEFAULTS: dict[str, float] = {
    "celsius": 20.0, "humidity": 50.0, "july_celsius": 24.0, "july_humidity": 60.0, "alkyd": 0.0, "film": 1.0,
}  # fmt: skip


def when_of(text: str, moment: datetime) -> datetime | None:
    """Return the time a text names: nothing is now, ``8:00`` the last time it was that late, else a day and a time. None for no time."""
    words = text.strip()
    if not words:
        return moment
    day, _, clock = words.rpartition(" ")
    minutes = clock_of(clock.zfill(5))
    if minutes is None:
        return None
    if day:
        return moment_of(f"{day}T{clock.zfill(5)}")
    made = datetime.combine(moment.date(), time()) + timedelta(minutes=minutes)
    made = made if made <= moment else made - timedelta(days=1)
    return moment_of(iso(made))
