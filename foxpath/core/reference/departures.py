"""Departures: where the painting shall differ from its reference on purpose, part by part, by lit and shadow side, or by distance.

Each is a shift, laid over the reference where it is measured and shown: every later stop works from the changed picture, and what is
read of the photograph itself (growth, its own edges, its health) from the picture as it is.
"""

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from typing import Any

import cv2
import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Labels, Rgb8, frozen
from foxpath.core.errors import InputError
from foxpath.core.progress.small import blurred_within
from foxpath.core.reference.falloff import BEGINS, BLUR_SHARE, CHROMA, CONTRAST, ENDS
from foxpath.core.units import percent

SIDES = {
    "all": "all of it", "lit": "its lit side", "shadow": "its shadow side", "far": "by distance", "away": "away from the focal point",
}  # fmt: skip
"""What of a part is meant, by the key it is stored under; the last two are said of the whole canvas only."""
WHOLE_ONLY = ("far", "away")
RANGES: dict[str, tuple[float, float]] = {
    "lightness": (-40.0, 40.0),
    "strength": (0.0, 2.5),
    "warmth": (-30.0, 30.0),
    "redness": (-30.0, 30.0),
    "contrast": (0.2, 2.5),
    "soft_mm": (0.0, 15.0),
}
MOST = 200
SOFT_RIM_MM = 1.2
"""Over so much a shift fades out at the border of its part: none shows as a line."""
HANG_MM, UNLIKE, LEAST_GROUND = 36.0, 6.0, 40
"""How far hair hangs over a border, from which CIELAB distance on it is not like the ground, and the pixels that tell what the ground is like."""
SHADOW, SHADOW_C = 0.6, 18.0
"""How much darker a shadow on a coloured ground may be, as a share, and the C* from which a ground is coloured."""
BROAD_MM, TURN_L = 10.0, 9.0
"""Blur at which a lit side is told from a shadow side, and the L* over which one turns into the other."""
BAND = 512
"""Rows worked on at once, so that a large picture takes no more room than a small one."""
RED_OF_WARM = 0.3
"""a* that goes with a step of warmth, as everywhere in the program."""


@dataclass(frozen=True, slots=True)
class Departure:
    """A departure from the reference.

    Attributes
    ----------
    zone : str
        Id of its part; empty for the whole canvas.
    side : str
        Key of `SIDES`.
    lightness : float
        L* that is added, -40 to 40.
    strength : float
        Times the chroma, 0 to 2.5.
    warmth : float
        b* that is added (and 0.3 of it to a*), -30 to 30.
    redness : float
        a* that is added, -30 to 30.
    contrast : float
        Times the part's own contrast about its middle value, 0.2 to 2.5.
    soft_mm : float
        Blur of its detail, mm on the canvas, 0 to 15.
    note : str
        Why.
    """

    zone: str
    side: str = "all"
    lightness: float = 0.0
    strength: float = 1.0
    warmth: float = 0.0
    redness: float = 0.0
    contrast: float = 1.0
    soft_mm: float = 0.0
    note: str = ""

    @property
    def nothing(self) -> bool:
        """Whether it leaves the reference as it is."""
        return replace(self, zone="", side="all", note="") == Departure("")

    def words(self) -> str:
        """Say what it does, e.g. "6 L* lighter, 20 % greyer, 5 cooler"."""
        said = []
        if self.lightness:
            said.append(f"{abs(self.lightness):.0f} L* {'lighter' if self.lightness > 0 else 'darker'}")
        if self.strength != 1:
            said.append(f"{percent(abs(self.strength - 1))} {'stronger' if self.strength > 1 else 'greyer'}")
        if self.warmth:
            said.append(f"{abs(self.warmth):.0f} {'warmer' if self.warmth > 0 else 'cooler'}")
        if self.redness:
            said.append(f"{abs(self.redness):.0f} {'redder' if self.redness > 0 else 'greener'}")
        if self.contrast != 1:
            said.append(f"{percent(abs(self.contrast - 1))} {'more' if self.contrast > 1 else 'less'} contrast")
        if self.soft_mm:
            said.append(f"softened by {self.soft_mm:.1f} mm")
        return ", ".join(said) or "as the reference"


