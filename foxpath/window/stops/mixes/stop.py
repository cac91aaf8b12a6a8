"""Stop 7, Mixes: every colour of the plan as piles of paint from the painter's own tubes, mixed and corrected by looking."""

from datetime import datetime
from pathlib import Path

import numpy as np
from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.errors import AppError
from foxpath.core.mixes.adding import Addition
from foxpath.core.mixes.palette import Palette, Pile
from foxpath.core.mixes.tubes import Triple
from foxpath.core.mixes.words import alone_words, names_of, parts_words
from foxpath.core.units import count_words, percent
from foxpath.derive.frames import map_frame
from foxpath.derive.mixes.reading import MixesClose, PileNote, out_of_reach, place_words
from foxpath.derive.mixes.ready import ready_for
from foxpath.derive.reference.seeing import spot_lab, spots_lab
from foxpath.derive.subjects import MIXES, PASSES
from foxpath.derive.zones.shapes import labels_of
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import column, panel
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice
from foxpath.window.bench.rows import NextStep, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.view import image_of, stepped_back
from foxpath.window.picture.viewport import Viewport, place
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.mixes.layers import LayersPage
from foxpath.window.stops.mixes.photo import PICTURES, DabDialog
from foxpath.window.stops.mixes.pile import LoopPanel, PileView
from foxpath.window.stops.mixes.spots import Linked, SpotsPage
from foxpath.window.stops.mixes.studio import StudioPage
from foxpath.window.stops.mixes.tree import (
    TUBES_TALL,
    Dab,
    lay_out,
    paint_tree,
    paint_tubes,
    pile_at,
    tube_amounts,
)
from foxpath.window.stops.on_picture import Point

PAGES = (("piles", "Piles"), ("tubes", "Tubes"), ("spots", "Spots"), ("layers", "Layers"))
DIMMED = 165
MOST_LINKS = 16
"""Parts of a chain on one brush."""
"""How dark the picture is where the chosen pile does not go, of 255."""


