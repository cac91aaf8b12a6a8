"""The Easel stop: the way to the easel view, and the log on a page of its own."""
