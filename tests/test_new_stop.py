"""A new stop is entered in few places: one is really added to a copy of the program, used, and taken away with it."""

import os
import shutil
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

TOP = Path(__file__).parents[1]

NEW = {
    "foxpath/core/piles.py": """
from dataclasses import dataclass, field

@dataclass(frozen=True)
class Pile:
    id: str
    zone: str
    place: tuple[float, float] = field(metadata={"pixels": True})
    grams: float = 1.0
""",
    "foxpath/derive/piles/__init__.py": "",
    "foxpath/derive/piles/reading.py": """
from dataclasses import dataclass
from foxpath.core.findings import Finding

@dataclass(frozen=True, eq=False)
class Heap:
    grams: float = 0.0

def read(results, project, progress):
    return sum(one.grams for one in project.piles)

def close(results, project, progress):
    return Heap(sum(one.grams for one in project.piles))

def findings(results, project, progress):
    return [] if project.piles else [Finding("look", "No pile is mixed.", "none yet · mix one", "piles")]

def record(told):
    return {"piles": [one.id for one in told.project.piles]}

def pages(told, progress):
    return [lambda page: page.head("Piles", "by the gram")]
""",
    "foxpath/document/edits/piles.py": """
from dataclasses import replace
from foxpath.core.piles import Pile

def add_pile(project, zone):
    pile = Pile(f"p{project.next_id}", zone, (50.0, 40.0))
    return replace(project, piles=(*project.piles, pile), next_id=project.next_id + 1)
""",
    "foxpath/window/stops/piles/__init__.py": "",
    "foxpath/window/stops/piles/stop.py": """
from PySide6.QtWidgets import QWidget
from foxpath.window.stops.base import Stop

class PilesStop(Stop):
    code, title = "piles", "Piles"

    def make_panel(self):
        return QWidget()

    def reading(self):
        return "nothing yet"
""",
    "foxpath/cli/commands/piles.py": """
from foxpath.cli.reading import read_project

def arguments(parser):
    parser.add_argument("project")

def run(args):
    print(len(read_project(args.project).piles), "piles")
    return 0
""",
}
"""Files of its own."""

ENTRIES = (
    ("foxpath/derive/subjects.py", "from foxpath.derive.passes.reading", "from foxpath.derive.piles import reading as piles\n", True),
    (
        "foxpath/derive/subjects.py",
        "SUBJECTS: tuple",
        'PILES = Subject("piles", piles.read, piles.close, piles.Heap(), piles.findings, piles.record, piles.pages)\n',
        True,
    ),
    ("foxpath/derive/subjects.py", "    MIXES,\n", "    PILES,\n", True),
    ("foxpath/window/stops/__init__.py", '    StopSpec("passes"', '    StopSpec("piles", "Piles", "piles.stop:PilesStop", (("M", "mix"),)),\n', True),
    ("foxpath/document/model.py", "from foxpath.core.passes import", "from foxpath.core.piles import Pile\n", True),
    (
        "foxpath/document/model.py",
        "    drawing: Drawing | None = field(",
        '    piles: tuple[Pile, ...] = field(default=(), metadata=holds(pixels=True, owner="zone"))\n',
        True,
    ),
    ("foxpath/cli/commands/__init__.py", '    Command("plan"', '    Command("piles", "Count the piles."),\n', True),
)  # fmt: skip
"""What is entered where: the file, the text it stands before (or takes the place of), and the entry."""

USE = """
import json, os, sys, zipfile, io
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from foxpath.cli import main
from foxpath.demo import demo_project
from foxpath.document import archive, edits
from foxpath.document.edits.piles import add_pile
from foxpath.derive import Results
from foxpath.derive.book import make_book, plan_record
from foxpath.derive.readings import Read
from foxpath.derive.subjects import PILES, findings
from foxpath.core.reporting import SILENT
from foxpath.window.stops import next_of, STOPS
from foxpath.window.shell.app import make_app
from foxpath.window.shell.keys import sections
from foxpath.window.shell.main import MainWindow
import foxpath.document.places, numpy

fox, results = demo_project("fox"), Results()
zone = fox.zones[1].id
assert [f.says for f in findings(results, fox) if f.where == "piles"] == ["No pile is mixed."]
more = add_pile(add_pile(fox, zone), fox.zones[2].id)
assert not [f for f in findings(results, more) if f.where == "piles"]
read = Read(results, more, ("piles",))(SILENT)
assert (read.of(PILES), read.close(PILES).grams) == (2.0, 2.0)
assert plan_record(results, more, [])["piles"] == [one.id for one in more.piles]
assert len(PILES.pages(None, None)) == 1 and len(make_book(results, more, []).pages) > 6
# The file, ids, zones that go or are joined, and another main picture know it too.
back = archive.from_bytes(archive.to_bytes(more), "x")
assert back.piles == more.piles
assert len(edits.remove_zone(more, zone).piles) == 1
moved = foxpath.document.places.moved(more, numpy.array([[2.0, 0, 10], [0, 2.0, 20]]))
assert moved.piles[0].place == (110.0, 100.0)
# The window.
app = make_app()
window = MainWindow()
window.session.start(more, None, on_disk=True)
assert [key for key, _ in window.trail.stops].index("piles") == 7
assert next_of("mixes") == "piles" and next_of("piles") == "passes"
assert ("Piles", (("M", "mix"),)) in sections()
window.open_stop("piles")
assert window.session.chosen.stop == "piles" and window.trail.readings["piles"][0] == "nothing yet"
open_it = next(action for action in window.actions() if action.data() == "piles")
assert open_it.shortcut().toString() == "Ctrl+8"
window._closing = True
window.close()
sys.exit(main(["piles", "demo:fox"]))
"""


class NewStop(unittest.TestCase):
    def test_it_is_entered_in_few_places_and_everything_knows_it(self):
        self.assertLessEqual(len(ENTRIES), 8)
        self.assertLessEqual(len({file for file, *_ in ENTRIES}), 6)
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        shutil.copytree(TOP / "foxpath", folder / "foxpath")
        for name, text in NEW.items():
            (folder / name).parent.mkdir(parents=True, exist_ok=True)
            (folder / name).write_text(text.lstrip(), "utf-8")
        for name, before, entry, keeps in ENTRIES:
            text = (folder / name).read_text("utf-8")
            self.assertEqual(text.count(before), 1, f"{name}: {before}")
            (folder / name).write_text(text.replace(before, entry + before if keeps else entry), "utf-8")
        done = subprocess.run(
            [sys.executable, "-c", USE],
            cwd=folder,
            env={
                **os.environ,
                "PYTHONPATH": str(folder),
                "FOXPATH_STATE": str(folder / "s"),
                "FOXPATH_DATA": str(folder / "d"),
            },
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual((done.returncode, done.stdout.strip()), (0, "0 piles"), done.stderr)


if __name__ == "__main__":
    unittest.main()
