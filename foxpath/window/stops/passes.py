"""Stop 7, Passes: the ordered layers with their values, brush and marks; the painting as it stands after each."""

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QHBoxLayout, QWidget

from foxpath.core.cautions import cautions_for
from foxpath.core.passes import PassEdit, PassPlan, brush_words
from foxpath.core.units import duration_words, grouped, mm_words, percent
from foxpath.document import edits
from foxpath.document.model import Zone
from foxpath.window import draw
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Button, Control, Measure, Scale, YesNo
from foxpath.window.bench.rows import NextStep, Section, Words
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Point, Stop
from foxpath.window.stops.schools import SchoolPanel
from foxpath.window.stops.study import Study
from foxpath.window.theme import colour

COVER = Scale(0, 8, lambda v: percent(v), step=0.05)
SHARE = Scale(0.1, 4, lambda v: percent(v), ratio=True)
SPREAD_SHARE = Scale(0, 4, lambda v: percent(v), step=0.05)
BRUSH = Scale(0.2, 100, mm_words, ratio=True)


class Ladder(Control):
    """The values a pass may use: drag the band's ends or the ceiling; arrow keys move the end last touched."""

    changed = Signal(str, float, bool)
    """Name (l_low, l_high, ceiling), value in L*, and whether the drag goes on."""

    def __init__(self) -> None:
        super().__init__(246, "values of the pass")
        self.setFixedWidth(112)
        self.values = {"l_low": 0.0, "l_high": 100.0, "ceiling": 100.0}
        self._held = ""
        self._last = "l_high"

    def set_values(self, low: float, high: float, ceiling: float) -> None:
        """Show a band and its ceiling."""
        if not self._held:
            self.values = {"l_low": low, "l_high": high, "ceiling": ceiling}
            self.update()

    def _box(self) -> QRectF:
        return QRectF(28, 8, 40, self.height() - 16)

    def _y(self, value: float) -> float:
        box = self._box().adjusted(2, 2, -2, -2)
        return box.bottom() - box.height() * value / 100

    def _value(self, y: float) -> float:
        box = self._box().adjusted(2, 2, -2, -2)
        return round(min(max((box.bottom() - y) / box.height() * 100, 0.0), 100.0))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        y = event.position().y()
        names = ["ceiling"] if event.position().x() > 74 else ["l_low", "l_high"]
        self._held = self._last = min(names, key=lambda name: abs(self._y(self.values[name]) - y))
        self._take(self._value(y), going=True)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held:
            self._take(self._value(event.position().y()), going=True)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        held, self._held = self._held, ""
        if held:
            self.changed.emit(held, self.values[held], False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Up: 1.0, Qt.Key.Key_Down: -1.0}.get(Qt.Key(event.key()))
        if by is not None:
            self._take(min(max(self.values[self._last] + by, 0.0), 100.0), going=False)
        elif event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            names = ["l_low", "l_high", "ceiling"]
            step = 1 if event.key() == Qt.Key.Key_Right else -1
            self._last = names[(names.index(self._last) + step) % 3]
            self.update()
        else:
            super().keyPressEvent(event)

    def _take(self, value: float, *, going: bool) -> None:
        name = self._held or self._last
        self.values[name] = value
        self.update()
        self.changed.emit(name, value, going)

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            box = self._box()
            low, high, ceiling = (self.values[k] for k in ("l_low", "l_high", "ceiling"))
            draw.ladder(p, box, low, high, 20, 11)
            for value in (20.0, 40.0, 60.0, 80.0):
                draw.text(p, 20, self._y(value) + 4, f"{value:.0f}", 12, 400, "quiet", "r")
            for name, value in (("l_low", low), ("l_high", high)):
                y = self._y(value)
                p.setPen(Qt.PenStyle.NoPen)
                p.setBrush(colour("russet" if name in (self._held, self._last) and self.hasFocus() else "text"))
                p.drawPolygon(QPolygonF([QPointF(26, y), QPointF(19, y - 5), QPointF(19, y + 5)]))
            y = self._y(ceiling)
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(colour("russet" if "ceiling" in (self._held, self._last) and self.hasFocus() else "text"))
            p.drawRect(QRectF(box.left() - 3, y - 1, box.width() + 10, 2))
            draw.text(p, box.right() + 9, y - 3, "ceiling", 12, 400, "quiet")
            draw.text(p, box.right() + 9, y + 11, f"{ceiling:.0f}", 12, 600)
            if ceiling < 94:
                draw.text(p, box.right() + 9, 18, "kept", 12, 400, "quiet")
            if self.ring_shown():
                draw.focus_ring(p, QRectF(self.rect()))


