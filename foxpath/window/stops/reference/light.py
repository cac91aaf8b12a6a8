"""Light: where it comes from, how warm and hard it is, and the sky; a ball is lit like the animal."""

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.reference.light import BEHIND_DEG, Catchlight, Light, LightEvidence, hour_words, lit_sphere
from foxpath.core.units import percent
from foxpath.document import edits
from foxpath.document.model import Project, Zone
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Button, Control, Measure, Scale
from foxpath.window.bench.rows import Gestures, Row, Rows, Words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.reference.fold import Fold, Point, ring

HOUR = Scale(0.0, 12.0, hour_words, step=0.5)


def height_words(degrees: float) -> str:
    """Say how high a light stands toward the viewer, or how far behind the animal."""
    return f"{degrees:.0f}°" if degrees >= 0 else f"{-degrees:.0f}° behind"


HEIGHT = Scale(BEHIND_DEG, 90.0, height_words, step=5)


def warmth_words(value: float) -> str:
    """Write how warm a light is."""
    return "neutral" if abs(value) < 0.1 else f"{'' if abs(value) > 0.5 else 'a bit '}{'warm' if value > 0 else 'cool'}"


def hardness_words(value: float) -> str:
    """Write how hard a light is."""
    return "soft" if value < 0.25 else "half soft" if value < 0.5 else "half hard" if value < 0.75 else "hard"


SCALES = {
    "hour": ("hour", HOUR),
    "height_deg": ("height", HEIGHT),
    "warmth": ("warmth", Scale(-1.0, 1.0, warmth_words, step=0.1)),
    "hardness": ("edge", Scale(0.0, 1.0, hardness_words, step=0.1)),
    "sky_hour": ("sky from", HOUR),
    "sky": ("sky", Scale(0.0, 1.0, lambda v: f"{100 * v:.0f} %", step=0.05)),
}
BALL = 112


