"""The page of what was learned of the painter: each subject with how much stands behind it, to forget, to hand on and to take in."""

from dataclasses import dataclass
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from foxpath.core.errors import AppError
from foxpath.core.reporting import Progress
from foxpath.core.units import count_words
from foxpath.derive.easel.learned import learned_facts
from foxpath.document import edits, errors
from foxpath.document import learned as files
from foxpath.document.learned import Learned
from foxpath.document.model import Project
from foxpath.window.bench.bench import stack
from foxpath.window.bench.buttons import Buttons
from foxpath.window.bench.rows import Row, Section, TallRows, Words
from foxpath.window.work.session import Session

FILES = "What was learned (*.json)"
HINT = (
    "Choose a subject to forget it, here and for paintings to come. Errors are told by Progress; answers to drills "
    "stand at Practice."
)


class LearnedPage(QWidget):
    """Pace, drying, tubes: what this program thinks of its painter, and why."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.head = Section("Learned", "kept for every painting")
        self.rows = TallRows("what was learned")
        self.rows.chosen.connect(self._choose)
        self.words = Words(HINT, 12.5)
        self.acts = Buttons([("forget", "Forget it"), ("write", "To a file …"), ("read", "From a file …")], 2)
        self.acts.clicked.connect(self._act)
        stack(self, self.head, self.rows, self.words, self.acts)
        self._key = ""
        self._usual: tuple[tuple[str, int, int], ...] = ()

    def show_project(self, project: Project) -> None:
        """Show what a painting knows."""
        facts = learned_facts(project, self._usual)
        self.rows.set_rows(
            [Row(one.key, one.name, one.words, one.seen(), off=not one.count) for one in facts], self._key
        )
        known = any(one.key == self._key and one.count for one in facts)
        self.acts.show_only({"write", "read", *(("forget",) if known else ())})

    def read_errors(self) -> None:
        """Read which errors were told over all paintings; a file that is damaged says so."""
        try:
            self._usual = errors.usual()
        except AppError as failure:
            self._usual = ()
            self.session.said.emit(str(failure), "must")

    def _choose(self, key: str) -> None:
        self._key = "" if key == self._key else key
        if self.session.project is not None:
            self.show_project(self.session.project)

    def _act(self, key: str) -> None:
        project = self.session.project
        if project is None:
            return
        if key == "forget":
            self.forget(self._key)
        elif key == "write":
            path, _ = QFileDialog.getSaveFileName(None, "Where to", "learned.json", FILES)
            if path:
                self.session.write(WriteLearned(project, Path(path)))
        else:
            path, _ = QFileDialog.getOpenFileName(None, "What was learned", "", FILES)
            if path:
                self.take_in(Path(path))

    def forget(self, key: str) -> None:
        """Forget a subject in this painting and in what new ones begin with."""
        project = self.session.project
        facts = {one.key: one for one in learned_facts(project, self._usual)} if project is not None else {}
        if key not in facts:
            return
        name = facts[key].name.lower()
        # Errors lie in no painting: there is nothing to undo.
        if key == "errors" or self.session.edit(lambda p: edits.forget_learned(p, key), f"forget: {name}"):
            self._run(ForgetKept(key), f"Forgot what was learned: {name}.")

    def take_in(self, path: Path) -> None:
        """Take what another file holds into this painting, and into what new ones begin with."""
        self.session.runner.start(
            "take learned", TakeLearned(path), self._took, failed=lambda words: self.session.said.emit(words, "must"), writes=True
        )  # fmt: skip

    def _took(self, learned: Learned) -> None:
        self.session.edit(lambda p: files.with_learned(p, learned), "take in what was learned")
        told = f"{count_words(len(learned.pace), 'pass', 'passes')}, {count_words(len(learned.drying), 'note')}"
        self.session.said.emit(f"Took in {told} and {count_words(len(learned.tubes), 'tube')}.", "note")

    def _forgot(self, done: str) -> None:
        self.session.said.emit(done, "note")
        self.read_errors()
        if self.session.project is not None:
            self.show_project(self.session.project)

    def _run(self, request: "ForgetKept", done: str) -> None:
        self.session.runner.start(
            "forget learned", request, lambda _: self._forgot(done),
            failed=lambda words: self.session.said.emit(words, "must"), writes=True,
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class ForgetKept:
    """Forget a subject in the files that new paintings begin with."""

    key: str

    def __call__(self, progress: Progress) -> None:
        """Write them. Raises `AppError`."""
        progress.at(0, "forgetting")
        files.forget_kept(self.key)


@dataclass(frozen=True, slots=True)
class TakeLearned:
    """Read a file of what was learned, and keep it for new paintings."""

    path: Path

    def __call__(self, progress: Progress) -> Learned:
        """Return what it holds. Raises `AppError`."""
        progress.at(0, "reading what was learned")
        learned = files.read(self.path)
        files.keep(learned)
        return learned


@dataclass(frozen=True, slots=True, eq=False)
class WriteLearned:
    """Write what a painting knows of its painter to a file."""

    project: Project
    path: Path

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `AppError`."""
        progress.at(0, "writing what was learned")
        files.write(self.path, files.learned_in(self.project))
        return f"Wrote {self.path.name}"
