"""Growth over a bare picture, for the command line: an outline, parts with borders of their own, combs."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Points
from foxpath.core.frame import Frame
from foxpath.core.growth import CombStroke, prior_field, zone_field
from foxpath.core.zones import fill


@dataclass(frozen=True, slots=True, eq=False)
class PictureGrowth:
    """Growth at every pixel.

    Attributes
    ----------
    angle_deg : (H, W) float32
        Root to tip, -180..180, atan2(dy, dx) with y down; NaN outside the outline.
    sure : (H, W) float32, 0..1
    """

    angle_deg: F32
    sure: F32


def growth_of_picture(
    outline: Points, parts: dict[str, Points], combs: Sequence[Points], frame: Frame
) -> PictureGrowth:
    """Fill in growth inside an outline of a picture.

    Parameters
    ----------
    outline : (N, 2) float64
        A polygon in pixels.
    parts : dict of name to (N, 2) float64
        Parts inside it that are solved by themselves; the later lies in front.
    combs : sequence of (N, 2) float64
        Each speaks for the part under most of it.
    frame : Frame
        The working grid, over the whole picture.
    """
    width, height = round(frame.crop.width), round(frame.crop.height)
    polygons = [outline, *parts.values()]
    labels = np.full(frame.shape, -1, np.int16)
    whole = fill(frame.to_grid(outline), frame.shape)
    labels[whole] = 0
    for index, polygon in enumerate(polygons[1:], 1):
        labels[fill(frame.to_grid(polygon), frame.shape) & whole] = index
    owned: list[list[CombStroke]] = [[] for _ in polygons]
    for comb in combs:
        at = np.floor(frame.to_grid(comb)).astype(int)
        j, i = np.clip(at[:, 0], 0, frame.columns - 1), np.clip(at[:, 1], 0, frame.rows - 1)
        under = labels[i, j]
        if (under >= 0).any():
            owned[int(np.bincount(under[under >= 0]).argmax())].append(CombStroke(comb))
    guess = prior_field(frame, np.zeros((0, 2)))
    fields = []
    for index in range(len(polygons)):
        mask = labels == index
        fields.append(zone_field(mask, owned[index], frame, guess) if mask.any() else None)
    # Up to the picture's own pixels: part by part, so that no direction is averaged across a border.
    angle = np.full((height, width), np.nan, np.float32)
    surely = np.zeros((height, width), np.float32)
    fine_whole = fill(outline, (height, width))
    fine = np.full((height, width), -1, np.int16)
    fine[fine_whole] = 0
    for index, polygon in enumerate(polygons[1:], 1):
        fine[fill(polygon, (height, width)) & fine_whole] = index
    for index, field in enumerate(fields):
        if field is None:
            continue
        rows, columns = np.nonzero(fine == index)
        if not len(rows):
            continue
        at = np.stack([columns + 0.5, rows + 0.5], axis=1)
        vectors, known = field.sample(at)
        angle[rows, columns] = np.degrees(np.arctan2(vectors[:, 1], vectors[:, 0]))
        surely[rows, columns] = known
    return PictureGrowth(angle, surely)
