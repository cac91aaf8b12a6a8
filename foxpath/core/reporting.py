"""How long work tells how far it is, and learns that it is no longer wanted."""

from collections.abc import Callable, Iterator


class Cancelled(BaseException):
    """Raised inside long work when it was cancelled; not an Exception, so that no handler swallows it."""


class Progress:
    """Reports a share done and checks for cancellation; what is reported never falls.

    Parameters
    ----------
    report : callable, optional
        Called with the share done (0..1) and a few words. May be called from any thread.
    cancelled : callable, optional
        Returns True once the work is no longer wanted.
    partial : callable, optional
        Takes what stands already, before the whole is done. May be called from any thread.
    """

    def __init__(
        self,
        report: Callable[[float, str], None] | None = None,
        cancelled: Callable[[], bool] | None = None,
        partial: Callable[[object], None] | None = None,
    ) -> None:
        self._report = report
        self._cancelled = cancelled
        self._partial = partial
        self._start = 0.0
        self._span = 1.0
        # Of the whole work; shared with every part of it.
        self._highest = [0.0]

    def part(self, start: float, stop: float) -> "Progress":
        """Return a progress for a part of the work, from `start` to `stop` of the whole (0..1)."""
        child = Progress(self._report, self._cancelled, self._partial)
        child._start = self._start + self._span * start
        child._span = self._span * (stop - start)
        child._highest = self._highest
        return child

    def parts(self, count: int) -> Iterator["Progress"]:
        """Return even parts of the work, one after the other."""
        return (self.part(k / count, (k + 1) / count) for k in range(count))

    def hand_on(self, value: object) -> None:
        """Hand on what stands already."""
        if self._partial is not None:
            self._partial(value)

    def is_cancelled(self) -> bool:
        """Tell whether the work is no longer wanted, without raising."""
        return self._cancelled is not None and self._cancelled()

    def at(self, share: float, words: str = "") -> None:
        """Report a share done of this part (0..1).

        A share less than one reported before, as a step that was known already and is asked about again reports it, counts as that.

        Raises
        ------
        Cancelled
            When the work is not wanted.
        """
        if self.is_cancelled():
            raise Cancelled
        if self._report is not None:
            share = self._start + self._span * min(max(share, 0.0), 1.0)
            self._highest[0] = max(self._highest[0], share)
            self._report(self._highest[0], words)


SILENT = Progress()
"""For work that nobody watches and nobody cancels."""
