"""Square a photograph of the canvas up: one fit of a homography and a lens to the sides that are seen and to places of the picture.

The sides decide the frame; the picture's features find it and carry a side that is cut off. Features alone would swallow what the hand drew
elsewhere.
"""

from dataclasses import dataclass

import cv2
import numpy as np

from foxpath.core.arrays import F64, Points, Rgb8
from foxpath.core.progress.find import LEAST, agreement, first_guess
from foxpath.core.progress.frame import Frame, frame_from, through
from foxpath.core.progress.matches import Matches, Window, find_places
from foxpath.core.progress.planned import Planned
from foxpath.core.progress.sides import side_points
from foxpath.core.progress.small import lab_of

SIDE_MM, PLACE_MM = 0.4, 2.5
"""Spread of what a side and a place of the picture say: a canvas's side is straight, a hand drifts."""
ROUNDS_MM = (16.0, 8.0)
MOST_LENS, USUAL_LENS = 0.2, 0.025
SIDES_WITHIN_MM = (5.0, 1.5)
"""How far off a side may be: at first, and once the sides have been fitted."""
FITTED, LEAST_PLACES, LEAST_SIDES, MANY_PLACES = 0.5, 8, 2, 80
"""Agreement once it is fitted, and places or sides that must bear it: what has less was found by chance."""
SIDES = ("top", "right", "bottom", "left")


@dataclass(frozen=True, slots=True, eq=False)
class Squared:
    """How a photograph was squared up.

    Attributes
    ----------
    frame : Frame
    sides : tuple of int
        Sides that were seen: 0 top, 1 right, 2 bottom, 3 left.
    way : str
        "features", "outline" or "corners" (said by hand).
    agrees : float
        With the plan, under a squint, -1 to 1.
    places : int
        Places of the picture that were found.
    doubt_mm : float
        How far a corner may be off.
    """

    frame: Frame
    sides: tuple[int, ...]
    way: str
    agrees: float
    places: int
    doubt_mm: float


def by_hand(planned: Planned, photo: Rgb8, corners: Points) -> Squared:
    """Return a photograph squared up by four corners that were said. Raises `PictureError` for corners that are none."""
    width, height = planned.size
    frame = frame_from(corners, (photo.shape[1], photo.shape[0]), width, height)
    # A finger is as sure as two pixels of the photograph.
    agrees = agreement(planned.rgb, photo, frame.homography)
    return Squared(frame, (0, 1, 2, 3), "corners", agrees, 0, 2 / max(frame.scale, 1e-6) / planned.px_per_mm)


def square_up(planned: Planned, photo: Rgb8) -> Squared | None:
    """Return how a photograph lies on the canvas; None when the canvas is not found in it.

    Parameters
    ----------
    planned : Planned
    photo : (H, W, 3) uint8 sRGB
        Upright.
    """
    guess = first_guess(planned.rgb, photo)
    if guess is None or guess.agrees < LEAST:
        return None
    size = (photo.shape[1], photo.shape[0])
    homography = guess.homography
    for reach in ROUNDS_MM:
        matches = _places(planned, photo, Frame(homography, 0.0, size), reach)
        if len(matches) < 8:
            break
        here = (matches.at * planned.px_per_mm).astype(np.float32)
        there = ((matches.at + matches.shift) * planned.px_per_mm).astype(np.float32)
        cv2.setRNGSeed(7)
        better, _ = cv2.findHomography(there, here, cv2.USAC_MAGSAC, 3 * planned.px_per_mm)
        if better is not None:
            homography = better @ homography
    made = Frame(homography, 0.0, size)
    matches = _places(planned, photo, made, ROUNDS_MM[-1])
    places = made.to_photo((matches.at + matches.shift) * planned.px_per_mm) if len(matches) else np.zeros((0, 2))
    for spread in SIDES_WITHIN_MM:
        points, sides = side_points(photo, made, planned.size, planned.px_per_mm, spread)
        made = _fitted(planned, made, matches, places, points, sides)
    seen = tuple(sorted({int(s) for s in sides}))
    agrees = agreement(planned.rgb, photo, made.homography)
    if agrees < FITTED or (len(matches) < LEAST_PLACES and len(seen) < LEAST_SIDES):
        return None
    return Squared(made, seen, guess.way, agrees, len(matches), _doubt_mm(seen, len(matches)))


def _doubt_mm(seen: tuple[int, ...], places: int) -> float:
    """Return how far a corner may be off, mm: measured 95th percentiles by the sides that are seen; twice that on a picture with few features."""
    usual = (4.0, 2.5, 1.8, 1.2, 0.4)[len(seen)]
    return usual * (2 if places < MANY_PLACES and len(seen) < len(SIDES) else 1)


def _places(planned: Planned, photo: Rgb8, frame: Frame, reach: float) -> Matches:
    rgb, _ = frame.squared(photo, *planned.size)
    return find_places(planned.lab, lab_of(rgb), planned.px_per_mm, Window(40.0, 25.0, reach))


def _fitted(planned: Planned, frame: Frame, matches: Matches, places: Points, points: Points, sides: F64) -> Frame:
    """Fit a homography and a lens term, robustly (least squares with a soft L1)."""
    from scipy.optimize import least_squares

    width, height = planned.size
    mm = planned.px_per_mm
    target = matches.at * mm
    roots = _roots(matches)
    line = np.array([0.0, width, height, 0.0])[sides.astype(int)] if len(sides) else np.zeros(0)
    level = np.isin(sides, (0, 2))
    steps = np.array([[1e-2, 1e-2, width * 1e-2], [1e-2, 1e-2, width * 1e-2], [1e-2 / width, 1e-2 / width, 0.0]])

    def frame_of(v: F64) -> Frame:
        moved = np.eye(3) + np.append(v[:8], 0).reshape(3, 3) * steps
        return Frame(moved @ frame.homography, float(np.clip(v[8], -MOST_LENS, MOST_LENS)), frame.size)

    def off(v: F64) -> F64:
        one = frame_of(v)
        found = [v[8:9] / USUAL_LENS]
        if len(points):
            at = one.to_work(points)
            away = np.where(level, at[:, 1], at[:, 0]) - line
            found.append(away / mm / SIDE_MM / np.sqrt(len(points) / 100))
        if len(places):
            away = (one.to_work(places) - target) / mm
            told = np.einsum("nij,nj->ni", roots, away)
            found.append(np.clip(told, -9, 9).ravel() / PLACE_MM / np.sqrt(len(places) / 40))
        return np.concatenate(found)

    begin = np.append(np.zeros(8), frame.lens)
    best = least_squares(off, begin, loss="soft_l1", f_scale=1.0, max_nfev=60, x_scale=np.append(np.ones(8), 0.02))
    made = frame_of(best.x)
    corners = through(made.homography, np.array([[0.0, 0.0], [frame.size[0], frame.size[1]]]))
    return made if np.isfinite(corners).all() else frame


def _roots(matches: Matches) -> F64:
    """Return (N, 2, 2): the root of what each match knows, so that its squares add up to it."""
    if not len(matches):
        return np.zeros((0, 2, 2))
    usual = float(np.median(matches.knows[:, 0] + matches.knows[:, 2])) + 1e-9
    xx, xy, yy = matches.knows.T / usual
    full = np.stack([np.stack([xx, xy], -1), np.stack([xy, yy], -1)], -2) + 1e-6 * np.eye(2)
    return np.asarray(np.linalg.cholesky(full).transpose(0, 2, 1))
