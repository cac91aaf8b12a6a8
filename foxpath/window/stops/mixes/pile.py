"""One pile on the bench: its swatch, its beads at life size, and the loop of mixing, looking and correcting."""

import numpy as np
from PySide6.QtCore import QRectF, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from foxpath.core.errors import InputError
from foxpath.core.mixes.adding import EQUAL, Addition, addition
from foxpath.core.mixes.amounts import BEAD_MM, bead_cm
from foxpath.core.mixes.dried import SEEN, drying_words, when_dry
from foxpath.core.mixes.learning import seen_in_words
from foxpath.core.mixes.palette import Palette, Pile
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.studio import MixedPile, Mixes
from foxpath.core.mixes.tubes import Triple, tubes_of
from foxpath.core.mixes.words import amount_words, names_of
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Field
from foxpath.window.bench.rows import Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour, hex_of
from foxpath.window.picture.glass import true_px_per_mm
from foxpath.window.stops.mixes.tree import UNKNOWN

HINT = "Write L*, a*, b*, e.g. 44, 18, 25."


def parse_lab(text: str) -> Triple:
    """Read a colour such as "44, 18, 25". Raises `InputError`."""
    try:
        numbers = [float(one) for one in text.replace(";", ",").replace(",", " ").split()]
    except ValueError:
        raise InputError(f"“{text.strip()}” is no colour.", HINT) from None
    if len(numbers) != 3 or not 0 <= numbers[0] <= 100 or max(abs(numbers[1]), abs(numbers[2])) > 128:
        raise InputError(f"“{text.strip()}” is no colour.", HINT)
    return numbers[0], numbers[1], numbers[2]


class PileView(QWidget):
    """A pile's swatch beside its target, in grey and in its place, and what is squeezed out for it, as large as it lies."""

    def __init__(self) -> None:
        super().__init__()
        self._pile: Pile | None = None
        self._beads: list[tuple[str, str, float]] = []
        self._around = "#777777"
        self.setFixedHeight(100)

    def show_pile(self, palette: Palette, rack: Rack | None, pile: Pile | None, around: Triple) -> None:
        """Show a pile; `around` is the mean colour of the parts it goes to."""
        self._pile, self._beads = pile, []
        if pile is not None and rack is not None:
            names = names_of(rack.tubes)
            base = palette.pile(pile.base)
            own = pile.added if base is not None else pile.recipe.parts
            whole = sum(n for _, n in own) + (pile.base_parts if base is not None else 0.0)
            parts = [(base.name, hex_of(base.lab), pile.base_parts)] if base is not None else []
            for key, n in own:
                tone = hex_of(rack.own.get(key, UNKNOWN))
                parts.append((names.get(key, key).lower(), tone, n))
            self._beads = [
                (f"{amount_words(n)} {name}", tone, bead_cm(pile.mixed_ml * n / max(whole, 1e-9)))
                for name, tone, n in parts
            ]
        self._around = hex_of(around)
        beads = "; ".join(f"{words} {cm:.1f} cm" for words, _, cm in self._beads)
        self.setAccessibleName(f"{pile.name}: {beads}" if pile is not None else "")
        self.setFixedHeight(max(108, 16 + 44 * len(self._beads)))
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._pile is None:
            return
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            target, mix = hex_of(self._pile.recipe.target), hex_of(self._pile.lab)
            frame = QRectF(6, 6, 84, 58)
            draw.rounded(p, frame, 4, "well")
            p.fillRect(QRectF(14, 14, 34, 42), colour(target))
            p.fillRect(QRectF(48, 14, 34, 42), colour(mix))
            draw.text(p, 14, 78, "picture", 11.5, 400, "quiet")
            draw.text(p, 82, 78, "mix", 11.5, 400, "quiet", "r")
            # The same mix in its place: what lies round it changes what it looks like.
            p.fillRect(QRectF(6, 84, 84, 16), colour(self._around))
            p.fillRect(QRectF(36, 87, 24, 10), colour(mix))
            px = true_px_per_mm(self)[0]
            left, room = 104.0, self.width() - 112.0
            for k, (words, tone, cm) in enumerate(self._beads):
                y = 8 + 44 * k
                note = f"{cm:.1f} cm"
                free = room - draw.width_of(note, 12) - 8
                size = draw.size_for(words, free, 13)
                draw.text(p, left, y + 10, draw.elided(words, free, size), size)
                draw.text(p, left + room, y + 10, note, 12, 400, "quiet", "r")
                long = min(cm * 10 * px, room - (14 if cm * 10 * px > room else 0))
                thick = BEAD_MM * px * 0.92
                tall = min(thick, 22.0)
                line = draw.along(left, y + 17 + tall / 2, left + max(long, 4.0), y + 17 + tall / 2)
                p.setPen(QPen(colour("frame"), 0.8))
                going_on = cm * 10 * px > room
                draw.stroke(p, line, tall, tall * (0.95 if going_on else 0.5), tone, "frame", soft_root=False)
                if cm * 10 * px > room:
                    draw.text(p, left + room, y + 22 + tall / 2, "…", 14, 700, "quiet", "r")


