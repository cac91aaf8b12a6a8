"""Scenes for drills from projects, demos and canvases; drills under way; sheets of paper."""

import tempfile
import unittest
from dataclasses import replace
from datetime import date, datetime
from pathlib import Path
from unittest import mock

from foxpath.core.errors import AppError, InputError
from foxpath.core.practice.drill import made, scored
from foxpath.core.practice.drills import DRILLS, drill_called
from foxpath.core.practice.task import Score, Seen
from foxpath.core.practice.weeks import Answered
from foxpath.core.progress.touches import OWN, Touch
from foxpath.core.reporting import SILENT
from foxpath.derive import Results
from foxpath.derive.practice.drilling import (
    SKILLS,
    MakeTask,
    ScoreTask,
    answered,
    errors_in,
    read_weeks,
    seed_for,
    size_for,
    skill_called,
)
from foxpath.derive.practice.paper import ReadSheet, WriteSheet, sheet_of
from foxpath.derive.practice.scenes import CANVAS, scene_of, sources
from foxpath.derive.practice.scenes import OWN as HERE
from foxpath.derive.progress import planned as planning
from foxpath.derive.progress.cameras import StandInCamera
from foxpath.document import edits
from foxpath.document.photos import kept_photo
from tests.made import project
from tests.remembered import remember_apart

setUpModule = remember_apart

NOW = datetime(2026, 3, 1, 19, 30)


