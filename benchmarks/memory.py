"""Memory: the peak of a process with a 24-megapixel picture open, zoned, combed and rehearsed."""

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


def measure() -> list[dict[str, object]]:
    """Run the process once and read its high-water mark."""
    import numpy as np
    from PIL import Image

    with tempfile.TemporaryDirectory() as folder:
        y, x = np.mgrid[0:4000, 0:6000].astype(np.float32)
        grain = np.random.default_rng(1).normal(0, 9, (4000, 6000)).astype(np.float32)
        rgb = np.stack([120 + 60 * np.sin(x / 900) + grain, 110 + 40 * np.cos(y / 700) + grain, 90 + grain], axis=-1)
        path = Path(folder) / "large.jpg"
        Image.fromarray(np.clip(rgb, 0, 255).astype(np.uint8)).save(path, quality=90)
        env = {**os.environ, "FOXPATH_STATE": folder, "QT_QPA_PLATFORM": "offscreen"}
        done = subprocess.run(
            [sys.executable, "-c", CODE, str(path)], check=True, env=env, capture_output=True, text=True
        )
    peak = int(done.stdout.split()[-1]) / 1024
    return [
        {"what": "peak memory, 24 megapixels open", "value": peak, "unit": "MB", "goal": 1024, "detail": "one process"}
    ]
