"""Learn the weights by which an eye is told from what lies about it: `python -m tools.eyes.learn [--marked FOLDER]`.

Many ellipses are tried about a click (`foxpath.core.eyes.finding.looks`); the weights are those under which the right ones are likeliest
(conditional logit, McFadden 1974, with a few bent terms), from made faces, from made eyes close by, from places that are no eye, and from
photographs marked by hand where a folder of them is given: `photos/X.jpg` and `labels/X.json` with `image` and `eyes` (cx, cy, rx, ry).
Each photograph is also taken smaller, larger, mirrored, blurred, and clicked off the middle.

With `--folds N` what is learned without every Nth photograph is then tried on it, so that it is seen how it does on others.
"""

import argparse
import json
import multiprocessing
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import cv2
import numpy as np
from scipy.optimize import minimize

from foxpath.core.arrays import F32, F64, Rgb8
from foxpath.core.eyes import Ellipse
from foxpath.core.eyes.finding import hypotheses
from foxpath.core.eyes.finding.looks import LOOKS, Tried, looks_of, tried_about
from tests.eyes import varied
from tools.eyes.faces import made_faces

BENT = 12
"""How many bent terms."""
PULL = 4.0
"""How much weights are held near nothing."""
MARKED_WEIGHT, CLOSE_WEIGHT = 3.0, 3.0
"""How much a photograph, and an eye that fills its picture, count against a made face."""
_KEPT = 0.2
"""Share of the wrong ellipses that is kept to learn from."""


@dataclass(slots=True, eq=False)
class Case:
    """A click: looks of what was tried, how right each is, logarithms of how many each stands for; None of them right is no eye."""

    source: str
    looks: F32
    right: F64
    stands_for: F64
    weight: float = 1.0


def case_of(rgb: Rgb8, click: tuple[float, float], eye: Ellipse | None, source: str, weight: float, seed: int) -> Case:
    """Measure everything tried about a click."""
    looks, right = [], []
    for tried in tried_about(min(rgb.shape[:2]), 0, np.inf):
        looks.append(looks_of(rgb, click, tried))
        right.append(_rightness(tried, click, eye))
    all_looks, all_right = np.concatenate(looks), np.concatenate(right)
    keep = (all_right > 0.01) | (np.random.default_rng(seed).random(len(all_right)) < _KEPT)
    stands = np.where(all_right[keep] > 0.01, 0.0, -np.log(_KEPT))
    return Case(source, all_looks[keep], all_right[keep], stands, weight)


def _rightness(tried: Tried, click: tuple[float, float], eye: Ellipse | None) -> F64:
    if eye is None:
        return np.zeros(len(tried.half))
    large, small = max(eye.rx, eye.ry), min(eye.rx, eye.ry)
    off = np.hypot(click[0] + tried.cx - eye.cx, click[1] + tried.cy - eye.cy) / large
    half, less = np.log(tried.half / large), np.log(tried.half * tried.ratio / small)
    usable = (off < 0.2) & (np.abs(tried.half / large - 1) < 0.25)
    return np.asarray(np.exp(-((off / 0.12) ** 2) - (half / 0.12) ** 2 - (less / 0.2) ** 2) + 0.02 * usable)


def _made(seed: int) -> list[Case]:
    cv2.setNumThreads(1)
    cases = []
    rng = np.random.default_rng(seed)
    for k, face in enumerate(made_faces(10, seed)):
        cases.append(case_of(face.rgb, face.click, face.eye, "made", 1.0, seed))
        if k % 2 == 0:
            place = _elsewhere(rng, face.rgb, [face.eye])
            if place is not None:
                cases.append(case_of(face.rgb, place, None, "made", 1.0, seed))
    return cases


def _elsewhere(rng: np.random.Generator, rgb: Rgb8, eyes: list[Ellipse]) -> tuple[float, float] | None:
    """Return a place well off every eye, or None when none was found."""
    height, width = rgb.shape[:2]
    for _ in range(20):
        x, y = rng.uniform(0.05, 0.95) * width, rng.uniform(0.05, 0.95) * height
        if all(np.hypot(x - eye.cx, y - eye.cy) > 2.5 * max(eye.rx, eye.ry) for eye in eyes):
            return x, y
    return None


