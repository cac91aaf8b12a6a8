"""Practice: how often a computed answer is wrong, how soon a threshold is found, sheets from photographs, and the time of a task."""

import time

import numpy as np
from scipy.special import ndtr

from benchmarks.growth import FRAME, solve
from foxpath.core.errors import AppError, InputError
from foxpath.core.growth import read_evidence
from foxpath.core.practice.drill import made
from foxpath.core.practice.drills import DRILLS, drill_called
from foxpath.core.practice.paper import hand, paper_called
from foxpath.core.practice.paper.page import PAPERS_MM, Paper, drawn, laid_flat
from foxpath.core.practice.scene import Edge, Growth, Part, Scene
from foxpath.core.practice.task import Seen
from foxpath.core.practice.threshold import Belief, right_share
from foxpath.core.progress.small import blur, rgb_of
from foxpath.core.units import WIDTH_OF_SIGMA
from foxpath.derive import Results
from foxpath.derive.practice.scenes import scene_of
from tests.coats import DIFFICULTIES, GEOMETRIES, HEIGHT, WIDTH, coat
from tests.core.practice.test_paper import photograph

SEEDS, COMBS, ASKED, WRONG_DEG = (31, 32), (4, 10), 60, 25.0
PX = 3.0
WIDTHS = np.geomspace(0.35, 24, 18)
PAINTERS, ANSWERS = 40, 40
SHEETS = 16


def measure() -> list[dict[str, object]]:
    """Ask, and hold the answers against what is known."""
    off, turned = _growth()
    edges = _edges()
    rows = [
        _row("growth asked that is off by 25 deg and more", 100 * float(np.mean(np.array(off) > WRONG_DEG)), "%", 2, f"{len(off)} spots of made coats, median {np.median(off):.1f} deg"),
        _row("tufts asked whose order is wrong", 100 * float(np.mean(turned)), "%", 2, f"{len(turned)} pairs of made coats"),
        _row("edges asked whose grade is wrong", 100 * float(np.mean(edges)), "%", 2, f"{len(edges)} borders of known width"),
    ]  # fmt: skip
    for words, choices, steep in (
        ("four choices", 4, 2.0),
        ("four choices, steep", 4, 3.5),
        ("two choices, shallow", 2, 1.3),
    ):
        found = _thresholds(choices, steep)
        rows.append(
            _row(
                f"threshold after 40 answers off, {words}",
                100 * float(np.median(found)),
                "%",
                15 if choices > 2 else None,
                f"median of {PAINTERS} painters",
            )
        )
    errors = _errors()
    rows.append(
        _row(
            "threshold after 40 measured errors off",
            100 * float(np.median(errors)),
            "%",
            15,
            f"median of {PAINTERS} painters",
        )
    )
    missed, strokes = _sheets()
    rows.append(
        _row(
            "practice sheets not found in a photograph",
            100 * missed / SHEETS,
            "%",
            0,
            f"{SHEETS} photographs aslant, turned, in warm light",
        )
    )
    rows.append(
        _row("width of a painted stroke off, median", float(np.median(strokes)), "mm", 0.15, f"{len(strokes)} strokes")
    )
    return [*rows, *_seconds()]


def _growth() -> tuple[list[float], list[bool]]:
    """Return by how many degrees what is asked lies off, and which pairs of tufts are the wrong way round."""
    drill, over = drill_called("growth"), drill_called("over")
    off, turned = [], []
    for geometry in GEOMETRIES:
        for difficulty in DIFFICULTIES:
            for seed in SEEDS:
                whole = coat(geometry, difficulty, seed=seed)
                evidence = read_evidence(whole.rgb, FRAME.rows, FRAME.columns, 1.0)
                for count in COMBS:
                    fields, _ = solve(whole, evidence, count)
                    scene = _scene(whole, fields)
                    for number in range(ASKED):
                        try:
                            task = made(drill, scene, number)
                            pair = made(over, scene, number)
                        except InputError:
                            break
                        x, y = task.truth["at"]
                        off.append(_apart(float(task.truth["degrees"]), float(np.degrees(whole.angle[int(y), int(x)]))))
                        a, b = (np.array(p) for p in pair.truth["places"])
                        root, tip = (a, b) if pair.truth["over"] == 0 else (b, a)
                        middle = (root + tip) / 2
                        true = whole.angle[int(middle[1]), int(middle[0])]
                        turned.append(bool((tip - root) @ [np.cos(true), np.sin(true)] <= 0))
    return off, turned


def _scene(whole: object, fields: list[object]) -> Scene:
    direction = np.zeros((*FRAME.shape, 2), np.float32)
    sure, rooted = np.zeros(FRAME.shape, np.float32), np.zeros(FRAME.shape, bool)
    for field in fields:
        h, w = field.inside.shape
        there = np.s_[field.row : field.row + h, field.column : field.column + w]
        for into, values in ((direction, field.direction), (sure, field.sure), (rooted, field.rooted)):
            into[there][field.inside] = values[field.inside]
    parts = (
        Part("", "ground", "background"),
        *(Part(str(k), f"part {k}", "long-fur", "", True, part.length / PX, 1.0) for k, part in enumerate(whole.parts)),
    )
    growth = Growth(direction, sure, rooted, WIDTH / FRAME.columns)
    return Scene(
        "a made coat", whole.rgb, PX, whole.labels.astype(np.int16), parts, growth, focal=(WIDTH / 2, HEIGHT / 2)
    )


