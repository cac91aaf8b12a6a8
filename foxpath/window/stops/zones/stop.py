"""Stop 2, Zones: outline the parts, name them, say what they are and what lies in front."""

import re

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPolygonF
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import Points
from foxpath.core.curves import closed_curve, inside, nearest_on, open_curve
from foxpath.core.units import count_words, percent
from foxpath.core.zones import KINDS, Proposed
from foxpath.core.zones.order import share_words
from foxpath.derive.lengths.markings import is_marking
from foxpath.derive.subjects import ZONES
from foxpath.derive.zones.outlining import ProposeParts
from foxpath.document import edits
from foxpath.document.model import Project, Zone, as_array
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button, Choice, Field, Measure, Scale
from foxpath.window.bench.rows import Gestures, NextStep, Rows, Section, Shingles, Words
from foxpath.window.bench.rows import Row as ListRow
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.zones.kinds import KindGrid, OwnKinds
from foxpath.window.stops.zones.scribble import Scribble
from foxpath.window.stops.zones.shape_acts import ShapeActs
from foxpath.window.stops.zones.tracing import Tracing

_NUMBERED = re.compile(r"Part \d+")
WEIGHT = Scale(0, 1, percent, step=0.05)
SEVERAL = 3
"""Fewer unnamed parts than this are not asked about."""


