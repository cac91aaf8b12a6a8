"""A dab of paint read from a photograph in which a grey card lies beside it."""

import numpy as np

from foxpath.core.arrays import F64, Rgb8
from foxpath.core.colour import lab_from_linear
from foxpath.core.errors import InputError
from foxpath.core.reference.correction import spot_linear

CARD_Y = 0.184
"""Luminance of an 18 % grey card, L* 50."""
BURNT, DROWNED = 0.97, 0.004
"""Linear light above and below which a photograph says nothing."""


def dab_lab(rgb: Rgb8, card: tuple[float, float], dab: tuple[float, float], radius_px: float) -> F64:
    """Return the (3,) CIELAB of a dab.

    The card is made neutral and as light as it is known to be, channel by channel in linear light; that takes out the lamp's colour and the
    exposure, not the camera's own way with colours: typically 2 dE remain.

    Parameters
    ----------
    rgb : (H, W, 3) uint8
    card, dab : (x, y)
        Pixels.
    radius_px : float

    Raises
    ------
    InputError
        When one lies off the picture, or where the photograph is burnt out or drowned.
    """
    try:
        grey, paint = spot_linear(rgb, card, radius_px), spot_linear(rgb, dab, radius_px)
    except ValueError:
        raise InputError("A spot lies off the photograph.", "Click the card first, then the dab.") from None
    if float(grey.max()) > BURNT or float(grey.min()) < DROWNED:
        raise InputError("The grey card is burnt out or drowned.", "Photograph it again, lighter or darker.")
    if float(paint.max()) > BURNT:
        raise InputError("The dab is burnt out.", "Photograph it again, darker, without a shine on it.")
    linear = np.clip(paint.astype(np.float64) * (CARD_Y / grey.astype(np.float64)), 0, 1).astype(np.float32)
    return np.asarray(lab_from_linear(linear), np.float64)
