"""Growth that is turned, places that are too smooth, and lights: read from the detail of hair."""

import cv2
import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.seen import Seen
from foxpath.core.progress.sight import spot_seen_m
from foxpath.core.progress.small import blur, blurred_within, grown, resized, shrunk

MOST_PX = 4.0
LOW_MM, HIGH_MM, OVER_MM = 0.4, 1.8, 4.5
BORDER_MM, PART_MM = 12, 4.0
COHERENT, COHERENT_OVER = 0.2, 0.3
TURN_FROM, SMOOTH_FROM = 10.0, 0.5
AREA_MM2 = 150.0
PLACES, APART_MM = 3, 30.0
LEAST_ENERGY = 0.6
NOISE_ENERGY = 0.15
LIGHT_OVER_L, LIGHT_SHARE, LIGHT_PX_MM = 3.0, 98, 6.0
LIGHT_LEAST_MM2 = 400.0
LINES_DE, LINES_MM, LIGHT_RIM_MM = 6.0, 5.0, 2.5
LIGHT_NEAR_MM, LIGHT_USUAL = 9.0, 0.03
"""Lights are counted within about so many mm; and the share that two hands have by chance."""


def _tensor(light: F32, px: float, size: tuple[int, int]) -> F32:
    """Return (h, w, 4): double-angle tensor, its trace, and the energy of the band of hair, averaged over a few mm; one cell a mm."""
    fine = blur(light, LOW_MM * px) - blur(light, HIGH_MM * px)
    gx, gy = cv2.Sobel(fine, cv2.CV_32F, 1, 0), cv2.Sobel(fine, cv2.CV_32F, 0, 1)
    made = np.dstack([gx * gx - gy * gy, 2 * gx * gy, gx * gx + gy * gy, fine * fine])
    # A whisker or a glint does not outvote the coat round it.
    made = np.minimum(made, np.float32(np.percentile(made[..., 2], 99.5)))
    return blur(cv2.resize(made, size, interpolation=cv2.INTER_AREA), OVER_MM)


def _turn(a: F32, b: F32) -> F32:
    """Return the angle between two axes, degrees, 0 to 90."""
    cross = b[..., 1] * a[..., 0] - b[..., 0] * a[..., 1]
    return np.asarray(
        np.abs(np.degrees(0.5 * np.arctan2(cross, a[..., 0] * b[..., 0] + a[..., 1] * b[..., 1]))), np.float32
    )


def grain(planned: Planned, seen: Seen) -> list[Candidate]:
    """Return places whose hair runs another way, and places that are too smooth."""
    px = min(planned.px_per_mm, MOST_PX)
    scale = px / planned.px_per_mm
    rows, columns = max(8, round(planned.height_mm)), max(8, round(planned.width_mm))
    use = cv2.resize(seen.use.astype(np.float32), (columns, rows), interpolation=cv2.INTER_AREA) > 0.95
    labels = cv2.resize(planned.labels, (columns, rows), interpolation=cv2.INTER_NEAREST)
    a, b, canvas = (
        _tensor(np.ascontiguousarray(resized(lab, scale)[..., 0]), px, (columns, rows))
        for lab in (planned.lab, planned.other_lab, seen.fine)
    )
    hair = np.isin(labels, [k for k, part in enumerate(planned.parts) if part.hair and part.kind != "whisker"])
    inner = np.zeros(labels.shape, bool)
    for k in np.unique(labels[hair]):
        inner |= shrunk(labels == k, PART_MM) > 0
    inner[:BORDER_MM] = inner[-BORDER_MM:] = False
    inner[:, :BORDER_MM] = inner[:, -BORDER_MM:] = False
    use = use & inner & hair
    if not use.any():
        return []
    coherent = [np.hypot(t[..., 0], t[..., 1]) / (t[..., 2] + 1e-3) for t in (a, b, canvas)]
    off = np.maximum(_turn(a + b, canvas) - _turn(a, b), 0)
    weight = np.where(use, np.clip((np.minimum.reduce(coherent) - COHERENT) / COHERENT_OVER, 0, 1), 0).astype(
        np.float32
    )
    turned = blur(off * weight, 3) / (blur(weight, 3) + 0.15)
    ratio = np.log((np.minimum(a, b)[..., 3] + NOISE_ENERGY) / (canvas[..., 3] + NOISE_ENERGY))
    ratio = np.where(use, ratio - np.median(ratio[use]), -9)
    smooth = np.where(a[..., 3] > LEAST_ENERGY, ratio, -9)
    found = []
    y, x = np.mgrid[:rows, :columns]
    kx, ky = planned.size[0] / columns, planned.size[1] / rows
    for kind, value, least, unit in (
        ("growth", np.where(use, turned, -9), TURN_FROM, "deg"),
        ("smooth", smooth, SMOOTH_FROM, "%"),
    ):
        value = value.copy()  # noqa: PLW2901  (what was found is struck out)
        for _ in range(PLACES):
            i, j = np.unravel_index(int(np.argmax(value)), value.shape)
            if value[i, j] < least:
                break
            near = np.hypot(y - i, x - j) < APART_MM
            area = float(((value > 0.6 * value[i, j]) & near).sum())
            spread = float(np.sqrt(a[i, j, 3]))
            size = float(value[i, j]) if kind == "growth" else 100 * float(np.exp(-value[i, j]))
            found.append(
                Candidate(
                    kind, kind, float(value[i, j]) * min(1.0, float(np.sqrt(area / AREA_MM2))), (j + 0.5) * kx, (i + 0.5) * ky, size, unit,
                    spot_seen_m(2.0, 3 * spread), int(labels[i, j]), radius_mm=float(np.sqrt(area / np.pi)), doubt=6.0 if kind == "growth" else 15.0,
                )
            )  # fmt: skip
            value[near] = -9
    return found