class MixesStop(Stop):
    """Choose a pile to see its recipe and where it goes; mix it, look, and say what it is against the target."""

    code, title = "mixes", "Mixes"
    steps_back = True
    cursor = Qt.CursorShape.CrossCursor

    def make_panel(self) -> QWidget:
        self.pages = Choice(list(PAGES), "page of the mixes")
        self.pages.chosen.connect(self._page)
        self.next = NextStep("hair")
        self.next.asked.connect(self._next)
        self.found = FindingList(self.code)
        self.found.asked.connect(self._finding)
        self.head = Section("", "")
        self.view = PileView()
        self.recipe = Words("", 13, "text")
        self.loop = LoopPanel()
        self.loop.added.connect(self._added)
        self.loop.right.connect(self._right)
        self.loop.photograph.connect(self._photograph)
        self.loop.refused.connect(lambda words: self.session.said.emit(words, "must"))
        self.goes_head = Section("Where it goes", "")
        self.goes = Rows("where the pile goes")
        self.goes_words = Words("", 12.5)
        self.acts = Buttons(
            [("mixed", "Mixed it"), ("wrap", "Wrap it"), ("open", "Unwrap it"), ("scrape", "Scrape it off")], 2
        )
        self.acts.clicked.connect(self._act)
        self.list_head = Section("In the order they are mixed", "")
        self.list = Rows("piles in the order they are mixed")
        self.list.chosen.connect(self._choose)
        self.medium_head = Section("Medium, pass by pass", "drops to a mL")
        self.mediums = Rows("mediums pass by pass")
        self.piles_page = column(
            self.head, self.view, self.recipe, self.loop, self.goes_head, self.goes, self.goes_words, self.acts,
            self.list_head, self.list, self.medium_head, self.mediums,
        )  # fmt: skip
        self.studio = StudioPage(self.session)
        self.spots = SpotsPage(self.session)
        self.layers = LayersPage(self.session)
        self._bodies = {"piles": self.piles_page, "tubes": self.studio, "spots": self.spots, "layers": self.layers}
        self._shown = "piles"
        self._spot: Point | None = None
        self._places: dict[str, Dab] = {}
        self._places_of: object = None
        self._lit: tuple[object, QImage] | None = None
        return panel(self.pages, self.next, self.found, *self._bodies.values())

    # What is known --------------------------------------------------------------------------------

    @property
    def close(self) -> MixesClose:
        """What is known of the mixes; nothing before they were planned."""
        readings = self.session.readings
        return readings.close(MIXES) if readings is not None else MixesClose()

    @property
    def _planned(self) -> bool:
        readings = self.session.readings
        return readings is not None and readings.has_close(MIXES.key)

    def chosen_pile(self) -> Pile | None:
        """Return the chosen pile, else the first."""
        palette = self.close.palette
        return palette.pile(self.session.chosen["pile"]) or (palette.piles[0] if palette.piles else None)

    def open_role(self) -> str:
        """Show the pass that the chosen pile is needed for first."""
        pile = self.chosen_pile()
        note = self.close.notes.get(pile.key) if pile is not None else None
        return note.needs[0][0] if note is not None and note.needs else ""

    # The bench ------------------------------------------------------------------------------------

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        close = self.close
        self.pages.set_value(self._shown)
        for key, body in self._bodies.items():
            body.setVisible(key == self._shown)
        self.found.set_findings(list(close.findings), [("show", "show me")])
        if self._shown != "piles":
            self.found.setVisible(False)
        self._refresh_next(close)
        if self._shown == "piles":
            self._refresh_pile(project, close)
            self._refresh_lists(project, close)
        elif self._shown == "tubes":
            self.studio.show_project(project)
        elif self._shown == "spots":
            spots, (parts, of) = self._chain(project), self._chain_of_parts(project)
            several = len(spots) > 1
            self.spots.show_spot(
                project, close, self._spot_lab(project), spots if several else parts, "" if several else of
            )
        else:
            self.layers.show_pile(project, close, self.chosen_pile())

    def _refresh_next(self, close: MixesClose) -> None:
        if not self._planned:
            self.next.set_words("Planning the piles", "The colours of every pass are gathered.")
            return
        waiting = next((one for one in close.palette.piles if not one.held), None)
        if waiting is None or close.rack is None:
            self.next.set_words(
                "Every pile lies there" if close.palette.piles else "Put tubes out", self.next_words(), "Go on"
            )
            return
        numbers = {one.key: k for k, one in enumerate(close.palette.piles, 1)}
        base = close.palette.pile(waiting.base)
        names = names_of(close.rack.tubes)
        sentence = f"Mix {waiting.name}" + (f" from {numbers[base.key]}" if base is not None else "")
        own = waiting.added if base is not None else waiting.recipe.parts
        self.next.set_words(sentence, parts_words(own, names) or "as it is", "Mixed it")

    def _refresh_pile(self, project: Project, close: MixesClose) -> None:
        pile = self.chosen_pile()
        shown = pile is not None and close.rack is not None
        for part in (self.head, self.view, self.recipe, self.goes_head, self.goes, self.goes_words, self.acts):
            part.setVisible(shown)
        mine = project.mixes.pile(pile.key) if pile is not None else None
        self.loop.show_pile(project.mixes, mine)
        if pile is None or close.rack is None:
            return
        note = close.notes[pile.key]
        number = [one.key for one in close.palette.piles].index(pile.key) + 1
        self.head.set_words(f"{number}  {pile.name.capitalize()}", f"{pile.mixed_ml:.1f} mL · L* {pile.lab[0]:.0f}")
        self.view.show_pile(close.palette, close.rack, pile, _around(close.palette, pile))
        self.recipe.set_words(self._recipe_words(close, pile))
        passes = self._pass_names()
        rows = [Row(key, passes.get(key, key), "", f"{ml:.1f} mL") for key, ml in note.needs]
        self.goes.set_rows(rows, "")
        parts = count_words(len(note.zones), "part")
        self.goes_head.set_words("Where it goes", parts if note.zones else "into other piles")
        self.goes_words.set_words(_goes_words(project, close.palette, pile, note, passes))
        self.acts.show_only({"mixed"} if mine is None else {"open" if mine.wrapped else "wrap", "scrape"})

    def _recipe_words(self, close: MixesClose, pile: Pile) -> str:
        assert close.rack is not None
        names = names_of(close.rack.tubes)
        note = close.notes[pile.key]
        said = []
        if pile.held:
            said.append(f"Lies there: {parts_words(pile.recipe.parts, names)}.")
        elif not pile.base and pile.recipe.let_down:
            strong = " and ".join(names.get(key, key).lower() for key in pile.recipe.let_down)
            said.append(f"Let {strong} down 1:9 first.")
        if pile.mother >= 1:
            with_it = sum(0 < one.mother < 1 for one in close.palette.piles)
            said.append(f"The mother mix: it takes part in {with_it} of the others.")
        if 0 < pile.mother < 1:
            said.append(f"{percent(pile.mother)} of it is the mother mix.")
        misleads = alone_words(pile.lab, _around(close.palette, pile))
        if misleads:
            said.append(misleads)
        lacks = note.lacks
        if lacks is not None:
            from foxpath.core.mixes.reach import lacking_words
            from foxpath.core.mixes.tubes import table

            tube = f"; {table()[lacks.tube].name.lower()} would bring it" if lacks.tube else ""
            said.append(f"Out of reach: {lacking_words(pile.recipe, lacks)}{tube}.")
        elif pile.recipe.away >= 0.05:
            said.append(f"{pile.recipe.away:.1f} dE from the picture.")
        return " ".join(said)

    def _refresh_lists(self, project: Project, close: MixesClose) -> None:
        palette, passes = close.palette, self._pass_names()
        chosen = self.chosen_pile()
        rows = []
        for k, one in enumerate(palette.piles, 1):
            state = (
                "lies there"
                if one.held
                else f"from {[p.key for p in palette.piles].index(one.base) + 1}"
                if one.base
                else "tubes"
            )
            rows.append(Row(one.key, f"{k}  {one.name}", state, f"{one.mixed_ml:.1f} mL"))
        self.list_head.set_words(
            "In the order they are mixed", f"{percent(palette.covered)} served" if palette.piles else ""
        )
        self.list.set_rows(rows, chosen.key if chosen is not None else "")
        self.mediums.set_rows(
            [
                Row(key, passes.get(key, key), "", f"{one.words} · {one.drops}" if one.drops else one.words)
                for key, one in close.mediums
            ],
            "",
        )

    def _pass_names(self) -> dict[str, str]:
        readings = self.session.readings
        return {one.role.key: one.role.name for one in readings.of(PASSES).passes} if readings is not None else {}

    def reading(self) -> str:
        close = self.close
        if not close.palette.piles:
            project = self.session.project
            return count_words(sum(one.here for one in project.mixes.tubes), "tube") if project is not None else ""
        beyond = out_of_reach(close.palette)
        piles = count_words(len(close.palette.piles), "mix", "mixes")
        return f"{beyond} out of reach" if beyond else f"{piles}, all in reach"

    def state(self) -> draw.State:
        project = self.session.project
        if project is None or not project.mixes.mixed:
            return "no"
        return "ready" if self._planned and all(one.held for one in self.close.palette.piles) else "begun"

    # What is done ---------------------------------------------------------------------------------

    def _page(self, key: str) -> None:
        self._shown = key
        self.refresh()
        self.picture.update()

    def _choose(self, key: str) -> None:
        self.session.choose(pile=key)

    def _next(self) -> None:
        waiting = next((one for one in self.close.palette.piles if not one.held), None)
        if not self._planned:
            return
        if waiting is None:
            self.go_on()
        else:
            self.mix(waiting)

    def mix(self, pile: Pile) -> None:
        """Lay a pile on the palette as it is planned."""
        made: list[str] = []

        def laid(p: Project) -> Project:
            ml = round(pile.mixed_ml, 2)
            after, key = edits.start_pile(
                p, pile.name, pile.recipe.target, pile.recipe.parts, ml, datetime.now().astimezone().date().isoformat()
            )
            made.append(key)
            return after

        if self.session.edit(laid, f"mix {pile.name}") and made:
            self._shown = "piles"
            self.session.choose(pile=made[-1])

    def _act(self, key: str) -> None:
        pile = self.chosen_pile()
        if pile is None:
            return
        if key == "mixed":
            self.mix(pile)
        elif key == "scrape":
            self.session.edit(lambda p: edits.scrape_pile(p, pile.key), f"scrape {pile.name} off")
        else:
            words = f"{'wrap' if key == 'wrap' else 'unwrap'} {pile.name}"
            self.session.edit(lambda p: edits.wrap_pile(p, pile.key, wrapped=key == "wrap"), words)

    def _added(self, seen: Triple, step: Addition, how: str) -> None:
        pile = self.chosen_pile()
        if pile is None:
            return

        wet = self.loop.wet

        def corrected(p: Project) -> Project:
            looked = edits.look_at_pile(p, pile.key, seen, how, wet=wet)
            return edits.add_to_pile(looked, pile.key, step.added, halve=step.halve)

        self.session.edit(corrected, f"correct {pile.name}")

    def _right(self, seen: Triple | None, how: str) -> None:
        pile = self.chosen_pile()
        project = self.session.project
        mine = project.mixes.pile(pile.key) if project is not None and pile is not None else None
        if mine is not None:
            # What is right in words is right as it will be.
            looks, wet = seen or mine.want, self.loop.wet and seen is not None
            self.session.edit(lambda p: edits.look_at_pile(p, mine.id, looks, how, wet=wet), f"{mine.name} is right")

    def _photograph(self) -> None:
        name, _ = QFileDialog.getOpenFileName(None, "A dab beside a grey card", "", PICTURES)
        if not name:
            return
        try:
            dialog = DabDialog(Path(name))
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        dialog.read.connect(self.loop.take_seen)
        dialog.exec()

    def _finding(self, _: str, finding: object) -> None:
        subject = getattr(finding, "subject", "")
        if subject == "budget":
            self._page("layers")
        elif subject:
            self.session.choose(pile=subject)

    # The picture ----------------------------------------------------------------------------------

    def _spot_lab(self, project: Project) -> Triple | None:
        if self._spot is None or not self.session.levels:
            return None
        levels = self.session.levels
        try:
            lab = spot_lab(
                levels[0], self._spot, project.spot_mm / project.mm_per_px, levels[0].shape[1] / project.reference.width
            )
        except ValueError:
            return None
        return float(lab[0]), float(lab[1]), float(lab[2])

    def _chain(self, project: Project) -> list[Linked]:
        if not self.session.levels:
            return []
        return [
            (f"spot {k}", (float(lab[0]), float(lab[1]), float(lab[2])))
            for k, lab in enumerate(spots_lab(self.session.levels, project), 1)
            if lab is not None
        ]

    def _chain_of_parts(self, project: Project) -> tuple[list[Linked], str]:
        """Return the parts of the pass that takes most of the chosen pile, each with the pile it takes most of, and the pass in words."""
        readings, pile = self.session.readings, self.chosen_pile()
        note = self.close.notes.get(pile.key) if pile is not None else None
        most = max(note.needs, key=lambda need: need[1])[0] if note is not None and note.needs else ""
        passes = readings.of(PASSES).passes if readings is not None else ()
        plan = next((one for one in passes if one.role.key == most), None)
        if plan is None:
            return [], ""
        zones, found = project.back_to_front(), []
        for index in plan.zones:
            ready = ready_for(self.close.palette, plan.role.key, index)
            if ready:
                found.append((zones[index].name.lower(), ready[0].lab))
        return found[:MOST_LINKS], f"{plan.role.name.lower()}, part by part"

    def press(self, at: Point, event: QMouseEvent) -> None:
        project = self.session.project
        if project is None or event.button() != Qt.MouseButton.LeftButton:
            return
        if self.picture.viewport.room.contains(event.position()):
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                self.session.edit(lambda p: edits.add_spot(p, at), "a spot of the chain")
            self._spot = at
            self._page("spots")
            return
        key = pile_at(self._places, event.position())
        if key:
            if self._shown not in ("piles", "layers"):
                self._shown = "piles"
            self.session.choose(pile=key)

    def key(self, event: QKeyEvent) -> bool:
        piles = self.close.palette.piles
        chosen = self.chosen_pile()
        by = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if by is not None and chosen is not None:
            at = [one.key for one in piles].index(chosen.key)
            self.session.choose(pile=piles[(at + by) % len(piles)].key)
            return True
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < len(PAGES):
            self._page(PAGES[number][0])
            return True
        if event.key() == Qt.Key.Key_M and chosen is not None and not chosen.held:
            self.mix(chosen)
            return True
        return False

    def words_at(self, at: Point) -> str:
        close, pile = self.close, self.chosen_pile()
        if pile is None:
            return "the palette is planned from the passes" if self.session.project is not None else ""
        number = [one.key for one in close.palette.piles].index(pile.key) + 1
        base = close.palette.pile(pile.base)
        begins = f"from {base.name}, " if base is not None else ""
        return f"mix {number}, {pile.name} · L* {pile.lab[0]:.0f} · {begins}{pile.mixed_ml:.1f} mL · mid-grey palette, L* 50"

    def paint_ground(self, p: QPainter, room: QRectF) -> None:
        close = self.close
        if close.rack is not None:
            paint_tubes(p, close.rack, tube_amounts(close.palette), room)
        if not close.palette.piles:
            words = "planning the piles" if not self._planned else "no pile: put tubes into the studio"
            draw.over_words(p, room.center().x() - 60, room.center().y(), words, "c", 14)
            return
        taken = stepped_back(room)
        ground = room.adjusted(0, TUBES_TALL + 4, 0, 0)
        key = (close, room.width(), room.height())
        if key != self._places_of:
            self._places_of, self._places = key, lay_out(close.palette, ground, taken)
        pile = self.chosen_pile()
        paint_tree(p, close.palette, close.rack, self._places, pile.key if pile is not None else "", room)
        draw.text(p, room.left() + 12, TUBES_TALL + 22, "stronger colour", 12, 500, "#1E1E1E")
        draw.stroke(
            p, draw.along(room.left() + 106, TUBES_TALL + 26, room.left() + 106, TUBES_TALL + 11), 3.2, 0.8, "#1E1E1E"
        )

    def paint(self, p: QPainter, view: Viewport) -> None:
        project, pile = self.session.project, self.chosen_pile()
        if project is None:
            return
        close = self.close
        if pile is not None and self._shown != "spots" and pile.key in close.notes:
            note = close.notes[pile.key]
            place(p, view, self._lit_where(project, note), project.crop)
            share = self._area(note)
            words = f"{pile.name} goes here · {share:.0f} cm²" if note.zones else f"{pile.name} goes into other piles"
            draw.over_words(p, view.room.center().x(), view.room.bottom() - 16, words, "c", 12.5, view.room)
        if self._shown == "spots":
            for k, at in enumerate(project.spots, 1):
                where = view.at(at)
                draw.tag(p, where.x(), where.y(), str(k))
            if self._spot is not None:
                where = view.at(self._spot)
                draw.circle(p, where.x(), where.y(), 7, "", "over_dark", 3)
                draw.circle(p, where.x(), where.y(), 7, "", "russet", 1.8)
        p.setPen(QPen(colour("#1A1A1A"), 1))

    def _area(self, note: PileNote) -> float:
        readings = self.session.readings
        if readings is None:
            return 0.0
        return sum(readings.facts[k].area_cm2 for k in note.zones if 0 <= k < len(readings.facts))

    def _lit_where(self, project: Project, note: PileNote) -> QImage:
        """Return a veil over the picture that leaves the parts a pile goes to as they are."""
        readings = self.session.readings
        key = (note.zones, readings)
        if self._lit is None or self._lit[0] != key:
            frame = map_frame(project)
            shade = np.zeros((frame.rows, frame.columns, 4), np.uint8)
            if readings is not None and -1 not in note.zones and note.zones:
                labels = labels_of(self.session.results, readings.project, frame)
                shade[..., 3] = np.where(np.isin(labels, note.zones), 0, DIMMED)
            self._lit = (key, image_of(shade))
        return self._lit[1]

    def enter(self) -> None:
        # The ground is painted once the room is known.
        QTimer.singleShot(0, self.picture.update)


