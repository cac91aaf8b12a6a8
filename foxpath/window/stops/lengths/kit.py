"""The painter's brushes on the bench, and which is used for the chosen zone in each pass."""

import re
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QFileDialog, QVBoxLayout, QWidget

from foxpath.core.errors import AppError, InputError
from foxpath.core.lengths import DEFAULT_KIT, SHAPES, Brush
from foxpath.core.units import MM_PER_UNIT, count_words, mm_words
from foxpath.derive.subjects import PASSES
from foxpath.document import edits, kits
from foxpath.document.model import Project, Zone
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Button, Choice, Field, Measure, Scale
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.work.session import Session

_BRUSH = re.compile(r"^\s*(?:(old|splayed|cut)\s+)?(?:(soft|bristle)\s+)?(?:(\d+(?:[.,]\d+)?)\s*(mm|cm|in|\")?\s+)?([a-z]+)(?:\s+(\d+(?:[.,]\d+)?)\s*(mm|cm|in|\")?)?\s*$", re.IGNORECASE)  # fmt: skip
_SAID = {"old": "worn", "splayed": "splayed", "cut": "cut"}
SHARED = "Kits of brushes (*.json)"


def parse_brush(text: str) -> Brush:
    """Read a brush such as "12 mm flat", "liner 1" or "old bristle 8 mm filbert".

    Raises
    ------
    InputError
        When it is no brush.
    """
    found = _BRUSH.match(text)
    hint = f"Write width and shape, e.g. 12 mm flat, or old 12 mm flat. Shapes: {', '.join(SHAPES)}."
    if found is None or (found[3] is None) == (found[6] is None):
        raise InputError(f"“{text.strip()}” is no brush.", hint)
    state, hair, shape = found[1], found[2], found[5].lower()
    number, unit = (found[3], found[4]) if found[3] is not None else (found[6], found[7])
    if shape not in SHAPES:
        raise InputError(f"There is no brush “{shape}”.", hint)
    factor = MM_PER_UNIT["in" if unit == '"' else (unit or "mm").lower()]
    width = float(number.replace(",", ".")) * factor
    return Brush(shape, width, hair=(hair or "").lower(), state=_SAID.get((state or "").lower(), "new"))


