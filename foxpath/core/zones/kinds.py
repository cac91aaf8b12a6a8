"""The kinds of zone and the marks each is painted with until the painter says otherwise.

The lengths and widths are for a head-and-chest portrait about half a metre wide, in millimetres on
the canvas; `Coat.scaled` brings them to another canvas.
"""

from dataclasses import dataclass, replace
from typing import Literal


@dataclass(frozen=True, slots=True)
class Coat:
    """How the marks of a zone look.

    Attributes
    ----------
    length_mm, width_mm : float
        A single mark at full length, and its width near the root.
    spread_deg : float
        How far neighbouring marks cross, as one standard deviation.
    clump_mm : float
        Width of the tufts that neighbours gather into; 0 for none.
    stray_share : float
        Share of marks (0..1) that leave the order.
    curl_deg : float
        By how much a mark turns along its length, 0 for straight hair: C and S strokes from about 90 on.
    """

    length_mm: float
    width_mm: float
    spread_deg: float
    clump_mm: float
    stray_share: float
    curl_deg: float = 0.0

    def scaled(self, factor: float) -> "Coat":
        """Return the coat on a canvas `factor` times as large."""
        return replace(
            self, length_mm=self.length_mm * factor, width_mm=self.width_mm * factor, clump_mm=self.clump_mm * factor
        )


Prior = Literal["away", "back", "up"]
COAT_PASSES = ("ground", "darks", "midtones", "undercoat", "restated", "lights", "highlights")
"""Dark to light, an undercoat for the top coat to lie on, darks restated between the hairs, the last lights."""
MASS_PASSES = ("ground", "darks", "midtones", "background")
"""Broad and soft, before any hair lies over it."""


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of zone.

    Attributes
    ----------
    key : str
        The stable name used in files.
    name : str
        The painter's words.
    coat : Coat
    hair : bool
        Whether marks follow a growth direction that matters.
    cover : bool
        Whether the zone hides what lies behind it; whiskers do not.
    edge : float
        How hard its borders tend to be, 0 (lost) to 1 (hard).
    reason : str
        Why its borders tend to be so.
    short : str
        A name for a narrow place; empty for the whole name.
    prior : "away", "back" or "up"
        Which way it grows until a comb or the picture says: away from nose and eyes and down; from the head back, as
        feathers do; or up, as grass does.
    passes : tuple of str
        Keys of the passes it is painted in: its recipe in a layered painting.
    """

    key: str
    name: str
    coat: Coat
    hair: bool = True
    cover: bool = True
    edge: float = 0.4
    reason: str = "fur gives way softly"
    short: str = ""
    prior: Prior = "away"
    passes: tuple[str, ...] = COAT_PASSES

    @property
    def feathers(self) -> bool:
        """Whether it is laid in rows of feathers."""
        return self.key in {"contour-feather", "covert"}

    @property
    def plumed(self) -> bool:
        """Whether it ends in feathers with edges of their own."""
        return self.feathers or self.key == "flight-feather"

    @property
    def painted(self) -> bool:
        """Whether it is painted by itself; a marking is painted with its coat."""
        return bool(self.passes)


KINDS: dict[str, Kind] = {
    kind.key: kind
    for kind in (
        Kind("short-fur", "short fur", Coat(9, 0.5, 9, 1.5, 0.02), edge=0.45, reason="short fur keeps its border"),
        Kind("long-fur", "long fur", Coat(26, 0.65, 12, 3.0, 0.04), edge=0.35, reason="long hair breaks the border"),
        Kind("curly-fur", "curly or woolly", Coat(14, 1.2, 34, 5.0, 0.08, 150.0), edge=0.35, short="curly"),
        Kind("matted-fur", "wet or matted", Coat(20, 1.6, 8, 7.0, 0.03), edge=0.45, short="wet, matted"),
        Kind("skin", "bare skin", Coat(6, 1.6, 25, 0, 0), hair=False, edge=0.7, reason="bare skin has a clear rim"),
        Kind(
            "eye",
            "eye",
            Coat(2.6, 0.6, 30, 0, 0),
            hair=False,
            edge=0.95,
            reason="the eye holds the sharpest edge",
            passes=(*COAT_PASSES, "eyes"),
        ),
        Kind(
            "horn",
            "beak, horn or claw",
            Coat(12, 1.4, 8, 0, 0),
            hair=False,
            edge=0.85,
            reason="horn is hard",
            short="beak, claw",
        ),
        Kind(
            "contour-feather",
            "contour feathers",
            Coat(12, 2.2, 10, 4.0, 0.02),
            edge=0.5,
            reason="plumage closes smoothly",
            short="contour",
            prior="back",
        ),
        Kind("down", "down", Coat(10, 0.7, 40, 3.0, 0.15), edge=0.15, reason="down melts into the air", prior="back"),
        Kind(
            "covert",
            "wing coverts",
            Coat(18, 3.0, 7, 6.0, 0.01),
            edge=0.6,
            reason="coverts lie crisp over the next row",
            short="coverts",
            prior="back",
        ),
        Kind(
            "flight-feather",
            "flight feathers",
            Coat(60, 3.2, 4, 9.0, 0.01),
            edge=0.75,
            reason="flight feathers have firm edges",
            short="flight",
            prior="back",
        ),
        Kind(
            "whisker",
            "whiskers",
            Coat(72, 0.7, 6, 0, 0.05),
            cover=False,
            edge=0.8,
            reason="whiskers are drawn last",
            passes=("whiskers",),
        ),
        Kind(
            "background",
            "background",
            Coat(34, 9, 70, 0, 0),
            hair=False,
            edge=0.1,
            reason="what lies back is soft",
            passes=MASS_PASSES,
        ),
        Kind(
            "cover",
            "cover in front",
            Coat(50, 1.8, 14, 6, 0.06),
            edge=0.5,
            reason="what lies in front is clearer",
            short="cover",
            prior="up",
        ),
        Kind(
            "shadow",
            "cast shadow",
            Coat(24, 6, 40, 0, 0),
            hair=False,
            edge=0.15,
            reason="shadow edges are soft",
            passes=MASS_PASSES,
        ),
        Kind(
            "marking", "marking in a coat", Coat(16, 0.6, 10, 0, 0), hair=False, cover=False, short="marking", passes=()
        ),
        Kind(
            "shade", "shadow on a coat", Coat(24, 6, 40, 0, 0), hair=False, cover=False, short="coat shadow", passes=()
        ),
        Kind("other", "other", Coat(16, 2.0, 20, 0, 0), hair=False, edge=0.5, reason="no rule for this kind"),
    )
}


def kind_of(key: str) -> Kind:
    """Return the kind with this key; an unknown one is ``other``."""
    return KINDS.get(key, KINDS["other"])


@dataclass(frozen=True, slots=True)
class OwnKind:
    """A kind of the painter's own: one of the kinds, under another name and with another coat.

    Attributes
    ----------
    name : str
    base : str
        Key of the kind it is a variety of: what is painted in which pass follows from that.
    coat : Coat
        As for `KINDS`, for a canvas of the usual size.
    edge : float
        How hard its borders tend to be, 0 to 1.
    """

    name: str
    base: str
    coat: Coat
    edge: float

    def kind(self) -> Kind:
        """Return it as a kind."""
        return replace(kind_of(self.base), name=self.name, short="", coat=self.coat, edge=self.edge)
