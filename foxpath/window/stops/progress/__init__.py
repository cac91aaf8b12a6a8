"""Stop 12, Progress: the photograph with its corners (`photo`), the list (`touches`), and the stop itself."""
