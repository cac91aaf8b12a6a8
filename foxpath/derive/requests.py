"""Frozen, callable requests: long work with its inputs captured, for a pool of threads.

Each is called with a `Progress` and returns its result; none touches the window.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np

from foxpath.core.arrays import F32, F64, U8, Rgb8
from foxpath.core.edges import Border, EdgePlan, EdgeReading, MarkingStretch
from foxpath.core.errors import AppError
from foxpath.core.feathers import Feathers
from foxpath.core.growth import (
    HairGlyphs,
    Singular,
    ZoneField,
    best_spot,
    draw_combs,
    draw_doubt,
    draw_glyphs,
    place_glyphs,
    place_streams,
    to_rgba8,
)
from foxpath.core.lengths import LengthField
from foxpath.core.passes import Finding, PassPlan, ZoneFacts
from foxpath.core.progress import Progress
from foxpath.core.rehearsal.reading import ZoneReading, differences
from foxpath.core.rehearsal.stage import Standing, bare_canvas, keep, lay, resume
from foxpath.core.zones import Coat, LayingOrder, fill
from foxpath.derive.cards import pass_cards
from foxpath.derive.edging import Fringes, Widths, ids_of, rehearsed_widths
from foxpath.derive.eyes import EyesReading, eyes_reading
from foxpath.derive.feathers import feathered
from foxpath.derive.handout import findings, make_book, zone_numbers
from foxpath.derive.lengths import hair_share
from foxpath.derive.painted import read_painting
from foxpath.derive.rehearsal import Rehearsed, build_up, groups_of, pass_colours, rehearse, size_for
from foxpath.derive.results import Results, growing
from foxpath.derive.rules import Finish, read_finish
from foxpath.derive.schools import SchoolReading, compare_schools
from foxpath.derive.values import ValueStudy, value_study
from foxpath.document import recovery
from foxpath.document.model import Comb, Pairs, Project, Zone, as_array
from foxpath.sheets import Painted, write_book, write_film, write_layers_file, write_png

Point = tuple[float, float]


@dataclass(frozen=True, slots=True, eq=False)
class FieldReading:
    """What the bench says about a zone's growth.

    Attributes
    ----------
    combed : bool
    sure_share : float
    unsure_cm2 : float
    spot : (x, y) or None
        Where the next comb would help most, reference pixels.
    gain_cm2 : float
        By how much doubt is expected to fall there.
    singular : tuple of Singular
        Crowns, gatherings, loops and deltas.
    guessed_share : float
        Share of the zone whose root end is only guessed.
    """

    combed: bool
    sure_share: float
    unsure_cm2: float
    spot: Point | None
    gain_cm2: float = 0.0
    singular: tuple[Singular, ...] = ()
    guessed_share: float = 0.0


@dataclass(frozen=True, slots=True, eq=False)
class Readings:
    """Every number the window shows of a project; zones are counted back to front.

    `against` are the combs the picture speaks against, with the angle in degrees; `photo` is what the photograph shows
    of each border, mm, by the indices of its zones; `laying` the order within a pass; `widths` the planned width along
    each border; `fringes` the hair that hangs over it; `hair_shares` on what share of a zone the photograph shows hair;
    `eyes` what is known of eyes and features; `cards` what to do in each pass, a sentence a part, by its role; `schools` what each
    school would take.
    """

    project: Project
    zones: tuple[Zone, ...]
    numbers: dict[str, int]
    facts: tuple[ZoneFacts, ...]
    tags: dict[str, Point]
    fields: dict[str, FieldReading]
    edges: tuple[tuple[Border, EdgePlan], ...]
    passes: tuple[PassPlan, ...]
    findings: tuple[Finding, ...]
    against: tuple[tuple[Comb, float], ...] = ()
    photo: dict[tuple[int, int], EdgeReading] = field(default_factory=dict)
    laying: LayingOrder | None = None
    widths: Widths = field(default_factory=dict)
    markings: dict[str, tuple[MarkingStretch, ...]] = field(default_factory=dict)
    fringes: Fringes = field(default_factory=dict)
    feathers: dict[str, Feathers] = field(default_factory=dict)
    hair_shares: dict[str, float] = field(default_factory=dict)
    lengths: LengthField | None = None
    eyes: EyesReading = field(default_factory=EyesReading)
    cards: dict[str, tuple[str, ...]] = field(default_factory=dict)
    schools: tuple[SchoolReading, ...] = ()


@dataclass(frozen=True, slots=True)
class Read:
    """Derive every reading of a project."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> Readings:
        """Return the readings. Raises `Cancelled`."""
        results, project = self.results, self.project
        zones = tuple(project.back_to_front())
        progress.at(0.05, "reading the zones")
        facts = results.facts(project)
        frame = results.growth_frame(project)
        tags: dict[str, Point] = {}
        for index, zone in enumerate(zones):
            progress.at(0.1 + 0.2 * index / len(zones), "reading the zones")
            spot = results.memo.get(
                ("tag", results.mask_key(project, index, frame)),
                lambda index=index: _tag_spot(results, project, index),  # type: ignore[misc]
            )
            if spot is not None:
                tags[zone.id] = spot
        fields: dict[str, FieldReading] = {}
        for index, zone in growing(project):
            progress.at(0.3 + 0.5 * index / len(zones), f"filling growth, {zone.name.lower()}")
            field = results.field(project, index, progress)
            if field is not None:
                fields[zone.id] = results.memo.get(
                    ("reading", results.field_key(project, index, field.frame)),
                    lambda index=index, field=field: _read_field(results, project, index, field),  # type: ignore[misc]
                )
        progress.at(0.85, "grading the edges")
        edges = tuple(results.edges(project))
        progress.at(0.95, "planning the passes")
        return Readings(
            project,
            zones,
            zone_numbers(project),
            facts,
            tags,
            fields,
            edges,
            results.passes(project),
            tuple(findings(results, project, progress)),
            tuple(results.contradictions(project)),
            results.edge_readings(project, progress.part(0.86, 0.95)),
            results.laying(project),
            results.edge_widths(project),
            results.markings(project, progress),
            results.fringes(project, progress),
            {zone.id: results.feathers(project, index, progress) for index, zone in feathered(project)},
            {z.id: hair_share(results, project, k) for k, z in growing(project) if z.kind_of().cover},
            results.lengths(project, progress),
            eyes_reading(results, project),
            {plan.role.key: pass_cards(results, project, plan) for plan in results.passes(project)},
            compare_schools(results, project),
        )


