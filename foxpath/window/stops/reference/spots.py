"""Relative reading: a chain of spots, each judged against the last, in words and numbers."""

import numpy as np
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import F32
from foxpath.core.colour import rgb8_from_lab
from foxpath.core.findings import Level
from foxpath.core.reference.relative import Relation, colour_words, relation
from foxpath.core.units import mm_words
from foxpath.derive.reference.seeing import spots_lab
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Button, Control, Measure, Scale
from foxpath.window.bench.rows import Gestures, Judgement, Row, Rows
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.reference.fold import Fold, Point

RADIUS = Scale(0.3, 30.0, mm_words, ratio=True)


def letter_of(index: int) -> str:
    """Return a spot's letter."""
    return chr(ord("A") + index)


class Patches(Control):
    """The spots' colours side by side without a gap; arrow keys choose one."""

    chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__(58, "colours of the spots")
        self.colours: list[QColor] = []
        self.index = -1

    def set_colours(self, colours: list[QColor], index: int) -> None:
        """Show colours with one chosen."""
        self.colours, self.index = colours, index
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.colours:
            share = (event.position().x() - 6) / max(1.0, self.width() - 12)
            self.chosen.emit(min(max(int(share * len(self.colours)), 0), len(self.colours) - 1))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1}.get(Qt.Key(event.key()))
        if by is None or not self.colours:
            super().keyPressEvent(event)
        else:
            self.chosen.emit(min(max(self.index + by, 0), len(self.colours) - 1))

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            box = QRectF(6, 4, self.width() - 12, 42)
            each = box.width() / max(1, len(self.colours))
            for k, tone in enumerate(self.colours):
                cell = QRectF(box.left() + k * each, box.top(), each + 0.5, box.height())
                p.fillRect(cell, tone)
                dark = tone.lightnessF() > 0.5
                draw.text(
                    p, cell.left() + 8, cell.bottom() - 8, letter_of(k), 13, 700, "#101010" if dark else "#F4F4F4"
                )
                if k == self.index:
                    draw.stroke(p, draw.along(cell.left() + 2, 52, cell.right() - 3, 52), 4, 1, "russet")
            if self.ring_shown():
                draw.focus_ring(p, self.rect().toRectF())


