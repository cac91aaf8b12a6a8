"""The value study on the bench of Passes: a ladder of steps with the area in each, masses, gauges, where the light turns."""

import numpy as np
from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QColor, QImage, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from foxpath.core.colour import grey_of_lightness
from foxpath.core.passes.values import LEAST_STEPS, MOST_STEPS, Masses, ladder
from foxpath.core.reference.light import hour_words
from foxpath.core.units import percent
from foxpath.derive.passes.values import ReadValues, ValueStudy
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Choice, Measure, Scale
from foxpath.window.bench.rows import Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.view import image_of
from foxpath.window.picture.viewport import Viewport, place
from foxpath.window.work.session import Session

TALL = 150
MASS_L = (18.0, 50.0, 84.0)
"""What dark, middle and light masses are shown as, L*."""


class LadderView(QWidget):
    """A value ladder, dark at the foot: beside each rung how much of the area has its value; wedges part the masses."""

    def __init__(self) -> None:
        super().__init__()
        self.setFixedHeight(TALL + 8)
        self.setAccessibleName("value ladder")
        self.masses: Masses | None = None
        self.steps = 7

    def show_masses(self, masses: Masses | None, steps: int) -> None:
        """Show a part's values in so many steps."""
        self.masses, self.steps = masses, steps
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        with QPainter(self) as p:
            p.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.masses is None:
                return
            rungs = ladder(self.masses.histogram, self.steps)
            top = max(share for _, _, share in rungs) or 1.0
            box = QRectF(34, 4, 30, TALL)
            draw.rounded(p, box, 2, "well")
            room = self.width() - box.right() - 56
            for low, high, share in rungs:
                y1, y0 = box.bottom() - box.height() * low / 100, box.bottom() - box.height() * high / 100
                v = grey_of_lightness((low + high) / 2)
                p.setPen(Qt.PenStyle.NoPen)
                p.setBrush(QColor(v, v, v))
                p.drawRect(QRectF(box.left() + 3, y0 + 1, box.width() - 6, y1 - y0 - 2))
                draw.text(p, 28, (y0 + y1) / 2 + 4, f"{(low + high) / 2:.0f}", 12, 400, "quiet", "r")
                if share > 0.004:
                    x = box.right() + 8
                    long = max(2.0, room * share / top)
                    draw.stroke(
                        p, draw.along(x, (y0 + y1) / 2, x + long, (y0 + y1) / 2, 6), 6, 2.4, "text", soft_root=False
                    )
                    draw.text(p, self.width() - 6, (y0 + y1) / 2 + 4, percent(share), 12, 400, "quiet", "r")
            p.setPen(Qt.PenStyle.NoPen)
            p.setBrush(colour("russet"))
            for value in (self.masses.low, self.masses.high):
                y = box.bottom() - box.height() * value / 100
                p.drawPolygon(draw.polygon([(box.right() - 1, y), (box.right() + 7, y - 4), (box.right() + 7, y + 4)]))


class Study(QWidget):
    """Everything of the value study: of the chosen part, else of the whole."""

    changed = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.study: ValueStudy | None = None
        self._of: Project | None = None
        self._image: QImage | None = None
        self.head = Section("Value study", "")
        self.steps = Measure("Steps", Scale(LEAST_STEPS, MOST_STEPS, lambda v: f"{v:.0f}", step=1))
        self.steps.set_value(7, 7)
        self.steps.changed.connect(self._set_steps)
        self.ladder = LadderView()
        self.masses = Rows("masses")
        self.way = Choice(
            [("off", "off"), ("masses", "masses"), ("turn", "the turn")], "what is drawn over the picture"
        )
        self.way.chosen.connect(self._shown)
        self.words = Words("", 12.5)
        stack(self, self.head, self.way, self.steps, self.ladder, self.masses, self.words)

    def _set_steps(self, value: float, _going: bool) -> None:  # noqa: FBT001  (a slot)
        self.steps.set_value(round(value), 7, decided=round(value) != 7)
        self.refresh()

    def _shown(self, _: str) -> None:
        self.changed.emit()

    def _take(self, value: tuple[Project, ValueStudy]) -> None:
        self._of, self.study = value
        self._image = None
        self.refresh()
        self.changed.emit()

    def refresh(self) -> None:
        """Show the study of the present project; it is read again when somebody looks."""
        project = self.session.project
        if project is None:
            return
        if (
            self._of is not project
            and self.session.chosen.stop == "passes"
            and not self.session.runner.running("values")
        ):
            self.session.runner.start("values", ReadValues(self.session.results, project), self._take)
        study = self.study
        zone = project.zone(self.session.chosen["zone"])
        masses = study.zones.get(zone.id) if study is not None and zone is not None else None
        name = zone.name if zone is not None and masses is not None else "the whole"
        if masses is None and study is not None:
            masses = study.whole
        self.head.set_words("Value study", name)
        self.ladder.show_masses(masses, round(self.steps.value))
        if masses is None or study is None:
            self.masses.set_rows([], "")
            self.words.set_words("Reading the values.")
            return
        dark, middle, light = masses.shares
        rows = [
            Row("light", "Light mass", f"over L* {masses.high:.0f}", percent(light)),
            Row("middle", "Middle", "", percent(middle)),
            Row("dark", "Dark mass", f"under L* {masses.low:.0f}", percent(dark)),
            Row("fold", "Crevices and ridges", "", f"{percent(masses.crevices)}, {percent(masses.ridges)}"),
        ]
        if study.dark is not None and study.light is not None:
            rows.append(
                Row("gauges", "Gauges", "darkest, lightest", f"L* {study.dark.light:.0f}, {study.light.light:.0f}")
            )
        self.masses.set_rows(rows, "")
        turn = len(study.turning)
        lit = (
            f"lit from {hour_words(study.light_hour)}"
            if study.light_hour is not None
            else "no light is known yet: say it at Reference"
        )
        self.words.set_words(
            f"Masses lean with the light, {lit}. "
            + (
                f"It turns into shadow along {turn} lines: darken and warm there slightly, before the dark."
                if turn
                else ""
            )
        )

    def paint(self, p: QPainter, view: Viewport, project: Project) -> None:
        """Draw masses as three greys, or gauges and the lines where the light turns."""
        study = self.study
        if study is None or self.way.value == "off":
            return
        if self.way.value == "masses":
            self._paint_masses(p, view, project, study)
            return
        for line in study.turning:
            points = view.to_screen(line[:: max(1, len(line) // 60)])
            draw.stroke(p, points, 3.2, 1.4, "russet", "over_light", soft_root=False)
        for gauge, words in ((study.dark, "darkest"), (study.light, "lightest")):
            if gauge is not None:
                at = view.at((gauge.x, gauge.y))
                draw.circle(p, at.x(), at.y(), 9, "", "over_dark", 3.2)
                draw.circle(p, at.x(), at.y(), 9, "", "over_light", 1.6)
                draw.over_words(p, at.x() + 14, at.y() + 5, f"{words} · L* {gauge.light:.0f}", "l", 12.5, view.room)

    def _paint_masses(self, p: QPainter, view: Viewport, project: Project, study: ValueStudy) -> None:
        if self._image is None:
            greys = np.array([*(grey_of_lightness(v) for v in MASS_L), 0], np.uint8)
            rgba = np.empty((*study.classes.shape, 4), np.uint8)
            rgba[..., :3] = greys[study.classes][..., None]
            rgba[..., 3] = np.where(study.classes < 3, 255, 0)
            self._image = image_of(rgba)
        place(p, view, self._image, project.crop)
