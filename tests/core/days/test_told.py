"""What a painting tells of its work: what cannot be is left out, what would wait for itself is refused."""

import math
import unittest
from dataclasses import replace
from datetime import datetime

from foxpath.core.days.studio import Laid
from foxpath.core.days.tasks import Relation, Task
from foxpath.core.days.told import Told, sound_told


def task(key, minutes=60, kind="paint"):
    return Task(f"Cat:{key}", "Cat", key, "Darks", kind, minutes)


FINE = Told(
    "Cat",
    (task("a"), task("b", 40), task("c", 30, "varnish")),
    (Relation("Cat:a", "Cat:b", "touch_dry", 10.0), Relation("Cat:a", "Cat:b", "while_open", 0.0, 3.0, 10, "both are open")),
    plan=(Laid("b", "2026-03-03T19:00", "2026-03-03T19:40"),),
    deadline="2026-05-01",
)  # fmt: skip


class Sound(unittest.TestCase):
    def test_what_can_be_stays_as_it_is(self):
        self.assertEqual(sound_told(FINE), FINE)

    def test_work_that_is_none(self):
        other = Task("Dog:a", "Dog", "a", "Darks", "paint", 10)
        for made in (
            replace(FINE, painting=""), replace(FINE, tasks=()), replace(FINE, tasks=(task("a"), task("a"))),
            replace(FINE, tasks=(task("a"), other)), replace(FINE, tasks=(replace(task("a"), id="a"),)),
            replace(FINE, tasks=(task("a", 0),)), replace(FINE, tasks=(task("a", 10_001),)),
        ):  # fmt: skip
            self.assertIsNone(sound_told(made))
        self.assertIsNotNone(sound_told(replace(FINE, tasks=(task("a", 10_000), task("b", 1)))))

    def test_a_ring_is_refused_whoever_closes_it(self):
        ring = (*FINE.relations, Relation("Cat:b", "Cat:c", "after"), Relation("Cat:c", "Cat:a", "after"))
        self.assertIsNone(sound_told(replace(FINE, relations=ring)))
        self.assertIsNotNone(sound_told(replace(FINE, relations=ring[:-1])))

    def test_relations_that_cannot_be_are_left_out(self):
        good = FINE.relations[0]
        for bad in (
            replace(good, before="Cat:x"), replace(good, after="Dog:a"), replace(good, after=good.before), replace(good, kind="magic"),
            replace(good, low_h=-0.1), replace(good, low_h=20_001.0), replace(good, low_h=math.nan), replace(good, high_h=9.9),
            replace(good, extra_min=-1),
        ):  # fmt: skip
            self.assertEqual(sound_told(replace(FINE, relations=(bad,))).relations, (), bad)
        edge = replace(good, low_h=20_000.0, high_h=20_000.0)
        self.assertEqual(sound_told(replace(FINE, relations=(edge,))).relations, (edge,))

    def test_times_and_dates_that_are_none(self):
        bad = (Laid("a", "soon", "later"), Laid("a", "2026-03-03T20:00", "2026-03-03T20:00"))
        made = sound_told(
            replace(FINE, done=bad, begun=bad, plan=(*FINE.plan, *bad), holds=bad, offered=bad, deadline="May")
        )
        self.assertEqual((made.done, made.begun, made.plan, made.holds, made.offered), ((), (), FINE.plan, (), ()))
        self.assertEqual(made.deadline, "")

    def test_what_is_left_to_paint(self):
        self.assertEqual(FINE.left_min, 100)
        done = replace(FINE, done=(Laid("a", "2026-03-02T19:00", "2026-03-02T20:00"),))
        self.assertEqual(done.left_min, 40)

    def test_an_offer_is_what_it_goes_by(self):
        self.assertEqual(FINE.times(), [(datetime(2026, 3, 3, 19), datetime(2026, 3, 3, 19, 40))])
        self.assertEqual(FINE.by, "")
        offered = replace(FINE, offered=(Laid("a", "2026-03-04T19:00", "2026-03-04T20:00"),), group=("Fox", "Jay"))
        self.assertEqual(offered.times(), [(datetime(2026, 3, 4, 19), datetime(2026, 3, 4, 20))])
        self.assertEqual(offered.by, "Fox")
        self.assertEqual(replace(offered, offered=()).by, "")


if __name__ == "__main__":
    unittest.main()
