"""What the measures of a reference mean for the painter: sentences with measure, rule and remedy."""

from collections.abc import Callable, Sequence

import numpy as np

from foxpath.core.arrays import F32, Bool
from foxpath.core.findings import Finding, Level
from foxpath.core.reference.composition import LoneColour, Pull, Separation, Touch
from foxpath.core.reference.health import Health
from foxpath.core.reference.relative import colour_words, step_words
from foxpath.core.units import WIDTH_OF_SIGMA, mm_words, percent

SHARP_PX = 0.7
"""Edges finer than this are as sharp as pixels can show; no number below is trusted."""
HALO, NOISE, CAST = 0.05, 3.5, 4.0
LOST = 0.004
BLURRED_PART = 0.12
"""Share of the animal that may be blurred before it is worth a word."""


def judgement(
    key: str,
    name: str,
    number: str,
    level: Level,
    says: str,
    why: str,
    weight: float = 0.0,
    at: tuple[float, float] | None = None,
) -> Finding:
    """Return a judgement on the reference; `at` in shares of the picture's width and height, an empty level asks nothing."""
    return Finding(level, says, why, "reference", key, key, name, number, weight=weight, at=at)


def _worst(values: F32) -> tuple[float, float] | None:
    """Return the place of the largest tile, in shares."""
    if not np.isfinite(values).any():
        return None
    i, j = np.unravel_index(int(np.nanargmax(values)), values.shape)
    return (float(j) + 0.5) / values.shape[1], (float(i) + 0.5) / values.shape[0]


def blur_words(sigma_px: float, mm_per_px: float) -> str:
    """Write a blur in pixels and on the canvas."""
    if not np.isfinite(sigma_px):
        return "no clear edge"
    if sigma_px < SHARP_PX:
        return f"under {SHARP_PX:g} px, {mm_words(SHARP_PX * mm_per_px)}"
    return f"{sigma_px:.1f} px, {mm_words(sigma_px * mm_per_px)}"


def blur_limit_px(mm_per_px: float, finest_mm: float) -> float:
    """Return the blur (sigma, px) from which an edge is wider than three of the finest marks."""
    return max(1.6, 3 * finest_mm / WIDTH_OF_SIGMA / mm_per_px)


def _blurred_part(health: Health, mm_per_px: float, finest_mm: float, subject: Bool | None) -> Finding | None:
    """Say that part of a picture that is sharp on the whole is blurred; None when little of it is."""
    known = np.isfinite(health.blur_map)
    if subject is not None and (known & subject).any():
        known &= subject
    bad = known & (health.blur_map > blur_limit_px(mm_per_px, finest_mm))
    share = float(bad.sum() / max(known.sum(), 1))
    if share < BLURRED_PART:
        return None
    whose = "animal" if subject is not None else "picture"
    sigma = float(np.median(health.blur_map[bad]))
    return judgement(
        "blur", "Sharpness", f"{percent(share)} blurred", "look", f"{percent(share)} of the {whose} is blurred.",
        f"edges there change over {mm_words(WIDTH_OF_SIGMA * sigma * mm_per_px)} · a mark can be {mm_words(finest_mm)} fine · "
        "borrow the hair there from another picture",
        min(1.0, 0.4 + share), _worst(np.where(bad, health.blur_map, np.nan).astype(np.float32)),
    )  # fmt: skip


