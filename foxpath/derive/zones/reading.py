"""What is said of the zones: their numbers, where they are seen, and what none of them covers."""

from foxpath.core.findings import Finding
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.frames import growth_frame
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import bare_share, growing, mask_key, mask_of, tag_spot
from foxpath.document.model import Project

BARE_SHARE = 0.005
"""Canvas that no zone covers is worth a finding from this share on."""


def zone_numbers(project: Project) -> dict[str, int]:
    """Return the number each zone is shown by: its place from the back, starting with 1."""
    return {zone.id: k for k, zone in enumerate(project.back_to_front(), 1)}


def zone_tags(results: Results, project: Project) -> dict[str, tuple[float, float]]:
    """Return where each zone's number stands, reference pixels, by its id; none for a hidden one."""
    frame, tags = growth_frame(project), {}
    for index, zone in enumerate(project.back_to_front()):
        key = ("tag", mask_key(results, project, index, frame))
        spot = results.memo.get(key, lambda index=index: tag_spot(results, project, index))  # type: ignore[misc]
        if spot is not None:
            tags[zone.id] = spot
    return tags


def zone_findings(results: Results, project: Project, progress: Progress = SILENT) -> list[Finding]:
    """Return what is wrong with the zones: none outlined, canvas left bare, one hidden."""
    found: list[Finding] = []
    if len(project.zones) < 2:
        found.append(
            Finding("look", "No part is outlined yet.", "only the background is planned · outline the animal", "zones")
        )
    bare = bare_share(results, project)
    if bare > BARE_SHARE:
        found.append(
            Finding(
                "must",
                "Part of the canvas belongs to no zone.",
                f"{bare * project.canvas.area_cm2:.0f} cm² would stay bare ground · let a zone cover it",
                "zones",
            )
        )
    frame = growth_frame(project)
    for index, zone in growing(project):
        if not mask_of(results, project, index, frame).any():
            found.append(
                Finding(
                    "look",
                    f"{zone.name} is hidden.",
                    "other zones cover all of it · move it forward or remove it",
                    "zones",
                    zone.id,
                )
            )
    return found
