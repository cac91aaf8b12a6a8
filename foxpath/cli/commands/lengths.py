"""`foxpath lengths`."""

import argparse
import json

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_project
from foxpath.core.reporting import SILENT


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("project", metavar="X.foxpath", help="a project with outlined parts")
    parser.add_argument("--json", action="store_true", help="write it as JSON")


def run(args: argparse.Namespace) -> int:
    """Say what the picture suggests for the hair of every part."""
    from foxpath.core.units import mm_words
    from foxpath.core.zones import kind_of
    from foxpath.derive import Results
    from foxpath.derive.lengths.suggested import suggested_of
    from foxpath.derive.zones.shapes import growing

    project, results = read_project(args.project), Results()
    told = []
    for index, zone in growing(project):
        if not zone.kind_of().cover:
            continue
        planned = project.coat_of(zone).length_mm
        seen = suggested_of(results, project, index, SILENT)
        row = {"zone": zone.name, "planned_mm": round(planned, 2), "seen_mm": None}
        if seen is not None:
            row |= {
                "seen_mm": round(seen.length_mm, 2),
                "at_least": seen.seen.least,
                "doubt_factor": round(seen.seen.doubt, 2),
                "width_mm": round(seen.width_mm, 3),
                "width_blurred": seen.seen.blurred,
                "places": seen.seen.places,
                "kind": seen.kind or None,
            }
        told.append(row)
        if args.json:
            continue
        if seen is None:
            print(f"{zone.name}: planned {mm_words(planned)}; the picture does not say")
            continue
        kind = f"; looks like {kind_of(seen.kind).name}" if seen.kind else ""
        print(f"{zone.name}: planned {mm_words(planned)}; looks {seen.length_words()}, {seen.width_words()} wide{kind}")
    if args.json:
        print(json.dumps(told, indent=2))
    return EXIT_DONE
