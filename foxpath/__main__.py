"""`python -m foxpath`."""

from foxpath.cli import entry

if __name__ == "__main__":
    entry()