class Scenes(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.enterClassContext(mock.patch.object(planning, "WORK_PX", 600))
        cls.results, cls.project = Results(), project()

    def test_a_scene_lies_on_the_canvas_as_the_painting_does(self):
        scene = scene_of(self.results, self.project, HERE, ())
        self.assertEqual(scene.rgb.shape, (480, 600, 3))
        self.assertAlmostEqual(scene.px_per_mm, 600 / 250)
        self.assertEqual([p.name for p in scene.parts], [z.name for z in self.project.back_to_front()])
        square = next(k for k, p in enumerate(scene.parts) if p.name == "Square")
        # The square covers reference pixels 40..120 by 30..110 of 200 x 160; the eye lies over it.
        self.assertEqual(scene.labels[240, 150], square)
        self.assertNotEqual(scene.labels[60, 60], square)
        self.assertNotEqual(scene.labels[240, 450], square)
        self.assertTrue(scene.parts[square].hair)
        self.assertIsNone(scene.growth)
        self.assertEqual(scene.edges, ())
        self.assertIsNone(scene.planned)

    def test_growth_is_that_of_the_comb_and_rooted_by_it(self):
        scene = scene_of(self.results, self.project, HERE, {"growth"})
        degrees, alike, sure = scene.growth.at(240, 135, 6)
        self.assertLess(abs(degrees), 8)
        self.assertGreater(alike, 0.99)
        self.assertGreater(sure, 0.9)
        outside = scene.growth.at(20, 20, 3)
        self.assertEqual(outside[2], 0)
        bare = scene_of(self.results, project(combs=False), HERE, {"growth"})
        self.assertEqual(bare.growth.at(240, 135, 6)[2], 0)

    def test_borders_come_with_plan_and_photograph(self):
        scene = scene_of(self.results, self.project, HERE, {"edges"})
        self.assertTrue(scene.edges)
        for edge in scene.edges:
            self.assertGreater(edge.planned_mm, 0)
            self.assertTrue(edge.seen_mm is None or edge.seen_mm > 0)
            self.assertTrue(edge.reason)
            x, y = edge.middle()
            self.assertTrue(0 <= x <= 600 and 0 <= y <= 480)

    def test_eyes_come_with_their_lights(self):
        from foxpath.core.eyes.eye import Ellipse, Eye

        iris = Ellipse(80, 68, 7, 7)
        eye = Eye(
            "e1", "Left eye", iris, Ellipse(80, 68, 3, 3), upper=((71, 68), (80, 62), (89, 68)), lights=((77, 65),)
        )
        with_eye = replace(self.project, eyes=(eye,))
        (one,) = scene_of(self.results, with_eye, HERE, {"eyes"}).eyes
        self.assertAlmostEqual(one.x, 80 * 3, 3)
        self.assertAlmostEqual(one.rx, 21, 3)
        self.assertLess(one.light[0], one.x)
        self.assertLess(one.light[1], one.y)
        # The lid cuts the iris at its top: the shadow hangs from the lid, not from the rim.
        self.assertAlmostEqual(one.shadow[0], one.x, 3)
        self.assertGreater(one.shadow[1], 3 * (62 + 0.15 * 7))
        self.assertLess(one.shadow[1], one.y)

    def test_the_painter_s_own_tubes_are_taken_and_other_pictures_are_painted_with_them(self):
        few = replace(self.project, mixes=replace(self.project.mixes, tubes=self.project.mixes.tubes[:5]))
        here = scene_of(self.results, few, HERE, {"paint"})
        there = scene_of(self.results, few, "demo:jay", {"paint"})
        self.assertEqual(len(here.rack), 5)
        self.assertEqual(there.rack.ids, here.rack.ids)
        self.assertEqual(there.name, "the demo jay")
        self.assertEqual(len(scene_of(self.results, None, "demo:jay", ()).rack), 12)

    def test_what_there_is_to_practise_on(self):
        self.assertEqual([s.key for s in sources(self.project)], ["own", "demo:fox", "demo:jay", "demo:cavies"])
        self.assertEqual(sources(None)[0].key, "demo:fox")
        with self.assertRaises(InputError):
            scene_of(self.results, None, HERE, ())
        with self.assertRaises(InputError) as caught:
            scene_of(self.results, self.project, CANVAS, ())
        self.assertIn("no photograph", caught.exception.message)

    def test_a_photographed_canvas_is_looked_at_with_what_was_found_on_it(self):
        after = planning.painted_passes(self.results, self.project)[-1].role.key
        camera = StandInCamera(self.results, self.project, after, 5, 4, 1200, cut=False, glare=False)
        shot = camera.new()[0]
        kept, _ = edits.add_photo(self.project, kept_photo(shot.name, shot.data), NOW, after)
        self.assertEqual([s.key for s in sources(kept)][:2], [HERE, CANVAS])
        scene = scene_of(self.results, kept, CANVAS, {"planned"})
        self.assertEqual(scene.name, "the canvas")
        self.assertEqual(scene.rgb.shape, (480, 600, 3))
        self.assertIsNone(scene.planned)
        for one in scene.found:
            self.assertTrue(0 <= one.x <= 600 and 0 <= one.y <= 480)
            self.assertGreater(one.reach_mm, 0)
        plan = scene_of(self.results, kept, HERE, {"planned"})
        self.assertEqual(plan.planned.rgb.shape, (480, 600, 3))

    def test_own_faults_are_asked_for_in_the_order_progress_told_them(self):
        from foxpath.core.practice.scene import Found

        bare = scene_of(self.results, self.project, HERE, ())
        found = tuple(
            Found(k, 60.0 + 120 * n, 240.0, 6.0, k) for n, k in enumerate(("place", "value", "edge", "warmth"))
        )
        drill = drill_called("critique")
        task = made(drill, replace(bare, found=found), 1)
        self.assertEqual(task.truth["kinds"], [f.kind for f in found][: len(task.truth["kinds"])])
        self.assertGreaterEqual(len(task.truth["kinds"]), 3)
        self.assertEqual(scored(drill, task, drill.ideal(task)).share, 1)
        with self.assertRaises(InputError):
            made(drill, replace(bare, found=found[:2]), 1)


class Drilling(unittest.TestCase):
    def test_no_two_seeds_are_alike(self):
        seeds = {
            seed_for(drill.key, source, NOW, n) for drill in DRILLS for source in (HERE, "demo:fox") for n in range(20)
        }
        self.assertEqual(len(seeds), len(DRILLS) * 2 * 20)
        self.assertNotEqual(seed_for("growth", HERE, NOW, 1), seed_for("growth", HERE, NOW.replace(minute=31), 1))

    def test_what_is_asked_next_follows_the_answers(self):
        drill = drill_called("relation")
        sharp = [Answered("2026-03-01T19:00", "relation", k, right=True, size=2.0, choices=4) for k in range(8)]
        other = [replace(one, drill="subtle", right=False) for one in sharp]
        self.assertLess(size_for(drill, sharp, 4), 0.7 * size_for(drill, [], 4))
        self.assertEqual(size_for(drill, other, 4), size_for(drill, [], 4))
        self.assertEqual(size_for(drill_called("growth"), sharp, 4), 0)

    def test_a_task_and_its_score_are_made_beside_the_window(self):
        task = MakeTask(Results(), project(), HERE, "match", 3)(SILENT)
        score = ScoreTask(task, drill_called("match").ideal(task))(SILENT)
        self.assertEqual(score.share, 1)
        with self.assertRaises(InputError):
            MakeTask(Results(), project(), HERE, "midline", 3)(SILENT)

    def test_every_judgement_of_an_answer_is_remembered(self):
        task = MakeTask(Results(), project(), HERE, "match", 3)(SILENT)
        score = Score(0.5, "", "", (Seen(True, size=3.0, choices=3), Seen(False, error=2.0)))
        one, two = answered(task, score, NOW, "Blob")
        self.assertEqual(
            one, Answered("2026-03-01T19:30", "match", 3, right=True, size=3.0, error=0.0, choices=3, picture="Blob")
        )
        self.assertEqual((two.right, two.error), (False, 2.0))

    def test_errors_come_from_touch_ups_and_from_the_log(self):
        made_ = project()
        said = (("growth", "todo"), ("growth", "done"), ("edge", "struck"), (OWN, "todo"), ("value", "leave"))
        for k, (kind, word) in enumerate(said):
            one = Touch("", kind, "", (10.0 + 40 * k, 10.0), word, "mend it", day="2026-02-01")
            made_ = edits.say_touch(made_, one)
        self.assertEqual(errors_in(made_), {"growth": 2})
        self.assertEqual(errors_in(None), {})
        weeks = read_weeks((), made_, date(2026, 3, 1))
        self.assertTrue(weeks.advice[0].strong)
        self.assertIn("growth", skill_called(weeks.advice[0].drill).mends)
        with self.assertRaises(InputError):
            skill_called("nix")
        self.assertEqual(len({s.key for s in SKILLS}), len(DRILLS) + 2)


class Paper(unittest.TestCase):
    def test_a_sheet_is_written_and_its_photograph_measured(self):
        from foxpath.core.practice.paper import paper_called
        from foxpath.core.practice.paper.page import drawn
        from foxpath.sheets.pictures import write_png
        from tests.core.practice.test_paper import photograph

        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "sheet.pdf"
            said = WriteSheet(Results(), None, HERE, "hand", 70000, path)(SILENT)
            self.assertIn(f"sheet {70000 % 65536}", said)
            data = path.read_bytes()
            self.assertTrue(data.startswith(b"%PDF"))
            again = WriteSheet(Results(), None, HERE, "hand", 70000, Path(folder) / "b.pdf", "Letter")
            again(SILENT)
            self.assertIn(b"612 792", (Path(folder) / "b.pdf").read_bytes())
            sheet = drawn(sheet_of(paper_called("hand"), None, 7, "Letter"), 12)
            shot = Path(folder) / "shot.png"
            write_png(photograph(sheet, 4), shot)
            read = ReadSheet(Results(), None, HERE, shot)(SILENT)
        self.assertEqual((read.drill, read.seed, read.measured), ("hand", 7, ()))
        self.assertIn("Nothing is painted", read.words())

    def test_eyes_need_an_eye(self):
        with tempfile.TemporaryDirectory() as folder, self.assertRaises(InputError) as caught:
            WriteSheet(Results(), project(), HERE, "eyes", 1, Path(folder) / "e.pdf")(SILENT)
        self.assertIn("no eye", caught.exception.message)

    def test_a_photograph_of_something_else_is_refused(self):
        from tests.made import picture

        with tempfile.TemporaryDirectory() as folder:
            other = Path(folder) / "a.png"
            other.write_bytes(picture(900, 700))
            for path in (other, Path(folder) / "none.png"):
                with self.assertRaises(AppError):
                    ReadSheet(Results(), project(), HERE, path)(SILENT)


if __name__ == "__main__":
    unittest.main()