class Facts(QWidget):
    """Names and values in a column."""

    def __init__(self) -> None:
        super().__init__()
        self.facts: list[tuple[str, str]] = []

    def set_facts(self, facts: list[tuple[str, str]]) -> None:
        """Show these."""
        self.facts = facts
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            for k, (name, value) in enumerate(self.facts):
                y = 16 + k * 35
                draw.text(p, 4, y, name, 12, 400, "quiet")
                draw.text(p, 4, y + 16, draw.elided(value, self.width() - 6, 14, 500), 14, 500)


class Cards(QWidget):
    """What to do in a pass, part by part: its name, and the sentence."""

    def __init__(self) -> None:
        super().__init__()
        self.cards: tuple[str, ...] = ()
        self.setFixedHeight(4)

    def show_cards(self, cards: tuple[str, ...]) -> None:
        """Show these."""
        self.cards = cards
        self._fit()
        self.update()

    def _laid(self) -> list[tuple[str, list[str]]]:
        made = []
        for card in self.cards:
            name, _, words = card.partition(": ")
            made.append((name, draw.lines_of(words, self.width() - 14, 12.5)))
        return made

    def _fit(self) -> None:
        self.setFixedHeight(sum(25 + 17 * len(lines) for _, lines in self._laid()) + 6)

    def resizeEvent(self, event: object) -> None:
        self._fit()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            y = 15.0
            for name, lines in self._laid():
                draw.text(p, 6, y, name, 13, 700)
                for line in lines:
                    y += 17
                    draw.text(p, 6, y, line, 12.5, 400, "quiet")
                y += 25


