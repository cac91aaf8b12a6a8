"""Colours in words: names for piles, and what one lacks against another."""

from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.mixes.tubes import Tube

GREY = 7.0
"""C* below which a pile counts as neutral."""
_HUES: tuple[tuple[float, str, str, str, str], ...] = (
    (12, "plum", "dusky rose", "rose", "pink"),
    (35, "deep red", "brick", "red", "coral"),
    (52, "deep rust", "rust", "light rust", "peach"),
    (66, "dark brown", "chestnut", "tawny", "apricot"),
    (80, "umber brown", "brown", "fawn", "sand"),
    (92, "dark ochre", "bronze", "ochre", "straw"),
    (106, "dark olive", "olive", "gold", "lemon"),
    (135, "dark moss", "moss", "light moss", "pale moss"),
    (175, "deep green", "fir green", "leaf green", "pale green"),
    (215, "deep sea green", "bottle green", "sea green", "pale sea green"),
    (255, "deep teal", "teal", "sky blue", "pale sky"),
    (290, "deep blue", "blue", "light blue", "pale blue"),
    (325, "deep violet", "violet", "lavender", "lilac"),
    (350, "plum", "mauve", "light mauve", "pale mauve"),
    (361, "plum", "dusky rose", "rose", "pink"),
)
"""Up to a hue angle: names from dark to light."""
_TONES: tuple[float, ...] = (31, 46, 66)
"""L* at which the next name begins."""
_GREYS: tuple[tuple[float, str], ...] = (
    (25, "black"), (36, "charcoal"), (46, "dark grey"), (62, "mid grey"), (82, "light grey"), (101, "white"),
)  # fmt: skip
_DULL: tuple[tuple[float, str], ...] = (
    (45, "rosy"),
    (100, "warm"),
    (160, "mossy"),
    (250, "cool"),
    (320, "bluish"),
    (361, "rosy"),
)
LIGHT_WORDS, RED_WORDS, YELLOW_WORDS = ("darker", "lighter"), ("greener", "redder"), ("bluer", "yellower")


def name_of(lab: Sequence[float] | F64) -> str:
    """Return a name for a colour in a painter's words, e.g. "warm black", "light grey", "rust"."""
    light, a, b = (float(v) for v in lab)
    chroma, hue = float(np.hypot(a, b)), float(np.degrees(np.arctan2(b, a)) % 360)
    tone = next(word for most, word in ((30, "black"), (42, "dark grey"), (62, "mid grey"), (82, "light grey"), (101, "white")) if light < most)  # fmt: skip
    if chroma < 2.5 or (light > 82 and chroma < 4):
        return tone
    dull = next(word for most, word in _DULL if hue < most)
    if chroma < (9 if light <= 88 else 6):
        return f"{dull} {tone}"
    if light >= 66 and chroma < 14:
        return "cream" if 60 <= hue < 110 else f"{dull} {tone}"
    names = next(row[1:] for row in _HUES if hue < row[0])
    return names[sum(light >= step for step in _TONES)]


def unlike_names(labs: Sequence[Sequence[float]], given: Sequence[str] = ()) -> tuple[str, ...]:
    """Return a name for each colour, no two alike: the lighter or warmer of two says so, else they are counted.

    Parameters
    ----------
    labs : sequence of (L*, a*, b*)
    given : sequence of str
        Names that colours have already; empty ones are found.
    """
    kept = list(given) if given else [""] * len(labs)
    names = [name_of(lab) for lab in labs]
    made = [own or name for own, name in zip(kept, names, strict=True)]
    taken = {name for name in kept if name}
    for name in dict.fromkeys(names):
        same = [k for k, other in enumerate(names) if other == name and not kept[k]]
        if name in taken:
            for number, k in enumerate(sorted(same, key=lambda k: float(labs[k][0])), 2):
                made[k] = f"{name} {number}"
            continue
        if not same:
            continue
        if len(same) == 1:
            continue
        by_light = sorted(same, key=lambda k: float(labs[k][0]))
        if len(same) == 2 and labs[by_light[1]][0] - labs[by_light[0]][0] >= 4:
            made[by_light[1]] = f"lighter {name}"
            continue
        by_warm = sorted(same, key=lambda k: float(labs[k][2]))
        if len(same) == 2:
            made[by_warm[1]] = f"warmer {name}" if not name.startswith("warm") else f"yellower {name}"
            continue
        for number, k in enumerate(by_light):
            made[k] = f"{name} {number + 1}"
    return tuple(made)


