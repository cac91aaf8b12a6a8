"""The picture's health: a row for each measure, its map over the picture, and what to do about it."""

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPainterPath
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import F32
from foxpath.core.curves import simplify
from foxpath.core.findings import Finding
from foxpath.core.frame import Crop
from foxpath.core.reference.judge import CAST, HALO, NOISE, SHARP_PX, blur_limit_px, blur_words
from foxpath.derive.reference.health_maps import MAPS, map_of, map_picture
from foxpath.derive.reference.inspection import Inspection
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Link
from foxpath.window.bench.rows import Judgement, Row, Rows, Words
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.reference.fold import JudgementFold, Point

LEAST_TILES = 2.5
"""A fault smaller than this many tiles is not drawn: one tile alone is chance."""
FINE = 8
"""Steps of a tile in which the border of a fault is drawn."""


def fault_of(inspection: Inspection, key: str) -> F32:
    """Return how far each tile is at fault for a measure: above 1 is too much; unknown is 0."""
    health, mm = inspection.health, inspection.project.mm_per_px
    values = _calm(map_of(health, key))
    if key == "blur":
        limit = blur_limit_px(mm, inspection.project.finest_mm)
        # Soft surroundings are what a painter wants; only the animal must be sharp.
        values = np.where(inspection.away & ~inspection.away.all(), 0, values)
    elif key == "focus":
        # At fault is what is nearly as sharp as the animal, and not it.
        near = max(health.near_px if math.isfinite(health.near_px) else SHARP_PX, SHARP_PX)
        ratio = np.where(values > 0, 1.3 * near / np.maximum(values, SHARP_PX), 0)
        return np.asarray(np.where(inspection.away, ratio, 0), np.float32)
    else:
        # A warm white coat leans too: only tiles that lean twice as far as the whole may are shown.
        limit = {"halo": HALO, "noise": NOISE, "clipped": 0.08, "blocked": 0.08, "cast": 2 * CAST}[key]
    return np.asarray(values / limit, np.float32)


def _calm(values: F32) -> F32:
    """Return a map with each tile averaged with those around it, as far as they are known; unknown is 0."""
    import cv2

    known = np.isfinite(values).astype(np.float32)
    total = cv2.GaussianBlur(np.nan_to_num(values, nan=0.0), (0, 0), 0.9)
    weight = cv2.GaussianBlur(known, (0, 0), 0.9)
    return np.asarray(np.where(weight > 0.25, total / np.maximum(weight, 1e-6), 0), np.float32)


