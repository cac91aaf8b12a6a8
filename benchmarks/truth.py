"""Truth: how growth, parts and eyes do on photographs marked by hand, where a folder of them lies beside the project; else it says so.

The folder holds scorers (`score_*.py`), each of which takes the project's folder and prints one pooled line last. It is looked for in
`FOXPATH_TRUTH`, then as a folder `truth` in any folder beside the project's.
"""

import os
import re
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
RUNS = (("growth", ()), ("growth", ("few",)), ("growth", ("nocombs",)), ("zones", ()), ("eyes", ()))


def folder() -> Path | None:
    """Return the folder of marked photographs, or None."""
    given = os.environ.get("FOXPATH_TRUTH")
    places = [Path(given)] if given else sorted(ROOT.parent.glob("*/truth"))
    return next((place for place in places if (place / "score_growth.py").is_file()), None)


def measure() -> list[dict[str, object]]:
    """Run the scorers that are there."""
    place = folder()
    if place is None:
        return [_row("marked photographs", None, "", None, "no folder of them here: set FOXPATH_TRUTH")]
    rows = []
    for name, more in RUNS:
        command = [sys.executable, str(place / f"score_{name}.py"), str(ROOT), *more]
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        last = (done.stdout.strip().splitlines() or [done.stderr.strip()[-200:]])[-1]
        rows += _rows(name, more, last)
    return rows


def _rows(name: str, more: tuple[str, ...], last: str) -> list[dict[str, object]]:
    """Return the figures of a scorer's pooled line."""
    how = {"few": ", 4 combs", "nocombs": ", no comb"}.get("".join(more), "")
    if name == "growth":
        found = re.search(r"axial ([\d.]+)/([\d.]+).*p90 ([\d.]+).*flipped ([\d.]+)", last)
        if found is None:
            return [_row(f"growth{how}", None, "", None, last)]
        median, most, border, wrong = (float(v) for v in found.groups())
        most_wrong = 15.0 if "nocombs" in more else 1.5 if "few" in more else 0.5
        return [
            _row(
                f"growth{how}: axis, 90th percentile", most, "°", 11.0, f"median {median:.1f}; at markings {border:.0f}"
            ),
            _row(f"growth{how}: roots at the wrong end", wrong, "%", most_wrong, ""),
        ]
    if name == "zones":
        found = re.search(r"median IoU ([\d.]+).*worst ([\d.]+)", last)
        if found is None:
            return [_row("parts from scribbles", None, "", None, last)]
        return [
            _row("parts from scribbles: overlap, median", 100 * float(found[1]), "%", None, f"worst {found[2]}; aim 90")
        ]
    found = re.search(r"(\d+) of (\d+) right.*median ([\d.]+)", last)
    if found is None:
        return [_row("eyes from one click", None, "", None, last)]
    return [
        _row("eyes from one click", 100 * int(found[1]) / int(found[2]), "%", None, f"middle off {found[3]} R; aim 85")
    ]


def _row(what: str, value: float | None, unit: str, goal: float | None, detail: str) -> dict[str, object]:
    return {"what": what, "value": value, "unit": unit, "goal": goal, "detail": detail}
