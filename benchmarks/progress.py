"""Progress: corners, false alarms, what is found of faults that were put in, and the time of 12 megapixels; on the stand-in camera's photographs.

The seeds are not those the thresholds were set with. Everything here is simulated paint.
"""

import time
from dataclasses import dataclass, field, replace

import numpy as np

from foxpath.core.errors import PictureError
from foxpath.core.progress.camera import another_hand, photograph, some_room
from foxpath.core.progress.faults import Fault, with_faults
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.judge.whole import judge
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.seen import look
from foxpath.core.progress.square import square_up
from foxpath.core.reporting import SILENT
from foxpath.demo import demo_project
from foxpath.derive import Results
from foxpath.derive.progress.planned import WORK_PX, painted_passes, planned_for
from foxpath.derive.rehearsal.painting import one_by_one

DEMOS, PHOTOS, FAULTS, FIRST_SEED = ("fox", "jay", "cavies"), 4, 5, 770_000
LIST, NEAR_MM = 10, 18.0
LONG_PX, TWELVE_PX = 3000, 4000


@dataclass
class Tally:
    """What was counted."""

    inside: list[float] = field(default_factory=list)
    beyond: list[float] = field(default_factory=list)
    alarms: list[int] = field(default_factory=list)
    stops: list[bool] = field(default_factory=list)
    found: dict[str, list[bool]] = field(default_factory=dict)
    apart: list[float] = field(default_factory=list)
    refused: int = 0


def measure() -> list[dict[str, object]]:
    """Photograph, look and count."""
    tally, seconds, ratio = Tally(), 0.0, 0.0
    for name in DEMOS:
        planned, hands = _painted(name)
        for k in range(PHOTOS):
            _photograph(planned, hands[k % len(hands)], FIRST_SEED + k, tally)
        if name == "fox":
            seconds, ratio = _twelve(planned, hands[0])
    found = [one for mine in tally.found.values() for one in mine]
    kinds = ", ".join(f"{kind} {sum(mine)}/{len(mine)}" for kind, mine in sorted(tally.found.items()))
    edges = tally.found.get("edge", [])
    photos = len(DEMOS) * PHOTOS
    return [
        _row("corners in the photograph, 95th percentile", _share(tally.inside, 95), "mm", 0.3, f"{photos * 2} photographs, median {_share(tally.inside, 50):.2f}"),
        _row("corners beyond it, 95th percentile", _share(tally.beyond, 95), "mm", None, f"{len(tally.beyond)} corners, median {_share(tally.beyond, 50):.2f}"),
        _row("places of the picture apart, median", float(np.median(tally.apart)), "mm", None, "hand and camera together"),
        _row("faults missed among the first ten", 100 * (1 - float(np.mean(found))), "%", 30, kinds),
        _row("edges among them missed", 100 * (1 - float(np.mean(edges))) if edges else None, "%", None, f"{len(edges)} put in"),
        _row("false alarms on a clean photograph", float(np.mean(tally.alarms)), "", 1, f"{len(tally.alarms)} clean, {tally.refused} refused"),
        _row("clean canvases not told to stop", 100 * (1 - float(np.mean(tally.stops))), "%", 15, "seen from the usual distance"),
        _row("12 megapixels, processor time", seconds, "s", 10, f"{ratio:.1f} x squaring up alone"),
    ]  # fmt: skip


def _share(values: list[float], percentile: float) -> float:
    return float(np.percentile(values, percentile)) if values else 0.0


def _painted(name: str) -> tuple[Planned, list[np.ndarray]]:
    """Return a demo's plan, and the same painted by further hands, one a photograph."""
    project, results = demo_project(name), Results()
    last = painted_passes(results, project)[-1].role.key
    planned = planned_for(results, project, last)
    hands = []
    for seed in range(401, 401 + PHOTOS):
        *_, one = one_by_one(Results(), replace(project, seed=project.seed + seed), WORK_PX, SILENT)
        hands.append(np.ascontiguousarray(one.standing.shown))
    return planned, hands


def _photograph(planned: Planned, hand: np.ndarray, seed: int, tally: Tally) -> None:
    for faulty in (False, True):
        painted, put = another_hand(hand, planned.px_per_mm, seed), ()
        if faulty:
            painted, put = with_faults(planned, painted, seed, FAULTS)
        photo, corners = photograph(painted, some_room(seed + 1000 * faulty, LONG_PX), seed)
        try:
            seen = look(planned, photo)
        except PictureError:
            tally.refused += 1
            continue
        width, height = planned.size
        true = np.array([[0, 0], [width, 0], [width, height], [0, height]])
        off = np.hypot(*(seen.squared.frame.to_work(corners) - true).T) / planned.px_per_mm
        inside = ((corners > 0) & (corners < photo.shape[1::-1])).all(axis=1)
        tally.inside += list(off[inside])
        tally.beyond += list(off[~inside])
        tally.apart.append(seen.registration_mm)
        judged = judge(planned, seen)
        if not faulty:
            tally.alarms.append(len(judged.told))
            tally.stops.append(judged.verdict == "stop")
        for one in put:
            hit = any(_is(one, told, planned) for told in judged.told[:LIST])
            tally.found.setdefault(one.kind, []).append(hit)


def _is(fault: Fault, told: Candidate, planned: Planned) -> bool:
    away = float(np.hypot(told.x - fault.at[0], told.y - fault.at[1])) / planned.px_per_mm
    return told.kind == fault.kind and away < max(NEAR_MM, fault.reach_mm + 8)


def _twelve(planned: Planned, hand: np.ndarray) -> tuple[float, float]:
    """Return the processor time of a photograph of 12 megapixels, and how many times squaring it up that is."""
    photo, _ = photograph(hand, some_room(FIRST_SEED, TWELVE_PX), 1)
    start = time.process_time()
    square_up(planned, photo)
    middle = time.process_time()
    judge(planned, look(planned, photo))
    whole = time.process_time() - middle
    return whole, whole / max(middle - start, 1e-6)


def _row(what: str, value: float | None, unit: str, goal: float | None, detail: str) -> dict[str, object]:
    return {"what": what, "value": value, "unit": unit, "goal": goal, "detail": detail}
