"""`foxpath mix`."""

import argparse
import json
from typing import Any

from foxpath.cli.parsers import EXIT_DONE
from foxpath.cli.reading import read_json
from foxpath.core.errors import InputError

LAB_HINT = "Write L*, a*, b* with commas, e.g. --lab 44,18,25; where the first is negative, --lab=-1,0,0."


def arguments(parser: argparse.ArgumentParser) -> None:
    """Say what the command takes."""
    parser.add_argument("--lab", metavar="L,a,b", help="the colour to mix; CIELAB, D65, 2 degrees")
    parser.add_argument(
        "--tubes", metavar="ID,ID,...", help="tubes of the table to mix from; your kept cupboard without"
    )
    parser.add_argument("--most", type=int, default=3, metavar="N", help="tubes at most in the recipe (1 to 4)")
    parser.add_argument(
        "--finish",
        default="matt",
        metavar="NAME",
        help="matt (all reflection of the surface is seen), satin or varnished",
    )
    parser.add_argument("--over", metavar="L,a,b", help="lay it as a film over this dry colour")
    parser.add_argument("--film", type=float, metavar="UM", help="thickness of that film, micrometres")
    parser.add_argument("--add", metavar="PILE.json", help='a mixed pile: {"parts": {ID: n, ...}, "want": [L, a, b]}')
    parser.add_argument("--seen", metavar="L,a,b", help="what that pile looks like")
    parser.add_argument("--wet", action="store_true", help="it was looked at wet: it goes by what it will dry to")


def run(args: argparse.Namespace) -> int:
    """Find a recipe for a colour, or what to add to a pile, and print it as JSON."""
    from foxpath.core.mixes.optics import FINISHES
    from foxpath.core.mixes.recipe import Rack

    if args.finish not in FINISHES:
        raise InputError(f"There is no finish “{args.finish}”.", f"Choose {', '.join(FINISHES)}.")
    if (args.lab is None) == (args.add is None):
        raise InputError(
            "Say what to mix.", "Give --lab L,a,b for a recipe, or --add PILE.json --seen L,a,b for a correction."
        )
    if (args.add is None) != (args.seen is None):
        raise InputError("A correction needs the pile and what it looks like.", "Give --add PILE.json --seen L,a,b.")
    if args.wet and args.add is None:
        raise InputError("Only a pile that was looked at is wet.", "Give --add PILE.json --seen L,a,b --wet.")
    kept = _kept(args.tubes)
    told = _added(args, kept) if args.add is not None else _mixed(args, Rack(_tubes(kept), FINISHES[args.finish]))
    print(json.dumps(told, ensure_ascii=False))
    return EXIT_DONE


def lab_of(text: str) -> Any:
    """Read a colour written as L,a,b. Raises `InputError`."""
    import numpy as np

    from foxpath.core.mixes.recipe import check_target

    try:
        made = np.array([float(one) for one in text.split(",")])
    except ValueError:
        raise InputError(f"“{text}” is no colour.", LAB_HINT) from None
    if made.shape != (3,):
        raise InputError(f"“{text}” is no colour.", LAB_HINT)
    return check_target(made)


def _kept(ids: str | None) -> Any:
    """Return the tubes that were named, else those of the kept cupboard."""
    from foxpath.core.mixes.tubes import KeptTube, named_tubes
    from foxpath.document import cupboard

    if ids is None:
        return cupboard.own_cupboard()
    return tuple(KeptTube(tube.id) for tube in named_tubes(tuple(one.strip() for one in ids.split(",") if one.strip())))


def _tubes(kept: Any) -> Any:
    from foxpath.core.mixes.tubes import tubes_of

    return tubes_of(kept)


def _rounded(lab: Any) -> list[float]:
    return [round(float(v), 3) for v in lab]


def _mixed(args: argparse.Namespace, rack: Any) -> dict[str, Any]:
    from dataclasses import replace

    from foxpath.core.mixes.recipe import Limits, solve

    target = lab_of(args.lab)
    if (args.over is None) != (args.film is None):
        raise InputError("A film needs its ground and its thickness.", "Give --over L,a,b --film UM, e.g. --film 20.")
    if args.film is not None:
        return _veiled(args, rack, target)
    recipe = solve(rack, target, replace(Limits(), most=args.most))
    return _told(rack, recipe, Limits(args.most))


