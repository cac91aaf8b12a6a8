"""Stop 8, Passes: the ordered layers with their values, brush and marks; the painting as it stands after each."""

from dataclasses import replace

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QHBoxLayout, QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.cautions import cautions_for
from foxpath.core.mixes.palette import Palette
from foxpath.core.passes import PassEdit, PassPlan, Veil, brush_words
from foxpath.core.passes.plan import OF_PART
from foxpath.core.passes.words import medium_parts
from foxpath.core.passes.working import areas_words
from foxpath.core.units import count_words, duration_words, grouped, mm_words, percent
from foxpath.derive.mixes.ready import PlanPiles, ready_for, sorted_words
from foxpath.derive.passes.laying import turns_of_work
from foxpath.derive.pictures import study_of
from foxpath.derive.subjects import PASSES
from foxpath.document import edits
from foxpath.document.model import Project, Zone, as_array
from foxpath.window.bench.bench import column, panel
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Button, Choice, Measure, Scale, YesNo
from foxpath.window.bench.rows import NextStep, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.lasso import Lasso
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.passes.changes import ChangesPanel
from foxpath.window.stops.passes.ladder import Cards, Facts, Ladder
from foxpath.window.stops.passes.paint import PaintPanel
from foxpath.window.stops.passes.school import SchoolPanel
from foxpath.window.stops.passes.study import Study
from foxpath.window.stops.passes.time import TimePanel
from foxpath.window.stops.passes.veil import VeilPanel
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
        self.acts = Buttons([("again", "Lay it twice"), ("veil", "Add a veil"), ("remove", "Remove this pass")], 2)
        self.acts.clicked.connect(self._act)
        self.veil = VeilPanel(self.session)
        self.veil.changed.connect(self._veil_changed)
        self.lasso = Lasso()
        self._carried: tuple[Point, Point] | None = None
        self.whose = Choice([("", "whole pass"), ("part", "this part")], "whose numbers")
        self.whose.chosen.connect(self._whose)
        self.alone_head = Section("Left alone from here on", "Shift drag round it")
        self.alone = Words("", 12.5)
        self.alone_acts = Buttons([("back", "Paint over them again")], 1)
        self.alone_acts.clicked.connect(self._paint_over)
        self.order = QWidget()
        line = QHBoxLayout(self.order)
        line.setContentsMargins(0, 0, 0, 0)
        line.addWidget(self.earlier)
        line.addWidget(self.later)
        line.addStretch()
        self.laying_head = Section("Laying order", "back to front, tips first")
        self.laying = Words("", 13, "text")
        self.work_head = Section("Order of work", "each area carried through")
        self.work = Words("", 13, "text")
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
            self.veil,
            self.whose,
            self.values_head,
            self.both,
            *self.measures.values(),
            self.paint_panel,
            self.back,
            self.order_head,
            self.order,
            self.acts,
            self.brushes_head,
            self.brushes,
            self.cards_head,
            self.cards,
            self.part,
            self.alone_head,
            self.alone,
            self.alone_acts,
            self.time,
            self.laying_head,
            self.laying,
            self.work_head,
            self.work,
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
        self.veil.leave()
        self.lasso.drop()
        self._carried = None
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
        if self.page == "pass":
            self._paint_areas(p, view, project)
        zone = project.zone(self.changes.zone) if self.page == "changes" and self.changes.moving else None
        if zone is not None and not zone.whole:
            # Where it lies, and where it is being dragged to.
            (x0, y0), (x1, y1) = self._carried or ((0.0, 0.0), (0.0, 0.0))
            for dx, dy, tone in ((0.0, 0.0, "over_light"), (x1 - x0, y1 - y0, "russet")):
                draw.cased_path(p, draw.polygon(view.to_screen(zone.shape.outline() + (dx, dy))), 1.4, tone)
        if self.school.comparing and beside.key:
            plan = self.current()
            other = project.school_called(beside.key)
            names = (project.recipe.name, other.name if other is not None else "")
            beside.paint(p, view, project, plan.role.act if plan is not None else "", names)

    def _paint_areas(self, p: QPainter, view: Viewport, project: Project) -> None:
        """Outline what is left alone from the open pass on, and a veil's patch."""
        plan = self.current()
        if plan is None:
            return
        for one in project.left_alone:
            if one.after == plan.role.key:
                draw.cased_path(p, draw.polygon(view.to_screen(as_array(one.points))), 1.6)
        veil = plan.role.veil
        if veil is not None and veil.place == "patch" and len(veil.patch) >= 3:
            draw.cased_path(p, draw.polygon(view.to_screen(as_array(veil.patch))), 1.6, "russet")
        self.lasso.paint(p, view)

    def press(self, at: Point, event: QMouseEvent) -> None:
        """A click chooses the part whose values are studied; on nothing, the whole. Shift draws round what is left alone."""
        view = self.picture.viewport
        if self.page == "pass":
            if self.veil.drawing or event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                self.lasso.begin(at)
                return
            if self.veil.picking:
                self._pick(at)
                return
        if self.school.comparing and event.position().x() > view.room.right():
            # The painting beside is the same animal in the same place.
            at = view.to_reference(event.position() - QPointF(view.room.width(), 0))
        if self.page == "changes" and self.changes.matching:
            self.changes.match(self._colour_at(at))
            return
        if self.page == "changes" and self.changes.moving:
            self._carried = (at, at)
            return
        zone = self.zone_at(at)
        self.session.choose(zone=zone.id if zone is not None else "")

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._carried is not None:
            self._carried = (self._carried[0], at)
            self.picture.update()
        elif self.lasso.drag(at):
            self.picture.update()

    def release(self, at: Point, event: QMouseEvent) -> None:
        carried, self._carried = self._carried, None
        if carried is not None:
            self.changes.move_by(at[0] - carried[0][0], at[1] - carried[0][1])
        outline, plan = self.lasso.lift(), self.current()
        if outline is not None and plan is not None:
            if self.veil.drawing:
                self.veil.take_patch(outline)
            else:
                key, name = plan.role.key, plan.role.name.lower()
                self.session.edit(lambda p: edits.leave_alone(p, outline, key), f"leave an area as {name} left it")
        self.picture.update()

    def busy(self) -> bool:
        return bool(self.lasso) or self._carried is not None

    def _pick(self, at: Point) -> None:
        """Take the colour of the reference at a place as the veil's mix."""
        self.veil.take_colour(self._colour_at(at))

    def _colour_at(self, at: Point) -> tuple[float, float, float]:
        """Return the colour that is painted from at a place, CIELAB."""
        readings = self.session.readings
        if readings is None:
            return 50.0, 0.0, 0.0
        # Of what has been read: nothing is worked out while the pointer waits.
        study = study_of(self.session.results, readings.project)
        light, red, yellow = (float(v) for v in study.at(np.array([at]))[0])
        return round(light, 1), round(red, 1), round(yellow, 1)

    def _veil_changed(self) -> None:
        self.picture.update()

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
        self._refresh_whose(plan)
        shown = plan.at(self._part_index(plan)) if self._of_part else plan
        self.values_head.set_words("Values and marks", f"L* {shown.l_low:.0f} to {shown.l_high:.0f}")
        self.ladder.set_values(shown.l_low, shown.l_high, shown.ceiling)
        self.facts.set_facts(self._facts(plan))
        usual = {
            "coverage": plan.usual.coverage,
            "brush_mm": None,
            "length_share": plan.usual.length_share,
            "spread_share": plan.usual.spread_share,
        }
        if self._of_part:
            usual = {name: getattr(plan, name) for name in usual}
        part = plan.edit.part(self.session.chosen["zone"]) if self._of_part else None
        decided = plan.edit.decided() if not self._of_part else tuple(part.decided()) if part is not None else ()
        for name, measure in self.measures.items():
            measure.set_value(getattr(shown, name), usual[name], decided=name in decided)
        self.back.setVisible(plan.edit != PassEdit())
        film = plan.role.veil is not None
        self.veil.setVisible(film)
        for one in (self.values_head, self.both, self.paint_panel, *self.measures.values()):
            one.setVisible(not film)
        self.veil.show_pass(project, plan)
        self._refresh_acts(project, plan)
        self.paint_panel.show_pass(plan, self.session.rehearsal.colours.get(plan.role.key, ()))
        self._ask_piles(project)
        known = self._palette is not None and self._palette[0] is project
        piles = ready_for(self._palette[1], plan.role.key) if known and self._palette else ()
        self.paint_panel.show_piles(piles)
        self.time.show_pass(project, plan)
        self._refresh_part(plan)
        names = [f"{k + 1} {readings.zones[k].name.lower()}" for k in plan.zones]
        self.laying.set_words(" · ".join(names) if plan.role.act != "ground" else "the whole canvas, crossing strokes")
        said = areas_words(
            turns_of_work(self.session.results, readings.project, plans),
            [zone.name for zone in readings.zones],
            {one.role.key: one.role.name for one in plans},
        )
        self.work.set_words(". ".join(said) + "." if said else "")
        self.work_head.setVisible(bool(said))
        self.work.setVisible(bool(said))
        self.brushes.set_words(". ".join(filter(None, (brush_words(plan), sorted_words(piles)))))
        for ready in (self.brushes_head, self.brushes):
            ready.setVisible(bool(plan.brushes))
        cards = readings.close(PASSES).cards.get(plan.role.key, ())
        self.cards.show_cards(cards)
        for told in (self.cards_head, self.cards):
            told.setVisible(bool(cards))
        self.caution.set_words(" ".join(cautions_for(plan.role)))

    @property
    def _of_part(self) -> bool:
        """Whether the numbers that are shown are those of the chosen part alone."""
        return bool(self.whose.value) and not self.whose.isHidden()

    def _part_index(self, plan: PassPlan) -> int:
        """Return the place of the chosen part in a pass, -1 when it has none there."""
        readings, key = self.session.readings, self.session.chosen["zone"]
        index = next((k for k, z in enumerate(readings.zones) if z.id == key), -1) if readings else -1
        return index if index in plan.zones else -1

    def _refresh_whose(self, plan: PassPlan) -> None:
        index, readings = self._part_index(plan), self.session.readings
        # Of what was read: the project may be a zone ahead of that.
        zone = readings.zones[index] if index >= 0 and readings is not None else None
        offered = zone is not None and plan.role.act != "ground" and plan.role.veil is None
        self.whose.setVisible(offered)
        if zone is not None:
            own = plan.edit.part(zone.id) is not None
            self.whose.options = [("", "whole pass"), ("part", f"{zone.name[:20].lower()}{' *' if own else ''}")]
            self.whose.update()
        if not offered:
            self.whose.set_value("")

    def _whose(self, key: str) -> None:
        self.whose.set_value(key)
        self.refresh()

    def _refresh_acts(self, project: Project, plan: PassPlan) -> None:
        """Offer what can be done with the pass as a whole, and show what is left alone from it on."""
        own = any(one.id == plan.role.key for one in project.own_passes)
        self.acts.show_only(
            {"veil"}
            | ({"again"} if plan.role.veil is None and plan.role.act != "ground" else set())
            | ({"remove"} if own else set())
        )
        many = sum(one.after == plan.role.key for one in project.left_alone)
        self.alone.set_words(
            f"{count_words(many, 'area')} as this pass leaves {'it' if many == 1 else 'them'}: nothing is laid there after it."
            if many
            else "Darks that stay, peeks of the ground, a part kept simple: no later pass will touch them."
        )
        self.alone_acts.setVisible(bool(many))

    def _act(self, key: str) -> None:
        plan, zone = self.current(), self.session.chosen["zone"]
        if plan is None:
            return
        role, made = plan.role, [""]

        def changed(project: Project) -> Project:
            if key == "remove":
                return edits.forget_pass(project, role.key)
            if key == "again":
                project, made[0] = edits.add_again(project, role.key)
            else:
                over = zone if project.zone(zone) is not None else ""
                project, made[0] = edits.add_veil(project, Veil(place="part" if over else "shadow"), over)
            return project

        words = {"remove": f"remove {role.name.lower()}", "again": f"{role.name.lower()} once more", "veil": "a veil"}[
            key
        ]
        if self.session.edit(changed, words) and made[0]:
            self.session.choose(role=made[0])

    def _paint_over(self, _key: str) -> None:
        plan, project = self.current(), self.session.project
        if plan is None or project is None:
            return
        mine = [k for k, one in enumerate(project.left_alone) if one.after == plan.role.key]
        self.session.edit(lambda p: edits.judge_again(p, mine), "paint over areas again")

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
        zones, index = plan.zones, self._part_index(plan)
        if self._of_part and index >= 0 and readings is not None:
            # Of the one part: as it is estimated, for what is rehearsed is counted for the whole.
            zones, number, marks = (index,), -1, plan.estimates[index].marks
            long = plan.mark_of(index, readings.facts[index])
            spans = readings.facts[index].lengths
            plan = replace(
                plan.at(index),
                length_mm=(long.length_mm * spans[0], long.length_mm * spans[1]),
                spread_deg=(long.spread_deg, long.spread_deg),
            )
        area = sum(readings.facts[k].area_cm2 for k in zones) if readings else 0.0
        least, most = plan.length_mm
        lengths = mm_words(most) if most - least < 0.5 else f"{mm_words(least)} to {mm_words(most)}"
        low, high = plan.spread_deg
        return [
            ("where", f"{count_words(len(zones), 'zone')}, {area:.0f} cm²"),
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
        plan, zone = self.current(), self.session.chosen["zone"]
        key = plan.role.key if plan else ""
        if self._of_part and name in OF_PART:
            words = "numbers of a part in a pass"
            self.session.edit(lambda p: edits.set_part(p, key, zone, **{name: value}), words, f"{name} {key} {zone}")
        else:
            self._decide({name: value}, "numbers of a pass", f"{name} {key}")
        if not going:
            self.session.seal()

    def _measure(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self._value(self.sender().objectName(), value, going)

    def _reset(self) -> None:
        self._value(self.sender().objectName(), None, going=False)

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
