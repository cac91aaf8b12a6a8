"""Stop 12, Progress: a photograph of the canvas against the plan, what to touch up, and when to stop."""

import math
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.arrays import Points, Rgb8
from foxpath.core.clock import now
from foxpath.core.errors import AppError, PictureError
from foxpath.core.progress.touches import OWN, Touch
from foxpath.core.units import duration_words
from foxpath.derive.handout.progress import WriteProgress
from foxpath.derive.progress.afar import ProgressClose
from foxpath.derive.progress.cameras import Camera, FolderCamera, KeepTaken, Kept, StandInCamera, Taken
from foxpath.derive.progress.reading import (
    Looked,
    PhotoRead,
    ReadPhoto,
    ReadTrend,
    outlines_of,
)
from foxpath.derive.progress.touchups import TouchUp
from foxpath.derive.subjects import PROGRESS
from foxpath.document import archive, edits
from foxpath.document.model import CanvasPhoto, Project
from foxpath.window.bench.bench import column, panel
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Field
from foxpath.window.bench.rows import Gestures, NextStep, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.lasso import Lasso
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.progress.overlay import DISC, discs, paint_glare, paint_place
from foxpath.window.stops.progress.photograph import PhotographPage
from foxpath.window.stops.progress.touches import TouchRows, rows_of
from foxpath.window.stops.progress.trend import KeepErrors, TrendPage

PICTURES = "Pictures (*.jpg *.jpeg *.png *.tif *.tiff *.webp *.heic)"
PAGES = (("list", "List"), ("photo", "Photograph"), ("trend", "Trend"))
WATCH_MS = 2000
LAID_OVER = (("", "canvas"), ("plan", "plan"), ("earlier", "before"))
STAND_IN_SEED = 21
HOLDS = (
    ("edge", "the plan", "hold B"),
    ("outline", "the reference", "hold R"),
    ("frame", "the photograph before", "hold E"),
)


