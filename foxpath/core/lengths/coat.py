"""The coat of a zone: a default by kind, what the painter decided over it, and what was measured."""

from dataclasses import dataclass, fields

from foxpath.core.arrays import Points
from foxpath.core.curves import line_length
from foxpath.core.units import CanvasSize
from foxpath.core.zones.kinds import Coat, Kind

USUAL_CANVAS_MM = 500.0
"""Longer side of the canvas the kinds' coats are written for."""

COAT_RANGES: dict[str, tuple[float, float]] = {
    "length_mm": (0.5, 300.0),
    "width_mm": (0.1, 40.0),
    "spread_deg": (0.0, 90.0),
    "clump_mm": (0.0, 60.0),
    "stray_share": (0.0, 0.5),
    "curl_deg": (0.0, 360.0),
}
"""Least and most of each number of a coat."""


@dataclass(frozen=True, slots=True)
class CoatEdit:
    """What the painter decided of a coat; None keeps the default. Units as in `Coat`."""

    length_mm: float | None = None
    width_mm: float | None = None
    spread_deg: float | None = None
    clump_mm: float | None = None
    stray_share: float | None = None
    curl_deg: float | None = None


def default_coat(kind: Kind, canvas: CanvasSize) -> Coat:
    """Return the kind's coat brought to the size of the canvas."""
    return kind.coat.scaled(max(canvas.width_mm, canvas.height_mm) / USUAL_CANVAS_MM)


def resolved(coat: Coat, edit: CoatEdit) -> Coat:
    """Return the coat with the painter's decisions over it, each kept within `COAT_RANGES`."""
    values: dict[str, float] = {}
    for field in fields(Coat):
        chosen = getattr(edit, field.name)
        value = getattr(coat, field.name) if chosen is None else chosen
        least, most = COAT_RANGES[field.name]
        values[field.name] = min(max(float(value), least), most)
    return Coat(**values)


def measured_mm(points_px: Points, mm_per_px: float) -> float:
    """Return the length of a stroke dragged along a hair (reference pixels), mm on the canvas."""
    return line_length(points_px) * mm_per_px
