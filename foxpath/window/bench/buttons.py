"""A row of buttons that says which was pressed."""

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QWidget

from foxpath.window.bench.controls import Button


class Buttons(QWidget):
    """Buttons side by side, so many to a row.

    Parameters
    ----------
    acts : sequence of (key, words)
    columns : int
    """

    clicked = Signal(str)

    def __init__(self, acts: Sequence[tuple[str, str]], columns: int = 3) -> None:
        super().__init__()
        layout = QGridLayout(self)
        layout.setContentsMargins(6, 2, 6, 2)
        layout.setHorizontalSpacing(6)
        layout.setVerticalSpacing(4)
        self._columns = columns
        self.buttons: dict[str, Button] = {}
        for k, (key, words) in enumerate(acts):
            button = Button(words)
            button.setObjectName(key)
            button.clicked.connect(self._clicked)
            layout.addWidget(button, k // columns, k % columns)
            self.buttons[key] = button
        layout.setColumnStretch(columns, 1)

    def _clicked(self) -> None:
        self.clicked.emit(self.sender().objectName())

    def show_only(self, keys: set[str]) -> None:
        """Show only some of them."""
        layout = self.layout()
        assert isinstance(layout, QGridLayout)
        shown = [key for key in self.buttons if key in keys]
        for key, button in self.buttons.items():
            button.setVisible(key in keys)
            if key in keys:
                # Without holes where others would stand.
                place = shown.index(key)
                layout.addWidget(button, place // self._columns, place % self._columns)
