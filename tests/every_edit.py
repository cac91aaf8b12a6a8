"""Every edit there is, once or more, on whatever project: for tests that say something of all of them.

`EDITS` names functions from one project to the next; a test holds that none of `foxpath.document.edits` is missing.
"""

from collections.abc import Callable
from dataclasses import replace
from datetime import date, datetime, timedelta

import numpy as np

from foxpath.core.commission import Change
from foxpath.core.days.studio import DryNote, Laid
from foxpath.core.eyes import find_eye
from foxpath.core.feathers import TractEdit
from foxpath.core.lengths import Brush
from foxpath.core.log.entries import Entry
from foxpath.core.mixes.tubes import OwnTube
from foxpath.core.passes import Logged, Veil, schools
from foxpath.core.progress.touches import Touch
from foxpath.core.reference.light import Catchlight, Light
from foxpath.core.reference.transfer import Axes
from foxpath.core.units import CanvasSize
from foxpath.core.zones.propose import Proposed
from foxpath.derive import Results
from foxpath.derive.passes.plan import passes_of
from foxpath.derive.pictures import picture_of
from foxpath.document import edits
from foxpath.document.model import Project, Zone, as_array
from foxpath.document.photos import kept_photo
from tests.made import picture

NO_EDITS = {"same_touch", "zone_under", "eye_zone", "own_kind_of", "new_project"}
"""What takes a project and gives none, or makes the first."""

Edit = Callable[[Project], Project]


def coated(project: Project, place: int = 0) -> Zone:
    """Return a zone with hair or feathers and a comb, back to front."""
    combed = {comb.zone for comb in project.combs}
    return [z for z in project.back_to_front() if z.kind_of().hair and z.kind_of().cover and z.id in combed][place]


def last_coat(project: Project) -> Zone:
    """Return the frontmost zone with a combed coat."""
    return coated(project, -1)


def border(project: Project) -> tuple[str, str]:
    """Return a border between a coat and the background."""
    return coated(project).id, project.back_to_front()[0].id


def across(zone: Zone, share: float = 0.5) -> np.ndarray:
    """Return a line through a zone's middle, (2, 2)."""
    points = as_array(zone.points)
    middle, size = points.mean(axis=0), np.ptp(points, axis=0)
    return np.array([middle - share * size * (1, 0.2), middle + share * size * (1, 0.2)])


EVENING = datetime(2026, 3, 3, 19, 15)
_LAID = (
    Laid("support", "2026-03-03T19:15", "2026-03-03T20:15"),
    Laid("coat-1", "2026-03-04T19:15", "2026-03-04T19:30"),
)  # fmt: skip
_NOTE = DryNote("ground", "PBr7-BU+PW6", "fawn", 20.0, "2026-03-03T19:15")


def _begun(project: Project) -> Project:
    """Return a project with a sitting that goes on, in its first step."""
    made = edits.tell(project, "begin", EVENING)
    return edits.begin_step(made, Entry("", "step", "", "coat-2", "coat-2", "Second coat", "Preparation"), EVENING)


_TOUCH = Touch("", "value", "", (60.0, 50.0), "todo", "Glaze it thin.", "soft flat", "pile 3", 12, True)


def _photographed(project: Project) -> Project:
    """Return a project with a photograph of the canvas."""
    return edits.add_photo(project, kept_photo("canvas.png", picture(600, 480)), EVENING, "darks")[0]


TAWNY = (("PY43", 12.0), ("PW6", 2.5), ("PBr7-BS", 1.0))


def _mixed(project: Project) -> Project:
    """Return a project with a mixed pile on its palette."""
    return edits.start_pile(project, "tawny", (52.0, 20.0, 33.0), TAWNY, 6.0, "2026-11-02")[0]


def _looked(project: Project) -> Project:
    return edits.look_at_pile(_mixed(project), _last_pile(_mixed(project)), (49.0, 22.0, 30.0))


def _last_pile(project: Project) -> str:
    return project.mixes.mixed[-1].id


