"""Which few of the tubes at hand serve a painting best."""

from collections.abc import Sequence

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.errors import InputError
from foxpath.core.mixes.recipe import MOST_TUBES, Rack, everything


def shortlist(rack: Rack, lab: F64, weight: F64, count: int, kept: Sequence[str] = ()) -> tuple[str, ...]:
    """Choose so many tubes that the colours of a painting are mixed best from three of them at a time.

    One tube after the other is put away, each time the one whose loss costs least; then single exchanges are tried.

    Parameters
    ----------
    rack : Rack
    lab : (m, 3) float64
        The colours; a few dozen.
    weight : (m,) float64
    count : int
        1 or more.
    kept : sequence of str
        Tubes that stay in any case.

    Returns
    -------
    tuple of tube ids, in the rack's order

    Raises
    ------
    InputError
        When fewer than one tube is asked for.
    """
    if count < 1:
        raise InputError(f"{count} tubes cannot mix anything.", "Allow at least one.")
    n = len(rack)
    if count >= n or not len(lab):
        return rack.ids
    masks, away = everything(rack, lab, MOST_TUBES)
    # Beyond a difference, worse is not worse: a colour that is lost is lost.
    cost = np.minimum(away, 15.0) ** 1.5
    share = weight / weight.sum()

    def loss(have: int) -> float:
        inside = (masks & ~have) == 0
        return float((cost[:, inside].min(axis=1) * share).sum()) if inside.any() else 99.0

    fixed = {rack.ids.index(key) for key in kept if key in rack.ids}
    have = (1 << n) - 1
    while have.bit_count() > count:
        may = [k for k in range(n) if have >> k & 1 and k not in fixed]
        if not may:
            break
        have &= ~(1 << min(may, key=lambda k: (loss(have & ~(1 << k)), k)))
    for _ in range(2):
        before = have
        ins, outs = (
            [k for k in range(n) if not have >> k & 1],
            [k for k in range(n) if have >> k & 1 and k not in fixed],
        )
        best = min(((loss(have & ~(1 << o) | 1 << i), o, i) for o in outs for i in ins), default=None)
        if best is not None and best[0] < loss(have) - 1e-6:
            have = have & ~(1 << best[1]) | 1 << best[2]
        if have == before:
            break
    return tuple(key for k, key in enumerate(rack.ids) if have >> k & 1)
