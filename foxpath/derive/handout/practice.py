"""A drill written down: the task without its answer, and the answer by itself."""

import json
from pathlib import Path
from typing import Any

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.task import Mark, Score, Task
from foxpath.derive.practice.paper import SheetRead
from foxpath.sheets.pictures import write_file, write_png


def task_record(task: Task, drill: Drill, picture: str) -> dict[str, Any]:
    """Return what a task asks, without anything that tells its answer."""
    ask: dict[str, Any] = {"kind": task.ask.kind}
    for name in type(task.ask).__dataclass_fields__:
        ask[name] = _plain(getattr(task.ask, name))
    return {
        "drill": task.drill,
        "title": drill.title,
        "seed": task.seed,
        "picture": picture,
        "question": task.question,
        "ask": ask,
        "unit": drill.unit,
        "px_per_mm": round(task.px_per_mm, 4),
        "ring": _plain(task.ring),
        "shown": [_mark(one) for one in task.shown],
    }


def answer_record(task: Task, drill: Drill, score: Score) -> dict[str, Any]:
    """Return a task's right answer, what explains it, and what is said of it."""
    return {
        "drill": task.drill,
        "seed": task.seed,
        "answer": _plain(drill.ideal(task)),
        "truth": _plain(dict(task.truth)),
        "size": round(float(task.size), 4),
        "unit": drill.unit,
        "words": score.words,
        "why": score.why,
    }


def score_record(score: Score) -> dict[str, Any]:
    """Return what an answer was worth."""
    return {
        "share": round(score.share, 4),
        "words": score.words,
        "why": score.why,
        "seen": [
            {"right": bool(s.right), "size": round(s.size, 4), "error": round(s.error, 4), "choices": s.choices}
            for s in score.seen
        ],
    }


def sheet_record(read: SheetRead) -> dict[str, Any]:
    """Return what was measured on a photographed sheet."""
    return {
        "drill": read.drill,
        "sheet": read.seed,
        "unit": "mm",
        "words": read.words(),
        "measured": [
            {
                "number": one.number,
                "error": round(one.error, 3),
                "near": one.right,
                "words": one.words,
                "at_mm": _plain(one.at),
            }
            for one in read.measured
        ],
    }


def write_task(task: Task, drill: Drill, score: Score, picture: str, folder: Path) -> None:
    """Write task.png, task.json and answer.json into a folder. Raises `AppError` when it cannot be written."""
    write_png(task.picture, folder / "task.png", task.px_per_mm)
    write_json(folder / "task.json", task_record(task, drill, picture))
    write_json(folder / "answer.json", answer_record(task, drill, score))


def write_json(path: Path, fields: dict[str, Any]) -> None:
    """Write a record. Raises `AppError` when it cannot be written."""
    write_file(path, (json.dumps(fields, indent=1, ensure_ascii=False) + "\n").encode())


def _mark(one: Mark) -> dict[str, Any]:
    return {"kind": one.kind, "points": _plain(one.points), "words": one.words, "radius": round(one.radius, 2)}


def _plain(value: Any) -> Any:
    """Return a value as JSON takes it: lists, numbers, words."""
    if isinstance(value, np.ndarray):
        return [_plain(one) for one in value.tolist()]
    if isinstance(value, dict):
        return {str(k): _plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(one) for one in value]
    if isinstance(value, np.generic):
        return _plain(value.item())
    return round(value, 4) if isinstance(value, float) else value
