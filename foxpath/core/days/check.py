"""Hold a plan against what binds it: whether one that was taken before still can be followed, and what stands against it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from foxpath.core.days.problem import Piece, Plan, Problem


@dataclass(frozen=True, slots=True)
class Against:
    """What stands against a plan.

    Attributes
    ----------
    kind : str
        missing (no piece, or not its minutes), missed (it lies in the past and was not done), outside (no sitting holds it any more),
        overlap, early (a relation is not kept), held (it lies outside where it was put).
    task : int
    relation : int
        -1 where it is none.
    """

    kind: str
    task: int
    relation: int = -1


KINDS = ("missed", "early", "outside", "held", "missing", "overlap")
"""In the order in which they are told: what happened first."""


def read_back(problem: Problem, pieces: Mapping[int, Sequence[Piece]]) -> tuple[Plan, tuple[Against, ...]]:
    """Return pieces as a plan, with the windows that it loses, and all that stands against it.

    Parameters
    ----------
    problem : Problem
    pieces : mapping of task to (begin, end)
        Minutes; of what is not done. What is missing has none.
    """
    laid = [
        problem.done[i] if i in problem.done else tuple(sorted(pieces.get(i, ())))
        for i in range(len(problem.tasks))
    ]  # fmt: skip
    lost = frozenset(
        k for j, before in enumerate(problem.into) for i, k in before
        if laid[i] and laid[j] and laid[j][-1][1] > laid[i][-1][0] + problem.high[k]
    )  # fmt: skip
    coming = {i for i in range(len(laid)) if i not in problem.done and laid[i]}
    used = {one for i in coming for a, _ in laid[i] if (one := problem.sitting_of(a)) is not None}
    plan = Plan(tuple(laid), lost, len(used))
    found: list[Against] = []
    for i, task in enumerate(problem.tasks):
        if i in problem.done:
            continue
        need = task.minutes + sum(problem.relations[k].extra_min for _, k in problem.into[i] if k in lost)
        if not laid[i] or sum(b - a for a, b in laid[i]) != need:
            found.append(Against("missing", i))
        elif laid[i][0][0] < problem.start:
            found.append(Against("missed", i))
        elif not all(any(a <= x and y <= b for a, b in problem.sittings) for x, y in laid[i]):
            found.append(Against("outside", i))
        for j, k in problem.into[i]:
            if laid[i] and laid[j] and laid[i][0][0] < laid[j][-1][1] + problem.low[k]:
                found.append(Against("early", i, k))
    found += [Against("held", i) for i in problem.broken(plan) if laid[i]]
    flat = sorted((a, b, i) for i in coming for a, b in laid[i])
    found += [Against("overlap", i) for (_, b, _), (c, _, i) in zip(flat, flat[1:], strict=False) if c < b]
    return plan, tuple(sorted(found, key=lambda one: KINDS.index(one.kind)))
