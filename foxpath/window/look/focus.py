"""Keyboard focus that shows only when it came by the keyboard."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import QWidget

_BY_KEY = (Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason, Qt.FocusReason.ShortcutFocusReason)


class Focusable(QWidget):
    """A widget that knows whether its focus ring is to be drawn."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._by_key = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def focusInEvent(self, event: QFocusEvent) -> None:
        if event.reason() not in (Qt.FocusReason.ActiveWindowFocusReason, Qt.FocusReason.PopupFocusReason):
            self._by_key = event.reason() in _BY_KEY
        self.update()
        super().focusInEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self.update()
        super().focusOutEvent(event)

    def ring_shown(self) -> bool:
        """Tell whether the focus ring is to be drawn."""
        return self.hasFocus() and self._by_key
