"""Make the pictures in docs/screenshots again, from the demo: ``./fox shots [FOLDER]``."""

import os
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from foxpath.window import theme
from foxpath.window.app import demo_image, make_app
from foxpath.window.keys import KeySheet
from foxpath.window.main import MainWindow


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

    def run(self) -> None:
        """Take every picture."""
        window = self.window
        window.welcome.set_image(demo_image())
        self.take("begin")
        window.open_demo("fox")
        self.at("reference", "reference")
        self.at("zones", "zones", zone=self.zone("Near ruff"))
        self.at("growth", "growth", zone=self.zone("Bib"))
        window.stop.show_zone(self.zone("Muzzle"))
        self.take("growth-close")
        window.picture.fit()
        self.at("edges", "edges", edge=(self.zone("Back and shoulder"), self.zone("Background")))
        self.at("lengths", "lengths", zone=self.zone("Bib"))
        self.at("passes", "passes", role="restated")
        self.at("rehearsal", "rehearsal", role="whiskers")
        window.use_theme(theme.EVENING)
        self.at("evening", "growth", zone=self.zone("Bib"))
        window.use_theme(theme.DAY)
        window.resize(1024, 700)
        self.take("small")
        sheet = KeySheet(window)
        sheet.grab().save(str(self.folder / "keys.png"))
        window.close_for_good()


def main() -> int:
    """Write every picture into the folder named on the command line."""
    folder = Path(sys.argv[1] if len(sys.argv) > 1 else "docs/screenshots")
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as state:
        os.environ["FOXPATH_STATE"] = state
        Photographer(folder).run()
    return 0


if __name__ == "__main__":
    sys.exit(main())
