"""Stop 8, Passes: the ordered layers with their values, brush and marks; the painting as it stands after each."""

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QHBoxLayout, QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.cautions import cautions_for
from foxpath.core.mixes.palette import Palette
from foxpath.core.passes import PassEdit, PassPlan, brush_words
from foxpath.core.passes.words import medium_parts
from foxpath.core.units import count_words, duration_words, grouped, mm_words, percent
from foxpath.derive.mixes.ready import PlanPiles, ready_for
from foxpath.derive.subjects import PASSES
from foxpath.document import edits
from foxpath.document.model import Project, Zone
from foxpath.window.bench.bench import column, panel
from foxpath.window.bench.controls import Button, Choice, Measure, Scale, YesNo
from foxpath.window.bench.rows import NextStep, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.passes.changes import ChangesPanel
from foxpath.window.stops.passes.ladder import Cards, Facts, Ladder
from foxpath.window.stops.passes.paint import PaintPanel
from foxpath.window.stops.passes.school import SchoolPanel
from foxpath.window.stops.passes.study import Study
from foxpath.window.stops.passes.time import TimePanel
from foxpath.window.stops.passes.ways import WaysPanel

COVER = Scale(0, 8, percent, step=0.05)
SHARE = Scale(0.1, 4, percent, ratio=True)
SPREAD_SHARE = Scale(0, 4, percent, step=0.05)
BRUSH = Scale(0.2, 100, mm_words, ratio=True)
PAGES = [("pass", "this pass"), ("school", "school"), ("values", "values"), ("changes", "changes")]


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
        self.page = "pass"
        self.turns = Choice(PAGES, "page")
        self.turns.chosen.connect(self.open_page)
        self.school = SchoolPanel(self.session)
        self.school.beside.changed.connect(self._beside_changed)
        self.ways = WaysPanel(self.session)
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
        self.paint_panel = PaintPanel()
        self.paint_panel.decided.connect(self._value)
        self.paint_panel.pile_chosen.connect(self._show_pile)
        self._palette: tuple[Project, Palette] | None = None
        self._planning: Project | None = None
        self.time = TimePanel(self.session)
        self.part = Button("")
        self.part.clicked.connect(self._leave_part)
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
        self.changes = ChangesPanel(self.session)
        self.changes.changed.connect(self._changes_changed)
        self.changes.chosen.connect(self._choose_part)
        self.cards_head = Section("What to do", "part by part, in this order")
        self.cards = Cards()
        self.back = Button("Back to the plan")
        self.back.clicked.connect(self._back)
        self.caution = Words("", 12)
        self.one = column(
            self.findings,
            self.head,
            self.reason,
            self.on,
            self.values_head,
            self.both,
            *self.measures.values(),
            self.paint_panel,
            self.back,
            self.order_head,
            self.order,
            self.brushes_head,
            self.brushes,
            self.cards_head,
            self.cards,
            self.part,
            self.time,
            self.laying_head,
            self.laying,
            self.caution,
        )
        self.schooling = column(self.school, self.ways)
        return panel(self.next, self.turns, self.empty, self.one, self.schooling, self.study, self.changes)

    def open_page(self, code: str) -> None:
        """Open the page of the pass, of the school, of the values, or of the changes."""
        if code != "school" and self.school.comparing:
            self.school.compare(on=False)
        self.page = code
        self.turns.set_value(code)
        self.refresh()
        self.picture.update()

    def leave(self) -> None:
        self.session.runner.cancel("piles")
        self.changes.leave()
        self._planning = self._palette[0] if self._palette is not None else None
        if self.school.comparing:
            self.school.compare(on=False)

    def _beside_changed(self) -> None:
        self.picture.use_share(0.5 if self.school.comparing and self.school.beside.key else 1.0)
        if self.session.project is not None and self.session.chosen.stop == self.code:
            self.refresh()
        self.picture.update()

    def _changes_changed(self) -> None:
        self.restated.emit()
        self.picture.update()

    def _choose_part(self, zone: str) -> None:
        self.session.choose(zone=zone)

    def own_picture(self, compare: str) -> Rgb8 | None:
        """Return the reference as it is, changed, or what differs, while the page of changes shows one of them."""
        if self.page != "changes":
            return None
        known = self.changes.changes
        if compare == "reference":
            # The window's own picture is the changed one: what is held for is the photograph.
            return known.reference if known is not None else None
        return self.changes.picture() if not compare else None

    def _study_changed(self) -> None:
        self.picture.update()

    def paint(self, p: QPainter, view: Viewport) -> None:
        project, beside = self.session.project, self.school.beside
        if project is None:
            return
        if self.page == "values":
            self.study.paint(p, view, project)
        if self.school.comparing and beside.key:
            plan = self.current()
            other = project.school_called(beside.key)
            names = (project.recipe.name, other.name if other is not None else "")
            beside.paint(p, view, project, plan.role.act if plan is not None else "", names)

    def press(self, at: Point, event: QMouseEvent) -> None:
        """A click chooses the part whose values are studied; on nothing, the whole."""
        view = self.picture.viewport
        if self.school.comparing and event.position().x() > view.room.right():
            # The painting beside is the same animal in the same place.
            at = view.to_reference(event.position() - QPointF(view.room.width(), 0))
        zone = self.zone_at(at)
        self.session.choose(zone=zone.id if zone is not None else "")

    def _plans(self) -> tuple[PassPlan, ...]:
        return self.session.readings.of(PASSES).passes if self.session.readings else ()

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
        readings, project = self.session.readings, self.session.project
        known = plan is not None and readings is not None and project is not None
        self.empty.setVisible(not known)
        self.turns.setVisible(known)
        for code, body in (
            ("pass", self.one),
            ("school", self.schooling),
            ("values", self.study),
            ("changes", self.changes),
        ):
            body.setVisible(known and code == self.page)
        if plan is None or readings is None or project is None:
            self.next.set_words("Outline the animal first", "Passes are made from zones.", "Zones")
            return
        if self.school.comparing:
            self.school.beside.refresh()
        if self.page == "school":
            self.school.refresh(project)
            self.ways.refresh(project)
            self.ways.setVisible(not self.school.comparing)
        elif self.page == "changes" and project is not None:
            self.changes.refresh(project)
        elif self.page == "values":
            self.study.refresh()
        else:
            self._refresh_pass(plans, plan)
        if self.session.rehearsal.complete:
            self.next.set_words("Rehearse the painting", "See it come up pass by pass.", "Rehearse")
        else:
            self.next.set_words("Working out the passes", "The small pictures fill in as they stand.")

    def _refresh_pass(self, plans: tuple[PassPlan, ...], plan: PassPlan) -> None:
        readings, project = self.session.readings, self.session.project
        assert readings is not None
        assert project is not None
        number = [p.role.key for p in plans].index(plan.role.key) + 1
        self.findings.set_findings(list(readings.findings), [("show", "show me")])
        self.head.set_words(f"{number}  {plan.role.name}", duration_words(plan.minutes) if plan.on else "left out")
        self.reason.set_words(plan.role.reason)
        self.on.set_value(on=plan.on)
        self.values_head.set_words("Values and marks", f"L* {plan.l_low:.0f} to {plan.l_high:.0f}")
        self.ladder.set_values(plan.l_low, plan.l_high, plan.ceiling)
        self.facts.set_facts(self._facts(plan))
        usual = {
            "coverage": plan.usual.coverage,
            "brush_mm": None,
            "length_share": plan.usual.length_share,
            "spread_share": plan.usual.spread_share,
        }
        decided = plan.edit.decided()
        for name, measure in self.measures.items():
            measure.set_value(getattr(plan, name), usual[name], decided=name in decided)
        self.back.setVisible(plan.edit != PassEdit())
        self.paint_panel.show_pass(plan, self.session.rehearsal.colours.get(plan.role.key, ()))
        self._ask_piles(project)
        known = self._palette is not None and self._palette[0] is project
        self.paint_panel.show_piles(ready_for(self._palette[1], plan.role.key) if known and self._palette else ())
        self.time.show_pass(project, plan)
        self._refresh_part(plan)
        names = [f"{k + 1} {readings.zones[k].name.lower()}" for k in plan.zones]
        self.laying.set_words(" · ".join(names) if plan.role.act != "ground" else "the whole canvas, crossing strokes")
        self.brushes.set_words(brush_words(plan))
        for ready in (self.brushes_head, self.brushes):
            ready.setVisible(bool(plan.brushes))
        cards = readings.close(PASSES).cards.get(plan.role.key, ())
        self.cards.show_cards(cards)
        for shown in (self.cards_head, self.cards):
            shown.setVisible(bool(cards))
        self.caution.set_words(" ".join(cautions_for(plan.role)))

    def _ask_piles(self, project: Project) -> None:
        """Have the piles planned while the stop is open; they take a moment, and nothing else waits for them."""
        if self._planning is project or self.session.chosen.stop != self.code:
            return
        self._planning = project
        self.session.runner.start("piles", PlanPiles(self.session.results, project), self._take_piles)

    def _take_piles(self, value: tuple[Project, Palette]) -> None:
        self._palette = value
        if self.session.chosen.stop == self.code:
            self.refresh()

    def _show_pile(self, key: str) -> None:
        self.session.choose(pile=key)
        self.go_to.emit("mixes")

    def _refresh_part(self, plan: PassPlan) -> None:
        """Offer to leave the chosen part out of this pass, or to paint it again."""
        zone = self.session.project.zone(self.session.chosen["zone"]) if self.session.project is not None else None
        readings = self.session.readings
        index = (
            next((k for k, z in enumerate(readings.zones) if zone is not None and z.id == zone.id), -1)
            if readings
            else -1
        )
        left = zone is not None and zone.id in plan.edit.left_out
        self.part.setVisible(left or (index in plan.zones and plan.role.act != "ground"))
        if zone is not None:
            name = draw.elided(zone.name.lower(), 120, 13)
            self.part.set_words(f"Paint {name} too" if left else f"Leave out {name}")

    def _leave_part(self) -> None:
        plan, zone = self.current(), self.session.chosen["zone"]
        if plan is None or not zone:
            return
        left = plan.edit.left_out
        now = tuple(one for one in left if one != zone) if zone in left else (*left, zone)
        self._decide({"left_out": now}, "parts of a pass")

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
            ("where", f"{count_words(len(plan.zones), 'zone')}, {area:.0f} cm²"),
            ("brush", f"to {mm_words(plan.brush_mm)}"),
            ("marks", grouped(marks) if number >= 0 else f"about {grouped(marks)}"),
            ("length", lengths),
            ("spread", f"± {low:.0f}° to {high:.0f}°" if high - low >= 1 else f"± {low:.0f}°"),
            ("beneath", plan.role.beneath),
            ("medium", medium_parts(plan.role.fat, plan.role.paint)),
        ]

    def reading(self) -> str:
        plans = [plan for plan in self._plans() if plan.on]
        if not plans:
            return "none yet"
        return f"{len(plans)} {'pass' if len(plans) == 1 else 'passes'} · {duration_words(sum(plan.minutes for plan in plans))}"

    def state(self) -> draw.State:
        readings = self.session.readings
        project = self.session.project
        if readings is None or project is None or not readings.of(PASSES).passes or len(project.zones) < 2:
            return "no"
        if any(f.where == "passes" and f.level == "must" for f in readings.findings):
            return "you"
        return "ready" if self.session.rehearsal.complete else "begun"

    # Deciding -------------------------------------------------------------------------------------

    def _next(self) -> None:
        self.go_on() if self._plans() else self.go_to.emit("zones")

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

    def _value(self, name: str, value: object, going: bool) -> None:  # noqa: FBT001  (a slot)
        plan = self.current()
        key = plan.role.key if plan else ""
        self._decide({name: value}, "numbers of a pass", f"{name} {key}")
        if not going:
            self.session.seal()

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
