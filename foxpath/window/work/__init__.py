"""What the window works on: `session` (the project, its history, what is being looked at), `runner` (long work off the interface's thread),
`recent` (paintings opened before).
"""
