"""An eye on the bench: its values along three radii, its steps painted, the chosen one at life size."""

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.colour import grey_of_lightness
from foxpath.core.eyes import Eye, EyeStep, EyeValues, angle_of_hour
from foxpath.core.reference.light import hour_words
from foxpath.core.rehearsal.eyes import eye_room
from foxpath.core.units import mm_words
from foxpath.window.bench.controls import Control
from foxpath.window.look import draw
from foxpath.window.picture.glass import true_px_per_mm

COLUMNS = 3
RADII = 3
STEPS_ALONG = 6


def radii_of(eye: Eye, values: EyeValues) -> list[float]:
    """Return the hours of three radii worth showing: through the lid's shadow, on the lit side, and between."""
    lit = values.light_hour if np.isfinite(values.light_hour) else 5.0
    shade = 11.0 if eye.lights and 6 < lit < 12 else 1.0
    other = (lit + 3.0) % 12 if lit < 6 else (lit - 3.0) % 12
    return [shade, other, lit]


class ValuesView(QWidget):
    """The photograph's eye enlarged with three numbered radii, each also as a bar of true greys, pupil outward."""

    SIDE = 112

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(self.SIDE + 10)
        self.eye: Eye | None = None
        self.values: EyeValues | None = None
        self.image: QImage | None = None

    def show_eye(self, eye: Eye | None, values: EyeValues | None, image: QImage | None) -> None:
        """Show an eye; `image` is the part of the photograph that `part_of` names."""
        self.eye, self.values, self.image = eye, values, image
        self.update()

    @staticmethod
    def part_of(eye: Eye) -> QRectF:
        """Return the square of the reference that is shown, reference pixels."""
        r = 1.35 * max(eye.iris.rx, eye.iris.ry)
        return QRectF(eye.iris.cx - r, eye.iris.cy - r, 2 * r, 2 * r)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            box = QRectF(6, 4, self.SIDE, self.SIDE)
            draw.rounded(p, box, 2, "well")
            if self.image is not None:
                p.drawImage(box, self.image)
            if self.eye is None or self.values is None:
                return
            part = self.part_of(self.eye)
            k = self.SIDE / part.width()
            for number, hour in enumerate(radii_of(self.eye, self.values), 1):
                self._radius(p, number, hour, box, k)
                self._bar(p, number, hour)

    def _radius(self, p: QPainter, number: int, hour: float, box: QRectF, k: float) -> None:
        eye = self.eye
        assert eye is not None
        a = angle_of_hour(hour)
        inner = float(eye.pupil.reach(np.array([a]))[0])
        outer = float(eye.iris.reach(np.array([a]))[0])
        c, s = math.cos(a), math.sin(a)
        middle = box.center()
        x0, y0 = middle.x() + c * inner * k, middle.y() + s * inner * k
        x1, y1 = middle.x() + c * outer * k, middle.y() + s * outer * k
        draw.stroke(p, draw.along(x1, y1, x0, y0, 6), 2.6, 1.0, "over_light", "over_dark")
        x2, y2 = middle.x() + c * (outer * k + 9), middle.y() + s * (outer * k + 9)
        x2, y2 = min(max(x2, box.left() + 9), box.right() - 9), min(max(y2, box.top() + 9), box.bottom() - 9)
        draw.circle(p, x2, y2, 8, "over_plate", "over_light", 1.2)
        draw.text(p, x2, y2 + 4.2, str(number), 12, 700, "over_text", "c")

    def _bar(self, p: QPainter, number: int, hour: float) -> None:
        values = self.values
        assert values is not None
        left, top = self.SIDE + 18.0, 6.0 + (number - 1) * 38
        room = self.width() - left - 6
        light = values.along(hour, STEPS_ALONG)
        draw.text(p, left, top + 11, str(number), 12.5, 700)
        draw.text(p, left + 13, top + 11, f"to {hour_words(hour)}", 12.5, 400, "quiet")
        # The unit stands above: beside a half hour there is no room for it.
        words = f"{light.min():.0f} to {light.max():.0f}"
        draw.text(p, self.width() - 6, top + 11, words, 12.5, 500, "text", "r")
        each = room / STEPS_ALONG
        p.setPen(Qt.PenStyle.NoPen)
        for k, value in enumerate(light):
            v = grey_of_lightness(float(np.clip(value, 0, 100)))
            tall = 15 - 1.5 * k
            p.setBrush(QColor(v, v, v))
            p.drawRect(QRectF(left + k * each, top + 24 - tall / 2, each - 1, tall))


