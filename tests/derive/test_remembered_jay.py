"""The same as `test_remembered` on the other demo: feathers, a fan, one eye."""

import unittest

from tests.derive.test_remembered import Remembered


class RememberedOfTheJay(Remembered, unittest.TestCase):
    demo = "jay"

    @staticmethod
    def groups(names):
        """Return them in other company than on the fox: one that hides another's trace there does not do so here."""
        return [names[k : k + 29] for k in range(0, len(names), 29)]


if __name__ == "__main__":
    unittest.main()
