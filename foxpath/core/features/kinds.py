"""Kinds of features, the parts they are marked by, and how each part is painted."""

from dataclasses import dataclass, field

import numpy as np

from foxpath.core.arrays import F64, Points

Pairs = tuple[tuple[float, float], ...]


@dataclass(frozen=True, slots=True)
class Part:
    """A part of a feature.

    Attributes
    ----------
    key, name : str
    closed : bool
        Drawn as an outline, or as a line from root to tip.
    most : int
        How many there may be.
    paint : str
        "skin" and "light" fill, "dark" fills or lines darkly, "shine" draws a light line, "hair" a tapering hair.
    role : str
        Key of the pass it goes with.
    beneath : str
        What lies beneath must be.
    how : str
        What to do, in one sentence.
    """

    key: str
    name: str
    closed: bool
    most: int
    paint: str
    role: str
    beneath: str
    how: str


@dataclass(frozen=True, slots=True)
class FeatureKind:
    """A kind of feature: its name and its parts in the order they are painted."""

    key: str
    name: str
    parts: tuple[Part, ...]

    def part(self, key: str) -> Part | None:
        """Return a part by its key, or None."""
        return next((part for part in self.parts if part.key == key), None)


FEATURES: dict[str, FeatureKind] = {
    kind.key: kind
    for kind in (
        FeatureKind(
            "nose",
            "nose",
            (
                Part("skin", "outline", True, 1, "skin", "undercoat", "touch-dry", "Dark skin over the whole nose; dab, do not stroke."),
                Part("plane", "upper plane", False, 1, "shine", "lights", "wet", "The plane that faces the sky, grey and a little cool."),
                Part("nostril", "nostrils", True, 2, "dark", "restated", "tacky", "The darkest dark of the nose; soften its upper edge."),
                Part("philtrum", "philtrum", False, 1, "dark", "restated", "tacky", "One thin line down, thicker at its root."),
                Part("light", "wet light", True, 3, "light", "highlights", "touch-dry", "Broken touches along the plane's edge, never a patch."),
            ),
        ),
        FeatureKind(
            "mouth",
            "mouth",
            (
                Part("line", "line of the mouth", False, 2, "dark", "restated", "tacky", "Lost and found: dark at the corner, broken by hair."),
            ),
        ),
        FeatureKind(
            "beak",
            "beak",
            (
                Part("skin", "outline", True, 1, "skin", "undercoat", "touch-dry", "Along the beak, from root to tip."),
                Part("edge", "cutting edge", False, 2, "dark", "restated", "tacky", "A thin dark line where the halves meet, hard in the middle."),
                Part("ridge", "ridge light", False, 2, "shine", "highlights", "touch-dry", "One light along the ridge, thinning toward the tip."),
            ),
        ),
        FeatureKind(
            "ear",
            "ear",
            (
                Part("skin", "bare skin", True, 1, "skin", "undercoat", "touch-dry",
                     "The skin first, soft and warm; lay the fur over it while it is tacky."),
                Part("fold", "fold", False, 2, "dark", "restated", "tacky", "The dark of the fold, soft on its inner side."),
            ),
        ),
        FeatureKind(
            "whiskers",
            "whiskers",
            (
                Part("hair", "whiskers", False, 60, "hair", "whiskers", "touch-dry",
                     "A dark dot at each root; then one stroke each, thinning to the tip. Last of all."),
            ),
        ),
        FeatureKind(
            "paw",
            "paw",
            (
                Part("toe", "toes", False, 6, "dark", "restated", "tacky", "The dark between the toes, lost toward the fur."),
                Part("claw", "claws", False, 6, "dark", "restated", "tacky", "Each in one stroke, root to tip; a light along its ridge follows."),
            ),
        ),
    )
}  # fmt: skip
"""By the key they are stored under."""


@dataclass(frozen=True, slots=True)
class Stroke:
    """A part as it was drawn: its key and its points, reference pixels."""

    part: str
    points: Pairs

    def line(self) -> Points:
        """Return the points, (N, 2)."""
        return np.array(self.points, np.float64).reshape(-1, 2)


@dataclass(frozen=True, slots=True)
class Feature:
    """A feature.

    Attributes
    ----------
    id : str
    kind : str
        Key of `FEATURES`.
    name : str
    strokes : tuple of Stroke
    toes : int
        How many toes a paw has; 0 where nobody said.
    """

    id: str
    kind: str
    name: str
    strokes: tuple[Stroke, ...] = field(default_factory=tuple)
    toes: int = 0

    def of(self, part: str) -> tuple[Stroke, ...]:
        """Return the strokes of a part."""
        return tuple(stroke for stroke in self.strokes if stroke.part == part)

    def middle(self) -> tuple[float, float] | None:
        """Return the middle of what is marked, reference pixels: of the first outline, else of everything; None if empty."""
        if not self.strokes:
            return None
        kind = FEATURES[self.kind]
        outlines = [
            s for s in self.strokes if (part := kind.part(s.part)) is not None and part.closed and part.key == "skin"
        ]
        points = np.concatenate([s.line() for s in (outlines[:1] or self.strokes)])
        x, y = (points.min(axis=0) + points.max(axis=0)) / 2
        return float(x), float(y)


def facing(line: F64) -> tuple[float, float]:
    """Return length and direction (degrees, root to tip) of a line from its ends."""
    way = line[-1] - line[0]
    return float(np.hypot(*way)), float(np.degrees(np.arctan2(way[1], way[0])))
