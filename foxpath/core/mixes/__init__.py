"""Mixes: paint as it mixes and lies, recipes, the palette of a painting, and its correction by looking.

`optics` is the physics; `tubes` the paint; `recipe` finds mixtures, `reach` says what none reaches; `adding` and `learning` are the
loop of mixing, looking and correcting; `layers` lays paint over paint, `strings` makes blacks, greys and values; `palette` plans
the piles of a painting, `amounts` their size and medium, `chain` the order on a brush, `budget` where strong colour is spent.
"""
