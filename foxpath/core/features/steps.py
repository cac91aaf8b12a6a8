"""How a feature's parts are painted on the canvas: steps with brush, width, values and wetness, and what is missing."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F64, Lab, Points
from foxpath.core.curves import inside, line_length, resample
from foxpath.core.eyes.placement import eye_check
from foxpath.core.features.kinds import FEATURES, Feature, Part
from foxpath.core.findings import Finding
from foxpath.core.lengths.kit import Brush, finest_mm, line_brush
from foxpath.core.units import count_words, mm_words

Read = Callable[[Points], Lab]

_SHARE = {"skin": 0.06, "dark": 0.11, "light": 0.22, "shine": 0.10}
"""Width of the marks as a share of the part's own breadth, or of a line's length."""
WHISKER_MM = 0.5
"""A whisker's usual width at its root on a canvas of half a metre; smaller canvases have finer ones."""


@dataclass(frozen=True, slots=True)
class FeatureStep:
    """One step of a feature.

    Attributes
    ----------
    part, name, how : str
    count : int
        Strokes or outlines that were marked.
    brush : Brush or None
    width_mm : float
    light : float
        L* of its paint.
    wetness, role : str
    """

    part: str
    name: str
    how: str
    count: int
    brush: Brush | None
    width_mm: float
    light: float
    wetness: str
    role: str


def plan_feature(
    feature: Feature, read: Read, kit: Sequence[Brush], mm_per_px: float, canvas_mm: float
) -> tuple[FeatureStep, ...]:
    """Return the steps of the parts that are marked, in the order they are painted.

    Parameters
    ----------
    feature : Feature
    read : callable
        Returns (N, 3) CIELAB at (N, 2) reference pixels.
    kit : sequence of Brush
    mm_per_px, canvas_mm : float
        The longer side of the canvas: whiskers are as fine as it is small.
    """
    finest = finest_mm(kit)
    made = []
    for part in FEATURES[feature.kind].parts:
        strokes = feature.of(part.key)
        if not strokes:
            continue
        width = max(_width(part, [s.line() for s in strokes], mm_per_px, canvas_mm), finest)
        brush = line_brush(kit, width)
        lights = [part_light(part, s.line(), read) for s in strokes]
        made.append(
            FeatureStep(
                part.key, part.name, part.how, len(strokes), brush, round(width, 2), round(float(np.median(lights)), 1),
                part.beneath, part.role,
            )
        )  # fmt: skip
    return tuple(made)


def _width(part: Part, lines: list[F64], mm_per_px: float, canvas_mm: float) -> float:
    if part.paint == "hair":
        return WHISKER_MM * float(np.sqrt(canvas_mm / 500))
    if part.closed:
        breadth = min(float(np.ptp(line, axis=0).min()) for line in lines) * mm_per_px
        return float(np.clip(_SHARE[part.paint] * breadth * 2, 0.15, 8))
    length = float(np.median([line_length(line) for line in lines])) * mm_per_px
    return float(np.clip(_SHARE[part.paint] * length * 0.5, 0.2, 2.5))


def part_light(part: Part, line: F64, read: Read) -> float:
    """Return the L* a part is painted with: what is seen along it, pulled to what it is for."""
    at = resample(np.vstack([line, line[:1]]) if part.closed else line, 24)
    if part.closed:
        middle = line.mean(axis=0)
        at = np.concatenate([at * 0.5 + middle * 0.5, middle[None]])
    seen = np.asarray(read(at))[:, 0]
    if part.paint == "dark":
        return min(float(np.percentile(seen, 20)), 16.0)
    if part.paint == "light":
        return float(np.clip(np.percentile(seen, 90), 68.0, 95.0))
    if part.paint == "shine":
        return float(np.clip(np.percentile(seen, 75) + 4, 20.0, 88.0))
    if part.paint == "hair":
        return whisker_light(line, read)
    return float(np.percentile(seen, 40))


def whisker_light(line: F64, read: Read) -> float:
    """Return a whisker's L*: what is seen on it when it stands out from both sides, else light over dark or dark over light."""
    at = resample(line, 24)[3:-3]
    step = np.gradient(at, axis=0)
    normal = np.stack([-step[:, 1], step[:, 0]], axis=1) / np.maximum(np.hypot(*step.T), 1e-9)[:, None]
    own = np.asarray(read(at))[:, 0]
    beside = np.concatenate([np.asarray(read(at + side * 6 * normal))[:, 0] for side in (-1, 1)])
    ground = float(np.median(beside))
    stands = float(np.median(own)) - ground
    if abs(stands) > 6:
        return float(np.clip(np.percentile(own, 75 if stands > 0 else 25), 8, 95))
    return 92.0 if ground < 62 else 14.0


def check_feature(feature: Feature, steps: Sequence[FeatureStep], kit: Sequence[Brush]) -> list[Finding]:
    """Return what is missing or cannot be painted of a feature."""
    found: list[Finding] = []
    at = feature.middle() or (0.0, 0.0)

    def add(key: str, says: str, why: str, number: float = 0.0, *, fault: bool = True) -> None:
        found.append(eye_check(key, feature.name, "look" if fault else "note", says, why, number, feature.id, at))

    marked = {step.part for step in steps}
    if feature.kind == "nose" and marked and "nostril" not in marked:
        add("nostrils", f"{feature.name}: no nostril is marked.", "they are its darkest darks · draw round each")
    if feature.kind == "nose" and "light" in marked and "skin" in marked:
        outline = feature.of("skin")[0].line()
        for stroke in feature.of("light"):
            middle = stroke.line().mean(axis=0)
            low = float((middle[1] - outline[:, 1].min()) / max(float(np.ptp(outline[:, 1])), 1e-9))
            if low > 0.55:
                add(
                    "light", f"{feature.name}: its wet light lies low.",
                    f"{low * 100:.0f} % down · the plane that faces the sky is the upper one: move it up, unless water lies there", low,
                )  # fmt: skip
    if feature.kind == "paw":
        claws, toes = len(feature.of("claw")), feature.toes
        if toes and claws and claws != toes:
            add(
                "claws", f"{feature.name}: {count_words(toes, 'toe')}, {count_words(claws, 'claw')} marked.",
                "each toe ends in one, if hair does not hide it · count again on the reference", float(toes - claws),
            )  # fmt: skip
    if feature.kind == "whiskers":
        finest = finest_mm(kit)
        wanted = WHISKER_MM * 0.5
        if finest > wanted * 1.6:
            add(
                "fine", f"{feature.name}: finer than your finest brush.",
                f"{mm_words(wanted)} in the middle, your finest mark is {mm_words(finest)} · pull them with a newer liner, or scratch "
                "them out of wet paint", finest,
            )  # fmt: skip
    return found


def within(outline: F64, points: F64) -> np.ndarray[tuple[int, ...], np.dtype[np.bool_]]:
    """Tell which of (N, 2) points lie in an outline."""
    return inside(outline, points[:, 0], points[:, 1])
