"""The passes: the `laying` order, the `plan` itself, `cards` in words, `rules` it must keep; `schools`
compares, `values` studies, `wetness` says which neighbours are dry.
"""
