"""Undo and redo: a list of past projects, kept by reference."""

from dataclasses import dataclass

from foxpath.document.model import Project

DEEPEST = 500


@dataclass(frozen=True, slots=True)
class Step:
    """A past project and the words for what changed it."""

    project: Project
    words: str
    merge_key: str


class History:
    """The present project, what came before and what was undone.

    A `merge_key` joins the steps of one drag: as long as the same key comes again, undo goes back to
    before the first of them.
    """

    def __init__(self, project: Project) -> None:
        self.present = project
        self._past: list[Step] = []
        self._future: list[Step] = []
        self._saved: Project | None = project

    def do(self, project: Project, words: str, merge_key: str = "") -> None:
        """Take the next project, called e.g. "comb the near cheek"."""
        if project is self.present:
            return
        if not (merge_key and self._past and self._past[-1].merge_key == merge_key and not self._future):
            self._past.append(Step(self.present, words, merge_key))
            del self._past[:-DEEPEST]
        self._future.clear()
        self.present = project

    def seal(self) -> None:
        """End a drag: the next step with the same merge key is a step of its own."""
        if self._past:
            last = self._past[-1]
            self._past[-1] = Step(last.project, last.words, "")

    def undo(self) -> str:
        """Go one step back; returns what was undone, empty when there is nothing."""
        if not self._past:
            return ""
        step = self._past.pop()
        self._future.append(Step(self.present, step.words, ""))
        self.present = step.project
        return step.words

    def redo(self) -> str:
        """Go one step forward again; returns what was done, empty when there is nothing."""
        if not self._future:
            return ""
        step = self._future.pop()
        self._past.append(Step(self.present, step.words, ""))
        self.present = step.project
        return step.words

    @property
    def undo_words(self) -> str:
        """What undo would take back; empty when there is nothing."""
        return self._past[-1].words if self._past else ""

    @property
    def redo_words(self) -> str:
        """What redo would do again; empty when there is nothing."""
        return self._future[-1].words if self._future else ""

    def mark_saved(self, project: Project | None) -> None:
        """Remember which project is on disk; None when none is."""
        self._saved = project

    @property
    def saved(self) -> bool:
        """Whether the present project is the one on disk."""
        return self._saved is self.present
