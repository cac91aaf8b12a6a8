"""The marks of each pass in each zone, with the keys under which they are remembered."""

import hashlib
import math
from collections.abc import Hashable
from dataclasses import dataclass, replace

import numpy as np

from foxpath.core.arrays import F32, I16, U8, Bool, frozen
from foxpath.core.colour import lab_from_rgb8
from foxpath.core.edges import SIGMA_SHARE
from foxpath.core.feathers.vanes import grain_field, vane_field
from foxpath.core.fingerprint import fingerprint, told
from foxpath.core.frame import Frame
from foxpath.core.growth import ZoneField
from foxpath.core.passes import PassPlan
from foxpath.core.passes.plan import CURLY_DEG, VANED
from foxpath.core.passes.ways import FORMS
from foxpath.core.rehearsal.feathers import feather_marks, within
from foxpath.core.rehearsal.marks import (
    Local,
    Marks,
    Study,
    bounding_box,
    no_marks,
    own_colours,
    packed_limit,
    packed_study,
    painted,
    pass_marks,
    together,
    wash,
)
from foxpath.core.rehearsal.tools import dark_beneath, with_brush
from foxpath.core.reporting import SILENT, Progress
from foxpath.core.zones import Coat, Kind, fill, kind_of
from foxpath.derive.frames import growth_frame, map_frame
from foxpath.derive.growth.fields import growth_key, growth_of, rank_of
from foxpath.derive.lengths.facts import facts_of
from foxpath.derive.lengths.feathers import feathers_key, feathers_of
from foxpath.derive.lengths.field import varied_of
from foxpath.derive.mixes.films import beneath_key, study_beneath
from foxpath.derive.passes.plan import role_is_own
from foxpath.derive.pictures import picture_key, picture_of, study_of
from foxpath.derive.rehearsal.softness import softness_of
from foxpath.derive.results import Results
from foxpath.derive.zones.shapes import labels_of, mask_key, mask_of, zone_index
from foxpath.document.model import Lent, Project, as_array

FORMS_SHARE, FORMS_LEAST_MM, FORMS_COVERAGE = 0.3, 6.0, 1.8
"""Strokes of a background's forms: over its broad brush, at least so wide, and how often they cover it."""
LENT_GAIN, LENT_MOST = 2.4, 22.0
"""What lies over a hair hides most of what it differs by, as hairs differ one by one; and the most a donor lends, L*."""
CURLS_LENT = 0.5
"""Share of what a donor lends that is left to the curls themselves, where each has its dark."""
CURL_SEEN = 0.75
"""Share of a coat's own curl that is left to the photograph where it shows the locks."""
UNGRAINED = ("eye", "background", "shadow", "marking")
"""Kinds whose broad strokes go by no grain."""
Box = tuple[int, int, int, int]


@dataclass(frozen=True, slots=True, eq=False)
class _Part:
    """What every pass of a zone goes by, worked out once for a project.

    Attributes
    ----------
    mask, growth, frame : bytes
        Keys of where it is seen, of how it grows, and of the grid.
    field : ZoneField or None
        Its growth; None where it is hidden.
    plumage : bytes or None
        Key of its feathers.
    overhang : float
        How far the hair of others may hang over it, mm.
    lent : float
        Light and dark between hairs that a donor lends.
    varied : (key, (h, w, 2) float32 or None)
        Multiples of length and width of its hair.
    limit : (key, (h, w, 4) uint8 or None)
        Where its hair ends at the borders.
    """

    mask: bytes
    growth: bytes
    frame: bytes
    field: ZoneField | None
    plumage: bytes | None
    overhang: float
    lent: float = 0.0
    varied: tuple[Hashable, F32 | None] = (None, None)
    limit: tuple[Hashable, U8 | None] = (None, None)


def _part_of(results: Results, project: Project, index: int, progress: Progress) -> _Part:
    return results.once(project, ("part", index), lambda: _read_part(results, project, index, progress))


