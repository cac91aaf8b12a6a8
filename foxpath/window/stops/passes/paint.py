"""How a pass's paint is: opacity, medium, body, colour, how it is laid, and over what."""

from PySide6.QtCore import QRectF, Signal
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from foxpath.core.passes import PassPlan
from foxpath.core.passes.colours import PassColour
from foxpath.core.passes.roles import STRONGEST, WARMEST
from foxpath.core.units import percent
from foxpath.derive.mixes.ready import ReadyPile
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Choice, Measure, Scale
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour, hex_of

SHARE = Scale(0, 1, percent, step=0.01)
NUMBERS: dict[str, tuple[str, Scale]] = {
    "opacity": ("Opacity", Scale(0.05, 1, percent, step=0.01)),
    "fat": ("Medium", SHARE),
    "thickness": ("Body", SHARE),
    "tint": ("Strength", Scale(0, 2, percent, step=0.05)),
    "chroma": ("Chroma", Scale(0, STRONGEST, lambda v: "no limit" if v >= STRONGEST else f"to C* {v:.0f}", step=1)),
    "lean": (
        "Warmth",
        Scale(
            -20, 20, lambda v: "as seen" if abs(v) < 0.5 else f"{'warm' if v > 0 else 'cool'} {abs(v):.0f} b*", step=1
        ),
    ),
    "coolest": ("Coolest", Scale(-WARMEST, WARMEST, lambda v: "no limit" if v <= -WARMEST else f"b* {v:.0f}", step=1)),
    "warmest": ("Warmest", Scale(-WARMEST, WARMEST, lambda v: "no limit" if v >= WARMEST else f"b* {v:.0f}", step=1)),
}
HOW = {
    "opaque": "It covers what lies beneath.",
    "glaze": "Transparent over a dry layer: what is beneath shines through and darkens.",
    "dry": "Nearly dry, dragged lightly: it stays on what stands up of the surface.",
    "scumble": "Thin and pale, rubbed over a darker layer: it veils without covering.",
}


class Swatches(QWidget):
    """The colours to have ready, dark to light, each as wide as its share of the paint, with its L*."""

    TALL = 50

    def __init__(self) -> None:
        super().__init__()
        self.colours: tuple[PassColour, ...] = ()
        self.setAccessibleName("colours of the pass")

    def show_colours(self, colours: tuple[PassColour, ...]) -> None:
        """Show these."""
        self.colours = colours
        self.setFixedHeight(self.TALL if colours else 0)
        said = ", ".join(f"L* {one.light:.0f}, C* {one.chroma:.0f}, {percent(one.share)}" for one in colours)
        self.setAccessibleDescription(said)
        self.setToolTip(said)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            least = 26.0
            room = self.width() - 12 - least * len(self.colours)
            x = 6.0
            for one in self.colours:
                wide = least + room * one.share
                box = QRectF(x, 4, wide - 3, 24)
                p.setPen(QPen(colour("line"), 1))
                p.setBrush(QColor(*one.rgb))
                p.drawRoundedRect(box, 4, 4)
                draw.text(p, box.center().x(), 43, f"{one.light:.0f}", 12, 400, "quiet", "c")
                x += wide


class PaintPanel(QWidget):
    """The numbers of a pass's paint; each can be decided and given back."""

    decided = Signal(str, object, bool)
    """Name, value (None gives it back), and whether the drag goes on."""
    pile_chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.head = Section("Paint", "")
        self.swatches = Swatches()
        self.piles = Rows("piles of the pass")
        self.piles.chosen.connect(self.pile_chosen)
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
        stack(
            self,
            self.head,
            self.swatches,
            self.piles,
            self.how,
            self.words,
            *self.measures.values(),
            self.beneath_head,
            self.beneath,
        )

    def show_pass(self, plan: PassPlan, colours: tuple[PassColour, ...]) -> None:
        """Show a pass's paint, and the colours it is painted with as far as they are known."""
        decided = plan.edit.decided()
        self.head.set_words("Paint", f"{plan.role.paint} · L* of its colours" if colours else plan.role.paint)
        self.swatches.show_colours(colours)
        self.how.set_value(plan.role.handling)
        self.words.set_words(HOW[plan.role.handling])
        self.beneath.set_value(plan.role.beneath)
        for name, measure in self.measures.items():
            measure.set_value(getattr(plan.role, name), getattr(plan.usual, name), decided=name in decided)

    def show_piles(self, piles: tuple[ReadyPile, ...]) -> None:
        """Show the piles it is painted with, most paint first; none as long as they are not planned."""
        self.piles.setVisible(bool(piles))
        rows = [
            Row(
                one.key,
                f"{one.number}  {one.name}",
                "",
                f"{one.ml:.1f} mL",
                swatch=hex_of(one.lab),
            )
            for one in piles
        ]
        self.piles.set_rows(rows, "")

    def _how(self, key: str) -> None:
        self.decided.emit("handling", key, False)

    def _beneath(self, key: str) -> None:
        self.decided.emit("beneath", key, False)

    def _measure(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self.decided.emit(self.sender().objectName(), value, going)

    def _reset(self) -> None:
        self.decided.emit(self.sender().objectName(), None, False)
