"""What is derived from projects, remembered: piece by piece, and once for a project."""

from collections.abc import Callable, Hashable, Sequence
from typing import Any, TypeVar, cast

from foxpath.derive.memo import Memo
from foxpath.document.model import Project

T = TypeVar("T")
PROJECTS = 3
"""Of so many projects what is made once is kept: the one worked on, one looked at beside it, one rehearsed meanwhile."""


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
        self._once: tuple[tuple[Project, dict[Hashable, Any]], ...] = ()

    def once(self, project: Project, what: Hashable, make: Callable[[], T]) -> T:
        """Return what is made once for this very project, and asked for again by every pass and zone.

        What follows from a project as a whole has so long a story that telling it would take longer than making it.
        """
        made = None
        for one, kept in self._once:
            if one is project:
                made = kept
        if made is None:
            made = {}
            self._once = ((project, made), *self._once[: PROJECTS - 1])
        if what not in made:
            made[what] = make()
        return cast("T", made[what])

    def keep_layers(self, place: Hashable, layers: Sequence[Any]) -> None:
        """Keep the passes painted last for a place, and those of one other."""
        others = [(key, kept) for key, kept in self.layers.items() if key != place][-1:]
        self.layers = dict([*others, (place, tuple(layers))])
