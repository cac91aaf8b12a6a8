"""An answer while it is being given: the gestures of the stops, and keys."""

import math
from typing import Any

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen

from foxpath.core.practice.task import Dial, Pick, Place, Sort, Spots, Strokes, Way, hair, ring
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.practice.ground import Ground, distance

LEAST_DRAG, REACH = 10.0, 26.0
"""Screen pixels: a shorter drag says no direction; a click this near to a place means it."""
TURN_KEYS = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}


class Answering:
    """What has been said so far of one task.

    Attributes
    ----------
    value : object
        The answer as its ask takes it; None while there is none.
    done : bool
        It was given by a single gesture, and needs no "that is it".
    """

    def __init__(self, ground: Ground) -> None:
        self.ground, self.ask = ground, ground.task.ask
        self.value: Any = None
        self.done = False
        self._spots: list[Place] = []
        self._strokes: list[list[Place]] = []
        self._groups: list[int] = [-1] * len(self.ask.places) if isinstance(self.ask, Sort) else []
        self._item = 0
        self._from: Place | None = None
        self._to: Place | None = None
        if isinstance(self.ask, Dial):
            self.value = self.ask.start

    # What is asked for ----------------------------------------------------------------------------

    @property
    def ready(self) -> bool:
        """Whether there is an answer that can be scored."""
        return self.value is not None

    def words(self) -> str:
        """Say what to do next, in a sentence."""
        ask = self.ask
        if isinstance(ask, Way):
            return "Drag from the spot, root to tip. Or turn it with the arrows, then Enter."
        if isinstance(ask, Pick):
            return "Click it, or press its number." if ask.places else "Choose below, or press its number."
        if isinstance(ask, Dial):
            return "Drag the grey, or use the arrows; then Enter."
        if isinstance(ask, Sort):
            left = self._groups.count(-1)
            said = f"{left} left." if left else "Enter when it is right."
            return f"Click a spot until it says what it is, or press 1 to {len(ask.groups)}. {said}"
        if isinstance(ask, Spots):
            named = ask.names[len(self._spots)] if len(self._spots) < len(ask.names) else ""
            left = ask.count - len(self._spots)
            return (
                f"Click {'the ' + named.lower() if named else 'a place'}: {left} left."
                if left
                else "Backspace takes the last away, Enter when it is right."
            )
        return (
            f"Drag a stroke: {ask.count - len(self._strokes)} left. Backspace takes the last away."
            if isinstance(ask, Strokes)
            else ""
        )

    # By keys --------------------------------------------------------------------------------------

    def number(self, number: int) -> bool:
        """Take a number from 1."""
        if isinstance(self.ask, Pick) and 1 <= number <= len(self.ask.options):
            self.value, self.done = number - 1, True
            return True
        if isinstance(self.ask, Sort) and 1 <= number <= len(self.ask.groups):
            self._groups[self._item] = number - 1
            self._item = next(
                (k for k, g in enumerate(self._groups) if g < 0), min(self._item + 1, len(self._groups) - 1)
            )
            self._sorted()
            return True
        return False

    def turn(self, key: Qt.Key, *, fine: bool) -> bool:
        """Take an arrow key."""
        by = TURN_KEYS.get(key)
        if by is None:
            return False
        if isinstance(self.ask, Dial):
            step = self.ask.step * (1 if fine else 5)
            self.value = min(max(float(self.value) + by * step, self.ask.low), self.ask.high)
            return True
        if isinstance(self.ask, Way):
            self.value = ((self.value if self.value is not None else -90.0) + by * (1 if fine else 5) + 180) % 360 - 180
            return True
        if isinstance(self.ask, Sort):
            self._item = (self._item + by) % len(self._groups)
            return True
        return False

    def set_dial(self, value: float) -> None:
        """Set the dial."""
        if isinstance(self.ask, Dial):
            self.value = min(max(value, self.ask.low), self.ask.high)

    def take_back(self) -> bool:
        """Take back the last piece; False when there is none."""
        if self._from is not None:
            self._from = self._to = None
            return True
        if isinstance(self.ask, Spots) and self._spots:
            self._spots.pop()
            self.value = tuple(self._spots) if self._spots else None
            return True
        if isinstance(self.ask, Strokes) and self._strokes:
            self._strokes.pop()
            self.value = tuple(tuple(one) for one in self._strokes) if self._strokes else None
            return True
        return False

    @property
    def busy(self) -> bool:
        """Whether a gesture is half made."""
        return self._from is not None

    # On the picture -------------------------------------------------------------------------------

    def press(self, at: Place, view: Viewport) -> None:
        """Take a press at a place of the task."""
        ask = self.ask
        if isinstance(ask, Way | Strokes):
            if isinstance(ask, Way):
                self._from = ask.at
                self._to = at
            elif len(self._strokes) < ask.count:
                self._from = self._to = at
                self._strokes.append([at])
        elif isinstance(ask, Pick | Sort) and ask.places:
            here = self.ground.on_screen(view, at)
            off = [distance(self.ground.on_screen(view, p), here) for p in ask.places]
            k = int(np.argmin(off))
            if off[k] > max(REACH, 1.4 * ask.radius * self.ground.px(view)):
                return
            if isinstance(ask, Pick):
                self.value, self.done = k, True
            else:
                self._item = k
                self._groups[k] = (self._groups[k] + 1) % len(ask.groups)
                self._sorted()
        elif isinstance(ask, Spots):
            if len(self._spots) >= ask.count:
                self._spots.pop()
            self._spots.append(at)
            self.value = tuple(self._spots)

    def drag(self, at: Place) -> None:
        """Take a drag to a place of the task."""
        if self._from is None:
            return
        self._to = at
        if isinstance(self.ask, Strokes):
            self._strokes[-1].append(at)

    def release(self, at: Place, view: Viewport) -> None:
        """Take the end of a drag."""
        start, self._from, self._to = self._from, None, None
        if start is None:
            return
        if isinstance(self.ask, Strokes):
            self.value = tuple(tuple(one) for one in self._strokes)
            return
        a, b = self.ground.on_screen(view, start), self.ground.on_screen(view, at)
        if distance(a, b) >= LEAST_DRAG:
            self.value = math.degrees(math.atan2(at[1] - start[1], at[0] - start[0]))
            self.done = True

    def _sorted(self) -> None:
        self.value = tuple(self._groups) if -1 not in self._groups else None

    # Painting -------------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        """Draw what has been said so far, over what is asked."""
        ask, ground = self.ask, self.ground
        if isinstance(ask, Way):
            if self._from is not None and self._to is not None:
                a, b = ground.on_screen(view, self._from), ground.on_screen(view, self._to)
                draw.stroke(p, draw.along(a.x(), a.y(), b.x(), b.y(), 12), 6, 0.8, "over_light", "over_dark")
            elif self.value is not None:
                ground.paint_marks(p, view, (hair(ask.at, float(self.value), ask.radius, "you"),))
        elif isinstance(ask, Spots):
            names = ask.names or tuple(str(k) for k in range(1, ask.count + 1))
            ground.paint_marks(
                p, view, tuple(ring(at, ask.radius, "you", names[k]) for k, at in enumerate(self._spots))
            )
        elif isinstance(ask, Sort):
            marks = []
            for k, at in enumerate(ask.places):
                group = self._groups[k]
                words = f"{k + 1} {ask.groups[group]}" if group >= 0 else f"{k + 1} ?"
                marks.append(ring(at, ask.radius, "true" if k == self._item else "you", words))
            ground.paint_marks(p, view, tuple(marks))
        elif isinstance(ask, Strokes):
            wide = ask.width * ground.px(view)
            for line in self._strokes:
                path = QPainterPath(ground.on_screen(view, line[0]))
                for at in line[1:]:
                    path.lineTo(ground.on_screen(view, at))
                if len(line) == 1:
                    path.lineTo(path.currentPosition() + QPointF(0.1, 0))
                pen = QPen(
                    colour("over_light", 0.42),
                    wide,
                    Qt.PenStyle.SolidLine,
                    Qt.PenCapStyle.RoundCap,
                    Qt.PenJoinStyle.RoundJoin,
                )
                p.setPen(pen)
                p.setBrush(Qt.BrushStyle.NoBrush)
                p.drawPath(path)
                draw.cased_path(p, path, 1.0)
