"""What is derived from projects, remembered: piece by piece, and once for a project."""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass, field, fields
from typing import Any, TypeVar, cast

from foxpath.derive.memo import Memo
from foxpath.document.model import Project

T = TypeVar("T")
PROJECTS = 3
"""Of so many projects what is made once is kept: the one worked on, one looked at beside it, one rehearsed meanwhile."""


@dataclass(frozen=True, slots=True)
class _Once:
    """What was made once for a project: what is the same whichever hand paints it, and what goes by the hand."""

    by_any: dict[Hashable, Any] = field(default_factory=dict)
    by_this_hand: dict[Hashable, Any] = field(default_factory=dict)

    def by_any_hand(self) -> "_Once":
        """Return what another hand takes over."""
        return _Once(dict(self.by_any))


def _but_for_the_hand(one: Project, other: Project) -> bool:
    """Tell whether two projects differ in nothing but the hand that rehearses them: each field is the very same."""
    return all(getattr(one, part.name) is getattr(other, part.name) for part in fields(Project) if part.name != "seed")


class Results:
    """What has been derived so far. The functions of the rooms take it first, and the project second.

    Attributes
    ----------
    memo : Memo
        Results by the content they follow from.
    layers : dict
        The passes painted last, by size, surface and order: the next rehearsal goes on from them.
    """

    def __init__(self, memo: Memo | None = None) -> None:
        self.memo = memo or Memo()
        self.layers: dict[Hashable, Sequence[Any]] = {}
        self._once: tuple[tuple[Project, _Once], ...] = ()

    def once(self, project: Project, what: Hashable, make: Callable[[], T], *, by_hand: bool = False) -> T:
        """Return what is made once for this very project, and asked for again by every pass and zone.

        What follows from a project as a whole has so long a story that telling it would take longer than making it.
        It is taken over by the same project in another hand, unless it says that it goes `by_hand`.
        """
        latest = self._once[0] if self._once else None
        # Asked for a thousand times a rehearsal, nearly always of the same project.
        found = latest[1] if latest and latest[0] is project else next((k for p, k in self._once if p is project), None)
        if found is None:
            found = next((kept.by_any_hand() for one, kept in self._once if _but_for_the_hand(one, project)), _Once())
            self._once = ((project, found), *self._once[: PROJECTS - 1])
        made = found.by_this_hand if by_hand else found.by_any
        if what not in made:
            made[what] = make()
        return cast("T", made[what])

    def keep_layers(self, place: Hashable, layers: Sequence[Any]) -> None:
        """Keep the passes painted last for a place, and those of one other."""
        others = [(key, kept) for key, kept in self.layers.items() if key != place][-1:]
        self.layers = dict([*others, (place, tuple(layers))])
