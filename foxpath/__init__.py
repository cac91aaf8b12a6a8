"""Fox Path: plan and rehearse the painting of fur, feathers and eyes.

The packages, from the bottom up:

- `core`: the computation. Pure functions on arrays; no Qt, no files. One package per stop of the trail.
- `document`: the project as frozen state, its edits, its history and its file.
- `sheets`: what is printed or handed on.
- `derive`: what follows from a project, remembered by the fingerprint of its inputs.
- `demo`: made-up animals with known growth.
- `window`: the Qt interface; the only package that imports PySide6.
- `cli`: the command line.
"""

__version__ = "0.1.0"
