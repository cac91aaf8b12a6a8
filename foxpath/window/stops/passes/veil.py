"""A veil on the bench of Passes: how it is laid, of what, where, how strong, and in how many coats."""

from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from foxpath.core.mixes.tubes import Tube
from foxpath.core.mixes.words import names_of, parts_words
from foxpath.core.passes import PassPlan, Veil
from foxpath.core.passes.own import RANGES
from foxpath.core.passes.veils import PLACES
from foxpath.core.units import mm_words, percent
from foxpath.derive.mixes.films import Mixed, ReadVeil, likeness
from foxpath.derive.passes.veils import veil_area
from foxpath.document import edits
from foxpath.document.model import Project, pairs
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Button, Choice, Measure, Scale, YesNo
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look.theme import hex_of
from foxpath.window.work.session import Session

MEASURES = {
    "strength": ("Paint", Scale(*RANGES["strength"], percent, ratio=True)),
    "coats": ("Coats", Scale(*RANGES["coats"], lambda v: f"{v:.0f}", step=1)),
    "strip_mm": ("Strip", Scale(*RANGES["strip_mm"], mm_words, ratio=True)),
    "soft_mm": ("Fades over", Scale(*RANGES["soft_mm"], mm_words, step=0.5)),
}
COLOUR = {
    "L": ("Light", Scale(0, 100, lambda v: f"L* {v:.0f}", step=1)),
    "a": ("Red", Scale(-60, 70, lambda v: f"{v:+.0f} a*", step=1)),
    "b": ("Yellow", Scale(-60, 90, lambda v: f"{v:+.0f} b*", step=1)),
}
SHORT = {"part": "all", "shadow": "dark", "turn": "turn", "lit": "lit", "strip": "rim", "patch": "patch"}
SAID = {
    "glaze": "Transparent: it only takes light. What lies beneath darkens and warms, and every hair still shows.",
    "scumble": "Pale paint rubbed over nearly dry: it greys and cools, and catches on the tooth.",
}
USUAL = {"glaze": Veil().lab, "scumble": (76.0, 1.0, 2.0)}
"""The colour a veil of each manner begins with."""
CLEAR_FIRST = 12
"""Tubes that are offered as the mix of a veil, the clearest first."""


