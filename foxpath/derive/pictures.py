"""The reference as it is measured and shown: decoded, composed, corrected, cropped and brought to size."""

from collections.abc import Hashable

import numpy as np

from foxpath.core.arrays import F32, F64, Rgb8, frozen
from foxpath.core.colour import lab_from_rgb8
from foxpath.core.frame import Crop, Frame
from foxpath.core.reference import read_picture
from foxpath.core.reference.compose import Part, compose
from foxpath.core.reference.correction import develop, gains_of_grey, gains_of_light, spot_linear
from foxpath.core.reference.departures import RANGES, Departure, Laid, changed, middle_values, weight_of
from foxpath.core.reference.gone import Leaves, without
from foxpath.core.reference.picture import Picture
from foxpath.core.rehearsal.marks import Study, make_study
from foxpath.core.zones import fill, label_map
from foxpath.derive.frames import map_frame
from foxpath.derive.results import Results
from foxpath.document.model import Pairs, Project, Reference, as_array

MOST_BLUR_MM = RANGES["soft_mm"][1]


def picture_of(results: Results, reference: Reference) -> Picture:
    """Return the decoded reference."""
    return results.memo.get(("picture", reference.digest), lambda: read_picture(reference.data, reference.name))


def composed_key(results: Results, project: Project) -> Hashable:
    """Return the fingerprint of the composed reference: the main picture's own when no part is placed, and none has gone."""
    main = _gone_key(project) or project.reference.digest
    if not project.placed:
        return main
    parts = tuple((one.reference.digest, one.pose, one.cut, one.soft_mm) for one in project.placed)
    return (main, parts, project.mm_per_px)


def measured_key(results: Results, project: Project) -> Hashable:
    """Return the fingerprint of the reference as it is measured: composed and corrected."""
    key = composed_key(results, project)
    return key if project.correction.nothing else (key, project.correction)


def picture_key(results: Results, project: Project) -> Hashable:
    """Return the fingerprint of the reference as it is painted from: as it is measured, with the departures laid over it."""
    return results.once(project, "picture key", lambda: _read_picture_key(results, project))


def _read_picture_key(results: Results, project: Project) -> Hashable:
    key = measured_key(results, project)
    soft = soft_markings(project)
    if soft:
        kinds = tuple((zone.kind, zone.depth) for zone in project.back_to_front())
        key = (key, "soft", soft, project.outlines, kinds, project.crop, project.mm_per_px)
    if not project.departures:
        return key
    back = tuple((zone.id, zone.kind, zone.group, zone.depth) for zone in project.back_to_front())
    focal = project.focal_point if any(one.side == "away" for one in project.departures) else None
    return (key, project.departures, project.outlines, project.crop, project.mm_per_px, back, focal)


HANGS, MOST_HANG_MM, RIM_MM = 0.6, 12.0, 1.5
"""How far hair hangs over the outline of a part that leaves, over its length, and at most; and what is not hair."""


def _main_picture(results: Results, project: Project) -> Picture:
    """Return the main picture, without the parts that have gone, and with those that were moved where they are now."""
    main = picture_of(results, project.reference)
    if not project.gone:
        return main

    def make() -> Picture:
        import cv2

        whole = Frame.over(Crop(0, 0, project.reference.width, project.reference.height), 1.0, GONE_PX)
        ids = {one.zone.id for one in project.gone}
        staying = [zone for zone in project.back_to_front() if zone.id not in ids]
        behind = label_map(tuple(zone.shape for zone in staying), whole)
        leaving = []
        for one in project.gone:
            outline = one.zone.shape.outline()
            part = fill(whole.to_grid(outline), whole.shape)
            hair = one.zone.kind_of().hair
            hang = min(HANGS * one.zone.coat_on(project.canvas).length_mm, MOST_HANG_MM) if hair else RIM_MM
            reach = max(1, round(hang / (whole.cell_px * project.mm_per_px)))
            front = [k for k, zone in enumerate(staying) if zone.depth > one.zone.depth]
            near = cv2.dilate(part.astype(np.uint8), np.ones((2 * reach + 1,) * 2, np.uint8)) > 0
            over = np.isin(behind, front)
            hole = near & ~over
            # What lies over it stays where it is.
            soft = cv2.GaussianBlur((part & ~over).astype(np.float32), (0, 0), 0.8)
            by = (0.0, 0.0)
            if one.to:
                (x0, y0), (x1, y1) = one.to
                by = ((x1 - x0) / whole.cell_px, (y1 - y0) / whole.cell_px)
            leaving.append(Leaves(hole, np.asarray(soft, np.float32), by))
        return Picture(without(main.rgb, leaving, behind), main.scale)

    return results.memo.get(("gone", _gone_key(project)), make)


