"""Growth taken from another zone, on the bench of Growth: as a mirror twin, or borrowed."""

from PySide6.QtWidgets import QWidget

from foxpath.document import edits
from foxpath.document.model import MARKS, Project, Zone
from foxpath.window.bench.bench import stack
from foxpath.window.bench.controls import Button
from foxpath.window.bench.rows import Row, Rows
from foxpath.window.work.session import Session


class FollowPanel(QWidget):
    """Two ways to follow a zone, and the zones to choose from when one is taken."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self._follow = ""
        self.twin = Button("Grow as a mirror twin")
        self.twin.clicked.connect(self._ask_twin)
        self.donor = Button("Borrow from another zone")
        self.donor.clicked.connect(self._ask_donor)
        self.rows = Rows("the zone to follow")
        self.rows.chosen.connect(self._follow_zone)
        stack(self, self.twin, self.donor, self.rows)

    def _again(self) -> None:
        project = self.session.project
        zone = project.zone(self.session.chosen["zone"]) if project is not None else None
        if project is not None:
            self.refresh(project, zone if zone is not None and zone.kind_of().hair else None)

    def refresh(self, project: Project, zone: Zone | None) -> None:
        """Offer it for a zone of hair; None for no such zone."""
        for part in (self.twin, self.donor):
            part.setVisible(zone is not None)
        self.rows.setVisible(zone is not None and bool(self._follow))
        if zone is None or not self._follow:
            return
        others = [z for z in project.zones if z.kind_of().hair and z.id != zone.id and not z.whole]
        twin = {"near": "far", "far": "near"}.get(zone.name.split(" ")[0].lower(), "")
        named = f"{twin} {' '.join(zone.name.lower().split(' ')[1:])}"
        # The part on the other side of the head comes first.
        others.sort(key=lambda z: z.name.lower() != named)
        self.rows.set_rows([Row(z.id, z.name, "its other side" if z.name.lower() == named else "") for z in others], "")

    def _ask_twin(self) -> None:
        self._follow = "" if self._follow == "twin" else "twin"
        self._again()

    def _ask_donor(self) -> None:
        self._follow = "" if self._follow == "donor" else "donor"
        self._again()

    def _follow_zone(self, source: str) -> None:
        kind, zone = self._follow, self.session.chosen["zone"]
        self._follow = ""
        self.session.edit(lambda p: edits.add_mark(p, kind, zone, None, 0.0, source)[0], MARKS[kind])
        self._again()
