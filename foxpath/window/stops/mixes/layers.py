"""Paint over paint, blacks, opposites, white, and where pure colour is spent."""

import numpy as np
from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.mixes.budget import Budget
from foxpath.core.mixes.layers import best_veils, cannot_words, veil, veil_words
from foxpath.core.mixes.palette import Pile
from foxpath.core.mixes.strings import next_white, shift_words, white_shift
from foxpath.core.mixes.tubes import Triple
from foxpath.core.mixes.words import amount_words, names_of, parts_words
from foxpath.core.units import mm_words, percent
from foxpath.derive.mixes.reading import MixesClose
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Choice, Measure, Scale
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour, hex_of
from foxpath.window.stops.mixes.spots import Swatches
from foxpath.window.work.session import Session

SHIFTS: dict[str, tuple[str, tuple[float, float, float]]] = {
    "warmer": ("warmer", (-2.0, 2.0, 9.0)),
    "cooler": ("cooler", (-1.0, -2.0, -9.0)),
    "darker": ("darker", (-8.0, 0.0, 0.0)),
    "lighter": ("lighter", (8.0, 0.0, -1.0)),
}
GLAZE_UM = 15.0
MIDDLE: Triple = (50.0, 0.0, 0.0)
WHITE: Triple = (93.0, 0.0, 2.0)
LIGHTENED = 15.0


class BudgetView(QWidget):
    """Strength of colour by distance from the focus: posts for what is pure, a line for the share that was set."""

    def __init__(self) -> None:
        super().__init__()
        self._budget: Budget | None = None
        self._set = 0.05
        self.setFixedHeight(120)

    def show_budget(self, budget: Budget | None, share: float) -> None:
        """Show a budget."""
        self._budget, self._set = budget, share
        if budget is not None:
            self.setAccessibleName(f"{percent(budget.share)} of the canvas is pure colour, {percent(share)} set")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        budget = self._budget
        if budget is None:
            return
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            left, right, top, foot = 40.0, self.width() - 10.0, 10.0, self.height() - 30.0
            most = max(0.2, self._set * 1.5, float(np.nanmax(budget.rings)))
            draw.text(p, left - 6, top + 6, percent(most), 11.5, 400, "quiet", "r")
            draw.text(p, left - 6, foot + 4, "0", 11.5, 400, "quiet", "r")
            wide = (right - left) / len(budget.rings)
            for k, share in enumerate(budget.rings):
                if not np.isfinite(share):
                    continue
                x, y = left + (k + 0.5) * wide, foot - float(share) / most * (foot - top)
                tone = "russet" if share > self._set else "text"
                draw.stroke(p, draw.along(x, foot, x, min(y, foot - 1)), 9, 3, tone, soft_root=False)
            y = foot - self._set / most * (foot - top)
            draw.rule(p, left, y, right - left, "quiet")
            draw.text(p, right, y - 4, "set", 11.5, 400, "quiet", "r")
            far = float(budget.far_mm[-1])
            draw.text(p, left, foot + 18, "focus", 12, 400, "quiet")
            draw.text(p, right, foot + 18, mm_words(far), 12, 400, "quiet", "r")
            p.fillRect(QRectF(left, foot, right - left, 1), colour("dim"))


