"""Acts on the chosen part's outline: join, take off, cut in two, smooth, grow, shrink."""

from collections.abc import Callable

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.curves import simplify
from foxpath.core.units import mm_words
from foxpath.document import edits
from foxpath.document.model import Project, Zone
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.rows import Section
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.work.session import Session

Point = tuple[float, float]
STEP = 0.005
"""By how much one press grows or shrinks a part, as a share of the canvas's longer side."""


class ShapeActs(QWidget):
    """The buttons, and an act that waits for a click or a stroke on the picture.

    Parameters
    ----------
    session : Session
    reach : callable
        Screen pixels to reference pixels.
    """

    begun = Signal()
    """An act is about to begin or to end: other half-made gestures are dropped."""
    changed = Signal()

    def __init__(self, session: Session, reach: Callable[[float], float]) -> None:
        super().__init__()
        self.session, self.reach = session, reach
        self.waiting = ""
        """Key of the act that waits; empty for none."""
        self._line: list[Point] = []
        self.head = Section("Change its shape", "")
        self.acts = Buttons(
            [
                ("join", "Join another …"),
                ("off", "Take off …"),
                ("cut", "Cut in two"),
                ("smooth", "Smooth"),
                ("grow", "Grow"),
                ("shrink", "Shrink"),
            ],
            2,
        )
        self.acts.clicked.connect(self._act)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        layout.addWidget(self.head)
        layout.addWidget(self.acts)

    def __bool__(self) -> bool:
        return bool(self.waiting)

    def show_zone(self, zone: Zone | None) -> None:
        """Show what can be done to a part; nothing without an outline."""
        self.setVisible(zone is not None and not zone.whole)
        self.head.set_words("Change its shape", f"by {mm_words(self._step_mm())}")

    def words(self) -> tuple[str, str]:
        """Say what the act that was begun waits for."""
        zone = self._zone()
        name = zone.name.lower() if zone is not None else "it"
        return {
            "join": (f"Join to {name}", "Click the part that belongs to it. Esc drops it."),
            "off": (f"Take off {name}", "Click the part that lies on it. Esc drops it."),
            "cut": (f"Cut {name} in two", "Drag a line from border to border. Esc drops it."),
        }[self.waiting]

    def drop(self) -> None:
        """Drop the act that waits."""
        self.waiting, self._line = "", []

    def press(self, at: Point) -> None:
        """Begin a cut."""
        self._line = [at] if self.waiting == "cut" else []

    def drag(self, at: Point) -> None:
        """Go on with the cut."""
        if self._line:
            self._line.append(at)

    def release(self, under: Zone | None) -> None:
        """End the cut, or take the part that was clicked."""
        line, self._line = np.array(self._line).reshape(-1, 2), []
        zone = self._zone()
        if zone is None:
            return
        if self.waiting != "cut":
            if under is not None and under.id != zone.id:
                self._with(zone, under)
        elif len(line) > 1 and np.ptp(line, axis=0).max() > self.reach(5):
            self._cut(zone, simplify(line, self.reach(1.5)))
        self.changed.emit()

    def paint(self, p: QPainter, view: Viewport) -> None:
        """Draw the cut."""
        if len(self._line) > 1:
            draw.cased_path(p, draw.polygon(view.to_screen(np.array(self._line))), 2.4, "russet")

    # What is done ---------------------------------------------------------------------------------

    def _zone(self) -> Zone | None:
        project = self.session.project
        return project.zone(self.session.chosen["zone"]) if project is not None else None

    def _step_mm(self) -> float:
        project = self.session.project
        return STEP * max(project.canvas.width_mm, project.canvas.height_mm) if project is not None else 0.0

    def _act(self, key: str) -> None:
        zone = self._zone()
        if zone is None:
            return
        name = zone.name.lower()
        if key in ("join", "off", "cut"):
            again = self.waiting == key
            self.begun.emit()
            self.waiting = "" if again else key
            self.changed.emit()
        elif key == "smooth":
            self.session.edit(lambda p: edits.smooth_zone(p, zone.id), f"smooth {name}")
        else:
            step = self._step_mm() * (1 if key == "grow" else -1)
            self.session.edit(lambda p: edits.grow_zone(p, zone.id, step), f"{key} {name}")

    def _with(self, zone: Zone, other: Zone) -> None:
        name, its = zone.name.lower(), other.name.lower()
        if self.waiting == "join":
            self.session.edit(lambda p: edits.merge_zones(p, zone.id, other.id), f"join {its} to {name}")
        else:
            self.session.edit(lambda p: edits.subtract_zone(p, zone.id, other.id), f"take {its} off {name}")
        self.waiting = ""
        self.session.choose(zone=zone.id)

    def _cut(self, zone: Zone, line: np.ndarray) -> None:
        made = ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.split_zone(before, zone.id, line)
            return after

        if self.session.edit(change, f"cut {zone.name.lower()} in two"):
            self.waiting = ""
            self.session.choose(zone=made)
