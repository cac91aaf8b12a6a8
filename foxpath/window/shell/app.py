"""Start the application."""

import gc
import signal
import sys
import threading
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtGui import QIcon, QImage, QPainter, QPixmap
from PySide6.QtWidgets import QApplication

import foxpath
from foxpath.window.look import draw, theme
from foxpath.window.shell.main import MainWindow
from foxpath.window.work import recent


def make_app() -> QApplication:
    """Return the application with its typeface, colours and icon; one only in a process."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        return existing
    # The interface's thread gets its turn after a millisecond of a worker's Python, not after five.
    sys.setswitchinterval(0.001)
    app = QApplication(sys.argv[:1])
    app.setApplicationName("Fox Path")
    app.setDesktopFileName("org.foxpath.FoxPath")
    app.setStyle("Fusion")
    theme.load_fonts()
    app.setFont(theme.font(14))
    app.setStyleSheet(theme.style_sheet())
    app.setWindowIcon(icon())
    return app


def icon(size: int = 128) -> QIcon:
    """Draw the application's icon."""
    image = QImage(size, size, QImage.Format.Format_ARGB32_Premultiplied)
    image.fill(0)
    with QPainter(image) as p:
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw.brush_mark(p, size * 0.06, size * 0.1, size * 0.8)
    return QIcon(QPixmap.fromImage(image))


def _warm_in_background() -> None:
    from foxpath.derive.warm import warm

    threading.Thread(target=warm, name="foxpath-warm", daemon=True).start()


SETTLED_MS = 5000
"""After so long libraries and the demo are loaded, and their kernels warm."""


def spare_what_stays() -> None:
    """Tell the garbage collector that what is loaded by now stays: looking through it holds the window up for a tenth of a second."""
    gc.freeze()


def run_app(path: Path | None, demo: str | None) -> int:
    """Open the window and stay until it is closed; returns the exit status."""
    app = make_app()
    if recent.evening():
        theme.use(theme.EVENING)
        app.setStyleSheet(theme.style_sheet())
    window = MainWindow()
    window.show()
    if demo:
        window.open_demo(demo)
    elif path is not None:
        window.open_path(str(path))
    else:
        QTimer.singleShot(0, lambda: window.welcome.set_image(demo_image()))
        QTimer.singleShot(60, lambda: window.studio)
        QTimer.singleShot(600, _warm_in_background)
        window.offer_leftovers()
    QTimer.singleShot(SETTLED_MS, spare_what_stays)
    # Let Ctrl+C in the terminal end the program as closing it would.
    signal.signal(signal.SIGINT, lambda *_: window.close())
    ticker = QTimer()
    ticker.start(400)
    ticker.timeout.connect(_breathe)
    return app.exec()


def _breathe() -> None:
    """Give Python a moment, so that signals are seen."""


def demo_image() -> QImage:
    """Return the demo's picture, for the welcome."""
    return QImage(str(Path(foxpath.__file__).parent / "demo" / "data" / "fox.jpg"))
