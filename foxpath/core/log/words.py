"""The log as text and as rows: what a painter reads, searches and hands on."""

import csv
import io
from collections.abc import Sequence

from foxpath.core.log.entries import KINDS, SAID, Entry, standing
from foxpath.core.log.reading import PartTold, SittingTold, carried_over, parts, sittings
from foxpath.core.units import count_words, duration_words

COLUMNS = ("ref", "at", "kind", "part", "pass", "text", "task", "step", "of")


def entry_words(one: Entry) -> str:
    """Write an entry in a line, without its time."""
    what = f"{one.act.lower()} of {one.part}" if one.act and one.part else one.part
    if one.kind == "step":
        return f"begins {what}"
    said = KINDS[one.kind]
    if one.kind in SAID:
        return f"{what}: {said}"
    if one.kind == "note":
        return f"{what}: {one.text}" if what else one.text
    if one.kind == "likeness":
        shown = " (with a picture)" if one.picture else ""
        return f"likeness{f' of {what}' if what else ''}{f': {one.text}' if one.text else ''}{shown}"
    if one.kind == "material":
        return f"{one.part or 'material'}: {one.text}"
    if one.kind == "room":
        return one.text
    words = f"{said}: {what}" if what else said
    return f"{words} ({one.text})" if one.text else words


def sitting_words(one: SittingTold) -> str:
    """Write a sitting in a line: its day, hours, minutes and steps."""
    done = sum(step.how == "done" for step in one.steps)
    end = "goes on" if one.open else f"{one.end:%H:%M}"
    rest = f", {duration_words(one.breaks)} of breaks" if one.breaks >= 3 else ""
    return f"{one.begin:%A %-d %B %Y}, {one.begin:%H:%M} to {end}: {duration_words(one.minutes)}{rest}, {count_words(done, 'step')} done"


def part_words(one: PartTold) -> str:
    """Write what a part has been through in a line."""
    said = [f"{count_words(one.sittings, 'sitting')}, {duration_words(one.minutes)}"]
    if one.restated:
        said.append(f"restated {count_words(one.restated, 'time')}")
    said += [f"{count}× {KINDS[kind]}" for kind, count in one.said.items()]
    return ", ".join(said)


def as_text(entries: Sequence[Entry], name: str) -> str:
    """Return the story of a painting: sittings with every word, parts, what is carried over."""
    lines = [name, "=" * len(name), ""]
    told = sittings(entries)
    if not told:
        lines += ["Nothing was painted yet.", ""]
    inside = {entry.ref for sitting in told for entry in sitting.entries}
    for sitting in told:
        lines.append(sitting_words(sitting))
        lines += [f"  {entry.local:%H:%M}  {entry_words(entry)}" for entry in sitting.entries]
        lines.append("")
    loose = [entry for entry in standing(entries) if entry.ref not in inside]
    if loose:
        lines += ["Between sittings", *(f"  {one.local:%-d %b %H:%M}  {entry_words(one)}" for one in loose), ""]
    through = parts(entries)
    if through:
        lines += ["Part by part", *(f"  {one.part}: {part_words(one)}" for one in through), ""]
    carried = carried_over(entries)
    if carried:
        lines += [
            "Carried over",
            *(f"  {one.act or 'step'}: {one.part}, {one.why} ({one.at:%-d %b})" for one in carried),
            "",
        ]
    return "\n".join(lines)


def as_csv(entries: Sequence[Entry]) -> str:
    """Return every entry as a row, corrections and what was taken back too."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(COLUMNS)
    for one in entries:
        text = one.text
        if text[:1] in ("=", "+", "-", "@", "\t"):
            # A sheet would take it for a formula.
            text = f"'{text}"
        writer.writerow((one.ref, one.at, one.kind, one.part, one.act, text, one.task, one.step, one.of))
    return out.getvalue()
