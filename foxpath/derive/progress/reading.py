"""A photograph of the canvas read against the plan, remembered; and what the Progress stop says from afar and close by."""

from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

import cv2
import numpy as np

from foxpath.core.arrays import F32, Bool, Labels, Points, Rgb8, frozen
from foxpath.core.clock import now
from foxpath.core.errors import AppError
from foxpath.core.log.reading import parts
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.judge.masses import PartOff
from foxpath.core.progress.judge.whole import judge
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.seen import Seen, look
from foxpath.core.progress.small import lab_of
from foxpath.core.progress.spots import BORDERS
from foxpath.core.progress.square import SIDES
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.units import count_words, duration_words, percent
from foxpath.derive.days.reading import close_days
from foxpath.derive.pictures import picture_of, scaled_picture
from foxpath.derive.progress.planned import painted_passes, planned_for, resolved_pass, standing_key
from foxpath.derive.progress.touchups import (
    About,
    Colours,
    Paint,
    TouchUp,
    colours_about,
    paint_states,
    touch_ups,
)
from foxpath.derive.results import Results
from foxpath.document.model import CanvasPhoto, Project

HOVER_PX_PER_MM = 1.5
ROUND_MOST = 3
HIDDEN = 0.03
"""Share of the canvas under glare from which nothing is called done."""
VERDICTS = {"stop": "Stop here", "one round": "One round", "rework": "Rework"}


@dataclass(frozen=True, slots=True, eq=False)
class Looked:
    """What was read off a photograph; it follows from the photograph and the plan alone.

    Attributes
    ----------
    after : str
        Key of the pass it is compared with.
    about : About
    told : tuple of (Candidate, Colours)
    parts : tuple of PartOff
    verdict : str
    from_m : float
    rgb, plan : (H, W, 3) uint8
        The canvas squared and balanced, and the plan.
    canvas_lab, plan_lab : (h, w, 3) float32
        The same small, for words at a place.
    labels : (h, w) int16
    glare : (h, w) bool
    corners : (4, 2) float64
        In the photograph's px, clockwise from the canvas's top left.
    sides : tuple of int
    way : str
    doubt_mm, registration_mm, sharpness, px_per_mm, slope : float
    by : str
    glare_share, shown_share : float
    """

    after: str
    about: About
    told: tuple[tuple[Candidate, Colours], ...]
    parts: tuple[PartOff, ...]
    verdict: str
    from_m: float
    rgb: Rgb8
    plan: Rgb8
    canvas_lab: F32
    plan_lab: F32
    labels: Labels
    glare: Bool
    corners: Points
    sides: tuple[int, ...]
    way: str
    doubt_mm: float
    registration_mm: float
    sharpness: float
    px_per_mm: float
    slope: float
    by: str
    glare_share: float
    shown_share: float

    def trust(self) -> list[tuple[str, str, str]]:
        """Return what can be trusted, row by row: the matter, what was found, and how far it holds."""
        found = {"corners": "corners by hand", "features": "by the picture", "outline": "by its outline"}[self.way]
        hidden = [SIDES[k] for k in range(4) if k not in self.sides]
        sides = count_words(len(self.sides), "side")
        rows = [
            ("squared", f"{found}, {sides}", f"corners to {self.doubt_mm:.1f} mm" + (f"; {' and '.join(hidden)} not seen" if hidden else "")),
            ("drawing", f"{self.registration_mm:.1f} mm apart", "hand and camera together; under 1.3 mm is not told"),
            ("balanced", "known spot" if self.by == "spot" else "by the plan", "light and warmth are true" if self.by == "spot" else "tells what is lighter than the rest, not whether all is"),
            ("sharp", f"{percent(min(self.sharpness, 1.0))} of the hairs", f"{self.px_per_mm:.1f} px a mm; finer than {1.5 / self.px_per_mm:.1f} mm is not seen"),
        ]  # fmt: skip
        if self.slope > 1.15:
            rows.append(("lamp", f"{100 * (self.slope - 1):.0f} % brighter on one side", "taken out"))
        if self.glare_share > 0.005:
            rows.append(
                (
                    "glare",
                    f"{percent(self.glare_share)} of the canvas",
                    "not judged there: photograph again with the lamp moved",
                )
            )
        if self.shown_share < 0.995:
            rows.append(("cut off", f"{percent(1 - self.shown_share)} not in it", "not judged"))
        return rows


