"""The growth of every zone: what the picture says, what the painter says, and both fused."""

from collections.abc import Hashable

import numpy as np

from foxpath.core.arrays import F32, Bool, Points, frozen
from foxpath.core.fingerprint import fingerprint
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import (
    OVERRULES_DEG,
    CombStroke,
    Evidence,
    Singular,
    ZoneField,
    crown_strokes,
    disagreement,
    donor_strokes,
    laying_rank,
    prior_field,
    read_evidence,
    singular_points,
    source_strokes,
    twin_strokes,
    zone_field,
)
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.zones import Prior, fill
from foxpath.derive.frames import growth_frame
from foxpath.derive.pictures import measured_key, picture_of, scaled_measured
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import growing, mask_key, mask_of, subject_of, zone_index
from foxpath.document.model import Comb, Lent, Mark, Project, Zone, as_array

LENT_CELLS = 160
"""Cells on the longer side of the grid over a part of a further picture."""


EVIDENCE_PX = 1400
"""Longer side of the picture from which the growth's evidence is read: hair is some pixels wide there."""


AGAINST_DEG, AGAINST_SURE = 35.0, 0.5
"""The picture contradicts a comb when it is this sure and differs by more than this."""


def _guess(results: Results, project: Project, frame: Frame, prior: Prior, *, rim: bool = False) -> F32:
    """Return the guess about root and tip; with `rim` what hangs over the animal's rim has a say."""
    sources = tuple(
        (float(np.mean([p[0] for p in z.points])), float(np.mean([p[1] for p in z.points])))
        for z in project.zones
        if (z.kind == "eye" or z.name.lower() == "nose") and not z.whole
    )
    animal = subject_of(results, project, frame) if rim else None
    key = ("guess", sources, frame, prior, fingerprint(animal))

    def make() -> F32:
        return frozen(prior_field(frame, np.array(sources).reshape(-1, 2), prior, animal))

    return results.memo.get(key, make)


def growth_key(results: Results, project: Project, index: int, frame: Frame) -> bytes:
    """Return the fingerprint of everything a zone's growth follows from."""
    return results.once(
        project, ("growth key", index, frame), lambda: fingerprint(_read_growth_key(results, project, index, frame))
    )


def _read_growth_key(results: Results, project: Project, index: int, frame: Frame, *, lone: bool = False) -> Hashable:
    zone = project.back_to_front()[index]
    combs = tuple((c.points, c.kept) for c in project.combs_of(zone.id))
    said = tuple((m.kind, m.points, m.turn_deg) for m in project.marks_of(zone.id) if not m.source)
    # Islands that no comb reaches are guessed, in a combed zone too.
    sources = tuple(z.points for z in project.zones if z.kind == "eye" or z.name.lower() == "nose")
    # Where nobody says it, the animal's rim tells roots from tips too: then its outline counts.
    followed = [] if lone else [m for m in project.marks_of(zone.id) if m.source]
    rim = None if combs or said or followed else fingerprint(subject_of(results, project, frame))
    key = fingerprint(combs, said, sources, zone.kind_of().prior, rim)
    length_px = _length_px(project, zone)
    seen = (evidence_key(results, project, frame), length_px) if length_px > 0 else None
    own = ("field", mask_key(results, project, index, frame), key, frame, seen)
    if not followed:
        return own
    lent: list[Hashable] = []
    for mark in followed:
        picture = project.lent(mark.source)
        if picture is not None:
            lent.append((mark.kind, mark.turn_deg, None, (picture.reference.digest, picture.cut)))
            continue
        other = zone_index(project, mark.source)
        axes = project.axes_or_eyes() if mark.kind == "twin" else None
        lent.append((mark.kind, mark.turn_deg, axes, _read_growth_key(results, project, other, frame, lone=True)))
    return (own, tuple(lent))


def evidence_key(results: Results, project: Project, frame: Frame) -> Hashable:
    """Return the fingerprint of what the picture says about the growth."""
    return ("evidence", measured_key(results, project), frame)


