"""The palette of a painting, the tubes it is mixed from, and marks in its colours."""

from collections.abc import Hashable
from dataclasses import replace

import numpy as np

from foxpath.core.arrays import F64, frozen
from foxpath.core.errors import InputError
from foxpath.core.fingerprint import fingerprint
from foxpath.core.mixes.limited import brush_colours, limited
from foxpath.core.mixes.palette import Held, Palette, build, merged
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.shortlist import shortlist
from foxpath.core.mixes.studio import MixedPile, Mixes
from foxpath.core.rehearsal.marks import Marks
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.mixes.wants import wants_of
from foxpath.derive.results import Results
from foxpath.document.model import Project

LISTED = 24
"""Colours that a short list of tubes is chosen by, the weightiest."""


def rack_of(results: Results, project: Project, progress: Progress = SILENT) -> Rack | None:
    """Return the tubes the painting is mixed from, cut down to the few that were allowed; None where there are none. Raises `Cancelled`."""
    mixes = project.mixes
    if not mixes.few:
        return _everything(results, mixes)

    def make() -> Rack | None:
        whole = _everything(results, mixes)
        if whole is None or mixes.few >= len(whole):
            return whole
        lab, weight, _ = merged(wants_of(results, project, progress))
        # Tubes that lie in a pile already are on the palette.
        used = {key for pile in mixes.mixed for key, _ in pile.parts}
        keys = shortlist(whole, lab[:LISTED], weight[:LISTED], mixes.few, tuple(used))
        return Rack([tube for tube in whole.tubes if tube.id in keys], whole.shown)

    return results.once(project, "rack", make)


def _everything(results: Results, mixes: Mixes) -> Rack | None:
    def make() -> Rack | None:
        tubes = mixes.usable()
        return Rack(tubes, mixes.shown) if tubes else None

    return results.memo.get(("rack", fingerprint(mixes)), make)


def held_of(mixes: Mixes, rack: Rack) -> tuple[Held, ...]:
    """Return the piles that lie on the palette, as they were seen last, else as their parts say."""
    return tuple(Held(one.id, one.name, one.parts, _looks(one, rack), one.want) for one in mixes.mixed if one.parts)


def _looks(pile: MixedPile, rack: Rack) -> tuple[float, float, float]:
    """Return what a pile looks like; what was said of an earlier look still holds for what lies in it now."""
    if pile.settled:
        return pile.sights[-1].seen
    if any(key not in rack.ids for key, _ in pile.parts):
        return pile.sights[-1].seen if pile.sights else pile.want
    shift = np.zeros(3)
    last = pile.sights[-1] if pile.sights else None
    if last is not None and all(key in rack.ids for key, _ in last.parts):
        shift = np.array(last.seen) - rack.lab_of(last.parts)
    lab = rack.lab_of(pile.parts) + shift
    return float(lab[0]), float(lab[1]), float(lab[2])


def palette_of(results: Results, project: Project, progress: Progress = SILENT) -> Palette:
    """Return the palette of a painting; empty without tubes. Raises `Cancelled`."""
    wants = wants_of(results, project, progress.part(0, 0.4))
    mixes = replace(project.mixes, rehearsed=False, pure=0.0, pick_up=0.0, medium="")
    key = ("palette", fingerprint(wants), fingerprint(mixes))

    def make() -> Palette:
        rack = rack_of(results, project, progress)
        if rack is None:
            return Palette()
        part = progress.part(0.4, 1)
        mother = tuple(one for one in mixes.mother if one[0] in rack.ids)
        try:
            return build(
                rack,
                wants,
                limits=mixes.limits(rack),
                held=held_of(mixes, rack),
                count=mixes.count,
                mother=mother if len(mother) == len(mixes.mother) else (),
                at=lambda share: part.at(share, "planning the piles"),
            )
        except InputError:
            # No recipe is allowed: one tube black and nothing else. The findings say so.
            return Palette()

    return results.memo.get(key, make)


def colours_of(results: Results, project: Project, progress: Progress = SILENT) -> tuple[bytes, F64]:
    """Return the (n, 3) colours that a brush takes up from the palette, with their fingerprint. Raises `Cancelled`."""
    palette, rack = palette_of(results, project, progress), rack_of(results, project, progress)

    def make() -> tuple[bytes, F64]:
        table = frozen(brush_colours(rack, palette) if rack is not None else np.zeros((0, 3)))
        return fingerprint(table), table

    return results.once(project, "brush colours", make)


def in_palette(
    results: Results, project: Project, group: tuple[Hashable, Marks], progress: Progress
) -> tuple[Hashable, Marks]:
    """Return marks in the colours of the palette where the rehearsal is painted with it; a glaze keeps what it lets through."""
    if not project.mixes.rehearsed or group[1].handling == "glaze" or not len(group[1].half_mm):
        return group
    told, table = colours_of(results, project, progress)
    key = ("in palette", group[0], told)
    marks = group[1]
    return key, results.memo.get(key, lambda: replace(marks, colour=frozen(limited(marks.colour, table))))
