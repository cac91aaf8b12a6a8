"""`foxpath tubes`, `mix` and `mixes`, as they are called."""

import contextlib
import csv
import io
import json
import tempfile
import unittest
from pathlib import Path
from unittest import mock

import numpy as np

from foxpath.cli import main
from foxpath.core.colour import difference
from foxpath.core.mixes.tubes import KeptTube, table
from foxpath.document import archive, cupboard, edits
from tests.core.mixes.test_recipe import plain_lab
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Mix(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict("os.environ", {"FOXPATH_DATA": str(self.dir / "data")}))

    def run_with(self, *args):
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main([str(a) for a in args])
        return status, out.getvalue(), err.getvalue()

    def told(self, *args):
        status, out, err = self.run_with(*args)
        self.assertEqual(status, 0, err)
        return json.loads(out)

    def fails(self, *args, words):
        status, out, err = self.run_with(*args)
        self.assertEqual((status, out, err.count("\n")), (2, "", 1), err)
        self.assertIn(words, err)

    def test_the_table(self):
        rows = self.told("tubes")
        self.assertEqual([row["id"] for row in rows], list(table()))
        self.assertLessEqual({"id", "name", "pigment", "masstone", "tint", "drying", "hazard"}, set(rows[0]))
        cupboard.keep_cupboard([KeptTube("PW6"), KeptTube("PY43", here=False)])
        self.assertEqual([row["id"] for row in self.told("tubes", "--own")], ["PW6"])

    def test_a_recipe_follows_from_the_table(self):
        for finish, shown in (("matt", 1.0), ("satin", 0.5), ("varnished", 0.0)):
            made = self.told("mix", "--lab", "44,18,25", "--most", "4", "--finish", finish)
            self.assertTrue(made["reachable"])
            self.assertLess(float(difference(np.array(made["lab"]), plain_lab(made["parts"].items(), shown))), 0.01)
            away = float(difference(np.array(made["lab"]), np.array([44.0, 18, 25])))
            self.assertAlmostEqual(made["de00"], away, places=2)
        # Matt is what is taken without a word.
        self.assertEqual(
            self.told("mix", "--lab", "44,18,25"), self.told("mix", "--lab", "44,18,25", "--finish", "matt")
        )

    def test_only_the_tubes_that_were_named_or_are_kept(self):
        made = self.told("mix", "--lab=60,5,15", "--tubes", "PW6,PBr7-RU, PY43", "--most", "2")
        self.assertLessEqual(set(made["parts"]), {"PW6", "PBr7-RU", "PY43"})
        self.assertLessEqual(len(made["parts"]), 2)
        cupboard.keep_cupboard([KeptTube("PW6"), KeptTube("PBk9")])
        self.assertLessEqual(set(self.told("mix", "--lab=60,5,15")["parts"]), {"PW6", "PBk9"})

    def test_out_of_reach_names_what_lacks(self):
        made = self.told("mix", "--lab=50,-40,0", "--tubes", "PW6,PY43,PB29,PBr7-BU")
        self.assertFalse(made["reachable"])
        self.assertGreater(made["missing"]["chroma"], 10)
        self.assertIn(made["missing"]["tube"], ("PG7", "PG18"))
        self.assertIn("duller", made["missing"]["words"])
        self.assertEqual(self.told("mix", "--lab", "44,18,25")["missing"], {})

    def test_a_film_over_a_dry_colour(self):
        made = self.told("mix", "--lab", "45,14,16", "--over", "60,2,6", "--film", "15")
        self.assertEqual((made["over"], made["film_um"]), ([60.0, 2.0, 6.0], 15.0))
        self.assertLess(made["lab"][0], 60)
        up = self.told("mix", "--lab", "90,0,0", "--over", "40,2,6", "--film", "3", "--tubes", "PBr7-BS")
        self.assertIn("never lightens", up["missing"]["words"])

    def pile(self, record):
        path = self.dir / "pile.json"
        path.write_text(record if isinstance(record, str) else json.dumps(record))
        return path

    def test_the_smallest_addition(self):
        parts = {"PW6": 6, "PBr7-BS": 3}
        now = plain_lab(parts.items())
        want = plain_lab([*parts.items(), ("PY43", 1.0)])
        path = self.pile({"parts": parts, "want": list(want)})
        made = self.told("mix", "--add", path, "--seen", ",".join(f"{v:.4f}" for v in now))
        self.assertEqual(made["add"], {"PY43": 1.0})
        self.assertAlmostEqual(made["grows"], 10 / 9, places=3)
        self.assertLess(made["de00"], 0.2)
        right = self.told("mix", "--add", path, "--seen", ",".join(f"{v:.4f}" for v in want))
        self.assertEqual((right["add"], right["grows"]), ({}, 1.0))
        # What lies in the pile need not be at hand to be known.
        few = self.told("mix", "--add", path, "--seen", ",".join(f"{v:.4f}" for v in now), "--tubes", "PW6,PR101-T")
        self.assertLessEqual(set(few["add"]), {"PW6", "PR101-T"})

    def test_a_wet_pile_goes_by_what_it_dries_to(self):
        """Black in oil sinks in and looks lighter: wet it may look darker than what is wanted."""
        parts = {"PBk9": 1}
        dry = plain_lab(parts.items())
        path = self.pile({"parts": parts, "want": [float(v) for v in dry]})
        wet = [dry[0] - 1.0, dry[1], dry[2]]
        made = self.told("mix", "--add", path, "--seen", ",".join(f"{v:.4f}" for v in wet), "--wet")
        self.assertGreater(made["dries_to"][0], wet[0])
        self.assertEqual(made["dries_to"][1:], [round(float(v), 3) for v in dry[1:]])
        self.fails("mix", "--lab", "50,0,0", "--wet", words="Only a pile")

    def test_wrong_use(self):
        pile = self.pile({"parts": {"PW6": 1}, "want": [90, 0, 0]})
        for args, words in (
            (("--lab", "44,18"), "no colour"),
            (("--lab", "x,y,z"), "no colour"),
            (("--lab", "nan,0,0"), "no colour"),
            (("--lab", "50,0,0", "--most", "5"), "refused"),
            (("--lab", "50,0,0", "--tubes", "PW6,PX1"), "PX1"),
            (("--lab", "50,0,0", "--tubes", ","), "no tube"),
            (("--lab", "50,0,0", "--finish", "gloss"), "finish"),
            (("--lab", "50,0,0", "--over", "50,0,0"), "thickness"),
            (("--lab", "50,0,0", "--over", "50,0,0", "--film", "-3"), "film"),
            ((), "what to mix"),
            (("--add", str(pile)), "looks like"),
            (("--add", str(pile), "--seen", "1,2"), "no colour"),
        ):
            self.fails("mix", *args, words=words)
        for record, words in (
            ("[]", "no pile"), ('{"parts": {}, "want": [1, 2, 3]}', "no pile"), ('{"parts": {"PW6": -1}, "want": [1, 2, 3]}', "below 0"),
            ('{"parts": {"PW6": "x"}, "want": [1, 2, 3]}', "no number"), ('{"parts": {"PX1": 1}, "want": [1, 2, 3]}', "PX1"),
            ('{"parts": {"PW6": 1}, "want": [1, 2]}', "no pile"),
        ):  # fmt: skip
            self.fails("mix", "--add", self.pile(record), "--seen", "50,0,0", words=words)

    def test_the_piles_of_a_painting(self):
        path, out = self.dir / "p.foxpath", self.dir / "out"
        archive.save(project(), path)
        status, said, err = self.run_with("mixes", path, "--out", out)
        self.assertEqual(status, 0, err)
        self.assertIn("serve", said)
        fields = json.loads((out / "mixes.json").read_text())
        rows = list(csv.DictReader((out / "mixes.csv").open()))
        self.assertEqual([row["name"] for row in rows], [pile["name"] for pile in fields["piles"]])
        for pile in fields["piles"]:
            seen = plain_lab(pile["parts"].items(), 0.5)
            self.assertLess(float(difference(np.array(pile["lab"]), seen)), 0.05)
        self.assertEqual((out / "swatches.pdf").read_bytes()[:4], b"%PDF")

    def test_a_studio_without_paint_says_so(self):
        path, out = self.dir / "p.foxpath", self.dir / "out"
        made = edits.set_mixes(edits.take_tubes(project(), [KeptTube("PBk9")]), black="none")
        archive.save(made, path)
        status, said, _ = self.run_with("mixes", path, "--out", out)
        self.assertEqual(status, 0)
        self.assertIn("nothing to mix with", said)
        self.assertFalse((out / "swatches.pdf").exists())
        status, said, _ = self.run_with("check", path)
        self.assertEqual(status, 1)
        self.assertIn("nothing to mix with", said)

    def test_the_rehearsal_with_the_palette(self):
        path, out = self.dir / "p.foxpath", self.dir / "out"
        archive.save(project(), path)
        status, _, err = self.run_with("rehearse", path, "--out", out, "--palette", "--width", 240)
        self.assertEqual(status, 0, err)
        from PIL import Image

        with Image.open(out / "beside.png") as picture:
            wide, tall = picture.size
            both = np.asarray(picture)
        self.assertEqual((wide, tall), (480, 192))
        self.assertFalse(np.array_equal(both[:, :240], both[:, 240:]))


if __name__ == "__main__":
    unittest.main()
