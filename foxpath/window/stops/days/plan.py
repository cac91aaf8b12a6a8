"""The page of the plan: what is tried beside what is, ways out, the end and how sure it is, and what is lost."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from foxpath.core.days.forecast import Forecast
from foxpath.core.days.studio import CAREFUL, LIMITS, day_of
from foxpath.core.units import count_words
from foxpath.derive.days.plan import Planned
from foxpath.derive.days.reading import DaysClose
from foxpath.derive.days.ways import Way, WaysOut
from foxpath.derive.handout.days import lost_words
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.controls import Choice, Field, Measure, Scale, YesNo
from foxpath.window.bench.rows import Row, Rows, Section, TallRows, Words
from foxpath.window.work.session import Session

MOST_WAYS = 6
Trial = tuple[Way, DaysClose]
"""A way out that is tried, and what is shown of its plan."""


class PlanPage(QWidget):
    """Everything about the plan as a whole."""

    tried = Signal(str)
    """A way out, by its keys."""
    left = Signal()
    """What is tried is left."""
    offer_left = Signal()
    """The plan that was laid beside another painting is left."""
    asked = Signal(str)
    """Something is to be written: sheet, calendar; or the plan is made anew."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.trial_head = Section("Tried, not taken", "now, and then")
        self.trial = Rows("the plan now and the one that is tried")
        self.trial_acts = Buttons([("leave", "Leave it")], 2)
        self.trial_acts.clicked.connect(lambda _: self.left.emit())
        self.offer_head = Section("Offered", "")
        self.offer_words = Words("", 12.5)
        self.offer_acts = Buttons([("leave", "Leave it")], 2)
        self.offer_acts.clicked.connect(lambda _: self.offer_left.emit())
        self.ways_head = Section("Ways out", "cheapest first")
        self.ways = TallRows("ways out, cheapest first")
        self.ways.chosen.connect(self.tried)
        self.ways_words = Words("", 12.5)
        self.end_head = Section("The end", "")
        self.ends = Rows("the end of the painting")
        self.date = Field("the day it is handed over")
        self.date.blank = True
        self.date.setPlaceholderText("handed over by, e.g. 2026-05-23")
        self.date.taken.connect(self._date)
        self.begin = Field("the first day")
        self.begin.blank = True
        self.begin.setPlaceholderText("first day, e.g. 2026-03-02")
        self.begin.taken.connect(self._begin)
        self.varnish = YesNo("varnished before it goes", "handed over unvarnished")
        self.varnish.toggled.connect(lambda on: self._set("varnish", varnish=on))
        least, most = LIMITS["rest_days"]
        self.rest = Measure("Rest", Scale(least, min(most, 180), lambda v: f"{v:.0f} days"))
        self.rest.changed.connect(self._rest)
        self.rest.reset.connect(lambda: self._set("rest before varnish", rest_days=30.0))
        self.varnish_words = Words("", 12.5)
        self.careful_head = Section("How sure", "of drying")
        self.careful = Choice([(key, key) for key in CAREFUL], "how late paint is taken to dry")
        self.careful.chosen.connect(lambda key: self._set(f"plan for {key} drying", careful=key))
        self.careful_words = Words("", 12.5)
        self.lost_head = Section("Wet edges that are lost", "")
        self.lost = Words("", 12.5)
        self.files_head = Section("To take along", "")
        self.files = Buttons([("sheet", "Sheets …"), ("calendar", "Calendar …"), ("anew", "Plan it anew")], 2)
        self.files.clicked.connect(self.asked)
        self.risk = Words("", 12.5)
        stack(
            self, self.trial_head, self.trial, self.trial_acts, self.offer_head, self.offer_words, self.offer_acts, self.ways_head, self.ways, self.ways_words, self.end_head,
            self.ends, self.risk, self.date, self.begin, self.varnish, self.rest, self.varnish_words, self.careful_head,
            self.careful, self.careful_words, self.lost_head, self.lost, self.files_head, self.files,
        )  # fmt: skip

    def show_plan(
        self, project: Project, close: DaysClose, trial: Trial | None, sure: Forecast | None, found: WaysOut | None
    ) -> None:
        """Show the plan, what is tried, how sure it is, and the ways out; None of what is not known."""
        self._show_trial(close, trial)
        for part in (self.offer_head, self.offer_words, self.offer_acts):
            part.setVisible(bool(close.by) and trial is None)
        self.offer_words.set_words(
            f"It was laid together with {close.by}, which has taken its own share. Left, this painting keeps its own plan, and {close.by} is to "
            "be planned again round it."
        )
        self._show_ways(close, trial, found)
        self._show_end(
            project, trial[1].planned if trial is not None else close.planned, sure if trial is None else None
        )

    def _show_trial(self, close: DaysClose, trial: Trial | None) -> None:
        for part in (self.trial_head, self.trial, self.trial_acts):
            part.setVisible(trial is not None)
        if trial is None or close.planned is None or trial[1].planned is None:
            return
        a, b = close.planned, trial[1].planned
        self.trial.set_rows([Row(name, name, x, y) for name, x, y in beside_rows(a, b)], "")

    def _show_ways(self, close: DaysClose, trial: Trial | None, found: WaysOut | None) -> None:
        planned = close.planned
        late = planned is not None and planned.plan.complete and planned.layout.problem.late(planned.plan) > 0
        for part in (self.ways_head, self.ways, self.ways_words):
            part.setVisible(late)
        if not late:
            return
        if found is None:
            self.ways_head.set_words("Ways out", "looking for them")
            self.ways.set_rows([], "")
            self.ways_words.set_words("Which wishes collide, and what giving one up costs.")
            return
        self.ways_head.set_words("Ways out", "cheapest first" if found.ways else "none found")
        rows = [
            Row(" ".join(way.keys), way.words, way.cost, f"{way.done:%-d %b}") for way in found.ways[:MOST_WAYS]
        ]  # fmt: skip
        tried = " ".join(trial[0].keys) if trial is not None else ""
        self.ways.set_rows(rows, tried)
        collide = found.collide
        words = f"{', '.join(collide[:-1])} and {collide[-1]} cannot all be kept." if 1 < len(collide) <= 5 else ""
        if len(collide) > 5:
            words = f"{', '.join(collide[:4])} and {len(collide) - 4} more wishes cannot all be kept: any one given up helps."
        self.ways_words.set_words(words[:1].upper() + words[1:])
        self.ways_words.setVisible(bool(words))

    def _show_end(self, project: Project, planned: Planned | None, sure: Forecast | None) -> None:
        days = project.days
        rows = []
        if planned is not None and planned.plan.complete:
            diary, problem = planned.diary, planned.layout.problem
            painted, done = diary.painted(project.name), diary.done(project.name)
            if painted is not None:
                rows.append(Row("painted", "Last stroke", "plan", f"{painted:%a %-d %b}"))
            if sure is not None and project.name in sure.painted:
                mine = sure.painted[project.name]
                for key, name, value in (
                    ("half", "by half of cases", mine.half),
                    ("most", "by nine of ten", mine.most),
                ):
                    words = f"{diary.at(value):%a %-d %b}" if value < float("inf") else "no day in sight"
                    rows.append(Row(key, name, "", words))
            varnish = next((k for k, task in enumerate(problem.tasks) if task.kind == "varnish"), -1)
            if varnish >= 0 and planned.plan.pieces[varnish]:
                rows.append(Row("varnish", "Varnish", "", f"{diary.at(planned.plan.pieces[varnish][0][0]):%a %-d %b}"))
            if done is not None:
                rows.append(Row("done", "Hand-over", "plan", f"{done:%a %-d %b}"))
            if sure is not None and project.name in sure.kept:
                rows.append(Row("kept", "kept in", "", f"{100 * sure.kept[project.name]:.0f} of 100 cases"))
        self.ends.set_rows(rows, "")
        risk = risk_words(planned, sure) if planned is not None and sure is not None else ""
        self.risk.set_words(risk)
        self.risk.setVisible(bool(risk))
        end = day_of(days.deadline)
        self.end_head.set_words("The end", f"by {end:%a %-d %b}" if end is not None else "no date given")
        self.date.show_words(days.deadline)
        self.begin.show_words(days.start)
        self.varnish.set_value(on=days.varnish)
        self.rest.setVisible(days.varnish)
        self.rest.set_value(days.rest_days, 30.0, decided=days.rest_days != 30.0)
        self.varnish_words.set_words(varnish_words(project, planned))
        self.careful.set_value(days.careful)
        self.careful_words.set_words(CAREFUL[days.careful][1])
        lost = lost_words(planned) if planned is not None else []
        self.lost_head.setVisible(bool(lost))
        self.lost.setVisible(bool(lost))
        self.lost_head.set_words("Wet edges that are lost", str(len(lost)))
        self.lost.set_words("; ".join(lost[:4]) + (f"; and {len(lost) - 4} more" if len(lost) > 4 else "") + ".")
        self.files.show_only({"sheet", "calendar"} | ({"anew"} if days.plan or days.holds else set()))

    def _set(self, words: str, **values: object) -> None:
        self.session.edit(lambda p: edits.set_days(p, **values), words)

    def _rest(self, value: float, going: bool) -> None:  # noqa: FBT001  (a signal's)
        self.session.edit(
            lambda p: edits.set_days(p, rest_days=float(round(value))), "rest before varnish", "days rest"
        )
        if not going:
            self.session.seal()

    def _date(self, text: str) -> None:
        self._set("the date", deadline=text.strip())

    def _begin(self, text: str) -> None:
        self._set("the first day", start=text.strip())


