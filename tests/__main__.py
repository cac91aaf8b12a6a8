"""`python -m tests`: see `runner`."""

import sys

from tests.runner import main

if __name__ == "__main__":
    # What runs in other processes must be found by its module's name: it cannot be this one.
    sys.exit(main())