GONE_PX = 900
"""Longer side of the grid on which parts leave."""


def _gone_key(project: Project) -> Hashable:
    """Return the fingerprint of what has gone, and of what lies behind it."""
    if not project.gone:
        return None
    rows = tuple((z.id, z.points, z.depth, z.kind) for z in project.back_to_front())
    return (project.reference.digest, project.gone, rows, project.canvas, project.mm_per_px)


def composed_picture(results: Results, project: Project) -> Picture:
    """Return the main picture with the placed parts, and without those that have gone, as it came otherwise."""
    main = _main_picture(results, project)
    if not project.placed:
        return main

    def make() -> Picture:
        parts = []
        for one in project.placed:
            own = picture_of(results, one.reference)
            affine = one.pose.affine(one.reference.width, one.reference.height)
            soft_px = one.soft_mm / project.mm_per_px
            parts.append(Part(own.rgb, as_array(one.cut), affine, own.scale, soft_px))
        return Picture(compose(main.rgb, main.scale, parts), main.scale)

    return results.memo.get(("composed", composed_key(results, project)), make)


def white_gains(results: Results, project: Project) -> F64:
    """Return the white balance's gains of linear red, green and blue."""
    correction = project.correction
    if correction.grey is not None:
        k = composed_picture(results, project).scale
        at = (correction.grey[0] * k, correction.grey[1] * k)
        return gains_of_grey(spot_linear(composed_picture(results, project).rgb, at, correction.radius_px * k))
    return gains_of_light(correction.light_k) if correction.light_k is not None else np.ones(3)


def measured_picture(results: Results, project: Project) -> Picture:
    """Return the reference as it is measured: composed and corrected."""
    picture, correction = composed_picture(results, project), project.correction
    if correction.nothing:
        return picture

    def make() -> Picture:
        rgb = develop(picture, white_gains(results, project), correction.exposure, correction.lift)
        return Picture(rgb, picture.scale)

    return results.memo.get(("working", measured_key(results, project)), make)


def working_picture(results: Results, project: Project) -> Picture:
    """Return the reference as it is painted from and shown: as it is measured, with the departures laid over it."""
    picture = measured_picture(results, project)
    if not project.departures and not soft_markings(project):
        return picture
    return results.memo.get(("departed", picture_key(results, project)), lambda: _departed(project, picture))


def soft_markings(project: Project) -> tuple[tuple[Pairs, float], ...]:
    """Return the outlines of markings whose border gives way to the coat, and over how much, mm."""
    return tuple(
        (z.points, z.soft_mm) for z in project.zones if z.soft_mm > 0 and z.kind_of().key == "marking" and not z.whole
    )


def _rim(outline: F64, soft_mm: float, frame: Frame) -> F32:
    """Return how near every cell lies to a marking's border, 0 to 1, within the width over which it gives way."""
    import cv2

    mask = fill(frame.to_grid(outline), frame.shape).astype(np.uint8)
    away = cv2.distanceTransform(mask, cv2.DIST_L2, 5) + cv2.distanceTransform(1 - mask, cv2.DIST_L2, 5)
    return np.asarray(np.clip(2 - 2 * away * frame.cell_mm / soft_mm, 0, 1), np.float32)


