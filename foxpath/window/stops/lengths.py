"""Stop 5, Lengths: how long and how wide the marks are, zone by zone, in millimetres on the canvas."""

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.curves import arc_length, resample, simplify
from foxpath.core.units import mm_words
from foxpath.core.zones import Coat
from foxpath.document import edits
from foxpath.document.model import Zone, as_array
from foxpath.window import draw
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button
from foxpath.window.bench.rows import Gestures, NextStep, Row, Rows, Section
from foxpath.window.picture.glass import true_px_per_mm
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import Point, Stop
from foxpath.window.stops.coat import SCALES, CoatMeasures


class LifeSize(QWidget):
    """One mark of the chosen zone at the size it will have on the canvas."""

    def __init__(self) -> None:
        super().__init__()
        self.coat: Coat | None = None
        self.setFixedHeight(44)

    def show_coat(self, coat: Coat) -> None:
        """Show this coat's mark."""
        self.coat = coat
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw.text(p, 6, 26, "Life size", 13, 400, "quiet")
            if self.coat is None:
                return
            px_per_mm, _ = true_px_per_mm(self)
            room = self.width() - 84
            length = min(self.coat.length_mm * px_per_mm, room)
            t = np.linspace(0, 1, 20)
            line = np.stack([76 + length * t, 24 - 5 * np.sin(t * 2.4) * min(1, length / 60)], axis=1)
            draw.stroke(p, line, max(0.8, self.coat.width_mm * px_per_mm), 0.5, "text")
            if self.coat.length_mm * px_per_mm > room:
                draw.text(p, self.width() - 6, 42, "longer than the bench", 12, 400, "quiet", "r")


