"""Requests to rehearse, to play a pass, to read what came out, and to save it."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from foxpath.core.arrays import Rgb8
from foxpath.core.rehearsal.reading import ZoneReading, differences
from foxpath.core.rehearsal.stage import Standing, bare_canvas, keep, lay, resume
from foxpath.core.reporting import Progress
from foxpath.derive.edges.plan import edges_of, ids_of
from foxpath.derive.rehearsal.finish import Finish, read_finish
from foxpath.derive.rehearsal.painting import Rehearsed, build_up, by_turns, laid_in, pass_colours, rehearse, size_for
from foxpath.derive.rehearsal.reading import read_painting
from foxpath.derive.rehearsal.softness import rehearsed_widths
from foxpath.derive.results import Results
from foxpath.document.model import Project
from foxpath.sheets import Painted, write_film, write_layers_file, write_png


@dataclass(frozen=True, slots=True)
class Rehearse:
    """Rehearse every pass; each is handed on as soon as it stands, with its small picture and its colours."""

    results: Results
    project: Project
    width: int
    thumbnail: tuple[int, int]

    def __call__(self, progress: Progress) -> list[Rehearsed]:
        """Return all passes. Raises `Cancelled`."""

        def each(number: int, one: Rehearsed) -> None:
            small = small_picture(one.standing.shown, self.thumbnail)
            progress.hand_on((number, one, small, pass_colours(self.results, self.project, one.plan)))

        return rehearse(self.results, self.project, self.width, progress, each)


@dataclass(frozen=True, slots=True, eq=False)
class OtherPainting:
    """A painting in another school: how it stands after the last pass of each act, in their order, and how near it comes.

    `mean` and `worst` are differences to the reference over its zones (CIEDE2000), weighed by area and at most.
    """

    after: dict[str, Rgb8]
    mean: float
    worst: float


OTHER_WIDTH = 1000
"""Pixels across a painting that is only looked at beside the other: it has half the room."""


@dataclass(frozen=True, slots=True)
class RehearseOther:
    """Rehearse a painting that is only looked at, and read it."""

    results: Results
    project: Project
    width: int = OTHER_WIDTH

    def __call__(self, progress: Progress) -> OtherPainting:
        """Return it. Raises `Cancelled`."""
        done = rehearse(self.results, self.project, self.width, progress.part(0, 0.8), keep=False)
        after: dict[str, Rgb8] = {}
        for one in done:
            # What comes last stands last, even where an act is taken up again.
            after.pop(one.plan.role.act, None)
            after[one.plan.role.act] = np.ascontiguousarray(one.standing.shown)
        read = read_painting(self.results, self.project, done[-1].standing.shown, progress.part(0.8, 1)) if done else ()
        return OtherPainting(after, *differences(list(read)))


@dataclass(frozen=True, slots=True, eq=False)
class ReadPainted:
    """Read how wide the edges came out in a rehearsal."""

    results: Results
    project: Project
    standing: Standing

    def __call__(self, progress: Progress) -> tuple[Project, dict[tuple[str, str], float]]:
        """Return the project, and their widths, mm, by the ids of their zones; NaN without a clear step. Raises `Cancelled`."""
        edges = edges_of(self.results, self.project)
        found = rehearsed_widths(self.standing.shown, self.project, edges, progress)
        return self.project, {ids_of(self.project, border): found[border.front, border.back] for border, _ in edges}


@dataclass(frozen=True, slots=True, eq=False)
class ReadZones:
    """Read a rehearsal zone by zone against reference and plan."""

    results: Results
    project: Project
    standing: Standing

    def __call__(self, progress: Progress) -> tuple[Project, tuple[ZoneReading, ...], Finish]:
        """Return the project, the readings, the farthest off first, and how the rules are kept. Raises `Cancelled`."""
        shown = self.standing.shown
        zones = read_painting(self.results, self.project, shown, progress)
        return self.project, zones, read_finish(self.results, self.project, shown, progress)


FILM_WIDTH, FRAMES_A_PASS, SCRUBBED = 900, 14, 20


@dataclass(frozen=True, slots=True)
class SaveRehearsal:
    """Write the rehearsal: layers as OpenRaster (.ora), a film of the build-up (.webp, .gif), or a picture a pass (.png)."""

    results: Results
    project: Project
    path: Path
    width: int

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `Cancelled` or `AppError`."""
        if self.path.suffix.lower() == ".ora":
            done = rehearse(self.results, self.project, self.width, progress)
            count = write_layers_file([Painted(one.plan.role.name, one.standing.shown) for one in done], self.path)
            return f"Saved {self.path.name}: {count} layers, one a pass."
        if self.path.suffix.lower() == ".png":
            done = rehearse(self.results, self.project, self.width, progress)
            for number, one in enumerate(done, 1):
                named = self.path.with_name(f"{self.path.stem}-{number:02d}.png")
                write_png(one.standing.shown, named, self.width / self.project.canvas.width_mm)
            return f"Saved {len(done)} pictures, {self.path.stem}-01.png and on."
        count = write_film(film_frames(self.results, self.project, min(self.width, FILM_WIDTH), progress), self.path)
        return f"Saved {self.path.name}: a film of {count} pictures."


