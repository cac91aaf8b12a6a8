"""From how far a difference is seen.

A spot of size s mm that differs by D: with ``q = D / sqrt(1.5² + (sd / 2)²)`` (sd the plan's own spread at that size) it is seen up to
``s sqrt(q - 1) / (17.45 theta)`` metres: "threshold = step (1 + (theta / angle)²)" solved for the distance (after Ricco's law of small
spots); theta 0.06° for lightness, 0.15° for colour. Checked against a band-pass contrast sensitivity: the same above 0.05°, stricter below.
"""

import math

STEP_DE = 1.5
"""A step of colour that is seen on an even ground."""
RICCO_L_DEG, RICCO_C_DEG = 0.06, 0.15
FARTHEST_M = 20.0
SHIFT_SHARE = 0.04
"""A feature is seen to stand elsewhere from this share on of what its place is judged by."""
SHIFT_ARC_MIN = 1.5
_MM_A_DEGREE_M = 17.45
_MM_A_MINUTE_M = 0.2909


def spot_seen_m(size_mm: float, difference: float, spread: float = 0.0, *, colour: bool = False) -> float:
    """Return the farthest distance, m, from which a spot is seen; 0 when it is not, 20 at most.

    Parameters
    ----------
    size_mm : float
        Its diameter.
    difference : float
        In L*, or as a colour difference.
    spread : float
        Standard deviation of the plan itself at that size.
    colour : bool
        Whether only its colour differs: the eye resolves that less.
    """
    q = abs(difference) / math.hypot(STEP_DE, 0.5 * spread)
    if q <= 1 or size_mm <= 0:
        return 0.0
    ricco = RICCO_C_DEG if colour else RICCO_L_DEG
    return min(FARTHEST_M, size_mm * math.sqrt(q - 1) / (_MM_A_DEGREE_M * ricco))


def shift_seen_m(shift_mm: float, judged_by_mm: float) -> float:
    """Return the farthest distance, m, from which a feature is seen to stand elsewhere; 0 when it is not."""
    if shift_mm < SHIFT_SHARE * judged_by_mm:
        return 0.0
    return min(FARTHEST_M, shift_mm / (_MM_A_MINUTE_M * SHIFT_ARC_MIN))


def viewing_m(diagonal_m: float) -> float:
    """Return the distance a painting is usually looked at from: three diagonals, 2 m at least."""
    return max(2.0, 3 * diagonal_m)
