"""A photograph against a real rehearsal: what is compared, the list with its remedies, and what the painter says of it."""

import tempfile
import unittest
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from unittest import mock

import numpy as np

from foxpath.core.days.studio import Laid
from foxpath.core.errors import AppError, InputError, PictureError
from foxpath.core.passes import Logged
from foxpath.core.progress.judge.candidates import THRESHOLDS, Candidate
from foxpath.core.progress.planned import PlannedEye, PlannedPart
from foxpath.core.progress.touches import OWN, Touch
from foxpath.derive import Results
from foxpath.derive.days.plan import plan_of
from foxpath.derive.days.sitting import sittings_of
from foxpath.derive.easel.steps import steps_of
from foxpath.derive.handout.progress import progress_fields, said_of, touch_up_pages
from foxpath.derive.progress import planned as planning
from foxpath.derive.progress.afar import asks, progress_record, read_progress
from foxpath.derive.progress.cameras import FolderCamera, StandInCamera
from foxpath.derive.progress.planned import last_done, painted_passes, planned_for, resolved_pass
from foxpath.derive.progress.reading import (
    against_reference,
    look_at,
    looked_key,
    outlines_of,
    read_photo,
    stopping,
    trends,
    usual_errors,
)
from foxpath.derive.progress.touchups import About, Paint, paint_states, says, size_words, touch_ups
from foxpath.derive.subject import Told
from foxpath.document import edits
from foxpath.document.model import CanvasPhoto
from foxpath.document.photos import kept_photo
from tests.made import picture, project
from tests.remembered import remember_apart

setUpModule = remember_apart

NOW = datetime(2026, 3, 4, 19, 0)


