"""The build-up of an eye: ordered steps, each with brush, width, value and wetness, and what survives at its size."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from foxpath.core.arrays import Lab
from foxpath.core.eyes.eye import Eye
from foxpath.core.eyes.lights import Lights
from foxpath.core.eyes.values import SHADOW_L, EyeValues
from foxpath.core.lengths.kit import Brush, finest_mm, line_brush
from foxpath.core.reference.light import hour_words
from foxpath.core.units import mm_words

UNSAID = ("you left it out", "the photograph shows none", "mark the lower lid for it")
"""Reasons that have nothing to do with the eye's size."""
LEAST_LID = 4
RING_SHARE = 0.11
RING_HOW = "A ring of bare skin round the opening in its own colour, lighter above, its inner edge dark."
VEINS = 20
"""Fewer strokes toward the pupil than this round the clock are no texture."""


@dataclass(frozen=True, slots=True)
class EyeStep:
    """One step.

    Attributes
    ----------
    key, name : str
    how : str
        What to do, in one sentence.
    brush : Brush or None
        None where no brush of the kit is fine enough.
    width_mm : float
        Width of its marks.
    l_low, l_high : float
        L* of its paint.
    wetness : str
        What lies beneath must be.
    role : str
        Key of the pass it belongs to.
    minutes : float
    left_out : str
        Why it is left out at this size; empty when it is painted.
    """

    key: str
    name: str
    how: str
    brush: Brush | None
    width_mm: float
    l_low: float
    l_high: float
    wetness: str
    role: str
    minutes: float
    left_out: str = ""

    @property
    def painted(self) -> bool:
        """Whether it survives at this size."""
        return not self.left_out


_PARTS: dict[str, tuple[str, float, str, str]] = {
    "rim": ("rim, pupil", 0.085, "touch-dry", "undercoat"),
    "base": ("base", 0.16, "wet", "undercoat"),
    "shadow": ("lid shadow", 0.12, "wet", "undercoat"),
    "ring": ("light ring", 0.09, "wet", "lights"),
    "texture": ("texture", 0.030, "wet", "lights"),
    "soften": ("soften", 0.16, "tacky", "lights"),
    "sky": ("sky", 0.10, "touch-dry", "highlights"),
    "catchlight": ("catchlight", 0.17, "touch-dry", "highlights"),
    "wet": ("wet line", 0.028, "touch-dry", "highlights"),
    "lashes": ("lid hair", 0.022, "touch-dry", "lashes"),
}
"""Name, width as a share of the iris's diameter, what must lie beneath, and the pass it goes with."""


def plan_steps(
    eye: Eye,
    values: EyeValues,
    lights: Lights,
    kit: Sequence[Brush],
    mm_per_px: float,
    sky: Lab | None = None,
    *,
    ringed: bool = False,
) -> tuple[EyeStep, ...]:
    """Plan the build-up of an eye on the canvas.

    Widths follow the iris; each takes the broadest brush that leaves so fine a mark. Where the kit's finest mark is too broad,
    the step is made broader, or left out when nothing of it would be seen.

    Parameters
    ----------
    eye : Eye
    values : EyeValues
    lights : Lights
    kit : sequence of Brush
    mm_per_px : float
    sky : (3,) float32, optional
        CIELAB of the sky's reflection, as far as the photograph shows one.
    ringed : bool
        Whether the lids are a ring of bare skin, as a bird's are, instead of hair.
    """
    across = 2 * eye.iris.radius * mm_per_px
    finest = finest_mm(kit)
    iris = float(values.iris[0])
    dark = float(np.clip(min(values.pupil, values.rim) if np.isfinite(values.rim) else values.pupil, 3, 22))
    depth = values.shadow if np.isfinite(values.shadow) else 0.0
    depth = max(depth, SHADOW_L) if iris > 24 else max(depth, 0.4 * iris)
    veins = values.flecks if np.isfinite(values.flecks) else 3.0
    spread = float(np.clip(3 * veins, 6, 18))
    bands = {
        "rim": (dark, dark + 4),
        "base": (iris - 6, iris),
        "shadow": (max(iris - depth - 2, dark), max(iris - depth, dark + 1)),
        "ring": (iris, iris + 10),
        "texture": (max(iris - spread, dark), min(iris + spread, 88)),
        "soften": (iris - 4, iris + 4),
        "sky": (min(iris + 14, 74), min(iris + 24, 82)),
        "catchlight": (94, 97),
        "lashes": (dark, dark + 10),
        "wet": (min(iris + 26, 70), min(iris + 40, 86)),
    }
    if sky is not None:
        bands["sky"] = (max(float(sky[0]) - 4, dark), min(float(sky[0]) + 4, 88))
    if ringed:
        bands["lashes"] = (dark, 88)
    reserve = eye.light.way == "reserve"
    made = []
    for key, (usual, share, beneath, role) in _PARTS.items():
        name = "skin ring" if key == "lashes" and ringed else usual
        wanted = lights.size_mm if key == "catchlight" else share * across
        if key == "sky":
            wanted = lights.sky_wide_mm * 0.45
        width = max(wanted, finest)
        brush = line_brush(kit, width, masses=key in {"base", "soften"} and across > 12)
        low, high = bands[key]
        out = _left_out(key, across, finest, lights)
        if key == "sky" and sky is None and eye.light.sky is None and not out:
            out = "the photograph shows none"
        if key == "wet" and len(eye.lower) < LEAST_LID and not out:
            out = "mark the lower lid for it"
        how = _how(key, eye, lights, reserve=reserve)
        if key == "lashes" and ringed:
            width, how = max(RING_SHARE * across, finest), RING_HOW
        step = EyeStep(
            key, name, how, brush, round(width, 2), round(low, 1), round(high, 1), beneath, role, _minutes(key, across), out,
        )  # fmt: skip
        made.append(step)
    if reserve:
        made.sort(key=lambda step: step.key == "lashes")
    return tuple(made)


