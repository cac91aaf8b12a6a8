"""Stop 7, Passes: `stop` has three pages take turns: the chosen pass, the `school` with its `ways`, and the value `study`.

`ladder` shows a pass, `paint` and `time` are what can be said of it, `beside` draws another school's painting next to this one.
"""

from foxpath.window.stops.passes.stop import PassesStop

__all__ = ["PassesStop"]