class OnCanvas(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.enterClassContext(mock.patch.object(planning, "WORK_PX", 620))
        cls.results = Results()
        cls.project = project()
        cls.square = next(z.id for z in cls.project.zones if z.name == "Square")
        cls.after = painted_passes(cls.results, cls.project)[-1].role.key
        camera = StandInCamera(cls.results, cls.project, cls.after, 3, 4, 1300, cut=False, glare=False)
        cls.taken = camera.new()[0]
        cls.put, cls.true = camera.put, camera.corners
        cls.with_photo, cls.key = edits.add_photo(
            cls.project, kept_photo(cls.taken.name, cls.taken.data), NOW, cls.after
        )
        cls.photo = cls.with_photo.photo(cls.key)
        cls.read = read_photo(cls.results, cls.with_photo, cls.photo, moment=NOW)


class Comparing(OnCanvas):
    def test_the_passes_that_are_done_are_compared_and_no_later_ones(self):
        keys = [plan.role.key for plan in painted_passes(self.results, self.project)]
        first = planned_for(self.results, self.project, keys[1])
        last = planned_for(self.results, self.project, keys[-1])
        self.assertGreater(np.abs(first.lab - last.lab).mean(), 1)
        self.assertEqual(last.labels.shape, last.rgb.shape[:2])
        self.assertEqual([part.name for part in last.parts], [z.name for z in self.project.back_to_front()])
        self.assertGreater(np.abs(last.lab - last.other_lab).mean(), 0.3)
        self.assertIsNotNone(last.ground)
        self.assertTrue(all(len(edge.runs) for edge in last.edges))

    def test_which_pass_was_the_last_is_known_from_log_and_days(self):
        results, keys = self.results, [plan.role.key for plan in painted_passes(self.results, self.project)]
        self.assertEqual(last_done(results, self.project), "")
        self.assertEqual(resolved_pass(results, self.project, "last"), keys[-1])
        noted = replace(self.project, noted=(Logged(keys[1], "darks", 30, 30),))
        self.assertEqual(resolved_pass(results, noted, ""), keys[1])
        zone = self.project.back_to_front()[-1].id
        done = edits.mark_done(noted, [Laid(f"{keys[2]}.{zone}", "2026-03-03T19:15", "2026-03-03T20:15")])
        self.assertEqual(last_done(results, done), keys[2])
        self.assertEqual(resolved_pass(results, done, "1"), keys[0])
        self.assertEqual(resolved_pass(results, done, keys[3]), keys[3])
        with self.assertRaisesRegex(InputError, keys[0]):
            resolved_pass(results, done, "varnishing")
        with self.assertRaises(InputError):
            resolved_pass(
                results,
                replace(
                    self.project, passes={k: replace(self.project.passes.get(k) or _edit(), on=False) for k in keys}
                ),
                "",
            )

    def test_corners_lie_where_the_camera_had_them(self):
        off = np.hypot(*(self.read.looked.corners - self.true).T) / self.read.looked.px_per_mm
        self.assertLess(off.max(), 1.2)

    def test_a_reading_is_remembered_and_follows_what_it_is_of(self):
        again = look_at(self.results, self.with_photo, self.photo)
        self.assertIs(again, self.read.looked)
        key = looked_key(self.results, self.with_photo, self.photo, self.after)
        corners = tuple((float(x), float(y)) for x, y in self.true)
        for other in (
            looked_key(self.results, self.with_photo, replace(self.photo, corners=corners), self.after),
            looked_key(
                self.results,
                edits.leave_alone(self.with_photo, np.array([[45.0, 40], [70, 40], [70, 70]])),
                self.photo,
                self.after,
            ),
            looked_key(
                self.results,
                edits.change_zone(self.with_photo, self.square, name="Other"),
                self.photo,
                self.after,
            ),
        ):
            self.assertNotEqual(key, other)
        told = edits.say_touch(self.with_photo, Touch("", OWN, "", (50.0, 50.0), text="the chin"))
        self.assertEqual(key, looked_key(self.results, told, self.photo, self.after))

    def test_what_cannot_be_used_says_why(self):
        other = CanvasPhoto("x", kept_photo("b.png", picture(900, 700)), "2026-03-04T19:00", self.after)
        with self.assertRaisesRegex(PictureError, "not found|blurred|millimetre"):
            read_photo(self.results, self.project, other)

    def test_what_is_left_alone_is_not_judged(self):
        planned = planned_for(
            self.results,
            edits.leave_alone(self.project, np.array([[45.0, 40], [100, 40], [100, 100], [45, 100]])),
            self.after,
        )
        self.assertTrue(planned.alone.any())
        self.assertAlmostEqual(float(planned.alone.mean()), 55 * 60 / (200 * 160), delta=0.02)

    def test_a_nose_stands_at_its_place_as_an_eye_does(self):
        made, nose = edits.add_feature(self.project, "nose")
        made = edits.add_stroke(made, nose, "skin", np.array([[74.0, 84], [96, 84], [90, 98], [78, 98]]))
        eyes = planned_for(self.results, made, self.after).eyes
        one = next(eye for eye in eyes if eye.name == "Nose")
        crop, columns = made.crop, 620
        self.assertAlmostEqual(one.x, (85 - crop.x) / crop.width * columns, delta=6)
        self.assertGreater(one.rx, one.ry)
        self.assertIsNone(one.hour)
        self.assertEqual(one.zone, self.square)
        self.assertNotEqual(
            looked_key(self.results, made, self.photo, self.after),
            looked_key(self.results, self.project, self.photo, self.after),
        )

    def test_glare_has_an_outline(self):
        mask = np.zeros((40, 60), bool)
        mask[10:20, 30:50] = True
        rings = outlines_of(mask)
        self.assertEqual(len(rings), 1)
        np.testing.assert_allclose([rings[0].min(axis=0), rings[0].max(axis=0)], [[30.5, 10.5], [49.5, 19.5]])
        self.assertEqual(outlines_of(np.zeros((5, 5), bool)), [])

    def test_trust_says_what_holds(self):
        rows = {matter: (found, holds) for matter, found, holds in self.read.looked.trust()}
        self.assertIn("mm", rows["squared"][1])
        self.assertIn("lighter than the rest", rows["balanced"][1])
        spot = replace(self.read.looked, by="spot", glare_share=0.1, shown_share=0.9, sides=(0, 2))
        rows = {matter: (found, holds) for matter, found, holds in spot.trust()}
        self.assertIn("true", rows["balanced"][1])
        self.assertIn("10 %", rows["glare"][0])
        self.assertIn("10 %", rows["cut off"][0])
        self.assertIn("right and left not seen", rows["squared"][1])


def _edit():
    from foxpath.core.passes import PassEdit

    return PassEdit()


class Listing(OnCanvas):
    def about(self):
        return About(
            (620, 496),
            (
                PlannedPart("b", "Background", "background"),
                PlannedPart(self.square, "Square", "long-fur", "", 9, True),
            ),
            (PlannedEye("Left eye", "", 100, 100, 20, 20),),
        )

    def candidate(self, kind="value", rule="value part", size=8.0, unit="L*", seen=5.0, times=2.0, **more):
        more = {"part": 1} | more
        return Candidate(kind, rule, times * THRESHOLDS[rule], 300.0, 200.0, size, unit, seen, **more)

    def listed(self, *found, paints=None, project=None, moment=NOW):
        colours = ((40.0, 10.0, 20.0), (60.0, 0.0, -5.0))
        done = painted_passes(self.results, self.project)
        return touch_ups(
            self.results,
            project or self.project,
            self.about(),
            [(one, colours) for one in found],
            2.0,
            "plan",
            done,
            paints or {},
            moment,
        )

    def test_an_entry_says_where_how_much_and_what_to_do(self):
        one = self.listed(self.candidate())[0]
        self.assertEqual((one.number, one.name, one.state, one.when, one.word), (1, "Square", "", "now", ""))
        self.assertEqual(one.says, "Square is 8 L* lighter than the rest.")
        self.assertIn("seen from 5.0 m", one.why)
        crop = self.project.crop
        np.testing.assert_allclose(
            one.at, (crop.x + 300 / 620 * crop.width, crop.y + 200 / 496 * crop.height), atol=0.01
        )
        self.assertTrue(one.open)
        self.assertIn("pile", one.pile)

    def test_what_nobody_sees_from_there_lies_below_the_line(self):
        near = self.listed(self.candidate(seen=1.9))[0]
        self.assertTrue(near.below)
        self.assertFalse(near.open)
        self.assertFalse(self.listed(self.candidate(seen=2.0))[0].below)

    def test_the_state_of_the_paint_says_what_and_when(self):
        dry = NOW + timedelta(days=3)
        tacky = self.listed(self.candidate(), paints={1: Paint("tacky", dry)})[0]
        self.assertEqual((tacky.when, tacky.state), (dry.date().isoformat(), "tacky"))
        self.assertTrue(tacky.remedy.startswith("Leave it"))
        wet = self.listed(self.candidate(), paints={1: Paint("wet", dry, True)})[0]
        self.assertEqual(wet.when, "now")
        self.assertIn("Scrape", wet.remedy)
        self.assertEqual(self.listed(self.candidate(), paints={0: Paint("tacky", dry)})[0].when, "now")

    def test_what_the_painter_said_stands_by_it(self):
        entry = self.listed(self.candidate())[0]
        kept = edits.say_touch(self.project, Touch("", "value", "", entry.at, "leave"))
        one = self.listed(self.candidate(), project=kept)[0]
        self.assertEqual(one.word, "leave")
        self.assertFalse(one.open)
        self.assertEqual(self.listed(self.candidate("warmth", "warmth part"), project=kept)[0].word, "")

    def test_a_note_of_likeness_is_obeyed_until_another_word_is_said(self):
        """What stands otherwise on purpose is no fault of drawing; its values still are."""
        noted = edits.tell_likeness(self.project, NOW, "Square", "stands further back in life")
        place = self.candidate("place", "place", 2.4, "mm", toward=(0.0, 2.4))
        one = self.listed(place, project=noted)[0]
        self.assertEqual((one.word, one.open), ("leave", False))
        self.assertIn("stands further back in life", one.why)
        self.assertEqual(self.listed(place)[0].word, "")
        self.assertEqual(self.listed(self.candidate(), project=noted)[0].word, "")
        elsewhere = edits.tell_likeness(self.project, NOW, "Background", "paler")
        self.assertEqual(self.listed(place, project=elsewhere)[0].word, "")
        taken_back = edits.take_back(noted, NOW)
        self.assertEqual(self.listed(place, project=taken_back)[0].word, "")
        todo = edits.say_touch(noted, Touch("", "place", "", one.at, "todo"))
        self.assertTrue(self.listed(place, project=todo)[0].open)

    def test_own_entries_come_last_and_count(self):
        own = edits.say_touch(self.project, Touch("", OWN, self.square, (60.0, 50.0), text="the chin is too heavy"))
        made = self.listed(self.candidate(), project=own)
        self.assertEqual([one.number for one in made], [1, 2])
        self.assertEqual((made[1].says, made[1].name, made[1].open), ("the chin is too heavy", "Square", True))

    def test_each_kind_is_said_with_its_sense(self):
        for one, words in (
            (self.candidate(size=-8.0), "8 L* darker"), (self.candidate("warmth", "warmth patch", -6.0, "dE"), "a patch of Square is 6 ΔE cooler"),
            (self.candidate("strength", "strength", -20.0, "%"), "20 % greyer"), (self.candidate("place", "place", 2.4, "mm", toward=(0.0, 2.4)), "2.4 mm too far down"),
            (self.candidate("shape", "oval", 2.0, "mm"), "too wide"), (self.candidate("shape", "size", -2.0, "mm"), "too small"),
            (self.candidate("catchlight", "catchlight", 0.0, "h"), "no catchlight"), (self.candidate("catchlight", "catchlight", -2.0, "h"), "too early"),
            (self.candidate("bare", "bare", 1.2, "cm2"), "1.2 cm²"), (self.candidate("stroke", "stroke", -12.0, "L*"), "dark stroke"),
            (self.candidate("edge", "edge", 1.0, "mm", planned=4.0, beside=0), "Square against Background is harder"),
            (self.candidate("edge", "edge", 6.0, "mm", planned=2.0, beside=0), "softer"), (self.candidate("lights", "outline", 9.0, "L*", beside=0), "light outline"),
            (self.candidate("growth", "growth", 24.0, "deg"), "24°"), (self.candidate("smooth", "smooth", 30.0, "%"), "30 %"),
            (self.candidate("lights", "lights", 4.0, "%"), "4 % of the place"), (self.candidate("missing", "missing", 10.0, "%"), "10 % of the planned hairs"),
        ):  # fmt: skip
            said = says(one, "Square", "Background", "plan")
            self.assertIn(words.lower(), said.lower())
        self.assertIn("than planned", says(self.candidate(), "Square", "", "spot"))
        self.assertEqual(size_words(self.candidate(size=-1.25)), "1.2 L*")


class Stopping(OnCanvas):
    def entry(self, **changes):
        return replace(self.read.entries[0], **({"below": False, "word": "", "seen_m": 5.0} | changes))

    def advice(self, entries, verdict="one round", project=None):
        looked = replace(self.read.looked, verdict=verdict)
        return stopping(project or self.project, looked, tuple(entries))

    def test_nothing_open_is_stop(self):
        self.assertEqual(self.advice([], "stop")[0], "stop")
        self.assertEqual(self.advice([self.entry(word="leave"), self.entry(word="done")])[0], "stop")
        self.assertEqual(self.advice([self.entry(below=True)])[0], "stop")

    def test_a_long_list_that_was_cut_is_no_rework(self):
        many = [self.entry(number=k) for k in range(9)]
        self.assertEqual(self.advice(many, "rework")[0], "rework")
        self.assertEqual(
            self.advice([*many[:3], *(replace(one, word="struck") for one in many[3:])], "rework")[0], "one round"
        )

    def test_what_freshness_costs_is_said(self):
        spent = replace(self.project, noted=(Logged("darks", "darks", 200, 100),))
        self.assertIn("freshness", " ".join(self.advice([self.entry()], project=spent)[1]))
        even = replace(self.project, noted=(Logged("darks", "darks", 120, 100),))
        self.assertNotIn("freshness", " ".join(self.advice([self.entry()], project=even)[1]))
        smooth = [self.entry(kind="smooth"), self.entry(kind="smooth", number=2)]
        self.assertIn("growing smooth", " ".join(self.advice(smooth)[1]))

    def test_an_animal_of_which_nothing_shows_is_left_as_it_is(self):
        parts = (PlannedPart("a", "Coat", "long-fur", "Bruno"), PlannedPart("b", "Coat", "long-fur", "Runa"))
        looked = replace(self.read.looked, about=replace(self.read.looked.about, parts=parts), verdict="one round")
        reasons = stopping(self.project, looked, (self.entry(group="Runa"),))[1]
        self.assertIn("Leave Bruno as it is.", reasons)
        self.assertNotIn("Leave Runa as it is.", reasons)

    def test_the_reference_itself_is_held_beside_it_too(self):
        found = against_reference(self.results, self.with_photo, self.read.looked)
        self.assertTrue(found)
        fields = progress_fields(self.read, found)
        rows = {row["name"]: row["reference_de"] for row in fields["parts"]}
        square = next(k for k, part in enumerate(self.read.looked.about.parts) if part.name == "Square")
        self.assertAlmostEqual(rows["Square"], found[square], places=2)
        lighter = replace(self.read.looked, canvas_lab=self.read.looked.canvas_lab + np.float32([20, 0, 0]))
        self.assertGreater(against_reference(self.results, self.with_photo, lighter)[square], found[square] + 5)

    def test_one_round_is_three_and_its_minutes(self):
        entries = tuple(self.entry(number=k, minutes=10 * k) for k in range(1, 6))
        read = replace(self.read, entries=entries, stop="one round")
        self.assertEqual((read.words(), read.minutes()), ("Mend 3, then stop", 60))
        self.assertEqual(replace(read, stop="rework").minutes(), 150)
        self.assertEqual(replace(read, stop="rework").words(), "Rework: 5 places")
        self.assertEqual(replace(read, entries=()).words(), "Stop here")
        shone = replace(read, entries=(), looked=replace(read.looked, glare_share=0.1))
        self.assertEqual(shone.words(), "Move the lamp first")
        self.assertIn("10 % lies under glare", " ".join(stopping(self.project, shone.looked, ())[1]))


class Over(OnCanvas):
    def test_trends_say_whether_it_came_nearer(self):
        later = replace(self.photo, id="f9", taken="2026-03-09T10:00")
        parts = tuple(replace(one, de=one.de + 3) for one in self.read.looked.parts)
        before = replace(self.read, looked=replace(self.read.looked, parts=parts))
        made = trends([before, replace(self.read, photo=later)])
        self.assertTrue(all(abs(one.better - 3) < 1e-6 for one in made))
        self.assertEqual([point.day for point in made[0].points], ["2026-03-04", "2026-03-09"])
        self.assertEqual(trends([self.read])[0].better, 0)

    def test_usual_errors_are_counted_with_their_sense(self):
        base = replace(self.read.entries[0], kind="value", rule="value part", word="")
        entries = (
            replace(base, size=5.0),
            replace(base, size=-5.0),
            replace(base, size=-6.0),
            replace(base, size=-6.0, word="leave"),
            replace(base, kind="edge", size=1.0, planned=4.0),
        )
        found = usual_errors([replace(self.read, entries=entries), replace(self.read, entries=entries[1:2])])
        self.assertEqual(
            [(one.words, one.count, one.photographs) for one in found],
            [("too dark", 3, 2), ("edges too hard", 1, 1), ("too light", 1, 1)],
        )

    def test_what_is_written_down_has_every_entry(self):
        fields = progress_fields(self.read)
        self.assertEqual(len(fields["list"]), len(self.read.entries))
        self.assertEqual(np.array(fields["corners"]).shape, (4, 2))
        self.assertEqual(
            {part["name"] for part in fields["parts"]},
            {self.read.looked.about.parts[one.part].name for one in self.read.looked.parts},
        )
        for row in fields["list"]:
            self.assertIn(row["unit"], ("L*", "dE", "mm", "deg", "cm2", "h", "%"))
            self.assertTrue(row["when"] == "now" or datetime.fromisoformat(row["when"]))
        self.assertTrue(said_of(self.read).startswith(self.read.words()))
        self.assertGreaterEqual(len(touch_up_pages(self.with_photo, self.read)), 1)

    def test_from_afar(self):
        self.assertEqual(read_progress(self.results, self.project, None).words, "no photograph yet")
        self.assertEqual(read_progress(self.results, self.with_photo, None).words, "photograph of 4 Mar")
        todo = edits.say_touch(self.with_photo, Touch("", OWN, "", (1.0, 1.0), text="chin"))
        self.assertEqual(read_progress(self.results, todo, None).words, "1 touch-up to do")
        self.assertEqual(progress_record(Told(self.results, self.project)), {})
        self.assertEqual(progress_record(Told(self.results, todo))["progress"]["touch_ups"][0]["text"], "chin")

    def test_after_days_of_hanging_it_asks_until_something_was_said(self):
        at = NOW + timedelta(days=3)
        self.assertEqual(len(asks(self.with_photo, at)), 1)
        self.assertEqual(asks(self.with_photo, NOW + timedelta(days=2)), [])
        self.assertEqual(asks(self.with_photo, NOW + timedelta(days=90)), [])
        self.assertEqual(asks(self.project, at), [])
        said = edits.say_touch(self.with_photo, Touch("", OWN, "", (1.0, 1.0), text="chin", day="2026-03-06"))
        self.assertEqual(asks(said, at), [])


class ToDo(OnCanvas):
    def test_touch_ups_are_tasks_and_steps_and_done_at_the_easel(self):
        zone = self.square
        made = edits.say_touch(
            self.project,
            Touch("", "value", zone, (60.0, 50.0), "todo", "Glaze it thin.", "soft flat", "pile 3, fawn", 12, True),
        )
        made = edits.say_touch(made, Touch("", "warmth", zone, (60.0, 50.0), "struck"))
        key = f"touch.{made.touches[0].id}"
        planned = plan_of(self.results, [made], NOW)
        touches = [task for task in planned.layout.problem.tasks if task.key.startswith("touch.")]
        self.assertEqual(
            [(task.key, task.minutes, task.part, task.kind) for task in touches], [(key, 12, "Square", "touch-up")]
        )
        place = planned.layout.place(key)
        before = [one for one in planned.layout.problem.relations if one.after == touches[0].id]
        self.assertEqual([one.kind for one in before], ["touch_dry"])
        self.assertTrue(planned.plan.pieces[place])
        generic = next(task for task in planned.layout.problem.tasks if task.key == "touch-ups")
        self.assertEqual(generic.minutes, 20)
        steps = [
            step
            for sitting in sittings_of(self.results, made, planned)
            for step in steps_of(self.results, made, planned, sitting)
            if step.task == key
        ]
        self.assertEqual(
            (steps[0].how, steps[0].tool, steps[0].part, steps[0].wet),
            ("Glaze it thin.", "soft flat", "Square", "on dry paint"),
        )
        from foxpath.core.log.entries import Entry

        begun = edits.begin_step(
            edits.tell(made, "begin", NOW), Entry("", "step", "", key, steps[0].key, "Square", "Touch-up"), NOW
        )
        ended = edits.end_step(begun, "done", NOW + timedelta(minutes=9), finishes=True)
        self.assertEqual(ended.touches[0].word, "done")
        self.assertIn(key, {one.task for one in ended.days.done})
        self.assertEqual(
            edits.end_step(begun, "skip", NOW + timedelta(minutes=9), finishes=False).touches[0].word, "todo"
        )

    def test_paint_states_come_from_what_is_done(self):
        planned = plan_of(self.results, [self.project], NOW)
        self.assertEqual(paint_states(self.project, planned, NOW), {})
        self.assertEqual(paint_states(self.project, None, NOW), {})
        task = next(
            t for t in planned.layout.problem.tasks if t.kind == "paint" and planned.layout.works[0].zones[t.id]
        )
        laid = Laid(task.key, "2026-03-04T18:00", "2026-03-04T18:40")
        done = edits.mark_done(self.project, [laid])
        states = paint_states(done, plan_of(self.results, [done], NOW), NOW)
        zones = planned.layout.works[0].zones[task.id]
        self.assertEqual(set(states), set(zones))
        self.assertEqual(states[zones[0]].state, "wet")
        late = NOW + timedelta(days=60)
        self.assertEqual(paint_states(done, plan_of(self.results, [done], late), late)[zones[0]].state, "dry")


class Cameras(OnCanvas):
    def test_the_stand_in_takes_another_photograph_each_time(self):
        camera = StandInCamera(self.results, self.project, self.after, 7, 0, 700)
        a, b = camera.new()[0], camera.new()[0]
        self.assertNotEqual(a.data, b.data)
        self.assertNotEqual(a.name, b.name)
        self.assertEqual(camera.put, ())
        self.assertTrue(self.put)
        with self.assertRaises(InputError):
            StandInCamera(self.results, self.project, "no pass").new()

    def test_a_folder_brings_what_arrives_once_it_stands_still(self):
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            (folder / "old.jpg").write_bytes(b"old")
            camera = FolderCamera(folder)
            self.assertEqual(camera.new(), [])
            (folder / "notes.txt").write_bytes(b"words")
            (folder / ".hidden.jpg").write_bytes(b"half")
            (folder / "new.JPG").write_bytes(b"half")
            self.assertEqual(camera.new(), [])
            (folder / "new.JPG").write_bytes(b"the whole")
            self.assertEqual(camera.new(), [])
            self.assertEqual([(one.name, one.data) for one in camera.new()], [("new.JPG", b"the whole")])
            self.assertEqual(camera.new(), [])
        with self.assertRaisesRegex(AppError, "cannot be watched"):
            camera.new()


if __name__ == "__main__":
    unittest.main()
