"""The growth: `fields` solves it zone by zone, `reading` says how sure it is, `files` hands it on.

A field is the direction everywhere in a zone, root to tip; evidence is the axis the picture shows; a guess is where hair grows when
nobody has said so.
"""
