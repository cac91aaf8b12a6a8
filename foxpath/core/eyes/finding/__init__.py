"""Find an eye from a click (`find`): `hypotheses` weighed by their `looks` in a `window` of the picture, the `rim` of the likeliest, its
`pupil`, `lids` and lights.
"""

from foxpath.core.eyes.finding.find import FoundEye, find_eye

__all__ = ["FoundEye", "find_eye"]
