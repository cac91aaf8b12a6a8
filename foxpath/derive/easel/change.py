"""What a change costs: a part that is painted otherwise, with its borders, what hangs over it, its piles, minutes, days and the new date."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from foxpath.core.clock import now
from foxpath.core.curves import line_length, resample
from foxpath.core.days.studio import day_of
from foxpath.core.reporting import Progress
from foxpath.core.units import count_words, duration_words
from foxpath.derive.days.plan import Planned, plan_of
from foxpath.derive.edges.plan import edges_of
from foxpath.derive.eyes.homes import features_in
from foxpath.derive.frames import map_frame
from foxpath.derive.mixes.palette import palette_of
from foxpath.derive.mixes.ready import ready_for
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of, mask_of
from foxpath.document import edits
from foxpath.document.model import Project

STROKES = ("paint", "eye", "edge", "blend")


@dataclass(frozen=True, slots=True, eq=False)
class Impact:
    """What a change touches.

    Attributes
    ----------
    zones : tuple of str
        Ids of the parts that are painted otherwise.
    again : tuple of str
        Keys of tasks that are done and must be painted again.
    borders, strays : tuple of str
        Names of parts whose edge toward these is made again, and of single hairs that hang over them.
    piles : tuple of str
    minutes : int
        Of what is painted again.
    before, after : datetime or None
        When it is handed over without and with the change.
    late : bool
        The date that was given is missed with it, and not without.
    """

    zones: tuple[str, ...]
    again: tuple[str, ...]
    borders: tuple[str, ...]
    strays: tuple[str, ...]
    piles: tuple[str, ...]
    minutes: int
    before: datetime | None
    after: datetime | None
    late: bool

    @property
    def days(self) -> int:
        """Days by which it is handed over later."""
        return (
            (self.after.date() - self.before.date()).days if self.after is not None and self.before is not None else 0
        )

    def words(self) -> str:
        """Say it in a few sentences; the price is the painter's."""
        said = []
        if not self.again:
            said.append("Nothing of it is painted yet: it costs no time but thought.")
        else:
            said.append(f"{count_words(len(self.again), 'task')} again, {duration_words(self.minutes)}.")
        if self.borders:
            said.append(f"Edges toward {_listed(self.borders)}.")
        if self.strays:
            said.append(f"Hairs that hang over: {_listed(self.strays)}.")
        if self.piles:
            said.append(f"Piles {_listed(self.piles)}.")
        if self.after is not None:
            by = f", {count_words(self.days, 'day')} later" if self.days > 0 else ""
            said.append(f"Handed over {self.after:%a %-d %b %Y}{by}.")
        if self.late:
            said.append("The date is missed with it.")
        return " ".join(said)


def _listed(names: Sequence[str], most: int = 3) -> str:
    more = len(names) - most
    return ", ".join(names[:most]) + (f" and {more} more" if more > 0 else "")


@dataclass(frozen=True, slots=True, eq=False)
class AskChange:
    """Ask what it costs to paint some parts otherwise."""

    results: Results
    project: Project
    zones: tuple[str, ...]

    def __call__(self, progress: Progress) -> Impact:
        """Return the impact. Raises `Cancelled`."""
        project, results = self.project, self.results
        zones = project.back_to_front()
        mine = {k for k, zone in enumerate(zones) if zone.id in self.zones}
        moment = now()
        before = plan_of(results, [project], moment, progress=progress.part(0, 0.5))
        work, tasks = before.layout.works[0], before.layout.problem.tasks
        done = {tasks[k].key for k in before.layout.problem.done}
        touched = [task for task in work.tasks if task.kind in STROKES and mine & set(work.zones.get(task.id, ()))]
        again = tuple(task.key for task in touched if task.key in done)
        after = plan_of(results, [edits.mark_undone(project, list(again))], moment, progress=progress.part(0.5, 0.9))
        borders = []
        for border, _ in edges_of(results, project):
            if (border.front in mine) != (border.back in mine):
                other = border.back if border.front in mine else border.front
                borders.append(zones[other].name if other >= 0 else "the bare canvas")
        strays = [name for name, over in single_hairs(results, project) if mine & over]
        palette = palette_of(results, project)
        roles = {work.roles[task.id] for task in touched if work.roles.get(task.id)}
        piles = dict.fromkeys(
            one.name for role in sorted(roles) for k in sorted(mine) for one in ready_for(palette, role, k)
        )  # fmt: skip
        minutes = sum(task.minutes for task in touched if task.key in done)
        old, new = _handed(before, project), _handed(after, project)
        end = day_of(project.days.deadline)
        late = end is not None and new is not None and new.date() > end and not (old is not None and old.date() > end)
        return Impact(
            self.zones, again, tuple(dict.fromkeys(borders)), tuple(dict.fromkeys(strays)), tuple(piles), minutes, old, new, late
        )  # fmt: skip


def single_hairs(results: Results, project: Project) -> list[tuple[str, set[int]]]:
    """Return whiskers by name, and the parts they lie over, their own included, counted back to front.

    Those that were drawn lie where they were drawn; others somewhere in their part.
    """
    frame = map_frame(project)
    labels = labels_of(results, project, frame)
    made = []
    for k, zone in enumerate(project.back_to_front()):
        if zone.kind != "whisker":
            continue
        drawn = [one for one in features_in(results, project, k) if one.kind == "whiskers"]
        for feature in drawn:
            # A point a cell: thinner than that nothing lies beneath.
            lines = [frame.to_grid(stroke.line()) for stroke in feature.strokes]
            points = np.concatenate([resample(line, 2 + math.ceil(line_length(line))) for line in lines])
            j, i = np.floor(points).astype(int).T
            on = (i >= 0) & (j >= 0) & (i < frame.rows) & (j < frame.columns)
            made.append((feature.name or zone.name, {k, *np.unique(labels[i[on], j[on]]).tolist()}))
        if not drawn:
            made.append((zone.name, {k, *np.unique(labels[mask_of(results, project, k, frame)]).tolist()}))
    return made


def _handed(planned: Planned, project: Project) -> datetime | None:
    return planned.diary.done(project.name) if planned.plan.complete else None
