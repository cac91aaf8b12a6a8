"""Departures on the bench of Passes: where the painting differs from its reference on purpose, part by part."""

import math

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.reference.departures import AIR, NAMES, RANGES, SIDES, WHOLE_ONLY, Departure, falling_away
from foxpath.core.units import mm_words, percent
from foxpath.derive.reference.changes import Changes, MatchColour, ReadChanges
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Measure, Scale
from foxpath.window.bench.rows import Row, Section, TallRows, Words
from foxpath.window.work.session import Session


def _signed(unit: str) -> object:
    return lambda v: f"{v:+.0f} {unit}".strip() if abs(v) >= 0.5 else "0"


SCALES = {
    "lightness": ("Lighter", Scale(*RANGES["lightness"], _signed("L*"), step=1)),  # type: ignore[arg-type]
    "strength": ("Strength", Scale(*RANGES["strength"], percent, step=0.05)),
    "warmth": ("Warmer", Scale(*RANGES["warmth"], _signed("b*"), step=1)),  # type: ignore[arg-type]
    "redness": ("Redder", Scale(*RANGES["redness"], _signed("a*"), step=1)),  # type: ignore[arg-type]
    "contrast": ("Contrast", Scale(*RANGES["contrast"], percent, step=0.05)),
    "soft_mm": ("Softer", Scale(*RANGES["soft_mm"], mm_words, step=0.5)),
}
SHOWN = (("", "painting"), ("reference", "reference"), ("changed", "changed"), ("difference", "difference"))
GONE = "gone:"
"""Keys of the rows of parts that have gone begin so."""
SHORT = {"all": "all", "lit": "lit", "shadow": "shadow", "far": "far", "away": "focus"}


