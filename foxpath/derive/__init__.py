"""What follows from a project: a room for each stop, and what they share.

Every function of a room takes `Results`, what has been derived so far, and the project; it remembers what it makes by the content
that follows from. So a moved comb solves one zone, and a changed pass repaints itself and the later ones.

memo, results
    What is remembered: by content, and once for a project.
frames, pictures
    The grids, and the reference as it is measured.
zones < growth < edges < reference < lengths < eyes < passes < rehearsal < handout
    The rooms; each stands on those before it, and a machine holds this.
subject, subjects
    What a subject gives (readings, findings, pages, numbers), and the list of them. A new stop is entered there.
readings, book
    All of them together: what the window shows, and what is written.
warm
    The kernels compiled.

A request is a frozen, callable piece of long work with its inputs captured; it is called with a `Progress`.
"""

from foxpath.derive.memo import Memo
from foxpath.derive.results import Results

__all__ = ["Memo", "Results"]