def _read_field(results: Results, project: Project, index: int, field: ZoneField) -> FieldReading:
    spot, gain = best_spot(field)
    guessed = float((field.inside & ~field.rooted).sum()) / max(int(field.inside.sum()), 1)
    singular = results.singular(project, index)
    return FieldReading(field.combed, field.sure_share(), field.unsure_cm2(), spot, gain, singular, guessed)


def _tag_spot(results: Results, project: Project, index: int) -> Point | None:
    """Return the middle of the widest place of a zone."""
    import cv2

    frame = results.growth_frame(project)
    mask = results.mask(project, index, frame)
    if not mask.any():
        return None
    depth = cv2.distanceTransform(np.pad(mask.astype(np.uint8), 1), cv2.DIST_L2, 5)[1:-1, 1:-1]
    i, j = np.unravel_index(int(np.argmax(depth)), depth.shape)
    at = frame.to_px(np.array([[j + 0.5, i + 0.5]]))[0]
    return float(at[0]), float(at[1])


@dataclass(frozen=True, slots=True)
class KeepAside:
    """Write unsaved work to this process's recovery file."""

    project: Project
    origin: str

    def __call__(self, progress: Progress) -> Project:
        """Return what was kept. Raises `AppError` when it cannot be written."""
        try:
            recovery.keep(self.project, self.origin)
        except OSError as failure:
            raise AppError("The recovery copy could not be written.", failure.strerror or "") from None
        return self.project