@dataclass(frozen=True, slots=True, eq=False)
class PhotoRead:
    """A photograph as it is shown: what was read off it, and the list with what the painter said.

    Attributes
    ----------
    photo : CanvasPhoto or None
        None where it is not kept in the project.
    looked : Looked
    entries : tuple of TouchUp
    stop : str
        "stop", "one round" or "rework", after what the painter kept or struck out.
    reasons : tuple of str
        Why.
    """

    photo: CanvasPhoto | None
    looked: Looked
    entries: tuple[TouchUp, ...]
    stop: str
    reasons: tuple[str, ...]

    @property
    def open(self) -> tuple[TouchUp, ...]:
        """What is to be mended."""
        return tuple(one for one in self.entries if one.open)

    def words(self) -> str:
        """Say what to do, short."""
        mend = self.open
        if self.stop == "stop" or not mend:
            return "Move the lamp first" if self.looked.glare_share > HIDDEN else "Stop here"
        if self.stop == "rework":
            return f"Rework: {count_words(len(mend), 'place')}"
        many = min(len(mend), ROUND_MOST)
        return f"Mend {many}, then stop"

    def minutes(self) -> int:
        """Return the minutes of what is to be mended, of one round the first three."""
        mend = self.open if self.stop == "rework" else self.open[:ROUND_MOST]
        return sum(one.minutes for one in mend)


def looked_key(
    results: Results, project: Project, photo: CanvasPhoto, after: str, progress: Progress = SILENT
) -> tuple[Any, ...]:
    """Return the key a photograph's reading is remembered by. Raises `Cancelled`."""
    plan = standing_key(results, project, after, progress)
    return ("looked", plan, photo.reference.digest, photo.corners, photo.spots, photo.border)


def look_at(results: Results, project: Project, photo: CanvasPhoto, progress: Progress = SILENT) -> Looked:
    """Read a photograph against the plan of the passes done; remembered.

    Raises
    ------
    PictureError
        With the reason when it cannot be used.
    InputError
        When nothing is planned.
    Cancelled
    """
    after = resolved_pass(results, project, photo.after)
    key = looked_key(results, project, photo, after, progress.part(0, 0.3))
    found = results.memo.peek(key)
    if isinstance(found, Looked):
        progress.at(1)
        return found

    def make() -> Looked:
        planned = planned_for(results, project, after, progress.part(0.3, 0.5))
        picture = picture_of(results, photo.reference)
        k = picture.scale
        corners = np.array(photo.corners) * k if photo.corners else None
        spots = [replace(one, at=(one.at[0] * k, one.at[1] * k)) for one in photo.spots]
        border = BORDERS.get(photo.border)
        seen = look(planned, picture.rgb, corners, spots, progress.part(0.5, 0.8), border)
        return _looked(planned, seen, after, k, progress.part(0.8, 1))

    return results.memo.get(key, make)


