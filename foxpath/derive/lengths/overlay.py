"""The growth drawn for a view of the picture."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import F32, F64, U8
from foxpath.core.growth import (
    HairGlyphs,
    ZoneField,
    draw_combs,
    draw_doubt,
    draw_glyphs,
    place_glyphs,
    place_streams,
    to_rgba8,
)
from foxpath.core.reporting import Progress
from foxpath.core.zones import Coat, fill
from foxpath.derive.growth.fields import growth_key, growth_of
from foxpath.derive.lengths.field import varied_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import growing
from foxpath.document.model import Pairs, Project, as_array


@dataclass(frozen=True, slots=True, eq=False)
class GrowthOverlay:
    """Draw the growth for a view of the picture.

    Attributes
    ----------
    affine : (2, 3) float64
        Reference pixels to pixels of the overlay.
    width, height : int
    gap_px : float
        Space between hairs on the screen.
    doubt : bool
        Hatch what is unsure.
    strength : float
    combs : tuple
        Points of the combs drawn as resting.
    streams : bool
        Long lines that show the flow, in place of hairs.
    """

    results: Results
    project: Project
    affine: F64
    width: int
    height: int
    gap_px: float = 12.0
    doubt: bool = True
    strength: float = 1.0
    combs: tuple[Pairs, ...] = ()
    streams: bool = False

    def __call__(self, progress: Progress) -> U8:
        """Return the (height, width, 4) uint8 premultiplied overlay."""
        results, project = self.results, self.project
        scale = float(np.sqrt(abs(np.linalg.det(self.affine[:, :2]))))
        # Steps of the square root of two: hairs are added on zooming in, and not at every pixel of it.
        px_per_mm = 2 ** (round(2 * np.log2(scale / project.mm_per_px)) / 2)
        gap_mm = round(float(self.gap_px / px_per_mm), 4)
        groups: list[HairGlyphs] = []
        fields: list[ZoneField] = []
        zones = growing(project)
        for number, (index, zone) in enumerate(zones):
            progress.at(number / len(zones), f"filling growth, {zone.name.lower()}")
            field = growth_of(results, project, index, progress)
            if field is None:
                continue
            fields.append(field)
            coat = project.coat_of(zone)
            varied_key, varied = varied_of(results, project, index, progress)
            key = (
                "glyphs",
                growth_key(results, project, index, field.frame),
                coat,
                gap_mm,
                index,
                self.streams,
                varied_key,
            )
            groups.append(
                results.memo.get(
                    key,
                    lambda field=field, coat=coat, index=index, varied=varied: self._placed(
                        field, coat, gap_mm, index, varied
                    ),  # type: ignore[misc]
                )
            )
        image = np.zeros((self.height, self.width, 4), np.float32)
        if self.doubt:
            draw_doubt(image, fields, self.affine)
        progress.at(0.9)
        draw_glyphs(image, groups, self.affine, self.strength)
        self._clear_features(image)
        draw_combs(image, [as_array(points) for points in self.combs], self.affine)
        return to_rgba8(image)

    def _placed(self, field: ZoneField, coat: Coat, gap_mm: float, index: int, varied: F32 | None) -> HairGlyphs:
        if self.streams:
            longest = 0.16 * max(self.project.canvas.width_mm, self.project.canvas.height_mm)
            return place_streams(field, gap_mm, longest, 0.12 * gap_mm, index)
        return place_glyphs(field, coat, gap_mm, index, varied)

    def _clear_features(self, image: F32) -> None:
        """Take hairs off eyes, noses and horn: what has no hair is never drawn over."""
        for zone in self.project.zones:
            if zone.whole or zone.kind not in {"eye", "skin", "horn"}:
                continue
            at = zone.shape.outline() @ self.affine[:, :2].T + self.affine[:, 2]
            x0, y0 = np.maximum(np.floor(at.min(axis=0)).astype(int), 0)
            x1, y1 = np.minimum(np.ceil(at.max(axis=0)).astype(int), (self.width, self.height))
            if x1 > x0 and y1 > y0:
                image[y0:y1, x0:x1][fill(at - (x0, y0), (int(y1 - y0), int(x1 - x0)))] = 0
