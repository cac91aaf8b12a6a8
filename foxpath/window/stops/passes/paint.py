"""How a pass's paint is: opacity, medium, body, colour, how it is laid, and over what."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.passes import PassPlan
from foxpath.core.passes.roles import STRONGEST
from foxpath.core.units import percent
from foxpath.window.bench.controls import Choice, Measure, Scale
from foxpath.window.bench.rows import Section, Words

SHARE = Scale(0, 1, percent, step=0.01)
NUMBERS: dict[str, tuple[str, Scale]] = {
    "opacity": ("Opacity", Scale(0.05, 1, percent, step=0.01)),
    "fat": ("Medium", SHARE),
    "thickness": ("Body", SHARE),
    "tint": ("Strength", Scale(0, 2, percent, step=0.05)),
    "chroma": ("Chroma", Scale(0, STRONGEST, lambda v: "no limit" if v >= STRONGEST else f"to C* {v:.0f}", step=1)),
    "lean": (
        "Warmth",
        Scale(-20, 20, lambda v: "as seen" if abs(v) < 0.5 else f"{'warm' if v > 0 else 'cool'} {abs(v):.0f}", step=1),
    ),
}
HOW = {
    "opaque": "It covers what lies beneath.",
    "glaze": "Transparent over a dry layer: what is beneath shines through and darkens.",
    "dry": "Nearly dry, dragged lightly: it stays on what stands up of the surface.",
    "scumble": "Thin and pale, rubbed over a darker layer: it veils without covering.",
}


class PaintPanel(QWidget):
    """The numbers of a pass's paint; each can be decided and given back."""

    decided = Signal(str, object, bool)
    """Name, value (None gives it back), and whether the drag goes on."""

    def __init__(self) -> None:
        super().__init__()
        self.head = Section("Paint", "")
        self.how = Choice(
            [("opaque", "covers"), ("glaze", "glaze"), ("dry", "dry"), ("scumble", "scumble")], "how paint is laid"
        )
        self.how.chosen.connect(self._how)
        self.words = Words("", 12.5)
        self.beneath_head = Words("What lies beneath must be", 12.5)
        self.beneath = Choice([("wet", "wet"), ("tacky", "tacky"), ("touch-dry", "touch-dry")], "what lies beneath")
        self.beneath.chosen.connect(self._beneath)
        self.measures: dict[str, Measure] = {}
        for name, (words, scale) in NUMBERS.items():
            measure = Measure(words, scale)
            measure.setObjectName(name)
            measure.changed.connect(self._measure)
            measure.reset.connect(self._reset)
            self.measures[name] = measure
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        for part in (self.head, self.how, self.words, *self.measures.values(), self.beneath_head, self.beneath):
            layout.addWidget(part)

    def show_pass(self, plan: PassPlan) -> None:
        """Show a pass's paint."""
        decided = plan.edit.decided()
        self.head.set_words("Paint", plan.role.paint)
        self.how.set_value(plan.role.handling)
        self.words.set_words(HOW[plan.role.handling])
        self.beneath.set_value(plan.role.beneath)
        for name, measure in self.measures.items():
            measure.set_value(getattr(plan.role, name), getattr(plan.usual, name), decided=name in decided)

    def _how(self, key: str) -> None:
        self.decided.emit("handling", key, False)

    def _beneath(self, key: str) -> None:
        self.decided.emit("beneath", key, False)

    def _measure(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self.decided.emit(self.sender().objectName(), value, going)

    def _reset(self) -> None:
        self.decided.emit(self.sender().objectName(), None, False)