@dataclass(frozen=True, slots=True, eq=False)
class GrowthOverlay:
    """Draw the growth for a view of the picture.

    Attributes
    ----------
    affine : (2, 3) float64
        Reference pixels to pixels of the overlay.
    width, height : int
    gap_px : float
        Space between hairs on the screen.
    doubt : bool
        Hatch what is unsure.
    strength : float
    combs : tuple
        Points of the combs drawn as resting.
    streams : bool
        Long lines that show the flow, in place of hairs.
    """

    results: Results
    project: Project
    affine: F64
    width: int
    height: int
    gap_px: float = 12.0
    doubt: bool = True
    strength: float = 1.0
    combs: tuple[Pairs, ...] = ()
    streams: bool = False

    def __call__(self, progress: Progress) -> U8:
        """Return the (height, width, 4) uint8 premultiplied overlay."""
        results, project = self.results, self.project
        scale = float(np.sqrt(abs(np.linalg.det(self.affine[:, :2]))))
        # Steps of the square root of two: hairs are added on zooming in, and not at every pixel of it.
        px_per_mm = 2 ** (round(2 * np.log2(scale / project.mm_per_px)) / 2)
        gap_mm = round(float(self.gap_px / px_per_mm), 4)
        groups: list[HairGlyphs] = []
        fields: list[ZoneField] = []
        zones = growing(project)
        for number, (index, zone) in enumerate(zones):
            progress.at(number / len(zones), f"filling growth, {zone.name.lower()}")
            field = results.field(project, index, progress)
            if field is None:
                continue
            fields.append(field)
            coat = project.coat_of(zone)
            varied_key, varied = results.varied(project, index, progress)
            key = (
                "glyphs",
                results.field_key(project, index, field.frame),
                coat,
                gap_mm,
                index,
                self.streams,
                varied_key,
            )
            groups.append(
                results.memo.get(
                    key,
                    lambda field=field, coat=coat, index=index, varied=varied: self._placed(
                        field, coat, gap_mm, index, varied
                    ),  # type: ignore[misc]
                )
            )
        image = np.zeros((self.height, self.width, 4), np.float32)
        if self.doubt:
            draw_doubt(image, fields, self.affine)
        progress.at(0.9)
        draw_glyphs(image, groups, self.affine, self.strength)
        self._clear_features(image)
        draw_combs(image, [as_array(points) for points in self.combs], self.affine)
        return to_rgba8(image)

    def _placed(self, field: ZoneField, coat: Coat, gap_mm: float, index: int, varied: F32 | None) -> HairGlyphs:
        if self.streams:
            longest = 0.16 * max(self.project.canvas.width_mm, self.project.canvas.height_mm)
            return place_streams(field, gap_mm, longest, 0.12 * gap_mm, index)
        return place_glyphs(field, coat, gap_mm, index, varied)

    def _clear_features(self, image: F32) -> None:
        """Take hairs off eyes, noses and horn: what has no hair is never drawn over."""
        for zone in self.project.zones:
            if zone.whole or zone.kind not in {"eye", "skin", "horn"}:
                continue
            at = zone.shape.outline() @ self.affine[:, :2].T + self.affine[:, 2]
            x0, y0 = np.maximum(np.floor(at.min(axis=0)).astype(int), 0)
            x1, y1 = np.minimum(np.ceil(at.max(axis=0)).astype(int), (self.width, self.height))
            if x1 > x0 and y1 > y0:
                image[y0:y1, x0:x1][fill(at - (x0, y0), (int(y1 - y0), int(x1 - x0)))] = 0


