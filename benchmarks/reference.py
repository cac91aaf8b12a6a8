"""The Reference stop: opening, seeing aids on 24 megapixels, health maps of 12, and how far each estimator is off."""

import io
import os
import statistics
import time

import numpy as np


def _photograph(width: int, height: int) -> bytes:
    """Return a JPEG of made leaves, with grain, as large as a camera's."""
    import cv2
    from PIL import Image

    from tests.made import as_levels, leaves

    rng = np.random.default_rng(1)
    big = cv2.resize(leaves(width // 4, height // 4), (width, height), interpolation=cv2.INTER_CUBIC)
    big += rng.normal(0, 3, (height, width, 1)).astype(np.float32)
    buffer = io.BytesIO()
    Image.fromarray(as_levels(big)).save(buffer, "JPEG", quality=92)
    return buffer.getvalue()


def _opening() -> list[dict[str, object]]:
    from PIL import Image

    from foxpath.core.reference import read_picture

    data = _photograph(6000, 4000)
    ratios, ours = [], []
    for turn in range(7):
        begin = time.process_time()
        plain = Image.open(io.BytesIO(data))
        plain.load()
        _ = np.asarray(plain)
        bare = time.process_time() - begin
        begin = time.process_time()
        read_picture(data, "a.jpg")
        taken = time.process_time() - begin
        if turn:
            ratios.append(taken / bare)
            ours.append(taken)
    detail = f"24 megapixels, {statistics.median(ours):.2f} s CPU"
    return [_row("opening / plain decoding, CPU", statistics.median(ratios), "x", 1.5, detail)]


def _aids() -> list[dict[str, object]]:
    """Time from choosing an aid to its picture, in a window on a 24-megapixel reference."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from foxpath.core.units import CanvasSize
    from foxpath.document import edits
    from foxpath.window.shell.app import make_app
    from foxpath.window.shell.main import MainWindow

    app = make_app()
    window = MainWindow()
    window.show()
    window.session.start(edits.new_project(_photograph(6000, 4000), "a.jpg", CanvasSize(600, 400)), None, on_disk=True)
    window.open_stop("reference")

    def settle() -> None:
        while window.session.waiting():
            app.processEvents()
            time.sleep(0.002)

    settle()
    made: dict[str, float] = {}
    for zoomed in (False, True):
        if zoomed:
            window.picture.viewport.zoom(6, window.picture.viewport.room.center())
            window.picture.moved()
        for kind in ("greys", "squint", "poster", "falloff"):
            times = []
            for turn in range(6):
                begin = time.perf_counter()
                window.choose_aid(kind)
                while window.picture._seen is None:
                    app.processEvents()
                    time.sleep(0.0005)
                if turn:
                    times.append((time.perf_counter() - begin) * 1000)
                settle()
                window.choose_aid("plain")
            made[f"{kind}{' close' if zoomed else ''}"] = statistics.median(times)
    window.close_for_good()
    app.processEvents()
    worst = max(made, key=lambda k: made[k])
    detail = ", ".join(f"{k} {v:.0f}" for k, v in made.items())
    return [_row(f"slowest aid on 24 megapixels ({worst})", made[worst], "ms", 100, detail)]


def _health() -> list[dict[str, object]]:
    from foxpath.core.reference import read_picture
    from foxpath.core.reference.health import measured

    rgb = read_picture(_photograph(4000, 3000), "a.jpg").rgb
    times = []
    for turn in range(4):
        begin = time.process_time()
        measured(rgb, rgb)
        if turn:
            times.append(time.process_time() - begin)
    return [_row("health maps of 12 megapixels, CPU", statistics.median(times), "s", 3.0, "all six maps")]


def _errors() -> list[dict[str, object]]:
    """Put a known fault into a made picture, and see what is read of it."""
    import cv2
    from scipy.ndimage import gaussian_filter1d, uniform_filter1d

    from foxpath.core.colour import difference, lab_from_rgb8, linear_from_rgb8, rgb8_from_linear
    from foxpath.core.reference.correction import develop, gains_of_grey, spot_linear
    from foxpath.core.reference.health import measured
    from foxpath.core.reference.picture import Picture
    from tests.made import as_levels, leaves

    rng = np.random.default_rng(2)
    worst = dict.fromkeys(("blur", "overshoot", "noise", "clipped", "blocked", "balance", "cast"), 0.0)

    def worse(what: str, value: float) -> None:
        worst[what] = max(worst[what], abs(value))

    for seed in (1, 2, 3):
        sharp = leaves(900, 700, seed)
        for sigma in (2, 3, 4, 6, 8):
            for grain in (0, 4):
                made = as_levels(cv2.GaussianBlur(sharp, (0, 0), sigma) + rng.normal(0, grain, sharp.shape))
                worse("blur", 100 * (measured(made, made).blur_px / sigma - 1))
        soft = cv2.GaussianBlur(sharp, (0, 0), 0.8)
        step = np.zeros(4000)
        step[2000:] = 1
        line = gaussian_filter1d(uniform_filter1d(step, 20), 16)
        for amount in (0.5, 1.0, 1.5):
            true = (line + amount * (line - gaussian_filter1d(line, 40))).max() - 1
            made = as_levels(soft + amount * (soft - cv2.GaussianBlur(soft, (0, 0), 2)))
            worse("overshoot", 100 * (measured(made, made).overshoot / true - 1))
        for grain in (3, 6, 12):
            made = as_levels(soft + rng.normal(0, grain, soft.shape[:2])[..., None])
            worse("noise", 100 * (measured(made, made).noise / grain - 1))
        lost = soft.copy()
        lost[100:200, 100:300], lost[300:400, 100:250] = 260, 0
        made = as_levels(lost)
        health = measured(made, made)
        worse("clipped", 100 * (health.clipped - 20000 / made[..., 0].size))
        worse("blocked", 100 * (health.blocked - 15000 / made[..., 0].size))
        scene = as_levels(soft)
        scene[20:60, 20:60] = 128
        for light in ((1.0, 0.78, 0.52), (0.7, 0.9, 1.0), (1.0, 1.0, 0.7)):
            cast = rgb8_from_linear(linear_from_rgb8(scene) * np.array(light, np.float32))
            patch = spot_linear(cast, (40, 40), 12)
            shown = develop(Picture(cast), gains_of_grey(patch), 0, 0)
            up = float(np.log2(linear_from_rgb8(scene)[40, 40, 1] / linear_from_rgb8(shown)[40, 40, 1]))
            balanced = develop(Picture(cast), gains_of_grey(patch), up, 0)
            lab = lab_from_rgb8(cast[30:50, 30:50]).mean(axis=(0, 1))
            health = measured(cast, cast, (float(lab[1]), float(lab[2])))
            true = lab_from_rgb8(
                rgb8_from_linear(linear_from_rgb8(np.uint8([[[128] * 3]])) * np.array(light, np.float32))
            )
            worse("cast", float(np.hypot(health.cast[0] - true[0, 0, 1], health.cast[1] - true[0, 0, 2])))
            worse("balance", float(np.percentile(difference(lab_from_rgb8(scene), lab_from_rgb8(balanced)), 95)))
    return [
        _row("blur, worst error", worst["blur"], "%", 15, "sigma 2 to 8 px, without and with grain"),
        _row("overshoot, worst error", worst["overshoot"], "%", None, "of the overshoot of one ideal step"),
        _row("grain, worst error", worst["noise"], "%", None, "3 to 12 levels of 255"),
        _row("clipped lights, worst error", worst["clipped"], "%", None, "of the picture's area"),
        _row("blocked darks, worst error", worst["blocked"], "%", None, "of the picture's area"),
        _row("cast of a grey patch, worst error", worst["cast"], "Lab", None, "three lights"),
        _row("white balance, worst 95th percentile", worst["balance"], "dE", 2, "CIEDE2000 to the scene in daylight"),
    ]


def _row(what: str, value: float, unit: str, goal: float | None, detail: str) -> dict[str, object]:
    return {"what": what, "value": round(value, 3), "unit": unit, "goal": goal, "detail": detail}


def measure() -> list[dict[str, object]]:
    """Measure everything; returns rows of the table."""
    return [*_opening(), *_aids(), *_health(), *_errors()]
