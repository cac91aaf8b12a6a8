"""What is said of lengths, feathers and markings."""

from dataclasses import dataclass, field

from foxpath.core.feathers import Feathers
from foxpath.core.findings import Finding
from foxpath.core.lengths import LengthField
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import percent
from foxpath.derive.growth.reading import UNSURE_CM2
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.lengths.feathers import feathered, feathers_of
from foxpath.derive.lengths.field import hair_share, lengths_of
from foxpath.derive.lengths.suggested import Suggestion, suggested_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import growing
from foxpath.document.model import Project, Zone

FEW_SHOWN = 0.4
"""Below this share of a part the photograph does not show what its hair is like."""


@dataclass(frozen=True, slots=True, eq=False)
class LengthsClose:
    """What only the stops Lengths and Edges show.

    Attributes
    ----------
    lengths : LengthField or None
        Length and width of the marks everywhere.
    feathers : dict of zone id to Feathers
    hair_shares : dict of zone id to float
        On what share of a zone the photograph shows hair.
    suggested : dict of zone id to Suggestion
        What the photograph suggests for the coat of zones whose length nobody has said.
    """

    lengths: LengthField | None = None
    feathers: dict[str, Feathers] = field(default_factory=dict)
    hair_shares: dict[str, float] = field(default_factory=dict)
    suggested: dict[str, Suggestion] = field(default_factory=dict)


def unsaid(project: Project) -> list[tuple[int, Zone]]:
    """Return the zones of hair, with their numbers, whose length is still the default."""
    fanned = {fan.zone for fan in project.fans}
    return [
        (index, zone)
        for index, zone in growing(project)
        if zone.kind_of().cover
        and zone.coat.length_mm is None
        and project.donor_of(zone.id) is None
        and zone.id not in fanned
    ]


def close_lengths(results: Results, project: Project, progress: Progress = SILENT) -> LengthsClose:
    """Return the lengths everywhere, the feathers, and where hair is seen. Raises `Cancelled`."""
    return LengthsClose(
        lengths_of(results, project, progress),
        {zone.id: feathers_of(results, project, index, progress) for index, zone in feathered(project)},
        {z.id: hair_share(results, project, k) for k, z in growing(project) if z.kind_of().cover},
        {z.id: seen for k, z in unsaid(project) if (seen := suggested_of(results, project, k, progress)) is not None},
    )


def unshown_findings(results: Results, project: Project, progress: Progress = SILENT) -> list[Finding]:
    """Name the parts on which the photograph shows hardly any hair, and whose length nobody has said."""
    silent = [one for one in unsaid(project) if facts_of(results, project)[one[0]].area_cm2 > UNSURE_CM2]
    found = []
    for index, zone in silent:
        share = hair_share(results, project, index)
        if share < FEW_SHOWN:
            found.append(
                Finding(
                    "look",
                    f"The photograph hardly shows the hair of {zone.name.lower()}.",
                    f"hair on {percent(share)} of it, the length is a default · measure it elsewhere, or borrow from a donor",
                    "lengths",
                    zone.id,
                )
            )
    return found
