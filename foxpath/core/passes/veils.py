"""Veils: a film of transparent or thin pale paint over what has dried, where it lies, and what it takes to lay it."""

from dataclasses import dataclass, field
from typing import Any

import cv2
import numpy as np

from foxpath.core.arrays import F32, Bool

MANNERS = {"glaze": "glaze, transparent", "scumble": "scumble, thin and pale"}
"""How a veil is laid, by the key it is stored under: one darkens, warms or tints, the other greys and cools."""
PLACES = {
    "part": "the whole part",
    "shadow": "its shadow side",
    "turn": "the strip just before its light turns to shadow",
    "lit": "its lit side",
    "strip": "a strip along its border",
    "patch": "a patch drawn on it",
}
"""Where a veil lies, by the key it is stored under."""
SIDED = ("shadow", "turn", "lit")
"""Places that the light tells."""
TURN_AT, TURN_WIDE = 0.66, 0.2
"""Where, between shadow (0) and light (1), the strip before the shadow lies, and over how much: there a coat is a little darker and warmer."""
BROAD_MM, TURN_L = 10.0, 9.0
"""Blur at which a lit side is told from a shadow side, and the L* over which one turns into the other."""


@dataclass(frozen=True, slots=True)
class Veil:
    """A veil.

    Attributes
    ----------
    manner : "glaze" or "scumble"
    lab : (L*, a*, b*) or None
        Of its mix, laid thick; None takes what brings a shadow's surroundings to the shadow.
    strength : float
        Share of paint in it, the rest clear medium, 0.01 to 1.
    coats : int
        1 to 6, each dry before the next.
    place : str
        Key of `PLACES`.
    strip_mm : float
        Width of a strip, mm on the canvas, 1 to 200.
    soft_mm : float
        Over so much it fades out at its borders, mm on the canvas, 0 to 60.
    patch : pairs
        Outline of a patch, reference pixels.
    made_up : bool
        Whether what lies beneath is painted so that the veil brings it to the reference; else the veil changes the painting.
    """

    manner: str = "glaze"
    lab: tuple[float, float, float] | None = (32.0, 18.0, 28.0)
    strength: float = 0.05
    coats: int = 1
    place: str = "part"
    strip_mm: float = 12.0
    soft_mm: float = 6.0
    patch: tuple[tuple[float, float], ...] = field(default=(), metadata={"pixels": True})
    made_up: bool = False


def veil_share(veil: Veil, part: Bool, light: F32, px_per_mm: float, patch: Bool | None = None) -> F32:
    """Return how far a veil lies everywhere, (h, w) float32, 0 to 1.

    Parameters
    ----------
    veil : Veil
    part : (h, w) bool
        Where its part is seen.
    light : (h, w) float32
        L* of the reference.
    px_per_mm : float
        Cells of the grid for a millimetre.
    patch : (h, w) bool, optional
        Inside of its patch.
    """
    share: Any = part.astype(np.float32)
    if veil.place == "patch" and patch is not None:
        share = share * patch
    elif veil.place == "strip":
        # The canvas's own rim is no border.
        far = cv2.distanceTransform(np.asarray(part, np.uint8), cv2.DIST_L2, 5) / px_per_mm
        share = share * (far <= veil.strip_mm)
    elif veil.place in SIDED and part.any():
        sigma = max(0.5, BROAD_MM * px_per_mm / 2.4)
        weight = cv2.GaussianBlur(share, (0, 0), sigma)
        # Of the part alone: a bright ground beside it makes no lit side.
        broad = cv2.GaussianBlur(light * share, (0, 0), sigma) / np.maximum(weight, 1e-4)
        lit = np.clip(0.5 + (broad - float(np.median(light[part]))) / TURN_L, 0, 1)
        strip = np.exp(-(((lit - TURN_AT) / TURN_WIDE) ** 2))
        share = share * {"lit": lit, "shadow": 1 - lit, "turn": strip}[veil.place]
    if veil.soft_mm > 0:
        sigma = veil.soft_mm * px_per_mm / 2.563
        soft, whole = (
            cv2.GaussianBlur(np.asarray(one, np.float32), (0, 0), max(sigma, 0.3), borderType=cv2.BORDER_REPLICATE)
            for one in (share, part)
        )
        # It fades within its part, and reaches that part's own border whole: nothing beyond the outline is tinted.
        share = soft / np.maximum(whole, 1e-4) * part
    return np.asarray(np.clip(share, 0, 1), np.float32)


def veil_minutes(area_cm2: float, brush_mm: float, coats: int) -> tuple[int, float]:
    """Return how many strokes of a broad soft brush a veil takes, and how many minutes: each coat is laid and then evened out.

    Parameters
    ----------
    area_cm2 : float
    brush_mm : float
    coats : int
    """
    stroke_mm2 = max(brush_mm * 5 * brush_mm * 0.6, 1.0)
    strokes = max(1, round(1.2 * area_cm2 * 100 / stroke_mm2)) * coats if area_cm2 > 0 else 0
    # Laid, and evened out with a clean brush: two strokes, at the usual pace.
    return strokes, strokes * 2 * (0.9 + 0.01 * 5 * brush_mm) / 60
