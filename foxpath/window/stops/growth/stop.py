"""Stop 3, Growth: comb the hair from root to tip; the rest follows and says how sure it is."""

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.curves import line_length, nearest_on, simplify
from foxpath.core.growth import SURE_ENOUGH, compass_words
from foxpath.core.units import count_words, mm_words, percent, with_article
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth.fields import growth_key
from foxpath.derive.growth.reading import UNSURE_CM2
from foxpath.derive.subjects import GROWTH
from foxpath.derive.zones.shapes import zone_index
from foxpath.document import edits
from foxpath.document.model import MARKS, Comb, Mark, Pairs, Project, Zone, as_array, pairs
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button, Choice, Measure, Scale, YesNo
from foxpath.window.bench.rows import Gestures, NextStep, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.growth.files import CombFiles
from foxpath.window.stops.growth.follow import FollowPanel
from foxpath.window.stops.growth.found import FoundPanel
from foxpath.window.stops.growth.marks import TOOLS, mark_words, paint_mark, turn_words
from foxpath.window.stops.lengths.coat import CoatMeasures
from foxpath.window.stops.on_picture import Point


class GrowthStop(Stop):
    """Draw combs; choose one to move its points, turn it round or drop it."""

    code, title = "growth", "Growth"
    growth_gap = 12.0
    shows_doubt = True

    def make_panel(self) -> QWidget:
        self.stroke: list[Point] = []
        self._held = -1
        self.tool = "comb"
        self._point = -1
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
        self.against = Words("", 12.5, "text")
        self.keep = Button("Keep it as it is")
        self.keep.clicked.connect(self._keep)
        self.swing = Button("Turn it to the picture")
        self.swing.clicked.connect(self._swing)
        self.tools = Choice(TOOLS, "what a stroke says")
        self.tools.chosen.connect(self._use_tool)
        self.flow = YesNo("long lines show the flow", "hairs at true size")
        self.flow.set_value(on=False)
        self.flow.toggled.connect(self._show_flow)
        self.mark_head = Section("Also said", "partings, crowns, sources")
        self.marks = Rows("marks of the growth")
        self.marks.chosen.connect(self._choose_mark)
        self.mark_turn = Measure("turn", Scale(-180, 180, lambda v: f"{v:.0f}°", step=5))
        self.mark_turn.changed.connect(self._turn_mark)
        self.mark_words = Words("", 12)
        self.mark_drop = Button("Drop this mark")
        self.mark_drop.clicked.connect(self._drop_mark)
        self.found = FoundPanel(self.session, self.picture)
        self.follow = FollowPanel(self.session)
        self.files = CombFiles(self.session)
        self.zone_head = Section("", "plan")
        self.coat = CoatMeasures(self.session, ("spread_deg", "clump_mm", "stray_share"))
        self.measures = self.coat.measures
        return panel(
            self.next,
            self.tools,
            self.findings,
            self.comb_head,
            self.against,
            self.keep,
            self.swing,
            self.turn,
            self.drop,
            Section("How sure", "zone · combs · share sure"),
            self.sure,
            self.empty,
            self.mark_head,
            self.marks,
            self.mark_turn,
            self.mark_words,
            self.mark_drop,
            self.found,
            self.zone_head,
            self.coat,
            self.follow,
            Section("Say it with a stroke", "1 to 4"),
            self.flow,
            Gestures(
                [
                    ("comb", "comb", "along the hair, root to tip"),
                    ("edge", "parting", "along the line"),
                    ("outline", "crown, away", "middle to rim"),
                    ("comb", "change, drop", "click it, drag, Delete"),
                ]
            ),
            self.files,
        )

    def refresh(self) -> None:
        project, readings = self.session.project, self.session.readings
        if project is None:
            return
        growing = [z for z in reversed(project.back_to_front()) if z.kind_of().hair]
        self.empty.setVisible(not growing)
        rows = []
        for zone in growing:
            reading = readings.of(GROWTH).fields.get(zone.id) if readings else None
            share = reading.sure_share if reading else 0.0
            rows.append(Row(zone.id, zone.name, str(len(project.combs_of(zone.id))), f"{percent(share)}", share))
        self.sure.set_rows(rows, self.session.chosen["zone"])
        if readings is not None:
            self.findings.set_findings(list(readings.findings), [("show", "show me")])
        comb = self._comb()
        for part in (self.comb_head, self.turn, self.drop):
            part.setVisible(comb is not None)
        if comb is not None:
            self.comb_head.set_words(f"Comb {self._number(comb)} · {self._length(comb)}", "root to tip")
        current = project.zone(self.session.chosen["zone"])
        hairy = current is not None and current.kind_of().hair
        self.zone_head.setVisible(hairy)
        self.coat.show_zone(project, current if hairy else None)
        if hairy and current is not None:
            self.zone_head.set_words(current.name, f"{current.kind_of().name} · plan")
        self._refresh_against(comb)
        self._refresh_marks(project)
        self.found.refresh(project)
        self.follow.refresh(project, current if hairy else None)
        self.tools.set_value(self.tool)
        worst = self._worst()
        if not growing:
            self.next.set_words("Outline the animal first", "Growth lies in zones of hair.", "Zones")
        elif worst is None:
            self.next.set_words("The growth is sure", self.next_words(), "Go on")
        else:
            zone_id, cm2 = worst
            name = next(z.name for z in growing if z.id == zone_id)
            self.next.set_words(f"Comb {with_article(name)}", f"{cm2:.0f} cm² still unsure", "Show me")

    def resting_combs(self) -> tuple[Pairs, ...]:
        project, chosen = self.session.project, self.session.chosen["comb"]
        return tuple(c.points for c in project.combs if c.id != chosen) if project else ()

    def _worst(self) -> tuple[str, float] | None:
        project, readings = self.session.project, self.session.readings
        if project is None or readings is None or not readings.of(GROWTH).fields:
            return None
        # Readings may be a moment older than the project: a zone may be gone, or grow nothing any more.
        grows = {zone.id for zone in project.zones if zone.kind_of().hair}
        # Where one comb takes away most doubt, among the zones that need one.
        unsure = [
            key for key, one in readings.of(GROWTH).fields.items() if key in grows and one.unsure_cm2 > UNSURE_CM2
        ]
        if not unsure:
            return None
        key = max(unsure, key=lambda k: readings.of(GROWTH).fields[k].gain_cm2)
        return key, readings.of(GROWTH).fields[key].unsure_cm2

    def reading(self) -> str:
        project, readings = self.session.project, self.session.readings
        if project is None:
            return ""
        unsure = sum(r.unsure_cm2 > UNSURE_CM2 for r in readings.of(GROWTH).fields.values()) if readings else 0
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
            self.go_on() if hairy else self.go_to.emit("zones")

    def show_zone(self, zone_id: str) -> None:
        readings = self.session.readings
        spot = readings.of(GROWTH).fields[zone_id].spot if readings and zone_id in readings.of(GROWTH).fields else None
        if spot is not None:
            self.picture.fly_to(spot, 240)
        else:
            super().show_zone(zone_id)

    def _finding(self, key: str, finding: object) -> None:
        subject = getattr(finding, "subject", "")
        comb = self._find(subject)
        if comb is not None:
            self.session.choose(zone=comb.zone, comb=comb.id, mark="")
            middle = as_array(comb.points).mean(axis=0)
            self.picture.fly_to((float(middle[0]), float(middle[1])), 200)
            return
        self.session.choose(zone=subject, comb="")
        self.show_zone(subject)

    def _choose(self, zone_id: str) -> None:
        self.session.choose(zone=zone_id, comb="")

    def _turn(self) -> None:
        comb = self.session.chosen["comb"]
        self.session.edit(lambda p: edits.turn_comb(p, comb), "turn a comb")

    def _drop(self) -> None:
        comb = self.session.chosen["comb"]
        if self.session.edit(lambda p: edits.remove_comb(p, comb), "drop a comb"):
            self.session.choose(comb="")

    # A comb against the picture -------------------------------------------------------------------

    def _off(self, comb: Comb) -> float | None:
        """Return by how much the picture's hair lies off a comb, degrees clockwise; None where they agree."""
        readings = self.session.readings
        against = readings.of(GROWTH).against if readings is not None else ()
        return next((angle for one, angle in against if one.id == comb.id and one.points == comb.points), None)

    def _refresh_against(self, comb: Comb | None) -> None:
        off = self._off(comb) if comb is not None and not comb.kept else None
        for part in (self.against, self.swing):
            part.setVisible(off is not None or (part is self.against and comb is not None and comb.kept))
        self.keep.setVisible(off is not None or (comb is not None and comb.kept))
        if comb is not None and comb.kept:
            self.against.set_words("Kept against the picture: round it, the picture has no say.")
            self.keep.set_words("Let the picture speak again")
        elif off is not None:
            self.against.set_words(f"The picture says otherwise: its hair lies {abs(off):.0f}° off this comb.")
            self.keep.set_words("Keep it as it is")

    def _keep(self) -> None:
        comb = self._comb()
        if comb is not None:
            words = "let the picture speak" if comb.kept else "keep a comb against the picture"
            self.session.edit(lambda p: edits.keep_comb(p, comb.id, kept=not comb.kept), words)

    def _swing(self) -> None:
        comb = self._comb()
        off = self._off(comb) if comb is not None else None
        if comb is not None and off is not None:
            self.session.edit(lambda p: edits.swing_comb(p, comb.id, off), "turn a comb to the picture")

    # Marks ----------------------------------------------------------------------------------------

    def _mark(self) -> Mark | None:
        project = self.session.project
        return next((m for m in project.marks if m.id == self.session.chosen["mark"]), None) if project else None

    def _refresh_marks(self, project: Project) -> None:
        mark = self._mark()
        self.mark_head.setVisible(bool(project.marks))
        self.marks.setVisible(bool(project.marks))
        rows = []
        for one in project.marks:
            name, note = mark_words(project, one)
            rows.append(Row(one.id, name, note))
        self.marks.set_rows(rows, mark.id if mark else "")
        crown = mark is not None and mark.kind == "crown"
        self.mark_turn.setVisible(crown)
        self.mark_words.setVisible(crown)
        self.mark_drop.setVisible(mark is not None)
        if crown and mark is not None:
            self.mark_turn.set_value(mark.turn_deg, 0.0, decided=True)
            self.mark_words.set_words(turn_words(mark.turn_deg))

    def _use_tool(self, tool: str) -> None:
        self.tool = tool
        self.session.choose(comb="", mark="")
        self.refresh()

    def _show_flow(self, on: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.growth_streams = on
        self.picture.refresh_overlay(now=True)

    def _choose_mark(self, mark_id: str) -> None:
        self.session.choose(mark=mark_id, comb="")
        mark = self._mark()
        if mark is not None and len(mark.points) > 1:
            self.picture.fly_to(mark.points[0], 0.0)

    def _turn_mark(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        mark_id = self.session.chosen["mark"]
        self.session.edit(lambda p: edits.change_mark(p, mark_id, turn_deg=value), "turn a crown", f"turn {mark_id}")
        if not going:
            self.session.seal()

    def _drop_mark(self) -> None:
        mark_id = self.session.chosen["mark"]
        if self.session.edit(lambda p: edits.remove_mark(p, mark_id), "drop a mark"):
            self.session.choose(mark="")

    def _add_mark(self, points: np.ndarray) -> None:
        project = self.session.project
        if project is None:
            return
        zone = (
            "" if self.tool == "source" else edits.zone_under(project, points if self.tool == "parting" else points[:1])
        )
        made = ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.add_mark(before, self.tool, zone or "", points)
            return after

        if self.session.edit(change, MARKS[self.tool]):
            self.session.choose(mark=made, comb="")

    # Gestures -------------------------------------------------------------------------------------

    def _comb(self) -> Comb | None:
        project = self.session.project
        return next((c for c in project.combs if c.id == self.session.chosen["comb"]), None) if project else None

    def _number(self, comb: Comb) -> int:
        project = self.session.project
        return [c.id for c in project.combs].index(comb.id) + 1 if project else 0

    def _length(self, comb: Comb) -> str:
        return self.mm(line_length(as_array(comb.points)))

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
        comb, mark = self._comb(), self._mark()
        if comb is not None:
            gap = np.hypot(*(as_array(comb.points) - at).T)
            if gap.min() < self.reach(10):
                self._held = int(np.argmin(gap))
                return
        if mark is not None and len(mark.points) > 1:
            gap = np.hypot(*(as_array(mark.points) - at).T)
            if gap.min() < self.reach(10):
                self._point = int(np.argmin(gap))
                return
        self.stroke = [at]

    def drag(self, at: Point, event: QMouseEvent) -> None:
        comb = self._comb()
        if self._held >= 0 and comb is not None:
            points = as_array(comb.points).copy()
            points[self._held] = at
            self.session.edit(lambda p: edits.change_comb(p, comb.id, points), "change a comb", f"comb {comb.id}")
        elif self._point >= 0:
            self._drag_mark(at)
        elif self.stroke:
            last = self.stroke[-1]
            if np.hypot(at[0] - last[0], at[1] - last[1]) >= self.reach(2):
                self.stroke.append(at)

    def _drag_mark(self, at: Point) -> None:
        mark = self._mark()
        if mark is None:
            return
        points = as_array(mark.points).copy()
        if mark.kind != "parting" and self._point == 0:
            points += np.array(at) - points[0]
        else:
            points[self._point] = at
        self.session.edit(lambda p: edits.change_mark(p, mark.id, points=points), "change a mark", f"mark {mark.id}")

    def release(self, at: Point, event: QMouseEvent) -> None:
        if self._held >= 0 or self._point >= 0:
            self._held = self._point = -1
            self.session.seal()
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
        if self.tool == "comb":
            self._add(simplify(points, self.reach(1.2)))
        else:
            self._add_mark(simplify(points, self.reach(1.2)) if self.tool == "parting" else points[[0, -1]])

    def _add(self, points: np.ndarray) -> None:
        project = self.session.project
        if project is None:
            return
        chosen = project.zone(self.session.chosen["zone"])
        # Whiskers lie over other zones: a comb belongs to them only while they are the chosen zone.
        owner = chosen.id if chosen is not None and not chosen.kind_of().cover else None
        made = ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.add_comb(before, points, owner)
            return after

        if self.session.edit(change, "comb"):
            comb = self._find(made)
            self.session.choose(comb=made, zone=comb.zone if comb else self.session.chosen["zone"])

    def _find(self, comb_id: str) -> Comb | None:
        project = self.session.project
        return next((c for c in project.combs if c.id == comb_id), None) if project else None

    def _click(self, at: Point) -> None:
        comb = self._comb_at(at)
        if comb is not None:
            self.session.choose(comb=comb.id, zone=comb.zone, mark="")
            return
        mark = self._mark_at(at)
        if mark is not None:
            self.session.choose(comb="", mark=mark.id)
            return
        zone = self.zone_at(at)
        self.session.choose(comb="", mark="", zone=zone.id if zone else "")

    def _mark_at(self, at: Point) -> Mark | None:
        project = self.session.project
        for mark in project.marks if project else ():
            if len(mark.points) < 2:
                continue
            if mark.kind == "parting":
                _, gap, _ = nearest_on(as_array(mark.points), np.array(at), closed=False)
            else:
                gap = abs(float(np.hypot(at[0] - mark.points[0][0], at[1] - mark.points[0][1])) - mark.radius)
            if gap < self.reach(9):
                return mark
        return None

    def busy(self) -> bool:
        return bool(self.stroke)

    def leave(self) -> None:
        self.stroke = []
        self._held = self._point = -1

    def key(self, event: QKeyEvent) -> bool:
        chosen = self.session.chosen
        if event.key() == Qt.Key.Key_Escape and (self.stroke or chosen["comb"] or chosen["mark"]):
            self.leave()
            self.session.choose(comb="", mark="")
            return True
        numbers = (Qt.Key.Key_1, Qt.Key.Key_2, Qt.Key.Key_3, Qt.Key.Key_4)
        if event.key() in numbers and not event.modifiers():
            self._use_tool(TOOLS[numbers.index(Qt.Key(event.key()))][0])
            return True
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self._mark() is not None:
            self._drop_mark()
            return True
        if event.key() == Qt.Key.Key_S and not event.modifiers():
            self.flow.set_value(on=not self.growth_streams)
            self._show_flow(not self.growth_streams)
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
        field = results.memo.peek(growth_key(results, readings.project, index, growth_frame(readings.project)))
        coat = project.coat_of(zone)
        hair = f"hair {mm_words(coat.length_mm)}, {mm_words(coat.width_mm)} at the root"
        if field is None:
            return [hair]
        direction, sure = field.sample(np.array([at]))
        angle = float(np.degrees(np.arctan2(direction[0, 1], direction[0, 0])))
        known = "sure" if sure[0] >= SURE_ENOUGH else "a guess"
        cell = np.floor(field.frame.to_grid(np.array([at]))[0]).astype(int) - (field.column, field.row)
        j, i = np.clip(cell, 0, (field.rooted.shape[1] - 1, field.rooted.shape[0] - 1))
        root = "" if field.rooted[i, j] else ", root and tip guessed"
        return [f"{compass_words(angle)}, {known} ({percent(sure[0])}){root}", hair]

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.session.project
        if project is None:
            return
        for mark in project.marks:
            paint_mark(p, view, mark, chosen=mark.id == self.session.chosen["mark"])
        self.found.paint(p, view)
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
        if len(self.stroke) > 1 and self.tool != "comb":
            line = np.array(self.stroke if self.tool == "parting" else [self.stroke[0], self.stroke[-1]])
            paint_mark(p, view, Mark("", self.tool, "", pairs(line)), chosen=True)
        elif len(self.stroke) > 1:
            points = view.to_screen(np.array(self.stroke))
            draw.comb(p, points)
            length = line_length(np.array(self.stroke))
            draw.over_words(
                p, points[-1][0] + 12, points[-1][1] + 4, f"root to tip · {self.mm(length)}", within=view.room
            )