def judged(health: Health, mm_per_px: float, finest_mm: float, subject: Bool | None = None) -> list[Finding]:
    """Turn measures into sentences, in the order of the maps.

    Parameters
    ----------
    health : Health
        Pixels are those of the reference.
    mm_per_px : float
        Millimetres on the canvas for one pixel.
    finest_mm : float
        The finest mark of the painter's brushes: what is blurred less than this does no harm.
    subject : (rows, columns) bool or None
        Tiles of the maps on the animal; where only part of it is blurred, that is said.
    """
    blur_mm = health.blur_px * mm_per_px
    # A transition of 10 to 90 % is this many sigma wide.
    wide = WIDTH_OF_SIGMA * blur_mm
    made = []
    if not np.isfinite(health.blur_px):
        made.append(judgement("blur", "Sharpness", "no clear edge", "look", "No edge is clear enough to measure.",
                              "the sharpness is unknown · look for a clearer photograph", 0.9))  # fmt: skip
    elif health.blur_px > blur_limit_px(mm_per_px, finest_mm):
        made.append(
            judgement(
                "blur", "Sharpness", blur_words(health.blur_px, mm_per_px), "look",
                f"Edges are blurred over {mm_words(wide)} on the canvas.",
                f"{health.blur_px:.1f} px · a mark can be {mm_words(finest_mm)} fine · hair narrower than the blur must be "
                "borrowed from another picture",
                min(1.0, wide / (8 * finest_mm)), _worst(health.blur_map),
            )
        )  # fmt: skip
    elif part := _blurred_part(health, mm_per_px, finest_mm, subject):
        made.append(part)
    else:
        made.append(judgement("blur", "Sharpness", blur_words(health.blur_px, mm_per_px), "",
                              "Sharp enough for this canvas.", f"edges change over {mm_words(max(wide, WIDTH_OF_SIGMA * SHARP_PX * mm_per_px))}"))  # fmt: skip
    if health.overshoot > HALO:
        made.append(
            judgement(
                "halo", "Over-sharpening", percent(health.overshoot), "look",
                f"The camera sharpened: edges overshoot by {percent(health.overshoot)}.",
                f"over {percent(HALO)} · no eye sees these pale and dark rims · do not paint them",
                min(1.0, health.overshoot / 0.2), _worst(health.overshoot_map),
            )
        )  # fmt: skip
    else:
        made.append(
            judgement("halo", "Over-sharpening", percent(health.overshoot), "", "No halo beside the edges.", "")
        )
    if health.noise > NOISE:
        made.append(
            judgement(
                "noise", "Grain", f"{health.noise:.1f} levels", "look",
                f"Grain of {health.noise:.1f} levels lies over everything.",
                f"over {NOISE:g} of 255 · it looks like short hair in smooth places · judge them at a squint",
                min(1.0, health.noise / 12), _worst(health.noise_map),
            )
        )  # fmt: skip
    else:
        made.append(judgement("noise", "Grain", f"{health.noise:.1f} levels", "", "Little grain.", ""))
    for key, name, share, values, lost, way in (
        ("clipped", "Clipped lights", health.clipped, health.clipped_map, "lights",
         "invent the form there, or borrow it; keep it below your lightest light"),
        ("blocked", "Blocked darks", health.blocked, health.blocked_map, "darks",
         "lift shows what is left; the rest is yours to invent or borrow"),
    ):  # fmt: skip
        if share > LOST:
            says = f"{percent(share) if share >= 0.01 else 'Half a percent'} of the picture has lost its {lost}."
            why = f"no information from there on · {way}"
            made.append(
                judgement(key, name, f"{100 * share:.1f} %", "look", says, why, min(1.0, share / 0.05), _worst(values))
            )
        else:
            made.append(judgement(key, name, f"{100 * share:.1f} %", "", f"No {lost} are lost.", ""))
    made.append(_cast_judgement(health))
    made.append(_focus_judgement(health, mm_per_px))
    return made


def _cast_judgement(health: Health) -> Finding:
    a, b = health.cast
    chroma = float(np.hypot(a, b))
    lean = " and ".join(
        f"{step_words(abs(v))} {more if v > 0 else less}"
        for v, more, less in ((a, "red", "green"), (b, "yellow", "blue"))
        if step_words(abs(v))
    )
    picked = health.cast_from == "grey"
    source = "The picked grey leans" if picked else "Near-neutral tones lean"
    number = f"{chroma:.1f} Lab"
    if chroma > (2.0 if picked else CAST):
        return judgement(
            "cast", "Colour cast", number, "look" if picked else "note", f"{source} {lean}.",
            f"{chroma:.1f} from neutral · " + ("balance by this grey" if picked else "a guess: pick a true grey to be sure"),
            min(1.0, chroma / 16) * (1.0 if picked else 0.5), _worst(health.cast_map),
        )  # fmt: skip
    says = "The picked grey is neutral." if picked else "Near-neutral tones are neutral on the whole."
    return judgement("cast", "Colour cast", number, "", says, "" if picked else "a guess: pick a true grey to be sure")


