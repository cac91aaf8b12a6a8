"""`foxpath tubes`."""

import argparse
import json

from foxpath.cli.parsers import EXIT_DONE


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("--own", action="store_true", help="list your kept cupboard instead of the whole table")


def run(args: argparse.Namespace) -> int:
    """List the tubes as JSON."""
    from foxpath.core.mixes.tubes import KeptTube, table, tubes_of
    from foxpath.document import cupboard

    kept = cupboard.own_cupboard() if args.own else tuple(KeptTube(key) for key in table())
    told = [
        {
            "id": tube.id,
            "name": tube.name,
            "pigment": tube.pigment,
            "masstone": list(tube.masstone),
            "tint": list(tube.tint),
            "drying": tube.drying,
            "hazard": tube.hazard,
            "transparency": tube.transparency,
            "system": tube.system,
        }
        for tube in tubes_of(kept)
    ]
    print(json.dumps(told, indent=1, ensure_ascii=False))
    return EXIT_DONE
