"""Paint the passes of a rehearsal one after the other; what an earlier one has the same is taken over, tile by tile.

Tiles are painted independently of each other, so that what is taken over has the same bytes as what is painted anew.
"""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import U8, Bool, frozen
from foxpath.core.brush import differing_tiles, tile_grid, tiles_at
from foxpath.core.rehearsal.marks import Marks
from foxpath.core.rehearsal.stage import Standing, bare_canvas, keep, lay, touched
from foxpath.core.reporting import Progress

MOSTLY = 0.6
"""When so much has changed, all is painted: to find out what has not would take longer."""
Keyed = Sequence[tuple[Hashable, Marks]]


@dataclass(frozen=True, slots=True, eq=False)
class Stood:
    """The painting after a pass.

    Attributes
    ----------
    standing : Standing
    unfinished : (H, W, 4) uint8 or None
        The canvas before borders were softened and strays laid; None where neither was done.
    """

    standing: Standing
    unfinished: U8 | None

    @property
    def rough(self) -> U8:
        """The canvas with nothing but the pass's own marks."""
        return self.standing.kept if self.unfinished is None else self.unfinished


@dataclass(frozen=True, slots=True, eq=False)
class Layer:
    """A pass as it was painted: its key, its groups of marks by their key, and what stood then."""

    role: str
    groups: tuple[tuple[Hashable, Marks], ...]
    stood: Stood


class Panel:
    """One canvas on its way from bare panel to the last pass."""

    def __init__(self, columns: int, rows: int, px_per_mm: float, surface: str, earlier: Sequence[Layer] = ()) -> None:
        self._size = (columns, rows)
        self._px_per_mm, self._surface = px_per_mm, surface
        self._earlier = list(earlier)
        self.layers: list[Layer] = []
        # Where the canvas differs from the earlier rehearsal's after the same pass; None for all of it.
        self._dirty: Bool | None = np.zeros(tile_grid(rows, columns), bool)

    @property
    def standing(self) -> Standing | None:
        """The painting as it stands; None before the first pass."""
        return self.layers[-1].stood.standing if self.layers else None

    def paint(
        self, role: str, keyed: Keyed, clean: Bool | None, finish: Callable[[U8], U8] | None, progress: Progress
    ) -> Stood:
        """Paint a pass.

        Parameters
        ----------
        role : str
        keyed : sequence of (key, Marks)
            Groups of the same key are the same marks.
        clean : (H, W) bool or None
            Where it must not spill.
        finish : callable, optional
            Softens borders and lays strays on a copy of the canvas, and returns it.
        progress : Progress

        Raises
        ------
        Cancelled
        """
        before, layer = self.standing or keep(bare_canvas(*self._size)), self._counterpart(role)
        tiles = self._to_paint(layer, keyed)
        canvas = layer.stood.rough.copy() if layer is not None and tiles is not None else np.empty_like(before.kept)
        groups = [marks for _, marks in keyed]
        lay(canvas, groups, self._px_per_mm, progress, over=before, surface=self._surface, tiles=tiles)
        if clean is not None:
            np.copyto(canvas, before.kept, where=clean[..., None])
        rough = frozen(canvas)
        stood = Stood(keep(rough), None) if finish is None else Stood(keep(finish(rough)), rough)
        # Softening and strays reach beyond the tiles that were painted.
        within = tiles if finish is None else None
        self._put(role, keyed, stood, everywhere=tiles is None, within=within)
        return stood

    def take(self, role: str, keyed: Keyed, stood: Stood) -> None:
        """Take a pass over that stands already."""
        self._put(role, keyed, stood, everywhere=False)

    def let_go(self) -> None:
        """Keep nothing but the painting as it stands."""
        last = self.layers[-1]
        self.layers = [replace(last, stood=Stood(last.stood.standing, None))]

    def _put(self, role: str, keyed: Keyed, stood: Stood, *, everywhere: bool, within: Bool | None = None) -> None:
        layer, kept = self._counterpart(role), stood.standing.kept
        if layer is None:
            self._dirty = None
        elif everywhere:
            self._dirty = np.ones(tile_grid(*kept.shape[:2]), bool)
        elif layer.stood.standing is stood.standing:
            self._dirty = np.zeros(tile_grid(*kept.shape[:2]), bool)
        else:
            self._dirty = differing_tiles(kept, layer.stood.standing.kept, within)
        self.layers.append(Layer(role, tuple(keyed), stood))

    def _counterpart(self, role: str) -> Layer | None:
        """Return the same pass of the earlier rehearsal, as long as the order of passes is the same."""
        at = len(self.layers)
        if self._dirty is None or at >= len(self._earlier) or self._earlier[at].role != role:
            return None
        return self._earlier[at]

    def _to_paint(self, layer: Layer | None, keyed: Keyed) -> Bool | None:
        """Return the tiles a pass must paint; None for all."""
        if layer is None or self._dirty is None or float(self._dirty.mean()) > MOSTLY:
            return None
        was, now = dict(layer.groups), dict(keyed)
        if [key for key in was if key in now] != [key for key in now if key in was]:
            # The same marks in another order lie over each other differently.
            return None
        changed = [marks for key, marks in now.items() if key not in was]
        if sum(len(marks.half_mm) for marks in changed) > MOSTLY * sum(len(marks.half_mm) for marks in now.values()):
            return None
        changed += [marks for key, marks in was.items() if key not in now]
        if self._dirty.any():
            changed += [self._carrying(marks, layer.stood.rough) for marks in now.values() if marks.picks > 0]
        tiles = np.asarray(self._dirty | touched(changed, layer.stood.rough, self._px_per_mm))
        return tiles if float(tiles.mean()) <= MOSTLY else None

    def _carrying(self, marks: Marks, canvas: U8) -> Marks:
        """Return the wet marks that are rooted where the canvas has changed: they carry it to their tips."""
        assert self._dirty is not None
        i, j = tiles_at(marks.lines_mm[:, 0] * self._px_per_mm, *canvas.shape[:2])
        return marks.pick(self._dirty[i, j])
