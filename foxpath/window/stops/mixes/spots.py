"""Spots of the picture: the nearest pile and what it lacks, paint into the wet, an accent's surround, and a brush's way."""

from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.errors import InputError
from foxpath.core.mixes.chain import brush_chain, linked
from foxpath.core.mixes.layers import UNEXPLAINED, pick_up_seen
from foxpath.core.mixes.palette import Pile
from foxpath.core.mixes.recipe import Rack, Recipe
from foxpath.core.mixes.tubes import Triple
from foxpath.core.mixes.words import names_of, parts_words
from foxpath.core.reporting import Progress
from foxpath.core.units import percent
from foxpath.derive.mixes.asked import Asked, AskSpot
from foxpath.derive.mixes.reading import MixesClose
from foxpath.document import edits, strokes
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Field
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour, hex_of
from foxpath.window.stops.mixes.pile import parse_lab
from foxpath.window.work.session import Session

SURROUND = 18.0
"""C* that lies between an accent and what sets it off, at least."""


Linked = tuple[str, Triple]
"""A link of a chain: what it is called, and its colour."""


class Swatches(QWidget):
    """Colours side by side on grey, each with a word below."""

    def __init__(self) -> None:
        super().__init__()
        self._shown: list[tuple[str, str]] = []
        self.setFixedHeight(76)

    def show_colours(self, shown: list[tuple[str, str]]) -> None:
        """Show (colour, word) pairs; hidden without any."""
        self._shown = shown
        self.setVisible(bool(shown))
        self.setAccessibleName(", ".join(words for _, words in shown))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            count = max(len(self._shown), 1)
            box = QRectF(6, 4, self.width() - 12, 50)
            draw.rounded(p, box, 4, "well")
            wide = (box.width() - 16) / count
            for k, (tone, words) in enumerate(self._shown):
                x = box.left() + 8 + k * wide
                p.fillRect(QRectF(x, box.top() + 8, wide, 34), colour(tone))
                draw.text(p, x + wide / 2, 70, draw.elided(words, wide - 4, 12), 12, 400, "quiet", "c")