def evidence_of(results: Results, project: Project, progress: Progress = SILENT) -> Evidence:
    """Return what the picture says about the growth, on the growth's grid; read once for each picture and crop."""
    frame = growth_frame(project)

    def make() -> Evidence:
        crop = project.crop
        scale = min(1.0, EVIDENCE_PX / max(crop.width, crop.height))
        columns, rows = max(16, round(crop.width * scale)), max(16, round(crop.height * scale))
        rgb = scaled_measured(results, project, columns, rows)
        return read_evidence(rgb, frame.rows, frame.columns, crop.width / columns, progress)

    return results.memo.get(evidence_key(results, project, frame), make)


def _length_px(project: Project, zone: Zone) -> float:
    """Return the length of a zone's hair in reference pixels; 0 where the picture has no say."""
    kind = zone.kind_of()
    if not kind.hair or not kind.cover:
        return 0.0
    return round(project.coat_of(zone).length_mm / project.mm_per_px, 2)


def growth_of(results: Results, project: Project, index: int, progress: Progress = SILENT) -> ZoneField | None:
    """Return the growth of one zone, or None when it is hidden by others."""
    frame = growth_frame(project)
    if not mask_of(results, project, index, frame).any():
        return None
    return results.memo.get(
        growth_key(results, project, index, frame), lambda: _solve(results, project, index, progress, lone=False)
    )


def _lone_growth(results: Results, project: Project, index: int, progress: Progress) -> ZoneField | None:
    """Return a zone's growth without what it takes from other zones, so that two may follow each other."""
    frame = growth_frame(project)
    if index < 0 or not mask_of(results, project, index, frame).any():
        return None
    key = _read_growth_key(results, project, index, frame, lone=True)
    return results.memo.get(key, lambda: _solve(results, project, index, progress, lone=True))


def _solve(results: Results, project: Project, index: int, progress: Progress, *, lone: bool) -> ZoneField:
    zone, frame = project.back_to_front()[index], growth_frame(project)
    mask = mask_of(results, project, index, frame)
    strokes = [CombStroke(as_array(c.points)) for c in project.combs_of(zone.id)]
    partings = []
    for mark in project.marks_of(zone.id):
        if mark.kind == "parting":
            partings.append(as_array(mark.points))
        elif mark.kind == "crown":
            strokes += crown_strokes(mark.points[0], mark.radius, mark.turn_deg)
        elif mark.kind == "source":
            strokes += source_strokes(mark.points[0], mark.radius)
        elif not lone:
            strokes += _followed(results, project, mark, mask, progress)
    length_px = _length_px(project, zone)
    bare = _bare_growth(results, project, index, partings, progress) if strokes and length_px > 0 else None
    seen = evidence_of(results, project, progress) if length_px > 0 else None
    quiet = [
        as_array(comb.points)
        for comb in project.combs_of(zone.id)
        if comb.kept or (seen is not None and abs(_off_picture(results, project, index, comb)[0]) > OVERRULES_DEG)
    ]
    return zone_field(
        mask,
        strokes,
        frame,
        _guess(results, project, frame, zone.kind_of().prior, rim=not strokes),
        progress,
        evidence=seen,
        length_px=length_px,
        partings=partings,
        quiet=quiet,
        start=bare,
    )


def _bare_growth(
    results: Results, project: Project, index: int, partings: list[Points], progress: Progress
) -> ZoneField:
    """Return a zone's growth by the picture alone, from which every solution with combs begins."""
    zone, frame = project.back_to_front()[index], growth_frame(project)
    length_px = _length_px(project, zone)
    lines = fingerprint(partings)
    prior = zone.kind_of().prior
    key = (
        "bare",
        mask_key(results, project, index, frame),
        evidence_key(results, project, frame),
        length_px,
        lines,
        prior,
    )

    def make() -> ZoneField:
        guess = _guess(results, project, frame, zone.kind_of().prior)
        seen = evidence_of(results, project, progress)
        mask = mask_of(results, project, index, frame)
        return zone_field(mask, (), frame, guess, progress, evidence=seen, length_px=length_px, partings=partings)

    return results.memo.get(key, make)


