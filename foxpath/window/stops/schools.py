"""The school on the bench of Passes: six recipes and one's own, each with its reason and what it would take here."""

import json
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QVBoxLayout, QWidget

from foxpath.core.errors import AppError, InputError
from foxpath.core.passes.schools import schools_from_record, schools_to_record
from foxpath.core.units import count_words, duration_words, grouped
from foxpath.document import edits
from foxpath.document.archive import write_whole
from foxpath.document.model import Project
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.session import Session
from foxpath.window.stops.buttons import Buttons

LARGEST = 2_000_000
"""Bytes of a recipe's file: more is none."""


class SchoolPanel(QWidget):
    """Choose a school, save its recipe to edit it, open one."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.head = Section("School", "passes · time")
        self.list = Rows("schools of painting")
        self.list.chosen.connect(self._choose)
        self.words = Words("", 12.5)
        self.acts = Buttons([("save", "Save recipe …"), ("open", "Open recipe …")], 2)
        self.acts.clicked.connect(self._act)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        for part in (self.head, self.list, self.words, self.acts):
            layout.addWidget(part)

    def refresh(self, project: Project) -> None:
        """Show the schools with what each would take on this painting."""
        readings = self.session.readings
        found = readings.schools if readings is not None else ()
        self.list.set_rows(
            [
                Row(
                    one.school.key,
                    one.school.name,
                    count_words(one.passes, "pass", "passes"),
                    duration_words(one.minutes),
                )
                for one in found
            ],
            project.recipe.key,
        )
        current = next((one for one in found if one.school.key == project.recipe.key), None)
        if current is None:
            self.words.set_words(project.recipe.reason)
            return
        waits = "no waits for drying" if current.waits == 0 else f"{count_words(current.waits, 'wait')} for drying"
        marks = grouped(current.marks).replace(" ", "\u00a0")
        self.words.set_words(f"{current.school.reason} About {marks} marks, {waits}.")

    def _choose(self, key: str) -> None:
        self.session.edit(lambda p: edits.set_school(p, key), "another school")

    def _act(self, act: str) -> None:
        project = self.session.project
        if project is None:
            return
        if act == "save":
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
            write_whole(path, (text + "\n").encode())
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        self.session.said.emit(f"Saved {path.name}: edit it, and open it again.", "note")

    def open(self, path: Path) -> None:
        """Take a recipe from a file, and follow it."""
        try:
            if path.stat().st_size > LARGEST:
                raise InputError(f"{path.name} is too large for a recipe.", "Choose a file saved here.")
            record = json.loads(path.read_text("utf-8"))
            found = schools_from_record(record, path.name)
            if not found:
                raise InputError(f"{path.name} holds no school.", "Choose a file saved here.")
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        except (OSError, ValueError, RecursionError):
            self.session.said.emit(f"{path.name} could not be read as a recipe. Choose a file saved here.", "must")
            return
        if self.session.edit(lambda p: edits.take_school(p, found[0]), "a recipe of one's own"):
            self.session.said.emit(f"Following “{found[0].name}”.", "note")
