"""Days: a plan of sittings at once, a better one after a moment, one near the plan before, ways out, and how sure a date is."""

import time
from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from foxpath.core.days import exact
from foxpath.core.days.calendar import Rule, Week, free_time, sittings
from foxpath.core.days.forecast import forecast
from foxpath.core.days.problem import Plan, Problem
from foxpath.core.days.schedule import Hand, dispatch
from foxpath.core.days.search import at_once, replan, search
from foxpath.core.days.tasks import Relation, Task
from foxpath.core.reporting import SILENT
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.days.plan import plan_of
from foxpath.derive.days.tasks import work_of
from foxpath.derive.days.ways import FindWays
from foxpath.document import edits

START, HORIZON, SEARCH_S = datetime(2026, 3, 2), 300, 5.0  # noqa: DTZ001  (local, as every time of a plan)


def measure() -> list[dict[str, object]]:
    """Plan the demos, side by side too, and a painting of forty areas."""
    results = Results()
    works = {name: work_of(results, demo_project(name)) for name in ("fox", "jay", "cavies")}
    cases = {name: problem(works[name].tasks, works[name].relations) for name in ("fox", "jay")}
    three_tasks = [task for work in works.values() for task in work.tasks]
    three_relations = [relation for work in works.values() for relation in work.relations]
    cases["three paintings"] = problem(three_tasks, three_relations)
    cases["40 areas x 11 passes"] = forty()
    # Loaded once, so that no case pays for it.
    exact.improve(problem([], []), Plan((), frozenset(), 0), 0.1)
    rows: list[dict[str, object]] = []
    for name, one in cases.items():
        rows += plans(name, one)
    rows += ways_and_dates(results)
    rows.append(awake())
    return rows


def problem(tasks: object, relations: object) -> Problem:
    """Return a problem in the usual free time."""
    return Problem(list(tasks), list(relations), sittings(free_time(Week(), START, HORIZON), START, Rule()))  # type: ignore[call-overload]


def forty() -> Problem:
    """Return a painting of forty areas and eleven passes, four areas to a task, as the planner gathers them."""
    tasks, relations = [], []
    for act in range(11):
        for area in range(10):
            tasks.append(
                Task(f"p:{act}.{area}", "p", f"areas {4 * area}", f"pass {act}", "paint", 15 + (7 * area + act) % 20)
            )
            if act:
                wet = act in (2, 5, 8)
                relations.append(
                    Relation(f"p:{act - 1}.{area}", f"p:{act}.{area}", "while_open", 0.0, 4.0, 10)
                    if wet
                    else Relation(f"p:{act - 1}.{area}", f"p:{act}.{area}", "touch_dry", 30.0 + 10 * (act % 3))
                )
            if area:
                relations.append(Relation(f"p:{act}.{area - 1}", f"p:{act}.{area}", "after"))
    return problem(tasks, relations)


