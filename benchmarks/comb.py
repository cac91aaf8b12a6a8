"""A comb: from moving it to its zone's new hairs, and how late the interface is while a rehearsal runs."""

import os
import statistics
import time

import numpy as np


def measure() -> list[dict[str, object]]:
    """Drive a real window, offscreen."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from dataclasses import replace

    from PySide6.QtCore import QTimer

    from foxpath.document import edits
    from foxpath.document.model import as_array
    from foxpath.window.shell.app import make_app
    from foxpath.window.shell.main import MainWindow

    app = make_app()
    window = MainWindow()
    window.show()
    window.open_demo("fox")
    session = window.session

    def settle() -> None:
        while session.waiting() or window.picture._overlay_soon.isActive():
            app.processEvents()
            time.sleep(0.002)

    settle()
    comb = next(c for c in session.project.combs if session.project.zone(c.zone).name == "Forehead")
    times = []
    for k in range(24):
        points = as_array(comb.points) + (3.0 * np.sin(k), 3.0 * np.cos(k))
        old = window.picture.overlay
        begin = time.perf_counter()
        session.edit(lambda p, points=points: edits.change_comb(p, comb.id, points), "move", f"move {k}")
        while window.picture.overlay is old:
            app.processEvents()
            time.sleep(0.001)
        times.append((time.perf_counter() - begin) * 1000)
        session._rehearse_soon.stop()
        session._read_soon.stop()
    settle()

    late: list[float] = []
    last = [0.0]
    timer = QTimer()
    timer.setInterval(10)

    def tick() -> None:
        now = time.perf_counter()
        late.append(max(0.0, (now - last[0]) * 1000 - 10))
        last[0] = now

    timer.timeout.connect(tick)
    for seed in (21, 22, 23):
        session.edit(lambda p, seed=seed: replace(p, seed=seed), "another hand")
        while not session.runner.running("rehearsal"):
            app.processEvents()
        last[0] = time.perf_counter()
        timer.start()
        while session.runner.running("rehearsal"):
            app.processEvents()
            time.sleep(0.0005)
        timer.stop()
    window._closing = True
    window.close()
    return [
        {
            "what": "a moved comb to new hairs, median",
            "value": statistics.median(times),
            "unit": "ms",
            "goal": 100,
            "detail": f"p90 {np.percentile(times, 90):.0f} ms, zone Forehead",
        },
        {
            "what": "interface late while rehearsing, p99",
            "value": float(np.percentile(late, 99)),
            "unit": "ms",
            "goal": 20,
            "detail": f"median {statistics.median(late):.1f} ms, {len(late)} ticks",
        },
    ]
