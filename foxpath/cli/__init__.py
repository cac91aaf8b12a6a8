"""The command line. Everything but the window runs headless and without Qt.

`main` takes the arguments, `parsers` knows them, `reading` reads what they name; `pictures` has the commands about a picture,
`paintings` those about a project.
"""

from foxpath.cli.main import entry, main

__all__ = ["entry", "main"]
