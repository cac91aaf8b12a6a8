"""Seeing: squint, values, focus falloff and true size, and how each is set."""

from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.colour import grey_of_lightness
from foxpath.core.reference.squint import POSTER_STEPS, even_cuts, lightness_of
from foxpath.derive.reference.transfer import SaveSeen
from foxpath.document import edits
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Button, Choice, Control, Measure, Scale
from foxpath.window.bench.rows import Gestures, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.glass import true_px_per_mm
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.reference.fold import Fold, paint_focal
from foxpath.window.work import recent

DISTANCE = Scale(0.5, 20.0, lambda v: f"{v:.1f} m", ratio=True)
STRENGTH = Scale(0.0, 1.0, lambda v: f"{100 * v:.0f} %", step=0.05)
BAR_MM = 50.0


class Cuts(Control):
    """The thresholds of the values on a ladder from dark to light: drag one, or choose it and use the arrow keys."""

    moved = Signal(list, bool)
    """The thresholds, L*, and whether the drag goes on."""

    def __init__(self) -> None:
        super().__init__(54, "thresholds of the values")
        self.cuts: list[float] = []
        self.chosen = 0
        self._dragging = False

    def set_cuts(self, cuts: list[float]) -> None:
        """Show thresholds."""
        if not self._dragging:
            self.cuts = list(cuts)
            self.chosen = min(self.chosen, max(0, len(cuts) - 1))
            self.update()

    def _x(self, lightness: float) -> float:
        return 8 + (self.width() - 16) * lightness / 100

    def _move(self, to: float, *, going: bool) -> None:
        low = self.cuts[self.chosen - 1] + 1 if self.chosen else 1.0
        high = self.cuts[self.chosen + 1] - 1 if self.chosen + 1 < len(self.cuts) else 99.0
        self.cuts[self.chosen] = round(min(max(to, low), high), 1)
        self.update()
        self.moved.emit(list(self.cuts), going)

    def _from_x(self, x: float) -> float:
        return (x - 8) / max(1.0, self.width() - 16) * 100

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.cuts:
            x = event.position().x()
            self.chosen = min(range(len(self.cuts)), key=lambda k: abs(self._x(self.cuts[k]) - x))
            self._dragging = True
            self._move(self._from_x(x), going=True)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._move(self._from_x(event.position().x()), going=True)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._dragging = False
            self.moved.emit(list(self.cuts), False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if not self.cuts:
            super().keyPressEvent(event)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self._move(self.cuts[self.chosen] + (1 if key == Qt.Key.Key_Right else -1), going=False)
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            by = 1 if key == Qt.Key.Key_Up else -1
            self.chosen = (self.chosen + by) % len(self.cuts)
            self.update()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            bounds = [0.0, *self.cuts, 100.0]
            for low, high in zip(bounds, bounds[1:], strict=False):
                v = grey_of_lightness((low + high) / 2)
                p.fillRect(QRectF(self._x(low), 6, self._x(high) - self._x(low) + 0.5, 24), QColor(v, v, v))
            for k, cut in enumerate(self.cuts):
                x = self._x(cut)
                tone = "russet" if k == self.chosen and (self._dragging or self.hasFocus()) else "text"
                draw.rounded(p, QRectF(x - 3, 3, 6, 30), 3, tone, "plate")
                # Close together, every second number goes one line down.
                near = k > 0 and x - self._x(self.cuts[k - 1]) < 22
                draw.text(p, x, 52 if near and k % 2 else 46, f"{cut:.0f}", 11, 400, "quiet", "c")
            draw.text(p, 4, 46, "L*", 11, 400, "quiet")
            if self.ring_shown():
                draw.focus_ring(p, self.rect().toRectF())


class RulerBar(Control):
    """A bar that is drawn out until a ruler held to the screen says five centimetres."""

    taken = Signal(float)
    """Logical pixels for a millimetre."""

    def __init__(self) -> None:
        super().__init__(46, "bar of 5 cm")
        self.px = 190.0
        self._dragging = False

    def set_px(self, px_per_mm: float) -> None:
        """Show the bar as long as five centimetres are taken to be."""
        if not self._dragging:
            self.px = px_per_mm * BAR_MM
            self.update()

    def _take(self, px: float) -> None:
        self.px = min(max(px, 60.0), self.width() - 14.0)
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._dragging = True
        self._take(event.position().x() - 6)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._take(event.position().x() - 6)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._dragging = False
            self.taken.emit(self.px / BAR_MM)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Right: 1.0, Qt.Key.Key_Left: -1.0}.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
        else:
            self._take(self.px + by)
            self.taken.emit(self.px / BAR_MM)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            end = 6 + self.px
            p.fillRect(QRectF(6, 10, self.px, 8), colour_of_bar())
            for k in range(6):
                x = 6 + self.px * k / 5
                p.setPen(colour_of_bar())
                p.drawLine(QPointF(x, 18), QPointF(x, 26))
                draw.text(
                    p,
                    x,
                    40,
                    str(k) if k < 5 else "5 cm",
                    11,
                    400,
                    "quiet",
                    "r" if k == 5 and x > self.width() - 20 else "c",
                )
            draw.rounded(p, QRectF(end - 3, 5, 6, 18), 3, "russet" if self._dragging else "text")
            if self.ring_shown():
                draw.focus_ring(p, self.rect().toRectF())