def _read_part(results: Results, project: Project, index: int, progress: Progress) -> _Part:
    frame, zone = map_frame(project), project.back_to_front()[index]
    kind = zone.kind_of()
    plumage = kind.feathers or any(fan.zone == zone.id for fan in project.fans)
    made = _Part(
        mask_key(results, project, index, frame),
        growth_key(results, project, index, growth_frame(project)),
        told(frame),
        growth_of(results, project, index, progress),
        feathers_key(results, project, index) if plumage else None,
        _overhang(results, project, index),
    )
    if not (kind.hair and kind.cover):
        return made
    return replace(
        made,
        lent=lent_contrast(results, project, index),
        varied=varied_of(results, project, index, progress),
        limit=_limit(results, project, index, frame, progress),
    )


def marks_of(
    results: Results, project: Project, plan: PassPlan, index: int, progress: Progress = SILENT
) -> tuple[Hashable, Marks]:
    """Return the marks of a pass in one zone, with their key; zone -1 is the whole canvas (the ground)."""
    frame = map_frame(project)
    if index < 0:
        return _ground_marks(results, project, plan, frame)
    zone, facts = project.back_to_front()[index], facts_of(results, project)[index]
    # As it is in this zone: with its own numbers, and under what will be laid over it.
    plan, beneath = plan.at(index), beneath_key(results, project, plan.role.key)
    kind, mark = zone.kind_of(), plan.mark_of(index, facts)
    choice = plan.brushes.get(index)
    tool = (choice.hold, choice.load) if choice is not None and not plan.role.block_in else None
    numbers = (told(plan.role), plan.l_low, plan.l_high, plan.ceiling, plan.coverage, told(mark))
    seed = _seed(project.seed, plan.role.key, zone.id)
    part = _part_of(results, project, index, progress)
    hair = kind.hair and kind.cover and not plan.role.block_in
    lent = part.lent if hair else 0.0
    if mark.curl_deg >= CURLY_DEG:
        # The dark under each curl is a part of it.
        lent *= CURLS_LENT
    varied_key, varied = part.varied if hair else (None, None)
    limit_key, limit = part.limit if hair else (None, None)
    # An eye that is marked has steps of its own, and so have whiskers that were drawn one by one.
    own = role_is_own(results, project, plan.role.act, index)
    # Told once for all hands: the fingerprint of a pass tells the keys of all its marks.
    story = (
        own,
        # A background that is worked up is laid in flat.
        plan.role.act == "background" and FORMS in project.roles,
        numbers,
        tool,
        lent,
        varied_key,
        limit_key,
        part.plumage,
        part.mask,
        part.growth,
        beneath,
        part.frame,
        zone.kind,
        part.overhang,
    )
    key = ("marks", told(story), seed)

    def make() -> Marks:
        progress.at(0, f"{plan.role.name.lower()}, {zone.name.lower()}")
        if own:
            return no_marks(block_in=plan.role.block_in)
        field = part.field or _flat_field(growth_frame(project))
        rank = rank_of(results, project, index, progress) if kind.hair and field.combed else None
        mask = mask_of(results, project, index, frame)
        box, room, home = _home(results, project, index, part, plan.role.key)
        local = Local(varied, limit, 1.0 if varied is None else facts.mark_area, lent)
        study, vanes = study_beneath(results, project, plan.role.key), 0.0
        # What its strokes follow in the photograph is the same in every pass.
        seen = (part.mask, part.growth, beneath, picture_key(results, project), part.frame)
        if not kind.hair and zone.kind not in UNGRAINED:
            # What has no growth has a grain, or a form: strokes follow what the photograph shows of it.
            there = mask[box[0] : box[0] + box[2], box[1] : box[1] + box[3]]
            grown, light = field, study.fine[..., 0]
            field = results.memo.get(("grain", *seen), lambda: grain_field(light, frame, grown, box, there))
        laid = mark
        if mark.curl_deg >= CURLY_DEG and kind.hair and not plan.role.block_in:
            # Locks are seen one by one: marks bend as they do, and curl by themselves where nothing is seen.
            field, rank = _vanes(results, study, frame, field, box, seen), None
            shown = float(field.sure[mask[box[0] : box[0] + box[2], box[1] : box[1] + box[3]]].mean())
            laid = replace(mark, curl_deg=mark.curl_deg * (1 - CURL_SEEN * shown))
            local = Local(None, limit, 1.0, lent)
        if facts.feather_mm > 0 and plan.role.act in VANED:
            # Feather by feather: the barbs lie as the photograph shows them, the rows as they come.
            field, rank = _vanes(results, study, frame, field, box, seen), None
            local = Local(None, limit, 1.0, lent)
            vanes = float(field.sure[mask[box[0] : box[0] + box[2], box[1] : box[1] + box[3]]].mean())
        made = pass_marks(plan, kind, laid, mask, box, room, field, rank, study, home, facts.area_cm2, seed, local)
        if facts.coat.curl_deg >= CURLY_DEG and plan.role.act in ("lights", "highlights"):
            made = dark_beneath(made)
        made = with_brush(made, choice, seed)
        if plan.role.act == "background" and plan.role.belongs < 1 and len(made.lightness):
            # On the lightest of it only.
            made = made.pick(made.lightness >= np.quantile(made.lightness, 1 - plan.role.belongs))
        elif plan.role.act == "background" and choice is not None and FORMS not in project.roles:
            made = together([made, _forms(plan, kind, mark, mask, box, room, field, study, home, facts.area_cm2, seed)])
        if part.plumage is not None:
            made = _feathered(results, project, plan, index, made, vanes, progress)
        return painted(made, plan.role, min(plan.l_high, plan.ceiling))

    return key, results.memo.get(key, make)


