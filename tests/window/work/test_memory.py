import threading
import time
import unittest
from unittest import mock

from foxpath.window.work import runner
from foxpath.window.work.memory import give_back
from tests.window.case import WindowCase


def held_mb():
    with open("/proc/self/statm") as file:
        return int(file.read().split()[1]) * 4096 / 1e6


class GivingBack(unittest.TestCase):
    def test_holes_between_what_is_kept_go_back_to_the_system(self):
        kept = []

        def work():
            blocks = [bytearray(60_000) for _ in range(2500)]
            for block in blocks:
                block[::4096] = b"x" * len(block[::4096])
            kept.extend(blocks[::50])

        thread = threading.Thread(target=work)
        thread.start()
        thread.join()
        before = held_mb()
        if not give_back():
            self.skipTest("this C library gives nothing back")
        self.assertLess(held_mb(), before - 60)
        self.assertEqual(len(kept), 50)


class AfterWork(WindowCase):
    def test_memory_is_given_back_after_long_work_only(self):
        with (
            mock.patch.object(runner, "give_back") as back,
            mock.patch.object(runner, "_SECONDS_OF_LONG_WORK", 0.05),
        ):
            self.session.runner.start("short", lambda _: None, lambda _: None)
            self.settle()
            back.assert_not_called()
            self.session.runner.start("long", lambda _: time.sleep(0.1), lambda _: None)
            self.wait(lambda: back.called)