class SpotsPage(QWidget):
    """What a spot of the picture asks of the palette."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.head = Section("This spot", "")
        self.swatches = Swatches()
        self.near = Words("", 13, "text")
        self.wet_head = Section("Into wet paint", "")
        self.wet = Rows("wet piles beneath")
        self.wet.chosen.connect(self._choose_wet)
        self.wet_words = Words("", 13, "text")
        self.came = Field("what a stroke into the wet came to, L*, a*, b*")
        self.came.setPlaceholderText("what it came to: L*, a*, b*")
        self.came.blank = True
        self.came.taken.connect(self.note_stroke)
        self.round_head = Section("Set it off", "")
        self.round_words = Words("", 13)
        self.chain_head = Section("Chain on one brush", "")
        self.chain = Rows("spots in the brush's order")
        self.chain_words = Words("", 12.5)
        self.acts = Buttons([("best", "Best order"), ("mine", "In my order"), ("clear", "Clear the chain")], 2)
        self.acts.clicked.connect(self._act)
        stack(
            self, self.head, self.swatches, self.near, self.wet_head, self.wet, self.wet_words, self.came, self.round_head,
            self.round_words, self.chain_head, self.chain, self.chain_words, self.acts,
        )  # fmt: skip
        self.lab: Triple | None = None
        self._wet = ""
        self._asked: object = None
        self._into: tuple[Rack, Recipe, Pile] | None = None
        self._best = True
        self._close: MixesClose | None = None

    def show_spot(
        self, project: Project, close: MixesClose, lab: Triple | None, chain: list[Linked], of: str = ""
    ) -> None:
        """Show a spot's colour, and the chain of spots, or of the parts of a pass (`of`), in the order of one brush."""
        self.lab, self._close = lab, close
        rack, palette = close.rack, close.palette
        self.head.set_words("This spot", f"L* {lab[0]:.0f}" if lab is not None else "click the picture")
        for part in (self.wet_head, self.wet, self.wet_words):
            part.setVisible(lab is not None and bool(palette.piles))
        self.came.setVisible(lab is not None and self._into is not None)
        self._show_round(close)
        self._show_chain(chain, of)
        if lab is None or rack is None or not palette.piles:
            self.swatches.show_colours([])
            self.near.set_words("Click a spot of the small picture: the nearest pile is named, and what it lacks.")
            return
        self.wet_head.set_words("Into wet paint", f"a stroke picks up {percent(project.mixes.pick_up)}")
        asked = (close, lab, self._wet, project.mixes.pick_up)
        if asked != self._asked:
            # Worked out beside the window, which answers meanwhile.
            self._asked = asked
            request = AskSpot(rack, palette, project.mixes.limits(rack), project.mixes.pick_up, lab, self._wet)
            self.session.runner.start("spot", request, self._take)

    def _take(self, asked: Asked) -> None:
        rack, palette = (
            self._close.rack if self._close is not None else None,
            self._close.palette if self._close is not None else None,
        )
        if rack is None or palette is None:
            return
        names, found = names_of(rack.tubes), asked.nearest
        pile = palette.pile(found.key) if found is not None else None
        if found is not None and pile is not None:
            self.swatches.show_colours([(hex_of(asked.lab), "spot"), (hex_of(pile.lab), pile.name)])
            if found.lacks == "nothing" or found.away < 1.0:
                words = f"Take {pile.name} as it is."
            elif found.step is not None:
                added = parts_words(found.step.added, names)
                words = f"{pile.name.capitalize()}, but {found.lacks}: to 10 parts add {added}; {found.step.away:.1f} dE is left."
            else:
                words = f"{pile.name.capitalize()} lacks: {found.lacks} ({found.away:.0f} dE); these tubes bring nothing nearer."
            self.near.set_words(words)
        wet, into = asked.wet, asked.into
        self._into = (rack, into.lay, wet) if into is not None and into.lay is not None and wet is not None else None
        self.came.setVisible(self._into is not None)
        rows = [Row(one.key, one.name, "", f"L* {one.lab[0]:.0f}", swatch=hex_of(one.lab)) for one in asked.wets]
        self.wet.set_rows(rows, wet.key if wet is not None else "")
        if into is None:
            self.wet_words.set_words("Its tubes are not in the studio.")
        elif into.lay is None:
            self.wet_words.set_words(into.words())
        else:
            lighter = into.lay.lab[0] - asked.lab[0]
            way = (
                f", {abs(lighter):.0f} L* {'lighter' if lighter > 0 else 'darker'} than it is to look"
                if abs(lighter) >= 1
                else ""
            )
            lay = parts_words(into.lay.parts, names)
            self.wet_words.set_words(f"Lay {lay}{way}; {into.words()}. Begin where it is to be purest.")

    def _show_round(self, close: MixesClose) -> None:
        """Name the pile that sets a colour off: opposite in hue, of about its value."""
        lab = self.lab
        strong = lab is not None and float(np.hypot(lab[1], lab[2])) > 8
        self.round_head.setVisible(strong)
        self.round_words.setVisible(strong)
        if lab is None or not strong or not close.palette.piles:
            return
        own = np.array(lab[1:]) / float(np.hypot(*lab[1:]))
        against = min(close.palette.piles, key=lambda one: float(np.dot(one.lab[1:], own)))
        gap = float(np.dot(np.array(lab[1:]) - np.array(against.lab[1:]), own))
        enough = (
            ""
            if gap >= SURROUND
            else f" Only {gap:.0f} C* lie between them: {SURROUND:.0f} are needed, so cool or grey it further."
        )
        self.round_words.set_words(f"Surround it with {against.name}, its nearest to an opposite.{enough}")

    def _show_chain(self, chain: list[Linked], of: str) -> None:
        for part in (self.chain, self.chain_words, self.acts):
            part.setVisible(len(chain) > 1)
        note = of if len(chain) > 1 and of else "" if len(chain) > 1 else "Shift click spots"
        self.chain_head.set_words("Chain on one brush", note)
        if len(chain) < 2:
            return
        self.acts.show_only({"best", "mine"} if of else {"best", "mine", "clear"})
        lab = np.array([tone for _, tone in chain])
        start = int(np.argmin(lab[:, 0]))
        links = brush_chain(lab, start) if self._best else linked(lab, list(range(len(lab))))
        rows = [
            Row(
                str(k), chain[one.place][0], "wipe" if one.wipe else "", f"L* {lab[one.place, 0]:.0f}",
                swatch=hex_of(chain[one.place][1]),
            )
            for k, one in enumerate(links)
        ]  # fmt: skip
        self.chain.set_rows(rows, "")
        wipes = sum(one.wipe for one in links)
        first = next((one for one in links if one.wipe), None)
        why = f" First because: {first.why}." if first is not None else ""
        self.chain_words.set_words(f"{wipes} times to wipe.{why}" if wipes != 1 else f"Wipe once.{why}")

    def note_stroke(self, text: str) -> None:
        """Learn from what the advised paint came to in the wet how much of it a stroke picks up."""
        project = self.session.project
        if self._into is None or project is None or not text.strip():
            return
        rack, lay, wet = self._into
        try:
            seen = np.array(parse_lab(text))
        except InputError as failure:
            self.session.said.emit(str(failure), "must")
            return
        share, away = pick_up_seen(rack, rack.parts(lay.parts), rack.parts(wet.recipe.parts), seen)
        if away > UNEXPLAINED:
            why = f"No share of {wet.name} explains this colour: {away:.0f} dE are left."
            self.session.said.emit(f"{why} Wipe the brush, lay one stroke, and look at its middle.", "must")
            return
        if self.session.edit(lambda p: edits.note_stroke(p, share), f"a stroke picked up {percent(share)}"):
            self.came.setText("")
            self.came.show_words("")
            noted = self.session.project or project
            self.session.runner.start(
                "keep strokes", KeepStrokes(noted.name, noted.mixes.strokes), lambda _: None,
                failed=lambda words: self.session.said.emit(words, "must"), writes=True,
            )  # fmt: skip

    def _choose_wet(self, key: str) -> None:
        self._wet = key
        self.session.chosen_changed.emit()

    def _act(self, key: str) -> None:
        if key == "clear":

            def cleared(p: Project) -> Project:
                while p.spots:
                    p = edits.remove_spot(p, 0)
                return p

            self.session.edit(cleared, "clear the chain of spots")
            return
        self._best = key == "best"
        self.session.chosen_changed.emit()


@dataclass(frozen=True, slots=True)
class KeepStrokes:
    """Put a painting's strokes into the file that new paintings begin with."""

    painting: str
    shares: tuple[float, ...]

    def __call__(self, progress: Progress) -> None:
        """Write it. Raises `AppError`."""
        progress.at(0, "keeping what was seen")
        strokes.keep(self.painting, self.shares)