class LengthsStop(Stop):
    """Drag along a hair to measure it; the zone takes its length."""

    code, title = "lengths", "Lengths"
    growth_gap = 20.0
    growth_strength = 0.95

    def make_panel(self) -> QWidget:
        self.stroke: list[Point] = []
        self.next = NextStep("hair")
        self.next.asked.connect(self._next)
        self.list = Rows("marks, zone by zone")
        self.list.chosen.connect(self._choose)
        self.zone_head = Section("")
        self.coat = CoatMeasures(self.session, tuple(SCALES))
        self.measures = self.coat.measures
        self.life = LifeSize()
        self.back = Button("Back to the default coat")
        self.back.clicked.connect(self._back)
        return panel(
            self.next,
            self.zone_head,
            self.coat,
            self.life,
            self.back,
            Section("Marks by zone", "length × width"),
            self.list,
            Section("Say it with a stroke", "on the picture"),
            Gestures([("hair", "a hair", "along it, root to tip"), ("hair", "a zone", "click it")]),
        )

    def _zone(self) -> Zone | None:
        project = self.session.project
        return project.zone(self.session.chosen.zone) if project else None

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        zones = list(reversed(project.back_to_front()))
        zone = self._zone()
        rows = []
        for one in zones:
            coat = one.coat_on(project.canvas)
            state = "measured" if one.measured else "decided" if one.coat.length_mm is not None else "default"
            rows.append(Row(one.id, one.name, state, f"{mm_words(coat.length_mm)} × {mm_words(coat.width_mm)}"))
        self.list.set_rows(rows, zone.id if zone else "")
        for part in (self.zone_head, self.life):
            part.setVisible(zone is not None)
        self.coat.show_zone(project, zone)
        self.back.setVisible(zone is not None and zone.coat != type(zone.coat)())
        if zone is not None:
            self.zone_head.set_words(zone.name, f"{zone.kind_of().name} · plan")
            self.life.show_coat(zone.coat_on(project.canvas))
        waiting = self._unmeasured()
        if waiting is None:
            self.next.set_words("The lengths stand", "Passes come next.", "Go on")
        else:
            length = mm_words(waiting.coat_on(project.canvas).length_mm)
            self.next.set_words(f"Measure the {waiting.name.lower()}", f"{length}, still the default", "Show me")

    def _unmeasured(self) -> Zone | None:
        """Return the largest zone of hair whose length is still the default."""
        readings, project = self.session.readings, self.session.project
        if readings is None or project is None:
            return None
        areas = {z.id: f.area_cm2 for z, f in zip(readings.zones, readings.facts, strict=True)}
        open_ = [z for z in project.zones if z.kind_of().hair and z.coat.length_mm is None and areas.get(z.id, 0) > 8]
        return max(open_, key=lambda z: areas.get(z.id, 0.0), default=None)

    def reading(self) -> str:
        project = self.session.project
        if project is None:
            return ""
        lengths = [z.coat_on(project.canvas).length_mm for z in project.zones if z.kind_of().hair]
        if not lengths:
            return "no hair yet"
        decided = sum(z.coat.length_mm is not None for z in project.zones)
        return f"{min(lengths):.0f} to {max(lengths):.0f} mm · {decided} set"

    def state(self) -> draw.State:
        project = self.session.project
        hairy = [z for z in project.zones if z.kind_of().hair] if project else []
        if not hairy:
            return "no"
        return "ready" if self._unmeasured() is None else "begun"

    def _next(self) -> None:
        waiting = self._unmeasured()
        if waiting is None:
            self.go_to.emit("passes")
        else:
            self.session.choose(zone=waiting.id)
            self.show_zone(waiting.id)

    def _choose(self, zone_id: str) -> None:
        self.session.choose(zone=zone_id)

    def _back(self) -> None:
        zone = self.session.chosen.zone
        self.session.edit(lambda p: edits.reset_coat(p, zone), "coat back to the default")

    # Gestures -------------------------------------------------------------------------------------

    def press(self, at: Point, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.stroke = [at]

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self.stroke:
            self.stroke.append(at)

    def release(self, at: Point, event: QMouseEvent) -> None:
        stroke, self.stroke = self.stroke, []
        if not stroke:
            return
        points = np.array([*stroke, at])
        zone = self.zone_at(stroke[0])
        if np.hypot(*(points[-1] - points[0])) < self.reach(5):
            self.session.choose(zone=zone.id if zone else "")
            return
        chosen = self._zone()
        if chosen is not None and not chosen.kind_of().cover:
            zone = chosen
        if zone is None:
            self.session.said.emit("No zone lies under this hair. Outline the part first.", "must")
            return
        line = simplify(points, self.reach(0.8))
        if self.session.edit(lambda p: edits.measure_hair(p, zone.id, line), f"measure a hair of {zone.name.lower()}"):
            self.session.choose(zone=zone.id)

    def leave(self) -> None:
        self.stroke = []

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_N:
            self._next()
            return True
        return False

    def zone_words(self, zone: Zone, at: Point) -> list[str]:
        project = self.session.project
        if project is None:
            return []
        coat = zone.coat_on(project.canvas)
        return [
            f"marks {mm_words(coat.length_mm)}, {mm_words(coat.width_mm)} at the root",
            f"spread ± {coat.spread_deg:.0f}°",
        ]

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.session.project
        if project is None:
            return
        for zone in project.zones:
            if zone.measured:
                on = zone.id == self.session.chosen.zone
                self._hair(p, view.to_screen(as_array(zone.measured)), zone.coat.length_mm or 0, view, on=on)
        if len(self.stroke) > 1:
            points = np.array(self.stroke)
            length = float(arc_length(points)[-1]) * project.mm_per_px
            self._hair(p, view.to_screen(points), length, view, on=True)

    def _hair(self, p: QPainter, line: np.ndarray, length_mm: float, view: Viewport, *, on: bool) -> None:
        """Draw a measured hair with a scale beside it, a tick each centimetre."""
        if len(line) < 2 or self.session.project is None:
            return
        px_per_mm = view.scale / self.session.project.mm_per_px
        drawn_mm = float(arc_length(line)[-1]) / px_per_mm
        smooth = resample(line, 24)
        draw.stroke(p, smooth, 5, 1, "russet" if on else "over_light", "over_dark")
        step = np.gradient(smooth, axis=0)
        normal = np.stack([step[:, 1], -step[:, 0]], axis=1) / (np.hypot(*step.T)[:, None] + 1e-9)
        side = smooth + normal * 13
        draw.cased_path(p, draw.polygon(side), 1.1)
        along = arc_length(side)
        ticks = [0.0, *np.arange(10, drawn_mm, 10), drawn_mm]
        for k, mm in enumerate(ticks):
            at = along[-1] * mm / max(drawn_mm, 1e-6)
            x, y = (float(np.interp(at, along, side[:, a])) for a in (0, 1))
            n = normal[min(23, int(23 * mm / max(drawn_mm, 1e-6)))]
            size = 6 if k in (0, len(ticks) - 1) else 3.5
            draw.cased_path(
                p, draw.polygon(np.array([[x - n[0] * size, y - n[1] * size], [x + n[0] * size, y + n[1] * size]])), 1.1
            )
        draw.over_words(p, side[-1][0] + 12, side[-1][1], f"measured {mm_words(length_mm)}", within=view.room)