def lone(project: Project) -> Project:
    """Return a project with a further picture on its shelf, cut out and placed."""
    made, lent = edits.lend(project, picture(120 + len(project.shelf), 90), "further.png", "coat")
    return edits.cut_lent(made, lent, np.array([[20.0, 10], [100, 12], [90, 80], [25, 70]]))


def with_(make: Callable[[Project], Project], then: Edit) -> Edit:
    """Return an edit that first makes what it needs."""
    return lambda project: then(make(project))


def _fanned(project: Project) -> Project:
    zone = last_coat(project)
    line = across(zone, 0.3)
    return edits.add_fan(project, zone.id, line, line + (0, 30), 5)[0]


def _drawn(project: Project) -> Project:
    return edits.set_drawing(project, picture(300, 240), "drawing.png")


def _stretched(project: Project) -> Project:
    return edits.add_stretch(project, *border(project), as_array(coated(project).points)[:4], 6.0)[0]


def _marked(project: Project) -> Project:
    zone = coated(project)
    return edits.add_mark(project, "crown", zone.id, across(zone, 0.2), 20.0)[0]


def _ringed(project: Project) -> Project:
    eye = project.eyes[0]
    x, y = eye.iris.centre
    return edits.mark_catchlight(project, Catchlight((x, y), eye.iris.radius, (x + 2, y - 3)))


def _neighbour(project: Project, zone: Zone) -> Zone:
    """Return the part nearest to a zone."""
    at = np.array(zone.middle())
    others = [z for z in project.zones if not z.whole and z.id != zone.id and z.kind_of().cover]
    return min(others, key=lambda z: float(np.hypot(*(np.array(z.middle()) - at))))


def _merged(project: Project) -> Project:
    zone = coated(project)
    wide = edits.grow_zone(project, zone.id, 25.0)
    return edits.merge_zones(wide, zone.id, _neighbour(wide, zone).id)


def _subtracted(project: Project) -> Project:
    zone = coated(project)
    points = as_array(zone.points)
    cut = points.mean(axis=0) + 0.25 * np.ptp(points, axis=0).min() * np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]])
    cut[2:, 1] += 2 * np.ptp(points[:, 1])
    made, other = edits.add_zone(project, "Taken off", "short-fur", cut)
    return edits.subtract_zone(made, zone.id, other)


def _eye_again(project: Project) -> Project:
    eye = project.eyes[0]
    rgb = picture_of(Results(), project.reference).rgb
    found = find_eye(np.asarray(rgb), eye.iris.centre, radius=eye.iris.radius)
    return edits.add_eye(edits.remove_eye(project, eye.id), found, "Found")[0]


def _light(project: Project) -> Project:
    return edits.set_light(project, Light(hour=2.5, height_deg=40))


