"""The foot: what lies under the pointer, what happened, what is being worked out; at Rehearsal, the player."""

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from foxpath.core.units import grouped
from foxpath.window.look import draw
from foxpath.window.look.focus import Focusable
from foxpath.window.look.theme import colour

TALL = 26


class Foot(Focusable):
    """One line of words, the scale at the right."""

    stop_asked = Signal()
    play_asked = Signal()
    scrubbed = Signal(float)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.pointed, self.scale_words = "", ""
        self.said, self.level = "", "note"
        self.working = ""
        self.player = False
        self.playing = False
        self.laid, self.total = 0, 0
        self.hint = ""
        self.setFixedHeight(TALL)
        self.setAccessibleName("foot and player")
        self._quiet = QTimer(self)
        self._quiet.setSingleShot(True)
        self._quiet.setInterval(6000)
        self._quiet.timeout.connect(self._hush)

    def point(self, words: str) -> None:
        """Show what lies under the pointer."""
        self.pointed = words
        self.update()

    def say(self, words: str, level: str) -> None:
        """Say what happened; a note goes by itself, what went wrong stays until something else is said or clicked."""
        self.said, self.level = words, level
        if level == "note":
            self._quiet.start()
        else:
            self._quiet.stop()
        self.setAccessibleDescription(words)
        self.update()

    def _hush(self) -> None:
        self.said = ""
        self.update()

    def work(self, words: str) -> None:
        """Show what is being worked out, empty when nothing is."""
        if words != self.working:
            self.working = words
            self.update()

    def set_player(self, *, shown: bool, playing: bool, laid: int, total: int, hint: str) -> None:
        """Show the player, its place, and a hint at the right."""
        self.player, self.playing, self.laid, self.total, self.hint = shown, playing, laid, total, hint
        self.update()

    def _groove(self) -> QRectF:
        return QRectF(38, 4, min(300.0, self.width() * 0.34), 18)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.said and self.level != "note":
            self._hush()
            return
        x = event.position().x()
        if self.player and x < 32:
            self.play_asked.emit()
        elif self.player and self._groove().adjusted(-6, 0, 6, 0).contains(event.position()):
            self._scrub(x)
        elif self.working:
            self.stop_asked.emit()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.player and event.buttons() & Qt.MouseButton.LeftButton and event.position().x() > 32:
            self._scrub(event.position().x())

    def _scrub(self, x: float) -> None:
        groove = self._groove()
        self.scrubbed.emit(min(max((x - groove.left()) / groove.width(), 0.0), 1.0))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Right: 0.05, Qt.Key.Key_Left: -0.05}.get(Qt.Key(event.key()))
        if self.player and by is not None and self.total:
            self.scrubbed.emit(min(max(self.laid / self.total + by, 0.0), 1.0))
        elif self.player and event.key() in (Qt.Key.Key_Space, Qt.Key.Key_Return):
            self.play_asked.emit()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            p.fillRect(self.rect(), colour("base"))
            p.setPen(QPen(colour("line"), 1))
            p.drawLine(QPointF(0, 0.5), QPointF(self.width(), 0.5))
            x = 14.0
            if self.player:
                self._paint_player(p)
                x = self._groove().right() + 20
            right = self.hint if self.player and self.hint else self.scale_words
            end = self.width() - 16 - draw.width_of(right, 13)
            draw.text(p, self.width() - 16, 17.5, right, 13, 400, "quiet", "r")
            if self.said:
                if self.level != "note":
                    draw.finding_mark(p, x + 5, 13, "must")
                    x += 20
                words = self.said
            elif self.working:
                words = f"{self.working} · Esc stops it"
            elif self.player and self.total:
                words = f"mark {grouped(self.laid)} of {grouped(self.total)}"
            else:
                words = self.pointed
            draw.text(p, x, 17.5, draw.elided(words, end - x - 16, 13), 13)
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()), 4)

    def _paint_player(self, p: QPainter) -> None:
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(colour("text"))
        if self.playing:
            p.drawRect(QRectF(13, 8, 4, 11))
            p.drawRect(QRectF(20, 8, 4, 11))
        else:
            p.drawPolygon(draw.polygon([(14, 7.5), (14, 19.5), (24, 13.5)]))
        groove = self._groove()
        y = groove.center().y() + 0.5
        draw.stroke(p, draw.along(groove.left(), y, groove.right(), y), 5, 1.6, "line", soft_root=False)
        share = self.laid / self.total if self.total else 1.0
        if share > 0.01:
            tip = 5 + (1.6 - 5) * share**1.25
            end = groove.left() + groove.width() * share
            draw.stroke(p, draw.along(groove.left(), y, end, y), 5, tip, "quiet", soft_root=False)
        draw.rounded(p, QRectF(groove.left() + groove.width() * share - 3, y - 8, 6, 16), 3, "russet")
