"""Damaged and hostile input, made from a seed: ``./fox hammer [--n N] [--seed S]``.

Whatever comes in, nothing may escape but an error with a message that says what to do; and what is accepted must be derivable to the
last reading and a small rehearsal, in bounded time and memory. Each case is told by its number, so that one can be run again:
``./fox hammer --case K --seed S``.
"""

import argparse
import contextlib
import io
import json
import multiprocessing
import os
import random
import resource
import signal
import sys
import time
import traceback
import warnings
import zipfile
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any
from unittest import mock

import numpy as np

from foxpath.cli import main
from foxpath.core.days.studio import DryNote, Laid
from foxpath.core.errors import AppError
from foxpath.core.log.entries import Entry
from foxpath.core.mixes import palette
from foxpath.core.mixes.tubes import OwnTube
from foxpath.core.progress.touches import Touch
from foxpath.core.reference import read_picture
from foxpath.core.reference.light import Catchlight, Light
from foxpath.core.reporting import SILENT
from foxpath.core.units import CanvasSize
from foxpath.derive import Results, frames
from foxpath.derive.book import plan_record
from foxpath.derive.edges import plan as edge_plan
from foxpath.derive.growth import fields as growth_fields
from foxpath.derive.memo import Memo
from foxpath.derive.mixes import reading as mixes
from foxpath.derive.mixes import wants
from foxpath.derive.readings import Read
from foxpath.derive.reference import inspection
from foxpath.derive.reference.inspection import Inspect
from foxpath.derive.rehearsal import reading
from foxpath.derive.rehearsal.painting import rehearse
from foxpath.derive.subjects import SUBJECTS
from foxpath.derive.warm import warm
from foxpath.document import archive, edits
from foxpath.document.model import Project
from foxpath.document.photos import kept_photo

MOST_SECONDS = 12.0
"""Processor time of a case: what takes longer hangs, to whoever waits. Not by the clock, which a busy machine stretches."""
STANDING = 6
"""A case that waits for something that never comes takes no processor time: it is given up after so many times as long by the clock."""
JOBS = min(2, os.cpu_count() or 1)
MOST_BYTES = 6 * 2**30
"""Address space of the whole run: what asks for more is refused by the system, and seen."""
ODD: tuple[Any, ...] = (
    0, -1, 1, 2, 1e-9, -1e-9, 0.5, 1e6, -1e6, 1e300, 10**400, 2**63, float("inf"), None, True, "", "x", "\ud800", "é" * 300,
    [], {}, [[]], [0, 0], [[0, 0]], [1e6, 1e6],
)  # fmt: skip
"""What a number or a text may be replaced by."""


def picture(width: int, height: int, kind: str = "PNG", mode: str = "RGB") -> bytes:
    """Return the bytes of a picture: ramps with a blob."""
    from PIL import Image

    y, x = np.mgrid[0:height, 0:width] / max(width, height, 1)
    blob = np.exp(-(((x - 0.5) / 0.2) ** 2) - ((y - 0.4) / 0.2) ** 2)
    rgb = np.stack([0.3 + 0.6 * blob, 0.4 + 0.2 * blob, 0.55 - 0.3 * blob + 0.2 * x], axis=-1)
    made = io.BytesIO()
    Image.fromarray((np.clip(rgb, 0, 1) * 255).astype(np.uint8)).convert(mode).save(made, kind)
    return made.getvalue()


