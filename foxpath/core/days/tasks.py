"""What is to be done, and in which relation; minutes and hours."""

from collections.abc import Sequence
from dataclasses import dataclass

AFTER_PAINT = ("varnish", "hand-over")
"""Kinds that come when the painting is done."""
KINDS = ("after", "touch_dry", "while_open", "tacky", "mixed", "rest")


@dataclass(frozen=True, slots=True)
class Task:
    """A piece of work.

    Attributes
    ----------
    id, painting, part, act : str
        `act` is the name of its pass.
    kind : str
        preparation, mixing, paint, eye, edge, blend, look, photograph, touch-up, varnish or hand-over.
    minutes : int
    """

    id: str
    painting: str
    part: str
    act: str
    kind: str
    minutes: int

    @property
    def key(self) -> str:
        """Its id within its painting, whatever that is called."""
        return self.id.removeprefix(f"{self.painting}:")

    @property
    def words(self) -> str:
        """What is done, in a sentence: "top coat of Near ear", "support", "drawing", "piles of the palette", "touch-ups"."""
        if self.kind == "preparation":
            return (self.part if self.act == "Preparation" else self.act).lower()
        if self.kind == "mixing":
            return f"{self.act.lower()} of the {self.part}"
        if self.kind in ("paint", "eye", "edge", "blend"):
            return f"{self.act.lower()} of {self.part}"
        return self.act.lower()


@dataclass(frozen=True, slots=True)
class Relation:
    """What must lie between two tasks.

    Attributes
    ----------
    before, after : str
        Ids of the tasks.
    kind : str
        One of `KINDS`.
    low_h : float
        At least from the end of the one to the start of the other.
    high_h : float or None
        At most from the start of the last piece of the one to the end of the other; a wet window. None for no limit.
    extra_min : int
        What the other grows by when the window is lost: a strip to restate.
    why : str
        The reason, in words.
    """

    before: str
    after: str
    kind: str
    low_h: float = 0.0
    high_h: float | None = None
    extra_min: int = 0
    why: str = ""


def merged(relations: Sequence[Relation]) -> tuple[Relation, ...]:
    """Return relations in which two of a kind between the same tasks are one: the stricter."""
    found: dict[tuple[str, str, str], Relation] = {}
    for one in relations:
        if one.before == one.after:
            continue
        key = (one.before, one.after, one.kind)
        other = found.get(key)
        if other is None:
            found[key] = one
            continue
        highs = [h for h in (one.high_h, other.high_h) if h is not None]
        found[key] = Relation(
            one.before, one.after, one.kind, max(one.low_h, other.low_h), min(highs) if highs else None,
            max(one.extra_min, other.extra_min), other.why,
        )  # fmt: skip
    return tuple(found.values())
