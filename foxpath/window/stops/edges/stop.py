"""Stop 4, Edges: how soft every border is, and how wide its transition."""

from collections.abc import Hashable

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPainterPathStroker, QPen
from PySide6.QtWidgets import QWidget

from foxpath.core.curves import line_length, nearest_on, resample, simplify
from foxpath.core.edges import (
    GRADES,
    NOTHING,
    RELIABLE,
    Border,
    EdgePlan,
    EdgeReading,
    Grade,
    even_parts,
    grade_of_width,
    hard_shares,
)
from foxpath.core.growth import SURE_ENOUGH
from foxpath.core.units import count_words, mm_words, percent
from foxpath.derive.passes.wetness import making_at
from foxpath.derive.subjects import EDGES
from foxpath.document import edits
from foxpath.document.model import BARE, Project
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button, Choice, Measure, Scale
from foxpath.window.bench.rows import Gestures, NextStep, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import Stop
from foxpath.window.stops.edges.markings import crossed_share, over_words, paint_marking
from foxpath.window.stops.on_picture import Point

WIDTH = Scale(0.2, 40, mm_words, ratio=True)
GIVES_WAY = Scale(0, 30, lambda v: mm_words(v) if v > 0 else "as it is", step=0.5)
_RANGES = {"lost": "over 10 mm", "soft": "3 to 10 mm", "firm": "0.8 to 3 mm", "hard": "under 0.8 mm"}


def _times(ratio: float) -> str:
    return f"{ratio:.1f} ×" if ratio >= 1 else f"1/{1 / ratio:.1f} of"


