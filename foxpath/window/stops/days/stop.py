"""Stop 10, Days: when everything is painted, from drying, wet windows, free evenings and the date it is handed over."""

from collections.abc import Hashable
from dataclasses import replace
from datetime import date, datetime, timedelta
from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QImage, QKeyEvent, QMouseEvent, QPainter, QPen
from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.clock import now
from foxpath.core.days.calendar import Interval
from foxpath.core.days.forecast import Forecast
from foxpath.core.days.studio import moment_of, room_on
from foxpath.core.findings import Finding
from foxpath.core.units import count_words
from foxpath.derive.days.plan import SEARCH_S, Planned, why_words
from foxpath.derive.days.reading import AskBetter, AskDays, AskForecast, DaysClose
from foxpath.derive.days.sitting import Sitting, areas_at, one_line
from foxpath.derive.days.strands import Strand
from foxpath.derive.days.ways import FindWays, WaysOut
from foxpath.derive.subjects import DAYS, PASSES
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import panel
from foxpath.window.bench.controls import Choice
from foxpath.window.bench.rows import NextStep
from foxpath.window.look import draw
from foxpath.window.look.theme import colour
from foxpath.window.picture.view import image_of, stepped_back
from foxpath.window.picture.viewport import Viewport
from foxpath.window.stops.base import FindingList, Stop
from foxpath.window.stops.days.files import KeepNotes, WriteCalendar, WriteSheets
from foxpath.window.stops.days.paint import PaintPage
from foxpath.window.stops.days.plan import PlanPage, Trial, better_words, offer_words
from foxpath.window.stops.days.side import MARKS, paint_side
from foxpath.window.stops.days.sitting import SittingPage, past_due
from foxpath.window.stops.days.telling import Telling
from foxpath.window.stops.days.time import TimePage
from foxpath.window.stops.days.weeks import Sheet, Shown, lay_out, paint_weeks
from foxpath.window.stops.on_picture import Point

PAGES = (("plan", "Plan"), ("sitting", "Sitting"), ("time", "Time"), ("paint", "Paint"))
RESTING_MS = 1500
"""A better plan is shown at once while the hand has rested so long; else it is offered."""


