"""Stop 5, Lengths: `stop` has bench and gestures; `coat` the numbers of a zone's hair, `kit` the brushes, `plumage` the feathers."""
