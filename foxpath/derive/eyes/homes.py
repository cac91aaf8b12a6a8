"""Where marked eyes and features are painted."""

from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Points
from foxpath.core.curves import closed_curve
from foxpath.core.eyes import Eye
from foxpath.core.features import FEATURES, Feature
from foxpath.derive.results import Results
from foxpath.derive.zones.whiskers import whisker_zone
from foxpath.document.edits import eye_zone, zone_under
from foxpath.document.model import Project

EYE_ROLES = ("undercoat", "restated", "lights", "highlights")
"""Passes that an eye's own steps take over; before them it is blocked in like any part."""


@dataclass(frozen=True, slots=True)
class Homes:
    """Which marked eyes and which features are painted in each zone, by its place counted back to front."""

    eyes: dict[int, tuple[Eye, ...]]
    features: dict[int, tuple[Feature, ...]]


def _find_homes(project: Project) -> Homes:
    """Return where eyes and features are painted: eyes in their zone, whiskers in the nearest of theirs, others where they lie."""
    place = {zone.id: k for k, zone in enumerate(project.back_to_front())}
    eyes: dict[int, tuple[Eye, ...]] = {}
    for eye in project.eyes:
        zone = eye_zone(project, eye.iris.centre)
        if zone is not None:
            eyes[place[zone.id]] = (*eyes.get(place[zone.id], ()), eye)
    features: dict[int, tuple[Feature, ...]] = {}
    for feature in project.features:
        if not feature.strokes:
            continue
        if feature.kind == "whiskers":
            zone = whisker_zone(project, feature)
            home = zone.id if zone is not None else None
        else:
            home = zone_under(project, outline_of_feature(feature))
        if home is not None:
            features[place[home]] = (*features.get(place[home], ()), feature)
    return Homes(eyes, features)


def homes_of(results: Results, project: Project) -> Homes:
    """Return which marked eyes and features are painted in each zone."""

    def found() -> Homes:
        kinds = tuple((zone.kind, zone.whole) for zone in project.back_to_front())
        key = ("homes", project.outlines, kinds, project.eyes, project.features)
        return results.memo.get(key, lambda: _find_homes(project))

    return results.once(project, "homes", found)


def eyes_in(results: Results, project: Project, index: int) -> tuple[Eye, ...]:
    """Return the marked eyes that are painted in a zone, by its place counted back to front."""
    return homes_of(results, project).eyes.get(index, ())


def features_in(results: Results, project: Project, index: int) -> tuple[Feature, ...]:
    """Return the features that are painted in a zone, by its place counted back to front."""
    return homes_of(results, project).features.get(index, ())


def drawn_whiskers(results: Results, project: Project, index: int) -> bool:
    """Tell whether a zone's whiskers were drawn one by one: they take the place of those the plan would scatter."""
    return any(feature.kind == "whiskers" for feature in features_in(results, project, index))


def outline_of_feature(feature: Feature) -> Points:
    """Return what stands for a feature where its outline is asked for: its first outline, else all its points."""
    kind = FEATURES[feature.kind]
    closed = [s for s in feature.strokes if (part := kind.part(s.part)) is not None and part.closed]
    return closed_curve(closed[0].line(), 6) if closed else np.concatenate([s.line() for s in feature.strokes])
