"""Lengths as painters write them: centimetres and inches in, millimetres inside."""

import re
from dataclasses import dataclass

from foxpath.core.errors import SizeError

MM_PER_UNIT = {"mm": 1.0, "cm": 10.0, "in": 25.4}
SMALLEST_MM, LARGEST_MM = 20.0, 5000.0

_SIZE = re.compile(
    r"""^\s*(\d+(?:[.,]\d+)?)\s*(?:mm|cm|in|inch|inches|")?\s*[x×*]\s*"""
    r"""(\d+(?:[.,]\d+)?)\s*(mm|cm|in|inch|inches|")?\s*$""",
    re.IGNORECASE,
)


WIDTH_OF_SIGMA = 2.563
"""Width of a transition, from 10 to 90 %, that a blur of standard deviation 1 makes of a step."""


@dataclass(frozen=True, slots=True)
class CanvasSize:
    """The size of the painting.

    Attributes
    ----------
    width_mm, height_mm : float
        20 to 5000.
    unit : str
        The unit the painter thinks in: ``"cm"`` or ``"in"``.
    """

    width_mm: float
    height_mm: float
    unit: str = "cm"

    def __post_init__(self) -> None:
        for value in (self.width_mm, self.height_mm):
            if not SMALLEST_MM <= value <= LARGEST_MM:
                raise SizeError(
                    f"A canvas side of {value / 10:g} cm cannot be planned.",
                    f"Give sides between {SMALLEST_MM / 10:g} and {LARGEST_MM / 10:g} cm.",
                )

    @property
    def aspect(self) -> float:
        """Width over height."""
        return self.width_mm / self.height_mm

    @property
    def area_cm2(self) -> float:
        """Area in square centimetres."""
        return self.width_mm * self.height_mm / 100

    def words(self) -> str:
        """Return e.g. ``"50 × 40 cm"``."""
        per = MM_PER_UNIT[self.unit]
        return f"{_plain(self.width_mm / per)} × {_plain(self.height_mm / per)} {self.unit}"


def parse_size(text: str) -> CanvasSize:
    """Read a canvas size such as ``"40x50cm"``, ``"16 x 20 in"`` or ``"400×500 mm"``.

    Without a unit centimetres are meant. The first number is the width.

    Raises
    ------
    SizeError
        When the text is no size, or a side is out of range.
    """
    match = _SIZE.match(text)
    if match is None:
        raise SizeError(f"'{text}' is not a canvas size.", "Write width x height, e.g. 50x40cm or 20x16in.")
    unit = (match.group(3) or "cm").lower()
    unit = "in" if unit.startswith("in") or unit == '"' else unit
    width, height = (float(match.group(i).replace(",", ".")) * MM_PER_UNIT[unit] for i in (1, 2))
    return CanvasSize(width, height, "in" if unit == "in" else "cm")


def _plain(value: float) -> str:
    """Write a number with at most one decimal and no trailing zero."""
    return f"{value:.1f}".rstrip("0").rstrip(".")


def mm_words(value_mm: float) -> str:
    """Write a length as a painter reads it: tenths below 10 mm, whole millimetres to 100, then cm."""
    if value_mm < 1:
        return f"{value_mm:.2f}".rstrip("0").rstrip(".") + " mm"
    if value_mm < 10:
        return f"{_plain(value_mm)} mm"
    if value_mm < 100:
        return f"{value_mm:.0f} mm"
    return f"{_plain(value_mm / 10)} cm"


def percent(share: float) -> str:
    """Write a share (0..1) as whole percent, e.g. ``"86 %"``."""
    return f"{share * 100:.0f} %"


def grouped(value: float) -> str:
    """Write a whole number with its thousands set apart, e.g. ``"62 049"``."""
    return f"{value:,.0f}".replace(",", " ")


def count_words(count: int, name: str, many: str = "") -> str:
    """Write a count with its name, e.g. ``"1 comb"``, ``"14 combs"``; `many` where an s does not make the plural."""
    return f"{grouped(count)} {name if count == 1 else many or name + 's'}"


def about(count: float, figures: int = 2) -> str:
    """Write an estimated count to two figures (or so many), e.g. ``"8 800"``, held together where a line breaks."""
    step = 10 ** max(0, len(f"{count:.0f}") - figures)
    return grouped(round(count / step) * step).replace(" ", "\u00a0")


def duration_words(minutes: float) -> str:
    """Write a time as ``"40 min"`` or ``"1 h 50"``, to five minutes."""
    total = max(5, round(minutes / 5) * 5)
    hours, rest = divmod(total, 60)
    if hours == 0:
        return f"{rest} min"
    return f"{hours} h {rest:02d}" if rest else f"{hours} h"


def with_article(name: str) -> str:
    """Return a part's name as it stands in a sentence: "the near ear", and "part 1", which is no thing but a number."""
    low = name.lower()
    return low if low[-1:].isdigit() or low.startswith(("the ", "a ", "his ", "her ")) else f"the {low}"
