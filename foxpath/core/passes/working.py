"""The order of work: row by row, one pass through all parts; or area by area, one part through all that is laid while it is open."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from foxpath.core.passes.plan import PassPlan
from foxpath.core.passes.ways import Ways

AREA_MIN = 20.0
"""Minutes in all passes of a run below which parts are worked on together."""
ALONE = ("ground", "highlights", "whiskers")
"""Acts that are laid over the whole, whatever the order: the last of them after a rest and a fresh look."""


@dataclass(frozen=True, slots=True)
class Turn:
    """What is painted before anything else is begun.

    Attributes
    ----------
    roles : tuple of str
        Keys of passes, in order.
    zones : tuple of int
        Parts, counted back to front, in laying order.
    minutes : float
    """

    roles: tuple[str, ...]
    zones: tuple[int, ...]
    minutes: float


def manner_of_work(ways: Ways, plans: Sequence[PassPlan]) -> str:
    """Return "rows" or "areas": as the painter said, else area by area where most passes are laid into the wet."""
    if ways.work:
        return ways.work
    hair = [plan for plan in plans if plan.on and not plan.role.block_in and plan.role.act not in ALONE]
    wet = sum(plan.role.beneath == "wet" for plan in hair)
    return "areas" if wet and 2 * wet > len(hair) else "rows"


def runs_of(plans: Sequence[PassPlan]) -> list[list[PassPlan]]:
    """Return the passes that are on, in runs that are laid while the paint beneath is open (or, of acrylic, dry in minutes)."""
    runs: list[list[PassPlan]] = []
    for plan in plans:
        if not plan.on:
            continue
        before = runs[-1][-1] if runs else None
        quick = before is not None and before.role.paint == plan.role.paint == "acrylic"
        alone = plan.role.act in ALONE or (before is not None and before.role.act in ALONE)
        if before is None or alone or (plan.role.beneath == "touch-dry" and not quick):
            runs.append([plan])
        else:
            runs[-1].append(plan)
    return runs


def areas_of(run: Sequence[PassPlan], order: Mapping[int, int], least_min: float = AREA_MIN) -> list[tuple[int, ...]]:
    """Return the areas that are carried through a run, in laying order: parts, small ones together.

    Parameters
    ----------
    run : sequence of PassPlan
    order : mapping of int to int
        Place of every zone in the laying order.
    least_min : float
        Minutes in all passes of the run that are worth an area of its own.
    """
    minutes: dict[int, float] = {}
    for plan in run:
        for index, one in plan.estimates.items():
            minutes[index] = minutes.get(index, 0.0) + one.minutes
    parts = sorted(minutes.items(), key=lambda one: order.get(one[0], 0))
    return [zones for zones, _ in gathered(parts, least_min)]


def gathered(parts: Sequence[tuple[int, float]], least_min: float) -> list[tuple[tuple[int, ...], float]]:
    """Gather neighbours until they take so long: what takes less is no work by itself.

    Parameters
    ----------
    parts : sequence of (part, minutes)
        In the order they are laid.
    least_min : float

    Returns
    -------
    list of (parts, minutes)
    """
    made: list[tuple[tuple[int, ...], float]] = []
    for index, minutes in parts:
        if made and made[-1][1] < least_min:
            made[-1] = ((*made[-1][0], index), made[-1][1] + minutes)
        else:
            made.append(((index,), minutes))
    if len(made) > 1 and made[-1][1] < least_min:
        last = made.pop()
        made[-1] = ((*made[-1][0], *last[0]), made[-1][1] + last[1])
    return made


def turns_of(plans: Sequence[PassPlan], order: Mapping[int, int], work: str) -> tuple[Turn, ...]:
    """Return the order of work.

    Parameters
    ----------
    plans : sequence of PassPlan
        In their order.
    order : mapping of int to int
        Place of every zone in the laying order.
    work : "rows" or "areas"
    """
    turns: list[Turn] = []
    for run in runs_of(plans):
        if work == "rows" or len(run) == 1:
            turns += [
                Turn((plan.role.key,), tuple(sorted(plan.zones, key=lambda k: order.get(k, 0))), plan.minutes)
                for plan in run
            ]
            continue
        for zones in areas_of(run, order):
            mine = [plan for plan in run if set(plan.zones) & set(zones)]
            taken = sum(plan.estimates[k].minutes for plan in mine for k in zones if k in plan.estimates)
            if mine:
                turns.append(Turn(tuple(plan.role.key for plan in mine), zones, taken))
    return tuple(turns)


MOST_NAMED = 3
"""Parts of an area that are named; of more their number is told."""


def turn_words(turn: Turn, names: Sequence[str], roles: Mapping[str, str]) -> str:
    """Say what is carried through what, e.g. "Bib: midtones, darks, coat".

    Parameters
    ----------
    turn : Turn
    names : sequence of str
        Of the parts, back to front.
    roles : mapping of str to str
        Names of the passes by their key.
    """
    parts = [names[k].lower() for k in turn.zones]
    where = ", ".join(parts) if 0 < len(parts) <= MOST_NAMED else f"{len(parts)} parts" if parts else "the whole canvas"
    through = ", ".join(roles.get(key, key).lower() for key in turn.roles)
    return f"{where[:1].upper()}{where[1:]}: {through}"


def areas_words(turns: Sequence[Turn], names: Sequence[str], roles: Mapping[str, str]) -> tuple[str, ...]:
    """Say turn by turn what an area is carried through, as `turn_words`; row by row there is nothing to say."""
    if all(len(turn.roles) == 1 for turn in turns):
        return ()
    return tuple(turn_words(turn, names, roles) for turn in turns)