class EdgesStop(Stop):
    """Every border has a grade by rule; choose one to decide it."""

    code, title = "edges", "Edges"
    cursor = Qt.CursorShape.PointingHandCursor
    reads_painting = True

    def make_panel(self) -> QWidget:
        self.next = NextStep("edge")
        self.next.asked.connect(self._next)
        self.grades = Rows("edges of each grade")
        self.grades.chosen.connect(self._first_of)
        self.empty = Words("Edges lie between zones, and there are not two yet.", 13)
        self.edge_head = Section("", "plan")
        self.choice = Choice([(g, g) for g in GRADES], "grade")
        self.choice.chosen.connect(self._set_grade)
        self.width = Measure("Width", WIDTH)
        self.width.changed.connect(self._set_width)
        self.width.reset.connect(self._clear)
        self.reason = Words("", 12.5)
        self.photo = Rows("plan against photograph")
        self.making = Words("", 13, "text")
        self.needs = Words("", 12.5)
        self.take = Button("Take the photograph's width")
        self.take.clicked.connect(self._take_photo)
        self.hard_head = Section("Hard edges", "share of the length")
        self.hard = Rows("hard edges, near and far")
        self.back = Button("Back to the rule")
        self.back.clicked.connect(self._clear)
        self.along_head = Section("Along it", "stretches of their own")
        self.along = Rows("stretches with a width of their own")
        self.along.chosen.connect(self._choose_stretch)
        self.along_width = Measure("Its width", WIDTH)
        self.along_width.changed.connect(self._set_stretch)
        self.along_width.reset.connect(self._drop_stretch)
        self.drop = Button("Back to the border's own width")
        self.drop.clicked.connect(self._drop_stretch)
        self.marks_head = Section("Markings", "where hair crosses their border")
        self.marks = Rows("markings in a coat")
        self.marks.chosen.connect(self._show_marking)
        self.marking_soft = Measure("Gives way over", GIVES_WAY)
        self.marking_soft.changed.connect(self._soften_marking)
        self.marking_soft.reset.connect(lambda: self._soften_marking(0.0, going=False))
        self._stretch = ""
        self._path: list[Point] = []
        self.list = Rows("edges, longest first")
        self.list.chosen.connect(self._choose_key)
        self.list_head = Section("Every edge", "longest first")
        return panel(
            self.next,
            Section("Grades", "edges"),
            self.grades,
            self.empty,
            self.edge_head,
            self.choice,
            self.width,
            self.reason,
            self.photo,
            self.take,
            self.making,
            self.needs,
            self.back,
            self.along_head,
            self.along,
            self.along_width,
            self.drop,
            self.hard_head,
            self.hard,
            self.marks_head,
            self.marks,
            self.marking_soft,
            self.list_head,
            self.list,
            Section("Say it with a stroke", "on the picture"),
            Gestures(
                [
                    ("edge", "choose a border", "click it"),
                    ("edge", "grade it", "keys 1 to 4"),
                    ("edge", "grade a stretch", "drag along it, set width"),
                ]
            ),
        )

    # What is there --------------------------------------------------------------------------------

    def _edges(self) -> tuple[tuple[Border, EdgePlan], ...]:
        return self.session.readings.of(EDGES).edges if self.session.readings else ()

    def _ids(self, border: Border) -> tuple[str, str]:
        zones = self.session.readings.zones  # type: ignore[union-attr]
        return zones[border.front].id, zones[border.back].id if border.back >= 0 else BARE

    def _names(self, border: Border) -> tuple[str, str]:
        project = self.session.project
        front, back = self._ids(border)
        a, b = (project.zone(front), project.zone(back)) if project else (None, None)
        return a.name if a else "gone", b.name.lower() if b else "bare canvas"

    def _current(self) -> tuple[Border, EdgePlan] | None:
        chosen = self.session.chosen.edge
        return next(((b, plan) for b, plan in self._edges() if self._ids(b) == chosen), None)

    def refresh(self) -> None:
        edges = self._edges()
        self.empty.setVisible(not edges)
        if edges:
            self.session.read_painted()
        current = self._current()
        counts = {g: sum(plan.grade == g for _, plan in edges) for g in GRADES}
        self.grades.set_rows(
            [Row(g, g, _RANGES[g], str(counts[g]), swatch=g) for g in GRADES], current[1].grade if current else ""
        )
        self.take.setVisible(False)
        for part in (self.edge_head, self.choice, self.width, self.reason, self.photo, self.making, self.needs):
            part.setVisible(current is not None)
        self._refresh_hard(edges)
        self.back.setVisible(current is not None and current[1].decided)
        self._refresh_along(current is not None)
        self._refresh_markings()
        if current is not None:
            border, plan = current
            front, back = self._names(border)
            self.edge_head.set_words(f"{front} over {back}", "decided" if plan.decided else "by rule")
            self.choice.set_value(plan.grade)
            self.width.set_value(plan.width_mm, decided=plan.decided)
            self.reason.set_words(f"{mm_words(border.length_mm)} long · {plan.reason}")
            self._refresh_photo(border, plan)
        self.list.set_rows(
            [
                Row(
                    "|".join(self._ids(border)),
                    f"{self._names(border)[0]} over {self._names(border)[1]}",
                    "",
                    mm_words(plan.width_mm),
                    off=not plan.decided,
                )
                for border, plan in edges[:40]
            ],
            "|".join(self.session.chosen.edge),
        )
        self.list.setVisible(bool(edges))
        self.list_head.setVisible(bool(edges))
        if not edges:
            self.next.set_words("Outline two parts", "Edges lie between zones.", "Zones")
        elif any(plan.decided for _, plan in edges):
            self.next.set_words("Measure the hair", self.next_words(), "Go on")
        else:
            self.next.set_words("Look at the longest edges", "All are graded by rule so far.", "Show me")

    def _refresh_along(self, chosen: bool) -> None:  # noqa: FBT001  (whether a border is chosen)
        project = self.session.project
        own = project.stretches_of(*self.session.chosen.edge) if project is not None and chosen else ()
        if self._stretch not in {one.id for one in own}:
            self._stretch = own[-1].id if own else ""
        current = next((one for one in own if one.id == self._stretch), None)
        for part in (self.along_head, self.along):
            part.setVisible(bool(own))
        for own_part in (self.along_width, self.drop):
            own_part.setVisible(current is not None)
        self.along.set_rows(
            [
                Row(
                    one.id,
                    f"Stretch {k}",
                    self.mm(line_length(np.array(one.points))) + " long",
                    f"{grade_of_width(one.width_mm)} {mm_words(one.width_mm)}",
                )
                for k, one in enumerate(own, 1)
            ],
            self._stretch,
        )
        if current is not None:
            self.along_width.set_value(current.width_mm, decided=True)

    def _refresh_markings(self) -> None:
        readings, project = self.session.readings, self.session.project
        found = readings.close(EDGES).markings if readings is not None else {}
        for part in (self.marks_head, self.marks):
            part.setVisible(bool(found))
        rows = []
        for key, stretches in found.items():
            zone = project.zone(key) if project is not None else None
            if zone is not None:
                share = crossed_share(stretches)
                words = "no growth beneath" if not stretches else f"{percent(share)} crossed"
                rows.append(Row(key, zone.name, over_words(stretches), words))
        self.marks.set_rows(rows, self.session.chosen["zone"])
        zone = project.zone(self.session.chosen["zone"]) if project is not None else None
        marking = zone is not None and zone.kind_of().key == "marking"
        self.marking_soft.setVisible(marking)
        if zone is not None and marking:
            self.marking_soft.set_value(zone.soft_mm, 0.0, decided=zone.soft_mm > 0)

    def _soften_marking(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        zone = self.session.chosen["zone"]
        self.session.edit(lambda p: edits.soften_marking(p, zone, value), "the border of a marking", f"marking {zone}")
        if not going:
            self.session.seal()

    def _show_marking(self, key: str) -> None:
        self.session.choose(zone=key)
        project = self.session.project
        zone = project.zone(key) if project is not None else None
        if zone is not None and not zone.whole:
            self.picture.fly_to(zone.middle(), 240)

    def _photo_of(self, border: Border) -> EdgeReading:
        readings = self.session.readings
        return (
            readings.close(EDGES).photo.get((border.front, border.back), NOTHING) if readings is not None else NOTHING
        )

    def _refresh_photo(self, border: Border, plan: EdgePlan) -> None:
        """Lay plan and photograph side by side: evidence, not law."""
        photo = self._photo_of(border)
        known = photo.reliable >= RELIABLE
        if known:
            ratio = plan.width_mm / photo.width
            apart = "as in the photograph" if 0.75 < ratio < 1.33 else f"{_times(ratio)} the photograph's"
            whose = (
                f"borrowed from {photo.borrowed.lower()}" if photo.borrowed else f"{percent(photo.reliable)} reliable"
            )
            rows = [
                Row("photo", "In the photograph", whose, mm_words(photo.width)),
                Row("along", "Along it", "", f"{mm_words(photo.low)} to {mm_words(photo.high)}"),
                Row("plan", "Planned", apart, mm_words(plan.width_mm)),
            ]
        else:
            rows = [
                Row("photo", "In the photograph", "nothing there", "borrow at Growth", off=True),
                Row("plan", "Planned", "", mm_words(plan.width_mm)),
            ]
        seen = self.session.rehearsal.widths.get(self._ids(border))
        if seen is not None and np.isfinite(seen):
            rows.append(Row("painted", "In the rehearsal", "as it comes out", mm_words(seen)))
        self.photo.set_rows(rows, "")
        self.take.setVisible(known and abs(photo.width - plan.width_mm) > 0.05)
        project = self.session.readings.project  # type: ignore[union-attr]
        made = making_at(self.session.results, project, border, plan)
        self.making.set_words(f"{made.way[0].upper()}{made.way[1:]}: {made.how}.")
        self.needs.set_words(f"needs {made.needs}")

    def _refresh_hard(self, edges: tuple[tuple[Border, EdgePlan], ...]) -> None:
        """Say how much of the borders' length is hard, near the focal point and far from it."""
        project = self.session.project
        for part in (self.hard_head, self.hard):
            part.setVisible(bool(edges))
        if project is None or not edges:
            return
        share = hard_shares(self._bands(), project.focal_point, project.crop)
        self.hard.set_rows(
            [
                Row("near", "Near the focal point", "", percent(share[0])),
                Row("far", "Far from it", "too many" if share[1] > share[0] else "", percent(share[1])),
            ],
            "",
        )

    def _bands(self) -> list[tuple[np.ndarray, np.ndarray]]:
        """Return every stretch of border with the planned width at each of its points, mm."""
        readings = self.session.readings
        if readings is None:
            return []
        return [
            (run, along)
            for border, plan in readings.of(EDGES).edges
            for run, along in zip(border.runs, self._widths(border, plan), strict=True)
        ]

    def _widths(self, border: Border, plan: EdgePlan) -> tuple[np.ndarray, ...]:
        known = self.session.readings.close(EDGES).widths if self.session.readings else {}
        return known.get((border.front, border.back)) or tuple(np.full(len(run), plan.width_mm) for run in border.runs)

    def _take_photo(self) -> None:
        current = self._current()
        if current is not None:
            width = min(max(self._photo_of(current[0]).width, 0.1), 40.0)
            self._decide(grade_of_width(width), round(width, 2))

    def reading(self) -> str:
        edges = self._edges()
        if not edges:
            return "none yet"
        decided = sum(plan.decided for _, plan in edges)
        return f"{count_words(len(edges), 'edge')} · {f'{decided} decided' if decided else 'by rule'}"

    def state(self) -> draw.State:
        edges = self._edges()
        if not edges:
            return "no"
        return "ready" if any(plan.decided for _, plan in edges) else "begun"

    # Deciding -------------------------------------------------------------------------------------

    def _next(self) -> None:
        edges = self._edges()
        if not edges:
            self.go_to.emit("zones")
        elif any(plan.decided for _, plan in edges):
            self.go_on()
        else:
            self._show(edges[0][0])

    def _show(self, border: Border) -> None:
        self.session.choose(edge=self._ids(border))
        x, y = border.middle()
        self.picture.fly_to((float(x), float(y)), 240)

    def _first_of(self, grade: str) -> None:
        found = next((b for b, plan in self._edges() if plan.grade == grade), None)
        if found is not None:
            self._show(found)

    def _choose_key(self, key: str) -> None:
        front, back = key.split("|")
        self.session.choose(edge=(front, back))

    def _decide(self, grade: Grade, width_mm: float, merge: str = "") -> None:
        front, back = self.session.chosen.edge
        if front:
            self.session.edit(lambda p: edits.set_edge(p, front, back, grade, width_mm), f"{grade} edge", merge)

    def _set_grade(self, grade: str) -> None:
        for name, (_, _, usual) in GRADES.items():
            if name == grade:
                self._decide(name, usual)

    def _set_width(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self._decide(grade_of_width(value), value, f"edge width {self.session.chosen.edge}")
        if not going:
            self.session.seal()

    def _clear(self) -> None:
        front, back = self.session.chosen.edge
        self.session.edit(lambda p: edits.clear_edge(p, front, back), "edge back to the rule")

    def _choose_stretch(self, key: str) -> None:
        self._stretch = key
        self.refresh()
        self.picture.update()

    def _set_stretch(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        key = self._stretch
        self.session.edit(lambda p: edits.set_stretch(p, key, value), "width of a stretch", f"stretch {key}")
        if not going:
            self.session.seal()

    def _drop_stretch(self) -> None:
        key = self._stretch
        self.session.edit(lambda p: edits.remove_stretch(p, key), "stretch back to its border")

    # The picture ----------------------------------------------------------------------------------

    def _nearest(self, at: Point) -> tuple[Border, EdgePlan] | None:
        best: tuple[float, tuple[Border, EdgePlan]] | None = None
        for border, plan in self._edges():
            half = plan.width_mm / 2 / self.session.project.mm_per_px  # type: ignore[union-attr]
            for run in border.runs:
                _, gap, _ = nearest_on(run, np.array(at), closed=False)
                if gap < max(self.reach(9), half) and (best is None or gap < best[0]):
                    best = (gap, (border, plan))
        return best[1] if best else None

    def press(self, at: Point, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton and self.session.readings is not None:
            found = self._nearest(at)
            self.session.choose(edge=self._ids(found[0]) if found else ("", ""))
            self._path = [at] if found else []

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._path:
            self._path.append(at)

    def release(self, at: Point, event: QMouseEvent) -> None:
        """End a drag along a border: what lay under it becomes a stretch with a width of its own."""
        path, self._path = np.array(self._path).reshape(-1, 2), []
        current = self._current()
        if current is None or len(path) < 2 or np.ptp(path, axis=0).max() < self.reach(12):
            return
        border, plan = current
        line = self._under(border, path)
        if line is None:
            self.session.said.emit("That stroke leaves the border. Drag along it.", "look")
            return
        front, back = self._ids(border)
        # One grade harder to begin with (a hard border: one softer), so that the stretch shows; then its width is dragged.
        order = list(GRADES)
        nearest = order[min(order.index(plan.grade) + 1, len(order) - 1)]
        width = GRADES[nearest if nearest != plan.grade else order[-2]][2]
        made = ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.add_stretch(before, front, back, line, width)
            return after

        if self.session.edit(change, "grade a stretch"):
            self._stretch = made
            self.refresh()

    def _under(self, border: Border, path: np.ndarray) -> np.ndarray | None:
        """Return the part of a border along which a stroke was dragged; None when it left the border."""
        best: tuple[float, np.ndarray] | None = None
        for run in border.runs:
            if len(run) < 2:
                continue
            first, last = (nearest_on(run, end, closed=False) for end in (path[0], path[-1]))
            middle = nearest_on(run, path[len(path) // 2], closed=False)
            off = max(first[1], middle[1], last[1])
            a, b = sorted((first[0], last[0]))
            line = run[a : b + 2]
            closed = np.hypot(*(run[0] - run[-1])) < 2 * np.hypot(*(run[1] - run[0]))
            if closed and not a <= middle[0] <= b + 1:
                # Round the start of a closed border.
                line = np.vstack([run[b:], run[: a + 1]])
            if len(line) >= 2 and (best is None or off < best[0]):
                best = (off, line)
        return best[1] if best is not None and best[0] < self.reach(26) else None

    def key(self, event: QKeyEvent) -> bool:
        digits = (Qt.Key.Key_1, Qt.Key.Key_2, Qt.Key.Key_3, Qt.Key.Key_4)
        if self.session.chosen.edge[0] and event.key() in digits:
            self._set_grade(list(GRADES)[digits.index(Qt.Key(event.key()))])
            return True
        if event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.session.chosen.edge[0]:
            self._clear()
            return True
        if event.key() == Qt.Key.Key_Escape and self.session.chosen.edge[0]:
            self.session.choose(edge=("", ""))
            return True
        return False

    def words_at(self, at: Point) -> str:
        project = self.session.project
        if project is None:
            return ""
        found = self._nearest(at) if self.session.readings else None
        if found is None:
            return super().words_at(at)
        border, plan = found
        front, back = self._names(border)
        fx, fy = project.focal_point
        away = float(np.hypot(at[0] - fx, at[1] - fy))
        photo = self._photo_of(border)
        seen = f" · photograph {mm_words(photo.width)}" if photo.reliable >= RELIABLE else ""
        planned = f"{front.lower()} over {back} · {plan.grade} {mm_words(plan.width_mm)}"
        return f"{planned}{seen} · {self.mm(away)} from the focal point"

    def still_key(self) -> Hashable:
        """The bands follow from the readings and the chosen edge."""
        readings = self.session.readings
        return None if readings is None else (readings, self.session.chosen.edge)

    def paint_still(self, p: QPainter, view: Viewport) -> None:
        readings = self.session.readings
        if readings is None:
            return
        px_per_mm = view.scale / readings.project.mm_per_px
        chosen = self.session.chosen.edge
        for border, plan in sorted(self._edges(), key=lambda pair: self._ids(pair[0]) == chosen):
            on = self._ids(border) == chosen
            for run, along in zip(border.runs, self._widths(border, plan), strict=True):
                for first, last, width in even_parts(along, 1.25):
                    self._band(
                        p, view.to_screen(run[first : last + 1]), grade_of_width(width), width * px_per_mm, on=on
                    )
        self._paint_fringes(p, view, chosen)
        for stretches in readings.close(EDGES).markings.values():
            for stretch in stretches:
                paint_marking(p, view, stretch, px_per_mm)

    def paint(self, p: QPainter, view: Viewport) -> None:
        project, readings = self.session.project, self.session.readings
        if project is None or readings is None:
            return
        chosen = self.session.chosen.edge
        own = next((s for s in project.stretches if s.id == self._stretch), None)
        if own is not None and (own.front, own.back) == chosen:
            for x, y in view.to_screen(np.array([own.points[0], own.points[-1]])):
                draw.circle(p, x, y, 4.6, "russet", "over_light", 1.6)
        if len(self._path) > 1:
            draw.cased_path(p, draw.polygon(view.to_screen(np.array(self._path))), 1.6, "russet")
        self.paint_tags(p, view, chosen)
        at = view.at(project.focal_point)
        draw.focal_point(p, at.x(), at.y())
        current = self._current()
        if current is not None:
            middle = view.at(tuple(current[0].middle()))
            draw.over_words(
                p,
                middle.x() + 16,
                middle.y() - 14,
                f"{current[1].grade} {mm_words(current[1].width_mm)}",
                within=view.room,
            )

    def _paint_fringes(self, p: QPainter, view: Viewport, chosen: tuple[str, str]) -> None:
        """Draw the ragged fringe that hangs over the chosen border, at true scale."""
        readings = self.session.readings
        current = self._current()
        if readings is None or current is None or self._ids(current[0]) != chosen:
            return
        found = readings.close(EDGES).fringes.get((current[0].front, current[0].back))
        if found is None:
            return
        lines, sure = found
        coat = readings.facts[current[0].front].coat
        wide = max(1.0, coat.width_mm * view.scale / readings.project.mm_per_px)
        for line, known in zip(lines, sure, strict=True):
            tone = "over_light" if known >= SURE_ENOUGH else "over_dark"
            draw.stroke(p, view.to_screen(line.astype(np.float64)), wide, 0.25, tone)

    @staticmethod
    def _band(p: QPainter, line: np.ndarray, grade: Grade, wide: float, *, on: bool) -> None:
        """Draw a border as a band of its transition's width, px; the rails are never closer than 3.8 px."""
        wide = max(wide, 3.8)
        # A point for every half millimetre is more than the screen shows, and outlining a stroke takes its time.
        line = simplify(line, 0.35)
        path = QPainterPath()
        path.addPolygon(draw.polygon(line))
        wash = {"lost": 0.10, "soft": 0.18, "firm": 0.14, "hard": 0.0}[grade]
        tone, strength = ("russet", 0.5) if on else ("over_light", wash)
        if strength:
            pen = QPen(colour(tone, strength), wide)
            pen.setCapStyle(Qt.PenCapStyle.FlatCap)
            pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
            p.setPen(pen)
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawPath(path)
        if grade == "hard":
            draw.cased_path(p, path, 1.8, "russet" if on else "over_light")
            return
        if grade == "lost":
            length = line_length(line)
            count = int(length / 7)
            if count < 2:
                return
            at = resample(line, count)
            step = np.gradient(at, axis=0)
            normal = np.stack([-step[:, 1], step[:, 0]], axis=1) / (np.hypot(*step.T)[:, None] + 1e-9)
            side = np.array([-0.32, 0.3, -0.06, 0.4, -0.4, 0.1])[np.arange(count) % 6]
            for x, y in at + normal * (side * wide)[:, None]:
                draw.circle(p, x, y, 1.9, "over_dark")
                draw.circle(p, x, y, 1.1, "over_light")
            return
        outline = QPainterPathStroker()
        outline.setWidth(wide)
        outline.setCapStyle(Qt.PenCapStyle.FlatCap)
        outline.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        rails = outline.createStroke(path).simplified()
        draw.cased_path(p, rails, 1.3, "over_light", (9, 5) if grade == "soft" else ())
