"""The edges: `plan` finds the borders and grades them, `reading` gathers them.

A border is where two zones meet; an edge is what is planned for it: a grade, and a width from 10 to 90 % in mm.
"""