# New ones come last: they are tried a quarter at a time, and those that stand together bear one another.
EDITS: dict[str, Edit] = {
    "rename": lambda p: edits.rename(p, "Another"),
    "set_canvas": lambda p: edits.set_canvas(p, CanvasSize(p.canvas.width_mm * 0.9, p.canvas.height_mm * 0.8)),
    "set_crop": lambda p: edits.set_crop(p, replace(p.crop, width=p.crop.width * 0.8, height=p.crop.height * 0.8)),
    "set_focal": lambda p: edits.set_focal(p, (p.crop.x + 0.8 * p.crop.width, p.crop.y + 0.8 * p.crop.height)),
    "add_zone": lambda p: edits.add_zone(p, "New", "short-fur", as_array(coated(p).points) * 0.5 + 60)[0],
    "change_zone": lambda p: edits.change_zone(p, coated(p).id, name="Renamed"),
    "set_depth": lambda p: edits.set_depth(p, coated(p).id, 99),
    "remove_zone": lambda p: edits.remove_zone(p, coated(p).id),
    "remove_zone, eye": lambda p: edits.remove_zone(p, next(z.id for z in p.zones if z.kind == "eye")),
    "add_comb": lambda p: edits.add_comb(p, across(last_coat(p), 0.2)[::-1], last_coat(p).id)[0],
    "change_comb": lambda p: edits.change_comb(p, p.combs[0].id, as_array(p.combs[0].points) + (3, 9)),
    "turn_comb": lambda p: edits.turn_comb(p, p.combs[0].id),
    "swing_comb": lambda p: edits.swing_comb(p, p.combs[-1].id, 40.0),
    "remove_comb": lambda p: edits.remove_comb(p, p.combs[0].id),
    "keep_comb": lambda p: edits.keep_comb(edits.swing_comb(p, p.combs[0].id, 70.0), p.combs[0].id),
    "add_mark": _marked,
    "add_mark, parting": lambda p: edits.add_mark(p, "parting", coated(p).id, across(coated(p), 0.4))[0],
    "add_mark, donor": lambda p: edits.add_mark(p, "donor", coated(p).id, source=last_coat(p).id)[0],
    "add_mark, lent": with_(lone, lambda p: edits.add_mark(p, "donor", coated(p).id, source=p.shelf[-1].id)[0]),
    "add_mark, source": lambda p: edits.add_mark(p, "source", last_coat(p).id, across(last_coat(p), 0.1))[0],
    "change_mark": with_(_marked, lambda p: edits.change_mark(p, p.marks[-1].id, turn_deg=150)),
    "remove_mark": with_(_marked, lambda p: edits.remove_mark(p, p.marks[-1].id)),
    "set_edge": lambda p: edits.set_edge(p, *border(p), "lost", 9.0),
    "clear_edge": with_(_stretched, lambda p: edits.clear_edge(p, *border(p))),
    "set_coat": lambda p: edits.set_coat(p, coated(p).id, length_mm=31.0, width_mm=1.1),
    "set_coat, spread": lambda p: edits.set_coat(p, last_coat(p).id, spread_deg=31.0, clump_mm=4.0, stray_share=0.3),
    "set_pass": lambda p: edits.set_pass(p, "lights", l_low=30.0, coverage=0.7),
    "set_pass, coolest": lambda p: edits.set_pass(p, "undercoat", coolest=-2.0, lean=-2.0),
    "set_pass, lean": lambda p: edits.set_pass(p, "lights", lean=-2.0, warmest=3.0),
    "set_pass, left out": lambda p: edits.set_pass(p, "lights", left_out=(coated(p).id,)),
    "set_pass, off": lambda p: edits.set_pass(p, "restated", on=False),
    "move_pass": lambda p: edits.move_pass(p, "restated", 1),
    "set_school": lambda p: edits.set_school(p, "white-hair"),
    "set_zone_school": lambda p: edits.set_zone_school(p, coated(p).id, "one-sitting"),
    "set_way": lambda p: edits.set_way(p, "finish", "loose"),
    "set_way, tooth": lambda p: edits.set_way(p, "tooth", "toothed"),
    "set_way, edges": lambda p: edits.set_way(p, "edges", "dry"),
    "set_way, catchlight": lambda p: edits.set_way(p, "catchlight", "reserve"),
    "set_way, first": lambda p: edits.set_way(p, "first", "eyes"),
    "log_pass": lambda p: edits.log_pass(p, passes_of(Results(), p)[2], 200.0, "2026-05-04"),
    "forget_log": with_(
        lambda p: replace(p, noted=(Logged("lights", "lights", 60.0, 100.0),)), lambda p: edits.forget_log(p, "lights")
    ),
    "take_school": lambda p: edits.take_school(p, replace(schools()["one-sitting"], key="mine", name="Mine")),
    "add_eye": _eye_again,
    "mark_rim": lambda p: edits.mark_rim(
        p, np.array([[300.0, 300], [320, 300], [310, 290], [310, 310], [303, 293], [317, 307]])
    )[0],
    "change_eye": lambda p: edits.change_eye(p, p.eyes[0].id, iris=replace(p.eyes[0].iris, rx=1.2 * p.eyes[0].iris.rx)),
    "set_pupil_kind": lambda p: edits.set_pupil_kind(p, p.eyes[0].id, "upright"),
    "set_light_plan": lambda p: edits.set_light_plan(p, p.eyes[0].id, hour=4.0),
    "take_zone_lids": lambda p: edits.take_zone_lids(p, p.eyes[0].id),
    "remove_eye": lambda p: edits.remove_eye(p, p.eyes[0].id),
    "add_feature": lambda p: edits.add_feature(p, "ear", "Another ear")[0],
    "add_stroke": lambda p: edits.add_stroke(
        *edits.add_feature(p, "whiskers", "More whiskers"), "hair", across(last_coat(p), 0.3)
    ),
    "remove_stroke": lambda p: edits.remove_stroke(p, p.features[0].id, 0),
    "move_stroke_point": lambda p: edits.move_stroke_point(
        p, p.features[0].id, 0, 0, tuple(np.array(p.features[0].strokes[0].points[0]) + (6, -5))
    ),
    "rename_feature": lambda p: edits.rename_feature(p, p.features[0].id, "Other name"),
    "set_toes": lambda p: edits.set_toes(*edits.add_feature(p, "paw", "Paw"), 5),
    "remove_feature": lambda p: edits.remove_feature(p, p.features[0].id),
    "set_drawing": _drawn,
    "set_corners": with_(_drawn, lambda p: edits.set_corners(p, [(10, 10), (290, 5), (280, 230), (8, 235)])),
    "mark_drawn": with_(_drawn, lambda p: edits.mark_drawn(p, p.eyes[0].id, [np.array([[50.0, 50], [60, 60]])])),
    "drop_drawing": with_(_drawn, edits.drop_drawing),
    "add_stretch": _stretched,
    "set_stretch": with_(_stretched, lambda p: edits.set_stretch(p, p.stretches[-1].id, 11.0)),
    "remove_stretch": with_(_stretched, lambda p: edits.remove_stretch(p, p.stretches[-1].id)),
    "measure_hair": lambda p: edits.measure_hair(p, coated(p).id, across(coated(p), 0.15)),
    "remove_hair": with_(
        lambda p: edits.measure_hair(p, coated(p).id, across(coated(p), 0.1)),
        lambda p: edits.remove_hair(p, coated(p).id, 0),
    ),
    "reset_coat": lambda p: edits.reset_coat(edits.set_coat(p, coated(p).id, length_mm=40.0), coated(p).id),
    "set_falloff": lambda p: edits.set_falloff(p, 1.0 if p.falloff < 0.8 else 0.0),
    "set_focal_order": lambda p: edits.set_focal_order(p, "first"),
    "add_brush": lambda p: edits.add_brush(p, Brush("liner", 0.4)),
    "change_brush": lambda p: edits.change_brush(p, len(p.kit) - 1, Brush("round", 9.0, 4)),
    "remove_brush": lambda p: edits.remove_brush(p, min(range(len(p.kit)), key=lambda k: p.kit[k].fine_mm)),
    "take_kit": lambda p: edits.take_kit(p, (Brush("filbert", 6.0), Brush("round", 2.0, state="worn"))),
    "like_brush": lambda p: edits.like_brush(p, coated(p).id, "lights", p.kit[0]),
    "usual_kit": with_(lambda p: replace(p, kit=(Brush("flat", 9.0),)), edits.usual_kit),
    "add_fan": _fanned,
    "set_fan_count": with_(_fanned, lambda p: edits.set_fan_count(p, p.fans[-1].id, 9)),
    "remove_fan": with_(_fanned, lambda p: edits.remove_fan(p, p.fans[-1].id)),
    "lend": lambda p: edits.lend(p, picture(110, 90 + len(p.shelf)), "more.png")[0],
    "change_lent": with_(lone, lambda p: edits.change_lent(p, p.shelf[-1].id, soft_mm=9.0)),
    "note_main": lambda p: edits.note_main(p, "A note"),
    "pose_lent": with_(lone, lambda p: edits.pose_lent(p, p.shelf[-1].id, turn_deg=35.0)),
    "cut_lent": lone,
    "take_off": with_(lone, lambda p: edits.take_off(p, p.shelf[-1].id)),
    "make_main": with_(lone, lambda p: edits.make_main(p, p.shelf[-1].id)),
    "set_correction": lambda p: edits.set_correction(p, exposure=0.6, light_k=4200),
    "set_seeing": lambda p: edits.set_seeing(p, distance_m=1.2, steps=3),
    "add_spot": lambda p: edits.add_spot(p, (100.0, 120.0)),
    "move_spot": lambda p: edits.move_spot(edits.add_spot(p, (9.0, 12.0)), 0, (90.0, 95.0)),
    "remove_spot": lambda p: edits.remove_spot(edits.add_spot(p, (9.0, 12.0)), 0),
    "set_spot_mm": lambda p: edits.set_spot_mm(p, 7.0),
    "set_light": _light,
    "mark_catchlight": _ringed,
    "forget_catchlights": with_(_ringed, edits.forget_catchlights),
    "set_grid": lambda p: edits.set_grid(p, square_mm=31.0, diagonals=True),
    "set_axes": lambda p: edits.set_axes(p, Axes((300.0, 300.0), (420.0, 330.0), (350.0, 400.0))),
    "rub": lambda p: edits.rub(p, across(coated(p)), 12.0),
    "draw_line": lambda p: edits.draw_line(p, across(coated(p))),
    "clean_lines": lambda p: edits.clean_lines(edits.draw_line(p, across(coated(p)))),
    "move_point": lambda p: edits.move_point(p, coated(p).id, 0, tuple(np.array(coated(p).points[0]) + (25, 18))),
    "insert_point": lambda p: edits.insert_point(p, coated(p).id, 0, tuple(np.array(coated(p).points[0]) + (9, 4))),
    "remove_point": lambda p: edits.remove_point(p, coated(p).id, 2),
    "set_outline": lambda p: edits.set_outline(p, last_coat(p).id, as_array(last_coat(p).points) * 1.02),
    "merge_zones": _merged,
    "subtract_zone": _subtracted,
    "split_zone": lambda p: edits.split_zone(p, last_coat(p).id, across(last_coat(p), 2.0))[0],
    "smooth_zone": lambda p: edits.smooth_zone(p, coated(p).id),
    "grow_zone": lambda p: edits.grow_zone(p, last_coat(p).id, -4.0),
    "add_proposed": lambda p: edits.add_proposed(p, [Proposed(as_array(coated(p).points) * 0.6 + 30, 1.0)]),
    "set_group": lambda p: edits.set_group(p, coated(p).id, "Second animal"),
    "set_group_rank": lambda p: edits.set_group_rank(
        edits.set_group(edits.set_group(p, coated(p).id, "One"), last_coat(p).id, "Two"), "One", 1
    ),
    "set_own_kind": lambda p: edits.set_own_kind(
        p, coated(p).id, edits.own_kind_of(edits.set_coat(p, coated(p).id, length_mm=20.0), coated(p), "Winter")
    ),
    "set_kind": lambda p: edits.set_kind(p, coated(p).id, "woolly"),
    "set_form": lambda p: edits.set_form(
        p, coated(p).id, kind="cylinder", line=tuple(map(tuple, across(coated(p), 0.4).tolist()))
    ),
    "set_mixes": lambda p: edits.set_mixes(p, finish="matt", black="none", most=2, rehearsed=True),
    "take_tubes": lambda p: edits.take_tubes(p, p.mixes.tubes[:5]),
    "put_tube": lambda p: edits.put_tube(p, "PG18"),
    "remove_tube": lambda p: edits.remove_tube(p, "PBr7-BU"),
    "add_own_tube": lambda p: edits.add_own_tube(p, OwnTube("", "Olive", (38.0, -4.0, 18.0), (68.0, -3.0, 22.0))),
    "start_pile": _mixed,
    "look_at_pile": with_(_mixed, _looked),
    "add_to_pile": with_(_looked, lambda p: edits.add_to_pile(p, _last_pile(p), (("PW6", 3.0),), halve=True)),
    "rename_pile": with_(_mixed, lambda p: edits.rename_pile(p, _last_pile(p), "fox")),
    "wrap_pile": with_(_mixed, lambda p: edits.wrap_pile(p, _last_pile(p), wrapped=True)),
    "scrape_pile": with_(_looked, lambda p: edits.scrape_pile(p, _last_pile(p))),
    "set_days": lambda p: edits.set_days(
        p, start="2026-03-02", deadline="2026-06-30", alkyd=0.1, celsius=18.0, longest=150
    ),
    "set_weekday": lambda p: edits.set_weekday(p, 4, (("18:00", "21:00"), ("22:00", "00:30"))),
    "set_day": lambda p: edits.set_day(p, date(2026, 3, 7), (("08:00", "11:00"),)),
    "set_away": lambda p: edits.set_away(p, date(2026, 3, 16), date(2026, 3, 18)),
    "take_busy": lambda p: edits.take_busy(p, [(EVENING, EVENING + timedelta(hours=1))]),
    "take_plan": lambda p: edits.take_plan(p, _LAID),
    "forget_plan": with_(lambda p: edits.take_plan(p, _LAID), edits.forget_plan),
    "hold_tasks": lambda p: edits.hold_tasks(p, ["drawing"], EVENING, EVENING + timedelta(days=1)),
    "let_go": with_(
        lambda p: edits.hold_tasks(p, ["drawing", "ground"], EVENING, EVENING + timedelta(days=1)),
        lambda p: edits.let_go(p, ["drawing"]),
    ),
    "mark_done": lambda p: edits.mark_done(p, _LAID[:1]),
    "mark_begun": lambda p: edits.mark_begun(p, _LAID[1:]),
    "mark_missed": with_(lambda p: edits.take_plan(p, _LAID), lambda p: edits.mark_missed(p, _LAID[:1])),
    "mark_undone": with_(lambda p: edits.mark_done(p, _LAID), lambda p: edits.mark_undone(p, ["coat-1"])),
    "note_drying": lambda p: edits.note_drying(p, _NOTE, "dry", EVENING + timedelta(hours=20)),
    "forget_drying": with_(
        lambda p: edits.note_drying(p, replace(_NOTE, task="y"), "tacky", EVENING + timedelta(hours=20)),
        lambda p: edits.forget_drying(
            edits.note_drying(p, replace(_NOTE, task="x", pile="PW6"), "dry", EVENING + timedelta(days=2)), "PW6"
        ),
    ),
    "set_easel": lambda p: edits.set_easel(p, back=15, hand="left"),
    "tell": lambda p: edits.tell(p, "note", EVENING, text="the cheek is too cool", part="cheek"),
    "correct": with_(_begun, lambda p: edits.correct(p, p.told[-1].ref, "of the near eye", EVENING)),
    "take_back": with_(_begun, lambda p: edits.take_back(p, EVENING)),
    "begin_step": with_(
        _begun, lambda p: edits.begin_step(p, Entry("", "step", "", "x", "x/1", "bib", "Darks"), EVENING)
    ),
    "end_step": with_(_begun, lambda p: edits.end_step(p, "done", EVENING + timedelta(minutes=20), finishes=True)),
    # Those that take back come first: what stands at the end of a group is seen.
    "remove_photo": with_(lambda p: _photographed(p), lambda p: edits.remove_photo(p, p.photos[0].id)),
    "change_photo": with_(lambda p: _photographed(p), lambda p: edits.change_photo(p, p.photos[0].id, after="ground")),
    "add_photo": lambda p: _photographed(p),
    "forget_touch": with_(lambda p: edits.say_touch(p, _TOUCH), lambda p: edits.forget_touch(p, p.touches[0].id)),
    "say_touch": lambda p: edits.say_touch(p, _TOUCH),
    "judge_again": with_(lambda p: edits.leave_alone(p, as_array(coated(p).points)[:4]), edits.judge_again),
    "leave_after": with_(
        lambda p: edits.leave_alone(p, as_array(coated(p).points)[:4]),
        lambda p: edits.leave_after(p, len(p.left_alone) - 1, next(iter(p.roles))),
    ),
    "leave_alone": lambda p: edits.leave_alone(p, as_array(coated(p).points)[:4], next(iter(p.roles))),
    "forget_pass": with_(
        lambda p: edits.add_again(p, "lights")[0], lambda p: edits.forget_pass(p, p.own_passes[-1].id)
    ),
    "add_again": lambda p: edits.add_again(p, "highlights")[0],
    "set_veil": with_(
        lambda p: edits.add_veil(p, Veil(place="shadow"), coated(p).id)[0],
        lambda p: edits.set_veil(p, p.own_passes[-1].id, strength=0.2, made_up=True),
    ),
    "add_veil": lambda p: edits.add_veil(
        p, Veil("scumble", (70.0, 1.0, -6.0), place="patch", patch=as_array(coated(p).points)[:4].tolist()), name="Mist"
    )[0],
    "bring_back": with_(lambda p: edits.leave_out_part(p, coated(p).id), lambda p: edits.bring_back(p, p.gone[-1].id)),
    "move_part": lambda p: edits.move_part(p, coated(p).id, (6.0, -4.0)),
    "leave_out_part": lambda p: edits.leave_out_part(p, coated(p).id),
    "set_weight": with_(
        lambda p: edits.set_group(p, coated(p).id, "the shy one"), lambda p: edits.set_weight(p, "the shy one", 0.4)
    ),
    "soften_marking": with_(
        lambda p: edits.add_zone(p, "Bar", "marking", as_array(coated(p).points)[::2])[0],
        lambda p: edits.soften_marking(p, p.zones[-1].id, 5.0),
    ),
    "set_part": lambda p: edits.set_part(p, "lights", coated(p).id, coverage=2.5, l_high=70.0),
    "follow_reference": with_(
        lambda p: edits.depart(p, coated(p).id, "lit", warmth=4.0),
        lambda p: edits.follow_reference(p, coated(p).id, "lit"),
    ),
    "depart": lambda p: edits.depart(p, coated(p).id, lightness=-7.0, strength=0.8),
    "set_client": lambda p: edits.set_client(p, "the lighthouse keeper"),
    "add_wish": lambda p: edits.add_wish(p, date(2026, 3, 1), "no snow"),
    "add_received": lambda p: edits.add_received(p, date(2026, 3, 1), "garden.jpg", "Runa", "show"),
    "send_proof": lambda p: edits.send_proof(p, date(2026, 3, 2), "proof.pdf"),
    "approve_proof": with_(
        lambda p: edits.send_proof(p, date(2026, 3, 2), "proof.pdf"), lambda p: edits.approve_proof(p, date(2026, 3, 4))
    ),
    "take_change": with_(
        lambda p: edits.mark_done(p, _LAID),
        lambda p: edits.take_change(p, Change("2026-03-05", "another sky", (p.zones[0].id,), 40, 6), ["coat-1"]),
    ),
    "set_tract": lambda p: edits.set_tract(p, last_coat(p).id, **dict.fromkeys(TractEdit.__dataclass_fields__, 9.0)),
    "forget_learned, pace": with_(
        lambda p: replace(p, noted=(Logged("lights", "lights", 60.0, 100.0),)),
        lambda p: edits.forget_learned(p, "pace"),
    ),
    "forget_learned, tubes": with_(_looked, lambda p: edits.forget_learned(p, "tubes")),
    "note_stroke": lambda p: edits.note_stroke(p, 0.35),
    "count_served": lambda p: edits.count_served(p, [0, 3]),
    "keep_picture": lambda p: edits.keep_picture(p, kept_photo("ear.png", picture(300, 240)))[0],
    "tell_material": lambda p: edits.tell_material(p, EVENING, "support", "linen, two coats"),
    "tell_likeness": lambda p: edits.tell_likeness(
        p, EVENING, coated(p).name, "stands further back", kept_photo("ear.png", picture(300, 240))
    ),
    "another_hand": edits.another_hand,
}