def _minutes(key: str, across_mm: float) -> float:
    """A usual time: small eyes take hardly less than large ones, for each stroke is looked at twice."""
    usual = {
        "rim": 6,
        "base": 4,
        "shadow": 3,
        "ring": 3,
        "texture": 8,
        "soften": 2,
        "sky": 3,
        "wet": 2,
        "catchlight": 1,
        "lashes": 4,
    }
    return round(usual[key] * (0.6 + 0.4 * min(across_mm / 18, 2.5)), 1)


def _left_out(key: str, across_mm: float, finest_mm: float, lights: Lights) -> str:
    """Say why a step is left out at this size; empty when it can be painted."""
    if key == "sky" and not lights.sky:
        return "you left it out"
    if finest_mm <= 0:
        return "no fine brush in your kit"
    need = {
        "texture": VEINS * 3 * finest_mm / (np.pi * 0.7),
        "sky": finest_mm * 2.5 / 0.10,
        "ring": finest_mm * 1.6 / 0.09,
    }
    need |= {
        "shadow": finest_mm * 1.2 / 0.12,
        "soften": finest_mm * 3 / 0.16,
        "lashes": finest_mm * 20,
        "base": finest_mm * 3,
        "wet": finest_mm * 16,
    }
    if key in need and across_mm < need[key]:
        return f"needs an iris of {mm_words(float(need[key]))} with your finest mark of {mm_words(finest_mm)}"
    return ""


def _how(key: str, eye: Eye, lights: Lights, *, reserve: bool) -> str:
    pupil = {"round": "a circle", "upright": "an upright slit", "level": "a level slit", "bar": "a level bar"}
    light = f"at {hour_words(lights.hour)}, {mm_words(lights.size_mm)} across"
    return {
        "rim": f"Dark all round, the pupil {pupil[eye.pupil_kind]}; "
        + (f"leave the light free {light}." if reserve else "blend its inner border while it is wet."),
        "base": "One middle colour over the whole iris, thin, up to the rim.",
        "shadow": "The iris's own colour, deeper and a little warmer, under the upper lid, across iris and light parts alike, following the lid's curve.",
        "ring": f"Lighter on the side away from the light, toward {hour_words((lights.hour + 6) % 12)}.",
        "texture": "Short strokes toward the pupil, light and dark by turns, fewer in the shadow.",
        "soften": "Touch the strokes together with a clean dry brush, twice at most.",
        "wet": "One broken light line along the lower lid's edge, lightest toward the light.",
        "sky": "A soft patch in the sky's own colour that bends with the ball; let lashes break its upper edge.",
        "catchlight": f"Clean the place kept free {light}."
        if reserve
        else f"One thick touch {light}; do not stroke it.",
        "lashes": "A few hairs of the lid over rim and light, root on the lid.",
    }[key]


def size_words(eye: Eye, steps: Sequence[EyeStep], mm_per_px: float) -> str:
    """Say in one sentence how large the iris is on the canvas, what survives there, and what to leave out."""
    across = mm_words(2 * eye.iris.radius * mm_per_px)
    out = [step.name for step in steps if step.left_out and step.left_out not in UNSAID]
    if not out:
        return f"The iris is {across} on this canvas: every step can be painted."
    kept = ", ".join(step.name for step in steps if step.painted)
    return f"The iris is {across} on this canvas. Paint {kept}; leave out {', '.join(out)}."
