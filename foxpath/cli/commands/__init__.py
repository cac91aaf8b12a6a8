"""The commands, a module each; all run headless and without Qt.

Nothing heavy is imported here: a command's module is, when it runs.
"""

from dataclasses import dataclass
from importlib import import_module
from typing import Any


@dataclass(frozen=True, slots=True)
class Command:
    """A command of the command line.

    Attributes
    ----------
    name : str
        What is written, and the name of its module here, which has `arguments(parser)` and `run(args)`.
    words : str
        What it does, in a sentence.
    """

    name: str
    words: str

    def load(self) -> Any:
        """Import the command's module."""
        return import_module(f"{__name__}.{self.name}")


COMMANDS: tuple[Command, ...] = (
    Command("new", "Make a project from a picture."),
    Command("inspect", "Judge a picture: health maps as PNG, numbers and remedies as health.json."),
    Command("zones", "Find the outline of parts from scribbles inside and outside them, or from the picture alone."),
    Command("growth", "Fill in the growth of an outlined part from picture and combs."),
    Command("lengths", "Say how long and wide the hair of every part looks in the picture, with its doubt."),
    Command("eye", "Find an eye from one place in its pupil: iris, pupil, catchlight."),
    Command("tubes", "List the tubes of paint that can be mixed from, as JSON."),
    Command("mix", "Find a recipe for a colour, or what to add to a pile that is mixed, as JSON."),
    Command("mixes", "Plan the piles of a painting: mixes.json, mixes.csv and swatches.pdf."),
    Command("plan", "Write every sheet, and plan.json with all numbers."),
    Command("rehearse", "Draw the painting as it stands after each pass."),
    Command(
        "depart", "Let parts depart from the reference on purpose: reference, changed and difference side by side."
    ),
    Command(
        "passes", "List the passes with their order of work; add a veil or a second coat, move, set or remove one."
    ),
    Command("days", "Plan the sittings of a painting from drying, free time and a deadline: days.json, days.ics."),
    Command("compare", "Rehearse a painting in several schools, side by side."),
    Command("painted", "Note what a pass took; later estimates learn from it."),
    Command("log", "Show, search or write what was told at the easel: text, CSV or sheets."),
    Command("note", "Write a word about a part into the log: touch-dry, tacky, too dark, or a text."),
    Command("progress", "Compare a photograph of the canvas with the plan: squared.png, touch-ups.pdf, progress.json."),
    Command("practice", "Make a drill whose answer is computed: task.png, task.json, answer.json; or score an answer."),
    Command("proof", "Write a proof for the client, as PDF and PNG: the planned painting, its colours and its date."),
    Command("check", "List findings; exit status 1 if any must be mended."),
)
"""Every command in the order of the work; help, launcher and messages follow it."""


def command_called(name: str) -> Command | None:
    """Return a command by its name, or None."""
    return next((one for one in COMMANDS if one.name == name), None)


def names() -> str:
    """Return the commands' names for a sentence."""
    every = [one.name for one in COMMANDS]
    return f"{', '.join(every[:-1])} or {every[-1]}"
