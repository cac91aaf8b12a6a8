"""The command line. Everything but the window runs headless and without Qt.

`main` takes the arguments; `commands` lists the commands, a module each; `reading` reads what they name, `painting` bends it.
"""

from foxpath.cli.main import entry, main

__all__ = ["entry", "main"]
