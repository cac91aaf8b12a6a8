"""Everything that is read off a photograph before it is judged: squared, balanced, laid on the plan."""

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, Bool, Points, Rgb8, frozen
from foxpath.core.colour import linear_from_rgb8
from foxpath.core.errors import PictureError
from foxpath.core.progress.light import balance, border_is_plain, glare_of, lab_from_balanced, without_skirt
from foxpath.core.progress.matches import Window, find_places, smooth_field
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.small import blur, grown, lab_of, rgb_of
from foxpath.core.progress.spots import Spot
from foxpath.core.progress.square import Squared, by_hand, square_up
from foxpath.core.reporting import SILENT, Progress

STIFF_MM, FINE_MM = 45.0, 14.0
EYE_RADII = 2.2
LEAST_PHOTO_PX = 400
LEAST_PX_PER_MM, SHARP_ENOUGH = 0.8, 0.16
"""Pixels of the photograph for a mm below which nothing fine is told; and the least share of the plan's fine light and dark."""
FINE_LOW_MM, FINE_HIGH_MM = 0.5, 2.0
LEAST_AGREES, VARIED = 0.2, 12.0
"""Agreement below which corners by hand are not believed, where the plan has enough in it to tell."""
LEAST_SEEN, MOST_RIM_MM = 0.35, 5.0


@dataclass(frozen=True, slots=True, eq=False)
class Seen:
    """A photograph laid on the plan.

    Attributes
    ----------
    squared : Squared
    rgb : (H, W, 3) uint8 sRGB
        The canvas square on, in the plan's light, for looking at.
    stiff, fine : (H, W, 3) float32 CIELAB
        For judging the drawing, and colours and borders.
    shown : (H, W) bool
        What the photograph shows of the canvas.
    glare : (H, W) bool
    use : (H, W) bool
        What can be judged: shown, without glare, not left alone.
    registration_mm : float
        How far places of the picture still lie off, median.
    sharpness : float
        Share of the plan's fine light and dark that is there.
    px_per_mm : float
        Pixels of the photograph for a mm of the canvas.
    slope : float
        How the light falls off over the canvas, as a factor.
    by : str
        What the balance goes by: "plan" or "spot".
    """

    squared: Squared
    rgb: Rgb8
    stiff: F32
    fine: F32
    shown: Bool
    glare: Bool
    use: Bool
    registration_mm: float
    sharpness: float
    px_per_mm: float
    slope: float
    by: str


def look(
    planned: Planned,
    photo: Rgb8,
    corners: Points | None = None,
    spots: Sequence[Spot] = (),
    progress: Progress = SILENT,
    border: tuple[float, float, float] | None = None,
) -> Seen:
    """Square a photograph up, balance it and lay it on the plan.

    Parameters
    ----------
    planned : Planned
    photo : (H, W, 3) uint8 sRGB
        Upright.
    corners : (4, 2), optional
        Of the canvas in the photograph, clockwise from its top left; found without.
    spots : sequence of Spot
        Places of known colour.
    progress : Progress
    border : (L*, a*, b*), optional
        Of what lies all round the canvas: tape, paper, a primed edge.

    Raises
    ------
    PictureError
        With the reason, when the photograph cannot be used: too small, another painting, too blurred.
    Cancelled
    """
    if min(photo.shape[:2]) < LEAST_PHOTO_PX:
        raise PictureError(
            f"The photograph is only {photo.shape[1]} × {photo.shape[0]} px.",
            "Photograph the canvas so that it fills the picture, and take the camera's own file.",
        )
    progress.at(0.02, "looking for the canvas")
    squared = by_hand(planned, photo, corners) if corners is not None else square_up(planned, photo)
    if squared is None:
        raise PictureError(
            "The canvas was not found in this photograph: nothing in it agrees with the plan.",
            "Drag its four corners, or choose the passes that are really done; is it this painting?",
        )
    px_per_mm = squared.frame.scale * planned.px_per_mm
    if px_per_mm < LEAST_PX_PER_MM:
        raise PictureError(
            f"The canvas has only {px_per_mm:.1f} pixels for a millimetre in this photograph.",
            "Go nearer, so that it fills the picture.",
        )
    progress.at(0.35, "laying it on the plan")
    mask = _about_eyes(planned)
    rgb, shown = squared.frame.squared(photo, *planned.size)
    if shown.mean() < LEAST_SEEN:
        raise PictureError(
            f"Only {100 * shown.mean():.0f} % of the canvas is in this photograph.", "Step back until it is all in."
        )
    varied = float(planned.lab[::8, ::8].std(axis=(0, 1)).sum())
    if squared.agrees < LEAST_AGREES and varied > VARIED:
        raise PictureError(
            "What lies between these corners does not look like this painting.",
            "Check the corners, and which passes are really done.",
        )
    matches = find_places(planned.lab, lab_of(rgb), planned.px_per_mm, Window()).without(mask, planned.px_per_mm)
    stiff_field = smooth_field(matches, planned.size, planned.px_per_mm, STIFF_MM)
    stiff_rgb, shown = squared.frame.squared(photo, *planned.size, stiff_field)
    progress.at(0.55, "taking the light out")
    known = [_known(planned, squared, photo, one) for one in spots]
    if border is not None:
        known += _round_it(planned, squared, photo, border)
    first = balance(planned, stiff_rgb, shown, spots=known)
    early, _ = glare_of(planned, first.linear)
    made = balance(planned, stiff_rgb, shown, without=early, spots=known)
    late, amount = glare_of(planned, made.linear)
    linear = without_skirt(planned, made.linear, early | late, amount)
    glare = (early & (grown(late, 4) > 0)) | late
    stiff = lab_from_balanced(linear)
    progress.at(0.8, "laying it close")
    close = find_places(planned.lab, stiff, planned.px_per_mm, Window(16.0, 8.0, 4.0, 2.0, 0.8))
    field = smooth_field(close, planned.size, planned.px_per_mm, FINE_MM)
    y, x = np.mgrid[: planned.size[1], : planned.size[0]].astype(np.float32)
    there = (x + field[..., 0], y + field[..., 1])
    fine = np.asarray(cv2.remap(stiff, *there, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE), np.float32)
    off = float(np.median(np.hypot(*close.shift.T))) if len(close) else 9.0
    use = shown & ~glare if planned.alone is None else shown & ~glare & ~planned.alone
    # As far as a corner may be off, the wall behind may stand in place of paint.
    rim = round(min(squared.doubt_mm, MOST_RIM_MM) * planned.px_per_mm)
    if rim > 0:
        use[:rim] = use[-rim:] = False
        use[:, :rim] = use[:, -rim:] = False
    sharp = sharpness(planned, fine, use)
    if sharp < SHARP_ENOUGH:
        raise PictureError(
            f"The photograph is too blurred: it keeps {100 * sharp:.0f} % of the hairs' light and dark.",
            "Rest the camera on something, wait for the focus, and photograph again.",
        )
    progress.at(1)
    return Seen(
        squared, frozen(rgb_of(stiff)), frozen(stiff), frozen(np.asarray(fine, np.float32)),
        frozen(shown), frozen(glare), frozen(use), off, sharp, px_per_mm, made.slope, made.by,
    )  # fmt: skip


