"""Seeing the reference: decoded, halved, and through the aids; what is on the screen, at the screen's own size."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, Lab, Rgb8, frozen
from foxpath.core.colour import lab_from_linear
from foxpath.core.frame import Crop
from foxpath.core.reference.correction import spot_linear
from foxpath.core.reference.falloff import Falloff, faded, middle_of
from foxpath.core.reference.squint import acuity_blur_px, even_cuts, greys, lightness_of, poster, squint
from foxpath.core.reporting import Progress
from foxpath.derive.pictures import picture_of, working_picture
from foxpath.derive.results import Results
from foxpath.document.model import Project, Reference

Point = tuple[float, float]


LENT_PIXELS = 3000
"""Longer side at which further pictures are shown at most."""


def halves(rgb: Rgb8) -> list[Rgb8]:
    """Return a picture and its halves down to 900 pixels, largest first: the levels it is shown from."""
    import cv2

    levels = [rgb]
    while max(levels[-1].shape[:2]) > 900:
        height, width = levels[-1].shape[:2]
        size = (max(1, width // 2), max(1, height // 2))
        levels.append(frozen(np.asarray(cv2.resize(levels[-1], size, interpolation=cv2.INTER_AREA), np.uint8)))
    return levels


@dataclass(frozen=True, slots=True)
class Decode:
    """Bring a project's reference to the screen: decoded, composed, corrected, and halved until it is small."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> list[Rgb8]:
        """Return the picture and its halves, largest first."""
        progress.at(0.1, "opening the picture")
        rgb = working_picture(self.results, self.project).rgb
        progress.at(0.6, "opening the picture")
        return halves(rgb)


@dataclass(frozen=True, slots=True)
class DecodeLent:
    """Bring a further picture of the shelf to the screen."""

    results: Results
    reference: Reference

    def __call__(self, progress: Progress) -> tuple[str, list[Rgb8]]:
        """Return the picture's digest, and the picture with its halves, largest first."""
        progress.at(0.1, f"opening {self.reference.name}")
        levels = halves(picture_of(self.results, self.reference).rgb)
        # A shelf may hold many: beside and over the main picture the screen's own size is enough.
        return self.reference.digest, [v for v in levels if max(v.shape[:2]) <= LENT_PIXELS] or levels[-1:]


@dataclass(frozen=True, slots=True, eq=False)
class Aids:
    """What the picture is seen through.

    Attributes
    ----------
    kinds : frozenset
        Of "falloff", "squint", "greys", "poster"; together they are applied in this order.
    distance_m : float
        From where it is squinted at.
    cuts : tuple of float
        L* thresholds of the poster.
    falloff : Falloff
    mm_per_px : float
        Millimetres on the canvas for one reference pixel.
    """

    kinds: frozenset[str]
    distance_m: float
    cuts: tuple[float, ...]
    falloff: Falloff
    mm_per_px: float

    @property
    def reach_px(self) -> float:
        """How far beyond a place what is seen there depends on the picture, reference pixels."""
        reach = self.falloff.reach_px if "falloff" in self.kinds else 0.0
        if "squint" in self.kinds:
            reach = max(reach, 2 * acuity_blur_px(self.distance_m, 1 / self.mm_per_px))
        return reach

    def applied(self, rgb: Rgb8, part: Crop) -> Rgb8:
        """Return a picture that shows `part` of the reference as seen through the aids."""
        if "falloff" in self.kinds:
            rgb = faded(rgb, part, self.falloff)
        if "squint" in self.kinds:
            rgb = squint(rgb, acuity_blur_px(self.distance_m, rgb.shape[1] / part.width / self.mm_per_px))
        if "poster" in self.kinds:
            return poster(rgb, self.cuts)
        return greys(rgb) if "greys" in self.kinds else rgb


def aids_of(project: Project, kinds: frozenset[str], smallest: Rgb8) -> Aids:
    """Return the aids as a project sets them; `smallest` gives the poster's even cuts and the picture's middle."""
    seeing, cuts = project.seeing, project.seeing.cuts
    if "poster" in kinds and len(cuts) != seeing.steps - 1:
        cuts = even_cuts(lightness_of(smallest), seeing.steps)
    middle = middle_of(smallest) if "falloff" in kinds else 0.18
    diagonal = float(np.hypot(project.crop.width, project.crop.height))
    falloff = Falloff(project.focal_point, diagonal, seeing.falloff, middle)
    return Aids(kinds, seeing.distance_m, cuts, falloff, project.mm_per_px)


@dataclass(frozen=True, slots=True, eq=False)
class Look:
    """See part of a picture through the aids, at the size it has on the screen.

    Attributes
    ----------
    levels : sequence of (H, W, 3) uint8
        Each shows `whole`; largest first.
    whole, part : Crop
        Reference pixels.
    px_per_px : float
        Screen pixels for one reference pixel.
    project : Project
        Says how the aids are set.
    kinds : frozenset of str
        See `Aids`.
    """

    levels: Sequence[Rgb8]
    whole: Crop
    part: Crop
    px_per_px: float
    project: Project
    kinds: frozenset[str]

    def __call__(self, progress: Progress) -> tuple[Crop, Rgb8]:
        """Return what is shown and its picture."""
        import cv2

        progress.at(0.1, "looking again")
        aids = aids_of(self.project, self.kinds, self.levels[-1])
        wanted = self.px_per_px * self.whole.width
        level = next((v for v in reversed(self.levels) if v.shape[1] >= wanted), self.levels[0])
        k = level.shape[1] / self.whole.width
        part, reach = self.part, min(aids.reach_px, 0.25 * max(self.part.width, self.part.height))
        x0 = max(0, int((part.x - reach - self.whole.x) * k))
        y0 = max(0, int((part.y - reach - self.whole.y) * k))
        x1 = min(level.shape[1], int(np.ceil((part.x + part.width + reach - self.whole.x) * k)) + 1)
        y1 = min(level.shape[0], int(np.ceil((part.y + part.height + reach - self.whole.y) * k)) + 1)
        if x1 <= x0 or y1 <= y0:
            x0, y0, x1, y1 = 0, 0, level.shape[1], level.shape[0]
        shown = Crop(self.whole.x + x0 / k, self.whole.y + y0 / k, (x1 - x0) / k, (y1 - y0) / k)
        rgb = level[y0:y1, x0:x1]
        scale = self.px_per_px / k
        if scale < 0.9:
            size = (max(1, round(rgb.shape[1] * scale)), max(1, round(rgb.shape[0] * scale)))
            rgb = np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
        return shown, aids.applied(np.ascontiguousarray(rgb), shown)


def spot_lab(rgb: Rgb8, at: Point, radius_px: float, scale: float) -> Lab:
    """Return the (3,) CIELAB mean of a disc; `at` and radius in reference pixels, `scale` pixels of `rgb` for one."""
    return lab_from_linear(spot_linear(rgb, (at[0] * scale, at[1] * scale), radius_px * scale))


def spots_lab(levels: Sequence[Rgb8], project: Project) -> list[F32 | None]:
    """Return the colour of every spot of the chain; None for one off the picture."""
    read: list[F32 | None] = []
    scale = levels[0].shape[1] / project.reference.width
    for at in project.spots:
        try:
            read.append(spot_lab(levels[0], at, project.spot_mm / project.mm_per_px, scale))
        except ValueError:
            read.append(None)
    return read
