"""The painter's brushes on the bench, and which is used for the chosen zone in each pass."""

import re

from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.errors import InputError
from foxpath.core.lengths import DEFAULT_KIT, SHAPES, Brush
from foxpath.core.units import MM_PER_UNIT, count_words, mm_words
from foxpath.derive.subjects import PASSES
from foxpath.document import edits
from foxpath.document.model import Project, Zone
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Field, Measure, Scale
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.work.session import Session

_BRUSH = re.compile(r"^\s*(\d+(?:[.,]\d+)?)\s*(mm|cm|in|\")?\s+([a-z]+)\s*$|^\s*([a-z]+)\s+(\d+(?:[.,]\d+)?)\s*(mm|cm|in|\")?\s*$", re.IGNORECASE)  # fmt: skip


def parse_brush(text: str) -> Brush:
    """Read a brush such as "12 mm flat" or "liner 1".

    Raises
    ------
    InputError
        When it is no brush.
    """
    found = _BRUSH.match(text)
    hint = f"Write width and shape, e.g. 12 mm flat. Shapes: {', '.join(SHAPES)}."
    if found is None:
        raise InputError(f"“{text.strip()}” is no brush.", hint)
    number, unit, shape = (found[1], found[2], found[3]) if found[1] else (found[5], found[6], found[4])
    if shape.lower() not in SHAPES:
        raise InputError(f"There is no brush “{shape}”.", hint)
    factor = MM_PER_UNIT["in" if unit == '"' else (unit or "mm").lower()]
    return Brush(shape.lower(), float(number.replace(",", ".")) * factor)


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
        self.acts = Buttons([("remove", "Take it out"), ("usual", "Back to the usual kit")], 2)
        self.acts.clicked.connect(self._act)
        self.add = Field("brush to add to the kit")
        self.add.setPlaceholderText("add one, e.g. 12 mm flat")
        self.add.taken.connect(self.add_brush)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        parts = (self.head, self.uses, self.why, self.kit_head, self.list, self.broad, self.wear, self.acts, self.add)
        for part in parts:
            layout.addWidget(part)
        self._at = -1
        self._pass, self._index = "", -1

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
                    "new" if brush.wear == 0 else f"worn, {brush.wear}",
                )
                for k, brush in enumerate(kit)
            ],
            str(self._at) if self._at >= 0 else "",
        )
        for part in (self.broad, self.wear):
            part.setVisible(self._at >= 0)
        if self._at >= 0:
            self.broad.set_value(kit[self._at].width_mm)
            self.wear.set_value(float(kit[self._at].wear))
        usual = {"usual"} if kit != DEFAULT_KIT else set()
        self.acts.show_only(usual | ({"remove"} if self._at >= 0 else set()))

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
            self.why.set_words(f"{choice.why}.")

    # Changing the kit -----------------------------------------------------------------------------

    def _choose(self, key: str) -> None:
        self._at = int(key)
        project = self.session.project
        if project is not None:
            self.show_zone(project, project.zone(self.session.chosen["zone"]))

    def _change(self, words: str, **values: float) -> None:
        at, project = self._at, self.session.project
        if project is None or not 0 <= at < len(project.kit):
            return
        old = project.kit[at]
        new = Brush(old.shape, float(values.get("width_mm", old.width_mm)), round(values.get("wear", old.wear)))
        self.session.edit(lambda p: edits.change_brush(p, at, new), words, f"{words} {at}")

    def _set_width(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self._change("width of a brush", width_mm=value)
        if not going:
            self.session.seal()

    def _set_wear(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self._change("wear of a brush", wear=value)
        if not going:
            self.session.seal()

    def _act(self, key: str) -> None:
        at = self._at
        if key == "remove":
            self._at = -1
            self.session.edit(lambda p: edits.remove_brush(p, at), "take a brush out of the kit")
        else:
            self.session.edit(edits.usual_kit, "the usual kit")

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
