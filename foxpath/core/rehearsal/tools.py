"""What the brush makes of a mark: a rake's parallel hairs, an edge's blunt end, an old bristle's broken strands."""

from dataclasses import replace

import numpy as np

from foxpath.core.arrays import F32, frozen
from foxpath.core.lengths.choice import BrushChoice
from foxpath.core.rehearsal.marks import Marks

TEETH = 5
"""Teeth of a rake that are drawn in one touch, at most."""
APART = 1.9
"""From tooth to tooth, in widths of a tooth."""
UNEVEN = 0.3
"""By how much teeth and strands lie unevenly, as a share of their distance."""
STRANDS = 4
"""Strands that an old bristle breaks into."""
STRAND_MM, STRAND_APART = 0.42, 1.5
"""Width of a strand as a share of the mark's, and from strand to strand in strands."""
DRY_ALPHA = 0.72
"""Opacity that nearly dry paint keeps."""


def with_brush(marks: Marks, choice: BrushChoice | None, seed: tuple[int, ...]) -> Marks:
    """Return marks of hair as the chosen brush leaves them; masses stay as they are.

    Parameters
    ----------
    marks : Marks
    choice : BrushChoice or None
    seed : tuple of int
        The same seed makes the same marks.
    """
    if choice is None or not marks.hair or not len(marks.half_mm):
        return marks
    if choice.hold == "teeth":
        return _split(marks, TEETH, 1.0, APART, seed)
    if choice.load == "nearly dry":
        broken = _split(marks, STRANDS, STRAND_MM, STRAND_APART, seed)
        thin: F32 = frozen((broken.alpha * DRY_ALPHA).astype(np.float32))
        return replace(broken, alpha=thin, handling="dry", tip="blunt")
    if choice.hold in {"edge", "corner"}:
        return replace(marks, tip="blunt")
    return marks


def dark_beneath(marks: Marks) -> Marks:
    """Return marks of curls with a darker one under each, laid just before it: the relief of a woolly coat."""
    count = len(marks.half_mm)
    if not count or not marks.hair:
        return marks
    # Under it: away from the light, which mostly comes from above.
    beneath = marks.lines_mm + np.array([0.25, 1.0], np.float32) * (BENEATH * 2 * marks.half_mm)[:, None, None]

    def both(first: F32, second: F32) -> F32:
        made: F32 = frozen(np.stack([first, second], axis=1).reshape(2 * count, *first.shape[1:]).astype(np.float32))
        return made

    return replace(
        marks,
        lines_mm=both(beneath, marks.lines_mm),
        length_mm=both(marks.length_mm, marks.length_mm),
        half_mm=both(marks.half_mm, marks.half_mm),
        colour=both(marks.colour * DARKER, marks.colour),
        alpha=both(marks.alpha * DARK_ALPHA, marks.alpha),
        lightness=both(marks.lightness, marks.lightness),
    )


BENEATH, DARKER, DARK_ALPHA = 0.7, 0.72, 0.6
"""How far under a curl its dark lies, in widths; how dark its colour is, and how strong it is laid."""


def _split(marks: Marks, into: int, share: float, apart: float, seed: tuple[int, ...]) -> Marks:
    """Return every so many-th mark as that many beside one another: as many hairs, laid in fewer touches.

    Parameters
    ----------
    marks : Marks
    into : int
    share : float
        Width of each over the mark's own.
    apart : float
        From one to the next, in widths of one.
    seed : tuple of int
    """
    from foxpath.core.rehearsal import _kernel_place as loops

    # As much paint as before: where each strand is narrower, more touches are needed.
    step = max(1, round(into * share))
    some = marks.pick(slice(0, None, step))
    count = len(some.half_mm)
    rng = np.random.default_rng(seed)
    gap = some.half_mm * np.float32(2 * share * apart)
    row = np.arange(into, dtype=np.float32) - np.float32(0.5 * (into - 1))
    places = row + np.float32(UNEVEN) * rng.standard_normal((count, into), np.float32)
    # Hairs of one touch begin and end a little apart.
    slid = np.float32(0.12) * some.length_mm[:, None] * rng.standard_normal((count, into), np.float32)
    split = np.empty((count, into, *some.lines_mm.shape[1:]), np.float32)
    loops.beside(some.lines_mm, places * gap[:, None], slid, split)

    def each(values: F32) -> F32:
        made: F32 = frozen(np.repeat(values, into, axis=0))
        return made

    return replace(
        some,
        lines_mm=frozen(split.reshape(-1, *some.lines_mm.shape[1:])),
        length_mm=each(some.length_mm),
        half_mm=each(some.half_mm * np.float32(share)),
        colour=each(some.colour),
        alpha=each(some.alpha),
        lightness=each(some.lightness),
    )