class PassesStop(Stop):
    """Edit a pass; an edit is kept as a decision and can be given back."""

    code, title = "passes", "Passes"
    shows_painting = True
    cursor = Qt.CursorShape.ArrowCursor

    def make_panel(self) -> QWidget:
        self.next = NextStep("ladder")
        self.next.asked.connect(self._next)
        self.findings = FindingList("passes")
        self.findings.asked.connect(self._finding)
        self.school = SchoolPanel(self.session)
        self.empty = Words("Passes are made from zones. Outline the animal first.", 13)
        self.head = Section("", "")
        self.reason = Words("", 12.5)
        self.on = YesNo("this pass is painted", "this pass is left out")
        self.on.toggled.connect(self._toggle)
        self.ladder = Ladder()
        self.ladder.changed.connect(self._value)
        self.facts = Facts()
        self.values_head = Section("Values and marks", "")
        both = QWidget()
        row = QHBoxLayout(both)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(8)
        row.addWidget(self.ladder)
        row.addWidget(self.facts, 1)
        self.both = both
        self.measures = {
            "coverage": Measure("Cover", COVER),
            "brush_mm": Measure("Brush", BRUSH),
            "length_share": Measure("Length", SHARE),
            "spread_share": Measure("Spread", SPREAD_SHARE),
        }
        for name, measure in self.measures.items():
            measure.setObjectName(name)
            measure.changed.connect(self._measure)
            measure.reset.connect(self._reset)
        self.order_head = Section("Order", "lean before fat, dark before light")
        self.earlier, self.later = Button("Earlier"), Button("Later")
        self.earlier.clicked.connect(self._earlier)
        self.later.clicked.connect(self._later)
        self.order = QWidget()
        line = QHBoxLayout(self.order)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(self.earlier)
        line.addWidget(self.later)
        line.addStretch()
        self.laying_head = Section("Laying order", "back to front, tips first")
        self.laying = Words("", 13, "text")
        self.brushes_head = Section("Brushes that lie ready", "from your kit")
        self.brushes = Words("", 13, "text")
        self.study = Study(self.session)
        self.study.changed.connect(self._study_changed)
        self.cards_head = Section("What to do", "part by part, in this order")
        self.cards = Cards()
        self.back = Button("Back to the plan")
        self.back.clicked.connect(self._back)
        self.caution = Words("", 12)
        return panel(
            self.next,
            self.findings,
            self.school,
            self.empty,
            self.head,
            self.reason,
            self.on,
            self.values_head,
            self.both,
            *self.measures.values(),
            self.order_head,
            self.order,
            self.back,
            self.brushes_head,
            self.brushes,
            self.cards_head,
            self.cards,
            self.laying_head,
            self.laying,
            self.study,
            self.caution,
        )

    def _study_changed(self) -> None:
        self.picture.update()

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.session.project
        if project is not None:
            self.study.paint(p, view, project)

    def press(self, at: Point, event: QMouseEvent) -> None:
        """A click chooses the part whose values are studied; on nothing, the whole."""
        zone = self.zone_at(at)
        self.session.choose(zone=zone.id if zone is not None else "")

    def _plans(self) -> tuple[PassPlan, ...]:
        return self.session.readings.passes if self.session.readings else ()

    def current(self) -> PassPlan | None:
        """Return the chosen pass, else the first."""
        plans = self._plans()
        role = self.session.chosen.role
        return next((plan for plan in plans if plan.role.key == role), plans[0] if plans else None)

    def open_role(self) -> str:
        plan = self.current()
        return plan.role.key if plan else ""

    def refresh(self) -> None:
        plans, plan = self._plans(), self.current()
        readings = self.session.readings
        self.empty.setVisible(plan is None)
        project = self.session.project
        self.school.setVisible(plan is not None)
        if project is not None and plan is not None:
            self.school.refresh(project)
        self.study.refresh()
        for part in (
            self.head, self.reason, self.on, self.values_head, self.both, self.order_head, self.order,
            self.laying_head, self.laying, *self.measures.values(),
        ):  # fmt: skip
            part.setVisible(plan is not None)
        if plan is None or readings is None:
            self.back.setVisible(False)
            self.caution.set_words("")
            for part in (self.brushes_head, self.brushes, self.cards_head, self.cards):
                part.setVisible(False)
            self.next.set_words("Outline the animal first", "Passes are made from zones.", "Zones")
            return
        number = [p.role.key for p in plans].index(plan.role.key) + 1
        self.findings.set_findings(list(readings.findings), [("show", "show me")])
        self.head.set_words(f"{number}  {plan.role.name}", duration_words(plan.minutes) if plan.on else "left out")
        self.reason.set_words(plan.role.reason)
        self.on.set_value(on=plan.on)
        self.values_head.set_words("Values and marks", f"L* {plan.l_low:.0f} to {plan.l_high:.0f}")
        self.ladder.set_values(plan.l_low, plan.l_high, plan.ceiling)
        self.facts.set_facts(self._facts(plan))
        usual = {
            "coverage": plan.role.coverage,
            "brush_mm": None,
            "length_share": plan.role.length_share,
            "spread_share": plan.role.spread_share,
        }
        decided = plan.edit.decided()
        for name, measure in self.measures.items():
            measure.set_value(getattr(plan, name), usual[name], decided=name in decided)
        self.back.setVisible(plan.edit != PassEdit())
        names = [f"{k + 1} {readings.zones[k].name.lower()}" for k in plan.zones]
        self.laying.set_words(" · ".join(names) if plan.role.act != "ground" else "the whole canvas, crossing strokes")
        self.brushes.set_words(brush_words(plan))
        for ready in (self.brushes_head, self.brushes):
            ready.setVisible(bool(plan.brushes))
        cards = readings.cards.get(plan.role.key, ())
        self.cards.show_cards(cards)
        for shown in (self.cards_head, self.cards):
            shown.setVisible(bool(cards))
        self.caution.set_words(" ".join(cautions_for(plan.role.act, plan.role.paint, plan.role.tint)))
        if self.session.rehearsal.complete:
            self.next.set_words("Rehearse the painting", "See it come up pass by pass.", "Rehearse")
        else:
            self.next.set_words("Working out the passes", "The small pictures fill in as they stand.")

    def _facts(self, plan: PassPlan) -> list[tuple[str, str]]:
        rehearsal = self.session.rehearsal
        number = rehearsal.number_of(plan.role.key)
        marks = rehearsal.passes[number].marks if number >= 0 else plan.marks
        readings = self.session.readings
        area = sum(readings.facts[k].area_cm2 for k in plan.zones) if readings else 0.0
        least, most = plan.length_mm
        lengths = mm_words(most) if most - least < 0.5 else f"{mm_words(least)} to {mm_words(most)}"
        low, high = plan.spread_deg
        return [
            ("where", f"{len(plan.zones)} zones, {area:.0f} cm²"),
            ("brush", f"to {mm_words(plan.brush_mm)}"),
            ("marks", grouped(marks) if number >= 0 else f"about {grouped(marks)}"),
            ("length", lengths),
            ("spread", f"± {low:.0f}° to {high:.0f}°" if high - low >= 1 else f"± {low:.0f}°"),
            ("beneath", plan.role.beneath),
            ("oil", f"{percent(plan.role.fat)} fat"),
        ]

    def reading(self) -> str:
        plans = [plan for plan in self._plans() if plan.on]
        if not plans:
            return "none yet"
        return f"{len(plans)} passes · {duration_words(sum(plan.minutes for plan in plans))}"

    def state(self) -> draw.State:
        readings = self.session.readings
        project = self.session.project
        if readings is None or project is None or not readings.passes or len(project.zones) < 2:
            return "no"
        if any(f.where == "passes" and f.level == "must" for f in readings.findings):
            return "you"
        return "ready" if self.session.rehearsal.complete else "begun"

    # Deciding -------------------------------------------------------------------------------------

    def _next(self) -> None:
        self.go_to.emit("rehearsal" if self._plans() else "zones")

    def _finding(self, key: str, finding: object) -> None:
        self.session.choose(role=getattr(finding, "subject", ""))

    def _decide(self, values: dict[str, object], words: str, merge: str = "") -> None:
        plan = self.current()
        if plan is not None:
            self.session.edit(lambda p: edits.set_pass(p, plan.role.key, **values), words, merge)

    def _toggle(self, on: bool) -> None:  # noqa: FBT001  (a slot)
        plan = self.current()
        name = plan.role.name.lower() if plan else ""
        self._decide({"on": None if on else False}, f"{'paint' if on else 'leave out'} {name}")

    def _value(self, name: str, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        plan = self.current()
        key = plan.role.key if plan else ""
        self._decide({name: value}, "values of a pass", f"{name} {key}")
        if not going and self.session.history is not None:
            self.session.history.seal()

    def _measure(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self._value(self.sender().objectName(), value, going)

    def _reset(self) -> None:
        self._decide({self.sender().objectName(): None}, "pass back to the plan")

    def _back(self) -> None:
        plan = self.current()
        if plan is not None:
            self._decide(dict.fromkeys(plan.edit.decided()), "pass back to the plan")

    def _move(self, by: int) -> None:
        plan = self.current()
        if plan is not None:
            self.session.edit(lambda p: edits.move_pass(p, plan.role.key, by), "order of the passes")

    def _earlier(self) -> None:
        self._move(-1)

    def _later(self) -> None:
        self._move(1)

    def zone_words(self, zone: Zone, at: Point) -> list[str]:
        plan, readings = self.current(), self.session.readings
        if plan is None or readings is None:
            return []
        index = next((k for k, z in enumerate(readings.zones) if z.id == zone.id), -1)
        if index not in plan.zones:
            return [f"not in {plan.role.name.lower()}"]
        mark = plan.mark_of(index, readings.facts[index])
        return [f"{plan.role.name.lower()}: marks {mm_words(mark.length_mm)} × {mm_words(mark.width_mm)}"]