def whole() -> Project:
    """Return a small project in which something of everything is said."""
    made = edits.new_project(picture(160, 128), "hammered.png", CanvasSize(250, 200), "Hammered")
    square = np.array([[30.0, 24], [100, 24], [100, 90], [30, 90]])
    made, coat = edits.add_zone(made, "Coat", "long-fur", square)
    made, plumes = edits.add_zone(made, "Plumes", "covert", square + (34, 20))
    made, _ = edits.add_zone(made, "Eye", "eye", np.array([[60.0, 40], [76, 40], [76, 52], [60, 52]]))
    made, mark = edits.add_zone(made, "Bar", "marking", np.array([[40.0, 60], [70, 60], [70, 72], [40, 72]]))
    made, _ = edits.add_comb(made, np.array([[40.0, 34], [90, 36]]), coat)
    made, _ = edits.add_comb(made, np.array([[80.0, 60], [110, 90]]), plumes)
    made, _ = edits.add_mark(made, "crown", coat, np.array([[60.0, 70], [70, 76]]), 40.0)
    made, _ = edits.add_mark(made, "donor", plumes, source=coat)
    made = edits.set_edge(made, coat, made.zones[0].id, "soft", 7.0)
    made, _ = edits.add_stretch(made, coat, made.zones[0].id, square[:3], 3.0)
    made, _ = edits.add_fan(made, plumes, np.array([[90.0, 70], [110, 100]]), np.array([[110.0, 60], [130, 90]]), 5)
    made = edits.measure_hair(made, coat, np.array([[50.0, 50], [70, 52]]))
    made = edits.set_form(made, coat, kind="ball", line=((60.0, 60.0), (90.0, 60.0)))
    rim = np.array([[62.0, 46], [74, 46], [68, 40], [68, 52], [64, 42], [72, 50]])
    made, _ = edits.mark_rim(made, rim)
    made, nose = edits.add_feature(made, "nose")
    made = edits.add_stroke(made, nose, "skin", np.array([[60.0, 70], [72, 70], [70, 80], [62, 80]]))
    made, lent = edits.lend(made, picture(60, 48), "further.png", "coat")
    made = edits.cut_lent(made, lent, np.array([[10.0, 8], [50, 8], [50, 40], [10, 40]]))
    made = edits.set_correction(made, grey=(20.0, 20.0), exposure=0.3)
    made = edits.set_light(made, Light())
    made = edits.mark_catchlight(made, Catchlight((68.0, 46.0), 6.0, (66.0, 44.0)))
    made = edits.set_drawing(made, picture(100, 80), "drawing.png")
    made = edits.set_pass(made, "lights", l_low=30.0, left_out=(mark,))
    made = edits.take_tubes(made, made.mixes.tubes[:5])
    made = edits.add_own_tube(made, OwnTube("", "Olive", (38.0, -4.0, 18.0), (68.0, -3.0, 22.0)))
    made, pile = edits.start_pile(made, "rust", (45.0, 15.0, 22.0), (("PW6", 2.0), ("PBr7-BU", 3.0)), 4.0, "2026-11-02")
    made = edits.look_at_pile(made, pile, (42.0, 12.0, 20.0))
    made = edits.set_mixes(made, mother=(("PB29", 1.0), ("PBr7-BU", 2.0)), pure=0.1)
    made = edits.set_days(
        made, start="2026-03-02", deadline="2026-06-01", alkyd=0.1, daylight=True, air_from=4, air_to=10
    )
    made = edits.set_away(made, date(2026, 3, 9), date(2026, 3, 12))
    evening = datetime(2026, 3, 3, 19, 15)  # noqa: DTZ001  (local, as every time of a plan)
    made = edits.take_busy(made, [(evening, evening + timedelta(hours=1))])
    rows = [
        Laid("support", "2026-03-03T19:15", "2026-03-03T20:15"),
        Laid("drawing", "2026-03-07T10:15", "2026-03-07T11:00"),
    ]
    made = edits.mark_done(edits.take_plan(made, rows), rows[:1])
    made = edits.hold_tasks(made, ["drawing"], evening, evening + timedelta(days=9))
    made, _ = edits.add_photo(made, kept_photo("canvas.png", picture(500, 420)), evening, "darks")
    made = edits.depart(made, coat, "shadow", lightness=-6.0, warmth=4.0, soft_mm=1.0, note="evening")
    made = edits.depart(made, "", "far", lightness=8.0, strength=0.7)
    made = edits.say_touch(
        made, Touch("", "value", coat, (60.0, 50.0), "todo", "Glaze it thin.", "flat", "pile 3", 9, True)
    )
    made = edits.leave_alone(made, square[:3])
    note = DryNote("support", "PW6", "white", 30.0, "2026-03-03T20:15")
    made = edits.note_drying(made, note, "tacky", evening + timedelta(hours=9))
    made = edits.tell(made, "begin", evening)
    made = edits.begin_step(made, Entry("", "step", "", "drawing", "drawing", "all", "Drawing"), evening)
    made = edits.tell(made, "note", evening, text="linen", part="bib")
    made = edits.correct(made, made.told[-1].ref, "cotton", evening)
    return edits.set_way(made, "finish", "loose")


