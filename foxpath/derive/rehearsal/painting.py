"""Play the passes one after the other; a changed pass recomputes itself and the later ones only."""

import time
from collections.abc import Callable, Hashable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from foxpath.core.arrays import U8, Bool, frozen
from foxpath.core.fingerprint import fingerprint
from foxpath.core.passes import PassPlan
from foxpath.core.passes.colours import PassColour, gather
from foxpath.core.passes.roles import FINISHING
from foxpath.core.passes.working import Turn
from foxpath.core.rehearsal.films import Film, lay_film
from foxpath.core.rehearsal.marks import Marks
from foxpath.core.rehearsal.stage import (
    STEP,
    Blended,
    SoftPixels,
    Standing,
    bare_canvas,
    blend,
    lay,
    resume,
    soft_pixels,
    soften,
)
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.frames import map_frame
from foxpath.derive.mixes.films import film_key, film_of
from foxpath.derive.mixes.palette import in_palette
from foxpath.derive.passes.features import further_marks
from foxpath.derive.passes.laying import turns_of_work
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.rehearsal.marks import forms_mm, marks_of
from foxpath.derive.rehearsal.overhang import overhang_marks
from foxpath.derive.rehearsal.panel import Keyed, Panel, Stood
from foxpath.derive.rehearsal.softness import softness_of
from foxpath.derive.rehearsal.strays import stray_marks
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of
from foxpath.document.model import Project, as_array

COATS = ("undercoat", "lights")
"""Passes that lay a coat."""
BLENDS = 0.32
"""Strokes of a background are blended over this share of their width."""
SOFTENED = {"undercoat": (0.55, 1.05), "lights": (0.84, 0.8)}
"""Blur of a border after each role, as a share of its planned width: of masses, and of hair.

The undercoat is dragged soft; in the top coat hairs break the border themselves and are hardly blurred. The first
block-in is left rough, and restated darks, highlights and whiskers stay crisp. Together they leave borders as wide as
planned (see `tests/derive/rehearsal/test_widths.py`)."""


Soft = tuple[Hashable, Callable[[], SoftPixels]]
"""The pixels that borders soften: their key, and what makes them when they are needed."""


@dataclass(frozen=True, slots=True, eq=False)
class Rehearsed:
    """One pass as rehearsed.

    Attributes
    ----------
    plan : PassPlan
    standing : Standing
        The painting after it.
    marks : int
    area_cm2 : float
        Summed area of its marks.
    l_min, l_max : float
        Darkest and lightest L* of its marks (0 without marks).
    seconds : float
        Time the drawing took.
    """

    plan: PassPlan
    standing: Standing
    marks: int
    area_cm2: float
    l_min: float
    l_max: float
    seconds: float


def size_for(project: Project, width: int) -> tuple[int, int, float]:
    """Return width and height in pixels of a rehearsal, and its pixels per millimetre."""
    height = max(1, round(width / project.canvas.aspect))
    return width, height, width / project.canvas.width_mm


def groups_of(results: Results, project: Project, plan: PassPlan, progress: Progress) -> list[tuple[Hashable, Marks]]:
    """Return the marks of a pass zone by zone, back to front, with their keys; in the palette's colours where that is asked."""
    return [in_palette(results, project, one, progress) for one in _free_groups(results, project, plan, progress)]


def _free_groups(
    results: Results, project: Project, plan: PassPlan, progress: Progress
) -> list[tuple[Hashable, Marks]]:
    if plan.role.act == "ground":
        return [marks_of(results, project, plan, -1, progress)]
    made: list[tuple[Hashable, Marks]] = []
    if plan.role.veil is not None:
        # A film, and no marks.
        return made
    for index in plan.zones:
        made.append(marks_of(results, project, plan, index, progress))
        # Eyes and features lie over what fills their zone.
        made += further_marks(results, project, plan, index)
    return made


def _retouched(before: Sequence[PassPlan], plan: PassPlan) -> list[PassPlan]:
    """Return the passes whose strays are laid with a pass: its own, and the coats that a late background was cut in round."""
    return [*(one for one in before if plan.role.act == "background" and one.role.act == "lights"), plan]