def varnish_words(project: Project, planned: Planned | None) -> str:
    """Say what a finger tests before varnish, and that it rests."""
    if planned is None:
        return ""
    work = planned.layout.works[0]
    tasks = {task.id: task for task in planned.layout.problem.tasks}
    names = [tasks[key].words for key in work.slowest if key in tasks]
    if not names:
        return ""
    if not project.days.varnish:
        return f"Touch it before it goes: {', '.join(names[:2])} dry last. Varnish it on a visit; the varnish's label comes first."
    return f"Before varnish, touch what dries last: {', '.join(names[:2])}. Then it rests. The varnish's label comes first."


def risk_words(planned: Planned, sure: Forecast) -> str:
    """Say what most of the late cases wait for."""
    places = {task.id: k for k, task in enumerate(planned.layout.problem.tasks)}
    names = [planned.layout.words(places[key]) for key in sure.risky if key in places]
    return f"At risk first: {', '.join(names[:2])}." if names else ""


def offer_words(planned: Planned, project: Project) -> str:
    """Say what a plan that was laid beside another painting changes of the one that was taken."""
    own = {(one.task, one.begin[:10]) for one in project.days.plan}
    new = {(one.task, one.begin[:10]) for one in planned.rows()}
    moved = len({task for task, _ in new - own})
    done = planned.diary.done(project.name)
    end = f", handed over {done:%-d %b}" if done is not None else ""
    return f"{count_words(moved, 'task')} on other days{end}" if own else f"its first plan{end}"


