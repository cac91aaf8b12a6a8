"""What is derived, remembered from one test to the next: the same small paintings are looked at again and again.

A module says ``setUpModule = remember`` where its tests ask what follows from a painting. Not where they ask whether
it is made anew, and not where they change what lies behind it: that is ``remember_apart``, or nothing at all.
"""

import unittest
from unittest import mock

from foxpath.derive.memo import Memo

_TOGETHER = Memo(600_000_000)


def remember() -> None:
    """Let all results of a module, and of others that say so, be remembered in one place."""
    _patched(_TOGETHER)


def remember_apart() -> None:
    """Let all results of a module be remembered, for itself alone."""
    _patched(Memo())


def _patched(memo: Memo) -> None:
    unittest.enterModuleContext(mock.patch("foxpath.derive.results.Memo", lambda: memo))
