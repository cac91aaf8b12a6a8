"""Entries of the log: append-only, each with its moment; corrections and what is taken back are entries too."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime

from foxpath.core.errors import InputError
from foxpath.core.text import sound_text

KINDS: dict[str, str] = {
    "begin": "the sitting begins",
    "end": "the sitting ends",
    "pause": "a break",
    "resume": "after the break",
    "step": "a step is begun",
    "done": "done",
    "part": "done in part",
    "skip": "left for later",
    "dark": "too dark",
    "light": "too light",
    "warm": "too warm",
    "cool": "too cool",
    "jumps": "jumps out",
    "smeared": "smeared",
    "dry": "touch-dry",
    "tacky": "still tacky",
    "note": "noted",
    "likeness": "likeness",
    "material": "material",
    "photo": "photographed",
    "room": "the room",
    "undone": "left undone",
    "correct": "corrected",
    "back": "taken back",
}
"""What an entry can be, in words."""
SAID = ("dark", "light", "warm", "cool", "jumps", "smeared")
"""Words about a mark that was laid."""
REASONS = ("ran out of light", "ran out of time", "not sure yet", "waits for paint to dry", "stays simple on purpose")
"""Why something is left undone."""
MATERIALS = ("support", "ground", "paint", "medium", "brush", "varnish")
"""What a painting is made of, each a note of the log: coats, batches, and how it behaved."""
MOST, MOST_TEXT = 20_000, 2000


@dataclass(frozen=True, slots=True)
class Entry:
    """A word of the log.

    Attributes
    ----------
    ref : str
    kind : str
        Key of `KINDS`.
    at : str
        ISO moment with its offset from universal time, so that a change of summer time changes no length.
    task, step : str
        Key of the task of the days, and of the step of it; empty where it is about neither.
    part, act : str
        What these were called.
    text : str
    of : str
        Id of the entry that is corrected or taken back.
    picture : str
        Id of the picture it shows; empty for none.
    """

    ref: str
    kind: str
    at: str
    task: str = ""
    step: str = ""
    part: str = ""
    act: str = ""
    text: str = ""
    of: str = ""
    picture: str = ""

    @property
    def moment(self) -> datetime:
        """When it was said, universal time."""
        return datetime.fromisoformat(self.at).astimezone(UTC)

    @property
    def local(self) -> datetime:
        """When it was said, by the clock on the wall there."""
        return datetime.fromisoformat(self.at).replace(tzinfo=None)


def moment_text(moment: datetime) -> str:
    """Return a moment's text, whole seconds; one without a zone is local."""
    return moment.astimezone().isoformat(timespec="seconds")


def add(entries: Sequence[Entry], kind: str, moment: datetime, **given: str) -> tuple[Entry, ...]:
    """Return the log with one entry more.

    Raises
    ------
    InputError
        For a kind that is not known, a correction of nothing, or a full log.
    """
    if kind not in KINDS:
        raise InputError(f"“{kind}” is nothing the log knows.", f"It knows {', '.join(KINDS)}.")
    if len(entries) >= MOST:
        raise InputError(f"The log holds {MOST} entries.", "Export it, and go on in a new painting.")
    ids = {one.ref for one in entries}
    if kind in ("correct", "back") and given.get("of", "") not in ids:
        raise InputError("There is no such entry to correct.", "Choose one of the log.")
    number = max((int(one.ref[1:]) for one in entries if one.ref[1:].isdecimal()), default=0) + 1
    words = {key: sound_text(value)[:MOST_TEXT] for key, value in given.items()}
    return (*entries, Entry(f"l{number}", kind, moment_text(moment), **words))


def standing(entries: Sequence[Entry]) -> tuple[Entry, ...]:
    """Return what stands: without what was taken back, and with the last correction's words; neither is lost from the log itself."""
    gone: set[str] = set()
    for one in reversed(entries):
        if one.kind == "back" and one.ref not in gone:
            gone.add(one.of)
    texts = {one.of: one.text for one in entries if one.kind == "correct" and one.ref not in gone}
    return tuple(
        replace(one, text=texts.get(one.ref, one.text))
        for one in entries
        if one.kind not in ("correct", "back") and one.ref not in gone
    )


def sound_entries(entries: Sequence[Entry]) -> tuple[Entry, ...]:
    """Return entries of a file without those that cannot be: of unknown kinds or moments, or whose id comes twice."""
    made: list[Entry] = []
    ids: set[str] = set()
    for one in entries[:MOST]:
        try:
            moment = datetime.fromisoformat(one.at)
        except (ValueError, TypeError):
            continue
        good = moment.tzinfo is not None and 1990 <= moment.year <= 2200
        if good and one.kind in KINDS and one.ref not in ids and (not one.of or one.of in ids):
            made.append(one)
            ids.add(one.ref)
    return tuple(made)
