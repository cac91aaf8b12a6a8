"""Long work off the interface's thread: frozen, callable requests in our own pool.

A request is called with a `Progress`. A new request with the same key cancels the old one, and what
the old one still brings is dropped. Answers come back on the interface's thread, each exactly once.
What is written to the disk has a thread of its own: it never waits for a long reckoning, is written in
the order it was asked for, and is finished when the window closes.
"""

import itertools
import os
import threading
import time
import traceback
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QObject, Qt, Signal, Slot

from foxpath.core.errors import AppError
from foxpath.core.reporting import Cancelled, Progress
from foxpath.window.work.memory import give_back

Request = Callable[[Progress], Any]
"""Work that has captured its inputs; it may return anything."""

_LOWER_PRIORITY = 5
_SECONDS_BETWEEN_REPORTS = 0.05
_SECONDS_OF_LONG_WORK = 0.5


@dataclass(slots=True)
class _Task:
    number: int
    key: str
    request: Request
    done: Callable[[Any], None]
    failed: Callable[[str], None] | None
    part: Callable[[Any], None] | None
    writes: bool
    cancelled: threading.Event
    started: float = 0.0
    reported: float = 0.0


class Runner(QObject):
    """Runs requests in two threads of lower priority, so that the window stays smooth."""

    busy = Signal(str, float, str)
    """Key, share done and words of running work; emitted on the interface's thread."""
    idle = Signal(str)
    """Key of work that has ended, whatever the outcome."""
    went_wrong = Signal(str)
    """A failure nobody handles, in words."""
    _arrived = Signal(int, str, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._pool = ThreadPoolExecutor(max_workers=2, thread_name_prefix="foxpath", initializer=_step_back)
        self._writer = ThreadPoolExecutor(max_workers=1, thread_name_prefix="foxpath writes")
        self._numbers = itertools.count(1)
        self._tasks: dict[int, _Task] = {}
        self._latest: dict[str, int] = {}
        self._closed = False
        self._arrived.connect(self._deliver, Qt.ConnectionType.QueuedConnection)

    def start(
        self,
        key: str,
        request: Request,
        done: Callable[[Any], None],
        *,
        failed: Callable[[str], None] | None = None,
        part: Callable[[Any], None] | None = None,
        writes: bool = False,
    ) -> None:
        """Start work; `done` gets its result on this thread, unless newer work with this key was started.

        Parameters
        ----------
        key : str
            What the work is for; newer work for the same thing replaces it.
        request : callable
            Called with a `Progress` on a worker's thread.
        failed : callable, optional
            Gets the words of an `AppError`; other failures go to `went_wrong`.
        part : callable, optional
            Gets what the request hands on before it is done, on this thread.
        writes : bool
            Whether it writes what must not be lost: such work waits for none but its like, and closing waits for it.
        """
        if self._closed:
            return
        self.cancel(key)
        task = _Task(next(self._numbers), key, request, done, failed, part, writes, threading.Event())
        self._tasks[task.number] = task
        self._latest[key] = task.number
        (self._writer if writes else self._pool).submit(self._run, task)

    def cancel(self, key: str) -> None:
        """Cancel the work for a key; nothing of it arrives any more."""
        number = self._latest.pop(key, None)
        if number is not None and number in self._tasks:
            self._tasks[number].cancelled.set()

    def running(self, key: str = "") -> bool:
        """Tell whether work for a key (or any work) is still wanted and under way."""
        return key in self._latest if key else bool(self._latest)

    def close(self) -> None:
        """Cancel everything but what is being written, and wait for the threads."""
        self._closed = True
        for task in self._tasks.values():
            if not task.writes:
                task.cancelled.set()
        self._latest.clear()
        self._writer.shutdown(wait=True)
        self._pool.shutdown(wait=True, cancel_futures=True)

    def _run(self, task: _Task) -> None:
        task.started = time.monotonic()

        def report(share: float, words: str) -> None:
            now = time.monotonic()
            if now - task.reported >= _SECONDS_BETWEEN_REPORTS:
                task.reported = now
                self._arrived.emit(task.number, "progress", (share, words))

        def send(value: object) -> None:
            self._arrived.emit(task.number, "part", value)

        progress = Progress(report, task.cancelled.is_set, send)
        try:
            progress.at(0)
            outcome: tuple[str, object] = ("done", task.request(progress))
        except Cancelled:
            outcome = ("cancelled", None)
        except AppError as failure:
            outcome = ("failed", str(failure))
        except Exception:
            outcome = ("wrong", traceback.format_exc())
        try:
            self._arrived.emit(task.number, *outcome)
        except RuntimeError:
            # The window is gone; there is nobody to tell.
            return
        if time.monotonic() - task.started > _SECONDS_OF_LONG_WORK:
            give_back()

    @Slot(int, str, object)
    def _deliver(self, number: int, kind: str, value: Any) -> None:
        task = self._tasks.get(number)
        if task is None:
            return
        current = self._latest.get(task.key) == number
        if kind == "progress":
            if current and time.monotonic() - task.started > 0.25:
                self.busy.emit(task.key, *value)
            return
        if kind == "part":
            if current and task.part is not None:
                task.part(value)
            return
        del self._tasks[number]
        if current:
            del self._latest[task.key]
        try:
            if current and kind == "done":
                task.done(value)
            elif current and kind == "failed":
                if task.failed is not None:
                    task.failed(value)
                else:
                    self.went_wrong.emit(value)
            elif kind == "wrong":
                self.went_wrong.emit(value)
                if current and task.writes and task.failed is not None:
                    # Whoever waits for what was to be written must hear that it was not.
                    task.failed("Something went wrong with it.")
        finally:
            if current:
                self.idle.emit(task.key)


def _step_back() -> None:
    """Give a worker's thread less priority than the interface's."""
    try:
        os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), _LOWER_PRIORITY)
    except OSError:
        # Not allowed here: the work then runs as any other.
        return
