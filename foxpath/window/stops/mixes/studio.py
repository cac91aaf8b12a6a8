"""The tubes on the bench: which are in the studio, the painter's own, and what recipes may be."""

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.cautions import SOLVENT, pigment_cautions
from foxpath.core.errors import AppError, InputError
from foxpath.core.mixes.amounts import MEDIUMS
from foxpath.core.mixes.studio import BLACK_NAMES, BLACKS, FINISH_NAMES
from foxpath.core.mixes.tubes import SYSTEMS, USUAL, KeptTube, OwnTube, Triple, table, tube_of, tubes_of
from foxpath.core.units import count_words, percent
from foxpath.document import cupboard, edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Button, Choice, Field, Measure, Scale
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look.theme import hex_of
from foxpath.window.stops.mixes.photo import PICTURES, DabDialog
from foxpath.window.stops.mixes.pile import parse_lab
from foxpath.window.work.session import Session

SHARED = "Cupboards of tubes (*.json)"
TYPICAL = "Typical values of pigments, not measured on your tubes. Every look at a pile teaches them."


def tube_called(text: str) -> str:
    """Return the id of a tube of the table by its id or name. Raises `InputError` when none is called so."""
    wanted = text.strip().lower()
    for key, tube in table().items():
        if wanted in (key.lower(), tube.name.lower()):
            return key
    near = [tube.name for tube in table().values() if wanted and wanted in tube.name.lower()]
    if len(near) == 1:
        return next(key for key, tube in table().items() if tube.name == near[0])
    raise InputError(
        f"No tube is called “{text.strip()}”.", f"The table has {', '.join(t.name for t in table().values())}."
    )


