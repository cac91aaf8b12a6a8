"""What the photograph suggests for a zone's coat: the length and width of the hair it shows, and whether that is short or long fur.

A suggestion decides nothing. It is read only while the Lengths stop is open.
"""

from dataclasses import dataclass
from math import log

from foxpath.core.growth.evidence import hair_shown, log_luminance, scale_for
from foxpath.core.lengths.visible import Visible, looks_like, visible_hair
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import mm_words
from foxpath.derive.frames import growth_frame
from foxpath.derive.growth.fields import EVIDENCE_PX, evidence_of, growth_key, growth_of
from foxpath.derive.lengths.field import SHOWN
from foxpath.derive.pictures import scaled_measured
from foxpath.derive.results import Results
from foxpath.document.model import Project, Zone

COATS = ("short-fur", "long-fur")
"""Kinds between which the picture can tell; others are told by the painter."""
AWAY = log(1.15)
"""A suggestion nearer to the zone's own length than this says nothing new."""


@dataclass(frozen=True, slots=True)
class Suggestion:
    """What the photograph suggests of a coat.

    Attributes
    ----------
    length_mm, width_mm : float
        On the canvas.
    seen : Visible
    kind : str
        Key of the kind that this length speaks for, where the zone is of another; else empty.
    """

    length_mm: float
    width_mm: float
    seen: Visible
    kind: str

    def length_words(self) -> str:
        """Say the length with its doubt."""
        if self.seen.least:
            return f"{mm_words(self.length_mm)} or more"
        low, high = self.length_mm / self.seen.doubt, self.length_mm * self.seen.doubt
        return f"{mm_words(self.length_mm)} ({mm_words(low)} to {mm_words(high)})"

    def width_words(self) -> str:
        """Say the width, and whether it may be the photograph's blur."""
        return f"{mm_words(self.width_mm)} or finer" if self.seen.blurred else mm_words(self.width_mm)

    def differs(self, length_mm: float) -> bool:
        """Return whether it says something new of a zone whose hair is planned so long."""
        if self.seen.least:
            return length_mm < self.length_mm
        return abs(log(length_mm / self.length_mm)) > AWAY


def suggested_of(results: Results, project: Project, index: int, progress: Progress = SILENT) -> Suggestion | None:
    """Return what the photograph suggests for a zone's coat, or None where it does not say. Raises `Cancelled`."""
    zone = project.back_to_front()[index]
    kind = zone.kind_of()
    if not kind.hair or not kind.cover or kind.feathers:
        return None
    field = growth_of(results, project, index, progress)
    if field is None:
        return None

    def make() -> Visible | None:
        evidence = evidence_of(results, project, progress)
        crop = project.crop
        scale = min(1.0, EVIDENCE_PX / max(crop.width, crop.height))
        size = (max(16, round(crop.width * scale)), max(16, round(crop.height * scale)))
        height, width = field.inside.shape
        window = (slice(field.row, field.row + height), slice(field.column, field.column + width))
        # By the length as planned the scale would follow the plan, and the picture would seem to confirm it.
        at = scale_for(evidence, field.whole(), USUAL_PX)
        shown = hair_shown(evidence.weight[at][window]) > SHOWN
        seen = field.inside & shown
        if not seen.any():
            return None
        coherence = float(evidence.coherence[at][window][seen].mean())
        return visible_hair(log_luminance(scaled_measured(results, project, *size)), scale, field, shown, coherence)

    key = ("visible hair", growth_key(results, project, index, growth_frame(project)))
    seen: Visible | None = results.memo.get(key, make)
    return None if seen is None else _on_canvas(project, zone, seen)


HIDDEN = 5.0
"""Hair may be this many times as long as what can be followed of it between other hairs."""
USUAL_PX = 20.0
"""Length of hair, pixels, by which the picture is read for a suggestion."""


def _on_canvas(project: Project, zone: Zone, seen: Visible) -> Suggestion:
    length, width = seen.length_px * project.mm_per_px, seen.width_px * project.mm_per_px
    side = max(project.canvas.width_mm, project.canvas.height_mm)
    kind = looks_like(length, side)
    # Hair may be longer than it looks, where other hair lies over it: long fur is told sooner than short.
    clear = kind == "long-fur" or (not seen.least and looks_like(HIDDEN * length, side) == kind)
    told = zone.kind in COATS and kind != zone.kind and clear
    return Suggestion(length, min(width, length / 3), seen, kind if told else "")
