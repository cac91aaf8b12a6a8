"""Stop 8, Rehearsal: the painting as it will stand after each pass, drawn mark by mark from the plan.

`marks` places the marks and colours them, `eyes`, `features` and `feathers` make their own, `surface` is what paint does, `stage` stacks
the passes and softens the borders, `reading` compares the outcome with the reference. `foxpath.core.brush` shapes and paints the marks.
"""