def _told(rack: Any, recipe: Any, limits: Any) -> dict[str, Any]:
    from foxpath.core.mixes.reach import lacking_words, missing

    lacks = missing(rack, recipe, limits)
    return {
        "parts": dict(recipe.parts),
        "lab": _rounded(recipe.lab),
        "target": _rounded(recipe.target),
        "de00": round(recipe.away, 4),
        "reachable": recipe.reached,
        "missing": {}
        if lacks is None
        else {
            "words": lacking_words(recipe, lacks),
            "lightness": round(lacks.lightness, 2),
            "chroma": round(lacks.chroma, 2),
            "at_value": {"parts": dict(lacks.at_value.parts), "lab": _rounded(lacks.at_value.lab)},
            "tube": lacks.tube or None,
        },
        "let_down": list(recipe.let_down),
    }


def _veiled(args: argparse.Namespace, rack: Any, target: Any) -> dict[str, Any]:
    """Find the film over a dry colour that comes nearest."""
    from foxpath.core.mixes.layers import cannot_words, solve_film

    if not 0 < args.film <= 2000:
        raise InputError(f"A film of {args.film:g} micrometres is none.", "Give 1 to 2000; a glaze has 10 to 30.")
    over = lab_of(args.over)
    recipe = solve_film(rack, target, over, args.film, args.most)
    told = {
        "parts": dict(recipe.parts),
        "lab": _rounded(recipe.lab),
        "target": _rounded(target),
        "de00": round(recipe.away, 4),
        "reachable": recipe.reached,
        "missing": {},
        "over": _rounded(over),
        "film_um": args.film,
    }
    words = cannot_words(over, target, recipe.away)
    return told | ({"missing": {"words": words}} if words else {})


def _added(args: argparse.Namespace, kept: Any) -> dict[str, Any]:
    import numpy as np

    from foxpath.core.mixes.adding import addition
    from foxpath.core.mixes.dried import when_dry
    from foxpath.core.mixes.learning import Look, learn
    from foxpath.core.mixes.optics import FINISHES
    from foxpath.core.mixes.recipe import Rack
    from foxpath.core.mixes.tubes import KeptTube, table

    parts, want = _pile(args.add)
    seen = lab_of(args.seen)
    have = {one.id for one in kept}
    # What lies in the pile is known, even where it may not be added.
    every = (*kept, *(KeptTube(key) for key in parts if key not in have and key in table()))
    shown = FINISHES[args.finish]
    base = Rack(_tubes(every), shown)
    base.parts(parts)
    wet = seen
    if args.wet:
        seen = np.array(when_dry(every, tuple(parts.items()), (float(wet[0]), float(wet[1]), float(wet[2]))))
    learned = learn(every, base, [Look(tuple(parts.items()), (float(seen[0]), float(seen[1]), float(seen[2])))])
    rack = Rack(_tubes(learned), shown)
    pile = rack.parts(parts)
    usable = [tube in have for tube in rack.ids]
    step = addition(rack, pile, want, shift=seen - rack.lab(pile), usable=usable)
    told = {"dries_to": _rounded(seen)} if args.wet else {}
    return {
        **told,
        "add": dict(step.added),
        "grows": round(step.grows, 4),
        "lab": _rounded(step.lab),
        "de00": round(step.away, 4),
        "halve_first": step.halve,
        "wasted_share": step.wasted,
        "learned": {
            one.id: {"taken": round(one.taken, 3), "thrown": round(one.thrown, 3)} for one in learned if one.id in parts
        },
    }


def _pile(name: str) -> tuple[dict[str, float], Any]:
    """Read a pile. Raises `InputError` for what is none."""
    record = read_json(name)
    hint = 'It holds {"parts": {"PW6": 4, "PBr7-BS": 1}, "want": [L, a, b]}.'
    parts = record.get("parts") if isinstance(record, dict) else None
    want = record.get("want") if isinstance(record, dict) else None
    if not isinstance(parts, dict) or not parts or not isinstance(want, list) or len(want) != 3:
        raise InputError(f"{name} holds no pile.", hint)
    numbers = [*parts.values(), *want]
    if any(isinstance(n, bool) or not isinstance(n, (int, float)) or abs(n) > 1e6 for n in numbers):
        raise InputError(f"{name} holds what is no number.", hint)
    if any(n < 0 for n in parts.values()) or not any(n > 0 for n in parts.values()):
        raise InputError(f"{name} holds parts below 0, or none above.", hint)
    return {key: float(n) for key, n in parts.items() if n > 0}, lab_of(",".join(str(v) for v in want))
