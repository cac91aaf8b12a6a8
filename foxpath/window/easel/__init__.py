"""The easel view: a whole screen for an arm's length and wet hands. `hand` is what happens, `view` takes keys and taps, `paint` draws."""