def _apart(a: float, b: float) -> float:
    return abs((a - b + 180) % 360 - 180)


def _edges() -> list[bool]:
    """Return which borders of known width are asked with a wrong grade."""
    from foxpath.core.edges.grades import GRADES, grade_of_width

    drill, wrong = drill_called("edge"), []
    rng = np.random.default_rng(12)
    h, w = 360, 480
    y, x = np.mgrid[:h, :w].astype(np.float32)
    down = np.arange(8, h - 8, 4.0)
    line = np.stack([np.full_like(down, w / 2), down], axis=1)
    labels = np.where(x < w / 2, 0, 1).astype(np.int16)
    for width in WIDTHS:
        for _ in range(3):
            grain = blur(rng.standard_normal((h, w)).astype(np.float32), 1.2)
            step = float(rng.choice([-1, 1]) * rng.uniform(18, 40))
            light = (
                50
                + step * (ndtr((x - w / 2) * WIDTH_OF_SIGMA / (width * PX)) - 0.5)
                + 1.5 * grain / grain.std()
                + 4 * np.sin(y / 50)
            )
            rgb = rgb_of(np.stack([light, 0 * light, 0 * light + 8], axis=-1))
            parts = (Part("a", "back", "long-fur", hair=True), Part("b", "front", "long-fur", hair=True))
            scene = Scene("a border", rgb, PX, labels, parts, edges=(Edge(1, 0, line, float(width), 1.0, 1.0),))
            try:
                task = made(drill, scene, 1)
            except InputError:
                continue
            wrong.append(list(GRADES)[task.truth["right"]] != grade_of_width(float(width)))
    return wrong


def _thresholds(choices: int, steep: float) -> np.ndarray:
    drill, off = drill_called("relation"), []
    for seed in range(PAINTERS):
        rng = np.random.default_rng(5000 + seed)
        true, seen = float(np.exp(rng.uniform(np.log(2), np.log(15)))), []
        for _ in range(ANSWERS):
            size = Belief(drill, seen).next_size(choices)
            seen.append(Seen(bool(rng.random() < right_share(size, true, steep, choices)), size=size, choices=choices))
        off.append(abs(np.log(Belief(drill, seen).threshold().value / true)))
    return np.exp(np.array(off)) - 1


def _errors() -> np.ndarray:
    drill, off = drill_called("growth"), []
    for seed in range(PAINTERS):
        rng = np.random.default_rng(6000 + seed)
        true = float(np.exp(rng.uniform(np.log(4), np.log(40))))
        seen = [Seen(True, error=abs(float(rng.normal(0, true / 1.150349)))) for _ in range(ANSWERS)]
        off.append(abs(np.log(Belief(drill, seen).threshold().value / true)))
    return np.exp(np.array(off)) - 1


def _sheets() -> tuple[int, list[float]]:
    """Return how many sheets were not found, and by how much the width of strokes was read off, mm."""
    from dataclasses import replace

    import cv2

    missed, off = 0, []
    for seed in range(SHEETS):
        rng = np.random.default_rng(700 + seed)
        size = list(PAPERS_MM.values())[seed % 2]
        paper = Paper(0, 9000 + seed, *size)
        sheet, true = drawn(paper_called("hand").printed(paper, None), 12), []
        for one in hand.targets(paper):
            mine = replace(one, wide=max(0.9, one.wide + float(rng.uniform(-1, 1.5))))
            at = np.round(np.array(hand.outline(mine, one.root)) * 12 * 16).astype(np.int32)
            cv2.fillPoly(sheet, [at], (72, 50, 38), cv2.LINE_AA, 4)
            grid = np.linspace(0, 1, 200)
            true.append(float(np.abs(mine.width_at(grid) - one.width_at(grid)).mean()))
        try:
            measured = paper_called("hand").measured(
                laid_flat(photograph(sheet, seed, turn=float(rng.uniform(0, 360)))), None
            )
        except AppError:
            missed += 1
            continue
        off += [abs(m.error - true[m.number - 1]) for m in measured]
    return missed, off


def _seconds() -> list[dict[str, object]]:
    """Return the time of a task on the demo, the slowest drill's too."""
    results, seconds = Results(), {}
    for drill in DRILLS:
        scene = scene_of(results, None, "demo:fox", drill.needs)
        begin = time.perf_counter()
        for seed in range(3):
            made(drill, scene, seed)
        seconds[drill.key] = (time.perf_counter() - begin) / 3
    slowest = max(seconds, key=lambda key: seconds[key])
    return [
        _row("a task, median of drills", 1000 * float(np.median(list(seconds.values()))), "ms", 500, f"{len(seconds)} drills on the demo"),
        _row("a task of the slowest drill", 1000 * seconds[slowest], "ms", 2500, slowest),
    ]  # fmt: skip


def _row(what: str, value: float, unit: str, goal: float | None, detail: str) -> dict[str, object]:
    return {"what": what, "value": value, "unit": unit, "goal": goal, "detail": detail}