class StudioPage(QWidget):
    """Tubes, limits and habits."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.head = Section("In the studio", "")
        self.list = Rows("tubes")
        self.list.chosen.connect(self._choose)
        self.about = Words("", 12.5)
        self.acts = Buttons([("away", "Put it away"), ("here", "Put it out"), ("remove", "Take it out")], 2)
        self.acts.clicked.connect(self._act)
        self.add = Field("tube of the table to add")
        self.add.setPlaceholderText("add one, e.g. viridian or PG18")
        self.add.taken.connect(self.add_tube)
        self.own_head = Section("A tube of your own", "two swatches")
        self.name = Field("name of the tube")
        self.name.setPlaceholderText("name on its label")
        self.masstone = Field("masstone, L*, a*, b*")
        self.masstone.setPlaceholderText("straight, thick: L*, a*, b*")
        self.tint = Field("tint, L*, a*, b*")
        self.tint.setPlaceholderText("1 part with 4 white: L*, a*, b*")
        self.photo = Button("Both from a photograph …")
        self.photo.clicked.connect(self._photograph)
        self.clear = Choice([("0.1", "covers"), ("0.5", "half"), ("0.9", "clear")], "how transparent it is")
        self.clear.set_value("0.5")
        self.drying = Choice([("fast", "dries fast"), ("medium", "medium"), ("slow", "slow")], "how fast it dries")
        self.drying.set_value("medium")
        self.hazard = Field("what its label warns of")
        self.hazard.setPlaceholderText("what its label warns of")
        self.system = Choice([(key, key) for key in ("oil", "alkyd", "water oil", "acrylic")], "paint system")
        self.take = Button("Add this tube")
        self.take.clicked.connect(self.add_own)
        self.rule_head = Section("Blacks", "")
        self.black = Choice(list(BLACK_NAMES.items()), "rule for tube blacks")
        self.black.chosen.connect(self._set_black)
        self.black_words = Words("", 12.5)
        self.limit_head = Section("Recipes", "")
        self.most = Choice([("2", "2 tubes"), ("3", "3 tubes"), ("4", "4 tubes")], "tubes in a recipe at most")
        self.most.chosen.connect(lambda key: self._set("tubes in a recipe", most=int(key)))
        self.few = Measure("Tubes in all", Scale(0, 24, lambda v: f"{v:.0f} at most" if v else "no limit"))
        self.few.changed.connect(self._slide("few", int, "tubes in all"))
        self.count = Measure("Piles", Scale(0, 20, lambda v: f"{v:.0f}" if v else "as needed"))
        self.count.changed.connect(self._slide("count", int, "number of piles"))
        self.finish = Choice(list(FINISH_NAMES.items()), "finish of the surface")
        self.finish.chosen.connect(lambda key: self._set(f"finish {key}", finish=key))
        self.medium = Choice([(key, words) for key, words in MEDIUMS.items()], "medium")
        self.medium.chosen.connect(lambda key: self._set(MEDIUMS[key], medium=key))
        self.pure = Measure("Pure colour", Scale(0, 0.5, percent, step=0.01))
        self.pure.changed.connect(self._slide("pure", float, "share of pure colour"))
        self.picks = Measure("Picked up wet", Scale(0, 0.6, percent, step=0.05))
        self.picks.changed.connect(self._slide("pick_up", float, "share a stroke picks up"))
        self.files = Buttons(
            [("keep", "Keep for all"), ("own", "Take mine"), ("share", "Share …"),
             ("open", "Open one …"), ("usual", "The usual twelve")], 2,
        )  # fmt: skip
        self.files.clicked.connect(self._file)
        self.warns = Words("", 12)
        stack(
            self, self.head, Words(TYPICAL, 12), self.list, self.about, self.acts, self.add, self.rule_head, self.black,
            self.black_words, self.limit_head, self.most, self.few, self.count, self.finish, self.medium, self.pure,
            self.picks, self.own_head, self.name, self.masstone, self.tint, self.photo, self.system, self.clear, self.drying, self.hazard, self.take,
            Section("Your cupboard", "kept once"), self.files, self.warns,
        )  # fmt: skip
        self._at = ""

    def show_project(self, project: Project) -> None:
        """Show what is in the studio."""
        mixes = project.mixes
        here = sum(one.here for one in mixes.tubes)
        self.head.set_words("In the studio", count_words(here, "tube"))
        learned = {one.id: one for one in mixes.learned()}
        known = {tube.id: tube for tube in tubes_of(replace(one, here=True) for one in mixes.tubes)}
        rows = []
        for one in mixes.tubes:
            tube = known.get(one.id)
            if tube is None:
                continue
            real = learned[one.id]
            strength = f"× {real.taken:.2f}" if real.looks else ""
            rows.append(
                Row(
                    one.id,
                    tube.name,
                    strength or ("" if one.here else "put away"),
                    tube.drying,
                    swatch=hex_of(tube.masstone),
                    off=not one.here,
                )
            )
        if self._at not in known:
            self._at = ""
        self.list.set_rows(rows, self._at)
        self._about(mixes.tubes, learned, known)
        self.black.set_value(mixes.black)
        self.black_words.set_words(BLACKS[mixes.black])
        self.most.set_value(str(mixes.most))
        self.few.set_value(float(mixes.few), 0.0, decided=mixes.few > 0)
        self.count.set_value(float(mixes.count), 0.0, decided=mixes.count > 0)
        self.finish.set_value(mixes.finish)
        self.medium.set_value(mixes.medium)
        self.pure.set_value(mixes.pure, 0.05, decided=mixes.pure != 0.05)
        self.picks.set_value(mixes.pick_up, 0.2, decided=mixes.pick_up != 0.2)
        warned = pigment_cautions([(t.name, t.hazard) for t in tubes_of(mixes.tubes)])
        self.warns.set_words(" ".join(((SOLVENT,) if mixes.medium == "solvent" else ()) + warned))

    def _about(self, tubes: tuple[KeptTube, ...], learned: dict[str, KeptTube], known: dict[str, Any]) -> None:
        one = next((t for t in tubes if t.id == self._at), None)
        tube = known.get(self._at)
        self.acts.show_only({"remove", "away" if one.here else "here"} if one is not None else set())
        if one is None or tube is None:
            self.about.set_words("")
            return
        covers = (
            "covers" if tube.transparency < 0.3 else "half transparent" if tube.transparency < 0.7 else "transparent"
        )
        said = f"{tube.pigment or 'your own'}, {covers}, dries {tube.drying}, {SYSTEMS.get(tube.system, tube.system)}."
        real = learned[one.id]
        if real.looks:
            said += f" Learned from {count_words(real.looks, 'look')}: {real.taken:.2f} times as strong as typical."
        if real.dabs:
            way = "darker" if real.dries[0] < 0 else "lighter"
            dabs = count_words(real.dabs, "dab")
            said += f" Seen dry on {dabs}: {abs(real.dries[0]):.1f} L* {way} than is typical."
        if tube.hazard:
            said += f" Label: {tube.hazard}."
        self.about.set_words(said)

    def add_tube(self, text: str) -> None:
        """Put a tube of the table into the studio, by its id or name."""
        if not text.strip():
            return
        try:
            key = tube_called(text)
        except InputError as failure:
            self.session.said.emit(str(failure), "must")
            return
        self.add.show_words("")
        self._at = key
        self.session.edit(lambda p: edits.put_tube(p, key), f"put {table()[key].name.lower()} out")

    def add_own(self) -> None:
        """Add a tube of the painter's own from its two swatches."""
        try:
            own = OwnTube(
                "",
                self.name.text().strip(),
                parse_lab(self.masstone.text()),
                parse_lab(self.tint.text()),
                system=self.system.value,
                transparency=float(self.clear.value),
                drying=self.drying.value,
                hazard=self.hazard.text().strip(),
            )
            # What no paint looks like is refused before it stands in the project.
            tube_of(replace(own, id="own"))
        except InputError as failure:
            self.session.said.emit(str(failure), "must")
            return
        if self.session.edit(lambda p: edits.add_own_tube(p, own), f"add {own.name}"):
            for field in (self.name, self.masstone, self.tint, self.hazard):
                field.show_words("")

    def _photograph(self) -> None:
        name, _ = QFileDialog.getOpenFileName(None, "Both swatches beside a grey card", "", PICTURES)
        if not name:
            return
        try:
            dialog = DabDialog(Path(name), ("the masstone", "the tint"))
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        dialog.read.connect(self.take_swatches)
        dialog.exec()

    def take_swatches(self, both: tuple[Triple, Triple]) -> None:
        """Take masstone and tint as they were read from a photograph."""
        for field, lab in zip((self.masstone, self.tint), both, strict=True):
            field.show_words(", ".join(f"{v:.1f}" for v in lab))

    def _choose(self, key: str) -> None:
        self._at = key
        project = self.session.project
        if project is not None:
            self.show_project(project)

    def _act(self, key: str) -> None:
        at = self._at
        if key == "remove":
            self.session.edit(lambda p: edits.remove_tube(p, at), "take a tube out of the cupboard")
        else:
            words = "put a tube out" if key == "here" else "put a tube away"
            self.session.edit(lambda p: edits.put_tube(p, at, here=key == "here"), words)

    def _set_black(self, key: str) -> None:
        self._set(f"tube black: {BLACK_NAMES[key]}", black=key)

    def _set(self, words: str, **values: Any) -> None:
        self.session.edit(lambda p: edits.set_mixes(p, **values), words)

    def _slide(self, name: str, kind: type, words: str) -> Callable[[float, bool], None]:
        def slid(value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
            self.session.edit(lambda p: edits.set_mixes(p, **{name: kind(value)}), words, name)
            if not going:
                self.session.seal()

        return slid

    def _file(self, key: str) -> None:
        project = self.session.project
        if project is None:
            return
        try:
            if key == "keep":
                cupboard.keep_cupboard(project.mixes.learned())
                self.session.said.emit("Every painting to come begins with this cupboard.", "note")
            elif key == "own":
                kept = cupboard.own_cupboard()
                self.session.edit(lambda p: edits.take_tubes(p, kept), "take my cupboard")
            elif key == "usual":
                self.session.edit(lambda p: edits.take_tubes(p, USUAL), "the usual twelve tubes")
            elif key == "share":
                name, _ = QFileDialog.getSaveFileName(None, "Share the cupboard", "cupboard.json", SHARED)
                if name:
                    cupboard.write_cupboard(Path(name), project.mixes.learned())
            else:
                name, _ = QFileDialog.getOpenFileName(None, "Open a cupboard", "", SHARED)
                if name:
                    taken = cupboard.read_cupboard(Path(name))
                    self.session.edit(lambda p: edits.take_tubes(p, taken), "open a cupboard")
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
