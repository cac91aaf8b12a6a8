"""Stop 2, Zones: `stop` has bench and gestures; outlines come by points, by `tracing`, by `scribble`; `shape_acts` joins and cuts,
`kinds` shows what a part can be.
"""
