"""Where a grid lies over the reference, and how large its cells are on the canvas."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Points


@dataclass(frozen=True, slots=True)
class Crop:
    """The part of the reference that becomes the canvas, in reference pixels (x right, y down)."""

    x: float
    y: float
    width: float
    height: float

    def largest_with(self, aspect: float) -> "Crop":
        """Return the largest crop of this aspect (width over height) centred in this one."""
        width = min(self.width, self.height * aspect)
        height = width / aspect
        return Crop(self.x + (self.width - width) / 2, self.y + (self.height - height) / 2, width, height)


@dataclass(frozen=True, slots=True)
class Frame:
    """A grid over a crop.

    Attributes
    ----------
    crop : Crop
        What the grid covers.
    columns, rows : int
    mm_per_px : float
        Millimetres on the canvas for one reference pixel.

    Notes
    -----
    The centre of cell (row i, column j) lies at ``crop.x + (j + 0.5) * cell_px`` and likewise for y.
    """

    crop: Crop
    columns: int
    rows: int
    mm_per_px: float

    @classmethod
    def over(cls, crop: Crop, mm_per_px: float, long_side: int) -> "Frame":
        """Return the grid over `crop` whose longer side has `long_side` cells."""
        scale = long_side / max(crop.width, crop.height)
        columns, rows = max(1, round(crop.width * scale)), max(1, round(crop.height * scale))
        return cls(crop, columns, rows, mm_per_px)

    @property
    def cell_px(self) -> float:
        """Side of a cell in reference pixels."""
        return self.crop.width / self.columns

    @property
    def cell_mm(self) -> float:
        """Side of a cell in millimetres on the canvas."""
        return self.cell_px * self.mm_per_px

    @property
    def shape(self) -> tuple[int, int]:
        """Rows and columns."""
        return self.rows, self.columns

    def to_grid(self, points_px: Points) -> Points:
        """Map (N, 2) reference pixels to grid units, in which cell j spans j to j + 1."""
        return (points_px - (self.crop.x, self.crop.y)) * (self.columns / self.crop.width, self.rows / self.crop.height)

    def to_px(self, points_grid: Points) -> Points:
        """Map (N, 2) grid units to reference pixels."""
        scale = (self.crop.width / self.columns, self.crop.height / self.rows)
        return np.asarray(points_grid * scale + (self.crop.x, self.crop.y))

    def to_mm(self, points_px: Points) -> Points:
        """Map (N, 2) reference pixels to millimetres on the canvas, from its top left corner."""
        return np.asarray((points_px - (self.crop.x, self.crop.y)) * self.mm_per_px)
