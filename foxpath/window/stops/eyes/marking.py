"""Eyes, found by a click in the pupil and corrected by dragging; their checks, values, lights and build-up."""

import math

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from foxpath.core.arrays import Rgb8
from foxpath.core.errors import AppError
from foxpath.core.eyes import LIGHT_WAYS, PUPILS, Ellipse, Eye, HeadFrame, clock, fit_ellipse
from foxpath.core.findings import Finding
from foxpath.core.reference.light import hour_words
from foxpath.core.units import mm_words, percent
from foxpath.derive.eyes.reading import EyeReading, eye_key
from foxpath.derive.eyes.steps import FindEye, Guessed, PaintSteps
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import column
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Measure, Scale, YesNo
from foxpath.window.bench.rows import Gestures, Row, Rows, Section, Words
from foxpath.window.look import draw
from foxpath.window.picture.view import image_of
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.eyes import overlay
from foxpath.window.stops.eyes.buildup import StepGrid, StepView, StepWords, ValuesView, image_part
from foxpath.window.stops.eyes.page import Page
from foxpath.window.stops.on_picture import Point

SHOWN_PX = 460
"""Width of the picture of a step: the glass shows it enlarged."""
HOUR = Scale(0, 12, lambda v: hour_words(v % 12), step=0.25)
OUT = Scale(0, 0.95, percent, step=0.01)
SIZE = Scale(0.1, 20, mm_words, ratio=True)
_WAYS = {
    "last": "Added last: one thick clean touch, and its place can still be moved.",
    "reserve": "Kept free: the ground stays clean there, no white has to cover a dark.",
}
FOUND = "find an eye"
_SAYS = {
    "find": "A click in a pupil finds its eye; a drag from its middle to its rim says how large it is.",
    "rim": "Click the iris's rim, three times or more; Enter takes it, Esc drops it.",
    "light": "Click the bright spot on the ball; on a marked one, to take it away.",
}


