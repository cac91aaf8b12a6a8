"""What was found in the growth: crowns, gatherings, loops and deltas, on the bench of Growth; a crown can be kept."""

import numpy as np
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.growth import Singular, where_words
from foxpath.derive.subjects import GROWTH
from foxpath.document import edits
from foxpath.document.model import Project, Zone, as_array
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Button
from foxpath.window.bench.rows import Row, Rows, Section
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.growth.marks import paint_singular
from foxpath.window.stops.on_picture import Picture
from foxpath.window.work.session import Session


class FoundPanel(QWidget):
    """A list of what was found; choosing one flies there."""

    def __init__(self, session: Session, picture: Picture) -> None:
        super().__init__()
        self.session, self.picture = session, picture
        self._found = ""
        self._alike: dict[tuple[str, str, str], list[str]] = {}
        self.head = Section("Found in the growth", "")
        self.rows = Rows("crowns, loops and deltas")
        self.rows.chosen.connect(self._choose)
        self.keep = Button("Keep it as a crown")
        self.keep.clicked.connect(self._keep_crown)
        stack(self, self.head, self.rows, self.keep)

    def singular(self) -> dict[str, tuple[Zone, Singular]]:
        """Return what was found, by a key, without crowns that are kept already."""
        readings, project = self.session.readings, self.session.project
        if readings is None or project is None:
            return {}
        crowns = [m for m in project.marks if m.kind == "crown"]
        found = {}
        for zone in readings.zones:
            reading = readings.of(GROWTH).fields.get(zone.id)
            for k, one in enumerate(reading.singular if reading else ()):
                kept = any(np.hypot(m.points[0][0] - one.at[0], m.points[0][1] - one.at[1]) < m.radius for m in crowns)
                if not kept:
                    found[f"{zone.id} {k}"] = (zone, one)
        return found

    def refresh(self, project: Project) -> None:
        """Show what is found and not kept yet."""
        found = self.singular()
        eyes = [
            (float(x), float(y))
            for x, y in (as_array(z.points).mean(axis=0) for z in project.zones if z.kind == "eye" and not z.whole)
        ]
        self.head.setVisible(bool(found))
        self.rows.setVisible(bool(found))
        names = {zone.name for zone, _ in found.values()}
        # Where one part only has any, it is named once.
        alone = f" · {next(iter(names)).lower()}" if len(names) == 1 else ""
        self.head.set_words("Found in the growth", f"{len(found)}{alone}")
        if self._found not in found:
            self._found = ""
        # What is the same in the same place is one row; choosing it again shows the next.
        self._alike = {}
        for key, (zone, one) in found.items():
            name = "" if alone else zone.name
            where = where_words(one.at, eyes, name, zone.shape.outline())
            self._alike.setdefault((zone.id, one.short(), where), []).append(key)
        rows = [
            Row(keys[0], words, f"{len(keys)} ×" if len(keys) > 1 else "", where)
            for (_, words, where), keys in self._alike.items()
        ]
        chosen = next((keys[0] for keys in self._alike.values() if self._found in keys), "")
        self.rows.set_rows(rows, chosen)
        self.keep.setVisible(bool(self._found) and found[self._found][1].crown)

    def _choose(self, key: str) -> None:
        keys = next((keys for keys in self._alike.values() if key in keys), [key])
        self._found = keys[(keys.index(self._found) + 1) % len(keys)] if self._found in keys else key
        found = self.singular()
        if key in found:
            self.picture.fly_to(found[key][1].at, 220)
        if self.session.project is not None:
            self.refresh(self.session.project)

    def _keep_crown(self) -> None:
        project, found = self.session.project, self.singular()
        if project is None or self._found not in found:
            return
        zone, one = found[self._found]
        rim = (one.at[0] + 0.035 * project.crop.width, one.at[1])
        points = np.array([one.at, rim])
        self.session.edit(lambda p: edits.add_mark(p, "crown", zone.id, points, one.turn_deg)[0], "keep a crown")

    def paint(self, p: QPainter, view: Viewport) -> None:
        """Mark what was found; the chosen one is named."""
        for key, (_, one) in self.singular().items():
            paint_singular(p, view, one, one.words() if key == self._found else "")
