"""Length and width of the marks (`field`), feathers row by row (`feathers`), hair over the borders (`hanging`, `markings`); `facts`, `borders` and
`reading` gather them, `overlay` draws the growth with hair of true length.

A coat is the hair of a zone in numbers; the field of lengths has multiples of it, place by place.
"""