def checked_departure(one: Departure) -> Departure:
    """Return a departure with its numbers in their ranges. Raises `InputError` for a side that is none, or distance of a single part."""
    if one.side not in SIDES:
        raise InputError(f"“{one.side}” is no side of a part.", f"Say {', '.join(SIDES)}.")
    if one.side in WHOLE_ONLY and one.zone:
        raise InputError(
            f"{SIDES[one.side].capitalize()} is said of the whole canvas.",
            "Leave the part out, or choose another side.",
        )
    values: dict[str, Any] = {}
    for name, (low, high) in RANGES.items():
        value = float(getattr(one, name))
        if not np.isfinite(value):
            raise InputError(f"The departure's {name} is no number.", "Give one.")
        values[name] = min(max(value, low), high)
    return replace(one, note=one.note.strip()[:200], **values)


def matching(one: Departure, mean: tuple[float, float, float], target: tuple[float, float, float]) -> Departure:
    """Return a departure that brings a part of a mean colour to a target: an accent that is echoed, a value that is wanted.

    Contrast, strength and softness stay as they are said; where the target is farther than a shift reaches, it goes as far.

    Parameters
    ----------
    one : Departure
    mean, target : (L*, a*, b*)
    """
    warmth = target[2] - one.strength * mean[2]
    redness = target[1] - one.strength * mean[1] - RED_OF_WARM * warmth
    return checked_departure(replace(one, lightness=target[0] - mean[0], warmth=warmth, redness=redness))


def sound_departures(found: Sequence[Departure]) -> tuple[Departure, ...]:
    """Return the departures of a file without those that cannot be, or say nothing, and one for each part and side."""
    made: dict[tuple[str, str], Departure] = {}
    for one in found[:MOST]:
        try:
            good = checked_departure(one)
        except InputError:
            continue
        if not good.nothing:
            made.setdefault((good.zone, good.side), good)
    return tuple(made.values())


def middle_values(lab: F32, labels: Labels, parts: int) -> F64:
    """Return the middle L* of every part, and of the whole canvas last, (parts + 1,)."""
    light = lab[..., 0]
    made = [float(np.median(light[labels == k])) if (labels == k).any() else 50.0 for k in range(parts)]
    return np.array([*made, float(np.median(light))])


def weight_of(
    one: Departure,
    place: int,
    labels: Labels,
    lab: F32,
    middles: F64,
    distance: F64,
    px_per_mm: float,
    focal: tuple[float, float] = (0.0, 0.0),
) -> F32:
    """Return how far a departure holds everywhere, (h, w) 0 to 1.

    Parameters
    ----------
    one : Departure
    place : int
        Its part among `labels`; -1 for the whole canvas.
    labels : (h, w) int
    lab : (h, w, 3) float32
        CIELAB of the reference.
    middles : (n + 1,) float64
        As `middle_values`.
    distance : (n,) float64
        How far back every part lies, 0 the front-most to 1.
    px_per_mm : float
        Of the grid.
    focal : (x, y)
        Where the eye rests, cells of the grid.
    """
    if one.side == "away":
        y, x = np.indices(labels.shape)
        away = np.hypot(x + 0.5 - focal[0], y + 0.5 - focal[1]) / float(np.hypot(*labels.shape))
        inside = np.asarray(np.clip((away - BEGINS) / (ENDS - BEGINS), 0, 1), np.float32)
    elif one.side == "far":
        back = np.concatenate([distance, [1.0]]).astype(np.float32)[labels]
        inside = np.zeros(labels.shape, np.float32)
        for value in np.unique(back[back > 0]):
            inside += value * belongs(back == value, back < value, lab, px_per_mm)
    elif place >= 0:
        inside = belongs(labels == place, labels > place, lab, px_per_mm)
    else:
        inside = np.ones(labels.shape, np.float32)
    if one.side in ("lit", "shadow"):
        broad = cv2.GaussianBlur(
            np.ascontiguousarray(lab[..., 0]),
            (0, 0),
            max(0.5, BROAD_MM * px_per_mm / 2.4),
            borderType=cv2.BORDER_REPLICATE,
        )
        lit = np.clip(0.5 + (broad - middles[place]) / TURN_L, 0, 1)
        inside = inside * (lit if one.side == "lit" else 1 - lit)
    return np.asarray(np.clip(inside, 0, 1), np.float32)


