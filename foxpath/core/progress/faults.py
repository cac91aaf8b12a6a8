"""A painter's faults, put into a painted picture on purpose: what the stand-in camera photographs, and tests look for.

Each takes a picture and a random number generator and returns the picture with the fault in it and what was done, in work px and the unit in
which it will be told. None of them reads what finds them.
"""

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F32, Bool, Rgb8
from foxpath.core.progress.planned import Planned, PlannedEye
from foxpath.core.progress.small import blur, grown, lab_of, rgb_of, shrunk


@dataclass(frozen=True, slots=True)
class Fault:
    """A fault that was put in: its kind as it is told, where (work px), how much, in which unit, and how far it reaches, mm."""

    kind: str
    at: tuple[float, float]
    size: float
    unit: str
    reach_mm: float
    part: str = ""


Made = tuple[F32, Fault]


def _place_in(
    planned: Planned, rng: np.random.Generator, room_mm: float, kinds: Callable[[int], bool]
) -> tuple[int, tuple[float, float]] | None:
    """Return a part and a place with room about it, or None."""
    order = rng.permutation(len(planned.parts))
    for k in order:
        if not kinds(int(k)):
            continue
        mask = np.pad((planned.labels == k).astype(np.uint8), 1)
        for eye in planned.eyes:
            cv2.circle(mask, (round(eye.x) + 1, round(eye.y) + 1), round(1.6 * eye.radius), 0, -1)
        room = cv2.distanceTransform(mask, cv2.DIST_L2, 3)[1:-1, 1:-1]
        ys, xs = np.nonzero(room > room_mm * planned.px_per_mm)
        if len(ys):
            j = int(rng.integers(len(ys)))
            return int(k), (float(xs[j]), float(ys[j]))
    return None


def _spot(planned: Planned, at: tuple[float, float], radius_mm: float, soft_mm: float) -> F32:
    """Return a round weight with a soft rim, (H, W) 0 to 1."""
    y, x = np.mgrid[: planned.rgb.shape[0], : planned.rgb.shape[1]].astype(np.float32)
    away = np.hypot(x - at[0], y - at[1]) / planned.px_per_mm
    return np.asarray(np.clip((radius_mm + soft_mm / 2 - away) / soft_mm, 0, 1), np.float32)


def _furry(planned: Planned) -> Callable[[int], bool]:
    return lambda k: planned.parts[k].hair and planned.parts[k].kind != "whisker"


def _any(planned: Planned) -> Callable[[int], bool]:
    return lambda k: planned.parts[k].kind not in ("eye", "whisker")