def colour_of_bar() -> QColor:
    """Return the bar's tone."""
    from foxpath.window.look.theme import colour

    return colour("quiet")


class SeeingFold(Fold):
    """Set how the picture is looked at; the lenses above switch it on and off."""

    code, title, about = "seeing", "Seeing", "squint, values, focus falloff, true size"

    def make_body(self) -> QWidget:
        self.distance = Measure("squint from", DISTANCE)
        self.distance.changed.connect(self._distance)
        self.steps = Choice([(str(n), f"{n} values") for n in POSTER_STEPS], "number of values")
        self.steps.chosen.connect(self._steps)
        self.cuts = Cuts()
        self.cuts.moved.connect(self._cuts)
        self.even = Button("Values cut evenly again")
        self.even.clicked.connect(self._even)
        self.falloff = Measure("falloff", STRENGTH)
        self.falloff.changed.connect(self._falloff)
        self.save = Button("Save this view as a picture …")
        self.save.clicked.connect(self.ask_save)
        self.bar = RulerBar()
        self.bar.taken.connect(self._measured)
        self.screen_head = Section("True size")
        self.forget = Button("Forget the screen's measure")
        self.forget.clicked.connect(self._forget)
        return column(
            self.distance,
            self.steps,
            self.cuts,
            self.even,
            self.falloff,
            Gestures([("outline", "focal point", "two clicks")]),
            self.save,
            self.screen_head,
            Words("Hold a ruler to the screen and draw the bar out until it is 5 cm long.", 12),
            self.bar,
            self.forget,
        )

    def note(self) -> str:
        seeing = self.project.seeing
        return f"squint {seeing.distance_m:g} m · {seeing.steps} values"

    def _even_cuts(self) -> list[float]:
        levels = self.session.levels
        return list(even_cuts(lightness_of(levels[-1]), self.project.seeing.steps)) if levels else []

    def refresh(self) -> None:
        seeing = self.project.seeing
        self.distance.set_value(seeing.distance_m, 3.0, decided=seeing.distance_m != 3.0)
        self.steps.set_value(str(seeing.steps))
        self.cuts.set_cuts(list(seeing.cuts) or self._even_cuts())
        self.even.setVisible(bool(seeing.cuts))
        self.falloff.set_value(seeing.falloff, 0.7, decided=seeing.falloff != 0.7)
        px, measured = true_px_per_mm(self.picture)
        self.bar.set_px(px)
        self.screen_head.set_words("True size", f"{px:.2f} px a mm, {'by your ruler' if measured else 'not measured'}")
        self.forget.setVisible(measured)

    def _see(self, kind: str) -> None:
        """Switch an aid on that is being set, so that what is set is seen."""
        chosen = self.session.chosen
        if kind not in chosen.aids:
            self.session.choose(aids=chosen.aids | {kind})
            self.picture.refresh_aid()

    def _distance(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self._see("squint")
        self.edit(lambda p: edits.set_seeing(p, distance_m=value), "squint from elsewhere", "squint", going=going)

    def _steps(self, key: str) -> None:
        self._see("poster")
        self.edit(lambda p: edits.set_seeing(p, steps=int(key), cuts=()), f"{key} values")

    def _cuts(self, cuts: list[float], going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self._see("poster")
        self.edit(lambda p: edits.set_seeing(p, cuts=tuple(cuts)), "cut the values", "cuts", going=going)

    def _even(self) -> None:
        self.edit(lambda p: edits.set_seeing(p, cuts=()), "values cut evenly")

    def _falloff(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self._see("falloff")
        self.edit(lambda p: edits.set_seeing(p, falloff=value), "focus falloff", "falloff", going=going)

    def _measured(self, px_per_mm: float) -> None:
        recent.remember_screen(self.picture.screen().name(), px_per_mm)
        self.session.said.emit(f"The screen has {px_per_mm:.2f} px a millimetre. L shows the glass.", "note")
        self.changed.emit()

    def _forget(self) -> None:
        recent.remember_screen(self.picture.screen().name(), None)
        self.changed.emit()

    def ask_save(self) -> None:
        """Ask where to save what is seen."""
        start = f"{self.project.name} working reference.png"
        name, _ = QFileDialog.getSaveFileName(self.picture, "Save this view as a picture", start, "PNG (*.png)")
        if name:
            self.save_seen(Path(name if name.lower().endswith(".png") else f"{name}.png"))

    def save_seen(self, path: Path) -> None:
        """Write the crop as it is seen through the aids in use, at the picture's own size."""
        request = SaveSeen(self.session.results, self.project, path, self.picture.kinds())
        self.session.write(request)

    def paint(self, p: QPainter, view: Viewport) -> None:
        paint_focal(p, view, self.project)
