"""A commission: what is written down, and what cannot be."""

import unittest
from dataclasses import replace
from datetime import date

from foxpath.core.commission import (
    MOST_ROWS,
    Change,
    Commission,
    Proof,
    Received,
    Wish,
    approved,
    sound_commission,
    with_change,
    with_photograph,
    with_proof,
    with_wish,
)
from foxpath.core.errors import InputError

DAY = date(2026, 3, 1)


class Written(unittest.TestCase):
    def test_rows_are_dated_and_trimmed(self):
        one = with_wish(Commission(), DAY, "  no snow  ")
        one = with_photograph(one, DAY, "garden.jpg", " Runa ", "show")
        one = with_change(one, Change("2026-03-05", " another sky "))
        self.assertEqual(one.wishes, (Wish("2026-03-01", "no snow"),))
        self.assertEqual(one.photographs, (Received("2026-03-01", "garden.jpg", "Runa", "show"),))
        self.assertEqual(one.changes[0].text, "another sky")

    def test_only_the_last_proof_waits(self):
        self.assertIsNone(Commission().waiting)
        one = with_proof(with_proof(Commission(), DAY, "first"), DAY, "second")
        self.assertEqual(one.waiting.name, "second")
        done = approved(one, date(2026, 3, 4))
        self.assertEqual(done.proofs, (Proof("2026-03-01", "first"), Proof("2026-03-01", "second", "2026-03-04")))
        self.assertIsNone(done.waiting)
        with self.assertRaises(InputError):
            approved(done, DAY)

    def test_what_is_empty_or_too_much_or_no_permission_is_refused(self):
        for act in (
            lambda: with_wish(Commission(), DAY, " "), lambda: with_proof(Commission(), DAY, ""),
            lambda: with_change(Commission(), Change("2026-03-05", "")), lambda: with_photograph(Commission(), DAY, "a.jpg", "", "sell"),
            lambda: with_wish(replace(Commission(), wishes=(Wish("2026-03-01", "x"),) * MOST_ROWS), DAY, "more"),
        ):  # fmt: skip
            with self.assertRaises(InputError):
                act()

    def test_rows_of_a_file_whose_days_are_none_go(self):
        one = Commission(
            "x", (Wish("soon", "a"), Wish("2026-03-01", "b")), (Received("2026-03-01", "c", permission="sell"),),
            (Proof("2026-03-01", "d", "later"), Proof("2026-03-01", "e")), (Change("1066-10-14", "f"),),
        )  # fmt: skip
        made = sound_commission(one)
        self.assertEqual(
            ([w.text for w in made.wishes], made.photographs, [p.name for p in made.proofs], made.changes),
            (["b"], (), ["e"], ()),
        )


if __name__ == "__main__":
    unittest.main()