class VeilPanel(QWidget):
    """The numbers of a veil; every change is one of the plan."""

    changed = Signal()
    """What a click on the picture means has changed."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.plan: PassPlan | None = None
        self.picking = self.drawing = False
        self._mixed: tuple[Project, str, Mixed | None] | None = None
        self._tubes: tuple[Tube, ...] = ()
        self._asked: tuple[Project | None, str] = (None, "")
        self.head = Section("Veil", "")
        self.how = Choice([("glaze", "glaze"), ("scumble", "scumble")], "how the veil is laid")
        self.how.chosen.connect(self._use)
        self.words = Words("", 12.5)
        self.over_head = Section("Where", "")
        self.place = Choice([(key, SHORT[key]) for key in PLACES], "where the veil lies")
        self.place.chosen.connect(self._place)
        self.where = Words("", 12.5)
        self.over = Button("")
        self.over.clicked.connect(self._over)
        self.draw_patch = Button("Draw the patch")
        self.draw_patch.clicked.connect(self._draw)
        self.measures = {name: Measure(words, scale) for name, (words, scale) in MEASURES.items()}
        for name, measure in self.measures.items():
            measure.setObjectName(name)
            measure.changed.connect(self._measure)
            measure.reset.connect(self._reset)
        self.made_up = YesNo("the coat beneath is painted lighter for it", "it changes the painting")
        self.made_up.toggled.connect(lambda on: self._say(made_up=on))
        self.mix_head = Section("Its mix", "as it looks laid thick")
        self.mix = Words("", 12.5, "text")
        self.colour = {key: Measure(words, scale) for key, (words, scale) in COLOUR.items()}
        for key, measure in self.colour.items():
            measure.setObjectName(key)
            measure.changed.connect(self._tint)
        self.pick = Button("Take a colour from the picture")
        self.pick.clicked.connect(self._pick)
        self.tubes_head = Words("Or a tube, clearest first", 12.5)
        self.tubes = Rows("tubes for the veil")
        self.tubes.chosen.connect(self._tube)
        stack(
            self, self.head, self.how, self.words, self.over_head, self.place, self.where, self.over, self.draw_patch, self.measures["strip_mm"],
            self.measures["soft_mm"], self.mix_head, self.mix, self.measures["strength"], self.measures["coats"], self.made_up,
            self.pick, *self.colour.values(), self.tubes_head, self.tubes,
        )  # fmt: skip

    @property
    def veil(self) -> Veil | None:
        """The veil of the open pass, as it stands now: what follows from it may still be worked out."""
        project, plan = self.session.project, self.plan
        if project is None or plan is None:
            return None
        own = next((one.veil for one in project.own_passes if one.id == plan.role.key), None)
        return own if own is not None else plan.role.veil

    @property
    def own(self) -> bool:
        """Whether it is the painter's own, and not one that follows from a setting."""
        project = self.session.project
        return (
            project is not None
            and self.plan is not None
            and any(one.id == self.plan.role.key for one in project.own_passes)
        )

    def show_pass(self, project: Project, plan: PassPlan) -> None:
        """Show a veil."""
        veil = plan.role.veil
        if self.plan is None or self.plan.role.key != plan.role.key:
            self.stop()
        self.plan = plan
        if veil is None:
            return
        zone, own = project.zone(plan.role.only), self.own
        self.head.set_words("Veil", f"{veil_area(plan):.0f} cm²" if plan.zones else "lies nowhere")
        self.how.set_value(veil.manner)
        self.words.set_words(
            SAID[veil.manner] if own else "It follows from School: shadows on a coat, glazed at the end."
        )
        self.over_head.set_words("Where", zone.name if zone is not None else "whole canvas, eyes left out")
        self.place.set_value(veil.place)
        self.where.set_words(f"{PLACES[veil.place][:1].upper()}{PLACES[veil.place][1:]}.")
        usual = Veil(veil.manner)
        for name, measure in self.measures.items():
            value = float(getattr(veil, name))
            measure.set_value(value, float(getattr(usual, name)), decided=value != getattr(usual, name))
        self.measures["strip_mm"].setVisible(own and veil.place == "strip")
        for part in (
            self.how,
            self.place,
            self.made_up,
            self.measures["strength"],
            self.measures["coats"],
            self.measures["soft_mm"],
        ):
            part.setVisible(own)
        self.made_up.set_value(on=veil.made_up)
        self._offer(project, plan)
        self._tell(project, plan, veil)

    def _offer(self, project: Project, plan: PassPlan) -> None:
        chosen = project.zone(self.session.chosen["zone"])
        other = chosen if chosen is not None and chosen.id != plan.role.only else None
        self.over.setVisible(self.own and (other is not None or bool(plan.role.only)))
        name = other.name.lower() if other is not None else "the whole canvas"
        self.over.set_words(f"Lay it over {name[:24]}")
        patch = plan.role.veil is not None and plan.role.veil.place == "patch"
        self.draw_patch.setVisible(self.own and (patch or self.drawing))
        self.draw_patch.set_words("Draw round it now" if self.drawing else "Draw the patch anew")

    def _tell(self, project: Project, plan: PassPlan, veil: Veil) -> None:
        known = self._mixed is not None and self._mixed[:2] == (project, plan.role.key)
        mixed = self._mixed[2] if known and self._mixed is not None else None
        if not known and self._asked != (project, plan.role.key):
            self._asked = (project, plan.role.key)
            self.session.runner.start("veil", ReadVeil(self.session.results, project, plan.role.key), self._take)
        if mixed is None:
            self.mix.set_words("Being mixed …" if plan.zones else "Choose where it lies first.")
        else:
            self._tubes = mixed.tubes
            medium = medium_words(mixed.medium)
            off = likeness(plan, mixed)
            far = f" Your tubes come no nearer than {off:.0f} dE." if off > 5 else ""
            self.mix.set_words(f"{parts_words(mixed.recipe.parts, names_of(mixed.tubes)).capitalize()}; {medium}.{far}")
        own = self.own
        lab = veil.lab or (mixed.lab if mixed is not None else (30.0, 0.0, 0.0))
        for value, measure in zip(lab, self.colour.values(), strict=True):
            measure.set_value(float(value), None, decided=False)
            measure.setVisible(own)
        self.pick.setVisible(own)
        self.pick.set_words("Click on the picture" if self.picking else "Take a colour from the picture")
        covering = veil.manner == "scumble"
        offered = sorted(self._tubes, key=lambda one: one.transparency, reverse=not covering)
        self.tubes_head.set_words("Or a tube, the most covering first" if covering else "Or a tube, clearest first")
        rows = [
            Row(one.id, one.name.lower(), "", _clear_words(one.transparency), swatch=hex_of(one.masstone))
            for one in offered[:CLEAR_FIRST]
        ]
        self.tubes.set_rows(rows, "")
        for part in (self.tubes_head, self.tubes):
            part.setVisible(own)

    def _take(self, value: tuple[Project, str, Mixed | None]) -> None:
        self._mixed = value
        if self.session.project is value[0] and self.plan is not None and self.plan.role.key == value[1]:
            self.show_pass(value[0], self.plan)

    def stop(self) -> None:
        """A click on the picture means what it usually does."""
        if self.picking or self.drawing:
            self.picking = self.drawing = False
            self.changed.emit()

    def leave(self) -> None:
        """What is still being read is asked for again when the stop is opened."""
        self.stop()
        self.session.runner.cancel("veil")
        self._asked = (None, "")

    def take_colour(self, lab: tuple[float, float, float]) -> None:
        """Take the colour of a place that was clicked."""
        self.stop()
        self._say(lab=lab)

    def take_patch(self, outline: Any) -> None:
        """Take a patch that was drawn, (n, 2) reference pixels."""
        self.stop()
        self._say(place="patch", patch=pairs(outline))

    # Deciding -------------------------------------------------------------------------------------

    def _say(self, *, going: bool = False, merge: str = "", **values: object) -> None:
        plan = self.plan
        if plan is None:
            return
        key = plan.role.key
        self.session.edit(
            lambda p: edits.set_veil(p, key, **values), "the veil", f"veil {key} {merge}" if merge else ""
        )
        if not going:
            self.session.seal()

    def _use(self, manner: str) -> None:
        veil = self.veil
        if veil is None or veil.manner == manner:
            return
        # A colour that nobody chose is the usual one of its manner.
        self._say(manner=manner, lab=USUAL[manner] if veil.lab == USUAL[veil.manner] else veil.lab)

    def _place(self, key: str) -> None:
        veil = self.veil
        if key == "patch" and veil is not None and len(veil.patch) < 3:
            self._draw()
            return
        self._say(place=key)

    def _draw(self) -> None:
        self.drawing, self.picking = not self.drawing, False
        self._again()

    def _pick(self) -> None:
        self.picking, self.drawing = not self.picking, False
        self._again()

    def _again(self) -> None:
        project, plan = self.session.project, self.plan
        if project is not None and plan is not None:
            self.show_pass(project, plan)
        self.changed.emit()

    def _over(self) -> None:
        project = self.session.project
        chosen = project.zone(self.session.chosen["zone"]) if project is not None else None
        plan = self.plan
        if plan is not None:
            self._say(zone="" if chosen is None or chosen.id == plan.role.only else chosen.id)

    def _measure(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        name = self.sender().objectName()
        self._say(going=going, merge=name, **{name: value})

    def _reset(self) -> None:
        name, veil = self.sender().objectName(), self.veil
        if veil is not None:
            self._say(**{name: getattr(Veil(veil.manner), name)})

    def _tint(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        veil = self.veil
        if veil is None:
            return
        lab = dict(zip("Lab", veil.lab or (30.0, 0.0, 0.0), strict=True)) | {self.sender().objectName(): value}
        self._say(going=going, merge=self.sender().objectName(), lab=(lab["L"], lab["a"], lab["b"]))

    def _tube(self, key: str) -> None:
        found = next((one for one in self._tubes if one.id == key), None)
        if found is not None:
            self._say(lab=found.masstone)


def medium_words(medium: float) -> str:
    """Say how much medium there is to one part of paint."""
    if medium < 0.3:
        return "hardly any medium"
    return f"{medium:.0f} of medium to 1 of paint" if medium >= 1.5 else "as much medium as paint"


def _clear_words(transparency: float) -> str:
    return "clear" if transparency >= 0.6 else "covers" if transparency < 0.35 else "half clear"
