"""`foxpath days`, as it is called; what it writes is checked by other code."""

import contextlib
import io
import json
import tempfile
import unittest
from datetime import datetime
from pathlib import Path
from unittest import mock

from foxpath.cli import main
from foxpath.core.days.ical import busy_times
from foxpath.derive import Results
from foxpath.derive.days.plan import plan_of
from foxpath.document import archive, edits
from tests.core.days.checker import faults
from tests.core.days.test_calendar import ICS
from tests.made import project
from tests.remembered import remember

setUpModule = remember


class Days(unittest.TestCase):
    def setUp(self):
        self.dir = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.path = self.dir / "p.foxpath"
        self.enterContext(mock.patch("foxpath.cli.commands.days.SEARCH_S", 0.2))
        archive.save(project(), self.path)

    def run_with(self, *args):
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = main([str(a) for a in args])
        return status, out.getvalue(), err.getvalue()

    def planned(self, *args):
        out = self.dir / "out"
        status, said, err = self.run_with("days", self.path, "--start", "2026-03-02", "--out", out, *args)
        return status, said, err, json.loads((out / "days.json").read_text())

    def write(self, name, text):
        path = self.dir / name
        path.write_text(text)
        return path

    def test_a_plan_that_keeps_every_rule(self):
        status, said, _, record = self.planned()
        self.assertEqual(status, 0)
        self.assertEqual(faults(record), [])
        self.assertEqual((record["format"], record["version"]), ("foxpath-days", 1))
        self.assertTrue(record["typical_values"])
        self.assertIn("in nine of ten", said)
        events = busy_times((self.dir / "out" / "days.ics").read_bytes(), datetime(2026, 3, 1), datetime(2027, 3, 1))
        self.assertEqual([[f"{a:%Y-%m-%dT%H:%M}", f"{b:%Y-%m-%dT%H:%M}"] for a, b in events], record["sittings"])
        self.assertEqual((self.dir / "out" / "days.pdf").read_bytes()[:4], b"%PDF")

    def test_only_in_free_time_and_not_in_busy(self):
        free = self.write(
            "f.json",
            json.dumps({"tue": [["18:00", "22:00"]], "sun": [["09:00", "12:00"]], "except": {"2026-03-08": []}}),
        )
        busy = self.write("b.ics", ICS)
        status, _, _, record = self.planned("--free", free, "--busy", busy)
        self.assertEqual(status, 0)
        self.assertEqual(faults(record), [])
        for a, b in record["sittings"]:
            begin = datetime.fromisoformat(a)
            self.assertIn(begin.weekday(), (1, 6))
            self.assertNotEqual(a[:10], "2026-03-08")
            # Tuesday the third is busy from seven to eight.
            self.assertFalse(a < "2026-03-03T20:00" and b > "2026-03-03T19:00" and a.startswith("2026-03-03"))

    def test_a_deadline_that_cannot_be_kept_names_the_cheapest_way_out(self):
        status, _, err, record = self.planned("--deadline", "2026-04-15")
        self.assertEqual(status, 1)
        self.assertEqual(err.count("\n"), 1)
        self.assertIn("cannot be handed over by 2026-04-15", err)
        self.assertIn("way out", err)
        self.assertEqual(faults(record), [])
        self.assertEqual(list(record["deadlines"].values()), ["2026-04-16T00:00"])
        status, _, err, _ = self.planned("--deadline", "2026-09-01")
        self.assertEqual((status, err), (0, ""))

    def test_the_plan_that_was_taken_in_the_window_is_followed_and_can_be_left(self):
        made = edits.set_days(project(), start="2026-03-02", celsius=18.0)
        planned = plan_of(Results(), [made], datetime(2026, 3, 2))
        late = planned.layout.diary(planned.plan).done("Blob")
        archive.save(edits.take_plan(made, planned.rows()), self.path)
        record = self.planned()[3]
        pieces = {task["id"]: task["pieces"] for task in record["tasks"]}
        diary = planned.diary
        for k, task in enumerate(planned.layout.problem.tasks):
            self.assertEqual(
                pieces[task.id], [[f"{diary.at(x):%Y-%m-%dT%H:%M}" for x in one] for one in planned.plan.pieces[k]]
            )
        warm = self.planned("--celsius", "26", "--anew")[3]
        self.assertEqual(faults(warm), [])
        self.assertLess(max(piece[1] for task in warm["tasks"] for piece in task["pieces"]), f"{late:%Y-%m-%dT%H:%M}")

    def test_how_late_paint_is_taken_to_dry(self):
        waits = {}
        for careful in ("likely", "sure"):
            record = self.planned("--careful", careful)[3]
            self.assertEqual(faults(record), [])
            waits[careful] = sum(r["min_h"] for r in record["relations"] if r["kind"] == "touch_dry")
        self.assertGreater(waits["sure"], 1.4 * waits["likely"])

    def test_a_forecast_for_each_painting(self):
        record = self.planned("--deadline", "2026-09-01")[3]
        seen = record["forecast"]["Blob"]
        self.assertLessEqual(seen["half"], seen["most"])
        self.assertLess(seen["half"], seen["handed_half"])
        self.assertEqual(seen["kept_share"], 1.0)
        self.assertTrue(set(record["forecast"]["at_risk"]) <= {task["id"] for task in record["tasks"]})

    def test_unvarnished_is_sooner(self):
        last = {}
        for key, args in (("varnished", ()), ("short", ("--rest", "7")), ("not", ("--unvarnished",))):
            record = self.planned(*args)[3]
            self.assertEqual(faults(record), [])
            last[key] = max(piece[1] for task in record["tasks"] for piece in task["pieces"])
        self.assertLess(last["not"], last["short"])
        self.assertLess(last["short"], last["varnished"])

    def test_a_room_that_goes_with_the_year(self):
        _, _, _, warm = self.planned("--celsius", "12", "--july", "26", "--coldest", "16")
        self.assertEqual(faults(warm), [])
        # On 28 March it is 16.2 °C: 12 + 14 x 0.30.
        self.assertEqual(min(piece[0] for task in warm["tasks"] for piece in task["pieces"])[:10], "2026-03-28")
        for given, words in (
            (("--july", "a"), "26,60"), (("--july", "41"), "0 to 40"), (("--july", "20,50,3"), "26,60"), (("--july", "20,99"), "5 to 95"),
            (("--coldest", "26"), "0 to 25"), (("--celsius", "14", "--coldest", "16"), "colder than 16 °C all year"),
        ):  # fmt: skip
            status, _, err = self.run_with("days", self.path, *given)
            self.assertEqual(status, 2, given)
            self.assertIn(words, err)

    def test_two_paintings_at_once(self):
        other = self.dir / "q.foxpath"
        archive.save(edits.rename(project(), "Other"), other)
        out = self.dir / "two"
        status, said, err = self.run_with("days", self.path, other, "--start", "2026-03-02", "--out", out)
        self.assertEqual(status, 0, err)
        record = json.loads((out / "days.json").read_text())
        self.assertEqual(faults(record), [])
        self.assertEqual({task["painting"] for task in record["tasks"]}, {"Blob", "Other"})
        self.assertEqual(said.count("handed over"), 2)
        # The same painting twice has tasks of its own twice.
        twice = self.run_with("days", self.path, self.path, "--start", "2026-03-02")
        self.assertEqual(twice[0], 0, twice[2])

    def test_wrong_use(self):
        nothing = self.write("n.json", '{"mon": []}')
        bad = self.write("b.ics", "no calendar")
        little = self.write("l.json", '{"except": {"2026-03-02": [["19:00", "21:00"]]}}')
        for args, words in (
            (("--start", "2.3.2026"), "no date"), (("--deadline", "2026-01-01"), "before the first day"), (("--free", nothing), "no free time"),
            (("--busy", bad), "no calendar"), (("--rest", "900"), "--rest"), (("--alkyd", "2"), "--alkyd"), (("--celsius", "-9"), "--celsius"),
            (("--free", little), "does not hold"),
        ):  # fmt: skip
            status, out, err = self.run_with("days", self.path, "--start", "2026-03-02", *args)
            self.assertEqual((status, out, err.count("\n")), (2, "", 1), err)
            self.assertIn(words, err)


if __name__ == "__main__":
    unittest.main()
