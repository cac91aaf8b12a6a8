"""Practice: drills for the eye, the hand and the judgement, whose right answers are computed.

`scene` is what a drill is made from, `task` what it asks and what an answer is worth, `drill` what all of them have in common;
`drills` holds them, a module each. `threshold` finds how small a difference a painter sees, `weeks` keeps account over weeks.
"""
