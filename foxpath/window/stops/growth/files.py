"""Growth and combs to and from files, on the bench of Growth."""

from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.errors import AppError, InputError
from foxpath.core.units import count_words
from foxpath.derive.growth.files import SaveGrowth, read_combs
from foxpath.document import archive, edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Button
from foxpath.window.work.files import with_ending
from foxpath.window.work.session import Session


class CombFiles(QWidget):
    """Save growth or combs, read combs."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.save = Button("Save growth or combs …")
        self.save.clicked.connect(self.ask_save)
        self.read = Button("Read combs …")
        self.read.clicked.connect(self.ask_read)
        stack(self, self.save, self.read)

    def ask_save(self) -> None:
        """Ask where to save the growth or the combs, and as what."""
        project = self.session.project
        if project is None:
            return
        kinds = "Growth as arrays (*.npz);;Growth as two pictures (*.png);;Combs (*.json);;Combs as lines (*.svg)"
        name, kind = QFileDialog.getSaveFileName(self, "Save growth or combs", f"{project.name}.npz", kinds)
        if name:
            path = with_ending(name, kind, (".npz", ".png", ".json", ".svg"))
            self.session.write(SaveGrowth(self.session.results, project, path))

    def ask_read(self) -> None:
        """Ask for a file of combs and add them."""
        name, _ = QFileDialog.getOpenFileName(self, "Read combs", "", "Combs (*.json)")
        if name:
            self.read_combs(Path(name))

    def read_combs(self, path: Path) -> None:
        """Add the combs of a file in one step; those that lie over no coat are counted and left out."""
        try:
            combs = read_combs(archive.bytes_of(path, InputError), path.name)
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        left = 0

        def change(project: Project) -> Project:
            nonlocal left
            for points in combs:
                zone = project.zone(edits.zone_under(project, points) or "")
                if zone is None or not zone.kind_of().hair:
                    left += 1
                    continue
                project = edits.add_comb(project, points, zone.id)[0]
            return project

        self.session.edit(change, f"read {count_words(len(combs), 'comb')}")
        words = f"{count_words(len(combs) - left, 'comb')} read" + (f", {left} over no coat left out" if left else "")
        self.session.said.emit(words, "note")