class DaysStop(Stop):
    """Weeks of sittings: choose one, move it, hold it, keep its day free; the plan obeys and says what it costs."""

    code, title = "days", "Days"
    steps_back = True
    cursor = Qt.CursorShape.ArrowCursor

    def make_panel(self) -> QWidget:
        self.pages = Choice(list(PAGES), "page of the days")
        self.pages.chosen.connect(self.open_page)
        self.next = NextStep("hair")
        self.next.asked.connect(self._next)
        self.found = FindingList(self.code)
        self.found.asked.connect(self._finding)
        self.plan_page = PlanPage(self.session)
        self.plan_page.tried.connect(self._try)
        self.plan_page.left.connect(self.leave_trial)
        self.plan_page.asked.connect(self._file)
        self.plan_page.offer_left.connect(self.leave_offer)
        self.sitting_page = SittingPage(self.session)
        self.sitting_page.written.connect(lambda: self._file("sheet"))
        self.time = TimePage(self.session)
        self.paint_page = PaintPage(self.session)
        self.paint_page.learned.connect(self._keep_notes)
        self._bodies = {
            "plan": self.plan_page,
            "sitting": self.sitting_page,
            "time": self.time,
            "paint": self.paint_page,
        }
        self._page = "plan"
        self._of: object = None
        self._whose = ""
        self._close = DaysClose()
        self._offer: DaysClose | None = None
        self._telling = Telling(self.session)
        self._trial: Trial | None = None
        self._forecast: Forecast | None = None
        self._out: WaysOut | None = None
        self._touched_at = now_exact() - timedelta(days=1)
        self._row = 0
        self._zone = -1
        self._sheet: Sheet | None = None
        self._sheet_key: Hashable = None
        self._sheet_of: DaysClose | None = None
        self._drag: tuple[Sitting, QPointF] | None = None
        self._over: date | None = None
        self._small: dict[str, tuple[object, QImage]] = {}
        self._tick = QTimer(self)
        self._tick.setInterval(30_000)
        self._tick.timeout.connect(self._look_at_clock)
        return panel(self.pages, self.next, self.found, *self._bodies.values())

    # What is known --------------------------------------------------------------------------------

    @property
    def close(self) -> DaysClose:
        """What is shown: a way out that is tried, else the plan with what was found since."""
        return self._trial[1] if self._trial is not None else self._close

    @property
    def planned(self) -> Planned | None:
        """The plan that is shown."""
        return self.close.planned

    def chosen_sitting(self) -> Sitting | None:
        """Return the chosen sitting, else the next one."""
        key = self.session.chosen["sitting"]
        found = next((one for one in self.close.sittings if one.begin.isoformat() == key), None)
        if found is not None:
            return found
        moment = self.close.now
        return next((one for one in self.close.sittings if moment is None or one.end > moment), None)

    def open_role(self) -> str:
        """Show the first pass that the chosen sitting paints."""
        sitting, planned = self.chosen_sitting(), self.planned
        if sitting is None or planned is None:
            return ""
        for step in sitting.steps:
            key = planned.layout.problem.tasks[step.task].id
            if role := planned.layout.work_with(key).roles.get(key, ""):
                return role
        return ""

    def _numbers(self) -> dict[str, int]:
        readings = self.session.readings
        if readings is None:
            return {}
        return {one.role.key: k for k, one in enumerate((p for p in readings.of(PASSES).passes if p.on), 1)}

    def _strands(self) -> tuple[Strand, ...]:
        if 0 <= self._zone < len(self.close.own):
            return (self.close.own[self._zone],)
        return self.close.strands

    # The bench ------------------------------------------------------------------------------------

    def refresh(self) -> None:
        project = self.session.project
        if project is None:
            return
        self._take_close(project)
        self.pages.set_value(self._page)
        for key, body in self._bodies.items():
            body.setVisible(key == self._page)
        self.found.set_findings(list(self.close.findings) + self._standing(), [("show", "show me")])
        self._refresh_next(project)
        if self._page == "plan":
            self.plan_page.show_plan(project, self._close, self._trial, self._forecast, self._out)
        elif self._page == "sitting":
            self.sitting_page.show_sitting(project, self.close, self.chosen_sitting())
        elif self._page == "time":
            self.time.show_project(project, self._close.taken, self._close.others)
        else:
            self.paint_page.show_close(project, self._close)

    def _standing(self) -> list[Finding]:
        """Return what stands in the decisions themselves, beside what a plan says of itself."""
        readings = self.session.readings
        if readings is None:
            return []
        said = {one.says for one in self.close.findings}
        return [
            one for one in readings.findings
            if one.where == self.code and one.says not in said and not one.says.startswith("It is handed over on")
        ]  # fmt: skip

    def _take_close(self, project: Project) -> None:
        """Take what was read, and go on from it beside the window."""
        if self._whose != project.reference.digest:
            # Another painting was opened: what was shown is not its plan.
            self._whose, self._close, self._trial, self._zone = project.reference.digest, DaysClose(), None, -1
            self._telling.begin_anew()
        readings = self.session.readings
        if readings is None or not readings.has_close(DAYS.key):
            return
        close = readings.close(DAYS)
        if close is self._of:
            return
        self._of, self._close = close, close
        self._offer, self._forecast, self._out = None, None, None
        if self._trial is not None and self._trial[0].keys:
            self._trial = None
        self._sheet_key = None
        runner = self.session.runner
        for key in ("days search", "days forecast", "days ways"):
            runner.cancel(key)
        planned = close.planned
        if planned is None or not planned.plan.complete:
            return
        if readings.project is project and not close.by:
            self._telling.work_left(project, planned)
        if planned.searched:
            self._ask_further()
        else:
            runner.start(
                "days search", AskBetter(self.session.results, project, close, SEARCH_S), self._searched, part=self._better
            )  # fmt: skip

    def _better(self, close: DaysClose) -> None:
        """Show a better plan while the hand rests; else offer it."""
        if now_resting(self._touched_at) and self._drag is None:
            self._show(close)
        else:
            self._offer = close
            self.restated.emit()

    def _searched(self, close: DaysClose) -> None:
        planned, shown = close.planned, self._close.planned
        if planned is not None and shown is not None and planned.plan is shown.plan:
            self._close = close
        else:
            self._better(close)
        self._ask_further()

    def _show(self, close: DaysClose) -> None:
        self._close, self._offer, self._sheet_key = close, None, None
        self.restated.emit()
        self.picture.update()

    def _ask_further(self) -> None:
        """Ask how sure the dates are, and for ways out where one cannot be kept."""
        project, planned = self.session.project, (self._offer or self._close).planned
        if project is None or planned is None:
            return
        runner = self.session.runner
        runner.start("days forecast", AskForecast(planned, project.pace), self._take_forecast)
        if planned.layout.problem.late(planned.plan) > 0 and self._close.now is not None:
            taken = [one for mine in self._taken(planned).values() for one in mine]
            request = FindWays(self.session.results, project, planned, self._close.now, taken)
            runner.start("days ways", request, self._take_ways)

    def _taken(self, planned: Planned) -> dict[str, list[Interval]]:
        """Return what other paintings take, those planned together with this one among them."""
        diary, rule = planned.diary, planned.layout.days.rule
        before, after = timedelta(minutes=rule.setup), timedelta(minutes=rule.cleanup)
        made = dict(self._close.taken)
        for name in planned.layout.others():
            made[name] = [
                (diary.at(a) - before, diary.at(b) + after)
                for task, pieces in zip(planned.layout.problem.tasks, planned.plan.pieces, strict=True)
                if task.painting == name
                for a, b in pieces
            ]
        return made

    def _take_forecast(self, made: Forecast) -> None:
        self._forecast = made
        self.restated.emit()

    def _take_ways(self, found: WaysOut) -> None:
        self._out = found
        self.restated.emit()

    def _refresh_next(self, project: Project) -> None:
        planned, close = self.planned, self.close
        if planned is None or close.now is None:
            self.next.set_words("Planning the sittings", "Drying, wet edges and free evenings are put together.")
            return
        if not planned.plan.complete:
            self.next.set_words("Give it free time", "Pull a hair of your week: a sitting needs 50 minutes.", "My week")
            return
        diary = planned.diary
        done = diary.done(project.name)
        if self._trial is not None:
            way = self._trial[0]
            self.next.set_words(f"Handed over {done:%a %-d %b}", way.words, "Take it")
            return
        over = past_due(project, close.now)
        if over:
            begin = moment_of(over[0].begin)
            self.next.set_words(f"Was {begin:%a %-d %b} painted?", "The plan goes on from what you say.", "All of it")
            return
        if self._offer is not None and self._offer.planned is not None:
            other = self._offer.planned
            self.next.set_words("A better plan is there", better_words(planned, other), "Show it")
            return
        if self._close.by:
            self.next.set_words(f"Planned beside {self._close.by}", offer_words(planned, project), "Take it")
            return
        if planned.taken:
            when, _, what = one_line(planned, project, close.now).partition(": ")
            self.next.set_words(when, f"{what[:1].upper()}{what[1:]}", "Its sheet")
            return
        if planned.before:
            self.next.set_words("The plan has to change", why_words(planned), "Take it")
            return
        searching = self.session.runner.running("days search")
        sittings = count_words(len(close.sittings), "sitting")
        reason = "Looking for a better one …" if searching else f"handed over {done:%-d %b}"
        self.next.set_words(f"A plan of {sittings}", reason, "Take it")

    def reading(self) -> str:
        readings = self.session.readings
        if readings is None:
            return ""
        if self._close.planned is not None and self._close.planned.plan.complete:
            planned, project = self._close.planned, self.session.project
            late = planned.layout.problem.late(planned.plan)
            if late > 0 and late < float("inf"):
                return f"{count_words(max(1, round(late / 1440)), 'day')} too late"
            if project is not None and not project.days.plan:
                return count_words(len(self._close.sittings), "sitting")
        return readings.of(DAYS).words

    def state(self) -> draw.State:
        project = self.session.project
        if project is None or not project.days.plan:
            return "no"
        return "begun" if self._close.planned is None or not self._close.planned.taken else "ready"

    # What is done ---------------------------------------------------------------------------------

    def open_page(self, key: str) -> None:
        """Open a page of the bench."""
        self._page = key
        self.refresh()
        self.picture.update()

    def _next(self) -> None:
        project, planned = self.session.project, self.planned
        if project is None or planned is None or self._close.now is None:
            return
        if not planned.plan.complete:
            self.open_page("time")
        elif self._trial is not None:
            self.take_trial()
        elif past_due(project, self._close.now):
            self.sitting_page.show_sitting(project, self._close, self.chosen_sitting())
            self.sitting_page.all_done()
        elif self._offer is not None:
            self._show(self._offer)
        elif planned.taken and not self._close.by:
            self._file("sheet")
        else:
            self.take()

    def take(self) -> None:
        """Take the plan that is shown; its sittings are known to the painter's other paintings."""
        planned, project = self._close.planned, self.session.project
        if planned is None or project is None:
            return
        rows, seen = planned.rows(), self._close.seen
        together = seen(project).days.together
        if self.session.edit(lambda p: edits.take_plan(edits.set_days(p, together=together), rows), "take the plan"):
            self._keep_plan(planned)

    def _keep_plan(self, planned: Planned) -> None:
        project = self.session.project
        if project is not None:
            self._telling.plan_taken(project, planned)

    def leave_offer(self) -> None:
        """Leave the plan that was laid beside another painting: this one's own stands again."""
        project, planned = self.session.project, self._close.planned
        if project is not None and planned is not None and self._close.by:
            self._telling.offer_left(project, planned)

    def _try(self, key: str) -> None:
        project = self.session.project
        way = next((one for one in (self._out.ways if self._out else ()) if " ".join(one.keys) == key), None)
        if way is None or project is None or self._close.planned is None:
            return

        beside = [one for one in self._close.others if one.painting in project.days.together]

        def take(close: DaysClose) -> None:
            self._trial = (way, close)
            self._sheet_key = None
            self.refresh()
            self.picture.update()

        self.session.runner.start(
            "days trial", AskDays(self.session.results, project, way.days, self._close.taken, beside), take
        )  # fmt: skip

    def take_trial(self) -> None:
        """Take the way out that is tried, with its plan."""
        if self._trial is None or self._trial[1].planned is None:
            return
        way, planned = self._trial[0], self._trial[1].planned
        rows = planned.rows()
        self._trial = None
        done = self.session.edit(
            lambda p: edits.take_plan(replace(p, days=replace(way.days, holds=(), plan=())), rows), way.words
        )  # fmt: skip
        if done:
            self._keep_plan(planned)

    def leave_trial(self) -> None:
        """Leave the way out that is tried."""
        self._trial, self._sheet_key = None, None
        self.refresh()
        self.picture.update()

    def _keep_notes(self) -> None:
        project = self.session.project
        if project is not None:
            self.session.runner.start(
                "keep notes", KeepNotes(project), lambda _: None,
                failed=lambda words: self.session.said.emit(words, "must"), writes=True,
            )  # fmt: skip

    def _finding(self, _: str, finding: object) -> None:
        subject = getattr(finding, "subject", "")
        if subject == "room" or not subject:
            self.open_page("time")
            return
        self.open_page("plan")
        planned = self.planned
        if planned is not None and subject not in ("late", "lost"):
            k = planned.layout.place(subject.partition(":")[2])
            sitting = next((one for one in self.close.sittings if any(step.task == k for step in one.steps)), None)
            if sitting is not None:
                self._choose(sitting)

    def _file(self, key: str) -> None:
        project, planned = self.session.project, self.planned
        if project is None or planned is None or not planned.plan.complete:
            return
        if key == "anew":
            self.session.edit(edits.forget_plan, "plan it anew")
            return
        name = f"{project.name} days.pdf" if key == "sheet" else f"{project.name}.ics"
        kinds = "Sheets (*.pdf)" if key == "sheet" else "Calendars (*.ics)"
        path, _ = QFileDialog.getSaveFileName(None, "Where to", name, kinds)
        if path:
            self.write(key, Path(path))

    def write(self, key: str, path: Path) -> None:
        """Write the sheets of the sittings, or a calendar of them, in the background."""
        project, planned = self.session.project, self.planned
        if project is None or planned is None:
            return
        if key == "sheet":
            self.session.write(WriteSheets(self.session.results, project, planned, self._forecast, path))
        else:
            self.session.write(WriteCalendar(planned, path))

    # The picture ----------------------------------------------------------------------------------

    def _choose(self, sitting: Sitting) -> None:
        self._touched_at = now_exact()
        self.session.choose(sitting=sitting.begin.isoformat())

    def press(self, at: Point, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self._touched_at = now_exact()
        if self.picture.viewport.room.contains(event.position()):
            zone = self.zone_at(at)
            readings = self.session.readings
            index = (
                next((k for k, one in enumerate(readings.zones) if zone is not None and one.id == zone.id), -1)
                if readings
                else -1
            )
            self._zone = -1 if index == self._zone else index
            self.picture.update()
            return
        day = self._sheet.at(event.position()) if self._sheet is not None else None
        if day is None or not day.sittings:
            return
        begins = [one.begin.isoformat() for one in day.sittings]
        chosen = self.session.chosen["sitting"]
        # A second click on a day with two sittings goes on to the other.
        one = day.sittings[(begins.index(chosen) + 1) % len(begins)] if chosen in begins else day.sittings[0]
        self._drag = (one, event.position())
        self._choose(one)

    def drag(self, at: Point, event: QMouseEvent) -> None:
        if self._drag is None or self._sheet is None:
            return
        if (event.position() - self._drag[1]).manhattanLength() < 8 and self._over is None:
            return
        day = self._sheet.at(event.position())
        self._over = day.day if day is not None and (day.free > 0 or day.sittings) else None
        self._touched_at = now_exact()

    def release(self, at: Point, event: QMouseEvent) -> None:
        dragged, over = self._drag, self._over
        self._drag, self._over = None, None
        if dragged is not None and over is not None and over != dragged[0].begin.date():
            self.move(dragged[0], over)

    def busy(self) -> bool:
        return self._drag is not None and self._over is not None

    def take_back(self) -> bool:
        """Leave a sitting that is dragged where it was, or a way out that is tried."""
        if self._drag is not None:
            self._drag, self._over = None, None
            return True
        if self._trial is not None:
            self.leave_trial()
            return True
        return False

    def move(self, sitting: Sitting, day: date) -> None:
        """Put a sitting on another day: its tasks are held there, and the plan obeys."""
        planned = self.planned
        if planned is None:
            return
        own = planned.layout.works[0].zones
        tasks = [planned.layout.problem.tasks[one.task] for one in sitting.steps]
        keys = list(dict.fromkeys(task.key for task in tasks if task.id in own))
        begin = datetime.combine(day, datetime.min.time())
        words = f"{sitting.begin:%a %-d %b} to {day:%a %-d %b}"
        if self.session.edit(lambda p: edits.hold_tasks(p, keys, begin, begin + timedelta(hours=30)), words):
            self.session.said.emit(f"Put {words}: the rest of the plan follows.", "note")

    def _move_by(self, days: int) -> None:
        """Move the chosen sitting to the free day before or after it."""
        sitting, planned = self.chosen_sitting(), self.planned
        if sitting is None or planned is None:
            return
        free = sorted({a.date() for a, _ in planned.layout.free})
        here = sitting.begin.date()
        way = [day for day in free if (day > here if days > 0 else day < here)]
        if way:
            self.move(sitting, way[0] if days > 0 else way[-1])

    def key(self, event: QKeyEvent) -> bool:
        key, shift = Qt.Key(event.key()), bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        by = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(key)
        sittings, chosen = self.close.sittings, self.chosen_sitting()
        if by is not None and chosen is not None:
            if shift:
                self._move_by(by)
                return True
            at = [one.begin for one in sittings].index(chosen.begin)
            self._choose(sittings[min(max(at + by, 0), len(sittings) - 1)])
            self._bring_in(self.chosen_sitting())
            return True
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown):
            rows = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_PageUp: -4}.get(key, 4)
            self._scroll(rows)
            return True
        number = event.key() - Qt.Key.Key_1
        if 0 <= number < len(PAGES):
            self.open_page(PAGES[number][0])
            return True
        project = self.session.project
        if key in (Qt.Key.Key_H, Qt.Key.Key_X) and chosen is not None and project is not None:
            self.sitting_page.show_sitting(project, self.close, chosen)
            held = bool(set(self.sitting_page.keys()) & {one.task for one in project.days.holds})
            self.sitting_page.act("forbid" if key == Qt.Key.Key_X else "go" if held else "hold")
            return True
        return False

    def wheel(self, notches: float) -> None:
        self._scroll(-1 if notches > 0 else 1)

    def _scroll(self, rows: int) -> None:
        count = self._sheet.count if self._sheet is not None else 0
        first = self._sheet.first if self._sheet is not None else self._row
        self._row = min(max(first + rows, 0), max(count - 1, 0))
        self._sheet_key = None
        self.picture.update()

    def _bring_in(self, sitting: Sitting | None) -> None:
        """Turn the sheet to where a sitting is seen."""
        sheet = self._sheet
        if sitting is None or sheet is None or any(sitting in day.sittings for day in sheet.days):
            return
        for row in range(sheet.count):
            tried = lay_out(self.close, sheet.room, row)
            if any(sitting in day.sittings for day in tried.days):
                self._row, self._sheet_key = row, None
                self.picture.update()
                return

    def words_at(self, at: Point) -> str:
        project, planned = self.session.project, self.planned
        if project is None or planned is None:
            return "planning the sittings" if project is not None else ""
        pointer = self.picture.pointer
        day = self._sheet.at(pointer) if self._sheet is not None and pointer is not None else None
        looked_at = day.day if day is not None else (self.close.now or now()).date()
        celsius, humidity = room_on(project.days, looked_at)
        room = f"{celsius:.0f} °C, {humidity:.0f} % damp"
        if day is not None and day.sittings:
            one = next(
                (s for s in day.sittings if s.begin.isoformat() == self.session.chosen["sitting"]), day.sittings[0]
            )
            parts = dict.fromkeys(planned.layout.words(step.task) for step in one.steps)
            minutes = sum(step.minutes for step in one.steps)
            what = ", ".join(list(parts)[:2]) + (f" and {len(parts) - 2} more" if len(parts) > 2 else "")
            return f"{one.begin:%A %-d %B, %H:%M} · {what} · {minutes} min of {int((one.work[1] - one.work[0]).total_seconds() // 60)} · {room}"
        if day is not None and day.past is not None:
            return f"{day.day:%A %-d %B} · painted: {', '.join(day.past.words[:3])} · {room}"
        if day is not None:
            free = f"{day.free:g} h free" if day.free else "not free"
            return f"{day.day:%A %-d %B} · {free} · {room}"
        if pointer is not None and self.picture.viewport.room.contains(pointer):
            zone = self.zone_at(at)
            return f"{zone.name.lower()} · click: its strand alone · {room}" if zone is not None else room
        return f"{one_line(planned, project, self.close.now or now())} {room}"

    def paint_ground(self, p: QPainter, room: QRectF) -> None:
        p.fillRect(room, colour("plate"))
        planned, taken = self.planned, stepped_back(room)
        p.fillRect(taken.adjusted(-8, -8, 4, 4), colour("well"))
        if planned is None or not planned.plan.complete:
            words = (
                "planning the sittings"
                if planned is None
                else "no free time holds this painting: pull a hair of your week"
            )
            draw.text(p, room.center().x() - 60, room.center().y(), words, 14, 400, "quiet", "c")
            return
        column_left = taken.left() - 14
        weeks = QRectF(room.left() + 14, room.top() + 4, column_left - room.left() - 18, room.height() - 6)
        key = (weeks.width(), weeks.height(), self._row)
        if key != self._sheet_key or self._sheet is None or self._sheet_of is not self.close:
            self._sheet_key, self._sheet_of, self._sheet = key, self.close, lay_out(self.close, weeks, self._row)
            self._row = self._sheet.first
        strands = self._strands()
        paint_weeks(p, self._sheet, self.close, strands, self._numbers(), self._shown())
        self._paint_more(p, self._sheet)
        box = QRectF(column_left + 8, room.top() + 4, room.right() - column_left - 22, taken.top() - room.top() - 20)
        p.save()
        p.setClipRect(box.adjusted(-4, 0, 4, 6))
        paint_side(p, box, self.close, strands, self.chosen_sitting(), single=len(strands) == 1)
        p.restore()
        if self._drag is not None and self._over is not None and self.picture.pointer is not None:
            at = self.picture.pointer
            draw.over_words(
                p,
                at.x() + 12,
                at.y() - 8,
                f"{self._drag[0].begin:%a %-d %b} to {self._over:%a %-d %b}",
                "l",
                12.5,
                room,
            )

    def _paint_more(self, p: QPainter, sheet: Sheet) -> None:
        """Say how many weeks lie above and below."""
        below = sheet.count - sheet.first - len(sheet.rows)
        said = [f"{sheet.first} above" if sheet.first else "", f"{below} below" if below > 0 else ""]
        words = " · ".join(one for one in said if one)
        if words:
            draw.text(p, sheet.room.left(), sheet.room.top() + 17, "↕", 13, 600, "quiet")
            draw.text(p, sheet.room.right(), sheet.room.bottom() - 2, f"rows: {words}", 11.5, 400, "quiet", "r")

    def _shown(self) -> Shown:
        chosen, planned, project = self.chosen_sitting(), self.planned, self.session.project
        held: set[datetime] = set()
        if planned is not None and project is not None:
            keys = {one.task for one in project.days.holds}
            tasks = planned.layout.problem.tasks
            held = {
                one.begin
                for one in self.close.sittings
                if any(tasks[step.task].key in keys and not step.painting for step in one.steps)
            }
        before: set[date] = set()
        if self._trial is not None:
            before = {one.begin.date() for one in self._close.sittings}
        elif planned is not None and planned.before:
            diary = planned.diary
            before = {diary.at(a).date() for pieces in planned.before.values() for a, _ in pieces}
        return Shown(chosen.begin if chosen else None, self._over, frozenset(held), frozenset(before), self._pictures())

    def _pictures(self) -> dict[str, QImage]:
        """Return the small pictures of the passes, each made once."""
        for key, rgb in self.session.rehearsal.small.items():
            if key not in self._small or self._small[key][0] is not rgb:
                self._small[key] = (rgb, image_of(rgb))
        return {key: image for key, (_, image) in self._small.items()}

    def paint(self, p: QPainter, view: Viewport) -> None:
        project, planned, sitting = self.session.project, self.planned, self.chosen_sitting()
        readings = self.session.readings
        if project is None or planned is None or sitting is None or readings is None or not planned.plan.complete:
            return
        work = planned.layout.works[0]
        here = {
            zone for step in sitting.steps for zone in work.zones.get(planned.layout.problem.tasks[step.task].id, ())
        }  # fmt: skip
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.save()
        p.setClipRect(view.crop_on_screen(project.crop), Qt.ClipOperation.IntersectClip)
        for index in sorted(here | ({self._zone} if self._zone >= 0 else set())):
            if not 0 <= index < len(readings.zones) or readings.zones[index].whole:
                continue
            shape = draw.polygon(view.to_screen(readings.zones[index].shape.outline()))
            p.setPen(QPen(colour("over_dark", 0.6), 2.8))
            p.drawPolygon(shape)
            p.setPen(QPen(colour("russet" if index in here else "over_light"), 1.3))
            p.drawPolygon(shape)
        p.restore()
        areas = areas_at(planned.layout, planned.diary, planned.layout.minute(sitting.work[0]))
        facts = readings.facts
        shown = {max(one.zones, key=lambda k: facts[k].area_cm2) for one in self._strands() if one.zones}
        for area in areas:
            if area.zone not in shown or area.zone >= len(readings.zones):
                continue
            at = view.at(readings.tags[readings.zones[area.zone].id])
            plate = QRectF(at.x() - 9, at.y() - 9, 18, 18)
            draw.rounded(p, plate, 5, "over_plate")
            draw.state_mark(p, at.x(), at.y(), MARKS[area.state], "over_light", "over_plate")

    def enter(self) -> None:
        self._tick.start()
        QTimer.singleShot(0, self.picture.update)

    def leave(self) -> None:
        self._tick.stop()
        self._drag, self._over = None, None
        for key in ("days search", "days trial", "days ways", "days forecast"):
            self.session.runner.cancel(key)
        # What was not finished is asked anew when the stop is opened again.
        self._of = None

    def _look_at_clock(self) -> None:
        """A sitting may have ended meanwhile."""
        moment = now()
        if self._close.now is not None and moment.date() != self._close.now.date():
            return
        self._close = replace(self._close, now=moment)
        self.restated.emit()


def now_exact() -> datetime:
    """Return the moment of a touch, to the millisecond."""
    return datetime.now()  # noqa: DTZ005  (only differences are asked for)


def now_resting(touched: datetime) -> bool:
    """Tell whether the hand has rested since a touch."""
    return (now_exact() - touched).total_seconds() * 1000 > RESTING_MS
