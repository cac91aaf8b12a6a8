"""The window round the painting: `main` lays out trail, header, course and foot, `papers` opens and saves, `begin` is shown before anything is
open, `keys` is the help sheet, `studio` all that works on a painting, `app` starts it all.

The trail is the row of stops; the course the row of passes over the picture; papers are what lies on the disk.
"""
