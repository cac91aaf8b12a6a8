"""What the window works on: `session` (the project, its history, what is being looked at), `runner` (long work off the interface's thread),
`keeping` (what is written: saved, or kept aside unasked), `recent` (paintings opened before).
"""
