"""Correction: white balance, exposure and lift, as decisions; the picture itself stays as it came."""

from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.reference.correction import COOLEST_K, WARMEST_K, Correction
from foxpath.core.units import mm_words
from foxpath.document import edits
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Button, Measure, Scale
from foxpath.window.bench.rows import Gestures, Judgement, Words
from foxpath.window.picture.rulers import square_name
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.reference.fold import Fold, Point, ring

DAYLIGHT_K = 6500.0
LIGHT = Scale(WARMEST_K, COOLEST_K, lambda v: f"{v:.0f} K", ratio=True)
STOPS = Scale(-3.0, 3.0, lambda v: f"{v:+.1f} stops" if abs(v) >= 0.05 else "as it came", step=0.1)
SHARE = Scale(0.0, 1.0, lambda v: f"{100 * v:.0f} %", step=0.05)
SPOT = Scale(0.5, 20.0, mm_words, ratio=True)


class CorrectionFold(Fold):
    """Bring the picture to true colour before anything is measured on it."""

    code, title, about = "correction", "Correction", "white balance, exposure, lift of the darks"

    def make_body(self) -> QWidget:
        self.state = Judgement()
        self.size = self._measure("grey spot", SPOT, "radius_px")
        self.light = self._measure("light", LIGHT, "light_k")
        self.exposure = self._measure("exposure", STOPS, "exposure")
        self.lift = self._measure("lift darks", SHARE, "lift")
        self.grey_off = Button("Give the grey back")
        self.grey_off.clicked.connect(self._grey_off)
        self.as_came = Button("As it came")
        self.as_came.clicked.connect(self._as_came)
        self._comparing = False
        return column(
            self.state,
            self.size,
            self.grey_off,
            self.light,
            self.exposure,
            self.lift,
            self.as_came,
            Gestures([("frame", "true grey", "click something grey")]),
            Words("Hold R over the picture to see it as it came.", 12),
        )

    def _measure(self, name: str, scale: Scale, field: str) -> Measure:
        made = Measure(name, scale)
        made.setObjectName(field)
        made.changed.connect(self._changed)
        made.reset.connect(self._reset)
        return made

    def note(self) -> str:
        correction = self.project.correction
        if correction.nothing:
            return "as it came"
        parts = ["by a grey" if correction.grey else f"{correction.light_k:.0f} K" if correction.light_k else ""]
        parts += [f"{correction.exposure:+.1f} stops" if correction.exposure else ""]
        parts += [f"lift {100 * correction.lift:.0f} %" if correction.lift else ""]
        return " · ".join(part for part in parts if part)

    def refresh(self) -> None:
        correction, inspection = self.project.correction, self.session.inspection
        cast = next((j for j in inspection.health_says if j.key == "cast"), None) if inspection is not None else None
        if correction.grey is not None:
            where = square_name(self.project, *correction.grey)
            self.state.set_words(
                "", f"Balanced by the grey at {where or 'the rim'}.", "light colour rests while a grey is picked"
            )
        elif cast is not None:
            self.state.set_words(cast.level, cast.says, cast.why)
        else:
            self.state.set_words("", "", "")
        mm = self.project.mm_per_px
        self.size.set_value(correction.radius_px * mm, decided=correction.grey is not None)
        self.grey_off.setVisible(correction.grey is not None)
        self.light.setVisible(correction.grey is None)
        self.light.set_value(correction.light_k or DAYLIGHT_K, DAYLIGHT_K, decided=correction.light_k is not None)
        self.exposure.set_value(correction.exposure, 0.0, decided=correction.exposure != 0)
        self.lift.set_value(correction.lift, 0.0, decided=correction.lift != 0)
        self.as_came.setVisible(not correction.nothing)

    def _changed(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's argument)
        field = self.sender().objectName()
        if field == "radius_px":
            value /= self.project.mm_per_px
        self.edit(
            lambda p: edits.set_correction(p, **{field: value}), "correct the picture", f"correct {field}", going=going
        )

    def _reset(self) -> None:
        field = self.sender().objectName()
        usual = getattr(Correction(), field)
        self.edit(lambda p: edits.set_correction(p, **{field: usual}), "correct the picture")

    def _grey_off(self) -> None:
        self.edit(lambda p: edits.set_correction(p, grey=None), "give the grey back")

    def _as_came(self) -> None:
        radius = self.project.correction.radius_px
        self.edit(lambda p: replace(p, correction=Correction(radius_px=radius)), "the picture as it came")

    def press(self, at: Point, event: QMouseEvent) -> None:
        self.edit(lambda p: edits.set_correction(p, grey=at), "balance by a grey")

    def key(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_R and not self._comparing and not event.isAutoRepeat():
            self._comparing = True
            self.session.show_as_it_came(on=True)
            return True
        return event.key() == Qt.Key.Key_R

    def key_up(self, event: QKeyEvent) -> bool:
        if event.key() == Qt.Key.Key_R and self._comparing and not event.isAutoRepeat():
            self.leave()
            return True
        return False

    def leave(self) -> None:
        if self._comparing:
            self._comparing = False
            self.session.show_as_it_came(on=False)

    def paint(self, p: QPainter, view: Viewport) -> None:
        correction = self.project.correction
        if correction.grey is not None:
            ring(p, view, correction.grey, max(7.0, correction.radius_px * view.scale), "true grey", chosen=True)
