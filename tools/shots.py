"""Make the pictures in docs/screenshots again, from the demo: ``./fox shots [FOLDER]``."""

import argparse
import io
import os
import sys
import tempfile
import time
from dataclasses import replace
from datetime import timedelta
from pathlib import Path

from foxpath.derive.subjects import EDGES

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import numpy as np
from PIL import Image, ImageEnhance, ImageFilter

from foxpath.core.clock import now
from foxpath.core.days.studio import Laid
from foxpath.core.edges import Border
from foxpath.core.passes import Veil
from foxpath.core.practice.weeks import Answered
from foxpath.document import edits
from foxpath.document import practice as kept
from foxpath.document.model import Project
from foxpath.document.pictures import reference_of
from foxpath.window.look import theme
from foxpath.window.shell.app import demo_image, make_app
from foxpath.window.shell.keys import KeySheet
from foxpath.window.shell.main import MainWindow
from foxpath.window.stops.days.sitting import past_due
from foxpath.window.stops.days.stop import DaysStop
from foxpath.window.stops.easel.stop import EaselStop
from foxpath.window.stops.eyes import EyesStop
from foxpath.window.stops.mixes.stop import MixesStop
from foxpath.window.stops.practice.stop import PracticeStop
from foxpath.window.stops.progress.stop import ProgressStop
from foxpath.window.stops.reference import ReferenceStop
from foxpath.window.stops.reference.health import HealthFold
from foxpath.window.stops.reference.shelf import ShelfFold