def _vanes(
    results: Results, study: Study, frame: Frame, field: ZoneField, box: Box, seen: tuple[Hashable, ...]
) -> ZoneField:
    """Return how the barbs or the locks of a zone lie, as the photograph shows them."""
    return results.memo.get(("vanes", *seen), lambda: vane_field(study.fine[..., 0], frame, field, box))


def forms_mm(broad_mm: float) -> float:
    """Return how wide the strokes are with which a background's forms are laid over its broad ones, mm."""
    return max(min(broad_mm, FORMS_LEAST_MM), FORMS_SHARE * broad_mm)


def _forms(
    plan: PassPlan, kind: Kind, mark: Coat, mask: Bool, box: Box, room: F32, field: ZoneField, study: Study, home: I16,
    area_cm2: float, seed: tuple[int, ...],
) -> Marks:  # fmt: skip
    """Return the smaller strokes that bring a background's forms over its lay-in."""
    width = forms_mm(mark.width_mm)
    small = replace(mark, width_mm=width, length_mm=3.2 * width)
    some = replace(plan, coverage=FORMS_COVERAGE)
    return pass_marks(some, kind, small, mask, box, room, field, None, study, home, area_cm2, (*seed, 1))


def _feathered(
    results: Results, project: Project, plan: PassPlan, index: int, made: Marks, vanes: float, progress: Progress
) -> Marks:
    """Return a zone's marks followed by what the pass adds on its feathers."""
    frame = map_frame(project)
    mask = mask_of(results, project, index, frame)
    laid = within(feathers_of(results, project, index, progress), mask, frame)
    band = (plan.l_low, min(plan.l_high, plan.ceiling))
    _, number = _seed(project.seed, plan.role.key, project.back_to_front()[index].id)
    finest, study = project.finest_mm, study_beneath(results, project, plan.role.key)
    more = feather_marks(plan.role.act, band, plan.role.opacity, laid, finest, study, frame, mask, number, vanes)
    return made if more is None else together([made, more])


def _overhang(results: Results, project: Project, index: int) -> float:
    """Return how far the hair of others may hang over a zone, mm: only over one without hair, and a wide one."""
    facts = facts_of(results, project)
    if facts[index].kind.hair or _brush(results, project, index) <= 4:
        return 0.0
    lengths = [fact.coat.length_mm for fact in facts if fact.kind.hair and fact.kind.cover]
    return round(min(max(lengths, default=0.0), 40.0), 1)


