"""All that works on a painting: the session, the picture, the course and the stops."""

import gc

from PySide6.QtWidgets import QMainWindow, QWidget

from foxpath.window.picture.view import PictureView
from foxpath.window.shell.course import Course
from foxpath.window.stops import STOPS
from foxpath.window.stops.base import Stop
from foxpath.window.stops.rehearsal.stop import RehearsalStop
from foxpath.window.work.session import Session


class Studio:
    """Made when the first painting is opened, so that the window need not wait for it.

    Parameters
    ----------
    window : QMainWindow
        Owns the session.
    body : QWidget
        Holds the picture and the course; both are hidden until a painting is open.
    """

    def __init__(self, window: QMainWindow, body: QWidget) -> None:
        # What is loaded by now stays for good: the collector need not walk it while a hand is drawing.
        gc.freeze()
        gc.set_threshold(20_000, 20, 50)
        self.session = Session(window)
        self.course = Course(body)
        self.picture = PictureView(self.session, body)
        self.stops: dict[str, Stop] = {one.key: one.load()(self.session, self.picture, window) for one in STOPS}
        self.rehearsal = next(stop for stop in self.stops.values() if isinstance(stop, RehearsalStop))
