"""What the photograph suggests for the chosen zone's coat, on the bench: taken with one key, or left."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.zones import kind_of
from foxpath.derive.lengths.suggested import Suggestion
from foxpath.document import edits
from foxpath.document.model import Project, Zone
from foxpath.window.bench.controls import Button
from foxpath.window.bench.rows import Section, Words
from foxpath.window.work.session import Session


class SuggestionPanel(QWidget):
    """A suggestion with its doubt, and what can be done with it."""

    taken = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.suggestion: Suggestion | None = None
        self.head = Section("The photograph suggests", "not decided")
        self.words = Words("", 13)
        self.take_button = Button("Take it  T")
        self.take_button.clicked.connect(self.take)
        self.kind_button = Button("")
        self.kind_button.clicked.connect(self.take_kind)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(4)
        for part in (self.head, self.words, self.take_button, self.kind_button):
            layout.addWidget(part)

    def show_zone(self, project: Project, zone: Zone | None, suggestion: Suggestion | None) -> None:
        """Show what is suggested for a zone; nothing where nothing is, or where it says nothing new."""
        told = zone is not None and zone.coat.length_mm is None
        self.suggestion = suggestion if told else None
        self.setVisible(self.suggestion is not None)
        if self.suggestion is None or zone is None:
            return
        new = self.suggestion.differs(project.coat_of(zone).length_mm)
        self.words.set_words(
            f"Strands look {self.suggestion.length_words()} long and {self.suggestion.width_words()} wide, read at "
            f"{self.suggestion.seen.places} places. "
            + ("Where other hair lies over it, it is longer." if new else "The default agrees.")
        )
        self.kind_button.setVisible(bool(self.suggestion.kind))
        if self.suggestion.kind:
            self.kind_button.set_words(f"Make it {kind_of(self.suggestion.kind).name}  K")

    def take(self) -> bool:
        """Decide the zone's length and width as suggested; returns whether there was a suggestion."""
        seen, zone = self.suggestion, self.session.chosen["zone"]
        if seen is None:
            return False
        values = {"length_mm": round(seen.length_mm, 1)}
        if not seen.seen.blurred:
            values["width_mm"] = round(seen.width_mm, 2)
        if self.session.edit(lambda p: edits.set_coat(p, zone, **values), "take the length that is seen"):
            self.taken.emit()
        return True

    def take_kind(self) -> bool:
        """Make the zone the kind that is suggested; returns whether one was."""
        seen, zone = self.suggestion, self.session.chosen["zone"]
        if seen is None or not seen.kind:
            return False
        self.session.edit(lambda p: edits.set_kind(p, zone, seen.kind), f"make it {kind_of(seen.kind).name}")
        return True