def value_part(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Put a whole part off in lightness."""
    fit = [
        k
        for k in range(len(planned.parts))
        if _any(planned)(k) and (planned.labels == k).sum() > 200 * planned.px_per_mm**2
    ]
    fit = [k for k in fit if (planned.labels == k).mean() < 0.3]
    if not fit:
        return None
    k = int(rng.choice(fit))
    off = float(rng.choice([-1, 1]) * rng.uniform(6, 9))
    mask = blur((planned.labels == k).astype(np.float32), planned.px_per_mm)
    made = lab.copy()
    made[..., 0] += off * mask
    ys, xs = np.nonzero(planned.labels == k)
    return made, Fault(
        "value",
        (float(xs.mean()), float(ys.mean())),
        off,
        "L*",
        float(np.sqrt(len(xs)) / planned.px_per_mm),
        planned.parts[k].id,
    )


def value_patch(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Put a patch off in lightness."""
    found = _place_in(planned, rng, 10, _any(planned))
    if found is None:
        return None
    radius, off = float(rng.uniform(14, 22)), float(rng.choice([-1, 1]) * rng.uniform(8, 11))
    mask = _spot(planned, found[1], radius, 5) * (planned.labels == found[0])
    made = lab.copy()
    made[..., 0] += off * mask
    return made, Fault("value", found[1], off, "L*", radius, planned.parts[found[0]].id)


def warmth(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Put a patch off in warmth."""
    found = _place_in(planned, rng, 10, _any(planned))
    if found is None:
        return None
    radius, off = float(rng.uniform(14, 22)), float(rng.choice([-1, 1]) * rng.uniform(8, 12))
    mask = _spot(planned, found[1], radius, 5) * (planned.labels == found[0])
    made = lab.copy()
    made[..., 1] += 0.3 * off * mask
    made[..., 2] += off * mask
    return made, Fault("warmth", found[1], off, "b*", radius, planned.parts[found[0]].id)


def strength(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Make a coloured part greyer or stronger."""
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    fit = [
        k for k in range(len(planned.parts))
        if _any(planned)(k) and 150 * planned.px_per_mm**2 < (planned.labels == k).sum() < 0.3 * planned.labels.size
        and float(np.median(chroma[planned.labels == k])) > 13
    ]  # fmt: skip
    if not fit:
        return None
    k, factor = int(rng.choice(fit)), float(rng.choice([0.66, 1.35]))
    mask = blur((planned.labels == k).astype(np.float32), planned.px_per_mm)[..., None]
    made = lab.copy()
    made[..., 1:] *= 1 + (factor - 1) * mask
    ys, xs = np.nonzero(planned.labels == k)
    return made, Fault(
        "strength",
        (float(xs.mean()), float(ys.mean())),
        factor,
        "x",
        float(np.sqrt(len(xs)) / planned.px_per_mm),
        planned.parts[k].id,
    )


def _eye(planned: Planned, rng: np.random.Generator) -> PlannedEye | None:
    width, height = planned.size
    good = [
        e
        for e in planned.eyes
        if 2.4 * e.radius < e.x < width - 2.4 * e.radius and 2.4 * e.radius < e.y < height - 2.4 * e.radius
    ]
    return good[int(rng.integers(len(good)))] if good else None


def warped(lab: F32, at: tuple[float, float], radius: float, turn: F32, shift: tuple[float, float]) -> F32:
    """Return a picture with what lies about a place moved by `shift` px and bent by a (2, 2) matrix, fading out round it.

    Parameters
    ----------
    lab : (H, W, 3) float32
    at : (x, y)
    radius : float
        Of what is moved, px; the picture is as it was from 2.3 of them on.
    """
    y, x = np.mgrid[: lab.shape[0], : lab.shape[1]].astype(np.float32)
    dx, dy = x - at[0] - shift[0], y - at[1] - shift[1]
    away = np.hypot(x - at[0], y - at[1]) / radius
    fade = np.clip((2.3 - away) / 0.9, 0, 1)
    back = np.linalg.inv(turn)
    u = at[0] + back[0, 0] * dx + back[0, 1] * dy
    v = at[1] + back[1, 0] * dx + back[1, 1] * dy
    return np.asarray(
        cv2.remap(
            lab,
            (fade * u + (1 - fade) * x).astype(np.float32),
            (fade * v + (1 - fade) * y).astype(np.float32),
            cv2.INTER_LINEAR,
        ),
        np.float32,
    )


def place(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Paint an eye in another place."""
    eye = _eye(planned, rng)
    if eye is None:
        return None
    off, angle = float(rng.uniform(2.2, 4)), float(rng.uniform(0, 2 * np.pi))
    off = min(off, 0.8 * eye.radius / planned.px_per_mm)
    shift = (off * planned.px_per_mm * np.cos(angle), off * planned.px_per_mm * np.sin(angle))
    return warped(lab, (eye.x, eye.y), eye.radius, np.eye(2, dtype=np.float32), shift), Fault(
        "place", (eye.x, eye.y), off, "mm", 15, eye.zone
    )


def shape(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Paint an eye too oval."""
    eye = _eye(planned, rng)
    if eye is None:
        return None
    ratio = float(rng.uniform(1.13, 1.22))
    turn = np.diag([np.sqrt(ratio), 1 / np.sqrt(ratio)]).astype(np.float32)
    return warped(lab, (eye.x, eye.y), eye.radius, turn, (0, 0)), Fault(
        "shape", (eye.x, eye.y), ratio, "x width", 15, eye.zone
    )


def catchlight(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Set a catchlight at another hour."""
    lit = [e for e in planned.eyes if e.light is not None and e.hour is not None]
    if not lit:
        return None
    eye = lit[int(rng.integers(len(lit)))]
    assert eye.light is not None
    hours = float(rng.choice([-1, 1]) * rng.uniform(2, 4))
    made = at_another_hour(lab, (eye.x, eye.y), eye.radius, eye.light, hours)
    return made, Fault("catchlight", (eye.x, eye.y), hours, "h", 15, eye.zone)


def at_another_hour(
    lab: F32, middle: tuple[float, float], radius: float, light: tuple[float, float], hours: float
) -> F32:
    """Return a picture with an eye's catchlight so many hours later on the clock, (H, W, 3); px."""
    (x, y), (lx, ly), a = middle, light, np.radians(30 * hours)
    dx, dy = lx - x, ly - y
    later = (x + dx * np.cos(a) - dy * np.sin(a), y + dx * np.sin(a) + dy * np.cos(a))
    reach = 0.22 * radius
    made = lab
    yy, xx = np.mgrid[: lab.shape[0], : lab.shape[1]].astype(np.float32)
    # What lies across the middle fills the old place: it is iris or ball as well.
    for (fx, fy), (tx, ty) in (((2 * x - lx, 2 * y - ly), light), (light, later)):
        moved = cv2.warpAffine(lab, np.array([[1, 0, tx - fx], [0, 1, ty - fy]], np.float32), lab.shape[1::-1])
        away = np.hypot(xx - tx, yy - ty)
        mask = np.clip((1.2 * reach - away) / (0.4 * reach), 0, 1)[..., None]
        made = made * (1 - mask) + moved * mask
    return np.asarray(made, np.float32)


def bare(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Leave a patch of the canvas bare."""
    found = _place_in(planned, rng, 7, _any(planned))
    if found is None:
        return None
    radius = float(rng.uniform(4, 6.5))
    colour = planned.ground if planned.ground is not None and rng.random() < 0.4 else np.array([92, 0, 4], np.float32)
    mask = _spot(planned, found[1], radius, 0.8)
    rough = blur(rng.standard_normal(mask.shape).astype(np.float32), 1.2 * planned.px_per_mm)
    mask = np.clip(mask * (0.9 + 1.2 * rough / max(float(rough.std()), 1e-6) * 0.2), 0, 1)[..., None]
    made = np.asarray(lab * (1 - mask) + colour * mask, np.float32)
    return made, Fault("bare", found[1], float(np.pi * radius**2 / 100), "cm2", radius, planned.parts[found[0]].id)


def stroke(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Leave one stroke that jumps out."""
    found = _place_in(planned, rng, 10, _furry(planned)) or _place_in(planned, rng, 10, _any(planned))
    if found is None:
        return None
    mm, (x, y) = planned.px_per_mm, found[1]
    length, wide = float(rng.uniform(10, 16)), float(rng.uniform(1.4, 2.2))
    around = lab[max(0, int(y - 8 * mm)) : int(y + 8 * mm), max(0, int(x - 8 * mm)) : int(x + 8 * mm), 0].mean()
    off = float(rng.uniform(20, 28)) * (1 if around < 55 else -1)
    angle = float(rng.uniform(0, np.pi))
    mask = np.zeros(lab.shape[:2], np.uint8)
    t = np.linspace(-0.5, 0.5, 24) * length * mm
    for k, d in enumerate(t):
        half = wide / 2 * mm * (1 - 0.75 * k / len(t))
        cv2.circle(mask, (round(x + d * np.cos(angle)), round(y + d * np.sin(angle))), max(1, round(half)), 255, -1)
    weight = blur(mask.astype(np.float32) / 255, 0.2 * mm)
    made = lab.copy()
    made[..., 0] += off * weight
    return made, Fault("stroke", found[1], off, "L*", length / 2, planned.parts[found[0]].id)


def _stretch(
    planned: Planned, rng: np.random.Generator, kinds: Callable[[float], bool]
) -> tuple[Bool, tuple[float, float], float] | None:
    """Return a stretch of a border whose planned width is fit: the band of it, its middle and its planned width, mm."""
    fit = [
        e
        for e in planned.edges
        if e.back >= 0 and kinds(e.width_mm) and "eye" not in (planned.parts[e.front].kind, planned.parts[e.back].kind)
    ]
    mm = planned.px_per_mm
    for k in rng.permutation(len(fit)):
        edge = fit[int(k)]
        line = (grown(planned.labels == edge.front, 1) > 0) & (planned.labels == edge.back)
        inner = np.zeros_like(line)
        m = round(14 * mm)
        inner[m:-m, m:-m] = True
        ys, xs = np.nonzero(line & inner)
        if len(xs) < 40 * mm:
            continue
        for _ in range(30):
            j = int(rng.integers(len(xs)))
            near = np.hypot(xs - xs[j], ys - ys[j]) < 18 * mm
            a, b = (planned.lab[max(0, ys[j] - round(9 * mm)) : ys[j] + round(9 * mm), max(0, xs[j] - round(9 * mm)) : xs[j] + round(9 * mm)][
                planned.labels[max(0, ys[j] - round(9 * mm)) : ys[j] + round(9 * mm), max(0, xs[j] - round(9 * mm)) : xs[j] + round(9 * mm)] == side
            ] for side in (edge.front, edge.back))  # fmt: skip
            if len(a) and len(b) and near.sum() > 25 * mm and float(np.linalg.norm(a.mean(0) - b.mean(0))) > 15:
                band = np.zeros(line.shape, bool)
                band[ys[near], xs[near]] = True
                return band, (float(xs[j]), float(ys[j])), edge.width_mm
    return None


def edge_lost(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Blur a border that was to be crisp."""
    found = _stretch(planned, rng, lambda w: w < 3)
    if found is None:
        return None
    band, at, _ = found
    mm = planned.px_per_mm
    wide = float(rng.uniform(7, 10))
    weight = blur(grown(band, 0.8 * wide * mm).astype(np.float32), 2 * mm)[..., None]
    made = lab * (1 - weight) + blur(lab, wide / 2.563 * mm) * weight
    return np.asarray(made, np.float32), Fault("edge", at, wide, "mm", 20)


def edge_hard(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Cut a border hard that was to be soft."""
    found = _stretch(planned, rng, lambda w: w > 4)
    if found is None:
        return None
    band, at, width = found
    mm = planned.px_per_mm
    near = grown(band, 1.1 * width * mm) > 0
    made = lab.copy()
    y, x = int(at[1]), int(at[0])
    sides = {int(v) for v in np.unique(planned.labels[max(0, y - 3) : y + 4, max(0, x - 3) : x + 4])}
    for side in sides - {-1}:
        mine = planned.labels == side
        core = shrunk(mine, 0.9 * width * mm) > 0
        if core.sum() < 30:
            continue
        # Each pixel of the side takes the colour it has farther in.
        _, index = cv2.distanceTransformWithLabels(
            (~core).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
        )
        ys, xs = np.nonzero(core)
        table = np.zeros((int(index.max()) + 1, 2), int)
        table[index[ys, xs]] = np.stack([ys, xs], 1)
        there = near & mine & ~core
        at_source = table[index[there]]
        made[there] = lab[at_source[:, 0], at_source[:, 1]]
    made = np.where(grown(near, 2)[..., None] > 0, blur(made, 0.25 * mm), made)
    return np.asarray(made, np.float32), Fault("edge", at, 0.8, "mm", 20)


def growth(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Lay a patch of hair in another direction."""
    found = _place_in(planned, rng, 11, _furry(planned))
    if found is None:
        return None
    radius = float(rng.uniform(13, 18))
    turn = float(rng.choice([-1, 1]) * rng.uniform(30, 60))
    weight = (_spot(planned, found[1], radius, 4) * (planned.labels == found[0]))[..., None]
    low = blur(lab, 3 * planned.px_per_mm)
    matrix = cv2.getRotationMatrix2D(found[1], turn, 1.0)
    turned = cv2.warpAffine(lab - low, matrix, lab.shape[1::-1], borderMode=cv2.BORDER_REFLECT)
    made = low + (lab - low) * (1 - weight) + turned * weight
    return np.asarray(made, np.float32), Fault("growth", found[1], abs(turn), "deg", radius, planned.parts[found[0]].id)


def smooth(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Smooth a patch until no hair is seen in it."""
    found = _place_in(planned, rng, 9, _furry(planned))
    if found is None:
        return None
    radius = float(rng.uniform(9, 14))
    weight = (_spot(planned, found[1], radius, 4) * (planned.labels == found[0]))[..., None]
    made = lab * (1 - weight) + blur(lab, 2.2 * planned.px_per_mm) * weight
    return np.asarray(made, np.float32), Fault("smooth", found[1], radius, "mm", radius, planned.parts[found[0]].id)


def lights(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Set too many lights on a part."""
    found = _place_in(planned, rng, 14, _furry(planned))
    if found is None:
        return None
    mm, (x, y) = planned.px_per_mm, found[1]
    mask = np.zeros(lab.shape[:2], np.uint8)
    radius = float(rng.uniform(18, 32))
    mine = (planned.labels == found[0]) & (_spot(planned, found[1], radius, 1) > 0.5)
    ys, xs = np.nonzero(mine)
    angle = float(rng.uniform(0, np.pi))
    for _ in range(int(0.08 * len(xs) / mm**2 / (5 * 0.9))):
        j = int(rng.integers(len(xs)))
        a = angle + float(rng.normal(0, 0.2))
        dx, dy = 2.5 * mm * np.cos(a), 2.5 * mm * np.sin(a)
        ends = ((round(xs[j] - dx), round(ys[j] - dy)), (round(xs[j] + dx), round(ys[j] + dy)))
        cv2.line(mask, *ends, 255, max(1, round(0.9 * mm)), cv2.LINE_AA)
    made = lab.copy()
    made[..., 0] += 15 * blur(mask.astype(np.float32) / 255, 0.15 * mm) * mine
    return made, Fault("lights", (x, y), 8.0, "%", radius, planned.parts[found[0]].id)


def missing(planned: Planned, lab: F32, rng: np.random.Generator) -> Made | None:
    """Forget the single hairs (whiskers)."""
    del rng
    if planned.before is None:
        return None
    core = np.abs(planned.lab - planned.before).sum(axis=-1) > 6
    if core.sum() < 100:
        return None
    weight = blur(grown(core, planned.px_per_mm).astype(np.float32), 0.5 * planned.px_per_mm)[..., None]
    ys, xs = np.nonzero(core)
    made = lab * (1 - weight) + planned.before * weight
    return np.asarray(made, np.float32), Fault(
        "missing", (float(xs.mean()), float(ys.mean())), 0, "share", float(np.ptp(xs) / planned.px_per_mm)
    )


FAULTS: dict[str, Callable[[Planned, F32, np.random.Generator], Made | None]] = {
    "value of a part": value_part, "value of a patch": value_patch, "warmth": warmth, "strength": strength, "place": place,
    "shape": shape, "catchlight": catchlight, "bare": bare, "stroke": stroke, "edge lost": edge_lost, "edge hard": edge_hard,
    "growth": growth, "smooth": smooth, "lights": lights, "missing": missing,
}  # fmt: skip
"""Every fault there is."""


def with_faults(
    planned: Planned, painted: Rgb8, seed: int, most: int = 5, names: tuple[str, ...] = ()
) -> tuple[Rgb8, tuple[Fault, ...]]:
    """Return a painted picture with faults in it, and which.

    Parameters
    ----------
    planned : Planned
    painted : (H, W, 3) uint8 sRGB
        As some hand painted it; of the plan's size.
    seed : int
    most : int
        So many, of different kinds and at least 45 mm apart where they are local.
    names : tuple of str
        Keys of `FAULTS` to choose from; all without.
    """
    rng = np.random.default_rng(seed)
    lab = lab_of(painted)
    put: list[Fault] = []
    for name in rng.permutation(list(names or FAULTS)):
        if len(put) >= most:
            break
        for _ in range(4):
            found = FAULTS[str(name)](planned, lab, rng)
            if found is None:
                break
            made, fault = found
            near = any(
                np.hypot(*np.subtract(one.at, fault.at)) < 45 * planned.px_per_mm for one in put if one.reach_mm < 40
            )
            if near or any(one.kind == fault.kind for one in put):
                continue
            lab = made
            put.append(fault)
            break
    return rgb_of(lab), tuple(put)