class Photographer:
    """Drives the window as a user would and photographs it."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.app = make_app()
        self.window = MainWindow()
        self.window.show()

    def settle(self) -> None:
        """Wait until nothing is being worked out."""
        window, quiet = self.window, 0
        while quiet < 8:
            self.app.processEvents()
            time.sleep(0.02)
            busy = window.session.waiting() or window.picture._overlay_soon.isActive() or window.picture.flying()
            quiet = 0 if busy else quiet + 1

    def at(self, name: str, stop: str, **chosen: object) -> None:
        """Open a stop, choose something there, and write NAME.png."""
        self.window.open_stop(stop)
        self.window.session.choose(**chosen)
        self.take(name)

    def take(self, name: str) -> None:
        """Wait, and write NAME.png."""
        self.settle()
        self.window.grab().save(str(self.folder / f"{name}.png"))
        print(self.folder / f"{name}.png")

    def zone(self, name: str) -> str:
        """Return the id of a zone of the demo."""
        project = self.window.session.project
        assert project is not None
        return next(z.id for z in project.zones if z.name == name)

    def reference(self) -> None:
        """Take the folds of the Reference stop."""
        window = self.window
        window.open_stop("reference")
        stop = window.stop
        assert isinstance(stop, ReferenceStop)
        self.settle()
        stop.open_fold("composition")
        self.take("reference")
        shelf = stop.folds["shelf"]
        assert isinstance(shelf, ShelfFold)
        stop.open_fold("shelf")
        detail = self.folder / "far eye.png"
        project = window.session.project
        assert project is not None
        # A detail such as a second photograph would give: cut from the demo's own picture.
        with Image.open(io.BytesIO(project.reference.data)) as whole:
            whole.crop((760, 560, 1460, 1160)).save(detail)
        shelf.add(detail)
        detail.unlink()
        window.session.edit(lambda p: edits.change_lent(p, p.shelf[0].id, note="both eyes, close"), "note")
        health = stop.folds["health"]
        assert isinstance(health, HealthFold)
        window.session.start(spoiled(project), None, on_disk=True)
        stop.open_fold("health")
        health.rows.chosen.emit("blur")
        self.take("reference-health")
        stop.open_fold("canvas")
        window.open_demo("fox")

    def edges(self) -> None:
        """A border that is harder along one stretch, with the hair that hangs over it."""
        window = self.window
        pair = self.zone("Near ear"), self.zone("Background")
        window.open_stop("edges")
        self.settle()
        assert window.session.readings is not None
        border = next(b for b, _ in window.session.readings.of(EDGES).edges if self.ids(b) == pair)
        run = max(border.runs, key=len)
        part = run[len(run) // 2 : (3 * len(run)) // 4]
        window.session.edit(lambda p: edits.add_stretch(p, *pair, part, 0.5)[0], "a stretch")
        self.at("edges", "edges", edge=pair)
        window.open_demo("fox")
        self.settle()

    def ids(self, border: Border) -> tuple[str, str]:
        """Return the ids of the zones on both sides of a border."""
        readings = self.window.session.readings
        assert readings is not None
        return readings.zones[border.front].id, readings.zones[border.back].id if border.back >= 0 else ""

    def eyes(self) -> None:
        """Both eyes with their dials, values and steps; and the whiskers one by one."""
        window = self.window
        self.at("eyes", "eyes", eye=window.session.project.eyes[0].id)  # type: ignore[union-attr]
        stop = window.stop
        assert isinstance(stop, EyesStop)
        window.picture.viewport.show((960, 780), 1.5)
        window.picture.moved()
        window.bench.area.verticalScrollBar().setValue(405)
        self.take("eyes")
        stop.open_page("eyes")
        window.picture.fit()

    def feathers(self) -> None:
        """The jay's coverts, row over row."""
        self.window.open_demo("jay")
        self.settle()
        self.at("feathers", "lengths", zone=self.zone("Barred coverts"))
        self.window.open_demo("fox")
        self.settle()

    def woolly(self) -> None:
        """Both guinea pigs as they come out."""
        self.window.open_demo("cavies")
        self.settle()
        self.at("woolly", "rehearsal", role="highlights")
        self.window.open_demo("fox")
        self.settle()

    def mixes(self) -> None:
        """The palette with two piles mixed, and one looked at."""
        window = self.window
        window.open_stop("mixes")
        self.settle()
        stop = window.stop
        assert isinstance(stop, MixesStop)
        for name in ("mother mix", "tawny"):
            stop.mix(next(one for one in stop.close.palette.piles if one.name == name))
            self.settle()
        stop.loop.take_seen((49.0, 25.0, 33.0))
        self.take("mixes")
        window.open_demo("fox")
        self.settle()

    def days(self) -> None:
        """A plan that was taken and followed for a week, one sitting of it chosen."""
        window = self.window
        os.environ["FOXPATH_NOW"] = "2026-03-02T12:00"
        window.open_demo("fox")
        window.open_stop("days")
        self.settle()
        stop = window.stop
        assert isinstance(stop, DaysStop)
        stop.take()
        self.settle()
        os.environ["FOXPATH_NOW"] = "2026-03-08T12:00"
        window.session.edit(lambda p: edits.set_days(p, deadline="2026-05-23"), "a date")
        self.settle()
        project = window.session.project
        assert project is not None
        while past_due(project, now()):
            stop.next.asked.emit()
            self.settle()
            project = window.session.project
            assert project is not None
        if stop.planned is not None and not stop.planned.taken:
            stop.take()
            self.settle()
        later = [one for one in stop.close.sittings if any(step.act == "Top coat" for step in one.steps)]
        window.session.choose(sitting=later[1].begin.isoformat())
        self.take("days")
        os.environ["FOXPATH_NOW"] = f"{later[1].begin:%Y-%m-%dT%H:%M}:30"
        rows = [
            Laid(one.task, one.begin, one.end)
            for one in window.session.project.days.plan  # type: ignore[union-attr]
            if one.end <= later[1].begin.isoformat()
        ]
        window.session.edit(lambda p: edits.mark_done(p, rows), "painted")
        window.open_stop("easel")
        self.settle()
        easel = window.stop
        assert isinstance(easel, EaselStop)
        easel.full = False
        easel.go()
        for _ in range(2):
            easel.view.act("next")
        os.environ["FOXPATH_NOW"] = f"{later[1].begin + timedelta(minutes=9):%Y-%m-%dT%H:%M}:30"
        easel.view.act("next")
        easel.view.act("dark")
        self.take("easel")
        easel.view.leave()
        self.progress()

    def progress(self) -> None:
        """Take the Progress stop on a photograph of the stand-in camera."""
        window = self.window
        window.open_demo("fox")
        self.settle()
        window.open_stop("progress")
        stop = window.stop
        assert isinstance(stop, ProgressStop)
        stop.stand_in()
        self.settle()
        self.take("progress")
        self.practice()
        del os.environ["FOXPATH_NOW"]
        window.open_demo("fox")
        self.settle()

    def practice(self) -> None:
        """Take a spot of the growth drill, answered a little off, after eleven weeks of it."""
        os.environ["FOXPATH_NOW"] = "2026-03-08T18:20"
        rng, today = np.random.default_rng(5), now().date()
        for k, back in enumerate((75, 68, 60, 52, 45, 38, 30, 22, 15, 8, 3)):
            errors = np.abs(rng.normal(0, 26 * 0.9**k, 12))
            day = today - timedelta(days=back)
            kept.add(
                [Answered(f"{day}T19:{n:02d}", "growth", n, bool(e < 20), error=float(e)) for n, e in enumerate(errors)]
            )
        window = self.window
        window.open_demo("fox")
        self.settle()
        window.open_stop("practice")
        self.settle()
        stop = window.stop
        assert isinstance(stop, PracticeStop)
        for off in (4, 9, -12, 3, -22, 6, 13):
            stop.go()
            self.settle()
            assert stop.answer is not None
            assert stop.task is not None
            stop.answer.value = float(stop.task.truth["degrees"]) + off
            stop.go()
            self.settle()
        self.take("practice")
        stop.leave()

    def veil(self) -> None:
        """A glaze over the shadow side of a part, on a small screen in the evening."""
        window = self.window
        window.open_demo("fox")
        window.open_stop("passes")
        zone, keys = self.zone("Bib"), [""]

        def glazed(project: Project) -> Project:
            made, keys[0] = edits.add_veil(
                project, Veil(lab=(24.0, 6.0, 7.0), strength=0.03, place="shadow", soft_mm=14.0), zone
            )
            return made

        window.session.edit(glazed, "a veil")
        window.session.choose(role=keys[0], zone=zone)
        window.resize(1024, 700)
        self.take("evening")

    def run(self) -> None:
        """Take every picture."""
        window = self.window
        window.welcome.set_image(demo_image())
        self.take("begin")
        window.open_demo("fox")
        self.reference()
        self.at("zones", "zones", zone=self.zone("Near ruff"))
        self.at("growth", "growth", zone=self.zone("Bib"))
        self.edges()
        self.at("lengths", "lengths", zone=self.zone("Bib"))
        self.eyes()
        self.mixes()
        self.at("passes", "passes", role="restated")
        self.feathers()
        self.at("rehearsal", "rehearsal", role="whiskers")
        self.days()
        self.woolly()
        window.use_theme(theme.EVENING)
        self.veil()
        window.use_theme(theme.DAY)
        sheet = KeySheet(window)
        sheet.grab().save(str(self.folder / "keys.png"))
        window.close_for_good()


