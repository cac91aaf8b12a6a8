"""Start: from a new process to a painted window, against an empty window with the same Qt import."""

import os
import statistics
import subprocess
import sys
import tempfile

EMPTY = """
from PySide6.QtCore import QPointF, QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QFont, QPainter, QPainterPath, QPen, QPolygonF
from PySide6.QtWidgets import QApplication, QFileDialog, QLineEdit, QMainWindow, QMenu, QScrollArea, QWidget
app = QApplication([])
window = QMainWindow()
window.resize(1280, 800)
window.show()
window.grab()
"""

OURS = """
from foxpath.window.shell.app import make_app
app = make_app()
from foxpath.window.shell.main import MainWindow
window = MainWindow()
window.show()
{open}
window.grab()
import os
os._exit(0)
"""


def _seconds(code: str, env: dict[str, str]) -> float:
    import time

    begin = time.perf_counter()
    subprocess.run([sys.executable, "-c", code], check=True, env=env, stderr=subprocess.DEVNULL)
    return time.perf_counter() - begin


def measure() -> list[dict[str, object]]:
    """Time pairs of processes in turn, so that a busy machine hits both."""
    rows = []
    with tempfile.TemporaryDirectory() as state:
        # Compiled sources are kept, as for any user, from the first run on, which is not counted.
        env = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
        env |= {"FOXPATH_STATE": state, "PYTHONPYCACHEPREFIX": state, "QT_QPA_PLATFORM": "offscreen"}
        for what, opened, goal in (
            ("start to window / empty window", "", 2.0),
            ("the demo painted / empty window", "window.open_demo('fox')", None),
        ):
            code = OURS.format(open=opened)
            _seconds(EMPTY, env)
            _seconds(code, env)
            pairs = [(_seconds(EMPTY, env), _seconds(code, env)) for _ in range(7)]
            ratio = statistics.median(ours / empty for empty, ours in pairs)
            detail = (
                f"{statistics.median(e for e, _ in pairs):.2f} s and {statistics.median(o for _, o in pairs):.2f} s"
            )
            rows.append({"what": what, "value": ratio, "unit": "x", "goal": goal, "detail": detail})
    return rows