def lent_contrast(results: Results, project: Project, index: int) -> float:
    """Return the light and dark between hairs, a deviation of L*, that a zone's donor has and the zone itself shows no more."""
    mark = project.donor_of(project.back_to_front()[index].id)
    if mark is None:
        return 0.0
    frame, study = map_frame(project), study_of(results, project)

    def make() -> float:
        mask = mask_of(results, project, index, frame)
        if picture is not None:
            theirs = _cut_contrast(results, picture)
        elif other >= 0:
            theirs = _contrast(study, mask_of(results, project, other, frame))
        else:
            return 0.0
        more = max(theirs**2 - _contrast(study, mask) ** 2, 0.0)
        return min(LENT_GAIN * math.sqrt(more), LENT_MOST)

    own, other = mask_key(results, project, index, frame), zone_index(project, mark.source)
    picture = project.lent(mark.source)
    source = (picture.reference.digest, picture.cut) if picture is not None else other
    key = ("lent contrast", own, source, project.outlines, picture_key(results, project))
    found: float = results.memo.get(key, make)
    return found


def _contrast(study: Study, mask: Bool) -> float:
    """Return how much light and dark differ between hairs in a part, a deviation of L*."""
    return float((study.fine[..., 0] - study.local[..., 0])[mask].std()) if mask.any() else 0.0


def _cut_contrast(results: Results, lent: Lent) -> float:
    """Return the same of the part cut out of a further picture; about a hundredth of it is a hair's length."""
    import cv2

    picture, cut = picture_of(results, lent.reference), as_array(lent.cut)
    (x0, y0), (x1, y1) = (
        np.floor(cut.min(axis=0) * picture.scale).astype(int),
        np.ceil(cut.max(axis=0) * picture.scale).astype(int),
    )
    part = picture.rgb[max(y0, 0) : y1, max(x0, 0) : x1]
    if min(part.shape[:2]) < 8:
        return 0.0
    light = lab_from_rgb8(np.ascontiguousarray(part))[..., 0]
    inside = fill((cut * picture.scale) - (max(x0, 0), max(y0, 0)), light.shape)
    soft = cv2.GaussianBlur(light, (0, 0), max(2.0, 0.01 * max(light.shape)))
    return float((light - soft)[inside].std()) if inside.any() else 0.0


def _brush(results: Results, project: Project, index: int) -> float:
    return min(7.0, 2.5 * facts_of(results, project)[index].coat.length_mm)


def _home(results: Results, project: Project, index: int, part: _Part, role: str) -> tuple[Box, F32, I16]:
    """Return a zone's bounding box, the distance to its border, mm, and its own broad colours, as a pass paints them."""
    brush, overhang = _brush(results, project, index), part.overhang
    key = ("home", part.mask, beneath_key(results, project, role), part.frame, brush, overhang)

    def make() -> tuple[Box, F32, I16]:
        frame = map_frame(project)
        mask = mask_of(results, project, index, frame)
        box = bounding_box(mask)
        top, left, height, width = box
        room: F32 = frozen(_room(mask, frame)[top : top + height, left : left + width].copy())
        home = own_colours(study_beneath(results, project, role), mask, room, brush, overhang)
        return box, room, packed_study(home, home)

    return results.memo.get(key, make)


