"""Growth: made-up coats of a head, a body and a wing, against the plain structure tensor on the same pictures."""

import statistics
import sys
import time
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Bool
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import (
    CombStroke,
    Evidence,
    ZoneField,
    paint_field,
    prior_field,
    read_evidence,
    singular_points,
    zone_field,
)
from foxpath.core.growth.evidence import hair_shown, log_luminance, scale_for
from foxpath.core.lengths.visible import LONGEST_PX, visible_hair
from foxpath.derive.growth.files import USUAL_LENGTH
from foxpath.derive.lengths.field import SHOWN
from tests.coats import DIFFICULTIES, GEOMETRIES, HEIGHT, WIDTH, MadeCoat, coat, sensible_combs

COMBS = (0, 4, 8, 12, 20)
FRAME = Frame.over(Crop(0, 0, WIDTH, HEIGHT), 1.0, 512)
_GUESS = prior_field(FRAME, np.zeros((0, 2)))
NEAR_PX = 30
"""A singular point this near to a true one is that one."""


@dataclass
class Score:
    """How far a field is off on one coat."""

    axial: tuple[float, float]
    full: tuple[float, float]
    flips: float
    sure_share: float
    sure_right: float
    found: int
    true: int
    invented: int
    seconds: float


def _at_cells(values: np.ndarray) -> np.ndarray:
    rows = ((np.arange(FRAME.rows) + 0.5) * HEIGHT / FRAME.rows).astype(int)
    columns = ((np.arange(FRAME.columns) + 0.5) * WIDTH / FRAME.columns).astype(int)
    return values[rows][:, columns]


def _errors(angle: np.ndarray, truth: np.ndarray, where: Bool) -> tuple[np.ndarray, np.ndarray]:
    full = np.degrees(np.abs((angle - truth + np.pi) % (2 * np.pi) - np.pi))[where]
    return np.minimum(full, 180 - full), full


def _two(values: np.ndarray) -> tuple[float, float]:
    return float(np.median(values)), float(np.percentile(values, 90))