def plans(name: str, one: Problem) -> list[dict[str, object]]:
    """Return the rows of one case."""
    begin = time.process_time()
    plain = dispatch(one, Hand(one.tails))
    once = time.process_time() - begin
    begin = time.process_time()
    first = at_once(one)
    many = time.process_time() - begin
    found = search(one, first, SEARCH_S).plan
    alone = exact.improve(one, plain, SEARCH_S) or plain
    begins = {k: pieces[0][0] for k, pieces in enumerate(found.pieces)}
    was = {k: sitting for k, at in begins.items() if (sitting := one.sitting_of(at)) is not None}
    # A fifth of the way, and every wait a quarter longer than was thought.
    cut = sorted(begins.values())[len(begins) // 5]
    done = {k: found.pieces[k] for k, pieces in enumerate(found.pieces) if pieces[-1][1] <= cut}
    slower = [replace(r, low_h=1.25 * r.low_h) if r.kind == "touch_dry" else r for r in one.relations]
    later = replace(one, relations=slower, start=cut, done=done, was=was)
    begin = time.perf_counter()
    near = replan(later, begins).plan
    took = time.perf_counter() - begin
    scratch = at_once(replace(one, relations=slower, start=cut, done=done))[0]
    return [
        row(
            f"{name}: best of 30 plans, CPU", 1000 * many, "ms", 100,
            f"{len(one.tasks)} tasks; {many / max(once, 1e-9):.0f} x one list schedule",
        ),
        row(f"{name}: its cost / one list schedule's", one.cost(first[0]) / one.cost(plain), "x", 1, said(one, first[0])),
        row(f"{name}: after {SEARCH_S:g} s of search", one.cost(found) / one.cost(first[0]), "x", 1, said(one, found)),
        row(
            f"{name}: the same / the solver alone", one.cost(found) / one.cost(alone), "x", 1.01, f"alone {said(one, alone)}"
        ),
        row(
            f"{name}: replanned, tasks that move / from scratch", len(later.moved(near)) / max(1, len(later.moved(scratch))), "x", 1,
            f"{len(later.moved(near))} against {len(later.moved(scratch))} of {len(begins) - len(done)}; {took:.2f} s",
        ),
    ]  # fmt: skip


def ways_and_dates(results: Results) -> list[dict[str, object]]:
    """Return how long ways out take to be found, and how wide a forecast is."""
    made = edits.set_days(demo_project("fox"), start="2026-03-02")
    first = plan_of(results, [made], START)
    done = first.diary.done(made.name)
    assert done is not None
    late = edits.set_days(made, deadline=f"{done - timedelta(days=14):%Y-%m-%d}")
    planned = plan_of(results, [late], START)
    begin = time.perf_counter()
    found = FindWays(results, late, planned, START)(SILENT)
    took = time.perf_counter() - begin
    begin = time.process_time()
    sure = forecast(first.layout.problem, first.hand, {})
    drawn = time.process_time() - begin
    painted = sure.painted[made.name]
    return [
        row("fox: ways out of a date two weeks too early", took, "s", 7, f"{len(found.ways)} ways, {len(found.collide)} wishes collide"),
        row(
            "fox: nine in ten / half, days", painted.most / painted.half, "x", None,
            f"{painted.half / 1440:.1f} and {painted.most / 1440:.1f} days; {drawn:.1f} s CPU",
        ),
    ]  # fmt: skip


def awake() -> dict[str, object]:
    """Return how late the interface is while a plan of the fox is searched and solved."""
    from PySide6.QtCore import QTimer

    from foxpath.window.shell.app import make_app
    from foxpath.window.shell.main import MainWindow

    app, late, last = make_app(), [], [0.0]
    window = MainWindow()
    window.show()
    window.open_demo("fox")
    session = window.session
    while session.waiting() or session.readings is None:
        app.processEvents()
        time.sleep(0.002)
    timer = QTimer()
    timer.setInterval(10)

    def tick() -> None:
        now = time.perf_counter()
        late.append(max(0.0, (now - last[0]) * 1000 - 10))
        last[0] = now

    timer.timeout.connect(tick)
    window.open_stop("days")
    while not session.runner.running("days search"):
        app.processEvents()
        time.sleep(0.001)
    last[0] = time.perf_counter()
    timer.start()
    while session.runner.running("days search"):
        app.processEvents()
        time.sleep(0.0005)
    timer.stop()
    window._closing = True
    window.close()
    return row(
        "interface late while it solves, p99", float(np.percentile(late, 99)), "ms", 20,
        f"median {np.median(late):.1f} ms, {len(late)} ticks, worst {max(late):.0f} ms",
    )  # fmt: skip


def said(one: Problem, plan: Plan) -> str:
    """Say what a plan comes to."""
    return f"{one.finish(plan) / 1440:.1f} days, {plan.used} sittings, {len(plan.lost)} windows lost"


def row(what: str, value: float, unit: str, goal: float | None, detail: str) -> dict[str, object]:
    """Return a row of the table."""
    return {"what": what, "value": round(value, 3), "unit": unit, "goal": goal, "detail": detail}