def _triple(lab: np.ndarray) -> Triple:
    return float(lab[0]), float(lab[1]), float(lab[2])


class LoopPanel(QWidget):
    """Mix, look, correct: how a mixed pile looks against its target, and the smallest addition that brings it there."""

    added = Signal(object, object, str)
    """What the pile looks like, the addition, and how it was looked at."""
    right = Signal(object, str)
    """It is right as it is: what it looks like, None where it was not measured, and how it was looked at."""
    photograph = Signal()
    """It is to be read from a photograph."""
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.head = Section("Mix, look, correct", "")
        self.light = Choice([("-1", "darker"), ("0", "same"), ("1", "lighter")], "is the pile darker or lighter")
        self.red = Choice([("-1", "greener"), ("0", "same"), ("1", "redder")], "is the pile greener or redder")
        self.yellow = Choice([("-1", "bluer"), ("0", "same"), ("1", "yellower")], "is the pile bluer or yellower")
        self.state = Choice([("wet", "still wet"), ("dry", "has dried")], "is the dab wet or dry")
        self.typed = Field("what the pile looks like, L*, a*, b*")
        self.typed.setPlaceholderText("or measured: L*, a*, b*")
        self.typed.taken.connect(self._type)
        self.says = Words("", 13, "text")
        self.acts = Buttons([("added", "Added it"), ("right", "It is right"), ("photo", "From a photograph …")], 2)
        self.acts.clicked.connect(self._act)
        for row in (self.light, self.red, self.yellow):
            row.chosen.connect(self._word)
        self.state.chosen.connect(self._wetted)
        stack(self, self.head, self.state, self.light, self.red, self.yellow, self.typed, self.says, self.acts)
        self._pile: MixedPile | None = None
        self._mixes: Mixes | None = None
        self._seen: Triple | None = None
        self._how = "words"
        self._step: Addition | None = None
        self._of: object = None

    def show_pile(self, mixes: Mixes, pile: MixedPile | None) -> None:
        """Show the loop of a mixed pile; hidden without one."""
        self.setVisible(pile is not None)
        if pile is None:
            self._of = None
            return
        if (pile, mixes) != self._of:
            self._of = (pile, mixes)
            self._pile, self._mixes, self._seen, self._step = pile, mixes, None, None
            for row in (self.light, self.red, self.yellow):
                row.set_value("0")
            self.typed.show_words("")
            self.state.set_value("wet")
            self._tell()
        looks = ("first", "second", "third", "fourth", "fifth")
        count = len(pile.sights)
        self.head.set_words("Mix, look, correct", f"{looks[count] if count < 5 else count + 1} look")

    def take_seen(self, seen: Triple) -> None:
        """Take a measured colour."""
        self._seen, self._how = seen, "measured"
        self.typed.show_words(", ".join(f"{v:.1f}" for v in seen))
        self._work()

    def _word(self, _: str) -> None:
        pile = self._pile
        if pile is None:
            return
        said = [int(row.value or 0) for row in (self.light, self.red, self.yellow)]
        seen = seen_in_words(np.array(pile.want), said[0], said[1], said[2], len(pile.sights))
        self._seen, self._how = _triple(seen), "words"
        self.typed.show_words("")
        self._work()

    @property
    def wet(self) -> bool:
        """Whether the dab that is looked at is still wet."""
        return self.state.value != "dry"

    def _wetted(self, _: str) -> None:
        if self._seen is not None:
            self._work()
        else:
            self._tell()

    def _type(self, text: str) -> None:
        if not text.strip():
            return
        try:
            self.take_seen(parse_lab(text))
        except InputError as failure:
            self.refused.emit(str(failure))

    def _work(self) -> None:
        """Work out the addition with the tubes as this look teaches them."""
        if self._pile is None or self._mixes is None or self._seen is None:
            return
        self._step = step_for(self._mixes, self._pile, self._seen, self._how, wet=self.wet)
        self._tell()

    def _tell(self) -> None:
        pile, step = self._pile, self._step
        can = {"right", "photo"}
        if pile is None:
            return
        if self._seen is None:
            ask = "Lay a dab beside the target and squint. How is the pile against it?"
            tubes = self._mixes.dried() if self._mixes is not None and self.wet else ()
            self.says.set_words(
                " ".join(filter(None, (ask, drying_words(tubes, pile.parts, pile.want) if tubes else "")))
            )
        elif step is None:
            self.says.set_words("Its tubes are not in the studio: put them there, or mix it anew.")
        elif not step.added:
            away = (
                "equal from where you stand"
                if step.away <= EQUAL
                else f"{step.away:.1f} dE is as near as these tubes come"
            )
            self.says.set_words(f"Leave it: {away}.")
        else:
            whole = sum(n for _, n in pile.parts) * (0.5 if step.halve else 1.0)
            names = names_of(tubes_of(self._mixes.tubes)) if self._mixes is not None else {}
            each = pile.ml * (0.5 if step.halve else 1.0) / max(whole, 1e-9)
            parts = " and ".join(
                f"{amount_words(n)} {names.get(key, key).lower()}"
                + (f" ({bead_cm(each * n):.1f} cm)" if pile.ml > 0 else "")
                for key, n in step.added
            )
            first = (
                f"Too far: put half aside first ({pile.ml / 2:.1f} mL wasted), then add " if step.halve else "So add "
            )
            grows = f"; the pile grows {step.grows:.1f}-fold" if step.grows > 1.15 else ""
            dry = self._dries_to()
            self.says.set_words(f"{dry}{first}{parts}{grows}. It will be {step.away:.1f} dE away.")
            can.add("added")
        self.acts.show_only(can)

    def _dries_to(self) -> str:
        """Say what a measured wet pile is taken to dry to; nothing where it stays as it is."""
        if self._pile is None or self._mixes is None or self._seen is None or self._how != "measured" or not self.wet:
            return ""
        dry = when_dry(self._mixes.dried(), self._pile.parts, self._seen)
        return f"Dry that is L* {dry[0]:.0f}. " if abs(dry[0] - self._seen[0]) >= SEEN else ""

    def _act(self, key: str) -> None:
        if key == "right":
            measured = self._seen if self._how == "measured" else None
            self.right.emit(measured, "words" if measured is None else "measured")
        elif key == "photo":
            self.photograph.emit()
        elif self._step is not None and self._seen is not None:
            self.added.emit(self._seen, self._step, self._how)


def step_for(mixes: Mixes, pile: MixedPile, seen: Triple, how: str, *, wet: bool = False) -> Addition | None:
    """Return the smallest addition for a pile that looks so, after learning from the look; None where its tubes are not at hand.

    A pile that is looked at `wet` goes by what it will dry to.
    """
    from dataclasses import replace

    from foxpath.core.mixes.studio import allowed, sight_of

    sight = sight_of(mixes, pile, seen, how, wet=wet)
    looked = replace(pile, sights=(*pile.earlier(), sight))
    after = replace(mixes, mixed=tuple(looked if one.id == pile.id else one for one in mixes.mixed))
    tubes = tubes_of(after.learned())
    if not tubes or any(key not in {t.id for t in tubes} for key, _ in pile.parts):
        return None
    rack = Rack(tubes, mixes.shown)
    may = {tube.id for tube in allowed(tubes, mixes.black)}
    parts = rack.parts(pile.parts)
    return addition(
        rack,
        parts,
        np.array(pile.want),
        shift=np.array(sight.seen) - rack.lab(parts),
        usable=[key in may for key in rack.ids],
    )
