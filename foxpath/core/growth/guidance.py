"""What to look at next: combs the picture speaks against, and the place where one more comb would help most."""

import math

import numpy as np

from foxpath.core.arrays import Bool, Points
from foxpath.core.frame import Frame
from foxpath.core.growth.axis import doubled
from foxpath.core.growth.cells import CombStroke, comb_cells, grown, unit_of
from foxpath.core.growth.evidence import Evidence, hair_shown, scale_for
from foxpath.core.growth.field import ZoneField
from foxpath.core.growth.sureness import REACH

OVERRULES_DEG = 45.0
"""A comb this far off the picture's axis is nearer to lying across it than along: what shows there is a marking or a fold, not the hair,
and round the comb the picture should have no say (`zone_field`'s `quiet`)."""


def disagreement(comb: Points, evidence: Evidence, mask: Bool, frame: Frame, length_px: float) -> tuple[float, float]:
    """Return by how many degrees the picture's axis lies off a comb's, -90 to 90 clockwise, and how sure it is of it.

    Parameters
    ----------
    comb : (N, 2) float64
        Reference pixels.
    evidence : Evidence
    mask : (rows, columns) bool
        The comb's zone.
    frame : Frame
    length_px : float
        Length of the zone's hair, reference pixels.
    """
    cells = comb_cells([CombStroke(comb)], frame, 0, 0, mask)
    here = cells[3] > 0
    if not here.any():
        return 0.0, 0.0
    # Well inside the zone: at its border other hair lies over it.
    near = grown(here, 2) & ~grown(~mask, 3)
    if not near.any():
        return 0.0, 0.0
    scale = scale_for(evidence, mask, length_px / evidence.reference_px)
    axis = evidence.axis[scale][:, near].sum(axis=1)
    weight = float(evidence.weight[scale][near].sum())
    unit, _ = unit_of(cells[:2])
    own = doubled(np.moveaxis(unit, -1, 0))[:, here].sum(axis=1)
    gap = math.atan2(float(axis[1]), float(axis[0])) - math.atan2(float(own[1]), float(own[0]))
    gap = ((gap + math.pi) % (2 * math.pi) - math.pi) / 2
    shown = float(hair_shown(evidence.weight[scale][near]).mean())
    return math.degrees(gap), float(np.hypot(*axis)) / max(weight, 1e-9) * shown


def best_spot(field: ZoneField) -> tuple[tuple[float, float] | None, float]:
    """Return where the next comb would help most, and by how much doubt is expected to fall there, cm².

    A comb makes a place sure by its nearness; where root and tip are only guessed it settles all that hangs together.
    """
    import cv2

    doubt = ((1 - field.sure) * field.inside).astype(np.float32)
    if not doubt.any():
        return None, 0.0
    reach = 0.9 * REACH * max(field.frame.shape)
    weight = 2 * math.pi * reach**2
    gain = cv2.GaussianBlur(doubt, (0, 0), reach, borderType=cv2.BORDER_CONSTANT) * np.float32(weight)
    gain = np.where(field.inside, gain, 0)
    guessed = field.inside & ~field.rooted
    if guessed.any():
        gain = gain + guessed * float((field.axis_sure * 0.5)[guessed].sum())
    # Not on the very border, where a stroke has no room.
    depth = cv2.distanceTransform(np.pad(field.inside.astype(np.uint8), 1), cv2.DIST_L2, 3)[1:-1, 1:-1]
    gain = gain * np.minimum(depth / 3, 1)
    i, j = np.unravel_index(int(np.argmax(gain)), gain.shape)
    at = field.frame.to_px(np.array([[j + field.column + 0.5, i + field.row + 0.5]]))[0]
    cells = float(min(gain[i, j], doubt.sum()))
    return (float(at[0]), float(at[1])), cells * field.frame.cell_mm**2 / 100
