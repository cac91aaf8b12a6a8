"""The colours that every pass asks for in every part, with how much paint of each."""

import numpy as np

from foxpath.core.arrays import F32, Lab
from foxpath.core.colour import lab_from_linear, linear_from_lab, linear_from_rgb, rgb_from_linear
from foxpath.core.mixes.amounts import film_um, millilitres
from foxpath.core.mixes.palette import Want
from foxpath.core.passes import PassPlan
from foxpath.core.passes.colours import gather
from foxpath.core.rehearsal.marks import GROUND_LAB, Marks, painted
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.frames import map_frame
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.mixes.films import beneath_key, mix_of, study_beneath
from foxpath.derive.passes.features import further_marks
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import mask_key, mask_of
from foxpath.document.model import Project

SAMPLES = 900
"""Places of a part that are looked at."""
MOST_COLOURS = 4
"""Colours of a pass in one part."""
FOCUS = 2.0
"""By so much more the colours at the focal point matter than those far from it."""
NEAR_SHARE = 0.2
"""Of the canvas's diagonal, within which the focus is near."""
DETAIL = 0.015
"""Weight, as a share of the whole, that the colours of an eye or nose have at least: they are small, and everybody looks there."""


def wants_of(results: Results, project: Project, progress: Progress = SILENT) -> tuple[Want, ...]:
    """Return the colours of all passes that are on, pass by pass. Raises `Cancelled`."""

    def make() -> tuple[Want, ...]:
        plans = [plan for plan in passes_of(results, project) if plan.on]
        found: list[Want] = []
        for number, plan in enumerate(plans):
            progress.at(number / max(len(plans), 1), f"reading the colours of {plan.role.name.lower()}")
            found += _of_pass(results, project, plan)
        return tuple(found)

    return results.once(project, "wants", make)


def _of_pass(results: Results, project: Project, plan: PassPlan) -> list[Want]:
    frame, facts = map_frame(project), facts_of(results, project)
    film = film_um(plan.role.thickness)
    if plan.role.act == "ground":
        area = project.canvas.area_cm2 * 100
        lab = _as_painted(np.array([GROUND_LAB], np.float32), plan)[0]
        return [Want(_triple(lab), 1.0, plan.role.key, -1, millilitres(area, film))]
    if plan.role.veil is not None:
        return _of_veil(results, project, plan)
    made: list[Want] = []
    whole = sum(fact.area_cm2 for fact in facts) or 1.0
    diagonal = float(np.hypot(project.canvas.width_mm, project.canvas.height_mm))
    whole_pass, beneath = plan, beneath_key(results, project, plan.role.key)
    for index in whole_pass.zones:
        plan = whole_pass.at(index)
        estimate = plan.estimates.get(index)
        area_mm2 = (estimate.area_cm2 if estimate is not None else 0.0) * 100
        if area_mm2 <= 0:
            continue
        ml = millilitres(area_mm2, film)
        key = (
            "zone wants",
            plan.role,
            plan.l_low,
            plan.l_high,
            plan.ceiling,
            beneath,
            mask_key(results, project, index, frame),
            frame,
        )
        colours = results.memo.get(key, lambda index=index, plan=plan: _of_zone(results, project, plan, index))  # type: ignore[misc]
        far = _far_mm(project, index) / diagonal
        seen = project.weight_of(project.back_to_front()[index])
        matter = seen * facts[index].area_cm2 / whole * (1 + FOCUS * float(np.exp(-((far / NEAR_SHARE) ** 2))))
        for lab, share in colours:
            made.append(Want(lab, matter * share, plan.role.key, index, ml * share))
        made += _details(results, project, plan, index)
    return made


VEIL_WEIGHT = 0.01
"""Weight of a veil's mix, as a share of the whole: it is thin, and tints all it lies over."""


def _of_veil(results: Results, project: Project, plan: PassPlan) -> list[Want]:
    """Return the one colour of a veil, part by part: its mix, laid thick, with what the medium leaves of the paint."""
    veil = plan.role.veil
    if veil is None or not plan.zones:
        return []
    mixed = mix_of(results, project, plan)
    lab = mixed.lab
    area = sum(one.area_cm2 for one in plan.estimates.values())
    film = film_um(plan.role.thickness)
    return [
        Want(
            (float(lab[0]), float(lab[1]), float(lab[2])),
            VEIL_WEIGHT * one.area_cm2 / max(area, 1e-9),
            plan.role.key,
            index,
            millilitres(one.area_cm2 * 100, film) * mixed.paint,
        )
        for index, one in plan.estimates.items()
    ]