def _close(seed: int) -> list[Case]:
    cv2.setNumThreads(1)
    eyes = varied(20, seed)  # type: ignore[no-untyped-call]
    return [case_of(made.draw(), (made.cx + 1, made.cy - 1), made.iris, "close", CLOSE_WEIGHT, 5) for made in eyes]


def _views() -> Iterator[tuple[float, bool, float, float, float]]:
    """Scale, mirrored, click off the middle as a share of the smaller half axis, blur, crop in half widths (0: none)."""
    yield 1.0, False, 0.0, 0.0, 0.0
    yield 0.75, True, 0.12, 0.0, 0.0
    yield 1.0, True, 0.15, 0.6, 0.0
    yield 1.5, False, 0.12, 1.0, 0.0
    yield 1.0, False, 0.2, 0.0, 0.0
    yield 1.0, True, 0.1, 0.0, 7.0
    yield 1.3, False, 0.1, 0.3, 14.0


def _photograph(label: Path, told: dict[str, Any]) -> Rgb8:
    """Return the photograph of a label. Raises `FileNotFoundError`."""
    file = label.parent.parent / "photos" / Path(told["image"]).name
    image = cv2.imread(str(file))
    if image is None:
        raise FileNotFoundError(file)
    return np.ascontiguousarray(np.asarray(image, np.uint8)[..., ::-1])


def _marked(label: Path) -> list[Case]:
    cv2.setNumThreads(1)
    told = json.loads(label.read_text())
    image = _photograph(label, told)
    rng = np.random.default_rng(len(told["eyes"]) + image.shape[1])
    cases = []
    for one in told["eyes"]:
        for scale, mirrored, off, blur, far_crop in _views():
            rgb = np.ascontiguousarray(image[:, ::-1] if mirrored else image)
            cx = image.shape[1] - one["cx"] if mirrored else one["cx"]
            eye = Ellipse(scale * cx, scale * one["cy"], scale * one["rx"], scale * one["ry"])
            small = min(eye.rx, eye.ry)
            if max(eye.rx, eye.ry) < 4.5:
                continue
            if scale != 1:
                rgb = np.asarray(
                    cv2.resize(
                        rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC
                    )
                )
            if blur:
                rgb = np.asarray(cv2.GaussianBlur(rgb, (0, 0), blur * max(1, max(eye.rx, eye.ry) / 15)))
            if far_crop:
                # As a painter crops: the eye is larger against the picture.
                room = far_crop * max(eye.rx, eye.ry)
                x0, y0 = max(0, int(eye.cx - room)), max(0, int(eye.cy - room))
                rgb = np.ascontiguousarray(rgb[y0 : int(eye.cy + room), x0 : int(eye.cx + room)])
                eye = Ellipse(eye.cx - x0, eye.cy - y0, eye.rx, eye.ry)
            turn, far = rng.uniform(0, 2 * np.pi), off * small * rng.uniform(0.3, 1)
            click = (round(eye.cx) + far * np.cos(turn), round(eye.cy) + far * np.sin(turn))
            cases.append(case_of(rgb, click, eye, label.stem, MARKED_WEIGHT, 7))
    eyes = [Ellipse(one["cx"], one["cy"], one["rx"], one["ry"]) for one in told["eyes"]]
    for _ in eyes:
        place = _elsewhere(rng, np.ascontiguousarray(image), eyes)
        if place is not None:
            cases.append(case_of(np.ascontiguousarray(image), place, None, label.stem, MARKED_WEIGHT, 7))
    return cases