class StepGrid(Control):
    """Every step of the build-up, painted; arrow keys move the choice."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__(10, "steps of the eye")
        self.steps: tuple[EyeStep, ...] = ()
        self.images: list[QImage] = []
        self.value = ""
        self._under = -1

    def set_steps(self, steps: tuple[EyeStep, ...], images: list[QImage], value: str) -> None:
        """Show steps with their pictures (none yet when there are fewer), one chosen."""
        self.steps, self.images, self.value = steps, images, value
        rows = math.ceil(len(steps) / COLUMNS)
        self.setFixedHeight(int(rows * self._pitch_y()) + 4 if rows else 0)
        self.update()

    def resizeEvent(self, event: object) -> None:
        rows = math.ceil(len(self.steps) / COLUMNS)
        self.setFixedHeight(int(rows * self._pitch_y()) + 4 if rows else 0)

    def _pitch_x(self) -> float:
        return (self.width() - 6) / COLUMNS

    def _shape(self) -> float:
        image = next(iter(self.images), None)
        return image.height() / image.width() if image is not None else 0.75

    def _pitch_y(self) -> float:
        return (self._pitch_x() - 6) * self._shape() + 22

    def _box(self, k: int) -> QRectF:
        wide = self._pitch_x() - 6
        return QRectF(
            6 + (k % COLUMNS) * self._pitch_x(), 3 + (k // COLUMNS) * self._pitch_y(), wide, wide * self._shape()
        )

    def _index_at(self, at: QPointF) -> int:
        return next((k for k in range(len(self.steps)) if self._box(k).adjusted(-3, -3, 3, 18).contains(at)), -1)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._under = self._index_at(event.position())
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._take(self._index_at(event.position()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: COLUMNS, Qt.Key.Key_Up: -COLUMNS}.get(
            Qt.Key(event.key())
        )
        keys = [step.key for step in self.steps]
        if by is None or not keys:
            super().keyPressEvent(event)
        else:
            now = keys.index(self.value) if self.value in keys else 0
            self._take(min(max(now + by, 0), len(keys) - 1))

    def _take(self, index: int) -> None:
        if 0 <= index < len(self.steps) and self.steps[index].key != self.value:
            self.value = self.steps[index].key
            self.update()
            self.chosen.emit(self.value)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            for k, step in enumerate(self.steps):
                box = self._box(k)
                if k < len(self.images):
                    p.setOpacity(1.0 if step.painted else 0.35)
                    p.drawImage(box, self.images[k])
                    p.setOpacity(1.0)
                else:
                    draw.rounded(p, box, 2, "well")
                if not step.painted:
                    path = QPainterPath()
                    path.addRect(box)
                    draw.hatch(p, path, 9, 0.7)
                on = step.key == self.value
                if on or (self.hovered and k == self._under):
                    draw.rounded(p, box.adjusted(-2, -2, 2, 2), 3, "", "russet" if on else "dim", 2)
                used = draw.text(p, box.left(), box.bottom() + 14, str(k + 1), 12, 400, "quiet")
                name = draw.elided(step.name, box.width() - used - 6, 12.5, 700 if on else 400)
                draw.text(
                    p,
                    box.left() + used + 4,
                    box.bottom() + 14,
                    name,
                    12.5,
                    700 if on else 400,
                    "text" if step.painted else "quiet",
                )
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))


class StepView(QWidget):
    """The chosen step as large as on the canvas, and up to four times as large in a round glass."""

    TALL = 128

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(self.TALL)
        self.image: QImage | None = None
        self.eye: Eye | None = None
        self.mm_per_px = 1.0

    def show_step(self, image: QImage | None, eye: Eye | None, mm_per_px: float) -> None:
        """Show a step's picture."""
        self.image, self.eye, self.mm_per_px = image, eye, mm_per_px
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            if self.image is None or self.eye is None:
                return
            px_per_mm, _ = true_px_per_mm(self)
            x, y, wide, tall = eye_room(self.eye)
            radius = 55.0
            room = QRectF(6, 4, self.width() - 2 * radius - 30, self.TALL - 24)
            true = QRectF(0, 0, wide * self.mm_per_px * px_per_mm, tall * self.mm_per_px * px_per_mm)
            # About the iris, where the whole is larger than the bench has room.
            middle = QPointF(
                (self.eye.iris.cx - x) / wide * true.width(), (self.eye.iris.cy - y) / tall * true.height()
            )
            true.moveTopLeft(
                QPointF(
                    _placed(room.left(), room.width(), true.width(), middle.x()),
                    _placed(room.top(), room.height(), true.height(), middle.y()),
                )
            )
            p.save()
            p.setClipRect(room)
            p.drawImage(true, self.image)
            p.restore()
            draw.text(p, 6, self.TALL - 5, "life size", 12, 400, "quiet")
            at = QPointF(self.width() - radius - 8, radius + 4)
            across = 2 * self.eye.iris.radius * self.mm_per_px * px_per_mm
            times = min(4.0, max(1.5, round(2 * 2.4 * radius / across) / 2))
            draw.stroke(p, draw.along(room.right() + 3, at.y(), at.x() - radius - 2, at.y(), 6), 2.4, 0.8, "quiet")
            clip = QPainterPath()
            clip.addEllipse(at, radius, radius)
            p.save()
            p.setClipPath(clip)
            big = QRectF(0, 0, times * true.width(), times * true.height())
            # A large eye would show nothing but its pupil in the middle of the glass: the light is brought in.
            aside = 0.0 if times < 4 else 0.3 * radius
            big.moveTopLeft(QPointF(at.x() - times * middle.x() + aside, at.y() - times * middle.y() + aside))
            p.drawImage(big, self.image)
            p.restore()
            draw.circle(p, at.x(), at.y(), radius, "", "text", 1.6)
            draw.text(p, at.x(), self.TALL - 5, f"{times:g} ×", 12, 400, "quiet", "c")