@dataclass(frozen=True, slots=True)
class Rehearse:
    """Rehearse every pass; each is handed on as soon as it stands, with its small picture and its colours."""

    results: Results
    project: Project
    width: int
    thumbnail: tuple[int, int]

    def __call__(self, progress: Progress) -> list[Rehearsed]:
        """Return all passes. Raises `Cancelled`."""

        def each(number: int, one: Rehearsed) -> None:
            small = small_picture(one.standing.shown, self.thumbnail)
            progress.hand_on((number, one, small, pass_colours(self.results, self.project, one.plan)))

        return rehearse(self.results, self.project, self.width, progress, each)


@dataclass(frozen=True, slots=True, eq=False)
class OtherPainting:
    """A painting in another school: how it stands after the last pass of each act, in their order, and how near it comes.

    `mean` and `worst` are differences to the reference over its zones (CIEDE2000), weighed by area and at most.
    """

    after: dict[str, Rgb8]
    mean: float
    worst: float


OTHER_WIDTH = 1000
"""Pixels across a painting that is only looked at beside the other: it has half the room."""


@dataclass(frozen=True, slots=True)
class RehearseOther:
    """Rehearse a painting that is only looked at, and read it."""

    results: Results
    project: Project
    width: int = OTHER_WIDTH

    def __call__(self, progress: Progress) -> OtherPainting:
        """Return it. Raises `Cancelled`."""
        done = rehearse(self.results, self.project, self.width, progress.part(0, 0.8), keep=False)
        after: dict[str, Rgb8] = {}
        for one in done:
            # What comes last stands last, even where an act is taken up again.
            after.pop(one.plan.role.act, None)
            after[one.plan.role.act] = np.ascontiguousarray(one.standing.shown)
        read = read_painting(self.results, self.project, done[-1].standing.shown, progress.part(0.8, 1)) if done else ()
        return OtherPainting(after, *differences(list(read)))


@dataclass(frozen=True, slots=True, eq=False)
class ReadPainted:
    """Read how wide the edges came out in a rehearsal."""

    results: Results
    project: Project
    standing: Standing

    def __call__(self, progress: Progress) -> tuple[Project, dict[tuple[str, str], float]]:
        """Return the project, and their widths, mm, by the ids of their zones; NaN without a clear step. Raises `Cancelled`."""
        edges = self.results.edges(self.project)
        found = rehearsed_widths(self.standing.shown, self.project, edges, progress)
        return self.project, {ids_of(self.project, border): found[border.front, border.back] for border, _ in edges}


@dataclass(frozen=True, slots=True, eq=False)
class ReadZones:
    """Read a rehearsal zone by zone against reference and plan."""

    results: Results
    project: Project
    standing: Standing

    def __call__(self, progress: Progress) -> tuple[Project, tuple[ZoneReading, ...], Finish]:
        """Return the project, the readings, the farthest off first, and how the rules are kept. Raises `Cancelled`."""
        shown = self.standing.shown
        zones = read_painting(self.results, self.project, shown, progress)
        return self.project, zones, read_finish(self.results, self.project, shown, progress)


@dataclass(frozen=True, slots=True)
class ReadValues:
    """Read the values of the reference: masses, gauges, where the light turns."""

    results: Results
    project: Project

    def __call__(self, progress: Progress) -> tuple[Project, ValueStudy]:
        """Return the project and its value study."""
        return self.project, value_study(self.results, self.project, progress)


FILM_WIDTH, FRAMES_A_PASS = 900, 14


@dataclass(frozen=True, slots=True)
class SaveRehearsal:
    """Write the rehearsal: layers as OpenRaster (.ora), a film of the build-up (.webp, .gif), or a picture a pass (.png)."""

    results: Results
    project: Project
    path: Path
    width: int

    def __call__(self, progress: Progress) -> str:
        """Return what was written, in words. Raises `Cancelled` or `AppError`."""
        if self.path.suffix.lower() == ".ora":
            done = rehearse(self.results, self.project, self.width, progress)
            count = write_layers_file([Painted(one.plan.role.name, one.standing.shown) for one in done], self.path)
            return f"Saved {self.path.name}: {count} layers, one a pass."
        if self.path.suffix.lower() == ".png":
            done = rehearse(self.results, self.project, self.width, progress)
            for number, one in enumerate(done, 1):
                named = self.path.with_name(f"{self.path.stem}-{number:02d}.png")
                write_png(one.standing.shown, named, self.width / self.project.canvas.width_mm)
            return f"Saved {len(done)} pictures, {self.path.stem}-01.png and on."
        count = write_film(film_frames(self.results, self.project, min(self.width, FILM_WIDTH), progress), self.path)
        return f"Saved {self.path.name}: a film of {count} pictures."