def _followed(results: Results, project: Project, mark: Mark, mask: Bool, progress: Progress) -> list[CombStroke]:
    """Return the strokes a zone takes from the one it follows, or from a further picture."""
    frame, turned = growth_frame(project), abs(mark.turn_deg) > 90
    picture = project.lent(mark.source)
    if picture is not None:
        source = _lent_growth(results, picture, progress)
        return donor_strokes(source, source.whole(), mask, frame, turned=turned)
    other = zone_index(project, mark.source)
    field = _lone_growth(results, project, other, progress)
    axes = project.axes_or_eyes()
    if field is None:
        return []
    if mark.kind == "twin":
        return twin_strokes(field, mask, axes) if axes is not None else []
    return donor_strokes(field, mask_of(results, project, other, frame), mask, frame, turned=turned)


def _lent_growth(results: Results, lent: Lent, progress: Progress) -> ZoneField:
    """Return the growth of the part cut out of a further picture: its axis by the picture, downward where unsaid."""
    cut = as_array(lent.cut)

    def make() -> ZoneField:
        import cv2

        own = picture_of(results, lent.reference)
        (x0, y0), (x1, y1) = cut.min(axis=0), cut.max(axis=0)
        crop = Crop(x0, y0, x1 - x0, y1 - y0)
        frame = Frame.over(crop, 1.0, LENT_CELLS)
        k = own.scale
        part = own.rgb[int(y0 * k) : int(np.ceil(y1 * k)), int(x0 * k) : int(np.ceil(x1 * k))]
        scale = min(1.0, EVIDENCE_PX / max(part.shape[:2]))
        size = (max(16, round(part.shape[1] * scale)), max(16, round(part.shape[0] * scale)))
        small = np.asarray(cv2.resize(part, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
        seen = read_evidence(small, frame.rows, frame.columns, crop.width / size[0], progress)
        mask = fill(frame.to_grid(cut), frame.shape)
        guess = prior_field(frame, np.zeros((0, 2)))
        length = 0.06 * max(crop.width, crop.height)
        return zone_field(mask, (), frame, guess, progress, evidence=seen, length_px=length)

    return results.memo.get(("lent growth", lent.reference.digest, lent.cut), make)


def _off_picture(results: Results, project: Project, index: int, comb: Comb) -> tuple[float, float]:
    """Return by how many degrees the picture's axis lies off a comb of a zone, and how sure it is of it (see `disagreement`)."""
    frame, length_px = growth_frame(project), _length_px(project, project.back_to_front()[index])
    mask = mask_of(results, project, index, frame)
    seen = evidence_key(results, project, frame)
    key = ("off picture", comb.points, mask_key(results, project, index, frame), seen, length_px)
    return results.memo.get(
        key, lambda: disagreement(as_array(comb.points), evidence_of(results, project), mask, frame, length_px)
    )


def contradictions(results: Results, project: Project) -> list[tuple[Comb, float]]:
    """Return the combs the picture speaks against, with the angle between them, largest first; kept ones are not named."""
    frame, found = growth_frame(project), []
    for index, zone in growing(project):
        if _length_px(project, zone) <= 0 or not mask_of(results, project, index, frame).any():
            continue
        for comb in project.combs_of(zone.id):
            if comb.kept:
                continue
            angle, sure = _off_picture(results, project, index, comb)
            if abs(angle) > AGAINST_DEG and sure > AGAINST_SURE:
                found.append((comb, angle))
    return sorted(found, key=lambda one: -abs(one[1]))


def singular_of(results: Results, project: Project, index: int, progress: Progress = SILENT) -> tuple[Singular, ...]:
    """Return the singular points of a zone's growth."""
    field = growth_of(results, project, index, progress)
    if field is None:
        return ()
    key = ("singular", growth_key(results, project, index, field.frame))
    return results.memo.get(key, lambda: tuple(singular_points(field)))


def rank_of(results: Results, project: Project, index: int, progress: Progress = SILENT) -> F32 | None:
    """Return the laying rank of a zone's field, or None for a hidden zone."""
    field = growth_of(results, project, index, progress)
    if field is None:
        return None
    key = ("rank", growth_key(results, project, index, field.frame))
    return results.memo.get(key, lambda: laying_rank(field, progress))