def _blended(
    results: Results, project: Project, plan: PassPlan, columns: int, rows: int, px_per_mm: float
) -> tuple[Hashable, Blended] | None:
    """Return where a pass's strokes are blended, with its key; None where they are left open."""
    if plan.role.act != "background" or project.ways.backdrop == "open" or not plan.zones:
        return None
    broad = max((choice.mark_mm for choice in plan.brushes.values()), default=0.0)
    if broad <= 0:
        return None
    fine = broad if plan.role.width_share < 1 else forms_mm(broad)
    sigma = BLENDS * fine * px_per_mm
    size = (max(1, columns // STEP), max(1, rows // STEP))
    key = ("blended", project.outlines, plan.zones, size, round(sigma, 3))

    def make() -> Blended:
        import cv2

        mask = np.isin(labels_of(results, project, map_frame(project)), plan.zones).astype(np.float32)
        how = cv2.INTER_AREA if size[0] < mask.shape[1] else cv2.INTER_LINEAR
        return Blended(frozen(np.asarray(cv2.resize(mask, size, interpolation=how), np.float32)), sigma)

    return key, results.memo.get(key, make)


def _finished(before: Sequence[PassPlan], plan: PassPlan) -> tuple[int, ...]:
    """Return the zones that a pass works around, because they are finished; a late background is cut in round the coats."""
    if plan.role.act == "background":
        coats = {index for one in before if one.role.act in COATS for index in one.zones}
        return tuple(sorted(coats - set(plan.zones)))
    if not plan.role.block_in or plan.role.act in (*FINISHING, "ground"):
        return ()
    return tuple(
        sorted({index for one in before if one.role.act in FINISHING for index in one.zones} - set(plan.zones))
    )


def _kept_clean(
    results: Results, project: Project, before: Sequence[PassPlan], plan: PassPlan, columns: int, rows: int
) -> Bool | None:
    """Return where a pass must not spill, (rows, columns) bool; None where it is free."""
    import cv2

    finished = _finished(before, plan)
    if not finished:
        return None
    labels = labels_of(results, project, map_frame(project))
    mask = np.isin(labels, finished).astype(np.uint8)
    return np.asarray(cv2.resize(mask, (columns, rows), interpolation=cv2.INTER_LINEAR) > 0)


def _left_alone(project: Project, before: Sequence[PassPlan], columns: int, rows: int) -> tuple[Hashable, Bool] | None:
    """Return where a pass lays nothing because the area stays as an earlier one left it, with its key; None where that is nowhere.

    A pass the area names that is not painted holds nothing back: there is no moment from which it would.
    """
    import cv2

    done = {plan.role.key for plan in before}
    areas = tuple(one.points for one in project.left_alone if one.after in done)
    if not areas:
        return None
    crop, mask = project.crop, np.zeros((rows, columns), np.uint8)
    for points in areas:
        at = (as_array(points) - (crop.x, crop.y)) * (columns / crop.width, rows / crop.height)
        cv2.fillPoly(mask, [np.round(at).astype(np.int32)], 1)
    return ("left alone", areas), np.asarray(mask > 0)


def _kept_by(finish: Callable[[U8], U8], alone: Bool) -> Callable[[U8], U8]:
    """Return what finishes a pass without touching what is left alone."""

    def kept(rough: U8) -> U8:
        canvas = finish(rough)
        np.copyto(canvas, rough, where=alone[..., None])
        return canvas

    return kept


def pass_colours(results: Results, project: Project, plan: PassPlan) -> tuple[PassColour, ...]:
    """Return the few colours a pass is painted with, dark to light, by the area of its marks."""
    keyed = groups_of(results, project, plan, SILENT)

    def make() -> tuple[PassColour, ...]:
        # A glaze's marks hold what they let through: over white that is its colour too.
        groups = [marks for _, marks in keyed if len(marks.half_mm)]
        if not groups:
            return ()
        colour = np.concatenate([marks.colour for marks in groups])
        return gather(colour, np.concatenate([marks.half_mm * marks.length_mm for marks in groups]))

    return results.memo.get(("pass colours", tuple(key for key, _ in keyed)), make)


def rehearse(
    results: Results,
    project: Project,
    width: int,
    progress: Progress = SILENT,
    each: Callable[[int, Rehearsed], None] | None = None,
    *,
    keep: bool = True,
) -> list[Rehearsed]:
    """Rehearse every pass that is on.

    Parameters
    ----------
    results : Results
    project : Project
    width : int
        Pixels across the canvas.
    progress : Progress
    each : callable, optional
        Called with the index and the result as soon as a pass stands.
    keep : bool
        Whether the next rehearsal may go on from this one.

    Raises
    ------
    Cancelled
    """
    plans = [plan for plan in passes_of(results, project) if plan.on]
    columns, rows, px_per_mm = size_for(project, width)
    surface = project.ways.tooth or "smooth"
    place = (columns, rows, surface, tuple(plan.role.key for plan in plans))
    panel = Panel(columns, rows, px_per_mm, surface, results.layers.get(place, ()))
    done: list[Rehearsed] = []
    for number, one in enumerate(_painted(results, project, width, panel, progress, spare=False)):
        done.append(one)
        if each is not None:
            each(number, one)
    if keep:
        results.keep_layers(place, panel.layers)
    progress.at(1)
    return done


def one_by_one(results: Results, project: Project, width: int, progress: Progress = SILENT) -> Iterator[Rehearsed]:
    """Rehearse pass after pass and keep none: for canvases too large to keep them all. Raises `Cancelled`."""
    columns, rows, px_per_mm = size_for(project, width)
    panel = Panel(columns, rows, px_per_mm, project.ways.tooth or "smooth")
    yield from _painted(results, project, width, panel, progress, spare=True)


def _painted(
    results: Results, project: Project, width: int, panel: Panel, progress: Progress, *, spare: bool
) -> Iterator[Rehearsed]:
    """Paint the passes that are on onto a panel; with `spare` only the last one is kept."""
    plans = [plan for plan in passes_of(results, project) if plan.on]
    columns, rows, px_per_mm = size_for(project, width)
    surface, softens = project.ways.tooth or "smooth", _softening(plans)
    chain: Hashable = ("bare", columns, rows, surface)
    for number, plan in enumerate(plans):
        part = progress.part(number / len(plans), (number + 1) / len(plans))
        part.at(0, f"rehearsing {plan.role.name.lower()}")
        start = time.perf_counter()
        keyed, before = groups_of(results, project, plan, part), plans[:number]
        late = _late(results, project, before, plan)
        blended = _blended(results, project, plan, columns, rows, px_per_mm)
        softened = _softened(results, project, plan, columns, rows, px_per_mm) if number in softens else None
        finished = _finished(before, plan)
        keys = tuple(key for key, _ in (*keyed, *late))
        around = (finished, project.outlines) if finished else None
        soft_key, blend_key = (one[0] if one else None for one in (softened, blended))
        film = film_key(results, project, plan) if plan.role.veil is not None and plan.zones else None
        alone = _left_alone(project, before, columns, rows)
        # Each pass goes by the fingerprint of the one before: what led to that need not be told again.
        more_keys = (film, alone[0] if alone else None)
        chain = fingerprint("pass", chain, plan.role.key, keys, soft_key, around, blend_key, more_keys)
        short = ("standing", chain, columns, rows)
        found = None if spare else results.memo.peek(short)
        if isinstance(found, Stood):
            panel.take(plan.role.key, keyed, found)
        else:
            area = blended[1] if blended else None
            finish = partial(_finish, area, softened, late, px_per_mm, surface, part)
            more: Callable[[U8], U8] | None = finish if softened or late or area is not None else None
            if film is not None:
                more = partial(_filmed, film_of(results, project, plan), px_per_mm, surface)
            clean = _kept_clean(results, project, before, plan, columns, rows)
            if alone is not None:
                clean = alone[1] if clean is None else clean | alone[1]
                more = _kept_by(more, alone[1]) if more is not None else None
            stood = panel.paint(plan.role.key, keyed, clean, more, part)
            if spare:
                panel.let_go()
            else:
                results.memo.get(short, lambda stood=stood: stood)  # type: ignore[misc]
        groups = [marks for _, marks in (*keyed, *late)]
        light = np.concatenate([np.zeros(0, np.float32), *(marks.lightness for marks in groups)])
        yield Rehearsed(
            plan,
            panel.layers[-1].stood.standing,
            sum(len(marks.half_mm) for marks in groups),
            sum(marks.area_cm2() for marks in groups),
            float(light.min()) if len(light) else 0.0,
            float(light.max()) if len(light) else 0.0,
            time.perf_counter() - start,
        )


def laid_in(
    results: Results, project: Project, before: Sequence[PassPlan], plan: PassPlan, progress: Progress = SILENT
) -> list[Marks]:
    """Return everything a pass lays, in order: its marks, and what it lays late. Raises `Cancelled`."""
    keyed = [*groups_of(results, project, plan, progress), *_late(results, project, before, plan)]
    return [marks for _, marks in keyed]


def _late(results: Results, project: Project, before: Sequence[PassPlan], plan: PassPlan) -> Keyed:
    """Return what a pass lays over softened borders: hair beyond its outline, and strays; of a veil there are none."""
    if plan.role.veil is not None:
        return []
    return [
        in_palette(results, project, one, SILENT)
        for coat in _retouched(before, plan)
        for index in coat.zones
        for one in (*overhang_marks(results, project, coat, index), *stray_marks(results, project, coat, index))
    ]


def _softened(results: Results, project: Project, plan: PassPlan, columns: int, rows: int, px_per_mm: float) -> Soft:
    """Return the pixels that borders soften after a pass."""
    masses, hair = SOFTENED[plan.role.act]
    soft_key, softness = softness_of(results, project, hair / masses)
    key = ("soft pixels", soft_key, columns, rows, masses)
    return key, lambda: results.memo.get(key, lambda: soft_pixels(softness, columns, rows, px_per_mm, masses))


def _finish(
    blended: Blended | None,
    softened: Soft | None,
    late: Keyed,
    px_per_mm: float,
    surface: str,
    progress: Progress,
    rough: U8,
) -> U8:
    """Blend a background and soften borders on a copy of a canvas, and lay over them what comes late."""
    canvas = rough.copy()
    if blended is not None:
        blend(canvas, blended)
    if softened is not None:
        soften(canvas, softened[1]())
    lay(canvas, [marks for _, marks in late], px_per_mm, progress, beneath=canvas, surface=surface)
    return canvas


def _filmed(film: Film, px_per_mm: float, surface: str, rough: U8) -> U8:
    """Lay a veil over a copy of a canvas."""
    canvas = rough.copy()
    lay_film(canvas, film, px_per_mm, surface)
    return canvas


def by_turns(
    results: Results, project: Project, width: int, progress: Progress = SILENT, work: str = ""
) -> Iterator[tuple[Turn, Standing]]:
    """Show the painting after every turn of its order of work: what an area is carried through stands before the next is begun.

    An area that is carried through several passes is cut out of the painting after the last of them, along its borders.

    Raises
    ------
    Cancelled
    """
    import cv2

    done = rehearse(results, project, width, progress)
    places = {one.plan.role.key: k for k, one in enumerate(done)}
    labels = labels_of(results, project, map_frame(project))
    columns, rows, _ = size_for(project, width)
    canvas, run = bare_canvas(columns, rows), -1
    for turn in turns_of_work(results, project, [one.plan for one in done], work):
        first, last = places[turn.roles[0]], places[turn.roles[-1]]
        if len(turn.roles) == 1:
            canvas = resume(done[last].standing)
        else:
            if first != run:
                run = first
                canvas = resume(done[first - 1].standing) if first else bare_canvas(columns, rows)
            mask = np.isin(labels, turn.zones).astype(np.uint8)
            here = cv2.resize(mask, (columns, rows), interpolation=cv2.INTER_NEAREST) > 0
            canvas = canvas.copy()
            np.copyto(canvas, done[last].standing.kept, where=here[..., None])
        yield turn, Standing(frozen(canvas.copy()))


def _growing(
    results: Results, project: Project, plan: PassPlan, canvas: U8, clean: Bool | None, px_per_mm: float, steps: int
) -> Iterator[tuple[int, int, Standing]]:
    """Yield a canvas under more and more of a veil, as `build_up`."""
    film, surface = film_of(results, project, plan), project.ways.tooth or "smooth"
    for step in range(1, steps):
        some = replace(film, share=np.asarray(film.share * np.float32(step / steps)))
        made = _filmed(some, px_per_mm, surface, canvas)
        if clean is not None:
            np.copyto(made, canvas, where=clean[..., None])
        yield step, steps, Standing(frozen(made))


def _softening(plans: Sequence[PassPlan]) -> set[int]:
    """Return after which passes borders are softened: once an act, when the zones of every school have had their first of it."""
    first: dict[tuple[str, tuple[str, ...]], int] = {}
    for number, plan in enumerate(plans):
        if plan.role.act in SOFTENED:
            first.setdefault((plan.role.act, plan.role.schools), number)
    last = {act: max(n for (one, _), n in first.items() if one == act) for act, _ in first}
    return set(last.values())


def build_up(
    results: Results, project: Project, width: int, number: int, steps: int, progress: Progress = SILENT
) -> Iterator[tuple[int, int, Standing]]:
    """Paint one pass slice by slice, for playing it.

    Yields
    ------
    marks laid so far, marks in the pass, the painting as it then stands

    Raises
    ------
    Cancelled
    """
    before = rehearse(results, project, width, progress)
    plan = before[number].plan
    columns, rows, px_per_mm = size_for(project, width)
    canvas = resume(before[number - 1].standing) if number else bare_canvas(columns, rows)
    groups = laid_in(results, project, [one.plan for one in before[:number]], plan, progress)
    total = sum(len(marks.half_mm) for marks in groups)
    slice_size = max(1, -(-total // steps))
    laid = 0
    beneath, surface = canvas.copy(), project.ways.tooth or "smooth"
    clean = _kept_clean(results, project, [one.plan for one in before[:number]], plan, columns, rows)
    alone = _left_alone(project, [one.plan for one in before[:number]], columns, rows)
    if alone is not None:
        clean = alone[1] if clean is None else clean | alone[1]
    if plan.role.veil is not None and plan.zones:
        yield from _growing(results, project, plan, beneath, clean, px_per_mm, steps)
    for marks in groups:
        for start in range(0, len(marks.half_mm), slice_size):
            progress.at(laid / max(total, 1))
            piece = marks.first(slice_size, start)
            lay(canvas, [piece], px_per_mm, progress, beneath=beneath, surface=surface)
            if clean is not None:
                np.copyto(canvas, beneath, where=clean[..., None])
            laid += len(piece.half_mm)
            yield laid, total, Standing(frozen(canvas.copy()))
    yield total, total, before[number].standing