def lacks_word(have: Sequence[float] | F64, want: Sequence[float] | F64) -> str:
    """Say in one word what a colour lacks to become another: lighter, redder, stronger and so on; "nothing" when alike.

    The largest of the differences, each as the eye weighs it: the chroma's and the hue's shrink with chroma as in CIEDE2000.
    """
    a, b = np.asarray(have, np.float64), np.asarray(want, np.float64)
    chroma_a, chroma_b = float(np.hypot(*a[1:])), float(np.hypot(*b[1:]))
    weight = 1 + 0.045 * (chroma_a + chroma_b) / 2
    if float(np.hypot(a[0] - b[0], np.hypot(*(a - b)[1:]) / weight)) < 1.0:
        return "nothing"
    light = (b[0] - a[0], LIGHT_WORDS)
    strong = ((chroma_b - chroma_a) / weight, ("greyer", "stronger"))
    turned = chroma_a > 6 and chroma_b > 6 and float(np.dot(a[1:], b[1:])) / (chroma_a * chroma_b) > 0.97
    shift = (b - a)[1:] / weight
    red, yellow = (shift[0], RED_WORDS), (shift[1], YELLOW_WORDS)
    # Along its own hue a colour grows stronger or greyer; across it, it turns.
    offered = (light, strong) if turned and abs(strong[0]) >= 0.8 * float(np.hypot(*shift)) else (light, red, yellow)
    value, words = max(offered, key=lambda one: abs(float(one[0])))
    return words[1] if value > 0 else words[0]


STRONG_AROUND, QUIET = 14.0, 10.0
"""C* of what lies round a colour, and C* below which that changes what it looks like."""


def alone_words(lab: Sequence[float], around: Sequence[float]) -> str:
    """Say what a quiet colour reads as among strong ones, where a swatch alone would mislead; empty where it does not.

    A grey leans to the opposite of what surrounds it (simultaneous contrast; Chevreul 1839).
    """
    a, b = np.asarray(lab, np.float64), np.asarray(around, np.float64)
    if float(np.hypot(*a[1:])) >= QUIET or float(np.hypot(*b[1:])) < STRONG_AROUND:
        return ""
    # Of two leans the larger: blue against yellow, green against red.
    leans = "blue" if b[2] > abs(b[1]) else "yellow" if -b[2] > abs(b[1]) else "green" if b[1] > 0 else "red"
    return f"In its place it will read {leans}: judge it there, not on the palette."


def parts_words(parts: Sequence[tuple[str, float]], names: dict[str, str]) -> str:
    """Write a recipe, e.g. "2 burnt sienna, 1 ochre, ½ white"."""
    return ", ".join(f"{amount_words(n)} {names.get(key, key).lower()}" for key, n in parts)


def amount_words(n: float) -> str:
    """Write parts as a hand takes them: ½, 1, 1½, 0.3; what is less than it can measure out is a trace."""
    if 0 < n < 0.05:
        return "a trace of"
    halves = round(n * 2)
    if abs(n * 2 - halves) < 1e-6:
        whole, half = divmod(halves, 2)
        return f"{whole if whole or not half else ''}{'½' if half else ''}"
    return f"{n:.1f}"


def names_of(tubes: Sequence[Tube]) -> dict[str, str]:
    """Return the tubes' names by their ids."""
    return {tube.id: tube.name for tube in tubes}
