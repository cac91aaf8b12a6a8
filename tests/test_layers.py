import ast
import subprocess
import sys
import unittest
from pathlib import Path

TOP = Path(__file__).parents[1]

LOWER = "foxpath.cli, foxpath.demo, foxpath.derive.book, foxpath.derive.readings, foxpath.derive.rehearsal.requests, foxpath.document.recovery, foxpath.sheets"


class Layers(unittest.TestCase):
    def test_below_the_window_nothing_knows_qt(self):
        code = f"import {LOWER}, sys; sys.exit('PySide6' in sys.modules)"
        self.assertEqual(subprocess.run([sys.executable, "-c", code], check=False).returncode, 0)

    def test_the_window_starts_without_the_slow_packages(self):
        """The first window is drawn before NumPy, Numba, SciPy, OpenCV, Pillow or ReportLab is there."""
        code = (
            "import foxpath.window.shell.app, sys;"
            "print([m for m in ('numpy', 'numba', 'scipy', 'cv2', 'PIL', 'reportlab') if m in sys.modules])"
        )
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=False)
        self.assertEqual(done.stdout.strip(), "[]", done.stderr)

    def test_nothing_is_known_by_its_hash_or_its_place_in_memory(self):
        """hash(-1) is hash(-2), and an id is given again to what comes later: contents go by their fingerprint."""
        found = [
            f"{file.relative_to(TOP)}:{node.lineno}"
            for file in sorted((TOP / "foxpath").rglob("*.py"))
            for node in ast.walk(ast.parse(file.read_text("utf-8")))
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in {"hash", "id"}
        ]
        self.assertEqual(found, [])
