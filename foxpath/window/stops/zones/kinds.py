"""The kinds of zone on the bench: those that ship, each with a swatch of its own marks, and the painter's own."""

from collections.abc import Callable
from functools import lru_cache
from pathlib import Path

import numpy as np
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFileDialog, QVBoxLayout, QWidget

from foxpath.core.errors import AppError
from foxpath.core.units import count_words, mm_words
from foxpath.core.zones import KINDS, Coat, OwnKind
from foxpath.document import edits, library
from foxpath.document.model import Zone
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Control, Field
from foxpath.window.bench.rows import Row, Rows, Section
from foxpath.window.look import draw
from foxpath.window.work.session import Session

SHARED = "Kinds of zone (*.json)"


class KindGrid(Control):
    """The kinds that ship; arrow keys move the choice."""

    taken = Signal(str)
    ROW, COLUMNS = 27, 2

    def __init__(self) -> None:
        self.kinds = list(KINDS.values())
        super().__init__(self.ROW * -(-len(self.kinds) // self.COLUMNS) + 4, "kind of zone")
        self.value = ""
        self._under = -1

    def set_value(self, key: str) -> None:
        """Show a kind as the chosen one."""
        self.value = key
        self.update()

    def _index_at(self, x: float, y: float) -> int:
        return int(y // self.ROW) * self.COLUMNS + int(x // (self.width() / self.COLUMNS))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = self._index_at(event.position().x(), event.position().y())
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._take(self._index_at(event.position().x(), event.position().y()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: 2, Qt.Key.Key_Up: -2}.get(Qt.Key(event.key()))
        keys = [kind.key for kind in self.kinds]
        if by is None or self.value not in keys:
            super().keyPressEvent(event)
            return
        self._take(keys.index(self.value) + by)

    def _take(self, index: int) -> None:
        if 0 <= index < len(self.kinds) and self.kinds[index].key != self.value:
            self.value = self.kinds[index].key
            self.update()
            self.taken.emit(self.value)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            wide, ratio = self.width() / self.COLUMNS, self.devicePixelRatioF()
            for k, kind in enumerate(self.kinds):
                x, y = (k % self.COLUMNS) * wide, (k // self.COLUMNS) * self.ROW
                on = kind.key == self.value
                if self.hovered and k == self._under:
                    draw.rounded(p, QRectF(x, y + 1, wide - 4, self.ROW - 2), 5, "hover")
                box = QRectF(x + 6, y + 4, 36, 19)
                draw.rounded(p, box, 4, "#6B6B6B", "frame")
                p.drawImage(box, swatch(kind.coat, kind.key, round(36 * ratio), round(19 * ratio), ratio))
                if on:
                    draw.rounded(p, box.adjusted(-2, -2, 2, 2), 5, "", "russet", 2)
                name = draw.elided(kind.short or kind.name, wide - 52, 12.5, 700 if on else 400)
                draw.text(p, x + 50, y + 18, name, 12.5, 700 if on else 400)
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))


@lru_cache(maxsize=128)
def swatch(coat: Coat, key: str, width: int, height: int, ratio: float) -> QImage:
    """Return a picture of so many pixels with a handful of a kind's own marks; kept, as they take long to draw.

    `ratio` is the pixels of the screen to one of the window. The marks are as long and as crossed as the coat makes them.
    """
    image = QImage(width, height, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(Qt.GlobalColor.transparent)
    image.setDevicePixelRatio(ratio)
    with QPainter(image) as p:
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        _marks(p, QRectF(0, 0, width / ratio, height / ratio), coat, key)
    return image


def _marks(p: QPainter, box: QRectF, coat: Coat, key: str) -> None:
    rng = np.random.default_rng(len(key) * 7 + ord(key[0]))
    if key == "shade":
        coat = KINDS["short-fur"].coat
    p.setClipRect(box.adjusted(1, 1, -1, -1))
    size = min(22.0, max(3.0, coat.length_mm * 0.55))
    width = min(5.0, max(1.1, coat.width_mm * 0.9))
    count = int(min(46, max(6, 560 / (size * width))))
    for _ in range(count):
        at = np.array([box.left() + rng.random() * box.width() - size / 3, box.top() + rng.random() * box.height()])
        angle = np.radians(18 + rng.normal() * coat.spread_deg)
        curl = 2.6 if key == "curly-fur" else 0.4 * rng.normal()
        t = np.linspace(0, 1, 8)
        turn = angle + curl * t
        steps = np.stack([np.cos(turn), np.sin(turn)], axis=1) * size / 7
        tone = "#E8E8E8" if rng.random() < 0.62 else "#B4B4B4"
        # A marking is told by what it does to the tone across the hair.
        if key == "marking":
            tone = "#E8E8E8" if at[0] < box.center().x() else "#3A3A3A"
        # A shadow on a coat leaves the hair, and takes its light.
        if key == "shade" and at[0] > box.center().x():
            tone = "#9A9A9A" if tone == "#E8E8E8" else "#7A7A7A"
        draw.stroke(p, at + np.cumsum(steps, axis=0), width, 0.5, tone)


class OwnKinds(QWidget):
    """The painter's own kinds: choose one for the zone, keep the zone's coat as a new one, share them as a file."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.head = Section("Kinds of your own", "")
        self.list = Rows("kinds of your own")
        self.list.chosen.connect(self._choose)
        self.name = Field("name of a new kind")
        self.name.setPlaceholderText("a name, to keep this coat")
        self.name.taken.connect(self.keep)
        self.acts = Buttons([("forget", "Forget it"), ("share", "Share …"), ("take", "Take in …")])
        self.acts.clicked.connect(self._act)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        for part in (self.head, self.list, self.name, self.acts):
            layout.addWidget(part)
        self._zone: Zone | None = None
        self._kinds: tuple[OwnKind, ...] | None = None

    def show_zone(self, zone: Zone | None) -> None:
        """Show which of them a zone is."""
        self._zone = zone
        self.setVisible(zone is not None)
        if zone is None:
            return
        kinds = self._read()
        self.head.set_words("Kinds of your own", count_words(len(kinds), "kind") if kinds else "none yet")
        rows = [
            Row(one.name, one.name, KINDS[one.base].short or KINDS[one.base].name, f"{mm_words(one.coat.length_mm)}")
            for one in kinds
        ]
        self.list.setVisible(bool(rows))
        self.list.set_rows(rows, zone.own.name if zone.own else "")
        self.acts.show_only({"take", *(("share",) if kinds else ()), *(("forget",) if self._current() else ())})

    def _read(self) -> tuple[OwnKind, ...]:
        if self._kinds is None:
            try:
                self._kinds = library.own_kinds()
            except AppError as failure:
                self._kinds = ()
                self.session.said.emit(str(failure), "must")
        return self._kinds

    def _current(self) -> OwnKind | None:
        own = self._zone.own if self._zone else None
        return next((one for one in self._read() if own is not None and one.name == own.name), None)

    def _choose(self, name: str) -> None:
        own = next((one for one in self._read() if one.name == name), None)
        if own is not None and self._zone is not None:
            zone = self._zone.id
            self.session.edit(lambda p: edits.set_own_kind(p, zone, own), f"kind {name}")

    def keep(self, name: str) -> None:
        """Keep the zone's coat as a kind of this name, in the library and on the zone."""
        project, zone = self.session.project, self._zone
        if project is None or zone is None or not name.strip():
            return
        self.name.clear()
        self.name.show_words("")
        own = edits.own_kind_of(project, zone, name)
        if self._do(lambda: library.save_kind(own)):
            self.session.edit(lambda p: edits.set_own_kind(p, zone.id, own), f"kind {own.name}")
            self.session.said.emit(f"“{own.name}” is kept for other paintings too.", "note")

    def _act(self, key: str) -> None:
        if key == "forget" and self._zone is not None and self._zone.own is not None:
            name = self._zone.own.name
            self._do(lambda: library.forget_kind(name))
        elif key == "share":
            path, _ = QFileDialog.getSaveFileName(self, "Share kinds of your own", "kinds.json", SHARED)
            if path and self._do(lambda: self._shared(Path(path))):
                self.session.said.emit(f"{Path(path).name}: {count_words(len(self._read()), 'kind')}", "note")
        elif key == "take":
            path, _ = QFileDialog.getOpenFileName(self, "Take in kinds", "", SHARED)
            if path:
                self._do(lambda: library.take_in(Path(path)))
        self.show_zone(self._zone)

    def _shared(self, path: Path) -> tuple[OwnKind, ...]:
        kinds = self._read()
        library.write_kinds(path, kinds)
        return kinds

    def _do(self, act: Callable[[], tuple[OwnKind, ...]]) -> bool:
        """Do something to the library; say why not when it fails."""
        try:
            self._kinds = act()
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return False
        return True
