"""Scribbling a part out of the picture: strokes inside and beyond, and the outline found between them."""

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QObject, Signal
from PySide6.QtGui import QPainter

from foxpath.core.curves import closed_curve, line_length, resample, simplify
from foxpath.core.zones import Cut
from foxpath.derive.zones.outlining import CutPart
from foxpath.document.model import Pairs, pairs
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.work.session import Session

Point = tuple[float, float]
ASKED_R = 15.0
"""Radius of the ring about what is most in doubt, px of the screen."""


class Scribble(QObject):
    """The strokes of one part, and the cut they give; found anew after every stroke."""

    changed = Signal()

    def __init__(self, session: Session, reach: Callable[[float], float], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.reach = reach
        self.strokes: list[tuple[bool, Pairs]] = []
        """Whether it marks the inside, and its points, in the order they were made."""
        self.cut: Cut | None = None
        self.failure = ""
        self.mended = ""
        """Id of the zone that is being mended; empty for a new one."""
        self._settled: Pairs = ()
        self._line: list[Point] = []
        self._within = True

    def __bool__(self) -> bool:
        return bool(self.strokes or self._line or self.cut)

    @property
    def finding(self) -> bool:
        """Whether the border is being looked for."""
        return self.session.runner.running("cut")

    def press(self, at: Point, *, within: bool) -> None:
        """Begin a stroke."""
        self._line, self._within = [at], within

    def drag(self, at: Point) -> None:
        """Go on with the stroke."""
        if self._line:
            self._line.append(at)

    def release(self, *, dot: bool = False) -> bool:
        """End the stroke; returns False when it was only a click and no `dot` is meant."""
        line, self._line = np.array(self._line, np.float64).reshape(-1, 2), []
        clicked = len(line) < 2 or np.ptp(line, axis=0).max() < self.reach(4)
        if not len(line) or (clicked and not dot):
            return False
        self.strokes.append((self._within, pairs(line[:1] if clicked else simplify(line, self.reach(1.0)))))
        self._find()
        return True

    def take_back(self) -> None:
        """Drop the last stroke; without one, what the border settled to."""
        had, self.strokes = bool(self.strokes), self.strokes[:-1]
        if self.strokes or (had and self._settled):
            self._find()
        else:
            self.drop()
            self.changed.emit()

    def drop(self) -> None:
        """Drop everything."""
        self.session.runner.cancel("cut")
        self.strokes, self.cut, self.failure, self.mended, self._line = [], None, "", "", []
        self._settled = ()

    def settle(self, zone: str) -> None:
        """Let the whole border of a zone settle on the picture's."""
        self.drop()
        self.mended = zone
        self._find()

    def _find(self) -> None:
        project = self.session.project
        within, beyond = (tuple(line for kind, line in self.strokes if kind == side) for side in (True, False))
        self.failure = ""
        zone = project.zone(self.mended) if project is not None else None
        if self.mended and zone is None:
            # It has been taken away meanwhile: there is nothing left to mend.
            self.drop()
        elif project is None or not (within or zone):
            self.session.runner.cancel("cut")
            self.cut = None
        else:
            # Strokes after the whole border has settled mend what it settled to.
            mended = (self._settled or zone.points) if zone else ()
            request = CutPart(self.session.results, project, within, beyond, mended)
            self.session.runner.start("cut", request, self._take, failed=self._fail)
        self.changed.emit()

    def _take(self, cut: Cut) -> None:
        self.cut = cut
        if not self.strokes:
            self._settled = pairs(cut.points)
        self.changed.emit()

    def _fail(self, words: str) -> None:
        self.cut, self.failure = None, words
        self.changed.emit()

    def paint(self, p: QPainter, view: Viewport) -> None:
        """Draw the strokes, and the outline: firm where the picture shows the border, dotted where it is guessed."""
        lines = [*self.strokes, (self._within, tuple(self._line))] if self._line else self.strokes
        for within, line in lines:
            if len(line) == 1:
                x, y = view.to_screen(np.array(line))[0]
                draw.circle(
                    p, x, y, 3.4, "over_light" if within else "over_dark", "over_dark" if within else "over_light", 1.2
                )
            else:
                path = draw.polygon(view.to_screen(np.array(line)))
                draw.cased_path(p, path, 4.2, "over_light")
                if not within:
                    draw.cased_path(p, path, 0.9, "over_dark")
        if self.cut is None:
            return
        per_span = 12
        curve = view.to_screen(closed_curve(self.cut.points, per_span))
        curve = np.vstack([curve, curve[:1]])
        known = np.repeat(self.cut.shown | np.roll(self.cut.shown, -1), per_span)
        turns = np.flatnonzero(np.diff(known.astype(np.int8))) + 1
        for part in np.split(np.arange(len(known)), turns):
            piece = curve[part[0] : part[-1] + 2]
            if known[part[0]]:
                draw.cased_path(p, draw.polygon(piece), 2.2, "russet")
            else:
                for x, y in resample(piece, 1 + round(line_length(piece) / 6)):
                    draw.circle(p, x, y, 1.9, "russet", "over_light", 0.8)
        if self.cut.asks is not None and not self._line:
            # A ring as wide as a short stroke: what is in it stays seen.
            x, y = view.to_screen(np.array([self.cut.asks]))[0]
            draw.circle(p, x, y, ASKED_R, "", "over_dark", 4.6)
            draw.circle(p, x, y, ASKED_R, "", "over_light", 2.4)
            draw.over_words(p, x + ASKED_R + 12, y + 5, "part of it?")
