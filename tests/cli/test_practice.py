"""`foxpath practice` as a painter types it."""

import json
import tempfile
import unittest
from pathlib import Path
from unittest import mock

import numpy as np
from PIL import Image

from foxpath.core.practice.drill import made, scored
from foxpath.core.practice.drills import DRILLS, drill_called
from foxpath.core.practice.paper import paper_called
from foxpath.core.practice.paper.page import drawn
from foxpath.derive import Results
from foxpath.derive.practice.paper import sheet_of
from foxpath.derive.practice.scenes import OWN, scene_of
from foxpath.derive.progress import planned as planning
from foxpath.document import archive
from tests.cli.test_progress import run
from tests.core.practice.test_paper import photograph
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Practice(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.enterClassContext(mock.patch.object(planning, "WORK_PX", 600))
        cls.dir = Path(cls.enterClassContext(tempfile.TemporaryDirectory()))
        cls.file = cls.dir / "a.foxpath"
        archive.save(project(grain=0.04), cls.file)

    def setUp(self):
        self.kept = tempfile.TemporaryDirectory()
        self.addCleanup(self.kept.cleanup)
        self.enterContext(mock.patch.dict("os.environ", {"FOXPATH_DATA": self.kept.name}))

    def drilled(self, *more, key="growth", seed=3):
        out = self.dir / f"{key}-{seed}"
        status, said, wrong = run("practice", self.file, "--drill", key, "--seed", seed, "--out", out, *more)
        self.assertEqual(status, 0, wrong)
        return out, said

    def test_a_drill_is_written_as_task_and_answer(self):
        out, said = self.drilled()
        self.assertEqual({p.name for p in out.iterdir()}, {"task.png", "task.json", "answer.json"})
        task, answer = (json.loads((out / f"{name}.json").read_text("utf-8")) for name in ("task", "answer"))
        self.assertIn(task["question"], said)
        with Image.open(out / "task.png") as picture:
            self.assertEqual(picture.size, (600, 480))
        self.assertEqual(task["ask"]["kind"], "way")
        self.assertNotIn("truth", task)
        self.assertNotIn(str(answer["truth"]["degrees"]), json.dumps(task))
        # The comb of the small project runs to the right: so does the hair.
        self.assertLess(abs(answer["answer"]), 10)
        self.assertEqual(task["picture"], "Blob")

    def test_the_same_seed_is_the_same_task_and_a_size_is_kept_to(self):
        first, _ = self.drilled("--size", "3", key="relation", seed=1)
        one = (first / "answer.json").read_bytes()
        self.drilled("--size", "3", key="relation", seed=1)
        self.assertEqual((first / "answer.json").read_bytes(), one)
        self.assertLess(abs(np.log(json.loads(one)["size"] / 3)), 0.6)
        other, _ = self.drilled("--size", "3", key="relation", seed=2)
        self.assertNotEqual((other / "answer.json").read_bytes(), one)

    def test_an_answer_is_scored_and_kept_only_when_asked(self):
        out, _ = self.drilled()
        given = self.dir / "mine.json"
        truth = json.loads((out / "answer.json").read_text("utf-8"))["answer"]
        given.write_text(json.dumps({"answer": truth + 14}))
        _, said = self.drilled("--answer", given)
        score = json.loads((out / "score.json").read_text("utf-8"))
        self.assertIn("14° off", said)
        self.assertAlmostEqual(score["seen"][0]["error"], 14, 2)
        self.assertNotIn("°", run("practice")[1].split("growth", 1)[1].split("\n")[0])
        self.assertFalse(list(Path(self.kept.name).iterdir()))
        for _ in range(4):
            self.drilled("--answer", given, "--keep")
        listed = run("practice")[1]
        self.assertRegex(listed, r"growth +growth +12 tasks, 8 min +1\d°")
        rows = self.dir / "weeks.csv"
        self.assertEqual(run("practice", "--csv", rows)[1], f"{rows}: 4 answers\n")
        self.assertEqual(len(rows.read_text("utf-8").splitlines()), 5)
        self.assertEqual(run("practice", "--forget", "edge")[1], "0 answers forgotten\n")
        self.assertEqual(run("practice", "--forget", "all")[1], "4 answers forgotten\n")

    def test_every_drill_and_sheet_is_listed(self):
        status, said, _ = run("practice")
        self.assertEqual(status, 0)
        for one in DRILLS:
            self.assertIn(f"\n{one.key} ", f"\n{said}")
        self.assertIn("brush hand", said)
        self.assertIn("a sheet of eyes", said)

    def test_a_sheet_is_printed_and_its_photograph_measured(self):
        out, said = self.drilled(key="hand", seed=9)
        self.assertTrue((out / "sheet.pdf").read_bytes().startswith(b"%PDF"))
        self.assertIn("sheet 9", said)
        shot = self.dir / "shot.jpg"
        Image.fromarray(photograph(drawn(sheet_of(paper_called("hand"), None, 9, "A4"), 12), 6)).save(shot, quality=92)
        status, said, wrong = run("practice", "--photo", shot, "--out", self.dir / "read", "--keep")
        self.assertEqual(status, 0, wrong)
        score = json.loads((self.dir / "read" / "score.json").read_text("utf-8"))
        self.assertEqual((score["drill"], score["sheet"], score["measured"]), ("hand", 9, []))
        self.assertTrue((self.dir / "read" / "flat.png").exists())

    def test_wrong_use_is_said_in_a_sentence(self):
        out = self.dir / "none"
        answer = self.dir / "words.json"
        answer.write_text('"up"')
        cases = (
            (("--drill", "nix", "--out", out), "no drill"), (("--drill", "growth"), "--out"), (("--drill", "growth", "--seed", "-1", "--out", out), "seed"),
            (("--drill", "relation", "--size", "0", "--out", out), "size"), (("--drill", "growth", "--keep", "--out", out), "--answer"),
            (("--drill", "growth", "--answer", answer, "--out", out), "degrees"), (("--drill", "growth", "--on", "canvas", "--out", out), "photograph"),
            (("--drill", "midline", "--out", out), "both eyes"), (("--photo", answer, "--out", out), "picture"), (("--forget", "nix"), "no drill"),
        )  # fmt: skip
        for words, says in cases:
            with self.subTest(words):
                status, _, wrong = run("practice", self.file, *words)
                self.assertNotEqual(status, 0)
                self.assertIn(says, wrong)
                self.assertEqual(wrong.count("\n"), 1, wrong)

    def test_what_is_written_is_what_the_engine_makes(self):
        out, _ = self.drilled(key="match", seed=5)
        scene = scene_of(Results(), archive.load(self.file), OWN, ())
        drill = drill_called("match")
        task = made(drill, scene, 5)
        record = json.loads((out / "answer.json").read_text("utf-8"))
        self.assertEqual(record["truth"]["L"], task.truth["L"])
        self.assertEqual(record["words"], scored(drill, task, drill.ideal(task)).words)


if __name__ == "__main__":
    unittest.main()