def packed(fields: object, pictures: dict[str, bytes]) -> bytes:
    """Return the bytes of a project's file; what JSON cannot say is said all the same."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w") as file:
        file.writestr("project.json", json.dumps(fields, allow_nan=True), zipfile.ZIP_DEFLATED)
        for name, data in pictures.items():
            file.writestr(name, data)
    return made.getvalue()


def damaged(value: Any, rng: random.Random, share: float) -> Any:
    """Return fields in which some values are replaced, dropped or doubled."""
    if rng.random() < share:
        return rng.choice(ODD)
    if isinstance(value, dict):
        return {key: damaged(one, rng, share) for key, one in value.items() if rng.random() > share}
    if isinstance(value, list):
        rows = [damaged(one, rng, share) for one in value if rng.random() > share]
        return rows + rows[:1] if rows and rng.random() < share else rows
    if isinstance(value, (int, float)) and not isinstance(value, bool) and rng.random() < 4 * share:
        return rng.choice([-value, value * 1e-3, value * 1e3, value + 1e-9, 0.0])
    return value


def leaves(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Return the way to every number in fields."""
    if isinstance(value, dict):
        return [way for key, one in value.items() for way in leaves(one, (*path, key))]
    if isinstance(value, list):
        return [way for k, one in enumerate(value) for way in leaves(one, (*path, k))]
    return [path] if isinstance(value, (int, float)) and not isinstance(value, bool) else []


def strained(value: Any, rng: random.Random) -> Any:
    """Return fields with one to three numbers at what may just be allowed."""
    made = json.loads(json.dumps(value))
    for way in rng.sample(leaves(made), rng.choice([1, 1, 2, 3])):
        place = made
        for step in way[:-1]:
            place = place[step]
        now = place[way[-1]]
        place[way[-1]] = rng.choice(
            [
                0,
                1,
                -1,
                0.001,
                0.05,
                0.5,
                5,
                45,
                89,
                100,
                360,
                1000,
                5000,
                20000,
                1e5,
                2e5,
                1e6,
                -1e6,
                now * 1e-4,
                now * 1e4,
                -now,
            ]
        )
    return made


def flipped(data: bytes, rng: random.Random, count: int) -> bytes:
    """Return bytes with some bits flipped, or cut short."""
    made = bytearray(data)
    for _ in range(count):
        made[rng.randrange(len(made))] ^= 1 << rng.randrange(8)
    return bytes(made[: rng.randrange(len(made))]) if rng.random() < 0.15 else bytes(made)


@contextlib.contextmanager
def coarse() -> Any:
    """Work on coarse grids and with few piles: what goes wrong goes wrong there too."""
    with contextlib.ExitStack() as small:
        for where, name, value in (
            (frames, "GROWTH_CELLS", 64),
            (frames, "MAP_CELLS", 160),
            (growth_fields, "EVIDENCE_PX", 200),
            (edge_plan, "EDGE_PX", 120),
            (reading, "READ_PX", 140),
            (inspection, "READ_CELLS", 96),
            (wants, "MOST_COLOURS", 1),
            (palette, "FEWEST", 3),
            (palette, "MOST", 4),
            (palette, "SAME", 6.0),
            (palette, "_AGAIN", 1),
            (mixes, "EXPLAINED", 1),
        ):
            small.enter_context(mock.patch.object(where, name, value))
        yield


REMEMBERED = Memo()


def derive(project: Project) -> None:
    """Derive everything there is from a project that was accepted."""
    # What a case has like the one before need not be derived again: results go by their content.
    results = Results(REMEMBERED)
    Read(results, project, tuple(one.key for one in SUBJECTS))(SILENT)
    Inspect(results, project)(SILENT)
    rehearsed = rehearse(results, project, 160)
    json.dumps(plan_record(results, project, rehearsed), allow_nan=False)
    again = archive.from_bytes(archive.to_bytes(project), "again")
    if again != project and list(again.zones) != list(project.zones):
        raise AssertionError("what was saved is not what was open")


