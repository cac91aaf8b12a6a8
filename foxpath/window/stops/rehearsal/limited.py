"""The painting with the piles of the palette, or in any colour, and the other of the two beside it."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Choice, YesNo
from foxpath.window.bench.rows import Section, Words
from foxpath.window.stops.beside import Beside
from foxpath.window.work.session import Session

NAMES = {"free": "any colour", "palette": "with the palette"}


def painted_with(project: Project, key: str) -> Project:
    """Return a project that is rehearsed in any colour, or with its piles."""
    return edits.set_mixes(project, rehearsed=key == "palette")


class LimitedPanel(QWidget):
    """Which paint the rehearsal is made of, and the other one beside it."""

    changed = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.head = Section("Paint", "")
        self.choice = Choice([("free", "any colour"), ("palette", "with these piles")], "what it is painted with")
        self.choice.chosen.connect(self._set)
        self.on = YesNo("the other lies beside it", "alone")
        self.on.toggled.connect(self._toggle)
        self.words = Words("", 12.5)
        self.beside = Beside(session, self, painted_with)
        self.beside.changed.connect(self.changed)
        self.comparing = False
        stack(self, self.head, self.choice, self.on, self.words)

    def other(self, project: Project) -> str:
        """Return the key of the painting that is not shown."""
        return "free" if project.mixes.rehearsed else "palette"

    def names(self, project: Project) -> tuple[str, str]:
        """Return what the painting and the one beside are painted with."""
        other = self.other(project)
        return NAMES["palette" if other == "free" else "free"], NAMES[other]

    def show_project(self, project: Project) -> None:
        """Show what it is painted with; what lies beside follows."""
        self.choice.set_value("palette" if project.mixes.rehearsed else "free")
        self.on.set_value(on=self.comparing)
        if self.comparing:
            self.beside.show(self.other(project))
        seen = self.beside.other if self.comparing else None
        near = f" It comes within {seen.mean:.1f} dE of the picture." if seen is not None else ""
        self.words.set_words(
            f"Beside it: {NAMES[self.other(project)]}.{near}"
            if self.comparing
            else "With these piles every mark has the colour of its pile, or of two that are neighbours."
        )

    def close_beside(self) -> None:
        """Take the other painting away."""
        self.comparing = False
        self.beside.show("")

    def _set(self, key: str) -> None:
        words = "rehearse with the palette" if key == "palette" else "rehearse in any colour"
        self.session.edit(lambda p: edits.set_mixes(p, rehearsed=key == "palette"), words)

    def _toggle(self, on: bool) -> None:  # noqa: FBT001  (a slot)
        self.comparing = on
        if not on:
            self.beside.show("")
        self.changed.emit()
