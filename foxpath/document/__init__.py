"""The project as frozen state, the edits on it, its history and its file.

`model` is the state, `edits` the functions from one state to the next, `history` what undo goes back
to, `archive` the `.foxpath` file, `recovery` what survives a crash.
"""
