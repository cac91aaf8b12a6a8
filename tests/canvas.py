"""A painted canvas drawn in a moment, by as many hands as wanted: what photographs are compared with in tests.

25 x 20 cm at 2.4 px a mm: a loose background, a furry head with a darker ear, two eyes with catchlights, whiskers.
"""

from dataclasses import replace
from functools import cache

import cv2
import numpy as np

from foxpath.core.eyes.eye import clock
from foxpath.core.progress.frame import Frame
from foxpath.core.progress.judge.features import catchlight_of
from foxpath.core.progress.planned import Planned, PlannedEdge, PlannedEye, PlannedPart, planned_of
from foxpath.core.progress.seen import Seen
from foxpath.core.progress.small import blur, lab_of, rgb_of
from foxpath.core.progress.square import Squared

PX = 2.4
WIDTH, HEIGHT = 600, 480
HEAD, EAR = ((300, 270), (190, 150)), ((170, 120), (60, 70))
EYES = ((230.0, 240.0), (370.0, 240.0))
RADIUS = 26.0
PARTS = (
    PlannedPart("z1", "Background", "background"), PlannedPart("z2", "Head", "long-fur", "", 12.0, True),
    PlannedPart("z3", "Ear", "short-fur", "", 6.0, True), PlannedPart("z4", "Left eye", "eye"), PlannedPart("z5", "Right eye", "eye"),
)  # fmt: skip
GROUND = (150, 120, 96)


def _mask(shape):
    made = np.zeros((HEIGHT, WIDTH), np.uint8)
    cv2.ellipse(made, shape[0], shape[1], 0, 0, 360, 1, -1)
    return made > 0


@cache
def labels():
    made = np.zeros((HEIGHT, WIDTH), np.int16)
    made[_mask(EAR)] = 2
    made[_mask(HEAD)] = 1
    for k, (x, y) in enumerate(EYES):
        eye = np.zeros((HEIGHT, WIDTH), np.uint8)
        cv2.circle(eye, (int(x), int(y)), int(RADIUS), 1, -1)
        made[eye > 0] = 3 + k
    made.setflags(write=False)
    return made


def _hair(rgb, mask, colour, spread, angle, length, seed, count):
    rng = np.random.default_rng(seed)
    ys, xs = np.nonzero(mask)
    for j in rng.integers(len(xs), size=count):
        a = angle(xs[j], ys[j]) + rng.normal(0, 0.12)
        tone = np.clip(np.array(colour) + rng.normal(0, spread) + rng.normal(0, 4, 3), 0, 255)
        end = (round(xs[j] + length * np.cos(a)), round(ys[j] + length * np.sin(a)))
        cv2.line(rgb, (int(xs[j]), int(ys[j])), end, tone.tolist(), 2, cv2.LINE_AA)


def _down(x, y):
    return np.pi / 2 + 0.5 * (x - 300) / 190


@cache
def painted(seed=0, *, whiskers=False):
    """Return the canvas as a hand paints it, (480, 600, 3) uint8."""
    rng = np.random.default_rng(1000 + seed)
    rough = blur(rng.standard_normal((HEIGHT, WIDTH)).astype(np.float32), 14)
    y, x = np.mgrid[:HEIGHT, :WIDTH] / HEIGHT
    base = np.array([96, 116, 128]) + 60 * (0.5 - y[..., None]) + 26 * np.sin(5 * x[..., None] + 3 * y[..., None])
    rgb = np.clip(base + 5 * (rough / rough.std())[..., None], 0, 255).astype(np.uint8)
    rgb = np.ascontiguousarray(rgb)
    ear, head = _mask(EAR), _mask(HEAD)
    rgb[ear] = (90, 62, 44)
    _hair(rgb, ear, (90, 62, 44), 26, lambda x, y: -np.pi / 2, 12, 10 * seed + 1, 900)
    rgb[head] = (186, 122, 66)
    _hair(rgb, head, (186, 122, 66), 30, _down, 20, 10 * seed + 2, 6500)
    for number, (ex, ey) in enumerate(EYES):
        middle = (int(ex), int(ey))
        cv2.circle(rgb, middle, int(RADIUS) + 4, (30, 22, 18), -1, cv2.LINE_AA)
        cv2.circle(rgb, middle, int(RADIUS), (196, 150, 40), -1, cv2.LINE_AA)
        cv2.ellipse(rgb, (middle[0] + 3 * number, middle[1]), (8, 15), 0, 0, 360, (14, 12, 12), -1, cv2.LINE_AA)
        cv2.circle(rgb, (middle[0] - 9, middle[1] - 10), 5, (250, 250, 246), -1, cv2.LINE_AA)
    if whiskers:
        for k in range(10):
            start = (300 + 30 * (k % 2), 330 + 6 * k)
            end = (560 - 4 * k, 300 + 14 * k)
            cv2.line(rgb, start, end, (246, 244, 238), 2, cv2.LINE_AA)
    rgb.setflags(write=False)
    return rgb


def _ring(shape, start=0.0, end=2 * np.pi):
    a = np.linspace(start, end, 200)
    return np.stack([shape[0][0] + shape[1][0] * np.cos(a), shape[0][1] + shape[1][1] * np.sin(a)], 1)


@cache
def planned(*, hands=2, whiskers=False):
    """Return the canvas as planned, by two hands or one."""
    rgb = painted(0, whiskers=whiskers)
    lab = lab_of(rgb)
    eyes = []
    for k, (x, y) in enumerate(EYES):
        light = catchlight_of(lab, x, y, RADIUS, PX)
        assert light is not None
        eyes.append(
            PlannedEye(PARTS[3 + k].name, f"z{4 + k}", x, y, RADIUS, RADIUS, clock((x, y), light[:2]), light[:2])
        )
    edges = (PlannedEdge(1, 0, 0.6, (_ring(HEAD, -0.6, 3.7),)), PlannedEdge(2, 0, 0.6, (_ring(EAR, 3.2, 5.9),)))
    ground = np.full((8, 8, 3), GROUND, np.uint8)
    other = painted(1, whiskers=whiskers) if hands > 1 else None
    return planned_of(rgb, other, labels(), PARTS, PX, eyes, edges, painted(0) if whiskers else None, ground)


def seen_as(rgb, plan: Planned | None = None, **changes):
    """Return a canvas as if it had been photographed without a flaw."""
    plan = plan or planned()
    lab = lab_of(rgb)
    every = np.ones(lab.shape[:2], bool)
    frame = Frame(np.eye(3), 0.0, (WIDTH, HEIGHT))
    squared = Squared(frame, (0, 1, 2, 3), "corners", 1.0, 0, 0.1)
    made = Seen(squared, rgb, lab, lab, every, ~every, every, 0.5, 1.0, PX, 1.0, "plan")
    return replace(made, **changes)


def changed(change, seed=2, *, whiskers=False):
    """Return a third hand's canvas with its CIELAB changed by `change(lab)`, as it is seen."""
    lab = lab_of(painted(seed, whiskers=whiskers)).copy()
    return seen_as(rgb_of(change(lab)), planned(whiskers=whiskers))


def best(found, rule):
    """Return the candidate of a rule that is farthest over its threshold."""
    return max((one for one in found if one.rule == rule), key=lambda one: one.times)


def spot(x, y, radius_mm, soft=4.0):
    """Return a round weight about a place of the canvas, (H, W, 1)."""
    v, u = np.mgrid[:HEIGHT, :WIDTH]
    away = np.hypot(u - x, v - y) / PX
    return np.clip((radius_mm + soft / 2 - away) / soft, 0, 1)[..., None]
