"""A commission: who it is for, what was wished, which photographs came, proofs and approvals, and what a change costs."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from foxpath.core.errors import InputError
from foxpath.core.text import sound_text

MOST_ROWS, MOST_TEXT = 500, 500
PERMISSIONS = {"": "not asked", "painting": "to paint from", "show": "to paint from and to show"}
"""What a photograph may be used for, as its owner said."""


@dataclass(frozen=True, slots=True)
class Wish:
    """A wish of the client's, with its day (ISO)."""

    day: str
    text: str


@dataclass(frozen=True, slots=True)
class Received:
    """A photograph that was received: its day, its name, the animal, what it may be used for, and its id where it is kept."""

    day: str
    name: str
    animal: str = ""
    permission: str = ""
    picture: str = ""


@dataclass(frozen=True, slots=True)
class Proof:
    """A proof that was sent, with its day, and the day it was approved; empty as long as it is not."""

    day: str
    name: str
    approved: str = ""


@dataclass(frozen=True, slots=True)
class Change:
    """A change that was asked for: its day, its words, the parts it repaints (ids of zones), what it costs, and whether it was taken."""

    day: str
    text: str
    zones: tuple[str, ...] = ()
    minutes: int = 0
    days: int = 0
    taken: bool = False


@dataclass(frozen=True, slots=True)
class Commission:
    """A commission.

    Attributes
    ----------
    client : str
        Empty where nobody asked for the painting.
    wishes : tuple of Wish
    photographs : tuple of Received
    proofs : tuple of Proof
    changes : tuple of Change
    """

    client: str = ""
    wishes: tuple[Wish, ...] = ()
    photographs: tuple[Received, ...] = ()
    proofs: tuple[Proof, ...] = ()
    changes: tuple[Change, ...] = ()

    @property
    def waiting(self) -> Proof | None:
        """The proof that was sent last, where it is not approved."""
        return self.proofs[-1] if self.proofs and not self.proofs[-1].approved else None


def _text(text: str, what: str) -> str:
    made = sound_text(text.strip())[:MOST_TEXT]
    if not made:
        raise InputError(f"The {what} is empty.", "Write it down.")
    return made


def _row(rows: Sequence[object]) -> None:
    if len(rows) >= MOST_ROWS:
        raise InputError(f"The commission holds {MOST_ROWS} of these.", "Take one out first.")


def with_wish(one: Commission, day: date, text: str) -> Commission:
    """Return a commission with a wish more. Raises `InputError` for an empty one."""
    _row(one.wishes)
    return replace(one, wishes=(*one.wishes, Wish(day.isoformat(), _text(text, "wish"))))


def with_photograph(
    one: Commission, day: date, name: str, animal: str = "", permission: str = "", picture: str = ""
) -> Commission:
    """Return a commission with a photograph more. Raises `InputError` for one without a name, or a permission that is none."""
    if permission not in PERMISSIONS:
        raise InputError(f"“{permission}” is no permission.", f"It is {', '.join(PERMISSIONS) or 'empty'}.")
    _row(one.photographs)
    made = Received(day.isoformat(), _text(name, "name"), sound_text(animal.strip())[:MOST_TEXT], permission, picture)
    return replace(one, photographs=(*one.photographs, made))


def with_proof(one: Commission, day: date, name: str) -> Commission:
    """Return a commission with a proof that was sent. Raises `InputError` for one without a name."""
    _row(one.proofs)
    return replace(one, proofs=(*one.proofs, Proof(day.isoformat(), _text(name, "name"))))


def approved(one: Commission, day: date) -> Commission:
    """Return a commission whose last proof is approved. Raises `InputError` when none waits."""
    if one.waiting is None:
        raise InputError("No proof waits for an approval.", "Send one first.")
    return replace(one, proofs=(*one.proofs[:-1], replace(one.proofs[-1], approved=day.isoformat())))


def with_change(one: Commission, change: Change) -> Commission:
    """Return a commission with a change more. Raises `InputError` for an empty one."""
    _row(one.changes)
    return replace(one, changes=(*one.changes, replace(change, text=_text(change.text, "change"))))


def sound_commission(one: Commission) -> Commission:
    """Return a commission of a file without rows whose days are none."""

    def good(day: str, *, may_be_empty: bool = False) -> bool:
        if not day:
            return may_be_empty
        try:
            return 1990 <= date.fromisoformat(day).year <= 2200
        except ValueError:
            return False

    return replace(
        one,
        wishes=tuple(r for r in one.wishes if good(r.day)),
        photographs=tuple(r for r in one.photographs if good(r.day) and r.permission in PERMISSIONS),
        proofs=tuple(r for r in one.proofs if good(r.day) and good(r.approved, may_be_empty=True)),
        changes=tuple(r for r in one.changes if good(r.day)),
    )