class ZonesStop(Stop):
    """Outline by clicking, let the line follow the picture's edge, or scribble; then join, cut and mend the parts."""

    code, title = "zones", "Zones"

    def make_panel(self) -> QWidget:
        self.draft: list[Point] = []
        self._held = -1
        self._hover: Point | None = None
        self._point = -1
        self.scribble = Scribble(self.session, self.reach, self)
        self.scribble.changed.connect(self._scribbled)
        self.next = NextStep("outline")
        self.next.asked.connect(self._next)
        self.tracing = Tracing(self.session, self)
        self.tracing.changed.connect(self._scribbled)
        ways = [("points", "Points"), ("trace", "Trace"), ("scribble", "Scribble"), ("mend", "Mend")]
        self.way = Choice(ways, "how zones are outlined")
        self.way.chosen.connect(self._set_way)
        self.settle_border = Button("Settle its whole border on the picture")
        self.settle_border.clicked.connect(self._settle)
        self.findings = FindingList("zones")
        self.findings.asked.connect(self._finding)
        self.list = Rows("zones, front to back")
        self.list.chosen.connect(self._choose)
        self.list_head = Section("Zones", "front to back")
        self.zone_head = Section("")
        self.name = Field("name of the zone")
        self.name.taken.connect(self._rename)
        self.kinds = KindGrid()
        self.kinds.taken.connect(self._set_kind)
        self.own = OwnKinds(self.session)
        self.shape = ShapeActs(self.session, self.reach)
        self.shape.begun.connect(self.leave)
        self.shape.changed.connect(self._scribbled)
        self.group_head = Section("Animal", "when there are several")
        self.group = Field("animal this zone belongs to")
        self.group.setPlaceholderText("none, or its name")
        self.group.blank = True
        self.group.taken.connect(self._set_group)
        self.groups_head = Section("Animals", "back to front · drag")
        self.groups = Shingles("animals, back to front")
        self.groups.moved.connect(self._set_group_rank)
        self.weight = Measure("The eye rests", WEIGHT)
        self.weight.changed.connect(self._set_weight)
        self.weight.reset.connect(lambda: self._set_weight(1.0, going=False))
        self.depth_head = Section("Depth", "back to front · drag")
        self.depth = Shingles()
        self.depth.chosen.connect(self._choose)
        self.depth.moved.connect(self._set_depth)
        self.laying_head = Section("Laying order", "within a pass")
        self.laying = Words("", 13, "text")
        self.laying_why = Words("", 12)
        self.remove = Button("Remove this zone")
        self.remove.clicked.connect(self._remove)
        return panel(
            self.next,
            Section("Outline", "new ones, or mend the chosen"),
            self.way,
            self.settle_border,
            self.findings,
            self.list_head,
            self.list,
            self.zone_head,
            self.name,
            self.kinds,
            self.shape,
            self.own,
            self.group_head,
            self.group,
            self.groups_head,
            self.groups,
            self.weight,
            self.depth_head,
            self.depth,
            self.laying_head,
            self.laying,
            self.laying_why,
            self.remove,
            Section("Say it with a stroke", "on the picture"),
            Gestures(
                [
                    ("outline", "outline", "click round it, then Enter"),
                    ("outline", "move a point", "drag it"),
                    ("outline", "add a point", "two clicks on the line"),
                    ("outline", "remove a point", "click it, Delete"),
                    ("outline", "trace", "click on along the edge"),
                    ("outline", "scribble, mend", "drag over its inside"),
                    ("outline", "take off", "Shift drag over the rest"),
                ]
            ),
        )

    def refresh(self) -> None:
        project, readings = self.session.project, self.session.readings
        if project is None:
            return
        numbers = {z.id: str(k) for k, z in enumerate(project.back_to_front(), 1)}
        areas = {}
        if readings is not None:
            areas = {z.id: f.area_cm2 for z, f in zip(readings.zones, readings.facts, strict=True)}
            self.findings.set_findings(list(readings.findings), [("show", "show me")])
        zone = project.zone(self.session.chosen["zone"])
        self.list.set_rows(
            [
                ListRow(
                    z.id,
                    f"{numbers[z.id]}  {z.name}",
                    z.kind_of().name,
                    f"{areas[z.id]:.0f} cm²" if z.id in areas else "",
                )
                for z in reversed(project.back_to_front())
            ],
            self.session.chosen["zone"],
        )
        self.depth.set_items([(z.id, numbers[z.id]) for z in project.back_to_front()], self.session.chosen["zone"])
        self.depth.setVisible(len(project.zones) > 1)
        self.depth_head.setVisible(len(project.zones) > 1)
        self._refresh_laying()
        self.settle_border.setVisible(self.way.value == "mend" and zone is not None and not zone.whole)
        for part in (self.zone_head, self.name, self.kinds, self.group_head, self.group):
            part.setVisible(zone is not None)
        self.shape.show_zone(zone)
        self.own.show_zone(zone)
        groups = [g for g in project.groups if g]
        for grouped in (self.groups_head, self.groups):
            grouped.setVisible(len(groups) > 1)
        self.groups.set_items([(g, g) for g in groups], zone.group if zone else "")
        self.weight.setVisible(len(groups) > 1 and zone is not None and bool(zone.group))
        if zone is not None:
            weight = project.weight_of(zone)
            self.weight.set_value(weight, 1.0, decided=weight < 1)
        self.remove.setVisible(zone is not None)
        if zone is not None:
            self.zone_head.set_words(f"{numbers[zone.id]}  {zone.name}", "kind of zone")
            self.name.show_words(zone.name)
            self.kinds.set_value("" if zone.own else zone.kind)
            self.group.show_words(zone.group)
        if self.shape:
            self.next.set_words(*self.shape.words(), "")
        elif self.session.runner.running("propose"):
            self.next.set_words("Looking for parts", "The animal first, then its parts by colour.", "")
        elif self.tracing:
            points = len(self.tracing.points)
            self.next.set_words(f"{points} points", "Click on along the edge; close on the first.", "Close it")
        elif self.draft:
            self.next.set_words(f"{len(self.draft)} points", "Close on the first point, or press Enter.", "Close it")
        elif self.way.value in ("scribble", "mend"):
            self._say_scribble()
        elif len(project.zones) < 2:
            self.next.set_words(
                "Outline the animal", "Click round it, or begin with parts from the picture.", "Propose"
            )
        elif self._unnamed():
            left = count_words(len(self._unnamed()), "part")
            self.next.set_words("Name the parts", f"{left} only numbered; join what belongs together.", "Next one")
        else:
            self.next.set_words("Comb the growth", "Or outline one more part.", "Go on")

    def _say_scribble(self) -> None:
        """Say what the next stroke is for; how much of what is found is known, and how much guessed."""
        cut, zone = self.scribble.cut, self._zone()
        mends = self.way.value == "mend"
        if self.scribble.failure:
            self.next.set_words("No border yet", self.scribble.failure, "")
        elif self.scribble.finding:
            self.next.set_words("Finding the border", "More strokes may follow.", "")
        elif cut is not None:
            shown = f"The picture shows {percent(cut.shown_share)} of it; dots are a guess."
            more = (
                "Shift drag takes off."
                if cut.asks is None
                else "In doubt: the ring. Click it if it is part, Shift click if not."
            )
            self.next.set_words("Border found", f"{shown} {more}", "Keep it")
        elif mends and (zone is None or zone.whole):
            self.next.set_words("Choose the part to mend", "Click it, on the picture or in the list.", "")
        elif mends and zone is not None:
            self.next.set_words(
                f"Mend {zone.name.lower()}", "Drag over what belongs to it, Shift drag over what does not.", ""
            )
        else:
            self.next.set_words("Scribble inside a part", "Then Shift drag over what is not part of it.", "")

    def _refresh_laying(self) -> None:
        """Say what is painted before what, and how much of the borders says so."""
        readings = self.session.readings
        laying = readings.close(ZONES).laying if readings is not None and len(readings.zones) > 2 else None
        for part in (self.laying_head, self.laying, self.laying_why):
            part.setVisible(laying is not None)
        if laying is None or readings is None:
            return
        covering = [k for k in laying.order if readings.zones[k].kind_of().cover]
        # Numbered as on the picture: names may hold commas of their own.
        self.laying.set_words(" · ".join(f"{k + 1} {readings.zones[k].name.lower()}" for k in covering))
        why = share_words(laying.said_share)
        for ring in laying.cycles:
            names = " over ".join(readings.zones[k].name.lower() for k in (*ring, ring[0]))
            why += f" A ring, {names}: depth decides; a parting or a zone of its own would end it."
        self.laying_why.set_words(why)

    def reading(self) -> str:
        project = self.session.project
        if project is None:
            return ""
        return count_words(len(project.zones), "zone")

    def state(self) -> draw.State:
        project, readings = self.session.project, self.session.readings
        if project is None or len(project.zones) < 2:
            return "no"
        if readings is not None and any(f.where == "zones" and f.level == "must" for f in readings.findings):
            return "you"
        return "ready"

    # The bench ------------------------------------------------------------------------------------

    def _next(self) -> None:
        project = self.session.project
        if self.draft or self.tracing:
            self._close()
        elif self.scribble:
            self._keep_cut()
        elif project is not None and len(project.zones) < 2:
            self.propose()
        elif self._unnamed():
            waiting = self._unnamed()
            after = [z for z in waiting if z.id != self.session.chosen["zone"]]
            self.session.choose(zone=(after or waiting)[0].id)
            self.show_zone(self.session.chosen["zone"])
        else:
            self.go_on()

    def _unnamed(self) -> list[Zone]:
        """Return the parts that still go by the number they were proposed under, when there are several."""
        project = self.session.project
        found = [z for z in project.zones if _NUMBERED.fullmatch(z.name)] if project is not None else []
        return found if len(found) >= SEVERAL else []

    def propose(self) -> None:
        """Look for a first set of parts in the picture."""
        project = self.session.project
        if project is not None:
            request = ProposeParts(self.session.results, project)
            self.session.runner.start("propose", request, self._take_proposed)
            self.refresh()

    def _take_proposed(self, parts: list[Proposed]) -> None:
        project = self.session.project
        if project is not None and parts:
            number = len(parts)
            self.session.edit(lambda p: edits.add_proposed(p, parts), f"propose {count_words(number, 'part')}")
            self.session.said.emit(
                f"{count_words(number, 'part')} proposed from the picture: name them, join them, mend them.", "note"
            )
        elif project is not None:
            self.session.said.emit("No part stands out in this picture. Outline the animal by hand.", "look")
        self.refresh()

    def _set_group(self, words: str) -> None:
        zone = self.session.chosen["zone"]
        self.session.edit(lambda p: edits.set_group(p, zone, words), f"animal {words}" if words else "no animal")

    def _set_weight(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        project = self.session.project
        zone = project.zone(self.session.chosen["zone"]) if project is not None else None
        if zone is None:
            return
        name = zone.group
        self.session.edit(
            lambda p: edits.set_weight(p, name, value), f"how much the eye rests on {name}", f"weight {name}"
        )
        if not going:
            self.session.seal()

    def _set_group_rank(self, name: str, rank: int) -> None:
        self.session.edit(lambda p: edits.set_group_rank(p, name, rank), "depth of an animal")

    def _set_way(self, _: str) -> None:
        self.leave()
        self.picture.update()

    def _scribbled(self) -> None:
        self.refresh()
        self.picture.update()

    def _finding(self, key: str, finding: object) -> None:
        self.show_zone(getattr(finding, "subject", ""))

    def _choose(self, zone_id: str) -> None:
        if self.scribble.mended:
            self.scribble.drop()
        self.session.choose(zone=zone_id)

    def _rename(self, words: str) -> None:
        zone = self.session.chosen["zone"]
        self.session.edit(lambda p: edits.change_zone(p, zone, name=words[:120]), f"name {words}")

    def _set_kind(self, key: str) -> None:
        zone = self.session.chosen["zone"]
        self.session.edit(lambda p: edits.set_kind(p, zone, key), f"kind {KINDS[key].name}")

    def _set_depth(self, zone_id: str, rank: int) -> None:
        self.session.edit(lambda p: edits.set_depth(p, zone_id, rank), "depth")

    def _remove(self) -> None:
        project = self.session.project
        zone = project.zone(self.session.chosen["zone"]) if project else None
        if zone is not None:
            self.session.edit(lambda p: edits.remove_zone(p, zone.id), f"remove {zone.name.lower()}")
            self.session.choose(zone="")

    # Gestures -------------------------------------------------------------------------------------

    def _zone(self) -> Zone | None:
        project = self.session.project
        return project.zone(self.session.chosen["zone"]) if project else None

    def zone_at(self, at: Point) -> Zone | None:
        """Return the zone under a reference pixel; a marking before the coat it lies in."""
        project = self.session.project
        place = np.array(at)
        for zone in reversed(project.back_to_front() if project is not None else ()):
            if is_marking(zone) and inside(zone.shape.outline(), place[:1], place[1:]).any():
                return zone
        return super().zone_at(at)

    def _near_point(self, at: Point) -> int:
        zone = self._zone()
        if zone is None or zone.whole:
            return -1
        gap = np.hypot(*(as_array(zone.points) - at).T)
        best = int(np.argmin(gap))
        return best if gap[best] < self.reach(9) else -1

    def press(self, at: Point, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.RightButton:
            if self.scribble:
                self.scribble.take_back()
            else:
                self.leave()
            return
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self.shape:
            self.shape.press(at)
            return
        if self.way.value == "trace":
            self._trace(at)
            return
        if self.way.value != "points":
            self._held = -1 if self.scribble else self._near_point(at)
            self._point = self._held
            if self._held < 0:
                zone = self._zone()
                if self.way.value == "mend" and not self.scribble:
                    self.scribble.mended = zone.id if zone is not None and not zone.whole else ""
                self.scribble.press(at, within=not event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            return
        if self.draft:
            if len(self.draft) >= 3 and np.hypot(at[0] - self.draft[0][0], at[1] - self.draft[0][1]) < self.reach(11):
                self._close()
            else:
                self.draft.append(self._snapped(at))
                self.refresh()
            return
        self._held = self._point = self._near_point(at)
        if self._held >= 0:
            return
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier or self.zone_at(at) is None:
            self._begin(at)
            return

    def _snapped(self, at: Point) -> Point:
        """Return the point of another outline that lies under the pointer: the two then share it."""
        project = self.session.project
        best, gap = at, self.reach(6)
        for zone in project.zones if project else ():
            if not zone.whole:
                away = np.hypot(*(as_array(zone.points) - at).T)
                if away.min() < gap:
                    best, gap = zone.points[int(away.argmin())], float(away.min())
        return best

    def _trace(self, at: Point) -> None:
        """Go on with a traced outline, or close it on its first point."""
        first = self.tracing.points[0] if self.tracing else None
        if first is not None and len(self.tracing.points) >= 3 and np.hypot(*np.subtract(at, first)) < self.reach(11):
            self._close()
            return
        if first is None:
            self.session.choose(zone="")
        # As far around as the eye reaches on the screen.
        self.tracing.room = self.reach(420)
        self.tracing.click(at)

    def _begin(self, at: Point) -> None:
        self.draft = [self._snapped(at)]
        self.session.choose(zone="")
        self.refresh()

    def drag(self, at: Point, event: QMouseEvent) -> None:
        self.scribble.drag(at)
        self.shape.drag(at)
        if self._held >= 0:
            zone, index = self.session.chosen["zone"], self._held
            self.session.edit(lambda p: edits.move_point(p, zone, index, at), "move a point", f"point {zone} {index}")

    def release(self, at: Point, event: QMouseEvent) -> None:
        if self._held >= 0:
            self._held = -1
            self.session.seal()
            return
        if self.shape:
            self.shape.release(self.zone_at(at))
            return
        if self.way.value == "trace":
            return
        if self.scribble:
            # A click among strokes is a dot; before the first it chooses a zone, and on what is no part yet begins one.
            under = self.zone_at(at)
            dot = bool(self.scribble.strokes) or (self.way.value == "scribble" and (under is None or under.whole))
            if self.way.value == "mend" and not self.scribble.mended:
                self.scribble.drop()
            if not self.scribble.release(dot=dot) and not self.scribble and under is not None:
                self.session.choose(zone=under.id)
            return
        if self.draft or event.button() != Qt.MouseButton.LeftButton:
            return
        zone, under = self._zone(), self.zone_at(at)
        on_line = zone is not None and not zone.whole and self._near_line(zone, at)
        if under is None or on_line:
            return
        if under.whole or (zone is not None and under.id == zone.id):
            # A click inside the chosen zone, or on the background, begins a new outline there.
            self._begin(at)
        else:
            self.session.choose(zone=under.id)

    def _near_line(self, zone: Zone, at: Point) -> bool:
        _, gap, _ = nearest_on(closed_curve(as_array(zone.points)), np.array(at), closed=True)
        return gap < self.reach(8)

    def double_click(self, at: Point, event: QMouseEvent) -> None:
        if len(self.draft) >= 3:
            self._close()
            return
        zone = self._zone()
        if zone is None or zone.whole:
            return
        per_span = 12
        index, gap, place = nearest_on(closed_curve(as_array(zone.points), per_span), np.array(at), closed=True)
        if gap < self.reach(10):
            after = index // per_span
            self.session.edit(
                lambda p: edits.insert_point(p, zone.id, after, (float(place[0]), float(place[1]))), "add a point"
            )
            self._point = after + 1

    def hover(self, at: Point) -> None:
        self._hover = at

    def _close(self) -> None:
        points = np.array(self.tracing.close() if self.tracing else self.draft)
        self.draft = []
        self._add(points, "outline a zone")

    def _keep_cut(self) -> None:
        cut = self.scribble.cut
        if cut is None or self.scribble.finding:
            return
        mended = self.scribble.mended
        self.scribble.drop()
        if mended:
            self.session.edit(lambda p: edits.set_outline(p, mended, cut.points), "mend a zone")
            self.refresh()
        else:
            self._add(cut.points, "scribble a zone")

    def _settle(self) -> None:
        zone = self._zone()
        if zone is not None and not zone.whole:
            self.scribble.settle(zone.id)

    def _add(self, points: Points, words: str) -> None:
        made = ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.add_zone(before, f"Part {len(before.zones)}", "short-fur", points)
            return after

        if self.session.edit(change, words):
            self.session.choose(zone=made)
        self.refresh()

    def busy(self) -> bool:
        return bool(self.draft or self.scribble or self.tracing or self.shape)

    def take_back(self) -> bool:
        if self.scribble:
            self.scribble.take_back()
        elif self.tracing:
            self.tracing.take_back()
        elif self.shape:
            self.shape.drop()
            self.refresh()
        elif self.draft:
            self.draft.pop()
            self.refresh()
        else:
            return False
        return True

    def leave(self) -> None:
        self.draft = []
        self.shape.drop()
        self.scribble.drop()
        self.tracing.drop()
        self.session.runner.cancel("propose")
        self._held = self._point = -1
        self.refresh()

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_Escape and self.busy():
            self.leave()
            return True
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self.scribble:
                self._keep_cut()
                return True
            if len(self.tracing.points) >= 3 or len(self.draft) >= 3:
                self._close()
                return True
        if event.key() in (Qt.Key.Key_Backspace, Qt.Key.Key_Delete):
            if self.take_back():
                return True
            zone, index = self.session.chosen["zone"], self._point
            if index >= 0:
                self._point = -1
                return self.session.edit(lambda p: edits.remove_point(p, zone, index), "remove a point")
        return False

    def zone_words(self, zone: Zone, at: Point) -> list[str]:
        readings = self.session.readings
        words = [zone.kind_of().name]
        if readings is not None:
            area = next((f.area_cm2 for z, f in zip(readings.zones, readings.facts, strict=True) if z.id == zone.id), 0)
            words.append(f"{area:.0f} cm²")
        return words

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.session.project
        if project is None:
            return
        chosen = self.session.chosen["zone"]
        for zone in project.zones:
            if not zone.whole and zone.id != chosen:
                draw.cased_path(p, self._outline(zone, view), 1.1)
        current = project.zone(chosen)
        self.paint_tags(p, view, (chosen,))
        if current is not None and self.scribble.mended and self.scribble.cut is not None:
            # What it was stays in sight, without points that could be taken for those of what was found.
            draw.cased_path(p, self._outline(current, view), 1.1)
        elif current is not None and not current.whole:
            path = self._outline(current, view)
            draw.cased_path(p, path, 3.4)
            draw.cased_path(p, path, 1.8, "russet")
            for k, (x, y) in enumerate(view.to_screen(as_array(current.points))):
                held = k in (self._held, self._point)
                draw.circle(p, x, y, 4.8 if held else 3.6, "russet" if held else "over_light", "over_dark", 1.2)
        if self.draft or self.tracing:
            self._paint_draft(p, view)
        self.shape.paint(p, view)
        self.scribble.paint(p, view)

    @staticmethod
    def _outline(zone: Zone, view: Viewport) -> QPainterPath:
        path = QPainterPath()
        path.addPolygon(QPolygonF(draw.polygon(view.to_screen(closed_curve(as_array(zone.points))))))
        path.closeSubpath()
        return path

    def _paint_draft(self, p: QPainter, view: Viewport) -> None:
        draft = self.draft or self.tracing.points
        points = [*draft, self._hover] if self._hover and self.draft else draft
        if len(points) > 1:
            draw.cased_path(p, draw.polygon(view.to_screen(open_curve(np.array(points)))), 1.8, "russet")
        if self.tracing and self._hover:
            way = self.tracing.way_to(self._hover)
            line = view.to_screen(way if way is not None else np.array([draft[-1], self._hover]))
            draw.cased_path(p, draw.polygon(line), 1.8 if way is not None else 1.0, "russet")
        for k, (x, y) in enumerate(view.to_screen(np.array(draft))):
            draw.circle(p, x, y, 5.5 if k == 0 else 3.6, "over_light", "russet" if k == 0 else "over_dark", 1.8)
        if len(draft) >= 3:
            x, y = view.to_screen(np.array(draft[:1]))[0]
            draw.over_words(p, x + 14, y - 10, "close here", within=view.room)
        p.setBrush(colour("russet"))