def _looked(planned: Planned, seen: Seen, after: str, scale: float, progress: Progress) -> Looked:
    judged = judge(planned, seen, 0.0, progress)
    less = HOVER_PX_PER_MM / planned.px_per_mm
    size = (max(2, round(planned.size[0] * less)), max(2, round(planned.size[1] * less)))

    def small(lab: F32) -> F32:
        return np.asarray(frozen(cv2.resize(lab, size, interpolation=cv2.INTER_AREA)), np.float32)

    frame = seen.squared.frame
    return Looked(
        after, About(planned.size, planned.parts, planned.eyes), tuple((one, colours_about(planned, one)) for one in judged.told), judged.parts,
        judged.verdict, judged.from_m, seen.rgb, planned.rgb, small(seen.fine), small(planned.lab),
        np.asarray(cv2.resize(planned.labels, size, interpolation=cv2.INTER_NEAREST), np.int16),
        cv2.resize(seen.glare.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0,
        frame.corners(*planned.size) / scale, seen.squared.sides, seen.squared.way, seen.squared.doubt_mm, seen.registration_mm, seen.sharpness,
        seen.px_per_mm, seen.slope, seen.by, float(seen.glare.mean()), float(seen.shown.mean()),
    )  # fmt: skip


def read_photo(
    results: Results, project: Project, photo: CanvasPhoto, progress: Progress = SILENT, moment: datetime | None = None
) -> PhotoRead:
    """Return a photograph with its list. Raises `AppError` when it cannot be used, `Cancelled`."""
    looked = look_at(results, project, photo, progress.part(0, 0.9))
    moment = moment or now()
    paints: dict[int, Paint] = {}
    if project.days.done or project.days.begun:
        close = close_days(results, project, progress.part(0.9, 1))
        paints = paint_states(project, close.planned, moment)
    plans = painted_passes(results, project)
    number = next(k for k, plan in enumerate(plans) if plan.role.key == looked.after)
    entries = touch_ups(
        results, project, looked.about, looked.told, looked.from_m, looked.by, plans[: number + 1], paints, moment
    )
    kept = photo if project.photo(photo.id) is not None else None
    stop, reasons = stopping(project, looked, entries)
    return PhotoRead(kept, looked, entries, stop, reasons)


def stopping(project: Project, looked: Looked, entries: tuple[TouchUp, ...]) -> tuple[str, tuple[str, ...]]:
    """Return what is advised ("stop", "one round", "rework"), and why, once what was kept or struck out is left out."""
    mend = [one for one in entries if one.open]
    reasons = []
    told = [one for one in entries if not one.below]
    if not told:
        reasons.append(f"From {looked.from_m:.1f} m nothing shows.")
    elif not mend:
        reasons.append("What shows is kept on purpose or done.")
    else:
        reasons.append(
            f"From {looked.from_m:.1f} m {count_words(len(mend), 'place')} {'shows' if len(mend) == 1 else 'show'}, about {duration_words(sum(one.minutes for one in mend))}."
        )
    if looked.glare_share > HIDDEN:
        reasons.append(
            f"{percent(looked.glare_share)} lies under glare and was not judged: photograph it again with the lamp moved."
        )
    spent = sum(one.taken_min for one in project.noted)
    planned = sum(one.usual_min for one in project.noted)
    if spent > 1.3 * planned > 0:
        reasons.append(
            f"{duration_words(spent)} are spent, {duration_words(planned)} were planned: every further hour costs freshness."
        )
    restated = [name for name, times in _restated(project).items() if times >= 3]
    if restated:
        reasons.append(
            f"{', '.join(restated[:2])} was gone over three times and more: leave it unless it is first on the list."
        )
    smooth = [one for one in entries if one.kind == "smooth" and not one.below]
    if len(smooth) >= 2:
        reasons.append("Places are growing smooth: more work will not bring the brush marks back.")
    if not mend:
        return "stop", tuple(reasons)
    animals = dict.fromkeys(part.group for part in looked.about.parts if part.group)
    asked = {one.group for one in mend}
    if len(animals) > 1:
        reasons += [f"Leave {name} as it is." for name in animals if name not in asked]
    # The list is cut, the advice follows what is left of it.
    stop = (
        looked.verdict
        if looked.verdict != "stop"
        else "one round"
        if any(one.kind == "own" for one in mend)
        else "stop"
    )
    if stop == "rework" and len(mend) <= ROUND_MOST:
        stop = "one round"
    if stop == "stop":
        reasons.insert(0, "What is left is hardly over what two hands differ by.")
    return stop, tuple(reasons)


def _restated(project: Project) -> dict[str, int]:
    """Return how often each part was gone over, by its name, as the log has it."""
    return {one.part: one.restated for one in parts(project.told)}


@dataclass(frozen=True, slots=True)
class TrendPoint:
    """A part's difference from its plan in a photograph: the day, and its distance in CIELAB."""

    photo: str
    day: str
    de: float


@dataclass(frozen=True, slots=True)
class Trend:
    """A part over the photographs, earliest first."""

    zone: str
    name: str
    points: tuple[TrendPoint, ...]

    @property
    def better(self) -> float:
        """By how much the last photograph is nearer than the one before it, ΔE; 0 with only one."""
        return self.points[-2].de - self.points[-1].de if len(self.points) > 1 else 0.0


def trends(reads: list[PhotoRead]) -> tuple[Trend, ...]:
    """Return every part over photographs, the farthest off first."""
    found: dict[str, list[TrendPoint]] = {}
    names: dict[str, str] = {}
    for one in reads:
        if one.photo is None:
            continue
        for off in one.looked.parts:
            part = one.looked.about.parts[off.part]
            names[part.id] = part.name
            found.setdefault(part.id, []).append(TrendPoint(one.photo.id, one.photo.taken[:10], off.de))
    made = [Trend(zone, names[zone], tuple(points)) for zone, points in found.items()]
    return tuple(sorted(made, key=lambda one: -one.points[-1].de))


@dataclass(frozen=True, slots=True)
class Usual:
    """An error that comes again: its kind with its sense, in words, how often it was told, and in how many photographs."""

    words: str
    count: int
    photographs: int


_SENSES = {
    ("value", 1): "too light", ("value", -1): "too dark", ("warmth", 1): "too warm", ("warmth", -1): "too cool", ("strength", 1): "too strong in colour",
    ("strength", -1): "too grey", ("edge", 1): "edges too soft", ("edge", -1): "edges too hard", ("place", 1): "eyes out of place", ("shape", 1): "eyes out of shape",
    ("growth", 1): "hair off its growth", ("smooth", 1): "too smooth", ("lights", 1): "too many lights", ("bare", 1): "bare ground left",
    ("stroke", 1): "single light strokes", ("stroke", -1): "single dark strokes", ("catchlight", 1): "catchlight late", ("catchlight", -1): "catchlight early",
    ("missing", 1): "single hairs forgotten",
}  # fmt: skip


def usual_errors(reads: list[PhotoRead]) -> tuple[Usual, ...]:
    """Return the painter's usual errors over photographs, the most frequent first; what was kept on purpose is none."""
    counts: dict[str, list[str]] = {}
    for number, one in enumerate(reads):
        for entry in one.entries:
            if entry.kind == "own" or entry.word in ("leave", "struck"):
                continue
            size = entry.size - entry.planned if entry.kind == "edge" else entry.size
            sense = -1 if size < 0 and (entry.kind, -1) in _SENSES else 1
            counts.setdefault(_SENSES[entry.kind, sense], []).append(str(number))
    made = [Usual(words, len(where), len(set(where))) for words, where in counts.items()]
    return tuple(sorted(made, key=lambda one: (-one.count, one.words)))


# Requests -----------------------------------------------------------------------------------------


@dataclass(frozen=True, slots=True, eq=False)
class ReadPhoto:
    """Read a photograph of the canvas."""

    results: Results
    project: Project
    photo: CanvasPhoto

    def __call__(self, progress: Progress) -> PhotoRead:
        """Return it with its list. Raises `AppError`, `Cancelled`."""
        return read_photo(self.results, self.project, self.photo, progress)


@dataclass(frozen=True, slots=True, eq=False)
class ReadTrend:
    """Read every photograph, earliest first, for how parts came along; those that cannot be used are left out."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> list[PhotoRead]:
        """Return those that can be used. Raises `Cancelled`."""
        made = []
        parts = progress.parts(max(1, len(self.project.photos)))
        for photo, part in zip(self.project.photos, parts, strict=False):
            try:
                made.append(read_photo(self.results, self.project, photo, part))
            except AppError:
                continue
        return made


def outlines_of(mask: Bool) -> list[Points]:
    """Return the outlines of what is true in a mask, (N, 2) cells each."""
    found, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
    return [ring[:, 0].astype(np.float64) + 0.5 for ring in found if len(ring) > 3]


def against_reference(results: Results, project: Project, looked: Looked) -> dict[int, float]:
    """Return by part how far the canvas lies from the reference itself, CIELAB distance of medians under a squint."""
    h, w = looked.labels.shape
    reference = lab_of(scaled_picture(results, project, w, h))
    off = cv2.GaussianBlur(looked.canvas_lab, (0, 0), 2) - cv2.GaussianBlur(reference, (0, 0), 2)
    made = {}
    for k in range(len(looked.about.parts)):
        mine = (looked.labels == k) & ~looked.glare
        if mine.sum() > 60:
            made[k] = float(np.linalg.norm(np.median(off[mine], axis=0)))
    return made