class LayersPage(QWidget):
    """What a veil does, which blacks there are, what cancels, and what white brings."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.head = Section("A veil over it", "dry beneath")
        self.way = Choice([(key, words) for key, (words, _) in SHIFTS.items()], "which way the veil is to move it")
        self.way.chosen.connect(self._again)
        self.film = Measure("Film", Scale(5, 60, lambda v: f"{v:.0f} µm", step=5))
        self.film.set_value(GLAZE_UM, GLAZE_UM)
        self.film.changed.connect(self._slid)
        self.veils = Rows("veils")
        self.veils.chosen.connect(self._choose_veil)
        self.swatches = Swatches()
        self.veil_words = Words("", 13, "text")
        self.black_head = Section("Blacks", "judged at 1:8 with white")
        self.blacks = Rows("blacks, cool to warm")
        self.blacks.chosen.connect(self._take_mother)
        self.black_words = Words("", 12.5)
        self.white_head = Section("What white does", "")
        self.white_words = Words("", 13)
        self.grey_head = Section("Opposites", "grey at a middle value")
        self.greys = Rows("opposites")
        self.budget_head = Section("Pure colour", "")
        self.budget = BudgetView()
        stack(
            self, self.head, self.way, self.film, self.veils, self.swatches, self.veil_words, self.black_head, self.blacks,
            self.black_words, self.white_head, self.white_words, self.grey_head, self.greys, self.budget_head, self.budget,
        )  # fmt: skip
        self._veil = ""
        self._close: MixesClose | None = None
        self._pile: Pile | None = None
        self._blacks_of: object = None

    def show_pile(self, project: Project, close: MixesClose, pile: Pile | None) -> None:
        """Show what can be done over a pile's colour, and with the tubes."""
        self._close, self._pile = close, pile
        self._show_veils()
        rack = close.rack
        if rack is not None and close is not self._blacks_of:
            self._blacks_of = close
            names = names_of(rack.tubes)
            found = close.blacks
            mother = close.palette.pile("mother")
            now = mother.recipe.parts if mother is not None else ()
            rows = [
                Row(str(k), " : ".join(amount_words(n) for _, n in one.parts), "", one.words(), swatch=hex_of(one.tint))
                for k, one in enumerate(found)
            ]
            at = next((str(k) for k, one in enumerate(found) if dict(one.parts) == dict(now)), "")
            self.blacks.set_rows(rows, at)
            pair = " and ".join(names[key].lower() for key, _ in found[0].parts) if found else "no blue with a brown"
            self.black_head.set_words("Blacks", pair)
            other = "; ".join(f"to {name}: {parts_words(one.parts[-3:], names)}" for name, one in close.leaning)
            deep = f"The deepest these tubes reach on this surface is L* {close.deepest:.0f}."
            brown = "A dark from brown stays warm when white comes in; one from blue turns cool."
            self.black_words.set_words(
                f"Judged at 1:8 with white. {deep} {brown} Choose one as the mother mix."
                + (f" Leaning {other}." if other else "")
            )
            self.greys.set_rows(
                [
                    Row(str(k), parts_words(one.parts, names), "", f"C* {one.chroma:.0f} left", swatch=hex_of(one.grey))
                    for k, one in enumerate(close.greys)
                ],
                "",
            )
        self._show_white()
        budget = close.budget
        for part in (self.budget_head, self.budget):
            part.setVisible(budget is not None)
        if budget is not None:
            self.budget_head.set_words(
                "Pure colour", f"{percent(budget.share)} of the canvas, {percent(project.mixes.pure)} set"
            )
            self.budget.show_budget(budget, project.mixes.pure)

    def _show_white(self) -> None:
        rack, pile = self._close.rack if self._close else None, self._pile
        known = rack is not None and pile is not None and all(key in rack.ids for key, _ in pile.recipe.parts)
        for part in (self.white_head, self.white_words):
            part.setVisible(bool(known))
        if not known or rack is None or pile is None:
            return
        parts = rack.parts(pile.recipe.parts)
        parts *= 10 / parts.sum()
        change, start = white_shift(rack, parts, LIGHTENED)
        more = next_white(rack, parts)
        self.white_head.set_words("What white does", pile.name)
        if not change.any():
            self.white_words.set_words("No white is in the studio.")
            return
        warm = f"{abs(start[2]):.0f} {'warmer' if start[2] > 0 else 'cooler'}"
        self.white_words.set_words(
            f"The smallest step is {amount_words(more)} white to 10 parts: 2 L*. By {LIGHTENED:.0f} L* it {shift_words(change)}: "
            f"begin {LIGHTENED:.0f} L* darker and {warm}, because you will lighten it."
        )

    def _again(self, _: str) -> None:
        self._show_veils()

    def _slid(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        self.film.set_value(value, GLAZE_UM, decided=value != GLAZE_UM)
        if not going:
            self._show_veils()

    def _choose_veil(self, key: str) -> None:
        self._veil = key
        self._show_veils()

    def _show_veils(self) -> None:
        close, pile = self._close, self._pile
        rack = close.rack if close is not None else None
        shown = pile is not None and rack is not None
        for part in (self.head, self.way, self.film, self.veils, self.swatches, self.veil_words):
            part.setVisible(shown)
        if not shown or close is None or pile is None or rack is None:
            return
        self.head.set_words(f"A veil over {pile.name}", "dry beneath")
        over = np.array(pile.lab)
        want = over + np.array(SHIFTS[self.way.value][1])
        offered = [
            (one.key, rack.parts(one.recipe.parts))
            for one in close.palette.piles
            if all(k in rack.ids for k, _ in one.recipe.parts)
        ]
        offered += [(tube.id, rack.parts({tube.id: 1.0})) for tube in rack.tubes]
        named = {one.key: one.name for one in close.palette.piles} | {t.id: t.name.lower() for t in rack.tubes}
        found = best_veils(rack, offered, over, want, self.film.value)
        if self._veil not in {one.name for one in found}:
            self._veil = found[0].name if found else ""
        self.veils.set_rows(
            [
                Row(one.name, named[one.name], f"1 : {1 / one.paint - 1:.0f} medium" if one.paint < 1 else "as it is",
                    f"{one.coats} coat{'s' if one.coats > 1 else ''}", swatch=hex_of(one.lab))
                for one in found
            ],
            self._veil,
        )  # fmt: skip
        one = next((v for v in found if v.name == self._veil), None)
        if one is None:
            return
        parts = dict(offered)[one.name]
        grounds = np.array([WHITE, MIDDLE, pile.lab])
        laid = veil(rack, parts, grounds, self.film.value, paint=one.paint, coats=one.coats)
        self.swatches.show_colours(
            [
                (hex_of(_triple(lab)), word)
                for lab, word in zip(laid, ("over white", "over middle", "over it"), strict=True)
            ]
        )
        cannot = cannot_words(over, want, one.away)
        self.veil_words.set_words(f"It comes out {veil_words(over, np.array(one.lab))}. {cannot}".strip())

    def _take_mother(self, key: str) -> None:
        if self._close is None:
            return
        parts = self._close.blacks[int(key)].parts
        self.session.edit(lambda p: edits.set_mixes(p, mother=parts), "another mother mix")


def _triple(lab: np.ndarray) -> Triple:
    return float(lab[0]), float(lab[1]), float(lab[2])
