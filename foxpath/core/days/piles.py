"""What a pile is as paint that dries: the kinds of pigment in it, and the key that notes of it go by, in every painting."""

from collections.abc import Mapping, Sequence

from foxpath.core.days.drying import BY_WORD, CLASS_OF
from foxpath.core.mixes.tubes import Tube

MAIN_SHARE = 0.15
"""Of a pile's parts; a tube with less does not name it."""
OWN_SYSTEMS = ("water oil", "acrylic", "slow acrylic")


def pigments_of(parts: Sequence[tuple[str, float]], tubes: Mapping[str, Tube]) -> dict[str, float]:
    """Return the parts of each kind of pigment in a pile; a tube that is not known is middling, one of the painter's own goes by its word."""
    kinds: dict[str, float] = {}
    for key, n in parts:
        tube = tubes.get(key)
        own = tube is not None and key.startswith("own")
        kind = CLASS_OF.get(key) or (BY_WORD.get(tube.drying, "medium") if own and tube is not None else "medium")
        kinds[kind] = kinds.get(kind, 0.0) + n
    return kinds


def pile_kind(parts: Sequence[tuple[str, float]]) -> str:
    """Return the key that notes of a pile go by: the tubes that make it up, so that the same mixture has it in every painting."""
    whole = sum(n for _, n in parts)
    return "+".join(sorted(key for key, n in parts if whole > 0 and n >= MAIN_SHARE * whole))


def system_of(parts: Sequence[tuple[str, float]], tubes: Mapping[str, Tube], paint: str) -> str:
    """Return the paint system of a pile: that of its tubes where they are none of plain oil, else the pass's."""
    if paint == "acrylic":
        return "acrylic"
    for key, _ in parts:
        tube = tubes.get(key)
        if tube is not None and tube.system in OWN_SYSTEMS:
            return tube.system
    return "oil"


def has_alkyd(parts: Sequence[tuple[str, float]], tubes: Mapping[str, Tube]) -> bool:
    """Tell whether a pile holds alkyd paint."""
    return any((tube := tubes.get(key)) is not None and tube.system == "alkyd" for key, _ in parts)
