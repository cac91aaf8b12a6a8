"""Where painters disagree: settings that bend a school's recipe one way or the other, each side with its reason.

None of them is right. A setting that is not taken leaves the recipe as it is.
"""

from collections.abc import Iterable
from dataclasses import dataclass, fields, replace

from foxpath.core.passes.roles import EYES, ROLES, Role


@dataclass(frozen=True, slots=True)
class Side:
    """One side of a disagreement: its key, its name, and one line of reason."""

    key: str
    name: str
    reason: str


@dataclass(frozen=True, slots=True)
class Way:
    """A disagreement: its key, what it is about, and its sides."""

    key: str
    name: str
    sides: tuple[Side, ...]

    def side(self, key: str) -> Side | None:
        """Return a side by its key."""
        return next((side for side in self.sides if side.key == key), None)


WAYS: dict[str, Way] = {
    way.key: way
    for way in (
        Way("first", "Begin with", (
            Side("eyes", "Eyes", "They make the animal live, and everything after is judged against them."),
            Side("background", "Background", "Soft and whole, before anything stands in its way."),
        )),
        Way("range", "Values", (
            Side("dark", "Dark to light", "The range opens pass by pass: lights cannot be spent early."),
            Side("middle", "Middle outward", "The large relation first; darks and lights are both judged from it."),
            Side("extremes", "Both ends early", "Darkest darks and lightest lights stand as gauges; all else lies between."),
        )),
        Way("work", "Order of work", (
            Side("rows", "Row by row", "One pass through all parts: values and colours are judged against one another."),
            Side("areas", "Area by area", "One part through all its passes while it is open, then the next: edges stay soft."),
        )),
        Way("strength", "Strength", (
            Side("rising", "Muted first", "Colour grows layer by layer: none shouts before its neighbours stand."),
            Side("full", "Strong at once", "What must glow is strong in every layer beneath, eyes before all."),
        )),
        Way("black", "Darks from", (
            Side("mixed", "Mixed black", "A blue and a brown: dark, alive, and it can lean."),
            Side("tube", "Tube black", "The same dark every time; it dries slowly, so keep it thin."),
        )),
        Way("catchlight", "Catchlight", (
            Side("reserve", "Kept free", "The ground stays clean there: no white has to cover a dark."),
            Side("last", "Added last", "Nothing to paint around, and it sits on top, thick."),
        )),
        Way("layers", "Layers", (
            Side("few", "Few", "Each is decided once: fresher, and fewer waits."),
            Side("many", "Many", "Thin coats add up: depth grows, and each mistake is small."),
        )),
        Way("finish", "Finish", (
            Side("tight", "Tight", "Every hair can be read; it bears a close look."),
            Side("loose", "Loose", "Broad marks leave work for the eye; the painting breathes."),
        )),
        Way("ground", "Ground", (
            Side("white", "White", "Light comes back through thin paint."),
            Side("toned", "Toned", "Lights and darks can both be judged from the first mark."),
        )),
        Way("edges", "Soft edges", (
            Side("strip", "Wet strip", "The neighbour's strip is repainted from its kept mix, then dragged: as soft as planned."),
            Side("dry", "Over dry", "Nothing is painted twice; what is dragged over dry paint stays firmer."),
        )),
        Way("likeness", "The photograph", (
            Side("kept", "Kept", "What it shows is the likeness: an eye that stands higher is a fact, no fault."),
            Side("ideal", "Idealised", "Eyes are set level, round and alike, as they would be from straight ahead."),
        )),
        Way("backdrop", "Background strokes", (
            Side("blended", "Blended", "Out of focus no stroke shows, and the animal stands before it."),
            Side("open", "Left open", "Open strokes give air and movement; keep them quieter than the coat."),
        )),
        Way("planes", "Background passes", (
            Side("one", "In one", "Lay-in and forms in one go while it is open: nothing in it is worked up."),
            Side("three", "Lay-in, forms, lights", "Flat first, then its forms, its lights last: snow, a pale sky or leaves need the range."),
        )),
        Way("shadow", "Shadows on a coat", (
            Side("under", "With the coat", "Each hair is laid in the shadow's own colour: it is decided once."),
            Side("glaze", "Glazed at the end", "The coat is painted as if lit, and one dark veil joins all that lies in the shadow."),
        )),
        Way("tooth", "Surface", (
            Side("smooth", "Smooth", "Fine hair stays fine, and paint slides."),
            Side("toothed", "Toothed", "It catches dry paint: broken colour comes by itself."),
        )),
    )
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Ways:
    """The sides that are taken, by the key of their way; empty leaves a school its own."""

    first: str = ""
    range: str = ""
    work: str = ""
    strength: str = ""
    black: str = ""
    catchlight: str = ""
    layers: str = ""
    finish: str = ""
    ground: str = ""
    edges: str = ""
    likeness: str = ""
    backdrop: str = ""
    planes: str = ""
    shadow: str = ""
    tooth: str = ""

    def taken(self) -> tuple[tuple[str, str], ...]:
        """Return the ways on which a side is taken, with it."""
        return tuple((f.name, getattr(self, f.name)) for f in fields(self) if getattr(self, f.name))


LEAST_OPACITY = 0.05


def bend(roles: Iterable[Role], ways: Ways) -> tuple[Role, ...]:
    """Return a recipe's passes bent by the sides that are taken, in their order.

    Parameters
    ----------
    roles : iterable of Role
    ways : Ways
    """
    made = list(roles)
    if ways.layers:
        made = _few(made) if ways.layers == "few" else _many(made)
    if ways.range:
        made = _range(made, middle=ways.range == "middle")
    if ways.range == "extremes":
        made = _extremes(made)
    if ways.strength:
        made = [_strength(role, rising=ways.strength == "rising") for role in made]
    if ways.finish:
        made = [_finish(role, loose=ways.finish == "loose") for role in made]
    if ways.ground:
        made = [_ground(role, white=ways.ground == "white") for role in made]
    if ways.planes == "three":
        made = _planes(made)
    if ways.first:
        made = _first(made, ways.first)
    if ways.black:
        made = [replace(role, black=ways.black) for role in made]
    return tuple(made)


WARM_LIGHTS, COOL_SHADOWS = 4.0, 2.5
"""By how much lights lean (b*) under a light that is quite warm, and shadows the other way."""


def under_light(roles: Iterable[Role], warmth: float) -> tuple[Role, ...]:
    """Return passes under a light: a warm one gives warm lights and cooler shadows, a cool one the other way round.

    Parameters
    ----------
    roles : iterable of Role
    warmth : float
        Of the main light, -1 (cool) to 1 (warm); 0 leaves them as they are.
    """
    by = {
        "lights": WARM_LIGHTS, "highlights": WARM_LIGHTS, "darks": -COOL_SHADOWS, "undercoat": -0.5 * COOL_SHADOWS,
        "restated": -COOL_SHADOWS,
    }  # fmt: skip
    if not warmth:
        return tuple(roles)
    return tuple(replace(role, lean=role.lean + warmth * by.get(role.act, 0.0)) for role in roles)


def _few(roles: list[Role]) -> list[Role]:
    """Leave out what repeats: second passes of an act, midtones and restated darks; what is left covers more."""
    kept: list[Role] = []
    for role in roles:
        again = role.act in {one.act for one in kept} and role.handling != "glaze"
        if again or (role.act in {"midtones", "restated"} and len(roles) > 3):
            continue
        more = {"undercoat": 1.2, "lights": 1.1}.get(role.act, 1.0)
        kept.append(replace(role, coverage=min(role.coverage * more, 8.0)) if more > 1 else role)
    return kept


def _many(roles: list[Role]) -> list[Role]:
    """Lay the coat's own passes in two thinner ones; what a recipe already lays twice stays."""
    acts = [role.act for role in roles]
    made: list[Role] = []
    for role in roles:
        if role.act not in {"undercoat", "lights"} or acts.count(role.act) > 1 or role.opacity < 0.3:
            made.append(role)
            continue
        thin = replace(role, opacity=max(0.72 * role.opacity, LEAST_OPACITY), coverage=0.72 * role.coverage)
        low, high = role.band
        first = replace(thin, band=(low, high - 3), ceiling=role.ceiling - 3)
        second = replace(
            thin, key=f"{role.key}-again", acts=role.act, name=f"{role.name} again", reason="The same once more, thin."
        )
        made += [first, second]
    return made


def _range(roles: list[Role], *, middle: bool) -> list[Role]:
    acts = [role.act for role in roles]
    if "darks" not in acts or "midtones" not in acts:
        return roles
    darks, midtones = acts.index("darks"), acts.index("midtones")
    if middle == (midtones < darks):
        return roles
    made = list(roles)
    a, b = made[darks], made[midtones]
    if middle:
        b = replace(b, coverage=max(b.coverage, 3.2), beneath="touch-dry", fat=min(a.fat, b.fat))
        a = replace(
            a,
            beneath="wet",
            ceiling=max(a.ceiling, b.ceiling),
            fat=max(a.fat, b.fat),
            thickness=max(a.thickness, b.thickness),
        )
    else:
        usual = ROLES["darks"]
        a = replace(a, beneath="touch-dry", ceiling=usual.ceiling, fat=min(a.fat, b.fat), thickness=usual.thickness)
        b = replace(b, beneath="wet", fat=max(a.fat, b.fat))
    made[darks], made[midtones] = b, a
    return made


GAUGES = "gauges"
"""Key of the pass that sets the lightest lights early."""
GAUGES_COVER = 0.5
"""How much of the last lights it lays, as a share."""
RISING = {"darks": 0.65, "midtones": 0.7, "undercoat": 0.82, "restated": 0.9}
"""Strength of colour in the earlier layers, where it grows from layer to layer."""


def _extremes(roles: list[Role]) -> list[Role]:
    """Set the lightest lights right after the darks, thin, so that both ends stand before what lies between."""
    acts = [role.act for role in roles]
    if "darks" not in acts or "highlights" not in acts:
        return roles
    darks, lights = roles[acts.index("darks")], roles[acts.index("highlights")]
    gauges = replace(
        lights, key=GAUGES, acts="highlights", name="Light gauges", fat=darks.fat, thickness=darks.thickness, beneath=darks.beneath,
        coverage=GAUGES_COVER * lights.coverage, reason="The lightest lights, thin: with the darks they say how far the range goes.",
    )  # fmt: skip
    at = acts.index("darks") + 1
    return [*roles[:at], gauges, *roles[at:]]


def _strength(role: Role, *, rising: bool) -> Role:
    """Return a pass whose colour is muted, where strength grows, or full."""
    if role.act not in RISING or role.handling == "glaze":
        return role
    return replace(role, tint=role.tint * RISING[role.act] if rising else max(role.tint, 1.0))


def _finish(role: Role, *, loose: bool) -> Role:
    if role.block_in or role.act == "whiskers":
        return role
    if loose:
        share = 0.6 if role.act == "restated" else 0.9
        return replace(
            role,
            width_share=min(1.6 * role.width_share, 8),
            length_share=min(1.12 * role.length_share, 4),
            spread_share=min(1.35 * role.spread_share, 4),
            coverage=share * role.coverage,
        )
    return replace(
        role,
        width_share=max(0.8 * role.width_share, 0.1),
        spread_share=0.75 * role.spread_share,
        coverage=min(1.1 * role.coverage, 8),
    )


def _ground(role: Role, *, white: bool) -> Role:
    if role.act != "ground":
        return role
    if white:
        why = "Light comes back through thin paint."
        return replace(role, name="White ground", reason=why, band=(90.0, 96.0), ceiling=97.0, tint=0.2)
    if role.band[1] < 85:
        return role
    usual = ROLES["ground"]
    return replace(role, band=usual.band, ceiling=usual.ceiling, tint=usual.tint, name=usual.name, reason=usual.reason)


FORMS, BACK_LIGHTS = "background-forms", "background-lights"
"""Keys of the further passes of a background that is worked up."""


def _planes(roles: list[Role]) -> list[Role]:
    """Lay the background in three passes: a flat lay-in, forms, and lights on what is lightest in it."""
    made: list[Role] = []
    for role in roles:
        made.append(role)
        if role.key != "background":
            continue
        made[-1] = replace(role, name="Background, flat", reason="Its large colours, thin and without a form.")
        made.append(
            replace(
                role, key=FORMS, acts="background", name="Background, forms", reason="Softly, back to front: what is farther is quieter.",
                width_share=0.32 * role.width_share, coverage=0.6 * role.coverage, beneath="wet",
            )
        )  # fmt: skip
        made.append(
            replace(
                role, key=BACK_LIGHTS, acts="background", name="Background, lights", reason="Last in it, and quieter than the animal's.",
                width_share=0.22 * role.width_share, coverage=0.35 * role.coverage, belongs=0.22, beneath="wet",
                fat=min(role.fat + 0.05, 1.0), thickness=min(role.thickness + 0.15, 1.0),
            )
        )  # fmt: skip
    return made


def _first(roles: list[Role], first: str) -> list[Role]:
    """Put eyes or the background right after the ground, lean enough to be painted over nothing but that."""
    at = 1 if roles and roles[0].act == "ground" else 0
    ground = roles[0] if at else None
    fat, paint = (ground.fat, ground.paint) if ground is not None else (0.05, "oil")
    if first == "eyes":
        eyes = replace(EYES, fat=max(fat, EYES.fat if paint == "oil" else 0.0), paint=paint)
        others = [role for role in roles if role.act != "eyes"]
        return [*others[:at], eyes, *others[at:]]
    behind = [role for role in roles if role.act == "background"]
    others = [role for role in roles if role.act != "background"]
    return [*others[:at], *(replace(one, fat=max(fat, min(one.fat, 0.15))) for one in behind), *others[at:]]
