"""What each pass is for, with its usual numbers: the roles of a layered painting."""

from dataclasses import dataclass

from foxpath.core.passes.veils import Veil

HANDLINGS = ("opaque", "glaze", "dry", "scumble")
"""How paint is laid: it covers; it lies transparent over what is beneath; nearly dry, it catches the tooth of the ground; thin
and pale, it is rubbed over a darker layer and catches less."""
WETNESS = ("wet", "tacky", "touch-dry")
"""What the layer beneath must be."""
STRONGEST = 130.0
"""C* that no paint exceeds: no limit."""
WARMEST = 110.0
"""b* that no paint exceeds, to either side: no limit."""


@dataclass(frozen=True, slots=True)
class Role:
    """What a pass is for, and its usual numbers.

    Attributes
    ----------
    key, name, reason : str
    band : (low, high)
        L* of its paint.
    ceiling : float
        The lightest L* any of its marks may have.
    coverage : float
        Area of marks over area of zone; marks overlap.
    length_share, spread_share : float
        Times the coat's own length and spread.
    width_share : float
        Mark width as a multiple of the coat's; block-in passes take the brush instead.
    block_in : bool
        Laid with the largest brush that fits the zone.
    opacity : float
    fat : float
        Oil and medium in the paint, 0 (lean) to 1.
    beneath : str
        What the layer below must be: wet, tacky or touch-dry.
    belongs : float
        Share of a zone where paint of this role usually belongs (0..1); marks are laid only there.
    acts : str
        Key of the pass of layered oil it acts as; empty for itself.
    thickness : float
        Of the paint, 0 (a stain) to 1 (body).
    tint : float
        Strength of its colours over the reference's: 0 greys, 1 as they are, over 1 a glaze.
    paint : "oil" or "acrylic"
    handling : str
        How the paint is laid, one of `HANDLINGS`.
    chroma : float
        The strongest colour its paint may have, C* of CIELAB.
    coolest, warmest : float
        Between which its colours stay, b*: cool below 0, warm above.
    lift : float
        Share of the light that a glaze of the place's own colour will take that is made up for beforehand, by lighter paint.
    lean : float
        By how much its colours lean, b*: warm above 0, cool below.
    black : str
        What its darks are mixed with: "mixed" (a blue and a brown), "tube", or as the reference shows them (empty).
    schools : tuple of str
        Whose zones it paints: keys of schools, the empty one for zones without a school of their own; empty for every zone.
    veil : Veil or None
        The film it is, where it is no pass of strokes.
    only : str
        Id of the one zone it paints; empty for every zone.
    """

    key: str
    name: str
    reason: str
    band: tuple[float, float]
    ceiling: float
    coverage: float
    length_share: float
    spread_share: float
    width_share: float
    block_in: bool
    opacity: float
    fat: float
    beneath: str
    belongs: float = 1.0
    acts: str = ""
    thickness: float = 0.3
    tint: float = 1.0
    paint: str = "oil"
    handling: str = "opaque"
    chroma: float = STRONGEST
    lean: float = 0.0
    coolest: float = -WARMEST
    warmest: float = WARMEST
    lift: float = 0.0
    black: str = ""
    schools: tuple[str, ...] = ()
    veil: Veil | None = None
    only: str = ""

    @property
    def act(self) -> str:
        """What it does: the key of the pass of layered oil it acts as."""
        return self.acts or self.key


ROLES: dict[str, Role] = {
    role.key: role
    for role in (
        Role("ground", "Ground", "A middle tone, so that lights and darks can both be judged.",
             (44, 56), 58, 4.0, 1.0, 1.0, 1.0, True, 0.85, 0.05, "touch-dry", thickness=0.1),
        Role("darks", "Darks", "The dark masses first, thin: they carry the form.",
             (6, 30), 34, 2.2, 1.0, 1.2, 5.0, True, 0.92, 0.15, "touch-dry", 0.4, thickness=0.15),
        Role("midtones", "Midtones", "Between the darks, still below every light.",
             (22, 56), 60, 2.2, 1.0, 1.2, 4.0, True, 0.85, 0.2, "wet", thickness=0.25),
        Role("background", "Background", "Soft and whole, before any hair lies over it.",
             (4, 97), 99, 3.4, 1.0, 1.0, 1.0, True, 0.75, 0.25, "touch-dry", thickness=0.3),
        Role("undercoat", "Undercoat", "Soft and dark, so that the top coat has something to lie on.",
             (8, 60), 64, 3.4, 1.05, 1.1, 1.4, False, 0.8, 0.35, "touch-dry", thickness=0.35),
        Role("restated", "Restated darks", "Into the gaps between hairs, so that the lights stand out.",
             (3, 30), 32, 2.0, 0.85, 0.9, 0.65, False, 0.85, 0.4, "touch-dry", 0.35, thickness=0.35),
        Role("lights", "Top coat", "The coat itself, hair by hair, below the last lights.",
             (8, 86), 88, 5.0, 1.0, 1.0, 0.65, False, 0.9, 0.5, "touch-dry", 0.62, thickness=0.6),
        Role("highlights", "Highlights", "Only where the light strikes, and on a small share.",
             (60, 96), 97, 0.45, 0.8, 0.9, 0.7, False, 0.9, 0.6, "touch-dry", 0.06, thickness=0.95),
        Role("whiskers", "Whiskers", "Last, each in one stroke from root to tip.",
             (10, 97), 98, 0.5, 1.0, 1.0, 1.0, False, 0.95, 0.6, "touch-dry", thickness=0.9),
    )
}  # fmt: skip
"""In the order they are painted."""

EYES = Role("eyes", "Eyes", "They make the animal live: everything after is judged against them.",
            (3, 97), 98, 3.6, 1.0, 1.0, 1.0, False, 0.9, 0.1, "touch-dry", thickness=0.3)  # fmt: skip
"""A pass of their own, for painters who begin with them; it finishes its zones."""
VEIL = Role("veil", "Veil", "A film over what has dried: hair and markings run on beneath it.",
            (0, 100), 100, 1.1, 1.0, 1.0, 1.0, True, 0.5, 0.5, "touch-dry", thickness=0.0, handling="glaze")  # fmt: skip
"""What a veil is as a pass: laid as a film, not in strokes (see `veils`)."""
ACTS: dict[str, Role] = {**ROLES, EYES.key: EYES}
"""What a pass of a recipe may act as."""
FINISHING = ("background", "eyes")
"""Passes that finish a zone: what would block it in again afterwards leaves it alone."""
