"""Where each zone lies: the map of zones, their masks, and which of them grow."""

import numpy as np

from foxpath.core.arrays import Bool, Labels, frozen
from foxpath.core.fingerprint import fingerprint
from foxpath.core.frame import Frame
from foxpath.core.zones import ZoneShape, fill, label_map
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.results import Results
from foxpath.document.model import Project, Zone


def shapes_of(project: Project) -> tuple[ZoneShape, ...]:
    """Return the zones' shapes, back to front."""
    return tuple(zone.shape for zone in project.back_to_front())


def labels_of(results: Results, project: Project, frame: Frame) -> Labels:
    """Return the zone map on a grid."""
    key = ("labels", project.outlines, frame)
    return results.memo.get(key, lambda: label_map(shapes_of(project), frame))


def mask_of(results: Results, project: Project, index: int, frame: Frame) -> Bool:
    """Return where one zone is seen on a grid; zones that cover nothing are seen whole."""
    zone = project.back_to_front()[index]
    if not zone.kind_of().cover:
        own = ("whole mask", zone.points, frame)
        return results.memo.get(own, lambda: fill(frame.to_grid(zone.shape.outline()), frame.shape))
    key = ("mask", project.outlines, index, frame)
    made: Bool = results.memo.get(key, lambda: frozen(np.asarray(labels_of(results, project, frame) == index)))
    return made


def mask_key(results: Results, project: Project, index: int, frame: Frame) -> bytes:
    """Return the fingerprint of a zone's mask: it stays the same while its own cells do."""
    key = ("mask key", project.outlines, index, frame)
    return results.memo.get(key, lambda: fingerprint(mask_of(results, project, index, frame)))


def subject_of(results: Results, project: Project, frame: Frame) -> Bool:
    """Return where the animal is seen on a grid: all covering zones but background, foreground cover and shadow."""
    kinds = [zone.kind for zone in project.back_to_front()]
    ours = [k for k, kind in enumerate(kinds) if kind not in {"background", "cover", "shadow"}]
    key = ("subject", project.outlines, tuple(ours), frame)
    return results.memo.get(key, lambda: frozen(np.isin(labels_of(results, project, frame), ours)))


def bare_share(results: Results, project: Project) -> float:
    """Return the share of the canvas (0..1) that no zone covers."""
    labels = labels_of(results, project, map_frame(project))
    return float((labels == -1).mean())


def zone_index(project: Project, zone_id: str) -> int:
    """Return a zone's place counted back to front, -1 when there is none."""
    return next((k for k, z in enumerate(project.back_to_front()) if z.id == zone_id), -1)


def growing(project: Project) -> list[tuple[int, Zone]]:
    """Return the zones whose growth matters (hair, feathers), with their place counted back to front."""
    return [(k, z) for k, z in enumerate(project.back_to_front()) if z.kind_of().hair]


def tag_spot(results: Results, project: Project, index: int) -> tuple[float, float] | None:
    """Return the middle of the widest place of a zone."""
    import cv2

    frame = growth_frame(project)
    mask = mask_of(results, project, index, frame)
    if not mask.any():
        return None
    depth = cv2.distanceTransform(np.pad(mask.astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
    i, j = np.unravel_index(int(np.argmax(depth)), depth.shape)
    at = frame.to_px(np.array([[j + 0.5, i + 0.5]]))[0]
    return float(at[0]), float(at[1])
