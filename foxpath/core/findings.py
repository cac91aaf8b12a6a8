"""Findings: judgements with what was measured, the rule, and what to do; every stop says its own in this one form."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

Place = tuple[float, float]
Level = Literal["must", "look", "note", ""]
"""To be mended, to be looked at, only said; empty when there is nothing to do."""
LEVELS: tuple[Level, ...] = ("must", "look", "note", "")
"""Worst first."""


@dataclass(frozen=True, slots=True)
class Finding:
    """A judgement with its reason.

    Attributes
    ----------
    level : Level
    says : str
        One sentence.
    why : str
        What was measured, against which rule, and what to do.
    where : str
        The stop it belongs to, e.g. ``"passes"``.
    subject : str
        Key of the pass, or id of the zone, comb or eye it is about; empty for the whole painting.
    key, name : str
        The rule it was judged by, and the same in words; empty where the sentence says all.
    number : str
        The measure with its unit, where it stands by itself.
    mm : float
        The number behind it, mm on the canvas, where it is a length.
    weight : float
        How much it matters among findings of its level.
    at : (x, y) or None
        Where to look, reference pixels.
    label : str
        A few words for the picture.
    lines : tuple of (start, end)
        To be drawn over the picture, reference pixels.
    """

    level: Level
    says: str
    why: str
    where: str
    subject: str = ""
    key: str = ""
    name: str = ""
    number: str = ""
    mm: float = 0.0
    weight: float = 0.0
    at: Place | None = None
    label: str = ""
    lines: tuple[tuple[Place, Place], ...] = ()

    @property
    def asks(self) -> bool:
        """Whether it asks for a look, or to be mended."""
        return self.level in ("must", "look")


def worst_first(findings: Iterable[Finding]) -> list[Finding]:
    """Return findings by level, then by weight; of equals the one found first."""
    return sorted(findings, key=lambda one: (LEVELS.index(one.level), -one.weight))
