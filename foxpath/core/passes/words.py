"""Numbers a hand can follow: steps of a value scale, medium in parts and drops, marks by the square centimetre."""

from foxpath.core.units import about

STEPS = 9
"""Steps of the value scale, from 1 (black) to 9 (white)."""
OIL_PARTS: tuple[tuple[float, str, int], ...] = (
    (0.08, "thinner alone", 2),
    (0.18, "1 oil : 4 thinner", 2),
    (0.28, "1 oil : 3 thinner", 3),
    (0.38, "1 oil : 2 thinner", 3),
    (0.48, "1 oil : 1 thinner", 4),
    (0.58, "3 oil : 2 thinner", 4),
    (1.01, "2 oil : 1 alkyd", 5),
)
"""Up to this share of oil in the paint: the medium in parts, and its drops to a hazelnut of paint. They rise from pass to pass."""
WATER_DROPS = ((0.2, 5), (0.5, 3), (1.01, 2))
"""The same for acrylic, which is thinned with water: less from layer to layer as paint lies thicker."""


def step_of(lightness: float) -> int:
    """Return the step of the value scale, 1 to 9, of an L* of 0 to 100."""
    return min(max(round(lightness / 100 * (STEPS + 1)), 1), STEPS)


def value_words(low: float, high: float) -> str:
    """Say a range of values as steps of the scale, with L* behind it, e.g. "values 3 to 6 of 9 (L* 27 to 63)"."""
    first, last = step_of(low), step_of(high)
    if high - low < 2:
        return f"value {last} of {STEPS} (L* {high:.0f})"
    steps = f"value {first}" if first == last else f"values {first} to {last}"
    return f"{steps} of {STEPS} (L* {low:.0f} to {high:.0f})"


def medium_parts(fat: float, paint: str) -> str:
    """Say the medium in parts alone, where room is scarce."""
    return "water" if paint == "acrylic" else next(parts for most, parts, _ in OIL_PARTS if fat < most)


def medium_words(fat: float, thickness: float, paint: str) -> str:
    """Say the medium in parts and drops.

    Parameters
    ----------
    fat : float
        Share of oil and medium in the paint, 0 (lean) to 1.
    thickness : float
        Of the paint, 0 to 1; for acrylic.
    paint : str
        "oil" or "acrylic".
    """
    if paint == "acrylic":
        drops = next(drops for most, drops in WATER_DROPS if thickness < most)
        return f"water, {drops} drops to a hazelnut"
    parts, drops = next((parts, drops) for most, parts, drops in OIL_PARTS if fat < most)
    return f"{parts}, {drops} drops to a hazelnut"


def density_words(marks: int, area_cm2: float, noun: str) -> str:
    """Say how densely marks lie, e.g. "40 strokes to a cm²"; empty where there is no area."""
    if area_cm2 <= 0 or marks <= 0:
        return ""
    each = marks / area_cm2
    if each >= 1:
        return f"{about(round(each))} {noun} to a\u00a0cm²"
    return f"one of the {noun} to {about(max(2, round(1 / each)))}\u00a0cm²"
