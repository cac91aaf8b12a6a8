"""What the painter decided about the easel: reminders, the hand, how far to step back."""

from dataclasses import dataclass

from foxpath.core.errors import InputError
from foxpath.core.log.room import SENSORS

REMINDERS: dict[str, tuple[str, str, int]] = {
    "back": ("Step back", "Step back {metres:g} m and squint: are the masses right?", 20),
    "mirror": ("Mirror", "Look at it in a mirror: what leans, what has grown?", 45),
    "turn": ("Turn it", "Turn it upside down where the hair runs against your hand.", 0),
    "brush": ("Brush", "Wipe the brush or take a fresh one: hairs get muddy before they look so.", 12),
    "air": ("Air", "Open a window, and drink from the cup, not from the brush water.", 60),
}
"""Reminders: name, words, and after how many minutes usually; 0 for never."""
LONGEST = 240
HANDS = ("right", "left")


@dataclass(frozen=True, slots=True)
class Easel:
    """Decisions about the easel.

    Attributes
    ----------
    back, mirror, turn, brush, air : int
        Minutes between reminders; 0 for never.
    hand : str
        "right" or "left": where the hand lies while it paints.
    sensor : str
        Key of `room.SENSORS` that tells the room's air as a sitting begins; empty where Days' numbers are taken.
    counted : bool
        This painting was counted among those that its brushes served.
    """

    back: int = REMINDERS["back"][2]
    mirror: int = REMINDERS["mirror"][2]
    turn: int = REMINDERS["turn"][2]
    brush: int = REMINDERS["brush"][2]
    air: int = REMINDERS["air"][2]
    hand: str = "right"
    sensor: str = ""
    counted: bool = False


def check_easel(easel: Easel) -> None:
    """Raise `InputError` for what cannot be."""
    for name in REMINDERS:
        value = getattr(easel, name)
        if not 0 <= value <= LONGEST:
            raise InputError(f"{name} {value} is out of range.", f"Give 0 (never) to {LONGEST} minutes.")
    if easel.hand not in HANDS:
        raise InputError(f"“{easel.hand}” is no hand.", "It is right or left.")
    if easel.sensor and easel.sensor not in SENSORS:
        raise InputError(f"There is no sensor “{easel.sensor}”.", f"Choose {', '.join(SENSORS)}, or none.")


def sound_easel(easel: Easel) -> Easel:
    """Return decisions of a file; the usual ones where they cannot be."""
    try:
        check_easel(easel)
    except (InputError, TypeError):
        return Easel()
    return easel