def _placed(start: float, room: float, size: float, middle: float) -> float:
    """Return where something begins: centred in the room, or with its own middle there when it is larger."""
    if size <= room:
        return start + (room - size) / 2
    return min(start, max(start + room - size, start + room / 2 - middle))


class StepWords(QWidget):
    """One line on how the chosen step is painted, on a sunk plate: brush, width, values, wetness, and the sentence."""

    def __init__(self) -> None:
        super().__init__()
        self.step: EyeStep | None = None
        self.setFixedHeight(88)

    def show_step(self, step: EyeStep | None) -> None:
        """Show a step."""
        self.step = step
        self._fit()
        self.update()

    def _lines(self) -> list[str]:
        if self.step is None:
            return []
        return draw.lines_of(self.step.left_out or self.step.how, self.width() - 24, 12.5)

    def _fit(self) -> None:
        self.setFixedHeight(76 + 17 * len(self._lines()))

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            step = self.step
            if step is None:
                return
            draw.rounded(p, QRectF(3, 3, self.width() - 6, self.height() - 6), 6, "sunk")
            right = "left out" if step.left_out else f"{step.minutes:.0f} min · over {step.wetness}"
            draw.text(p, 12, 22, step.name, 13, 700)
            draw.text(p, self.width() - 12, 22, right, 12.5, 400, "quiet", "r")
            brush = step.brush.words() if step.brush is not None else "no brush"
            values = f"L* {step.l_low:.0f} to {step.l_high:.0f}"
            draw.text(p, 12, 40, draw.elided(brush, self.width() - 24, 12.5), 12.5)
            draw.text(p, 12, 57, f"marks {mm_words(step.width_mm)} wide", 12.5)
            draw.text(p, self.width() - 12, 57, values, 12.5, 400, "text", "r")
            for k, line in enumerate(self._lines()):
                draw.text(p, 12, 76 + 17 * k, line, 12.5, 400, "quiet")


def light_dial(p: QPainter, x: float, y: float, r: float, hour: float, spot: QPointF, inner: float) -> None:
    """Draw the dial above an eye, from ten to two, and a hand that runs in to its catchlight, never across the pupil.

    Parameters
    ----------
    x, y, r : float
        Middle and radius of the dial, pixels.
    hour : float
    spot : QPointF
        The catchlight.
    inner : float
        The hand stops so far from the catchlight.
    """
    arc = []
    for k in range(41):
        a = math.radians(-60 + 120 * k / 40 - 90)
        arc.append((x + r * math.cos(a), y + r * math.sin(a)))
    path = QPainterPath(QPointF(*arc[0]))
    for point in arc[1:]:
        path.lineTo(QPointF(*point))
    draw.cased_path(p, path, 1.1)
    for k in range(9):
        a = math.radians(-60 + 15 * k - 90)
        long = 8.0 if k == 4 else 5.5 if k % 2 == 0 else 3.5
        line = draw.along(
            x + (r + long) * math.cos(a), y + (r + long) * math.sin(a), x + r * math.cos(a), y + r * math.sin(a), 4
        )
        draw.stroke(p, line, 2.0, 1.0, "over_light", "over_dark", soft_root=False)
    a = math.radians(30 * hour - 90)
    start = QPointF(x + (r - 1) * math.cos(a), y + (r - 1) * math.sin(a))
    way = QPointF(spot.x() - start.x(), spot.y() - start.y())
    size = math.hypot(way.x(), way.y())
    if size > inner + 4:
        t = 1 - inner / size
        line = draw.along(start.x(), start.y(), start.x() + way.x() * t, start.y() + way.y() * t, 8)
        draw.stroke(p, line, 5.0, 1.4, "russet", "over_light", soft_root=False)


def image_part(levels: list[np.ndarray], reference_width: float, part: QRectF) -> QImage | None:
    """Return the part of the photograph, reference pixels, as a picture of its own; None when it is not decoded yet."""
    from foxpath.window.picture.view import image_of

    if not levels:
        return None
    rgb = levels[0]
    k = rgb.shape[1] / max(reference_width, 1)
    x0, y0 = max(0, round(part.left() * k)), max(0, round(part.top() * k))
    x1, y1 = min(rgb.shape[1], round(part.right() * k)), min(rgb.shape[0], round(part.bottom() * k))
    if x1 - x0 < 2 or y1 - y0 < 2:
        return None
    return image_of(rgb[y0:y1, x0:x1].copy())