def film_frames(results: Results, project: Project, width: int, progress: Progress) -> list[Rgb8]:
    """Return pictures of the painting coming up, pass by pass, mark by mark. Raises `Cancelled`."""
    frames: list[Rgb8] = []
    done = rehearse(results, project, width, progress.part(0, 0.3))
    for number in range(len(done)):
        part = progress.part(0.3 + 0.7 * number / len(done), 0.3 + 0.7 * (number + 1) / len(done))
        steps = build_up(results, project, width, number, FRAMES_A_PASS, part)
        frames += [standing.shown for _, _, standing in steps]
    return frames


def small_picture(rgb: Rgb8, within: tuple[int, int]) -> Rgb8:
    """Average a picture down to fit within a size."""
    import cv2

    height, width = rgb.shape[:2]
    scale = min(within[0] / width, within[1] / height)
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    return np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)


@dataclass(frozen=True, slots=True)
class StandAt:
    """Paint a pass up to a share of its marks."""

    results: Results
    project: Project
    width: int
    number: int
    share: float

    def __call__(self, progress: Progress) -> tuple[int, int, Rgb8]:
        """Return the marks laid, the marks of the pass, and the picture."""
        before = rehearse(self.results, self.project, self.width, progress)
        plan = before[self.number].plan
        columns, rows, px_per_mm = size_for(self.project, self.width)
        groups = [marks for _, marks in groups_of(self.results, self.project, plan, progress)]
        total = sum(len(marks.half_mm) for marks in groups)
        if self.share >= 1:
            return total, total, before[self.number].standing.shown
        canvas = resume(before[self.number - 1].standing) if self.number else bare_canvas(columns, rows)
        left = round(total * self.share)
        for marks in groups:
            if left <= 0:
                break
            lay(canvas, [marks.first(left)], px_per_mm, progress)
            left -= len(marks.half_mm)
        return round(total * self.share), total, keep(canvas).shown


@dataclass(frozen=True, slots=True)
class Play:
    """Paint one pass slice by slice, at a steady pace."""

    results: Results
    project: Project
    width: int
    number: int
    seconds: float = 5.0
    steps: int = 60
    speed: Callable[[], float] = lambda: 1.0
    """Asked at each slice: how many times as fast as usual, over 0."""

    def __call__(self, progress: Progress) -> None:
        """Hand on (marks laid, marks of the pass, picture) for each slice. Raises `Cancelled`."""
        import time

        pause = self.seconds / self.steps
        due = time.monotonic()
        for laid, total, standing in build_up(
            self.results, self.project, self.width, self.number, self.steps, progress
        ):
            progress.hand_on((laid, total, standing.shown))
            due += pause / self.speed()
            while time.monotonic() < due:
                progress.at(laid / max(total, 1))
                time.sleep(min(0.02, max(0.0, due - time.monotonic())))


@dataclass(frozen=True, slots=True)
class PrintSheets:
    """Write the book of sheets."""

    results: Results
    project: Project
    path: Path
    paper: str
    width: int = 1400

    def __call__(self, progress: Progress) -> int:
        """Return the number of pages. Raises `Cancelled` or `AppError`."""
        rehearsed = rehearse(self.results, self.project, self.width, progress.part(0, 0.8))
        book = make_book(self.results, self.project, rehearsed, progress.part(0.8, 0.9))
        progress.at(0.9, "writing the sheets")
        return write_book(book, self.path, self.paper)
