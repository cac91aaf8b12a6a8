"""What the painter says of touch-ups: to do, leave, struck out, done; and those added by hand after days of looking."""

from dataclasses import dataclass, field, replace

from foxpath.core.errors import InputError
from foxpath.core.progress.kinds import KINDS
from foxpath.core.text import sound_text

WORDS = {"todo": "to do", "leave": "kept on purpose", "struck": "struck out", "done": "done"}
"""What can be said of a touch-up."""
OWN = "own"
"""The kind of what was added by hand."""
MOST, MOST_TEXT, MOST_MINUTES = 300, 400, 600
SAME_MM = 30.0
"""A touch-up of a kind that is told again so near is the same one."""


@dataclass(frozen=True, slots=True)
class Touch:
    """A word on a touch-up.

    Attributes
    ----------
    id : str
    kind : str
        One of `KINDS`, or `OWN`.
    zone : str
        Id of its part; empty for the whole canvas.
    at : (x, y)
        Where, reference pixels.
    word : str
        Key of `WORDS`.
    text : str
        What is to be done, in a sentence.
    tool, pile : str
    minutes : int
    dry : bool
        Whether what lies there must be touch-dry first.
    photo : str
        Id of the photograph it was told from; empty for none.
    day : str
        The day it was said (ISO).
    """

    id: str
    kind: str
    zone: str
    at: tuple[float, float] = field(metadata={"pixels": True})
    word: str = "todo"
    text: str = ""
    tool: str = ""
    pile: str = ""
    minutes: int = 5
    dry: bool = False
    photo: str = ""
    day: str = ""


def checked(touch: Touch) -> Touch:
    """Return a touch-up with texts and minutes in bounds. Raises `InputError` for a kind or a word that is none, or one of its own without text."""
    if touch.kind not in (*KINDS, OWN):
        raise InputError(f"“{touch.kind}” is no touch-up.", f"It is one of {', '.join(KINDS)}, or {OWN}.")
    if touch.word not in WORDS:
        raise InputError(f"“{touch.word}” is nothing that is said of a touch-up.", f"Say {', '.join(WORDS)}.")
    text = sound_text(touch.text.strip())[:MOST_TEXT]
    if touch.kind == OWN and not text:
        raise InputError("The touch-up says nothing.", "Write down what is to be mended.")
    return replace(touch, text=text, minutes=min(max(int(touch.minutes), 1), MOST_MINUTES))


def sound_touches(touches: tuple[Touch, ...]) -> tuple[Touch, ...]:
    """Return touch-ups of a file without those that cannot be, and without a second of an id."""
    made: dict[str, Touch] = {}
    for one in touches[:MOST]:
        try:
            made.setdefault(one.id, checked(one))
        except InputError:
            continue
    return tuple(made.values())
