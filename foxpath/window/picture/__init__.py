"""The picture: `viewport` maps reference pixels to the screen, `view` shows and is drawn on, `rulers` the rules."""
