"""Transfer: squares, the head's axes and its symmetry, the line drawing, and ways to bring it onto the canvas."""

import math
from dataclasses import replace
from pathlib import Path

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QGuiApplication, QImage, QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.arrays import Points
from foxpath.core.curves import simplify
from foxpath.core.reference.transfer import LEAST_SQUARES, MOST_SQUARES, Axes, usual_square_mm
from foxpath.core.units import MM_PER_UNIT, count_words, mm_words
from foxpath.derive.pictures import cropped_picture, picture_key
from foxpath.derive.reference.transfer import RUBBER_MM, FindLines, WriteDrawing
from foxpath.document import edits
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Button, Choice, Measure, Scale, YesNo
from foxpath.window.bench.rows import Gestures, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.reference.fold import Fold, Point
from foxpath.window.stops.reference.projector import Projector

COUNT = Scale(LEAST_SQUARES, MOST_SQUARES, lambda v: f"{v:.0f} across", step=1)


class TransferFold(Fold):
    """Bring the drawing onto the canvas."""

    code, title, about = "transfer", "Transfer", "squares, midline and eye line, line drawing, printing, throwing it"

    def make_body(self) -> QWidget:
        self.shown: dict[str, bool] = {"squares": True, "lines": False}
        self.tool = "axes"
        self.lines: tuple[Points, ...] | None = None
        self._lines_of: object = None
        self._stroke: list[Point] | None = None
        self._grab = ""
        self.projector: Projector | None = None
        self.square = Measure("square", Scale(10, 500, mm_words, ratio=True))
        self.square.changed.connect(self._square)
        self.square.reset.connect(self._usual)
        self.count = Measure("squares", COUNT)
        self.count.changed.connect(self._count)
        self.squares = YesNo("squares are shown", "squares are away")
        self.squares.toggled.connect(self._show_squares)
        self.diagonals = YesNo("with diagonals", "without diagonals")
        self.diagonals.toggled.connect(self._diagonals)
        self.tilt = Words("", 12.5)
        self.from_eyes = Button("Axes from the eyes again")
        self.from_eyes.clicked.connect(self._from_eyes)
        self.set_axes = Button("Set eye line and midline")
        self.set_axes.clicked.connect(self._begin_axes)
        self.uneven = Rows("left against right")
        self.uneven.chosen.connect(self._show_uneven)
        self.draw_lines = YesNo("line drawing is shown", "line drawing is away")
        self.draw_lines.toggled.connect(self._show_lines)
        self.tools = Choice([("axes", "look"), ("rub", "rub out"), ("add", "add")], "what a stroke does")
        self.tools.chosen.connect(self._tool)
        self.count_words = Words("", 12)
        self.clean = Button("Lines as they were found")
        self.clean.clicked.connect(self._clean)
        self.svg = Button("Save the lines …")
        self.svg.clicked.connect(self.ask_lines)
        self.throw = Button("Throw it on the canvas")
        self.throw.clicked.connect(self.open_projector)
        return column(
            self.squares,
            self.square,
            self.count,
            self.diagonals,
            Section("The head's own frame", "right minus left"),
            self.tilt,
            self.set_axes,
            self.from_eyes,
            self.uneven,
            Section("Line drawing", "no hair"),
            self.draw_lines,
            self.tools,
            self.count_words,
            self.clean,
            self.svg,
            self.throw,
            Gestures([("frame", "axes", "drag a point of them"), ("hair", "rub, add", "a stroke")]),
        )

    def note(self) -> str:
        project = self.project
        side = project.transfer.grid.side(project.canvas)
        return f"squares of {side / MM_PER_UNIT[project.canvas.unit]:.3g} {project.canvas.unit}"

    def refresh(self) -> None:
        project = self.project
        grid, canvas = project.transfer.grid, project.canvas
        side = grid.side(canvas)
        longest = max(canvas.width_mm, canvas.height_mm)
        per, unit = MM_PER_UNIT[canvas.unit], canvas.unit
        self.square.scale = Scale(
            longest / MOST_SQUARES, longest / LEAST_SQUARES, lambda v: f"{v / per:.3g} {unit}", ratio=True
        )
        self.square.set_value(side, usual_square_mm(canvas), decided=grid.square_mm > 0)
        self.count.set_value(round(canvas.width_mm / side, 1), decided=grid.square_mm > 0)
        self.squares.set_value(on=self.shown["squares"])
        self.diagonals.set_value(on=grid.diagonals)
        self._refresh_axes()
        self.draw_lines.set_value(on=self.shown["lines"])
        self.tools.set_value(self.tool)
        transfer = project.transfer
        for part in (self.tools, self.count_words):
            part.setVisible(self.shown["lines"])
        self.clean.setVisible(self.shown["lines"] and bool(transfer.rubbed or transfer.drawn))
        self._ask_for_lines()
        if self.lines is None:
            self.count_words.set_words("Drawing the lines.")
        else:
            cleaned = [count_words(len(transfer.rubbed), "stroke") + " rubbed out"] if transfer.rubbed else []
            cleaned += [count_words(len(transfer.drawn), "line") + " added"] if transfer.drawn else []
            self.count_words.set_words(" · ".join([count_words(len(self.lines), "line"), *cleaned]))

    def _refresh_axes(self) -> None:
        project = self.project
        axes = project.axes_or_eyes()
        self.set_axes.setVisible(axes is None)
        self.from_eyes.setVisible(project.transfer.axes is not None)
        inspection = self.session.inspection
        uneven = inspection.uneven[:5] if inspection is not None else ()
        self.uneven.setVisible(axes is not None and bool(uneven))
        if axes is None:
            self.tilt.set_words("Outline both eyes, or set the eye line by hand.")
            return
        source = "as you set it" if project.transfer.axes is not None else "from the eyes"
        side = "right" if axes.tilt_deg > 0 else "left"
        self.tilt.set_words(
            f"The eye line tilts {abs(axes.tilt_deg):.1f}° down to the {side}, {source}."
            + ("" if uneven else " Name parts 'Near ...' and 'Far ...': then left is compared with right.")
        )
        self.uneven.set_rows(
            [Row(str(k), one.what, "", _signed_mm(one.px * project.mm_per_px)) for k, one in enumerate(uneven)], ""
        )

    # The bench ------------------------------------------------------------------------------------

    def _square(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.edit(lambda p: edits.set_grid(p, square_mm=value), "size of the squares", "square", going=going)

    def _count(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        side = self.project.canvas.width_mm / max(value, 1)
        self.edit(lambda p: edits.set_grid(p, square_mm=side), "number of squares", "square", going=going)

    def _usual(self) -> None:
        self.edit(lambda p: edits.set_grid(p, square_mm=0), "the usual squares")

    def _show_squares(self, on: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.shown["squares"] = on
        self.picture.update()

    def _diagonals(self, on: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.edit(lambda p: edits.set_grid(p, diagonals=on), "diagonals of the squares")

    def _from_eyes(self) -> None:
        self.edit(lambda p: edits.set_axes(p, None), "axes from the eyes")

    def _begin_axes(self) -> None:
        crop = self.project.crop
        x, y, w, h = crop.x, crop.y, crop.width, crop.height
        axes = Axes((x + 0.42 * w, y + 0.4 * h), (x + 0.58 * w, y + 0.4 * h), (x + 0.5 * w, y + 0.55 * h))
        self.edit(lambda p: edits.set_axes(p, axes), "set the axes")

    def _show_uneven(self, key: str) -> None:
        inspection = self.session.inspection
        if inspection is not None and int(key) < len(inspection.uneven):
            self.picture.fly_to(inspection.uneven[int(key)].at, 0.15 * self.project.crop.width)

    def _show_lines(self, on: bool) -> None:  # noqa: FBT001  (a signal's argument)
        self.shown["lines"] = on
        if not on:
            self.tool = "axes"
        self.changed.emit()

    def _tool(self, tool: str) -> None:
        self.tool = tool

    def _clean(self) -> None:
        self.edit(edits.clean_lines, "lines as they were found")

    def _key(self) -> object:
        project = self.project
        return (
            picture_key(self.session.results, project), project.outlines, project.crop, project.canvas,
            project.transfer.rubbed, project.transfer.drawn, tuple((z.coat, z.kind) for z in project.zones),
        )  # fmt: skip

    def _ask_for_lines(self, *, even_hidden: bool = False) -> None:
        """Have the lines found again when what they follow from has changed."""
        key = self._key()
        if (self.shown["lines"] or even_hidden) and key != self._lines_of:
            self._lines_of = key
            self.session.runner.start("lines", FindLines(self.session.results, self.project), self._take_lines)

    def _take_lines(self, lines: tuple[Points, ...]) -> None:
        self.lines = lines
        self._fill_projector()
        self.changed.emit()

    def ask_lines(self) -> None:
        """Ask where to save the drawing, and as what."""
        kinds = "True-size sheets, A4 (*.pdf);;True-size sheets, Letter (*.pdf);;Lines for any use (*.svg)"
        start = f"{self.project.name} lines.pdf"
        name, kind = QFileDialog.getSaveFileName(self.picture, "Save the lines", start, kinds)
        if name:
            path = Path(name)
            if path.suffix.lower() not in (".pdf", ".svg"):
                path = path.with_name(path.name + (".svg" if "svg" in kind else ".pdf"))
            self.save_lines(path, "Letter" if "Letter" in kind else "A4")

    def save_lines(self, path: Path, paper: str = "A4") -> None:
        """Write the drawing as SVG or as true-size sheets, by the file's ending."""
        request = WriteDrawing(self.session.results, self.project, path, paper, squared=self.shown["squares"])
        self.session.write(request)

    def open_projector(self) -> None:
        """Open the second window; on the second screen when there is one."""
        if self.projector is None:
            self.projector = Projector(self.picture.window())
        self._ask_for_lines(even_hidden=True)
        self._fill_projector()
        screens = QGuiApplication.screens()
        other = next((s for s in screens if s is not self.picture.screen()), None)
        if other is not None:
            self.projector.setGeometry(other.geometry())
        self.projector.showFullScreen()
        self.projector.activateWindow()

    def _fill_projector(self) -> None:
        from foxpath.window.picture.view import image_of

        if self.projector is None:
            return
        project = self.project
        crop, mm = project.crop, project.mm_per_px
        lines = tuple((line - (crop.x, crop.y)) * mm for line in self.lines or ())
        image: QImage | None = None
        if self.session.levels:
            image = image_of(
                cropped_picture(self.session.results, project, 1600, max(1, round(1600 / project.canvas.aspect)))
            )
        self.projector.show_drawing(project.canvas, lines, project.transfer.grid, image)

    # Gestures -------------------------------------------------------------------------------------

    def press(self, at: Point, event: QMouseEvent) -> None:
        if self.tool != "axes":
            self._stroke = [at]
            return
        axes = self.project.axes_or_eyes()
        if axes is None:
            return
        near = min(("left", "right", "middle"), key=lambda name: math.dist(getattr(axes, name), at))
        if math.dist(getattr(axes, near), at) < self.reach(16):
            self._grab = near

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._stroke is not None:
            self._stroke.append(at)
            return
        axes = self.project.axes_or_eyes()
        if self._grab and axes is not None:
            to = (round(at[0], 1), round(at[1], 1))
            moved = replace(axes, **{self._grab: to})
            self.edit(lambda p: edits.set_axes(p, moved), "set the axes", "axes", going=True)

    def release(self, at: Point, event: QMouseEvent) -> None:
        stroke, self._stroke, self._grab = self._stroke, None, ""
        self.session.seal()
        if stroke is None:
            return
        points = simplify(np.array(stroke, np.float64), self.reach(0.7)) if len(stroke) > 1 else np.array(stroke)
        if self.tool == "rub":
            reach = RUBBER_MM / self.project.mm_per_px
            self.edit(lambda p: edits.rub(p, points, reach), "rub lines out")
        else:
            self.edit(lambda p: edits.draw_line(p, points), "add a line")

    def key(self, event: QKeyEvent) -> bool:
        if not self.shown["lines"]:
            return False
        tool = {Qt.Key.Key_E: "rub", Qt.Key.Key_D: "add", Qt.Key.Key_S: "axes"}.get(Qt.Key(event.key()))
        if tool is None or event.modifiers():
            return False
        self.tool = tool
        self.changed.emit()
        return True

    def busy(self) -> bool:
        return self._stroke is not None

    def leave(self) -> None:
        self._stroke, self._grab = None, ""

    # Painting -------------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.project
        crop, mm = project.crop, project.mm_per_px
        if self.shown["squares"]:
            for line, diagonal in project.transfer.grid.lines(project.canvas):
                a, b = view.to_screen(line / mm + (crop.x, crop.y))
                p.setPen(colour("over_dark", 0.25 if diagonal else 0.5))
                p.drawLine(QPointF(a[0] + 1, a[1] + 1), QPointF(b[0] + 1, b[1] + 1))
                p.setPen(colour("over_light", 0.4 if diagonal else 0.85))
                p.drawLine(QPointF(*a), QPointF(*b))
        if self.shown["lines"]:
            for points in self.lines or ():
                draw.cased_path(p, draw.polygon(view.to_screen(points)), 1.2)
        if self._stroke is not None and len(self._stroke) > 1:
            wide = 2 * RUBBER_MM / mm * view.scale if self.tool == "rub" else 1.6
            draw.cased_path(p, draw.polygon(view.to_screen(np.array(self._stroke))), wide, "russet")
        if self.tool == "axes":
            self._paint_axes(p, view)

    def _paint_axes(self, p: QPainter, view: Viewport) -> None:
        axes = self.project.axes_or_eyes()
        if axes is None:
            return
        size = math.dist(axes.left, axes.right)
        ends = [axes.place(-1.3 * size, 0), axes.place(1.3 * size, 0)]
        midline = [axes.place(0, -1.3 * size), axes.place(0, 2.2 * size)]
        for pair in (ends, midline):
            draw.cased_path(p, draw.polygon(view.to_screen(np.array(pair))), 1.4, "over_light", (7, 4))
        for name in ("left", "right", "middle"):
            place = view.at(getattr(axes, name))
            draw.circle(p, place.x(), place.y(), 8, "", "over_dark", 3.6)
            draw.circle(p, place.x(), place.y(), 8, "", "russet" if name == self._grab else "over_light", 1.8)
        at = view.at(axes.place(1.3 * size, 0))
        draw.over_words(p, at.x() + 14, at.y() + 5, f"tilt {abs(axes.tilt_deg):.1f}°", within=view.room)

    def words_at(self, at: Point) -> str:
        axes = self.project.axes_or_eyes()
        if axes is None:
            return ""
        across, along = axes.across_along(np.array([at]))[0]
        side = "right of" if across > 0 else "left of"
        under = "below" if along > 0 else "above"
        return f"{self.mm(abs(across))} {side} the midline, {self.mm(abs(along))} {under} the eye line"


def _signed_mm(value: float) -> str:
    return f"{'+' if value > 0 else '−'}{mm_words(abs(value))}" if abs(value) >= 0.5 else "even"
