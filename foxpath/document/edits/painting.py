"""The painting as a whole: begun, named, its canvas, crop and focal point, and the hand that rehearses it."""

from dataclasses import replace

import numpy as np

from foxpath.core.frame import Crop
from foxpath.core.reference import canvas_for, fitted
from foxpath.core.text import sound_text
from foxpath.core.units import CanvasSize
from foxpath.document.edits.zones import add_zone
from foxpath.document.model import Project
from foxpath.document.pictures import reference_of


def new_project(data: bytes, file_name: str, canvas: CanvasSize, name: str = "") -> Project:
    """Start a project from a picture's bytes: the largest centred crop, one background zone.

    Raises
    ------
    PictureError
        When the bytes are no picture that can be read.
    """
    reference = reference_of(file_name, data)
    width, height = reference.width, reference.height
    file_name = sound_text(file_name)
    title = name or file_name.rsplit(".", 1)[0].replace("_", " ").replace("-", " ").strip() or "Untitled"
    project = Project(title, reference, canvas, canvas_for(width, height, canvas))
    return add_zone(project, "Background", "background", np.zeros((0, 2)), depth=0)[0]


def rename(project: Project, name: str) -> Project:
    """Give the project another name; an empty one changes nothing."""
    name = sound_text(name).strip()[:120]
    return replace(project, name=name) if name else project


def another_hand(project: Project, further: int = 1) -> Project:
    """Let another hand rehearse it: every mark is laid elsewhere by chance, and nothing of the plan changes."""
    return replace(project, seed=(project.seed + further) % 2**32)


def set_canvas(project: Project, canvas: CanvasSize) -> Project:
    """Change the size of the canvas; the crop keeps its centre and takes the new aspect."""
    crop = fitted(project.crop, project.reference.width, project.reference.height, canvas)
    return replace(project, canvas=canvas, crop=crop)


def set_crop(project: Project, crop: Crop) -> Project:
    """Move or size the crop; it is brought to the canvas's aspect and into the picture."""
    return replace(project, crop=fitted(crop, project.reference.width, project.reference.height, project.canvas))


def set_focal(project: Project, focal: tuple[float, float] | None) -> Project:
    """Put the focal point somewhere, or back to where the eyes are."""
    return replace(project, focal=focal)
