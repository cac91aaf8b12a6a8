"""The map as SVG: one group a layer, lengths in millimetres on the canvas, so that any drawing program can go on with it."""

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from xml.sax.saxutils import escape, quoteattr

from foxpath.core.arrays import F32, Points
from foxpath.core.units import CanvasSize
from foxpath.sheets.pictures import write_file


@dataclass(frozen=True, slots=True, eq=False)
class Shape:
    """A line, an area or a word of a layer.

    Attributes
    ----------
    points : (N, 2) float
        mm on the canvas; one point for words.
    width_mm : float
        Of the line; 0 for an area that is filled.
    title : str
        What it is, as the reader of the file sees it.
    closed : bool
    dash : tuple of float
        mm.
    strength : float
        Opacity, 0 to 1.
    words : str
        Written at its one point.
    """

    points: Points | F32
    width_mm: float = 0.3
    title: str = ""
    closed: bool = False
    dash: tuple[float, ...] = ()
    strength: float = 1.0
    words: str = ""


@dataclass(frozen=True, slots=True, eq=False)
class Layer:
    """A layer: its id in the file, its name, its shapes."""

    key: str
    name: str
    shapes: tuple[Shape, ...]


def svg_of_layers(title: str, canvas: CanvasSize, layers: Sequence[Layer]) -> str:
    """Return the SVG of layers, one unit a millimetre."""
    w, h = canvas.width_mm, canvas.height_mm
    parts = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{w:g}mm" height="{h:g}mm" viewBox="0 0 {w:g} {h:g}">',
        f"<title>{escape(title)}</title>",
    ]
    for layer in layers:
        parts.append(f'<g id={quoteattr(layer.key)} fill="none" stroke="#1E1E1E" stroke-linecap="butt">')
        parts.append(f"<title>{escape(layer.name)}</title>")
        parts += [_drawn(shape) for shape in layer.shapes]
        parts.append("</g>")
    return "\n".join([*parts, "</svg>", ""])


def _drawn(shape: Shape) -> str:
    told = f"<title>{escape(shape.title)}</title>" if shape.title else ""
    if shape.words:
        x, y = shape.points[0]
        return (
            f'<text x="{x:.2f}" y="{y:.2f}" font-size="5" text-anchor="middle" fill="#1E1E1E" stroke="none">'
            f"{escape(shape.words)}{told}</text>"
        )
    path = "M" + " L".join(f"{x:.2f},{y:.2f}" for x, y in shape.points) + (" Z" if shape.closed else "")
    look = f'stroke-width="{shape.width_mm:.3g}"' if shape.width_mm > 0 else 'fill="#1E1E1E" stroke="none"'
    if shape.dash:
        look += f' stroke-dasharray="{" ".join(f"{d:g}" for d in shape.dash)}"'
    if shape.strength < 1:
        look += f' opacity="{shape.strength:g}"'
    return f'<path d="{path}" {look}>{told}</path>' if told else f'<path d="{path}" {look}/>'


def write_layers(title: str, canvas: CanvasSize, layers: Sequence[Layer], path: Path) -> None:
    """Write the SVG. Raises `AppError` when the file cannot be written."""
    write_file(path, svg_of_layers(title, canvas, layers).encode())
