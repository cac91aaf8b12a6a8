"""Run every benchmark and print a table: ``./fox bench [--json FILE]``."""

import argparse
import json
import sys
from pathlib import Path

from benchmarks import (
    comb,
    days,
    edges,
    eyes,
    feathers,
    growth,
    memory,
    mixes,
    passes,
    practice,
    progress,
    reference,
    rehearsal,
    start,
    truth,
    zones,
)


def main() -> int:
    """Print each measure with its goal; returns 0 whatever they are."""
    parser = argparse.ArgumentParser(prog="./fox bench", description="Speed as ratios in one run.")
    parser.add_argument("parts", nargs="*", metavar="PART", help="only these: start, reference, growth, ...")
    parser.add_argument("--json", metavar="FILE", type=Path, help="write the table as JSON")
    args = parser.parse_args()
    rows = []
    parts = {
        "start": start,
        "reference": reference,
        "zones": zones,
        "edges": edges,
        "growth": growth,
        "eyes": eyes,
        "feathers": feathers,
        "mixes": mixes,
        "passes": passes,
        "days": days,
        "progress": progress,
        "practice": practice,
        "rehearsal": rehearsal,
        "comb": comb,
        "memory": memory,
        "truth": truth,
    }
    for name in args.parts or parts:
        if name not in parts:
            parser.error(f"there is no part '{name}'; parts are {', '.join(parts)}")
        part = parts[name]
        print(f"measuring: {part.__doc__.splitlines()[0]}", file=sys.stderr, flush=True)
        rows += part.measure()
    wide = max(len(row["what"]) for row in rows)
    print(f"{'what':<{wide}}  {'value':>9}  {'goal':>9}  detail")
    for row in rows:
        goal = f"<= {row['goal']:>5g} {row['unit']}" if row["goal"] is not None else ""
        value = f"{row['value']:>7.2f} {row['unit']:<2}" if row["value"] is not None else f"{'-':>7}   "
        print(f"{row['what']:<{wide}}  {value} {goal:<12} {row['detail']}")
    if args.json:
        args.json.write_text(json.dumps({"rows": rows}, indent=1) + "\n", "utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
