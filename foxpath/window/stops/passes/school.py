"""The school on the bench of Passes: six recipes and one's own, each with its reason and what it would take here."""

import json
from collections.abc import Sequence
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.errors import AppError, InputError
from foxpath.core.passes.schools import schools_from_record, schools_to_record
from foxpath.core.rehearsal.reading import differences
from foxpath.core.units import about, count_words, duration_words
from foxpath.derive.passes.schools import SchoolReading
from foxpath.derive.subjects import PASSES
from foxpath.document import archive, edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.stops.beside import Beside, in_school, rows_of
from foxpath.window.work.session import Session

LARGEST = 2_000_000
"""Bytes of a recipe's file: more is none."""


class SchoolPanel(QWidget):
    """Choose a school, for the painting or one part; look at two side by side; save a recipe to edit it, open one."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.comparing = False
        self.for_zone = False
        self.beside = Beside(session, self, in_school)
        self.head = Section("School", "passes · time")
        self.whose = Choice([("all", "the painting"), ("zone", "this part")], "whose school")
        self.whose.chosen.connect(self._whose)
        self.list = Rows("schools of painting")
        self.list.chosen.connect(self._choose)
        self.words = Words("", 12.5)
        self.acts = Buttons([("compare", "Compare two"), ("save", "Save recipe …"), ("open", "Open recipe …")], 2)
        self.acts.clicked.connect(self._act)
        self.table_head = Section("Side by side", "")
        self.table = Rows("two schools side by side")
        self.end = Buttons([("follow", "Follow this one"), ("close", "Close")], 2)
        self.end.clicked.connect(self._act)
        stack(self, self.head, self.whose, self.list, self.words, self.acts, self.table_head, self.table, self.end)

    def refresh(self, project: Project) -> None:
        """Show the schools with what each would take on this painting."""
        readings = self.session.readings
        found = readings.close(PASSES).schools if readings is not None else ()
        zone = project.zone(self.session.chosen["zone"])
        zone = zone if zone is not None and zone.kind_of().painted else None
        self.whose.setVisible(zone is not None and not self.comparing)
        self.for_zone = self.for_zone and zone is not None
        self.whose.set_value("zone" if self.for_zone else "all")
        if zone is not None:
            self.whose.options[1] = ("zone", draw.elided(zone.name, 104, 13))
        shown = project.recipe.key
        if self.comparing:
            shown = self.beside.key
        elif zone is not None and self.for_zone:
            shown = project.school_of(zone) or shown
        self.head.set_words("Beside it" if self.comparing else "School", "passes · time")
        self.list.set_rows(
            [
                Row(
                    one.school.key,
                    one.school.name,
                    count_words(one.passes, "pass", "passes"),
                    duration_words(one.minutes),
                )
                for one in found
                if not (self.comparing and one.school.key == project.recipe.key)
            ],
            shown,
        )
        current = next((one for one in found if one.school.key == shown), None)
        for part in (self.table_head, self.table, self.end):
            part.setVisible(self.comparing)
        self.acts.setVisible(not self.comparing)
        if self.comparing:
            self._refresh_table(project, found)
        elif current is None:
            self.words.set_words(project.recipe.reason)
        else:
            waits = "no waits for drying" if current.waits == 0 else f"{count_words(current.waits, 'wait')} for drying"
            marks = about(current.marks)
            own = [z.name.lower() for z in project.zones if project.school_of(z)]
            more = f" Its own school has {', '.join(own)}." if own and not self.for_zone else ""
            self.words.set_words(f"{current.school.reason} About {marks} marks, {waits}.{more}")

    def _refresh_table(self, project: Project, found: Sequence[SchoolReading]) -> None:
        one = next((s for s in found if s.school.key == project.recipe.key), None)
        other = next((s for s in found if s.school.key == self.beside.key), None)
        self.end.show_only({"follow", "close"} if other is not None else {"close"})
        if one is None or other is None:
            self.words.set_words("Choose a school: its painting appears beside this one.")
            self.table_head.setVisible(False)
            self.table.set_rows([], "")
            self.table.setVisible(False)
            return
        self.words.set_words(other.school.reason)
        self.table_head.set_words("Side by side", "this · beside")
        rows = [Row(what, what, "", f"{mine} · {theirs}") for what, mine, theirs in rows_of(one, other)]
        rehearsal, seen = self.session.rehearsal, self.beside.other
        if seen is not None and rehearsal.zones:
            mean, worst = differences(list(rehearsal.zones))
            rows.append(Row("mean", "mean difference", "ΔE", f"{mean:.1f} · {seen.mean:.1f}"))
            rows.append(Row("worst", "the farthest part", "ΔE", f"{worst:.1f} · {seen.worst:.1f}"))
        self.table.set_rows(rows, "")

    def _whose(self, key: str) -> None:
        self.for_zone = key == "zone"
        if self.session.project is not None:
            self.refresh(self.session.project)

    def _choose(self, key: str) -> None:
        zone = self.session.chosen["zone"]
        if self.comparing:
            self.beside.show(key)
            self.beside.changed.emit()
        elif self.for_zone and zone:
            self.session.edit(lambda p: edits.set_zone_school(p, zone, key), "a school for one part")
        else:
            self.session.edit(lambda p: edits.set_school(p, key), "another school")

    def compare(self, *, on: bool) -> None:
        """Begin or end looking at two side by side."""
        self.comparing = on
        if not on:
            self.beside.show("")
        elif self.session.rehearsal.complete:
            self.session.read_zones()
        self.beside.changed.emit()

    def _follow(self) -> None:
        key = self.beside.key
        self.compare(on=False)
        self.session.edit(lambda p: edits.set_school(p, key), "another school")

    def _act(self, act: str) -> None:
        project = self.session.project
        if project is None:
            return
        if act in {"compare", "close"}:
            self.compare(on=act == "compare")
        elif act == "follow":
            self._follow()
        elif act == "save":
            name, _ = QFileDialog.getSaveFileName(
                self, "Save the recipe", f"{project.recipe.key}.json", "Recipes (*.json)"
            )
            if name:
                self.save(Path(name) if name.endswith(".json") else Path(f"{name}.json"))
        else:
            name, _ = QFileDialog.getOpenFileName(self, "Open a recipe", "", "Recipes (*.json)")
            if name:
                self.open(Path(name))

    def save(self, path: Path) -> None:
        """Write the present school's recipe, every number in it, to be edited and shared."""
        project = self.session.project
        if project is None:
            return
        text = json.dumps(schools_to_record([project.recipe]), indent=1, ensure_ascii=False)
        try:
            archive.write_whole(path, (text + "\n").encode())
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        self.session.said.emit(f"Saved {path.name}: edit it, and open it again.", "note")

    def open(self, path: Path) -> None:
        """Take a recipe from a file, and follow it."""
        try:
            record = json.loads(archive.bytes_of(path, InputError, LARGEST).decode("utf-8"))
            found = schools_from_record(record, path.name)
            if not found:
                raise InputError(f"{path.name} holds no school.", "Choose a file saved here.")
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        except (ValueError, RecursionError):
            self.session.said.emit(f"{path.name} could not be read as a recipe. Choose a file saved here.", "must")
            return
        if self.session.edit(lambda p: edits.take_school(p, found[0]), "a recipe of one's own"):
            self.session.said.emit(f"Following “{found[0].name}”.", "note")
