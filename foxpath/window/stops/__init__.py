"""One module per stop of the trail: its bench, what it draws on the picture, what a gesture there means."""
