"""Everything that is judged of a photograph, in one go."""

from dataclasses import dataclass

from foxpath.core.progress.judge.candidates import Candidate, ranked, verdict
from foxpath.core.progress.judge.edges import edges
from foxpath.core.progress.judge.features import eyes
from foxpath.core.progress.judge.grain import grain, lights
from foxpath.core.progress.judge.masses import PartOff, masses
from foxpath.core.progress.judge.missing import missing
from foxpath.core.progress.judge.spots import bare, strokes
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.seen import Seen
from foxpath.core.progress.sight import viewing_m
from foxpath.core.reporting import SILENT, Progress


@dataclass(frozen=True, slots=True, eq=False)
class Judgement:
    """What was judged.

    Attributes
    ----------
    told : tuple of Candidate
        Over their thresholds; what the eye sees first comes first.
    measured : tuple of Candidate
        Everything that was measured, told or not.
    parts : tuple of PartOff
    verdict : str
        "stop", "one round" or "rework".
    from_m : float
        The distance it is judged from.
    """

    told: tuple[Candidate, ...]
    measured: tuple[Candidate, ...]
    parts: tuple[PartOff, ...]
    verdict: str
    from_m: float


def judge(planned: Planned, seen: Seen, from_m: float = 0.0, progress: Progress = SILENT) -> Judgement:
    """Judge a photograph from large to small. Raises `Cancelled`.

    Parameters
    ----------
    planned : Planned
    seen : Seen
    from_m : float
        The distance it is looked at from; the usual one for the canvas without.
    progress : Progress
    """
    progress.at(0, "judging the drawing")
    found = eyes(planned, seen)
    progress.at(0.15, "judging the masses")
    more, parts = masses(planned, seen)
    found += more
    progress.at(0.3, "looking for bare canvas and strokes")
    found += bare(planned, seen) + strokes(planned, seen)
    progress.at(0.5, "judging the edges")
    found += edges(planned, seen)
    progress.at(0.75, "judging the hair")
    found += grain(planned, seen) + lights(planned, seen) + missing(planned, seen)
    far = from_m or viewing_m(planned.diagonal_m)
    told = ranked(found, planned.px_per_mm, far)
    progress.at(1)
    return Judgement(told, tuple(found), parts, verdict(told, planned.diagonal_m, far), far)
