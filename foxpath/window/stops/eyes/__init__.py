"""Stop 6, Eyes: `stop` has its three pages take turns: `marking` of eyes, other `features`, the check of a `drawing`."""

from foxpath.window.stops.eyes.stop import EyesStop

__all__ = ["EyesStop"]
