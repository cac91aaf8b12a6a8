"""What the Days stop tells the painter's other paintings, in the background: the work that is left, a plan that was taken, an offer that is left."""

from collections.abc import Callable

from foxpath.core.days.told import Told
from foxpath.derive.days.plan import Planned, told_of
from foxpath.document.model import Project
from foxpath.window.stops.days.files import KeepPlan, KeepWork, LeaveOffer
from foxpath.window.work.session import Session


class Telling:
    """Keeps the others informed of one painting at a time, and says nothing twice."""

    def __init__(self, session: Session) -> None:
        self.session = session
        self._last: Told | None = None

    def begin_anew(self) -> None:
        """Forget what was told last: another painting was opened."""
        self._last = None

    def work_left(self, project: Project, planned: Planned) -> None:
        """Keep what is left of a painting, once a plan of it was taken and whenever it has changed since."""
        if not project.days.plan:
            return
        told = told_of(project, planned.layout.works[0])
        if told != self._last:
            self._last = told
            self._start("keep work", KeepWork(told))

    def plan_taken(self, project: Project, planned: Planned) -> None:
        """Keep a plan that was taken, and offer the paintings it was laid together with their share."""
        self._last = told_of(project, planned.layout.works[0])
        others = len(planned.layout.others())
        if others:
            whose = "other paintings wait in their" if others > 1 else "other painting waits in its"
            self.session.said.emit(f"Taken. What is planned of the {whose} Days.", "note")
        self._start("keep plan", KeepPlan(self._last, planned))

    def offer_left(self, project: Project, planned: Planned) -> None:
        """Leave a plan that was offered: the painting's own stands again, and is read anew."""
        self._start("leave offer", LeaveOffer(told_of(project, planned.layout.works[0])), self.session.read_anew)

    def _start(
        self, key: str, request: KeepWork | KeepPlan | LeaveOffer, then: Callable[[], None] = lambda: None
    ) -> None:
        self.session.runner.start(
            key, request, lambda _: then(), failed=lambda words: self.session.said.emit(words, "must"), writes=True
        )
