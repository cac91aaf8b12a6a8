"""Composition: what sets the animal off, what pulls the eye away, what touches, which colour is alone."""

from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.findings import Finding
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Link
from foxpath.window.bench.rows import Gestures, Judgement, Row, Rows, Words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.reference.fold import JudgementFold, Point, disc, paint_focal, ring


class CompositionFold(JudgementFold):
    """Read the composition before it is painted."""

    code, title, about = "composition", "Composition", "what carries the animal, what pulls the eye away"

    def make_body(self) -> QWidget:
        self.three = Rows("subject against surroundings")
        self.rows = Rows("what to look at")
        self.rows.chosen.connect(self.choose)
        self.mark = Judgement()
        self.show_me = Link("show me", spot=True)
        self.show_me.clicked.connect(self.fly)
        self.waiting = Words("", 12.5)
        return column(
            self.waiting,
            self.three,
            self.rows,
            self.mark,
            self.show_me,
            Gestures([("outline", "focal point", "two clicks")]),
        )

    def says(self) -> tuple[Finding, ...]:
        return self.session.inspection.composition_says if self.session.inspection is not None else ()

    def note(self) -> str:
        inspection = self.session.inspection
        if inspection is None:
            return "reading"
        if inspection.separation is None:
            return "outline the animal first"
        carried = inspection.separation.carried_by
        pulls = sum(one.key.startswith("pull") for one in inspection.composition_says)
        return f"{carried or 'nothing'} carries it · {pulls} pulls"

    def refresh(self) -> None:
        inspection = self.session.inspection
        part = inspection.separation if inspection is not None else None
        self.waiting.setVisible(inspection is None or part is None)
        self.waiting.set_words(
            "Reading the picture."
            if inspection is None
            else "Outline the animal at Zones: then it is told apart from its surroundings."
        )
        self.three.setVisible(part is not None)
        if part is not None:
            carried = part.carried_by
            self.three.set_rows(
                [
                    Row("value", "Value", _carries("value", carried), _signed(part.value, "L*", "lighter", "darker")),
                    Row(
                        "chroma", "Chroma", _carries("chroma", carried), _signed(part.chroma, "", "stronger", "greyer")
                    ),
                    Row(
                        "sharpness",
                        "Sharpness",
                        _carries("sharpness", carried),
                        f"{2.718281828 ** abs(part.sharpness):.1f} × {'sharper' if part.sharpness > 0 else 'softer'}",
                    ),
                ],
                carried,
            )
        listed = [one for one in self.says() if one.key != "separation"]
        self.rows.set_rows([Row(one.key, self._name(one), "", one.number) for one in listed], self.chosen)
        self.rows.setVisible(bool(listed))
        one = self.judgement()
        if one is None:
            self.mark.set_words(
                "", "Choose a row to see where it lies." if listed else "Nothing pulls the eye away.", ""
            )
        else:
            self.mark.set_words(one.level, one.says, one.why)
        self.show_me.setVisible(one is not None and one.at is not None)

    def _name(self, one: Finding) -> str:
        return f"{self._sign(one)}  {one.says.split(' pulls')[0].rstrip('.')}"

    def _sign(self, one: Finding) -> str:
        """Return the number or letter that stands for a judgement on the picture."""
        if one.key.startswith("pull"):
            return str(int(one.key.removeprefix("pull")) + 1)
        others = [j.key for j in self.says() if j.key != "separation" and not j.key.startswith("pull")]
        return chr(ord("a") + others.index(one.key) % 26)

    def words_at(self, at: Point) -> str:
        near = [
            one
            for one in self.says()
            if one.at is not None and (one.at[0] - at[0]) ** 2 + (one.at[1] - at[1]) ** 2 < self.reach(16) ** 2
        ]
        return f"{self._sign(near[0])}: {near[0].says}" if near else ""

    def paint(self, p: QPainter, view: Viewport) -> None:
        paint_focal(p, view, self.project)
        focal = view.at(self.project.focal_point)
        for one in self.says():
            if one.at is None:
                continue
            chosen = one.key == self.chosen
            if one.key.startswith("pull"):
                at = view.at(one.at)
                line = draw.along(
                    at.x(), at.y(), at.x() + 0.18 * (focal.x() - at.x()), at.y() + 0.18 * (focal.y() - at.y())
                )
                draw.stroke(p, line, 5, 0.8, "over_light", "over_dark")
                disc(p, view, one.at, self._sign(one), chosen=chosen)
            else:
                ring(p, view, one.at, 11, self._sign(one), chosen=chosen)


def _carries(what: str, carried: str) -> str:
    return "carries it" if what == carried else ""


def _signed(value: float, unit: str, more: str, less: str) -> str:
    return f"{abs(value):.0f}{' ' + unit if unit else ''} {more if value > 0 else less}"
