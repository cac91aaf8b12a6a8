"""What follows from a project.

`memo` remembers results by the fingerprint of their inputs; `results` says how each follows from the
project, zone by zone, so that one comb recomputes one zone; `rehearsal` plays the passes; `handout`
makes the sheets and files; `requests` are the frozen, callable pieces of long work that the window
runs in its pool; `warm` compiles the kernels.
"""

from foxpath.derive.memo import Memo
from foxpath.derive.results import Results

__all__ = ["Memo", "Results"]
