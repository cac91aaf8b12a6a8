"""The check of a drawing: squared up, every feature looked for on it."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Points, Rgb8, frozen
from foxpath.core.curves import closed_curve, open_curve
from foxpath.core.errors import InputError
from foxpath.core.features import (
    FEATURES,
    Shift,
    Target,
    Verdict,
    find_shift,
    line_map,
    marked_shift,
    squared_up,
    verdicts,
)
from foxpath.core.features.drawing import REACH
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.pictures import picture_of
from foxpath.derive.results import Results
from foxpath.document.model import Project, as_array


@dataclass(frozen=True, slots=True, eq=False)
class DrawingCheck:
    """What was found on a drawing.

    Attributes
    ----------
    flat : (H, W, 3) uint8
        The drawing squared up: the canvas from corner to corner.
    verdicts : tuple of Verdict
        Worst first.
    placed : dict of key to lines
        Where each feature stands on the drawing, reference pixels.
    planned : dict of key to lines
        Where it should stand, reference pixels.
    """

    flat: Rgb8
    verdicts: tuple[Verdict, ...]
    placed: dict[str, tuple[Points, ...]]
    planned: dict[str, tuple[Points, ...]]


def targets(project: Project) -> list[Target]:
    """Return what can be found on a drawing: every eye with lids and pupil, every feature, by its lines on the canvas, mm."""
    made = []
    for eye in project.eyes:
        iris = np.vstack([eye.iris.outline(48), eye.iris.outline(48)[:1]])
        lines = [iris[eye.open_at(iris)] if eye.covered() > 0.02 else iris]
        lines += [line for which in ("upper", "lower") if len(line := eye.lid_curve(which)) > 2]
        lines.append(np.vstack([eye.pupil.outline(32), eye.pupil.outline(32)[:1]]))
        made.append((eye.id, eye.name, lines))
    for feature in project.features:
        kind = FEATURES[feature.kind]
        lines = []
        for stroke in feature.strokes:
            part = kind.part(stroke.part)
            if part is None or part.paint in {"hair", "light", "shine"}:
                continue
            line = closed_curve(stroke.line(), 6) if part.closed else open_curve(stroke.line(), 6)
            lines.append(np.vstack([line, line[:1]]) if part.closed else line)
        if lines:
            made.append((feature.id, feature.name, lines))
    marked = {name.lower() for _, name, _ in made}
    # Ears, nose and beak that are outlined only as zones.
    for zone in project.zones:
        low = zone.name.lower()
        if zone.whole or low in marked or not ("ear" in low.split() or low in {"nose", "beak", "head"}):
            continue
        line = zone.shape.outline()
        made.append((zone.id, zone.name, [np.vstack([line, line[:1]])]))
    corner, k = (project.crop.x, project.crop.y), project.mm_per_px
    return [
        Target(key, name, tuple((line - corner) * k for line in lines if len(line) > 2)) for key, name, lines in made
    ]


def check_drawing(results: Results, project: Project, progress: Progress = SILENT) -> DrawingCheck:
    """Square the drawing up, find every feature on it, and say what to move.

    Raises
    ------
    InputError
        Without a drawing, or without anything to look for.
    Cancelled
    """
    drawing = project.drawing
    if drawing is None:
        raise InputError("There is no drawing to check.", "Open a photograph of it at Eyes.")
    wanted = targets(project)
    if not wanted:
        raise InputError("Nothing is marked to look for.", "Mark the eyes first, then nose and ears.")
    picture = picture_of(results, drawing.reference)
    canvas = project.canvas
    progress.at(0.05, "squaring the drawing up")
    key = ("flat", drawing.reference.digest, drawing.corners, canvas.width_mm, canvas.height_mm)

    def flatten() -> tuple[Rgb8, float]:
        flat, scale = squared_up(
            picture.rgb, as_array(drawing.corners) * picture.scale, canvas.width_mm, canvas.height_mm
        )
        return frozen(flat), scale

    flat, scale = results.memo.get(key, flatten)
    lines = results.memo.get(("lines of", *key), lambda: frozen(line_map(flat, scale)))
    by_hand = dict(drawing.marked)
    corner, k = np.array([project.crop.x, project.crop.y]), project.mm_per_px
    reach = REACH * max(canvas.width_mm, canvas.height_mm)
    shifts: list[Shift] = []
    for number, target in enumerate(wanted):
        progress.at(0.1 + 0.9 * number / len(wanted), f"looking for {target.name.lower()}")
        if target.key in by_hand:
            drawn = [(as_array(line) - corner) * k for line in by_hand[target.key]]
            shifts.append(marked_shift(target, drawn))
            continue
        found = ("shift", key, target.key, tuple(line.tobytes() for line in target.lines_mm))
        shifts.append(results.memo.get(found, lambda target=target: find_shift(lines, scale, target, reach)))  # type: ignore[misc]
    sizes = {target.key: target.size() for target in wanted}
    placed = {
        target.key: tuple(line / k + corner for line in shift.placed(target.lines_mm, target.middle()))
        for target, shift in zip(wanted, shifts, strict=True)
    }
    planned = {target.key: tuple(line / k + corner for line in target.lines_mm) for target in wanted}
    return DrawingCheck(flat, tuple(verdicts(shifts, sizes)), placed, planned)


@dataclass(frozen=True, slots=True)
class CheckDrawing:
    """Check the drawing."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> tuple[Project, DrawingCheck]:
        """Return the project and what was found. Raises `InputError` or `Cancelled`."""
        return self.project, check_drawing(self.results, self.project, progress)