def sharpness(planned: Planned, seen: F32, use: Bool) -> float:
    """Return which share of the plan's light and dark between 0.5 and 2 mm is there; the median over the parts that have any."""
    low, high = FINE_LOW_MM * planned.px_per_mm, FINE_HIGH_MM * planned.px_per_mm
    energy = []
    for lab in (planned.lab[..., 0], seen[..., 0]):
        fine = blur(np.ascontiguousarray(lab), low) - blur(np.ascontiguousarray(lab), high)
        energy.append(blur(fine * fine, 5 * planned.px_per_mm))
    there = use & (energy[0] > 0.6)
    if there.sum() < 200:
        return 1.0
    return float(np.median(np.sqrt(energy[1][there] / energy[0][there])))


def _about_eyes(planned: Planned) -> Bool:
    """Return where eyes are: they have no say in how the canvas is laid, so that a misplaced one is not warped away."""
    mask = np.zeros(planned.labels.shape, np.uint8)
    for eye in planned.eyes:
        cv2.circle(mask, (round(eye.x), round(eye.y)), max(1, round(EYE_RADII * eye.radius)), 1, -1)
    return mask > 0


BORDER_MM, BORDER_HALF_MM, BORDER_PLACES = 6.0, 1.6, 14
"""How far beyond the canvas its border is read, over how much to each side, and at how many places of a side."""


def _round_it(
    planned: Planned, squared: Squared, photo: Rgb8, lab: tuple[float, float, float]
) -> list[tuple[np.ndarray, np.ndarray, F32]]:
    """Return places all round the canvas, as `_known`. Raises `PictureError` where there is no plain border in the photograph."""
    w, h = planned.size
    d = BORDER_MM * planned.px_per_mm
    along = (np.arange(BORDER_PLACES) + 0.5) / BORDER_PLACES
    rim = [(x * w, y) for x in along for y in (-d, h + d)] + [(x, y * h) for y in along for x in (-d, w + d)]
    places = np.array(rim, np.float64)
    at = squared.frame.to_photo(places)
    half = max(2, round(BORDER_HALF_MM * squared.frame.scale * planned.px_per_mm))
    height, width = photo.shape[:2]
    found = []
    for (x, y), place in zip(at, places, strict=True):
        i, j = round(float(y)), round(float(x))
        if half <= i < height - half and half <= j < width - half:
            patch = linear_from_rgb8(np.ascontiguousarray(photo[i - half : i + half + 1, j - half : j + half + 1]))
            linear = np.median(patch.reshape(-1, 3), axis=0).astype(np.float64)
            found.append((place / planned.size * 2 - 1, linear, np.array(lab, np.float32)))
    if not border_is_plain(found):
        raise PictureError(
            "No plain border is seen all round the canvas in this photograph.",
            "Say that nothing is known round it, or photograph it with 2 cm of tape or paper on every side.",
        )
    return found


def _known(planned: Planned, squared: Squared, photo: Rgb8, spot: Spot) -> tuple[np.ndarray, np.ndarray, F32]:
    """Return where a known spot lies over the canvas (-1 to 1), its linear colour in the photograph and its CIELAB."""
    x, y = spot.at
    half = max(2, round(1.5 * squared.frame.scale * planned.px_per_mm))
    i, j = round(y), round(x)
    patch = photo[max(0, i - half) : i + half + 1, max(0, j - half) : j + half + 1]
    if not patch.size:
        raise PictureError("The known spot lies beyond the photograph.", "Click the card in the photograph again.")
    linear = np.median(linear_from_rgb8(patch).reshape(-1, 3), axis=0).astype(np.float64)
    at = squared.frame.to_work(np.array([[x, y]]))[0] / planned.size * 2 - 1
    return at, linear, np.array(spot.lab, np.float32)
