"""The page of one sitting: its steps in order, what is done of them, where it is held, and its sheet."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from foxpath.core.cautions import SOLVENT
from foxpath.core.days.studio import Laid, iso, moment_of
from foxpath.core.units import count_words, duration_words
from foxpath.derive.days.reading import DaysClose
from foxpath.derive.days.sitting import Sitting
from foxpath.derive.handout.days import off_words
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.rows import Row, Section, TallRows, Words
from foxpath.window.work.session import Session


def past_due(project: Project, moment: datetime) -> tuple[Laid, ...]:
    """Return the pieces of the plan that was taken whose time is over and of which nobody said whether they were painted: one sitting's."""
    over = sorted((one for one in project.days.left if one.end <= iso(moment)), key=lambda one: one.begin)
    if not over:
        return ()
    first = moment_of(over[0].begin)
    assert first is not None
    day = iso(first + timedelta(hours=12))
    return tuple(one for one in over if one.begin < day)


class SittingPage(QWidget):
    """What a sitting does, and what becomes of it."""

    written = Signal()
    """Its sheet is to be written."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.sitting: Sitting | None = None
        self._close = DaysClose()
        self._over: tuple[Laid, ...] = ()
        self._at = ""
        self.over_head = Section("What was painted?", "")
        self.over_words = Words("", 12.5)
        self.over = TallRows("tasks of the sitting that is over")
        self.over.chosen.connect(self._choose)
        self.over_acts = Buttons([("all", "All of it"), ("this", "Only this one"), ("missed", "None of it")], 2)
        self.over_acts.clicked.connect(self._said)
        self.head = Section("The sitting", "")
        self.steps = TallRows("steps of the sitting")
        self.steps.chosen.connect(self._choose)
        self.note = Words("", 12.5)
        self.rules = Words("", 13, "text")
        self.off_head = Section("Keep the hand off", "")
        self.off = Words("", 12.5)
        self.acts = Buttons(
            [("hold", "Hold it here"), ("go", "Let it go"), ("forbid", "Keep it free"), ("done", "It is painted"),
             ("sheet", "Its sheet …")], 2,
        )  # fmt: skip
        self.acts.clicked.connect(self.act)
        self.done_head = Section("Painted", "")
        self.done = TallRows("tasks that are done")
        self.done.chosen.connect(self._choose_done)
        self.done_acts = Buttons([("undo", "Not done after all")], 1)
        self.done_acts.clicked.connect(self._undone)
        self._done_at = ""
        stack(
            self, self.over_head, self.over_words, self.over, self.over_acts, self.head, self.steps, self.note, self.rules,
            self.off_head, self.off, self.acts, Words(SOLVENT, 12), self.done_head, self.done, self.done_acts,
        )  # fmt: skip

    def show_sitting(self, project: Project, close: DaysClose, sitting: Sitting | None) -> None:
        """Show a sitting of the plan, and one that is over and of which nothing was said."""
        self.sitting, self._close = sitting, close
        self._over = past_due(project, close.now) if close.now is not None else ()
        self._show_over()
        shown = sitting is not None and close.planned is not None
        for part in (self.head, self.steps, self.rules, self.acts):
            part.setVisible(shown)
        if sitting is not None and close.planned is not None:
            self._show_steps(project, close, sitting)
        else:
            for part in (self.note, self.off_head, self.off):
                part.setVisible(False)
        self._show_done(project)

    def _name(self, key: str) -> tuple[str, str]:
        """Return a task's part and pass by its key."""
        planned = self._close.planned
        k = planned.layout.place(key) if planned is not None else -1
        if planned is None or k < 0:
            return key, "no longer in the plan"
        task = planned.layout.problem.tasks[k]
        return task.part, task.act

    def _show_over(self) -> None:
        for part in (self.over_head, self.over_words, self.over, self.over_acts):
            part.setVisible(bool(self._over))
        if not self._over:
            return
        begin = moment_of(self._over[0].begin)
        self.over_head.set_words("What was painted?", f"{begin:%a %-d %b}" if begin is not None else "")
        self.over_words.set_words("The plan goes on from what you say. What was cut short stays to be painted.")
        rows = [Row(one.task, *self._name(one.task), one.begin[11:16]) for one in self._over]
        keys = {row.key for row in rows}
        self.over.set_rows(rows, self._at if self._at in keys else "")
        self.over_acts.show_only({"all", "missed"} | ({"this"} if self._at in keys else set()))

    def _show_steps(self, project: Project, close: DaysClose, sitting: Sitting) -> None:
        minutes = sum(one.minutes for one in sitting.steps)
        room = (sitting.work[1] - sitting.work[0]).total_seconds() / 60
        self.head.set_words(
            f"{sitting.begin:%a %-d %b}, {sitting.begin:%H:%M}", f"{duration_words(minutes)} of {duration_words(room)}"
        )
        rows = [
            Row(
                str(k),
                one.where,
                f"{one.begin:%H:%M} · {one.act}{'' if one.whole else ' · goes on'}",
                f"{one.minutes} min",
            )
            for k, one in enumerate(sitting.steps)
        ]
        chosen = self._at if self._at.isdecimal() and int(self._at) < len(rows) else "0"
        self.steps.set_rows(rows, chosen)
        step = sitting.steps[int(chosen)]
        said = [
            f"Piles {step.piles}." if step.piles else "",
            f"With {step.brush}." if step.brush else "",
            f"{step.note[:1].upper()}{step.note[1:]}." if step.note else "",
        ]
        self.note.set_words(" ".join(one for one in said if one))
        self.note.setVisible(any(said))
        self.rules.set_words(" ".join(one for one in (sitting.setting, sitting.stop) if one))
        off = [off_words(project, one) for one in sitting.keep_off]
        self.off_head.setVisible(bool(off))
        self.off.setVisible(bool(off))
        self.off_head.set_words("Keep the hand off", count_words(len(off), "part"))
        self.off.set_words("; ".join(off[:6]) + (f"; and {len(off) - 6} more" if len(off) > 6 else "") + ".")
        held = bool(set(self.keys()) & {one.task for one in project.days.holds})
        begun = close.now is not None and close.now >= sitting.begin
        self.acts.show_only({"go" if held else "hold", "forbid", "sheet"} | ({"done"} if begun else set()))

    def _show_done(self, project: Project) -> None:
        rows = [
            Row(one.task, *self._name(one.task), f"{end:%a %-d %b}" if (end := moment_of(one.end)) is not None else "")
            for one in sorted(project.days.done, key=lambda done: done.end, reverse=True)
        ][:8]
        many = len(project.days.done)
        for part in (self.done_head, self.done):
            part.setVisible(bool(rows))
        self.done_head.set_words("Painted", count_words(many, "task"))
        self._done_at = self._done_at if any(row.key == self._done_at for row in rows) else ""
        self.done.set_rows(rows, self._done_at)
        self.done_acts.setVisible(bool(self._done_at))

    def keys(self) -> list[str]:
        """Return the keys of the tasks of the sitting, of this painting."""
        planned = self._close.planned
        if self.sitting is None or planned is None:
            return []
        own = planned.layout.works[0].zones
        tasks = [planned.layout.problem.tasks[one.task] for one in self.sitting.steps]
        return list(dict.fromkeys(task.key for task in tasks if task.id in own))

    # What is done ---------------------------------------------------------------------------------

    def _choose(self, key: str) -> None:
        self._at = key
        project = self.session.project
        if project is not None:
            self.show_sitting(project, self._close, self.sitting)

    def _choose_done(self, key: str) -> None:
        self._done_at = key
        self.done_acts.setVisible(bool(key))

    def act(self, key: str) -> None:
        """Hold the sitting where it is, let it go, keep its day free, note it as painted, or write its sheet."""
        one = self.sitting
        if one is None:
            return
        tasks, day = self.keys(), one.begin.date()
        if key == "hold":
            self.session.edit(lambda p: edits.hold_tasks(p, tasks, one.begin, one.end), f"hold {day:%-d %b}")
        elif key == "go":
            self.session.edit(lambda p: edits.let_go(p, tasks), f"let {day:%-d %b} go")
        elif key == "forbid":
            self.session.edit(lambda p: edits.set_day(edits.let_go(p, tasks), day, ()), f"keep {day:%-d %b} free")
        elif key == "done":
            rows = [
                Laid(self._close.planned.layout.problem.tasks[s.task].key, iso(s.begin), iso(s.end))
                for s in one.steps
                if s.whole and not s.painting and self._close.planned is not None
            ]
            self.note_done(rows)
        else:
            self.written.emit()

    def note_done(self, rows: Sequence[Laid]) -> None:
        """Note tasks as painted."""
        if rows:
            self.session.edit(lambda p: edits.mark_done(p, rows), f"{count_words(len(rows), 'task')} painted")

    def all_done(self) -> None:
        """Note all of the sitting that is over as painted; of a task that goes on, only its last piece makes it so."""
        project = self.session.project
        if project is None:
            return
        last = {one.task: one for one in sorted(project.days.plan, key=lambda one: one.begin)}
        whole = [one for one in self._over if last[one.task] == one]
        part = [one for one in self._over if last[one.task] != one]
        self.session.edit(
            lambda p: edits.mark_begun(edits.mark_done(p, whole), part), f"{count_words(len(self._over), 'task')} painted"
        )  # fmt: skip

    def _said(self, key: str) -> None:
        if key == "all":
            self.all_done()
        elif key == "this":
            self.note_done([one for one in self._over if one.task == self._at])
        else:
            over = self._over
            self.session.edit(lambda p: edits.mark_missed(p, over), "nothing was painted")

    def _undone(self, _: str) -> None:
        key = self._done_at
        self.session.edit(lambda p: edits.mark_undone(p, [key]), f"{self._name(key)[0]} is not done")
