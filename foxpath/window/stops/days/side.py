"""What stands beside the weeks: how to read a strand, and how the paint is before the chosen sitting."""

from collections.abc import Sequence

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from foxpath.derive.days.reading import DaysClose
from foxpath.derive.days.sitting import Area, Sitting, areas_at
from foxpath.derive.days.strands import Strand
from foxpath.window.look import draw
from foxpath.window.look.draw import State

MARKS: dict[str, State] = {"wet": "no", "tacky": "begun", "dry": "ready"}
ROW = 22.0
ORDER = ("dry", "tacky", "wet")


def group_state(strand: Strand, areas: Sequence[Area]) -> Area | None:
    """Return the wettest paint of an area, and of that what dries last; None before there is paint."""
    mine = [one for one in areas if one.zone in strand.zones]
    if not mine:
        return None
    worst = max(ORDER.index(one.state) for one in mine)
    wet = [one for one in mine if ORDER.index(one.state) == worst]
    return max(wet, key=lambda one: one.until.timestamp() if one.until is not None else 0.0)


def section(p: QPainter, left: float, y: float, right: float, title: str, note: str = "") -> float:
    """Draw a head with its rule; returns where its content begins."""
    draw.text(p, left, y, title, 13, 700)
    used = draw.width_of(title, 13, 700)
    draw.text(p, right, y, draw.elided(note, right - left - used - 12, 12), 12, 400, "quiet", "r")
    draw.rule(p, left, y + 8, right - left)
    return y + 26


def paint_side(
    p: QPainter, box: QRectF, close: DaysClose, strands: Sequence[Strand], sitting: Sitting | None, *, single: bool
) -> None:
    """Draw the column."""
    left, right = box.left(), box.right()
    wide = right - left
    mark, words_at = left + wide * 0.47, left + wide * 0.47 + 14
    y = section(p, left, box.top() + 17, right, "How to read a strand", "" if single else "in this order")
    draw.stroke(p, draw.along(left, y, left + 0.24 * wide, y, 4), 3.4, 2.4, "text", soft_root=False)
    draw.stroke(p, draw.along(left + 0.24 * wide, y, left + 0.57 * wide, y, 4), 2.0, 0.9, "#7A7A7A", soft_root=False)
    draw.stroke(p, draw.along(left + 0.57 * wide, y, right, y, 2), 0.9, 0.9, "dim", soft_root=False)
    y += 22
    for x, state, words in (
        (left, "wet", "wet"),
        (left + 0.25 * wide, "tacky", "tacky"),
        (left + 0.57 * wide, "dry", "touch-dry"),
    ):
        draw.state_mark(p, x + 7, y - 4.5, MARKS[state], "text", "plate")
        draw.text(p, x + 20, y, words, 13)
    if sitting is None or close.planned is None:
        return
    y = section(p, left, y + 30, right, f"{sitting.begin:%A %-d %b}, before painting", "dry by")
    planned = close.planned
    areas = areas_at(planned.layout, planned.diary, planned.layout.minute(sitting.work[0]))
    for strand in strands:
        if y > box.bottom() - 4:
            return
        one = group_state(strand, areas)
        draw.text(p, left, y, draw.elided(strand.name, 0.43 * wide, 13), 13)
        if one is None:
            draw.text(p, words_at, y, "no paint yet", 13, 400, "quiet")
        else:
            draw.state_mark(p, mark, y - 4.5, MARKS[one.state], "text", "plate")
            draw.text(p, words_at, y, "touch-dry" if one.state == "dry" else one.state, 13)
            if one.until is not None and one.state != "dry":
                late = [a.until for a in areas if a.zone in strand.zones and a.state == "tacky" and a.until is not None]
                until = max(late) if late and one.state == "tacky" else one.until
                words = f"{until:%a %-d %b}" if one.state == "tacky" else f"wet to {until:%H:%M}"
                draw.text(p, right, y, words, 12.5, 400, "quiet", "r")
        y += ROW
    y += 6
    for words in (sitting.setting, sitting.stop):
        for line in draw.lines_of(words, right - left, 13) if words else ():
            if y > box.bottom() - 2:
                return
            draw.text(p, left, y, line, 13)
            y += 18
    if close.piles and y < box.bottom() - 60:
        y = section(
            p,
            left,
            y + 16,
            right,
            "Dry times",
            f"learned from {close.noted} notes" if close.noted else "typical values",
        )
        for pile in close.piles:
            if y > box.bottom() - 2:
                return
            draw.text(p, left, y, draw.elided(pile.name, 0.45 * wide, 13), 13, 400, "text" if pile.notes else "quiet")
            draw.text(p, words_at, y, days_words(pile.days), 13, 400, "text" if pile.notes else "quiet")
            notes = f"{pile.notes} note{'s' if pile.notes != 1 else ''}" if pile.notes else "typical"
            draw.text(p, right, y, notes, 12.5, 400, "quiet", "r")
            y += ROW


def days_words(days: float) -> str:
    """Write a time in days, or in hours under one and a half."""
    return f"{days:.1f} days" if days >= 1.5 else f"{days * 24:.0f} h"
