"""What the pages of the Eyes stop have in common: a body for the bench, an overlay, and gestures."""

from foxpath.core.findings import Finding
from foxpath.derive.eyes.reading import EyesReading
from foxpath.derive.subjects import EYES
from foxpath.window.stops.on_picture import Point
from foxpath.window.stops.part import Part


class Page(Part):
    """One page of the stop."""

    code, title = "", ""

    @property
    def reading(self) -> EyesReading:
        """What is known of eyes and features; nothing as long as it is being read."""
        readings = self.session.readings
        return readings.of(EYES) if readings is not None else EyesReading()

    def next_step(self) -> tuple[str, str, str]:
        """Return sentence, reason and button of the next step."""
        return "", "", ""

    def take_next(self) -> None:
        """Take the next step."""

    def show_finding(self, finding: Finding) -> None:
        """Fly to what a finding is about."""

    def take_back(self) -> bool:
        """Take back the last piece of a gesture that is half made; returns False when there is none."""
        return False

    def hover(self, at: Point) -> None:
        """The pointer moved."""