class ProgressStop(Stop):
    """The canvas squared up, with numbered places; the list beside it."""

    code, title = "progress", "Progress"
    shows_painting = True
    cursor = Qt.CursorShape.ArrowCursor

    def make_panel(self) -> QWidget:
        self.pages = Choice(list(PAGES), "page of progress")
        self.pages.chosen.connect(self.open_page)
        self.next = NextStep("hair")
        self.next.asked.connect(self.go)
        self.found = FindingList(self.code)
        self.found.asked.connect(self._write_down)
        self.add = Buttons([("file", "Open …"), ("watch", "Watch …"), ("stand", "Stand-in")], 3)
        self.add.buttons["file"].setToolTip("A photograph of the canvas")
        self.add.buttons["watch"].setToolTip("A folder that photographs arrive in")
        self.add.buttons["stand"].setToolTip(
            "A camera that stands in: it photographs the plan painted by another hand, with faults in it"
        )
        self.add.clicked.connect(self._add)
        self.how = column(
            Section("The photograph", "how it tells most"),
            Words("Even daylight from the side, no flash, square on if you can, a grey card at its edge.", 12.5),
            Words(
                "Corners and light are found by themselves; what lies under glare or beyond the picture is not judged.",
                12.5,
            ),
            Section("To try it", "before there is a canvas"),
            Words(
                "Stand-in photographs the plan as another hand paints it, with faults in it. Watch takes whatever arrives in a folder.",
                12.5,
            ),
        )
        self.reasons = Words("", 12.5)
        self.list_head = Section("Touch-ups", "what the eye sees first")
        self.rows = TouchRows()
        self.rows.chosen.connect(self._choose)
        self.says = Words("", 13, "text")
        self.why = Words("", 12)
        self.acts = Buttons([("todo", "To do"), ("leave", "Keep it"), ("struck", "Strike out"), ("done", "Done")], 2)
        self.acts.clicked.connect(self.say)
        self.line_head = Section("Stop here", "")
        self.below = TouchRows()
        self.below.chosen.connect(self._choose)
        self.own = Field("a touch-up of your own")
        self.own.setPlaceholderText("what jumps out after days of looking")
        self.own.taken.connect(self.add_own)
        self.own_note = Words("Written down here it joins the list, at the part you chose last.", 12)
        self.agrees_head = Section("Agrees with the plan", "part by part, ΔE")
        self.agrees = Rows("how parts agree with the plan")
        self.agrees.chosen.connect(self._fly_to_part)
        self.over = Choice(list(LAID_OVER), "what is laid over")
        self.over.chosen.connect(self._lay_over)
        self.sheets = Buttons([("sheet", "Write it …"), ("easel", "To the easel")], 2)
        self.sheets.clicked.connect(self._sheet)
        self.entry_head = Section("", "")
        self.list_page = column(
            self.reasons, self.entry_head, self.says, self.why, self.acts, self.list_head, self.rows, self.line_head, self.below,
            Section("Your own", "also after days of hanging"), self.own, self.own_note, self.agrees_head, self.agrees,
            Section("Laid over", "or hold B, R, E"), self.over, Section("To hand on", ""), self.sheets,
        )  # fmt: skip
        self.photo_page = PhotographPage(self.session)
        self.photo_page.about_to_change.connect(self._forget)
        self.photo_page.chosen.connect(self.show_photo)
        self.trend_page = TrendPage()
        self.keys = Gestures(list(HOLDS))
        self._bodies = {"list": self.list_page, "photo": self.photo_page, "trend": self.trend_page}
        self._page, self._photo, self._entry, self._over, self._failed = "list", "", "", "", ""
        self._read: PhotoRead | None = None
        self._reads: list[PhotoRead] = []
        self._glare: tuple[Looked, list[Points]] | None = None
        self._lasso = Lasso()
        self._arrivals = 0
        self._wanted: tuple[Project | None, str] = (None, "")
        self.camera: FolderCamera | None = None
        self._stand_in = STAND_IN_SEED
        self._watch = QTimer(self)
        self._watch.setInterval(WATCH_MS)
        self._watch.timeout.connect(self._look_in_folder)
        return panel(self.pages, self.next, self.found, self.add, self.how, *self._bodies.values(), self.keys)

    # What is known --------------------------------------------------------------------------------

    @property
    def photo(self) -> CanvasPhoto | None:
        """The photograph that is looked at: the chosen one, else the last."""
        project = self.session.project
        if project is None or not project.photos:
            return None
        return project.photo(self._photo) or project.photos[-1]

    @property
    def read(self) -> PhotoRead | None:
        """What was read off it; None before that, and when it could not be used."""
        photo = self.photo
        known = self._read
        return (
            known
            if known is not None and photo is not None and known.photo is not None and known.photo.id == photo.id
            else None
        )

    @property
    def entry(self) -> TouchUp | None:
        """The chosen entry."""
        read = self.read
        if read is None:
            return None
        return next((one for one in read.entries if str(one.number) == self._entry), None)

    def open_role(self) -> str:
        read = self.read
        return read.looked.after if read is not None else ""

    def own_picture(self, compare: str) -> Rgb8 | None:
        """Return the canvas, or what is laid over it while a key is held; the reference is the window's own."""
        read = self.read
        what = {"before": "plan", "earlier": "earlier"}.get(compare, self._over if not compare else "")
        if read is None or compare == "reference":
            return None
        if what == "plan":
            return read.looked.plan
        if what == "earlier":
            before = self.before
            return before.looked.rgb if before is not None else read.looked.rgb
        return read.looked.rgb

    @property
    def before(self) -> PhotoRead | None:
        """The photograph before the one that is looked at, where it was read."""
        photo = self.photo
        if photo is None:
            return None
        earlier = [one for one in self._reads if one.photo is not None and one.photo.taken < photo.taken]
        return earlier[-1] if earlier else None

    # Reading --------------------------------------------------------------------------------------

    def enter(self) -> None:
        super().enter()
        self._ask()

    def _ask(self) -> None:
        """Read the photograph again when it, the plan or what was said has changed."""
        project, photo = self.session.project, self.photo
        if project is None or photo is None or self.session.chosen.stop != self.code:
            return
        known, photo_id = self._wanted
        if known is project and photo_id == photo.id:
            return
        self._wanted, self._failed = (project, photo.id), ""
        request = ReadPhoto(self.session.results, project, photo)
        self.session.runner.start("photograph", request, self._take, failed=self._fail)

    def _take(self, read: PhotoRead) -> None:
        self._read = read
        if self.entry is None:
            self._entry = str(read.open[0].number) if read.open else ""
        self.restated.emit()
        self.refresh()
        self.picture.update()
        project = self.session.project
        if project is not None and len(project.photos) > 1:
            self.session.runner.start("trend", ReadTrend(self.session.results, project), self._take_trend)
        else:
            self._reads = [read]

    def _fail(self, words: str) -> None:
        self._read, self._failed = None, words
        self.restated.emit()
        self.refresh()
        self.picture.update()

    def _take_trend(self, reads: list[PhotoRead]) -> None:
        self._reads = reads
        project = self.session.project
        if project is not None and self.session.path is not None:
            # Of a painting of one's own, that is: a demo's faults are made up.
            self.session.runner.start(
                "keep errors", KeepErrors(project.name, tuple(reads)), lambda _: None,
                failed=lambda words: self.session.said.emit(words, "must"), writes=True,
            )  # fmt: skip
        self.refresh()

    def _forget(self) -> None:
        self._read = None

    # The bench ------------------------------------------------------------------------------------

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        self._ask()
        self.pages.set_value(self._page)
        photo, read = self.photo, self.read
        for key, body in self._bodies.items():
            body.setVisible(key == self._page and photo is not None)
        self.pages.setVisible(photo is not None)
        self.keys.setVisible(read is not None)
        self.how.setVisible(photo is None)
        self.add.show_only({"file", "watch", "stand"} if photo is not None else {"watch", "stand"})
        readings = self.session.readings
        close = readings.close(PROGRESS) if readings is not None else ProgressClose()
        self.found.set_findings(list(close.findings), [("say", "write it down")])
        self._refresh_next(project, photo, read)
        if photo is None:
            return
        if self._page == "list":
            self._refresh_list(project, read)
        elif self._page == "photo":
            self.photo_page.show_photo(project, photo, read, failed=bool(self._failed))
        else:
            self.trend_page.show_reads(self._reads)

    def _refresh_next(self, project: Project, photo: CanvasPhoto | None, read: PhotoRead | None) -> None:
        watched = f" Watching {self.camera.folder.name}." if self.camera is not None else ""
        if photo is None:
            self.next.set_words(
                "Photograph the canvas",
                f"All four sides in it, no flash; it is compared with the passes done.{watched}",
                "Open …",
            )
        elif self._failed:
            self.next.set_words("This photograph cannot be used", self._failed, "Corners")
        elif read is None:
            self.next.set_words(
                "Reading the photograph", "The plan is painted by another hand, then the two are compared."
            )
        elif not read.open:
            self.next.set_words(read.words(), " ".join(read.reasons[:2]) or "Nothing shows.", "")
        else:
            self.next.set_words(read.words(), f"about {duration_words(read.minutes())}{watched}", "At the easel")

    def _refresh_list(self, project: Project, read: PhotoRead | None) -> None:
        entries = read.entries if read is not None else ()
        upper = [one for one in entries if not one.below]
        lower = [one for one in entries if one.below]
        self.reasons.set_words(" ".join(read.reasons) if read is not None else "")
        self.list_head.set_words("Touch-ups", "what the eye sees first" if upper else "none")
        self.rows.set_rows(rows_of(upper), self._entry)
        self.rows.setVisible(bool(upper))
        far = f"below this {read.looked.from_m:.1f} m shows nothing" if read is not None else ""
        self.line_head.set_words("Stop here", far)
        self.line_head.setVisible(bool(lower))
        self.below.set_rows(rows_of(lower), self._entry)
        self.below.setVisible(bool(lower))
        entry = self.entry
        self.says.set_words(self._remedy_words(entry) if entry is not None else "")
        self.why.set_words(entry.why if entry is not None else "")
        if entry is not None:
            self.entry_head.set_words(
                f"{entry.number}  {entry.name}",
                f"{entry.minutes} min · {entry.tool}" if entry.tool else f"{entry.minutes} min",
            )
        for part in (self.entry_head, self.says, self.why, self.acts):
            part.setVisible(entry is not None)
        rows = []
        if read is not None:
            for one in sorted(read.looked.parts, key=lambda part: -part.de):
                off = read.looked.about.parts[one.part]
                said = f"{one.d_l:+.1f} L*  {one.warmer:+.1f} warm"
                rows.append(Row(off.id, off.name, said, f"{one.de:.1f}"))
        self.agrees.set_rows(rows, self.session.chosen["zone"])
        self.agrees.setVisible(bool(rows))
        self.agrees_head.setVisible(bool(rows))
        self.over.set_value(self._over)

    @staticmethod
    def _remedy_words(entry: TouchUp) -> str:
        state = {
            "wet": "The paint is wet there. ",
            "tacky": "The paint is tacky there. ",
            "dry": "The paint is dry there. ",
        }.get(entry.state, "")
        unknown = "" if entry.state or entry.kind == OWN else "The log does not know the paint there; taken as dry. "
        when = "" if entry.when == "now" else f" From {datetime.fromisoformat(entry.when):%a %-d %b}."
        return f"{state}{unknown}{entry.remedy}{when}"

    def reading(self) -> str:
        read = self.read
        if read is not None:
            return read.words().lower()
        readings = self.session.readings
        return readings.of(PROGRESS).words if readings is not None else ""

    def state(self) -> draw.State:
        project = self.session.project
        if project is None or not project.photos:
            return "no"
        read = self.read
        return "ready" if read is not None and read.words() == "Stop here" else "begun"

    # What is done ---------------------------------------------------------------------------------

    def open_page(self, key: str) -> None:
        """Open a page of the bench."""
        self._page = key
        self.refresh()

    def go(self) -> None:
        """Do what comes next: open a photograph, mend its corners, or take the open entries to the easel."""
        if self.photo is None:
            self._add("file")
        elif self._failed:
            self.open_page("photo")
        else:
            self._sheet("easel")

    def _add(self, how: str) -> None:
        if how == "file":
            name, _ = QFileDialog.getOpenFileName(None, "A photograph of the canvas", "", PICTURES)
            if name:
                self.add_file(Path(name))
        elif how == "watch":
            folder = QFileDialog.getExistingDirectory(None, "The folder photographs arrive in")
            if folder:
                self.watch(Path(folder))
        else:
            self.stand_in()

    def add_file(self, path: Path) -> None:
        """Add a photograph from a file."""
        try:
            data = archive.picture_bytes(path)
        except PictureError as failure:
            self.session.said.emit(str(failure), "must")
            return
        self.add_taken(Taken(path.name, data))

    def add_taken(self, taken: Taken) -> None:
        """Add a photograph as it came from a camera, and look at it; it is made fit to be kept beside the window."""
        project = self.session.project
        if project is not None:
            request = KeepTaken(self.session.results, project, taken)
            self._arrivals += 1
            self.session.runner.start(f"arrived {self._arrivals}", request, self._arrived, failed=self._refused)

    def _refused(self, words: str) -> None:
        self.session.said.emit(words, "must")

    def _arrived(self, kept: Kept) -> None:
        made: list[str] = []

        def added(project: Project) -> Project:
            changed, photo_id = edits.add_photo(project, kept.reference, kept.moment, kept.after)
            made.append(photo_id)
            return changed

        if self.session.edit(added, "a photograph of the canvas") or made:
            self.show_photo(made[-1])

    def watch(self, folder: Path) -> None:
        """Watch a folder: what arrives in it is added."""
        camera = FolderCamera(folder)
        try:
            camera.new()
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        self.camera = camera
        self._watch.start()
        self.session.said.emit(f"Watching {folder.name}: photographs that arrive there are added.", "note")
        self.refresh()

    def _look_in_folder(self) -> None:
        if self.camera is not None and self.session.project is not None and not self.session.runner.running("watch"):
            self._ask_camera("watch", self.camera, self._gone)

    def _gone(self, words: str) -> None:
        self.camera = None
        self._watch.stop()
        self._refused(words)

    def stand_in(self) -> None:
        """Take a photograph with the stand-in camera: the plan by another hand, with faults in it."""
        project = self.session.project
        if project is None:
            return
        camera = StandInCamera(self.session.results, project, "last", self._stand_in, cut=False)
        self._stand_in += 1
        self.session.said.emit("The stand-in camera paints the plan by another hand, and photographs it.", "note")
        self._ask_camera("stand-in", camera, self._refused)

    def _ask_camera(self, key: str, camera: Camera, failed: Callable[[str], None]) -> None:
        self.session.runner.start(key, camera.new, self._take_all, failed=failed)

    def _take_all(self, taken: list[Taken]) -> None:
        for one in taken:
            self.add_taken(one)

    def show_photo(self, photo_id: str) -> None:
        """Look at a photograph."""
        self._photo, self._entry, self._read, self._failed, self._wanted = photo_id, "", None, "", (None, "")
        self._ask()
        self.refresh()
        self.restated.emit()
        self.picture.update()

    def say(self, word: str) -> None:
        """Say of the chosen entry that it is to do, kept, struck out or done; said again it is taken back."""
        entry, photo = self.entry, self.photo
        if entry is None:
            return
        if entry.word == word and entry.kind != OWN:
            self.session.edit(lambda p: edits.forget_touch(p, entry.touch), "take it back")
            return
        touch = Touch(
            entry.touch, entry.kind, entry.zone, entry.at, word, entry.remedy if entry.kind != OWN else entry.says, entry.tool, entry.pile, entry.minutes,
            entry.dry, photo.id if photo is not None else "", now().date().isoformat(),
        )  # fmt: skip
        self.session.edit(lambda p: edits.say_touch(p, touch), word)

    def add_own(self, text: str) -> None:
        """Add a touch-up by hand, at the chosen part, else at the focal point."""
        project, photo = self.session.project, self.photo
        if project is None:
            return
        zone = self.session.chosen["zone"]
        readings = self.session.readings
        at = readings.tags.get(zone) if readings is not None and zone else None
        touch = Touch(
            "",
            OWN,
            zone,
            at or project.focal_point,
            "todo",
            text,
            photo=photo.id if photo else "",
            day=now().date().isoformat(),
        )
        if self.session.edit(lambda p: edits.say_touch(p, touch), "a touch-up"):
            self.own.setText("")
            self.own.show_words("")

    def _write_down(self, *_: object) -> None:
        self.open_page("list")
        self.own.setFocus()

    def _sheet(self, key: str) -> None:
        if key == "easel":
            self._to_do()
            self.go_to.emit("easel")
            return
        folder = QFileDialog.getExistingDirectory(None, "Where squared.png, touch-ups.pdf and progress.json go")
        if folder:
            self.write_to(Path(folder))

    def write_to(self, folder: Path) -> None:
        """Write squared.png, touch-ups.pdf and progress.json into a folder."""
        project, photo = self.session.project, self.photo
        if project is not None and photo is not None:
            self.session.write(WriteProgress(self.session.results, project, photo, folder))

    def _to_do(self) -> None:
        """Take what is to be mended into the days and to the easel: of one round the first three."""
        read, photo = self.read, self.photo
        if read is None or photo is None:
            return
        mend = [one for one in (read.open if read.stop == "rework" else read.open[:3]) if one.word == ""]
        day = now().date().isoformat()

        def said(project: Project) -> Project:
            for one in mend:
                touch = Touch(
                    "",
                    one.kind,
                    one.zone,
                    one.at,
                    "todo",
                    one.remedy,
                    one.tool,
                    one.pile,
                    one.minutes,
                    one.dry,
                    photo.id,
                    day,
                )
                project = edits.say_touch(project, touch)
            return project

        if mend:
            self.session.edit(said, "touch-ups to do")

    def _choose(self, key: str) -> None:
        self._entry = key
        entry = self.entry
        if entry is not None:
            if entry.zone:
                self.session.choose(zone=entry.zone)
            project = self.session.project
            if project is not None:
                self.picture.fly_to(entry.at, max(240.0, 4 * min(entry.radius_mm, 40) / project.mm_per_px))
        self.refresh()
        self.picture.update()

    def _fly_to_part(self, zone: str) -> None:
        self.session.choose(zone=zone)
        readings = self.session.readings
        if readings is not None and zone in readings.tags:
            self.picture.fly_to(readings.tags[zone], 360)

    def _lay_over(self, key: str) -> None:
        self._over = key
        self.restated.emit()
        self.refresh()
        self.picture.update()

    # The picture ----------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        read, project = self.read, self.session.project
        if read is None or project is None or self._page == "trend":
            return
        per_mm = view.scale / project.mm_per_px
        paint_glare(p, view, project, self._glare_of(read), hatched=self._page == "photo")
        chosen = self.entry
        if chosen is not None:
            paint_place(p, view, chosen, per_mm)
        for one, at in reversed(discs(self._numbered(), view, per_mm)):
            on = one is chosen
            draw.circle(p, at.x(), at.y(), DISC, "over_dark", "russet" if on else "over_light", 3 if on else 1.6)
            draw.text(p, at.x(), at.y() + 4.6, str(one.number), 13, 700, "over_light", "c")
        self._lasso.paint(p, view)

    def _glare_of(self, read: PhotoRead) -> list[Points]:
        """Return the outlines of glare, as shares of the canvas; found once a photograph."""
        looked = read.looked
        if self._glare is None or self._glare[0] is not looked:
            rows, columns = looked.glare.shape
            self._glare = (looked, [ring / (columns, rows) for ring in outlines_of(looked.glare)])
        return self._glare[1]

    def _numbered(self) -> list[TouchUp]:
        """Return the entries whose numbers stand on the canvas."""
        entries = self.read.entries if self.read is not None else ()
        return [
            one for one in entries
            if one.word not in ("struck", "done") and (not one.below or str(one.number) == self._entry)
        ]  # fmt: skip

    def press(self, at: Point, event: QMouseEvent) -> None:
        if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._lasso.begin(at)
            return
        read, project = self.read, self.session.project
        if read is None or project is None:
            return
        view = self.picture.viewport
        here = view.at(at)
        near = [
            (math.hypot(disc.x() - here.x(), disc.y() - here.y()), one)
            for one, disc in discs(self._numbered(), view, view.scale / project.mm_per_px)
        ]
        best = min(near, key=lambda pair: pair[0], default=None)
        if best is not None and best[0] < DISC + 2:
            self._entry = str(best[1].number)
            if best[1].zone:
                self.session.choose(zone=best[1].zone)
            self.refresh()
            self.picture.update()
            return
        zone = self.zone_at(at)
        if zone is not None:
            self.session.choose(zone=zone.id)

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._lasso.drag(at):
            self.picture.update()

    def release(self, at: Point, event: QMouseEvent) -> None:
        patch = self._lasso.lift()
        if patch is not None:
            self.session.edit(lambda p: edits.leave_alone(p, patch), "leave an area alone")
        self.picture.update()

    def busy(self) -> bool:
        return bool(self._lasso)

    def leave(self) -> None:
        self._lasso.drop()
        self.photo_page.corners.asks = False
        for key in ("photograph", "trend"):
            self.session.runner.cancel(key)
        self._wanted = (None, "")

    def key(self, event: QKeyEvent) -> bool:
        read = self.read
        if read is None:
            return False
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_N: 1}.get(Qt.Key(event.key()))
        words = {Qt.Key.Key_T: "todo", Qt.Key.Key_K: "leave", Qt.Key.Key_Delete: "struck", Qt.Key.Key_D: "done"}
        if step is not None and read.entries:
            keys = [str(one.number) for one in read.entries]
            now_at = keys.index(self._entry) if self._entry in keys else -1
            self._choose(keys[min(max(now_at + step, 0), len(keys) - 1)])
            return True
        if Qt.Key(event.key()) in words and not event.modifiers():
            self.say(words[Qt.Key(event.key())])
            return True
        return False

    def zone_words(self, zone: object, at: Point) -> list[str]:
        """Say canvas and plan at a place: their lightness, and the difference."""
        read, project = self.read, self.session.project
        if read is None or project is None:
            return []
        looked, crop = read.looked, project.crop
        rows, columns = looked.labels.shape
        j, i = int((at[0] - crop.x) / crop.width * columns), int((at[1] - crop.y) / crop.height * rows)
        if not (0 <= i < rows and 0 <= j < columns):
            return []
        if looked.glare[i, j]:
            return ["glare: not judged"]
        canvas, plan = looked.canvas_lab[i, j], looked.plan_lab[i, j]
        d = canvas - plan
        warm = float(0.3 * d[1] + d[2])
        word = "same warmth" if abs(warm) < 2 else f"{abs(warm):.0f} {'warmer' if warm > 0 else 'cooler'}"
        return [f"canvas L* {canvas[0]:.0f}, plan L* {plan[0]:.0f}", word]