def belongs(mask: Bool, front: Bool, lab: F32, px_per_mm: float) -> F32:
    """Return how far every pixel belongs to a part, (h, w) 0 to 1: hair of what lies in front hangs out over it, and its own over what lies behind.

    Parameters
    ----------
    mask, front : (h, w) bool
        The part by its outline, and all that lies in front of it.
    lab : (h, w, 3) float32
    px_per_mm : float
    """
    own = mask.astype(np.float32)
    if not mask.any():
        return own
    sigma = max(0.4, SOFT_RIM_MM * px_per_mm / 2)
    soft = np.asarray(cv2.GaussianBlur(own, (0, 0), sigma, borderType=cv2.BORDER_REPLICATE), np.float32)
    behind = ~(mask | front)
    lost: Any = hanging(mask, front, lab, px_per_mm) if front.any() else 0.0
    gained = hanging(behind, mask, lab, px_per_mm) if behind.any() else 0.0
    if front.any():
        # Nor does the soft rim reach in under what hangs over it.
        side = 2 * round(2 * sigma) + 1
        lost = np.where(front, cv2.dilate(lost, np.ones((side, side), np.uint8)), lost)
    return np.asarray(np.clip(np.maximum(soft * (1 - lost), gained), 0, 1), np.float32)


def hanging(ground: Bool, over: Bool, lab: F32, px_per_mm: float) -> F32:
    """Return how surely hair of one part lies over another beyond its outline, (h, w) 0 to 1: what there is not like the ground thereabouts.

    Where the ground is as restless as hair itself, nothing is said of it.

    Parameters
    ----------
    ground, over : (h, w) bool
        What lies behind, and what may hang over it.
    lab : (h, w, 3) float32
    px_per_mm : float
    """
    wide = HANG_MM * px_per_mm
    away = cv2.distanceTransform((~over).astype(np.uint8), cv2.DIST_L2, 3)
    sure = (ground & (away > 0.6 * wide)).astype(np.float32)
    if sure.sum() < LEAST_GROUND:
        return np.zeros(ground.shape, np.float32)
    mean = blurred_within(lab, sure, wide)
    # On a ground of strong colour a darker spot of that very colour is its own shadow; on a grey one it may be dark hair.
    deepest = 1 - SHADOW * np.clip((np.hypot(mean[..., 1], mean[..., 2]) - SHADOW_C) / SHADOW_C, 0, 1)
    share = (lab * mean).sum(axis=-1) / np.maximum((mean * mean).sum(axis=-1), 1e-3)
    off = np.linalg.norm(lab - np.clip(share, deepest, 1.0)[..., None] * mean, axis=-1)
    spread = np.sqrt(np.maximum(blurred_within(np.asarray(off**2, np.float32), sure, wide), 0))
    unlike = np.clip((off - UNLIKE - 1.6 * spread) / UNLIKE, 0, 1)
    fade = np.clip(2 - 2 * away / wide, 0, 1) * ground
    return np.asarray(unlike * fade, np.float32)


@dataclass(frozen=True, slots=True, eq=False)
class Laid:
    """A departure as it lies: where, and the L* its contrast turns about."""

    departure: Departure
    weight: F32
    middle: float