def learn(cases: list[Case], mean: F64, spread: F64) -> F64:
    """Return the weights under which the right ellipses are likeliest, as one vector."""
    ready = [((one.looks - mean) / spread).astype(np.float32) for one in cases]
    rng = np.random.default_rng(1)
    count = len(LOOKS)
    start = np.concatenate(
        [np.zeros(count), rng.normal(0, 0.15, count * BENT), np.zeros(BENT), rng.normal(0, 0.3, BENT), [0.0]]
    )

    def loss(w: F64) -> tuple[float, F64]:
        straight, bent, bias, last, none = parted(w)
        total, slope = PULL * float(w @ w), 2 * PULL * w
        for x, case in zip(ready, cases, strict=True):
            hidden = np.tanh(x @ bent + bias)
            score = np.append(x @ straight + hidden @ last + case.stands_for, none)
            share = np.exp(score - score.max())
            share /= share.sum()
            right = np.append(case.right, 0.0 if case.right.any() else 1.0)
            hit = share * right
            total -= case.weight * float(np.log(hit.sum() + 1e-12))
            pull = case.weight * (hit / (hit.sum() + 1e-12) - share)
            r = pull[:-1]
            back = r[:, None] * last * (1 - hidden**2)
            slope -= np.concatenate([x.T @ r, (x.T @ back).ravel(), back.sum(axis=0), hidden.T @ r, pull[-1:]])
        return total, slope

    return np.asarray(minimize(loss, start, jac=True, method="L-BFGS-B", options={"maxiter": 220}).x)


def parted(w: F64) -> tuple[F64, F64, F64, F64, float]:
    """Return a vector of weights as straight ones, bent ones, their offsets, what they count, and the score of no eye."""
    n = len(LOOKS)
    return (
        w[:n],
        w[n : n + n * BENT].reshape(n, BENT),
        w[n + n * BENT : n + n * BENT + BENT],
        w[n + n * BENT + BENT : -1],
        float(w[-1]),
    )


def told(w: F64, mean: F64, spread: F64) -> dict[str, object]:
    """Return weights as they are kept: for looks as they are measured."""
    straight, bent, bias, last, none = parted(w)

    def short(values: F64) -> Any:
        return np.asarray([float(f"{v:.5g}") for v in np.ravel(values)]).reshape(np.shape(values)).tolist()

    own, own_bent = straight / spread, bent / spread[:, None]
    return {
        "looks": list(LOOKS), "straight": short(own), "bent": short(own_bent), "offset": short(bias - mean @ own_bent),
        "counts": short(last), "none": float(f"{none + mean @ own:.5g}"),
    }  # fmt: skip


def main() -> None:
    """Learn, and write the weights or say how they do on photographs that were left out."""
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--marked", type=Path)
    parser.add_argument("--faces", type=int, default=800)
    parser.add_argument("--folds", type=int, default=0)
    args = parser.parse_args()
    labels = sorted((args.marked / "labels").glob("*.json")) if args.marked else []
    with multiprocessing.Pool() as pool:
        made = pool.map_async(_made, range(100, 100 + args.faces // 10))
        close, marked = pool.map_async(_close, range(70, 88)), pool.map_async(_marked, labels)
        cases = [one for part in (*made.get(), *close.get(), *marked.get()) for one in part]
    sample = np.concatenate([one.looks[::9] for one in cases])
    mean, spread = sample.mean(axis=0).astype(np.float64), sample.std(axis=0).astype(np.float64) + 1e-6
    print(f"{len(cases)} clicks")
    hypotheses.PLACE.write_text(json.dumps(told(learn(cases, mean, spread), mean, spread)) + "\n")
    print(hypotheses.PLACE, flush=True)
    if args.folds:
        rows: list[tuple[str, bool, float]] = []
        for fold in range(args.folds):
            out = {label.stem for label in labels[fold :: args.folds]}
            weights = hypotheses.Weights.of(
                told(learn([one for one in cases if one.source not in out], mean, spread), mean, spread)
            )
            for label in labels[fold :: args.folds]:
                rows += _tried_on(label, weights)
        for row in rows:
            print(*row)
        print("right", np.mean([right for _, right, _ in rows]))


def _tried_on(label: Path, weights: "hypotheses.Weights") -> list[tuple[str, bool, float]]:
    told_of = json.loads(label.read_text())
    rgb = _photograph(label, told_of)
    rows = []
    for one in told_of["eyes"]:
        found = hypotheses.hypotheses_at(rgb, (round(one["cx"]), round(one["cy"])), weights=weights)
        large = max(one["rx"], one["ry"])
        best = found[0] if found else None
        right = best is not None and bool(
            np.hypot(best.ellipse.cx - one["cx"], best.ellipse.cy - one["cy"]) < 0.2 * large
            and abs(max(best.ellipse.rx, best.ellipse.ry) / large - 1) < 0.25
        )
        rows.append((label.stem, bool(right), round(best.share if best else 0.0, 2)))
    return rows


if __name__ == "__main__":
    main()
