"""Made-up animals: a picture drawn from a known growth, and the project a painter would have made of it.

`head` and `jay` are the models (outlines, growth, lengths, light), `picture` and `jay_picture` draw them, `make` writes
the painter's decisions, and `data/` holds what they made, so that a demo opens at once.
"""

from foxpath.demo.load import DEMOS, demo_project, is_demo

__all__ = ["DEMOS", "demo_project", "is_demo"]
