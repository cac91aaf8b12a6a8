"""Makers of the demos: animals drawn from numbers, with known growth. ``python -m tools.demo.make`` writes `foxpath/demo/data` again.

`picture` and `jay_picture` draw them with `brushwork`; `head` and `jay` hold the numbers; `make` writes picture and project.
"""
