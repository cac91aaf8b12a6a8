"""What a photograph is compared with: the rehearsal of the passes done, by two hands, with its parts and eyes."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Bool, Labels, Points, Rgb8, frozen
from foxpath.core.errors import InputError
from foxpath.core.progress.small import lab_of

LEAST_PX = 200
"""A work picture smaller than this across shows nothing that could be judged."""


@dataclass(frozen=True, slots=True)
class PlannedEye:
    """An eye as planned, or another feature that stands at a place (nose, beak), in work px.

    Attributes
    ----------
    name, zone : str
        The zone it lies in, by id.
    x, y, rx, ry : float
        Middle and half axes of the iris, or of the feature.
    hour : float or None
        Where its catchlight stands on the clock, 0 to 12; None where the passes done set none.
    light : (x, y) or None
        The catchlight's middle.
    """

    name: str
    zone: str
    x: float
    y: float
    rx: float
    ry: float
    hour: float | None = None
    light: tuple[float, float] | None = None

    @property
    def radius(self) -> float:
        """The longer half axis."""
        return max(self.rx, self.ry)


@dataclass(frozen=True, slots=True)
class PlannedPart:
    """A part of the animal: id, name, kind of its surface, the animal it belongs to, and its hair's usual length, mm (0 for none)."""

    id: str
    name: str
    kind: str
    group: str = ""
    length_mm: float = 0.0
    hair: bool = False


@dataclass(frozen=True, slots=True)
class PlannedEdge:
    """A border between two parts, by their places in `Planned.parts` (-1 bare canvas): its planned width, mm, and its lines, (N, 2) work px."""

    front: int
    back: int
    width_mm: float
    runs: tuple[Points, ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class Planned:
    """What is compared with.

    Attributes
    ----------
    rgb, other : (H, W, 3) uint8 sRGB
        The rehearsal of the passes done, by one hand and by another.
    lab, other_lab : (H, W, 3) float32
    labels : (H, W) int16
        Place of the front-most part, -1 where there is none.
    parts : tuple of PlannedPart
    eyes : tuple of PlannedEye
    edges : tuple of PlannedEdge
    px_per_mm : float
    before : (H, W, 3) float32 or None
        CIELAB before single hairs (whiskers) were laid; None where none are.
    ground : (3,) float32 or None
        CIELAB of the bare ground.
    alone : (H, W) bool or None
        Where nothing is to be judged: left alone on purpose.
    """

    rgb: Rgb8
    other: Rgb8
    lab: F32
    other_lab: F32
    labels: Labels
    parts: tuple[PlannedPart, ...]
    eyes: tuple[PlannedEye, ...]
    edges: tuple[PlannedEdge, ...]
    px_per_mm: float
    before: F32 | None = None
    ground: F32 | None = None
    alone: Bool | None = None

    @property
    def size(self) -> tuple[int, int]:
        """Width and height, px."""
        return self.rgb.shape[1], self.rgb.shape[0]

    @property
    def width_mm(self) -> float:
        """Width of the canvas."""
        return float(self.rgb.shape[1] / self.px_per_mm)

    @property
    def height_mm(self) -> float:
        """Height of the canvas."""
        return float(self.rgb.shape[0] / self.px_per_mm)

    @property
    def diagonal_m(self) -> float:
        """The canvas's diagonal, metres."""
        return float(np.hypot(self.width_mm, self.height_mm)) / 1000


def planned_of(
    rgb: Rgb8,
    other: Rgb8 | None,
    labels: Labels,
    parts: Sequence[PlannedPart],
    px_per_mm: float,
    eyes: Sequence[PlannedEye] = (),
    edges: Sequence[PlannedEdge] = (),
    before: Rgb8 | None = None,
    ground: Rgb8 | None = None,
    alone: Bool | None = None,
) -> Planned:
    """Return what is compared with, its colours converted once.

    Parameters
    ----------
    rgb, other : (H, W, 3) uint8 sRGB
        The same passes by two hands; without another hand the first stands for both, and single marks are told too often.
    labels : (H, W) int16
    before : (H, W, 3) uint8
        As it stood before single hairs were laid.
    ground : (h, w, 3) uint8
        The bare ground.

    Raises
    ------
    InputError
        For a picture too small to be judged, or sizes that differ.
    """
    if min(rgb.shape[:2]) < LEAST_PX:
        raise InputError(
            f"The plan is only {rgb.shape[1]} × {rgb.shape[0]} px.", f"Rehearse it at {LEAST_PX} px across at least."
        )
    if labels.shape != rgb.shape[:2] or (other is not None and other.shape != rgb.shape):
        raise InputError("The plan's pictures differ in size.", "Rehearse them at one size.")
    lab = frozen(lab_of(rgb))
    return Planned(
        rgb, other if other is not None else rgb, lab, frozen(lab_of(other)) if other is not None else lab, labels,
        tuple(parts), tuple(eyes), tuple(edges), px_per_mm, frozen(lab_of(before)) if before is not None else None,
        np.median(lab_of(ground).reshape(-1, 3), axis=0).astype(np.float32) if ground is not None else None, alone,
    )  # fmt: skip
