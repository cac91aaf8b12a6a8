"""The easel view: takes keys, taps and the clock, and shows one step."""

from datetime import timedelta

import numpy as np
from PySide6.QtCore import QEvent, QObject, QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QLineEdit, QWidget

from foxpath.core.arrays import F32
from foxpath.core.frame import Crop
from foxpath.core.log.entries import REASONS
from foxpath.core.log.timers import Timer
from foxpath.core.units import count_words, duration_words
from foxpath.derive.easel.hairs import PartHairs
from foxpath.derive.easel.reading import under_hand
from foxpath.document.model import Zone
from foxpath.window.easel import paint
from foxpath.window.easel.clock import Clock
from foxpath.window.easel.hand import Hand
from foxpath.window.easel.paint import MARGIN, PICTURE, TOP, Cap
from foxpath.window.look import draw
from foxpath.window.look.theme import colour, font
from foxpath.window.picture.glass import true_px_per_mm
from foxpath.window.picture.view import image_of
from foxpath.window.picture.viewport import Viewport, place
from foxpath.window.work.session import Session

TICK_MS = 1000
AROUND = 0.22
"""Of a part's size, that is shown around it."""
LEAST_SHARE = 0.12
"""Of the picture, that is shown at least."""
SQUINT = 26
"""Pixels across that a squint leaves."""

KEYS: dict[Qt.Key, str] = {
    Qt.Key.Key_Space: "next", Qt.Key.Key_Return: "next", Qt.Key.Key_Enter: "next", Qt.Key.Key_PageDown: "next", Qt.Key.Key_Right: "next",
    Qt.Key.Key_PageUp: "back", Qt.Key.Key_Left: "back", Qt.Key.Key_Backspace: "back", Qt.Key.Key_K: "skip", Qt.Key.Key_P: "part",
    Qt.Key.Key_D: "dark", Qt.Key.Key_L: "light", Qt.Key.Key_W: "warm", Qt.Key.Key_C: "cool", Qt.Key.Key_J: "jumps",
    Qt.Key.Key_E: "smeared", Qt.Key.Key_T: "dry", Qt.Key.Key_A: "tacky", Qt.Key.Key_F: "photo", Qt.Key.Key_Period: "pause",
    Qt.Key.Key_N: "note", Qt.Key.Key_U: "undo", Qt.Key.Key_Question: "keys", Qt.Key.Key_H: "keys", Qt.Key.Key_Q: "end",
    Qt.Key.Key_M: "mirror", Qt.Key.Key_V: "turn", Qt.Key.Key_Escape: "leave",
}  # fmt: skip
HOLDS: dict[Qt.Key, str] = {
    Qt.Key.Key_R: "reference",
    Qt.Key.Key_B: "after",
    Qt.Key.Key_S: "squint",
    Qt.Key.Key_X: "life",
}
"""Keys that show something as long as they are held."""
EVERY_KEY: tuple[tuple[str, str], ...] = (
    ("Space", "done, next"), ("Bksp", "back"), ("K", "later"), ("P", "in part"), ("D L W C", "too dark, light, warm, cool"),
    ("J", "jumps out"), ("E", "smeared"), ("T  A", "touch-dry, still tacky"), ("F", "photographed"), (".", "break"), ("N", "note"),
    ("U", "take back"), ("R B S X", "hold: reference, after, squint, life size"), ("M  V", "mirror, upside down"), ("Q", "end"), ("Esc", "leave"),
)  # fmt: skip


class NoteLine(QLineEdit):
    """A line for a note; Enter and Escape end here, and are no keys of the easel."""

    left = Signal()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.returnPressed.emit()
        elif event.key() == Qt.Key.Key_Escape:
            self.left.emit()
        else:
            super().keyPressEvent(event)


