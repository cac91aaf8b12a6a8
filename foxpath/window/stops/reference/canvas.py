"""The canvas: its size, the crop on it, the focal point, and how small a mark can be."""

from PySide6.QtWidgets import QWidget

from foxpath.core.errors import AppError
from foxpath.core.findings import Level
from foxpath.core.units import mm_words, parse_size
from foxpath.document import edits
from foxpath.document.model import Zone
from foxpath.window.bench.bench import column
from foxpath.window.bench.controls import Button, Field
from foxpath.window.bench.rows import Gestures, Judgement, Row, Rows, Words
from foxpath.window.stops.reference.fold import Fold

SIZES = (
    ("24x18cm", "24 × 18 cm", "small panel"),
    ("30x24cm", "30 × 24 cm", "small panel"),
    ("40x30cm", "40 × 30 cm", "panel"),
    ("50x40cm", "50 × 40 cm", "usual panel"),
    ("70x50cm", "70 × 50 cm", "large panel"),
    ("80x60cm", "80 × 60 cm", "large panel"),
    ("21x14.8cm", "21 × 14.8 cm", "A5"),
    ("29.7x21cm", "29.7 × 21 cm", "A4"),
    ("42x29.7cm", "42 × 29.7 cm", "A3"),
    ("59.4x42cm", "59.4 × 42 cm", "A2"),
    ("10x8in", "10 × 8 in", "small panel"),
    ("14x11in", "14 × 11 in", "panel"),
    ("20x16in", "20 × 16 in", "usual panel"),
    ("24x18in", "24 × 18 in", "large panel"),
)
"""Usual sizes, lying; the list shows them as the canvas stands."""


class CanvasFold(Fold):
    """Fit the picture to the canvas."""

    code, title, about = "canvas", "Canvas", "size, crop and focal point"
    crops = True

    def make_body(self) -> QWidget:
        self.name = Field("name of the painting")
        self.name.taken.connect(self._rename)
        self.size = Field("canvas size, width x height")
        self.size.taken.connect(self._resize)
        self.turn = Button("Turn portrait or landscape")
        self.turn.clicked.connect(self._turn)
        self.sizes = Rows("usual sizes")
        self.sizes.chosen.connect(self._resize)
        self.numbers = Rows("canvas fit")
        self.finest = Judgement()
        self.focal = Button("Focal point back to the eyes")
        self.focal.clicked.connect(self._reset_focal)
        return column(
            self.name,
            self.size,
            Words("width × height, cm or in, e.g. 50x40 cm", 12),
            self.turn,
            self.numbers,
            self.finest,
            self.focal,
            Gestures([("frame", "crop", "drag inside, or a corner"), ("outline", "focal point", "two clicks")]),
            Words("Usual sizes", 12),
            self.sizes,
        )

    def note(self) -> str:
        project = self.project
        return f"{project.canvas.words()} · {mm_words(project.mm_per_px)} a pixel"

    def refresh(self) -> None:
        project = self.project
        self.name.show_words(project.name)
        self.size.show_words(project.canvas.words())
        portrait = project.canvas.height_mm > project.canvas.width_mm
        self.sizes.set_rows(
            [Row(key, _turned(words, portrait=portrait), note) for key, words, note in SIZES], self._same_size()
        )
        k = project.mm_per_px
        levels = self.session.levels
        reduced = bool(levels) and levels[0].shape[1] < project.reference.width
        self.numbers.set_rows(
            [
                Row("px", "One pixel on the canvas", "", mm_words(k)),
                Row("crop", "Crop", "", f"{project.crop.width:.0f} × {project.crop.height:.0f} px"),
                Row("pic", "Picture", "", f"{project.reference.width} × {project.reference.height} px"),
                *(
                    [Row("work", "Worked on at", "", f"{levels[0].shape[1]} × {levels[0].shape[0]} px")]
                    if reduced
                    else []
                ),
                Row("fine", "Finest brush mark", mm_words(project.finest_mm), f"{project.finest_mm / k:.1f} px"),
            ],
            "",
        )
        self.finest.set_words(*self._finest_words())
        self.focal.setVisible(project.focal is not None)

    def _finest_words(self) -> tuple[Level, str, str]:
        """Say of the finest hair whether a brush can lay it on this canvas."""
        project = self.project

        def width_of(zone: Zone) -> float:
            return project.coat_of(zone).width_mm

        hairy = [zone for zone in project.zones if zone.kind_of().hair]
        if not hairy:
            pixels = project.finest_mm / project.mm_per_px
            return "", f"Your finest mark covers {pixels:.1f} px.", "what is smaller in the picture cannot be painted"
        zone = min(hairy, key=width_of)
        width = width_of(zone)
        says = f"One hair of the {zone.name.lower()} is {mm_words(width)}"
        if width < project.finest_mm:
            return (
                "look",
                f"{says}: below your finest brush.",
                f"a mark is at least {mm_words(project.finest_mm)} · paint tufts there, or take a larger canvas",
            )
        return "", f"{says}: a brush can lay it.", f"a mark is at least {mm_words(project.finest_mm)}"

    def _same_size(self) -> str:
        canvas = self.project.canvas
        long, short = max(canvas.width_mm, canvas.height_mm), min(canvas.width_mm, canvas.height_mm)
        for key, _, _ in SIZES:
            size = parse_size(key)
            if abs(size.width_mm - long) < 0.05 and abs(size.height_mm - short) < 0.05 and size.unit == canvas.unit:
                return key
        return ""

    def _rename(self, words: str) -> None:
        self.edit(lambda p: edits.rename(p, words), "rename the painting")

    def _resize(self, words: str) -> None:
        project = self.project
        try:
            canvas = parse_size(words)
        except AppError as failure:
            self.session.said.emit(str(failure), "must")
            self.size.setText(project.canvas.words())
            return
        if words in {key for key, _, _ in SIZES} and project.canvas.height_mm > project.canvas.width_mm:
            canvas = type(canvas)(canvas.height_mm, canvas.width_mm, canvas.unit)
        self.edit(lambda p: edits.set_canvas(p, canvas), f"canvas {canvas.words()}")

    def _turn(self) -> None:
        canvas = self.project.canvas
        turned = type(canvas)(canvas.height_mm, canvas.width_mm, canvas.unit)
        self.edit(lambda p: edits.set_canvas(p, turned), "turn the canvas")

    def _reset_focal(self) -> None:
        self.edit(lambda p: edits.set_focal(p, None), "focal point back to the eyes")


def _turned(words: str, *, portrait: bool) -> str:
    """Write a lying size as it stands."""
    if not portrait:
        return words
    first, rest = words.split(" × ")
    second, unit = rest.split(" ")
    return f"{second} × {first} {unit}"