class KitPanel(QWidget):
    """The kit: choose a brush to change its width and wear, type one to add it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.head = Section("Brushes for it", "pass by pass")
        self.uses = Rows("brushes, pass by pass")
        self.why = Words("", 12)
        self.uses.chosen.connect(self._explain)
        self.kit_head = Section("Your kit", "")
        self.list = Rows("brushes of the kit")
        self.list.chosen.connect(self._choose)
        self.broad = Measure("Width", Scale(0.1, 60, mm_words, ratio=True))
        self.broad.changed.connect(self._set_width)
        self.wear = Measure("Served for", Scale(0, 12, lambda v: count_words(round(v), "painting"), step=1))
        self.wear.changed.connect(self._set_wear)
        self.edge = Measure("Edge or tip", Scale(0.02, 12, mm_words, ratio=True))
        self.edge.changed.connect(self._set_edge)
        self.edge.reset.connect(self._own_edge)
        self.hair = Choice([("soft", "soft"), ("bristle", "bristle")], "hair of the brush")
        self.hair.chosen.connect(self._set_hair)
        self.state = Choice(
            [("new", "new"), ("worn", "old"), ("splayed", "splayed"), ("cut", "cut short")], "state of the brush"
        )
        self.state.chosen.connect(self._set_state)
        self.use = Button("Use it in this pass")
        self.use.clicked.connect(self._like)
        self.leave = Button("Leave the choice to the plan")
        self.leave.clicked.connect(self._leave)
        self.acts = Buttons(
            [("remove", "Take it out"), ("keep", "Keep for all paintings"), ("own", "Take my kept kit"),
             ("share", "Share …"), ("take", "Open a kit …"), ("usual", "The usual kit")], 2,
        )  # fmt: skip
        self.acts.clicked.connect(self._act)
        self.add = Field("brush to add to the kit")
        self.add.setPlaceholderText("add one, e.g. 12 mm flat")
        self.add.taken.connect(self.add_brush)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        parts = (
            self.head, self.uses, self.why, self.use, self.leave, self.kit_head, self.list, self.broad, self.edge,
            self.hair, self.state, self.wear, self.add, self.acts,
        )  # fmt: skip
        for part in parts:
            layout.addWidget(part)
        self._at = -1
        self._pass, self._index = "", -1
        self._kept: tuple[Brush, ...] | None = None

    def show_zone(self, project: Project, zone: Zone | None) -> None:
        """Show the kit, and what of it a zone takes."""
        self._show_uses(zone)
        kit = project.kit
        self._at = min(self._at, len(kit) - 1)
        self.kit_head.set_words("Your kit", count_words(len(kit), "brush", "brushes"))
        self.list.set_rows(
            [
                Row(
                    str(k),
                    brush.words(),
                    f"finest mark {mm_words(brush.fine_mm)}",
                    _served(brush),
                )
                for k, brush in enumerate(kit)
            ],
            str(self._at) if self._at >= 0 else "",
        )
        for part in (self.broad, self.edge, self.hair, self.state, self.wear):
            part.setVisible(self._at >= 0)
        if self._at >= 0:
            brush = kit[self._at]
            self.broad.set_value(brush.width_mm)
            usual_edge = brush.width_mm * SHAPES[brush.shape]
            self.edge.set_value(brush.edge_mm or usual_edge, usual_edge, decided=brush.edge_mm is not None)
            self.hair.set_value(brush.made_of)
            self.hair.setVisible(brush.made_of != "steel")
            self.state.set_value(brush.state)
            self.wear.set_value(float(brush.wear))
        self._show_acts(kit)

    def _show_uses(self, zone: Zone | None) -> None:
        readings = self.session.readings
        index = (
            next((k for k, z in enumerate(readings.zones) if zone is not None and z.id == zone.id), -1)
            if readings
            else -1
        )
        rows = []
        for plan in readings.of(PASSES).passes if readings is not None and index >= 0 else ():
            choice = plan.brushes.get(index)
            if index in plan.zones and plan.on:
                what = {"mass": "masses", "hair": "hairs", "clump": "clumps", "hint": "hints"}
                words = f"{what[choice.made_as]} {mm_words(choice.mark_mm)}" if choice is not None else "no brush fits"
                rows.append(
                    Row(plan.role.key, plan.role.name, words, choice.brush.words() if choice is not None else "")
                )
        for part in (self.head, self.uses):
            part.setVisible(bool(rows))
        self.uses.set_rows(rows, self._pass)
        self._index = index
        self._explain(self._pass)

    def _show_acts(self, kit: tuple[Brush, ...]) -> None:
        shown = {"share", "take"}
        if self._at >= 0:
            shown.add("remove")
        if kit != DEFAULT_KIT:
            shown.add("usual")
        if kit != self._own():
            shown |= {"keep", "own"} if kits.place().exists() else {"keep"}
        self.acts.show_only(shown)

    def _own(self) -> tuple[Brush, ...]:
        """Return the kit that is kept for all paintings, read once."""
        if self._kept is None:
            try:
                self._kept = kits.own_kit()
            except AppError as failure:
                self._kept = DEFAULT_KIT
                self.session.said.emit(str(failure), "must")
        return self._kept

    def _explain(self, key: str) -> None:
        """Say by which measure and rule a brush was taken."""
        self._pass = key
        readings = self.session.readings
        plan = (
            next((p for p in readings.of(PASSES).passes if p.role.key == key), None) if readings is not None else None
        )
        choice = plan.brushes.get(self._index) if plan is not None else None
        self.why.setVisible(choice is not None)
        if choice is not None:
            then = choice.follow_up()
            self.why.set_words(f"{choice.words()}: {choice.why}{'; ' + then if then else ''}.")
        project = self.session.project
        zone = project.zone(self.session.chosen["zone"]) if project is not None else None
        kit = project.kit if project is not None else ()
        liked = zone is not None and any(one.act == key for one in zone.brushes)
        other = plan is not None and 0 <= self._at < len(kit) and (choice is None or choice.brush != kit[self._at])
        self.use.setVisible(other and zone is not None)
        self.leave.setVisible(liked)
        if other and plan is not None:
            self.use.set_words(f"{plan.role.name} with the {kit[self._at].words()}")

    def _like(self) -> None:
        project, key = self.session.project, self._pass
        if project is None or not 0 <= self._at < len(project.kit):
            return
        brush, zone = project.kit[self._at], self.session.chosen["zone"]
        self.session.edit(lambda p: edits.like_brush(p, zone, key, brush), f"use the {brush.words()}")

    def _leave(self) -> None:
        zone, key = self.session.chosen["zone"], self._pass
        self.session.edit(lambda p: edits.like_brush(p, zone, key, None), "leave the brush to the plan")

    # Changing the kit -----------------------------------------------------------------------------

    def _choose(self, key: str) -> None:
        self._at = int(key)
        project = self.session.project
        if project is not None:
            self.show_zone(project, project.zone(self.session.chosen["zone"]))

    def _change(self, words: str, **values: Any) -> None:
        at, project = self._at, self.session.project
        if project is None or not 0 <= at < len(project.kit):
            return
        new = replace(project.kit[at], **values)
        self.session.edit(lambda p: edits.change_brush(p, at, new), words, f"{words} {at}")

    def _set_width(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        project = self.session.project
        edge = project.kit[self._at].edge_mm if project is not None and 0 <= self._at < len(project.kit) else None
        self._change("width of a brush", width_mm=value, edge_mm=None if edge is None else min(edge, value))
        if not going:
            self.session.seal()

    def _set_edge(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        project = self.session.project
        if project is not None and 0 <= self._at < len(project.kit):
            self._change("edge of a brush", edge_mm=min(value, project.kit[self._at].width_mm))
        if not going:
            self.session.seal()

    def _own_edge(self) -> None:
        self._change("edge of a brush", edge_mm=None)

    def _set_hair(self, key: str) -> None:
        self._change("hair of a brush", hair=key)

    def _set_state(self, key: str) -> None:
        self._change("state of a brush", state=key)

    def _set_wear(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self._change("wear of a brush", wear=round(value))
        if not going:
            self.session.seal()

    def _act(self, key: str) -> None:
        at, project = self._at, self.session.project
        if project is None:
            return
        if key == "remove":
            self._at = -1
            self.session.edit(lambda p: edits.remove_brush(p, at), "take a brush out of the kit")
        elif key == "keep":
            if self._tried(lambda: kits.keep_kit(project.kit)):
                self._kept = project.kit
                self.session.said.emit("This kit is kept: new paintings begin with it.", "note")
                self._show_acts(project.kit)
        elif key == "own":
            own = self._own()
            self.session.edit(lambda p: edits.take_kit(p, own), "take the kept kit")
        elif key == "share":
            path, _ = QFileDialog.getSaveFileName(self, "Share this kit", "kit.json", SHARED)
            if path and self._tried(lambda: kits.write_kit(Path(path), project.kit)):
                self.session.said.emit(
                    f"{Path(path).name}: {count_words(len(project.kit), 'brush', 'brushes')}", "note"
                )
        elif key == "take":
            path, _ = QFileDialog.getOpenFileName(self, "Open a kit", "", SHARED)
            if path:
                self.open_kit(Path(path))
        else:
            self.session.edit(edits.usual_kit, "the usual kit")

    def open_kit(self, path: Path) -> None:
        """Paint with the brushes of a file."""
        found: list[tuple[Brush, ...]] = []
        if self._tried(lambda: found.append(kits.read_kit(path))):
            self._at = -1
            self.session.edit(lambda p: edits.take_kit(p, found[0]), f"open the kit {path.stem}")

    def _tried(self, act: Callable[[], None]) -> bool:
        """Do something with a file; say why not when it fails."""
        try:
            act()
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return False
        return True

    def add_brush(self, words: str) -> None:
        """Add the brush that was typed."""
        if not words.strip():
            return
        try:
            brush = parse_brush(words)
        except InputError as failure:
            self.session.said.emit(str(failure), "must")
            return
        if self.session.edit(lambda p: edits.add_brush(p, brush), f"add a {brush.words()}"):
            self.add.clear()
            self.add.show_words("")


def _served(brush: Brush) -> str:
    """Say a brush's state and how many paintings it has served."""
    state = {"worn": "old", "cut": "cut short"}.get(brush.state, brush.state)
    return (
        state
        if brush.wear == 0
        else f"{state}, {count_words(brush.wear, 'painting')}"
        if brush.state != "new"
        else f"worn, {brush.wear}"
    )
