"""Practice: scenes for drills from projects, demos and canvases, what is due, and what a stop shows of it."""