def lights(planned: Planned, seen: Seen) -> list[Candidate]:
    """Return parts with more lights than planned: what is lighter than nearly all of the part is planned, beyond what either hand has."""
    px = min(planned.px_per_mm, MOST_PX)
    scale = px / planned.px_per_mm
    a, b, canvas = (
        blur(np.ascontiguousarray(resized(lab, scale)[..., 0]), 0.3 * px)
        for lab in (planned.lab, planned.other_lab, seen.fine)
    )
    wide = LIGHT_PX_MM * px
    # What a patch is lighter by is a mass, and not many lights.
    rest = [one - blur(one, wide) for one in (a, b, canvas)]
    good = resized(seen.use.astype(np.float32), scale) > 0.9
    if planned.before is not None:
        # A whisker beside its place is no light too many.
        lines = (np.abs(planned.lab - planned.before).sum(axis=-1) > LINES_DE).astype(np.float32)
        good = good & (grown(resized(lines, scale) > 0.2, LINES_MM * px) == 0)
    labels = cv2.resize(planned.labels, a.shape[::-1], interpolation=cv2.INTER_NEAREST)
    found = []
    to_work = planned.px_per_mm / px
    for k, part in enumerate(planned.parts):
        if part.kind in ("eye", "whisker", "background"):
            continue
        mine = (shrunk(labels == k, LIGHT_RIM_MM * px) > 0) & good
        if mine.sum() < LIGHT_LEAST_MM2 * px * px:
            continue
        over = float(np.percentile(rest[0][mine], LIGHT_SHARE)) + LIGHT_OVER_L
        weight = mine.astype(np.float32)
        shares = [blurred_within((one > over).astype(np.float32), weight, LIGHT_NEAR_MM * px) for one in rest]
        more = np.where(mine & (blur(weight, LIGHT_NEAR_MM * px) > 0.3), shares[2] - np.maximum(*shares[:2]), -1)
        i, j = np.unravel_index(int(np.argmax(more)), more.shape)
        told, usual = float(more[i, j]), float(max(shares[0][i, j], shares[1][i, j]))
        found.append(
            Candidate(
                "lights", "lights", told / float(np.hypot(1, usual / LIGHT_USUAL)), float(j) * to_work, float(i) * to_work, 100 * told, "%",
                spot_seen_m(2.0, 10.0), k, radius_mm=LIGHT_NEAR_MM, doubt=1.0, planned=100 * usual,
            )
        )  # fmt: skip
    return found