class SpotsFold(Fold):
    """Judge one spot against another, as a painter asks: lighter or darker first."""

    code, title, about = "spots", "Spots", "one colour judged against another"

    def make_body(self) -> QWidget:
        self.index = -1
        self._grab = -1
        self._read: tuple[object, list[F32 | None]] = (None, [])
        self.patches = Patches()
        self.patches.chosen.connect(self._choose_index)
        self.says = Judgement()
        self.rows = Rows("chain of spots")
        self.rows.chosen.connect(self._choose)
        self.radius = Measure("spot", RADIUS)
        self.radius.changed.connect(self._radius)
        self.drop = Button("Take this spot away")
        self.drop.clicked.connect(self._drop)
        return column(
            self.patches,
            self.says,
            self.rows,
            self.radius,
            self.drop,
            Gestures([("frame", "a spot", "click it"), ("frame", "move it", "drag it")]),
        )

    def labs(self) -> list[F32 | None]:
        """Return the spots' colours in CIELAB, read again when the picture, a spot or the radius has changed."""
        project, levels = self.project, self.session.levels
        if not levels:
            return []
        key = (self.session.levels_taken, project.spots, project.spot_mm, project.mm_per_px)
        if self._read[0] != key:
            self._read = (key, spots_lab(levels, project))
        return self._read[1]

    def _relation(self, index: int) -> Relation | None:
        labs = self.labs()
        if not 0 < index < len(labs):
            return None
        a, b = labs[index - 1], labs[index]
        return relation(a, b) if a is not None and b is not None else None

    def _chosen_index(self) -> int:
        count = len(self.project.spots)
        return self.index if 0 <= self.index < count else count - 1

    def note(self) -> str:
        one = self._relation(len(self.project.spots) - 1)
        if one is not None:
            return f"{letter_of(len(self.project.spots) - 1)} {one.words}"
        return "pick two" if not self.project.spots else "pick the next"

    def refresh(self) -> None:
        project, labs, index = self.project, self.labs(), self._chosen_index()
        read = [lab for lab in labs if lab is not None]
        self.patches.setVisible(bool(read))
        tones = [
            QColor(*(int(v) for v in rgb8_from_lab(lab[None])[0])) if lab is not None else QColor("#777777")
            for lab in labs
        ]
        self.patches.set_colours(tones, index)
        rows = []
        for k in range(len(labs) - 1, -1, -1):
            one, lab = self._relation(k), labs[k]
            words = colour_words(lab) if lab is not None else "off the picture"
            right = f"{one.apart:.1f} ΔE" if one is not None else ""
            rows.append(Row(str(k), f"{letter_of(k)}  {words}", "", right))
        self.rows.set_rows(rows, str(index))
        self.says.set_words(*self._words(project, index))
        self.radius.set_value(project.spot_mm, 2.0, decided=project.spot_mm != 2.0)
        self.drop.setVisible(bool(project.spots))

    def _words(self, project: Project, index: int) -> tuple[Level, str, str]:
        if not project.spots:
            return (
                "",
                "Click two spots of the picture.",
                "the second is judged against the first, the third against the second",
            )
        one = self._relation(index)
        if one is None:
            return "", "Click the next spot: it is judged against this one.", ""
        first = f"{letter_of(index)} against {letter_of(index - 1)}: {one.words}."
        numbers = (
            f"L* {one.lightness:+.1f} · a* {one.red:+.1f} · b* {one.yellow:+.1f} · chroma {one.strength:+.1f} · "
            f"ΔE {one.apart:.1f} (CIEDE2000) · under 1 the eye sees no step"
        )
        return "", first, numbers

    def _choose_index(self, index: int) -> None:
        self.index = index
        self.changed.emit()

    def _choose(self, key: str) -> None:
        self._choose_index(int(key))

    def _radius(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.edit(lambda p: edits.set_spot_mm(p, value), "size of the spots", "spot size", going=going)

    def _drop(self) -> None:
        index = self._chosen_index()
        self.index = -1
        self.edit(lambda p: edits.remove_spot(p, index), "take a spot away")

    # Gestures -------------------------------------------------------------------------------------

    def press(self, at: Point, event: QMouseEvent) -> None:
        spots = np.array(self.project.spots).reshape(-1, 2)
        away = np.hypot(*(spots - at).T) if len(spots) else np.array([])
        if len(away) and away.min() < self.reach(12):
            self._grab = self.index = int(away.argmin())
            self.changed.emit()
            return
        reference = self.project.reference
        if not (0 <= at[0] < reference.width and 0 <= at[1] < reference.height):
            self.session.said.emit("That spot lies off the picture. Click on it.", "note")
            return
        self.edit(lambda p: edits.add_spot(p, at), "a spot")
        self._grab = self.index = len(self.project.spots) - 1
        self.changed.emit()

    def drag(self, at: Point, event: QMouseEvent) -> None:
        reference = self.project.reference
        to = (min(max(at[0], 0.0), reference.width - 1.0), min(max(at[1], 0.0), reference.height - 1.0))
        if self._grab >= 0:
            self.edit(lambda p: edits.move_spot(p, self._grab, to), "move a spot", f"spot {self._grab}", going=True)

    def release(self, at: Point, event: QMouseEvent) -> None:
        self._grab = -1
        self.session.seal()

    def key(self, event: QKeyEvent) -> bool:
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.project.spots:
            self._drop()
            return True
        return False

    def leave(self) -> None:
        self._grab = -1

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.project
        places = [view.at(at) for at in project.spots]
        radius = max(7.0, project.spot_mm / project.mm_per_px * view.scale)
        for a, b in zip(places, places[1:], strict=False):
            size = max(1.0, ((b.x() - a.x()) ** 2 + (b.y() - a.y()) ** 2) ** 0.5)
            if size > 2 * radius + 4:
                k = radius / size
                x0, y0 = a.x() + (b.x() - a.x()) * k, a.y() + (b.y() - a.y()) * k
                x1, y1 = b.x() - (b.x() - a.x()) * k, b.y() - (b.y() - a.y()) * k
                draw.stroke(p, draw.along(x0, y0, x1, y1), 3.4, 0.9, "over_light", "over_dark")
        for k, at in enumerate(places):
            chosen = k == self._chosen_index()
            draw.circle(p, at.x(), at.y(), radius, "", "over_dark", 4)
            draw.circle(p, at.x(), at.y(), radius, "", "russet" if chosen else "over_light", 1.8)
            draw.tag(p, at.x() + radius + 15, at.y(), letter_of(k), chosen=chosen)
