"""A window under test: real widgets, driven by events; a failing slot or a left-over task fails the test."""

import sys
import tempfile
import time
import unittest
from contextlib import ExitStack, contextmanager
from functools import partial
from pathlib import Path
from unittest import mock

import numpy as np
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest

from foxpath.derive.days.reading import AskForecast
from foxpath.derive.memo import Memo
from foxpath.window.shell.app import make_app
from foxpath.window.shell.main import MainWindow

REMEMBERED = Memo()
"""What is derived is remembered from one test to the next: the same small projects are opened again and again."""


COARSER = {
    "window.work.session.REHEARSAL_WIDTH": 500,
    "window.stops.rehearsal.stop.REHEARSAL_WIDTH": 500,
    "derive.progress.planned.WORK_PX": 600,
    "derive.reference.inspection.READ_CELLS": 256,
    "derive.reference.transfer.READ_CELLS": 256,
    "derive.frames.GROWTH_CELLS": 192,
    "derive.frames.MAP_CELLS": 512,
    "derive.growth.fields.EVIDENCE_PX": 700,
    "derive.edges.plan.EDGE_PX": 1500,
}
"""Coarser pictures and grids: what the window does with a rehearsal is tested, not how fine it is."""


@contextmanager
def on_grids(grids):
    """Work on such pictures and grids."""
    with ExitStack() as all_of_them:
        for where, value in grids.items():
            all_of_them.enter_context(mock.patch(f"foxpath.{where}", value))
        yield


class WindowCase(unittest.TestCase):
    """Opens a main window of 1280 x 800 and closes it again.

    Where a test needs other grids than `COARSER`, its class brings a memory of its own: one remembers of one grid.
    """

    coarser, remembered = COARSER, REMEMBERED

    def setUp(self):
        self.app = make_app()
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(
            mock.patch.dict(
                "os.environ", {"FOXPATH_STATE": str(self.dir / "state"), "FOXPATH_DATA": str(self.dir / "data")}
            )
        )
        self.slot_errors = []
        hook = mock.patch.object(sys, "excepthook", lambda *error: self.slot_errors.append(error))
        self.enterContext(hook)
        self.enterContext(on_grids(self.coarser))
        # A moment of looking for a better plan of sittings; how good it gets is tested elsewhere.
        self.enterContext(mock.patch("foxpath.window.stops.days.stop.SEARCH_S", 0.15))
        # So is how sure its dates are, which takes a fifth of the time of all that is tried in that stop.
        self.enterContext(mock.patch("foxpath.window.stops.days.stop.AskForecast", partial(AskForecast, samples=24)))
        # A session keeps its own memory; in tests it is the same one, and closing forgets nothing.
        self.enterContext(mock.patch("foxpath.window.work.session.Memo", lambda: self.remembered))
        self.enterContext(mock.patch.object(self.remembered, "clear"))
        self.window = MainWindow()
        self.window.session.runner.went_wrong.connect(self.slot_errors.append)
        self.window.show()
        self.app.processEvents()

    def tearDown(self):
        self.window._closing = True
        self.window.close()
        self.window.deleteLater()
        self.app.processEvents()
        self.assertEqual(self.slot_errors, [])
        self.assertFalse(self.window.session.runner.running())

    @property
    def session(self):
        return self.window.session

    @property
    def project(self):
        return self.window.session.project

    def wait(self, until, seconds=60.0):
        """Handle events until something holds."""
        end = time.monotonic() + seconds
        while not until():
            self.assertLess(time.monotonic(), end, "waited too long")
            self.app.processEvents()
            time.sleep(0.004)

    def settle(self):
        """Handle events until nothing is being worked out any more."""
        self.wait(lambda: not self.session.waiting() and not self.window.picture._overlay_soon.isActive())

    def readings(self):
        """Wait for the readings of the present project."""
        self.wait(
            lambda: (
                self.session.readings is not None
                and self.session.readings.project is self.project
                and self.session.readings.has_close(self.session.chosen.stop)
            )
        )
        return self.session.readings

    def screen(self, x, y):
        """A place of the reference as a point of the picture widget."""
        place = self.window.picture.viewport.at((x, y))
        return QPoint(round(place.x()), round(place.y()))

    def click(self, x, y, modifiers=Qt.KeyboardModifier.NoModifier):
        QTest.mouseClick(self.window.picture, Qt.MouseButton.LeftButton, modifiers, self.screen(x, y))

    def drag(self, *points, modifiers=Qt.KeyboardModifier.NoModifier):
        """Press, move through reference points, release."""
        view = self.window.picture
        line = [self.screen(*p) for p in points]
        QTest.mousePress(view, Qt.MouseButton.LeftButton, modifiers, line[0])
        for a, b in zip(line[:-1], line[1:], strict=True):
            for t in np.linspace(0, 1, 8)[1:]:
                at = QPointF(a) + (QPointF(b) - QPointF(a)) * float(t)
                self._move(at)
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, modifiers, line[-1])

    def _move(self, at):
        from PySide6.QtCore import QEvent
        from PySide6.QtGui import QMouseEvent

        view = self.window.picture
        event = QMouseEvent(
            QEvent.Type.MouseMove,
            at,
            QPointF(view.mapToGlobal(at.toPoint())),
            Qt.MouseButton.NoButton,
            Qt.MouseButton.LeftButton,
            Qt.KeyboardModifier.NoModifier,
        )
        self.app.sendEvent(view, event)

    def key(self, key, modifiers=Qt.KeyboardModifier.NoModifier, widget=None):
        QTest.keyClick(widget or self.window.picture, key, modifiers)
