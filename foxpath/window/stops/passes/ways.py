"""Where painters disagree, on the bench of Passes: each setting with its sides, and a line of reason for each."""

from PySide6.QtWidgets import QWidget

from foxpath.core.passes import WAYS
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Choice
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.work.session import Session

SCHOOLS = "school's"
"""What stands for a side that is not taken."""


class WaysPanel(QWidget):
    """A list of the settings; of the one that is opened both sides, with their reasons."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.open = next(iter(WAYS))
        self.head = Section("Where painters disagree", "")
        self.list = Rows("where painters disagree")
        self.list.chosen.connect(self._open)
        self.choices: dict[str, Choice] = {}
        self.reasons = tuple(Words("", 12.5) for _ in range(max(len(way.sides) for way in WAYS.values())))
        for key, way in WAYS.items():
            choice = Choice([("", SCHOOLS), *((side.key, side.name) for side in way.sides)], way.name)
            choice.setObjectName(key)
            choice.chosen.connect(self._take)
            self.choices[key] = choice
        stack(self, self.head, self.list, *self.choices.values(), *self.reasons)

    def refresh(self, project: Project) -> None:
        """Show which sides are taken."""
        taken = dict(project.ways.taken())
        self.head.set_words("Where painters disagree", f"{len(taken)} taken" if taken else "")
        rows = []
        for key, way in WAYS.items():
            side = way.side(taken.get(key, ""))
            rows.append(Row(key, way.name, "", side.name if side is not None else SCHOOLS, off=side is None))
        self.list.set_rows(rows, self.open)
        for key, choice in self.choices.items():
            choice.setVisible(key == self.open)
            choice.set_value(taken.get(key, ""))
        sides = WAYS[self.open].sides
        for number, words in enumerate(self.reasons):
            words.setVisible(number < len(sides))
            if number < len(sides):
                words.set_words(f"{sides[number].name}. {sides[number].reason}")

    def _open(self, key: str) -> None:
        self.open = key
        if self.session.project is not None:
            self.refresh(self.session.project)

    def _take(self, side: str) -> None:
        key = self.sender().objectName()
        self.session.edit(
            lambda p: edits.set_way(p, key, side), f"{WAYS[key].name.lower()}: {side or 'as the school has it'}"
        )
