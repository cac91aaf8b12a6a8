"""Memory: the peak with a 24-megapixel picture zoned, combed and rehearsed, and what is held after a while of work on a demo."""

import os
import subprocess
import sys
import tempfile
from pathlib import Path

CODE = """
import sys, time
import numpy as np
from foxpath.window.shell.app import make_app
from foxpath.window.shell.main import MainWindow
from foxpath.document import edits
app = make_app()
window = MainWindow()
window.show()
window.open_path(sys.argv[1])
session = window.session
def change(p):
    p, zone = edits.add_zone(p, "Coat", "long-fur", np.array([[1500.0, 800], [4500, 900], [4300, 3300], [1600, 3200]]))
    return edits.add_comb(p, np.array([[2000.0, 1500], [3000, 1600]]), zone)[0]
session.edit(change, "zone")
window.open_stop("growth")
while session.waiting():
    app.processEvents()
    time.sleep(0.005)
assert session.rehearsal.complete
status = open('/proc/self/status').read()
print(status.split('VmHWM:')[1].split()[0], flush=True)
import os
os._exit(0)
"""

LONG = """
import sys, time
from foxpath.window.shell.app import make_app
from foxpath.window.shell.main import MainWindow
from foxpath.window.stops import STOPS
from foxpath.document import edits
app = make_app()
window = MainWindow()
window.show()
window.open_demo("fox")
session = window.session
for i in range(2 * len(STOPS)):
    window.open_stop(STOPS[i % len(STOPS)].key)
    outlined = [one for one in session.project.zones if one.points]
    zone = outlined[i % len(outlined)]
    session.choose(zone=zone.id)
    x, y = zone.points[0]
    session.edit(lambda p: edits.move_point(p, zone.id, 0, (x + i % 5 - 2, y + 1)), "point")
    while session.waiting():
        app.processEvents()
        time.sleep(0.005)
print(int(open('/proc/self/statm').read().split()[1]) * 4, flush=True)
import os
os._exit(0)
"""


def measure() -> list[dict[str, object]]:
    """Run each process once and read what it took."""
    import numpy as np
    from PIL import Image

    with tempfile.TemporaryDirectory() as folder:
        y, x = np.mgrid[0:4000, 0:6000].astype(np.float32)
        grain = np.random.default_rng(1).normal(0, 9, (4000, 6000)).astype(np.float32)
        rgb = np.stack([120 + 60 * np.sin(x / 900) + grain, 110 + 40 * np.cos(y / 700) + grain, 90 + grain], axis=-1)
        path = Path(folder) / "large.jpg"
        Image.fromarray(np.clip(rgb, 0, 255).astype(np.uint8)).save(path, quality=90)
        env = {**os.environ, "FOXPATH_STATE": folder, "QT_QPA_PLATFORM": "offscreen"}

        def run(code: str) -> float:
            """Return what a process says at its end, in MB."""
            command = [sys.executable, "-c", code, str(path)]
            done = subprocess.run(command, check=True, env=env, capture_output=True, text=True)
            return int(done.stdout.split()[-1]) / 1024

        return [
            {"what": what, "value": run(code), "unit": "MB", "goal": 1024, "detail": "one process"}
            for what, code in (
                ("peak memory, 24 megapixels open", CODE),
                ("held after going twice through all stops", LONG),
            )
        ]
