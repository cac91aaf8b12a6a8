"""What will it look like? White into a colour, a veil over dry paint, a stroke into wet paint."""

from abc import ABC, abstractmethod
from typing import Any, ClassVar

import numpy as np

from foxpath.core.arrays import F64
from foxpath.core.mixes.amounts import film_um
from foxpath.core.mixes.layers import PICK_UP, after_strokes, veil
from foxpath.core.mixes.recipe import Rack
from foxpath.core.mixes.strings import shift_words, with_white
from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene
from foxpath.core.practice.swatches import PX_PER_MM, a_mix, dE, labelled, lures, sheet, shown_on_screen
from foxpath.core.practice.task import Pick, Score, Seen, Task
from foxpath.core.units import percent

LEAST_SHIFT = 4.0
"""What hardly changes asks for no foresight, dE00."""


class _Predict(Drill, ABC):
    """How far apart results have to lie for the one that comes to be told beforehand, in dE00."""

    unit, way = "dE", "seen"
    range, usual = (1.0, 20.0), 6.0
    count, minutes = 8, 4
    needs = frozenset({"paint"})
    mirrors, colours = False, True
    mends = ("warmth", "strength")
    lacks = "Lay out tubes at Mixes."
    names: ClassVar[tuple[str, ...]] = ()

    @abstractmethod
    def outcome(
        self, rack: Rack, scene: Scene, rng: np.random.Generator
    ) -> tuple[list[F64], F64, F64, str, str] | None:
        """Return what is shown, what comes of it, what a careless guess would be, the question and why."""

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        if scene.rack is None or len(scene.rack) < 3:
            return None
        found = self.outcome(scene.rack, scene, rng)
        if found is None:
            return None
        above, true, careless, question, why = found
        if not all(shown_on_screen(lab) for lab in (true, *above)):
            return None
        others = lures(true, rng, 3, size, careless if rng.random() < 0.7 else None)
        if others is None or not all(shown_on_screen(lab) for lab in others):
            return None
        four = [true, *others]
        order = rng.permutation(4)
        page = sheet(above, [four[i] for i in order])
        right = int(np.flatnonzero(order == 0)[0])
        nearest = min(dE(lab, true) for lab in others)
        return Task(
            "", 0, question, Pick(tuple("ABCD"), page.places, page.half), page.picture, PX_PER_MM,
            {"right": right, "why": why, "dE": [round(dE(four[i], true), 2) for i in order]}, size=nearest, on_scene=False,
            shown=labelled(page, "ABCD", self.names),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = int(task.truth["right"])
        words = f"{'ABCD'[true]} is what comes" + (
            f"; yours is {task.truth['dE'][answer]:.1f} ΔE off" if answer != true else ""
        )
        return Score(
            float(answer == true), words, str(task.truth["why"]), (Seen(answer == true, size=task.size, choices=4),)
        )

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]


class WhiteDrill(_Predict):
    """What white does to a colour beside lightening it."""

    key, title = "white", "the white shift"
    names = ("the colour",)

    def outcome(
        self, rack: Rack, scene: Scene, rng: np.random.Generator
    ) -> tuple[list[F64], F64, F64, str, str] | None:
        parts = a_mix(rack, rng, white=False)
        count = float(rng.choice([0.5, 1.0, 2.0, 4.0]))
        tinted = with_white(rack, parts, (0.0, count))
        if not tinted:
            return None
        base, true = np.array(tinted[0].lab), np.array(tinted[1].lab)
        if dE(base, true) < LEAST_SHIFT:
            return None
        # Whoever only lightens keeps hue and strength.
        careless = np.array([true[0], base[1], base[2]])
        change = true - base
        why = f"{_parts(count)} of white lighten it by {change[0]:.0f} L*; {shift_words(change)}."
        return (
            [base],
            true,
            careless,
            f"This colour is mixed with {_parts(count)} of white to one of itself. What comes of it?",
            why,
        )


def _parts(count: float) -> str:
    return "half a part" if count == 0.5 else "one part" if count == 1 else f"{count:g} parts"


class OverDryDrill(_Predict):
    """What a veil looks like over what is dry."""

    key, title = "veil", "a veil over dry paint"
    names = ("dry", "paint")

    def outcome(
        self, rack: Rack, scene: Scene, rng: np.random.Generator
    ) -> tuple[list[F64], F64, F64, str, str] | None:
        own = a_mix(rack, rng)
        over = rack.lab(a_mix(rack, rng))
        paint = float(rng.choice([0.1, 0.2, 0.35]))
        colour = rack.lab(own)
        true = veil(rack, own, over[None], film_um(0.3), paint=paint)[0]
        if dE(over, true) < LEAST_SHIFT:
            return None
        why = f"{percent(paint)} paint in the medium: L* {over[0]:.0f} becomes {true[0]:.0f}, a* {over[1]:+.0f} {true[1]:+.0f}, b* {over[2]:+.0f} {true[2]:+.0f}."
        question = f"Left what is dry, right the paint. A veil with {percent(paint)} of it: what comes of it?"
        return [over, colour], true, (over + colour) / 2, question, why


class OverWetDrill(_Predict):
    """What a stroke looks like that is laid into wet paint."""

    key, title = "overwet", "a stroke into wet paint"
    names = ("wet", "paint")

    def outcome(
        self, rack: Rack, scene: Scene, rng: np.random.Generator
    ) -> tuple[list[F64], F64, F64, str, str] | None:
        own, beneath = a_mix(rack, rng), a_mix(rack, rng)
        strokes = int(rng.choice([2, 4, 8]))
        laid, wet = rack.lab(own), rack.lab(beneath)
        true = np.asarray(after_strokes(rack, own, beneath, PICK_UP, strokes), np.float64).reshape(-1, 3)[-1]
        if dE(laid, true) < LEAST_SHIFT:
            return None
        why = f"Every stroke takes up {percent(PICK_UP)} of what is wet; the brush was not wiped for {strokes} strokes: ΔE {dE(laid, true):.0f} from what was loaded."
        question = f"Left what is wet, right the paint on the brush. How does stroke {strokes} look, unwiped?"
        return [wet, laid], true, laid, question, why
