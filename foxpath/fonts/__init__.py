"""The bundled typeface (open font licence, see OFL.txt), used by the window and by the sheets."""

from pathlib import Path
from typing import Literal

Weight = Literal["Regular", "Medium", "Semibold", "Bold"]
WEIGHTS: tuple[Weight, ...] = ("Regular", "Medium", "Semibold", "Bold")


def path(weight: Weight) -> Path:
    """Return the TrueType file of one weight."""
    return Path(__file__).with_name(f"Lato-{weight}.ttf")
