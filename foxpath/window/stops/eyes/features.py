"""Nose, mouth, beak, ears, whiskers and paws, drawn part by part; and every paired part beside its mirrored twin."""

import math

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.curves import closed_curve, line_length, open_curve
from foxpath.core.features import FEATURES, Feature, FeatureStep, Part
from foxpath.core.findings import Finding
from foxpath.core.units import count_words, mm_words
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import column
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Field, Measure, Scale
from foxpath.window.bench.rows import Gestures, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.eyes import overlay
from foxpath.window.stops.eyes.page import Page
from foxpath.window.stops.on_picture import Point

TOES = Scale(0, 6, lambda v: f"{v:.0f}" if v else "unsaid", step=1)


class FeaturesPage(Page):
    """Draw features; compare the two sides of the head."""

    code, title = "features", "nose, ears, whiskers"

    def make_body(self) -> QWidget:
        self._line: list[Point] = []
        self._held: tuple[int, int] | None = None
        self._to: Point | None = None
        self._part = ""
        self._stroke = -1
        self._twin = ""
        self.add_head = Section("Add", "choose, then draw its parts")
        self.add = Buttons([(key, kind.name) for key, kind in FEATURES.items()], 3)
        self.add.clicked.connect(self._add)
        self.list_head = Section("Features", "")
        self.list = Rows("features")
        self.list.chosen.connect(self._choose)
        self.name = Field("name of the feature")
        self.name.taken.connect(self._rename)
        self.parts_head = Section("Its parts", "in painting order")
        self.parts = Rows("parts of the feature")
        self.parts.chosen.connect(self._choose_part)
        self.how = Words("", 12.5, "text")
        self.brush = Words("", 12)
        self.toes = Measure("Toes", TOES)
        self.toes.changed.connect(self._set_toes)
        self.acts = Buttons([("last", "Take the last back"), ("remove", "Remove it")], 2)
        self.acts.clicked.connect(self._act)
        self.twins_head = Section("Two sides", "mirrored in the head's frame")
        self.twins = Rows("paired parts")
        self.twins.chosen.connect(self._choose_twin)
        self.twin_words = Words("", 12.5)
        self.of_feature = (self.name, self.parts_head, self.parts, self.how, self.brush, self.toes, self.acts)
        return column(
            self.add_head, self.add, self.list_head, self.list, *self.of_feature, self.twins_head, self.twins, self.twin_words,
            Section("Say it with a stroke", "on the picture"),
            Gestures(
                [
                    ("hair", "a line, a whisker", "drag root to tip"),
                    ("outline", "an outline", "drag round it"),
                    ("outline", "a point", "drag it"),
                ]
            ),
            margins=(0, 0, 0, 0),
        )  # fmt: skip

    # What is there --------------------------------------------------------------------------------

    def _feature(self) -> Feature | None:
        return self.project.feature(self.session.chosen["feature"])

    def _current_part(self) -> Part | None:
        feature = self._feature()
        return FEATURES[feature.kind].part(self._part) if feature is not None else None

    def _steps(self) -> dict[str, FeatureStep]:
        for feature, steps, _ in self.reading.features:
            if feature.id == self.session.chosen["feature"]:
                return {step.part: step for step in steps}
        return {}

    def refresh(self) -> None:
        project, chosen = self.project, self.session.chosen
        if project.features and project.feature(chosen["feature"]) is None:
            chosen["feature"] = project.features[0].id
        feature = project.feature(chosen["feature"])
        for part in (self.list_head, self.list):
            part.setVisible(bool(project.features))
        self.list_head.set_words("Features", count_words(len(project.features), "feature"))
        self.list.set_rows(
            [Row(f.id, f.name, FEATURES[f.kind].name, count_words(len(f.strokes), "stroke")) for f in project.features],
            chosen["feature"],
        )
        for widget in self.of_feature:
            widget.setVisible(feature is not None)
        if feature is not None:
            self._refresh_feature(feature)
        self._refresh_twins()

    def _refresh_feature(self, feature: Feature) -> None:
        kind = FEATURES[feature.kind]
        if kind.part(self._part) is None:
            self._part = kind.parts[0].key
        self.name.show_words(feature.name)
        steps = self._steps()
        self.parts.set_rows(
            [
                Row(
                    part.key,
                    part.name,
                    "" if not feature.of(part.key) else count_words(len(feature.of(part.key)), "stroke"),
                    f"L* {steps[part.key].light:.0f}" if part.key in steps else "not drawn",
                    off=not feature.of(part.key),
                )
                for part in kind.parts
            ],
            self._part,
        )
        part, step = kind.part(self._part), steps.get(self._part)
        self.how.set_words(part.how if part is not None else "")
        self.brush.setVisible(step is not None)
        if step is not None:
            brush = step.brush.words() if step.brush is not None else "no brush of your kit"
            role = {"undercoat": "undercoat", "restated": "restated darks", "lights": "top coat"}.get(
                step.role, step.role
            )
            self.brush.set_words(f"{brush}, marks {mm_words(step.width_mm)} · over {step.wetness} · in the {role}.")
        self.toes.setVisible(feature.kind == "paw")
        self.toes.set_value(float(feature.toes), decided=feature.toes > 0)
        self.acts.show_only({"remove", *(("last",) if feature.strokes else ())})

    def _refresh_twins(self) -> None:
        ghosts = self.reading.twins
        keys = {" ".join(g.keys) for g in ghosts}
        if self._twin not in keys:
            self._twin = ""
        for part in (self.twins_head, self.twins):
            part.setVisible(bool(ghosts))
        self.twins.set_rows([Row(" ".join(g.keys), g.name, "", mm_words(g.mm) + " off") for g in ghosts], self._twin)
        current = next((g for g in ghosts if " ".join(g.keys) == self._twin), None)
        frame = self.reading.frame
        self.twin_words.setVisible(bool(ghosts))
        if current is not None and frame is not None:
            ratio = max(frame.ratio, 1 / frame.ratio)
            self.twin_words.set_words(
                f"It stands {current.words()} of where its twin says, at the head's own turn of {ratio:.2f} to 1. What is not so "
                "on the animal is a slip of the drawing."
            )
        else:
            self.twin_words.set_words("Choose one: its twin is laid over it, dashed.")

    def next_step(self) -> tuple[str, str, str]:
        feature = self._feature()
        if feature is None:
            return "Add the nose or the beak", "Then mouth, ears and whiskers.", ""
        part = next((p for p in FEATURES[feature.kind].parts if not feature.of(p.key)), None)
        if part is not None:
            return f"Draw the {part.name}", "One stroke round it." if part.closed else "From root to tip.", ""
        return "Plan the passes", "Each part goes with its own.", "Go on"

    def show_finding(self, finding: Finding) -> None:
        feature = self.project.feature(finding.subject)
        if feature is not None and (middle := feature.middle()) is not None:
            self.session.choose(feature=feature.id)
            self.picture.fly_to(middle, 260)

    # Deciding -------------------------------------------------------------------------------------

    def _add(self, kind: str) -> None:
        made = ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.add_feature(before, kind)
            return after

        if self.edit(change, f"add a {FEATURES[kind].name}"):
            self._part = FEATURES[kind].parts[0].key
            self.session.choose(feature=made)

    def _choose(self, key: str) -> None:
        self._part = ""
        self.session.choose(feature=key)
        feature = self.project.feature(key)
        middle = feature.middle() if feature is not None else None
        if middle is not None:
            self.picture.fly_to(middle, 300)

    def _choose_part(self, key: str) -> None:
        self._part = key
        self.changed.emit()

    def _choose_twin(self, key: str) -> None:
        self._twin = "" if key == self._twin else key
        ghost = next((g for g in self.reading.twins if " ".join(g.keys) == self._twin), None)
        if ghost is not None:
            x, y = ghost.own.mean(axis=0)
            self.picture.fly_to((float(x), float(y)), float(np.ptp(ghost.own, axis=0).max()) * 1.6)
        self.changed.emit()

    def _rename(self, name: str) -> None:
        key = self.session.chosen["feature"]
        self.edit(lambda p: edits.rename_feature(p, key, name), "rename a feature")

    def _set_toes(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        key = self.session.chosen["feature"]
        self.edit(lambda p: edits.set_toes(p, key, round(value)), "toes of a paw", f"toes {key}", going=going)

    def _act(self, act: str) -> None:
        key, feature = self.session.chosen["feature"], self._feature()
        if feature is None:
            return
        if act == "remove":
            self.edit(lambda p: edits.remove_feature(p, key), "remove a feature")
        else:
            last = len(feature.strokes) - 1
            self.edit(lambda p: edits.remove_stroke(p, key, last), "take a stroke back")

    # Gestures -------------------------------------------------------------------------------------

    def leave(self) -> None:
        self._line, self._held, self._to = [], None, None

    def busy(self) -> bool:
        return bool(self._line) or self._held is not None

    def _point_at(self, at: Point) -> tuple[int, int] | None:
        feature = self._feature()
        if feature is None:
            return None
        found = [
            (math.dist(at, point), k, n)
            for k, stroke in enumerate(feature.strokes)
            for n, point in enumerate(stroke.points)
            if overlay.near(self.picture.viewport, point, at, 7)
        ]
        return min(found)[1:] if found else None

    def press(self, at: Point, event: QMouseEvent) -> None:
        self._held = self._point_at(at)
        self._line = [] if self._held is not None else [at]

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._held is not None:
            self._to = at
        elif self._line and math.dist(self._line[-1], at) > self.reach(2):
            self._line.append(at)

    def release(self, at: Point, event: QMouseEvent) -> None:
        held, to, line = self._held, self._to, self._line
        self.leave()
        key = self.session.chosen["feature"]
        feature = self._feature()
        if held is not None:
            self._stroke = held[0]
            if to is not None:
                self.edit(lambda p: edits.move_stroke_point(p, key, *held, to), "move a point of a feature")
            return
        if len(line) < 3:
            return
        if feature is None:
            self.session.said.emit("Add a feature first: nose, mouth, ear, whiskers …", "note")
            return
        part = self._current_part()
        points = np.array(line)
        if self.edit(lambda p: edits.add_stroke(p, key, self._part, points), f"draw {part.name if part else 'a part'}"):
            self._stroke = -1

    def key(self, event: QKeyEvent) -> bool:
        key = Qt.Key(event.key())
        feature = self._feature()
        if key == Qt.Key.Key_Escape and self.busy():
            self.leave()
            self.picture.update()
            return True
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and feature is not None and feature.strokes:
            index = self._stroke if 0 <= self._stroke < len(feature.strokes) else len(feature.strokes) - 1
            self._stroke = -1
            self.edit(lambda p: edits.remove_stroke(p, feature.id, index), "remove a stroke")
            return True
        return False

    # The overlay ----------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        chosen = self.session.chosen["feature"]
        ghost = next((g for g in self.reading.twins if " ".join(g.keys) == self._twin), None)
        if ghost is not None:
            overlay.paint_ghost(p, view, ghost.ghost, ghost.own, ghost.words())
        for feature in self.project.features:
            on = feature.id == chosen
            for k, stroke in enumerate(feature.strokes):
                part = FEATURES[feature.kind].part(stroke.part)
                if part is None:
                    continue
                line = stroke.line()
                if on and self._held is not None and self._held[0] == k and self._to is not None:
                    line[self._held[1]] = self._to
                self._paint_stroke(p, view, part, line, on=on, now=on and stroke.part == self._part)
        if len(self._line) > 1:
            part = self._current_part()
            line = view.to_screen(np.array(self._line))
            draw.stroke(p, line, 4.0, 4.0 if part is not None and part.closed else 1.2, "russet", "over_light")

    def _paint_stroke(self, p: QPainter, view: Viewport, part: Part, line: np.ndarray, *, on: bool, now: bool) -> None:
        tone = "russet" if now else "over_light"
        if part.closed:
            curve = closed_curve(line, 8) if len(line) > 3 else line
            draw.cased_path(p, overlay.on_screen(view, np.vstack([curve, curve[:1]])), 1.6 if now else 1.1, tone)
        else:
            curve = open_curve(line, 8)
            long = line_length(curve) * view.scale
            if part.paint == "hair":
                # As broad as on the canvas: root dot, then the hair.
                wide = max(1.4, 0.5 / self.project.mm_per_px * view.scale)
                root = view.at((float(curve[0, 0]), float(curve[0, 1])))
                draw.circle(p, root.x(), root.y(), max(2.0, wide), "over_dark", "over_light", 1)
                draw.stroke(p, view.to_screen(curve[::2]), wide + 0.6, 0.8, tone, "over_dark")
            else:
                draw.stroke(p, view.to_screen(curve[::2]), max(2.4, min(4.0, long / 40)), 1.0, tone, "over_dark")
        if on and now:
            for point in line:
                place = view.at((float(point[0]), float(point[1])))
                draw.circle(p, place.x(), place.y(), 3.6, "over_dark")
                draw.circle(p, place.x(), place.y(), 2.5, "over_light")
