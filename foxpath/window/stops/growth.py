"""Stop 3, Growth: comb the hair from root to tip; the rest follows and says how sure it is."""

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.curves import nearest_on, simplify
from foxpath.core.growth import SURE_ENOUGH, compass_words
from foxpath.core.units import count_words, mm_words, percent
from foxpath.derive.handout import UNSURE_CM2
from foxpath.derive.results import zone_index
from foxpath.document import edits
from foxpath.document.model import Comb, Pairs, Project, Zone, as_array
from foxpath.window import draw
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button
from foxpath.window.bench.rows import Gestures, NextStep, Row, Rows, Section, Words
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Point, Stop
from foxpath.window.stops.coat import CoatMeasures


class GrowthStop(Stop):
    """Draw combs; choose one to move its points, turn it round or drop it."""

    code, title = "growth", "Growth"
    growth_gap = 12.0
    shows_doubt = True

    def make_panel(self) -> QWidget:
        self.stroke: list[Point] = []
        self._held = -1
        self.next = NextStep("comb")
        self.next.asked.connect(self._next)
        self.findings = FindingList("growth")
        self.findings.asked.connect(self._finding)
        self.sure = Rows("how sure, zone by zone")
        self.sure.chosen.connect(self._choose)
        self.empty = Words("Growth lies in zones, and none with hair is outlined yet.", 13)
        self.comb_head = Section("", "root to tip")
        self.turn = Button("Turn root and tip")
        self.turn.clicked.connect(self._turn)
        self.drop = Button("Drop this comb")
        self.drop.clicked.connect(self._drop)
        self.zone_head = Section("", "plan")
        self.coat = CoatMeasures(self.session, ("spread_deg", "clump_mm", "stray_share"))
        self.measures = self.coat.measures
        return panel(
            self.next,
            self.findings,
            Section("How sure", "zone · combs · share sure"),
            self.sure,
            self.empty,
            self.comb_head,
            self.turn,
            self.drop,
            self.zone_head,
            self.coat,
            Section("Say it with a stroke", "on the picture"),
            Gestures(
                [
                    ("comb", "comb", "along the hair, root to tip"),
                    ("comb", "change a comb", "click it, drag its ends"),
                    ("comb", "drop a comb", "click it, Delete"),
                ]
            ),
        )

    def refresh(self) -> None:
        project, readings = self.session.project, self.session.readings
        if project is None:
            return
        growing = [z for z in reversed(project.back_to_front()) if z.kind_of().hair]
        self.empty.setVisible(not growing)
        rows = []
        for zone in growing:
            reading = readings.fields.get(zone.id) if readings else None
            share = reading.sure_share if reading else 0.0
            rows.append(Row(zone.id, zone.name, str(len(project.combs_of(zone.id))), f"{percent(share)}", share))
        self.sure.set_rows(rows, self.session.chosen.zone)
        if readings is not None:
            self.findings.set_findings(list(readings.findings), [("show", "show me")])
        comb = self._comb()
        for part in (self.comb_head, self.turn, self.drop):
            part.setVisible(comb is not None)
        if comb is not None:
            self.comb_head.set_words(f"Comb {self._number(comb)} · {self._length(comb)}", "root to tip")
        current = project.zone(self.session.chosen.zone)
        hairy = current is not None and zone.kind_of().hair
        self.zone_head.setVisible(hairy)
        self.coat.show_zone(project, current if hairy else None)
        if hairy and current is not None:
            self.zone_head.set_words(current.name, f"{current.kind_of().name} · plan")
        worst = self._worst()
        if not growing:
            self.next.set_words("Outline the animal first", "Growth lies in zones of hair.", "Zones")
        elif worst is None:
            self.next.set_words("The growth is sure", "Edges come next.", "Go on")
        else:
            zone_id, cm2 = worst
            name = next(z.name for z in growing if z.id == zone_id)
            self.next.set_words(f"Comb the {name.lower()}", f"{cm2:.0f} cm² still unsure", "Show me")

    def resting_combs(self) -> tuple[Pairs, ...]:
        project, chosen = self.session.project, self.session.chosen.comb
        return tuple(c.points for c in project.combs if c.id != chosen) if project else ()

    def _worst(self) -> tuple[str, float] | None:
        readings = self.session.readings
        if readings is None or not readings.fields:
            return None
        key = max(readings.fields, key=lambda k: readings.fields[k].unsure_cm2)
        area = readings.fields[key].unsure_cm2
        return (key, area) if area > UNSURE_CM2 else None

    def reading(self) -> str:
        project, readings = self.session.project, self.session.readings
        if project is None:
            return ""
        unsure = sum(r.unsure_cm2 > UNSURE_CM2 for r in readings.fields.values()) if readings else 0
        words = count_words(len(project.combs), "comb")
        return f"{words} · {unsure} unsure" if unsure else words

    def state(self) -> draw.State:
        project = self.session.project
        if project is None or not project.combs:
            return "no"
        return "begun" if self._worst() else "ready"

    # The bench ------------------------------------------------------------------------------------

    def _next(self) -> None:
        worst = self._worst()
        if worst is not None:
            self.session.choose(zone=worst[0], comb="")
            self.show_zone(worst[0])
        else:
            project = self.session.project
            hairy = project is not None and any(z.kind_of().hair for z in project.zones)
            self.go_to.emit("edges" if hairy else "zones")

    def show_zone(self, zone_id: str) -> None:
        readings = self.session.readings
        spot = readings.fields[zone_id].spot if readings and zone_id in readings.fields else None
        if spot is not None:
            self.picture.fly_to(spot, 240)
        else:
            super().show_zone(zone_id)

    def _finding(self, key: str, finding: object) -> None:
        zone = getattr(finding, "subject", "")
        self.session.choose(zone=zone, comb="")
        self.show_zone(zone)

    def _choose(self, zone_id: str) -> None:
        self.session.choose(zone=zone_id, comb="")

    def _turn(self) -> None:
        comb = self.session.chosen.comb
        self.session.edit(lambda p: edits.turn_comb(p, comb), "turn a comb")

    def _drop(self) -> None:
        comb = self.session.chosen.comb
        if self.session.edit(lambda p: edits.remove_comb(p, comb), "drop a comb"):
            self.session.choose(comb="")

    # Gestures -------------------------------------------------------------------------------------

    def _comb(self) -> Comb | None:
        project = self.session.project
        return next((c for c in project.combs if c.id == self.session.chosen.comb), None) if project else None

    def _number(self, comb: Comb) -> int:
        project = self.session.project
        return [c.id for c in project.combs].index(comb.id) + 1 if project else 0

    def _length(self, comb: Comb) -> str:
        return self.mm(float(np.hypot(*np.diff(as_array(comb.points), axis=0).T).sum()))

    def _comb_at(self, at: Point) -> Comb | None:
        project = self.session.project
        best: tuple[float, Comb] | None = None
        for comb in project.combs if project else ():
            _, gap, _ = nearest_on(as_array(comb.points), np.array(at), closed=False)
            if gap < self.reach(9) and (best is None or gap < best[0]):
                best = (gap, comb)
        return best[1] if best else None

    def press(self, at: Point, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        comb = self._comb()
        if comb is not None:
            gap = np.hypot(*(as_array(comb.points) - at).T)
            if gap.min() < self.reach(10):
                self._held = int(np.argmin(gap))
                return
        self.stroke = [at]

    def drag(self, at: Point, event: QMouseEvent) -> None:
        comb = self._comb()
        if self._held >= 0 and comb is not None:
            points = as_array(comb.points).copy()
            points[self._held] = at
            self.session.edit(lambda p: edits.change_comb(p, comb.id, points), "change a comb", f"comb {comb.id}")
        elif self.stroke:
            last = self.stroke[-1]
            if np.hypot(at[0] - last[0], at[1] - last[1]) >= self.reach(2):
                self.stroke.append(at)

    def release(self, at: Point, event: QMouseEvent) -> None:
        if self._held >= 0:
            self._held = -1
            if self.session.history is not None:
                self.session.history.seal()
            return
        stroke, self.stroke = self.stroke, []
        if not stroke:
            return
        if stroke[-1] != at:
            stroke.append(at)
        points = np.array(stroke)
        if len(points) < 2 or np.hypot(*(points[-1] - points[0])) < self.reach(7):
            self._click(at)
            return
        self._add(simplify(points, self.reach(1.2)))

    def _add(self, points: np.ndarray) -> None:
        project = self.session.project
        if project is None:
            return
        chosen = project.zone(self.session.chosen.zone)
        # Whiskers lie over other zones: a comb belongs to them only while they are the chosen zone.
        owner = chosen.id if chosen is not None and not chosen.kind_of().cover else None
        under = project.zone(owner or edits.zone_under(project, points) or "")
        if under is None or not under.kind_of().hair:
            self.session.said.emit("No coat lies under this comb. Outline the part first, then comb it.", "must")
            return
        made = ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.add_comb(before, points, owner)
            return after

        if self.session.edit(change, "comb"):
            comb = self._find(made)
            self.session.choose(comb=made, zone=comb.zone if comb else self.session.chosen.zone)

    def _find(self, comb_id: str) -> Comb | None:
        project = self.session.project
        return next((c for c in project.combs if c.id == comb_id), None) if project else None

    def _click(self, at: Point) -> None:
        comb = self._comb_at(at)
        if comb is not None:
            self.session.choose(comb=comb.id, zone=comb.zone)
            return
        zone = self.zone_at(at)
        self.session.choose(comb="", zone=zone.id if zone else "")

    def busy_gesture(self) -> bool:
        return bool(self.stroke)

    def leave(self) -> None:
        self.stroke = []
        self._held = -1

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_Escape and (self.stroke or self.session.chosen.comb):
            self.leave()
            self.session.choose(comb="")
            return True
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self._comb() is not None:
            self._drop()
            return True
        if event.key() == Qt.Key.Key_T and self._comb() is not None:
            self._turn()
            return True
        if event.key() == Qt.Key.Key_N:
            self._next()
            return True
        return False

    def zone_words(self, zone: Zone, at: Point) -> list[str]:
        project, readings = self.session.project, self.session.readings
        if project is None or readings is None or not zone.kind_of().hair:
            return [zone.kind_of().name]
        index = zone_index(readings.project, zone.id)
        if index < 0:
            return []
        results = self.session.results
        field = results.memo.peek(results.field_key(readings.project, index, results.growth_frame(readings.project)))
        coat = zone.coat_on(project.canvas)
        hair = f"hair {mm_words(coat.length_mm)}, {mm_words(coat.width_mm)} at the root"
        if field is None:
            return [hair]
        direction, sure = field.sample(np.array([at]))
        angle = float(np.degrees(np.arctan2(direction[0, 1], direction[0, 0])))
        known = "sure" if sure[0] >= SURE_ENOUGH else "a guess"
        return [f"grows {compass_words(angle)}, {known} ({percent(sure[0])})", hair]

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.session.project
        if project is None:
            return
        current = self._comb()
        if current is not None:
            points = view.to_screen(as_array(current.points))
            draw.comb(p, points)
            for x, y in points:
                draw.circle(p, x, y, 3.2, "over_light", "over_dark", 1.2)
            draw.over_words(
                p,
                points[-1][0] + 12,
                points[-1][1] + 4,
                f"comb {self._number(current)} · {self._length(current)}",
                within=view.room,
            )
        if len(self.stroke) > 1:
            points = view.to_screen(np.array(self.stroke))
            draw.comb(p, points)
            length = float(np.hypot(*np.diff(np.array(self.stroke), axis=0).T).sum())
            draw.over_words(
                p, points[-1][0] + 12, points[-1][1] + 4, f"root to tip · {self.mm(length)}", within=view.room
            )