def _focus_judgement(health: Health, mm_per_px: float) -> Finding:
    near, far = health.near_px, health.far_px
    if not (np.isfinite(near) and np.isfinite(far)):
        return judgement(
            "focus", "Flat focus", "unknown", "", "Outline the animal to compare it with its surroundings.", ""
        )
    ratio = max(far, SHARP_PX) / max(near, SHARP_PX)
    number = f"{ratio:.1f} ×"
    measure = f"animal {blur_words(near, mm_per_px)} · around it {blur_words(far, mm_per_px)}"
    if ratio < 1.3:
        return judgement("focus", "Flat focus", number, "look", "The surroundings are as sharp as the animal.",
                         f"{measure} · no eye sees both · let them fall away with distance", 0.6)  # fmt: skip
    return judgement("focus", "Flat focus", number, "", "The surroundings are softer than the animal.", measure)


_PULL = {
    "light": ("A light place", "quieten it to the values around it"),
    "dark": ("A dark place", "lighten it toward its surroundings"),
    "colour": ("A strong colour", "lead it toward the neutrals"),
    "detail": ("Busy detail", "soften it and use a bigger brush"),
}


def judged_composition(
    part: Separation | None,
    strong: Sequence[Pull],
    close: Sequence[Touch],
    lone: Sequence[LoneColour],
    size: tuple[int, int],
    canvas_mm: tuple[float, float],
    named: Callable[[tuple[float, float]], str],
) -> list[Finding]:
    """Turn readings of the composition into sentences.

    Parameters
    ----------
    size : (columns, rows)
        Of the grid that pulls and lone colours were read on; places become shares of it.
    canvas_mm : (width, height)
    named : callable
        Gives the part's name at a place, empty for none.
    """
    made = []
    columns, rows = size
    if part is not None:
        words = {
            "value": f"{abs(part.value):.0f} L* {'lighter' if part.value > 0 else 'darker'}",
            "chroma": f"{abs(part.chroma):.0f} {'stronger' if part.chroma > 0 else 'greyer'} in chroma",
            "sharpness": f"{np.exp(abs(part.sharpness)):.1f} × {'sharper' if part.sharpness > 0 else 'softer'}",
        }
        number = " · ".join(words.values())
        if part.carried_by:
            says = f"{part.carried_by.capitalize()} carries the animal: it is {words[part.carried_by]}."
            made.append(judgement("separation", "Against its surroundings", number, "note", says, number, 0.2))
        else:
            made.append(judgement("separation", "Against its surroundings", number, "look",
                                  "Nothing sets the animal off from its surroundings.",
                                  f"{number} · one of the three must carry it: change the background's value first", 0.8))  # fmt: skip
    told: set[tuple[str, str]] = set()
    for one in strong:
        name, way = _PULL[one.reason]
        at = (one.at[0] / columns, one.at[1] / rows)
        level: Level = "look" if one.strength > 0.8 else "note"
        part_name = named(at)
        if part_name and (one.reason, part_name) in told:
            # The same thing said twice of one part teaches nothing.
            continue
        told.add((one.reason, part_name))
        where = f" in the {part_name}" if part_name else ""
        made.append(judgement(f"pull{len(told) - 1}", "Pull", f"{percent(one.strength)}", level, f"{name}{where} pulls the eye away.",
                              f"{percent(one.strength)} of the focal point's own pull · {way}", 0.6 * min(one.strength, 1.5), at))  # fmt: skip
    for k, touch in enumerate(close):
        first, second = touch.what
        at = (touch.at[0] / canvas_mm[0], touch.at[1] / canvas_mm[1])
        made.append(judgement(f"touch{k}", "Touching", mm_words(max(touch.gap, 0)), "look",
                              f"{first} just touches {second if second.startswith('the ') else second.lower()}.",
                              f"{mm_words(max(touch.gap, 0))} apart · overlap them clearly, or part them", 0.55, at))  # fmt: skip
    for k, spot in enumerate(lone):
        at = (spot.at[0] / columns, spot.at[1] / rows)
        name = colour_words(np.array(spot.lab, np.float32))
        made.append(judgement(f"lone{k}", "Lone colour", f"{100 * spot.share:.1f} %", "note",
                              f"A {name} occurs only once.", f"{100 * spot.share:.1f} % of the canvas · let a weaker "
                              "echo answer it elsewhere", 0.3, at))  # fmt: skip
    return made