class HealthFold(JudgementFold):
    """Judge the photograph before it misleads."""

    code, title, about = "health", "Health", "sharpness, halos, grain, lost lights and darks, cast, focus"
    cursor = Qt.CursorShape.ArrowCursor

    def make_body(self) -> QWidget:
        self._drawn: tuple[object, QPainterPath, QImage | None] | None = None
        self._drawn_of: object = None
        self.rows = Rows("measures of health")
        self.rows.chosen.connect(self.choose)
        self.mark = Judgement()
        self.show_me = Link("show me", spot=True)
        self.show_me.clicked.connect(self.fly)
        self.waiting = Words("Measuring the picture.", 12.5)
        return column(self.waiting, self.rows, self.mark, self.show_me)

    def note(self) -> str:
        inspection = self.session.inspection
        if inspection is None:
            return "measuring"
        bad = [one.name.lower() for one in inspection.health_says if one.level in ("must", "look")]
        return ", ".join(bad) if bad else "sound"

    def refresh(self) -> None:
        inspection = self.session.inspection
        self.waiting.setVisible(inspection is None)
        self.rows.setVisible(inspection is not None)
        self.mark.setVisible(inspection is not None)
        if inspection is None:
            self.show_me.setVisible(False)
            return
        self.rows.set_rows(
            [
                Row(one.key, one.name, "look" if one.level == "look" else "", one.number)
                for one in inspection.health_says
            ],
            self.chosen,
        )
        one = self.judgement()
        if one is None:
            self.mark.set_words("", "Choose a row: its map lies over the picture.", "")
        else:
            self.mark.set_words(one.level, one.says, one.why)
        self.show_me.setVisible(one is not None and one.at is not None)

    def says(self) -> tuple[Finding, ...]:
        return self.session.inspection.health_says if self.session.inspection is not None else ()

    def words_at(self, at: Point) -> str:
        inspection = self.session.inspection
        if inspection is None or not self.chosen:
            return ""
        values = map_of(inspection.health, self.chosen)
        reference = self.project.reference
        j, i = int(at[0] / reference.width * values.shape[1]), int(at[1] / reference.height * values.shape[0])
        if not (0 <= i < values.shape[0] and 0 <= j < values.shape[1]):
            return ""
        value = float(values[i, j])
        if self.chosen in ("blur", "focus"):
            return f"blur {blur_words(value, self.project.mm_per_px)}"
        if not math.isfinite(value):
            return "nothing to measure here"
        name = {"halo": "overshoot", "noise": "grain", "clipped": "lost", "blocked": "lost", "cast": "cast"}[
            self.chosen
        ]
        number = {"noise": f"{value:.1f} levels", "cast": f"{value:.1f} Lab"}.get(self.chosen, f"{100 * value:.0f} %")
        return f"{name} {number}"

    # The map --------------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        inspection = self.session.inspection
        if inspection is None or not self.chosen:
            return
        path, image = self._made(inspection)
        if path.isEmpty():
            return
        shown = view.transform().map(path)
        p.save()
        p.setClipPath(shown, Qt.ClipOperation.IntersectClip)
        self._fill(p, view, shown.boundingRect().intersected(view.room), image)
        p.restore()
        draw.cased_path(p, shown, 1.4)
        one = self.judgement()
        if one is not None and one.at is not None:
            at = view.at(one.at)
            draw.over_words(p, at.x(), at.y(), f"{one.name.lower()} {one.number}", "c", within=view.room)

    def _made(self, inspection: Inspection) -> tuple[QPainterPath, QImage | None]:
        """Return the border of what is at fault, in reference pixels, and its map in greys."""
        from foxpath.window.picture.view import image_of

        key = (self.chosen, inspection.project.mm_per_px)
        if self._drawn is None or self._drawn_of is not inspection.health or self._drawn[0] != key:
            self._drawn_of = inspection.health
            reference = inspection.project.reference
            path = _border(fault_of(inspection, self.chosen), Crop(0, 0, reference.width, reference.height))
            image = None
            if self.chosen in ("halo", "noise", "cast", "focus"):
                values = map_of(inspection.health, self.chosen)
                white = MAPS.get(self.chosen, MAPS["blur"])[2]
                image = image_of(map_picture(values, white, (values.shape[1] * 4, values.shape[0] * 4)))
            self._drawn = (key, path, image)
        return self._drawn[1], self._drawn[2]

    def _fill(self, p: QPainter, view: Viewport, box: QRectF, image: QImage | None) -> None:
        """Fill a fault with its sign: level lines, rings, rails drifting apart, or the map in greys."""
        if image is not None:
            reference = self.project.reference
            p.save()
            p.setOpacity(0.7)
            p.setTransform(view.transform(), True)
            p.drawImage(QRectF(0, 0, reference.width, reference.height), image)
            p.restore()
            return
        p.setBrush(Qt.BrushStyle.NoBrush)
        if self.chosen == "blocked":
            y = math.floor(box.top() / 6) * 6
            while y < box.bottom():
                _cased(p, QPointF(box.left(), y), QPointF(box.right(), y))
                y += 6
        elif self.chosen == "clipped":
            for i in range(int(box.top() / 9), int(box.bottom() / 9) + 1):
                for j in range(int(box.left() / 9), int(box.right() / 9) + 1):
                    draw.circle(p, j * 9 + (4.5 if i % 2 else 0), i * 9, 2.5, "", "over_dark", 1.2)
        else:
            y = math.floor(box.top() / 14) * 14
            while y < box.bottom():
                x = math.floor(box.left() / 44) * 44
                while x < box.right():
                    _cased(p, QPointF(x, y + 5), QPointF(x + 34, y + 1))
                    _cased(p, QPointF(x, y + 6.5), QPointF(x + 34, y + 10.5))
                    x += 44
                y += 14


def _cased(p: QPainter, a: QPointF, b: QPointF) -> None:
    p.setPen(colour("over_dark", 0.7))
    p.drawLine(a + QPointF(0, 1), b + QPointF(0, 1))
    p.setPen(colour("over_light", 0.9))
    p.drawLine(a, b)


def _border(fault: F32, whole: Crop) -> QPainterPath:
    """Return the outlines of what lies above 1, in pixels of the reference."""
    import cv2

    size = (fault.shape[1] * FINE, fault.shape[0] * FINE)
    fine = np.asarray(cv2.resize(fault, size, interpolation=cv2.INTER_LINEAR))
    mask = np.pad((fine > 1).astype(np.uint8), 1)
    lines, _ = cv2.findContours(mask, cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    path = QPainterPath()
    path.setFillRule(Qt.FillRule.OddEvenFill)
    scale = np.array([whole.width / size[0], whole.height / size[1]])
    for line in lines:
        points = line[:, 0, :].astype(np.float64) - 0.5
        if cv2.contourArea(line) < LEAST_TILES * FINE**2:
            continue
        path.addPolygon(draw.polygon((simplify(points, 1.2) * scale).tolist()))
        path.closeSubpath()
    return path
