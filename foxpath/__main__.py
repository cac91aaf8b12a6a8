"""`python -m foxpath`."""

import sys

if __name__ == "__main__":
    try:
        from foxpath.cli import entry

        entry()
    except KeyboardInterrupt:
        # Stopped before the command line could take over.
        print("foxpath: stopped.", file=sys.stderr)
        sys.exit(1)