def better_words(old: Planned, new: Planned) -> str:
    """Say by how much a plan is better than another."""
    sittings, lost = old.plan.used - new.plan.used, len(old.plan.lost) - len(new.plan.lost)
    days = (old.layout.problem.finish(old.plan) - new.layout.problem.finish(new.plan)) / 1440
    said = [
        f"{count_words(sittings, 'sitting')} fewer" if sittings > 0 else "",
        f"{count_words(lost, 'wet edge')} more kept" if lost > 0 else "",
        f"{count_words(round(days), 'day')} sooner" if days >= 1 else "",
    ]
    return ", ".join(one for one in said if one) or "a little sooner"


def beside_rows(old: Planned, new: Planned) -> list[tuple[str, str, str]]:
    """Return what two plans come to, row by row: what, the old, the new."""
    rows: list[tuple[str, str, str]] = []
    name = next(iter(old.layout.problem.finishes(old.plan)), "")
    ends = [(one.diary.painted(name), one.diary.done(name)) for one in (old, new)]
    for k, words in enumerate(("Last stroke", "Hand-over")):
        a, b = (f"{end[k]:%a %-d %b}" if end[k] is not None else "no day" for end in ends)
        rows.append((words, a, b))
    rows.append(("Sittings", str(old.plan.used), str(new.plan.used)))
    rows.append(("Wet edges lost", str(len(old.plan.lost)), str(len(new.plan.lost))))
    minutes = [sum(task.minutes for task in one.layout.problem.tasks) for one in (old, new)]
    rows.append(("Hours", f"{minutes[0] / 60:.1f} h", f"{minutes[1] / 60:.1f} h"))
    return rows
