"""What a pass takes on the bench of Passes: the estimate, what it took, and the pace that is learned from that."""

from datetime import UTC, datetime

from PySide6.QtWidgets import QWidget

from foxpath.core.errors import AppError
from foxpath.core.passes import PassPlan
from foxpath.core.units import about, duration_words
from foxpath.document import edits, paces
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Button, Link, Measure, Scale
from foxpath.window.bench.rows import Section, Words
from foxpath.window.work.session import Session

TOOK = Scale(5, 3000, duration_words, ratio=True)


class TimePanel(QWidget):
    """Note what a pass took when it is painted."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.plan: PassPlan | None = None
        self._said = False
        self.head = Section("Time", "")
        self.words = Words("", 12.5)
        self.took = Measure("It took", TOOK)
        self.took.changed.connect(self._taken)
        self.note = Button("Note it as painted")
        self.note.clicked.connect(self.log)
        self.noted = Words("", 12.5, "text")
        self.forget = Link("take the note back")
        self.forget.clicked.connect(self._forget)
        self.pace = Words("", 12.5)
        stack(self, self.head, self.words, self.took, self.note, self.noted, self.forget, self.pace)

    def show_pass(self, project: Project, plan: PassPlan) -> None:
        """Show what a pass is thought to take, and what it took."""
        if self.plan is None or self.plan.role.key != plan.role.key:
            self._said = False
        self.plan = plan
        noted = next((one for one in project.noted if one.role == plan.role.key), None)
        area = sum(one.area_cm2 for one in plan.estimates.values())
        self.head.set_words("Time", duration_words(plan.minutes))
        self.words.set_words(
            f"About {about(plan.marks)} marks and {about(area)} cm² of paint, overlaps counted, in {duration_words(plan.minutes)}."
        )
        if not self._said:
            self.took.set_value(
                noted.taken_min if noted is not None else plan.minutes, plan.minutes, decided=noted is not None
            )
        self.note.setVisible(noted is None or self._said)
        for part in (self.noted, self.forget):
            part.setVisible(noted is not None)
        if noted is not None:
            when = f" on {noted.day}" if noted.day else ""
            self.noted.set_words(f"Painted in {duration_words(noted.taken_min)}{when}.")
        self.pace.set_words(project.pace.words())

    def _taken(self, value: float, _going: bool) -> None:  # noqa: FBT001  (a slot)
        self._said = True
        self.took.set_value(value, self.took.default, decided=True)
        self.note.setVisible(True)

    def log(self) -> None:
        """Note that the pass is painted, and what it took; later paintings learn from it too."""
        plan, minutes = self.plan, self.took.value
        if plan is None:
            return
        self._said = False
        day = datetime.now(tz=UTC).astimezone().date().isoformat()
        if self.session.edit(
            lambda p: edits.log_pass(p, plan, minutes, day), f"note {plan.role.name.lower()} as painted"
        ):
            self._keep(f"{plan.role.name} noted: {duration_words(minutes)}.")

    def _keep(self, words: str) -> None:
        """Let later paintings learn from it."""
        project = self.session.project
        assert project is not None
        try:
            paces.keep(project)
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            return
        self.session.said.emit(words, "note")

    def _forget(self) -> None:
        plan = self.plan
        if plan is not None:
            self._said = False
            if self.session.edit(lambda p: edits.forget_log(p, plan.role.key), "take a note back"):
                self._keep("The note is taken back.")