def changed(rgb: Rgb8, laid: Sequence[Laid], box: tuple[float, float, float, float], px_per_mm: float) -> Rgb8:
    """Return a picture with departures laid over it, one after the other.

    Parameters
    ----------
    rgb : (H, W, 3) uint8 sRGB
    laid : sequence of Laid
        Their weights cover `box`; beyond it nothing changes.
    box : (x, y, width, height)
        Of the canvas, pixels of the picture.
    px_per_mm : float
        Of the picture on the canvas.
    """
    made = rgb.copy()
    x0, y0 = max(0, round(box[0])), max(0, round(box[1]))
    x1, y1 = min(rgb.shape[1], round(box[0] + box[2])), min(rgb.shape[0], round(box[1] + box[3]))
    widest = max((one.departure.soft_mm for one in laid), default=0.0) * px_per_mm / 2.4
    margin = int(3 * widest) + 1 if widest > 0.3 else 0
    for top in range(y0, y1, BAND):
        low = min(y1, top + BAND)
        above, below = max(y0, top - margin), min(y1, low + margin)
        part = rgb[above:below, x0:x1].astype(np.float32) * np.float32(1 / 255)
        lab = np.asarray(cv2.cvtColor(part, cv2.COLOR_RGB2LAB), np.float32)
        for one in laid:
            h, w = one.weight.shape
            # The weights' cells as the rows and columns of this band.
            kx, ky = w / box[2], h / box[3]
            u = ((np.arange(x0, x1) + 0.5 - box[0]) * kx - 0.5).astype(np.float32)
            v = ((np.arange(above, below) + 0.5 - box[1]) * ky - 0.5).astype(np.float32)
            across, down = np.meshgrid(u, v)
            here = cv2.remap(one.weight, across, down, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
            if float(here.max()) > 1e-4:
                lab = _shifted(lab, one, np.asarray(here, np.float32), px_per_mm)
        out = np.asarray(cv2.cvtColor(lab[top - above : low - above], cv2.COLOR_LAB2RGB), np.float32)
        made[top:low, x0:x1] = np.clip(out * 255 + 0.5, 0, 255).astype(np.uint8)
    return np.asarray(frozen(made), np.uint8)


def _shifted(lab: F32, laid: Laid, weight: F32, px_per_mm: float) -> F32:
    one, w = laid.departure, weight[..., None]
    new = lab
    sigma = one.soft_mm * px_per_mm / 2.4
    if sigma > 0.3:
        # Within the part alone: a soft background must not draw the animal's colour out over its rim.
        new = blurred_within(lab, np.maximum(weight, 1e-3), sigma)
    light = (new[..., 0] - laid.middle) * one.contrast + laid.middle + one.lightness
    red = new[..., 1] * one.strength + one.redness + RED_OF_WARM * one.warmth
    yellow = new[..., 2] * one.strength + one.warmth
    new = np.stack([np.clip(light, 0, 100), red, yellow], axis=-1)
    return np.asarray(lab * (1 - w) + new * w, np.float32)


def falling_away(strength: float, diagonal_mm: float) -> Departure:
    """Return the departure that takes a focus falloff of a strength (0 to 1) over into the painting."""
    soft = 2.4 * BLUR_SHARE * diagonal_mm * strength
    note = "the eye rests at the focal point"
    return checked_departure(
        Departure(
            "",
            "away",
            strength=1 - CHROMA * strength,
            contrast=1 - CONTRAST * strength,
            soft_mm=round(soft, 1),
            note=note,
        )
    )


AIR = Departure("", "far", lightness=8.0, strength=0.75, warmth=-6.0, note="farther: paler, greyer, cooler")
"""What distance does to colour, as a start."""
NAMES = tuple(one.name for one in fields(Departure) if one.name in RANGES)
"""The numbers of a departure, in their order."""