class ChangesPanel(QWidget):
    """What a part is to differ by; the chosen part, else the whole canvas."""

    changed = Signal()
    """Another picture is shown."""
    chosen = Signal(str)
    """A part was chosen from the list."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.side, self.shows = "all", ""
        self.head = Section("Departs from the reference", "")
        self.words = Words("", 12.5)
        self.sides = {
            False: Choice([(key, SHORT[key]) for key in SIDES if key not in WHOLE_ONLY], "which side"),
            True: Choice([(key, SHORT[key]) for key in SIDES], "which side"),
        }
        for choice in self.sides.values():
            choice.chosen.connect(self._use_side)
        self.measures = {name: Measure(words, scale) for name, (words, scale) in SCALES.items()}
        for name, measure in self.measures.items():
            measure.setObjectName(name)
            measure.changed.connect(self._measure)
            measure.reset.connect(self._reset)
        self.acts = Buttons(
            [
                ("back", "As the reference"),
                ("air", "Farther: paler"),
                ("focus", "Take falloff over"),
                ("animal", "Whole animal"),
                ("match", "Match a colour"),
                ("out", "Leave it out"),
                ("move", "Move it"),
                ("bring", "Bring it back"),
            ],
            2,
        )
        self.moving = self.matching = False
        self._gone = ""
        self.acts.clicked.connect(self._act)
        self.show_head = Section("Shown", "hold R for the reference")
        self.shown = Choice(list(SHOWN), "what is shown")
        self.shown.chosen.connect(self._show)
        self.list_head = Section("Departures", "one laid over the other")
        self.list = TallRows("departures")
        self.list.chosen.connect(self._choose)
        self._changes: tuple[Project, Changes] | None = None
        self._asked: Project | None = None
        stack(
            self, self.head, self.words, *self.sides.values(), *self.measures.values(), self.acts, self.show_head, self.shown, self.list_head, self.list,
        )  # fmt: skip

    @property
    def zone(self) -> str:
        """The part it speaks of; empty for the whole canvas."""
        project = self.session.project
        key = self.session.chosen["zone"]
        return key if project is not None and project.zone(key) is not None else ""

    @property
    def changes(self) -> Changes | None:
        """What the departures do, once that is read."""
        project = self.session.project
        return self._changes[1] if self._changes is not None and self._changes[0] is project else None

    def picture(self) -> Rgb8 | None:
        """Return the picture that is shown in place of the painting; None for the painting."""
        changes = self.changes
        if changes is None or not self.shows:
            return None
        found: Rgb8 = getattr(changes, self.shows)
        return found

    def refresh(self, project: Project) -> None:
        """Bring the panel up to date."""
        self._ask(project)
        zone = project.zone(self.zone)
        if zone is not None and self.side in WHOLE_ONLY:
            self.side = "all"
        one = project.departure(self.zone, self.side) or Departure(self.zone, self.side)
        self.head.set_words("Departs from the reference", zone.name if zone is not None else "whole canvas")
        changes = self.changes
        told = (
            next((p for p in changes.parts if p.zone == self.zone), None)
            if changes is not None and zone is not None
            else None
        )
        measured = (
            f"Measured: {told.lightness:+.0f} L*, {told.strength:+.0f} chroma, {told.warmth:+.0f} warm."
            if told is not None
            else ""
        )
        hint = "Click a part, or nothing for the whole canvas." if one.nothing else ""
        said = one.words()
        self.words.set_words(f"{said[:1].upper()}{said[1:]}. {measured}{hint}".replace(".  ", ". ").strip())
        for whole, choice in self.sides.items():
            choice.setVisible(whole == (zone is None))
            choice.set_value(self.side)
        usual = Departure("")
        for name, measure in self.measures.items():
            value = getattr(one, name)
            measure.set_value(value, getattr(usual, name), decided=value != getattr(usual, name))
        offered = {"air", "focus"} if zone is None and one.nothing else {"back"} if not one.nothing else set()
        gone = next((g for g in project.gone if g.id == self._gone), None)
        if zone is not None and not zone.whole:
            offered |= {"out", "move", "match"} | ({"animal"} if zone.group and not one.nothing else set())
        elif zone is None:
            self.moving = self.matching = False
        self.acts.buttons["match"].set_words("Click that colour" if self.matching else "Match a colour")
        self.acts.buttons["move"].set_words("Drag it now" if self.moving else "Move it")
        self.acts.show_only(offered | ({"bring"} if gone is not None else set()))
        self.shown.set_value(self.shows)
        names = {z.id: z.name for z in project.zones}
        rows = [
            Row(
                f"{d.zone}|{d.side}",
                names.get(d.zone, "Whole canvas"),
                d.words(),
                "" if d.side == "all" else SHORT[d.side],
            )
            for d in project.departures
        ]
        rows += [
            Row(f"{GONE}{g.id}", g.zone.name, "moved" if g.to else "left out: what lies behind is carried on", "")
            for g in project.gone
        ]
        self.list.set_rows(rows, f"{GONE}{self._gone}" if gone is not None else f"{self.zone}|{self.side}")
        self.list.setVisible(bool(rows))
        self.list_head.setVisible(bool(rows))

    def leave(self) -> None:
        """What is still being read is asked for again when the page is opened."""
        self.session.runner.cancel("changes")
        self.session.runner.cancel("match")
        self.moving = self.matching = False
        self._asked = None

    def _ask(self, project: Project) -> None:
        if self._asked is not project and self.changes is None:
            self._asked = project
            self.session.runner.start("changes", ReadChanges(self.session.results, project), self._take)

    def _take(self, value: tuple[Project, Changes]) -> None:
        self._changes = value
        project = self.session.project
        if project is not None:
            self.refresh(project)
        self.changed.emit()

    def _use_side(self, key: str) -> None:
        self.side = key
        if self.session.project is not None:
            self.refresh(self.session.project)

    def _measure(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self._say(self.sender().objectName(), value, going=going)

    def _reset(self) -> None:
        name = self.sender().objectName()
        self._say(name, getattr(Departure(""), name), going=False)

    def _say(self, name: str, value: float, *, going: bool) -> None:
        zone, side = self.zone, self.side
        self.session.edit(
            lambda p: edits.depart(p, zone, side, **{name: value}), "a departure", f"depart {zone} {side} {name}"
        )
        if not going:
            self.session.seal()

    def _act(self, key: str) -> None:
        zone, side = self.zone, self.side
        project = self.session.project
        if project is None:
            return
        if key == "back":
            self.session.edit(lambda p: edits.follow_reference(p, zone, side), "as the reference")
            return
        if key == "match":
            self.matching, self.moving = not self.matching, False
            if self.matching and not self.shows:
                self._show("changed")
            self.refresh(project)
            return
        if key == "move":
            self.moving, self.matching = not self.moving, False
            if self.moving and not self.shows:
                # It is dragged over the picture it is in, not over a pass.
                self._show("changed")
            self.refresh(project)
            return
        if key in ("out", "bring", "animal"):
            self._part(key, project, zone)
            return
        diagonal = math.hypot(project.canvas.width_mm, project.canvas.height_mm)
        made = AIR if key == "air" else falling_away(project.seeing.falloff, diagonal)
        values = {name: getattr(made, name) for name in (*NAMES, "note")}
        self.side = made.side
        words = "farther is paler, greyer, cooler" if key == "air" else "the falloff is taken over"
        self.session.edit(lambda p: edits.depart(p, "", made.side, **values), words)

    def _part(self, key: str, project: Project, zone: str) -> None:
        """Leave a part out, bring one back, or let all parts of its animal differ as it does."""
        there, gone = project.zone(zone), self._gone
        if key == "bring":
            self._gone = ""
            self.session.edit(lambda p: edits.bring_back(p, gone), "bring a part back")
        elif there is not None and key == "out":
            self.moving = False
            self.session.edit(lambda p: edits.leave_out_part(p, zone), f"leave out {there.name.lower()}")
        elif there is not None:
            one, side = project.departure(zone, self.side), self.side

            def all_so(p: Project) -> Project:
                for other in p.zones:
                    if one is not None and other.group == there.group:
                        values = {name: getattr(one, name) for name in (*NAMES, "note")}
                        p = edits.depart(p, other.id, side, **values)
                return p

            self.session.edit(all_so, f"all of {there.group} so")

    def match(self, target: tuple[float, float, float]) -> None:
        """Bring the part's mean colour to one that was clicked."""
        project = self.session.project
        self.matching = False
        if project is not None:
            request = MatchColour(self.session.results, project, self.zone, self.side, target)
            self.session.runner.start("match", request, self._matched)

    def _matched(self, made: Departure) -> None:
        values = {name: getattr(made, name) for name in ("lightness", "warmth", "redness")}
        self.session.edit(lambda p: edits.depart(p, made.zone, made.side, **values), "match a colour")

    def move_by(self, dx: float, dy: float) -> None:
        """Move the part by reference pixels, as it was dragged."""
        zone = self.zone
        self.moving = False
        self.session.edit(lambda p: edits.move_part(p, zone, (dx, dy)), "move a part")

    def _choose(self, key: str) -> None:
        if key.startswith(GONE):
            self._gone = key.removeprefix(GONE)
            if self.session.project is not None:
                self.refresh(self.session.project)
            return
        self._gone = ""
        zone, _, self.side = key.partition("|")
        self.chosen.emit(zone)
        if self.session.project is not None:
            self.refresh(self.session.project)

    def _show(self, key: str) -> None:
        self.shows = key
        self.changed.emit()
