"""Starting the application."""

import gc
import os
import unittest

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from foxpath.window.shell import app


class Started(unittest.TestCase):
    def test_what_is_loaded_is_not_looked_through_again(self):
        gc.collect()
        loaded = len(gc.get_objects())
        self.addCleanup(gc.unfreeze)
        app.spare_what_stays()
        self.assertGreater(gc.get_freeze_count(), loaded // 2)
        self.assertLess(len(gc.get_objects()), loaded // 10)
        # What comes later is collected as ever.
        ring = []
        ring.append(ring)
        del ring
        self.assertGreater(gc.collect(), 0)


if __name__ == "__main__":
    unittest.main()