@dataclass(frozen=True, slots=True)
class Case:
    """One case: what it is, and what runs it."""

    words: str
    run: Callable[[], object]


class Hammer:
    """Makes cases by their number."""

    def __init__(self, seed: int, folder: Path) -> None:
        self.seed, self.folder = seed, folder
        self.data = archive.to_bytes(whole())
        with zipfile.ZipFile(io.BytesIO(self.data)) as file:
            self.fields = json.loads(file.read("project.json"))
            self.pictures = {name: file.read(name) for name in file.namelist() if name != "project.json"}

    def case(self, number: int) -> Case:
        """Return a case."""
        rng = random.Random(self.seed * 1_000_003 + number)
        kind = ("strained", "fields", "strained", "bits", "picture", "command", "strained")[number % 7]
        make: Callable[[random.Random], Case] = getattr(self, f"_{kind}")
        return make(rng)

    def _fields(self, rng: random.Random) -> Case:
        share = rng.choice([0.002, 0.006, 0.02])
        return Case(
            f"fields, {share:g} of them damaged",
            lambda: self._open(packed(damaged(self.fields, rng, share), self.pictures)),
        )

    def _strained(self, rng: random.Random) -> Case:
        return Case("numbers strained", lambda: self._open(packed(strained(self.fields, rng), self.pictures)))

    def _bits(self, rng: random.Random) -> Case:
        return Case(
            "bits of a project flipped", lambda: self._open(flipped(self.data, rng, rng.choice([1, 1, 8, 200])))
        )

    @staticmethod
    def _open(data: bytes) -> None:
        derive(archive.from_bytes(data, "hammered.foxpath"))

    def _picture(self, rng: random.Random) -> Case:
        kind = rng.choice(["PNG", "JPEG", "TIFF", "WEBP"])
        mode = rng.choice(["RGB", "L"] if kind in ("JPEG", "WEBP") else ["RGB", "L", "RGBA", "P", "LA"])
        data = picture(rng.choice([1, 16, 60]), rng.choice([1, 16, 50]), kind, mode)
        return Case(
            f"a {kind} in {mode}, damaged", lambda: read_picture(flipped(data, rng, rng.choice([0, 1, 5, 100])), "x")
        )

    def _command(self, rng: random.Random) -> Case:
        sound = {"outline": [[30, 24], [100, 24], [100, 90], [30, 90]], "combs": [[[40, 40], [90, 42]]],
                 "zones": {"Part": [[40, 30], [80, 30], [80, 70]]},
                 "scribbles": {"Part": {"inside": [[50, 50], [70, 60]], "outside": [[5, 5], [10, 120]]}},
                 "pile": {"parts": {"PW6": 4, "PBr7-BS": 1.5}, "want": [60, 12, 20]}}  # fmt: skip
        files = {name: self.folder / f"{name}.json" for name in sound}
        image = self.folder / "hammered.png"
        argv = rng.choice(
            [
                ["growth", str(image), "--outline", str(files["outline"]), "--combs", str(files["combs"]), "--zones",
                 str(files["zones"]), "--out", str(self.folder / "field.npz")],
                ["new", str(image), "--canvas", rng.choice(["25x20cm", "0x0cm", "1e9x2cm", "nanxnancm", "", "10x8in"]), "--outline",
                 str(files["outline"]), "--combs", str(files["combs"]), "--force", "--out", str(self.folder / "x.foxpath")],
                ["zones", str(image), "--scribbles", str(files["scribbles"]), "--out", str(self.folder / "z.json")],
                ["eye", str(image), "--at", rng.choice(["40,40", "nan,1", "1e400,2", "-1,-1", "a", ""]), "--out", str(self.folder / "e.json")],
                ["mix", "--lab", rng.choice(["44,18,25", "nan,1,1", "1e400,0,0", "50", "", "0,0,0"]), "--most", rng.choice(["1", "3", "9"])],
                ["mix", "--add", str(files["pile"]), "--seen", rng.choice(["55,10,15", "1,2", "inf,0,0", "99,0,0"])],
                ["check", rng.choice(["/dev/zero", "/nowhere", str(self.folder), "demo:none", "\udcff.foxpath"])],
                [rng.choice(["nonsense", "", "--nonsense", "plan", "rehearse"])],
            ]
        )  # fmt: skip

        def run() -> None:
            image.write_bytes(picture(160, 128))
            for name, path in files.items():
                value = damaged(sound[name], rng, 0.06)
                path.write_text(
                    json.dumps(value, allow_nan=True) if rng.random() > 0.1 else rng.choice(["", "{", "[1,", "nul"]),
                    "utf-8",
                )
            said, wrong = io.StringIO(), io.StringIO()
            with (
                contextlib.redirect_stdout(said),
                contextlib.redirect_stderr(wrong),
                mock.patch.dict("os.environ", clear=False) as given,
            ):
                for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
                    given.pop(name, None)
                status = main(argv)
            if status not in (0, 1, 2):
                raise AssertionError(f"status {status}")
            if status and not wrong.getvalue().strip() and not said.getvalue().strip():
                raise AssertionError("failed without a word")

        return Case("foxpath " + " ".join(argv[:1]), run)


