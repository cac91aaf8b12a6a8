"""Find an eye from a click (`find`): `circles` in a `window` of the picture, the `rim` of the best, its `pupil`, `lids` and lights."""

from foxpath.core.eyes.finding.find import FoundEye, find_eye

__all__ = ["FoundEye", "find_eye"]
