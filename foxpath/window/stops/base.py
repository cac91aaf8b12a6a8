"""What every stop has in common."""

from collections.abc import Hashable

from PySide6.QtCore import QObject, QRectF, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.findings import Finding
from foxpath.derive.frames import map_frame
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Pairs, Zone
from foxpath.window.bench.rows import FindingRow, Section
from foxpath.window.look import draw
from foxpath.window.picture.rulers import square_name
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops import STOPS, next_of
from foxpath.window.stops.on_picture import OnPicture, Picture, Point
from foxpath.window.work.session import Session


class Stop(OnPicture):
    """A stop of the trail.

    Class attributes
    ----------------
    code, title : str
    growth_gap : float
        Space between the growth's hairs on the screen; 0 shows none.
    growth_streams : bool
        Long lines in place of hairs.
    shows_whole : bool
        The whole reference, not only the crop.
    shows_painting : bool
        The rehearsal in place of the reference.
    reads_painting : bool
        Its bench says something of the finished rehearsal.
    plays : bool
        The foot plays the open pass.
    ruled : bool
        The canvas's rulers lie at the picture's rim.
    steps_back : bool
        The picture lies small in the lower right corner, without rulers; the rest of its room is the stop's own (`paint_ground`).
    """

    code = ""
    title = ""
    growth_gap = 0.0
    growth_strength = 1.0
    growth_streams = False
    shows_doubt = False
    shows_whole = False
    shows_painting = False
    reads_painting = False
    plays = False
    steps_back = False
    ruled = True
    cursor = Qt.CursorShape.CrossCursor

    go_to = Signal(str)
    """Open another stop."""
    restated = Signal()
    """What the stop says of itself has changed, without an edit."""

    def __init__(self, session: Session, picture: Picture, parent: QObject | None = None) -> None:
        super().__init__(session, picture, parent)
        self.panel = self.make_panel()

    # The bench ------------------------------------------------------------------------------------

    def go_on(self) -> None:
        """Go on to the stop that comes next."""
        self.go_to.emit(next_of(self.code))

    def next_words(self) -> str:
        """Say which stop comes next, as in "Next: edges."."""
        key = next_of(self.code)
        return f"Next: {next(one.title for one in STOPS if one.key == key).lower()}."

    def make_panel(self) -> QWidget:
        """Build the panel shown in the bench."""
        raise NotImplementedError

    def refresh(self) -> None:
        """Bring the panel up to date with the session."""

    def reading(self) -> str:
        """Return the stop's line in the trail, short."""
        return ""

    def state(self) -> draw.State:
        """Return how far the stop is."""
        return "no"

    def open_role(self) -> str:
        """Return the role of the pass this stop has open, empty for none."""
        return ""

    def own_picture(self, compare: str) -> Rgb8 | None:
        """Return a picture of the whole canvas that is shown in place of the rehearsal; None for the rehearsal.

        `compare` is what a held key asks for: "before", "reference" or "earlier"; empty for none.
        """
        return None

    def resting_combs(self) -> tuple[Pairs, ...]:
        """Return the combs that are drawn with the growth."""
        return ()

    # The picture ----------------------------------------------------------------------------------

    def still_key(self) -> Hashable:
        """Return what the still part of the overlay follows from besides the view; None when there is none."""
        return None

    def paint_still(self, p: QPainter, view: Viewport) -> None:
        """Draw what stays as it is while the pointer moves; it is kept as a picture, and lies under `paint`."""

    def paint_ground(self, p: QPainter, room: QRectF) -> None:
        """Draw what lies in the picture's room where the picture steps back."""

    def wheel(self, notches: float) -> None:
        """Take a turn of the wheel over that room; upwards is positive."""

    def show_zone(self, zone_id: str) -> None:
        """Fly to where a zone matters to this stop."""
        readings = self.session.readings
        if readings is not None and zone_id in readings.tags:
            self.picture.fly_to(readings.tags[zone_id], 240)

    # Shared pieces --------------------------------------------------------------------------------

    def zone_at(self, at: Point) -> Zone | None:
        """Return the front-most covering zone under a reference pixel."""
        project, readings = self.session.project, self.session.readings
        if project is None or readings is None:
            return None
        frame = map_frame(readings.project)
        labels = labels_of(self.session.results, readings.project, frame)
        j = int((at[0] - frame.crop.x) / frame.cell_px)
        i = int((at[1] - frame.crop.y) / frame.cell_px)
        if not (0 <= i < frame.rows and 0 <= j < frame.columns) or labels[i, j] < 0:
            return None
        return project.zone(readings.zones[labels[i, j]].id)

    def words_at(self, at: Point) -> str:
        """Say what lies under the pointer, for the foot."""
        project = self.session.project
        if project is None:
            return ""
        parts = [square_name(project, *at)]
        zone = self.zone_at(at)
        if zone is not None:
            parts += [zone.name.lower(), *self.zone_words(zone, at)]
        return " · ".join(part for part in parts if part)

    def zone_words(self, zone: Zone, at: Point) -> list[str]:
        """Say what this stop knows of a zone at a place."""
        return [zone.kind_of().name]

    def paint_tags(self, p: QPainter, view: Viewport, chosen: tuple[str, ...]) -> None:
        """Draw every zone's number; those of eyes, nose and other small parts stand off on a short lead."""
        readings = self.session.readings
        if readings is None:
            return
        rooms = {z.id: f.inscribed_mm for z, f in zip(readings.zones, readings.facts, strict=True)}
        for key, at in readings.tags.items():
            if key not in readings.numbers:
                continue
            place = view.at(at)
            x, y = place.x(), place.y()
            if rooms[key] / readings.project.mm_per_px * view.scale < 46:
                side = -1.0 if view.at(readings.project.focal_point).x() > x else 1.0
                line = draw.along(x + 24 * side, y - 26, x + 9 * side, y - 10, 6)
                draw.stroke(p, line, 2.6, 0.8, "over_light", "over_dark")
                x, y = x + 24 * side, y - 26
            draw.tag(p, x, y, str(readings.numbers[key]), chosen=key in chosen)


class FindingList(QWidget):
    """The findings of one stop under their section head; nothing when there are none."""

    asked = Signal(str, object)

    def __init__(self, where: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.where = where
        self._layout = QVBoxLayout(self)
        self._layout.setContentsMargins(0, 0, 0, 0)
        self._layout.setSpacing(0)
        self.head = Section("Findings")
        self._layout.addWidget(self.head)
        self._rows: list[FindingRow] = []
        self._shown: list[Finding] | None = None

    def set_findings(self, findings: list[Finding], actions: list[tuple[str, str]]) -> None:
        """Show the findings of this stop, at most three, worst first."""
        mine = [one for one in findings if one.where == self.where]
        if mine == self._shown:
            return
        self._shown = mine
        for row in self._rows:
            self._layout.removeWidget(row)
            row.hide()
            row.deleteLater()
        self._rows = []
        self.setVisible(bool(mine))
        self.head.set_words("Findings", str(len(mine)) if len(mine) <= 3 else f"3 of {len(mine)}")
        for one in mine[:3]:
            row = FindingRow(one, actions)
            row.asked.connect(self.asked)
            self._layout.addWidget(row)
            self._rows.append(row)
