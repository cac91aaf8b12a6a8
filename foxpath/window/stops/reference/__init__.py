"""Stop 1, Reference: the picture judged, fitted to the canvas, and seen as a painter sees it, one fold for each."""

from foxpath.window.stops.reference.stop import ReferenceStop

__all__ = ["ReferenceStop"]