class Ball(Control):
    """A grey ball under the light; drag on it to move the light round."""

    moved = Signal(float, float, bool)
    """Hour, height in degrees, and whether the drag goes on."""

    def __init__(self) -> None:
        super().__init__(BALL + 46, "light on a ball")
        self.light = Light()
        self.decided = False
        self._dragging = False

    def set_light(self, light: Light, *, decided: bool) -> None:
        """Show a light."""
        self.light, self.decided = light, decided
        self.update()

    def _middle(self) -> QPointF:
        return QPointF(self.width() / 2, 23 + BALL / 2)

    def _take(self, place: QPointF, *, going: bool) -> None:
        # The brightest spot is drawn to where the pointer is: the light stands half way over it.
        x, y = (place.x() - self._middle().x()) / (BALL / 2), (place.y() - self._middle().y()) / (BALL / 2)
        away = min(math.hypot(x, y), 1.0)
        hour = (math.degrees(math.atan2(x, -y)) / 30) % 12
        self.moved.emit(round(hour * 4) / 4, round(math.degrees(math.acos(away)) / 2.5) * 2.5, going)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._dragging = True
        self._take(event.position(), going=True)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._take(event.position(), going=True)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._dragging = False
            self._take(event.position(), going=False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {
            Qt.Key.Key_Right: (0.5, 0), Qt.Key.Key_Left: (-0.5, 0), Qt.Key.Key_Up: (0, 5), Qt.Key.Key_Down: (0, -5),
        }.get(Qt.Key(event.key()))  # fmt: skip
        if by is None:
            super().keyPressEvent(event)
        else:
            height = min(max(self.light.height_deg + by[1], BEHIND_DEG), 90.0)
            self.moved.emit((self.light.hour + by[0]) % 12, height, False)

    def paintEvent(self, event: QPaintEvent) -> None:
        from foxpath.window.picture.view import image_of

        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            middle, r = self._middle(), BALL / 2
            clip = QPainterPath()
            clip.addEllipse(middle, r * 0.94, r * 0.94)
            ratio = self.devicePixelRatioF()
            p.save()
            p.setClipPath(clip)
            ball = image_of(lit_sphere(self.light, round(BALL * ratio)))
            p.drawImage(QRectF(middle.x() - r, middle.y() - r, BALL, BALL), ball)
            p.restore()
            draw.circle(p, middle.x(), middle.y(), r * 0.94, "", "quiet", 1)
            self._taper(p, self.light.hour, 20, 6.5, "russet" if self.decided else "text")
            if self.light.sky > 0.02:
                self._taper(p, self.light.sky_hour, 13, 3 + 3 * self.light.sky, "quiet")
            for hour in (12, 3, 6, 9):
                a = math.radians(30 * hour)
                x, y = middle.x() + (r + 34) * math.sin(a), middle.y() - (r + 12) * math.cos(a)
                if hour in (3, 9):
                    draw.text(p, x, y + 4, str(hour), 11, 400, "quiet", "c")
            if self.ring_shown():
                draw.focus_ring(p, self.rect().toRectF())

    def _taper(self, p: QPainter, hour: float, length: float, width: float, tone: str) -> None:
        a, r, middle = math.radians(30 * hour), BALL / 2, self._middle()
        x, y = math.sin(a), -math.cos(a)
        out, inner = r + 1 + length, r + 1
        line = draw.along(middle.x() + x * out, middle.y() + y * out, middle.x() + x * inner, middle.y() + y * inner, 6)
        draw.stroke(p, line, width, 1.0, tone, soft_root=False)


class LightFold(Fold):
    """Find the light, or say it; later stops keep to it."""

    code, title, about = "light", "Light", "where it comes from, warm or cool, hard or soft"

    def make_body(self) -> QWidget:
        self._ball: tuple[Point, float] | None = None
        self._from: Point | None = None
        self.state = Words("", 12.5)
        self.ball = Ball()
        self.ball.moved.connect(self._moved)
        self.evidence = Rows("what the light was read from")
        self.evidence.chosen.connect(self._take)
        self.evidence_words = Words("", 12)
        self.measures: dict[str, Measure] = {}
        for field, (name, scale) in SCALES.items():
            made = Measure(name, scale)
            made.setObjectName(field)
            made.changed.connect(self._changed)
            self.measures[field] = made
        self.forget = Button("Take the marked catchlights away")
        self.forget.clicked.connect(self._forget)
        self.back = Button("Back to what was measured")
        self.back.clicked.connect(self._back)
        return column(
            self.state,
            self.ball,
            self.evidence_words,
            self.evidence,
            *self.measures.values(),
            self.forget,
            self.back,
            Gestures([("frame", "catchlight", "click it on the eye"), ("outline", "eyeball", "drag middle to rim")]),
        )

    def _evidence(self) -> tuple[LightEvidence, ...]:
        return self.session.inspection.evidence if self.session.inspection is not None else ()

    def light(self) -> Light:
        """Return the light: as said, else the surest that was measured, else the usual studio light."""
        said = self.project.light
        if said is not None:
            return said
        found = self._evidence()
        return Light(hour=found[0].hour, height_deg=found[0].height_deg) if found else Light()

    def note(self) -> str:
        light = self.light()
        source = "said" if self.project.light else "measured" if self._evidence() else "a guess"
        return f"{hour_words(light.hour)}, {height_words(light.height_deg)} · {source}"

    def refresh(self) -> None:
        light, said = self.light(), self.project.light is not None
        found = self._evidence()
        self.ball.set_light(light, decided=said)
        if said:
            self.state.set_words("The light as you said it.")
        elif found:
            self.state.set_words(f"Read from {found[0].why}, {percent(found[0].sure)} sure. Drag the ball to decide.")
        else:
            self.state.set_words("A guess. Click a catchlight on an eye, or drag the ball.")
        self.evidence_words.set_words("What the picture shows; choose one to take it over." if found else "")
        self.evidence_words.setVisible(bool(found))
        self.evidence.setVisible(bool(found))
        self.evidence.set_rows(
            [
                Row(str(k), one.why, f"{percent(one.sure)} sure", f"{hour_words(one.hour)}, {one.height_deg:.0f}°")
                for k, one in enumerate(found)
            ],
            "",
        )
        for field, made in self.measures.items():
            made.set_value(getattr(light, field), None, decided=said)
        self.forget.setVisible(bool(self.project.catchlights))
        self.back.setVisible(said)

    def _set(self, words: str, key: str = "", *, going: bool = False, **changes: float) -> None:
        light = self.light()
        self.edit(lambda p: edits.set_light(p, light, **changes), words, key, going=going)

    def _changed(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        field = self.sender().objectName()
        self._set("the light", f"light {field}", going=going, **{field: value})

    def _moved(self, hour: float, height: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self._set("move the light", "light", going=going, hour=hour, height_deg=height)

    def _take(self, key: str) -> None:
        one = self._evidence()[int(key)]
        self._set("the light as it was measured", hour=one.hour, height_deg=one.height_deg)

    def _forget(self) -> None:
        self.edit(edits.forget_catchlights, "take the catchlights away")

    def _back(self) -> None:
        self.edit(lambda p: edits.set_light(p, None), "the light as it was measured")

    # Marking catchlights --------------------------------------------------------------------------

    def _eyeball(self, project: Project, at: Point) -> tuple[Point, float] | None:
        """Return middle and radius of the eyeball under a place: marked by hand, else from the eye's outline."""
        if self._ball is not None and math.dist(self._ball[0], at) < self._ball[1]:
            return self._ball
        eyes = [zone for zone in project.zones if zone.kind == "eye" and not zone.whole]
        for zone in eyes:
            middle, radius = ball_of(zone)
            if math.dist(middle, at) < radius:
                return middle, radius
        return None

    def press(self, at: Point, event: QMouseEvent) -> None:
        self._from = at

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._from is not None and math.dist(self._from, at) > self.reach(6):
            self._ball = (self._from, math.dist(self._from, at))

    def release(self, at: Point, event: QMouseEvent) -> None:
        start, self._from = self._from, None
        if start is None or math.dist(start, at) > self.reach(6):
            if self._ball is not None:
                self.session.said.emit("The eyeball is marked. Now click its catchlight.", "note")
            return
        eyeball = self._eyeball(self.project, at)
        if eyeball is None:
            self.session.said.emit("No eye lies there. Drag from the eyeball's middle to its rim first.", "note")
            return
        mark = Catchlight(
            (round(eyeball[0][0], 1), round(eyeball[0][1], 1)), round(eyeball[1], 1), (round(at[0], 1), round(at[1], 1))
        )
        self.edit(lambda p: edits.mark_catchlight(p, mark), "mark a catchlight")
        self._ball = None

    def busy(self) -> bool:
        return self._ball is not None or self._from is not None

    def leave(self) -> None:
        self._ball, self._from = None, None

    def paint(self, p: QPainter, view: Viewport) -> None:
        for one in self.project.catchlights:
            ring(p, view, one.centre, one.radius * view.scale)
            ring(p, view, one.spot, 5, chosen=True)
        if self._ball is not None:
            ring(p, view, self._ball[0], self._ball[1] * view.scale, "eyeball", chosen=True)


def ball_of(zone: Zone) -> tuple[Point, float]:
    """Return middle and radius of an eyeball from the eye's outline, reference pixels: lids cut its height, not its width."""
    outline = zone.shape.outline()
    x, y = (outline.min(axis=0) + outline.max(axis=0)) / 2
    return (float(x), float(y)), float(np.ptp(outline[:, 0])) / 2
