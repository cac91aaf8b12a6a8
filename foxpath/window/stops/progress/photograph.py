"""The page of the photograph: its corners, how far it can be trusted, the passes done, the others, and what is left alone."""

from datetime import datetime

import numpy as np
from PySide6.QtCore import Signal
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.progress.spots import BORDERS, GREY_CARD, Spot
from foxpath.core.units import count_words
from foxpath.derive.progress.cameras import SmallPhoto
from foxpath.derive.progress.reading import PhotoRead
from foxpath.derive.subjects import PASSES
from foxpath.document import edits
from foxpath.document.model import CanvasPhoto, Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look.theme import hex_of
from foxpath.window.picture.view import image_of
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.progress.photo import PhotoCorners
from foxpath.window.work.session import Session

SMALL_PX, MOST_TRUST, MOST_KNOWN = 420, 7, 5


class PhotographPage(QWidget):
    """The page of the photograph that is looked at; its edits are its own."""

    about_to_change = Signal()
    """What was read off it will be out of date."""
    chosen = Signal(str)
    """Another photograph was chosen."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._shown: tuple[Project, CanvasPhoto, PhotoRead | None, bool] | None = None
        self._small: tuple[str, QImage] | None = None
        self.photo_head = Section("Photograph", "")
        self.corners = PhotoCorners()
        self.corners.moved.connect(self.set_corners)
        self.corners.clicked.connect(self._card_at)
        self.trust = [Words("", 12.5) for _ in range(MOST_TRUST)]
        self.photo_acts = Buttons(
            [("find", "Find again"), ("card", "Grey card"), ("no card", "No card"), ("remove", "Take it out")],
            2,
        )
        self.photo_acts.clicked.connect(self._photo_act)
        self.border_head = Section("Round the canvas lies", "its light tells the lamp's")
        self.border = Choice([("", "unknown"), *((key, key) for key in BORDERS)], "what lies round the canvas")
        self.border.chosen.connect(lambda key: self._change("what lies round the canvas", border=key))
        self.known_head = Section("A dry pile you know", "choose it, then click it")
        self.known = Rows("dry piles of known colour")
        self.known.chosen.connect(self._pile)
        self._lab = GREY_CARD
        self.after_head = Section("Passes done", "compared with the plan of these")
        self.after = Rows("the last pass that was done")
        self.after.chosen.connect(self.set_after)
        self.shelf_head = Section("All photographs", "")
        self.shelf = Rows("photographs of the canvas")
        self.shelf.chosen.connect(self.chosen)
        self.alone_head = Section("Left alone", "Shift drag round it")
        self.alone_words = Words("", 12.5)
        self.alone_acts = Buttons([("again", "Judge it all again")], 1)
        self.alone_acts.clicked.connect(lambda _: self.session.edit(edits.judge_again, "judge it all again"))
        stack(
            self, self.photo_head, self.corners, *self.trust, self.photo_acts, self.border_head, self.border, self.known_head, self.known, self.after_head, self.after, self.shelf_head, self.shelf,
            self.alone_head, self.alone_words, self.alone_acts, Section("A light place", ""),
            Words("Even daylight from the side, no flash, square on; a grey card at the edge. Varnish shines: move the lamp and take a second one.", 12.5),
        )  # fmt: skip

    @property
    def _photo(self) -> CanvasPhoto | None:
        return self._shown[1] if self._shown is not None else None

    def show_photo(self, project: Project, photo: CanvasPhoto, read: PhotoRead | None, *, failed: bool) -> None:
        """Show a photograph; `failed` offers corners to be dragged where none were found."""
        self._shown = (project, photo, read, failed)
        taken = datetime.fromisoformat(photo.taken)
        self.photo_head.set_words("Photograph", f"{taken:%-d %b %Y, %H:%M}")
        corners = read.looked.corners if read is not None else np.array(photo.corners).reshape(-1, 2)
        if not len(corners):
            # To be dragged from somewhere.
            w, h = photo.reference.width, photo.reference.height
            corners = (
                np.array([[0.1 * w, 0.1 * h], [0.9 * w, 0.1 * h], [0.9 * w, 0.9 * h], [0.1 * w, 0.9 * h]])
                if failed
                else corners
            )
        size = (photo.reference.width, photo.reference.height)
        self.corners.show_photo(
            self._small_of(photo), size, [tuple(one) for one in corners], [one.at for one in photo.spots]
        )
        trust = read.looked.trust() if read is not None else []
        for k, line in enumerate(self.trust):
            words = f"{trust[k][0].capitalize()}: {trust[k][1]}; {trust[k][2]}." if k < len(trust) else ""
            line.set_words(words)
            line.setVisible(bool(words))
        self.border.set_value(photo.border)
        mixed = [one for one in project.mixes.mixed if one.sights]
        for part in (self.known_head, self.known):
            part.setVisible(bool(mixed))
        self.known.set_rows(
            [
                Row(one.id, one.name, "", f"L* {one.sights[-1].seen[0]:.0f}", swatch=hex_of(one.sights[-1].seen))
                for one in mixed
            ],
            "",
        )
        shown = {"remove", "find", "no card" if photo.spots else "card"}
        self.photo_acts.show_only(shown)
        readings = self.session.readings
        plans = [plan for plan in readings.of(PASSES).passes if plan.on] if readings is not None else []
        after = read.looked.after if read is not None else photo.after
        self.after.set_rows([Row(plan.role.key, f"{k}  {plan.role.name}") for k, plan in enumerate(plans, 1)], after)
        self.shelf_head.set_words("All photographs", str(len(project.photos)))
        self.shelf.set_rows(
            [
                Row(one.id, one.reference.name, "", f"{datetime.fromisoformat(one.taken):%-d %b, %H:%M}")
                for one in project.photos
            ],
            photo.id,
        )
        many = len(project.left_alone)
        self.alone_words.set_words(
            f"{count_words(many, 'area')} left alone: nothing in {'it' if many == 1 else 'them'} is judged."
            if many
            else "Nothing is left alone. Shift drag round a place that is meant to stay as it is."
        )
        self.alone_acts.setVisible(bool(many))

    def _small_of(self, photo: CanvasPhoto) -> QImage | None:
        """Return the small picture of a photograph; None until it has been made beside the window."""
        if self._small is not None and self._small[0] == photo.reference.digest:
            return self._small[1]
        if not self.session.runner.running("small photograph"):
            self.session.runner.start("small photograph", SmallPhoto(photo, SMALL_PX), self._take_small)
        return None

    def _take_small(self, value: tuple[str, Rgb8]) -> None:
        self._small = (value[0], image_of(value[1]))
        if self._shown is not None:
            project, photo, read, failed = self._shown
            self.show_photo(project, photo, read, failed=failed)

    def _change(self, words: str, **changes: object) -> None:
        photo = self._photo
        if photo is not None:
            self.about_to_change.emit()
            self.session.edit(lambda p: edits.change_photo(p, photo.id, **changes), words)

    def set_corners(self, corners: tuple[Point, ...]) -> None:
        """Take corners that were dragged."""
        self._change("corners", corners=tuple((round(x, 1), round(y, 1)) for x, y in corners))

    def set_after(self, role: str) -> None:
        """Say which pass was the last that was done."""
        self._change("passes done", after=role)

    def _card_at(self, x: float, y: float) -> None:
        self.corners.asks = False
        photo = self._photo
        known = photo.spots if photo is not None and self._lab != GREY_CARD else ()
        words = "a grey card" if self._lab == GREY_CARD else "a dry pile of known colour"
        lab, self._lab = self._lab, GREY_CARD
        # Piles are read together; a card alone is enough.
        self._change(words, spots=(*known[-MOST_KNOWN:], Spot((round(x, 1), round(y, 1)), lab)))

    def _pile(self, key: str) -> None:
        """Ask where a pile lies whose colour was seen when it was mixed."""
        project = self.session.project
        pile = next((one for one in project.mixes.mixed if one.id == key and one.sights), None) if project else None
        if pile is not None:
            self._lab = pile.sights[-1].seen
            self.corners.asks = True
            self.corners.update()

    def _photo_act(self, key: str) -> None:
        photo = self._photo
        if photo is None:
            return
        if key == "find":
            self._change("find the corners again", corners=())
        elif key == "card":
            self._lab = GREY_CARD
            self.corners.asks = True
            self.corners.update()
        elif key == "no card":
            self._change("no grey card", spots=())
        else:
            self.about_to_change.emit()
            self.session.edit(lambda p: edits.remove_photo(p, photo.id), "take a photograph out")
