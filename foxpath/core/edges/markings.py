"""Borders of markings inside a coat: where growth crosses them they are ragged, where it runs along them they are clean."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Points
from foxpath.core.curves import line_length, outward_normals, resample

CROSSED_DEG = 30.0
"""From this angle between growth and border on, hair crosses it."""
SHORTEST_MM = 3.0
"""Shorter stretches join their neighbours."""
TOLD_L = 4.0
"""Difference in L* from which one side is the darker."""


@dataclass(frozen=True, slots=True, eq=False)
class MarkingPlaces:
    """Places along the border of a marking.

    Attributes
    ----------
    at : (N, 2) float64
        Reference pixels, about a millimetre apart, closed.
    tangent, outward : (N, 2) float64
        Unit vectors along the border, and from the marking into the coat.
    """

    at: Points
    tangent: Points
    outward: Points


@dataclass(frozen=True, slots=True, eq=False)
class MarkingStretch:
    """A stretch of a marking's border.

    Attributes
    ----------
    line, outward : (N, 2) float64
        Its places, and the way out of the marking there.
    crossed : bool
        Ragged by hairs that cross it; else clean, along the hair.
    angle_deg : float
        Mean angle between growth and border, 0 to 90.
    tips_out : bool
        Whether the marking's own hairs lie over the coat around it; else the coat's lie over the marking.
    dark_over : bool or None
        Whether dark hairs lie over light; None where the sides hardly differ.
    ragged_mm : float
        How far tips reach over it; 0 along the hair.
    sure : float
        0 to 1, of the growth.
    """

    line: Points
    outward: Points
    crossed: bool
    angle_deg: float
    tips_out: bool
    dark_over: bool | None
    ragged_mm: float
    sure: float

    def words(self) -> str:
        """Say how it is painted."""
        if not self.crossed:
            return "clean, along the hair"
        if self.dark_over is None:
            return "ragged, hairs across"
        return "ragged, dark hairs over light" if self.dark_over else "ragged, light hairs over dark"


def marking_places(outline: Points, mm_per_px: float) -> MarkingPlaces:
    """Return places along a closed smooth outline (reference pixels), about a millimetre apart."""
    closed = np.vstack([outline, outline[:1]])
    count = max(12, round(line_length(closed) * mm_per_px))
    at = resample(closed, count + 1)[:-1]
    ahead = np.roll(at, -1, axis=0) - np.roll(at, 1, axis=0)
    tangent = ahead / (np.hypot(*ahead.T)[:, None] + 1e-9)
    return MarkingPlaces(at, tangent, outward_normals(at))


def marking_stretches(
    places: MarkingPlaces, direction: F32, sure: F32, inner_l: F32, outer_l: F32, length_mm: F32
) -> tuple[MarkingStretch, ...]:
    """Cut a marking's border into stretches that hair crosses, and such that it runs along.

    Parameters
    ----------
    places : MarkingPlaces
    direction : (N, 2) float32
        Growth at each place, unit; NaN where there is none.
    sure : (N,) float32
    inner_l, outer_l : (N,) float32
        L* of the picture on both sides.
    length_mm : (N,) float32
        Length of the hair there.
    """
    along = np.abs((direction * places.tangent).sum(axis=1))
    angle = np.degrees(np.arccos(np.clip(along, 0, 1)))
    out = (direction * places.outward).sum(axis=1)
    known = np.isfinite(angle)
    if not known.any():
        return ()
    angle, out = np.where(known, angle, 0.0), np.where(known, out, 0.0)
    gap_mm = 1.0
    least = int(SHORTEST_MM / gap_mm)
    crossed = _steady(angle >= CROSSED_DEG, least)
    # A stretch is of one kind: crossed outward, crossed inward, or clean.
    kind = np.where(crossed, np.where(_steady(out > 0, least), 2, 1), 0)
    cuts = np.flatnonzero(kind != np.roll(kind, 1))
    spans = _spans(cuts, len(kind))
    return tuple(
        _stretch(
            places, span, bool(crossed[span[0]]), angle, out, np.where(known, sure, 0), inner_l, outer_l, length_mm
        )
        for span in spans
    )


def _stretch(
    places: MarkingPlaces,
    span: np.ndarray[tuple[int, ...], np.dtype[np.intp]],
    crossed: bool,  # noqa: FBT001  (one of many facts, by place)
    angle: F64,
    out: F64,
    sure: F32,
    inner_l: F32,
    outer_l: F32,
    length_mm: F32,
) -> MarkingStretch:
    tips_out = float(out[span].mean()) > 0
    step = float(np.nanmean(inner_l[span]) - np.nanmean(outer_l[span]))
    # The side whose tips lie over is the one that is seen on top.
    over_minus_under = step if tips_out else -step
    dark_over = None if abs(step) < TOLD_L else over_minus_under < 0
    reach = float((length_mm[span] * np.abs(out[span])).mean()) if crossed else 0.0
    mean_angle, mean_sure = float(angle[span].mean()), float(sure[span].mean())
    return MarkingStretch(
        places.at[span], places.outward[span], crossed, mean_angle, tips_out, dark_over, reach, mean_sure
    )


def _spans(
    cuts: np.ndarray[tuple[int, ...], np.dtype[np.intp]], count: int
) -> list[np.ndarray[tuple[int, ...], np.dtype[np.intp]]]:
    if not len(cuts):
        return [np.arange(count + 1) % count]
    ends = [*cuts[1:].tolist(), int(cuts[0]) + count]
    return [np.arange(a, b + 1) % count for a, b in zip(cuts.tolist(), ends, strict=True)]


def _steady(flags: Bool, least: int) -> Bool:
    """Take the majority over a few neighbours of a closed run of flags."""
    from scipy.ndimage import uniform_filter1d

    width = min(2 * least + 1, len(flags))
    return np.asarray(uniform_filter1d(flags.astype(np.float64), width, mode="wrap") > 0.5)
