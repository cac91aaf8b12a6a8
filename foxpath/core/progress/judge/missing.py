"""Forgotten things: single hairs (whiskers) that were planned and are not there."""

import cv2
import numpy as np

from foxpath.core.arrays import F32
from foxpath.core.progress.judge.candidates import Candidate
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.seen import Seen
from foxpath.core.progress.sight import spot_seen_m
from foxpath.core.progress.small import blur, disc, grown

ADDS_DE, ABOUT_MM, COAT_MM, APART_MM = 6.0, 3.0, 20.0, 2.0
HAIR_MM, BLUR_MM = 1.1, 0.25
LEAST_PX, LEAST_SEEN = 100, 0.5


def missing(planned: Planned, seen: Seen) -> list[Candidate]:
    """Return whiskers that are missing: what the canvas has of the thin lines that they add, as a share, corrected by how sharp it is."""
    if planned.before is None:
        return []
    mm = planned.px_per_mm
    adds = np.abs(planned.lab - planned.before).sum(axis=-1) > ADDS_DE
    core = grown(adds, ABOUT_MM * mm) > 0
    there = core & seen.use
    near = (grown(core, COAT_MM * mm) > 0) & ~(grown(core, APART_MM * mm) > 0) & seen.use & (planned.labels >= 0)
    if there.sum() < LEAST_PX or near.sum() < LEAST_PX or there.sum() < LEAST_SEEN * core.sum():
        return []
    kernel = disc(HAIR_MM * mm)

    def lines(light: F32) -> tuple[float, float]:
        fine = blur(np.ascontiguousarray(light), BLUR_MM * mm)
        both = cv2.morphologyEx(fine, cv2.MORPH_TOPHAT, kernel) + cv2.morphologyEx(fine, cv2.MORPH_BLACKHAT, kernel)
        return float(both[there].mean()), float(both[near].mean())

    plan, before, canvas = (lines(lab[..., 0]) for lab in (planned.lab, planned.before, seen.stiff))
    # Coat near them says how sharp the photograph is: without that a soft one would lack its whiskers.
    share = (canvas[0] * before[1] / max(canvas[1], 1e-6) - before[0]) / max(plan[0] - before[0], 1e-3)
    ys, xs = np.nonzero(adds)
    part = next((k for k, one in enumerate(planned.parts) if one.kind == "whisker"), -1)
    return [
        Candidate(
            "missing", "missing", 1 - share, float(xs.mean()), float(ys.mean()), 100 * max(share, 0.0), "%", spot_seen_m(4.0, 12.0), part,
            radius_mm=float(np.ptp(xs)) / mm / 2, doubt=20.0,
        )
    ]  # fmt: skip
