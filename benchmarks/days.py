"""Days: a plan of sittings at once, a better one after a moment, and how sure its date is."""

import time
from datetime import datetime

from foxpath.core.days.calendar import Rule, Week, free_time, sittings
from foxpath.core.days.forecast import forecast
from foxpath.core.days.problem import Plan, Problem
from foxpath.core.days.schedule import Hand, dispatch
from foxpath.core.days.search import at_once, better
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.days.tasks import tasks_of

START, HORIZON, SEARCH_S = datetime(2026, 3, 2), 300, 5.0  # noqa: DTZ001  (local, as every time of a plan)


def measure() -> list[dict[str, object]]:
    """Plan the demos."""
    rows: list[dict[str, object]] = []
    for name in ("fox", "jay"):
        tasks, relations = tasks_of(Results(), demo_project(name))
        problem = Problem(tasks, relations, sittings(free_time(Week(), START, HORIZON), START, Rule()))
        begin = time.process_time()
        plain = dispatch(problem, Hand(problem.tails))
        once = time.process_time() - begin
        begin = time.process_time()
        first = at_once(problem)
        many = time.process_time() - begin
        found, hand = better(problem, first, SEARCH_S)
        begin = time.process_time()
        made = forecast(problem, hand, {})
        drawn = time.process_time() - begin
        rows += [
            _row(
                f"{name}: best of 30 plans, CPU",
                1000 * many,
                "ms",
                100,
                f"{len(tasks)} tasks; {many / max(once, 1e-9):.0f} x one list schedule",
            ),
            _row(
                f"{name}: its cost / one list schedule's",
                problem.cost(first[0]) / problem.cost(plain),
                "x",
                1,
                _said(problem, first[0]),
            ),
            _row(
                f"{name}: after {SEARCH_S:g} s of search",
                problem.cost(found) / problem.cost(first[0]),
                "x",
                1,
                _said(problem, found),
            ),
            _row(
                f"{name}: nine in ten / half, days",
                made.most / made.half,
                "x",
                None,
                f"{made.half / 1440:.1f} and {made.most / 1440:.1f} days; {drawn:.1f} s CPU",
            ),
        ]
    return rows


def _said(problem: Problem, plan: Plan) -> str:
    return f"{problem.finish(plan) / 1440:.1f} days, {plan.used} sittings, {len(plan.lost)} windows lost"


def _row(what: str, value: float, unit: str, goal: float | None, detail: str) -> dict[str, object]:
    return {"what": what, "value": round(value, 3), "unit": unit, "goal": goal, "detail": detail}
