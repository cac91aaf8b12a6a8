"""What is said of the growth: how sure it is, zone by zone, and where the picture speaks against a comb."""

from dataclasses import dataclass, field
from functools import partial

from foxpath.core.findings import Finding
from foxpath.core.growth import Singular, ZoneField, best_spot
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import percent
from foxpath.derive.growth.fields import contradictions, growth_key, growth_of, singular_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import growing
from foxpath.derive.zones.whiskers import drawn_whisker_zones
from foxpath.document.model import Comb, Project

UNSURE_CM2 = 12.0
"""Unsure growth over less than this is not worth a finding."""


@dataclass(frozen=True, slots=True, eq=False)
class FieldReading:
    """What the bench says about a zone's growth.

    Attributes
    ----------
    combed : bool
    sure_share : float
    unsure_cm2 : float
    spot : (x, y) or None
        Where the next comb would help most, reference pixels.
    gain_cm2 : float
        By how much doubt is expected to fall there.
    singular : tuple of Singular
        Crowns, gatherings, loops and deltas.
    guessed_share : float
        Share of the zone whose root end is only guessed.
    """

    combed: bool
    sure_share: float
    unsure_cm2: float
    spot: tuple[float, float] | None
    gain_cm2: float = 0.0
    singular: tuple[Singular, ...] = ()
    guessed_share: float = 0.0


@dataclass(frozen=True, slots=True, eq=False)
class GrowthReading:
    """What is said of the growth.

    Attributes
    ----------
    fields : dict of zone id to FieldReading
        None for a hidden zone.
    against : tuple of (Comb, angle)
        The combs the picture speaks against, degrees.
    """

    fields: dict[str, FieldReading] = field(default_factory=dict)
    against: tuple[tuple[Comb, float], ...] = ()


def read_growth(results: Results, project: Project, progress: Progress = SILENT) -> GrowthReading:
    """Return what is said of the growth. Raises `Cancelled`."""
    fields: dict[str, FieldReading] = {}
    zones = growing(project)
    for (index, zone), part in zip(zones, progress.parts(max(1, len(zones))), strict=False):
        part.at(0, f"filling growth, {zone.name.lower()}")
        grown = growth_of(results, project, index, part)
        if grown is not None:
            key = ("reading", growth_key(results, project, index, grown.frame))
            fields[zone.id] = results.memo.get(key, partial(_read_field, results, project, index, grown))
    return GrowthReading(fields, tuple(contradictions(results, project)))


def _read_field(results: Results, project: Project, index: int, grown: ZoneField) -> FieldReading:
    spot, gain = best_spot(grown)
    guessed = float((grown.inside & ~grown.rooted).sum()) / max(int(grown.inside.sum()), 1)
    singular = singular_of(results, project, index)
    return FieldReading(grown.combed, grown.sure_share(), grown.unsure_cm2(), spot, gain, singular, guessed)


def growth_findings(results: Results, project: Project, progress: Progress = SILENT) -> list[Finding]:
    """Return zones without a comb, unsure growth, and combs the picture speaks against. Raises `Cancelled`."""
    found: list[Finding] = []
    drawn = drawn_whisker_zones(project)
    for index, zone in growing(project):
        if zone.id in drawn:
            continue
        grown = growth_of(results, project, index, progress)
        if grown is None:
            continue
        if not grown.combed:
            found.append(
                Finding(
                    "look",
                    f"{zone.name} has no comb.",
                    "root and tip are only guessed · one comb along the hair settles it",
                    "growth",
                    zone.id,
                )
            )
        elif grown.unsure_cm2() > UNSURE_CM2:
            found.append(
                Finding(
                    "look",
                    f"{zone.name}: {grown.unsure_cm2():.0f} cm² unsure.",
                    f"{percent(1 - grown.sure_share())} less than half sure · comb it",
                    "growth",
                    zone.id,
                )
            )
    numbers = {comb.id: k for k, comb in enumerate(project.combs, 1)}
    for comb, angle in contradictions(results, project):
        where = project.zone(comb.zone)
        found.append(
            Finding(
                "look",
                f"The picture speaks against comb {numbers[comb.id]}, {where.name.lower() if where else 'no zone'}.",
                f"its hair lies {abs(angle):.0f}° off that comb · keep the comb, turn it or drop it",
                "growth",
                comb.id,
            )
        )
    return found
