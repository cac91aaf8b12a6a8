"""Stop 4, Edges: `stop` has bench and gestures, `markings` where hair crosses the borders of markings."""