def solve(made: MadeCoat, evidence: Evidence, count: int, *, silhouette: bool = False) -> tuple[list[ZoneField], float]:
    """Solve every part of a coat with so many combs; returns the fields and CPU seconds."""
    labels = _at_cells(made.labels)
    combs = sensible_combs(made, count, seed=count)
    fields, begin = [], time.process_time()
    if silhouette:
        # Nobody says how long the hair is: the usual is taken, as on the command line.
        length = USUAL_LENGTH * WIDTH
        strokes = [CombStroke(comb) for comb in combs]
        fields.append(
            zone_field(labels > 0, strokes, FRAME, _GUESS, evidence=evidence, length_px=length, partings=made.partings)
        )
        return fields, time.process_time() - begin
    for k, part in enumerate(made.parts, 1):
        mask = labels == k
        if not mask.any():
            continue
        own = [CombStroke(c) for c in combs if made.labels[int(c[len(c) // 2][1]), int(c[len(c) // 2][0])] == k]
        fields.append(
            zone_field(mask, own, FRAME, _GUESS, evidence=evidence, length_px=part.length, partings=made.partings)
        )
    return fields, time.process_time() - begin


def score(made: MadeCoat, fields: list[ZoneField], seconds: float) -> Score:
    """Compare fields with the truth."""
    truth = _at_cells(made.angle)
    direction, sure = paint_field(fields, FRAME)
    angle = np.arctan2(direction[..., 1], direction[..., 0])
    where = np.isfinite(truth) & np.isfinite(angle)
    axial, full = _errors(angle, truth, where)
    high = sure[where] >= 0.9
    found = [one.at for field in fields for one in singular_points(field) if one.crown]
    hit = sum(any(np.hypot(a - x, b - y) < NEAR_PX for a, b in found) for x, y in made.singular)
    return Score(
        _two(axial),
        _two(full),
        100 * float((full > 90).mean()),
        100 * float(high.mean()),
        100 * float((full[high] < 15).mean()) if high.any() else float("nan"),
        hit,
        len(made.singular),
        len(found) - hit,
        seconds,
    )


def plain_tensor(made: MadeCoat) -> tuple[float, float]:
    """Return median and p90 axial error of the plain structure tensor, smoothed as widely as the growth is."""
    from skimage.feature import structure_tensor

    grey = made.rgb.astype(np.float64) @ (0.299, 0.587, 0.114) / 255
    rr, rc, cc = structure_tensor(grey, sigma=8, order="rc")
    # Hair runs across the gradient.
    axis = 0.5 * np.arctan2(2 * rc, cc - rr) + np.pi / 2
    truth = _at_cells(made.angle)
    return _two(_errors(_at_cells(axis), truth, np.isfinite(truth))[0])


def one_comb(made: MadeCoat, evidence: Evidence) -> float:
    """Return the median milliseconds one more comb costs in its zone."""
    labels, times = _at_cells(made.labels), []
    bare: dict[int, ZoneField] = {}
    for comb in sensible_combs(made, 16, seed=3):
        k = int(made.labels[int(comb[len(comb) // 2][1]), int(comb[len(comb) // 2][0])])
        mask, length = labels == k, made.parts[k - 1].length
        if k not in bare:
            bare[k] = zone_field(mask, (), FRAME, _GUESS, evidence=evidence, length_px=length)
        begin = time.perf_counter()
        zone_field(mask, [CombStroke(comb)], FRAME, _GUESS, evidence=evidence, length_px=length, start=bare[k])
        times.append((time.perf_counter() - begin) * 1000)
    return statistics.median(times)


def lengths_off(made: MadeCoat, evidence: Evidence, fields: list[ZoneField]) -> list[float | None]:
    """Return the logarithm by which the length that is seen is off in every part of a coat; None where nothing is said."""
    image, off = log_luminance(made.rgb), []
    for part, field in zip(made.parts, fields, strict=False):
        height, width = field.inside.shape
        window = (slice(field.row, field.row + height), slice(field.column, field.column + width))
        at = scale_for(evidence, field.whole(), 20)
        shown = hair_shown(evidence.weight[at][window]) > SHOWN
        seen = field.inside & shown
        coherence = float(evidence.coherence[at][window][seen].mean()) if seen.any() else 0.0
        told = visible_hair(image, 1.0, field, shown, coherence)
        true = min(part.length, LONGEST_PX)
        off.append(abs(np.log(told.length_px / true)) if told is not None else None)
    return off


def _lengths_row(off: list[float | None]) -> dict[str, object]:
    told = [one for one in off if one is not None]
    most = 100 * (np.exp(np.percentile(told, 90)) - 1)
    detail = f"90th percentile {most:.0f} %; nothing said of {len(off) - len(told)} of {len(off)} parts"
    value = round(100 * float(np.exp(np.median(told)) - 1), 1)
    return {"what": "length of hair as seen, off by", "value": value, "unit": "%", "goal": 40, "detail": detail}


def tables() -> tuple[str, list[dict[str, object]]]:
    """Return the tables as Markdown, and the rows of the summary."""
    lines = [
        "| coat | combs | axis, median / p90 | full circle, median / p90 | flips | 0.9 sure | right | crowns, invented | CPU |",
        "| --- | --- | --- | --- | --- | --- | --- | --- | --- |",
    ]
    eights: dict[str, list[Score]] = {name: [] for name in DIFFICULTIES}
    reading, comb_ms, outlines, plain, lengths = [], [], [], [], []
    for geometry in GEOMETRIES:
        for difficulty in DIFFICULTIES:
            made = coat(geometry, difficulty)
            begin = time.process_time()
            evidence = read_evidence(made.rgb, FRAME.rows, FRAME.columns)
            reading.append(time.process_time() - begin)
            bare = plain_tensor(made)
            plain.append(f"| {geometry}, {difficulty} | {bare[0]:.1f}° / {bare[1]:.1f}° |")
            for count in COMBS:
                fields, seconds = solve(made, evidence, count)
                one = score(made, fields, seconds)
                if count == 8:
                    lengths += lengths_off(made, evidence, fields)
                    eights[difficulty].append(one)
                lines.append(_line(f"{geometry}, {difficulty}", str(count), one))
            if difficulty == "clear":
                comb_ms.append(one_comb(made, evidence))
                fields, seconds = solve(made, evidence, 12, silhouette=True)
                one = score(made, fields, seconds)
                outlines.append(one)
                lines.append(_line(f"{geometry}, {difficulty}, one silhouette", "12", one))
    text = "\n".join([*lines, "", "| coat | plain structure tensor, axial median / p90 |", "| --- | --- |", *plain, ""])
    return text, [*_summary(eights, outlines, reading, comb_ms), _lengths_row(lengths)]


def _line(name: str, combs: str, one: Score) -> str:
    right = f"{one.sure_right:.0f} %" if np.isfinite(one.sure_right) else "none"
    return (
        f"| {name} | {combs} | {one.axial[0]:.1f}° / {one.axial[1]:.1f}° | {one.full[0]:.1f}° / {one.full[1]:.1f}° | "
        f"{one.flips:.2f} % | {one.sure_share:.0f} % | {right} | {one.found} of {one.true}, {one.invented} | "
        f"{one.seconds:.2f} s |"
    )


def _summary(
    eights: dict[str, list[Score]], outlines: list[Score], reading: list[float], comb_ms: list[float]
) -> list[dict[str, object]]:
    def row(what: str, value: float, unit: str, goal: float | None, detail: str = "") -> dict[str, object]:
        return {"what": what, "value": round(float(value), 3), "unit": unit, "goal": goal, "detail": detail}

    made = []
    for name, goals in (("clear", (2, 5)), ("hard", (4, 10))):
        each = eights[name]
        for k, part in enumerate(("median", "p90")):
            detail = ", ".join(f"{g} {one.full[k]:.1f}" for g, one in zip(GEOMETRIES, each, strict=True))
            made.append(row(f"growth, {name}, 8 combs, {part}", max(o.full[k] for o in each), "°", goals[k], detail))
        made.append(row(f"growth, {name}, 8 combs, flips", max(o.flips for o in each), "%", 0.5))
    detail = ", ".join(f"{g} {one.full[1]:.1f}" for g, one in zip(GEOMETRIES, outlines, strict=True))
    made.append(row("growth, one silhouette, 12 combs, p90", max(o.full[1] for o in outlines), "°", 8, detail))
    made.append(row("evidence of 1200 x 900, CPU", statistics.median(reading), "s", 1.5))
    full = [one.seconds for each in eights.values() for one in each]
    made.append(row("full solve on 512 cells, CPU", statistics.median(full), "s", 0.3, "all zones, 8 combs"))
    made.append(row("one comb in its zone, median", statistics.median(comb_ms), "ms", 50))
    return made


def measure() -> list[dict[str, object]]:
    """Measure everything once warm; returns rows of the table and writes the long tables to standard error."""
    first = coat("head")
    solve(first, read_evidence(first.rgb, FRAME.rows, FRAME.columns), 4)
    text, rows = tables()
    print(text, file=sys.stderr)
    return rows
