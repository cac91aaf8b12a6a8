"""Outlining with the picture's help: between two clicks the line follows the edge."""

from PySide6.QtCore import QObject, Signal

from foxpath.core.arrays import Points
from foxpath.core.zones import Tracer
from foxpath.derive.zones.outlining import FindEdges
from foxpath.window.work.session import Session

Point = tuple[float, float]


class Tracing(QObject):
    """The pieces of an outline that is being traced, click by click."""

    changed = Signal()

    def __init__(self, session: Session, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.session = session
        self.pieces: list[list[Point]] = []
        """Points that came with each click."""
        self._tracer: Tracer | None = None
        self._wanted: Point | None = None
        self.room = 400.0

    def __bool__(self) -> bool:
        return bool(self.pieces)

    @property
    def points(self) -> list[Point]:
        """All points so far."""
        return [point for piece in self.pieces for point in piece]

    @property
    def last(self) -> Point | None:
        """The click before."""
        return self.pieces[-1][-1] if self.pieces else None

    def click(self, at: Point) -> None:
        """Go on to a place, along the edge as far as it is known by now."""
        self.pieces.append([at] if not self.pieces else [*self._way(at)])
        self._prepare()
        self.changed.emit()

    def way_to(self, at: Point) -> Points | None:
        """Return the line the next click would add; None while the edges are still being read."""
        if self._tracer is None or self._tracer.start != self.last:
            return None
        return self._tracer.path(at)

    def _way(self, at: Point) -> list[Point]:
        if self._tracer is None or self._tracer.start != self.last:
            return [at]
        return [(float(x), float(y)) for x, y in self._tracer.points(at)]

    def close(self) -> list[Point]:
        """Return the whole outline, traced back to its first point; nothing is left behind."""
        points = self.points
        if len(self.pieces) > 1:
            points = points + self._way(points[0])[:-1]
        self.drop()
        return points

    def take_back(self) -> None:
        """Drop the piece of the last click."""
        self.pieces = self.pieces[:-1]
        self._prepare()
        self.changed.emit()

    def drop(self) -> None:
        """Drop everything."""
        self.session.runner.cancel("trace")
        self.pieces, self._tracer, self._wanted = [], None, None

    def _prepare(self) -> None:
        project = self.session.project
        self._tracer, self._wanted = None, self.last
        if project is not None and self._wanted is not None:
            request = FindEdges(self.session.results, project, self._wanted, self.room)
            self.session.runner.start("trace", request, self._take)

    def _take(self, tracer: Tracer) -> None:
        if tracer.start == self._wanted:
            self._tracer = tracer
            self.changed.emit()
