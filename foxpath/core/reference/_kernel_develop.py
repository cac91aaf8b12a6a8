"""The loop that develops a picture: every colour looked up in the table of its place's lift."""

import numpy as np

from foxpath.core.arrays import U8, U16
from foxpath.core.jit import kernel


@kernel
def develop(source: U8 | U16, shift: int, steps: U8, tables: U8, out: U8) -> None:
    """`tables` is (lifts, levels, 3); a source value reads level ``value >> shift``."""
    rows, columns = steps.shape
    for i in range(rows):
        for j in range(columns):
            k = np.uint64(steps[i, j])
            for c in range(3):
                out[i, j, c] = tables[k, np.uint64(source[i, j, c] >> shift), c]
