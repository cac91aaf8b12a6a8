"""What happens at the easel: which step is shown, what was said of it, what is to be remembered; without a screen."""

from datetime import datetime, timedelta

from PySide6.QtCore import QObject, Signal

from foxpath.core.days.studio import DryNote
from foxpath.core.log.easel import REMINDERS
from foxpath.core.log.entries import REASONS, Entry
from foxpath.core.log.reading import ended, minutes_of, open_sitting, paused, step_now
from foxpath.core.log.room import air_now
from foxpath.core.log.timers import Timer
from foxpath.core.passes.pace import LEAST_MIN
from foxpath.derive.days.sitting import areas_at, layer_of
from foxpath.derive.easel.reading import SHIFTS, AskAddition, EaselClose, open_timer, timers_of
from foxpath.derive.easel.steps import EaselStep
from foxpath.derive.mixes.palette import palette_of
from foxpath.derive.passes.plan import passes_of
from foxpath.document import edits
from foxpath.document.model import Project
from foxpath.window.easel.clock import Clock
from foxpath.window.work.session import Session

FINE = ("lights", "highlights", "whiskers")
BRUSHED = ("undercoat", "restated", "lights", "highlights", "whiskers")


class Hand(QObject):
    """The painter's hand: every key ends here, and every key that says something can be taken back.

    Attributes
    ----------
    page : str
        "first" (before the sitting), "step", "end", "note" or "keys".
    index : int
        Place of the step that is shown.
    reminder : str
        Key of the reminder that stands; empty for none.
    words : str
        What was found out last, e.g. what to add to a pile.
    """

    changed = Signal()
    left = Signal()
    learned = Signal()

    def __init__(self, session: Session, clock: Clock, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.session, self.clock = session, clock
        self.close = EaselClose()
        self.steps: tuple[EaselStep, ...] = ()
        self.page, self.index = "first", 0
        self.reminder, self.words = "", ""
        self.why = 0
        self._reminded: dict[str, datetime] = {}
        self._passed_gates: set[str] = set()
        self._before_note = "step"

    # What is known --------------------------------------------------------------------------------

    @property
    def project(self) -> Project | None:
        """The painting."""
        return self.session.project

    @property
    def step(self) -> EaselStep | None:
        """The step that is shown."""
        return self.steps[self.index] if 0 <= self.index < len(self.steps) else None

    @property
    def going(self) -> bool:
        """Whether a sitting goes on."""
        return self.project is not None and open_sitting(self.project.told) is not None

    @property
    def resting(self) -> bool:
        """Whether a break goes on."""
        return self.project is not None and paused(self.project.told)

    @property
    def gate(self) -> str:
        """What must be looked at before the step is begun; empty once it was."""
        step = self.step
        return step.gate if step is not None and step.gate and step.act not in self._passed_gates else ""

    def spent(self) -> float:
        """Return the minutes that the step has taken, breaks not counted."""
        project = self.project
        now = step_now(project.told) if project is not None else None
        if project is None or now is None:
            return 0.0
        going = open_sitting(project.told)
        rest = 0.0
        last = None
        for one in going.entries if going is not None else ():
            if one.moment < now.moment:
                continue
            if one.kind == "pause":
                last = one.local
            elif one.kind == "resume" and last is not None:
                rest += (one.local - last).total_seconds() / 60
                last = None
        until = last if last is not None else self.clock.now()
        return max(0.0, (until - now.local).total_seconds() / 60 - rest)

    def timers(self) -> list[Timer]:
        """Return what runs, the most pressing first: this paint's open time, windows, the end of the sitting."""
        project, step, days = self.project, self.step, self.close.days
        if project is None or days is None or days.planned is None or not self.going:
            return []
        moment, made = self.clock.now(), []
        if step is not None:
            mine = open_timer(days.planned, project, step, moment)
            if mine is not None:
                made.append(mine)
        names = {one.number for one in self.steps}
        tasks = days.planned.layout.problem.tasks
        here = {tasks[number].id for number in names}
        made += [one for one in timers_of(days.planned, project, moment) if one.task in here and one.left(moment) > -10]
        if self.close.sitting is not None:
            going = open_sitting(project.told)
            begin = going.begin if going is not None else moment
            made.append(Timer("end", "until clean-up", begin, self.close.sitting.work[1]))
        return made

    # Opening and leaving --------------------------------------------------------------------------

    def open(self, close: EaselClose) -> None:
        """Show a sitting; one that goes on is gone on with where it was left."""
        self.close, self.steps = close, close.steps
        self.reminder, self.words = "", ""
        self.index = self._first_left()
        now = step_now(self.project.told) if self.project is not None else None
        if now is not None and self.going:
            self.index = next((k for k, one in enumerate(self.steps) if one.key == now.step), self.index)
        self.page = "step" if self.going and self.steps else "first"
        moment = self.clock.now()
        self._reminded = dict.fromkeys(REMINDERS, moment)
        self.changed.emit()

    def _first_left(self) -> int:
        how = ended(self.project.told) if self.project is not None else {}
        return next((k for k, one in enumerate(self.steps) if how.get(one.key) != "done"), 0)

    def leave(self) -> None:
        """Leave the view; the sitting goes on."""
        self.left.emit()

    # Keys -----------------------------------------------------------------------------------------

    def next(self) -> None:
        """Do what comes next: begin, confirm a look, put a reminder away, end the break, or end the step."""
        if self.page == "keys":
            self.page = "step" if self.going else "first"
        elif self.page == "first":
            self.begin()
        elif self.page == "end":
            self.finish()
        elif self.reminder:
            self._reminded[self.reminder] = self.clock.now()
            self.reminder = ""
        elif self.resting:
            self._tell("resume")
        elif self.gate and self.step is not None:
            self._passed_gates.add(self.step.act)
        else:
            self._end("done")
            return
        self.changed.emit()

    def begin(self) -> None:
        """Begin the sitting, or go on with it."""
        if not self.steps:
            return
        moment, fresh, step = self._moment(), not self.going, self.step

        def begun(p: Project) -> Project:
            if fresh:
                p = edits.tell(p, "begin", moment)
                p = edits.tell(
                    p, "room", moment, text=air_now(p.easel.sensor, moment, p.days.celsius, p.days.humidity).words()
                )
            return _with_step(p, step, moment)

        self.session.edit(begun, "begin the sitting" if fresh else "go on")
        self._show_step()

    def _begin_step(self) -> None:
        step, moment = self.step, self._moment()
        if step is not None:
            self.session.edit(lambda p: _with_step(p, step, moment), f"begin {step.part}")
        self._show_step()

    def _show_step(self) -> None:
        self.page, self.words = "step", ""
        self.changed.emit()

    def _end(self, kind: str, text: str = "") -> None:
        step, project = self.step, self.project
        if step is None or project is None:
            return
        how = ended(project.told) | {step.key: kind}
        whole = step.last and all(how.get(one.key) == "done" for one in self.steps if one.task == step.task)
        moment = self._moment()
        after = [k for k in range(self.index + 1, len(self.steps)) if how.get(self.steps[k].key) != "done"]
        following = self.steps[after[0]] if after else None

        def told(p: Project) -> Project:
            # One press is one step of the history, so that it can be taken back as one.
            return _with_step(edits.end_step(p, kind, moment, finishes=whole, text=text), following, moment)

        if not self.session.edit(told, f"{step.part} {'done' if kind == 'done' else 'left'}"):
            return
        if whole:
            self._learn_pace(step)
        if after:
            self.index = after[0]
            self._show_step()
        else:
            self.page, self.words = "end", ""
            self.changed.emit()

    def _learn_pace(self, step: EaselStep) -> None:
        """Note what a pass took once every task of it is done: later estimates learn from it."""
        project, days = self.project, self.close.days
        if project is None or days is None or days.planned is None:
            return
        work = days.planned.layout.works[0]
        tasks = days.planned.layout.problem.tasks
        role = work.roles.get(tasks[step.number].id, "")
        mine = {task.key for task in work.tasks if work.roles.get(task.id) == role and task.kind == "paint"}
        done = {one.task for one in project.days.done}
        if not role or not mine or not mine <= done:
            return
        minutes = sum(spent for task, spent in minutes_of(project.told).items() if task in mine)
        plan = next((one for one in passes_of(self.session.results, project) if one.role.key == role), None)
        if plan is not None and minutes >= LEAST_MIN:
            day = self.clock.now().date().isoformat()
            self.session.edit(
                lambda p: edits.log_pass(p, plan, minutes, day), f"{plan.role.name} took {minutes:.0f} min"
            )
            self.learned.emit()

    def back(self) -> None:
        """Go to the step before, and begin it again."""
        if self.page == "end":
            self.page = "step"
        elif self.page == "step" and self.index > 0:
            self.index -= 1
        else:
            return
        self._begin_step()

    def skip(self) -> None:
        """Leave the step for later and go on."""
        if self.page == "step":
            self._end("skip")

    def part(self) -> None:
        """Note that the step is done in part and go on."""
        if self.page == "step":
            self._end("part")

    def say(self, kind: str) -> None:
        """Say of the mark that was laid: dark, light, warm, cool, jumps or smeared; a colour opens the mix loop with that word said."""
        step, project = self.step, self.project
        if self.page != "step" or step is None or project is None:
            return
        self._tell(kind, step)
        self.words = {
            "jumps": f"{step.part}: soften its edge, or take it nearer to its neighbour.",
            "smeared": f"{step.part}: leave it until it is tacky, then lift it with a clean dry brush.",
        }.get(kind, "")
        if kind in SHIFTS and step.piles:
            first = step.piles[0]
            palette = palette_of(self.session.results, project)
            pile = next((one for k, one in enumerate(palette.piles, 1) if k == first.number), None)
            if pile is not None:
                request = AskAddition(project, first.name.capitalize(), first.lab, pile.recipe.parts, kind)
                self.words = f"{first.name.capitalize()} is too {kind}: asking …"
                self.session.runner.start("easel mix", request, self._take_words)
        self.changed.emit()

    def _take_words(self, words: str) -> None:
        self.words = words
        self.changed.emit()

    def touch(self, state: str) -> None:
        """Note that the paint under the step, or its own, is touch-dry or still tacky now."""
        step, project, days = self.step, self.project, self.close.days
        if step is None or project is None or days is None or days.planned is None:
            return
        layout = days.planned.layout
        moment = self.clock.now()
        done = {one.task: one for one in project.days.done}
        areas = areas_at(layout, days.planned.diary, layout.minute(moment))
        mine = [a for a in areas if (step.zone < 0 or a.zone == step.zone) and layout.problem.tasks[a.task].key in done]
        if not mine:
            self.words = "Nothing that was noted as done lies there yet."
            self.changed.emit()
            return
        task = layout.problem.tasks[mine[-1].task]
        layer = layer_of(days.planned, mine[-1].task)
        assert layer is not None
        note = DryNote(task.key, layer.pile, layer.name or task.act, layer.typical_h, done[task.key].end)
        if self.session.edit(lambda p: edits.note_drying(p, note, state, moment), f"{task.part} is {state}"):
            self._tell(state, step, text=f"{task.act} of {task.part}")
            self.words = (
                f"Noted: {task.act.lower()} of {task.part} is {'touch-dry' if state == 'dry' else 'still tacky'}."
            )
            self.learned.emit()
        self.changed.emit()

    def note(self, text: str) -> None:
        """Write a note about the step that is shown."""
        if text.strip():
            self._tell("note", self.step, text=text.strip())
            self.words = "Noted."
        self.page = self._before_note
        self.changed.emit()

    def ask_note(self) -> None:
        """Open the line for a note."""
        self._before_note = self.page
        self.page = "note"
        self.changed.emit()

    def photograph(self) -> None:
        """Note that a photograph was taken now."""
        self._tell("photo", self.step)
        self.words = "Photographed: add the file at the log when your hands are dry."
        self.changed.emit()

    def pause(self) -> None:
        """Begin a break, or end it."""
        if self.going:
            self._tell("resume" if self.resting else "pause")
            self.changed.emit()

    def take_back(self) -> None:
        """Take the last word back."""
        self.session.undo()
        project = self.project
        now = step_now(project.told) if project is not None else None
        if now is not None:
            self.index = next((k for k, one in enumerate(self.steps) if one.key == now.step), self.index)
            self.page = "step"
        elif not self.going:
            self.page = "first"
        self.words = "Taken back."
        self.changed.emit()

    def show_end(self) -> None:
        """Go to the end of the sitting."""
        if self.going:
            self.page = "end"
            self.changed.emit()

    def choose_reason(self, number: int) -> None:
        """Say why the rest is left: 1 to 5."""
        if self.page == "end" and 1 <= number <= len(REASONS):
            self.why = number
            self.changed.emit()

    def left_undone(self) -> list[EaselStep]:
        """Return the steps that are not done."""
        how = ended(self.project.told) if self.project is not None else {}
        return [one for one in self.steps if how.get(one.key) != "done"]

    def finish(self) -> None:
        """End the sitting; what is left undone is told with its reason, and is the next one's first page."""
        project = self.project
        if project is None:
            return
        reason = REASONS[self.why - 1] if self.why else ""
        seen: set[tuple[str, str]] = set()
        for step in self.left_undone():
            if (step.task, step.part) not in seen:
                seen.add((step.task, step.part))
                self._tell("undone", step, text=reason)
        self._tell("end")
        self.why = 0
        self.left.emit()

    # What runs by itself --------------------------------------------------------------------------

    def tick(self) -> None:
        """Look at the clock: a reminder may be due."""
        project, step = self.project, self.step
        if project is None or self.page != "step" or not self.going or self.resting or self.reminder:
            self.changed.emit()
            return
        moment = self.clock.now()
        for key in REMINDERS:
            every = getattr(project.easel, key)
            if not every or (key == "brush" and step is not None and not step.task.startswith(BRUSHED)):
                continue
            if moment - self._reminded.get(key, moment) >= timedelta(minutes=every):
                self.reminder = key
                break
        self.changed.emit()

    def reminder_words(self) -> str:
        """Say the reminder that stands."""
        project = self.project
        if not self.reminder or project is None:
            return ""
        return REMINDERS[self.reminder][1].format(metres=project.seeing.distance_m)

    def _moment(self) -> datetime:
        return self.clock.now()

    def _tell(self, kind: str, step: EaselStep | None = None, text: str = "") -> None:
        moment = self._moment()
        given = {"text": text}
        if step is not None:
            given |= {"task": step.task, "step": step.key, "part": step.part, "act": step.act}
        self.session.edit(lambda p: edits.tell(p, kind, moment, **given), f"log: {kind}")


def _with_step(project: Project, step: EaselStep | None, moment: datetime) -> Project:
    """Return a project in which a step is begun, unless it goes on already."""
    now = step_now(project.told)
    if step is None or (now is not None and now.step == step.key):
        return project
    return edits.begin_step(project, Entry("", "step", "", step.task, step.key, step.part, step.act), moment)
