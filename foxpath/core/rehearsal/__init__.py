"""Stop 8, Rehearsal: the painting as it will stand after each pass, drawn mark by mark from the plan.

`marks` places the marks, `strokes` gives them their shape, `raster` paints them with exact coverage,
`stage` stacks the passes and softens the borders.
"""
