"""What was learned of the painter, subject by subject, with how many observations stand behind each."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from foxpath.core.mixes.dried import ACRYLIC, system_of, typical
from foxpath.core.mixes.tubes import tubes_of
from foxpath.core.mixes.words import names_of
from foxpath.core.units import count_words, percent
from foxpath.derive.days.tasks import belief_of
from foxpath.document.model import Project

FEW = 3
"""So many tubes are named."""


@dataclass(frozen=True, slots=True)
class LearnedFact:
    """A subject.

    Attributes
    ----------
    key : str
        "pace", "drying", "tubes", "dried", "picked" or "errors".
    name, words : str
    count : int
        Observations behind it; 0 where typical values stand.
    of : str
        What an observation is called.
    """

    key: str
    name: str
    words: str
    count: int
    of: str

    def seen(self) -> str:
        """Say how many observations stand behind it."""
        if self.key == "errors" and not self.count:
            return "none yet"
        return (
            count_words(self.count, self.of, f"{self.of}es" if self.of.endswith("s") else "")
            if self.count
            else "typical"
        )


def learned_facts(project: Project, usual: Sequence[tuple[str, int, int]] = ()) -> tuple[LearnedFact, ...]:
    """Return what was learned in this painting, and what it began with.

    Parameters
    ----------
    project : Project
    usual : sequence of (words, count, paintings)
        The errors made most, over all paintings (`document.errors.usual`).
    """
    pace, tubes = project.pace, project.mixes.learned()
    notes = len(project.days.notes) + len(project.days.earlier)
    looked = sorted((one for one in tubes if one.looks), key=lambda one: -one.looks)
    dabbed = sorted((one for one in tubes if one.dabs), key=lambda one: -one.dabs)
    factor = math.exp(belief_of(project.days).factor("")[0])
    names = names_of(tubes_of([replace(one, here=True) for one in tubes]))
    strengths = ", ".join(f"{names[one.id].lower()} {one.taken:.2f} ×" for one in looked[:FEW])
    shifts = ", ".join(
        f"{names[one.id].lower()} {typical(system_of(one), 50.0) + one.dries[0]:+.1f} L*" for one in dabbed[:FEW]
    )
    acrylic = any(system_of(one) in ACRYLIC for one in tubes if one.here)
    return (
        LearnedFact(
            "pace", "Pace", f"{pace.overall:.2g} × the usual" if pace.count else "the usual pace", pace.count, "pass"
        ),
        LearnedFact("drying", "Drying", f"{factor:.2g} × the typical time" if notes else "typical times", notes, "note"),
        LearnedFact(
            "tubes", "Strength of tubes", strengths or "as the table has them", sum(one.looks for one in tubes), "look"
        ),
        LearnedFact(
            "dried", "Wet to dry", shifts or ("acrylic darkens by 2 to 4 L*" if acrylic else "oil stays, darks sink in"),
            sum(one.dabs for one in tubes), "dab",
        ),
        LearnedFact(
            "picked", "Pick-up", f"{percent(project.mixes.pick_up)} of what lies wet",
            len(project.mixes.strokes) + len(project.mixes.strokes_before), "stroke",
        ),
        LearnedFact(
            "errors", "Usual errors", ", ".join(words for words, _, _ in usual[:FEW]) or "Progress tells them",
            sum(count for _, count, _ in usual), "time",
        ),
    )  # fmt: skip
