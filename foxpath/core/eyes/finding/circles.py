"""Where an iris may be: circles whose colour steps the same way across two opposite arcs, about a dark place."""

import numpy as np

from foxpath.core.arrays import F64, Lab, Points
from foxpath.core.eyes.finding.window import ANGLES, read_lab


def best_circle(lab: Lab, click: tuple[float, float], radii: F64) -> tuple[float, tuple[float, float, float]]:
    """Return the score and (x, y, r) of the best circle of some radii about a click in a window."""
    import cv2

    soft = np.asarray(cv2.GaussianBlur(lab, (0, 0), 2.0), np.float32)
    turn = np.linspace(0, 2 * np.pi, ANGLES, endpoint=False)
    cos, sin = np.cos(turn), np.sin(turn)
    best: tuple[float, tuple[float, float, float]] | None = None
    for step, reach in ((8.0, 3), (3.0, 2), (1.0, 2)):
        middle = click if best is None else best[1][:2]
        shifts = np.arange(-reach, reach + 1) * step
        near = radii if step > 4 else np.linspace(0.9, 1.1, 9) * best[1][2]  # type: ignore[index]
        centres = np.array([(middle[0] + dx, middle[1] + dy) for dy in shifts for dx in shifts])
        shells = np.sort(np.concatenate([near * 0.94, near, near * 1.06]))
        order = {float(r): k for k, r in enumerate(shells)}
        x = centres[:, 0, None, None] + shells[:, None] * cos
        y = centres[:, 1, None, None] + shells[:, None] * sin
        read = read_lab(soft, x.reshape(len(centres), -1), y.reshape(len(centres), -1)).reshape(*x.shape, 3)
        score = np.full((len(centres), len(near)), -1.0)
        for k, r in enumerate(near):
            out, within = read[:, order[float(r * 1.06)]], read[:, order[float(r * 0.94)]]
            score[:, k] = _arcs(out - within)
        # The click lies in the pupil: not far out in the iris.
        off = np.hypot(*(centres - click).T)
        score -= 12.0 * np.clip(off[:, None] / near[None] - 0.25, 0, None)
        pupil = _pupil_apart(soft, click, centres, near)
        total = score + 0.12 * pupil
        total[pupil < 4] -= 4.0
        i, j = np.unravel_index(int(np.argmax(total)), total.shape)
        best = float(total[i, j]), (float(centres[i, 0]), float(centres[i, 1]), float(near[j]))
    assert best is not None
    return best


def _arcs(step: Lab) -> F64:
    """Return how well colour steps the same way across a rim, judged by the best pair of opposite arcs: (N,), 0 to 20.

    `step` is (N, angles, 3): outside minus inside.
    """
    count = step.shape[1]
    wide = count // 5
    size = np.linalg.norm(step, axis=2)
    # Means over an arc that begins at each angle, round and round.
    wrapped = np.concatenate([step, size[..., None]], axis=2)
    wrapped = np.concatenate([np.zeros_like(wrapped[:, :1]), wrapped, wrapped[:, :wide]], axis=1)
    run = np.cumsum(wrapped, axis=1, dtype=np.float64)
    means = (run[:, wide : wide + count] - run[:, :count]) / wide
    mean, spread = means[..., :3], means[..., 3]
    long = np.linalg.norm(mean, axis=2)
    # What varies along an arc is texture or a border that is no circle.
    clear = np.maximum(1.5 * long - 0.5 * spread, 0)
    other = np.roll(mean, count // 2, axis=1)
    both = np.einsum("nak,nak->na", mean, other) / (long * np.roll(long, count // 2, axis=1) + 1e-6)
    pair = np.minimum(clear, np.roll(clear, count // 2, axis=1)) * (0.6 + 0.4 * both)
    # Lids lie above and below more often than at the sides.
    middle = 2 * np.pi * (np.arange(count) + wide / 2) / count
    pair = pair * (0.4 + 0.6 * np.cos(middle) ** 2)
    at = pair.argmax(axis=1)
    rows = np.arange(len(step))
    best = np.maximum(pair[rows, at], 0)
    kind = 0.5 * (mean[rows, at] + other[rows, at])
    length = np.linalg.norm(kind, axis=1) + 1e-6
    along = np.einsum("nak,nk->na", step, kind / length[:, None])
    agree = ((along > 0.45 * length[:, None]) & (along > 0.75 * size)).mean(axis=1)
    # A rim that is faint but runs all round beats a strong border that is round only in part.
    return np.asarray(20 * best / (best + 6) * agree, np.float64)


def _pupil_apart(lab: Lab, click: tuple[float, float], centres: Points, radii: F64) -> F64:
    """Return by how much the clicked place is darker than the ring inside each circle, (N, R), L*, at most 30."""
    turn = np.linspace(0, 2 * np.pi, 24, endpoint=False)
    x0, y0 = click
    around = np.array([(x0 + dx, y0 + dy) for dx in (-3, 0, 3) for dy in (-3, 0, 3)])
    own = float(np.percentile(read_lab(lab, around[:, 0][None], around[:, 1][None])[..., 0], 25))
    shells = np.concatenate([0.7 * radii, 0.86 * radii])
    x = centres[:, 0, None, None] + shells[:, None] * np.cos(turn)
    y = centres[:, 1, None, None] + shells[:, None] * np.sin(turn)
    light = read_lab(lab, x.reshape(len(centres), -1), y.reshape(len(centres), -1))[..., 0].reshape(x.shape)
    # The lighter half: lids and their shadow may be as dark as the pupil.
    upper = np.percentile(light, 65, axis=2)
    return np.asarray(np.clip(np.minimum(upper[:, : len(radii)], upper[:, len(radii) :]) - own, 0, 30), np.float64)
