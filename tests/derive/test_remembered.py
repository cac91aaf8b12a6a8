"""What is remembered is what would be derived anew: after every edit there is, on both demos, byte for byte."""

import inspect
import os
import unittest
from contextlib import ExitStack
from dataclasses import fields, is_dataclass
from datetime import date
from unittest import mock

import numpy as np

from foxpath.core.fingerprint import fingerprint
from foxpath.core.mixes import palette
from foxpath.core.reporting import SILENT
from foxpath.demo.load import demo_project
from foxpath.derive import Results, frames
from foxpath.derive.edges import plan as edge_plan
from foxpath.derive.growth import fields as growth_fields
from foxpath.derive.lengths.overlay import GrowthOverlay
from foxpath.derive.mixes import reading as mixes
from foxpath.derive.mixes import wants
from foxpath.derive.readings import Read
from foxpath.derive.reference import inspection, transfer
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.subjects import SUBJECTS
from foxpath.document import edits
from foxpath.document.model import Project
from tests.every_edit import EDITS, NO_EDITS

WIDTH = 160
SMALL = (
    (frames, "GROWTH_CELLS", 64),
    (frames, "MAP_CELLS", 160),
    (growth_fields, "EVIDENCE_PX", 240),
    (edge_plan, "EDGE_PX", 120),
    (inspection, "READ_CELLS", 128),
    (transfer, "READ_CELLS", 128),
    (wants, "MOST_COLOURS", 1),
    (palette, "FEWEST", 4),
    (palette, "MOST", 5),
    (palette, "SAME", 9.0),
    (palette, "NEAR", 12.0),
    (mixes, "EXPLAINED", 1),
)
"""Coarse grids and few piles: what follows from what is the same with them, and is worked out in a tenth of the time."""


def plainly(value):
    """Return a value as tuples of plain ones, whatever it is made of; a project, a picture and what can be called are left out."""
    if isinstance(value, Project) or callable(value):
        return None
    if is_dataclass(value):
        return (type(value).__name__, *(plainly(getattr(value, f.name)) for f in fields(value)))
    if isinstance(value, dict):
        return tuple((plainly(k), plainly(v)) for k, v in value.items())
    if isinstance(value, (tuple, list)):
        return tuple(plainly(one) for one in value)
    if isinstance(value, (set, frozenset)):
        return tuple(sorted(plainly(one) for one in value))
    return value.isoformat() if isinstance(value, date) else value


def thinned(project: Project) -> Project:
    """Return a project with a tenth of the marks and half the tubes: what follows from what is the same."""
    project = edits.take_tubes(project, project.mixes.tubes[:6])
    for key, role in project.roles.items():
        project = edits.set_pass(project, key, coverage=max(0.1 * role.coverage, 0.04))
    return project


def shown(known: Results, project: Project) -> dict[str, bytes]:
    """Return fingerprints of what the window shows of a project: every reading, every pass, the growth's overlay."""
    readings = Read(known, project, tuple(one.key for one in SUBJECTS))(SILENT)
    told = {
        name: fingerprint(plainly(getattr(readings, name)))
        for name in ("zones", "numbers", "facts", "tags", "findings")
    }
    for one in SUBJECTS:
        for read in (readings.of(one), readings.close(one)):
            if read is not None:
                told |= {
                    f"{one.key} {f.name}": fingerprint(plainly(getattr(read, f.name)))
                    for f in fields(read)
                    if f.name != "now"
                }
    for one in rehearse(known, project, WIDTH):
        told[one.plan.role.key] = fingerprint(one.standing.shown, one.marks, one.area_cm2, one.l_min, one.l_max)
    affine = np.array([[0.3, 0, 0], [0, 0.3, 0]])
    told["overlay"] = fingerprint(GrowthOverlay(known, project, affine, 200, 160, 20.0)(SILENT))
    return told


class Remembered:
    """The same for each demo: two modules, so that two processes share the work."""

    demo = ""

    @staticmethod
    def groups(names):
        """Return the edits a quarter at a time: what is stale after one is stale after them all, in a fraction of the time."""
        return [names[k::4] for k in range(4)]

    @classmethod
    def setUpClass(cls):
        small = ExitStack()
        # The minute in which it is read is in what is shown of the days.
        small.enter_context(mock.patch.dict(os.environ, {"FOXPATH_NOW": "2026-03-02T12:00"}))
        cls.addClassCleanup(small.close)
        for where, name, value in SMALL:
            small.enter_context(mock.patch.object(where, name, value))
        cls.project = thinned(demo_project(cls.demo))
        cls.known = Results()
        cls.before = shown(cls.known, cls.project)

    def test_after_every_edit_what_is_remembered_is_what_would_be_derived_anew(self):
        stirred = set()
        for group in self.groups(list(EDITS)):
            with self.subTest(edits=group):
                made = self.project
                for name in group:
                    made = EDITS[name](made)
                warm, cold = shown(self.known, made), shown(Results(), made)
                self.assertEqual([k for k in cold if warm.get(k) != cold[k]], [])
                self.assertEqual(list(warm), list(cold))
                stirred |= {k for k in cold if self.before.get(k) != cold[k]}
        # The edits together reach everything: what none of them changes would be tested by none.
        nothing = fingerprint(()), fingerprint(None)
        self.assertEqual([key for key, told in self.before.items() if key not in stirred and told not in nothing], [])

    def test_taken_back_all_is_as_it_was(self):
        self.assertEqual(shown(self.known, self.project), self.before)


class RememberedOfTheFox(Remembered, unittest.TestCase):
    demo = "fox"


class EveryEdit(unittest.TestCase):
    def test_none_is_left_out(self):
        there = {
            name
            for name, function in inspect.getmembers(edits, inspect.isfunction)
            if next(iter(inspect.signature(function).parameters), "") == "project"
        }
        tried = {name.split(",")[0] for name in EDITS}
        self.assertEqual(there - NO_EDITS - tried, set())
        self.assertEqual(tried - there, set())


if __name__ == "__main__":
    unittest.main()