def _far_mm(project: Project, index: int) -> float:
    """Return how far a part's middle lies from the focal point."""
    zone = project.back_to_front()[index]
    if zone.whole:
        return float(np.hypot(project.canvas.width_mm, project.canvas.height_mm)) / 2
    middle, focal = np.array(zone.middle()), np.array(project.focal_point)
    return float(np.hypot(*(middle - focal))) * project.mm_per_px


def _of_zone(
    results: Results, project: Project, plan: PassPlan, index: int
) -> tuple[tuple[tuple[float, float, float], float], ...]:
    """Return the few colours of a pass in one part, each with its share of the paint there."""
    mask = mask_of(results, project, index, map_frame(project))
    study = study_beneath(results, project, plan.role.key)
    places = np.flatnonzero(mask)
    if not len(places):
        return ()
    places = places[:: max(1, len(places) // SAMPLES)]
    # Broad masses take a mean colour, hairs the picture's own.
    source = _broad(study.fine) if plan.role.block_in else study.fine
    lab = source.reshape(-1, 3)[places].astype(np.float32)
    upper = min(plan.l_high, plan.ceiling)
    lab = lab[_belongs(lab[:, 0], plan)]
    lab[:, 0] = np.clip(lab[:, 0], plan.l_low, upper)
    # Lightness that the band cuts takes its share of the colour with it.
    done = _as_painted(lab, plan)
    rgb = rgb_from_linear(np.clip(linear_from_lab(done), 0, 1))
    colours = gather(rgb, np.ones(len(rgb), np.float32), MOST_COLOURS)
    return tuple((_from_polar(one.light, one.chroma, one.hue_deg), one.share) for one in colours)


def _belongs(light: F32, plan: PassPlan) -> np.ndarray:
    """Tell at which places a pass's paint belongs: darks in the darkest, lights in the lightest share of a part."""
    share = plan.role.belongs
    if share >= 1 or len(light) < 4:
        return np.ones(len(light), bool)
    dark = plan.role.act in ("darks", "restated")
    edge = float(np.quantile(light, share if dark else 1 - share))
    return np.asarray(light <= edge if dark else light >= edge)


def _broad(lab: Lab) -> Lab:
    import cv2

    return np.asarray(cv2.GaussianBlur(lab, (0, 0), 6), np.float32)


def _as_painted(lab: F32, plan: PassPlan) -> F32:
    """Return (N, 3) colours in the paint of a pass: its strength, lean, black and handling."""
    count = len(lab)
    rgb = rgb_from_linear(np.clip(linear_from_lab(lab), 0, 1))
    blank = np.zeros(count, np.float32)
    marks = Marks(np.zeros((count, 8, 2), np.float32), blank, blank, rgb, blank + 1, lab[:, 0].copy(), hair=False)
    done = painted(marks, plan.role, min(plan.l_high, plan.ceiling))
    return lab_from_linear(linear_from_rgb(np.asarray(done.colour, np.float32)))


def _details(results: Results, project: Project, plan: PassPlan, index: int) -> list[Want]:
    """Return the colours of eyes, nose and whiskers that are painted in a part."""
    groups = [marks for _, marks in further_marks(results, project, plan, index) if len(marks.half_mm)]
    if not groups:
        return []
    colour = np.concatenate([marks.colour for marks in groups])
    area = np.concatenate([marks.half_mm * 2 * marks.length_mm for marks in groups])
    ml = millilitres(float(area.sum()), film_um(plan.role.thickness))
    return [
        Want(
            _from_polar(one.light, one.chroma, one.hue_deg),
            max(DETAIL * one.share, 1e-4),
            plan.role.key,
            index,
            ml * one.share,
        )
        for one in gather(colour, area)
    ]


def _from_polar(light: float, chroma: float, hue_deg: float) -> tuple[float, float, float]:
    turn = np.radians(hue_deg)
    return light, float(chroma * np.cos(turn)), float(chroma * np.sin(turn))


def _triple(lab: F32) -> tuple[float, float, float]:
    return float(lab[0]), float(lab[1]), float(lab[2])
