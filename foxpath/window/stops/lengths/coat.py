"""The numbers of a zone's coat on the bench: each a measure that decides, and gives back to the default."""

from collections.abc import Sequence

from PySide6.QtWidgets import QVBoxLayout, QWidget

from foxpath.core.lengths import default_coat
from foxpath.core.units import mm_words, percent
from foxpath.document import edits
from foxpath.document.model import Project, Zone
from foxpath.window.bench.controls import Measure, Scale
from foxpath.window.work.session import Session

SCALES: dict[str, tuple[str, Scale]] = {
    "length_mm": ("Length", Scale(0.5, 200, mm_words, ratio=True)),
    "width_mm": ("Width", Scale(0.1, 20, mm_words, ratio=True)),
    "spread_deg": ("Spread", Scale(0, 60, lambda v: f"± {v:.0f}°", step=1)),
    "clump_mm": ("Clumps", Scale(0, 20, lambda v: mm_words(v) if v else "none", step=0.1)),
    "curl_deg": ("Curl", Scale(0, 300, lambda v: f"{v:.0f}°" if v else "straight", step=5)),
    "stray_share": ("Strays", Scale(0, 0.3, percent, step=0.01)),
}


class CoatMeasures(QWidget):
    """Some numbers of the chosen zone's coat.

    Parameters
    ----------
    session : Session
    names : sequence of str
        Fields of `Coat`, in the order they stand.
    """

    def __init__(self, session: Session, names: Sequence[str]) -> None:
        super().__init__()
        self.session = session
        self.measures: dict[str, Measure] = {}
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(3)
        for name in names:
            measure = Measure(*SCALES[name])
            measure.setObjectName(name)
            measure.changed.connect(self._decide)
            measure.reset.connect(self._give_back)
            layout.addWidget(measure)
            self.measures[name] = measure

    def show_zone(self, project: Project, zone: Zone | None) -> None:
        """Show the coat of a zone; nothing without one."""
        self.setVisible(zone is not None)
        if zone is None:
            return
        coat, plain = project.coat_of(zone), default_coat(zone.kind_of(), project.canvas)
        for name, measure in self.measures.items():
            decided = getattr(zone.coat, name) is not None
            measure.set_value(getattr(coat, name), getattr(plain, name), decided=decided)

    def _decide(self, value: float, going: bool) -> None:  # noqa: FBT001  (a slot)
        name, zone = self.sender().objectName(), self.session.chosen["zone"]
        self.session.edit(lambda p: edits.set_coat(p, zone, **{name: value}), "change the coat", f"{name} {zone}")
        if not going:
            self.session.seal()

    def _give_back(self) -> None:
        name, zone = self.sender().objectName(), self.session.chosen["zone"]
        self.session.edit(lambda p: edits.set_coat(p, zone, **{name: None}), "coat back to the default")
