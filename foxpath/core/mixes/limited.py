"""What a limited palette does to a painting: every colour becomes that of its pile, or of two piles mixed on the brush."""

import numpy as np

from foxpath.core.arrays import F32, F64
from foxpath.core.colour import lab_from_linear, linear_from_lab, linear_from_rgb, rgb_from_linear
from foxpath.core.mixes.palette import Palette
from foxpath.core.mixes.recipe import Rack

BETWEEN = 4
"""Mixes of two neighbouring piles that a brush takes without a recipe."""
VALUE = 1.4
"""A wrong value is seen before a wrong hue: so much more it weighs."""


def brush_colours(rack: Rack, palette: Palette) -> F64:
    """Return the (n, 3) CIELAB that a brush can take up: the piles, and mixes of those that are neighbours.

    Neighbours are piles of which one begins from the other, and those next to each other on the string of greys. A pile whose
    tubes are not at hand stands as it was seen, and is mixed with none.
    """
    made = [np.array(one.lab) for one in palette.piles]
    pairs = [(one.key, one.base) for one in palette.piles if one.base]
    string = palette.string
    pairs += [(a.key, b.key) for a, b in zip(string, string[1:], strict=False)]
    for a, b in dict.fromkeys(pairs):
        one, other = palette.pile(a), palette.pile(b)
        if one is None or other is None:
            continue
        recipes = (*one.recipe.parts, *other.recipe.parts)
        if any(key not in rack.ids for key, _ in recipes):
            continue
        first, second = rack.parts(one.recipe.parts), rack.parts(other.recipe.parts)
        shift = np.array([one.lab, other.lab]) - rack.lab(np.stack([first, second]))
        for share in np.linspace(0, 1, BETWEEN + 2)[1:-1]:
            mix = (1 - share) * first / first.sum() + share * second / second.sum()
            made.append(rack.lab(mix) + (1 - share) * shift[0] + share * shift[1])
    return np.array(made).reshape(-1, 3)


def limited(rgb: F32, table: F64) -> F32:
    """Return (N, 3) sRGB, 0 to 1, in the nearest colours of a palette; as they are where the palette is empty."""
    if not len(table) or not len(rgb):
        return rgb
    from scipy.spatial import cKDTree

    scale = np.array([VALUE, 1.0, 1.0])
    lab = lab_from_linear(linear_from_rgb(np.ascontiguousarray(rgb, np.float32))).astype(np.float64)
    _, at = cKDTree(table * scale).query(lab * scale)
    shown = rgb_from_linear(np.clip(linear_from_lab(table.astype(np.float32)), 0, 1))
    return np.asarray(shown[at], np.float32)