def spoiled(project: Project) -> Project:
    """Return a project on a worse photograph of the same animal: out of focus at one side, its darks lost below."""
    with Image.open(io.BytesIO(project.reference.data)) as whole:
        picture = whole.convert("RGB")
    soft, lost = (380, 980, 1240, 1600), (1500, 1250, 2000, 1600)
    picture.paste(picture.crop(soft).filter(ImageFilter.GaussianBlur(5)), soft[:2])
    picture.paste(ImageEnhance.Brightness(picture.crop(lost)).enhance(0.04), lost[:2])
    buffer = io.BytesIO()
    picture.save(buffer, "JPEG", quality=92)
    return replace(project, reference=reference_of("vixen, a worse one.jpg", buffer.getvalue()), shelf=(), spots=())


def main() -> int:
    """Write every picture into the folder named on the command line."""
    parser = argparse.ArgumentParser(prog="./fox shots", description="Take a picture of each main view, of the demos.")
    parser.add_argument("folder", nargs="?", type=Path, default=Path("docs/screenshots"))
    folder = parser.parse_args().folder
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as state:
        os.environ["FOXPATH_STATE"] = os.environ["FOXPATH_DATA"] = state
        Photographer(folder).run()
    return 0


if __name__ == "__main__":
    sys.exit(main())