def _limit(
    results: Results, project: Project, index: int, frame: Frame, progress: Progress
) -> tuple[Hashable, U8 | None]:
    """Return where a zone's hair ends at its borders (see `Local.limit`); None where the zone is hidden.

    Hair that points at a border ends unevenly about it, over the width planned for it. Hair that runs along the
    border, or away from it, is free.
    """
    soft_key, softness = softness_of(results, project)
    grown_key = growth_key(results, project, index, growth_frame(project))
    whole = ("limit", soft_key, index, mask_key(results, project, index, frame), project.outlines, grown_key)

    def make() -> tuple[Hashable, U8 | None]:
        import cv2

        field = growth_of(results, project, index, progress)
        if field is None:
            return "hidden", None
        mask = mask_of(results, project, index, frame)
        top, left, height, width = bounding_box(mask)
        # With one cell more on every side.
        around = np.s_[top : top + height + 2, left : left + width + 2]
        # Hair ends where its zone lies over another; under what lies in front of it, and over the canvas's rim, it runs on.
        ahead_of = np.pad(labels_of(results, project, frame) > index, 1, constant_values=True)[around]
        rim = (np.pad(mask, 1)[around] | ahead_of).astype(np.uint8)
        distance, nearest = cv2.distanceTransformWithLabels(rim, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
        # Each cell's nearest place beyond the border, and the width planned there.
        grown = np.pad(cv2.dilate(softness, np.ones((3, 3), np.uint8)), 1)
        outside = grown[around]
        of_label = np.zeros(int(nearest.max()) + 1, np.float32)
        of_label[nearest[rim == 0]] = outside[rim == 0]
        width_mm = of_label[nearest[1:-1, 1:-1]] / np.float32(SIGMA_SHARE)
        free = distance[1:-1, 1:-1] * np.float32(frame.cell_mm)
        # How squarely the growth points at the border: the distance to it falls along the hair.
        dy, dx = np.gradient(cv2.GaussianBlur(distance, (0, 0), 1.5))
        scale = frame.cell_px / field.frame.cell_px
        j = np.clip((left + np.arange(width) + 0.5) * scale - field.column, 0, field.inside.shape[1] - 1).astype(int)
        i = np.clip((top + np.arange(height) + 0.5) * scale - field.row, 0, field.inside.shape[0] - 1).astype(int)
        way = field.direction[i[:, None], j[None, :]]
        nx, ny = -dx[1:-1, 1:-1], -dy[1:-1, 1:-1]
        ahead, aside = nx * way[..., 0] + ny * way[..., 1], ny * way[..., 0] - nx * way[..., 1]
        limit = packed_limit(free, ahead, aside, width_mm)
        return fingerprint(limit), limit

    return results.memo.get(whole, make)


def _ground_marks(results: Results, project: Project, plan: PassPlan, frame: Frame) -> tuple[Hashable, Marks]:
    brush = plan.brush_mm
    seed = _seed(project.seed, plan.role.key, "canvas")
    values = (plan.l_low, plan.l_high, plan.ceiling, plan.coverage)
    numbers = (told(plan.role), *values, brush, plan.length_share, plan.spread_share)
    key = ("ground", numbers, project.canvas, frame, seed)

    def make() -> Marks:
        kind = kind_of("background")
        length = 3.2 * brush * plan.length_share
        mark = Coat(length, brush, min(90.0, 40 * plan.spread_share), 0, 0)
        whole = np.ones(frame.shape, bool)
        room = np.full(frame.shape, brush, np.float32)
        field = _flat_field(growth_frame(project))
        study = study_of(results, project)
        area = project.canvas.area_cm2
        box = (0, 0, *frame.shape)
        strokes = pass_marks(plan, kind, mark, whole, box, room, field, None, study, study.packed, area, seed)
        return painted(wash(project.canvas.width_mm, project.canvas.height_mm, brush, strokes), plan.role)

    return key, results.memo.get(key, make)


def _room(mask: Bool, frame: Frame) -> F32:
    """Return the distance of every cell of a mask to its border, mm; the canvas's own rim is no border."""
    import cv2

    distance = cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 5)
    return np.asarray(distance * np.float32(frame.cell_mm), dtype=np.float32)


def _flat_field(frame: Frame) -> ZoneField:
    """A field that runs to the right everywhere, for strokes without hair."""
    direction = np.zeros((*frame.shape, 2), np.float32)
    direction[..., 0] = 1
    whole = np.ones(frame.shape, bool)
    nothing = np.zeros(frame.shape, np.float32)
    return ZoneField(frame, 0, 0, direction, nothing, whole, whole, combed=False, axis_sure=nothing, rooted=~whole)


def _seed(seed: int, role: str, zone: str) -> tuple[int, ...]:
    """Return the seed of one pass in one zone: other zones and passes do not disturb it."""
    # This way of mixing decides how every painting looks: it stays, whatever becomes of fingerprints.
    mixed = hashlib.blake2b(f"{role}/{zone}".encode(), digest_size=8).digest()
    return seed, int.from_bytes(mixed, "big")