class EaselView(QWidget):
    """Covers the window while a sitting is painted."""

    closed = Signal()

    def __init__(self, session: Session, parent: QWidget) -> None:
        super().__init__(parent)
        self.session = session
        self.hand = Hand(session, Clock(), self)
        self.hand.changed.connect(self._changed)
        self.hand.left.connect(self.leave)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("the easel")
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.view = Viewport()
        self.held = ""
        self.mirrored = self.turned = False
        self._taps: list[tuple[QRectF, str]] = []
        self._hairs: F32 | None = None
        self._hairs_of: object = None
        self._painting: tuple[object, QImage] | None = None
        self._was_full = False
        self.line = NoteLine(self)
        self.line.setAccessibleName("a note")
        self.line.setFont(font(30, 500))
        self.line.returnPressed.connect(self._noted)
        self.line.left.connect(lambda: self.act("leave"))
        self.line.hide()
        self._timer = QTimer(self)
        self._timer.setInterval(TICK_MS)
        self._timer.timeout.connect(self.hand.tick)
        parent.installEventFilter(self)
        self.hide()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        # The window may be made larger, or take the whole screen, while it is covered.
        parent = self.parentWidget()
        if parent is not None and watched is parent and event.type() == QEvent.Type.Resize and self.isVisible():
            self.setGeometry(parent.rect())
        return False

    # Opening and leaving --------------------------------------------------------------------------

    def open(self, close: object, *, full: bool = True) -> None:
        """Cover the window and show a sitting; with `full` over the whole screen."""
        self.hand.open(close)  # type: ignore[arg-type]
        parent = self.parentWidget()
        assert parent is not None
        self.setGeometry(parent.rect())
        window = self.window()
        self._was_full = window.isFullScreen()
        if full and not self._was_full:
            window.showFullScreen()
        self.raise_()
        self.show()
        self.setFocus()
        self._timer.start()
        self._changed()

    def leave(self) -> None:
        """Uncover the window; the sitting goes on unless it was ended."""
        self._timer.stop()
        self.line.hide()
        self.hide()
        if self.window().isFullScreen() and not self._was_full:
            self.window().showNormal()
        self.closed.emit()

    def _changed(self) -> None:
        if not self.isVisible():
            return
        noting = self.hand.page == "note"
        if noting and not self.line.isVisible():
            self.line.clear()
            self._place_line()
            self.line.show()
            self.line.setFocus()
        elif not noting and self.line.isVisible():
            self.line.hide()
            self.setFocus()
        self._frame()
        self.setAccessibleDescription(self.told())
        self.update()

    def told(self) -> str:
        """Say what is shown, for whoever cannot see it."""
        step = self.hand.step
        if self.hand.page != "step" or step is None:
            return self.hand.page
        return ". ".join(one for one in (step.part, step.act, step.how, step.tool, self.hand.words) if one)

    def _noted(self) -> None:
        self.hand.note(self.line.text())

    def _place_line(self) -> None:
        s = paint.scale_of(self.width(), self.height())
        self.line.setGeometry(int(s.px(MARGIN)), int(s.px(300)), int(self.width() - s.px(2 * MARGIN)), int(s.px(64)))

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._place_line()
        self._frame()

    # The picture ----------------------------------------------------------------------------------

    def _frame(self) -> None:
        """Bring the part near, and ask for its hairs."""
        project, step, readings = self.session.project, self.hand.step, self.session.readings
        s = paint.scale_of(self.width(), self.height())
        self.view.room = QRectF(
            s.px(MARGIN), s.px(TOP), s.px(PICTURE), self.height() - s.px(TOP + paint.FOOT + 28)
        )  # fmt: skip
        if project is None:
            return
        self.view.region = self._region()
        self.view.mirrored, self.view.upside_down = self.mirrored, self.turned
        self.view.fit()
        if self.held == "life":
            # Held beside the canvas: a millimetre there is one here.
            self.view.scale, self.view.fitted = true_px_per_mm(self)[0] * project.mm_per_px, False
        if step is None or step.length_mm <= 0 or step.zone < 0 or readings is None:
            self._hairs, self._hairs_of = None, None
            return
        key = (project.combs, project.zones, step.zone, step.length_mm)
        if key != self._hairs_of:
            self._hairs, self._hairs_of = None, key
            request = PartHairs(self.session.results, project, step.zone, step.length_mm)
            self.session.runner.start("easel hairs", request, self._take_hairs)

    def _region(self) -> Crop:
        """Return what of the picture is shown: the part as far as it lies on the canvas, and a little around it."""
        project, step, readings = self.session.project, self.hand.step, self.session.readings
        assert project is not None
        crop = project.crop
        if step is None or step.zone < 0 or readings is None or step.zone >= len(readings.zones):
            return crop
        zone = readings.zones[step.zone]
        if zone.whole:
            return crop
        line = zone.shape.outline()
        low = np.maximum(line.min(axis=0), (crop.x, crop.y))
        high = np.minimum(line.max(axis=0), (crop.x + crop.width, crop.y + crop.height))
        if (high <= low).any():
            return crop
        size = max(float((high - low).max()) * (1 + 2 * AROUND), LEAST_SHARE * crop.width)
        size = min(size, crop.width, crop.height)
        x, y = (low + high) / 2 - size / 2
        # On the canvas as far as it goes.
        x = min(max(float(x), crop.x), crop.x + crop.width - size)
        y = min(max(float(y), crop.y), crop.y + crop.height - size)
        return Crop(x, y, size, size)

    def _take_hairs(self, value: tuple[int, F32]) -> None:
        self._hairs = value[1]
        self.update()

    def _shape(self) -> QPainterPath | None:
        """Return the part as far as it is seen: on the canvas, and not behind others."""
        project, step, readings = self.session.project, self.hand.step, self.session.readings
        if project is None or step is None or step.zone < 0 or readings is None or step.zone >= len(readings.zones):
            return None
        zone = readings.zones[step.zone]
        path = QPainterPath()
        path.addRect(self.view.crop_on_screen(project.crop))
        if not zone.whole:
            path &= self._outline(zone)
        for front in readings.zones[step.zone + 1 :]:
            if front.kind_of().cover and not front.whole:
                path -= self._outline(front)
        return path

    def _outline(self, zone: Zone) -> QPainterPath:
        path = QPainterPath()
        path.addPolygon(draw.polygon(self.view.to_screen(zone.shape.outline())))
        path.closeSubpath()
        return path

    def _paint_hairs(self, p: QPainter, s: paint.Scale, shape: QPainterPath) -> None:
        """Draw the way of the marks, as long as they are at the picture's scale."""
        step = self.hand.step
        if self._hairs is None or step is None:
            return
        for line in self._hairs:
            points = self.view.to_screen(line)
            if shape.contains(QPointF(float(points[0][0]), float(points[0][1]))):
                draw.stroke(p, points, s.px(4.2), s.px(1.0), "over_light", "over_dark")

    def _paint_picture(self, p: QPainter, s: paint.Scale) -> None:
        project = self.session.project
        if project is None or not self.session.levels:
            return
        room = self.view.room
        p.save()
        p.setClipRect(room)
        p.fillRect(room, colour("well"))
        level = self.session.levels[0]
        whole = Crop(0, 0, project.reference.width, project.reference.height)
        image = image_of(level)
        after = self._after() if self.held == "after" else None
        if after is not None:
            place(p, self.view, after, project.crop)
        else:
            place(p, self.view, image, whole)
        if self.held == "squint":
            self._squint(p, room)
        shape = self._shape()
        if shape is not None and not self.held:
            rest = QPainterPath()
            rest.addRect(room)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(colour("#3C3C3C", 0.45))
            p.drawPath(rest - shape)
            self._paint_hairs(p, s, shape)
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.setPen(QPen(colour("over_dark"), s.px(5)))
            p.drawPath(shape)
            p.setPen(QPen(colour("over_light"), s.px(2.4)))
            p.drawPath(shape)
        said = {"reference": "the reference", "after": "after this pass", "squint": "at a squint"}.get(self.held, "")
        if self.held == "life":
            said = "life size" if true_px_per_mm(self)[1] else "life size, if the screen tells the truth"
        if self.mirrored or self.turned:
            said = ", ".join(
                one for one in (said, "mirrored" if self.mirrored else "", "upside down" if self.turned else "") if one
            )
        if said:
            draw.over_words(p, room.left() + s.px(16), room.top() + s.px(44), said, "l", s.px(26), room)
        p.restore()
        p.setPen(QPen(colour("#1A1A1A"), 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(room)

    def _after(self) -> QImage | None:
        """Return the rehearsal after the step's pass."""
        step, rehearsal = self.hand.step, self.session.rehearsal
        close = self.hand.close.days
        if step is None or close is None or close.planned is None:
            return None
        task = close.planned.layout.problem.tasks[step.number]
        role = close.planned.layout.works[0].roles.get(task.id, "")
        number = rehearsal.number_of(role)
        if number < 0:
            return None
        shown = rehearsal.passes[number].standing.shown
        if self._painting is None or self._painting[0] is not shown:
            self._painting = (shown, image_of(shown))
        return self._painting[1]

    def _squint(self, p: QPainter, room: QRectF) -> None:
        """Blur what is shown as half-closed eyes do."""
        device = p.device()
        if not isinstance(device, QWidget):
            return
        shot = QImage(int(room.width()), int(room.height()), QImage.Format.Format_RGB32)
        with QPainter(shot) as q:
            q.translate(-room.topLeft())
            project = self.session.project
            if project is not None:
                place(
                    q,
                    self.view,
                    image_of(self.session.levels[0]),
                    Crop(0, 0, project.reference.width, project.reference.height),
                )
        smooth = Qt.TransformationMode.SmoothTransformation
        small = shot.scaledToWidth(SQUINT, smooth)
        p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        p.drawImage(room, small.scaled(shot.size(), Qt.AspectRatioMode.IgnoreAspectRatio, smooth))

    # Painting -------------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            p.fillRect(self.rect(), colour("base"))
            s = paint.scale_of(self.width(), self.height())
            page = {
                "first": self._first, "step": self._step, "end": self._end, "note": self._note, "keys": self._keys
            }[self.hand.page]  # fmt: skip
            self._taps = paint.caps(p, s, page(p, s))

    def _sitting_words(self) -> str:
        sitting, step = self.hand.close.sitting, self.hand.step
        if sitting is None:
            return ""
        day = f"{sitting.begin:%A %-d %b}"
        return f"{day} · {step.act}" if step is not None and self.hand.page == "step" else day

    def _first(self, p: QPainter, s: paint.Scale) -> list[Cap]:
        close, steps = self.hand.close, self.hand.steps
        if not steps:
            paint.page_words(p, s, "Nothing to paint", [("Take a plan at Days: its next sitting is painted here.", "")])
            return [Cap("Esc", "leave", "leave", main=True)]
        paint.head(p, s, count_words(len(steps), "step"), self._sitting_words(), 0.0)
        lines = [(one, "") for one in close.before]
        lines += [(f"{one.part}: {one.why}", f"{one.at:%-d %b}") for one in close.carried[:4]]
        parts = dict.fromkeys(f"{one.act}: {one.part}" for one in steps)
        minutes = sum(one.minutes for one in steps)
        lines += [(one, "") for one in list(parts)[: max(2, 8 - len(lines))]]
        title = "Left from last time" if close.carried else "Since then" if close.before else "Today"
        paint.page_words(p, s, f"{title} · {duration_words(minutes)}", lines)
        return [
            Cap("Space", "begin" if not self.hand.going else "go on", "next", main=True),
            Cap("H", "keys", "keys"),
            Cap("Esc", "leave", "leave"),
        ]

    def _step(self, p: QPainter, s: paint.Scale) -> list[Cap]:
        hand, step = self.hand, self.hand.step
        if step is None:
            return self._first(p, s)
        number, many = hand.index + 1, len(hand.steps)
        paint.head(p, s, f"Step {number} of {many}", self._sitting_words(), hand.index / max(1, many))
        self._paint_picture(p, s)
        timers = self._shown_timers()
        words = "A break: nothing runs but paint." if hand.resting else hand.words
        paint.step_words(p, s, step, self.px_per_mm(), timers, hand.clock.now(), words, self._under_hand())
        banner = hand.reminder_words() or hand.gate
        if banner:
            # Never over the part itself.
            shape = self._shape()
            low = shape is not None and shape.boundingRect().center().y() > self.view.room.center().y()
            paint.banner(p, s, self.view.room, banner, above=low)
        main = "seen" if hand.reminder else "ready" if hand.gate else "go on" if hand.resting else "done, next"
        return [
            Cap("Space", main, "next", main=True), Cap("D", "dark", "dark"), Cap("L", "light", "light"), Cap("P", "part", "part"),
            Cap("K", "later", "skip"), Cap("N", "note", "note"), Cap("H", "keys", "keys"), Cap("Esc", "leave", "leave"),
        ]  # fmt: skip

    def _under_hand(self) -> str:
        """Name what is wet where the hand lies."""
        project, step, readings, days = (
            self.session.project,
            self.hand.step,
            self.session.readings,
            self.hand.close.days,
        )
        if project is None or step is None or readings is None or days is None or days.planned is None:
            return ""
        places = {k: readings.tags[one.id] for k, one in enumerate(readings.zones) if one.id in readings.tags}
        names = under_hand(days.planned, project, step, places, self.hand.clock.now())
        return ", ".join(names[:3])

    def _shown_timers(self) -> list[Timer]:
        """Return two timers: the most pressing window and the step's own minutes."""
        hand, step = self.hand, self.hand.step
        now = hand.clock.now()
        running = hand.timers()
        windows = sorted((one for one in running if one.kind != "end"), key=lambda one: one.left(now))
        made = windows[:1]
        if step is not None and step.minutes > 0 and hand.going:
            spent = hand.spent()
            begin = now - timedelta(minutes=spent)
            name = f"of {duration_words(step.minutes)}"
            made.append(Timer("step", name, begin, begin + timedelta(minutes=step.minutes)))
        made += [one for one in running if one.kind == "end"]
        return made[:2]

    def _end(self, p: QPainter, s: paint.Scale) -> list[Cap]:
        left = self.hand.left_undone()
        paint.head(p, s, "The end", self._sitting_words(), 1.0)
        if not left:
            wipe = "Wipe the brushes, cover the piles, lay oily rags flat or under water in a closed tin."
            paint.page_words(p, s, "All of it is done", [(wipe, "")])
        else:
            parts = list(dict.fromkeys(f"{one.act}: {one.part}" for one in left))
            lines = [(f"{k}  {one}", "chosen" if self.hand.why == k else "") for k, one in enumerate(REASONS, 1)]
            more = f" and {len(parts) - 2} more" if len(parts) > 2 else ""
            paint.page_words(p, s, "Why is it left?", [(f"{'; '.join(parts[:2])}{more}", ""), *lines])
        return [
            Cap("Space", "end the sitting", "next", main=True),
            Cap("Bksp", "back", "back"),
            Cap("Esc", "leave", "leave"),
        ]

    def _note(self, p: QPainter, s: paint.Scale) -> list[Cap]:
        step = self.hand.step
        paint.page_words(p, s, f"Note on {step.part}" if step is not None else "Note", [], top=200)
        return [Cap("Enter", "keep it", "keep", main=True), Cap("Esc", "without", "leave")]

    def _keys(self, p: QPainter, s: paint.Scale) -> list[Cap]:
        half = (len(EVERY_KEY) + 1) // 2
        for column, some in enumerate((EVERY_KEY[:half], EVERY_KEY[half:])):
            x = s.px(MARGIN + column * 620)
            for k, (key, words) in enumerate(some):
                y = s.px(90 + 70 * k)
                draw.text(p, x, y, key, s.px(30), 700)
                size, shown = paint.fitted(words, s.px(430), s.px(28), 400, s.px(paint.LEAST))
                draw.text(p, x + s.px(170), y, shown, size, 400)
        return [Cap("Space", "go on", "next", main=True), Cap("Esc", "leave", "leave")]

    def px_per_mm(self) -> float:
        """Return the screen's pixels to a millimetre, as it says of itself."""
        return max(2.0, self.physicalDpiX() / 25.4)

    # Keys and taps --------------------------------------------------------------------------------

    def event(self, event: QEvent) -> bool:
        ours = event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent)
        if ours and isinstance(event, QKeyEvent) and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            # Keys of one hand are the easel's own while it is open.
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if key in HOLDS:
            if not event.isAutoRepeat():
                self._hold(HOLDS[key])
            return
        number = event.key() - Qt.Key.Key_1
        if self.hand.page == "end" and 0 <= number < len(REASONS):
            self.hand.choose_reason(number + 1)
            return
        action = KEYS.get(key)
        if action is None or (event.isAutoRepeat() and action == "next"):
            super().keyPressEvent(event)
            return
        self.act(action)

    def keyReleaseEvent(self, event: QKeyEvent) -> None:
        if Qt.Key(event.key()) in HOLDS and not event.isAutoRepeat():
            self._hold("")
        else:
            super().keyReleaseEvent(event)

    def _hold(self, what: str) -> None:
        """Show something as long as its key is held."""
        resized = "life" in (what, self.held)
        self.held = what
        if resized:
            self._frame()
        self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for box, action in self._taps:
            if box.contains(event.position()):
                self.act(action)
                return
        if self.hand.page == "end":
            self._tap_reason(event.position())

    def _tap_reason(self, at: QPointF) -> None:
        s = paint.scale_of(self.width(), self.height())
        row = int((at.y() - s.px(180 + 66 + 20)) // s.px(45.5))
        if self.hand.left_undone() and 0 <= row < len(REASONS):
            self.hand.choose_reason(row + 1)

    def act(self, action: str) -> None:
        """Do what a key or a tap means."""
        hand = self.hand
        if action in ("dark", "light", "warm", "cool", "jumps", "smeared"):
            hand.say(action)
        elif action in ("dry", "tacky"):
            hand.touch(action)
        elif action == "mirror":
            self.mirrored = not self.mirrored
        elif action == "turn":
            self.turned = not self.turned
        elif action == "keys":
            hand.page = "keys" if hand.page != "keys" else ("step" if hand.going else "first")
        elif action == "keep":
            self._noted()
        elif action == "leave":
            if hand.page in ("note", "keys"):
                hand.page = "step" if hand.going else "first"
            else:
                hand.leave()
                return
        else:
            {
                "next": hand.next, "back": hand.back, "skip": hand.skip, "part": hand.part, "photo": hand.photograph,
                "pause": hand.pause, "note": hand.ask_note, "undo": hand.take_back, "end": hand.show_end,
            }[action]()  # fmt: skip
        self._changed()