class EyesPage(Page):
    """Mark eyes; see where they stand and how they are built up."""

    code, title = "eyes", "eyes"

    def make_body(self) -> QWidget:
        self._step = "texture"
        self._check = ""
        self._hot = False
        self._held: overlay.Handle | None = None
        self._live: Eye | None = None
        self._rim: list[Point] = []
        self._asked: Guessed | None = None
        """An eye that is not taken yet: the painter is asked."""
        self._sizes: list[float] = []
        """Radii that the eye clicked last may have, the likeliest first."""
        self._clicked: Point = (0.0, 0.0)
        self._drawn: tuple[Point, float] | None = None
        """A circle being dragged open: its middle and radius."""
        self._pressed: Point | None = None
        self._images: list[QImage] = []
        self._shown_of: object = None
        self._part_of: object = None
        self.ways = Choice([("find", "an eye"), ("rim", "its rim"), ("light", "its light")], "what a click marks")
        self.ways.chosen.connect(self._set_way)
        self.way_words = Words(_SAYS["find"], 12)
        self.list_head = Section("Eyes", "iris · light")
        self.list = Rows("eyes")
        self.list.chosen.connect(self._choose)
        self.shape_head = Section("Pupil and lids", "")
        self.pupil = Choice(
            [(k, {"upright": "upright", "level": "level", "bar": "bar"}.get(k, k)) for k in PUPILS],
            "shape of the pupil",
        )
        self.pupil.chosen.connect(self._set_pupil)
        self.size = Words("", 12.5)
        self.acts = Buttons([("lids", "Lids of its outline"), ("remove", "Remove it")], 2)
        self.acts.clicked.connect(self._act)
        self.values_head = Section("Values", "L*, pupil outward")
        self.values = ValuesView()
        self.steps_head = Section("Build-up", "choose a step")
        self.steps = StepGrid()
        self.steps.chosen.connect(self._choose_step)
        self.step_words = StepWords()
        self.step_view = StepView()
        self.light_head = Section("Catchlight", "")
        self.measures: dict[str, Measure] = {}
        for name, words, scale in (("hour", "Hour", HOUR), ("distance", "Out", OUT), ("size_mm", "Size", SIZE)):
            made = Measure(words, scale)
            made.setObjectName(name)
            made.changed.connect(self._decide)
            made.reset.connect(self._give_back)
            self.measures[name] = made
        self.sky = YesNo("the sky is mirrored too", "no mirrored sky")
        self.sky.toggled.connect(self._set_sky)
        self.way = Choice(list(LIGHT_WAYS.items()), "how the catchlight is made")
        self.way.chosen.connect(self._set_light_way)
        self.way_reason = Words("", 12)
        self.checks_head = Section("Checks", "mm on the canvas")
        self.checks = Rows("checks")
        self.checks.chosen.connect(self._choose_check)
        self.check_words = Words("", 12.5)
        self.of_eye = (
            self.shape_head, self.pupil, self.size, self.acts, self.values_head, self.values, self.steps_head, self.steps,
            self.step_words, self.step_view, self.light_head, *self.measures.values(), self.sky, self.way, self.way_reason,
        )  # fmt: skip
        return column(
            self.ways, self.way_words, self.list_head, self.list, self.values_head, self.values, self.steps_head, self.steps,
            self.step_words, self.step_view, self.size, self.checks_head, self.checks, self.check_words, self.light_head,
            *self.measures.values(), self.sky, self.way, self.way_reason, self.shape_head, self.pupil, self.acts,
            Section("Say it with a click", "on the picture"),
            Gestures(
                [
                    ("outline", "find an eye", "click in its pupil"),
                    ("outline", "say its size", "drag from middle to rim"),
                    ("outline", "another size", "N"),
                    ("outline", "correct it", "drag rim, lid, corner"),
                    ("frame", "its light", "L, then click it"),
                ]
            ),
            margins=(0, 0, 0, 0),
        )  # fmt: skip

    # What is there --------------------------------------------------------------------------------

    def eye(self) -> Eye | None:
        """Return the chosen eye: as it is being dragged, else as it stands."""
        if self._live is not None:
            return self._live
        project = self.session.project
        return project.eye(self.session.chosen["eye"]) if project is not None else None

    def _known(self) -> EyeReading | None:
        return self.reading.of(self.session.chosen["eye"])

    def refresh(self) -> None:
        project = self.project
        chosen = self.session.chosen
        if project.eyes and project.eye(chosen["eye"]) is None:
            chosen["eye"] = project.eyes[0].id
        eye = project.eye(chosen["eye"])
        for part in (self.list_head, self.list):
            part.setVisible(bool(project.eyes))
        self.list.set_rows(
            [
                Row(
                    one.id,
                    one.name,
                    f"{self.mm(2 * one.iris.radius)} across",
                    hour_words(clock(one.iris.centre, one.lights[0])) if one.lights else "no light",
                )
                for one in project.eyes
            ],
            chosen["eye"],
        )
        for widget in self.of_eye:
            widget.setVisible(eye is not None)
        self._refresh_checks()
        if eye is None:
            self.session.runner.cancel("eye steps")
            return
        self.pupil.set_value(eye.pupil_kind)
        known = self._known()
        fitted = (
            f" Fitted within {mm_words(max(known.residual_mm, 0.01))} of your clicks."
            if known is not None and eye.rim
            else ""
        )
        found = "" if eye.found >= 0.6 else f" Found with doubt, {percent(eye.found)} sure."
        self.size.set_words((known.size if known is not None else "Reading it.") + fitted + found)
        self.acts.show_only({"remove", *(("lids",) if edits.eye_zone(project, eye.iris.centre) is not None else ())})
        self._refresh_values(eye, known)
        self._refresh_steps(eye, known)
        self._refresh_light(eye, known)

    def _refresh_values(self, eye: Eye, known: EyeReading | None) -> None:
        key = (eye.iris, self.session.levels_taken)
        if key != self._part_of:
            self._part_of = key
            self._part = image_part(self.session.levels, self.project.reference.width, ValuesView.part_of(eye))
        self.values.show_eye(eye, known.plan.values if known is not None and known.eye == eye else None, self._part)

    def _refresh_steps(self, eye: Eye, known: EyeReading | None) -> None:
        if known is None:
            return
        steps = known.plan.steps
        key = eye_key(self.session.results, self.project, eye)
        if key != self._shown_of and not self.session.runner.running("eye steps"):
            self.session.runner.start(
                "eye steps", PaintSteps(self.session.results, self.project, eye.id, SHOWN_PX), self._take_steps
            )
        self.steps.set_steps(steps, self._images, self._step)
        at = next((k for k, step in enumerate(steps) if step.key == self._step), 0)
        self.step_words.show_step(steps[at] if steps else None)
        self.step_view.show_step(self._images[at] if at < len(self._images) else None, eye, self.project.mm_per_px)
        minutes = sum(step.minutes for step in steps if step.painted)
        self.steps_head.set_words("Build-up", f"{sum(s.painted for s in steps)} steps · {minutes:.0f} min")

    def _take_steps(self, value: tuple[Eye, tuple[Rgb8, ...]]) -> None:
        eye, shots = value
        project = self.session.project
        if project is None or project.eye(eye.id) is None:
            return
        self._shown_of = eye_key(self.session.results, project, eye)
        self._images = [image_of(shot) for shot in shots]
        self.changed.emit()

    def _refresh_light(self, eye: Eye, known: EyeReading | None) -> None:
        if known is None:
            return
        lights, said = known.plan.lights, eye.light
        self.light_head.set_words(
            "Catchlight", "decided" if said.hour is not None or said.distance is not None else "planned"
        )
        for name, made in self.measures.items():
            made.set_value(getattr(lights, name), None, decided=getattr(said, name) is not None)
        self.sky.set_value(on=lights.sky)
        self.way.set_value(said.way)
        self.way_reason.set_words(f"{_WAYS[said.way]} Its place: {lights.reason}.")

    def _checks(self) -> list[Finding]:
        chosen = self.session.chosen["eye"]
        return [c for c in self.reading.checks if c.subject in ("", chosen)]

    def _refresh_checks(self) -> None:
        checks = self._checks() if self.project.eyes else []
        for part in (self.checks_head, self.checks, self.check_words):
            part.setVisible(bool(checks))
        keys = [f"{c.key} {c.subject}" for c in checks]
        if self._check not in keys:
            self._check = ""
        placed = {"shadow", "side", "rim", "ring", "flecks", "wet"}
        self.checks.set_rows(
            [
                Row(
                    key,
                    c.name,
                    "look" if c.level != "note" else "",
                    f"{c.mm:.0f} L*".replace("-", "−")
                    if c.key in placed
                    else mm_words(c.mm)
                    if c.mm >= 0.05
                    else "even",
                    off=c.level == "note",
                )
                for key, c in zip(keys, checks, strict=True)
            ],
            self._check,
        )
        current = self._current_check()
        self.check_words.setVisible(current is not None)
        if current is not None:
            self.check_words.set_words(f"{current.says} {current.why[0].upper()}{current.why[1:]}.")

    def _current_check(self) -> Finding | None:
        return next((c for c in self._checks() if f"{c.key} {c.subject}" == self._check), None)

    def next_step(self) -> tuple[str, str, str]:
        project = self.session.project
        if self._asked is not None:
            another = "N shows another size, " if len(self._sizes) > 1 else ""
            return "Is this the eye?", f"{' '.join(self._asked.doubts)} {another}Esc drops it.", "Take it"
        if project is None or not project.eyes:
            return "Click in a pupil", "The eye is found from there.", ""
        worst = next((c for c in self.reading.checks if c.level != "note"), None)
        if worst is not None:
            return f"{worst.name}: look again", worst.label or "more than a brush's error", "Show me"
        if len(project.eyes) == 1 and not project.features:
            return "Mark what else nobody forgives", "The other eye, nose, mouth, whiskers.", ""
        return "Plan the passes", "The eyes stand right.", "Go on"

    def take_next(self) -> None:
        if self._asked is not None:
            self._take(self._asked)
            return
        worst = next((c for c in self.reading.checks if c.level != "note"), None)
        if worst is not None:
            self._show(worst)

    def show_finding(self, finding: Finding) -> None:
        check = next((c for c in self.reading.checks if c.says == finding.says), None)
        if check is not None:
            self._show(check)
        elif (eye := self.project.eye(finding.subject)) is not None:
            self.session.choose(eye=eye.id)
            self.picture.fly_to(eye.iris.centre, 5 * eye.iris.radius)

    def _show(self, check: Finding) -> None:
        if check.subject:
            self.session.choose(eye=check.subject)
        self._check = f"{check.key} {check.subject}"
        radius = self.project.eyes[0].iris.radius
        if check.at is not None:
            self.picture.fly_to(check.at, 8 * radius)
        self.changed.emit()

    # Choosing and deciding ------------------------------------------------------------------------

    def _set_way(self, key: str) -> None:
        self._rim = []
        self.way_words.set_words(_SAYS[key])
        self.picture.update()

    def _choose(self, key: str) -> None:
        self.session.choose(eye=key)
        eye = self.project.eye(key)
        if eye is not None:
            self.picture.fly_to(eye.iris.centre, 7 * eye.iris.radius)

    def _choose_step(self, key: str) -> None:
        self._step = key
        self.changed.emit()

    def _choose_check(self, key: str) -> None:
        self._check = "" if key == self._check else key
        current = self._current_check()
        if current is not None:
            self._show(current)
        self.picture.update()

    def _set_pupil(self, kind: str) -> None:
        key = self.session.chosen["eye"]
        self.edit(lambda p: edits.set_pupil_kind(p, key, kind), "shape of the pupil")

    def _act(self, act: str) -> None:
        key = self.session.chosen["eye"]
        if act == "remove":
            self.edit(lambda p: edits.remove_eye(p, key), "remove an eye's marks")
        else:
            self.edit(lambda p: edits.take_zone_lids(p, key), "lids of the outline")

    def _decide(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        name, key = self.sender().objectName(), self.session.chosen["eye"]
        self.edit(
            lambda p: edits.set_light_plan(p, key, **{name: value}), "the catchlight", f"{name} {key}", going=going
        )

    def _give_back(self) -> None:
        name, key = self.sender().objectName(), self.session.chosen["eye"]
        self.edit(lambda p: edits.set_light_plan(p, key, **{name: None}), "catchlight back to the plan")

    def _set_sky(self, on: bool) -> None:  # noqa: FBT001  (a slot)
        key = self.session.chosen["eye"]
        self.edit(lambda p: edits.set_light_plan(p, key, sky=on), "the mirrored sky")

    def _set_light_way(self, way: str) -> None:
        key = self.session.chosen["eye"]
        self.edit(lambda p: edits.set_light_plan(p, key, way=way), "how the catchlight is made")

    # Gestures -------------------------------------------------------------------------------------

    def leave(self) -> None:
        self._rim, self._held, self._live = [], None, None
        self._asked, self._sizes, self._drawn = None, [], None

    def busy(self) -> bool:
        return bool(self._rim) or self._held is not None or self._asked is not None or self._drawn is not None

    def take_back(self) -> bool:
        if self._rim:
            self._rim.pop()
            return True
        return False

    def _handle_at(self, at: Point) -> overlay.Handle | None:
        eye = self.eye()
        if eye is None:
            return None
        view = self.picture.viewport
        found = [
            (math.dist(at, handle[2]) * view.scale, k, handle)
            for k, handle in enumerate(overlay.handles_of(eye))
            if overlay.near(view, handle[2], at, 9)
        ]
        return min(found)[2] if found else None

    def press(self, at: Point, event: QMouseEvent) -> None:
        self._pressed = at
        if self.ways.value == "find" or (self.ways.value == "light" and not self._light_at(at)):
            self._held = self._handle_at(at)

    def drag(self, at: Point, event: QMouseEvent) -> None:
        eye = self.project.eye(self.session.chosen["eye"])
        if self._held is None and self._pressed is not None and self.ways.value == "find":
            radius = math.dist(at, self._pressed)
            self._drawn = (self._pressed, radius) if radius > self.reach(6) else None
            return
        if self._held is None or eye is None or self._pressed is None:
            return
        if self._live is None and math.dist(at, self._pressed) < self.reach(3):
            return
        self._live = overlay.dragged(eye, self._held, at)

    def release(self, at: Point, event: QMouseEvent) -> None:
        held, live, pressed = self._held, self._live, self._pressed
        drawn, self._drawn = self._drawn, None
        self._held = self._live = self._pressed = None
        if drawn is not None:
            self._find(*drawn)
            return
        if live is not None and held is not None:
            names: tuple[str, ...] = (
                ("iris", "pupil") if held[0] == "middle" else ("lights",) if held[0] == "light" else (held[0],)
            )
            if held[0] in {"inner", "outer"}:
                names = (held[0], "upper", "lower")
            changes = {name: getattr(live, name) for name in names}
            words = {"light": "move a catchlight", "middle": "move an eye"}.get(held[0], f"the {held[0]} of an eye")
            self.edit(lambda p: edits.change_eye(p, live.id, **changes), words)
            return
        if pressed is None or math.dist(at, pressed) > self.reach(6):
            return
        if self.ways.value == "rim":
            self._rim.append(at)
        elif self.ways.value == "light":
            self._click_light(at, more=bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        elif held is None or held[0] == "middle":
            self._click(at)

    def _light_at(self, at: Point) -> bool:
        eye = self.eye()
        return eye is not None and any(overlay.near(self.picture.viewport, spot, at, 8) for spot in eye.lights)

    def _click(self, at: Point) -> None:
        """Choose the eye under the pointer, or find one there."""
        here = next((e for e in self.project.eyes if float(e.iris.share_of(np.array([at]))[0]) < 1), None)
        if here is not None and here.id != self.session.chosen["eye"]:
            self.session.choose(eye=here.id)
            return
        if here is not None:
            return
        self._sizes = []
        self._find(at, 0.0)

    def _find(self, at: Point, radius: float) -> None:
        """Look for the eye about a place; of about a radius, reference pixels, when that is known."""
        self._asked, self._clicked = None, at
        self.session.said.emit("Looking for the eye.", "note")
        request = FindEye(self.session.results, self.project, at, radius)
        self.session.runner.start("find eye", request, self._take_found, failed=self._not_found)

    def _not_found(self, words: str) -> None:
        self.session.said.emit(words, "must")
        self.changed.emit()

    def _take_found(self, guessed: Guessed) -> None:
        """Take an eye that was found, or ask about it."""
        if not self._sizes:
            self._sizes = [one.radius for one in (guessed.found.iris, *(iris for iris, _ in guessed.found.others))]
        if guessed.doubts:
            self._asked = guessed
            self.session.said.emit("Is this the eye? Enter takes it.", "note")
            self.changed.emit()
            return
        self._take(guessed)

    def _take(self, guessed: Guessed) -> None:
        made, found = "", guessed.found
        self._asked = None

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.add_eye(before, found)
            return after

        if self.edit(change, FOUND):
            self.session.choose(eye=made)
            sure = f", {percent(found.sure)} sure" if found.sure > 0 else ""
            more = " N shows another size." if len(self._sizes) > 1 else ""
            self.session.said.emit(
                f"Found an eye {self.mm(2 * found.iris.radius)} across{sure}. Drag what is off.{more}", "note"
            )

    def another(self) -> bool:
        """Show the eye that was clicked last at the next size it may have; False when it has no other."""
        if len(self._sizes) < 2 or self.session.runner.running("find eye"):
            return False
        if self._asked is None and self.session.history is not None and self.session.history.undo_words == FOUND:
            # The first is taken back as if it had never been: its part with it.
            self.session.undo()
        self._sizes = [*self._sizes[1:], self._sizes[0]]
        self._find(self._clicked, self._sizes[0])
        return True

    def finish_rim(self) -> bool:
        """Make an eye of the clicks on its rim."""
        points, made = np.array(self._rim, np.float64), ""

        def change(before: Project) -> Project:
            nonlocal made
            after, made = edits.mark_rim(before, points)
            return after

        if not self.edit(change, "mark an iris by its rim"):
            return False
        self._rim = []
        self.ways.set_value("find")
        self._set_way("find")
        self.session.choose(eye=made)
        return True

    def _click_light(self, at: Point, *, more: bool) -> None:
        eye = next((e for e in self.project.eyes if float(e.iris.share_of(np.array([at]))[0]) < 1.3), None)
        if eye is None:
            self.session.said.emit("No marked eye lies there. Click in its pupil first.", "note")
            return
        hit = next((k for k, spot in enumerate(eye.lights) if overlay.near(self.picture.viewport, spot, at, 8)), -1)
        if hit >= 0:
            lights = tuple(spot for k, spot in enumerate(eye.lights) if k != hit)
        else:
            lights = (*eye.lights, at) if more else (at, *eye.lights[1:])
        self.edit(lambda p: edits.change_eye(p, eye.id, lights=lights), "mark a catchlight")
        self.session.choose(eye=eye.id)

    def hover(self, at: Point) -> None:
        eye = self.eye()
        self._hot = eye is not None and math.dist(at, eye.iris.centre) < 1.2 * max(eye.width, 2 * eye.iris.radius)

    def key(self, event: QKeyEvent) -> bool:
        key = Qt.Key(event.key())
        if key == Qt.Key.Key_N and not event.modifiers():
            return self.another()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._asked is not None:
            self._take(self._asked)
            return True
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._rim:
            return self.finish_rim() or True
        if key == Qt.Key.Key_Escape and self.busy():
            self.leave()
            self.picture.update()
            self.changed.emit()
            return True
        ways = {Qt.Key.Key_1: "find", Qt.Key.Key_2: "rim", Qt.Key.Key_3: "light"}
        if key in ways and not event.modifiers():
            self.ways.set_value(ways[key])
            self._set_way(ways[key])
            return True
        if key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.eye() is not None:
            self._act("remove")
            return True
        return False

    def words_at(self, at: Point) -> str:
        for known in self.reading.eyes:
            eye = known.eye
            share = float(eye.iris.share_of(np.array([at]))[0])
            if share < 1:
                light = float(np.asarray(known.plan.read(np.array([at])))[0, 0])
                hour = hour_words(clock(eye.iris.centre, at))
                part = "pupil" if float(eye.pupil.share_of(np.array([at]))[0]) < 1 else "iris"
                return f"{eye.name.lower()}, {part} · L* {light:.0f} · {hour}, {percent(share)} out · iris {self.mm(2 * eye.iris.radius)} across"
        return ""

    # The overlay ----------------------------------------------------------------------------------

    def paint(self, p: QPainter, view: Viewport) -> None:
        project = self.project
        chosen = self.session.chosen["eye"]
        eyes = [self._live if self._live is not None and e.id == self._live.id else e for e in project.eyes]
        heads: dict[HeadFrame, list[Eye]] = {}
        for eye in eyes:
            if eye.id in self.reading.frames and not self._check:
                heads.setdefault(self.reading.frames[eye.id], []).append(eye)
        for frame, pair in heads.items():
            overlay.paint_frame(p, view, frame, pair)
        for eye in eyes:
            on = eye.id == chosen
            editing = on and (self._hot or self._held is not None)
            overlay.paint_eye(p, view, eye, chosen=on, dial=not editing and self.ways.value == "find")
            if editing and eye.iris.radius * view.scale > 12:
                overlay.paint_handles(p, view, eye, self._held[0] if self._held is not None else "")
        current = self._current_check()
        if current is not None and current.at is not None:
            overlay.paint_lines(p, view, current.lines, current.label, current.at)
        self._paint_rim(p, view)
        self._paint_guess(p, view)

    def _paint_guess(self, p: QPainter, view: Viewport) -> None:
        """Draw an eye that is asked about, or a circle that is being dragged open."""
        if self._asked is not None:
            iris = self._asked.found.iris
            words = f"{self.mm(2 * iris.radius)} across?"
        elif self._drawn is not None:
            (x, y), radius = self._drawn
            iris = Ellipse(x, y, radius, radius)
            words = f"{self.mm(2 * radius)} across"
        else:
            return
        draw.cased_path(p, overlay.on_screen(view, np.vstack([iris.outline(72), iris.outline(1)])), 1.6, "russet")
        at = view.at((iris.cx + iris.rx, iris.cy))
        draw.over_words(p, at.x() + 12, at.y(), words, "l", 13, view.room)

    def _paint_rim(self, p: QPainter, view: Viewport) -> None:
        if not self._rim:
            return
        words = f"{len(self._rim)} of 3" if len(self._rim) < 3 else "Enter takes it"
        if len(self._rim) >= 3:
            try:
                made, off = fit_ellipse(np.array(self._rim), error_px=1.5)
            except AppError:
                words = "these lie on a line"
            else:
                line = overlay.on_screen(view, np.vstack([made.outline(72), made.outline(1)]))
                draw.cased_path(p, line, 1.6, "russet")
                words = f"{self.mm(2 * made.radius)} across, within {self.mm(off)} · Enter takes it"
        for at in self._rim:
            overlay.cross_at(p, view.at(at))
        last = view.at(self._rim[-1])
        draw.over_words(p, last.x() + 14, last.y() - 12, words, "l", 13, view.room)
