"""How each result follows from the project, remembered piece by piece."""

from collections.abc import Hashable, Sequence
from dataclasses import replace

import numpy as np

from foxpath.core.arrays import F32, F64, Bool, Labels, Points, Rgb8, frozen
from foxpath.core.colour import lab_from_rgb8
from foxpath.core.edges import Border, EdgePlan, EdgeReading, MarkingStretch, find_borders
from foxpath.core.feathers import Feathers
from foxpath.core.fingerprint import fingerprint
from foxpath.core.frame import Crop, Frame
from foxpath.core.growth import (
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
from foxpath.core.lengths import LengthField
from foxpath.core.passes import PassPlan, ZoneFacts, plan_passes
from foxpath.core.progress import SILENT, Progress
from foxpath.core.reference import Picture, read_picture
from foxpath.core.reference.compose import Part, compose
from foxpath.core.reference.correction import develop, gains_of_grey, gains_of_light, spot_linear
from foxpath.core.rehearsal.marks import Marks, Study, make_study
from foxpath.core.zones import (
    LayingOrder,
    Prior,
    ZoneShape,
    area_cm2,
    fill,
    inscribed_mm,
    label_map,
    laying_order,
)
from foxpath.derive import edging, eyes, feathers, lengths, marks
from foxpath.derive.easel import Layer
from foxpath.derive.laying import growth_along
from foxpath.derive.markings import markings
from foxpath.derive.memo import Memo
from foxpath.document.model import Comb, Lent, Mark, Project, Reference, Zone, as_array

GROWTH_CELLS = 384
"""Cells on the longer side of the growth's working grid."""
LENT_CELLS = 160
"""Cells on the longer side of the grid over a part of a further picture."""
EVIDENCE_PX = 1400
"""Longer side of the picture from which the growth's evidence is read: hair is some pixels wide there."""
AGAINST_DEG, AGAINST_SURE = 35.0, 0.5
"""The picture contradicts a comb when it is this sure and differs by more than this."""
MAP_CELLS = 1024
"""Cells on the longer side of the zone map, from which borders and marks are made."""


class Results:
    """Everything that can be derived from a project; zones are always counted back to front."""

    def __init__(self, memo: Memo | None = None) -> None:
        self.memo = memo or Memo()
        # The facts of the project asked about last: every pass asks for them again, zone by zone.
        self._keys_of: tuple[Project | None, dict[tuple[int, Frame], Hashable]] = (None, {})
        self._facts_of: tuple[Project | None, tuple[ZoneFacts, ...]] = (None, ())
        self._passes_of: tuple[Project | None, tuple[PassPlan, ...]] = (None, ())
        self._edges_of: tuple[Project | None, list[tuple[Border, EdgePlan]]] = (None, [])
        self._homes_of: tuple[Project | None, eyes.Homes | None] = (None, None)
        self._lengths_of: tuple[Project | None, Hashable] = (None, None)
        self.layers: dict[Hashable, Sequence[Layer]] = {}
        """The passes painted last, by size, surface and order: the next rehearsal goes on from them."""

    # Reference ------------------------------------------------------------------------------------

    def picture(self, reference: Reference) -> Picture:
        """Return the decoded reference."""
        return self.memo.get(("picture", reference.digest), lambda: read_picture(reference.data, reference.name))

    def composed_key(self, project: Project) -> Hashable:
        """Return the fingerprint of the composed reference: the main picture's own when no part is placed."""
        if not project.placed:
            return project.reference.digest
        parts = tuple((one.reference.digest, one.pose, one.cut, one.soft_mm) for one in project.placed)
        return (project.reference.digest, parts, project.mm_per_px)

    def picture_key(self, project: Project) -> Hashable:
        """Return the fingerprint of the reference as it is measured and shown: composed and corrected."""
        key = self.composed_key(project)
        return key if project.correction.nothing else (key, project.correction)

    def composed(self, project: Project) -> Picture:
        """Return the main picture with the placed parts, as it came otherwise."""
        main = self.picture(project.reference)
        if not project.placed:
            return main

        def make() -> Picture:
            parts = []
            for one in project.placed:
                own = self.picture(one.reference)
                affine = one.pose.affine(one.reference.width, one.reference.height)
                soft_px = one.soft_mm / project.mm_per_px
                parts.append(Part(own.rgb, as_array(one.cut), affine, own.scale, soft_px))
            return Picture(compose(main.rgb, main.scale, parts), main.scale)

        return self.memo.get(("composed", self.composed_key(project)), make)

    def gains(self, project: Project) -> F64:
        """Return the white balance's gains of linear red, green and blue."""
        correction = project.correction
        if correction.grey is not None:
            k = self.composed(project).scale
            at = (correction.grey[0] * k, correction.grey[1] * k)
            return gains_of_grey(spot_linear(self.composed(project).rgb, at, correction.radius_px * k))
        return gains_of_light(correction.light_k) if correction.light_k is not None else np.ones(3)

    def working(self, project: Project) -> Picture:
        """Return the reference as it is measured and shown: composed and corrected."""
        picture, correction = self.composed(project), project.correction
        if correction.nothing:
            return picture

        def make() -> Picture:
            rgb = develop(picture, self.gains(project), correction.exposure, correction.lift)
            return Picture(rgb, picture.scale)

        return self.memo.get(("working", self.picture_key(project)), make)

    def subject(self, project: Project, frame: Frame) -> Bool:
        """Return where the animal is seen on a grid: all covering zones but background, foreground cover and shadow."""
        kinds = [zone.kind for zone in project.back_to_front()]
        ours = [k for k, kind in enumerate(kinds) if kind not in {"background", "cover", "shadow"}]
        key = ("subject", project.outlines, tuple(ours), frame)
        return self.memo.get(key, lambda: frozen(np.isin(self.labels(project, frame), ours)))

    @staticmethod
    def growth_frame(project: Project) -> Frame:
        """Return the working grid of the growth."""
        return Frame.over(project.crop, project.mm_per_px, GROWTH_CELLS)

    @staticmethod
    def map_frame(project: Project) -> Frame:
        """Return the grid of the zone map."""
        return Frame.over(project.crop, project.mm_per_px, MAP_CELLS)

    def cropped(self, project: Project, columns: int, rows: int) -> Rgb8:
        """Return the crop of the reference brought to a size in pixels."""
        key = ("cropped", self.picture_key(project), project.crop, columns, rows)
        return self.memo.get(key, lambda: self.scaled(project, columns, rows))

    def scaled(self, project: Project, columns: int, rows: int) -> Rgb8:
        """Return the crop of the reference brought to a size in pixels, not remembered."""
        import cv2

        picture = self.working(project)
        crop = project.crop
        k = picture.scale
        x0, y0 = round(crop.x * k), round(crop.y * k)
        x1, y1 = max(x0 + 1, round((crop.x + crop.width) * k)), max(y0 + 1, round((crop.y + crop.height) * k))
        part = picture.rgb[y0:y1, x0:x1]
        shrinks = columns < part.shape[1]
        how = cv2.INTER_AREA if shrinks else cv2.INTER_CUBIC
        made: Rgb8 = frozen(np.asarray(cv2.resize(part, (columns, rows), interpolation=how), dtype=np.uint8))
        return made

    def study(self, project: Project) -> Study:
        """Return the reference as the marks read it."""
        frame = self.map_frame(project)

        def make() -> Study:
            return make_study(lab_from_rgb8(self.cropped(project, frame.columns, frame.rows)), frame)

        return self.memo.get(("study", self.picture_key(project), frame), make)

    # Zones ----------------------------------------------------------------------------------------

    @staticmethod
    def shapes(project: Project) -> tuple[ZoneShape, ...]:
        """Return the zones' shapes, back to front."""
        return tuple(zone.shape for zone in project.back_to_front())

    def labels(self, project: Project, frame: Frame) -> Labels:
        """Return the zone map on a grid."""
        key = ("labels", project.outlines, frame)
        return self.memo.get(key, lambda: label_map(self.shapes(project), frame))

    def mask(self, project: Project, index: int, frame: Frame) -> Bool:
        """Return where one zone is seen on a grid; zones that cover nothing are seen whole."""
        zone = project.back_to_front()[index]
        if not zone.kind_of().cover:
            own = ("whole mask", zone.points, frame)
            return self.memo.get(own, lambda: fill(frame.to_grid(zone.shape.outline()), frame.shape))
        key = ("mask", project.outlines, index, frame)
        made: Bool = self.memo.get(key, lambda: frozen(np.asarray(self.labels(project, frame) == index)))
        return made

    def mask_key(self, project: Project, index: int, frame: Frame) -> bytes:
        """Return the fingerprint of a zone's mask: it stays the same while its own cells do."""
        key = ("mask key", project.outlines, index, frame)
        return self.memo.get(key, lambda: fingerprint(self.mask(project, index, frame)))

    def facts(self, project: Project) -> tuple[ZoneFacts, ...]:
        """Return area, room and coat of every zone, back to front."""
        known, facts = self._facts_of
        if known is project:
            return facts
        facts = self._read_facts(project)
        self._facts_of = (project, facts)
        return facts

    def _read_facts(self, project: Project) -> tuple[ZoneFacts, ...]:
        frame = self.map_frame(project)
        zones = project.back_to_front()

        def size(index: int) -> tuple[float, float]:
            mask = self.mask(project, index, frame)
            return area_cm2(mask, frame), inscribed_mm(mask, frame)

        sizes = self.memo.get(("sizes", project.outlines, frame), lambda: tuple(size(k) for k in range(len(zones))))
        field = self.lengths(project)
        facts = []
        for index, (zone, (area, room)) in enumerate(zip(zones, sizes, strict=True)):
            low, high, wide, both = lengths.spread_of(field, index, self, project)
            own = {"id": zone.id, "school": project.school_of(zone)}
            facts.append(ZoneFacts(zone.kind_of(), project.coat_of(zone), area, room, (low, high), wide, both, **own))
        return tuple(facts)

    def bare_share(self, project: Project) -> float:
        """Return the share of the canvas (0..1) that no zone covers."""
        labels = self.labels(project, self.map_frame(project))
        return float((labels == -1).mean())

    # Growth ---------------------------------------------------------------------------------------

    def _guess(self, project: Project, frame: Frame, prior: Prior) -> F32:
        sources = tuple(
            (float(np.mean([p[0] for p in z.points])), float(np.mean([p[1] for p in z.points])))
            for z in project.zones
            if (z.kind == "eye" or z.name.lower() == "nose") and not z.whole
        )
        key = ("guess", sources, frame, prior)
        made: F32 = self.memo.get(key, lambda: frozen(prior_field(frame, np.array(sources).reshape(-1, 2), prior)))
        return made

    def field_key(self, project: Project, index: int, frame: Frame) -> Hashable:
        """Return the fingerprint of everything a zone's growth follows from."""
        known, keys = self._keys_of
        if known is not project:
            keys = {}
            self._keys_of = (project, keys)
        if (index, frame) not in keys:
            keys[index, frame] = self._read_field_key(project, index, frame)
        return keys[index, frame]

    def _read_field_key(self, project: Project, index: int, frame: Frame, *, lone: bool = False) -> Hashable:
        zone = project.back_to_front()[index]
        combs = tuple((c.points, c.kept) for c in project.combs_of(zone.id))
        said = tuple((m.kind, m.points, m.turn_deg) for m in project.marks_of(zone.id) if not m.source)
        # Islands that no comb reaches are guessed, in a combed zone too.
        sources = tuple(z.points for z in project.zones if z.kind == "eye" or z.name.lower() == "nose")
        key = fingerprint(combs, said, sources, zone.kind_of().prior)
        length_px = self._length_px(project, zone)
        seen = (self.evidence_key(project, frame), length_px) if length_px > 0 else None
        own = ("field", self.mask_key(project, index, frame), key, frame, seen)
        followed = [] if lone else [m for m in project.marks_of(zone.id) if m.source]
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
            lent.append((mark.kind, mark.turn_deg, axes, self._read_field_key(project, other, frame, lone=True)))
        return (own, tuple(lent))

    def evidence_key(self, project: Project, frame: Frame) -> Hashable:
        """Return the fingerprint of what the picture says about the growth."""
        return ("evidence", self.picture_key(project), frame)

    def evidence(self, project: Project, progress: Progress = SILENT) -> Evidence:
        """Return what the picture says about the growth, on the growth's grid; read once for each picture and crop."""
        frame = self.growth_frame(project)

        def make() -> Evidence:
            crop = project.crop
            scale = min(1.0, EVIDENCE_PX / max(crop.width, crop.height))
            columns, rows = max(16, round(crop.width * scale)), max(16, round(crop.height * scale))
            rgb = self.scaled(project, columns, rows)
            return read_evidence(rgb, frame.rows, frame.columns, crop.width / columns, progress)

        return self.memo.get(self.evidence_key(project, frame), make)

    @staticmethod
    def _length_px(project: Project, zone: Zone) -> float:
        """Return the length of a zone's hair in reference pixels; 0 where the picture has no say."""
        kind = zone.kind_of()
        if not kind.hair or not kind.cover:
            return 0.0
        return round(project.coat_of(zone).length_mm / project.mm_per_px, 2)

    def field(self, project: Project, index: int, progress: Progress = SILENT) -> ZoneField | None:
        """Return the growth of one zone, or None when it is hidden by others."""
        frame = self.growth_frame(project)
        if not self.mask(project, index, frame).any():
            return None
        return self.memo.get(
            self.field_key(project, index, frame), lambda: self._solve(project, index, progress, lone=False)
        )

    def _lone_field(self, project: Project, index: int, progress: Progress) -> ZoneField | None:
        """Return a zone's growth without what it takes from other zones, so that two may follow each other."""
        frame = self.growth_frame(project)
        if index < 0 or not self.mask(project, index, frame).any():
            return None
        key = self._read_field_key(project, index, frame, lone=True)
        return self.memo.get(key, lambda: self._solve(project, index, progress, lone=True))

    def _solve(self, project: Project, index: int, progress: Progress, *, lone: bool) -> ZoneField:
        zone, frame = project.back_to_front()[index], self.growth_frame(project)
        mask = self.mask(project, index, frame)
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
                strokes += self._followed(project, mark, mask, progress)
        length_px = self._length_px(project, zone)
        bare = self._bare_field(project, index, partings, progress) if strokes and length_px > 0 else None
        return zone_field(
            mask,
            strokes,
            frame,
            self._guess(project, frame, zone.kind_of().prior),
            progress,
            evidence=self.evidence(project, progress) if length_px > 0 else None,
            length_px=length_px,
            partings=partings,
            quiet=[as_array(c.points) for c in project.combs_of(zone.id) if c.kept],
            start=bare,
        )

    def _bare_field(self, project: Project, index: int, partings: list[Points], progress: Progress) -> ZoneField:
        """Return a zone's growth by the picture alone, from which every solution with combs begins."""
        zone, frame = project.back_to_front()[index], self.growth_frame(project)
        length_px = self._length_px(project, zone)
        lines = fingerprint(partings)
        prior = zone.kind_of().prior
        key = ("bare", self.mask_key(project, index, frame), self.evidence_key(project, frame), length_px, lines, prior)

        def make() -> ZoneField:
            guess = self._guess(project, frame, zone.kind_of().prior)
            seen = self.evidence(project, progress)
            mask = self.mask(project, index, frame)
            return zone_field(mask, (), frame, guess, progress, evidence=seen, length_px=length_px, partings=partings)

        return self.memo.get(key, make)

    def _followed(self, project: Project, mark: Mark, mask: Bool, progress: Progress) -> list[CombStroke]:
        """Return the strokes a zone takes from the one it follows, or from a further picture."""
        frame, turned = self.growth_frame(project), abs(mark.turn_deg) > 90
        picture = project.lent(mark.source)
        if picture is not None:
            source = self._lent_growth(picture, progress)
            return donor_strokes(source, source.whole(), mask, frame, turned=turned)
        other = zone_index(project, mark.source)
        field = self._lone_field(project, other, progress)
        axes = project.axes_or_eyes()
        if field is None:
            return []
        if mark.kind == "twin":
            return twin_strokes(field, mask, axes) if axes is not None else []
        return donor_strokes(field, self.mask(project, other, frame), mask, frame, turned=turned)

    def _lent_growth(self, lent: Lent, progress: Progress) -> ZoneField:
        """Return the growth of the part cut out of a further picture: its axis by the picture, downward where unsaid."""
        cut = as_array(lent.cut)

        def make() -> ZoneField:
            import cv2

            own = self.picture(lent.reference)
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

        return self.memo.get(("lent growth", lent.reference.digest, lent.cut), make)

    def contradictions(self, project: Project) -> list[tuple[Comb, float]]:
        """Return the combs the picture speaks against, with the angle between them, largest first; kept ones are not named."""
        frame, found = self.growth_frame(project), []
        for index, zone in growing(project):
            length_px = self._length_px(project, zone)
            mask = self.mask(project, index, frame)
            if length_px <= 0 or not mask.any():
                continue
            for comb in project.combs_of(zone.id):
                if comb.kept:
                    continue
                key = (
                    "against",
                    comb.points,
                    self.mask_key(project, index, frame),
                    self.evidence_key(project, frame),
                    length_px,
                )
                angle, sure = self.memo.get(
                    key,
                    lambda comb=comb, mask=mask, length_px=length_px: disagreement(  # type: ignore[misc]
                        as_array(comb.points), self.evidence(project), mask, frame, length_px
                    ),
                )
                if abs(angle) > AGAINST_DEG and sure > AGAINST_SURE:
                    found.append((comb, angle))
        return sorted(found, key=lambda one: -abs(one[1]))

    def singular(self, project: Project, index: int, progress: Progress = SILENT) -> tuple[Singular, ...]:
        """Return the singular points of a zone's growth."""
        field = self.field(project, index, progress)
        if field is None:
            return ()
        key = ("singular", self.field_key(project, index, field.frame))
        return self.memo.get(key, lambda: tuple(singular_points(field)))

    def rank(self, project: Project, index: int, progress: Progress = SILENT) -> F32 | None:
        """Return the laying rank of a zone's field, or None for a hidden zone."""
        field = self.field(project, index, progress)
        if field is None:
            return None
        key = ("rank", self.field_key(project, index, field.frame))
        return self.memo.get(key, lambda: laying_rank(field, progress))

    # Edges ----------------------------------------------------------------------------------------

    def borders(self, project: Project) -> list[Border]:
        """Return every visible border, longest first."""
        frame = self.map_frame(project)
        key = ("borders", project.outlines, frame)
        return self.memo.get(key, lambda: find_borders(self.shapes(project), self.labels(project, frame), frame))

    def edges(self, project: Project) -> list[tuple[Border, EdgePlan]]:
        """Return every border with its plan: the painter's word, else the default."""
        known, edges = self._edges_of
        if known is project:
            return edges
        kinds = tuple((zone.id, zone.kind, zone.own) for zone in project.zones)
        said = (project.edges, project.stretches, project.light, project.focal_point, kinds)
        key = ("edges", project.outlines, project.crop, project.canvas, self.picture_key(project), said)
        edges = self.memo.get(key, lambda: edging.plan_edges(self, project))
        self._edges_of = (project, edges)
        return edges

    def edge_widths(self, project: Project) -> edging.Widths:
        """Return the width at every point of every border's runs, mm, by the indices of its zones."""
        return edging.edge_widths(self, project)

    def edge_readings(self, project: Project, progress: Progress = SILENT) -> dict[tuple[int, int], EdgeReading]:
        """Return every border's width in the photograph, mm on the canvas, by the indices of its zones."""
        return edging.edge_readings(self, project, progress)

    def softness(self, project: Project, hair_share: float = 1.0) -> tuple[Hashable, F32]:
        """Return a key for the edges' widths and the blur map on the zone map's grid, mm; hair's by a share of it."""
        return edging.softness(self, project, hair_share)

    def fringes(self, project: Project, progress: Progress = SILENT) -> edging.Fringes:
        """Return the hairs that hang over each border of a coat, by the indices of its zones."""
        return edging.fringes(self, project, progress)

    def markings(self, project: Project, progress: Progress = SILENT) -> dict[str, tuple[MarkingStretch, ...]]:
        """Return the stretches of every marking's border, by the marking's id."""
        return markings(self, project, progress)

    # Lengths --------------------------------------------------------------------------------------

    def lengths_key(self, project: Project) -> Hashable:
        """Return a short fingerprint of everything the lengths follow from."""
        known, key = self._lengths_of
        if known is not project:
            # The whole story would be hashed for every zone and pass again.
            key = fingerprint(lengths.lengths_key(self, project))
            self._lengths_of = (project, key)
        return key

    def lengths(self, project: Project, progress: Progress = SILENT) -> LengthField:
        """Return length and width of the marks as multiples of each zone's coat, on the growth's grid."""
        return lengths.lengths(self, project, progress)

    def varied(self, project: Project, index: int, progress: Progress = SILENT) -> tuple[Hashable, F32 | None]:
        """Return a zone's multiples of length and width over its growth's window, with their key; None where it is hidden."""
        key = (
            "varied",
            self.lengths_key(project),
            index,
            self.mask_key(project, index, self.growth_frame(project)),
        )

        def make() -> tuple[Hashable, F32 | None]:
            field = self.field(project, index, progress)
            if field is None:
                return "hidden", None
            part: F32 = frozen(lengths.window_of(self.lengths(project, progress), field))
            return fingerprint(part), part

        return self.memo.get(key, make)

    def feathers(self, project: Project, index: int, progress: Progress = SILENT) -> Feathers:
        """Return a zone's feathers, the leading ones told."""
        return feathers.feathers_of(self, project, index, progress)

    def homes(self, project: Project) -> eyes.Homes:
        """Return which marked eyes and features are painted in each zone."""
        known, homes = self._homes_of
        if known is project and homes is not None:
            return homes
        homes = eyes.homes_of(project)
        self._homes_of = (project, homes)
        return homes

    # Passes ---------------------------------------------------------------------------------------

    def laying(self, project: Project, progress: Progress = SILENT) -> LayingOrder:
        """Return in which order zones are painted within a pass."""
        frame = self.growth_frame(project)
        growing_keys = tuple(self.field_key(project, index, frame) for index, _ in growing(project))
        focal = (project.focal_order, project.focal_point) if project.focal_order else None
        key = ("laying", project.outlines, project.crop, project.mm_per_px, growing_keys, focal)

        def make() -> LayingOrder:
            fields = {index: self.field(project, index, progress) for index, _ in growing(project)}
            covering = [zone.kind_of().cover for zone in project.back_to_front()]
            read = [
                growth_along(border, fields, project.mm_per_px)
                for border in self.borders(project)
                if border.back >= 0 and covering[border.front] and covering[border.back]
            ]
            return laying_order(len(covering), read, _focal_rank(project))

        return self.memo.get(key, make)

    def passes(self, project: Project) -> tuple[PassPlan, ...]:
        """Return the planned passes in their order, those turned off included; zones stand in laying order."""
        known, plans = self._passes_of
        if known is not project:
            plans = self._plan_passes(project)
            self._passes_of = (project, plans)
        return plans

    def _plan_passes(self, project: Project) -> tuple[PassPlan, ...]:
        canvas = project.canvas
        facts = self.facts(project)
        plans = plan_passes(
            facts,
            max(canvas.width_mm, canvas.height_mm),
            project.passes,
            project.pass_order,
            project.kit,
            project.roles,
            project.pace,
        )
        plans = eyes.with_eye_times(self, project, plans)
        place = {index: k for k, index in enumerate(self.laying(project).order)}
        return tuple(replace(plan, zones=tuple(sorted(plan.zones, key=place.__getitem__))) for plan in plans)

    def keep_layers(self, place: Hashable, layers: Sequence[Layer]) -> None:
        """Keep the passes painted last for a place, and those of one other."""
        others = [(key, kept) for key, kept in self.layers.items() if key != place][-1:]
        self.layers = dict([*others, (place, tuple(layers))])

    def first_of_act(self, project: Project, plan: PassPlan, index: int) -> bool:
        """Tell whether a pass is a zone's first of those that are on and act as it does."""
        alike = (p for p in self.passes(project) if p.on and p.role.act == plan.role.act and index in p.zones)
        first = next(alike, None)
        return first is None or first.role.key == plan.role.key

    def marks(
        self, project: Project, plan: PassPlan, index: int, progress: Progress = SILENT
    ) -> tuple[Hashable, Marks]:
        """Return the marks of a pass in one zone, with their key; zone -1 is the whole canvas (the ground)."""
        return marks.marks_of(self, project, plan, index, progress)


def _focal_rank(project: Project) -> list[float] | None:
    """Return the zones' distances from the focal point, or their opposites; None for back to front."""
    if not project.focal_order:
        return None
    side = 1.0 if project.focal_order == "first" else -1.0
    focal = np.array(project.focal_point)
    # What covers the whole canvas is not near anything: it comes first either way.
    return [
        -np.inf if zone.whole else side * float(np.hypot(*(as_array(zone.points) - focal).T).min())
        for zone in project.back_to_front()
    ]


def zone_index(project: Project, zone_id: str) -> int:
    """Return a zone's place counted back to front, -1 when there is none."""
    return next((k for k, z in enumerate(project.back_to_front()) if z.id == zone_id), -1)


def growing(project: Project) -> list[tuple[int, Zone]]:
    """Return the zones whose growth matters (hair, feathers), with their place counted back to front."""
    return [(k, z) for k, z in enumerate(project.back_to_front()) if z.kind_of().hair]
