"""The page of the commission: client, wishes, photographs, proofs and approvals, and what a change costs before it is taken."""

from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.clock import now
from foxpath.core.commission import PERMISSIONS, Change
from foxpath.core.days.studio import day_of
from foxpath.core.units import count_words
from foxpath.derive.easel.change import AskChange, Impact
from foxpath.derive.handout.proof import WriteProof
from foxpath.document import edits
from foxpath.document.model import Project, Reference
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Field
from foxpath.window.bench.rows import Row, Section, TallRows, Words
from foxpath.window.stops.easel.picture import PICTURES, ReadPicture, Thumb
from foxpath.window.work.session import Session

MOST_ROWS = 8


class ClientPage(QWidget):
    """Whom it is for, and what they said."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.impact: Impact | None = None
        self._parts: set[str] = set()
        self.head = Section("Client", "")
        self.client = Field("whom the painting is for")
        self.client.blank = True
        self.client.setPlaceholderText("nobody yet; a name")
        self.client.taken.connect(lambda text: self.session.edit(lambda p: edits.set_client(p, text), "client"))
        self.wishes_head = Section("Wishes", "")
        self.wishes = TallRows("wishes of the client")
        self.wish = Field("a wish")
        self.wish.setPlaceholderText("a wish, dated today")
        self.wish.taken.connect(self.add_wish)
        self.photos_head = Section("Photographs received", "")
        self.photos = TallRows("photographs that came")
        self.photo = Field("a photograph that came")
        self.photo.setPlaceholderText("file, animal: garden.jpg, Runa")
        self.photo.taken.connect(self.add_photo)
        self.photo_acts = Buttons([("file", "With the file …")], 1)
        self.photo_acts.clicked.connect(self._photo_file)
        self.thumb = Thumb()
        self.photos.chosen.connect(self._choose_photo)
        self._photo = ""
        self.permission = Choice(
            [("", "not asked"), ("painting", "to paint"), ("show", "to show")], "what it may be used for"
        )
        self.permission.set_value("")
        self.permission.chosen.connect(lambda key: self.permission.set_value(key))
        self.proofs_head = Section("Proofs", "")
        self.proofs = TallRows("proofs and approvals")
        self.proof_acts = Buttons([("proof", "Write a proof …"), ("approved", "It is approved")], 1)
        self.proof_acts.clicked.connect(self._proof)
        self.change_head = Section("A change", "what it costs")
        self.zones = TallRows("parts that are painted otherwise")
        self.zones.chosen.connect(self._toggle)
        self.change = Field("the change in words")
        self.change.setPlaceholderText("e.g. an evening sky")
        self.impact_words = Words("", 13, "text")
        self.change_acts = Buttons([("take", "Take the change"), ("leave", "Leave it")], 2)
        self.change_acts.clicked.connect(self._change)
        self.changes = TallRows("changes that were asked for")
        stack(
            self, self.head, self.client, self.wishes_head, self.wishes, self.wish, self.photos_head, self.photos, self.thumb,
            self.photo, self.photo_acts, self.permission, self.proofs_head, self.proofs, self.proof_acts, self.change_head, self.zones, self.impact_words,
            self.change, self.change_acts, self.changes,
        )  # fmt: skip

    def show_project(self, project: Project) -> None:
        """Show the commission."""
        one = project.commission
        self.client.show_words(one.client)
        self.head.set_words("Client", "" if one.client else "nobody asked for it yet")
        self._show(
            self.wishes_head,
            self.wishes,
            "Wishes",
            [Row(str(k), w.text, _day(w.day), "") for k, w in enumerate(one.wishes)],
        )
        self._show(
            self.photos_head, self.photos, "Photographs received",
            [Row(str(k), p.name, " · ".join(x for x in (p.animal, PERMISSIONS[p.permission], "" if p.picture else "not kept here") if x), _day(p.day)) for k, p in enumerate(one.photographs)],
            self._photo,
        )  # fmt: skip
        chosen = next((p for k, p in enumerate(one.photographs) if str(k) == self._photo), None)
        kept = project.picture(chosen.picture) if chosen is not None and chosen.picture else None
        self.thumb.show_picture(kept.reference if kept is not None else None)
        self._show(
            self.proofs_head, self.proofs, "Proofs",
            [Row(str(k), p.name, f"approved {_day(p.approved)}" if p.approved else "waits for approval", _day(p.day)) for k, p in enumerate(one.proofs)],
        )  # fmt: skip
        self.proof_acts.show_only({"proof"} | ({"approved"} if one.waiting is not None else set()))
        ids = {zone.id for zone in project.zones}
        self._parts &= ids
        self.zones.set_rows(
            [
                Row(
                    z.id,
                    z.name,
                    "painted otherwise" if z.id in self._parts else "stays",
                    "●" if z.id in self._parts else "",
                )
                for z in project.back_to_front()
            ],
            "",
        )
        shown = bool(self._parts)
        for part in (self.change, self.change_acts, self.impact_words):
            part.setVisible(shown)
        self.impact_words.set_words(
            self.impact.words() if self.impact is not None else "Reckoning what it costs …" if shown else ""
        )
        rows = [
            Row(str(k), c.text, f"{count_words(c.minutes, 'minute')}, {count_words(c.days, 'day')} later", _day(c.day))
            for k, c in enumerate(one.changes)
        ]  # fmt: skip
        self.changes.set_rows(rows[-MOST_ROWS:], "")
        self.changes.setVisible(bool(rows))

    def _show(self, head: Section, list_: TallRows, name: str, rows: list[Row], chosen: str = "") -> None:
        head.set_words(name, str(len(rows)) if rows else "none")
        list_.set_rows(rows[-MOST_ROWS:], chosen)
        list_.setVisible(bool(rows))

    # What is done ---------------------------------------------------------------------------------

    def add_wish(self, text: str) -> None:
        """Write a wish down, dated today."""
        if self.session.edit(lambda p: edits.add_wish(p, now().date(), text), "a wish"):
            _empty(self.wish)

    def add_photo(self, text: str) -> None:
        """Write a photograph down that came: its name, and after a comma the animal."""
        name, _, animal = text.partition(",")
        allowed = self.permission.value
        if self.session.edit(lambda p: edits.add_received(p, now().date(), name, animal, allowed), "a photograph"):
            _empty(self.photo)

    def _photo_file(self, _: str) -> None:
        path, _ = QFileDialog.getOpenFileName(None, "The photograph that came", "", PICTURES)
        if path:
            self.session.runner.start(
                "photograph that came", ReadPicture(Path(path)), self.keep_photo,
                failed=lambda words: self.session.said.emit(words, "must"),
            )  # fmt: skip

    def keep_photo(self, picture: Reference) -> None:
        """Keep a photograph that came, with its animal as it is written in the field."""
        animal, allowed = self.photo.text().rpartition(",")[2], self.permission.value
        if self.session.edit(
            lambda p: edits.add_received(p, now().date(), picture.name, animal, allowed, picture), "a photograph"
        ):
            _empty(self.photo)

    def _choose_photo(self, key: str) -> None:
        self._photo = "" if key == self._photo else key
        if self.session.project is not None:
            self.show_project(self.session.project)

    def _proof(self, key: str) -> None:
        if key == "approved":
            self.session.edit(lambda p: edits.approve_proof(p, now().date()), "the proof is approved")
            return
        project = self.session.project
        if project is None:
            return
        name, _ = QFileDialog.getSaveFileName(None, "A proof", f"{project.name} proof.pdf", "Sheets (*.pdf)")
        if name:
            self.write_proof(Path(name))

    def write_proof(self, path: Path) -> None:
        """Write a proof, and note that it was sent."""
        project = self.session.project
        if project is not None:
            self.session.write(WriteProof(self.session.results, project, path))
            self.session.edit(lambda p: edits.send_proof(p, now().date(), path.name), "a proof")

    def _toggle(self, zone: str) -> None:
        self._parts ^= {zone}
        self.impact = None
        project = self.session.project
        if project is None:
            return
        if self._parts:
            request = AskChange(self.session.results, project, tuple(sorted(self._parts)))
            self.session.runner.start("easel change", request, self._take_impact)
        else:
            self.session.runner.cancel("easel change")
        self.show_project(project)

    def _take_impact(self, impact: Impact) -> None:
        self.impact = impact
        if self.session.project is not None:
            self.show_project(self.session.project)

    def _change(self, key: str) -> None:
        impact, project = self.impact, self.session.project
        if key == "take" and impact is not None and project is not None:
            text = self.change.text().strip() or "another look of " + ", ".join(
                zone.name for zone in project.zones if zone.id in impact.zones
            )  # fmt: skip
            made = Change(now().date().isoformat(), text, impact.zones, impact.minutes, impact.days)
            if not self.session.edit(lambda p: edits.take_change(p, made, impact.again), text):
                return
            _empty(self.change)
        self._parts, self.impact = set(), None
        if self.session.project is not None:
            self.show_project(self.session.project)


def _empty(field: Field) -> None:
    field.setText("")
    field.show_words("")


def _day(text: str) -> str:
    day = day_of(text)
    return f"{day:%-d %b %Y}" if day is not None else ""
