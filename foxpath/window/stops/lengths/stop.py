"""Stop 5, Lengths: how long and how wide the marks are, zone by zone, in millimetres on the canvas."""

from collections.abc import Hashable

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.curves import arc_length, line_length, resample, simplify
from foxpath.core.lengths import FORMS
from foxpath.core.units import mm_words, percent
from foxpath.core.zones import Coat
from foxpath.derive.lengths.field import seen_at
from foxpath.derive.lengths.reading import FEW_SHOWN
from foxpath.derive.lengths.suggested import Suggestion
from foxpath.derive.subjects import LENGTHS
from foxpath.derive.zones.shapes import zone_index
from foxpath.document import edits
from foxpath.document.model import FOCAL_ORDERS, Project, Zone, as_array, pairs
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button, Choice, Measure, Scale
from foxpath.window.bench.rows import Gestures, NextStep, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.glass import true_px_per_mm
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.lengths.coat import SCALES, CoatMeasures
from foxpath.window.stops.lengths.kit import KitPanel
from foxpath.window.stops.lengths.plumage import Plumage, paint_feathers
from foxpath.window.stops.lengths.suggestion import SuggestionPanel
from foxpath.window.stops.on_picture import Point

_ORDER_REASONS = {
    "": "What lies behind is painted first, so that every edge lies over something.",
    "first": "Eyes and face first: they decide the likeness, and the rest is tuned to them.",
    "last": "The focal area last: it takes the freshest paint and the surest hand.",
    "right": "From the left and from above: a right hand never rests on what is wet. A bridge or a stick helps where it must.",
    "left": "From the right and from above: a left hand never rests on what is wet. A bridge or a stick helps where it must.",
}


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
        self._forming = False
        self._hair = -1
        self.next = NextStep("hair")
        self.next.asked.connect(self._next)
        self.findings = FindingList("lengths")
        self.findings.asked.connect(self._finding)
        self.list = Rows("marks, zone by zone")
        self.list.chosen.connect(self._choose)
        self.zone_head = Section("")
        self.coat = CoatMeasures(self.session, tuple(SCALES))
        self.measures = self.coat.measures
        self.life = LifeSize()
        self.seen = SuggestionPanel(self.session)
        self.back = Button("Back to the default coat")
        self.back.clicked.connect(self._back)
        self.unshown = Words("", 12.5)
        self.hairs_head = Section("Measured hairs", "their mean is the length")
        self.hairs = Rows("measured hairs")
        self.hairs.chosen.connect(self._choose_hair)
        self.drop = Button("Drop this hair")
        self.drop.clicked.connect(self._drop_hair)
        self.form_head = Section("Form", "shortens what turns away")
        self.form = Choice([(key, words) for key, words in FORMS.items()], "form of the part")
        self.form.chosen.connect(self._set_form)
        self.turn = Measure("Turned away by", Scale(0, 80, lambda v: f"{v:.0f}°", step=1))
        self.turn.changed.connect(self._set_turn)
        self.form_words = Words("", 12)
        self.plumage = Plumage(self.session)
        self.far_head = Section("Far from the focal point", "fewer marks")
        self.far = Measure("Broader", Scale(0, 1, percent, step=0.05))
        self.far.changed.connect(self._set_falloff)
        self.order = Choice(
            [("", "back"), ("first", "focal"), ("last", "focal last"), ("right", "from left"), ("left", "from right")],
            "order in a pass",
        )
        self.order.chosen.connect(self._set_order)
        self.order_words = Words("", 12)
        self.kit = KitPanel(self.session)
        return panel(
            self.next,
            self.findings,
            self.zone_head,
            self.coat,
            self.seen,
            self.life,
            self.back,
            self.unshown,
            self.hairs_head,
            self.hairs,
            self.drop,
            self.form_head,
            self.form,
            self.turn,
            self.form_words,
            self.plumage,
            Section("Marks by zone", "length × width"),
            self.list,
            self.far_head,
            self.far,
            self.order,
            self.order_words,
            self.kit,
            Section("Say it with a stroke", "on the picture"),
            Gestures(
                [
                    ("hair", "a hair", "along it, root to tip"),
                    ("hair", "a zone", "click it"),
                    ("outline", "its form", "Shift drag, axis or rim"),
                ]
            ),
        )

    def _zone(self) -> Zone | None:
        project = self.session.project
        return project.zone(self.session.chosen["zone"]) if project else None

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        if self.session.readings is not None:
            self.findings.set_findings(list(self.session.readings.findings), [("show", "show me")])
        zones = list(reversed(project.back_to_front()))
        zone = self._zone()
        rows = []
        for one in zones:
            coat = project.coat_of(one)
            state = "measured" if one.hairs else "decided" if one.coat.length_mm is not None else "default"
            if state == "default" and project.donor_of(one.id) is not None:
                state = "borrowed"
            if one.kind_of().painted:
                rows.append(Row(one.id, one.name, state, f"{mm_words(coat.length_mm)} × {mm_words(coat.width_mm)}"))
        self.list.set_rows(rows, zone.id if zone else "")
        for part in (self.zone_head, self.life):
            part.setVisible(zone is not None)
        self.coat.show_zone(project, zone)
        self.back.setVisible(zone is not None and zone.coat != type(zone.coat)())
        if zone is not None:
            self.zone_head.set_words(zone.name, f"{zone.kind_of().name} · plan")
            self.life.show_coat(project.coat_of(zone))
        suggested = self._suggested()
        self.seen.show_zone(project, zone, suggested.get(zone.id) if zone is not None else None)
        self._refresh_hairs(project, zone)
        self._refresh_form(zone)
        self.plumage.show_zone(project, zone)
        self.kit.show_zone(project, zone)
        self.far.set_value(project.falloff, 0.5, decided=project.falloff != 0.5)
        self.order.set_value(project.focal_order)
        self.order_words.set_words(_ORDER_REASONS[project.focal_order])
        waiting = self._unmeasured()
        if waiting is None:
            self.next.set_words("The lengths stand", self.next_words(), "Go on")
        else:
            length, seen = mm_words(project.coat_of(waiting).length_mm), suggested.get(waiting.id)
            reason = f"{length}, still the default"
            if seen is not None:
                reason += f"; looks {mm_words(seen.length_mm)}"
            self.next.set_words(f"Measure the {waiting.name.lower()}", reason, "Show me")

    def _refresh_hairs(self, project: Project, zone: Zone | None) -> None:
        hairs = zone.hairs if zone is not None else ()
        self._hair = min(self._hair, len(hairs) - 1)
        for part in (self.hairs_head, self.hairs):
            part.setVisible(bool(hairs))
        self.drop.setVisible(self._hair >= 0)
        mm = [line_length(as_array(h)) * project.mm_per_px for h in hairs]
        rows = [Row(str(k), f"Hair {k + 1}", "as it looks", mm_words(v)) for k, v in enumerate(mm)]
        self.hairs.set_rows(rows, str(self._hair) if self._hair >= 0 else "")
        share = (
            self.session.readings.close(LENGTHS).hair_shares.get(zone.id) if self.session.readings and zone else None
        )
        said = zone is not None and (zone.coat.length_mm is not None or project.donor_of(zone.id) is not None)
        hidden = share is not None and share < FEW_SHOWN and not said
        self.unshown.setVisible(hidden)
        if hidden and share is not None:
            self.unshown.set_words(
                f"The photograph shows hair on {percent(share)} of it; the length is a default. Measure it in another "
                "picture, or let it borrow from a donor at Growth."
            )

    def _refresh_form(self, zone: Zone | None) -> None:
        formed = zone is not None and zone.kind_of().hair and zone.kind_of().cover
        for part in (self.form_head, self.form, self.form_words):
            part.setVisible(formed)
        self.turn.setVisible(formed and zone is not None and zone.form.kind == "plane")
        if zone is None or not formed:
            return
        self.form.set_value(zone.form.kind)
        self.turn.set_value(zone.form.turn_deg)
        how = {
            "": "Marks keep their length everywhere.",
            "ball": "Hair shortens toward its rim. Shift drag from its middle to the rim to place it.",
            "cylinder": "Hair across it shortens toward both sides. Shift drag along its axis to place it.",
            "plane": "Hair shortens along the turn. Shift drag from its near side to its far side.",
        }
        low, high = self._seen_range(zone)
        shown = f" Here to {percent(low)} of its length." if zone.form.kind and low < high else ""
        self.form_words.set_words(how[zone.form.kind] + shown)

    def _seen_range(self, zone: Zone) -> tuple[float, float]:
        readings = self.session.readings
        index = next((k for k, z in enumerate(readings.zones) if z.id == zone.id), -1) if readings else -1
        return readings.facts[index].lengths if readings is not None and index >= 0 else (1.0, 1.0)

    def _suggested(self) -> dict[str, Suggestion]:
        return self.session.readings.close(LENGTHS).suggested if self.session.readings is not None else {}

    def _choose_hair(self, key: str) -> None:
        self._hair = int(key)
        self.refresh()
        self.picture.update()

    def _drop_hair(self) -> None:
        zone, at, self._hair = self.session.chosen["zone"], self._hair, -1
        self.session.edit(lambda p: edits.remove_hair(p, zone, at), "drop a hair")

    def _set_form(self, key: str) -> None:
        zone = self.session.chosen["zone"]
        self.session.edit(lambda p: edits.set_form(p, zone, kind=key, line=()), f"form {FORMS[key]}")

    def _set_turn(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        zone = self.session.chosen["zone"]
        self.session.edit(lambda p: edits.set_form(p, zone, turn_deg=value), "turn of a plane", f"turn {zone}")
        if not going:
            self.session.seal()

    def _set_falloff(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self.session.edit(lambda p: edits.set_falloff(p, value), "broader away from the focal point", "falloff")
        if not going:
            self.session.seal()

    def _set_order(self, key: str) -> None:
        self.session.edit(lambda p: edits.set_focal_order(p, key), FOCAL_ORDERS[key])

    def _unmeasured(self) -> Zone | None:
        """Return the largest zone of hair whose length is still the default."""
        readings, project = self.session.readings, self.session.project
        if readings is None or project is None:
            return None
        areas = {z.id: f.area_cm2 for z, f in zip(readings.zones, readings.facts, strict=True)}
        fanned = {fan.zone for fan in project.fans}
        open_ = [
            z
            for z in project.zones
            if z.kind_of().hair and z.id not in fanned and z.coat.length_mm is None and areas.get(z.id, 0) > 8
        ]
        return max(open_, key=lambda z: areas.get(z.id, 0.0), default=None)

    def reading(self) -> str:
        project = self.session.project
        if project is None:
            return ""
        lengths = [project.coat_of(z).length_mm for z in project.zones if z.kind_of().hair]
        if not lengths:
            return "no hair yet"
        decided = sum(z.coat.length_mm is not None for z in project.zones)
        least, most = f"{min(lengths):.0f}", f"{max(lengths):.0f}"
        return f"{least if least == most else f'{least} to {most}'} mm · {decided} set"

    def state(self) -> draw.State:
        project = self.session.project
        hairy = [z for z in project.zones if z.kind_of().hair] if project else []
        if not hairy:
            return "no"
        return "ready" if self._unmeasured() is None else "begun"

    def _next(self) -> None:
        waiting = self._unmeasured()
        if waiting is None:
            self.go_on()
        else:
            self.session.choose(zone=waiting.id)
            self.show_zone(waiting.id)

    def _finding(self, _: str, finding: object) -> None:
        zone = getattr(finding, "subject", "")
        self.session.choose(zone=zone)
        self.show_zone(zone)

    def _choose(self, zone_id: str) -> None:
        self.session.choose(zone=zone_id)

    def _back(self) -> None:
        zone = self.session.chosen["zone"]
        self.session.edit(lambda p: edits.reset_coat(p, zone), "coat back to the default")

    # Gestures -------------------------------------------------------------------------------------

    def press(self, at: Point, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self.stroke = [at]
            self._forming = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)

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
        if self.plumage.drawing is not None:
            self.plumage.take(simplify(points, self.reach(0.8)))
            return
        if self._forming:
            self._place_form(chosen, points)
            return
        if chosen is not None and not chosen.kind_of().cover:
            zone = chosen
        if zone is None:
            self.session.said.emit("No zone lies under this hair. Outline the part first.", "must")
            return
        line = simplify(points, self.reach(0.8))
        project = self.session.project
        index = zone_index(project, zone.id) if project is not None else -1
        seen = seen_at(self.session.results, project, index, pairs(line)) if project is not None and index >= 0 else 1.0
        words = f"measure a hair of {zone.name.lower()}"
        if self.session.edit(lambda p: edits.measure_hair(p, zone.id, line, seen), words):
            self.session.choose(zone=zone.id)

    def _place_form(self, zone: Zone | None, points: np.ndarray) -> None:
        if zone is None or not zone.form.kind:
            self.session.said.emit("Choose a part and its form first: ball, cylinder or plane.", "look")
            return
        line = pairs(points[[0, -1]])
        self.session.edit(lambda p: edits.set_form(p, zone.id, line=line), f"place the {zone.form.kind}")

    def busy(self) -> bool:
        return self.plumage.drawing is not None

    def take_back(self) -> bool:
        if self.plumage.drawing is None:
            return False
        self.plumage.drawing = self.plumage.drawing[:-1] or None
        return True

    def leave(self) -> None:
        self.stroke, self.plumage.drawing = [], None

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_N:
            self._next()
            return True
        if event.key() == Qt.Key.Key_T:
            return self.seen.take()
        if event.key() == Qt.Key.Key_K:
            return self.seen.take_kind()
        if event.key() == Qt.Key.Key_Escape and self.plumage.drawing is not None:
            self.plumage.drawing = None
            self.picture.update()
            return True
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self._hair >= 0:
            self._drop_hair()
            return True
        return False

    def zone_words(self, zone: Zone, at: Point) -> list[str]:
        project = self.session.project
        if project is None:
            return []
        coat = project.coat_of(zone)
        readings = self.session.readings
        lengths = readings.close(LENGTHS).lengths if readings is not None else None
        long, wide = 1.0, 1.0
        if lengths is not None and zone.kind_of().hair:
            length, width = lengths.at(np.array([at]))
            long, wide = float(length[0]), float(width[0])
        return [
            f"marks {mm_words(coat.length_mm * long)}, {mm_words(coat.width_mm * wide)} at the root",
            f"spread ± {coat.spread_deg:.0f}°",
        ]

    def still_key(self) -> Hashable:
        """The feathers follow from the readings and the chosen zone."""
        readings = self.session.readings
        return (
            (readings, self.session.chosen["zone"])
            if readings is not None and readings.close(LENGTHS).feathers
            else None
        )

    def paint_still(self, p: QPainter, view: Viewport) -> None:
        readings = self.session.readings
        for key, feathers in readings.close(LENGTHS).feathers.items() if readings is not None else ():
            paint_feathers(p, view, feathers, on=key == self.session.chosen["zone"])

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.session.project
        if project is None:
            return
        for zone in project.zones:
            on = zone.id == self.session.chosen["zone"]
            for k, hair in enumerate(zone.hairs):
                length = line_length(as_array(hair)) * project.mm_per_px
                self._paint_hair(p, view.to_screen(as_array(hair)), length, view, on=on and self._hair in (-1, k))
            if on and zone.form.kind and len(zone.form.line) == 2:
                line = view.to_screen(as_array(zone.form.line))
                draw.cased_path(p, draw.polygon(line), 1.4, "russet", (7, 4))
                for x, y in line:
                    draw.circle(p, x, y, 3.6, "russet", "over_dark", 1.2)
        for shaft in self.plumage.drawing or ():
            draw.stroke(p, view.to_screen(shaft), 4, 1, "russet", "over_dark")
        if len(self.stroke) > 1:
            points = np.array(self.stroke)
            length = line_length(points) * project.mm_per_px
            if self._forming:
                draw.cased_path(p, draw.polygon(view.to_screen(points[[0, -1]])), 1.4, "russet", (7, 4))
            else:
                self._paint_hair(p, view.to_screen(points), length, view, on=True)

    def _paint_hair(self, p: QPainter, line: np.ndarray, length_mm: float, view: Viewport, *, on: bool) -> None:
        """Draw a measured hair with a scale beside it, a tick each centimetre."""
        if len(line) < 2 or self.session.project is None:
            return
        px_per_mm = view.scale / self.session.project.mm_per_px
        drawn_mm = line_length(line) / px_per_mm
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
