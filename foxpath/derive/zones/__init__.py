"""Where the zones lie: `shapes` maps them, `reading` says their numbers and what is wrong with them, `outlining` finds outlines."""
