"""The log: what was said at the easel, entry by entry, and what follows from it.

`entries` is what is kept: words are only ever added, a correction keeps the first word. `reading` tells sittings, minutes and carry-over from
them, `timers` what is open, tacky or due, and `words` writes it all out.
"""
