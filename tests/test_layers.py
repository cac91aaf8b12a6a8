import subprocess
import sys
import unittest

LOWER = "foxpath.cli, foxpath.demo, foxpath.derive.handout, foxpath.derive.requests, foxpath.document.recovery, foxpath.sheets"


class Layers(unittest.TestCase):
    def test_below_the_window_nothing_knows_qt(self):
        code = f"import {LOWER}, sys; sys.exit('PySide6' in sys.modules)"
        self.assertEqual(subprocess.run([sys.executable, "-c", code], check=False).returncode, 0)

    def test_the_window_starts_without_the_slow_packages(self):
        """The first window is drawn before NumPy, Numba, SciPy, OpenCV, Pillow or ReportLab is there."""
        code = (
            "import foxpath.window.app, sys;"
            "print([m for m in ('numpy', 'numba', 'scipy', 'cv2', 'PIL', 'reportlab') if m in sys.modules])"
        )
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False)
        self.assertEqual(done.stdout.strip(), "[]", done.stderr)
