"""The bench: the plate beside the trail that holds the open stop."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFrame, QScrollArea, QVBoxLayout, QWidget

from foxpath.window.look import draw
from foxpath.window.look.theme import colour

HEAD = 52


class Bench(QWidget):
    """Title and reading at the top, the stop's panel below; it scrolls when it must."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.title, self.reading = "", ""
        self.share: float | None = None
        self.area = QScrollArea(self)
        self.area.setWidgetResizable(True)
        self.area.setFrameShape(QFrame.Shape.NoFrame)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.viewport().setAutoFillBackground(False)
        self.panel: QWidget | None = None

    def set_panel(self, panel: QWidget) -> None:
        """Show a stop's panel."""
        if self.panel is panel:
            return
        if self.panel is not None:
            self.area.takeWidget()
            self.panel.setParent(None)
        self.panel = panel
        self.area.setWidget(panel)
        panel.show()

    def set_words(self, title: str, reading: str) -> None:
        """Change title and reading."""
        if (title, reading) != (self.title, self.reading):
            self.title, self.reading = title, reading
            self.update()

    def set_progress(self, share: float | None) -> None:
        """Fill the groove under the title, or take it away."""
        if share != self.share:
            self.share = share
            self.update(0, 0, self.width(), HEAD)

    def resizeEvent(self, event: object) -> None:
        self.area.setGeometry(8, HEAD, self.width() - 12, self.height() - HEAD)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            p.fillRect(self.rect(), colour("plate"))
            p.fillRect(QRectF(0, 0, self.width(), 1), colour("line"))
            used = draw.text(p, 18, 36, self.title, 22, 700)
            room = self.width() - used - 46
            draw.text(p, self.width() - 16, 36, draw.elided(self.reading, room, 13), 13, 400, "quiet", "r")
            if self.share is not None:
                width = self.width() - 24
                draw.stroke(p, draw.along(12, 48, 12 + width, 48), 3, 1, "line", soft_root=False)
                if self.share > 0.01:
                    draw.stroke(p, draw.along(12, 48, 12 + width * self.share, 48), 3.4, 2, "text", soft_root=False)


def stack(home: QWidget, *widgets: QWidget) -> None:
    """Stack widgets in one that is there already."""
    layout = QVBoxLayout(home)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(3)
    for widget in widgets:
        layout.addWidget(widget)


def column(*widgets: QWidget, margins: tuple[int, int, int, int] = (0, 0, 0, 8)) -> QWidget:
    """Stack widgets."""
    made = QWidget()
    layout = QVBoxLayout(made)
    layout.setContentsMargins(*margins)
    layout.setSpacing(3)
    for widget in widgets:
        layout.addWidget(widget)
    return made


def panel(*widgets: QWidget) -> QWidget:
    """Stack widgets into a panel for the bench, from the top."""
    made = column(*widgets, margins=(4, 0, 8, 16))
    layout = made.layout()
    assert isinstance(layout, QVBoxLayout)
    layout.addStretch()
    return made
