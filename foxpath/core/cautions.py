"""Safety notes, shown once and where they are needed. They remind; labels and local rules come first."""

from collections.abc import Sequence

from foxpath.core.passes.roles import Role

SOLVENT = (
    "Solvents: air the room, close the lid, keep flames away. Oily rags can heat up by themselves: lay them flat to dry "
    "or keep them under water in a closed metal tin. The label and local rules come first."
)
PIGMENT = (
    "Some pigments (cadmium, cobalt, lead) are harmful: no dry sanding, no spraying, no eating; wash your hands. "
    "The label comes first."
)


SPRAY = "Sprayed fixative and varnish: outdoors or with strong ventilation, away from flames. The label and local rules come first."


def pigment_cautions(hazards: Sequence[tuple[str, str]]) -> tuple[str, ...]:
    """Return one note for tubes with a known hazard, given as (name, hazard); none without. What they share is said once.

    The same warning stands for several tubes: it is written once, with their names.
    """
    by_warning: dict[str, list[str]] = {}
    for name, hazard in hazards:
        if hazard:
            by_warning.setdefault(hazard, []).append(name)
    if not by_warning:
        return ()
    said = "; ".join(f"{', '.join(names)}: {hazard}" for hazard, names in by_warning.items())
    return (f"{said}. Wash your hands; the label and local rules come first.",)


def cautions_for(role: Role) -> tuple[str, ...]:
    """Return the notes that belong on a pass's card: solvents where oil is thinned or glazed, pigments where mixed.

    Acrylic is thinned with water.
    """
    thinned = role.paint == "oil" and (role.act in {"ground", "darks"} or role.handling == "glaze" or role.tint > 1)
    return ((SOLVENT,) if thinned else ()) + ((PIGMENT,) if role.act == "lights" else ())