def _too_long(number: int, _: object) -> None:
    if number == signal.SIGPROF:
        raise TimeoutError(f"took more than {MOST_SECONDS:g} s of processor time")
    raise TimeoutError(f"stood still for {STANDING * MOST_SECONDS:g} s")


def struck(case: Case) -> str:
    """Run a case; return what is wrong with how it ended, empty when nothing is."""
    begin = time.process_time()
    limits = (
        (signal.ITIMER_PROF, signal.SIGPROF, MOST_SECONDS),
        (signal.ITIMER_REAL, signal.SIGALRM, STANDING * MOST_SECONDS),
    )
    for timer, number, most in limits:
        signal.signal(number, _too_long)
        signal.setitimer(timer, most)
    try:
        with coarse():
            case.run()
    except AppError as failure:
        said = str(failure)
        if len(said) < 12 or "Traceback" in said:
            return f"a message that says nothing: {said!r}"
    except (Exception, MemoryError):
        return traceback.format_exc().strip()
    finally:
        for timer, _, _ in limits:
            signal.setitimer(timer, 0)
    taken = time.process_time() - begin
    return f"took {taken:.0f} s" if taken > MOST_SECONDS else ""


def strike(numbers: Sequence[int], seed: int) -> list[int]:
    """Run cases by their numbers and say what ended badly; return the numbers of those."""
    _, most = resource.getrlimit(resource.RLIMIT_AS)
    resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, most))
    warnings.simplefilter("ignore")
    found = []
    with TemporaryDirectory() as folder:
        hammer = Hammer(seed, Path(folder))
        for number in numbers:
            case = hammer.case(number)
            fault = struck(case)
            if fault:
                found.append(number)
                print(f"case {number} (seed {seed}), {case.words}:\n{fault}\n", file=sys.stderr, flush=True)
    return found


def run(argv: Sequence[str]) -> int:
    """Strike as the command line says; returns 1 when something came through."""
    parser = argparse.ArgumentParser(
        prog="./fox hammer", description="Feed damaged and hostile input to everything that reads."
    )
    parser.add_argument("--n", type=int, default=500, help="cases")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--case", type=int, help="only this one")
    args = parser.parse_args(argv)
    numbers = range(args.n) if args.case is None else (args.case,)
    shares = [numbers[k::JOBS] for k in range(JOBS) if numbers[k::JOBS]]
    # Kernels are compiled beforehand: a case is not to be blamed for that.
    warm()
    # Fresh processes: limits and alarms are each one's own.
    with ProcessPoolExecutor(len(shares), multiprocessing.get_context("spawn")) as pool:
        found = [one for done in pool.map(strike, shares, [args.seed] * len(shares)) for one in done]
    print(f"{len(numbers)} cases, {len(found)} came through")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(run(sys.argv[1:]))
