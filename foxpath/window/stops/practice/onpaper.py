"""Drills on paper in the bench: print a sheet, photograph it, see what was measured."""

from pathlib import Path

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.clock import now
from foxpath.core.practice.paper import PAPER
from foxpath.core.practice.paper.page import PAPERS_MM
from foxpath.core.practice.task import Mark, label, ring
from foxpath.derive.practice.drilling import seed_for
from foxpath.derive.practice.paper import ReadSheet, SheetRead, WriteSheet
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice
from foxpath.window.bench.rows import Row, Section, TallRows, Words
from foxpath.window.work.session import Session

PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.heic)"
KEYS = frozenset(one.key for one in PAPER)


class OnPaper(QWidget):
    """The part of the bench that a drill on paper needs."""

    read = Signal(object)
    failed = Signal(str)
    chosen = Signal(int)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.drill, self.source = PAPER[0].key, ""
        self.how = Words(
            "Print it at 100 %, paint it with your own brushes and paint, photograph the whole sheet from above, and let it be measured.",
            12.5,
        )
        self.paper = Choice([(key, key) for key in PAPERS_MM], "paper")
        self.paper.chosen.connect(self._use_paper)
        self.acts = Buttons([("photo", "Photographed …")], 1)
        self.acts.clicked.connect(self.ask_photo)
        self.head = Section("Measured", "farthest off first")
        self.said = Words("", 13, "text")
        self.rows = TallRows("what was measured on the sheet")
        self.rows.chosen.connect(self._chosen)
        self._sheets = 0
        self.last: SheetRead | None = None
        stack(self, self.how, self.paper, self.acts, self.head, self.said, self.rows)

    def show_drill(self, key: str, source: str) -> None:
        """Show a drill on paper, made from a source."""
        if (key, source) != (self.drill, self.source):
            self.drill, self.source, self.last = key, source, None
        last = self.last
        self.said.set_words(last.words() if last is not None else "")
        order = sorted(last.measured, key=lambda one: -one.error) if last is not None else []
        rows = [Row(str(one.number), f"Number {one.number}", one.words, f"{one.error:.1f} mm") for one in order]
        self.rows.set_rows(rows, self.rows.value)
        for part in (self.head, self.said, self.rows):
            part.setVisible(bool(rows))

    def _use_paper(self, key: str) -> None:
        self.paper.set_value(key)

    def ask_path(self) -> None:
        """Ask where a new sheet goes, and write it."""
        path, _ = QFileDialog.getSaveFileName(None, "A sheet to print at 100 %", f"{self.drill}.pdf", "PDF (*.pdf)")
        if path:
            self.write_to(Path(path))

    def ask_photo(self) -> None:
        """Ask for a photograph of a painted sheet, and measure it."""
        path, _ = QFileDialog.getOpenFileName(None, "A photograph of the painted sheet", "", PICTURES)
        if path:
            self.open_photo(Path(path))

    def write_to(self, path: Path) -> None:
        """Write a new sheet; no two are alike."""
        self._sheets += 1
        seed = seed_for(self.drill, self.source, now(), self._sheets)
        session = self.session
        session.write(
            WriteSheet(session.results, session.project, self.source, self.drill, seed, path, self.paper.value)
        )

    def open_photo(self, path: Path) -> None:
        """Measure a photographed sheet."""
        request = ReadSheet(self.session.results, self.session.project, self.source, path)
        self.session.runner.start("practice", request, self._take, failed=self.failed.emit)

    def _take(self, read: SheetRead) -> None:
        # The sheet says itself what it is.
        self.drill, self.last = read.drill, read
        self.read.emit(read)

    def _chosen(self, key: str) -> None:
        self.chosen.emit(int(key))

    def marks(self) -> tuple[Mark, ...]:
        """Return what lies over the flat sheet: each number where it was painted, near enough or not."""
        last = self.last
        if last is None:
            return ()
        k = last.px_per_mm
        made = []
        for one in last.measured:
            at = (one.at[0] * k, one.at[1] * k)
            chosen = self.rows.value == str(one.number)
            if chosen:
                made.append(ring(at, 14 * k, "true", f"{one.number}: {one.words}"))
            else:
                made.append(
                    label(
                        (at[0], at[1] + (one.reach + 4) * k),
                        f"{one.number}" if one.right else f"{one.number}: {one.error:.1f} mm",
                    )
                )
        return tuple(made)
