"""Whiskers that were drawn one by one, and the part they belong to."""

import numpy as np

from foxpath.core.features import Feature
from foxpath.document.model import Project, Zone, as_array


def whisker_zone(project: Project, feature: Feature) -> Zone | None:
    """Return the part of whiskers nearest to the roots of a feature's strokes; None where there is none, or nothing was drawn."""
    if not feature.strokes:
        return None
    roots = np.mean([stroke.line()[0] for stroke in feature.strokes], axis=0)

    def away(zone: Zone) -> float:
        return 0.0 if zone.whole else float(np.hypot(*(as_array(zone.points) - roots).T).min())

    return min((zone for zone in project.zones if zone.kind == "whisker"), key=away, default=None)


def drawn_whisker_zones(project: Project) -> frozenset[str]:
    """Return the ids of the parts whose whiskers were drawn: each lies as it was drawn, and asks for no comb."""
    homes = (whisker_zone(project, one) for one in project.features if one.kind == "whiskers")
    return frozenset(zone.id for zone in homes if zone is not None)
