"""The painting rehearsed: `marks` of each pass in each zone, `features` and `strays` that go with them, `softness` of the borders, laid
on a `panel` tile by tile, pass by pass (`painting`); `reading` and `finish` say how it came out.

A mark is one touch of the brush; a group is the marks of one pass in one zone; a layer is a pass as it was painted.
"""
