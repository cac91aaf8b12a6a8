"""Days: the tasks of a painting with what must lie between them."""