def _around(palette: Palette, pile: Pile) -> Triple:
    """Return the mean colour of the parts a pile goes to, without its own."""
    zones = {palette.wants[w].zone for w in pile.wants}
    others = [one for k, one in enumerate(palette.wants) if one.zone in zones and k not in set(pile.wants)]
    if not others:
        return (50.0, 0.0, 0.0)
    mean = np.average([one.lab for one in others], axis=0, weights=[max(one.ml, 1e-6) for one in others])
    return float(mean[0]), float(mean[1]), float(mean[2])


def _goes_words(project: Project, palette: Palette, pile: Pile, note: PileNote, passes: dict[str, str]) -> str:
    said = []
    if note.zones:
        said.append(f"{place_words(project, note.zones, 4).capitalize()}.")
    if note.sittings > 1:
        said.append(f"Over {note.sittings} sittings.")
    if note.kept_until:
        said.append(f"Keep it until {passes.get(note.kept_until, note.kept_until).lower()}, for {note.why_kept}.")
    if note.keeps:
        said.append(f"{note.keeps.capitalize()}.")
    begins = [one.name for key in note.begins if (one := palette.pile(key)) is not None]
    if begins:
        said.append(f"What is left begins {begins[0]}.")
    if note.clear:
        said.append("It hardly covers: lay it twice, or over its own dark.")
    return " ".join(said)
