"""Safety notes, shown once and where they are needed. They remind; labels and local rules come first."""

SOLVENT = (
    "Solvents: air the room, close the lid, keep flames away. Oily rags can heat up by themselves: lay them flat to dry "
    "or keep them under water in a closed metal tin. The label and local rules come first."
)
PIGMENT = (
    "Some pigments (cadmium, cobalt, lead) are harmful: no dry sanding, no spraying, no eating; wash your hands. "
    "The label comes first."
)


def cautions_for(role: str) -> tuple[str, ...]:
    """Return the notes that belong on a pass's card: solvents where paint is thinned, pigments where mixed."""
    if role in {"ground", "darks"}:
        return (SOLVENT,)
    if role == "lights":
        return (PIGMENT,)
    return ()
