"""A fault, and the state of the paint: what mends it?"""

from typing import Any

import numpy as np

from foxpath.core.practice.drill import Drill
from foxpath.core.practice.scene import Scene, spots
from foxpath.core.practice.task import Pick, Score, Seen, Task, ring
from foxpath.core.progress.remedy import Place, remedy

FAULTS = (
    ("value", "value", 8.0, "too light"), ("value", "value", -8.0, "too dark"), ("warmth", "warmth", 9.0, "too warm"), ("warmth", "warmth", -9.0, "too cool"),
    ("strength", "strength", 1.4, "too strong in colour"), ("stroke", "stroke", 24.0, "one stroke that jumps out"), ("edge", "edge", 0.6, "an edge that is too hard"),
    ("edge", "edge", 14.0, "an edge that is too soft"), ("smooth", "smooth", 0.4, "rubbed smooth"), ("lights", "lights", 2.0, "too many lights"),
)  # fmt: skip
STATES = ("wet", "tacky", "dry")


class RepairDrill(Drill):
    """Right or wrong: the remedy follows fault, state and thickness."""

    key, title, unit, way = "repair", "what mends it", "right", "right"
    range, usual = (0.1, 10.0), 1.0
    count, minutes = 8, 4
    mirrors = False
    mends = ("value", "warmth", "strength", "stroke", "edge", "smooth", "lights")

    def make(self, scene: Scene, rng: np.random.Generator, size: float) -> Task | None:
        found = [s for s in spots(scene, rng, 20, 5.0) if s.part >= 0]
        if not found:
            return None
        spot = found[0]
        part = scene.parts[spot.part]
        hairy, thick = part.hair, bool(rng.random() < 0.5)
        kind, rule, amount, words = FAULTS[int(rng.integers(len(FAULTS)))]
        state = STATES[int(rng.integers(3))]

        def mends(kind: str, rule: str, amount: float, state: str, *, thick: bool) -> str:
            young = scene.system in ("acrylic", "slow acrylic") and state == "wet"
            place = Place(state, thick, young, hairy)
            return remedy(kind, rule, amount, place, radius_mm=12.0, planned=4.0).text

        true = mends(kind, rule, amount, state, thick=thick)
        others: list[tuple[float, str]] = []
        for other_kind, other_rule, other_amount, _ in FAULTS:
            for other_state in STATES:
                for other_thick in (thick, not thick):
                    text = mends(other_kind, other_rule, other_amount, other_state, thick=other_thick)
                    near = (other_kind == kind) + (other_state == state) + (other_thick == thick)
                    if text != true and text not in [t for _, t in others]:
                        others.append((near + float(rng.random()), text))
        if len(others) < 3:
            return None
        others.sort(reverse=True)
        four = [true, *(text for _, text in others[:3])]
        order = rng.permutation(4)
        body = "thick" if thick else "thin"
        return Task(
            "", 0, f"{part.name}: {words}. The paint there is {state}, and {body}. What do you do?", Pick(tuple(four[i] for i in order)), scene.rgb,
            scene.px_per_mm, {"right": int(np.flatnonzero(order == 0)[0]), "state": state, "thick": thick, "kind": kind}, size=size,
            shown=(ring(spot.at, spot.radius),),
        )  # fmt: skip

    def score(self, task: Task, answer: Any) -> Score:
        true = int(task.truth["right"])
        options = task.ask.options if isinstance(task.ask, Pick) else ()
        rule = {
            "wet": "Wet and thick is scraped, wet and thin is lifted; neither is stirred.",
            "tacky": "Tacky paint is left alone: it tears.",
            "dry": "Over dry paint a glaze only darkens, a scumble or opaque strokes lighten.",
        }[task.truth["state"]]
        return Score(float(answer == true), options[true], rule, (Seen(answer == true, choices=4),))

    def ideal(self, task: Task) -> Any:
        return task.truth["right"]
