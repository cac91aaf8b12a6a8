"""Where photographs of the canvas come from: a folder that is watched, or a stand-in camera before a rehearsal of the plan."""

import io
import os
from dataclasses import dataclass, field
from datetime import datetime
from pathlib import Path
from typing import Protocol

import numpy as np

from foxpath.core.arrays import Rgb8
from foxpath.core.clock import now
from foxpath.core.errors import AppError
from foxpath.core.progress.camera import another_hand, photograph, some_room
from foxpath.core.progress.faults import Fault, with_faults
from foxpath.core.progress.small import resized
from foxpath.core.reference.picture import read_picture
from foxpath.core.reporting import SILENT, Progress
from foxpath.derive.progress import planned as planning
from foxpath.derive.progress.planned import painted_passes, planned_for, resolved_pass
from foxpath.derive.rehearsal.painting import one_by_one
from foxpath.derive.results import Results
from foxpath.document import edits
from foxpath.document.model import CanvasPhoto, Project, Reference
from foxpath.document.photos import check_picture, kept_photo, taken_at

ENDINGS = (".jpg", ".jpeg", ".png", ".tif", ".tiff", ".webp", ".heic")
A_HAND = 104729
MOST_AT_ONCE = 20


@dataclass(frozen=True, slots=True)
class Taken:
    """A photograph as it comes from a camera: its name and its bytes."""

    name: str
    data: bytes


class Camera(Protocol):
    """Something photographs of the canvas come from."""

    def new(self, progress: Progress = SILENT) -> list[Taken]:
        """Return the photographs that have come since it was last asked. Raises `AppError`, `Cancelled`."""
        ...


@dataclass(slots=True)
class FolderCamera:
    """A folder that a camera or a phone puts its photographs in; what lies there already when it is first asked is no news.

    Attributes
    ----------
    folder : Path
    """

    folder: Path
    _known: dict[str, tuple[int, int]] = field(default_factory=dict)
    _waiting: dict[str, tuple[int, int]] = field(default_factory=dict)
    _begun: bool = False

    def new(self, progress: Progress = SILENT) -> list[Taken]:
        """Return new photographs; one that is still being written waits until its size stands still. Raises `AppError`."""
        progress.at(0)
        here = self._listing()
        if not self._begun:
            self._known, self._begun = here, True
            return []
        fresh = {name: state for name, state in here.items() if self._known.get(name) != state}
        ready = [name for name, state in fresh.items() if self._waiting.get(name) == state and state[0] > 0]
        self._waiting = fresh
        made = []
        for name in sorted(ready)[:MOST_AT_ONCE]:
            try:
                made.append(Taken(name, (self.folder / name).read_bytes()))
            except OSError:
                # It is being moved: the next time it is asked for.
                continue
            self._known[name] = fresh[name]
        return made

    def _listing(self) -> dict[str, tuple[int, int]]:
        try:
            with os.scandir(self.folder) as entries:
                return {
                    one.name: (one.stat().st_size, one.stat().st_mtime_ns)
                    for one in entries
                    if one.name.lower().endswith(ENDINGS) and not one.name.startswith(".") and one.is_file()
                }
        except OSError as failure:
            reason = (failure.strerror or str(failure)).lower()
            raise AppError(f"{self.folder} cannot be watched: {reason}.", "Choose another folder.") from None


@dataclass(slots=True)
class StandInCamera:
    """A stand-in: photographs a rehearsal of the plan by another hand, with faults in it, in some room; each photograph another one.

    Attributes
    ----------
    results : Results
    project : Project
    after : str
        The last pass that is done (see `resolved_pass`).
    seed : int
    faults : int
        How many are put in.
    long_px : int
        Longer side of the photograph.
    cut, glare : bool or None
        Whether a side is cut off and a lamp is mirrored; by chance without.
    """

    results: Results
    project: Project
    after: str
    seed: int = 1
    faults: int = 5
    long_px: int = 3000
    cut: bool | None = None
    glare: bool | None = None
    put: tuple[Fault, ...] = ()
    corners: np.ndarray = field(default_factory=lambda: np.zeros((4, 2)))

    def new(self, progress: Progress = SILENT) -> list[Taken]:
        """Return one photograph more; `put` and `corners` say what is in it. Raises `Cancelled`, `InputError` where nothing is planned."""
        from PIL import Image

        after = resolved_pass(self.results, self.project, self.after)
        keys = [plan.role.key for plan in painted_passes(self.results, self.project)]
        progress.at(0, "painting it by another hand")
        hand = edits.another_hand(self.project, A_HAND + self.seed)
        number = keys.index(after)
        painted = None
        for k, one in enumerate(one_by_one(Results(), hand, planning.WORK_PX, progress.part(0, 0.4))):
            if k == number:
                painted = np.ascontiguousarray(one.standing.shown)
                break
        assert painted is not None
        planned = planned_for(self.results, self.project, after, progress.part(0.4, 0.8))
        painted = another_hand(painted, planned.px_per_mm, self.seed)
        self.put = ()
        if self.faults:
            painted, self.put = with_faults(planned, painted, self.seed, self.faults)
        progress.at(0.85, "photographing it")
        room = some_room(self.seed, self.long_px, cut=self.cut, glare=self.glare)
        rgb, self.corners = photograph(painted, room, self.seed)
        packed = io.BytesIO()
        Image.fromarray(rgb).save(packed, "JPEG", quality=room.quality, subsampling=0)
        taken = Taken(f"canvas-{self.seed}.jpg", packed.getvalue())
        self.seed += 1
        return [taken]


@dataclass(frozen=True, slots=True, eq=False)
class Kept:
    """A photograph as the project keeps it: its record, when it was taken, and the last pass that was done then."""

    reference: Reference
    moment: datetime
    after: str


@dataclass(frozen=True, slots=True, eq=False)
class KeepTaken:
    """Make what comes from a camera fit to be kept: upright, bounded in size, with its moment and its pass."""

    results: Results
    project: Project
    taken: Taken

    def __call__(self, progress: Progress) -> Kept:
        """Return it. Raises `PictureError` for what is no photograph, `InputError` where nothing is planned."""
        progress.at(0, "taking the photograph in")
        reference = kept_photo(self.taken.name, self.taken.data)
        check_picture(reference)
        after = resolved_pass(self.results, self.project, "last")
        return Kept(reference, taken_at(self.taken.data) or now(), after)


@dataclass(frozen=True, slots=True, eq=False)
class SmallPhoto:
    """Make the small picture of a photograph."""

    photo: CanvasPhoto
    longest: int

    def __call__(self, progress: Progress) -> tuple[str, Rgb8]:
        """Return the photograph's digest and its small picture."""
        progress.at(0)
        reference = self.photo.reference
        rgb = read_picture(reference.data, reference.name).rgb
        return reference.digest, np.ascontiguousarray(resized(rgb, min(1.0, self.longest / max(rgb.shape[:2]))))
