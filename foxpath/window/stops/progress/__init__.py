"""Stop 12, Progress: the list and the stop itself (`stop`, `touches`), pages (`photograph`, `trend`), corners (`photo`), and what lies over the canvas (`overlay`)."""
