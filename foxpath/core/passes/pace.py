"""A painter's own pace, learned from passes that were logged: how much longer or shorter than the usual each takes.

Ratios are learned on a logarithmic scale, and few logged passes are not trusted far: the overall pace is drawn toward the
usual one, and that of a role toward the painter's overall one (normal model with shrinkage; Gelman et al., Bayesian Data
Analysis, 3rd ed., 2013, ch. 5).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass

NOISE, PAINTERS, ROLES_APART = 0.35, 0.5, 0.3
"""Deviations of ln(taken / usual): of one pass, between painters, and between one painter's roles."""
LEAST_MIN, MOST_MIN = 1.0, 6000.0
"""What a logged pass may have taken, minutes."""


@dataclass(frozen=True, slots=True)
class Logged:
    """A pass that was painted.

    Attributes
    ----------
    role, act : str
        Its key, and what it acts as.
    taken_min : float
        What it took, 1 to 6000 minutes.
    usual_min : float
        What it would take at the usual pace, by the plan it was painted from.
    day : str
        ISO date; empty when it is not known.
    """

    role: str
    act: str
    taken_min: float
    usual_min: float
    day: str = ""

    @property
    def ratio(self) -> float:
        """How much longer it took than usual, ln."""
        return math.log(max(self.taken_min, LEAST_MIN) / max(self.usual_min, LEAST_MIN))


@dataclass(frozen=True, slots=True)
class Pace:
    """A painter's pace.

    Attributes
    ----------
    overall : float
        Times the usual minutes.
    by_act : tuple of (act, factor)
        For roles that were logged.
    count : int
        Passes it was learned from.
    doubt : float
        Deviation of ln(overall) that is left.
    """

    overall: float = 1.0
    by_act: tuple[tuple[str, float], ...] = ()
    count: int = 0
    doubt: float = PAINTERS

    def factor(self, act: str) -> float:
        """Return by how much a role takes longer (over 1) or shorter than usual."""
        return dict(self.by_act).get(act, self.overall)

    def words(self) -> str:
        """Say it in a sentence: the pace, what it was learned from, and how sure that is."""
        if not self.count:
            return "The usual pace, until a pass is noted."
        times = math.exp(1.28 * self.doubt)
        passes = "1 noted pass" if self.count == 1 else f"{self.count} noted passes"
        low, high = self.overall / times, self.overall * times
        return f"Your pace: {self.overall:.2g} \u00d7 the usual, from {passes}; 8 times in 10 it is {low:.2g} to {high:.2g} \u00d7."


USUAL_PACE = Pace()


def learn(logged: Sequence[Logged]) -> Pace:
    """Learn a pace from logged passes; none gives the usual one."""
    if not logged:
        return USUAL_PACE
    held = (NOISE / PAINTERS) ** 2
    mean = sum(one.ratio for one in logged) / (len(logged) + held)
    within = (NOISE / ROLES_APART) ** 2
    by_act = []
    for act in sorted({one.act for one in logged}):
        own = [one.ratio for one in logged if one.act == act]
        by_act.append((act, math.exp((sum(own) + within * mean) / (len(own) + within))))
    doubt = NOISE / math.sqrt(len(logged) + held)
    return Pace(math.exp(mean), tuple(by_act), len(logged), doubt)