def film_frames(results: Results, project: Project, width: int, progress: Progress) -> list[Rgb8]:
    """Return pictures of the painting coming up, pass by pass, mark by mark. Raises `Cancelled`."""
    frames: list[Rgb8] = []
    done = rehearse(results, project, width, progress.part(0, 0.3))
    for number in range(len(done)):
        part = progress.part(0.3 + 0.7 * number / len(done), 0.3 + 0.7 * (number + 1) / len(done))
        steps = build_up(results, project, width, number, FRAMES_A_PASS, part)
        frames += [standing.shown for _, _, standing in steps]
    return frames


def small_picture(rgb: Rgb8, within: tuple[int, int]) -> Rgb8:
    """Average a picture down to fit within a size."""
    import cv2

    height, width = rgb.shape[:2]
    scale = min(within[0] / width, within[1] / height)
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    return np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)


@dataclass(frozen=True, slots=True)
class StandAt:
    """Paint a pass up to a share of its marks."""

    results: Results
    project: Project
    width: int
    number: int
    share: float

    def __call__(self, progress: Progress) -> tuple[int, int, Rgb8]:
        """Return the marks laid, the marks of the pass, and the picture."""
        before = rehearse(self.results, self.project, self.width, progress)
        plan = before[self.number].plan
        columns, rows, px_per_mm = size_for(self.project, self.width)
        groups = laid_in(self.results, self.project, [one.plan for one in before[: self.number]], plan, progress)
        total = sum(len(marks.half_mm) for marks in groups)
        if self.share >= 1:
            return total, total, before[self.number].standing.shown
        if plan.role.veil is not None:
            steps = build_up(self.results, self.project, self.width, self.number, SCRUBBED, progress)
            shown = [standing.shown for _, _, standing in steps]
            return 0, 0, shown[min(round(self.share * SCRUBBED), len(shown) - 1)]
        canvas = resume(before[self.number - 1].standing) if self.number else bare_canvas(columns, rows)
        left = round(total * self.share)
        for marks in groups:
            if left <= 0:
                break
            lay(canvas, [marks.first(left)], px_per_mm, progress)
            left -= len(marks.half_mm)
        return round(total * self.share), total, keep(canvas).shown


TURN_S = 1.2
"""Seconds for which the painting is shown after each turn, at the usual speed."""


@dataclass(frozen=True, slots=True)
class PlayTurns:
    """Show the painting turn by turn of its order of work, at a steady pace."""

    results: Results
    project: Project
    width: int
    work: str
    speed: Callable[[], float] = lambda: 1.0
    """Asked at each turn: how many times as fast as usual, over 0."""

    def __call__(self, progress: Progress) -> None:
        """Hand on (turn, picture) for each turn. Raises `Cancelled`."""
        import time

        for turn, standing in by_turns(self.results, self.project, self.width, progress.part(0, 0.9), self.work):
            progress.hand_on((turn, standing.shown))
            due = time.monotonic() + TURN_S / self.speed()
            while time.monotonic() < due:
                progress.at(0.9)
                time.sleep(min(0.02, max(0.0, due - time.monotonic())))


@dataclass(frozen=True, slots=True)
class Play:
    """Paint one pass slice by slice, at a steady pace."""

    results: Results
    project: Project
    width: int
    number: int
    seconds: float = 5.0
    steps: int = 60
    speed: Callable[[], float] = lambda: 1.0
    """Asked at each slice: how many times as fast as usual, over 0."""

    def __call__(self, progress: Progress) -> None:
        """Hand on (marks laid, marks of the pass, picture) for each slice. Raises `Cancelled`."""
        import time

        pause = self.seconds / self.steps
        due = time.monotonic()
        for laid, total, standing in build_up(
            self.results, self.project, self.width, self.number, self.steps, progress
        ):
            progress.hand_on((laid, total, standing.shown))
            due += pause / self.speed()
            while time.monotonic() < due:
                progress.at(laid / max(total, 1))
                time.sleep(min(0.02, max(0.0, due - time.monotonic())))
