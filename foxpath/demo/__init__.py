"""Made-up animals, ready to open: `load` opens by name what lies in `data/`. Their makers are no part of the product."""

from foxpath.demo.load import DEMOS, demo_project, is_demo

__all__ = ["DEMOS", "demo_project", "is_demo"]
