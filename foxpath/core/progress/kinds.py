"""What a touch-up can be about; apart, so that the document does not load what reads photographs."""

KINDS = (
    "place", "shape", "catchlight", "bare", "value", "stroke", "warmth", "strength", "missing", "growth", "lights", "edge", "smooth",
)  # fmt: skip
"""What a touch-up can be about."""
