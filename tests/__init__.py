"""Tests: they mirror foxpath/. Run with ./fox test."""

import os
import tempfile

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Recent files and recovery copies of the tests never touch the user's own.
os.environ.setdefault("FOXPATH_STATE", tempfile.mkdtemp(prefix="foxpath-tests-"))
os.environ.setdefault("FOXPATH_DATA", os.environ["FOXPATH_STATE"])
