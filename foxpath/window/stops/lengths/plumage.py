"""Feathers on the bench and on the picture: tracts, fans, how many are worth painting."""

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen
from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.feathers import TRACT_RANGES, Feathers, gaps, outline_of, tract_of
from foxpath.core.units import count_words, percent
from foxpath.derive.lengths.feathers import feather_words
from foxpath.derive.subjects import LENGTHS
from foxpath.document import edits
from foxpath.document.model import Fan, Project, Zone
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Measure, Scale
from foxpath.window.bench.rows import Row as ListRow
from foxpath.window.bench.rows import Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport
from foxpath.window.work.session import Session

SCALES = {
    "overlap": ("Overlap", Scale(*TRACT_RANGES["overlap"], percent, step=0.01)),
    "stagger": ("Stagger", Scale(*TRACT_RANGES["stagger"], percent, step=0.01)),
    "broad": ("Breadth", Scale(*TRACT_RANGES["broad"], percent, step=0.01)),
    "barb_deg": ("Barbs at", Scale(*TRACT_RANGES["barb_deg"], lambda v: f"{v:.0f}°", step=1)),
}
FEWEST_PX = 5.0
"""Feathers narrower than this on the screen are not drawn one by one."""


class Plumage(QWidget):
    """How the chosen zone's feathers are laid; its fans of flight feathers."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.drawing: list[np.ndarray] | None = None
        """Shafts drawn so far of a new fan; None when none is being drawn."""
        self.head = Section("Feathers", "rows along the growth")
        self.count = Words("", 13, "text")
        self.measures: dict[str, Measure] = {}
        for name, (words, scale) in SCALES.items():
            measure = Measure(words, scale)
            measure.setObjectName(name)
            measure.changed.connect(self._decide)
            measure.reset.connect(self._give_back)
            self.measures[name] = measure
        self.fans = Rows("fans of flight feathers")
        self.fans.chosen.connect(self._choose)
        self.number = Measure("Feathers", Scale(2, 40, lambda v: f"{v:.0f}", step=1))
        self.number.changed.connect(self._set_count)
        self.acts = Buttons([("draw", "Draw a fan"), ("drop", "Remove this fan")], 2)
        self.acts.clicked.connect(self._act)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        for part in (self.head, self.count, *self.measures.values(), self.fans, self.number, self.acts):
            layout.addWidget(part)
        self._zone: Zone | None = None
        self._fan = ""

    def show_zone(self, project: Project, zone: Zone | None) -> None:
        """Show the feathers of a zone; nothing where it has none."""
        self._zone = zone
        laid = zone is not None and zone.kind_of().feathers
        flies = zone is not None and zone.kind == "flight-feather"
        self.setVisible(laid or flies)
        if zone is None or not (laid or flies):
            self.drawing = None
            return
        readings = self.session.readings
        feathers = readings.close(LENGTHS).feathers.get(zone.id) if readings is not None else None
        self.count.set_words(
            f"{feather_words(zone, feathers.count, int(feathers.leading.sum()))}." if feathers is not None else ""
        )
        self.count.setVisible(feathers is not None)
        usual, tract = tract_of(zone.kind, type(zone.tract)()), tract_of(zone.kind, zone.tract)
        for name, measure in self.measures.items():
            measure.setVisible(laid)
            decided = getattr(zone.tract, name) is not None
            measure.set_value(getattr(tract, name), getattr(usual, name), decided=decided)
        fans = [f for f in project.fans if f.zone == zone.id]
        current = self._current(fans)
        self.fans.setVisible(bool(fans))
        self.fans.set_rows(
            [ListRow(f.id, f"Fan {k}", "", count_words(f.count, "feather")) for k, f in enumerate(fans, 1)],
            current.id if current else "",
        )
        self.number.setVisible(current is not None)
        if current is not None:
            self.number.set_value(float(current.count))
        self.acts.setVisible(flies)
        self.acts.show_only({"draw", *(("drop",) if current else ())})
        self.head.set_words("Feathers", "first, last and count" if flies else "rows along the growth")

    def _current(self, fans: list[Fan]) -> Fan | None:
        found = next((f for f in fans if f.id == self._fan), fans[-1] if fans else None)
        self._fan = found.id if found else ""
        return found

    def _decide(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        name, zone = self.sender().objectName(), self.session.chosen["zone"]
        self.session.edit(lambda p: edits.set_tract(p, zone, **{name: value}), "lay feathers", f"{name} {zone}")
        if not going:
            self.session.seal()

    def _give_back(self) -> None:
        name, zone = self.sender().objectName(), self.session.chosen["zone"]
        self.session.edit(lambda p: edits.set_tract(p, zone, **{name: None}), "feathers back to the default")

    def _choose(self, key: str) -> None:
        self._fan = key
        project = self.session.project
        if project is not None:
            self.show_zone(project, self._zone)

    def _set_count(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        fan = self._fan
        self.session.edit(lambda p: edits.set_fan_count(p, fan, round(value)), "feathers of a fan", f"fan {fan}")
        if not going:
            self.session.seal()

    def _act(self, key: str) -> None:
        if key == "drop":
            fan = self._fan
            self.session.edit(lambda p: edits.remove_fan(p, fan), "remove a fan")
        else:
            self.drawing = []
            self.session.said.emit("Draw the shaft of the first feather, root to tip; then that of the last.", "note")

    def take(self, stroke: np.ndarray) -> None:
        """Take the shaft of the first feather, then of the last: the fan stands."""
        if self.drawing is None or self._zone is None:
            return
        self.drawing.append(stroke)
        if len(self.drawing) < 2:
            self.session.said.emit("Now the shaft of the last feather.", "note")
            return
        (first, last), self.drawing, zone = self.drawing, None, self._zone.id
        made = ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.add_fan(before, zone, first, last, 9)
            return after

        if self.session.edit(change, "draw a fan"):
            self._fan = made


def paint_feathers(p: QPainter, view: Viewport, feathers: Feathers, *, on: bool) -> None:
    """Draw feathers at true scale: the chosen part's leading ones with outline, shaft and gap, the others by a line."""
    if not len(feathers):
        return
    step = np.diff(feathers.shaft, axis=1)
    long = np.hypot(step[..., 0], step[..., 1]).sum(axis=1)
    wide = feathers.width_mm * long / np.maximum(feathers.length_mm, 1e-6) * view.scale
    room = view.room.adjusted(-60, -60, 60, 60)
    x, y = view.to_screen(feathers.shaft[:, 4].astype(np.float64)).T
    seen = (x > room.left()) & (x < room.right()) & (y > room.top()) & (y < room.bottom())
    shown = feathers.leading & (wide >= FEWEST_PX) & seen
    if not on:
        # Of other parts only the edges' lines: the animal stays in sight.
        lines = gaps(feathers.pick((wide >= FEWEST_PX) & seen))
        p.setPen(QPen(colour("over_light", 0.5), 0.9))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(_lines(view, lines))
        return
    lead, hint = feathers.pick(shown), feathers.pick(seen & ~shown)
    if len(lead):
        p.setPen(QPen(colour("over_dark"), max(1.0, 0.12 * float(np.median(wide[shown])))))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawPath(_lines(view, gaps(lead)))
        p.setPen(QPen(colour("russet"), 1.4))
        # One by one: the union of many outlines that overlap takes the painter far longer.
        for outline in _on_screen(view, outline_of(lead, 8)):
            p.drawPolygon(draw.polygon(outline))
    for tone, width in (("over_dark", 2.2), ("over_light", 0.9)):
        p.setPen(QPen(colour(tone), width))
        for line in _on_screen(view, np.concatenate([lead.shaft[:, ::2], hint.shaft[:, 3:7]])):
            p.drawPolyline(draw.polygon(line))


def _on_screen(view: Viewport, lines: np.ndarray) -> np.ndarray:
    """Return many lines (N, K, 2) of reference pixels on the screen."""
    return view.to_screen(lines.reshape(-1, 2).astype(np.float64)).reshape(lines.shape)


def _lines(view: Viewport, lines: np.ndarray) -> QPainterPath:
    """Return many lines (N, K, 2) of reference pixels as one path on the screen."""
    path = QPainterPath()
    for line in _on_screen(view, lines):
        path.addPolygon(draw.polygon(line))
    return path