def _departed(project: Project, picture: Picture) -> Picture:
    frame = map_frame(project)
    zones = project.back_to_front()
    labels = label_map(tuple(zone.shape for zone in zones), frame)
    lab = lab_from_rgb8(_scaled(picture, project.crop, frame.columns, frame.rows))
    middles, far = middle_values(lab, labels, len(zones)), distances(project)
    places = {zone.id: k for k, zone in enumerate(zones)}
    px_per_mm = 1 / frame.cell_mm
    x, y = frame.to_grid(np.array([project.focal_point]))[0]
    laid = []
    for one in project.departures:
        place = places.get(one.zone, -1)
        weight = weight_of(one, place, labels, lab, middles, far, px_per_mm, (float(x), float(y)))
        laid.append(Laid(one, weight, float(middles[place])))
    # A marking that gives way: the coat's colours and its own run into each other across its border.
    for points, soft_mm in soft_markings(project):
        blur = Departure("", soft_mm=min(soft_mm, MOST_BLUR_MM))
        rim = _rim(as_array(points), soft_mm, frame)
        # Into the coats it lies on, and into nothing beside them: an eye near it stays as it is.
        coats = [k for k, z in enumerate(zones) if z.kind_of().hair and z.kind_of().cover]
        laid.append(Laid(blur, np.asarray(rim * np.isin(labels, coats), np.float32), 50.0))
    crop, k = project.crop, picture.scale
    box = (crop.x * k, crop.y * k, crop.width * k, crop.height * k)
    return Picture(changed(picture.rgb, laid, box, 1 / (project.mm_per_px / k)), k)


def distances(project: Project) -> F64:
    """Return how far back every zone lies, back to front: backgrounds 1 to 0.5 by their planes, a farther animal up to 0.6, the nearest 0."""
    zones = project.back_to_front()
    made = np.zeros(len(zones))
    grounds = [k for k, zone in enumerate(zones) if zone.kind == "background"]
    for rank, k in enumerate(grounds):
        made[k] = 1 - 0.5 * rank / max(len(grounds) - 1, 1)
    others = [k for k in range(len(zones)) if k not in grounds]
    nearest = {zones[k].group: k for k in others}
    order = sorted(nearest, key=lambda group: -nearest[group])
    for k in others:
        made[k] = 0.6 * order.index(zones[k].group) / max(len(order) - 1, 1)
    return made


def cropped_picture(results: Results, project: Project, columns: int, rows: int) -> Rgb8:
    """Return the crop of the reference brought to a size in pixels."""
    key = ("cropped", picture_key(results, project), project.crop, columns, rows)
    return results.memo.get(key, lambda: scaled_picture(results, project, columns, rows))


def scaled_picture(results: Results, project: Project, columns: int, rows: int) -> Rgb8:
    """Return the crop of the reference as it is painted from, brought to a size in pixels, not remembered."""
    return _scaled(working_picture(results, project), project.crop, columns, rows)


def scaled_measured(results: Results, project: Project, columns: int, rows: int) -> Rgb8:
    """Return the crop of the reference as it is measured, brought to a size in pixels, not remembered."""
    return _scaled(measured_picture(results, project), project.crop, columns, rows)


def _scaled(picture: Picture, crop: Crop, columns: int, rows: int) -> Rgb8:
    import cv2

    k = picture.scale
    x0, y0 = round(crop.x * k), round(crop.y * k)
    x1, y1 = max(x0 + 1, round((crop.x + crop.width) * k)), max(y0 + 1, round((crop.y + crop.height) * k))
    part = picture.rgb[y0:y1, x0:x1]
    shrinks = columns < part.shape[1]
    how = cv2.INTER_AREA if shrinks else cv2.INTER_CUBIC
    made: Rgb8 = frozen(np.asarray(cv2.resize(part, (columns, rows), interpolation=how), dtype=np.uint8))
    return made


def study_of(results: Results, project: Project) -> Study:
    """Return the reference as the marks read it."""
    frame = map_frame(project)

    def make() -> Study:
        return make_study(lab_from_rgb8(cropped_picture(results, project, frame.columns, frame.rows)), frame)

    return results.memo.get(("study", picture_key(results, project), frame), make)
